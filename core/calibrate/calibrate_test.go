package calibrate

import (
	"math"
	"strings"
	"testing"

	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/touchstone"
	"talloak/core/units"
)

func watts(w ...float64) (out []units.Quantity) {
	for _, x := range w {
		out = append(out, units.Quantity{Value: x, Unit: units.W})
	}
	return out
}

// TestStackPracticeCase: straight 5.0 and 18 W, through coax and another meter
// 2.21 and 13.5 W are 3.55 and 1.25 dB (practice case, worked by hand).
func TestStackPracticeCase(t *testing.T) {
	got, err := Stack(StackInput{Meter: reading.Meter{PctReading: 5}, Pairs: []Pair{{144e6, watts(5), watts(2.21)}, {145e6, watts(18), watts(13.5)}}})
	if err != nil {
		t.Fatal(err)
	}
	for i, want := range []float64{3.55, 1.25} {
		if math.Abs(got[i].DB-want) > 0.005 {
			t.Errorf("%v dB, want %v", got[i].DB, want)
		}
		// 5 % as a half-width is 2.887 % standard; twice, independent: 4.082 % or 0.1773 dB (JCGM 100).
		if math.Abs(got[i].StandardUncertaintyDB-0.1773) > 1e-4 {
			t.Errorf("u %v", got[i].StandardUncertaintyDB)
		}
	}
	// A power meter without and an analyzer, good to 1 dB, with 40 dB of pads.
	got, err = Stack(StackInput{Meter: reading.Meter{PctReading: 5}, MeterWith: &reading.Meter{DB: 1}, Pairs: []Pair{{144e6, watts(5), watts(0.0005)}}})
	if err != nil || math.Abs(got[0].DB-40) > 1e-9 || math.Abs(got[0].StandardUncertaintyDB-math.Hypot(0.12537, 1/math.Sqrt(3))) > 1e-4 {
		t.Errorf("%+v %v", got, err)
	}
}

// TestStackThroughACorrectedMeter: an accepted baseline counts where another
// instrument is behind the stack, and cancels where it is the same one.
func TestStackThroughACorrectedMeter(t *testing.T) {
	corrected := reading.Meter{PctReading: 5, Baseline: &reading.Baseline{OffsetDB: 0.5, UncertaintyDB: 0.1, FromHz: 140e6, ToHz: 150e6}}
	pairs := []Pair{{146e6, watts(10), watts(1)}}
	same, err := Stack(StackInput{Meter: corrected, Pairs: pairs})
	if err != nil || math.Abs(same[0].DB-10) > 1e-9 {
		t.Errorf("%+v %v", same, err)
	}
	other, err := Stack(StackInput{Meter: reading.Meter{PctReading: 5}, MeterWith: &corrected, Pairs: pairs})
	if err != nil || math.Abs(other[0].DB-10.5) > 1e-9 {
		t.Errorf("%+v %v", other, err)
	}
}

