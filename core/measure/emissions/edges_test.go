package emissions_test

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/say"
)

// TestWhatToLookAtNext: the state that would tell more, by what was looked at; none where there is no line.
func TestWhatToLookAtNext(t *testing.T) {
	const line = ": 30-1600 -82 h-13 205-70"
	for _, c := range []struct {
		looks []string
		want  string
	}{
		{[]string{"a: 30-1600 -82 h-13"}, ""},
		{[]string{"a" + line}, "look with the radio off"},
		{[]string{"a" + line, "b; state off: 30-1600 -82"}, "look in standby"},
		{[]string{"a" + line, "b; state off: 30-1600 -82", "c; state receive: 30-1600 -82"}, "look at another level"},
		{[]string{"a" + line, "b; state off: 30-1600 -82", "c; state standby: 30-1600 -82", "d; level Low: 30-1600 -82 h-20"}, "look on another supply"},
		{[]string{"a" + line, "b; state off: 30-1600 -82", "c; state standby: 30-1600 -82", "d; level Low: 30-1600 -82 h-20", "e; state other supply" + line}, ""},
		{[]string{"a; heard; state all on: 144-148 -110 145-95"}, "listen again with the supply"},
		{[]string{"a; heard; state all on: 144-148 -110 145-95", "b; heard; state supply off: 144-148 -120"}, ""},
	} {
		if got := afternoon(t, c.looks...).Study().Boards[0].Ask; (got == "") != (c.want == "") || !strings.HasPrefix(got, c.want) {
			t.Errorf("%v: %q, want %q", c.looks, got, c.want)
		}
	}
}

// TestGoesWith: what a line is said to go with, at 6 dB and beside it (common practice, no source).
func TestGoesWith(t *testing.T) {
	for _, c := range []struct {
		looks []string
		want  string
	}{
		{[]string{"a: 30-1600 -82 h-13 205-70", "b; state standby: 30-1600 -82 205-71"}, "in standby too: made without transmitting"},
		{[]string{"a: 30-1600 -82 h-13 205-70", "b; state standby: 30-1600 -82 205-76"}, "strongest with High, by 6 dB over standby"},
		{[]string{"a: 30-1600 -82 h-13 205-70", "b; level Low: 30-1600 -60 h-20"}, "with High; where it is not seen the noise is too high to tell"},
		{[]string{"a: 30-1600 -82 h-13 205-70", "b; level Low: 30-1600 -76 h-20"}, "with High, gone with Low"},
		{[]string{"a: 30-1600 -82 h-13 205-70", "b; level Low: 30-1600 -75 h-20"}, "with High; where it is not seen"},
		{[]string{"a: 30-1600 -82 h-13 205-70", "b; level Low: 30-1600 -82 h-20 205-65"}, "alike in all looked at"},
		{[]string{"a: 30-1600 -82 h-13 205-70", "b; level Low: 30-1600 -82 h-20 205-64"}, "in all looked at, strongest with Low, by 6 dB"},
	} {
		if got := afternoon(t, c.looks...).Study().Boards[0].Columns[0].Says; !strings.HasPrefix(got, c.want) {
			t.Errorf("%v: %q, want %q", c.looks, got, c.want)
		}
	}
}

// TestRowsOfABoard: what is not keyed first, as it is offered, then levels, then what was switched; what
// cannot be told is left out, and a line has the level of its strongest sight.
func TestRowsOfABoard(t *testing.T) {
	names := func(looks ...string) string {
		var out []string
		for _, r := range afternoon(t, looks...).Study().Boards[0].Rows {
			out = append(out, r.Name)
		}
		return strings.Join(out, ", ")
	}
	if got := names("a; state tuner in: 30-1600 -82 h-13", "b: 30-1600 -82 h-13", "c; state receive: 30-1600 -82", "d; state off: 30-1600 -82"); got != "off, receive, High, High (tuner in)" {
		t.Error(got)
	}
	if got := names("a; level: 30-1600 -82 h-13"); got != "transmitting" {
		t.Errorf("of no level: %s", got)
	}
	b := afternoon(t, "a: 30-1600 -82 h-13 205-70", "b: 30-1600 -82 h-13 205-66 293-75", "c; level Low: 30-1600 -82 h-20 293.001-75").Study().Boards[0]
	if c := b.Rows[0].Cells[0]; *c.LevelDBm != -66+50 || len(b.Columns) != 2 || b.Columns[1].Name != "2nd harmonic" {
		t.Errorf("%+v %+v", c, b.Columns)
	}
	off := afternoon(t, "a; state off; mhz 144.1: 30-1600 -82 200-70", "b: 30-1600 -82 h-13").Study().Boards[0]
	if off.FrequencyHz != float64(f0) || off.Rows[0].Level != "" {
		t.Errorf("of a carrier at %g: %+v", off.FrequencyHz, off.Rows[0])
	}
}

