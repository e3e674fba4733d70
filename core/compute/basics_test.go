package compute

import "testing"

// TestConvertCheckValues holds conversions against definitions: dBm is 10 log10
// of milliwatts, and the rest follows at 50 ohm.
func TestConvertCheckValues(t *testing.T) {
	for _, c := range []struct {
		in    string
		field string
		want  float64
	}{
		{`{"value":25,"unit":"uW"}`, "dbm", -16.0206},
		{`{"text":"10µW"}`, "dbm", -20},
		{`{"text":"36 dBm"}`, "w", 3.981},
		{`{"text":"32.8dBm"}`, "w", 1.905},
		{`{"text":"34.55dBm"}`, "w", 2.851},
		{`{"text":"35.2 dBm"}`, "w", 3.311},
		{`{"value":35,"unit":"dBm"}`, "dbw", 5},
		{`{"text":"0.25uV"}`, "dbm", -119.03}, // a generator's loaded voltage (PD)
		// S9 is 50 µV below 30 MHz and 5 µV above: IARU Region 1 Technical Recommendation R.1.
		{`{"text":"50 μV"}`, "dbm", -73.01},
		{`{"text":"5uV"}`, "dbm", -93.01},
		{`{"text":"0 dBm"}`, "dbuv", 106.99},
		{`{"text":"3,3 W"}`, "w", 3.3},
		{`{"text":"250mW"}`, "w", 0.25},
		{`{"text":"13.6V"}`, "v_rms", 13.6},
		{`{"text":"1,5000 W"}`, "w", 1.5},
	} {
		tolerance := 0.006
		if c.field == "w" {
			tolerance = 0.0006
		}
		run(t, "convert", c.in).near(c.field, c.want, tolerance)
	}
	zero := run(t, "convert", `{"value":0,"unit":"W"}`)
	for _, f := range []string{"dbm", "dbw", "dbuv"} {
		zero.is(f, nil)
	}
	zero.is("v_rms", 0)
}

func TestConvertRefuses(t *testing.T) {
	for in, field := range map[string]string{
		`{"text":"1,500 W"}`:               "text",
		`{"text":"5"}`:                     "text",
		`{"text":"5 MW"}`:                  "text",
		`{"text":"5 w"}`:                   "text",
		`{"text":"-1 W"}`:                  "text",
		`{"text":"4 W 5 W"}`:               "text",
		`{"text":"13.6v"}`:                 "text",
		`{"text":""}`:                      "text",
		`{"text":"inf W"}`:                 "text",
		`{"text":"0x10 W"}`:                "text",
		`{"value":-1,"unit":"uV"}`:         "value",
		`{"value":4000,"unit":"dBm"}`:      "value",
		`{"value":1e308,"unit":"V"}`:       "value",
		`{"value":1e999,"unit":"W"}`:       "value",
		`{"value":1,"unit":"MW"}`:          "unit",
		`{"value":1}`:                      "unit",
		`{"unit":"W"}`:                     "value",
		`{"text":"1 W","value":1}`:         "value",
		`{"value":"1","unit":"W"}`:         "value",
		`{"Value":1,"value":1,"unit":"W"}`: "Value",
		`[]`:                               "",
		`{"text":"1 W"} {}`:                "",
		`{"text":`:                         "",
		``:                                 "",
		`null`:                             "",
	} {
		refused(t, "convert", in, field)
	}
	refused(t, "convert", `{}`, "value", "unit")
	refused(t, "nothing", `{}`, "name")
}

// TestSWRCheckValues: worked values of the ARRL Handbook's SWR, return loss and
// mismatch loss relations.
func TestSWRCheckValues(t *testing.T) {
	a := run(t, "swr", `{"forward_w":10,"reflected_w":0.4}`)
	a.near("rho", 0.2, 1e-12)
	a.near("swr", 1.5, 1e-12)
	a.near("return_loss_db", 13.98, 0.005)
	a.near("mismatch_loss_db", 0.177, 0.0005)
	a.near("net_w", 9.6, 1e-12)
	for _, c := range []struct {
		in         string
		rl, ml, at float64
	}{
		{`{"swr":2}`, 9.542, 0.512, 2},
		{`{"swr":10}`, 1.743, 4.807, 10},
		{`{"rho":0.5}`, 6.021, 1.249, 3},
		{`{"return_loss_db":9.5424250944}`, 9.542, 0.512, 2},
	} {
		a := run(t, "swr", c.in)
		a.near("return_loss_db", c.rl, 0.0006)
		a.near("mismatch_loss_db", c.ml, 0.0006)
		a.near("swr", c.at, 1e-9)
		a.is("net_w", nil)
	}
	run(t, "swr", `{"swr":1}`).is("return_loss_db", nil)
}

