package sweep

import (
	"slices"
	"sync"
)

// sliding gives medians of a window that moves along points. It keeps a count of the
// points in narrow classes of level, so that a step costs the same however wide the
// window is; the median is the mean of the points in its class, at most classWidth off.
type sliding struct {
	over   []float64 // each point, over the lowest of all
	lowest float64
	class  []int32 // of each point
	reach  int
	hop    int // a median is given of every so many points, of the window round the middle one

	count  []int32
	sum    []float64
	in     int   // points in the window
	at     int32 // the class the median is in
	before int   // points in lower classes
}

const classWidth = 0.125 // dB

// slidings keep their memory: a floor leaves nothing behind of its trace's length.
var slidings = sync.Pool{New: func() any { return new(sliding) }}

// resized is a slice of n, of the memory of another where that has as much.
func resized[T any](v []T, n int) []T { return slices.Grow(v[:0], n)[:n] }

func newSliding(points []float64, reach, hop int) *sliding {
	s := slidings.Get().(*sliding)
	n := len(points)
	s.over, s.class, s.reach, s.hop = resized(s.over, n), resized(s.class, n), reach, hop
	lowest, highest := points[0], points[0]
	for _, v := range points {
		if v < lowest {
			lowest = v
		} else if v > highest {
			highest = v
		}
	}
	for i, v := range points {
		s.over[i] = v - lowest
		s.class[i] = int32(s.over[i] / classWidth)
	}
	s.lowest = lowest
	classes := int((highest-lowest)/classWidth) + 1
	s.count, s.sum = resized(s.count, classes), resized(s.sum, classes)
	return s
}

// put takes point i into the window, or with -1 out of it.
func (s *sliding) put(i, times int) {
	c := s.class[i]
	s.count[c] += int32(times)
	s.sum[c] += float64(times) * s.over[i]
	s.in += times
	s.before -= int((c-s.at)>>31) * times // lower classes, without a branch nobody could foresee
}

func (s *sliding) median() float64 {
	rank := s.in / 2
	for s.before > rank {
		s.at--
		s.before -= int(s.count[s.at])
	}
	for s.before+int(s.count[s.at]) <= rank {
		s.before += int(s.count[s.at])
		s.at++
	}
	return s.lowest + s.sum[s.at]/float64(s.count[s.at])
}

// medians fills out[from:to] with the medians of the points within reach of each hop's
// middle, without those left out. Where too few of them are left, out keeps what it has.
func (s *sliding) medians(from, to int, leftOut []bool, out []float64) {
	clear(s.count)
	clear(s.sum)
	s.in, s.at, s.before = 0, 0, 0
	first := max(0, from*s.hop+s.hop/2-s.reach) // of the window; next is the one behind it
	next := first
	for b := from; b < to; b++ {
		middle := b*s.hop + s.hop/2
		for ; next <= min(len(s.over)-1, middle+s.reach); next++ {
			if leftOut == nil || !leftOut[next] {
				s.put(next, 1)
			}
		}
		for ; first < middle-s.reach; first++ {
			if leftOut == nil || !leftOut[first] {
				s.put(first, -1)
			}
		}
		if s.in >= fewestOfNoise {
			out[b] = s.median()
		}
	}
}

// mend works the medians out anew that points left out had a part in.
func (s *sliding) mend(leftOut []bool, out []float64) {
	for i := 0; i < len(leftOut); i++ {
		if !leftOut[i] {
			continue
		}
		last := i
		for k := i; k < len(leftOut) && k <= last+2*(s.reach+s.hop); k++ {
			if leftOut[k] {
				last = k
			}
		}
		s.medians(max(0, (i-s.reach)/s.hop-1), min(len(out), (last+s.reach)/s.hop+1), leftOut, out)
		i = last
	}
}
