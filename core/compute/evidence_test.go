package compute

import (
	"fmt"
	"math"
	"strings"
	"testing"
)

const fiveWatts = common + `,"mean_power_w":5`

// quiet is a sweep whose noise adds nothing to a guard.
func quiet(lines map[float64]float64) bench {
	s := wide(lines)
	s.noise = -140
	return s
}

// TestFiguresAreNoSweep: five figures typed as a file pass nothing, cover nothing,
// and fail what is over.
func TestFiguresAreNoSweep(t *testing.T) {
	list := func(second string) answer {
		return run(t, "judge", `{"fundamental_hz":146e6,`+fiveWatts+`,"sweeps":[{"name":"list","csv":"MHz,dBm\n146,-13\n292,`+second+`\n438,-80\n584,-82\n730,-85\n"}]}`)
	}
	a := list("-55") // 11 dB over -66.02 as displayed
	a.is("verdict", "fail")
	a.is("worst.order", 2)
	a.is("coverage.highest_harmonic", nil)
	if got := a.codes("findings"); got != "not-a-sweep" {
		t.Errorf("findings %q", got)
	}
	a = list("-80")
	a.is("verdict", "inconclusive")
	a.is("products.0.verdict", "inconclusive")
	a.is("products.5.verdict", "not-covered")
	// A list lets nothing pass by itself, but may keep a sweep from it.
	sweep := func(second string) answer {
		rest := fmt.Sprintf(`{"csv":"MHz,dBm\n146,-13\n292,%s\n438,-80\n584,-82\n730,-85\n"},`, second)
		return run(t, "judge", `{"fundamental_hz":146e6,`+fiveWatts+`,"sweeps":[`+rest+quiet(map[float64]float64{146e6: -13, 292e6: -75}).json()+`]}`)
	}
	sweep("-78").is("products.0.verdict", "pass")
	sweep("-66").is("products.0.verdict", "inconclusive")
}

// TestAListNeedNotBeEven: figures at their own frequencies, further apart than any window.
func TestAListNeedNotBeEven(t *testing.T) {
	a := run(t, "judge", `{"fundamental_hz":146e6,`+fiveWatts+`,"sweeps":[{"name":"list","csv":"MHz,dBm\n146,-13\n205,-85\n292,-55\n1460,-80\n"}]}`)
	a.is("products.0.verdict", "fail")
	a.is("products.0.frequency_hz", 292e6)
	a.is("products.1.verdict", "not-covered")
	a.is("products.8.verdict", "inconclusive")
	a.is("coverage.from_hz", nil)
	if got := a.codes("findings"); got != "not-a-sweep" {
		t.Errorf("findings %q", got)
	}
}

// TestNormalised: a sweep saved with its carrier at 0 has the levels of the power meter; an
// absolute term is held with the uncertainty that dBc have, and its carrier checks nothing.
func TestNormalised(t *testing.T) {
	at := func(second float64, rest string) answer {
		s := quiet(map[float64]float64{146e6: 0, 292e6: second})
		return run(t, "judge", `{"fundamental_hz":146e6,"rule_book":"us-amateur","loss_db":50,"expanded_uncertainty_db":1,"expanded_uncertainty_dbc_db":1.5,`+rest+`"sweeps":[`+strings.Replace(s.json(), "{", `{"normalised":true,`, 1)+`]}`)
	}
	limit := -16.0206 - 36.9897
	a := at(limit-1.51, `"mean_power_w":5,`)
	a.near("products.0.dbc", limit-1.51, 1e-9)
	a.near("products.0.level_dbm", -16.0206-1.51, 1e-3)
	a.is("products.0.verdict", "pass")
	if got := a.codes("findings"); got != "normalised" {
		t.Errorf("findings %q", got)
	}
	at(limit-1.49, `"mean_power_w":5,`).is("products.0.verdict", "inconclusive")
	at(limit+1.51, `"mean_power_w":5,`).is("products.0.verdict", "fail")
	at(limit-20, "").is("products.0.verdict", "inconclusive") // below what carrier: the absolute term cannot be held
}

