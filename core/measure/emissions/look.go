package emissions

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"

	"talloak/core/judge"
	"talloak/core/problem"
	"talloak/core/units"
)

// Look is a range looked at by eye, as it was typed: from end to end of the screen, the
// floor below which nothing was seen, and the peaks seen, as displayed.
type Look struct {
	FromHz   float64    `json:"from_hz"`
	ToHz     float64    `json:"to_hz"`
	FloorDBm *float64   `json:"floor_dbm"`
	Peaks    []LookPeak `json:"peaks"`
}

// LookPeak is a peak read off a screen: in dBm, or in dB from the carrier displayed.
type LookPeak struct {
	FrequencyHz float64  `json:"frequency_hz"`
	LevelDBm    *float64 `json:"level_dbm,omitempty"`
	DBc         *float64 `json:"dbc,omitempty"`
}

var (
	lookRange  = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)(?i:(mhz|ghz))?-(\d+(?:[.,]\d+)?)(?i:(mhz|ghz))?$`)
	lookLevel  = regexp.MustCompile(`^-\d+(?:[.,]\d+)?(?i:c|dbc|dbm)?$|^\+?\d+(?:[.,]\d+)?(?i:dbm)$`)
	lookSeries = regexp.MustCompile(`^(?i:h)((?:(?:-|\+)\d+(?:[.,]\d+)?(?i:c)?|\?)+)(?i:dbm)?$`)
	lookFigure = regexp.MustCompile(`(?:-|\+)\d+(?:[.,]\d+)?(?i:c)?|\?`)
	lookGlued  = regexp.MustCompile(`^(\d+(?:[.,]\d+)?(?i:h|f|mhz|ghz)?)(-\d+(?:[.,]\d+)?(?i:c|dbc|dbm)?)$`)
	lookPlace  = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)(?i:(h|f)|(mhz)|(ghz))?$`)
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

// mostMultiple is the highest multiple of a carrier that is read by its number.
const mostMultiple = 20

// ParseLook reads a look as one reads it aloud: `30-1000 floor -70`, or a range with a level
// behind it, `30-1000 -70`, or `nothing above -70`; then the peaks, each a place and a level:
// `146.5 -7.4`, `205-66`, `2h -62` or `2f -62`, `1h -7.4` for the carrier, `2 -55c` in dBc; `h-7.4-62-71` is the
// carrier and its harmonics in their order, `?` for one that was not read. Frequencies are
// in MHz, levels in dBm as displayed. The error is a *problem.Error on the field "look" and
// names the word.
func ParseLook(text string, f0 units.Hertz) (Look, error) {
	p := lookParser{f0: f0, words: lookWords(text)}
	for p.at = 0; p.at < len(p.words); p.at++ {
		if err := p.next(); err != nil {
			return Look{}, err
		}
	}
	if p.place != "" {
		return Look{}, p.refuse(p.place, "needs its level behind it, such as %s -62", p.place)
	}
	if p.floor {
		return Look{}, problem.New("look", "give the level of the floor behind it, such as floor -70")
	}
	if !p.ranged {
		return Look{}, problem.New("look", "give the range looked at first, in MHz, and its floor: 30-1000 floor -70")
	}
	if p.out.FloorDBm == nil && len(p.out.Peaks) == 0 {
		return Look{}, problem.New("look", "give the floor below which nothing was seen, and the peaks: floor -70, 2h -62")
	}
	for _, k := range p.out.Peaks {
		if k.FrequencyHz < p.out.FromHz || k.FrequencyHz > p.out.ToHz {
			return Look{}, problem.New("look", "%s lies outside the range looked at, %s to %s", units.Hertz(k.FrequencyHz), units.Hertz(p.out.FromHz), units.Hertz(p.out.ToHz))
		}
		if p.out.FloorDBm != nil && k.LevelDBm != nil && *k.LevelDBm < *p.out.FloorDBm {
			return Look{}, problem.New("look", "%g dBm at %s lies below the floor of %g dBm: what is seen there is above it", *k.LevelDBm, units.Hertz(k.FrequencyHz), *p.out.FloorDBm)
		}
	}
	slices.SortStableFunc(p.out.Peaks, func(a, b LookPeak) int {
		if a.FrequencyHz < b.FrequencyHz {
			return -1
		}
		return 1
	})
	return p.out, nil
}

