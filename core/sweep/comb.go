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
	mostBetween  = 6   // lines of other origin that may stand between two of the comb
	mostMissing  = 2   // neighbouring teeth
	leastThere   = 0.6 // of the teeth between the first and the last more than this must be there
)

// FindComb looks for the comb with the most lines among rising frequencies, of several the
// one with the smallest spacing: at least four lines, each within tolerance of a
// least-squares grid, of which no more than two neighbours are missing and over 60 % are
// there. The spacing must be over five tolerances, or any lines would fit it.
func FindComb(lines []units.Hertz, tolerance units.Hertz) (Comb, bool) {
	if len(lines) > maxCombInput {
		lines = lines[:maxCombInput]
	}
	var best Comb
	start := 0
	for i := range lines {
		for j := i + 1; j < min(len(lines), i+2+mostBetween); j++ {
			spacing := lines[j] - lines[i]
			if spacing < 5*tolerance {
				continue
			}
			c := extend(lines[i:], spacing, tolerance)
			if c.Lines > best.Lines || c.Lines == best.Lines && c.Spacing < best.Spacing-tolerance {
				best, start = c, i
			}
		}
	}
	// The spacing may show only further up: what fits it below belongs to it too.
	for i := start - 1; i >= 0 && lines[start]-lines[i] <= (1+mostMissing)*best.Spacing+tolerance; i-- {
		if c := extend(lines[i:], best.Spacing, tolerance); c.Lines > best.Lines {
			best, start = c, i
		}
	}
	return best, best.Lines >= minCombLines
}

// extend follows a spacing from the first line on and fits it anew with every
// line it takes; of what it followed, the longest part of which enough is there.
func extend(lines []units.Hertz, spacing, tolerance units.Hertz) Comb {
	var fit lineFit
	fit.add(0, 0)
	first := lines[0]
	best := Comb{}
	for _, f := range lines[1:] {
		offset := float64(f - first)
		k := math.Round(offset / float64(spacing))
		if k <= fit.lastK || math.Abs(offset-k*float64(spacing)) > float64(tolerance) {
			continue
		}
		if k > fit.lastK+1+mostMissing {
			break
		}
		fit.add(k, offset)
		spacing = units.Hertz(fit.slope())
		if fit.n > leastThere*(k+1) {
			best = Comb{spacing, int(fit.n), first, f}
		}
	}
	return best
}

type lineFit struct{ n, sk, sy, skk, sky, lastK float64 }

func (l *lineFit) add(k, y float64) {
	l.n, l.sk, l.sy, l.skk, l.sky, l.lastK = l.n+1, l.sk+k, l.sy+y, l.skk+k*k, l.sky+k*y, k
}

func (l *lineFit) slope() float64 { return (l.n*l.sky - l.sk*l.sy) / (l.n*l.skk - l.sk*l.sk) }
