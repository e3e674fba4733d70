package frequency_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/measure/frequency"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/rulebooks"
)

type room = simple.Room[frequency.Draft, frequency.Measured, *frequency.Measured]

var twoMetres = record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 145.5e6}

// taken is a line with how far the reference may be off, in ppm; below 0 it is not told.
type taken struct {
	text      string
	reference float64
}

func open(t *testing.T, claimed []string, all ...taken) (*record.Review, *room, record.Facts) {
	t.Helper()
	review := record.Review{ID: "r", Subject: record.Subject{Model: "T1"}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance"}}
	for _, c := range append([]string{"2m 5/1"}, claimed...) {
		review.Claims = append(review.Claims, record.Claim{Text: c, Source: "box"})
	}
	var facts record.Facts
	for i, m := range all {
		in := map[string]any{"text": m.text}
		if m.reference >= 0 {
			in["reference_ppm"] = m.reference
		}
		payload, _ := json.Marshal(in)
		facts.Measurements = append(facts.Measurements, record.Measurement{ID: fmt.Sprint(i), Kind: "frequency", Keyed: twoMetres, Through: &record.Through{Name: "no path"}, Payload: payload})
	}
	_, d := of(t, &review, facts)
	return &review, d, facts
}

func of(t *testing.T, review *record.Review, facts record.Facts) (*measure.Review, *room) {
	t.Helper()
	r, err := measure.Open(review, facts, review.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return r, r.Room(frequency.New()).(*room)
}

// TestWhatStandsOfSeveral: the figure furthest off, to either side, whatever came last; a reference
// of which nothing is told rules nothing.
func TestWhatStandsOfSeveral(t *testing.T) {
	half := []string{"2m 2.5ppm"}
	for _, c := range []struct {
		claimed []string
		all     []taken
		want    decision.Verdict
		says    string
	}{
		{half, nil, decision.NotExamined, "not measured"},
		{half, []taken{{"+112Hz", 0.5}}, decision.Pass, "+112 Hz, +0.77 ± 0.58 ppm of 2.5 ppm claimed"},
		{half, []taken{{"+320Hz", 0.5}}, decision.Inconclusive, "+2.20"},
		{half, []taken{{"-600Hz", 0.5}, {"+100Hz", 0.5}}, decision.Fail, "-600 Hz"},
		{half, []taken{{"+112Hz", -1}}, decision.Inconclusive, "of which nothing is told"},
		{half, []taken{{"+600Hz", -1}}, decision.Inconclusive, "of which nothing is told"},
		{nil, []taken{{"+112Hz", 0.5}}, decision.NoClaim, "+0.77"},
		{[]string{"70cm 1ppm"}, []taken{{"+250Hz", 0.01}}, decision.NoClaim, "+1.72"},
		{[]string{"frequency error 1 ppm", "2m 2.5ppm"}, []taken{{"+250Hz", 0.01}}, decision.Pass, "2.5 ppm claimed"},
		{[]string{"2m 1ppm", "2m 2.5ppm"}, []taken{{"+250Hz", 0.01}}, decision.Fail, "of 1 ppm claimed"},
		{half, []taken{{"145.525", 0.5}, {"+25kHz", 0.5}}, decision.NotCovered, "a step of the dial"},
		{half, []taken{{"145.55", 0.5}}, decision.NotCovered, "is the radio on 145.5 MHz?"},
		{half, []taken{{"+4.9kHz", 0.5}}, decision.Fail, "+33.68"},
		{half, []taken{{"fast", 0.5}}, decision.Void, "cannot be worked out"},
	} {
		review, _, facts := open(t, c.claimed, c.all...)
		r, d := of(t, review, facts)
		got := d.RulingOf(twoMetres)
		if got.Verdict != c.want || !strings.Contains(got.Why, c.says) {
			t.Errorf("%v of %v: %s, %q; want %s, %q", c.all, c.claimed, got.Verdict, got.Why, c.want, c.says)
		}
		b := board.Of(r, false)
		last := b.Cells[len(b.Cells)-1]
		if has := last.Cell.Level == "" && last.Box("frequency") != nil; has != (c.want != decision.NotExamined) {
			t.Errorf("on the board: %v", has)
		}
	}
}

// TestTheLastDigitCounts: a counter that shows 145.5003 may be 50 Hz off for its digits alone.
func TestTheLastDigitCounts(t *testing.T) {
	for text, hz := range map[string]float64{"145.5003": 100, "145.500312": 1, "145500.3kHz": 100, "+312Hz": 1, "+0.3kHz": 100, "2.1ppm": 14.55} {
		_, d, _ := open(t, nil, taken{text, 0})
		m := d.RulingOf(twoMetres).Standing[0]
		if want := 2 * hz / 2 / math.Sqrt(3); math.Abs(m.ResolutionHz-hz) > 1e-9 || math.Abs(m.Result.UncertaintyHz-want) > 1e-6 {
			t.Errorf("%s: a digit of %v Hz, ±%v Hz, want %v and ±%v", text, m.ResolutionHz, m.Result.UncertaintyHz, hz, want)
		}
	}
}

// TestWhatCountsForNothing: what was struck, and what lies outside the band claimed.
func TestWhatCountsForNothing(t *testing.T) {
	review, d, facts := open(t, []string{"2.5ppm"}, taken{"-600Hz", 0.5}, taken{"+100Hz ? warm", 0.5})
	if got := d.RulingOf(twoMetres); got.Verdict != decision.Fail || got.Of != 2 || len(got.Standing) != 1 {
		t.Fatalf("%+v", got)
	}
	facts.Standings = []record.Standing{{TargetID: "0", Standing: record.Struck, Reason: "dialled one step low"}}
	_, d = of(t, review, facts)
	if got := d.RulingOf(twoMetres); got.Verdict != decision.Pass || got.Standing[0].Remark != "warm" {
		t.Errorf("a struck figure stands: %+v", got)
	}
	sections := d.Sections(nil)
	if rows := sections[0].Rows; len(rows) != 2 || len(rows[0]) != len(sections[0].Columns) || !strings.Contains(rows[0][len(rows[0])-1], "dialled one step low") || !strings.Contains(strings.Join(rows[1], " "), "145.500100 MHz +100 Hz +0.69 ppm") {
		t.Errorf("%+v", sections)
	}
	facts.Measurements[1].FrequencyHz = 150e6
	_, d = of(t, review, facts)
	if got := d.RulingOf(twoMetres); got.Verdict != decision.NotCovered || !strings.Contains(got.Why, "outside the band") {
		t.Errorf("%+v", got)
	}
}

// TestRefused: what cannot be read is named by its field, and nothing is kept of it.
func TestRefused(t *testing.T) {
	_, d, _ := open(t, nil)
	for draft, field := range map[string]string{
		`{"text":"fast"}`: "text", `{"text":"+100Hz","reference_ppm":-1}`: "reference_ppm", `{"text":"+100Hz","reference_ppm":2000}`: "reference_ppm",
		`{"text":"` + strings.Repeat("1", 501) + `"}`: "text", `{"txt":"1"}`: "",
	} {
		_, err := d.Take(measure.Taking{Keyed: twoMetres, Draft: json.RawMessage(draft), Through: &record.Through{Name: "no path"}})
		if err == nil || !strings.Contains(fmt.Sprintf("%+v", err), field) {
			t.Errorf("%.40s: %v", draft, err)
		}
	}
}

// TestFurtherTestsShareAStage of the work, with what is done of each.
func TestFurtherTestsShareAStage(t *testing.T) {
	review, _, facts := open(t, nil, taken{"+100Hz", 0.5})
	r, _ := of(t, review, facts)
	for _, s := range board.Stages(r, 0) {
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
