package board_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/dc"
	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/core/wiring"
	"talloak/rulebooks"
)

func v(x float64) *float64 { return &x }

var meterPath = record.Through{Name: "meter", Kit: []record.KitCopy{
	{Name: "jumper", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(0.5)}, MaxW: v(50)}}},
	{Name: "meter", Spec: kit.Spec{Element: path.Element{Kind: path.Meter, MaxW: v(50)}, Meter: &reading.Meter{FromHz: v(100e6), ToHz: v(500e6), ScaleW: v(15), PctReading: 5}}},
	{Name: "load", Spec: kit.Spec{Element: path.Element{Kind: path.Load, MaxW: v(50)}}},
}}

var analyzerPath = record.Through{Name: "analyzer", Kit: []record.KitCopy{
	{Name: "pads", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(50)}, ToleranceDB: v(0.3), MaxW: v(25)}}},
	{Name: "analyzer", Spec: kit.Spec{Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10), NoiseFloorDBm: v(-90)}}, InputAttenuationDB: v(10)}, AccuracyDB: 1}},
}}

// noMeterPath ends in a load, and nothing on it reads.
var noMeterPath = record.Through{Name: "load alone", Kit: []record.KitCopy{{Name: "load", Spec: kit.Spec{Element: path.Element{Kind: path.Load, MaxW: v(50)}}}}}

// scene is a review of 5 and 1 W on 2 m with its rows.
type scene struct {
	review record.Review
	facts  struct {
		Readings  []readingRow
		Sweeps    []sweepRow
		Standings []record.Standing
	}
}

// readingRow and sweepRow are measurements as a test writes them down.
type readingRow struct {
	ID string
	record.Keyed
	Text    string
	Through record.Through
}

type sweepRow struct {
	ID, Name string
	record.Keyed
	Detector, Modulated    string
	StartHz, StopHz, RBWHz float64
	Points                 int
	Levels                 []byte
	Through                record.Through
}

// opened is a review with what the tests ask of its rooms.
type opened struct {
	*measure.Review
	*power.Room
}

func (o opened) Emissions(k record.Keyed, pictures bool) emissions.Ruling {
	return emissions.Of(o.Review).Worst(k, pictures)
}

func (o opened) EmissionsAt(k record.Keyed, pictures bool) emissions.Ruling {
	return emissions.Of(o.Review).At(k, pictures)
}

// cell is a box of the board with both its rulings.
type cell struct {
	Name        string
	Power       decision.Verdict
	PowerWhy    string
	Reading     *power.Reading
	Frequencies []float64
	Verdict     decision.Verdict
	Why         string
	Emissions   emissions.Ruling
	Notes       []measure.Note
}

// seen is the board with its two wholes.
type seen struct {
	board.Board
	Power, Emissions decision.Whole
	Cells            []cell
}

func (o opened) Board(pictures bool) seen {
	b := board.Of(o.Review, pictures)
	out := seen{Board: b, Power: b.Whole("power"), Emissions: b.Whole("emissions")}
	for i := range b.Cells {
		p, e := b.Cells[i].Box("power"), b.Cells[i].Box("emissions")
		of := measure.Own[power.Ruling](p.Of)
		out.Cells = append(out.Cells, cell{b.Cells[i].Name, p.Verdict, p.Why, of.Reading, of.Frequencies, e.Verdict, e.Why, measure.Own[emissions.Ruling](e.Of), e.Notes})
	}
	return out
}

func begin() *scene {
	return &scene{review: record.Review{
		ID:      "r",
		Subject: record.Subject{Maker: "Test", Model: "T1", Serial: "7", SupplyMinV: v(11)},
		Claims:  []record.Claim{{Text: "2m 5/1"}, {Text: "nonsense"}},
		Rules:   record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16e3},
	}}
}

