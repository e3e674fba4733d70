package wiring_test

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"talloak/core/dc"
	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/units"
	. "talloak/core/wiring"
	"talloak/rulebooks"
)

func v(x float64) *float64 { return &x }

var analyzerPath = record.Through{Name: "analyzer", Kit: []record.KitCopy{
	{Name: "pads", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(50)}, ToleranceDB: v(0.3), MaxW: v(25)}}},
	{Name: "analyzer", Spec: kit.Spec{Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10), NoiseFloorDBm: v(-90)}}, InputAttenuationDB: v(10)}, AccuracyDB: 1}},
}}

// TestWire: the stress has its reserve, danger is found at the carrier, and the
// spare room to the limit is told per multiple.
func TestWire(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	w, err := Wire(Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5}}, MeasuredW: 0, Mode: rulebook.FM, Book: book})
	if err != nil {
		t.Fatal(err)
	}
	if math.Abs(w.SourceW-5*math.Pow(10, 0.1)) > 1e-9 || !w.Safe || math.Abs(*w.HeadroomDB-(10-(37.99-50))) > 0.01 {
		t.Errorf("%v W, safe %v, headroom %v", w.SourceW, w.Safe, *w.HeadroomDB)
	}
	// Lowest visible -90 + 50 + 6 = -34 dBm, 18 dB under -16.02.
	if w.SpareDB[0] != nil || math.Abs(*w.SpareDB[1]-17.98) > 0.01 || len(w.SpareDB) != 10 {
		t.Errorf("spare %v", w.SpareDB)
	}
	if last := w.DialIn[len(w.DialIn)-1]; !strings.Contains(last.Value, "+50.00 dB") {
		t.Errorf("offset %q", last.Value)
	}
	hot, err := Wire(Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 25}}, MeasuredW: 60, Mode: rulebook.FM, Book: book})
	if err != nil || hot.Safe || hot.SourceW != 60 || hot.Problems[0].Code != "over-rating" {
		t.Errorf("%+v %v", hot.Problems, err)
	}
	// 4 W of AM has peaks of 16 W: 6 dB less room than FM at the analyzer.
	fm, _ := Wire(Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 4}}, MeasuredW: 0, Mode: rulebook.FM, Book: book})
	am, err := Wire(Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 4}}, MeasuredW: 0, Mode: rulebook.AM, Book: book})
	if err != nil || math.Abs(*fm.HeadroomDB-*am.HeadroomDB-6.02) > 0.01 || !strings.Contains(am.SourceWhy, "peaks of 20.1 W") {
		t.Errorf("%v and %v dB, %s", *fm.HeadroomDB, *am.HeadroomDB, am.SourceWhy)
	}
	// Beside a stronger FM each mode has its own peaks: 16 W of 4 W in AM, not 100 of 25 in FM.
	both, err := Wire(Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 25, Mode: "FM"}, {Name: "High", W: 4, Mode: "AM"}, {Name: "High", W: 12, Mode: "SSB", PEP: true}}, Mode: rulebook.FM, Book: book})
	if err != nil || math.Abs(both.SourcePEPW-25*math.Pow(10, 0.1)) > 1e-9 || both.SourceW != both.SourcePEPW {
		t.Errorf("%v W, peaks of %v W, %v", both.SourceW, both.SourcePEPW, err)
	}
	if both, err = Wire(Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 12, Mode: "FM"}, {Name: "High", W: 4, Mode: "AM"}}, Mode: rulebook.FM, Book: book}); err != nil || math.Abs(both.SourcePEPW-16*math.Pow(10, 0.1)) > 1e-9 {
		t.Errorf("peaks of %v W, %v", both.SourcePEPW, err)
	}
	offset := analyzerPath
	offset.AppliedOffsetDB = -50
	set, _ := Wire(Wiring{Through: &offset, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5}}, MeasuredW: 0, Mode: rulebook.FM, Book: book})
	if last := set.DialIn[len(set.DialIn)-1]; !strings.HasPrefix(last.Value, "-50.00 dB, already") {
		t.Errorf("offset %q", last.Value)
	}
}

