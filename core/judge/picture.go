package judge

import (
	"math"

	"talloak/core/rulebook"

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

// Picture is a sweep referred to the connector, thinned for drawing without
// losing a crest.
func Picture(s Sweep, buckets int) []Bucket {
	thin := s.Trace.Thin(buckets)
	floor := s.Trace.Floor()
	known := knownWithin(s.Path, s.Trace.Start, s.Trace.Stop)
	out := make([]Bucket, len(thin))
	for i, r := range thin {
		out[i].FrequencyHz = float64(r.Frequency)
		loss, ok := s.Path.LossAt(r.Frequency)
		if !ok || !known.contains(r.Frequency) {
			continue
		}
		shift := float64(loss - s.AppliedDB)
		at, _ := s.Trace.IndexRange(r.Frequency, s.Trace.Stop)
		noise := float64(floor.At(min(at, len(s.Trace.Levels)-1))) + shift
		out[i].LowDBm, out[i].HighDBm, out[i].NoiseDBm = ptr(r.Low+shift), ptr(r.High+shift), &noise
	}
	return out
}

// Ceiling is the limit over [from, to] for a carrier, for drawing.
func Ceiling(book *rulebook.Book, c rulebook.Carrier, from, to units.Hertz) []CeilingPiece {
	pieces := book.For(c).Ceiling(from, to, rulebook.Uncertainty{})
	out := make([]CeilingPiece, len(pieces))
	for i, p := range pieces {
		out[i] = CeilingPiece{FromHz: float64(p.From), ToHz: float64(p.To)}
		if !math.IsInf(float64(p.Level), 0) {
			out[i].LimitDBm = ptr(float64(p.Level))
		}
	}
	return out
}
