package decision

import "math"

// Hold holds a value with its expanded uncertainty u, 0 or more, against bounds in the same unit,
// whatever that is; a bound that is nil is none. Guarded it passes within both with u in hand, and
// fails beyond one by more than u; simple it passes within both. Without a bound there is
// nothing to be held against, and the verdict is NoClaim.
func (r Rule) Hold(value, u float64, atLeast, atMost *float64) Verdict {
	if atLeast == nil && atMost == nil {
		return NoClaim
	}
	if r == Simple {
		u = 0
	}
	most := math.Inf(-1) // by which it is beyond a bound
	if atLeast != nil {
		most = max(most, over(*atLeast-value, *atLeast))
	}
	if atMost != nil {
		most = max(most, over(value-*atMost, *atMost))
	}
	switch {
	case most <= -u:
		return Pass
	case most > u:
		return Fail
	}
	return Inconclusive
}

// over keeps the last bits of a float from deciding a tie.
func over(excess, bound float64) float64 {
	if math.Abs(excess) <= 1e-12*math.Abs(bound) {
		return 0
	}
	return excess
}
