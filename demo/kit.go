package demo

import (
	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/touchstone"
)

func p[T any](v T) *T { return &v }

func table(points ...float64) *path.Loss {
	l := &path.Loss{}
	for i := 0; i < len(points); i += 2 {
		l.Table = append(l.Table, path.LossPoint{FrequencyHz: points[i], DB: points[i+1]})
	}
	return l
}

// thing is an item as it is written down.
type thing struct {
	name string
	spec kit.Spec
}

// owned is the bench of the newsletter, in plain generic names. The order is
// that of their ids.
var owned = []thing{
	{"short jumper, 0.3 m", kit.Spec{Kind: kit.Cable,
		Element: path.Element{Cable: p("rg-316"), LengthM: p(0.3), ToleranceDB: p(0.05)}, CheckedOn: "2026-03-02"}},
	{"pocket inline meter, 100 to 500 MHz", kit.Spec{Kind: kit.ThroughMeter,
		Element:   path.Element{Loss: &path.Loss{FlatDB: p(0.1)}, MaxW: p(60.0), FromHz: p(100e6), ToHz: p(500e6), SWR: p(1.1)},
		Meter:     &reading.Meter{FromHz: p(100e6), ToHz: p(500e6), PctReading: 5, DigitW: 0.01, SWR: p(1.1)},
		CheckedOn: "2026-02-11", Serial: "PM-2207", Note: "5 % of the reading, by its leaflet"}},
	{"needle meter, 1.6 to 60 MHz", kit.Spec{Kind: kit.ThroughMeter,
		Element: path.Element{MaxW: p(200.0), FromHz: p(1.6e6), ToHz: p(60e6)},
		Meter:   &reading.Meter{FromHz: p(1.6e6), ToHz: p(60e6), PctFullScale: 5, DigitW: 0.5, Needle: true}, ScalesW: []float64{20, 200},
		CheckedOn: "2025-06-30"}},
	{"dummy load, 50 W", kit.Spec{Kind: kit.Load,
		Element: path.Element{MaxW: p(50.0), ShortMaxW: p(100.0), ShortS: p(30.0), FromHz: p(0.0), ToHz: p(1e9), SWR: p(1.1)}}},
	{"power pad, 40 dB, 25 W", kit.Spec{Kind: kit.Attenuator,
		Element:   path.Element{Loss: table(0, 39.8, 150e6, 39.9, 500e6, 40.1, 1e9, 40.3, 2e9, 40.9, 3.2e9, 41.8), ToleranceDB: p(0.3), MaxW: p(25.0), SWR: p(1.15)},
		CheckedOn: "2026-02-11", Note: "measured on the bench, not as printed"}},
	{"small pad, 10 dB, 2 W", kit.Spec{Kind: kit.Attenuator,
		Element:   path.Element{Loss: table(0, 10.0, 1e9, 10.1, 3.2e9, 10.4), ToleranceDB: p(0.2), MaxW: p(2.0), SWR: p(1.1)},
		CheckedOn: "2026-02-11"}},
	{"bench analyzer, 9 kHz to 3.2 GHz", kit.Spec{Kind: kit.Analyzer,
		Element: path.Element{Ranges: []path.Range{{FromHz: 9e3, ToHz: 3.2e9, MaxInputDBm: p(20.0), NoiseFloorDBm: p(-88.0), FloorRBWHz: p(100e3), RBWHz: []float64{1e3, 10e3, 100e3, 1e6}}},
			SHIDBm: p(45.0), TOIDBm: p(18.0), InputAttenuationDB: p(10.0), SWR: p(1.5)},
		AccuracyDB: 1, PreAmplifier: "fitted", CheckedOn: "2026-01-20", Note: "100 kHz resolution, 10 dB input attenuation"}},
	{"pocket analyzer, low input to 960 MHz", kit.Spec{Kind: kit.Analyzer,
		Element: path.Element{Ranges: []path.Range{{FromHz: 100e3, ToHz: 960e6, MaxInputDBm: p(10.0), NoiseFloorDBm: p(-80.0), FloorRBWHz: p(100e3)}},
			SHIDBm: p(20.0), TOIDBm: p(5.0), InputAttenuationDB: p(0.0), SWR: p(1.8)},
		AccuracyDB: 2, PreAmplifier: "none", Note: "sees nothing above 960 MHz on this input"}},
	{"second pad, 20 dB, 5 W", kit.Spec{Kind: kit.Attenuator,
		Element: path.Element{Loss: &path.Loss{FlatDB: p(20.0)}, ToleranceDB: p(0.5), MaxW: p(5.0), ToHz: p(3e9), SWR: p(1.2)},
		Typical: []string{"element.tolerance_db", "element.swr"}}},
	{"step attenuator, 0 to 30 dB, 1 W", kit.Spec{Kind: kit.SwitchedAttenuator,
		Element:   path.Element{MaxW: p(1.0), ToHz: p(1e9), ToleranceDB: p(0.5), SWR: p(1.3)},
		Positions: []kit.Position{{Name: "0 dB", DB: p(0.4)}, {Name: "10 dB", DB: p(10.4)}, {Name: "20 dB", DB: p(20.4)}, {Name: "30 dB", DB: p(30.4)}}, Note: "0.4 dB of its own"}},
	{"line sampler", kit.Spec{Kind: kit.Sampler,
		Element:   path.Element{MaxW: p(500.0), MainLoadW: p(50.0)},
		Positions: []kit.Position{{Name: "knob 1", Unknown: true}, {Name: "knob 5", Loss: table(50e6, 52.0, 100e6, 46.0, 200e6, 40.1, 500e6, 32.4)}}, Note: "rises about 20 dB a decade; knob 1 never measured"}},
	{"small load, 5 W", kit.Spec{Kind: kit.Load, Element: path.Element{MaxW: p(5.0), ToHz: p(500e6), SWR: p(1.2)}}},
	{"terminating meter, 0.1 to 15 W", kit.Spec{Kind: kit.TerminatingMeter,
		Element: path.Element{MaxW: p(15.0), FromHz: p(2e6), ToHz: p(550e6), SWR: p(1.2)},
		Meter:   &reading.Meter{FromHz: p(2e6), ToHz: p(550e6), ScaleW: p(15.0), PctReading: 4, PctFullScale: 1, DigitW: 0.01}, CheckedOn: "2024-11-08"}},
	{"bench supply, 3 to 15 V, 5 A", kit.Spec{Kind: kit.Supply, Supply: &kit.SupplyRange{FromV: 3, ToV: 15, LimitA: p(5.0), LeadOhm: p(0.06)}, Note: "leads of 1.5 m, both ways"}},
	{"plug adapter", kit.Spec{Kind: kit.Adapter, Element: path.Element{Loss: &path.Loss{FlatDB: p(0.05)}, ToHz: p(1.5e9), ToleranceDB: p(0.05)}, Typical: []string{"element.loss.flat_db", "element.tolerance_db"}}},
	{"signal generator, 100 kHz to 1.1 GHz", kit.Spec{Kind: kit.SignalGenerator, Element: path.Element{FromHz: p(100e3), ToHz: p(1.1e9)}, Levels: &kit.LevelRange{FromDBm: -127, ToDBm: 7}, AccuracyDB: 1.5}},
	{"antenna analyzer, 1 to 500 MHz", kit.Spec{Kind: kit.AntennaAnalyzer, Element: path.Element{FromHz: p(1e6), ToHz: p(500e6)}}},
	{"old load, 15 W", kit.Spec{Kind: kit.Load, Element: path.Element{MaxW: p(15.0), ToHz: p(150e6)}, Note: "cooked in June; its SWR has crept up"}},
	{"inline meter, 25 to 200 MHz", kit.Spec{Kind: kit.ThroughMeter,
		Element:   path.Element{Loss: &path.Loss{FlatDB: p(0.1)}, MaxW: p(120.0), FromHz: p(25e6), ToHz: p(200e6), SWR: p(1.1)},
		Meter:     &reading.Meter{FromHz: p(25e6), ToHz: p(200e6), PctReading: 5, DigitW: 0.1, SWR: p(1.1)},
		CheckedOn: "2026-04-18"}},
	{"cross-needle meter, 1.6 to 60 MHz", kit.Spec{Kind: kit.ThroughMeter,
		Element: path.Element{MaxW: p(300.0), FromHz: p(1.6e6), ToHz: p(60e6)},
		Meter:   &reading.Meter{FromHz: p(1.6e6), ToHz: p(60e6), PctFullScale: 5, DigitW: 5, Needle: true}, ScalesW: []float64{3, 15, 150}, DivisionsW: []float64{0.1, 0.5, 5},
		CheckedOn: "2026-01-09", Note: "forward and reflected on two needles, three scales"}},
	{"heavy pad, 30 dB, 100 W", kit.Spec{Kind: kit.Attenuator,
		Element:   path.Element{Loss: table(0, 30.0, 500e6, 30.2, 1e9, 30.5, 3.2e9, 31.6), ToleranceDB: p(0.3), MaxW: p(100.0), SWR: p(1.15)},
		CheckedOn: "2026-04-18"}},
	{"coax, 1.8 m, thin", kit.Spec{Kind: kit.Cable, Element: path.Element{Cable: p("rg-8x"), LengthM: p(1.8), ToleranceDB: p(0.1)}}},
}