// TestWhatASweepHasExamined: bins wider than the RBW see what lies between only with
// a peak detector, 101 points or more, and up to 50 RBW.
func TestWhatASweepHasExamined(t *testing.T) {
	for _, c := range []struct {
		rbw      float64
		n        int
		detector string
		examined bool
	}{
		{1e6, 1501, "none", true}, {1e6, 1501, "sample", true}, {999e3, 1501, "none", false}, {999e3, 1501, "rms", false},
		{100e3, 1501, "peak", true}, {20e3, 1501, "peak", true}, {19.9e3, 1501, "peak", false}, {1e6, 101, "peak", true}, {1e6, 100, "peak", false},
	} {
		s := quiet(map[float64]float64{146e6: -13})
		s.rbw, s.n, s.detector = c.rbw, c.n, c.detector
		a := rule(t, fiveWatts, s)
		if got := !strings.Contains(a.codes("findings"), "not-a-sweep"); got != c.examined {
			t.Errorf("%+v: examined %v", c, got)
		}
		if got := len(a.at("coverage.examined").([]any)) > 0; got != c.examined {
			t.Errorf("%+v: coverage %v", c, got)
		}
	}
	// Without an RBW a long trace is a list too: nothing unseen is covered.
	long := run(t, "judge", `{"fundamental_hz":146e6,`+fiveWatts+`,"sweeps":[`+strings.Replace(wide(map[float64]float64{146e6: -13, 333e6: -50}).json(), `"rbw_hz":100000,`, "", 1)+`]}`)
	long.is("verdict", "fail") // the spur
	flat := run(t, "judge", `{"fundamental_hz":146e6,`+fiveWatts+`,"sweeps":[{"name":"list","csv":"MHz,dBm\n146,-13\n147,-90\n148,-50\n149,-50\n150,-50\n151,-90\n"}]}`)
	flat.is("worst.frequency_hz", 148e6) // a top of three points is one line
	flat.is("worst.verdict", "fail")
	long.is("products.0.verdict", "not-covered")
}

// TestALineBetweenPoints: without a peak detector a line may lie between two, half
// a bin off: with bins of one RBW it reads 3.01 dB low (a Gaussian filter).
func TestALineBetweenPoints(t *testing.T) {
	at := func(shown float64, detector, rule1 string) answer {
		s := quiet(map[float64]float64{146e6: -13, 292e6: shown})
		s.rbw, s.detector = 1e6, detector
		return rule(t, strings.Replace(fiveWatts, "guarded", rule1, 1), s)
	}
	at(-70.4, "none", "guarded").is("products.0.verdict", "inconclusive") // 4.38 dB of room, 1.5 + 3.01 wanted
	at(-70.6, "none", "guarded").is("products.0.verdict", "pass")
	at(-70.4, "peak", "guarded").is("products.0.verdict", "pass")
	at(-68.9, "sample", "simple").is("products.0.verdict", "inconclusive")
	at(-69.1, "sample", "simple").is("products.0.verdict", "pass")
	at(-69.1, "sample", "guarded").is("coverage.highest_harmonic", 10) // the threshold is not touched
	bound := wide(map[float64]float64{146e6: -13, 292e6: -70})         // just under the threshold of -69.9: unseen
	bound.rbw, bound.detector, bound.noise = 1e6, "sample", -75.9
	a := rule(t, fiveWatts, bound)
	a.is("products.0.seen", false)
	a.is("products.0.verdict", "pass") // -70 and its guard of 3.86 are -66.14; nor are bounds
}

