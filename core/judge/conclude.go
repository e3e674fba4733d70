package judge

import (
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/say"
	"talloak/core/span"
	"talloak/core/sweep"
	"talloak/core/units"
)

// cover works out how far was looked.
func (r *ruler) cover() {
	var examined, clear, zero span.Set
	for _, e := range r.seen {
		examined = append(examined, e.examined...)
		clear = append(clear, e.examined.Minus(e.blind)...)
		zero = append(zero, e.zero...)
	}
	examined, clear = examined.Merge(), clear.Merge()
	skirt := span.Of(r.f0-r.skirt, r.f0+r.skirt)
	blind := examined.Minus(clear).Minus(span.Set{skirt})
	c := &r.out.Coverage
	c.Examined, c.Blind, c.NearCarrierHz = examined.Pairs(), blind.Pairs(), float64(r.skirt)
	if n := len(examined); n > 0 {
		c.FromHz, c.ToHz = ptr(float64(examined[0].Lo)), ptr(float64(examined[n-1].Hi))
	}
	withSkirt := append(slices.Clone(clear), skirt).Merge()
	for _, s := range withSkirt {
		if r.f0 >= s.Lo && r.f0 <= s.Hi && s.Hi > skirt.Hi {
			c.PassesToHz = ptr(float64(s.Hi))
		}
	}
	for n := 2; c.PassesToHz != nil && float64(n)*float64(r.f0) <= *c.PassesToHz && n <= mostHarmonics && clear.Contains(units.Hertz(n)*r.f0) && r.ruledOn(n); n++ {
		c.HighestHarmonic = ptr(n)
	}
	c.Left = [][2]float64{}
	want, by := r.in.Book.SearchRange(r.in.Carrier, r.in.Clocks)
	c.SearchFromHz, c.SearchBy = ptr(want.FromHz), by
	if !math.IsInf(want.ToHz, 1) {
		c.SearchToHz = ptr(want.ToHz)
	}
	done, all := append(withSkirt, zero...).Merge(), span.Of(units.Hertz(want.FromHz), units.Hertz(want.ToHz))
	c.Complete = done.Covers(all)
	if c.SearchToHz != nil {
		c.Left = span.Set{all}.Minus(done).Pairs()
	}
}

// ruledOn tells whether harmonic n was ruled on: one that was looked for, but with
// a bound over its limit, was not.
func (r *ruler) ruledOn(n int) bool {
	return !slices.ContainsFunc(r.out.Products, func(p Product) bool {
		return p.Kind == Harmonic && *p.Order == n && p.Verdict == decision.NotCovered
	})
}

// findMore adds what the evidence and the products say beyond their verdicts.
func (r *ruler) findMore() {
	var carrier *units.DBm
	if r.known {
		carrier = &r.carrier
	}
	for _, e := range r.seen {
		r.findIn(e, carrier)
		r.findComb(e)
	}
	for _, p := range r.out.Products {
		if p.Suspect {
			r.find(say.SelfMade(*p.Order, units.DBm(*p.SelfMadeDBm), units.DBm(*p.LevelDBm)))
		}
	}
	if len(r.others) > 0 && !r.assumed {
		r.find(say.ClauseEdge(units.Watts(r.in.Carrier.MeanW), r.others[0].Citation))
	}
	if r.in.NoneGiven {
		r.find(say.NoUncertainty())
	}
}

// findIn is what a sweep or look gives away by itself.
func (r *ruler) findIn(e *evidence, carrier *units.DBm) {
	if r.idle {
		if e.isList {
			r.find(say.NotASweep(e.title(), e.trace.RBW, e.trace.Uneven != nil))
		}
		return
	}
	if e.doubtful > 0 {
		r.find(say.FloorDoubtful(e.title(), units.DBm(e.noted), units.DBm(e.noted+e.doubtful)))
	}
	switch {
	case e.carrier == nil && !e.isLook && !e.isList && e.known.Contains(r.f0):
		r.find(say.CarrierMissing(e.title(), r.f0))
	case e.isLook && e.carrier != nil && distance(e.carrier.f, r.f0) > max(lookShare*r.f0, e.told), e.misplaced != 0:
		r.find(say.Misaligned(e.title(), e.carrier.f, r.f0))
	}
	if e.isList {
		r.find(say.NotASweep(e.title(), e.trace.RBW, e.trace.Uneven != nil))
	}
	if width := r.in.BandwidthHz; e.trace.RBW > 0 && width > 0 {
		switch {
		case e.modulated == nil && float64(e.trace.RBW) < width:
			r.find(say.ModulationNotTold(e.title(), e.trace.RBW, units.Hertz(width)))
		case e.narrow > 0:
			r.find(say.RBWNarrow(e.title(), e.trace.RBW, units.Hertz(width), e.narrow))
		}
	}
	if loss, ok := e.path.LossAt(r.f0); ok && carrier != nil && e.flat == nil {
		input := *carrier - units.DBm(loss)
		if most, known := e.path.SafeInput(r.f0); known && input > most {
			r.find(say.Overload(e.title(), input, most))
		}
	}
	if a := e.path.EndAnalyzer(); a != nil && (a.SHIDBm == nil || a.TOIDBm == nil) {
		r.find(say.SelfMadeUnverified(e.title()))
	}
}

// findComb looks for evenly spaced lines among the spurs of a sweep or look.
func (r *ruler) findComb(e *evidence) {
	var spurs []units.Hertz
	for _, l := range e.lines {
		if !l.used && !l.unclear {
			spurs = append(spurs, l.f)
		}
	}
	slices.Sort(spurs)
	tolerance := e.trace.Step()
	switch {
	case e.isLook && len(spurs) > 0:
		tolerance = sameLine(e, spurs[len(spurs)-1])
	case e.isList && len(spurs) > 0:
		tolerance = sameLine(e, spurs[len(spurs)-1]) / 2
	}
	if comb, ok := sweep.FindComb(spurs, tolerance); ok {
		r.combs = append(r.combs, found{comb, tolerance, len(spurs)})
		r.out.Findings = append(r.out.Findings, Finding{
			Said:      say.Comb(e.title(), comb.Lines, comb.Spacing, comb.From, comb.To),
			SpacingHz: ptr(float64(comb.Spacing)),
			Lines:     ptr(comb.Lines),
		})
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
