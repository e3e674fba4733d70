package occupied

import (
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/problem"
	"talloak/core/say"
)

// Input is a sweep over an emission: levels in dBm, evenly from start to stop in Hz. RBWHz is
// that of the sweep, nil where it is not told. Percent is the part of the power meant, BelowDB how
// far below the highest the other width is taken.
type Input struct {
	StartHz, StopHz  float64
	Levels           []float64
	RBWHz            *float64
	Percent, BelowDB float64
	AtMostHz         *float64
	Rule             decision.Rule
}

// Result is the bandwidth, with its expanded uncertainty. A side that does not fall so far below
// within the span is nil.
type Result struct {
	OccupiedHz    float64           `json:"occupied_hz"`
	LowHz         float64           `json:"low_hz"`
	HighHz        float64           `json:"high_hz"`
	CentreHz      float64           `json:"centre_hz"`
	BelowHz       *float64          `json:"below_hz"`
	BelowLowHz    *float64          `json:"below_low_hz"`
	BelowHighHz   *float64          `json:"below_high_hz"`
	UncertaintyHz float64           `json:"expanded_uncertainty_hz"`
	NoiseSharePct float64           `json:"noise_share_pct"`
	Verdict       *decision.Verdict `json:"verdict"`
	Findings      []say.Said        `json:"findings"`
}

// What makes a bandwidth doubtful (common practice, no source).
const (
	leastPoints = 11
	// filters widens by so many of its bandwidths, and seldom narrows.
	filters = 2.5
	// wideRBW is the part of the result over which a resolution bandwidth is wide.
	wideRBW = 0.03
	// leastSpan is how many times the result a span should be.
	leastSpan = 1.5
)

// Measure works the bandwidth out. Each point's power lies evenly over its bin, half a step to
// either side, the ends' bins too. Errors are on "sweep...", "percent", "below_db", "at_most_hz"
// and "decision_rule".
func Measure(in Input) (Result, error) {
	if err := in.check(); err != nil {
		return Result{}, err
	}
	n := len(in.Levels)
	step := (in.StopHz - in.StartHz) / float64(n-1)
	power := make([]float64, n)
	highest := slices.Max(in.Levels)
	total := 0.0
	for i, l := range in.Levels {
		power[i] = math.Pow(10, (l-highest)/10) // only shares count
		total += power[i]
	}
	outside := (100 - in.Percent) / 2
	out := Result{Findings: []say.Said{}}
	out.LowHz = in.StartHz + step*(edge(power, outside/100*total)-0.5)
	slices.Reverse(power)
	out.HighHz = in.StopHz - step*(edge(power, outside/100*total)-0.5)
	slices.Reverse(power)
	out.OccupiedHz, out.CentreHz = out.HighHz-out.LowHz, (out.LowHz+out.HighHz)/2
	in.below(&out, highest, step)

	tenth := max(1, n/10)
	noise := min(mean(power[:tenth]), mean(power[n-tenth:]))
	out.NoiseSharePct = 100 * float64(n) * noise / total

	rbw := step
	if in.RBWHz != nil {
		rbw = *in.RBWHz
	}
	out.UncertaintyHz = filters * rbw
	notFail, notPass := false, false
	find := func(when bool, not *bool, code say.Code, words string) {
		if when {
			out.Findings = append(out.Findings, say.That(code, "%s", words))
			if not != nil {
				*not = true
			}
		}
	}
	find(in.RBWHz == nil, nil, "no-rbw", "the resolution bandwidth is not told: the step between points stands for it")
	find(rbw > wideRBW*out.OccupiedHz, &notFail, "rbw-wide", "the resolution bandwidth is over 3 % of the result, and widens it")
	find(out.NoiseSharePct > outside, &notFail, "noise", "noise over the span holds more than the part of the power left outside, and widens the result")
	find(in.StopHz-in.StartHz < leastSpan*out.OccupiedHz, &notPass, "span-narrow", "the span is under one and a half times the result: some of the emission may lie beyond it")
	if in.RBWHz != nil && step > rbw*(1+1e-9) {
		find(true, &notFail, "step-wide", "points are further apart than the resolution bandwidth: what lies between them was not seen")
		notPass = true
	}
	if in.AtMostHz != nil {
		v := in.Rule.Hold(out.OccupiedHz, out.UncertaintyHz, nil, in.AtMostHz)
		if v == decision.Pass && notPass || v == decision.Fail && notFail {
			v = decision.Inconclusive
		}
		out.Verdict = &v
	}
	return out, nil
}

// edge is how many bins from the beginning a part of the power lies in.
func edge(power []float64, part float64) float64 {
	for i, p := range power {
		if part <= p {
			return float64(i) + part/p
		}
		part -= p
	}
	return float64(len(power))
}

func mean(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x
	}
	return sum / float64(len(v))
}

// below finds the width at BelowDB under the highest: from the outermost points within it on to
// the crossing, straight in dB between points.
func (in *Input) below(out *Result, highest, step float64) {
	level := highest - in.BelowDB
	first := slices.IndexFunc(in.Levels, func(l float64) bool { return l >= level })
	last := len(in.Levels) - 1
	for in.Levels[last] < level {
		last--
	}
	cross := func(inside, outside int) *float64 {
		if outside < 0 || outside >= len(in.Levels) {
			return nil
		}
		share := (in.Levels[inside] - level) / (in.Levels[inside] - in.Levels[outside])
		f := in.StartHz + step*(float64(inside)+share*float64(outside-inside))
		return &f
	}
	out.BelowLowHz, out.BelowHighHz = cross(first, first-1), cross(last, last+1)
	if out.BelowLowHz != nil && out.BelowHighHz != nil {
		width := *out.BelowHighHz - *out.BelowLowHz
		out.BelowHz = &width
	}
}

func (in *Input) check() error {
	var bad problem.List
	if len(in.Levels) < leastPoints {
		bad.Add("sweep.levels_dbm", "give %d points or more", leastPoints)
	}
	if !(in.StopHz > in.StartHz) || in.StartHz < 0 {
		bad.Add("sweep.stop_hz", "must be above start_hz, and that 0 Hz or more")
	}
	for _, l := range in.Levels {
		if math.Abs(l) > 1000 {
			bad.Add("sweep.levels_dbm", "%g dBm is no level", l)
			break
		}
	}
	if in.RBWHz != nil && !(*in.RBWHz > 0) {
		bad.Add("sweep.rbw_hz", "give the resolution bandwidth above 0 Hz, or leave it out where it is not told")
	}
	if !(in.Percent > 50 && in.Percent < 100) {
		bad.Add("percent", "give over 50 and under 100 %%")
	}
	if !(in.BelowDB > 0) || in.BelowDB > 1000 {
		bad.Add("below_db", "give how far below the highest, above 0 dB")
	}
	if in.AtMostHz != nil && !(*in.AtMostHz >= 0) {
		bad.Add("at_most_hz", "give 0 Hz or more")
	}
	if !in.Rule.Known() {
		bad.Add("decision_rule", "give %s or %s", decision.Guarded, decision.Simple)
	}
	return bad.Err()
}
