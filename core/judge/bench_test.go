package judge

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/stat"

	"talloak/core/decision"
	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/rulebooks"
)

// manyPoints is a trace of n points from 1 MHz to 1.6 GHz: noise, the carrier
// at 146.52 MHz and four harmonics, behind 50 dB.
func manyPoints(n int) sweep.Trace {
	r := rand.New(rand.NewPCG(1, 2))
	t := sweep.Trace{Start: 1e6, Stop: 1.6e9, Levels: make([]float64, n), RBW: 100e3}
	for i := range t.Levels {
		t.Levels[i] = -92 + 1.5*r.NormFloat64()
	}
	for k, dbm := range []float64{-13, -75, -79, -82, -84} {
		i := int(math.Round(float64((146.52e6*units.Hertz(k+1) - t.Start) / t.Step())))
		for d := -5; d <= 5; d++ {
			if k := i + d; k >= 0 && k < n {
				x := float64(d) * float64(t.Step()) / float64(t.RBW)
				t.Levels[k] = max(t.Levels[k], dbm-12*x*x)
			}
		}
	}
	return t
}

func benchmarkInput(n int) Input {
	table := []path.LossPoint{{FrequencyHz: 0, DB: 50}, {FrequencyHz: 500e6, DB: 50.2}, {FrequencyHz: 1e9, DB: 50.6}, {FrequencyHz: 2e9, DB: 51.5}}
	p, err := path.Compile([]path.Element{{Kind: path.Attenuator, Loss: &path.Loss{Table: table}}})
	if err != nil {
		panic(err)
	}
	book, _ := rulebooks.Find("us-amateur")
	w := 5.0
	return Input{
		Book: book, Carrier: rulebook.Carrier{Frequency: 146.52e6, State: rulebook.Operating, Mode: rulebook.FM},
		MeanW: &w, BandwidthHz: 16e3, Rule: decision.Guarded,
		Sweeps:      []Sweep{{Name: "wide", Trace: manyPoints(n), Path: p}},
		Uncertainty: rulebook.Uncertainty{Absolute: 1.5, Relative: 1.5}, CarrierU: 1.5,
	}
}

func BenchmarkJudge100001(b *testing.B) {
	in := benchmarkInput(100_001)
	b.ReportAllocs()
	for b.Loop() {
		if r, err := Judge(in); err != nil || r.Verdict != decision.Pass {
			b.Fatalf("%v %v", r.Verdict, err)
		}
	}
}

func BenchmarkJudge1000001(b *testing.B) {
	in := benchmarkInput(1_000_001)
	b.ReportAllocs()
	for b.Loop() {
		if r, err := Judge(in); err != nil || r.Verdict != decision.Pass {
			b.Fatalf("%v %v", r.Verdict, err)
		}
	}
}

// BenchmarkByGonum100001 is the bar: the least a general numerical library does with the same
// trace, its median and 95 % point sorted by gonum once, with no line, limit or loss.
func BenchmarkByGonum100001(b *testing.B) {
	levels := benchmarkInput(100_001).Sweeps[0].Trace.Levels
	sorted := make([]float64, len(levels))
	b.ReportAllocs()
	for b.Loop() {
		copy(sorted, levels)
		stat.SortWeighted(sorted, nil)
		if m, high := stat.Quantile(0.5, stat.Empirical, sorted, nil), stat.Quantile(0.95, stat.Empirical, sorted, nil); !(m < high) {
			b.Fatal(m, high)
		}
	}
}
