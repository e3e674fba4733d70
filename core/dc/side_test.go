package dc

import (
	"math"
	"strings"
	"testing"
)

func v(x float64) *float64 { return &x }

// TestWork: 10 W at 13.8 V and 1.52 A is 48 % (worked example of the trade); the
// rest by Ohm's law.
func TestWork(t *testing.T) {
	got, err := Work(Wiring{SetV: 13.8, Efficiency: v(0.4767)}, []Level{{Name: "High", W: 10}})
	if err != nil || math.Abs(*got.Rows[0].A-1.52) > 0.001 || *got.Rows[0].RadioV != 13.8 || *got.Rows[0].DropV != 0 {
		t.Errorf("%+v %v", got, err)
	}
	// 25 W at 40 % through 0.1 ohm: V^2 - 13.8 V + 6.25 = 0, V = 13.33, I = 4.69 A.
	got, err = Work(Wiring{SetV: 13.8, LeadOhm: v(0.1), LimitA: v(5), RadioMinV: v(13.5)}, []Level{{Name: "High", W: 25}, {Name: "Low", W: 5, A: v(1.5)}})
	if err != nil || !got.Safe {
		t.Fatalf("%+v %v", got, err)
	}
	high, low := got.Rows[0], got.Rows[1]
	if math.Abs(*high.RadioV-13.3313) > 1e-3 || math.Abs(*high.A-4.688) > 1e-3 || math.Abs(*high.DropV-0.4688) > 1e-4 || high.Known {
		t.Errorf("high %v V %v A", *high.RadioV, *high.A)
	}
	if math.Abs(*low.RadioV-13.65) > 1e-9 || !low.Known {
		t.Errorf("low %v V", *low.RadioV)
	}
	if len(got.Problems) != 1 || got.Problems[0].Code != "under-voltage" {
		t.Errorf("%+v", got.Problems)
	}
	got, _ = Work(Wiring{SetV: 15, RadioMaxV: v(14.4), LeadOhm: v(5)}, []Level{{Name: "High", W: 25}})
	if got.Safe || got.Problems[0].Code != "over-voltage" || got.Problems[1].Code != "leads" || got.Rows[0].RadioV != nil {
		t.Errorf("%+v", got)
	}
}

// TestTheSupplyLimits: over its limit the amps are those of the limit, and the volts
// nobody knows; the unlimited ones are never given.
func TestTheSupplyLimits(t *testing.T) {
	got, err := Work(Wiring{SetV: 13.8, LeadOhm: v(0.1), LimitA: v(4)}, []Level{{Name: "High", W: 25}, {Name: "Low", W: 5, A: v(4.5)}})
	if err != nil || len(got.Problems) != 2 || got.Problems[0].Code != "current-limit" || got.Problems[1].Code != "current-limit" {
		t.Fatalf("%+v %v", got, err)
	}
	for _, r := range got.Rows {
		if r.RadioV != nil || *r.A != 4 || math.Abs(*r.DropV-0.4) > 1e-9 {
			t.Errorf("%s: %v V, %v A", r.Level, r.RadioV, *r.A)
		}
	}
	// Leads nobody measured are said, not taken for none.
	if got, _ = Work(Wiring{SetV: 13.8}, []Level{{Name: "High", W: 10}}); len(got.Problems) != 1 || got.Problems[0].Code != "leads-unknown" {
		t.Errorf("%+v", got.Problems)
	}
}

func TestWorkRefusals(t *testing.T) {
	_, err := Work(Wiring{SetV: 0, LimitA: v(0), LeadOhm: v(-1), Efficiency: v(2)}, []Level{{W: 0, A: v(-1)}})
	for _, field := range []string{"set_v", "limit_a", "lead_ohm", "efficiency", "levels[0].w", "levels[0].a"} {
		if err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s is not named: %v", field, err)
		}
	}
	if _, err := Work(Wiring{SetV: 12}, nil); err == nil {
		t.Error("no levels")
	}
}