func (s *scene) read(level, text string) *scene {
	n := len(s.facts.Readings)
	s.facts.Readings = append(s.facts.Readings, readingRow{
		ID: fmt.Sprintf("reading %d", n), Keyed: record.Keyed{Band: "2m", Level: level, Mode: "FM", FrequencyHz: 146e6}, Text: text, Through: meterPath,
	})
	return s
}

// look adds a sweep from 30 MHz with a carrier of 5 W and a third harmonic.
func (s *scene) look(level string, stop int, third float64) *scene {
	levels := make([]float64, stop-30+1)
	for i := range levels {
		levels[i] = -90
	}
	levels[146-30] = 36.99 - 50
	if 438 <= stop {
		levels[438-30] = third - 50
	}
	s.facts.Sweeps = append(s.facts.Sweeps, sweepRow{
		ID: fmt.Sprintf("sweep %d", len(s.facts.Sweeps)), Name: "wide", Keyed: record.Keyed{Band: "2m", Level: level, Mode: "FM", FrequencyHz: 146e6},
		Detector: "peak", Modulated: "bare",
		StartHz: 30e6, StopHz: float64(stop) * 1e6, RBWHz: 100e3, Points: len(levels), Levels: emissions.PackLevels(levels), Through: analyzerPath,
	})
	return s
}

func (s *scene) say(target, standing string) *scene {
	s.facts.Standings = append(s.facts.Standings, record.Standing{TargetID: target, Standing: standing, Reason: "a reason"})
	return s
}

func (s *scene) rows(t *testing.T) record.Facts {
	t.Helper()
	out := record.Facts{Standings: s.facts.Standings}
	add := func(id, kind string, k record.Keyed, payload any, through record.Through, blob []byte) {
		text, err := json.Marshal(payload)
		if err != nil {
			t.Fatal(err)
		}
		out.Measurements = append(out.Measurements, record.Measurement{ID: id, Kind: kind, Keyed: k, Payload: text, Through: &through, Blob: blob})
	}
	for _, r := range s.facts.Readings {
		add(r.ID, "power", r.Keyed, map[string]any{"text": r.Text}, r.Through, nil)
	}
	for _, w := range s.facts.Sweeps {
		add(w.ID, "emissions", w.Keyed, map[string]any{
			"name": w.Name, "detector": w.Detector, "modulated": w.Modulated, "start_hz": w.StartHz, "stop_hz": w.StopHz, "rbw_hz": w.RBWHz, "points": w.Points,
		}, w.Through, w.Levels)
	}
	return out
}

func (s *scene) open(t *testing.T) opened {
	t.Helper()
	return s.openBy(t, s.review.Rules, rulebooks.Find)
}

