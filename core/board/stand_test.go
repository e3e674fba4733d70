package board_test

import (
	"math"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/kit"
	"talloak/core/measure/emissions"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/rulebooks"
)

// TestOrderNeverDecides: readings through one wiring stand as if typed in one line, whichever
// came last.
func TestOrderNeverDecides(t *testing.T) {
	line, _ := powerOf(begin().read("High", "4.5 4.3 4.4").open(t), high)
	for _, texts := range [][]string{{"4.5", "4.3", "4.4"}, {"4.3", "4.4 4.5"}, {"4.4", "4500 mW", "4.3"}} {
		s := begin()
		for _, text := range texts {
			s.read("High", text)
		}
		if r, of := powerOf(s.open(t), high); of != len(texts) || math.Abs(*r.MeasuredW-*line.MeasuredW) > 1e-12 || math.Abs(*r.LowW-*line.LowW) > 1e-12 || math.Abs(*r.HighW-*line.HighW) > 1e-12 {
			t.Errorf("%v: %v (%v to %v), in one line %v (%v to %v)", texts, *r.MeasuredW, *r.LowW, *r.HighW, *line.MeasuredW, *line.LowW, *line.HighW)
		}
	}
}

// TestContradictionsAreDoubted, both, until one is struck or the difference explained;
// a clear fail at another frequency fails all the same.
func TestContradictionsAreDoubted(t *testing.T) {
	s := begin().read("High", "4.8").read("High", "3")
	p := s.open(t).PowerOf(high)
	if p.Verdict != decision.Inconclusive || !strings.Contains(p.Why, "contradict") {
		t.Errorf("%s, %s", p.Verdict, p.Why)
	}
	for _, r := range s.open(t).Readings() {
		if !strings.Contains(codes(&r), "contradicts") {
			t.Errorf("%q is not doubted: %s", r.Text, codes(&r))
		}
	}
	if p := begin().read("High", "4.8").read("High", "3").say("reading 1", "struck").open(t).PowerOf(high); p.Verdict != decision.Pass {
		t.Errorf("one struck: %s", p.Verdict)
	}
	if p := begin().read("High", "4.8").read("High", "2").say("reading 1", "explained").open(t).PowerOf(high); p.Verdict != decision.Fail {
		t.Errorf("explained, the lower stands: %s", p.Verdict)
	}
	if p := begin().read("High", "4.8 8v").read("High", "3 7v").open(t).PowerOf(high); p.Verdict != decision.Void {
		t.Errorf("below the radio's own 11 V: %s", p.Verdict)
	}
	if p := begin().read("High", "4.8 13.8v").read("High", "2 11.5v").open(t).PowerOf(high); p.Verdict != decision.Fail {
		t.Errorf("at two supplies no contradiction: %s, %s", p.Verdict, p.Why)
	}
	s = begin().read("High", "4.8").read("High", "4").read("High", "2")
	s.facts.Readings[2].FrequencyHz = 144.1e6
	if p := s.open(t).PowerOf(high); p.Verdict != decision.Fail || p.Reading.Text != "2" || len(p.Frequencies) != 2 {
		t.Errorf("%s by %q", p.Verdict, p.Reading.Text)
	}
	// The carrier's power is as uncertain as they scatter: no relative figure rests on one of them.
	e := begin().read("High", "4.8").read("High", "1.2").look("High", 1530, -30).open(t).Emissions(high, false)
	if e.Budget.Relative < 5 {
		t.Errorf("%+v, ±%v dB", e.Ruling.Findings, e.Budget.Relative)
	}
}

// TestOutsideTheBandClaimed: kept at its own frequency, held against no claim, and
// said on power and emissions alike.
func TestOutsideTheBandClaimed(t *testing.T) {
	s := begin().read("High", "1 f 150.1").look("High", 1530, -7)
	s.facts.Sweeps[0].FrequencyHz = 150.1e6
	d := s.open(t)
	r := d.Readings()[0]
	if !r.Outside || !r.Counts || r.AgainstClaim != nil || r.FrequencyHz != 150.1e6 || !strings.Contains(codes(&r), "outside-band") {
		t.Errorf("%+v", r)
	}
	c := d.Board(false).Cells[0]
	if c.Power != decision.NotCovered || !strings.Contains(c.PowerWhy, "outside") || c.Verdict != decision.NotCovered || !c.Emissions.Outside || len(c.Frequencies) != 0 {
		t.Errorf("%s %q, %s %q", c.Power, c.PowerWhy, c.Verdict, c.Why)
	}
	// A good one inside stands beside it.
	s.read("High", "4.8").look("High", 1530, -30)
	d = s.open(t)
	if p := d.PowerOf(high); p.Verdict != decision.Pass || p.Reading.Text != "4.8" {
		t.Errorf("%s", p.Verdict)
	}
	if e := d.Emissions(high, false); e.FrequencyHz != 146e6 || e.Outside || len(e.Others) != 1 || !e.Others[0].Outside {
		t.Errorf("%v, %+v", e.FrequencyHz, e.Others)
	}
}

