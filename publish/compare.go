package publish

import (
	"fmt"

	"talloak/core/record"
	"talloak/publish/drawing"
)

// CompareRow is a review in a picture of several.
type CompareRow struct {
	Title    string
	Other    string // the kit it was measured with, where that is other kit than the others'
	Compared []Compared
	Outside  []record.OutsideFigure
}

// ComparePicture has a line for each band and level of each review, to one scale: what was measured against what is
// claimed, or with margins the worst emission against its limit. Figures of others are small squares.
func ComparePicture(rows []CompareRow, margins bool) drawing.Picture {
	const left, right, line, head, foot = 190.0, 190.0, 26.0, 64.0, 44.0
	lines := 0
	for _, r := range rows {
		lines += 1 + len(r.Compared)
	}
	p := drawing.Picture{Name: "compare", Title: "Claimed to measured, dB against the claim", Width: pictureWidth + 48, Height: head + foot + line*float64(lines)}
	low, high, ticks := -6.0, 3.0, []float64{-6, -3, 0, 3}
	words := []string{"a quarter", "half", "as claimed", "twice"}
	if margins {
		p.Title = "Worst harmonic or spur, dB under or over its limit"
		low, high, ticks, words = -20, 20, []float64{-20, -10, 0, 10, 20}, []string{"20 dB under", "10", "limit", "10", "20 dB over"}
	}
	p.Draw = func(s *drawing.Sheet) {
		const edge = 24.0
		s.Fill(0, 0, p.Width, p.Height, drawing.Ground)
		s.Text(edge, 36, 20, drawing.Serif, drawing.Start, drawing.Ink, p.Title)
		from, to := edge+left, p.Width-edge-right
		at := func(db float64) float64 { return from + (min(max(db, low), high)-low)/(high-low)*(to-from) }
		for i, t := range ticks {
			s.Line([][2]float64{{at(t), head - 10}, {at(t), p.Height - foot}}, map[bool]float64{true: 2, false: 0.8}[t == 0], map[bool]inkType{true: drawing.Ink, false: drawing.Hair}[t == 0])
			s.Text(at(t), p.Height-foot+18, 11, drawing.Regular, drawing.Middle, drawing.Soft, words[i])
		}
		y := head
		for _, r := range rows {
			title := r.Title
			if r.Other != "" {
				title += " (with other kit: " + r.Other + ")"
			}
			s.Text(edge, y+18, 14, drawing.Bold, drawing.Start, drawing.Ink, drawing.Clipped(p.Width-2*edge, 14, drawing.Bold, title))
			y += line
			for _, c := range r.Compared {
				middle := y + line/2
				s.Text(edge+16, middle+5, 13, drawing.Regular, drawing.Start, drawing.Ink, drawing.Clipped(left-24, 13, drawing.Regular, c.Name))
				if margins {
					c.drawMargin(s, at, middle)
				} else {
					c.drawPower(s, at, middle)
				}
				for _, f := range r.Outside {
					if x, ok := outsideAt(&f, margins); ok && f.Box == c.Name {
						s.Frame(at(x)-4, middle-4, 8, 8, 1.6, drawing.Slate)
					}
				}
				verdict, figure := c.Power, c.powerWords()
				if margins {
					verdict, figure = c.Emissions, c.roomWords()
				}
				s.Shape(verdict, to+16, middle-8, 16)
				s.Text(to+40, middle+5, 12.5, drawing.Regular, drawing.Start, drawing.Ink, drawing.Clipped(right-44, 12.5, drawing.Regular, figure))
				y += line
			}
		}
		s.Text(edge, p.Height-10, 11, drawing.Regular, drawing.Start, drawing.Soft, "Ring: claimed. Dot: measured by us, k = 2. Square: somebody else's figure, never mixed with ours. One unit each.")
	}
	return p
}

func (c *Compared) drawPower(s *drawing.Sheet, at func(float64) float64, y float64) {
	if c.ClaimedW == nil {
		return
	}
	if c.ClaimDB != nil {
		s.Line([][2]float64{{at(0), y}, {at(*c.ClaimDB), y}}, 3, inkOf(c.Power))
	}
	if c.ClaimLow != nil && c.ClaimHigh != nil {
		s.Line([][2]float64{{at(*c.ClaimLow), y}, {at(*c.ClaimHigh), y}}, 1.4, drawing.Ink)
	}
	s.Ring(at(0), y, 6, 2, drawing.Ink)
	if c.ClaimDB != nil {
		s.Disc(at(*c.ClaimDB), y, 4.5, drawing.Ink)
	}
}

func (c *Compared) drawMargin(s *drawing.Sheet, at func(float64) float64, y float64) {
	if c.RoomDB == nil {
		return
	}
	a, b := at(min(0, -*c.RoomDB)), at(max(0, -*c.RoomDB))
	s.Fill(a, y-6, max(2, b-a), 12, inkOf(c.Emissions))
	if c.ExpandedDB != nil {
		s.Line([][2]float64{{at(-*c.RoomDB - *c.ExpandedDB), y}, {at(-*c.RoomDB + *c.ExpandedDB), y}}, 2, drawing.Ink)
	}
}

// outside is where a figure of somebody else stands on the scale.
func outsideAt(f *record.OutsideFigure, margins bool) (float64, bool) {
	switch {
	case margins && f.RoomDB != nil:
		return -*f.RoomDB, true
	case !margins && f.ClaimDB != nil:
		return *f.ClaimDB, true
	}
	return 0, false
}

func (c *Compared) powerWords() string {
	p := shownPower{ClaimedW: c.ClaimedW, MeasuredW: c.MeasuredW}
	return p.words()
}

func (c *Compared) roomWords() string {
	e := shownEmissions{Verdict: c.Emissions, RoomDB: c.RoomDB, Seen: c.Seen}
	out := e.room()
	if c.Product != "" {
		out += fmt.Sprintf(", %s", c.Product)
	}
	return out
}
