package keying_test

import (
	"fmt"
	"strings"
	"testing"

	"talloak/core/keying"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/rulebooks"
)

func v(x float64) *float64 { return &x }

func way(id string, kit ...record.KitCopy) *record.Through {
	return &record.Through{PathID: id, Name: id, Kit: kit}
}

func item(name string, k kit.Kind, e path.Element, m *reading.Meter) record.KitCopy {
	e.Kind = k.PathKind()
	return record.KitCopy{ID: name, Name: name, Spec: kit.Spec{Kind: k, Element: e, Meter: m}}
}

var (
	load  = item("load", kit.Load, path.Element{MaxW: v(50)}, nil)
	vhf   = item("VHF meter", kit.ThroughMeter, path.Element{MaxW: v(50)}, &reading.Meter{FromHz: v(100e6), ToHz: v(200e6), PctReading: 5})
	uhf   = item("UHF meter", kit.ThroughMeter, path.Element{MaxW: v(50)}, &reading.Meter{FromHz: v(400e6), ToHz: v(500e6), PctReading: 5})
	tiny  = item("tiny UHF meter", kit.ThroughMeter, path.Element{MaxW: v(2)}, &reading.Meter{FromHz: v(400e6), ToHz: v(500e6), PctReading: 5})
	pad   = item("pad", kit.Attenuator, path.Element{Loss: &path.Loss{FlatDB: v(40)}, MaxW: v(25)}, nil)
	small = item("small pad", kit.Attenuator, path.Element{Loss: &path.Loss{FlatDB: v(40)}, MaxW: v(2)}, nil)
	see   = item("analyzer", kit.Analyzer, path.Element{Ranges: []path.Range{{FromHz: 1e5, ToHz: 800e6, MaxInputDBm: v(10), NoiseFloorDBm: v(-90)}}}, nil)
)

func sheet(t *testing.T, r record.Review, ways ...*record.Through) keying.Plan {
	t.Helper()
	r.Rules = record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}
	facts := record.Facts{}
	facts.Measurements = append(facts.Measurements, record.Measurement{ID: "a", Kind: "power", Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146.52e6}, Through: way("v", vhf, load), Payload: []byte(`{"text":"4.8"}`)})
	opened, err := measure.Open(&r, facts, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return keying.SheetOf(opened, keying.Ways{Paths: ways, Bench: []record.Item{{ID: "tiny", Name: "tiny UHF meter", Spec: tiny.Spec}, {ID: "UHF meter", Name: "UHF meter", Spec: uhf.Spec}, {ID: "pad", Name: "pad", Spec: pad.Spec}}})
}

func lines(p keying.Plan) string {
	var out []string
	for _, s := range p.Steps {
		out = append(out, fmt.Sprintf("%s %s %s %.4g %v %v", s.Path, s.Band, s.Level, s.FrequencyHz/1e6, s.Counts, s.Done))
	}
	return strings.Join(out, "\n")
}

// TestSheetOfAReview: the paths that suit each band, levels from the lowest, what was done,
// and why a step cannot count, with what on the bench would cure it.
func TestSheetOfAReview(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m 5/1"}, {Text: "70cm 4"}, {Text: "current 1.4A"}, {Text: "battery 1500mAh"}}}
	generator := item("generator", kit.SignalGenerator, path.Element{}, nil)
	ways := []*record.Through{way("v", vhf, load), way("u", uhf, load), way("small", small, see), way("a", pad, see), way("receive", generator)}
	p := sheet(t, r, ways...)
	want := `v 2m Low 146.5 true false
v 2m High 146.5 true true
v 70cm High 446 false false
u 2m Low 146.5 false false
u 2m High 146.5 false false
u 70cm High 446 true false
a 2m Low 146.5 true false
a 2m High 146.5 true false
a 70cm High 446 false false`
	if got := lines(p); got != want {
		t.Errorf("got\n%s", got)
	}
	// 5 steps of 30 s, three wirings of 3 minutes; 50 s of 1.4 A are 19.4 mAh.
	if p.BenchS != 5*30+3*180 || p.RigChanges != 3 || p.Left != 4 || *p.BatteryMAh < 19.4 || *p.BatteryMAh > 19.5 || *p.BatteryOf != 1500 {
		t.Errorf("%v s, %d wirings, %d left, %v mAh", p.BenchS, p.RigChanges, p.Left, *p.BatteryMAh)
	}
	if s := p.Steps[2]; !strings.Contains(s.WhyNot, "not made for 446 MHz") || s.Cure != "use UHF meter" {
		t.Errorf("%q %q", s.WhyNot, s.Cure)
	}
	if s := p.Steps[8]; !strings.Contains(s.WhyNot, "2nd harmonic") {
		t.Errorf("%q", s.WhyNot)
	}
	if len(p.Paths) != 4 { // the one into a generator is no way to key
		t.Errorf("%+v", p.Paths)
	}
	if row := p.Rows[1]; len(row.Cells) != 2 || row.Cells[1] != nil {
		t.Errorf("70 cm has no Low: %+v", row.Cells)
	}
	// A path a person chose stays, in danger as it is, with the pad that would do.
	r.Sheet = record.Sheet{PathIDs: []string{"small"}, Off: []record.Keyed{{Band: "2m", Level: "Low", Mode: "FM"}, {Band: "70cm", Level: "High", Mode: "FM"}}}
	p = sheet(t, r, ways...)
	if len(p.Steps) != 1 || p.Steps[0].Counts || !strings.Contains(p.Steps[0].WhyNot, "small pad") || !strings.Contains(p.Steps[0].Cure, "pad") || p.RigChanges != 0 {
		t.Errorf("%+v", p.Steps)
	}
}