// TestEveryDoubtIsShown: none is worked out and dropped.
func TestEveryDoubtIsShown(t *testing.T) {
	for text, want := range map[string]string{
		"4 4.6": "unsteady", "4.8 fr .4": "swr", "4.8 swr 1.5": "swr", "4.8 l": "level-shown", "8": "over-claim", "4.8 13.8v 3a": "supply-limit", "0": "zero", "4.8 10v": "supply-low",
	} {
		s := begin()
		s.review.Claims = s.review.Claims[:1]
		s.read("High", text)
		through := meterPath
		limit := 3.0
		through.Supply = &record.SupplyCopy{Name: "supply", SetV: 13.8, Range: kit.SupplyRange{FromV: 13.8, ToV: 13.8, LimitA: &limit}}
		s.facts.Readings[0].Through = through
		if r := s.open(t).Readings()[0]; !strings.Contains(codes(&r), want) {
			t.Errorf("%q: %s, want %s", text, codes(&r), want)
		}
	}
}

// TestInUseIsNoMeasurement: into an antenna it is kept and not held against the claim.
func TestInUseIsNoMeasurement(t *testing.T) {
	s := begin().read("High", "4.8")
	through := meterPath
	through.Kit = append(through.Kit[:2:2], record.KitCopy{Name: "whip", Spec: kit.Spec{Kind: kit.Antenna}})
	s.facts.Readings[0].Through = through
	d := s.open(t)
	if r := d.Readings()[0]; !r.InUse || r.Counts || r.AgainstClaim != nil || !strings.Contains(r.WhyNot, "antenna") {
		t.Errorf("%+v", r)
	}
	if p := d.PowerOf(high); p.Verdict != decision.Void {
		t.Errorf("%s", p.Verdict)
	}
}

// TestLegalMaximum: only of a book that governs the carrier, doubted only where it is
// the transmitter's, or in ERP with the antenna's gain told.
func TestLegalMaximum(t *testing.T) {
	s := begin().read("High", "4.8").read("High", "4.8 f 150.1")
	all := s.open(t).Readings()
	if all[0].LegalMaxW == nil || *all[0].LegalMaxW != 1500 || all[1].LegalMaxW != nil {
		t.Errorf("%v %v", all[0].LegalMaxW, all[1].LegalMaxW)
	}
	book, _ := rulebooks.Find("us-amateur")
	tight := *book
	gain := func(dBd float64) *float64 { return &dBd }
	for _, c := range []struct {
		as   string
		gain *float64
		over bool
		most float64
	}{{"transmitter", nil, true, 2}, {"erp", nil, false, 2}, {"erp", gain(3), true, 2 / math.Pow(10, 0.3)}, {"erp", gain(-6), false, 2 * math.Pow(10, 0.6)}} {
		limit := book.PowerLimits[len(book.PowerLimits)-1]
		limit.MaxW, limit.As = 2, c.as
		s.review.Subject.AntennaGainDBd = c.gain
		tight.PowerLimits = append(tight.PowerLimits[:0:0], limit)
		d := s.open(t)
		d.Review.Book = &tight
		r, err := d.Preview(record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146e6}, "4.8", &meterPath, "")
		if err != nil || strings.Contains(codes(&r), "over-legal") != c.over || math.Abs(*r.LegalMaxW-c.most) > 1e-9 {
			t.Errorf("%+v: %s %v %v", c, codes(&r), *r.LegalMaxW, err)
		}
	}
}

// TestVoidIsNeverDropped: what cannot be worked out any more makes its box void.
func TestVoidIsNeverDropped(t *testing.T) {
	s := begin().read("High", "4.8").read("High", "4.8").look("High", 1530, -30).look("High", 1530, -30)
	s.facts.Readings[1].Through = noMeterPath
	broken := analyzerPath
	broken.Kit = append([]record.KitCopy{{Name: "odd", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator}}}}, broken.Kit...)
	s.facts.Sweeps[1].Through = broken
	c := s.open(t).Board(false).Cells[0]
	if c.Power != decision.Void || !strings.Contains(c.PowerWhy, "cannot be worked out") || c.Verdict != decision.Void || !strings.Contains(c.Why, "cannot be worked out") {
		t.Errorf("%s %q, %s %q", c.Power, c.PowerWhy, c.Verdict, c.Why)
	}
	s.say("reading 1", "struck").say("sweep 1", "struck")
	if c := s.open(t).Board(false).Cells[0]; c.Power != decision.Pass || c.Verdict != decision.Pass {
		t.Errorf("struck: %s, %s %q", c.Power, c.Verdict, c.Why)
	}
}

