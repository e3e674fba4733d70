package emissions

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/units"
)

func of(b measure.Box) Ruling { return measure.Own[Ruling](b.Of) }

// Sentence implements measure.Tells: every box that fails is named, the worst first, and
// a pass says how far it goes.
func (d *Room) Sentence(boxes []measure.Named, whole decision.Whole) string {
	var ruled []measure.Named
	for _, b := range boxes {
		if b.Verdict == whole.Verdict || b.Verdict == decision.Pass && whole.Verdict == decision.SoFar {
			ruled = append(ruled, b)
		}
	}
	slices.SortStableFunc(ruled, func(a, b measure.Named) int { return cmp.Compare(room(of(a.Box)), room(of(b.Box))) })
	book := titles(ruled)
	var said []string
	switch whole.Verdict {
	case decision.Fail:
		for _, c := range ruled {
			others := ""
			if n := failing(of(c.Box).Ruling) - 1; n > 0 {
				others = fmt.Sprintf(", and %d more over it", n)
			}
			said = append(said, fmt.Sprintf("%s: %s is %.1f dB over the limit%s", c.Name, of(c.Box).Ruling.Worst.Name(), -room(of(c.Box)), others))
		}
		return fmt.Sprintf("Emissions fail on %s (%s); %s.", strings.Join(said, "; "), book, whole.Words)
	case decision.Inconclusive:
		for _, c := range ruled {
			because := ""
			if len(c.Notes) > 0 {
				because = ", " + c.Notes[0].Short
			}
			said = append(said, fmt.Sprintf("%s: %s, margin %s%s", c.Name, of(c.Box).Ruling.Worst.Name(), roomWords(of(c.Box)), because))
		}
		return fmt.Sprintf("Emissions are too close to call on %s (%s); %s.", strings.Join(said, "; "), book, whole.Words)
	case decision.Pass:
		return fmt.Sprintf("Emissions pass %s by %s; smallest margin %s on %s; %s.", coverageWords(leastReach(ruled)), book, roomWords(of(ruled[0].Box)), ruled[0].Name, whole.Words)
	case decision.SoFar:
		return fmt.Sprintf("Emissions pass so far, %s, by %s; smallest margin %s on %s; %s.", coverageWords(leastReach(ruled)), book, roomWords(of(ruled[0].Box)), ruled[0].Name, whole.Words)
	case decision.NoLimit:
		return fmt.Sprintf("%s sets no figure for what was examined; %s.", book, whole.Words)
	case decision.NotGoverned:
		return fmt.Sprintf("%s does not govern what was examined; %s.", book, whole.Words)
	case decision.Void:
		return fmt.Sprintf("Emissions cannot be ruled on: %s; %s.", ruled[0].Why, whole.Words)
	case decision.NotCovered:
		return fmt.Sprintf("Nothing examined can be ruled on; %s.", whole.Words)
	}
	return "Emissions were not examined."
}

// titles are those of the books the boxes were judged by.
func titles(boxes []measure.Named) string {
	var out []string
	for _, b := range boxes {
		if t := of(b.Box).BookTitle; !slices.Contains(out, t) {
			out = append(out, t)
		}
	}
	return strings.Join(out, " and ")
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
func leastReach(passing []measure.Named) judge.Coverage {
	var least *judge.Coverage
	for i := range passing {
		c := &of(passing[i].Box).Ruling.Coverage
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
		out += fmt.Sprintf(" (%s harmonic)", judge.Ordinal(*c.HighestHarmonic))
	}
	if c.FromHz != nil && *c.FromHz > 0 {
		out += ", from " + units.Hertz(*c.FromHz).String()
	}
	return out
}

// asked is what a full examination covers, and what asks for that.
func asked(c judge.Coverage) string {
	if c.SearchFromHz == nil || c.SearchToHz == nil {
		return "a full examination"
	}
	return fmt.Sprintf("a full examination, %s to %s", units.Hertz(*c.SearchFromHz), units.Hertz(*c.SearchToHz))
}

// Obstacles implements measure.Tells.
func (d *Room) Obstacles(boxes []measure.Named) []measure.Obstacle {
	var out []measure.Obstacle
	obstacle := func(code say.Code, each string, b measure.Named, format string, args ...any) {
		out = append(out, measure.Obstacle{Said: say.That(code, format, args...), Stage: Name, Of: b.Name, Each: each})
	}
	for _, b := range boxes {
		for _, note := range b.Notes {
			obstacle("evidence", note.Detail, b, "%s: %s", b.Name, note.Detail)
		}
		switch r := of(b.Box).Ruling; {
		case b.Verdict == decision.Void:
			obstacle("void", b.Why, b, "%s: %s", b.Name, b.Why)
		case r == nil:
			obstacle("no-sweep", "no sweep: emissions are not examined", b, "%s has no sweep: its emissions are not examined", b.Name)
		case !r.Coverage.Complete:
			obstacle("coverage", "examined less than "+asked(r.Coverage)+", asks", b, "%s was examined less than %s, asks", b.Name, asked(r.Coverage))
		}
	}
	return out
}

// NotTested implements measure.Tells.
func (d *Room) NotTested(b measure.Named) []string {
	r := of(b.Box).Ruling
	switch {
	case r == nil:
		return []string{b.Name + ": emissions were not examined"}
	case r.Coverage.FromHz == nil:
		return []string{b.Name + ": no sweep in force covers anything"}
	case !r.Coverage.Complete:
		return []string{fmt.Sprintf("%s: examined %s to %s, not all that %s, asks", b.Name, units.Hertz(*r.Coverage.FromHz), units.Hertz(*r.Coverage.ToHz), asked(r.Coverage))}
	}
	return nil
}

// Ways implements measure.Tells: of every sweep beside the boxes.
func (d *Room) Ways(boxes []measure.Named) []*record.Through {
	var out []*record.Through
	for _, b := range boxes {
		for _, s := range of(b.Box).Sweeps {
			out = append(out, s.Through)
		}
	}
	return out
}

// Kept implements measure.Tells.
func (d *Room) Kept(b measure.Box) []measure.Field {
	return []measure.Field{{Name: "verdict", Value: b.Verdict}, {Name: "why", Value: b.Why}, {Name: "emissions", Value: of(b)}, {Name: "notes", Value: b.Notes}}
}

// WithoutAdvice implements measure.Tells.
func (d *Room) WithoutAdvice(b measure.Box) measure.Box {
	r := of(b)
	if r.Ruling != nil {
		plain := *r.Ruling
		plain.Findings = slices.Clone(plain.Findings)
		for i := range plain.Findings {
			plain.Findings[i].Advice = ""
		}
		r.Ruling = &plain
	}
	b.Of = measure.Answers(r)
	return b
}
