package frequency_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/frequency"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/measuretest"
)

type room = simple.Room[frequency.Draft, frequency.Measured, *frequency.Measured]

var twoMetres = record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 145.5e6}

// by is a line with how far the reference may be off, in ppm; below 0 it is not told.
func by(text string, ppm float64) frequency.Draft {
	if ppm < 0 {
		return frequency.Draft{Text: text}
	}
	return frequency.Draft{Text: text, ReferencePPM: &ppm}
}

func open(t *testing.T, claimed []string, all ...frequency.Draft) (*record.Review, record.Facts, *room) {
	t.Helper()
	review := measuretest.Review(append([]string{"2m 5/1"}, claimed...)...)
	facts := measuretest.Facts(t, frequency.Name, twoMetres, all...)
	return review, facts, of(t, review, facts)
}

func of(t *testing.T, review *record.Review, facts record.Facts) *room {
	t.Helper()
	return measure.Inside[*room](measuretest.Open(t, review, facts), frequency.New())
}

// TestWhatStandsOfSeveral: the figure furthest off, to either side, whatever came last; a reference
// of which nothing is told rules nothing.
func TestWhatStandsOfSeveral(t *testing.T) {
	half := []string{"2m 2.5ppm"}
	for _, c := range []struct {
		claimed []string
		all     []frequency.Draft
		want    decision.Verdict
		says    string
	}{
		{half, nil, decision.NotExamined, "not measured"},
		{half, []frequency.Draft{by("+112Hz", 0.5)}, decision.Pass, "+112 Hz, +0.77 ± 0.58 ppm of 2.5 ppm claimed"},
		{half, []frequency.Draft{by("+320Hz", 0.5)}, decision.Inconclusive, "+2.20"},
		{half, []frequency.Draft{by("-600Hz", 0.5), by("+100Hz", 0.5)}, decision.Inconclusive, "-600Hz and +100Hz differ by more than both uncertainties"},
		{half, []frequency.Draft{by("-700Hz", 0.5), by("-600Hz", 0.5)}, decision.Fail, "-700 Hz"},
		{half, []frequency.Draft{by("-700Hz", 0.5), by("-900Hz", 0.5)}, decision.Fail, "strike one"},
		{half, []frequency.Draft{by("+40Hz", 0.5), by("+60Hz", 0.5)}, decision.Pass, "+60 Hz, +0.41 ± 0.58 ppm of 2.5 ppm claimed"},
		{half, []frequency.Draft{by("+96Hz +214 Hz", 0.1)}, decision.Pass, "+214 Hz, +1.47 ± 0.12 ppm of 2.5 ppm claimed, drifting by +118 Hz over the key-up"},
		{half, []frequency.Draft{by("145.499400 145.5001", 0.5)}, decision.Fail, "drifting by +700 Hz"},
		{half, []frequency.Draft{by("+112Hz", -1)}, decision.Inconclusive, "of which nothing is told"},
		{half, []frequency.Draft{by("+600Hz", -1)}, decision.Inconclusive, "of which nothing is told"},
		{nil, []frequency.Draft{by("+112Hz", 0.5)}, decision.NoClaim, "+0.77"},
		{[]string{"70cm 1ppm"}, []frequency.Draft{by("+250Hz", 0.01)}, decision.NoClaim, "+1.72"},
		{[]string{"frequency error 1 ppm", "2m 2.5ppm"}, []frequency.Draft{by("+250Hz", 0.01)}, decision.Pass, "2.5 ppm claimed"},
		{[]string{"2m 1ppm", "2m 2.5ppm"}, []frequency.Draft{by("+250Hz", 0.01)}, decision.Fail, "of 1 ppm claimed"},
		{half, []frequency.Draft{by("145.525", 0.5), by("+25kHz", 0.5)}, decision.NotCovered, "a step of the dial"},
		{half, []frequency.Draft{by("145.55", 0.5)}, decision.NotCovered, "is the radio on 145.5 MHz?"},
		{half, []frequency.Draft{by("+4.9kHz", 0.5)}, decision.Fail, "+33.68"},
		{half, []frequency.Draft{by("fast", 0.5)}, decision.Void, "cannot be worked out"},
	} {
		review, facts, d := open(t, c.claimed, c.all...)
		got := d.RulingAt(twoMetres)
		if got.Verdict != c.want || !strings.Contains(got.Why, c.says) {
			t.Errorf("%v of %v: %s, %q; want %s, %q", c.all, c.claimed, got.Verdict, got.Why, c.want, c.says)
		}
		b := board.Of(measuretest.Open(t, review, facts), false)
		last := b.Cells[len(b.Cells)-1]
		if has := last.Cell.Level == "" && last.Box("frequency") != nil; has != (c.want != decision.NotExamined) {
			t.Errorf("on the board: %v", has)
		}
	}
}

// TestWhatIsLeftOutIsSaid: one that is not to be believed keeps none from ruling, and is named
// beside the ruling until a person strikes it.
func TestWhatIsLeftOutIsSaid(t *testing.T) {
	review, facts, d := open(t, []string{"2.5ppm"}, by("+25kHz", 0.5), by("+100Hz", 0.5))
	cell := measuretest.Open(t, review, facts).Bands()[0]
	if box := d.Box(cell, false); box.Verdict != decision.Pass || len(box.Notes) != 1 || !strings.Contains(box.Notes[0].Detail, "+25kHz: +25000 Hz") {
		t.Errorf("%+v", box)
	}
	facts.Standings = []record.Standing{{TargetID: "0", Standing: record.Struck, Reason: "dialled one step low"}}
	if box := of(t, review, facts).Box(cell, false); box.Verdict != decision.Pass || len(box.Notes) != 0 {
		t.Errorf("%+v", box)
	}
}

