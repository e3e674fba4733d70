package judge

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/span"
	"talloak/core/sweep"
	"talloak/core/units"
)

// flat is a trace of n points one step apart from start, at one level.
func flat(start, step units.Hertz, n int, rbw units.Hertz, level float64) sweep.Trace {
	t := sweep.Trace{Start: start, Stop: start + units.Hertz(n-1)*step, RBW: rbw, Levels: make([]float64, n)}
	for i := range t.Levels {
		t.Levels[i] = level
	}
	return t
}

// TestWindows: how far a product may show beside a multiple of its carrier: a point and the resolution of a
// trace, more where the carrier lies off its place; 0.1 % or as told of a look; 1 % at the most of a list.
func TestWindows(t *testing.T) {
	near := func(a, b units.Hertz) bool { return math.Abs(float64(a-b)) < 1 }
	e := evidence{trace: flat(0, 1e6, 2001, 100e3, -90)}
	if centre, half := e.window(3, 146e6); !near(centre, 438e6) || !near(half/(1+1e-9), 1.1e6) {
		t.Errorf("a trace: %v at %v", half, centre)
	}
	e.misplaced = 2e6
	if centre, half := e.window(3, 146e6); !near(centre, 444e6) || !near(half/(1+1e-9), 2.6e6) {
		t.Errorf("off its place: %v at %v", half, centre)
	}
	look := evidence{isLook: true, tolerance: 100e3}
	if a, b := look.lookWindow(50e6), look.lookWindow(1e9); a != 100e3 || b != 1e6 {
		t.Errorf("a look: %v, %v", a, b)
	}
	for _, c := range []struct {
		step, rbw units.Hertz
		peak      bool
		want      units.Hertz
	}{{5e6, 1e6, false, 3e6}, {1e6, 100e3, false, 1.1e6}, {5e6, 10e6, false, 10e6}, {5e6, 0, false, 3e6}, {40e3, 0, false, 300e3}, {10e6, 1e6, true, 7.5e6}} {
		list := evidence{isList: true, peak: c.peak, trace: flat(0, c.step, 401, c.rbw, -90)}
		if got := list.listWindow(300e6); !near(got, c.want) {
			t.Errorf("a list of %v steps at %v: %v, want %v", c.step, c.rbw, got, c.want)
		}
	}
	uneven := evidence{isList: true, trace: flat(0, 5e6, 401, 1e6, -90)}
	uneven.trace.Uneven = make([]float64, 401)
	if got := uneven.listWindow(300e6); !near(got, 1e6) {
		t.Errorf("an uneven list: %v", got)
	}
	if a, b, c, d := (&evidence{idle: true}).skirtHalf(16e3), (&evidence{trace: flat(0, 1, 2, 10e3, 0)}).skirtHalf(16e3), (&evidence{trace: flat(0, 1, 2, 100e3, 0)}).skirtHalf(16e3), (&evidence{isLook: true, carrier: &line{f: 146e6}}).skirtHalf(16e3); a >= 0 || b != 40e3 || c != 300e3 || d != 146e3 {
		t.Errorf("skirts %v %v %v %v", a, b, c, d)
	}
}

// TestHumps: what is over three resolution bandwidths wide 6 dB down has its middle there; a line has none,
// nor has a figure of a list.
func TestHumps(t *testing.T) {
	for wide, want := range map[int]bool{1: false, 30: false, 31: true, 32: true, 60: true} {
		e := evidence{trace: flat(100e6, 10e3, 401, 100e3, -90)}
		for i := range wide + 1 {
			e.trace.Levels[200+i] = -60
		}
		e.trace.Levels[199], e.trace.Levels[201+wide] = -66.5, -66.5 // more than 6 dB down
		p := sweep.Peak{Level: -60, Index: 200}
		middle := e.humpMiddle(p)
		if (middle != 0) != want || want && math.Abs(float64(middle-e.trace.Frequency(200))-float64(wide)*5e3) > 1 {
			t.Errorf("%d points: %v", wide, middle)
		}
		e.isList = true
		if e.humpMiddle(p) != 0 {
			t.Errorf("a list has a hump of %d points", wide)
		}
	}
	e := evidence{trace: flat(100e6, 10e3, 401, 100e3, -66)} // 6 dB down is inside, to either end
	e.trace.Levels[200] = -60
	if got := e.humpMiddle(sweep.Peak{Level: -60, Index: 200}); got != 102e6 {
		t.Errorf("%v", got)
	}
}

// TestTheCarrierTypedInDBc: within 1 dB under it, at its place, it is the carrier itself.
func TestTheCarrierTypedInDBc(t *testing.T) {
	for dbc, itself := range map[float64]bool{0: true, -0.9: true, -1.1: false} {
		level := dbc
		l := Look{From: 30e6, To: 1e9, Path: path.FlatLoss(50), Peaks: []LookPeak{{Frequency: 146e6, DBc: &level}}}
		e := fromLook(&l, 146e6)
		e.addRelative(&l, 37, 146e6)
		if len(e.lines) != 1 || e.lines[0].used != itself {
			t.Errorf("%g dBc: %+v", dbc, e.lines)
		}
	}
}

