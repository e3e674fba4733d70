package compute

import (
	"fmt"
	"testing"
)

// TestUSAmateurTable: 47 CFR 97.307(d), (e) and (c), recalled from memory, for
// carriers and powers worked by hand.
func TestUSAmateurTable(t *testing.T) {
	for _, c := range []struct {
		carrier, w float64
		dbm, dbc   float64
		by         string
	}{
		{146e6, 5, -16.02, -53.01, "absolute"},
		{146e6, 10, -16.02, -56.02, "absolute"},
		{146e6, 0.2, -16.99, -40, "relative"},
		{146e6, 0.1, -20, -40, "relative"}, // 40 dB and the floor meet
		{146e6, 0.05, -20, -36.99, "floor"},
		{146e6, 0.25, -16.02, -40, "absolute"}, // a tie: the first term listed
		{146e6, 25, -16.02, -60, "absolute"},
		{146e6, 50, -13.01, -60, "relative"},
		{146e6, 25.001, -16.02, -60, "relative"},
		{222.1e6, 5, -16.02, -53.01, "absolute"},
		{50.1e6, 100, -10, -60, "relative"},
		{14.2e6, 100, 7, -43, "relative"},
		{29.6e6, 10, -3, -43, "relative"},
	} {
		a := run(t, "limit", fmt.Sprintf(`{"rule_book":"us-amateur","fundamental_hz":%g,"mean_power_w":%g,"frequency_hz":[%g,1e6]}`, c.carrier, c.w, 2*c.carrier))
		a.near("limits.0.limit_dbm", c.dbm, 0.006)
		a.near("limits.0.limit_dbc", c.dbc, 0.006)
		a.is("limits.0.decided_by", c.by)
		a.is("applies", true)
		if a.at("limits.1.citation") == nil {
			t.Error("a limit without its citation")
		}
	}
	none := run(t, "limit", `{"rule_book":"us-amateur","fundamental_hz":446e6,"mean_power_w":5,"frequency_hz":[892e6]}`)
	none.is("applies", false)
	none.is("limits.0.limit_dbm", nil)
	none.is("limits.0.decided_by", nil)
	none.is("citation", "47 CFR 97.307(c)")
	outside := run(t, "limit", `{"rule_book":"us-amateur","fundamental_hz":156.8e6,"mean_power_w":5,"frequency_hz":[313e6]}`)
	outside.is("applies", false)
	outside.is("citation", "47 CFR 97.301")
	standby := run(t, "limit", `{"rule_book":"us-amateur","fundamental_hz":146e6,"mean_power_w":5,"state":"standby","frequency_hz":[292e6]}`)
	standby.is("applies", false)
}

// TestUSAmateurOldEquipment: 97.307(d) for transmitters installed on or before
// 2003-01-01, and what is exempt (recalled from memory).
func TestUSAmateurOldEquipment(t *testing.T) {
	ask := func(w float64, extra string) answer {
		return run(t, "limit", fmt.Sprintf(`{"rule_book":"us-amateur","fundamental_hz":14.2e6,"mean_power_w":%g,"frequency_hz":[28.4e6],%s}`, w, extra))
	}
	ask(100, `"equipment_installed":"2003-01-01"`).near("limits.0.limit_dbm", 10, 1e-9)       // 40 dB
	ask(1000, `"equipment_installed":"1999-05-01"`).near("limits.0.limit_dbm", 16.9897, 1e-4) // 50 mW
	ask(4, `"equipment_installed":"1999-05-01"`).near("limits.0.limit_dbc", -30, 1e-9)
	ask(100, `"equipment_installed":"2003-01-02"`).near("limits.0.limit_dbm", 7, 1e-9)
	ask(100, `"equipment_marketed":"1977-12-31"`).is("applies", false)
	ask(100, `"equipment_built":"1977-04-14"`).is("limits.0.limit_dbm", nil)
	ask(100, `"equipment_built":"1977-04-15"`).is("applies", true)
}

