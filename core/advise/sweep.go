package advise

import (
	"math"

	"talloak/core/path"
	"talloak/core/units"
)

// Sweep is what a search for emissions is dialled in with, within what the
// analyzer has. Floor says what its noted noise floor is worth at that resolution
// bandwidth.
type Sweep struct {
	Start, Stop, Resolution units.Hertz
	Floor                   FloorNote
}

// FloorNote is how a noted floor stands to the bandwidth dialled in.
type FloorNote string

// A floor holds where it was noted at the bandwidth or a wider one, or none was
// noted; else it is supposed to have been, or the noise is higher than noted.
const (
	FloorHolds    FloorNote = "holds"
	FloorSupposed FloorNote = "supposed"
	FloorTooLow   FloorNote = "too-low"
)

// SweepFor is the sweep that a search round a carrier begins with: from 30 MHz,
// or half the carrier where that is lower, to a tenth of it past the last multiple
// looked at, with the reference bandwidth of the range the carrier is in (ITU-R
// SM.329, from memory: 10 kHz below 30 MHz, 100 kHz from there to 1 GHz), but no
// wider a one than the floor was noted at.
func SweepFor(a *path.Input, carrier units.Hertz) Sweep {
	out := Sweep{Start: min(30e6, carrier/2), Stop: upTo10MHz(Multiples*carrier + carrier/10), Floor: FloorHolds}
	wanted := units.Hertz(100e3)
	if carrier < 30e6 {
		wanted = 10e3
	}
	lowest, highest, noted := units.Hertz(math.Inf(1)), units.Hertz(0), units.Hertz(math.Inf(1))
	for _, r := range a.Ranges {
		lowest, highest = min(lowest, units.Hertz(r.FromHz)), max(highest, units.Hertz(r.ToHz))
		switch {
		case r.FloorRBWHz != nil:
			noted = min(noted, units.Hertz(*r.FloorRBWHz))
		case r.NoiseFloorDBm != nil:
			out.Floor = FloorSupposed
		}
	}
	out.Start, out.Stop = max(out.Start, lowest), min(out.Stop, highest)
	out.Resolution = bandwidth(a, min(wanted, noted))
	if out.Resolution > noted {
		out.Floor = FloorTooLow
	}
	return out
}

// bandwidth is the widest one the analyzer has up to the one wanted; its narrowest
// where it has none of those, and the one wanted where it lists none.
func bandwidth(a *path.Input, wanted units.Hertz) units.Hertz {
	best, narrowest := units.Hertz(0), units.Hertz(math.Inf(1))
	for _, r := range a.Ranges {
		for _, b := range r.RBWHz {
			narrowest = min(narrowest, units.Hertz(b))
			if units.Hertz(b) <= wanted {
				best = max(best, units.Hertz(b))
			}
		}
	}
	switch {
	case best > 0:
		return best
	case !math.IsInf(float64(narrowest), 1):
		return narrowest
	}
	return wanted
}

// upTo10MHz rounds up to what a person dials.
func upTo10MHz(f units.Hertz) units.Hertz { return units.Hertz(math.Ceil(float64(f)/10e6) * 10e6) }
