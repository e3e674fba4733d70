package compute

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

// lineIn is a trace of n points from 30 to 1000 MHz: RMS noise, and lines seen through a
// Gaussian filter of so many points, 12.04 dB down at its width.
func lineIn(n int, rbwPoints, noise, spread float64, lines map[float64]float64, seed uint64) bench {
	r := rand.New(rand.NewPCG(3, seed))
	step := 970e6 / float64(n-1)
	b := bench{start: 30e6, stop: 1000e6, n: n, rbw: rbwPoints * step, lines: map[float64]float64{}, detector: "rms"}
	for i := range n {
		f := 30e6 + float64(i)*step
		p := math.Pow(10, (noise+spread*r.NormFloat64())/10)
		for at, dbm := range lines {
			x := (f - at) / b.rbw
			p += math.Pow(10, (dbm-12.04*x*x)/10)
		}
		b.lines[f] = 10 * math.Log10(p)
	}
	return b
}

// TestALineDoesNotHideItself: 401 points, a bandwidth of 1.5 to 4 of them; a spur 4 dB over
// the limit and 18 dB over the noise.
func TestALineDoesNotHideItself(t *testing.T) {
	for k, rbw := range []float64{1.5, 2, 3, 4} {
		s := lineIn(401, rbw, -80, 0.5, map[float64]float64{146e6: -13, 401e6: -62}, uint64(k))
		a := rule(t, strings.Replace(common, `"expanded_uncertainty_db":1.5`, `"expanded_uncertainty_db":1`, 1)+`,"mean_power_w":5`, s)
		if v := a.at("verdict"); v != "fail" && v != "inconclusive" {
			t.Errorf("bandwidth of %v points: %v, blind %v", rbw, v, a.at("coverage.blind"))
		}
		seen := false
		for i := range a.at("products").([]any) {
			p := fmt.Sprintf("products.%d.", i)
			if f, ok := a.at(p + "frequency_hz").(float64); ok && math.Abs(f-401e6) < 2*s.rbw && a.at(p+"seen") == true {
				seen = true
			}
		}
		if !seen {
			t.Errorf("bandwidth of %v points: the spur has no row", rbw)
		}
	}
}

// TestInBlindNoiseALineIsStillTold: noise over the limit hides it, but not what stands clear
// of that; raised noise wider than 30 bandwidths is noise, narrower it is a product.
func TestInBlindNoiseALineIsStillTold(t *testing.T) {
	noisy := func(lines map[float64]float64) answer {
		s := lineIn(2001, 2, -64, 0.5, lines, 9)
		s.lines[30e6+970e6/2000*math.Round((146e6-30e6)/(970e6/2000))] = -13
		return rule(t, common+`,"mean_power_w":5`, s)
	}
	a := noisy(map[float64]float64{292e6: -53})
	a.is("products.0.seen", true)
	if v := a.at("products.0.verdict"); v != "fail" && v != "inconclusive" {
		t.Errorf("a second harmonic 13 dB over the limit: %v", v)
	}
	raised := func(rbws float64) answer {
		s := bench{start: 130e6, stop: 1130e6, rbw: 100e3, n: 10001, noise: -90, lines: map[float64]float64{146e6: -13}, detector: "rms"}
		for f := 600e6 - rbws/2*s.rbw; f <= 600e6+rbws/2*s.rbw; f += s.rbw {
			s.lines[f] = -60
		}
		return rule(t, common+`,"mean_power_w":5`, s)
	}
	if v := raised(20).at("verdict"); v != "fail" && v != "inconclusive" {
		t.Errorf("raised over 20 bandwidths: %v", v)
	}
	wide := raised(45)
	wide.is("verdict", "pass")
	if wide.at("coverage.blind").([]any) == nil || wide.at("coverage.passes_to_hz").(float64) > 600e6 {
		t.Errorf("raised over 45 bandwidths: blind %v", wide.at("coverage.blind"))
	}
}

