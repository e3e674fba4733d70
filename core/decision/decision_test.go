package decision

import (
	"testing"

	"talloak/core/units"
)

// TestDecide: JCGM 106 guard bands, worked by hand.
func TestDecide(t *testing.T) {
	for _, c := range []struct {
		rule      Rule
		margin, u units.DB
		want      Verdict
	}{
		{Guarded, 2, 1.5, Pass},
		{Guarded, 1.5, 1.5, Pass},
		{Guarded, 1.5 - 1e-12, 1.5, Pass}, // the last bits of a float decide nothing
		{Guarded, 1.49, 1.5, Inconclusive},
		{Guarded, -1.5, 1.5, Inconclusive},
		{Guarded, -1.51, 1.5, Fail},
		{Guarded, 0, 0, Pass},
		{Guarded, -0.01, 0, Fail},
		{Simple, 0, 5, Pass},
		{Simple, -0.01, 5, Fail},
	} {
		if got := c.rule.Decide(c.margin, c.u); got != c.want {
			t.Errorf("%s, margin %v, U %v: %s, want %s", c.rule, c.margin, c.u, got, c.want)
		}
	}
	if Rule("kind").Known() || !Simple.Known() || !Guarded.Known() {
		t.Error("known rules")
	}
}

func TestCombine(t *testing.T) {
	for _, c := range []struct {
		terms           []Verdict
		strict, lenient Verdict
	}{
		{[]Verdict{Pass}, Pass, Pass},
		{[]Verdict{Fail}, Fail, Fail},
		{[]Verdict{Pass, Fail}, Fail, Pass},
		{[]Verdict{Pass, Inconclusive}, Inconclusive, Pass},
		{[]Verdict{Fail, Inconclusive}, Fail, Inconclusive},
		{[]Verdict{Inconclusive, Inconclusive}, Inconclusive, Inconclusive},
	} {
		if got := Stricter(c.terms...); got != c.strict {
			t.Errorf("stricter of %v: %s", c.terms, got)
		}
		if got := Lenient(c.terms...); got != c.lenient {
			t.Errorf("lenient of %v: %s", c.terms, got)
		}
	}
}
