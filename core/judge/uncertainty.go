package judge

import (
	"fmt"
	"math"
	"strings"

	"talloak/core/path"
	"talloak/core/rf"
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

	given rulebook.Uncertainty // without the mismatch, which Judge adds by itself
}

// Accuracy is how well an analyzer shows levels: a standard uncertainty, the
// distribution it is from, and whether it is only that of its kind.
type Accuracy struct {
	U            units.DB
	Distribution string
	Typical      bool
}

// LevelBasis is what the level of an emission rests on: the analyzer's amplitude
// accuracy, the path, whose loss is looked at up to the given multiple of the
// carrier, the radio's own SWR at its products, and the expanded uncertainty of the
// power meter in dB, against which dBc are.
type LevelBasis struct {
	Analyzer   Accuracy
	Path       *path.Path
	Carrier    units.Hertz
	Multiples  int
	SourceSWR  float64 // 0 leaves mismatch out
	SWRTypical bool
	MeterDB    float64
}

// Budget combines what a level rests on (JCGM 100). A figure in dBc against a power
// meter rests on the meter too.
func Budget(b LevelBasis) LevelBudget {
	loss := b.Path.WorstLossUncertainty(b.Carrier, b.Multiples)
	meter := b.MeterDB / uncertainty.CoverageFactor
	u := math.Hypot(float64(b.Analyzer.U), float64(loss))
	analyzer, lossName := "analyzer, amplitude", "loss of the path"
	if b.Analyzer.Typical {
		analyzer += ", typical of its kind"
	}
	if typical := b.Path.TypicalTolerances(b.Carrier); len(typical) > 0 {
		lossName += ", tolerance typical of its kind for " + strings.Join(typical, ", ")
	}
	out := LevelBudget{Parts: []LevelPart{
		{analyzer, float64(b.Analyzer.U), b.Analyzer.Distribution},
		{lossName, float64(loss), "combined"},
	}}
	flatness := 0.0
	if _, within, ok := b.Path.RelativeOnly(); ok { // the guard adds it by itself
		flatness = float64(within) / math.Sqrt(3)
		out.Parts = append(out.Parts, LevelPart{"flatness of a coupling nobody measured (dBc only)", flatness, "rectangular"})
	}
	out.given = rulebook.Uncertainty{Absolute: units.DB(uncertainty.CoverageFactor * u), Relative: units.DB(uncertainty.CoverageFactor * math.Hypot(u, meter))}
	mismatch := 0.0
	if first := b.Path.FirstSWR(2 * b.Carrier); first != nil && b.SourceSWR > 0 {
		mismatch = float64(rf.MismatchUncertainty(b.SourceSWR, *first))
		name := fmt.Sprintf("mismatch of the radio at its products, SWR %.3g into %.3g", b.SourceSWR, *first)
		if b.SWRTypical {
			name += ", typical"
		}
		out.Parts = append(out.Parts, LevelPart{name, mismatch, "U-shaped"})
	}
	out.Parts = append(out.Parts, LevelPart{"power meter (dBc only)", meter, "combined"})
	u = math.Hypot(u, mismatch)
	out.Absolute, out.Relative = uncertainty.CoverageFactor*u, uncertainty.CoverageFactor*math.Sqrt(u*u+meter*meter+flatness*flatness)
	return out
}

// Uncertainty is the budget in the form Judge takes it, beside the SWR of the source.
func (b LevelBudget) Uncertainty() rulebook.Uncertainty { return b.given }
