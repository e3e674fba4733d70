package frequency

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/units"
)

// Name is the kind's name.
const Name = "frequency"

// Draft is a frequency as it is typed, or an error of one, and how far the reference of the
// instrument may be off, in ppm; nil where it is not told. Several behind each other are of one key-up,
// from its beginning to its end.
type Draft struct {
	Text         string   `json:"text"`
	ReferencePPM *float64 `json:"reference_ppm,omitempty"`

	// By is the counter that the figure was read by itself.
	By []record.By `json:"by,omitempty"`
}

// Measured is a frequency error. Result is nil where it cannot be worked out any more.
type Measured struct {
	simple.Figure
	ReferencePPM *float64 `json:"reference_ppm"`
	ResolutionHz float64  `json:"resolution_hz"` // the last digit that was typed
	ClaimedPPM   *float64 `json:"claimed_ppm"`
	DriftHz      *float64 `json:"drift_hz"` // over the key-up: the last less the first; nil where there is one alone
	Result       *Result  `json:"result"`   // of the one furthest off
}

// Ruling is what stands for a band.
type Ruling = simple.Ruling[Measured]

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Frequency error", More: true, Part: "frequency error", Minutes: 2},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(*Measured) string { return "" },
		Further:  func(a, b *Measured) bool { return math.Abs(a.Result.ErrorPPM) > math.Abs(b.Result.ErrorPPM) },
		Value: func(m *Measured) (v, u float64, ok bool) {
			return m.Result.ErrorHz, m.Result.UncertaintyHz, m.DriftHz == nil
		},
		Words: words,
		Says: map[decision.Verdict]string{
			decision.Fail: "It is further off its frequency than claimed", decision.Inconclusive: "Its frequency error is too close to call", decision.Pass: "It keeps its frequency as claimed",
			decision.SoFar: "It keeps its frequency as claimed so far", decision.NoClaim: "Its frequency error was measured, with no claim to be held against",
		},
		Asks: simple.Claimed(claims.FrequencyError),
		None: "the frequency error was not measured",
		Section: measure.Section{
			Title: "Frequency error",
			Lines: []string{
				"Error = frequency measured − nominal frequency; 1 ppm is a millionth of it. ±: the instrument's own reference and the last digit read, k = 2.",
				"A figure moves as the transmitter warms; of several the one furthest off stands. It was as warm as the room: what is claimed over a range of temperatures is not tested by it.",
			},
			Columns: []string{"Typed", "Measured", "Error", "Error", "±, k = 2", "Drift", "Reference", "Claimed"},
			Numbers: []int{1, 2, 3, 4, 5, 6, 7},
		},
		Row: row,
	}}
}

func work(r *measure.Review, in Draft, m *Measured) error {
	if in.ReferencePPM != nil && !(*in.ReferencePPM >= 0 && *in.ReferencePPM <= 1000) {
		return problem.New("reference_ppm", "give how far the instrument's reference may be off, 0 to 1000 ppm")
	}
	m.ReferencePPM, m.ClaimedPPM = in.ReferencePPM, claims.Strictest(r.Others(claims.FrequencyError), m.Band)
	var first, last Result
	for i, text := range each(m.Text) {
		ask := Input{Text: text, Nominal: units.Hertz(m.FrequencyHz), ResolutionHz: lastDigitHz(text, m.FrequencyHz), ClaimedPPM: m.ClaimedPPM, Rule: decision.Rule(r.Rules.DecisionRule)}
		if in.ReferencePPM != nil {
			ask.ReferencePPM = *in.ReferencePPM
		}
		out, err := Measure(ask)
		if err != nil {
			return err
		}
		if last = out; i == 0 {
			first = out
		}
		if m.Result == nil || math.Abs(out.ErrorHz) > math.Abs(m.Result.ErrorHz) {
			m.Result, m.Verdict, m.ResolutionHz = &out, out.Verdict, ask.ResolutionHz
		}
		if i > 0 {
			drift := last.ErrorHz - first.ErrorHz
			m.DriftHz = &drift
		}
	}
	out := *m.Result
	if off := math.Abs(out.ErrorPPM); off > mostPPM || off > unlikelyPPM && math.Abs(out.ErrorHz) >= stepHz {
		m.Counts, m.WhyNot = false, fmt.Sprintf("%+.0f Hz, %+.0f ppm, is a step of the dial or another channel sooner than an error: is the radio on %s?", out.ErrorHz, out.ErrorPPM, units.Hertz(m.FrequencyHz))
	}
	// What is not told of the reference cannot be held with its uncertainty.
	if in.ReferencePPM == nil && m.Verdict != nil {
		open := decision.Inconclusive
		m.Verdict = &open
	}
	return nil
}

