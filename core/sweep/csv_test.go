package sweep

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"talloak/core/units"
)

// TestParseCSVShapes: the same five points as instruments and people write them.
func TestParseCSVShapes(t *testing.T) {
	for name, c := range map[string]struct {
		text  string
		taken string
	}{
		"bare, Hz":               {"144000000,-90.5\n144500000,-91\n145000000,-30\n145500000,-90\n146000000,-92\n", "Hz (not said"},
		"header, MHz":            {"Frequency (MHz),Level (dBm)\n144.0,-90.5\n144.5,-91\n145,-30\n145.5,-90\n146,-92\n", `column 2 "Level (dBm)" of 2`},
		"Windows, semicolons":    {"Freq [MHz];Pegel [dBm]\r\n144,0;-90,5\r\n144,5;-91\r\n145,0;-30\r\n145,5;-90\r\n146,0;-92\r\n", "in MHz"},
		"tabs, GHz, bom":         {"\xef\xbb\xbfGHz\tdBm\n0.144\t-90.5\n0.1445\t-91\n0.145\t-30\n0.1455\t-90\n0.146\t-92", "in GHz"},
		"spaces, no unit":        {"144 -90.5\n144.5 -91\n145 -30\n145.5 -90\n146 -92\n", "MHz (not said"},
		"kHz, blank lines":       {"# a note\n\nkHz;dBm\n\n144000;-90.5\n144500;-91\n145000;-30\n\n145500;-90\n146000;-92\n\n", "in kHz"},
		"units in the cells":     {"144 MHz;-90.5 dBm\n144.5 MHz;-91 dBm\n145 MHz;-30 dBm\n145.5 MHz;-90 dBm\n146 MHz;-92 dBm\n", "in MHz"},
		"more columns":           {"Point,Frequency (Hz),Phase,Trace A (dBm)\n1,144e6,0,-90.5\n2,144.5e6,0,-91\n3,145e6,0,-30\n4,145.5e6,0,-90\n5,146e6,0,-92\n", "column 2 in Hz, level from column 4"},
		"units in their own row": {"Point;Frequency;Level\n;MHz;dBm\n1;144;-90.5\n2;144.5;-91\n3;145;-30\n4;145.5;-90\n5;146;-92\n", "column 2 in MHz, level from column 3"},
		"quoted":                 {"\"144000000\",\"-90.5\"\n\"144500000\",\"-91\"\n\"145000000\",\"-30\"\n\"145500000\",\"-90\"\n\"146000000\",\"-92\"\n", "Hz (not said"},
		"settings above":         {"Start,144000000\nStop,146000000\nRBW,10 kHz\nFrequency,Amplitude\n144000000,-90.5\n144500000,-91\n145000000,-30\n145500000,-90\n146000000,-92\n", `"Amplitude"`},
		"decibels over 1 µV":     {"Hz;dBµV\n144000000;16.4897\n144500000;15.9897\n145000000;76.9897\n145500000;16.9897\n146000000;14.9897\n", "dBuV"},
		"levels alone":           {"Start Frequency,144 MHz\nStop Frequency,146 MHz\nRBW,10 kHz\n-90.5,\n-91,\n-30,\n-90,\n-92,\n", "evenly between"},
		"points counted":         {"Center;145,0 MHz\nSpan (MHz);2,0\nPoint;dBm\n1;-90,5\n2;-91\n3;-30\n4;-90\n5;-92\n", "evenly between"},
		"counted, dBuV":          {"Start,144 MHz\nStop,146 MHz\nPoint;dBuV\n1;16.4897\n2;15.9897\n3;76.9897\n4;16.9897\n5;14.9897\n", "dBuV"},
		"alone, dBuV":            {"Start,144 MHz\nStop,146 MHz\nY Unit,dBuV\n16.4897\n15.9897\n76.9897\n16.9897\n14.9897\n", "dBuV"},
		"alone, headed dBuV":     {"Start,144 MHz\nStop,146 MHz\nTrace 1 (dBuV)\n16.4897\n15.9897\n76.9897\n16.9897\n14.9897\n", "dBuV"},
		"a setting, 5 W":         {"Start,144 MHz\nStop,146 MHz\nCarrier,5 W\n0,-90.5\n1,-91\n2,-30\n3,-90\n4,-92\n", "dBm"},
		"digits in threes":       {"Hz;dBm\n144 000 000;-90,5\n144 500 000;-91\n145\u00a0000\u00a0000;-30\n145'500'000;-90\n146000000;\u221292\n", "in Hz"},
		"starts of settings":     {"Start Frequency (MHz),144\nStop Frequency (MHz),146\n144000000,-90.5\n144500000,-91\n145000000,-30\n145500000,-90\n146000000,-92\n", "Hz (not said"},
		"a limit beside it":      {"Frequency (MHz),Limit (dBm),Trace 1 (dBm)\n144.0,-16,-90.5\n144.5,-16,-91\n145,-16,-30\n145.5,-16,-90\n146,-16,-92\n", `column 3 "Trace 1 (dBm)"`},
		"the held of three":      {"Freq;Min;Avg;Max hold\nMHz;dBm;dBm;dBm\n144;-99;-95;-90.5\n144.5;-99;-95;-91\n145;-99;-95;-30\n145.5;-99;-95;-90\n146;-99;-95;-92\n", `column 4 "Max hold dBm"`},
		"settings that are none": {"Carrier,5 W\nTrigger Offset,5 ms\nY Unit,dBm\nX Unit,Hz\nDetector,Average\nFrequency,Level\n144000000,-90.5\n144500000,-91\n145000000,-30\n145500000,-90\n146000000,-92\n", `column 2 "Level" of 2`},
		"a setting's unit":       {"Y Unit;dBuV\nX Unit;Hz\nFrequency (Hz);Magnitude\n144000000;16.4897\n144500000;15.9897\n145000000;76.9897\n145500000;16.9897\n146000000;14.9897\n", "dBuV"},
		"a third column, signed": {"144000000,-90.5,-99\n144500000,-91,-99\n145000000,-30,-99\n145500000,-90,-99\n146000000,-92,-99\n", "column 2 of 3"},
	} {
		got, err := ParseCSV([]byte(c.text))
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		tr := got.Trace
		if tr.Start != 144e6 || tr.Stop != 146e6 || len(tr.Levels) != 5 {
			t.Errorf("%s: %v to %v, %d points", name, tr.Start, tr.Stop, len(tr.Levels))
			continue
		}
		for i, want := range []float64{-90.5, -91, -30, -90, -92} {
			if math.Abs(tr.Levels[i]-want) > 1e-3 {
				t.Errorf("%s: level %d is %v, want %v", name, i, tr.Levels[i], want)
			}
		}
		if !strings.Contains(got.Taken, c.taken) {
			t.Errorf("%s: taken %q, want %q in it", name, got.Taken, c.taken)
		}
		if name == "settings that are none" && (got.OffsetDB != nil || got.Hold != "") {
			t.Errorf("%s: %+v", name, got)
		}
		if name == "the held of three" && got.Hold != "max" {
			t.Errorf("%s: hold %q", name, got.Hold)
		}
		if name == "settings above" && tr.RBW != 10e3 {
			t.Errorf("%s: RBW %v", name, tr.RBW)
		}
	}
}

