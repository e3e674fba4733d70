package deviation

import (
	"regexp"
	"strconv"
	"strings"

	"talloak/core/problem"
	"talloak/core/units"
)

var (
	figure = regexp.MustCompile(`^([+-]?)([0-9.,]+)(Hz|kHz)?$`)
	depth  = regexp.MustCompile(`^-?([0-9.,]+)dB$`)
	worth  = map[string]float64{"Hz": 1, "kHz": 1e3}
)

const examples = "what the meter shows in kHz, such as +4.6 -4.3; or the tone at the carrier's null, such as null 2079; or lines, such as lines 1000 -20.1 -14.2 -18 -27.5"

// Read reads a line into the way it tells: both sides or one of a meter, in kHz where no unit is
// typed; "null", which one where it is not the first, the tone in Hz, and how deep it is in dB;
// "lines", the tone in Hz, then levels in dBm, the carrier first, - where none was read. The digit
// typed last is the meter's resolution. Errors are on "text".
func Read(text string) (Input, error) {
	words := strings.Fields(strings.ReplaceAll(text, "\u2212", "-"))
	if len(words) == 0 {
		return Input{}, problem.New("text", "give %s", examples)
	}
	switch words[0] {
	case "null":
		return readNull(words[1:])
	case "lines":
		return readLines(words[1:])
	}
	return readSides(words)
}

func readSides(words []string) (Input, error) {
	unit := ""
	if last := words[len(words)-1]; worth[last] > 0 {
		unit, words = last, words[:len(words)-1]
	}
	var parts [][]string
	for _, w := range words {
		m := figure.FindStringSubmatch(w)
		if m == nil {
			return Input{}, problem.New("text", "%q is not understood: give %s", w, examples)
		}
		if m[3] != "" {
			if unit != "" && unit != m[3] {
				return Input{}, problem.New("text", "give both sides in one unit, kHz or Hz")
			}
			unit = m[3]
		}
		parts = append(parts, m)
	}
	if unit == "" {
		unit = "kHz"
	}
	var in Input
	for _, m := range parts {
		v, err := units.ParseNumber(m[2])
		if err != nil {
			return Input{}, problem.New("text", "%s", err.Error())
		}
		v *= worth[unit]
		side := &in.Plus
		if m[1] == "-" {
			side = &in.Minus
		}
		if *side != nil {
			return Input{}, problem.New("text", "give one figure of each side, such as +4.6 -4.3")
		}
		if !(v > 0 && v <= mostHz) {
			return Input{}, problem.New("text", "%s is no deviation of a channel: give more than 0 and at most 75 kHz, and Hz where it is in Hz", units.Hertz(v))
		}
		*side = &v
		step := worth[unit]
		if _, after, ok := strings.Cut(strings.Replace(m[2], ",", ".", 1), "."); ok {
			for range after {
				step /= 10
			}
		}
		if in.ResolutionHz == nil || step > *in.ResolutionHz {
			in.ResolutionHz = &step
		}
	}
	return in, nil
}

// mostHz is the widest deviation of any FM service, that of broadcasting (common practice, no source).
const mostHz = 75e3

func readNull(words []string) (Input, error) {
	first := 1
	in := Input{Null: &first}
	if len(words) > 1 {
		if n, err := strconv.Atoi(words[0]); err == nil && n <= mostNull {
			in.Null, words = &n, words[1:]
		}
	}
	if len(words) == 2 {
		m := depth.FindStringSubmatch(words[1])
		if m == nil {
			return Input{}, problem.New("text", "%q is not understood: how far the carrier lies under the unmodulated one is in dB, such as 40dB", words[1])
		}
		v, err := units.ParseNumber(m[1])
		if err != nil {
			return Input{}, problem.New("text", "%s", err.Error())
		}
		in.NullDepthDB, words = &v, words[:1]
	}
	if len(words) != 1 {
		return Input{}, problem.New("text", "give the tone at which the carrier vanishes, such as null 2079, or null 2 906Hz 40dB")
	}
	return in, in.readTone(words[0])
}

func readLines(words []string) (Input, error) {
	var in Input
	if len(words) < 4 {
		return in, problem.New("text", "give the tone and three lines or more, such as lines 1000 -20.1 -14.2 -18 -27.5")
	}
	if err := in.readTone(words[0]); err != nil {
		return in, err
	}
	for _, w := range words[1:] {
		if w == "-" {
			in.Lines = append(in.Lines, nil)
			continue
		}
		v, err := units.ParseNumber(strings.TrimSuffix(w, "dBm"))
		if err != nil {
			return in, problem.New("text", "%q is no level in dBm; type - where a line was not read", w)
		}
		in.Lines = append(in.Lines, &v)
	}
	return in, nil
}

// lowestTone and highestTone bound what modulates a transmitter of speech, in Hz: the lowest
// sub-audible tone is 67 Hz (common practice, no source).
const (
	lowestTone  = 20.0
	highestTone = 20e3
)

func (in *Input) readTone(word string) error {
	m := figure.FindStringSubmatch(word)
	if m == nil || m[1] != "" {
		return problem.New("text", "%q is no tone: give its frequency in Hz, such as 2079", word)
	}
	v, err := units.ParseNumber(m[2])
	if err != nil {
		return problem.New("text", "%s", err.Error())
	}
	if m[3] != "" {
		v *= worth[m[3]]
	}
	if v < lowestTone || v > highestTone {
		return problem.New("text", "a tone of %g Hz is none that modulates speech: give 20 Hz to 20 kHz", v)
	}
	in.Tone = &v
	return nil
}
