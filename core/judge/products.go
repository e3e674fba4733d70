package judge

import (
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/rulebook"
	"talloak/core/say"
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

// sighting is a product in one piece of evidence. Its true level may be up to more
// dB higher, and up to less dB lower, beside what its guard stands for.
type sighting struct {
	e          *evidence
	level      units.DBm
	shown      units.DBm // as displayed
	f          units.Hertz
	more, less units.DB
	guard      rulebook.Guard
	self       *units.DBm // what the analyzer itself is expected to show
	middle     units.Hertz
	unclear    bool
	spread     bool // a hump in an RBW wider than the limit is meant in
	blind      bool // it stands where the noise hides the limit
	step       units.DB
}

// suspect tells whether a product is taken for the analyzer's own: within 6 dB of
// what that is expected to make, to either side.
func (s *sighting) suspect() bool {
	return s.self != nil && s.level <= *s.self+suspectWithin && !s.refuted()
}

// refuted tells whether a product lies so far under what the analyzer should make
// itself that its intercept is better than noted.
func (s *sighting) refuted() bool { return s.self != nil && s.level < *s.self-suspectWithin }

// suspectWithin is how far a real product must stand from a predicted self-made one
// not to be taken for it, in dB.
const suspectWithin = 6

// sight makes a sighting of a line, with its level and guard at f.
func (r *ruler) sight(e *evidence, l line, order int, f units.Hertz) *sighting {
	level, ok := e.atConnector(l.shown, f)
	if !ok {
		level = l.level
	}
	s := &sighting{e: e, level: level, shown: l.shown, f: l.f, middle: l.middle, unclear: l.unclear, step: l.step}
	s.more = r.mayBeMore(e, order, l, true)
	if !l.dBc {
		s.less = e.high()
	}
	s.blind = r.isBlind(e, f)
	r.guard(s, f)
	return s
}

func (r *ruler) guard(s *sighting, f units.Hertz) {
	noise := s.e.floor.High(s.e.trace.Nearest(s.f))
	u := r.uncertainty(s.e, f)
	if step := readingStep(s.step); step > 0 {
		u.Absolute, u.Relative = hypot(u.Absolute, step), hypot(u.Relative, step)
	}
	s.guard = rulebook.Guard{U: u, Hidden: hidden(noise, s.shown), Raised: raised(noise, s.shown), Lifts: s.e.lifts}
}

// multiple is the product at multiple m of the carrier over all evidence: those
// that see it and are not suspect, else those that see it, else the lowest bound.
func (r *ruler) multiple(kind Kind, order int, m float64) Product {
	expected := units.Hertz(m) * r.f0
	wide := 1
	if kind == Harmonic {
		wide = order
	}
	var valid, doubtful []*sighting
	var unseen *sighting
	for _, e := range r.seen {
		centre, half := e.window(m, r.f0)
		if l := e.take(centre, half); l != nil {
			s := r.sight(e, *l, wide, expected)
			if kind == Harmonic && e.isLook && distance(l.f, expected) > max(lookShare*expected, e.told) {
				r.find(say.NearMultiple(e.title(), order, l.f, expected, true))
			}
			if kind == Harmonic && r.known && !r.idle && e.flat == nil {
				if self, ok := e.path.SelfMade(r.carrier, r.f0, order); ok {
					s.self = &self
				}
			}
			if s.refuted() {
				r.find(say.InterceptDoubtful(e.title(), order, s.level, suspectWithin, *s.self))
			}
			if s.suspect() {
				doubtful = append(doubtful, s)
			} else {
				valid = append(valid, s)
			}
		} else if kind == Harmonic {
			s, ok := e.bound(centre, half, expected)
			if !ok || e.isList {
				continue
			}
			s.more, s.blind = r.mayBeMore(e, wide, line{}, false), e.low() > 0 || r.isBlind(e, expected)
			if l := e.beside(centre, half); l != nil {
				s.blind = true
				r.find(say.NearMultiple(e.title(), order, l.f, expected, false))
			}
			r.guard(s, expected)
			if unseen == nil || s.better(unseen) {
				unseen = s
			}
		}
	}
	p := Product{Kind: kind, Order: &order, ExpectedHz: ptr(float64(expected))}
	switch {
	case len(valid) > 0:
		r.judgeSeen(&p, valid, doubtful, expected)
		for _, s := range doubtful {
			p.Opened.Sights = append(p.Opened.Sights, s.sight(expected))
		}
	case len(doubtful) > 0:
		r.judgeSeen(&p, doubtful, nil, expected)
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

// better tells whether an unseen bound is worth more than another: one that can
// rule before one that cannot, then the lower.
func (s *sighting) better(o *sighting) bool {
	if s.blind != o.blind {
		return o.blind
	}
	return s.level+units.DBm(s.more) < o.level+units.DBm(o.more)
}

func (r *ruler) limit(p *Product, f units.Hertz) {
	if !r.known {
		return
	}
	l := r.limits.At(f)
	if r.assumed {
		l = r.limits.BelowCarrier(f)
	}
	p.LimitDBm, p.LimitDBc, p.Citation = l.LimitDBm, l.LimitDBc, l.Citation
	if l.DecidedBy != nil {
		p.DecidedBy = ptr(string(*l.DecidedBy))
	}
}

// carrierFor is the carrier from which levels in the evidence count: its own, where that
// is not the one that is known.
func (r *ruler) carrierFor(e *evidence) units.DBm {
	if e.off != 0 && e.carrier != nil {
		return e.carrier.level
	}
	return r.carrier
}

func (r *ruler) fill(p *Product, s *sighting, f units.Hertz) {
	r.limit(p, f)
	p.FrequencyHz, p.LevelDBm = ptr(float64(s.f)), ptr(float64(s.level))
	if s.e.name != "" {
		p.Sweep = &s.e.name
	}
	p.ShownDBm = ptr(float64(s.shown))
	if loss, ok := s.e.path.LossAt(f); ok && s.e.flat == nil { // of a coupling nobody knows no loss is
		p.LossDB = ptr(float64(loss))
	}
	p.AppliedDB = ptr(float64(s.e.applied))
	if r.known && !r.idle {
		p.DBc = ptr(float64(s.level - r.carrierFor(s.e)))
	}
	if p.LimitDBm != nil {
		p.MarginDB = ptr(*p.LimitDBm - *p.LevelDBm)
		p.RoomDB = p.MarginDB
	}
	if s.e.flat != nil { // the level is not known, only its distance from the carrier
		p.LevelDBm, p.LimitDBm = nil, nil
	}
}

// judgeSeen rules on a product by all that saw it: it passes by the highest, fails
// by their mean. Others see it too, but perhaps of their own making.
func (r *ruler) judgeSeen(p *Product, seen, others []*sighting, f units.Hertz) {
	for _, s := range seen {
		r.sumHump(s, f)
	}
	highest := slices.MaxFunc(seen, func(a, b *sighting) int { return sign(a.level - b.level) })
	r.fill(p, highest, f)
	p.Seen, p.Suspect, p.Opened = true, highest.suspect(), r.open(highest, seen, f, r.in.Rule)
	if highest.self != nil {
		p.SelfMadeDBm = ptr(float64(*highest.self))
	}
	if !r.known {
		return
	}
	switch {
	case r.judgeAt(highest, f, r.in.Rule) == decision.NoLimit:
		p.Verdict = decision.NoLimit
	case p.Suspect:
		p.Verdict = r.judgeSuspect(highest, f)
	case r.passes(seen, f):
		p.Verdict = decision.Pass
	case r.fails(seen, f):
		p.Verdict = decision.Fail
	default:
		p.Verdict = decision.Inconclusive
	}
	r.doubtApart(p, seen, others, f)
	r.doubtSelfMade(p, seen)
}

func sign(v units.DBm) int {
	switch {
	case v < 0:
		return -1
	case v > 0:
		return 1
	}
	return 0
}

// passes tells whether the highest of the sweeps and looks that see a product
// passes, and no figure of a list speaks against it. A list alone passes nothing.
func (r *ruler) passes(seen []*sighting, f units.Hertz) bool {
	var highest *sighting
	for _, s := range seen {
		if s.e.isList {
			alone := *s
			alone.more, alone.less = s.e.low(), s.e.high()
			if r.judgeAt(&alone, f, r.in.Rule) != decision.Pass {
				return false
			}
		} else if highest == nil || s.level > highest.level {
			highest = s
		}
	}
	return highest != nil && !highest.blind && r.judgeAt(highest, f, r.in.Rule) == decision.Pass
}

// fails tells whether the mean of those that see a product fails. Where one has a
// carrier that agrees, one that has not takes no part.
func (r *ruler) fails(seen []*sighting, f units.Hertz) bool {
	agreed := slices.ContainsFunc(seen, func(s *sighting) bool { return s.e.off == 0 })
	mean := sighting{e: seen[0].e}
	n := 0
	for _, s := range seen {
		if agreed && s.e.off != 0 {
			continue
		}
		if s.unclear || s.spread {
			return false
		}
		n++
		mean.level += s.level - units.DBm(s.less)
		mean.guard.U.Absolute = max(mean.guard.U.Absolute, s.guard.U.Absolute)
		mean.guard.U.Relative = max(mean.guard.U.Relative, s.guard.U.Relative)
		mean.guard.Raised += s.guard.Raised
		mean.guard.Lifts = mean.guard.Lifts || s.guard.Lifts
		if s.e.flat != nil {
			mean.e = s.e
		}
	}
	mean.level /= units.DBm(n)
	mean.guard.Raised /= units.DB(n)
	return r.judgeAt(&mean, f, r.in.Rule) == decision.Fail
}

// judgeSuspect rules on what the analyzer may have made itself: it passes only if
// the sum of both still does, fails only if their difference does.
func (r *ruler) judgeSuspect(s *sighting, f units.Hertz) decision.Verdict {
	low, high := apart(s.level, *s.self)
	up, down := *s, *s
	up.level, down.level = high, low
	switch {
	case r.passes([]*sighting{&up}, f):
		return decision.Pass
	case !math.IsInf(float64(low), 0) && r.fails([]*sighting{&down}, f):
		return decision.Fail
	}
	return decision.Inconclusive
}

// sumHump gives a hump its power in the reference bandwidth of the limit, where
// there is one. A discrete line is never scaled. With a resolution bandwidth
// wider than the reference the sum cannot be had: spread tells that an excess
// then decides nothing.
func (r *ruler) sumHump(s *sighting, f units.Hertz) {
	reference, ok := r.limits.ReferenceBandwidth(f)
	if !ok || s.middle == 0 {
		return
	}
	if s.e.trace.Resolution() > reference*(1+1e-9) {
		s.spread = true
		return
	}
	if level, ok := s.e.atConnector(s.e.within(s.middle, reference), f); ok {
		s.level = max(s.level, level)
	}
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

// judgeUnseen passes a bound that with its guard is within the limit. It never
// fails: nothing was seen.
func (r *ruler) judgeUnseen(p *Product, s *sighting, f units.Hertz) {
	r.fill(p, s, f)
	p.Opened = r.open(s, []*sighting{s}, f, decision.Guarded)
	hiding := s.guard.Hiding()
	if p.LevelDBm != nil {
		p.NotAboveDBm = ptr(*p.LevelDBm + float64(s.more+hiding.Absolute))
	}
	if p.DBc != nil {
		p.NotAboveDBc = ptr(*p.DBc + float64(s.more+hiding.Relative))
	}
	if p.MarginDB != nil {
		guard := hiding.Absolute
		if p.LimitDBm == nil || p.DecidedBy != nil && *p.DecidedBy == string(rulebook.ByRelative) {
			guard = hiding.Relative
		}
		p.RoomDB = ptr(*p.MarginDB - float64(s.more+guard))
	}
	if !r.known {
		return
	}
	p.Verdict = r.judgeAt(s, f, decision.Guarded)
	if p.Verdict != decision.NoLimit && (p.Verdict != decision.Pass || s.blind) {
		p.Verdict = decision.NotCovered
	}
}

// spurs are the lines that are left. The same spur in several sweeps counts once.
func (r *ruler) spurs() {
	var all []*sighting
	for _, e := range r.seen {
		for _, l := range e.lines {
			if !l.used {
				all = append(all, r.sight(e, l, 1, l.f))
			}
		}
	}
	slices.SortStableFunc(all, func(a, b *sighting) int { return sign(units.DBm(a.f - b.f)) })
	for i := 0; i < len(all); {
		members := map[*evidence]bool{all[i].e: true}
		k := i + 1
		for ; k < len(all) && !members[all[k].e] && all[k].f-all[i].f <= sameLine(all[i].e, all[i].f)+sameLine(all[k].e, all[k].f); k++ {
			members[all[k].e] = true
		}
		same := all[i:k]
		p := Product{Kind: Spur}
		r.judgeSeen(&p, same, nil, slices.MaxFunc(same, func(a, b *sighting) int { return sign(a.level - b.level) }).f)
		if !r.known {
			p.Verdict = decision.Void
		}
		r.out.Products = append(r.out.Products, p)
		i = k
	}
}

// sameLine is how far a line's frequency may be off in an evidence.
func sameLine(e *evidence, f units.Hertz) units.Hertz {
	switch {
	case e.isLook:
		return e.lookWindow(f)
	case e.isList:
		return e.listWindow(f)
	}
	return max(e.trace.Step(), e.trace.Resolution())
}
