package kit

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
)

func fields(err error) string {
	var bad *problem.Error
	if !errors.As(err, &bad) {
		return ""
	}
	var out []string
	for _, f := range bad.Fields {
		out = append(out, f.Field)
	}
	return strings.Join(out, " ")
}

// TestTypicalIsWhole: the typical item of every kind can be kept, says of each
// value it brings that it is typical, and lies on a path if its kind does.
func TestTypicalIsWhole(t *testing.T) {
	for _, k := range Kinds() {
		s := Typical(k)
		if err := s.Check(); err != nil {
			t.Errorf("%s: %v", k, err)
		}
		if len(s.Typical) == 0 && k != Antenna {
			t.Errorf("%s: nothing is marked typical", k)
		}
		if s.Element.MaxW != nil {
			t.Errorf("%s: a rating is guessed", k)
		}
		e, _, err := s.On(s.First())
		if (err == nil) != (k.PathKind() != "") || err == nil && e.Kind != k.PathKind() {
			t.Errorf("%s on a path: %v %v", k, e.Kind, err)
		}
		if old := (Spec{Element: path.Element{Kind: k.PathKind()}}); k.PathKind() != "" && old.KindOf().PathKind() != k.PathKind() {
			t.Errorf("%s: a copy without a kind is read as %s", k, old.KindOf())
		}
	}
}

func TestCheckRefusesAtTheField(t *testing.T) {
	pad := func(change func(*Spec)) Spec {
		s := Typical(Attenuator)
		change(&s)
		return s
	}
	oneport := "# MHz S DB R 50\n100 -20 0\n200 -20 0\n"
	for want, s := range map[string]Spec{
		"kind":           {Kind: "kettle"},
		"element.to_hz":  pad(func(s *Spec) { s.Element.FromHz, s.Element.ToHz = v(3e9), v(1e6) }),
		"element.max_w":  pad(func(s *Spec) { s.Element.MaxW = v(0.0) }),
		"element.loss":   pad(func(s *Spec) { s.Element.Loss = nil }),
		"checked_on":     pad(func(s *Spec) { s.CheckedOn = "yesterday" }),
		"accuracy_db":    pad(func(s *Spec) { s.AccuracyDB = -1 }),
		"positions":      {Kind: SwitchedAttenuator},
		"supply":         {Kind: Supply},
		"supply.to_v":    {Kind: Supply, Supply: &SupplyRange{FromV: 14, ToV: 12}},
		"supply.limit_a": {Kind: Supply, Supply: &SupplyRange{FromV: 12, ToV: 14, LimitA: v(0.0)}},
		"levels.to_dbm":  {Kind: SignalGenerator, Levels: &LevelRange{0, -10}},
		"meter.pct_full_scale": func() Spec {
			s := Typical(ThroughMeter)
			s.Meter.PctFullScale = -1
			return s
		}(),
		"meter.scale_w": func() Spec {
			s := Typical(ThroughMeter)
			s.Meter.PctFullScale = 5
			return s
		}(),
		"scales_w[1]": {Kind: ThroughMeter, Meter: &reading.Meter{Needle: true}, ScalesW: []float64{5, 0}},
		"element.loss.table[1].frequency_hz": pad(func(s *Spec) {
			s.Element.Loss = &path.Loss{Table: []path.LossPoint{{FrequencyHz: 2e6}, {FrequencyHz: 1e6}}}
		}),
		"element.loss.touchstone":             pad(func(s *Spec) { s.Element.Loss = &path.Loss{Touchstone: &oneport} }),
		"positions[0].db":                     {Kind: SwitchedAttenuator, Positions: []Position{{Name: "a"}}},
		"positions[0].name positions[1].name": {Kind: SwitchedAttenuator, Positions: []Position{{Name: " ", DB: v(1.0)}, {Name: " ", DB: v(1.0)}}},
		"positions[1].db":                     {Kind: Sampler, Positions: []Position{{Name: "a", Unknown: true}, {Name: "b", DB: v(-3.0)}}},
		"positions[0].loss.table":             {Kind: SwitchedAttenuator, Positions: []Position{{Name: "a", Loss: &path.Loss{Table: []path.LossPoint{}}}}},
		"element.swr":                         {Kind: SwitchedAttenuator, Positions: []Position{{Name: "a", DB: v(1.0)}}, Element: path.Element{SWR: v(0.5)}},
		"element.to_hz meter.pct_reading":     {Kind: ThroughMeter, Element: path.Element{FromHz: v(2.0), ToHz: v(1.0)}, Meter: &reading.Meter{PctReading: -1}},
		"element.swr_touchstone":              {Kind: Antenna, Element: path.Element{SWRTouchstone: v("nonsense")}},
		"supply.from_v supply.lead_ohm":       {Kind: Supply, Supply: &SupplyRange{FromV: -1, ToV: 1, LeadOhm: v(-1.0)}},
		"element.ranges[0].to_hz element.swr": {Kind: Analyzer, Element: path.Element{Ranges: []path.Range{{FromHz: 5, ToHz: 1}}, SWR: v(0.1)}},
		"element.cable":                       {Kind: Cable, Element: path.Element{LengthM: v(1.0)}},
		"element.cable element.length_m":      {Kind: Cable, Element: path.Element{Cable: v("string")}},
		"element.short_s":                     {Kind: Load, Element: path.Element{MaxW: v(5.0), ShortMaxW: v(10.0)}},
		"element.coupling_db":                 {Kind: Tap},
	} {
		got := fields(s.Check())
		if !sameWords(got, want) {
			t.Errorf("refused %q, want %q: %v", got, want, s.Check())
		}
	}
}

