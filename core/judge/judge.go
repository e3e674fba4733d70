package judge

import (
	"fmt"
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
)

// lastHarmonic is the highest harmonic that always has a row; mostHarmonics is
// more than any examination reaches.
const (
	lastHarmonic  = 10
	mostHarmonics = 1000
)

// ruler is a ruling in the making.
type ruler struct {
	in      Input
	f0      units.Hertz
	carrier units.DBm
	known   bool // the carrier's power is
	limits  *rulebook.Limits
	seen    []*evidence
	skirt   units.Hertz
	out     Ruling
}

// Judge rules on the emissions of one carrier. The error is a *problem.Error in
// the names of the contract. Slices of the input are read, never changed.
func Judge(in Input) (Ruling, error) {
	if err := in.Check(); err != nil {
		return Ruling{}, err
	}
	r := &ruler{in: in, f0: in.Carrier.Frequency, limits: &rulebook.Limits{}}
	r.out.Products, r.out.Findings = []Product{}, []Finding{}
	r.gather()
	r.findPower()
	r.holdAgainstBook()
	r.products()
	r.cover()
	r.find()
	r.conclude()
	return r.out, nil
}

// gather works out every sweep and look in force.
func (r *ruler) gather() {
	for i := range r.in.Sweeps {
		if s := &r.in.Sweeps[i]; s.Standing == "" || s.Standing == InForce {
			r.seen = append(r.seen, fromSweep(s, r.f0))
		} else if s.Standing == Suspect {
			r.say("suspect-sweep", "%s is suspect and was not counted", s.Name)
		}
	}
	for i := range r.in.Looks {
		if l := &r.in.Looks[i]; l.Standing == "" || l.Standing == InForce {
			r.seen = append(r.seen, fromLook(l, r.f0))
		} else if l.Standing == Suspect {
			r.say("suspect-sweep", "%s is suspect and was not counted", l.Name)
		}
	}
}

func (r *ruler) say(code, format string, args ...any) {
	r.out.Findings = append(r.out.Findings, Finding{Code: code, Detail: fmt.Sprintf(format, args...)})
}

// findPower settles the carrier's power: the meter's, else the highest seen.
func (r *ruler) findPower() {
	var highest *units.DBm
	for _, e := range r.seen {
		if e.carrier != nil && (highest == nil || e.carrier.level > *highest) {
			highest = &e.carrier.level
		}
	}
	if highest != nil {
		r.out.CarrierSeen = ptr(float64(*highest))
	}
	switch {
	case r.in.MeanW != nil:
		r.carrier, r.known = units.Watts(*r.in.MeanW).DBm(), true
		r.out.CarrierFrom = ptr("power-meter")
	case highest != nil:
		r.carrier, r.known = *highest, true
		r.out.CarrierFrom = ptr("sweep")
	default:
		return
	}
	r.out.CarrierDBm = ptr(float64(r.carrier))
	if r.in.MeanW != nil && highest != nil {
		apart := math.Abs(float64(*highest - r.carrier))
		joint := math.Hypot(float64(r.in.Uncertainty.Absolute), float64(r.in.CarrierU))
		if apart > joint+decision.Slack {
			r.say("carrier-disagrees", "the carrier reads %.1f dBm on the power meter and %.1f dBm in the sweep: %.1f dB apart where %.1f dB would be within both uncertainties", float64(r.carrier), float64(*highest), apart, joint)
		}
	}
}

// holdAgainstBook works out the limits and holds every trace against them.
func (r *ruler) holdAgainstBook() {
	r.out.Verdict = decision.Void
	bandwidth := units.Hertz(r.in.BandwidthHz)
	r.skirt = 2.5 * bandwidth
	for _, e := range r.seen {
		if e.known.contains(r.f0) {
			r.skirt = max(r.skirt, e.skirtHalf(bandwidth))
		}
	}
	if r.known {
		c := r.in.Carrier
		c.MeanW = float64(r.carrier.Watts())
		if r.in.MeanW != nil {
			c.MeanW = *r.in.MeanW
		}
		c.PEPW = c.MeanW
		if r.in.PEPW != nil {
			c.PEPW = *r.in.PEPW
		}
		r.in.Carrier = c
		r.limits = r.in.Book.For(c)
		if r.limits.Citation != "" {
			r.out.Citation = &r.limits.Citation
		}
		if r.limits.Detail != "" {
			r.out.Detail = &r.limits.Detail
		}
	}
	looks := r.inForceLooks()
	for _, e := range r.seen {
		if e.isLook {
			if r.known {
				e.addRelative(looks[0], r.carrier, r.f0)
			}
			looks = looks[1:]
		}
		if len(e.examined) > 0 {
			e.holdAgainst(r.limits, r.in.Uncertainty)
		}
		half := e.skirtHalf(bandwidth)
		for i := range e.lines {
			if e.inSkirt(e.lines[i].f, r.f0, half) {
				e.lines[i].used = true
			}
		}
	}
}

