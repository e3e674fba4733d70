package judge

import (
	"fmt"
	"math"
	"sync"

	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
)

// line is a peak with its level at the connector.
type line struct {
	f       units.Hertz
	level   units.DBm   // at the connector, with the loss at f
	shown   units.DBm   // as displayed
	middle  units.Hertz // of a hump, whose power is spread; 0 for a discrete line
	unclear bool        // over the limit, but not clear of the noise's crests
	used    bool        // it is the carrier, a harmonic, or within the skirt
}

// evidence is one sweep or look in force, worked out.
type evidence struct {
	name      string
	path      *path.Path
	applied   units.DB
	trace     sweep.Trace // of a look: its floor as a level line
	floor     sweep.Floor
	isLook    bool
	known     intervals // where it was looked and the loss is known
	examined  intervals // known, without the gaps a sample detector leaves
	blind     intervals
	zero      intervals // the analyzer's own line at 0 Hz
	lines     []line
	carrier   *line
	misplaced units.Hertz // carrier as shown less expected, when beyond a bin
}

// atConnector refers a displayed level to the connector with the loss at f.
func (e *evidence) atConnector(shown units.DBm, f units.Hertz) (units.DBm, bool) {
	loss, ok := e.path.LossAt(f)
	return shown + units.DBm(loss-e.applied), ok
}

// knownWithin is where a stretch lies within the path's loss and reach.
func knownWithin(p *path.Path, from, to units.Hertz) intervals {
	var out intervals
	for _, d := range p.Domains() {
		for _, r := range p.Reach() {
			if lo, hi := max(d.Lo, r.Lo), min(d.Hi, r.Hi); lo <= hi {
				out = append(out, intervals{{from, to}}.within(lo, hi)...)
			}
		}
	}
	return out.merge()
}

// fromSweep finds noise, lines and carrier of a sweep.
func fromSweep(s *Sweep, f0 units.Hertz) *evidence {
	e := &evidence{name: s.Name, path: s.Path, applied: s.AppliedDB, trace: s.Trace}
	e.known = knownWithin(s.Path, s.Trace.Start, s.Trace.Stop)
	if s.Detector != "sample" || s.Trace.Step() <= s.Trace.Resolution()*(1+1e-9) {
		e.examined = e.known
	}
	e.floor = s.Trace.Floor()
	for _, p := range s.Trace.Peaks(e.floor) {
		if level, ok := e.atConnector(p.Level, p.Frequency); ok && e.known.contains(p.Frequency) {
			e.lines = append(e.lines, line{f: p.Frequency, level: level, shown: p.Level, middle: e.humpMiddle(p)})
		}
	}
	e.skipZero()
	window := max(2*(e.trace.Step()+e.trace.Resolution()), 0.01*f0)
	e.findCarrier(f0, window, e.trace.Step())
	return e
}

// humpMiddle is the middle of a peak that is wider than three resolution
// bandwidths 6 dB down, where a discrete line is half as wide; else 0.
func (e *evidence) humpMiddle(p sweep.Peak) units.Hertz {
	levels, edge := e.trace.Levels, float64(p.Level)-6
	lo, hi := p.Index, p.Index
	for lo > 0 && levels[lo-1] >= edge {
		lo--
	}
	for hi < len(levels)-1 && levels[hi+1] >= edge {
		hi++
	}
	if units.Hertz(hi-lo)*e.trace.Step() <= 3*e.trace.Resolution() {
		return 0
	}
	return (e.trace.Frequency(lo) + e.trace.Frequency(hi)) / 2
}

// within is the power of a hump in a bandwidth round f, as displayed: each
// point stands for the density in its own step.
func (e *evidence) within(f, bandwidth units.Hertz) units.DBm {
	first, end := e.trace.IndexRange(f-bandwidth/2, f+bandwidth/2)
	sum := 0.0
	for _, l := range e.trace.Levels[first:end] {
		sum += math.Pow(10, l/10)
	}
	return units.DBm(10 * math.Log10(sum*float64(e.trace.Step()/e.trace.Resolution())))
}

// fromLook takes a look without its peaks in dBc, which need the carrier first.
func fromLook(l *Look, f0 units.Hertz) *evidence {
	e := &evidence{name: l.Name, path: l.Path, applied: l.AppliedDB, isLook: true}
	e.known = knownWithin(l.Path, l.From, l.To)
	if l.FloorDBm != nil {
		e.examined = e.known
		levels := make([]float64, lookPoints)
		for i := range levels {
			levels[i] = *l.FloorDBm
		}
		e.trace = sweep.Trace{Start: l.From, Stop: l.To, Levels: levels}
		e.floor = e.trace.Floor()
	}
	for _, p := range l.Peaks {
		if p.LevelDBm == nil {
			continue
		}
		shown := units.DBm(*p.LevelDBm)
		if level, ok := e.atConnector(shown, p.Frequency); ok && e.known.contains(p.Frequency) {
			e.lines = append(e.lines, line{f: p.Frequency, level: level, shown: shown})
		}
	}
	e.findCarrier(f0, lookShare*f0, lookShare*f0)
	return e
}

