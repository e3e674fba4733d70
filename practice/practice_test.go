package practice

import (
	"testing"

	"talloak/core/decision"
	"talloak/core/measure"
)

// TestScenariosFit: each is whole, its paths can be wired, and its story gives nothing away that is not
// in it.
func TestScenariosFit(t *testing.T) {
	all := Shipped()
	if len(all) < 10 {
		t.Fatalf("%d scenarios", len(all))
	}
	names := map[string]bool{}
	for _, s := range all {
		if err := s.Check(); err != nil || names[s.Name] {
			t.Errorf("%s: %v", s.Name, err)
		}
		names[s.Name] = true
		if _, err := s.Scene(1); err != nil {
			t.Errorf("%s: %v", s.Name, err)
		}
	}
}

// TestOutcomes: an open ruling is right where nothing can be known or there is nothing to rule, else too
// cautious; what was never measured was not tried; a pass or fail is right or wrong.
func TestOutcomes(t *testing.T) {
	for _, c := range []struct {
		ruling, truth decision.Verdict
		taken         int
		honest        bool
		want          string
	}{
		{decision.Pass, decision.Pass, 1, false, Right}, {decision.Pass, decision.Fail, 1, false, WrongPass}, {decision.Pass, decision.Fail, 1, true, WrongPass},
		{decision.Fail, decision.Pass, 1, false, WrongFail}, {decision.Fail, decision.Fail, 1, false, Right}, {decision.Inconclusive, decision.Fail, 1, false, TooCautious},
		{decision.SoFar, decision.Fail, 1, true, Right}, {decision.Void, decision.Pass, 1, false, TooCautious}, {decision.NotExamined, decision.Pass, 0, true, Untried},
		{decision.NoLimit, decision.NoLimit, 1, false, Right}, {decision.Pass, decision.NoLimit, 1, false, WrongPass}, {decision.Fail, decision.NoLimit, 1, false, WrongFail},
	} {
		if got := outcome(&measure.Box{Kind: "emissions", Verdict: c.ruling, Taken: c.taken}, c.truth, c.honest); got != c.want {
			t.Errorf("%+v: %s", c, got)
		}
	}
}
