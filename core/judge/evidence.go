package judge

import (
	"math"

	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/span"
	"talloak/core/sweep"
	"talloak/core/units"
)

// line is a peak with its level at the connector.
type line struct {
	f          units.Hertz
	level      units.DBm   // at the connector, with the loss at f
	shown      units.DBm   // as displayed
	middle     units.Hertz // of a hump, whose power is spread; 0 for a discrete line
	first, end int         // its points on the trace
	dBc        bool        // typed as a distance from the carrier, which no offset bends
	unclear    bool        // over the limit, but perhaps the foot of the carrier
	step       units.DB    // what a level read by eye was read to; 0 where not told
	used       bool        // it is the carrier, a harmonic, or within the skirt
}

// evidence is one sweep or look in force, worked out.
type evidence struct {
	name      string
	own       *rulebook.Uncertainty
	path      *path.Path
	applied   units.DB
	trace     sweep.Trace // of a look: its floor as a level line
	floor     sweep.Floor
	over      [][2]int // runs of points over its threshold: from, to before
	isLook    bool
	isList    bool // figures further apart than they see: nothing between them was looked at
	peak      bool // a peak detector
	lifts     bool // max hold or a peak detector: noise lifts what is shown
	modulated *bool
	tolerance units.Hertz // of a look: how well its frequencies were read
	told      units.Hertz // of a look: how well they were said to be read
	narrow    units.DB    // by how much a product of a modulated carrier in it may read low, the most of all
	scallop   units.DB    // by how much a line between two points may read low
	idle      bool        // of a transmitter that does not: nothing is a carrier or its skirt
	normal    bool        // shown below its own carrier
	flat      *units.DB   // where only levels below the carrier are known: how flat the coupling is
	shift     units.DBm   // there and where normal, what puts the carrier at its power
	known     span.Set    // where it was looked and the loss is known
	examined  span.Set    // known, where nothing between the points was missed
	blind     span.Set
	zero      span.Set // the analyzer's own line at 0 Hz
	lines     []line
	carrier   *line
	misplaced units.Hertz // carrier as shown less expected, when beyond a bin
	off       units.DB    // carrier as shown less its power, where that is beyond both uncertainties
	agrees    bool        // its carrier was checked and is within them
	noted     float64     // of a look: its floor as it was noted,
	doubtful  float64     // and how far at the most what counts instead lies over that
}

// low is by how much the evidence reads low, as its carrier shows; 0 where it does not.
func (e *evidence) low() units.DB { return max(0, -e.off) }

// high is by how much it reads high.
func (e *evidence) high() units.DB { return max(0, e.off) }

// atConnector refers a displayed level to the connector with the loss at f.
func (e *evidence) atConnector(shown units.DBm, f units.Hertz) (units.DBm, bool) {
	loss, ok := e.path.LossAt(f)
	return shown + units.DBm(loss-e.applied) + e.shift, ok
}

// knownWithin is where a stretch lies within the path's loss and reach.
func knownWithin(p *path.Path, from, to units.Hertz) span.Set {
	var out span.Set
	for _, d := range p.Domains() {
		for _, r := range p.Reach() {
			if lo, hi := max(d.Lo, r.Lo), min(d.Hi, r.Hi); lo <= hi {
				out = append(out, span.Set{span.Of(from, to)}.Within(lo, hi)...)
			}
		}
	}
	return out.Merge()
}

// What a trace with points further apart than its resolution must be to have seen
// what lies between: of a peak detector, not too coarse, and no mere list.
const (
	widestBins   = 50 // resolution bandwidths
	fewestPoints = 101
)

// HasExamined tells whether nothing between the points of a trace was missed.
func (s *Sweep) HasExamined() bool {
	bin, rbw := s.Trace.Step(), s.Trace.RBW
	const slack = 1 + 1e-6 // printed frequencies are rounded
	switch {
	case rbw == 0, s.Trace.Uneven != nil:
		return false
	case bin <= rbw*slack:
		return true
	}
	return s.Detector == "peak" && len(s.Trace.Levels) >= fewestPoints && bin <= widestBins*rbw*slack
}