// TestAnEditionTellsOfStates: each line with its level, what it is not above, or that nobody looked; one
// state alone says nothing, but where it was heard.
func TestAnEditionTellsOfStates(t *testing.T) {
	told := afternoon(t, "a: 30-1600 -82 h-13 205-70 1500-74", "b; state off: 30-960 -80").Sections(nil)
	if len(told) != 1 || strings.Join(told[0].Columns, "|") != "Line|off|High|What it goes with" || strings.Join(told[0].Rows[0][:3], "|") != "spur at 205 MHz|not above -30.0 dBm|-20.0 dBm" || told[0].Rows[1][1] != "not looked at" {
		t.Errorf("%+v", told)
	}
	if told := afternoon(t, "a: 30-1600 -82 h-13 205-70").Sections(nil); len(told) != 0 {
		t.Errorf("of one state: %+v", told)
	}
	heard := afternoon(t, "a; heard; state all on: 144-148 -110 145-95 145.5-96 146-97 146.5-95").Sections(nil)
	if len(heard) != 1 || !strings.HasPrefix(heard[0].Title, "Heard in its own receiver, 2m") || len(heard[0].Lines) != 2 || !strings.Contains(heard[0].Lines[1], "13 dB over the noise noted") {
		t.Errorf("%+v", heard)
	}
	if got := afternoon(t, "a; heard; state all on: 144-148 145-95 145.5-96 146-97 146.5-95").Study().Boards[0].Combs; len(got) != 1 || !strings.Contains(got[0].Says, "noise beside it was not noted") {
		t.Errorf("%+v", got)
	}
}

// TestACombOnABoard: evenly spaced lines of a state are told with it.
func TestACombOnABoard(t *testing.T) {
	b := afternoon(t, "a: 30-1600 -82 h-13", "b: 195-245 -82 200-70 210-70 220-70 230-70 240-70").Study().Boards[0]
	if len(b.Combs) != 1 || b.Combs[0].Row != "High" || math.Abs(b.Combs[0].SpacingHz-10e6) > 1e5 || b.Combs[0].Lines != 5 {
		t.Errorf("%+v", b.Combs)
	}
}

// TestStandbyInForceAlone: what is suspect rules on nothing; another band or state is not mixed in.
func TestStandbyInForceAlone(t *testing.T) {
	b := bench{book: "eu-land-mobile", looks: []string{"a; pad 0; state standby: 0.1-3000 -80 500-50", "b; pad 0; state receive: 0.1-3000 -80 500-65"}}
	if got := emissions.Of(b.open(t)).Standby(); len(got) != 2 || got[0][1]+got[0][2] != "standbyfails" || got[1][1]+got[1][2] != "receivepasses so far" {
		t.Errorf("%v", got)
	}
	if idle, heard := emissions.Of(b.open(t)).Looked(); !idle || heard {
		t.Errorf("looked in standby %v, heard %v", idle, heard)
	}
	for _, standing := range []string{record.Suspect, record.Struck} {
		b.standings = map[string]string{"0": standing}
		room := emissions.Of(b.open(t))
		if got := room.Standby(); len(got) != 1 || got[0][1] != "receive" {
			t.Errorf("%s: %v", standing, got)
		}
		b.standings["1"] = standing
		if idle, heard := emissions.Of(b.open(t)).Looked(); idle || heard {
			t.Errorf("%s: looked in standby %v, heard %v", standing, idle, heard)
		}
	}
}

// TestLevelsTogether: at which level the radio is dirtiest below its carrier, 3 dB apart at the least
// (common practice, no source), and where another term decides. Of one band alone, and of what was seen.
func TestLevelsTogether(t *testing.T) {
	says := func(looks ...string) string {
		out := []string{}
		for _, l := range emissions.Of(bench{claims: []string{"2m 5/1", "70cm 5/1"}, looks: looks}.open(t)).Study().Levels {
			out = append(out, l.Band+": "+l.Says)
		}
		return strings.Join(out, " | ")
	}
	for _, c := range []struct {
		looks []string
		want  string
	}{
		{[]string{"a: 30-1600 -90 h-13-75"}, ""},
		{[]string{"a: 30-1600 -90 h-13-75", "b; level Low: 30-1600 -90 h-20"}, ""},
		{[]string{"a: 30-1600 -90 h-13-75", "b; band 70cm; mhz 446; level Low: 30-1600 -90 h-20-70"}, ""},
		{[]string{"a: 30-1600 -90 h-13-75", "b; level Low: 30-1600 -90 h-20-85"}, "2m: dirtiest at High: its 2nd harmonic is -62.0 dBc; the most that is seen at Low is -65.0 dBc"},
		{[]string{"a: 30-1600 -90 h-13-75", "b; level Low: 30-1600 -90 h-20-84.9"}, "2m: alike at all levels, within 3 dB below the carrier"},
		{[]string{"a: 30-1600 -90 h-13-75-70", "b; level Low: 30-1600 -90 h-20-84"}, "2m: dirtiest at High: its 3rd harmonic is -57.0 dBc"},
	} {
		got := says(c.looks...)
		if (got == "") != (c.want == "") || !strings.HasPrefix(got, c.want) {
			t.Errorf("%v: %q, want %q", c.looks, got, c.want)
		}
	}
	// 25 uW below 25 W, so many dB below the carrier above (47 CFR 97.307(e), from memory): the term changes with the power.
	if got := emissions.Of(bench{claims: []string{"2m 50/5"}, looks: []string{"a; pad 60: 30-1600 -95 h-13-80", "b; level Low: 30-1600 -95 h-13-80"}}.open(t)).Study().Levels; len(got) != 1 || !strings.Contains(got[0].Says, "the deciding term changes:") {
		t.Errorf("%+v", got)
	}
}

