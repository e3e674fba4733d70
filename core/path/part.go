package path

import (
	"talloak/core/problem"
	"talloak/core/span"
	"talloak/core/units"
)

// Part is a checked element, ready to be put into paths: what every kind has, and in arm
// or input what only a tap or an analyzer has. A field of another kind, however it was
// written on the Element, is not there to be read.
type Part struct {
	kind    Kind
	title   string
	ratings ratings
	spread  float64 // square of the standard uncertainty of the printed loss, in dB squared
	typical bool    // the tolerance in it is that of its kind
	curve   curve
	arm     *sideArm // of a tap, else nil
	input   *Input   // of an analyzer, else nil
}

// ratings are what a part stands, in W: all the time, and for shortS seconds.
type ratings struct{ maxW, shortMaxW, shortS *float64 }

// sideArm is what only a tap has: the rating of the load on its main arm, which takes
// nearly all that arrives, and a coupling that nobody measured, with the half-width in dB
// by which it differs between two frequencies where the owner vouches for that.
type sideArm struct {
	mainLoadW    *float64
	unknown      bool
	flatWithinDB *float64
	leastDB      *float64 // what it takes at the least
}

// Input is what only an analyzer has: its ranges, and the intercepts and attenuation of
// its input where they are known.
type Input struct {
	Ranges                             []Range
	SHIDBm, TOIDBm, InputAttenuationDB *float64
}

// Prepare checks an element by itself. Errors are on the fields of the element.
func Prepare(e Element) (Part, error) {
	c, err := e.compile()
	p := Part{
		kind: e.Kind, title: e.Title(), curve: c,
		ratings: ratings{e.MaxW, e.ShortMaxW, e.ShortS},
		spread:  e.lossVariance(), typical: e.TypicalTolerance,
	}
	switch e.Kind {
	case Tap:
		p.arm = &sideArm{e.MainLoadW, e.CouplingUnknown, e.FlatWithinDB, e.LeastCouplingDB}
	case Analyzer:
		p.input = &Input{e.Ranges, e.SHIDBm, e.TOIDBm, e.InputAttenuationDB}
	}
	return p, err
}

// Kind is what sort of part it is.
func (p Part) Kind() Kind { return p.kind }

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
	return p.kind == Attenuator || p.arm != nil && !p.arm.unknown && p.arm.mainLoadW != nil
}

// couplingUnknown tells whether it is a tap that nobody has measured.
func (p *Part) couplingUnknown() bool { return p.arm != nil && p.arm.unknown }

// rating is the lower of the part's own rating and that of the load on the main arm of a
// tap.
func (p *Part) rating() *float64 {
	own := p.ratings.maxW
	if p.arm != nil && p.arm.mainLoadW != nil && (own == nil || *p.arm.mainLoadW < *own) {
		return p.arm.mainLoadW
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

// CheckOwn refuses, at its field, what a part of the kind does not have: a coupling on a
// load, the ranges of an analyzer on a cable. It is asked where kit is kept; the fields of
// an element in a computation that its kind has no use for are left alone.
func (e Element) CheckOwn() error {
	var bad problem.List
	only := func(field string, given bool, what string, kinds ...Kind) {
		if !given {
			return
		}
		for _, k := range kinds {
			if k == e.Kind {
				return
			}
		}
		bad.Add(field, "a part of the kind %s has no %s: leave it out", e.Kind, what)
	}
	passes := []Kind{Adapter, Cable, Meter, Attenuator, Tap}
	only("loss", e.Loss != nil, "loss on the way through", passes...)
	only("tolerance_db", e.ToleranceDB != nil, "loss, and so no tolerance of it", passes...)
	only("expanded_db", e.ExpandedDB != nil, "loss that a certificate could state", passes...)
	only("coverage_factor", e.CoverageFactor != nil, "loss that a certificate could state", passes...)
	only("cable", e.Cable != nil, "type of coax", Cable)
	only("points", e.Points != nil, "data of coax", Cable)
	only("length_m", e.LengthM != nil, "length that counts", Cable)
	only("coupling_db", e.CouplingDB != nil, "coupling", Tap)
	only("coupling_unknown", e.CouplingUnknown, "coupling", Tap)
	only("flat_within_db", e.FlatWithinDB != nil, "coupling", Tap)
	only("least_coupling_db", e.LeastCouplingDB != nil, "coupling", Tap)
	only("main_load_w", e.MainLoadW != nil, "main arm", Tap)
	only("ranges", e.Ranges != nil, "ranges to look at", Analyzer)
	only("shi_dbm", e.SHIDBm != nil, "intercept", Analyzer)
	only("toi_dbm", e.TOIDBm != nil, "intercept", Analyzer)
	only("input_attenuation_db", e.InputAttenuationDB != nil, "input attenuation", Analyzer)
	return bad.Err()
}
