package sweep

import (
	"bytes"
	"regexp"
	"strings"
)

// grid is what header lines say of where the points lie, in Hz; 0 where they do not.
type grid struct{ start, stop, centre, span float64 }

// named is where a setting of this name belongs, nil where it is another.
func (g *grid) named(name string) *float64 {
	for word, at := range map[string]*float64{"start": &g.start, "stop": &g.stop, "center": &g.centre, "centre": &g.centre, "span": &g.span} {
		if rest, ok := strings.CutPrefix(name, word); ok && (rest == "" || strings.HasPrefix(strings.TrimLeft(rest, " _([-"), "f") || unitIn(rest) >= 0) {
			return at
		}
	}
	return nil
}

// ends are where the first and the last point lie.
func (g *grid) ends() (start, stop float64) {
	if g.centre > 0 && g.span > 0 {
		return g.centre - g.span/2, g.centre + g.span/2
	}
	return g.start, g.stop
}

// known tells that both ends are. A start of 0 that nobody gave is none, and ends below
// 1 MHz are figures without their unit.
func (g *grid) known() bool {
	start, stop := g.ends()
	return start > 0 && stop > start && stop >= 1e6
}

// lay puts frequencies on it.
func (g *grid) lay(f []float64) {
	start, stop := g.ends()
	for i := range f {
		f[i] = start + float64(i)*(stop-start)/float64(len(f)-1)
	}
}

// counts tells that figures count 0, 1, 2 or 1, 2, 3 and so on.
func counts(f []float64) bool {
	if f[0] != 0 && f[0] != 1 || len(f) < 3 {
		return false
	}
	for i, v := range f {
		if v != f[0]+float64(i) {
			return false
		}
	}
	return true
}

// sniffLevel tells a row that is a level and nothing else.
func sniffLevel(line string) (layout, bool) {
	lay := layout{delimiter: ';', columns: 1, exp10: -1, alone: true, comma: strings.Contains(bare(line), ",")}
	l, err := lay.number(bare(line), false)
	return lay, err == nil && plausibleLevel(l)
}

// bare is the one cell of a line.
func bare(line string) string { return strings.Trim(strings.TrimSpace(line), `,;"`) }

var grouped = regexp.MustCompile(`^[+-]?\d{1,3}([ '’]\d{3})+(\D|$)`)

// ungroup takes the marks out that part the digits of a number in threes.
func ungroup(cell string) string {
	cell = strings.TrimSpace(cell)
	if !strings.ContainsAny(cell, " '’") || !grouped.MatchString(cell) {
		return cell
	}
	end := len(grouped.FindString(cell))
	return strings.NewReplacer(" ", "", "'", "", "’", "").Replace(cell[:end]) + cell[end:]
}

var typeset = []struct{ from, to []byte }{
	{[]byte("\u2212"), []byte("-")},                                                                   // a minus sign
	{[]byte("\u00a0"), []byte(" ")}, {[]byte("\u2009"), []byte(" ")}, {[]byte("\u202f"), []byte(" ")}, // spaces that do not break
}

// plain is a text with the marks of a keyboard for those of a typesetter.
func plain(data []byte) []byte {
	if bytes.IndexByte(data, 0xe2) < 0 && bytes.IndexByte(data, 0xc2) < 0 {
		return data // none begins: looked at once, not four times
	}
	for _, t := range typeset {
		if bytes.Contains(data, t.from) {
			data = bytes.ReplaceAll(data, t.from, t.to)
		}
	}
	return data
}
