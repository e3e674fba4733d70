package sweep

import (
	"bytes"
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"talloak/core/problem"
	"talloak/core/units"
)

// MaxCSV is the largest CSV that is read, in bytes.
const MaxCSV = 64 << 20

// Import is a trace read from CSV and how it was understood. Detector and Hold are
// those its header names, empty where it does not.
type Import struct {
	Trace    Trace
	Taken    string // which columns and units were taken, in words
	Lines    int    // of the text
	Detector string // peak, rms, average, sample
	Hold     string // single, max, average

	Normalised bool // its header says that levels are below the carrier, in dBc

	// OffsetDB is what its header says was added to the levels, nil where it says nothing.
	OffsetDB *float64
}

// ParseCSV reads a sweep as instruments and people write it: header lines or
// none; columns parted by comma, semicolon, tab or spaces; decimal point or
// comma; frequencies in Hz, kHz, MHz or GHz; two columns or more; any line ends.
// A resolution bandwidth in the header lines is taken. Without a unit, the size
// of the frequencies decides (and Taken says so), or the text is refused. Levels alone, or
// beside a count of the points, lie evenly between the start and stop, or centre and span,
// of the header lines; without those they are refused.
//
// What is not evenly spaced is a list of figures.
//
// The error is a *problem.Error on the field "csv" with the line number: text
// that is no table, frequencies that do not rise, levels no analyzer
// shows, columns that could be read in two ways, more than MaxCSV.
func ParseCSV(data []byte) (Import, error) { return ParseCSVIn(data, "") }

// ParseCSVIn is ParseCSV with the unit of the frequencies told, Hz, kHz, MHz or GHz,
// whatever the text says; empty goes by the text.
func ParseCSVIn(data []byte, unit string) (Import, error) {
	if len(data) > MaxCSV {
		return Import{}, problem.New("csv", "the file is over 64 MiB")
	}
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if head := data[:min(len(data), longestHead)]; len(head) == longestHead && !bytes.ContainsAny(head, "0123456789") {
		return Import{}, problem.New("csv", "line 1: there is no figure in the first MiB; this is no table")
	}
	data = plain(data)
	if bytes.IndexByte(data, 0) >= 0 {
		return Import{}, problem.New("csv", "the file is not plain text; save it as CSV in UTF-8")
	}
	scratch := frequencyBuffers.Get().(*[]float64)
	p := csvParser{data: data, freq: (*scratch)[:0]}
	defer func() {
		*scratch = p.freq
		frequencyBuffers.Put(scratch)
	}()
	lay, err := p.findLayout()
	if u := unitIn(unit); u >= 0 {
		lay.exp10 = u
	}
	if err == nil {
		err = p.readRows(&lay)
	}
	if err != nil {
		return Import{}, problem.New("csv", "%s", err.Error())
	}
	return p.finish(lay)
}

// Doubt asks whether frequencies of the unit taken can be meant for a carrier: a
// file headed Hz that holds MHz lies far below it. Empty where they can.
func (i Import) Doubt(carrier units.Hertz) string {
	const far = 1000
	if i.Trace.Stop*far >= carrier && i.Trace.Start <= carrier*far {
		return ""
	}
	return fmt.Sprintf("the frequencies run from %s to %s, which cannot be meant for a carrier of %s: which unit are they in?", i.Trace.Start, i.Trace.Stop, carrier)
}

// frequencyBuffers are scratch: the frequencies are only checked for being even.
var frequencyBuffers = sync.Pool{New: func() any { return new([]float64) }}

type csvParser struct {
	data   []byte
	at     int // where the next line begins
	line   int // number of the line last taken
	header [][]string
	rbw    float64
	grid   grid

	detector, hold string
	unit           string // of the levels, where a header line sets it
	offset         *float64

	freq   []float64
	levels []float64
	halved bool // the text was read in halves
}

// next takes the next line without its end; false at the end of the text.
func (p *csvParser) next() ([]byte, bool) {
	if p.at >= len(p.data) {
		return nil, false
	}
	p.line++
	rest := p.data[p.at:]
	end := bytes.IndexByte(rest, '\n')
	if end < 0 {
		end = len(rest)
	}
	p.at += end + 1
	return bytes.TrimRight(rest[:end], "\r"), true
}

func isComment(line []byte) bool {
	return len(line) == 0 || line[0] == '#' || line[0] == '!' || line[0] == '%' || len(bytes.TrimSpace(line)) == 0
}

// longestHead is how far the first row of figures is looked for, in bytes.
const longestHead = 1 << 20