// fromSweep finds noise, lines and carrier of a sweep.
func fromSweep(s *Sweep, f0 units.Hertz, bandwidth units.Hertz) *evidence {
	e := &evidence{name: s.Name, own: s.Own, applied: s.AppliedDB, trace: s.Trace, modulated: s.Modulated, peak: s.Detector == "peak", normal: s.Normalised}
	e.lifts = e.peak || s.Hold == "max"
	e.through(s.Path)
	e.known = knownWithin(e.path, s.Trace.Start, s.Trace.Stop)
	var peaks []sweep.Peak
	if e.isList = !s.HasExamined(); e.isList {
		peaks, e.floor = s.Trace.Figures(onMultiples(s.Trace, f0))
	} else {
		e.examined = e.known
		e.floor = s.Trace.Floor(5 * bandwidth)
		peaks = s.Trace.Peaks(e.floor)
		for _, p := range peaks {
			e.over = append(e.over, [2]int{p.First, p.End})
		}
		if !e.peak {
			share := float64(e.trace.Step() / e.trace.RBW)
			e.scallop = units.DB(3.01 * share * share)
		}
	}
	for _, p := range peaks {
		if level, ok := e.atConnector(p.Level, p.Frequency); ok && e.known.Contains(p.Frequency) {
			e.lines = append(e.lines, line{f: p.Frequency, level: level, shown: p.Level, middle: e.humpMiddle(p), first: p.First, end: p.End})
		}
	}
	e.skipZero()
	window := max(2*(e.trace.Step()+e.trace.Resolution()), 0.01*f0)
	if e.isList {
		window = e.listWindow(f0)
	}
	e.findCarrier(f0, window, e.trace.Step())
	if e.isList {
		e.leaveOutFoot(f0)
	}
	if e.carrier == nil && !e.isList && s.Trace.Stop-s.Trace.Start < max(12*s.Trace.RBW, 5*bandwidth) {
		e.carrierFills(f0, window)
	}
	return e
}

// leaveOutFoot takes no line for one that a list does not tell from the carrier: one
// whose point stands for the carrier too; where the resolution is not known, one of the
// carrier's hump, or, where that has no top, a point beside it or the trace's end
// towards it (within 2 %, common practice, no source).
func (e *evidence) leaveOutFoot(f0 units.Hertz) {
	near := 0.02 * f0
	for i := range e.lines {
		l := &e.lines[i]
		reach, hump := e.standsFor(), false
		switch {
		case e.trace.RBW > 0:
		case e.carrier != nil:
			hump = e.trace.OneHump(l.first, e.carrier.first)
		case l.f == e.trace.Start && f0 < l.f, l.f == e.trace.Stop && f0 > l.f:
			reach = max(reach, near)
		default:
			reach = max(reach, min(e.trace.Step(), near))
		}
		l.used = l.used || hump || distance(l.f, f0) <= reach
	}
}

// standsFor is how far to each side a point of a peak detector shows what is there,
// the skirt of its resolution included; 0 for other detectors.
func (e *evidence) standsFor() units.Hertz {
	if !e.peak || e.trace.Uneven != nil {
		return 0
	}
	return e.trace.Step()/2 + min(3*e.trace.RBW, e.trace.Step()/4)
}

// carrierFills takes the highest point for the carrier where the picture is so narrow
// that the carrier fills it: there is no noise beside it to tell it from.
func (e *evidence) carrierFills(f0, window units.Hertz) {
	p, ok := e.trace.Highest(f0-window, f0+window)
	if !ok || !e.known.Contains(p.Frequency) {
		return
	}
	if level, ok := e.atConnector(p.Level, p.Frequency); ok {
		e.lines = append(e.lines, line{f: p.Frequency, level: level, shown: p.Level, first: p.First, end: p.End, used: true})
		e.carrier = &e.lines[len(e.lines)-1]
	}
}

// through takes the path; where its coupling is not known but vouched to be flat,
// the path without it, for levels below the carrier.
func (e *evidence) through(p *path.Path) {
	e.path = p
	if flat, within, ok := p.RelativeOnly(); ok {
		e.path, e.flat = flat, &within
	}
}

// onMultiples are the points read at the carrier and at its multiples, by index: of
// several at one of them the highest, for the others are its foot.
func onMultiples(t sweep.Trace, f0 units.Hertz) map[int]bool {
	highest := map[units.Hertz]int{}
	for i, v := range t.Levels {
		f := t.Frequency(i)
		n := units.Hertz(math.Round(float64(f / f0)))
		if n < 1 || distance(f, n*f0) > max(t.RBW, lookShare*f) {
			continue
		}
		if best, ok := highest[n]; !ok || v > t.Levels[best] {
			highest[n] = i
		}
	}
	own := make(map[int]bool, len(highest))
	for _, i := range highest {
		own[i] = true
	}
	return own
}

