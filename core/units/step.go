package units

import (
	"math"
	"strings"
)

// StepDB is the resolution of what was typed, in dB: the coarsest last digit of its
// readings. A text of no readings, or of 0 W, has none: 0.
func StepDB(text string) float64 {
	entry, err := ParseEntry(text)
	if err != nil {
		return 0
	}
	words, coarsest := strings.Fields(text), 0.0
	for i, r := range entry.Readings {
		if i >= len(words) {
			break
		}
		number := leadingNumber.FindString(words[i])
		_, decimals, _ := strings.Cut(strings.ReplaceAll(number, ",", "."), ".")
		step := math.Pow(10, -float64(len(decimals)))
		if r.Unit != nil && r.Unit.Logarithmic() {
			coarsest = max(coarsest, step)
		} else if r.Value > 0 {
			coarsest = max(coarsest, 10/math.Ln10*step/r.Value)
		}
	}
	return coarsest
}
