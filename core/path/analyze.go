package path

import (
	"fmt"
	"math"

	"talloak/core/problem"
	"talloak/core/say"
	"talloak/core/units"
)

// Stress is what is sent into a path: the mean power heats, the peak envelope
// power is what an analyzer's input must survive. Each frequency is taken as a
// carrier. Any reserve is the caller's to add. Strict takes a loss that is not
// known as 0 dB when it comes to damage: what then exceeds a rating is a danger; and
// it tells a coupling nobody measured from a frequency out of range.
type Stress struct {
	SourceW     float64
	SourcePEPW  float64
	Frequencies []units.Hertz
	Strict      bool
}

// reserve is kept over a claimed power when a path is looked at: radios put out
// more than they claim (common practice, no source).
const reserve units.DB = 1

// Unclaimed is what is taken for the power of a radio of which nothing is claimed, in W:
// more than a handheld puts out (common practice, no source).
const Unclaimed units.Watts = 10

// HighestKeyed is the highest power that can be keyed, for Stress: the claim
// with its reserve of 1 dB, or what was measured when that is higher.
func HighestKeyed(claimed, measured units.Watts) units.Watts {
	return max(claimed*units.Watts(reserve.Ratio()), measured)
}

// Node is the level before and behind one element, per frequency; nil where a
// loss on the way is not known. Behind the last element there is nothing at
// all: its LeavingDBm is nil as a whole.
type Node struct {
	Element     int        `json:"element"`
	ArrivingDBm []*float64 `json:"arriving_dbm"`
	ArrivingW   []*float64 `json:"arriving_w"`
	LeavingDBm  []*float64 `json:"leaving_dbm"`
}

// SelfMadeProduct is a harmonic made by the analyzer itself, at the connector.
type SelfMadeProduct struct {
	CarrierHz      float64 `json:"carrier_hz"`
	Order          int     `json:"order"`
	FrequencyHz    float64 `json:"frequency_hz"`
	AtConnectorDBm float64 `json:"at_connector_dbm"`
}

// Finding is something about a path one must know before keying. Element is
// nil where it is about the path as a whole.
type Finding struct {
	Severity say.Severity `json:"severity" enum:"danger,caution"`
	Element  *int         `json:"element"`
	say.Said
}

// Analysis is the staircase of levels along a path and what is wrong with it.
// Slices run along FrequenciesHz; nil entries are figures that cannot be had.
// LowestVisible is nil as a whole without an analyzer.
type Analysis struct {
	FrequenciesHz   []float64         `json:"frequencies_hz"`
	TotalLossDB     []*float64        `json:"total_loss_db"`
	LossUncertainty []*float64        `json:"loss_standard_uncertainty_db"`
	Nodes           []Node            `json:"nodes"`
	LowestVisible   []*float64        `json:"lowest_visible_dbm"`
	SelfMade        []SelfMadeProduct `json:"self_made"`
	HeadroomDB      *float64          `json:"headroom_db"`   // to what the analyzer's input survives; negative when over it
	TightestDB      *float64          `json:"tightest_db"`   // to the nearest rating of any other part
	KeyAtMostS      *float64          `json:"key_at_most_s"` // by the short-time rating of what is over its continuous one
	Safe            bool              `json:"safe"`
	Problems        []Finding         `json:"problems"`
}

// nearDB is how close to a rating a level may come without a caution.
const nearDB = 3

// visibleAboveNoise is how far above the displayed noise a line must stand to
// be told from it (common practice, no source).
const visibleAboveNoise = 6

// LowestVisible is the lowest level at the connector that shows at f on the
// analyzer at the end: its noise floor + loss + 6 dB; false without one, or where
// floor or loss are not known.
func (p *Path) LowestVisible(f units.Hertz) (units.DBm, bool) {
	a := p.EndAnalyzer()
	loss, ok := p.LossAt(f)
	if a == nil || !ok {
		return 0, false
	}
	r := a.at(f)
	if r == nil || r.NoiseFloorDBm == nil {
		return 0, false
	}
	return units.DBm(*r.NoiseFloorDBm + float64(loss) + visibleAboveNoise), true
}

