package emissions

import (
	"fmt"
	"math"
	"slices"

	"talloak/core/judge"
	"talloak/core/sweep"
	"talloak/core/units"
)

// heard takes the peaks of looks as they were read.
func heard(looks []judge.Look) ([]judge.Product, func(units.Hertz) (float64, bool)) {
	var out []judge.Product
	for _, l := range looks {
		for _, p := range l.Peaks {
			if f := float64(p.Frequency); p.LevelDBm != nil {
				out = append(out, judge.Product{Kind: judge.Spur, FrequencyHz: &f, LevelDBm: p.LevelDBm, Seen: true, Opened: &judge.Opened{Sights: []judge.Sight{{LevelDBm: p.LevelDBm, WithinHz: float64(heardWithin(&l))}}}})
			}
		}
	}
	return out, func(f units.Hertz) (float64, bool) {
		for _, l := range looks {
			if l.FloorDBm != nil && f >= l.From && f <= l.To {
				return *l.FloorDBm, true
			}
		}
		return 0, false
	}
}

// heardWithin is how well a receiver's dial is read: a 300th of what was listened over.
func heardWithin(l *judge.Look) units.Hertz { return max(l.Tolerance, (l.To-l.From)/300) }

func combsOf(row string, looks []judge.Look) []StateComb {
	var out []StateComb
	for _, l := range looks {
		var lines []units.Hertz
		for _, p := range l.Peaks {
			lines = append(lines, p.Frequency)
		}
		slices.Sort(lines)
		if c, ok := sweep.FindComb(lines, heardWithin(&l)); ok {
			out = append(out, StateComb{row, float64(c.Spacing), c.Lines, fmt.Sprintf("%d lines every %s from %s to %s%s: such a comb comes from one source, often a switching supply", c.Lines, c.Spacing, c.From, c.To, overNoise(&l))})
		}
	}
	return out
}

// overNoise tells how far the weakest line heard stands over the noise that was noted: what
// lies less far over it may be masked.
func overNoise(l *judge.Look) string {
	weakest := math.Inf(1)
	for _, p := range l.Peaks {
		if p.LevelDBm != nil {
			weakest = min(weakest, *p.LevelDBm)
		}
	}
	if l.FloorDBm == nil || math.IsInf(weakest, 1) {
		return ", the noise beside them was not noted"
	}
	return fmt.Sprintf(", the weakest %.0f dB over the noise noted", weakest-*l.FloorDBm)
}