func (s *scene) openBy(t *testing.T, rules record.Rules, books measure.Books) opened {
	t.Helper()
	r, err := measure.Open(&s.review, s.rows(t), rules, books, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return opened{r, power.Of(r)}
}

func codes(r *power.Reading) string {
	var out []string
	for _, s := range r.Doubts {
		out = append(out, string(s.Code))
	}
	return strings.Join(out, " ")
}

func powerOf(d opened, k record.Keyed) (*power.Reading, int) {
	p := d.PowerOf(k)
	return p.Reading, p.Of
}

var high = record.Keyed{Band: "2m", Level: "High", Mode: "FM"}

// TestReadingIsReferredToTheConnector: half a dB of jumper before the meter.
func TestReadingIsReferredToTheConnector(t *testing.T) {
	d := begin().read("High", "4.5 h").open(t)
	r, of := powerOf(d, high)
	want := 4.5 * math.Pow(10, 0.05)
	if of != 1 || math.Abs(*r.Result.AtConnectorW-want) > 1e-9 || *r.ClaimedW != 5 {
		t.Errorf("%+v", r)
	}
	if got := *r.AgainstClaim.DeltaDB; math.Abs(got-10*math.Log10(want/5)) > 1e-9 || r.AgainstClaim.Verdict != decision.Pass {
		t.Errorf("%v dB, %s", got, r.AgainstClaim.Verdict)
	}
	if *r.LegalMaxW != 1500 || !strings.Contains(r.LegalBy, "97.313") {
		t.Errorf("legal maximum %v by %s", *r.LegalMaxW, r.LegalBy)
	}
	if d.Lines[1].Error == "" || len(d.Cells) != 2 {
		t.Errorf("claims %+v", d.Lines)
	}
}

// TestWhatDoesNotCount: the last reading that counts stands for the box.
func TestWhatDoesNotCount(t *testing.T) {
	for _, c := range []struct {
		text, why string
	}{
		{"15 h", "end of the"},
		{"4 h 10.5v", "minimum"},
		{"4 f 50.1", "not made for"},
	} {
		d := begin().read("High", "4.5 h").read("High", c.text).open(t)
		all := d.Readings()
		if all[1].Counts || !strings.Contains(all[1].WhyNot, c.why) || all[1].AgainstClaim != nil {
			t.Errorf("%q counts %v: %q", c.text, all[1].Counts, all[1].WhyNot)
		}
		if r, of := powerOf(d, high); r.Text != "4.5 h" || of != 2 {
			t.Errorf("%q stands for the box", r.Text)
		}
	}
	d := begin().read("High", "4.5 h").read("High", "4.6 h").say("reading 1", "struck").open(t)
	if r, _ := powerOf(d, high); r.ID != "reading 0" {
		t.Errorf("a struck reading stands for the box")
	}
	d = begin().read("High", "4.5 h").say("reading 0", "struck").say("reading 0", "in-force").open(t)
	if r, _ := powerOf(d, high); r == nil {
		t.Error("taking a strike back does not help")
	}
}

func TestLevelsAreDoubtedTogether(t *testing.T) {
	d := begin().read("High", "1 h").read("Low", "1.02 l").open(t)
	r, _ := powerOf(d, high)
	if codes(r) != "levels-alike" {
		t.Errorf("%+v", r.Doubts)
	}
}

// TestClaimedPeaks: where a peak is claimed, the peak noted is held against it with
// its own uncertainty, and named; one without it, or at the end of the scale, does not
// displace it, and a peak may be read alone.
func TestClaimedPeaks(t *testing.T) {
	k := record.Keyed{Band: "2m", Level: "High", Mode: "AM"}
	open := func(texts ...string) opened {
		s := begin()
		s.review.Claims = []record.Claim{{Text: "2m AM pep 20"}}
		for _, text := range texts {
			s.read("High", text)
			s.facts.Readings[len(s.facts.Readings)-1].Mode = "AM"
		}
		return s.open(t)
	}
	d := open("4.5 pk 10", "9", "4.4 pk 15")
	r, _ := powerOf(d, k)
	want := 10 * math.Pow(10, 0.05)
	if r == nil || math.Abs(*r.MeasuredW-want) > 1e-9 || math.Abs(r.AgainstClaim.Percent-100*want/20) > 1e-9 {
		t.Fatalf("%+v", r)
	}
	if u := *r.HighW/want - 1; math.Abs(u-2*math.Hypot(math.Hypot(0.05/math.Sqrt(3), 0.01*2.776/2), 0.5/math.Sqrt(3)/4.343)) > 0.003 { // the jumper's tolerance is typical
		t.Errorf("the peak's own interval is %.4f wide", u)
	}
	if h := d.Board(false).Headline; !strings.Contains(h, "11.2 W of 20.0 W") {
		t.Error(h)
	}
	if all := d.Readings(); all[2].Counts || !strings.Contains(all[2].WhyNot, "end of the") {
		t.Errorf("a pegged peak counts: %+v", all[2])
	}
	if r, _ := powerOf(open("pk 14"), k); r == nil || r.Result != nil || math.Abs(*r.MeasuredW-14*math.Pow(10, 0.05)) > 1e-9 {
		t.Errorf("a peak alone: %+v", r)
	}
	if c := open("4.5").Board(false).Cells[0]; c.Power != decision.NotCovered || !strings.Contains(c.PowerWhy, "none was noted") {
		t.Errorf("%s, %s", c.Power, c.PowerWhy)
	}
	// Over 100 % of modulation is said: 4.5 W and 20 W would be 111 %.
	if got := codes(&open("3 pk 14").Readings()[0]); !strings.Contains(got, "peaks-over-carrier") {
		t.Error(got)
	}
}

// TestWithoutAClaim figures stand alone: nothing is judged, nothing is hidden.
func TestWithoutAClaim(t *testing.T) {
	s := begin().read("High", "4.5 h").look("High", 1530, -30)
	s.review.Claims = []record.Claim{{Text: "2m ?/?"}}
	b := s.open(t).Board(false)
	if len(b.Cells) != 2 || b.Cells[0].Power != decision.NoClaim || b.Cells[0].Reading == nil || b.Cells[0].Reading.ClaimedW != nil {
		t.Errorf("%+v", b.Cells[0].Power)
	}
	if b.Emissions.Verdict != decision.SoFar || !strings.Contains(b.Headline, "No power was held against a claim") {
		t.Errorf("%s: %s", b.Emissions.Verdict, b.Headline)
	}
	book, _ := rulebooks.Find("us-amateur")
	w, err := wiring.Wire(wiring.Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 0}}, MeasuredW: 0, Mode: rulebook.FM, Book: book})
	if err != nil || math.Abs(w.SourceW-12.59) > 0.01 || !strings.Contains(w.SourceWhy, "assumed") {
		t.Errorf("%v W, %s, %v", w.SourceW, w.SourceWhy, err)
	}
}

