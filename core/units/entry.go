package units

import (
	"regexp"
	"strings"

	"talloak/core/problem"
)

// Typed is one reading, in the unit of all of its line.
type Typed struct {
	Value float64 `json:"value"`
	Unit  *Unit   `json:"unit"`
}

// Entry is what one typed line says about a key-up. Whatever the line does not
// say is nil. Powers are in watts, the supply in volts and amperes.
type Entry struct {
	Readings    []Typed  `json:"readings"`
	Level       *string  `json:"level"`
	SWR         *float64 `json:"swr"`
	ForwardW    *float64 `json:"forward_w"`
	ReflectedW  *float64 `json:"reflected_w"`
	PeakW       *float64 `json:"peak_w"`
	SupplyV     *float64 `json:"supply_v"`
	SupplyA     *float64 `json:"supply_a"`
	FrequencyHz *float64 `json:"frequency_hz"`
	Remark      *string  `json:"remark"`

	unitTyped bool // a reading has a unit of its own
}

var (
	leadingNumber = regexp.MustCompile(`^[+-]?(?:\d+(?:[.,]\d*)*|[.,]\d+)(?:[eE][+-]?\d+)?`)
	programmed    = regexp.MustCompile(`^p[1-9]$`)
	attached      = regexp.MustCompile(`^(?i:(vswr|swr|peak|pep|pk|ref|fr|f))([.,]?\d.*)$`)
	slashed       = regexp.MustCompile(`^[\d.,]+(?:/[.,]?\d[\d.,]*)+(?:\pL+)?$`)
)

// separators part readings like blanks.
var separators = strings.NewReplacer(";", " ", ", ", " ")

// words cuts a line into words: a keyword from the number it is written to (swr1.3), and
// numbers from one another that a stroke parts (4.8/4.9).
func words(line string) []string {
	var out []string
	for _, word := range strings.Fields(separators.Replace(line + " ")) {
		if m := attached.FindStringSubmatch(word); m != nil {
			out = append(out, m[1], m[2])
		} else if slashed.MatchString(word) {
			out = append(out, strings.Split(word, "/")...)
		} else {
			out = append(out, word)
		}
	}
	return out
}

// keywords are the other ways to write one.
var keywords = map[string]string{"vswr": "swr", "pep": "pk", "peak": "pk", "ref": "fr"}

// levels are the words for the level shown on a radio, with what each is kept as.
var levels = map[string]string{
	"h": "h", "hi": "h", "high": "h", "m": "m", "mid": "m", "med": "m", "l": "l", "lo": "l", "low": "l",
	"t": "t", "turbo": "turbo", "e": "e", "eco": "eco", "xl": "xl",
}

// entryUnits are the units of a key-up line, whatever their case where that leaves no
// doubt: MW is not mW.
var entryUnits = map[string]Unit{"w": W, "watt": W, "watts": W, "kw": kiloW, "mw": MilliW, "uw": MicroW, "dbm": UnitDBm}

func parseEntryUnit(s string) (Unit, bool) {
	if u, ok := ParseUnit(s); ok {
		return u, true
	}
	u, ok := entryUnits[strings.ToLower(plainMicro(s))]
	return u, ok && s != "MW"
}

// ParseEntry is ParseEntryIn with numbers in watts.
func ParseEntry(text string) (Entry, error) { return ParseEntryIn(text, "") }

