package path

import (
	"fmt"
	"math"
	"math/cmplx"
	"strings"
	"testing"

	"talloak/core/span"
	"talloak/core/units"
)

func v(x float64) *float64 { return &x }
func s(x string) *string   { return &x }

func hertz(f float64) units.Hertz { return units.Hertz(f) }

func hertzes(f ...float64) (out []units.Hertz) {
	for _, x := range f {
		out = append(out, units.Hertz(x))
	}
	return out
}

func flat(db float64) Element { return Element{Kind: Attenuator, Loss: &Loss{FlatDB: v(db)}} }

func compile(t *testing.T, elements ...Element) *Path {
	t.Helper()
	p, err := Compile(elements)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// every is a path with every form of loss in it.
func every(t *testing.T) *Path {
	file := "# MHz S DB R 50\n1 -40 0 -3 0 -3 0 -40 0\n500 -40 0 -3.5 0 -3.5 0 -40 0\n2000 -40 0 -5 0 -5 0 -40 0\n"
	return compile(t,
		Element{Kind: Adapter, Loss: &Loss{FlatDB: v(0.1)}},
		Element{Kind: Cable, Cable: s("rg-58"), LengthM: v(1.5)},
		Element{Kind: Attenuator, Loss: &Loss{Table: []LossPoint{{5e6, 40}, {146e6, 39.8}, {1e9, 38.9}, {1.6e9, 38.5}}}},
		Element{Kind: Meter},
		Element{Kind: Attenuator, Loss: &Loss{Touchstone: &file}},
		Element{Kind: Tap, CouplingDB: v(20), MainLoadW: v(50)},
		Element{Kind: Analyzer, Ranges: []Range{{FromHz: 1e5, ToHz: 3e9}}},
	)
}

// TestFillLossIsLossAt: the fast way along a trace gives what each point gives.
func TestFillLossIsLossAt(t *testing.T) {
	p := every(t)
	d := p.Domains()
	if len(d) != 1 || d[0] != (span.Of(5e6, 1.6e9)) {
		t.Fatalf("domains %v", d)
	}
	lo, hi := d[0].Lo, d[0].Hi
	for _, n := range []int{2, 7, 1000} {
		start, step := lo, (hi-lo)/units.Hertz(n-1)
		out := make([]float64, n)
		p.FillLoss(start, step, out)
		for i := range out {
			f := min(start+units.Hertz(i)*step, hi)
			want, ok := p.LossAt(f)
			if !ok || math.Abs(out[i]-float64(want)) > 1e-9 {
				t.Fatalf("%d points, %v: %v, want %v (%v)", n, f, out[i], want, ok)
			}
		}
	}
	// What bounds it is no less anywhere, and where nothing was measured no more than a little.
	for from := lo; from < hi; from *= 1.3 {
		to := min(hi, from*1.3)
		most := p.MostLoss(from, to)
		for k := range 50 {
			if db, _ := p.LossAt(from + (to-from)*units.Hertz(k)/49); db > most+1e-9 {
				t.Errorf("%v at %v, over the bound %v", db, from, most)
			}
		}
		if db, _ := p.LossAt(to); most > db+3 {
			t.Errorf("bound %v to %v by %v", from, to, most)
		}
	}
	for _, f := range []units.Hertz{4.9e6, 1.61e9} {
		if db, ok := p.LossAt(f); ok {
			t.Errorf("an answer of %v dB at %v, outside a table", db, f)
		}
	}
}

// TestCascade: for matched two-ports the loss of a path is that of the product
// of their transfer matrices (textbook: T-parameters cascade by multiplication).
func TestCascade(t *testing.T) {
	losses := []float64{3.01, 10.04, 39.87, 0.23}
	product := [2][2]complex128{{1, 0}, {0, 1}}
	var elements []Element
	for i, db := range losses {
		s21 := cmplx.Rect(math.Pow(10, -db/20), 0.7*float64(i))
		// With S11 = S22 = 0 and S12 = S21: T11 = S12, T22 = 1/S21.
		m := [2][2]complex128{{s21, 0}, {0, 1 / s21}}
		product = [2][2]complex128{
			{product[0][0]*m[0][0] + product[0][1]*m[1][0], product[0][0]*m[0][1] + product[0][1]*m[1][1]},
			{product[1][0]*m[0][0] + product[1][1]*m[1][0], product[1][0]*m[0][1] + product[1][1]*m[1][1]},
		}
		text := fmt.Sprintf("# MHz S RI R 50\n146 0 0 %.17g %.17g %.17g %.17g 0 0\n", real(s21), imag(s21), real(s21), imag(s21))
		elements = append(elements, Element{Kind: Attenuator, Loss: &Loss{Touchstone: &text}})
	}
	want := -20 * math.Log10(cmplx.Abs(1/product[1][1]))
	got, ok := compile(t, elements...).LossAt(146e6)
	if !ok || math.Abs(float64(got)-want) > 1e-9 {
		t.Errorf("%v dB, want %v", got, want)
	}
}

// TestCascadeReference: four matched two-ports cascaded as S-parameters by
// scikit-rf 0.15.4 (Debian 12, python3-scikit-rf; Network a ** b ** c ** d,
// then -20 log10 |S21|), to 1e-9 dB.
func TestCascadeReference(t *testing.T) {
	s21 := [][3]complex128{
		{0.0101 + 0.0003i, 0.0098 - 0.0021i, -0.0093 + 0.0040i},
		{0.31 - 0.06i, 0.305 + 0.08i, 0.29 - 0.13i},
		{-0.52 + 0.83i, -0.955 - 0.17i, 0.11 - 0.955i},
		{0.7079, 0.70 - 0.1i, 0.68 - 0.19i},
	}
	frequencies := hertzes(146.52e6, 293.04e6, 439.56e6)
	var elements []Element
	for _, part := range s21 {
		text := "# Hz S RI R 50\n"
		for i, x := range part {
			text += fmt.Sprintf("%.0f 0 0 %g %g %g %g 0 0\n", float64(frequencies[i]), real(x), imag(x), real(x), imag(x))
		}
		elements = append(elements, Element{Kind: Attenuator, Loss: &Loss{Touchstone: &text}})
	}
	p := compile(t, elements...)
	for i, want := range []float64{53.103808304737605, 53.2802944720565, 53.21601251232666} {
		if got, ok := p.LossAt(frequencies[i]); !ok || math.Abs(float64(got)-want) > 1e-9 {
			t.Errorf("%v: %.12f dB, want %.12f", frequencies[i], float64(got), want)
		}
	}
}

// TestPracticeCases: an analyzer shows -15 dBm behind 30 + 20 dB, and -7.4 dBm
// behind 50 dB (practice, worked by hand).
func TestPracticeCases(t *testing.T) {
	p := compile(t, flat(30), flat(20))
	loss, _ := p.LossAt(146e6)
	if level := -15 + units.DBm(loss); level != 35 || math.Abs(float64(level.Watts())-3.162) > 0.0005 {
		t.Errorf("%v", level)
	}
	if level := -7.4 + units.DBm(loss); math.Abs(float64(level.Watts())-18.2) > 0.05 {
		t.Errorf("%v", level.Watts())
	}
	// A generator at -90.6 dBm through 40 dB.
	loss, _ = compile(t, flat(40)).LossAt(146e6)
	if got := -90.6 - float64(loss); got != -130.6 {
		t.Errorf("%v", got)
	}
}

func TestReachLidsAndSafeInput(t *testing.T) {
	p := compile(t, Element{Kind: Attenuator, Loss: &Loss{FlatDB: v(40)}, MaxW: v(10)}, Element{Kind: Tap, CouplingDB: v(30), MaxW: v(500), MainLoadW: v(50)},
		Element{Kind: Analyzer, Ranges: []Range{{FromHz: 1e5, ToHz: 350e6, MaxInputDBm: v(10)}, {FromHz: 240e6, ToHz: 960e6, MaxInputDBm: v(0)}}})
	lids := p.Lids(300e6)
	if math.Abs(*lids[0]-40) > 1e-9 || math.Abs(*lids[1]-46.99) > 0.005 || *lids[2] != 10 {
		t.Errorf("lids %v %v %v: where ranges overlap the first counts", *lids[0], *lids[1], *lids[2])
	}
	if in, ok := p.SafeInput(500e6); !ok || in != 0 {
		t.Errorf("safe input %v", in)
	}
	if in, ok := p.SafeInput(2e9); !ok || in != 0 {
		t.Errorf("outside every range the lowest counts: %v", in)
	}
	if r := p.Reach(); len(r) != 2 || r[1].Hi != 960e6 {
		t.Errorf("reach %v", r)
	}
	if _, ok := compile(t, flat(3)).SafeInput(1e6); ok {
		t.Error("an input without an analyzer")
	}
	if compile(t, flat(3)).Reach()[0].Hi < 1e15 {
		t.Error("a path without an end reaches everything")
	}
}

// TestUnknownInterceptIsNotClean: what is not known gives no prediction.
func TestUnknownInterceptIsNotClean(t *testing.T) {
	a := Element{Kind: Analyzer, Ranges: []Range{{FromHz: 1e5, ToHz: 3e9}}, SHIDBm: v(40)}
	p := compile(t, flat(50), a)
	if _, ok := p.SelfMade(37, 146e6, 2); !ok {
		t.Error("the second is known")
	}
	if _, ok := p.SelfMade(37, 146e6, 3); ok {
		t.Error("the third is not")
	}
	// Ten dB more in front of it: order n falls by 10 (n - 1) dB at the connector.
	b := compile(t, flat(60), a)
	near, _ := p.SelfMade(37, 146e6, 2)
	far, _ := b.SelfMade(37, 146e6, 2)
	if math.Abs(float64(near-far)-10) > 1e-9 {
		t.Errorf("%v and %v", near, far)
	}
}

func TestCompileRefusals(t *testing.T) {
	other := "# MHz S DB R 75\n1 -40 0 -3 0 -3 0 -40 0\n"
	nothing := "# MHz S RI R 50\n1 0 0 0 0 0 0 0 0\n"
	for _, c := range []struct {
		e    Element
		want string
	}{
		{Element{Kind: Attenuator, Loss: &Loss{Touchstone: &other}}, "75 ohm"},
		{Element{Kind: Attenuator, Loss: &Loss{Touchstone: &nothing}}, "nothing passes"},
		{Element{Kind: Attenuator, Loss: &Loss{FlatDB: v(-1)}}, "loss.flat_db"},
		{Element{Kind: Attenuator, Loss: &Loss{FlatDB: v(2000)}}, "loss.flat_db"},
		{Element{Kind: Attenuator, Loss: &Loss{Table: []LossPoint{}}}, "at least one point"},
		{Element{Kind: Attenuator, Loss: &Loss{}}, "one of flat_db"},
		{Element{Kind: Tap, CouplingDB: v(20), Loss: &Loss{FlatDB: v(20)}}, "not both"},
		{Element{Kind: Cable, Cable: s("rg-58"), LengthM: v(-1)}, "length_m"},
		{Element{Kind: Analyzer, Ranges: []Range{{FromHz: 5, ToHz: 1}}}, "ranges[0].to_hz"},
		{Element{Kind: Load, SWR: v(0.5)}, "swr"},
		{Element{Kind: Load, FromHz: v(-1)}, "from_hz"},
		{Element{}, "kind"},
	} {
		if _, err := Compile([]Element{c.e}); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%+v: %v, want %q", c.e, err, c.want)
		}
	}
	if p := compile(t); p.LossUncertainty(1e6) != 0 {
		t.Error("a direct connection has no loss to be uncertain of")
	}
}

