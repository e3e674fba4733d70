package simulated

import (
	"math"
	"time"

	"talloak/core/rf"
	"talloak/core/units"
	"talloak/instruments/scpi"
)

type analyzerState struct {
	start, stop float64 // Hz
	rbw         float64
	points      int
	detector    string
	mode        string
	attenuation float64 // dB, before the mixer
	amplified   bool
	reference   float64 // dBm
	offset      float64 // dB, added to what is shown
	continuous  bool
	real32      bool
	swapped     bool

	blown  bool // its input did not live through something
	swept  int  // sweeps so far
	begun  bool // a single sweep is under way
	done   time.Time
	shown  []float64 // of the last whole sweep, in dBm at the input, held as the mode says
	held   int       // sweeps in shown
	marker int
}

const (
	leastSpan    = 1e3
	mostPoints   = 40001
	gainDB       = 20   // of the pre-amplifier
	overloadDBm  = 0.0  // at the mixer
	longestSweep = 4000 // s
	samples      = 8    // independent ones that a detector has of a point
)

func (b *Bench) resetAnalyzer() {
	s, a := &b.scene.Analyzer, &b.analyzer
	blown, swept := a.blown, a.swept
	*a = analyzerState{start: float64(s.From), stop: float64(s.To), rbw: 100e3, points: 1001, detector: "POS", mode: "WRIT", attenuation: 10, blown: blown, swept: swept}
}

// unhold forgets what is shown: it was taken otherwise than is set now.
func (a *analyzerState) unhold() { a.shown, a.held, a.marker = nil, 0, 0 }

// beforeMixer is what takes a level down, or up, on the way to the mixer.
func (a *analyzerState) beforeMixer() units.DBm {
	db := -a.attenuation
	if a.amplified {
		db += gainDB
	}
	return units.DBm(db)
}

// arriving is what stands at the input, the carrier first.
func (b *Bench) arriving() []Line {
	if b.scene.ToInput == nil {
		return nil
	}
	var out []Line
	for _, l := range b.sent() {
		if loss, ok := b.scene.ToInput.LossAt(l.Frequency); ok {
			l.Level -= units.DBm(loss) + b.brokenBefore()
			out = append(out, l)
		}
	}
	return out
}

// bear is what the instruments bear of what is sent now: an analyzer's input that does not live
// through it is blown, a generator at the antenna connector dead.
func (b *Bench) bear() {
	if b.scene.Antenna && !b.generator.dead && len(b.sent()) > 0 {
		b.killGenerator()
	}
	for _, l := range b.arriving() {
		if l.Level > b.scene.Analyzer.SurvivesDBm && !b.analyzer.blown {
			b.analyzer.blown = true
			b.tell("the analyzer's input took more than it survives, and is broken", true)
		}
	}
}

// overloaded tells whether more stands at the mixer than it takes.
func (b *Bench) overloaded() bool {
	for _, l := range b.arriving() {
		if l.Level+b.analyzer.beforeMixer() > overloadDBm {
			return true
		}
	}
	return false
}

// withOwn is what the input makes of what arrives: a level over what the mixer takes is pressed
// together, and harmonics of its own stand beside those of the radio.
func (b *Bench) withOwn(in []Line) []Line {
	s, before := &b.scene.Analyzer, b.analyzer.beforeMixer()
	var out []Line
	for i, l := range in {
		mixer := l.Level + before
		if mixer > overloadDBm {
			l.Level -= (mixer - overloadDBm) / 2
		}
		if b.analyzer.blown {
			l.Level -= 40
		}
		out = append(out, l)
		if i > 0 {
			continue
		}
		for order := 2; order <= 3; order++ {
			intercept := s.SHI
			if order == 3 {
				intercept = s.TOI
			}
			own := min(rf.OwnProduct(mixer, intercept, order), -6)
			out = append(out, Line{Frequency: units.Hertz(order) * l.Frequency, Level: l.Level + own})
		}
	}
	return out
}

// sweepTime is how long a sweep takes: each point the samples its detector wants of the
// resolution filter, and no less than the filter follows.
func (a *analyzerState) sweepTime() time.Duration {
	s := math.Max(float64(a.points)*samples/a.rbw, rf.SweepS(units.Hertz(a.stop-a.start), units.Hertz(a.rbw)))
	return time.Duration(min(max(s, 0.02), longestSweep) * float64(time.Second))
}

// begin starts a sweep.
func (b *Bench) begin() {
	b.catchUp()
	b.analyzer.done = b.lasts(b.analyzer.sweepTime())
	b.analyzer.begun = true
}

// take holds the sweep that is done as the mode says.
func (b *Bench) take() {
	a := &b.analyzer
	a.begun = false
	fresh := b.sweep()
	if a.held == 0 || a.mode == "WRIT" || len(a.shown) != len(fresh) {
		a.shown, a.held = fresh, 1
		return
	}
	a.held++
	for i, l := range fresh {
		switch {
		case a.mode == "MAXH":
			a.shown[i] = math.Max(a.shown[i], l)
		default: // the mean of powers
			n := float64(a.held)
			w := (float64(units.DBm(a.shown[i]).Watts())*(n-1) + float64(units.DBm(l).Watts())) / n
			a.shown[i] = float64(units.Watts(w).DBm())
		}
	}
}

// trace is what is shown, once it is whole; a sweep is taken where there is none, or where they
// follow one another.
func (b *Bench) trace(c *scpi.Call) ([]float64, bool) {
	a := &b.analyzer
	b.catchUp()
	if !a.begun && (a.continuous || a.shown == nil) {
		b.begin()
	}
	for a.begun {
		if !c.Until(a.done) {
			return nil, false
		}
		b.catchUp()
	}
	out := make([]float64, len(a.shown))
	for i, l := range a.shown {
		out[i] = math.Round((l+a.offset)*1000) / 1000
	}
	return out, true
}

// at is the frequency of a point.
func (a *analyzerState) at(i int) float64 {
	return a.start + float64(i)*(a.stop-a.start)/float64(a.points-1)
}
