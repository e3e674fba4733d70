package power_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/rulebooks"
)

// TestReadByTheInstrument: a figure is marked as read by it for as long as it stands in the line as it said it.
func TestReadByTheInstrument(t *testing.T) {
	by := []record.By{{Name: "a", Said: "4.92W swr 1.1"}, {Name: "a", Said: "4.95W swr 1.1"}}
	for text, want := range map[string]int{"4.92W 4.95W swr 1.1": 2, "4.92W swr 1.1 ? warm": 1, "4.9 4.9": 0, "? 4.92Wx": 0} {
		r := begin("2m 5").read("High", 146, power.Draft{Text: text, By: by}, through("a", 0)).open(t).Readings()[0]
		if len(r.By) != want {
			t.Errorf("%q is marked as read %d times, want %d", text, len(r.By), want)
		}
	}
}

// TestNoLoadNoFail: what was read into an SWR of 2 and more is no power into 50 ohm: too little of it fails
// nothing; just under it is doubted and counts, and an antenna is in use as ever.
func TestNoLoadNoFail(t *testing.T) {
	for text, counts := range map[string]bool{"2.1 swr 1.9": true, "2.1 swr 2": false, "2.1 swr 3.4": false, "2.1 fr .24": false, "2.1 fr .1": true} {
		r := begin("2m 5").read("High", 146, power.Draft{Text: text}, through("a", 0)).open(t).Readings()[0]
		if r.Counts != counts || !counts && !strings.Contains(r.WhyNot, "no power into 50 ohm") {
			t.Errorf("%q counts %v: %s", text, r.Counts, r.WhyNot)
		}
	}
}

// TestWhatStandsBesideAReading: a trusted radio beyond the uncertainty is doubted, its display and target are
// held against it, what is drawn cannot be less than what comes out.
func TestWhatStandsBesideAReading(t *testing.T) {
	for _, c := range []struct {
		draft power.Draft
		want  string
	}{
		{power.Draft{Text: "20", ScaleW: v(200), Trusted: &power.Trusted{Name: "old mobile", W: 24}}, ""}, // 20 W within 5 % of 200 W, rectangular: ± 11.5 W
		{power.Draft{Text: "20", ScaleW: v(200), Trusted: &power.Trusted{Name: "old mobile", W: 33}}, "trusted-off"},
		{power.Draft{Text: "20", ScaleW: v(200), Trusted: &power.Trusted{Name: "old mobile", W: 8}}, "trusted-off"},
		{power.Draft{Text: "20 12v 1.67a", ScaleW: v(20)}, ""},
		{power.Draft{Text: "19 12v 1.58a", ScaleW: v(20)}, "impossible-efficiency"},
	} {
		r := begin("2m 20").read("High", 146, c.draft, through("a", 0)).open(t).Readings()[0]
		if got := codes(r); strings.Contains(got, "trusted-off") != (c.want == "trusted-off") || strings.Contains(got, "impossible") != (c.want == "impossible-efficiency") {
			t.Errorf("%+v: %s", c.draft, got)
		}
	}
	r := begin("2m 20").read("High", 146, power.Draft{Text: "10", ScaleW: v(20), DisplayW: v(20), TargetW: v(5), AtMost: true}, through("a", 0)).open(t).Readings()[0]
	if math.Abs(*r.DisplayD-3.01) > 0.01 || math.Abs(*r.TargetDB-3.01) > 0.01 || r.Toward != "down" || r.Reached != "no" {
		t.Errorf("%+v", r.Beside)
	}
	refused := begin("2m 20").read("High", 146, power.Draft{Text: "8.1v", Refused: true, Settings: "gain 5"}, through("a", 0)).open(t).Readings()[0]
	if refused.Settings != "gain 5" || refused.DisplayD != nil {
		t.Errorf("%+v", refused.Beside)
	}
}

