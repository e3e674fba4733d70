package compute

import "testing"

// TestSINAD: 12 dB is 25.1 % of distortion and noise (definition).
func TestSINAD(t *testing.T) {
	run(t, "sinad", `{"sinad_db":12}`).near("distortion_percent", 25.12, 0.005)
	run(t, "sinad", `{"distortion_percent":25.118864315}`).near("sinad_db", 12, 1e-6)
	a := run(t, "sinad", `{"total_v":1,"residue_v":0.1}`)
	a.near("sinad_db", 20, 1e-12)
	a.near("distortion_percent", 10, 1e-12)
	refused(t, "sinad", `{}`, "sinad_db")
	refused(t, "sinad", `{"sinad_db":12,"distortion_percent":25}`, "sinad_db")
	refused(t, "sinad", `{"sinad_db":-1}`, "sinad_db")
	refused(t, "sinad", `{"distortion_percent":0}`, "distortion_percent")
	refused(t, "sinad", `{"distortion_percent":101}`, "distortion_percent")
	refused(t, "sinad", `{"total_v":1}`, "residue_v")
	refused(t, "sinad", `{"total_v":1,"residue_v":2}`, "residue_v")
	refused(t, "sinad", `{"total_v":0,"residue_v":0}`, "total_v", "residue_v")
}

// TestSensitivity: 0.25 µV PD are -119.03 dBm; a generator of -90.6 dBm through 40 dB
// is -130.6 dBm at the receiver (common practice, no source); S9 is -73.01 dBm below 30 MHz and
// -93.01 above (IARU Region 1 R.1).
func TestSensitivity(t *testing.T) {
	a := run(t, "sensitivity", `{"text":"0.25uV","frequency_hz":146e6}`)
	a.near("generator_dbm", -119.03, 0.005)
	a.near("at_connector_uv", 0.25, 1e-9)
	a.near("expanded_uncertainty_db", 0, 0)
	a.is("claim_delta_db", nil)
	a.is("verdict", nil)
	run(t, "sensitivity", `{"text":"0.5uV","emf":true,"frequency_hz":146e6}`).near("at_connector_uv", 0.25, 1e-9)
	run(t, "sensitivity", `{"text":"-121dBm","emf":true,"frequency_hz":146e6}`).near("generator_dbm", -121, 1e-9) // power is power
	run(t, "sensitivity", `{"text":"0dBuV","emf":true,"frequency_hz":146e6}`).near("at_connector_uv", 0.5, 1e-9)
	a = run(t, "sensitivity", `{"text":"-90.6dBm","frequency_hz":146e6,"loss_db":40}`)
	a.near("at_connector_dbm", -130.6, 1e-9)
	run(t, "sensitivity", `{"text":"50uV","frequency_hz":29.9e6}`).near("s_units", 9, 1e-9)
	run(t, "sensitivity", `{"text":"5uV","frequency_hz":30e6}`).near("s_units", 9, 1e-9)
	run(t, "sensitivity", `{"text":"2.5uV","frequency_hz":146e6}`).near("s_units", 8, 0.004)

	// A generator within 1.5 dB and a pad within 0.5: U = 2 sqrt(0.75 + 0.0833) = 1.826 dB.
	held := func(text, more string) answer {
		return run(t, "sensitivity", `{"text":"`+text+`","frequency_hz":146e6,"generator_db":1.5,"claimed":"0.25uV",
			"path":{"elements":[{"kind":"attenuator","loss":{"flat_db":20},"tolerance_db":0.5}]}`+more+`}`)
	}
	a = held("-99.03dBm", "")
	a.near("expanded_uncertainty_db", 1.8257, 1e-4)
	a.near("claim_delta_db", 0, 0.001)
	a.is("verdict", "inconclusive")
	held("-100.9dBm", "").is("verdict", "pass")
	held("-97.1dBm", "").is("verdict", "fail") // needs 1.93 dB more
	held("-97.1dBm", `,"tolerance_db":0.2`).is("verdict", "inconclusive")
	held("-99.1dBm", `,"decision_rule":"simple"`).is("verdict", "pass")
	held("0.0002uV", `,"emf":true`).is("verdict", "pass") // what is claimed is PD all the same
	ear := held("-97.1dBm", `,"kind":"by-ear"`)
	ear.is("claim_delta_db", nil)
	ear.is("verdict", nil)
	blind := run(t, "sensitivity", `{"text":"1uV","frequency_hz":900e6,"path":{"elements":[{"kind":"adapter"}]}}`)
	blind.is("at_connector_dbm", nil)

	refused(t, "sensitivity", `{}`, "frequency_hz", "text")
	refused(t, "sensitivity", `{"text":"0 uV","frequency_hz":146e6,"claimed":"0uV"}`, "text", "claimed")
	refused(t, "sensitivity", `{"text":"5","frequency_hz":0,"kind":"x","generator_db":-1,"tolerance_db":-1,"decision_rule":"x","loss_db":1,"path":{"elements":[]}}`,
		"loss_db", "text", "kind", "frequency_hz", "generator_db", "tolerance_db", "decision_rule")
}
