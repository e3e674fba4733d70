package looks

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"talloak/core/problem"
	"talloak/core/units"
)

// Typed is a look as it was typed, in the order it was said. What it does not say is nil.
type Typed struct {
	FromHz   *float64 `json:"from_hz"`
	ToHz     *float64 `json:"to_hz"`
	FloorDBm *float64 `json:"floor_dbm"`
	Peaks    []Peak   `json:"peaks"`
}

// Peak is a peak by its frequency or its order, in dBm or in dBc. StepDB is what it was
// read to, by the decimals typed. The carrier, as h, has its frequency and no order.
type Peak struct {
	FrequencyHz *float64 `json:"frequency_hz"`
	Order       *int     `json:"order"`
	LevelDBm    *float64 `json:"level_dbm"`
	DBc         *float64 `json:"dbc"`
	StepDB      float64  `json:"step_db"`
}

// Multiple is the multiple of the carrier it lies at, where it has no frequency.
func (t *Peak) Multiple() int {
	if t.Order == nil {
		return 1
	}
	return *t.Order
}

var (
	lookRange  = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)(?i:(mhz|ghz))?-(\d+(?:[.,]\d+)?)(?i:(mhz|ghz))?$`)
	lookLevel  = regexp.MustCompile(`^[+-]?(?:\d+(?:[.,]\d+)?|[.,]\d+)(?i:c|dbc|dbm)?$`)
	lookSigned = regexp.MustCompile(`^(?:[+-].*|0(?:[.,]0+)?(?i:dbm)?)$|(?i:(dbm|c)$)`) // a level that can be no frequency
	lookSeries = regexp.MustCompile(`^(?i:h)((?:[+-]?\d+(?:[.,]\d+)?(?i:c)?|\?)(?:[+-]\d+(?:[.,]\d+)?(?i:c)?|\?)*)(?i:dbm)?$`)
	lookFigure = regexp.MustCompile(`[+-]?\d+(?:[.,]\d+)?(?i:c)?|\?`)
	lookGlued  = regexp.MustCompile(`^(\d+(?:[.,]\d+)?(?i:h|f|mhz|ghz|st|nd|rd|th)?|(?i:h)\d+)([+-]\d+(?:[.,]\d+)?(?i:c|dbc|dbm)?)$`)
	lookPlace  = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)(?i:(h|f|st|nd|rd|th)|(mhz)|(ghz))?$`)
	lookOrder  = regexp.MustCompile(`^(?i:h)(\d+)$`)
	lookUnit   = regexp.MustCompile(`(\d)\s+(?i:(dbm|dbc|mhz|ghz)\b)`) // belongs to the figure before it
	lookFloor  = regexp.MustCompile(`(?i:\b(floor|above))-`)
	lookTo     = regexp.MustCompile(`(?i:(\d|mhz|ghz)\s*(?:\bto\b|\.\.)\s*(\d))`)
)

// lookWords are the words of a look, units joined to their figures, dashes as typed.
func lookWords(text string) []string {
	text = strings.NewReplacer(";", " ", ", ", " ", "\u2212", "-", "\u2013", "-").Replace(text + " ")
	text = lookFloor.ReplaceAllString(text, "$1 -")
	return strings.Fields(lookTo.ReplaceAllString(lookUnit.ReplaceAllString(text, "$1$2"), "$1-$2"))
}

// mostMultiple is the highest multiple of a carrier that is read by its number; mostBare the
// highest that is where a bare number, with a level in dBc, can mean one.
const (
	mostMultiple = 20
	mostBare     = 10
)

// Read reads a look as one reads it aloud: `30-1000 floor -70`, or a range with a level
// behind it, `30-1000 -70`, or `nothing above -70`; then the peaks, each a place and a level:
// `146.5 -7.4`, `205-66`, `462.6 1`; `2h -62`, `h2 -62`, `2nd -62` or `2f -62` for a multiple of the
// carrier, `h -7.4` or `h1.7` for itself, `2 -55c` in dBc, which are below the carrier whatever
// their sign; `h-7.4-62-71` is the carrier and its harmonics in their order, `?` for one that
// was not read. Frequencies are in MHz, levels in dBm as displayed. The error is a
// *problem.Error on the field given and names the word.
func Read(field, text string, f0 units.Hertz) (Typed, error) {
	p := lookParser{field: field, f0: f0, words: lookWords(text), out: Typed{Peaks: []Peak{}}}
	for p.at = 0; p.at < len(p.words); p.at++ {
		if err := p.next(); err != nil {
			return Typed{}, err
		}
	}
	switch {
	case p.place != "":
		return Typed{}, p.refuse(p.place, "needs its level behind it, such as %s -62", p.place)
	case p.floor:
		return Typed{}, problem.New(field, "give the level of the floor behind it, such as floor -70")
	case len(p.words) == 0:
		return Typed{}, problem.New(field, "give the range looked at first, in MHz, its floor and the peaks: 30-1000 floor -70 2h -62")
	}
	return p.out, nil
}

