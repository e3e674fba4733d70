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
	if p := d.PowerOf(high); p.Verdict != decision.Inconclusive || !strings.Contains(p.Why, "contradict") {
		t.Errorf("one at 2 W among them: %s, %s", p.Verdict, p.Why)
	}
}
