package judge

import (
	"math"
	"sync"

	"talloak/core/rulebook"
	"talloak/core/span"
	"talloak/core/units"
)

// lossBuffers are scratch: judging a trace allocates nothing of its length.
var lossBuffers = sync.Pool{New: func() any { return new([]float64) }}

// holdAgainst walks a trace under the ceiling, finding where a line as high as the
// limit would not be told from the noise, and where something stands over the
// limit that belongs to no line but the carrier's foot.
func (r *ruler) holdAgainst(e *evidence, limits *rulebook.Limits) {
	buffer := lossBuffers.Get().(*[]float64)
	defer lossBuffers.Put(buffer)
	for _, stretch := range e.examined {
		first, end := e.trace.IndexRange(stretch.Lo, stretch.Hi)
		if first >= end {
			continue
		}
		if cap(*buffer) < end-first {
			*buffer = make([]float64, end-first)
		}
		w := walk{r: r, e: e, u: r.widestUncertainty(e, stretch), from: first, loss: (*buffer)[:end-first], blind: -1}
		e.path.FillLoss(e.trace.Frequency(first), e.trace.Step(), w.loss)
		next := first
		for _, piece := range limits.Pieces(stretch.Lo, stretch.Hi) {
			_, to := e.trace.IndexRange(piece.From, piece.To)
			w.under(piece, next, min(to, end))
			next = max(next, min(to, end))
		}
		w.close(end)
	}
	e.blind = e.blind.Merge()
}

// widestUncertainty is the largest uncertainty at the carrier's multiples and the
// ends of a stretch: it changes only where an SWR is known over frequency.
func (r *ruler) widestUncertainty(e *evidence, s span.Span) rulebook.Uncertainty {
	u := r.uncertainty(e, s.Lo)
	for n := units.Hertz(1); n <= lastHarmonic; n++ {
		at := r.uncertainty(e, min(s.Hi, max(s.Lo, n*r.f0)))
		u.Absolute, u.Relative = max(u.Absolute, at.Absolute), max(u.Relative, at.Relative)
	}
	return u
}

// walk goes along one stretch of a trace; loss begins at point from, blind is where
// the blind run under way began, or -1.
type walk struct {
	r     *ruler
	e     *evidence
	u     rulebook.Uncertainty
	from  int
	loss  []float64
	blind int
}

// under holds points [first, end) against one piece of the limit. The noise is the
// same over a block, so the inner loop has two comparisons a point.
func (w *walk) under(piece rulebook.Piece, first, end int) {
	e := w.e
	relativeOnly := e.flat != nil
	plain := piece.Ceiling(w.u, relativeOnly)
	if math.IsInf(float64(plain), 1) {
		w.close(first)
		return
	}
	shift := float64(e.applied) - float64(e.shift)
	over := float64(plain) + shift
	g := rulebook.Guard{U: w.u, Hidden: hidden(-units.DBm(e.floor.Clearance()), 0)}
	seen := float64(piece.Ceiling(g.Hiding(), relativeOnly)) - float64(e.raisedBy(w.r)) + shift
	b, to := e.floor.Block(first)
	for i := first; i < end; b, to = b+1, e.floor.NextBlock(to) {
		line := e.floor.LineOf(b)
		hides := seen - line
		last := min(end, to)
		loss := w.loss[i-w.from : last-w.from]
		for k, v := range e.trace.Levels[i:last] {
			if v >= line && v > over-loss[k] {
				w.note(i + k)
			}
			if loss[k] > hides {
				if w.blind < 0 {
					w.blind = i + k
				}
			} else if w.blind >= 0 {
				w.close(i + k)
			}
		}
		i = last
	}
}

// close ends a blind run before the given point, if there is one.
func (w *walk) close(before int) {
	if w.blind >= 0 {
		w.e.blind = append(w.e.blind, span.Of(w.e.trace.Frequency(w.blind), w.e.trace.Frequency(before-1)))
		w.blind = -1
	}
}

// clearlyOver is how far over the noise beside it, in dB, what stands over the limit and
// over the threshold is a product whatever else it stands in.
const clearlyOver = 10

// note looks at point i, which stands over the limit: where no line has it but one
// that is no product, such as the carrier with its foot, it becomes one by itself
// that nothing can be said of.
func (w *walk) note(i int) {
	e := w.e
	f := e.trace.Frequency(i)
	if e.isLook || w.noProduct(f) || e.trace.Levels[i] < float64(e.floor.At(i))+clearlyOver {
		return
	}
	shown := units.DBm(e.trace.Levels[i])
	for k := range e.lines {
		l := &e.lines[k]
		switch {
		case l.unclear && i >= l.first && i <= l.end: // it goes on
			l.end = max(l.end, i+1)
			if shown > l.shown {
				l.f, l.shown = f, shown
				l.level, _ = e.atConnector(shown, f)
			}
			return
		case i >= l.first && i < l.end && !w.noProduct(l.f):
			return
		}
	}
	if level, ok := e.atConnector(shown, f); ok {
		e.lines = append(e.lines, line{f: f, level: level, shown: shown, first: i, end: i + 1, unclear: true})
	}
}

// noProduct tells whether f lies in the skirt of the carrier or in the analyzer's
// own line at 0 Hz.
func (w *walk) noProduct(f units.Hertz) bool {
	return w.e.zero.Contains(f) || w.e.inSkirt(f, w.r.f0, w.e.skirtHalf(units.Hertz(w.r.in.BandwidthHz)))
}