func TestPreviewRefusals(t *testing.T) {
	d := begin().open(t)
	k := high
	k.FrequencyHz = 146e6
	for text, want := range map[string]string{"": "text", "h": "text", "4.5W 36dBm": "text", "1,500": "text"} {
		if _, err := d.Preview(k, text, &meterPath, ""); err == nil || !strings.HasPrefix(err.Error(), want+":") {
			t.Errorf("%q: %v", text, err)
		}
	}
	if _, err := d.Preview(k, "4.5", &noMeterPath, ""); err == nil || !strings.HasPrefix(err.Error(), "path_id:") {
		t.Errorf("a path without a meter: %v", err)
	}
}

// TestPowerOffAnAnalyzer: -7.4 dBm behind 50 dB is 42.6 dBm, 18.2 W (common practice, no
// source: a case from a bench), with the accuracy of the analyzer and of the pads.
func TestPowerOffAnAnalyzer(t *testing.T) {
	k := high
	k.FrequencyHz = 146e6
	r, err := begin().open(t).Preview(k, "-7.4dBm", &analyzerPath, "")
	if err != nil || !r.Counts || math.Abs(*r.Result.AtConnectorDBm-42.6) > 1e-9 || math.Abs(*r.Result.AtConnectorW-18.197) > 0.001 {
		t.Fatalf("%+v %v", r, err)
	}
	// 1 and 0.3 dB as rectangular half-widths: 0.603 dB of standard uncertainty, 13.9 %.
	if u := (*r.Result.HighW - *r.Result.LowW) / 4 / *r.Result.AtConnectorW; u < 0.138 || u > 0.146 {
		t.Errorf("standard uncertainty %.4f of the power", u)
	}
	k.FrequencyHz = 50e3 // its first range begins at 100 kHz
	if r, err := begin().open(t).Preview(k, "-7.4dBm", &analyzerPath, ""); err != nil || r.Counts {
		t.Errorf("out of its ranges it counts: %+v %v", r.Result, err)
	}
}

