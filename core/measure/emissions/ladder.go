package emissions

import (
	"talloak/core/decision"
	"talloak/core/judge"
)

// Rung is a bar of the margin ladder, in percent of the track's width: left of the limit line, which
// stands at 50, for room, right of it for excess, with the expanded uncertainty as a whisker at its end.
// What is clipped goes further than the track does.
type Rung struct {
	Bar     *Stretch  `json:"bar"`     // nil where there is no limit, or nothing was examined
	Whisker *Stretch  `json:"whisker"` // nil of what was not seen
	Class   RungClass `json:"class" enum:"room,over,doubt"`
	Clipped bool      `json:"clipped"`
}

// Stretch is part of a track, in percent of its width.
type Stretch struct {
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

// RungClass is what the colour of a rung says.
type RungClass string

// A rung has room, is over the limit and fails, or is over it and is no fail: its colour is that of the ruling.
const (
	HasRoom RungClass = "room"
	IsOver  RungClass = "over"
	IsDoubt RungClass = "doubt"
)

// ladderDB is what a track shows on each side of the limit line.
const ladderDB = 20.0

// RungOf is the rung of a product.
func (r *Ruling) RungOf(p *judge.Product) Rung {
	out := Rung{Class: HasRoom}
	if p.RoomDB == nil {
		return out
	}
	end := 50 - max(-ladderDB, min(ladderDB, *p.RoomDB))/ladderDB*50
	out.Bar, out.Clipped = &Stretch{min(50, end), max(50, end)}, *p.RoomDB > ladderDB || *p.RoomDB < -ladderDB
	if p.Seen {
		u := r.UncertaintyOf(p) / ladderDB * 50
		out.Whisker = &Stretch{max(0, end-u), min(100, end+u)}
	}
	switch {
	case p.Verdict == decision.Fail:
		out.Class = IsOver
	case *p.RoomDB < 0:
		out.Class = IsDoubt
	}
	return out
}

// UncertaintyOf is the expanded uncertainty of a product's level in dB, k = 2: that of the sight it rests
// on, of its distance from the carrier where only that is known; 0 where nothing was seen through any.
func (r *Ruling) UncertaintyOf(p *judge.Product) float64 {
	budget := r.Budget
	for i := range r.Sweeps {
		if s := &r.Sweeps[i]; p.Sweep != nil && s.Name == *p.Sweep && s.Budget != nil {
			budget = s.Budget
			break
		}
	}
	switch {
	case budget == nil:
		return 0
	case r.Relative:
		return budget.Relative
	}
	return budget.Absolute
}
