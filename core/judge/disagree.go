package judge

import (
	"slices"

	"talloak/core/decision"
	"talloak/core/say"
	"talloak/core/units"
)

// passGuard is the guard of a pass, in the kind of level the evidence knows.
func (s *sighting) passGuard() units.DB {
	u := s.guard.Hiding()
	if s.e.flat != nil {
		return u.Relative
	}
	return u.Absolute
}

// doubtApart leaves open what two look at and show further apart than both their guards,
// unless it passes, or fails, by every one of them.
func (r *ruler) doubtApart(p *Product, seen, others []*sighting, f units.Hertz) {
	if p.Verdict == decision.NoLimit {
		return
	}
	agreeing := slices.DeleteFunc(slices.Clone(seen), func(s *sighting) bool { return s.e.off != 0 })
	if len(agreeing) == 0 {
		return
	}
	byLevel := func(a, b *sighting) int { return sign(a.level - b.level) }
	highest, lowest := slices.MaxFunc(agreeing, byLevel), slices.MinFunc(agreeing, byLevel)
	blank := r.blankAt(append(slices.Clone(seen), others...), f)
	if low := slices.MinFunc(append(blank, lowest), byLevel); low != lowest {
		lowest = low
	}
	apart, within := units.DB(highest.level-lowest.level), hypot(highest.passGuard(), lowest.passGuard())
	if apart <= within+decision.Slack {
		return
	}
	every := append(agreeing, blank...)
	if p.Verdict != decision.Inconclusive && !slices.ContainsFunc(every, func(s *sighting) bool { return r.judgeAt(s, f, r.in.Rule) != p.Verdict }) {
		return
	}
	p.Verdict = decision.Inconclusive
	r.find(say.SightingsDisagree("the "+p.Name(), highest.e.title(), lowest.e.title(), highest.level, lowest.level, units.DBm(within)))
}

// blankAt are the sweeps and looks that examined f and show nothing there: each as the
// level from which on it would have.
func (r *ruler) blankAt(seen []*sighting, f units.Hertz) []*sighting {
	var out []*sighting
	for _, e := range r.seen {
		if e.off != 0 || !e.examined.Contains(f) || e.inSkirt(f, r.f0, e.skirtHalf(units.Hertz(r.in.BandwidthHz))) || e.zero.Contains(f) ||
			slices.ContainsFunc(seen, func(s *sighting) bool { return s.e == e }) || r.showsAt(e, seen, f) {
			continue
		}
		t := e.floor.Line(e.trace.Nearest(f))
		if level, ok := e.atConnector(t, f); ok {
			s := &sighting{e: e, level: level + units.DBm(e.raisedBy(r)), shown: t, f: f}
			r.guard(s, f)
			out = append(out, s)
		}
	}
	return out
}

// showsAt tells whether anything stands out of the noise in the evidence where the product
// may be, whatever it was taken for.
func (r *ruler) showsAt(e *evidence, seen []*sighting, f units.Hertz) bool {
	within := sameLine(e, f)
	for _, s := range seen {
		within = max(within, sameLine(e, f)+sameLine(s.e, s.f)+distance(s.f, f))
	}
	if e.isLook {
		return slices.ContainsFunc(e.lines, func(l line) bool { return distance(l.f, f) <= within })
	}
	first, end := e.trace.IndexRange(f-within, f+within)
	for i := first; i < end; i++ {
		if e.trace.Levels[i] >= float64(e.floor.Line(i)) {
			return true
		}
	}
	return false
}
