package instruments

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"talloak/core/units"
)

// TriedLine is a thing of a driver that was tried, and what came of it.
type TriedLine struct {
	What string
	Says string
	Fine bool
}

// inUnits are the units of what is set and read, by the name's last word.
var inUnits = map[string]string{"db": "dB", "dbm": "dBm", "volts": "V", "amps": "A", "power": "W"}

// withUnit writes a figure of that name with its unit.
func withUnit(name, value string) string {
	_, last, _ := strings.Cut(name, "_")
	if v, err := strconv.ParseFloat(value, 64); err == nil && (last == "hz" || name == "frequency") {
		return units.Hertz(v).String()
	}
	return strings.TrimSpace(value + " " + cmp.Or(inUnits[last], inUnits[name]))
}

// Try tries everything of the driver that changes nothing: each setting is asked for and set to what
// it is, outputs aside, each figure is read, one sweep taken. Where an answer fails to come it ends.
func (l *Line) Try() []TriedLine {
	out := []TriedLine{}
	add := func(what, says string, err error) {
		if err != nil {
			says = err.Error()
		}
		out = append(out, TriedLine{what, says, err == nil})
	}
	for _, name := range slices.Sorted(maps.Keys(l.Driver.Settings)) {
		if l.lost {
			return out
		}
		s, what := l.Driver.Settings[name], strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(strings.ReplaceAll(name, "_", " "), " hz"), " dbm"), " db")
		if s.Ask == "" {
			continue
		}
		told, err := l.told(name)
		if err == nil && s.Tell != "" && name != "output" {
			if err = l.Tell(name, told); err == nil {
				err = l.checkErrors()
			}
			if err == nil {
				var again string
				if again, err = l.told(name); err == nil && again != told {
					err = trouble("set to %s, it says %s", told, again)
				}
			}
		}
		add(what, withUnit(name, told), err)
	}
	for _, name := range slices.Sorted(maps.Keys(l.Driver.Figures)) {
		if l.lost {
			return out
		}
		v, err := l.Read(name)
		add(name, withUnit(name, written(v)), err)
	}
	if l.Driver.Sweep != nil && !l.lost {
		state, err := l.State()
		if err == nil {
			err = l.Begin()
		}
		points := 0
		if err == nil {
			var got *Taken
			if got, err = l.Sweep(state); err == nil {
				points = len(got.Trace.Levels)
			}
		}
		add("a sweep", fmt.Sprintf("%d points, whole", points), err)
	}
	return out
}
