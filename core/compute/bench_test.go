package compute

import (
	"math"
	"testing"
)

// TestPathFigures: a 5 W source through cable and pads into an analyzer, the
// figures worked by hand.
func TestPathFigures(t *testing.T) {
	a := run(t, "path", `{"source_w":5,"frequencies_hz":[146.52e6,293.04e6,4e9],"elements":[
		{"kind":"attenuator","loss":{"flat_db":40},"tolerance_db":0.5,"max_w":10,"from_hz":0,"to_hz":3e9,"swr":1.5},
		{"kind":"attenuator","loss":{"table":[{"frequency_hz":1e6,"db":10},{"frequency_hz":3e9,"db":10.4}]},"max_w":2,"swr":2},
		{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":3.2e9,"max_input_dbm":10,"noise_floor_dbm":-95}],"shi_dbm":40,"toi_dbm":10,"input_attenuation_db":10}]}`)
	loss := 50 + 0.4*(146.52-1)/2999
	a.near("total_loss_db.0", loss, 1e-9)
	a.is("total_loss_db.2", nil)
	a.near("nodes.0.arriving_dbm.0", 36.9897, 1e-4)
	a.near("nodes.1.arriving_w.0", 0.0005, 1e-9)
	a.near("nodes.2.arriving_dbm.0", 36.9897-loss, 1e-4)
	a.is("nodes.2.leaving_dbm", nil)
	a.near("nodes.1.leaving_dbm.0", 36.9897-loss, 1e-4)
	a.is("nodes.2.arriving_w.2", nil)
	a.near("lowest_visible_dbm.0", -95+loss+6, 1e-9)
	// SWR 1.5 against 2: u 0.41 dB, beside 0.5/sqrt 3 (JCGM 100; Harris and Warner).
	a.near("loss_standard_uncertainty_db.0", math.Hypot(0.5/math.Sqrt(3), 0.4095), 0.001)
	// Lm = -13.03 - 10 - ..: second at -(40 - Lm), third at -2 (10 - Lm) - 9.54.
	input := 36.9897 - loss
	lm := input - 10
	a.near("self_made.0.at_connector_dbm", input-(40-lm)+50+0.4*(293.04-1)/2999, 1e-3)
	a.near("self_made.1.at_connector_dbm", input-2*(10-lm)-9.5424+50+0.4*(439.56-1)/2999, 1e-3)
	a.is("self_made.1.order", 3)
	a.is("safe", true)
	run(t, "path", `{"source_w":5,"frequencies_hz":[1e6],"elements":[{"kind":"load","max_w":50}]}`).is("lowest_visible_dbm", nil)
	if got := a.codes("problems"); got != "out-of-range out-of-range out-of-range" {
		t.Errorf("problems %q", got)
	}
}

func TestPathProblems(t *testing.T) {
	for _, c := range []struct{ name, in, codes string }{
		{"over a pad", `{"source_w":25,"frequencies_hz":[146e6],"elements":[{"kind":"attenuator","loss":{"flat_db":40},"max_w":10},{"kind":"load","max_w":10}]}`, "over-rating"},
		{"near a load", `{"source_w":5.1,"frequencies_hz":[146e6],"elements":[{"kind":"load","max_w":10}]}`, "near-rating"},
		{"equal to a rating is near it", `{"source_w":10,"frequencies_hz":[146e6],"elements":[{"kind":"load","max_w":10}]}`, "near-rating"},
		{"3 dB below", `{"source_w":5,"frequencies_hz":[146e6],"elements":[{"kind":"load","max_w":10}]}`, ""},
		{"into the open", `{"source_w":5,"frequencies_hz":[146e6],"elements":[{"kind":"cable","cable":"rg-58","length_m":1}]}`, "unterminated"},
		{"nothing at all", `{"source_w":5,"frequencies_hz":[146e6],"elements":[]}`, "unterminated"},
		{"no rating", `{"source_w":5,"frequencies_hz":[146e6],"elements":[{"kind":"meter"},{"kind":"load"}]}`, "no-rating no-rating"},
		{"adapter beyond 500 MHz", `{"source_w":5,"frequencies_hz":[600e6],"elements":[{"kind":"adapter"},{"kind":"load","max_w":50}]}`, "out-of-range"},
		{"peak kills, mean does not", `{"source_w":1,"source_pep_w":4,"frequencies_hz":[27e6],"elements":[{"kind":"attenuator","loss":{"flat_db":25},"max_w":10},{"kind":"analyzer","ranges":[{"from_hz":1,"to_hz":1e9,"max_input_dbm":10}]}]}`, "over-input"},
		{"main arm of a tap", `{"source_w":40,"frequencies_hz":[146e6],"elements":[{"kind":"tap","coupling_db":50,"max_w":500,"main_load_w":30},{"kind":"analyzer","ranges":[{"from_hz":1,"to_hz":1e9,"max_input_dbm":10}]}]}`, "over-rating"},
		{"analyzer without a limit", `{"source_w":1,"frequencies_hz":[27e6],"elements":[{"kind":"analyzer","ranges":[{"from_hz":1,"to_hz":1e9}]}]}`, "no-rating"},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := run(t, "path", c.in)
			if got := a.codes("problems"); got != c.codes {
				t.Errorf("problems %q, want %q", got, c.codes)
			}
			danger := c.codes == "over-rating" || c.codes == "unterminated" || c.codes == "over-input"
			a.is("safe", !danger)
		})
	}
}