// TestNoiseIsInTheGuard: 20 dB above noise a level may be 0.828 dB higher or 0.915
// dB lower than shown (two voltages, one a tenth of the other).
func TestNoiseIsInTheGuard(t *testing.T) {
	at := func(shown, below float64, detector string) answer {
		s := wide(map[float64]float64{146e6: -13, 292e6: shown})
		s.rbw, s.detector, s.noise = 1e6, detector, shown-below
		return rule(t, strings.Replace(fiveWatts, `_db":1.5`, `_db":1`, 1), s)
	}
	limit := -66.0206
	pass := math.Hypot(1, 0.8279)
	at(limit-pass-0.01, 20, "peak").is("products.0.verdict", "pass")
	at(limit-pass+0.01, 20, "peak").is("products.0.verdict", "inconclusive")
	fail := math.Hypot(1, 0.9151)
	at(limit+fail+0.01, 20, "rms").is("products.0.verdict", "fail")
	at(limit+fail-0.01, 20, "rms").is("products.0.verdict", "inconclusive")
	at(limit+1.93, 20, "peak").is("products.0.verdict", "fail") // lifted: 1 + 0.915
	at(limit+1.90, 20, "peak").is("products.0.verdict", "inconclusive")
	// Each term has the noise in its own guard, a floor as well: 50 mW, floor -20 dBm.
	floor := func(shown float64) answer {
		s := wide(map[float64]float64{146e6: -33.01, 292e6: shown})
		s.noise = shown - 20
		return rule(t, strings.Replace(common, `_db":1.5`, `_db":1`, 1)+`,"mean_power_w":0.05`, s)
	}
	floor(-70-pass-0.01).is("products.0.verdict", "pass")
	floor(-70-pass+0.01).is("products.0.verdict", "inconclusive")
	floor(-70+1.93).is("products.0.verdict", "fail")
}

// TestBlindBelowTheThreshold: with noise at -90 a line shows from -84 on, up to 3.53
// dB higher than it shows (half its amplitude in noise); with U of 1.5 that reaches
// -80.17 as displayed. Whatever the decision rule.
func TestBlindBelowTheThreshold(t *testing.T) {
	for _, rule1 := range []string{"guarded", "simple"} {
		for _, c := range []struct {
			noise float64
			blind int
		}{{-66.0206 - 9.86, 0}, {-66.0206 - 9.80, 2}} {
			s := wide(map[float64]float64{146e6: -13})
			s.noise = c.noise
			a := rule(t, strings.Replace(fiveWatts, "guarded", rule1, 1), s)
			if got := len(a.at("coverage.blind").([]any)); got != c.blind {
				t.Errorf("%s, noise %v: %d blind stretches, want %d", rule1, c.noise, got, c.blind)
			}
			want := any("pass")
			if c.blind > 0 {
				want = "not-covered"
			}
			a.is("products.0.verdict", want)
		}
	}
	// Nothing that is seen where the noise hides the limit passes either.
	s := wide(map[float64]float64{146e6: -13, 292e6: -66.5})
	s.noise = -73
	rule(t, strings.Replace(fiveWatts, "guarded", "simple", 1), s).is("products.0.verdict", "inconclusive")
}

// TestCarrierAgreement, for each sweep by itself.
func TestCarrierAgreement(t *testing.T) {
	lines := func(by, second float64) map[float64]float64 {
		return map[float64]float64{146e6: -13 + by, 292e6: second + by}
	}
	low := rule(t, fiveWatts, quiet(lines(-25, -75)))
	low.is("products.0.verdict", "pass") // -75 + 25 - 25 has its room all the same
	low.is("products.1.verdict", "not-covered")
	low.is("coverage.highest_harmonic", 2) // the bounds are worth nothing, though nothing is blind
	if n := len(low.at("coverage.blind").([]any)); n != 0 {
		t.Errorf("%d blind stretches", n)
	}
	low = rule(t, fiveWatts, quiet(lines(-25, -65)))
	low.is("products.0.verdict", "inconclusive") // shown at -90, as good as -65
	rule(t, strings.Replace(fiveWatts, "guarded", "simple", 1), quiet(lines(-25, -65))).is("products.0.verdict", "inconclusive")
	high := rule(t, fiveWatts, quiet(lines(25, -70)))
	high.is("products.0.verdict", "inconclusive") // -45 shown, over; -70 without the 25 dB
	rule(t, fiveWatts, quiet(lines(25, -60))).is("products.0.verdict", "fail")
	// It is said when another agrees too, and that one rules.
	both := rule(t, fiveWatts, quiet(lines(0, -75)), quiet(lines(-25, -75)))
	if got := both.codes("findings"); got != "carrier-disagrees" {
		t.Errorf("findings %q", got)
	}
	both.is("products.0.verdict", "pass")
	both.is("products.1.verdict", "pass") // unseen in both: the bound of the one that agrees
	rule(t, fiveWatts, quiet(lines(0, -60)), quiet(lines(-25, -75))).is("products.0.verdict", "fail")
	// The threshold rises with it: noise of -100 shows -94, and 25 more.
	s := wide(lines(-25, -75))
	s.noise = -100
	a := rule(t, fiveWatts, s)
	a.is("coverage.highest_harmonic", nil)
	a.is("coverage.passes_to_hz", nil)
	// A sweep over the carrier without one was perhaps not keyed at all.
	none := rule(t, fiveWatts, quiet(nil))
	none.is("verdict", "not-covered")
	if got := none.codes("findings"); got != "carrier-missing" {
		t.Errorf("findings %q", got)
	}
	// Without a power meter nothing is checked, and with a claim 3 dB are.
	for claimed, want := range map[string]string{"5": "carrier-unchecked", "2.6": "carrier-unchecked", "2.4": "carrier-unchecked carrier-against-claim"} {
		if got := rule(t, common+`,"claimed_w":`+claimed, quiet(lines(0, -75))).codes("findings"); got != want {
			t.Errorf("claimed %s W: %q, want %q", claimed, got, want)
		}
	}
}

