package rf

import (
	"math"

	"talloak/core/units"
)

// AMPeak is the peak envelope power of a carrier modulated in amplitude to a
// depth m of 0 to 1: carrier (1 + m)^2, so four times the carrier at full depth
// (ARRL Handbook, from memory).
func AMPeak(carrier units.Watts, m float64) units.Watts {
	return carrier * units.Watts((1+m)*(1+m))
}

// AMDepth is the modulation depth that a peak over a carrier comes from, sqrt(PEP /
// carrier) - 1: 1 is full modulation, more are positive peaks over 100 % (textbook).
// Both are above 0 W.
func AMDepth(carrier, peak units.Watts) float64 { return math.Sqrt(float64(peak/carrier)) - 1 }
