package sweep

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"regexp"
	"strings"

	"talloak/core/units"
)

// layout is how the rows of a CSV are written.
type layout struct {
	delimiter  byte // ' ' for any run of spaces
	comma      bool // decimal comma
	freqCol    int
	levelCol   int
	columns    int
	levelName  string
	exp10      int // decimal exponent of the frequency unit
	guessed    string
	levelShift float64 // added to levels to make them dBm
}

var unitExponents = []struct {
	name  string
	exp10 int
}{{"ghz", 9}, {"mhz", 6}, {"khz", 3}, {"hz", 0}}

var unitWord = regexp.MustCompile(`(?i)(?:^|[^a-z])(ghz|mhz|khz|hz)(?:$|[^a-z])`)

// unitIn is the decimal exponent of the frequency unit named in s, or -1.
func unitIn(s string) int {
	m := unitWord.FindStringSubmatch(s)
	if m == nil {
		return -1
	}
	for _, u := range unitExponents {
		if strings.EqualFold(m[1], u.name) {
			return u.exp10
		}
	}
	return -1
}

// sniff learns the layout from a line if it is a row of at least two numbers.
func sniff(line string) (layout, bool) {
	for _, delimiter := range []byte{'\t', ';', ',', ' '} {
		cells := split(line, delimiter)
		if len(cells) < 2 {
			continue
		}
		lay := layout{delimiter: delimiter, levelCol: 1, columns: len(cells), exp10: -1}
		decimal := func(cell string) bool {
			number, rest := cutNumber(strings.TrimSpace(cell))
			if strings.Contains(number, ",") {
				lay.comma = true
				number = strings.Replace(number, ",", ".", 1)
			}
			_, err := units.ParsePointNumber(number)
			rest = strings.TrimSpace(rest)
			return err == nil && (rest == "" || unitIn(rest) >= 0 || strings.EqualFold(rest, "dbm"))
		}
		if decimal(cells[0]) && decimal(cells[1]) {
			return lay, true
		}
	}
	return layout{}, false
}

func split(line string, delimiter byte) []string {
	if delimiter == ' ' {
		return strings.Fields(line)
	}
	cells := strings.Split(line, string(delimiter))
	for i, c := range cells {
		cells[i] = strings.Trim(strings.TrimSpace(c), `"`)
	}
	return cells
}

// splitAny splits a header line at whichever mark it has.
func splitAny(line string) []string {
	for _, delimiter := range []byte{'\t', ';', ',', ':', '='} {
		if cells := split(line, delimiter); len(cells) > 1 {
			return cells
		}
	}
	return []string{strings.TrimSpace(line)}
}

// fromHeader takes columns and units from the header lines, the last that
// names them, and refuses rows that could be read in two ways.
func (lay *layout) fromHeader(header [][]string, first string, number int) error {
	named := len(header) > 0 && len(header[len(header)-1]) == lay.columns // every column has a name
	if lay.delimiter == ',' && !named && ambiguousCommas(split(first, ',')) {
		return fmt.Errorf("line %d: commas part the columns and may be decimal marks too; use semicolons or decimal points", number)
	}
	cells := split(first, lay.delimiter)
	if u := unitIn(cells[0]); u >= 0 {
		lay.exp10 = u
	}
	for i := len(header) - 1; i >= 0; i-- {
		row := header[i]
		named := false
		for c, cell := range row {
			if strings.Contains(strings.ToLower(cell), "freq") && c < lay.columns {
				lay.freqCol, named = c, true
				if u := unitIn(cell); u >= 0 {
					lay.exp10 = u
				}
				break
			}
		}
		if u := unitIn(row[0]); !named && u >= 0 && i == len(header)-1 && len(row) >= 2 && !isSetting(row[0]) {
			lay.exp10, named = u, true
		}
		if named && len(row) >= 2 {
			return lay.levelColumn(row, number-len(header)+i)
		}
	}
	return nil
}

// isSetting tells a line of an instrument's settings from column names.
func isSetting(name string) bool {
	n := strings.ToLower(name)
	for _, word := range []string{"start", "stop", "span", "cent", "rbw", "vbw", "bandwidth", "step"} {
		if strings.Contains(n, word) {
			return true
		}
	}
	return false
}

