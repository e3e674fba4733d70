package battery

import (
	"fmt"
	"regexp"
	"strings"

	"talloak/core/problem"
	"talloak/core/units"
)

// unitS is what a unit of time is worth, in s.
var unitS = map[string]float64{"s": 1, "min": 60, "h": 3600}

var (
	figure  = regexp.MustCompile(`(?i)^([0-9.,]+)(s|min|h|v|a|ma)?$`)
	clock   = regexp.MustCompile(`^(\d+):([0-5]\d)(?::([0-5]\d))?$`)
	columns = []*regexp.Regexp{regexp.MustCompile(`(?i)\b(t|time|elapsed)\b|time`), regexp.MustCompile(`(?i)volt|\bv\b|^u\b`), regexp.MustCompile(`(?i)amp|curr|\bm?a\b|^i\b`)}
)

const triples = "a line of time in minutes, volts and amps, such as 0 8.3 1.4; as many behind each other as were read"

// mostPoints is the longest log that is read.
const mostPoints = 100_000

// ReadLines reads points as they are typed, three figures each: a time in the unit, V and A. Errors
// are on "text".
func ReadLines(text, unit string) ([]Point, error) {
	words := strings.Fields(text)
	if len(words) == 0 || len(words)%3 != 0 {
		return nil, problem.New("text", "give %s", triples)
	}
	var out []Point
	for i := 0; i < len(words); i += 3 {
		p, err := point(words[i:i+3], unit, 1)
		if err != nil {
			return nil, problem.New("text", "%s: give %s", err.Error(), triples)
		}
		out = append(out, p)
	}
	return out, nil
}

// ReadFile reads a log: rows of time, V and A parted by comma, semicolon, tab or blanks, in that
// order or as a line of headings says, which may name the units. The unit of time is told where the
// file does not say it; a time such as 0:30:00 needs none. Errors are on "file" and "unit".
func ReadFile(text, unit string) ([]Point, error) {
	order, amp, headed := []int{0, 1, 2}, 1.0, false
	var out []Point
	for n, line := range strings.Split(strings.ReplaceAll(strings.TrimPrefix(text, "\ufeff"), "\r", ""), "\n") {
		cells := cut(line)
		if len(cells) == 0 {
			continue
		}
		if len(out) == 0 && !strings.ContainsAny(cells[0][:1], "0123456789") {
			if at := headings(cells); at != nil {
				order, headed = at, true
				if strings.Contains(strings.ToLower(cells[at[2]]), "ma") {
					amp = 1e-3
				}
				if said := timeUnit(cells[at[0]]); unit == "" {
					unit = said
				}
			}
			continue
		}
		if len(cells) < 3 {
			return nil, problem.New("file", "line %d has %d columns: give time, volts and amps", n+1, len(cells))
		}
		var row [3]string
		for i, at := range order {
			if at >= len(cells) {
				return nil, problem.New("file", "line %d has no column %d", n+1, at+1)
			}
			row[i] = cells[at]
		}
		if unit == "" && !clock.MatchString(row[0]) {
			return nil, problem.New("unit", "the file does not say whether its time is in s, min or h: tell it")
		}
		p, err := point(row[:], unit, amp)
		if err != nil {
			return nil, problem.New("file", "line %d: %s", n+1, err.Error())
		}
		if out = append(out, p); len(out) > mostPoints {
			return nil, problem.New("file", "give at most %d lines", mostPoints)
		}
	}
	if len(out) == 0 {
		what := "there is no line of time, volts and amps in it"
		if headed {
			what = "there is nothing under its headings"
		}
		return nil, problem.New("file", "%s", what)
	}
	return out, nil
}

// cut parts a line into its cells: a decimal comma where cells are parted by something else.
func cut(line string) []string {
	sep := ""
	for _, s := range []string{";", "\t"} {
		if sep == "" && strings.Contains(line, s) {
			sep = s
		}
	}
	if sep == "" && strings.Contains(line, ",") && (strings.Contains(line, ".") || strings.Count(line, ",") >= 2) && !strings.Contains(strings.TrimSpace(line), " ") {
		sep = ","
	}
	var cells []string
	switch {
	case sep != "":
		cells = strings.Split(line, sep)
	case strings.Contains(line, ", "):
		cells = strings.Split(line, ", ")
	default:
		cells = strings.Fields(line)
	}
	for i := range cells {
		cells[i] = strings.Trim(strings.TrimSpace(cells[i]), `"'`)
	}
	if len(cells) == 0 || strings.Join(cells, "") == "" || cells[0] == "" {
		return nil
	}
	return cells
}

