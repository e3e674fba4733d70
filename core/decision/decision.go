package decision

import "talloak/core/units"

// Verdict is the outcome for one product, one claim, or a whole ruling.
type Verdict string

// The verdicts. Inconclusive is shown as "too close to call".
const (
	Pass         Verdict = "pass"
	Fail         Verdict = "fail"
	Inconclusive Verdict = "inconclusive"
	NotCovered   Verdict = "not-covered"
	NoLimit      Verdict = "no-limit"
	Void         Verdict = "void"
)

// What is said of a band and level beside the verdicts: the book is not about its
// carrier, nothing is claimed of it, nobody looked yet. SoFar is said of several:
// all that was examined passes, but not all was examined.
const (
	NotGoverned Verdict = "not-governed"
	NoClaim     Verdict = "no-claim"
	NotExamined Verdict = "not-examined"
	SoFar       Verdict = "passes-so-far"
)

// Rule says who has the benefit of the doubt.
type Rule string

// Simple passes at a margin of 0 or more. Guarded passes only when the margin
// is at least the expanded uncertainty, and fails only when it is below minus
// that: a false acceptance has at most 2.3 % (JCGM 106).
const (
	Simple  Rule = "simple"
	Guarded Rule = "guarded"
)

// Known tells whether r is one of the rules.
func (r Rule) Known() bool { return r == Simple || r == Guarded }

// Slack keeps the last bits of a float from deciding a tie: 1 nanodecibel.
const Slack = 1e-9

// Decide judges a margin (limit - level, positive is good) with expanded
// uncertainty u of 0 or more, both in dB.
func (r Rule) Decide(margin, u units.DB) Verdict { return r.Between(margin, margin, u, u) }

// Between judges a level that is known between two: it passes by the margin it
// would have at its highest, guarded with passU, and fails by the one at its
// lowest, guarded with failU. All are in dB; least is not above most.
func (r Rule) Between(least, most, passU, failU units.DB) Verdict {
	if r == Simple {
		passU, failU = 0, 0
	}
	switch {
	case least >= passU-Slack:
		return Pass
	case most < -failU:
		return Fail
	}
	return Inconclusive
}

// Stricter is the verdict where all terms must hold: it fails if any fails and
// passes if all pass.
func Stricter(terms ...Verdict) Verdict { return combine(Fail, Pass, terms) }

// Lenient is the verdict where one term is enough: it passes if any passes and
// fails if all fail.
func Lenient(terms ...Verdict) Verdict { return combine(Pass, Fail, terms) }

func combine(any, all Verdict, terms []Verdict) Verdict {
	alike := true
	for _, t := range terms {
		if t == any {
			return any
		}
		alike = alike && t == all
	}
	if alike {
		return all
	}
	return Inconclusive
}