// TestSecondLooksByTheirAttenuation: 6 dB more can tell what the analyzer makes itself: harmonic n falls by
// n - 1 dB a dB (the usual power series), half of which tells it from the radio's own.
func TestSecondLooksByTheirAttenuation(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	look := func(name string, carrier, loss float64) Standpoint {
		return Standpoint{Sweep: name, CarrierDBm: &carrier, LossDB: &loss}
	}
	pair := func(more float64) Second {
		order, f := 2, 292e6
		r := Ruling{Standpoints: []Standpoint{look("a", 37, 50), look("b", 37, 50+more)}, Products: []Product{{Kind: Harmonic, Order: &order, FrequencyHz: &f, Seen: true, Opened: &Opened{Sights: []Sight{{Sweep: "a", LevelDBm: v(-25)}, {Sweep: "b", LevelDBm: v(-30)}}}}}}
		two, ok := r.CompareLooks("a", "b")
		if !ok || len(two.Products) != 1 {
			t.Fatalf("%+v", two)
		}
		return two
	}
	for more, want := range map[float64]bool{5.9: false, 6: true, 10: true} {
		if got := pair(more); got.Padded != want || (got.Products[0].Says == Follows) != want {
			t.Errorf("%g dB more: %+v", more, got)
		}
	}
	for code, more := range map[string]float64{"second-less": -6, "second-changed": -5.9} {
		if got := pair(more).Says.Code; string(got) != code {
			t.Errorf("%g dB more: %s", more, got)
		}
	}
	order := 3
	for change, want := range map[float64]Change{-10: Follows, -9.9: Fell} { // of 20 dB that 10 dB more take off
		if got := (&Second{MoreDB: 10, Padded: true}).fell(&SecondProduct{Kind: Harmonic, Order: &order, ChangeDB: &change}); got != want {
			t.Errorf("%g dB: %s", change, got)
		}
	}
	down := -3.0
	for more, want := range map[float64]Change{-5.9: Follows, -6: Fell} { // through another analyzer
		if got := (&Second{MoreDB: more}).fell(&SecondProduct{Kind: Harmonic, Order: &order, ChangeDB: &down, Doubted: true}); got != want {
			t.Errorf("doubted, %g dB more: %s", more, got)
		}
	}
	if got := (&Second{MoreDB: 10, Padded: true}).fell(&SecondProduct{Kind: Spur, ChangeDB: v(-30)}); got != Fell {
		t.Errorf("a spur: %s", got)
	}
	// One that shows a product alone, and one that neither of the two shows.
	other := Product{Kind: Spur, FrequencyHz: v(333e6), Seen: true, Opened: &Opened{Sights: []Sight{{Sweep: "b", LevelDBm: v(-30)}}}}
	third := Product{Kind: Spur, FrequencyHz: v(444e6), Seen: true, Opened: &Opened{Sights: []Sight{{Sweep: "c", LevelDBm: v(-30)}}}}
	r := Ruling{Standpoints: []Standpoint{look("a", 37, 50), look("b", 37, 60)}, Products: []Product{other, third}}
	if two, _ := r.CompareLooks("a", "b"); len(two.Products) != 1 || two.Products[0].Says != Only {
		t.Errorf("%+v", two.Products)
	}
}

// TestAnInputOverWhatItSurvives: 37 dBm behind 27 dB are 10 dBm, and more is too much for 10.
func TestAnInputOverWhatItSurvives(t *testing.T) {
	ten, loss := 10.0, 27.0
	p, err := path.Compile([]path.Element{{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &loss}}, {Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: &ten}}}})
	if err != nil {
		t.Fatal(err)
	}
	for dbm, want := range map[units.DBm]bool{36.9: false, 37: false, 37.1: true} {
		s := line1MHz("a", 30, 1530, -90, map[int]float64{146: float64(dbm) - 27})
		s.Path = p
		in := scene(t, s)
		w := float64(dbm.Watts())
		in.MeanW = &w
		if got := strings.Contains(codes(judge(t, in)), "overload"); got != want {
			t.Errorf("%v dBm: overload %v", dbm, got)
		}
	}
}

// TestAModulatedProductHidesInANarrowBandwidth: of 16 kHz a bandwidth of 1 kHz shows 12 dB too little, so
// noise hides the limit that much sooner.
func TestAModulatedProductHidesInANarrowBandwidth(t *testing.T) {
	yes, no := true, false
	for _, c := range []struct {
		modulated *bool
		blind     bool
	}{{&yes, true}, {&no, false}} {
		s := line1MHz("a", 30, 1530, -80, map[int]float64{146: -13})
		s.Trace.RBW, s.Modulated = 20e3, c.modulated
		in := scene(t, s)
		in.BandwidthHz = 320e3
		if r := judge(t, in); (len(r.Coverage.Blind) > 0) != c.blind {
			t.Errorf("modulated %v: blind %v, codes %s", *c.modulated, r.Coverage.Blind, codes(r))
		}
	}
}

// TestOneSpurInTwoSights within what their frequencies may be off together: a point each.
func TestOneSpurInTwoSights(t *testing.T) {
	for apart, want := range map[int]int{0: 1, 2: 1, 3: 2} {
		r := judge(t, scene(t, line1MHz("a", 30, 1530, -90, map[int]float64{146: -13, 333: -70}), line1MHz("b", 30, 1530, -90, map[int]float64{146: -13, 333 + apart: -72})))
		spurs := 0
		for _, p := range r.Products {
			if p.Kind == Spur {
				spurs++
			}
		}
		if spurs != want {
			t.Errorf("%d MHz apart: %d spurs", apart, spurs)
		}
	}
}

