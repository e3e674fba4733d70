package httpapi

import (
	"bytes"
	"encoding/json"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/compute"
	"talloak/core/kinds"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/rulebooks"
)

// book is a house book with one clause: so many dB below the carrier.
func book(id string, below float64) map[string]any {
	return map[string]any{"id": id, "title": "Club book", "kind": "house", "source": "the club's own practice", "recalled": false,
		"clauses": []any{map[string]any{"when": map[string]any{}, "citation": "club, 1", "segments": []any{map[string]any{"terms": []any{map[string]any{"relative_db": below}}}}}}}
}

// TestBooksOfOnesOwn: put on the shelf, judged by, changed, checked, exported, withdrawn. A
// frozen edition keeps the book it was judged by.
func TestBooksOfOnesOwn(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	add := func(b any) (out BookView) {
		t.Helper()
		c.ok("POST", "/api/v1/rule-books", map[string]any{"id": uuid.NewString(), "book": b, "over": "any"}, &out)
		return out
	}
	first := add(book("club", 40))
	if !first.Own || first.Checked != nil || first.Wording == "" {
		t.Errorf("%+v", first)
	}
	// Another book does not take its place unasked, nor does a change to what it was before
	// another window changed it; one sent twice is written once.
	over := func(below float64, wording string) map[string]any {
		return map[string]any{"id": uuid.NewString(), "book": book("club", below), "over": wording}
	}
	taken := func(in map[string]any) {
		t.Helper()
		if got := c.refused(409, "POST", "/api/v1/rule-books", in); !slices.Equal(got, []string{"id"}) {
			t.Error(got)
		}
	}
	taken(over(45, ""))
	change := over(45, first.Wording)
	c.ok("POST", "/api/v1/rule-books", change, nil)
	c.ok("POST", "/api/v1/rule-books", change, nil)
	taken(over(60, first.Wording))
	add(book("club", 40))
	r := c.begin()
	r.Rules.RuleBook = "club"
	c.ok("PUT", "/api/v1/reviews/"+r.ID, map[string]any{"version": r.Version, "subject": r.Subject, "claims": []record.Claim{{Text: "2m 5/1", Source: "box"}}, "rules": r.Rules}, nil)
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "5"}, "path_id": power}, nil)
	c.ok("POST", sweepPath(r.ID, uuid.NewString(), emissions), traceCSV(-60), nil)
	worst := func() (verdict string) {
		t.Helper()
		var b boardView
		c.ok("GET", "/api/v1/reviews/"+r.ID+"/board", nil, &b)
		return string(b.Cells[0].Boxes[1].Verdict)
	}
	if v := worst(); v != "passes-so-far" {
		t.Errorf("47 dB below by 40: %s", v)
	}
	edition := c.freeze(r.ID, uuid.NewString())
	_, before := c.call("GET", "/api/v1/editions/"+edition.ID+"/data", nil)
	basis := c.basis(r.ID)

	// A new wording counts from now on; what was checked of the one before does not hold.
	c.ok("POST", "/api/v1/rule-books/club/checked", map[string]any{"id": uuid.NewString(), "by": "the reviewer", "edition": "2026", "on": "2026-11-26"}, nil)
	if got := add(book("club", 50)); got.Checked != nil {
		t.Error("a new wording is checked")
	}
	if v := worst(); v != "fail" {
		t.Errorf("47 dB below by 50: %s", v)
	}
	c.ok("POST", "/api/v1/rule-books/club/checked", map[string]any{"id": uuid.NewString(), "by": "the reviewer", "edition": "house rules, 3rd", "on": "2026-11-26"}, nil)
	second := c.freeze(r.ID, uuid.NewString())
	if _, page := c.call("GET", "/api/v1/editions/"+second.ID+"/page", nil); !bytes.Contains(page, []byte("held against the published text, house rules, 3rd, on 2026-11-26, by the reviewer")) {
		t.Error("the edition does not say who checked its book")
	}
	if c.basis(r.ID) == basis {
		t.Error("what was previewed stands, though the book changed")
	}
	if _, after := c.call("GET", "/api/v1/editions/"+edition.ID+"/data", nil); !bytes.Equal(before, after) || !bytes.Contains(before, []byte(`"relative_db":40`)) {
		t.Error("a frozen edition's book changed")
	}

	// Words that a later program cannot read rule on nothing, least of all by what stood before.
	if _, err := s.AddBookWord(t.Context(), &record.BookWord{ID: uuid.NewString(), BookID: "club", What: record.BookWritten, Content: json.RawMessage(`{"id":"club","limits":"as ever"}`)}, "unread", func([]record.BookWord) error { return nil }); err != nil {
		t.Fatal(err)
	}
	var unread boardView
	c.ok("GET", "/api/v1/reviews/"+r.ID+"/board", nil, &unread)
	if box := unread.Cells[0].Boxes[1]; box.Verdict == "pass" || box.Verdict == "passes-so-far" || box.Verdict == "fail" || !strings.Contains(unread.Rules.Book, "cannot be read") {
		t.Errorf("%s: %s, %s", unread.Rules.Book, box.Verdict, box.Why)
	}
	add(book("club", 50))

	// A law that was brought in is recalled until it is checked.
	law := book("our-law", 40)
	law["kind"] = "law"
	if got := add(law); !got.Recalled {
		t.Error("a law nobody checked is not said to be recalled")
	}
	// What ships is checked, not changed; and the check holds for the wording it was made of.
	var checked BookView
	c.ok("POST", "/api/v1/rule-books/us-amateur/checked", map[string]any{"id": uuid.NewString(), "by": "the reviewer", "edition": "e-CFR of 2026-11-01", "on": "2026-11-26"}, &checked)
	if checked.Checked == nil || checked.Own || !checked.Recalled {
		t.Errorf("%+v", checked)
	}
	later := New(app.New(s, kinds.All(), func(id string) (*rulebook.Book, bool) {
		b, ok := rulebooks.Find(id)
		if ok && id == "us-amateur" {
			other := *b
			other.Note += " Another wording."
			b = &other
		}
		return b, ok
	}, rulebooks.IDs()), compute.New(rulebooks.Find, rulebooks.IDs()), fstest.MapFS{}, Options{})
	newer := httptest.NewServer(later)
	defer newer.Close()
	var all []BookView
	(&client{t, newer.URL}).ok("GET", "/api/v1/rule-books", nil, &all)
	for _, b := range all {
		if b.ID == "us-amateur" && b.Checked != nil {
			t.Error("a later program's wording is taken for checked")
		}
	}
	shelf := func() string {
		var all []BookView
		c.ok("GET", "/api/v1/rule-books", nil, &all)
		var ids []string
		for _, b := range all {
			ids = append(ids, b.ID)
		}
		return strings.Join(ids, " ")
	}
	if got := shelf(); !strings.HasSuffix(got, " club our-law") {
		t.Error(got)
	}
	_, file := c.call("GET", "/api/v1/rule-books/club", nil)
	var again map[string]any
	if err := json.Unmarshal(file, &again); err != nil {
		t.Fatal(err)
	}
	again["id"] = "club-2"
	add(again)
	c.ok("POST", "/api/v1/rule-books/club/withdrawn", map[string]any{"id": uuid.NewString()}, nil)
	if got := shelf(); strings.Contains(got+" ", " club ") || !strings.HasSuffix(got, "club-2") {
		t.Error(got)
	}
	if v := worst(); v != "fail" {
		t.Errorf("a review judged by a withdrawn book: %s", v)
	}

	wrong := book("club-3", 40)
	wrong["clauses"].([]any)[0].(map[string]any)["segments"].([]any)[0].(map[string]any)["terms"] = []any{map[string]any{"relative_db": 40, "formula_db": 43}}
	untitled := book("club-3", 40)
	delete(untitled, "title")
	for _, x := range []struct {
		b     map[string]any
		field string
	}{{book("us-amateur", 40), "id"}, {book("Club!", 40), "id"}, {wrong, "clauses[0].segments[0].terms[0]"}, {untitled, "title"}} {
		if got := c.refused(422, "POST", "/api/v1/rule-books", map[string]any{"id": uuid.NewString(), "book": x.b}); !slices.Equal(got, []string{x.field}) {
			t.Errorf("%s: %v", x.field, got)
		}
	}
	for path, in := range map[string]map[string]any{"/us-amateur/withdrawn": {}, "/club/checked": {"by": "", "edition": "", "on": "yesterday"}} {
		in["id"] = uuid.NewString()
		if got := c.refused(422, "POST", "/api/v1/rule-books"+path, in); len(got) == 0 {
			t.Errorf("%s: no field is named", path)
		}
	}
	c.refused(404, "POST", "/api/v1/rule-books/nobody/withdrawn", map[string]any{"id": uuid.NewString()})
	// What it would be by another percentage.
	var b boardView
	c.ok("GET", "/api/v1/reviews/"+r.ID+"/board?scheme=percent&pass_percent=50&tolerance_db=3", nil, &b)
}
