package demo

import (
	"talloak/core/units"
	"talloak/instruments/simulated"
)

// The invented radios. Harmonics run from the second upward, in dB relative to
// the carrier.

var larkrise = simulated.Radio{NominalV: 7.4, SupplyPower: 1.6, Bands: map[string]map[string]simulated.Level{
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

var quillon = simulated.Radio{NominalV: 7.4, SupplyPower: 1.8, Bands: map[string]map[string]simulated.Level{
	"2m": {
		"High": {W: 5.6, Harmonics: []float64{-61, -44.5, -63, -58, -70}, Spurs: map[units.Hertz]float64{1.2417e9: -49}},
		"Low":  {W: 1.05, Harmonics: []float64{-66, -58, -70, -68}},
	},
}}

var quillonFiltered = simulated.Radio{NominalV: 7.4, SupplyPower: 1.8, Bands: map[string]map[string]simulated.Level{
	"2m": {
		"High": {W: 5.3, Harmonics: []float64{-73, -66, -76, -79, -82}, Spurs: map[units.Hertz]float64{1.2417e9: -71}},
		"Low":  {W: 0.98, Harmonics: []float64{-72, -66, -77, -78}},
	},
}}

var drover = simulated.Radio{NominalV: 13.8, SupplyPower: 1.9, Bands: map[string]map[string]simulated.Level{
	"4m": {
		"High": {W: 24.6, Harmonics: []float64{-45.5, -49, -57, -60}},
		"Mid":  {W: 10.1, Harmonics: []float64{-62, -66, -76}},
		"Low":  {W: 5.1, Harmonics: []float64{-61, -66, -75}},
	},
	"2m": {
		"High": {W: 25.2, Harmonics: []float64{-44.6, -50, -57, -61, -64}},
		"Mid":  {W: 9.8, Harmonics: []float64{-63, -67, -75, -80}},
		"Low":  {W: 5.0, Harmonics: []float64{-62, -66, -75, -80}},
	},
}}

var saltmarsh = simulated.Radio{NominalV: 7.4, SupplyPower: 1.5, Bands: map[string]map[string]simulated.Level{
	"marine": {
		"High": {W: 5.7, Harmonics: []float64{-51.0, -58, -66, -70}},
		"Low":  {W: 0.93, Harmonics: []float64{-47, -60, -68}},
	},
}}

// curlew is a shortwave portable: less and less on the higher bands.
var curlew = func() simulated.Radio {
	out := simulated.Radio{NominalV: 13.8, SupplyPower: 1.7, Bands: map[string]map[string]simulated.Level{}}
	for i, band := range curlewBands {
		fall := 1 - 0.025*float64(i)
		out.Bands[band] = map[string]simulated.Level{"High": {W: 10.4 * fall}, "Mid": {W: 5.1 * fall}, "Low": {W: 1.03 * fall}}
	}
	return out
}()

var curlewBands = []string{"160m", "80m", "60m", "40m", "30m", "20m", "17m", "15m", "12m", "10m"}
