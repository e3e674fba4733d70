package compute

import "testing"

// TestTheRestOfAnAfternoon: the calculations take what they are described to take, and refuse the
// rest at its field; their figures are tested where they are made.
func TestTheRestOfAnAfternoon(t *testing.T) {
	a := run(t, "deviation", `{"plus_hz":4310,"minus_hz":4120,"at_most_hz":5000}`)
	a.is("verdict", "pass")
	a.is("asymmetry_hz", 190)
	run(t, "deviation", `{"tone_hz":2000,"null":1}`).near("deviation_hz", 4809.6511154, 1e-6)
	run(t, "deviation", `{"tone_hz":1000,"lines_dbm":[-20.1,-14.2,null,-27.5]}`).is("verdict", nil)
	refused(t, "deviation", `{"plus_hz":1,"tone_hz":1,"null":1}`, "plus_hz")
	refused(t, "deviation", `{"tone_hz":0,"null":1}`, "tone_hz")

	a = run(t, "frequency-error", `{"text":"145.500312","nominal_hz":145.5e6,"claimed_ppm":2.5}`)
	a.is("verdict", "pass")
	a.near("error_hz", 312, 1e-6)
	refused(t, "frequency-error", `{"text":"+1Hz","nominal_hz":145.5e6,"claimed_ppm":2.5,"claimed_hz":1}`, "claimed_hz")
	refused(t, "frequency-error", `{}`, "text", "nominal_hz")

	a = run(t, "battery", `{"points":[{"t_s":0,"v":7.4,"a":1},{"t_s":3600,"v":7.4,"a":1}],"label_mah":1000,"duty":{"tx_a":1.4,"rx_a":0.2,"standby_a":0.05}}`)
	a.is("verdict", "inconclusive")
	a.near("mah", 1000, 1e-9)
	a.near("hours_at_duty", 8, 1e-9)
	refused(t, "battery", `{"points":[{"t_s":0,"v":7.4},{"t_s":1,"v":7,"a":1}]}`, "points[0].a")

	const file = `"text":"# MHz S MA R 50\n144 0.5 10\n145 0.2 5\n146 0.1 -3\n147 0.3 -20"`
	a = run(t, "antenna", `{`+file+`,"from_hz":144e6,"to_hz":147e6}`)
	a.near("centre_hz", 145.5e6, 1e-6)
	a.near("offset_hz", 0.5e6, 1e-6)
	run(t, "antenna", `{`+file+`,"path":{"elements":[]}}`).is("centre_hz", nil)
	refused(t, "antenna", `{`+file+`,"from_hz":144e6}`, "to_hz")
	refused(t, "antenna", `{`+file+`,"cable_loss_db":1,"path":{"elements":[]}}`, "cable_loss_db")
	refused(t, "antenna", `{"text":"no file"}`, "text")

	const levels = `[-90,-90,-90,-90,-20,-20,-20,-20,-90,-90,-90,-90]`
	run(t, "occupied-bandwidth", `{"sweep":{"start_hz":0,"stop_hz":1100,"levels_dbm":`+levels+`,"rbw_hz":10}}`).near("occupied_hz", 396, 0.1)
	run(t, "occupied-bandwidth", `{"sweep":{"csv":"0,-90\n100,-90\n200,-90\n300,-90\n400,-20\n500,-20\n600,-20\n700,-20\n800,-90\n900,-90\n1000,-90\n1100,-90\n"}}`).near("occupied_hz", 396, 0.1)
	refused(t, "occupied-bandwidth", `{"sweep":{"start_hz":0,"stop_hz":1100,"levels_dbm":`+levels+`,"csv":"0,1"}}`, "sweep.csv")
	refused(t, "occupied-bandwidth", `{}`, "sweep")
}
