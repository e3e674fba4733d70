package simulated

import (
	"maps"
	"math"
	"slices"

	"talloak/core/units"
)

// Line is one spectral line at the antenna connector.
type Line struct {
	Frequency units.Hertz
	Level     units.DBm
	Seldom    bool // seen in some sweeps alone
}

// Level is what a radio does at one power level of a band. Harmonics[0] is the
// second harmonic, in dB relative to the carrier; Spurs stand at absolute
// frequencies, in dB relative to the carrier.
type Level struct {
	W         float64
	Harmonics []float64
	Spurs     map[units.Hertz]float64
	Comb      Comb
	Now       map[units.Hertz]float64 // spurs that come and go: in some sweeps alone
}

// Comb is evenly spaced lines either side of the carrier, as from a switching supply.
type Comb struct {
	Spacing units.Hertz
	Lines   int // on each side
	DBc     float64
}

// Radio is an invented transmitter: levels by band and name. Below NominalV its
// power falls with the given power of the supply voltage.
type Radio struct {
	NominalV    float64
	SupplyPower float64
	Bands       map[string]map[string]Level
}

// Transmit is everything at the antenna connector while keyed: the carrier
// first. Off the nominal supply power changes; the relative lines stay.
func (r Radio) Transmit(band, level string, f units.Hertz, supplyV float64) []Line {
	l, ok := r.Bands[band][level]
	if !ok || !(l.W > 0) {
		return nil
	}
	w := l.W
	if supplyV > 0 && supplyV < r.NominalV {
		w *= math.Pow(supplyV/r.NominalV, r.SupplyPower)
	}
	carrier := units.Watts(w).DBm()
	lines := []Line{{Frequency: f, Level: carrier}}
	for i, dbc := range l.Harmonics {
		lines = append(lines, Line{Frequency: f * units.Hertz(i+2), Level: carrier + units.DBm(dbc)})
	}
	for _, at := range slices.Sorted(maps.Keys(l.Spurs)) {
		lines = append(lines, Line{Frequency: at, Level: carrier + units.DBm(l.Spurs[at])})
	}
	for _, at := range slices.Sorted(maps.Keys(l.Now)) {
		lines = append(lines, Line{Frequency: at, Level: carrier + units.DBm(l.Now[at]), Seldom: true})
	}
	for k := 1; k <= l.Comb.Lines; k++ {
		for _, side := range []units.Hertz{-1, 1} {
			lines = append(lines, Line{Frequency: f + side*units.Hertz(k)*l.Comb.Spacing, Level: carrier + units.DBm(l.Comb.DBc)})
		}
	}
	return lines
}
