package rulebook

import (
	"math"
	"slices"

	"talloak/core/units"
)

// Pieces are the limits over [from, to] as stretches in which they are constant.
// Segments for harmonics only set none between the harmonics.
func (l *Limits) Pieces(from, to units.Hertz) []Piece {
	cuts := []units.Hertz{from, to}
	add := func(f units.Hertz) {
		if f > from && f < to {
			cuts = append(cuts, f)
		}
	}
	f0 := l.carrier.Frequency
	add(f0 - l.exclusion)
	add(f0 + l.exclusion)
	for _, s := range l.spans {
		for _, f := range []units.Hertz{s.lo, s.hi, f0 - s.offLo, f0 + s.offLo, f0 - s.offHi, f0 + s.offHi} {
			add(f)
		}
	}
	slices.Sort(cuts)
	cuts = slices.Compact(cuts)
	pieces := make([]Piece, 0, len(cuts))
	for i := 1; i < len(cuts); i++ {
		pieces = append(pieces, Piece{cuts[i-1], cuts[i], l.spanAt((cuts[i-1] + cuts[i]) / 2)})
	}
	return pieces
}

// Piece is a stretch with one limit, or none.
type Piece struct {
	From, To units.Hertz
	span     *span
}

// Ceiling is the highest level that still passes with each term's uncertainty
// added; +Inf where there is no limit. With relativeOnly the terms that ask for an
// absolute level are left out.
func (p Piece) Ceiling(u Uncertainty, relativeOnly bool) units.DBm {
	none := units.DBm(math.Inf(1))
	s := p.span
	if s == nil || s.seg.HarmonicsOnly {
		return none
	}
	level, held := none, false
	for _, t := range s.terms {
		if relativeOnly && t.by != ByRelative {
			continue
		}
		guarded := t.level - units.DBm(t.u(u))
		switch {
		case !held:
			level, held = guarded, true
		case s.seg.Combine == Lenient:
			level = max(level, guarded)
		default:
			level = min(level, guarded)
		}
	}
	if s.seg.FloorDBm != nil && held && !relativeOnly {
		level = max(level, units.DBm(*s.seg.FloorDBm)-units.DBm(u.Absolute))
	}
	return level
}
