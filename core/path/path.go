package path

import (
	"fmt"
	"math"

	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/units"
)

// Path is a checked path. The zero value is a direct connection: 0 dB at every
// frequency. A Path is safe for concurrent use.
type Path struct {
	elements []Element
	curves   []curve
}

// Compile checks the elements, from the antenna connector on. Errors are on
// "elements[i]...". A path need not end in an instrument (Analyze says so), but
// nothing may follow one.
func Compile(elements []Element) (*Path, error) {
	var bad problem.List
	p := &Path{elements: elements, curves: make([]curve, len(elements))}
	for i := range elements {
		field := fmt.Sprintf("elements[%d]", i)
		c, err := elements[i].compile()
		bad.AddErr(field, err)
		p.curves[i] = c
		if elements[i].Kind.Ends() && i < len(elements)-1 {
			bad.Add(field+".kind", "a %s ends the path, but more follows it", elements[i].Kind)
		}
	}
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
	for i := range p.passed() {
		if !p.curves[i].covers(f) {
			return 0, false
		}
		db += p.curves[i].at(f)
	}
	return db, true
}

// Domain is the stretch of frequencies in which LossAt has an answer; empty
// (hi below lo) where the elements have none in common.
func (p *Path) Domain() (lo, hi units.Hertz) {
	hi = units.Hertz(math.Inf(1))
	for i := range p.passed() {
		lo, hi = max(lo, p.curves[i].lo), min(hi, p.curves[i].hi)
	}
	return lo, hi
}

// FillLoss writes the loss at start + i step into out. Frequencies outside
// Domain get a number of no meaning: leave them out beforehand.
func (p *Path) FillLoss(start, step units.Hertz, out []float64) {
	clear(out)
	for i := range p.passed() {
		p.curves[i].fill(float64(start), float64(step), out)
	}
}

// LossUncertainty is the standard uncertainty of LossAt: tolerances as
// rectangular half-widths, and mismatch for each neighbouring pair that both
// state their SWR.
func (p *Path) LossUncertainty() units.DB {
	sum := 0.0
	for i, e := range p.elements {
		if e.ToleranceDB != nil && i < p.passed() {
			sum += *e.ToleranceDB * *e.ToleranceDB / 3
		}
		if i > 0 && e.SWR != nil && p.elements[i-1].SWR != nil {
			u := float64(rf.MismatchUncertainty(*p.elements[i-1].SWR, *e.SWR))
			sum += u * u
		}
	}
	return units.DB(math.Sqrt(sum))
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

// Stretch is a closed range of frequencies.
type Stretch struct{ Lo, Hi units.Hertz }

// Reach is where the end of the path works: the ranges of an analyzer, or the
// range of a load or meter. A path without an end reaches everything.
func (p *Path) Reach() []Stretch {
	e := p.end()
	switch {
	case e == nil:
		return []Stretch{{0, units.Hertz(math.Inf(1))}}
	case e.Kind != Analyzer:
		c := p.curves[len(p.curves)-1]
		return []Stretch{{c.lo, c.hi}}
	}
	out := make([]Stretch, len(e.Ranges))
	for i, r := range e.Ranges {
		out[i] = Stretch{units.Hertz(r.FromHz), units.Hertz(r.ToHz)}
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
