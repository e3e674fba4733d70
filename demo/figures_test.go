package demo_test

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"html"
	"math"
	"os/exec"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"talloak/core/units"
	"talloak/publish"
)

// numbersIn are all numbers of a JSON text, and all its texts.
func numbersIn(t *testing.T, doc []byte) (numbers []float64, texts string) {
	t.Helper()
	var root any
	if err := json.Unmarshal(doc, &root); err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	var walk func(any)
	walk = func(v any) {
		switch x := v.(type) {
		case float64:
			numbers = append(numbers, x)
		case string:
			b.WriteString(strings.ReplaceAll(x, "−", "-") + "\n")
		case []any:
			for _, e := range x {
				walk(e)
			}
		case map[string]any:
			for _, e := range x {
				walk(e)
			}
		}
	}
	walk(root)
	return numbers, b.String()
}

var (
	inWatts  = regexp.MustCompile(`\d+(?:\.\d+)? (?:µW|mW|kW|W)\b`)
	signedDB = regexp.MustCompile(`[+-]\d+\.\d+ dB\b`)
)

// TestEveryFigureIsInTheData: whatever page, text, PDF and cards print in watts, or in dB with a sign, is a number of the
// edition's data as it is rounded there, or stands in one of its texts; and the figures of the first table are on all
// of them.
func TestEveryFigureIsInTheData(t *testing.T) {
	_, reviews := load(t)
	for title, r := range reviews {
		e := freeze(t, r, nil)
		numbers, texts := numbersIn(t, e.doc)
		slices.Sort(numbers)
		// a number of the data as it was rounded where it is printed
		known := func(figure string) bool {
			digits, unit, _ := strings.Cut(figure, " ")
			v, err := strconv.ParseFloat(digits, 64)
			if err != nil {
				t.Fatal(err)
			}
			_, decimals, _ := strings.Cut(digits, ".")
			scale := map[string]float64{"µW": 1e-6, "mW": 1e-3, "kW": 1e3}[unit]
			if scale == 0 {
				scale = 1
			}
			half := scale * 0.5000001 * math.Pow(10, -float64(len(decimals)))
			for _, v := range []float64{scale * v, -scale * v} { // an excess is less room
				if i, _ := slices.BinarySearch(numbers, v-half); i < len(numbers) && numbers[i] <= v+half {
					return true
				}
			}
			return false
		}
		d, err := publish.Read(e.doc)
		if err != nil {
			t.Fatal(err)
		}
		text, err := publish.Text(e.doc, "")
		if err != nil {
			t.Fatal(err)
		}
		pdf, err := d.PDF("a4", "")
		if err != nil {
			t.Fatal(err)
		}
		if title == quillon {
			again, err := d.PDF("a4", "")
			if err != nil || string(again) != string(pdf) {
				t.Errorf("another PDF of the same edition (%v)", err)
			}
		}
		page := regexp.MustCompile(`(?s)<script.*?</script>|<style.*?</style>|<!-- talloak.*|<[^>]*>`).ReplaceAllString(string(e.page), " ")
		drawn := ""
		for _, name := range publish.CardNames {
			card, err := d.Card(name, "1920x1080", "")
			var nothing publish.NothingToShow
			if errors.As(err, &nothing) {
				continue
			}
			if err != nil {
				t.Fatal(err)
			}
			svg, err := card.SVG()
			if err != nil {
				t.Fatal(err)
			}
			drawn += html.UnescapeString(regexp.MustCompile(`(?s)<style.*?</style>|<[^>]*>`).ReplaceAllString(string(svg), " "))
		}
		tables := tablesOf(t, e.pack)
		for _, s := range d.Shown {
			for of, v := range map[string]*float64{"measured_w": s.Power.MeasuredW, "claimed_w": s.Power.ClaimedW, "room_db": s.Emissions.RoomDB} {
				if v != nil && !slices.Contains(tables[of], strconv.FormatFloat(*v, 'g', -1, 64)) {
					t.Errorf("%s: %s %g of %s is not in the package", title, of, *v, s.Name)
				}
			}
		}
		out := map[string]string{"cards": drawn, "page": html.UnescapeString(page), "text": string(text), "pdf": textOf(t, pdf)}
		for where, content := range out {
			content = strings.Join(strings.Fields(strings.ReplaceAll(content, "−", "-")), " ")
			found := append(inWatts.FindAllString(content, -1), signedDB.FindAllString(content, -1)...)
			if len(found) < 4 {
				t.Errorf("%s: %d figures on the %s", title, len(found), where)
			}
			for _, f := range found {
				if !known(f) && !strings.Contains(texts, f) {
					t.Errorf("%s: %q stands on the %s and not in the data", title, f, where)
				}
			}
			for _, s := range d.Shown {
				if where == "cards" && len(d.Shown) > 6 {
					continue // so many go into none
				}
				for _, w := range []*float64{s.Power.MeasuredW, s.Power.ClaimedW} {
					if w != nil && !strings.Contains(content, units.Watts(*w).String()) {
						t.Errorf("%s: %s of %s is not on the %s", title, units.Watts(*w), s.Name, where)
					}
				}
				if v := s.Emissions.RoomDB; v != nil && !strings.Contains(content, units.DB(*v).Signed()) {
					t.Errorf("%s: %s of %s is not on the %s", title, units.DB(*v).Signed(), s.Name, where)
				}
			}
		}
		if title != quillon {
			continue
		}
		if paper, err := d.PDF("letter", ""); err != nil || len(paper) < 10000 {
			t.Errorf("letter: %d bytes, %v", len(paper), err)
		}
	}
}

// tablesOf are the cells of the rulings of a package, by their columns.
func tablesOf(t *testing.T, pack []byte) map[string][]string {
	t.Helper()
	archive, err := zip.NewReader(bytes.NewReader(pack), int64(len(pack)))
	if err != nil {
		t.Fatal(err)
	}
	in, err := archive.Open("data/rulings.csv")
	if err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(in).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	out := map[string][]string{}
	for _, row := range rows[1:] {
		for i, cell := range row {
			out[rows[0][i]] = append(out[rows[0][i]], cell)
		}
	}
	return out
}

// textOf is the text of a PDF, by another program (poppler's pdftotext).
func textOf(t *testing.T, pdf []byte) string {
	t.Helper()
	cmd := exec.Command("pdftotext", "-layout", "-", "-")
	cmd.Stdin = strings.NewReader(string(pdf))
	out, err := cmd.Output()
	if err != nil {
		t.Fatalf("pdftotext: %v", err)
	}
	return string(out)
}
