package path

import (
	"fmt"
	"math"
	"slices"

	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/span"
	"talloak/core/units"
)

// Path is a checked path. The zero value is a direct connection: 0 dB at every
// frequency. A Path is safe for concurrent use.
type Path struct {
	parts []Part
	runs  []run
}

// Compile checks the elements, from the antenna connector on. Errors are on
// "elements[i]...". A path need not end in an instrument (Analyze says so), but
// nothing may follow one.
func Compile(elements []Element) (*Path, error) {
	var bad problem.List
	parts := make([]Part, len(elements))
	for i, e := range elements {
		var err error
		parts[i], err = Prepare(e)
		bad.AddErr(fmt.Sprintf("elements[%d]", i), err)
	}
	p, err := Assemble(parts)
	bad.AddErr("", err)
	return p, bad.Err()
}

// Assemble is Compile for parts that were checked before.
func Assemble(parts []Part) (*Path, error) {
	var bad problem.List
	p := &Path{parts: slices.Clone(parts)}
	for i := range parts {
		if kind := parts[i].Kind(); kind.Ends() && i < len(parts)-1 {
			bad.Add(fmt.Sprintf("elements[%d].kind", i), "more follows, but nothing can lie behind the %s that ends the path", kind)
		}
	}
	p.findRuns(&bad)
	return p, bad.Err()
}

// FlatLoss is a path of one constant loss at every frequency.
func FlatLoss(db units.DB) *Path {
	flat := float64(db)
	p, _ := Compile([]Element{{Kind: Attenuator, Loss: &Loss{FlatDB: &flat}}})
	return p
}

// end is the instrument or load the path ends in, or nil.
func (p *Path) end() *Part {
	if n := len(p.parts); n > 0 && p.parts[n-1].Kind().Ends() {
		return &p.parts[n-1]
	}
	return nil
}

// passed is how many elements the signal passes on its way to the end.
func (p *Path) passed() int {
	if p.end() != nil {
		return len(p.parts) - 1
	}
	return len(p.parts)
}

// EndAnalyzer is the input of the analyzer the path ends in, or nil.
func (p *Path) EndAnalyzer() *Input {
	if e := p.end(); e != nil {
		return e.input()
	}
	return nil
}

// LossAt is the loss from the connector to the instrument's input at f, without
// the instrument's own input attenuation; false where an element has no answer.
func (p *Path) LossAt(f units.Hertz) (units.DB, bool) {
	var db units.DB
	for i := 0; i < p.passed(); i++ {
		if r := p.runAt(i, f); r != nil {
			if !p.madeFor(r, f) {
				return 0, false
			}
			loss, _ := r.m.at(f)
			db, i = db+loss, r.last
			continue
		}
		if !p.parts[i].curve.covers(f) {
			return 0, false
		}
		db += p.parts[i].curve.at(f)
	}
	return db, true
}

// Taken is what a part of a path takes at a frequency, or parts that were measured in one piece.
type Taken struct {
	Name     string   `json:"name"`
	LossDB   *float64 `json:"loss_db"` // nil where it has no answer there
	Measured bool     `json:"measured,omitempty"`
}

// Takes is LossAt part by part, from the connector on.
func (p *Path) Takes(f units.Hertz) []Taken {
	out := []Taken{}
	for i := 0; i < p.passed(); i++ {
		t := Taken{Name: p.parts[i].Title()}
		var loss units.DB
		known := false
		if r := p.runAt(i, f); r != nil {
			for k := i + 1; k <= r.last; k++ {
				t.Name += ", " + p.parts[k].Title()
			}
			loss, _ = r.m.at(f)
			known, t.Measured, i = p.madeFor(r, f), true, r.last
		} else {
			loss, known = p.parts[i].LossAt(f)
		}
		if known {
			t.LossDB = ptr(float64(loss))
		}
		out = append(out, t)
	}
	return out
}

// Domains are the stretches of frequencies in which LossAt has an answer, rising
// and apart; none where the elements have none in common.
func (p *Path) Domains() span.Set {
	out := span.Set{span.Everywhere}
	for i := 0; i < p.passed(); i++ {
		if at := slices.IndexFunc(p.runs, func(r run) bool { return r.first == i }); at >= 0 {
			r := p.runs[at]
			known, made := span.Everywhere, span.Everywhere
			for k := r.first; k <= r.last; k++ {
				known = known.Meet(p.parts[k].curve.known())
				made = made.Meet(p.parts[k].curve.made)
			}
			out = out.Meet(joined(known, r.m.Span()))
			out = out.Meet(span.Set{made})
			i = r.last
			continue
		}
		out = out.Meet(span.Set{p.parts[i].curve.known()})
	}
	return out
}

