package rulebook_test

import (
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/rulebooks"
)

// pmr is a book with everything in it that the shipped ones have not: spans by
// offset, several searches, a power limit by class.
const pmr = `{"id":"x","title":"X","kind":"house","source":"a test","recalled":false,
 "carriers":[{"from_hz":100e6,"to_hz":600e6}],"carriers_citation":"outside",
 "power_limits":[{"when":{"classes":["low"]},"max_w":0.5,"power":"mean","as":"erp","citation":"class"},{"when":{},"max_w":5,"power":"carrier","as":"transmitter","citation":"all"}],
 "clauses":[{"when":{"mean_from_w":1,"mean_under_w":10},"citation":"main","exclusion":{"offset_hz":12500},"segments":[
   {"to_offset_hz":25000,"terms":[{"relative_db":60}],"citation":"close in"},
   {"from_hz":1e9,"to_hz":4e9,"terms":[{"absolute_dbm":-30}],"citation":"above"},
   {"to_hz":1e9,"terms":[{"absolute_dbm":-36},{"relative_db":70}],"combine":"lenient","floor_dbm":-40}]}],
 "search":[{"when":{"carrier_to_hz":300e6},"from_hz":9e3,"to_multiple":10},{"from_hz":30e6,"to_hz":3e9}]}`