// TestTheWordsOfABox: each verdict with its reason.
func TestTheWordsOfABox(t *testing.T) {
	none := rulebook.Book{ID: "own", Title: "Own", Kind: "house"}
	for name, c := range map[string]struct {
		b       bench
		verdict decision.Verdict
		why     string
	}{
		"nothing":           {bench{}, decision.NotExamined, "no sweep was taken"},
		"struck":            {bench{looks: []string{"a: 30-1600 -82 h-13"}, standings: map[string]string{"0": record.Struck}}, decision.NotCovered, "every sweep is struck or suspect"},
		"outside":           {bench{looks: []string{"a; mhz 150: 30-1600 -82 h-13"}}, decision.NotCovered, "outside the band claimed only, at 150"},
		"no carrier known":  {bench{claims: []string{"2m FM"}, looks: []string{"a; level: 200-1600 -82 293-75"}}, decision.NotExamined, ""},
		"one beside it all": {bench{looks: []string{"a: 30-160 -82 h-13"}}, decision.NotCovered, "nothing was examined"},
		"not governed":      {bench{own: &none, looks: []string{"a: 30-1600 -82 h-13-75"}}, decision.NoLimit, "the book sets no limit here"},
		"an unseen one":     {bench{looks: []string{"a: 30-1600 -82 h-13"}}, decision.SoFar, "at least +"},
		"a seen one":        {bench{looks: []string{"a: 30-1600 -82 h-13-75"}}, decision.SoFar, "2nd harmonic +9.0 dB, by the absolute term"},
		"one that is over":  {bench{looks: []string{"a: 30-1600 -82 h-13-60"}}, decision.Fail, "2nd harmonic -6.0 dB, by the absolute term"},
		"power not read":    {bench{looks: []string{"a: 30-1600 -82 h-13-75"}}, decision.SoFar, "no power meter was read"},
		"power that agrees": {bench{power: []string{"High 5"}, looks: []string{"a: 30-1600 -82 h-13-75"}}, decision.SoFar, "as far as"},
	} {
		r := c.b.open(t)
		if len(r.Cells) == 0 {
			continue
		}
		box := emissions.Of(r).Box(r.Cells[0], false)
		if box.Verdict != c.verdict || !strings.Contains(box.Why, c.why) {
			t.Errorf("%s: %s, %q, want %s, %q", name, box.Verdict, box.Why, c.verdict, c.why)
		}
		if agrees := name == "power that agrees"; agrees && strings.Contains(box.Why, "no power meter") {
			t.Errorf("%s: %q", name, box.Why)
		}
	}
}

// TestTheWorstCarrierStandsForTheBox: in the order of verdicts, then by its room; one outside the band for
// none; one that was asked for is looked at, else the worst.
func TestTheWorstCarrierStandsForTheBox(t *testing.T) {
	r := bench{looks: []string{"a: 30-1600 -82 h-13-75", "b; mhz 144.1: 30-1600 -82 h-13-70", "c; mhz 150: 30-1600 -82 h-13-40"}}.open(t)
	room := emissions.Of(r)
	box := room.Box(r.Cells[0], false)
	if e := of(box); e.FrequencyHz != 144.1e6 || len(e.Others) != 2 || box.Taken != 3 || fmt.Sprint(box.Frequencies) != "[1.441e+08]" {
		t.Errorf("%g, %+v, %d taken at %v", e.FrequencyHz, e.Others, box.Taken, box.Frequencies)
	}
	if at := room.At(key, false); at.FrequencyHz != float64(f0) {
		t.Errorf("asked for: %g", at.FrequencyHz)
	}
	elsewhere := key
	elsewhere.FrequencyHz = 147e6
	if at := room.At(elsewhere, false); at.FrequencyHz != 144.1e6 {
		t.Errorf("where nothing was swept: %g", at.FrequencyHz)
	}
	low := room.Box(r.Cells[1], false)
	if low.Taken != 0 || len(low.Frequencies) != 0 {
		t.Errorf("%+v", low)
	}
}

