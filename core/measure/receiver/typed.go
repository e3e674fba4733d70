package receiver

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"talloak/core/problem"
	"talloak/core/units"
)

// line is what was typed: of what, with a level in dBm, two of them, or a difference in dB.
type line struct {
	of     string // s-meter, squelch, image, neighbour
	s      int    // the S-unit shown, 0 to 9
	over   float64
	apart  units.Hertz // of a neighbour
	levels []float64   // dBm
	db     *float64
}

const would = "s9 -93, s9+20 -73 or s5 0.6uV; squelch -120 -123, where it opens and closes; image 62, or neighbour 12.5k 58 in dB, or two levels: image -55 -117"

var (
	meter    = regexp.MustCompile(`^s([0-9])(?:\+([0-9]+)(?:db)?)?$`)
	spacing  = regexp.MustCompile(`^([0-9.,]+)k(?:hz)?$`)
	decibels = regexp.MustCompile(`^([0-9.,]+)(?:db)?$`)
	words    = map[string]string{"squelch": "squelch", "sq": "squelch", "image": "image", "neighbour": "neighbour", "neighbor": "neighbour", "adjacent": "neighbour"}
)

// read reads a line. Errors are on "text".
func read(text string) (line, error) {
	var out line
	all := strings.Fields(strings.ReplaceAll(strings.ToLower(text), "\u2212", "-"))
	if len(all) == 0 {
		return out, problem.New("text", "give %s", would)
	}
	rest := all[1:]
	if m := meter.FindStringSubmatch(all[0]); m != nil {
		out.of = "s-meter"
		out.s, _ = strconv.Atoi(m[1])
		out.over, _ = strconv.ParseFloat("0"+m[2], 64)
		if m[2] != "" && out.s != 9 {
			return out, problem.New("text", "%s is not understood: decibels stand over S9 alone", all[0])
		}
	} else if out.of = words[all[0]]; out.of == "" {
		return out, problem.New("text", "%q is not understood: give %s", all[0], would)
	}
	if out.of == "neighbour" {
		m := []string(nil)
		if len(rest) > 0 {
			m = spacing.FindStringSubmatch(rest[0])
		}
		if m == nil {
			return out, problem.New("text", "how far off is the neighbour? Give it as neighbour 12.5k 58")
		}
		v, err := units.ParseNumber(m[1])
		if err != nil || !(v >= 1 && v <= mostApart) {
			return out, problem.New("text", "%s is no spacing of channels: give 1 to %g kHz", rest[0], mostApart)
		}
		out.apart, rest = units.Hertz(v*1e3), rest[1:]
	}
	var level []string // a unit may stand apart
	for _, w := range rest {
		switch {
		case w == "opens" || w == "closes" || w == "at":
		case len(level) > 0 && (w == "dbm" || w == "uv" || w == "db"):
			level[len(level)-1] += w
		default:
			level = append(level, w)
		}
	}
	difference := out.of == "image" || out.of == "neighbour"
	if difference && len(level) == 1 {
		m := decibels.FindStringSubmatch(level[0])
		if m == nil {
			return out, problem.New("text", "%q is no difference in dB: give it as %s 62, or the level of both", level[0], out.of)
		}
		v, err := units.ParseNumber(m[1])
		if err != nil || v > mostDB {
			return out, problem.New("text", "%q is no difference: give 0 to %g dB", level[0], mostDB)
		}
		out.db = &v
		return out, nil
	}
	want := map[string]int{"s-meter": 1, "squelch": 2, "image": 2, "neighbour": 2}[out.of]
	if len(level) != want && !(out.of == "squelch" && len(level) == 1) {
		return out, problem.New("text", "give %s", would)
	}
	for _, w := range level {
		dbm, err := levelOf(w)
		if err != nil {
			return out, problem.New("text", "%s", err.Error())
		}
		out.levels = append(out.levels, dbm)
	}
	return out, nil
}

// levelOf reads a level as a generator shows it: dBm, or with its unit.
func levelOf(word string) (float64, error) {
	if v, err := units.ParseNumber(word); err == nil {
		return v, units.CheckDBm(v)
	}
	q, err := units.ParseQuantity(strings.NewReplacer("uv", "uV", "µv", "uV", "dbuv", "dBuV", "dbm", "dBm").Replace(word))
	if err != nil {
		return 0, fmt.Errorf("%q is no level: give it in dBm or with its unit, such as 0.6uV", word)
	}
	w, err := q.Power()
	if err != nil || !(w > 0) {
		return 0, fmt.Errorf("%q is no level: give it in dBm or with its unit, such as 0.6uV", word)
	}
	dbm := float64(w.DBm())
	return dbm, units.CheckDBm(dbm)
}

// More than channels lie apart, and than any receiver tells them apart by (common practice, no source).
const (
	mostApart = 1000.0 // kHz
	mostDB    = 150.0  // dB
)
