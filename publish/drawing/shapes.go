package drawing

import (
	"math"

	"talloak/core/decision"
)

// Shape draws the shape of a ruling into a square of a size, its upper left corner at x and y: the shapes of the
// pages and the screens.
func (s *Sheet) Shape(v decision.Verdict, x, y, size float64) {
	k := size / 24
	at := func(points ...float64) [][2]float64 {
		var out [][2]float64
		for i := 0; i+1 < len(points); i += 2 {
			out = append(out, [2]float64{x + points[i]*k, y + points[i+1]*k})
		}
		return out
	}
	thick := 2.4 * k
	switch v {
	case decision.Pass:
		s.Disc(x+12*k, y+12*k, 11*k, Leaf)
		s.Line(at(6.5, 12.5, 10.5, 16.5, 17.5, 8.5), thick, Paper)
	case decision.Fail:
		s.Fill(x+k, y+k, 22*k, 22*k, Rust)
		s.Line(at(7, 7, 17, 17), thick, Paper)
		s.Line(at(17, 7, 7, 17), thick, Paper)
	case decision.Inconclusive:
		s.Area(at(12, 0.8, 23.2, 12, 12, 23.2, 0.8, 12), Amber)
		var wave [][2]float64
		for i := range 25 {
			t := float64(i) / 24
			wave = append(wave, [2]float64{x + (6.5+11*t)*k, y + (13-2.7*math.Sin(2*math.Pi*t))*k})
		}
		s.Line(wave, thick, Paper)
	case decision.SoFar:
		var half [][2]float64
		for i := range 25 {
			a := math.Pi/2 + math.Pi*float64(i)/24
			half = append(half, [2]float64{x + (12+10*math.Cos(a))*k, y + (12-10*math.Sin(a))*k})
		}
		s.Area(half, Leaf)
		s.Ring(x+12*k, y+12*k, 10*k, 2*k, Leaf)
		s.Line(at(15.5, 9, 15.5, 15), 2*k, Leaf)
	case decision.NotCovered:
		s.Ring(x+12*k, y+12*k, 10*k, 2*k, Soft, 4*k, 3.5*k)
	case decision.NotExamined:
		for _, corner := range [][]float64{{5, 8, 5, 5, 8, 5}, {16, 5, 19, 5, 19, 8}, {5, 16, 5, 19, 8, 19}, {16, 19, 19, 19, 19, 16}} {
			s.Line(at(corner...), 2*k, Soft)
		}
	case decision.NotGoverned:
		s.Line(at(4, 9, 20, 9), 2*k, Soft)
		s.Line(at(4, 15, 20, 15), 2*k, Soft)
		s.Line(at(17, 4, 7, 20), 2*k, Soft)
	case decision.NoClaim:
		s.Disc(x+12*k, y+12*k, 3*k, Soft)
	case decision.NoLimit:
		s.Line(at(4, 12, 20, 12), thick, Soft)
	case decision.Void:
		s.Area(at(12, 0.8, 21.7, 6.4, 21.7, 17.6, 12, 23.2, 2.3, 17.6, 2.3, 6.4), Slate)
		s.Line(at(6.5, 12, 17.5, 12), thick, Paper)
	}
}
