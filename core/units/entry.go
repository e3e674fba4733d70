package units

import (
	"regexp"
	"strings"

	"talloak/core/problem"
)

// Typed is one reading as typed. Unit is nil where none was given.
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
}

var (
	leadingNumber = regexp.MustCompile(`^[+-]?(?:\d+(?:[.,]\d*)*|[.,]\d+)(?:[eE][+-]?\d+)?`)
	levelWord     = regexp.MustCompile(`^(?i:h|hi|high|m|mid|med|medium|l|lo|low|xl|[lp][0-9])$`)
)

// ParseEntry reads a key-up line such as `4.71 4.86 h swr 1.3 13.6v 2.9a pk 12`
// or `9.6 fr .4`: readings (of any Unit, or none), `h` and the like the level
// shown on the radio, `swr`, `pk` the spoken peak, `fr` the reflected power
// behind the forward one, volts `v` and amperes `a` of the supply, a frequency
// with Hz, kHz, MHz or GHz or as `f` in MHz, and behind `?` a remark.
//
// The error is a *problem.Error on the field "text": an empty line, a word or
// number it cannot read, a comma that may mean thousands, a negative power or
// supply, an SWR below 1, or a thing said twice.
func ParseEntry(text string) (Entry, error) {
	p := entryParser{}
	head, remark, hasRemark := strings.Cut(plainMicro(text), "?")
	if hasRemark {
		if remark = strings.TrimSpace(text[strings.Index(text, "?")+1:]); remark != "" {
			p.out.Remark = &remark
		}
	}
	p.out.Readings = []Typed{}
	p.words = strings.Fields(strings.NewReplacer(";", " ", ", ", " ").Replace(head + " "))
	for p.at < len(p.words) && p.err == nil {
		p.next()
	}
	if p.err == nil && len(p.words) == 0 && p.out.Remark == nil {
		p.fail("nothing typed; begin with a reading, such as 4.71 or 36.4dBm")
	}
	if p.err != nil {
		return Entry{}, p.err
	}
	return p.out, nil
}

type entryParser struct {
	words []string
	at    int
	out   Entry
	last  *Quantity // the reading before this word, for fr
	err   error
}

func (p *entryParser) fail(format string, args ...any) {
	if p.err == nil {
		p.err = problem.New("text", format, args...)
	}
}

func (p *entryParser) next() {
	word := p.words[p.at]
	if leadingNumber.MatchString(word) {
		p.number()
		return
	}
	p.at++
	switch strings.ToLower(word) {
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
		if p.last == nil {
			p.fail("fr needs the forward power before it, as in 9.6 fr .4")
			return
		}
		forward, err := p.last.Power()
		if err != nil {
			p.fail("%s", err.Error())
		}
		reflected := p.power("fr")
		p.once("the forward power", &p.out.ForwardW, float64(forward))
		p.once("the reflected power", &p.out.ReflectedW, reflected)
	case "f":
		if v, suffix, ok := p.value("f"); ok {
			if suffix == "" {
				suffix = "MHz"
			}
			p.frequency(v, suffix)
		}
	default:
		if !levelWord.MatchString(word) {
			p.fail("%q is not understood; put what is uncertain behind a ?", word)
			return
		}
		if p.out.Level != nil {
			p.fail("the level is given twice, %s and %s", *p.out.Level, word)
			return
		}
		level := strings.ToLower(word)
		p.out.Level = &level
	}
}

// number reads a word that begins with a number: a reading, supply or frequency.
func (p *entryParser) number() {
	v, suffix, ok := p.value("")
	if !ok {
		return
	}
	switch strings.ToLower(suffix) {
	case "v":
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
	q := Quantity{v, W}
	if suffix != "" {
		u, known := ParseUnit(suffix)
		if !known {
			p.fail("%q is no unit; known are %s (MW is not mW)", suffix, Units)
			return
		}
		reading.Unit, q.Unit = &u, u
		if _, err := q.Power(); err != nil {
			p.fail("%s", err.Error())
			return
		}
	}
	p.last = &q
	p.out.Readings = append(p.out.Readings, reading)
}

// value reads the number at hand and its unit, attached or as the next word.
func (p *entryParser) value(behind string) (v float64, suffix string, ok bool) {
	if p.at >= len(p.words) || !leadingNumber.MatchString(p.words[p.at]) {
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

func isUnitWord(word string) bool {
	if _, ok := ParseUnit(word); ok {
		return true
	}
	switch strings.ToLower(word) {
	case "v", "a", "ma", "hz", "khz", "mhz", "ghz":
		return true
	}
	return false
}

// power reads the power behind pk or fr, in watts unless a unit says otherwise.
func (p *entryParser) power(behind string) float64 {
	v, suffix, ok := p.value(behind)
	if !ok {
		return 0
	}
	unit := W
	if suffix != "" {
		if unit, ok = ParseUnit(suffix); !ok {
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
// "36.4dBm" or "0.25 uV". The error is a *problem.Error on the field "text".
func ParseQuantity(text string) (Quantity, error) {
	e, err := ParseEntry(text)
	if err != nil {
		return Quantity{}, err
	}
	if e.SupplyV != nil && len(e.Readings) == 0 && e.onlySupplyV() {
		// In an entry 13.6v is the supply; alone it is a voltage, its case exact.
		if !strings.HasSuffix(strings.TrimSpace(text), "V") {
			return Quantity{}, problem.New("text", "no unit; known are %s", Units)
		}
		return Quantity{*e.SupplyV, V}, nil
	}
	if len(e.Readings) != 1 || !e.onlyReadings() {
		return Quantity{}, problem.New("text", "give one value with its unit")
	}
	if e.Readings[0].Unit == nil {
		return Quantity{}, problem.New("text", "no unit; add one of %s", Units)
	}
	return Quantity{e.Readings[0].Value, *e.Readings[0].Unit}, nil
}

func (e Entry) onlySupplyV() bool {
	e.SupplyV = nil
	return e.onlyReadings()
}

func (e Entry) onlyReadings() bool {
	return e.Level == nil && e.SWR == nil && e.ForwardW == nil && e.PeakW == nil &&
		e.SupplyV == nil && e.SupplyA == nil && e.FrequencyHz == nil && e.Remark == nil
}

// ParseReadings reads one or more readings that are all of one unit: given with
// each, or as unit for those without. An empty unit is allowed where the text
// says it. The error is a *problem.Error on "text" or "unit".
func ParseReadings(text, unit string) ([]Quantity, error) {
	common, known := ParseUnit(unit)
	if unit != "" && !known {
		return nil, problem.New("unit", "%q is no unit; known are %s", unit, Units)
	}
	e, err := ParseEntry(text)
	if err == nil && (len(e.Readings) == 0 || !e.onlyReadings()) {
		err = problem.New("text", "give readings alone, such as 4.71 4.86 4.8")
	}
	if err != nil {
		return nil, err
	}
	out := make([]Quantity, len(e.Readings))
	for i, r := range e.Readings {
		if r.Unit != nil && common == "" {
			common = *r.Unit
		}
		if common == "" {
			return nil, problem.New("unit", "no unit; give one of %s", Units)
		}
		if r.Unit != nil && *r.Unit != common {
			return nil, problem.New("text", "a reading is in %s, but the unit is %s", *r.Unit, common)
		}
		out[i] = Quantity{r.Value, common}
		if _, err := out[i].Power(); err != nil {
			return nil, problem.New("text", "%s", err.Error())
		}
	}
	return out, nil
}