func sameWords(a, b string) bool {
	x, y := strings.Fields(a), strings.Fields(b)
	slices.Sort(x)
	slices.Sort(y)
	return slices.Equal(x, y)
}

func TestSettings(t *testing.T) {
	meter := Spec{Kind: ThroughMeter, Meter: &reading.Meter{PctFullScale: 5, Needle: true}, ScalesW: []float64{5, 20, 200}}
	_, m, err := meter.On("20 W")
	if err != nil || *m.ScaleW != 20 || meter.First() != "200 W" || meter.Meter.ScaleW != nil {
		t.Errorf("%+v %v", m, err)
	}
	if _, _, err := meter.On(""); fields(err) != "setting" || !strings.Contains(err.Error(), "5 W, 20 W, 200 W") {
		t.Errorf("%v", err)
	}
	switched := Typical(SwitchedAttenuator)
	e, _, err := switched.On("20 dB")
	if err != nil || *e.Loss.FlatDB != 20 || switched.First() != "30 dB" {
		t.Errorf("%+v %v %s", e, err, switched.First())
	}
	sampler := Spec{Kind: Sampler, Positions: []Position{{Name: "knob 1", Unknown: true}, {Name: "knob 5", DB: v(33.0)}}}
	if sampler.First() != "knob 5" {
		t.Error("an unknown coupling is offered before a known one")
	}
	if e, _, _ := sampler.On("knob 1"); !e.CouplingUnknown {
		t.Error("an unknown coupling became known")
	}
	if e, _, _ := sampler.On("knob 5"); *e.CouplingDB != 33 {
		t.Error("the knob does nothing")
	}
	a := Spec{Kind: Analyzer, Element: path.Element{Ranges: []path.Range{{Name: "low", FromHz: 1e5, ToHz: 350e6}, {Name: "high", FromHz: 240e6, ToHz: 960e6}}}}
	if e, _, err := a.On("high"); err != nil || len(e.Ranges) != 1 || e.Ranges[0].ToHz != 960e6 || len(a.Element.Ranges) != 2 {
		t.Errorf("%+v %v", e, err)
	}
	if e, _, err := a.On(""); err != nil || len(e.Ranges) != 2 {
		t.Errorf("all inputs: %v", err)
	}
	if _, _, err := a.On("middle"); fields(err) != "setting" {
		t.Errorf("%v", err)
	}
	pad := Typical(Attenuator)
	if _, _, err := pad.On("x"); !strings.Contains(err.Error(), "nothing to set") {
		t.Errorf("%v", err)
	}
	if Title("pad", "") != "pad" || Title("pad", "20 dB") != "pad, 20 dB" {
		t.Error("titles")
	}
}

// TestAccuracy: a maker's limit of 1 dB is 0.577 dB standard, a certificate's 1 dB
// at k = 2 is 0.5 (JCGM 100, 4.3.3 and 4.3.7).
func TestAccuracy(t *testing.T) {
	s := Spec{AccuracyDB: 1}
	if u, d := s.Accuracy(); math.Abs(float64(u)-0.57735) > 1e-5 || d != "rectangular" {
		t.Errorf("%v %s", u, d)
	}
	s.AccuracyK = v(2.0)
	if u, d := s.Accuracy(); u != 0.5 || d != "normal" {
		t.Errorf("%v %s", u, d)
	}
}

