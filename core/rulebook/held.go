package rulebook

import (
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/units"
)

// CountsFromCarrier tells whether a limit is so many dB below the carrier.
func (l *Limits) CountsFromCarrier() bool {
	return slices.ContainsFunc(l.spans, func(s span) bool {
		return slices.ContainsFunc(s.terms, func(t termLimit) bool { return t.by == ByRelative })
	})
}

// Held is one term of a limit held against a level. Guards are what a level must stay
// under the term by to pass, and be over it by to fail; in dB.
type Held struct {
	By       DecidedBy        `json:"by"`
	LimitDBm float64          `json:"limit_dbm"`
	MarginDB *float64         `json:"margin_db"` // of the level as shown; nil where the term cannot be held against it
	U        float64          `json:"expanded_uncertainty_db"`
	Pass     float64          `json:"pass_guard_db"`
	Fail     *float64         `json:"fail_guard_db"` // nil where noise bounds nothing below
	Verdict  decision.Verdict `json:"verdict"`       // of this term by itself
}

// Open holds a level, shown at one place, against each term at f, the floor among them, as
// Judge does with all of them; lenient tells that one that passes is enough. Empty where there is no limit.
func (l *Limits) Open(f units.Hertz, shown units.DBm, level Level, rule decision.Rule, g Guard) (held []Held, lenient bool) {
	s := l.spanAt(f)
	if s == nil {
		return []Held{}, false
	}
	terms := slices.Clone(s.terms)
	if s.seg.FloorDBm != nil {
		terms = append(terms, termLimit{units.DBm(*s.seg.FloorDBm), ByFloor})
	}
	for _, t := range terms {
		u := t.u(g.U)
		h := Held{By: t.by, LimitDBm: float64(t.level), U: float64(u), Pass: float64(g.pass(u)), Verdict: hold(t, level, rule, g)}
		if t.by == ByRelative || !level.RelativeOnly {
			margin := float64(t.level - shown)
			h.MarginDB = &margin
		}
		if fail := float64(g.fail(u)); !math.IsInf(fail, 0) {
			h.Fail = &fail
		}
		held = append(held, h)
	}
	return held, s.seg.Combine == Lenient
}

// hold is the verdict of one term.
func hold(t termLimit, level Level, rule decision.Rule, g Guard) decision.Verdict {
	if t.by != ByRelative && level.RelativeOnly {
		// The power of a meter and a distance from the carrier make a level that nothing is
		// passed by; but what is far over a term is over it.
		if level.ByMeter && rule.Between(units.DB(t.level-level.Most), units.DB(t.level-level.Least), g.pass(g.U.Relative), g.fail(g.U.Relative)) == decision.Fail {
			return decision.Fail
		}
		return decision.Inconclusive
	}
	return rule.Between(units.DB(t.level-level.Most), units.DB(t.level-level.Least), g.pass(t.u(g.U)), g.fail(t.u(g.U)))
}
