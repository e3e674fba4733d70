package simulated

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"

	"talloak/core/path"
	"talloak/core/sweep"
	"talloak/core/units"
)

// Meter reads power with an error of its own, the same at every reading, and a
// scatter from one to the next.
type Meter struct {
	Path     *path.Path
	ErrorDB  float64
	ScatterP float64 // percent
	Decimals int
	Seed     uint64
}

// Read is n readings of the carrier in W, as a person would note them.
func (m Meter) Read(lines []Line, n int) string {
	r := rand.New(rand.NewPCG(m.Seed, 0x6d65746572))
	out := make([]string, n)
	w := 0.0
	if len(lines) > 0 {
		if loss, ok := m.Path.LossAt(lines[0].Frequency); ok {
			w = float64((lines[0].Level - units.DBm(loss) + units.DBm(m.ErrorDB)).Watts())
		}
	}
	for i := range out {
		out[i] = fmt.Sprintf("%.*f", m.Decimals, w*(1+m.ScatterP/100*r.NormFloat64()))
	}
	return strings.Join(out, " ")
}

// Sweeper is an analyzer behind a path that ends in it. It shows noise, the
// lines through its resolution filter, and the harmonics it makes itself.
type Sweeper struct {
	Path    *path.Path
	RBW     units.Hertz
	Applied units.DB // offset already added to what is shown
	Seed    uint64
}

// noiseSpread is the scatter of a held trace's noise, in dB.
const noiseSpread = 1.1

// Sweep is the trace from start to stop with n points.
func (s Sweeper) Sweep(lines []Line, start, stop units.Hertz, n int) sweep.Trace {
	r := rand.New(rand.NewPCG(s.Seed, 0x7377656570))
	t := sweep.Trace{Start: start, Stop: stop, Levels: make([]float64, n), RBW: s.RBW}
	shown := s.arriving(lines)
	for i := range t.Levels {
		t.Levels[i] = s.noiseAt(t.Frequency(i)) + noiseSpread*r.NormFloat64()
	}
	reach := 4*s.RBW + 2*t.Step()
	for _, l := range shown {
		first, end := t.IndexRange(l.Frequency-reach, l.Frequency+reach)
		for i := first; i < end; i++ {
			// A peak detector shows the highest of its bin; the filter is Gaussian,
			// 3 dB down at half the RBW.
			off := max(0, math.Abs(float64(t.Frequency(i)-l.Frequency))-float64(t.Step())/2)
			x := off / float64(s.RBW)
			level := float64(l.Level) - 12.04*x*x
			t.Levels[i] = 10 * math.Log10(math.Pow(10, t.Levels[i]/10)+math.Pow(10, level/10))
		}
	}
	for i := range t.Levels {
		t.Levels[i] = math.Round(100*(t.Levels[i]+float64(s.Applied))) / 100
	}
	return t
}

// arriving is what stands at the analyzer's input and what it adds itself.
func (s Sweeper) arriving(lines []Line) []Line {
	var out []Line
	for i, l := range lines {
		if loss, ok := s.Path.LossAt(l.Frequency); ok {
			out = append(out, Line{Frequency: l.Frequency, Level: l.Level - units.DBm(loss)})
		}
		if i > 0 {
			continue
		}
		for order := 2; order <= 3; order++ {
			self, ok1 := s.Path.SelfMade(l.Level, l.Frequency, order)
			loss, ok2 := s.Path.LossAt(l.Frequency * units.Hertz(order))
			if ok1 && ok2 {
				out = append(out, Line{Frequency: l.Frequency * units.Hertz(order), Level: self - units.DBm(loss)})
			}
		}
	}
	return out
}

func (s Sweeper) noiseAt(f units.Hertz) float64 {
	a := s.Path.EndAnalyzer()
	if a == nil {
		return -150
	}
	for _, r := range a.Ranges {
		if float64(f) >= r.FromHz && float64(f) <= r.ToHz && r.NoiseFloorDBm != nil {
			return *r.NoiseFloorDBm
		}
	}
	return -150
}

// CSV writes a trace as a bench analyzer would save it.
func CSV(t sweep.Trace) string {
	var b strings.Builder
	fmt.Fprintf(&b, "RBW,%g Hz\nDetector,Peak\nFrequency (Hz),Level (dBm)\n", float64(t.RBW))
	for i, l := range t.Levels {
		fmt.Fprintf(&b, "%.0f,%.2f\n", float64(t.Frequency(i)), l)
	}
	return b.String()
}
