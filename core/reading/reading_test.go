package reading

import (
	"flag"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"talloak/core/path"
	"talloak/core/units"
)

// trials is how often each meter is drawn; scripts/trial.sh draws more.
var trials = flag.Int("trials", 1500, "draws a meter in the Monte Carlo")

// TestCoverage: over meters whose errors are drawn within their ratings, with the
// typical scatter of 1 % that nobody found out, the printed interval covers the true
// power at least 95 times in 100, with one, two, three and five readings (JCGM 100).
func TestCoverage(t *testing.T) {
	trials := *trials
	if testing.Verbose() {
		fmt.Println("| meter | readings | covered |\n| --- | --- | --- |")
	}
	r := rand.New(rand.NewPCG(3, 4))
	within := func(half float64) float64 { return half * (2*r.Float64() - 1) }
	for _, c := range []struct{ pct, fullScale float64 }{{5, 0}, {10, 0}, {25, 0}, {0, 5}, {3, 10}, {0.5, 0}} {
		for _, n := range []int{1, 2, 3, 5} {
			covered := 0
			for range trials {
				trueW, scale := 1+8*r.Float64(), 10.0
				slope, zero := within(c.pct/100), within(c.fullScale/100*scale)
				in := Input{Frequency: 146e6, Path: &path.Path{}, Meter: Meter{PctReading: c.pct, PctFullScale: c.fullScale, ScaleW: &scale, TypicalRepeatability: true}}
				for range n {
					shown := (trueW - zero) / (1 + slope) * (1 + 0.01*r.NormFloat64())
					in.Values = append(in.Values, units.Quantity{Value: max(1e-6, shown), Unit: units.W})
				}
				got, err := Refer(in)
				if err != nil {
					t.Fatal(err)
				}
				if trueW >= *got.LowW && trueW <= *got.HighW {
					covered++
				}
			}
			share := float64(covered) / float64(trials)
			if testing.Verbose() {
				fmt.Printf("| %v %% of reading, %v %% of 10 W | %d | %.1f %% |\n", c.pct, c.fullScale, n, 100*share)
			}
			if share < 0.95-2*math.Sqrt(0.05*0.95/float64(trials)) {
				t.Errorf("%v %% of reading, %v %% of full scale, %d readings: covered %.1f %%", c.pct, c.fullScale, n, 100*share)
			}
		}
	}
}

// TestRepeatability: two bounces do not ruin a figure, and one does not look better
// than it is: 5.1 5.2 is less than twice as wide as 5.1.
func TestRepeatability(t *testing.T) {
	width := func(m Meter, pooled *Pooled, shown ...float64) float64 {
		in := Input{Frequency: 146e6, Path: &path.Path{}, Meter: m, Pooled: pooled}
		for _, w := range shown {
			in.Values = append(in.Values, units.Quantity{Value: w, Unit: units.W})
		}
		got, err := Refer(in)
		if err != nil {
			t.Fatal(err)
		}
		return got.Budget.Standard()
	}
	digital := Meter{TypicalRepeatability: true}
	if one, two := width(digital, nil, 5.1), width(digital, nil, 5.1, 5.2); two > 2*one || one < 0.0138 || one > 0.014 {
		t.Errorf("one %v, two %v; one is 1 %% times t95(4)/2 = 1.388", one, two)
	}
	// JCGM 100, 4.2.4: 1 % known by 4 and 3 % by 6 are sqrt((4 + 54)/10) = 2.408 %, t95(10) is 2.228.
	if got, want := width(digital, &Pooled{0.03, 6}, 5), 0.02408*2.228/2; math.Abs(got-want) > 1e-5 {
		t.Errorf("pooled %v, want %v", got, want)
	}
	// A needle is read to a fifth of a division: 0.1 W of 0.5, and its scatter is as much.
	needle := Meter{Needle: true, DigitW: 0.5, TypicalRepeatability: true}
	if got, want := width(needle, nil, 5), math.Hypot(0.02, 0.02*2.776/2); math.Abs(got-want) > 1e-5 {
		t.Errorf("needle %v, want %v", got, want)
	}
}

// TestEdgesOfAScale: under a tenth of it is the wrong one, at the end of it nothing is read.
func TestEdgesOfAScale(t *testing.T) {
	scale := 20.0
	for w, want := range map[float64]string{1.9: "low-on-scale", 2: "", 2.1: "", 19.9: "", 20: "pegged"} {
		out, err := Refer(Input{Values: []units.Quantity{{Value: w, Unit: units.W}}, Frequency: 146e6, Meter: Meter{PctReading: 5, ScaleW: &scale}, Path: &path.Path{}})
		if err != nil {
			t.Fatal(err)
		}
		got := ""
		for _, f := range out.Flags {
			got += string(f.Code)
		}
		if got != want || out.Counts == (want == "pegged") {
			t.Errorf("%g W of 20 W: %q, want %q", w, got, want)
		}
	}
}