func TestParseCSVRefuses(t *testing.T) {
	for name, c := range map[string]struct{ text, want string }{
		"nothing":            {"", "line 1"},
		"words":              {"no table\nat all\n", "line 2"},
		"one row":            {"144e6,-90\n", "line 1"},
		"falling":            {"145e6,-90\n144e6,-90\n", "line 2"},
		"no number":          {"Hz,dBm\n1e6,-90\n2e6,---\n", "line 3"},
		"no level":           {"1e6,-90\n2e6,700\n", "line 2"},
		"infinite":           {"1e6,-90\n2e6,inf\n", "line 2"},
		"missing column":     {"1e6,-90\n2e6\n", "line 2"},
		"commas twice over":  {"144,5,-90,5\n145,5,-91,5\n", "decimal"},
		"which unit":         {"200000,-90\n300000,-90\n400000,-91\n", "no unit"},
		"counted points":     {"Point,dBm\n0,-90\n1,-90\n2,-91\n", "counts the points"},
		"counted from one":   {"Start,30\nStop,1000\n1,-90\n2,-90\n3,-91\n", "counts the points"},
		"levels alone":       {"-90\n-90\n-91\n", "no rows"},
		"spaces in threes":   {"144 000;-90\n145 000;-91\n", "no unit"},
		"binary":             {"1e6,-90\n\x00\n", "plain text"},
		"volts":              {"Hz,Level (dBmV)\n1e6,-90\n2e6,-90\n", "dBmV"},
		"milliwatts":         {"Hz,Level (mW)\n1e6,0.1\n2e6,0.2\n", "mW"},
		"a field strength":   {"MHz,dBuV/m\n1,40\n2,41\n", "field strength"},
		"a limit alone":      {"Frequency (Hz),Limit (dBm)\n1e6,-16\n2e6,-16\n", "no trace"},
		"a footer":           {"1e6,-90\n2e6,-90\nend of file\n", "line 3"},
		"a negative start":   {"Hz,dBm\n-1e6,-90\n2e6,-90\n", "below 0"},
		"one very long line": {strings.Repeat("x", 1<<17), "line 1"},
	} {
		_, err := ParseCSV([]byte(c.text))
		if err == nil || !strings.Contains(err.Error(), c.want) || !strings.HasPrefix(err.Error(), "csv: ") {
			t.Errorf("%s: %v, want %q", name, err, c.want)
		}
	}
	if _, err := ParseCSV(make([]byte, MaxCSV+1)); err == nil || !strings.Contains(err.Error(), "64 MiB") {
		t.Errorf("over 64 MiB: %v", err)
	}
}

