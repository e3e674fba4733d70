package dossier

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/units"
)

// headline is the sentence a reader takes away: emissions with their coverage, then
// power. Every box that fails is named, the worst first.
func headline(b Board) string {
	return emissionsSentence(b) + " " + powerSentence(b)
}

// with are the boxes of a verdict, ordered.
func with(b Board, is func(BoardCell) bool, order func(BoardCell) float64) []BoardCell {
	var out []BoardCell
	for _, c := range b.Cells {
		if is(c) {
			out = append(out, c)
		}
	}
	slices.SortStableFunc(out, func(a, c BoardCell) int { return cmp.Compare(order(a), order(c)) })
	return out
}

func emissionsSentence(b Board) string {
	byMargin := func(c BoardCell) float64 { return margin(c.Emissions) }
	ruled := with(b, func(c BoardCell) bool {
		return c.Verdict == b.Emissions.Verdict || c.Verdict == decision.Pass && b.Emissions.Verdict == decision.SoFar
	}, byMargin)
	var said []string
	switch b.Emissions.Verdict {
	case decision.Fail:
		for _, c := range ruled {
			others := ""
			if n := failing(c.Emissions.Ruling) - 1; n > 0 {
				others = fmt.Sprintf(", and %d more over it", n)
			}
			said = append(said, fmt.Sprintf("%s: %s is %.1f dB over the limit%s", c.Name, ProductName(*c.Emissions.Ruling.Worst), -margin(c.Emissions), others))
		}
		return fmt.Sprintf("Emissions fail on %s (%s); %s.", strings.Join(said, "; "), b.Rules.Book, b.Emissions.Words)
	case decision.Inconclusive:
		for _, c := range ruled {
			because := ""
			if len(c.Notes) > 0 {
				because = ", " + c.Notes[0].Short
			}
			said = append(said, fmt.Sprintf("%s: %s, margin %s%s", c.Name, ProductName(*c.Emissions.Ruling.Worst), units.DB(margin(c.Emissions)).Signed(), because))
		}
		return fmt.Sprintf("Emissions are too close to call on %s (%s); %s.", strings.Join(said, "; "), b.Rules.Book, b.Emissions.Words)
	case decision.Pass:
		return fmt.Sprintf("Emissions pass %s by %s; smallest margin %.1f dB on %s; %s.", coverageWords(leastReach(ruled)), b.Rules.Book, margin(ruled[0].Emissions), ruled[0].Name, b.Emissions.Words)
	case decision.SoFar:
		return fmt.Sprintf("Emissions pass so far, %s, by %s; smallest margin %.1f dB on %s; %s.", coverageWords(leastReach(ruled)), b.Rules.Book, margin(ruled[0].Emissions), ruled[0].Name, b.Emissions.Words)
	case decision.NoLimit:
		return fmt.Sprintf("%s sets no figure for what was examined; %s.", b.Rules.Book, b.Emissions.Words)
	case decision.NotGoverned:
		return fmt.Sprintf("%s does not govern what was examined; %s.", b.Rules.Book, b.Emissions.Words)
	case decision.Void:
		return fmt.Sprintf("Emissions cannot be ruled on: %s; %s.", ruled[0].Why, b.Emissions.Words)
	case decision.NotCovered:
		return fmt.Sprintf("Nothing examined can be ruled on; %s.", b.Emissions.Words)
	}
	return "Emissions were not examined."
}

func powerSentence(b Board) string {
	delta := func(c BoardCell) float64 {
		if c.Reading != nil && c.Reading.AgainstClaim != nil && c.Reading.AgainstClaim.DeltaDB != nil {
			return *c.Reading.AgainstClaim.DeltaDB
		}
		return 0
	}
	var said []string
	over := 0
	for _, c := range b.Cells {
		if c.Reading != nil && c.Reading.AgainstClaim != nil && c.Reading.AgainstClaim.Grade == claims.Over {
			over++
		}
	}
	out := ""
	switch b.Power.Verdict {
	case decision.Fail:
		for _, c := range with(b, func(c BoardCell) bool { return c.Power == decision.Fail }, delta) {
			said = append(said, fmt.Sprintf("%s %s of %s", c.Name, units.Watts(*c.Reading.MeasuredW), units.Watts(c.Cell.Claimed)))
		}
		out = "Power is short of the claim: " + strings.Join(said, "; ") + "; "
	case decision.Inconclusive:
		for _, c := range with(b, func(c BoardCell) bool { return c.Power == decision.Inconclusive }, delta) {
			said = append(said, c.Name)
		}
		out = "Power is too close to call on " + strings.Join(said, ", ") + "; "
	case decision.Pass:
		return strings.TrimSpace(fmt.Sprintf("Power makes its claim in every band and level: %s. %s", b.Power.Words, overWords(over)))
	case decision.SoFar:
		out = "Power makes its claim so far: "
	default:
		return "No power was held against a claim."
	}
	return strings.TrimSpace(fmt.Sprintf("%s%s. %s", out, b.Power.Words, overWords(over)))
}

func overWords(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprintf("In %d it is over 120 %% of the claim.", n)
}

func failing(r *judge.Ruling) int {
	n := 0
	for _, p := range r.Products {
		if p.Verdict == decision.Fail {
			n++
		}
	}
	return n
}

// leastReach is the coverage of the passing box that was looked at least far.
func leastReach(passing []BoardCell) judge.Coverage {
	var least *judge.Coverage
	for i := range passing {
		c := &passing[i].Emissions.Ruling.Coverage
		if least == nil || c.PassesToHz == nil || least.PassesToHz != nil && *c.PassesToHz < *least.PassesToHz {
			least = c
		}
	}
	return *least
}

func coverageWords(c judge.Coverage) string {
	if c.PassesToHz == nil || c.HighestHarmonic == nil && c.Complete {
		return "with no harmonic covered"
	}
	out := "as far as " + units.Hertz(*c.PassesToHz).String()
	if c.HighestHarmonic != nil {
		out += fmt.Sprintf(" (%s harmonic)", Ordinal(*c.HighestHarmonic))
	}
	return out
}
