package measure_test

import (
	"fmt"
	"strings"
	"testing"

	"talloak/core/measure"
	"talloak/core/measure/frequency"
	"talloak/core/measure/supply"
	"talloak/core/record"
	"talloak/measuretest"
)

// TestWhatClaimsAskFor: each claim beside power asks for its kind in the boxes it speaks of, until all
// of it is answered; what nobody claims is asked of nobody.
func TestWhatClaimsAskFor(t *testing.T) {
	said := func(r *record.Review, facts record.Facts) string {
		var out []string
		for _, a := range measure.AllAsked(measuretest.Open(t, r, facts)) {
			if a.Minutes <= 0 || len(a.Claimed) == 0 {
				t.Errorf("%+v", a)
			}
			out = append(out, fmt.Sprintf("%s %s %v", a.Kind, a.Box, a.Done))
		}
		return strings.Join(out, ", ")
	}
	if got := said(measuretest.Review("2m 5/1", "70cm 5/1"), record.Facts{}); got != "" {
		t.Errorf("nothing claimed: %s", got)
	}
	r := measuretest.Review("2m 5/1", "70cm AM 5/1", "2.5ppm", "70cm deviation 5kHz", "2m deviation 5kHz", "2m sensitivity 0.25uV", "current 1.5A", "battery 2000mAh", "says IP67")
	want := "sensitivity 2m FM false, deviation 2m FM false, frequency 2m FM false, frequency 70cm AM false, supply 2m FM false, supply 70cm AM false, battery the radio false, features the radio false"
	if got := said(r, record.Facts{}); got != want {
		t.Errorf("got  %s\nwant %s", got, want)
	}
	two := record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}
	facts := measuretest.Facts(t, frequency.Name, two, frequency.Draft{Text: "+96Hz"})
	more := measuretest.Facts(t, supply.Name, two, supply.Draft{Text: "low 0.5a"})
	more.Measurements[0].ID = "low"
	facts.Measurements = append(facts.Measurements, more.Measurements...)
	if got := said(r, facts); !strings.Contains(got, "frequency 2m FM true") || !strings.Contains(got, "frequency 70cm AM false") || !strings.Contains(got, "supply 2m FM false") {
		t.Errorf("%s", got)
	}
	facts.Standings = []record.Standing{{TargetID: "0", Standing: record.Struck, Reason: "another radio"}}
	if got := said(r, facts); !strings.Contains(got, "frequency 2m FM false") {
		t.Errorf("struck: %s", got)
	}
}
