package simple_test

import (
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/features"
	"talloak/core/measure/frequency"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/measuretest"
)

// TestTheSentence begins with what the whole comes to and names the boxes it is so of; with what was
// measured and claimed by nobody where the rest is open; else it says that nothing counts.
func TestTheSentence(t *testing.T) {
	says := map[decision.Verdict]string{decision.Pass: "It keeps it", decision.Fail: "It is off", decision.NoClaim: "It was measured"}
	box := func(name string, v decision.Verdict) measure.Named {
		return measure.Named{Name: name, Box: measure.Box{Verdict: v, Why: "so much"}}
	}
	for _, c := range []struct {
		whole decision.Verdict
		boxes []measure.Named
		want  string
	}{
		{decision.Fail, []measure.Named{box("2m", decision.Fail), box("70cm", decision.Pass)}, "It is off (2m: so much); 1 of 2."},
		{decision.Pass, []measure.Named{box("2m", decision.SoFar)}, "It keeps it: 1 of 2."},
		{decision.NotExamined, []measure.Named{box("2m", decision.NotExamined)}, "No error that counts was measured."},
		{decision.NotExamined, []measure.Named{box("2m", decision.NotExamined), box("70cm", decision.NoClaim)}, "It was measured (70cm: so much); 1 of 2."},
		{decision.Pass, []measure.Named{box("2m", decision.Pass), box("70cm", decision.NoClaim)}, "It keeps it (2m: so much); 1 of 2."},
	} {
		if got := simple.Sentence("error", says, c.boxes, decision.Whole{Verdict: c.whole, Words: "1 of 2"}); got != c.want {
			t.Errorf("%s: %q, want %q", c.whole, got, c.want)
		}
	}
}

// TestWhatATableSays of each figure: its ruling, or why it has none.
func TestWhatATableSays(t *testing.T) {
	at := record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}
	out := at
	out.FrequencyHz = 150e6
	facts := measuretest.Facts(t, frequency.Name, at, frequency.Draft{Text: "+96Hz ? cold"}, frequency.Draft{Text: "+90Hz"})
	more := measuretest.Facts(t, frequency.Name, out, frequency.Draft{Text: "+91Hz"})
	more.Measurements[0].ID = "outside"
	facts.Measurements = append(facts.Measurements, more.Measurements...)
	facts.Standings = []record.Standing{{TargetID: "1", Standing: record.Struck, Reason: "another radio"}}
	r := measuretest.Open(t, measuretest.Review("2m 5/1"), facts)
	s := r.Room(frequency.New()).Sections(nil)[0]
	for i, want := range []string{"no claim; cold", "does not count: struck: another radio", "outside the band claimed"} {
		if got := s.Rows[i][len(s.Rows[i])-1]; got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	if s.Rows[2][0] != "2m" || s.Rows[2][1] != "150 MHz" {
		t.Errorf("%v", s.Rows[2])
	}
	if b := r.Room(frequency.New()).Box(r.Bands()[0], false); b.Verdict != decision.NoClaim || b.Taken != 3 || len(b.Frequencies) != 1 {
		t.Errorf("%+v", b)
	}
	alone := measuretest.Open(t, measuretest.Review("2m 5/1", "2.5ppm"), more)
	if b := alone.Room(frequency.New()).Box(alone.Bands()[0], false); b.Verdict != decision.NotCovered || !strings.Contains(b.Why, "outside the band") {
		t.Errorf("%+v", b)
	}
	if asked, done := frequency.New().(measure.Asker).Asked(alone, claims.Cell{Band: alone.Bands()[0].Band, Mode: "FM"}); len(asked) != 1 || done {
		t.Errorf("%v %v", asked, done)
	}
}