// TestNoiseRaisesWhatStandsNearIt: the mean of two that stand 9 dB over their noise fails as one does.
func TestNoiseRaisesWhatStandsNearIt(t *testing.T) {
	sight := func(level units.DBm) *sighting {
		e := &evidence{path: path.FlatLoss(50)}
		return &sighting{e: e, level: level, shown: level - 50, f: 292e6, guard: rulebook.Guard{U: rulebook.Uncertainty{Absolute: 1.5, Relative: 1.5}, Raised: 3, Lifts: true}}
	}
	in := scene(t, line1MHz("a", 30, 1530, -90, map[int]float64{146: -13}))
	r := ruler{in: in, f0: 146e6, known: true, carrier: 37}
	c := in.Carrier
	c.MeanW, c.PEPW = 5, 5
	r.limits = in.Book.For(c)
	// 25 uW are -16.02 dBm (47 CFR 97.307(e), from memory).
	for level, want := range map[units.DBm]bool{-10: true, -11.4: true, -11.7: false} {
		if one, two := r.fails([]*sighting{sight(level)}, 292e6), r.fails([]*sighting{sight(level), sight(level)}, 292e6); one != want || two != want {
			t.Errorf("%v dBm: one fails %v, two %v", level, one, two)
		}
	}
}

// TestAListMayBeOffByItsCarrier: figures whose carrier reads 6 dB low speak against a pass that they are
// within 6 dB of.
func TestAListMayBeOffByItsCarrier(t *testing.T) {
	in := scene(t, line1MHz("a", 30, 1530, -90, map[int]float64{146: -13}))
	r := ruler{in: in, f0: 146e6, known: true, carrier: 37}
	c := in.Carrier
	c.MeanW, c.PEPW = 5, 5
	r.limits = in.Book.For(c)
	sees := &sighting{e: &evidence{path: path.FlatLoss(50)}, level: -25, f: 292e6, guard: rulebook.Guard{U: rulebook.Uncertainty{Absolute: 1.5, Relative: 1.5}}}
	for off, want := range map[units.DB]bool{0: true, -6: true, -8: false} {
		list := &sighting{e: &evidence{path: path.FlatLoss(50), isList: true, off: off}, level: -25, f: 292e6, guard: sees.guard}
		if got := r.passes([]*sighting{sees, list}, 292e6); got != want {
			t.Errorf("%g dB off: passes %v", off, got)
		}
	}
	if r.passes([]*sighting{{e: &evidence{path: path.FlatLoss(50), isList: true}, level: -25, f: 292e6, guard: sees.guard}}, 292e6) {
		t.Error("a list alone passes")
	}
}

// TestWithoutItsCarrier a sweep that looks there may read low by all that its floor allows, a list or look is
// not held against it.
func TestWithoutItsCarrier(t *testing.T) {
	for name, c := range map[string]struct {
		e   evidence
		off bool
	}{
		"a sweep": {evidence{}, true}, "a list": {evidence{isList: true}, false}, "a look": {evidence{isLook: true}, false}, "one that looks elsewhere": {evidence{known: span.Set{span.Of(200e6, 1e9)}}, false},
	} {
		e := c.e
		if e.path, e.trace, e.floor = path.FlatLoss(50), flat(30e6, 1e6, 971, 100e3, -90), sweep.NotedFloor(flat(30e6, 1e6, 971, 100e3, -90).Levels); e.known == nil {
			e.known = span.Set{span.Of(30e6, 1e9)}
		}
		w := 5.0
		r := ruler{in: Input{MeanW: &w}, f0: 146e6, known: true, carrier: 37, seen: []*evidence{&e}}
		r.agree()
		if (e.off != 0) != c.off || c.off && math.Abs(float64(e.off)-(-90+50-37)) > 10 {
			t.Errorf("%s: %g dB off", name, float64(e.off))
		}
	}
}

