package rf

import (
	"math"
	"testing"

	"talloak/core/units"
)

// TestReflectionTable: SWR, return loss and mismatch loss as the ARRL Handbook's
// table has them (from memory).
func TestReflectionTable(t *testing.T) {
	for _, c := range []struct{ swr, rho, rl, ml float64 }{
		{1.1, 0.0476, 26.44, 0.010},
		{1.2, 0.0909, 20.83, 0.036},
		{1.5, 0.2, 13.98, 0.177},
		{2, 0.3333, 9.54, 0.512},
		{3, 0.5, 6.02, 1.249},
		{5, 0.6667, 3.52, 2.553},
		{10, 0.8182, 1.74, 4.807},
	} {
		r, err := FromSWR(c.swr)
		if err != nil || math.Abs(r.Rho-c.rho) > 1e-4 || math.Abs(*r.ReturnLossDB-c.rl) > 0.006 || math.Abs(r.MismatchLossDB-c.ml) > 0.0006 {
			t.Errorf("SWR %v: %+v %v", c.swr, r, err)
		}
	}
}

// TestFormsAgree: however a reflection is given, it is the same.
func TestFormsAgree(t *testing.T) {
	for rho := 0.001; rho < 0.99; rho += 0.013 {
		a, err := FromRho(rho)
		if err != nil {
			t.Fatal(err)
		}
		b, _ := FromSWR(a.SWR)
		c, _ := FromReturnLoss(units.DB(*a.ReturnLossDB))
		d, _ := FromPowers(10, units.Watts(10*rho*rho))
		for _, o := range []Reflection{b, c, d} {
			if math.Abs(o.Rho-rho) > 1e-9 || math.Abs(o.MismatchLossDB-a.MismatchLossDB) > 1e-9 {
				t.Fatalf("rho %v: %+v", rho, o)
			}
		}
	}
}

// TestMismatchUncertainty: SWR 1.5 against 2 has limits of +0.56/-0.60 dB and a
// standard uncertainty of 0.41 dB (Harris and Warner; worked by hand).
func TestMismatchUncertainty(t *testing.T) {
	if u := float64(MismatchUncertainty(1.5, 2)); math.Abs(u-0.41) > 0.005 {
		t.Errorf("u %v dB", u)
	}
	gg := Rho(1.5) * Rho(2)
	if up, down := 20*math.Log10(1+gg), 20*math.Log10(1-gg); math.Abs(up-0.56) > 0.005 || math.Abs(down+0.60) > 0.005 {
		t.Errorf("limits %v %v", up, down)
	}
	if MismatchUncertainty(1, 3) != 0 {
		t.Error("a perfect port has no mismatch")
	}
}

// TestCableFitIsBest: no other k1, k2 of 0 or more fits the points better.
func TestCableFitIsBest(t *testing.T) {
	for id, points := range cableTypes {
		c, err := FitCable(points)
		if err != nil {
			t.Fatal(err)
		}
		residual := func(k1, k2 float64) (sum float64) {
			for _, p := range points {
				f := p.FrequencyHz / 1e6
				e := k1*math.Sqrt(f) + k2*f - p.DBPer100m
				sum += e * e
			}
			return sum
		}
		best := residual(c.K1, c.K2)
		for _, d := range []float64{-0.01, 0.01} {
			if c.K1+d >= 0 && residual(c.K1+d, c.K2) < best || c.K2+d/10 >= 0 && residual(c.K1, c.K2+d/10) < best {
				t.Errorf("%s: k1 %v, k2 %v can be bettered", id, c.K1, c.K2)
			}
		}
		if c.K1 < 0 || c.K2 < 0 {
			t.Errorf("%s: a negative loss", id)
		}
	}
}

// TestCableLossBehaves: loss grows with frequency and length, and a mismatched
// end never makes it less (common practice, no source).
func TestCableLossBehaves(t *testing.T) {
	for _, id := range CableTypes() {
		c, err := CableType(id)
		if err != nil {
			t.Fatal(err)
		}
		last := units.DB(0)
		for f := units.Hertz(1e6); f <= 1e9; f *= 1.3 {
			ml, out := c.Matched(10, f)
			if ml <= last || out {
				t.Fatalf("%s at %v: %v after %v, extrapolated %v", id, f, ml, last, out)
			}
			last = ml
			if twice, _ := c.Matched(20, f); math.Abs(float64(twice-2*ml)) > 1e-9 {
				t.Errorf("%s: twice the length is %v, not %v", id, twice, 2*ml)
			}
			if TotalLoss(ml, 3) <= ml || TotalLoss(ml, 1) != ml {
				t.Errorf("%s: total %v of matched %v", id, TotalLoss(ml, 3), ml)
			}
		}
		if _, out := c.Matched(1, 5e9); !out {
			t.Errorf("%s answers at 5 GHz without saying that it is extrapolated", id)
		}
	}
	// common practice, no source: thin cable loses more than thick.
	thin, _ := CableType("rg-174")
	thick, _ := CableType("rg-213")
	a, _ := thin.Matched(10, 146e6)
	b, _ := thick.Matched(10, 146e6)
	if a <= 2*b {
		t.Errorf("RG-174 %v, RG-213 %v", a, b)
	}
}

// TestAMPeak: a 10.3 W carrier spoken to 30 W is modulated 71 % (practice,
// worked by hand); full depth is four times the carrier, 6 dB.
func TestAMPeak(t *testing.T) {
	for _, c := range []struct {
		carrier units.Watts
		m       float64
		want    float64
	}{{10.3, 0.7067, 30}, {4, 1, 16}, {5, 0, 5}} {
		if got := float64(AMPeak(c.carrier, c.m)); math.Abs(got-c.want) > 0.01 {
			t.Errorf("%v to %v: %v W, want %v", c.carrier, c.m, got, c.want)
		}
	}
}

// TestAMDepth: 10.3 and 30 W are 0.71; 11.2 and 50.7 W are positive peaks of 113 %
// (practice cases, worked by hand).
func TestAMDepth(t *testing.T) {
	for _, c := range []struct{ carrier, peak, want float64 }{{10.3, 30, 0.707}, {11.2, 50.7, 1.128}, {4, 16, 1}} {
		if got := AMDepth(units.Watts(c.carrier), units.Watts(c.peak)); math.Abs(got-c.want) > 0.001 {
			t.Errorf("%v and %v W: %v, want %v", c.carrier, c.peak, got, c.want)
		}
	}
}

// TestSweepS: 1 GHz at 100 kHz in a quarter of a second, and ten times the bandwidth in a hundredth of
// that (the rule of handbooks, 2.5 span over RBW squared, from memory).
func TestSweepS(t *testing.T) {
	for _, c := range [][3]float64{{1e9, 100e3, 0.25}, {1e9, 1e6, 0.0025}, {10e6, 1e3, 25}} {
		if got := SweepS(units.Hertz(c[0]), units.Hertz(c[1])); math.Abs(got-c[2]) > 1e-9 {
			t.Errorf("%g Hz at %g Hz: %g s, want %g s", c[0], c[1], got, c[2])
		}
	}
}
