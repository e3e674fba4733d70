package sweep

import (
	"fmt"
	"math"
	"slices"

	"talloak/core/problem"
	"talloak/core/units"
)

// Trace is one sweep as displayed: levels in dBm on an even grid from Start to
// Stop, both included. RBW is the resolution bandwidth, 0 where it is not known. Uneven,
// where it is given, is each point's frequency in Hz, rising: such a trace is a list of
// figures, and its Step is only their mean distance.
type Trace struct {
	Start, Stop units.Hertz
	Levels      []float64
	RBW         units.Hertz
	Uneven      []float64
}

// Step is the distance of two points.
func (t Trace) Step() units.Hertz {
	return (t.Stop - t.Start) / units.Hertz(len(t.Levels)-1)
}

// Frequency is the frequency of point i.
func (t Trace) Frequency(i int) units.Hertz {
	if t.Uneven != nil {
		return units.Hertz(t.Uneven[i])
	}
	return t.Start + units.Hertz(i)*(t.Stop-t.Start)/units.Hertz(len(t.Levels)-1)
}

// Resolution is the RBW, or the step where the RBW is not known.
func (t Trace) Resolution() units.Hertz {
	if t.RBW > 0 {
		return t.RBW
	}
	return t.Step()
}

// IndexRange is the first and the one-past-last point within [lo, hi].
func (t Trace) IndexRange(lo, hi units.Hertz) (first, end int) {
	if t.Uneven != nil {
		first, _ = slices.BinarySearch(t.Uneven, float64(lo))
		end = first
		for end < len(t.Uneven) && t.Uneven[end] <= float64(hi) {
			end++
		}
		return first, end
	}
	step := float64(t.Step())
	const slack = 1e-6 // of a step: a bound on a grid point includes it
	first = int(max(0, math.Ceil(float64(lo-t.Start)/step-slack)))
	last := math.Floor(float64(hi-t.Start)/step + slack)
	if last < 0 {
		return 0, 0
	}
	end = int(min(float64(len(t.Levels)), last+1))
	return min(first, end), end
}

// Check says what is wrong with a trace, in the names of the contract.
func (t Trace) Check() error {
	var bad problem.List
	if t.Start < 0 {
		bad.Add("start_hz", "give 0 Hz or more")
	}
	if !(t.Stop > t.Start) {
		bad.Add("stop_hz", "must be above start_hz")
	}
	if len(t.Levels) < 2 {
		bad.Add("levels_dbm", "give at least two levels")
	}
	for i, l := range t.Levels {
		if !(l >= -400 && l <= 200) {
			bad.Add(fmt.Sprintf("levels_dbm[%d]", i), "%g dBm is no level an analyzer shows", l)
			break
		}
	}
	if t.Uneven != nil && (len(t.Uneven) != len(t.Levels) || !slices.IsSorted(t.Uneven)) {
		bad.Add("frequencies_hz", "give a frequency for each level, rising")
	}
	if t.RBW < 0 {
		bad.Add("rbw_hz", "give more than 0 Hz")
	}
	return bad.Err()
}

// plausibleLevel keeps out columns that are no levels; in dBm.
func plausibleLevel(l float64) bool { return l >= -400 && l <= 200 }
