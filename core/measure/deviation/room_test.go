package deviation_test

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/deviation"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/measuretest"
)

type room = simple.Room[deviation.Draft, deviation.Measured, *deviation.Measured]

var twoMetres = record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 145.5e6}

func by(text, width, signal string, pct float64) deviation.Draft {
	d := deviation.Draft{Text: text, Width: width, Signal: signal}
	if pct >= 0 {
		d.WithinPct = &pct
	}
	return d
}

func open(t *testing.T, claimed []string, all ...deviation.Draft) *room {
	t.Helper()
	return measure.Inside[*room](measuretest.Open(t, measuretest.Review(append([]string{"2m 5/1"}, claimed...)...), measuretest.Facts(t, deviation.Name, twoMetres, all...)), deviation.New())
}

// TestReadLines: 2079 Hz of tone at the first null and 906 Hz at the second are 5 kHz; the lines
// are |Jk(1.5)| of a table of Bessel functions, 0.512, 0.558, 0.232, 0.061 (Abramowitz and Stegun,
// table 9.1, from memory), so that 1 kHz of tone swings by 1.5 kHz.
func TestReadLines(t *testing.T) {
	for text, want := range map[string]struct{ hz, resolution float64 }{
		"4.6": {4600, 100}, "+4.6 -4.31": {4600, 100}, "+4.60 -4.31 kHz": {4600, 10}, "-4.71 +4.6": {4710, 100}, "4310Hz": {4310, 1}, "+4310 -4120Hz": {4310, 1}, "\u22122,3": {2300, 100},
		"null 2079": {5000, 0}, "null 2 906Hz 40dB": {5000, 0}, "null 2.079kHz": {5000, 0}, "lines 1000 -5.81 -5.07 -12.69 -24.29": {1500, 0}, "lines 1kHz -25.81dBm -25.07 - -44.29": {1500, 0},
	} {
		in, err := deviation.Read(text)
		if err != nil {
			t.Errorf("%s: %v", text, err)
			continue
		}
		in.Rule = decision.Guarded
		out, err := deviation.Measure(in)
		if err != nil || math.Abs(out.DeviationHz-want.hz) > 0.003*want.hz || (in.ResolutionHz == nil) != (want.resolution == 0) || in.ResolutionHz != nil && math.Abs(*in.ResolutionHz-want.resolution) > 1e-9 {
			t.Errorf("%s: %+v %v, digit %v", text, out, err, in.ResolutionHz)
		}
	}
	for text, want := range map[string]string{
		"": "such as +4.6", "loud": "not understood", "4.6 4.3": "one figure of each side", "4310": "75 kHz", "0": "75 kHz", "4.6kHz -4300Hz": "one unit", "1,500": "ambiguous", "4.6MHz": "not understood",
		"null": "vanishes", "null 2": "none that modulates", "null 2079 deep": "in dB", "null -2079": "no tone", "null 99 2079": "in dB", "lines 1000 -10 -20": "three lines", "lines 1000 -10 -20 ? -30": "no level", "lines 1000000 -1 -2 -3": "none that modulates",
	} {
		if in, err := deviation.Read(text); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %+v %v, want %q", text, in, err, want)
		}
	}
}

// FuzzRead: whatever is typed is one way or refused at the text.
func FuzzRead(f *testing.F) {
	for _, s := range []string{"+4.6 -4.3", "null 2 906Hz 40dB", "lines 1000 -20 -14 - -27", "4310Hz", "null null", "- -"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		in, err := deviation.Read(text)
		if err != nil {
			return
		}
		in.Rule = decision.Guarded
		if out, err := deviation.Measure(in); err == nil && !(out.DeviationHz >= 0 && out.DeviationHz < 1e6) {
			t.Errorf("%q: %+v", text, out)
		}
	})
}

