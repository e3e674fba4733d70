package judge

import (
	"talloak/core/decision"
	"talloak/core/rulebook"
	"talloak/core/say"
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
	idle    bool // nothing is transmitted: there is no carrier to look for
	limits  *rulebook.Limits
	others  []*rulebook.Limits // of clauses that may hold too, as the power may lie across an edge
	assumed bool               // only levels below the carrier are known: its power is a stand-in
	seen    []*evidence
	skirt   units.Hertz
	combs   []found
	out     Ruling
}

// Judge rules on the emissions of one carrier. The error is a *problem.Error in
// the names of the contract. Slices of the input are read, never changed.
func Judge(in Input) (Ruling, error) {
	if err := in.Check(); err != nil {
		return Ruling{}, err
	}
	r := &ruler{in: in, f0: in.Carrier.Frequency, limits: &rulebook.Limits{}, idle: in.Carrier.State == rulebook.Standby}
	r.out.Governs, r.out.f0 = in.Book.Governs(r.f0), r.f0
	r.out.Products, r.out.Findings, r.out.Standpoints = []Product{}, []Finding{}, []Standpoint{}
	r.gather()
	r.findPower()
	r.agree()
	r.holdAgainstBook()
	r.products()
	r.cover()
	r.findMore()
	r.explain()
	r.standpoints()
	r.out.seen = r.seen
	r.conclude()
	return r.out, nil
}

// gather works out every sweep and look in force.
func (r *ruler) gather() {
	for i := range r.in.Sweeps {
		if s := &r.in.Sweeps[i]; s.Standing == "" || s.Standing == InForce {
			r.seen = append(r.seen, fromSweep(s, r.carrierAt(), units.Hertz(r.in.BandwidthHz)))
		} else if s.Standing == Suspect {
			r.find(say.SuspectSweep(s.Name))
		}
	}
	for i := range r.in.Looks {
		if l := &r.in.Looks[i]; l.Standing == "" || l.Standing == InForce {
			r.seen = append(r.seen, fromLook(l, r.carrierAt()))
		} else if l.Standing == Suspect {
			r.find(say.SuspectSweep(l.Name))
		}
	}
}

// nowhere is a frequency at which no evidence looks.
const nowhere units.Hertz = -1e18

// carrierAt is where evidence has its carrier; in standby there is none.
func (r *ruler) carrierAt() units.Hertz {
	if r.idle {
		return nowhere
	}
	return r.f0
}

func (r *ruler) find(s say.Said) { r.out.Findings = append(r.out.Findings, Finding{Said: s}) }

// holdAgainstBook works out the limits and holds every trace against them.
func (r *ruler) holdAgainstBook() {
	r.out.Verdict = decision.Void
	bandwidth := units.Hertz(r.in.BandwidthHz)
	if !r.idle {
		r.skirt = 2.5 * bandwidth
	}
	for _, e := range r.seen {
		if e.idle = r.idle; !r.idle && e.known.Contains(r.f0) {
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
		r.acrossEdges()
		r.out.limits = r.limits
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
			if r.known && !r.idle {
				e.addRelative(looks[0], r.carrier, r.f0)
			}
			looks = looks[1:]
		}
		if len(e.examined) > 0 {
			for _, limits := range r.allLimits() {
				r.holdAgainst(e, limits)
			}
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
