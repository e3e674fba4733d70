package keying_test

import (
	"testing"

	"talloak/core/record"
)

// TestEdgesLieInsideTheBand: half a percent of it, 20 kHz of the 4 MHz of 2 m.
func TestEdgesLieInsideTheBand(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m 5"}, {Text: "10m AM 12 SSB 35"}}, Sheet: record.Sheet{Marks: []string{"edges"}}}
	p := sheet(t, r, way("v", vhf, load))
	at := p.Rows[0].Channels
	if len(at) != 2 || at[0].FrequencyHz != 144.02e6 || at[1].FrequencyHz != 147.98e6 {
		t.Errorf("%+v", at)
	}
	boxes := map[string]bool{}
	for _, s := range p.Steps {
		boxes[s.Box] = true
	}
	for _, want := range []string{"2m High FM", "10m High AM", "10m High SSB"} { // by their modes, where there are several
		if !boxes[want] {
			t.Errorf("%s is not among %v", want, boxes)
		}
	}
}