// What is taken for another channel: more than any transmitter is off, in ppm, or the smallest step
// of a dial where that is much for a crystal (common practice, no source).
const (
	mostPPM     = 200
	unlikelyPPM = 20
	stepHz      = 5e3
)

// each parts figures that stand behind each other: a unit apart belongs to the one before it.
func each(text string) []string {
	var out []string
	for _, w := range strings.Fields(text) {
		if n := len(out); n > 0 && (exponents[w] != 0 || w == "Hz" || w == "ppm") {
			out[n-1] += " " + w
		} else {
			out = append(out, w)
		}
	}
	if len(out) == 0 {
		return []string{text}
	}
	return out
}

// lastDigitHz is what the last digit typed is worth.
func lastDigitHz(text string, nominal float64) float64 {
	m := typed.FindStringSubmatch(strings.ReplaceAll(strings.TrimSpace(text), "\u2212", "-"))
	if m == nil {
		return 0
	}
	mantissa, power, _ := strings.Cut(strings.ToLower(strings.Replace(m[2], ",", ".", 1)), "e")
	_, after, _ := strings.Cut(mantissa, ".")
	exponent, _ := strconv.Atoi(power) // 0 where there is none
	unit := 1e6
	if m[3] != "" {
		unit = math.Pow10(exponents[m[3]])
	}
	if m[3] == "ppm" {
		unit = nominal * 1e-6
	}
	return unit * math.Pow10(exponent-len(after))
}

// Words for the figure: 312 Hz, 2.14 ppm.
func words(m *Measured) string {
	out := fmt.Sprintf("%+.0f Hz, %+.2f ± %.2f ppm", m.Result.ErrorHz, m.Result.ErrorPPM, m.Result.UncertaintyPPM)
	if m.ReferencePPM == nil { // of the digit alone it is no uncertainty of the figure
		out = fmt.Sprintf("%+.0f Hz, %+.2f ppm", m.Result.ErrorHz, m.Result.ErrorPPM)
	}
	if m.ClaimedPPM != nil {
		out += fmt.Sprintf(" of %g ppm claimed", *m.ClaimedPPM)
	}
	if m.DriftHz != nil {
		out += fmt.Sprintf(", drifting by %+.0f Hz over the key-up", *m.DriftHz)
	}
	if m.ReferencePPM == nil {
		out += ", by a reference of which nothing is told"
	}
	return out
}

func row(m *Measured) []string {
	r := m.Result
	reference, within, claimed := "not told", "not known", "no claim"
	if m.ReferencePPM != nil {
		reference, within = fmt.Sprintf("%g ppm", *m.ReferencePPM), fmt.Sprintf("± %.2f ppm", r.UncertaintyPPM)
	}
	if m.ClaimedPPM != nil {
		claimed = fmt.Sprintf("%g ppm", *m.ClaimedPPM)
	}
	drift := ""
	if m.DriftHz != nil {
		drift = fmt.Sprintf("%+.0f Hz", *m.DriftHz)
	}
	return []string{m.Text, fmt.Sprintf("%.6f MHz", r.MeasuredHz/1e6), fmt.Sprintf("%+.0f Hz", r.ErrorHz), fmt.Sprintf("%+.2f ppm", r.ErrorPPM), within, drift, reference, claimed}
}