// TestWhatIsRefused: figures that no analyzer shows and no person means, each at its field.
func TestWhatIsRefused(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	good := func() Input {
		in := scene(t, line1MHz("a", 30, 1530, -90, map[int]float64{146: -13}))
		in.Looks = []Look{{From: 30e6, To: 1e9, FloorDBm: v(-90), Path: path.FlatLoss(50), Peaks: []LookPeak{{Frequency: 200e6, LevelDBm: v(-70)}}}}
		return in
	}
	if in := good(); in.Check() != nil {
		t.Fatal(in.Check())
	}
	for field, spoil := range map[string]func(*Input){
		"source_swr":                        func(in *Input) { in.SourceSWR = v(0.99) },
		"claimed_w":                         func(in *Input) { in.ClaimedW = v(0) },
		"emission_bandwidth_hz":             func(in *Input) { in.BandwidthHz = -1 },
		"expanded_uncertainty_db":           func(in *Input) { in.Uncertainty.Absolute = -0.1 },
		"expanded_uncertainty_dbc_db":       func(in *Input) { in.Uncertainty.Relative = -0.1 },
		"carrier_uncertainty_db":            func(in *Input) { in.CarrierU = -0.1 },
		"decision_rule":                     func(in *Input) { in.Rule = "hoped" },
		"sweeps":                            func(in *Input) { in.Sweeps, in.Looks = nil, nil },
		"sweeps[0].detector":                func(in *Input) { in.Sweeps[0].Detector = "loud" },
		"sweeps[0].hold":                    func(in *Input) { in.Sweeps[0].Hold = "tight" },
		"sweeps[0].standing":                func(in *Input) { in.Sweeps[0].Standing = "lost" },
		"looks[0].from_hz":                  func(in *Input) { in.Looks[0].From = -1 },
		"looks[0].to_hz":                    func(in *Input) { in.Looks[0].To = 30e6 },
		"looks[0].floor_dbm":                func(in *Input) { in.Looks[0].FloorDBm = v(-401) },
		"looks[0].reading_step_db":          func(in *Input) { in.Looks[0].Step = -1 },
		"looks[0].frequency_tolerance_hz":   func(in *Input) { in.Looks[0].Tolerance = -1 },
		"looks[0].peaks[0].frequency_hz":    func(in *Input) { in.Looks[0].Peaks[0].Frequency = 1.1e9 },
		"looks[0].peaks[0].reading_step_db": func(in *Input) { in.Looks[0].Peaks[0].Step = -1 },
		"looks[0].peaks[0].level_dbm":       func(in *Input) { in.Looks[0].Peaks[0].LevelDBm = v(401) },
		"looks[0].peaks[0].dbc":             func(in *Input) { in.Looks[0].Peaks[0] = LookPeak{Frequency: 200e6, DBc: v(-401)} },
	} {
		in := good()
		spoil(&in)
		if err := in.Check(); err == nil || !strings.Contains(fmt.Sprint(err), field+": ") {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// TestZeroHertz: the line an analyzer shows there is its own, as far as three bandwidths or two points.
func TestZeroHertz(t *testing.T) {
	for _, c := range []struct {
		start, rbw, at units.Hertz
		own            bool
	}{{0, 100e3, 2e6, true}, {0, 100e3, 3e6, false}, {0, 2e6, 6e6, true}, {0, 2e6, 7e6, false}, {1e6, 100e3, 2e6, false}} {
		e := evidence{trace: flat(c.start, 1e6, 101, c.rbw, -90), lines: []line{{f: c.at}, {f: 50e6}}}
		e.skipZero()
		if e.lines[0].used != c.own || e.lines[1].used || (len(e.zero) > 0) != c.own || (len(e.blind) > 0) != c.own {
			t.Errorf("from %v at %v, a line at %v: %+v", c.start, c.rbw, c.at, e.lines)
		}
	}
}

// TestWhatALineIsRatherThanAnother: of a look the nearer, of a trace the clear one, then the higher.
func TestWhatALineIsRatherThanAnother(t *testing.T) {
	look, trace := evidence{isLook: true}, evidence{}
	near, far := line{f: 292e6, shown: -80}, line{f: 292.2e6, shown: -60}
	if !look.rather(&near, &far, 292e6) || trace.rather(&near, &far, 292e6) {
		t.Error("the nearer of a look, the higher of a trace")
	}
	foot := line{f: 292e6, shown: -50, unclear: true}
	if trace.rather(&foot, &far, 292e6) || !trace.rather(&far, &foot, 292e6) {
		t.Error("what is clear goes before a foot")
	}
}

// TestCombsOfALook: as near as its lines were read, of a list half of what a figure stands for.
func TestCombsOfALook(t *testing.T) {
	for _, c := range []struct {
		e    evidence
		want bool
	}{
		{evidence{isLook: true, tolerance: 1e6}, true}, {evidence{isLook: true, tolerance: 10e3}, false},
		{evidence{isList: true, trace: flat(0, 5e6, 401, 1e6, -90)}, true}, {evidence{isList: true, trace: flat(0, 100e3, 401, 10e3, -90)}, false},
	} {
		e := c.e
		for i, off := range []units.Hertz{0, 300e3, -300e3, 300e3, -300e3, 0} { // 20 MHz apart, read to 0.3 MHz
			e.lines = append(e.lines, line{f: 200e6 + units.Hertz(i)*20e6 + off})
		}
		r := ruler{}
		if r.findComb(&e); (len(r.combs) > 0) != c.want {
			t.Errorf("%+v: %d combs", c.e.isLook, len(r.combs))
		}
	}
}

// TestOfNoLimitNothingIsOpen: where the book sets none, two that disagree leave nothing open.
func TestOfNoLimitNothingIsOpen(t *testing.T) {
	r := ruler{in: Input{Rule: decision.Guarded}, f0: 146e6, known: true}
	p := Product{Kind: Spur, Verdict: decision.NoLimit}
	a := &sighting{e: &evidence{name: "a", path: path.FlatLoss(0)}, level: -20}
	b := &sighting{e: &evidence{name: "b", path: path.FlatLoss(0)}, level: -60}
	if r.doubtApart(&p, []*sighting{a, b}, nil, 200e6); p.Verdict != decision.NoLimit || len(r.out.Findings) != 0 {
		t.Errorf("%s %+v", p.Verdict, r.out.Findings)
	}
}

// TestAFootOverTheLimit: what of the carrier's own hump stands over the limit, less its uncertainty, beyond the
// skirt is a product that nothing can be said of; under it there is none. (25 uW behind 50 dB are -66.02 dBm
// displayed: 47 CFR 97.307(e), from memory.)
func TestAFootOverTheLimit(t *testing.T) {
	for level, want := range map[float64]bool{-67.4: true, -67.7: false} {
		s := line1MHz("a", 30, 1530, -90, map[int]float64{145: level, 146: -13, 147: level, 148: level})
		r := judge(t, scene(t, s))
		foot := false
		for _, p := range r.Products {
			foot = foot || p.Kind == Spur
		}
		if foot != want {
			t.Errorf("%g dBm displayed: %v, %s %+v", level, foot, r.Verdict, r.Products[len(r.Products)-1])
		}
	}
}

// TestWhatTwoLooksSayTogether: by what each product did, and by how much more the second path takes.
func TestWhatTwoLooksSayTogether(t *testing.T) {
	zero, four := 0.0, 4.0
	of := func(more float64, carrier *float64, all ...Change) Second {
		s := Second{MoreDB: more, Padded: more >= morePad, Carrier: carrier}
		for _, c := range all {
			s.Products = append(s.Products, SecondProduct{Says: c})
		}
		return s
	}
	for code, s := range map[string][]Second{
		"second-none": {of(10, &zero)}, "second-own": {of(10, &zero, Follows, Stays), of(0, &zero, Follows)}, "second-real": {of(10, &zero, Stays)}, "second-less": {of(-6, &zero, Stays), of(-10, &zero, Fell)},
		"second-changed": {of(0, &zero, Fell), of(10, &zero, Stays, Rose)}, "second-same": {of(0, &zero, Stays), of(5, &zero, Stays, Hidden)}, "second-hidden": {of(10, &zero, Hidden), of(0, &zero, Only)},
	} {
		for _, two := range s {
			got := two.sum()
			if string(got.Code) != code || strings.Contains(got.Detail, "carrier itself") {
				t.Errorf("%+v: %s, %s", two, got.Code, got.Detail)
			}
			two.Carrier = &four
			if got := two.sum(); !strings.Contains(got.Detail, "the carrier itself reads +4.0 dB") {
				t.Errorf("%s", got.Detail)
			}
		}
	}
	if two := of(0, &zero, Follows); !strings.Contains(two.sum().Detail, "first analyzer was expected") {
		t.Error(two.sum().Detail)
	}
	if two := of(10, &zero, Follows); !strings.Contains(two.sum().Detail, "more of attenuation") {
		t.Error(two.sum().Detail)
	}
	// What was not seen, or stands in neither, is compared with nothing; of no known power nothing is off.
	unseen := Product{Kind: Spur, FrequencyHz: &four, Opened: &Opened{Sights: []Sight{{Sweep: "a", LevelDBm: &zero}, {Sweep: "b", LevelDBm: &zero}}}}
	r := Ruling{Standpoints: []Standpoint{{Sweep: "a", CarrierDBm: &zero, LossDB: &zero}, {Sweep: "b", CarrierDBm: &zero, LossDB: &zero}}, Products: []Product{unseen, {Kind: Spur, Seen: true}}}
	if two, ok := r.CompareLooks("a", "b"); !ok || len(two.Products) != 0 {
		t.Errorf("%+v", two)
	}
	for _, pair := range [][2]string{{"a", "c"}, {"c", "b"}} {
		if _, ok := r.CompareLooks(pair[0], pair[1]); ok {
			t.Errorf("%v are compared", pair)
		}
	}
	for known, want := range map[bool]bool{true: true, false: false} {
		ru := ruler{known: known, carrier: 37, f0: 146e6, seen: []*evidence{{path: path.FlatLoss(50), carrier: &line{level: 36}}}}
		if ru.standpoints(); (ru.out.Standpoints[0].OffDB != nil) != want {
			t.Errorf("known %v: %+v", known, ru.out.Standpoints)
		}
	}
}

// TestWhoseUncertaintyCounts: its own where a sight has one, of a level below the carrier that of the flatness
// too, and of what was saved below its carrier the meter's.
func TestWhoseUncertaintyCounts(t *testing.T) {
	r := ruler{in: Input{Uncertainty: rulebook.Uncertainty{Absolute: 1, Relative: 2}}}
	own, within := rulebook.Uncertainty{Absolute: 3, Relative: 0.5}, units.DB(1)
	for _, c := range []struct {
		e    evidence
		want rulebook.Uncertainty
	}{
		{evidence{}, rulebook.Uncertainty{Absolute: 1, Relative: 2}}, {evidence{own: &own}, own}, {evidence{normal: true}, rulebook.Uncertainty{Absolute: 2, Relative: 2}},
		{evidence{flat: &within}, rulebook.Uncertainty{Absolute: 1, Relative: units.DB(math.Hypot(2, 2/math.Sqrt(3)))}},
	} {
		c.e.path = path.FlatLoss(50)
		if got := r.uncertainty(&c.e, 292e6); math.Abs(float64(got.Absolute-c.want.Absolute)) > 1e-9 || math.Abs(float64(got.Relative-c.want.Relative)) > 1e-9 {
			t.Errorf("%+v, want %+v", got, c.want)
		}
	}
	a := &sighting{e: &evidence{}, guard: rulebook.Guard{U: own}}
	if a.passGuard() != 3 {
		t.Errorf("%v", a.passGuard())
	}
	if a.e.flat = &within; a.passGuard() != 0.5 {
		t.Errorf("below the carrier: %v", a.passGuard())
	}
}

// TestWhatStandsInForce: struck is not there, suspect is said to be left out, of sweeps and looks.
func TestWhatStandsInForce(t *testing.T) {
	for standing, said := range map[Standing]bool{InForce: false, Struck: false, Suspect: true} {
		s := line1MHz("a", 30, 1530, -90, map[int]float64{146: -13, 292: -40})
		s.Standing = standing
		in := scene(t, s, line1MHz("b", 30, 1530, -90, map[int]float64{146: -13}))
		floor := -80.0
		shown := -13.0
		in.Looks = []Look{{Name: "c", From: 30e6, To: 1e9, FloorDBm: &floor, Path: path.FlatLoss(50), Standing: standing, Peaks: []LookPeak{{Frequency: 146e6, LevelDBm: &shown}}}}
		r := judge(t, in)
		if got := strings.Count(codes(r), "suspect-sweep"); (got == 2) != said || (r.Verdict == decision.Pass) != (standing != InForce) {
			t.Errorf("%s: %s, %s", standing, codes(r), r.Verdict)
		}
	}
}

// TestWhatAnAnalyzerAdds in unknown phase: where it may be all there is, nothing is known below.
func TestWhatAnAnalyzerAdds(t *testing.T) {
	for _, c := range [][2]units.DBm{{-30, -30}, {-30, -29}} {
		if low, _ := apart(c[0], c[1]); !math.IsInf(float64(low), -1) {
			t.Errorf("%v: %v", c, low)
		}
	}
	if low, _ := apart(-30, -31); math.IsInf(float64(low), 0) {
		t.Error("below it something is known")
	}
}

// TestABoundThatRules goes before one that cannot, then the lower.
func TestABoundThatRules(t *testing.T) {
	low, blind, high := &sighting{level: -60}, &sighting{level: -80, blind: true}, &sighting{level: -50}
	if !low.better(blind) || blind.better(low) || !low.better(high) || high.better(low) {
		t.Error("which bound is worth more")
	}
	high.more, low.more = 0, 20
	if low.better(high) {
		t.Error("by how much it may be more counts")
	}
}

// TestClausesOnBothSides of a power: a level passes by both; where one sets no limit the other holds; else it is open.
func TestClausesOnBothSides(t *testing.T) {
	relative := func(db float64) *rulebook.Limits {
		b := rulebook.Book{ID: "x", Title: "X", Kind: "house", Clauses: []rulebook.Clause{{Citation: "c", Segments: []rulebook.Segment{{Terms: []rulebook.Term{{AbsoluteDBm: &db}}}}}}}
		return b.For(rulebook.Carrier{Frequency: 146e6, MeanW: 5, PEPW: 5, State: rulebook.Operating})
	}
	none := (&rulebook.Book{ID: "y", Title: "Y", Kind: "house", Clauses: []rulebook.Clause{{Citation: "c"}}}).For(rulebook.Carrier{Frequency: 146e6, MeanW: 5, PEPW: 5, State: rulebook.Operating})
	for _, c := range []struct {
		a, b *rulebook.Limits
		want decision.Verdict
	}{
		{relative(-20), relative(-25), decision.Pass}, {relative(-20), relative(-40), decision.Inconclusive}, {relative(-35), relative(-40), decision.Fail},
		{none, relative(-20), decision.Pass}, {relative(-20), none, decision.Pass}, {none, relative(-40), decision.Inconclusive}, {relative(-40), none, decision.Inconclusive}, {none, none, decision.NoLimit},
	} {
		r := ruler{limits: c.a, others: []*rulebook.Limits{c.b}}
		if got := r.hold(292e6, rulebook.Exactly(-30), decision.Simple, rulebook.Guard{}); got != c.want {
			t.Errorf("%s, want %s", got, c.want)
		}
	}
}

// TestOfLevelsBelowACarrierAlone: one saved below its carrier knows nothing of the power, one whose coupling
// nobody measured neither; without a carrier they know nothing, but what a look has in dBc.
func TestOfLevelsBelowACarrierAlone(t *testing.T) {
	within := units.DB(1)
	for _, c := range []struct {
		e     evidence
		known bool
		code  string
	}{
		{evidence{normal: true, carrier: &line{level: 0}, known: span.Set{span.Everywhere}}, true, "normalised"},
		{evidence{flat: &within, carrier: &line{level: -13}, known: span.Set{span.Everywhere}}, true, "relative-only"},
		{evidence{flat: &within, known: span.Set{span.Everywhere}}, false, ""},
		{evidence{flat: &within, isLook: true, known: span.Set{span.Everywhere}}, true, ""},
	} {
		e := c.e
		e.lines = []line{{level: -50}}
		r := ruler{known: true, carrier: 37, seen: []*evidence{&e}}
		if r.putRight(&e); (e.known != nil) != c.known || !strings.Contains(codes(r.out), c.code) || c.code == "" && (codes(r.out) != "" || e.lines != nil) {
			t.Errorf("%+v: known %v, %s", c.e, e.known, codes(r.out))
		}
	}
	// A claim stands in for a power that nobody knows, or 1 W; evidence that knows levels is left out of it.
	for _, claimed := range []float64{0, 5} {
		r := ruler{f0: 146e6, seen: []*evidence{{normal: true, carrier: &line{}}, {flat: &within, carrier: &line{}}, {lines: []line{{}}, known: span.Set{span.Everywhere}}}}
		want := units.Watts(1).DBm()
		if claimed > 0 {
			r.in.ClaimedW, want = &claimed, units.Watts(claimed).DBm()
		}
		if r.assume(); r.carrier != want || !r.assumed || r.seen[0].flat == nil || r.seen[2].known != nil || r.seen[2].lines != nil {
			t.Errorf("claimed %g: %v %+v", claimed, r.carrier, r.seen)
		}
	}
	if got := (&ruler{in: Input{MeanW: new(float64)}}).powerBy(); got != "the power meter" {
		t.Error(got)
	}
	if got := (&ruler{}).powerBy(); got == "the power meter" {
		t.Error(got)
	}
}

// TestWhatALookGivesAway: a carrier read off beside its place by more than 0.1 %, or than was told; in standby a
// list of figures is said to be one.
func TestWhatALookGivesAway(t *testing.T) {
	level, floor := -13.0, -85.0
	look := func(at, told units.Hertz) Look {
		return Look{Name: "a", From: 30e6, To: 1530e6, FloorDBm: &floor, Path: path.FlatLoss(50), Tolerance: told, Peaks: []LookPeak{{Frequency: at, LevelDBm: &level}}}
	}
	for _, c := range []struct {
		at, told units.Hertz
		said     bool
	}{{146.1e6, 0, false}, {146.2e6, 0, true}, {146.2e6, 300e3, false}} {
		in := scene(t)
		in.Looks = []Look{look(c.at, c.told)}
		if got := strings.Contains(codes(judge(t, in)), "misaligned"); got != c.said {
			t.Errorf("%v told %v: misaligned %v", c.at, c.told, got)
		}
	}
	s := line1MHz("a", 30, 1530, -90, nil)
	s.Trace.RBW = 0
	in := scene(t, s)
	in.Carrier.State = rulebook.Standby
	if got := codes(judge(t, in)); !strings.Contains(got, "not-a-sweep") {
		t.Errorf("in standby: %s", got)
	}
	s.Trace.RBW = 1e6
	in = scene(t, s)
	in.Carrier.State = rulebook.Standby
	if got := codes(judge(t, in)); strings.Contains(got, "not-a-sweep") {
		t.Errorf("a sweep in standby: %s", got)
	}
}

// TestNothingLookedIsNotBlind: of a place that was not examined nothing is hidden by noise.
func TestNothingLookedIsNotBlind(t *testing.T) {
	in := scene(t, line1MHz("a", 30, 1530, -60, map[int]float64{146: -13}))
	r := judge(t, in)
	if len(r.Coverage.Blind) == 0 {
		t.Fatal("noise hides nothing")
	}
	e := &evidence{path: path.FlatLoss(50), trace: in.Sweeps[0].Trace, floor: sweep.NotedFloor(in.Sweeps[0].Trace.Levels)}
	ru := ruler{in: in, f0: 146e6, known: true, carrier: 37}
	c := in.Carrier
	c.MeanW, c.PEPW = 5, 5
	ru.limits = in.Book.For(c)
	if ru.isBlind(e, 292e6) {
		t.Error("of nothing examined")
	}
	e.examined = span.Set{span.Everywhere}
	if !ru.isBlind(e, 292e6) {
		t.Error("examined, and not blind")
	}
}

// TestTitlesOfEvidence that has no name.
func TestTitlesOfEvidence(t *testing.T) {
	for want, e := range map[string]evidence{"a": {name: "a", isLook: true}, "the look": {isLook: true}, "the sweep": {}} {
		if got := e.title(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// TestWhereALineMayBe: as far as its frequency may be off in its sight.
func TestWhereALineMayBe(t *testing.T) {
	look, list, trace := evidence{isLook: true, tolerance: 2e6}, evidence{isList: true, trace: flat(0, 5e6, 401, 1e6, -90)}, evidence{trace: flat(0, 1e6, 401, 3e6, -90)}
	if a, b, c := sameLine(&look, 300e6), sameLine(&list, 300e6), sameLine(&trace, 300e6); a != 2e6 || b != 3e6 || c != 3e6 {
		t.Errorf("%v %v %v", a, b, c)
	}
}

// TestPowersThatAreNone: a peak is above 0 where no mean is known, and not below the mean where one is.
func TestPowersThatAreNone(t *testing.T) {
	for _, c := range []struct {
		mean, pep float64
		ok        bool
	}{{0, 0, false}, {0, 5, true}, {5, 4, false}, {5, 5, true}} {
		in := scene(t, line1MHz("a", 30, 1530, -90, map[int]float64{146: -13}))
		if in.PEPW = &c.pep; c.mean == 0 {
			in.MeanW = nil
		}
		if err := in.Check(); (err == nil) != c.ok || err != nil && !strings.Contains(err.Error(), "pep_w") {
			t.Errorf("%+v: %v", c, err)
		}
	}
}

// TestASuspectFails where what is left without the analyzer's own still does.
func TestASuspectFails(t *testing.T) {
	in := scene(t, line1MHz("a", 30, 1530, -90, map[int]float64{146: -13}))
	r := ruler{in: in, f0: 146e6, known: true, carrier: 37}
	c := in.Carrier
	c.MeanW, c.PEPW = 5, 5
	r.limits = in.Book.For(c)
	for _, x := range []struct {
		level, self units.DBm
		want        decision.Verdict
	}{{0, -5, decision.Fail}, {-10, -11, decision.Inconclusive}, {-10, -9, decision.Inconclusive}, {-30, -33, decision.Pass}} { // the limit is -16.02 dBm
		s := &sighting{e: &evidence{path: path.FlatLoss(50)}, level: x.level, f: 292e6, self: &x.self, guard: rulebook.Guard{U: rulebook.Uncertainty{Absolute: 1.5, Relative: 1.5}}}
		if got := r.judgeSuspect(s, 292e6); got != x.want {
			t.Errorf("%v with %v of its own: %s, want %s", x.level, x.self, got, x.want)
		}
	}
}

// TestInTheCarriersSkirt nothing is a product of its own: three resolution bandwidths to each side.
func TestInTheCarriersSkirt(t *testing.T) {
	for mhz, want := range map[int]int{144: 0, 148: 0, 141: 1, 151: 1} {
		s := line1MHz("a", 30, 1530, -90, map[int]float64{146: -13, mhz: -40})
		s.Trace.RBW = 1e6
		r := judge(t, scene(t, s))
		n := 0
		for _, p := range r.Products {
			if p.Kind == Spur {
				n++
			}
		}
		if n != want || r.Detail != nil {
			t.Errorf("%d MHz: %d spurs, %v", mhz, n, r.Detail)
		}
	}
}

// TestBesideAMultiple: what a look shows there by more than 0.1 %, or than was told, is said to be perhaps another.
func TestBesideAMultiple(t *testing.T) {
	carrier, level, floor := -13.0, -75.0, -85.0
	for _, c := range []struct {
		at, told units.Hertz
		said     bool
	}{{292.2e6, 0, false}, {292.5e6, 0, true}, {292.5e6, 600e3, false}} {
		in := scene(t)
		in.Looks = []Look{{Name: "a", From: 30e6, To: 1530e6, FloorDBm: &floor, Path: path.FlatLoss(50), Tolerance: c.told, Peaks: []LookPeak{{Frequency: 146e6, LevelDBm: &carrier}, {Frequency: c.at, LevelDBm: &level}}}}
		if got := strings.Contains(codes(judge(t, in)), "near-multiple"); got != c.said {
			t.Errorf("%v told %v: %v", c.at, c.told, got)
		}
	}
}

// TestBelowACarrierOfNoPower: where no power was read and a sweep is shown below its carrier, every clause that
// turns on power holds: here 40 dB up to 25 W and 60 dB above it.
func TestBelowACarrierOfNoPower(t *testing.T) {
	book, err := rulebook.Parse([]byte(`{"id":"x","title":"X","kind":"house","source":"a test","recalled":false,"clauses":[
		{"when":{"mean_to_w":25},"citation":"small","segments":[{"terms":[{"relative_db":40}]}]},
		{"when":{"mean_over_w":25},"citation":"large","segments":[{"terms":[{"relative_db":60}]}]}],"search":[{"from_hz":30e6,"to_multiple":10}]}`))
	if err != nil {
		t.Fatal(err)
	}
	for dbc, want := range map[float64]decision.Verdict{-50: decision.Inconclusive, -70: decision.Pass, -35: decision.Fail} {
		s := line1MHz("below", 30, 1500, -100, map[int]float64{146: 0, 292: dbc})
		s.Normalised = true
		in := scene(t, s)
		in.MeanW, in.Book = nil, book
		r := judge(t, in)
		if p := r.Products[0]; *p.Order != 2 || p.Verdict != want || p.DecidedBy == nil || *p.DecidedBy != string(rulebook.ByRelative) {
			t.Errorf("%g dBc: %+v, want %s", dbc, p, want)
		}
		if i := slices.IndexFunc(r.Findings, func(f Finding) bool { return f.Code == "carrier-unchecked" }); i < 0 || !strings.Contains(r.Findings[i].Detail, "below its own carrier alone") {
			t.Errorf("%+v", r.Findings)
		}
	}
}

// TestLimitsBelowACarrierOfNoPower are the relative ones alone: of 1 W, taken for a power that nobody read, 25 uW
// (46 dB down) would be the stricter of 47 CFR 97.307(e) (from memory), and is none.
func TestLimitsBelowACarrierOfNoPower(t *testing.T) {
	s := line1MHz("below", 30, 1500, -100, map[int]float64{146: 0, 292: -50})
	s.Normalised = true
	in := scene(t, s)
	in.MeanW = nil
	if p := judge(t, in).Products[0]; p.LimitDBc == nil || math.Abs(*p.LimitDBc+40) > 1e-9 || *p.DecidedBy != string(rulebook.ByRelative) {
		t.Errorf("%+v", p)
	}
}

// TestACarrierWithinItsOwnUncertainty: 4 dB beside its power are the instrument's own where that is within 6.
func TestACarrierWithinItsOwnUncertainty(t *testing.T) {
	for u, agrees := range map[units.DB]bool{1.5: false, 6: true} {
		s := line1MHz("shown", 30, 1500, -100, map[int]float64{146: -9})
		s.Own = &rulebook.Uncertainty{Absolute: u, Relative: u}
		if r := judge(t, scene(t, s)); strings.Contains(codes(r), "carrier") == agrees {
			t.Errorf("within %v: %s", u, codes(r))
		}
	}
}