// TestALineIsShort: 2,000 characters at the most.
func TestALineIsShort(t *testing.T) {
	r := measuretest.Open(t, measuretest.Review("2m 5/1"), record.Facts{})
	for n, refused := range map[int]bool{1990: false, 2000: true} {
		_, err := r.Room(frequency.New()).Take(measure.Taking{Keyed: record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}, Draft: []byte(`{"text":"+96Hz ?` + strings.Repeat("x", n) + `"}`), Through: &record.Through{}})
		if (err != nil) != refused || refused && !strings.Contains(err.Error(), "2000 characters") {
			t.Errorf("%d: %v", n, err)
		}
	}
}

// TestFiguresThatContradict name each other, as they are typed and as they stand, and the box says so; what
// cannot be worked out any more is void, and stands between a review and its edition.
func TestFiguresThatContradict(t *testing.T) {
	at := record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}
	told := 0.1
	facts := measuretest.Facts(t, frequency.Name, at, frequency.Draft{Text: "+96Hz", ReferencePPM: &told})
	room := measuretest.Open(t, measuretest.Review("2m 5/1"), facts).Room(frequency.New())
	for typed, want := range map[string]string{"+900Hz": "+96Hz", "+97Hz": ""} {
		got, err := room.Take(measure.Taking{Keyed: at, Draft: []byte(`{"text":"` + typed + `","reference_ppm":0.1}`), Through: &record.Through{}})
		if err != nil || measure.Own[frequency.Measured](got.View).Contradicts != want {
			t.Errorf("%s: %+v %v", typed, got.View, err)
		}
	}
	two := measuretest.Open(t, measuretest.Review("2m 5/1"), measuretest.Facts(t, frequency.Name, at, frequency.Draft{Text: "+96Hz", ReferencePPM: &told}, frequency.Draft{Text: "+900Hz", ReferencePPM: &told}))
	if b := two.Room(frequency.New()).Box(two.Bands()[0], false); !strings.Contains(b.Why, "+900Hz and +96Hz differ by more than both uncertainties") || len(b.Notes) != 1 {
		t.Errorf("%+v", b)
	}
	facts.Measurements[0].Payload = []byte(`{"text":"as ever"}`)
	void := measuretest.Open(t, measuretest.Review("2m 5/1"), facts)
	room = void.Room(frequency.New())
	box := room.Box(void.Bands()[0], false)
	named := []measure.Named{{Name: "2m", Cell: void.Bands()[0], Box: box}}
	if o := room.Obstacles(named); box.Verdict != decision.Void || len(o) != 1 || !strings.Contains(o[0].Detail, "cannot be worked out any more") {
		t.Errorf("%+v %+v", box, o)
	}
	if row := room.Sections(nil)[0].Rows[0]; row[2] != "typed as ever" || !strings.Contains(row[len(row)-1], "cannot be worked out any more") {
		t.Errorf("%v", row)
	}
	empty := measuretest.Open(t, measuretest.Review("2m 5/1"), record.Facts{})
	room = empty.Room(frequency.New())
	named[0].Box = room.Box(empty.Bands()[0], false)
	if got := room.NotTested(named[0]); len(got) != 1 || !strings.HasPrefix(got[0], "2m: ") || len(room.Obstacles(named)) != 0 {
		t.Errorf("%v", got)
	}
}

// TestWhatIsOfTheWholeRadio has no band and frequency in its table, and says in the headline what is not tested.
func TestWhatIsOfTheWholeRadio(t *testing.T) {
	r := measuretest.Open(t, measuretest.Review("2m 5/1", "says IP67", "says airband"), measuretest.Facts(t, features.Name, record.Keyed{}, features.Draft{Text: "yes IP67"}))
	room := r.Room(features.New())
	if s := room.Sections(nil); len(s) != 1 || s[0].Columns[0] == "Band" || len(s[0].Rows[0]) != len(s[0].Columns) {
		t.Errorf("%+v", s)
	}
	b := board.Of(r, false)
	if got := room.Sentence(b.Boxes(features.Name), b.Whole(features.Name)); !strings.Contains(got, "not tested: airband") {
		t.Errorf("%s", got)
	}
}