// TestACarrierFarUnderItsClaim passes only what would with that much more.
func TestACarrierFarUnderItsClaim(t *testing.T) {
	at := func(carrier, second float64) answer {
		return rule(t, common+`,"claimed_w":5`, wide(map[float64]float64{146e6: carrier, 292e6: second}))
	}
	at(-16.1, -78).is("products.0.verdict", "pass") // 3.1 dB under would be too much: 33.9 dBm against 36.99
	a := at(-53, -115)
	a.is("products.1.verdict", "not-covered")
	if !strings.Contains(a.codes("findings"), "carrier-against-claim") || a.at("verdict") == "pass" {
		t.Errorf("40 dB under the claim: %v %s", a.at("verdict"), a.codes("findings"))
	}
	at(-15.9, -85).is("products.1.verdict", "pass")
	at(-16.2, -70).is("products.0.verdict", "inconclusive") // -20 dBm, 3.2 dB more is over the limit
}

// TestSightingsApart: what one does not show that the other does far over what it could.
func TestSightingsApart(t *testing.T) {
	carrier := map[float64]float64{146e6: -13}
	with := map[float64]float64{146e6: -13, 401e6: -62}
	one, other := wide(with), wide(carrier)
	a := rule(t, common+`,"mean_power_w":5`, one, other)
	if got := a.codes("findings"); !strings.Contains(got, "sightings-disagree") {
		t.Errorf("findings %q", got)
	}
	a.is("verdict", "inconclusive") // over the limit by one, where the other could have shown it 22 dB under
	// Both within the limit: apart or not, it passes by every one.
	with[401e6] = -75
	a = rule(t, common+`,"mean_power_w":5`, wide(with), other)
	a.is("verdict", "pass")
	// What the other could not have shown says nothing.
	with[401e6] = -62
	other.noise = -66
	rule(t, common+`,"mean_power_w":5`, wide(with), other).is("verdict", "fail")
}

// TestLooksOfSeveralLines: the nearest to a multiple is the harmonic, a step counts, and a floor
// nobody can see is not believed.
func TestLooksOfSeveralLines(t *testing.T) {
	look := func(floor float64, through, more, peaks string) answer {
		return run(t, "judge", fmt.Sprintf(`{"fundamental_hz":145.5e6,"rule_book":"us-amateur","mean_power_w":5,%s,"expanded_uncertainty_db":1,"decision_rule":"guarded","looks":[{"name":"l","from_hz":30e6,"to_hz":1500e6,"floor_dbm":%g%s,"peaks":[{"frequency_hz":145.5e6,"level_dbm":-13},%s]}]}`, through, floor, more, peaks))
	}
	const loss = `"loss_db":50`
	a := look(-80, loss, "", `{"frequency_hz":725e6,"level_dbm":-60},{"frequency_hz":727e6,"level_dbm":-75}`)
	a.near("products.3.frequency_hz", 727e6, 0)
	a.is("products.3.verdict", "pass")
	a.is("verdict", "fail") // the other is a spur of its own
	a.near("coverage.near_carrier_hz", 1470e6/300, 1)
	// Beside the window, within its double: which is it?
	a = look(-80, loss, "", `{"frequency_hz":733e6,"level_dbm":-75}`)
	a.is("products.3.verdict", "not-covered")
	a.is("products.2.verdict", "pass")
	if got := a.codes("findings"); !strings.Contains(got, "near-multiple") {
		t.Errorf("findings %q", got)
	}
	// -67.1 is -17.1 dBm, 1.08 dB under 25 uW: 1 dB of U is less, with a step of 1 dB it is 1.15.
	for more, want := range map[string]string{"": "pass", `,"reading_step_db":0.1`: "pass", `,"reading_step_db":1`: "inconclusive"} {
		look(-120, loss, more, `{"frequency_hz":291e6,"level_dbm":-67.1}`).is("products.0.verdict", want)
		look(-120, loss, "", `{"frequency_hz":291e6,"level_dbm":-67.1`+more+`}`).is("products.0.verdict", want)
	}
	path := `"path":{"elements":[{"kind":"attenuator","loss":{"flat_db":50}},{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":3e9,"max_input_dbm":10,"noise_floor_dbm":-75}]}]}`
	for floor, doubtful := range map[float64]bool{-85: false, -85.1: true, -100: true} {
		a := look(floor, path, "", `{"frequency_hz":291e6,"level_dbm":-74}`)
		if got := strings.Contains(a.codes("findings"), "floor-doubtful"); got != doubtful {
			t.Errorf("a floor of %v over noise of -75: %v", floor, got)
		}
	}
	a = look(-170, loss, "", `{"frequency_hz":291e6,"level_dbm":-80}`)
	a.near("products.1.level_dbm", -100, 1e-9) // -150 counts
}

