package sweep

import (
	"math"
	"slices"
	"sync"

	"talloak/core/units"
)

const (
	noiseWidth    = 30   // resolution bandwidths: what is raised over more of them is noise, over fewer a product
	fewestBeside  = 30   // points looked at to each side, whatever the resolution
	manyPoints    = 4096 // of a longer trace one point is looked at in each resolution bandwidth
	skirtMargin   = 1    // resolution bandwidths: how far a line's foot reaches beyond where it is seen
	mostRefined   = 4    // rounds in which lines are taken out and the noise is looked at anew
	fewestOfNoise = 5    // points of noise tell what noise there is
	manyCrests    = 1024 // points of noise are enough to tell how far its crests reach
)

// lookedPoints are the points that a floor is taken from, and which of them are of a line.
type lookedPoints struct {
	level  []float64
	isLine []bool
}

var lookedAt = sync.Pool{New: func() any { return new(lookedPoints) }}

// Floor estimates the noise of the trace from what lies beside each point: the median of a
// window of noiseWidth resolution bandwidths to each side, which anything narrower than
// that, a line with its skirt or several, does not lift, and anything wider does. Widest is
// how wide at its foot a line may be, 0 where only the resolution bandwidth is known. How
// far the crests reach over it is a property of the detector, so it is taken from the whole
// trace. Where the trace is no wider than the window one noise stands for all of it.
func (t Trace) Floor(widest units.Hertz) Floor {
	n := len(t.Levels)
	perRBW := float64(t.Resolution() / t.Step())
	block := max(1, int(min(perRBW, float64(n)/manyPoints)))
	count := (n + block - 1) / block
	kept := lookedAt.Get().(*lookedPoints)
	defer lookedAt.Put(kept)
	kept.level, kept.isLine = resized(kept.level, count), resized(kept.isLine, count)
	clear(kept.isLine)
	looked := kept.level
	for b := range looked[:count-1] {
		looked[b] = t.Levels[b*block+block/2]
	}
	looked[count-1] = t.Levels[n-1]
	beside := max(noiseWidth*perRBW, float64(2*widest/t.Step())) / float64(block)
	margin := max(1, int(math.Ceil(skirtMargin*perRBW/float64(block))))
	if reach := max(fewestBeside, int(min(beside, float64(n)))); 2*reach+1 < count {
		hop := 1
		if block > 1 {
			hop = reach / 4
		}
		return follow(looked, kept.isLine, block, reach, hop, margin)
	}
	median, high, line := oneNoise(looked, kept.isLine, margin)
	return level(median, high, line)
}

// follow estimates a noise that changes along the trace, of which one point in each block is
// looked at, anew at every hop of those.
func follow(looked []float64, isLine []bool, block, reach, hop, margin int) Floor {
	count := (len(looked) + hop - 1) / hop
	f := Floor{block: block * hop, median: make([]float64, count), base: make([]float64, count), lineOver: mostCrest}
	s := newSliding(looked, reach, hop)
	defer slidings.Put(s)
	s.medians(0, count, nil, f.median)
	f.baseFrom(reach / hop)
	over, apart := make([]float64, 0, manyCrests+1), 1+len(looked)/manyCrests
	for range mostRefined {
		if f.markLines(looked, isLine, hop, margin) {
			s.mend(isLine, f.median)
			f.baseFrom(reach / hop)
		}
		over = over[:0]
		for i := 0; i < len(looked); i += apart {
			if !isLine[i] {
				over = append(over, looked[i]-f.median[i/hop])
			}
		}
		if len(over) < fewestOfNoise {
			break
		}
		high, line := crests(over)
		settled := line >= f.lineOver
		f.highOver, f.lineOver = high, line
		if settled {
			break
		}
	}
	return f
}

// crests tells how far the 95 % point and the threshold stand over the median, of what
// points of noise do. Those over it, half of them, are put in order.
func crests(over []float64) (high, line float64) {
	n := len(over)
	above := slices.DeleteFunc(over, func(v float64) bool { return v <= 0 })
	slices.Sort(above)
	at := func(percent int) float64 {
		if k := quantileAt(n, percent) - (n - len(above)); k >= 0 {
			return above[k]
		}
		return 0
	}
	return at(95), clearOf(at(84))
}

// markLines marks every point that stands over the threshold, and what lies beside it
// within the margin; it tells whether any was marked that was not before.
func (f *Floor) markLines(looked []float64, isLine []bool, hop, margin int) bool {
	more := false
	for b := range f.base {
		threshold := f.base[b] + f.lineOver
		for i := b * hop; i < min(len(looked), (b+1)*hop); i++ {
			if looked[i] <= threshold {
				continue
			}
			for k := max(0, i-margin); k <= min(len(looked)-1, i+margin); k++ {
				more = more || !isLine[k]
				isLine[k] = true
			}
		}
	}
	return more
}

// baseFrom takes, where the noise takes a step, the higher side of it for half a window
// beside it: next to a step the median is that of neither side.
func (f *Floor) baseFrom(reach int) {
	copy(f.base, f.median)
	last := len(f.median) - 1
	for b := range f.base {
		if before := f.median[max(0, b-reach/2)]; before > f.base[b] {
			f.base[b] = before
		}
		if behind := f.median[min(last, b+reach/2)]; behind > f.base[b] {
			f.base[b] = behind
		}
	}
}

// oneNoise is the noise of a trace that is too narrow for it to change in: from below, and
// then without what stands out of that and its skirts, where enough is left.
func oneNoise(points []float64, isLine []bool, margin int) (median, high, line float64) {
	median, high, line = noiseFromBelow(points)
	f := level(median, high, line)
	f.base = slices.Repeat(f.base, len(points))
	if !f.markLines(points, isLine, 1, margin) {
		return median, high, line
	}
	rest := make([]float64, 0, len(points))
	for i, v := range points {
		if !isLine[i] {
			rest = append(rest, v)
		}
	}
	if len(rest) < max(2*fewestOfNoise, len(points)/8) {
		return median, high, line
	}
	return noiseFromBelow(rest)
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
		median, high = part[len(part)/2], part[quantileAt(len(part), 95)]
		line = median + clearOf(part[quantileAt(len(part), 84)]-median)
		if line >= top {
			return median, high, line
		}
		top = line
	}
}

// quantileAt is where the given percent point stands among n in rising order.
func quantileAt(n, percent int) int { return ((n-1)*percent + 99) / 100 }
