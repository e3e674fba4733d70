package power

import (
	"strings"
	"testing"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
)

// TestPlainWords of the power: what is short of its claim is named, and what was not measured leaves no pass bare.
func TestPlainWords(t *testing.T) {
	box := func(level string, v decision.Verdict, w, claimed, db float64) measure.Named {
		r := Ruling{Verdict: v, Reading: &Reading{MeasuredW: &w, AgainstClaim: &claims.Result{DeltaDB: &db}}}
		return measure.Named{Name: "2m " + level, Cell: claims.Cell{Band: bands.Band{Name: "2m"}, Level: level, Claimed: claimed}, Box: measure.Box{Verdict: v, Of: measure.Answers(r)}}
	}
	for v, want := range map[decision.Verdict]string{
		decision.Pass: "It gives the power it claims.", decision.SoFar: "It gives the power it claims, where it was measured.",
		decision.Fail: "It gives less power than it claims: 2.00 W of 5.00 W at High on 2m and 600 mW of 1.00 W at Low on 2m.", decision.Inconclusive: "too close to call at Mid on 2m.",
		decision.NoClaim: "No power is claimed", decision.NotExamined: "Its power was not held against a claim.",
	} {
		got := (&Room{}).Plain([]measure.Named{box("Low", decision.Fail, 0.6, 1, -2.2), box("High", decision.Fail, 2, 5, -4), box("Mid", decision.Inconclusive, 1.9, 2, -0.2)}, decision.Whole{Verdict: v})
		if !strings.Contains(got, want) {
			t.Errorf("%s: %q", v, got)
		}
	}
}
