package diagnose

import (
	"math"
	"strings"
	"testing"

	"talloak/core/reading"
	"talloak/core/say"
	"talloak/core/units"
)

func codes(s []say.Said) string {
	var out []string
	for _, x := range s {
		out = append(out, string(x.Code))
	}
	return strings.Join(out, " ")
}

func TestLevels(t *testing.T) {
	high, mid := LevelReading{"High", 5}, LevelReading{"Mid", 2}
	for _, c := range []struct {
		now          LevelReading
		above, below []LevelReading
		want         string
	}{
		{LevelReading{"Low", 0.5}, []LevelReading{high, mid}, nil, ""},
		{LevelReading{"Low", 2.1}, []LevelReading{high, mid}, nil, "levels-alike"},
		{LevelReading{"Low", 3}, []LevelReading{mid}, nil, "levels-out-of-order"},
		{high, nil, []LevelReading{mid}, ""},
		{LevelReading{"High", 1}, nil, []LevelReading{mid}, "levels-out-of-order"},
		{LevelReading{"High", 0}, nil, []LevelReading{mid}, ""},
	} {
		if got := codes(Levels(c.now, c.above, c.below)); got != c.want {
			t.Errorf("%+v: %q, want %q", c.now, got, c.want)
		}
	}
}

func TestOverLegal(t *testing.T) {
	if got := codes(OverLegal(5.1, 5)); got != "over-legal" || OverLegal(5, 5) != nil {
		t.Errorf("%q", got)
	}
}

func TestCheck(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	for _, c := range []struct {
		setup Setup
		want  string
		void  bool
	}{
		{Setup{LevelMeant: "High", LevelShown: "h"}, "", false},
		{Setup{LevelMeant: "High", LevelShown: "l"}, "level-shown", false},
		{Setup{LevelMeant: "Low", LevelShown: "lo", SWR: v(1.1)}, "", false},
		{Setup{SWR: v(2)}, "swr", false},
		{Setup{SupplyV: v(10.4), SupplyMinV: v(11)}, "supply-low", true},
		{Setup{SupplyV: v(11), SupplyMinV: v(11)}, "", false},
	} {
		got, void := Check(c.setup)
		if codes(got) != c.want || (void != "") != c.void {
			t.Errorf("%+v: %q %v", c.setup, codes(got), void)
		}
	}
}

// TestDriftBegins at three per cent, over three repeats that only fall.
func TestDriftBegins(t *testing.T) {
	for _, c := range []struct {
		repeats []float64
		want    int
	}{{[]float64{5, 4.9, 4.84}, 1}, {[]float64{5, 4.9, 4.86}, 0}, {[]float64{5, 4.5}, 0}, {[]float64{5, 4.7, 4.7}, 0}, {[]float64{0, 0, 0}, 0}, {nil, 0}} {
		if got := Drift(c.repeats); len(got) != c.want {
			t.Errorf("%v: %v", c.repeats, got)
		}
	}
}

// TestTowardATarget: within 0.2 dB one stops, 4.78 W to 5.23 W of 5 W; turned down to a class, at it and
// not over it.
func TestTowardATarget(t *testing.T) {
	for _, c := range []struct {
		w, low, high units.Watts
		atMost       bool
		toward       string
		reached      string
	}{
		{4.79, 4.7, 4.9, false, "stop", "yes"}, {4.76, 4.7, 4.9, false, "more", "no"}, {5.22, 5.2, 5.3, false, "stop", "yes"}, {5.25, 5.2, 5.3, false, "down", "no"}, {0, 0, 0, false, "more", "no"},
		{5, 4.9, 5, true, "stop", "yes"}, {5, 4.9, 5.01, true, "down", "too close to call"}, {5.2, 5.01, 5.3, true, "down", "no"}, {0, 0, 0, true, "more", "no"},
	} {
		if toward, reached := Toward(c.w, c.low, c.high, 5, 1, c.atMost); toward != c.toward || reached != c.reached {
			t.Errorf("%+v: %s, %s", c, toward, reached)
		}
	}
}

// TestEdgesOfLevels: within half a dB levels read alike, at half a dB they are in order; one stops within
// 0.2 dB of a target.
func TestEdgesOfLevels(t *testing.T) {
	by := func(db float64) float64 { return 5 * math.Pow(10, db/10) }
	for db, want := range map[float64]string{-0.49: "levels-alike", -0.51: "", 0.49: "levels-alike", 0.51: "levels-out-of-order"} {
		if got := codes(Levels(LevelReading{"Low", by(db)}, []LevelReading{{"High", 5}}, nil)); got != want {
			t.Errorf("%g dB: %q, want %q", db, got, want)
		}
	}
	for db, want := range map[float64]string{0.199: "stop", -0.199: "stop", 0.201: "down", -0.201: "more"} {
		w := units.Watts(by(db))
		if got, _ := Toward(w, w, w, 5, 1.5, false); got != want {
			t.Errorf("%g dB from the target: %s, want %s", db, got, want)
		}
	}
}

