package board_test

import (
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/kit"
	"talloak/core/measure/features"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/measuretest"
)

// TestTheRulesInWords: how a claim is held, how a limit is, and what decides beside them.
func TestTheRulesInWords(t *testing.T) {
	r := measuretest.Review("2m 5/1")
	r.Rules.ToleranceDB, r.Rules.PassPercent, r.Rules.BandwidthHz = 1.5, 90, 16000
	say := func() string {
		v := board.Of(measuretest.Open(t, r, record.Facts{}), false).Rules
		return strings.Join([]string{v.Claim, v.Decision, v.Settings}, "; ")
	}
	if got := say(); got != "the claim less 1.5 dB, which is 71 % of it and more; guarded: what lies within the uncertainty of the limit is too close to call; an emission of 16 kHz, the radio's own SWR at its harmonics a typical one, amateur bands of ITU region 2" {
		t.Error(got)
	}
	gain := -3.0
	r.Rules.Scheme, r.Rules.DecisionRule, r.Rules.SourceSWR, r.Subject.AntennaGainDBd, r.Subject.Region = "percent", "simple", 2, &gain, 1
	if got := say(); got != "90 % of the claim and more; simple: the measured value decides, whatever its uncertainty; an emission of 16 kHz, the radio's own SWR at its harmonics 2, its antenna -3 dBd, amateur bands of ITU region 1" {
		t.Error(got)
	}
}

// TestHowFarTheStagesAre: each in its place, with what is done of it.
func TestHowFarTheStagesAre(t *testing.T) {
	r := measuretest.Review("2m 5/1")
	at := record.Keyed{}
	stages := func(facts record.Facts, editions int) map[string]float64 {
		out := map[string]float64{}
		for _, s := range board.Stages(measuretest.Open(t, r, facts), editions) {
			out[s.Name] = s.Done
		}
		return out
	}
	none := stages(record.Facts{}, 0)
	if none["radio"] != 1.0/3 || none["power"] != 0 || none["more"] != 0 || none["ruling"] != 0 || none["publish"] != 0 {
		t.Errorf("%v", none)
	}
	r.Subject.Serial, r.Subject.ComeBy = "1", "bought"
	some := stages(measuretest.Facts(t, features.Name, at, features.Draft{Text: "yes a clip"}), 1)
	if some["radio"] != 1 || some["more"] == 0 || some["more"] >= 0.5 || some["publish"] != 1 || some["sheet"] != 0 {
		t.Errorf("%v", some)
	}
	power := record.Facts{Measurements: []record.Measurement{
		{ID: "a", Kind: "power", Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146e6}, Through: &record.Through{}, Payload: []byte(`{"text":"5"}`)},
		{ID: "b", Kind: "emissions", Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146e6}, Through: &record.Through{}, Payload: []byte(`{}`)},
	}}
	if both := stages(power, 0); both["power"] != 0.5 || both["emissions"] != 0.5 || both["ruling"] != 1 || both["sheet"] != 0.5 {
		t.Errorf("%v", both)
	}
	power.Measurements = power.Measurements[:1]
	if one := stages(power, 0); one["ruling"] != 0 || one["sheet"] != 0.25 {
		t.Errorf("%v", one)
	}
}

// TestKitWithoutARating is told once, of what takes power: of a generator, or a cable, nobody asks.
func TestKitWithoutARating(t *testing.T) {
	most := 50.0
	item := func(name string, k kit.Kind, e path.Element, m *reading.Meter) record.KitCopy {
		e.Kind = k.PathKind()
		return record.KitCopy{ID: name, Name: name, Spec: kit.Spec{Kind: k, Element: e, Meter: m}}
	}
	way := &record.Through{PathID: "a", Name: "a", Kit: []record.KitCopy{item("meter", kit.ThroughMeter, path.Element{}, &reading.Meter{PctReading: 5}), item("load", kit.Load, path.Element{MaxW: &most}, nil)}}
	key := record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146e6}
	facts := record.Facts{Measurements: []record.Measurement{{ID: "a", Kind: "power", Keyed: key, Through: way, Payload: []byte(`{"text":"5"}`)}, {ID: "b", Kind: "power", Keyed: key, Through: way, Payload: []byte(`{"text":"5"}`)}}}
	r := measuretest.Open(t, measuretest.Review("2m 5"), facts)
	b := board.Of(r, false)
	var got []string
	for _, o := range board.Obstacles(r, &b) {
		if o.Code == "kit-rating" {
			got = append(got, o.Detail)
		}
	}
	if len(got) != 1 || !strings.HasPrefix(got[0], "meter ") {
		t.Errorf("%v", got)
	}
}