// TestQuickRowAgreesWithSlow: the fast way gives the very same floats.
func TestQuickRowAgreesWithSlow(t *testing.T) {
	lay := layout{delimiter: ',', levelCol: 1, columns: 2, exp10: 6}
	for i := range 5000 {
		f := float64(i) * 0.7310529
		line := fmt.Appendf(nil, "%.*f,%.*f", i%9, f, i%5, -f/50)
		qf, ql, _, ok := lay.quickRow(line)
		sf, sl, err := lay.row(line)
		if err != nil || !ok || qf != sf || ql != sl {
			t.Fatalf("%s: %v %v (%v) against %v %v (%v)", line, qf, ql, ok, sf, sl, err)
		}
	}
}

// TestALongTextIsReadInHalves: as a short one is, with the line that is wrong.
func TestALongTextIsReadInHalves(t *testing.T) {
	text := csvText(40_000)
	whole, err := ParseCSV(text)
	if err != nil || len(whole.Trace.Levels) != 40_000 {
		t.Fatalf("%d %v", len(whole.Trace.Levels), err)
	}
	lines := bytes.SplitAfter(text, []byte("\n"))
	for _, at := range []int{3, 19_990, 20_010, 39_999} {
		some := slices.Clone(lines)
		some[at] = []byte("# said in between\n" + string(some[at]))
		if got, err := ParseCSV(bytes.Join(some, nil)); err != nil || !slices.Equal(got.Trace.Levels, whole.Trace.Levels) {
			t.Errorf("a remark on line %d: %v", at, err)
		}
		some[at] = []byte("5,-90\n")
		if _, err := ParseCSV(bytes.Join(some, nil)); err == nil || !strings.Contains(err.Error(), fmt.Sprintf("line %d:", at+1)) {
			t.Errorf("falling on line %d: %v", at+1, err)
		}
	}
}

// TestAnUnevenListKeepsItsFrequencies: it is no sweep, and none of its figures moves.
func TestAnUnevenListKeepsItsFrequencies(t *testing.T) {
	got, err := ParseCSV([]byte("MHz,dBc\n146.5,0\n205,-61\n293,-66\n1400,-70\n"))
	if err != nil || !got.Normalised || !strings.Contains(got.Taken, "unevenly spaced") || !strings.Contains(got.Taken, "dBc") {
		t.Fatalf("%+v %v", got, err)
	}
	if both, err := ParseCSV([]byte("MHz,dBc,dBm\n146.5,0,-10\n205,-61,-71\n")); err != nil || both.Normalised || both.Trace.Levels[1] != -71 {
		t.Errorf("%+v %v", both, err)
	}
	tr := got.Trace
	for i, f := range []units.Hertz{146.5e6, 205e6, 293e6, 1400e6} {
		if tr.Frequency(i) != f || tr.Nearest(f+20e6) != i {
			t.Errorf("point %d at %s, nearest %d", i, tr.Frequency(i), tr.Nearest(f+20e6))
		}
	}
	if first, end := tr.IndexRange(205e6, 300e6); first != 1 || end != 3 {
		t.Errorf("%d to %d", first, end)
	}
}

