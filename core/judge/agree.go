package judge

import (
	"math"

	"talloak/core/decision"
	"talloak/core/say"
	"talloak/core/units"
)

// findPower settles the carrier's power: the meter's, else the highest seen.
func (r *ruler) findPower() {
	var highest *units.DBm
	for _, e := range r.seen {
		if e.carrier != nil && e.flat == nil && !e.normal && (highest == nil || e.carrier.level > *highest) {
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
}

// claimApartDB is how far a carrier that only the analyzer saw may be from the
// claim before an offset is doubted (common practice, no source).
const claimApartDB = 3

// agree holds the carrier of each sweep and look against its power. One that
// covers the carrier and shows none reads low by what it could have missed: the
// radio may not have been keyed at all.
func (r *ruler) agree() {
	if r.in.MeanW == nil && !r.idle {
		r.find(say.CarrierUnchecked())
		if seen, claimed := r.out.CarrierSeen, r.in.ClaimedW; seen != nil && claimed != nil {
			if apart := *seen - float64(units.Watts(*claimed).DBm()); math.Abs(apart) > claimApartDB {
				r.find(say.CarrierAgainstClaim(units.DBm(*seen), units.DB(apart), units.Watts(*claimed)))
			}
		}
	}
	if r.idle || !r.known {
		r.forgetRelative()
	}
	if !r.known || r.idle {
		return
	}
	joint := units.DB(math.Hypot(float64(r.in.Uncertainty.Absolute), float64(r.in.CarrierU)))
	for _, e := range r.seen {
		switch {
		case e.flat != nil, e.normal:
			r.putRight(e)
		case e.carrier != nil:
			d := units.DB(e.carrier.level - r.carrier)
			if e.agrees = d <= joint+decision.Slack && d >= -joint-decision.Slack; e.agrees {
				continue
			}
			e.off = d
			r.find(say.CarrierDisagrees(e.title(), r.powerBy(), r.carrier, e.carrier.level, d, joint))
		case !e.isLook && !e.isList && e.known.Contains(r.f0):
			if level, ok := e.atConnector(e.floor.Line(e.trace.Nearest(r.f0)), r.f0); ok && level < r.carrier {
				e.off = units.DB(level - r.carrier)
			}
		}
	}
}

// forgetRelative leaves nothing of evidence that knows levels below a carrier alone: in
// standby there is none; and of one saved below a carrier whose power nobody knows.
func (r *ruler) forgetRelative() {
	for _, e := range r.seen {
		if e.flat != nil && r.idle || e.normal {
			e.examined, e.lines, e.known = nil, nil, nil
		}
	}
}

func (r *ruler) powerBy() string {
	if r.in.MeanW != nil {
		return "the power meter"
	}
	return "the sweep that shows most"
}

// putRight gives evidence that only knows, or shows, levels below the carrier the carrier's
// power; without a carrier it knows nothing but what a look has in dBc.
func (r *ruler) putRight(e *evidence) {
	if e.carrier == nil {
		e.examined, e.lines = nil, nil
		if !e.isLook {
			e.known = nil
		}
		return
	}
	e.shift = r.carrier - e.carrier.level
	for i := range e.lines {
		e.lines[i].level += e.shift
	}
	if e.flat == nil {
		r.find(say.Normalised(e.title()))
		return
	}
	r.find(say.RelativeOnly(e.title()))
}
