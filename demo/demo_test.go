package demo_test

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"math"
	"regexp"
	"strings"
	"testing"
	"time"

	"talloak/app"
	"talloak/core/board"
	"talloak/core/compute"
	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
	"talloak/core/record"
	"talloak/demo"
	"talloak/publish"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
)

func load(t *testing.T) (*store.Store, map[string]*measure.Review) {
	t.Helper()
	return of(t, storetest.Copy(t, "demo", fill))
}

func fill(s *store.Store) error {
	return demo.Load(context.Background(), app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs()))
}

// of are the reviews in a store, by their titles.
func of(t *testing.T, s *store.Store) (*store.Store, map[string]*measure.Review) {
	t.Helper()
	a := app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs())
	reviews, err := s.Reviews(t.Context(), nil, 100)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]*measure.Review{}
	for i := range reviews {
		d, err := a.Open(t.Context(), reviews[i].Review.ID, store.WithTraces, nil)
		if err != nil {
			t.Fatal(err)
		}
		out[d.Title()] = d
	}
	return s, out
}

const (
	larkrise = "Larkrise L2, serial L2-00418, date code 2609, firmware 1.4"
	quillon  = "Quillon Q7, serial 77-1093, date code 2541, firmware 2.02"
	filtered = quillon + ", changed"
)

// cell is a box of the board with both its rulings.
type cell struct {
	Verdict   decision.Verdict
	Why       string
	Reading   *power.Reading
	Emissions emissions.Ruling
}

func box(t *testing.T, d *measure.Review, band, level string) cell {
	t.Helper()
	for _, c := range board.Of(d, false).Cells {
		if c.Cell.Band.Name == band && c.Cell.Level == level {
			e := c.Box("emissions")
			return cell{e.Verdict, e.Why, measure.Own[power.Ruling](c.Box("power").Of).Reading, measure.Own[emissions.Ruling](e.Of)}
		}
	}
	t.Fatalf("no %s %s", band, level)
	return cell{}
}

func harmonic(c cell, n int) judge.Product { return c.Emissions.Ruling.Products[n-2] }

func wholeOf(d *measure.Review) decision.Verdict {
	b := board.Of(d, false)
	return b.Whole("emissions").Verdict
}

// TestMetersCompared: two meters stand against each other, 0.19 dB apart as the
// simulated bench has them, and nothing was taken out by that.
func TestMetersCompared(t *testing.T) {
	s, _ := load(t)
	rows, err := s.Baselines(t.Context())
	if err != nil || len(rows) != 1 {
		t.Fatalf("%d, %v", len(rows), err)
	}
	ask := compute.BaselineIn{}
	for _, m := range rows[0].Meters {
		ask.Meters = append(ask.Meters, m.Name)
		if m.Spec.Meter.Baseline != nil {
			t.Errorf("%s was corrected unasked", m.Name)
		}
	}
	for _, r := range rows[0].Rows {
		ask.Rows = append(ask.Rows, compute.BaselineRowIn(r))
	}
	found, err := compute.Baseline(&ask)
	if err != nil {
		t.Fatal(err)
	}
	if got := *found[0].OffsetDB; math.Abs(got-0.19) > 2*(*found[0].Uncertainty) || math.Abs(got+*found[1].OffsetDB) > 1e-9 {
		t.Errorf("%+v", found)
	}
}