// TestClauseEdges: 24.5 W within 0.5 dB may be more than 25 W, where 60 dB below holds.
func TestClauseEdges(t *testing.T) {
	at := func(w, second float64) answer {
		return rule(t, fmt.Sprintf(`%s,"mean_power_w":%g,"carrier_uncertainty_db":0.5`, strings.Replace(common, "1.5", "0.2", 1), w), wide(map[float64]float64{146e6: -50 + 10*math.Log10(w*1000), 292e6: second}))
	}
	book := `"rule_book":"us-amateur"`
	a := at(24.5, -70)
	if !strings.Contains(a.codes("findings"), "clause-edge") {
		t.Errorf("%s: findings %q", book, a.codes("findings"))
	}
	a.is("products.0.verdict", "pass")
	at(24.5, -60).is("products.0.verdict", "fail")
	if got := at(20, -70).codes("findings"); strings.Contains(got, "clause-edge") {
		t.Errorf("20 W: findings %q", got)
	}
	// A book whose limit falls from -10 to -30 dBm at 5 W: between, it is not told.
	own := `"book":{"id":"own","title":"own","kind":"house","source":"own","recalled":false,"clauses":[{"when":{"mean_under_w":5},"citation":"under","segments":[{"terms":[{"absolute_dbm":-10}]}]},{"when":{},"citation":"over","segments":[{"terms":[{"absolute_dbm":-30}]}]}]}`
	for w, want := range map[float64]string{4: "pass", 4.8: "inconclusive", 5.2: "inconclusive", 6: "fail"} {
		rule(t, fmt.Sprintf(`%s,"loss_db":50,"expanded_uncertainty_db":0.2,"decision_rule":"guarded","mean_power_w":%g,"carrier_uncertainty_db":0.5`, own, w), wide(map[float64]float64{146e6: -50 + 10*math.Log10(w*1000), 292e6: -70})).is("products.0.verdict", want)
	}
}

// TestAnAnalyzerThatStatesNoIntercept fails no harmonic that it may have made itself. 5 W
// behind 50 dB are -13 dBm: a poor input makes its 2nd at -(20 + 13) dBc, -46 dBm as displayed;
// its 3rd at -2 (0 + 13) - 9.54 dBc, -48.5.
func TestAnAnalyzerThatStatesNoIntercept(t *testing.T) {
	at := func(intercepts string, order int, levels ...float64) answer {
		var sweeps []bench
		for i, l := range levels {
			pad := 50 + 6*float64(i)
			s := wide(map[float64]float64{146e6: 36.99 - pad, 146e6 * float64(order): l - pad})
			s.noise = -100
			s.rest = fmt.Sprintf(`,"path":{"elements":[{"kind":"attenuator","loss":{"flat_db":%g}},{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":3e9}]%s}]}`, pad, intercepts)
			sweeps = append(sweeps, s)
		}
		return rule(t, `"rule_book":"us-amateur","expanded_uncertainty_db":1.5,"mean_power_w":5`, sweeps...)
	}
	const second, third = 36.99 - 33, 36.99 - 26 - 9.54
	for _, c := range []struct {
		intercepts string
		order      int
		levels     []float64
		want       string
	}{
		{"", 2, []float64{second + 5.9}, "inconclusive"}, {"", 2, []float64{second + 6.1}, "fail"}, {"", 3, []float64{third + 5.9}, "inconclusive"}, {"", 3, []float64{third + 6.1}, "fail"},
		{"", 5, []float64{third + 5.9}, "inconclusive"}, {`,"toi_dbm":30`, 5, []float64{third}, "fail"}, {`,"toi_dbm":30`, 2, []float64{second}, "inconclusive"}, {`,"shi_dbm":80`, 2, []float64{second}, "fail"},
		{"", 2, []float64{-10, -10}, "fail"}, {"", 2, []float64{-9, -11}, "fail"}, {"", 2, []float64{-8, -11}, "inconclusive"},
	} {
		a := at(c.intercepts, c.order, c.levels...)
		a.is(fmt.Sprintf("products.%d.verdict", c.order-2), c.want)
		if got := a.codes("findings"); strings.Contains(got, "self-made-unknown") != (c.want == "inconclusive" && len(c.levels) == 1) && len(c.levels) == 1 {
			t.Errorf("%+v: findings %q", c, got)
		}
	}
}

