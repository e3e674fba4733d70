package rulebook

import (
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/units"
)

// DecidedBy names the term that made a limit.
type DecidedBy string

// What can decide a limit.
const (
	ByRelative DecidedBy = "relative"
	ByFormula  DecidedBy = "formula"
	ByAbsolute DecidedBy = "absolute"
	ByFloor    DecidedBy = "floor"
)

// Limits are a book's limits for one carrier.
type Limits struct {
	Applies  bool
	Governs  bool   // the carrier lies in the book's service, whether or not it sets a limit
	Citation string // of the clause, or of what applies instead
	Detail   string // in words, where no clause applies

	carrier   Carrier
	exclusion units.Hertz
	spans     []span
}

// span is a segment worked out for the carrier.
type span struct {
	seg      *Segment
	lo, hi   units.Hertz // absolute and multiple bounds
	offLo    units.Hertz
	offHi    units.Hertz
	limit    units.DBm
	by       DecidedBy
	terms    []termLimit
	citation string
}

type termLimit struct {
	level units.DBm
	by    DecidedBy
}

// For works out what the book asks of a carrier. The first clause that fits
// counts. The carrier must have passed Check.
func (b *Book) For(c Carrier) *Limits {
	return b.limits(b.clauseFor(c), c)
}

// limits are those of a clause, by its number, for a carrier.
func (b *Book) limits(clause int, c Carrier) *Limits {
	l := &Limits{carrier: c, Governs: b.Governs(c.Frequency)}
	if !l.Governs {
		l.Citation, l.Detail = b.CarriersBy, "the carrier lies outside the service of this book"
		return l
	}
	if clause < 0 {
		l.Citation, l.Detail = b.OtherwiseBy, b.OtherwiseDetail
		return l
	}
	fits := &b.Clauses[clause]
	l.Citation = fits.Citation
	if fits.Exempt {
		l.Detail = "the equipment is exempt"
		return l
	}
	l.Applies = true
	l.exclusion = units.Hertz(fits.Exclusion.OffsetHz)
	if w := b.Authorised(c); w != nil {
		l.exclusion = max(l.exclusion, units.Hertz(fits.Exclusion.PercentOfBandwidth/100**w))
	}
	for k := range fits.Segments {
		l.spans = append(l.spans, workOut(&fits.Segments[k], fits.Citation, c))
	}
	return l
}

// Authorised is the bandwidth that a carrier may have, in Hz: the first of the book's that fits it;
// nil where the book sets none.
func (b *Book) Authorised(c Carrier) *float64 {
	c = b.serving(c)
	for i := range b.Bandwidths {
		if b.Bandwidths[i].When.fits(c) {
			return &b.Bandwidths[i].BandwidthHz
		}
	}
	return nil
}

// serving is the carrier in the book's own service, where none is told.
func (b *Book) serving(c Carrier) Carrier {
	if c.Service == "" {
		c.Service = b.Service
	}
	return c
}

// Governs tells whether a carrier lies in the service of the book.
func (b *Book) Governs(carrier units.Hertz) bool {
	return len(b.Carriers) == 0 || slices.ContainsFunc(b.Carriers, func(s Stretch) bool {
		return float64(carrier) >= s.FromHz && float64(carrier) <= s.ToHz
	})
}

func (w *Condition) fits(c Carrier) bool {
	f := float64(c.Frequency)
	state := w.State
	if state == "" {
		state = Operating
	}
	if state != c.State ||
		w.CarrierFromHz != nil && f < *w.CarrierFromHz || w.CarrierToHz != nil && f > *w.CarrierToHz || !w.fitsPower(c.MeanW) {
		return false
	}
	if len(w.Modes) > 0 && !slices.Contains(w.Modes, c.Mode) ||
		len(w.Services) > 0 && !slices.Contains(w.Services, c.Service) ||
		len(w.Classes) > 0 && !slices.Contains(w.Classes, c.Class) {
		return false
	}
	// Dates compare as text. Equipment without a date is new.
	return !(w.InstalledFrom != "" && c.Installed != "" && c.Installed < w.InstalledFrom ||
		w.InstalledBefore != "" && (c.Installed == "" || c.Installed >= w.InstalledBefore) ||
		w.MarketedBefore != "" && (c.Marketed == "" || c.Marketed >= w.MarketedBefore) ||
		w.BuiltBefore != "" && (c.Built == "" || c.Built >= w.BuiltBefore))
}

// fitsPower tells whether a mean power in W does.
func (w *Condition) fitsPower(p float64) bool {
	return !(w.MeanOverW != nil && p <= *w.MeanOverW || w.MeanFromW != nil && p < *w.MeanFromW ||
		w.MeanToW != nil && p > *w.MeanToW || w.MeanUnderW != nil && p >= *w.MeanUnderW)
}

