package judge

import (
	"slices"

	"talloak/core/units"
)

// interval is a closed stretch of frequencies.
type interval struct{ lo, hi units.Hertz }

// intervals are disjoint and rising after merge.
type intervals []interval

func (s intervals) merge() intervals {
	slices.SortFunc(s, func(a, b interval) int {
		switch {
		case a.lo < b.lo:
			return -1
		case a.lo > b.lo:
			return 1
		}
		return 0
	})
	out := s[:0:0]
	for _, v := range s {
		if n := len(out); n > 0 && v.lo <= out[n-1].hi {
			out[n-1].hi = max(out[n-1].hi, v.hi)
		} else if v.lo <= v.hi {
			out = append(out, v)
		}
	}
	return out
}

// minus takes the stretches of other out of s; both merged.
func (s intervals) minus(other intervals) intervals {
	var out intervals
	for _, v := range s {
		lo := v.lo
		whole := true
		for _, o := range other {
			if o.hi < lo || o.lo > v.hi {
				continue
			}
			whole = false
			if o.lo > lo {
				out = append(out, interval{lo, o.lo})
			}
			lo = max(lo, o.hi)
		}
		if whole || lo < v.hi {
			out = append(out, interval{lo, v.hi})
		}
	}
	return out
}

func (s intervals) contains(f units.Hertz) bool {
	return slices.ContainsFunc(s, func(v interval) bool { return f >= v.lo && f <= v.hi })
}

// covers tells whether all of v lies in s (merged).
func (s intervals) covers(v interval) bool {
	return slices.ContainsFunc(s, func(o interval) bool { return v.lo >= o.lo && v.hi <= o.hi })
}

// pairs is s as [from, to] in Hz.
func (s intervals) pairs() [][2]float64 {
	out := make([][2]float64, len(s))
	for i, v := range s {
		out[i] = [2]float64{float64(v.lo), float64(v.hi)}
	}
	return out
}

func (s intervals) within(lo, hi units.Hertz) intervals {
	var out intervals
	for _, v := range s {
		if v.lo <= hi && v.hi >= lo {
			out = append(out, interval{max(v.lo, lo), min(v.hi, hi)})
		}
	}
	return out
}