// TestRelativeOnlyWithoutAMeter: the sight's own carrier is enough for a book that counts from it.
func TestRelativeOnlyWithoutAMeter(t *testing.T) {
	at := func(book string, second float64, rest string) answer {
		return run(t, "judge", fmt.Sprintf(`{"fundamental_hz":146e6,"rule_book":%q,"expanded_uncertainty_db":1,"decision_rule":"guarded"%s,"path":{"elements":[{"kind":"tap","coupling_unknown":true,"flat_within_db":2},{"kind":"analyzer","shi_dbm":90,"toi_dbm":90,"ranges":[{"from_hz":1e5,"to_hz":3e9}]}]},"looks":[{"name":"l","from_hz":130e6,"to_hz":1500e6,"floor_dbm":-80,"peaks":[{"frequency_hz":146e6,"level_dbm":1},{"frequency_hz":292e6,"level_dbm":%g}]}]}`, book, rest, second))
	}
	a := at("house-forty-down", -44, "")
	a.is("products.0.verdict", "pass")
	a.near("products.0.dbc", -45, 1e-9)
	a.near("products.0.margin_db", 5, 1e-9)
	a.is("products.0.level_dbm", nil)
	a.is("carrier_dbm", nil)
	at("house-forty-down", -35, "").is("products.0.verdict", "fail")
	at("house-forty-down", -40, "").is("products.0.verdict", "inconclusive") // 1 dB, with a flatness of 2.3
	at("us-amateur", -90, "").is("products.0.verdict", "inconclusive")       // the absolute part cannot be held
	at("us-amateur", -20.5, `,"mean_power_w":5`).is("products.0.verdict", "inconclusive")
}

// TestTheWholeComb: every tooth counts, the smallest spacing that fits, with two neighbours
// missing but not three, and over 60 % of them there.
func TestTheWholeComb(t *testing.T) {
	at := func(teeth ...int) (spacing, lines float64) {
		all := map[float64]float64{146e6: -13}
		for _, k := range teeth {
			all[300e6+float64(k)*7e6] = -60
		}
		a := rule(t, common+`,"mean_power_w":5`, wide(all))
		for i, f := range a.at("findings").([]any) {
			if f.(map[string]any)["code"] == "comb" {
				at := fmt.Sprintf("findings.%d.", i)
				return a.at(at + "spacing_hz").(float64), a.at(at + "lines").(float64)
			}
		}
		return 0, 0
	}
	for _, c := range []struct {
		teeth []int
		lines float64
	}{
		{[]int{0, 1, 2, 3}, 4}, {[]int{0, 1, 2, 5, 6, 7}, 6}, {[]int{0, 1, 2, 3, 7, 8, 9}, 4}, {[]int{0, 1, 2, 3, 4, 5, 6, 7, 8, 9}, 10},
		{[]int{0, 2, 3, 5, 6}, 5}, {[]int{0, 3, 4, 7}, 0},
	} {
		if s, n := at(c.teeth...); n != c.lines || n > 0 && math.Abs(s-7e6) > 2e5 {
			t.Errorf("teeth %v: %v lines every %v Hz, want %v", c.teeth, n, s, c.lines)
		}
	}
}

