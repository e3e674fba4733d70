package judge

import (
	"cmp"
	"math"
	"slices"

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
	case !r.idle && slices.ContainsFunc(r.seen, func(e *evidence) bool { return e.carrier != nil && (e.flat != nil || e.normal) }):
		r.assume()
		return
	default:
		return
	}
	r.out.CarrierDBm = ptr(float64(r.carrier))
}

// assume rules on levels below the carrier although nobody knows its power: what they are
// held against counts from the carrier too, so that it drops out. A claim stands in for it,
// or 1 W; clauses that turn on power all count.
func (r *ruler) assume() {
	w := units.Watts(1)
	if r.in.ClaimedW != nil {
		w = units.Watts(*r.in.ClaimedW)
	}
	r.carrier, r.known, r.assumed = w.DBm(), true, true
	r.out.CarrierFrom = ptr("sweep")
	for _, e := range r.seen {
		switch {
		case e.normal && e.flat == nil:
			e.flat = ptr(units.DB(0))
		case e.flat == nil:
			e.examined, e.lines, e.known, e.carrier = nil, nil, nil, nil
		}
	}
}

// claimApartDB is how far a carrier that only the analyzer saw may be from the
// claim before an offset is doubted (common practice, no source).
const claimApartDB = 3

// agree holds the carrier of each sweep and look against its power. One that
// covers the carrier and shows none reads low by what it could have missed: the
// radio may not have been keyed at all.
func (r *ruler) agree() {
	if r.in.MeanW == nil && !r.idle {
		if r.assumed {
			r.find(say.CarrierUncheckedBelow())
		} else {
			r.find(say.CarrierUnchecked())
		}
		if seen, claimed := r.out.CarrierSeen, r.in.ClaimedW; seen != nil && claimed != nil {
			if apart := *seen - float64(units.Watts(*claimed).DBm()); math.Abs(apart) > claimApartDB {
				r.find(say.CarrierAgainstClaim(units.DBm(*seen), units.DB(apart), units.Watts(*claimed), cmp.Or(r.in.ClaimedAs, "claimed")))
			}
		}
	}
	if r.idle || !r.known {
		r.forgetRelative()
	}
	if !r.known || r.idle {
		return
	}
	for _, e := range r.seen {
		absolute := r.in.Uncertainty.Absolute
		if e.own != nil {
			absolute = e.own.Absolute
		}
		joint := hypot(absolute, r.in.CarrierU)
		switch {
		case e.flat != nil, e.normal:
			r.putRight(e)
		case e.carrier != nil:
			d := units.DB(e.carrier.level - r.carrier)
			joint := hypot(joint, readingStep(e.carrier.step))
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
	r.holdAgainstClaim()
}

// holdAgainstClaim takes, where no meter was read, evidence whose carrier stands far under
// its claim for what it may be: taken through more than was told of. Limits keep the carrier shown.
func (r *ruler) holdAgainstClaim() {
	if r.in.MeanW != nil || r.in.ClaimedW == nil || r.assumed {
		return
	}
	claimed := units.Watts(*r.in.ClaimedW).DBm()
	for _, e := range r.seen {
		if e.carrier == nil || e.flat != nil || e.normal {
			continue
		}
		if under := units.DB(e.carrier.level - claimed); under < -claimApartDB {
			e.off, e.agrees = min(e.off, under), false
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
