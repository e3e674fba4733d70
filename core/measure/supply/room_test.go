package supply_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/measure/supply"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/measuretest"
)

type room = simple.Room[supply.Draft, supply.Measured, *supply.Measured]

var twoMetres = record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}

func p(v float64) *float64 { return &v }

// by is a line read on an ammeter that is within 2 %.
func by(text string) supply.Draft { return supply.Draft{Text: text, WithinPct: p(2)} }

func open(t *testing.T, claims []string, all ...supply.Draft) (*measure.Review, supply.Ruling) {
	t.Helper()
	review := measuretest.Review(append([]string{"2m 5/1"}, claims...)...)
	review.Subject.SupplyV = p(13.8)
	r := measuretest.Open(t, review, measuretest.Facts(t, supply.Name, twoMetres, all...))
	return r, measure.Inside[*room](r, supply.New()).RulingAt(twoMetres)
}

// TestDrawAgainstItsClaim: at most what is claimed, with the ammeter's uncertainty in hand; of
// several the highest of a level; a claim of one level goes before one of the radio.
func TestDrawAgainstItsClaim(t *testing.T) {
	all := []string{"current 1.5A"}
	for name, c := range map[string]struct {
		claims []string
		drafts []supply.Draft
		want   decision.Verdict
		says   string
	}{
		"nothing":                     {all, nil, decision.NotExamined, "not measured"},
		"under it":                    {all, []supply.Draft{by("high 1.4a 13.8v")}, decision.Pass, "High 1.4 A"},
		"over it":                     {all, []supply.Draft{by("high 1.6a")}, decision.Fail, "of 1.5 A claimed"},
		"too close":                   {all, []supply.Draft{by("high 1.51a")}, decision.Inconclusive, "1.51 A"},
		"the highest stands":          {all, []supply.Draft{by("high 1.6a"), by("h 1.58")}, decision.Fail, "1.6 A"},
		"one of them is wrong":        {all, []supply.Draft{by("high 1.6a"), by("h 1.3")}, decision.Inconclusive, "strike one, or explain it"},
		"its volts are not told":      {all, []supply.Draft{by("high 1.4a")}, decision.Inconclusive, "its volts are not told"},
		"over it without volts":       {all, []supply.Draft{by("high 1.6a")}, decision.Fail, "1.6 A"},
		"the ammeter is not told":     {all, []supply.Draft{{Text: "high 1.6a"}}, decision.Inconclusive, "not told"},
		"at another voltage":          {all, []supply.Draft{by("high 1.4a 11.6v")}, decision.Inconclusive, "11.6 V"},
		"five per cent under":         {all, []supply.Draft{by("high 1.4a 13.15v")}, decision.Pass, "1.4 A"},
		"a little more":               {all, []supply.Draft{by("high 1.4a 13.05v")}, decision.Inconclusive, "13.05 V"},
		"five per cent over":          {all, []supply.Draft{by("high 1.4a 14.45v")}, decision.Pass, "1.4 A"},
		"half its power":              {all, []supply.Draft{by("high 1.4a 13.8v 2.51w")}, decision.Pass, "1.4 A"},
		"less than half":              {all, []supply.Draft{by("high 1.4a 13.8v 2.49w")}, decision.Inconclusive, "2.49 W"},
		"it gave far less power":      {all, []supply.Draft{by("high 1.4a 13.8v 2w")}, decision.Inconclusive, "at its full power it draws more"},
		"low alone passes so far":     {all, []supply.Draft{by("low 0.6a 13.8v")}, decision.SoFar, "not tested: High"},
		"receiving is held to none":   {all, []supply.Draft{by("receiving 1.9a")}, decision.NoClaim, "receiving 1.9 A"},
		"a level's own":               {[]string{"current 1.5A", "low current 0.5A"}, []supply.Draft{by("high 1.4a 13.8v"), by("low 0.6a")}, decision.Fail, "Low 0.6 A"},
		"a level's own, not read":     {[]string{"current 1.5A", "low current 0.5A"}, []supply.Draft{by("high 1.4a 13.8v")}, decision.SoFar, "not tested: Low"},
		"a band's before the radio's": {[]string{"current 1.3A", "2m current 1.5A"}, []supply.Draft{by("high 1.4a 13.8v")}, decision.Pass, "of 1.5 A"},
		"no claim":                    {nil, []supply.Draft{by("high 1.4a 13.8v")}, decision.NoClaim, "High 1.4 A"},
	} {
		if _, r := open(t, c.claims, c.drafts...); r.Verdict != c.want || !strings.Contains(r.Why, c.says) {
			t.Errorf("%s: %s, %q", name, r.Verdict, r.Why)
		}
	}
}

