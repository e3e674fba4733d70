package sweep

import (
	"math"
	"slices"

	"talloak/core/units"
)

// Floor is the noise of a trace as it changes along it, with the lines left out:
// its median, how far its crests reach, and from where on a point is a line. It is
// constant over blocks of points, so that its size does not grow with the trace.
type Floor struct {
	block  int
	median []float64 // dBm as displayed
	high   []float64 // the 95 % point, dBm as displayed
	line   []float64 // the detection threshold, dBm as displayed
}

const (
	floorBlocks = 2048 // at most this many blocks, one point looked at in each
	floorShare  = 32   // the running window reaches this part of the trace to each side
	floorReach  = 16   // or this many points, whichever is more
)

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

// overHigh and highSpreads are how far over the 95 % point a crest is looked for: in
// noise of one level always less than the other way.
const (
	overHigh    = 8
	highSpreads = 1.9
)

// Floor estimates the noise of the trace. Widest is how wide at its foot a line may
// be, 0 where only the resolution bandwidth is known: the running window is wider
// than four of it, or of six resolution bandwidths, and where the trace is not, one
// noise stands for all of it, taken from below.
func (t Trace) Floor(widest units.Hertz) Floor {
	n := len(t.Levels)
	block := (n + floorBlocks - 1) / floorBlocks
	count := (n + block - 1) / block
	f := Floor{block: block, median: make([]float64, count), high: make([]float64, count), line: make([]float64, count)}
	looked := make([]float64, count)
	for b := range looked {
		looked[b] = t.Levels[min(n-1, b*block+b*7%block)] // not at one place of every block: lines may be as evenly spaced
	}
	reach := max(floorReach, count/floorShare)
	if line := max(6*t.RBW, widest); line > 0 {
		reach = max(reach, int(math.Ceil(min(float64(count), float64(2*line/(t.Step()*units.Hertz(block)))))))
	}
	if 2*reach+1 >= count {
		median, high, line := noiseFromBelow(looked)
		for b := range looked {
			f.median[b], f.high[b], f.line[b] = median, high, line
		}
		return f
	}
	f.follow(looked, reach)
	return f
}

// noiseFromBelow is the noise of all points together. Lines may fill most of them,
// so it begins at the lowest tenth and leaves out what stands clear of it.
func noiseFromBelow(points []float64) (median, high, line float64) {
	s := slices.Clone(points)
	slices.Sort(s)
	top := s[len(s)/10] + mostCrest + Visible
	for {
		k, _ := slices.BinarySearch(s, math.Nextafter(top, math.Inf(1)))
		part := s[:max(1, k)]
		median, high = part[len(part)/2], quantile(part, 95)
		line = clearOf(median, quantile(part, 84)-median)
		if line >= top {
			return median, high, line
		}
		top = line
	}
}

func clearOf(median, spread float64) float64 {
	return median + min(mostCrest, max(Visible, crestSpreads*spread))
}

// quantile is the given percent point of a sorted list.
func quantile(sorted []float64, percent int) float64 {
	return sorted[((len(sorted)-1)*percent+99)/100]
}

// follow runs a window over the points: first for a rough median, then without
// what stands clear of that. Where the floor takes a step within a block, the
// higher of both sides counts for the threshold.
func (f *Floor) follow(looked []float64, reach int) {
	rough := make([]float64, len(looked))
	run(looked, reach, nil, func(i int, window []float64) { rough[i] = window[len(window)/2] })
	isLine := func(i int) bool { return looked[i] > rough[i]+mostCrest }
	run(looked, reach, isLine, func(i int, window []float64) {
		if len(window) == 0 {
			window = []float64{looked[i]}
		}
		f.median[i], f.high[i] = window[len(window)/2], quantile(window, 95)
		f.line[i] = quantile(window, 84) - f.median[i]
	})
	last := len(looked) - 1
	base := func(b int) float64 {
		if f.block == 1 {
			return f.median[b]
		}
		return max(f.median[max(0, b-1)], f.median[b], f.median[min(last, b+1)])
	}
	for b := range f.line {
		// Beside a step the median is that of neither side: the upper end of the noise
		// tells of the higher one.
		above := f.high[b] - f.median[b]
		f.line[b] = max(clearOf(base(b), f.line[b]), f.high[b]+min(overHigh, highSpreads*above))
	}
}

// run moves a sorted window of the points up to reach away over all points,
// without those left out.
func run(points []float64, reach int, out func(i int) bool, at func(i int, window []float64)) {
	window := make([]float64, 0, 2*reach+2)
	put := func(i int) {
		if i < len(points) && (out == nil || !out(i)) {
			k, _ := slices.BinarySearch(window, points[i])
			window = slices.Insert(window, k, points[i])
		}
	}
	for i := range min(len(points), reach) {
		put(i)
	}
	for i := range points {
		put(i + reach)
		if j := i - reach - 1; j >= 0 && (out == nil || !out(j)) {
			k, _ := slices.BinarySearch(window, points[j])
			window = slices.Delete(window, k, k+1)
		}
		at(i, window)
	}
}

// level is a floor that is the same everywhere: that of a look, or of figures.
func level(median, high, line float64) Floor {
	return Floor{block: math.MaxInt, median: []float64{median}, high: []float64{high}, line: []float64{line}}
}

// NoNoise is the floor of figures among which no noise can be told: everything
// stands out of it.
func NoNoise() Floor { return level(math.Inf(-1), math.Inf(-1), math.Inf(-1)) }

// NotedFloor is the floor of a look: the level below which nothing was seen.
func NotedFloor(noted float64) Floor { return level(noted, noted, noted) }

// At is the noise at point i, in dBm as displayed.
func (f Floor) At(i int) units.DBm { return units.DBm(f.median[i/f.block]) }

// High is the 95 % point of the noise at point i, in dBm as displayed.
func (f Floor) High(i int) units.DBm { return units.DBm(f.high[i/f.block]) }

// Line is the level from which point i counts as a line, in dBm as displayed.
func (f Floor) Line(i int) units.DBm { return units.DBm(f.line[i/f.block]) }

// BlockEnd is the first point behind the block of point i: up to it the noise
// is that of i.
func (f Floor) BlockEnd(i int) int {
	if f.block == math.MaxInt {
		return math.MaxInt
	}
	return (i/f.block + 1) * f.block
}
