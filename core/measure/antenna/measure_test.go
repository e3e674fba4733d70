package antenna

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"talloak/core/touchstone"
	"talloak/core/units"
)

func file(t *testing.T, text string) *touchstone.Network {
	t.Helper()
	n, err := touchstone.Parse(text, 0)
	if err != nil {
		t.Fatal(err)
	}
	return n
}

// resonant is a series circuit of r, l and c at frequencies in MHz: its resonance is known apart
// from this code, and its SWR there is r/50 or 50/r.
func resonant(t *testing.T, r, f0, q float64, from, to, step float64) *touchstone.Network {
	t.Helper()
	var out strings.Builder
	out.WriteString("# MHz S RI R 50\n")
	for f := from; f <= to+1e-9; f += step {
		x := q * r * (f/f0 - f0/f)
		z := complex(r, x)
		g := (z - 50) / (z + 50)
		fmt.Fprintf(&out, "%.4f %.15g %.15g\n", f, real(g), imag(g))
	}
	return file(t, out.String())
}

// TestAResonantAntenna: minimum, resonance, offset and share of the band of a circuit whose answers
// follow from its elements (Z = R + jX of a series circuit, any handbook).
func TestAResonantAntenna(t *testing.T) {
	n := resonant(t, 40, 150, 8, 130, 170, 0.25)
	out, err := Measure(Input{Network: n, Band: &[2]float64{142e6, 148e6}, SWR: 2, AtHz: []float64{150e6, 100e6}})
	if err != nil {
		t.Fatal(err)
	}
	if len(out.Minima) != 1 || math.Abs(out.Best.FrequencyHz-150e6) > 0.3e6 || math.Abs(out.Best.SWR-1.25) > 0.01 || math.Abs(*out.Best.ROhm-40) > 0.01 || math.Abs(*out.OffsetHz-5e6) > 0.3e6 || math.Abs(*out.OffsetPct-100*5/145.0) > 0.3 {
		t.Errorf("%+v", out)
	}
	if len(out.ResonancesHz) != 1 || math.Abs(out.ResonancesHz[0]-150e6) > 1e3 || math.Abs(*out.At[0].SWR-1.25) > 1e-9 || out.At[1].SWR != nil {
		t.Errorf("%v %+v", out.ResonancesHz, out.At)
	}
	// SWR 2 is |S11|^2 = 1/9: 9 ((R-50)^2 + X^2) = (R+50)^2 + X^2.
	x := math.Sqrt((90*90 - 9*10*10) / 8.0)
	low := 150 * (math.Sqrt(1+math.Pow(x/(2*8*40), 2)) - x/(2*8*40))
	if len(out.Within) != 1 || math.Abs(out.Within[0][0]/1e6-low) > 0.02 || math.Abs(*out.BandPct-100*(148-low)/6) > 1 || out.WorstInBand.FrequencyHz != 142e6 {
		t.Errorf("%v, want from %g: %v %+v", out.Within, low, *out.BandPct, out.WorstInBand)
	}
	if out, _ := Measure(Input{Network: n, Band: &[2]float64{120e6, 148e6}, SWR: 2}); out.BandPct != nil || out.WorstInBand != nil || out.CentreHz == nil {
		t.Errorf("a band that sticks out: %+v", out)
	}
}

