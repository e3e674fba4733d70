package rulebook

import (
	"math"
	"slices"

	"talloak/core/units"
)

// Ceiling is the highest level that still passes with the uncertainty added,
// over [from, to], as pieces of constant level; +Inf where there is no limit.
// Segments for harmonics only do not make a ceiling between the harmonics.
func (l *Limits) Ceiling(from, to units.Hertz, u Uncertainty) []Piece {
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
		pieces = append(pieces, Piece{cuts[i-1], cuts[i], l.ceilingAt((cuts[i-1]+cuts[i])/2, u)})
	}
	return pieces
}

// Piece is a stretch with a constant ceiling.
type Piece struct {
	From, To units.Hertz
	Level    units.DBm
}

func (l *Limits) ceilingAt(f units.Hertz, u Uncertainty) units.DBm {
	s := l.spanAt(f)
	if s == nil || s.seg.HarmonicsOnly {
		return units.DBm(math.Inf(1))
	}
	level := s.terms[0].level - units.DBm(s.terms[0].u(u))
	for _, t := range s.terms[1:] {
		guarded := t.level - units.DBm(t.u(u))
		if s.seg.Combine == Lenient {
			level = max(level, guarded)
		} else {
			level = min(level, guarded)
		}
	}
	if s.seg.FloorDBm != nil {
		level = max(level, units.DBm(*s.seg.FloorDBm)-units.DBm(u.Absolute))
	}
	return level
}
