package publish

import (
	"fmt"
	"math"
	"strings"

	"talloak/core/measure/emissions"
	"talloak/core/units"
	"talloak/publish/drawing"
)

// spectrum draws the sweeps of a band and level at the connector: trace in ink, the limit as a ceiling with the
// forbidden region washed, what was not examined hazed, under it the strip of how far was looked. False where
// nothing can be drawn.
func spectrum(of *shown, e *emissions.Ruling) (drawing.Picture, bool) {
	ax, ok := axesOf(e)
	if !ok {
		return drawing.Picture{}, false
	}
	return drawing.Picture{
		Name: "spectrum-" + of.Place, Title: fmt.Sprintf("%s, carrier %s: levels at the antenna connector, dBm; the limit is the ceiling", of.Name, hertz(e.FrequencyHz)), Width: plotW, Height: allH,
		Draw: func(s *drawing.Sheet) {
			s.Fill(0, 0, plotW, allH, drawing.Paper)
			ax.unexamined(s, e)
			ax.ceiling(s, e)
			ax.grid(s, e.FrequencyHz)
			ink := drawing.Ink
			for i := len(e.Sweeps) - 1; i >= 0; i-- { // the newest in ink, earlier ones paler
				if e.Sweeps[i].Standing == "in-force" {
					ax.trace(s, &e.Sweeps[i], ink)
					ink = drawing.Soft
				}
			}
			ax.names(s, e)
			coverage(s, &of.Emissions, padL, plotH+18, plotW-padL-padR, 10)
			s.Text(plotW/2, plotH+44, 11, drawing.Regular, drawing.Middle, drawing.Soft, ax.stripWords(&of.Emissions))
			s.Frame(0.5, 0.5, plotW-1, allH-1, 1, drawing.Hair)
		},
	}, true
}

// The size of a plot, in points.
const (
	plotW, plotH         = pictureWidth, 300.0
	padL, padR, padT, pB = 56.0, 12.0, 12.0, 44.0
	allH                 = plotH + 54
)

type axes struct{ f0, f1, low, high float64 }

func (a axes) x(f float64) float64 { return padL + (f-a.f0)/(a.f1-a.f0)*(plotW-padL-padR) }
func (a axes) y(l float64) float64 {
	l = min(max(l, a.low), a.high)
	return padT + (a.high-l)/(a.high-a.low)*(plotH-padT-pB)
}

func axesOf(e *emissions.Ruling) (axes, bool) {
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

// stripWords say what the strip of coverage is of.
func (a axes) stripWords(e *shownEmissions) string {
	out := "strip: filled where examined, pale where the noise hides the limit"
	if len(e.SearchHz) == 2 {
		out = fmt.Sprintf("strip: what a full examination asks for, %s; filled where examined, pale where the noise hides the limit", span(e.SearchHz[0], e.SearchHz[1]))
	}
	return out
}

// aside is how far from the carrier the ceiling is drawn at least, in points.
const aside = 6

func (a axes) ceiling(s *drawing.Sheet, e *emissions.Ruling) {
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
		s.Fill(x0, padT, x1-x0, y-padT, drawing.Wash)
		s.Line([][2]float64{{x0, y}, {x1, y}}, 1.6, drawing.Rust)
	}
}

// unexamined hazes what lies outside the examined stretches.
func (a axes) unexamined(s *drawing.Sheet, e *emissions.Ruling) {
	if e.Ruling == nil {
		return
	}
	haze := func(from, to float64) {
		if from, to = max(from, a.f0), min(to, a.f1); to > from {
			s.Fill(a.x(from), padT, a.x(to)-a.x(from), plotH-padT-pB, drawing.Haze)
		}
	}
	at := a.f0
	for _, span := range e.Ruling.Coverage.Examined {
		haze(at, span[0])
		at = max(at, span[1])
	}
	haze(at, a.f1)
	for _, span := range e.Ruling.Coverage.Blind {
		haze(span[0], span[1])
	}
}

func (a axes) grid(s *drawing.Sheet, carrier float64) {
	step := 10.0
	for (a.high-a.low)/step > 8 {
		step *= 2
	}
	s.Text(8, padT+10, 11, drawing.Regular, drawing.Start, drawing.Soft, "dBm")
	for l := a.low; l <= a.high; l += step {
		s.Line([][2]float64{{padL, a.y(l)}, {plotW - padR, a.y(l)}}, 0.7, drawing.Hair)
		if l < a.high {
			s.Text(padL-6, a.y(l)+4, 11, drawing.Regular, drawing.End, drawing.Soft, typeset(fmt.Sprintf("%.0f", l)))
		}
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
		s.Line([][2]float64{{a.x(f), plotH - pB}, {a.x(f), plotH - pB + 5}}, 1, drawing.Soft)
		s.Text(a.x(f), plotH-pB+18, 11, drawing.Regular, drawing.Middle, drawing.Soft, label)
		s.Text(a.x(f), plotH-pB+33, 11, drawing.Regular, drawing.Middle, drawing.Soft, strings.TrimSuffix(units.Hertz(f).String(), " MHz"))
	}
}

func (a axes) trace(s *drawing.Sheet, sw *emissions.SweepView, ink inkType) {
	var run [][2]float64
	end := func() {
		s.Line(run, 1, ink)
		run = nil
	}
	for _, p := range sw.Picture {
		switch {
		case p.HighDBm == nil:
			end()
		case sw.List || sw.Look != nil: // figures stand by themselves: nothing between them was looked at
			s.Line([][2]float64{{a.x(p.FrequencyHz), plotH - pB}, {a.x(p.FrequencyHz), a.y(*p.HighDBm)}}, 1.4, ink)
		default:
			run = append(run, [2]float64{a.x(p.FrequencyHz), a.y(*p.LowDBm)}, [2]float64{a.x(p.FrequencyHz), a.y(*p.HighDBm)})
		}
	}
	end()
}

// names labels the worst product where it stands.
func (a axes) names(s *drawing.Sheet, e *emissions.Ruling) {
	if e.Ruling == nil || e.Ruling.Worst == nil || e.Ruling.Worst.LevelDBm == nil || !e.Ruling.Worst.Seen {
		return
	}
	w := e.Ruling.Worst
	x, y := a.x(*placeOf(w)), a.y(*w.LevelDBm)
	anchor := drawing.Start
	if x > plotW/2 {
		anchor = drawing.End
		x -= 12
	} else {
		x += 6
	}
	s.Text(x, max(padT+12, y-6), 12, drawing.Bold, anchor, inkOf(w.Verdict), fmt.Sprintf("%s, %s", w.Name(), db(w.RoomDB)))
}
