package claims

import (
	"slices"

	"talloak/core/bands"
	"talloak/core/rulebook"
)

// Cell is one box of a review's matrix: a band at a level, with its claim, or 0
// where there is none.
type Cell struct {
	Band       bands.Band    `json:"band"`
	Level      string        `json:"level"`
	Mode       rulebook.Mode `json:"mode"`
	Claimed    float64       `json:"claimed_w"`
	PEP        bool          `json:"pep"`
	Adjustable bool          `json:"adjustable,omitempty"`
}

// Matrix is the boxes of all claims: bands in the order claimed, levels from
// the highest down. A box claimed twice keeps the later claim. What is claimed of every
// band counts on those that nothing else is claimed of.
func Matrix(claimed []Power, r bands.Region) []Cell {
	var out []Cell
	put := func(p Power, name string) {
		band, ok := bands.Find(name, r)
		if !ok {
			return // of another region: its line says so
		}
		cell := Cell{band.In(string(p.Mode), r), p.Level, p.Mode, p.W, p.PEP, p.Adjustable}
		i := slices.IndexFunc(out, func(c Cell) bool {
			return c.Band.Name == band.Name && c.Level == p.Level && c.Mode == p.Mode
		})
		if i >= 0 {
			out[i] = cell
		} else {
			out = append(out, cell)
		}
	}
	var every []Power
	for _, p := range claimed {
		if p.Band == "" {
			every = append(every, p)
		}
	}
	for i, p := range claimed {
		switch {
		case p.Band == "":
		case len(every) == 0 || slices.ContainsFunc(claimed, func(o Power) bool { return o.Band == p.Band && o.W > 0 }):
			put(p, p.Band)
		case slices.IndexFunc(claimed, func(o Power) bool { return o.Band == p.Band }) == i:
			for _, e := range every {
				put(e, p.Band)
			}
		}
	}
	return out
}

// Bandless tells whether a power is claimed of every band while no band is named.
func Bandless(claimed []Power) bool {
	return len(claimed) > 0 && !slices.ContainsFunc(claimed, func(p Power) bool { return p.Band != "" })
}