// FillLoss writes the loss at start + i step into out. Frequencies outside
// Domains get a number of no meaning: leave them out beforehand.
func (p *Path) FillLoss(start, step units.Hertz, out []float64) {
	clear(out)
	for i := range p.passed() {
		p.parts[i].curve.fill(float64(start), float64(step), out)
	}
	for _, r := range p.runs {
		span := r.m.Span()
		for i := range out {
			f := start + units.Hertz(i)*step
			if !span.Contains(f) {
				continue
			}
			loss, _ := r.m.at(f)
			for k := r.first; k <= r.last; k++ {
				loss -= p.parts[k].curve.at(f)
			}
			out[i] += float64(loss)
		}
	}
}

// MostLoss is no less than the loss anywhere between two frequencies of one domain, in dB;
// unbounded where a part of it was measured.
func (p *Path) MostLoss(from, to units.Hertz) units.DB {
	if len(p.runs) > 0 {
		return units.DB(math.Inf(1))
	}
	var db units.DB
	for i := range p.passed() {
		db += p.parts[i].curve.most(from, to)
	}
	return db
}

// Sample is n frequencies between two ends, rising at equal ratios, with the
// points and ends of everything that was measured, where the loss is known: what
// a file or a picture of the path is made of.
func (p *Path) Sample(from, to units.Hertz, n int) []units.Hertz {
	var all []units.Hertz
	for _, d := range p.Domains().Meet(span.Set{span.Of(from, to)}) {
		ratio := math.Pow(float64(d.Hi/d.Lo), 1/float64(max(1, n-1)))
		for i := range n {
			all = append(all, min(d.Hi, d.Lo*units.Hertz(math.Pow(ratio, float64(i)))))
		}
		all = append(all, d.Hi)
	}
	for _, r := range p.runs {
		span := r.m.Span()
		all = append(all, span.Lo, span.Hi)
		for _, point := range r.m.Table {
			all = append(all, units.Hertz(point.FrequencyHz))
		}
	}
	slices.Sort(all)
	return slices.DeleteFunc(slices.Compact(all), func(f units.Hertz) bool {
		_, known := p.LossAt(f)
		return !known || f < from || f > to
	})
}

// LossUncertainty is the standard uncertainty of LossAt at f: tolerances as
// rectangular half-widths, certificates by their k, and mismatch for each
// neighbouring pair that both state their SWR. What was measured in one piece has
// the uncertainty of that measurement instead.
func (p *Path) LossUncertainty(f units.Hertz) units.DB {
	sum := 0.0
	var before *run
	for i := range p.parts {
		r := p.runAt(i, f)
		switch {
		case r != nil && i == r.last:
			_, u := r.m.at(f)
			sum += float64(u * u)
		case r == nil && i < p.passed():
			sum += p.parts[i].spread
		}
		if i > 0 && (r == nil || r != before) {
			if a, b := p.parts[i-1].curve.swr(f), p.parts[i].curve.swr(f); a != nil && b != nil {
				u := float64(rf.MismatchUncertainty(*a, *b))
				sum += u * u
			}
		}
		before = r
	}
	return units.DB(math.Sqrt(sum))
}

// TypicalTolerances names the elements whose tolerance at f is only that of their
// kind.
func (p *Path) TypicalTolerances(f units.Hertz) []string {
	var out []string
	for i, e := range p.parts {
		if e.typical && i < p.passed() && p.runAt(i, f) == nil && !slices.Contains(out, e.title) {
			out = append(out, e.title)
		}
	}
	return out
}

// WorstLossUncertainty is the largest LossUncertainty at the multiples of a
// carrier, up to the given one, that have a loss; that of the carrier if none has.
func (p *Path) WorstLossUncertainty(carrier units.Hertz, upTo int) units.DB {
	worst := p.LossUncertainty(carrier)
	for n := 2; n <= upTo; n++ {
		if _, ok := p.LossAt(units.Hertz(n) * carrier); ok {
			worst = max(worst, p.LossUncertainty(units.Hertz(n)*carrier))
		}
	}
	return worst
}

// FirstSWR is the SWR at f of the first element that states one: what the radio
// looks into; nil where none does.
func (p *Path) FirstSWR(f units.Hertz) *float64 {
	for i := range p.parts {
		if swr := p.parts[i].curve.swr(f); swr != nil {
			return swr
		}
	}
	return nil
}

// RelativeOnly is a path with a coupling nobody measured, taken as 0 dB, for levels
// below the carrier: within is the half-width, in dB, by which its owner vouches
// that the coupling at two frequencies differs. False for any other path, and for
// one whose coupling nobody vouches for.
func (p *Path) RelativeOnly() (flat *Path, within units.DB, ok bool) {
	flat = &Path{parts: slices.Clone(p.parts), runs: p.runs}
	for i, e := range p.parts {
		if !e.couplingUnknown() || slices.ContainsFunc(p.runs, func(r run) bool { return i >= r.first && i <= r.last }) {
			continue
		}
		arm, _ := e.arm()
		if arm.flatWithinDB == nil {
			return nil, 0, false
		}
		flat.parts[i].curve.unknown = false
		within, ok = units.DB(math.Hypot(float64(within), *arm.flatWithinDB)), true
	}
	return flat, within, ok
}

