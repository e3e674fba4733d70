package compute

import (
	"strings"
	"testing"
)

// TestDiagnose: straight 5.0 and 18 W, through 1.8 m of coax and another meter 2.21 and
// 13.5 W: 3.55 and 1.25 dB, which no cable does (common practice, no source: a case from a
// bench). The rest follows from what a loss, a zero and a scale are.
func TestDiagnose(t *testing.T) {
	a := run(t, "diagnose", `{"pairs":[{"a_w":5,"b_w":2.21},{"a_w":18,"b_w":13.5}],"expected_loss_db":0.4,"uncertainty_db":0.5}`)
	a.is("fits", "none")
	a.near("loss_db.0", 3.55, 0.005)
	a.near("loss_db.1", 1.25, 0.005)
	a.near("mean_loss_db", 2.40, 0.005)
	a.near("spread_db", 2.30, 0.01)
	if d := a.at("deciding").(string); !strings.Contains(d, "third meter") {
		t.Errorf("what would decide: %q", d)
	}
	for _, c := range []struct{ in, fits string }{
		// 10^(0.04): 0.4 dB at both.
		{`{"pairs":[{"a_w":5,"b_w":4.56},{"a_w":18,"b_w":16.4}],"expected_loss_db":0.4,"uncertainty_db":0.1}`, "expected-loss"},
		{`{"pairs":[{"a_w":5,"b_w":4.56}],"expected_loss_db":0.4,"uncertainty_db":0.1}`, "expected-loss"},
		{`{"pairs":[{"a_w":5,"b_w":2.5}],"expected_loss_db":0.4,"uncertainty_db":0.1}`, "none"},
		{`{"pairs":[{"a_w":5,"b_w":2.5},{"a_w":20,"b_w":10}],"expected_loss_db":0.4,"uncertainty_db":0.1}`, "loss"},
		{`{"pairs":[{"a_w":5,"b_w":2.5},{"a_w":20,"b_w":10}],"uncertainty_db":0.1}`, "loss"},
		{`{"pairs":[{"a_w":5,"b_w":4},{"a_w":20,"b_w":19},{"a_w":2,"b_w":1}],"expected_loss_db":0.1,"uncertainty_db":0.1}`, "zero"},
		{`{"pairs":[{"a_w":5,"b_w":3.5},{"a_w":20,"b_w":15.5},{"a_w":10,"b_w":7.5}],"expected_loss_db":0.1,"uncertainty_db":0.1}`, "scale-and-zero"},
		{`{"pairs":[{"a_w":5,"b_w":3.5},{"a_w":20,"b_w":15.5}],"expected_loss_db":0.1,"uncertainty_db":0.1}`, "none"}, // two always fit a line
		{`{"pairs":[{"a_w":5,"b_w":3.5},{"a_w":20,"b_w":15.5},{"a_w":10,"b_w":3}],"expected_loss_db":0.1,"uncertainty_db":0.1}`, "none"},
		{`{"pairs":[{"a_w":5,"b_w":3},{"a_w":5,"b_w":4},{"a_w":5,"b_w":2}],"uncertainty_db":0.1}`, "none"}, // no line through one power
	} {
		if got := run(t, "diagnose", c.in).at("fits"); got != c.fits {
			t.Errorf("%s fits %v, want %s", c.in, got, c.fits)
		}
	}
	refused(t, "diagnose", `{}`, "uncertainty_db", "pairs")
	refused(t, "diagnose", `{"pairs":[{"a_w":0,"b_w":1},{"a_w":1}],"expected_loss_db":-1,"uncertainty_db":-1}`, "pairs[1].b_w", "pairs[0].a_w", "expected_loss_db", "uncertainty_db")
}

const planned = `{"bands":[{"name":"2m","channels":[{"name":"calling","frequency_hz":146.52e6},{"name":"edge","frequency_hz":147.99e6}],
 "levels":[{"name":"High","claimed_w":5},{"name":"Low","claimed_w":0.5}],"modes":["FM"]},
 {"name":"70cm","channels":[{"name":"calling","frequency_hz":446e6}],"levels":[{"name":"High","claimed_w":5}],"modes":["FM","AM"]}],
 "supply_v":[7.2,8.4],"key_s":10,"rest_s":20,"battery_mah":1500,"tx_a":1.4,
 "paths":[{"name":"meter","kind":"power","rig_s":180,"elements":[{"kind":"meter","max_w":50},{"kind":"load","max_w":50,"to_hz":200e6}]},
 {"name":"analyzer","kind":"emissions","rig_s":120,"elements":[{"kind":"attenuator","loss":{"flat_db":40},"max_w":25},{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":960e6,"max_input_dbm":10}]}]},
 {"name":"pocket","kind":"emissions","rig_s":60,"elements":[{"kind":"attenuator","loss":{"flat_db":40},"max_w":25},{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":250e6,"max_input_dbm":-20}]}]}]}`

