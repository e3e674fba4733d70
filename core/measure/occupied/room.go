package occupied

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
)

// Name is the kind's name.
const Name = "occupied"

// Draft is a sweep over the emission: the file as the analyzer saved it, whose name the text is;
// the id of the sweep of the emissions that it was kept as, empty for a file of its own; what the
// carrier was modulated with; whether the sweep was held, max or single, where the file does not say it;
// the resolution bandwidth, where the file does not say it and it is
// told; the unit of its frequencies where the file cannot be meant; and how far below the highest
// the other width is taken, in dB, nil for 26.
type Draft struct {
	Text    string   `json:"text"`
	File    string   `json:"file"`
	Sweep   string   `json:"sweep,omitempty"`
	Signal  string   `json:"signal" enum:"voice,tone,data,bare"`
	Hold    string   `json:"hold,omitempty" enum:",max,single,average"`
	RBWHz   *float64 `json:"rbw_hz,omitempty"`
	Unit    string   `json:"unit,omitempty" enum:",Hz,kHz,MHz,GHz"`
	BelowDB *float64 `json:"below_db,omitempty"`
}

// Measured is an occupied bandwidth. Result is nil where it cannot be worked out any more. Curve is
// what is drawn of the sweep, in dB below its highest: at most mostDrawn points, no crest lost.
type Measured struct {
	simple.Figure
	Signal  string   `json:"signal"`
	Sweep   string   `json:"sweep"`
	Hold    string   `json:"hold"` // empty where it is not told
	RBWHz   *float64 `json:"rbw_hz"`
	BelowDB float64  `json:"below_db"`
	LimitHz *float64 `json:"limit_hz"` // the authorised bandwidth; nil where the book sets none
	Book    string   `json:"book"`
	Doubt   string   `json:"doubt"` // why it passes no limit that it does not fail
	Curve   []Point  `json:"curve"`
	Result  *Result  `json:"result"`
}

// Point is a point of a curve: Hz, and dB below the highest.
type Point struct {
	FrequencyHz float64 `json:"frequency_hz"`
	DB          float64 `json:"db"`
}

const (
	percent   = 99   // of the power: what is meant where nobody says (ITU-R SM.328, from memory; 47 CFR 2.202 alike)
	below     = 26.0 // dB under the highest, where nobody says (common practice, no source)
	mostDrawn = 400
	mostFile  = 1 << 20 // bytes
	// stray is how far the dialled frequency may lie outside the emission, in Hz: the smallest step of
	// a dial (common practice, no source).
	stray = 5e3
	// driven is the part of what is authorised that loud speech takes on any radio made for it (common
	// practice, no source).
	driven = 0.4
)

// signals are what the carrier may be modulated with, in words.
var signals = map[string]string{"voice": "voice", "tone": "a tone", "data": "data", "bare": "not modulated"}

// Ruling is what stands for a band.
type Ruling = simple.Ruling[Measured]

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Occupied bandwidth", More: true, Part: "occupied bandwidth", Minutes: 5},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(m *Measured) string { return m.Signal },
		Further:  func(a, b *Measured) bool { return a.Result.OccupiedHz > b.Result.OccupiedHz },
		Words:    words,
		Says: map[decision.Verdict]string{
			decision.Fail: "It occupies more than it may", decision.Inconclusive: "Its occupied bandwidth is too close to call", decision.Pass: "It occupies no more than it may",
			decision.SoFar: "It occupies no more than it may so far", decision.NoClaim: "Its occupied bandwidth was measured, with no limit to be held against",
		},
		None: "the occupied bandwidth was not measured",
		Section: measure.Section{
			Title: "Occupied bandwidth",
			Lines: []string{
				"The width in which 99 % of the power of the sweep lies, half a percent beyond it on either side; beside it the width at so many dB below the highest. ±: two and a half resolution bandwidths, by which the filter widens what it shows.",
				"A bandwidth is held against what the rule book authorises. A tone only fails by it; speech passes by it that was loud enough, in a sweep held at its maximum. Of several the widest stands, of each signal; an unmodulated carrier shows the filter and is held against nothing.",
			},
			Columns: []string{"Sweep", "Of", "99 % of the power", "±", "Middle from nominal", "Width", "Below", "Resolution bandwidth", "Noise in it", "Authorised"},
			Numbers: []int{2, 3, 4, 5, 6, 7, 8, 9},
		},
		Row: row,
	}}
}

