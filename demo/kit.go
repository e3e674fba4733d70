package demo

import (
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/store"
)

func p[T any](v T) *T { return &v }

func table(points ...float64) *path.Loss {
	l := &path.Loss{}
	for i := 0; i < len(points); i += 2 {
		l.Table = append(l.Table, path.LossPoint{FrequencyHz: points[i], DB: points[i+1]})
	}
	return l
}

// kit is the bench of the newsletter, in plain generic names.
var kit = []store.KitItem{
	{Name: "short jumper, 0.3 m", Spec: store.KitSpec{
		Element: path.Element{Kind: path.Cable, Cable: p("rg-316"), LengthM: p(0.3), ToleranceDB: p(0.05)}, CheckedOn: "2026-03-02"}},
	{Name: "pocket inline meter, 100 to 500 MHz", Spec: store.KitSpec{
		Element:   path.Element{Kind: path.Meter, Loss: &path.Loss{FlatDB: p(0.1)}, MaxW: p(60.0), FromHz: p(100e6), ToHz: p(500e6), SWR: p(1.1)},
		Meter:     &reading.Meter{FromHz: p(100e6), ToHz: p(500e6), PctReading: 5, DigitW: 0.01, SWR: p(1.1)},
		CheckedOn: "2026-02-11", Note: "5 % of the reading, by its leaflet"}},
	{Name: "needle meter, 1.6 to 60 MHz, 20 W scale", Spec: store.KitSpec{
		Element:   path.Element{Kind: path.Meter, MaxW: p(200.0), FromHz: p(1.6e6), ToHz: p(60e6)},
		Meter:     &reading.Meter{FromHz: p(1.6e6), ToHz: p(60e6), ScaleW: p(20.0), PctFullScale: 5, DigitW: 0.5, Needle: true},
		CheckedOn: "2025-06-30"}},
	{Name: "dummy load, 50 W", Spec: store.KitSpec{
		Element: path.Element{Kind: path.Load, MaxW: p(50.0), FromHz: p(0.0), ToHz: p(1e9), SWR: p(1.1)}}},
	{Name: "power pad, 40 dB, 25 W", Spec: store.KitSpec{
		Element:   path.Element{Kind: path.Attenuator, Loss: table(0, 39.8, 150e6, 39.9, 500e6, 40.1, 1e9, 40.3, 2e9, 40.9, 3.2e9, 41.8), ToleranceDB: p(0.3), MaxW: p(25.0), SWR: p(1.15)},
		CheckedOn: "2026-02-11", Note: "measured on the bench, not as printed"}},
	{Name: "small pad, 10 dB, 2 W", Spec: store.KitSpec{
		Element:   path.Element{Kind: path.Attenuator, Loss: table(0, 10.0, 1e9, 10.1, 3.2e9, 10.4), ToleranceDB: p(0.2), MaxW: p(2.0), SWR: p(1.1)},
		CheckedOn: "2026-02-11"}},
	{Name: "bench analyzer, 9 kHz to 3.2 GHz", Spec: store.KitSpec{
		Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 9e3, ToHz: 3.2e9, MaxInputDBm: p(20.0), NoiseFloorDBm: p(-88.0)}},
			SHIDBm: p(45.0), TOIDBm: p(18.0), InputAttenuationDB: p(10.0), SWR: p(1.5)},
		AccuracyDB: 1, CheckedOn: "2026-01-20", Note: "100 kHz resolution, 10 dB input attenuation"}},
	{Name: "pocket analyzer, low input to 960 MHz", Spec: store.KitSpec{
		Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 100e3, ToHz: 960e6, MaxInputDBm: p(10.0), NoiseFloorDBm: p(-80.0)}},
			SHIDBm: p(20.0), TOIDBm: p(5.0), InputAttenuationDB: p(0.0), SWR: p(1.8)},
		AccuracyDB: 2, Note: "sees nothing above 960 MHz on this input"}},
}

type wiring struct {
	name, purpose string
	parts         []int // into kit
}

var wirings = []wiring{
	{"inline meter into the dummy load", "power", []int{0, 1, 3}},
	{"pads into the bench analyzer", "emissions", []int{0, 4, 5, 6}},
	{"pads into the pocket analyzer", "emissions", []int{0, 4, 5, 7}},
	{"needle meter into the dummy load", "power", []int{0, 2, 3}},
	{"one pad less, into the pocket analyzer", "emissions", []int{0, 4, 7}},
}