// findLayout reads header lines up to the first row of numbers, learns the
// layout from it, and stays in front of it.
func (p *csvParser) findLayout() (layout, error) {
	for {
		if p.at > longestHead {
			return layout{}, fmt.Errorf("line %d: no rows of frequency and level were found in the first MiB; this is no table", p.line)
		}
		start, number := p.at, p.line
		line, ok := p.next()
		if !ok {
			return layout{}, fmt.Errorf("line %d: no rows of frequency and level were found", max(1, p.line))
		}
		if len(line) > 1<<16 {
			return layout{}, fmt.Errorf("line %d: the line is over 64 KiB long; this is no table", p.line)
		}
		text := strings.TrimLeft(string(line), "#!% ")
		if !isComment(line) {
			if lay, ok := sniff(string(line)); ok {
				p.at, p.line = start, number
				return lay, lay.fromHeader(p.header, p.unit, string(line), number+1)
			}
			if lay, ok := sniffLevel(string(line)); ok && p.grid.known() {
				p.at, p.line = start, number
				return lay, lay.unitOver(p.header, p.unit, number)
			}
		}
		p.noteHeader(text)
	}
}

func (p *csvParser) noteHeader(text string) {
	if strings.TrimSpace(text) == "" {
		return
	}
	cells := splitAny(text)
	if len(p.header) < 200 {
		p.header = append(p.header, cells)
	}
	name := strings.ToLower(strings.Join(strings.Fields(cells[0]), " "))
	p.noteSettings(name, strings.ToLower(strings.Join(cells[1:], " ")))
	value := strings.Join(cells[1:], " ")
	if len(cells) == 1 {
		_, value, _ = strings.Cut(text, " ")
	}
	number, suffix := cutNumber(strings.TrimSpace(value))
	if suffix := strings.ToLower(strings.TrimSpace(suffix)); strings.Contains(name, "offset") && !strings.Contains(name, "freq") && (suffix == "" || strings.HasPrefix(suffix, "db")) {
		if v, err := units.ParseNumber(number); err == nil {
			p.offset = &v
		}
	}
	into := p.grid.named(name)
	if strings.HasPrefix(name, "rbw") || strings.HasPrefix(name, "resolution bandwidth") || strings.HasPrefix(name, "res bw") {
		into = &p.rbw
	}
	if into == nil {
		return
	}
	unit := unitIn(cells[0])
	if u := unitIn(suffix); u >= 0 {
		unit = u
	}
	if v, err := units.ParseNumber(number); err == nil && v > 0 {
		*into = v * math.Pow(10, float64(max(0, unit)))
	}
}

// noteSettings takes detector and hold from a header line that names them.
func (p *csvParser) noteSettings(name, value string) {
	switch {
	case value == "":
	case strings.HasPrefix(name, "det"):
		p.detector = firstOf(value, map[string]string{"peak": "peak", "rms": "rms", "average": "average", "avg": "average", "sample": "sample"})
	case strings.HasSuffix(strings.TrimRight(name, "s"), "unit") && levelWord.MatchString(value):
		p.unit = value
	case strings.Contains(name, "hold") || strings.HasPrefix(name, "trace"):
		p.hold = firstOf(value, map[string]string{"max": "max", "average": "average", "avg": "average", "single": "single", "clear": "single", "off": "single"})
	}
}

// firstOf is what the first known word in a text stands for; empty where it has none.
func firstOf(text string, words map[string]string) string {
	for _, w := range strings.FieldsFunc(text, func(r rune) bool { return r < 'a' || r > 'z' }) {
		if meant, ok := words[w]; ok {
			return meant
		}
	}
	return ""
}

func cutNumber(s string) (number, rest string) {
	i := strings.IndexFunc(s, func(r rune) bool { return !strings.ContainsRune("+-.,0123456789eE", r) })
	if i < 0 {
		return s, ""
	}
	return s[:i], s[i:]
}

