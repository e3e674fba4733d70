package origin

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"talloak/core/span"
	"talloak/core/units"
)

// Cause is a family of explanations.
type Cause string

// The families. Mixing is with a clock of a usual frequency, OwnClock and OwnMixing are of
// the clocks the radio is known to have, Twin of whatever stands as far on the other side of
// a multiple of the carrier.
const (
	OtherBand Cause = "other-band"
	OwnClock  Cause = "own-clock"
	OwnMixing Cause = "own-mixing"
	Clock     Cause = "clock"
	Mixing    Cause = "mixing"
	Twin      Cause = "twin"
	Image     Cause = "image"
	Comb      Cause = "comb"
)

// Origin is something a line could come from. Off is how far it lies from where that
// would be, in Hz. ByChance is how many of the lines told of would fit one of the places
// of this family if they lay anywhere in what was examined.
type Origin struct {
	Kind     Cause   `json:"kind"`
	Detail   string  `json:"detail"`
	OffHz    float64 `json:"off_hz"`
	Places   int     `json:"places"` // of this family in what was examined
	ByChance float64 `json:"by_chance"`
}

// Named is another carrier of the radio.
type Named struct {
	Name string
	Hz   units.Hertz
}

// Scene is what a line is explained in: the carrier, what else the radio can transmit on,
// the clocks it is known to have, every line nobody has explained, what was examined, and how
// far a line's frequency may
// be off, to each side.
type Scene struct {
	Carrier  units.Hertz
	Others   []Named
	Clocks   []units.Hertz
	Lines    []units.Hertz
	Examined span.Set // merged
	Within   units.Hertz

	tried map[Cause][]place
}

// Frequencies of reference oscillators and intermediate frequencies that radios commonly
// have (common practice, no source).
var (
	clocks        = []units.Hertz{10e6, 12.8e6, 13e6, 14.4e6, 16.8e6, 19.2e6, 20e6, 26e6}
	intermediates = []units.Hertz{10.7e6, 21.4e6, 45e6}
)

// How far the families go (a choice: further, chance fits as much as causes do).
const (
	otherMultiples = 5
	clockMultiples = 40
	mixMultiples   = 3
	mixClocks      = 3
	mixOwn         = 8
	twinMultiples  = 5
)

type place struct {
	f    units.Hertz
	what string
}

// families are every place that is tried, by family.
func (s *Scene) families() map[Cause][]place {
	if s.tried != nil {
		return s.tried
	}
	out := map[Cause][]place{}
	add := func(k Cause, f units.Hertz, format string, args ...any) {
		if f > 0 && s.Examined.Contains(f) {
			out[k] = append(out[k], place{f, fmt.Sprintf(format, args...)})
		}
	}
	for _, o := range s.Others {
		for n := 1; n <= otherMultiples; n++ {
			add(OtherBand, units.Hertz(n)*o.Hz, "%s the carrier of %s, %s", times(n), o.Name, o.Hz)
		}
	}
	// Its own clocks are few, so they can be followed further before chance explains as much.
	mixed := func(k Cause, c units.Hertz, most int, whose string) {
		for n := 1; n <= mixMultiples; n++ {
			for m := 1; m <= most; m++ {
				add(k, units.Hertz(n)*s.Carrier-units.Hertz(m)*c, "%s the carrier less %s %s of %s", times(n), times(m), whose, c)
				add(k, units.Hertz(n)*s.Carrier+units.Hertz(m)*c, "%s the carrier and %s %s of %s", times(n), times(m), whose, c)
			}
		}
	}
	for _, c := range s.Clocks {
		for n := 1; n <= clockMultiples; n++ {
			add(OwnClock, units.Hertz(n)*c, "%s its own clock of %s", times(n), c)
		}
		mixed(OwnMixing, c, mixOwn, "its own clock")
	}
	for _, c := range clocks {
		if slices.Contains(s.Clocks, c) {
			continue
		}
		for n := 1; n <= clockMultiples; n++ {
			add(Clock, units.Hertz(n)*c, "%s a clock of %s", times(n), c)
		}
		mixed(Mixing, c, mixClocks, "a clock")
	}
	for _, i := range intermediates {
		add(Image, s.Carrier-2*i, "the carrier less twice an intermediate frequency of %s", i)
		add(Image, s.Carrier+2*i, "the carrier and twice an intermediate frequency of %s", i)
	}
	s.tried = out
	return out
}

func times(n int) string {
	if n == 1 {
		return "once"
	}
	return fmt.Sprintf("%d times", n)
}

// Explain says what the line at f could come from, what chance would explain least often
// first; of each family the nearest place. Empty where nothing fits.
func (s *Scene) Explain(f units.Hertz) []Origin {
	out := []Origin{}
	for kind, places := range s.families() {
		best := -1
		for i, p := range places {
			if off(f, p.f) <= s.Within && (best < 0 || off(f, p.f) < off(f, places[best].f)) {
				best = i
			}
		}
		if best >= 0 {
			at := make([]units.Hertz, len(places))
			for i, p := range places {
				at[i] = p.f
			}
			out = append(out, Origin{kind, places[best].what, float64(off(f, places[best].f)), len(places), s.byChance(at, s.Within)})
		}
	}
	if t, ok := s.twin(f); ok {
		out = append(out, t)
	}
	slices.SortFunc(out, func(a, b Origin) int { return cmp.Or(cmp.Compare(a.ByChance, b.ByChance), cmp.Compare(a.Kind, b.Kind)) })
	return out
}

// twin finds another line as far on the other side of a multiple of the carrier.
func (s *Scene) twin(f units.Hertz) (Origin, bool) {
	var mirrors []units.Hertz
	var best *Origin
	for n := 1; n <= twinMultiples; n++ {
		middle := units.Hertz(n) * s.Carrier
		for _, o := range s.Lines {
			if off(o, f) <= s.Within {
				continue // itself
			}
			at := 2*middle - o
			if !s.Examined.Contains(at) {
				continue
			}
			mirrors = append(mirrors, at)
			if d := off(f, at); d <= 2*s.Within && (best == nil || float64(d) < best.OffHz) {
				apart := units.Hertz(math.Round(float64(off(f, middle)+off(o, middle))/2/1e3) * 1e3)
				best = &Origin{Kind: Twin, Detail: fmt.Sprintf("%s beside %s the carrier, as %s is on its other side: both mix with something of %s", apart, times(n), o, apart), OffHz: float64(d)}
			}
		}
	}
	if best == nil {
		return Origin{}, false
	}
	best.Places, best.ByChance = len(mirrors), s.byChance(mirrors, 2*s.Within)
	return *best, true
}

// byChance is how many of the lines would fall on the places if they lay anywhere.
func (s *Scene) byChance(places []units.Hertz, within units.Hertz) float64 {
	var covered, examined units.Hertz
	var windows span.Set
	for _, p := range places {
		windows = append(windows, span.Of(p-within, p+within))
	}
	for _, w := range windows.Merge().Meet(s.Examined) {
		covered += w.Hi - w.Lo
	}
	for _, e := range s.Examined {
		examined += e.Hi - e.Lo
	}
	if !(examined > 0) {
		return 0
	}
	return float64(len(s.Lines)) * float64(covered/examined)
}

func off(a, b units.Hertz) units.Hertz { return units.Hertz(math.Abs(float64(a - b))) }
