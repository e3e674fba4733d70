package path

import (
	"math"
	"strings"
	"testing"
)

func measured(spans int, points ...float64) *Measured {
	m := &Measured{Spans: spans, On: "2026-11-20"}
	for i := 0; i < len(points); i += 3 {
		m.Table = append(m.Table, MeasuredPoint{points[i], points[i+1], points[i+2]})
	}
	return m
}

// TestMeasuredRunSupersedesPrinted: what was measured in one piece replaces the
// printed sum, tolerances and inner mismatch where it was measured, and nowhere else.
func TestMeasuredRunSupersedesPrinted(t *testing.T) {
	a, b := flat(40), flat(10)
	a.ToleranceDB, b.ToleranceDB = v(0.5), v(0.5)
	a.SWR, b.SWR = v(1.2), v(1.2)
	b.Measured = measured(2, 144e6, 49.2, 0.05, 440e6, 48.6, 0.09)
	end := Element{Kind: Analyzer, Ranges: []Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10)}}, SWR: v(1.5)}
	p := compile(t, flat(0.3), a, b, end)
	for _, c := range []struct{ f, db float64 }{
		{144e6, 49.5}, {292e6, 49.2}, {440e6, 48.9}, {150e6, 49.5 - 0.6*6/296}, // linear in dB
		{140e6, 49.5}, {460e6, 48.9}, // within 5 % of what was measured
		{100e6, 50.3}, {880e6, 50.3}, // the printed sum stands
	} {
		if got, ok := p.LossAt(hertz(c.f)); !ok || math.Abs(float64(got)-c.db) > 1e-9 {
			t.Errorf("%g Hz: %v dB, want %v", c.f, got, c.db)
		}
	}
	// JCGM 100: tolerances and the mismatch between the two are part of the measurement.
	outer := 8.686 * (0.5 / 2.5) * (0.2 / 2.2) / math.Sqrt2
	if got := float64(p.LossUncertainty(144e6)); math.Abs(got-math.Hypot(0.05, outer)) > 1e-4 {
		t.Errorf("u %v where measured", got)
	}
	inner := 8.686 * (0.2 / 2.2) * (0.2 / 2.2) / math.Sqrt2
	if got := float64(p.LossUncertainty(880e6)); math.Abs(got-math.Sqrt(2*0.25/3+outer*outer+inner*inner)) > 1e-4 {
		t.Errorf("u %v where printed", got)
	}
	if worst := p.WorstLossUncertainty(144e6, 10); worst != p.LossUncertainty(880e6) {
		t.Errorf("worst %v", worst)
	}
	at, err := p.Analyze(Stress{SourceW: 1, SourcePEPW: 1, Frequencies: hertzes(144e6)})
	if err != nil || math.Abs(*at.Nodes[2].ArrivingDBm[0]-(30-40.3)) > 1e-9 || math.Abs(*at.Nodes[3].ArrivingDBm[0]-(30-49.5)) > 1e-9 {
		t.Errorf("levels %v %v, %v", *at.Nodes[2].ArrivingDBm[0], *at.Nodes[3].ArrivingDBm[0], err)
	}
}

// TestMeasuringMakesAnUnknownCouplingKnown: and the trace is filled the same way.
func TestMeasuringMakesAnUnknownCouplingKnown(t *testing.T) {
	tap := Element{Kind: Tap, CouplingUnknown: true, MaxW: v(500), MainLoadW: v(100)}
	unknown := compile(t, tap, flat(10), Element{Kind: Analyzer, Ranges: []Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10)}}})
	if _, ok := unknown.LossAt(144e6); ok || len(unknown.Domains()) != 0 {
		t.Errorf("a loss without a coupling; %v", unknown.Domains())
	}
	stress := Stress{SourceW: 5, SourcePEPW: 5, Frequencies: hertzes(144e6), Strict: true}
	at, err := unknown.Analyze(stress)
	if err != nil || at.Safe || at.Problems[len(at.Problems)-1].Code != "unknown-level" {
		t.Errorf("5 W into who knows what: %+v %v", at.Problems, err)
	}
	stress.SourceW, stress.SourcePEPW = 0.05, 0.05 // even with no coupling loss the pad keeps it safe
	if at, _ = unknown.Analyze(stress); !at.Safe {
		t.Errorf("%+v", at.Problems)
	}
	tap.Measured = measured(1, 100e6, 33, 0.1, 200e6, 27, 0.1)
	known := compile(t, tap, flat(10), Element{Kind: Analyzer, Ranges: []Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10)}}})
	d := known.Domains()
	if len(d) != 1 || d[0].Lo != 95e6 || d[0].Hi != 210e6 {
		t.Errorf("domains %v", d)
	}
	out := make([]float64, 11)
	known.FillLoss(100e6, 10e6, out)
	for i, got := range out {
		if want := 43 - 6*float64(i)/10; math.Abs(got-want) > 1e-9 {
			t.Errorf("at %d: %v, want %v", i, got, want)
		}
	}
	// A gap between what is printed and what was measured stays one.
	table := Element{Kind: Attenuator, Loss: &Loss{Table: []LossPoint{{300e6, 20}, {400e6, 20}}}, Measured: measured(1, 100e6, 20.1, 0.1)}
	if d := compile(t, table).Domains(); len(d) != 2 || d[0].Hi >= 300e6 || d[1].Lo != 300e6 {
		t.Errorf("domains %v", d)
	}
}

