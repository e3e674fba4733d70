package sweep

import (
	"math"

	"talloak/core/units"
)

// Comb is a set of evenly spaced lines, as a switching supply makes.
type Comb struct {
	Spacing units.Hertz
	Lines   int
	From    units.Hertz
	To      units.Hertz
}

const (
	minCombLines = 4
	maxCombInput = 300 // lines looked at, so that a trace full of lines stays quick
)

// FindComb looks for the comb with the most lines among rising frequencies:
// at least four lines of which no more than half are missing, each within
// tolerance of a least-squares grid. The spacing must be over five tolerances,
// or any lines would fit it.
func FindComb(lines []units.Hertz, tolerance units.Hertz) (Comb, bool) {
	if len(lines) > maxCombInput {
		lines = lines[:maxCombInput]
	}
	var best Comb
	for i := range lines {
		for j := i + 1; j < min(len(lines), i+4); j++ {
			spacing := lines[j] - lines[i]
			if spacing < 5*tolerance {
				continue
			}
			if c, ok := extend(lines[i:], spacing, tolerance); ok && c.Lines > best.Lines {
				best = c
			}
		}
	}
	return best, best.Lines >= minCombLines
}

// extend follows a spacing from the first line on and fits it anew with every
// line it takes.
func extend(lines []units.Hertz, spacing, tolerance units.Hertz) (Comb, bool) {
	var fit lineFit
	fit.add(0, 0)
	first := lines[0]
	last := first
	for _, f := range lines[1:] {
		offset := float64(f - first)
		k := math.Round(offset / float64(spacing))
		if k <= fit.lastK || math.Abs(offset-k*float64(spacing)) > float64(tolerance) {
			continue
		}
		if k > 2*fit.n+1 {
			break
		}
		fit.add(k, offset)
		last = f
		spacing = units.Hertz(fit.slope())
	}
	return Comb{spacing, int(fit.n), first, last}, int(fit.n) >= minCombLines
}

type lineFit struct{ n, sk, sy, skk, sky, lastK float64 }

func (l *lineFit) add(k, y float64) {
	l.n, l.sk, l.sy, l.skk, l.sky, l.lastK = l.n+1, l.sk+k, l.sy+y, l.skk+k*k, l.sky+k*y, k
}

func (l *lineFit) slope() float64 { return (l.n*l.sky - l.sk*l.sy) / (l.n*l.skk - l.sk*l.sk) }
