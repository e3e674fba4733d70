package rulebook

import (
	"math"
	"slices"

	"talloak/core/units"
)

// What a full examination covers where neither the book nor the equipment says: from
// lowestGenerated for carriers above it and from lowestOfAll for others (house choice), to
// the tenth harmonic, as 47 CFR 2.1057 asks of type-approved equipment (from memory).
const (
	lowestGenerated = 30e6
	lowestOfAll     = 9e3
	highestMultiple = 10
	houseChoice     = "house choice: to the 10th harmonic, as 47 CFR 2.1057 asks of type-approved equipment"
)

// SearchRange is what a full examination of the carrier covers. Clocks are those the
// equipment is known to have: where the book has no lower end of its own, it is the lowest
// frequency that is generated in the equipment, as far as that is told.
func (b *Book) SearchRange(c Carrier, clocks []units.Hertz) (Stretch, string) {
	c.State = Operating
	f := float64(c.Frequency)
	for _, s := range b.Search {
		if !s.When.fits(c) {
			continue
		}
		out := Stretch{0, math.Inf(1)}
		if s.FromHz != nil {
			out.FromHz = *s.FromHz
		}
		if s.FromMultiple != nil {
			out.FromHz = max(out.FromHz, *s.FromMultiple*f)
		}
		if s.FromLowestGenerated {
			out.FromHz = max(out.FromHz, lowest(f, clocks))
		}
		if s.ToHz != nil {
			out.ToHz = *s.ToHz
		}
		if s.ToMultiple != nil {
			out.ToHz = min(out.ToHz, *s.ToMultiple*f)
		}
		return out, s.Citation
	}
	return Stretch{lowest(f, clocks), highestMultiple * f}, houseChoice
}

// lowest is the lowest frequency that equipment on a carrier generates, in Hz.
func lowest(carrier float64, clocks []units.Hertz) float64 {
	switch {
	case len(clocks) > 0:
		return max(lowestOfAll, float64(slices.Min(clocks)))
	case carrier > lowestGenerated:
		return lowestGenerated
	}
	return lowestOfAll
}

// PowerLimitFor is the power limit that applies to a carrier; nil where there is
// none, or the book does not govern the carrier.
func (b *Book) PowerLimitFor(c Carrier) *PowerLimit {
	if !b.Governs(c.Frequency) {
		return nil
	}
	c.State = Operating
	for i := range b.PowerLimits {
		if b.PowerLimits[i].When.fits(c) {
			return &b.PowerLimits[i]
		}
	}
	return nil
}
