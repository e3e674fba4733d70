package rf

import "talloak/core/units"

// sweepFactor is that of a filter which follows what it is swept over (textbook, from memory).
const sweepFactor = 2.5

// SweepS is how long a swept analyzer takes at the least, in s: 2.5 times the span over the square of its
// resolution bandwidth, both above 0 Hz.
func SweepS(span, resolution units.Hertz) float64 {
	return sweepFactor * float64(span/resolution/resolution)
}