func (r *ruler) inForceLooks() []*Look {
	var out []*Look
	for i := range r.in.Looks {
		if l := &r.in.Looks[i]; l.Standing == "" || l.Standing == InForce {
			out = append(out, l)
		}
	}
	return out
}

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

// cover works out how far was looked.
func (r *ruler) cover() {
	var examined, clear, zero intervals
	for _, e := range r.seen {
		examined = append(examined, e.examined...)
		clear = append(clear, e.examined.minus(e.blind)...)
		zero = append(zero, e.zero...)
	}
	examined, clear = examined.merge(), clear.merge()
	skirt := interval{r.f0 - r.skirt, r.f0 + r.skirt}
	blind := examined.minus(clear).minus(intervals{skirt})
	c := &r.out.Coverage
	c.Examined, c.Blind, c.NearCarrierHz = examined.pairs(), blind.pairs(), float64(r.skirt)
	if n := len(examined); n > 0 {
		c.FromHz, c.ToHz = ptr(float64(examined[0].lo)), ptr(float64(examined[n-1].hi))
	}
	withSkirt := append(slices.Clone(clear), skirt).merge()
	for _, s := range withSkirt {
		if r.f0 >= s.lo && r.f0 <= s.hi && s.hi > skirt.hi {
			c.PassesToHz = ptr(float64(s.hi))
		}
	}
	for n := 2; n <= mostHarmonics && clear.contains(units.Hertz(n)*r.f0); n++ {
		c.HighestHarmonic = ptr(n)
	}
	if want, _, ok := r.in.Book.SearchRange(r.in.Carrier); ok {
		c.SearchFromHz = ptr(want.FromHz)
		if !math.IsInf(want.ToHz, 1) {
			c.SearchToHz = ptr(want.ToHz)
		}
		c.Complete = append(withSkirt, zero...).merge().covers(interval{units.Hertz(want.FromHz), units.Hertz(want.ToHz)})
	}
}

// find adds what the evidence and the products say beyond their verdicts.
func (r *ruler) find() {
	for _, e := range r.seen {
		r.out.Findings = append(r.out.Findings, e.findings(r.f0, r.carrier)...)
		var spurs []units.Hertz
		for _, l := range e.lines {
			if !l.used && !l.unclear {
				spurs = append(spurs, l.f)
			}
		}
		slices.Sort(spurs)
		if e.isLook {
			continue
		}
		if comb, ok := sweep.FindComb(spurs, e.trace.Step()); ok {
			r.out.Findings = append(r.out.Findings, Finding{
				Code:      "comb",
				Detail:    fmt.Sprintf("%d lines every %s from %s to %s in %s: such a comb comes from one source, often a switching supply", comb.Lines, comb.Spacing, comb.From, comb.To, e.title()),
				SpacingHz: ptr(float64(comb.Spacing)),
				Lines:     ptr(comb.Lines),
			})
		}
	}
	for _, p := range r.out.Products {
		if p.Suspect {
			r.say("suspect-self-made", "the analyzer itself is expected to show harmonic %d at %.1f dBm, and %.1f dBm is shown: sweep again with 10 dB more attenuation and compare", *p.Order, *p.SelfMadeDBm, *p.LevelDBm)
		}
	}
	if r.in.NoneGiven {
		r.say("no-uncertainty", "no uncertainty was given, so 0 dB was used; a margin of any size decides")
	}
}

// rank orders verdicts from worst to best.
var rank = map[decision.Verdict]int{decision.Fail: 1, decision.Inconclusive: 2, decision.Pass: 3, decision.NotCovered: 4}

// conclude sums the products up.
func (r *ruler) conclude() {
	if !r.known {
		return
	}
	r.out.Verdict = decision.NoLimit
	if !r.limits.Applies {
		return
	}
	for i := range r.out.Products {
		p := &r.out.Products[i]
		if rank[p.Verdict] != 0 && (r.out.Worst == nil || worse(p, r.out.Worst)) {
			r.out.Worst = p
		}
	}
	if r.out.Worst != nil {
		r.out.Verdict = r.out.Worst.Verdict
	}
}

func worse(a, b *Product) bool {
	if ra, rb := rank[a.Verdict], rank[b.Verdict]; ra != rb {
		return ra < rb
	}
	return b.MarginDB == nil && a.MarginDB != nil || a.MarginDB != nil && *a.MarginDB < *b.MarginDB
}

func ptr[T any](v T) *T { return &v }
