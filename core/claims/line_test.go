package claims

import (
	"fmt"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/units"
)

func TestParseLine(t *testing.T) {
	for text, want := range map[string]string{
		"2m 25/10/5":                     "[{2m High FM 25 false false} {2m Mid FM 10 false false} {2m Low FM 5 false false}]",
		"70cm 5/1":                       "[{70cm High FM 5 false false} {70cm Low FM 1 false false}]",
		"10m AM 12 pep 35 SSB":           "[{10m High AM 12 false false} {10m High SSB 35 true false}]",
		"2M 5W":                          "[{2m High FM 5 false false}]",
		"marine 6/1 W":                   "[{marine High FM 6 false false} {marine Low FM 1 false false}]",
		"2m 5/2/0.5 DIGITAL":             "[{2m High DIGITAL 5 false false} {2m Mid DIGITAL 2 false false} {2m Low DIGITAL 0.5 false false}]",
		"cb 4 am pep 12 ssb":             "[{CB High AM 4 false false} {CB High SSB 12 true false}]",
		"2m":                             "[{2m High FM 0 false false}]",
		"2m AM":                          "[{2m High AM 0 false false}]",
		"70cm ?/1/?":                     "[{70cm High FM 0 false false} {70cm Mid FM 1 false false} {70cm Low FM 0 false false}]",
		"2m 5/2/1 70cm 4/2":              "[{2m High FM 5 false false} {2m Mid FM 2 false false} {2m Low FM 1 false false} {70cm High FM 4 false false} {70cm Low FM 2 false false}]",
		"2m 70cm 5/1":                    "[{2m High FM 5 false false} {2m Low FM 1 false false} {70cm High FM 5 false false} {70cm Low FM 1 false false}]",
		"5W/2W":                          "[{ High FM 5 false false} { Low FM 2 false false}]",
		"5W":                             "[{ High FM 5 false false}]",
		"AM 4W":                          "[{ High AM 4 false false}]",
		"vhf 5":                          "[{VHF High FM 5 false false}]",
		"uhf 4W":                         "[{UHF High FM 4 false false}]",
		"2m 1-12":                        "[{2m Full FM 12 false true} {2m Least FM 1 false true}]",
		"10m AM 1-12 SSB pep 2-35":       "[{10m Full AM 12 false true} {10m Least AM 1 false true} {10m Full SSB 35 true true} {10m Least SSB 2 true true}]",
		"40m 50/40/30/20/10":             "[{40m P5  50 false false} {40m P4  40 false false} {40m P3  30 false false} {40m P2  20 false false} {40m P1  10 false false}]",
		"2m high 25 mid 10 eco 2.5":      "[{2m High FM 25 false false} {2m Mid FM 10 false false} {2m Eco FM 2.5 false false}]",
		"2m eco 2.5, high 25":            "[{2m High FM 25 false false} {2m Eco FM 2.5 false false}]",
		"10m AM low 1 high 4 SSB pep 12": "[{10m High AM 4 false false} {10m Low AM 1 false false} {10m High SSB 12 true false}]",
		"70cm 5 - 1":                     "[{70cm High FM 5 false false} {70cm Low FM 1 false false}]",
		"70cm 5/-/1":                     "[{70cm High FM 5 false false} {70cm Low FM 1 false false}]",
		"GMRS main 20/5, interstitial 5, 467 0.5": "[{GMRS main High FM 20 false false} {GMRS main Low FM 5 false false} {GMRS interstitial High FM 5 false false} {GMRS 467 High FM 0.5 false false}]",
		"GMRS 5":                    "[{GMRS High FM 5 false false}]",
		"marine low 1":              "[{marine low High FM 1 false false}]",
		"marine high 6 low 1":       "[{marine High FM 6 false false} {marine Low FM 1 false false}]",
		"350.5":                     "[{350.5 MHz High FM 0 false false}]",
		"25 MHz":                    "[{25 MHz High  0 false false}]",
		"2m 500mW":                  "[{2m High FM 0.5 false false}]",
		"6m FM 10 AM 4 SSB pep 8 W": "[{6m High FM 10 false false} {6m High AM 4 false false} {6m High SSB 8 true false}]",
		"146.52 5":                  "[{2m High FM 5 false false}]",
		"400-520 4W":                "[{400-520 MHz High FM 4 false false}]",
		"350500kHz":                 "[{350.5 MHz High FM 0 false false}]",
		"30 MHz":                    "[{30 MHz High FM 0 false false}]",
		"400000-520000kHz 4W":       "[{400-520 MHz High FM 4 false false}]",
		", 2m 5":                    "[{2m High FM 5 false false}]",
		"10m SSB 35 pep 12 DIGITAL": "[{10m High SSB 35 true false} {10m High DIGITAL 12 false false}]",
		"10m DIGITAL 12 pep 35 SSB": "[{10m High DIGITAL 12 false false} {10m High SSB 35 true false}]",
		"10m 20-30 SSB pep 33":      "[{10m Full SSB 30 true true} {10m Least SSB 20 true true} {10m High SSB 33 false false}]",
		"vhf 1-12 pep 30-100 SSB":   "[{VHF Full FM 12 false true} {VHF Least FM 1 false true} {VHF Full SSB 100 true true} {VHF Least SSB 30 true true}]",
		"5W FM 10m AM 5W":           "[{10m High FM 5 false false} { High AM 5 false false}]",
		"2m SSB 70cm 5":             "[{2m High SSB 0 false false} {70cm High FM 5 false false}]",
		"2m and 70cm 5":             "[{2m High FM 5 false false} {70cm High FM 5 false false}]",
	} {
		got, err := ParseLine(text, 0)
		if err != nil || fmt.Sprint(got) != want {
			t.Errorf("%q: %v %v, want %s", text, got, err, want)
		}
	}
	for text, word := range map[string]string{
		"": "", "3m": "3m", "fm3 5": "fm3", "2m 5/??": "5/??", "2m five": "five", "2m 5/10": "10", "2m 0": "0", "2m 9/8/7/6/5/4/3/2/1/.5": "9/8/7/6/5/4/3/2/1/.5", "2m 1,500": "1,500",
		"2m pep": "pep", "2m 5//1": "5//1", "2m -5": "-5", "2m 12-1": "12-1", "2m 5 high": "high", "2m high 5/1": "5/1", "1-12": "1-12", "25": "25", "146.52": "146.52", "350.5 5": "350.5 MHz", "2m 5MW": "5MW",
		"2m 5 high 1": "high", "2m high 5 high 4": "high", "2m high AM 5": "high", "2m 2m 5": "2m", "2m 450-440 5": "450-440", "450-440MHz 5": "450-440MHz", "2m 0.0001MHz": "0.0001MHz", "5 pep 3 pep": "pep",
		"frog 5": "frog", "GMRS main 20/5, interstital 5": "interstital", "AM 2m 5": "2m", "pep pep 5": "pep", "2m high pep 5": "pep", "2m high": "high", "2m 1MHz-12MHz": "1MHz-12MHz", "2m high 1-12": "high", "2m 30-100 5": "30-100", "5 2m 1-12": "5", "1-12W": "1-12W", "2m high 70cm 5": "70cm",
	} {
		if got, err := ParseLine(text, 0); err == nil || WordOf(err) != word {
			t.Errorf("%q read as %v, refused at %q: %v", text, got, WordOf(err), err)
		}
	}
	if _, err := ParseLine("33cm 5", 1); err == nil || !strings.Contains(err.Error(), "region 1") {
		t.Errorf("33cm in region 1: %v", err)
	}
}