func (lay *layout) levelColumn(row []string, number int) error {
	lay.levelCol = 1
	if lay.freqCol == 1 {
		lay.levelCol = 0
	}
	for c, cell := range row {
		if c == lay.freqCol || c >= lay.columns {
			continue
		}
		name := strings.ToLower(cell)
		if strings.Contains(name, "dbm") || strings.Contains(name, "level") || strings.Contains(name, "ampl") || strings.Contains(name, "power") {
			lay.levelCol = c
			break
		}
	}
	if lay.levelCol >= len(row) {
		return nil
	}
	lay.levelName = row[lay.levelCol]
	name := strings.ToLower(strings.NewReplacer("µ", "u", "μ", "u").Replace(lay.levelName))
	switch {
	case strings.Contains(name, "dbuv"):
		dbm := 0.0
		if c, err := units.Convert(units.Quantity{Value: 0, Unit: units.DBuV}); err == nil {
			dbm = *c.DBm
		}
		lay.levelShift = dbm
	case strings.Contains(name, "dbmv"), strings.Contains(name, "(w)"), strings.Contains(name, "(v)"), strings.Contains(name, "dbw"):
		return fmt.Errorf("line %d: levels are in %q; give them in dBm or dBuV", max(1, number), lay.levelName)
	}
	return nil
}

// ambiguousCommas tells whether cells parted by commas could be numbers with a
// decimal comma: three or four whole numbers whose every second has no sign.
func ambiguousCommas(cells []string) bool {
	if len(cells) != 3 && len(cells) != 4 {
		return false
	}
	for _, c := range cells {
		if c == "" || strings.ContainsAny(c, ".eE") {
			return false
		}
	}
	unsigned := func(c string) bool { return c[0] != '-' && c[0] != '+' }
	if len(cells) == 4 {
		return unsigned(cells[1]) && unsigned(cells[3])
	}
	return unsigned(cells[2]) || unsigned(cells[1])
}

// row reads frequency and level of one line.
func (lay *layout) row(line []byte) (f, l float64, err error) {
	cells := split(string(line), lay.delimiter)
	if len(cells) <= max(lay.freqCol, lay.levelCol) {
		return 0, 0, fmt.Errorf("there are %d columns where at least %d belong", len(cells), max(lay.freqCol, lay.levelCol)+1)
	}
	if lay.delimiter == ',' && ambiguousCommas(cells) && lay.columns != len(cells) {
		return 0, 0, fmt.Errorf("there are %d columns where the first row has %d", len(cells), lay.columns)
	}
	if f, err = lay.number(cells[lay.freqCol], true); err != nil {
		return 0, 0, err
	}
	l, err = lay.number(cells[lay.levelCol], false)
	return f, l, err
}

func (lay *layout) number(cell string, frequency bool) (float64, error) {
	number, rest := cutNumber(strings.TrimSpace(cell))
	if lay.comma {
		number = strings.Replace(number, ",", ".", 1)
	}
	exp10 := 0
	rest = strings.TrimSpace(rest)
	switch u := unitIn(rest); {
	case frequency && rest == "":
		exp10 = max(0, lay.exp10)
	case frequency && u >= 0:
		exp10 = u
	case rest != "" && (frequency || !strings.EqualFold(rest, "dbm")):
		return 0, fmt.Errorf("%q is not a number", cell)
	}
	return units.ParseScaled(number, exp10)
}

// quick tells whether quickRow may be tried on rows of this layout.
func (lay *layout) quick() bool { return lay.delimiter != ' ' && lay.freqCol == 0 && lay.levelCol == 1 }

// quickRow reads the two leading numbers of the common case from the start of
// b without allocating, and tells how long the line is with its end.
func (lay *layout) quickRow(b []byte) (f, l float64, length int, ok bool) {
	mark := byte('.')
	if lay.comma {
		mark = ','
	}
	f, n, ok := quickNumber(b, mark, max(0, lay.exp10))
	if !ok || n >= len(b) || b[n] != lay.delimiter {
		return 0, 0, 0, false
	}
	n++
	l, m, ok := quickNumber(b[n:], mark, 0)
	n += m
	switch {
	case !ok:
	case n == len(b):
		return f, l, n, true
	case b[n] == '\n':
		return f, l, n + 1, true
	case b[n] == '\r' && n+1 < len(b) && b[n+1] == '\n':
		return f, l, n + 2, true
	case b[n] == lay.delimiter:
		if end := bytes.IndexByte(b[n:], '\n'); end >= 0 {
			return f, l, n + end + 1, true
		}
		return f, l, len(b), true
	}
	return 0, 0, 0, false
}