// TestModulatedUnderANarrowRBW: a 2nd harmonic of 16 kHz of FM is 32 kHz wide; in
// 10 kHz it reads up to 5.05 dB low (10 log10 3.2).
func TestModulatedUnderANarrowRBW(t *testing.T) {
	at := func(shown float64, told string) answer {
		s := bench{start: 145e6, stop: 300e6, rbw: 10e3, n: 15501, noise: -140, lines: map[float64]float64{146e6: -13, 292e6: shown}, rest: told}
		return rule(t, fiveWatts, s)
	}
	a := at(-72.5, `,"modulated":true`) // 6.48 dB of room, 1.5 + 5.05 wanted
	a.is("products.0.verdict", "inconclusive")
	if got := a.codes("findings"); got != "rbw-narrow" {
		t.Errorf("findings %q", got)
	}
	at(-72.7, `,"modulated":true`).is("products.0.verdict", "pass")
	// In 100 kHz nothing up to the sixth harmonic is narrower than its width.
	wideEnough := quiet(map[float64]float64{146e6: -13})
	wideEnough.stop, wideEnough.n, wideEnough.rest = 1000e6, 971, `,"modulated":true`
	if got := rule(t, fiveWatts, wideEnough).codes("findings"); got != "" {
		t.Errorf("findings %q", got)
	}
	at(-72.5, `,"modulated":false`).is("products.0.verdict", "pass")
	a = at(-72.5, "")
	a.is("products.0.verdict", "pass")
	if got := a.codes("findings"); got != "modulation-not-told" {
		t.Errorf("findings %q", got)
	}
}

// TestAModulatedBound: noise of -78.5 hides no line of 16 kHz, but a third harmonic is
// 48 kHz wide: its bound may be 6.81 dB more, and with a guard of 6.2 is over the
// limit, whatever the decision rule. What is not ruled on is not covered.
func TestAModulatedBound(t *testing.T) {
	for _, rule1 := range []string{"guarded", "simple"} {
		s := bench{start: 290e6, stop: 440e6, rbw: 10e3, n: 15001, noise: -78.5, rest: `,"modulated":true`}
		a := rule(t, strings.Replace(fiveWatts, "guarded", rule1, 1), s)
		a.is("products.0.verdict", "pass")
		a.is("products.1.verdict", "not-covered")
		a.is("coverage.highest_harmonic", nil) // nothing was looked at above the carrier
	}
}

