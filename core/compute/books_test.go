package compute

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/rulebooks"
)

// TestEveryClauseAtItsEdges: the shipped books at the edges of their clauses, segments,
// exclusions and states; powers of round dBm worked by hand. From memory of: 47 CFR 95.579,
// 95.979, 95.1779, 95.2779, 90.210, 80.211(f); ITU Radio Regulations Appendix 3 and ITU-R
// SM.329; ETSI EN 300 086; 47 CFR 97.307(e).
func TestEveryClauseAtItsEdges(t *testing.T) {
	none := math.NaN()
	for _, c := range []struct {
		book    string
		carrier float64
		w       float64
		with    string // what else is asked
		at      float64
		dbm     float64
		by      string
	}{
		// 43 + 10 log P is -13 dBm at any power, beyond 250 % of 20 kHz; 12.5 kHz between the 467 MHz channels.
		{"us-gmrs", 462.6e6, 50, "", 925.2e6, -13, "formula"}, {"us-gmrs", 462.6e6, 0.5, "", 925.2e6, -13, "formula"},
		{"us-gmrs", 462.6e6, 5, "", 462.65e6, none, ""}, {"us-gmrs", 462.6e6, 5, "", 462.6501e6, -13, "formula"},
		{"us-gmrs", 467.5625e6, 0.5, "", 467.5625e6 + 31.25e3, none, ""}, {"us-gmrs", 467.5625e6, 0.5, "", 467.5625e6 + 31.3e3, -13, "formula"},
		{"us-gmrs", 467.575e6, 5, "", 467.575e6 + 50e3, none, ""},
		{"us-frs", 462.5625e6, 2, "", 462.5625e6 - 31.25e3, none, ""}, {"us-frs", 462.5625e6, 2, "", 462.5625e6 - 31.3e3, -13, "formula"},
		// 50 + 10 log P is -20 dBm; 70 dB allows more only over 100 W.
		{"us-murs", 151.88e6, 2, "", 303.76e6, -20, "formula"}, {"us-murs", 151.88e6, 2, "", 151.8925e6, none, ""}, {"us-murs", 151.88e6, 2, "", 151.8926e6, -20, "formula"},
		{"us-murs", 154.57e6, 2, "", 309.14e6, -13, "formula"}, {"us-murs", 154.57e6, 2, "", 154.62e6, none, ""},
		// 4 W: 53 + 10 log P is -23 dBm, and 60 dB from twice the carrier up -23.98.
		{"us-cb", 27.185e6, 4, `,"mode":"AM"`, 27.205e6, none, ""}, {"us-cb", 27.185e6, 4, `,"mode":"AM"`, 27.2051e6, -23, "formula"},
		{"us-cb", 27.185e6, 4, `,"mode":"SSB"`, 27.1951e6, -23, "formula"}, {"us-cb", 27.185e6, 4, `,"mode":"SSB"`, 27.195e6, none, ""},
		{"us-cb", 27.185e6, 4, "", 54.37e6, -23.98, "relative"}, {"us-cb", 27.185e6, 4, "", 50e6, -23, "formula"}, {"us-cb", 27.185e6, 12, "", 81.555e6, -23, "formula"},
		{"us-land-mobile-25", 155e6, 50, "", 310e6, -13, "formula"}, {"us-land-mobile-25", 155e6, 50, "", 155.05e6, none, ""}, {"us-land-mobile-25", 155e6, 50, "", 155.0501e6, -13, "formula"},
		{"us-land-mobile-12.5", 155e6, 200, "", 310e6, -16.99, "relative"}, {"us-land-mobile-12.5", 155e6, 100, "", 310e6, -20, "formula"}, {"us-land-mobile-12.5", 155e6, 5, "", 155.0125e6, none, ""},
		{"us-marine-vhf", 156.625e6, 25, "", 313.25e6, -13, "formula"}, {"us-marine-vhf", 156.625e6, 25, "", 156.675e6, none, ""},
		// The less stringent: amateur below 30 MHz of the PEP.
		{"itu-category-a", 14.2e6, 1, `,"service":"amateur"`, 28.4e6, -13, "formula"}, {"itu-category-a", 14.2e6, 100, `,"service":"amateur"`, 28.4e6, 0, "relative"},
		{"itu-category-a", 14.2e6, 25, `,"pep_w":100,"service":"amateur"`, 28.4e6, 0, "relative"}, {"itu-category-a", 14.2e6, 100, "", 28.4e6, -13, "formula"},
		{"itu-category-a", 14.2e6, 1000, "", 28.4e6, -10, "relative"}, {"itu-category-a", 146e6, 100, `,"service":"amateur"`, 292e6, -13, "formula"},
		{"itu-category-a", 30e6, 100, `,"service":"amateur"`, 60e6, -13, "formula"},
		{"itu-category-a", 14.2e6, 1, "", 14.21e6, none, ""}, {"itu-category-a", 14.2e6, 1, "", 14.2101e6, -13, "formula"},
		{"itu-category-a", 146e6, 5, "", 146.0625e6, none, ""}, {"itu-category-a", 146e6, 5, "", 146.0626e6, -13, "formula"},
		{"itu-category-a", 146e6, 5, "", 9e3, -13, "formula"}, {"itu-category-a", 146e6, 5, "", 8.9e3, none, ""},
		// 1 GHz belongs to the lower segment; standby has limits of its own, and none in dBc.
		{"eu-land-mobile", 155e6, 5, "", 310e6, -36, "absolute"}, {"eu-land-mobile", 155e6, 5, "", 1e9, -36, "absolute"}, {"eu-land-mobile", 155e6, 5, "", 1.0001e9, -30, "absolute"},
		{"eu-land-mobile", 155e6, 5, "", 4e9, -30, "absolute"}, {"eu-land-mobile", 155e6, 5, "", 4.1e9, none, ""}, {"eu-land-mobile", 155e6, 5, `,"state":"standby"`, 1e9, -57, "absolute"},
		{"eu-land-mobile", 155e6, 5, `,"state":"standby"`, 2e9, -47, "absolute"},
		{"eu-land-mobile", 470e6, 5, "", 4.1e9, none, ""}, {"eu-land-mobile", 470.1e6, 5, "", 12.75e9, -30, "absolute"}, {"eu-land-mobile", 470.1e6, 5, "", 12.8e9, none, ""},
		{"eu-land-mobile", 155e6, 5, "", 155.0625e6, none, ""}, {"eu-land-mobile", 155e6, 5, "", 155.0626e6, -36, "absolute"},
		{"itu-category-a", 1.29e9, 5, "", 1.29025e9, none, ""}, {"itu-category-a", 1.29e9, 5, "", 1.2902501e9, -13, "formula"}, {"itu-category-a", 137e3, 1, "", 137.25e3, none, ""}, {"itu-category-a", 137e3, 1, "", 137.3e3, -13, "formula"},
		{"itu-region-1-amateur", 145.5e6, 5, "", 291e6, -13, "formula"}, {"itu-region-1-amateur", 14.2e6, 25, `,"pep_w":100`, 28.4e6, 0, "relative"}, {"itu-region-1-amateur", 145.5e6, 5, "", 145.5625e6, none, ""},
		{"house-vhf-everywhere", 446e6, 5, "", 892e6, -16.02, "absolute"}, {"house-vhf-everywhere", 446e6, 50, "", 892e6, -13.01, "relative"}, {"house-vhf-everywhere", 446e6, 25, "", 892e6, -16.02, "absolute"},
		{"house-vhf-everywhere", 446e6, 0.05, "", 892e6, -20, "floor"}, {"house-forty-down", 1.9e6, 100, "", 3.8e6, 10, "relative"},
	} {
		in := fmt.Sprintf(`{"rule_book":%q,"fundamental_hz":%g,"mean_power_w":%g%s,"frequency_hz":[%.1f]}`, c.book, c.carrier, c.w, c.with, c.at)
		a := run(t, "limit", in)
		a.is("applies", true)
		if math.IsNaN(c.dbm) {
			a.is("limits.0.limit_dbm", nil)
			a.is("limits.0.decided_by", nil)
			continue
		}
		if v, ok := a.at("limits.0.limit_dbm").(float64); !ok || math.Abs(v-c.dbm) > 0.006 || a.at("limits.0.decided_by") != c.by || a.at("limits.0.citation") == nil {
			t.Errorf("%s: %v by %v, want %v by %s", in, a.at("limits.0.limit_dbm"), a.at("limits.0.decided_by"), c.dbm, c.by)
		}
		if standby := c.with != "" && a.at("limits.0.limit_dbc") == nil; standby != (c.with == `,"state":"standby"`) {
			t.Errorf("%s: %v dBc", in, a.at("limits.0.limit_dbc"))
		}
	}
}

