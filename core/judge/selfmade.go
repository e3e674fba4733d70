package judge

import (
	"math"

	"talloak/core/decision"
	"talloak/core/say"
	"talloak/core/units"
)

// doubtSelfMade leaves a fail of a harmonic open that an analyzer of which nothing is known may
// have made itself: unless one whose intercept is stated shows it, it stands clear of what a
// poor input would make, or a second look with more in front of the mixer shows it too.
func (r *ruler) doubtSelfMade(p *Product, seen []*sighting) {
	if p.Verdict != decision.Fail || p.Kind != Harmonic || r.idle {
		return
	}
	var doubted *sighting
	var poor units.DBm
	for _, s := range seen {
		own, may := r.poorAt(s, *p.Order)
		if !may || s.level >= own+suspectWithin {
			return
		}
		doubted, poor = s, own
	}
	for _, a := range seen {
		for _, b := range seen {
			before, ok1 := a.e.path.BeforeMixer(r.f0)
			behind, ok2 := b.e.path.BeforeMixer(r.f0)
			if ok1 && ok2 && behind-before >= morePad-decision.Slack && units.DB(math.Abs(float64(a.level-b.level))) <= hypot(a.passGuard(), b.passGuard()) {
				return
			}
		}
	}
	p.Verdict = decision.Inconclusive
	r.find(say.SelfMadeUnknown(doubted.e.title(), *p.Order, doubted.level, poor))
}

// poorAt is what a poor input would show at a harmonic in the evidence of a sighting, at the
// connector; false where its analyzer says what it makes, or none is told.
func (r *ruler) poorAt(s *sighting, order int) (units.DBm, bool) {
	stated, ends := s.e.path.Intercept(order)
	if stated || !ends {
		return 0, false
	}
	if s.e.flat != nil && s.e.carrier != nil { // what arrives is what is shown, whatever the coupling
		own, ok := s.e.path.PoorSelfMade(s.e.carrier.level-s.e.shift, r.f0, order)
		return own + s.e.shift, ok
	}
	return s.e.path.PoorSelfMade(r.carrier, r.f0, order)
}
