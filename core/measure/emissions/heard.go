package emissions

import (
	"fmt"
	"math"
	"slices"

	"talloak/core/judge"
	"talloak/core/say"
	"talloak/core/sweep"
	"talloak/core/units"
)

// heard takes the peaks of looks as they were read.
func heard(looks []judge.Look) ([]judge.Product, func(units.Hertz) (float64, bool)) {
	var out []judge.Product
	for _, l := range looks {
		for _, p := range l.Peaks {
			if f := float64(p.Frequency); p.LevelDBm != nil {
				out = append(out, judge.Product{Kind: judge.Spur, FrequencyHz: &f, LevelDBm: p.LevelDBm, Seen: true, Opened: &judge.Opened{Sights: []judge.Sight{{LevelDBm: p.LevelDBm, WithinHz: float64(l.OnScreen())}}}})
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

// noiseHeard is the highest noise noted of looks; nil where none noted any.
func noiseHeard(looks []judge.Look) *float64 {
	var out *float64
	for _, l := range looks {
		if l.FloorDBm != nil && (out == nil || *l.FloorDBm > *out) {
			out = l.FloorDBm
		}
	}
	return out
}

func combsOf(row string, looks []judge.Look) []StateComb {
	var out []StateComb
	for _, l := range looks {
		var lines []units.Hertz
		for _, p := range l.Peaks {
			lines = append(lines, p.Frequency)
		}
		slices.Sort(lines)
		if c, ok := sweep.FindComb(lines, l.OnScreen()); ok {
			out = append(out, StateComb{row, float64(c.Spacing), c.Lines, say.Comb(l.Name, c.Lines, c.Spacing, c.From, c.To).Detail + overNoise(&l)})
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
		return "; the noise beside it was not noted"
	}
	return fmt.Sprintf("; its weakest line is %.0f dB over the noise noted", weakest-*l.FloorDBm)
}