// TestSheetByHand: marks, own frequencies, voltages and an order of one's own; what is kept
// for distress is never keyed; the groups of a service are fixed by their channels.
func TestSheetByHand(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "marine 6"}, {Text: "GMRS 467 0.5"}}}
	r.Sheet = record.Sheet{Marks: []string{"edges", "middle"}, Own: map[string][]float64{"marine": {156.8e6}}, SupplyV: []float64{7.2, 8.4}, PathIDs: []string{"v"}}
	p := sheet(t, r, way("v", vhf, load))
	var at []string
	for _, c := range p.Rows[0].Channels {
		at = append(at, fmt.Sprintf("%s %.3f %s", c.Name, c.FrequencyHz/1e6, c.Reserved))
	}
	if got := strings.Join(at, "; "); got != "channel 60 156.025 ; channel 14 156.700 ; channel 16 156.800 marine channel 16, distress; channel 88 157.425 " {
		t.Error(got)
	}
	if !p.Rows[1].Cells[0].Locked || p.Rows[0].Cells[0].Locked {
		t.Error("only the group's power is fixed by its channels")
	}
	if strings.Contains(lines(p), "156.8 ") || *p.Steps[0].SupplyV != 7.2 || len(p.Steps) != 2*(3+3) {
		t.Errorf("%s", lines(p))
	}
	last := p.Steps[len(p.Steps)-1].Key
	r.Sheet.Order = []string{last, p.Steps[3].Key}
	second := p.Steps[3].Key
	p = sheet(t, r, way("v", vhf, load))
	if p.Steps[0].Key != last || p.Steps[1].Key != second || p.Steps[0].N != 1 || p.Steps[2].N != 3 {
		t.Errorf("%s", lines(p))
	}
}

// TestUnplanned: a step that is on no sheet, as it is typed.
func TestUnplanned(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m FM 5/1 AM 2"}, {Text: "70cm 4"}}, Rules: record.Rules{RuleBook: "us-amateur"}}
	opened, err := measure.Open(&r, record.Facts{}, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	now := record.Keyed{Band: "2m", Level: "Low", Mode: "FM", FrequencyHz: 146e6}
	for text, want := range map[string]string{
		"144.1 h": "2m High FM 144.1", "144,1": "2m Low FM 144.1", "446.1": "70cm High FM 446.1", "350.5 l": "2m Low FM 350.5", "350.5 h": "70cm High FM 350.5", "200 h": "2m High FM 200", "145 am": "2m High AM 145",
	} {
		k, err := keying.Unplanned(opened, text, now)
		if got := fmt.Sprintf("%s %s %s %.4g", k.Band, k.Level, k.Mode, k.FrequencyHz/1e6); err != nil || got != want {
			t.Errorf("%q: %s %v", text, got, err)
		}
	}
	marine := record.Review{Claims: []record.Claim{{Text: "marine 6/1"}}, Rules: record.Rules{RuleBook: "us-amateur"}}
	sea, err := measure.Open(&marine, record.Facts{}, marine.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	at := record.Keyed{Band: "marine", Level: "High", Mode: "FM", FrequencyHz: 156.625e6}
	if k, err := keying.Unplanned(sea, "ch 6 l", at); err != nil || k.FrequencyHz != 156.3e6 || k.Level != "Low" {
		t.Errorf("%+v %v", k, err)
	}
	for _, text := range []string{"ch 16", "ch 99", "ch"} {
		if k, err := keying.Unplanned(sea, text, at); err == nil {
			t.Errorf("%q: %+v", text, k)
		}
	}
	for text, want := range map[string]string{"ch 7": "no channels", "": "frequency", "h": "frequency", "144.1 turbo": "turbo", "156.8": "distress", "144.1 h l": "not understood", "144.1 ssb": "SSB"} {
		if k, err := keying.Unplanned(opened, text, now); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %+v %v", text, k, err)
		}
	}
}
