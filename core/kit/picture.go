package kit

import (
	"math"

	"talloak/core/path"
	"talloak/core/units"
)

// CurvePoint is one point of an item drawn over frequency; nil where it has no
// such figure there.
type CurvePoint struct {
	FrequencyHz float64  `json:"frequency_hz"`
	LossDB      *float64 `json:"loss_db"`
	SWR         *float64 `json:"swr"`
}

// pictureFrom and pictureTo are the frequencies between which kit is drawn.
const (
	pictureFrom = units.Hertz(100e3)
	pictureTo   = units.Hertz(10e9)
)

// Curve draws an item whose loss or SWR changes with frequency; none for others.
// At a setting it cannot have, or where it lies on no path, there is none either.
func (s *Spec) Curve(setting string, points int) []CurvePoint {
	out := []CurvePoint{}
	e, _, err := s.On(setting)
	if err != nil { // an antenna has its SWR all the same
		e = s.Element
		e.Kind = path.Load
	}
	part, err := path.Prepare(e)
	if err != nil || !part.Varies() {
		return out
	}
	span := part.Drawn()
	lo, hi := max(span.Lo, pictureFrom), min(span.Hi, pictureTo)
	if !(lo < hi) {
		return out
	}
	step := math.Log(float64(hi/lo)) / float64(points-1)
	for i := range points {
		f := min(hi, lo*units.Hertz(math.Exp(float64(i)*step)))
		p := CurvePoint{FrequencyHz: float64(f), SWR: part.SWRAt(f)}
		if db, ok := part.LossAt(f); ok && !e.Kind.Ends() {
			p.LossDB = v(float64(db))
		}
		out = append(out, p)
	}
	return out
}