// TestWhatIsSaidOfABox: four things that are not the same.
func TestWhatIsSaidOfABox(t *testing.T) {
	at := func(claim string, hz float64) cell {
		s := begin()
		s.review.Claims = []record.Claim{{Text: claim}}
		if hz > 0 {
			s.look("High", 1530, -30)
			row := &s.facts.Sweeps[0]
			row.Band, row.FrequencyHz = strings.Fields(claim)[0], hz
			levels := emissions.UnpackLevels(row.Levels)
			levels[116], levels[int(hz/1e6)-30] = -90, levels[116]
			row.Levels = emissions.PackLevels(levels)
		}
		return s.open(t).Board(false).Cells[0]
	}
	for want, c := range map[decision.Verdict]cell{
		decision.NoLimit:     at("70cm 5", 446e6),
		decision.NotGoverned: at("GMRS 5", 463e6),
		decision.NotExamined: at("2m 5", 0),
	} {
		if c.Verdict != want {
			t.Errorf("%s: %s, want %s", c.Name, c.Verdict, want)
		}
	}
	// One swept outside the band stands for no box, not even one that has no limit.
	s := begin().look("High", 1530, -30).look("High", 1530, -30)
	s.review.Claims = []record.Claim{{Text: "70cm 5"}}
	for i, hz := range []float64{510e6, 446e6} {
		row := &s.facts.Sweeps[i]
		row.Band, row.FrequencyHz = "70cm", hz
		levels := emissions.UnpackLevels(row.Levels)
		levels[116], levels[int(hz/1e6)-30] = -90, levels[116]
		row.Levels = emissions.PackLevels(levels)
	}
	if c := s.open(t).Board(false).Cells[0]; c.Verdict != decision.NoLimit || c.Emissions.FrequencyHz != 446e6 {
		t.Errorf("%s at %v", c.Verdict, c.Emissions.FrequencyHz)
	}
	s = begin().read("High", "4")
	s.review.Claims = []record.Claim{{Text: "2m ?"}}
	if c := s.open(t).Board(false).Cells[0]; c.Power != decision.NoClaim {
		t.Errorf("%s", c.Power)
	}
	// One level in two modes is two boxes, and both are called by their mode.
	s = begin()
	s.review.Claims = []record.Claim{{Text: "10m AM 4 pep 12 SSB"}}
	if b := s.open(t).Board(false); len(b.Cells) != 2 || b.Cells[0].Name != "10m High AM" || b.Cells[1].Name != "10m High SSB" {
		t.Errorf("%+v", b.Cells)
	}
}

// TestPooledRepeats: what one key-up scatters widens another's single reading on the
// same meter; a struck one does not.
func TestPooledRepeats(t *testing.T) {
	u := func(s *scene) float64 {
		d := s.open(t)
		return *d.Readings()[0].HighW / *d.Readings()[0].MeasuredW
	}
	alone, steady := u(begin().read("High", "4.8")), u(begin().read("High", "4.8").read("Low", "1 1 1 1 1 1"))
	bouncing, struck := u(begin().read("High", "4.8").read("Low", "0.9 1.1")), u(begin().read("High", "4.8").read("Low", "0.9 1.1").say("reading 1", "struck"))
	if !(steady < alone && alone < bouncing) || math.Abs(struck-alone) > 1e-12 {
		t.Errorf("alone %v, beside steady ones %v, beside bouncing ones %v, struck %v", alone, steady, bouncing, struck)
	}
}