type lookParser struct {
	field string
	f0    units.Hertz
	words []string
	at    int
	out   Typed
	floor bool   // the level that follows is the floor
	after bool   // nothing but the range has been read
	place string // the peak whose level follows
}

func (p *lookParser) refuse(word, format string, args ...any) error {
	return problem.New(p.field, "%q "+format, append([]any{word}, args...)...)
}

func (p *lookParser) next() error {
	word := p.words[p.at]
	switch {
	case strings.EqualFold(word, "floor"), strings.EqualFold(word, "nothing"), strings.EqualFold(word, "above"):
		if p.place != "" {
			return p.refuse(p.place, "needs its level behind it, such as %s -62", p.place)
		}
		p.floor = true
		return nil
	case p.floor && !(lookLevel.MatchString(word) && lookSigned.MatchString(word)):
		return p.refuse(word, "is no floor: give its level with the sign, such as floor -70")
	case p.place != "" && lookLevel.MatchString(word):
		return p.level(word)
	case p.place == "" && p.out.FromHz == nil && p.isRange(word):
		return p.stretch(word)
	case p.place == "" && strings.EqualFold(word, "h"), p.place == "" && p.names(word):
		p.place, p.after = word, false
		return nil
	case p.place == "" && lookSeries.MatchString(word):
		return p.series(word)
	case p.place == "" && lookLevel.MatchString(word) && lookSigned.MatchString(word):
		return p.level(word)
	case p.place == "" && lookPlace.MatchString(word):
		p.place, p.after = word, false
		return nil
	case p.place == "" && lookGlued.MatchString(word):
		parts := lookGlued.FindStringSubmatch(word)
		p.place, p.after = parts[1], false
		return p.level(parts[2])
	}
	return p.refuse(word, "is not understood; a range 30-1000, floor -70, a peak 146.5 -7.4, a harmonic 2h -62 or 2 -55c, and h-7.4-62-71 are")
}

// names tells that a word is a multiple of the carrier behind its letter: h2. A level of the
// carrier is behind it too, h36: no radio has so many harmonics.
func (p *lookParser) names(word string) bool {
	m := lookOrder.FindStringSubmatch(word)
	if m == nil {
		return false
	}
	n, err := strconv.Atoi(m[1])
	return err == nil && n >= 1 && n <= mostMultiple
}

// isRange tells a range from a place with its level written to it: it rises.
func (p *lookParser) isRange(word string) bool {
	ends := lookRange.FindStringSubmatch(word)
	if ends == nil {
		return false
	}
	lo, hi := p.ends(ends)
	return hi > lo || ends[4] != ""
}

func (p *lookParser) ends(ends []string) (lo, hi float64) {
	lo, errLo := units.ParseNumber(ends[1])
	hi, errHi := units.ParseNumber(ends[3])
	if strings.EqualFold(cmp.Or(ends[2], ends[4]), "ghz") {
		lo *= 1e3
	}
	if strings.EqualFold(ends[4], "ghz") {
		hi *= 1e3
	}
	if errLo != nil || errHi != nil {
		return math.NaN(), math.NaN()
	}
	return lo, hi
}

func (p *lookParser) stretch(word string) error {
	lo, hi := p.ends(lookRange.FindStringSubmatch(word))
	if !(hi > lo) || hi > 1e6 {
		return p.refuse(word, "is no range: give it in MHz from its lower end, such as 30-1000")
	}
	lo, hi = lo*1e6, hi*1e6
	p.out.FromHz, p.out.ToHz, p.after = &lo, &hi, true
	return nil
}

