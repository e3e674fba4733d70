package advise

import (
	"math"
	"slices"

	"talloak/core/path"
	"talloak/core/say"
)

// What a second look wants more of, in dB: enough to tell the analyzer's own products,
// not so much that the noise hides everything (common practice, no source).
const (
	moreWanted = 10
	moreLeast  = 6
	moreMost   = 20
)

// More is a pad of the bench in front of the instrument, so that a second look has about
// 10 dB more attenuation than the first; nil where none that is safe is owned.
func More(s Sick) *Cure {
	last := len(s.Parts) - 1
	if last < 0 || s.Parts[last].Kind() != path.Analyzer {
		return nil
	}
	var best *Candidate
	off := math.Inf(1)
	for i, c := range s.Bench {
		takes := c.takes(s.Carrier)
		if c.Part.Kind() != path.Attenuator || takes < moreLeast || takes > moreMost || math.Abs(takes-moreWanted) >= off {
			continue
		}
		with := Apply(s.Parts, Step{Do: "insert", At: last}, c.Part)
		if slices.ContainsFunc(s.problems(with), func(f path.Finding) bool { return f.Severity == say.Danger }) {
			continue
		}
		best, off = &s.Bench[i], math.Abs(takes-moreWanted)
	}
	if best == nil {
		return nil
	}
	step := Step{"insert", last, best.Item, best.Setting}
	kept := search{Sick: s}
	kept.keep(attempt{parts: Apply(s.Parts, step, best.Part), steps: []Step{step}, words: []string{words(s.Parts, step, *best)}})
	if len(kept.out) == 0 {
		return nil
	}
	return &kept.out[0]
}
