package compute

import (
	"math"
	"math/rand/v2"
	"testing"

	"talloak/core/picture"
)

// TestDigitize: places between two clicks, by hand: linear ones lie straight between, on a
// logarithmic axis the middle of 1 MHz and 1 GHz is the geometric mean, 31.62 MHz.
func TestDigitize(t *testing.T) {
	linear := run(t, "digitize", `{"x":{"scale":"linear","at":[{"px":100,"hz":0},{"px":1100,"hz":1e9}]},"y":{"at":[{"px":50,"dbm":0},{"px":850,"dbm":-80}]},
	 "points":[{"x_px":246.5,"y_px":150},{"x_px":100,"y_px":50},{"x_px":600,"y_px":450}]}`)
	linear.near("points.0.frequency_hz", 146.5e6, 1e-6)
	linear.near("points.0.level_dbm", -10, 1e-9)
	// 1 MHz a point: 1 / sqrt 3 times sqrt 2 at a click, sqrt 1.5 in the middle.
	linear.near("points.1.frequency_u_hz", 1e6*math.Sqrt(2./3), 1)
	linear.near("points.2.frequency_u_hz", 1e6*math.Sqrt(0.5), 1)
	linear.near("points.2.level_u_db", 0.1*math.Sqrt(0.5), 1e-9)
	log := run(t, "digitize", `{"x":{"scale":"log","at":[{"px":0,"hz":1e6},{"px":900,"hz":1e9}]},"y":{"at":[{"px":0,"dbm":0},{"px":100,"dbm":-100}]},"reading_px":2,"points":[{"x_px":450,"y_px":10}]}`)
	log.near("points.0.frequency_hz", 31.6228e6, 100)
	// A point is ln 1000 / 900 of the frequency there: 0.768 %, twice 1 / sqrt 3 sqrt 1.5 of it.
	log.near("points.0.frequency_u_hz", 31.6228e6*math.Log(1000)/900*2*math.Sqrt(0.5), 100)
	for in, fields := range map[string][]string{
		`{}`: {"x", "y", "points"},
		`{"x":{"scale":"cubic","at":[{"px":1,"hz":1},{"px":1,"hz":1}]},"y":{"at":[{"px":1,"dbm":1},{"px":1,"dbm":1}]},"reading_px":-1,"points":[]}`:          {"x.scale", "x.at[1].px", "x.at[1].hz", "y.at[1].px", "y.at[1].dbm", "reading_px"},
		`{"x":{"scale":"log","at":[{"px":1,"hz":0},{"px":2,"hz":-1}]},"y":{"at":[{"px":1,"dbm":1},{"px":2,"dbm":2}]},"points":[{"x_px":1,"y_px":1}]}`:        {"x.at[0].hz", "x.at[1].hz"},
		`{"x":{"scale":"log","at":[{"px":1,"hz":1}]},"y":{"at":[{"px":1},{"px":2,"dbm":2}]},"points":[{"y_px":1}]}`:                                          {"x.at", "y.at[0].dbm", "points[0].x_px"},
		`{"x":{"scale":"log","at":[{"px":0,"hz":1},{"px":1,"hz":1e9}]},"y":{"at":[{"px":1,"dbm":1},{"px":2,"dbm":2}]},"points":[{"x_px":1e6,"y_px":1}]}`:     {"points[0].x_px"},
		`{"x":{"scale":"linear","at":[{"px":0,"hz":1},{"px":1,"hz":2}]},"y":{"at":[{"px":1,"dbm":1},{"px":2,"dbm":1e308}]},"points":[{"x_px":1,"y_px":99}]}`: {"points[0].y_px"},
	} {
		refused(t, "digitize", in, fields...)
	}
}

// TestReadingOffIsAsUncertainAsItSays: of clicks that fall anywhere within a point of where
// they are meant, 95 % of what is read lies within twice the uncertainty stated (JCGM 100:
// the root sum of squares, checked by drawing).
func TestReadingOffIsAsUncertainAsItSays(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 2))
	slip := func(px float64) float64 { return px + 2*r.Float64() - 1 }
	for _, scale := range []picture.Scale{picture.Linear, picture.Log} {
		truth := picture.Axes{Scale: scale, X: [2]picture.Click{{Px: 80, Value: 30e6}, {Px: 1180, Value: 1e9}}, Y: [2]picture.Click{{Px: 40, Value: 0}, {Px: 640, Value: -100}}, ReadingPx: 1}
		place := picture.Point{XPx: 400, YPx: 300}
		want := truth.At(place)
		const n = 4000
		inF, inL := 0, 0
		for range n {
			seen := truth
			for i := range 2 {
				seen.X[i].Px, seen.Y[i].Px = slip(truth.X[i].Px), slip(truth.Y[i].Px)
			}
			got := seen.At(picture.Point{XPx: slip(place.XPx), YPx: slip(place.YPx)})
			if math.Abs(got.FrequencyHz-want.FrequencyHz) <= 2*got.FrequencyU {
				inF++
			}
			if math.Abs(got.LevelDBm-want.LevelDBm) <= 2*got.LevelU {
				inL++
			}
		}
		if inF < n*93/100 || inL < n*93/100 || inF == n {
			t.Errorf("%s: %d and %d of %d", scale, inF, inL, n)
		}
	}
}
