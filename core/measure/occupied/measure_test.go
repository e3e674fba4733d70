package occupied

import (
	"math"
	"strings"
	"testing"

	"talloak/core/decision"
)

// block is a sweep of n points 100 Hz apart with an even emission in the middle.
func block(n, wide int, emission, noise float64) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = noise
		if i >= (n-wide)/2 && i < (n+wide)/2 {
			out[i] = emission
		}
	}
	return out
}

// TestAnEvenEmission: 99 % of one that is as strong all over is 99 % of its width, by the
// definition of ITU Radio Regulations 1.153 (from memory); what filter, noise, span and step cost
// is said, and keeps from ruling.
func TestAnEvenEmission(t *testing.T) {
	rbw, most := 100.0, 8200.0
	in := Input{StartHz: 0, StopHz: 19900, Levels: block(200, 80, -20, -120), RBWHz: &rbw, Percent: 99, BelowDB: 26, AtMostHz: &most, Rule: decision.Guarded}
	out, err := Measure(in)
	if err != nil || math.Abs(out.OccupiedHz-0.99*8000) > 0.1 || math.Abs(out.CentreHz-9950) > 0.1 || out.UncertaintyHz != 250 || *out.Verdict != decision.Pass || len(out.Findings) != 0 {
		t.Errorf("%+v %v", out, err)
	}
	if *out.BelowHz < 7900 || *out.BelowHz > 8100 {
		t.Errorf("%+v", *out.BelowHz)
	}
	for bound, want := range map[float64]decision.Verdict{8171: decision.Pass, 8169: decision.Inconclusive, 7671: decision.Inconclusive, 7669: decision.Fail} {
		in.AtMostHz = &bound
		if out, _ = Measure(in); *out.Verdict != want {
			t.Errorf("at most %g: %s, want %s", bound, *out.Verdict, want)
		}
	}
	few := 1000.0
	wide, narrow := 300.0, 50.0
	for _, x := range []struct {
		code   string
		change func(*Input)
		bound  float64
	}{
		{"no-rbw", func(in *Input) { in.RBWHz = nil }, 0},
		{"rbw-wide", func(in *Input) { in.RBWHz = &wide }, few},
		{"noise", func(in *Input) { in.Levels = block(200, 80, -20, -40) }, few},
		{"span-narrow", func(in *Input) { in.Levels = block(200, 140, -20, -120) }, 1e6},
		{"step-wide", func(in *Input) { in.RBWHz = &narrow }, few},
	} {
		ask := in
		x.change(&ask)
		ask.AtMostHz = &x.bound
		if x.bound == 0 {
			ask.AtMostHz = nil
		}
		out, err := Measure(ask)
		found := false
		for _, f := range out.Findings {
			found = found || string(f.Code) == x.code
		}
		if err != nil || !found || ask.AtMostHz != nil && *out.Verdict != decision.Inconclusive {
			t.Errorf("%s: %+v %v", x.code, out, err)
		}
	}
	in.Levels = block(200, 200, -20, -120)
	in.AtMostHz = nil
	if out, _ = Measure(in); out.BelowHz != nil || out.BelowLowHz != nil || out.Verdict != nil {
		t.Errorf("one that does not fall: %+v", out)
	}
}

// TestWhatIsNoSweep is refused at its field.
func TestWhatIsNoSweep(t *testing.T) {
	good := Input{StartHz: 0, StopHz: 100, Levels: make([]float64, 11), Percent: 99, BelowDB: 26, Rule: decision.Guarded}
	if _, err := Measure(good); err != nil {
		t.Fatal(err)
	}
	zero := 0.0
	for want, change := range map[string]func(*Input){
		"sweep.levels_dbm: give 11": func(in *Input) { in.Levels = in.Levels[1:] }, "sweep.stop_hz": func(in *Input) { in.StopHz = 0 }, "percent": func(in *Input) { in.Percent = 50 },
		"percent: give over": func(in *Input) { in.Percent = 100 }, "below_db": func(in *Input) { in.BelowDB = 0 }, "sweep.rbw_hz": func(in *Input) { in.RBWHz = &zero },
	} {
		in := good
		change(&in)
		if _, err := Measure(in); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}

// TestEdgesOfWhatIsDoubted: a filter over 3 % of the width, a span under one and a half of it (common
// practice, no source); what is no level.
func TestEdgesOfWhatIsDoubted(t *testing.T) {
	codes := func(rbw float64, n int) string {
		most := 9000.0
		out, err := Measure(Input{StartHz: 0, StopHz: float64(n-1) * 100, Levels: block(n, 80, -20, -120), RBWHz: &rbw, Percent: 99, BelowDB: 26, AtMostHz: &most, Rule: decision.Guarded})
		if err != nil {
			t.Fatal(err)
		}
		var all []string
		for _, f := range out.Findings {
			all = append(all, string(f.Code))
		}
		return strings.Join(all, " ")
	}
	for rbw, wide := range map[float64]bool{235: false, 240: true} { // of 7920 Hz
		if got := codes(rbw, 200); strings.Contains(got, "rbw-wide") != wide {
			t.Errorf("%g Hz: %s", rbw, got)
		}
	}
	for n, narrow := range map[int]bool{122: false, 116: true} {
		if got := codes(100, n); strings.Contains(got, "span-narrow") != narrow {
			t.Errorf("%d points: %s", n, got)
		}
	}
	for level, refused := range map[float64]bool{-1000: false, -1001: true} {
		levels := block(200, 80, -20, -120)
		levels[3] = level
		if _, err := Measure(Input{StartHz: 0, StopHz: 19900, Levels: levels, Percent: 99, BelowDB: 26, Rule: decision.Guarded}); (err != nil) != refused {
			t.Errorf("%g dBm: %v", level, err)
		}
	}
}

// TestBoundsThatAreNone are refused at their field.
func TestBoundsThatAreNone(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	for field, spoil := range map[string]func(*Input){
		"at_most_hz": func(in *Input) { in.AtMostHz = v(-1) }, "decision_rule": func(in *Input) { in.Rule = "hope" }, "sweep.rbw_hz": func(in *Input) { in.RBWHz = v(0) }, "sweep.stop_hz": func(in *Input) { in.StopHz = 0 },
		"sweep.levels_dbm": func(in *Input) { in.Levels = in.Levels[:10] }, "percent": func(in *Input) { in.Percent = 100 }, "below_db": func(in *Input) { in.BelowDB = 0 },
	} {
		in := Input{StartHz: 0, StopHz: 19900, Levels: block(200, 80, -20, -120), Percent: 99, BelowDB: 26, Rule: decision.Guarded}
		spoil(&in)
		if _, err := Measure(in); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}
