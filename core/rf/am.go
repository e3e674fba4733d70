package rf

import "talloak/core/units"

// AMPeak is the peak envelope power of a carrier modulated in amplitude to a
// depth m of 0 to 1: carrier (1 + m)^2, so four times the carrier at full depth
// (ARRL Handbook, from memory).
func AMPeak(carrier units.Watts, m float64) units.Watts {
	return carrier * units.Watts((1+m)*(1+m))
}