func TestPathRefuses(t *testing.T) {
	refused(t, "path", `{"source_w":0,"frequencies_hz":[-1],"elements":[{"kind":"attenuator","max_w":0},{"kind":"box"}]}`,
		"elements[0].max_w", "elements[0].loss", "elements[1].kind", "source_w", "frequencies_hz[0]")
	refused(t, "path", `{"source_w":1,"frequencies_hz":[1e6],"elements":[{"kind":"attenuator","loss":{"table":[{"frequency_hz":2e6,"db":1},{"frequency_hz":1e6,"db":-1}]}},{"kind":"load"}]}`,
		"elements[0].loss.table[1].frequency_hz", "elements[0].loss.table[1].db")
	refused(t, "path", `{"source_w":1,"frequencies_hz":[1e6],"elements":[{"kind":"attenuator","loss":{"touchstone":"1 0 0"}},{"kind":"analyzer"},{"kind":"load","from_hz":2,"to_hz":1}]}`,
		"elements[0].loss.touchstone", "elements[1].ranges", "elements[2].to_hz", "elements[1].kind")
	refused(t, "path", `{"source_w":1,"source_pep_w":0.5,"frequencies_hz":[1e6],"elements":[{"kind":"cable"},{"kind":"cable","cable":"rg-58"},{"kind":"tap"},{"kind":"attenuator","loss":{"flat_db":1,"table":[]}}]}`,
		"elements[0].cable", "elements[1].length_m", "elements[2].coupling_db", "elements[3].loss", "source_pep_w")
	refused(t, "path", `{"source_w":1,"frequencies_hz":[1e6],"elements":[{"kind":"load","colour":1,"max_w":"10"}]}`, "elements[0].colour", "elements[0].max_w")
	refused(t, "path", `{}`, "source_w", "elements", "frequencies_hz")
}

// TestReadingBudget: accuracy of 5 % of a 20 W scale is half of 2 W and 5.6 %
// of 18 W (worked by hand); two-sided t95 at 2 degrees is 4.303 (JCGM 100, Table G.2).
func TestReadingBudget(t *testing.T) {
	meter := `"meter":{"scale_w":20,"pct_full_scale":5}`
	a := run(t, "reading", `{"text":"2","unit":"W","frequency_hz":146e6,`+meter+`}`)
	a.near("budget.0.relative", 0.5/math.Sqrt(3), 1e-12)
	a.near("high_w", 2*(1+2*0.5/math.Sqrt(3)), 1e-12)
	a.near("expanded_uncertainty_db", -10*math.Log10(1-1/math.Sqrt(3)), 1e-12) // the wider side
	run(t, "reading", `{"text":"18","unit":"W","frequency_hz":146e6,`+meter+`}`).near("budget.0.relative", 0.0556/math.Sqrt(3), 1e-4)

	a = run(t, "reading", `{"text":"4.71 4.86 4.8","unit":"W","frequency_hz":146.52e6,"meter":{"digit_w":0.01}}`)
	a.near("reading_w", 4.79, 1e-9)
	a.near("budget.0.relative", 0.01/math.Sqrt(12)/4.79, 1e-12)
	s := math.Sqrt((0.08*0.08 + 0.07*0.07 + 0.01*0.01) / 2)
	a.near("budget.1.relative", s/math.Sqrt(3)*4.303/2/4.79, 3e-6)

	// Behind 0.5 dB, with an offset the meter already added, and mismatch.
	a = run(t, "reading", `{"text":"36.4 36.6dBm","unit":"dBm","frequency_hz":146e6,"meter":{"db":0.5,"swr":2},"source_swr":1.5,"applied_offset_db":1,
		"path":{"elements":[{"kind":"attenuator","loss":{"flat_db":0.5},"tolerance_db":0.1}]}}`)
	mean := (math.Pow(10, 3.64) + math.Pow(10, 3.66)) / 2000
	a.near("at_connector_w", mean*math.Pow(10, -0.05), 1e-9)
	a.near("budget.0.relative", 0.5/(10/math.Ln10)/math.Sqrt(3), 1e-12)
	a.near("budget.3.relative", 0.41/4.343, 0.001) // SWR 1.5 against 2: u 0.41 dB
	a.is("counts", true)
}