// TestDBcFromItsOwnCarrier: where screen and meter disagree, a distance is one of the screen.
func TestDBcFromItsOwnCarrier(t *testing.T) {
	a := rule(t, common+`,"mean_power_w":5`, wide(map[float64]float64{146e6: -37.6, 292e6: -82.6}))
	a.near("products.0.dbc", -45, 1e-9)
	a.near("carrier_dbm", 36.9897, 1e-3)
}

// TestAListNeedsNoiseToStandOutOf: with its bandwidth told, a figure in the noise is no line.
func TestAListNeedsNoiseToStandOutOf(t *testing.T) {
	s := bench{start: 30e6, stop: 1530e6, rbw: 100e3, n: 1501, noise: -90, detector: "sample", lines: map[float64]float64{146e6: -13}}
	for f := 31e6; f < 1500e6; f += 2e6 {
		s.lines[f] = -86
	}
	s.lines[146e6], s.lines[401e6] = -13, -70
	a := rule(t, common+`,"mean_power_w":5`, s)
	seen := 0
	for i := range a.at("products").([]any) {
		if a.at(fmt.Sprintf("products.%d.seen", i)) == true {
			seen++
		}
	}
	if seen != 1 {
		t.Errorf("%d lines, want the one that stands out", seen)
	}
}

// TestWhatIsTypedAsPeopleWriteIt: the ways to write a reading, and those that are refused.
func TestWhatIsTypedAsPeopleWriteIt(t *testing.T) {
	for text, want := range map[string]map[string]any{
		"4.8 13.8V 2.1A": {"readings.0.value": 4.8, "supply_v": 13.8, "supply_a": 2.1},
		"4.8 13.8 V":     {"readings.0.value": 4.8, "supply_v": 13.8},
		"13.8V 4.8W":     {"readings.0.value": 4.8, "supply_v": 13.8},
		"13.8V 2.1A":     {"readings": []any{}, "supply_v": 13.8, "supply_a": 2.1},
		"3V":             {"readings.0.value": 3.0, "readings.0.unit": "V", "supply_v": nil},
		"5 watts":        {"readings.0.value": 5.0, "readings.0.unit": "W"},
		"1.1 1.2kW":      {"readings.0.value": 1100.0, "readings.1.value": 1200.0, "readings.1.unit": "W"},
		"4.8/4.9/5.0":    {"readings.0.value": 4.8, "readings.2.value": 5.0},
		"4.8 swr1.3":     {"swr": 1.3}, "vswr 1.3": {"swr": 1.3}, "4.8 f146.54": {"frequency_hz": 146.54e6},
		"10 pep 40": {"peak_w": 40.0}, "10 peak 40": {"peak_w": 40.0}, "10 ref 0.2": {"reflected_w": 0.2, "forward_w": 10.0},
		"1.6 4.8": {"readings.1.value": 4.8},
	} {
		a := run(t, "entry", fmt.Sprintf(`{"text":%q}`, text))
		for at, v := range want {
			if got := a.at(at); fmt.Sprint(got) != fmt.Sprint(v) {
				t.Errorf("%q: %s is %v, want %v", text, at, got, v)
			}
		}
	}
	for _, text := range []string{"4.8 446.00625", "1.5 4.8", "0 4.8", "13.8V 30dBm 40dBuV"} {
		refused(t, "entry", fmt.Sprintf(`{"text":%q}`, text), "text")
	}
	run(t, "reading", `{"text":"4.8 13.8V 2.1A swr 1.3","unit":"W","frequency_hz":146e6,"meter":{}}`).near("reading_w", 4.8, 0)
}

