package antenna_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/antenna"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/measuretest"
)

type room = simple.Room[antenna.Draft, antenna.Measured, *antenna.Measured]

var twoMetres = record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}

func open(t *testing.T, all ...antenna.Draft) *room {
	t.Helper()
	return measure.Inside[*room](measuretest.Open(t, measuretest.Review("2m 5/1"), measuretest.Facts(t, antenna.Name, twoMetres, all...)), antenna.New())
}

// oneOhmic is a one-port file of resistances in ohm, of 50 ohm reference.
func oneOhmic(mhz []float64, ohm ...float64) string {
	out := "# MHz S RI R 50\n"
	for i, r := range ohm {
		out += fmt.Sprintf("%g %.12g 0\n", mhz[i], (r-50)/(r+50))
	}
	return out
}

// TestMarkersAndFiles: 100 ohm and 25 ohm on a line of 50 ohm are an SWR of 2, 75 ohm one of 1.5
// (the ratio of the impedances). Markers in any order are the same curve.
func TestMarkersAndFiles(t *testing.T) {
	for name, d := range map[string]antenna.Draft{
		"typed": {Text: "144 2 146 1.5 148 2 ? by the window", Setup: "stock"}, "in another order": {Text: "148MHz 2 144 MHz 2.0 146 1,5", Setup: "stock"},
		"a file": {Text: "stock.s1p", File: oneOhmic([]float64{144, 146, 148}, 100, 75, 25), Setup: "stock"},
	} {
		m := open(t, d).RulingAt(twoMetres)
		if m.Verdict != decision.NoClaim || len(m.Standing) != 1 {
			t.Errorf("%s: %+v", name, m)
			continue
		}
		r := m.Standing[0].Result
		if math.Abs(r.Best.SWR-1.5) > 1e-9 || r.Best.FrequencyHz != 146e6 || math.Abs(*r.OffsetHz) > 1e-3 || math.Abs(*r.WorstInBand.SWR-2) > 1e-9 || math.Abs(*r.BandPct-100) > 1e-6 || len(m.Standing[0].Curve) != 3 {
			t.Errorf("%s: %+v", name, r)
		}
		if typed := d.File == ""; m.Standing[0].Typed != typed || (r.Best.ROhm == nil) != typed || strings.Contains(m.Why, "% of it") == typed {
			t.Errorf("%s: what markers do not tell: %+v, %q", name, r.Best, m.Why)
		}
	}
	// An SWR alone is at the frequency dialled, and says nothing of the band.
	for _, text := range []string{"1.4", "swr 1.4", "SWR 1,4"} {
		m := open(t, antenna.Draft{Text: text, Setup: "load"}).RulingAt(twoMetres).Standing[0]
		if math.Abs(m.Result.Best.SWR-1.4) > 1e-9 || m.Result.Best.FrequencyHz != 146.52e6 || m.Result.BandPct != nil || m.Result.WorstInBand != nil {
			t.Errorf("%s: %+v", text, m.Result)
		}
	}
}

// TestTheCableIsTakenOff: behind 3.0103 dB one way, a short shows a return loss of 6.02 dB, which
// is an SWR of 3 (common practice, no source): without the cable nothing goes in.
func TestTheCableIsTakenOff(t *testing.T) {
	db, more := 3.0103, 0.5
	d := open(t, antenna.Draft{Text: "144 3 148 3", Setup: "stock", CableDB: &db})
	if got := d.RulingAt(twoMetres); got.Verdict != decision.NotCovered || !strings.Contains(got.Why, "nothing goes in") {
		t.Errorf("%+v", got)
	}
	m := open(t, antenna.Draft{Text: "144 2 148 2", Setup: "stock", CableDB: &more}).RulingAt(twoMetres).Standing[0]
	rho := math.Pow(10, 0.05) / 3
	if want := (1 + rho) / (1 - rho); math.Abs(m.Result.Best.SWR-want) > 1e-9 {
		t.Errorf("SWR %g, want %g", m.Result.Best.SWR, want)
	}
}

