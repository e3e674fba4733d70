package path

import (
	"talloak/core/span"
	"talloak/core/units"
)

// Part is a checked element, ready to be put into paths: what every kind has, and what only its own
// has. A field of another kind, however it was written on the Element, is not there to be read.
type Part struct {
	is      made
	title   string
	ratings ratings
	spread  float64 // square of the standard uncertainty of the printed loss, in dB squared
	typical bool    // the tolerance in it is that of its kind
	curve   curve
}

// ratings are what a part stands, in W: all the time, and for shortS seconds.
type ratings struct{ maxW, shortMaxW, shortS *float64 }

// Prepare checks an element by itself. Errors are on the fields of the element.
func Prepare(e Element) (Part, error) {
	is, c, err := e.compile()
	return Part{
		is: is, title: e.Title(), curve: c,
		ratings: ratings{e.MaxW, e.ShortMaxW, e.ShortS},
		spread:  e.lossVariance(), typical: e.TypicalTolerance,
	}, err
}

// Kind is what sort of part it is; empty of what was refused for having none.
func (p Part) Kind() Kind {
	if p.is == nil {
		return ""
	}
	return p.is.kind()
}

// arm is the part as a tap; false where it is none.
func (p *Part) arm() (tap, bool) {
	t, ok := p.is.(tap)
	return t, ok
}

// input is that of an analyzer; nil of any other part.
func (p *Part) input() *Input {
	a, _ := p.is.(analyzer)
	return a.Input
}

// Title is the part's name, or its kind where it has none.
func (p Part) Title() string { return p.title }

// Measured is the run that ends with the part as it was measured in one piece, or nil.
func (p Part) Measured() *Measured {
	if m := p.curve.measured; m != nil {
		return m.Measured
	}
	return nil
}

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

// TakesDown tells whether the part lowers what goes on: a pad, or a tap whose coupling is
// known and whose main arm has a load.
func (p Part) TakesDown() bool {
	arm, is := p.arm()
	return p.Kind() == Attenuator || is && !arm.unknown && arm.mainLoadW != nil
}

// couplingUnknown tells whether it is a tap that nobody has measured.
func (p *Part) couplingUnknown() bool {
	arm, _ := p.arm()
	return arm.unknown
}

// rating is the lower of the part's own rating and that of the load on the main arm of a
// tap.
func (p *Part) rating() *float64 {
	own := p.ratings.maxW
	if arm, _ := p.arm(); arm.mainLoadW != nil && (own == nil || *arm.mainLoadW < *own) {
		return arm.mainLoadW
	}
	return own
}

// at is the range in use at f (the first listed), or nil.
func (a *Input) at(f units.Hertz) *Range {
	for i := range a.Ranges {
		if r := &a.Ranges[i]; float64(f) >= r.FromHz && float64(f) <= r.ToHz {
			return r
		}
	}
	return nil
}

// safe is what the input survives at f, in dBm; outside every range the lowest of all
// counts, since the connector does not know what the screen shows. Nil where it says
// nothing.
func (a *Input) safe(f units.Hertz) *float64 {
	if r := a.at(f); r != nil {
		return r.MaxInputDBm
	}
	var lowest *float64
	for _, r := range a.Ranges {
		if r.MaxInputDBm != nil && (lowest == nil || *r.MaxInputDBm < *lowest) {
			lowest = r.MaxInputDBm
		}
	}
	return lowest
}
