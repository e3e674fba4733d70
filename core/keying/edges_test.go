package keying_test

import (
	"fmt"
	"strings"
	"testing"

	"talloak/core/keying"
	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/rulebooks"
)

// TestEdgesLieInsideTheBand: half a percent of it, 20 kHz of the 4 MHz of 2 m.
func TestEdgesLieInsideTheBand(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m 5"}, {Text: "10m AM 12 SSB 35"}}, Sheet: record.Sheet{Marks: []string{"edges"}}}
	p := sheet(t, r, way("v", vhf, load))
	at := p.Rows[0].Channels
	if len(at) != 2 || at[0].FrequencyHz != 144.02e6 || at[1].FrequencyHz != 147.98e6 {
		t.Errorf("%+v", at)
	}
	wide := sheet(t, record.Review{Claims: []record.Claim{{Text: "70cm 5"}}, Sheet: record.Sheet{Marks: []string{"edges"}}}, way("u", uhf, load)).Rows[0].Channels
	if len(wide) != 2 || wide[0].FrequencyHz != 420.15e6 || wide[1].FrequencyHz != 449.85e6 { // of 30 MHz
		t.Errorf("%+v", wide)
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

// TestDoneIsWhatCounts: a reading of a meter that is not made for the frequency leaves its step open, and what on
// the bench would do is made for the highest power of that band alone.
func TestDoneIsWhatCounts(t *testing.T) {
	for claimed, cure := range map[string]string{"70cm 1": "use tiny UHF meter", "70cm 4": "use UHF meter", "70cm": "use UHF meter"} {
		r := record.Review{Claims: []record.Claim{{Text: "2m 5"}, {Text: claimed}}, Sheet: record.Sheet{PathIDs: []string{"v"}}}
		p := sheet(t, r, way("v", vhf, load))
		if s := p.Steps[1]; s.Band != "70cm" || s.Cure != cure {
			t.Errorf("%s: %q", claimed, s.Cure)
		}
	}
	r := record.Review{Claims: []record.Claim{{Text: "2m 5"}, {Text: "70cm 4"}}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90}}
	facts := record.Facts{}
	for _, k := range []record.Keyed{{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146.52e6}, {Band: "70cm", Level: "High", Mode: "FM", FrequencyHz: 446e6}} {
		facts.Measurements = append(facts.Measurements, record.Measurement{ID: k.Band, Kind: "power", Keyed: k, Through: way("v", vhf, load), Payload: []byte(`{"text":"4"}`)})
	}
	opened, err := measure.Open(&r, facts, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range keying.SheetOf(opened, keying.Ways{Paths: []*record.Through{way("v", vhf, load)}}).Steps {
		if s.Done != (s.Band == "2m") {
			t.Errorf("%s: done %v", s.Band, s.Done)
		}
	}
}

// TestWhatIsKeyedInto a path: the levels of the band and mode, with the current read at each; the
// highest of the mode claimed anywhere; of other modes, to which it can be set by a slip, apart; what the channel is called.
func TestWhatIsKeyedInto(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m 5/1"}, {Text: "marine 6/1"}, {Text: "6m AM 4"}, {Text: "10m AM 12 SSB pep 35"}, {Text: "70cm DIGITAL"}}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90}}
	two := record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146.52e6}
	facts := record.Facts{Measurements: []record.Measurement{{ID: "a", Kind: "power", Keyed: two, Through: way("v", vhf, load), Payload: []byte(`{"text":"4.8 13.8v 1.2a"}`)}}}
	opened, err := measure.Open(&r, facts, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	said := func(k record.Keyed) string {
		w := keying.Into(opened, k, way("v", vhf, load), nil)
		var out []string
		for _, l := range w.Levels {
			amps := ""
			if l.A != nil {
				amps = fmt.Sprintf(" %g A", *l.A)
			}
			out = append(out, fmt.Sprintf("%s %g %s %v%s", l.Name, l.W, l.Mode, l.PEP, amps))
		}
		var slips []string
		for _, l := range w.Slips {
			slips = append(slips, fmt.Sprintf("%s %g", l.Name, l.W))
		}
		return strings.Join(out, ", ") + "; " + w.Channel + "| " + strings.Join(slips, ", ")
	}
	if got := said(two); got != "High 5 FM false 1.2 A, Low 1 FM false, marine High FM 6 FM false; | 10m High AM 12, 10m High SSB 35" {
		t.Error(got)
	}
	// Where nothing is claimed in a mode the others are all that is known.
	if got := said(record.Keyed{Band: "70cm", Level: "High", Mode: "DIGITAL", FrequencyHz: 446e6}); !strings.Contains(got, "marine High FM 6") || !strings.HasSuffix(got, "| ") {
		t.Error(got)
	}
	if got := said(record.Keyed{Band: "marine", Level: "High", Mode: "FM", FrequencyHz: 156.3e6}); !strings.Contains(got, "High 6 FM false") || !strings.Contains(got, "channel 6") {
		t.Error(got)
	}
	if got := said(record.Keyed{Band: "marine", Level: "High", Mode: "FM", FrequencyHz: 156.8e6}); !strings.Contains(got, "channel 16, emergency") {
		t.Error(got)
	}
}

// TestChannelsOfASheet: each frequency once, at its marks and where somebody wants it; what is kept for
// something is said. A person's order goes before the sheet's own, and paths that were chosen are taken.
func TestChannelsOfASheet(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m 5/1"}}, Sheet: record.Sheet{Marks: []string{"calling", "middle"}, Own: map[string][]float64{"2m": {146.52e6, 145.5e6}}, PathIDs: []string{"a", "gone", "v"}}}
	p := sheet(t, r, way("v", vhf, load), way("a", pad, see))
	var got []string
	for _, c := range p.Rows[0].Channels {
		got = append(got, fmt.Sprintf("%g %v", c.FrequencyHz/1e6, c.Own))
	}
	if strings.Join(got, ", ") != "145.5 true, 146 false, 146.52 false" {
		t.Errorf("%v", got)
	}
	if p.Steps[0].Path != "a" || p.Steps[len(p.Steps)-1].Path != "v" {
		t.Errorf("%s", lines(p))
	}
	r.Sheet.Order = []string{p.Steps[3].Key, p.Steps[1].Key}
	moved := sheet(t, r, way("v", vhf, load), way("a", pad, see))
	if moved.Steps[0].Key != p.Steps[3].Key || moved.Steps[1].Key != p.Steps[1].Key || moved.Steps[2].Key != p.Steps[0].Key || moved.Steps[0].N != 1 {
		t.Errorf("%s", lines(moved))
	}
	// Heat by the claim; where nothing is claimed by what is taken for the most.
	for claim, joules := range map[string]float64{"2m 5": 50, "2m ?": 100} {
		q := sheet(t, record.Review{Claims: []record.Claim{{Text: claim}}}, way("v", vhf, load))
		if q.Steps[0].HeatJ != joules {
			t.Errorf("%s: %g J", claim, q.Steps[0].HeatJ)
		}
	}
}
