package battery_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/battery"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/measuretest"
)

type room = simple.Room[battery.Draft, battery.Measured, *battery.Measured]

func p(v float64) *float64 { return &v }

func open(t *testing.T, claim string, all ...battery.Draft) (*measure.Review, battery.Ruling) {
	t.Helper()
	claims := []string{"2m 5/1"}
	if claim != "" {
		claims = append(claims, claim)
	}
	r := measuretest.Open(t, measuretest.Review(claims...), measuretest.Facts(t, battery.Name, record.Keyed{}, all...))
	return r, measure.Inside[*room](r, battery.New()).RulingAt(record.Keyed{})
}

// steady is 1 A for an hour at 7.4 V in seven points: 1,000 mAh and 7.4 Wh by definition.
const steady = "0 7.4 1 10 7.4 1 20 7.4 1 30 7.4 1 40 7.4 1 50 7.4 1 60 7.4 1"

// emptied falls from 8 V to 6 V in an hour at 1 A, evenly: half of it, 500 mAh, lies above 7 V.
const emptied = "0 8 1 5 7.83333 1 10 7.66667 1 15 7.5 1 20 7.33333 1 25 7.16667 1 30 7 1 35 6.83333 1 40 6.66667 1 45 6.5 1 50 6.33333 1 55 6.16667 1 60 6 1"

// TestLabelAndWhatWasGiven: a run-down to its end is held against the label; one that did not reach
// it is a lower bound; what cannot be believed or was not told rules nothing.
func TestLabelAndWhatWasGiven(t *testing.T) {
	for name, c := range map[string]struct {
		claim string
		draft battery.Draft
		want  decision.Verdict
		says  string
	}{
		"gives its label":           {"battery 480mAh", battery.Draft{Text: emptied, CutoffV: p(7), WithinPct: p(2)}, decision.Pass, "500 mAh, 3.75 Wh down to 7 V, 104 %"},
		"gives less":                {"battery 520mAh", battery.Draft{Text: emptied, CutoffV: p(7), WithinPct: p(2)}, decision.Fail, "96 % of the 520 mAh"},
		"within the counting":       {"battery 505mAh", battery.Draft{Text: emptied, CutoffV: p(7), WithinPct: p(2)}, decision.Inconclusive, "99 %"},
		"counting not told":         {"battery 480mAh", battery.Draft{Text: emptied, CutoffV: p(7)}, decision.Inconclusive, "not told"},
		"not empty, over the label": {"battery 900mAh", battery.Draft{Text: steady, WithinPct: p(2)}, decision.Pass, "at least 1000 mAh"},
		"not empty, under it":       {"battery 2000mAh", battery.Draft{Text: steady, WithinPct: p(2)}, decision.Inconclusive, "not run down to its end"},
		"never reached":             {"battery 2000mAh", battery.Draft{Text: steady, CutoffV: p(6), WithinPct: p(2)}, decision.Inconclusive, "at least"},
		"no label":                  {"", battery.Draft{Text: steady, WithinPct: p(2)}, decision.NoClaim, "1000 mAh, 7.40 Wh"},
		"hours for minutes":         {"battery 1000mAh", battery.Draft{Text: steady, Unit: "h", WithinPct: p(2)}, decision.Inconclusive, "is the unit of the times right"},
		"seconds for minutes":       {"battery 500mAh", battery.Draft{Text: emptied, Unit: "s", CutoffV: p(7), WithinPct: p(2)}, decision.Inconclusive, "is the unit of the times right"},
		"twice the label":           {"battery 501mAh", battery.Draft{Text: steady, WithinPct: p(2)}, decision.Pass, "1000 mAh"},
		"over twice the label":      {"battery 499mAh", battery.Draft{Text: steady, WithinPct: p(2)}, decision.Inconclusive, "times the label"},
		"a tenth of the label":      {"battery 4990mAh", battery.Draft{Text: emptied, CutoffV: p(7), WithinPct: p(2)}, decision.Fail, "10 %"},
		"under a tenth of it":       {"battery 5010mAh", battery.Draft{Text: emptied, CutoffV: p(7), WithinPct: p(2)}, decision.Inconclusive, "of the label: is the unit"},
		"a fifth between points":    {"battery 900mAh", battery.Draft{Text: "0 7.4 1 12 7.4 1 24 7.4 1 36 7.4 1 48 7.4 1 60 7.4 1", WithinPct: p(2)}, decision.Pass, "1000 mAh"},
		"more than a fifth":         {"battery 900mAh", battery.Draft{Text: "0 7.4 1 13 7.4 1 24 7.4 1 36 7.4 1 48 7.4 1 60 7.4 1", WithinPct: p(2)}, decision.Inconclusive, "22 % of it lies between two points"},
		"two points":                {"battery 600mAh", battery.Draft{Text: "0 8 1 60 6 1", CutoffV: p(7), WithinPct: p(2)}, decision.Inconclusive, "lies between two points"},
		"in milliamperes":           {"battery 480mAh", battery.Draft{Text: strings.ReplaceAll(emptied, " 1 ", " 1000mA "), CutoffV: p(7), WithinPct: p(2)}, decision.Pass, "500 mAh"},
	} {
		if _, r := open(t, c.claim, c.draft); r.Verdict != c.want || !strings.Contains(r.Why, c.says) {
			t.Errorf("%s: %s, %q", name, r.Verdict, r.Why)
		}
	}
}

