package judge

import (
	"fmt"
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/sweep"
	"talloak/core/units"
)

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
	var carrier *units.DBm
	if r.known {
		carrier = &r.carrier
	}
	for _, e := range r.seen {
		r.out.Findings = append(r.out.Findings, e.findings(r.f0, carrier)...)
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