// TestLinesOfASupply: 13.8 V times 1.45 A are 20.01 W, of which 5 W are 25 %; more power than comes
// from the supply cannot be. A state may stand in the remark.
func TestLinesOfASupply(t *testing.T) {
	_, r := open(t, nil, by("high 1.45a 13.8v 5w"))
	m := r.Standing[0]
	if math.Abs(*m.InputW-20.01) > 1e-9 || math.Abs(*m.EfficiencyPct-24.9875) > 1e-3 || math.Abs(*m.HeatW-15.01) > 1e-9 {
		t.Errorf("%+v", m)
	}
	// 2 % of 1.45 A and half of the last digit, each over the root of three, twice.
	if want := 2 * math.Hypot(0.029, 0.005) / math.Sqrt(3); math.Abs(m.UncertaintyA-want) > 1e-12 {
		t.Errorf("± %g, want %g", m.UncertaintyA, want)
	}
	if _, r = open(t, nil, by("high 0.2a 13.8v 5w")); r.Verdict != decision.NotCovered || !strings.Contains(r.Why, "cannot be") {
		t.Errorf("%+v", r)
	}
	for text, want := range map[string]string{"0.14a ? receiving": "receiving", "rx .14": "receiving", "standby 45 mA": "standby", "off 2mA": "off", "0.14 A receiving 13.8 V": "receiving", "0.14a ? receiving, high volume": "receiving", "1.4a ? high and receiving": "High", "1,4A h": "High", "1.4 ? high, keyed": "High"} {
		_, r := open(t, nil, by(text))
		if len(r.Standing) != 1 || r.Standing[0].State+r.Standing[0].At != want {
			t.Errorf("%s: %+v", text, r)
		}
	}
	d, _ := open(t, nil)
	for _, text := range []string{"", "high", "1.4a", "high 1.4a 1.5a", "high 1.4x", "turbo 1.4a", "high low 1.4a", "high -1a", "high 900a", "off 2mA 5w", "high 1,400a", "receiving high 1a"} {
		draft, _ := json.Marshal(by(text))
		if _, err := d.Room(supply.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft}); err == nil || !strings.Contains(err.Error(), "text: ") {
			t.Errorf("%q: %v", text, err)
		}
	}
	for within, refused := range map[float64]bool{-0.1: true, 0: false, 50: false, 50.1: true} {
		draft, _ := json.Marshal(supply.Draft{Text: "high 1.4a", WithinPct: &within})
		if _, err := d.Room(supply.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft}); (err != nil) != refused || refused && !strings.Contains(err.Error(), "within_pct: ") {
			t.Errorf("within %g %%: %v", within, err)
		}
	}
}

// TestSupplyOnTheBoard: in the headline, among what was not tested, and in its table.
func TestSupplyOnTheBoard(t *testing.T) {
	r, _ := open(t, []string{"current 1.5A"}, by("low 0.6a 13.8v 1w"), by("off 2mA"))
	b := board.Of(r, false)
	boxes := b.Boxes(supply.Name)
	room := r.Room(supply.New())
	if got := room.NotTested(boxes[0]); len(got) != 1 || got[0] != "2m, supply: not tested: High" || !strings.Contains(b.Headline, "As claimed so far: supply.") {
		t.Errorf("%q %q", got, b.Headline)
	}
	s := room.Sections(boxes)
	if len(s) != 1 || len(s[0].Rows) != 2 || len(s[0].Rows[1]) != len(s[0].Columns) || s[0].Rows[1][4] != "2 mA" || s[0].Rows[0][9] != "12 %" {
		t.Errorf("%+v", s)
	}
}