// TestWhatTheCarrierIsHeldAgainst: the meter's mean, else its peak, else the claim; a claim of PEP is no carrier.
func TestWhatTheCarrierIsHeldAgainst(t *testing.T) {
	voice := record.Keyed{Band: "20m", Level: "High", Mode: "SSB", FrequencyHz: 14.2e6}
	for _, c := range []struct {
		b    bench
		want string
	}{
		{bench{claims: []string{"2m FM 5/1"}}, "carrier-against-claim carrier-unchecked"}, // 0.5 W shown of 5 W claimed
		{bench{claims: []string{"2m FM 5/1"}, power: []string{"High 5"}}, "carrier-disagrees"},
		{bench{claims: []string{"2m FM 5/1"}, power: []string{"High 0.5"}}, ""},
		{bench{claims: []string{"20m SSB 5W PEP"}, at: voice}, "carrier-unchecked"}, // between words there is less than the peak
		{bench{claims: []string{"20m SSB 5W PEP"}, at: voice, power: []string{"High pk 5"}}, "carrier-against-claim carrier-unchecked"},
	} {
		c.b.looks = []string{"a: 10-1600 -90 h-23"} // 27 dBm
		r := c.b.open(t)
		e := emissions.Of(r).At(c.b.key(), false)
		if e.Ruling == nil {
			t.Fatalf("%+v: %s %s", c.b, e.Void, e.Why)
		}
		var got []string
		for _, n := range []string{"carrier-against-claim", "carrier-disagrees", "carrier-unchecked"} {
			if _, is := e.Ruling.Says(say.Code(n)); is {
				got = append(got, n)
			}
		}
		if strings.Join(got, " ") != c.want {
			t.Errorf("%v, read %v: %v, want %s", c.b.claims, c.b.power, got, c.want)
		}
	}
}

// TestBelievedByWhatWasRead: the offset is asked for of a transmitting sight alone; power that was read makes
// more believable than the claim does.
func TestBelievedByWhatWasRead(t *testing.T) {
	// 50 dB behind which -13 dBm show 37 dBm, 5 W: of a claim of 0.1 W nobody believes that, unless it was read.
	for _, c := range []struct {
		b        bench
		believed bool
	}{
		{bench{claims: []string{"2m 0.1"}, looks: []string{"a: 30-1600 -82 h-13-75"}}, false},
		{bench{claims: []string{"2m 0.45"}, looks: []string{"a: 30-1600 -82 h-13-75"}}, false},
		{bench{claims: []string{"2m 0.45"}, power: []string{"High 2"}, looks: []string{"a: 30-1600 -82 h-13-75"}}, true},
		{bench{claims: []string{"2m 0.1"}, looks: []string{"a; state tuner in: 30-1600 -82 h-13-75"}}, true},
		{bench{claims: []string{"2m 0.1"}, looks: []string{"a: 200-1600 -82 293-75"}}, true}, // the carrier is not in it
	} {
		room := emissions.Of(c.b.open(t))
		if got := room.Taken(0); got.Doubtful == c.believed {
			t.Errorf("%+v: doubtful %v, %s", c.b, got.Doubtful, got.Void)
		}
	}
}

// TestObstacles: what stands between a box and an edition, and what that says of it.
func TestObstacles(t *testing.T) {
	for _, c := range []struct {
		b              bench
		codes, missing string
	}{
		{bench{}, "no-sweep", "emissions were not examined"},
		{bench{looks: []string{"a: 200-1600 -82 293-75"}}, "evidence void", "examined 200 MHz to 1.6 GHz"},
		{bench{looks: []string{"a: 30-1600 -82 h-13-75"}}, "evidence coverage", "examined 30 MHz to 1.6 GHz, not all that"},
		{bench{looks: []string{"a: 30-1600 -82 h-13-75"}, standings: map[string]string{"0": record.Struck}}, "evidence coverage", "no sweep in force covers anything"},
	} {
		c.b.claims = []string{"2m 5"}
		r := c.b.open(t)
		room := emissions.Of(r)
		named := measure.Named{Name: "2m High", Cell: r.Cells[0], Box: room.Box(r.Cells[0], false)}
		var codes []string
		for _, o := range room.Obstacles([]measure.Named{named}) {
			codes = append(codes, string(o.Code))
		}
		if got := strings.Join(codes, " "); got != c.codes {
			t.Errorf("%v: %s, want %s", c.b.looks, got, c.codes)
		}
		if got := strings.Join(room.NotTested(named), "; "); !strings.Contains(got, c.missing) {
			t.Errorf("%v: %q, want %q", c.b.looks, got, c.missing)
		}
	}
}

