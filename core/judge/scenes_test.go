package judge

import (
	"math"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/origin"
	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/rulebooks"
)

// scene is a ruling on a 146 MHz carrier of 5 W, swept in 1 MHz steps behind 50 dB.
func scene(t *testing.T, sweeps ...Sweep) Input {
	t.Helper()
	book, ok := rulebooks.Find("us-amateur")
	if !ok {
		t.Fatal("no book")
	}
	w := 5.0
	return Input{
		Book: book, Carrier: rulebook.Carrier{Frequency: 146e6, State: rulebook.Operating}, MeanW: &w, BandwidthHz: 16e3,
		Sweeps: sweeps, Rule: decision.Guarded, Uncertainty: rulebook.Uncertainty{Absolute: 1.5, Relative: 1.5}, CarrierU: 1.5,
	}
}

func line1MHz(name string, from, to int, noise float64, lines map[int]float64) Sweep {
	s := Sweep{Name: name, Path: path.FlatLoss(50), Detector: "peak", Trace: sweep.Trace{Start: units.Hertz(from) * 1e6, Stop: units.Hertz(to) * 1e6, RBW: 100e3, Levels: make([]float64, to-from+1)}}
	for i := range s.Trace.Levels {
		s.Trace.Levels[i] = noise
	}
	for f, l := range lines {
		s.Trace.Levels[f-from] = l
	}
	return s
}

func judge(t *testing.T, in Input) Ruling {
	t.Helper()
	r, err := Judge(in)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func codes(r Ruling) string {
	var out []string
	for _, f := range r.Findings {
		out = append(out, string(f.Code))
	}
	return strings.Join(out, " ")
}

// TestSweepsThatMeetCoverTogether, and one that is blind is helped by another.
func TestSweepsThatMeetCoverTogether(t *testing.T) {
	low := line1MHz("low", 30, 700, -90, map[int]float64{146: -13})
	high := line1MHz("high", 700, 1530, -90, nil)
	r := judge(t, scene(t, low, high))
	if !r.Coverage.Complete || len(r.Coverage.Examined) != 1 || *r.Coverage.PassesToHz != 1530e6 {
		t.Errorf("%+v", r.Coverage)
	}
	noisy := line1MHz("noisy", 30, 1530, -62, map[int]float64{146: -13})
	blind := judge(t, scene(t, noisy))
	if blind.Verdict != decision.NotCovered || blind.Coverage.HighestHarmonic != nil || len(blind.Coverage.Blind) != 2 || blind.Coverage.PassesToHz != nil {
		t.Errorf("%s %+v", blind.Verdict, blind.Coverage)
	}
	helped := judge(t, scene(t, noisy, low, high))
	if helped.Verdict != decision.Pass || len(helped.Coverage.Blind) != 0 {
		t.Errorf("%s %+v", helped.Verdict, helped.Coverage)
	}
	gap := judge(t, scene(t, low, line1MHz("above", 800, 1530, -90, nil)))
	if *gap.Coverage.PassesToHz != 700e6 || *gap.Coverage.HighestHarmonic != 4 || gap.Coverage.Complete || gap.Products[3].Verdict != decision.NotCovered {
		t.Errorf("%+v", gap.Coverage)
	}
}

// TestSameSpurCountsOnce at its highest, whichever sweep shows it.
func TestSameSpurCountsOnce(t *testing.T) {
	a := line1MHz("a", 30, 1530, -90, map[int]float64{146: -13, 333: -75, 601: -80})
	b := line1MHz("b", 30, 1530, -90, map[int]float64{146: -13, 334: -71})
	var spurs []Product
	for _, p := range judge(t, scene(t, a, b)).Products {
		if p.Kind == Spur {
			spurs = append(spurs, p)
		}
	}
	if len(spurs) != 2 || *spurs[0].LevelDBm != -21 || *spurs[0].Sweep != "b" || *spurs[1].FrequencyHz != 601e6 {
		t.Errorf("%d spurs: %+v", len(spurs), spurs)
	}
}

// TestASuspectGivesWayToAClearOne: the same harmonic seen without suspicion in
// another sweep is what counts, though lower.
func TestASuspectGivesWayToAClearOne(t *testing.T) {
	shi, toi, att := 20.0, 30.0, 0.0
	fifty := 50.0
	hot, err := path.Compile([]path.Element{
		{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &fifty}},
		{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9}}, SHIDBm: &shi, TOIDBm: &toi, InputAttenuationDB: &att},
	})
	if err != nil {
		t.Fatal(err)
	}
	over := line1MHz("overdriven", 30, 1530, -90, map[int]float64{146: -13, 292: -46})
	over.Path = hot
	alone := judge(t, scene(t, over))
	if alone.Verdict != decision.Inconclusive || !alone.Products[0].Suspect || codes(alone) != "suspect-self-made" {
		t.Errorf("%s, %q", alone.Verdict, codes(alone))
	}
	clear := line1MHz("clear", 30, 1530, -90, map[int]float64{146: -13, 292: -75})
	both := judge(t, scene(t, over, clear))
	if both.Verdict != decision.Pass || both.Products[0].Suspect || *both.Products[0].LevelDBm != -25 || *both.Products[0].Sweep != "clear" {
		t.Errorf("%s %+v", both.Verdict, both.Products[0])
	}
	// An unseen bound outranks nothing that was seen, not even a suspect.
	unseen := judge(t, scene(t, over, line1MHz("sees nothing", 30, 1530, -90, map[int]float64{146: -13})))
	if unseen.Verdict != decision.Inconclusive {
		t.Errorf("a suspect vanished: %s", unseen.Verdict)
	}
}

