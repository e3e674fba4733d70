package emissions

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// goesWith says what the line of a column goes with.
func (b *StateBoard) goesWith(column int) string {
	var seen, gone, seenIdle, goneIdle []string
	highest, lowest, quiet := math.Inf(-1), math.Inf(1), math.Inf(-1) // quiet: while nothing is keyed
	strongest := ""
	for _, row := range b.Rows {
		c := row.Cells[column]
		if c.LevelDBm == nil {
			continue
		}
		if highest = max(highest, *c.LevelDBm); highest == *c.LevelDBm {
			strongest = row.Name
		}
		if lowest = min(lowest, *c.LevelDBm); row.idle && !b.Heard {
			seenIdle, quiet = append(seenIdle, row.Name), max(quiet, *c.LevelDBm)
		} else {
			seen = append(seen, row.Name)
		}
	}
	for _, row := range b.Rows {
		if c := row.Cells[column]; c.BelowDBm != nil && *c.BelowDBm <= highest-clearDB {
			if row.idle && !b.Heard {
				goneIdle = append(goneIdle, row.Name)
			} else {
				gone = append(gone, row.Name)
			}
		}
	}
	switch {
	case len(seenIdle) > 0 && highest-quiet >= clearDB:
		return fmt.Sprintf("strongest with %s, by %.0f dB over %s: that much is made transmitting, the rest is there without", strongest, highest-quiet, list(seenIdle))
	case slices.Contains(seenIdle, "off"):
		return "there with the radio off: not of the radio, but of the bench or of what is on the air"
	case len(seenIdle) > 0 && len(goneIdle) > 0:
		return fmt.Sprintf("in %s, gone in %s: of what runs then", list(seenIdle), list(goneIdle))
	case len(seenIdle) > 0:
		return fmt.Sprintf("in %s too: made without transmitting", list(seenIdle))
	case len(seen) > 0 && len(gone) > 0:
		return fmt.Sprintf("with %s, gone with %s: goes with what differs between them", list(seen), list(append(gone, goneIdle...)))
	case len(seen) > 1 && highest-lowest >= clearDB:
		return fmt.Sprintf("in all looked at, strongest with %s, by %.0f dB", strongest, highest-lowest)
	case len(goneIdle) > 0:
		return fmt.Sprintf("only while transmitting; gone in %s", list(goneIdle))
	case len(seen) > 1:
		return "alike in all looked at"
	}
	if len(b.Rows) > 1 {
		return fmt.Sprintf("with %s; where it is not seen the noise is too high to tell, or nobody looked", list(seen))
	}
	return "seen in one state alone: nothing to hold it against"
}

// ask is which state would tell more.
func (b *StateBoard) ask() string {
	has := func(state string) bool {
		return slices.ContainsFunc(b.Rows, func(r StateRow) bool { return r.State == state })
	}
	sending := 0
	for _, r := range b.Rows {
		if r.State == "" {
			sending++
		}
	}
	switch {
	case len(b.Columns) == 0:
		return ""
	case b.Heard && len(b.Rows) < 2:
		return "listen again with the supply or the amplifier off: what goes away with it comes from it"
	case b.Heard:
		return ""
	case !has("off"):
		return "look with the radio off: what stays is not of the radio"
	case !has("standby") && !has("receive"):
		return "look in standby: what stays is made without transmitting"
	case sending < 2:
		return "look at another level: what does not follow it is not made by the last stage"
	case !slices.ContainsFunc(b.Rows, func(r StateRow) bool { return strings.Contains(r.State, "supply") }):
		return "look on another supply: what goes away with it comes from it"
	}
	return ""
}

func list(names []string) string {
	if n := len(names); n > 1 {
		return strings.Join(names[:n-1], ", ") + " and " + names[n-1]
	}
	return strings.Join(names, "")
}
