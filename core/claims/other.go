package claims

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"talloak/core/bands"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/span"
	"talloak/core/units"
)

// Other is a claim beside power. Value is in the unit of its kind: A, Hz, ppm, mAh; for
// coverage it is in Spans, and levels of one power are in Levels. Band and Level are empty where it is said of the whole radio.
type Other struct {
	Kind  OtherKind
	Band  string
	Level string
	Value float64
	Spans span.Set

	Levels []string      // that give the same
	Mode   rulebook.Mode // of what is received only
}

// OtherKind is what such a claim is of.
type OtherKind string

// The kinds: current while it transmits in A, deviation in Hz, the frequencies covered, the
// frequency error in ppm, the battery's charge in mAh, levels that give the same by design,
// and a band that is received and not transmitted on.
const (
	Current        OtherKind = "current"
	Deviation      OtherKind = "deviation"
	Coverage       OtherKind = "coverage"
	FrequencyError OtherKind = "frequency error"
	Battery        OtherKind = "battery"
	SamePower      OtherKind = "same power"
	ReceiveOnly    OtherKind = "receive only"
)

// otherWords are the words a line of each kind is known by.
var otherWords = map[string]OtherKind{
	"current": Current, "draws": Current, "draw": Current, "deviation": Deviation, "dev": Deviation, "coverage": Coverage, "covers": Coverage, "range": Coverage,
	"error": FrequencyError, "stability": FrequencyError, "battery": Battery, "same": SamePower,
	"receives": ReceiveOnly, "receive": ReceiveOnly, "rx": ReceiveOnly,
}

// otherUnits are the units of each kind, lower case, with what one is worth in its own;
// the first is what would do.
var otherUnits = map[OtherKind][]struct {
	unit  string
	worth float64
}{
	Current: {{"ma", 1e-3}, {"a", 1}}, Deviation: {{"khz", 1e3}, {"hz", 1}}, FrequencyError: {{"ppm", 1}}, Battery: {{"mah", 1}, {"ah", 1e3}},
}

var otherExamples = map[OtherKind]string{
	Current: "current 1.4A", Deviation: "deviation 5kHz", Coverage: "coverage 136-174", FrequencyError: "frequency error 2.5ppm", Battery: "battery 1500mAh", SamePower: "2m same mid low", ReceiveOnly: "118-137 AM receive",
}

// ParseOther reads a claim beside power: `current 1.4A`, `2m high current 1.4A`, `deviation
// 5kHz`, `coverage 136-174 400-480`, `frequency error 2.5ppm`, `battery 1500mAh`, `2m same mid low`,
// `118-137 AM receive`. Is tells
// whether the line is one at all. The error is as that of ParseLine.
func ParseOther(text string, r bands.Region) (o Other, is bool, err error) {
	words := strings.Fields(strings.NewReplacer(",", " ", "±", "").Replace(text))
	if numbers := strings.Fields(text); len(numbers) > 0 && strings.ContainsAny(text, ",") {
		words = numbers // a decimal comma stays in its number
	}
	var rest []string
	for _, w := range words {
		lower := strings.ToLower(strings.Trim(w, ",±"))
		switch {
		case o.Kind == "" && otherWords[lower] != "":
			o.Kind = otherWords[lower]
		case lower == "frequency" || lower == "mhz" || lower == "to" || lower == "tx" || lower == "+-" || lower == "+/-":
		default:
			rest = append(rest, strings.Trim(w, ",±"))
		}
	}
	if o.Kind == "" {
		if len(rest) == 0 || !strings.HasSuffix(strings.ToLower(rest[len(rest)-1]), "ppm") {
			return o, false, nil
		}
		o.Kind = FrequencyError // nothing else is claimed in ppm
	}
	var figures []string
	for _, w := range rest {
		switch b, ok := bands.Find(w, r); {
		case ok && !b.IsPlace() && o.Band == "":
			o.Band = b.Name
		case o.Kind == ReceiveOnly && (strings.EqualFold(w, "only") || modes[strings.ToLower(w)] != ""):
			if m := modes[strings.ToLower(w)]; m != "" {
				o.Mode = m
			}
		case LevelNamed(w) != "" && o.Level == "":
			o.Level = LevelNamed(w)
		default:
			figures = append(figures, w)
		}
	}
	if o.Kind == ReceiveOnly {
		if b, ok := bands.Find(strings.TrimSuffix(strings.ToLower(strings.Join(figures, " ")), "mhz")+" MHz", r); ok && o.Band == "" {
			o.Band, figures = b.Name, nil // a stretch that is no band
		}
		if o.Band == "" || len(figures) > 0 || o.Level != "" {
			return o, true, refuse(strings.Join(figures, " "), "which band is received? Type it as %s", otherExamples[ReceiveOnly])
		}
		if o.Mode == "" {
			o.Mode = rulebook.FM
		}
		return o, true, nil
	}
	if len(figures) == 0 {
		return o, true, refuse("", "give the figure claimed, such as %s", otherExamples[o.Kind])
	}
	switch o.Kind {
	case Coverage:
		return o, true, o.readSpans(figures)
	case SamePower:
		return o, true, o.readLevels(figures)
	}
	o.Value, err = o.figure(strings.Join(figures, ""))
	return o, true, err
}

