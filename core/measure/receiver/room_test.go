package receiver_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/receiver"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/measuretest"
)

type room = simple.Room[receiver.Draft, receiver.Measured, *receiver.Measured]

func p(v float64) *float64 { return &v }

var (
	twoMetres = record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}
	ten       = record.Keyed{Band: "10m", Mode: "SSB", FrequencyHz: 28.4e6}
)

func open(t *testing.T, at record.Keyed, all ...receiver.Draft) (*measure.Review, receiver.Ruling) {
	t.Helper()
	r := measuretest.Open(t, measuretest.Review("2m 5/1", "10m SSB 10"), measuretest.Facts(t, receiver.Name, at, all...))
	return r, measure.Inside[*room](r, receiver.New()).RulingAt(at)
}

// TestMarksOfTheMeter: S9 is 5 µV into 50 ohm from 30 MHz on, -93 dBm, and 50 µV below, -73 dBm; S5 lies
// four units of 6 dB under it (IARU Region 1 Technical Recommendation R.1, from memory). What lies
// between generator and radio is taken off.
func TestMarksOfTheMeter(t *testing.T) {
	for _, c := range []struct {
		at         record.Keyed
		text       string
		loss       *float64
		level, off float64
	}{
		{twoMetres, "s9 -93", nil, -93, 0}, {twoMetres, "S9 5uV", nil, -93.01, -0.01}, {ten, "s9 50 uV", nil, -73.01, -0.01}, {twoMetres, "s5 -117", nil, -117, 0},
		{twoMetres, "s9+20 -73", nil, -73, 0}, {twoMetres, "s9+20dB -70", nil, -70, 3}, {twoMetres, "s1 -121", p(20), -141, 0}, {ten, "s9 −70", p(2), -72, 1},
	} {
		_, r := open(t, c.at, receiver.Draft{Text: c.text, LossDB: c.loss, WithinDB: p(1.5)})
		if len(r.Standing) != 1 || r.Verdict != decision.NoClaim {
			t.Errorf("%s: %+v", c.text, r)
			continue
		}
		m := r.Standing[0]
		if math.Abs(*m.LevelDBm-c.level) > 0.015 || math.Abs(*m.DifferenceDB-c.off) > 0.015 || math.Abs(*m.UncertaintyDB-math.Sqrt(3)) > 1e-9 {
			t.Errorf("%s: %g dBm, %+g dB, ± %g", c.text, *m.LevelDBm, *m.DifferenceDB, *m.UncertaintyDB)
		}
	}
}

// TestSquelchImageAndNeighbour: differences as they are typed or of two levels; what cannot be does not
// count, and of several the worse stands.
func TestSquelchImageAndNeighbour(t *testing.T) {
	for text, want := range map[string]float64{"image 62": 62, "image 62 dB": 62, "image -55 -117": 62, "neighbour 12.5k 58": 58, "adjacent 25kHz -60 -118": 58, "squelch opens -120 closes -123": 3, "sq -120 -123": 3} {
		_, r := open(t, twoMetres, receiver.Draft{Text: text})
		if len(r.Standing) != 1 || math.Abs(*r.Standing[0].DifferenceDB-want) > 1e-9 {
			t.Errorf("%s: %+v", text, r)
		}
	}
	for text, want := range map[string]string{"squelch -120": "squelch opens at -120 dBm", "squelch -120 -123": "squelch opens at -120 dBm and closes at -123 dBm", "image 62": "image 62 dB down", "neighbour 12.5k 58": "neighbour at 12.5 kHz 58 dB down"} {
		if _, r := open(t, twoMetres, receiver.Draft{Text: text}); r.Why != want {
			t.Errorf("%s: %q", text, r.Why)
		}
	}
	for _, within := range []float64{-1, 20.1} {
		d, _ := open(t, twoMetres)
		draft, _ := json.Marshal(receiver.Draft{Text: "s9 -93", WithinDB: &within})
		if _, err := d.Room(receiver.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft}); err == nil || !strings.Contains(err.Error(), "within_db: ") {
			t.Errorf("within %g dB: %v", within, err)
		}
		loss := 7.6 * within
		draft, _ = json.Marshal(receiver.Draft{Text: "s9 -93", LossDB: &loss})
		if _, err := d.Room(receiver.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft}); err == nil || !strings.Contains(err.Error(), "loss_db: ") {
			t.Errorf("behind %g dB: %v", loss, err)
		}
	}
	for _, text := range []string{"squelch -123 -120", "image -117 -55", "neighbour 12.5k -118 -60", "s9 5"} {
		if _, r := open(t, twoMetres, receiver.Draft{Text: text}); r.Verdict != decision.NotCovered || !strings.Contains(r.Why, "?") {
			t.Errorf("%s: %+v", text, r)
		}
	}
	for _, order := range [][]string{{"image 62", "image 58"}, {"image 58", "image 62"}} {
		if _, r := open(t, twoMetres, receiver.Draft{Text: order[0]}, receiver.Draft{Text: order[1]}); len(r.Standing) != 1 || *r.Standing[0].DifferenceDB != 58 {
			t.Errorf("%v: %+v", order, r)
		}
	}
	_, r := open(t, twoMetres, receiver.Draft{Text: "s9 -99"}, receiver.Draft{Text: "s9 -91"}, receiver.Draft{Text: "s5 -117"}, receiver.Draft{Text: "neighbour 12.5k 58"}, receiver.Draft{Text: "neighbour 25k 70"})
	if len(r.Standing) != 4 || math.Abs(*r.Standing[0].DifferenceDB+6) > 0.015 || !strings.Contains(r.Why, "S9 at -99 dBm, -6 dB from what it stands for") {
		t.Errorf("%+v", r)
	}
	d, _ := open(t, twoMetres)
	for _, text := range []string{"", "s9", "s10 -93", "s5+20 -80", "loud -93", "image", "image 200", "image -55", "neighbour 58", "neighbour 5000k 58", "squelch", "s9 -93 -90", "s9 -500", "image 1,500"} {
		draft, _ := json.Marshal(receiver.Draft{Text: text})
		if _, err := d.Room(receiver.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft}); err == nil || !strings.Contains(err.Error(), "text: ") {
			t.Errorf("%q: %v", text, err)
		}
	}
	s := d.Room(receiver.New()).Sections(nil)
	if s != nil {
		t.Errorf("%+v", s)
	}
	r2, _ := open(t, twoMetres, receiver.Draft{Text: "s9 -99 ? by day", LossDB: p(0.5)})
	if s = r2.Room(receiver.New()).Sections(nil); len(s[0].Rows[0]) != len(s[0].Columns) || s[0].Rows[0][4] != "-99.5 dBm" {
		t.Errorf("%+v", s)
	}
}

