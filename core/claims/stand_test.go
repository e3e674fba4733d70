package claims

import (
	"testing"

	"talloak/core/units"
)

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

// TestEdgesOfStanding: one frequency within a thousandth, one supply within half a volt; the grades of a claim.
func TestEdgesOfStanding(t *testing.T) {
	for hz, want := range map[float64]bool{146.145e6: true, 146.147e6: false, 145.855e6: true, 145.853e6: false} {
		if SameFrequency(units.Hertz(hz), 146e6) != want {
			t.Errorf("%g Hz and 146 MHz: one %v", hz, !want)
		}
	}
	v := func(x float64) *float64 { return &x }
	for volts, want := range map[float64]bool{13.31: true, 13.29: false, 14.29: true, 14.31: false} {
		a, b := held(50, 3), held(40, 3)
		a.SupplyV, b.SupplyV = v(13.8), v(volts)
		if Contradict(a, b) != want {
			t.Errorf("%g V and 13.8 V: of one supply %v", volts, !want)
		}
	}
	for pct, want := range map[float64]Grade{0: NoOutput, 49.9: FarShort, 50: Short, 74.9: Short, 75: Close, 89.9: Close, 90: AsClaimed, 120: AsClaimed, 120.1: Over} {
		if got := gradeOf(pct); got != want {
			t.Errorf("%g %%: %s, want %s", pct, got, want)
		}
	}
}
