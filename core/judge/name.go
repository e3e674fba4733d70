package judge

import (
	"fmt"

	"talloak/core/units"
)

// Name is how a product is spoken of: "3rd harmonic", "spur at 1.2 GHz".
func (p Product) Name() string {
	switch p.Kind {
	case Harmonic:
		return Ordinal(*p.Order) + " harmonic"
	case Subharmonic:
		return "half the carrier"
	}
	return "spur at " + units.Hertz(*p.FrequencyHz).String()
}

// Ordinal is 1st, 2nd, 3rd, 4th, 11th.
func Ordinal(n int) string {
	suffix := "th"
	if n%100 < 11 || n%100 > 13 {
		switch n % 10 {
		case 1:
			suffix = "st"
		case 2:
			suffix = "nd"
		case 3:
			suffix = "rd"
		}
	}
	return fmt.Sprintf("%d%s", n, suffix)
}
