// Package kinds is the list of the kinds of measurement, a line each, in the order of
// the work. The board, an edition, stages, navigation and the API follow from it.
package kinds

import (
	"talloak/core/measure"
	"talloak/core/measure/antenna"
	"talloak/core/measure/battery"
	"talloak/core/measure/deviation"
	"talloak/core/measure/emissions"
	"talloak/core/measure/features"
	"talloak/core/measure/frequency"
	"talloak/core/measure/occupied"
	"talloak/core/measure/power"
	"talloak/core/measure/receiver"
	"talloak/core/measure/sensitivity"
	"talloak/core/measure/supply"
)

// All lists every kind.
func All() []measure.Kind {
	return []measure.Kind{
		power.Kind{},
		emissions.Kind{},
		sensitivity.New(),
		receiver.New(),
		deviation.New(),
		occupied.New(),
		frequency.New(),
		antenna.New(),
		supply.New(),
		battery.New(),
		features.New(),
	}
}
