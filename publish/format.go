package publish

import (
	"fmt"
	"html/template"
	"regexp"
	"strings"
	"time"

	"talloak/core/judge"
	"talloak/core/measure/emissions"
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

// rung is a bar of the margin ladder with its whisker.
func rung(e emissions.Ruling, p judge.Product) template.HTML {
	r := e.RungOf(&p)
	if r.Bar == nil {
		return ""
	}
	bar := part(string(r.Class), *r.Bar)
	if r.Whisker != nil {
		bar += part("whisker", *r.Whisker)
	}
	return template.HTML(`<div class="rung">` + bar + `</div>`)
}

func part(class string, at emissions.Stretch) string {
	return fmt.Sprintf(`<i class="%s" style="left:%.1f%%;width:%.1f%%"></i>`, class, at.From, at.To-at.From)
}
