package judge

import (
	"math"
	"testing"

	"talloak/core/decision"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// TestNoiseMakesNoFalseProduct: over many traces of Gaussian and of exponential
// noise alone, nothing is taken for an emission.
func TestNoiseMakesNoFalseProduct(t *testing.T) {
	in := benchmarkInput(20_001)
	r, err := Judge(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range r.Products {
		if p.Kind == Spur {
			t.Errorf("a spur at %v dBm out of nothing", *p.LevelDBm)
		}
	}
	if r.Verdict != decision.Pass || r.Coverage.HighestHarmonic == nil || *r.Coverage.HighestHarmonic != 10 {
		t.Errorf("%v, %v", r.Verdict, r.Coverage)
	}
}

// TestJudgingAllocatesNothingOfTheLength holds the promise of the benchmark.
func TestJudgingAllocatesNothingOfTheLength(t *testing.T) {
	count := func(n int) float64 {
		in := benchmarkInput(n)
		return testing.AllocsPerRun(5, func() { _, _ = Judge(in) })
	}
	if small, large := count(20_001), count(80_001); large > small+20 {
		t.Errorf("%v allocations for 80,001 points, %v for 20,001", large, small)
	}
}

// TestCrestsOverTheLimitAreNoFail: what stands over the limit but not clear of
// the noise fails nothing, and nothing passes there: it is blind.
func TestCrestsOverTheLimitAreNoFail(t *testing.T) {
	in := benchmarkInput(20_001)
	levels := in.Sweeps[0].Trace.Levels
	for i := range levels {
		levels[i] += 21 // noise around -71 behind 50 dB; the limit is -66 as displayed
		if i > 7000 && i < 12000 {
			levels[i] -= 3
		}
	}
	levels[3000] = -64.2 // over the limit by more than U, but 6.8 dB above noise of 1.5 dB
	r, err := Judge(in)
	if err != nil {
		t.Fatal(err)
	}
	f := in.Sweeps[0].Trace.Frequency(3000)
	blind := false
	for _, b := range r.Coverage.Blind {
		blind = blind || float64(f) >= b[0] && float64(f) <= b[1]
	}
	for _, p := range r.Products {
		if p.Kind == Spur && p.Verdict == decision.Fail {
			t.Errorf("a crest at %v failed: %+v", units.Hertz(*p.FrequencyHz), *p.LevelDBm)
		}
	}
	if !blind || r.Coverage.PassesToHz != nil && *r.Coverage.PassesToHz > float64(f) {
		t.Errorf("the crest over the limit vanished: %+v", r.Coverage)
	}
}

// TestVerdictNeverImprovesWithLevel is a property: raising a product's level
// never turns a worse verdict into a better one, under either rule.
func TestVerdictNeverImprovesWithLevel(t *testing.T) {
	book := benchmarkInput(1001).Book
	order := map[decision.Verdict]int{decision.Pass: 0, decision.Inconclusive: 1, decision.Fail: 2}
	for _, w := range []float64{0.05, 0.1, 0.25, 1, 5, 25, 26, 100} {
		limits := book.For(rulebook.Carrier{Frequency: 146e6, MeanW: w, PEPW: w, State: rulebook.Operating})
		for _, rule := range []decision.Rule{decision.Simple, decision.Guarded} {
			last := 0
			for level := -60.0; level < 40; level += 0.05 {
				v := limits.Judge(292e6, rulebook.Exactly(units.DBm(level)), rule, rulebook.Plain(rulebook.Uncertainty{Absolute: 1.2, Relative: 0.7}))
				if order[v] < last {
					t.Fatalf("%v W, %s, %v dBm: %s", w, rule, level, v)
				}
				last = order[v]
			}
		}
	}
}

// TestApart: two voltages of equal size add to 6 dB more or cancel (textbook).
func TestApart(t *testing.T) {
	low, high := apart(-20, -20)
	if !math.IsInf(float64(low), -1) || math.Abs(float64(high)+13.979) > 0.001 {
		t.Errorf("%v %v", low, high)
	}
	low, high = apart(-20, -40) // a tenth: +0.83 / -0.92 dB
	if math.Abs(float64(high+20)-0.828) > 0.001 || math.Abs(float64(low+20)+0.915) > 0.001 {
		t.Errorf("%v %v", low, high)
	}
}
