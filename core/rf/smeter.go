package rf

import "talloak/core/units"

// SUnitDB is a step of an S-meter, in dB (IARU Region 1 Technical Recommendation R.1, from memory).
const SUnitDB = 6

// What S9 stands for, in V at 50 ohm, below s9Edge and from there on (the same recommendation, from memory).
const (
	s9Below = 50e-6
	s9Above = 5e-6
	s9Edge  = units.Hertz(30e6)
)

// S9 is the level that S9 stands for at a frequency: -73 dBm below 30 MHz, -93 dBm from there on.
func S9(f units.Hertz) units.DBm {
	v := s9Above
	if f < s9Edge {
		v = s9Below
	}
	return units.Watts(v * v / units.Impedance).DBm()
}
