package simulated

import (
	"math"
	"strings"
	"testing"

	"talloak/core/path"
	"talloak/core/sweep"
	"talloak/core/units"
)

func analyzer(t *testing.T) *path.Path {
	t.Helper()
	db, floor, shi, toi := 50.0, -95.0, 30.0, 25.0
	p, err := path.Compile([]path.Element{
		{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &db}},
		{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9, NoiseFloorDBm: &floor}}, SHIDBm: &shi, TOIDBm: &toi},
	})
	if err != nil {
		t.Fatal(err)
	}
	return p
}

var radio = Radio{NominalV: 7.4, SupplyPower: 2, Bands: map[string]map[string]Level{
	"2m": {"High": {W: 5, Harmonics: []float64{-60, -55}, Spurs: map[units.Hertz]float64{1.2e9: -50}}},
}}

// TestSweepShowsWhatIsSent: the lines come back at their levels behind the loss,
// and the analyzer's own second harmonic adds to the radio's.
func TestSweepShowsWhatIsSent(t *testing.T) {
	lines := radio.Transmit("2m", "High", 146e6, 7.4)
	s := Sweeper{Path: analyzer(t), RBW: 100e3, Seed: 7}
	tr := s.Sweep(lines, 1e6, 1.5e9, 15_001)
	for _, c := range []struct{ f, want units.Hertz }{{146e6, 36.99 - 50}, {438e6, 36.99 - 55 - 50}, {1.2e9, 36.99 - 50 - 50}} {
		p, ok := tr.Highest(c.f-1e6, c.f+1e6)
		if !ok || math.Abs(float64(p.Level)-float64(c.want)) > 0.3 {
			t.Errorf("%v shows %v, want %v", c.f, p.Level, c.want)
		}
	}
	// Lm = -13.01: self-made at -(30+13.01) dBc, far above the radio's -60.
	if p, _ := tr.Highest(291e6, 293e6); math.Abs(float64(p.Level)-(-13.01-43.01)) > 0.5 {
		t.Errorf("second harmonic shows %v", p.Level)
	}
}

func TestSameSeedSameAfternoon(t *testing.T) {
	lines := radio.Transmit("2m", "High", 146e6, 7.4)
	s := Sweeper{Path: analyzer(t), RBW: 100e3, Seed: 7}
	a, b := s.Sweep(lines, 1e6, 1e9, 1001), s.Sweep(lines, 1e6, 1e9, 1001)
	for i := range a.Levels {
		if a.Levels[i] != b.Levels[i] {
			t.Fatalf("point %d differs", i)
		}
	}
	m := Meter{Path: &path.Path{}, ScatterP: 1, Decimals: 2, Seed: 3}
	if x, y := m.Read(lines, 3), m.Read(lines, 3); x != y || len(strings.Fields(x)) != 3 {
		t.Errorf("%q %q", x, y)
	}
}

func TestSupplyAndSilence(t *testing.T) {
	full := radio.Transmit("2m", "High", 146e6, 7.4)[0].Level
	low := radio.Transmit("2m", "High", 146e6, 3.7)[0].Level
	if d := float64(full - low); math.Abs(d-6.02) > 0.01 { // half the voltage, a quarter of the power
		t.Errorf("%v dB less at half the supply", d)
	}
	if lines := radio.Transmit("70cm", "High", 446e6, 7.4); lines != nil {
		t.Errorf("transmits where it cannot: %v", lines)
	}
	if got := (Meter{Path: &path.Path{}, Decimals: 2}).Read(nil, 1); got != "0.00" {
		t.Errorf("silence reads %q", got)
	}
}

func TestCSVComesBack(t *testing.T) {
	tr := Sweeper{Path: analyzer(t), RBW: 100e3}.Sweep(nil, 30e6, 1e9, 971)
	got, err := sweep.ParseCSV([]byte(CSV(tr)))
	if err != nil || got.Trace.RBW != 100e3 || len(got.Trace.Levels) != 971 || got.Trace.Levels[5] != tr.Levels[5] {
		t.Errorf("%+v %v", got.Taken, err)
	}
}