// TestInlineBook: the engine evaluates any book of the shape: formula and peak
// power, the more lenient of two terms, exclusion, segments, standby.
func TestInlineBook(t *testing.T) {
	book := `{"id":"own","title":"Own","kind":"house","source":"a test","recalled":false,
		"authorised_bandwidths":[{"when":{"modes":["SSB"]},"bandwidth_hz":4000},{"when":{},"bandwidth_hz":8000}],
		"clauses":[
			{"when":{"carrier_from_hz":26e6,"carrier_to_hz":28e6},"citation":"main","exclusion":{"percent_of_bandwidth":250},"segments":[
				{"to_hz":1e9,"terms":[{"relative_db":70},{"formula_db":50}],"combine":"lenient"},
				{"from_hz":1e9,"to_hz":2e9,"terms":[{"formula_db":43,"power":"pep"},{"relative_db":60,"power":"pep"}],"citation":"upper"},
				{"from_multiple":100,"harmonics_only":true,"terms":[{"absolute_dbm":-30}]}]},
			{"when":{"state":"standby"},"citation":"standby","segments":[{"terms":[{"absolute_dbm":-57}]}]}]}`
	ask := func(rest string) answer {
		return run(t, "limit", `{"book":`+book+`,"fundamental_hz":27e6,`+rest+`}`)
	}
	// 200 W: 70 dB is -16.99 dBm, the formula always -20: the lesser attenuation counts.
	a := ask(`"mean_power_w":200,"frequency_hz":[54e6,27.02e6,27.0201e6,1e9,1.1e9,2.5e9,2.7e9,2.71e9]`)
	a.near("limits.0.limit_dbm", -16.99, 0.005)
	a.is("limits.0.decided_by", "relative")
	a.is("limits.1.limit_dbm", nil) // 250 % of 8 kHz is 20 kHz on each side
	a.near("limits.2.limit_dbm", -16.99, 0.005)
	a.near("limits.3.limit_dbm", -16.99, 0.005) // 1 GHz belongs to the lower segment
	a.near("limits.4.limit_dbm", -13, 0.005)
	a.is("limits.4.decided_by", "formula")
	a.is("limits.4.citation", "upper")
	a.is("limits.5.limit_dbm", nil)
	a.near("limits.6.limit_dbm", -30, 0)
	a.is("limits.7.limit_dbm", nil)
	ask(`"mean_power_w":4,"frequency_hz":[54e6]`).is("limits.0.decided_by", "formula")
	// 4 W mean, 10 W PEP: 60 dB below the peak power decides.
	ask(`"mean_power_w":4,"pep_w":10,"frequency_hz":[1.5e9]`).near("limits.0.limit_dbm", -20, 1e-9)
	ssb := ask(`"mean_power_w":4,"mode":"SSB","frequency_hz":[27.011e6]`)
	ssb.near("limits.0.limit_dbm", -20, 1e-9)
	s := ask(`"mean_power_w":4,"state":"standby","frequency_hz":[54e6]`)
	s.near("limits.0.limit_dbm", -57, 0)
	s.is("limits.0.limit_dbc", nil)
}

func TestHouseFortyDown(t *testing.T) {
	a := run(t, "limit", `{"rule_book":"house-forty-down","fundamental_hz":446e6,"mean_power_w":5,"frequency_hz":[892e6]}`)
	a.near("limits.0.limit_dbc", -40, 1e-9)
	a.is("limits.0.decided_by", "relative")
}

func TestLimitRefuses(t *testing.T) {
	refused(t, "limit", `{"rule_book":"nobody","fundamental_hz":0,"mean_power_w":-1,"mode":"fm","state":"off","frequency_hz":[]}`,
		"rule_book", "fundamental_hz", "mean_power_w", "mode", "state", "frequency_hz")
	refused(t, "limit", `{"fundamental_hz":1e6,"mean_power_w":2,"pep_w":1,"frequency_hz":[0],"equipment_installed":"2003"}`,
		"rule_book", "pep_w", "equipment_installed", "frequency_hz[0]")
	refused(t, "limit", `{"book":{"id":"","clauses":[{"when":{"state":"x"},"citation":"","segments":[{"from_hz":2,"to_hz":1,"terms":[]},{"terms":[{}],"combine":"both"}]}]},"rule_book":"us-amateur","fundamental_hz":1e6,"mean_power_w":1,"frequency_hz":[1]}`,
		"book")
	refused(t, "limit", `{"book":{"id":"","clauses":[{"when":{"state":"x"},"citation":"","segments":[{"from_hz":2,"to_hz":1,"terms":[]},{"terms":[{}],"combine":"both"}]}]},"fundamental_hz":1e6,"mean_power_w":1,"frequency_hz":[1]}`,
		"book.id", "book.clauses[0].when.state", "book.clauses[0].segments[0].to_hz", "book.clauses[0].segments[0].terms", "book.clauses[0].segments[1].terms[0]", "book.clauses[0].segments[1].combine")
}
