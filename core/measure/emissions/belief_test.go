package emissions_test

import (
	"encoding/json"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/record"
	"talloak/rulebooks"
)

// lookOf is a review of 5 W with one look through pads, whose screen adds so much.
func lookOf(t *testing.T, pad float64, adds *float64, text string, standing string) emissions.Ruling {
	t.Helper()
	return emissions.Of(looked(t, pad, adds, standing, text)).Worst(key, false)
}

// looked is such a review with several looks; the standing is that of the first.
func looked(t *testing.T, pad float64, adds *float64, standing string, texts ...string) *measure.Review {
	t.Helper()
	r := record.Review{Claims: []record.Claim{{Text: "2m 5"}}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", BandwidthHz: 16000}}
	facts := record.Facts{}
	for i, text := range texts {
		facts.Measurements = append(facts.Measurements, lookTyped(t, pad, adds, text, string(rune('s'+i))))
	}
	if standing != "" {
		facts.Standings = []record.Standing{{TargetID: "s", Standing: standing, Reason: "checked"}}
	}
	opened, err := measure.Open(&r, facts, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return opened
}

func lookTyped(t *testing.T, pad float64, adds *float64, text, id string) record.Measurement {
	t.Helper()
	look, err := emissions.ParseLook(text, f0)
	if err != nil {
		t.Fatal(err)
	}
	payload, _ := json.Marshal(map[string]any{"name": id, "look": look, "start_hz": look.FromHz, "stop_hz": look.ToHz, "offset_db": adds})
	return record.Measurement{ID: id, Kind: "emissions", Keyed: key, Through: through(pad), Payload: payload}
}

// TestWhatIsNotBelievedIsNamed where another look rules without it; struck it is gone.
func TestWhatIsNotBelievedIsNamed(t *testing.T) {
	for standing, notes := range map[string]int{"": 1, record.Struck: 0} {
		opened := looked(t, 40, nil, standing, "30-1600 -40 h37-20", "30-1600 -82 h-3-80")
		box := emissions.Of(opened).Box(opened.Cells[0], false)
		said := 0
		for _, n := range box.Notes {
			if strings.HasPrefix(n.Detail, "s was left out: ") {
				said++
			}
		}
		if said != notes || of(box).Ruling == nil {
			t.Errorf("%q: %+v", standing, box.Notes)
		}
	}
}

func of(b measure.Box) emissions.Ruling { return measure.Own[emissions.Ruling](b.Of) }

// TestAnOffsetForgottenIsNotBelieved: a carrier many times the claim, or over what the input
// survives, is void with its cause, and is ruled on as soon as the offset is told.
func TestAnOffsetForgottenIsNotBelieved(t *testing.T) {
	const shown = "30-1600 -40 h37-20"
	e := lookOf(t, 40, nil, shown, "")
	if e.Void == "" || !strings.Contains(e.Void, "40.0 dB: is it dialled in already?") || e.Ruling != nil || !e.Sweeps[0].Doubtful {
		t.Errorf("37 dBm shown behind 40 dB: %q %+v", e.Void, e.Ruling)
	}
	if told := lookOf(t, 40, v(40), shown, ""); told.Void != "" || told.Ruling.Products[0].Verdict != decision.Pass || told.Sweeps[0].AppliedDB != 40 || *told.Sweeps[0].CarrierDBm != 37 || *told.Sweeps[0].InputDBm != -3 {
		t.Errorf("told: %q %+v", told.Void, told.Sweeps[0])
	}
	// 17 dBm at an input that survives 10, though 37 dBm at the connector are no wonder.
	if e := lookOf(t, 20, nil, "30-1600 -60 h17-50", ""); !strings.Contains(e.Void, "17.0 dBm at an input that survives 10.0 dBm") {
		t.Errorf("%q", e.Void)
	}
	if e := lookOf(t, 30, nil, "30-1600 -60 h7-50", ""); e.Void != "" {
		t.Errorf("7 dBm into 10 dBm: %q", e.Void)
	}
	if e := lookOf(t, 40, nil, shown, record.Struck); e.Void != "" {
		t.Errorf("struck: %q", e.Void)
	}
}

// TestEachSightHasItsOwnBudget: of the analyzer and the path it came through.
func TestEachSightHasItsOwnBudget(t *testing.T) {
	e := lookOf(t, 40, nil, "30-1600 -82 h-3-70", "")
	if b := e.Sweeps[0].Budget; b == nil || b.Absolute != e.Budget.Absolute {
		t.Errorf("%+v", e.Sweeps[0])
	}
	if s := e.Ruling.Products[0].Opened.Sights[0]; s.Applied != 0 || *s.LossDB != 40 {
		t.Errorf("%+v", s)
	}
}

// TestServicesHaveTheirOwnBooks: by the claim, and of amateur bands by the region; but not where
// another was chosen.
func TestServicesHaveTheirOwnBooks(t *testing.T) {
	for _, c := range []struct {
		claim, band string
		region      int
		chosen      string
		want        string
	}{
		{"GMRS main 5", "GMRS main", 2, "us-amateur", "us-gmrs"}, {"FRS 2W", "FRS", 2, "us-amateur", "us-frs"}, {"MURS 2W", "MURS", 2, "us-amateur", "us-murs"}, {"CB 4W AM", "CB", 1, "us-amateur", "us-cb"},
		{"marine 6/1", "marine", 1, "us-amateur", "us-marine-vhf"}, {"2m 5", "2m", 1, "us-amateur", "itu-region-1-amateur"}, {"2m 5", "2m", 2, "us-amateur", "us-amateur"}, {"GMRS main 5", "GMRS main", 2, "house-forty-down", "house-forty-down"},
	} {
		r := record.Review{Subject: record.Subject{}, Claims: []record.Claim{{Text: c.claim}}, Rules: record.Rules{RuleBook: c.chosen, DecisionRule: "guarded"}}
		_ = json.Unmarshal([]byte(`{"itu_region":`+string(rune('0'+c.region))+`}`), &r.Subject)
		opened, err := measure.Open(&r, record.Facts{}, r.Rules, rulebooks.Find, kinds.All())
		if err != nil {
			t.Fatal(err)
		}
		if got := opened.BookOf(c.band).ID; got != c.want || opened.Book.ID != c.want { // the only one it is judged by
			t.Errorf("%s in region %d: %s, the review by %s, want %s", c.claim, c.region, got, opened.Book.ID, c.want)
		}
	}
}
