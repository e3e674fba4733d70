package judge

import (
	"flag"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"talloak/core/decision"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/rulebooks"
)

// trials is how often each scenario is drawn; scripts/trial.sh draws more.
var trials = flag.Int("trials", 40, "draws a scenario in the Monte Carlo")

// wrongAtMost is the share of wrong passes, and of wrong fails, that the guarded
// rule allows (JCGM 106: the tail of a normal distribution beyond k = 2).
const wrongAtMost = 0.023

// bench is kit whose errors are drawn anew for every radio, each within its rating.
type trialBench struct {
	*rand.Rand
	padDB, analyzerDB float64 // half-widths
	pct, scalePct     float64 // of the meter, half-widths; of full scale with a scale of 10 W
	readings          int
}

func (b trialBench) within(half float64) float64 { return half * (2*b.Float64() - 1) }

// keyed reads a power on the meter.
func (b trialBench) keyed(t *testing.T, trueW float64) reading.Result {
	scale, repeat := 10.0, 1.0
	m := reading.Meter{PctReading: b.pct, PctFullScale: b.scalePct, ScaleW: &scale, RepeatabilityPct: &repeat}
	slope, zero := b.within(b.pct/100), b.within(b.scalePct/100*scale)
	in := reading.Input{Frequency: 146e6, Meter: m, Path: &path.Path{}}
	for range b.readings { // accuracy is a share of what is read: true = read (1 + slope) + zero
		shown := (trueW - zero) / (1 + slope) * (1 + 0.01*b.NormFloat64())
		in.Values = append(in.Values, units.Quantity{Value: max(0.001, shown), Unit: units.W})
	}
	r, err := reading.Refer(in)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

const trialLoss = 50

// sweep shows the carrier and a second harmonic of the given level at the
// connector, in noise whose median as displayed is noiseDBm, through a filter of
// 500 kHz with points every 500 kHz.
func (b trialBench) sweep(through *path.Path, hold string, carrierDBm, productDBm, noiseDBm, offDB, analyzerDB float64) Sweep {
	s := Sweep{Name: hold, Path: through, Hold: "single", Detector: "sample", Trace: sweep.Trace{Start: 130e6, Stop: 310e6, RBW: 500e3, Levels: make([]float64, 361)}}
	sweeps := 1
	switch hold {
	case "average":
		s.Hold, s.Detector, sweeps = "average", "rms", 10
	case "max", "look", "picture":
		s.Hold, s.Detector, sweeps = "max", "peak", 10
	}
	lines := map[units.Hertz]float64{146e6: carrierDBm - trialLoss + offDB, 292e6: productDBm - trialLoss + offDB + analyzerDB}
	// One sweep of exponential noise has its median 1.59 dB under its mean power.
	power := math.Pow(10, noiseDBm/10)
	switch hold {
	case "average":
	case "max", "look", "picture":
		power /= -math.Log(1 - math.Pow(0.5, 1/float64(sweeps)))
	default:
		power /= math.Ln2
	}
	for i := range s.Trace.Levels {
		f := s.Trace.Frequency(i)
		amplitude := 0.0
		for at, dbm := range lines {
			x := float64(distance(f, at)) / 500e3
			amplitude += math.Pow(10, (dbm-12.04*x*x)/20)
		}
		sum, highest := 0.0, 0.0
		for range sweeps {
			re, im := amplitude+math.Sqrt(power/2)*b.NormFloat64(), math.Sqrt(power/2)*b.NormFloat64()
			p := re*re + im*im
			sum, highest = sum+p, max(highest, p)
		}
		p := sum / float64(sweeps)
		if s.Hold == "max" {
			p = highest
		}
		s.Trace.Levels[i] = 10 * math.Log10(p)
	}
	return s
}

// readOff is half of how far a level read off a picture may be wrong, in dB.
const readOff = 0.6

// look is what a person reads off the screen that shows a sweep: the carrier, the product
// where it stands out of everything else, and that as the floor; to a tenth of a dB off the
// screen's own figures, or within readOff off a picture.
func (b trialBench) look(s Sweep, off float64) Look {
	out := Look{Name: s.Name, From: s.Trace.Start, To: s.Trace.Stop, Path: s.Path, Detector: s.Detector, Hold: s.Hold}
	floor, read := -200.0, map[units.Hertz]float64{146e6: -200, 292e6: -200}
	for i, l := range s.Trace.Levels {
		at := units.Hertz(0)
		for f := range read {
			if distance(s.Trace.Frequency(i), f) <= 2e6 {
				at = f
			}
		}
		if at > 0 {
			read[at] = max(read[at], l)
		} else {
			floor = max(floor, l)
		}
	}
	tenth := func(v float64) *float64 { v = math.Round(10*v) / 10; return &v }
	out.FloorDBm = tenth(floor + 0.05)
	for f, l := range read {
		if l > floor+1 {
			out.Peaks = append(out.Peaks, LookPeak{Frequency: f, LevelDBm: tenth(l + b.within(off))})
		}
	}
	return out
}

// TestTrial draws radios whose second harmonic lies at the limit, and up to 3 dB to
// either side of it, and takes them through the whole chain: the meter, the pads,
// the analyzer, its noise. At the limit both verdicts are wrong.
func TestTrial(t *testing.T) {
	book, _ := rulebooks.Find("us-amateur")
	forty, _ := rulebooks.Find("house-forty-down")
	if testing.Verbose() {
		fmt.Println("| sweeps | limit | noise under it | meter | readings | passes at the limit | fails at the limit | passes over it | fails under it |\n| --- | --- | --- | --- | --- | --- | --- | --- | --- |")
	}
	seed := uint64(0)
	fifty, half := 50.0, 0.5
	pads50, err := path.Compile([]path.Element{{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &fifty}, ToleranceDB: &half}})
	if err != nil {
		t.Fatal(err)
	}
	meters := []struct{ pct, scale float64 }{{5, 0}, {10, 5}, {25, 0}}
	for _, hold := range []string{"average", "single", "max", "look", "picture"} {
		for k, under := range []float64{20, 10, 6, 3} {
			if hold == "look" || hold == "picture" {
				under += 20 // all crests lie under its floor, which counts as noise: nearer, it would say nothing at all
			}
			for count := 1; count <= 3; count++ {
				seed++
				m := meters[(k+count)%3]
				b := trialBench{Rand: rand.New(rand.NewPCG(7, seed)), padDB: 0.5, analyzerDB: 1.5, pct: m.pct, scalePct: m.scale, readings: []int{1, 2, 3, 5}[(k+count)%4]}
				book, limit := book, -16.0206 // 25 µW
				if k%2 == 1 {
					book, limit = forty, -3.0103 // 40 dB below 5 W: the meter's own uncertainty counts
				}
				var wrong [4]int // pass and fail at the limit, pass over it, fail under it
				for n := range *trials {
					beyond := 0.0
					if n%2 == 1 {
						beyond = b.within(3)
					}
					trueW := 5.0
					power := b.keyed(t, trueW)
					pads := b.within(b.padDB)
					in := Input{
						Book: book, Carrier: rulebook.Carrier{Frequency: 146e6, State: rulebook.Operating}, MeanW: power.AtConnectorW, BandwidthHz: 16e3, Rule: decision.Guarded,
						CarrierU: units.DB(*power.UncertaintyDB),
					}
					off := 0.0
					if hold == "picture" {
						off = readOff
					}
					in.Uncertainty = Budget(LevelBasis{Analyzer: Accuracy{U: units.DB(math.Hypot(b.analyzerDB, off) / math.Sqrt(3))}, Path: pads50, MeterDB: *power.UncertaintyDB}).Uncertainty()
					at := b.within(b.analyzerDB)
					for range count {
						s := b.sweep(pads50, hold, float64(units.Watts(trueW).DBm()), limit+beyond, limit-under-trialLoss, -pads, at)
						if hold == "look" || hold == "picture" {
							in.Looks = append(in.Looks, b.look(s, off))
						} else {
							in.Sweeps = append(in.Sweeps, s)
						}
					}
					r, err := Judge(in)
					if err != nil {
						t.Fatal(err)
					}
					v := r.Products[0].Verdict
					switch pass, fail := v == decision.Pass, v == decision.Fail; {
					case pass && n%2 == 0:
						wrong[0]++
					case fail && n%2 == 0:
						wrong[1]++
					case pass && beyond > 0:
						wrong[2]++
					case fail && beyond < 0:
						wrong[3]++
					}
				}
				half := float64(*trials) / 2
				most := wrongAtMost*half + 3*math.Sqrt(wrongAtMost*half) // sampling error, three standard deviations
				for i, w := range wrong {
					if float64(w) > most {
						t.Errorf("%d %s sweeps, noise %v dB under the limit, %v: %d of %v wrong (%d)", count, hold, under, m, w, half, i)
					}
				}
				if testing.Verbose() {
					fmt.Printf("| %d %s | %s | %v dB | %v %% of reading, %v %% of 10 W | %d | %.2f %% | %.2f %% | %.2f %% | %.2f %% |\n", count, hold, book.Title, under, m.pct, m.scale, b.readings, 100*float64(wrong[0])/half, 100*float64(wrong[1])/half, 100*float64(wrong[2])/half, 100*float64(wrong[3])/half)
				}
			}
		}
	}
}
