package judge

import (
	"math"

	"talloak/core/rulebook"
	"talloak/core/uncertainty"
	"talloak/core/units"
)

// LevelPart is one part of the uncertainty of an emission's level, as a
// standard uncertainty in dB.
type LevelPart struct {
	Source       string  `json:"source"`
	DB           float64 `json:"db"`
	Distribution string  `json:"distribution"`
}

// LevelBudget is the uncertainty of levels seen through one path.
type LevelBudget struct {
	Parts    []LevelPart `json:"parts"`
	Absolute float64     `json:"expanded_uncertainty_db"`     // k = 2
	Relative float64     `json:"expanded_uncertainty_dbc_db"` // k = 2, against the power meter
}

// Accuracy is how well an analyzer shows levels: a standard uncertainty, and the
// distribution it is from.
type Accuracy struct {
	U            units.DB
	Distribution string
}

// Budget combines what an absolute level rests on: the analyzer's amplitude
// accuracy and the standard uncertainty of the path's loss. A figure in dBc
// against a power meter rests on both and on the meter, whose expanded
// uncertainty in dB is given (JCGM 100).
func Budget(analyzer Accuracy, lossU units.DB, meterExpandedDB float64) LevelBudget {
	u := math.Hypot(float64(analyzer.U), float64(lossU))
	meter := meterExpandedDB / uncertainty.CoverageFactor
	return LevelBudget{
		Parts: []LevelPart{
			{"analyzer, amplitude", float64(analyzer.U), analyzer.Distribution},
			{"loss of the path", float64(lossU), "combined"},
			{"power meter (dBc only)", meter, "combined"},
		},
		Absolute: uncertainty.CoverageFactor * u,
		Relative: uncertainty.CoverageFactor * math.Hypot(u, meter),
	}
}

// Uncertainty is the budget in the form a ruling takes it.
func (b LevelBudget) Uncertainty() rulebook.Uncertainty {
	return rulebook.Uncertainty{Absolute: units.DB(b.Absolute), Relative: units.DB(b.Relative)}
}
