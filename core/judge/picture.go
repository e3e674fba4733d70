package judge

import (
	"math"

	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/span"
	"talloak/core/units"
)

// Bucket is one column of a picture: the highest and lowest level at the
// connector and the noise, in dBm; nil where the path has no answer.
type Bucket struct {
	FrequencyHz float64  `json:"frequency_hz"`
	LowDBm      *float64 `json:"low_dbm"`
	HighDBm     *float64 `json:"high_dbm"`
	NoiseDBm    *float64 `json:"noise_dbm"`
}

// CeilingPiece is a stretch of constant limit; nil where there is none.
type CeilingPiece struct {
	FromHz   float64  `json:"from_hz"`
	ToHz     float64  `json:"to_hz"`
	LimitDBm *float64 `json:"limit_dbm"`
}

// Anchor is what a sweep that knows only levels below its carrier is drawn from: the
// carrier's power, nil where nobody knows it.
type Anchor struct {
	Carrier   units.Hertz
	Power     *units.DBm
	Bandwidth units.Hertz
}

// OfRelative is the path by which levels below the carrier are known, where they alone are.
func (s *Sweep) OfRelative() (*path.Path, bool) {
	if flat, _, ok := s.Path.RelativeOnly(); ok {
		return flat, true
	}
	return s.Path, s.Normalised
}

// anchored gives a sweep that knows only levels below its carrier the path and the offset
// that put the carrier at its power; false where either is not known, and so no level is.
func (a Anchor) anchored(s Sweep) (Sweep, bool) {
	p, relative := s.OfRelative()
	if !relative {
		return s, true
	}
	if a.Power == nil {
		return s, false
	}
	e := fromSweep(&s, a.Carrier, a.Bandwidth)
	if e.carrier == nil {
		return s, false
	}
	s.Path, s.AppliedDB = p, s.AppliedDB+units.DB(e.carrier.level-*a.Power)
	return s, true
}

// Picture is a sweep referred to the connector, thinned for drawing without
// losing a crest.
func Picture(s Sweep, buckets int, from Anchor) []Bucket {
	s, anchored := from.anchored(s)
	thin := s.Trace.Thin(buckets)
	floor := s.Trace.Floor(0)
	known := knownWithin(s.Path, s.Trace.Start, s.Trace.Stop)
	out := make([]Bucket, len(thin))
	for i, r := range thin {
		out[i].FrequencyHz = float64(r.Frequency)
		loss, ok := s.Path.LossAt(r.Frequency)
		if !anchored || !ok || !known.Contains(r.Frequency) {
			continue
		}
		shift := float64(loss - s.AppliedDB)
		at, _ := s.Trace.IndexRange(r.Frequency, s.Trace.Stop)
		noise := float64(floor.At(min(at, len(s.Trace.Levels)-1))) + shift
		out[i].LowDBm, out[i].HighDBm = ptr(r.Low+shift), ptr(r.High+shift)
		if s.HasExamined() { // figures have no noise between them
			out[i].NoiseDBm = &noise
		}
	}
	return out
}

// Ceiling is the limit that was ruled by, over [from, to], for drawing. It stops at
// the stretch round the carrier of which nothing is said.
func (r *Ruling) Ceiling(from, to units.Hertz) []CeilingPiece {
	out := []CeilingPiece{}
	if r.limits == nil || !(to > from) {
		return out
	}
	skirt := span.Set{span.Of(r.f0-units.Hertz(r.Coverage.NearCarrierHz), r.f0+units.Hertz(r.Coverage.NearCarrierHz))}
	for _, p := range r.limits.Pieces(from, to) {
		level := p.Ceiling(rulebook.Uncertainty{}, false)
		for _, s := range (span.Set{span.Of(p.From, p.To)}).Minus(skirt) {
			piece := CeilingPiece{FromHz: float64(s.Lo), ToHz: float64(s.Hi)}
			if !math.IsInf(float64(level), 0) {
				piece.LimitDBm = ptr(float64(level))
			}
			out = append(out, piece)
		}
	}
	return out
}