// TestTheWorseOfASetupStands: whatever came last, and each setup by itself.
func TestTheWorseOfASetupStands(t *testing.T) {
	d := open(t, antenna.Draft{Text: "144 2.5 146 1.2 148 1.9", Setup: "stock"}, antenna.Draft{Text: "144 1.5 146 1.1 148 1.2", Setup: "stock"}, antenna.Draft{Text: "144 1.8 148 1.8", Setup: "in-hand"}, antenna.Draft{Text: "nothing", Setup: "other"})
	got := d.RulingAt(twoMetres)
	if got.Verdict != decision.Void || len(got.Standing) != 2 || *got.Standing[0].Result.WorstInBand.SWR != 2.5 || got.Standing[1].Setup != "in-hand" || got.Of != 4 {
		t.Errorf("%+v", got)
	}
	rows := d.Sections(nil)[0].Rows
	if row := strings.Join(rows[0], "|"); row != "2m|146.52 MHz|144 2.5 146 1.2 148 1.9|the antenna it comes with, by itself|none|1.20|146 MHz|+0.00 MHz, +0.0 %|2.50|144 MHz|86 %, straight between markers|no claim" {
		t.Error(row)
	}
	if void := rows[3][len(rows[3])-1]; !strings.HasPrefix(void, "text: ") && !strings.Contains(void, "not") || strings.HasPrefix(void, "does not count") {
		t.Errorf("what cannot be read any more says why: %q", void)
	}
}

// TestTheHeadlineSaysWhatWasMeasured, also where another band was not.
func TestTheHeadlineSaysWhatWasMeasured(t *testing.T) {
	for claimed, want := range map[string]string{"2m 5/1": "Measured, with no claim to be held against: antenna.", "2m 5/1 70cm 4/1": "Measured, with no claim to be held against: antenna."} {
		b := board.Of(measuretest.Open(t, measuretest.Review(claimed), measuretest.Facts(t, antenna.Name, twoMetres, antenna.Draft{Text: "144 2 146 1.5 148 2", Setup: "stock"})), false)
		if !strings.Contains(b.Headline, want) {
			t.Errorf("%s: %s", claimed, b.Headline)
		}
	}
}

// TestWhatCountsForNothingIsNoHeadline: where every figure is not covered, none was measured.
func TestWhatCountsForNothingIsNoHeadline(t *testing.T) {
	db := 3.0103
	b := board.Of(measuretest.Open(t, measuretest.Review("2m 5/1"), measuretest.Facts(t, antenna.Name, twoMetres, antenna.Draft{Text: "144 3 148 3", Setup: "stock", CableDB: &db})), false)
	if !strings.Contains(b.Headline, "No antenna that counts was measured") || strings.Contains(b.Headline, "Measured, with no claim") {
		t.Error(b.Headline)
	}
}

