package rf

import "talloak/core/units"

// boltzmann is the Boltzmann constant in J/K, exact since the SI of 2019; room is 290 K, to which noise
// is reckoned.
const (
	boltzmann = 1.380649e-23
	room      = 290.0
)

// ThermalNoise is the noise of a matched source at 290 K in a bandwidth, kTB (textbook): -123.98 dBm in
// 100 kHz.
func ThermalNoise(bandwidth units.Hertz) units.DBm {
	return units.Watts(boltzmann * room * float64(bandwidth)).DBm()
}
