package emissions_test

import (
	"fmt"
	"testing"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/measure/emissions"
)

// TestRungs: 20 dB on each side of the limit line at 50 %; 2 dB of uncertainty are 5 % to each side of
// the end; no whisker where nothing was seen; the colour is that of the ruling.
func TestRungs(t *testing.T) {
	sight := "a"
	r := emissions.Ruling{
		Budget: &judge.LevelBudget{Absolute: 1, Relative: 2},
		Sweeps: []emissions.SweepView{{Name: "b", Budget: &judge.LevelBudget{Absolute: 9, Relative: 9}}, {Name: "a", Budget: &judge.LevelBudget{Absolute: 2, Relative: 4}}},
	}
	dB := func(v float64) *float64 { return &v }
	for _, c := range []struct {
		p    judge.Product
		want string
	}{
		{judge.Product{}, "room <nil> <nil> false"},
		{judge.Product{RoomDB: dB(10), Seen: true, Sweep: &sight, Verdict: decision.Pass}, "room &{25 50} &{20 30} false"},
		{judge.Product{RoomDB: dB(10), Seen: true, Verdict: decision.Pass}, "room &{25 50} &{22.5 27.5} false"},
		{judge.Product{RoomDB: dB(10), Sweep: &sight, Verdict: decision.Pass}, "room &{25 50} <nil> false"},
		{judge.Product{RoomDB: dB(-4), Seen: true, Sweep: &sight, Verdict: decision.Fail}, "over &{50 60} &{55 65} false"},
		{judge.Product{RoomDB: dB(-0.1), Verdict: decision.Inconclusive}, "doubt &{50 50.25} <nil> false"},
		{judge.Product{RoomDB: dB(20), Seen: true, Sweep: &sight, Verdict: decision.Pass}, "room &{0 50} &{0 5} false"},
		{judge.Product{RoomDB: dB(20.1), Verdict: decision.Pass}, "room &{0 50} <nil> true"},
		{judge.Product{RoomDB: dB(-30), Seen: true, Sweep: &sight, Verdict: decision.Fail}, "over &{50 100} &{95 100} true"},
	} {
		g := r.RungOf(&c.p)
		if got := fmt.Sprint(g.Class, " ", g.Bar, " ", g.Whisker, " ", g.Clipped); got != c.want {
			t.Errorf("%+v: %s, want %s", c.p.RoomDB, got, c.want)
		}
	}
	r.Relative = true
	if got := r.RungOf(&judge.Product{RoomDB: dB(10), Seen: true, Sweep: &sight}).Whisker; *got != (emissions.Stretch{From: 15, To: 35}) {
		t.Errorf("against the carrier: %+v", got)
	}
	r.Budget, r.Sweeps = nil, nil
	if got := r.UncertaintyOf(&judge.Product{}); got != 0 {
		t.Errorf("of nothing: %g", got)
	}
}
