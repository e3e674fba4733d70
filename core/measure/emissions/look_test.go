package emissions_test

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/origin"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/measuretest"
	"talloak/rulebooks"
)

const f0 = units.Hertz(146.5e6)

func spoken(l emissions.Look) string {
	out := fmt.Sprintf("%g-%g", l.FromHz/1e6, l.ToHz/1e6)
	if l.FloorDBm != nil {
		out += fmt.Sprintf(" floor %g", *l.FloorDBm)
	}
	for _, p := range l.Peaks {
		if p.LevelDBm != nil {
			out += fmt.Sprintf(", %g %g", p.FrequencyHz/1e6, *p.LevelDBm)
		} else {
			out += fmt.Sprintf(", %g %gc", p.FrequencyHz/1e6, *p.DBc)
		}
	}
	return out
}

// TestLooksAsTheyAreReadAloud: the long way and the short one say the same.
func TestLooksAsTheyAreReadAloud(t *testing.T) {
	for text, want := range map[string]string{
		"30-1000 floor -70\n146.5 -7.4\n2h -62\n3h -69\n205 -66":    "30-1000 floor -70, 146.5 -7.4, 205 -66, 293 -62, 439.5 -69",
		"30-1000 -70 h-7.4-62-69-68-67 205-66":                      "30-1000 floor -70, 146.5 -7.4, 205 -66, 293 -62, 439.5 -69, 586 -68, 732.5 -67",
		"30-1000 nothing above -70":                                 "30-1000 floor -70",
		"30-1000; -70; 1h -7.4; 2 -55c":                             "30-1000 floor -70, 146.5 -7.4, 293 -55c",
		"30-1000 floor -70 h-7.4?-66":                               "30-1000 floor -70, 146.5 -7.4, 439.5 -66",
		"30-1000 146.5 -7.4 2h -55 dBc":                             "30-1000, 146.5 -7.4, 293 -55c",
		"30-1500 −70dBm 1.2417ghz −60":                              "30-1500 floor -70, 1241.7 -60",
		"1-500 -70 2.0 -40":                                         "1-500 floor -70, 2 -40",
		"30-1000 146.5 -7,4 floor -70":                              "30-1000 floor -70, 146.5 -7.4",
		"30 to 1000 MHz floor -70 dBm 146.5 MHz -7.4 dBm 2 -55 dBc": "30-1000 floor -70, 146.5 -7.4, 293 -55c",
		"30–1000 floor–70 1f -7.4 2f-62":                            "30-1000 floor -70, 146.5 -7.4, 293 -62",
		"1..2GHz -70 1.24 GHz -60":                                  "1000-2000 floor -70, 1240 -60",
		"30-1000 -70 h-7.4-62 dBm":                                  "30-1000 floor -70, 146.5 -7.4, 293 -62",
		"30MHz-1GHz -70 205 -66":                                    "30-1000 floor -70, 205 -66",
		"30-1000 146.5 20dBm -70c":                                  "",
	} {
		l, err := emissions.ParseLook(text, f0)
		if got := spoken(l); err == nil && got != want || err != nil && want != "" {
			t.Errorf("%q: %s %v", text, got, err)
		}
	}
	for text, word := range map[string]string{
		"": "range", "floor -70": "range", "30-1000": "floor", "1000-30 -70": "no place", "30-1000 -70 2 -62": "harmonic or MHz", "30-1000 -70 2h": "level", "30-1000 -70 fox -62": "fox",
		"30-1000 -70 1200 -60": "outside", "30-1000 -70 205 -66 205 -65": "twice", "30-1000 -70 205 -80": "below the floor", "30-1000 -70 floor -60": "second floor", "30-1000 -70 -55c": "dBc",
		"30-1000 -70 205 -66 -60": "no place", "30-1000 -70 99h -60": "99h", "30-1000 floor 70 h-7.4": "no floor", "30-1000 70 h-7.4": "h-7.4", "30-1000 146.5 -7.4 floor": "level of the floor", "30-1000 146.5 -7.4 floor -70 dBc": "dBc", "30-1000 -70 0 -60": "0", "30-1000 -70 205 -6000": "-6000",
	} {
		if l, err := emissions.ParseLook(text, f0); err == nil || !strings.Contains(err.Error(), word) {
			t.Errorf("%q: %s %v", text, spoken(l), err)
		}
	}
	// A carrier, four harmonics, a spur and the floor, and Enter.
	if keys := len("30-1000 -70 h-7.4-62-69-68-67 205-66") + 1; keys > 40 {
		t.Errorf("%d keys", keys)
	}
}