// TestDraftsThatNobodyMeans are refused at their field.
func TestDraftsThatNobodyMeans(t *testing.T) {
	d := begin("2m 20").open(t)
	at := measure.Taking{Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146e6}, Through: through("a", 0)}
	for want, in := range map[string]power.Draft{
		"text: give at most":     {Text: "4 ?" + strings.Repeat("x", 498)},
		"settings: ":             {Text: "4", Settings: strings.Repeat("x", 501)},
		"display_w: give a":      {Text: "4", DisplayW: v(0)},
		"target_w: give a":       {Text: "4", TargetW: v(-1)},
		"target_w: ":             {Text: "4", TargetW: v(1e12)},
		"target_w: give the":     {Text: "4", AtMost: true},
		"scale_w: give a":        {Text: "4", ScaleW: v(0)},
		"check: ":                {Text: "", Check: "melted"},
		"trusted.name: ":         {Text: "4", Trusted: &power.Trusted{W: 5}},
		"trusted.w: ":            {Text: "4", Trusted: &power.Trusted{Name: "a"}},
		"text: no reading in":    {Text: "13.8v"},
		"text: the readings are": {Text: "4W 36dBm"},
	} {
		if _, err := d.Read(at, in); err == nil || !strings.Contains(fmt.Sprint(err), want) {
			t.Errorf("%+v: %v, want %s", in, err, want)
		}
	}
	for _, in := range []power.Draft{{Text: "4 ?" + strings.Repeat("x", 497)}, {Text: "4", Settings: strings.Repeat("x", 500)}} {
		if _, err := d.Read(at, in); err != nil {
			t.Error(err)
		}
	}
	got, err := d.Read(at, power.Draft{Text: "? beeped", Refused: true})
	if err != nil || *got.View.Entry.Remark != "beeped" {
		t.Errorf("%+v %v", got.View.Entry, err)
	}
	if got, err := d.Read(at, power.Draft{Refused: true}); err != nil || got.View.Entry.Remark != nil {
		t.Errorf("%+v %v", got.View.Entry, err)
	}
}

// TestRepeatsAreOfOneSupply: 2 % apart are one, more are two, one that was not noted is any; the lower of two
// supplies stands. A frequency in the line goes before the one dialled.
func TestRepeatsAreOfOneSupply(t *testing.T) {
	for second, joined := range map[string]int{"4 13.53v": 2, "4 13.51v": 0, "4": 2} {
		d := begin("2m 5").read("High", 146, text("5 13.8v"), through("a", 0)).read("High", 146, text(second), through("a", 0)).open(t)
		if r := d.PowerOf(high).Reading; r.Joined != joined || joined == 0 && *r.MeasuredW != 4 {
			t.Errorf("13.8 V and %q: %d joined, %v W", second, r.Joined, *r.MeasuredW)
		}
	}
	d := begin("2m 5").read("High", 146, text("5"), through("a", 0)).read("High", 146, text("4 f 145"), through("a", 0)).open(t)
	if r := d.PowerOf(high).Reading; r.Joined != 0 || r.FrequencyHz != 145e6 {
		t.Errorf("at another frequency: %d joined at %g", r.Joined, r.FrequencyHz)
	}
}

// TestAtAFrequency: what was read there in force, of several supplies the lowest; outside the band only what
// was read there.
func TestAtAFrequency(t *testing.T) {
	d := begin("2m 5").read("High", 146, text("5 13.8v"), through("a", 0)).read("High", 146, text("4 12v"), through("a", 0)).read("High", 150, text("3"), through("a", 0)).open(t)
	for mhz, want := range map[float64]float64{146: 4, 147: 4, 150: 3} {
		if r := d.At(high, mhz*1e6); r == nil || *r.Result.AtConnectorW != want {
			t.Errorf("%g MHz: %+v", mhz, r)
		}
	}
	if r := d.At(high, 151e6); r != nil {
		t.Errorf("outside the band where nothing was read: %+v", r)
	}
}

// TestContradictionsLeaveOpen what they decide, unless every one of them falls short.
func TestContradictionsLeaveOpen(t *testing.T) {
	for _, c := range []struct {
		lines []string
		want  decision.Verdict
	}{
		{[]string{"18", "18.1"}, decision.Pass}, {[]string{"18", "8"}, decision.Inconclusive}, {[]string{"8", "3"}, decision.Fail},
	} {
		s := begin("2m 20")
		for i, l := range c.lines {
			s.read("High", 146, power.Draft{Text: l, ScaleW: v(20)}, through("a", 0.001*float64(i)))
		}
		if p := s.open(t).PowerOf(high); p.Verdict != c.want {
			t.Errorf("%v: %s, %s", c.lines, p.Verdict, p.Why)
		}
	}
}

