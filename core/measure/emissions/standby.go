package emissions

import (
	"slices"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// InStandby are the states that a book's limits for standby are about.
var InStandby = []string{"standby", "receive"}

// StandbyRuling is what a band's book says of what was taken in standby.
type StandbyRuling struct {
	Verdict decision.Verdict `json:"verdict"`
	Why     string           `json:"why"`
	Book    string           `json:"book"`
	Worst   *judge.Product   `json:"worst"`
}

// standby rules on the sweeps of a band taken in one idle state; nil where none is in force.
func (d *Room) standby(sweeps []*Sweep) *StandbyRuling {
	first := sweeps[0]
	book := d.review.BookOf(first.Band)
	e := Ruling{BookTitle: book.Title, Keyed: first.Keyed}
	power := 1.0 // of no consequence: a limit that counts from it is not ruled by
	in := judge.Input{
		Book: book, Rule: decision.Rule(d.review.Rules.DecisionRule), MeanW: &power,
		Carrier: rulebook.Carrier{Frequency: units.Hertz(first.FrequencyHz), Mode: first.Mode, State: rulebook.Standby},
	}
	for _, row := range sweeps {
		s, accuracy, err := d.sweep(row)
		if err != nil || s.Standing != judge.InForce && s.Standing != "" {
			continue
		}
		b := d.budget(accuracy, s.Path, first.FrequencyHz, 0)
		in.Uncertainty.Absolute = max(in.Uncertainty.Absolute, units.DB(b.Absolute))
		in.Uncertainty.Relative = max(in.Uncertainty.Relative, units.DB(b.Relative))
		row.into(&in, s)
		e.Sweeps = append(e.Sweeps, SweepView{Standing: record.InForce})
	}
	if len(e.Sweeps) == 0 {
		return nil
	}
	carrier := in.Carrier
	carrier.MeanW, carrier.PEPW = power, power
	if book.For(carrier).CountsFromCarrier() {
		return &StandbyRuling{Verdict: decision.Inconclusive, Why: "its limit counts from a carrier, and there is none", Book: book.Title}
	}
	ruling, err := judge.Judge(in)
	if err != nil {
		return &StandbyRuling{Verdict: decision.Void, Why: err.Error(), Book: book.Title}
	}
	e.Ruling = &ruling
	out := &StandbyRuling{Book: book.Title, Worst: ruling.Worst}
	if out.Verdict, out.Why = said(e); out.Verdict == decision.NoLimit {
		out.Why = "sets no figure for standby"
	}
	return out
}

// Standby are the rulings on what was taken in standby, by band and state, as rows of a table:
// empty where nothing was, or no book has a figure.
func (d *Room) Standby() [][]string {
	var out [][]string
	for _, c := range d.review.Bands() {
		for _, state := range InStandby {
			var of []*Sweep
			for _, s := range d.sweeps {
				if s.Band == c.Band.Name && s.Mode == c.Mode && s.State == state && !s.Heard {
					of = append(of, s)
				}
			}
			if len(of) == 0 {
				continue
			}
			if r := d.standby(of); r != nil && r.Verdict != decision.NoLimit && r.Verdict != decision.NotGoverned {
				out = append(out, []string{c.Band.Name, state, r.Verdict.Spoken(), r.Why, r.Book})
			}
		}
	}
	return out
}

// Sections implements measure.Room: an edition draws emissions in its own way, but for those
// in standby.
func (d *Room) Sections([]measure.Named) []measure.Section {
	rows := d.Standby()
	if len(rows) == 0 {
		return nil
	}
	return []measure.Section{{Title: "Emissions in standby", Columns: []string{"Band", "State", "Ruling", "Why", "Rule book"}, Rows: rows,
		Lines: []string{"Nothing was keyed; levels are at the antenna connector, held against the book's limits for standby."}}}
}

// rulesStandby tells whether a row of the board is ruled on by itself.
func rulesStandby(s *Sweep) bool { return !s.Heard && slices.Contains(InStandby, s.State) }