// TestTheStory: the demo shows what it is there to show.
func TestTheStory(t *testing.T) {
	_, reviews := load(t)
	lark, quill, filter := reviews[larkrise], reviews[quillon], reviews[filtered]
	if lark == nil || quill == nil || filter == nil {
		t.Fatalf("reviews %v", reviews)
	}

	high, low := box(t, lark, "2m", "High"), box(t, lark, "2m", "Low")
	if high.Verdict != decision.Pass || low.Verdict != decision.Pass {
		t.Errorf("the Larkrise is clean: %s, %s", high.Verdict, low.Verdict)
	}
	if h, l := harmonic(high, 5), harmonic(low, 5); *l.DBc <= *h.DBc+10 {
		t.Errorf("the fifth is worse at Low in dBc: %v against %v", *l.DBc, *h.DBc)
	}
	if c := box(t, lark, "70cm", "High"); c.Verdict != decision.NoLimit || !strings.Contains(c.Why, "no figure") {
		t.Errorf("70cm has no figure: %s, %s", c.Verdict, c.Why)
	}

	bad := box(t, quill, "2m", "High")
	if got := *bad.Reading.Result.AtConnectorW; got < 5.4 || got > 5.8 {
		t.Errorf("the Quillon claims 7 W and makes 5.6: %v", got)
	}
	third := harmonic(bad, 3)
	if *third.DBc > -40 || third.Verdict != decision.Fail || *third.DecidedBy != "absolute" {
		t.Errorf("over 40 dB down, yet over the absolute part: %v dBc, %s", *third.DBc, third.Verdict)
	}
	spur := bad.Emissions.Ruling.Products[len(bad.Emissions.Ruling.Products)-1]
	if spur.Kind != judge.Spur || *spur.FrequencyHz < 1e9 || spur.Verdict != decision.Fail || !strings.Contains(*spur.Sweep, "wide") {
		t.Errorf("a spur above 1 GHz that only the wide sweep sees: %+v", spur)
	}
	if got := wholeOf(filter); got != decision.Pass {
		t.Errorf("with the filter fitted it %s", got)
	}

	// Mistakes being caught: a struck reading, a meter out of its range, a suspect sweep.
	var why []string
	for _, d := range reviews {
		for _, r := range power.Of(d).Readings() {
			if !r.Counts {
				why = append(why, r.WhyNot)
			}
		}
	}
	if all := strings.Join(why, "; "); !strings.Contains(all, "still on Low") || !strings.Contains(all, "not made for") {
		t.Errorf("caught: %s", all)
	}
	if s := bad.Emissions.Sweeps[0]; s.Standing != "suspect" {
		t.Errorf("the first look is %s", s.Standing)
	}
}

// TestTheFurtherAfternoons: power over volts with the step that was refused, over the band
// and beyond; a pair that no coax explains; a harmonic too close to call; ten bands on three
// scales of a cross-needle meter.
func TestTheFurtherAfternoons(t *testing.T) {
	_, reviews := load(t)
	by := func(model string) (*measure.Review, board.Board) {
		for _, r := range reviews {
			if r.Subject.Model == model {
				return r, board.Of(r, false)
			}
		}
		t.Fatalf("no %s", model)
		return nil, board.Board{}
	}
	r, b := by("25")
	study := power.Of(r).Study()
	if len(study.Supply) != 1 || len(study.Frequency) != 1 || len(study.Pairs) != 1 || study.Pairs[0].Fits != "none" || len(study.Drawn) < 6 {
		t.Errorf("%+v", study)
	}
	if p := study.Supply[0].Points; !p[len(p)-1].Refused || *p[0].W > *p[len(p)-2].W {
		t.Errorf("%+v", p)
	}
	if w := b.Whole(power.Name); w.Verdict != decision.Pass {
		t.Errorf("%s: %s", w.Verdict, b.Headline)
	}
	if w := b.Whole(emissions.Name); w.Verdict != decision.SoFar {
		t.Errorf("%s: %s", w.Verdict, b.Headline)
	}
	if _, b = by("M6"); b.Whole(emissions.Name).Verdict != decision.Inconclusive {
		t.Errorf("%s", b.Headline)
	}
	r, b = by("Ten")
	if len(b.Cells) != 30 || b.Whole(power.Name).Verdict == decision.NotExamined {
		t.Errorf("%d boxes: %s", len(b.Cells), b.Headline)
	}
	scales := map[string]int{}
	for _, read := range power.Of(r).Readings() {
		scales[read.Through.Kit[1].Setting]++
	}
	if scales["15 W"] != 20 || scales["3 W"] != 10 {
		t.Errorf("%v", scales)
	}
}

