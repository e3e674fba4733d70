package wiring

import (
	"fmt"
	"slices"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/units"
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

// meterAt is where on the path power is read: at the first meter, else at the analyzer at
// its end; -1 where nothing reads any.
func meterAt(t *record.Through) int {
	i := slices.IndexFunc(t.Kit, func(k record.KitCopy) bool { return k.Spec.Meter != nil })
	if last := len(t.Kit) - 1; i < 0 && last >= 0 && t.Kit[last].Spec.KindOf() == kit.Analyzer {
		return last
	}
	return i
}

// MeterOf splits what a reading was taken through into the path before the
// meter and the meter. An analyzer behind pads is one, by its own accuracy.
func MeterOf(t *record.Through) (*path.Path, reading.Meter, error) {
	at := meterAt(t)
	if at < 0 {
		return nil, reading.Meter{}, problem.New("path_id", "there is no power meter on the path %q", t.Name)
	}
	elements := make([]path.Element, at)
	for i := range elements {
		var err error
		if elements[i], _, err = on(&t.Kit[i]); err != nil {
			return nil, reading.Meter{}, err
		}
	}
	meter, err := t.Kit[at].Spec.MeterAt(t.Kit[at].Name, t.Kit[at].Setting)
	if err != nil {
		return nil, reading.Meter{}, err
	}
	m := *meter
	narrowTo(&m, &t.Kit[at].Spec.Element)
	p, err := path.Compile(elements)
	return p, m, err
}

// narrowTo leaves of the frequencies a meter reads those it is made for: outside of either
// nothing it shows counts.
func narrowTo(m *reading.Meter, made *path.Element) {
	if made.FromHz != nil && (m.FromHz == nil || *m.FromHz < *made.FromHz) {
		m.FromHz = made.FromHz
	}
	if made.ToHz != nil && (m.ToHz == nil || *m.ToHz > *made.ToHz) {
		m.ToHz = made.ToHz
	}
}

// InUse tells whether the path ends in an antenna: what is keyed into it is on the air.
func InUse(t *record.Through) bool {
	n := len(t.Kit)
	return n > 0 && t.Kit[n-1].Spec.KindOf().InUse()
}

// Scales are those of the meter on the path, in W; none where it has one only.
func Scales(t *record.Through) []float64 {
	if at := meterAt(t); at >= 0 && len(t.Kit[at].Spec.ScalesW) > 0 {
		return t.Kit[at].Spec.ScalesW
	}
	return []float64{}
}

// OnScale is the path with its meter on another of its scales, in W.
func OnScale(t *record.Through, w float64) (*record.Through, error) {
	at := meterAt(t)
	if at < 0 {
		return nil, fmt.Errorf("there is no power meter on the path %q", t.Name)
	}
	setting, err := t.Kit[at].Spec.ScaleOf(w)
	if err != nil {
		return nil, err
	}
	out := *t
	out.Kit = slices.Clone(t.Kit)
	out.Kit[at].Setting = setting
	return &out, nil
}

// MeterID is the meter on the path; empty where there is none.
func MeterID(t *record.Through) string {
	if at := meterAt(t); at >= 0 {
		return t.Kit[at].ID + t.Kit[at].Name
	}
	return ""
}

// MeterAndBefore is the meter of a reading as it is called, and the path between the
// connector and it; nil where it cannot be worked out any more.
func MeterAndBefore(t *record.Through) (meter string, before *path.Path) {
	if at := meterAt(t); at >= 0 {
		meter = kit.Title(t.Kit[at].Name, t.Kit[at].Setting)
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

// Serves tells whether something of a purpose can be taken through the path: power also off
// an analyzer, or off a meter on the way to one.
func Serves(t *record.Through, purpose string) bool {
	return Purpose(t) == purpose || purpose == ForPower && meterAt(t) >= 0
}

// HasMeter tells whether something on the path other than the analyzer at its end reads
// power.
func HasMeter(t *record.Through) bool {
	at := meterAt(t)
	return at >= 0 && t.Kit[at].Spec.Meter != nil
}

// MeterWhyNot says why what is read at f does not count: the meter is not made for it;
// empty where it is.
func MeterWhyNot(t *record.Through, f units.Hertz) string {
	_, meter, err := MeterOf(t)
	switch {
	case err != nil:
		return err.Error()
	case meter.FromHz != nil && float64(f) < *meter.FromHz, meter.ToHz != nil && float64(f) > *meter.ToHz:
		return say.MeterOutOfRange(f).Detail
	}
	return ""
}

// AllServed lists the purposes that the path serves.
func AllServed(t *record.Through) []string {
	out := []string{}
	for _, purpose := range []string{ForPower, ForEmissions, ForReceive} {
		if Serves(t, purpose) {
			out = append(out, purpose)
		}
	}
	return out
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
