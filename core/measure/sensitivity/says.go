package sensitivity

import (
	"fmt"
	"math"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/units"
)

// Box implements measure.Room: one for the whole band.
func (d *Room) Box(c claims.Cell, _ bool) measure.Box {
	r := d.RulingOf(record.Keyed{Band: c.Band.Name, Mode: c.Mode})
	return measure.Box{Kind: Name, Verdict: r.Verdict, Why: r.Why, Notes: []measure.Note{}, Frequencies: r.Frequencies, Taken: r.Of, Of: r}
}

func of(b measure.Box) Ruling { return b.Of.(Ruling) }

// Sentence implements measure.Room.
func (d *Room) Sentence(boxes []measure.Named, whole decision.Whole) string {
	return simple.Sentence("sensitivity", map[decision.Verdict]string{
		decision.Fail: "Sensitivity is short of its claim", decision.Inconclusive: "Sensitivity is too close to call", decision.Pass: "Sensitivity makes its claim",
		decision.SoFar: "Sensitivity makes its claim so far", decision.NoClaim: "Sensitivity was measured, with no claim to be held against",
	}, boxes, whole)
}

// Obstacles implements measure.Room.
func (d *Room) Obstacles(boxes []measure.Named) []measure.Obstacle {
	var out []measure.Obstacle
	for _, b := range boxes {
		if b.Verdict == decision.Void || b.Verdict == decision.NotCovered {
			out = append(out, measure.Obstacle{Said: say.That("no-sensitivity", "%s has no sensitivity that counts: %s", b.Name, b.Why), Stage: Name})
		}
	}
	return out
}

// NotTested implements measure.Room.
func (d *Room) NotTested(b measure.Named) []string {
	if b.Verdict == decision.NotExamined {
		return []string{b.Name + ": the receiver was not measured"}
	}
	return nil
}

// Ways implements measure.Room.
func (d *Room) Ways([]measure.Named) []*record.Through {
	var out []*record.Through
	for _, m := range d.taken {
		out = append(out, m.Through)
	}
	return out
}

// Kept implements measure.Room.
func (d *Room) Kept(b measure.Box) []measure.Field {
	return []measure.Field{{Name: Name, Value: of(b)}}
}

// WithoutAdvice implements measure.Room: there is none in it.
func (d *Room) WithoutAdvice(b measure.Box) measure.Box { return b }

// Sections implements measure.Room: every level, with all that it is worked out from.
func (d *Room) Sections(boxes []measure.Named) []measure.Section {
	out := measure.Section{
		Title: "Sensitivity of the receiver",
		Lines: []string{
			"Level at the receiver's connector = level of the generator − loss of the path. µV are into a load of 50 ohm (PD); a generator that shows EMF shows twice as much.",
			"By ear is another quantity than 12 dB SINAD: the two are never compared, and no claim is held against it.",
		},
		Columns: []string{"Band", "Frequency", "For", "Generator", "Loss", "At the connector", "±, k = 2", "Claimed", "Ruling"},
		Numbers: []int{3, 4, 5, 6, 7},
	}
	for _, m := range d.taken {
		if m.Result == nil {
			out.Rows = append(out.Rows, []string{m.Band, units.Hertz(m.FrequencyHz).String(), m.quantity(), "typed " + m.Text, "", "", "", "", m.WhyNot})
			continue
		}
		row := []string{m.Band, units.Hertz(m.FrequencyHz).String(), m.quantity(), m.shown(), "not known", "", "", "no claim", ""}
		if m.LossDB != nil {
			row[4] = fmt.Sprintf("%.2f dB", *m.LossDB)
		}
		if at := m.Result.AtConnectorUV; at != nil {
			row[5], row[6] = fmt.Sprintf("%s, %.1f dBm", units.Microvolts(*at), *m.Result.AtConnectorDBm), fmt.Sprintf("%.2f dB", *m.Result.UncertaintyDB)
		}
		if m.ClaimedUV != nil {
			row[7] = units.Microvolts(*m.ClaimedUV).String()
		}
		switch {
		case !m.Counts:
			row[8] = "does not count: " + m.WhyNot
		case m.Outside:
			row[8] = "outside the band claimed"
		case m.Result.Verdict != nil:
			row[8] = m.Result.Verdict.Spoken()
		}
		if m.Remark != "" {
			row[8] = strings.TrimPrefix(row[8]+"; "+m.Remark, "; ")
		}
		out.Rows = append(out.Rows, row)
		out.Lines = addLine(out.Lines, m.way())
	}
	if len(out.Rows) == 0 {
		return nil
	}
	return []measure.Section{out}
}

// shown is what the generator showed, and in which quantity.
func (m *Measured) shown() string {
	level, _, _ := strings.Cut(m.Text, "?")
	out := strings.TrimSpace(level)
	if m.EMF {
		out += " EMF"
	}
	return out
}

// way is the path and the two parts of the uncertainty.
func (m *Measured) way() string {
	end := m.Through.Kit[len(m.Through.Kit)-1].Spec.Counted()
	u, distribution := end.Accuracy()
	line := fmt.Sprintf("Path “%s”: %s within %.2f dB (%s), standard %.2f dB", m.Through.Name, m.Generator, float64(u)*math.Sqrt(3), distribution, float64(u))
	if p := m.Path(); p != nil {
		line += fmt.Sprintf("; loss of the path, standard %.2f dB", float64(p.LossUncertainty(units.Hertz(m.FrequencyHz))))
	}
	return line + "."
}

func addLine(lines []string, line string) []string {
	for _, l := range lines {
		if l == line {
			return lines
		}
	}
	return append(lines, line)
}