func FuzzParseLook(f *testing.F) {
	f.Add("30-1000 -70 h-7.4-62?-68c 205-66 2 -55c")
	f.Add("30-1000 nothing above -70 1.24ghz -60 dBc")
	f.Fuzz(func(t *testing.T, text string) {
		l, err := emissions.ParseLook(text, f0)
		if err != nil {
			return
		}
		for _, p := range l.Peaks {
			if p.FrequencyHz < l.FromHz || p.FrequencyHz > l.ToHz || (p.LevelDBm == nil) == (p.DBc == nil) {
				t.Errorf("%q: %+v", text, l)
			}
		}
	})
}

func v(x float64) *float64 { return &x }

func through(pad float64) *record.Through {
	return &record.Through{PathID: "p", Name: "pads", Kit: []record.KitCopy{
		{ID: "pad", Name: "pad", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &pad}, ToleranceDB: v(0.3), MaxW: v(50)}}},
		{ID: "a", Name: "analyzer", Spec: kit.Spec{Kind: kit.Analyzer, Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10)}}, SHIDBm: v(80), TOIDBm: v(50)}, AccuracyDB: 1}},
	}}
}

// TestASweepIsItsFile: nothing is kept of one that did not come.
func TestASweepIsItsFile(t *testing.T) {
	if _, err := measuretest.Take(afternoon(t), measure.Taking{Keyed: key, Through: through(50), Draft: []byte(`{"name":"a"}`)}); err == nil || !strings.Contains(err.Error(), "csv: ") {
		t.Error(err)
	}
}

// TestWhatNoScreenShows is refused at its field: levels, frequencies, and what was told beside them.
func TestWhatNoScreenShows(t *testing.T) {
	take := func(look string, d emissions.Draft) error {
		d.Name, d.Look = "look", true
		draft, _ := json.Marshal(d)
		_, err := measuretest.Take(afternoon(t), measure.Taking{Keyed: key, Through: through(50), Draft: draft, File: &record.File{Content: []byte(look)}})
		return err
	}
	const good = "30-1600 -82 1h-13"
	told := func(by func(*emissions.Told)) emissions.Draft {
		var d emissions.Draft
		by(&d.Told)
		return d
	}
	for name, c := range map[string]struct {
		look string
		d    emissions.Draft
		want string
	}{
		"a floor":      {"30-1600 floor -300 1h-13", emissions.Draft{}, "dBm"},
		"a peak":       {"30-1600 floor -82 1h 300", emissions.Draft{}, "dBm"},
		"a long one":   {"30-1600 -82 1h-13 " + strings.Repeat("x", 4000), emissions.Draft{}, "4000 characters"},
		"one twice":    {"30-1600 -82 1h-13 292-60 292-61", emissions.Draft{}, "given twice"},
		"an end":       {"30-9000000 floor -82 1h-13", emissions.Draft{}, "Hz"},
		"an offset":    {good, told(func(o *emissions.Told) { o.OffsetDB = v(200.1) }), "offset_db"},
		"a hold":       {good, told(func(o *emissions.Told) { o.HeldS = v(86401) }), "held_s"},
		"a tolerance":  {good, told(func(o *emissions.Told) { o.ToleranceHz = 51e6 }), "tolerance_hz"},
		"a reading":    {good, told(func(o *emissions.Told) { o.ReadingDB = 20.1 }), "reading_db"},
		"a long state": {good, told(func(o *emissions.Told) { o.State = strings.Repeat("x", 61) }), "state"},
		"a bandwidth":  {good, emissions.Draft{RBWHz: 1.1e8}, "rbw_hz"},
		"a detector":   {good, emissions.Draft{Detector: "loud"}, "detector"},
	} {
		if err := take(c.look, c.d); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v", name, err)
		}
	}
	for name, d := range map[string]emissions.Draft{
		"an offset": told(func(o *emissions.Told) { o.OffsetDB = v(-200) }), "a hold": told(func(o *emissions.Told) { o.HeldS = v(86400) }), "a tolerance": told(func(o *emissions.Told) { o.ToleranceHz = 50e6 }),
		"a reading": told(func(o *emissions.Told) { o.ReadingDB = 20 }), "a bandwidth": {RBWHz: 1e8},
	} {
		if err := take(good, d); err != nil && !strings.Contains(err.Error(), "look: ") {
			t.Errorf("%s is taken: %v", name, err)
		}
	}
}

