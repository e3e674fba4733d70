package deviation

import "math"

// mostIndex is the highest modulation index that lines are fitted to; mostLines is more lines
// than it shows.
const (
	mostIndex = 12.0
	mostLines = 200
)

// fitted is the index b and scale c at which c |Jk(b)| lie nearest to the lines read, by least
// squares of amplitudes.
type fitted struct {
	orders []int
	amps   []float64
	index  float64
}

func fit(lines []*float64) fitted {
	var f fitted
	for k, l := range lines {
		if l != nil {
			f.orders, f.amps = append(f.orders, k), append(f.amps, math.Pow(10, *l/20))
		}
	}
	// Amplitudes are held against the largest: levels are only ever compared.
	largest := 0.0
	for _, a := range f.amps {
		largest = max(largest, a)
	}
	for i := range f.amps {
		f.amps[i] /= largest
	}
	f.index = f.best()
	return f
}

// residual is the sum of squares that is left at an index, with the best scale for it.
func (f *fitted) residual(b float64) float64 {
	aa, aj, jj := 0.0, 0.0, 0.0
	for i, k := range f.orders {
		j := math.Abs(math.Jn(k, b))
		aa, aj, jj = aa+f.amps[i]*f.amps[i], aj+f.amps[i]*j, jj+j*j
	}
	if jj == 0 {
		return aa
	}
	return max(0, aa-aj*aj/jj)
}

// gridStep is fine beside the width of any minimum: Jk turns over lengths of about 1.
const gridStep = 1.0 / 512

// best is the index of the least residual in 0 to mostIndex, the smaller one on a tie.
func (f *fitted) best() float64 {
	n := int(mostIndex / gridStep)
	left := make([]float64, n+1)
	for i := range left {
		left[i] = f.residual(float64(i) * gridStep)
	}
	at, least := 0.0, math.Inf(1)
	for i, r := range left {
		if i > 0 && left[i-1] < r || i < n && left[i+1] < r {
			continue
		}
		b := f.refine(max(0, float64(i-1)*gridStep), min(mostIndex, float64(i+1)*gridStep))
		if r := f.residual(b); r < least-1e-13 {
			at, least = b, r
		}
	}
	return at
}

// refine narrows a minimum between two indices down, by golden sections.
func (f *fitted) refine(lo, hi float64) float64 {
	g := (math.Sqrt(5) - 1) / 2
	a, b := hi-g*(hi-lo), lo+g*(hi-lo)
	ra, rb := f.residual(a), f.residual(b)
	for range 60 {
		if ra <= rb {
			hi, b, rb = b, a, ra
			a = hi - g*(hi-lo)
			ra = f.residual(a)
		} else {
			lo, a, ra = a, b, rb
			b = lo + g*(hi-lo)
			rb = f.residual(b)
		}
	}
	// A kink or an end may lie beside the middle of what is left.
	best := (lo + hi) / 2
	for _, x := range []float64{lo, hi} {
		if f.residual(x) < f.residual(best) {
			best = x
		}
	}
	return best
}

// poor tells that the root mean square of what is left is over 5 % of the largest line.
func (f *fitted) poor() bool {
	return math.Sqrt(f.residual(f.index)/float64(len(f.amps))) > 0.05
}

// change is by how much the index changes where one line alone is db higher. At a null of a line
// both sides of it would do, and the larger change counts.
func (f *fitted) change(line int, db float64) float64 {
	other := fitted{orders: f.orders, amps: append([]float64{}, f.amps...)}
	for i, k := range f.orders {
		if k == line {
			other.amps[i] *= math.Pow(10, db/20)
		}
	}
	return max(math.Abs(other.downhill(f.index, -1)-f.index), math.Abs(other.downhill(f.index, 1)-f.index))
}

// downhill walks from an index to one side as long as the residual falls, to the minimum there.
func (f *fitted) downhill(from, side float64) float64 {
	step := gridStep / 16
	at, r := from, f.residual(from)
	for {
		next := min(mostIndex, max(0, at+side*step))
		left := f.residual(next)
		if next == at || left >= r {
			break
		}
		at, r = next, left
	}
	lo, hi := max(0, at-step), min(mostIndex, at+step)
	if at == from { // no further to the other side than where it began
		if side < 0 {
			hi = from
		} else {
			lo = from
		}
	}
	return f.refine(lo, hi)
}