// TestWireDoubts: what protects an instrument only on paper is said before keying,
// and nothing is said of a path known well.
func TestWireDoubts(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	retired := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
	known := analyzerPath
	known.Kit = slices.Clone(known.Kit)
	known.Kit[0].ID, known.Kit[1].ID = "pads", "analyzer"
	path := known
	path.Kit = slices.Insert(slices.Clone(known.Kit), 1, known.Kit[0])
	path.Kit[1].Spec.Typical = []string{"element.loss.flat_db"}
	path.Kit[2].Spec.Typical = []string{"element.ranges"}
	codes := func(w Wiring) (out []string) {
		t.Helper()
		w.Carrier, w.Mode, w.Book = 146e6, rulebook.FM, book
		got, err := Wire(w)
		if err != nil {
			t.Fatal(err)
		}
		for _, p := range got.Problems {
			if p.Severity == "caution" {
				out = append(out, string(p.Code))
			}
		}
		return out
	}
	if got := codes(Wiring{Through: &path, Bench: []record.Item{{ID: "pads", RetiredAt: &retired}}}); strings.Join(got, " ") != "near-rating assumed-power retired typical-loss retired twice typical-input" {
		t.Errorf("%v", got)
	}
	if got := codes(Wiring{Through: &known, Levels: []dc.Level{{Name: "High", W: 5}}, Bench: []record.Item{{ID: "pads"}}}); len(got) > 0 {
		t.Errorf("%v", got)
	}
}

// TestReservedChannel: who dials what is kept for distress is told before keying (ITU Radio
// Regulations, Appendix 15, from memory).
func TestReservedChannel(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	for f, want := range map[units.Hertz]bool{156.8e6: true, 121.5e6: true, 156.85e6: false} {
		w, err := Wire(Wiring{Through: &analyzerPath, Carrier: f, Levels: []dc.Level{{Name: "High", W: 5}}, Mode: rulebook.FM, Book: book})
		if got := slices.ContainsFunc(w.Problems, func(p path.Finding) bool { return p.Code == "reserved-channel" }); err != nil || got != want {
			t.Errorf("%s: %v %v", f, got, err)
		}
	}
}

// TestDialIn: a search begins below the carrier, with the reference bandwidth of
// its range, within what the analyzer has.
func TestDialIn(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	narrow := analyzerPath
	narrow.Kit = slices.Clone(narrow.Kit)
	narrow.Kit[1].Spec.Element.Ranges = []path.Range{{Name: "low", FromHz: 1e5, ToHz: 960e6, RBWHz: []float64{3e3, 30e3, 300e3}, NoiseFloorDBm: v(-90), FloorRBWHz: v(30e3)}}
	narrow.Kit[1].Setting = "low"
	// A floor noted at 10 kHz tells nothing of 30 kHz.
	noted := narrow
	noted.Kit = slices.Clone(narrow.Kit)
	noted.Kit[1].Spec.Element.Ranges = slices.Clone(narrow.Kit[1].Spec.Element.Ranges)
	noted.Kit[1].Spec.Element.Ranges[0].FloorRBWHz = v(10e3)
	for _, c := range []struct {
		through record.Through
		carrier units.Hertz
		want    string
	}{
		{analyzerPath, 146e6, "Start 30 MHz, Stop 1.48 GHz, Resolution bandwidth 100 kHz, at which the floor is supposed to be noted"},
		{analyzerPath, 7.1e6, "Start 3.55 MHz, Stop 80 MHz, Resolution bandwidth 10 kHz"},
		{narrow, 50.1e6, "Input low, Start 25.05 MHz, Stop 510 MHz, Resolution bandwidth 30 kHz"},
		{narrow, 446e6, "Input low, Start 30 MHz, Stop 960 MHz, Resolution bandwidth 30 kHz"},
		{noted, 446e6, "Input low, Start 30 MHz, Stop 960 MHz, Resolution bandwidth 3 kHz"},
	} {
		w, err := Wire(Wiring{Through: &c.through, Carrier: c.carrier, Levels: []dc.Level{{Name: "High", W: 5}}, Mode: rulebook.FM, Book: book})
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, d := range w.DialIn {
			got = append(got, d.What+" "+d.Value)
		}
		if !strings.HasPrefix(strings.Join(got, ", "), c.want) {
			t.Errorf("%s: %q", c.carrier, got)
		}
	}
}