// Analyze follows the stress through the path. It refuses powers that are not
// above 0, a peak below the mean, no frequencies or ones not above 0.
func (p *Path) Analyze(s Stress) (Analysis, error) {
	if err := s.Check(); err != nil {
		return Analysis{}, err
	}
	n := len(s.Frequencies)
	out := Analysis{
		FrequenciesHz:   make([]float64, n),
		TotalLossDB:     make([]*float64, n),
		LossUncertainty: make([]*float64, n),
		Nodes:           make([]Node, len(p.parts)),
		SelfMade:        []SelfMadeProduct{},
		Problems:        []Finding{},
	}
	w := watch{out: &out, seen: map[string]int{}, bound: make([][]float64, len(p.parts))}
	for i := range out.Nodes {
		out.Nodes[i] = Node{i, make([]*float64, n), make([]*float64, n), nil}
		if i < len(out.Nodes)-1 {
			out.Nodes[i].LeavingDBm = make([]*float64, n)
		}
	}
	if p.EndAnalyzer() != nil {
		out.LowestVisible = make([]*float64, n)
	}
	for k, f := range s.Frequencies {
		out.FrequenciesHz[k] = float64(f)
		p.follow(s, f, k, &w)
		if level, ok := p.LowestVisible(f); ok {
			out.LowestVisible[k] = ptr(float64(level))
		}
		for order := 2; order <= 3; order++ {
			if level, ok := p.SelfMade(units.Watts(s.SourceW).DBm(), f, order); ok {
				out.SelfMade = append(out.SelfMade, SelfMadeProduct{float64(f), order, float64(f) * float64(order), float64(level)})
			}
		}
	}
	for i := range p.parts {
		p.judge(&w, s, i)
	}
	if p.end() == nil {
		var last *int
		if len(p.parts) > 0 {
			last = ptr(len(p.parts) - 1)
		}
		w.add(say.Danger, last, say.Unterminated())
	}
	out.Safe = !w.danger
	return out, nil
}

// Check says what is wrong with the stress, in the names of the contract.
func (s Stress) Check() error {
	var bad problem.List
	if !(s.SourceW > 0) {
		bad.Add("source_w", "give a power above 0 W")
	} else if math.IsInf(s.SourceW*1000, 0) {
		bad.Add("source_w", "too large")
	} else if math.IsInf(s.SourcePEPW*1000, 0) {
		bad.Add("source_pep_w", "too large")
	} else if s.SourcePEPW < s.SourceW {
		bad.Add("source_pep_w", "the peak envelope power cannot be below the mean power")
	}
	if len(s.Frequencies) == 0 {
		bad.Add("frequencies_hz", "give at least one frequency")
	}
	for i, f := range s.Frequencies {
		if !(f > 0) {
			bad.Add(fmt.Sprintf("frequencies_hz[%d]", i), "give more than 0 Hz")
		}
	}
	return bad.Err()
}

// follow fills column k of the nodes and the total loss. A run measured in one
// piece has its printed levels inside and the measured one behind it.
func (p *Path) follow(s Stress, f units.Hertz, k int, w *watch) {
	var loss, entered, bound units.DB // bound counts only what is known
	known, enteredKnown := true, true
	source := units.Watts(s.SourceW).DBm()
	for i := range p.parts {
		node := &w.out.Nodes[i]
		w.bound[i] = append(w.bound[i], s.SourceW/bound.Ratio())
		if known {
			node.ArrivingDBm[k] = ptr(float64(source - units.DBm(loss)))
			node.ArrivingW[k] = ptr(s.SourceW / loss.Ratio())
		}
		if i >= p.passed() {
			break
		}
		r := p.runAt(i, f)
		if r != nil && i == r.first {
			entered, enteredKnown = loss, known
		}
		if covers := p.parts[i].curve.covers(f); covers {
			loss, bound = loss+p.parts[i].curve.at(f), bound+p.parts[i].curve.at(f)
		} else {
			known = false
			if arm, _ := p.parts[i].arm(); arm.unknown && arm.leastDB != nil && p.parts[i].curve.made.Contains(f) {
				bound += units.DB(*arm.leastDB)
			}
		}
		if r != nil && i == r.last {
			measured, _ := r.m.at(f)
			loss, known = entered+measured, enteredKnown && p.madeFor(r, f)
			if known {
				bound = loss
			}
		}
		if known && i < len(p.parts)-1 {
			node.LeavingDBm[k] = ptr(float64(source - units.DBm(loss)))
		}
	}
	if known {
		w.out.TotalLossDB[k] = ptr(float64(loss))
		w.out.LossUncertainty[k] = ptr(float64(p.LossUncertainty(f)))
	}
}

// watch collects findings: one per element and code, the worst frequency first.
type watch struct {
	out    *Analysis
	seen   map[string]int
	bound  [][]float64 // per element and frequency: the most that can arrive, in W
	danger bool
}

func (w *watch) add(sev say.Severity, element *int, s say.Said) {
	key := string(s.Code)
	if element != nil {
		key = fmt.Sprintf("%d %s", *element, s.Code)
	}
	if _, twice := w.seen[key]; twice {
		return
	}
	w.seen[key] = len(w.out.Problems)
	w.danger = w.danger || sev == say.Danger
	w.out.Problems = append(w.out.Problems, Finding{sev, element, s})
}

