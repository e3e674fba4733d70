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
	"talloak/core/units"
)

// Name is the kind's name.
const Name = "frequency"

// Draft is a frequency as it is typed, or an error of one, and how far the reference of the
// instrument may be off, in ppm; nil where it is not told.
type Draft struct {
	Text         string   `json:"text"`
	ReferencePPM *float64 `json:"reference_ppm,omitempty"`
}

// Measured is a frequency error. Result is nil where it cannot be worked out any more.
type Measured struct {
	simple.Figure
	ReferencePPM *float64 `json:"reference_ppm"`
	ResolutionHz float64  `json:"resolution_hz"` // the last digit that was typed
	ClaimedPPM   *float64 `json:"claimed_ppm"`
	Result       *Result  `json:"result"`
}

// Ruling is what stands for a band.
type Ruling = simple.Ruling[Measured]

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Frequency error", More: true, Part: "frequency error"},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(*Measured) string { return "" },
		Further:  func(a, b *Measured) bool { return math.Abs(a.Result.ErrorPPM) > math.Abs(b.Result.ErrorPPM) },
		Words:    words,
		Says: map[decision.Verdict]string{
			decision.Fail: "It is further off its frequency than claimed", decision.Inconclusive: "Its frequency error is too close to call", decision.Pass: "It keeps its frequency as claimed",
			decision.SoFar: "It keeps its frequency as claimed so far", decision.NoClaim: "Its frequency error was measured, with no claim to be held against",
		},
		None: "the frequency error was not measured",
		Section: measure.Section{
			Title: "Frequency error",
			Lines: []string{
				"Error = frequency measured − nominal frequency; 1 ppm is a millionth of it. ±: the instrument's own reference and the last digit read, k = 2.",
				"A figure moves as the transmitter warms; of several the one furthest off stands. It was as warm as the room: what is claimed over a range of temperatures is not tested by it.",
			},
			Columns: []string{"Typed", "Measured", "Error", "Error", "±, k = 2", "Reference", "Claimed"},
			Numbers: []int{1, 2, 3, 4, 5, 6},
		},
		Row: row,
	}}
}

func work(r *measure.Review, in Draft, m *Measured) error {
	if in.ReferencePPM != nil && !(*in.ReferencePPM >= 0 && *in.ReferencePPM <= 1000) {
		return problem.New("reference_ppm", "give how far the instrument's reference may be off, 0 to 1000 ppm")
	}
	m.ReferencePPM, m.ResolutionHz = in.ReferencePPM, lastDigitHz(m.Text, m.FrequencyHz)
	m.ClaimedPPM = claims.Strictest(r.Others(claims.FrequencyError), m.Band)
	ask := Input{Text: m.Text, Nominal: units.Hertz(m.FrequencyHz), ResolutionHz: m.ResolutionHz, ClaimedPPM: m.ClaimedPPM, Rule: decision.Rule(r.Rules.DecisionRule)}
	if in.ReferencePPM != nil {
		ask.ReferencePPM = *in.ReferencePPM
	}
	out, err := Measure(ask)
	if err != nil {
		return err
	}
	m.Result, m.Verdict = &out, out.Verdict
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
	if m.ClaimedPPM != nil {
		out += fmt.Sprintf(" of %g ppm claimed", *m.ClaimedPPM)
	}
	if m.ReferencePPM == nil {
		out += ", by a reference of which nothing is told"
	}
	return out
}

func row(m *Measured) []string {
	reference, claimed := "not told", "no claim"
	if m.ReferencePPM != nil {
		reference = fmt.Sprintf("%g ppm", *m.ReferencePPM)
	}
	if m.ClaimedPPM != nil {
		claimed = fmt.Sprintf("%g ppm", *m.ClaimedPPM)
	}
	r := m.Result
	return []string{m.Text, fmt.Sprintf("%.6f MHz", r.MeasuredHz/1e6), fmt.Sprintf("%+.0f Hz", r.ErrorHz), fmt.Sprintf("%+.2f ppm", r.ErrorPPM), fmt.Sprintf("± %.2f ppm", r.UncertaintyPPM), reference, claimed}
}