// TestLeadsOfASupply: those of the path go before the supply's own, which count where it has none.
func TestLeadsOfASupply(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	for name, c := range map[string]struct {
		own, kit *float64
		drop     float64
	}{"the supply's": {nil, v(0.1), 0.5}, "the path's": {v(0.2), v(0.1), 1}, "not known": {nil, nil, 0}} {
		through := analyzerPath
		through.Supply = &record.SupplyCopy{Name: "supply", SetV: 13.8, LeadOhm: c.own, Range: kit.SupplyRange{LeadOhm: c.kit}}
		w, err := Wire(Wiring{Through: &through, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5, A: v(5)}}, Mode: rulebook.FM, Book: book})
		if err != nil {
			t.Fatal(err)
		}
		if w.DC == nil || w.DC.Rows[0].DropV == nil || math.Abs(*w.DC.Rows[0].DropV-c.drop) > 1e-9 {
			t.Errorf("%s: %+v", name, w.DC)
		}
	}
}

// TestAMetersScaleIsDialledIn, where it has several; the offset is nothing to a meter that has none.
func TestAMetersScaleIsDialledIn(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	meter := kit.Spec{Kind: kit.ThroughMeter, Element: path.Element{Kind: path.Meter, MaxW: v(100)}, Meter: &reading.Meter{PctFullScale: 5}, ScalesW: []float64{20, 200}}
	load := record.KitCopy{Name: "load", Spec: kit.Spec{Kind: kit.Load, Element: path.Element{Kind: path.Load, MaxW: v(100)}}}
	for setting, want := range map[string]string{"20 W": "Scale of meter 20 W", "200 W": "Scale of meter 200 W"} {
		w, err := Wire(Wiring{Through: &record.Through{Kit: []record.KitCopy{{Name: "meter", Spec: meter, Setting: setting}, load}}, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5}}, Mode: rulebook.FM, Book: book})
		if err != nil {
			t.Fatal(err)
		}
		got := ""
		for _, d := range w.DialIn {
			if strings.HasPrefix(d.What, "Scale") {
				got += d.What + " " + d.Value
			}
		}
		if got != want {
			t.Errorf("%q: %q, want %q", setting, got, want)
		}
	}
}

// TestNothingIsKeyedIntoAGenerator: a path that ends in one is for a receiver, and in
// danger whatever is keyed; and none is offered where a load is wanted.
func TestNothingIsKeyedIntoAGenerator(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	generator := kit.Typical(kit.SignalGenerator)
	through := record.Through{Name: "generator", Kit: []record.KitCopy{analyzerPath.Kit[0], {ID: "g", Name: "generator", Spec: generator}}}
	w, err := Wire(Wiring{Through: &through, Carrier: 146e6, Levels: []dc.Level{{Name: "Low", W: 0.001}}, Mode: rulebook.FM, Book: book})
	if err != nil || w.Safe || w.Purpose != ForReceive || !slices.ContainsFunc(w.Problems, func(f path.Finding) bool { return f.Code == "generator" && f.Severity == say.Danger }) {
		t.Errorf("safe %v for %s: %+v %v", w.Safe, w.Purpose, w.Problems, err)
	}
	if got := Candidates([]record.Item{{ID: "g", Spec: generator}, {ID: "l", Spec: kit.Typical(kit.Load)}}, &record.Through{}); len(got) != 1 || got[0].Item != "l" {
		t.Errorf("%+v", got)
	}
}

// TestHowLongToHold: ten sweeps of 2.5 times the span over the square of the bandwidth
// (textbook, from memory), and never under 15 s; and which input looks where.
func TestHowLongToHold(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	at := func(rbw float64) *Settings {
		through := analyzerPath
		through.Kit = slices.Clone(analyzerPath.Kit)
		last := &through.Kit[1]
		last.Setting = "low"
		last.Spec.Element.Ranges = []path.Range{{Name: "low", FromHz: 1e5, ToHz: 1e9, MaxInputDBm: v(10), RBWHz: []float64{rbw}}, {Name: "high", FromHz: 1e9, ToHz: 3e9, MaxInputDBm: v(10)}}
		w, err := Wire(Wiring{Through: &through, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5}}, Mode: rulebook.FM, Book: book})
		if err != nil {
			t.Fatal(err)
		}
		return w.Settings
	}
	if s := at(100e3); s.SettleS != 15 || s.RBWHz != 100e3 || len(s.Inputs) != 2 || !s.Inputs[0].InUse || s.Inputs[1].InUse || s.Inputs[1].FromHz != 1e9 {
		t.Errorf("%+v", s)
	}
	// 30 MHz to 1 GHz in 10 kHz: 24.25 s a sweep.
	if s := at(10e3); s.SettleS != 243 {
		t.Errorf("%+v", s)
	}
}