// TestHarmonicsAboveTheTenth show when they are there, and only then.
func TestHarmonicsAboveTheTenth(t *testing.T) {
	r := judge(t, scene(t, line1MHz("far", 30, 2000, -90, map[int]float64{146: -13, 1752: -60})))
	if len(r.Products) != 10 || *r.Products[9].Order != 12 || r.Verdict != decision.Fail || *r.Coverage.HighestHarmonic != 13 {
		t.Errorf("%d products, %s, %v", len(r.Products), r.Verdict, *r.Coverage.HighestHarmonic)
	}
}

// TestHumpsAreSummedOverTheReference: 25 points of -60 dBm displayed, a step of
// 10 kHz and an RBW of 10 kHz: within 100 kHz there are ten or eleven of them,
// 10 to 10.4 dB more than one. A single line is left as it is, and with an RBW
// above the reference an excess is too close to call.
func TestHumpsAreSummedOverTheReference(t *testing.T) {
	book, err := rulebook.Parse([]byte(`{"id":"r","title":"","kind":"house","source":"a test","recalled":false,
		"clauses":[{"when":{},"citation":"c","segments":[{"terms":[{"absolute_dbm":-5}],"reference_bandwidth_hz":100000}]}]}`))
	if err != nil {
		t.Fatal(err)
	}
	at := func(rbw units.Hertz, level float64, points int) Product {
		tr := sweep.Trace{Start: 140e6, Stop: 160e6, RBW: rbw, Levels: make([]float64, 2001)}
		for i := range tr.Levels {
			tr.Levels[i] = -100
		}
		tr.Levels[600] = -13
		for i := range points {
			tr.Levels[1200+i] = level
		}
		in := scene(t, Sweep{Name: "s", Trace: tr, Path: path.FlatLoss(50)})
		in.Book = book
		r := judge(t, in)
		return r.Products[len(r.Products)-1]
	}
	if p := at(10e3, -60, 25); p.Kind != Spur || math.Abs(*p.LevelDBm-0.2) > 0.25 || p.Verdict != decision.Fail {
		t.Errorf("a hump: %v dBm, %s", *p.LevelDBm, p.Verdict)
	}
	if p := at(10e3, -60, 1); *p.LevelDBm != -10 || p.Verdict != decision.Pass {
		t.Errorf("a line: %v dBm, %s", *p.LevelDBm, p.Verdict)
	}
	if p := at(120e3, -50, 40); *p.LevelDBm != 0 || p.Verdict != decision.Inconclusive {
		t.Errorf("a hump seen too wide: %v dBm, %s", *p.LevelDBm, p.Verdict)
	}
}

// TestTheCarriersFootIsNotPassedOver: what stands over the limit beside the carrier,
// further out than its skirt, belongs to no product of its own; it is too close to
// call, and never left unsaid in a stretch called examined.
func TestTheCarriersFootIsNotPassedOver(t *testing.T) {
	foot := map[int]float64{146: -13}
	for d := 1; d <= 6; d++ {
		foot[146-d], foot[146+d] = -40-float64(d), -40-float64(d)
	}
	r := judge(t, scene(t, line1MHz("foot", 30, 1530, -90, foot)))
	var sides []float64
	for _, p := range r.Products {
		if p.Kind == Spur {
			sides = append(sides, *p.FrequencyHz)
			if p.Verdict != decision.Inconclusive {
				t.Errorf("%v: %s", units.Hertz(*p.FrequencyHz), p.Verdict)
			}
		}
	}
	if len(sides) != 2 || sides[0] != 145e6 || sides[1] != 147e6 || r.Verdict != decision.Inconclusive {
		t.Errorf("%v, %s", sides, r.Verdict)
	}
}