const (
	lookPoints = 1001  // at which a look's floor is held against the limit
	lookShare  = 0.001 // of the frequency: how well a frequency is read by eye
)

// addRelative adds the peaks of a look that were read in dBc.
func (e *evidence) addRelative(l *Look, carrier units.DBm, f0 units.Hertz) {
	atCarrier, ok := e.path.LossAt(f0)
	for _, p := range l.Peaks {
		if p.DBc == nil || !ok || !e.known.contains(p.Frequency) {
			continue
		}
		shown := carrier - units.DBm(atCarrier-e.applied) + units.DBm(*p.DBc)
		if level, ok := e.atConnector(shown, p.Frequency); ok {
			itself := distance(p.Frequency, f0) <= lookShare*f0 && *p.DBc > -carrierItself
			e.lines = append(e.lines, line{f: p.Frequency, level: level, shown: shown, used: itself})
		}
	}
}

// carrierItself is how far below the carrier, in dB, a peak noted at its
// frequency may be typed and still be the carrier, not an emission.
const carrierItself = 1

// skipZero takes out the line an analyzer shows at 0 Hz, if it does.
func (e *evidence) skipZero() {
	edge := 3 * e.trace.RBW
	if e.trace.Start == 0 {
		edge = max(edge, 2*e.trace.Step())
	}
	if e.trace.Start > edge || len(e.lines) == 0 || e.lines[0].f > edge {
		return
	}
	for i := range e.lines {
		e.lines[i].used = e.lines[i].f <= edge
	}
	e.zero = intervals{{e.trace.Start, edge}}
	e.blind = append(e.blind, e.zero...)
}

func (e *evidence) findCarrier(f0, window, bin units.Hertz) {
	for i := range e.lines {
		l := &e.lines[i]
		if l.used || distance(l.f, f0) > window {
			continue
		}
		if e.carrier == nil || l.level > e.carrier.level {
			e.carrier = l
		}
	}
	if e.carrier == nil {
		return
	}
	e.carrier.used = true
	if d := e.carrier.f - f0; distance(e.carrier.f, f0) > bin*(1+1e-9) {
		e.misplaced = d
	}
}

func distance(a, b units.Hertz) units.Hertz { return units.Hertz(math.Abs(float64(a - b))) }

// window is where the product at multiple m of the carrier shows: centre and
// half width. A displaced carrier carries its scale error along.
func (e *evidence) window(m float64, f0 units.Hertz) (centre, half units.Hertz) {
	centre = units.Hertz(m) * (f0 + e.misplaced)
	if e.isLook {
		return centre, lookShare * centre
	}
	half = e.trace.Step() + e.trace.Resolution()
	if e.misplaced != 0 {
		half += units.Hertz(m) * e.trace.Step() / 2
	}
	return centre, half * (1 + 1e-9)
}

// take marks every line within the window as used and gives the highest.
func (e *evidence) take(centre, half units.Hertz) *line {
	var best *line
	for i := range e.lines {
		l := &e.lines[i]
		if distance(l.f, centre) > half {
			continue
		}
		if !l.used && !l.unclear && (best == nil || l.shown > best.shown) {
			best = l
		}
		l.used = true
	}
	return best
}

// skirtHalf is how far on each side the carrier's own spectrum hides others.
func (e *evidence) skirtHalf(bandwidth units.Hertz) units.Hertz {
	return max(2.5*bandwidth, 3*e.trace.RBW)
}

func (e *evidence) inSkirt(f, f0, half units.Hertz) bool {
	return distance(f, f0) <= half || e.carrier != nil && distance(f, e.carrier.f) <= half
}

// lossBuffers are scratch: judging a trace allocates nothing of its length.
var lossBuffers = sync.Pool{New: func() any { return new([]float64) }}

// holdAgainst walks the trace under the ceiling, finding where the noise hides
// the limit and where something stands over it that is not clear of the noise.
func (e *evidence) holdAgainst(limits *rulebook.Limits, u rulebook.Uncertainty) {
	buffer := lossBuffers.Get().(*[]float64)
	defer lossBuffers.Put(buffer)
	for _, stretch := range e.examined {
		first, end := e.trace.IndexRange(stretch.lo, stretch.hi)
		if first >= end {
			continue
		}
		if cap(*buffer) < end-first {
			*buffer = make([]float64, end-first)
		}
		loss := (*buffer)[:end-first]
		e.path.FillLoss(e.trace.Frequency(first), e.trace.Step(), loss)
		next := first
		blind := blindRun{e: e, from: -1} // may go on from piece to piece
		for _, piece := range limits.Ceiling(stretch.lo, stretch.hi, u) {
			_, to := e.trace.IndexRange(piece.From, piece.To)
			if math.IsInf(float64(piece.Level), 1) {
				blind.close(next)
			} else {
				e.underCeiling(&blind, next, min(to, end), float64(piece.Level)+float64(e.applied), loss[next-first:])
			}
			next = max(next, min(to, end))
		}
		blind.close(end)
	}
	e.blind = e.blind.merge()
}

