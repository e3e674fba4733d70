package sweep

import (
	"bytes"
	"fmt"
	"regexp"
	"slices"
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
	hold       string // that the column of levels is named after
	exp10      int    // decimal exponent of the frequency unit
	guessed    string
	levelShift float64 // added to levels to make them dBm
	normalised bool    // levels are below the carrier, in dBc
	named      bool    // a header line names the frequencies
	alone      bool    // a row is a level and nothing else
	spread     bool    // frequencies lie evenly between those of the header lines
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
		if delimiter == ' ' && strings.Contains(line, ";") {
			continue // spaces part the digits of a number
		}
		decimal := func(cell string) bool {
			number, rest := cutNumber(ungroup(cell))
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
func (lay *layout) fromHeader(header [][]string, unit, first string, number int) error {
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
			if strings.Contains(strings.ToLower(cell), "freq") && !isSetting(cell) && c < lay.columns {
				lay.freqCol, named = c, true
				lay.exp10 = max(lay.exp10, unitIn(cell), unitBelow(header[i+1:], c))
				break
			}
		}
		if u := unitIn(row[0]); !named && u >= 0 && i == len(header)-1 && len(row) >= 2 && !isSetting(row[0]) {
			lay.exp10, named = u, true
		}
		lay.named = lay.named || named
		if named && len(row) >= 2 {
			return lay.levelColumn(lay.names(header, row), unit, number-len(header)+i)
		}
	}
	return lay.unitOver(header, unit, number)
}

// amount is a figure with its unit, which names no column.
var amount = regexp.MustCompile(`(?i)\d\s*(db|[munµμ]?[wv]\b)`)

// unitOver goes by the unit over the column of levels where no line names the frequencies,
// else by that of a setting.
func (lay *layout) unitOver(header [][]string, unit string, number int) error {
	if n := len(header); n > 0 && len(header[n-1]) == lay.columns && !isSetting(header[n-1][0]) {
		if over := header[n-1][lay.levelCol]; levelWord.MatchString(over) && !amount.MatchString(over) {
			return lay.levelUnit(over, number)
		}
	}
	return lay.levelUnit(unit, number)
}

// unitsOnly is a row that has units and no names.
var unitsOnly = regexp.MustCompile(`(?i)^[\s()\[\]]*((ghz|mhz|khz|hz|dbm|dbc|db[uµμ]v|dbmv|dbw|deg|s|-)[\s()\[\]]*)+$`)

// names are those of the columns, where a row of units stands under a row of names too.
func (lay *layout) names(header [][]string, row []string) []string {
	out := slices.Clone(row)
	if len(header) < 2 || len(row) != lay.columns {
		return out
	}
	a, b := header[len(header)-2], header[len(header)-1]
	if len(a) == lay.columns && len(b) == lay.columns && !isSetting(a[0]) && unitsOnly.MatchString(strings.Join(b, " ")) {
		for i := range out {
			out[i] = strings.TrimSpace(a[i] + " " + b[i])
		}
	}
	return out
}