func TestMatrixKeepsTheLaterClaim(t *testing.T) {
	a, _ := ParseLine("2m 5/1", 0)
	b, _ := ParseLine("2m 7", 0)
	cells := Matrix(append(a, b...), 0)
	if len(cells) != 2 || cells[0].Claimed != 7 || cells[1].Claimed != 1 {
		t.Errorf("%+v", cells)
	}
}

// TestClaimedOfEveryBand: a power without a band counts where nothing else is claimed.
func TestClaimedOfEveryBand(t *testing.T) {
	var all []Power
	for _, text := range []string{"5W/2W", "2m", "70cm 4", "6m"} {
		p, err := ParseLine(text, 0)
		if err != nil {
			t.Fatal(err)
		}
		all = append(all, p...)
	}
	got := ""
	for _, c := range Matrix(all, 0) {
		got += fmt.Sprintf("%s %s %g, ", c.Band.Name, c.Level, c.Claimed)
	}
	if got != "2m High 5, 2m Low 2, 70cm High 4, 6m High 5, 6m Low 2, " {
		t.Error(got)
	}
	if !Bandless(all[:2]) || Bandless(all) {
		t.Error("whether a band is named")
	}
}

func FuzzParseLine(f *testing.F) {
	for _, text := range []string{"2m 25/10/5", "10m AM 12 pep 35 SSB", "GMRS main 20/5, interstitial 5, 467 0.5", "2m high 25 eco 2.5", "2m 1-12", "350.5", "5W/2W", "70cm 5/-/1"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		all, err := ParseLine(text, 0)
		if err != nil {
			if err.Error() == "" || !strings.Contains(strings.Join(strings.Fields(text), " "), WordOf(err)) && !strings.Contains(WordOf(err), "Hz") {
				t.Errorf("%q: %v at %q", text, err, WordOf(err))
			}
			return
		}
		for _, p := range all {
			if p.Level == "" || !p.Mode.Known() || !(p.W >= 0) || p.W > 1e5 {
				t.Errorf("%q: %+v", text, p)
			}
		}
		Matrix(all, 0)
	})
}