func TestSWRRefuses(t *testing.T) {
	for in, field := range map[string]string{
		`{"forward_w":1,"reflected_w":1}`:  "reflected_w",
		`{"forward_w":1,"reflected_w":-1}`: "reflected_w",
		`{"forward_w":0,"reflected_w":0}`:  "forward_w",
		`{"forward_w":1}`:                  "reflected_w",
		`{"swr":0.9}`:                      "swr",
		`{"swr":1e300}`:                    "swr",
		`{"rho":1}`:                        "rho",
		`{"return_loss_db":0}`:             "return_loss_db",
		`{"swr":2,"rho":0.1}`:              "rho",
		`{}`:                               "forward_w",
		`{"watts":3,"swr":2}`:              "watts",
	} {
		refused(t, "swr", in, field)
	}
	refused(t, "swr", `{"unknown":1,"swr":0.5}`, "unknown", "swr")
}

// TestCableLoss: total loss with a mismatched far end, worked values of the
// ARRL Antenna Book's formula.
func TestCableLoss(t *testing.T) {
	flat := func(db, swr string) string {
		return `{"points":[{"frequency_hz":1e6,"db_per_100m":` + db + `}],"length_m":100,"frequency_hz":1e6,"load_swr":` + swr + `}`
	}
	run(t, "cable-loss", flat("1", "3")).near("total_loss_db", 1.504, 0.0005)
	run(t, "cable-loss", flat("3", "5")).near("total_loss_db", 5.039, 0.0005)
	run(t, "cable-loss", flat("3", "1")).near("total_loss_db", 3, 1e-12)
	// Points made from k1 = 0.5, k2 = 0.01 give them back.
	a := run(t, "cable-loss", `{"points":[{"frequency_hz":1e6,"db_per_100m":0.51},{"frequency_hz":100e6,"db_per_100m":6},{"frequency_hz":400e6,"db_per_100m":14}],"length_m":10,"frequency_hz":500e6}`)
	a.near("k1", 0.5, 1e-9)
	a.near("k2", 0.01, 1e-9)
	a.is("extrapolated", true)
	// A falling loss would need a negative k; it stays at 0.
	a = run(t, "cable-loss", `{"points":[{"frequency_hz":1e6,"db_per_100m":5},{"frequency_hz":100e6,"db_per_100m":1}],"length_m":1,"frequency_hz":50e6}`)
	a.near("k2", 0, 0)
	a.is("extrapolated", false)
	// common practice, no source: 1.5 m of RG-58 near 432 MHz is about half a dB.
	run(t, "cable-loss", `{"cable":"rg-58","length_m":1.5,"frequency_hz":432e6}`).near("matched_loss_db", 0.5, 0.06)
	for _, id := range []string{"rg-58", "rg-8x", "rg-213", "rg-174", "rg-316"} {
		run(t, "cable-loss", `{"cable":"`+id+`","length_m":0,"frequency_hz":1e8,"load_swr":3}`).near("total_loss_db", 0, 1e-12)
	}
	refused(t, "cable-loss", `{"cable":"rg-0","length_m":-1,"frequency_hz":0,"load_swr":0.5}`, "length_m", "frequency_hz", "load_swr", "cable")
	refused(t, "cable-loss", `{"length_m":1,"frequency_hz":1e6}`, "cable")
	refused(t, "cable-loss", `{"points":[],"length_m":1,"frequency_hz":1e6}`, "points")
	refused(t, "cable-loss", `{"points":[{"frequency_hz":0,"db_per_100m":-1}],"length_m":1,"frequency_hz":1e6}`, "points[0].frequency_hz", "points[0].db_per_100m")
	refused(t, "cable-loss", `{"cable":"rg-58","length_m":1e308,"frequency_hz":1e12}`, "length_m")
}