// TestTheLastDigitCounts: a counter that shows 145.5003 may be 50 Hz off for its digits alone.
func TestTheLastDigitCounts(t *testing.T) {
	for text, hz := range map[string]float64{"145.5003": 100, "145.500312": 1, "145500.3kHz": 100, "+312Hz": 1, "+0.3kHz": 100, "2.1ppm": 14.55, "1.455003e2": 100} {
		_, _, d := open(t, nil, by(text, 0))
		m := d.RulingAt(twoMetres).Standing[0]
		if want := 2 * hz / 2 / math.Sqrt(3); math.Abs(m.ResolutionHz-hz) > 1e-9 || math.Abs(m.Result.UncertaintyHz-want) > 1e-6 {
			t.Errorf("%s: a digit of %v Hz, ±%v Hz, want %v and ±%v", text, m.ResolutionHz, m.Result.UncertaintyHz, hz, want)
		}
	}
}

// TestAStepOfTheDial: 35.7 ppm of an error that a step of 5 kHz would make is doubted; 33 ppm short of it are not.
func TestAStepOfTheDial(t *testing.T) {
	for text, counts := range map[string]bool{"+5200Hz": false, "+4800Hz": true} {
		_, _, d := open(t, nil, by(text, 0.5))
		if m := d.Taken(0); m.Counts != counts {
			t.Errorf("%s: %v %s", text, m.Counts, m.WhyNot)
		}
	}
}

// TestWhatCountsForNothing: what was struck, and what lies outside the band claimed.
func TestWhatCountsForNothing(t *testing.T) {
	review, facts, d := open(t, []string{"2.5ppm"}, by("-600Hz", 0.5), by("+100Hz ? warm", 0.5))
	if got := d.RulingAt(twoMetres); got.Verdict != decision.Inconclusive || got.Of != 2 || len(got.Standing) != 1 || got.Standing[0].Contradicts != "+100Hz" {
		t.Fatalf("%+v", got)
	}
	facts.Standings = []record.Standing{{TargetID: "0", Standing: record.Explained, Reason: "in the cold"}}
	if got := of(t, review, facts).RulingAt(twoMetres); got.Verdict != decision.Fail || got.Standing[0].Contradicts != "" {
		t.Errorf("explained: %+v", got)
	}
	facts.Standings = []record.Standing{{TargetID: "0", Standing: record.Struck, Reason: "dialled one step low"}}
	d = of(t, review, facts)
	if got := d.RulingAt(twoMetres); got.Verdict != decision.Pass || got.Standing[0].Remark != "warm" {
		t.Errorf("a struck figure stands: %+v", got)
	}
	sections := d.Sections(nil)
	if rows := sections[0].Rows; len(rows) != 2 || len(rows[0]) != len(sections[0].Columns) || !strings.Contains(rows[0][len(rows[0])-1], "dialled one step low") || !strings.Contains(strings.Join(rows[1], " "), "145.500100 MHz +100 Hz +0.69 ppm") {
		t.Errorf("%+v", sections)
	}
	facts.Measurements[1].FrequencyHz = 150e6
	d = of(t, review, facts)
	if got := d.RulingAt(twoMetres); got.Verdict != decision.NotCovered || !strings.Contains(got.Why, "outside the band") {
		t.Errorf("%+v", got)
	}
}

// TestRefused: what cannot be read is named by its field, and nothing is kept of it.
func TestRefused(t *testing.T) {
	_, _, d := open(t, nil)
	for draft, field := range map[string]string{
		`{"text":"fast"}`: "text", `{"text":"+100Hz","reference_ppm":-1}`: "reference_ppm", `{"text":"+100Hz","reference_ppm":2000}`: "reference_ppm",
		`{"text":"` + strings.Repeat("1", 501) + `"}`: "text", `{"txt":"1"}`: "",
	} {
		_, err := measuretest.Take(d, measure.Taking{Keyed: twoMetres, Draft: json.RawMessage(draft), Through: &record.Through{Name: "no path"}})
		if err == nil || !strings.Contains(fmt.Sprintf("%+v", err), field) {
			t.Errorf("%.40s: %v", draft, err)
		}
	}
}

// TestFurtherTestsShareAStage of the work, with what is done of each.
func TestFurtherTestsShareAStage(t *testing.T) {
	review, facts, _ := open(t, nil, by("+100Hz", 0.5))
	for _, s := range board.Stages(measuretest.Open(t, review, facts), 0) {
		if s.Key == "" || (s.Name == "more") != (len(s.Kinds) > 0) {
			t.Errorf("%+v", s)
		}
		for _, k := range s.Kinds {
			if want := map[string]float64{"frequency": 1}[k.Name]; k.Done != want || s.Done != 1/float64(len(s.Kinds)) {
				t.Errorf("%+v, want %v", k, want)
			}
		}
	}
}

// TestAnotherChannel: 20 ppm is much for a crystal, and what is off by a step of a dial, 5 kHz, or by 200 ppm is
// another channel (common practice, no source); without its reference a figure has no uncertainty in words.
func TestAnotherChannel(t *testing.T) {
	for text, counts := range map[string]bool{"+4.9kHz": true, "+5.1kHz": false, "-5.1kHz": false, "+2kHz": true} {
		_, _, d := open(t, nil, by(text, 0.5))
		if m := d.Taken(0); m.Counts != counts {
			t.Errorf("%s: %v %s", text, m.Counts, m.WhyNot)
		}
	}
	_, _, d := open(t, nil, frequency.Draft{Text: "+96Hz"})
	if r := d.RulingAt(twoMetres); strings.Contains(r.Why, "±") || !strings.Contains(r.Why, "nothing is told") {
		t.Errorf("%s", r.Why)
	}
}
