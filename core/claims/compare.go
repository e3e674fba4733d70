package claims

import (
	"fmt"
	"math"

	"talloak/core/decision"
	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/units"
)

// Scheme is what counts as making a claim.
type Scheme string

// Tolerance holds the measured power against the claim less some dB; Percent
// against a share of it.
const (
	Tolerance Scheme = "tolerance"
	Percent   Scheme = "percent"
)

// Grade is how near a measured power comes to its claim: 90 % and over as
// claimed, 75 to 90 close, 50 to 75 short, less far short, over 120 % over
// (common practice, no source).
type Grade string

// The grades.
const (
	AsClaimed Grade = "as-claimed"
	Close     Grade = "close"
	Short     Grade = "short"
	FarShort  Grade = "far-short"
	Over      Grade = "over"
	NoOutput  Grade = "no-output"
)

// DefaultToleranceDB is 1.5 dB (recalled from ETSI EN 300 086, where it is
// two-sided); DefaultPassPercent is the lower end of "as claimed".
const (
	DefaultToleranceDB = 1.5
	DefaultPassPercent = 90
)

// Claim is the comparison to make. Powers are in W, the rest in dB and percent.
// LowW and HighW are the interval the measured power is printed with; where they are
// not given, ExpandedUncertaintyDB counts to both sides.
type Claim struct {
	ClaimedW, MeasuredW   float64
	LowW, HighW           *float64
	ExpandedUncertaintyDB float64
	Scheme                Scheme
	ToleranceDB           float64
	TwoSided              bool // of Tolerance only
	PassPercent           float64
	Rule                  decision.Rule
}

// Result is measured against claimed. DeltaDB = 10 log10(measured/claimed);
// it and SUnits are nil at 0 W, which is no output and never a fail by itself.
type Result struct {
	Percent float64          `json:"percent"`
	DeltaDB *float64         `json:"delta_db"`
	LowDB   *float64         `json:"low_delta_db"`  // of the printed interval, where there is one
	HighDB  *float64         `json:"high_delta_db"` // and it does not reach down to nothing
	SUnits  *float64         `json:"s_units"`
	Grade   Grade            `json:"grade"`
	Verdict decision.Verdict `json:"verdict"`
}

// PercentWords is the share as it is shown everywhere: whole percent, one decimal
// under 20 %.
func (r Result) PercentWords() string {
	if r.Percent < 20 {
		return fmt.Sprintf("%.1f %%", r.Percent)
	}
	return fmt.Sprintf("%.0f %%", r.Percent)
}

// Compare grades and judges a measured power. Errors are per field of Claim, in
// the names of the contract.
func Compare(c Claim) (Result, error) {
	if err := c.check(); err != nil {
		return Result{}, err
	}
	ratio := c.MeasuredW / c.ClaimedW
	out := Result{Percent: 100 * ratio, Grade: gradeOf(100 * ratio), Verdict: decision.Inconclusive}
	if math.IsInf(out.Percent, 0) {
		return Result{}, problem.New("measured_w", "too large against the claim")
	}
	if ratio == 0 {
		return out, nil
	}
	delta := float64(units.RatioDB(ratio))
	s := delta / rf.SUnitDB
	out.DeltaDB, out.SUnits = &delta, &s
	if c.LowW != nil && *c.LowW > 0 {
		low, high := float64(units.RatioDB(*c.LowW/c.ClaimedW)), float64(units.RatioDB(*c.HighW/c.ClaimedW))
		out.LowDB, out.HighDB = &low, &high
	}
	out.Verdict = c.decide(delta)
	return out, nil
}

// bounds are the levels a claim is made between, in dB against it; the upper one is
// +Inf where only too little is wrong.
func (c Claim) bounds() (lower, upper float64) {
	switch {
	case c.Scheme == Percent:
		return float64(units.RatioDB(c.PassPercent / 100)), math.Inf(1)
	case c.TwoSided:
		return -c.ToleranceDB, c.ToleranceDB
	}
	return -c.ToleranceDB, math.Inf(1)
}

// decide holds a measured power against the bounds: by its printed interval where
// there is one, else with the uncertainty to both sides.
func (c Claim) decide(delta float64) decision.Verdict {
	lower, upper := c.bounds()
	if c.Rule == decision.Simple || c.LowW == nil {
		return c.Rule.Decide(units.DB(min(delta-lower, upper-delta)), units.DB(c.ExpandedUncertaintyDB))
	}
	low, high := units.RatioDB(*c.LowW/c.ClaimedW), units.RatioDB(*c.HighW/c.ClaimedW)
	switch {
	case low >= units.DB(lower)-decision.Slack && high <= units.DB(upper)+decision.Slack:
		return decision.Pass
	case high < units.DB(lower) || low > units.DB(upper):
		return decision.Fail
	}
	return decision.Inconclusive
}

func (c Claim) check() error {
	var bad problem.List
	if !(c.ClaimedW > 0) {
		bad.Add("claimed_w", "give a power above 0 W")
	}
	if !(c.MeasuredW >= 0) {
		bad.Add("measured_w", "give 0 W or more")
	}
	if !(c.ExpandedUncertaintyDB >= 0) {
		bad.Add("expanded_uncertainty_db", "give 0 dB or more")
	}
	switch {
	case c.LowW == nil && c.HighW == nil:
	case c.HighW == nil:
		bad.Add("high_w", "give low_w and high_w, both or neither")
	case c.LowW == nil:
		bad.Add("low_w", "give low_w and high_w, both or neither")
	case !(*c.LowW >= 0):
		bad.Add("low_w", "give 0 W or more")
	case *c.LowW > *c.HighW:
		bad.Add("high_w", "must not be below low_w")
	case c.MeasuredW != 0 && (c.MeasuredW < *c.LowW*(1-1e-9) || c.MeasuredW > *c.HighW*(1+1e-9)):
		bad.Add("measured_w", "lies outside low_w and high_w")
	}
	if c.Scheme != Tolerance && c.Scheme != Percent {
		bad.Add("scheme", "give tolerance or percent")
	}
	if !(c.ToleranceDB >= 0) {
		bad.Add("tolerance_db", "give 0 dB or more")
	}
	if c.TwoSided && c.Scheme == Percent {
		bad.Add("two_sided", "only the tolerance scheme has an upper bound")
	}
	if !(c.PassPercent > 0) {
		bad.Add("pass_percent", "give more than 0 %%")
	}
	if !c.Rule.Known() {
		bad.Add("decision_rule", "give simple or guarded")
	}
	return bad.Err()
}

func gradeOf(percent float64) Grade {
	const slack = 1e-9 // percent, so that 6.3 of 7 W is 90 %
	switch p := percent + slack; {
	case percent == 0:
		return NoOutput
	case percent > 120+slack:
		return Over
	case p >= 90:
		return AsClaimed
	case p >= 75:
		return Close
	case p >= 50:
		return Short
	}
	return FarShort
}
