package path

import (
	"math"

	"talloak/core/units"
)

// Stretch is a closed range of frequencies.
type Stretch struct{ Lo, Hi units.Hertz }

var everywhere = Stretch{0, units.Hertz(math.Inf(1))}

func (s Stretch) contains(f units.Hertz) bool { return f >= s.Lo && f <= s.Hi }

// meet is what two stretches share; empty (Hi below Lo) where they share nothing.
func (s Stretch) meet(o Stretch) Stretch { return Stretch{max(s.Lo, o.Lo), min(s.Hi, o.Hi)} }

// meetAll is what two rising lists share.
func meetAll(a, b []Stretch) []Stretch {
	var out []Stretch
	for _, x := range a {
		for _, y := range b {
			if m := x.meet(y); m.Lo <= m.Hi {
				out = append(out, m)
			}
		}
	}
	return out
}

// joined is two stretches as a rising list, one where they touch.
func joined(a, b Stretch) []Stretch {
	switch {
	case a.Lo > a.Hi:
		return []Stretch{b}
	case b.Lo < a.Lo:
		a, b = b, a
	}
	if b.Lo > a.Hi {
		return []Stretch{a, b}
	}
	return []Stretch{{a.Lo, max(a.Hi, b.Hi)}}
}

// known is where a curve has an answer.
func (c *curve) known() Stretch {
	if c.unknown {
		return Stretch{1, 0}
	}
	return Stretch{c.lo, c.hi}
}
