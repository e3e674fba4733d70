package board_test

import (
	"strings"
	"testing"

	"talloak/core/decision"
)

// TestManyReadings, which are worked out by several processors at once, come out as few
// do: in their order, each with its doubts, and one that contradicts the others is found.
func TestManyReadings(t *testing.T) {
	s := begin()
	for range 200 {
		s.read("High", "4.8 4.9 4.85")
	}
	d := s.open(t)
	for i, r := range d.Readings() {
		if r.ID != s.facts.Readings[i].ID || !r.Counts || *r.Result.AtConnectorW != *d.Readings()[0].Result.AtConnectorW {
			t.Fatalf("reading %d: %+v", i, r)
		}
	}
	if p := d.PowerOf(high); p.Verdict != decision.Pass || p.Of != 200 {
		t.Errorf("%s of %d", p.Verdict, p.Of)
	}
	d = s.read("High", "2").open(t)
	// Repeats through one wiring are one set: one at 2 W among 600 widens it little, and is doubted.
	if p := d.PowerOf(high); p.Verdict != decision.Pass || !(*p.Reading.MeasuredW < 4.85*1.13) {
		t.Errorf("one at 2 W among them: %s, %s", p.Verdict, p.Why)
	}
	if all := d.Readings(); !strings.Contains(codes(&all[200]), "contradicts") {
		t.Errorf("the one at 2 W is not doubted: %s", codes(&all[200]))
	}
}
