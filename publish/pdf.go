package publish

import (
	"bytes"
	"fmt"
	"image/color"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"talloak/core/problem"
	"talloak/publish/drawing"
)

// Papers are the papers that a PDF is made for, as fpdf calls them.
var Papers = map[string]string{"a4": "A4", "letter": "Letter"}

// PDF is an edition on paper, from its data as frozen: what the page says, with the same figures, its faces embedded,
// bookmarks, and a number on every page. The library cannot tag it. Errors are *problem.Error on "paper". The same
// edition gives the same bytes.
func (d *Document) PDF(paper, sum string) ([]byte, error) {
	format, ok := Papers[paper]
	if !ok {
		return nil, problem.New("paper", "give a4 or letter")
	}
	doc := fpdf.New("P", "pt", format, "")
	drawing.AddFaces(doc)
	at := d.FrozenAt.UTC()
	doc.SetCreationDate(at)
	doc.SetModificationDate(at)
	doc.SetCatalogSort(true)
	doc.SetTitle(fmt.Sprintf("%s: edition %d", d.Board.Title, d.Number), true)
	doc.SetSubject(d.Board.Headline, true)
	doc.SetAuthor(d.Publication.Name, true)
	doc.SetLang("en")
	doc.SetAutoPageBreak(false, 0)
	w := &printed{doc: doc, d: d, sum: sum}
	w.width, w.height = doc.GetPageSize()
	doc.SetFooterFunc(func() {
		w.put(margin, w.height-26, drawing.Regular, 8.5, drawing.Soft, drawing.Clipped(w.inner()-60, 8.5, drawing.Regular, d.source(sum)))
		page := fmt.Sprintf("page %d", doc.PageNo())
		w.put(w.width-margin-drawing.Regular.Width(8.5, page), w.height-26, drawing.Regular, 8.5, drawing.Soft, page)
	})
	doc.AddPage()
	w.y = margin
	w.all()
	var out bytes.Buffer
	err := doc.Output(&out)
	return out.Bytes(), err
}

// margin is that of the paper, in points.
const margin = 48.0

// printed is a PDF being written, at y from the top of its page.
type printed struct {
	doc           *fpdf.Fpdf
	d             *Document
	sum           string
	width, height float64
	y             float64
}

func (w *printed) inner() float64 { return w.width - 2*margin }

// put sets a line with its base line at y.
func (w *printed) put(x, y float64, face drawing.Face, size float64, ink color.RGBA, text string) {
	w.doc.SetFont(string(face), "", size)
	w.doc.SetTextColor(int(ink.R), int(ink.G), int(ink.B))
	w.doc.Text(x, y, face.Known(text))
}

// need begins a page where less than so much is left.
func (w *printed) need(h float64) {
	if w.y+h > w.height-margin-8 {
		w.doc.AddPage()
		w.y = margin
	}
}

// heading is a chapter with its bookmark; level 0 begins one, 1 is within it.
func (w *printed) heading(level int, text string) {
	size := []float64{16, 12.5}[level]
	lines := drawing.Lines(w.inner(), size, drawing.Serif, 4, text)
	w.need(size*1.4*float64(len(lines)) + 60)
	w.y += []float64{16, 10}[level]
	w.doc.Bookmark(text, level, w.y)
	w.lines(lines, drawing.Serif, size, 1.3, drawing.Ink)
	w.y += 4
}

func (w *printed) lines(lines []string, face drawing.Face, size, lead float64, ink color.RGBA) {
	for _, line := range lines {
		w.need(size * lead)
		w.put(margin, w.y+size, face, size, ink, line)
		w.y += size * lead
	}
}

func (w *printed) para(text string, face drawing.Face, size float64, ink color.RGBA) {
	if text = strings.TrimSpace(text); text == "" {
		return
	}
	w.lines(drawing.Lines(w.inner(), size, face, 1<<20, typeset(text)), face, size, 1.4, ink)
	w.y += 4
}

func (w *printed) say(format string, args ...any) {
	w.para(fmt.Sprintf(format, args...), drawing.Regular, 10, drawing.Ink)
}

func (w *printed) soft(format string, args ...any) {
	w.para(fmt.Sprintf(format, args...), drawing.Regular, 9, drawing.Soft)
}

func (w *printed) list(items []string) {
	for _, item := range items {
		lines := drawing.Lines(w.inner()-14, 10, drawing.Regular, 1<<20, typeset(item))
		for i, line := range lines {
			w.need(14)
			if i == 0 {
				w.put(margin, w.y+10, drawing.Regular, 10, drawing.Ink, "·")
			}
			w.put(margin+14, w.y+10, drawing.Regular, 10, drawing.Ink, line)
			w.y += 14
		}
	}
	w.y += 4
}

