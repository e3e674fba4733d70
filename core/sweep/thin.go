package sweep

import (
	"slices"

	"talloak/core/units"
)

// Range is one bucket of a thinned trace: the lowest and highest level of it.
type Range struct {
	Frequency units.Hertz
	Low, High float64
}

// Thin reduces a trace to at most buckets ranges for drawing. No crest is lost:
// the highest point of each bucket is kept.
func (t Trace) Thin(buckets int) []Range {
	n := len(t.Levels)
	buckets = min(buckets, n)
	out := make([]Range, buckets)
	for b := range out {
		first, end := b*n/buckets, (b+1)*n/buckets
		part := t.Levels[first:end]
		out[b] = Range{t.Frequency((first + end - 1) / 2), slices.Min(part), slices.Max(part)}
	}
	return out
}
