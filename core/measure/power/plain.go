package power

import (
	"fmt"

	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/units"
)

// Plain implements measure.PlainTeller.
func (d *Room) Plain(boxes []measure.Named, whole decision.Whole) string {
	var places []string
	switch whole.Verdict {
	case decision.Pass:
		return "It gives the power it claims."
	case decision.SoFar:
		return "It gives the power it claims, where it was measured."
	case decision.Fail:
		for _, b := range with(boxes, decision.Fail) {
			places = append(places, fmt.Sprintf("%s of %s %s", units.Watts(*of(b.Box).Reading.MeasuredW), units.Watts(b.Cell.Claimed), b.Where()))
		}
		return "It gives less power than it claims: " + measure.FirstFew(places, 2) + "."
	case decision.Inconclusive:
		for _, b := range with(boxes, decision.Inconclusive) {
			places = append(places, b.Where())
		}
		return "Whether it gives the power it claims is too close to call " + measure.FirstFew(places, 2) + "."
	case decision.NoClaim:
		return "No power is claimed of it that the figures could be held against."
	}
	return "Its power was not held against a claim."
}
