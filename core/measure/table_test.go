package measure

import (
	"strings"
	"testing"
)

// TestNoCellIsAFormula, and numbers are numbers.
func TestNoCellIsAFormula(t *testing.T) {
	for cell, want := range map[string]string{
		"=1+1": "'=1+1", "+SUM(A1)": "'+SUM(A1)", "-2+3": "'-2+3", "@now": "'@now", "\t=1": "'\t=1", "-116.4 dBm": "'-116.4 dBm",
		"-70.5": "-70.5", "+1": "+1", "1e-3": "1e-3", "2m High": "2m High", "": "", "a=b": "a=b", "−70": "−70",
	} {
		out, err := CSV([][]string{{cell, "x"}})
		if got := strings.TrimSuffix(strings.Trim(strings.TrimSuffix(string(out), ",x\n"), `"`), "\n"); err != nil || got != want {
			t.Errorf("%q: %q, want %q, %v", cell, got, want, err)
		}
	}
}
