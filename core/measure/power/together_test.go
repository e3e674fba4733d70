package power_test

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"talloak/core/decision"
	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/rulebooks"
)

var high = record.Keyed{Band: "2m", Level: "High", Mode: "FM"}

// TestADoubtedScaleGivesWay to a better reading on the same meter.
func TestADoubtedScaleGivesWay(t *testing.T) {
	a := through("a", 0)
	s := begin("2m 5").read("High", 146, power.Draft{Text: "4", ScaleW: v(200)}, a).read("High", 146, power.Draft{Text: "5", ScaleW: v(20)}, a)
	if r := s.open(t).PowerOf(high).Reading; r == nil || *r.MeasuredW != 5 || r.Through.Kit[1].Setting != "20 W" {
		t.Errorf("%+v", r)
	}
	alone := begin("2m 5").read("High", 146, power.Draft{Text: "4", ScaleW: v(200)}, a)
	if r := alone.open(t).PowerOf(high).Reading; r == nil || *r.MeasuredW != 4 {
		t.Errorf("alone it stands: %+v", r)
	}
}

// TestAWildPairWidensNobodyElse: what scatters thirty times as much as a meter does is no
// repeat; what widens others is named.
func TestAWildPairWidensNobodyElse(t *testing.T) {
	a := through("a", 0)
	spread := func(s *scene) (float64, string) {
		r := s.open(t).Readings()[0]
		return *r.HighW / *r.MeasuredW, codes(r)
	}
	plain, _ := spread(begin("2m 20/5").read("High", 146, power.Draft{Text: "18", ScaleW: v(20)}, a))
	wild, said := spread(begin("2m 20/5").read("High", 146, power.Draft{Text: "18", ScaleW: v(20)}, a).read("Low", 146, power.Draft{Text: "1.6 4.6", ScaleW: v(20)}, a))
	if math.Abs(wild-plain) > 1e-9 || strings.Contains(said, "scatter-widens") {
		t.Errorf("alone %v, beside a wild pair %v: %s", plain, wild, said)
	}
	bouncing, said := spread(begin("2m 20/5").read("High", 146, power.Draft{Text: "18", ScaleW: v(20)}, a).read("Low", 146, power.Draft{Text: "4.2 5.2", ScaleW: v(20)}, a))
	if bouncing <= plain || !strings.Contains(said, "scatter-widens") {
		t.Errorf("beside a bouncing pair %v: %s", bouncing, said)
	}
}

// TestStepsOfAnAdjustment stand for nothing, what it came to does; turned down to a class it is
// not what was claimed.
func TestStepsOfAnAdjustment(t *testing.T) {
	a := through("a", 0)
	adjust := func(text string, atMost bool) power.Draft {
		return power.Draft{Text: text, ScaleW: v(20), TargetW: v(5), AtMost: atMost}
	}
	s := begin("2m 5").read("High", 146, adjust("2", false), a).read("High", 146, adjust("4", false), a).read("High", 146, adjust("5", false), a)
	p := s.open(t).PowerOf(high)
	if p.Reading == nil || *p.Reading.MeasuredW != 5 || p.Verdict != decision.Pass {
		t.Errorf("%+v", p)
	}
	// A step was keyed into the path all the same: what it withstood is what it is held against.
	down := begin("2m 5").read("High", 146, adjust("12", false), a).read("High", 146, adjust("5", false), a)
	if w := down.open(t).HighestW(high); w != 12 {
		t.Errorf("adjusted down from 12 W: the highest is %v W", w)
	}
	if r := s.open(t).Readings()[1]; r.Counts || !strings.Contains(r.WhyNot, "step of an adjustment") {
		t.Errorf("%+v", r.WhyNot)
	}
	s = begin("2m 20").read("High", 146, adjust("4", true), a)
	if p := s.open(t).PowerOf(high); p.Reading != nil || p.Verdict == decision.Fail {
		t.Errorf("turned down to 5 W: %+v", p)
	}
	// 10 W within 0.7 and 19 W meets nothing.
	r := begin("2m 10").read("High", 146, power.Draft{Text: "10", ScaleW: v(200), TargetW: v(10)}, a).open(t).Readings()[0]
	if r.Toward != "stop" || r.Reached != "too close to call" {
		t.Errorf("%v to %v W: %s %s", *r.LowW, *r.HighW, r.Toward, r.Reached)
	}
}

// TestMadeForIsARangeToo: a meter that says no range it reads in, but one it is made for.
func TestMadeForIsARangeToo(t *testing.T) {
	a := through("a", 0)
	a.Kit[1].Spec.Element.FromHz, a.Kit[1].Spec.Element.ToHz = v(125e6), v(525e6)
	s := begin("6m 5", "2m 5").read("High", 146, power.Draft{Text: "5", ScaleW: v(20)}, a)
	s.read("High", 52.5, power.Draft{Text: "1", ScaleW: v(20)}, a)
	s.facts.Measurements[1].Band = "6m"
	all := s.open(t).Readings()
	if !all[0].Counts || all[1].Counts || !strings.Contains(codes(all[1]), "meter-out-of-range") {
		t.Errorf("%v %v %s", all[0].Counts, all[1].Counts, codes(all[1]))
	}
}