// TestHighestKeyed: 5 W claimed is looked at as 6.29 W, unless more was measured.
func TestHighestKeyed(t *testing.T) {
	for _, c := range []struct{ claimed, measured, want units.Watts }{{5, 0, 6.2946}, {5, 6, 6.2946}, {5, 8, 8}} {
		if got := HighestKeyed(c.claimed, c.measured); math.Abs(float64(got-c.want)) > 1e-4 {
			t.Errorf("%v claimed, %v measured: %v", c.claimed, c.measured, got)
		}
	}
}

// TestToleranceOfTheEnd: what ends a path takes nothing on the way, so its tolerance
// is none of the loss; that of the last part before it is.
func TestToleranceOfTheEnd(t *testing.T) {
	pad, load := flat(10), Element{Kind: Load, ToleranceDB: v(2)}
	pad.ToleranceDB = v(0.3)
	if got := compile(t, pad, load).LossUncertainty(146e6); math.Abs(float64(got)-0.3/math.Sqrt(3)) > 1e-12 {
		t.Errorf("%v dB", got)
	}
	last := flat(1)
	last.ToleranceDB = v(0.4)
	if got := compile(t, pad, last).LossUncertainty(146e6); math.Abs(float64(got)-0.5/math.Sqrt(3)) > 1e-12 {
		t.Errorf("%v dB", got)
	}
}