// TestSecondLooks: those of one carrier and box that look at the same place, the newest first; what is
// struck is compared with none, what is suspect is.
func TestSecondLooks(t *testing.T) {
	pairs := func(standings map[string]string, looks ...string) string {
		var out []string
		for _, s := range emissions.Of(bench{looks: looks, standings: standings}.open(t)).At(key, true).Seconds {
			out = append(out, s.FirstID+s.SecondID)
		}
		return strings.Join(out, " ")
	}
	const one = ": 30-1600 -90 h-13-75"
	for _, c := range []struct {
		standings map[string]string
		looks     []string
		want      string
	}{
		{nil, []string{"a" + one}, ""},
		{nil, []string{"a" + one, "b; pad 60: 30-1600 -95 h-23-85"}, "01"},
		{nil, []string{"a" + one, "b; pad 60: 30-1600 -95 h-23-85", "c; pad 70: 30-1600 -95 h-33-92"}, "12 02 01"},
		{nil, []string{"a" + one, "b; mhz 144.1; pad 60: 30-1600 -95 h-23-85"}, ""},
		{nil, []string{"a" + one, "b; level Low; pad 60: 30-1600 -95 h-23-85"}, ""},
		{nil, []string{"a: 30-200 -90 h-13", "b; pad 60: 250-1600 -95 293-85"}, ""},
		{map[string]string{"0": record.Struck}, []string{"a" + one, "b; pad 60: 30-1600 -95 h-23-85"}, ""},
		{map[string]string{"0": record.Suspect}, []string{"a" + one, "b; pad 60: 30-1600 -95 h-23-85"}, "01"},
	} {
		if got := pairs(c.standings, c.looks...); got != c.want {
			t.Errorf("%v %v: %q, want %q", c.looks, c.standings, got, c.want)
		}
	}
}

// TestManySightsAreDrawn: twelve at the most, those that show the worst products and the newest.
func TestManySightsAreDrawn(t *testing.T) {
	drawn := func(n int, over string) (int, bool) {
		looks := []string{"first: 30-1600 -82 h-13" + over}
		for i := 1; i < n; i++ {
			looks = append(looks, fmt.Sprintf("later %d: 30-1600 -82 h-13", i))
		}
		count, first := 0, false
		for _, s := range emissions.Of(bench{looks: looks}.open(t)).At(key, true).Sweeps {
			if len(s.Picture) > 0 {
				count, first = count+1, first || s.Name == "first"
			}
		}
		return count, first
	}
	for _, c := range []struct {
		n     int
		over  string
		count int
		first bool
	}{{12, "", 12, true}, {13, "", 12, false}, {13, "-60", 12, true}} {
		if count, first := drawn(c.n, c.over); count != c.count || first != c.first {
			t.Errorf("%d looks%s: %d drawn, the first %v", c.n, c.over, count, first)
		}
	}
}

// TestAPictureRises with frequency, whatever the order of its peaks and floor; levels in dBc are drawn
// from the carrier, and nothing is drawn of those without one.
func TestAPictureRises(t *testing.T) {
	for _, look := range []string{"30-1600 -82 h-13 205-66 100-70", "30-1600 -82 h-13 2 -62c"} {
		at := 0.0
		high := 0
		for _, b := range afternoon(t, "a: "+look).At(key, true).Sweeps[0].Picture {
			if b.FrequencyHz < at {
				t.Fatalf("%s: %g after %g", look, b.FrequencyHz, at)
			}
			if at = b.FrequencyHz; b.HighDBm != nil {
				high++
			}
		}
		if high < 2 {
			t.Errorf("%s: %d sticks", look, high)
		}
	}
}

// TestHowWellALookWasReadCounts beside the analyzer's own accuracy: 3 dB more as a root of squares, k = 2.
func TestHowWellALookWasReadCounts(t *testing.T) {
	u := func(reading float64) float64 {
		b := bench{looks: []string{"a: 30-1600 -82 h-13-75"}, told: func(d *emissions.Draft) { d.ReadingDB = reading }}
		return emissions.Of(b.open(t)).At(key, false).Budget.Absolute
	}
	if got, want := u(3), math.Hypot(u(0), 6); math.Abs(got-want) > 0.01 {
		t.Errorf("%g, want %g", got, want)
	}
}

// TestPeaksOfTheMeter: a peak over the mean is PEP, one below it is none.
func TestPeaksOfTheMeter(t *testing.T) {
	for read, pep := range map[string]bool{"High 5 pk 8": true, "High 5 pk 5": false, "High 5 pk 4.9": false} {
		e := emissions.Of(bench{power: []string{read}, looks: []string{"a: 30-1600 -82 h-13-75"}}.open(t)).At(key, false)
		if (e.PEPW != nil) != pep || *e.MeanW != 5 {
			t.Errorf("%s: %v", read, e.PEPW)
		}
	}
}

