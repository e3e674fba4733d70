package decision

import (
	"math"
	"testing"
)

// TestHold: in any unit, at each bound and beside it; without a bound nothing is ruled.
func TestHold(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	for _, c := range []struct {
		rule            Rule
		value, u        float64
		atLeast, atMost *float64
		want            Verdict
	}{
		{Guarded, 5, 0, nil, nil, NoClaim}, {Simple, 5, 0, nil, nil, NoClaim}, {Guarded, math.Inf(1), 1, nil, nil, NoClaim},
		{Guarded, 4, 1, nil, v(5), Pass}, {Guarded, 4.01, 1, nil, v(5), Inconclusive}, {Guarded, 6, 1, nil, v(5), Inconclusive}, {Guarded, 6.01, 1, nil, v(5), Fail},
		{Guarded, 6, 1, v(5), nil, Pass}, {Guarded, 5.99, 1, v(5), nil, Inconclusive}, {Guarded, 4, 1, v(5), nil, Inconclusive}, {Guarded, 3.99, 1, v(5), nil, Fail},
		{Simple, 5, 9, nil, v(5), Pass}, {Simple, 5.01, 9, nil, v(5), Fail}, {Simple, 5, 9, v(5), nil, Pass}, {Simple, 4.99, 9, v(5), nil, Fail},
		{Guarded, 5, 1, v(4), v(6), Pass}, {Guarded, 5.01, 1, v(4), v(6), Inconclusive}, {Guarded, 7.01, 1, v(4), v(6), Fail}, {Guarded, 2.99, 1, v(4), v(6), Fail},
		{Simple, 0.1 + 0.2, 0, nil, v(0.3), Pass}, // the last bits of a float decide nothing
	} {
		if got := c.rule.Hold(c.value, c.u, c.atLeast, c.atMost); got != c.want {
			t.Errorf("%s: %g ± %g: %s, want %s", c.rule, c.value, c.u, got, c.want)
		}
	}
}