// Reach is where the end of the path works: the ranges of an analyzer, or the
// range of a load or meter. A path without an end reaches everything.
func (p *Path) Reach() span.Set {
	e := p.end()
	switch {
	case e == nil:
		return span.Set{span.Everywhere}
	case e.input() == nil:
		return span.Set{e.curve.known()}
	}
	out := make(span.Set, len(e.input().Ranges))
	for i, r := range e.input().Ranges {
		out[i] = span.Of(units.Hertz(r.FromHz), units.Hertz(r.ToHz))
	}
	return out
}

// SafeInput is what the analyzer at the end survives at f, in dBm; false where
// there is none or it does not say.
func (p *Path) SafeInput(f units.Hertz) (units.DBm, bool) {
	if a := p.EndAnalyzer(); a != nil {
		if limit := a.safe(f); limit != nil {
			return units.DBm(*limit), true
		}
	}
	return 0, false
}

// SelfMade is the level of the harmonic of the given order (2 or 3) that the
// analyzer itself makes of a carrier, referred to the connector. With mixer
// level Lm = input - input attenuation, the second harmonic stands at
// -(SHI - Lm) dBc and the third at -2 (TOI - Lm) - 20 log10 3 dBc (a two-tone
// product is 9.54 dB stronger than the harmonic; the usual power series).
// False where the analyzer's intercept or a loss is not known.
func (p *Path) SelfMade(carrier units.DBm, f units.Hertz, order int) (units.DBm, bool) {
	a := p.EndAnalyzer()
	if a == nil || order > 3 {
		return 0, false
	}
	return p.selfMade(carrier, f, order, a.SHIDBm, a.TOIDBm)
}

// What a poor input makes itself: second- and third-order intercepts at its mixer, in dBm
// (common practice, no source).
const poorSHI, poorTOI = 20.0, 0.0

// PoorSelfMade is SelfMade of an input of which nothing is known but that it is no worse than a
// poor one; above the third order as of the third.
func (p *Path) PoorSelfMade(carrier units.DBm, f units.Hertz, order int) (units.DBm, bool) {
	shi, toi := poorSHI, poorTOI
	return p.selfMade(carrier, f, order, &shi, &toi)
}

// Intercept tells whether the analyzer at the end states the intercept by which it makes
// harmonics of an order; ends whether there is an analyzer.
func (p *Path) Intercept(order int) (stated, ends bool) {
	a := p.EndAnalyzer()
	switch {
	case a == nil:
		return false, false
	case order == 2:
		return a.SHIDBm != nil, true
	}
	return a.TOIDBm != nil, true
}

// BeforeMixer is what takes a level down before the analyzer's mixer at f: loss and
// input attenuation; false where the loss is not known.
func (p *Path) BeforeMixer(f units.Hertz) (units.DB, bool) {
	loss, ok := p.LossAt(f)
	if a := p.EndAnalyzer(); a != nil && a.InputAttenuationDB != nil {
		loss += units.DB(*a.InputAttenuationDB)
	}
	return loss, ok
}

// NoiseFloor is what the analyzer at the end shows at f of noise alone, without an offset;
// false where it does not say.
func (p *Path) NoiseFloor(f units.Hertz) (units.DBm, bool) {
	if a := p.EndAnalyzer(); a != nil {
		if r := a.at(f); r != nil && r.NoiseFloorDBm != nil {
			return units.DBm(*r.NoiseFloorDBm), true
		}
	}
	return 0, false
}

func (p *Path) selfMade(carrier units.DBm, f units.Hertz, order int, shi, toi *float64) (units.DBm, bool) {
	a := p.EndAnalyzer()
	if a == nil {
		return 0, false
	}
	atCarrier, ok1 := p.LossAt(f)
	atProduct, ok2 := p.LossAt(units.Hertz(order) * f)
	if !ok1 || !ok2 {
		return 0, false
	}
	input := carrier - units.DBm(atCarrier)
	mixer := input
	if a.InputAttenuationDB != nil {
		mixer -= units.DBm(*a.InputAttenuationDB)
	}
	var dbc units.DBm
	switch {
	case order == 2 && shi != nil:
		dbc = rf.OwnProduct(mixer, units.DBm(*shi), order)
	case order > 2 && toi != nil:
		dbc = rf.OwnProduct(mixer, units.DBm(*toi), order)
	default:
		return 0, false
	}
	return input + dbc + units.DBm(atProduct), true
}
