package emissions_test

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/measuretest"
	"talloak/rulebooks"
)

// TestWhatALineGoesWith: each line against the states it was looked at in, and what would
// tell more. A state that is not plain transmitting rules on nothing.
func TestWhatALineGoesWith(t *testing.T) {
	room := afternoon(t,
		"a: 30-1600 -82 h-13-75 205-70 333-72 500-74 700-75",
		"b; level Low: 30-1600 -82 h-20 205-70 333-71 500-74 700-60",
		"c; state standby: 30-1600 -82 333-71 500-74",
		"d; state off: 30-1600 -82 500-74",
	)
	board := room.Study().Boards[0]
	var rows []string
	for _, r := range board.Rows {
		rows = append(rows, r.Name)
		if (r.Level == "") != (r.Name == "off" || r.Name == "standby") {
			t.Errorf("%s at level %q", r.Name, r.Level)
		}
	}
	if got := strings.Join(rows, ", "); got != "off, standby, High, Low" {
		t.Errorf("rows %s", got)
	}
	for i, want := range []string{"spur at 205 MHz: only while transmitting", "2nd harmonic: with High, gone with Low, off and standby", "spur at 333 MHz: in standby, gone in off", "spur at 500 MHz: there with the radio off", "spur at 700 MHz: in all looked at, strongest with Low, by 15 dB"} {
		if got := board.Columns[i].Name + ": " + board.Columns[i].Says; !strings.HasPrefix(got, want) {
			t.Errorf("%s, want %s", got, want)
		}
	}
	if c := board.Rows[0].Cells[0]; c.LevelDBm != nil || c.BelowDBm == nil || *c.BelowDBm != -82+50 {
		t.Errorf("off at 205 MHz: %+v", c)
	}
	if !strings.Contains(board.Ask, "another supply") {
		t.Errorf("ask %q", board.Ask)
	}
	if only := afternoon(t, "a: 30-1600 -82 h-13 205-70").Study().Boards[0]; !strings.Contains(only.Ask, "radio off") || !strings.Contains(only.Columns[0].Says, "one state alone") {
		t.Errorf("%q %+v", only.Ask, only.Columns)
	}
	// What is on the air at a harmonic does not clear the radio of it.
	air := afternoon(t, "a: 30-1600 -82 h-13-40", "b; state OFF: 30-1600 -82 293-78").Study().Boards[0]
	if got := air.Columns[0].Says; air.Rows[0].State != "off" || !strings.HasPrefix(got, "strongest with High, by 38 dB over off") {
		t.Errorf("%+v", air)
	}
	if r := afternoon(t, "a: 30-1600 -82 h-13-75", "b; state tuner in: 30-1600 -82 h-13-40").At(key, false); r.Ruling.Verdict != decision.Pass || len(r.Sweeps) != 1 {
		t.Errorf("a sweep with the tuner in rules: %s", r.Ruling.Verdict)
	}
	if r := afternoon(t, "c; state standby: 30-1600 -82 333-40").At(key, false); r.Ruling != nil {
		t.Errorf("standby rules: %+v", r.Ruling)
	}
}

// TestLinesHeardInTheRadiosOwnReceiver: as displayed, with their comb and what the noise
// hides, and what they go away with.
func TestLinesHeardInTheRadiosOwnReceiver(t *testing.T) {
	room := afternoon(t,
		"a; state amplifier on; heard: 144-144.4 -125 144.050 -110 144.089 -112 144.128 -111 144.167 -113 144.206 -110",
		"b; state amplifier off; heard: 144-144.4 -125 144.128 -111",
	)
	board := room.Study().Boards[0]
	if len(board.Combs) != 1 || board.Combs[0].SpacingHz < 38.9e3 || board.Combs[0].SpacingHz > 39.1e3 || board.Combs[0].Lines != 5 || board.Combs[0].Row != "amplifier on" || !strings.Contains(board.Combs[0].Says, "its weakest line is 12 dB over the noise noted") {
		t.Errorf("%+v", board.Combs)
	}
	if len(board.Columns) != 6 || board.Columns[0].Name != "noise" || *board.Rows[1].Cells[0].LevelDBm != -125 || *board.Rows[0].Cells[1].LevelDBm != -110 || *board.Rows[1].Cells[1].BelowDBm != -125 {
		t.Fatalf("%+v", board)
	}
	if s := board.Columns[1].Says; s != "with amplifier on, gone with amplifier off: goes with what differs between them" {
		t.Error(s)
	}
	if s := board.Columns[3].Says; s != "alike in all looked at" {
		t.Error(s)
	}
}