// readRows reads every row from here on.
func (p *csvParser) readRows(lay *layout) error {
	rows := bytes.Count(p.data[min(p.at, len(p.data)):], []byte{'\n'}) + 1
	p.freq = slices.Grow(p.freq, rows)
	p.levels = make([]float64, 0, rows)
	last := math.Inf(-1)
	for p.at < len(p.data) {
		if lay.quick() {
			last = p.quickRows(lay, last)
			if p.at >= len(p.data) {
				break
			}
		}
		line, _ := p.next()
		if isComment(line) {
			continue
		}
		var f, l float64
		var err error
		if lay.alone {
			f = float64(len(p.freq))
			l, err = lay.number(bare(string(line)), false)
		} else {
			f, l, err = lay.row(line)
		}
		if err != nil {
			return fmt.Errorf("line %d: %w", p.line, err)
		}
		l += lay.levelShift
		if f <= last {
			return fmt.Errorf("line %d: frequencies must rise; %g does not follow %g", p.line, f, last)
		}
		if !plausibleLevel(l) {
			return fmt.Errorf("line %d: %g is no level an analyzer shows", p.line, l)
		}
		p.freq, p.levels, last = append(p.freq, f), append(p.levels, l), f
	}
	return nil
}

// longText is from how many bytes on two halves of a text are read at once.
const longText = 256 << 10

// quickRows reads rows as long as the quick way reads them and nothing is wrong with
// them, and gives the last frequency.
func (p *csvParser) quickRows(lay *layout, last float64) float64 {
	rest := p.data[p.at:]
	half := len(rest)
	if !p.halved && half >= longText {
		p.halved = true // once: what is left of a half is read in its turn
		half /= 2
		half += bytes.IndexByte(rest[half:], '\n') + 1
	}
	first, second := rows{rest[:half], p.freq, p.levels, last}, rows{rest[half:], nil, nil, math.Inf(-1)}
	var both sync.WaitGroup
	if half < len(rest) {
		n := cap(p.levels)/2 + 1
		second.freq, second.levels = make([]float64, 0, n), make([]float64, 0, n)
		both.Go(func() { second.read(*lay) })
	}
	first.read(*lay)
	both.Wait()
	p.line += len(first.freq) - len(p.freq)
	p.at, p.freq, p.levels = p.at+half-len(first.text), first.freq, first.levels
	if len(first.text) > 0 || len(second.freq) == 0 || second.freq[0] <= first.last {
		return first.last
	}
	p.line += len(second.freq)
	p.at, p.freq, p.levels = len(p.data)-len(second.text), append(p.freq, second.freq...), append(p.levels, second.levels...)
	return second.last
}

// rows are read from the front of a text; last is the frequency before.
type rows struct {
	text         []byte
	freq, levels []float64
	last         float64
}

func (r *rows) read(lay layout) {
	at := *r // at hand: through r, each row would cost more
	for len(at.text) > 0 {
		f, l, length, ok := lay.quickRow(at.text)
		if l += lay.levelShift; !ok || f <= at.last || !plausibleLevel(l) {
			break
		}
		at = rows{at.text[length:], append(at.freq, f), append(at.levels, l), f}
	}
	*r = at
}

func (p *csvParser) finish(lay layout) (Import, error) {
	n := len(p.freq)
	if n < 2 {
		return Import{}, problem.New("csv", "line %d: give at least two rows", p.line)
	}
	if !(p.freq[0] >= 0) {
		return Import{}, problem.New("csv", "line %d: a frequency is below 0 Hz", p.line-n+1)
	}
	if lay.alone || lay.exp10 < 0 && !lay.named && counts(p.freq) {
		if !p.grid.known() {
			return Import{}, problem.New("csv", "line %d: the first column counts the points, and nothing says at which frequencies they lie: give their unit if they are frequencies, or lines of Start and Stop above them", p.line-n+1)
		}
		p.grid.lay(p.freq)
		lay.exp10, lay.spread = 0, true
	}
	scale, err := lay.guessUnit(p.freq[n-1])
	if err != nil {
		return Import{}, problem.New("csv", "line %d: %s", p.line, err.Error())
	}
	if scale > 1 { // only where no unit was said: a said one is in the numbers already
		for i := range p.freq {
			p.freq[i] *= scale
		}
	}
	out := Import{Trace: Trace{Start: units.Hertz(p.freq[0]), Stop: units.Hertz(p.freq[n-1]), Levels: p.levels, RBW: units.Hertz(p.rbw)}, Lines: p.line, Detector: p.detector, Hold: cmp.Or(p.hold, lay.hold), Normalised: lay.normalised, OffsetDB: p.offset}
	step := float64(out.Trace.Step())
	for i, f := range p.freq {
		// Printed frequencies are rounded; half a step is the most that can be.
		if math.Abs(f-(p.freq[0]+float64(i)*step)) > 0.5*step {
			out.Trace.Uneven = slices.Clone(p.freq)
			break
		}
	}
	out.Taken = lay.taken()
	if out.Trace.Uneven != nil {
		out.Taken += ", unevenly spaced: a list of figures"
	}
	return out, nil
}
