package compute

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"talloak/core/problem"
)

// seeds are inputs of every calculation, good ones for the fuzzer to spoil.
var seeds = map[string]string{
	"convert":            `{"text":"36.4dBm"}`,
	"swr":                `{"forward_w":10,"reflected_w":0.4}`,
	"cable-loss":         `{"cable":"rg-58","length_m":1.5,"frequency_hz":432e6,"load_swr":2}`,
	"touchstone":         `{"text":"# MHz S RI R 50\n1 0 0 1 0 1 0 0 0"}`,
	"path":               `{"source_w":5,"frequencies_hz":[146e6],"elements":[{"kind":"attenuator","loss":{"table":[{"frequency_hz":1e6,"db":10},{"frequency_hz":3e9,"db":11}]},"max_w":2},{"kind":"analyzer","ranges":[{"from_hz":1,"to_hz":3e9,"max_input_dbm":10,"noise_floor_dbm":-95}],"shi_dbm":40,"toi_dbm":10}]}`,
	"reading":            `{"text":"4.71 4.86","unit":"W","frequency_hz":146e6,"meter":{"scale_w":15,"pct_full_scale":5,"swr":1.2},"source_swr":1.5,"path":{"elements":[{"kind":"adapter"}]}}`,
	"sensitivity":        `{"text":"0.22uV","frequency_hz":146e6,"claimed":"0.25uV","generator_db":1.5,"loss_db":20}`,
	"sinad":              `{"total_v":1,"residue_v":0.25}`,
	"look":               `{"text":"30-1000 floor -70 146.52 -7.4 2h -62 205 -66 3 -55c","fundamental_hz":146.52e6}`,
	"claim":              `{"text":"2m 25W 10W 5W, 70cm 40/5 10m AM 12 pep 35 SSB","region":2}`,
	"entry":              `{"text":"4.71 h swr 1.3 13.6v pk 12 ? odd"}`,
	"compare-claim":      `{"claimed_w":5,"measured_w":4,"expanded_uncertainty_db":0.5,"two_sided":true}`,
	"limit":              `{"book":{"id":"a","title":"","kind":"law","source":"","recalled":true,"clauses":[{"when":{},"citation":"c","segments":[{"to_multiple":3,"terms":[{"relative_db":40},{"formula_db":43}],"combine":"lenient","floor_dbm":-20}]}]},"fundamental_hz":146e6,"mean_power_w":5,"frequency_hz":[292e6]}`,
	"pad-advice":         `{"rule_book":"us-amateur","fundamental_hz":146e6,"source_w":5,"before":[],"pads":[{"kind":"attenuator","loss":{"flat_db":40},"max_w":25}],"analyzer":{"kind":"analyzer","ranges":[{"from_hz":1,"to_hz":3e9,"max_input_dbm":10,"noise_floor_dbm":-95}]},"most_pads":2}`,
	"stack-loss":         `{"meter":{"pct_reading":5},"meter_with":{"db":1},"source_swr":1.2,"points":[{"frequency_hz":144e6,"without":"5","with":"2 W"}]}`,
	"meter-baseline":     `{"meters":["a","b"],"rows":[{"transmitter":"t","frequency_hz":145e6,"readings":["5","4.9 5"]}]}`,
	"dc-side":            `{"set_v":13.8,"lead_ohm":0.1,"limit_a":5,"levels":[{"name":"High","w":25,"a":5}]}`,
	"deviation":          `{"tone_hz":1000,"lines_dbm":[-20.1,-14.2,-18.0,null,-40],"line_db":0.5,"tone_pct":0.1,"at_most_hz":5000}`,
	"occupied-bandwidth": `{"sweep":{"start_hz":0,"stop_hz":1100,"levels_dbm":[-90,-90,-90,-90,-20,-20,-20,-20,-90,-90,-90,-90],"rbw_hz":10},"at_most_hz":500}`,
	"frequency-error":    `{"text":"145.500312","nominal_hz":145.5e6,"reference_ppm":0.5,"resolution_hz":1,"claimed_ppm":2.5}`,
	"antenna":            `{"text":"# MHz S MA R 50\n144 0.5 10\n145 0.2 5\n146 0.1 -3\n147 0.3 -20","from_hz":144e6,"to_hz":147e6,"cable_loss_db":1,"at_hz":[145.5e6]}`,
	"battery":            `{"points":[{"t_s":0,"v":8.4,"a":1},{"t_s":3600,"v":6,"a":1}],"cutoff_v":7,"label_mah":1500,"duty":{"tx_a":1.4,"rx_a":0.2,"standby_a":0.05,"share":[5,5,90]}}`,
	"judge":              `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":5,"loss_db":50,"sweeps":[{"start_hz":30e6,"stop_hz":900e6,"levels_dbm":[-90,-13,-90,-60,-90,-90],"rbw_hz":1e5}],"looks":[{"from_hz":1e6,"to_hz":1e9,"floor_dbm":-60,"peaks":[{"frequency_hz":292e6,"dbc":-50}]}]}`,
}