// series reads the carrier's and its harmonics' levels in their order.
func (p *lookParser) series(word string) error {
	for i, figure := range lookFigure.FindAllString(word[1:], -1) {
		if figure == "?" {
			continue
		}
		p.place, p.after = "h", false
		if i > 0 {
			p.place = fmt.Sprintf("%dh", i+1)
		}
		if err := p.level(figure); err != nil {
			return err
		}
	}
	return nil
}

func (p *lookParser) level(word string) error {
	lower := strings.TrimPrefix(strings.ToLower(word), "+")
	number := strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(lower, "dbm"), "dbc"), "c")
	isDBc := strings.HasSuffix(lower, "c")
	sign := 1.0
	if cut, negative := strings.CutPrefix(number, "-"); negative {
		number, sign = cut, -1
	}
	v, err := units.ParseNumber(number)
	if err != nil || v > 400 {
		return p.refuse(word, "is no level that a screen shows")
	}
	if v *= sign; isDBc {
		v = -math.Abs(v)
	}
	switch {
	case p.place != "":
		peak, err := p.peak(isDBc)
		if err != nil {
			return err
		}
		if peak.StepDB = stepOf(number); isDBc {
			peak.DBc = &v
		} else {
			peak.LevelDBm = &v
		}
		if slices.ContainsFunc(p.out.Peaks, peak.sameAs) {
			return p.refuse(p.place, "is given twice")
		}
		p.out.Peaks = append(p.out.Peaks, peak)
		p.place = ""
	case isDBc:
		return p.refuse(word, "is in dBc, and needs the place in front of it: 2 %s", word)
	case p.floor || p.after:
		if p.out.FloorDBm != nil {
			return p.refuse(word, "is a second floor; one look has one")
		}
		p.out.FloorDBm = &v
		p.floor, p.after = false, false
	default:
		return p.refuse(word, "has no place in front of it: 205 %s, or floor %s", word, word)
	}
	return nil
}

// stepOf is what a figure was read to, in dB: by its decimals, at most two of them.
func stepOf(number string) float64 {
	_, decimals, _ := strings.Cut(strings.ReplaceAll(number, ",", "."), ".")
	return []float64{1, 0.1, 0.01}[min(2, len(decimals))]
}

func (t Peak) sameAs(o Peak) bool {
	if t.Order != nil || o.Order != nil {
		return t.Order != nil && o.Order != nil && *t.Order == *o.Order
	}
	return t.FrequencyHz == nil && o.FrequencyHz == nil || t.FrequencyHz != nil && o.FrequencyHz != nil && *t.FrequencyHz == *o.FrequencyHz
}

// peak is where the place lies: a multiple of the carrier by its number, else MHz.
func (p *lookParser) peak(dbc bool) (Peak, error) {
	order := func(text string) (Peak, error) {
		n, err := strconv.Atoi(text)
		if err != nil || n < 1 || n > mostMultiple {
			return Peak{}, p.refuse(p.place, "is no multiple of the carrier: 2h to %dh are", mostMultiple)
		}
		return Peak{Order: &n}, nil
	}
	if strings.EqualFold(p.place, "h") {
		if f := float64(p.f0); f > 0 {
			return Peak{FrequencyHz: &f}, nil
		}
		return Peak{}, nil
	}
	if m := lookOrder.FindStringSubmatch(p.place); m != nil {
		return order(m[1])
	}
	parts := lookPlace.FindStringSubmatch(p.place)
	v, err := units.ParseNumber(parts[1])
	whole := err == nil && !strings.ContainsAny(parts[1], ".,") && v >= 2 && v <= mostBare
	scale := 1e6
	switch {
	case err != nil || !(v > 0):
		return Peak{}, p.refuse(p.place, "is no frequency")
	case parts[2] != "", whole && dbc && parts[3] == "" && parts[4] == "":
		return order(parts[1])
	case parts[4] != "":
		scale = 1e9
	case parts[3] == "" && whole:
		return Peak{}, p.refuse(p.place, "may be a harmonic or MHz: type %sh for the multiple of the carrier, %s.0 for MHz", p.place, p.place)
	}
	if v *= scale; v > 1e12 {
		return Peak{}, p.refuse(p.place, "is no frequency")
	}
	return Peak{FrequencyHz: &v}, nil
}