// TestTenTimesTheClaim is void until it is explained, with what would explain it.
func TestTenTimesTheClaim(t *testing.T) {
	a := through("a", 20)
	s := begin("2m 1").read("High", 146, power.Draft{Text: "1", ScaleW: v(20)}, a)
	r := s.open(t).Readings()[0]
	if r.Counts || !strings.Contains(codes(r), "beyond-belief") || !strings.Contains(r.WhyNot, "20.0 dB: is it dialled in already?") || r.AgainstClaim != nil {
		t.Errorf("100 W behind 20 dB: %+v", r.WhyNot)
	}
	if w := s.open(t).HighestW(high); w != 0 {
		t.Errorf("it endangers the path with %v W", w)
	}
	s.facts.Standings = []record.Standing{{TargetID: "reading 0", Standing: record.Explained, Reason: "an amplifier"}}
	if r := s.open(t).Readings()[0]; !r.Counts || r.AgainstClaim == nil {
		t.Errorf("explained: %+v", r.WhyNot)
	}
}

// TestAStruckReadingEndangersNothing: it is no power that was measured.
func TestAStruckReadingEndangersNothing(t *testing.T) {
	s := begin("2m 50").read("High", 146, power.Draft{Text: "60"}, through("a", 0))
	if w := s.open(t).HighestW(high); w != 60 {
		t.Errorf("%v W", w)
	}
	s.facts.Standings = []record.Standing{{TargetID: "reading 0", Standing: record.Struck, Reason: "a slip"}}
	if w := s.open(t).HighestW(high); w != 0 {
		t.Errorf("struck: %v W", w)
	}
	class := begin("2m 50").read("High", 146, power.Draft{Text: "60", TargetW: v(50), AtMost: true}, through("a", 0))
	if w := class.open(t).HighestW(high); w != 60 {
		t.Errorf("turned down to a class: %v W", w)
	}
	class.facts.Standings = s.facts.Standings
	if w := class.open(t).HighestW(high); w != 0 {
		t.Errorf("that, struck: %v W", w)
	}
}

// TestPairsOfOneWiringPair belong together whatever the band: the practice case, 5.0 and 18 W
// straight, 2.21 and 13.5 W through another meter, of two bands.
func TestPairsOfOneWiringPair(t *testing.T) {
	a, b := through("a", 0), through("b", 0)
	s := begin("2m 18", "70cm 5").read("High", 146, text("18"), a).read("High", 146, text("13.5"), b).read("High", 446, text("5.0"), a).read("High", 446, text("2.21"), b)
	for i := range s.facts.Measurements {
		m := &s.facts.Measurements[i]
		m.Through.Kit[1].Spec.Meter.PctFullScale = 0.1
		if m.FrequencyHz > 400e6 {
			m.Band = "70cm"
		}
	}
	p := s.open(t).Study().Pairs
	if len(p) != 1 || len(p[0].Each) != 2 || p[0].Fits != "none" || math.Abs(p[0].SpreadDB-2.29) > 0.02 {
		t.Errorf("%+v", p)
	}
}

// TestTheSameByDesignIsNoDoubt: levels that give the same by design are not doubted for it; others are.
func TestTheSameByDesignIsNoDoubt(t *testing.T) {
	a := through("a", 0)
	alike := func(claims ...string) string {
		s := begin(claims...).read("Mid", 146, power.Draft{Text: "2"}, a).read("Low", 146, power.Draft{Text: "2"}, a)
		return codes(s.open(t).Readings()[1])
	}
	for said, doubted := range map[string]bool{"": true, "2m same mid low": false, "same low mid": false, "70cm same mid low": true, "2m same high low": true} {
		claims := []string{"2m 5/2/2"}
		if said != "" {
			claims = append(claims, said)
		}
		if got := alike(claims...); strings.Contains(got, "levels-alike") != doubted {
			t.Errorf("%q: %s", said, got)
		}
	}
}

// TestPeaksAgainstVolts: the carrier and the spoken peak each lie on a curve of their own.
func TestPeaksAgainstVolts(t *testing.T) {
	a := through("a", 0)
	s := begin("2m AM 12")
	for _, text := range []string{"10 pk 36 13.8v 2a", "8 pk 27 12.5v 1.8a"} {
		s.read("High AM", 146, power.Draft{Text: text, ScaleW: v(200)}, a)
	}
	c := s.open(t).Study().Supply
	if len(c) != 2 || !strings.HasSuffix(c[1].Name, ", peak") || len(c[0].Points) != 2 || len(c[1].Points) != 2 {
		t.Fatalf("%+v", c)
	}
	if lo, hi := c[0].Points[0], c[1].Points[0]; lo.X != 12.5 || *lo.W != 8 || *hi.W != 27 || lo.Efficiency == nil || hi.Efficiency != nil {
		t.Errorf("%+v %+v", lo, hi)
	}
}

