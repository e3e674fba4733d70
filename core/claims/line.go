package claims

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"talloak/core/bands"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Power is one claimed power: of a band, a level, a mode. PEP says that the
// peak envelope power is claimed; otherwise it is carrier or mean power. W is 0
// where the level is there but nothing is claimed for it. Band is empty where the power
// is claimed of every band. Adjustable is one end of a range that is set by a knob.
type Power struct {
	Band       string        `json:"band"`
	Level      string        `json:"level"`
	Mode       rulebook.Mode `json:"mode"`
	W          float64       `json:"w"`
	PEP        bool          `json:"pep"`
	Adjustable bool          `json:"adjustable,omitempty"`
}

// levelNames are the levels of a radio that has so many of them.
var levelNames = map[int][]string{
	1: {"High"},
	2: {"High", "Low"},
	3: {"High", "Mid", "Low"},
	4: {"High", "Mid", "Low", "Lowest"},
}

// mostLevels is how many levels a line may name without names of their own.
const mostLevels = 9

// LevelName is what level i of n is called, the highest first, where nobody named it: from
// five on by the number it would have on a knob, P1 the lowest.
func LevelName(i, n int) string {
	if names := levelNames[n]; i < len(names) {
		return names[i]
	}
	return fmt.Sprintf("P%d", n-i)
}

// The ends of a power that is set by a knob.
const (
	fullName  = "Full"
	leastName = "Least"
)

// ownNames are what levels are called in other ways, each with its usual name.
var ownNames = map[string]string{"h": "High", "hi": "High", "high": "High", "m": "Mid", "med": "Mid", "medium": "Mid", "mid": "Mid", "l": "Low", "lo": "Low", "low": "Low", "xl": "XL", "t": "Turbo", "e": "Eco"}

var (
	powerPart     = regexp.MustCompile(`^[0-9.,]+(?i:mw|w)?$`)
	rangeWord     = regexp.MustCompile(`^([0-9.,]+)-([0-9.,]+)(?i:w)?$`)
	anyDigit      = regexp.MustCompile(`[0-9]`)
	frequencyUnit = regexp.MustCompile(`^(?i:[kmg]hz)$`)
	wavelength    = regexp.MustCompile(`^[0-9.]+(?i:m|cm)$`)
	letterWord    = regexp.MustCompile(`^[a-zA-Z]{1,12}$`)
)

// noClaim stands for the power of a level that nothing is claimed for, absent for a level
// that the band has not.
const (
	noClaim = "?"
	absent  = "-"
)

// group is one run of powers in a line: 25/10/5 with its mode, or one level with a name.
type group struct {
	names      []string // own names; empty where they have the usual ones
	watts      []float64
	absent     []bool
	mode       rulebook.Mode
	pep        bool
	adjustable bool
}

// segment is what a line says of some bands.
type segment struct {
	bands   []bands.Band // none where it is said of every band
	groups  []group
	pending rulebook.Mode
}