// TestMetersThatAreNone are refused at their field.
func TestMetersThatAreNone(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	good := Input{Values: []units.Quantity{{Value: 5, Unit: units.W}}, Frequency: 146e6, Meter: Meter{PctReading: 5, FromHz: v(1e6), ToHz: v(5e8), ScaleW: v(20), SWR: v(1.1)}, SourceSWR: v(1), Path: &path.Path{}}
	if _, err := Refer(good); err != nil {
		t.Fatal(err)
	}
	for field, spoil := range map[string]func(*Input){
		"frequency_hz": func(in *Input) { in.Frequency = 0 }, "text": func(in *Input) { in.Values = nil }, "source_swr": func(in *Input) { in.SourceSWR = v(0.9) },
		"pooled.s_relative": func(in *Input) { in.Pooled = &Pooled{SRelative: -1, Degrees: 2} }, "pooled.degrees": func(in *Input) { in.Pooled = &Pooled{SRelative: 0.1} },
		"meter.from_hz": func(in *Input) { in.Meter.FromHz = v(-1) }, "meter.to_hz": func(in *Input) { in.Meter.ToHz = v(1e6) }, "meter.scale_w: give": func(in *Input) { in.Meter.ScaleW = v(0) },
		"meter.scale_w: a": func(in *Input) { in.Meter.ScaleW, in.Meter.PctFullScale = nil, 5 }, "meter.pct_reading": func(in *Input) { in.Meter.PctReading = -1 }, "meter.pct_full_scale": func(in *Input) { in.Meter.PctFullScale = -1 },
		"meter.db": func(in *Input) { in.Meter.DB = -1 }, "meter.digit_w": func(in *Input) { in.Meter.DigitW = -1 }, "meter.expanded_db": func(in *Input) { in.Meter.ExpandedDB = -1 }, "meter.expanded_pct": func(in *Input) { in.Meter.ExpandedPct = -1 },
		"meter.needle_w": func(in *Input) { in.Meter.NeedleW = -1 }, "meter.coverage_factor": func(in *Input) { in.Meter.CoverageFactor = v(0) }, "meter.repeatability_pct": func(in *Input) { in.Meter.RepeatabilityPct = v(-1) }, "meter.swr": func(in *Input) { in.Meter.SWR = v(0.9) },
		"meter.baseline.standard": func(in *Input) { in.Meter.Baseline = &Baseline{UncertaintyDB: -1, FromHz: 1, ToHz: 2} }, "meter.baseline.to_hz": func(in *Input) { in.Meter.Baseline = &Baseline{FromHz: 2, ToHz: 1} },
		"applied_offset_db": func(in *Input) { in.Values[0].Value, in.AppliedOffsetDB = 1e300, -100 },
	} {
		bad := good
		bad.Values = []units.Quantity{good.Values[0]}
		spoil(&bad)
		if _, err := Refer(bad); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
	edge := good
	edge.Meter.FromHz, edge.SourceSWR, edge.Meter.SWR = v(0), v(1), v(1)
	if _, err := Refer(edge); err != nil {
		t.Error(err)
	}
}

// TestABudgetNamesWhatIsTypical of its kind, stated by nobody.
func TestABudgetNamesWhatIsTypical(t *testing.T) {
	tolerance, loss := 0.3, 1.0
	for typical, want := range map[bool]string{true: "meter, of reading, typical of its kind; loss of the path, tolerance typical of its kind for pad", false: "meter, of reading; loss of the path"} {
		p, err := path.Compile([]path.Element{{Kind: path.Attenuator, Name: "pad", Loss: &path.Loss{FlatDB: &loss}, ToleranceDB: &tolerance, TypicalTolerance: typical}})
		if err != nil {
			t.Fatal(err)
		}
		out, err := Refer(Input{Values: []units.Quantity{{Value: 5, Unit: units.W}}, Frequency: 146e6, Meter: Meter{PctReading: 5, TypicalAccuracy: typical}, Path: p})
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, l := range out.Budget {
			got = append(got, l.Source)
		}
		if strings.Join(got, "; ") != want {
			t.Errorf("%v", got)
		}
	}
}

// TestOneSupply within 2 % (common practice, no source).
func TestOneSupply(t *testing.T) {
	for volts, want := range map[float64]bool{13.8: true, 13.53: true, 13.51: false, 14.07: true, 14.09: false} {
		if SameSupply(13.8, volts) != want {
			t.Errorf("13.8 and %g V: %v", volts, !want)
		}
	}
}

// TestJoin: sets that count are joined by their uncertainty; of those that do not nothing is taken; what two say
// alike is said once.
func TestJoin(t *testing.T) {
	set := func(w, pct float64, counts bool) Result {
		out, err := Refer(Input{Values: []units.Quantity{{Value: w, Unit: units.W}}, Frequency: 146e6, Meter: Meter{PctReading: pct}, Path: &path.Path{}})
		if err != nil {
			t.Fatal(err)
		}
		out.Counts = counts
		return out
	}
	for _, c := range []struct {
		sets       []Result
		w          float64
		agree      bool
		low, high  float64
		uncertain  bool
		whatCounts bool
	}{
		{[]Result{set(5, 5, true), set(9, 5, false)}, 5, true, 0, 0, true, true},
		{[]Result{set(9, 5, false), set(5, 5, true)}, 5, true, 0, 0, true, true},
		{[]Result{set(9, 5, false), set(5, 5, false)}, 9, true, 0, 0, true, false},
		{[]Result{set(5, 5, true), set(5.2, 5, true)}, 5.096, true, 0, 0, true, true}, // (5/25 + 5.2/27.04) / (1/25 + 1/27.04)
		{[]Result{set(5, 5, true), set(8, 5, true)}, 5.843, false, 4.711, 8.462, true, true},
		{[]Result{set(0, 5, true), set(0, 5, true)}, 0, true, 0, 0, false, true},
		{[]Result{set(5, 0, true), set(6, 0, true)}, 5.5, false, 5, 6, false, true},
	} {
		got := Join(c.sets)
		if !(math.Abs(*got.AtConnectorW-c.w) <= 1e-3) || (got.AtConnectorDBm == nil) != (c.w == 0) || got.Agree != c.agree || got.Counts != c.whatCounts {
			t.Errorf("%+v: %g W, agree %v, counts %v", c, *got.AtConnectorW, got.Agree, got.Counts)
		}
		if c.high > 0 && (got.LowW == nil || math.Abs(*got.LowW-c.low) > 0.02 || math.Abs(*got.HighW-c.high) > 0.02) {
			t.Errorf("%+v: %v to %v", c, got.LowW, got.HighW)
		}
	}
	scale := 200.0
	low := func() Result {
		out, err := Refer(Input{Values: []units.Quantity{{Value: 5, Unit: units.W}}, Frequency: 146e6, Meter: Meter{PctReading: 5, ScaleW: &scale}, Path: &path.Path{}})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	if got := Join([]Result{low(), low()}).Flags; len(got) != 1 {
		t.Errorf("%+v", got)
	}
}

// TestWhatIsUnsteady: repeats over a tenth of their mean apart; how one reading scatters, stated or typical.
func TestWhatIsUnsteady(t *testing.T) {
	for second, want := range map[float64]bool{4.53: false, 4.51: true, 5.5: false, 5.6: true} { // of a mean near 5
		out, err := Refer(Input{Values: []units.Quantity{{Value: 5, Unit: units.W}, {Value: second, Unit: units.W}}, Frequency: 146e6, Meter: Meter{PctReading: 5}, Path: &path.Path{}})
		if err != nil {
			t.Fatal(err)
		}
		got := false
		for _, f := range out.Flags {
			got = got || f.Code == "unsteady"
		}
		if got != want {
			t.Errorf("5 and %g W: %v", second, got)
		}
	}
	two := 2.0
	if a, b := (Meter{}).OneReading(), (Meter{RepeatabilityPct: &two}).OneReading(); a != TypicalRepeatability || b != 0.02 {
		t.Errorf("%g, %g", a, b)
	}
}

// TestTypicalOfAnalyzersAndRepeats is said in the budget, where nobody stated it.
func TestTypicalOfAnalyzersAndRepeats(t *testing.T) {
	two := 2.0
	for typical, want := range map[bool]int{true: 2, false: 0} {
		out, err := Refer(Input{Values: []units.Quantity{{Value: 5, Unit: units.W}}, Frequency: 146e6, Meter: Meter{LevelDB: 0.5, LevelDistribution: "rectangular", TypicalAccuracy: typical, RepeatabilityPct: &two, TypicalRepeatability: typical}, Path: &path.Path{}})
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for _, l := range out.Budget {
			if strings.Contains(l.Source, "typical of its kind") {
				n++
			}
		}
		if n != want || len(out.Budget) != 2 {
			t.Errorf("typical %v: %+v", typical, out.Budget)
		}
	}
}