// TestSeveralSweepsOfOneProduct: it passes by the highest, fails by the mean.
func TestSeveralSweepsOfOneProduct(t *testing.T) {
	at := func(levels ...float64) answer {
		var all []bench
		for _, l := range levels {
			all = append(all, quiet(map[float64]float64{146e6: -13, 292e6: l}))
		}
		return rule(t, fiveWatts, all...)
	}
	a := at(-70, -67)
	a.is("products.0.verdict", "inconclusive")
	a.near("products.0.level_dbm", -17, 1e-9)
	at(-70, -68).is("products.0.verdict", "pass")
	at(-64.4, -65.6).is("products.0.verdict", "inconclusive") // mean -65: 1.02 over
	at(-63.4, -64.6).is("products.0.verdict", "fail")         // mean -64: 2.02 over
	// Further apart than both uncertainties, 2.12 dB, they decide only where they agree.
	a = at(-61, -67)
	a.is("products.0.verdict", "inconclusive")
	if got := a.codes("findings"); got != "sightings-disagree" {
		t.Errorf("findings %q", got)
	}
	at(-61, -63.2).is("products.0.verdict", "fail")
	at(-75, -70).is("products.0.verdict", "pass")
}

// TestLooksAreReadRoughly: a wide look tells frequencies to a 300th of its span.
func TestLooksAreReadRoughly(t *testing.T) {
	at := func(f, more string) answer {
		return run(t, "judge", `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":5,"loss_db":50,"expanded_uncertainty_db":1,
			"looks":[{"from_hz":30e6,"to_hz":1e9,"floor_dbm":-90,"peaks":[{"frequency_hz":148e6,"level_dbm":-13},{"frequency_hz":`+f+`,"level_dbm":-80}]`+more+`}]}`)
	}
	a := at("295e6", "")
	a.is("products.0.seen", true)
	a.is("carrier_from", "power-meter")
	a.near("carrier_seen_dbm", 37, 1e-9)
	a = at("296e6", "")
	a.is("products.0.seen", false)
	at("296e6", `,"frequency_tolerance_hz":5e6`).is("products.0.seen", true)
	// What a look's floor is worth: as high again in noise, 6.02 dB.
	blind := func(floor string) answer {
		return run(t, "judge", `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":5,"loss_db":50,"expanded_uncertainty_db":1,"looks":[{"from_hz":30e6,"to_hz":1.5e9,"floor_dbm":`+floor+`}]}`)
	}
	blind("-72.2").is("products.0.verdict", "pass") // 6.1 dB wanted
	blind("-72.0").is("products.0.verdict", "not-covered")
	blind("-72.0").is("coverage.highest_harmonic", nil)
	// Combs are told in looks too.
	var peaks []string
	for k := range 6 {
		peaks = append(peaks, fmt.Sprintf(`{"frequency_hz":%d,"level_dbm":-80}`, 310000000+k*39000000))
	}
	comb := run(t, "judge", `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":5,"loss_db":50,"expanded_uncertainty_db":1,"looks":[{"from_hz":30e6,"to_hz":1e9,"peaks":[`+strings.Join(peaks, ",")+`]}]}`)
	comb.near("findings.0.spacing_hz", 39e6, 1)
}

