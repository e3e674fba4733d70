package publish

import (
	"fmt"
	"html/template"
	"image/color"
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/publish/drawing"
)

// The pictures of an edition: of the whole radio, power claimed to measured and the worst margin of each band and
// level; and the spectrum of each that was looked at.

// pictureWidth is that of a picture in a page, in points.
const pictureWidth = 880.0

// Pictures are those of an edition, without a frame of words round them: for a page, which has those itself.
func (d *Document) pictures(width float64) []drawing.Picture {
	out := []drawing.Picture{d.powerPicture(width), d.emissionsPicture(width)}
	for i, l := range d.Board.Levels() {
		if p, ok := spectrum(&d.Shown[i], &l.Emissions); ok {
			out = append(out, p)
		}
	}
	return out
}

// Plots are the pictures of an edition as they stand alone, each with its title, what it is of and where it is from.
func (d *Document) Plots(sum string) []drawing.Picture {
	all := d.pictures(pictureWidth)
	for i := range all {
		all[i] = d.framed(all[i], sum)
	}
	return all
}

// framed puts a picture under its title and over its source.
func (d *Document) framed(p drawing.Picture, sum string) drawing.Picture {
	const edge, head, foot = 24.0, 84.0, 46.0
	inner := p
	p.Width, p.Height = inner.Width+2*edge, inner.Height+head+foot
	p.Draw = func(s *drawing.Sheet) {
		s.Fill(0, 0, p.Width, p.Height, drawing.Ground)
		size := drawing.Fitting(inner.Width, 24, 15, drawing.Serif, 1, d.Board.Title)
		s.Text(edge, 38, size, drawing.Serif, drawing.Start, drawing.Ink, drawing.Clipped(inner.Width, size, drawing.Serif, d.Board.Title))
		s.Text(edge, 64, 15, drawing.Regular, drawing.Start, drawing.Soft, inner.Title)
		s.Part(edge, head, 1, inner.Draw)
		s.Text(edge, p.Height-18, 12, drawing.Regular, drawing.Start, drawing.Soft, drawing.Clipped(inner.Width, 12, drawing.Regular, d.source(sum)))
	}
	return p
}

// source says where a picture is from: the publication, the edition and its time, by which rule book, the address
// and the first signs of the sum.
func (d *Document) source(sum string) string {
	out := fmt.Sprintf("Edition %d", d.Number)
	if d.Publication.Name != "" {
		out = d.Publication.Name + ", edition " + fmt.Sprint(d.Number)
	}
	out += ", " + d.FrozenAt.UTC().Format("2 January 2006") + "; " + d.Board.Rules.Book
	if at := d.address(); at != "" {
		out += "; " + at
	}
	if len(sum) >= 8 {
		out += "; sum " + sum[:8]
	}
	return out
}

// address is where the edition's state can be seen: the publication's own, where it said one.
func (d *Document) address() string {
	if d.ID == "" {
		return ""
	}
	return d.Publication.Address + "/editions/" + d.ID
}

// layout is how a row of a picture of the whole radio lies: name, track and figures beside each other, or on a narrow
// page the track below the other two.
type layout struct {
	row          float64 // its height
	left, right  float64 // of the track
	line, middle float64 // base line of the words and middle of the track, from the top of the row
	name         float64 // width of it
	figures      float64 // where they begin
}

const shapeSize = 20.0

func lay(width, row float64) layout {
	const narrow, figures = 600.0, 196.0
	if width < narrow {
		return layout{row: row + 30, left: 10, right: width - 10, line: 20, middle: row/2 + 26, name: width/2 - 30, figures: width/2 - 24}
	}
	return layout{row: row, left: 150, right: width - figures, line: row/2 + 5, middle: row / 2, name: 142, figures: width - figures + 14}
}

