package drawing

import (
	"image/color"
	"math"
	"strings"

	"gonum.org/v1/plot/vg"
)

// Sheet is paper to draw on, in points from its upper left corner, x to the right and y down.
type Sheet struct {
	canvas vg.Canvas
	height float64
	dx, dy float64 // where a part of the sheet begins
	times  float64 // that it is drawn as large
}

// Part draws what begins at x and y of the sheet, so many times as large.
func (s *Sheet) Part(x, y, times float64, draw func(*Sheet)) {
	draw(&Sheet{s.canvas, s.height, s.dx + s.times*x, s.dy + s.times*y, s.times * times})
}

// Anchor is the part of a text that stands where it is set.
type Anchor float64

// A text starts, has its middle, or ends where it is set.
const (
	Start  Anchor = 0
	Middle Anchor = 0.5
	End    Anchor = 1
)

func (s *Sheet) point(x, y float64) vg.Point {
	return vg.Point{X: vg.Length(s.dx + s.times*x), Y: vg.Length(s.height - s.dy - s.times*y)}
}

// Fill fills a rectangle.
func (s *Sheet) Fill(x, y, w, h float64, ink color.RGBA) {
	s.canvas.SetColor(ink)
	s.canvas.Fill(s.polygon([][2]float64{{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}}))
}

// Frame draws the outline of a rectangle.
func (s *Sheet) Frame(x, y, w, h, width float64, ink color.RGBA) {
	s.pen(width, ink)
	s.canvas.Stroke(s.polygon([][2]float64{{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}}))
}

// Area fills what lies between points.
func (s *Sheet) Area(points [][2]float64, ink color.RGBA) {
	s.canvas.SetColor(ink)
	s.canvas.Fill(s.polygon(points))
}

func (s *Sheet) polygon(points [][2]float64) vg.Path {
	p := s.open(points)
	p.Close()
	return p
}

func (s *Sheet) open(points [][2]float64) vg.Path {
	var p vg.Path
	for i, at := range points {
		if i == 0 {
			p.Move(s.point(at[0], at[1]))
		} else {
			p.Line(s.point(at[0], at[1]))
		}
	}
	return p
}

func (s *Sheet) pen(width float64, ink color.RGBA, dashes ...float64) {
	s.canvas.SetColor(ink)
	s.canvas.SetLineWidth(vg.Length(s.times * width))
	lengths := make([]vg.Length, len(dashes))
	for i, d := range dashes {
		lengths[i] = vg.Length(s.times * d)
	}
	s.canvas.SetLineDash(lengths, 0)
}

// Line draws through points.
func (s *Sheet) Line(points [][2]float64, width float64, ink color.RGBA, dashes ...float64) {
	if len(points) < 2 {
		return
	}
	s.pen(width, ink, dashes...)
	s.canvas.Stroke(s.open(points))
}

// Disc fills a circle.
func (s *Sheet) Disc(x, y, r float64, ink color.RGBA) {
	s.canvas.SetColor(ink)
	s.canvas.Fill(s.circle(x, y, r))
}

// Ring draws a circle.
func (s *Sheet) Ring(x, y, r, width float64, ink color.RGBA, dashes ...float64) {
	s.pen(width, ink, dashes...)
	s.canvas.Stroke(s.circle(x, y, r))
}

// circle is four Bézier curves: every canvas draws these alike.
func (s *Sheet) circle(x, y, r float64) vg.Path {
	const k = 0.5522847498 // 4/3 (sqrt 2 - 1)
	var p vg.Path
	p.Move(s.point(x+r, y))
	for _, c := range [][6]float64{{1, k, k, 1, 0, 1}, {-k, 1, -1, k, -1, 0}, {-1, -k, -k, -1, 0, -1}, {k, -1, 1, -k, 1, 0}} {
		p.CubeTo(s.point(x+r*c[0], y+r*c[1]), s.point(x+r*c[2], y+r*c[3]), s.point(x+r*c[4], y+r*c[5]))
	}
	p.Close()
	return p
}

// Text sets one line with its base line at y, and tells how wide that is.
func (s *Sheet) Text(x, y, size float64, face Face, anchor Anchor, ink color.RGBA, text string) float64 {
	w := face.Width(size, text)
	s.canvas.SetColor(ink)
	s.canvas.FillString(face.at(s.times*size), s.point(x-float64(anchor)*w, y), text)
	return w
}

// Wrapped sets text in lines no wider than w, at most so many, and gives the base line of the next one. What does
// not go in ends in an ellipsis.
func (s *Sheet) Wrapped(x, y, w, size, lead float64, face Face, ink color.RGBA, most int, text string) float64 {
	for _, line := range Lines(w, size, face, most, text) {
		s.Text(x, y, size, face, Start, ink, line)
		y += lead
	}
	return y
}

// Lines are a text broken into lines no wider than w, at most so many.
func Lines(w, size float64, face Face, most int, text string) []string {
	var out []string
	line := ""
	for _, word := range strings.Fields(text) {
		longer := strings.TrimSpace(line + " " + word)
		if line == "" || face.Width(size, longer) <= w {
			line = longer
			continue
		}
		out = append(out, line)
		line = word
	}
	out = append(out, line)
	if len(out) > most {
		out = out[:most]
		out[most-1] = Clipped(w, size, face, out[most-1]+" …")
	}
	return out
}

// Clipped is a text cut to a width, with an ellipsis where something is left out.
func Clipped(w, size float64, face Face, text string) string {
	if face.Width(size, text) <= w {
		return text
	}
	r := []rune(strings.TrimSuffix(text, "…"))
	for len(r) > 0 && face.Width(size, string(r)+"…") > w {
		r = r[:len(r)-1]
	}
	return strings.TrimRight(string(r), " ") + "…"
}

// Fitting is the largest size, down to least, at which a text goes into so many lines of a width.
func Fitting(w, size, least float64, face Face, lines int, text string) float64 {
	for size > least && len(Lines(w, size, face, math.MaxInt, text)) > lines {
		size -= 1
	}
	return size
}