// TestEdgesOfADraw: up to 200 A, 250 V and 3 kW (common practice, no source); a mean current goes with no peak,
// and a level in words.
func TestEdgesOfADraw(t *testing.T) {
	d, _ := open(t, nil)
	for text, refused := range map[string]bool{"high 200a": false, "high 201a": true, "high 1a 250v": false, "high 1a 251v": true, "high 199a 200v 3000w": false, "high 199a 200v 3001w": true, "1.5a at high": false, "tx high 1.5a": false, "high 1.5a low": true, "1.5a frog": true} {
		draft, _ := json.Marshal(by(text))
		if _, err := d.Room(supply.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft}); (err != nil) != refused {
			t.Errorf("%s: %v", text, err)
		}
	}
}

// TestAMeanCurrentGoesWithNoPeak: the power measured at a level is taken where none is typed, a mean alone; and a
// claim is held where there is one.
func TestAMeanCurrentGoesWithNoPeak(t *testing.T) {
	load := &record.Through{Kit: []record.KitCopy{{Name: "meter", Spec: kit.Spec{Kind: kit.TerminatingMeter, Element: path.Element{Kind: path.TerminatingMeter, MaxW: p(50)}, Meter: &reading.Meter{PctReading: 5}}}}}
	for _, c := range []struct {
		power string
		own   string
		taken bool
	}{{"5", "high 1.4a 13.8v", true}, {"5 pk 8", "high 1.4a 13.8v", false}, {"5", "high 1.4a 13.8v 4w", false}, {"5", "receiving 0.1a 13.8v", false}} {
		facts := measuretest.Facts(t, supply.Name, twoMetres, by(c.own))
		at := twoMetres
		at.Level = "High"
		facts.Measurements = append(facts.Measurements, record.Measurement{ID: "w", Kind: "power", Keyed: at, Through: load, Payload: []byte(`{"text":"` + c.power + `"}`)})
		r := measuretest.Open(t, measuretest.Review("2m 5/1"), facts)
		m := measure.Inside[*room](r, supply.New()).Taken(0)
		if m.FromPower != c.taken || c.taken && (*m.W != 5 || m.EfficiencyPct == nil) || m.ClaimedA != nil || m.Verdict != nil {
			t.Errorf("%+v: %+v", c, m)
		}
	}
}

// TestWhichDrawIsMissing: of a claim that names a level that one, of one that names none the level of the most
// power; of this band and mode alone.
func TestWhichDrawIsMissing(t *testing.T) {
	for _, c := range []struct {
		claims, lines []string
		want          string
	}{
		{[]string{"current 1.5A"}, []string{"low 0.6a 13.8v"}, "High"}, {[]string{"current 1.5A"}, []string{"high 1.4a 13.8v"}, ""}, {[]string{"current low 0.7A"}, []string{"high 1.4a 13.8v"}, "Low"},
		{[]string{"current 1.5A", "current low 0.7A"}, []string{"receiving 0.1a 13.8v"}, "Low High"}, {nil, []string{"high 1.4a 13.8v"}, ""},
	} {
		var drafts []supply.Draft
		for _, l := range c.lines {
			drafts = append(drafts, by(l))
		}
		_, r := open(t, append([]string{"70cm 25/10"}, c.claims...), drafts...)
		if got := strings.Join(r.Missing, " "); got != c.want {
			t.Errorf("%v, %v: %q, want %q", c.claims, c.lines, got, c.want)
		}
	}
}

// TestTheWordsOfADraw: what it takes, by which claim, how efficient it is where power and volts are known.
func TestTheWordsOfADraw(t *testing.T) {
	for line, want := range map[string]bool{"high 1.4a 13.8v 5w": true, "high 1.4a": false} {
		if _, r := open(t, nil, by(line)); strings.Contains(r.Why, "efficien") != want {
			t.Errorf("%s: %s", line, r.Why)
		}
	}
}

// TestALevelThatIsNotThere is refused, with those there are of the band and mode.
func TestALevelThatIsNotThere(t *testing.T) {
	r := measuretest.Open(t, measuretest.Review("2m 5/1", "70cm 10/5/1"), record.Facts{})
	draft, _ := json.Marshal(by("mid 1a"))
	if _, err := r.Room(supply.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft}); err == nil || !strings.Contains(err.Error(), "give one of High, Low, or receiving") {
		t.Error(err)
	}
}