// judge looks at element i over all frequencies.
func (p *Path) judge(w *watch, s Stress, i int) {
	e := &p.parts[i]
	arm, isTap := e.arm()
	at := ptr(i)
	hottest := math.Inf(-1)
	for k, f := range s.Frequencies {
		switch r := p.runAt(i, f); {
		case e.couplingUnknown() && r == nil && s.Strict:
			w.add(say.Caution, at, say.UnknownCoupling(e.title, arm.leastDB))
		case r != nil && p.parts[i].curve.made.Contains(f):
		case !p.parts[i].curve.covers(f) || e.input() != nil && e.input().at(f) == nil:
			w.add(say.Caution, at, say.OutOfRange(e.title, f))
		}
		if arriving := w.out.Nodes[i].ArrivingW[k]; arriving != nil {
			hottest = max(hottest, *arriving)
		}
	}
	rating := e.rating()
	if s.Strict {
		p.judgeUnknown(w, s, i)
	}
	switch {
	case e.input() != nil:
		p.judgeInput(w, s, i)
		return
	case e.Kind() == Cable || e.Kind() == Adapter:
	case rating == nil || isTap && arm.mainLoadW == nil:
		w.add(say.Caution, at, say.NoRating(e.title))
	}
	if rating == nil || math.IsInf(hottest, -1) {
		return
	}
	if room := float64(units.RatioDB(*rating / hottest)); w.out.TightestDB == nil || room < *w.out.TightestDB {
		w.out.TightestDB = &room
	}
	switch {
	case hottest > *rating && e.ratings.shortMaxW != nil && rating == e.ratings.maxW && hottest <= *e.ratings.shortMaxW:
		if w.out.KeyAtMostS == nil || *e.ratings.shortS < *w.out.KeyAtMostS {
			w.out.KeyAtMostS = e.ratings.shortS
		}
		w.add(say.Caution, at, say.ShortTime(e.title, units.Watts(*e.ratings.shortMaxW), *e.ratings.shortS, units.Watts(*rating), units.Watts(hottest)))
	case hottest > *rating:
		w.add(say.Danger, at, say.OverRating(e.title, units.Watts(*rating), units.Watts(hottest)))
	case hottest >= *rating/units.DB(nearDB).Ratio():
		w.add(say.Caution, at, say.NearRating(e.title, units.Watts(*rating), units.Watts(hottest), nearDB))
	}
}

// judgeUnknown holds the most that can arrive against the rating where what
// does arrive is not known.
func (p *Path) judgeUnknown(w *watch, s Stress, i int) {
	e := &p.parts[i]
	for k, f := range s.Frequencies {
		if w.out.Nodes[i].ArrivingW[k] != nil {
			continue
		}
		most := w.bound[i][k]
		if e.input() != nil {
			limit := e.input().safe(f)
			peak := units.Watts(most * s.SourcePEPW / s.SourceW)
			if limit == nil || float64(peak.DBm()) > *limit {
				w.add(say.Danger, ptr(i), say.UnknownInput(e.title, f, peak))
			}
		} else if r := e.rating(); r != nil && most > *r {
			w.add(say.Danger, ptr(i), say.UnknownLevel(e.title, f, units.Watts(most)))
		}
	}
}

// madeFor tells whether all parts of a run are made for f.
func (p *Path) madeFor(r *run, f units.Hertz) bool {
	for k := r.first; k <= r.last; k++ {
		if !p.parts[k].curve.made.Contains(f) {
			return false
		}
	}
	return true
}

// judgeInput holds the peak level at the analyzer's input against what it
// survives, at the frequency where it comes nearest.
func (p *Path) judgeInput(w *watch, s Stress, i int) {
	e := &p.parts[i]
	peak := float64(units.RatioDB(s.SourcePEPW / s.SourceW))
	excess, level, limit := math.Inf(-1), 0.0, 0.0
	for k, f := range s.Frequencies {
		arriving, safe := w.out.Nodes[i].ArrivingDBm[k], e.input().safe(f)
		if safe == nil {
			w.add(say.Caution, ptr(i), say.NoInputRating(e.title))
		} else if arriving != nil && *arriving+peak-*safe > excess {
			excess, level, limit = *arriving+peak-*safe, *arriving+peak, *safe
		}
	}
	if !math.IsInf(excess, -1) {
		w.out.HeadroomDB = ptr(-excess)
	}
	switch {
	case excess > 0:
		w.add(say.Danger, ptr(i), say.OverInput(e.title, units.DBm(limit), units.DBm(level)))
	case excess >= -nearDB:
		w.add(say.Caution, ptr(i), say.NearInput(e.title, units.DBm(limit), units.DBm(level), nearDB))
	}
}

// Lids is what each element takes at f, in dBm; nil where it has no rating.
func (p *Path) Lids(f units.Hertz) []*float64 {
	out := make([]*float64, len(p.parts))
	for i := range p.parts {
		e := &p.parts[i]
		if e.input() != nil {
			out[i] = e.input().safe(f)
		} else if r := e.rating(); r != nil {
			out[i] = ptr(float64(units.Watts(*r).DBm()))
		}
	}
	return out
}

func ptr[T any](v T) *T { return &v }
