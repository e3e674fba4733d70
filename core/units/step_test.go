package units

import (
	"math"
	"testing"
)

// TestStepDB: 0.1 W of 5 W is 0.0869 dB (10/ln 10 = 4.343 times 2 %).
func TestStepDB(t *testing.T) {
	for text, want := range map[string]float64{"5.0": 0.08686, "5.0 5.01": 0.08686, "37.1dBm": 0.1, "37 dBm": 1, "5,00W": 0.008686, "0": 0, "": 0, "no figure": 0} {
		if got := StepDB(text); math.Abs(got-want) > 1e-5 {
			t.Errorf("%q: %v, want %v", text, got, want)
		}
	}
}
