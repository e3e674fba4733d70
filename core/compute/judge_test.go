package compute

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"
)

// bench makes the JSON of sweeps whose noise lies level and whose lines are
// single points, so that every figure can be worked by hand.
type bench struct {
	start, stop, rbw float64
	n                int
	noise            float64
	lines            map[float64]float64 // frequency to displayed level
	detector         string              // peak where not given; "none" leaves it out
	rest             string              // further fields of the sweep
}

func (b bench) json() string {
	levels := make([]float64, b.n)
	for i := range levels {
		levels[i] = b.noise
	}
	step := (b.stop - b.start) / float64(b.n-1)
	for f, l := range b.lines {
		levels[int(math.Round((f-b.start)/step))] = l
	}
	text, _ := json.Marshal(levels)
	switch b.detector {
	case "":
		b.rest += `,"detector":"peak"`
	case "none":
	default:
		b.rest += `,"detector":"` + b.detector + `"`
	}
	return fmt.Sprintf(`{"name":"s","start_hz":%g,"stop_hz":%g,"rbw_hz":%g,"levels_dbm":%s%s}`, b.start, b.stop, b.rbw, text, b.rest)
}

// wide covers 30 MHz to 1.53 GHz in 1 MHz steps: on the grid for a 146 MHz carrier.
func wide(lines map[float64]float64) bench {
	return bench{start: 30e6, stop: 1530e6, rbw: 100e3, n: 1501, noise: -90, lines: lines}
}

func rule(t *testing.T, rest string, sweeps ...bench) answer {
	t.Helper()
	parts := make([]string, len(sweeps))
	for i, s := range sweeps {
		parts[i] = s.json()
	}
	in := fmt.Sprintf(`{"fundamental_hz":146e6,"emission_bandwidth_hz":16000,"sweeps":[%s],%s}`, strings.Join(parts, ","), rest)
	return run(t, "judge", in)
}

const common = `"rule_book":"us-amateur","loss_db":50,"expanded_uncertainty_db":1.5,"decision_rule":"guarded"`

// TestJudgeWholeRule: 5 W is 36.99 dBm; 25 µW is -16.02 dBm (47 CFR 97.307(e)).
// A third harmonic 44 dB down is over the absolute part though 40 dB down.
func TestJudgeWholeRule(t *testing.T) {
	a := rule(t, common+`,"mean_power_w":5`, wide(map[float64]float64{146e6: -13, 292e6: -72, 438e6: -57}))
	a.is("verdict", "fail")
	a.is("worst.order", 3)
	a.near("worst.level_dbm", -7, 1e-9)
	a.near("worst.shown_dbm", -57, 1e-9)
	a.near("worst.loss_db", 50, 1e-9)
	a.near("worst.dbc", -43.99, 0.005)
	a.near("worst.limit_dbm", -16.02, 0.005)
	a.near("worst.margin_db", -9.02, 0.005)
	a.is("worst.decided_by", "absolute")
	a.is("products.0.verdict", "pass")
	a.is("products.0.seen", true)
	a.is("products.2.seen", false)
	a.near("products.2.level_dbm", -40, 1e-9)
	a.is("products.2.verdict", "pass")
	a.is("carrier_from", "power-meter")
	a.near("coverage.passes_to_hz", 1530e6, 1)
	a.is("coverage.highest_harmonic", 10)
	a.is("coverage.complete", true)
	a.near("coverage.near_carrier_hz", 300e3, 0)
}

func TestJudgeVerdictsByMargin(t *testing.T) {
	for _, c := range []struct {
		shown   float64
		rule    string
		verdict string
	}{
		{-67.6, "guarded", "pass"},         // 1.58 dB of room
		{-67.4, "guarded", "inconclusive"}, // 1.38
		{-65, "guarded", "inconclusive"},   // 1.02 over
		{-64.4, "guarded", "fail"},         // 1.62 over
		{-66.1, "simple", "pass"},
		{-65.9, "simple", "fail"},
	} {
		rest := strings.Replace(common, "guarded", c.rule, 1) + `,"mean_power_w":5`
		s := wide(map[float64]float64{146e6: -13, 292e6: c.shown})
		s.noise = -140 // adds nothing to the guard
		a := rule(t, rest, s)
		a.is("verdict", c.verdict)
		a.is("worst.order", 2)
	}
}