// TestACableIsTakenOff: twice its loss off the return loss; no phase is left, and where more
// comes back than can, there is no figure.
func TestACableIsTakenOff(t *testing.T) {
	n := file(t, "# MHz S MA R 50\n1 0.9 0\n2 0.3 0\n3 0.1 0\n4 0.2 0\n")
	flat := func(db units.DB) func(units.Hertz) (units.DB, bool) {
		return func(units.Hertz) (units.DB, bool) { return db, true }
	}
	out, err := Measure(Input{Network: n, SWR: 2, Cable: flat(3)})
	if err != nil || math.Abs(*out.Best.ReturnLossDB-14) > 1e-9 || out.Best.ROhm != nil || len(out.ResonancesHz) != 0 || math.Abs(*out.MeasuredSWR-1.1/0.9) > 1e-9 || out.Findings[0].Code != "loss-too-large" {
		t.Errorf("%+v %v", out, err)
	}
	out, err = Measure(Input{Network: n, SWR: 2, Cable: func(f units.Hertz) (units.DB, bool) { return 0, f > 2e6 }, AtHz: []float64{2.5e6}})
	if err != nil || out.Findings[0].Code != "loss-unknown" || len(out.Minima) != 0 || out.At[0].SWR != nil || out.Within[0][0] != 3e6 {
		t.Errorf("a point that cannot be had is no neighbour: %+v %v", out, err)
	}
	for want, in := range map[string]Input{
		"from_hz: give": {Network: n, SWR: 2, Band: &[2]float64{0, 1}}, "to_hz: cannot be": {Network: n, SWR: 2, Band: &[2]float64{2, 1}}, "swr: give": {Network: n, SWR: 0.9}, "at_hz[0]: give": {Network: n, SWR: 2, AtHz: []float64{0}},
		"text: the file has 2": {Network: file(t, "# MHz S MA R 50\n1 0 0 1 0 1 0 0 0\n"), SWR: 2},
	} {
		if _, err := Measure(in); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}

// TestBetweenPoints: the reflection lies straight between two, 0.15 halfway from 0.1 to 0.2, and nothing beside a
// point that cannot be had; a reactance that is 0 at a point resonates there, once.
func TestBetweenPoints(t *testing.T) {
	swr := func(rho float64) float64 { return (1 + rho) / (1 - rho) }
	n := file(t, "# MHz S MA R 50\n1 0.1 0\n2 0.2 0\n3 1 0\n4 0.1 0\n5 0.3 0\n")
	out, err := Measure(Input{Network: n, SWR: swr(0.25), AtHz: []float64{1.5e6, 2.5e6, 3e6, 3.5e6, 4.5e6, 5.5e6, 5e6}})
	if err != nil {
		t.Fatal(err)
	}
	for i, want := range []float64{swr(0.15), 0, 0, 0, swr(0.2), 0, swr(0.3)} {
		if got := out.At[i].SWR; (got == nil) != (want == 0) || got != nil && math.Abs(*got-want) > 1e-9 {
			t.Errorf("at %g Hz: %v, want %g", out.At[i].FrequencyHz, got, want)
		}
	}
	if len(out.Within) != 2 || out.Within[0] != [2]float64{1e6, 2e6} || out.Within[1][0] != 4e6 || math.Abs(out.Within[1][1]-4.75e6) > 1 {
		t.Errorf("%v", out.Within)
	}
	crossing := file(t, "# MHz S RI R 50\n1 0.1 -0.2\n2 0.1 0\n3 0.1 0.2\n4 0.1 0\n5 0.1 0.1\n")
	if out, err := Measure(Input{Network: crossing, SWR: 2}); err != nil || len(out.ResonancesHz) != 1 || out.ResonancesHz[0] != 2e6 {
		t.Errorf("%v %v", out.ResonancesHz, err)
	}
	// Reactances alike to both sides of 0: halfway between the two points.
	between := file(t, "# MHz S RI R 50\n1 0.1 -0.2\n2 0.1 0.2\n")
	if out, err := Measure(Input{Network: between, SWR: 2}); err != nil || len(out.ResonancesHz) != 1 || math.Abs(out.ResonancesHz[0]-1.5e6) > 1 {
		t.Errorf("%v %v", out.ResonancesHz, err)
	}
	gone := file(t, "# MHz S RI R 50\n1 0.1 -0.2\n2 1 0\n3 0.1 0.2\n")
	if out, err := Measure(Input{Network: gone, SWR: 2}); err != nil || len(out.ResonancesHz) != 0 {
		t.Errorf("over a point that cannot be had: %v %v", out.ResonancesHz, err)
	}
}
