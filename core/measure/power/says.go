package power

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/units"
)

func of(b measure.Box) Ruling { return measure.Own[Ruling](b.Of) }

// with are the boxes of a verdict, those furthest below their claim first.
func with(boxes []measure.Named, v decision.Verdict) []measure.Named {
	delta := func(b measure.Named) float64 {
		if r := of(b.Box).Reading; r != nil && r.AgainstClaim != nil && r.AgainstClaim.DeltaDB != nil {
			return *r.AgainstClaim.DeltaDB
		}
		return 0
	}
	var out []measure.Named
	for _, b := range boxes {
		if b.Verdict == v {
			out = append(out, b)
		}
	}
	slices.SortStableFunc(out, func(a, b measure.Named) int { return cmp.Compare(delta(a), delta(b)) })
	return out
}

// Sentence implements measure.Tells: every box that is short is named, the worst first.
func (d *Room) Sentence(boxes []measure.Named, whole decision.Whole) string {
	var said []string
	over := 0
	for _, b := range boxes {
		if r := of(b.Box).Reading; r != nil && r.AgainstClaim != nil && r.AgainstClaim.Grade == claims.Over {
			over++
		}
	}
	out := ""
	switch whole.Verdict {
	case decision.Fail:
		for _, b := range with(boxes, decision.Fail) {
			said = append(said, fmt.Sprintf("%s %s of %s", b.Name, units.Watts(*of(b.Box).Reading.MeasuredW), units.Watts(b.Cell.Claimed)))
		}
		out = "Power is short of the claim: " + strings.Join(said, "; ") + "; "
	case decision.Inconclusive:
		for _, b := range with(boxes, decision.Inconclusive) {
			said = append(said, b.Name)
		}
		out = "Power is too close to call on " + strings.Join(said, ", ") + "; "
	case decision.Pass:
		return strings.TrimSpace(fmt.Sprintf("Power makes its claim in every band and level: %s. %s", whole.Words, overWords(over)))
	case decision.SoFar:
		out = "Power makes its claim so far: "
	default:
		return "No power was held against a claim."
	}
	return strings.TrimSpace(fmt.Sprintf("%s%s. %s", out, whole.Words, overWords(over)))
}

func overWords(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprintf("In %d it is over 120 %% of the claim.", n)
}

// Obstacles implements measure.Tells.
func (d *Room) Obstacles(boxes []measure.Named) []measure.Obstacle {
	var out []measure.Obstacle
	for _, b := range boxes {
		if of(b.Box).Reading == nil {
			out = append(out, measure.Obstacle{Said: say.That("no-power", "%s has no reading that counts: %s", b.Name, b.Why), Stage: Name, Of: b.Name, Each: "no reading that counts: " + b.Why})
		}
	}
	return out
}

// NotTested implements measure.Tells.
func (d *Room) NotTested(b measure.Named) []string {
	if b.Verdict == decision.NotExamined {
		return []string{b.Name + ": power was not read"}
	}
	return nil
}

// Ways implements measure.Tells: of every reading, those that do not count too.
func (d *Room) Ways([]measure.Named) []*record.Through {
	out := make([]*record.Through, len(d.readings))
	for i := range d.readings {
		out[i] = d.readings[i].Through
	}
	return out
}

// Kept implements measure.Tells.
func (d *Room) Kept(b measure.Box) []measure.Field {
	r := of(b)
	return []measure.Field{
		{Name: "power", Value: r.Verdict}, {Name: "power_why", Value: r.Why}, {Name: "reading", Value: r.Reading},
		{Name: "readings", Value: r.Of}, {Name: "frequencies_hz", Value: r.Frequencies},
	}
}

// WithoutAdvice implements measure.Tells.
func (d *Room) WithoutAdvice(b measure.Box) measure.Box {
	r := of(b)
	if r.Reading != nil {
		plain := r.Reading.WithoutAdvice()
		r.Reading = &plain
	}
	b.Of = measure.Answers(r)
	return b
}

// WithoutAdvice is the reading as somebody reads it who can do nothing about it.
func (r Reading) WithoutAdvice() Reading {
	r.Doubts = slices.Clone(r.Doubts)
	for i := range r.Doubts {
		r.Doubts[i].Advice = ""
	}
	return r
}