// underCeiling holds points [first, end) against a ceiling in displayed dBm
// plus loss; loss begins at first. The noise is the same over a block, so the
// inner loop has two comparisons a point.
func (e *evidence) underCeiling(blind *blindRun, first, end int, ceiling float64, loss []float64) {
	clearTo := first // behind the last run that was looked at
	for i := first; i < end; {
		noise := float64(e.floor.At(i))
		for blockEnd := min(end, e.floor.BlockEnd(i)); i < blockEnd; i++ {
			most := ceiling - loss[i-first]
			level := e.trace.Levels[i]
			switch {
			case noise > most:
				if blind.from < 0 {
					blind.from = i
				}
				continue
			case level > most && i >= clearTo && level >= noise+sweep.Visible:
				clearTo = e.noteUnclear(i)
			}
			if blind.from >= 0 {
				blind.close(i)
			}
		}
	}
}

// blindRun is a run of points at which the noise hides the limit; from is its
// first, or -1.
type blindRun struct {
	e    *evidence
	from int
}

// close ends a run before the given point, if there is one.
func (b *blindRun) close(before int) {
	if b.from >= 0 {
		b.e.blind = append(b.e.blind, interval{b.e.trace.Frequency(b.from), b.e.trace.Frequency(before - 1)})
		b.from = -1
	}
}

// noteUnclear looks at the run round point i that stands out of the noise. If
// no line was found in it, its highest point becomes one that is unclear. It
// gives the first point behind the run.
func (e *evidence) noteUnclear(i int) int {
	levels := e.trace.Levels
	above := func(k int) bool { return levels[k] >= float64(e.floor.At(k))+sweep.Visible }
	lo, hi := i, i
	for lo > 0 && above(lo-1) {
		lo--
	}
	for hi < len(levels)-1 && above(hi+1) {
		hi++
	}
	from, to := e.trace.Frequency(lo), e.trace.Frequency(hi)
	for _, l := range e.lines {
		if l.f >= from && l.f <= to {
			return hi + 1
		}
	}
	if p, ok := e.trace.Highest(from, to); ok {
		if level, ok := e.atConnector(p.Level, p.Frequency); ok {
			e.lines = append(e.lines, line{f: p.Frequency, level: level, shown: p.Level, unclear: true})
		}
	}
	return hi + 1
}

// bound is the highest that a product unseen in the window can be, with the
// loss at expected; false where it was not looked.
func (e *evidence) bound(centre, half, expected units.Hertz) (level units.DBm, at units.Hertz, ok bool) {
	if !e.examined.contains(expected) {
		return 0, 0, false
	}
	p, found := e.trace.Highest(centre-half, centre+half)
	if !found { // the window falls between two points of a look's floor
		p, found = e.trace.Highest(centre-e.trace.Step(), centre+e.trace.Step())
	}
	if !found {
		return 0, 0, false
	}
	level, ok = e.atConnector(p.Level, expected)
	return level, p.Frequency, ok
}

// findings are what the evidence itself gives away.
func (e *evidence) findings(f0 units.Hertz, carrier *units.DBm) []Finding {
	var out []Finding
	say := func(code, format string, args ...any) {
		out = append(out, Finding{Code: code, Detail: fmt.Sprintf(format, args...)})
	}
	switch {
	case e.carrier == nil && !e.isLook && e.known.contains(f0):
		say("carrier-missing", "%s covers %s but shows no carrier there", e.title(), f0)
	case e.misplaced != 0:
		say("misaligned", "%s shows the carrier at %s instead of %s; its harmonics are looked for accordingly", e.title(), e.carrier.f, f0)
	}
	if len(e.known) > 0 && len(e.examined) == 0 && !e.isLook {
		say("gaps", "%s has points further apart than its resolution bandwidth with a sample detector: what lies between was not seen", e.title())
	}
	if loss, ok := e.path.LossAt(f0); ok && carrier != nil {
		input := *carrier - units.DBm(loss)
		if most, known := e.path.SafeInput(f0); known && input > most {
			say("overload", "%.1f dBm at the analyzer's input is over the %.1f dBm it survives in %s", float64(input), float64(most), e.title())
		}
	}
	if a := e.path.EndAnalyzer(); a != nil && (a.SHIDBm == nil || a.TOIDBm == nil) {
		say("self-made-unverified", "%s: the analyzer's intercept points are not known, so harmonics it makes itself cannot be told apart", e.title())
	}
	return out
}

func (e *evidence) title() string {
	switch {
	case e.name != "":
		return e.name
	case e.isLook:
		return "the look"
	}
	return "the sweep"
}