// listWindow is how far beside a multiple a figure of a list may stand for it: a
// point or the RBW, but no more than 1 %, or a coarse list's neighbours would be
// taken for it (common practice, no source). A point of a peak detector stands for
// what is round it, however coarse; what no RBW tells is read as in a look.
func (e *evidence) listWindow(centre units.Hertz) units.Hertz {
	step, rbw := e.trace.Step(), e.trace.RBW
	if e.trace.Uneven != nil {
		return max(rbw, lookShare*centre)
	}
	w := max(e.standsFor(), min(step+rbw, max(0.01*centre, rbw)))
	if rbw == 0 {
		w = max(w, lookShare*centre)
	}
	return w
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
	if e.isList || units.Hertz(hi-lo)*e.trace.Step() <= 3*e.trace.Resolution() {
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
	e := &evidence{
		name: l.Name, own: l.Own, applied: l.AppliedDB, isLook: true, modulated: l.Modulated, floor: sweep.NoNoise(),
		lifts: l.Hold == "max" || l.Detector == "peak", tolerance: l.OnScreen(), told: l.Tolerance,
	}
	e.through(l.Path)
	e.known = knownWithin(e.path, l.From, l.To)
	e.trace = sweep.Trace{Start: l.From, Stop: l.To, Levels: make([]float64, lookPoints)}
	if l.FloorDBm != nil {
		e.examined = e.known
		e.noteFloor(*l.FloorDBm)
	}
	for _, p := range l.Peaks {
		if p.LevelDBm == nil {
			continue
		}
		shown := units.DBm(*p.LevelDBm)
		if level, ok := e.atConnector(shown, p.Frequency); ok && e.known.Contains(p.Frequency) {
			e.lines = append(e.lines, line{f: p.Frequency, level: level, shown: shown, step: l.readTo(p)})
		}
	}
	e.findCarrier(f0, e.lookWindow(f0), e.lookWindow(f0))
	return e
}

// readTo is what a peak was read to.
func (l *Look) readTo(p LookPeak) units.DB {
	if p.Step > 0 {
		return p.Step
	}
	return l.Step
}

// What a floor noted may lie under the noise of its analyzer, in dB, before that counts
// instead, and the least that any shows as displayed, in dBm (common practice, no source).
const (
	floorUnder = 10
	leastShown = -150
)

// noteFloor takes the floor of a look as it was noted, or where that is lower than the
// analyzer can show, what that shows.
func (e *evidence) noteFloor(noted float64) {
	e.noted = noted
	for i := range e.trace.Levels {
		level := noted
		if noise, ok := e.path.NoiseFloor(e.trace.Frequency(i)); ok && noted < float64(noise)+float64(e.applied)-floorUnder {
			level = float64(noise) + float64(e.applied)
		} else if noted < leastShown {
			level = leastShown
		}
		e.trace.Levels[i], e.doubtful = level, max(e.doubtful, level-noted)
	}
	e.floor = sweep.NotedFloor(e.trace.Levels)
}

const (
	lookPoints = 1001  // at which a look's floor is held against the limit
	lookShare  = 0.001 // of the frequency: how well a frequency is read by eye
	lookScreen = 300   // parts of a screen that can be told apart on its frequency axis
)

// lookWindow is how far a frequency read by eye may be off.
func (e *evidence) lookWindow(f units.Hertz) units.Hertz { return max(lookShare*f, e.tolerance) }

// OnScreen is how far a frequency may be off for how it was read alone: as was told of the
// look, or a part of the screen.
func (l *Look) OnScreen() units.Hertz { return max(l.Tolerance, (l.To-l.From)/lookScreen) }

// Window is how far a frequency of the look may be off.
func (l *Look) Window(f units.Hertz) units.Hertz { return max(lookShare*f, l.OnScreen()) }

// addRelative adds the peaks of a look that were read in dBc.
func (e *evidence) addRelative(l *Look, carrier units.DBm, f0 units.Hertz) {
	atCarrier, ok := e.path.LossAt(f0)
	for _, p := range l.Peaks {
		if p.DBc == nil || !ok || !e.known.Contains(p.Frequency) {
			continue
		}
		shown := carrier - units.DBm(atCarrier-e.applied) - e.shift + units.DBm(*p.DBc)
		if level, ok := e.atConnector(shown, p.Frequency); ok {
			itself := distance(p.Frequency, f0) <= e.lookWindow(f0) && *p.DBc > -carrierItself
			e.lines = append(e.lines, line{f: p.Frequency, level: level, shown: shown, dBc: true, used: itself, step: l.readTo(p)})
		}
	}
}

// carrierItself is how far below the carrier, in dB, a peak noted at its
// frequency may be typed and still be the carrier, not an emission.
const carrierItself = 1

// skipZero takes out the line an analyzer shows at 0 Hz, if it does.
func (e *evidence) skipZero() {
	edge := 3 * e.trace.RBW
	if e.trace.Start == 0 && e.trace.Uneven == nil {
		edge = max(edge, 2*e.trace.Step())
	}
	if e.trace.Start > edge || len(e.lines) == 0 || e.lines[0].f > edge {
		return
	}
	for i := range e.lines {
		e.lines[i].used = e.lines[i].f <= edge
	}
	e.zero = span.Set{span.Of(e.trace.Start, edge)}
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
	if d := e.carrier.f - f0; distance(d, 0) > bin*(1+1e-9) {
		e.misplaced = d
	}
}

func distance(a, b units.Hertz) units.Hertz { return units.Hertz(math.Abs(float64(a - b))) }

// window is where the product at a multiple of the carrier shows: its centre and
// half width. A displaced carrier carries its scale error along.
func (e *evidence) window(m float64, f0 units.Hertz) (centre, half units.Hertz) {
	centre = units.Hertz(m) * (f0 + e.misplaced)
	switch {
	case e.isLook:
		return centre, e.lookWindow(centre)
	case e.isList:
		return centre, e.listWindow(centre)
	}
	half = e.trace.Step() + e.trace.Resolution()
	if e.misplaced != 0 {
		half += units.Hertz(m) * e.trace.Step() / 2
	}
	return centre, half * (1 + 1e-9)
}

// take gives the line within the window that is the product there and marks it as used: of
// a look the nearest, the others are spurs; of a trace the highest, for the others are its
// foot. What may be the foot of the carrier is it only where nothing else is.
func (e *evidence) take(centre, half units.Hertz) *line {
	var best *line
	for i := range e.lines {
		l := &e.lines[i]
		if distance(l.f, centre) > half {
			continue
		}
		if !l.used && (best == nil || e.rather(l, best, centre)) {
			best = l
		}
		l.used = l.used || !e.isLook
	}
	if best != nil {
		best.used = true
	}
	return best
}

// rather tells whether line a is the product at centre rather than b.
func (e *evidence) rather(a, b *line, centre units.Hertz) bool {
	if e.isLook {
		if da, db := distance(a.f, centre), distance(b.f, centre); da != db {
			return da < db
		}
	} else if a.unclear != b.unclear {
		return b.unclear
	}
	return a.shown > b.shown
}

// beside is a line of a look that stands next to a window, within twice its width, and is
// taken for nothing else.
func (e *evidence) beside(centre, half units.Hertz) *line {
	for i := range e.lines {
		if l := &e.lines[i]; e.isLook && !l.used && distance(l.f, centre) <= 2*half {
			return l
		}
	}
	return nil
}

// skirtHalf is how far on each side the carrier's own spectrum hides others.
func (e *evidence) skirtHalf(bandwidth units.Hertz) units.Hertz {
	if e.idle {
		return -1
	}
	if e.isLook && e.carrier != nil {
		return max(2.5*bandwidth, e.lookWindow(e.carrier.f))
	}
	return max(2.5*bandwidth, 3*e.trace.RBW)
}

func (e *evidence) inSkirt(f, f0, half units.Hertz) bool {
	return distance(f, f0) <= half || e.carrier != nil && distance(f, e.carrier.f) <= half
}

// bound is the highest that a product unseen in the window can be, with the
// loss at expected; false where it was not looked.
func (e *evidence) bound(centre, half, expected units.Hertz) (s *sighting, ok bool) {
	if !e.examined.Contains(expected) {
		return nil, false
	}
	p, found := e.trace.Highest(centre-half, centre+half)
	if !found { // the window falls between two points of a look's floor
		p, found = e.trace.Highest(centre-e.trace.Step(), centre+e.trace.Step())
	}
	if !found {
		return nil, false
	}
	level, ok := e.atConnector(p.Level, expected)
	return &sighting{e: e, level: level, shown: p.Level, f: p.Frequency}, ok
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
