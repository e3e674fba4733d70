package wiring

import (
	"fmt"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/record"
)

// on is an item as it lies on the path it was copied from. Errors are on fields
// below the part.
func on(k *record.KitCopy) (path.Element, *reading.Meter, error) {
	e, meter, err := k.Spec.On(k.Setting)
	e.Name, e.Measured = kit.Title(k.Name, k.Setting), k.Measured
	return e, meter, err
}

// Elements is the whole path as it was. Errors are on "parts[i]...".
func Elements(t *record.Through) ([]path.Element, error) {
	var bad problem.List
	out := make([]path.Element, len(t.Kit))
	for i := range t.Kit {
		e, _, err := on(&t.Kit[i])
		bad.AddErr(fmt.Sprintf("parts[%d]", i), err)
		out[i] = e
	}
	return out, bad.Err()
}

// Compile is the whole path as it was, ready to be asked. Errors are on
// "parts[i]..." or "elements[i]...".
func Compile(t *record.Through) (*path.Path, error) {
	elements, err := Elements(t)
	if err != nil {
		return nil, err
	}
	return path.Compile(elements)
}

// MeterOf splits what a reading was taken through into the path before the
// meter and the meter.
func MeterOf(t *record.Through) (*path.Path, reading.Meter, error) {
	var elements []path.Element
	for i := range t.Kit {
		e, meter, err := on(&t.Kit[i])
		if err != nil {
			return nil, reading.Meter{}, err
		}
		if meter != nil {
			p, err := path.Compile(elements)
			return p, *meter, err
		}
		elements = append(elements, e)
	}
	return nil, reading.Meter{}, problem.New("path_id", "there is no power meter on the path %q", t.Name)
}

// MeterID is the meter on the path; empty where there is none.
func MeterID(t *record.Through) string {
	for _, k := range t.Kit {
		if k.Spec.Meter != nil {
			return k.ID + k.Name
		}
	}
	return ""
}

// MeterAndBefore is the meter of a reading as it is called, and the path between the
// connector and it; nil where it cannot be worked out any more.
func MeterAndBefore(t *record.Through) (meter string, before *path.Path) {
	for _, k := range t.Kit {
		if k.Spec.Meter != nil {
			meter = kit.Title(k.Name, k.Setting)
		}
	}
	before, _, err := MeterOf(t)
	if err != nil {
		return meter, nil
	}
	return meter, before
}

// What a path is for: the purposes of a kind of measurement.
const (
	ForPower     = "power"
	ForEmissions = "emissions"
	ForReceive   = "receive"
)

// PurposeOf is what a path that ends in an item of the given kind is for: emissions in
// an analyzer, a receiver in a signal generator, else power.
func PurposeOf(end kit.Kind) string {
	switch end {
	case kit.Analyzer:
		return ForEmissions
	case kit.SignalGenerator:
		return ForReceive
	}
	return ForPower
}

// Purpose is what the path is for that a copy was made of.
func Purpose(t *record.Through) string {
	if n := len(t.Kit); n > 0 {
		return PurposeOf(t.Kit[n-1].Spec.KindOf())
	}
	return ForPower
}

// WhyNotFor says why nothing of a purpose can have come through a path of another.
func WhyNotFor(purpose, name string) string {
	switch purpose {
	case ForEmissions:
		return fmt.Sprintf("the path %q does not end in an analyzer, so no sweep can have come through it", name)
	case ForReceive:
		return fmt.Sprintf("the path %q does not end in a signal generator, so it brings a receiver no signal", name)
	}
	return fmt.Sprintf("there is no power meter on the path %q", name)
}
