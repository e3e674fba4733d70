package claims

import (
	"fmt"
	"testing"
)

func TestParseLine(t *testing.T) {
	for text, want := range map[string]string{
		"2m 25/10/5":            "[{2m High FM 25 false} {2m Mid FM 10 false} {2m Low FM 5 false}]",
		"70cm 5/1":              "[{70cm High FM 5 false} {70cm Low FM 1 false}]",
		"10m AM 12 pep 35 SSB":  "[{10m High AM 12 false} {10m High SSB 35 true}]",
		"2M 5W":                 "[{2m High FM 5 false}]",
		"marine 6/1 W":          "[{marine High FM 6 false} {marine Low FM 1 false}]",
		"2m 5/2/0,5 DIGITAL":    "[{2m High DIGITAL 5 false} {2m Mid DIGITAL 2 false} {2m Low DIGITAL 0.5 false}]",
		"cb 4 am pep 12 ssb":    "[{CB High AM 4 false} {CB High SSB 12 true}]",
		"2m":                    "[{2m High FM 0 false}]",
		"2m AM":                 "[{2m High AM 0 false}]",
		"70cm ?/1/?":            "[{70cm High FM 0 false} {70cm Mid FM 1 false} {70cm Low FM 0 false}]",
		"6m FM 10 AM 4 pep 8 W": "[{6m High FM 10 false} {6m High AM 4 false} {6m High FM 8 true}]",
	} {
		got, err := ParseLine(text)
		if err != nil || fmt.Sprint(got) != want {
			t.Errorf("%q: %v %v, want %s", text, got, err, want)
		}
	}
	for _, text := range []string{"", "3m", "2m 5/??", "2m five", "2m 5/10", "2m 0", "2m 9/8/7/6/5", "2m 1,500", "2m pep", "2m 5//1", "2m -5"} {
		if got, err := ParseLine(text); err == nil {
			t.Errorf("%q read as %v", text, got)
		}
	}
}

func TestMatrixKeepsTheLaterClaim(t *testing.T) {
	a, _ := ParseLine("2m 5/1")
	b, _ := ParseLine("2m 7")
	cells := Matrix(append(a, b...))
	if len(cells) != 2 || cells[0].Claimed != 7 || cells[1].Claimed != 1 {
		t.Errorf("%+v", cells)
	}
}
