package span

import (
	"math"
	"slices"

	"talloak/core/units"
)

// Span is a closed stretch of frequencies. It is empty where Hi lies below Lo.
type Span struct{ Lo, Hi units.Hertz }

// Of is the stretch from lo to hi.
func Of(lo, hi units.Hertz) Span { return Span{lo, hi} }

// Everywhere is from 0 Hz without end.
var Everywhere = Span{0, units.Hertz(math.Inf(1))}

// Contains tells whether a frequency lies in it, its ends among it.
func (s Span) Contains(f units.Hertz) bool { return f >= s.Lo && f <= s.Hi }

// Meet is what two stretches share; empty where they share nothing.
func (s Span) Meet(o Span) Span { return Span{max(s.Lo, o.Lo), min(s.Hi, o.Hi)} }

// Set is several stretches, disjoint and rising once merged.
type Set []Span

// Merge is the set disjoint and rising, without what is empty.
func (s Set) Merge() Set {
	slices.SortFunc(s, func(a, b Span) int {
		switch {
		case a.Lo < b.Lo:
			return -1
		case a.Lo > b.Lo:
			return 1
		}
		return 0
	})
	out := s[:0:0]
	for _, v := range s {
		if n := len(out); n > 0 && v.Lo <= out[n-1].Hi {
			out[n-1].Hi = max(out[n-1].Hi, v.Hi)
		} else if v.Lo <= v.Hi {
			out = append(out, v)
		}
	}
	return out
}

// Minus takes the stretches of other out of s; both merged.
func (s Set) Minus(other Set) Set {
	var out Set
	for _, v := range s {
		lo := v.Lo
		whole := true
		for _, o := range other {
			if o.Hi < lo || o.Lo > v.Hi {
				continue
			}
			whole = false
			if o.Lo > lo {
				out = append(out, Span{lo, o.Lo})
			}
			lo = max(lo, o.Hi)
		}
		if whole || lo < v.Hi {
			out = append(out, Span{lo, v.Hi})
		}
	}
	return out
}

// Contains tells whether a frequency lies in any of them.
func (s Set) Contains(f units.Hertz) bool {
	return slices.ContainsFunc(s, func(v Span) bool { return v.Contains(f) })
}

// Covers tells whether all of v lies in s (merged).
func (s Set) Covers(v Span) bool {
	return slices.ContainsFunc(s, func(o Span) bool { return v.Lo >= o.Lo && v.Hi <= o.Hi })
}

// Pairs is s as [from, to] in Hz.
func (s Set) Pairs() [][2]float64 {
	out := make([][2]float64, len(s))
	for i, v := range s {
		out[i] = [2]float64{float64(v.Lo), float64(v.Hi)}
	}
	return out
}

// Within is what of s lies from lo to hi.
func (s Set) Within(lo, hi units.Hertz) Set {
	var out Set
	for _, v := range s {
		if v.Lo <= hi && v.Hi >= lo {
			out = append(out, Span{max(v.Lo, lo), min(v.Hi, hi)})
		}
	}
	return out
}

// Meet is what two rising sets share.
func (s Set) Meet(other Set) Set {
	var out Set
	for _, x := range s {
		for _, y := range other {
			if m := x.Meet(y); m.Lo <= m.Hi {
				out = append(out, m)
			}
		}
	}
	return out
}
