package uncertainty

import (
	"math"
	"testing"
)

// TestT95 against JCGM 100:2008, Table G.2, column 95 % (from memory).
func TestT95(t *testing.T) {
	for degrees, want := range map[int]float64{1: 12.71, 2: 4.30, 3: 3.18, 4: 2.78, 5: 2.57, 6: 2.45, 7: 2.36, 8: 2.31, 9: 2.26, 10: 2.23, 20: 2.09, 50: 2.01} {
		if got := T95(degrees); math.Abs(got-want) > 0.006 {
			t.Errorf("t95(%d) = %v, want %v", degrees, got, want)
		}
	}
}

// TestGUMParts: divisors of JCGM 100, 4.3: rectangular sqrt 3, a step sqrt 12,
// U-shaped sqrt 2.
func TestGUMParts(t *testing.T) {
	for _, c := range []struct {
		line Line
		want float64
	}{
		{Rectangular("a", 0.05), 0.05 / 1.7320508},
		{DigitStep("a", 0.01), 0.01 / 3.4641016},
		{UShaped("a", 0.08), 0.08 / 1.4142136},
		{Standard("a", 0.02, "normal"), 0.02},
		{Repeats(Scatter{0.03, 4}, 5), 0.03 / math.Sqrt(5) * 2.776 / 2},
	} {
		if math.Abs(c.line.Relative-c.want) > 1e-5 {
			t.Errorf("%+v, want %v", c.line, c.want)
		}
		if c.line.Divisor <= 0 || c.line.Distribution == "" {
			t.Errorf("%+v says too little", c.line)
		}
	}
}

func TestBudgetCombinesBySquares(t *testing.T) {
	b := Budget{Standard("a", 0.03, "normal"), Standard("b", 0.04, "normal")}
	if math.Abs(b.Standard()-0.05) > 1e-12 || math.Abs(b.Expanded()-0.1) > 1e-12 {
		t.Errorf("%v %v", b.Standard(), b.Expanded())
	}
	low, high := b.Interval(10)
	if math.Abs(float64(low)-9) > 1e-12 || math.Abs(float64(high)-11) > 1e-12 {
		t.Errorf("%v %v", low, high)
	}
	// 1 W at 2 W: +1.76 / -3.01 dB, so never linear.
	wide := Budget{Standard("a", 0.25, "normal")}
	if got, ok := wide.ExpandedDB(); !ok || math.Abs(float64(got)-3.010) > 0.001 {
		t.Errorf("%v dB, the wider side is 3.01", got)
	}
	none := Budget{Standard("a", 0.8, "normal")}
	if low, _ := none.Interval(1); low != 0 {
		t.Errorf("low %v is under nothing", low)
	}
	if _, ok := none.ExpandedDB(); ok {
		t.Error("an interval down to nothing has a figure in dB")
	}
}

// TestPool: JCGM 100, 4.2.4: the mean of the squares weighted by degrees of
// freedom: 1 % known by 4 and 4 % by 2 are sqrt((4 + 32)/6) = 2.449 %.
func TestPool(t *testing.T) {
	if got := Pool(Scatter{0.01, 4}, Scatter{}, Scatter{0.04, 2}); got.Degrees != 6 || math.Abs(got.S-0.024495) > 1e-6 {
		t.Errorf("%+v", got)
	}
	if got := Pool(Scatter{}); got.S != 0 || got.Degrees != 0 {
		t.Errorf("nothing pooled gives %+v", got)
	}
}

// TestOneLeftOut takes its degrees of freedom with it: of 3 % by 2 and 6 % by 4 the second alone is 6 % by 4
// (JCGM 100, H.3.6).
func TestOneLeftOut(t *testing.T) {
	all := []Scatter{{0.03, 2}, {0.06, 4}}
	sum := Sum{}
	for _, e := range all {
		sum = sum.Add(e)
	}
	for place, want := range map[int]Scatter{0: {0.06, 4}, 1: {0.03, 2}, -1: Pool(all...), 2: Pool(all...)} {
		if got := sum.Without(place, all); math.Abs(got.S-want.S) > 1e-12 || got.Degrees != want.Degrees {
			t.Errorf("without %d: %+v, want %+v", place, got, want)
		}
	}
}