// TestSeveralEntries: through one wiring they are one set of repeats, through two they are joined
// by 1/u^2 (JCGM 100, weighted mean) or span both.
func TestSeveralEntries(t *testing.T) {
	const meter = `"meter":{"pct_reading":5,"repeatability_pct":1}`
	entries := func(texts ...string) answer {
		parts := make([]string, len(texts))
		for i, e := range texts {
			parts[i] = "{" + e + "}"
		}
		return run(t, "reading", `{"frequency_hz":146e6,`+meter+`,"entries":[`+strings.Join(parts, ",")+`]}`)
	}
	line := run(t, "reading", `{"text":"3.5 3.5 3.5 3.5 3.5 3.22","unit":"W","frequency_hz":146e6,`+meter+`}`)
	six := entries(`"text":"3.5"`, `"text":"3500 mW"`, `"text":"3.5 3.5"`, `"text":"3.5"`, `"text":"3.22"`)
	for _, f := range []string{"at_connector_w", "low_w", "high_w", "expanded_uncertainty_db"} {
		six.near(f, line.at(f).(float64), 1e-12)
	}
	six.is("agree", true)
	// 4 W of 10 % and 4.2 W of 5 %, rectangular: u 0.2309 and 0.1212 W.
	two := entries(`"text":"4","meter":{"pct_reading":10}`, `"text":"4.2","meter":{"pct_reading":5}`)
	u1, u2 := 0.4/math.Sqrt(3), 0.21/math.Sqrt(3)
	w := (4/(u1*u1) + 4.2/(u2*u2)) / (1/(u1*u1) + 1/(u2*u2))
	u := 1 / math.Sqrt(1/(u1*u1)+1/(u2*u2))
	two.near("at_connector_w", w, 1e-12)
	two.near("low_w", w-2*u, 1e-12)
	two.near("high_w", w+2*u, 1e-12)
	two.near("expanded_uncertainty_db", -10*math.Log10(1-2*u/w), 1e-12)
	two.is("agree", true)
	apart := entries(`"text":"4","meter":{"pct_reading":10}`, `"text":"4.6","meter":{"pct_reading":5}`)
	apart.is("agree", false)
	apart.near("low_w", 4-2*u1, 1e-12)
	apart.near("high_w", 4.6+2*0.23/math.Sqrt(3), 1e-12)
	if got := apart.codes("flags"); got != "readings-disagree" {
		t.Errorf("flags %q", got)
	}
	// Supplies within 2 % are one; another frequency, offset or path is another set.
	for _, c := range []struct {
		a, b string
		sets int
	}{
		{`"supply_v":13.8`, `"supply_v":13.6`, 1}, {`"supply_v":13.8`, `"supply_v":13.5`, 2}, {`"supply_v":13.8`, ``, 2}, {``, `"frequency_hz":147e6`, 2}, {``, `"applied_offset_db":1`, 2},
		{``, `"path":{"elements":[{"kind":"adapter"}]}`, 2}, {``, `"meter":{"pct_reading":6}`, 2}, {``, ``, 1},
	} {
		with := func(s string) string {
			if s != "" {
				s = "," + s
			}
			return `"text":"5"` + s
		}
		if got := len(entries(with(c.a), with(c.b)).at("sets").([]any)); got != c.sets {
			t.Errorf("%s and %s: %d sets, want %d", c.a, c.b, got, c.sets)
		}
	}
	// One that does not count says nothing of the others.
	entries(`"text":"5"`, `"text":"2","meter":{"from_hz":200e6}`).near("at_connector_w", 5, 1e-12)
	entries(`"text":"2","meter":{"from_hz":200e6}`).is("counts", false)
	refused(t, "reading", `{"text":"5","unit":"W","frequency_hz":1e6,"meter":{},"entries":[{"text":"5"}]}`, "text")
	refused(t, "reading", `{"frequency_hz":1e6,"meter":{},"entries":[]}`, "entries")
	refused(t, "reading", `{"frequency_hz":1e6,"meter":{},"entries":[{"text":"5","unit":"W"}]}`, "entries[0].unit")
	refused(t, "reading", `{"entries":[{"text":"x"}]}`, "entries[0].frequency_hz", "entries[0].text", "entries[0].meter")
}