func TestJudgeCoverage(t *testing.T) {
	short := bench{start: 30e6, stop: 1000e6, rbw: 100e3, n: 971, noise: -90, lines: map[float64]float64{146e6: -13}}
	a := rule(t, common+`,"mean_power_w":5`, short)
	a.is("verdict", "pass")
	a.is("coverage.highest_harmonic", 6)
	a.near("coverage.passes_to_hz", 1000e6, 1)
	a.is("coverage.complete", false)
	a.is("products.5.verdict", "not-covered")
	a.is("products.5.level_dbm", nil)

	// Noise at -64 behind 50 dB, with U, is over -16.02 dBm from 900 MHz on.
	loud := bench{start: 900e6, stop: 1530e6, rbw: 100e3, n: 631, noise: -64, lines: nil}
	quiet := bench{start: 30e6, stop: 900e6, rbw: 100e3, n: 871, noise: -90, lines: map[float64]float64{146e6: -13}}
	a = rule(t, common+`,"mean_power_w":5`, quiet, loud)
	a.is("verdict", "pass")
	a.near("coverage.passes_to_hz", 900e6, 1)
	a.near("coverage.blind.0.0", 900e6, 1)
	a.near("coverage.blind.0.1", 1530e6, 1)
	a.is("products.5.verdict", "not-covered")
	a.is("products.5.seen", false)
	a.near("products.5.level_dbm", -14, 1e-9)

	// A table that ends at 1 GHz covers no further, though swept.
	table := strings.Replace(common, `"loss_db":50`, `"path":{"elements":[{"kind":"attenuator","loss":{"table":[{"frequency_hz":0,"db":50},{"frequency_hz":1e9,"db":50}]}}]}`, 1)
	a = rule(t, table+`,"mean_power_w":5`, wide(map[float64]float64{146e6: -13}))
	a.near("coverage.to_hz", 1e9, 1)
	a.is("products.5.verdict", "not-covered")

	// A sample detector with points further apart than the RBW leaves gaps.
	gaps := wide(map[float64]float64{146e6: -13})
	gaps.detector = "sample"
	a = rule(t, common+`,"mean_power_w":5`, gaps)
	a.is("verdict", "not-covered")
	if got := a.codes("findings"); got != "not-a-sweep" {
		t.Errorf("findings %q", got)
	}
}

func TestJudgeStandings(t *testing.T) {
	dirty := wide(map[float64]float64{146e6: -13, 292e6: -40})
	clean := wide(map[float64]float64{146e6: -13})
	rule(t, common+`,"mean_power_w":5`, dirty, dirty).is("verdict", "fail")
	rule(t, common+`,"mean_power_w":5`, clean, dirty).is("verdict", "inconclusive") // one does not show what the other does
	dirty.rest = `,"standing":"struck"`
	rule(t, common+`,"mean_power_w":5`, clean, dirty).is("verdict", "pass")
	a := rule(t, common+`,"mean_power_w":5`, dirty)
	a.is("verdict", "not-covered")
	a.is("coverage.from_hz", nil)
	dirty.rest = `,"standing":"suspect"`
	rule(t, common+`,"mean_power_w":5`, clean, dirty).is("verdict", "pass")
	// The highest seen counts; an unseen bound never outranks one.
	noisy := wide(map[float64]float64{146e6: -13})
	noisy.noise = -68
	low := wide(map[float64]float64{146e6: -13, 292e6: -80})
	a = rule(t, common+`,"mean_power_w":5`, noisy, low)
	a.is("products.0.seen", true)
	a.near("products.0.level_dbm", -30, 1e-9)
	a.near("products.1.level_dbm", -40, 1e-9) // unseen in both: the lowest bound
}

func TestJudgeCarrier(t *testing.T) {
	s := wide(map[float64]float64{146e6: -13, 292e6: -72})
	a := rule(t, common, s)
	a.is("carrier_from", "sweep")
	a.near("carrier_dbm", 37, 1e-9)
	// 2.2 dB apart where sqrt 2 x 1.5 is 2.1: the offset is doubted.
	a = rule(t, common+`,"mean_power_w":3`, s)
	if got := a.codes("findings"); got != "carrier-disagrees" {
		t.Errorf("findings %q", got)
	}
	a = rule(t, common+`,"mean_power_w":4`, s)
	if got := a.codes("findings"); got != "" {
		t.Errorf("findings %q", got)
	}
	none := wide(nil)
	a = rule(t, common+`,"mean_power_w":5`, none)
	if got := a.codes("findings"); got != "carrier-missing" {
		t.Errorf("findings %q", got)
	}
	a = rule(t, common, none)
	a.is("verdict", "void")
	a.is("carrier_dbm", nil)
	if rows := len(a.at("products").([]any)); rows != 9 {
		t.Errorf("%d rows, want harmonics 2 to 10", rows)
	}
	// A wide sweep that shows 446 as 449: the harmonics are 3 MHz x n further up.
	off := bench{start: 0, stop: 3000e6, rbw: 1e6, n: 3001, noise: -90, lines: map[float64]float64{449e6: -13, 898e6: -60, 1347e6: -70}}
	a = run(t, "judge", `{"rule_book":"house-forty-down","fundamental_hz":446e6,"mean_power_w":5,"loss_db":50,"expanded_uncertainty_db":1,"sweeps":[`+off.json()+`]}`)
	if got := a.codes("findings"); got != "misaligned" {
		t.Errorf("findings %q", got)
	}
	a.is("products.0.seen", true)
	a.near("products.0.expected_hz", 892e6, 0)
	a.near("products.0.frequency_hz", 898e6, 1)
	a.is("products.1.seen", true)
	a.near("coverage.near_carrier_hz", 3e6, 0)
}