func FuzzParseCSV(f *testing.F) {
	f.Add([]byte("Freq [MHz];Pegel [dBm]\r\n144,0;-90,5\r\n144,5;-91\r\n"))
	f.Add([]byte("144 -90.5\n144.5 -91\n145 -30\n"))
	f.Add([]byte("RBW,10 kHz\nFrequency,Amplitude\n144000000,-90.5\n144500000,-91\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		got, err := ParseCSV(data)
		if err != nil {
			return
		}
		if err := got.Trace.Check(); err != nil {
			t.Fatalf("%q gives a trace that is none: %v", data, err)
		}
		got.Trace.Peaks(got.Trace.Floor(0))
		got.Trace.Thin(100)
	})
}

// TestAllocationsDoNotGrow: parsing ten times the rows takes no more allocations.
func TestAllocationsDoNotGrow(t *testing.T) {
	count := func(n int) float64 {
		text := csvText(n)
		return testing.AllocsPerRun(5, func() {
			if _, err := ParseCSV(text); err != nil {
				t.Fatal(err)
			}
		})
	}
	// A few more or fewer come and go with the pool of buffers.
	if small, large := count(5_000), count(50_000); large > small+50 {
		t.Errorf("%v allocations for 50,000 rows, %v for 5,000", large, small)
	}
}

func TestFloorFollowsSteps(t *testing.T) {
	for _, n := range []int{401, 20_001} {
		tr := Trace{Start: 0, Stop: 1e9, Levels: make([]float64, n)}
		for i := range tr.Levels {
			tr.Levels[i] = -100
			if i >= n/2 {
				tr.Levels[i] = -80
			}
		}
		tr.Levels[n/4] = -20
		f := tr.Floor(0)
		for _, c := range []struct {
			at   int
			want units.DBm
		}{{n / 4, -100}, {n/2 - n/50, -100}, {n/2 + n/50, -80}, {n - 1, -80}, {0, -100}} {
			if got := f.At(c.at); got != c.want {
				t.Errorf("%d points: floor at %d is %v, want %v", n, c.at, got, c.want)
			}
		}
		peaks := tr.Peaks(f)
		if len(peaks) != 1 || peaks[0].Index != n/4 {
			t.Errorf("%d points: peaks %v, want the one line", n, peaks)
		}
	}
}

