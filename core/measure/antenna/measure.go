package antenna

import (
	"fmt"
	"math"
	"math/cmplx"

	"talloak/core/problem"
	"talloak/core/say"
	"talloak/core/touchstone"
	"talloak/core/units"
)

// Input is a one-port measurement and the band that the antenna is for, both its ends or
// neither. SWR is what counts as served. Cable gives the loss of a cable in between, one way, at
// a frequency, false where it is not known; nil where there is none.
type Input struct {
	Network *touchstone.Network
	Band    *[2]float64 // Hz
	SWR     float64
	Cable   func(units.Hertz) (units.DB, bool)
	AtHz    []float64
}

// At is the SWR at a frequency; nil where it cannot be had.
type At struct {
	FrequencyHz float64  `json:"frequency_hz"`
	SWR         *float64 `json:"swr"`
}

// Minimum is a frequency at which the SWR is lower than beside it. The impedance is nil where a
// cable was taken off, since its phase is not known, and the return loss where nothing comes back.
type Minimum struct {
	FrequencyHz  float64  `json:"frequency_hz"`
	SWR          float64  `json:"swr"`
	ReturnLossDB *float64 `json:"return_loss_db"`
	ROhm         *float64 `json:"r_ohm"`
	XOhm         *float64 `json:"x_ohm"`
}

// Result is what the file says. Fields of the band are nil without one, or where it sticks out of
// the file.
type Result struct {
	Minima       []Minimum    `json:"minima"`
	Best         *Minimum     `json:"best"`
	CentreHz     *float64     `json:"centre_hz"`
	OffsetHz     *float64     `json:"offset_hz"`
	OffsetPct    *float64     `json:"offset_pct"`
	Within       [][2]float64 `json:"within"`
	BandPct      *float64     `json:"band_pct"`
	WorstInBand  *At          `json:"worst_in_band"`
	At           []At         `json:"at"`
	ResonancesHz []float64    `json:"resonances_hz"`
	MeasuredSWR  *float64     `json:"measured_swr_at_best"`
	Findings     []say.Said   `json:"findings"`
}

// point is a frequency of the file, with the magnitude of the reflection at the antenna; rho is
// NaN where that cannot be had.
type point struct {
	f, rho   float64
	measured float64 // as the file has it
	gamma    complex128
}

func (p point) known() bool { return !math.IsNaN(p.rho) }

func swrOf(rho float64) float64 { return (1 + rho) / (1 - rho) }

// Measure works an antenna out. With a cable between, |S11| is multiplied by 10^(loss/10): the
// loss counts there and back. Errors are on "text", "from_hz", "to_hz", "swr" and "at_hz[i]".
func Measure(in Input) (Result, error) {
	if err := in.check(); err != nil {
		return Result{}, err
	}
	out := Result{Minima: []Minimum{}, Within: [][2]float64{}, At: []At{}, ResonancesHz: []float64{}, Findings: []say.Said{}}
	all := in.points(&out)
	z0 := in.Network.Z0
	best := -1
	for i, p := range all {
		if p.known() && (best < 0 || p.rho < all[best].rho) {
			best = i
		}
	}
	for _, i := range minima(all) {
		out.Minima = append(out.Minima, in.minimum(all[i], z0))
	}
	if best >= 0 {
		m := in.minimum(all[best], z0)
		measured := swrOf(all[best].measured)
		out.Best, out.MeasuredSWR = &m, &measured
	}
	out.Within = stretches(all, (in.SWR-1)/(in.SWR+1))
	for _, f := range in.AtHz {
		out.At = append(out.At, At{f, between(all, f)})
	}
	if in.Cable == nil {
		out.ResonancesHz = resonances(all, z0)
	}
	if in.Band != nil {
		in.band(&out, all)
	}
	return out, nil
}

func (in *Input) check() error {
	var bad problem.List
	if in.Network.Ports != 1 {
		bad.Add("text", "the file has %d ports; an antenna is a one-port", in.Network.Ports)
	}
	if in.Band != nil {
		for i, field := range []string{"from_hz", "to_hz"} {
			if !(in.Band[i] > 0) {
				bad.Add(field, "give a frequency above 0 Hz")
			}
		}
		if in.Band[1] < in.Band[0] {
			bad.Add("to_hz", "cannot be below from_hz")
		}
	}
	if !(in.SWR >= 1) {
		bad.Add("swr", "give the SWR that counts as served, 1 or more")
	}
	for i, f := range in.AtHz {
		if !(f > 0) {
			bad.Add(fmt.Sprintf("at_hz[%d]", i), "give a frequency above 0 Hz")
		}
	}
	return bad.Err()
}