func parse(t *testing.T, text string) *rulebook.Book {
	t.Helper()
	b, err := rulebook.Parse([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	return b
}

func carrier(f units.Hertz, w float64) rulebook.Carrier {
	return rulebook.Carrier{Frequency: f, MeanW: w, PEPW: w, State: rulebook.Operating}
}

func TestSegmentsByOffsetAndOrder(t *testing.T) {
	l := parse(t, pmr).For(carrier(150e6, 5))
	for _, c := range []struct {
		f    units.Hertz
		want float64
		by   rulebook.DecidedBy
		cite string
	}{
		{150e6 + 12.5e3, math.NaN(), "", ""},
		{150e6 - 20e3, 36.99 - 60, rulebook.ByRelative, "close in"},
		{300e6, 36.99 - 70, rulebook.ByRelative, "main"}, // lenient: whichever allows more
		{1e9, 36.99 - 70, rulebook.ByRelative, "main"},   // the edge belongs to the lower segment
		{1.01e9, -30, rulebook.ByAbsolute, "above"},
		{5e9, math.NaN(), "", ""},
	} {
		got := l.At(c.f)
		if math.IsNaN(c.want) {
			if got.LimitDBm != nil || got.DecidedBy != nil {
				t.Errorf("%v: a limit of %v", c.f, *got.LimitDBm)
			}
			continue
		}
		if got.LimitDBm == nil || math.Abs(*got.LimitDBm-c.want) > 0.006 || *got.DecidedBy != c.by || *got.Citation != c.cite {
			t.Errorf("%v: %+v, want %v by %s", c.f, got, c.want, c.by)
		}
	}
	for _, w := range []float64{0.99, 10} {
		if parse(t, pmr).For(carrier(150e6, w)).Applies {
			t.Errorf("a clause for 1 to under 10 W applies to %v W", w)
		}
	}
}

// TestCeilingIsTheLimit: without uncertainty the ceiling drawn is the limit at
// every frequency, for every shipped book.
func TestCeilingIsTheLimit(t *testing.T) {
	books := []*rulebook.Book{parse(t, pmr)}
	for _, id := range rulebooks.IDs() {
		b, _ := rulebooks.Find(id)
		books = append(books, b)
	}
	for _, b := range books {
		for _, c := range []rulebook.Carrier{carrier(14.2e6, 100), carrier(146e6, 5), carrier(146e6, 0.05), carrier(446e6, 5)} {
			l := b.For(c)
			for _, p := range l.Pieces(1e6, 3e9) {
				for _, share := range []units.Hertz{0.01, 0.37, 0.99} {
					f := p.From + (p.To-p.From)*share
					got, ceiling := l.At(f), float64(p.Ceiling(rulebook.Uncertainty{}, false))
					if (got.LimitDBm == nil) != math.IsInf(ceiling, 1) || got.LimitDBm != nil && math.Abs(*got.LimitDBm-ceiling) > 1e-9 {
						t.Errorf("%s, %v at %v: ceiling %v, limit %v", b.ID, c.Frequency, f, ceiling, got.LimitDBm)
					}
				}
			}
		}
	}
}

// TestJudgeAgreesWithLimit: under the simple rule a level passes exactly when it
// is not above the limit shown.
func TestJudgeAgreesWithLimit(t *testing.T) {
	b, _ := rulebooks.Find("us-amateur")
	for _, w := range []float64{0.03, 0.1, 0.2, 0.25, 1, 25, 26, 1000} {
		l := b.For(carrier(146e6, w))
		limit := units.DBm(*l.At(292e6).LimitDBm)
		for _, d := range []units.DBm{-20, -1, -0.001, 0, 0.001, 1, 20} {
			want := decision.Pass
			if d > 0 {
				want = decision.Fail
			}
			if got := l.Judge(292e6, rulebook.Exactly(limit+d), decision.Simple, rulebook.Guard{}); got != want {
				t.Errorf("%v W, %+v dB: %s", w, d, got)
			}
		}
	}
}

func TestSearchAndPower(t *testing.T) {
	b := parse(t, pmr)
	for _, c := range []struct {
		f        units.Hertz
		from, to float64
	}{{150e6, 9e3, 1.5e9}, {450e6, 30e6, 3e9}} {
		if got, _ := b.SearchRange(carrier(c.f, 5), nil); got.FromHz != c.from || got.ToHz != c.to {
			t.Errorf("%v: %+v", c.f, got)
		}
	}
	low := carrier(150e6, 5)
	low.Class = "low"
	if p := b.PowerLimitFor(low); p.MaxW != 0.5 || p.As != "erp" {
		t.Errorf("%+v", p)
	}
	amateur, _ := rulebooks.Find("us-amateur")
	for f, want := range map[units.Hertz]float64{10.12e6: 200, 146e6: 1500, 14.2e6: 1500} { // 47 CFR 97.313, from memory
		if got := amateur.PowerLimitFor(carrier(f, 5)).MaxW; got != want {
			t.Errorf("%v: %v W, want %v", f, got, want)
		}
	}
}

// TestHouseIsNeverTakenForLaw: a book says what it is and where it is from.
func TestShippedBooksSayWhatTheyAre(t *testing.T) {
	for _, id := range rulebooks.IDs() {
		b, _ := rulebooks.Find(id)
		if b.Source == "" || b.Title == "" || b.Kind == "" || b.Kind == "law" && !b.Recalled || b.Kind == "house" && !strings.Contains(b.Source, "not law") {
			t.Errorf("%s does not say what it is: %+v", id, b)
		}
		for _, c := range b.Clauses {
			if c.Citation == "" {
				t.Errorf("%s has a clause without its citation", id)
			}
		}
	}
}

// TestSchemaAndTypesAgree: the JSON Schema beside the books names the very
// fields that are read.
func TestSchemaAndTypesAgree(t *testing.T) {
	var schema struct {
		Properties map[string]any
		Defs       map[string]struct{ Properties map[string]any } `json:"$defs"`
	}
	if err := json.Unmarshal(rulebooks.Schema(), &schema); err != nil {
		t.Fatal(err)
	}
	for name, c := range map[string]struct {
		typ  reflect.Type
		have map[string]any
	}{
		"book":      {reflect.TypeFor[rulebook.Book](), schema.Properties},
		"clause":    {reflect.TypeFor[rulebook.Clause](), schema.Defs["clause"].Properties},
		"condition": {reflect.TypeFor[rulebook.Condition](), schema.Defs["condition"].Properties},
		"segment":   {reflect.TypeFor[rulebook.Segment](), schema.Defs["segment"].Properties},
		"term":      {reflect.TypeFor[rulebook.Term](), schema.Defs["term"].Properties},
	} {
		var want, got []string
		for i := range c.typ.NumField() {
			tag, _, _ := strings.Cut(c.typ.Field(i).Tag.Get("json"), ",")
			want = append(want, tag)
		}
		for k := range c.have {
			got = append(got, k)
		}
		slices.Sort(want)
		slices.Sort(got)
		if !slices.Equal(want, got) {
			t.Errorf("%s: types have %v, the schema %v", name, want, got)
		}
	}
}

func TestParseRefusals(t *testing.T) {
	for text, want := range map[string]string{
		`{"id":"a","kind":"custom","clauses":[]}`:                                                                                 "kind",
		`{"id":"a","clauses":[{"when":{"modes":["fm"]},"citation":""}]}`:                                                          "clauses[0].when.modes[0]",
		`{"id":"a","clauses":[{"when":{"installed_from":"yesterday"},"citation":""}]}`:                                            "installed_from",
		`{"id":"a","clauses":[{"when":{},"citation":"","exclusion":{"offset_hz":-1}}]}`:                                           "exclusion.offset_hz",
		`{"id":"a","carriers":[{"from_hz":2,"to_hz":1}],"clauses":[]}`:                                                            "carriers[0]",
		`{"id":"a","clauses":[],"power_limits":[{"when":{},"max_w":0,"power":"rms","as":"eirp"}]}`:                                "power_limits[0].max_w",
		`{"id":"a","clauses":[{"when":{},"citation":"","segments":[{"terms":[{"relative_db":1e9}]}]}]}`:                           "no limit",
		`{"id":"a","clauses":[{"when":{},"citation":"","segments":[{"terms":[{"relative_db":1,"absolute_dbm":2}]}]}]}`:            "give one of",
		`{"id":"a","clauses":[{"when":{},"citation":"","segments":[{"reference_bandwidth_hz":0,"terms":[{"relative_db":40}]}]}]}`: "reference_bandwidth_hz",
		`{"id":"a","clauses":[{"when":{},"citation":"","segments":[{"from_hz":2,"to_hz":1,"terms":[{"relative_db":40}]}]}]}`:      "upside down",
		`{"id":"a","clauses":[{"when":{},"citation":"","segments":[{"terms":[]}]}]}`:                                              "at least one term",
		`{"id":"a","clauses":[],"power_limits":[{"when":{},"max_w":1,"power":"rms","as":"eirp"}]}`:                                "power_limits[0].power",
		`{"id":"a","clauses":[],"power_limits":[{"when":{},"max_w":1,"power":"mean","as":"seen"}]}`:                               "power_limits[0].as",
		`{"id":"a","clauses":[{"when":{"carrier_from_hz":2,"carrier_to_hz":1},"citation":"","segments":[]}]}`:                     "carrier_to_hz",
		`{"id":"a","clauses":[{"when":{"state":"asleep"},"citation":"","segments":[]}]}`:                                          "when.state",
		`{"id":"a","clauses":[{"when":{},"citation":"","exclusion":{"percent_of_bandwidth":-1}}]}`:                                "exclusion.percent_of_bandwidth",
		`{"id":"a","clauses":[{"when":{},"citation":"","segments":[{"terms":[{"relative_db":40,"power":"rms"}]}]}]}`:              "terms[0].power",
		`{"id":"a","clauses":[{"when":{},"citation":"","segments":[{"terms":[{"relative_db":40}],"combine":"both"}]}]}`:           "combine",
		`{"id":"a","clauses":[],"authorised_bandwidths":[{"when":{},"bandwidth_hz":0}]}`:                                          "bandwidth_hz",
		`{"id":"a","clauses":[{"when":{"carrier_from_hz":2,"carrier_to_hz":1},"citation":"","segments":[],"colour":"red"}]}`:      "colour",
	} {
		if _, err := rulebook.Parse([]byte(text)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v, want %q", text, err, want)
		}
	}
}

// TestWhatIsKept: what is ruled by must be able to rule; every book that ships is.
func TestWhatIsKept(t *testing.T) {
	shelf := rulebook.NewShelf(rulebooks.Find, rulebooks.IDs())
	for _, b := range shelf.Books() {
		own := *b
		own.ID = "own-" + b.ID
		text, _ := json.Marshal(own)
		if _, err := shelf.Accept(text); err != nil {
			t.Errorf("%s: %v", b.ID, err)
		}
	}
	const limit = `,"citation":"","segments":[{"terms":[{"relative_db":40}]}]`
	for rest, want := range map[string]string{
		`"clauses":[{"when":{"mean_over_w":5,"mean_to_w":5}` + limit + `}]`:                                                                     "clauses[0].when",
		`"clauses":[{"when":{"mean_from_w":5,"mean_to_w":5}` + limit + `}]`:                                                                     "",
		`"clauses":[{"when":{"mean_from_w":5,"mean_under_w":5}` + limit + `}]`:                                                                  "clauses[0].when",
		`"clauses":[{"when":{"mean_under_w":0}` + limit + `}]`:                                                                                  "clauses[0].when",
		`"clauses":[{"when":{},"exclusion":{"percent_of_bandwidth":250}` + limit + `}]`:                                                         "percentage of",
		`"authorised_bandwidths":[{"when":{},"bandwidth_hz":50}],"clauses":[{"when":{},"exclusion":{"percent_of_bandwidth":250}` + limit + `}]`: "",
		`"clauses":[{"when":{},"citation":""}]`:                                                                                                 "clauses[0].segments",
		`"clauses":[{"when":{},"citation":"","exempt":true}]`:                                                                                   "",
		`"clauses":[{"when":{"carrier_from_hz":144,"carrier_to_hz":148e6}` + limit + `}]`:                                                       "clauses[0].when.carrier_from_hz",
		`"carriers":[{"from_hz":0,"to_hz":148}],"clauses":[{"when":{}` + limit + `}]`:                                                           "carriers[0].to_hz",
		`"clauses":[]`: "at least one clause",
		`"authorised_bandwidths":[{"when":{},"bandwidth_hz":49}],"clauses":[{"when":{}` + limit + `}]`:            "authorised_bandwidths[0].bandwidth_hz",
		`"clauses":[{"when":{},"exclusion":{"offset_hz":5000001}` + limit + `}]`:                                  "clauses[0].exclusion.offset_hz",
		`"clauses":[{"when":{},"citation":"","segments":[{"terms":[{"relative_db":150.5}]}]}]`:                    "terms[0].relative_db",
		`"clauses":[{"when":{},"citation":"","segments":[{"terms":[{"relative_db":-1}]}]}]`:                       "terms[0].relative_db",
		`"clauses":[{"when":{},"citation":"","segments":[{"terms":[{"absolute_dbm":60}]}]}]`:                      "",
		`"clauses":[{"when":{},"citation":"","segments":[{"terms":[{"absolute_dbm":61}]}]}]`:                      "terms[0].absolute_dbm",
		`"power_limits":[{"when":{},"max_w":2e6,"power":"mean","as":"erp"}],"clauses":[{"when":{}` + limit + `}]`: "power_limits[0].max_w",
		`"clauses":[{"when":{}` + limit + `}],"search":[{"from_hz":9e3}]`:                                         "search[0]",
		`"clauses":[{"when":{}` + limit + `}],"search":[{"from_multiple":1,"to_multiple":10}]`:                    "",
	} {
		_, err := shelf.Accept([]byte(`{"id":"mine","title":"Mine","kind":"house","source":"a test","recalled":false,` + rest + `}`))
		if got := fmt.Sprint(err); (err == nil) != (want == "") || want != "" && !strings.Contains(got, want) {
			t.Errorf("%s: %v, want %q", rest, err, want)
		}
	}
	// Everything that is wrong is said at once.
	if _, err := shelf.Accept([]byte(`{"id":"","title":"","kind":"","source":"","recalled":false,"clauses":[]}`)); strings.Count(fmt.Sprint(err), ";") < 4 {
		t.Error(err)
	}
}

// TestARulingIsOpened: 5 W at 146 MHz (47 CFR 97.307(e), from memory): 25 µW is -16.02 dBm,
// 40 dB below is -3.01, 10 µW is -20; each term with its own guard.
func TestARulingIsOpened(t *testing.T) {
	amateur, _ := rulebooks.Find("us-amateur")
	l := amateur.For(carrier(146e6, 5))
	held, lenient := l.Open(292e6, -17, rulebook.Exactly(-17), decision.Guarded, rulebook.Plain(rulebook.Uncertainty{Absolute: 1.5, Relative: 2}))
	want := map[rulebook.DecidedBy][2]float64{rulebook.ByAbsolute: {-16.02, 1.5}, rulebook.ByRelative: {-3.01, 2}, rulebook.ByFloor: {-20, 1.5}}
	for _, h := range held {
		w, ok := want[h.By]
		if delete(want, h.By); !ok || math.Abs(h.LimitDBm-w[0]) > 0.005 || math.Abs(*h.MarginDB-w[0]-17) > 0.005 || h.U != w[1] || h.Pass != w[1] {
			t.Errorf("%+v", h)
		}
		if verdict := map[rulebook.DecidedBy]decision.Verdict{rulebook.ByAbsolute: decision.Inconclusive, rulebook.ByRelative: decision.Pass, rulebook.ByFloor: decision.Fail}[h.By]; h.Verdict != verdict {
			t.Errorf("%s %s, want %s", h.By, h.Verdict, verdict)
		}
	}
	if lenient || len(want) > 0 {
		t.Errorf("lenient %v, not held %v", lenient, want)
	}
	if held, _ := l.Open(146e6, -17, rulebook.Exactly(-17), decision.Guarded, rulebook.Guard{}); len(held) > 0 {
		t.Errorf("the carrier itself: %v", held)
	}
}

// FuzzAccept: a book that is taken on the shelf can be asked about any carrier.
func FuzzAccept(f *testing.F) {
	for _, id := range rulebooks.IDs() {
		b, _ := rulebooks.Find(id)
		own := *b
		own.ID = "own-" + id
		text, err := json.Marshal(own)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(text)
	}
	shelf := rulebook.NewShelf(rulebooks.Find, rulebooks.IDs())
	f.Fuzz(func(t *testing.T, text []byte) {
		b, err := shelf.Accept(text)
		if err != nil {
			return
		}
		if _, ships := rulebooks.Find(b.ID); ships || b.Checked != nil || b.Kind == "law" && !b.Recalled {
			t.Errorf("%+v", b)
		}
		for _, hz := range []units.Hertz{27.185e6, 146e6, 462.6e6} {
			l := b.For(carrier(hz, 5))
			for _, p := range l.Pieces(1e6, 2e9) {
				p.Ceiling(rulebook.Uncertainty{Absolute: 1}, false)
			}
			l.At(2 * hz)
			l.Open(2*hz, -20, rulebook.Exactly(-20), decision.Guarded, rulebook.Guard{})
			b.SearchRange(carrier(hz, 5), nil)
			b.PowerLimitFor(carrier(hz, 5))
		}
	})
}

// TestWhatShipsIsOffered: a book of one's own is withdrawn, one that ships stays; both are still found.
func TestWhatShipsIsOffered(t *testing.T) {
	shelf := rulebook.NewShelf(rulebooks.Find, rulebooks.IDs())
	shelf.Put(&rulebook.Book{ID: "own-x", Title: "mine", Kind: "house"})
	n := len(shelf.Books())
	shelf.Withdraw("us-amateur")
	if len(shelf.Books()) != n {
		t.Error("a book that ships was withdrawn")
	}
	shelf.Withdraw("own-x")
	if _, found := shelf.Find("own-x"); len(shelf.Books()) != n-1 || !found {
		t.Errorf("%d books of %d, found %v", len(shelf.Books()), n, found)
	}
}

// TestEdgesOfABook: a carrier on either end of its service is governed, beside it not; a harmonic is what
// lies within a thousandth of a multiple.
func TestEdgesOfABook(t *testing.T) {
	b := parse(t, pmr)
	for f, want := range map[units.Hertz]bool{100e6: true, 99.999e6: false, 600e6: true, 600.001e6: false} {
		if b.Governs(f) != want {
			t.Errorf("a carrier at %s: governed %v", f, !want)
		}
	}
	const own = `{"id":"x","title":"X","kind":"house","source":"a test","recalled":false,"clauses":[{"when":{},"citation":"main","segments":[
		{"harmonics_only":true,"terms":[{"relative_db":60}],"citation":"harmonics"},{"terms":[{"relative_db":50}],"citation":"spurious"}]}],"search":[{"from_hz":9e3,"to_multiple":10}]}`
	l := parse(t, own).For(carrier(100e6, 5))
	for f, want := range map[units.Hertz]string{200e6: "harmonics", 200.2e6: "harmonics", 200.25e6: "spurious", 199.81e6: "harmonics", 199.75e6: "spurious", 300.29e6: "harmonics", 300.31e6: "spurious", 100.05e6: "spurious"} {
		if at := l.At(f); at.Citation == nil || *at.Citation != want {
			t.Errorf("%s: %+v, want %s", f, at, want)
		}
	}
}

// TestPartsOfABook: a segment from an offset on, its clause's citation where it sets nothing, nothing below a
// carrier there; the clause across an edge in power of a book of its own service.
func TestPartsOfABook(t *testing.T) {
	b := parse(t, `{"id":"x","title":"X","kind":"house","source":"a test","recalled":false,"service":"own","authorised_bandwidths":[{"when":{"services":["own"]},"bandwidth_hz":20000}],"clauses":[
		{"when":{"services":["own"],"mean_to_w":5},"citation":"small","segments":[{"from_offset_hz":1e6,"terms":[{"relative_db":60}]}]},
		{"when":{"services":["own"],"mean_over_w":5},"citation":"large","segments":[{"terms":[{"relative_db":70}]}]}],"search":[{"from_hz":9e3,"to_multiple":10}]}`)
	l := b.For(carrier(150e6, 4.8))
	if near, far := l.At(150.5e6), l.At(152e6); near.LimitDBm != nil || near.Citation == nil || *near.Citation != "small" || far.LimitDBm == nil {
		t.Errorf("%+v %+v", near, far)
	}
	if w := b.Authorised(carrier(150e6, 4.8)); w == nil || *w != 20e3 {
		t.Errorf("%v", w)
	}
	if any := b.AtAnyPower(carrier(150e6, 4.8)); len(any) != 1 || math.Abs(*any[0].At(300e6).LimitDBc+70) > 1e-9 || math.Abs(*any[0].At(300e6).LimitDBm-(36.812-70)) > 1e-3 {
		t.Errorf("70 dB below the 4.8 W that the carrier is taken to have: %+v", any)
	}
	if none := l.BelowCarrier(150.5e6); none.LimitDBc != nil {
		t.Errorf("%+v", none)
	}
	if other := b.AcrossEdges(carrier(150e6, 4.8), 4.6, 5.2); len(other) != 1 || other[0].Citation != "large" {
		t.Errorf("%+v", other)
	}
}

// TestCarriersThatAreNone are refused at their field.
func TestCarriersThatAreNone(t *testing.T) {
	good := carrier(146e6, 5)
	if good.Check() != nil {
		t.Fatal(good.Check())
	}
	for field, spoil := range map[string]func(*rulebook.Carrier){
		"fundamental_hz": func(c *rulebook.Carrier) { c.Frequency = 0 }, "mean_power_w: give": func(c *rulebook.Carrier) { c.MeanW = 0 }, "mean_power_w: too": func(c *rulebook.Carrier) { c.MeanW, c.PEPW = 1e306, 1e306 },
		"pep_w: the": func(c *rulebook.Carrier) { c.PEPW = 4.9 }, "pep_w: too": func(c *rulebook.Carrier) { c.PEPW = 1e306 }, "mode": func(c *rulebook.Carrier) { c.Mode = "fm" }, "state": func(c *rulebook.Carrier) { c.State = "" },
	} {
		bad := good
		spoil(&bad)
		if err := bad.Check(); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
	for field, c := range map[string]rulebook.Checked{"by": {Edition: "2026-01-01", On: "2026-02-01"}, "edition": {By: "A Reviewer", On: "2026-02-01"}, "on": {By: "A Reviewer", Edition: "2026-01-01", On: "lately"}, "by: say": {By: strings.Repeat("x", 121), Edition: "1", On: "2026-02-01"}, "edition: say": {By: "x", Edition: strings.Repeat("x", 201), On: "2026-02-01"}} {
		if err := c.Check(); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
	if err := (rulebook.Checked{By: "A Reviewer", Edition: "2026-01-01", On: "2026-02-01"}).Check(); err != nil {
		t.Error(err)
	}
}

// TestLevelsBelowACarrier: an absolute term passes none of them, and fails what is far over it by the meter's
// power alone; the ceiling asks for the relative terms then. A book of a service holds for its own.
func TestLevelsBelowACarrier(t *testing.T) {
	b := parse(t, `{"id":"x","title":"X","kind":"house","source":"a test","recalled":false,"service":"own","clauses":[{"when":{"services":["own"]},"citation":"main","segments":[
		{"terms":[{"absolute_dbm":-30,"relative_db":null},{"relative_db":60}],"citation":"both"}]}],"search":[{"from_hz":9e3,"from_multiple":0.5,"to_multiple":10}]}`)
	l := b.For(carrier(146e6, 5)) // 37 dBm: 60 dB below are -23 dBm
	if l.Citation != "main" {
		t.Fatalf("%+v", l)
	}
	u := rulebook.Plain(rulebook.Uncertainty{Absolute: 1, Relative: 1})
	for _, c := range []struct {
		level   units.DBm
		byMeter bool
		want    decision.Verdict
	}{{-40, true, decision.Inconclusive}, {-29.5, true, decision.Inconclusive}, {-28.9, true, decision.Fail}, {-28.9, false, decision.Inconclusive}, {-20, false, decision.Fail}} {
		if got := l.Judge(292e6, rulebook.Level{Least: c.level, Most: c.level, RelativeOnly: true, ByMeter: c.byMeter}, decision.Guarded, u); got != c.want {
			t.Errorf("%v dBm, by the meter %v: %s, want %s", c.level, c.byMeter, got, c.want)
		}
	}
	p := l.Pieces(200e6, 300e6)[0]
	if a, r := p.Ceiling(rulebook.Uncertainty{}, false), p.Ceiling(rulebook.Uncertainty{}, true); math.Abs(float64(a)+30) > 1e-9 || math.Abs(float64(r)+23.01) > 0.01 {
		t.Errorf("%v and %v", a, r)
	}
	if s, _ := b.SearchRange(carrier(146e6, 5), nil); s.FromHz != 73e6 || s.ToHz != 1.46e9 {
		t.Errorf("%+v", s)
	}
	c := carrier(146e6, 5)
	c.Service = "another"
	if other := b.For(c); other.Citation == "main" {
		t.Error("a clause of one service holds for another")
	}
}

// TestIdsOfOnesOwnBooks: small letters, and none that ships.
func TestIdsOfOnesOwnBooks(t *testing.T) {
	shelf := rulebook.NewShelf(rulebooks.Find, rulebooks.IDs())
	const rest = `,"title":"mine","kind":"house","source":"our practice","clauses":[{"when":{},"citation":"c","segments":[{"terms":[{"relative_db":40}],"citation":"s"}]}],"search":[{"from_hz":9e3,"to_multiple":10}]}`
	for id, want := range map[string]string{"my-club": "", "My Club": "small letters", "us-amateur": "ships"} {
		if _, err := shelf.Accept([]byte(`{"id":"` + id + `"` + rest)); (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", id, err)
		}
	}
}