// TestRelativeOnly: a coupling nobody measured, vouched to be flat, gives levels
// below the carrier and nothing else.
func TestRelativeOnly(t *testing.T) {
	at := func(book, tap string, second float64) answer {
		s := quiet(map[float64]float64{146e6: -31, 292e6: second})
		in := fmt.Sprintf(`{%s,"fundamental_hz":146e6,"mean_power_w":5,"expanded_uncertainty_db":1,
			"path":{"elements":[{"kind":"tap",%s,"main_load_w":50},{"kind":"attenuator","loss":{"flat_db":20}}]},"sweeps":[%s]}`, book, tap, s.json())
		return run(t, "judge", in)
	}
	const flat = `"coupling_unknown":true,"flat_within_db":1`
	u := math.Hypot(1, 2/math.Sqrt(3))
	a := at(`"rule_book":"house-forty-down"`, flat, -31-40-u-0.01)
	a.is("products.0.verdict", "pass")
	a.is("products.0.level_dbm", nil)
	a.is("products.0.limit_dbm", nil)
	a.near("products.0.dbc", -40-u-0.01, 1e-9)
	a.near("products.0.margin_db", u+0.01, 1e-9)
	if got := a.codes("findings"); got != "relative-only" {
		t.Errorf("findings %q", got)
	}
	at(`"rule_book":"house-forty-down"`, flat, -31-40-u+0.01).is("products.0.verdict", "inconclusive")
	at(`"rule_book":"house-forty-down"`, flat, -31-37).is("products.0.verdict", "fail")
	at(`"rule_book":"us-amateur"`, flat, -31-80).is("products.0.verdict", "inconclusive") // the 25 µW cannot be held
	at(`"rule_book":"us-amateur"`, flat, -31-30).is("products.0.verdict", "inconclusive") // nor the floor of 10 µW be ruled out
	lenient := `"book":{"id":"l","title":"","kind":"house","source":"a test","recalled":false,"clauses":[{"when":{},"citation":"c","segments":[{"terms":[{"formula_db":43},{"relative_db":70}],"combine":"lenient"}]}]}`
	at(lenient, flat, -31-80).is("products.0.verdict", "pass") // 70 dB, or what allows more
	at(lenient, flat, -31-30).is("products.0.verdict", "inconclusive")
	look := run(t, "judge", `{"rule_book":"house-forty-down","fundamental_hz":146e6,"mean_power_w":5,"expanded_uncertainty_db":1,
		"path":{"elements":[{"kind":"tap",`+flat+`,"main_load_w":50}]},"looks":[{"from_hz":30e6,"to_hz":1e9,"floor_dbm":-90,"peaks":[{"frequency_hz":292e6,"dbc":-45},{"frequency_hz":438e6,"level_dbm":-20}]}]}`)
	look.is("products.0.verdict", "pass")
	look.near("products.0.dbc", -45, 1e-9)
	look.is("products.1.verdict", "not-covered") // a level of nothing
	look.is("coverage.from_hz", nil)
	through := run(t, "path", `{"source_w":5,"frequencies_hz":[146e6],"elements":[{"kind":"tap",`+flat+`,"max_w":50,"main_load_w":50},{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":3e9,"max_input_dbm":10}]}]}`)
	through.is("total_loss_db.0", nil)
	if got := through.codes("problems"); got != "out-of-range" {
		t.Errorf("problems %q", got)
	}
	none := at(`"rule_book":"house-forty-down"`, `"coupling_unknown":true`, -31-80)
	none.is("verdict", "not-covered")
	none.is("coverage.from_hz", nil)
}

// TestSourceSWR: 3 into 1.2 is 0.279 dB more of standard uncertainty (U-shaped).
func TestSourceSWR(t *testing.T) {
	at := func(shown float64, more string) answer {
		rest := strings.Replace(fiveWatts, `"loss_db":50`, `"path":{"elements":[{"kind":"adapter","loss":{"flat_db":0}},{"kind":"attenuator","loss":{"flat_db":50},"swr":1.2}]}`, 1)
		return rule(t, rest+more, quiet(map[float64]float64{146e6: -13, 292e6: shown}))
	}
	at(-67.55, "").is("products.0.verdict", "pass")
	at(-67.55, `,"source_swr":3`).is("products.0.verdict", "inconclusive")
	at(-67.65, `,"source_swr":3`).is("products.0.verdict", "pass")
	// A relative term has it too: 40 dB down are -53.01 as displayed.
	forty := func(shown float64) answer {
		rest := `"rule_book":"house-forty-down","path":{"elements":[{"kind":"attenuator","loss":{"flat_db":50},"swr":1.2}]},"expanded_uncertainty_db":1.5,"mean_power_w":5,"source_swr":3`
		return rule(t, rest, quiet(map[float64]float64{146e6: -13, 292e6: shown}))
	}
	forty(-54.55).is("products.0.verdict", "inconclusive")
	forty(-54.65).is("products.0.verdict", "pass")
}