// TestALimitOfWhatIsRadiated is held where the antenna's gain is told: ERP against a dipole, EIRP 2.15 dB more
// (textbook).
func TestALimitOfWhatIsRadiated(t *testing.T) {
	own, _ := rulebooks.Find("us-amateur")
	for _, c := range []struct {
		as   string
		gain *float64
		want float64
	}{{"transmitter", v(3), 10}, {"erp", v(0), 10}, {"erp", v(3), 5.012}, {"eirp", v(0), 6.095}, {"erp", nil, 10}} {
		book := *own
		book.PowerLimits = []rulebook.PowerLimit{{MaxW: 10, Power: "mean", As: c.as, Citation: "a limit"}}
		s := begin("2m 15").read("High", 146, power.Draft{Text: "15", ScaleW: v(20)}, through("a", 0))
		s.review.Subject.AntennaGainDBd = c.gain
		r, err := measure.Open(&s.review, s.facts, s.review.Rules, func(string) (*rulebook.Book, bool) { return &book, true }, kinds.All())
		if err != nil {
			t.Fatal(err)
		}
		got := power.Of(r).Readings()[0]
		held := c.as == "transmitter" || c.gain != nil
		if math.Abs(*got.LegalMaxW-c.want) > 0.001 || strings.Contains(codes(got), "over-legal") != held || strings.Contains(got.LegalBy, "gain is not told") == held {
			t.Errorf("%s, gain %v: %g W by %s, %s", c.as, c.gain, *got.LegalMaxW, got.LegalBy, codes(got))
		}
	}
}

// TestWhatASheetMeansIsNoSag: a voltage that is to be measured at, within 0.3 V, is none.
func TestWhatASheetMeansIsNoSag(t *testing.T) {
	for volts, doubted := range map[string]bool{"12.5v": true, "11.5v": false, "11.29v": false, "11.81v": true} {
		s := begin("2m 5")
		s.review.Sheet.SupplyV = []float64{11.5}
		way := through("a", 0)
		way.Supply = &record.SupplyCopy{Name: "supply", SetV: 13.8}
		s.read("High", 146, text("5 "+volts), way)
		if got := codes(s.open(t).Readings()[0]); strings.Contains(got, "sag") != doubted {
			t.Errorf("%s: %s", volts, got)
		}
	}
}

// TestCurvesBreakWhereNobodyLooked: over 15 % of frequency apart, what lies between is not drawn.
func TestCurvesBreakWhereNobodyLooked(t *testing.T) {
	d := begin("2m 5").read("High", 130, text("5"), through("a", 0)).read("High", 149, text("5"), through("a", 0)).read("High", 171.5, text("5"), through("a", 0)).open(t)
	p := d.Study().Frequency[0].Points
	if len(p) != 3 || p[1].Gap || !p[2].Gap { // 149/130 = 1.146, 171.5/149 = 1.151
		t.Errorf("%+v", p)
	}
}

// TestWhatWasKept beside the boxes, once each, in force; settings where they change.
func TestWhatWasKept(t *testing.T) {
	s := begin("2m 20/5", "70cm 5")
	a := through("a", 0)
	s.read("High", 146, power.Draft{Text: "20", ScaleW: v(200), DisplayW: v(20), Settings: "gain 5"}, a).read("High", 146, power.Draft{Text: "20", Settings: "gain 5"}, a).
		read("Low", 146, power.Draft{Text: "4.9", TargetW: v(5), AtMost: true}, a).read("Low", 146, power.Draft{Text: "8v ? beeped", Refused: true}, a).read("Low", 146, text("swr 1.3"), a)
	var got []string
	for _, k := range s.open(t).Study().Kept {
		got = append(got, k.What)
	}
	if strings.Join(got, ", ") != "the radio's own display, settings, turned down to a class, refused, SWR alone" {
		t.Errorf("%v", got)
	}
	if am := begin("2m AM 5").read("High AM", 146, power.Draft{Text: "5 pk 19", ScaleW: v(20)}, a).open(t).Study().Kept; len(am) != 1 || am[0].What != "AM" {
		t.Errorf("%+v", am)
	}
}