// ParseLine reads a claim as a person types it: a band, then powers from the
// highest level down in watts, with mode words before or behind and pep before:
// `2m 25/10/5`, `2m 5/2/1 70cm 4/2/1`, `10m AM 12 pep 35 SSB`. Without a mode it is FM.
// Several bands in a row share their powers; powers without a band, `5W/2W`, are claimed of
// every band. `2m 1-12` is set by a knob; `2m high 25 mid 10 eco 2.5` has levels with names
// of their own; `70cm 5/-/1` lacks one. A group of channels follows its service: `GMRS main
// 20/5, interstitial 5, 467 0.5`. Where nothing is claimed, `2m ?/?` names two levels and
// `2m` alone one; `350.5` is a frequency of its own.
//
// The error is a *problem.Error on the field "text"; WordOf says which word it is about.
func ParseLine(text string, r bands.Region) ([]Power, error) {
	p := lineParser{region: r}
	for word := range strings.FieldsSeq(text) {
		bare := strings.TrimRight(word, ",;")
		n := len(p.words) - 1
		switch {
		case bare == "":
		case n >= 0 && !p.words[n].ends && frequencyUnit.MatchString(bare) && powerPart.MatchString(p.words[n].text):
			p.words[n] = lineWord{p.words[n].text + bare, len(bare) < len(word)} // 25 MHz
		default:
			p.words = append(p.words, lineWord{bare, len(bare) < len(word)})
		}
	}
	if len(p.words) == 0 {
		return nil, problem.New("text", "type a band and its powers, such as 2m 25/10/5")
	}
	if err := p.read(); err != nil {
		return nil, err
	}
	var out []Power
	for _, s := range p.segments {
		if len(s.groups) == 0 {
			s.groups = []group{{watts: []float64{0}, absent: []bool{false}, mode: s.pending}}
		}
		names := []bands.Band{{}}
		if len(s.bands) > 0 {
			names = s.bands
		}
		for _, b := range names {
			if b.IsPlace() && slices.ContainsFunc(s.groups, func(g group) bool { return slices.ContainsFunc(g.watts, func(w float64) bool { return w > 0 }) }) {
				return nil, refuse(b.Name, "%s lies in no band, so no claim of a power is held against it: type the frequency alone, and its readings stand by themselves", b.Name)
			}
			for _, g := range s.groups {
				out = append(out, g.powers(b.Name)...)
			}
		}
	}
	return out, nil
}

func (g group) powers(band string) []Power {
	if g.mode == "" {
		g.mode = rulebook.FM
	}
	var out []Power
	for i, w := range g.watts {
		if g.absent[i] {
			continue
		}
		name := LevelName(i, len(g.watts))
		if len(g.names) > 0 {
			name = g.names[i]
		}
		out = append(out, Power{band, name, g.mode, w, g.pep, g.adjustable})
	}
	return out
}

type lineWord struct {
	text string
	ends bool // a comma stands behind it
}