// powerPicture has a row for each band and level: the claim an open ring, what was measured a dot with its interval,
// a line between them; the legal maximum a tick.
func (d *Document) powerPicture(width float64) drawing.Picture {
	l := lay(width, 34)
	return drawing.Picture{
		Name: "power", Title: "Power at the antenna connector: claimed (ring) to measured (dot, k = 2), watts", Width: width, Height: float64(len(d.Shown))*l.row + 30,
		Draw: func(s *drawing.Sheet) {
			low, high := d.wattSpan()
			x := func(w float64) float64 {
				return l.left + (math.Log(min(max(w, low), high))-math.Log(low))/(math.Log(high)-math.Log(low))*(l.right-l.left)
			}
			bottom := float64(len(d.Shown)) * l.row
			for _, tick := range wattTicks(low, high) {
				s.Line([][2]float64{{x(tick), 0}, {x(tick), bottom}}, 1, drawing.Hair)
				s.Text(x(tick), bottom+18, 11, drawing.Regular, drawing.Middle, drawing.Soft, fmt.Sprintf("%g", tick))
			}
			if l.left > 100 { // there is room for it
				s.Text(l.left-16, bottom+18, 11, drawing.Regular, drawing.End, drawing.Soft, "W, logarithmic")
			}
			for i := range d.Shown {
				p, top := &d.Shown[i].Power, float64(i)*l.row
				y := top + l.middle
				l.words(s, top, d.Shown[i].Name, p.Verdict, p.words(), "", width)
				if p.ClaimedW != nil && p.MeasuredW != nil {
					s.Line([][2]float64{{x(*p.ClaimedW), y}, {x(*p.MeasuredW), y}}, 3, inkOf(p.Verdict))
				}
				if p.LegalMaxW != nil && *p.LegalMaxW <= high {
					s.Line([][2]float64{{x(*p.LegalMaxW), y - 11}, {x(*p.LegalMaxW), y + 11}}, 2, drawing.Rust)
				}
				if p.LowW != nil && p.HighW != nil {
					s.Line([][2]float64{{x(*p.LowW), y}, {x(*p.HighW), y}}, 1.6, drawing.Ink)
					for _, end := range []float64{*p.LowW, *p.HighW} {
						s.Line([][2]float64{{x(end), y - 5}, {x(end), y + 5}}, 1.6, drawing.Ink)
					}
				}
				if p.ClaimedW != nil {
					s.Ring(x(*p.ClaimedW), y, 7, 2, drawing.Ink)
				}
				if p.MeasuredW != nil {
					s.Disc(x(*p.MeasuredW), y, 5, drawing.Ink)
				}
			}
		},
	}
}

// words sets the name, the shape and the figures of a row, with a smaller line under these.
func (l *layout) words(s *drawing.Sheet, top float64, name string, v decision.Verdict, figures, under string, width float64) {
	s.Text(0, top+l.line, 15, drawing.Bold, drawing.Start, drawing.Ink, drawing.Clipped(l.name, 15, drawing.Bold, name))
	y := top + l.line
	if under != "" {
		y -= 6
	}
	room := width - l.figures - 28
	s.Shape(v, l.figures, top+l.line-5-shapeSize/2, shapeSize)
	s.Text(l.figures+28, y, 14, drawing.Regular, drawing.Start, drawing.Ink, drawing.Clipped(room, 14, drawing.Regular, figures))
	s.Text(l.figures+28, y+15, 12, drawing.Regular, drawing.Start, drawing.Soft, drawing.Clipped(room, 12, drawing.Regular, under))
}

// words are the figures of a row: what was measured, of what is claimed.
func (p *shownPower) words() string {
	out := "not read"
	if p.MeasuredW != nil {
		out = watts(p.MeasuredW)
		if p.PEP {
			out += " PEP"
		}
	}
	if p.ClaimedW != nil {
		return out + " of " + watts(p.ClaimedW)
	}
	return out + ", no claim"
}

// wattSpan is from a little below the least watts shown to a little above the most.
func (d *Document) wattSpan() (low, high float64) {
	low, high = math.Inf(1), 0
	for i := range d.Shown {
		p := &d.Shown[i].Power
		for _, w := range []*float64{p.ClaimedW, p.MeasuredW, p.LowW, p.HighW} {
			if w != nil && *w > 0 {
				low, high = min(low, *w), max(high, *w)
			}
		}
	}
	if high == 0 {
		return 0.5, 5
	}
	return low / 1.25, max(high*1.25, low*3)
}

// wattTicks are 1, 2 and 5 times the powers of ten within a span; of a wide one the powers of ten alone.
func wattTicks(low, high float64) []float64 {
	var out []float64
	steps := []float64{1, 2, 5}
	if high/low > 1000 {
		steps = steps[:1]
	}
	for e := math.Floor(math.Log10(low)); e <= math.Ceil(math.Log10(high)); e++ {
		for _, m := range steps {
			if w := m * math.Pow(10, e); w >= low && w <= high {
				out = append(out, w)
			}
		}
	}
	return out
}