// ParseEntryIn reads a key-up line such as `4.71 4.86 h swr 1.3 13.6v 2.9a pk 12`
// or `9.6 fr .4`: readings (of any Unit, or none), `h` and the like the level
// shown on the radio, `swr`, `pk` the spoken peak, `fr` the reflected power
// behind the forward one, volts `v` and amperes `a` of the supply, a frequency
// with Hz, kHz, MHz or GHz or as `f` in MHz, and behind `?` a remark. Readings share
// one unit; numbers without one, those of `pk` and `fr` too, are in unit, W where that
// is empty. As the first word `3V` is a reading, `13.6v` the supply.
// Where it stands beside a figure of power or a current it is the supply too. Also read are
// watts and kW, vswr, pep and peak, ref, a keyword written to its number, and readings parted by strokes.
//
// The error is a *problem.Error on the field "text" or "unit": a line of no reading, powers in
// watts more than a factor of three apart,
// SWR, peak or supply, a word or number it cannot read, a comma that may mean
// thousands, a negative power or supply, an SWR below 1, reflected power at or over
// the forward one, unlike units, or a thing said twice.
func ParseEntryIn(text, unit string) (Entry, error) {
	p := entryParser{unit: W, unitGiven: unit != ""}
	if unit != "" {
		u, ok := ParseUnit(unit)
		if !ok {
			return Entry{}, problem.New("unit", "%q is no unit; known are %s", unit, Units)
		}
		p.unit = u
	}
	head, remark, hasRemark := strings.Cut(plainMicro(text), "?")
	if hasRemark {
		if remark = strings.TrimSpace(text[strings.Index(text, "?")+1:]); remark == "" {
			remark = "?" // doubted, without a word why
		}
		p.out.Remark = &remark
	}
	p.out.Readings = []Typed{}
	p.words = words(head)
	for p.at < len(p.words) && p.err == nil {
		p.next()
	}
	p.finish()
	if p.err != nil {
		return Entry{}, p.err
	}
	return p.out, nil
}

// finish gives the readings their common unit and works out what rests on it.
func (p *entryParser) finish() {
	e := &p.out
	if len(e.Readings) == 0 && e.SWR == nil && e.PeakW == nil && e.SupplyV == nil && e.SupplyA == nil {
		p.fail("there is no reading; begin with one, such as 4.71 or 36.4dBm")
	}
	common := p.unit
	p.tellSupply()
	for _, r := range e.Readings {
		if r.Unit == nil {
			continue
		}
		if p.typed && *r.Unit != common {
			p.fail("the readings are in %s and in %s; give them in one unit", common, *r.Unit)
		}
		common, p.typed = *r.Unit, true
	}
	e.unitTyped = p.typed
	if common == kiloW {
		common = W
		for i := range e.Readings {
			e.Readings[i].Value *= 1000
		}
	}
	for i := range e.Readings {
		e.Readings[i].Unit = &common
		if _, err := (Quantity{e.Readings[i].Value, common}).Power(); err != nil {
			p.fail("%s", err.Error())
		}
	}
	p.alike(common)
	if e.ReflectedW == nil || p.err != nil {
		return
	}
	forward, err := Quantity{e.Readings[p.forward].Value, common}.Power()
	switch {
	case err != nil:
		p.fail("%s", err.Error())
	case *e.ReflectedW >= float64(forward):
		p.fail("%g W reflected of %g W forward cannot be: it is less, or the meter is the wrong way round", *e.ReflectedW, float64(forward))
	}
	w := float64(forward)
	e.ForwardW = &w
}

// tellSupply takes a voltage that the line begins with for the supply where it cannot be
// what a meter read: a figure of power, a current, or what else is read beside one, stands there.
func (p *entryParser) tellSupply() {
	e := &p.out
	if len(e.Readings) == 0 || e.Readings[0].Unit == nil || *e.Readings[0].Unit != V || e.SupplyV != nil {
		return
	}
	power := e.SupplyA != nil || e.SWR != nil || e.PeakW != nil
	for _, r := range e.Readings[1:] {
		power = power || r.Unit != nil && !r.Unit.Voltage() || r.Unit == nil && p.unitGiven && !p.unit.Voltage()
	}
	if !power || p.forward == 0 && e.ReflectedW != nil {
		return
	}
	e.SupplyV = &e.Readings[0].Value
	e.Readings = append([]Typed{}, e.Readings[1:]...)
	p.forward = max(0, p.forward-1)
}

// apartAtMost is how far apart readings of one power may lie, as a factor, before one of
// them must be something else (common practice, no source).
const apartAtMost = 3

// alike refuses powers in watts too far apart to be readings of one.
func (p *entryParser) alike(unit Unit) {
	if unit.Logarithmic() || unit.Voltage() || len(p.out.Readings) == 0 {
		return
	}
	lowest, highest := p.out.Readings[0].Value, p.out.Readings[0].Value
	for _, r := range p.out.Readings {
		lowest, highest = min(lowest, r.Value), max(highest, r.Value)
	}
	if highest > apartAtMost*lowest*(1+1e-12) {
		p.fail("%g and %g %s in one line: two readings, or a frequency? Say f before a frequency", lowest, highest, unit)
	}
}