func TestStackRefusals(t *testing.T) {
	from, to, scale := 100e6, 200e6, 20.0
	m := reading.Meter{FromHz: &from, ToHz: &to, ScaleW: &scale, PctFullScale: 5}
	for want, pairs := range map[string][]Pair{
		"points: give at least one":                    {},
		"points[0].without: give what":                 {{144e6, nil, watts(1)}},
		"points[0].with: nothing was read":             {{144e6, watts(10), watts(0)}},
		"points[0].without: the meter is not made for": {{440e6, watts(10), watts(5)}},
		"points[0].without: the reading is at the end": {{144e6, watts(20), watts(5)}},
		"points[0].with: the meter cannot tell so":     {{144e6, watts(10), watts(1)}},
		"points[0].with: more power with the stack":    {{144e6, watts(5), watts(15)}},
		"points[0].with: -1970 dBm is no level":        {{144e6, watts(10), watts(1e-200)}},
		"points[1].frequency_hz: frequencies must":     {{144e6, watts(15), watts(10)}, {140e6, watts(15), watts(10)}},
	} {
		if _, err := Stack(StackInput{Meter: m, Pairs: pairs}); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}

func TestStackFromFile(t *testing.T) {
	parse := func(text string) *touchstone.Network {
		n, err := touchstone.Parse(text, 0)
		if err != nil {
			t.Fatal(err)
		}
		return n
	}
	got, err := StackFromFile(parse("# MHz S DB R 50\n100 -30 0 -40.2 0 -40.2 0 -30 0\n200 -30 0 -39.9 0 -39.9 0 -30 0\n"), 0.3)
	if err != nil || len(got) != 2 || math.Abs(got[1].DB-39.9) > 1e-9 || math.Abs(got[0].StandardUncertaintyDB-0.3/math.Sqrt(3)) > 1e-12 {
		t.Errorf("%+v %v", got, err)
	}
	for text, want := range map[string]string{
		"# MHz S DB R 50\n100 -30 0\n":                      "two-port",
		"# MHz S DB R 50\n100 -30 0 12 0 -40 0 -30 0\n":     "amplifies",
		"# MHz S RI R 50\n100 0.1 0 0 0 0.01 0 0.1 0\n":     "nothing passes",
		"# MHz S DB R 50\n100 -30 0 -0.1 0 -0.1 0 -30 0\n ": "",
	} {
		if _, err := StackFromFile(parse(text), 0.3); (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v", text, err)
		}
	}
	if _, err := StackFromFile(parse("# MHz S DB R 50\n100 -30 0 -1 0 -1 0 -30 0\n"), -1); err == nil {
		t.Error("a tolerance below 0")
	}
}

// TestBaseline: three meters on three transmitters, one reading not taken.
func TestBaseline(t *testing.T) {
	dbm := func(v float64) []units.Quantity { return []units.Quantity{{Value: v, Unit: units.UnitDBm}} }
	rows := []Row{
		{Transmitter: "handheld, high", Frequency: 145e6, Readings: [][]units.Quantity{dbm(37.0), dbm(36.8), dbm(37.4)}},
		{Transmitter: "handheld, low", Frequency: 145e6, Readings: [][]units.Quantity{dbm(30.0), dbm(29.6), dbm(30.3)}},
		{Transmitter: "mobile", Frequency: 433e6, Readings: [][]units.Quantity{dbm(44.0), nil, dbm(44.5)}},
	}
	if _, err := Baseline([]string{"a", "b"}, []Row{{Transmitter: "slip", Frequency: 145e6, Readings: [][]units.Quantity{dbm(37), dbm(-370)}}}); err == nil || !strings.Contains(err.Error(), "-370 dBm is no level") {
		t.Errorf("a slip: %v", err)
	}
	got, err := Baseline([]string{"a", "b", "c"}, rows)
	if err != nil {
		t.Fatal(err)
	}
	// By least squares over all eight readings (normal equations, solved apart from this code).
	c := got[2]
	if math.Abs(*c.OffsetDB-0.5375) > 1e-9 || c.Rows != 3 || *c.FromHz != 145e6 || *c.ToHz != 433e6 {
		t.Errorf("%+v", c)
	}
	b := got[1] // against the mean of a, which shows 0.25 dB less than c, and c: what the mobile lacks bends nothing
	if math.Abs(*b.OffsetDB+0.475) > 1e-9 || b.Each[2] != nil || b.Rows != 2 || *b.SpreadDB < 0.1 || *b.SpreadDB > 0.11 {
		t.Errorf("%+v %v", b, *b.OffsetDB)
	}
	got, err = Baseline([]string{"a", "b"}, []Row{{Transmitter: "x", Frequency: 145e6, Readings: [][]units.Quantity{watts(5), watts(10)}}})
	if err != nil || math.Abs(*got[1].OffsetDB-3.0103) > 1e-4 || got[1].SpreadDB != nil || *got[0].OffsetDB != -*got[1].OffsetDB {
		t.Errorf("%+v %v", got, err)
	}
	got, _ = Baseline([]string{"a", "b"}, []Row{{Transmitter: "x", Frequency: 145e6, Readings: [][]units.Quantity{watts(5), nil}}})
	if got[0].OffsetDB != nil || got[0].Rows != 0 {
		t.Error("a meter alone stands against nothing")
	}
	// Accepted, it says against what; of unknown spread, or against a corrected meter, it is none.
	three, _ := Baseline([]string{"a", "b", "c"}, rows)
	base, err := Accept(three, 2, make([]*reading.Baseline, 3), "2026-11-25")
	if err != nil || math.Abs(base.OffsetDB-0.5375) > 1e-9 || base.FromHz != 145e6 || base.ToHz != 433e6 || base.On != "2026-11-25" || base.Against != "a, b" {
		t.Errorf("%+v %v", base, err)
	}
	if again, err := Accept(three, 2, []*reading.Baseline{nil, nil, base}, "2026-12-01"); err != nil || again.On != "2026-12-01" {
		t.Errorf("its own does not stand in the way: %+v %v", again, err)
	}
	if _, err := Accept(three, 0, []*reading.Baseline{nil, nil, base}, ""); err == nil || !strings.Contains(err.Error(), "c already has an offset") {
		t.Errorf("%v", err)
	}
	if _, err := Accept(got, 0, make([]*reading.Baseline, 2), ""); err == nil || !strings.Contains(err.Error(), "no spread") {
		t.Errorf("%v", err)
	}
	for want, try := range map[string][]Row{
		"rows: give":           nil,
		"rows[0].frequency_hz": {{Transmitter: "x", Frequency: 0, Readings: [][]units.Quantity{watts(1), watts(1)}}},
		"rows[0].readings[1]":  {{Transmitter: "x", Frequency: 1e6, Readings: [][]units.Quantity{watts(1), watts(0)}}},
		"rows[0].readings":     {{Transmitter: "x", Frequency: 1e6, Readings: [][]units.Quantity{watts(1), watts(1), watts(1)}}},
	} {
		if _, err := Baseline([]string{"a", "b"}, try); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
	if _, err := Baseline([]string{"a"}, rows); err == nil {
		t.Error("one meter against nothing")
	}
}

// TestAMissingReadingBendsNothing: three meters exactly 0, 1 and 3 dB apart stand so
// whatever was not read; held against the mean of those read alone, the first would
// change by 1 dB with the third missing.
func TestAMissingReadingBendsNothing(t *testing.T) {
	dbm := func(v float64) []units.Quantity { return []units.Quantity{{Value: v, Unit: units.UnitDBm}} }
	rows := []Row{
		{Transmitter: "x", Frequency: 50e6, Readings: [][]units.Quantity{dbm(30), dbm(31), dbm(33)}},
		{Transmitter: "y", Frequency: 440e6, Readings: [][]units.Quantity{dbm(37), dbm(38), nil}},
		{Transmitter: "z", Frequency: 440e6, Readings: [][]units.Quantity{nil, dbm(41), dbm(43)}},
	}
	got, err := Baseline([]string{"a", "b", "c"}, rows)
	if err != nil {
		t.Fatal(err)
	}
	for j, want := range []float64{-2, -0.5, 2.5} {
		if math.Abs(*got[j].OffsetDB-want) > 1e-9 || *got[j].SpreadDB > 1e-9 {
			t.Errorf("%s: %v within %v, want %v", got[j].Meter, *got[j].OffsetDB, *got[j].SpreadDB, want)
		}
	}
	// Identical readings have the resolution as their spread: 0.1 dB steps of both, each over sqrt 12.
	for i := range rows {
		rows[i].StepDB = []float64{0.1, 0.1, 0.1}
	}
	if got, _ = Baseline([]string{"a", "b", "c"}, rows); math.Abs(*got[0].SpreadDB-0.1*math.Sqrt(2.0/12)) > 1e-9 {
		t.Errorf("spread %v", *got[0].SpreadDB)
	}
	// It holds near 50 and 440 MHz, not between.
	base, err := Accept(got, 0, make([]*reading.Baseline, 3), "")
	if err != nil {
		t.Fatal(err)
	}
	for f, want := range map[units.Hertz]bool{50e6: true, 52.4e6: true, 53e6: false, 146e6: false, 430e6: true} {
		r, err := reading.Refer(reading.Input{Values: dbm(37), Frequency: f, Meter: reading.Meter{Baseline: base}, Path: &path.Path{}})
		if err != nil || (r.BaselineDB != nil) != want {
			t.Errorf("%v: taken out %v, %v", f, r.BaselineDB != nil, err)
		}
	}
	// Meters with no row in common, not even through others, do not stand against each other.
	apart, _ := Baseline([]string{"a", "b"}, []Row{{Transmitter: "x", Frequency: 1e8, Readings: [][]units.Quantity{dbm(30), nil}}, {Transmitter: "y", Frequency: 1e8, Readings: [][]units.Quantity{nil, dbm(31)}}})
	if apart[0].OffsetDB != nil || apart[1].OffsetDB != nil {
		t.Errorf("%+v", apart)
	}
}