func TestEntry(t *testing.T) {
	a := run(t, "entry", `{"text":"4.71 4.86 h swr 1.3 13.6v 2.9a pk 12"}`)
	a.is("readings.0.value", 4.71)
	a.is("readings.1.value", 4.86)
	a.is("readings.0.unit", "W")
	a.is("level", "h")
	a.is("swr", 1.3)
	a.is("supply_v", 13.6)
	a.is("supply_a", 2.9)
	a.is("peak_w", 12)
	a.is("forward_w", nil)
	a.is("frequency_hz", nil)
	a = run(t, "entry", `{"text":"9.6 fr .4 ? hum on the carrier?"}`)
	a.is("forward_w", 9.6)
	a.is("reflected_w", 0.4)
	a.is("remark", "hum on the carrier?")
	a = run(t, "entry", `{"text":"36.4dBm, 36,5 dBm f 146.52 800mA"}`)
	a.is("readings.1.value", 36.5)
	a.is("readings.1.unit", "dBm")
	a.near("frequency_hz", 146.52e6, 1e-6)
	a.near("supply_a", 0.8, 1e-12)
	run(t, "entry", `{"text":"-7.4","unit":"dBm"}`).is("readings.0.value", -7.4)
	// Readings share one unit; pk and fr have their own, the one given where none is typed.
	a = run(t, "entry", `{"text":"4.71 4.86w pk 31 fr 400mw"}`)
	a.is("readings.0.unit", "W")
	a.near("peak_w", 31, 1e-9)
	a.near("reflected_w", 0.4, 1e-12)
	a = run(t, "entry", `{"text":"36 pk 40","unit":"dBm"}`)
	a.is("readings.0.unit", "dBm")
	a.near("peak_w", 10, 1e-9)
	run(t, "entry", `{"text":"400mW fr 40","unit":"mW"}`).near("reflected_w", 0.04, 1e-12)
	run(t, "entry", `{"text":"36.4DBM"}`).is("readings.0.unit", "dBm")
	// Supply and voltage: 3V alone was read, 13.6v never.
	run(t, "entry", `{"text":"3V"}`).is("readings.0.unit", "V")
	run(t, "entry", `{"text":"13.6v"}`).is("supply_v", 13.6)
	run(t, "entry", `{"text":"4.8 13.6V"}`).is("supply_v", 13.6)
	run(t, "entry", `{"text":"swr 1.2"}`).is("swr", 1.2)
	run(t, "entry", `{"text":"4.8?"}`).is("remark", "?")
	run(t, "entry", `{"text":"4 pk 3"}`).near("peak_w", 3, 0)
	for word, want := range map[string]string{"hi": "h", "HIGH": "h", "mid": "m", "med": "m", "Lo": "l", "t": "t", "Turbo": "turbo", "eco": "eco", "XL": "xl", "P9": "p9"} {
		run(t, "entry", `{"text":"4.8 `+word+`"}`).is("level", want)
	}
	refused(t, "entry", `{"text":"4.8","unit":"ohm"}`, "unit")
	for _, text := range []string{"", "1,500", "4.8 5 MW", "4.8 swr 0.9", "4.8 swr", "fr 1", "4.8 h l", "4.8 banana", "4.8 12v 13v", "-1W", "h", "f 146.5", "? hum", "h f 146.5", "-5", "4W 36dBm", "9 fr 9", "9 fr 10", "4.8 p0", "4.8 medium", "3 pk -1", "nan", "1e999", "4.8 -3v"} {
		refused(t, "entry", `{"text":"`+text+`"}`, "text")
	}
	refused(t, "entry", `{}`, "text")
}

// TestTouchstoneWorkedExample: a two-port line as the Touchstone specification
// writes it (from memory): loss 53.47 dB, SWR 2.395.
func TestTouchstoneWorkedExample(t *testing.T) {
	a := run(t, "touchstone", `{"text":"! a comment\n# MHz S RI R 50\n1.0 0.3926 -0.1211 -0.0003 -0.0021 -0.0003 -0.0021 0.3926 -0.1211\n"}`)
	a.near("loss_db.0", 53.47, 0.005)
	a.near("swr.0", 2.395, 0.0006)
	a.near("frequency_hz.0", 1e6, 0)
	a.near("s.21.0.im", -0.0021, 0)
	a = run(t, "touchstone", `{"text":"1 1.5 0"}`) // no option line: GHz, magnitude and angle
	a.is("ports", 1)
	a.near("frequency_hz.0", 1e9, 0)
	a.is("swr.0", nil)
	a.is("loss_db", nil)
	refused(t, "touchstone", `{"text":"","ports":0}`, "ports")
	refused(t, "touchstone", `{"text":""}`, "text")
	refused(t, "touchstone", `{}`, "text")
}

