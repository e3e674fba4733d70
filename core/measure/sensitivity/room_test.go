package sensitivity_test

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/sensitivity"
	"talloak/core/measure/simple"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/measuretest"
	"talloak/rulebooks"
)

type room = simple.Room[sensitivity.Draft, sensitivity.Measured, *sensitivity.Measured]

func v(x float64) *float64 { return &x }

// through is a generator good to 1.5 dB behind a pad of 20 dB good to 0.3 dB.
var through = &record.Through{Name: "generator", Kit: []record.KitCopy{
	{ID: "pad", Name: "pad", Spec: kit.Spec{Kind: kit.Attenuator, Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(20)}, ToleranceDB: v(0.3), MaxW: v(2)}}},
	{ID: "gen", Name: "generator", Spec: kit.Spec{Kind: kit.SignalGenerator, AccuracyDB: 1.5, Levels: &kit.LevelRange{FromDBm: -127, ToDBm: 7}}},
}}

// scene is a review of a radio with what was taken of its receiver.
type scene struct {
	review record.Review
	facts  record.Facts
}

func begin(claimed ...string) *scene {
	s := &scene{review: record.Review{ID: "r", Subject: record.Subject{Model: "T1"}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance"}}}
	for _, c := range append([]string{"2m 5/1"}, claimed...) {
		s.review.Claims = append(s.review.Claims, record.Claim{Text: c, Source: "box"})
	}
	return s
}

func (s *scene) take(text, by, width string, emf bool) *scene {
	payload, _ := json.Marshal(map[string]any{"text": text, "by": by, "width": width, "emf": emf})
	s.facts.Measurements = append(s.facts.Measurements, record.Measurement{
		ID: fmt.Sprint(len(s.facts.Measurements)), Kind: "sensitivity", Keyed: record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146e6}, Through: through, Payload: payload,
	})
	return s
}

func (s *scene) open(t *testing.T) (*measure.Review, *room) {
	t.Helper()
	r, err := measure.Open(&s.review, s.facts, s.review.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return r, measure.Inside[*room](r, sensitivity.New())
}

var twoMetres = record.Keyed{Band: "2m", Mode: "FM"}

// TestTheLevelIsAtTheConnector: 2.2 µV behind 20 dB are 0.22 µV, -120.14 dBm in 50 ohm
// (V²/R), whether typed in volts, as EMF or in dBm; U = 2 sqrt(1.5²/3 + 0.3²/3) dB.
func TestTheLevelIsAtTheConnector(t *testing.T) {
	for text, emf := range map[string]bool{"2.2uV ? hum": false, "4.4 uV": true, "-100.142dBm": false} {
		_, d := begin("2m sensitivity 0.25uV").take(text, "sinad", "narrow", emf).open(t)
		m := d.RulingAt(twoMetres).Standing[0]
		if math.Abs(*m.Result.AtConnectorUV-0.22) > 1e-4 || math.Abs(*m.Result.AtConnectorDBm+120.142) > 1e-3 || math.Abs(*m.LossDB-20) > 1e-9 {
			t.Errorf("%q: %v µV, %v dBm, loss %v", text, *m.Result.AtConnectorUV, *m.Result.AtConnectorDBm, *m.LossDB)
		}
		if want := 2 * math.Sqrt((1.5*1.5+0.3*0.3)/3); math.Abs(*m.Result.UncertaintyDB-want) > 1e-9 {
			t.Errorf("±%v, want %v", *m.Result.UncertaintyDB, want)
		}
		if want := 20 * math.Log10(0.22/0.25); math.Abs(*m.Result.ClaimDeltaDB-want) > 1e-3 || math.Abs(*m.ClaimedUV-0.25) > 1e-9 {
			t.Errorf("%v dB against %v µV", *m.Result.ClaimDeltaDB, *m.ClaimedUV)
		}
	}
}

// TestNoReceiverHearsLessThanThermalNoise: k T B is 1.380649e-23 J/K (SI, 2019) times 290 K
// times 2400 Hz, -140.2 dBm.
func TestNoReceiverHearsLessThanThermalNoise(t *testing.T) {
	if ktb := 10 * math.Log10(1.380649e-23*290*2400*1000); math.Abs(ktb+140.2) > 0.05 {
		t.Fatal(ktb)
	}
	for shown, counts := range map[string]bool{"-119.5dBm": true, "-120.5dBm": false} {
		_, d := begin("2m sensitivity 0.25uV").take(shown, "sinad", "narrow", false).open(t)
		r := d.RulingAt(twoMetres)
		if got := len(r.Standing) == 1; got != counts {
			t.Errorf("%s behind 20 dB: %v %+v", shown, got, r)
		}
	}
}

// TestALossThatIsNotKnown at the frequency leaves the level at the connector open: it counts for nothing.
func TestALossThatIsNotKnown(t *testing.T) {
	way := *through
	way.Kit = slices.Clone(way.Kit)
	way.Kit[0].Spec.Element.ToHz = v(100e6)
	s := begin().take("2.2uV", "sinad", "narrow", false)
	s.facts.Measurements[0].Through = &way
	_, d := s.open(t)
	if m := d.Taken(0); m.Counts || !strings.Contains(m.WhyNot, "the loss of the path is not known at 146 MHz") {
		t.Errorf("%v %q", m.Counts, m.WhyNot)
	}
}

// TestWhatStandsOfSeveral: of each width the level that needs most, whatever came last;
// by ear it is held against nothing, struck it counts for nothing.
func TestWhatStandsOfSeveral(t *testing.T) {
	for _, c := range []struct {
		s    *scene
		want decision.Verdict
		says string
	}{
		{begin("2m sensitivity 0.25uV"), decision.NotExamined, "not measured"},
		{begin("2m sensitivity 0.25uV").take("1.8uV", "sinad", "narrow", false), decision.Pass, "0.180 µV for 12 dB SINAD, narrow"},
		{begin("2m sensitivity 0.25uV").take("2.2uV", "sinad", "narrow", false), decision.Inconclusive, "0.220 µV"},
		{begin("2m sensitivity 0.25uV").take("4uV", "sinad", "narrow", false).take("3.9uV", "sinad", "narrow", false), decision.Fail, "0.400 µV"},
		{begin("2m sensitivity 0.25uV").take("4uV", "sinad", "narrow", false).take("1.8uV", "sinad", "narrow", false), decision.Inconclusive, "4uV and 1.8uV differ by more than both uncertainties"},
		{begin("2m sensitivity 0.25uV", "2m sens -116 dBm wide").take("1.8uV", "sinad", "narrow", false), decision.SoFar, "not tested: 12 dB SINAD, wide"},
		{begin("2m sensitivity 0.25uV", "2m sens -116 dBm wide").take("1.8uV", "sinad", "narrow", false).take("5.5uV", "sinad", "wide", false), decision.Fail, "wide"},
		{begin("2m sensitivity 0.25uV").take("9uV", "by-ear", "narrow", false), decision.NoClaim, "a quantity of its own"},
		{begin().take("9uV", "sinad", "narrow", false), decision.NoClaim, "0.900 µV"},
		{begin("2m sensitivity 0.25uV").take("20000uV", "sinad", "narrow", false).take("9V", "sinad", "narrow", false), decision.Fail, "µV"}, // the second is beyond the generator
		{begin("2m sensitivity 0.25uV").take("not a level", "sinad", "narrow", false), decision.Void, "cannot be worked out"},
	} {
		r, d := c.s.open(t)
		got := d.RulingAt(twoMetres)
		if got.Verdict != c.want || !strings.Contains(got.Why, c.says) {
			t.Errorf("%s, %q; want %s, %q", got.Verdict, got.Why, c.want, c.says)
		}
		b := board.Of(r, false)
		last := b.Cells[len(b.Cells)-1]
		if has := last.Cell.Level == "" && last.Box("sensitivity") != nil; has != (c.want != decision.NotExamined) {
			t.Errorf("on the board: %v", has)
		}
	}
	if r, _ := begin("70cm 4/1").take("9uV", "sinad", "narrow", false).open(t); !strings.Contains(board.Of(r, false).Headline, "Measured, with no claim to be held against: sensitivity.") {
		t.Errorf("of one band of two: %s", board.Of(r, false).Headline)
	}
	s := begin("2m sensitivity 0.25uV").take("4uV", "sinad", "narrow", false).take("1.8uV", "sinad", "narrow", false)
	s.facts.Standings = []record.Standing{{TargetID: "0", Standing: record.Struck, Reason: "the squelch was closed"}}
	if _, d := s.open(t); d.RulingAt(twoMetres).Verdict != decision.Pass {
		t.Error("a struck level stands")
	}
}

func TestClaimsOfSensitivity(t *testing.T) {
	for text, want := range map[string]string{
		"2m sensitivity 0.25uV":            "sensitivity 0.25 uV for 12 dB SINAD, narrow",
		"70cm sens 0.3 µV wide 12dB SINAD": "sensitivity 0.3 uV for 12 dB SINAD, wide",
		"2m sensitivity -119dBm":           "sensitivity -119 dBm for 12 dB SINAD, narrow",
	} {
		if got := measure.ReadClaims([]record.Claim{{Text: text}}, kinds.All(), 0)[0]; got.Said != want || got.Error != "" {
			t.Errorf("%q: %q %q", text, got.Said, got.Error)
		}
	}
	for text, want := range map[string]string{"3m sensitivity 0.25uV": "no band", "2m sensitivity": "give the level claimed", "2m sensitivity 0.25 foxes": "not understood", "2m sensitivity 0 uV": "no level"} {
		if got := measure.ReadClaims([]record.Claim{{Text: text}}, kinds.All(), 0)[0]; !strings.Contains(got.Error, want) {
			t.Errorf("%q read as %q, %q", text, got.Said, got.Error)
		}
	}
}

// TestTaking refuses at the field, and gives the same figure that is kept.
func TestTaking(t *testing.T) {
	_, d := begin().open(t)
	take := func(draft string) (measure.Worth[sensitivity.Measured], error) {
		return measuretest.Take(d, measure.Taking{Keyed: record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146e6}, Through: through, Draft: json.RawMessage(draft)})
	}
	for draft, field := range map[string]string{
		`{"text":"much","by":"sinad","width":"narrow"}`: "text", `{"text":"0 uV","by":"sinad","width":"narrow"}`: "text", `{"text":"81dBm","by":"sinad","width":"narrow"}`: "text", `{"text":"1uV","by":"guess","width":"narrow"}`: "by",
		`{"text":"1uV","by":"sinad","width":"middling"}`: "width", `{"text":"1uV","by":"sinad","width":"wide","x":1}`: "x",
	} {
		if _, err := take(draft); err == nil || !strings.HasPrefix(err.Error(), field) {
			t.Errorf("%s: %v, want %s", draft, err, field)
		}
	}
	got, err := take(`{"text":"2.2uV","by":"sinad","width":"narrow"}`)
	if err != nil || math.Abs(*got.View.Result.AtConnectorUV-0.22) > 1e-9 {
		t.Errorf("%+v %v", got.View, err)
	}
}

// TestWhatIsPublished: a sentence, a table with every figure's unit and how it came
// about, and no word of a receiver that was not measured.
func TestWhatIsPublished(t *testing.T) {
	r, d := begin("2m sensitivity 0.25uV").take("4uV ? hiss", "sinad", "narrow", false).take("2uV", "by-ear", "wide", true).open(t)
	b := board.Of(r, false)
	if !strings.Contains(b.Headline, "Sensitivity is short of its claim (2m: 0.400 µV for 12 dB SINAD, narrow, 4.1 dB more than claimed)") {
		t.Error(b.Headline)
	}
	better, _ := begin("2m sensitivity 0.25uV").take("2uV", "sinad", "narrow", false).open(t)
	all := board.Of(better, false)
	if row := all.Boxes("sensitivity")[0]; !strings.Contains(row.Why, "1.9 dB less than claimed") {
		t.Error(row.Why)
	}
	if ways := d.Ways(b.Boxes("sensitivity")); len(ways) != 2 || ways[0].Kit[0].Name != through.Kit[0].Name {
		t.Errorf("what an edition rests on: %+v", ways)
	}
	s := d.Sections(b.Boxes("sensitivity"))[0]
	if got := strings.Join(s.Rows[0], " | "); got != "2m | 146 MHz | 12 dB SINAD, narrow | 4uV | 20.00 dB | 0.400 µV, -114.9 dBm | 1.77 dB | 0.250 µV | fails; hiss" {
		t.Error(got)
	}
	if got := strings.Join(s.Rows[1], " | "); !strings.Contains(got, "by ear | 2uV EMF | 20.00 dB | 0.100 µV") || !strings.Contains(got, "no claim") {
		t.Error(got)
	}
	if !strings.Contains(strings.Join(s.Lines, " "), "generator within 1.50 dB (rectangular), standard 0.87 dB; loss of the path, standard 0.17 dB") {
		t.Error(s.Lines)
	}
	if box := d.Box(claims.Cell{Band: r.Cells[0].Band, Mode: "FM"}, false); box.Taken != 2 || len(box.Frequencies) != 1 || len(d.Obstacles(b.Boxes("sensitivity"))) != 0 {
		t.Errorf("%+v", box)
	}
	plain, _ := begin().open(t)
	if none := board.Of(plain, false); len(none.Kinds) != 2 || strings.Contains(none.Headline, "ensitivity") {
		t.Errorf("%+v", none.Headline)
	}
}

// TestTheGeneratorsRange: -100 to +7 dBm; beyond either end a level counts for nothing.
func TestTheGeneratorsRange(t *testing.T) {
	way := *through
	way.Kit = slices.Clone(way.Kit)
	way.Kit[1].Spec.Levels = &kit.LevelRange{FromDBm: -100, ToDBm: 7}
	for text, counts := range map[string]bool{"-100dBm": true, "-100.1dBm": false, "7dBm": true, "7.1dBm": false} {
		s := begin().take(text, "sinad", "narrow", false)
		s.facts.Measurements[0].Through = &way
		_, d := s.open(t)
		m := d.Taken(0)
		if m.Counts != counts || strings.Contains(m.WhyNot, "gives -100 to 7 dBm") == counts {
			t.Errorf("%s: %s", text, m.WhyNot)
		}
	}
}

// TestByEarNothingContradicts: it comes out otherwise each time; by SINAD two levels further apart than both
// uncertainties do.
func TestByEarNothingContradicts(t *testing.T) {
	for by, want := range map[string]bool{"by-ear": false, "sinad": true} {
		_, d := begin().take("2.2uV", by, "narrow", false).take("8uV", by, "narrow", false).open(t)
		if got := d.Taken(0).Contradicts != ""; got != want {
			t.Errorf("%s: %v", by, got)
		}
	}
}
