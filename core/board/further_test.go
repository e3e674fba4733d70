package board_test

import (
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure/antenna"
	"talloak/core/measure/deviation"
	"talloak/core/measure/features"
	"talloak/core/measure/frequency"
	"talloak/core/record"
	"talloak/measuretest"
)

// TestTenKindsInOneHeadline: what passes and what nothing is claimed of is named among others, what fails
// has its own sentence of that alone; a band that nobody asks for is no open box.
func TestTenKindsInOneHeadline(t *testing.T) {
	within := 0.1
	two := record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}
	review := measuretest.Review("2m 5/1", "70cm 4/1", "2m 2.5ppm", "2m deviation 5kHz", "says IP67", "says charges by USB")
	var facts record.Facts
	add := func(more record.Facts, id string) {
		more.Measurements[0].ID = id
		facts.Measurements = append(facts.Measurements, more.Measurements...)
	}
	add(measuretest.Facts(t, frequency.Name, two, frequency.Draft{Text: "+96Hz", ReferencePPM: &within}), "f")
	add(measuretest.Facts(t, deviation.Name, two, deviation.Draft{Text: "+4.2 -4.1", Width: "wide", Signal: "voice-peak", WithinPct: &within}), "d")
	add(measuretest.Facts(t, antenna.Name, two, antenna.Draft{Text: "144 2.1 148 1.9", Setup: "stock"}), "a")
	add(measuretest.Facts(t, features.Name, record.Keyed{}, features.Draft{Text: "no IP67"}), "n")
	add(measuretest.Facts(t, features.Name, record.Keyed{}, features.Draft{Text: "yes charges by USB"}), "y")
	b := board.Of(measuretest.Open(t, review, facts), false)
	for _, want := range []string{"As claimed: deviation and frequency error.", "Measured, with no claim to be held against: antenna.", "Not all that its box says is so (the radio: IP67: no); 0 of 1 pass, 1 fails."} {
		if !strings.Contains(b.Headline, want) {
			t.Errorf("no %q in %q", want, b.Headline)
		}
	}
	for kind, want := range map[string]decision.Verdict{"frequency": decision.Pass, "deviation": decision.Pass, "antenna": decision.NoClaim, "features": decision.Fail} {
		if got := b.Whole(kind); got.Verdict != want || len(b.Boxes(kind)) != 1 {
			t.Errorf("%s: %+v, %d boxes", kind, got, len(b.Boxes(kind)))
		}
	}
	// Of the whole radio it is asked for on every band.
	review.Claims = append(review.Claims, record.Claim{Text: "1ppm", Source: "box"})
	b = board.Of(measuretest.Open(t, review, facts), false)
	if got := b.Whole("frequency"); got.Verdict != decision.SoFar || len(b.Boxes("frequency")) != 2 || !strings.Contains(b.Headline, "As claimed so far: frequency error.") {
		t.Errorf("%+v, %q", got, b.Headline)
	}
}
