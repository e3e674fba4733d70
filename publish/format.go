package publish

import (
	"fmt"
	"html/template"
	"regexp"
	"strings"
	"time"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/units"
)

// Figures are rounded here and nowhere before: watts to three significant
// figures, decibels to 0.1, 0.01 in budgets. None goes without its unit.

func watts(w *float64) string {
	if w == nil {
		return "no figure"
	}
	return units.Watts(*w).String()
}

func db(v *float64) string {
	if v == nil {
		return "no figure"
	}
	return strings.ReplaceAll(units.DB(*v).Signed(), "-", "\u2212")
}

func dbm(v *float64) string { return figure(v, "%.1f dBm") }

func dbc(v *float64) string { return figure(v, "%.1f dBc") }

func fine(v *float64) string { return figure(v, "%.2f dB") }

func figure(v *float64, format string) string {
	if v == nil {
		return "no figure"
	}
	return strings.ReplaceAll(fmt.Sprintf(format, *v), "-", "\u2212")
}

// typeset gives words true minus signs.
func typeset(s string) string { return hyphenMinus.ReplaceAllString(s, "$1\u2212$2") }

var hyphenMinus = regexp.MustCompile(`(^|[\s(])-(\d)`)

func hertz(v float64) string { return units.Hertz(v).String() }

func hertzOf(v *float64) string {
	if v == nil {
		return "nowhere"
	}
	return hertz(*v)
}

func span(from, to float64) string { return hertz(from) + " to " + hertz(to) }

func day(t time.Time) string { return t.UTC().Format("2 January 2006, 15:04 UTC") }

func comeBy(v string) string {
	return map[string]string{
		"bought": "bought", "lent": "lent", "given-by-maker": "given by the maker", "given-by-seller": "given by a seller",
	}[v]
}

func interest(v string) string {
	return map[string]string{
		"none": "The reviewer neither sells it nor earns on links to it.", "sells": "The reviewer sells it.",
		"earns-on-links": "The reviewer earns on links to it.",
	}[v]
}

func productName(p judge.Product) string { return p.Name() }

func sinceDecided(by *string) string {
	if by == nil {
		return ""
	}
	return *by
}

// hidden is how much more than shown a product may be that was not seen; nil of one that was.
func hidden(p judge.Product) *float64 {
	if p.NotAboveDBm == nil || p.LevelDBm == nil {
		return nil
	}
	db := *p.NotAboveDBm - *p.LevelDBm
	return &db
}

// rung is a bar of the margin ladder: left of the limit line for room, right of
// it for excess, 20 dB at most on each side, with the uncertainty in dB as a
// whisker at its end.
func rung(p judge.Product, uncertainty float64) template.HTML {
	if p.RoomDB == nil {
		return ""
	}
	const full = 20.0
	end := 50 - max(-full, min(full, *p.RoomDB))/full*50
	class := "room"
	switch {
	case p.Verdict == decision.Fail:
		class = "over"
	case *p.RoomDB < 0: // over the line, and no fail: the colour is that of the ruling
		class = "doubt"
	}
	bar := part(class, min(50, end), max(50, end))
	if p.Seen {
		u := uncertainty / full * 50
		bar += part("whisker", max(0, end-u), min(100, end+u))
	}
	return template.HTML(`<div class="rung">` + bar + `</div>`)
}

func part(class string, from, to float64) string {
	return fmt.Sprintf(`<i class="%s" style="left:%.1f%%;width:%.1f%%"></i>`, class, from, to-from)
}