// TestUnknownLevelBeforeAnUnratedInput is a danger: nobody knows what reaches it, nor
// what it survives.
func TestUnknownLevelBeforeAnUnratedInput(t *testing.T) {
	tap := Element{Kind: Tap, CouplingUnknown: true, MainLoadW: v(50), MaxW: v(50)}
	bare := Element{Kind: Analyzer, Ranges: []Range{{FromHz: 1e5, ToHz: 1e9}}}
	got, err := compile(t, tap, bare).Analyze(Stress{SourceW: 1, SourcePEPW: 1, Frequencies: hertzes(146e6), Strict: true})
	if err != nil || got.Safe {
		t.Errorf("%+v %v", got.Problems, err)
	}
}

// TestWorstLossUncertainty: of all multiples that have a loss the largest counts.
func TestWorstLossUncertainty(t *testing.T) {
	first := Element{Kind: Attenuator, Loss: &Loss{FlatDB: v(10)}, SWR: v(1.2)}
	second := Element{Kind: Attenuator, Loss: &Loss{Table: []LossPoint{{0, 10}, {500e6, 10}}}, SWRTouchstone: s("# MHz S RI R 50\n100 0 0\n290 0.3 0\n450 0 0\n")}
	p := compile(t, first, second)
	if worst, at := p.WorstLossUncertainty(146e6, 10), p.LossUncertainty(292e6); worst != at || at <= p.LossUncertainty(146e6) {
		t.Errorf("%v, at the second harmonic %v", worst, at)
	}
	if only := p.WorstLossUncertainty(146e6, 1); only != p.LossUncertainty(146e6) {
		t.Errorf("%v", only)
	}
}

