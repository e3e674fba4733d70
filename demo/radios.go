package demo

import (
	"talloak/core/units"
	"talloak/instruments"
)

// The invented radios. Harmonics run from the second upward, in dB relative to
// the carrier.

var larkrise = instruments.Radio{NominalV: 7.4, SupplyPower: 1.6, Bands: map[string]map[string]instruments.Level{
	"2m": {
		"High": {W: 4.9, Harmonics: []float64{-74, -69, -82, -78, -84, -88}},
		"Mid":  {W: 2.1, Harmonics: []float64{-70, -66, -74, -66, -80, -84}},
		// Fewer milliwatts, yet the fifth is worse against the carrier than at High.
		"Low": {W: 0.46, Harmonics: []float64{-62, -59, -60, -49, -66, -72}},
	},
	"70cm": {
		"High": {W: 4.3, Harmonics: []float64{-58, -64, -70, -75}},
		"Mid":  {W: 1.9, Harmonics: []float64{-55, -60, -68}},
		"Low":  {W: 0.52, Harmonics: []float64{-50, -57, -66}},
	},
}}

var quillon = instruments.Radio{NominalV: 7.4, SupplyPower: 1.8, Bands: map[string]map[string]instruments.Level{
	"2m": {
		"High": {W: 5.6, Harmonics: []float64{-61, -44.5, -63, -58, -70}, Spurs: map[units.Hertz]float64{1.2417e9: -49}},
		"Low":  {W: 1.05, Harmonics: []float64{-66, -58, -70, -68}},
	},
}}

var quillonFiltered = instruments.Radio{NominalV: 7.4, SupplyPower: 1.8, Bands: map[string]map[string]instruments.Level{
	"2m": {
		"High": {W: 5.3, Harmonics: []float64{-73, -66, -76, -79, -82}, Spurs: map[units.Hertz]float64{1.2417e9: -71}},
		"Low":  {W: 0.98, Harmonics: []float64{-72, -66, -77, -78}},
	},
}}