func TestMeasuredRefusals(t *testing.T) {
	with := func(m *Measured) Element { e := flat(10); e.Measured = m; return e }
	for want, elements := range map[string][]Element{
		"elements[0].measured.spans":                              {with(measured(2, 1e6, 10, 0))},
		"elements[0].measured.table: give":                        {with(measured(1))},
		"measured.table[1].frequency_hz":                          {with(measured(1, 2e6, 10, 0, 1e6, 10, 0))},
		"measured.table[0].db":                                    {with(measured(1, 2e6, -1, 0))},
		"measured.table[0].standard_uncertainty_db":               {with(measured(1, 2e6, 1, -1))},
		"elements[0].measured.spans: give how many":               {with(measured(0, 1e6, 10, 0))},
		"elements[1].measured.spans: overlaps":                    {with(measured(1, 1e6, 10, 0)), with(measured(2, 1e6, 10, 0))},
		"elements[0].measured: a load ends":                       {{Kind: Load, Measured: measured(1, 1e6, 1, 0)}},
		"elements[0].short_s: a short-time rating":                {{Kind: Load, MaxW: v(50), ShortMaxW: v(100)}},
		"elements[0].short_max_w: cannot be below":                {{Kind: Load, MaxW: v(50), ShortMaxW: v(10), ShortS: v(10)}},
		"elements[0].max_w: give the continuous":                  {{Kind: Load, ShortMaxW: v(10), ShortS: v(10)}},
		"elements[0].coupling_unknown":                            {{Kind: Tap, CouplingUnknown: true, CouplingDB: v(10)}},
		"elements[0].swr_touchstone: the file has 2":              {{Kind: Load, SWRTouchstone: s("# MHz S DB R 50\n1 -40 0 -3 0 -3 0 -40 0\n")}},
		"elements[0].ranges[0].rbw_hz[0]: give a bandwidth above": {{Kind: Analyzer, Ranges: []Range{{ToHz: 1, RBWHz: []float64{0}}}}},
	} {
		if _, err := Compile(elements); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}

// TestShortTimeRating: between the two ratings one may key, briefly; over the
// short-time one is a danger.
func TestShortTimeRating(t *testing.T) {
	load := Element{Kind: Load, MaxW: v(50), ShortMaxW: v(100), ShortS: v(30)}
	for w, want := range map[float64]string{20: "", 40: "near-rating", 80: "short-time", 120: "over-rating"} {
		at, err := compile(t, load).Analyze(Stress{SourceW: w, SourcePEPW: w, Frequencies: hertzes(144e6)})
		got := ""
		for _, p := range at.Problems {
			got += string(p.Code)
		}
		if err != nil || got != want || at.Safe != (w <= 100) {
			t.Errorf("%g W: %q, safe %v, want %q", w, got, at.Safe, want)
		}
		if brief := at.KeyAtMostS; (brief != nil) != (w == 80) || brief != nil && *brief != 30 {
			t.Errorf("%g W: keyed for at most %v s", w, brief)
		}
	}
}

// TestSWRFromAFile: |S11| 0.2 at 100 MHz and 1/3 at 200 MHz are SWR 1.5 and 2;
// outside the file the flat figure counts.
func TestSWRFromAFile(t *testing.T) {
	file := "# MHz S MA R 50\n100 0.2 10\n200 0.33333333333 20\n"
	load := Element{Kind: Load, SWRTouchstone: &file, SWR: v(1.1)}
	p := compile(t, Element{Kind: Attenuator, Loss: &Loss{FlatDB: v(10)}, SWR: v(2)}, load)
	for f, gamma := range map[float64]float64{100e6: 0.2, 200e6: 1.0 / 3, 300e6: 0.1 / 2.1} {
		want := 8.686 * gamma / 3 / math.Sqrt2
		if got := float64(p.LossUncertainty(hertz(f))); math.Abs(got-want) > 1e-4 {
			t.Errorf("%g Hz: u %v, want %v", f, got, want)
		}
	}
}
