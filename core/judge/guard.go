package judge

import (
	"math"

	"talloak/core/decision"
	"talloak/core/rf"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// hidden is by how much a line may be higher than it shows, in noise of amplitude
// N against its own L, both in dBm as displayed: 20 log10(1 + 10^((N-L)/20)).
func hidden(noise, shown units.DBm) units.DB {
	return units.DB(20 * math.Log10(1+math.Pow(10, float64(noise-shown)/20)))
}

// raised is by how much it may be lower: -20 log10(1 - 10^((N-L)/20)), without
// bound where the noise is as high as the line.
func raised(noise, shown units.DBm) units.DB {
	ratio := math.Pow(10, float64(noise-shown)/20)
	if !(ratio < 1) {
		return units.DB(math.Inf(1))
	}
	return units.DB(-20 * math.Log10(1-ratio))
}

// uncertainty is the expanded uncertainty of levels in the evidence at f: what was
// given, the mismatch of the radio with the first part that states its SWR, and of
// a coupling only vouched to be flat, the difference of two frequencies.
func (r *ruler) uncertainty(e *evidence, f units.Hertz) rulebook.Uncertainty {
	u := r.in.Uncertainty
	if e.own != nil {
		u = *e.own
	}
	if r.in.SourceSWR != nil {
		if first := e.path.FirstSWR(f); first != nil {
			mismatch := 2 * rf.MismatchUncertainty(*r.in.SourceSWR, *first)
			u.Absolute, u.Relative = hypot(u.Absolute, mismatch), hypot(u.Relative, mismatch)
		}
	}
	if e.normal { // its levels rest on the power meter, as those below the carrier do
		u.Absolute = max(u.Absolute, u.Relative)
	}
	if e.flat != nil {
		u.Relative = hypot(u.Relative, 2**e.flat/units.DB(math.Sqrt(3)))
	}
	return u
}

// readingStep is the expanded uncertainty of a level read to a step.
func readingStep(step units.DB) units.DB { return 2 * step / units.DB(math.Sqrt(12)) }

func hypot(a, b units.DB) units.DB { return units.DB(math.Hypot(float64(a), float64(b))) }

// mayBeMore is by how much a product of the given order in the evidence may be
// higher than it shows, beside its uncertainty: as the carrier reads low, as a
// modulated product is wider than the RBW, and, of one that was seen, as its crest
// may lie between two points.
func (r *ruler) mayBeMore(e *evidence, order int, l line, seen bool) units.DB {
	more := r.spread(e, order)
	e.narrow = max(e.narrow, more)
	if !l.dBc {
		more += e.low()
	}
	if seen && !e.isList {
		more += e.scallop
	}
	return more
}

// spread is by how much a modulated product reads low in an RBW narrower than it:
// its width is that of the carrier, times its order.
func (r *ruler) spread(e *evidence, order int) units.DB {
	width := float64(max(1, order)) * r.in.BandwidthHz
	rbw := float64(e.trace.RBW)
	if r.idle || e.modulated == nil || !*e.modulated || rbw == 0 || rbw >= width {
		return 0
	}
	return units.RatioDB(width / rbw)
}

// judgeAt holds one sighting by itself against the limit at f.
func (r *ruler) judgeAt(s *sighting, f units.Hertz, rule decision.Rule) decision.Verdict {
	least, most := s.level-units.DBm(s.less), s.level+units.DBm(s.more)
	return r.hold(f, r.levelOf(s.e, least, most), rule, s.guard)
}

// isBlind tells whether the detection threshold of the evidence at f, with its
// guard, is over the limit there: nothing that stands there passes.
func (r *ruler) isBlind(e *evidence, f units.Hertz) bool {
	if len(e.examined) == 0 {
		return false
	}
	i := e.trace.Nearest(f)
	t := e.floor.Line(i)
	level, ok := e.atConnector(t, f)
	if !ok || math.IsInf(float64(level), 0) {
		return false
	}
	g := rulebook.Guard{U: r.uncertainty(e, f), Hidden: hidden(e.floor.High(i), t)}
	switch r.hold(f, r.levelOf(e, level, level+units.DBm(e.raisedBy(r))), decision.Guarded, g) {
	case decision.Pass, decision.NoLimit:
		return false
	}
	return true
}

// raisedBy is what the detection threshold is raised by.
func (e *evidence) raisedBy(r *ruler) units.DB { return e.low() + r.spread(e, 1) }
