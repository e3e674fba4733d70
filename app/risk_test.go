package app_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/google/uuid"

	"talloak/core/measure/power"
	"talloak/core/record"
)

// TestAtOnesOwnRisk: what is keyed briefly into a path in danger, or was taken before the danger was seen, is
// kept with the danger named; a path in none is not marked, and nobody keys long at a risk.
func TestAtOnesOwnRisk(t *testing.T) {
	p := begin(t)
	p.review = uuid.NewString()
	p.start(p.review, "2m 200")
	k := p.take("180")
	k.AtRisk = &record.Risk{KeyS: 31, RestS: 60}
	if _, err := p.Measure(t.Context(), k); fieldOf(err) != "at_risk.key_s" {
		t.Error(err)
	}
	for _, risk := range []record.Risk{{KeyS: 5, RestS: 60}, {}} {
		k := p.take("180")
		k.AtRisk = &risk
		view, err := p.Measure(t.Context(), k)
		if err != nil {
			t.Fatal(err)
		}
		text, _ := json.Marshal(view)
		var r power.Reading
		if err := json.Unmarshal(text, &r); err != nil || r.Through.Risk == nil || !r.Counts || r.Through.Risk.KeyS != risk.KeyS {
			t.Fatalf("%v %s", err, text)
		}
		said := ""
		for _, d := range r.Doubts {
			if d.Code == "at-risk" {
				said = d.Detail
			}
		}
		want := "at most 5 s with 60 s of rest"
		if risk.KeyS == 0 {
			want = "before the danger was seen"
		}
		if !strings.Contains(said, want) || !strings.Contains(said, "takes 50.0 W but") {
			t.Errorf("%q", said)
		}
	}
	sweep := p.take("")
	sweep.Kind, sweep.PathID, sweep.Draft, sweep.AtRisk = "emissions", p.analyzers, json.RawMessage(`{"name":"wide"}`), &record.Risk{}
	sweep.File = &record.File{Name: "a.csv", Content: []byte("144e6,-20\n145e6,-90\n146e6,-20\n")}
	if _, err := p.Measure(t.Context(), sweep); err != nil {
		t.Error(err)
	}
	// In no danger nothing is marked.
	p = begin(t)
	safe := p.take("4.9")
	safe.AtRisk = &record.Risk{KeyS: 5, RestS: 60}
	view, err := p.Measure(t.Context(), safe)
	if text, _ := json.Marshal(view); err != nil || strings.Contains(string(text), "at-risk") {
		t.Errorf("%v %s", err, text)
	}
}
