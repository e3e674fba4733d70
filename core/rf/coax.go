package rf

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"talloak/core/problem"
	"talloak/core/units"
)

// CablePoint is one point of a data sheet: the matched loss of 100 m.
type CablePoint struct {
	FrequencyHz float64 `json:"frequency_hz"`
	DBPer100m   float64 `json:"db_per_100m"`
}

// Cable is a fitted cable: matched loss of 100 m in dB is k1 sqrt(f) + k2 f
// with f in MHz. The zero value is lossless.
type Cable struct {
	K1, K2  float64
	lowest  units.Hertz
	highest units.Hertz
}

// cableTypes are typical handbook points (ARRL Handbook, table of coaxial cable,
// converted from 100 ft; from memory).
var cableTypes = map[string][]CablePoint{
	"rg-58":  {{1e6, 1.3}, {10e6, 4.6}, {100e6, 15.4}, {400e6, 33.5}, {1000e6, 57.0}},
	"rg-8x":  {{1e6, 1.0}, {10e6, 3.3}, {100e6, 12.1}, {1000e6, 44.3}},
	"rg-213": {{1e6, 0.6}, {10e6, 2.0}, {100e6, 6.9}, {1000e6, 26.2}},
	"rg-174": {{1e6, 6.2}, {10e6, 10.8}, {100e6, 27.6}, {1000e6, 111.5}},
	"rg-316": {{1e6, 3.9}, {10e6, 9.2}, {100e6, 27.2}, {1000e6, 95.1}},
	"rg-223": {{1e6, 1.2}, {10e6, 3.9}, {100e6, 13.5}, {1000e6, 47.6}},
	"rg-142": {{1e6, 1.2}, {10e6, 3.6}, {100e6, 12.8}, {1000e6, 44.3}},
}

// CableTypes lists the ids of the shipped cable types, sorted.
func CableTypes() []string {
	ids := make([]string, 0, len(cableTypes))
	for id := range cableTypes {
		ids = append(ids, id)
	}
	slices.Sort(ids)
	return ids
}

// CableType fits a shipped cable type. The error is on the field "cable".
func CableType(id string) (Cable, error) {
	points, ok := cableTypes[id]
	if !ok {
		return Cable{}, problem.New("cable", "unknown cable %q; known are %s, or give points", id, strings.Join(CableTypes(), ", "))
	}
	return FitCable(points)
}

// FitCable fits k1 and k2, neither negative, to data-sheet points by unweighted
// least squares in dB; a single point gives k1 alone. Errors are on "points".
func FitCable(points []CablePoint) (Cable, error) {
	var bad problem.List
	if len(points) == 0 {
		bad.Add("points", "give at least one point")
	}
	var c Cable
	var s11, s12, s22, b1, b2 float64 // normal equations
	for i, p := range points {
		field := "points" + index(i)
		if !(p.FrequencyHz > 0) {
			bad.Add(field+".frequency_hz", "give more than 0 Hz")
		}
		if p.DBPer100m < 0 {
			bad.Add(field+".db_per_100m", "a loss is 0 dB or more")
		}
		f := p.FrequencyHz / 1e6
		r := math.Sqrt(f)
		s11, s12, s22 = s11+f, s12+f*r, s22+f*f
		b1, b2 = b1+r*p.DBPer100m, b2+f*p.DBPer100m
		if i == 0 || units.Hertz(p.FrequencyHz) < c.lowest {
			c.lowest = units.Hertz(p.FrequencyHz)
		}
		c.highest = max(c.highest, units.Hertz(p.FrequencyHz))
	}
	if err := bad.Err(); err != nil {
		return Cable{}, err
	}
	det := s11*s22 - s12*s12
	if c.lowest == c.highest || det <= 1e-12*s11*s22 {
		c.K1 = b1 / s11
	} else {
		c.K1, c.K2 = (b1*s22-b2*s12)/det, (b2*s11-b1*s12)/det
		switch { // the constrained optimum lies on the edge that was crossed
		case c.K2 < 0:
			c.K1, c.K2 = b1/s11, 0
		case c.K1 < 0:
			c.K1, c.K2 = 0, b2/s22
		}
	}
	if math.IsNaN(c.K1+c.K2) || math.IsInf(c.K1+c.K2, 0) {
		return Cable{}, problem.New("points", "too large to be fitted")
	}
	return c, nil
}

func index(i int) string { return "[" + strconv.Itoa(i) + "]" }

// Matched is the loss of a length in metres at f, both ends matched.
// Extrapolated tells that f lies outside the points that were fitted.
func (c Cable) Matched(lengthM float64, f units.Hertz) (loss units.DB, extrapolated bool) {
	mhz := float64(f) / 1e6
	return units.DB((c.K1*math.Sqrt(mhz) + c.K2*mhz) * lengthM / 100), f < c.lowest || f > c.highest
}

// TotalLoss is the loss of a line whose matched loss is ml and whose far end has
// the given SWR: 10 log10[(a^2 - r^2) / (a (1 - r^2))] with a = 10^(ml/10) and
// r = |rho| at the load (ARRL Antenna Book). It is written here so that no
// power of ten can overflow.
func TotalLoss(ml units.DB, loadSWR float64) units.DB {
	r := Rho(loadSWR)
	back := r * math.Pow(10, -float64(ml)/10) // reflection seen at the near end
	return ml + units.RatioDB((1-back*back)/(1-r*r))
}
