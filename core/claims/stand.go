package claims

import (
	"math"

	"talloak/core/units"
)

// Held is a reading of a band and level that counts for its claim, in the quantity
// claimed, with the interval it is printed with. Explained tells that its difference from others was.
type Held struct {
	W, LowW, HighW float64
	Frequency      units.Hertz
	SupplyV        *float64
	Explained      bool
}

// sameFrequency and sameSupplyV are how near two readings must be to be of one
// frequency, relative to it, and of one supply, in V (common practice, no source).
const (
	sameFrequency = 1e-3
	sameSupplyV   = 0.5
)

// SameFrequency tells whether two carriers are one.
func SameFrequency(a, b units.Hertz) bool {
	return math.Abs(float64(a-b)) <= sameFrequency*float64(b)
}

// Contradict tells whether two readings of one frequency and supply differ by more
// than both uncertainties, and nobody explained why.
func Contradict(a, b Held) bool {
	if a.Explained || b.Explained || !SameFrequency(a.Frequency, b.Frequency) {
		return false
	}
	if a.SupplyV != nil && b.SupplyV != nil && math.Abs(*a.SupplyV-*b.SupplyV) > sameSupplyV {
		return false
	}
	return math.Abs(a.W-b.W) > math.Hypot((a.HighW-a.LowW)/2, (b.HighW-b.LowW)/2)
}

// Agree tells at once that none of the readings contradicts another: they lie nearer to
// each other than any of them is certain. False leaves it open.
func Agree(all []Held) bool {
	lowest, highest, half := math.Inf(1), math.Inf(-1), math.Inf(1)
	for i := range all {
		lowest, highest = min(lowest, all[i].W), max(highest, all[i].W)
		half = min(half, (all[i].HighW-all[i].LowW)/2)
	}
	return highest-lowest <= half
}
