package app

import (
	"context"
	"math"
	"slices"
	"strconv"

	"talloak/core/kit"
	"talloak/core/problem"
	"talloak/instruments"
)

// SetView is what an item was set to, or what could hurt and waits for a word.
type SetView struct {
	Hurts   []string              `json:"hurts" doc:"to be confirmed before anything is sent"`
	Dialled []instruments.Dialled `json:"dialled"`
}

// handSet are what can be set by hand, by the kind of the item, in the order in which it is sent: an
// output goes on last.
var handSet = map[kit.Kind][]string{kit.Supply: {"volts", "amps", "output"}, kit.SignalGenerator: {"frequency_hz", "level_dbm", "output"}}

// SetInstrument sets a supply or a generator by its socket. It refuses what lies outside what the item
// is written down to give. What could hurt is sent only once it was confirmed: until then nothing is.
func (a *App) SetInstrument(ctx context.Context, kitID string, want map[string]string, confirmed, aware bool) (*SetView, error) {
	item, err := a.Store.KitItem(ctx, kitID)
	if err != nil {
		return nil, err
	}
	known := handSet[item.Spec.KindOf()]
	var bad problem.List
	for name, value := range want {
		v, err := strconv.ParseFloat(value, 64)
		switch {
		case !slices.Contains(known, name):
			bad.Add("settings."+name, "this is not set on a %s", item.Spec.KindOf())
		case name == "output" && value != "on" && value != "off":
			bad.Add("settings.output", "give on or off")
		case name != "output" && (err != nil || math.IsNaN(v) || math.IsInf(v, 0)):
			bad.Add("settings."+name, "give a number")
		case name == "volts" && item.Spec.Supply != nil && (v < item.Spec.Supply.FromV || v > item.Spec.Supply.ToV):
			bad.Add("settings.volts", "it is written down to give %g to %g V", item.Spec.Supply.FromV, item.Spec.Supply.ToV)
		case name == "amps" && item.Spec.Supply != nil && item.Spec.Supply.LimitA != nil && v > *item.Spec.Supply.LimitA:
			bad.Add("settings.amps", "it is written down to give at most %g A", *item.Spec.Supply.LimitA)
		case name == "level_dbm" && item.Spec.Levels != nil && (v < item.Spec.Levels.FromDBm || v > item.Spec.Levels.ToDBm):
			bad.Add("settings.level_dbm", "it is written down to give %g to %g dBm", item.Spec.Levels.FromDBm, item.Spec.Levels.ToDBm)
		}
	}
	if err := bad.Err(); err != nil {
		return nil, err
	}
	l, done, err := a.converse(ctx, kitID, aware, nil)
	if err != nil {
		return nil, named(item.Name, err)
	}
	defer done()
	out := &SetView{Hurts: []string{}, Dialled: []instruments.Dialled{}}
	for _, name := range known {
		if value, asked := want[name]; asked {
			told, err := l.ToldOf(name)
			if err != nil {
				return nil, named(item.Name, err)
			}
			out.Hurts = append(out.Hurts, instruments.Hurts(name, told, value)...)
		}
	}
	if len(out.Hurts) > 0 && !confirmed {
		return out, nil
	}
	out.Hurts = []string{}
	order := slices.Clone(known)
	if want["output"] == "off" { // off first
		slices.Reverse(order)
	}
	for _, name := range order {
		value, asked := want[name]
		if !asked {
			continue
		}
		d, err := l.Set(name, value)
		if err != nil {
			return nil, named(item.Name, err)
		}
		out.Dialled = append(out.Dialled, d)
	}
	return out, nil
}