// TestEdgesOfASupply: 5 % under what it is set to is a sag, a tenth under its nominal no figure for a claim
// (common practice, no source); over what the radio takes is over.
func TestEdgesOfASupply(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	for volts, want := range map[float64]string{9.51: "", 9.49: "supply-sagged", 12: "", 12.1: "over-voltage"} {
		if got := codes(Supply(&volts, v(10), v(12))); got != want {
			t.Errorf("%g V: %q, want %q", volts, got, want)
		}
	}
	for volts, want := range map[float64]bool{9.01: false, 8.99: true} {
		if got := len(BelowNominal(&volts, v(10))) > 0; got != want {
			t.Errorf("%g V of 10: %v", volts, got)
		}
	}
	if Supply(nil, v(10), v(12)) != nil || BelowNominal(v(1), nil) != nil || BelowNominal(nil, v(1)) != nil {
		t.Error("of what is not known")
	}
}

// TestSettingsOfABand: how many powers its levels have; where each has its own, nothing is said.
func TestSettingsOfABand(t *testing.T) {
	for _, c := range []struct {
		watts []float64
		said  bool
	}{{nil, false}, {[]float64{5}, false}, {[]float64{5, 2}, false}, {[]float64{5, 4.5}, true}, {[]float64{5, 4.4}, false}, {[]float64{5, 0}, false}, {[]float64{5, 2, 2}, true}} {
		var levels []LevelReading
		for _, w := range c.watts {
			levels = append(levels, LevelReading{W: w})
		}
		if got := len(Settings(levels)) > 0; got != c.said {
			t.Errorf("%v: %v", c.watts, got)
		}
	}
}

// TestTowardAClass: a target that is not to be exceeded: met by the whole of the reading, and nothing shown meets none.
func TestTowardAClass(t *testing.T) {
	for _, c := range []struct {
		w, low, high units.Watts
		atMost       bool
		want         string
	}{
		{5, 4.8, 5, true, "stop yes"}, {5, 4.8, 5.2, true, "down too close to call"}, {5.5, 5.1, 5.9, true, "down no"}, {0, 0, 0, true, "more no"}, {0, 0, 0, false, "more no"},
	} {
		toward, reached := Toward(c.w, c.low, c.high, 5, 1.5, c.atMost)
		if got := toward + " " + reached; got != c.want {
			t.Errorf("%+v: %s", c, got)
		}
	}
}

// TestWhatElseWouldExplainAPair: with one pair a loss cannot be told from a meter; what would do too is said,
// but of what agrees.
func TestWhatElseWouldExplainAPair(t *testing.T) {
	u := 0.2
	one := func(expected float64, pairs ...Pair) Difference {
		d, err := Compare(Question{Pairs: pairs, ExpectedDB: &expected, UncertaintyDB: u})
		if err != nil {
			t.Fatal(err)
		}
		return d
	}
	if d := one(0, Pair{AW: 5, BW: 4}); !strings.Contains(d.Detail, "one pair cannot tell") && !strings.Contains(d.Detail, "one loss") {
		t.Errorf("%+v", d)
	}
	if d := one(1, Pair{AW: 5, BW: 3.97}); strings.Contains(d.Detail, "would explain it too") {
		t.Errorf("%+v", d)
	}
}

// TestPairsOfOnePower tell no line; of a result without an interval none is known.
func TestPairsOfOnePower(t *testing.T) {
	d, err := Compare(Question{Pairs: []Pair{{AW: 5, BW: 4}, {AW: 5, BW: 3}}, UncertaintyDB: 0.1})
	if err != nil || d.Slope != nil || math.IsNaN(d.MeanDB) {
		t.Errorf("%+v %v", d, err)
	}
	one, four := 1.0, 4.0
	if depth, low, high := AMDepth(&reading.Result{AtConnectorW: &one}, &reading.Result{AtConnectorW: &four}); math.Abs(depth-1) > 1e-9 || math.Abs(low-1) > 1e-9 || math.Abs(high-1) > 1e-9 {
		t.Errorf("%g, %g to %g", depth, low, high)
	}
}
