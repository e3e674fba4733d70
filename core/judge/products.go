package judge

import (
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/units"
)

// products gives harmonics 2 to 10, those further up that show, the
// subharmonic if it shows, and every other line as a spur.
func (r *ruler) products() {
	last := lastHarmonic
	for _, e := range r.seen {
		for _, l := range e.lines {
			if n := math.Round(float64(l.f / (r.f0 + e.misplaced))); !l.used && n > float64(last) {
				last = int(min(n, mostHarmonics))
			}
		}
	}
	for n := 2; n <= last; n++ {
		if p := r.multiple(Harmonic, n, float64(n)); p.Seen || n <= lastHarmonic {
			r.out.Products = append(r.out.Products, p)
		}
	}
	if p := r.multiple(Subharmonic, 2, 0.5); p.Seen {
		r.out.Products = append(r.out.Products, p)
	}
	r.spurs()
}

// sighting is a product in one piece of evidence.
type sighting struct {
	e       *evidence
	level   units.DBm
	f       units.Hertz
	self    *units.DBm // what the analyzer itself is expected to show
	middle  units.Hertz
	unclear bool
}

func (s *sighting) suspect() bool { return s.self != nil && s.level <= *s.self+suspectWithin }

// suspectWithin is how far above a predicted self-made product a real one must
// stand not to be taken for it, in dB.
const suspectWithin = 6

// multiple is the product at multiple m of the carrier over all evidence: the
// highest seen that is not suspect, else the highest seen, else the lowest bound.
func (r *ruler) multiple(kind Kind, order int, m float64) Product {
	expected := units.Hertz(m) * r.f0
	var valid, doubtful, unseen *sighting
	for _, e := range r.seen {
		centre, half := e.window(m, r.f0)
		if l := e.take(centre, half); l != nil {
			level, ok := e.atConnector(l.shown, expected)
			if !ok {
				level = l.level
			}
			s := &sighting{e: e, level: level, f: l.f, middle: l.middle}
			if kind == Harmonic && r.known {
				if self, ok := e.path.SelfMade(r.carrier, r.f0, order); ok {
					s.self = &self
				}
			}
			if s.suspect() {
				doubtful = higher(doubtful, s)
			} else {
				valid = higher(valid, s)
			}
		} else if kind == Harmonic {
			if level, at, ok := e.bound(centre, half, expected); ok && (unseen == nil || level < unseen.level) {
				unseen = &sighting{e: e, level: level, f: at}
			}
		}
	}
	p := Product{Kind: kind, Order: &order, ExpectedHz: ptr(float64(expected))}
	switch {
	case valid != nil:
		r.judgeSeen(&p, valid, expected)
	case doubtful != nil:
		r.judgeSeen(&p, doubtful, expected)
	case unseen != nil:
		r.judgeUnseen(&p, unseen, expected)
	default:
		r.limit(&p, expected)
		p.Verdict = decision.NotCovered
	}
	if !r.known {
		p.Verdict = decision.Void
	}
	return p
}

func higher(a, b *sighting) *sighting {
	if a == nil || b.level > a.level {
		return b
	}
	return a
}

func (r *ruler) limit(p *Product, f units.Hertz) {
	if !r.known {
		return
	}
	l := r.limits.At(f)
	p.LimitDBm, p.Citation = l.LimitDBm, l.Citation
	if l.DecidedBy != nil {
		p.DecidedBy = ptr(string(*l.DecidedBy))
	}
}

func (r *ruler) fill(p *Product, s *sighting, f units.Hertz) {
	r.limit(p, f)
	p.FrequencyHz, p.LevelDBm = ptr(float64(s.f)), ptr(float64(s.level))
	if s.e.name != "" {
		p.Sweep = &s.e.name
	}
	if r.known {
		p.DBc = ptr(float64(s.level - r.carrier))
	}
	if p.LimitDBm != nil {
		p.MarginDB = ptr(*p.LimitDBm - *p.LevelDBm)
	}
}