// TestJudgeSpurs: 205 MHz is no harmonic of 146; a comb is told with its spacing.
func TestJudgeSpurs(t *testing.T) {
	lines := map[float64]float64{146e6: -13, 205e6: -60, 73e6: -70}
	a := rule(t, common+`,"mean_power_w":5`, wide(lines))
	a.is("worst.kind", "spur")
	a.is("worst.order", nil)
	a.near("worst.frequency_hz", 205e6, 1)
	a.is("products.9.kind", "subharmonic")
	comb := wide(map[float64]float64{146e6: -13})
	for k := range 6 {
		comb.lines[300e6+float64(k)*39e6] = -80
	}
	a = rule(t, common+`,"mean_power_w":5`, comb)
	if got := a.codes("findings"); got != "comb" {
		t.Fatalf("findings %q", got)
	}
	a.near("findings.0.spacing_hz", 39e6, 1)
	a.is("findings.0.lines", 6)
	// The analyzer's own line at 0 Hz is no emission, and hides what is there.
	zero := bench{start: 0, stop: 1500e6, rbw: 1e6, n: 1501, noise: -90, lines: map[float64]float64{0: -20, 146e6: -13}}
	a = rule(t, common+`,"mean_power_w":5`, zero)
	a.is("verdict", "pass")
	a.near("coverage.blind.0.1", 3e6, 1)
}

// TestJudgeSelfMade: with SHI 40 dBm and 10 dB of input attenuation a carrier of
// -13 dBm at the input makes a second harmonic at -(40+23) dBc of its own.
func TestJudgeSelfMade(t *testing.T) {
	path := `"path":{"elements":[{"kind":"attenuator","loss":{"flat_db":50}},{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":3.2e9,"max_input_dbm":10}],"shi_dbm":%g,"toi_dbm":30,"input_attenuation_db":10}]}`
	ask := func(shi, shown float64) answer {
		rest := strings.Replace(common, `"loss_db":50`, fmt.Sprintf(path, shi), 1)
		return rule(t, rest+`,"mean_power_w":5`, wide(map[float64]float64{146e6: -13.01, 292e6: shown}))
	}
	a := ask(40, -64) // self-made at -76.02 as displayed: clear of it
	a.is("verdict", "fail")
	a.is("products.0.suspect", false)
	a.near("products.0.self_made_dbm", -26.04, 0.05)
	a = ask(30, -64) // self-made at -66.03: within 6 dB
	a.is("products.0.suspect", true)
	a.is("verdict", "inconclusive")
	if got := a.codes("findings"); got != "suspect-self-made" {
		t.Errorf("findings %q", got)
	}
	ask(30, -70).is("products.0.verdict", "inconclusive") // below it: upper bound -61.8
	a = ask(30, -73)                                      // 7 dB below what it should make: the intercept noted is refuted
	a.is("products.0.suspect", false)
	a.is("products.0.verdict", "pass")
	if got := a.codes("findings"); got != "intercept-doubtful" {
		t.Errorf("findings %q", got)
	}
	ask(40, -74).is("products.0.verdict", "pass") // suspect, but even the sum passes
	ask(30, -50).is("products.0.verdict", "fail") // 16 dB above the prediction
}

// TestJudgeTermsGuardThemselves: each term has its own uncertainty.
func TestJudgeTermsGuardThemselves(t *testing.T) {
	s := wide(map[float64]float64{146e6: -26, 292e6: -67.5}) // 0.251 W: both terms meet at -16.02
	ask := func(u, udbc string) answer {
		rest := strings.Replace(common, `"expanded_uncertainty_db":1.5`, `"expanded_uncertainty_db":`+u+`,"expanded_uncertainty_dbc_db":`+udbc, 1)
		return rule(t, rest+`,"mean_power_w":0.25`, s)
	}
	ask("1", "1").is("products.0.verdict", "pass") // 1.48 dB of room
	ask("1", "2").is("products.0.verdict", "inconclusive")
	ask("2", "1").is("products.0.verdict", "inconclusive")
}