// TestEmissionsRestOnTheMeter: the carrier is the power meter's, and the budget
// of dBc has its uncertainty in it.
func TestEmissionsRestOnTheMeter(t *testing.T) {
	e := begin().read("High", "4.5 h").look("High", 1530, -7).open(t).Emissions(high, true)
	if *e.Ruling.CarrierFrom != "power-meter" || math.Abs(*e.MeanW-5.049) > 0.001 || e.Ruling.Verdict != decision.Fail {
		t.Errorf("%+v", e.Ruling)
	}
	if want := 2 * math.Hypot(1/math.Sqrt(3), 0.3/math.Sqrt(3)); math.Abs(e.Budget.Absolute-want) > 1e-9 || e.Budget.Relative <= e.Budget.Absolute {
		t.Errorf("budget %+v, want %v", e.Budget, want)
	}
	if n := len(e.Sweeps[0].Picture); n < 1000 || n > 1400 {
		t.Errorf("%d buckets", n)
	}
	highest := math.Inf(-1)
	for _, b := range e.Sweeps[0].Picture {
		highest = max(highest, *b.HighDBm)
	}
	if math.Abs(highest-36.99) > 1e-9 {
		t.Errorf("the picture's crest is %v dBm at the connector", highest)
	}
	if len(e.Ceiling) == 0 || e.Ceiling[0].LimitDBm == nil {
		t.Errorf("ceiling %+v", e.Ceiling)
	}
	alone := begin().look("High", 1530, -7).open(t).Emissions(high, false)
	if *alone.Ruling.CarrierFrom != "sweep" || len(alone.Sweeps[0].Picture) != 0 {
		t.Errorf("%+v", alone.Ruling)
	}
}

func TestHeadlines(t *testing.T) {
	for _, c := range []struct {
		name    string
		s       *scene
		verdict decision.Verdict
		says    []string
	}{
		{"nothing done", begin(), decision.NotExamined, []string{"Emissions were not examined", "No power was held"}},
		{"fails", begin().read("High", "4.5").look("High", 1530, -7), decision.Fail, []string{"Emissions fail on 2m High: 3rd harmonic is 9.0 dB over the limit (US amateur); 0 of 2 pass, 1 fails, 1 not examined", "Power makes its claim so far: 1 of 2 passes, 1 not examined"}},
		{"both fail, the worst first", begin().look("High", 1530, -12).look("Low", 1530, -7), decision.Fail, []string{"fail on 2m Low: 3rd harmonic is 9.0 dB over the limit; 2m High: 3rd harmonic is 4.0 dB over the limit"}},
		{"passes so far", begin().read("High", "4.5").look("High", 1530, -30), decision.SoFar, []string{"pass so far, as far as 1.53 GHz (10th harmonic)", "1 of 2 passes, 1 not examined"}},
		{"not in full", begin().look("High", 1530, -30).look("Low", 960, -30), decision.SoFar, []string{"as far as 960 MHz (6th harmonic)", "2 of 2 pass, 1 of them not examined in full"}},
		{"too close", begin().look("High", 1530, -16.5), decision.Inconclusive, []string{"too close to call on 2m High: 3rd harmonic"}},
		{"short", begin().read("High", "2"), decision.NotExamined, []string{"short of the claim: 2m High 2.24 W of 5.00 W"}},
		{"struck sweep", begin().look("High", 1530, -7).say("sweep 0", "struck"), decision.NotCovered, []string{"Nothing examined can be ruled on"}},
	} {
		b := c.s.open(t).Board(false)
		if b.Emissions.Verdict != c.verdict {
			t.Errorf("%s: %s", c.name, b.Emissions.Verdict)
		}
		for _, want := range c.says {
			if !strings.Contains(b.Headline, want) {
				t.Errorf("%s: %q, want %q in it", c.name, b.Headline, want)
			}
		}
	}
}

