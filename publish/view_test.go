package publish

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"

	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/record"
	"talloak/publish/drawing"
)

// TestRepeatsAreFolded: a thousand readings that are alike do not make a page of a thousand; the package has all.
func TestRepeatsAreFolded(t *testing.T) {
	var d Document
	for i := range 1000 {
		d.Readings = append(d.Readings, power.Reading{ID: fmt.Sprint(i), Keyed: record.Keyed{Band: "2m", Level: "High", FrequencyHz: 1e8}, Counts: true})
	}
	d.Readings = append(d.Readings, power.Reading{ID: "struck", Keyed: record.Keyed{Band: "2m", Level: "High", FrequencyHz: 1e8}})
	groups := readingGroups(d)
	if len(groups) != 2 || len(groups[0].Full) != inFull || len(groups[0].More) != 1000-inFull || len(groups[1].Full) != 1 {
		t.Errorf("%d groups", len(groups))
	}
	if table := d.readingsTable(); len(table.rows) != 1001 {
		t.Errorf("%d rows", len(table.rows))
	}
}

// TestChanges: figures before and after are told apart by their intervals; a bound that was not seen is so much at
// least; margins by different rule books are not compared, and what only one edition has is said.
func TestChanges(t *testing.T) {
	v := func(f float64) *float64 { return &f }
	power := func(w, low, high float64) Figures {
		return Figures{Name: "2m High", MeasuredW: v(w), LowW: v(low), HighW: v(high)}
	}
	room := func(db float64, seen bool, u *float64, book string) Figures {
		return Figures{Name: "2m High", RoomDB: v(db), Seen: seen, ExpandedDB: u, RuleBook: book}
	}
	for name, c := range map[string]struct {
		before, after    Figures
		power, emissions string
	}{
		"less power":          {power(5, 4.7, 5.3), power(4, 3.8, 4.2), "changed", ""},
		"as much power":       {power(5, 4.7, 5.3), power(5.2, 4.9, 5.5), "not told apart", ""},
		"a filter":            {room(-9, true, v(1.3), "a"), room(12, true, v(1.3), "a"), "", "changed"},
		"gone under":          {room(-9, true, v(1.3), "a"), room(3, false, nil, "a"), "", "changed"},
		"a bound that may be": {room(4, true, v(1.3), "a"), room(3, false, nil, "a"), "", "not told apart"},
		"no uncertainty":      {room(-9, true, nil, "a"), room(12, true, v(1.3), "a"), "", "not told apart"},
		"another book":        {room(-9, true, v(1.3), "a"), room(12, true, v(1.3), "b"), "", "by another rule book"},
	} {
		got := changes([]Figures{c.before}, []Figures{c.after})
		if len(got) != 1 || got[0].Power.Spoken() != c.power || got[0].EmissionsWords() != c.emissions {
			t.Errorf("%s: %+v", name, got)
		}
	}
	if got := changes([]Figures{{Name: "a"}}, []Figures{{Name: "b"}}); len(got) != 2 || got[0].Before != nil || got[1].After != nil {
		t.Errorf("%+v", got)
	}
}

// TestPlacesAreAddresses: lower case, any other sign a hyphen; each row of a section has one of its own.
func TestPlacesAreAddresses(t *testing.T) {
	if got := placeIn("FRS/GMRS 1", "High"); got != "frs-gmrs-1-high" {
		t.Error(got)
	}
	o := OtherKind{Kind: "deviation", Sections: []measure.Section{{Rows: [][]string{{"2m"}, {"70cm"}, {"2m"}}}, {Rows: [][]string{{"2m"}, {}}}}}
	whole := o
	seen := map[string]bool{}
	for s := range o.Sections {
		for r, row := range o.Sections[s].Rows {
			place := rowPlace(whole, s, r, row)
			if seen[place] || strings.ToLower(place) != place {
				t.Errorf("%q", place)
			}
			seen[place] = true
		}
	}
}

// TestTextFits its lines: nothing runs over the paper, and what does not go in ends in an ellipsis.
func TestTextFits(t *testing.T) {
	long := strings.Repeat("a radio with a long name ", 20)
	for _, line := range drawing.Lines(300, 20, drawing.Serif, 3, long) {
		if w := drawing.Serif.Width(20, line); w > 300 {
			t.Errorf("%q is %g wide", line, w)
		}
	}
	lines := drawing.Lines(300, 20, drawing.Serif, 3, long)
	if len(lines) != 3 || !strings.HasSuffix(lines[2], "…") {
		t.Errorf("%q", lines)
	}
	if drawing.Clipped(300, 20, drawing.Bold, "short") != "short" || drawing.Fitting(300, 40, 10, drawing.Serif, 1, long) != 10 {
		t.Error("what fits was changed, or what does not fit was set large")
	}
}

// TestPhotographsOnPaper: PNG of any depth and JPEG, three to two rows; what is no picture leaves the rest.
func TestPhotographsOnPaper(t *testing.T) {
	var d Document
	var deep, plain bytes.Buffer
	if err := png.Encode(&deep, image.NewNRGBA64(image.Rect(0, 0, 30, 20))); err != nil {
		t.Fatal(err)
	}
	if err := jpeg.Encode(&plain, image.NewGray(image.Rect(0, 0, 20, 60)), nil); err != nil {
		t.Fatal(err)
	}
	for _, content := range [][]byte{deep.Bytes(), plain.Bytes(), []byte("no picture"), deep.Bytes()} {
		d.Photos = append(d.Photos, Photo{About: theUnit, Name: "a", Content: content})
	}
	pdf, err := d.PDF("letter", "")
	if err != nil || bytes.Count(pdf, []byte("/Subtype /Image")) != 3 && bytes.Count(pdf, []byte("/Subtype /Image")) != 2 {
		t.Errorf("%d images, %v", bytes.Count(pdf, []byte("/Subtype /Image")), err)
	}
}

// TestUnknownSigns: a name in letters that the faces lack still makes a PDF and a card.
func TestUnknownSigns(t *testing.T) {
	var d Document
	d.Subject.Maker, d.Subject.Model = "Ωж漢", "🙂 \u202e x"
	d.Board.Title, d.Plain = "Ωж漢 🙂", "Ωж漢 — 🙂"
	if pdf, err := d.PDF("a4", ""); err != nil || len(pdf) < 1000 {
		t.Errorf("%d %v", len(pdf), err)
	}
	card, err := d.Card("result", "1080x1350", "")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := card.PNG(0.1); err != nil {
		t.Error(err)
	}
}
