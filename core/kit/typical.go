package kit

import (
	"strconv"

	"talloak/core/path"
	"talloak/core/reading"
)

func v[T any](x T) *T { return &x }

// Typical is what an item of a kind usually is, to begin from: every field it
// fills is named in Typical, and stays marked until the owner says otherwise.
// Ratings that protect something are not guessed, save for an analyzer's input,
// where the low value is the careful one. All are common practice, no source.
func Typical(kind Kind) Spec {
	s := Spec{Kind: kind, Element: path.Element{Kind: kind.PathKind()}}
	e := &s.Element
	mark := func(fields ...string) { s.Typical = append(s.Typical, fields...) }
	switch kind {
	case Adapter:
		e.Loss, e.ToHz, e.ToleranceDB = &path.Loss{FlatDB: v(0.05)}, v(500e6), v(0.05)
		mark("element.loss.flat_db", "element.to_hz", "element.tolerance_db")
	case Cable:
		e.Cable, e.LengthM, e.ToleranceDB = v("rg-58"), v(1.0), v(0.1)
		mark("element.cable", "element.length_m", "element.tolerance_db")
	case ThroughMeter:
		e.Loss, e.SWR = &path.Loss{FlatDB: v(0.1)}, v(1.1)
		s.Meter = &reading.Meter{PctReading: typicalMeterPct, DigitW: 0.01}
		mark("element.loss.flat_db", "element.swr", "meter.pct_reading", "meter.digit_w")
	case TerminatingMeter, ServiceMonitor:
		e.SWR = v(1.2)
		s.Meter = &reading.Meter{PctReading: typicalMeterPct}
		mark("element.swr", "meter.pct_reading")
	case Load:
		e.SWR, e.ToHz = v(1.2), v(500e6)
		mark("element.swr", "element.to_hz")
	case Attenuator:
		e.Loss, e.ToleranceDB, e.SWR, e.ToHz = &path.Loss{FlatDB: v(10.0)}, v(0.5), v(1.2), v(3e9)
		mark("element.loss.flat_db", "element.tolerance_db", "element.swr", "element.to_hz")
	case SwitchedAttenuator:
		e.ToleranceDB, e.SWR, e.ToHz = v(0.5), v(1.3), v(1e9)
		for _, db := range []float64{0, 10, 20, 30} {
			s.Positions = append(s.Positions, PositionOf(db))
		}
		mark("element.tolerance_db", "element.swr", "element.to_hz", "positions")
	case Tap:
		e.CouplingDB, e.ToleranceDB = v(40.0), v(1.0)
		mark("element.coupling_db", "element.tolerance_db")
	case Coupler:
		e.CouplingDB, e.ToleranceDB, e.SWR = v(30.0), v(1.0), v(1.2)
		mark("element.coupling_db", "element.tolerance_db", "element.swr")
	case Sampler:
		s.Positions = []Position{{Name: "knob 1", Unknown: true}}
		mark("positions")
	case Analyzer:
		e.Ranges = []path.Range{{FromHz: 100e3, ToHz: 1e9, MaxInputDBm: v(10.0), NoiseFloorDBm: v(-80.0), FloorRBWHz: v(100e3), RBWHz: []float64{10e3, 100e3}}}
		e.InputAttenuationDB, e.SWR, s.AccuracyDB = v(10.0), v(1.5), 2
		mark("element.ranges", "element.input_attenuation_db", "element.swr", "accuracy_db")
	case Supply:
		s.Supply = &SupplyRange{FromV: usualV, ToV: usualV, LeadOhm: v(0.02)}
		mark("supply.from_v", "supply.to_v", "supply.lead_ohm")
	case SignalGenerator:
		e.FromHz, e.ToHz = v(100e3), v(1e9)
		s.Levels, s.AccuracyDB = &LevelRange{-120, 0}, 1.5
		mark("element.from_hz", "element.to_hz", "levels.from_dbm", "levels.to_dbm", "accuracy_db")
	case Counter:
		e.FromHz, e.ToHz = v(1e6), v(1e9)
		mark("element.from_hz", "element.to_hz")
	case AntennaAnalyzer:
		e.FromHz, e.ToHz = v(1e6), v(500e6)
		mark("element.from_hz", "element.to_hz")
	case Antenna:
	}
	return s
}

// PositionOf is the position of a switched attenuator that is called by its loss, in dB.
func PositionOf(db float64) Position {
	return Position{Name: strconv.FormatFloat(db, 'g', -1, 64) + " dB", DB: &db}
}
