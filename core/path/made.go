package path

import (
	"slices"

	"talloak/core/problem"
)

// made is what a part is, with what only its kind has. The set is closed: an Element is what somebody
// wrote, with every field there is, and madeOf alone makes one of these of it.
type made interface {
	kind() Kind
	// printed works out the loss on the way through, of what is printed on the element.
	printed(*Element, *curve) error
	// fields are those of an Element that it has beside those of every kind.
	fields() []string
}

type (
	adapter          struct{}
	cable            struct{}
	meter            struct{}
	attenuator       struct{}
	load             struct{}
	terminatingMeter struct{}

	// tap goes on down its side arm. mainLoadW is the rating of the load on its main arm, which takes
	// nearly all that arrives; unknown a coupling that nobody measured, with the half-width in dB by which
	// it differs between two frequencies where the owner vouches for that, and what it takes at the least.
	tap struct {
		mainLoadW    *float64
		unknown      bool
		flatWithinDB *float64
		leastDB      *float64
	}

	analyzer struct{ *Input }
)

// Input is what only an analyzer has: its ranges, and the intercepts and attenuation of
// its input where they are known.
type Input struct {
	Ranges                             []Range
	SHIDBm, TOIDBm, InputAttenuationDB *float64
}

// madeOf is what an element is. Errors are on its fields.
func madeOf(e *Element) (made, error) {
	switch e.Kind {
	case Adapter:
		return adapter{}, nil
	case Cable:
		return cable{}, nil
	case Meter:
		return meter{}, nil
	case Attenuator:
		return attenuator{}, nil
	case Load:
		return load{}, nil
	case TerminatingMeter:
		return terminatingMeter{}, nil
	case Tap:
		return tap{e.MainLoadW, e.CouplingUnknown, e.FlatWithinDB, e.LeastCouplingDB}, nil
	case Analyzer:
		return analyzer{&Input{e.Ranges, e.SHIDBm, e.TOIDBm, e.InputAttenuationDB}}, e.checkRanges()
	case "":
		return nil, problem.New("kind", "give one of %s", kinds)
	}
	return nil, problem.New("kind", "unknown kind %q; known are %s", e.Kind, kinds)
}

func (adapter) kind() Kind          { return Adapter }
func (cable) kind() Kind            { return Cable }
func (meter) kind() Kind            { return Meter }
func (attenuator) kind() Kind       { return Attenuator }
func (load) kind() Kind             { return Load }
func (terminatingMeter) kind() Kind { return TerminatingMeter }
func (tap) kind() Kind              { return Tap }
func (analyzer) kind() Kind         { return Analyzer }

func (adapter) printed(e *Element, c *curve) error {
	if e.Loss != nil {
		return e.Loss.compile(c)
	}
	c.flat, c.hi = adapterDB, min(c.hi, adapterTo)
	return nil
}

func (cable) printed(e *Element, c *curve) error { return e.compileCable(c) }

func (meter) printed(e *Element, c *curve) error            { return e.maybeLoss(c) }
func (load) printed(e *Element, c *curve) error             { return e.maybeLoss(c) }
func (terminatingMeter) printed(e *Element, c *curve) error { return e.maybeLoss(c) }
func (analyzer) printed(e *Element, c *curve) error         { return e.maybeLoss(c) }

func (attenuator) printed(e *Element, c *curve) error {
	if e.Loss == nil {
		return problem.New("loss", "give the loss of the attenuator: flat_db, table or touchstone")
	}
	return e.Loss.compile(c)
}

func (t tap) printed(e *Element, c *curve) error {
	switch {
	case t.unknown && (e.Loss != nil || e.CouplingDB != nil):
		return problem.New("coupling_unknown", "a coupling is unknown or given, not both")
	case t.unknown:
		c.unknown = true
	case e.CouplingDB != nil && e.Loss != nil:
		return problem.New("loss", "give coupling_db or loss, not both")
	case e.CouplingDB != nil && !lossLike(*e.CouplingDB):
		return problem.New("coupling_db", "give the dB by which the side arm lies below what arrives, 0 to %d", mostLossDB)
	case e.CouplingDB != nil:
		c.flat = *e.CouplingDB
	case e.Loss != nil:
		return e.Loss.compile(c)
	default:
		return problem.New("coupling_db", "give the coupling of the side arm in dB, or a loss")
	}
	return nil
}

// maybeLoss: what states no loss has none.
func (e *Element) maybeLoss(c *curve) error {
	if e.Loss == nil {
		return nil
	}
	return e.Loss.compile(c)
}

// through are the fields of what a signal passes.
var through = []string{"loss", "tolerance_db", "expanded_db", "coverage_factor"}

func (adapter) fields() []string    { return through }
func (meter) fields() []string      { return through }
func (attenuator) fields() []string { return through }
func (cable) fields() []string {
	return slices.Concat(through, []string{"cable", "points", "length_m"})
}
func (load) fields() []string             { return nil }
func (terminatingMeter) fields() []string { return nil }

func (tap) fields() []string {
	return slices.Concat(through, []string{"coupling_db", "coupling_unknown", "flat_within_db", "least_coupling_db", "main_load_w"})
}

func (analyzer) fields() []string {
	return []string{"ranges", "shi_dbm", "toi_dbm", "input_attenuation_db"}
}

// CheckOwn refuses, at its field, what a part of the kind does not have: a coupling on a
// load, the ranges of an analyzer on a cable. It is asked where kit is kept; the fields of
// an element in a computation that its kind has no use for are left alone.
func (e Element) CheckOwn() error {
	var bad problem.List
	m, _ := madeOf(&e) // of no kind it has none of these
	for _, f := range []struct {
		field string
		given bool
		what  string
	}{
		{"loss", e.Loss != nil, "loss on the way through"}, {"tolerance_db", e.ToleranceDB != nil, "loss, and so no tolerance of it"},
		{"expanded_db", e.ExpandedDB != nil, "loss that a certificate could state"}, {"coverage_factor", e.CoverageFactor != nil, "loss that a certificate could state"},
		{"cable", e.Cable != nil, "type of coax"}, {"points", e.Points != nil, "data of coax"}, {"length_m", e.LengthM != nil, "length that counts"},
		{"coupling_db", e.CouplingDB != nil, "coupling"}, {"coupling_unknown", e.CouplingUnknown, "coupling"}, {"flat_within_db", e.FlatWithinDB != nil, "coupling"},
		{"least_coupling_db", e.LeastCouplingDB != nil, "coupling"}, {"main_load_w", e.MainLoadW != nil, "main arm"},
		{"ranges", e.Ranges != nil, "ranges to look at"}, {"shi_dbm", e.SHIDBm != nil, "intercept"}, {"toi_dbm", e.TOIDBm != nil, "intercept"},
		{"input_attenuation_db", e.InputAttenuationDB != nil, "input attenuation"},
	} {
		if f.given && (m == nil || !slices.Contains(m.fields(), f.field)) {
			bad.Add(f.field, "a part of the kind %s has no %s: leave it out", e.Kind, f.what)
		}
	}
	return bad.Err()
}
