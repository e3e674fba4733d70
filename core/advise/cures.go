package advise

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/units"
)

// Step is one change of a path: put an item in front of part At, put it in place
// of part At, or put it at the end; or measure part At, which changes nothing on it.
type Step struct {
	Do      string `json:"do" enum:"insert,replace,append,measure"`
	At      int    `json:"at"`
	Item    string `json:"kit_id"`
	Setting string `json:"setting"`
}

// Cure is what on the owned bench would make a path safe, or bring it in range.
type Cure struct {
	Steps      []Step   `json:"steps"`
	Detail     string   `json:"detail"`
	HeadroomDB *float64 `json:"headroom_db"` // to the input, or to the nearest rating where there is none
	SpareDB    *float64 `json:"spare_db"`
	total      float64
	scaleW     float64 // of a meter put in: the smallest that holds the power reads best
	left       int     // cautions that stay
}

// Sick is a path with what is keyed into it, and what else is on the bench.
type Sick struct {
	Parts   []path.Part
	Stress  path.Stress
	Carrier units.Hertz
	Limits  *rulebook.Limits // nil where there is no rule book
	Bench   []Candidate      // without what is on the path
}

// cures is how many are proposed, tries how many changed paths are looked at for
// them: all there are on a usual bench, and few enough to answer while one types.
const (
	cures = 3
	tries = 300
)

// Cures searches the bench for what takes every danger away, and every part out
// of range at the carrier: by one change, or by two where one does not do, such as
// two pads, or another meter and another load. The best comes first: fewest
// changes, room to spare before it sees less. A caution that was there before and
// stays hides none. A coupling nobody knows is cured by measuring it. None are given
// for a path with nothing wrong.
func Cures(s Sick) []Cure {
	s.Stress.Frequencies, s.Stress.Strict = []units.Hertz{s.Carrier}, true
	found := s.problems(s.Parts)
	if len(found) == 0 {
		return nil
	}
	// Where not all can be tried, the pads that take most are the likeliest.
	s.Bench = slices.Clone(s.Bench)
	slices.SortStableFunc(s.Bench, func(a, b Candidate) int { return cmp.Compare(b.takes(s.Carrier), a.takes(s.Carrier)) })
	bench := search{Sick: s, begun: found, left: tries}
	begun := bench.change(attempt{parts: s.Parts, found: found})
	if !slices.ContainsFunc(bench.out, func(c Cure) bool { return c.left == 0 }) {
		for _, a := range begun {
			bench.change(a)
		}
	}
	out := distinct(bench.out)
	out = out[:min(cures, len(out))]
	for _, f := range found {
		if f.Code == say.UnknownCouplingCode && f.Element != nil {
			out = append(out, Cure{Steps: []Step{{Do: "measure", At: *f.Element}}, Detail: fmt.Sprintf("measure %s, with and without it: its loss counts from then on", s.Parts[*f.Element].Title())})
		}
	}
	return out
}

// compare puts the better cure first: fewest changes, 3 dB of room, the smallest scale,
// then least loss.
func compare(a, b Cure) int {
	return cmp.Or(cmp.Compare(a.left, b.left), cmp.Compare(len(a.Steps), len(b.Steps)), cmp.Compare(short(a), short(b)), cmp.Compare(a.scaleW, b.scaleW), cmp.Compare(a.total, b.total))
}

// short is 1 where a cure leaves less than 3 dB.
func short(c Cure) int {
	if c.HeadroomDB != nil && *c.HeadroomDB < wantHeadroom {
		return 1
	}
	return 0
}

// distinct keeps the best cure with each set of items, the best first.
func distinct(all []Cure) []Cure {
	slices.SortStableFunc(all, compare)
	seen := map[string]bool{}
	return slices.DeleteFunc(all, func(c Cure) bool {
		var items []string
		for _, s := range c.Steps {
			items = append(items, s.Item)
		}
		slices.Sort(items)
		key := strings.Join(items, " ")
		again := seen[key]
		seen[key] = true
		return again
	})
}

// problems are the dangers of a path and what is out of range at the carrier;
// nil also for one that cannot be put together.
func (s *Sick) problems(parts []path.Part) []path.Finding {
	p, err := path.Assemble(parts)
	if err != nil {
		return nil
	}
	at, err := p.Analyze(s.Stress)
	if err != nil {
		return nil
	}
	return slices.DeleteFunc(at.Problems, func(f path.Finding) bool { return !Curable(f) })
}

// Curable tells whether something about a path is worth a search of the bench.
func Curable(f path.Finding) bool {
	return f.Severity == say.Danger || f.Code == say.OutOfRangeCode || f.Code == say.UnknownCouplingCode
}

// attempt is the path after some changes, with what is still wrong with it.
type attempt struct {
	parts  []path.Part
	steps  []Step
	words  []string
	found  []path.Finding
	scaleW float64
}

// search tries changes until a number of them were looked at.
type search struct {
	Sick
	begun []path.Finding // what was wrong to begin with
	out   []Cure
	left  int
}