// TestReadingsThatContradict: their difference counts as the meter's, and is said.
func TestReadingsThatContradict(t *testing.T) {
	budget := func(read ...string) (float64, bool) {
		e := emissions.Of(bench{power: read, looks: []string{"a: 30-1600 -82 h-13-75"}}.open(t)).At(key, false)
		_, said := e.Ruling.Says("power-contradicts")
		return e.Budget.Relative, said
	}
	one, said := budget("High 5")
	if said {
		t.Error("one reading contradicts itself")
	}
	two, said := budget("High 5", "High 3")
	if !said || two < 2.2 || two <= one { // 10 log 5/3 = 2.2 dB
		t.Errorf("%g dB, then %g dB, said %v", one, two, said)
	}
}

// TestHeadline: the worst first, with how many more are over; a pass says how far it goes, from where, and
// with what room; a doubt says which.
func TestHeadline(t *testing.T) {
	for _, c := range []struct {
		looks []string
		want  []string
	}{
		{nil, []string{"Emissions were not examined."}},
		{[]string{"a: 30-1600 -82 h-13-60-63", "b; level Low: 30-1600 -82 h-20-50"}, []string{"Emissions fail on 2m Low: 2nd harmonic is 16.0 dB over the limit; 2m High: 2nd harmonic is 6.0 dB over the limit, and 1 more over it ("}},
		{[]string{"a: 30-1600 -82 h-13-75", "b; level Low: 30-1600 -82 h-20-78"}, []string{"Emissions pass so far, as far as 1.6 GHz (10th harmonic), from 30 MHz, by US amateur", "smallest margin +9.0 dB on 2m High"}},
		{[]string{"a: 30-1600 -82 h-13-66"}, []string{"Emissions are too close to call on 2m High: 2nd harmonic, margin +0.0 dB"}},
		{[]string{"a: 30-160 -82 h-13"}, []string{"Nothing examined can be ruled on"}},
	} {
		r := bench{looks: c.looks}.open(t)
		got := board.Of(r, false).Headline
		for _, want := range c.want {
			if !strings.Contains(got, want) {
				t.Errorf("%v: %q, want %q", c.looks, got, want)
			}
		}
	}
}

// TestAReaderCanDoNothing: what is published gives no advice, and what is on screen keeps it.
func TestAReaderCanDoNothing(t *testing.T) {
	r := bench{looks: []string{"a: 30-1600 -82 h-13-75"}}.open(t)
	room := emissions.Of(r)
	box := room.Box(r.Cells[0], false)
	advised := func(b measure.Box) (n int) {
		for _, f := range of(b).Ruling.Findings {
			if f.Advice != "" {
				n++
			}
		}
		return n
	}
	if before, published := advised(box), advised(room.WithoutAdvice(box)); before == 0 || published != 0 || advised(box) != before {
		t.Errorf("%d advised, %d published", before, published)
	}
}

// TestWhatAFileSays: an offset in it that is not the path's is asked about, by more than what is printed is
// rounded to; told, or of levels below the carrier, it is none. So are frequencies that cannot be meant.
func TestWhatAFileSays(t *testing.T) {
	room := emissions.Of(bench{}.open(t))
	take := func(head, unit string, d emissions.Draft) (measure.Worth[emissions.SweepView], error) {
		var csv strings.Builder
		csv.WriteString(head + "Frequency (" + unit + ");Level (dBm)\n")
		for i := range 200 {
			fmt.Fprintf(&csv, "%d;%g\n", 100_500_000+i*1_000_000, map[bool]float64{true: -13, false: -90}[i == 46])
		}
		d.Name = "a"
		return room.Read(measure.Taking{Keyed: key, Through: through(50), File: &record.File{Content: []byte(csv.String())}}, d)
	}
	told := emissions.Draft{Told: emissions.Told{OffsetDB: v(0)}}
	for _, c := range []struct {
		head, unit, want string
		d                emissions.Draft
	}{
		{"", "Hz", "", emissions.Draft{}},
		{"Ref Offset;0.05 dB\n", "Hz", "", emissions.Draft{}},
		{"Ref Offset;0.06 dB\n", "Hz", "offset_db: the file says that 0.06 dB", emissions.Draft{}},
		{"Ref Offset;20 dB\n", "Hz", "offset_db: the file says that 20 dB", emissions.Draft{}},
		{"Ref Offset;20 dB\n", "Hz", "", told},
		{"Ref Offset;20 dB\n", "Hz", "", emissions.Draft{Normalised: true}},
		{"", "MHz", "unit: the frequencies run from 100500 GHz", emissions.Draft{}},
	} {
		got, err := take(c.head, c.unit, c.d)
		if c.want == "" && err == nil && got.View.Points == 200 {
			continue
		}
		if err == nil || c.want == "" || !strings.HasPrefix(err.Error(), c.want) {
			t.Errorf("%q in %s: %v, want %q", c.head, c.unit, err, c.want)
		}
	}
	for want, d := range map[string]emissions.Draft{
		"heard: ": {Name: "a", Told: emissions.Told{Heard: true, State: "on"}}, "state: say in what state": {Name: "a", Look: true, Told: emissions.Told{Heard: true}},
		"name: ": {Look: true}, "name: give": {Name: strings.Repeat("x", 201), Look: true},
	} {
		if _, err := room.Read(measure.Taking{Keyed: key, Through: through(50), File: &record.File{Content: []byte("144-148 -110 145-95")}}, d); err == nil || !strings.HasPrefix(err.Error(), want) {
			t.Errorf("%+v: %v, want %q", d, err, want)
		}
	}
}