func workOut(s *Segment, citation string, c Carrier) span {
	inf := units.Hertz(math.Inf(1))
	out := span{seg: s, lo: 0, hi: inf, offLo: 0, offHi: inf, citation: citation}
	if s.Citation != "" {
		out.citation = s.Citation
	}
	raise := func(v *float64, scale units.Hertz) {
		if v != nil {
			out.lo = max(out.lo, units.Hertz(*v)*scale)
		}
	}
	lower := func(v *float64, scale units.Hertz) {
		if v != nil {
			out.hi = min(out.hi, units.Hertz(*v)*scale)
		}
	}
	raise(s.FromHz, 1)
	raise(s.FromMultiple, c.Frequency)
	lower(s.ToHz, 1)
	lower(s.ToMultiple, c.Frequency)
	if s.FromOffsetHz != nil {
		out.offLo = units.Hertz(*s.FromOffsetHz)
	}
	if s.ToOffsetHz != nil {
		out.offHi = units.Hertz(*s.ToOffsetHz)
	}
	for i, t := range s.Terms {
		level, by := t.level(c)
		out.terms = append(out.terms, termLimit{level, by})
		tighter := level < out.limit-decision.Slack
		if s.Combine == Lenient {
			tighter = level > out.limit+decision.Slack
		}
		if i == 0 || tighter {
			out.limit, out.by = level, by
		}
	}
	if s.FloorDBm != nil && units.DBm(*s.FloorDBm) > out.limit+decision.Slack {
		out.limit, out.by = units.DBm(*s.FloorDBm), ByFloor
	}
	return out
}

// level is the absolute level a term allows.
func (t Term) level(c Carrier) (units.DBm, DecidedBy) {
	p := units.Watts(c.MeanW)
	if t.Power == "pep" {
		p = units.Watts(c.PEPW)
	}
	switch {
	case t.RelativeDB != nil:
		return p.DBm() - units.DBm(*t.RelativeDB), ByRelative
	case t.FormulaDB != nil:
		// P - (A + 10 log10 P) is 30 - A dBm at any power.
		return units.DBm(30 - *t.FormulaDB), ByFormula
	}
	return units.DBm(*t.AbsoluteDBm), ByAbsolute
}

// Exclusion is the distance from the carrier, on each side, that is not spurious.
func (l *Limits) Exclusion() units.Hertz { return l.exclusion }

// Limit is the limit at one frequency. Level is nil where the book sets none,
// or the frequency is the carrier's own or within the exclusion.
type Limit struct {
	FrequencyHz float64    `json:"frequency_hz"`
	LimitDBm    *float64   `json:"limit_dbm"`
	LimitDBc    *float64   `json:"limit_dbc"`
	DecidedBy   *DecidedBy `json:"decided_by"`
	Citation    *string    `json:"citation"`
}

// At is the limit at f, with its reason.
func (l *Limits) At(f units.Hertz) Limit {
	out := Limit{FrequencyHz: float64(f)}
	if l.Citation != "" {
		out.Citation = &l.Citation
	}
	s := l.spanAt(f)
	if s == nil {
		return out
	}
	level := float64(s.limit)
	out.LimitDBm, out.DecidedBy, out.Citation = &level, &s.by, &s.citation
	if l.carrier.State == Operating {
		dbc := float64(s.limit - units.Watts(l.carrier.MeanW).DBm())
		out.LimitDBc = &dbc
	}
	return out
}

// BelowCarrier is the limit at f by its relative terms alone, for a carrier whose power is
// not known.
func (l *Limits) BelowCarrier(f units.Hertz) Limit {
	out := l.At(f)
	s := l.spanAt(f)
	out.LimitDBm, out.LimitDBc, out.DecidedBy = nil, nil, nil
	if s == nil {
		return out
	}
	carrier := units.Watts(l.carrier.MeanW).DBm()
	for _, t := range s.terms {
		dbc := float64(t.level - carrier)
		if t.by == ByRelative && (out.LimitDBc == nil || s.seg.Combine != Lenient && dbc < *out.LimitDBc || s.seg.Combine == Lenient && dbc > *out.LimitDBc) {
			level := float64(t.level)
			out.LimitDBm, out.LimitDBc, out.DecidedBy = &level, &dbc, ptrTo(t.by)
		}
	}
	return out
}

func ptrTo[T any](v T) *T { return &v }