// TestOffTheSupplyOrTheBand nothing is held against the claim, and no level is doubted by it.
func TestOffTheSupplyOrTheBand(t *testing.T) {
	s := begin("2m 5/4.8")
	s.review.Subject.SupplyV = v(13.8)
	a := through("a", 0)
	for _, c := range []struct {
		line string
		mhz  float64
		held bool
	}{{"4.9 13.8v", 146, true}, {"4.9 11.2v", 146, false}, {"4.9 13.8v", 150, false}} {
		s.facts.Measurements = nil
		all := s.read("High", 146, text("4.9 13.8v"), a).read("Low", c.mhz, text(c.line), a).open(t).Readings()
		low := all[1]
		if !low.Counts || (low.AgainstClaim != nil) != c.held || strings.Contains(codes(low), "levels-alike") != c.held {
			t.Errorf("%s at %g MHz: counts %v, held %v, doubts %s", c.line, c.mhz, low.Counts, low.AgainstClaim != nil, codes(low))
		}
		// As it is typed it is doubted likewise.
		s.facts.Measurements = nil
		typed, err := s.read("High", 146, text("4.9 13.8v"), a).open(t).Read(measure.Taking{Keyed: low.Keyed, Through: a}, text(c.line))
		if err != nil || strings.Contains(codes(typed.View), "levels-alike") != c.held {
			t.Errorf("%s at %g MHz, typed: %s %v", c.line, c.mhz, codes(typed.View), err)
		}
	}
}

// TestALimitOfMeanPower is held against the mean, one of PEP against the peak. (47 CFR 97.313, 1500 W PEP; a
// limit of 4 W of carrier power, 47 CFR 95.967: from memory.)
func TestALimitOfMeanPower(t *testing.T) {
	own, _ := rulebooks.Find("us-amateur")
	for _, c := range []struct {
		power string
		over  bool
	}{{"pep", true}, {"mean", false}, {"carrier", false}} {
		book := *own
		book.PowerLimits = []rulebook.PowerLimit{{MaxW: 10, Power: c.power, As: "transmitter", Citation: "a limit"}}
		s := begin("2m AM 8").read("High AM", 146, text("8 pk 30"), through("a", 0))
		r, err := measure.Open(&s.review, s.facts, s.review.Rules, func(string) (*rulebook.Book, bool) { return &book, true }, kinds.All())
		if err != nil {
			t.Fatal(err)
		}
		if got := codes(power.Of(r).Readings()[0]); strings.Contains(got, "over-legal") != c.over {
			t.Errorf("%s: %s", c.power, got)
		}
	}
}

// TestEdgesOfCurves: voltages 0.3 V apart are two; a run is four readings over a minute and within four hours.
func TestEdgesOfCurves(t *testing.T) {
	for volts, want := range map[string]int{"13.49v": 1, "13.51v": 0} {
		d := begin("2m 5").read("High", 146, text("5 13.8v"), through("a", 0)).read("High", 146, text("4.8 "+volts), through("a", 0)).open(t)
		if got := d.Study().Supply; len(got) != want {
			t.Errorf("13.8 V and %s: %d curves", volts, len(got))
		}
	}
	for _, c := range []struct {
		n    int
		over time.Duration
		want int
	}{{4, time.Minute, 1}, {3, time.Minute, 0}, {4, 59 * time.Second, 0}, {5, 4 * time.Hour, 1}, {5, 4*time.Hour + time.Second, 0}} {
		s := begin("2m 5")
		for i := range c.n {
			s.read("High", 146, text(fmt.Sprintf("%g", 5-0.1*float64(i))), through("a", 0))
			s.facts.Measurements[i].TakenAt = time.Date(2026, 1, 1, 12, 0, 0, 0, time.UTC).Add(c.over * time.Duration(i) / time.Duration(c.n-1))
		}
		if got := s.open(t).Study().Time; len(got) != c.want {
			t.Errorf("%d over %s: %d curves", c.n, c.over, len(got))
		}
	}
}

// TestSpeechChangesNothing of an FM carrier, within 0.2 dB (common practice, no source).
func TestSpeechChangesNothing(t *testing.T) {
	for line, checked := range map[string]bool{"10 pk 10.46": true, "10 pk 10.49": false, "10 pk 9.56": true, "10 pk 9.54": false} {
		r := begin("2m 10").read("High", 146, text(line), through("a", 0)).open(t).Readings()[0]
		if (r.Speech != "") != checked || strings.Contains(codes(r), "speech") == checked {
			t.Errorf("%s: %q, %s", line, r.Speech, codes(r))
		}
	}
}