// TestUnevenPointsComeBack: what an instrument took at uneven steps is kept with its frequencies.
func TestUnevenPointsComeBack(t *testing.T) {
	room := emissions.Of(bench{}.open(t))
	got, err := room.Read(measure.Taking{Keyed: key, Through: through(50), File: &record.File{Content: []byte("MHz;dBm\n100;-90\n146.5;-13\n293;-75\n500;-90\n501;-90\n")}}, emissions.Draft{Name: "a", RBWHz: 1e5})
	if err != nil {
		t.Fatal(err)
	}
	payload, _ := json.Marshal(got.Payload)
	r := bench{}.with(t, record.Facts{Measurements: []record.Measurement{{ID: "0", Kind: emissions.Name, Keyed: key, Through: through(50), Payload: payload, Blob: got.Blob}}})
	e := emissions.Of(r).At(key, false)
	if got.View.Points != 5 || e.Ruling == nil || !e.Sweeps[0].List || *e.Sweeps[0].CarrierDBm != 37 {
		t.Errorf("%+v %s", e.Sweeps, e.Void)
	}
	// Levels that no analyzer shows, in data that came from anywhere, rule on nothing.
	levels := emissions.UnpackLevels(got.Blob)
	levels[2] = 201
	r = bench{}.with(t, record.Facts{Measurements: []record.Measurement{{ID: "0", Kind: emissions.Name, Keyed: key, Through: through(50), Payload: payload, Blob: emissions.PackLevels(levels)}}})
	if e := emissions.Of(r).At(key, true); e.Ruling != nil && e.Void == "" && e.Sweeps[0].Void == "" || len(e.Sweeps[0].Picture) > 0 {
		t.Errorf("a level of 201 dBm is worked out: %+v", e.Sweeps)
	}
}

// TestPerhapsTheAnalyzersOwn is said where a second harmonic is what its input may make itself.
func TestPerhapsTheAnalyzersOwn(t *testing.T) {
	weak := func(shi float64) emissions.Ruling {
		b := bench{looks: []string{"a: 30-1600 -82 h-13-66.5"}}
		facts := record.Facts{Measurements: []record.Measurement{lookTyped(t, 50, nil, "30-1600 -82 h-13-60", "0")}}
		way := through(50)
		way.Kit[1].Spec.Element.SHIDBm = &shi
		facts.Measurements[0].Through = way
		return emissions.Of(b.with(t, facts)).At(key, false)
	}
	// -13 dBm at a mixer of 34 dBm SHI makes -60 dBm itself (the usual power series).
	if e := weak(34); !e.Ruling.Worst.Suspect {
		t.Errorf("%+v", e.Ruling.Worst)
	}
	if e := weak(80); e.Ruling.Worst.Suspect {
		t.Errorf("%+v", e.Ruling.Worst)
	}
	r := bench{}.with(t, record.Facts{})
	if got := emissions.Of(r).Box(r.Cells[0], false); got.Verdict != decision.NotExamined {
		t.Errorf("%+v", got)
	}
}

// TestAPowerThatIsNotBounded says nothing of the carrier that a sweep shows, 10 dB over it.
func TestAPowerThatIsNotBounded(t *testing.T) {
	loose := *meter
	loose.Kit = slices.Clone(meter.Kit)
	loose.Kit[0].Spec.Meter = &reading.Meter{PctReading: 100}
	for _, c := range []struct {
		way       *record.Through
		disagrees bool
	}{{meter, true}, {&loose, false}} {
		payload, _ := json.Marshal(map[string]any{"text": "0.5"})
		facts := record.Facts{Measurements: []record.Measurement{{ID: "w", Kind: "power", Keyed: key, Through: c.way, Payload: payload}, lookTyped(t, 50, nil, "30-1600 -82 h-13-75", "0")}}
		e := emissions.Of(bench{}.with(t, facts)).At(key, false)
		if e.MeanW == nil {
			t.Fatal("no power")
		}
		if _, says := e.Ruling.Says("carrier-disagrees"); says != c.disagrees {
			t.Errorf("%+v: disagrees %v", c.way.Kit[0].Spec.Meter, says)
		}
	}
}