type entryParser struct {
	words     []string
	at        int
	out       Entry
	unit      Unit // of numbers without one
	unitGiven bool
	typed     bool // a reading has a unit of its own
	forward   int  // the reading that fr stands behind
	err       error
}

func (p *entryParser) fail(format string, args ...any) {
	if p.err == nil {
		p.err = problem.New("text", format, args...)
	}
}

func (p *entryParser) next() {
	word := p.words[p.at]
	if beginsNumber(word) {
		p.number()
		return
	}
	p.at++
	word = strings.ToLower(word)
	if plain, other := keywords[word]; other {
		word = plain
	}
	switch word {
	case "swr":
		if v, _, ok := p.value("swr"); ok {
			if v < 1 {
				p.fail("an SWR of %g cannot be; it is 1 or more", v)
			}
			p.once("the SWR", &p.out.SWR, v)
		}
	case "pk":
		p.once("the peak", &p.out.PeakW, p.power("pk"))
	case "fr":
		if len(p.out.Readings) == 0 {
			p.fail("fr needs the forward power before it, as in 9.6 fr .4")
			return
		}
		p.forward = len(p.out.Readings) - 1
		p.once("the reflected power", &p.out.ReflectedW, p.power("fr"))
	case "f":
		if v, suffix, ok := p.value("f"); ok {
			if suffix == "" {
				suffix = "MHz"
			}
			p.frequency(v, suffix)
		}
	default:
		level, known := levels[word]
		if programmed.MatchString(word) {
			level, known = word, true
		}
		switch {
		case !known:
			p.fail("%q is not understood; put what is uncertain behind a ?", p.words[p.at-1])
		case p.out.Level != nil:
			p.fail("the level is given twice, %s and %s", *p.out.Level, word)
		default:
			p.out.Level = &level
		}
	}
}

// number reads a word that begins with a number: a reading, supply or frequency.
func (p *entryParser) number() {
	first := p.at == 0
	v, suffix, ok := p.value("")
	if !ok {
		return
	}
	switch strings.ToLower(suffix) {
	case "v":
		if suffix == "V" && first {
			break // a voltage that was read, not the supply
		}
		p.supply("the supply voltage", &p.out.SupplyV, v)
		return
	case "a":
		p.supply("the supply current", &p.out.SupplyA, v)
		return
	case "ma":
		p.supply("the supply current", &p.out.SupplyA, v/1000)
		return
	case "hz", "khz", "mhz", "ghz":
		p.frequency(v, suffix)
		return
	}
	reading := Typed{Value: v}
	if suffix != "" {
		u, known := parseEntryUnit(suffix)
		if !known {
			p.fail("%q is no unit; known are %s (MW is not mW)", suffix, Units)
			return
		}
		reading.Unit = &u
	}
	p.out.Readings = append(p.out.Readings, reading)
}

// value reads the number at hand and its unit, attached or as the next word.
func (p *entryParser) value(behind string) (v float64, suffix string, ok bool) {
	if p.at >= len(p.words) || !beginsNumber(p.words[p.at]) {
		p.fail("%s needs a number behind it", behind)
		return 0, "", false
	}
	word := p.words[p.at]
	p.at++
	number := leadingNumber.FindString(word)
	suffix = word[len(number):]
	v, err := ParseNumber(number)
	if err != nil {
		p.fail("%s", err.Error())
		return 0, "", false
	}
	if suffix == "" && p.at < len(p.words) && isUnitWord(p.words[p.at]) {
		suffix = p.words[p.at]
		p.at++
	}
	if suffix != "" && behind == "swr" {
		if suffix != ":1" {
			p.fail("an SWR has no unit, but %q follows it", suffix)
			return 0, "", false
		}
		suffix = ""
	}
	return v, suffix, true
}