var powersOfTen = [...]float64{1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22}

// quickNumber reads [-+]digits[mark digits] times 10^exp10 from the start of b.
// It is exact: a whole number below 2^53 times or over a power of ten up to
// 10^22 rounds once. Anything else is left to the slow way (not ok).
func quickNumber(b []byte, mark byte, exp10 int) (v float64, n int, ok bool) {
	for n < len(b) && b[n] == ' ' {
		n++
	}
	negative := false
	if n < len(b) && (b[n] == '-' || b[n] == '+') {
		negative = b[n] == '-'
		n++
	}
	var whole uint64
	start, point := n, -1
	if n+8 <= len(b) {
		if eight, all := eightDigits(b[n:]); all {
			whole, n = eight, n+8
		}
	}
	for ; n < len(b); n++ {
		if d := b[n] - '0'; d <= 9 {
			whole = whole*10 + uint64(d)
		} else if b[n] == mark && point < 0 {
			point = n
		} else {
			break
		}
	}
	digits := n - start
	if point >= 0 {
		digits--
		exp10 -= n - point - 1
	}
	if digits == 0 || digits > 18 || whole >= 1<<53 || exp10 > 22 || exp10 < -22 {
		return 0, 0, false
	}
	v = float64(whole)
	if exp10 >= 0 {
		v *= powersOfTen[exp10]
	} else {
		v /= powersOfTen[-exp10]
	}
	if negative {
		v = -v
	}
	return v, n, true
}

// eightDigits reads eight digits at once: all bytes of a word side by side,
// pairs, then fours, then eights.
func eightDigits(b []byte) (v uint64, all bool) {
	x := binary.LittleEndian.Uint64(b)
	const highs, sixes = 0xf0f0f0f0f0f0f0f0, 0x0606060606060606
	if x&highs|(x+sixes)&highs>>4 != 0x3333333333333333 {
		return 0, false
	}
	x = (x & 0x0f0f0f0f0f0f0f0f) * (10<<8 + 1) >> 8
	x = (x & 0x00ff00ff00ff00ff) * (100<<16 + 1) >> 16
	return (x & 0x0000ffff0000ffff) * (10000<<32 + 1) >> 32, true
}

// guessUnit is the factor to Hz where no unit was said: by the highest
// frequency, if only one unit makes sense of it.
func (lay *layout) guessUnit(highest float64) (float64, error) {
	if lay.exp10 >= 0 {
		return 1, nil
	}
	switch {
	case highest >= 1e6:
		lay.guessed = "Hz"
		return 1, nil
	case highest >= 30 && highest <= 30e3:
		lay.guessed = "MHz"
		return 1e6, nil
	case highest < 30 && highest >= 0.03:
		lay.guessed = "GHz"
		return 1e9, nil
	}
	return 0, fmt.Errorf("the frequencies have no unit and go up to %g; name Hz, kHz, MHz or GHz in a header line", highest)
}

// taken says in words what was read as what.
func (lay *layout) taken() string {
	unit := lay.guessed + " (not said, taken from the size)"
	for _, u := range unitExponents {
		if u.exp10 == lay.exp10 {
			unit = strings.Replace(strings.ToUpper(u.name), "HZ", "Hz", 1)
			unit = strings.Replace(unit, "KHz", "kHz", 1)
		}
	}
	level := fmt.Sprintf("column %d", lay.levelCol+1)
	if lay.levelName != "" {
		level += fmt.Sprintf(" %q", lay.levelName)
	}
	in := "dBm"
	if lay.levelShift != 0 {
		in = fmt.Sprintf("dBuV, %+.2f dB to dBm", lay.levelShift)
	}
	return fmt.Sprintf("frequency from column %d in %s, level from %s of %d in %s", lay.freqCol+1, unit, level, lay.columns, in)
}