// emissionsPicture has a row for each band and level: the worst margin left or right of one common limit line, with
// the product's name, and under it how far was looked.
func (d *Document) emissionsPicture(width float64) drawing.Picture {
	levels, l := d.Board.Levels(), lay(width, 46)
	l.middle -= 4
	return drawing.Picture{
		Name: "emissions", Title: "Harmonics and spurs: the worst of each, in dB under or over its limit; the strip under it is how far was looked", Width: width, Height: float64(len(d.Shown))*l.row + 30,
		Draw: func(s *drawing.Sheet) {
			track := l.right - l.left
			at := func(percent float64) float64 { return l.left + percent/100*track }
			bottom := float64(len(d.Shown)) * l.row
			for i, words := range []string{"20 dB under", "10", "limit", "10", "20 dB over"} {
				percent := 25 * float64(i)
				s.Line([][2]float64{{at(percent), 0}, {at(percent), bottom}}, 1, drawing.Hair)
				s.Text(at(percent), bottom+18, 11, drawing.Regular, drawing.Anchor(percent/100), drawing.Soft, words)
			}
			s.Line([][2]float64{{at(50), 0}, {at(50), bottom}}, 2, drawing.Ink)
			for i := range d.Shown {
				e, top := &d.Shown[i].Emissions, float64(i)*l.row
				y := top + l.middle
				l.words(s, top, d.Shown[i].Name, e.Verdict, e.room(), e.what(), width)
				rung := ladderOf(&levels[i].Emissions)
				if b := rung.Bar; b != nil {
					s.Fill(at(b.From), y-8, max(2, at(b.To)-at(b.From)), 16, inkOf(e.Verdict))
				}
				if w := rung.Whisker; w != nil {
					s.Line([][2]float64{{at(w.From), y}, {at(w.To), y}}, 2, drawing.Ink)
				}
				coverage(s, e, l.left, y+11, track, 6)
			}
		},
	}
}

// room is the figure of a row: room that is left, or excess.
func (e *shownEmissions) room() string {
	switch {
	case e.RoomDB == nil:
		return e.Verdict.Spoken()
	case !e.Seen:
		return "at least " + db(e.RoomDB)
	}
	return db(e.RoomDB)
}

// what names the product of a row; empty where there is none.
func (e *shownEmissions) what() string {
	if e.Product != "" {
		return e.Product
	}
	return ""
}

// coverage is the strip of how far was looked: of all that a full examination asks for, filled where examined, pale
// where the noise hides the limit.
func coverage(s *drawing.Sheet, e *shownEmissions, x, y, w, h float64) {
	if len(e.SearchHz) != 2 {
		return
	}
	from, to := e.SearchHz[0], e.SearchHz[1]
	at := func(f float64) float64 { return x + (min(max(f, from), to)-from)/(to-from)*w }
	s.Fill(x, y, w, h, drawing.Paper)
	for _, span := range e.ExaminedHz {
		if span[1] > from && span[0] < to {
			s.Fill(at(span[0]), y, max(1, at(span[1])-at(span[0])), h, drawing.Ink)
		}
	}
	for _, span := range e.BlindHz {
		if span[1] > from && span[0] < to {
			s.Fill(at(span[0]), y, max(1, at(span[1])-at(span[0])), h, drawing.Hair)
		}
	}
	s.Frame(x, y, w, h, 1, drawing.Soft)
}

type inkType = color.RGBA

// inkOf is the ink of a ruling.
func inkOf(v decision.Verdict) inkType {
	switch v {
	case decision.Pass, decision.SoFar:
		return drawing.Leaf
	case decision.Fail:
		return drawing.Rust
	case decision.Inconclusive:
		return drawing.Amber
	}
	return drawing.Soft
}

// plotNamed is a picture by its name.
func plotNamed(all []drawing.Picture, name string) (*drawing.Picture, bool) {
	i := slices.IndexFunc(all, func(p drawing.Picture) bool { return p.Name == name })
	if i < 0 {
		return nil, false
	}
	return &all[i], true
}

// inline is the picture of a name for the page; empty where there is none.
func inline(d Document, name string, width float64) (template.HTML, error) {
	p, ok := plotNamed(d.pictures(width), name)
	if !ok {
		return "", nil
	}
	text, err := p.Inline()
	return template.HTML(text), err // words in it are escaped where they are drawn
}