// FuzzRun: whatever the bytes, an answer is whole JSON and a refusal names what
// was wrong; nothing panics.
func FuzzRun(f *testing.F) {
	for name, in := range seeds {
		f.Add(name, []byte(in))
	}
	f.Fuzz(func(t *testing.T, name string, data []byte) {
		out, err := engine.Run(name, data)
		if err == nil {
			if !json.Valid(out) {
				t.Fatalf("%s %s: %s", name, data, out)
			}
			return
		}
		var bad *problem.Error
		if !errors.As(err, &bad) || len(bad.Fields) == 0 || out != nil {
			t.Fatalf("%s %s: %v", name, data, err)
		}
	})
}

// TestEveryInputIsStrict: for every calculation a good input is taken; with a
// field nobody knows, or one field of the wrong kind, it is refused by name.
func TestEveryInputIsStrict(t *testing.T) {
	for name, in := range seeds {
		run(t, name, in)
		spoilt := strings.Replace(in, "{", `{"nobody_knows":1,`, 1)
		refused(t, name, spoilt, "nobody_knows")
		var fields map[string]json.RawMessage
		if err := json.Unmarshal([]byte(in), &fields); err != nil {
			t.Fatal(err)
		}
		for field, value := range fields {
			wrong := `"text"`
			if value[0] == '"' {
				wrong = `12`
			}
			other := map[string]json.RawMessage{}
			for k, v := range fields {
				other[k] = v
			}
			other[field] = json.RawMessage(wrong)
			text, _ := json.Marshal(other)
			_, err := engine.Run(name, text)
			var bad *problem.Error
			if !errors.As(err, &bad) || bad.Fields[0].Field != field {
				t.Errorf("%s with %s as %s: %v", name, field, wrong, err)
			}
		}
	}
}

// TestNumbersTooLargeAreRefused: a result beyond a float names its input.
func TestNumbersTooLargeAreRefused(t *testing.T) {
	for _, c := range []struct{ name, in, field string }{
		{"convert", `{"value":1e308,"unit":"W"}`, "value"},
		{"swr", `{"rho":0.99999999999999999}`, "rho"},
		{"cable-loss", `{"cable":"rg-58","length_m":1,"frequency_hz":1e6,"load_swr":1e300}`, "load_swr"},
		{"path", `{"source_w":1e307,"frequencies_hz":[1],"elements":[]}`, "source_w"},
		{"path", `{"source_w":1,"frequencies_hz":[1],"elements":[{"kind":"attenuator","loss":{"flat_db":1e300}}]}`, "elements[0].loss.flat_db"},
		{"reading", `{"text":"5000dBm","unit":"dBm","frequency_hz":1,"meter":{}}`, "text"},
		{"reading", `{"text":"5","unit":"W","frequency_hz":1,"meter":{},"applied_offset_db":-1e5}`, "applied_offset_db"},
		{"compare-claim", `{"claimed_w":1e-300,"measured_w":1e300}`, "measured_w"},
		{"limit", `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":1e308,"frequency_hz":[1]}`, "mean_power_w"},
		{"touchstone", `{"text":"# GHz S DB\n1 1e9 0"}`, "text"},
		{"judge", `{"rule_book":"us-amateur","fundamental_hz":146e6,"applied_offset_db":1e9,"sweeps":[{"start_hz":1,"stop_hz":2,"levels_dbm":[1,2]}]}`, "applied_offset_db"},
		{"judge", `{"rule_book":"us-amateur","fundamental_hz":146e6,"sweeps":[{"start_hz":1,"stop_hz":2,"levels_dbm":[1,1e300]}]}`, "sweeps[0].levels_dbm[1]"},
	} {
		refused(t, c.name, c.in, c.field)
	}
}