// TestDutyOfABattery: 1,000 mAh at 5 % of 1.4 A, 5 % of 0.2 A and 90 % of 0.05 A last 1 / 0.125 h.
func TestDutyOfABattery(t *testing.T) {
	_, r := open(t, "", battery.Draft{Text: steady, Draw: "1.4/0.2/0.05"})
	if got := r.Standing[0].Result.HoursAtDuty; got == nil || math.Abs(*got-8) > 1e-9 || r.Standing[0].Share != "5/5/90" || !strings.Contains(r.Why, "8.0 h at 5/5/90 % of the time") {
		t.Errorf("%v h, %s", got, r.Why)
	}
	_, r = open(t, "", battery.Draft{Text: steady, Draw: "1 0.5 0", Share: "50/50/0"})
	if got := r.Standing[0].Result.HoursAtDuty; got == nil || math.Abs(*got-1/0.75) > 1e-9 {
		t.Errorf("%v h", got)
	}
}

// TestWhichRunDownStands: of those emptied the one that gave least, whatever came last; one that was
// not emptied only where none was, and then the longest.
func TestWhichRunDownStands(t *testing.T) {
	less := battery.Draft{Text: emptied, CutoffV: p(7.5), WithinPct: p(2)}
	more := battery.Draft{Text: emptied, CutoffV: p(7), WithinPct: p(2)}
	open1, open2 := battery.Draft{Text: steady, WithinPct: p(2)}, battery.Draft{Text: "0 7.4 1 10 7.4 1", WithinPct: p(2)}
	for _, order := range [][]battery.Draft{{less, more, open1}, {open1, more, less}, {more, open1, less}} {
		if _, r := open(t, "", order...); len(r.Standing) != 1 || math.Abs(r.Standing[0].Result.MAh-250) > 1e-6 {
			t.Errorf("%+v", r.Standing[0].Result)
		}
	}
	for _, order := range [][]battery.Draft{{open1, open2}, {open2, open1}} {
		if _, r := open(t, "", order...); math.Abs(r.Standing[0].Result.MAh-1000) > 1e-6 {
			t.Errorf("%+v", r.Standing[0].Result)
		}
	}
}

// TestLogsAsTheyAreSaved: whichever separator, order of columns and unit a log has.
func TestLogsAsTheyAreSaved(t *testing.T) {
	for name, c := range map[string]struct{ file, unit string }{
		"semicolons and decimal commas": {"time (min);V;A\n0;7,4;1,0\n30;7,4;1,0\n60;7,4;1,0\n", ""},
		"commas and seconds":            {"Time_s,Voltage,Current\n0,7.4,1\n1800,7.4,1\n3600,7.4,1\n", ""},
		"another order, in mA":          {"Current (mA)\tVoltage (V)\tTime (h)\n1000\t7.4\t0\n1000\t7.4\t0.5\n1000\t7.4\t1\n", ""},
		"no headings":                   {"0 7.4 1\n30 7.4 1\n60 7.4 1\n", "min"},
		"a clock":                       {"elapsed, volts, amps\r\n0:00:00, 7.4, 1\r\n0:30:00, 7.4, 1\r\n1:00:00, 7.4, 1\r\n", ""},
		"a BOM and lines of a logger":   {"\ufeffLogger 7\nkept by hand\nt [s];U;I\n0;7.4;1\n3600;7.4;1", ""},
	} {
		if _, r := open(t, "", battery.Draft{Text: "log.csv", File: c.file, Unit: c.unit}); len(r.Standing) != 1 || math.Abs(r.Standing[0].Result.MAh-1000) > 1e-6 || math.Abs(r.Standing[0].Result.Wh-7.4) > 1e-6 {
			t.Errorf("%s: %+v", name, r)
		}
	}
}