// TestHighestClaimAndCurrent: a meter is asked for that stands the highest claim of the band; the current is that last read at the level.
func TestHighestClaimAndCurrent(t *testing.T) {
	d := begin("2m 20/5").read("High", 146, text("20 13.8v 4a"), through("a", 0)).read("High", 146, text("20 13.8v 4.1a"), through("a", 0)).read("Low", 146, text("5 13.8v 1.5a"), through("a", 0)).
		read("High", 146, power.Draft{Text: "20 13.8v 9a", Trusted: &power.Trusted{Name: "another", W: 20}}, through("a", 0)).open(t)
	if a := d.AmpsAt(high); a == nil || *a != 4.1 {
		t.Errorf("%v", a)
	}
	if a := d.AmpsAt(record.Keyed{Band: "70cm", Level: "High", Mode: "FM"}); a != nil {
		t.Errorf("%v", *a)
	}
	if w := d.HighestW(high); w != 20 {
		t.Errorf("%g W", w)
	}
}

// TestObstaclesAndAdvice: a box without a reading that counts stands between a review and its edition; what is
// published gives no advice.
func TestObstaclesAndAdvice(t *testing.T) {
	s := begin("2m 20/5").read("High", 146, power.Draft{Text: "19 12v 1.58a", ScaleW: v(20)}, through("a", 0))
	r, err := measure.Open(&s.review, s.facts, s.review.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	d := power.Of(r)
	var boxes []measure.Named
	for _, c := range r.Cells {
		boxes = append(boxes, measure.Named{Name: r.BoxName(c), Cell: c, Box: d.Box(c, false)})
	}
	if o := d.Obstacles(boxes); len(o) != 1 || !strings.HasPrefix(o[0].Detail, "2m Low has no reading that counts") {
		t.Errorf("%+v", o)
	}
	if n := d.NotTested(boxes[1]); len(n) != 1 || len(d.NotTested(boxes[0])) != 0 {
		t.Errorf("%v", n)
	}
	advice := func(b measure.Box) (n int) {
		for _, s := range measure.Own[power.Ruling](b.Of).Reading.Doubts {
			if s.Advice != "" {
				n++
			}
		}
		return n
	}
	if advice(boxes[0].Box) == 0 || advice(d.WithoutAdvice(boxes[0].Box)) != 0 || measure.Own[power.Ruling](d.WithoutAdvice(boxes[1].Box).Of).Reading != nil {
		t.Errorf("%+v", boxes[0].Box)
	}
}

// TestPeaksAreJoinedAsPeaks where a peak is claimed: repeats of one, and what two meters read, by their
// uncertainties; what each was doubted for is said once.
func TestPeaksAreJoinedAsPeaks(t *testing.T) {
	ssb := record.Keyed{Band: "2m", Level: "High", Mode: "SSB"}
	d := begin("2m SSB pep 35").read("High SSB", 144.2, text("pk 30"), through("a", 0)).read("High SSB", 144.2, text("pk 32"), through("a", 0)).open(t)
	p := d.PowerOf(ssb)
	if r := p.Reading; r == nil || r.Joined != 2 || *r.MeasuredW != 31 || r.Peak == nil || *r.Peak.AtConnectorW != 31 {
		t.Errorf("%+v", p)
	}
	two := begin("2m 15").read("High", 146, power.Draft{Text: "15", ScaleW: v(200)}, through("a", 0)).read("High", 146, power.Draft{Text: "15.2", ScaleW: v(20)}, through("b", 0)).open(t)
	r := two.PowerOf(high).Reading
	if r.Joined != 2 || len(r.Parts) != 2 || r.Through.PathID != "b" || *r.MeasuredW < 15.1 || *r.MeasuredW > 15.2 {
		t.Errorf("%v of %+v", *r.MeasuredW, r.Parts)
	}
	seen := map[string]int{}
	for _, s := range r.Doubts {
		if seen[string(s.Code)]++; seen[string(s.Code)] > 1 {
			t.Errorf("%s is said twice", s.Code)
		}
	}
}

// TestLevelsAreHeldAgainstTheirOwnBand and mode, those above as above: a lower one that reads more is doubted.
func TestLevelsAreHeldAgainstTheirOwnBand(t *testing.T) {
	a := through("a", 0)
	for _, c := range []struct {
		low  string
		want string
	}{{"10", "levels-out-of-order"}, {"5.1", "levels-alike"}, {"2", ""}} {
		all := begin("2m 5/1", "70cm 1").read("High", 146, power.Draft{Text: "5", ScaleW: v(20)}, a).read("Low", 146, power.Draft{Text: c.low, ScaleW: v(20)}, a).open(t).Readings()
		for i, r := range all {
			if got := codes(r); strings.Contains(got, "levels-") != (c.want != "") || !strings.Contains(got, c.want) {
				t.Errorf("low %s, reading %d: %s", c.low, i, got)
			}
		}
	}
	two := begin("2m 5/1", "70cm 1").read("High", 146, power.Draft{Text: "5", ScaleW: v(20)}, a).read("Low", 146, power.Draft{Text: "1", ScaleW: v(20)}, a).read("High", 446, power.Draft{Text: "1.02", ScaleW: v(20)}, a)
	two.facts.Measurements[2].Band = "70cm"
	both := two.open(t)
	for _, r := range both.Readings() {
		if got := codes(r); strings.Contains(got, "levels-") {
			t.Errorf("another band: %s %s", r.Band, got)
		}
	}
	if got := both.Study().Findings; len(got) != 0 {
		t.Errorf("alike over two bands: %+v", got)
	}
	am := begin("2m AM 5 FM 5/1").read("High AM", 146, power.Draft{Text: "5", ScaleW: v(20)}, a).read("High", 146, power.Draft{Text: "5", ScaleW: v(20)}, a).open(t).Readings()
	if got := codes(am[1]); strings.Contains(got, "levels-") {
		t.Errorf("another mode: %s", got)
	}
}

// TestTablesOfAnEdition: curves with what was noted beside each point, what lies outside the band, what was
// drawn, and the same key-ups through two wirings; none where there is nothing of it.
func TestTablesOfAnEdition(t *testing.T) {
	a, b := through("a", 0), through("b", 0.5)
	s := begin("2m 20")
	for _, mhz := range []float64{143, 145, 147} {
		s.read("High", mhz, power.Draft{Text: fmt.Sprintf("%g 13.8v 3a", 10+mhz-143), ScaleW: v(20)}, a)
	}
	s.read("High", 145, power.Draft{Text: "11.5", ScaleW: v(20)}, b)
	tables := map[string][][]string{}
	for _, s := range s.open(t).Sections(nil) {
		tables[s.Title] = s.Rows
	}
	f := tables["Power against frequency"]
	if len(f) != 3 || f[0][1] != "143 MHz, outside the band" || f[1][1] != "145 MHz" || f[0][4] != "3 A" || f[0][5] != "24 %" {
		t.Errorf("%v", f)
	}
	if d := tables["Current and efficiency"]; len(d) != 3 || d[0][4] != "3 A" {
		t.Errorf("%v", d)
	}
	if p := tables["The same key-ups through two wirings"]; len(p) != 1 || !strings.HasPrefix(p[0][1], "a, 12") || !strings.HasPrefix(p[0][2], "b, ") {
		t.Errorf("%v", p)
	}
	if len(tables["Power over time"])+len(tables["Power against supply"]) != 0 {
		t.Errorf("%v", tables)
	}
	if got := begin("2m 20").read("High", 146, text("20"), a).open(t).Sections(nil); len(got) != 0 {
		t.Errorf("%v", got)
	}
	plain := begin("2m 20")
	for _, mhz := range []float64{144.5, 145, 147} {
		plain.read("High", mhz, power.Draft{Text: "10", ScaleW: v(20)}, a)
	}
	if row := plain.open(t).Sections(nil)[0].Rows[0]; row[4] != "" || row[5] != "" {
		t.Errorf("%v", row)
	}
}

// TestTheSentenceOfPower names what is short, the worst first, and how many are over 120 % of the claim.
func TestTheSentenceOfPower(t *testing.T) {
	for _, c := range []struct {
		low, high string
		want      string
	}{
		{"0.3", "10", "Power is short of the claim: 2m Low 300 mW of 1.00 W; 2m High 10.0 W of 20.0 W; 0 of 2 pass, 2 fail."},
		{"1", "10", "Power is short of the claim: 2m High 10.0 W of 20.0 W; 1 of 2 passes, 1 fails."},
		{"1", "19", "Power makes its claim in every band and level: 2 of 2 pass."},
		{"1.3", "19", "Power makes its claim in every band and level: 2 of 2 pass. In 1 it is over 120 % of the claim."},
	} {
		s := begin("2m 20/1")
		way := through("a", 0)
		way.Kit[1].Spec.ScalesW = []float64{2, 20}
		way.Kit[1].Setting = "20 W"
		s.read("High", 146, power.Draft{Text: c.high, ScaleW: v(20)}, way).read("Low", 146, power.Draft{Text: c.low, ScaleW: v(2)}, way)
		r, err := measure.Open(&s.review, s.facts, s.review.Rules, rulebooks.Find, kinds.All())
		if err != nil {
			t.Fatal(err)
		}
		if got := board.Of(r, false).Headline; !strings.HasPrefix(got, "Emissions were not examined. "+c.want) || strings.Contains(got, "In 0") {
			t.Errorf("%s and %s W: %q", c.low, c.high, got)
		}
	}
}

// TestRepeatsOnOneMeter tell how it scatters: those of other frequencies too, the reading's own left out, and what
// scatters many times more than the others is no repeat.
func TestRepeatsOnOneMeter(t *testing.T) {
	a := through("a", 0)
	degrees := func(lines ...string) int {
		s := begin("2m 20")
		for i, l := range lines {
			s.read("High", 144.5+float64(i)*0.5, power.Draft{Text: l, ScaleW: v(20)}, a)
		}
		n := 0
		for _, line := range s.open(t).Readings()[0].Result.Budget {
			if strings.HasPrefix(line.Source, "repeats") {
				_, _ = fmt.Sscanf(line.Source[strings.Index(line.Source, "known by ")+9:], "%d", &n)
			}
		}
		return n
	}
	one := degrees("10 10.1 9.9")
	if two := degrees("10 10.1 9.9", "11 11.1"); two != one+1 {
		t.Errorf("%d degrees of freedom, with another pair %d", one, two)
	}
	if typed := degrees("10 10.1 9.9", "11 f 147.5", "11.1 f 147.5"); typed != one+1 {
		t.Errorf("%d degrees of freedom, with two lines of one frequency %d", one, typed)
	}
	if wild := degrees("10 10.1 9.9", "11 11.1", "12 2"); wild != one+1 {
		t.Errorf("with one that is no repeat %d", wild)
	}
}

// TestCurvesOfWhatCounts: what was struck, another radio's and what does not count for another reason than a low
// supply lie on none; through two paths they are told apart.
func TestCurvesOfWhatCounts(t *testing.T) {
	a, b := through("a", 0), through("b", 0)
	s := begin("2m 20")
	for _, mhz := range []float64{144.5, 146, 147.5} {
		s.read("High", mhz, power.Draft{Text: "10", ScaleW: v(20)}, a).read("High", mhz, power.Draft{Text: "10", ScaleW: v(20)}, b)
	}
	s.read("High", 145, power.Draft{Text: "20", ScaleW: v(20)}, a).read("High", 145.2, power.Draft{Text: "10", ScaleW: v(20), Trusted: &power.Trusted{Name: "another", W: 10}}, a).read("High", 147, power.Draft{Text: "9", ScaleW: v(20)}, a)
	s.facts.Standings = []record.Standing{{TargetID: s.facts.Measurements[8].ID, Standing: record.Struck, Reason: "a slip"}}
	got := s.open(t).Study().Frequency
	if len(got) != 2 || len(got[0].Points) != 3 || len(got[1].Points) != 3 || got[0].Name == got[1].Name || !strings.Contains(got[1].Name, ", b") {
		t.Errorf("%+v", got)
	}
}

// TestWhatOnTheBenchWouldDo where a meter is out of its range: owned ones that stand the highest claim of the band.
func TestWhatOnTheBenchWouldDo(t *testing.T) {
	way := through("a", 0)
	way.Kit[1].Spec.Meter = &reading.Meter{PctFullScale: 5, ToHz: v(100e6)}
	meter := func(name string, most float64) record.Item {
		return record.Item{Name: name, Spec: kit.Spec{Kind: kit.ThroughMeter, Element: path.Element{Kind: path.Meter, MaxW: v(most)}, Meter: &reading.Meter{PctReading: 5}}}
	}
	bench := func() []record.Item { return []record.Item{meter("small one", 10), meter("large one", 50)} }
	for claim, want := range map[string]string{"2m 20": "large one", "2m 8": "small one, large one", "2m 60": ""} {
		d := begin(claim, "70cm 100").open(t)
		got, err := d.Read(measure.Taking{Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146e6}, Through: way, Bench: bench}, text("5"))
		if err != nil {
			t.Fatal(err)
		}
		if _, said, is := strings.Cut(got.View.WhyNot, "on the bench this would do: "); said != want || is != (want != "") {
			t.Errorf("%s: %q", claim, got.View.WhyNot)
		}
	}
	in, err := begin("2m 20").open(t).Read(measure.Taking{Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146e6}, Through: through("a", 0), Bench: bench}, text("5"))
	if err != nil || strings.Contains(in.View.WhyNot, "on the bench") {
		t.Errorf("%q %v", in.View.WhyNot, err)
	}
}

