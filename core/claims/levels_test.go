package claims

import (
	"strings"
	"testing"
)

// TestTurboComesFirst: above High where a band has it, whatever the order of the bands.
func TestTurboComesFirst(t *testing.T) {
	for text, want := range map[string]string{
		"2m 5/1; 70cm turbo 8 high 5 low 1": "turbo High Low",
		"2m low 1 high 5 turbo 8":           "turbo High Low",
		"2m 25/10/5; 70cm 20/5":             "High Mid Low",
		"2m ?/?":                            "High Low",
	} {
		var cells []Cell
		for line := range strings.SplitSeq(text, ";") {
			p, err := ParseLine(strings.TrimSpace(line), 2)
			if err != nil {
				t.Fatal(line, err)
			}
			cells = append(cells, Matrix(p, 2)...)
		}
		if got := strings.Join(LevelOrder(cells), " "); !strings.EqualFold(got, want) {
			t.Errorf("%s: %s, want %s", text, got, want)
		}
	}
}
