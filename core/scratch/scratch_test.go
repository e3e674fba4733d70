package scratch

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"talloak/core/problem"
	"talloak/rulebooks"
)

func said(t *testing.T, name string, typed map[string]string) string {
	t.Helper()
	c, ok := Find(name)
	if !ok {
		t.Fatal(name)
	}
	a, err := c.Work(typed, rulebooks.Find)
	if err != nil {
		return "refused: " + err.Error()
	}
	out := []string{a.Formula}
	for _, f := range a.Figures {
		out = append(out, strings.TrimSpace(f.Label+" "+f.Text))
	}
	return strings.Join(out, "; ")
}

// TestAgainstHandbooks: what the pad says is what handbooks and standards print.
func TestAgainstHandbooks(t *testing.T) {
	for _, c := range []struct {
		name  string
		typed map[string]string
		want  []string
	}{
		{"units", map[string]string{"power": "25uW"}, []string{"-16.02 dBm"}},                                                             // definition
		{"units", map[string]string{"power": "0.25uV"}, []string{"-119.03 dBm"}},                                                          // definition
		{"swr", nil, []string{"SWR 1.5", "ρ 0.200", "return loss 13.98 dB", "mismatch loss 0.18 dB", "into the load 9.60 W"}},             // ARRL Handbook
		{"swr", map[string]string{"swr": "3"}, []string{"ρ 0.500", "mismatch loss 1.25 dB", "return loss 6.02 dB"}},                       // ARRL Handbook
		{"connector", nil, []string{"42.60 dBm", "18.2 W"}},                                                                               // common practice, no source
		{"connector", map[string]string{"shown": "-15", "loss": "50"}, []string{"35.00 dBm", "3.16 W"}},                                   // common practice, no source
		{"am", nil, []string{"depth 71 %", "41.2 W"}},                                                                                     // four times the carrier at full depth, ARRL Handbook
		{"am", map[string]string{"carrier": "11.2", "peak": "50.7"}, []string{"depth 113 %"}},                                             // common practice, no source
		{"fm", nil, []string{"bandwidth 10.54 kHz", "first null at 0.944 kHz"}},                                                           // Carson; J0's first zero 2.4048, Abramowitz and Stegun table 9.5
		{"sensitivity", nil, []string{"-130.60 dBm"}},                                                                                     // common practice, no source
		{"sinad", nil, []string{"SINAD 12.01 dB"}},                                                                                        // 12 dB are 25.1 %, textbook
		{"sinad", map[string]string{"db": "12"}, []string{"25.1 %"}},                                                                      // textbook
		{"noise", nil, []string{"-123.98 dBm"}},                                                                                           // kTB, textbook
		{"frequency", nil, []string{"+240.0 Hz", "+1.638 ppm"}},                                                                           // 240 / 146.52
		{"supply", nil, []string{"at the radio 13.50 V", "drop 0.30 V"}},                                                                  // Ohm's law
		{"claim", map[string]string{"claimed": "5", "measured": "2.5"}, []string{"50 %", "-3.01 dB", "-0.5 S-units"}},                     // definition
		{"mismatch", map[string]string{"source": "3", "load": "1.2"}, []string{"standard uncertainty ±0.28 dB"}},                          // 8.686 · 0.5 · 0.0909 / √2
		{"pads", nil, []string{"at least 38.0 dB", "6.29 W"}},                                                                             // 36.99 + 1 - 10 + 10
		{"harmonics", map[string]string{"mhz": "145.5"}, []string{"2 f 291 MHz: military aeronautical", "3 f 436.5 MHz: amateur, 70 cm"}}, // ITU RR Article 5, from memory
		{"limit", nil, []string{"-16.02 dBm", "25.0 µW", "absolute"}},                                                                     // 25 µW up to 25 W: 47 CFR 97.307(e), from memory
		{"meter", map[string]string{"reading": "100", "pct": "5", "scale": "200", "digit": "0"}, []string{"k = 2", "94.2 W to 106 W"}},    // 2 · 5 % / √3, JCGM 100
		{"coax", map[string]string{"length": "100", "mhz": "10"}, []string{"matched"}},
	} {
		got := said(t, c.name, c.typed)
		for _, w := range c.want {
			if !strings.Contains(got, w) {
				t.Errorf("%s %v: %s, want %s", c.name, c.typed, got, w)
			}
		}
	}
}

// TestEveryCalculation has a title, a source, a formula in figures and results with what it begins with; nonsense in
// any field is refused at that field, and nothing panics.
func TestEveryCalculation(t *testing.T) {
	for _, c := range All() {
		a, err := c.Work(nil, rulebooks.Find)
		if err != nil || a.Formula == "" || len(a.Figures) == 0 || c.Source == "" || c.Title == "" {
			t.Errorf("%s: %+v %v", c.Name, a, err)
		}
		for _, f := range c.Fields {
			if f.Usual == "" {
				continue
			}
			for _, nonsense := range []string{"pear", "-1e99", "NaN"} {
				typed := map[string]string{f.Name: nonsense}
				_, err := c.Work(typed, rulebooks.Find)
				var p *problem.Error
				if !errors.As(err, &p) || !strings.Contains(fmt.Sprint(p.Fields), f.Name) {
					t.Errorf("%s %s %q: %v", c.Name, f.Name, nonsense, err)
				}
			}
		}
	}
}
