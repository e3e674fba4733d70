// Package keying is what is said before a radio under review is keyed into a path: which
// powers the path must stand, and whether that is a danger.
package keying

import (
	"talloak/core/dc"
	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Into is what will be keyed into a path: the levels claimed on the band, the most of
// the mode claimed anywhere (the radio can be on that band by a slip), what was measured
// where that is higher, and what other modes would do.
func Into(r *measure.Review, k record.Keyed, t *record.Through, bench []record.Item) wiring.Wiring {
	read := power.Of(r)
	out := wiring.Wiring{
		Through: t, Carrier: units.Hertz(k.FrequencyHz), Mode: k.Mode, Book: r.BookOf(k.Band), Bench: bench,
		MostW: r.Subject.MostW, KeyS: r.Subject.KeyS, RestS: r.Subject.RestS, RadioMinV: r.Subject.SupplyMinV, RadioMaxV: r.Subject.SupplyMaxV, MeasuredW: read.HighestW(k),
	}
	if c := r.Cell(k); c != nil {
		if channel, ok := c.Band.ChannelAt(units.Hertz(k.FrequencyHz)); ok {
			out.Channel = "channel " + channel.Name
			if channel.Mark != "" {
				out.Channel += ", " + string(channel.Mark)
			}
		}
	}
	type hardest struct{ at int }
	most := map[string]hardest{}
	var modes []string
	for i, c := range r.Cells {
		if !(c.Claimed > 0) {
			continue
		}
		mode := string(c.Mode)
		if h, ok := most[mode]; !ok {
			modes, most[mode] = append(modes, mode), hardest{i}
		} else if c.Claimed > r.Cells[h.at].Claimed {
			most[mode] = hardest{i}
		}
		if c.Band.Name == k.Band && c.Mode == k.Mode {
			at := record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}
			out.Levels = append(out.Levels, dc.Level{Name: c.Level, W: c.Claimed, A: read.AmpsAt(at), Mode: mode, PEP: c.PEP})
		}
	}
	for _, mode := range modes {
		c := r.Cells[most[mode].at]
		if c.Band.Name == k.Band && c.Mode == k.Mode {
			continue
		}
		l := dc.Level{Name: c.Band.Name + " " + c.Level + " " + mode, W: c.Claimed, Mode: mode, PEP: c.PEP}
		// What is claimed in this mode is what the path must stand; of another mode it is a slip to be warned of. Where
		// nothing is claimed in this mode, the others are all that is known.
		if _, claimed := most[string(k.Mode)]; claimed && mode != string(k.Mode) {
			out.Slips = append(out.Slips, l)
		} else {
			out.Levels = append(out.Levels, l)
		}
	}
	return out
}

// Ghost is what stood for a box of an earlier unit of the same model: its power in W, 0 where none was measured, and
// the room that was left to the worst of its emissions, at least so much where it was not seen.
type Ghost struct {
	Box     string   `json:"box"`
	W       float64  `json:"w"`
	Title   string   `json:"title"`
	Product string   `json:"product,omitempty"`
	RoomDB  *float64 `json:"room_db,omitempty"`
	Seen    bool     `json:"seen"`
}