// TestNoiseAloneShowsNoLine: of 10 sweeps of 10,001 points at most one shows a line,
// whatever detector and hold; a step in the floor makes none, and short or zoomed
// sweeps have a floor too.
func TestNoiseAloneShowsNoLine(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	held := func(n float64) func() float64 {
		return func() float64 { return 10 * math.Log10(-math.Log(1-math.Pow(r.Float64(), 1/n))) }
	}
	for _, c := range []struct {
		name  string
		point func() float64
	}{
		{"sample, single", func() float64 { return 10 * math.Log10(r.ExpFloat64()) }},
		{"max hold of 20", held(20)},
		{"peak of 3", held(3)},
		{"rms of 8", func() float64 {
			sum := 0.0
			for range 8 {
				sum += r.ExpFloat64()
			}
			return 10 * math.Log10(sum/8)
		}},
		{"level", func() float64 { return 0 }},
	} {
		for _, step := range []float64{0, 12} {
			with := 0
			for range 10 {
				tr := Trace{Start: 30e6, Stop: 1530e6, RBW: 200e3, Levels: make([]float64, 10_001)}
				for i := range tr.Levels {
					if tr.Levels[i] = -90 + c.point(); i > 4321 {
						tr.Levels[i] += step
					}
				}
				if len(tr.Peaks(tr.Floor(0))) > 0 {
					with++
				}
			}
			if with > 1 {
				t.Errorf("%s, a step of %v dB: %d of 10 sweeps show a line", c.name, step, with)
			}
		}
	}
	// A line clears six times the distance to the 84 % point: 9 dB where that is 1.5.
	r = rand.New(rand.NewPCG(7, 8))
	plain := Trace{Start: 0, Stop: 1e9, Levels: make([]float64, 4001)}
	for i := range plain.Levels {
		plain.Levels[i] = -90 + 1.5*r.NormFloat64()
	}
	if f := plain.Floor(0); math.Abs(float64(f.Line(2000)-f.At(2000))-9) > 1.8 || math.Abs(float64(f.High(2000)-f.At(2000))-1.645*1.5) > 0.7 {
		t.Errorf("noise %v, up to %v, lines from %v", f.At(2000), f.High(2000), f.Line(2000))
	}
	// Half of a zoomed sweep is the carrier, and the noise is still that beside it.
	zoomed := Trace{Start: 0, Stop: 100e3, RBW: 10e3, Levels: make([]float64, 501)}
	for i := range zoomed.Levels {
		x := (float64(zoomed.Frequency(i)) - 50e3) / 10e3
		zoomed.Levels[i] = max(-90+0.5*r.NormFloat64(), -10-12.04*x*x)
	}
	if f := zoomed.Floor(0); math.Abs(float64(f.At(250))+90) > 1 || math.Abs(float64(f.High(250))+89) > 1 || f.Line(250) > -83 {
		t.Errorf("noise %v, up to %v, lines from %v", f.At(250), f.High(250), f.Line(250))
	}
	if peaks := zoomed.Peaks(zoomed.Floor(0)); len(peaks) != 1 || peaks[0].Index != 250 {
		t.Errorf("%+v", peaks)
	}
}

// TestPeaksMergeAndPart: shoulders belong to their line, a dip parts two.
func TestPeaksMergeAndPart(t *testing.T) {
	tr := Trace{Start: 0, Stop: 1000e3, Levels: bytesToLevels(bytes.Repeat([]byte{100}, 1001)), RBW: 3e3}
	for i, l := range map[int]float64{300: -50, 299: -60, 301: -60, 302: -58, 400: -50, 404: -70, 405: -80, 408: -55} {
		tr.Levels[i] = l
	}
	var at []int
	for _, p := range tr.Peaks(tr.Floor(0)) {
		at = append(at, p.Index)
	}
	if fmt.Sprint(at) != "[300 400 404 408]" {
		t.Errorf("peaks at %v", at)
	}
}

func bytesToLevels(b []byte) []float64 {
	out := make([]float64, len(b))
	for i, v := range b {
		out[i] = -float64(v)
	}
	return out
}

// TestSettingsFromTheHeader: detector and hold where the file names them, and only then.
func TestSettingsFromTheHeader(t *testing.T) {
	const rows = "Hz,dBm\n1000000,-90\n2000000,-91\n"
	for header, want := range map[string][2]string{
		"": {}, "Detector,Positive Peak\nTrace,Max Hold\n": {"peak", "max"}, "# Det: RMS\n# Hold = off\n": {"rms", "single"},
		"Detector;Sample\nTrace mode;Clear Write\n": {"sample", "single"}, "Detector,AVG\nTrace type,average\n": {"average", "average"}, "Detector,quasi\n": {},
	} {
		got, err := ParseCSV([]byte(header + rows))
		if err != nil || [2]string{got.Detector, got.Hold} != want {
			t.Errorf("%q: %q %q, want %v (%v)", header, got.Detector, got.Hold, want, err)
		}
	}
}

// TestUnitGuess: without a unit the size decides, to the edge.
func TestUnitGuess(t *testing.T) {
	for text, want := range map[string]units.Hertz{
		"500000,-90\n1000000,-90\n": 1e6, "1,-90\n30000,-90\n": 30e9, "1,-90\n30,-90\n": 30e6, "1,-90\n29.9,-90\n": 29.9e9, "0.01,-90\n0.03,-90\n": 30e6,
	} {
		if got, err := ParseCSV([]byte(text)); err != nil || math.Abs(float64(got.Trace.Stop-want)) > 1 {
			t.Errorf("%q: %v %v, want %v", text, got.Trace.Stop, err, want)
		}
	}
	for _, text := range []string{"1,-90\n30001,-90\n", "1,-90\n999999,-90\n", "0.01,-90\n0.029,-90\n"} {
		if got, err := ParseCSV([]byte(text)); err == nil {
			t.Errorf("%q taken to %v", text, got.Trace.Stop)
		}
	}
	// A file headed Hz that holds MHz cannot be meant; told, it is read as it is.
	odd, err := ParseCSV([]byte("Hz,dBm\n30,-90\n1500,-90\n"))
	if err != nil || odd.Doubt(146e6) == "" {
		t.Errorf("%v %q", err, odd.Doubt(146e6))
	}
	if told, err := ParseCSVIn([]byte("Hz,dBm\n30,-90\n1500,-90\n"), "MHz"); err != nil || told.Trace.Stop != 1500e6 || told.Doubt(146e6) != "" {
		t.Errorf("%+v %v", told.Trace.Stop, err)
	}
}