// TestEdgesOfAWiring: a claim of PEP in AM is its peak already; a supply inside its range is no wonder, beside
// it is one; a retired meter is not offered; a meter on the way to an analyzer reads power too.
func TestEdgesOfAWiring(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	for pep, want := range map[bool]float64{false: 16, true: 4} {
		w, err := Wire(Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 4, Mode: "AM", PEP: pep}}, Mode: rulebook.AM, Book: book})
		if err != nil || math.Abs(w.SourcePEPW-want*math.Pow(10, 0.1)) > 1e-9 {
			t.Errorf("PEP %v: %v W", pep, w.SourcePEPW)
		}
	}
	for volts, want := range map[float64]bool{9.9: true, 10: false, 15: false, 15.1: true} {
		through := analyzerPath
		through.Supply = &record.SupplyCopy{Name: "supply", SetV: volts, Range: kit.SupplyRange{FromV: 10, ToV: 15}}
		w, err := Wire(Wiring{Through: &through, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5}}, Mode: rulebook.FM, Book: book})
		if err != nil {
			t.Fatal(err)
		}
		if got := slices.ContainsFunc(w.DC.Problems, func(f dc.Finding) bool { return f.Code == "supply-range" }); got != want {
			t.Errorf("%g V of 10 to 15: %+v", volts, w.DC.Problems)
		}
	}
	gone := time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)
	meter := kit.Spec{Kind: kit.ThroughMeter, Element: path.Element{Kind: path.Meter, MaxW: v(100)}, Meter: &reading.Meter{PctFullScale: 5}}
	bench := []record.Item{{Name: "one", Spec: meter}, {Name: "retired", Spec: meter, RetiredAt: &gone}, {Name: "pad", Spec: analyzerPath.Kit[0].Spec}}
	for w, want := range map[float64]string{100: "one", 100.1: ""} {
		if got := strings.Join(MetersFor(bench, 146e6, w), " "); got != want {
			t.Errorf("%g W: %q, want %q", w, got, want)
		}
	}
	both := record.Through{Kit: []record.KitCopy{{Name: "meter", Spec: meter}, analyzerPath.Kit[0], {Name: "analyzer", Spec: kit.Spec{Kind: kit.Analyzer, Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9}}}}}}}
	without := record.Through{Kit: []record.KitCopy{both.Kit[1], {Name: "no analyzer", Spec: kit.Spec{Kind: kit.SignalGenerator}}}}
	if !Serves(&both, ForPower) || !Serves(&both, ForEmissions) || Serves(&both, ForReceive) || Serves(&without, ForPower) || !Serves(&without, ForReceive) {
		t.Error("what a path serves")
	}
}

