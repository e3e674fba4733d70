package battery

import (
	"fmt"
	"math"

	"talloak/core/decision"
	"talloak/core/problem"
)

// Point is a moment of a run-down: s on the log's own clock, V and A of the battery.
type Point struct {
	TS float64 `json:"t_s"`
	V  float64 `json:"v"`
	A  float64 `json:"a"`
}

// Duty is the current drawn while transmitting, receiving and standing by, in A, and the share of
// time of each, in any unit.
type Duty struct {
	TxA, RxA, StandbyA float64
	Share              [3]float64
}

// Input is a run-down. CutoffV ends it where the voltage is first at or under it; without, the
// last point does. TolerancePct is what the label may be short by; AccuracyPct how well the log
// counts, a half-width.
type Input struct {
	Points                    []Point
	CutoffV                   *float64
	LabelMAh, LabelWh         *float64
	TolerancePct, AccuracyPct float64
	Duty                      *Duty
	Rule                      decision.Rule
}

// Result is what it gave. What cannot be had is nil.
type Result struct {
	MAh         float64           `json:"mah"`
	Wh          float64           `json:"wh"`
	MeanV       *float64          `json:"mean_v"`
	EndedBy     string            `json:"ended_by"` // cutoff or last-point
	EndedS      float64           `json:"ended_s"`
	PctOfLabel  *float64          `json:"pct_of_label"`
	PctOfWh     *float64          `json:"pct_of_label_wh"`
	HoursAtDuty *float64          `json:"hours_at_duty"`
	Verdict     *decision.Verdict `json:"verdict"`
}

// The ways in which a run-down ends.
const (
	Cutoff    = "cutoff"
	LastPoint = "last-point"
)

// RunDown adds up charge and energy by trapezoids, V and A each straight between points, and holds
// them against the label: of mAh where that is given, else of Wh. One that ends with its last
// point is a lower bound: it passes or is too close to call. Errors are on the fields of the input.
func RunDown(in Input) (Result, error) {
	if err := in.check(); err != nil {
		return Result{}, err
	}
	out := Result{EndedBy: LastPoint, EndedS: in.Points[len(in.Points)-1].TS}
	ah, wh := 0.0, 0.0
	for i, b := range in.Points[1:] {
		a := in.Points[i]
		if in.CutoffV != nil && b.V <= *in.CutoffV {
			share := (a.V - *in.CutoffV) / (a.V - b.V)
			b = Point{a.TS + share*(b.TS-a.TS), *in.CutoffV, a.A + share*(b.A-a.A)}
			out.EndedBy, out.EndedS = Cutoff, b.TS
		}
		hours := (b.TS - a.TS) / 3600
		ah += hours * (a.A + b.A) / 2
		wh += hours * (a.V*a.A + b.V*b.A) / 2
		if out.EndedBy == Cutoff {
			break
		}
	}
	out.MAh, out.Wh = 1000*ah, wh
	if ah > 0 {
		v := wh / ah
		out.MeanV = &v
	}
	out.PctOfLabel, out.PctOfWh = percentOf(out.MAh, in.LabelMAh), percentOf(out.Wh, in.LabelWh)
	if d := in.Duty; d != nil {
		mean := (d.TxA*d.Share[0] + d.RxA*d.Share[1] + d.StandbyA*d.Share[2]) / (d.Share[0] + d.Share[1] + d.Share[2])
		if mean > 0 {
			h := ah / mean
			out.HoursAtDuty = &h
		}
	}
	figure, label := out.MAh, in.LabelMAh
	if label == nil {
		figure, label = out.Wh, in.LabelWh
	}
	if label != nil {
		least := *label * (1 - in.TolerancePct/100)
		v := in.Rule.Hold(figure, 2*in.AccuracyPct/100/math.Sqrt(3)*figure, &least, nil)
		if v == decision.Fail && out.EndedBy == LastPoint {
			v = decision.Inconclusive
		}
		out.Verdict = &v
	}
	if math.IsInf(out.MAh, 0) || math.IsInf(out.Wh, 0) || math.IsNaN(out.Wh) {
		return Result{}, problem.New("points", "the result is too large for a number")
	}
	return out, nil
}

func percentOf(figure float64, label *float64) *float64 {
	if label == nil {
		return nil
	}
	p := 100 * figure / *label
	return &p
}

func (in *Input) check() error {
	var bad problem.List
	if len(in.Points) < 2 {
		bad.Add("points", "give two points or more, each t_s, v and a")
	}
	for i, p := range in.Points {
		field := fmt.Sprintf("points[%d].", i)
		if i > 0 && !(p.TS > in.Points[i-1].TS) {
			bad.Add(field+"t_s", "times must rise; this is not after %g s", in.Points[i-1].TS)
		}
		if !(p.V >= 0) {
			bad.Add(field+"v", "give 0 V or more")
		}
		if !(p.A >= 0) {
			bad.Add(field+"a", "give 0 A or more: what it gives, not what it takes")
		}
	}
	if in.CutoffV != nil {
		switch {
		case !(*in.CutoffV >= 0):
			bad.Add("cutoff_v", "give the voltage at which it counts as empty, 0 V or more")
		case len(in.Points) > 0 && in.Points[0].V <= *in.CutoffV:
			bad.Add("cutoff_v", "the first point is at or under it already: %g V", in.Points[0].V)
		}
	}
	for field, v := range map[string]*float64{"label_mah": in.LabelMAh, "label_wh": in.LabelWh} {
		if v != nil && !(*v > 0) {
			bad.Add(field, "give what the label says, above 0")
		}
	}
	if !(in.TolerancePct >= 0 && in.TolerancePct <= 100) {
		bad.Add("tolerance_pct", "give 0 to 100 %%")
	}
	if !(in.AccuracyPct >= 0) {
		bad.Add("accuracy_pct", "give 0 %% or more")
	}
	if d := in.Duty; d != nil {
		sum := 0.0
		for i, s := range d.Share {
			if sum += s; !(s >= 0) {
				bad.Add(fmt.Sprintf("duty.share[%d]", i), "give 0 or more")
			}
		}
		if !(sum > 0) {
			bad.Add("duty.share", "give shares of time whose sum is above 0")
		}
		for field, a := range map[string]float64{"tx_a": d.TxA, "rx_a": d.RxA, "standby_a": d.StandbyA} {
			if !(a >= 0) {
				bad.Add("duty."+field, "give 0 A or more")
			}
		}
	}
	if !in.Rule.Known() {
		bad.Add("decision_rule", "give %s or %s", decision.Guarded, decision.Simple)
	}
	return bad.Err()
}