// TestOutsideTheService: no clause is stretched to a carrier that is not its own, nor to a
// state it does not speak of.
func TestOutsideTheService(t *testing.T) {
	for _, c := range []struct {
		book    string
		carrier float64
		with    string
	}{
		{"us-gmrs", 465e6, ""}, {"us-frs", 146e6, ""}, {"us-murs", 153e6, ""}, {"us-cb", 28e6, ""}, {"us-land-mobile-25", 146e6, ""}, {"us-land-mobile-12.5", 40e6, ""}, {"us-marine-vhf", 155e6, ""},
		{"eu-land-mobile", 27e6, ""}, {"itu-region-1-amateur", 147e6, ""}, {"house-vhf-everywhere", 14e6, ""}, {"us-gmrs", 462.6e6, `,"state":"standby"`}, {"itu-category-a", 146e6, `,"state":"standby"`},
	} {
		in := fmt.Sprintf(`{"rule_book":%q,"fundamental_hz":%g,"mean_power_w":5%s,"frequency_hz":[%g]}`, c.book, c.carrier, c.with, 2*c.carrier)
		a := run(t, "limit", in)
		a.is("applies", false)
		a.is("limits.0.limit_dbm", nil)
	}
}

// TestBooksAreHonest: law is recalled until somebody checked it, house practice says that it
// is none, and every clause, power limit and search has its citation.
func TestBooksAreHonest(t *testing.T) {
	if n := len(rulebooks.IDs()); n != 13 {
		t.Errorf("%d books", n)
	}
	for _, id := range rulebooks.IDs() {
		b, _ := rulebooks.Find(id)
		if (b.Kind == "law") != b.Recalled || b.Checked != nil || b.Source == "" || b.Edition == "" || len(b.Search) == 0 {
			t.Errorf("%s: %+v", id, b)
		}
		for _, c := range b.Clauses {
			if c.Citation == "" {
				t.Errorf("%s: a clause without a citation", id)
			}
		}
		for _, p := range b.PowerLimits {
			if p.Citation == "" {
				t.Errorf("%s: a power limit without a citation", id)
			}
		}
		if text, err := json.Marshal(b); err != nil {
			t.Error(err)
		} else {
			run(t, "limit", fmt.Sprintf(`{"book":%s,"fundamental_hz":155e6,"mean_power_w":5,"frequency_hz":[310e6]}`, text))
		}
	}
}

