package reading

import (
	"flag"
	"fmt"
	"math"
	"math/rand/v2"
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
