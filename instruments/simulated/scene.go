package simulated

import (
	"talloak/core/path"
	"talloak/core/units"
)

// Scene is a bench as it truly is: what the radio does, what the instruments are and how they
// are off, and what lies between. Nobody at the sockets is told.
type Scene struct {
	Name          string
	Radio         Set
	Meter         PowerMeter
	Analyzer      Spectrum
	Supply        Source
	ToMeter       *path.Path // from the radio's connector; nil where the meter is not on it
	ToInput       *path.Path // to the analyzer's input
	Antenna       bool       // the generator is at the antenna connector
	OffsetDB      float64    // that the analyzer was left with
	AttenuationDB float64    // that its input was left with; 0 is its usual one
	Supplied      bool       // the radio runs off its own battery: it is fed whatever the supply does
}

// Set is a radio on the bench: a Radio with the frequencies it covers and what it draws.
type Set struct {
	Radio
	Places     []Place
	Tuned      units.Hertz // as it comes
	Level      string      // as it comes: HIGH, MID or LOW
	Efficiency float64     // of RF to DC while keyed
	StandbyA   float64
	OffPPM     float64 // of its reference
	WarmDB     float64 // by which its power falls as it warms
}

// Place is a stretch of frequencies that the radio covers with a band's levels.
type Place struct {
	Band     string
	From, To units.Hertz
}

// PowerMeter is a meter in truth. OffDB is its own error, within AccuracyDB, which is stated.
type PowerMeter struct {
	From, To   units.Hertz
	FullW      float64
	AccuracyDB float64
	OffDB      float64
	Scatter    float64 // of one reading, as a share
	SWR        float64 // of what it ends in
}

// Spectrum is an analyzer in truth. NoiseDBm is its noise in 1 Hz without attenuation.
type Spectrum struct {
	From, To    units.Hertz
	AccuracyDB  float64
	OffDB       float64
	NoiseDBm    float64
	SHI, TOI    units.DBm
	SurvivesDBm units.DBm
}

// Source is a DC supply in truth.
type Source struct {
	DefaultV, MostV, LimitA, MostA float64
	Ohm                            float64 // within it
	LeadOhm                        float64
}

func drawn(r interface{ Float64() float64 }, within float64) float64 {
	return within * (2*r.Float64() - 1)
}

// The default bench: 5 W at 146.52 MHz, 50 dB before the analyzer, a jumper before the meter.
// Nothing about it is measured; all is invented.
var defaultRadio = Set{
	Radio: Radio{NominalV: 13.2, SupplyPower: 1.8, Bands: map[string]map[string]Level{"all": {
		"HIGH": {W: 5, Harmonics: []float64{-62, -68, -75, -80}, Spurs: map[units.Hertz]float64{205e6: -66}},
		"MID":  {W: 2.5, Harmonics: []float64{-64, -66, -76, -82}, Spurs: map[units.Hertz]float64{205e6: -64}},
		"LOW":  {W: 0.5, Harmonics: []float64{-58, -60, -74, -80}, Spurs: map[units.Hertz]float64{205e6: -57}},
	}}},
	Places: []Place{{"all", 1e6, 1.3e9}}, Tuned: 146.52e6, Level: "HIGH", Efficiency: 0.4, StandbyA: 0.15, WarmDB: 0.05,
}

// DefaultScene is the bench without a scenario, and the one called receiver, where the
// generator feeds the radio's antenna connector. The instruments are off by what the seed
// draws, within what they state.
func DefaultScene(seed uint64, receiver bool) Scene {
	r := random(seed, "scene", 0)
	s := Scene{
		Radio:    defaultRadio,
		Meter:    PowerMeter{From: 100e6, To: 525e6, FullW: 60, AccuracyDB: 0.3, Scatter: 0.004, SWR: 1.12},
		Analyzer: Spectrum{From: 9e3, To: 3.2e9, AccuracyDB: 1, NoiseDBm: -150, SHI: 40, TOI: 15, SurvivesDBm: 27},
		Supply:   Source{DefaultV: 13.8, MostV: 30, LimitA: 5, MostA: 20, Ohm: 0.01, LeadOhm: 0.03},
	}
	s.Radio.OffPPM = drawn(r, 1.5)
	s.Meter.OffDB = drawn(r, 0.6*s.Meter.AccuracyDB)
	s.Analyzer.OffDB = drawn(r, 0.6*s.Analyzer.AccuracyDB)
	if receiver {
		s.Name, s.Antenna = "receiver", true
		return s
	}
	s.ToMeter, s.ToInput = path.FlatLoss(0.03), path.FlatLoss(50)
	return s
}
