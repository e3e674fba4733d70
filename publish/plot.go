package publish

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"talloak/core/measure/emissions"
	"talloak/core/units"
)

// The size of a plot in the page, in CSS pixels.
const (
	plotW, plotH         = 880.0, 300.0
	padL, padR, padT, pB = 56.0, 12.0, 12.0, 44.0
)

// plot draws the sweeps of a box at the connector: trace in ink, the limit as a
// ceiling with the forbidden region washed, what was not examined hatched.
func plot(e emissions.Ruling) template.HTML {
	ax, ok := axesOf(e)
	if !ok {
		return ""
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg viewBox="0 0 %g %g" role="img" aria-label="Spectrum at the connector, %s to %s">`, plotW, allH, units.Hertz(ax.f0), units.Hertz(ax.f1))
	ax.ceiling(&b, e)
	ax.unexamined(&b, e)
	ax.grid(&b, e.FrequencyHz)
	class := "trace"
	for i := len(e.Sweeps) - 1; i >= 0; i-- { // the newest in ink, earlier ones paler
		if e.Sweeps[i].Standing == "in-force" {
			ax.trace(&b, e.Sweeps[i], class)
			class = "trace earlier"
		}
	}
	ax.strip(&b, e)
	b.WriteString(`</svg>`)
	return template.HTML(b.String()) // built from numbers alone
}

// The strip of coverage lies under the plot, on its axis: all that a full examination asks for,
// whatever was swept.
const (
	stripY, stripH = plotH + 18, 12.0
	allH           = plotH + 52
)

// strip draws how far was looked: filled where examined, hatched where blind, empty
// where nobody looked.
func (a axes) strip(b *strings.Builder, e emissions.Ruling) {
	if e.Ruling == nil {
		return
	}
	c := e.Ruling.Coverage
	bar := func(class string, from, to float64) {
		fmt.Fprintf(b, `<rect class="%s" x="%.1f" y="%.1f" width="%.1f" height="%.1f"/>`, class, a.x(from), stripY, max(1, a.x(to)-a.x(from)), stripH)
	}
	bar("frame", a.f0, a.f1)
	for _, s := range c.Examined {
		bar("looked", s[0], s[1])
	}
	for _, s := range c.Blind {
		bar("blind", s[0], s[1])
	}
	for _, end := range []struct {
		f      float64
		anchor string
	}{{a.f0, "start"}, {a.f1, "end"}} {
		fmt.Fprintf(b, `<text class="tick" x="%.1f" y="%.1f" text-anchor="%s">%s</text>`, a.x(end.f), stripY+stripH+14, end.anchor, units.Hertz(end.f))
	}
	full := "what a full examination asks for: filled where examined, pale where the noise hides the limit"
	if c.SearchToHz == nil {
		full = "filled where examined, pale where the noise hides the limit"
	}
	fmt.Fprintf(b, `<text class="tick" x="%.1f" y="%.1f" text-anchor="middle">%s</text>`, plotW/2, stripY+stripH+14, full)
}

type axes struct{ f0, f1, low, high float64 }

func (a axes) x(f float64) float64 { return padL + (f-a.f0)/(a.f1-a.f0)*(plotW-padL-padR) }
func (a axes) y(l float64) float64 {
	l = min(max(l, a.low), a.high)
	return padT + (a.high-l)/(a.high-a.low)*(plotH-padT-pB)
}

func axesOf(e emissions.Ruling) (axes, bool) {
	a := axes{math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)}
	for _, s := range e.Sweeps {
		if s.Standing != "in-force" {
			continue
		}
		a.f0, a.f1 = min(a.f0, s.StartHz), max(a.f1, s.StopHz)
		for _, p := range s.Picture {
			if p.HighDBm != nil {
				a.high = max(a.high, *p.HighDBm)
			}
			lowest := p.LowDBm
			if s.Look != nil { // read by eye: what was seen, over its floor
				if lowest = p.NoiseDBm; lowest == nil {
					lowest = p.HighDBm
				}
			}
			if lowest != nil {
				a.low = min(a.low, *lowest)
			}
		}
	}
	if e.Ruling != nil && e.Ruling.Coverage.SearchToHz != nil {
		a.f0, a.f1 = min(*e.Ruling.Coverage.SearchFromHz, a.f0), max(*e.Ruling.Coverage.SearchToHz, a.f1)
	}
	a.low, a.high = 10*math.Floor(a.low/10), 10*math.Ceil((a.high+3)/10)
	return a, a.f1 > a.f0 && a.high > a.low
}

// aside is how far from the carrier the ceiling is drawn at least, in pixels.
const aside = 6

func (a axes) ceiling(b *strings.Builder, e emissions.Ruling) {
	for _, p := range e.Ceiling {
		if p.LimitDBm == nil {
			continue
		}
		// The ceiling stops at the carrier, which is no emission, by enough to be seen.
		x0, x1, y, carrier := a.x(p.FromHz), a.x(p.ToHz), a.y(*p.LimitDBm), a.x(e.FrequencyHz)
		if x1 <= carrier {
			x1 = min(x1, carrier-aside)
		} else if x0 >= carrier {
			x0 = max(x0, carrier+aside)
		}
		if x1 <= x0 {
			continue
		}
		fmt.Fprintf(b, `<rect class="forbidden" x="%.1f" y="%.1f" width="%.1f" height="%.1f"/><path class="limit" d="M%.1f %.1fH%.1f"/>`, x0, padT, x1-x0, y-padT, x0, y, x1)
	}
}

// unexamined hatches what lies outside the examined stretches.
func (a axes) unexamined(b *strings.Builder, e emissions.Ruling) {
	if e.Ruling == nil {
		return
	}
	hatch := func(from, to float64) {
		if from, to = max(from, a.f0), min(to, a.f1); to > from {
			fmt.Fprintf(b, `<rect class="unseen" x="%.1f" y="%.1f" width="%.1f" height="%.1f"/>`, a.x(from), padT, a.x(to)-a.x(from), plotH-padT-pB)
		}
	}
	at := a.f0
	for _, s := range e.Ruling.Coverage.Examined {
		hatch(at, s[0])
		at = s[1]
	}
	hatch(at, a.f1)
	for _, s := range e.Ruling.Coverage.Blind {
		hatch(s[0], s[1])
	}
}

func (a axes) grid(b *strings.Builder, carrier float64) {
	step := 10.0
	for (a.high-a.low)/step > 8 {
		step *= 2
	}
	for l := a.low; l <= a.high; l += step {
		fmt.Fprintf(b, `<path class="hair" d="M%.1f %.1fH%.1f"/><text class="tick" x="%.1f" y="%.1f" text-anchor="end">%s dBm</text>`, padL, a.y(l), plotW-padR, padL-6, a.y(l)+4, typeset(fmt.Sprintf("%.0f", l)))
	}
	every := max(1, int((a.f1-a.f0)/carrier/12))
	for n := 1; float64(n)*carrier <= a.f1; n += every {
		f := float64(n) * carrier
		if f < a.f0 {
			continue
		}
		label := fmt.Sprintf("%d f", n)
		if n == 1 {
			label = "carrier"
		}
		fmt.Fprintf(b, `<path class="hair" d="M%.1f %.1fv5"/><text class="tick" x="%.1f" y="%.1f" text-anchor="middle">%s</text><text class="tick" x="%.1f" y="%.1f" text-anchor="middle">%s</text>`,
			a.x(f), plotH-pB, a.x(f), plotH-pB+18, label, a.x(f), plotH-pB+33, strings.TrimSuffix(units.Hertz(f).String(), " MHz"))
	}
}

func (a axes) trace(b *strings.Builder, s emissions.SweepView, class string) {
	fmt.Fprintf(b, `<path class="%s" d="`, class)
	pen := "M"
	for _, p := range s.Picture {
		if p.HighDBm == nil {
			pen = "M"
			continue
		}
		if s.List || s.Look != nil { // figures stand by themselves: nothing between them was looked at
			fmt.Fprintf(b, "M%.1f %.1fV%.1f", a.x(p.FrequencyHz), plotH-pB, a.y(*p.HighDBm))
			continue
		}
		fmt.Fprintf(b, "%s%.1f %.1fV%.1f", pen, a.x(p.FrequencyHz), a.y(*p.LowDBm), a.y(*p.HighDBm))
		pen = "L"
	}
	b.WriteString(`"/>`)
}