// unitBelow is the frequency unit in a row of units under the column's name, or -1.
func unitBelow(rows [][]string, column int) int {
	for _, row := range rows {
		if column < len(row) && unitIn(row[column]) >= 0 {
			return unitIn(row[column])
		}
	}
	return -1
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

// Columns that stand beside a trace and are none, and those whose lines read low.
var (
	noTrace  = regexp.MustCompile(`limit|mask|margin|delta|reference|threshold`)
	lowTrace = regexp.MustCompile(`min|avg|average|mean`)
)

// levelColumn takes the column of levels: one in dBm before others, a held one before
// averages and minima, in which lines read low, and never a limit drawn beside it.
func (lay *layout) levelColumn(row []string, unit string, number int) error {
	lay.levelCol = 1
	if lay.freqCol == 1 {
		lay.levelCol = 0
	}
	below := !slices.ContainsFunc(row, func(cell string) bool { return strings.Contains(strings.ToLower(cell), "dbm") })
	best := 0
	for c, cell := range row {
		if c == lay.freqCol || c >= lay.columns {
			continue
		}
		name, rank := strings.ToLower(cell), 0
		switch {
		case noTrace.MatchString(name):
			rank = -1
		case strings.Contains(name, "dbm") || below && strings.Contains(name, "dbc") || strings.Contains(name, "level") || strings.Contains(name, "ampl") || strings.Contains(name, "power"):
			rank = 3
		case c == lay.levelCol:
			rank = 1
		}
		if rank > 1 && lowTrace.MatchString(name) {
			rank = 2
		}
		if rank > best {
			lay.levelCol, best = c, rank
		}
	}
	if lay.levelCol >= len(row) {
		return lay.levelUnit(unit, number)
	}
	if lay.levelName = row[lay.levelCol]; noTrace.MatchString(strings.ToLower(lay.levelName)) {
		return fmt.Errorf("line %d: %q is no trace; name a column of levels in dBm", max(1, number), lay.levelName)
	}
	lay.hold = firstOf(strings.ToLower(lay.levelName), map[string]string{"max": "max", "maxhold": "max", "avg": "average", "average": "average"})
	if !levelWord.MatchString(lay.levelName) {
		return lay.levelUnit(unit, number)
	}
	return lay.levelUnit(lay.levelName, number)
}

// levelWord is a unit of levels.
var levelWord = regexp.MustCompile(`(?i)(?:^|[^a-z])(dbm|dbc|db[uµμ]v|dbmv|dbw|[munµμ]?[wv])(/m)?(?:$|[^a-z])`)

// levelUnit goes by the unit named in s; dBm where none is.
func (lay *layout) levelUnit(s string, number int) error {
	m := levelWord.FindStringSubmatch(s)
	if m == nil {
		return nil
	}
	switch unit := strings.NewReplacer("µ", "u", "μ", "u").Replace(strings.ToLower(m[1])); {
	case m[2] != "":
		return fmt.Errorf("line %d: levels are in %q, a field strength: what leaves the antenna connector cannot be told from it", max(1, number), s)
	case unit == "dbc":
		lay.normalised = true
	case unit == "dbuv":
		c, err := units.Convert(units.Quantity{Value: 0, Unit: units.DBuV})
		if err != nil {
			return err
		}
		lay.levelShift = *c.DBm
	case unit != "dbm":
		return fmt.Errorf("line %d: levels are in %q; give them in dBm or dBuV", max(1, number), s)
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
	number, rest := cutNumber(ungroup(cell))
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
func (lay *layout) quick() bool {
	return !lay.alone && lay.delimiter != ' ' && lay.freqCol == 0 && lay.levelCol == 1
}

// quickRow reads the two leading numbers of the common case from the start of
// b without allocating, and tells how long the line is with its end. A number
// is digits[mark digits], the level with a sign or spaces before it; anything
// else is left to the slow way (not ok). Both are written out here: a call for
// each number would cost as much as reading it.
func (lay *layout) quickRow(b []byte) (f, l float64, length int, ok bool) {
	mark, i := byte('.'), 0
	if lay.comma {
		mark = ','
	}
	var whole uint64
	for ; i < len(b) && b[i]-'0' <= 9; i++ {
		whole = whole*10 + uint64(b[i]-'0')
	}
	digits, exp10 := i, max(0, lay.exp10)
	if i < len(b) && b[i] == mark {
		for i++; i < len(b) && b[i]-'0' <= 9; i++ {
			whole = whole*10 + uint64(b[i]-'0')
		}
		exp10 -= i - 1 - digits
		digits = i - 1
	}
	if f, ok = exactly(whole, digits, exp10); !ok || i >= len(b) || b[i] != lay.delimiter {
		return 0, 0, 0, false
	}
	for i++; i < len(b) && b[i] == ' '; i++ {
	}
	negative := i < len(b) && b[i] == '-'
	if negative {
		i++
	}
	start := i
	for whole = 0; i < len(b) && b[i]-'0' <= 9; i++ {
		whole = whole*10 + uint64(b[i]-'0')
	}
	digits, exp10 = i-start, 0
	if i < len(b) && b[i] == mark {
		for i++; i < len(b) && b[i]-'0' <= 9; i++ {
			whole = whole*10 + uint64(b[i]-'0')
		}
		exp10 = digits - (i - 1 - start)
		digits = i - 1 - start
	}
	if l, ok = exactly(whole, digits, exp10); !ok {
		return 0, 0, 0, false
	}
	if negative {
		l = -l
	}
	switch {
	case i == len(b):
		return f, l, i, true
	case b[i] == '\n':
		return f, l, i + 1, true
	case b[i] == '\r' && i+1 < len(b) && b[i+1] == '\n':
		return f, l, i + 2, true
	case b[i] == lay.delimiter:
		if end := bytes.IndexByte(b[i:], '\n'); end >= 0 {
			return f, l, i + end + 1, true
		}
		return f, l, len(b), true
	}
	return 0, 0, 0, false
}

var powersOfTen = [...]float64{1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22}

// exactly is whole x 10^exp10 where that is sure to be the nearest float: a
// whole number below 2^53 times or over a power of ten up to 10^22 rounds once.
func exactly(whole uint64, digits, exp10 int) (float64, bool) {
	if uint(digits-1) >= 18 || whole >= 1<<53 || uint(exp10+22) > 44 {
		return 0, false
	}
	if exp10 < 0 {
		return float64(int64(whole)) / powersOfTen[-exp10], true
	}
	return float64(int64(whole)) * powersOfTen[exp10], true
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
	if lay.normalised {
		in = "dBc, below its own carrier"
	}
	if lay.levelShift != 0 {
		in = fmt.Sprintf("dBuV, %+.2f dB to dBm", lay.levelShift)
	}
	if lay.spread {
		return fmt.Sprintf("frequencies evenly between those of the header lines, level from %s of %d in %s", level, lay.columns, in)
	}
	return fmt.Sprintf("frequency from column %d in %s, level from %s of %d in %s", lay.freqCol+1, unit, level, lay.columns, in)
}
