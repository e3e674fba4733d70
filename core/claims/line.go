package claims

import (
	"slices"
	"strings"

	"talloak/core/bands"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// group is one run of powers in a line: 25/10/5 with its mode, or levels with names.
type group struct {
	names      []string // own names; empty where they have the usual ones
	watts      []float64
	absent     []bool
	mode       rulebook.Mode
	pep        bool
	unit       bool // one of the powers has a unit
	adjustable bool
	text       string // of its first power, for refusals
}

// segment is what a line says of some bands.
type segment struct {
	bands   []bands.Band // none where it is said of every band
	names   []string     // of the bands, as typed
	joined  bool         // two of them by a stroke, a comma or and
	groups  []*group
	pending rulebook.Mode
	before  bool // its power stood before its bands
	comma   bool // its last power stands behind a comma
}

// wordError is a refusal that knows its word.
type wordError struct {
	error
	word string
}

func (e wordError) Unwrap() error { return e.error }

func refuse(word, format string, args ...any) error {
	return wordError{problem.New("text", format, args...), word}
}

// WordOf is the word of a claim line that an error of ParseLine is about; empty where it is
// about the whole.
func WordOf(err error) string {
	if e, ok := err.(wordError); ok {
		return e.word
	}
	return ""
}

// line is a claim of power as it was read.
type line struct {
	segments []*segment
	remark   string
}

// ParseLine reads a claim of power as a person says it: a band, then powers from the highest
// level down, or a power and then its band; with mode words before or behind, and pep beside
// the power it is meant of: `2m 25W 10W 5W`, `5W VHF, 4W UHF`, `2m: 50W, 70cm: 40W`, `10m AM 12
// pep 35 SSB`. Without a mode a band below 29.5 MHz has SSB where PEP or SSB is claimed, else
// none is said; others have FM. Several bands in a row share their powers; powers without a
// band, `5W/2W`, are claimed of every band. `2m 1-12` is set by a knob; `2m high 25 mid 10 eco
// 2.5` has levels with names of their own; `70cm 5/-/1` lacks one. A group of channels follows
// its service: `GMRS main 20/5, interstitial 5, 467 0.5`. Where nothing is claimed, `2m ?/?`
// names two levels and `2m` alone one; `350.5` is a frequency of its own, `136-174 5W` a stretch.
//
// What can be read in two ways is refused with both said. The error is a *problem.Error on the
// field "text"; WordOf says which word it is about.
func ParseLine(text string, r bands.Region) ([]Power, error) {
	l, err := readLine(text, r)
	if err != nil {
		return nil, err
	}
	var out []Power
	for _, s := range l.segments {
		for _, b := range s.claimedOf() {
			if b.IsPlace() {
				if b, err = s.bandOf(b, r); err != nil {
					return nil, err
				}
			}
			for _, g := range s.groups {
				for _, p := range g.powers() {
					p.Band, p.Mode = b.Name, l.modeOf(g, b)
					out = append(out, p)
				}
			}
		}
	}
	return out, nil
}

// claimedOf are the bands of a segment; one without a name stands for every band.
func (s *segment) claimedOf() []bands.Band {
	if len(s.bands) == 0 {
		return []bands.Band{{}}
	}
	return s.bands
}

// bandOf is the band that a frequency of its own lies in, to hold what is claimed there
// against; outside every band nothing is.
func (s *segment) bandOf(place bands.Band, r bands.Region) (bands.Band, error) {
	if at := bands.At(place.FromHz, r); len(at) > 0 {
		return at[0], nil
	}
	if slices.ContainsFunc(s.groups, func(g *group) bool { return slices.ContainsFunc(g.watts, func(w float64) bool { return w > 0 }) }) {
		return place, refuse(place.Name, "%s lies in no band, so no claim of a power is held against it: type the frequency alone, and its readings stand by themselves", place.Name)
	}
	return place, nil
}

// belowSSB is the frequency below which a band is not taken for FM where nobody said so.
const belowSSB units.Hertz = 29.5e6

// modeOf is the mode of a group on a band, empty where it is not said.
func (l *line) modeOf(g *group, b bands.Band) rulebook.Mode {
	switch {
	case g.mode != "":
		return g.mode
	case b.FromHz == 0 || b.FromHz >= belowSSB:
		return rulebook.FM
	case g.pep || l.claims(rulebook.SSB):
		return rulebook.SSB
	}
	return ""
}

func (l *line) claims(m rulebook.Mode) bool {
	return slices.ContainsFunc(l.segments, func(s *segment) bool {
		return s.pending == m || slices.ContainsFunc(s.groups, func(g *group) bool { return g.mode == m })
	})
}

// powers are those of a group under the names of their levels. A knob has both its ends.
func (g *group) powers() []Power {
	var out []Power
	for i, w := range g.watts {
		if g.absent[i] {
			continue
		}
		name := LevelName(i, len(g.watts))
		if len(g.names) > 0 {
			name = g.names[i]
		}
		out = append(out, Power{Level: name, W: w, PEP: g.pep, Adjustable: g.adjustable})
	}
	return out
}

func readLine(text string, r bands.Region) (*line, error) {
	words, remark, err := split(text)
	if err != nil {
		return nil, err
	}
	if len(words) == 0 {
		return nil, problem.New("text", "type a band and its powers, such as 2m 25/10/5")
	}
	p := lineParser{region: r, words: words}
	for p.at < len(p.words) && err == nil {
		err = p.next()
	}
	if err == nil {
		err = p.finish()
	}
	return &line{p.segments, remark}, err
}

// what the parser took last.
type item int

const (
	nothing item = iota
	aBand
	aPower
	aMode // of the power before it, or to come
	aPEP
	aName
)

type lineParser struct {
	region   bands.Region
	words    []word
	at       int
	segments []*segment
	last     item
	comma    bool   // between the last word and this one
	parent   string // the service whose groups may follow
	name     string // of the level whose power follows
	nameAt   string
	pep      bool // said of the power before it, or of the one behind
	pepOf    *group
	between  [][2]*group // pep stands between both
}

func (p *lineParser) now() *segment {
	if len(p.segments) == 0 {
		p.segments = append(p.segments, &segment{})
	}
	return p.segments[len(p.segments)-1]
}

// took goes on behind n words.
func (p *lineParser) took(n int, what item) {
	p.comma = p.words[p.at+n-1].comma
	p.at, p.last = p.at+n, what
}

func (p *lineParser) next() error {
	w := p.words[p.at].text
	lower := strings.ToLower(w)
	if p.name == "" {
		if took, err := p.band(); took || err != nil {
			return err
		}
	}
	mode, isMode := modes[lower]
	switch {
	case strings.Contains(w, "/") && powersIn(w):
		return p.series(w)
	case w == noClaim, w == absent && p.last == aPower:
		return p.series(w)
	case lower == "pep":
		return p.peak()
	case isMode:
		return p.mode(mode)
	case span2.MatchString(w):
		return p.knob(w)
	}
	if f, ok := figureIn(w); ok && f.isPower() {
		return p.power(w, []figure{f})
	}
	if level := LevelNamed(w); level != "" && p.name == "" {
		if s := p.now(); p.last == aPower && !p.comma && len(s.groups[len(s.groups)-1].names) == 0 {
			return refuse(w, "%q may name the power before it or the one behind: type each level before its power", w)
		}
		p.name, p.nameAt = level, w
		p.took(1, aName)
		return nil
	}
	return p.unknown(w)
}

func (p *lineParser) unknown(w string) error {
	switch {
	case strings.Contains(w, "/"):
		return refuse(w, "%q is not understood: type each with its power", w)
	case len(p.segments) == 0 || p.comma:
		if known(w) {
			return refuse(w, "%q is no band in ITU region %d; set the region with the unit, or type another band", w, regionOf(p.region))
		}
		if groups := bands.Groups(p.parent); len(groups) > 0 {
			return refuse(w, "%q is no group of channels of %s; they are %s", w, p.parent, strings.Join(groups, ", "))
		}
		return refuse(w, "%q is no band known here; known are %s, and any frequency in MHz", w, strings.Join(bands.Names(), ", "))
	}
	return refuse(w, "%q is not understood; bands, powers, ? for none claimed, - for a level that is not there, high, mid, low, eco, turbo, xl and p1 to p9 before their power, FM AM SSB CW DIGITAL and pep are", w)
}

// mode belongs to the power before it that has none, else to the next.
func (p *lineParser) mode(m rulebook.Mode) error {
	s, w := p.now(), p.words[p.at].text
	switch {
	case p.name != "":
		return p.unknown(p.nameAt)
	case (p.last == aPower || p.last == aPEP) && len(s.groups) > 0 && s.groups[len(s.groups)-1].mode == "":
		s.groups[len(s.groups)-1].mode = m
	case s.pending != "":
		return refuse(w, "%s and %s: type each with its power", s.pending, w)
	default:
		if s.before { // a power before its band is whole
			s = &segment{}
			p.segments = append(p.segments, s)
		}
		s.pending = m
	}
	p.took(1, aMode)
	return nil
}

// peak says that a power it touches is a peak envelope power.
func (p *lineParser) peak() error {
	if p.pep || p.name != "" {
		return p.unknown(p.words[p.at].text)
	}
	s := p.now()
	p.pep, p.pepOf = true, nil
	if (p.last == aPower || p.last == aMode && s.pending == "") && len(s.groups) > 0 {
		p.pepOf = s.groups[len(s.groups)-1]
	}
	mode := p.last == aMode
	p.took(1, aPEP)
	if mode {
		p.last = aMode
	}
	return nil
}

// settlePEP gives the word to the power before it, where no other touches it.
func (p *lineParser) settlePEP(next *group) error {
	if !p.pep {
		return nil
	}
	switch {
	case p.pepOf != nil && next != nil:
		p.between = append(p.between, [2]*group{p.pepOf, next})
	case p.pepOf != nil:
		p.pepOf.pep = true
	case next != nil:
		next.pep = true
	default:
		return refuse("pep", "pep needs a power beside it, such as pep 35")
	}
	p.pep, p.pepOf = false, nil
	return nil
}

func (p *lineParser) finish() error {
	if p.name != "" {
		return p.unknown(p.nameAt)
	}
	if err := p.settlePEP(nil); err != nil {
		return err
	}
	for _, pair := range p.between {
		if err := ofTwo(pair[0], pair[1]); err != nil {
			return err
		}
	}
	for i, s := range p.segments {
		if err := p.check(i, s); err != nil {
			return err
		}
	}
	return p.twice()
}

// ofTwo decides whose pep is that stands between two powers: that of SSB, or not that of a
// carrier.
func ofTwo(a, b *group) error {
	carrier := func(g *group) bool { return g.mode == rulebook.AM || g.mode == rulebook.FM }
	switch {
	case a.mode == rulebook.SSB && b.mode != rulebook.SSB, carrier(b) && !carrier(a):
		a.pep = true
	case b.mode == rulebook.SSB && a.mode != rulebook.SSB, carrier(a) && !carrier(b):
		b.pep = true
	default:
		return refuse("pep", "pep between %s and %s may be of either: say it right beside one, with its mode", a.text, b.text)
	}
	return nil
}

// check completes a segment and refuses what could be meant otherwise.
func (p *lineParser) check(i int, s *segment) error {
	if len(s.groups) == 0 {
		if i > 0 && len(s.names) > 0 {
			if b := p.segments[i-1]; !b.before && (b.comma || len(b.bands) == 0) {
				of := cmpOr(strings.Join(b.names, " "), "every band")
				return refuse(s.names[0], "%s may be of %s or of %s: type each band before its powers", b.groups[len(b.groups)-1].text, of, s.names[0])
			}
		}
		s.groups = []*group{{watts: []float64{0}, absent: []bool{false}, mode: s.pending}}
		s.pending = ""
	}
	if s.pending != "" {
		return refuse(string(s.pending), "%s has no power: type it beside its power", s.pending)
	}
	for _, g := range s.groups {
		if len(s.bands) == 0 && !g.unit {
			return p.alone(g)
		}
		if n := len(g.watts); s.joined && len(g.names) == 0 && n > 1 && n == len(s.bands) {
			return refuse(g.text, "%d bands and %d powers: one for each band, or the levels of all of them? Type each band before its powers", n, n)
		}
	}
	return nil
}

// alone is a number with nothing beside it: a power or a frequency.
func (p *lineParser) alone(g *group) error {
	w := g.text
	if f, err := units.ParseNumber(w); err == nil {
		for _, b := range bands.At(units.Hertz(f*1e6), p.region) {
			return refuse(w, "%s MHz lies in %s: type %s, and dial the frequency when you measure (f %s)", w, b.Name, b.Name, w)
		}
	}
	return refuse(w, "%s alone may be a power or a frequency: type %sW for a power of every band, or %s MHz for a frequency", w, w, w)
}

// twice refuses a second power of one band, level and mode.
func (p *lineParser) twice() error {
	type key struct {
		band, level string
		mode        rulebook.Mode
	}
	l := line{segments: p.segments}
	seen := map[key]bool{}
	for _, s := range p.segments {
		for _, b := range s.claimedOf() {
			for _, g := range s.groups {
				for _, q := range g.powers() {
					k := key{b.Name, q.Level, l.modeOf(g, b)}
					if seen[k] {
						return refuse(g.text, "%s is a second power of %s at one level and in one mode: which is claimed?", g.text, cmpOr(b.Name, "every band"))
					}
					seen[k] = true
				}
			}
		}
	}
	return nil
}

func cmpOr(a, b string) string {
	if a == "" {
		return b
	}
	return a
}
