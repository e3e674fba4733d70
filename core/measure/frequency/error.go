package frequency

import (
	"math"
	"regexp"
	"strings"

	"talloak/core/decision"
	"talloak/core/problem"
	"talloak/core/units"
)

// Input is a frequency as it was read. ReferencePPM is how far the instrument's own reference may
// be off, a half-width in parts per million; ResolutionHz its last digit. Claimed is what the
// radio may be off, in ppm or in Hz, one of them or neither.
type Input struct {
	Text                  string
	Nominal               units.Hertz
	ReferencePPM          float64
	ResolutionHz          float64
	ClaimedPPM, ClaimedHz *float64
	Rule                  decision.Rule
}

// Result is the error, with its expanded uncertainty (k = 2). The verdict is nil where nothing is
// claimed.
type Result struct {
	MeasuredHz     float64           `json:"measured_hz"`
	ErrorHz        float64           `json:"error_hz"`
	ErrorPPM       float64           `json:"error_ppm"`
	UncertaintyHz  float64           `json:"expanded_uncertainty_hz"`
	UncertaintyPPM float64           `json:"expanded_uncertainty_ppm"`
	Verdict        *decision.Verdict `json:"verdict"`
}

// furthest is how far a frequency may lie from the nominal one, relative, and still be meant for
// it: an error wants its sign.
const furthest = 0.01

var typed = regexp.MustCompile(`^([+-]?)([0-9.,eE]+(?:[+-][0-9]+)?)\s*(ppm|Hz|kHz|MHz|GHz)?$`)

var exponents = map[string]int{"Hz": 0, "kHz": 3, "MHz": 6, "GHz": 9}

// Measure works the error out: U = 2 sqrt((nominal ppm / sqrt 3)^2 + (resolution / (2 sqrt 3))^2).
// Errors are on "text", "nominal_hz", "reference_ppm", "resolution_hz", "claimed_ppm",
// "claimed_hz" and "decision_rule".
func Measure(in Input) (Result, error) {
	var bad problem.List
	in.check(&bad)
	nominal := float64(in.Nominal)
	var out Result
	switch v, isError, err := read(in.Text, nominal); {
	case err != nil:
		bad.AddErr("", err)
	case isError:
		out.ErrorHz, out.MeasuredHz = v, nominal+v
	case nominal > 0 && math.Abs(v-nominal) > furthest*nominal:
		bad.Add("text", "%s is more than 1 %% from %s: an error wants its sign, such as +312Hz", units.Hertz(v), in.Nominal)
	default:
		out.MeasuredHz, out.ErrorHz = v, v-nominal
	}
	if err := bad.Err(); err != nil {
		return Result{}, err
	}
	out.ErrorPPM = out.ErrorHz / nominal * 1e6
	out.UncertaintyHz = 2 * math.Hypot(nominal*in.ReferencePPM*1e-6/math.Sqrt(3), in.ResolutionHz/(2*math.Sqrt(3)))
	out.UncertaintyPPM = out.UncertaintyHz / nominal * 1e6
	claim := in.ClaimedHz
	if in.ClaimedPPM != nil {
		hz := *in.ClaimedPPM * nominal * 1e-6
		claim = &hz
	}
	if claim != nil {
		v := in.Rule.Hold(math.Abs(out.ErrorHz), out.UncertaintyHz, nil, claim)
		out.Verdict = &v
	}
	if math.IsInf(out.MeasuredHz, 0) || math.IsInf(out.ErrorPPM, 0) || math.IsInf(out.UncertaintyPPM, 0) {
		return Result{}, problem.New("text", "the result is too large for a number")
	}
	return out, nil
}

func (in *Input) check(bad *problem.List) {
	if !(in.Nominal > 0) {
		bad.Add("nominal_hz", "give the frequency it should be, above 0 Hz")
	}
	if !(in.ReferencePPM >= 0) {
		bad.Add("reference_ppm", "give how far the reference may be off, 0 ppm or more")
	}
	if !(in.ResolutionHz >= 0) {
		bad.Add("resolution_hz", "give the last digit in Hz, 0 or more")
	}
	if in.ClaimedPPM != nil && in.ClaimedHz != nil {
		bad.Add("claimed_hz", "give claimed_ppm or claimed_hz, not both")
	}
	for field, v := range map[string]*float64{"claimed_ppm": in.ClaimedPPM, "claimed_hz": in.ClaimedHz} {
		if v != nil && !(*v >= 0) {
			bad.Add(field, "give 0 or more")
		}
	}
	if !in.Rule.Known() {
		bad.Add("decision_rule", "give %s or %s", decision.Guarded, decision.Simple)
	}
}

// read reads a frequency, or an error of one, as typed: a number alone is the frequency in MHz,
// one with a unit of frequency and no sign the frequency; with a sign, or in ppm, it is the error.
// Units are case-exact.
func read(text string, nominal float64) (hz float64, isError bool, err error) {
	m := typed.FindStringSubmatch(strings.ReplaceAll(strings.TrimSpace(text), "\u2212", "-"))
	if m == nil {
		return 0, false, problem.New("text", "%q is not understood: give what the counter shows, such as 145.500312, or the error, such as +312Hz or 2.1ppm", text)
	}
	sign, number, unit := m[1], m[2], m[3]
	if _, err := units.ParseNumber(number); err != nil { // a comma that may be a thousands mark
		return 0, false, problem.New("text", "%s", err.Error())
	}
	number = strings.Replace(number, ",", ".", 1)
	exp := exponents[unit]
	switch {
	case unit == "" && sign != "":
		return 0, false, problem.New("text", "%q has a sign and no unit: an error is in Hz, kHz or ppm", text)
	case unit == "":
		exp = 6
	case unit == "ppm":
		v, err := units.ParsePointNumber(sign + number)
		if err != nil {
			return 0, false, problem.New("text", "%s", err.Error())
		}
		return v * nominal * 1e-6, true, nil
	}
	v, err := units.ParseScaled(sign+number, exp)
	if err != nil {
		return 0, false, problem.New("text", "%s", err.Error())
	}
	if sign == "" && !(v > 0) {
		return 0, false, problem.New("text", "%q is no frequency", text)
	}
	return v, sign != "", nil
}