// headings tell which column is the time, the voltage and the current; nil where they do not.
func headings(cells []string) []int {
	out := []int{-1, -1, -1}
	for i, c := range cells {
		for k, known := range columns {
			if out[k] < 0 && known.MatchString(c) {
				out[k] = i
				break
			}
		}
	}
	if out[0] < 0 || out[1] < 0 || out[2] < 0 {
		return nil
	}
	return out
}

var named = []struct {
	unit string
	as   *regexp.Regexp
}{{"min", regexp.MustCompile(`(?i)\bmin`)}, {"h", regexp.MustCompile(`(?i)\b(h|hours?|hrs?)\b`)}, {"s", regexp.MustCompile(`(?i)\b(s|secs?|seconds?)\b`)}}

// timeUnit is the unit that a heading names; empty where it names none.
func timeUnit(heading string) string {
	for _, u := range named {
		if u.as.MatchString(strings.NewReplacer("_", " ", "(", " ", ")", " ", "[", " ", "]", " ").Replace(heading)) {
			return u.unit
		}
	}
	return ""
}

// point reads time, volts and amps; amp is what a current without a unit is worth in A.
func point(row []string, unit string, amp float64) (Point, error) {
	var out Point
	if m := clock.FindStringSubmatch(row[0]); m != nil {
		for _, part := range m[1:] {
			n := 0.0
			if part == "" {
				part = "0"
			}
			if _, err := fmt.Sscanf(part, "%g", &n); err != nil {
				return out, fmt.Errorf("%q is no time", row[0])
			}
			out.TS = out.TS*60 + n
		}
	} else {
		v, u, err := number(row[0])
		if u == "" {
			u = unit
		}
		if err != nil || unitS[u] == 0 {
			return out, fmt.Errorf("%q is no time", row[0])
		}
		out.TS = v * unitS[u]
	}
	v, u, err := number(row[1])
	if err != nil || u != "" && u != "v" {
		return out, fmt.Errorf("%q are no volts", row[1])
	}
	out.V = v
	a, u, err := number(row[2])
	if err != nil || u != "" && u != "a" && u != "ma" {
		return out, fmt.Errorf("%q are no amps", row[2])
	}
	switch u {
	case "ma":
		a *= 1e-3
	case "":
		a *= amp
	}
	out.A = a
	return out, nil
}

func number(word string) (v float64, unit string, err error) {
	m := figure.FindStringSubmatch(word)
	if m == nil {
		return 0, "", fmt.Errorf("%q is no figure", word)
	}
	v, err = units.ParseNumber(m[1])
	return v, strings.ToLower(m[2]), err
}

// readDuty reads a draw and its shares of time, each transmitting, receiving and standing by, such as
// 1.4/0.2/0.05 in A and 5/5/90; nil where no draw is told. Errors are on "draw" and "share".
func readDuty(draw, share string) (*Duty, error) {
	if strings.TrimSpace(draw) == "" {
		return nil, nil
	}
	if strings.TrimSpace(share) == "" {
		share = usualShare
	}
	amps, errA := three(draw)
	shares, errS := three(share)
	var bad problem.List
	if errA != nil {
		bad.Add("draw", "%s: give what it draws in A transmitting, receiving and standing by, such as 1.4/0.2/0.05", errA.Error())
	}
	if errS != nil {
		bad.Add("share", "%s: give the shares of time transmitting, receiving and standing by, such as %s", errS.Error(), usualShare)
	}
	return &Duty{TxA: amps[0], RxA: amps[1], StandbyA: amps[2], Share: shares}, bad.Err()
}

// usualShare is how a handheld's time is mostly divided where nobody says (common practice, no source).
const usualShare = "5/5/90"

func three(text string) (out [3]float64, err error) {
	parts := strings.FieldsFunc(text, func(r rune) bool { return r == '/' || r == ' ' })
	if len(parts) != 3 {
		return out, fmt.Errorf("%q are not three figures", text)
	}
	for i, p := range parts {
		if out[i], err = units.ParseNumber(strings.TrimRight(strings.ToLower(p), "a%")); err != nil {
			return out, err
		}
	}
	return out, nil
}
