package reading

import (
	"bytes"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"talloak/core/say"
	"talloak/core/uncertainty"
	"talloak/core/units"
)

// Entry is one of several readings of one power. Wiring tells meters and paths apart, the same
// for those that are alike; SupplyV is nil where it is not told.
type Entry struct {
	Input
	Wiring  []byte
	SupplyV *float64
}

// Joined is what several readings of one power say together. Agree tells that they are within
// their joint uncertainty; where they are not, low and high span all of them. Sets are those
// read through one wiring, each as if typed in one line.
type Joined struct {
	Result
	Agree bool     `json:"agree"`
	Sets  []Result `json:"sets,omitempty"`
}

// sameSupply is how far two supply voltages may lie apart, relative, and still be one
// (common practice, no source).
const sameSupply = 0.02

// SameSupply tells whether two supply voltages, in V, are one.
func SameSupply(a, b float64) bool { return math.Abs(a-b) <= sameSupply*max(a, b) }

func (e *Entry) sameSet(o *Entry) bool {
	if e.Frequency != o.Frequency || !bytes.Equal(e.Wiring, o.Wiring) || (e.SupplyV == nil) != (o.SupplyV == nil) {
		return false
	}
	return e.SupplyV == nil || SameSupply(*e.SupplyV, *o.SupplyV)
}

// ReferAll refers several readings of one power to the connector: those of one meter, path,
// frequency and supply are repeats, as if typed in one line; such sets are joined.
func ReferAll(entries []Entry) (Joined, error) {
	var sets []Entry
	var joined []bool // sets whose values are told in W, in a slice of their own
	for i := range entries {
		e := &entries[i]
		at := slices.IndexFunc(sets, func(s Entry) bool { return s.sameSet(e) })
		if at < 0 {
			sets, joined = append(sets, *e), append(joined, false)
			continue
		}
		if !joined[at] {
			sets[at].Values, joined[at] = inWatts(sets[at].Values), true
		}
		sets[at].Values = append(sets[at].Values, inWatts(e.Values)...)
	}
	results := make([]Result, len(sets))
	for i := range sets {
		var err error
		if results[i], err = Refer(sets[i].Input); err != nil {
			return Joined{}, err
		}
	}
	return Join(results), nil
}

// inWatts gives what can be told in W in W; the rest is refused when it is referred.
func inWatts(values []units.Quantity) []units.Quantity {
	out := make([]units.Quantity, len(values))
	for i, v := range values {
		out[i] = v
		if w, err := v.Power(); err == nil {
			out[i] = units.Quantity{Value: float64(w), Unit: units.W}
		}
	}
	return out
}

// Join puts sets of readings together, of those that count: by their means, weighted with
// 1/u^2 in watts, where every two agree within the root sum square of their expanded
// uncertainties; else low and high span all. One that counts stands by itself.
func Join(sets []Result) Joined {
	out := Joined{Agree: true, Sets: sets}
	var counting []Result
	for _, s := range sets {
		if s.Counts && s.AtConnectorW != nil {
			counting = append(counting, s)
		}
	}
	if len(counting) < 2 {
		out.Result = sets[0]
		if len(counting) == 1 {
			out.Result = counting[0]
		}
		return out
	}
	var weights, sum, inverse, read float64
	low, high := math.Inf(1), math.Inf(-1)
	for i, s := range counting {
		w, u := *s.AtConnectorW, s.standardW()
		for _, o := range counting[:i] {
			out.Agree = out.Agree && math.Abs(w-*o.AtConnectorW) <= uncertainty.CoverageFactor*math.Hypot(u, o.standardW())*(1+1e-12)
		}
		low, high = min(low, s.lowest()), max(high, s.highest())
		read += s.ReadingW / float64(len(counting))
		if u > 0 {
			weights, sum, inverse = weights+1/(u*u), sum+w/(u*u), inverse+1/(u*u)
		}
		out.Flags = append(out.Flags, s.Flags...)
	}
	if weights == 0 { // nothing is known of any: their mean
		means := make([]float64, len(counting))
		for i, s := range counting {
			means[i] = *s.AtConnectorW
		}
		sum, weights = stat.Mean(means, nil), 1
	}
	w := sum / weights
	out.ReadingW, out.CoverageFactor, out.Counts, out.AtConnectorW = read, uncertainty.CoverageFactor, true, &w
	out.Budget, out.Flags = uncertainty.Budget{}, alike(out.Flags)
	if w == 0 {
		return out
	}
	if inverse > 0 {
		out.Budget = append(out.Budget, uncertainty.Standard("sets of readings joined, weighted by their uncertainties", 1/math.Sqrt(inverse)/w, "normal"))
	}
	if out.Agree {
		l, h := out.Budget.Interval(units.Watts(w))
		low, high = float64(l), float64(h)
	} else {
		out.Flags = append(out.Flags, Flag{say.ReadingsDisagree(units.Watts(low), units.Watts(high)), false})
	}
	level := float64(units.Watts(w).DBm())
	out.AtConnectorDBm, out.LowW, out.HighW = &level, &low, &high
	if low > 0 {
		u := max(10*math.Log10(w/low), 10*math.Log10(high/w))
		out.UncertaintyDB = &u
	}
	return out
}

// standardW is the standard uncertainty at the connector in W; 0 for 0 W.
func (r *Result) standardW() float64 {
	return r.Budget.Standard() * *r.AtConnectorW
}

func (r *Result) lowest() float64 {
	if r.LowW == nil {
		return *r.AtConnectorW
	}
	return *r.LowW
}

func (r *Result) highest() float64 {
	if r.HighW == nil {
		return *r.AtConnectorW
	}
	return *r.HighW
}

// alike leaves of flags that say the same one.
func alike(flags []Flag) []Flag {
	out := []Flag{}
	for _, f := range flags {
		known := false
		for _, o := range out {
			known = known || o.Detail == f.Detail
		}
		if !known {
			out = append(out, f)
		}
	}
	return out
}
