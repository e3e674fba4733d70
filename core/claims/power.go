package claims

import (
	"fmt"

	"talloak/core/rulebook"
)

// Power is one claimed power: of a band, a level, a mode, which is empty where it is not said. PEP says that the
// peak envelope power is claimed; otherwise it is carrier or mean power. W is 0
// where the level is there but nothing is claimed for it. Band is empty where the power
// is claimed of every band. Adjustable is one end of a range that is set by a knob.
type Power struct {
	Band       string        `json:"band"`
	Level      string        `json:"level"`
	Mode       rulebook.Mode `json:"mode"`
	W          float64       `json:"w"`
	PEP        bool          `json:"pep"`
	Adjustable bool          `json:"adjustable,omitempty"`
}

// levelNames are the levels of a radio that has so many of them.
var levelNames = map[int][]string{
	1: {"High"},
	2: {"High", "Low"},
	3: {"High", "Mid", "Low"},
	4: {"High", "Mid", "Low", "Lowest"},
}

// mostLevels is how many levels a line may name without names of their own.
const mostLevels = 9

// LevelName is what level i of n is called, the highest first, where nobody named it: from
// five on by the number it would have on a knob, P1 the lowest.
func LevelName(i, n int) string {
	if names := levelNames[n]; i < len(names) {
		return names[i]
	}
	return fmt.Sprintf("P%d", n-i)
}

// The ends of a power that is set by a knob.
const (
	fullName  = "Full"
	leastName = "Least"
)

// ownNames are what levels are called in other ways, each with its usual name.
var ownNames = map[string]string{"h": "High", "hi": "High", "high": "High", "m": "Mid", "med": "Mid", "medium": "Mid", "mid": "Mid", "l": "Low", "lo": "Low", "low": "Low", "xl": "XL", "t": "Turbo", "turbo": "Turbo", "e": "Eco", "eco": "Eco", "lowest": "Lowest", "super": "Super"}
