package publish

import (
	"cmp"
	"math"

	"talloak/core/decision"
)

// Figures are what an edition says of a band and level. Room is the worst that is left at least, in dB, with the
// expanded uncertainty of the level behind it; nil where there is none.
type Figures struct {
	Name       string           `json:"name"`
	Power      decision.Verdict `json:"power"`
	MeasuredW  *float64         `json:"measured_w"`
	LowW       *float64         `json:"low_w"` // its interval, k = 2
	HighW      *float64         `json:"high_w"`
	Emissions  decision.Verdict `json:"emissions"`
	RoomDB     *float64         `json:"room_db"`
	Seen       bool             `json:"seen"` // else the room is that of a bound
	ExpandedDB *float64         `json:"expanded_uncertainty_db"`
	RuleBook   string           `json:"rule_book,omitempty"` // that the room is by
}

// FiguresOf are those of an edition, from its data of whatever format.
func FiguresOf(doc []byte) ([]Figures, error) {
	d, err := Read(doc)
	if err != nil {
		return nil, err
	}
	return figuresOf(d.show()), nil
}

func figuresOf(all []shown) []Figures {
	out := []Figures{}
	for _, s := range all {
		p, e := &s.Power, &s.Emissions
		out = append(out, Figures{s.Name, p.Verdict, p.MeasuredW, p.LowW, p.HighW, e.Verdict, e.RoomDB, e.Seen, e.ExpandedDB, e.RuleBook})
	}
	return out
}

// change is what became of a band and level since an earlier edition. Before is nil of one that the earlier did not
// have, After of one that is gone.
type change struct {
	Name      string          `json:"name"`
	Before    *Figures        `json:"before"`
	After     *Figures        `json:"after"`
	Power     decision.Change `json:"power"`
	Emissions decision.Change `json:"emissions"`
	OtherBook bool            `json:"other_rule_book,omitempty"` // the margins are by different limits: no change of the radio can be told from them
}

// EmissionsWords say what became of the emissions.
func (c change) EmissionsWords() string {
	if c.OtherBook {
		return "by another rule book"
	}
	return c.Emissions.Spoken()
}

// changes are those of every band and level of both.
func changes(before, after []Figures) []change {
	var out []change
	find := func(in []Figures, name string) *Figures {
		for i := range in {
			if in[i].Name == name {
				return &in[i]
			}
		}
		return nil
	}
	for i := range after {
		out = append(out, changeOf(find(before, after[i].Name), &after[i]))
	}
	for i := range before {
		if find(after, before[i].Name) == nil {
			out = append(out, changeOf(&before[i], nil))
		}
	}
	return out
}

func changeOf(before, after *Figures) change {
	out := change{Name: cmp.Or(after, before).Name, Before: before, After: after}
	if before == nil || after == nil {
		return out
	}
	if before.MeasuredW != nil && after.MeasuredW != nil {
		out.Power = decision.Told(before.watts(), after.watts())
	}
	out.OtherBook = before.RuleBook != after.RuleBook && before.RuleBook != "" && after.RuleBook != ""
	if before.RoomDB != nil && after.RoomDB != nil && !out.OtherBook {
		out.Emissions = decision.Told(before.room(), after.room())
	}
	return out
}

func (f *Figures) watts() *decision.Interval {
	if f.LowW == nil || f.HighW == nil {
		return nil
	}
	return &decision.Interval{Low: *f.LowW, High: *f.HighW}
}

func (f *Figures) room() *decision.Interval {
	if f.RoomDB != nil && !f.Seen { // so much at least
		return &decision.Interval{Low: *f.RoomDB, High: math.Inf(1)}
	}
	if f.ExpandedDB == nil {
		return nil
	}
	i := decision.Around(*f.RoomDB, *f.ExpandedDB)
	return &i
}