// TestWhatIsSentIntoAPath: the claim plus 1 dB, what a person says where nothing is claimed, 10 W where nobody
// says anything, and what was measured where that is more; and what there is to say before keying.
func TestWhatIsSentIntoAPath(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	wire := func(spoil func(*Wiring)) Staircase {
		through := analyzerPath
		through.Kit = slices.Clone(analyzerPath.Kit)
		w := Wiring{Through: &through, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5}}, Mode: rulebook.FM, Book: book}
		spoil(&w)
		out, err := Wire(w)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	says := func(s Staircase, code string) bool {
		return slices.ContainsFunc(s.Problems, func(f path.Finding) bool { return string(f.Code) == code })
	}
	plus := math.Pow(10, 0.1)
	for _, c := range []struct {
		spoil func(*Wiring)
		w     float64
		why   string
		codes string
	}{
		{func(*Wiring) {}, 5 * plus, "the claimed maximum plus 1 dB", ""},
		{func(w *Wiring) { w.MeasuredW = 7 }, 7, "the highest power measured", ""},
		{func(w *Wiring) { w.MeasuredW = 6 }, 5 * plus, "the claimed maximum", ""},
		{func(w *Wiring) { w.Levels = nil }, 10 * plus, "10 W are assumed", "assumed-power"},
		{func(w *Wiring) { w.Levels, w.MostW = nil, v(3) }, 3 * plus, "nothing is claimed: the most it may put out", ""},
		{func(w *Wiring) { w.MostW = v(3) }, 5 * plus, "the claimed maximum", ""},
		{func(w *Wiring) { w.Through.StackChanged = true }, 5 * plus, "", "stack-changed"},
		{func(w *Wiring) { w.Carrier = 156.8e6 }, 5 * plus, "", "reserved-channel"},
		{func(w *Wiring) { w.Through.Kit[0].Spec.Typical = []string{"element.loss.flat_db"} }, 5 * plus, "", "typical-loss"},
		{func(w *Wiring) { w.Through.Kit[1].Spec.Typical = []string{"element.ranges"} }, 5 * plus, "", "typical-input"},
	} {
		got := wire(c.spoil)
		if math.Abs(got.SourceW-c.w) > 1e-9 || !strings.Contains(got.SourceWhy, c.why) {
			t.Errorf("%g W because %s, want %g W, %s", got.SourceW, got.SourceWhy, c.w, c.why)
		}
		for _, code := range []string{"assumed-power", "stack-changed", "reserved-channel", "typical-loss", "typical-input"} {
			if says(got, code) != (code == c.codes) {
				t.Errorf("%s: says %s %v", c.codes, code, says(got, code))
			}
		}
	}
	if got := wire(func(w *Wiring) { w.Through.Kit[0].Spec.Typical = []string{"element.max_w"} }); len(got.Typical) != 1 || got.Typical[0] != "pads" {
		t.Errorf("%v", got.Typical)
	}
	short := wire(func(w *Wiring) {
		w.Through.Kit[0].Spec.Element.MaxW, w.Through.Kit[0].Spec.Element.ShortMaxW, w.Through.Kit[0].Spec.Element.ShortS = v(5), v(25), v(7)
	})
	if short.KeyAtMostS == nil || *short.KeyAtMostS != 7 || short.KeyS != 7 {
		t.Errorf("%v, %g s", short.KeyAtMostS, short.KeyS)
	}
	if long := wire(func(*Wiring) {}); long.KeyAtMostS != nil || long.KeyS != 10 {
		t.Errorf("%g s", long.KeyS)
	}
	for fitted, off := range map[string]bool{"none": false, "fitted": true, "": true} {
		got := wire(func(w *Wiring) { w.Through.Kit[1].Spec.PreAmplifier = fitted })
		if has := slices.ContainsFunc(got.DialIn, func(d Dial) bool { return d.What == "Pre-amplifier" }); has != off {
			t.Errorf("pre-amplifier %q: %+v", fitted, got.DialIn)
		}
	}
}

// TestTheMeterOfAPath: its scales, itself, what is before it, and where both it and its part are made for.
func TestTheMeterOfAPath(t *testing.T) {
	meter := kit.Spec{Kind: kit.ThroughMeter, Element: path.Element{Kind: path.Meter, MaxW: v(100), FromHz: v(30e6), ToHz: v(500e6)}, Meter: &reading.Meter{PctFullScale: 5, FromHz: v(1e6), ToHz: v(600e6)}, ScalesW: []float64{20, 200}}
	load := record.KitCopy{Name: "load", Spec: kit.Spec{Kind: kit.Load, Element: path.Element{Kind: path.Load, MaxW: v(100)}}}
	pad := analyzerPath.Kit[0]
	with := record.Through{Name: "a", Kit: []record.KitCopy{pad, {ID: "m", Name: "meter", Spec: meter, Setting: "200 W"}, load}}
	without := record.Through{Name: "b", Kit: []record.KitCopy{pad, load}}
	if got := Scales(&with); len(got) != 2 || len(Scales(&without)) != 0 || MeterID(&with) != "mmeter" || MeterID(&without) != "" {
		t.Errorf("%v %s", got, MeterID(&with))
	}
	if on, err := OnScale(&with, 20); err != nil || on.Kit[1].Setting != "20 W" || with.Kit[1].Setting != "200 W" {
		t.Errorf("%+v %v", on, err)
	}
	if _, err := OnScale(&with, 50); err == nil {
		t.Error("a scale that it has not")
	}
	if _, err := OnScale(&without, 20); err == nil || !strings.Contains(err.Error(), "no power meter") {
		t.Error(err)
	}
	name, before := MeterAndBefore(&with)
	if db, ok := before.LossAt(146e6); name != "meter, 200 W" || !ok || db != 50 {
		t.Errorf("%s, %v", name, db)
	}
	if name, before := MeterAndBefore(&without); name != "" || before != nil {
		t.Errorf("%s %v", name, before)
	}
	_, m, err := MeterOf(&with)
	if err != nil || *m.FromHz != 30e6 || *m.ToHz != 500e6 {
		t.Errorf("%v to %v, %v", *m.FromHz, *m.ToHz, err)
	}
	if got := strings.Join(AllServed(&with), " "); got != ForPower {
		t.Error(got)
	}
	if got := strings.Join(AllServed(&analyzerPath), " "); !strings.Contains(got, ForEmissions) || strings.Contains(got, ForReceive) {
		t.Error(got)
	}
}