// TestEdgesOfAReceiver: neighbours up to 1 MHz away and 150 dB down, levels up to 0 dBm at the connector
// (common practice, no source).
func TestEdgesOfAReceiver(t *testing.T) {
	r, _ := open(t, twoMetres)
	for text, want := range map[string]string{"s9 0dBm": "counts", "s9 1dBm": "more than a generator", "image 150": "counts", "image 151": "refused", "neighbour 1000kHz 60": "counts", "neighbour 1001kHz 60": "refused"} {
		draft, _ := json.Marshal(receiver.Draft{Text: text})
		got, err := r.Room(receiver.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft})
		switch {
		case err != nil:
			if want != "refused" {
				t.Errorf("%s: %v", text, err)
			}
		case want == "refused":
			t.Errorf("%s is taken", text)
		default:
			if m := measure.Own[receiver.Measured](got.View); m.Counts != (want == "counts") || !m.Counts && !strings.Contains(m.WhyNot, want) {
				t.Errorf("%s: %v %s", text, m.Counts, m.WhyNot)
			}
		}
	}
}

// TestMarksOverS9: decibels stand over it alone, and are said; what is no word is none.
func TestMarksOverS9(t *testing.T) {
	r, _ := open(t, twoMetres)
	for text, want := range map[string]string{"s9+20 -73": "S9+20", "s9 -93": "S9", "s5 -117": "S5", "s8+10 -80": "", "frog -80": "", "sq -120": "squelch"} {
		draft, _ := json.Marshal(receiver.Draft{Text: text})
		got, err := r.Room(receiver.New()).Take(measure.Taking{Keyed: twoMetres, Draft: draft})
		if (err != nil) != (want == "") {
			t.Errorf("%s: %v", text, err)
			continue
		}
		if text == "frog -80" && !strings.Contains(err.Error(), "\"frog\" is not understood") {
			t.Error(err)
		}
		if err == nil {
			if m := measure.Own[receiver.Measured](got.View); m.Mark != want && m.What != want {
				t.Errorf("%s: %q %q", text, m.Mark, m.What)
			}
		}
	}
}

// TestTheWorseOfTwo: the mark further off to either side, the image less far down; what has no figure goes before none.
func TestTheWorseOfTwo(t *testing.T) {
	for _, c := range []struct {
		lines []string
		want  string
	}{{[]string{"s9 -95", "s9 -85"}, "s9 -85"}, {[]string{"s9 -99", "s9 -90"}, "s9 -99"}, {[]string{"image 60", "image 50"}, "image 50"}, {[]string{"sq -120 -121", "sq -120 -125"}, "sq -120 -125"}, {[]string{"sq -120", "sq -119 -121"}, "sq -119 -121"}, {[]string{"sq -119 -121", "sq -120"}, "sq -119 -121"}} {
		var drafts []receiver.Draft
		for _, l := range c.lines {
			drafts = append(drafts, receiver.Draft{Text: l})
		}
		if _, r := open(t, twoMetres, drafts...); len(r.Standing) != 1 || r.Standing[0].Text != c.want {
			t.Errorf("%v: %+v", c.lines, r.Standing)
		}
	}
}
