package picture

import (
	"math"

	"talloak/core/problem"
	"talloak/core/units"
)

// Scale is how an axis of frequency runs.
type Scale string

// The scales.
const (
	Linear Scale = "linear"
	Log    Scale = "log"
)

// Click is a place on an axis, in points of the picture, and what is written there.
type Click struct{ Px, Value float64 }

// Axes are set by two clicks each. ReadingPx is how far a click may be beside the place that
// is meant, a half-width in points of the picture.
type Axes struct {
	Scale     Scale
	X, Y      [2]Click // Hz and dBm
	ReadingPx float64
}

// ReadingPx is how well a place is clicked where nobody says: to a point of the picture.
const ReadingPx = 1

// Point is a place on the picture, in its points.
type Point struct {
	XPx float64 `json:"x_px"`
	YPx float64 `json:"y_px"`
}

// Read is what stands at a place, with the standard uncertainties of reading it off.
type Read struct {
	FrequencyHz float64 `json:"frequency_hz"`
	LevelDBm    float64 `json:"level_dbm"`
	FrequencyU  float64 `json:"frequency_u_hz"`
	LevelU      float64 `json:"level_u_db"`
}

// Check says what is wrong with the axes, in the names of the contract.
func (a Axes) Check() error {
	var bad problem.List
	if a.Scale != Linear && a.Scale != Log {
		bad.Add("x.scale", "give linear or log")
	}
	for _, axis := range []struct {
		field, of string
		at        [2]Click
	}{{"x.at", "hz", a.X}, {"y.at", "dbm", a.Y}} {
		if axis.at[0].Px == axis.at[1].Px {
			bad.Add(axis.field+"[1].px", "both clicks are at one place: click two apart from each other")
		}
		if axis.at[0].Value == axis.at[1].Value {
			bad.Add(axis.field+"[1]."+axis.of, "both clicks have the same value: give what is written at each")
		}
	}
	if a.Scale == Log {
		for i, c := range a.X {
			if !(c.Value > 0) {
				bad.Add([]string{"x.at[0].hz", "x.at[1].hz"}[i], "a logarithmic axis has no 0 Hz: give a frequency above 0")
			}
		}
	}
	if a.ReadingPx < 0 {
		bad.Add("reading_px", "give 0 points or more")
	}
	return bad.Err()
}

// At reads a place off. With t the place between the two clicks, 0 at the first, a value is
// straight in t (its logarithm, on a logarithmic axis); both clicks and the place itself are
// read with ReadingPx, rectangular, so its standard uncertainty is
// slope x ReadingPx / sqrt 3 x sqrt(1 + (1-t)^2 + t^2), slope the local one (JCGM 100, 5.1.2).
func (a Axes) At(p Point) Read {
	f, fu := along(a.X, p.XPx, a.Scale == Log, a.ReadingPx)
	l, lu := along(a.Y, p.YPx, false, a.ReadingPx)
	return Read{f, l, fu, lu}
}

func along(at [2]Click, px float64, log bool, readingPx float64) (value, u float64) {
	span := at[1].Px - at[0].Px
	t := (px - at[0].Px) / span
	slope := (at[1].Value - at[0].Value) / span
	value = at[0].Value + t*(at[1].Value-at[0].Value)
	if log {
		ratio := math.Log(at[1].Value / at[0].Value)
		value = at[0].Value * math.Exp(t*ratio)
		slope = value * ratio / span
	}
	return value, math.Abs(slope) * readingPx / math.Sqrt(3) * math.Sqrt(1+(1-t)*(1-t)+t*t)
}

// Window is the half-width in which a frequency that was read off may lie, in Hz: twice its
// standard uncertainty.
func (r Read) Window() units.Hertz { return units.Hertz(2 * r.FrequencyU) }