// TestReadingInterval: an uncertainty of 1 W at 2 W is +1.76/-3.01 dB.
func TestReadingInterval(t *testing.T) {
	pct := 50 * math.Sqrt(3) / 2
	a := run(t, "reading", `{"text":"2","unit":"W","frequency_hz":1e6,"meter":{"pct_reading":`+trim(pct)+`}}`)
	a.near("low_w", 1, 1e-9)
	a.near("high_w", 3, 1e-9)
	a.near("expanded_uncertainty_db", 3.01, 0.005)
	wide := run(t, "reading", `{"text":"2","unit":"W","frequency_hz":1e6,"meter":{"pct_reading":200}}`)
	wide.near("low_w", 0, 0)
	wide.is("expanded_uncertainty_db", nil)
}

func TestReadingFlags(t *testing.T) {
	for _, c := range []struct {
		text, meter, codes string
		counts             bool
	}{
		{"4.8", `{"from_hz":100e6,"to_hz":500e6}`, "", true},
		{"4.8", `{"from_hz":200e6}`, "meter-out-of-range", false},
		{"5.1 15", `{"scale_w":15}`, "pegged unsteady", false},
		{"1.4", `{"scale_w":15}`, "low-on-scale", true},
		{"4.5 5", `{}`, "unsteady", true},
		{"0", `{}`, "zero", true},
	} {
		a := run(t, "reading", `{"text":"`+c.text+`","unit":"W","frequency_hz":146e6,"meter":`+c.meter+`}`)
		if got := a.codes("flags"); got != c.codes {
			t.Errorf("%s on %s: flags %q, want %q", c.text, c.meter, got, c.codes)
		}
		a.is("counts", c.counts)
	}
	zero := run(t, "reading", `{"text":"0 W","unit":"W","frequency_hz":146e6,"meter":{"pct_reading":5}}`)
	zero.is("at_connector_w", 0)
	for _, f := range []string{"at_connector_dbm", "low_w", "high_w", "expanded_uncertainty_db"} {
		zero.is(f, nil)
	}
	out := run(t, "reading", `{"text":"5","unit":"W","frequency_hz":900e6,"meter":{},"path":{"elements":[{"kind":"adapter"}]}}`)
	out.is("at_connector_w", nil)
	out.is("counts", false)
}

func TestReadingRefuses(t *testing.T) {
	refused(t, "reading", `{}`, "frequency_hz", "text", "meter")
	refused(t, "reading", `{"text":"5W","unit":"dBm","frequency_hz":1e6,"meter":{}}`, "text")
	refused(t, "reading", `{"text":"5","frequency_hz":1e6,"meter":{}}`, "unit")
	refused(t, "reading", `{"text":"swr 1.2","unit":"W","frequency_hz":1e6,"meter":{}}`, "text")
	refused(t, "reading", `{"text":"5 f 146","unit":"W","frequency_hz":1e6,"meter":{}}`, "text")
	refused(t, "reading", `{"text":"-5","unit":"W","frequency_hz":0,"meter":{"to_hz":-1,"pct_full_scale":5,"swr":0.5},"path":{"elements":[{"kind":"tap"}]}}`,
		"path.elements[0].coupling_db", "text", "frequency_hz", "meter.to_hz", "meter.scale_w", "meter.swr")
}

// TestReadingPools: JCGM 100, 4.2.4: 1 % by 4 degrees of freedom and the 2.828 % of
// 4.9 and 5.1 by one are sqrt((4 + 8)/5) = 1.549 %; t95(5) is 2.571.
func TestReadingPools(t *testing.T) {
	ask := func(text, meter, more string) answer {
		return run(t, "reading", `{"text":"`+text+`","unit":"W","frequency_hz":146e6,"meter":{`+meter+`}`+more+`}`)
	}
	ask("4.9 5.1", `"repeatability_pct":1`, "").near("budget.0.relative", 0.01549/math.Sqrt2*2.5706/2, 1e-5)
	ask("5", `"repeatability_pct":1`, "").near("budget.0.relative", 0.01*2.7764/2, 1e-5)
	ask("5", ``, `,"pooled":{"s_relative":0.03,"degrees_of_freedom":6}`).near("budget.0.relative", 0.03*2.4469/2, 1e-5)
	ask("4.9 5.1", ``, "").near("budget.0.relative", 0.0282843/math.Sqrt2*12.7062/2, 1e-5) // its own alone, by one degree of freedom
	if n := len(ask("5", ``, "").at("budget").([]any)); n != 0 {
		t.Errorf("a single reading on a perfect meter has %d lines", n)
	}
	refused(t, "reading", `{"text":"5","unit":"W","frequency_hz":146e6,"meter":{"repeatability_pct":-1},"pooled":{"s_relative":-1,"degrees_of_freedom":0}}`, "meter.repeatability_pct", "pooled.s_relative", "pooled.degrees_of_freedom")
	// A peak alone is an entry.
	run(t, "entry", `{"text":"pk 41"}`).near("peak_w", 41, 0)
}
