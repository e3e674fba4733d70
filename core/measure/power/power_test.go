package power_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"talloak/core/decision"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/measuretest"
	"talloak/rulebooks"
)

func v(x float64) *float64 { return &x }

func through(id string, loss float64) *record.Through {
	return &record.Through{PathID: id, Name: id, Kit: []record.KitCopy{
		{ID: "coax", Name: "coax", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &loss}, ToleranceDB: v(0.05), MaxW: v(100)}}},
		{ID: "m" + id, Name: "meter " + id, Spec: kit.Spec{Kind: kit.ThroughMeter, Element: path.Element{Kind: path.Meter, MaxW: v(100)}, Meter: &reading.Meter{PctFullScale: 5}, ScalesW: []float64{20, 200}}, Setting: "200 W"},
		{ID: "load", Name: "load", Spec: kit.Spec{Element: path.Element{Kind: path.Load, MaxW: v(100)}}},
	}}
}

// scene is a review with key-ups, a minute apart.
type scene struct {
	review record.Review
	facts  record.Facts
}

func begin(lines ...string) *scene {
	s := &scene{review: record.Review{Subject: record.Subject{Model: "X", SupplyMinV: v(11), SupplyMaxV: v(15)}}}
	for _, text := range lines {
		s.review.Claims = append(s.review.Claims, record.Claim{Text: text})
	}
	s.review.Rules = record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}
	return s
}

func (s *scene) read(level string, mhz float64, d power.Draft, t *record.Through) *scene {
	payload, _ := json.Marshal(d)
	n := len(s.facts.Measurements)
	mode := record.Mode("FM")
	if l, m, two := strings.Cut(level, " "); two {
		level, mode = l, record.Mode(m)
	}
	s.facts.Measurements = append(s.facts.Measurements, record.Measurement{
		ID: fmt.Sprint("reading ", n), Kind: "power", TakenAt: time.Date(2026, 1, 1, 12, n, 0, 0, time.UTC),
		Keyed: record.Keyed{Band: "2m", Level: level, Mode: mode, FrequencyHz: mhz * 1e6}, Through: t, Payload: payload,
	})
	return s
}