// TestRefused: each at its field.
func TestRefused(t *testing.T) {
	d := open(t)
	for draft, want := range map[string]string{
		`{"text":"","setup":"stock"}`: "text: give markers", `{"text":"stock.s1p","setup":"stock"}`: "text: the file stock.s1p is not here", `{"text":"144 2.1 146","setup":"stock"}`: "text: give markers", `{"text":"144 0.9","setup":"stock"}`: "text: 0.9 is no SWR", `{"text":"144 1000","setup":"stock"}`: "text: 1000 is no SWR",
		`{"text":"144 2 144 3","setup":"stock"}`: "text: 144 MHz is marked twice", `{"text":"2m 2","setup":"stock"}`: "text: \"2m\"", `{"text":"1e9 2","setup":"stock"}`: "text: \"1e9\"", `{"text":"0 2","setup":"stock"}`: "text: 0 Hz",
		`{"text":"144 2","setup":"roof"}`: "setup:", `{"text":"144 2","setup":"stock","cable_db":-1}`: "cable_db:", `{"text":"a.s1p","setup":"stock","file":"nothing"}`: "file:",
		`{"text":"a.s2p","setup":"stock","file":"# MHz S RI R 50\n144 0 0 0 0 0 0 0 0\n"}`: "file:",
	} {
		if _, err := measuretest.Take(d, measure.Taking{Keyed: twoMetres, Draft: json.RawMessage(draft), Through: &record.Through{Name: "no path"}}); err == nil || !strings.HasPrefix(fmt.Sprint(err), want) {
			t.Errorf("%s: %v", draft, err)
		}
	}
	large, _ := json.Marshal(antenna.Draft{Text: "a.s1p", Setup: "stock", File: strings.Repeat("! much\n", 1<<19)})
	if _, err := measuretest.Take(d, measure.Taking{Keyed: twoMetres, Draft: large}); err == nil || !strings.Contains(err.Error(), "at most 2 MB") {
		t.Errorf("a file of 3.5 MB: %v", err)
	}
	long := oneOhmic(nil)
	for i := range 1002 {
		long += fmt.Sprintf("%g 0.2 0\n", 140+0.01*float64(i))
	}
	if m := open(t, antenna.Draft{Text: "a.s1p", Setup: "stock", File: long}).RulingAt(twoMetres).Standing[0]; len(m.Curve) > 301 || m.Curve[0].FrequencyHz != 140e6 || math.Abs(m.Curve[len(m.Curve)-1].FrequencyHz-150.01e6) > 1 {
		t.Errorf("%d points drawn", len(m.Curve))
	}
}

// FuzzReadMarkers: what is read rises in frequency and is an SWR of 1 or more.
func FuzzReadMarkers(f *testing.F) {
	for _, s := range []string{"144 2.1 146 1.4 148 1.9", "swr 1.4", "144MHz 2", "1 1 1 1", "145,5 1,2"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		n, err := antenna.ReadMarkers(text, 146e6)
		if err != nil {
			return
		}
		if out, err := antenna.Measure(antenna.Input{Network: n, SWR: 2}); err != nil || out.Best == nil || !(out.Best.SWR >= 1) {
			t.Errorf("%q: %+v %v", text, out, err)
		}
	})
}

// TestTheWorstMayLieInTheMiddle of a band as well as at its ends.
func TestTheWorstMayLieInTheMiddle(t *testing.T) {
	for text, want := range map[string][2]float64{"143 1.1 144 1.2 146 2.6 148 1.3 149 3": {2.6, 146e6}, "144 2.7 146 1.1 148 1.3": {2.7, 144e6}, "144 1.2 146 1.1 148 1.9": {1.9, 148e6}} {
		w := open(t, antenna.Draft{Text: text, Setup: "stock"}).RulingAt(twoMetres).Standing[0].Result.WorstInBand
		if w == nil || math.Abs(*w.SWR-want[0]) > 1e-9 || w.FrequencyHz != want[1] {
			t.Errorf("%s: %+v", text, w)
		}
	}
}

// TestAnSWRAlone is at its frequency, and nothing is said of where it is best; up to 999 (common practice, no
// source).
func TestAnSWRAlone(t *testing.T) {
	for text, want := range map[string]string{"swr 1.3": "a load: SWR 1.30 at 146.52 MHz", "144 2.1 146 1.4 148 1.9": "a load: SWR 1.40 at best, at 146 MHz", "144 999": "SWR 999.00 at 144 MHz"} {
		r := open(t, antenna.Draft{Text: text, Setup: "load"}).RulingAt(twoMetres)
		if !strings.Contains(r.Why, want) || (r.Standing[0].Result.OffsetHz == nil) != (text != "144 2.1 146 1.4 148 1.9") {
			t.Errorf("%s: %s", text, r.Why)
		}
	}
}

// TestAFileThatIsTooLong is refused.
func TestAFileThatIsTooLong(t *testing.T) {
	draft, _ := json.Marshal(antenna.Draft{Text: "a.s1p", Setup: "stock", File: strings.Repeat("! remark\n", 300_000)})
	if _, err := measuretest.Take(open(t), measure.Taking{Keyed: twoMetres, Draft: draft, Through: &record.Through{Name: "no path"}}); err == nil || !strings.Contains(err.Error(), "2 MB") {
		t.Error(err)
	}
}