// TestTheLastOfAWiring stands for a pair, and one that its meter does not bound agrees with any.
func TestTheLastOfAWiring(t *testing.T) {
	s := begin("2m 20").read("High", 146, power.Draft{Text: "10", ScaleW: v(20)}, through("a", 0)).read("High", 146, power.Draft{Text: "12", ScaleW: v(20)}, through("a", 0)).read("High", 146, power.Draft{Text: "12", ScaleW: v(20)}, through("b", 0.3))
	p := s.open(t).Study().Pairs
	if len(p) != 1 || len(p[0].Each) != 1 || p[0].Each[0].AW != 12 && math.Abs(p[0].Each[0].BW-12) > 1e-9 {
		t.Fatalf("%+v", p)
	}
	loose := begin("2m 20").read("High", 146, power.Draft{Text: "10", ScaleW: v(20)}, through("a", 0)).read("High", 146, power.Draft{Text: "4", ScaleW: v(200)}, through("b", 0)).open(t).Study().Pairs
	if len(loose) != 1 || loose[0].Fits != "expected-loss" {
		t.Errorf("%+v", loose)
	}
	refused := begin("2m 20")
	for _, mhz := range []float64{144.5, 146, 147.5} {
		refused.read("High", mhz, power.Draft{Text: "10", ScaleW: v(20)}, through("a", 0))
	}
	refused.read("High", 149, power.Draft{Refused: true}, through("a", 0))
	rows := refused.open(t).Sections(nil)[0].Rows
	if last := rows[len(rows)-1]; len(rows) != 4 || last[2] != "refused" || last[3] != "" || rows[0][2] != "10.0 W" {
		t.Errorf("%v", rows)
	}
}

