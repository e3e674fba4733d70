package emissions

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/measure"
	"talloak/core/units"
)

const besides = "beside its own frequency"

// Plain implements measure.PlainTeller: the worst product as a factor, whose spectrum it falls into, what to do about
// it, and what was not looked at.
func (d *Room) Plain(boxes []measure.Named, whole decision.Whole) string {
	said, rule := "", ruleWords(boxes)
	switch whole.Verdict {
	case decision.Fail:
		said = plainFail(boxes, rule)
	case decision.Inconclusive:
		said = "Whether it keeps to " + rule + " " + besides + " is too close to call " + measure.FirstFew(placesOf(boxes, decision.Inconclusive), 2) + "."
	case decision.Pass:
		said = "It sends no more " + besides + " than " + rule + " allows."
	case decision.SoFar:
		said = "Where we looked it sends no more " + besides + " than " + rule + " allows."
	case decision.NoLimit:
		said = "The rule book sets no limit to what it sends " + besides + "."
	case decision.NotGoverned:
		said = "The rule book is not about this radio: what it sends " + besides + " is held against no limit."
	case decision.NotExamined:
		return "What it sends " + besides + " was not looked at."
	default:
		said = "What it sends " + besides + " could not be ruled on."
	}
	return strings.TrimSpace(said + " " + plainLeft(boxes))
}

func placesOf(boxes []measure.Named, v decision.Verdict) []string {
	var out []string
	for _, b := range boxes {
		if b.Verdict == v {
			out = append(out, b.Where())
		}
	}
	return out
}

func plainFail(boxes []measure.Named, rule string) string {
	var failing []measure.Named
	for _, b := range boxes {
		if b.Verdict == decision.Fail {
			failing = append(failing, b)
		}
	}
	slices.SortStableFunc(failing, func(a, b measure.Named) int { return cmp.Compare(room(of(a.Box)), room(of(b.Box))) })
	worst := failing[0]
	p := of(worst.Box).Ruling.Worst
	out := fmt.Sprintf("%s it sends %s %s.", upperFirst(worst.Where()), productWords(p), excessWords(-room(of(worst.Box)), rule))
	if p.Lands != nil && *p.Lands != "" {
		out = strings.TrimSuffix(out, ".") + ", where others have a right to be undisturbed: " + *p.Lands + "."
	}
	var more []string
	for _, b := range failing[1:] {
		more = append(more, b.Where())
	}
	if len(more) > 0 {
		out += " It is over the limit " + measure.FirstFew(more, 2) + " too."
	}
	out += adviceFor(boxes, worst, p)
	if close := placesOf(boxes, decision.Inconclusive); len(close) > 0 {
		out += " It is too close to call " + measure.FirstFew(close, 2) + "."
	}
	return out
}

// ruleWords name what it was held against: where any of it is house practice, that is no rule of law, and says so.
func ruleWords(boxes []measure.Named) string {
	for _, b := range boxes {
		if of(b.Box).BookHouse {
			return "our house limit, which is no law,"
		}
	}
	return "the rule"
}

// excessWords are an excess over a limit in dB, as a factor of power.
func excessWords(db float64, rule string) string {
	factor := units.DB(db).Ratio()
	switch {
	case factor < 1.95:
		return fmt.Sprintf("%.0f %% stronger than %s allows", 100*(factor-1), rule)
	case factor < 19.5:
		return fmt.Sprintf("about %.0f times as strong as %s allows", factor, rule)
	}
	step := math.Pow(10, math.Floor(math.Log10(factor))-1)
	return fmt.Sprintf("about %.0f times as strong as %s allows", math.Round(factor/step)*step, rule)
}

// adviceFor is what to do about a product over the limit: a level of the same band that passes in full, or a filter
// where the product lies far enough above the carrier for one.
func adviceFor(boxes []measure.Named, worst measure.Named, p *judge.Product) string {
	var clean []string
	for _, b := range boxes {
		if b.Cell.Band.Name == worst.Cell.Band.Name && b.Cell.Mode == worst.Cell.Mode && b.Verdict == decision.Pass && of(b.Box).Ruling.InFull() {
			clean = append(clean, b.Cell.Level)
		}
	}
	place := p.FrequencyHz
	if place == nil {
		place = p.ExpectedHz
	}
	const apart = 1.5 // times the carrier, that a low-pass filter needs at least (common practice, no source)
	filtered := place != nil && *place > apart*of(worst.Box).FrequencyHz
	switch {
	case len(clean) > 0 && filtered:
		return fmt.Sprintf(" Use it at %s there, or with a low-pass filter.", measure.FirstFew(clean, 2))
	case len(clean) > 0:
		return fmt.Sprintf(" Use it at %s there.", measure.FirstFew(clean, 2))
	case filtered:
		return " Use it there with a low-pass filter, or not at all."
	}
	return " Do not use it there until that is cured."
}

// plainLeft is what was not looked at, or not in full.
func plainLeft(boxes []measure.Named) string {
	var not, partly []string
	for _, b := range boxes {
		r := of(b.Box).Ruling
		switch {
		case r == nil:
			not = append(not, b.Name)
		case !r.Coverage.Complete:
			partly = append(partly, b.Name)
		}
	}
	var out []string
	if len(not) > 0 {
		out = append(out, "Not looked at: "+measure.FirstFew(not, 3)+".")
	}
	if len(partly) > 0 {
		out = append(out, "Not looked at in full: "+measure.FirstFew(partly, 3)+".")
	}
	return strings.Join(out, " ")
}

func upperFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func productWords(p *judge.Product) string {
	if p.Kind == judge.Subharmonic {
		return "something at half its carrier"
	}
	return article(p.Name())
}

func article(noun string) string {
	if strings.ContainsRune("aeiou8", rune(noun[0])) || strings.HasPrefix(noun, "11th") || strings.HasPrefix(noun, "18th") {
		return "an " + noun
	}
	return "a " + noun
}