// retired is the item that is out of service.
const retired = 17

// wire is a path: its parts by their place in owned, with their settings.
type wire struct {
	name     string
	parts    []int
	settings map[int]string
	supply   float64 // volts set on the bench supply, 0 for none
	stack    bool    // the parts between the first and the last were measured in one piece
}

var wired = []wire{
	{name: "inline meter into the dummy load", parts: []int{0, 1, 3}},
	{name: "pads into the bench analyzer", parts: []int{0, 4, 5, 6}},
	{name: "pads into the pocket analyzer", parts: []int{0, 4, 5, 7}},
	{name: "needle meter into the dummy load", parts: []int{0, 2, 3}, settings: map[int]string{2: "20 W"}},
	{name: "one pad less, into the pocket analyzer", parts: []int{0, 4, 7}},
	{name: "pads as measured, into the bench analyzer", parts: []int{0, 4, 8, 6}, stack: true},
	{name: "mobile on the bench supply", parts: []int{0, 14, 1, 3}, supply: 13.8},
	{name: "VHF meter, on the bench supply", parts: []int{0, 18, 3}, supply: 13.8},
	{name: "cross-needle meter into the dummy load", parts: []int{0, 19, 3}, settings: map[int]string{19: "15 W"}},
	{name: "heavy pad into the bench analyzer", parts: []int{0, 20, 5, 6}},
	{name: "pocket meter behind thin coax, on the bench supply", parts: []int{21, 1, 3}, supply: 13.8},
}

// The places of some of them in owned.
const (
	inlineAt      = 1
	terminatingAt = 12
	supplyAt      = 13
)

// stackFile is what the measured stack was found to take.
var stackFile = []touchstone.Point{{Frequency: 100e6, Loss: 60.4}, {Frequency: 450e6, Loss: 60.7}, {Frequency: 1e9, Loss: 61.2}, {Frequency: 1.6e9, Loss: 61.9}}
