package touchstone

import (
	"math"
	"math/cmplx"
	"sort"
	"strconv"

	"talloak/core/linear"
	"talloak/core/units"
)

// Network is the S-parameters of an N-port over rising frequencies.
type Network struct {
	Ports     int
	Z0        float64 // reference impedance, ohms
	Frequency []units.Hertz
	s         []complex128 // a point after the other, each by rows
}

// Points is the number of frequencies.
func (n *Network) Points() int { return len(n.Frequency) }

// S is the parameter S(to, from) at point i; ports count from 1.
func (n *Network) S(i, to, from int) complex128 {
	return n.s[(i*n.Ports+to-1)*n.Ports+from-1]
}

// Name is the key of S(to, from): "21", and from ten ports "10,1".
func (n *Network) Name(to, from int) string {
	if n.Ports >= 10 {
		return strconv.Itoa(to) + "," + strconv.Itoa(from)
	}
	return strconv.Itoa(to) + strconv.Itoa(from)
}

// LossDB is the insertion loss -20 log10 |S21| of a two-port at point i, and
// false for other networks or where nothing passes.
func (n *Network) LossDB(i int) (units.DB, bool) {
	if n.Ports != 2 {
		return 0, false
	}
	db := -20 * math.Log10(cmplx.Abs(n.S(i, 2, 1)))
	return units.DB(db), !math.IsInf(db, 0)
}

// SWR is the SWR of S11 at point i, and false where |S11| is 1 or more.
func (n *Network) SWR(i int) (float64, bool) {
	rho := cmplx.Abs(n.S(i, 1, 1))
	if rho >= 1 {
		return 0, false
	}
	swr := (1 + rho) / (1 - rho)
	return swr, !math.IsInf(swr, 0)
}

// LossAt is the insertion loss at f, linear in dB between the points; false
// outside them, beside a point where nothing passes, and for no two-port.
func (n *Network) LossAt(f units.Hertz) (units.DB, bool) {
	last := len(n.Frequency) - 1
	if f < n.Frequency[0] || f > n.Frequency[last] {
		return 0, false
	}
	i := sort.Search(last, func(i int) bool { return n.Frequency[i+1] >= f })
	a, ok := n.LossDB(i)
	if !ok || i == last {
		return a, ok
	}
	b, ok := n.LossDB(i + 1)
	if !ok {
		return 0, false
	}
	return units.DB(n.between(i, float64(a), float64(b)).At(float64(f))), true
}

// SWRAt is the SWR of S11 at f, with |S11| linear between the points; false
// outside them or where |S11| reaches 1.
func (n *Network) SWRAt(f units.Hertz) (float64, bool) {
	last := len(n.Frequency) - 1
	if f < n.Frequency[0] || f > n.Frequency[last] {
		return 0, false
	}
	i := sort.Search(last, func(i int) bool { return n.Frequency[i+1] >= f })
	rho := cmplx.Abs(n.S(i, 1, 1))
	if i < last {
		rho = n.between(i, rho, cmplx.Abs(n.S(i+1, 1, 1))).At(float64(f))
	}
	swr := (1 + rho) / (1 - rho)
	return swr, rho < 1 && !math.IsInf(swr, 0)
}

// between is the line from a at point i to b at the next.
func (n *Network) between(i int, a, b float64) linear.Line {
	return linear.Through([]float64{float64(n.Frequency[i]), float64(n.Frequency[i+1])}, []float64{a, b})
}
