package runsheet

import (
	"math"
	"strings"
	"testing"

	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/units"
)

func way() Way { return Way{Name: "a", Kind: Power, Suits: func(KeyUp) string { return "" }} }

func band(levels ...Level) Band {
	return Band{Name: "2m", Channels: []Channel{{Name: "calling", Frequency: 146.52e6}}, Levels: levels, Modes: []rulebook.Mode{rulebook.FM}}
}

// TestTheLowestLevelFirst: by the claims; as they are given, turned round, where one has none.
func TestTheLowestLevelFirst(t *testing.T) {
	for want, levels := range map[string][]Level{"Low Mid High": {{"High", 5}, {"Low", 1}, {"Mid", 2}}, "Low High Mid": {{"Mid", 2}, {"High", 5}, {"Low", 0}}} {
		var got []string
		for _, l := range band(levels...).lowestFirst() {
			got = append(got, l.Name)
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%v, want %s", got, want)
		}
	}
}

// TestAKeyUpThatWouldNotCount: at the highest claim with its reserve, in AM at its peaks, 10 W where nothing is
// claimed; for emissions the second harmonic too.
func TestAKeyUpThatWouldNotCount(t *testing.T) {
	most, loss, high := 25.0, 40.0, 500e6
	pads, err := path.Compile([]path.Element{{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &loss}, MaxW: &most, ToHz: &high}, {Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9}}}})
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		kind Purpose
		k    KeyUp
		why  string
	}{
		{Power, KeyUp{146e6, rulebook.FM, 15}, ""}, {Power, KeyUp{146e6, rulebook.FM, 21}, "takes"}, {Power, KeyUp{146e6, rulebook.FM, 0}, ""}, {Power, KeyUp{600e6, rulebook.FM, 5}, "600 MHz"},
		{Emissions, KeyUp{146e6, rulebook.FM, 5}, ""}, {Emissions, KeyUp{300e6, rulebook.FM, 5}, "not even the 2nd harmonic"}, {Power, KeyUp{300e6, rulebook.FM, 5}, ""},
	} {
		if got := Through(pads, c.kind)(c.k); (got == "") != (c.why == "") || !strings.Contains(got, c.why) {
			t.Errorf("%+v: %q, want %q", c, got, c.why)
		}
	}
	small := 8.0
	tiny, err := path.Compile([]path.Element{{Kind: path.Load, MaxW: &small}})
	if err != nil {
		t.Fatal(err)
	}
	if got := Through(tiny, Power)(KeyUp{146e6, rulebook.FM, 0}); got == "" {
		t.Error("10 W are nothing to 8 W")
	}
}

// TestRequestsThatAreNone are refused at their field.
func TestRequestsThatAreNone(t *testing.T) {
	good := func() Request {
		return Request{Bands: []Band{band(Level{"High", 5})}, Ways: []Way{way()}, KeyS: 10, RestS: 20}
	}
	if err := good().Check(); err != nil {
		t.Fatal(err)
	}
	for field, spoil := range map[string]func(*Request){
		"bands: ": func(r *Request) { r.Bands = nil }, "bands[0].channels": func(r *Request) { r.Bands[0].Channels = nil }, "bands[0].levels": func(r *Request) { r.Bands[0].Levels = nil }, "bands[0].modes": func(r *Request) { r.Bands[0].Modes = nil },
		"bands[0].channels[0].frequency_hz": func(r *Request) { r.Bands[0].Channels[0].Frequency = 0 }, "channels[0].frequency_hz": func(r *Request) { r.Bands[0].Channels[0].Frequency = units.Hertz(math.MaxFloat64) },
	} {
		r := good()
		spoil(&r)
		if err := r.Check(); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}