// TestWhatStandsOfSeveral: the largest of each width and signal; a claim is of the width it can
// only be of; what is not known of the reading rules nothing.
func TestWhatStandsOfSeveral(t *testing.T) {
	five := []string{"2m dev 5kHz"}
	for _, c := range []struct {
		claimed []string
		all     []deviation.Draft
		want    decision.Verdict
		says    string
	}{
		{five, nil, decision.NotExamined, "not measured"},
		{five, []deviation.Draft{by("+4.6 -4.3", "wide", "voice-peak", 5)}, decision.Pass, "4.60 ± 0.27 kHz, wide, voice peak, of 5 kHz claimed"},
		{five, []deviation.Draft{by("4.9", "wide", "voice-peak", 5)}, decision.Inconclusive, "4.90"},
		{five, []deviation.Draft{by("5.9", "wide", "voice-peak", 5), by("4.1", "wide", "voice-peak", 5)}, decision.Fail, "5.90"},
		{five, []deviation.Draft{by("4.1", "wide", "voice-peak", -1)}, decision.Inconclusive, "4.10"},
		{five, []deviation.Draft{by("5.9", "wide", "voice-peak", -1)}, decision.Inconclusive, "5.90"},
		{five, []deviation.Draft{by("2.9", "narrow", "voice-peak", 5)}, decision.NoClaim, "over the 2.5 kHz usual in a channel of 12.5 kHz"},
		{[]string{"deviation 2.5kHz", "deviation 5kHz"}, []deviation.Draft{by("2.9", "narrow", "voice-peak", 5), by("2.9", "wide", "voice-peak", 5)}, decision.Fail, "of 2.5 kHz claimed"},
		{five, []deviation.Draft{by("5.9", "wide", "sub-audible", 5)}, decision.NoClaim, "sub-audible"},
		{five, []deviation.Draft{by("null 1850 40dB", "wide", "tone", -1)}, decision.Inconclusive, "whether speech goes further is not seen"},
		{five, []deviation.Draft{by("null 2400 40dB", "wide", "tone", -1)}, decision.Fail, "5.77"},
		{five, []deviation.Draft{by("2.4", "wide", "voice-peak", 5)}, decision.Inconclusive, "spoken loudly enough, and is the radio set to wide"},
		{five, []deviation.Draft{by("2.6", "wide", "voice-peak", 5)}, decision.Pass, "2.60"},
		{five, []deviation.Draft{by("null 1850", "wide", "tone", -1)}, decision.Inconclusive, "nothing is told"},
		{five, []deviation.Draft{by("lines 1000 -10 -60 -10 -60 -10", "wide", "tone", 1)}, decision.Inconclusive, "do not fit"},
		{five, []deviation.Draft{by("loud", "wide", "voice-peak", 5)}, decision.Void, "cannot be worked out"},
	} {
		if got := open(t, c.claimed, c.all...).RulingAt(twoMetres); got.Verdict != c.want || !strings.Contains(got.Why, c.says) {
			t.Errorf("%s, %q; want %s, %q", got.Verdict, got.Why, c.want, c.says)
		}
	}
	sections := open(t, five, by("+4.6 -4.3 ? loudly", "wide", "voice-peak", 5)).Sections(nil)
	if row := strings.Join(sections[0].Rows[0], "|"); row != "2m|145.5 MHz|+4.6 -4.3|wide, voice peak|4.60 kHz|± 0.27 kHz|+0.30 kHz||15.2 kHz|5 %|5 kHz|passes; loudly" {
		t.Error(row)
	}
}

// TestRefused: each at its field; SSB has no deviation.
func TestRefused(t *testing.T) {
	d := open(t, nil)
	for draft, field := range map[string]string{
		`{"text":"loud","width":"wide","signal":"tone"}`: "text", `{"text":"1","width":"broad","signal":"tone"}`: "width", `{"text":"1","width":"wide","signal":"song"}`: "signal",
		`{"text":"1","width":"wide","signal":"tone","within_pct":-1}`: "within_pct", `{"text":"1","width":"wide","signal":"tone","line_db":99}`: "line_db", `{"text":"1","width":"wide","signal":"tone"}`: "mode",
	} {
		at := twoMetres
		if field == "mode" {
			at.Mode = rulebook.SSB
		}
		if _, err := measuretest.Take(d, measure.Taking{Keyed: at, Draft: json.RawMessage(draft), Through: &record.Through{Name: "no path"}}); err == nil || !strings.HasPrefix(fmt.Sprint(err), field+":") {
			t.Errorf("%s: %v", draft, err)
		}
	}
}

// TestEdgesOfADeviation: up to 75 kHz, by tones of 20 Hz to 20 kHz (common practice, no source).
func TestEdgesOfADeviation(t *testing.T) {
	for text, refused := range map[string]bool{
		"75": false, "75.1": true, "74900Hz": false, "null 20": false, "null 19.9": true, "null 20kHz": false, "null 20.1kHz": true, "lines 1000 -300 -20 -30": false, "lines 1000 -301 -20 -30": true,
	} {
		in, err := deviation.Read(text)
		if err == nil {
			in.Rule = decision.Guarded
			_, err = deviation.Measure(in)
		}
		if (err != nil) != refused {
			t.Errorf("%s: %v", text, err)
		}
	}
	for hz, narrow := range map[float64]string{2500: "narrow", 5000: "wide"} {
		if c := slices.IndexFunc(deviation.Channels, func(c deviation.Channel) bool { return c.UsualHz == hz && c.Width == narrow && len(c.NullsHz) == 3 }); c < 0 {
			t.Errorf("%+v", deviation.Channels)
		}
	}
	// 2.4048, 5.5201 and 8.6537 (zeros of J0, Abramowitz and Stegun, table 9.5, from memory).
	for i, zero := range []float64{2.4048, 5.5201, 8.6537} {
		if got := deviation.Channels[1].NullsHz[i]; math.Abs(got-5000/zero) > 0.05 {
			t.Errorf("null %d at %g Hz", i+1, got)
		}
	}
	for khz, over := range map[string]bool{"2.5": false, "2.6": true} {
		m := open(t, nil, deviation.Draft{Text: khz, Width: "narrow", Signal: "voice-peak"}).Taken(0)
		if (m.Over != "") != over || over && !strings.Contains(m.Over, "12.5 kHz") {
			t.Errorf("%s kHz: %q", khz, m.Over)
		}
	}
}

// TestTooManyLines are none of one spectrum.
func TestTooManyLines(t *testing.T) {
	tone := 1000.0
	for n, refused := range map[int]bool{51: false, 5000: true} {
		lines := make([]*float64, n)
		for i := range lines {
			v := -20.0 - float64(i%7)
			lines[i] = &v
		}
		_, err := deviation.Measure(deviation.Input{Lines: lines, Tone: &tone, Rule: decision.Guarded})
		if got := err != nil && strings.Contains(err.Error(), "at most"); got != refused {
			t.Errorf("%d lines: %v", n, err)
		}
	}
}
