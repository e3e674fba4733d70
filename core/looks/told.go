package looks

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"talloak/core/problem"
	"talloak/core/units"
)

// Told is what a line tells of how the instrument was set, beside what was seen. What it does not tell is
// nil or empty.
type Told struct {
	RBWHz        *float64 `json:"rbw_hz"`
	Detector     string   `json:"detector"`
	Hold         string   `json:"hold"`
	Modulated    string   `json:"modulated"` // bare or modulated: what the carrier was
	HeldS        *float64 `json:"held_s"`
	OffsetDB     *float64 `json:"offset_db"` // what the screen adds
	PreAmplifier string   `json:"pre_amplifier"`
	State        string   `json:"state"` // what the radio was doing
	Heard        bool     `json:"heard"` // in its own receiver
}

// Line is a line as it was typed: what it tells, and the look that is left of it. Says is what it tells, in
// words.
type Line struct {
	Told Told     `json:"told"`
	Look string   `json:"look"`
	Says []string `json:"says"`

	// Wrong is why the line cannot be read, empty where it can.
	Wrong string `json:"wrong"`
}

var (
	toldBandwidth = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)(?i:(hz|k|khz|m|mhz))?$`)
	toldSeconds   = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)(?i:s)$`)
	toldUnits     = regexp.MustCompile(`(?i:(rbw\s+\d+(?:[.,]\d+)?)\s+(k?hz|mhz)\b|\b(\d+(?:[.,]\d+)?)\s+(s)(?:\s|$))`)
)

// ReadLine parts what a line tells of the instrument from the look that it holds: `rbw 100k peak max bare
// 30s offset 40 preamp off 30-1000 floor -70`, in any order; `hold average`, since average alone is the
// detector. Behind `state` stands what the radio was doing, to the end of the line. The error is a
// *problem.Error on the field "text".
func ReadLine(text string) (Line, error) {
	out := Line{Says: []string{}}
	text = toldUnits.ReplaceAllString(text, "$1$3$2$4 ")
	words := strings.Fields(text)
	var look []string
	for i := 0; i < len(words); i++ {
		w := strings.ToLower(words[i])
		value := func() (string, error) {
			if i++; i >= len(words) {
				return "", problem.New("text", "%s what? give it behind the word", w)
			}
			return strings.ToLower(words[i]), nil
		}
		figure := func(to **float64, unit string) error {
			v, err := value()
			if err != nil {
				return err
			}
			f, err := units.ParseNumber(strings.TrimSuffix(v, strings.ToLower(unit)))
			if err != nil {
				return problem.New("text", "%s: give a figure in %s", w, unit)
			}
			*to = &f
			return nil
		}
		var err error
		switch {
		case w == "rbw":
			var v string
			if v, err = value(); err == nil {
				err = out.Told.bandwidth(v)
			}
		case slices.Contains([]string{"peak", "rms", "average", "sample"}, w):
			out.Told.Detector = w
		case w == "max" || w == "single":
			out.Told.Hold = w
		case w == "hold":
			if out.Told.Hold, err = value(); err == nil && !slices.Contains([]string{"single", "max", "average"}, out.Told.Hold) {
				err = problem.New("text", "hold is single, max or average")
			}
		case w == "bare" || w == "modulated":
			out.Told.Modulated = w
		case w == "held":
			err = figure(&out.Told.HeldS, "s")
		case toldSeconds.MatchString(w):
			v, perr := units.ParseNumber(w[:len(w)-1])
			if perr != nil {
				err = problem.New("text", "%v", perr)
			}
			out.Told.HeldS = &v
		case w == "offset":
			err = figure(&out.Told.OffsetDB, "dB")
		case w == "preamp":
			if out.Told.PreAmplifier, err = value(); err == nil && out.Told.PreAmplifier != "on" && out.Told.PreAmplifier != "off" {
				err = problem.New("text", "preamp is on or off")
			}
		case w == "heard":
			out.Told.Heard = true
		case w == "state":
			out.Told.State = strings.Join(words[i+1:], " ")
			i = len(words)
			if out.Told.State == "" {
				err = problem.New("text", "state what? say what the radio was doing, such as standby")
			}
		default:
			look = append(look, words[i])
		}
		if err != nil {
			return Line{}, err
		}
	}
	out.Look, out.Says = strings.Join(look, " "), out.Told.words()
	return out, nil
}

func (t *Told) bandwidth(word string) error {
	m := toldBandwidth.FindStringSubmatch(word)
	if m == nil {
		return problem.New("text", "rbw: give the resolution bandwidth, such as 100k")
	}
	exp := map[string]int{"hz": 0, "": 3, "k": 3, "khz": 3, "m": 6, "mhz": 6}[strings.ToLower(m[2])]
	hz, err := units.ParseScaled(strings.Replace(m[1], ",", ".", 1), exp)
	if err != nil || !(hz > 0) {
		return problem.New("text", "rbw: give the resolution bandwidth, such as 100k")
	}
	t.RBWHz = &hz
	return nil
}

// words say what is told, each with its unit.
func (t *Told) words() []string {
	out := []string{}
	if t.RBWHz != nil {
		out = append(out, "RBW "+units.Hertz(*t.RBWHz).String())
	}
	if t.Detector != "" {
		out = append(out, t.Detector+" detector")
	}
	if t.Hold != "" {
		out = append(out, t.Hold+" hold")
	}
	if t.Modulated != "" {
		out = append(out, t.Modulated+" carrier")
	}
	if t.HeldS != nil {
		out = append(out, fmt.Sprintf("held %g s", *t.HeldS))
	}
	if t.OffsetDB != nil {
		out = append(out, fmt.Sprintf("the screen adds %g dB", *t.OffsetDB))
	}
	if t.PreAmplifier != "" {
		out = append(out, "pre-amplifier "+t.PreAmplifier)
	}
	if t.State != "" {
		out = append(out, "state: "+t.State)
	}
	if t.Heard {
		out = append(out, "heard in its own receiver")
	}
	return out
}