// TestOtherClaims: claims beside power, with the word that is wrong where one is.
func TestOtherClaims(t *testing.T) {
	for text, want := range map[string]string{
		"current 1.4A": "draws 1.4 A", "2m high current 1.4 A": "draws 1.4 A on 2m High", "battery 1500 mAh": "battery of 1500 mAh", "118-137 am receive": "receives 118-137 MHz in AM, and does not transmit there", "4m rx only": "receives 4m in FM, and does not transmit there", "2m same mid lo": "Mid and Low on 2m give the same by design", "same p1 p2 p3": "P1 and P2 and P3 give the same by design", "battery 1.5Ah": "battery of 1500 mAh",
		"coverage 136-174 400-480": "covers 136 MHz to 174 MHz and 400 MHz to 480 MHz", "deviation 5kHz": "deviation 5 kHz", "frequency error ±2,5 ppm": "frequency within 2.5 ppm", "current 900mA": "draws 0.9 A", "2m dev 5kHz": "deviation 5 kHz on 2m", "2.5ppm": "frequency within 2.5 ppm", "70cm ±1.5 ppm": "frequency within 1.5 ppm on 70cm", "draw 1.5A": "draws 1.5 A",
	} {
		if o, is, err := ParseOther(text, 0); !is || err != nil || o.Words() != want {
			t.Errorf("%q: %q %v %v", text, o.Words(), is, err)
		}
	}
	for text, word := range map[string]string{"receive": "", "2m receive 5": "5", "battery": "", "current 5": "5", "coverage 174-136": "174-136", "deviation 0kHz": "0kHz", "battery 1,500mAh": "1,500mAh"} {
		if o, is, err := ParseOther(text, 0); !is || err == nil || WordOf(err) != word {
			t.Errorf("%q: %+v %v %q", text, o, err, WordOf(err))
		}
	}
	if _, is, _ := ParseOther("2m 5/1", 0); is {
		t.Error("a claim of power is none of these")
	}
}

// TestOtherBandsOfARegion: 33 cm is amateur in region 2 alone; apart or not it is refused by its name.
func TestOtherBandsOfARegion(t *testing.T) {
	if got, err := ParseLine("33 cm 5", 2); err != nil || len(got) != 1 || got[0].Band != "33cm" {
		t.Errorf("%v %v", got, err)
	}
	if got, err := ParseLine("33 cm 5", 1); err == nil || WordOf(err) != "33cm" {
		t.Errorf("%v %v", got, err)
	}
	for _, text := range []string{"2m dev", "battery", "dev"} {
		if _, is, err := ParseOther(text, 2); !is || err == nil || !strings.HasPrefix(Detail(err), "give the figure claimed, such as") {
			t.Errorf("%q: %v %v", text, is, err)
		}
	}
}