// points are those of the file with the cable taken off; findings say where that cannot be.
func (in *Input) points(out *Result) []point {
	all := make([]point, in.Network.Points())
	unknown, large := false, false
	for i, f := range in.Network.Frequency {
		gamma := in.Network.S(i, 1, 1)
		p := point{f: float64(f), rho: cmplx.Abs(gamma), measured: cmplx.Abs(gamma), gamma: gamma}
		switch {
		case p.measured >= 1:
			p.rho = math.NaN()
		case in.Cable != nil:
			loss, ok := in.Cable(f)
			if p.rho *= math.Pow(10, float64(loss)/10); !ok {
				p.rho, unknown = math.NaN(), true
			} else if p.rho >= 1 {
				p.rho, large = math.NaN(), true
			}
		}
		all[i] = p
	}
	if unknown {
		out.Findings = append(out.Findings, say.That("loss-unknown", "the loss of the cable is not known at every frequency of the file: there is no figure there"))
	}
	if large {
		out.Findings = append(out.Findings, say.That("loss-too-large", "more comes back than so much loss lets through: the cable's loss is overstated somewhere, and there is no figure there"))
	}
	return all
}

func (in *Input) minimum(p point, z0 float64) Minimum {
	out := Minimum{FrequencyHz: p.f, SWR: swrOf(p.rho)}
	if p.rho > 0 {
		db := -20 * math.Log10(p.rho)
		out.ReturnLossDB = &db
	}
	if in.Cable == nil {
		z := impedance(p.gamma, z0)
		r, x := real(z), imag(z)
		out.ROhm, out.XOhm = &r, &x
	}
	return out
}

func impedance(gamma complex128, z0 float64) complex128 {
	return complex(z0, 0) * (1 + gamma) / (1 - gamma)
}

// minima are the points lower than both their neighbours, of equal ones the first; a point that
// cannot be had is no neighbour, nor is there one beyond the ends.
func minima(all []point) []int {
	var out []int
	for i := 1; i < len(all)-1; i++ {
		if !all[i].known() || !all[i-1].known() || all[i-1].rho <= all[i].rho {
			continue
		}
		j := i
		for j < len(all)-1 && all[j+1].rho == all[i].rho {
			j++
		}
		if j < len(all)-1 && all[j+1].known() && all[j+1].rho > all[i].rho {
			out = append(out, i)
		}
	}
	return out
}

// stretches are where the reflection is at most rho0, straight between points.
func stretches(all []point, rho0 float64) [][2]float64 {
	out := [][2]float64{}
	add := func(a, b float64) {
		if n := len(out); n > 0 && out[n-1][1] == a {
			out[n-1][1] = b
			return
		}
		out = append(out, [2]float64{a, b})
	}
	for i := 0; i+1 < len(all); i++ {
		a, b := all[i], all[i+1]
		if !a.known() || !b.known() {
			continue
		}
		crossing := a.f + (rho0-a.rho)/(b.rho-a.rho)*(b.f-a.f)
		switch {
		case a.rho <= rho0 && b.rho <= rho0:
			add(a.f, b.f)
		case a.rho <= rho0 && crossing > a.f:
			add(a.f, crossing)
		case b.rho <= rho0 && crossing < b.f:
			add(crossing, b.f)
		}
	}
	return out
}

// between is the SWR at a frequency, the reflection straight between points; nil outside the file
// and beside a point that cannot be had.
func between(all []point, f float64) *float64 {
	for i, p := range all {
		if p.f == f {
			if !p.known() {
				return nil
			}
			v := swrOf(p.rho)
			return &v
		}
		if i > 0 && all[i-1].f < f && f < p.f {
			if !p.known() || !all[i-1].known() {
				return nil
			}
			v := swrOf(all[i-1].rho + (f-all[i-1].f)/(p.f-all[i-1].f)*(p.rho-all[i-1].rho))
			return &v
		}
	}
	return nil
}

// resonances are where the reactance goes through 0, straight between points, either way.
func resonances(all []point, z0 float64) []float64 {
	out := []float64{}
	last, at := 0.0, 0.0 // the last reactance that was not 0, and where it first was 0 since
	var before *point
	for i := range all {
		p := &all[i]
		if !p.known() {
			last, before = 0, nil
			continue
		}
		x := imag(impedance(p.gamma, z0))
		switch {
		case x == 0 && last != 0 && at == 0:
			at = p.f
		case x != 0:
			if last*x < 0 {
				if at == 0 {
					at = before.f + last/(last-x)*(p.f-before.f)
				}
				out = append(out, at)
			}
			last, at = x, 0
		}
		before = p
	}
	return out
}

// band holds the antenna against its band.
func (in *Input) band(out *Result, all []point) {
	from, to := in.Band[0], in.Band[1]
	centre := (from + to) / 2
	out.CentreHz = &centre
	if out.Best != nil {
		offset := out.Best.FrequencyHz - centre
		pct := 100 * offset / centre
		out.OffsetHz, out.OffsetPct = &offset, &pct
	}
	if len(all) == 0 || from < all[0].f || to > all[len(all)-1].f {
		return
	}
	if to > from {
		in := 0.0
		for _, s := range out.Within {
			in += max(0, min(s[1], to)-max(s[0], from))
		}
		pct := 100 * in / (to - from)
		out.BandPct = &pct
	}
	worst := func(f float64, swr *float64) {
		if swr != nil && (out.WorstInBand == nil || *swr > *out.WorstInBand.SWR) {
			out.WorstInBand = &At{f, swr}
		}
	}
	worst(from, between(all, from))
	for _, p := range all {
		if p.known() && p.f > from && p.f < to {
			v := swrOf(p.rho)
			worst(p.f, &v)
		}
	}
	worst(to, between(all, to))
}