// TestAZoomedCarrierFillsThePicture: its foot is neither noise nor a product.
func TestAZoomedCarrierFillsThePicture(t *testing.T) {
	s := bench{start: 145.96e6, stop: 146.04e6, rbw: 10e3, n: 401, noise: -90, lines: map[float64]float64{}}
	for i := range s.n {
		f := s.start + float64(i)*200
		x := (f - 146e6) / s.rbw
		if l := -13 - 12.04*x*x; l > s.noise {
			s.lines[f] = l
		}
	}
	a := rule(t, fiveWatts, s)
	a.near("carrier_seen_dbm", 37, 1e-9)
	if got := a.codes("findings"); got != "modulation-not-told" {
		t.Errorf("findings %q", got)
	}
	if rows := len(a.at("products").([]any)); rows != 9 {
		t.Errorf("%d rows, want harmonics 2 to 10 alone", rows)
	}
	// Nearer still there is no noise at all beside it, and it is checked all the same.
	for _, span := range []float64{20e3, 30e3, 40e3, 60e3} {
		s.start, s.stop, s.lines = 146e6-span/2, 146e6+span/2, map[float64]float64{}
		for i := range s.n {
			f := s.start + float64(i)*span/400
			x := (f - 146e6) / s.rbw
			s.lines[f] = max(s.noise, -13-12.04*x*x)
		}
		a = rule(t, fiveWatts+`,"carrier_uncertainty_db":0.5`, s)
		a.near("carrier_seen_dbm", 37, 1e-9)
		if got := a.codes("findings"); got != "modulation-not-told" {
			t.Errorf("%v Hz wide: findings %q", span, got)
		}
		if got := rule(t, common+`,"mean_power_w":1`, s).codes("findings"); got != "carrier-disagrees modulation-not-told" {
			t.Errorf("%v Hz wide, another power: findings %q", span, got)
		}
	}
}

// TestAZoomWithoutItsRBW: of a list of figures only tops are lines; the foot of a
// carrier swept with an unknown 30 kHz is none, wherever the carrier stands among
// the points, nor is that of a harmonic.
func TestAZoomWithoutItsRBW(t *testing.T) {
	for _, n := range []float64{1, 2} {
		for _, off := range []float64{0, 3e3, 5e3, 60e3} {
			s := bench{start: n*146e6 - 5e6, stop: n*146e6 + 5e6, rbw: 30e3, n: 1001, noise: -90, lines: map[float64]float64{}}
			top := map[float64]float64{1: -13, 2: -50}[n]
			for i := range s.n {
				f := s.start + float64(i)*10e3
				x := (f - n*146e6 - off) / s.rbw
				s.lines[f] = max(s.noise, top-12.04*x*x)
			}
			a := run(t, "judge", `{"fundamental_hz":146e6,"emission_bandwidth_hz":16000,`+fiveWatts+`,"sweeps":[`+strings.Replace(s.json(), `"rbw_hz":30000,`, "", 1)+`]}`)
			a.is("verdict", map[float64]string{1: "not-covered", 2: "fail"}[n])
			if rows := len(a.at("products").([]any)); rows != 9 {
				t.Errorf("at %v times the carrier, %v Hz off: %d rows, want harmonics 2 to 10 alone", n, off, rows)
			}
		}
	}
}