// TestClaimsThatAreNone are refused at their field, as the contract's verb gives them.
func TestClaimsThatAreNone(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	good := Claim{ClaimedW: 5, MeasuredW: 4, LowW: v(3.5), HighW: v(4.5), Scheme: Tolerance, ToleranceDB: 1.5, PassPercent: 90, Rule: decision.Guarded}
	if _, err := Compare(good); err != nil {
		t.Fatal(err)
	}
	for field, spoil := range map[string]func(*Claim){
		"claimed_w": func(c *Claim) { c.ClaimedW = 0 }, "measured_w": func(c *Claim) { c.MeasuredW = -1 }, "expanded_uncertainty_db": func(c *Claim) { c.ExpandedUncertaintyDB = -1 },
		"high_w: give low": func(c *Claim) { c.HighW = nil }, "low_w: give low": func(c *Claim) { c.LowW = nil }, "low_w: give 0": func(c *Claim) { c.LowW = v(-1) }, "high_w: must": func(c *Claim) { c.LowW = v(4.6) },
		"measured_w: lies": func(c *Claim) { c.MeasuredW = 4.6 }, "scheme": func(c *Claim) { c.Scheme = "hope" }, "tolerance_db": func(c *Claim) { c.ToleranceDB = -0.1 }, "pass_percent": func(c *Claim) { c.PassPercent = 0 },
		"two_sided": func(c *Claim) { c.TwoSided, c.Scheme = true, Percent }, "decision_rule": func(c *Claim) { c.Rule = "hope" },
	} {
		bad := good
		spoil(&bad)
		if _, err := Compare(bad); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// TestWhatWouldExplainAnExcess: the path's loss where nothing is dialled in, or twice where it is; the offset
// with the wrong sign; within 6 dB (common practice, no source).
func TestWhatWouldExplainAnExcess(t *testing.T) {
	for _, c := range []struct {
		watts         units.Watts
		loss, applied units.DB
		want          string
	}{
		{5e4, 40, 0, "is it dialled in already"}, {5e4, 40, 40, "is the offset counted twice"}, {5e4, 0, -40, "has it the wrong sign"}, {5e4, 33.9, 0, "which no radio is"}, {5e4, 34.1, 0, "dialled in already"}, {5e4, 45.9, 0, "dialled in already"}, {5e4, 46.1, 0, "which no radio is"}, {5e4, 0, 40, "which no radio is"},
	} {
		got := Unbelievable(c.watts, 5, c.loss, c.applied).Detail
		if !strings.Contains(got, c.want) || c.want == "which no radio is" && strings.Contains(got, "?") {
			t.Errorf("%+v: %s", c, got)
		}
	}
}

// TestReadWithEverything: a band beside one that is said, a remark, and what is beside power.
func TestReadWithEverything(t *testing.T) {
	said, err := Read("2m 5/1 @ 13.8 V, 2m deviation 5kHz", 0)
	if err != nil || said.Remark == nil || len(said.Powers) != 2 {
		t.Errorf("%+v %v", said, err)
	}
	said, err = Read("2m 5, 2m deviation 5kHz, current 1.5A", 0)
	if err != nil || said.Remark != nil || len(said.Other) != 2 || said.Other[0].Band == nil || *said.Other[0].Band != "2m" || said.Other[1].Band != nil {
		t.Errorf("%+v %v", said, err)
	}
	if said, err := Read("current 1.5A", 0); err != nil || len(said.Powers) != 0 || len(said.Other) != 1 {
		t.Errorf("%+v %v", said, err)
	}
	for _, none := range []string{"", "  ", ";"} {
		if _, err := Read(none, 0); err == nil || !strings.Contains(err.Error(), "type a band") {
			t.Errorf("%q: %v", none, err)
		}
	}
	if o, is, err := ParseOther("2m same mid low", 0); err != nil || !is || len(o.Levels) != 2 {
		t.Errorf("%+v %v", o, err)
	}
	for _, bad := range []string{"2m same mid mid", "2m same mid frog"} {
		if _, is, err := ParseOther(bad, 0); !is || err == nil {
			t.Errorf("%q is read", bad)
		}
	}
}

// TestPepBetweenTwoPowers is that of SSB, or not that of a carrier; a knob's range rises and has its band.
func TestPepBetweenTwoPowers(t *testing.T) {
	for text, want := range map[string]string{
		"10m AM 12 pep SSB 35": "[{10m High AM 12 false false} {10m High SSB 35 true false}]", "10m SSB 35 pep AM 12": "[{10m High SSB 35 true false} {10m High AM 12 false false}]",
		"10m 35 pep AM 12": "", "10m CW 35 pep AM 12": "[{10m High CW 35 true false} {10m High AM 12 false false}]", "10m AM 12 pep CW 35": "[{10m High AM 12 false false} {10m High CW 35 true false}]", "10m AM 12 pep FM 35": "",
	} {
		got, err := ParseLine(text, 0)
		if want == "" && err == nil && text != "10m 35 pep AM 12" || want != "" && (err != nil || fmt.Sprint(got) != want) {
			t.Errorf("%q: %v %v", text, got, err)
		}
	}
	for pct, want := range map[float64]string{19.9: "19.9 %", 20: "20 %", 81.4: "81 %"} {
		if got := (Result{Percent: pct}).PercentWords(); got != want {
			t.Errorf("%g: %s", pct, got)
		}
	}
	v := func(x float64) *float64 { return &x }
	for low, known := range map[float64]bool{0: false, 0.1: true} {
		got, err := Compare(Claim{ClaimedW: 5, MeasuredW: 4, LowW: v(low), HighW: v(9), Scheme: Tolerance, ToleranceDB: 1.5, PassPercent: 90, Rule: decision.Guarded})
		if err != nil || (got.LowDB != nil) != known {
			t.Errorf("low %g: %+v %v", low, got, err)
		}
	}
}