// TestWordsWithoutARuling: neither a power nor a carrier; a book that sets no limit there, with its own words
// where it has some; a product that may be the analyzer's own; two looks apart in frequency are not compared.
func TestWordsWithoutARuling(t *testing.T) {
	why := func(b bench) (decision.Verdict, string) {
		r := b.open(t)
		box := emissions.Of(r).Box(r.Cells[0], false)
		return box.Verdict, box.Why
	}
	if v, got := why(bench{looks: []string{"a: 200-1600 -82 293-75"}}); v != decision.Void || got != "neither a power reading nor a carrier in the sweep" {
		t.Errorf("%s %s", v, got)
	}
	silent := rulebook.Book{ID: "own", Title: "Own", Kind: "house", Clauses: []rulebook.Clause{{Citation: "c"}}}
	if v, got := why(bench{own: &silent, looks: []string{"a: 30-1600 -82 h-13-75"}}); v != decision.NoLimit || got != "the book sets no limit here" {
		t.Errorf("%s %s", v, got)
	}
	exempt := rulebook.Book{ID: "own", Title: "Own", Kind: "house", Clauses: []rulebook.Clause{{Citation: "c", Exempt: true}}}
	if v, got := why(bench{own: &exempt, looks: []string{"a: 30-1600 -82 h-13-75"}}); v != decision.NoLimit || got != "the equipment is exempt" {
		t.Errorf("%s %s", v, got)
	}
	r := bench{}.with(t, func() record.Facts {
		way := through(50)
		way.Kit[1].Spec.Element.SHIDBm = v(34)
		m := lookTyped(t, 50, nil, "30-1600 -82 h-13-60", "0")
		m.Through = way
		return record.Facts{Measurements: []record.Measurement{m}}
	}())
	if box := emissions.Of(r).Box(r.Cells[0], false); !strings.Contains(box.Why, "perhaps the analyzer's own") {
		t.Errorf("%s", box.Why)
	}
	if e := emissions.Of(bench{looks: []string{"a: 200-1600 -82 293-75"}}.open(t)).Taken(0); e.CarrierDBm != nil {
		t.Errorf("%v", *e.CarrierDBm)
	}
}

// TestPointsOfASweep: as displayed and at the connector, 50 dB more; a look has none, nor has another key.
func TestPointsOfASweep(t *testing.T) {
	room := emissions.Of(bench{}.open(t))
	got, err := room.Read(measure.Taking{Keyed: key, Through: through(50), File: &record.File{Content: []byte("MHz;dBm\n100;-90\n146.5;-13\n3500;-75\n")}}, emissions.Draft{Name: "a", RBWHz: 1e5})
	if err != nil {
		t.Fatal(err)
	}
	payload, _ := json.Marshal(got.Payload)
	way := through(50)
	way.Kit[0].Spec.Element.ToHz = v(3e9)
	facts := record.Facts{Measurements: []record.Measurement{{ID: "0", Kind: emissions.Name, Keyed: key, Through: way, Payload: payload, Blob: got.Blob}, lookTyped(t, 50, nil, "30-1600 -82 h-13", "1")}}
	hz, shown, at, ok := emissions.Of(bench{}.with(t, facts)).Points("0")
	if !ok || len(hz) != 3 || hz[1] != 146.5e6 || shown[1] != -13 || at[1] != 37 || !math.IsNaN(at[2]) {
		t.Errorf("%v %v %v %v", hz, shown, at, ok)
	}
	below, err := room.Read(measure.Taking{Keyed: key, Through: through(50), File: &record.File{Content: []byte("MHz;dBc\n100;-77\n146.5;0\n300;-75\n")}}, emissions.Draft{Name: "b", RBWHz: 1e5, Normalised: true})
	if err != nil {
		t.Fatal(err)
	}
	payload, _ = json.Marshal(below.Payload)
	relative := record.Facts{Measurements: []record.Measurement{{ID: "0", Kind: emissions.Name, Keyed: key, Through: through(50), Payload: payload, Blob: below.Blob}}}
	if _, shown, at, ok := emissions.Of(bench{}.with(t, relative)).Points("0"); !ok || shown[1] != 0 || !math.IsNaN(at[1]) {
		t.Errorf("below its carrier no level at the connector is known: %v %v", shown, at)
	}
	for _, id := range []string{"1", "2"} {
		if _, _, _, ok := emissions.Of(bench{}.with(t, facts)).Points(id); ok {
			t.Errorf("%s has points", id)
		}
	}
}
