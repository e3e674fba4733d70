package sweep

import (
	"math"
	"slices"

	"talloak/core/units"
)

// Peak is a line that stands out of the noise of a trace. Its points run from
// First up to, not including, End.
type Peak struct {
	Index      int
	Frequency  units.Hertz
	Level      units.DBm // as displayed
	First, End int
}

// Peaks finds the lines of a trace: local maxima from the floor's threshold up,
// apart from a stronger neighbour by a dip of at least Visible dB, and merged with
// one within two points or the RBW, whichever is wider. They come in rising
// frequency. It allocates for the peaks alone.
func (t Trace) Peaks(f Floor) []Peak {
	var peaks []Peak
	merge := max(2*t.Step(), t.Resolution()) * (1 + 1e-9)
	add := func(best, first, end int) {
		p := Peak{best, t.Frequency(best), units.DBm(t.Levels[best]), first, end}
		if k := len(peaks); k > 0 && p.Frequency-peaks[k-1].Frequency <= merge {
			p.First = peaks[k-1].First
			if p.Level <= peaks[k-1].Level {
				p.Index, p.Frequency, p.Level = peaks[k-1].Index, peaks[k-1].Frequency, peaks[k-1].Level
			}
			peaks[k-1] = p
			return
		}
		peaks = append(peaks, p)
	}
	n := len(t.Levels)
	for i := 0; i < n; {
		i = t.firstOver(f, i)
		if i == n {
			break
		}
		stop := i + 1
		for stop < n && t.Levels[stop] >= float64(f.Line(stop)) {
			stop++
		}
		t.splitRun(i, stop, add)
		i = stop
	}
	return peaks
}

// firstOver is the first point from i on that stands over the threshold, or how many there are.
func (t Trace) firstOver(f Floor, i int) int {
	n := len(t.Levels)
	for b, end := f.Block(i); i < n; b, end = b+1, f.NextBlock(end) {
		threshold := f.LineOf(b)
		for k, v := range t.Levels[i:min(n, end)] {
			if v >= threshold {
				return i + k
			}
		}
		i = min(n, end)
	}
	return n
}

// splitRun gives the maxima of a run above the noise that are parted by a dip
// of at least Visible dB, each with its part of the run.
func (t Trace) splitRun(start, stop int, add func(best, first, end int)) {
	best, first, dip, falling := start, start, start, false
	for i := start; i < stop; i++ {
		v := t.Levels[i]
		switch {
		case falling && v > t.Levels[dip]+Visible:
			add(best, first, dip)
			falling, best, first = false, i, dip
		case falling && v < t.Levels[dip]:
			dip = i
		case falling:
		case v > t.Levels[best]:
			best = i
		case v < t.Levels[best]-Visible:
			falling, dip = true, i
		}
	}
	add(best, first, stop)
}

// Figures are the lines of a list of figures: points further apart than they can
// see, or of unknown resolution. With an RBW told, each that stands out of the noise is a
// line by itself; else a point is one where none beside it is higher, or where own holds
// it: it was read for its own sake. What stands in the noise between such points,
// where there is enough of it to tell, is none.
func (t Trace) Figures(own map[int]bool) ([]Peak, Floor) {
	var lines []Peak
	var rest []float64
	for i, v := range t.Levels {
		read := own[i] || t.isTop(i)
		if !own[i] && (t.RBW > 0 || !read) {
			rest = append(rest, v)
		}
		if read || t.RBW > 0 {
			lines = append(lines, Peak{i, t.Frequency(i), units.DBm(v), i, i + 1})
		}
	}
	floor := NoNoise()
	if len(rest) >= fewestOfNoise {
		floor = level(noiseFromBelow(rest))
	}
	return slices.DeleteFunc(lines, func(p Peak) bool { return p.Level < floor.Line(p.Index) }), floor
}

// isTop tells whether the trace falls to both sides of a point, and whether nothing
// else of the same hump is higher: a wide resolution nobody told gives one line many
// small tops. One of several equal points is at its first.
func (t Trace) isTop(i int) bool {
	v := t.Levels[i]
	for j := i - 1; j >= 0; j-- {
		if t.Levels[j] >= v {
			return false
		}
		if !t.goesOn(i, j) {
			break
		}
	}
	for j := i + 1; j < len(t.Levels); j++ {
		if t.Levels[j] > v {
			return false
		}
		if t.Levels[j] < v && !t.goesOn(i, j) {
			break
		}
	}
	return true
}

// goesOn tells whether point j belongs to the hump at i: no dip, and within 1 %
// (common practice, no source).
func (t Trace) goesOn(i, j int) bool {
	f := t.Frequency(i)
	return t.Levels[j] > t.Levels[i]-Visible && math.Abs(float64(t.Frequency(j)-f)) <= float64(f)/100
}

// OneHump tells whether no dip of Visible dB parts two points within 1 %.
func (t Trace) OneHump(i, j int) bool {
	from, to := min(i, j), max(i, j)
	low := from
	if t.Levels[to] < t.Levels[from] {
		low = to
	}
	for k := from; k <= to; k++ {
		if !t.goesOn(low, k) {
			return false
		}
	}
	return true
}

// Highest is the highest point of the trace within [lo, hi]; false where no
// point lies there.
func (t Trace) Highest(lo, hi units.Hertz) (Peak, bool) {
	first, end := t.IndexRange(lo, hi)
	if first >= end {
		return Peak{}, false
	}
	best := first
	for i := first; i < end; i++ {
		if t.Levels[i] > t.Levels[best] {
			best = i
		}
	}
	return Peak{best, t.Frequency(best), units.DBm(t.Levels[best]), first, end}, true
}

// Nearest is the point nearest to f.
func (t Trace) Nearest(f units.Hertz) int {
	if t.Uneven != nil {
		i, _ := slices.BinarySearch(t.Uneven, float64(f))
		if i == len(t.Uneven) || i > 0 && float64(f)-t.Uneven[i-1] < t.Uneven[i]-float64(f) {
			i--
		}
		return i
	}
	at := math.Round(float64((f - t.Start) / t.Step()))
	return int(min(float64(len(t.Levels)-1), max(0, at)))
}