// TestOtherRulesCanBeTried without being kept.
func TestOtherRulesCanBeTried(t *testing.T) {
	s := begin().read("High", "4.5").look("High", 1530, -7)
	rules := s.review.Rules
	rules.RuleBook, rules.Scheme = "house-forty-down", "percent"
	b := s.openBy(t, rules, rulebooks.Find).Board(false)
	if b.Emissions.Verdict != decision.SoFar || !b.Rules.House || b.Rules.Recalled || !strings.Contains(b.Rules.Claim, "90 %") {
		t.Errorf("%s %+v", b.Emissions.Verdict, b.Rules)
	}
	rules.RuleBook = "nobody"
	if _, err := measure.Open(&s.review, s.rows(t), rules, rulebooks.Find, kinds.All()); err == nil {
		t.Error("an unknown book opens")
	}
}

// TestTheWorstFrequencyStands: a good frequency never hides a bad one, neither
// in power nor in emissions; the other is told beside it.
func TestTheWorstFrequencyStands(t *testing.T) {
	s := begin().read("High", "4.5").read("High", "2").read("High", "4.6").look("High", 1530, -7).look("High", 1530, -40)
	s.facts.Readings[1].FrequencyHz = 144.1e6
	s.facts.Sweeps[1].FrequencyHz = 147e6 // its carrier, at 146 in the trace, is no other's harmonic
	levels := emissions.UnpackLevels(s.facts.Sweeps[1].Levels)
	levels[146-30], levels[147-30], levels[438-30] = -90, levels[146-30], -90
	s.facts.Sweeps[1].Levels = emissions.PackLevels(levels)
	d := s.open(t)
	if r, of := powerOf(d, high); r.Text != "2" || of != 3 {
		t.Errorf("%q stands of %d", r.Text, of)
	}
	e := d.Emissions(high, true)
	if e.FrequencyHz != 146e6 || e.Ruling.Verdict != decision.Fail || len(e.Sweeps) != 1 || len(e.Sweeps[0].Picture) == 0 {
		t.Errorf("%v Hz: %s", e.FrequencyHz, e.Ruling.Verdict)
	}
	if len(e.Others) != 1 || e.Others[0].FrequencyHz != 147e6 || e.Others[0].Verdict != decision.Pass {
		t.Errorf("%+v", e.Others)
	}
	if math.Abs(*e.MeanW-4.55*math.Pow(10, 0.05)) > 1e-9 || e.MeanAtHz != 146e6 {
		t.Errorf("the carrier is the mean of the readings at its own frequency, not %v W", *e.MeanW)
	}
	k := high
	k.FrequencyHz = 147e6
	if other := d.EmissionsAt(k, true); other.FrequencyHz != 147e6 || len(other.Sweeps[0].Picture) == 0 {
		t.Errorf("the other asked for: %v", other.FrequencyHz)
	}
	if b := d.Board(false); b.Emissions.Verdict != decision.Fail {
		t.Errorf("the board: %s", b.Emissions.Verdict)
	}
	// An edition, which has pictures, says the same as the board, even when the
	// clean sweep is the one at the band's usual frequency.
	usual := float64(d.Review.Cells[0].Band.UsualHz)
	s.facts.Sweeps[0].FrequencyHz, s.facts.Sweeps[1].FrequencyHz = 146e6, usual
	if got, want := s.open(t).Board(true), s.open(t).Board(false); got.Emissions.Verdict != decision.Fail || got.Headline != want.Headline || got.Cells[0].Emissions.FrequencyHz != 146e6 {
		t.Errorf("%s %q, the board says %q", got.Emissions.Verdict, got.Headline, want.Headline)
	}
}

