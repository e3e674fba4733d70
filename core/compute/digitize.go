package compute

import (
	"fmt"
	"math"

	"talloak/core/picture"
	"talloak/core/problem"
)

// DigitizeIn is two clicks on each axis of a picture, and places on it.
type DigitizeIn struct {
	X         *AxisXIn  `json:"x"`
	Y         *AxisYIn  `json:"y"`
	ReadingPx *float64  `json:"reading_px,omitempty"`
	Points    []PlaceIn `json:"points"`
}

// AxisXIn is the axis of frequency.
type AxisXIn struct {
	Scale picture.Scale `json:"scale"`
	At    []ClickXIn    `json:"at"`
}

// ClickXIn is a click on it.
type ClickXIn struct {
	Px *float64 `json:"px"`
	Hz *float64 `json:"hz"`
}

// AxisYIn is the axis of levels.
type AxisYIn struct {
	At []ClickYIn `json:"at"`
}

// ClickYIn is a click on it.
type ClickYIn struct {
	Px  *float64 `json:"px"`
	DBm *float64 `json:"dbm"`
}

// PlaceIn is a place on the picture.
type PlaceIn struct {
	XPx *float64 `json:"x_px"`
	YPx *float64 `json:"y_px"`
}

// DigitizeOut is what stands there.
type DigitizeOut struct {
	Points []picture.Read `json:"points"`
}

func digitize(in *DigitizeIn) (DigitizeOut, error) {
	var bad problem.List
	a := picture.Axes{ReadingPx: or(in.ReadingPx, picture.ReadingPx)}
	if in.X == nil {
		bad.Add("x", "is missing; give scale and two clicks")
	} else {
		a.Scale = in.X.Scale
		if len(in.X.At) != 2 {
			bad.Add("x.at", "give two clicks, each with px and hz")
		} else {
			for i, c := range in.X.At {
				a.X[i] = picture.Click{Px: number(&bad, fmt.Sprintf("x.at[%d].px", i), c.Px, "of points"), Value: number(&bad, fmt.Sprintf("x.at[%d].hz", i), c.Hz, "of Hz")}
			}
		}
	}
	if in.Y == nil {
		bad.Add("y", "is missing; give two clicks")
	} else if len(in.Y.At) != 2 {
		bad.Add("y.at", "give two clicks, each with px and dbm")
	} else {
		for i, c := range in.Y.At {
			a.Y[i] = picture.Click{Px: number(&bad, fmt.Sprintf("y.at[%d].px", i), c.Px, "of points"), Value: number(&bad, fmt.Sprintf("y.at[%d].dbm", i), c.DBm, "in dBm")}
		}
	}
	if in.Points == nil {
		bad.Add("points", "is missing; give places on the picture")
	}
	places := make([]picture.Point, len(in.Points))
	for i, p := range in.Points {
		places[i] = picture.Point{XPx: number(&bad, fmt.Sprintf("points[%d].x_px", i), p.XPx, "of points"), YPx: number(&bad, fmt.Sprintf("points[%d].y_px", i), p.YPx, "of points")}
	}
	if bad.Empty() { // what is missing makes no axes
		bad.AddErr("", a.Check())
	} else if in.ReadingPx != nil && *in.ReadingPx < 0 {
		bad.Add("reading_px", "give 0 points or more")
	}
	if err := bad.Err(); err != nil {
		return DigitizeOut{}, err
	}
	out := DigitizeOut{Points: make([]picture.Read, len(places))}
	for i, p := range places {
		r := a.At(p)
		if math.IsInf(r.FrequencyHz, 0) || math.IsNaN(r.FrequencyHz) || math.IsInf(r.FrequencyU, 0) || math.IsNaN(r.FrequencyU) {
			return DigitizeOut{}, problem.New(fmt.Sprintf("points[%d].x_px", i), "lies too far beside the axis for a number")
		}
		if math.IsInf(r.LevelDBm, 0) || math.IsNaN(r.LevelDBm) || math.IsInf(r.LevelU, 0) || math.IsNaN(r.LevelU) {
			return DigitizeOut{}, problem.New(fmt.Sprintf("points[%d].y_px", i), "lies too far beside the axis for a number")
		}
		out.Points[i] = r
	}
	return out, nil
}