// TestTheCarriersFootInAList: a flat top of 1 MHz resolution nobody told reaches past
// 0.1 % of the carrier, and a peak detector's coarse points stand for half a step to
// each side, wherever the carrier is in it. Neither is a spur.
func TestTheCarriersFootInAList(t *testing.T) {
	judged := func(sweep string) answer {
		return run(t, "judge", `{"fundamental_hz":146e6,"emission_bandwidth_hz":16000,`+fiveWatts+`,"sweeps":[`+sweep+`]}`)
	}
	s := bench{start: 130e6, stop: 160e6, n: 501, noise: -90, lines: map[float64]float64{}}
	for i := range s.n {
		f := s.start + float64(i)*60e3
		x := (f - 146e6) / 1e6
		s.lines[f] = max(s.noise, math.Round(-13-12.04*x*x)) - 0.2*float64(i%2)
	}
	judged(strings.Replace(s.json(), `"rbw_hz":0,`, "", 1)).is("verdict", "not-covered")

	coarse := bench{start: 30e6, stop: 1030e6, rbw: 30e3, n: 201, noise: -90}
	for _, at := range []float64{145e6, 150e6} { // 146 MHz is in the point at 145
		coarse.lines = map[float64]float64{at: -13}
		a := judged(coarse.json())
		a.is("verdict", map[float64]string{145e6: "not-covered", 150e6: "fail"}[at])
	}
	coarse.start, coarse.stop = 28.51e6, 1028.51e6 // 146 MHz is 2.49 MHz above a point, 2.51 below the next
	coarse.lines = map[float64]float64{143.51e6: -13, 148.51e6: -14}
	judged(coarse.json()).is("verdict", "not-covered")

	// Nor is the foot of a carrier between two points, where 1 MHz wide was not told.
	between := bench{start: 30e6, stop: 710e6, n: 201, noise: -90, detector: "none", lines: map[float64]float64{145.6e6: -38}}
	carrierAt := func(hz string, s bench) answer {
		return run(t, "judge", `{"fundamental_hz":`+hz+`,"emission_bandwidth_hz":16000,`+fiveWatts+`,"sweeps":[`+strings.Replace(s.json(), `"rbw_hz":0,`, "", 1)+`]}`)
	}
	carrierAt("147.2e6", between).is("verdict", "not-covered")
	carrierAt("144.1e6", between).is("verdict", "not-covered")
	between.lines = map[float64]float64{149e6: -38}
	carrierAt("146e6", between).is("verdict", "fail") // 3 MHz away

	// A trace that begins or ends on its foot says no more of it.
	above := bench{start: 146.6e6, stop: 246.6e6, n: 201, noise: -90, detector: "none", lines: map[float64]float64{146.6e6: -44, 147.1e6: -70}}
	carrierAt("145e6", above).is("verdict", "not-covered")
	above.lines = map[float64]float64{147.1e6: -44} // a top is a line
	carrierAt("145e6", above).is("verdict", "fail")
	below := bench{start: 46.4e6, stop: 146.4e6, n: 201, noise: -90, detector: "none", lines: map[float64]float64{146.4e6: -44, 145.9e6: -70}}
	carrierAt("147.9e6", below).is("verdict", "not-covered")

	// With another detector a point beside the carrier is a line by itself.
	fine := wide(map[float64]float64{146e6: -13, 147e6: -40})
	fine.detector = "sample"
	a := judged(fine.json())
	a.is("worst.frequency_hz", 147e6)
	a.is("worst.verdict", "fail")
}

// TestPEPTermsAreOfThePeak: 50 dB below 1 W of carrier are -20 dBm, below its peaks
// of 100 W they are 0.
func TestPEPTermsAreOfThePeak(t *testing.T) {
	at := func(pep string) answer {
		s := bench{start: 1e6, stop: 200e6, rbw: 100e3, n: 1991, noise: -140, lines: map[float64]float64{7e6: -0.01, 14e6: -30}}
		return run(t, "judge", `{"book":{"id":"p","title":"","kind":"house","source":"a test","recalled":false,"clauses":[{"when":{},"citation":"c","segments":[{"terms":[{"relative_db":50,"power":"pep"}]}]}]},"fundamental_hz":7e6,"mean_power_w":1,"loss_db":30,"expanded_uncertainty_db":1,"sweeps":[`+s.json()+`]`+pep+`}`)
	}
	at(`,"pep_w":100`).near("products.0.limit_dbm", 0, 1e-9)
	at("").near("products.0.limit_dbm", -20, 1e-9)
}

// TestLossAtTheExpectedFrequency: on a sloping table a harmonic found a point off
// has the loss of where it belongs.
func TestLossAtTheExpectedFrequency(t *testing.T) {
	slope := strings.Replace(fiveWatts, `"loss_db":50`, `"path":{"elements":[{"kind":"attenuator","loss":{"table":[{"frequency_hz":0,"db":50},{"frequency_hz":1e9,"db":60}]}}]}`, 1)
	rule(t, slope, quiet(map[float64]float64{146e6: -14.47, 293e6: -75})).near("products.0.level_dbm", -75+52.92, 1e-9)
}