// TestPassesIsTheWhole: over a radio only when every band and level was examined in
// full; a claim that cannot be read leaves it so far.
func TestPassesIsTheWhole(t *testing.T) {
	s := begin().read("High", "4.8").read("Low", "1").look("High", 1530, -30).look("Low", 1530, -30)
	s.facts.Sweeps[1].Through = meterlessOffset(10)
	if b := s.open(t).Board(false); b.Emissions.Verdict != decision.SoFar || b.Power.Verdict != decision.SoFar {
		t.Errorf("with a claim unread: %+v %+v", b.Emissions, b.Power)
	}
	s.review.Claims = s.review.Claims[:1]
	b := s.open(t).Board(false)
	if b.Emissions.Verdict != decision.Pass || b.Power.Verdict != decision.Pass || !strings.Contains(b.Headline, "Emissions pass as far as 1.53 GHz") || !strings.Contains(b.Headline, "in every band and level: 2 of 2 pass") {
		t.Errorf("%+v %+v %q", b.Emissions, b.Power, b.Headline)
	}
}

// meterlessOffset is the analyzer's path with another offset, so that a sweep of the
// scene shows a lower carrier.
func meterlessOffset(db float64) record.Through {
	out := analyzerPath
	out.AppliedOffsetDB = db - 3
	return out
}

func TestNames(t *testing.T) {
	for n, want := range map[int]string{1: "1st", 2: "2nd", 3: "3rd", 4: "4th", 11: "11th", 12: "12th", 13: "13th", 21: "21st", 112: "112th"} {
		if got := judge.Ordinal(n); got != want {
			t.Errorf("%d: %s", n, got)
		}
	}
	two := 2
	for want, p := range map[string]judge.Product{
		"2nd harmonic":     {Kind: judge.Harmonic, Order: &two},
		"half the carrier": {Kind: judge.Subharmonic, Order: &two},
		"spur at 1.2 GHz":  {Kind: judge.Spur, FrequencyHz: v(float64(units.Hertz(1.2e9)))},
	} {
		if got := p.Name(); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
	s := begin()
	s.review.Subject.Changes = "a filter"
	if got := s.open(t).Title(); got != "Test T1, serial 7, changed" {
		t.Error(got)
	}
}

// TestABookForABand: each band is judged by its own book, names it, and an edition of a
// recalled one says so; a book nobody knows is refused.
func TestABookForABand(t *testing.T) {
	s := begin()
	s.review.Claims = append(s.review.Claims, record.Claim{Text: "70cm 5", Source: "box"})
	s.review.Rules.Books = map[string]string{"70cm": "house-vhf-everywhere", "2m": "itu-category-a"}
	r, err := measure.Open(&s.review, record.Facts{}, s.review.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	for band, want := range map[string]string{"2m": "itu-category-a", "70cm": "house-vhf-everywhere", "6m": "us-amateur"} {
		if got := r.BookOf(band).ID; got != want {
			t.Errorf("%s by %s, want %s", band, got, want)
		}
		k := record.Keyed{Band: band, Level: "High", Mode: "FM", FrequencyHz: 146e6}
		if got := emissions.Of(r).At(k, false).RuleBook; got != want {
			t.Errorf("%s is ruled on by %s", band, got)
		}
	}
	b := board.Of(r, false)
	if len(b.Rules.Bands) != 2 || b.Rules.Bands[0].RuleBook != "itu-category-a" || !b.Rules.Bands[0].Recalled || !b.Rules.Bands[1].House || len(r.AllBooks()) != 3 {
		t.Errorf("%+v", b.Rules.Bands)
	}
	said := 0
	for _, o := range board.Obstacles(r, &b) {
		if o.Code == "book-unchecked" {
			said++
		}
	}
	if said != 2 { // that of the review and that of 2 m; house practice cannot be checked
		t.Errorf("%d books are told as unchecked", said)
	}
	s.review.Rules.Books["70cm"] = "nobody"
	if _, err := measure.Open(&s.review, record.Facts{}, s.review.Rules, rulebooks.Find, kinds.All()); err == nil || !strings.Contains(err.Error(), "books.70cm") {
		t.Errorf("a book nobody knows: %v", err)
	}
}
