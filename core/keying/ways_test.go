package keying_test

import (
	"fmt"
	"strings"
	"testing"

	"talloak/core/keying"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/rulebooks"
)

func opened(t *testing.T, r record.Review, facts record.Facts) *measure.Review {
	t.Helper()
	r.Rules = record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}
	out, err := measure.Open(&r, facts, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return out
}

var (
	both = item("wide meter", kit.ThroughMeter, path.Element{MaxW: v(50)}, &reading.Meter{FromHz: v(1e6), ToHz: v(500e6), PctReading: 5})
	air  = item("antenna", kit.Antenna, path.Element{}, nil)
)

// TestTheFewestWirings: where one meter counts everywhere no other is wired, and an antenna never is.
func TestTheFewestWirings(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m 5"}, {Text: "70cm 4"}}}
	ways := []*record.Through{way("air", both, air), way("v", vhf, load), way("u", uhf, load), way("w", both, load)}
	used := func(ways ...*record.Through) string {
		out := map[string]bool{}
		for _, s := range sheet(t, r, ways...).Steps {
			out[s.Path] = true
		}
		return fmt.Sprint(out)
	}
	if got := used(ways...); got != "map[w:true]" {
		t.Error(got)
	}
	if got := used(ways[:3]...); got != "map[u:true v:true]" {
		t.Error(got)
	}
	// Of two that would do alike the one used last is taken; the reading of sheet is through "v".
	if got := used(way("other", vhf, load), ways[1]); got != "map[v:true]" {
		t.Error(got)
	}
	if p := sheet(t, r, ways[0]); p.Steps[0].Counts || !strings.Contains(p.Steps[0].WhyNot, "antenna") {
		t.Errorf("%+v", p.Steps[0])
	}
	// Of very many, greedily, and still everything that can be keyed is.
	many := []*record.Through{}
	for i := range 70 {
		many = append(many, way(fmt.Sprint("v", i), vhf, load))
	}
	if got := used(append(many, way("u", uhf, load))...); !strings.Contains(got, "u:true") || strings.Count(got, "true") != 2 {
		t.Error(got)
	}
	// However many places there are, the last is thought of too.
	r = record.Review{Sheet: record.Sheet{Marks: []string{"calling", "edges", "middle"}}}
	for _, band := range []string{"160m", "80m", "40m", "30m", "20m", "17m", "15m", "12m", "10m", "6m"} {
		r.Claims = append(r.Claims, record.Claim{Text: band + " SSB 5"}, record.Claim{Text: band + " CW 5"})
	}
	r.Claims = append(r.Claims, record.Claim{Text: "70cm 4"})
	hf := both
	hf.Name, hf.ID = "low meter", "low meter"
	hf.Spec.Meter = &reading.Meter{FromHz: v(1e6), ToHz: v(60e6), PctReading: 5}
	if got := used(way("h", hf, load), way("u", uhf, load)); got != "map[h:true u:true]" {
		t.Error(got)
	}
}

