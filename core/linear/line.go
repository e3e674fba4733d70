package linear

import "gonum.org/v1/gonum/interp"

// Line is a figure over x: straight between its points, and held at the ends, where the
// caller says whether it counts there. The zero Line is 0 everywhere.
type Line struct {
	held float64 // of a single point
	runs *interp.PiecewiseLinear
}

// Through is the line through points whose x rise; it panics where they do not, where x
// and y differ in number, or where there are none.
func Through(x, y []float64) Line {
	if len(x) == 1 && len(y) == 1 {
		return Line{held: y[0]}
	}
	runs := new(interp.PiecewiseLinear)
	if err := runs.Fit(x, y); err != nil {
		panic(err)
	}
	return Line{runs: runs}
}

// Over is the line through points given as things that have an x and a y.
func Over[P any](points []P, x, y func(P) float64) Line {
	xs, ys := make([]float64, len(points)), make([]float64, len(points))
	for i, p := range points {
		xs[i], ys[i] = x(p), y(p)
	}
	return Through(xs, ys)
}

// At is the figure at x.
func (l Line) At(x float64) float64 {
	if l.runs == nil {
		return l.held
	}
	return l.runs.Predict(x)
}