// TestRelativeOnly: a coupling nobody measured is as good as its owner vouches for;
// measured since, it is a loss like any other.
func TestRelativeOnly(t *testing.T) {
	tap := Element{Kind: Tap, CouplingUnknown: true, MainLoadW: v(50)}
	if _, _, ok := compile(t, tap, flat(20)).RelativeOnly(); ok {
		t.Error("nobody vouches for it")
	}
	tap.FlatWithinDB = v(1)
	if p, within, ok := compile(t, tap, flat(20)).RelativeOnly(); !ok || within != 1 {
		t.Errorf("%v %v", within, ok)
	} else if loss, known := p.LossAt(146e6); !known || loss != 20 {
		t.Errorf("%v dB, %v", loss, known)
	}
	tap.Measured = &Measured{Spans: 1, Table: []MeasuredPoint{{FrequencyHz: 146e6, DB: 40}}}
	if _, _, ok := compile(t, tap, flat(20)).RelativeOnly(); ok {
		t.Error("a measured coupling is known")
	}
}

// TestSafeByALeastCoupling: what stands behind a coupling nobody measured is safe by what it
// takes at the least, and no level is known by it.
func TestSafeByALeastCoupling(t *testing.T) {
	safe := func(least *float64) (bool, *float64) {
		tap := Element{Kind: Tap, CouplingUnknown: true, FlatWithinDB: v(1), LeastCouplingDB: least, MaxW: v(50), MainLoadW: v(50), FromHz: v(1e6), ToHz: v(2e9)}
		p := compile(t, tap, Element{Kind: Analyzer, Ranges: []Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10)}}})
		at, err := p.Analyze(Stress{SourceW: 5, SourcePEPW: 5, Frequencies: []units.Hertz{146e6}, Strict: true})
		if err != nil {
			t.Fatal(err)
		}
		if said := strings.Contains(at.Problems[0].Detail, "dB it takes at least"); said != (least != nil) {
			t.Errorf("least %v: %q", least, at.Problems[0].Detail)
		}
		return at.Safe, at.TotalLossDB[0]
	}
	for least, want := range map[*float64]bool{nil: false, v(26.9): false, v(27): true} { // 5 W is 36.99 dBm
		if got, loss := safe(least); got != want || loss != nil {
			t.Errorf("least %v: safe %v, loss %v", least, got, loss)
		}
	}
}
