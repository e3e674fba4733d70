package judge

import (
	"talloak/core/decision"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// acrossEdges finds the clauses that would hold if the carrier's power lay, within its
// uncertainty, on the other side of an edge of the book.
func (r *ruler) acrossEdges() {
	c := r.in.Carrier
	switch ratio := r.in.CarrierU.Ratio(); {
	case r.assumed:
		r.others = r.in.Book.AtAnyPower(c)
	case r.in.MeanW != nil:
		r.others = r.in.Book.AcrossEdges(c, c.MeanW/ratio, c.MeanW*ratio)
	}
}

// allLimits are the limits that every product is held against.
func (r *ruler) allLimits() []*rulebook.Limits {
	return append([]*rulebook.Limits{r.limits}, r.others...)
}

// hold holds a level against every clause that may hold: it passes by all, fails by all, or
// neither. A clause without a limit there passes anything.
func (r *ruler) hold(f units.Hertz, level rulebook.Level, rule decision.Rule, g rulebook.Guard) decision.Verdict {
	v := r.limits.Judge(f, level, rule, g)
	for _, l := range r.others {
		switch other := l.Judge(f, level, rule, g); {
		case other == v:
		case v == decision.NoLimit && other == decision.Pass, v == decision.Pass && other == decision.NoLimit:
			v = decision.Pass
		default:
			v = decision.Inconclusive
		}
	}
	return v
}

// levelOf is a level in the evidence, between two.
func (r *ruler) levelOf(e *evidence, least, most units.DBm) rulebook.Level {
	return rulebook.Level{Least: least, Most: most, RelativeOnly: e.flat != nil, ByMeter: r.in.HoldByMeter && r.in.MeanW != nil}
}
