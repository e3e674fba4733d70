package judge

import (
	"math"
	"sync"

	"talloak/core/rulebook"
	"talloak/core/span"
	"talloak/core/units"
)

// lossChunk is how many points the loss is worked out for at a time: few enough to lie near
// the processor until they are used.
const lossChunk = 2048

var lossBuffers = sync.Pool{New: func() any { return new([lossChunk]float64) }}

// holdAgainst walks a trace under the ceiling, finding where a line as high as the
// limit would not be told from the noise, and where something stands over the
// limit that belongs to no line but the carrier's foot.
func (r *ruler) holdAgainst(e *evidence, limits *rulebook.Limits) {
	buffer := lossBuffers.Get().(*[lossChunk]float64)
	defer lossBuffers.Put(buffer)
	for _, stretch := range e.examined {
		first, end := e.trace.IndexRange(stretch.Lo, stretch.Hi)
		if first >= end {
			continue
		}
		w := walk{r: r, e: e, u: r.widestUncertainty(e, stretch), buffer: buffer, end: end, blind: -1}
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

// walk goes along one stretch of a trace that ends before point end; loss is that of the points
// from from on, blind is where the blind run under way began, or -1.
type walk struct {
	r      *ruler
	e      *evidence
	u      rulebook.Uncertainty
	buffer *[lossChunk]float64
	loss   []float64
	from   int
	end    int
	blind  int
}

// lossFrom is the loss at point i and at those behind it, as far as it is worked out.
func (w *walk) lossFrom(i int) []float64 {
	if i < w.from || i >= w.from+len(w.loss) {
		w.from, w.loss = i, w.buffer[:min(lossChunk, w.end-i)]
		w.e.path.FillLoss(w.e.trace.Frequency(i), w.e.trace.Step(), w.loss)
	}
	return w.loss[i-w.from:]
}

// under holds points [first, end) against one piece of the limit. What stands over it stands
// over the threshold too, so that only those points are looked at; and blind is a matter of the
// loss alone, which over most of a trace is bounded well enough to need no look at any point.
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
	for _, run := range e.over {
		for i := max(first, run[0]); i < min(end, run[1]); i++ {
			if v := e.trace.Levels[i]; v >= float64(e.floor.Line(i)) && v > over-w.lossFrom(i)[0] {
				w.note(i)
			}
		}
	}
	g := rulebook.Guard{U: w.u, Hidden: hidden(-units.DBm(e.floor.Clearance()), 0)}
	seen := float64(piece.Ceiling(g.Hiding(), relativeOnly)) - float64(e.raisedBy(w.r)) + shift
	most, bounded := 0.0, first // the most that the loss is before that point
	b, to := e.floor.Block(first)
	for i := first; i < end; {
		if i >= to {
			b, to = b+1, e.floor.NextBlock(to)
		}
		if i >= bounded {
			bounded = min(end, i+lossChunk)
			most = float64(e.path.MostLoss(e.trace.Frequency(i), e.trace.Frequency(bounded-1)))
		}
		hides := seen - e.floor.LineOf(b)
		last := min(end, to, bounded)
		if most <= hides {
			w.close(i)
			i = last
			continue
		}
		loss := w.lossFrom(i)
		last = min(last, i+len(loss))
		for k, db := range loss[:last-i] {
			if db > hides {
				if w.blind < 0 {
					w.blind = i + k
				}
			} else {
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