// TestInputAttenuationIsDialledIn where it is known.
func TestInputAttenuationIsDialledIn(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	for known, want := range map[bool]string{true: "10 dB", false: ""} {
		through := analyzerPath
		through.Kit = slices.Clone(analyzerPath.Kit)
		if !known {
			through.Kit[1].Spec.Element.InputAttenuationDB = nil
		}
		w, err := Wire(Wiring{Through: &through, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5}}, Mode: rulebook.FM, Book: book})
		if err != nil {
			t.Fatal(err)
		}
		got := ""
		for _, d := range w.DialIn {
			if d.What == "Input attenuation" {
				got = d.Value
			}
		}
		if got != want {
			t.Errorf("known %v: %q", known, got)
		}
	}
}

// TestMoreIsOfferedWhereItIsSafe: about 10 dB for a second look, and no pad while the path is in danger; losses
// are those in front of the meter where one reads.
func TestMoreIsOfferedWhereItIsSafe(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	ten := 10.0
	bench := []record.Item{{ID: "ten", Name: "ten", Spec: kit.Spec{Kind: kit.Attenuator, Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &ten}, MaxW: v(50)}}}}
	for watts, want := range map[float64]bool{5: true, 60: false} {
		w, err := Wire(Wiring{Through: &analyzerPath, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: watts}}, Mode: rulebook.FM, Book: book, Bench: bench})
		if err != nil || w.Safe != want || (w.More != nil) != want {
			t.Errorf("%g W: safe %v, more %+v %v", watts, w.Safe, w.More, err)
		}
	}
	meter := kit.Spec{Kind: kit.ThroughMeter, Element: path.Element{Kind: path.Meter, MaxW: v(100), Loss: &path.Loss{FlatDB: v(0.5)}}, Meter: &reading.Meter{PctFullScale: 5, ScaleW: v(20)}}
	load := record.KitCopy{Name: "load", Spec: kit.Spec{Kind: kit.Load, Element: path.Element{Kind: path.Load, MaxW: v(100)}}}
	through := record.Through{Name: "a", Kit: []record.KitCopy{{Name: "coax", Spec: kit.Spec{Kind: kit.Attenuator, Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(0.3)}, MaxW: v(100)}}}, {Name: "meter", Spec: meter}, load}}
	w, err := Wire(Wiring{Through: &through, Carrier: 146e6, Levels: []dc.Level{{Name: "High", W: 5}}, Mode: rulebook.FM, Book: book})
	if err != nil || w.LossDB[0] == nil || *w.LossDB[0] != 0.3 {
		t.Errorf("%v %v", w.LossDB, err)
	}
	through.Supply = &record.SupplyCopy{Name: "supply", SetV: 13.8, Range: kit.SupplyRange{FromV: 10, ToV: 15}}
	if w, err := Wire(Wiring{Through: &through, Carrier: 146e6, Mode: rulebook.FM, Book: book}); err != nil || len(w.DC.Rows) != 1 {
		t.Errorf("%+v %v", w.DC, err)
	}
}
