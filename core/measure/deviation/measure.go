package deviation

import (
	"fmt"
	"math"

	"talloak/core/audio"
	"talloak/core/decision"
	"talloak/core/problem"
	"talloak/core/say"
)

// Input is a deviation in exactly one of three ways: Plus and Minus of a meter, either alone or
// both; Null, the carrier's n-th null as a tone's level is raised from nothing, its frequency
// kept; Lines of a spectrum, in dBm: the carrier, then each pair of sidebands, nil where none was
// read. Frequencies are in Hz. What is nil of the uncertainties is not told, and adds nothing.
type Input struct {
	Plus, Minus, Tone *float64
	Null              *int
	Lines             []*float64

	PctReading, ResolutionHz *float64 // of the meter: half-width in percent, last digit in Hz
	TonePct                  *float64 // half-width of the tone's frequency, in percent
	NullDepthDB              *float64 // how far the carrier there lies under the unmodulated one
	LineDB                   *float64 // half-width of a line's level
	HighestAudioHz           float64
	AtMostHz, AtLeastHz      *float64
	Rule                     decision.Rule
}

// Result is the deviation, with its expanded uncertainty (k = 2). The verdict is nil without a
// bound; index without a tone; asymmetry unless both sides are told.
type Result struct {
	DeviationHz   float64           `json:"deviation_hz"`
	Index         *float64          `json:"index"`
	CarsonHz      float64           `json:"carson_hz"`
	AsymmetryHz   *float64          `json:"asymmetry_hz"`
	UncertaintyHz float64           `json:"expanded_uncertainty_hz"`
	Verdict       *decision.Verdict `json:"verdict"`
	Findings      []say.Said        `json:"findings"`
}

// SpeechHz is the highest audio frequency of speech over a radio, in Hz (common practice, no source).
const SpeechHz = 3000

// mostNull is the last null that is counted.
const mostNull = 10

// Measure works a deviation out. U is twice the root sum square of half-widths over sqrt 3.
// Errors are on the fields of the input.
func Measure(in Input) (Result, error) {
	if err := in.check(); err != nil {
		return Result{}, err
	}
	out := Result{Findings: []say.Said{}}
	var halves []float64
	told := false
	half := func(given *float64, of float64) {
		if given != nil {
			told = true
			halves = append(halves, of)
		}
	}
	switch {
	case in.Null != nil:
		zero := audio.J0Zero(*in.Null)
		out.DeviationHz = *in.Tone * zero
		half(in.TonePct, out.DeviationHz*or(in.TonePct)/100)
		half(in.NullDepthDB, *in.Tone*math.Pow(10, -or(in.NullDepthDB)/20)/math.Abs(math.J1(zero)))
	case in.Lines != nil:
		f := fit(in.Lines)
		out.DeviationHz = f.index * *in.Tone
		half(in.TonePct, out.DeviationHz*or(in.TonePct)/100)
		if in.LineDB != nil {
			for k, l := range in.Lines {
				if l != nil {
					half(in.LineDB, *in.Tone*f.change(k, *in.LineDB))
				}
			}
		}
		if f.poor() {
			out.Findings = append(out.Findings, say.That("fit-poor", "the lines do not fit one tone: other tones, distortion or noise are among them, or a line was read wrongly"))
		}
	default:
		for _, side := range []*float64{in.Plus, in.Minus} {
			out.DeviationHz = max(out.DeviationHz, or(side))
		}
		if in.Plus != nil && in.Minus != nil {
			d := *in.Plus - *in.Minus
			out.AsymmetryHz = &d
		}
		half(in.PctReading, out.DeviationHz*or(in.PctReading)/100)
		half(in.ResolutionHz, or(in.ResolutionHz)/2)
	}
	sum := 0.0
	for _, h := range halves {
		sum += h * h / 3
	}
	out.UncertaintyHz = 2 * math.Sqrt(sum)
	if !told {
		out.Findings = append(out.Findings, say.That("no-uncertainty", "nothing is told of how well it was read: its uncertainty is taken for nought"))
	}
	highest := in.HighestAudioHz
	if in.Tone != nil {
		highest = *in.Tone
		index := out.DeviationHz / *in.Tone
		out.Index = &index
	}
	out.CarsonHz = audio.Carson(out.DeviationHz, highest)
	if in.AtMostHz != nil || in.AtLeastHz != nil {
		v := in.Rule.Hold(out.DeviationHz, out.UncertaintyHz, in.AtLeastHz, in.AtMostHz)
		out.Verdict = &v
	}
	for _, v := range []float64{out.DeviationHz, out.CarsonHz, out.UncertaintyHz, or(out.Index)} {
		if math.IsInf(v, 0) || math.IsNaN(v) {
			return Result{}, problem.New("", "the result is too large for a number")
		}
	}
	return out, nil
}

func or(v *float64) float64 {
	if v == nil {
		return 0
	}
	return *v
}

func (in *Input) check() error {
	var bad problem.List
	ways := 0
	for _, way := range []bool{in.Plus != nil || in.Minus != nil, in.Null != nil, in.Lines != nil} {
		if way {
			ways++
		}
	}
	if ways != 1 {
		bad.Add("plus_hz", "give one of plus_hz and minus_hz, null with tone_hz, and lines_dbm with tone_hz")
	}
	for _, f := range []struct {
		field string
		v     *float64
	}{
		{"plus_hz", in.Plus}, {"minus_hz", in.Minus}, {"pct_reading", in.PctReading}, {"resolution_hz", in.ResolutionHz}, {"tone_pct", in.TonePct},
		{"null_depth_db", in.NullDepthDB}, {"line_db", in.LineDB}, {"highest_audio_hz", &in.HighestAudioHz}, {"at_most_hz", in.AtMostHz}, {"at_least_hz", in.AtLeastHz},
	} {
		if f.v != nil && !(*f.v >= 0) {
			bad.Add(f.field, "give 0 or more")
		}
	}
	switch {
	case in.Tone != nil && !(*in.Tone > 0):
		bad.Add("tone_hz", "give the tone's frequency, above 0 Hz")
	case in.Tone == nil && (in.Null != nil || in.Lines != nil):
		bad.Add("tone_hz", "is missing; give the tone's frequency in Hz")
	}
	if in.Null != nil && (*in.Null < 1 || *in.Null > mostNull) {
		bad.Add("null", "give which null of the carrier it is, 1 to %d", mostNull)
	}
	if in.Lines != nil {
		told := 0
		for i, l := range in.Lines {
			if l == nil {
				continue
			}
			if told++; math.Abs(*l) > 300 {
				bad.Add(fmt.Sprintf("lines_dbm[%d]", i), "%g dBm is no level", *l)
			}
		}
		if told < 3 {
			bad.Add("lines_dbm", "give three lines or more: the carrier, then each pair of sidebands, null where none was read")
		}
		if len(in.Lines) > mostLines {
			bad.Add("lines_dbm", "give at most %d lines", mostLines)
		}
	}
	if in.AtMostHz != nil && in.AtLeastHz != nil && *in.AtLeastHz > *in.AtMostHz {
		bad.Add("at_least_hz", "cannot be above at_most_hz")
	}
	if !in.Rule.Known() {
		bad.Add("decision_rule", "give %s or %s", decision.Guarded, decision.Simple)
	}
	return bad.Err()
}
