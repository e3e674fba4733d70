package path

import (
	"fmt"
	"slices"
	"strings"

	"talloak/core/linear"
	"talloak/core/problem"
	"talloak/core/span"
	"talloak/core/units"
)

// Measured is the loss of an element, or of a run of elements that were
// measured in one piece, as it was found on a day. It stands at the last element
// of the run and supersedes what is printed on the parts, tolerances and inner
// mismatch included, over the frequencies it was measured at. Elsewhere the
// printed figures stand.
type Measured struct {
	Spans int             `json:"spans"` // this element and the spans-1 before it
	Table []MeasuredPoint `json:"table"`
	On    string          `json:"on,omitempty"`
}

// MeasuredPoint is a measured loss, positive, with its standard uncertainty.
type MeasuredPoint struct {
	FrequencyHz           float64 `json:"frequency_hz"`
	DB                    float64 `json:"db"`
	StandardUncertaintyDB float64 `json:"standard_uncertainty_db"`
}

// SameFrequency is how far beside a measured frequency, relative to it, a
// measured figure still counts: pads, coax and meters change slowly (common
// practice, no source).
const SameFrequency = 0.05

func (m *Measured) check() error {
	var bad problem.List
	if m.Spans < 1 {
		bad.Add("spans", "give how many parts were measured in one piece, 1 or more")
	}
	if len(m.Table) == 0 {
		bad.Add("table", "give at least one point")
	}
	for i, p := range m.Table {
		field := fmt.Sprintf("table[%d]", i)
		if !(p.FrequencyHz > 0) {
			bad.Add(field+".frequency_hz", "give more than 0 Hz")
		}
		if i > 0 && p.FrequencyHz <= m.Table[i-1].FrequencyHz {
			bad.Add(field+".frequency_hz", "frequencies must rise; this is not above %s", units.Hertz(m.Table[i-1].FrequencyHz))
		}
		if !lossLike(p.DB) {
			bad.Add(field+".db", "give a loss of 0 to %d dB", mostLossDB)
		}
		if p.StandardUncertaintyDB < 0 {
			bad.Add(field+".standard_uncertainty_db", "give 0 dB or more")
		}
	}
	return bad.Err()
}

// Span is where the measured loss counts.
func (m *Measured) Span() span.Span {
	lowest, highest := m.Table[0].FrequencyHz, m.Table[len(m.Table)-1].FrequencyHz
	return span.Of(units.Hertz(lowest*(1-SameFrequency)), units.Hertz(highest*(1+SameFrequency)))
}

// run is a measured stretch of a path: elements first to last.
type run struct {
	first, last int
	m           *found
}

// found is a measured loss that was checked: linear in dB between its points.
type found struct {
	*Measured
	loss, u linear.Line
}

func newFound(m *Measured) *found {
	f := func(p MeasuredPoint) float64 { return p.FrequencyHz }
	return &found{m,
		linear.Over(m.Table, f, func(p MeasuredPoint) float64 { return p.DB }),
		linear.Over(m.Table, f, func(p MeasuredPoint) float64 { return p.StandardUncertaintyDB })}
}

// at is the measured loss at f with its standard uncertainty, held at the ends; only
// within the span of the measurement.
func (m *found) at(f units.Hertz) (loss, u units.DB) {
	return units.DB(m.loss.At(float64(f))), units.DB(m.u.At(float64(f)))
}

// findRuns collects the measured runs of the path and says where they do not fit.
func (p *Path) findRuns(bad *problem.List) {
	end := -1 // the last element of the run before
	for i := range p.parts {
		m := p.parts[i].curve.measured
		if m == nil {
			continue
		}
		field := fmt.Sprintf("elements[%d].measured", i)
		first := i - m.Spans + 1
		switch {
		case first < 0:
			bad.Add(field+".spans", "only %d parts lie up to here", i+1)
		case first <= end:
			bad.Add(field+".spans", "overlaps what was measured in one piece before it")
		case p.parts[i].Kind().Ends():
			bad.Add(field, "a %s ends the path and has no loss to measure", p.parts[i].Kind())
		default:
			p.runs = append(p.runs, run{first, i, m})
			end = i
		}
	}
}

// runAt is the measured run that element i belongs to and that counts at f, or nil.
func (p *Path) runAt(i int, f units.Hertz) *run {
	for k := range p.runs {
		if r := &p.runs[k]; i >= r.first && i <= r.last && r.m.Span().Contains(f) {
			return r
		}
	}
	return nil
}

// MeasuredOn is when the losses that count at f were measured, one day after the
// other; empty where none was.
func (p *Path) MeasuredOn(f units.Hertz) string {
	var days []string
	for _, r := range p.runs {
		if r.m.Span().Contains(f) && r.m.On != "" && !slices.Contains(days, r.m.On) {
			days = append(days, r.m.On)
		}
	}
	return strings.Join(days, ", ")
}
