package publish

import (
	"reflect"
	"strings"

	"talloak/core/judge"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
)

// levelBudget is the uncertainty of levels in sweeps and looks that share it.
type levelBudget struct {
	Of string
	judge.LevelBudget
}

// levelBudgets are those of the sights a ruling rests on, each once.
func levelBudgets(e emissions.Ruling) []levelBudget {
	var out []levelBudget
	var names [][]string
	for _, s := range e.Sweeps {
		if s.Budget == nil || s.Doubtful {
			continue
		}
		known := false
		for i := range out {
			if reflect.DeepEqual(out[i].LevelBudget, *s.Budget) {
				names[i], known = append(names[i], s.Name), true
			}
		}
		if !known {
			out, names = append(out, levelBudget{LevelBudget: *s.Budget}), append(names, []string{s.Name})
		}
	}
	for i := range out {
		out[i].Of = strings.Join(names[i], ", ")
	}
	return out
}

// joined is the figure that several readings of a box make together.
type joined struct {
	Name    string
	Reading *power.Reading
	Budgets []figureBudget
}

// together are the boxes whose figure is of more than one reading.
func together(d Document) []joined {
	var out []joined
	for _, b := range d.Board.Levels() {
		r := b.Power.Reading
		if r == nil || r.Joined < 2 {
			continue
		}
		j := joined{Name: b.Name, Reading: r}
		read := r.Result
		if b.Cell.PEP {
			read = r.Peak
		}
		if read != nil && len(read.Budget) > 0 {
			j.Budgets = []figureBudget{{"", read.Budget, 100 * read.Budget.Expanded()}}
		}
		out = append(out, j)
	}
	return out
}
