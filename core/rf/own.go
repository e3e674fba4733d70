package rf

import (
	"math"

	"talloak/core/units"
)

// OwnProduct is how far the harmonic that an input makes itself stands below the carrier, in
// dBc, with mixer the carrier's level at the mixer and intercept that of the order in dBm:
// of the second order -(SHI - mixer), of the third -2 (TOI - mixer) - 20 log10 3 (a two-tone
// product is 9.54 dB stronger than the harmonic; the usual power series). Above the third it
// is taken as of the third.
func OwnProduct(mixer, intercept units.DBm, order int) units.DBm {
	if order == 2 {
		return -(intercept - mixer)
	}
	return -2*(intercept-mixer) - units.DBm(20*math.Log10(3))
}