// TestWhatIsNoLog is refused at its field, and nothing of it kept.
func TestWhatIsNoLog(t *testing.T) {
	d, _ := open(t, "")
	for field, drafts := range map[string][]string{
		"text:":         {`{"text":"0 8.3"}`, `{"text":"0 8.3 1.4 30"}`, `{"text":"0 8.3 1.4 30 8 x"}`, `{"text":"0 8.3v 1.4v 30 8 1"}`, `{"text":"30 8 1 0 8 1"}`, `{"text":"0 8 1"}`},
		"drop it again": {`{"text":"today.csv"}`},
		"unit: ":        {`{"text":"a","file":"0 7.4 1\n60 7.4 1"}`, `{"text":"0 8 1 9 8 1","unit":"d"}`},
		"file: ":        {`{"text":"a","file":"nothing here"}`, `{"text":"a","file":"t (s);V;A\n1;2"}`, `{"text":"a","file":"t (s);V;A\n0;8;1\n0;8;1"}`, `{"text":"a","file":"t (s);V;A\n"}`, `{"text":"a","file":"x;V;A;t (s)\n1;2;3"}`},
		"cutoff_v: ":    {`{"text":"0 8 1 9 8 1","cutoff_v":9}`, `{"text":"0 8 1 9 8 1","cutoff_v":-1}`},
		"draw: ":        {`{"text":"0 8 1 9 8 1","draw":"1.4"}`, `{"text":"0 8 1 9 8 1","draw":"1/2/-3"}`},
		"share: ":       {`{"text":"0 8 1 9 8 1","draw":"1/2/3","share":"all"}`},
		"within_pct:":   {`{"text":"0 8 1 9 8 1","within_pct":51}`},
	} {
		for _, draft := range drafts {
			if _, err := d.Room(battery.New()).Take(measure.Taking{Draft: json.RawMessage(draft)}); err == nil || !strings.Contains(err.Error(), field) {
				t.Errorf("%s: %v, want %s", draft, err, field)
			}
		}
	}
	large, _ := json.Marshal(battery.Draft{Text: "a", File: strings.Repeat("0 7.4 1\n", 1<<19)})
	if _, err := d.Room(battery.New()).Take(measure.Taking{Draft: large}); err == nil || !strings.Contains(err.Error(), "at most 2 MB") {
		t.Errorf("a log of 4 MB: %v", err)
	}
}

// TestBatteryOnTheBoard: one box for the whole radio, in the headline and in its table.
func TestBatteryOnTheBoard(t *testing.T) {
	r, _ := open(t, "battery 520mAh", battery.Draft{Text: emptied + " ? in the fridge", CutoffV: p(7), WithinPct: p(2)})
	b := board.Of(r, false)
	boxes := b.Boxes(battery.Name)
	if len(boxes) != 1 || boxes[0].Name != "the radio" || boxes[0].Verdict != decision.Fail || !strings.Contains(b.Headline, "Its battery gives less than its label (the radio: 500 mAh") {
		t.Errorf("%+v %q", boxes, b.Headline)
	}
	s := r.Room(battery.New()).Sections(boxes)
	if got := s[0].Rows[0][0]; !strings.HasPrefix(emptied, strings.TrimSuffix(got, "…")) || len(got) > 70 {
		t.Errorf("a long line in a table: %q", got)
	}
	if len(s) != 1 || len(s[0].Rows) != 1 || len(s[0].Rows[0]) != len(s[0].Columns) || s[0].Rows[0][len(s[0].Columns)-1] != "fails; in the fridge" {
		t.Errorf("%+v", s)
	}
}

// FuzzLog: no log makes it panic, and what is read rises in time or is refused by who adds it up.
func FuzzLog(f *testing.F) {
	for _, s := range []string{"t (s);V;A\n0;8;1\n60;7;1", "0 8 1\n1:00 7 1", "Current (mA)\tV\tTime (h)\n1\t2\t3", ";;;", "\"0\",\"1\",\"2\""} {
		f.Add(s, "min")
	}
	f.Fuzz(func(t *testing.T, text, unit string) {
		points, err := battery.ReadFile(text, unit)
		if err == nil && len(points) == 0 {
			t.Error("nothing, and no word why")
		}
	})
}

// TestALogAsClocksAndHeadingsHaveIt: hours and minutes with or without seconds; headings alone are no log, nor is
// one that is too long.
func TestALogAsClocksAndHeadingsHaveIt(t *testing.T) {
	for text, want := range map[string]float64{"0:00;8;1\n0:30;7;1": 1800, "0:00:00;8;1\n0:00:30;7;1": 30, "0:00:00;8;1\n1:00:00;7;1": 3600} {
		points, err := battery.ReadFile(text, "")
		if err != nil || len(points) != 2 || points[1].TS != want {
			t.Errorf("%q: %+v %v", text, points, err)
		}
	}
	for text, want := range map[string]string{"t (s);V;A\n": "nothing under its headings", "hello\nworld": "no line of time", "0;8;1\n5;7": "columns", strings.Repeat("0 8 1\n", 200001): "at most"} {
		if _, err := battery.ReadFile(text, "s"); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%.20q: %v", text, err)
		}
	}
}