func TestJudgeLooks(t *testing.T) {
	in := `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":5,"expanded_uncertainty_db":1,
		"path":{"elements":[{"kind":"attenuator","loss":{"table":[{"frequency_hz":0,"db":50},{"frequency_hz":1.46e9,"db":51}]}}]},"applied_offset_db":40,
		"looks":[{"name":"by eye","from_hz":100e6,"to_hz":1e9,"floor_dbm":-45,"peaks":[
			{"frequency_hz":146.05e6,"level_dbm":27},{"frequency_hz":292e6,"level_dbm":-30},{"frequency_hz":438e6,"dbc":-60}]}]}`
	a := run(t, "judge", in)
	a.near("products.0.level_dbm", -30+50.2-40, 1e-9)
	a.near("products.1.dbc", -60+0.2, 1e-9) // the loss difference of 438 and 146 MHz is added
	a.near("products.2.level_dbm", -45+50.4-40, 1e-9)
	a.is("products.2.seen", false)
	a.is("verdict", "pass")
	a.is("coverage.highest_harmonic", 6)
	a.is("coverage.complete", false)
	// The carrier noted in dBc is the carrier, however little else is known of it;
	// a line as near that stands below it is an emission.
	near := `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":5,"loss_db":50,"expanded_uncertainty_db":1,"looks":[{"from_hz":100e6,"to_hz":1e9,"floor_dbm":-80,"peaks":[{"frequency_hz":146.05e6,"dbc":0}]}]}`
	run(t, "judge", near).is("verdict", "pass")
	run(t, "judge", strings.Replace(near, `"dbc":0`, `"dbc":-45`, 1)).is("verdict", "fail")
	refused(t, "judge", strings.Replace(in, "438e6", "1.2e9", 1), "looks[0].peaks[2].frequency_hz")
	refused(t, "judge", strings.Replace(in, `"dbc":-60`, `"dbc":-60,"level_dbm":-20`, 1), "looks[0].peaks[2].level_dbm")
	refused(t, "judge", strings.Replace(in, `"to_hz":1e9`, `"to_hz":1e6`, 1), "looks[0].to_hz", "looks[0].peaks[0].frequency_hz", "looks[0].peaks[1].frequency_hz", "looks[0].peaks[2].frequency_hz")
}

func TestJudgeNoLimit(t *testing.T) {
	s := bench{start: 100e6, stop: 3000e6, rbw: 1e6, n: 2901, noise: -90, lines: map[float64]float64{446e6: -13, 892e6: -50}}
	a := run(t, "judge", `{"rule_book":"us-amateur","fundamental_hz":446e6,"mean_power_w":5,"loss_db":50,"sweeps":[`+s.json()+`]}`)
	a.is("verdict", "no-limit")
	a.is("worst", nil)
	a.is("products.0.verdict", "no-limit")
	a.near("products.0.level_dbm", 0, 1e-9)
	a.is("products.0.limit_dbm", nil)
	a.is("citation", "47 CFR 97.307(c)")
	// Without an uncertainty even the 0.01 dB between 5 W and 37 dBm are apart.
	if got := a.codes("findings"); got != "carrier-disagrees no-uncertainty" {
		t.Errorf("findings %q", got)
	}
}

func TestJudgeFromCSV(t *testing.T) {
	var b strings.Builder
	b.WriteString("RBW;100 kHz\\r\\nFrequency (MHz);Level (dBm)\\r\\n")
	for f := 30; f <= 1530; f++ {
		level := "-90,0"
		if f == 146 {
			level = "-13,0"
		}
		fmt.Fprintf(&b, "%d,0;%s\\r\\n", f, level)
	}
	a := run(t, "judge", `{"fundamental_hz":146e6,`+common+`,"sweeps":[{"detector":"peak","csv":"`+b.String()+`"}]}`)
	a.is("verdict", "pass")
	a.near("carrier_dbm", 37, 1e-9)
	refused(t, "judge", `{"fundamental_hz":146e6,`+common+`,"sweeps":[{"csv":"1e6,-1\n5e5,-2"}]}`, "sweeps[0].csv")
}