// TestOverloadIsSaid: more at the input than it survives.
func TestOverloadIsSaid(t *testing.T) {
	most, twenty := -25.0, 20.0
	p, err := path.Compile([]path.Element{
		{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &twenty}},
		{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 1e9, MaxInputDBm: &most}}},
	})
	if err != nil {
		t.Fatal(err)
	}
	s := line1MHz("hot", 30, 1530, -90, map[int]float64{146: 17})
	s.Path = p
	r := judge(t, scene(t, s))
	if got := codes(r); got != "overload self-made-unverified" {
		t.Errorf("%q", got)
	}
	// Nothing is known of the carrier where neither meter nor sweep saw one.
	blank := line1MHz("blank", 30, 1530, -90, nil)
	blank.Path = p
	unknown := scene(t, blank)
	unknown.MeanW = nil
	if got := codes(judge(t, unknown)); got != "carrier-unchecked carrier-missing self-made-unverified" {
		t.Errorf("%q", got)
	}
	if *r.Coverage.ToHz != 1e9 {
		t.Errorf("examined to %v, beyond the analyzer's reach", *r.Coverage.ToHz)
	}
}

// TestInputIsNotChanged: judging reads its input only.
func TestInputIsNotChanged(t *testing.T) {
	s := line1MHz("s", 30, 1530, -90, map[int]float64{146: -13, 292: -50})
	before := append([]float64{}, s.Trace.Levels...)
	in := scene(t, s)
	first, second := judge(t, in), judge(t, in)
	for i := range before {
		if before[i] != s.Trace.Levels[i] {
			t.Fatalf("point %d changed", i)
		}
	}
	if first.Verdict != second.Verdict || *first.Worst.LevelDBm != *second.Worst.LevelDBm || in.Carrier.MeanW != 0 {
		t.Error("judging twice differs")
	}
}

// TestPictureLosesNothing: the crest of every bucket is at the connector.
func TestPictureLosesNothing(t *testing.T) {
	s := line1MHz("s", 30, 1530, -90, map[int]float64{146: -13, 777: -41.5})
	highest := math.Inf(-1)
	for _, b := range Picture(s, 100, Anchor{}) {
		if b.FrequencyHz > 700e6 {
			highest = max(highest, *b.HighDBm)
		}
		if *b.NoiseDBm != -40 {
			t.Errorf("noise %v", *b.NoiseDBm)
		}
	}
	if highest != 8.5 {
		t.Errorf("highest %v", highest)
	}
}

// TestNotAboveIncludesItsGuard: of noise at -90 behind 50 dB the bound is -40 dBm; a line there
// may stand 20 log10(2) dB over what noise of its own level shows, beside U of 1.5 dB. The room
// under the limit is that of what it is not above.
func TestNotAboveIncludesItsGuard(t *testing.T) {
	r := judge(t, scene(t, line1MHz("wide", 30, 1600, -90, map[int]float64{146: -13})))
	for _, p := range r.Products {
		if p.Kind != Harmonic || *p.Order != 3 {
			continue
		}
		above := -40 + math.Hypot(1.5, 20*math.Log10(2))
		if p.Seen || math.Abs(*p.NotAboveDBm-above) > 1e-6 || math.Abs(*p.RoomDB-(*p.LimitDBm-above)) > 1e-6 || math.Abs(*p.MarginDB-(*p.LimitDBm+40)) > 1e-6 {
			t.Errorf("not above %v, room %v, margin %v", *p.NotAboveDBm, *p.RoomDB, *p.MarginDB)
		}
		return
	}
	t.Error("no 3rd harmonic")
}

// TestACombIsOfItsOwnLinesAlone: a spur between the teeth, or beyond them, could not come from it.
func TestACombIsOfItsOwnLinesAlone(t *testing.T) {
	lines := map[int]float64{146: -13, 357: -60, 417: -60}
	for f := 300; f <= 360; f += 10 {
		lines[f] = -60
	}
	r := judge(t, scene(t, line1MHz("a", 30, 700, -110, lines)))
	of := map[float64]bool{}
	for _, p := range r.Products {
		if p.Kind == Spur {
			for _, o := range p.Origins {
				of[*p.FrequencyHz] = of[*p.FrequencyHz] || o.Kind == origin.Comb
			}
		}
	}
	if !of[310e6] || !of[350e6] || of[357e6] || of[417e6] {
		t.Errorf("%v", of)
	}
}

// TestWithoutACarrierNothingIsRuled: its power is not known where nobody measured it and no sweep shows it.
func TestWithoutACarrierNothingIsRuled(t *testing.T) {
	in := scene(t, line1MHz("beside", 200, 700, -110, map[int]float64{292: -20, 500: -20}))
	in.MeanW = nil
	r := judge(t, in)
	if len(r.Products) == 0 || r.Verdict == decision.Pass || r.Verdict == decision.Fail {
		t.Errorf("%s, %d products", r.Verdict, len(r.Products))
	}
	for _, p := range r.Products {
		if p.Verdict != decision.Void && p.Verdict != decision.NotCovered {
			t.Errorf("%s: %s", p.Name(), p.Verdict)
		}
		if p.Seen && p.Verdict != decision.Void {
			t.Errorf("%s is seen and %s", p.Name(), p.Verdict)
		}
	}
}
