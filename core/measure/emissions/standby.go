package emissions

import (
	"fmt"
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
		row.into(&in, s, nil)
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

// Looked tells whether anything that stands was taken in standby, and whether anything was heard
// in the radio's own receiver.
func (d *Room) Looked() (standby, heard bool) {
	for _, s := range d.sweeps {
		if d.review.Stands(s.ID) {
			standby, heard = standby || rulesStandby(s), heard || s.Heard
		}
	}
	return standby, heard
}

// Sections implements measure.Room: an edition draws emissions in its own way, but for those
// in standby.
func (d *Room) Sections([]measure.Named) []measure.Section {
	var out []measure.Section
	if rows := d.Standby(); len(rows) > 0 {
		out = append(out, measure.Section{Title: "Emissions in standby", Columns: []string{"Band", "State", "Ruling", "Why", "Rule book"}, Rows: rows,
			Lines: []string{"Nothing was keyed; levels are at the antenna connector, held against the book's limits for standby."}})
	}
	for _, b := range d.Study().Boards {
		if len(b.Rows) > 1 || b.Heard {
			out = append(out, b.section())
		}
	}
	return out
}

// section is a board of states as an edition tells it: a row a line, a column a state.
func (b *StateBoard) section() measure.Section {
	s := measure.Section{Title: "What each line goes with, " + b.Band, Columns: []string{"Line"}, Lines: []string{"Levels at the antenna connector in each state; a line that goes away with a state comes from it."}}
	if b.Heard {
		s.Title, s.Lines = "Heard in its own receiver, "+b.Band, []string{"Levels as the receiver shows them, in each state: what goes away with a state comes from it. Held against no limit."}
	}
	for i, r := range b.Rows {
		s.Columns, s.Numbers = append(s.Columns, r.Name), append(s.Numbers, i+1)
	}
	s.Columns = append(s.Columns, "What it goes with")
	for i, c := range b.Columns {
		row := []string{c.Name}
		for _, r := range b.Rows {
			switch cell := r.Cells[i]; {
			case cell.LevelDBm != nil:
				row = append(row, fmt.Sprintf("%.1f dBm", *cell.LevelDBm))
			case cell.BelowDBm != nil:
				row = append(row, fmt.Sprintf("not above %.1f dBm", *cell.BelowDBm))
			default:
				row = append(row, "not looked at")
			}
		}
		s.Rows = append(s.Rows, append(row, c.Says))
	}
	for _, c := range b.Combs {
		s.Lines = append(s.Lines, c.Row+": "+c.Says+".")
	}
	return s
}

// rulesStandby tells whether a row of the board is ruled on by itself.
func rulesStandby(s *Sweep) bool { return !s.Heard && slices.Contains(InStandby, s.State) }
