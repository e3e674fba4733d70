package board_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/measure/frequency"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/measuretest"
	"talloak/rulebooks"
)

// TestWhatStandsInTheWayOfAnEdition: each thing that nobody said, by itself, and what blocks; a book that
// was checked is not doubted any more, that of a band neither.
func TestWhatStandsInTheWayOfAnEdition(t *testing.T) {
	whole := func() (*record.Review, record.Facts) {
		r := measuretest.Review("2m 5/1")
		r.Subject = record.Subject{Model: "T1", Serial: "1", ComeBy: "bought", Interest: "none"}
		r.Rules = record.Rules{RuleBook: "house-forty-down", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}
		return r, measuretest.Facts(t, frequency.Name, record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}, frequency.Draft{Text: "+96Hz"})
	}
	said := func(r *record.Review, facts record.Facts, books measure.Books) (codes []string, blocks bool) {
		t.Helper()
		open, err := measure.Open(r, facts, r.Rules, books, kinds.All())
		if err != nil {
			t.Fatal(err)
		}
		b := board.Of(open, false)
		for _, o := range board.Obstacles(open, &b) {
			codes, blocks = append(codes, string(o.Code)), blocks || o.Blocks
		}
		slices.Sort(codes)
		return codes, blocks
	}
	r, facts := whole()
	usual, blocked := said(r, facts, rulebooks.Find)
	if blocked {
		t.Errorf("nothing is missing: %v", usual)
	}
	more := func(name string, change func(*record.Review, *record.Facts), wantMore, wantBlocks bool) {
		r, facts := whole()
		change(r, &facts)
		got, blocks := said(r, facts, rulebooks.Find)
		if (len(got) > len(usual)) != wantMore || blocks != wantBlocks {
			t.Errorf("%s: %v beside %v, blocks %v", name, got, usual, blocks)
		}
	}
	more("nothing", func(*record.Review, *record.Facts) {}, false, false)
	more("how it was come by", func(r *record.Review, _ *record.Facts) { r.Subject.ComeBy = "" }, true, true)
	more("an interest", func(r *record.Review, _ *record.Facts) { r.Subject.Interest = "" }, true, true)
	more("serial and date code", func(r *record.Review, _ *record.Facts) { r.Subject.Serial = "" }, true, false)
	more("a date code does", func(r *record.Review, _ *record.Facts) { r.Subject.Serial, r.Subject.DateCode = "", "2609" }, false, false)
	more("a source", func(r *record.Review, _ *record.Facts) { r.Claims[0].Source = " " }, true, true)
	more("a claim that is read", func(r *record.Review, _ *record.Facts) {
		r.Claims = append(r.Claims, record.Claim{Text: "2m lots", Source: "box"})
	}, true, true)
	more("anything measured", func(_ *record.Review, f *record.Facts) { f.Measurements = nil }, true, true)
	more("practice", func(r *record.Review, _ *record.Facts) { r.Practice = "first-afternoon" }, true, true)
	by := func(simulated bool) func(*record.Review, *record.Facts) {
		return func(_ *record.Review, f *record.Facts) {
			f.Measurements[0].Payload, _ = json.Marshal(frequency.Draft{Text: "+96Hz", By: []record.By{{Name: "counter", Simulated: simulated}}})
		}
	}
	more("an instrument that is there", by(true), true, true)
	more("read by a real one", by(false), false, false)
	more("struck, it stands in no way", func(r *record.Review, f *record.Facts) {
		by(true)(r, f)
		f.Standings = append(f.Standings, record.Standing{ID: "s", TargetID: f.Measurements[0].ID, Standing: record.Struck, Reason: "simulated"})
	}, true, false) // nothing else is measured then, which is said and blocks nothing
	more("rules within bounds", func(r *record.Review, _ *record.Facts) { r.Rules.ToleranceDB = 30 }, true, true)

	// Recalled books are doubted until somebody held them against their text.
	checked := func(ids ...string) measure.Books {
		shelf := rulebook.NewShelf(rulebooks.Find, rulebooks.IDs())
		for _, id := range ids {
			shelf.Check(id, rulebook.Checked{By: "a reader", Edition: "2026", On: "2026-11-01"})
		}
		return shelf.Find
	}
	r, facts = whole()
	r.Rules.RuleBook, r.Rules.Books = "us-amateur", map[string]string{"2m": "itu-category-a"}
	doubted := func(ids ...string) (n int) {
		codes, _ := said(r, facts, checked(ids...))
		for _, c := range codes {
			if c == "book-unchecked" {
				n++
			}
		}
		return n
	}
	if none, one, both := doubted(), doubted("itu-category-a"), doubted("us-amateur", "itu-category-a"); none != one+1 || both >= one && one > 0 {
		t.Errorf("doubted %d, with the band's checked %d, with both %d", none, one, both)
	}
}

// TestWhatManyBoxesLackIsOneLine: from three boxes on, in the place of the first; fewer keep a
// line each, and what power alone leaves out is not counted at all.
func TestWhatManyBoxesLackIsOneLine(t *testing.T) {
	missing := func(scope, claim string) (lines []string) {
		t.Helper()
		r := measuretest.Review(claim)
		r.Sheet.Scope = scope
		open, err := measure.Open(r, record.Facts{}, r.Rules, rulebooks.Find, kinds.All())
		if err != nil {
			t.Fatal(err)
		}
		b := board.Of(open, false)
		for _, o := range board.Obstacles(open, &b) {
			if o.Of != "" && o.Each != "" {
				lines = append(lines, o.Detail)
			}
		}
		return lines
	}
	few, many := missing("", "2m 5/1"), missing("", "2m 5/4/3/1")
	if len(many) >= len(few) || len(many) == 0 {
		t.Fatalf("two boxes: %q; four: %q", few, many)
	}
	for _, line := range many {
		if !strings.HasPrefix(line, "4 boxes: ") || !strings.Contains(line, "2m") {
			t.Errorf("of four boxes: %q", line)
		}
	}
	for _, line := range few {
		if strings.Contains(line, "boxes: ") {
			t.Errorf("of two boxes: %q", line)
		}
	}
	if alone := missing(measure.PowerOnly, "2m 5/4/3/1"); len(alone) >= len(many) || len(alone) == 0 {
		t.Errorf("power only: %q beside %q", alone, many)
	}
}
