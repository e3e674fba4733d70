package compute

import "testing"

// TestPadAdvice: 5 W, a 40 dB pad and an analyzer that survives +10 dBm leave 13 dB.
func TestPadAdvice(t *testing.T) {
	a := run(t, "pad-advice", `{"rule_book":"us-amateur","fundamental_hz":146.52e6,"source_w":5,
		"before":[{"kind":"cable","cable":"rg-316","length_m":0}],
		"pads":[{"kind":"attenuator","name":"small","loss":{"flat_db":10},"max_w":2},{"kind":"attenuator","name":"power","loss":{"flat_db":40},"max_w":25}],
		"analyzer":{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":3.2e9,"max_input_dbm":10,"noise_floor_dbm":-80}]}}`)
	a.is("choices.0.names.0", "power")
	a.is("choices.0.fits", true)
	a.near("choices.0.headroom_db", 10-(36.9897-40), 1e-3)
	a.near("choices.0.tightest_db", 6.9897, 1e-3)
	a.near("choices.0.spare_db", -16.0206-(-34), 1e-3)
	a.is("choices.0.self_made_db", nil)
	refused(t, "pad-advice", `{"source_w":5,"pads":[{"kind":"attenuator"}],"most_pads":1}`, "rule_book", "fundamental_hz", "pads[0].loss", "analyzer")
	refused(t, "pad-advice", `{}`, "source_w", "rule_book", "fundamental_hz", "pads", "analyzer")
}

func TestStackLoss(t *testing.T) {
	a := run(t, "stack-loss", `{"meter":{"pct_reading":5},"points":[{"frequency_hz":144e6,"without":"5","with":"33.4 dBm"}]}`)
	a.near("table.0.db", 36.9897-33.4, 1e-4)
	a.near("table.0.standard_uncertainty_db", 0.1773, 1e-4)
	a = run(t, "stack-loss", `{"touchstone":"# MHz S DB R 50\n100 -30 0 -40.2 0 -40.2 0 -30 0\n","tolerance_db":0.3}`)
	a.near("table.0.db", 40.2, 1e-9)
	refused(t, "stack-loss", `{}`, "meter")
	refused(t, "stack-loss", `{"touchstone":"# MHz S DB R 50\n100 -30 0\n"}`, "tolerance_db")
	refused(t, "stack-loss", `{"touchstone":"nonsense","tolerance_db":0.3,"points":[]}`, "points", "touchstone")
	refused(t, "stack-loss", `{"meter":{},"points":[{"frequency_hz":144e6,"without":"5 furlongs","with":"1"}]}`, "points[0].without")
}

func TestMeterBaseline(t *testing.T) {
	a := run(t, "meter-baseline", `{"meters":["a","b"],"rows":[{"transmitter":"handheld","frequency_hz":145e6,"readings":["5","10 W"]},{"transmitter":"mobile","frequency_hz":145e6,"readings":["37 dBm","40 dBm"]}]}`)
	a.near("meters.1.offset_db", (3.0103+3)/2, 1e-4)
	a.is("meters.1.rows", 2)
	refused(t, "meter-baseline", `{"meters":["a"],"rows":[{"transmitter":"x","frequency_hz":1e6,"readings":["five"]}]}`, "rows[0].readings[0]")
	refused(t, "meter-baseline", `{}`, "meters", "rows")
}

func TestDCSide(t *testing.T) {
	a := run(t, "dc-side", `{"set_v":13.8,"lead_ohm":0.1,"levels":[{"name":"High","w":25},{"name":"Low","w":5,"a":1.5}]}`)
	a.near("rows.0.radio_v", 13.3313, 1e-3)
	a.near("rows.1.drop_v", 0.15, 1e-9)
	a.is("safe", true)
	refused(t, "dc-side", `{"levels":[]}`, "set_v", "levels")
}

// TestReadingBaseline: an accepted baseline of +0.5 dB is taken out, shown in the
// budget, and left alone where it was not found.
func TestReadingBaseline(t *testing.T) {
	const meter = `"meter":{"pct_reading":5,"baseline":{"offset_db":0.5,"standard_uncertainty_db":0.1,"from_hz":144e6,"to_hz":146e6,"on":"2026-11-25","against":"two others"}}`
	a := run(t, "reading", `{"text":"5","unit":"W","frequency_hz":145e6,`+meter+`}`)
	a.near("at_connector_w", 5/1.12202, 1e-4)
	a.near("reading_w", 5, 0)
	a.near("baseline_db", 0.5, 0)
	a.is("budget.1.source", "baseline of 2026-11-25 against two others, +0.50 dB taken out")
	a.near("budget.1.relative", 0.1/4.343, 1e-5)
	a = run(t, "reading", `{"text":"5","unit":"W","frequency_hz":433e6,`+meter+`}`)
	a.near("at_connector_w", 5, 1e-12)
	if got := a.codes("flags"); got != "baseline-elsewhere" {
		t.Errorf("flags %q", got)
	}
	a.is("counts", true)
	refused(t, "reading", `{"text":"5","unit":"W","frequency_hz":145e6,"meter":{"baseline":{"offset_db":1,"standard_uncertainty_db":-1,"from_hz":2,"to_hz":1}}}`,
		"meter.baseline.standard_uncertainty_db", "meter.baseline.to_hz")
}
