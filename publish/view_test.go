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
