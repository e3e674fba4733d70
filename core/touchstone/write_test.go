package touchstone

import (
	"math"
	"strings"
	"testing"
)

// TestWriteIsReadBack: what was written is read to the last digit, remarks
// cannot break out of their line, and SWR 1.5 is a return loss of 13.98 dB
// (ARRL Handbook).
func TestWriteIsReadBack(t *testing.T) {
	swr := 1.5
	points := []Point{{100e6, 40.123456789, &swr}, {433.92e6, 39.9, nil}, {1.3e9, 38.5, &swr}}
	text := WriteLoss(points, "a pad\n# Hz S RI R 75")
	n, err := Parse(text, 0)
	if err != nil || n.Ports != 2 || n.Points() != 3 || n.Z0 != 50 {
		t.Fatalf("%+v %v\n%s", n, err, text)
	}
	for i, p := range points {
		loss, ok := n.LossDB(i)
		if !ok || n.Frequency[i] != p.Frequency || math.Abs(float64(loss-p.Loss)) > 1e-12 {
			t.Errorf("%v: %v", p, loss)
		}
		got, _ := n.SWR(i)
		if want := p.SWR; want != nil && math.Abs(got-*want) > 1e-9 || want == nil && got > 1.0001 {
			t.Errorf("%v: SWR %v", p, got)
		}
	}
	if !strings.Contains(text, " -13.979") || strings.Count(text, "\n#") != 1 {
		t.Errorf("%s", text)
	}
	if mid, ok := n.SWRAt(270e6); !ok || mid < 1 || mid > 1.5 {
		t.Errorf("SWR between: %v", mid)
	}
	if _, ok := n.SWRAt(2e9); ok {
		t.Error("an SWR outside the file")
	}
}
