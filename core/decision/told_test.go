package decision

import "testing"

// TestTold: two figures are told apart only where their intervals have nothing in common; what has none is not.
func TestTold(t *testing.T) {
	at := func(v, u float64) *Interval { i := Around(v, u); return &i }
	for _, c := range []struct {
		before, after *Interval
		want          Change
	}{
		{at(5, 0.5), at(6, 0.4), Changed}, {at(6, 0.4), at(5, 0.5), Changed}, {at(5, 0.5), at(6, 0.5), NotTold}, {at(5, 0.5), at(5.2, 0.1), NotTold},
		{nil, at(5, 1), NotTold}, {at(5, 1), nil, NotTold},
	} {
		if got := Told(c.before, c.after); got != c.want {
			t.Errorf("%v, %v: %q", c.before, c.after, got)
		}
	}
	if Changed.Spoken() != "changed" || NotTold.Spoken() != "not told apart" || NoChange.Spoken() != "" {
		t.Error("words")
	}
}
