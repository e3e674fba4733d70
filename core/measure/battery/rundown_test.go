package battery

import (
	"math"
	"strings"
	"testing"

	"talloak/core/decision"
)

func v(x float64) *float64 { return &x }

// TestRunDown: 1 A for an hour at 7.4 V is 1,000 mAh and 7.4 Wh, by definition; a cutoff ends it
// between points, and one that ends with its last point never fails.
func TestRunDown(t *testing.T) {
	steady := []Point{{0, 7.4, 1}, {1800, 7.4, 1}, {3600, 7.4, 1}}
	out, err := RunDown(Input{Points: steady, LabelMAh: v(1000), Rule: decision.Simple, Duty: &Duty{1.4, 0.2, 0.05, [3]float64{5, 5, 90}}})
	if err != nil || math.Abs(out.MAh-1000) > 1e-9 || math.Abs(out.Wh-7.4) > 1e-9 || math.Abs(*out.MeanV-7.4) > 1e-9 || out.EndedBy != LastPoint || out.EndedS != 3600 || *out.PctOfLabel != 100 || *out.Verdict != decision.Pass {
		t.Errorf("%+v %v", out, err)
	}
	if want := 1 / (0.05*1.4 + 0.05*0.2 + 0.9*0.05); math.Abs(*out.HoursAtDuty-want) > 1e-9 {
		t.Errorf("%g h at the duty, want %g", *out.HoursAtDuty, want)
	}
	falling := []Point{{100, 8, 2}, {3700, 6, 1}, {4000, 5, 1}}
	out, err = RunDown(Input{Points: falling, CutoffV: v(7), LabelWh: v(7), Rule: decision.Guarded, AccuracyPct: 1})
	// Half an hour: 8 V to 7 V, 2 A to 1.5 A.
	if err != nil || math.Abs(out.MAh-875) > 1e-9 || math.Abs(out.Wh-(8*2+7*1.5)/4) > 1e-9 || out.EndedBy != Cutoff || out.EndedS != 1900 || *out.Verdict != decision.Fail || out.PctOfLabel != nil {
		t.Errorf("%+v %v", out, err)
	}
	if out, err = RunDown(Input{Points: falling[:2], LabelMAh: v(5000), Rule: decision.Guarded}); err != nil || *out.Verdict != decision.Inconclusive {
		t.Errorf("a lower bound: %+v %v", out, err)
	}
	u := 2 * 0.01 / math.Sqrt(3) * 875
	for label, want := range map[float64]decision.Verdict{875 - u - 0.01: decision.Pass, 875 - u + 0.01: decision.Inconclusive, 875 + u - 0.01: decision.Inconclusive, 875 + u + 0.01: decision.Fail} {
		if out, err = RunDown(Input{Points: falling, CutoffV: v(7), LabelMAh: &label, AccuracyPct: 1, Rule: decision.Guarded}); err != nil || *out.Verdict != want {
			t.Errorf("label %g: %+v %v, want %s", label, out, err, want)
		}
	}
}

// TestWhatIsNoRunDown is refused at its field.
func TestWhatIsNoRunDown(t *testing.T) {
	good := []Point{{0, 8, 1}, {10, 7, 1}}
	for want, in := range map[string]Input{
		"points: give two":            {Points: good[:1]},
		"points[1].t_s: times must":   {Points: []Point{{0, 8, 1}, {0, 7, 1}}},
		"points[0].a: give 0 A":       {Points: []Point{{0, 8, -1}, {1, 7, 1}}},
		"cutoff_v: the first point":   {Points: good, CutoffV: v(8)},
		"label_mah: give what":        {Points: good, LabelMAh: v(0)},
		"duty.share: give shares":     {Points: good, Duty: &Duty{}},
		"duty.share[1]: give 0":       {Points: good, Duty: &Duty{Share: [3]float64{2, -1, 0}}},
		"tolerance_pct: give 0 to 10": {Points: good, TolerancePct: 101},
	} {
		in.Rule = decision.Guarded
		if _, err := RunDown(in); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}

// TestFiguresOfNoRunDown are refused at their field; typical of its kind is what nobody stated.
func TestFiguresOfNoRunDown(t *testing.T) {
	good := func() Input {
		return Input{Points: []Point{{0, 7.4, 1}, {3600, 7.4, 1}}, Rule: decision.Guarded, Duty: &Duty{1, 0.1, 0.05, [3]float64{5, 5, 90}}}
	}
	if _, err := RunDown(good()); err != nil {
		t.Fatal(err)
	}
	for field, spoil := range map[string]func(*Input){
		"points: ": func(in *Input) { in.Points = in.Points[:1] }, "points[1].t_s": func(in *Input) { in.Points[1].TS = 0 }, "points[1].v": func(in *Input) { in.Points[1].V = -1 }, "points[1].a": func(in *Input) { in.Points[1].A = -1 },
		"cutoff_v: give": func(in *Input) { in.CutoffV = v(-1) }, "cutoff_v: the first": func(in *Input) { in.CutoffV = v(7.4) }, "label_mah": func(in *Input) { in.LabelMAh = v(0) }, "label_wh": func(in *Input) { in.LabelWh = v(0) },
		"tolerance_pct": func(in *Input) { in.TolerancePct = 101 }, "accuracy_pct": func(in *Input) { in.AccuracyPct = -1 }, "duty.share[0]": func(in *Input) { in.Duty.Share[0] = -1 }, "duty.share: ": func(in *Input) { in.Duty.Share = [3]float64{} },
		"duty.tx_a": func(in *Input) { in.Duty.TxA = -1 }, "duty.rx_a": func(in *Input) { in.Duty.RxA = -1 }, "duty.standby_a": func(in *Input) { in.Duty.StandbyA = -1 }, "decision_rule": func(in *Input) { in.Rule = "hope" },
		"points: the result": func(in *Input) {
			in.Points[0].V, in.Points[1].V, in.Points[0].A, in.Points[1].A = 1e200, 1e200, 1e200, 1e200
		},
	} {
		in := good()
		spoil(&in)
		if _, err := RunDown(in); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}