// beginsNumber tells whether a word begins with a number, mostly by its first character.
func beginsNumber(word string) bool {
	switch c := word[0]; {
	case c >= '0' && c <= '9':
		return true
	case c == '+' || c == '-' || c == '.' || c == ',':
		return leadingNumber.MatchString(word)
	}
	return false
}

func isUnitWord(word string) bool {
	if beginsNumber(word) {
		return false
	}
	if _, ok := parseEntryUnit(word); ok {
		return true
	}
	switch strings.ToLower(word) {
	case "v", "a", "ma", "hz", "khz", "mhz", "ghz":
		return true
	}
	return false
}

// power reads the power behind pk or fr, in the unit of numbers without one unless one
// is typed.
func (p *entryParser) power(behind string) float64 {
	v, suffix, ok := p.value(behind)
	if !ok {
		return 0
	}
	unit := p.unit
	if suffix != "" {
		if unit, ok = parseEntryUnit(suffix); !ok {
			p.fail("%q is no unit of power; known are %s", suffix, Units)
			return 0
		}
	}
	w, err := Quantity{v, unit}.Power()
	if err != nil {
		p.fail("%s", err.Error())
	}
	return float64(w)
}

func (p *entryParser) supply(what string, to **float64, v float64) {
	if v < 0 {
		p.fail("%s of %g cannot be; give 0 or more", what, v)
	}
	p.once(what, to, v)
}

func (p *entryParser) frequency(v float64, unit string) {
	f := v * frequencyScale(unit)
	if !(f > 0) || f > 1e15 {
		p.fail("%g %s is no frequency", v, unit)
	}
	p.once("the frequency", &p.out.FrequencyHz, f)
}

func frequencyScale(unit string) float64 {
	switch strings.ToLower(unit) {
	case "khz":
		return 1e3
	case "mhz":
		return 1e6
	case "ghz":
		return 1e9
	case "hz":
		return 1
	}
	return 0
}

func (p *entryParser) once(what string, to **float64, v float64) {
	if *to != nil {
		p.fail("%s is given twice", what)
		return
	}
	*to = &v
}

// ParseQuantity reads exactly one power or voltage with its unit, such as
// "36.4dBm" or "0.25 uV", the unit's case exact. The error is a *problem.Error on the
// field "text".
func ParseQuantity(text string) (Quantity, error) {
	e, err := ParseEntry(text)
	if err != nil {
		return Quantity{}, err
	}
	if len(e.Readings) != 1 || !e.onlyReadings() {
		return Quantity{}, problem.New("text", "give one value with its unit")
	}
	suffix := strings.TrimSpace(leadingNumber.ReplaceAllString(strings.TrimSpace(text), ""))
	u, ok := ParseUnit(suffix)
	if !ok {
		return Quantity{}, problem.New("text", "no unit; add one of %s, in just these letters", Units)
	}
	return Quantity{e.Readings[0].Value, u}, nil
}

func (e Entry) onlyReadings() bool {
	return e.Level == nil && e.SWR == nil && e.ForwardW == nil && e.PeakW == nil &&
		e.SupplyV == nil && e.SupplyA == nil && e.FrequencyHz == nil && e.Remark == nil
}

// ParseReadings reads one or more readings that are all of one unit: given with one
// of them, or as unit; what else was noted beside them, such as the supply, comes with them.
// An empty unit is allowed where the text says it. The error is a *problem.Error on "text"
// or "unit".
func ParseReadings(text, unit string) ([]Quantity, Entry, error) {
	e, err := ParseEntryIn(text, unit)
	if err == nil && len(e.Readings) == 0 {
		err = problem.New("text", "there is no reading; give one such as 4.71 4.86 4.8")
	}
	if err != nil {
		return nil, Entry{}, err
	}
	if unit == "" && !e.unitTyped {
		return nil, Entry{}, problem.New("unit", "no unit; give one of %s", Units)
	}
	common := *e.Readings[0].Unit
	if unit != "" && common != Unit(plainMicro(unit)) {
		return nil, Entry{}, problem.New("text", "the readings are in %s, but the unit is %s", common, unit)
	}
	out := make([]Quantity, len(e.Readings))
	for i, r := range e.Readings {
		out[i] = Quantity{r.Value, common}
	}
	return out, e, nil
}