func TestJudgeRefuses(t *testing.T) {
	refused(t, "judge", `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":5}`, "sweeps")
	refused(t, "judge", `{"rule_book":"x","fundamental_hz":-1,"mean_power_w":0,"loss_db":1,"path":{"elements":[]},"emission_bandwidth_hz":-1,"expanded_uncertainty_db":-1,"decision_rule":"kind",
		"sweeps":[{"start_hz":2,"stop_hz":1,"levels_dbm":[1],"rbw_hz":0,"detector":"eye","hold":"firm","standing":"well"},{}]}`,
		"rule_book", "loss_db", "sweeps[0].rbw_hz", "sweeps[1].start_hz", "sweeps[1].stop_hz", "fundamental_hz", "mean_power_w", "emission_bandwidth_hz",
		"expanded_uncertainty_db", "expanded_uncertainty_dbc_db", "carrier_uncertainty_db", "decision_rule",
		"sweeps[0].stop_hz", "sweeps[0].levels_dbm", "sweeps[0].detector", "sweeps[0].hold", "sweeps[0].standing", "sweeps[1].levels_dbm")
	refused(t, "judge", `{"rule_book":"us-amateur","fundamental_hz":146e6,"sweeps":[{"start_hz":1,"stop_hz":2,"levels_dbm":[1,"x",null,1e999]}],"looks":[{}]}`,
		"sweeps[0].levels_dbm[1]", "sweeps[0].levels_dbm[2]", "sweeps[0].levels_dbm[3]", "looks[0].from_hz", "looks[0].to_hz")
}

// TestAProductIsOpened: each term held, noise and sights, whose spectrum it falls into, and
// what a spur could come from.
func TestAProductIsOpened(t *testing.T) {
	a := run(t, "judge", `{"fundamental_hz":146e6,`+fiveWatts+`,"other_carriers":[{"name":"70cm","frequency_hz":433.5e6}],"sweeps":[`+
		wide(map[float64]float64{146e6: -13, 292e6: -70, 433.5e6: -72}).json()+`]}`)
	a.near("products.0.opened.sights.0.shown_dbm", -70, 1e-9)
	a.near("products.0.opened.sights.0.loss_db", 50, 1e-9)
	a.near("products.0.opened.sights.0.level_dbm", -20, 1e-9)
	a.near("products.0.opened.noise_dbm", -90, 3)
	a.is("products.0.opened.terms.0.verdict", "pass")
	a.is("products.0.lands", "military aeronautical")
	a.is("products.9.kind", "spur")
	a.is("products.9.origins.0.kind", "other-band")
	a.is("products.9.lands", "amateur, 70 cm")
	if chance := a.at("products.9.origins.0.by_chance").(float64); chance <= 0 || chance > 0.01 {
		t.Errorf("by chance %g", chance)
	}
	refused(t, "judge", `{"fundamental_hz":146e6,`+fiveWatts+`,"other_carriers":[{"name":"70cm"}],"looks":[{"from_hz":1e6,"to_hz":1e9}]}`, "other_carriers[0].frequency_hz")
}

// TestStandby: nothing is keyed, so no carrier is missed, compared or left out; a line where it
// would be is one like any other (2 nW, ETSI EN 300 086, from memory).
func TestStandby(t *testing.T) {
	at := func(more string, lines map[float64]float64) answer {
		s := quiet(lines)
		return run(t, "judge", `{"rule_book":"eu-land-mobile","fundamental_hz":146e6,"mean_power_w":5,"state":"standby","expanded_uncertainty_db":1.5,`+more+`"sweeps":[`+s.json()+`]}`)
	}
	a := at("", map[float64]float64{292e6: -58.6, 146e6: -60, 700e6: -70})
	a.is("verdict", "pass")
	a.is("products.0.verdict", "pass")
	a.near("products.0.limit_dbm", -57, 1e-2)
	a.is("products.0.dbc", nil)
	a.is("products.9.kind", "spur")
	a.is("products.9.frequency_hz", 146e6)
	a.is("products.9.verdict", "pass")
	if got := a.codes("findings"); got != "" {
		t.Errorf("findings %q", got)
	}
	if a.at("coverage.passes_to_hz").(float64) < 1.4e9 || a.at("coverage.near_carrier_hz").(float64) != 0 {
		t.Errorf("coverage %v", a.at("coverage"))
	}
	at("", map[float64]float64{292e6: -58.4}).is("products.0.verdict", "inconclusive")
	at("", map[float64]float64{146e6: -50}).is("verdict", "fail") // the oscillator on the carrier
	at("", map[float64]float64{292e6: -50}).is("verdict", "fail")
	// Levels below a carrier that is not there are none.
	relative := at(`"path":{"elements":[{"kind":"tap","coupling_unknown":true,"flat_within_db":1,"main_load_w":50}]},`, map[float64]float64{292e6: -70})
	relative.is("verdict", "not-covered")
	relative.is("coverage.from_hz", nil)
}
