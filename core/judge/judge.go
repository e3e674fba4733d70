package judge

import (
	"fmt"
	"math"

	"talloak/core/decision"
	"talloak/core/rulebook"
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