// Spare is how far a level in dBm, such as the lowest that is visible, lies
// under the limit, in dB; nil where either is not there.
func (l Limit) Spare(level *float64) *float64 {
	if l.LimitDBm == nil || level == nil {
		return nil
	}
	spare := *l.LimitDBm - *level
	return &spare
}

// excluded tells whether f is the carrier or too near to it; in standby there is none.
func (l *Limits) excluded(f units.Hertz) bool {
	if l.carrier.State == Standby && l.exclusion == 0 {
		return false
	}
	return units.Hertz(math.Abs(float64(f-l.carrier.Frequency))) <= l.exclusion
}

func (l *Limits) spanAt(f units.Hertz) *span {
	if l.excluded(f) {
		return nil
	}
	offset := units.Hertz(math.Abs(float64(f - l.carrier.Frequency)))
	var starting *span // a segment that begins at f counts only if none ends there
	for i := range l.spans {
		s := &l.spans[i]
		if f < s.lo || f > s.hi || offset < s.offLo || offset > s.offHi {
			continue
		}
		if s.seg.HarmonicsOnly && !l.isHarmonic(f) {
			continue
		}
		if f > s.lo || s.lo == 0 {
			return s
		}
		if starting == nil {
			starting = s
		}
	}
	return starting
}

// isHarmonic tells whether f is a whole multiple of the carrier, within a
// thousandth (the same share as the harmonic window of a look).
func (l *Limits) isHarmonic(f units.Hertz) bool {
	n := math.Round(float64(f / l.carrier.Frequency))
	return n >= 2 && math.Abs(float64(f)-n*float64(l.carrier.Frequency)) <= 0.001*float64(f)
}

// Uncertainty is the expanded uncertainty of a level, absolute and relative to
// the carrier, in dB.
type Uncertainty struct {
	Absolute, Relative units.DB
}

func (t termLimit) u(u Uncertainty) units.DB {
	if t.by == ByRelative {
		return u.Relative
	}
	return u.Absolute
}

// ReferenceBandwidth is the bandwidth in which the limit at f is meant; false
// where the book does not say.
func (l *Limits) ReferenceBandwidth(f units.Hertz) (units.Hertz, bool) {
	if s := l.spanAt(f); s != nil && s.seg.ReferenceHz != nil {
		return units.Hertz(*s.seg.ReferenceHz), true
	}
	return 0, false
}

// Guard is what a level is guarded with: its expanded uncertainty, and what noise
// may have added to or taken from the figure shown, in dB. Where noise lifts rather
// than scatters, as under max hold, what it added counts in full.
type Guard struct {
	U              Uncertainty
	Hidden, Raised units.DB // by how much noise may make the true level higher, or lower, than shown
	Lifts          bool
}

// Plain is a guard for a level without noise.
func Plain(u Uncertainty) Guard { return Guard{U: u} }

func (g Guard) pass(u units.DB) units.DB { return units.DB(math.Hypot(float64(u), float64(g.Hidden))) }

func (g Guard) fail(u units.DB) units.DB {
	if g.Lifts {
		return u + g.Raised
	}
	return units.DB(math.Hypot(float64(u), float64(g.Raised)))
}

// Hiding is the uncertainty of each term with what noise may hide in it: what a
// level must stay under the limit by to pass.
func (g Guard) Hiding() Uncertainty {
	return Uncertainty{Absolute: g.pass(g.U.Absolute), Relative: g.pass(g.U.Relative)}
}

// Level is what is known of an emission: that it lies between two levels, and
// whether only its distance from the carrier is known, not the level itself; ByMeter says
// that the carrier's power was read on a meter.
type Level struct {
	Least, Most  units.DBm
	RelativeOnly bool
	ByMeter      bool
}

// Exactly is a level known to be at one place.
func Exactly(v units.DBm) Level { return Level{Least: v, Most: v} }

// Judge is the verdict on a level at f, each term guarded with its own
// uncertainty; NoLimit where there is none. What cannot be held against a term,
// since only the distance from the carrier is known, neither passes nor fails it.
func (l *Limits) Judge(f units.Hertz, level Level, rule decision.Rule, g Guard) decision.Verdict {
	s := l.spanAt(f)
	if s == nil {
		return decision.NoLimit
	}
	verdicts := make([]decision.Verdict, len(s.terms))
	for i, t := range s.terms {
		verdicts[i] = hold(t, level, rule, g)
	}
	v := decision.Stricter(verdicts...)
	if s.seg.Combine == Lenient {
		v = decision.Lenient(verdicts...)
	}
	if s.seg.FloorDBm != nil {
		v = decision.Lenient(v, hold(termLimit{units.DBm(*s.seg.FloorDBm), ByFloor}, level, rule, g))
	}
	return v
}