// TestClaimsAsPeopleSayThem: what each says, as band level mode w, and what is refused for
// being said in two ways.
func TestClaimsAsPeopleSayThem(t *testing.T) {
	say := func(text string) string {
		a := run(t, "claim", fmt.Sprintf(`{"text":%q}`, text))
		var out []string
		for i := range a.at("powers").([]any) {
			p := fmt.Sprintf("powers.%d.", i)
			word := func(f string) string {
				if v := a.at(p + f); v != nil {
					return fmt.Sprint(v)
				}
				return "-"
			}
			s := word("band") + " " + word("level") + " " + word("mode") + " " + word("w")
			if a.at(p+"pep") == true {
				s += " pep"
			}
			out = append(out, s)
		}
		return strings.Join(out, ", ")
	}
	for text, want := range map[string]string{
		"2m 25W 10W 5W":                        "2m h FM 25, 2m m FM 10, 2m l FM 5",
		"2m 25W, 10W, 5W":                      "2m h FM 25, 2m m FM 10, 2m l FM 5",
		"5W VHF, 4W UHF":                       "VHF - FM 5, UHF - FM 4",
		"10m SSB 100W PEP AM 25W":              "10m - SSB 100 pep, 10m - AM 25",
		"10m AM 12 pep 35 SSB":                 "10m - AM 12, 10m - SSB 35 pep",
		"CB 4W AM 12W SSB":                     "CB - AM 4, CB - SSB 12",
		"CB 4W":                                "CB - - 4",
		"FRS 2W":                               "FRS - FM 2",
		"FRS":                                  "FRS - FM -",
		"136-174 5W 400-520 4W":                "136-174 MHz - FM 5, 400-520 MHz - FM 4",
		"146.52 5":                             "146.52 MHz - FM 5",
		"2 m 5 W":                              "2m - FM 5",
		"70 cm 5":                              "70cm - FM 5",
		"2m: 50W, 70cm: 40W":                   "2m - FM 50, 70cm - FM 40",
		"2m/70cm 5":                            "2m - FM 5, 70cm - FM 5",
		"2m and 70cm 5/1":                      "",
		"2m 70cm 5/1":                          "2m h FM 5, 2m l FM 1, 70cm h FM 5, 70cm l FM 1",
		"20m 100W PEP":                         "20m - SSB 100 pep",
		"20m 100W, 10m SSB 50":                 "20m - SSB 100, 10m - SSB 50",
		"20m 100":                              "20m - - 100",
		"37dBm":                                "- - FM 5.011872336272725",
		"1kW":                                  "- - FM 1000",
		"2m 500 mW":                            "2m - FM 0.5",
		"5W@7.4V":                              "- - FM 5",
		"2m up to approx 5W":                   "2m - FM 5",
		"2m USB 5":                             "2m - SSB 5",
		"2m 4/3/2/1":                           "2m p1 FM 4, 2m p2 FM 3, 2m p3 FM 2, 2m p4 FM 1",
		"2m ?/?":                               "2m h FM -, 2m l FM -",
		"70cm 5/-/1":                           "70cm h FM 5, 70cm l FM 1",
		"2m 1-12":                              "2m - FM 12",
		"2m high 25 mid 10 eco 2.5":            "2m h FM 25, 2m m FM 10, 2m eco FM 2.5",
		"GMRS main 20/5, 467 0.5":              "GMRS main h FM 20, GMRS main l FM 5, GMRS 467 - FM 0.5",
		"marine VHF 25/1":                      "marine h FM 25, marine l FM 1",
		"2m 5 W / 1 W":                         "2m h FM 5, 2m l FM 1",
		"2m 5W, battery 2000mAh, error 2.5ppm": "2m - FM 5",
	} {
		if want != "" && say(text) != want {
			t.Errorf("%q: %s, want %s", text, say(text), want)
		}
	}
	for _, text := range []string{
		"200 2", "5", "VHF/UHF 5W/4W", "2m and 70cm 5/1", "2m 5,2", "2m 1,500 W", "2m 5/10", "2m 5 2m 4", "5W VHF 4W UHF", "2m 50.5 10", "2m 50W, 5W 70cm", "2m 5 whatever", "2m 5 high", "100W PEP 50W 20m", "2m pep", "2m AM SSB 5", "2m 5W AM FM",
		"33cm/3m 5", "2m 250/100mW", "2m 5MW", "50-100", "",
	} {
		refused(t, "claim", fmt.Sprintf(`{"text":%q}`, text), "text")
	}
	refused(t, "claim", `{"text":"33cm 5","region":1}`, "text")
	refused(t, "claim", `{"text":"2m 5","region":4}`, "region")
	a := run(t, "claim", `{"text":"PMR 0.5W, battery 2000mAh"}`)
	a.is("channels.4.name", "5")
	a.near("channels.4.frequency_hz", 446.05625e6, 1)
	a.is("other.0.kind", "battery")
	a.near("other.0.value", 2000, 0)
	a = run(t, "claim", `{"text":"2m 1-12","region":1}`)
	a.is("powers.0.adjustable", true)
	a.near("powers.0.to_hz", 146e6, 0)
	hf := run(t, "claim", `{"text":"HF 100W PEP","region":1}`)
	if n := len(hf.at("powers").([]any)); n != 10 || hf.at("powers.0.band") != "160m" || hf.at("powers.9.band") != "10m" || hf.at("powers.0.mode") != "SSB" {
		t.Errorf("HF in region 1: %d bands", n)
	}
}

