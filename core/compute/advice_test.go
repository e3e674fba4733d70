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

// TestCertificates: a stated expanded uncertainty counts as U / k (JCGM 100,
// 4.3.3), for meters in both forms, for losses, and for a needle as given.
func TestCertificates(t *testing.T) {
	a := run(t, "reading", `{"text":"10","unit":"W","frequency_hz":145e6,"meter":{"expanded_pct":3,"expanded_db":0.3,"coverage_factor":3,"needle":true,"digit_w":1,"needle_w":0.05},
		"path":{"elements":[{"kind":"attenuator","loss":{"flat_db":0},"expanded_db":0.2}]}}`)
	a.near("budget.0.relative", 0.01, 1e-12)
	a.is("budget.0.divisor", 3)
	a.near("budget.1.relative", 0.1/4.342945, 1e-6)
	a.is("budget.2.source", "reading the needle")
	a.near("budget.2.relative", 0.005, 1e-12)
	a.is("budget.3.source", "loss of the path")
	a.near("budget.3.relative", 0.1/4.342945, 1e-6) // k = 2 where none is given
	a = run(t, "path", `{"source_w":5,"frequencies_hz":[146e6],"elements":[{"kind":"attenuator","loss":{"flat_db":40},"tolerance_db":0.3,"expanded_db":0.2,"coverage_factor":2},{"kind":"load","max_w":5}]}`)
	a.near("loss_standard_uncertainty_db.0", 0.2, 1e-9) // 0.3/sqrt 3 and 0.1 together
	a = run(t, "reading", `{"text":"10","unit":"W","frequency_hz":145e6,"meter":{},"path":{"elements":[{"kind":"attenuator","loss":{"flat_db":1},"measured":{"spans":1,"on":"2026-11-20","table":[{"frequency_hz":144e6,"db":3.0103,"standard_uncertainty_db":0.1}]}}]}}`)
	a.near("at_connector_w", 20, 1e-4)
	a.is("budget.0.source", "loss of the path, measured 2026-11-20")
	refused(t, "reading", `{"text":"1","unit":"W","frequency_hz":1e6,"meter":{"coverage_factor":0,"expanded_db":-1,"needle_w":-1}}`, "meter.expanded_db", "meter.needle_w", "meter.coverage_factor")
	refused(t, "path", `{"source_w":5,"frequencies_hz":[146e6],"elements":[{"kind":"load","expanded_db":-1,"coverage_factor":0}]}`, "elements[0].expanded_db", "elements[0].coverage_factor")
}

// TestStrictPath: what is not known in front of an analyzer is a danger only
// where that is asked for; the plain answer is a caution.
func TestStrictPath(t *testing.T) {
	const elements = `"source_w":5,"frequencies_hz":[4e9],"elements":[{"kind":"attenuator","loss":{"flat_db":40},"max_w":10,"to_hz":3e9},{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":6e9,"max_input_dbm":10}]}]`
	a := run(t, "path", "{"+elements+"}")
	a.is("safe", true)
	if got := a.codes("problems"); got != "out-of-range" {
		t.Errorf("plain: %q", got)
	}
	a = run(t, "path", `{"strict":true,`+elements+"}")
	a.is("safe", false)
	if got := a.codes("problems"); got != "out-of-range unknown-level" {
		t.Errorf("strict: %q", got)
	}
}
