package frequency

import (
	"math"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/units"
)

// TestReadings: a frequency alone is in MHz, a sign or ppm make an error; 125 Hz at 432.1 MHz are
// 0.29 ppm (common practice, no source).
func TestReadings(t *testing.T) {
	for _, x := range []struct {
		text    string
		nominal units.Hertz
		hz      float64
	}{
		{"145.500312", 145.5e6, 312}, {"145,5003", 145.5e6, 300}, {"145500312 Hz", 145.5e6, 312}, {"145500.312kHz", 145.5e6, 312}, {"0.145500312GHz", 145.5e6, 312},
		{"+312Hz", 145.5e6, 312}, {"-1.2kHz", 145.5e6, -1200}, {"\u22121.2kHz", 145.5e6, -1200}, {"2.1ppm", 145.5e6, 305.55}, {"-2.1 ppm", 145.5e6, -305.55}, {"+125Hz", 432.1e6, 125},
	} {
		out, err := Measure(Input{Text: x.text, Nominal: x.nominal, Rule: decision.Guarded})
		if err != nil || math.Abs(out.ErrorHz-x.hz) > 1e-6 || math.Abs(out.MeasuredHz-float64(x.nominal)-x.hz) > 1e-6 || out.Verdict != nil {
			t.Errorf("%s: %+v %v", x.text, out, err)
		}
	}
	out, _ := Measure(Input{Text: "+125Hz", Nominal: 432.1e6, Rule: decision.Guarded})
	if math.Abs(out.ErrorPPM-0.29) > 0.005 {
		t.Errorf("%+v", out)
	}
	for text, want := range map[string]string{"": "not understood", "312": "more than 1 %", "+312": "sign and no unit", "312hz": "not understood", "2.1 PPM": "not understood", "1,500": "ambiguous", "147.0": "more than 1 %", "-": "not understood", "0Hz": "no frequency", "1e999MHz": "too large"} {
		if _, err := Measure(Input{Text: text, Nominal: 145.5e6, Rule: decision.Guarded}); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v, want %q", text, err, want)
		}
	}
}

// TestClaims are held with the uncertainty of the reference and the last digit.
func TestClaims(t *testing.T) {
	u := 2 * math.Hypot(145.5*0.5/math.Sqrt(3), 1/(2*math.Sqrt(3)))
	for claim, want := range map[float64]decision.Verdict{312 + u + 0.01: decision.Pass, 312 + u - 0.01: decision.Inconclusive, 312 - u + 0.01: decision.Inconclusive, 312 - u - 0.01: decision.Fail} {
		in := Input{Text: "+312Hz", Nominal: 145.5e6, ReferencePPM: 0.5, ResolutionHz: 1, ClaimedHz: &claim, Rule: decision.Guarded}
		out, err := Measure(in)
		if err != nil || math.Abs(out.UncertaintyHz-u) > 1e-9 || *out.Verdict != want {
			t.Errorf("%g Hz: %+v %v, want %s", claim, out, err, want)
		}
		ppm := claim / 145.5
		in.ClaimedHz, in.ClaimedPPM = nil, &ppm
		if out, err := Measure(in); err != nil || *out.Verdict != want {
			t.Errorf("%g ppm: %+v %v, want %s", ppm, out, err, want)
		}
		in.Rule = decision.Simple
		if out, _ := Measure(in); (*out.Verdict == decision.Pass) != (claim >= 312) {
			t.Errorf("simple, %g ppm: %+v", ppm, out)
		}
	}
	one := 1.0
	if _, err := Measure(Input{Text: "+1Hz", Nominal: 1e6, ClaimedHz: &one, ClaimedPPM: &one, Rule: decision.Guarded}); err == nil || !strings.Contains(err.Error(), "not both") {
		t.Errorf("both claims: %v", err)
	}
}

// TestEdgesOfAFrequency: within 1 % of the nominal one it is meant for it; figures that are none are refused.
func TestEdgesOfAFrequency(t *testing.T) {
	for text, refused := range map[string]bool{"146.45MHz": false, "146.46MHz": true, "143.56MHz": false, "143.54MHz": true} {
		if _, err := Measure(Input{Text: text, Nominal: 145e6, Rule: decision.Guarded}); (err != nil) != refused {
			t.Errorf("%s: %v", text, err)
		}
	}
	for field, in := range map[string]Input{
		"nominal_hz": {Text: "+1Hz", Rule: decision.Guarded}, "reference_ppm": {Text: "+1Hz", Nominal: 1e6, ReferencePPM: -1, Rule: decision.Guarded}, "resolution_hz": {Text: "+1Hz", Nominal: 1e6, ResolutionHz: -1, Rule: decision.Guarded},
		"decision_rule": {Text: "+1Hz", Nominal: 1e6}, "text: ": {Text: "+1e305GHz", Nominal: 1e6, Rule: decision.Guarded},
	} {
		if _, err := Measure(in); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// TestClaimsOfAnError: one of two forms, none below 0.
func TestClaimsOfAnError(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	for field, in := range map[string]Input{
		"claimed_ppm: ": {Text: "+1Hz", Nominal: 1e6, ClaimedPPM: v(-1), Rule: decision.Guarded}, "claimed_hz: give 0": {Text: "+1Hz", Nominal: 1e6, ClaimedHz: v(-1), Rule: decision.Guarded},
		"claimed_hz: give claimed": {Text: "+1Hz", Nominal: 1e6, ClaimedHz: v(1), ClaimedPPM: v(1), Rule: decision.Guarded},
	} {
		if _, err := Measure(in); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// TestBeyondAllNumbers is refused.
func TestBeyondAllNumbers(t *testing.T) {
	if _, err := Measure(Input{Text: "+1e306Hz", Nominal: 1e-5, Rule: decision.Guarded}); err == nil || !strings.Contains(err.Error(), "too large") {
		t.Error(err)
	}
}
