package publish

import (
	"bytes"
	"encoding/json"

	"talloak/core/board"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
)

// keptBoard is a board as an edition keeps it: what each kind comes to stands under the
// kind's own name, and in each cell the fields that the kind keeps of its box.
type keptBoard struct {
	board.Board
	fields func(measure.Box) []measure.Field
}

// keep is a board without what is meant for the reviewer: a reader can do nothing about it.
func keep(r *measure.Review, b board.Board) keptBoard {
	for i := range b.Cells {
		for k, box := range b.Cells[i].Boxes {
			if _, room := roomOf(r, box.Kind); room != nil {
				b.Cells[i].Boxes[k] = room.WithoutAdvice(box)
			}
		}
	}
	return keptBoard{b, func(box measure.Box) []measure.Field {
		_, room := roomOf(r, box.Kind)
		return room.Kept(box)
	}}
}

// MarshalJSON writes title, headline, the kinds, the rules and the cells.
func (b keptBoard) MarshalJSON() ([]byte, error) {
	fields := []measure.Field{{Name: "title", Value: b.Title}, {Name: "headline", Value: b.Headline}}
	for _, k := range b.Kinds {
		fields = append(fields, measure.Field{Name: k.Kind, Value: k.Whole})
	}
	cells := []json.RawMessage{}
	for _, c := range b.Board.Cells {
		of := []measure.Field{{Name: "cell", Value: c.Cell}, {Name: "name", Value: c.Name}}
		for _, box := range c.Boxes {
			of = append(of, b.fields(box)...)
		}
		text, err := object(of)
		if err != nil {
			return nil, err
		}
		cells = append(cells, text)
	}
	return object(append(fields, measure.Field{Name: "rules", Value: b.Rules}, measure.Field{Name: "cells", Value: cells}))
}

// object is a JSON object with its fields in order.
func object(fields []measure.Field) ([]byte, error) {
	var out bytes.Buffer
	for i, f := range fields {
		name, err := json.Marshal(f.Name)
		if err != nil {
			return nil, err
		}
		value, err := json.Marshal(f.Value)
		if err != nil {
			return nil, err
		}
		out.WriteByte("{,"[min(i, 1)])
		out.Write(name)
		out.WriteByte(':')
		out.Write(value)
	}
	out.WriteByte('}')
	return out.Bytes(), nil
}

// level is a band at a level as the page shows it.
type level struct {
	Name      string
	Cell      claims.Cell
	Power     power.Ruling
	Emissions emissions.Ruling
	Verdict   decision.Verdict
	Why       string
}

// Levels are the cells that the page draws in its own way.
func (b keptBoard) Levels() []level {
	var out []level
	for i := range b.Board.Cells {
		c := &b.Board.Cells[i]
		p, e := c.Box(power.Name), c.Box(emissions.Name)
		if p != nil && e != nil {
			out = append(out, level{c.Name, c.Cell, measure.Own[power.Ruling](p.Of), measure.Own[emissions.Ruling](e.Of), e.Verdict, e.Why})
		}
	}
	return out
}

// Power and Emissions are what the two come to over the whole review.
func (b keptBoard) Power() decision.Whole     { return b.Whole(power.Name) }
func (b keptBoard) Emissions() decision.Whole { return b.Whole(emissions.Name) }

// NoEmissions tells that emissions were declared to be no part of the review.
func (b keptBoard) NoEmissions() bool { return b.Emissions().Words == board.NotPart }

// BoardForm is a board as it is written in an edition's data. Kinds beside these two stand under names of their own,
// over the whole and in the cells.
type BoardForm struct {
	Title     string          `json:"title"`
	Headline  string          `json:"headline"`
	Power     decision.Whole  `json:"power"`
	Emissions decision.Whole  `json:"emissions"`
	Rules     board.RulesView `json:"rules"`
	Cells     []CellForm      `json:"cells"`
}

// CellForm is a cell of a BoardForm: power and emissions are in it where it has boxes of them.
type CellForm struct {
	Cell        claims.Cell       `json:"cell"`
	Name        string            `json:"name"`
	Power       *decision.Verdict `json:"power,omitempty"`
	PowerWhy    string            `json:"power_why,omitempty"`
	Reading     *power.Reading    `json:"reading,omitempty"`
	Readings    int               `json:"readings,omitempty"`
	Frequencies []float64         `json:"frequencies_hz,omitempty"`
	Verdict     decision.Verdict  `json:"verdict,omitempty"`
	Why         string            `json:"why,omitempty"`
	Emissions   *emissions.Ruling `json:"emissions,omitempty"`
	Notes       []measure.Note    `json:"notes,omitempty"`
}

// UnmarshalJSON reads a kept board back, as far as the page draws it in its own way.
func (b *keptBoard) UnmarshalJSON(data []byte) error {
	var in BoardForm
	if err := json.Unmarshal(data, &in); err != nil {
		return err
	}
	b.Title, b.Headline, b.Rules = in.Title, in.Headline, in.Rules
	b.Kinds = []board.Whole{{Kind: power.Name, Whole: in.Power}, {Kind: emissions.Name, Whole: in.Emissions}}
	for _, c := range in.Cells {
		if c.Power == nil || c.Emissions == nil { // of another kind alone
			continue
		}
		b.Board.Cells = append(b.Board.Cells, board.Cell{Cell: c.Cell, Name: c.Name, Boxes: []measure.Box{
			{Kind: power.Name, Verdict: *c.Power, Why: c.PowerWhy, Of: measure.Answers(power.Ruling{Verdict: *c.Power, Why: c.PowerWhy, Reading: c.Reading, Of: c.Readings, Frequencies: c.Frequencies})},
			{Kind: emissions.Name, Verdict: c.Verdict, Why: c.Why, Notes: c.Notes, Of: measure.Answers(*c.Emissions)},
		}})
	}
	return nil
}
