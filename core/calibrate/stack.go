package calibrate

import (
	"fmt"
	"math"

	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/touchstone"
	"talloak/core/uncertainty"
	"talloak/core/units"
)

// Pair is what was read without and with the stack between the same source and
// the meter, at one frequency.
type Pair struct {
	Frequency     units.Hertz
	Without, With []units.Quantity
}

// StackInput is a stack measured by reading with and without it. MeterWith is
// the instrument behind the stack where it is another one. SourceSWR may be nil.
type StackInput struct {
	Meter     reading.Meter
	MeterWith *reading.Meter
	SourceSWR *float64
	Pairs     []Pair
}

// mostRelative is how uncertain a reading may be, as a standard uncertainty
// relative to power, to give a loss worth keeping.
const mostRelative = 0.25

// Stack is the loss at each frequency: 10 log10 of power without over power
// with. Both readings count with their whole uncertainty: nothing says that a
// meter errs alike at two so different levels. Readings that would not count are
// refused, and so is a stack that seems to amplify. Errors are on "points[i]...".
func Stack(in StackInput) ([]path.MeasuredPoint, error) {
	var bad problem.List
	if len(in.Pairs) == 0 {
		bad.Add("points", "give at least one frequency, read without and with the stack")
	}
	with := in.Meter
	if in.MeterWith != nil {
		with = *in.MeterWith
	}
	out := make([]path.MeasuredPoint, len(in.Pairs))
	for i, p := range in.Pairs {
		field := fmt.Sprintf("points[%d]", i)
		if i > 0 && p.Frequency <= in.Pairs[i-1].Frequency {
			bad.Add(field+".frequency_hz", "frequencies must rise; this is not above %s", in.Pairs[i-1].Frequency)
		}
		a, ok1 := usable(&bad, field, "without", in.Meter, in.SourceSWR, p.Frequency, p.Without)
		b, ok2 := usable(&bad, field, "with", with, in.SourceSWR, p.Frequency, p.With)
		if !ok1 || !ok2 {
			continue
		}
		loss := float64(units.RatioDB(*a.AtConnectorW / *b.AtConnectorW)) // with accepted baselines taken out
		u := uncertainty.DBPerRelative * math.Hypot(a.Budget.Standard(), b.Budget.Standard())
		if loss < -uncertainty.CoverageFactor*u {
			bad.Add(field+".with", "more power with the stack than without: were the two swapped?")
		}
		out[i] = path.MeasuredPoint{FrequencyHz: float64(p.Frequency), DB: max(0, loss), StandardUncertaintyDB: u}
	}
	return out, bad.Err()
}

// usable refers a reading and refuses one that no loss can rest on.
func usable(bad *problem.List, field, which string, m reading.Meter, sourceSWR *float64, f units.Hertz, values []units.Quantity) (reading.Result, bool) {
	if len(values) == 0 {
		bad.Add(field+"."+which, "give what the meter showed %s the stack", which)
		return reading.Result{}, false
	}
	for _, q := range values {
		if err := units.CheckShown(q); err != nil {
			bad.Add(field+"."+which, "%s", err.Error())
			return reading.Result{}, false
		}
	}
	r, err := reading.Refer(reading.Input{Values: values, Frequency: f, Meter: m, SourceSWR: sourceSWR, Path: &path.Path{}})
	if err != nil {
		bad.AddErr(field, err)
		return r, false
	}
	switch {
	case !r.Counts:
		bad.Add(field+"."+which, "%s", r.Flags[0].Detail)
	case !(r.ReadingW > 0):
		bad.Add(field+"."+which, "nothing was read; was the transmitter keyed?")
	case r.Budget.Standard() > mostRelative:
		bad.Add(field+"."+which, "the meter cannot tell so little apart from nothing; use a smaller scale or a more sensitive instrument")
	default:
		return r, true
	}
	return r, false
}

// StackFromFile is the loss of a stack from a two-port measurement, each point
// within a tolerance (a half-width in dB) of the analyzer it was made with.
// Errors are on "touchstone" and "tolerance_db".
func StackFromFile(n *touchstone.Network, tolerance units.DB) ([]path.MeasuredPoint, error) {
	if tolerance < 0 {
		return nil, problem.New("tolerance_db", "give 0 dB or more")
	}
	if n.Ports != 2 {
		return nil, problem.New("touchstone", "the file has %d ports; a stack is a two-port", n.Ports)
	}
	out := make([]path.MeasuredPoint, n.Points())
	for i, f := range n.Frequency {
		db, ok := n.LossDB(i)
		if !ok {
			return nil, problem.New("touchstone", "nothing passes at %s, so there is no loss to use", f)
		}
		if db < -tolerance {
			return nil, problem.New("touchstone", "the file amplifies at %s by %.2f dB: a stack of parts cannot; is it the file meant?", f, -float64(db))
		}
		out[i] = path.MeasuredPoint{FrequencyHz: float64(f), DB: max(0, float64(db)), StandardUncertaintyDB: float64(tolerance) / math.Sqrt(3)}
	}
	return out, nil
}