// TestNoiseAloneIsHeard: raised noise without a line is a column, and the board stands in the
// edition.
func TestNoiseAloneIsHeard(t *testing.T) {
	room := afternoon(t, "a; state amplifier on; heard: 144-144.4 -115", "b; state amplifier off; heard: 144-144.4 -125")
	board := room.Study().Boards[0]
	if len(board.Columns) != 1 || *board.Rows[0].Cells[0].LevelDBm != -115 || !strings.Contains(board.Columns[0].Says, "strongest with amplifier on, by 10 dB") {
		t.Errorf("%+v", board.Columns)
	}
	sections := room.Sections(nil)
	if len(sections) != 1 || !strings.Contains(sections[0].Title, "own receiver") || strings.Join(sections[0].Rows[0][:3], " ") != "noise -115.0 dBm -125.0 dBm" {
		t.Errorf("%+v", sections)
	}
}

// TestASecondLook: with 10 dB more, the analyzer's own second harmonic falls 10 dB, what the
// radio emits stays, and what lies under the second floor is hidden.
func TestASecondLook(t *testing.T) {
	at := func(drafts ...string) (emissions.SecondLook, map[string]judge.Change) {
		t.Helper()
		r := ruled(t, drafts...)
		if len(r.Seconds) == 0 {
			t.Fatal("nothing is compared")
		}
		out := map[string]judge.Change{}
		for _, p := range r.Seconds[0].Products {
			out[judge.Product{Kind: p.Kind, Order: p.Order, FrequencyHz: p.FrequencyHz}.Name()] = p.Says
		}
		return r.Seconds[0], out
	}
	own, says := at("a: 30-1600 -90 h-13-70-75 205-85", "b; pad 60: 30-1600 -90 h-23-90-85")
	if own.MoreDB != 10 || says["2nd harmonic"] != judge.Follows || says["3rd harmonic"] != judge.Stays || says["spur at 205 MHz"] != judge.Hidden || own.Says.Code != "second-own" {
		t.Errorf("%+v %v", own.Second, says)
	}
	gone, says := at("a: 30-1600 -90 h-13-70", "b; pad 60: 30-1600 -95 h-23")
	if says["2nd harmonic"] != judge.Follows {
		t.Errorf("%+v %v", gone.Second, says)
	}
	if real, _ := at("a: 30-1600 -90 h-13-70", "b; pad 60: 30-1600 -90 h-23-80"); real.Says.Code != "second-real" {
		t.Errorf("%+v", real.Second)
	}
	loose, says := at("a: 30-1600 -90 h-13-50", "b: 30-1600 -90 h-13-70")
	if loose.Says.Code != "second-changed" || says["2nd harmonic"] != judge.Fell {
		t.Errorf("%+v %v", loose.Second, says)
	}
	// A second look at a weaker carrier shows nothing of the harmonics that would be as much weaker.
	if weaker, says := at("a: 30-1600 -90 h-13-78", "b; pad 60: 30-1600 -99 h-33"); says["2nd harmonic"] != judge.Hidden || weaker.Says.Code == "second-own" {
		t.Errorf("%+v %v", weaker.Second, says)
	}
	// A spur that went may have come and gone by itself; and 4 dB tell a harmonic from scatter by nothing.
	if spur, says := at("a: 30-1600 -90 h-13-78 205-60", "b; pad 60: 30-1600 -90 h-23"); says["spur at 205 MHz"] != judge.Fell || spur.Says.Code == "second-own" || !spur.Padded {
		t.Errorf("%+v %v", spur.Second, says)
	}
	if little, says := at("a: 30-1600 -90 h-13-60", "b; pad 54: 30-1600 -90 h-17-67"); says["2nd harmonic"] != judge.Fell || little.Padded {
		t.Errorf("%+v %v", little.Second, says)
	}
	// A carrier that moved is no change of its harmonics.
	if moved, says := at("a: 30-1600 -90 h-13-60", "b: 30-1600 -90 h-17-64"); says["2nd harmonic"] != judge.Stays || !strings.Contains(moved.Says.Detail, "-4.0 dB") {
		t.Errorf("%+v", moved.Second)
	}
}

