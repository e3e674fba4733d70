package claims

import (
	"math"
	"regexp"
	"strings"

	"talloak/core/rulebook"
	"talloak/core/units"
)

// word is one word of a claim as it was typed, without what joins it to the next.
type word struct {
	text  string
	comma bool // a comma or semicolon stands behind it
	and   bool // joined to the next by and, & or +
}

// noClaim stands for the power of a level that nothing is claimed for, absent for a level
// that the band has not.
const (
	noClaim = "?"
	absent  = "-"
)

var (
	atSupply    = regexp.MustCompile(`@\s*[0-9.]+\s*(?i:v(olts?)?)\b`)
	readOver    = regexp.MustCompile(`(?i)(^|[\s,;(])(up to|approximately|approx\.?|about|maximum|max\.?|output|power)(?:$|[\s:,;])`)
	digitComma  = regexp.MustCompile(`[0-9],[0-9]`)
	number      = regexp.MustCompile(`^([0-9]+(?:\.[0-9]*)?|\.[0-9]+)(\pL*)$`)
	stroke      = regexp.MustCompile(`\s*/\s*`)
	unitApart   = regexp.MustCompile(`([0-9.])\s+((?i:watts?|[mk]?w|dbm|[kmg]hz))\b`)
	span2       = regexp.MustCompile(`^([0-9]+(?:\.[0-9]*)?|\.[0-9]+)-([0-9]+(?:\.[0-9]*)?|\.[0-9]+)(\pL*)$`)
	typesetDash = strings.NewReplacer("–", "-", "—", "-", "−", "-", "µ", "u", "μ", "u")
)

// split cuts a line into words. What is read over, and said of a supply, comes as a remark.
func split(line string) (words []word, remark string, err error) {
	line = typesetDash.Replace(line)
	var remarks []string
	line = atSupply.ReplaceAllStringFunc(line, func(s string) string {
		remarks = append(remarks, s)
		return " "
	})
	for {
		m := readOver.FindStringSubmatchIndex(line)
		if m == nil {
			break
		}
		remarks = append(remarks, line[m[4]:m[5]])
		line = line[:m[4]] + " " + line[m[5]:]
	}
	if at := digitComma.FindStringIndex(line); at != nil {
		field := wordAround(line, at[0])
		return nil, "", refuse(field, "%q may be a decimal or two figures: type a point in a decimal, a blank behind a comma between figures", field)
	}
	line = unitApart.ReplaceAllString(line, "$1$2")
	line = strings.NewReplacer(":", " ", ",", " , ", ";", " , ", "&", " & ").Replace(stroke.ReplaceAllString(line, "/"))
	for _, f := range strings.Fields(line) {
		n := len(words) - 1
		switch lower := strings.ToLower(f); {
		case f == "," && n >= 0:
			words[n].comma = true
		case f == ",":
		case (lower == "and" || f == "&" || f == "+") && n >= 0:
			words[n].and = true
		default:
			words = append(words, word{text: f})
		}
	}
	return words, strings.Join(remarks, " "), nil
}

func wordAround(line string, at int) string {
	first := strings.LastIndexAny(line[:at], " \t;") + 1
	if end := strings.IndexAny(line[at:], " \t;"); end >= 0 {
		return line[first : at+end]
	}
	return line[first:]
}

// figure is a number with its unit.
type figure struct {
	value  float64
	unit   string // lower case; empty where there is none
	text   string
	spoilt error
}

// powerUnits are units of power with their worth in W; dBm is one apart.
var powerUnits = map[string]float64{"w": 1, "watt": 1, "watts": 1, "kw": 1e3, "mw": 1e-3, "uw": 1e-6}

// frequencyUnits are units of frequency with their worth in Hz.
var frequencyUnits = map[string]float64{"khz": 1e3, "mhz": 1e6, "ghz": 1e9}

func unitWord(w string) bool {
	lower := strings.ToLower(w)
	return powerUnits[lower] > 0 || frequencyUnits[lower] > 0 || lower == "dbm"
}

// figureIn reads a word that is a number; false where it is none.
func figureIn(word string) (figure, bool) {
	m := number.FindStringSubmatch(word)
	if m == nil {
		return figure{}, false
	}
	f := figure{unit: m[2], text: word}
	v, err := units.ParseNumber(m[1])
	f.value = v
	if err != nil {
		f.spoilt = refuse(f.text, "%s", err.Error())
	}
	if strings.HasPrefix(f.unit, "M") && strings.EqualFold(f.unit, "mw") {
		f.spoilt = refuse(f.text, "%q may be megawatts or milliwatts: type mW", f.text)
	}
	if f.unit != "" && !unitWord(f.unit) {
		return figure{}, false
	}
	f.unit = strings.ToLower(f.unit)
	return f, true
}

// isPower tells that the figure is or may be a power.
func (f figure) isPower() bool { return frequencyUnits[f.unit] == 0 }

// watts is the power it is.
func (f figure) watts() (float64, error) {
	if f.spoilt != nil {
		return 0, f.spoilt
	}
	w := f.value
	switch {
	case f.unit == "dbm":
		w = float64(units.DBm(f.value).Watts())
	case f.unit != "":
		w *= powerUnits[f.unit]
	}
	if !(w > 0) || w > 1e5 || math.IsNaN(w) {
		return 0, refuse(f.text, "%g W is no power to claim", w)
	}
	return w, nil
}

// modes are words for how a carrier is modulated.
var modes = map[string]rulebook.Mode{
	"fm": rulebook.FM, "nfm": rulebook.FM, "am": rulebook.AM, "ssb": rulebook.SSB, "usb": rulebook.SSB, "lsb": rulebook.SSB, "cw": rulebook.CW, "digital": rulebook.Digital, "data": rulebook.Digital,
}

// LevelNamed is the usual name of the level that a word names, such as High for hi; empty where it names
// none.
func LevelNamed(w string) string {
	lower := strings.ToLower(w)
	if len(lower) == 2 && lower[0] == 'p' && lower[1] >= '1' && lower[1] <= '9' {
		return strings.ToUpper(lower)
	}
	return ownNames[lower]
}