// TestSearchOfCategoryA: what a full examination covers (ITU-R SM.329, from memory).
func TestSearchOfCategoryA(t *testing.T) {
	for carrier, want := range map[float64][2]float64{50e6: {9e3, 1e9}, 146e6: {9e3, 1.46e9}, 446e6: {30e6, 3e9}, 1.29e9: {30e6, 6.45e9}, 5.7e9: {30e6, 26e9}} {
		a := run(t, "judge", fmt.Sprintf(`{"rule_book":"itu-category-a","fundamental_hz":%g,"mean_power_w":5,"looks":[{"name":"all","from_hz":%g,"to_hz":%g,"floor_dbm":-70,"peaks":[{"frequency_hz":%g,"level_dbm":36.99}]}]}`, carrier, want[0], want[1], carrier))
		a.is("coverage.complete", true)
		short := run(t, "judge", fmt.Sprintf(`{"rule_book":"itu-category-a","fundamental_hz":%g,"mean_power_w":5,"looks":[{"name":"all","from_hz":%g,"to_hz":%g,"floor_dbm":-70,"peaks":[{"frequency_hz":%g,"level_dbm":36.99}]}]}`, carrier, want[0], 0.99*want[1], carrier))
		short.is("coverage.complete", false)
	}
}

// TestFullExamination: the lower end where a book has none of its own, and the powers that were
// put right (47 CFR 2.1057, 97.313, 80.215; from memory).
func TestFullExamination(t *testing.T) {
	for carrier, from := range map[float64]float64{29.6e6: 9e3, 50.1e6: 30e6, 146e6: 30e6} {
		a := run(t, "judge", fmt.Sprintf(`{"rule_book":"us-amateur","fundamental_hz":%g,"mean_power_w":5,"looks":[{"from_hz":%g,"to_hz":%g,"floor_dbm":-70,"peaks":[{"frequency_hz":%g,"level_dbm":36.99}]}]}`, carrier, from, 10*carrier, carrier))
		a.is("coverage.complete", true)
		a.near("coverage.search_from_hz", from, 0)
		a.near("coverage.search_to_hz", 10*carrier, 0)
		above := run(t, "judge", fmt.Sprintf(`{"rule_book":"us-amateur","fundamental_hz":%g,"mean_power_w":5,"looks":[{"from_hz":%g,"to_hz":%g,"floor_dbm":-70,"peaks":[{"frequency_hz":%g,"level_dbm":36.99}]}]}`, carrier, 0.9*carrier, 10*carrier, carrier))
		above.is("coverage.complete", false)
	}
	amateur, _ := rulebooks.Find("us-amateur")
	marine, _ := rulebooks.Find("us-marine-vhf")
	for _, c := range []struct {
		book *rulebook.Book
		hz   float64
		w    float64
		as   string
	}{{amateur, 5.36e6, 100, "erp"}, {amateur, 475e3, 5, "eirp"}, {amateur, 136e3, 1, "eirp"}, {amateur, 219.5e6, 50, "transmitter"}, {marine, 156.875e6, 1, "transmitter"}, {marine, 156.65e6, 1, "transmitter"}, {marine, 156.8e6, 25, "transmitter"}} {
		if got := c.book.PowerLimitFor(rulebook.Carrier{Frequency: units.Hertz(c.hz), MeanW: 1, PEPW: 1}); got == nil || got.MaxW != c.w || got.As != c.as {
			t.Errorf("%v: %+v", c, got)
		}
	}
}