// TestWhatIsLeftToLookAt: of what the book asks for, with what was blind.
func TestWhatIsLeftToLookAt(t *testing.T) {
	if left := ruled(t, "a: 15-1600 -82 h-13").Ruling.Coverage.Left; len(left) != 0 {
		t.Errorf("%v", left)
	}
	left := ruled(t, "a: 15-960 -82 h-13", "b: 1000-1300 -60 1200-55", "c: 1300-1600 -82").Ruling.Coverage.Left
	if len(left) != 1 || left[0] != [2]float64{960e6, 1300e6} {
		t.Errorf("%v", left)
	}
}

// TestRelativeOnlyIsSaid: behind a sampler nobody measured, the ruling, the drawing and the
// board say so, and the picture stands on the carrier's power.
func TestRelativeOnlyIsSaid(t *testing.T) {
	sampler := through(0)
	sampler.Kit[0].Spec = kit.Spec{Kind: kit.Sampler, Element: path.Element{Kind: path.Tap, CouplingUnknown: true, FlatWithinDB: v(1), MaxW: v(50), MainLoadW: v(50)}}
	r := record.Review{Claims: []record.Claim{{Text: "2m 5"}}, Rules: record.Rules{RuleBook: "house-forty-down", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}}
	power, _ := json.Marshal(map[string]any{"text": "5", "unit": "W"})
	meter := &record.Through{Kit: []record.KitCopy{{Name: "meter", Spec: kit.Spec{Kind: kit.TerminatingMeter, Element: path.Element{Kind: path.TerminatingMeter, MaxW: v(50)}, Meter: &reading.Meter{ScaleW: v(15), PctReading: 5, DigitW: 0.01}}}}}
	look := emissions.Look{FromHz: 30e6, ToHz: 1600e6, FloorDBm: v(-95), Peaks: []emissions.LookPeak{{FrequencyHz: 146.5e6, LevelDBm: v(-20)}, {FrequencyHz: 293e6, LevelDBm: v(-70)}}}
	payload, _ := json.Marshal(map[string]any{"name": "a", "look": look, "start_hz": 30e6, "stop_hz": 1600e6, "rbw_hz": 1e5, "detector": "peak", "hold": "max", "modulated": "bare"})
	facts := record.Facts{Measurements: []record.Measurement{{ID: "w", Kind: "power", Keyed: key, Through: meter, Payload: power}, {ID: "s", Kind: "emissions", Keyed: key, Through: sampler, Payload: payload}}}
	opened, err := measure.Open(&r, facts, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	box := emissions.Of(opened).Box(opened.Cells[0], true)
	e := measure.Own[emissions.Ruling](box.Of)
	if !e.Relative || !strings.Contains(box.Why, "relative only") || len(box.Notes) == 0 || e.MeanW == nil {
		t.Fatalf("%s %+v %v", box.Why, box.Notes, e.MeanW)
	}
	if p := e.Ruling.Products[0]; p.LevelDBm != nil || math.Abs(*p.DBc+50) > 1e-9 || p.Verdict != decision.Pass {
		t.Errorf("%+v", p)
	}
	// Without a reading it rules likewise, and what is published asks for none.
	facts.Measurements = facts.Measurements[1:]
	unread, err := measure.Open(&r, facts, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	if e := measure.Own[emissions.Ruling](emissions.Of(unread).Box(unread.Cells[0], false).Of); e.Ruling.Products[0].Verdict != decision.Pass {
		t.Errorf("%+v", e.Ruling.Products[0])
	}
	b := board.Of(unread, false)
	for _, o := range board.Obstacles(unread, &b) {
		if o.Blocks && o.Stage != "radio" || strings.Contains(o.Advice, "meter") {
			t.Errorf("%+v", o)
		}
	}
	highest := math.Inf(-1)
	for _, b := range e.Sweeps[0].Picture {
		if b.HighDBm != nil {
			highest = max(highest, *b.HighDBm)
		}
	}
	if math.Abs(highest-36.99) > 0.01 {
		t.Errorf("drawn with its carrier at %g dBm", highest)
	}
}

// TestStandbyIsRuledOn: by a book that has a figure for it, -57 dBm up to 1 GHz (ETSI EN 300 086,
// from memory); in force alone, and told in an edition.
func TestStandbyIsRuledOn(t *testing.T) {
	at := func(book, look string) *emissions.StandbyRuling {
		room := afternoonBy(t, book, "a; pad 0; state standby: "+look)
		for _, r := range room.Study().Boards[0].Rows {
			if r.State == "standby" {
				return r.Standby
			}
		}
		return nil
	}
	for look, want := range map[string]decision.Verdict{
		"0.1-3000 -80 146.5-65": decision.SoFar, "0.1-3000 -80 146.5-50": decision.Fail, "0.1-3000 -80 500-57": decision.Inconclusive, "0.1-3000 -80 2000-47.5": decision.Inconclusive, "0.1-3000 -80 2000-51": decision.SoFar,
	} {
		if r := at("eu-land-mobile", look); r == nil || r.Verdict != want {
			t.Errorf("%s: %+v, want %s", look, r, want)
		}
	}
	if r := at("us-amateur", "0.1-3000 -80 146.5-50"); r == nil || r.Verdict != decision.NoLimit || !strings.Contains(r.Why, "no figure for standby") {
		t.Errorf("a book without one: %+v", r)
	}
	if r := at("eu-land-mobile", "0.1-3000 -80 146.5-65"); strings.Contains(r.Why, "dBc") {
		t.Errorf("of no carrier: %s", r.Why)
	}
	told := afternoonBy(t, "eu-land-mobile", "a; pad 0; state standby: 0.1-3000 -80 500-50").Sections(nil)
	if len(told) != 1 || told[0].Rows[0][2] != "fails" {
		t.Errorf("an edition tells %+v", told)
	}
	if told := afternoon(t, "a; state off: 30-1600 -80").Sections(nil); told != nil {
		t.Errorf("of nothing in standby an edition tells %+v", told)
	}
}

// TestAnotherCarrierHasABoardOfItsOwn: what is a harmonic of one is none of the other.
func TestAnotherCarrierHasABoardOfItsOwn(t *testing.T) {
	boards := afternoon(t, "a: 30-1600 -82 h-13-75", "b; mhz 144.1: 30-1600 -82 h-13-70", "c; state off: 30-1600 -82").Study().Boards
	if len(boards) != 2 || len(boards[0].Columns) != 1 || len(boards[1].Columns) != 1 || boards[1].Columns[0].FrequencyHz != 288.2e6 || len(boards[1].Rows) != 2 {
		t.Errorf("%+v", boards)
	}
}

// TestAStandbyLimitThatCountsFromACarrierRulesNothing: there is none to count from.
func TestAStandbyLimitThatCountsFromACarrierRulesNothing(t *testing.T) {
	eu, _ := rulebooks.Find("eu-land-mobile")
	own := *eu
	own.Clauses = slices.Clone(eu.Clauses)
	own.Clauses[2].Segments = []rulebook.Segment{{Terms: []rulebook.Term{{RelativeDB: v(60)}}}}
	l := own.For(rulebook.Carrier{Frequency: f0, MeanW: 1, PEPW: 1, State: rulebook.Standby})
	if !l.Applies || !l.CountsFromCarrier() || eu.For(rulebook.Carrier{Frequency: f0, MeanW: 1, PEPW: 1, State: rulebook.Standby}).CountsFromCarrier() {
		t.Fatal("the clause does not say what it is to say")
	}
	books := func(id string) (*rulebook.Book, bool) { return &own, true }
	r := record.Review{Claims: []record.Claim{{Text: "2m 5"}}, Rules: record.Rules{RuleBook: "own", DecisionRule: "guarded"}}
	look, _ := json.Marshal(map[string]any{"name": "a", "state": "standby", "look": emissions.Look{FromHz: 1e6, ToHz: 3e9, FloorDBm: v(-90)}, "start_hz": 1e6, "stop_hz": 3e9})
	opened, err := measure.Open(&r, record.Facts{Measurements: []record.Measurement{{ID: "s", Kind: "emissions", Keyed: key, Through: through(0), Payload: look}}}, r.Rules, books, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	if got := emissions.Of(opened).Standby(); len(got) != 1 || got[0][2] != "too close to call" {
		t.Errorf("%v", got)
	}
}

// TestLevelsNobodyKnowsStandOnNoBoard: of a sweep saved below its carrier, where no power was
// read, and of a coupling nobody measured, there is none.
func TestLevelsNobodyKnowsStandOnNoBoard(t *testing.T) {
	sampler := through(0)
	sampler.Kit[0].Spec = kit.Spec{Kind: kit.Sampler, Element: path.Element{Kind: path.Tap, CouplingUnknown: true, FlatWithinDB: v(1), MaxW: v(50), MainLoadW: v(50)}}
	levels := make([]float64, 1601)
	for i := range levels {
		levels[i] = -80
	}
	levels[146], levels[292] = 0, -40
	for _, c := range []struct {
		way        *record.Through
		normalised bool
	}{{through(50), true}, {sampler, false}} {
		payload, _ := json.Marshal(map[string]any{"name": "a", "start_hz": 0.5e6, "stop_hz": 1600.5e6, "rbw_hz": 1e6, "points": 1601, "detector": "peak", "hold": "max", "modulated": "bare", "normalised": c.normalised})
		m := record.Measurement{ID: "s", Kind: "emissions", Keyed: key, Through: c.way, Payload: payload, Blob: emissions.PackLevels(levels)}
		r := record.Review{Claims: []record.Claim{{Text: "2m 5"}}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded"}}
		opened, err := measure.Open(&r, record.Facts{Measurements: []record.Measurement{m}}, r.Rules, rulebooks.Find, kinds.All())
		if err != nil {
			t.Fatal(err)
		}
		room := emissions.Of(opened)
		if board := room.Study().Boards[0]; len(board.Columns) != 0 {
			t.Errorf("normalised %v: %+v", c.normalised, board)
		}
		for _, b := range room.At(key, true).Sweeps[0].Picture {
			if b.HighDBm != nil {
				t.Fatalf("normalised %v: drawn at %g dBm", c.normalised, *b.HighDBm)
			}
		}
	}
}

// TestAStruckStateIsOnNoBoard: what was taken by mistake says nothing of where a line comes from.
func TestAStruckStateIsOnNoBoard(t *testing.T) {
	draft, _ := json.Marshal(emissions.Draft{Name: "off", Look: true, Told: emissions.Told{State: "off"}})
	taken, err := measuretest.Take(afternoon(t), measure.Taking{Keyed: key, Through: through(50), Draft: draft, File: &record.File{Content: []byte("30-1600 -82 500-74")}})
	if err != nil {
		t.Fatal(err)
	}
	payload, _ := json.Marshal(taken.Payload)
	r := record.Review{Claims: []record.Claim{{Text: "2m 5/1"}}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}}
	facts := record.Facts{Measurements: []record.Measurement{{ID: "0", Kind: emissions.Name, Keyed: key, Through: through(50), Payload: payload}}}
	for standing, want := range map[string]int{record.InForce: 1, record.Suspect: 1, record.Struck: 0} {
		facts.Standings = []record.Standing{{TargetID: "0", Standing: standing, Reason: "the radio was on"}}
		opened, err := measure.Open(&r, facts, r.Rules, rulebooks.Find, kinds.All())
		if err != nil {
			t.Fatal(err)
		}
		if s := emissions.Of(opened).Study(); len(s.Sweeps) != want || len(s.Boards) != want {
			t.Errorf("%s: %d sweeps on %d boards", standing, len(s.Sweeps), len(s.Boards))
		}
	}
}
