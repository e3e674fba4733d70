package occupied_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/measure/occupied"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/measuretest"
)

type room = simple.Room[occupied.Draft, occupied.Measured, *occupied.Measured]

// gmrs is a channel of the US personal radio services, where the book authorises 20 kHz.
var gmrs = record.Keyed{Band: "GMRS", Mode: "FM", FrequencyHz: 462.6e6}

func p(v float64) *float64 { return &v }

// block is a sweep of 100 Hz steps over 100 kHz: a flat emission of a width about a middle, far over
// the noise beside it. 99 % of such a power is 99 % of its width.
func block(middle, width float64) string {
	out := "Hz;dBm\n"
	for i := range 1001 {
		f := 462.6e6 + float64(i-500)*100
		level := -110.0
		if math.Abs(f-middle) <= width/2 {
			level = -20
		}
		out += fmt.Sprintf("%.0f;%g\n", f, level)
	}
	return out
}

func draft(signal string, width float64) occupied.Draft {
	return occupied.Draft{Text: signal + ".csv", File: block(462.6e6, width), Signal: signal, RBWHz: p(100), Hold: "max"}
}

// held is a voice in a sweep that was held otherwise, as it was told or as the file says.
func held(told, file string, width float64) occupied.Draft {
	d := draft("voice", width)
	if d.Hold = told; file != "" {
		d.File = "Hold;" + file + "\n" + d.File
	}
	return d
}

func open(t *testing.T, all ...occupied.Draft) (*measure.Review, occupied.Ruling) {
	t.Helper()
	review := measuretest.Review("gmrs 5")
	r := measuretest.Open(t, review, measuretest.Facts(t, occupied.Name, gmrs, all...))
	return r, measure.Inside[*room](r, occupied.New()).RulingAt(gmrs)
}

// TestAgainstTheAuthorisedBandwidth: 47 CFR 95.1773 authorises 20 kHz for voice on the main channels
// (from memory). Speech passes by it that was loud enough, a tone only fails, a bare carrier is held
// against nothing; of several the widest stands.
func TestAgainstTheAuthorisedBandwidth(t *testing.T) {
	for name, c := range map[string]struct {
		all  []occupied.Draft
		want decision.Verdict
		says string
	}{
		"within":            {[]occupied.Draft{draft("voice", 15e3)}, decision.Pass, "of 20 kHz authorised"},
		"beyond":            {[]occupied.Draft{draft("voice", 22e3)}, decision.Fail, "21.8"},
		"too close":         {[]occupied.Draft{draft("voice", 20.3e3)}, decision.Inconclusive, "20.1"},
		"a whisper":         {[]occupied.Draft{draft("voice", 5e3)}, decision.Inconclusive, "spoken loudly enough"},
		"a single sweep":    {[]occupied.Draft{held("single", "", 15e3)}, decision.Inconclusive, "held at its maximum"},
		"hold not told":     {[]occupied.Draft{held("", "", 15e3)}, decision.Inconclusive, "nobody said so"},
		"single, beyond":    {[]occupied.Draft{held("single", "", 22e3)}, decision.Fail, "21.8"},
		"as the file says":  {[]occupied.Draft{held("single", "max", 15e3)}, decision.Pass, "of 20 kHz"},
		"a tone within":     {[]occupied.Draft{draft("tone", 15e3)}, decision.Inconclusive, "whether speech goes further"},
		"a tone beyond":     {[]occupied.Draft{draft("tone", 22e3)}, decision.Fail, "a tone"},
		"data":              {[]occupied.Draft{draft("data", 5e3)}, decision.Pass, "data"},
		"bare":              {[]occupied.Draft{draft("bare", 22e3)}, decision.NoClaim, "not modulated"},
		"the widest stands": {[]occupied.Draft{draft("voice", 22e3), draft("voice", 15e3)}, decision.Fail, "21.8"},
		"nothing":           {nil, decision.NotExamined, "not measured"},
		"another channel":   {[]occupied.Draft{{Text: "a", Signal: "voice", RBWHz: p(100), File: block(462.625e6, 15e3)}}, decision.NotCovered, "is the radio on 462.6 MHz"},
		"was not keyed":     {[]occupied.Draft{{Text: "a", Signal: "voice", RBWHz: p(100), File: block(462.6e6, -1)}}, decision.NotCovered, "noise holds"},
	} {
		if _, r := open(t, c.all...); r.Verdict != c.want || !strings.Contains(r.Why, c.says) {
			t.Errorf("%s: %s, %q", name, r.Verdict, r.Why)
		}
	}
	_, r := open(t, draft("voice", 15e3))
	if m := r.Standing[0]; math.Abs(m.Result.OccupiedHz-0.99*15.1e3) > 150 || len(m.Curve) == 0 || len(m.Curve) > 400 || m.BelowDB != 26 {
		t.Errorf("%+v", m.Result)
	}
}

