package sweep

import (
	"slices"

	"talloak/core/units"
)

// Floor is the noise of a trace as it changes along it, without the lines: a
// running median. It is constant over blocks of points, so that its size does
// not grow with long traces.
type Floor struct {
	block  int
	median []float64 // dBm as displayed
	spread []float64 // dB from the median up to the 84 % point: one standard deviation
}

const (
	floorBlocks  = 1024 // at most about this many blocks
	floorWindow  = 16   // blocks on either side of the running median, at least
	blockSamples = 16   // points looked at in each block
)

// Floor estimates the noise of the trace. What is narrower than half of the
// running window, about 3 % of the trace, is left out of it.
func (t Trace) Floor() Floor {
	n := len(t.Levels)
	block := max(1, n/floorBlocks)
	count := (n + block - 1) / block
	f := Floor{block: block, median: make([]float64, count), spread: make([]float64, count)}
	if block == 1 {
		runningQuantiles(t.Levels, f.median, f.spread)
		return f
	}
	medians, spreads := make([]float64, count), make([]float64, count)
	var buf [2 * blockSamples]float64
	stride := max(1, block/blockSamples)
	for b := range count {
		k := 0
		for i := b * block; i < min(n, (b+1)*block) && k < len(buf); i += stride {
			buf[k] = t.Levels[i]
			k++
		}
		s := buf[:k]
		slices.Sort(s)
		medians[b] = s[k/2]
		spreads[b] = s[quantile84(k)] - s[k/2]
	}
	runningQuantiles(medians, f.median, nil)
	runningQuantiles(spreads, f.spread, nil)
	return f
}

func quantile84(n int) int { return ((n-1)*84 + 99) / 100 }

// runningQuantiles writes the running median of in to median, and the distance
// to the running 84 % point to spread unless that is nil.
func runningQuantiles(in, median, spread []float64) {
	n := len(in)
	reach := max(floorWindow, n/32)
	window := make([]float64, 0, 2*reach+2)
	for i := range min(n, reach) {
		window = insertSorted(window, in[i])
	}
	for i := range n {
		if j := i + reach; j < n {
			window = insertSorted(window, in[j])
		}
		if j := i - reach - 1; j >= 0 {
			at, _ := slices.BinarySearch(window, in[j])
			window = slices.Delete(window, at, at+1)
		}
		k := len(window)
		median[i] = window[k/2]
		if spread != nil {
			spread[i] = window[quantile84(k)] - window[k/2]
		}
	}
}

func insertSorted(s []float64, v float64) []float64 {
	at, _ := slices.BinarySearch(s, v)
	return slices.Insert(s, at, v)
}

// At is the noise at point i, in dBm as displayed.
func (f Floor) At(i int) units.DBm { return units.DBm(f.median[i/f.block]) }

// BlockEnd is the first point behind the block of point i: up to it the noise
// is that of i.
func (f Floor) BlockEnd(i int) int { return (i/f.block + 1) * f.block }

// Visible is how far above the noise anything must stand at all to be a line
// (common practice, no source).
const Visible = 6.0

// threshold is the level from which a point of block b counts as a line: clear
// of the noise's own crests (5 standard deviations, at least Visible, at most
// 15 dB, which exponential noise of a sample detector does not reach in 100,000
// points), and of the neighbouring blocks where the floor takes a step.
func (f Floor) threshold(b int) float64 {
	base := f.median[b]
	if f.block > 1 {
		base = max(base, f.median[max(0, b-1)], f.median[min(len(f.median)-1, b+1)])
	}
	return base + min(15, max(Visible, 5*f.spread[b]))
}