var key = record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: float64(f0)}

func ruled(t *testing.T, drafts ...string) emissions.Ruling {
	t.Helper()
	return afternoon(t, drafts...).At(key, true)
}

// TestALookRules: -13 dBm behind 50 dB is 5 W, 37 dBm; 25 µW are -16.02 dBm, so -66.02 on
// the screen (47 CFR 97.307(e), from memory; the rest is arithmetic).
func TestALookRules(t *testing.T) {
	clean := ruled(t, "low: 30-1600 -82 h-13-75-78")
	if clean.Ruling == nil || clean.Ruling.Verdict != decision.Pass || clean.Ruling.Coverage.HighestHarmonic == nil || *clean.Ruling.Coverage.HighestHarmonic != 10 {
		t.Fatalf("%+v", clean.Ruling)
	}
	if p := clean.Ruling.Products[0]; math.Abs(*p.LevelDBm+25) > 1e-9 || math.Abs(*p.MarginDB-8.98) > 0.01 {
		t.Errorf("%+v", p)
	}
	if got := ruled(t, "low: 30-1600 -82 h-13-60-78").Ruling; got.Verdict != decision.Fail || *got.Worst.Order != 2 {
		t.Errorf("%+v", got.Worst)
	}
	// A floor that hides the limit passes nothing; a spur seen above the first look's end fails.
	if got := ruled(t, "low: 30-1600 -64 h-13").Ruling; got.Verdict == decision.Pass {
		t.Errorf("%+v", got)
	}
	if got := ruled(t, "low: 30-960 -82 h-13-75", "high: 900-1600 -80 1241.7-58").Ruling; got.Verdict != decision.Fail || *got.Worst.FrequencyHz != 1241.7e6 {
		t.Errorf("%+v", got.Worst)
	}
	// A spur is held against the clocks the radio is known to have.
	spur := ruled(t, "low: 30-1600 -82 h-13 184.32-75").Ruling.Products
	if o := spur[len(spur)-1].Origins; !slices.ContainsFunc(o, func(o origin.Origin) bool { return o.Kind == origin.OwnClock && o.OffHz == 0 }) {
		t.Errorf("12 times its own clock: %+v", o)
	}
	// In dBc the same.
	if got := ruled(t, "low: 30-1600 -82 h-13 2 -62c").Ruling.Products[0]; math.Abs(*got.LevelDBm+25) > 1e-9 {
		t.Errorf("%+v", got)
	}
}

// TestACarrierThatWasOffPassesNothing: a look over the carrier that does not show it is
// refused, whatever its floor; one beside the carrier need not show it.
func TestACarrierThatWasOffPassesNothing(t *testing.T) {
	r := record.Review{Claims: []record.Claim{{Text: "2m 5"}}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}}
	opened, err := measure.Open(&r, record.Facts{}, r.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	k := key
	for text, refused := range map[string]bool{
		"30-1600 nothing above -82": true, "30-1600 -82 2h-75": true, "30-1600 -82 152.5-13": true, "30-1600 -82 148-13": false, "30-1600 -82 1h-13": false, "200-1600 nothing above -82": false,
	} {
		draft, _ := json.Marshal(emissions.Draft{Name: "look", Look: true})
		_, err := measuretest.Take(emissions.Of(opened), measure.Taking{Keyed: k, Through: through(50), Draft: draft, File: &record.File{Content: []byte(text)}})
		if (err != nil) != refused || refused && !strings.Contains(err.Error(), "was it keyed") {
			t.Errorf("%q: %v", text, err)
		}
	}
}
