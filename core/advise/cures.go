package advise

import (
	"cmp"
	"fmt"
	"slices"

	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Step is one change of a path: put an item in front of part At, put it in place
// of part At, or put it at the end.
type Step struct {
	Do      string `json:"do" enum:"insert,replace,append"`
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
}

// Sick is a path with what is keyed into it, and what else is on the bench.
type Sick struct {
	Parts   []path.Part
	Stress  path.Stress
	Carrier units.Hertz
	Limits  *rulebook.Limits // nil where there is no rule book
	Bench   []Candidate      // without what is on the path
}

// cures is how many are proposed.
const cures = 3

// Cures searches the bench for what takes every danger away, and every part out
// of range at the carrier: one item first, two pads where one does not do. The
// best comes first: fewest changes, room to spare before it sees less. None are
// given for a path with nothing wrong.
func Cures(s Sick) []Cure {
	s.Stress.Frequencies, s.Stress.Strict = []units.Hertz{s.Carrier}, true
	found := s.problems(s.Parts)
	if len(found) == 0 {
		return nil
	}
	out := s.single(found)
	if len(out) == 0 {
		out = s.pairs(found)
	}
	slices.SortStableFunc(out, func(a, b Cure) int {
		return cmp.Or(cmp.Compare(len(a.Steps), len(b.Steps)), cmp.Compare(short(a), short(b)), cmp.Compare(a.total, b.total))
	})
	return distinct(out)[:min(cures, len(distinct(out)))]
}

// short is 1 where a cure leaves less than 3 dB.
func short(c Cure) int {
	if c.HeadroomDB != nil && *c.HeadroomDB < wantHeadroom {
		return 1
	}
	return 0
}

// distinct keeps the best cure with each item.
func distinct(all []Cure) []Cure {
	seen := map[string]bool{}
	return slices.DeleteFunc(slices.Clone(all), func(c Cure) bool {
		key := ""
		for _, s := range c.Steps {
			key += s.Item + " "
		}
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
	return f.Severity == path.Danger || f.Code == "out-of-range" || f.Code == "unknown-coupling"
}

func (s *Sick) single(found []path.Finding) []Cure {
	var out []Cure
	for _, c := range s.Bench {
		kind := c.Part.Element().Kind
		for _, f := range found {
			switch {
			case f.Code == "unterminated":
				if kind.Ends() {
					out = s.keep(out, Step{"append", len(s.Parts), c.Item, c.Setting}, c)
				}
			case f.Element == nil:
			case replaces(s.Parts[*f.Element].Element().Kind, kind) && (kind != path.Tap || takesDown(c.Part)):
				out = s.keep(out, Step{"replace", *f.Element, c.Item, c.Setting}, c)
			case takesDown(c.Part) && f.Severity == path.Danger:
				for at := *f.Element; at >= 0; at-- {
					out = s.keep(out, Step{"insert", at, c.Item, c.Setting}, c)
				}
			}
		}
	}
	return out
}

// takesDown tells whether a part lowers what goes on: a pad, or a tap whose
// coupling is known and whose main arm has a load.
func takesDown(p path.Part) bool {
	e := p.Element()
	return e.Kind == path.Attenuator || e.Kind == path.Tap && !e.CouplingUnknown && e.MainLoadW != nil
}

// replaces tells whether an item of one kind does the work of another.
func replaces(kind, by path.Kind) bool {
	closed := []path.Kind{path.Load, path.TerminatingMeter}
	return kind == by && kind != path.Cable && kind != path.Attenuator && kind != path.Analyzer || slices.Contains(closed, kind) && by == path.Load ||
		kind == path.Attenuator && (by == path.Attenuator || by == path.Tap)
}

// pairs puts two pads in, the first of them anywhere before the danger.
func (s *Sick) pairs(found []path.Finding) []Cure {
	var out []Cure
	at := slices.IndexFunc(found, func(f path.Finding) bool { return f.Severity == path.Danger && f.Element != nil })
	if at < 0 {
		return nil
	}
	last := *found[at].Element
	for _, a := range s.Bench {
		for _, b := range s.Bench {
			if a.Item == b.Item || a.Part.Element().Kind != path.Attenuator || b.Part.Element().Kind != path.Attenuator {
				continue
			}
			for first := 0; first <= last; first++ {
				out = s.keep(out, Step{"insert", last, b.Item, b.Setting}, b, both{Step{"insert", first, a.Item, a.Setting}, a})
			}
		}
	}
	return out
}

type both struct {
	step Step
	with Candidate
}

// keep adds the cure when it leaves nothing wrong.
func (s *Sick) keep(out []Cure, step Step, with Candidate, more ...both) []Cure {
	parts := Apply(s.Parts, step, with.Part)
	c := Cure{Steps: []Step{step}, Detail: s.words(step, with)}
	for _, b := range more {
		parts = Apply(parts, b.step, b.with.Part)
		c.Steps = append(c.Steps, b.step)
		c.Detail += ", and " + s.words(b.step, b.with)
	}
	p, err := path.Assemble(parts)
	if err != nil || len(s.problems(parts)) > 0 {
		return out
	}
	at, err := p.Analyze(s.Stress)
	if err != nil {
		return out
	}
	if c.HeadroomDB = at.HeadroomDB; c.HeadroomDB == nil {
		c.HeadroomDB = at.TightestDB
	}
	if loss := at.TotalLossDB[0]; loss != nil {
		c.total = *loss
	}
	if s.Limits != nil {
		c.SpareDB = leastSpare(p, s.Carrier, s.Limits)
	}
	return append(out, c)
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
	}
	return append(slices.Clone(parts), with)
}

func (s *Sick) words(step Step, with Candidate) string {
	switch step.Do {
	case "append":
		return fmt.Sprintf("%s at the end", with.Name)
	case "replace":
		return fmt.Sprintf("%s in place of %s", with.Name, s.Parts[step.At].Element().Title())
	}
	return fmt.Sprintf("%s in front of %s", with.Name, s.Parts[step.At].Element().Title())
}

// leastSpare is the least room under the limit at the multiples; nil without one.
func leastSpare(p *path.Path, carrier units.Hertz, limits *rulebook.Limits) *float64 {
	var c Choice
	(&Question{Carrier: carrier, Limits: limits}).see(&c, p)
	return c.SpareDB
}
