package deviation

import (
	"math"
	"strings"
	"talloak/core/audio"
	"testing"

	"talloak/core/decision"
)

func v(x float64) *float64 { return &x }

// TestZerosOfJ0 against Abramowitz and Stegun, table 9.5 (from memory).
func TestZerosOfJ0(t *testing.T) {
	for n, want := range map[int]float64{1: 2.4048255577, 2: 5.5200781103, 3: 8.6537279129, 4: 11.7915344391, 5: 14.9309177086, 10: 30.6346064684} {
		if got := audio.J0Zero(n); math.Abs(got-want) > 1e-9 {
			t.Errorf("zero %d: %.10f, want %.10f", n, got, want)
		}
	}
}

func ask(change func(*Input)) Input {
	in := Input{HighestAudioHz: 3000, Rule: decision.Guarded}
	change(&in)
	return in
}

// TestPracticeCases: 2079 Hz sets 5 kHz by the first null; 2.27 kHz of deviation and 3 kHz of
// speech are 10.5 kHz by Carson's rule (common practice, no source).
func TestPracticeCases(t *testing.T) {
	null := 1
	out, err := Measure(ask(func(in *Input) { in.Tone, in.Null = v(2079), &null }))
	if err != nil || math.Abs(out.DeviationHz-5000) > 1 || math.Abs(*out.Index-2.4048) > 1e-4 || out.Findings[0].Code != "no-uncertainty" {
		t.Errorf("%+v %v", out, err)
	}
	out, err = Measure(ask(func(in *Input) { in.Plus, in.Minus, in.ResolutionHz = v(2270), v(2100), v(0) }))
	if err != nil || math.Abs(out.CarsonHz-10540) > 1e-9 || *out.AsymmetryHz != 170 || len(out.Findings) != 0 || out.Verdict != nil {
		t.Errorf("%+v %v", out, err)
	}
	// U: 5 % of 4310 and half of 10 Hz, each over sqrt 3, twice their root sum square.
	for most, want := range map[float64]decision.Verdict{4559: decision.Pass, 4558: decision.Inconclusive, 4062: decision.Inconclusive, 4061: decision.Fail} {
		out, err = Measure(ask(func(in *Input) { in.Plus, in.PctReading, in.ResolutionHz, in.AtMostHz = v(4310), v(5), v(10), &most }))
		if err != nil || math.Abs(out.UncertaintyHz-2*math.Hypot(215.5, 5)/math.Sqrt(3)) > 1e-9 || *out.Verdict != want {
			t.Errorf("at most %g: %+v %v, want %s", most, out, err, want)
		}
	}
}

// TestLinesGiveTheIndexBack: levels made from Bessel functions, whatever their scale and with
// lines left out; what fits no tone is said.
func TestLinesGiveTheIndexBack(t *testing.T) {
	for _, b := range []float64{0.3, 1.434, 2.4048, 3.8317, 5, 8.5, 11.9} {
		var lines []*float64
		for k := range 9 {
			if j := math.Abs(math.Jn(k, b)); j > 1e-4 && k != 2 {
				lines = append(lines, v(-13+20*math.Log10(j)))
			} else {
				lines = append(lines, nil)
			}
		}
		out, err := Measure(ask(func(in *Input) { in.Tone, in.Lines, in.LineDB = v(1000), lines, v(0.5) }))
		if err != nil || math.Abs(out.DeviationHz-1000*b) > 0.5 || out.UncertaintyHz <= 0 || len(out.Findings) != 0 {
			t.Errorf("index %g: %+v %v", b, out, err)
		}
	}
	out, err := Measure(ask(func(in *Input) { in.Tone, in.Lines = v(1000), []*float64{v(-10), v(-60), v(-10), v(-60), v(-10)} }))
	if err != nil || out.Findings[0].Code != "fit-poor" {
		t.Errorf("%+v %v", out, err)
	}
}

// TestWhatIsNoDeviation is refused at its field.
func TestWhatIsNoDeviation(t *testing.T) {
	null, eleven := 1, 11
	for want, change := range map[string]func(*Input){
		"plus_hz: give one":       func(in *Input) {},
		"plus_hz: give one of":    func(in *Input) { in.Plus, in.Tone, in.Null = v(1), v(1), &null },
		"tone_hz: is missing":     func(in *Input) { in.Null = &null },
		"tone_hz: give the tone":  func(in *Input) { in.Tone, in.Null = v(0), &null },
		"null: give which":        func(in *Input) { in.Tone, in.Null = v(1), &eleven },
		"lines_dbm: give three":   func(in *Input) { in.Tone, in.Lines = v(1), []*float64{v(1), nil, v(2)} },
		"minus_hz: give 0":        func(in *Input) { in.Minus = v(-1) },
		"at_least_hz: cannot be":  func(in *Input) { in.Plus, in.AtLeastHz, in.AtMostHz = v(1), v(2), v(1) },
		"decision_rule: give gua": func(in *Input) { in.Plus, in.Rule = v(1), "kind" },
	} {
		if _, err := Measure(ask(change)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}