func TestFindComb(t *testing.T) {
	var lines []units.Hertz
	for k := range 9 {
		if k != 3 && k != 5 { // two of the comb are missing, one stranger is there
			lines = append(lines, 145.2e6+units.Hertz(k)*39e3)
		}
	}
	lines = append(lines, 200e6)
	c, ok := FindComb(lines, 1e3)
	if !ok || math.Abs(float64(c.Spacing-39e3)) > 1 || c.Lines != 7 {
		t.Errorf("comb %+v %v", c, ok)
	}
	// Spacings up to five tolerances fit anything.
	even := []units.Hertz{100e6, 100.01e6, 100.02e6, 100.03e6, 100.04e6}
	if _, ok := FindComb(even, 2.1e3); ok {
		t.Error("a comb within its own tolerance")
	}
	if _, ok := FindComb(even, 1.9e3); !ok {
		t.Error("no comb over five tolerances")
	}
	if c, ok := FindComb([]units.Hertz{100e6, 137e6, 190e6, 300e6, 377e6}, 100e3); ok {
		t.Errorf("a comb among strangers: %+v", c)
	}
}

func TestThinLosesNoCrest(t *testing.T) {
	tr := Trace{Start: 0, Stop: 1e6, Levels: bytesToLevels(bytes.Repeat([]byte{90}, 10_000))}
	tr.Levels[7777] = -12
	highest := -1000.0
	for _, r := range tr.Thin(300) {
		highest = max(highest, r.High)
	}
	if highest != -12 {
		t.Errorf("highest %v", highest)
	}
}

// TestPeaksAgreeWithAGeneralLibrary: the same traces, peak by peak; which library, with what
// arguments, each file says as its origin.
func TestPeaksAgreeWithAGeneralLibrary(t *testing.T) {
	files, err := filepath.Glob("testdata/peaks-*.json")
	if err != nil || len(files) != 3 {
		t.Fatalf("%v %v", files, err)
	}
	for _, file := range files {
		var in struct {
			Origin  string
			StartHz float64   `json:"start_hz"`
			StopHz  float64   `json:"stop_hz"`
			RBWHz   float64   `json:"rbw_hz"`
			Levels  []float64 `json:"levels_dbm"`
			Peaks   []int
		}
		text, err := os.ReadFile(file)
		if err == nil {
			err = json.Unmarshal(text, &in)
		}
		if err != nil || in.Origin == "" {
			t.Fatal(file, err)
		}
		tr := Trace{Start: units.Hertz(in.StartHz), Stop: units.Hertz(in.StopHz), RBW: units.Hertz(in.RBWHz), Levels: in.Levels}
		var got []int
		for _, p := range tr.Peaks(tr.Floor(0)) {
			got = append(got, p.Index)
		}
		if !slices.Equal(got, in.Peaks) {
			t.Errorf("%s: %v, the library has %v", file, got, in.Peaks)
		}
	}
}

// TestWhatIsClearOfTheNoise: six spreads, 6 dB at the least and 15 at the most.
func TestWhatIsClearOfTheNoise(t *testing.T) {
	for spread, want := range map[float64]float64{0: 6, 0.9: 6, 1.1: 6.6, 2: 12, 2.4: 14.4, 2.6: 15, 9: 15} {
		if got := clearOf(spread); math.Abs(got-want) > 1e-9 {
			t.Errorf("a spread of %g dB: %g dB, want %g", spread, got, want)
		}
	}
}
