package sweep

import "talloak/core/units"

// Peak is a line that stands out of the noise of a trace.
type Peak struct {
	Index     int
	Frequency units.Hertz
	Level     units.DBm // as displayed
}

// Peaks finds the lines of a trace: local maxima clear of the noise, apart from
// a stronger neighbour by a dip of at least Visible dB, and merged with one
// within two points or the RBW, whichever is wider. They come in rising
// frequency. It allocates for the peaks alone.
func (t Trace) Peaks(f Floor) []Peak {
	var peaks []Peak
	merge := max(2*t.Step(), t.Resolution()) * (1 + 1e-9)
	add := func(i int) {
		p := Peak{i, t.Frequency(i), units.DBm(t.Levels[i])}
		if k := len(peaks); k > 0 && p.Frequency-peaks[k-1].Frequency <= merge {
			if p.Level > peaks[k-1].Level {
				peaks[k-1] = p
			}
			return
		}
		peaks = append(peaks, p)
	}
	n := len(t.Levels)
	for i := 0; i < n; {
		b := i / f.block
		threshold, end := f.threshold(b), min(n, (b+1)*f.block)
		for i < end && t.Levels[i] < threshold {
			i++
		}
		if i == end {
			continue
		}
		stop := i + 1
		for stop < n && t.Levels[stop] >= f.threshold(stop/f.block) {
			stop++
		}
		t.splitRun(i, stop, add)
		i = stop
	}
	return peaks
}

// splitRun gives the maxima of a run above the noise that are parted by a dip
// of at least Visible dB.
func (t Trace) splitRun(start, stop int, add func(int)) {
	best, low, falling := start, 0.0, false
	for i := start; i < stop; i++ {
		v := t.Levels[i]
		switch {
		case falling && v > low+Visible:
			falling, best = false, i
		case falling:
			low = min(low, v)
		case v > t.Levels[best]:
			best = i
		case v < t.Levels[best]-Visible:
			add(best)
			falling, low = true, v
		}
	}
	if !falling {
		add(best)
	}
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
	return Peak{best, t.Frequency(best), units.DBm(t.Levels[best])}, true
}
