package emissions

import (
	"cmp"
	"fmt"
	"slices"

	"talloak/core/claims"
	"talloak/core/judge"
	"talloak/core/record"
)

// LevelsSay is what the levels of a band say together.
type LevelsSay struct {
	Band string      `json:"band"`
	Mode record.Mode `json:"mode"`
	Says string      `json:"says"`
}

// alikeDB is within what levels are called alike, in dB (common practice, no source).
const alikeDB = 3

// levelsSay tells at which level of a band the radio is dirtiest below its carrier, and
// whether another term decides; empty where fewer than two were seen.
func (d *Room) levelsSay(band claims.Cell) string {
	type one struct {
		level, by string
		worst     *judge.Product
	}
	var all []one
	var by []string
	for _, c := range d.review.Cells {
		if c.Band.Name != band.Band.Name || c.Mode != band.Mode {
			continue
		}
		e := d.Worst(record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode, FrequencyHz: float64(c.Band.UsualHz)}, false)
		if e.Ruling == nil {
			continue
		}
		o := one{level: c.Level}
		for i := range e.Ruling.Products {
			if p := &e.Ruling.Products[i]; p.Seen && p.DBc != nil && (o.worst == nil || *p.DBc > *o.worst.DBc) {
				o.worst = p
			}
		}
		if w := e.Ruling.Worst; w != nil && w.DecidedBy != nil {
			o.by = *w.DecidedBy
			if !slices.Contains(by, o.by) {
				by = append(by, o.by)
			}
		}
		if o.worst != nil {
			all = append(all, o)
		}
	}
	if len(all) < 2 {
		return ""
	}
	slices.SortStableFunc(all, func(a, b one) int { return cmp.Compare(*b.worst.DBc, *a.worst.DBc) })
	dirty, clean := all[0], all[len(all)-1]
	out := fmt.Sprintf("alike at all levels, within %d dB below the carrier", alikeDB)
	if *dirty.worst.DBc-*clean.worst.DBc >= alikeDB {
		out = fmt.Sprintf("dirtiest at %s: its %s is %.1f dBc; the most that is seen at %s is %.1f dBc", dirty.level, dirty.worst.Name(), *dirty.worst.DBc, clean.level, *clean.worst.DBc)
		if dirty.worst.Suspect {
			out += "; but that may be the analyzer's own"
		}
	}
	if len(by) > 1 {
		out += "; the deciding term changes:"
		for i, o := range all {
			out += fmt.Sprintf("%s %s at %s", map[bool]string{true: ",", false: ""}[i > 0], termName(&o.by), o.level)
		}
	}
	return out
}