// TestTypicalNeverPerfect: a meter, pad or analyzer that nobody stated the accuracy
// of counts with that of its kind, and the budget says so.
func TestTypicalNeverPerfect(t *testing.T) {
	bare := record.Through{Name: "bare", Kit: []record.KitCopy{
		{Name: "pads", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(50)}, MaxW: v(25)}}},
		{Name: "analyzer", Spec: kit.Spec{Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9}}}}},
	}}
	s := begin().look("High", 1530, -30)
	s.facts.Sweeps[0].Through = bare
	budget := s.open(t).Emissions(high, false).Budget
	if want := 2 * math.Hypot(2/math.Sqrt(3), 0.5/math.Sqrt(3)); math.Abs(budget.Absolute-want) > 1e-9 || !strings.Contains(budget.Parts[0].Source, "typical") || !strings.Contains(budget.Parts[1].Source, "typical of its kind for pads") {
		t.Errorf("%+v, want %v", budget, want)
	}
	s = begin().read("High", "5")
	s.facts.Readings[0].Through = record.Through{Kit: []record.KitCopy{{Name: "meter", Spec: kit.Spec{Element: path.Element{Kind: path.Meter}, Meter: &reading.Meter{}}}}}
	line := s.open(t).Readings()[0].Result.Budget[0]
	if math.Abs(line.Relative-0.1/math.Sqrt(3)) > 1e-9 || !strings.Contains(line.Source, "typical of its kind") {
		t.Errorf("%+v", line)
	}
	// The radio's own SWR at its harmonics is in the budget, 3 unless told.
	s = begin().look("High", 1530, -30)
	through := analyzerPath
	through.Kit = append([]record.KitCopy{{Name: "pad", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(0)}, ToleranceDB: v(0.1), SWR: v(1.2)}}}}, through.Kit...)
	s.facts.Sweeps[0].Through = through
	typical := s.open(t).Emissions(high, false).Budget
	s.review.Rules.SourceSWR = 1.5
	told := s.open(t).Emissions(high, false).Budget
	if p := typical.Parts[2]; !strings.Contains(p.Source, "SWR 3 into 1.2, typical") || math.Abs(p.DB-0.279) > 0.001 || told.Absolute >= typical.Absolute || strings.Contains(told.Parts[2].Source, "typical") {
		t.Errorf("%+v %+v", typical, told)
	}
}

// TestAClaimIsHeldWithItsUncertainty: 3.81 W of 5 is over 71 %, but its low end is not.
func TestAClaimIsHeldWithItsUncertainty(t *testing.T) {
	s := begin().read("High", "3.4")
	if p := s.open(t).PowerOf(high); p.Verdict != decision.Inconclusive {
		t.Errorf("%s, %s", p.Verdict, p.Why)
	}
	s.review.Rules.DecisionRule = "simple"
	if p := s.open(t).PowerOf(high); p.Verdict != decision.Pass {
		t.Errorf("simple: %s", p.Verdict)
	}
}

// TestTheWidestBudgetCounts of several sweeps, whichever came first; and a carrier
// that disagrees with the meter is noted on the board.
func TestTheWidestBudgetCounts(t *testing.T) {
	rough := analyzerPath
	rough.Kit = append(rough.Kit[:1:1], rough.Kit[1])
	rough.Kit[1].Spec.AccuracyDB = 3
	for _, first := range []int{0, 1} {
		s := begin().read("High", "4.5").look("High", 1530, -30).look("High", 1530, -30)
		s.facts.Sweeps[first].Through = rough
		if b := s.open(t).Emissions(high, false).Budget; b.Parts[0].DB != 3/math.Sqrt(3) {
			t.Errorf("sweep %d rough: %+v", first, b.Parts[0])
		}
	}
	s := begin().read("High", "4.5").look("High", 1530, -30)
	s.facts.Sweeps[0].Through = meterlessOffset(28)
	if c := s.open(t).Board(false).Cells[0]; len(c.Notes) != 1 || !strings.Contains(c.Notes[0].Detail, "25.0 dB apart") || c.Verdict != decision.SoFar || !strings.Contains(c.Why, "no harmonic covered") {
		t.Errorf("%s %q", c.Verdict, c.Notes)
	}
}

// TestNotToldWhetherModulated: swept narrower than the emission, a pass is so far only
// until it is told.
func TestNotToldWhetherModulated(t *testing.T) {
	for told, want := range map[string]decision.Verdict{"": decision.SoFar, "bare": decision.Pass} {
		s := begin().read("High", "4.5").look("High", 1530, -30)
		s.review.Rules.BandwidthHz = 25e3
		s.facts.Sweeps[0].RBWHz, s.facts.Sweeps[0].Modulated = 20e3, told
		c := s.open(t).Board(false).Cells[0]
		if c.Verdict != want || strings.Contains(c.Why, "not told whether modulated") != (told == "") || len(c.Notes) != map[bool]int{true: 1}[told == ""] {
			t.Errorf("told %q: %s, %s, %+v", told, c.Verdict, c.Why, c.Notes)
		}
	}
}

// TestTheCeilingDrawnIsTheRuledOne: with its peaks, and not across the carrier.
func TestTheCeilingDrawnIsTheRuledOne(t *testing.T) {
	e := begin().read("High", "4.5 pk 9").look("High", 1530, -30).open(t).Emissions(high, false)
	if e.PEPW == nil || len(e.Ceiling) != 2 || e.Ceiling[0].ToHz != 146e6-e.Ruling.Coverage.NearCarrierHz || e.Ceiling[1].FromHz != 146e6+e.Ruling.Coverage.NearCarrierHz {
		t.Errorf("%v %+v", e.PEPW, e.Ceiling)
	}
	if got, want := *e.Ceiling[1].LimitDBm, *e.Ruling.Products[0].LimitDBm; got != want {
		t.Errorf("drawn %v, ruled %v", got, want)
	}
}