// TestCompareClaim: worked by hand from 10 log10; S-units are 6 dB (IARU R.1).
func TestCompareClaim(t *testing.T) {
	for _, c := range []struct {
		claimed, measured string
		percent, delta    float64
		grade             string
	}{
		{"20", "2.9", 14.5, -8.39, "far-short"},
		{"10", "6", 60, -2.22, "short"},
		{"10", "8.9", 89, -0.51, "close"},
		{"5", "8", 160, 2.04, "over"},
		{"7", "6.3", 90, -0.46, "as-claimed"},
		{"5", "6", 120, 0.79, "as-claimed"},
	} {
		a := run(t, "compare-claim", `{"claimed_w":`+c.claimed+`,"measured_w":`+c.measured+`}`)
		a.near("percent", c.percent, 1e-9)
		a.near("delta_db", c.delta, 0.005)
		a.is("grade", c.grade)
	}
	run(t, "compare-claim", `{"claimed_w":20,"measured_w":2.9}`).near("s_units", -1.4, 0.005)
	zero := run(t, "compare-claim", `{"claimed_w":5,"measured_w":0}`)
	zero.is("delta_db", nil)
	zero.is("s_units", nil)
	zero.is("grade", "no-output")
	zero.is("verdict", "inconclusive")
	for _, c := range []struct{ rest, want string }{
		{`"measured_w":4.5,"scheme":"percent","decision_rule":"simple"`, "pass"},
		{`"measured_w":4.49,"scheme":"percent","decision_rule":"simple"`, "fail"},
		{`"measured_w":4.6,"scheme":"percent","expanded_uncertainty_db":0.5`, "inconclusive"},
		{`"measured_w":4,"expanded_uncertainty_db":0.5`, "pass"},
		{`"measured_w":3.5,"expanded_uncertainty_db":0.5`, "inconclusive"},
		{`"measured_w":3,"expanded_uncertainty_db":0.5`, "fail"},
		{`"measured_w":8,"expanded_uncertainty_db":0.5`, "pass"},
		{`"measured_w":8,"expanded_uncertainty_db":0.5,"two_sided":true`, "fail"},
		{`"measured_w":6.9,"expanded_uncertainty_db":0.5,"two_sided":true`, "inconclusive"},
		{`"measured_w":3,"expanded_uncertainty_db":0.5,"two_sided":true`, "fail"}, // too little fails both ways
		{`"measured_w":5,"expanded_uncertainty_db":0.5,"two_sided":true`, "pass"},
		// The printed interval against 3.54 W, 1.5 dB under the claim; it wins over a figure in dB.
		{`"measured_w":4,"low_w":3.54,"high_w":4.5`, "pass"},
		{`"measured_w":4,"low_w":3.53,"high_w":4.5,"expanded_uncertainty_db":0.01`, "inconclusive"},
		{`"measured_w":3,"low_w":2.5,"high_w":3.53,"expanded_uncertainty_db":9`, "fail"},
		{`"measured_w":3,"low_w":2.5,"high_w":3.54`, "inconclusive"},
		{`"measured_w":3.55,"low_w":1,"high_w":9,"decision_rule":"simple"`, "pass"},
		{`"measured_w":6,"low_w":5.5,"high_w":7.06,"two_sided":true`, "pass"},
		{`"measured_w":6,"low_w":5.5,"high_w":7.07,"two_sided":true`, "inconclusive"},
		{`"measured_w":8,"low_w":7.07,"high_w":9,"two_sided":true`, "fail"},
		{`"measured_w":4.6,"low_w":4.5,"high_w":4.7,"scheme":"percent"`, "pass"},
		{`"measured_w":0,"low_w":1,"high_w":2`, "inconclusive"},
		{`"measured_w":4,"low_w":null,"high_w":null`, "pass"},
	} {
		run(t, "compare-claim", `{"claimed_w":5,`+c.rest+`}`).is("verdict", c.want)
	}
	refused(t, "compare-claim", `{"claimed_w":0,"measured_w":-1,"expanded_uncertainty_db":-1,"scheme":"x","decision_rule":"y"}`, "claimed_w", "measured_w", "expanded_uncertainty_db", "scheme", "decision_rule")
	refused(t, "compare-claim", `{"claimed_w":1,"measured_w":1,"scheme":"percent","two_sided":true}`, "two_sided")
	refused(t, "compare-claim", `{"claimed_w":5,"measured_w":4,"low_w":3}`, "high_w")
	refused(t, "compare-claim", `{"claimed_w":5,"measured_w":4,"high_w":5}`, "low_w")
	refused(t, "compare-claim", `{"claimed_w":5,"measured_w":4,"low_w":5,"high_w":3}`, "high_w")
	refused(t, "compare-claim", `{"claimed_w":5,"measured_w":6,"low_w":3,"high_w":5}`, "measured_w")
	// 120 % is as claimed, more is over.
	run(t, "compare-claim", `{"claimed_w":5,"measured_w":6}`).is("grade", "as-claimed")
	run(t, "compare-claim", `{"claimed_w":5,"measured_w":6.001}`).is("grade", "over")
	refused(t, "compare-claim", `{}`, "claimed_w", "measured_w")
}

func TestListIsWhole(t *testing.T) {
	want := []string{"antenna", "battery", "cable-loss", "claim", "compare-claim", "convert", "dc-side", "deviation", "diagnose", "digitize", "entry", "frequency-error", "judge", "limit", "look", "meter-baseline", "occupied-bandwidth", "pad-advice", "path", "plan", "reading", "sensitivity", "sinad", "stack-loss", "swr", "touchstone"}
	got := engine.Names()
	if len(got) != len(want) {
		t.Fatalf("names %v", got)
	}
	for i := range want {
		if got[i] != want[i] {
			t.Errorf("name %d is %s, want %s", i, got[i], want[i])
		}
	}
}
