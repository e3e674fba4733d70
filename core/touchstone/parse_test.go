package touchstone

import (
	"math"
	"math/cmplx"
	"strings"
	"testing"

	"talloak/core/units"
)

const twoPort = `! two-port, wrapped, with noise data behind
# khz S DB R 75
100 -20 10 -3 -45
    -3 -45 -21 12
200 -18 20 -4 -50 -4 -50 -19 15
! noise: frequency, minimum, reflection, angle, resistance
50 2 0.5 30 0.4
150 2.2 0.5 35 0.4
`

func TestVersion1(t *testing.T) {
	n, err := Parse(twoPort, 0)
	if err != nil {
		t.Fatal(err)
	}
	if n.Ports != 2 || n.Points() != 2 || n.Z0 != 75 || n.Frequency[1] != 200e3 {
		t.Fatalf("%+v", n)
	}
	if loss, ok := n.LossDB(0); !ok || math.Abs(float64(loss)-3) > 1e-12 {
		t.Errorf("loss %v", loss)
	}
	if got := cmplx.Phase(n.S(1, 2, 2)) * 180 / math.Pi; math.Abs(got-15) > 1e-9 {
		t.Errorf("angle of S22 %v", got)
	}
	if loss, ok := n.LossAt(150e3); !ok || math.Abs(float64(loss)-3.5) > 1e-12 {
		t.Errorf("loss between points %v", loss)
	}
	for _, f := range []units.Hertz{99e3, 201e3} {
		if _, ok := n.LossAt(f); ok {
			t.Errorf("a loss at %v, outside the points", f)
		}
	}
}

// TestPortOrder: a two-port is written S11 S21 S12 S22, all others by rows; the
// layout shows how many ports there are (Touchstone specification, from memory).
func TestPortOrder(t *testing.T) {
	two, err := Parse("# GHz S RI\n1 11 0 21 0 12 0 22 0\n", 0)
	if err != nil || two.S(0, 2, 1) != 21 || two.S(0, 1, 2) != 12 {
		t.Errorf("two-port %v %v", two, err)
	}
	three, err := Parse("# GHz S RI\n1 11 0 12 0 13 0\n21 0 22 0 23 0\n31 0 32 0 33 0\n", 0)
	if err != nil || three.Ports != 3 || three.S(0, 2, 1) != 21 {
		t.Errorf("three-port %v %v", three, err)
	}
	four, err := Parse("# GHz S RI\n1 11 0 12 0 13 0 14 0\n21 0 22 0 23 0 24 0\n31 0 32 0 33 0 34 0\n41 0 42 0 43 0 44 0\n", 0)
	if err != nil || four.Ports != 4 || four.S(0, 4, 3) != 43 {
		t.Errorf("four-port %v %v", four, err)
	}
	if got := (&Network{Ports: 10}).Name(10, 1); got != "10,1" {
		t.Errorf("name %q", got)
	}
}

func version2(order, extra, data string) string {
	return "[Version] 2.0\n# MHz S RI R 50\n[Number of Ports] 2\n" + order + "[Number of Frequencies] 1\n" + extra + "[Network Data]\n" + data + "[End]\n"
}

func TestVersion2(t *testing.T) {
	const data = "146.52 11 0 12 0 21 0 22 0\n"
	n, err := Parse(version2("[Two-Port Data Order] 12_21\n", "[Reference] 75\n75\n", data), 0)
	if err != nil {
		t.Fatal(err)
	}
	if n.S(0, 2, 1) != 21 || n.Z0 != 75 || n.Frequency[0] != 146520000 {
		t.Errorf("%+v", n)
	}
	n, err = Parse(version2("[Two-Port Data Order] 21_12\n", "", data), 2)
	if err != nil || n.S(0, 2, 1) != 12 {
		t.Errorf("21_12: %v %v", n, err)
	}
	n, err = Parse(version2("[Two-Port Data Order] 12_21\n", "[Matrix Format] Lower\n", "1 11 0 21 0 22 0\n"), 0)
	if err != nil || n.S(0, 1, 2) != 21 || n.S(0, 2, 2) != 22 {
		t.Errorf("lower: %v %v", n, err)
	}
	n, err = Parse(version2("[Two-Port Data Order] 12_21\n", "[Matrix Format] Upper\n[Number of Noise Frequencies] 1\n", "1 11 0 12 0 22 0\n[Noise Data]\n1 2 3 4 5\n"), 0)
	if err != nil || n.S(0, 2, 1) != 12 || n.S(0, 2, 2) != 22 {
		t.Errorf("upper: %v %v", n, err)
	}
}

func TestRefusals(t *testing.T) {
	order := "[Two-Port Data Order] 12_21\n"
	for name, c := range map[string]struct{ text, want string }{
		"no numbers":         {"! nothing\n", "no data"},
		"admittance":         {"# GHz Y RI\n1 0 0\n", "line 1"},
		"unknown option":     {"# GHz S XX\n1 0 0\n", "line 1"},
		"R without ohms":     {"# GHz S R\n1 0 0\n", "line 1"},
		"a word":             {"1 0 nought\n", "line 1"},
		"infinite":           {"1 Inf 0\n", "line 1"},
		"falling":            {"2 0 0\n1 0 0\n", "must rise"},
		"half a point":       {"1 0 0\n2 0 0\n3 0 0 4 0\n", "incomplete"},
		"odd layout":         {"1 0 0 0 0\n", "ports"},
		"too large":          {"# GHz S DB\n1 1e9 0\n", "too large"},
		"unequal references": {version2(order, "[Reference] 50 75\n", "1 0 0 0 0 0 0 0 0\n"), "differ"},
		"one reference":      {version2(order, "[Reference] 50\n", "1 0 0 0 0 0 0 0 0\n"), "1 values for 2"},
		"no order":           {version2("", "", "1 0 0 0 0 0 0 0 0\n"), "Order"},
		"count":              {version2(order, "", "1 0 0 0 0 0 0 0 0\n2 0 0 0 0 0 0 0 0\n"), "[Number of Frequencies] is 1"},
		"keyword first":      {"[Number of Ports] 2\n", "line 1"},
		"unknown keyword":    {version2(order, "[Colour] red\n", ""), "not read"},
		"data too early":     {"[Version] 2.0\n1 0 0\n", "before [Network Data]"},
		"version 3":          {"[Version] 3.0\n", "line 1"},
	} {
		if _, err := Parse(c.text, 0); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, want %q", name, err, c.want)
		}
	}
	if _, err := Parse(version2(order, "", "1 0 0 0 0 0 0 0 0\n"), 3); err == nil || !strings.HasPrefix(err.Error(), "ports") {
		t.Errorf("ports against the text: %v", err)
	}
}

func FuzzParse(f *testing.F) {
	f.Add(twoPort, 0)
	f.Add(version2("[Two-Port Data Order] 12_21\n", "[Matrix Format] Lower\n", "1 11 0 21 0 22 0\n"), 2)
	f.Add("# GHz S RI\n1 11 0 12 0 13 0\n21 0 22 0 23 0\n31 0 32 0 33 0\n", 3)
	f.Fuzz(func(t *testing.T, text string, ports int) {
		n, err := Parse(text, ports)
		if err != nil {
			return
		}
		for i := range n.Points() {
			if i > 0 && n.Frequency[i] <= n.Frequency[i-1] {
				t.Fatal("frequencies do not rise")
			}
			n.S(i, n.Ports, n.Ports)
			n.SWR(i)
			n.LossDB(i)
		}
		n.LossAt(n.Frequency[0])
	})
}