func TestCurveAndCarrier(t *testing.T) {
	cable := Typical(Cable)
	curve := cable.Curve("", 50)
	if len(curve) != 50 || *curve[0].LossDB >= *curve[49].LossDB || curve[0].FrequencyHz != 100e3 || math.Abs(curve[49].FrequencyHz-10e9) > 1 {
		t.Errorf("%d points", len(curve))
	}
	flat := Typical(Attenuator)
	if c := flat.Curve("", 50); len(c) != 0 {
		t.Error("a flat pad has no curve")
	}
	file := "# MHz S DB R 50\n700 -30 0 -20 0 -20 0 -30 0\n1000 -30 0 -19.5 0 -19.5 0 -30 0\n"
	flat.Element.Loss = &path.Loss{Touchstone: &file}
	flat.Element.ToHz = nil
	if err := flat.Check(); err != nil {
		t.Fatal(err)
	}
	if err := flat.CheckCarrier(146e6); fields(err) != "element.loss.touchstone" || !strings.Contains(err.Error(), "700 MHz to 1 GHz") {
		t.Errorf("%v", err)
	}
	if err := flat.CheckCarrier(800e6); err != nil {
		t.Error(err)
	}
	switched := Typical(SwitchedAttenuator)
	amplifier := "# MHz S DB R 50\n700 -30 0 14 0 -20 0 -30 0\n"
	switched.Positions = []Position{{Name: "10 dB", Loss: &path.Loss{Touchstone: &amplifier}}}
	if err := switched.Check(); fields(err) != "positions[0].loss.touchstone" {
		t.Errorf("%v", err)
	}
	// The noise of a network analyzer on a short part is let pass, an amplifier is not.
	for s21, want := range map[string]string{"0.1": "", "14": "element.loss.touchstone"} {
		amplifies := "# MHz S DB R 50\n700 -30 0 " + s21 + " 0 -20 0 -30 0\n"
		flat.Element.Loss = &path.Loss{Touchstone: &amplifies}
		if err := flat.Check(); fields(err) != want {
			t.Errorf("S21 of %s dB: %v", s21, err)
		}
	}
	swr := "# MHz S MA R 50\n140 0.5 0\n146 0.1 0\n152 0.5 0\n"
	antenna := Spec{Kind: Antenna, Element: path.Element{SWRTouchstone: &swr}}
	c := antenna.Curve("", 25)
	if len(c) != 25 || c[12].LossDB != nil || *c[12].SWR > 1.3 || *c[0].SWR < 2.9 {
		t.Errorf("%+v", c)
	}
}

// TestAnalyzersOwnK: a certificate's figure is divided by its own k, a maker's limit
// by sqrt 3 (JCGM 100, 4.3.3 and 4.3.7).
func TestAnalyzersOwnK(t *testing.T) {
	three := 3.0
	for _, c := range []struct {
		spec Spec
		want float64
	}{{Spec{AccuracyDB: 1.5}, 1.5 / math.Sqrt(3)}, {Spec{AccuracyDB: 1.5, AccuracyK: &three}, 0.5}} {
		if u, _ := c.spec.Accuracy(); math.Abs(float64(u)-c.want) > 1e-12 {
			t.Errorf("%+v: %v", c.spec, u)
		}
	}
}

// TestCounted: what nobody stated counts as typical and is named; what was stated stays.
func TestCounted(t *testing.T) {
	flat, own := 20.0, 0.2
	bare := Spec{Kind: Attenuator, Element: path.Element{Loss: &path.Loss{FlatDB: &flat}}}
	if c := bare.Counted(); *c.Element.ToleranceDB != 0.5 || !c.Element.TypicalTolerance || !slices.Contains(c.Typical, "element.tolerance_db") || bare.Element.ToleranceDB != nil {
		t.Errorf("%+v", c)
	}
	bare.Element.ToleranceDB = &own
	if c := bare.Counted(); *c.Element.ToleranceDB != 0.2 || c.Element.TypicalTolerance || len(c.Typical) != 0 {
		t.Errorf("%+v", c)
	}
	for _, kind := range Kinds() {
		s := Spec{Kind: kind}
		if kind == ThroughMeter || kind == TerminatingMeter || kind == ServiceMonitor {
			s.Meter = &reading.Meter{}
		}
		c := s.Counted()
		if c.Meter != nil && (c.Meter.PctReading != 10 || !c.Meter.TypicalAccuracy || !c.Meter.TypicalRepeatability) || kind == Analyzer && c.AccuracyDB != 2 ||
			kind.PathKind() != "" && !kind.PathKind().Ends() && c.Element.ToleranceDB == nil {
			t.Errorf("%s counts as perfect: %+v", kind, c)
		}
	}
	stated := Spec{Kind: ThroughMeter, Meter: &reading.Meter{DB: 0.3}}
	if c := stated.Counted(); c.Meter.PctReading != 0 || c.Meter.TypicalAccuracy {
		t.Errorf("%+v", c.Meter)
	}
}

