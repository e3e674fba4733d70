package claims

import (
	"testing"

	"talloak/core/decision"
)

func held(w, u float64, v decision.Verdict) Held {
	return Held{W: w, LowW: w - u, HighW: w + u, Frequency: 146e6, Result: &Result{Verdict: v}}
}

// TestStandWhateverTheOrder: all orders of the same readings give the same.
func TestStandWhateverTheOrder(t *testing.T) {
	a, b, c := held(5, 0.3, decision.Pass), held(4.8, 0.3, decision.Pass), held(4.6, 0.3, decision.Inconclusive)
	for _, order := range [][]Held{{a, b, c}, {a, c, b}, {b, a, c}, {b, c, a}, {c, a, b}, {c, b, a}} {
		if s := Stand(order); order[s.Stands].W != 4.6 || s.Verdict != decision.Inconclusive {
			t.Errorf("%v W stands: %s", order[s.Stands].W, s.Verdict)
		}
	}
	if s := Stand(nil); s.Stands != -1 || s.Verdict != decision.NoClaim {
		t.Errorf("%+v", s)
	}
}

// TestContradict: beyond the root sum square of both (3, 4: 5), at one frequency and supply.
func TestContradict(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	a, near, far := held(50, 3, decision.Pass), held(45.01, 4, decision.Pass), held(44.99, 4, decision.Pass)
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
	if s := Stand([]Held{a, far}); s.Verdict != decision.Inconclusive || !s.Doubted[0] || !s.Doubted[1] {
		t.Errorf("%+v", s)
	}
	bad := held(10, 1, decision.Fail)
	bad.Frequency = 144e6
	if s := Stand([]Held{a, far, bad}); s.Stands != 2 || s.Verdict != decision.Fail {
		t.Errorf("a clear fail elsewhere fails: %+v", s)
	}
	good := held(60, 1, decision.Pass)
	good.Frequency = 144e6
	if s := Stand([]Held{a, far, good}); s.Verdict != decision.Inconclusive {
		t.Errorf("a pass elsewhere hides no contradiction: %+v", s)
	}
}