type lookParser struct {
	f0     units.Hertz
	words  []string
	at     int
	out    Look
	ranged bool
	floor  bool   // the level that follows is the floor
	after  bool   // nothing but the range has been read
	place  string // the peak whose level follows
}

func (p *lookParser) refuse(word, format string, args ...any) error {
	return problem.New("look", "%q "+format, append([]any{word}, args...)...)
}

func (p *lookParser) next() error {
	word := p.words[p.at]
	switch {
	case strings.EqualFold(word, "floor"), strings.EqualFold(word, "nothing"), strings.EqualFold(word, "above"):
		p.floor = true
		return nil
	case p.floor && !lookLevel.MatchString(word):
		return p.refuse(word, "is no floor: give its level with the sign, such as floor -70")
	case !p.ranged && lookRange.MatchString(word):
		return p.stretch(word)
	case p.place == "" && lookSeries.MatchString(word):
		return p.series(word)
	case lookLevel.MatchString(word):
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

func (p *lookParser) stretch(word string) error {
	ends := lookRange.FindStringSubmatch(word)
	lo, errLo := units.ParseNumber(ends[1])
	hi, errHi := units.ParseNumber(ends[3])
	if strings.EqualFold(cmp.Or(ends[2], ends[4]), "ghz") {
		lo *= 1e3
	}
	if strings.EqualFold(ends[4], "ghz") {
		hi *= 1e3
	}
	if errLo != nil || errHi != nil || !(hi > lo) || hi > 1e6 {
		return p.refuse(word, "is no range: give it in MHz from its lower end, such as 30-1000")
	}
	p.out.FromHz, p.out.ToHz, p.ranged, p.after = lo*1e6, hi*1e6, true, true
	return nil
}

// series reads the carrier's and its harmonics' levels in their order.
func (p *lookParser) series(word string) error {
	for i, figure := range lookFigure.FindAllString(word[1:], -1) {
		if figure == "?" {
			continue
		}
		p.place = fmt.Sprintf("%dh", i+1)
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
	v *= sign
	switch {
	case p.place != "":
		f, err := p.frequency(isDBc)
		if err != nil {
			return err
		}
		peak := LookPeak{FrequencyHz: float64(f)}
		if isDBc {
			peak.DBc = &v
		} else {
			peak.LevelDBm = &v
		}
		if slices.ContainsFunc(p.out.Peaks, func(o LookPeak) bool { return o.FrequencyHz == peak.FrequencyHz }) {
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

// frequency is where the peak lies: a multiple of the carrier by its number, else MHz.
func (p *lookParser) frequency(dbc bool) (units.Hertz, error) {
	parts := lookPlace.FindStringSubmatch(p.place)
	v, err := units.ParseNumber(parts[1])
	whole := err == nil && v == float64(int(v)) && v >= 1 && v <= mostMultiple && !strings.ContainsAny(parts[1], ".,")
	switch {
	case err != nil || !(v > 0):
		return 0, p.refuse(p.place, "is no frequency")
	case parts[2] != "" && whole:
		return units.Hertz(v) * p.f0, nil
	case parts[2] != "":
		return 0, p.refuse(p.place, "is no multiple of the carrier: 2h to %dh are", mostMultiple)
	case parts[4] != "":
		return units.Hertz(v * 1e9), nil
	case parts[3] != "":
		return units.Hertz(v * 1e6), nil
	case whole && dbc:
		return units.Hertz(v) * p.f0, nil
	case whole:
		return 0, p.refuse(p.place, "may be a harmonic or MHz: type %sh for the multiple of the carrier, %s.0 for MHz", p.place, p.place)
	}
	return units.Hertz(v * 1e6), nil
}

// hidesCarrier tells that the carrier lies in the range looked at and was not noted.
func (l *Look) hidesCarrier(f0 units.Hertz, toleranceHz float64) bool {
	f, judged := float64(f0), l.evidence(judge.Sweep{}, toleranceHz)
	window := float64(judged.Window(f0))
	return f >= l.FromHz && f <= l.ToHz && !slices.ContainsFunc(l.Peaks, func(p LookPeak) bool { return math.Abs(p.FrequencyHz-f) <= window })
}

// evidence is the look as it is judged.
func (l *Look) evidence(s judge.Sweep, tolerance float64) judge.Look {
	out := judge.Look{
		Name: s.Name, From: units.Hertz(l.FromHz), To: units.Hertz(l.ToHz), FloorDBm: l.FloorDBm, Path: s.Path, AppliedDB: s.AppliedDB,
		Tolerance: units.Hertz(tolerance), Detector: s.Detector, Hold: s.Hold, Modulated: s.Modulated, Standing: s.Standing,
	}
	for _, k := range l.Peaks {
		out.Peaks = append(out.Peaks, judge.LookPeak{Frequency: units.Hertz(k.FrequencyHz), LevelDBm: k.LevelDBm, DBc: k.DBc})
	}
	return out
}

// into puts a sweep or look, as it is judged, into what a ruling rests on.
func (s *Sweep) into(in *judge.Input, e judge.Sweep) {
	if s.Look != nil {
		in.Looks = append(in.Looks, s.Look.evidence(e, s.ToleranceHz))
	} else {
		in.Sweeps = append(in.Sweeps, e)
	}
}

// lookBuckets is how many places of a look its floor is drawn at.
const lookBuckets = 80

// picture draws the look at the connector: a stick a peak, and the floor as the ground. One
// that knows only levels below the carrier is drawn from the carrier's power.
func (l *Look) picture(s judge.Sweep, f0 units.Hertz, power *units.DBm) []judge.Bucket {
	if flat, relative := s.OfRelative(); relative {
		if loss, ok := flat.LossAt(f0); ok && l.carrier() != nil && power != nil {
			s.Path = flat
			s.AppliedDB = units.DB(*l.carrier()) + loss - units.DB(*power)
		}
	}
	at := func(f, displayed float64) *float64 {
		loss, ok := s.Path.LossAt(units.Hertz(f))
		if !ok {
			return nil
		}
		v := displayed + float64(loss-s.AppliedDB)
		return &v
	}
	out := []judge.Bucket{}
	if l.FloorDBm != nil {
		for i := range lookBuckets + 1 {
			f := l.FromHz + float64(i)/lookBuckets*(l.ToHz-l.FromHz)
			out = append(out, judge.Bucket{FrequencyHz: f, NoiseDBm: at(f, *l.FloorDBm)})
		}
	}
	carrier := l.carrier()
	for _, k := range l.Peaks {
		b := judge.Bucket{FrequencyHz: k.FrequencyHz}
		switch {
		case k.LevelDBm != nil:
			b.HighDBm = at(k.FrequencyHz, *k.LevelDBm)
		case carrier != nil:
			b.HighDBm = at(k.FrequencyHz, *carrier+*k.DBc)
		}
		out = append(out, b)
	}
	slices.SortStableFunc(out, func(a, b judge.Bucket) int {
		if a.FrequencyHz < b.FrequencyHz {
			return -1
		}
		if a.FrequencyHz > b.FrequencyHz {
			return 1
		}
		return 0
	})
	return out
}

// carrier is the highest level displayed, what dBc are counted from; nil where none is.
func (l *Look) carrier() *float64 {
	var out *float64
	for _, k := range l.Peaks {
		if k.LevelDBm != nil && (out == nil || *k.LevelDBm > *out) {
			out = k.LevelDBm
		}
	}
	return out
}
