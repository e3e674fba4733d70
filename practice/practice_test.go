package practice

import (
	"testing"
)

// TestScenariosFit: each is whole, its paths can be wired, and its story gives nothing away that is not
// in it.
func TestScenariosFit(t *testing.T) {
	all := Shipped()
	if len(all) < 10 {
		t.Fatalf("%d scenarios", len(all))
	}
	names := map[string]bool{}
	for _, s := range all {
		if err := s.Check(); err != nil || names[s.Name] {
			t.Errorf("%s: %v", s.Name, err)
		}
		names[s.Name] = true
		if _, err := s.Scene(1); err != nil {
			t.Errorf("%s: %v", s.Name, err)
		}
	}
}
