package kit

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/units"
)

// Kind is what sort of thing an item is.
type Kind string

// The kinds of kit. Supply, counter and antenna analyzer do not lie on a path from the radio; a
// signal generator ends one, and must not be keyed into.
const (
	Adapter            Kind = "adapter"
	Cable              Kind = "cable"
	ThroughMeter       Kind = "through-meter"
	TerminatingMeter   Kind = "terminating-meter"
	Load               Kind = "load"
	Attenuator         Kind = "attenuator"
	SwitchedAttenuator Kind = "switched-attenuator"
	Tap                Kind = "tap"
	Coupler            Kind = "coupler"
	Sampler            Kind = "sampler"
	Analyzer           Kind = "analyzer"
	ServiceMonitor     Kind = "service-monitor"
	Supply             Kind = "supply"
	SignalGenerator    Kind = "signal-generator"
	AntennaAnalyzer    Kind = "antenna-analyzer"
	Antenna            Kind = "antenna"
	Counter            Kind = "counter"
)

// kinds lists the kinds in the order of a bench, with what each is on a path.
var kinds = []struct {
	kind Kind
	as   path.Kind
}{
	{Adapter, path.Adapter}, {Cable, path.Cable}, {ThroughMeter, path.Meter}, {TerminatingMeter, path.TerminatingMeter}, {Load, path.Load},
	{Attenuator, path.Attenuator}, {SwitchedAttenuator, path.Attenuator}, {Tap, path.Tap}, {Coupler, path.Tap}, {Sampler, path.Tap},
	{Analyzer, path.Analyzer}, {ServiceMonitor, path.TerminatingMeter}, {Supply, ""}, {SignalGenerator, path.Load}, {AntennaAnalyzer, ""}, {Antenna, path.Load}, {Counter, ""},
}

// Kinds lists all kinds.
func Kinds() []Kind {
	out := make([]Kind, len(kinds))
	for i, k := range kinds {
		out[i] = k.kind
	}
	return out
}

// Known tells whether there is such a kind.
func (k Kind) Known() bool { return slices.Contains(Kinds(), k) }

// PathKind is what an item of this kind is on a path; empty where it is nothing there.
func (k Kind) PathKind() path.Kind {
	for _, x := range kinds {
		if x.kind == k {
			return x.as
		}
	}
	return ""
}

// Ladder tells whether the kind is made to take power down: what pads are
// chosen from.
func (k Kind) Ladder() bool { return k == Attenuator || k == SwitchedAttenuator }

// Position is one setting of a switched attenuator, or of a sampler's knob: its
// loss or coupling in dB, over frequency or flat, or not known.
type Position struct {
	Name    string     `json:"name"`
	DB      *float64   `json:"db,omitempty"`
	Loss    *path.Loss `json:"loss,omitempty"`
	Unknown bool       `json:"unknown,omitempty"`
}

// SupplyRange is what a DC supply gives, and what its leads take.
type SupplyRange struct {
	FromV   float64  `json:"from_v"`
	ToV     float64  `json:"to_v"`
	LimitA  *float64 `json:"limit_a,omitempty"`
	LeadOhm *float64 `json:"lead_ohm,omitempty"` // both leads, to the radio and back
}

// usualV is what a radio on a bench supply is usually fed, in V (common practice, no
// source).
const usualV = 13.8

// FirstV is what a supply is set to when it is put on a path, in V; 0 for what is none.
func (s Spec) FirstV() float64 {
	if s.Supply == nil {
		return 0
	}
	return min(max(usualV, s.Supply.FromV), s.Supply.ToV)
}

// RepeatabilityWords is what counts for a meter whose repeatability nobody found; empty
// for what is no meter.
func (s Spec) RepeatabilityWords() string {
	switch {
	case s.Meter == nil:
		return ""
	case s.Meter.Needle:
		return "a fifth of a division, typical"
	}
	return fmt.Sprintf("%g, typical", 100*reading.TypicalRepeatability)
}

// LevelRange is what a signal generator gives, in dBm into 50 ohm.
type LevelRange struct {
	FromDBm float64 `json:"from_dbm"`
	ToDBm   float64 `json:"to_dbm"`
}

// Spec is everything known about an item. Element is what it is on a path, with
// its frequency range, ratings, loss and SWR; Meter how well it reads watts, on
// one of ScalesW where it has several, with a needle's division on each in
// DivisionsW where they are known. AccuracyDB is the amplitude accuracy of
// an analyzer or generator in dB, a half-width, or the expanded uncertainty of a
// certificate where AccuracyK gives its coverage factor. Typical names the fields, by
// their path in here, that hold a typical value rather than the item's own.
type Spec struct {
	Kind         Kind           `json:"kind,omitempty"`
	Element      path.Element   `json:"element"`
	Meter        *reading.Meter `json:"meter,omitempty"`
	ScalesW      []float64      `json:"scales_w,omitempty"`
	DivisionsW   []float64      `json:"divisions_w,omitempty"`
	Positions    []Position     `json:"positions,omitempty"`
	AccuracyDB   float64        `json:"accuracy_db,omitempty"`
	AccuracyK    *float64       `json:"accuracy_k,omitempty"`
	PreAmplifier string         `json:"pre_amplifier,omitempty" enum:",none,fitted"`
	Supply       *SupplyRange   `json:"supply,omitempty"`
	Levels       *LevelRange    `json:"levels,omitempty"`
	CheckedOn    string         `json:"checked_on,omitempty"`
	Serial       string         `json:"serial,omitempty"`
	Certificate  string         `json:"certificate,omitempty"` // its number, and who gave it
	Note         string         `json:"note,omitempty"`
	Typical      []string       `json:"typical,omitempty"`
}

