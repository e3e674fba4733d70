package sweep

import (
	"math"

	"talloak/core/units"
)

// Floor is the noise of a trace as it changes along it, with the lines left out:
// its median, how far its crests reach, and from where on a point is a line. It is
// constant over blocks of points no longer than the resolution bandwidth.
type Floor struct {
	block  int
	median []float64 // dBm as displayed
	base   []float64 // that, or where the noise takes a step the higher side of it

	highOver, lineOver float64 // the 95 % point and the detection threshold, in dB over the base
}

// Visible is how far above the noise anything must stand at all to be a line
// (common practice, no source).
const Visible = 6.0

// crestSpreads and mostCrest are what a point must clear to be told from a crest
// of the noise: six times the distance from the median up to the 84 % point, at
// least Visible, at most 15 dB. Exponential noise, as a sample detector shows it,
// has a point 15 dB over its median once in 10^9.
const (
	crestSpreads = 6
	mostCrest    = 15
)

func clearOf(spread float64) float64 {
	return min(mostCrest, max(Visible, crestSpreads*spread))
}

// level is a floor that is the same everywhere: that of a look, or of figures.
func level(median, high, line float64) Floor {
	if math.IsInf(median, 0) {
		return Floor{block: math.MaxInt, median: []float64{median}, base: []float64{median}}
	}
	return Floor{block: math.MaxInt, median: []float64{median}, base: []float64{median}, highOver: high - median, lineOver: line - median}
}

// NoNoise is the floor of figures among which no noise can be told: everything
// stands out of it.
func NoNoise() Floor { return level(math.Inf(-1), 0, 0) }

// NotedFloor is the floor of a look: at each point the level below which nothing was seen,
// in dBm as displayed.
func NotedFloor(noted []float64) Floor { return Floor{block: 1, median: noted, base: noted} }

// At is the noise at point i, in dBm as displayed.
func (f Floor) At(i int) units.DBm { return units.DBm(f.median[i/f.block]) }

// High is the 95 % point of the noise at point i, in dBm as displayed.
func (f Floor) High(i int) units.DBm { return units.DBm(f.base[i/f.block] + f.highOver) }

// Line is the level from which point i counts as a line, in dBm as displayed.
func (f Floor) Line(i int) units.DBm { return units.DBm(f.base[i/f.block] + f.lineOver) }

// Clearance is how far the threshold stands over the 95 % point: the same everywhere.
func (f Floor) Clearance() units.DB { return units.DB(f.lineOver - f.highOver) }

// Block is the stretch of points in which the threshold is that of point i: its number,
// for LineOf, and the first point behind it.
func (f Floor) Block(i int) (b, end int) {
	if f.block == math.MaxInt {
		return 0, math.MaxInt
	}
	b = i / f.block
	return b, (b + 1) * f.block
}

// NextBlock is the end of the block behind the one that ends at end.
func (f Floor) NextBlock(end int) int { return end + f.block }

// LineOf is the level in dBm as displayed from which points of block b count as lines.
func (f Floor) LineOf(b int) float64 { return f.base[b] + f.lineOver }