// TestThePathThatFits: what can count for a box stands first, with the meter used last before others, and the
// smallest scale that holds the claim and 1 dB more is proposed.
func TestThePathThatFits(t *testing.T) {
	scaled := both
	scaled.Name, scaled.ID, scaled.Setting = "scaled", "scaled", "60 W"
	scaled.Spec.ScalesW = []float64{6, 15, 60}
	two := record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146.52e6}
	seven := record.Keyed{Band: "70cm", Level: "High", Mode: "FM", FrequencyHz: 446e6}
	ways := keying.Ways{Paths: []*record.Through{way("a", pad, see), way("v", vhf, load), way("u", uhf, load), way("s", scaled, load), way("air", both, air)}}
	r := record.Review{Claims: []record.Claim{{Text: "2m 5/1"}, {Text: "70cm 4"}}}
	said := func(open *measure.Review, purpose, last string, box record.Keyed) string {
		var out []string
		for _, w := range keying.WaysTo(open, ways, purpose, []record.Keyed{box}, last)[0] {
			out = append(out, fmt.Sprintf("%s %t", w.PathID, w.Counts))
		}
		return strings.Join(out, ", ")
	}
	fresh := opened(t, r, record.Facts{})
	for _, c := range []struct {
		purpose, last string
		box           record.Keyed
		want          string
	}{
		{"power", "", two, "v true, s true, a true, u false, air false"},
		{"power", "s", two, "s true, v true, a true, u false, air false"},
		{"power", "", seven, "u true, s true, a true, v false, air false"},
		{"emissions", "", two, "a true"},
		{"emissions", "", seven, "a false"}, // not even its second harmonic
	} {
		if got := said(fresh, c.purpose, c.last, c.box); got != c.want {
			t.Errorf("%s of %s, last %q: %s", c.purpose, c.box.Band, c.last, got)
		}
	}
	// What was used last in this review goes before what was in another.
	taken := opened(t, r, record.Facts{Measurements: []record.Measurement{{ID: "a", Kind: "power", Keyed: two, Through: ways.Paths[3], Payload: []byte(`{"text":"4.8"}`)}}})
	if got := said(taken, "power", "v", two); got != "s true, v true, a true, u false, air false" {
		t.Error(got)
	}
	for claim, want := range map[string]float64{"2m 4": 6, "2m 5": 15, "2m 12": 60, "2m 100": 60} { // 5 W and 1 dB are 6.3 W
		open := opened(t, record.Review{Claims: []record.Claim{{Text: claim}}}, record.Facts{})
		for _, w := range keying.WaysTo(open, ways, "power", []record.Keyed{two}, "")[0] {
			if w.PathID == "s" && *w.ScaleW != want || w.PathID == "v" && w.ScaleW != nil {
				t.Errorf("%s: %+v", claim, w)
			}
		}
	}
}

// TestLevelsAtTheirOwnFrequencies: SSB is not keyed on an FM channel, what is wanted in a mode is keyed in it
// alone, and a band is keyed nowhere but there where no mark is left.
func TestLevelsAtTheirOwnFrequencies(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m FM 5 SSB 5"}, {Text: "10m SSB 5"}}, Sheet: record.Sheet{Marks: []string{"none"}, Own: map[string][]float64{"2m": {145.5e6}, "2m SSB": {144.31e6}, "10m": {28.5e6}}}}
	at := func(r record.Review) string {
		var out []string
		for _, row := range sheet(t, r, way("w", both, load)).Rows {
			for _, c := range row.Channels {
				out = append(out, fmt.Sprintf("%s %s %.3f", row.Band, row.Mode, c.FrequencyHz/1e6))
			}
		}
		return strings.Join(out, ", ")
	}
	if got := at(r); got != "2m FM 145.500, 2m SSB 144.310, 10m SSB 28.500" {
		t.Error(got)
	}
	r.Sheet = record.Sheet{}
	if got := at(r); got != "2m FM 146.520, 2m SSB 144.200, 10m SSB 28.400" {
		t.Error(got)
	}
}

// TestRefusedIsDone: a radio that refused has been asked, in that mode alone; a step at a voltage is done at that
// voltage; and a danger of another mode refuses no step of this one.
func TestRefusedIsDone(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m FM 5 AM 2"}}, Sheet: record.Sheet{SupplyV: []float64{11, 13.8}}}
	fm := record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146.52e6}
	facts := record.Facts{Measurements: []record.Measurement{
		{ID: "a", Kind: "power", Keyed: fm, Through: way("w", both, load), Payload: []byte(`{"text":"5 13.7v"}`)},
		{ID: "b", Kind: "power", Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "AM", FrequencyHz: 146.52e6}, Through: way("w", both, load), Payload: []byte(`{"text":"","refused":true}`)},
	}}
	var got []string
	for _, s := range keying.SheetOf(opened(t, r, facts), keying.Ways{Paths: []*record.Through{way("w", both, load)}}).Steps {
		got = append(got, fmt.Sprintf("%s %g %t", s.Mode, *s.SupplyV, s.Done))
	}
	if strings.Join(got, ", ") != "FM 11 false, AM 11 true, FM 13.8 true, AM 13.8 true" {
		t.Error(got)
	}
	tight := item("load of 10 W", kit.Load, path.Element{MaxW: v(10)}, nil)
	for _, s := range sheet(t, record.Review{Claims: []record.Claim{{Text: "10m FM 5 AM 12"}}}, way("w", both, tight)).Steps {
		if s.Counts != (s.Mode == "FM") { // what would be too much in AM is not in FM
			t.Errorf("%s counts %t: %s", s.Mode, s.Counts, s.WhyNot)
		}
	}
}