// TestPairsAreOfOneSupply, and the one with less in front of its meter comes first.
func TestPairsAreOfOneSupply(t *testing.T) {
	for volts, want := range map[string]int{"13.8v": 1, "13.4v": 0} {
		s := begin("2m 20").read("High", 146, power.Draft{Text: "10 13.8v", ScaleW: v(20)}, through("far", 0.5)).read("High", 146, power.Draft{Text: "10 " + volts, ScaleW: v(20)}, through("near", 0))
		got := s.open(t).Study().Pairs
		if len(got) != want || want == 1 && (got[0].A != "near" || got[0].B != "far") {
			t.Errorf("%s: %+v", volts, got)
		}
	}
}

// TestPairsThatAreNotBounded: a meter that may rest at nought says nothing against another, and its pair can be
// written down: no figure of it is infinite.
func TestPairsThatAreNotBounded(t *testing.T) {
	a, b := through("a", 0), through("b", 0)
	s := begin("2m 1").read("High", 146, power.Draft{Text: "0.8", ScaleW: v(20)}, a).read("High", 146, power.Draft{Text: "0.2", ScaleW: v(20)}, b)
	got := s.open(t).Study()
	if _, err := json.Marshal(got); err != nil || len(got.Pairs) != 1 {
		t.Errorf("%v %+v", err, got.Pairs)
	}
}