func work(r *measure.Review, in Draft, m *Measured) error {
	var bad problem.List
	if signals[in.Signal] == "" {
		bad.Add("signal", "give voice, tone, data or bare")
	}
	if v := in.RBWHz; v != nil && !(*v > 0 && *v <= 10e6) {
		bad.Add("rbw_hz", "give the resolution bandwidth in Hz, above 0 and at most 10 MHz, or leave it out where it is not told")
	}
	if v := in.BelowDB; v != nil && !(*v >= 1 && *v <= 100) {
		bad.Add("below_db", "give how far below the highest, 1 to 100 dB")
	}
	if !slices.Contains([]string{"", "max", "single", "average"}, in.Hold) {
		bad.Add("hold", "give max, single or average, or leave it out where it is not told")
	}
	got, err := read(in, m)
	bad.AddErr("", err)
	if err := bad.Err(); err != nil {
		return err
	}
	trace := got.Trace
	m.Signal, m.Sweep, m.RBWHz, m.BelowDB, m.Hold = in.Signal, in.Sweep, in.RBWHz, below, cmp.Or(got.Hold, in.Hold)
	if in.BelowDB != nil {
		m.BelowDB = *in.BelowDB
	}
	if trace.RBW > 0 {
		said := float64(trace.RBW)
		m.RBWHz = &said
	}
	ask := Input{StartHz: float64(trace.Start), StopHz: float64(trace.Stop), Levels: trace.Levels, RBWHz: m.RBWHz, Percent: percent, BelowDB: m.BelowDB, Rule: decision.Rule(r.Rules.DecisionRule)}
	if in.Signal != "bare" {
		book := r.BookOf(m.Band)
		m.LimitHz, m.Book = book.Authorised(rulebook.Carrier{Frequency: units.Hertz(m.FrequencyHz), Mode: m.Mode, State: rulebook.Operating}), book.Title
		ask.AtMostHz = m.LimitHz
	}
	out, err := Measure(ask)
	if err != nil {
		return err
	}
	m.Result, m.Verdict, m.Curve = &out, out.Verdict, drawn(trace)
	switch at := m.FrequencyHz; {
	case in.Sweep != "" && !r.Stands(in.Sweep):
		m.Counts, m.WhyNot = false, "the sweep that it was taken from does not count"
	case at < out.LowHz-stray || at > out.HighHz+stray:
		m.Counts, m.WhyNot = false, fmt.Sprintf("what is seen lies from %s to %s: is the radio on %s, and was it keyed?", units.Hertz(out.LowHz), units.Hertz(out.HighHz), units.Hertz(at))
	case -10*math.Log10(out.NoiseSharePct/100) < leastOver:
		m.Counts, m.WhyNot = false, fmt.Sprintf("noise holds %.0f %% of what is seen: was it keyed, and is the span some three times the signal?", out.NoiseSharePct)
	}
	if m.Verdict != nil && *m.Verdict == decision.Pass {
		switch {
		case in.Signal == "tone":
			m.Doubt = "a tone shows what it was set to: whether speech goes further is not seen"
		case in.Signal == "voice" && m.Hold != "max":
			m.Doubt = "speech is widest for a moment, which a sweep sees that was held at its maximum over some words: this one was not, or nobody said so"
		case in.Signal == "voice" && out.OccupiedHz < driven**m.LimitHz:
			m.Doubt = fmt.Sprintf("it is under %.0f %% of what is authorised: was it spoken loudly enough, and long enough?", 100*driven)
		}
		if m.Doubt != "" {
			open := decision.Inconclusive
			m.Verdict = &open
		}
	}
	return nil
}

// leastOver is by how much what is seen must stand over the noise in it, in dB, to be an emission
// at all (common practice, no source).
const leastOver = 3.0

func read(in Draft, m *Measured) (sweep.Import, error) {
	switch {
	case strings.TrimSpace(in.File) == "":
		return sweep.Import{}, problem.New("file", "give a sweep over the emission as the analyzer saved it, or choose one that was taken: %q is its name alone", m.Text)
	case len(in.File) > mostFile:
		return sweep.Import{}, problem.New("file", "give a file of at most 1 MB: a sweep of some three times the emission, such as 50 kHz")
	}
	got, err := sweep.ParseCSVIn([]byte(in.File), in.Unit)
	if err != nil {
		return got, problem.New("file", "%s", strings.TrimPrefix(err.Error(), "csv: "))
	}
	if doubt := got.Doubt(units.Hertz(m.FrequencyHz)); doubt != "" {
		return got, problem.New("unit", "%s", doubt)
	}
	t := got.Trace
	switch f := units.Hertz(m.FrequencyHz); {
	case t.Uneven != nil:
		return got, problem.New("file", "its points are not evenly apart: it is a list of figures, of which no bandwidth can be told")
	case f < t.Start || f > t.Stop:
		return got, problem.New("file", "it goes from %s to %s: %s is not in it", t.Start, t.Stop, f)
	case len(t.Levels) < leastPoints:
		return got, problem.New("file", "it has %d points: give %d or more", len(t.Levels), leastPoints)
	}
	return got, nil
}

// drawn is the trace in dB below its highest.
func drawn(t sweep.Trace) []Point {
	thin := t.Thin(mostDrawn)
	highest := math.Inf(-1)
	for _, p := range thin {
		highest = max(highest, p.High)
	}
	out := make([]Point, len(thin))
	for i, p := range thin {
		out[i] = Point{float64(p.Frequency), p.High - highest}
	}
	return out
}

func words(m *Measured) string {
	out := fmt.Sprintf("%.2f ± %.2f kHz, %s", m.Result.OccupiedHz/1e3, m.Result.UncertaintyHz/1e3, signals[m.Signal])
	if m.LimitHz != nil {
		out += fmt.Sprintf(", of %g kHz authorised (%s)", *m.LimitHz/1e3, m.Book)
	}
	for _, f := range m.Result.Findings {
		out += "; " + f.Detail
	}
	if m.Doubt != "" {
		out += "; " + m.Doubt
	}
	return out
}

func row(m *Measured) []string {
	r := m.Result
	width, rbw, limit := "does not fall so far", "not told", "no limit"
	if r.BelowHz != nil {
		width = fmt.Sprintf("%.2f kHz", *r.BelowHz/1e3)
	}
	if m.RBWHz != nil {
		rbw = fmt.Sprintf("%g Hz", *m.RBWHz)
	}
	if m.LimitHz != nil {
		limit = fmt.Sprintf("%g kHz", *m.LimitHz/1e3)
	}
	return []string{
		m.Text, signals[m.Signal], fmt.Sprintf("%.2f kHz", r.OccupiedHz/1e3), fmt.Sprintf("± %.2f kHz", r.UncertaintyHz/1e3), fmt.Sprintf("%+.2f kHz", (r.CentreHz-m.FrequencyHz)/1e3),
		width, fmt.Sprintf("%g dB", m.BelowDB), rbw, fmt.Sprintf("%.2g %%", r.NoiseSharePct), limit,
	}
}
