package path

import "talloak/core/span"

// joined is two stretches as a rising list, one where they touch.
func joined(a, b span.Span) span.Set {
	switch {
	case a.Lo > a.Hi:
		return span.Set{b}
	case b.Lo < a.Lo:
		a, b = b, a
	}
	if b.Lo > a.Hi {
		return span.Set{a, b}
	}
	return span.Set{span.Of(a.Lo, max(a.Hi, b.Hi))}
}

// known is where a curve has an answer.
func (c *curve) known() span.Span {
	if c.unknown {
		return span.Of(1, 0)
	}
	return span.Of(c.lo, c.hi)
}