type lineParser struct {
	region   bands.Region
	words    []lineWord
	at       int
	segments []segment
	parent   string // the service whose groups may follow
	pep      bool
	name     string // of the level whose power follows
	nameAt   string
	own      bool // the last group is of named levels, and more may follow
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

func (p *lineParser) now() *segment {
	if len(p.segments) == 0 {
		p.segments = append(p.segments, segment{})
	}
	return &p.segments[len(p.segments)-1]
}

func (p *lineParser) read() error {
	first := true // of the line, or behind a comma
	for p.at = 0; p.at < len(p.words); p.at++ {
		w := p.words[p.at]
		took, err := p.place(w.text, first)
		if err == nil && !took {
			err = p.word(w.text, first)
		}
		if err != nil {
			return err
		}
		first = p.words[p.at].ends
	}
	switch {
	case p.pep:
		return refuse("pep", "pep needs a power behind it, such as pep 35")
	case p.name != "":
		return p.unknown(p.nameAt)
	}
	return nil
}

// place reads a band, a group of its channels or a frequency of its own.
func (p *lineParser) place(word string, first bool) (bool, error) {
	if p.at+1 < len(p.words) && !p.words[p.at].ends {
		if b, ok := bands.Find(word+" "+p.words[p.at+1].text, p.region); ok && len(bands.Groups(word)) > 0 {
			p.at++
			return true, p.begin(b, strings.Fields(b.Name)[0])
		}
	}
	if first && p.parent != "" {
		if b, ok := bands.Find(p.parent+" "+word, p.region); ok {
			return true, p.begin(b, p.parent)
		}
	}
	b, ok := bands.Find(word, p.region)
	switch {
	case ok && b.IsPlace() && !first: // 0.5 behind a band is a power
		return false, nil
	case ok:
		return true, p.begin(b, b.Name)
	case first && p.at == 0 && len(p.words) == 1 && powerPart.MatchString(word):
		return true, p.alone(word)
	case first && p.at == 0 && wavelength.MatchString(word):
		return true, p.unknownBand(word)
	case first && p.at == 0 && !anyDigit.MatchString(word) && ownNames[strings.ToLower(word)] == "" && !rulebook.Mode(strings.ToUpper(word)).Known() && !strings.EqualFold(word, "pep"):
		return true, p.unknownBand(word)
	case first && p.at == 0 && !strings.HasPrefix(word, noClaim) && !powerWords(word) && !rangeWord.MatchString(word):
		if known(word) {
			return true, refuse(word, "%q is no band in ITU region %d; set the region with the unit, or type another band", word, regionOf(p.region))
		}
		return false, nil
	}
	return false, nil
}

func regionOf(r bands.Region) int {
	if r == 0 {
		return int(bands.Region2)
	}
	return int(r)
}

// known tells whether the word is a band anywhere.
func known(word string) bool {
	for _, r := range []bands.Region{bands.Region1, bands.Region2, bands.Region3} {
		if b, ok := bands.Find(word, r); ok && !b.IsPlace() {
			return true
		}
	}
	return false
}

func (p *lineParser) unknownBand(word string) error {
	if known(word) {
		return refuse(word, "%q is no band in ITU region %d; set the region with the unit, or type another band", word, regionOf(p.region))
	}
	return refuse(word, "%q is no band known here; known are %s, and any frequency in MHz", word, strings.Join(bands.Names(), ", "))
}

// alone is a number with nothing beside it: a power or a frequency.
func (p *lineParser) alone(word string) error {
	if strings.HasSuffix(strings.ToLower(word), "w") {
		return p.word(word, true)
	}
	if f, err := units.ParseNumber(word); err == nil {
		for _, b := range bands.At(units.Hertz(f*1e6), p.region) {
			return refuse(word, "%s MHz lies in %s: type %s, and dial the frequency when you measure (f %s)", word, b.Name, b.Name, word)
		}
	}
	return refuse(word, "%s alone may be a power or a frequency: type %sW for a power of every band, or %s MHz for a frequency", word, word, word)
}

func (p *lineParser) begin(b bands.Band, parent string) error {
	if p.pep || p.name != "" {
		return p.unknown(p.words[p.at].text)
	}
	p.parent, p.own = parent, false
	if n := len(p.segments); n > 0 && len(p.segments[n-1].groups) == 0 && p.segments[n-1].pending == "" && len(p.segments[n-1].bands) > 0 {
		p.segments[n-1].bands = append(p.segments[n-1].bands, b) // bands in a row share their powers
		return nil
	}
	p.segments = append(p.segments, segment{bands: []bands.Band{b}})
	return nil
}

func (p *lineParser) word(word string, first bool) error {
	s := p.now()
	last := len(s.groups) - 1
	mode := rulebook.Mode(strings.ToUpper(word))
	switch {
	case strings.EqualFold(word, "pep"):
		p.pep = true
	case strings.EqualFold(word, "w"), strings.EqualFold(word, "watt"), strings.EqualFold(word, "watts"):
	case mode.Known() && s.pending == "" && last >= 0 && s.groups[last].mode == "":
		s.groups[last].mode = mode
	case mode.Known():
		s.pending, p.own = mode, false
	case rangeWord.MatchString(word):
		return p.knob(word)
	case powerWords(word):
		return p.powers(word)
	case letterWord.MatchString(word) && first && ownNames[strings.ToLower(word)] == "" && len(bands.Groups(p.parent)) > 0:
		return refuse(word, "%q is no group of channels of %s; they are %s", word, p.parent, strings.Join(bands.Groups(p.parent), ", "))
	case letterWord.MatchString(word) && p.name == "":
		p.name, p.nameAt = word, word
		if usual := ownNames[strings.ToLower(word)]; usual != "" {
			p.name = usual
		} else {
			first, n := utf8.DecodeRuneInString(word)
			p.name = string(unicode.ToUpper(first)) + strings.ToLower(word[n:])
		}
	default:
		return p.unknown(word)
	}
	return nil
}

func (p *lineParser) unknown(word string) error {
	return refuse(word, "%q is not understood; bands, powers, ? for none claimed, - for a level that is not there, names of levels before their power, FM AM SSB CW DIGITAL and pep are", word)
}

// powerWords tells whether a word is powers: 25/10/5, 5W/2W, ?/?, 5/-/1.
func powerWords(word string) bool {
	for part := range strings.SplitSeq(word, "/") {
		if part != noClaim && part != absent && !powerPart.MatchString(part) {
			return false
		}
	}
	return word != absent
}

func (p *lineParser) powers(word string) error {
	g := group{pep: p.pep}
	for part := range strings.SplitSeq(word, "/") {
		w := 0.0
		if part != noClaim && part != absent {
			var err error
			if w, err = watts(part); err != nil {
				return refuse(part, "%s", err.Error())
			}
		}
		g.watts, g.absent = append(g.watts, w), append(g.absent, part == absent)
	}
	if len(g.watts) > mostLevels {
		return refuse(word, "%d levels; without names of their own at most %d are known", len(g.watts), mostLevels)
	}
	s := p.now()
	switch {
	case p.name != "" && len(g.watts) > 1:
		return refuse(word, "%q is one level; give it one power", p.nameAt)
	case p.name != "":
		g.names = []string{p.name}
		if p.own {
			p.addNamed(s, g)
			p.name, p.pep = "", false
			return nil
		}
	default:
		above := 0.0
		for i, w := range g.watts {
			if w > 0 && above > 0 && w >= above {
				return refuse(strings.Split(word, "/")[i], "%g W follows %g W; type the levels from the highest down", w, above)
			}
			if w > 0 {
				above = w
			}
		}
	}
	g.mode, s.pending = s.pending, ""
	s.groups = append(s.groups, g)
	p.own, p.name, p.pep = p.name != "", "", false
	return nil
}

// addNamed puts a named level among those before it, from the highest down.
func (p *lineParser) addNamed(s *segment, g group) {
	l := &s.groups[len(s.groups)-1]
	at := len(l.watts)
	for at > 0 && l.watts[at-1] < g.watts[0] && g.watts[0] > 0 {
		at--
	}
	l.names = slices.Insert(l.names, at, g.names[0])
	l.watts, l.absent = slices.Insert(l.watts, at, g.watts[0]), slices.Insert(l.absent, at, false)
}

// knob reads a power that is set between two ends.
func (p *lineParser) knob(word string) error {
	ends := rangeWord.FindStringSubmatch(word)
	low, err := watts(ends[1])
	if err != nil {
		return refuse(word, "%s", err.Error())
	}
	high, err := watts(ends[2])
	if err != nil {
		return refuse(word, "%s", err.Error())
	}
	if high <= low {
		return refuse(word, "the range of a knob rises: type it as %s-%s", ends[2], ends[1])
	}
	if p.name != "" {
		return p.unknown(p.nameAt)
	}
	s := p.now()
	s.groups = append(s.groups, group{names: []string{fullName, leastName}, watts: []float64{high, low}, absent: []bool{false, false}, mode: s.pending, pep: p.pep, adjustable: true})
	s.pending, p.pep, p.own = "", false, false
	return nil
}

// watts reads one power: 5, 0,5, 5W, 500mW.
func watts(part string) (float64, error) {
	number, scale := part, 1.0
	lower := strings.ToLower(part)
	if cut, is := strings.CutSuffix(lower, "mw"); is {
		if part[len(cut)] != 'm' {
			return 0, fmt.Errorf("%q may be megawatts or milliwatts: type mW", part)
		}
		number, scale = cut, 1e-3
	} else if cut, is := strings.CutSuffix(lower, "w"); is {
		number = cut
	}
	w, err := units.ParseNumber(number)
	if err != nil {
		return 0, err
	}
	if w *= scale; !(w > 0) || w > 1e5 {
		return 0, fmt.Errorf("%g W is no power to claim", w)
	}
	return w, nil
}
