package uncertainty

import (
	"fmt"
	"math"
	"sync"

	"gonum.org/v1/gonum/stat/distuv"

	"talloak/core/units"
)

// CoverageFactor is the k of every expanded uncertainty here (about 95 %).
const CoverageFactor = 2

// DBPerRelative turns a small relative uncertainty of power into dB: 10/ln 10 = 4.343.
const DBPerRelative = 10 / math.Ln10

// Line is one part of a budget. Relative is its standard uncertainty relative
// to power; Divisor is what its half-width, or other given figure, was divided by.
type Line struct {
	Source       string  `json:"source"`
	Relative     float64 `json:"relative"`
	Distribution string  `json:"distribution"`
	Divisor      float64 `json:"divisor"`
}

// Budget is a list of independent parts.
type Budget []Line

// Rectangular is a part given as a half-width a relative to power: a / sqrt 3.
func Rectangular(source string, a float64) Line {
	return Line{source, a / math.Sqrt(3), "rectangular", math.Sqrt(3)}
}

// DigitStep is the resolution of a digital display: step / sqrt 12.
func DigitStep(source string, step float64) Line {
	return Line{source, step / math.Sqrt(12), "rectangular", math.Sqrt(12)}
}

// Standard is a part that already is a standard uncertainty relative to power.
func Standard(source string, u float64, distribution string) Line {
	return Line{source, u, distribution, 1}
}

// Stated is a part given as an expanded uncertainty relative to power, as a
// certificate states it: U / k, with the k it gives (JCGM 100, 4.3.3).
func Stated(source string, expanded float64, k *float64) Line {
	return Line{source, expanded / StatedK(k), "normal", StatedK(k)}
}

// StatedK is the coverage factor of a certificate; CoverageFactor where it gives none.
func StatedK(k *float64) float64 {
	if k == nil {
		return CoverageFactor
	}
	return *k
}

// UShaped is a part given as the limit a of a U-shaped distribution: a / sqrt 2.
func UShaped(source string, a float64) Line {
	return Line{source, a / math.Sqrt2, "U-shaped", math.Sqrt2}
}

// Scatter is how far single readings on a meter lie from each other: a standard
// deviation relative to power, with the degrees of freedom it is known by.
type Scatter struct {
	S       float64
	Degrees int
}

// Pool puts estimates of one scatter together: the root of the mean of their
// squares, weighted by degrees of freedom (JCGM 100, 4.2.4 and H.3.6, pooled
// estimates of variance). None, or none with a degree of freedom, give none.
func Pool(estimates ...Scatter) Scatter {
	var s Sum
	for _, e := range estimates {
		s = s.Add(e)
	}
	return s.pooled()
}

// Sum is of the squares of many estimates, weighted by their degrees of freedom.
type Sum struct {
	squares float64
	degrees int
}

// Add is the sum with one estimate more.
func (s Sum) Add(e Scatter) Sum {
	return Sum{s.squares + float64(e.Degrees)*e.S*e.S, s.degrees + e.Degrees}
}

// Without is Pool of the estimates that were added without the one at a place; -1 leaves
// none out.
func (s Sum) Without(place int, estimates []Scatter) Scatter {
	if place >= 0 && place < len(estimates) {
		e := estimates[place]
		s = Sum{max(0, s.squares-float64(e.Degrees)*e.S*e.S), s.degrees - e.Degrees}
	}
	return s.pooled()
}

func (s Sum) pooled() Scatter {
	if s.degrees <= 0 {
		return Scatter{}
	}
	return Scatter{S: math.Sqrt(s.squares / float64(s.degrees)), Degrees: s.degrees}
}

// Repeats is the part of a mean of n readings with the given scatter: s / sqrt n,
// enlarged by t95/2 for the few degrees of freedom it is known by (JCGM 100 annex
// G, Table G.2: t95 is 4.303 at 2 degrees of freedom, 2.776 at 4).
func Repeats(s Scatter, n int) Line {
	enlarged := s.S * T95(s.Degrees) / CoverageFactor
	source := fmt.Sprintf("repeats: one reading scatters by %.2f %%, known by %d degrees of freedom", 100*s.S, s.Degrees)
	return Line{source, enlarged / math.Sqrt(float64(n)), "t", math.Sqrt(float64(n))}
}

// T95 is the two-sided 95 % point of Student's t for the given degrees of
// freedom, 1 or more.
func T95(degrees int) float64 {
	if known, ok := t95.Load(degrees); ok {
		return known.(float64)
	}
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(degrees)}.Quantile(0.975)
	t95.Store(degrees, t)
	return t
}

// t95 holds what was worked out before: a review asks for the same ones all the time.
var t95 sync.Map

// Standard is the combined standard uncertainty relative to power: the root
// sum of squares of the lines.
func (b Budget) Standard() float64 {
	sum := 0.0
	for _, l := range b {
		sum += l.Relative * l.Relative
	}
	return math.Sqrt(sum)
}

// Expanded is the combined uncertainty at k = 2 relative to power.
func (b Budget) Expanded() float64 { return CoverageFactor * b.Standard() }

// ExpandedDB is the wider side of the expanded uncertainty in dB, the one below:
// -10 log10(1 - 2u); false where 2u is 1 or more, and the level is not bounded
// below.
func (b Budget) ExpandedDB() (units.DB, bool) {
	if b.Expanded() >= 1 {
		return 0, false
	}
	return -units.RatioDB(1 - b.Expanded()), true
}

// Interval is p(1 - 2u) to p(1 + 2u), the low end not under 0 W. It is never
// linearised in dB: 1 W at 2 W is +1.76/-3.01 dB.
func (b Budget) Interval(p units.Watts) (low, high units.Watts) {
	u := units.Watts(b.Expanded())
	return max(0, p*(1-u)), p * (1 + u)
}
