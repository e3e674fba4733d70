package emissions

import (
	"cmp"
	"encoding/binary"
	"encoding/json"
	"math"
	"reflect"
	"slices"
	"strings"

	"talloak/core/claims"
	"talloak/core/judge"
	"talloak/core/looks"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/strictjson"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Name is the kind's name.
const Name = "emissions"

// Kind is the emissions kind of measurement.
type Kind struct{}

// Draft is what is told of a sweep beside its file; what the file says itself counts.
// Each is empty, or 0, where nobody told. Unit is that of the frequencies, where what
// the file says cannot be meant.
type Draft struct {
	Name      string  `json:"name"`
	RBWHz     float64 `json:"rbw_hz,omitempty"`
	Detector  string  `json:"detector,omitempty"`
	Hold      string  `json:"hold,omitempty"`
	Modulated string  `json:"modulated,omitempty"`
	Unit      string  `json:"unit,omitempty"`

	// Normalised tells that levels were saved below the carrier, which stands at 0.
	Normalised bool `json:"normalised,omitempty"`

	// Look tells that the file is a look as it was typed, not a sweep.
	Look bool `json:"look,omitempty"`
	Told
}

// Told is what is told of a sweep or look and kept as it was told. OffsetDB is what the
// screen already adds, where it is not what the path says; HeldS how long it was held;
// PreAmplifier on or off; each empty where nobody told.
type Told struct {
	OffsetDB     *float64 `json:"offset_db,omitempty"`
	HeldS        *float64 `json:"held_s,omitempty"`
	PreAmplifier string   `json:"pre_amplifier,omitempty"`

	// State is what the radio was doing, where it was not simply transmitting at its level:
	// such a sweep stands on the state board and rules on nothing. Heard is a look of lines
	// heard in the radio's own receiver, as it shows them.
	State string `json:"state,omitempty"`
	Heard bool   `json:"heard,omitempty"`

	// How well a look was read off: the half-width in which its frequencies lie, in Hz, and
	// the standard uncertainty of reading its levels, in dB.
	ToleranceHz float64 `json:"tolerance_hz,omitempty"`
	ReadingDB   float64 `json:"reading_db,omitempty"`

	// By is the instrument that told all this itself, nobody's hand between.
	By []record.By `json:"by,omitempty"`
}

// payload is what is kept of a sweep beside its levels.
type payload struct {
	Name      string  `json:"name"`
	Detector  string  `json:"detector"`
	Hold      string  `json:"hold"`
	Modulated string  `json:"modulated"`
	StartHz   float64 `json:"start_hz"`
	StopHz    float64 `json:"stop_hz"`
	RBWHz     float64 `json:"rbw_hz"`
	Points    int     `json:"points"`
	Taken     string  `json:"taken"` // how the file was understood

	Normalised bool `json:"normalised,omitempty"`
	Uneven     bool `json:"uneven,omitempty"` // the frequencies of its points are kept behind their levels

	Look *Look `json:"look,omitempty"`
	Told
}

// Sweep is a sweep as it was kept.
type Sweep struct {
	*record.Measurement
	payload
	err error
}

// About implements measure.Kind.
func (Kind) About() measure.About {
	return measure.About{
		Name: Name, Title: "Emissions", Key: "4", Purpose: wiring.ForEmissions, Transmits: true, WithFile: true, PerLevel: true, Always: true, Leads: true,
		Types: measure.TypesOf[Draft, SweepView, Ruling]().With(reflect.TypeFor[Study]()).Lines(reflect.TypeFor[looks.Line]()),
	}
}

// ReadLine implements measure.LineReader: what a line tells of the instrument, and the look that is left of it.
func (Kind) ReadLine(text string) measure.Answer {
	l, err := looks.ReadLine(text)
	if err != nil {
		l = looks.Line{Look: text, Says: []string{}, Wrong: strings.TrimPrefix(err.Error(), "text: ")}
	}
	return measure.Answers(l)
}

// WithoutPath implements measure.Pathless: what a receiver hears of itself comes through none.
func (Kind) WithoutPath(draft json.RawMessage) bool {
	var in Draft
	return json.Unmarshal(draft, &in) == nil && in.Heard
}

// unkeyed tells that nothing is transmitted for what is taken.
func (in *Draft) unkeyed() bool { return in.Heard || slices.Contains(Idle, in.State) }

// Room is the emissions of a review.
type Room struct {
	review *measure.Review
	sweeps []*Sweep
}

// Of is the emissions room of a review.
func Of(r *measure.Review) *Room { return measure.Inside[*Room](r, Kind{}) }

// Open implements measure.Kind.
func (Kind) Open(r *measure.Review) measure.Room {
	d := &Room{review: r}
	for _, m := range r.Of(Name) {
		d.sweeps = append(d.sweeps, sweepOf(m))
	}
	return measure.RoomOf(r, Name, d)
}

func sweepOf(m *record.Measurement) *Sweep {
	s := &Sweep{Measurement: m}
	s.err = json.Unmarshal(m.Payload, &s.payload)
	return s
}

// ReadFile implements measure.FileReader: a sweep is read, a look is short.
func (Kind) ReadFile(draft json.RawMessage, f *record.File) (*sweep.Import, error) {
	var in Draft
	if err := cmp.Or(strictjson.Decode(draft, &in), in.check()); err != nil || in.Look {
		return nil, err
	}
	read, err := sweep.ParseCSVIn(f.Content, in.Unit)
	return &read, err
}

// DraftFrom implements measure.Sweeper.
func (Kind) DraftFrom(t measure.ToldByInstrument) json.RawMessage {
	out, _ := json.Marshal(Draft{
		Name: t.Name, RBWHz: t.RBWHz, Detector: t.Detector, Hold: t.Hold, Modulated: t.Modulated,
		Told: Told{OffsetDB: &t.OffsetDB, HeldS: &t.HeldS, PreAmplifier: t.PreAmplifier, By: []record.By{t.By}},
	})
	return out
}

// Read implements measure.Works: what a file says itself counts before what was told.
func (d *Room) Read(t measure.Taking, in Draft) (measure.Worth[SweepView], error) {
	none := measure.Worth[SweepView]{}
	if err := in.check(); err != nil {
		return none, err
	}
	if t.File == nil {
		return none, problem.New("csv", "send the sweep as the analyzer saved it")
	}
	if in.Look {
		return d.takeLook(t, in)
	}
	read := t.Read
	if read == nil {
		parsed, err := sweep.ParseCSVIn(t.File.Content, in.Unit)
		if err != nil {
			return none, err
		}
		read = &parsed
	}
	if doubt := read.Doubt(units.Hertz(t.Keyed.FrequencyHz)); doubt != "" {
		return none, problem.New("unit", "%s", doubt)
	}
	// What is printed is rounded to 0.1 dB; levels below the carrier have none.
	if told := t.Through.AppliedOffsetDB; in.OffsetDB == nil && !in.Normalised && !read.Normalised && read.OffsetDB != nil && math.Abs(*read.OffsetDB-told) > 0.05 {
		return none, problem.New("offset_db", "the file says that %g dB were added to its levels, the path says %g dB: tell it in “The screen adds”, whichever it is", *read.OffsetDB, told)
	}
	kept := payload{
		Name: in.Name, Detector: cmp.Or(read.Detector, in.Detector), Hold: cmp.Or(read.Hold, in.Hold), Modulated: in.Modulated,
		StartHz: float64(read.Trace.Start), StopHz: float64(read.Trace.Stop), RBWHz: cmp.Or(float64(read.Trace.RBW), in.RBWHz),
		Points: len(read.Trace.Levels), Taken: read.Taken,
		Normalised: in.Normalised || read.Normalised, Uneven: read.Trace.Uneven != nil, Told: in.Told,
	}
	blob := PackLevels(slices.Concat(read.Trace.Levels, read.Trace.Uneven))
	row := &Sweep{&record.Measurement{Keyed: t.Keyed, Through: t.Through, Blob: blob}, kept, nil}
	view := d.viewAlone(row)
	view.Meter = d.againstMeter(row)
	if s, _, err := d.sweep(row); err == nil && len(in.By) > 0 { // it is drawn as it comes
		view.Picture = d.picture(row, &s, nil)
	}
	return measure.Worth[SweepView]{Keyed: t.Keyed, Payload: kept, Unkeyed: in.unkeyed(), Blob: blob, View: view}, nil
}

// longestLook is the longest look that is read, in bytes.
const longestLook = 4000

func (d *Room) takeLook(t measure.Taking, in Draft) (measure.Worth[SweepView], error) {
	none := measure.Worth[SweepView]{}
	if len(t.File.Content) > longestLook {
		return none, problem.New("look", "give at most %d characters", longestLook)
	}
	look, err := ParseLook(string(t.File.Content), units.Hertz(t.Keyed.FrequencyHz))
	if err != nil {
		return none, err
	}
	if f0 := units.Hertz(t.Keyed.FrequencyHz); !in.unkeyed() && look.hidesCarrier(f0, in.ToleranceHz) {
		return none, problem.New("look", "the carrier, %s, lies in this range and is not among the peaks: was it keyed? Give it too, such as 1h -7.4; nothing seen of a transmitter that is off passes nothing", f0)
	}
	kept := payload{
		Name: in.Name, Detector: in.Detector, Hold: in.Hold, Modulated: in.Modulated, StartHz: look.FromHz, StopHz: look.ToHz, RBWHz: in.RBWHz, Points: len(look.Peaks),
		Taken: "a look, as it was typed", Look: &look, Told: in.Told,
	}
	row := &Sweep{&record.Measurement{Keyed: t.Keyed, Through: t.Through}, kept, nil}
	view := d.viewAlone(row)
	view.Meter = d.againstMeter(row)
	if s, _, err := d.sweep(row); err == nil {
		var in judge.Input
		d.power(&Ruling{Keyed: t.Keyed}, &in)
		view.Picture = look.picture(s, units.Hertz(t.Keyed.FrequencyHz), carrierDBm(in.MeanW))
	}
	return measure.Worth[SweepView]{Keyed: t.Keyed, Payload: kept, Unkeyed: in.unkeyed(), View: view}, nil
}

// mostTolerance is how far a frequency may have been read off a screen, in Hz: further and a
// harmonic is not told from another.
const mostTolerance = 50e6

// mostRBW is the widest resolution bandwidth of any analyzer, in Hz.
const mostRBW = 1e8

func (in *Draft) check() error {
	var bad problem.List
	if v := in.HeldS; v != nil && !(*v > 0 && *v <= 86400) {
		bad.Add("held_s", "give how long it was held, at most a day, in s, or leave it out where it is not told")
	}
	if !(in.ToleranceHz >= 0) || in.ToleranceHz > mostTolerance {
		bad.Add("tolerance_hz", "give how far a frequency may have been read off, 0 to 50 MHz, in Hz")
	}
	if !(in.ReadingDB >= 0) || in.ReadingDB > 20 {
		bad.Add("reading_db", "give how well its levels were read off, 0 to 20 dB")
	}
	if v := in.OffsetDB; v != nil && math.Abs(*v) > 200 {
		bad.Add("offset_db", "give what the screen adds in dB, with its sign")
	}
	in.State = strings.TrimSpace(in.State)
	for _, known := range States { // however it is written
		if strings.EqualFold(in.State, known) {
			in.State = known
		}
	}
	if len(in.State) > 60 {
		bad.Add("state", "give at most 60 characters, such as standby or tuner in")
	}
	if in.Heard && !in.Look {
		bad.Add("heard", "what was heard is given as a look, line by line")
	}
	if in.Heard && in.State == "" {
		bad.Add("state", "say in what state it was heard, such as amplifier on")
	}
	if in.Name = strings.TrimSpace(in.Name); in.Name == "" || len(in.Name) > 200 {
		bad.Add("name", "give the sweep a name of at most 200 characters")
	}
	if !(in.RBWHz == 0 || in.RBWHz >= 1e-3 && in.RBWHz <= mostRBW) {
		bad.Add("rbw_hz", "give a bandwidth of 1 mHz to 100 MHz, or leave it out where it is not told")
	}
	for _, choice := range []struct {
		field, value string
		known        []string
	}{
		{"detector", in.Detector, []string{"", "peak", "rms", "average", "sample"}}, {"hold", in.Hold, []string{"", "single", "max", "average"}},
		{"modulated", in.Modulated, []string{"", "bare", "modulated"}}, {"unit", in.Unit, []string{"", "Hz", "kHz", "MHz", "GHz"}}, {"pre_amplifier", in.PreAmplifier, []string{"", "on", "off"}},
	} {
		known := false
		for _, k := range choice.known {
			known = known || k == choice.value
		}
		if !known {
			bad.Add(choice.field, "give one of %s, or leave it out where it is not told", strings.Join(choice.known[1:], ", "))
		}
	}
	return bad.Err()
}

// Keep implements measure.Shown.
func (v *SweepView) Keep(m *record.Measurement) { v.ID, v.TakenAt = m.ID, m.TakenAt }

// Taken implements measure.Works.
func (d *Room) Taken(i int) *SweepView {
	out := d.viewAlone(d.sweeps[i])
	return &out
}

// RulingAt implements measure.Works.
func (d *Room) RulingAt(k record.Keyed) Ruling {
	out := d.At(k, true)
	if out.Ruling != nil {
		for i := range out.Ruling.Products {
			out.Rungs = append(out.Rungs, out.RungOf(&out.Ruling.Products[i]))
		}
	}
	return out
}

// Box implements measure.Tells: the worst carrier swept stands for the box.
func (d *Room) Box(c claims.Cell, pictures bool) measure.Box {
	k := record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode, FrequencyHz: float64(c.Band.UsualHz)}
	e := d.Worst(k, pictures)
	out := measure.Box{Kind: Name, Notes: notes(e), Frequencies: []float64{}, Of: measure.Answers(e)}
	out.Verdict, out.Why = said(e)
	if e.Ruling != nil && e.Ruling.Worst != nil && e.Ruling.Worst.RoomDB != nil {
		if out.Figure = units.DB(*e.Ruling.Worst.RoomDB).Signed(); !e.Ruling.Worst.Seen {
			out.Figure = "≥ " + out.Figure
		}
	}
	if len(e.Sweeps) > 0 {
		out.Frequencies = append(out.Frequencies, e.FrequencyHz)
	}
	for _, s := range d.sweeps {
		if s.SameBox(k) {
			out.Taken++
		}
	}
	return out
}

// PackLevels is the form in which levels are kept: float64, little endian.
func PackLevels(levels []float64) []byte {
	out := make([]byte, 0, 8*len(levels))
	for _, l := range levels {
		out = binary.LittleEndian.AppendUint64(out, math.Float64bits(l))
	}
	return out
}

// UnpackLevels is the reverse of PackLevels.
func UnpackLevels(b []byte) []float64 {
	out := make([]float64, len(b)/8)
	for i := range out {
		out[i] = math.Float64frombits(binary.LittleEndian.Uint64(b[8*i:]))
	}
	return out
}
