package rulebook

import "math"

// SearchRange is what a full examination of the carrier should cover; false
// where the book does not say.
func (b *Book) SearchRange(c Carrier) (Stretch, string, bool) {
	for _, s := range b.Search {
		c.State = Operating
		if !s.When.fits(c) {
			continue
		}
		f := float64(c.Frequency)
		out := Stretch{0, math.Inf(1)}
		if s.FromHz != nil {
			out.FromHz = *s.FromHz
		}
		if s.FromMultiple != nil {
			out.FromHz = max(out.FromHz, *s.FromMultiple*f)
		}
		if s.ToHz != nil {
			out.ToHz = *s.ToHz
		}
		if s.ToMultiple != nil {
			out.ToHz = min(out.ToHz, *s.ToMultiple*f)
		}
		return out, s.Citation, true
	}
	return Stretch{}, "", false
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