// TestADivisionPerScale: a needle of 10 W a division on 200 W has 1 W on 20 W, unless
// its scales say otherwise.
func TestADivisionPerScale(t *testing.T) {
	s := Spec{Kind: ThroughMeter, ScalesW: []float64{20, 200}, Meter: &reading.Meter{DigitW: 10, Needle: true}}
	division := func(scale string) float64 {
		_, m, err := s.On(scale)
		if err != nil {
			t.Fatal(err)
		}
		return m.DigitW
	}
	if a, b := division("20 W"), division("200 W"); a != 1 || b != 10 {
		t.Errorf("%v and %v W", a, b)
	}
	s.DivisionsW = []float64{0.5, 5}
	if a, b := division("20 W"), division("200 W"); a != 0.5 || b != 5 {
		t.Errorf("%v and %v W", a, b)
	}
}

// TestFirstVolts: the usual 13.8 V of a bench supply, or the nearest it gives.
func TestFirstVolts(t *testing.T) {
	for want, s := range map[float64]*SupplyRange{13.8: {FromV: 0, ToV: 30}, 12: {FromV: 5, ToV: 12}, 24: {FromV: 24, ToV: 28}, 0: nil} {
		if got := (Spec{Supply: s}).FirstV(); got != want {
			t.Errorf("%+v: %g V, want %g V", s, got, want)
		}
	}
	if a, b := (Spec{Meter: &reading.Meter{}}).RepeatabilityWords(), (Spec{Meter: &reading.Meter{Needle: true}}).RepeatabilityWords(); a != "1, typical" || b != "a fifth of a division, typical" {
		t.Errorf("%q %q", a, b)
	}
}

// TestCheckedLongAgo: a figure is old from a year on, to the day.
func TestCheckedLongAgo(t *testing.T) {
	for on, want := range map[string]string{
		"": "never checked false", "2026-11-20": "checked 2026-11-20, this month false", "2026-10-26": "checked 2026-10-26, 1 month ago false",
		"2025-11-27": "checked 2025-11-27, 11 months ago false", "2025-11-26": "checked 2025-11-26, 12 months ago true", "2023-01-01": "checked 2023-01-01, 3 years ago true",
	} {
		words, old := Spec{CheckedOn: on}.Checked(time.Date(2026, 11, 26, 12, 0, 0, 0, time.UTC))
		if got := fmt.Sprint(words, " ", old); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// TestAPartHasOnlyWhatItsKindHas: what another kind has is refused at its field, not kept
// unread; and the path never sees it.
func TestAPartHasOnlyWhatItsKindHas(t *testing.T) {
	p := func(v float64) *float64 { return &v }
	for field, s := range map[string]Spec{
		"element.coupling_db": {Kind: Load, Element: path.Element{CouplingDB: p(20)}},
		"element.loss":        {Kind: Antenna, Element: path.Element{Loss: &path.Loss{FlatDB: p(1)}}},
		"element.main_load_w": {Kind: Attenuator, Element: path.Element{Loss: &path.Loss{FlatDB: p(1)}, MainLoadW: p(5)}},
		"element.length_m":    {Kind: ThroughMeter, Element: path.Element{LengthM: p(2)}},
		"element.ranges":      {Kind: Cable, Element: path.Element{Loss: &path.Loss{FlatDB: p(1)}, Ranges: []path.Range{{ToHz: 1e9}}}},
	} {
		if err := s.Check(); fields(err) != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	lid := func(kind path.Kind) *float64 {
		whole, err := path.Compile([]path.Element{{Kind: kind, MaxW: p(100), MainLoadW: p(5), CouplingDB: p(20), SWR: p(1)}})
		if err != nil {
			t.Fatal(err)
		}
		return whole.Lids(146e6)[0]
	}
	if tap, load := lid(path.Tap), lid(path.Load); *tap >= *load {
		t.Errorf("a load counts the rating of a main arm it has not: %v, %v dBm", *tap, *load)
	}
}
