package judge

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"talloak/core/decision"
	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/rulebooks"
)

// shown is how a trace is taken: points of a resolution bandwidth, detector and hold.
type shown struct {
	perRBW         float64 // below 1: bins wider than the bandwidth
	detector, hold string
}

// point is a level as displayed where lines add up to an amplitude, in sqrt mW, in noise of
// the given mean power in mW.
func (s shown) point(r *rand.Rand, amplitude, noise float64) float64 {
	one := func() float64 {
		re, im := amplitude+math.Sqrt(noise/2)*r.NormFloat64(), math.Sqrt(noise/2)*r.NormFloat64()
		return re*re + im*im
	}
	many := func(n int, each func() float64, join func(a, b float64) float64) float64 {
		sum := each()
		for range n - 1 {
			sum = join(sum, each())
		}
		return sum
	}
	add := func(a, b float64) float64 { return a + b }
	detect := one
	switch s.detector {
	case "peak":
		detect = func() float64 { return many(4, one, math.Max) }
	case "rms":
		detect = func() float64 { return many(8, one, add) / 8 }
	case "average":
		detect = func() float64 { return many(8, func() float64 { return math.Sqrt(one()) }, add) / 8 }
	}
	v := 0.0
	switch s.hold {
	case "max":
		v = many(10, detect, math.Max)
	case "average":
		v = many(10, detect, add) / 10
	default:
		v = detect()
	}
	if s.detector == "average" {
		return 20 * math.Log10(v)
	}
	return 10 * math.Log10(v)
}

// radio is what a transmitter puts out besides its carrier, in dBm at the connector by
// frequency.
type radio map[units.Hertz]float64

const radioCarrier = 146.52e6

// drawRadio has the harmonics up to the 5th and up to three spurs, most clear of the limit,
// some near it or over it.
func drawRadio(r *rand.Rand, limit float64, from, to units.Hertz) radio {
	level := func() float64 {
		if r.IntN(4) > 0 {
			return limit - 15 - 20*r.Float64()
		}
		return limit - 8 + 16*r.Float64()
	}
	out := radio{}
	for n := units.Hertz(2); n <= 5; n++ {
		out[n*radioCarrier] = level()
	}
	for range r.IntN(4) {
		f := from + units.Hertz(r.Float64())*(to-from)
		if n := math.Round(float64(f / radioCarrier)); n >= 1 && distance(f, units.Hertz(n)*radioCarrier) < 20e6 {
			continue // beside a multiple it would be told from it by nothing
		}
		out[f] = level()
	}
	return out
}

// trace shows a radio with analyzer and pads that are off by so much.
func (s shown) trace(r *rand.Rand, out radio, n int, carrier, noise, off float64) sweep.Trace {
	t := sweep.Trace{Start: 30e6, Stop: 1500e6, Levels: make([]float64, n)}
	step := float64(t.Step())
	t.RBW = units.Hertz(s.perRBW * step)
	half := 0.0
	if s.perRBW < 1 { // a peak detector shows what it passes on the way to the next point
		half = step / 2
	}
	power := math.Pow(10, noise/10)
	for i := range t.Levels {
		f := float64(t.Frequency(i))
		amplitude := 0.0
		put := func(at units.Hertz, dbm float64) {
			if x := max(0, math.Abs(f-float64(at))-half) / float64(t.RBW); x < 5 {
				amplitude += math.Pow(10, (dbm-trialLoss+off-12.04*x*x)/20)
			}
		}
		put(radioCarrier, carrier)
		for at, dbm := range out {
			put(at, dbm)
		}
		t.Levels[i] = s.point(r, amplitude, power)
	}
	return t
}

// TestTrialOfRadios draws whole radios, coarse and fine bins, bandwidths of 1 to 4 points or
// less than one, every detector and hold, and counts what is said of the radio as a whole: no
// more than the allowed share of those with a product over the limit may pass, nor of those
// without one fail.
func TestTrialOfRadios(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	const limit = -16.0206 // 25 uW, 5 W carrier
	carrier := float64(units.Watts(5).DBm())
	fifty, half := 50.0, 0.5
	pads, err := path.Compile([]path.Element{{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &fifty}, ToleranceDB: &half}})
	if err != nil {
		t.Fatal(err)
	}
	ways := []shown{}
	for _, per := range []float64{1, 1.5, 2.5, 4} {
		for _, d := range []string{"sample", "rms", "average", "peak"} {
			ways = append(ways, shown{per, d, []string{"single", "max", "average"}[len(ways)%3]})
		}
	}
	ways = append(ways, shown{0.1, "peak", "max"}, shown{0.3, "peak", "single"})
	if testing.Verbose() {
		fmt.Println("| points a bandwidth | detector | hold | radios over the limit | of them pass | radios within it | of them fail |\n| --- | --- | --- | --- | --- | --- | --- |")
	}
	for k, way := range ways {
		r := rand.New(rand.NewPCG(11, uint64(k)))
		b := trialBench{Rand: r}
		var over, passed, within, failed float64
		for range *trials {
			n := []int{401, 401, 1001, 4001}[r.IntN(4)]
			out := drawRadio(r, limit, 60e6, 1450e6)
			noise := limit - trialLoss - 12 - 20*r.Float64()
			off := b.within(0.5) + b.within(1.5)
			in := Input{
				Book: book, Carrier: rulebook.Carrier{Frequency: radioCarrier, State: rulebook.Operating}, MeanW: ptr(5.0), BandwidthHz: 16e3, Rule: decision.Guarded, CarrierU: 0.9,
				Sweeps:      []Sweep{{Name: "s", Trace: way.trace(r, out, n, carrier, noise, off), Path: pads, Detector: way.detector, Hold: way.hold, Modulated: ptr(false)}},
				Uncertainty: Budget(LevelBasis{Analyzer: Accuracy{U: units.DB(1.5 / math.Sqrt(3))}, Path: pads, MeterDB: 0.9}).Uncertainty(),
			}
			ruling, err := Judge(in)
			if err != nil {
				t.Fatal(err)
			}
			worst := math.Inf(-1)
			for f, dbm := range out { // near the carrier its own skirt hides what there is, and that is told
				if float64(distance(f, radioCarrier)) > ruling.Coverage.NearCarrierHz {
					worst = max(worst, dbm)
				}
			}
			switch {
			case worst > limit:
				over++
				if ruling.Verdict == decision.Pass {
					passed++
				}
			default:
				within++
				if ruling.Verdict == decision.Fail {
					failed++
				}
			}
		}
		for what, c := range map[string][2]float64{"over the limit pass": {passed, over}, "within the limit fail": {failed, within}} {
			if most := wrongAtMost*c[1] + 3*math.Sqrt(wrongAtMost*c[1]); c[0] > most {
				t.Errorf("%v points, %s, %s: %v of %v radios %s", way.perRBW, way.detector, way.hold, c[0], c[1], what)
			}
		}
		if testing.Verbose() {
			fmt.Printf("| %v | %s | %s | %v | %.1f %% | %v | %.1f %% |\n", way.perRBW, way.detector, way.hold, over, 100*passed/max(1, over), within, 100*failed/max(1, within))
		}
	}
}