// TestSameEveryTime: two demos have the same figures and ids.
func TestSameEveryTime(t *testing.T) {
	_, a := load(t)
	anew := storetest.Open(t)
	if err := fill(anew); err != nil {
		t.Fatal(err)
	}
	_, b := of(t, anew)
	at := time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC)
	for title, d := range a {
		x, _, _, err := publish.Compose(d, publish.Frame{Number: 1, FrozenAt: at}, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		y, _, _, err := publish.Compose(b[title], publish.Frame{Number: 1, FrozenAt: at}, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		if taken := regexp.MustCompile(`"(taken|started|said)_at":"[^"]*"|"preflight":"[^"]*"|"sum":.*`); !bytes.Equal(taken.ReplaceAll(x, nil), taken.ReplaceAll(y, nil)) {
			t.Errorf("%s differs", title)
		}
	}
}

// TestEditionsAreWhatTheyWere: byte for byte what the first release froze of the same
// facts, the times of taking apart. A change of this is a change of every figure
// published: say why in the commit that makes it.
func TestEditionsAreWhatTheyWere(t *testing.T) {
	_, reviews := load(t)
	at := time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC)
	for title, want := range map[string][2]string{
		larkrise: {"8077edfb3e548e89fef9f22f4c8457e6e6ad5afee87fa7b2f9130766c96fc742", "7b70aa1b1132a9b4196b76a23fd1545ef882e225ff56381bd5ecd465c7448506"},
		quillon:  {"329e18359675ccb7d51c7365326754b68759db0d27b3b0960f024ae6e31ddfad", "6f0467da1cb006d360a5b066af6af7c9fbbba05dfae973a0effac82de970deca"},
	} {
		doc, page, sum, err := publish.Compose(reviews[title], publish.Frame{Number: 1, FrozenAt: at}, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		doc = regexp.MustCompile(`"(taken|started|said)_at":"[^"]*"|"program":"[^"]*"|"sum":.*`).ReplaceAll(doc, nil)
		page = regexp.MustCompile(`\d+ [A-Z][a-z]+ \d{4}, \d\d:\d\d UTC|`+sum+`|Worked out by [^<]*|(?s)<!-- talloak.*`).ReplaceAll(page, nil)
		for i, bytes := range [][]byte{doc, page} {
			if got := sha256.Sum256(bytes); hex.EncodeToString(got[:]) != want[i] {
				t.Errorf("%s, part %d: %x", title, i, got)
			}
		}
	}
}

// TestEditionHoldsWhatItSays: the hash is of the data, the page shows the same
// figures, stands alone, and gives every figure its unit.
func TestEditionHoldsWhatItSays(t *testing.T) {
	s, reviews := load(t)
	editions, err := s.Editions(t.Context(), reviews[quillon].ID)
	if err != nil || len(editions) != 1 {
		t.Fatalf("%v %v", editions, err)
	}
	e, err := s.Edition(t.Context(), editions[0].ID)
	if err != nil {
		t.Fatal(err)
	}
	sum := sha256.Sum256(e.Document)
	if hex.EncodeToString(sum[:]) != e.SHA256 {
		t.Error("the hash is not that of the data")
	}
	var doc publish.Document
	if err := json.Unmarshal(e.Document, &doc); err != nil {
		t.Fatal(err)
	}
	if doc.Number != 1 || doc.RuleBook.ID != "us-amateur" || len(doc.Readings) != 3 || len(doc.Kit) < 5 {
		t.Errorf("%d %s %d %d", doc.Number, doc.RuleBook.ID, len(doc.Readings), len(doc.Kit))
	}
	page := regexp.MustCompile(`base64,[^)]*|(?s)<!-- talloak.*`).ReplaceAllString(string(e.Page), "") // the fonts and the data
	for _, want := range []string{e.SHA256, "−9.0 dB", "5.64 W", "recalled from memory", "no certification", "47 CFR 97.307(e)", "lent (by a reader)",
		"power pad, 40 dB, 25 W, last checked", "2m Low: examined 30 MHz to 960 MHz", "suspect: the second harmonic fell", "the meter is not made for 146.52 MHz", "spur at 1.2417 GHz", "Uncertainty of a level", "mismatch of the radio at its products, SWR 3 into", "typed <code>", "loss in front of the meter 0.", "offset already on the instrument 0.00 dB", "a ten-thousandth of it", "which is 71 % of it", "what a full examination asks for", "needle meter, 1.6 to 60 MHz", "shown −57.", "wide, bench analyzer</td>"} {
		if !strings.Contains(page, want) {
			t.Errorf("the page does not say %q", want)
		}
	}
	if refs := regexp.MustCompile(`src="[^d]|href="[^#]|url\((?:'|")?(?:[^d'"]|d[^a])`).FindAllString(page, 3); refs != nil {
		t.Errorf("the page needs other files: %q", refs)
	}
	for _, advice := range []string{"sweep again", "change the scale", "was the radio keyed", " box ", " boxes"} {
		if strings.Contains(page, advice) {
			t.Errorf("the page tells its readers %q", advice)
		}
	}
	if strings.Count(page, "<script") != strings.Count(page, `<script type="application/ld+json">`) || strings.Contains(page, "NaN") || strings.Contains(page, "%!") {
		t.Error("the page has a script, or a figure that is none")
	}
	again, err := publish.Page(doc, e.Document)
	if err != nil || !strings.Contains(string(again), "−9.0 dB") {
		t.Errorf("the page cannot be made from the data alone: %v", err)
	}
}

func TestObstacles(t *testing.T) {
	_, reviews := load(t)
	d := reviews[filtered]
	codes := func() string {
		var out []string
		b := board.Of(d, false)
		for _, o := range board.Obstacles(d, &b) {
			code := string(o.Code)
			if o.Blocks {
				code = "!" + code
			}
			out = append(out, code)
		}
		return strings.Join(out, " ")
	}
	if got := codes(); got != "book-unchecked" {
		t.Errorf("%q", got)
	}
	d = reviews[quillon] // Low only by the pocket analyzer
	if got := codes(); got != "book-unchecked coverage" {
		t.Errorf("%q", got)
	}
	d = reviews[filtered]
	d.Claims = append(d.Claims, record.Claim{Text: "3m 5"})
	d.Lines = measure.ReadClaims(d.Claims, d.Kinds, 0)
	if got := codes(); got != "!claim-unread !claim-source book-unchecked" {
		t.Errorf("%q", got)
	}
	d.Lines = d.Lines[:1]
	d.Subject = record.Subject{Model: "x"}
	if got := codes(); got != "!come-by !interest unit book-unchecked" {
		t.Errorf("%q", got)
	}
	if err := publish.Freeze(d, &record.Edition{Number: 1}, publish.Frame{}, nil, nil); err == nil {
		t.Error("frozen without the disclosure")
	}
	if page, err := publish.Preview(d, publish.Frame{Number: 1}); err != nil || !strings.Contains(string(page), "not frozen") || strings.Contains(string(page), "SHA-256") {
		t.Errorf("preview: %v", err)
	}
}

// TestTypedTextStaysText: what a person types never becomes markup.
func TestTypedTextStaysText(t *testing.T) {
	_, reviews := load(t)
	d := reviews[filtered]
	d.Subject.Model = `<img src=x onerror=alert(1)>`
	page, err := publish.Preview(d, publish.Frame{Number: 1})
	if err != nil || strings.Contains(string(page), "<img") || !strings.Contains(string(page), "&lt;img") {
		t.Errorf("%v", err)
	}
}
