package simulated

import (
	"math"
	"math/rand/v2"
	"slices"

	"talloak/core/units"
)

// seldom is the chance that what comes and goes is there in one sweep.
const seldom = 0.3

// noiseOver is the noise bandwidth of a Gaussian filter over its 3 dB bandwidth (textbook).
var noiseOver = math.Sqrt(math.Pi / (4 * math.Ln2))

// sweep is one sweep of what arrives, in dBm at the input, without the offset.
func (b *Bench) sweep() []float64 {
	a, s := &b.analyzer, &b.scene.Analyzer
	a.swept++
	r := random(b.seed, "sweep", a.swept)
	noise := units.DBm(s.NoiseDBm+10*math.Log10(a.rbw*noiseOver)) - a.beforeMixer()
	if a.amplified {
		noise += 5 // of the amplifier's own
	}
	if b.overloaded() || a.blown {
		noise += 10
	}
	n := float64(noise.Watts())
	out := make([]float64, a.points)
	for i := range out {
		out[i] = n * a.noiseSeen(r)
	}
	step := (a.stop - a.start) / float64(a.points-1)
	for _, l := range b.withOwn(b.arriving()) {
		if l.Seldom && r.Float64() > seldom {
			continue
		}
		a.addLine(out, l, step)
	}
	for i, w := range out {
		out[i] = float64(units.Watts(w).DBm()) + s.OffDB
	}
	return out
}

// noiseSeen is what a detector makes of noise of mean power 1: the power of noise in one sample
// falls off exponentially. The highest, the first, the mean of powers, the square of the mean
// of amplitudes.
func (a *analyzerState) noiseSeen(r *rand.Rand) float64 {
	var p [samples]float64
	for i := range p {
		p[i] = r.ExpFloat64()
	}
	sum := 0.0
	switch a.detector {
	case "POS":
		return slices.Max(p[:])
	case "SAMP":
		return p[0]
	case "RMS":
		for _, v := range p {
			sum += v
		}
		return sum / samples
	}
	for _, v := range p {
		sum += math.Sqrt(v)
	}
	return sum * sum / samples / samples
}

// addLine adds a line through the resolution filter, a Gaussian 3 dB down at half its
// bandwidth to each side, as the detector sees it in the stretch of each point.
func (a *analyzerState) addLine(out []float64, l Line, step float64) {
	w, f := float64(l.Level.Watts()), float64(l.Frequency)
	reach := 3.2*a.rbw + step
	first := max(0, int(math.Ceil((f-reach-a.start)/step)))
	last := min(len(out)-1, int(math.Floor((f+reach-a.start)/step)))
	sigma := a.rbw / (2 * math.Sqrt(2*math.Ln2)) // of the power, whose half lies at half the bandwidth
	for i := first; i <= last; i++ {
		off := a.at(i) - f
		switch a.detector {
		case "POS":
			nearest := max(0, math.Abs(off)-step/2)
			out[i] += w * math.Exp(-nearest*nearest/(2*sigma*sigma))
		case "SAMP":
			out[i] += w * math.Exp(-off*off/(2*sigma*sigma))
		case "RMS":
			out[i] += w * meanOver(off, step, sigma)
		default:
			m := meanOver(off, step, sigma*math.Sqrt2)
			out[i] += w * m * m
		}
	}
}

// meanOver is the mean of a Gaussian of height 1 over a stretch of width step around off.
func meanOver(off, step, sigma float64) float64 {
	to := func(x float64) float64 { return math.Erf(x / (sigma * math.Sqrt2)) }
	return sigma * math.Sqrt(math.Pi/2) * (to(off+step/2) - to(off-step/2)) / step
}