func (o *Other) figure(text string) (float64, error) {
	lower := strings.ToLower(text)
	for _, u := range otherUnits[o.Kind] {
		number, has := strings.CutSuffix(lower, u.unit)
		if !has {
			continue
		}
		v, err := units.ParseNumber(strings.TrimSpace(number))
		if err != nil || !(v > 0) || math.IsInf(v*u.worth, 0) {
			return 0, refuse(text, "%q is no figure above 0; type it as %s", text, otherExamples[o.Kind])
		}
		return v * u.worth, nil
	}
	return 0, refuse(text, "%q needs its unit; type it as %s", text, otherExamples[o.Kind])
}

// readLevels reads the levels that give the same, the first of which was read already.
func (o *Other) readLevels(more []string) error {
	o.Levels, o.Level = []string{o.Level}, ""
	for _, w := range more {
		level := LevelNamed(w)
		if level == "" || slices.Contains(o.Levels, level) {
			return refuse(w, "%q is no other level; type it as %s", w, otherExamples[SamePower])
		}
		o.Levels = append(o.Levels, level)
	}
	return nil
}

func (o *Other) readSpans(figures []string) error {
	for _, w := range figures {
		lo, hi, two := strings.Cut(strings.TrimSuffix(strings.ToLower(w), "mhz"), "-")
		a, errA := units.ParseNumber(lo)
		b, errB := units.ParseNumber(hi)
		if !two || errA != nil || errB != nil || !(a > 0) || !(b > a) || b > 1e6 {
			return refuse(w, "%q is no stretch of MHz; type it as %s", w, otherExamples[Coverage])
		}
		o.Spans = append(o.Spans, span.Of(units.Hertz(a*1e6), units.Hertz(b*1e6)))
	}
	return nil
}

// Words tells the claim as it was read, with its unit.
func (o Other) Words() string {
	of := ""
	if o.Band != "" {
		of = " on " + o.Band
	}
	if o.Level != "" {
		of += " " + o.Level
	}
	switch o.Kind {
	case Current:
		return fmt.Sprintf("draws %.3g A%s", o.Value, of)
	case Deviation:
		return fmt.Sprintf("deviation %s%s", units.Hertz(o.Value), of)
	case FrequencyError:
		return fmt.Sprintf("frequency within %.3g ppm%s", o.Value, of)
	case ReceiveOnly:
		return fmt.Sprintf("receives %s in %s, and does not transmit there", o.Band, o.Mode)
	case SamePower:
		return fmt.Sprintf("%s%s give the same by design", strings.Join(o.Levels, " and "), of)
	case Battery:
		return fmt.Sprintf("battery of %.4g mAh", o.Value)
	}
	var all []string
	for _, s := range o.Spans {
		all = append(all, fmt.Sprintf("%s to %s", s.Lo, s.Hi))
	}
	return "covers " + strings.Join(all, " and ")
}

// Detail is what a refusal of a claim line says, without its field.
func Detail(err error) string {
	var bad problem.List
	bad.AddErr("", err)
	if f := bad.Fields(); len(f) > 0 {
		return f[0].Detail
	}
	return err.Error()
}

// Strictest is the least value claimed of a band: what names the band goes before what names none,
// and of several the least counts, since whoever sells by it is held to it. Nil where nothing is.
func Strictest(all []Other, band string) *float64 {
	var of, general *float64
	for i := range all {
		at := &general
		switch all[i].Band {
		case band:
			at = &of
		case "":
		default:
			continue
		}
		if *at == nil || all[i].Value < **at {
			*at = &all[i].Value
		}
	}
	if of != nil {
		return of
	}
	return general
}