// change tries every single change of an attempt. What leaves nothing wrong is a
// cure; what brings it further, without harm to what was put in, is given back.
func (s *search) change(a attempt) []attempt {
	var further []attempt
	for _, c := range s.Bench {
		if slices.ContainsFunc(a.steps, func(st Step) bool { return st.Item == c.Item }) {
			continue
		}
		for _, f := range a.found {
			step, ok := stepFor(a.parts, f, c)
			if !ok || s.left == 0 {
				continue
			}
			s.left--
			next := attempt{scaleW: a.scaleW, parts: Apply(a.parts, step, c.Part), steps: append(slices.Clone(a.steps), step), words: append(slices.Clone(a.words), words(a.parts, step, c))}
			next.found = s.problems(next.parts)
			if !s.counts(&next, step.At, c.Meter) {
				continue
			}
			if c.Meter != nil && c.Meter.ScaleW != nil {
				next.scaleW = *c.Meter.ScaleW
			}
			harmed := slices.ContainsFunc(next.found, func(f path.Finding) bool { return f.Element != nil && *f.Element == step.At })
			switch {
			case s.cured(next.found):
				s.keep(next)
			case !harmed && (step.Do == "insert" || len(next.found) < len(a.found)):
				further = append(further, next)
			}
		}
	}
	return further
}

// counts tells whether what a meter put at a place shows counts there: it reads at the carrier,
// and what arrives does not peg it. What is no meter always does.
func (s *search) counts(a *attempt, place int, m *reading.Meter) bool {
	if m == nil {
		return true
	}
	if m.FromHz != nil && float64(s.Carrier) < *m.FromHz || m.ToHz != nil && float64(s.Carrier) > *m.ToHz {
		return false
	}
	p, err := path.Assemble(a.parts)
	if err != nil || m.ScaleW == nil {
		return err == nil
	}
	at, err := p.Analyze(s.Stress)
	if err != nil {
		return false
	}
	arrives := at.Nodes[place].ArrivingW[0]
	return arrives != nil && *arrives <= *m.ScaleW
}

// cured tells whether what is left of a path's troubles is no danger, was there
// before, and is less.
func (s *search) cured(left []path.Finding) bool {
	return len(left) < len(s.begun) && !slices.ContainsFunc(left, func(f path.Finding) bool {
		return f.Severity == say.Danger || !slices.ContainsFunc(s.begun, func(b path.Finding) bool { return b.Code == f.Code && b.Detail == f.Detail })
	})
}

// stepFor is how a candidate may help against a finding. A pad goes directly in
// front of what is in danger: anywhere before that it would get hotter itself.
func stepFor(parts []path.Part, f path.Finding, c Candidate) (Step, bool) {
	kind := c.Part.Kind()
	switch {
	case f.Code == "unterminated":
		return Step{"append", len(parts), c.Item, c.Setting}, kind.Ends()
	case f.Element == nil:
		return Step{}, false
	case kind == path.Load && parts[*f.Element].Kind() == path.TerminatingMeter && !slices.ContainsFunc(parts, func(p path.Part) bool { return p.Kind() == path.Meter }):
		return Step{}, false // it would take the only reading away
	case replaces(parts[*f.Element].Kind(), kind) && (kind != path.Tap || c.Part.TakesDown()):
		return Step{"replace", *f.Element, c.Item, c.Setting}, true
	}
	return Step{"insert", *f.Element, c.Item, c.Setting}, c.Part.TakesDown() && f.Severity == say.Danger
}

// keep adds a cure.
func (s *search) keep(a attempt) {
	p, err := path.Assemble(a.parts)
	if err != nil {
		return
	}
	at, err := p.Analyze(s.Stress)
	if err != nil {
		return
	}
	c := Cure{Steps: a.steps, scaleW: a.scaleW, left: len(a.found), Detail: strings.Join(a.words, ", then "), HeadroomDB: at.HeadroomDB}
	if c.HeadroomDB == nil {
		c.HeadroomDB = at.TightestDB
	}
	if c.HeadroomDB != nil && *c.HeadroomDB < 0 { // for a short while only: there was no danger, but no room either
		return
	}
	if loss := at.TotalLossDB[0]; loss != nil {
		c.total = *loss
	}
	if s.Limits != nil {
		c.SpareDB = leastSpare(p, s.Carrier, s.Limits)
	}
	s.out = append(s.out, c)
}

// takes is what a pad takes from a carrier in dB, and without bound for what is no
// pad: there are few of those, and each is worth a try.
func (c Candidate) takes(f units.Hertz) float64 {
	if !c.Part.TakesDown() {
		return math.Inf(1)
	}
	loss, _ := c.Part.LossAt(f)
	return float64(loss)
}

// replaces tells whether an item of one kind does the work of another.
func replaces(kind, by path.Kind) bool {
	closed := []path.Kind{path.Load, path.TerminatingMeter}
	return kind == by && kind != path.Cable && kind != path.Attenuator && kind != path.Analyzer || slices.Contains(closed, kind) && by == path.Load ||
		kind == path.Attenuator && (by == path.Attenuator || by == path.Tap)
}

// Apply is the parts after a step.
func Apply(parts []path.Part, s Step, with path.Part) []path.Part {
	switch s.Do {
	case "replace":
		out := slices.Clone(parts)
		out[s.At] = with
		return out
	case "insert":
		return slices.Insert(slices.Clone(parts), s.At, with)
	case "measure":
		return slices.Clone(parts)
	}
	return append(slices.Clone(parts), with)
}

func words(parts []path.Part, step Step, with Candidate) string {
	switch step.Do {
	case "append":
		return fmt.Sprintf("%s at the end", with.Name)
	case "replace":
		return fmt.Sprintf("%s in place of %s", with.Name, parts[step.At].Title())
	}
	return fmt.Sprintf("%s in front of %s", with.Name, parts[step.At].Title())
}

// leastSpare is the least room under the limit at the multiples; nil without one.
func leastSpare(p *path.Path, carrier units.Hertz, limits *rulebook.Limits) *float64 {
	var c Choice
	(&Question{Carrier: carrier, Limits: limits}).see(&c, p)
	return c.SpareDB
}
