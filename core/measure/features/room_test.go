package features_test

import (
	"encoding/json"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/features"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/measuretest"
)

type room = simple.Room[features.Draft, features.Found, *features.Found]

func open(t *testing.T, claims []string, lines ...string) (*measure.Review, features.Ruling) {
	t.Helper()
	var drafts []features.Draft
	for _, l := range lines {
		drafts = append(drafts, features.Draft{Text: l})
	}
	r := measuretest.Open(t, measuretest.Review(append([]string{"2m 5/1"}, claims...)...), measuretest.Facts(t, features.Name, record.Keyed{}, drafts...))
	return r, measure.Inside[*room](r, features.New()).RulingAt(record.Keyed{})
}

// TestAnswersToClaims: a claim is what a line says; the worst answer to a thing stands, an unanswered
// one keeps the whole from passing, and what no claim speaks of is held against nothing.
func TestAnswersToClaims(t *testing.T) {
	two := []string{"says charges by USB", "comes with belt clip"}
	for name, c := range map[string]struct {
		claims, lines []string
		want          decision.Verdict
		says          string
	}{
		"both":                     {two, []string{"yes charges by USB", "in belt clip"}, decision.Pass, "charges by USB: yes"},
		"however written":          {two, []string{"Yes  Charges by usb.", "in Belt-clip"}, decision.Pass, ""},
		"one is open":              {two, []string{"yes charges by USB"}, decision.SoFar, "not tested: belt clip"},
		"one is missing":           {two, []string{"yes charges by USB", "missing belt clip"}, decision.Fail, "belt clip: not in the box"},
		"no":                       {two, []string{"no charges by USB ? needs its cradle", "in belt clip"}, decision.Fail, "charges by USB: no"},
		"the worst of two answers": {two, []string{"no charges by USB", "yes charges by USB", "in belt clip"}, decision.Fail, "charges by USB: no"},
		"partly":                   {two, []string{"partly charges by USB", "in belt clip"}, decision.Inconclusive, "partly"},
		"unasked":                  {nil, []string{"fits battery of the older model"}, decision.NoClaim, "fits"},
		"in is no answer to it":    {two[:1], []string{"in charges by USB"}, decision.NoClaim, "not tested: charges by USB"},
		"what fits answers none":   {two, []string{"fits belt clip", "yes charges by USB"}, decision.SoFar, "not tested: belt clip"},
		"nothing":                  {two, nil, decision.NotExamined, "not tried"},
	} {
		if _, r := open(t, c.claims, c.lines...); r.Verdict != c.want || !strings.Contains(r.Why, c.says) {
			t.Errorf("%s: %s, %q", name, r.Verdict, r.Why)
		}
	}
	d, _ := open(t, two)
	for _, text := range []string{"", "yes", "perhaps charges by USB", "charges by USB", "in " + strings.Repeat("x", 121)} {
		draft, _ := json.Marshal(features.Draft{Text: text})
		if _, err := d.Room(features.New()).Take(measure.Taking{Draft: draft}); err == nil || !strings.Contains(err.Error(), "text: ") {
			t.Errorf("%q: %v", text, err)
		}
	}
}

// TestClaimsBesideFigures are read on Radio, refused where nothing is said, and take no line from
// any other claim.
func TestClaimsBesideFigures(t *testing.T) {
	lines := measure.ReadClaims([]record.Claim{{Text: "says IP67"}, {Text: "Comes with charger"}, {Text: "says"}, {Text: "2m 5/1"}, {Text: "current 1.5A"}}, []measure.Kind{features.New()}, 2)
	if lines[0].Said != "says IP67" || lines[1].Said != "comes with charger" || lines[2].Error == "" || len(lines[3].Powers) != 2 || lines[4].Said != "draws 1.5 A" {
		t.Errorf("%+v", lines)
	}
	r, _ := open(t, []string{"says IP67", "comes with charger"}, "in charger")
	b := board.Of(r, false)
	box := b.Boxes(features.Name)
	if got := r.Room(features.New()).NotTested(box[0]); len(got) != 1 || got[0] != "the radio, features: not tested: IP67" {
		t.Errorf("%q", got)
	}
	if !strings.Contains(b.Headline, "As claimed so far: features.") {
		t.Errorf("%q", b.Headline)
	}
}

// TestShortWords mean what the long ones do; a claim is short.
func TestShortWords(t *testing.T) {
	for line, want := range map[string]string{"y a clip": "yes", "n a clip": "no"} {
		if _, r := open(t, nil, line); len(r.Standing) != 1 || r.Standing[0].Answer != want {
			t.Errorf("%s: %+v", line, r)
		}
	}
	for n, refused := range map[int]bool{120: false, 121: true} {
		l := measure.ReadClaims([]record.Claim{{Text: "says " + strings.Repeat("x", n)}}, []measure.Kind{features.New()}, 2)[0]
		if (l.Error != "") != refused {
			t.Errorf("%d characters: %q", n, l.Error)
		}
	}
}
