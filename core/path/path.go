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
	elements []Element
	curves   []curve
	runs     []run
}

// Part is a checked element, ready to be put into paths.
type Part struct {
	element Element
	curve   curve
}

// Prepare checks an element by itself. Errors are on the fields of the element.
func Prepare(e Element) (Part, error) {
	c, err := e.compile()
	return Part{e, c}, err
}

// Element is the element the part was made of.
func (p Part) Element() Element { return p.element }

// Known is where the part's own loss has an answer; Hi is below Lo where it has none.
func (p Part) Known() span.Span { return p.curve.known() }

// LossAt is the part's own loss at f, printed rather than measured; false
// outside Known.
func (p Part) LossAt(f units.Hertz) (units.DB, bool) {
	return p.curve.at(f), p.curve.covers(f)
}

// MeasuredAt is the loss at f of the run that ends with the part, as it was measured in one
// piece, with its standard uncertainty; false where there is none that counts at f.
func (p Part) MeasuredAt(f units.Hertz) (loss, u units.DB, ok bool) {
	m := p.curve.measured
	if m == nil || !m.Span().Contains(f) {
		return 0, 0, false
	}
	loss, u = m.at(f)
	return loss, u, true
}

// SWRAt is the part's SWR at f, or nil where it is not stated.
func (p Part) SWRAt(f units.Hertz) *float64 { return p.curve.swr(f) }

// Varies tells whether loss or SWR change with frequency.
func (p Part) Varies() bool {
	return len(p.curve.table) > 1 || p.curve.lengthM > 0 || p.curve.oneport != nil
}

// Drawn is the stretch in which a picture of the part has something to show.
func (p Part) Drawn() span.Span {
	if n := p.curve.oneport; n != nil {
		return span.Of(n.Frequency[0], n.Frequency[len(n.Frequency)-1])
	}
	return p.curve.known()
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
	p := &Path{elements: make([]Element, len(parts)), curves: make([]curve, len(parts))}
	for i, part := range parts {
		p.elements[i], p.curves[i] = part.element, part.curve
		if kind := part.element.Kind; kind.Ends() && i < len(parts)-1 {
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
func (p *Path) end() *Element {
	if n := len(p.elements); n > 0 && p.elements[n-1].Kind.Ends() {
		return &p.elements[n-1]
	}
	return nil
}

// passed is how many elements the signal passes on its way to the end.
func (p *Path) passed() int {
	if p.end() != nil {
		return len(p.elements) - 1
	}
	return len(p.elements)
}

// EndAnalyzer is the analyzer the path ends in, or nil.
func (p *Path) EndAnalyzer() *Element {
	if e := p.end(); e != nil && e.Kind == Analyzer {
		return e
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
		if !p.curves[i].covers(f) {
			return 0, false
		}
		db += p.curves[i].at(f)
	}
	return db, true
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
				known = known.Meet(p.curves[k].known())
				made = made.Meet(p.curves[k].made)
			}
			out = out.Meet(joined(known, r.m.Span()))
			out = out.Meet(span.Set{made})
			i = r.last
			continue
		}
		out = out.Meet(span.Set{p.curves[i].known()})
	}
	return out
}

// FillLoss writes the loss at start + i step into out. Frequencies outside
// Domains get a number of no meaning: leave them out beforehand.
func (p *Path) FillLoss(start, step units.Hertz, out []float64) {
	clear(out)
	for i := range p.passed() {
		p.curves[i].fill(float64(start), float64(step), out)
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
				loss -= p.curves[k].at(f)
			}
			out[i] += float64(loss)
		}
	}
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
	for i, e := range p.elements {
		r := p.runAt(i, f)
		switch {
		case r != nil && i == r.last:
			_, u := r.m.at(f)
			sum += float64(u * u)
		case r == nil && i < p.passed():
			sum += e.lossVariance()
		}
		if i > 0 && (r == nil || r != before) {
			if a, b := p.curves[i-1].swr(f), p.curves[i].swr(f); a != nil && b != nil {
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
	for i, e := range p.elements {
		if e.TypicalTolerance && i < p.passed() && p.runAt(i, f) == nil && !slices.Contains(out, e.Title()) {
			out = append(out, e.Title())
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
	for i := range p.curves {
		if swr := p.curves[i].swr(f); swr != nil {
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
	flat = &Path{elements: p.elements, curves: slices.Clone(p.curves), runs: p.runs}
	for i, e := range p.elements {
		if !e.CouplingUnknown || slices.ContainsFunc(p.runs, func(r run) bool { return i >= r.first && i <= r.last }) {
			continue
		}
		if e.FlatWithinDB == nil {
			return nil, 0, false
		}
		flat.curves[i].unknown = false
		within, ok = units.DB(math.Hypot(float64(within), *e.FlatWithinDB)), true
	}
	return flat, within, ok
}

// rangeAt is the range of an analyzer in use at f (the first listed), or nil.
func (e *Element) rangeAt(f units.Hertz) *Range {
	for i := range e.Ranges {
		if r := &e.Ranges[i]; float64(f) >= r.FromHz && float64(f) <= r.ToHz {
			return r
		}
	}
	return nil
}

// Reach is where the end of the path works: the ranges of an analyzer, or the
// range of a load or meter. A path without an end reaches everything.
func (p *Path) Reach() span.Set {
	e := p.end()
	switch {
	case e == nil:
		return span.Set{span.Everywhere}
	case e.Kind != Analyzer:
		return span.Set{p.curves[len(p.curves)-1].known()}
	}
	out := make(span.Set, len(e.Ranges))
	for i, r := range e.Ranges {
		out[i] = span.Of(units.Hertz(r.FromHz), units.Hertz(r.ToHz))
	}
	return out
}

// SafeInput is what the analyzer at the end survives at f, in dBm; false where
// there is none or it does not say.
func (p *Path) SafeInput(f units.Hertz) (units.DBm, bool) {
	if a := p.EndAnalyzer(); a != nil {
		if limit := a.safeInput(f); limit != nil {
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
	case order == 2 && a.SHIDBm != nil:
		dbc = -(units.DBm(*a.SHIDBm) - mixer)
	case order == 3 && a.TOIDBm != nil:
		dbc = -2*(units.DBm(*a.TOIDBm)-mixer) - units.DBm(20*math.Log10(3))
	default:
		return 0, false
	}
	return input + dbc + units.DBm(atProduct), true
}
