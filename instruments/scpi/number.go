package scpi

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"talloak/core/units"
)

// Unit is what a number of a command is in.
type Unit string

// The units of numbers; of levels in dBm a power in W is taken too.
const (
	Plain   Unit = ""
	Hertz   Unit = "HZ"
	Seconds Unit = "S"
	Volts   Unit = "V"
	Amperes Unit = "A"
	Decibel Unit = "DB"
	DBm     Unit = "DBM"
)

// Span is what a number may be: Least and Most are what MIN and MAX stand for, Default what
// DEF does.
type Span struct {
	Unit                 Unit
	Least, Most, Default float64
	Whole                bool
}

var decimal = regexp.MustCompile(`^[+-]?(\d+\.?\d*|\.\d+)(\s*[eE]\s*[+-]?\d+)?`)

// named is the value that a word stands for.
func (s Span) named(word string) (float64, bool) {
	switch strings.ToUpper(word) {
	case "MIN", "MINIMUM":
		return s.Least, true
	case "MAX", "MAXIMUM":
		return s.Most, true
	case "DEF", "DEFAULT":
		return s.Default, true
	}
	return 0, false
}

// read is the number that was sent, within the span.
func (s Span) read(text string) (float64, Error) {
	if v, ok := s.named(text); ok {
		return v, NoError
	}
	number := decimal.FindString(text)
	if number == "" {
		switch c := text[0]; {
		case c == '"' || c == '\'' || c == '#' || c == '(':
			return 0, DataType
		case strings.ContainsRune("+-.0123456789", rune(c)):
			return 0, InvalidNumber
		}
		return 0, InvalidCharData
	}
	v, err := strconv.ParseFloat(strings.Join(strings.Fields(number), ""), 64)
	if err != nil {
		return 0, OutOfRange
	}
	if suffix := strings.ToUpper(strings.TrimFunc(text[len(number):], white)); suffix != "" {
		if s.Unit == Plain {
			return 0, SuffixNotAllowed
		}
		scaled, ok := s.Unit.scale(v, suffix)
		if !ok {
			return 0, InvalidSuffix
		}
		v = scaled
	}
	if s.Whole {
		v = math.Round(v)
	}
	if !(v >= s.Least && v <= s.Most) {
		return 0, OutOfRange
	}
	return v, NoError
}

// multipliers are those of IEEE 488.2, 7.7.3: M is a thousandth, save before Hz.
var multipliers = map[string]float64{"": 1, "EX": 1e18, "PE": 1e15, "T": 1e12, "G": 1e9, "MA": 1e6, "K": 1e3, "M": 1e-3, "U": 1e-6, "N": 1e-9, "P": 1e-12, "F": 1e-15, "A": 1e-18}

// scale is v with the suffix, in the unit.
func (u Unit) scale(v float64, suffix string) (float64, bool) {
	if u == DBm {
		if suffix == string(DBm) {
			return v, true
		}
		w, ok := Unit("W").scale(v, suffix)
		return float64(units.Watts(w).DBm()), ok && w > 0
	}
	if u == Decibel {
		return v, suffix == string(Decibel)
	}
	multiplier, is := strings.CutSuffix(suffix, string(u))
	if !is {
		return 0, false
	}
	if u == Hertz && multiplier == "M" {
		multiplier = "MA"
	}
	by, known := multipliers[multiplier]
	return v * by, known
}

// NR3 writes a number as IEEE 488.2, 8.7.4 has it.
func NR3(v float64) string { return strconv.FormatFloat(v, 'E', 9, 64) }

// The numbers of SCPI that are none (volume 1, 7.2.1.4 and 7.2.1.5).
const (
	NotANumber       = 9.91e37
	NegativeInfinity = -9.9e37
)
