package rulebook

import (
	"math"
	"slices"
)

// AcrossEdges gives the limits of the clauses that would fit the carrier if its mean power
// lay across a power edge of the book between least and most, in W, each at the edge's own
// power. Empty where one clause holds for all of them.
func (b *Book) AcrossEdges(c Carrier, least, most float64) []*Limits {
	return b.across(c, least, most, func(clause int, at Carrier) *Limits { return b.limits(clause, at) })
}

// AtAnyPower gives the limits of every other clause that fits the carrier at some power, each at
// the power the carrier is taken to have: what counts below the carrier is the same at every one.
func (b *Book) AtAnyPower(c Carrier) []*Limits {
	return b.across(c, 0, math.Inf(1), func(clause int, _ Carrier) *Limits { return b.limits(clause, c) })
}

func (b *Book) across(c Carrier, least, most float64, limits func(clause int, at Carrier) *Limits) []*Limits {
	var out []*Limits
	seen := []int{b.clauseFor(c)}
	for _, edge := range b.powerEdges() {
		if !(least < edge && edge < most) {
			continue
		}
		for _, w := range []float64{edge, math.Nextafter(edge, 0), math.Nextafter(edge, math.Inf(1))} {
			at := c
			at.MeanW, at.PEPW = w, w*c.PEPW/c.MeanW
			if k := b.clauseFor(at); !slices.Contains(seen, k) {
				seen = append(seen, k)
				out = append(out, limits(k, at))
			}
		}
	}
	return out
}

// clauseFor is the number of the clause that fits a carrier, -1 where none does.
func (b *Book) clauseFor(c Carrier) int {
	c = b.serving(c)
	return slices.IndexFunc(b.Clauses, func(clause Clause) bool { return clause.When.fits(c) })
}

// powerEdges are the mean powers at which one clause gives way to another, in W.
func (b *Book) powerEdges() []float64 {
	var out []float64
	for i := range b.Clauses {
		w := &b.Clauses[i].When
		for _, edge := range []*float64{w.MeanOverW, w.MeanFromW, w.MeanToW, w.MeanUnderW} {
			if edge != nil && !slices.Contains(out, *edge) {
				out = append(out, *edge)
			}
		}
	}
	return out
}
