package claims

import "testing"

func held(w, u float64) Held {
	return Held{W: w, LowW: w - u, HighW: w + u, Frequency: 146e6}
}

// TestContradict: beyond the root sum square of both (3, 4: 5), at one frequency and supply.
func TestContradict(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	a, near, far := held(50, 3), held(45.01, 4), held(44.99, 4)
	if Contradict(a, near) || !Contradict(a, far) {
		t.Error("5 W are within both uncertainties, more are not")
	}
	elsewhere, low, told := far, far, far
	elsewhere.Frequency = 146.2e6
	low.SupplyV = v(12)
	told.Explained = true
	full := a
	full.SupplyV = v(13.8)
	if Contradict(a, elsewhere) || Contradict(full, low) || Contradict(a, told) || !Contradict(a, low) {
		t.Error("frequency, supply or explanation")
	}
}
