package supply

import (
	"math"
	"regexp"
	"strings"

	"talloak/core/claims"
	"talloak/core/problem"
	"talloak/core/units"
)

// States in which a radio draws without transmitting, by the words for them.
var states = map[string]string{
	"rx": "receiving", "receive": "receiving", "receiving": "receiving", "squelched": "standby", "standby": "standby", "idle": "standby", "sb": "standby", "off": "off",
}

// line is a draw as it was typed: in which state, or at which level; A, and V and W where they were
// read too; and what the last digit of A is worth.
type line struct {
	state, level string
	amps, volts  *float64
	watts        *float64
	lastA        float64
}

const would = "the level or state, then what it draws: high 1.4a 13.8v 25w, receiving 0.14, standby 45mA, off 2mA"

var quantity = regexp.MustCompile(`(?i)^([0-9.,]+)(a|ma|ua|v|w|mw)?$`)

// read reads a line; a state may stand in its remark alone. Errors are on "text".
func read(text, remark string) (line, error) {
	var out line
	words := strings.Fields(strings.ReplaceAll(text, "\u00b5", "u"))
	for i := 0; i < len(words); i++ {
		w := strings.ToLower(words[i])
		if m := quantity.FindStringSubmatch(w); m != nil {
			unit := strings.ToLower(m[2])
			if unit == "" && i+1 < len(words) && quantity.MatchString("0"+words[i+1]) && strings.Trim(words[i+1], "0123456789.,") == words[i+1] { // 0.14 A
				unit = strings.ToLower(words[i+1])
				i++
			}
			if err := out.set(m[1], unit); err != nil {
				return line{}, err
			}
			continue
		}
		switch level := claims.LevelNamed(w); {
		case states[w] != "" && out.state == "" && out.level == "":
			out.state = states[w]
		case level != "" && out.state == "" && out.level == "":
			out.level = level
		case w == "tx" || w == "at":
		default:
			return line{}, problem.New("text", "%q is not understood: give %s", words[i], would)
		}
	}
	if out.amps == nil {
		return line{}, problem.New("text", "there is no current in it: give %s", would)
	}
	if said := strings.Fields(strings.ToLower(remark)); out.state == "" && out.level == "" && len(said) > 0 {
		first := strings.Trim(said[0], ".,;:")
		out.state, out.level = states[first], claims.LevelNamed(first)
	}
	if out.state == "" && out.level == "" {
		return line{}, problem.New("text", "at which level, or in what state: give %s", would)
	}
	if out.state != "" && out.watts != nil && *out.watts > 0 {
		return line{}, problem.New("text", "it gives no power %s: leave the watts out, or name the level", out.state)
	}
	return out, nil
}

func (l *line) set(number, unit string) error {
	v, err := units.ParseNumber(number)
	if err != nil {
		return problem.New("text", "%s", err.Error())
	}
	worth := map[string]float64{"": 1, "a": 1, "ma": 1e-3, "ua": 1e-6, "v": 1, "w": 1, "mw": 1e-3}[unit]
	v *= worth
	at, most, what := &l.amps, mostA, "A"
	switch unit {
	case "v":
		at, most, what = &l.volts, mostV, "V"
	case "w", "mw":
		at, most, what = &l.watts, mostW, "W"
	}
	if *at != nil {
		return problem.New("text", "there are two figures in %s: give one of each", what)
	}
	if !(v >= 0 && v <= most) {
		return problem.New("text", "%g %s is more than any radio has: give at most %g %s", v, what, most, what)
	}
	*at = &v
	if what == "A" {
		_, after, _ := strings.Cut(strings.Replace(number, ",", ".", 1), ".")
		l.lastA = worth * math.Pow10(-len(after))
	}
	return nil
}

// The most that a radio and its amplifier have (common practice, no source).
const (
	mostA = 200.0
	mostV = 250.0
	mostW = 3000.0
)
