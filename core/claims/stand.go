package claims

import (
	"math"

	"talloak/core/decision"
	"talloak/core/units"
)

// Held is a reading of a band and level that counts for its claim, in the quantity
// claimed, with the interval it is printed with. Result is nil where nothing is
// claimed; Explained tells that its difference from others was.
type Held struct {
	W, LowW, HighW float64
	Frequency      units.Hertz
	SupplyV        *float64
	Explained      bool
	Result         *Result
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

// Standing is what stands of several readings, whatever their order. Stands is the
// one furthest on the wrong side of its claim, the lowest where nothing is claimed;
// -1 where there is none. Doubted are those that contradict another: while there are
// any, only the others can rule, and they only to a fail.
type Standing struct {
	Stands  int
	Doubted []bool
	Verdict decision.Verdict // NoClaim where nothing is claimed
}

// Stand finds what stands.
func Stand(all []Held) Standing {
	out := Standing{Stands: -1, Doubted: make([]bool, len(all)), Verdict: decision.NoClaim}
	contradicted := false
	for i := 0; i < len(all) && !Agree(all); i++ {
		for k := range all {
			if i != k && Contradict(all[i], all[k]) {
				out.Doubted[i], contradicted = true, true
			}
		}
	}
	better := func(i int) bool { return out.Stands < 0 || worse(all[i], all[out.Stands]) }
	for i := range all {
		if !out.Doubted[i] && better(i) {
			out.Stands = i
		}
	}
	clear := out.Stands >= 0 && all[out.Stands].Result != nil && all[out.Stands].Result.Verdict == decision.Fail
	if contradicted && !clear {
		out.Stands = -1
		for i := range all {
			if out.Doubted[i] && better(i) {
				out.Stands = i
			}
		}
	}
	if out.Stands >= 0 && all[out.Stands].Result != nil {
		out.Verdict = all[out.Stands].Result.Verdict
		if out.Doubted[out.Stands] {
			out.Verdict = decision.Inconclusive
		}
	}
	return out
}

// worse tells whether a stands before b: by its verdict, then by the lower power.
func worse(a, b Held) bool {
	rank := func(h Held) int {
		switch {
		case h.Result == nil:
			return 3
		case h.Result.Verdict == decision.Fail:
			return 0
		case h.Result.Verdict == decision.Inconclusive:
			return 1
		}
		return 2
	}
	if ra, rb := rank(a), rank(b); ra != rb {
		return ra < rb
	}
	return a.W < b.W
}