// Accuracy is the standard uncertainty of an analyzer's or generator's levels, in
// dB, with its distribution: of a maker's limit, or of a certificate. Nothing stated
// is 0: ask Counted.
func (s *Spec) Accuracy() (u units.DB, distribution string) {
	if s.AccuracyK != nil {
		return units.DB(s.AccuracyDB / *s.AccuracyK), "normal"
	}
	return units.DB(s.AccuracyDB / math.Sqrt(3)), "rectangular"
}

// KindOf is the kind of the item; copies kept by older measurements say only
// what it was on the path.
func (s *Spec) KindOf() Kind {
	if s.Kind != "" {
		return s.Kind
	}
	for _, x := range kinds {
		if x.as == s.Element.Kind && x.as != "" {
			return x.kind
		}
	}
	return ""
}

// scaleName is how a scale is called on a path.
func scaleName(w float64) string { return strconv.FormatFloat(w, 'g', -1, 64) + " W" }

// ScaleOf is the setting of a meter for its scale that ends at w watts.
func (s *Spec) ScaleOf(w float64) (string, error) {
	if slices.Contains(s.ScalesW, w) {
		return scaleName(w), nil
	}
	names := []string{}
	for _, o := range s.ScalesW {
		names = append(names, scaleName(o))
	}
	if len(names) == 0 {
		return "", fmt.Errorf("the meter has one scale only")
	}
	return "", fmt.Errorf("give one of its scales: %s", strings.Join(names, ", "))
}

// scaleRoom is what a scale must hold above the power that is claimed, in dB.
const scaleRoom units.DB = 1

// ScaleFor is the smallest of some scales that holds a power and 1 dB more, else the largest, all in W; nil
// where there are none.
func ScaleFor(scales []float64, w float64) *float64 {
	if len(scales) == 0 {
		return nil
	}
	best := slices.Max(scales)
	for _, s := range scales {
		if s >= w*scaleRoom.Ratio() && s < best {
			best = s
		}
	}
	return &best
}

// Settings lists what can be set on the item where it lies on a path: positions,
// scales or inputs; none where there is nothing to set.
func (s *Spec) Settings() []string {
	out := []string{}
	for _, p := range s.Positions {
		out = append(out, p.Name)
	}
	for _, w := range s.ScalesW {
		out = append(out, scaleName(w))
	}
	for _, r := range s.Element.Ranges {
		if r.Name != "" && !slices.Contains(out, r.Name) {
			out = append(out, r.Name)
		}
	}
	return out
}

// On is the item on a path at a setting: the element, and the meter where it
// reads power. Errors are on "setting", or on fields of the spec.
func (s *Spec) On(setting string) (path.Element, *reading.Meter, error) {
	counted := s.Counted()
	e, meter := counted.Element, counted.Meter
	if kind := s.KindOf(); kind.PathKind() == "" {
		return e, nil, problem.New("kit_id", "a %s does not lie on the way from the radio to an instrument", kind)
	} else {
		e.Kind = kind.PathKind()
	}
	names := s.Settings()
	if len(s.Positions) == 0 && len(s.ScalesW) == 0 && setting == "" { // an analyzer with all its inputs
		return e, meter, nil
	}
	if !slices.Contains(names, setting) {
		if len(names) == 0 {
			return e, nil, problem.New("setting", "there is nothing to set on it")
		}
		return e, nil, problem.New("setting", "give one of %s", strings.Join(names, ", "))
	}
	for _, p := range s.Positions {
		if p.Name == setting {
			p.apply(&e)
			return e, meter, nil
		}
	}
	for i, w := range s.ScalesW {
		if scaleName(w) == setting && meter != nil {
			m := *meter
			m.ScaleW = &w
			if m.Needle {
				m.DigitW = s.division(i)
			}
			return e, &m, nil
		}
	}
	e.Ranges = slices.Clone(e.Ranges)
	e.Ranges = slices.DeleteFunc(e.Ranges, func(r path.Range) bool { return r.Name != setting })
	return e, meter, nil
}

// apply makes e what it is at the position.
func (p *Position) apply(e *path.Element) {
	e.Loss, e.CouplingDB, e.CouplingUnknown = p.Loss, nil, false
	switch {
	case e.Kind == path.Tap && p.Unknown:
		e.CouplingUnknown = true
	case e.Kind == path.Tap && p.DB != nil:
		e.CouplingDB = p.DB
	case p.DB != nil:
		e.Loss = &path.Loss{FlatDB: p.DB}
	}
}

// First is the setting an item is put on a path with: of a switched part or a
// sampler the one that takes most, of a meter the largest scale, of an analyzer
// its first input.
func (s *Spec) First() string {
	best, most := "", math.Inf(-1)
	for _, p := range s.Positions {
		if db := p.most(); best == "" || db > most {
			best, most = p.Name, db
		}
	}
	for _, w := range s.ScalesW {
		if w > most {
			best, most = scaleName(w), w
		}
	}
	if names := s.Settings(); best == "" && len(names) > 0 {
		best = names[0]
	}
	return best
}

// most is the highest loss a position is known to have; below any where it is unknown.
func (p *Position) most() float64 {
	most := math.Inf(-1)
	if p.DB != nil {
		most = *p.DB
	}
	if p.Loss != nil {
		for _, point := range p.Loss.Table {
			most = max(most, point.DB)
		}
	}
	return most
}

// Title is how the item is called on a path at a setting.
func Title(name, setting string) string {
	if setting == "" {
		return name
	}
	return fmt.Sprintf("%s, %s", name, setting)
}