// picture draws as wide as the paper, under its title.
func (w *printed) picture(p drawing.Picture) {
	h := p.Height * w.inner() / p.Width
	w.need(h + 18)
	w.lines(drawing.Lines(w.inner(), 8.5, drawing.Regular, 2, p.Title), drawing.Regular, 8.5, 1.3, drawing.Soft)
	p.Onto(w.doc, margin, w.y+4, w.inner())
	w.y += h + 10
}

// cells is a table: shares of the width, columns set to the right, a heading and rows.
func (w *printed) cells(shares []float64, right []int, head []string, rows [][]string) {
	total := 0.0
	for _, s := range shares {
		total += s
	}
	const size, lead, gap = 8.5, 11.5, 8.0
	row := func(cells []string, face drawing.Face, ink color.RGBA) {
		most := 1
		broken := make([][]string, len(shares))
		for i := range shares {
			if i < len(cells) {
				broken[i] = drawing.Lines(shares[i]/total*w.inner()-gap, size, face, 30, typeset(cells[i]))
			}
			most = max(most, len(broken[i]))
		}
		w.need(lead*float64(most) + 5)
		x := margin
		for i, s := range shares {
			wide := s / total * w.inner()
			for k, line := range broken[i] {
				at := x
				for _, r := range right {
					if r == i {
						at = x + wide - gap - face.Width(size, line)
					}
				}
				w.put(at, w.y+size+lead*float64(k), face, size, ink, line)
			}
			x += wide
		}
		w.y += lead*float64(most) + 2
		w.doc.SetDrawColor(int(drawing.Hair.R), int(drawing.Hair.G), int(drawing.Hair.B))
		w.doc.SetLineWidth(0.5)
		w.doc.SetDashPattern(nil, 0)
		w.doc.Line(margin, w.y, w.width-margin, w.y)
		w.y += 2
	}
	row(head, drawing.Regular, drawing.Soft)
	for _, r := range rows {
		row(r, drawing.Regular, drawing.Ink)
	}
	w.y += 6
}

// wholes are the two shapes of the radio with their words.
func (w *printed) wholes() {
	const size = 26.0
	w.need(size + 12)
	x := margin
	power, emissions := w.d.Board.Power(), w.d.Board.Emissions()
	for _, of := range []struct{ name, words string }{{"Power " + spoken(power.Verdict), power.Words}, {"Emissions " + spokenOfMany(emissions.Verdict), emissions.Words}} {
		v := power.Verdict
		if x > margin {
			v = emissions.Verdict
		}
		shape := drawing.Picture{Width: size, Height: size, Draw: func(s *drawing.Sheet) { s.Shape(v, 0, 0, size) }}
		shape.Onto(w.doc, x, w.y, size)
		w.put(x+size+10, w.y+11, drawing.Bold, 11, drawing.Ink, of.name)
		w.put(x+size+10, w.y+24, drawing.Regular, 9, drawing.Soft, drawing.Clipped(w.inner()/2-size-16, 9, drawing.Regular, of.words))
		x += w.inner() / 2
	}
	w.y += size + 14
}

func (w *printed) title() {
	d := w.d
	kind := ""
	if k := kindWords(d.Kind); k != "" {
		kind = ", " + k
	}
	name := ""
	if d.Publication.Name != "" {
		name = d.Publication.Name + ": "
	}
	w.soft("%sedition %d%s, frozen %s", name, d.Number, kind, day(d.FrozenAt))
	w.para(d.Subject.Maker+" "+d.Subject.Model, drawing.Serif, 25, drawing.Ink)
	w.soft("%s", unitWords(d.Subject))
	w.para(d.Plain, drawing.Serif, 14, drawing.Ink)
	w.wholes()
	for _, o := range d.Others {
		if o.Whole != nil {
			w.soft("%s %s", o.Title, spoken(o.Whole.Verdict))
		}
	}
}

// aboutUnit says how the unit was come by.
func aboutUnit(d *Document) string {
	out := ""
	if on := measuredOn(*d); on != "" {
		out = "Measured " + on
		if d.Ambient != "" {
			out += ", at " + d.Ambient
		}
		out += ". "
	}
	if by := comeBy(d.Subject.ComeBy); by != "" {
		out += "The unit was " + by
		if d.Subject.ComeByNote != "" {
			out += " (" + d.Subject.ComeByNote + ")"
		}
		out += ". "
	}
	out += interest(d.Subject.Interest)
	if d.Subject.Changes != "" {
		out += " Changes made to it: " + d.Subject.Changes + "."
	}
	return out
}