func (s *scene) open(t *testing.T) *power.Room {
	t.Helper()
	r, err := measure.Open(&s.review, s.facts, s.review.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return power.Of(r)
}

func text(s string) power.Draft { return power.Draft{Text: s} }

func codes(r power.Reading) string {
	out := ""
	for _, d := range r.Doubts {
		out += string(d.Code) + " "
	}
	return out
}

// TestScaleBelongsToTheReading: 5 % of a 20 W scale is half of 2 W and 5.6 % of 18 W (the
// arithmetic of percent of full scale); the path says 200 W.
func TestScaleBelongsToTheReading(t *testing.T) {
	d := begin("2m 20").read("High", 146, power.Draft{Text: "18", ScaleW: v(20)}, through("a", 0)).read("High", 146, text("18"), through("a", 0)).open(t)
	got := d.Readings()
	if r := got[0].Result; math.Abs(r.Budget[0].Relative*math.Sqrt(3)-0.0556) > 1e-4 || got[0].Through.Kit[1].Setting != "20 W" {
		t.Errorf("%+v", r.Budget)
	}
	if r := got[1].Result; math.Abs(r.Budget[0].Relative*math.Sqrt(3)-0.556) > 1e-3 || !strings.Contains(codes(got[1]), "low-on-scale") {
		t.Errorf("%+v %s", r.Budget, codes(got[1]))
	}
	// Digits that are true in percent of what they read are as true at the foot of a scale; a needle is not.
	for _, needle := range []bool{false, true} {
		digits := through("a", 0)
		digits.Kit[1].Spec.Meter = &reading.Meter{PctReading: 5, Needle: needle, DigitW: 1}
		if r := begin("2m 20").read("High", 146, text("18"), digits).open(t).Readings()[0]; strings.Contains(codes(r), "low-on-scale") != needle {
			t.Errorf("needle %t: %s", needle, codes(r))
		}
	}
	if _, err := d.Read(measure.Taking{Keyed: got[0].Keyed, Through: through("a", 0)}, power.Draft{Text: "4", ScaleW: v(5)}); err == nil || !strings.Contains(err.Error(), "scale_w") {
		t.Errorf("a scale it has not: %v", err)
	}
}

// TestNoPowerIsHeldAgainstNothing: a refusal, checks of the set-up and a trusted radio are
// kept, and the claim is judged as if they were not there.
func TestNoPowerIsHeldAgainstNothing(t *testing.T) {
	a := through("a", 0)
	s := begin("2m 5/1").read("High", 146, power.Draft{Text: "15.5v ? beeped", Refused: true}, a).
		read("High", 146, power.Draft{Check: power.Open, Text: "? needle at the end"}, a).read("High", 146, text("swr 1.2"), a).
		read("High", 146, power.Draft{Text: "40 13.8v 8a", Trusted: &power.Trusted{Name: "old mobile", W: 50}}, through("b", 0))
	d := s.open(t)
	k := record.Keyed{Band: "2m", Level: "High", Mode: "FM"}
	if p := d.PowerOf(k); p.Verdict != decision.NotCovered || !strings.Contains(p.Why, "refused") || p.Of != 0 {
		t.Errorf("%+v", p)
	}
	for i, want := range []string{"refused", "open", "SWR alone", "old mobile"} {
		if r := d.Readings()[i]; r.Counts || r.Void || !strings.Contains(r.WhyNot, want) {
			t.Errorf("%d: %+v", i, r.WhyNot)
		}
	}
	if c := codes(d.Readings()[0]); !strings.Contains(c, "over-voltage") {
		t.Errorf("15.5 V into a radio for 15: %s", c)
	}
	if r := d.Readings()[3]; math.Abs(*r.MeterDB+0.97) > 0.01 || strings.Contains(codes(r), "trusted-off") {
		t.Errorf("within 10 W of a scale of 200 it is no doubt: %v %s", *r.MeterDB, codes(r))
	}
	if w, amps := d.HighestW(k), d.AmpsAt(k); w != 0 || amps != nil {
		t.Errorf("another radio's %v W and %v A are taken for this one's", w, amps)
	}
	s.read("High", 146, power.Draft{Text: "5", ScaleW: v(20)}, a)
	if p := s.open(t).PowerOf(k); p.Reading == nil || p.Of != 1 {
		t.Errorf("%+v", p)
	}
	var what []string
	for _, c := range s.open(t).Study().Kept {
		what = append(what, c.What)
	}
	if got := strings.Join(what, ", "); got != "refused, end open, SWR alone, a trusted radio" {
		t.Error(got)
	}
	if refused := s.open(t).Study().Kept[0]; !strings.Contains(refused.Detail, "did not transmit at 15.5 V beeped") {
		t.Error(refused.Detail)
	}
	s.facts.Standings = append(s.facts.Standings, record.Standing{TargetID: s.facts.Measurements[0].ID, Standing: record.Struck, Reason: "keyed too early"})
	if kept := s.open(t).Study().Kept; len(kept) != 3 || kept[0].What == "refused" {
		t.Errorf("a struck one is kept: %+v", kept)
	}
	s.facts.Standings = nil
	for check, said := range map[string]string{`"check":"swr"`: "check of the SWR alone", `"check":"open"`: "check of the set-up", `"refused":true`: "refusal of the radio"} {
		if _, err := measuretest.Take(d, measure.Taking{Keyed: k, Through: a, Draft: []byte(`{"text":"4.8",` + check + `}`)}); err == nil || !strings.Contains(err.Error(), said) {
			t.Errorf("%s: %v", check, err)
		}
	}
	for _, bad := range []string{`{"text":"4.8","refused":true}`, `{"text":"","check":"melted"}`, `{"text":"4","target_w":0}`, `{"text":"4","at_most":true}`, `{"text":"4","trusted":{"name":"","w":0}}`} {
		if _, err := measuretest.Take(d, measure.Taking{Keyed: k, Through: a, Draft: []byte(bad)}); err == nil {
			t.Errorf("%s is taken", bad)
		}
	}
}

// TestDoubts: each has its reason, and without it none.
func TestDoubts(t *testing.T) {
	a := through("a", 0)
	supplied := *a
	supplied.Supply = &record.SupplyCopy{Name: "supply", SetV: 13.8}
	for _, c := range []struct {
		want  string
		lines []string
		t     *record.Through
	}{
		{"drifts", []string{"5 4.9 4.8"}, a}, {"", []string{"5 4.8 4.9"}, a}, {"", []string{"5 4.95 4.9"}, a}, {"", []string{"5 4.8"}, a},
		{"swr-jumped", []string{"5 swr 1.02", "5 swr 1.29"}, a}, {"", []string{"5 swr 1.05", "5 swr 1.2"}, a},
		{"supply-sagged", []string{"5 13v"}, &supplied}, {"", []string{"5 13.5v"}, &supplied}, {"over-voltage", []string{"5 15.2v"}, a},
		{"impossible-efficiency", []string{"15 13.8v 1a"}, a}, {"", []string{"5 13.8v 1a"}, a},
		{"speech-changes", []string{"5 pk 5.5"}, a}, {"", []string{"5 pk 5.1"}, a}, {"speech-changes", []string{"5 pk 5.27"}, a}, {"", []string{"5 pk 5.21"}, a}, // 0.23 dB, 0.18 dB
	} {
		s := begin("2m 5")
		for _, l := range c.lines {
			s.read("High", 146, power.Draft{Text: l, ScaleW: v(20)}, c.t)
		}
		all := s.open(t).Readings()
		got := codes(all[len(all)-1])
		for _, known := range []string{"drifts", "swr-jumped", "supply-sagged", "over-voltage", "impossible-efficiency", "speech-changes"} {
			if strings.Contains(got, known) != (known == c.want) {
				t.Errorf("%v: %s, want %q", c.lines, got, c.want)
			}
		}
	}
	// Four settings, two powers (common practice, no source).
	s := begin("2m 10/7/5/2")
	for level, w := range map[string]string{"High": "5.1", "Mid": "5", "Low": "2.01", "Lowest": "2"} {
		s.read(level, 146, power.Draft{Text: w, ScaleW: v(20)}, a)
	}
	if f := s.open(t).Study().Findings; len(f) != 1 || !strings.Contains(f[0].Detail, "4 settings, 2 powers") {
		t.Errorf("%+v", f)
	}
}

// TestBesides: carriers and peaks of 10.3 and 30 W are 71 % (10.3 (1 + m)^2, textbook); 10 W
// from 13.8 V and 1.52 A are 48 %; the display, the target and the class.
func TestBesides(t *testing.T) {
	a := through("a", 0)
	s := begin("2m 10", "2m AM 10").read("High AM", 146, power.Draft{Text: "10.3 pk 30", ScaleW: v(200)}, a).
		read("High", 146, power.Draft{Text: "10 pk 10.1 13.8v 1.52a", ScaleW: v(20), DisplayW: v(12), TargetW: v(10), Settings: "gain 5"}, a).
		read("High", 146, power.Draft{Text: "3.5", ScaleW: v(20), TargetW: v(5), AtMost: true}, a).
		read("High", 146, power.Draft{Text: "4.8", ScaleW: v(20), TargetW: v(5), AtMost: true}, a).
		read("High", 146, power.Draft{Text: "7", ScaleW: v(20), TargetW: v(5)}, a)
	all := s.open(t).Readings()
	if m := *all[0].DepthPct; math.Abs(m-71) > 0.5 {
		t.Errorf("depth %v %%", m)
	}
	if r := all[1]; math.Abs(*r.Efficiency-47.7) > 0.1 || math.Abs(*r.DisplayD-0.79) > 0.01 || r.Toward != "stop" || r.Reached != "yes" || !strings.Contains(r.Speech, "checked") {
		t.Errorf("%+v", r.Beside)
	}
	for i, want := range map[int]string{2: "stop yes", 3: "down too close to call", 4: "down no"} {
		if got := all[i].Toward + " " + all[i].Reached; got != want {
			t.Errorf("%d: %s, want %s", i, got, want)
		}
	}
}

// TestStudy: straight 5.0 and 18 W, through another meter 2.21 and 13.5 W: 3.55 and 1.25 dB,
// which no cable does (common practice, no source: a case from a bench); curves begin where
// there is something to compare.
func TestStudy(t *testing.T) {
	a, b := through("straight", 0), through("long", 0.4)
	down := math.Pow(10, -0.04) // what the path takes out again
	for _, t := range []*record.Through{a, b} {
		t.Kit[1].Spec.Meter = &reading.Meter{PctReading: 5}
	}
	s := begin("2m 18/5")
	for _, r := range []struct {
		level, line string
		t           *record.Through
	}{
		{"High", "18", a}, {"High", fmt.Sprintf("%.4f", 13.5*down), b}, {"Low", "5", a}, {"Low", fmt.Sprintf("%.4f", 2.21*down), b},
	} {
		s.read(r.level, 146, power.Draft{Text: r.line, ScaleW: v(20)}, r.t)
	}
	study := s.open(t).Study()
	if len(study.Pairs) != 1 || len(study.Frequency)+len(study.Supply)+len(study.Time) != 0 {
		t.Fatalf("%+v", study)
	}
	p := study.Pairs[0]
	if p.A != "straight" || math.Abs(p.LossDB[0]-1.25) > 0.01 || math.Abs(p.LossDB[1]-3.55) > 0.01 || p.Fits != "none" || p.Coax == "" {
		t.Errorf("%+v", p)
	}
	// Over frequency, in the band and beyond it; over volts, with the step it refused.
	s = begin("2m 5")
	for _, mhz := range []float64{144, 146, 148, 150} {
		s.read("High", mhz, power.Draft{Text: "5", ScaleW: v(20)}, a)
	}
	for _, volts := range []string{"10.5", "12", "13.8"} {
		s.read("High", 146, power.Draft{Text: "5 " + volts + "v 1a", ScaleW: v(20)}, a)
	}
	s.read("High", 146, power.Draft{Text: "15.5v", Refused: true}, a)
	study = s.open(t).Study()
	if f := study.Frequency; len(f) != 1 || !f[0].Points[len(f[0].Points)-1].Outside || f[0].Points[0].X != 144e6 {
		t.Errorf("%+v", f)
	}
	if c := study.Supply; len(c) != 1 || len(c[0].Points) != 4 || c[0].Points[0].X != 10.5 || !c[0].Points[3].Refused || c[0].Points[3].W != nil {
		t.Errorf("%+v", c)
	}
	if len(study.Drawn) != 2 { // below the radio's minimum it is no figure of the radio
		t.Errorf("%+v", study.Drawn)
	}
	if c := study.Time; len(c) != 1 || c[0].Points[1].X-c[0].Points[0].X != 180 {
		t.Errorf("%+v", c)
	}
	titles := ""
	for _, sec := range s.open(t).Sections(nil) {
		titles += sec.Title + "; "
		for _, row := range sec.Rows {
			if len(row) != len(sec.Columns) {
				t.Errorf("%s: %v", sec.Title, row)
			}
		}
	}
	if titles != "Power against frequency; Power against supply; Power over time; Current and efficiency; Noted beside power; " {
		t.Error(titles)
	}
}

// TestAClaimIsOfTheNominalSupply: what is read more than a tenth below it is power against
// supply; it neither fails a claim nor makes the key-up a pair of one at another voltage.
func TestAClaimIsOfTheNominalSupply(t *testing.T) {
	a, b := through("a", 0), through("b", 0)
	s := begin("2m 25")
	s.review.Subject.SupplyV = v(13.8)
	k := record.Keyed{Band: "2m", Level: "High", Mode: "FM"}
	s.read("High", 146, power.Draft{Text: "17 12.2v"}, a)
	if p := s.open(t).PowerOf(k); p.Verdict != decision.NotCovered || !strings.Contains(p.Why, "nominal") || p.Reading != nil {
		t.Errorf("%+v", p)
	}
	s.read("High", 146, power.Draft{Text: "25 13.7v"}, a).read("High", 146, power.Draft{Text: "25 13.7v"}, b)
	d := s.open(t)
	if p := d.PowerOf(k); p.Reading == nil || p.Reading.Text != "25 13.7v; 25 13.7v" || math.Abs(*p.Reading.MeasuredW-25) > 1e-9 || len(p.Reading.Parts) != 2 || d.At(k, 146e6).Text == "17 12.2v" {
		t.Errorf("%+v", p)
	}
	study := d.Study()
	if len(study.Pairs) != 1 || study.Pairs[0].Each[0].AW != study.Pairs[0].Each[0].BW || len(study.Supply) != 1 {
		t.Errorf("%+v", study)
	}
	s.review.Subject.SupplyV = nil // nobody said what is nominal
	if p := s.open(t).PowerOf(k); p.Reading.Text != "17 12.2v" {
		t.Errorf("%+v", p)
	}
}

// TestWhatIsNotKnownDecidesNothing: a reading that its meter does not bound below contradicts
// no other wiring, and a radio that shows no output was not turned down to a class.
func TestWhatIsNotKnownDecidesNothing(t *testing.T) {
	a, b := through("a", 0), through("b", 0)
	a.Kit[1].Spec.Meter = &reading.Meter{PctReading: 5}
	s := begin("2m 5/1").read("High", 146, text("5"), a).read("High", 146, text("2"), b).read("Low", 146, text("1"), a).read("Low", 146, text(".9"), b) // 5 % of 200 W
	if p := s.open(t).Study().Pairs; len(p) != 1 || p[0].Fits != "expected-loss" || p[0].UDB < 20 {
		t.Errorf("%+v", p)
	}
	s = begin("2m 5").read("High", 146, power.Draft{Text: "0", TargetW: v(5), AtMost: true}, a)
	if r := s.open(t).Readings()[0]; r.Reached != "no" || r.Toward != "more" {
		t.Errorf("%+v", r.Beside)
	}
}

// TestWhatWasKeyedAtARiskSaysSo, and counts all the same; what was in none is not marked.
func TestWhatWasKeyedAtARiskSaysSo(t *testing.T) {
	for _, risk := range []*record.Risk{nil, {Danger: "the load takes 5.00 W"}, {Danger: "the load takes 5.00 W", KeyS: 5, RestS: 60}} {
		briefly := through("briefly", 0.1)
		briefly.Risk = risk
		r := begin("2m 5").read("High", 146.52, text("4.9"), briefly).open(t).Readings()[0]
		if strings.Contains(codes(r), "at-risk") != (risk != nil) || !r.Counts {
			t.Errorf("%+v: counts %v, doubts %s", risk, r.Counts, codes(r))
		}
	}
}