// TestPlan: the order, what counts, and the sums, by hand.
func TestPlan(t *testing.T) {
	a := run(t, "plan", planned)
	steps := a.at("steps").([]any)
	if len(steps) != 3*2*(2*2+2) {
		t.Fatalf("%d steps", len(steps))
	}
	for path, want := range map[string]any{
		"steps.0.n": 1, "steps.0.path": "meter", "steps.0.supply_v": 7.2, "steps.0.channel": "calling", "steps.0.level": "Low", "steps.0.counts": true, "steps.0.why_not": "", "steps.0.kind": "power",
		"steps.1.level": "High", "steps.2.channel": "edge", "steps.4.band": "70cm", "steps.4.mode": "FM", "steps.5.mode": "AM", "steps.6.supply_v": 8.4,
		"steps.4.counts": false, "steps.12.path": "analyzer", "steps.12.counts": true, "steps.16.counts": true,
		// 6 dB over its carrier, 6.3 W: 25 W of peaks are +4.0 dBm behind 40 dB, within the +10 dBm.
		"steps.17.counts": true, "steps.24.counts": false,
		"rig_changes": 2,
	} {
		a.is(path, want)
	}
	if why := a.at("steps.4.why_not").(string); !strings.Contains(why, "446 MHz") {
		t.Errorf("70cm into a load for 2 m: %q", why)
	}
	// 8 + 12 steps count: 180 + 120 + 20 x 30 s, 200 s transmitted at 1.4 A.
	a.near("bench_s", 900, 1e-9)
	a.near("transmit_s", 200, 1e-9)
	a.near("battery_mah", 77.78, 0.01)
}

// TestPlanIsHarderInAM: an input that stands the carrier but not its peaks; the second
// harmonic out of reach; nothing claimed; and what is left out.
func TestPlanIsHarderInAM(t *testing.T) {
	with := func(mode, claimed, most, reach string) answer {
		return run(t, "plan", `{"bands":[{"name":"x","channels":[{"name":"a","frequency_hz":27e6}],"levels":[{"name":"High","claimed_w":`+claimed+`}],"modes":["`+mode+`"]}],
		"paths":[{"name":"p","kind":"emissions","elements":[{"kind":"attenuator","loss":{"flat_db":40},"max_w":25},{"kind":"analyzer","ranges":[{"from_hz":1e5,"to_hz":`+reach+`,"max_input_dbm":`+most+`}]}]}]}`)
	}
	fm := with("FM", "4", "0", "1e9") // 4 W and 1 dB: 37.02 dBm, -3 dBm at the input
	fm.is("steps.0.counts", true)
	fm.is("steps.0.supply_v", nil)
	fm.is("battery_mah", nil)
	fm.near("bench_s", 30, 0)
	with("AM", "4", "0", "1e9").is("steps.0.counts", false)  // +3 dBm at full modulation
	with("FM", "4", "0", "50e6").is("steps.0.counts", false) // 54 MHz is not seen
	none := with("FM", "null", "0", "1e9")                   // 10 W are taken, +1 dBm
	none.is("steps.0.counts", false)
	none.is("steps.0.claimed_w", nil)
	none.is("rig_changes", 0)
	none.near("bench_s", 0, 0)
	refused(t, "plan", `{}`, "bands", "paths")
	refused(t, "plan", `{"bands":[{"name":"x","channels":[{"name":"a"}],"levels":[{"name":"h","claimed_w":0}],"modes":["FMN"]}],"supply_v":[0],"paths":[{"name":"p","kind":"both","rig_s":-1}],"key_s":0,"rest_s":-1,"battery_mah":0,"tx_a":0}`,
		"bands[0].channels[0].frequency_hz", "bands[0].levels[0].claimed_w", "paths[0].elements", "battery_mah", "bands[0].modes[0]", "supply_v[0]", "paths[0].kind", "paths[0].rig_s", "key_s", "rest_s", "tx_a")
}