// TestTakenFromASweepThatWasStruck: it counts no more once the sweep does not.
func TestTakenFromASweepThatWasStruck(t *testing.T) {
	d := draft("voice", 15e3)
	d.Sweep = "s"
	review := measuretest.Review("gmrs 5")
	facts := measuretest.Facts(t, occupied.Name, gmrs, d)
	facts.Measurements = append(facts.Measurements, record.Measurement{ID: "s", Kind: emissions.Name, Keyed: record.Keyed{Band: "GMRS", Level: "High", Mode: "FM", FrequencyHz: 462.6e6}, Through: &record.Through{}, Payload: json.RawMessage("{}")})
	ruling := func() occupied.Ruling {
		return measure.Inside[*room](measuretest.Open(t, review, facts), occupied.New()).RulingAt(gmrs)
	}
	if r := ruling(); r.Verdict != decision.Pass {
		t.Errorf("%+v", r)
	}
	facts.Standings = []record.Standing{{TargetID: "s", Standing: record.Suspect, Reason: "a loose connector"}}
	if r := ruling(); r.Verdict != decision.NotCovered || !strings.Contains(r.Why, "does not count") {
		t.Errorf("%+v", r)
	}
}

// TestWhatIsNoSweepOverTheCarrier is refused at its field.
func TestWhatIsNoSweepOverTheCarrier(t *testing.T) {
	d, _ := open(t)
	for name, c := range map[string]struct {
		draft occupied.Draft
		want  string
	}{
		"a name alone":        {occupied.Draft{Text: "close.csv", Signal: "voice"}, "file: give a sweep"},
		"another band":        {occupied.Draft{Text: "a", Signal: "voice", File: "Hz;dBm\n146000000;-1\n146000100;-2\n146000200;-3\n"}, "file: it goes from"},
		"uneven":              {occupied.Draft{Text: "a", Signal: "voice", File: "Hz;dBm\n462590000;-1\n462600000;-2\n462650000;-3\n"}, "file: its points are not evenly apart"},
		"too few":             {occupied.Draft{Text: "a", Signal: "voice", File: "Hz;dBm\n462590000;-1\n462600000;-2\n462610000;-3\n"}, "file: it has 3 points"},
		"no table":            {occupied.Draft{Text: "a", Signal: "voice", File: "hello"}, "file: "},
		"no signal":           {occupied.Draft{Text: "a", Signal: "", File: block(462.6e6, 15e3)}, "signal: "},
		"an odd hold":         {occupied.Draft{Text: "a", Signal: "voice", File: block(462.6e6, 15e3), Hold: "tight"}, "hold: "},
		"a resolution of 0":   {occupied.Draft{Text: "a", Signal: "voice", File: block(462.6e6, 15e3), RBWHz: p(0)}, "rbw_hz: "},
		"a width of nothing":  {occupied.Draft{Text: "a", Signal: "voice", File: block(462.6e6, 15e3), BelowDB: p(0)}, "below_db: "},
		"frequencies in what": {occupied.Draft{Text: "a", Signal: "voice", File: block(462.6e6, 15e3), Unit: "MHz"}, "unit: "},
	} {
		text, _ := json.Marshal(c.draft)
		if _, err := d.Room(occupied.New()).Take(measure.Taking{Keyed: gmrs, Draft: text}); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// TestOccupiedOnTheBoard: in the headline and in its table, with the book that authorises it.
func TestOccupiedOnTheBoard(t *testing.T) {
	r, _ := open(t, draft("voice", 22e3))
	b := board.Of(r, false)
	boxes := b.Boxes(occupied.Name)
	if !strings.Contains(b.Headline, "It occupies more than it may (GMRS: 21.8") {
		t.Errorf("%q", b.Headline)
	}
	s := r.Room(occupied.New()).Sections(boxes)
	if len(s) != 1 || len(s[0].Rows[0]) != len(s[0].Columns) || s[0].Rows[0][11] != "20 kHz" || s[0].Rows[0][12] != "fails" {
		t.Errorf("%+v", s)
	}
}

// TestEdgesOfAnEmission: at most 5 kHz beside the frequency dialled; speech takes two fifths of what is
// authorised at the least (common practice, no source); what is told beside it has its bounds.
func TestEdgesOfAnEmission(t *testing.T) {
	for off, counts := range map[float64]bool{9800: true, 10300: false, -9800: true, -10300: false} {
		d := draft("voice", 10e3)
		d.File = block(462.6e6+off, 10e3)
		r, _ := open(t, d)
		if m := measure.Inside[*room](r, occupied.New()).Taken(0); m.Counts != counts {
			t.Errorf("%g Hz beside: %v %s", off, m.Counts, m.WhyNot)
		}
	}
	for width, doubted := range map[float64]bool{7900: true, 8300: false} {
		r, _ := open(t, draft("voice", width))
		if m := measure.Inside[*room](r, occupied.New()).Taken(0); strings.Contains(m.Doubt, "loudly enough") != doubted {
			t.Errorf("%g Hz wide: %q", width, m.Doubt)
		}
	}
	// 101 of 1,001 points stand over noise: at 9.9 dB over it the noise holds 53 % of the power, which is within
	// 3 dB of all of it, at 10.9 dB 47 %.
	for over, counts := range map[float64]bool{9.9: false, 10.9: true} {
		d := draft("voice", 10e3)
		d.File = strings.ReplaceAll(d.File, ";-110\n", fmt.Sprintf(";%g\n", -20-over))
		r, _ := open(t, d)
		if m := measure.Inside[*room](r, occupied.New()).Taken(0); m.Counts != counts {
			t.Errorf("%g dB over noise: %v %s", over, m.Counts, m.WhyNot)
		}
	}
	r, _ := open(t)
	for name, spoil := range map[string]func(*occupied.Draft){"rbw_hz": func(d *occupied.Draft) { d.RBWHz = p(10.1e6) }, "below_db": func(d *occupied.Draft) { d.BelowDB = p(101) }, "file: give a file": func(d *occupied.Draft) { d.File += strings.Repeat("\n", 1<<20) }} {
		d := draft("voice", 10e3)
		spoil(&d)
		text, _ := json.Marshal(d)
		if _, err := r.Room(occupied.New()).Take(measure.Taking{Keyed: gmrs, Draft: text}); err == nil || !strings.Contains(err.Error(), name) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// TestTheResolutionOfAFile goes before what was told; without either it is not known.
func TestTheResolutionOfAFile(t *testing.T) {
	for _, c := range []struct {
		head string
		told *float64
		want float64
	}{{"RBW;300 Hz\n", p(100), 300}, {"", p(100), 100}, {"", nil, 0}} {
		d := draft("voice", 10e3)
		d.File, d.RBWHz = c.head+d.File, c.told
		r, _ := open(t, d)
		m := measure.Inside[*room](r, occupied.New()).Taken(0)
		if (m.RBWHz == nil) != (c.want == 0) || m.RBWHz != nil && *m.RBWHz != c.want {
			t.Errorf("%+v: %v", c, m.RBWHz)
		}
	}
}