// TestLooksAsTheyAreTyped: a bare number is a frequency, or the level of a place that stands open.
func TestLooksAsTheyAreTyped(t *testing.T) {
	say := func(text string) string {
		a := run(t, "look", fmt.Sprintf(`{"text":%q,"fundamental_hz":146.52e6}`, text))
		out := fmt.Sprint(a.at("from_hz"), a.at("to_hz"), a.at("floor_dbm"))
		for i := range a.at("peaks").([]any) {
			p := fmt.Sprintf("peaks.%d.", i)
			out += fmt.Sprint("; ", a.at(p+"frequency_hz"), " ", a.at(p+"order"), " ", a.at(p+"level_dbm"), " ", a.at(p+"dbc"), " ", a.at(p+"step_db"))
		}
		return strings.ReplaceAll(strings.ReplaceAll(out, "<nil>", "-"), "+06", "6")
	}
	const none = "- - -"
	for text, want := range map[string]string{
		"30-1000 floor -70 146.52 -7.4 2h -62 205 -66 3 -55c": "3e+07 1e+09 -70; 1.4652e+08 - -7.4 - 0.1; - 2 -62 - 1; 2.05e+08 - -66 - 1; - 3 - -55 1",
		"146.52 36.9": none + "; 1.4652e+08 - 36.9 - 0.1", "146.52 +1": none + "; 1.4652e+08 - 1 - 1", "462.6 1": none + "; 4.626e+08 - 1 - 1", "462.6 0": none + "; 4.626e+08 - 0 - 1",
		"h1.7": none + "; 1.4652e+08 - 1.7 - 0.1", "h -7.41": none + "; 1.4652e+08 - -7.41 - 0.01", "h2 -62": none + "; - 2 -62 - 1", "2nd -62": none + "; - 2 -62 - 1", "2f-62": none + "; - 2 -62 - 1",
		"2 55c": none + "; - 2 - -55 1", "10 -55 dBc": none + "; - 10 - -55 1", "11 -55": none + "; 1.1e+07 - -55 - 1",
		"h-7.4-62?-69": none + "; 1.4652e+08 - -7.4 - 0.1; - 2 -62 - 1; - 4 -69 - 1", "nothing above -70": "- - -70", "30 to 1000 MHz": "3e+07 1e+09 -",
	} {
		if got := say(text); got != want {
			t.Errorf("%q: %s, want %s", text, got, want)
		}
	}
	for _, text := range []string{"2 -62", "10 -62", "2h -62 h2 -60", "205 -66 205 -60", "2h", "floor 70", "-62", "fox", ""} {
		refused(t, "look", fmt.Sprintf(`{"text":%q}`, text), "text")
	}
	run(t, "look", `{"text":"h -7"}`).is("peaks.0.frequency_hz", nil)
}