func (r *ruler) judgeSeen(p *Product, s *sighting, f units.Hertz) {
	spread := r.sumHump(s, f)
	r.fill(p, s, f)
	p.Seen, p.Suspect = true, s.suspect()
	if s.self != nil {
		p.SelfMadeDBm = ptr(float64(*s.self))
	}
	if !r.known {
		return
	}
	judge := func(level units.DBm) decision.Verdict {
		return r.limits.Judge(f, level, r.in.Rule, r.in.Uncertainty)
	}
	p.Verdict = judge(s.level)
	switch {
	case p.Verdict == decision.NoLimit:
	case p.Suspect:
		low, high := apart(s.level, *s.self)
		p.Verdict = decision.Inconclusive
		if judge(high) == decision.Pass {
			p.Verdict = decision.Pass
		} else if judge(low) == decision.Fail {
			p.Verdict = decision.Fail
		}
	case (s.unclear || spread) && p.Verdict == decision.Fail:
		p.Verdict = decision.Inconclusive
	}
}

// sumHump gives a hump its power in the reference bandwidth of the limit, where
// there is one. A discrete line is never scaled. With a resolution bandwidth
// wider than the reference the sum cannot be had: spread tells that an excess
// then decides nothing.
func (r *ruler) sumHump(s *sighting, f units.Hertz) (spread bool) {
	reference, ok := r.limits.ReferenceBandwidth(f)
	if !ok || s.middle == 0 {
		return false
	}
	if s.e.trace.Resolution() > reference*(1+1e-9) {
		return true
	}
	if level, ok := s.e.atConnector(s.e.within(s.middle, reference), f); ok {
		s.level = max(s.level, level)
	}
	return false
}

// apart is the range in which the true level lies when the analyzer adds a
// product of its own in unknown phase: 20 log10(10^(L/20) -+ 10^(S/20)),
// unbounded below where the two could be equal.
func apart(shown, self units.DBm) (low, high units.DBm) {
	l, s := math.Pow(10, float64(shown)/20), math.Pow(10, float64(self)/20)
	high = units.DBm(20 * math.Log10(l+s))
	if l <= s {
		return units.DBm(math.Inf(-1)), high
	}
	return units.DBm(20 * math.Log10(l-s)), high
}

// judgeUnseen passes a bound that with its uncertainty is within the limit.
// It never fails: nothing was seen.
func (r *ruler) judgeUnseen(p *Product, s *sighting, f units.Hertz) {
	r.fill(p, s, f)
	if !r.known {
		return
	}
	p.Verdict = r.limits.Judge(f, s.level, decision.Guarded, r.in.Uncertainty)
	if p.Verdict == decision.Fail || p.Verdict == decision.Inconclusive {
		p.Verdict = decision.NotCovered
	}
}

// spurs are the lines that are left. The same spur in several sweeps counts
// once, at its highest.
func (r *ruler) spurs() {
	var all []*sighting
	for _, e := range r.seen {
		for i := range e.lines {
			if l := &e.lines[i]; !l.used {
				all = append(all, &sighting{e: e, level: l.level, f: l.f, middle: l.middle, unclear: l.unclear})
			}
		}
	}
	slices.SortStableFunc(all, func(a, b *sighting) int {
		switch {
		case a.f < b.f:
			return -1
		case a.f > b.f:
			return 1
		}
		return 0
	})
	for i := 0; i < len(all); {
		best := all[i]
		members := map[*evidence]bool{all[i].e: true}
		k := i + 1
		for ; k < len(all) && !members[all[k].e] && all[k].f-all[i].f <= sameLine(all[i].e, all[i].f)+sameLine(all[k].e, all[k].f); k++ {
			members[all[k].e] = true
			best = higher(best, all[k])
		}
		p := Product{Kind: Spur}
		r.judgeSeen(&p, best, best.f)
		if !r.known {
			p.Verdict = decision.Void
		}
		r.out.Products = append(r.out.Products, p)
		i = k
	}
}

// sameLine is how far a line's frequency may be off in an evidence.
func sameLine(e *evidence, f units.Hertz) units.Hertz {
	if e.isLook {
		return lookShare * f
	}
	return max(e.trace.Step(), e.trace.Resolution())
}
