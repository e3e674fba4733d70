package measure

import (
	"fmt"
	"strings"

	"talloak/core/decision"
)

// PlainTeller is a room that says what its boxes come to for somebody who buys the radio: a sentence or a few,
// never more than the evidence carries, and never without what was not looked at.
type PlainTeller interface {
	Plain([]Named, decision.Whole) string
}

// Where is the place of a box in a sentence: at High on 2m.
func (n Named) Where() string {
	out := ""
	if n.Cell.Level != "" {
		out = "at " + n.Cell.Level + " "
	}
	if n.Cell.Band.Name == "" {
		return strings.TrimSpace(out)
	}
	out += "on " + n.Cell.Band.Name
	if n.Cell.Mode != "" && strings.HasSuffix(n.Name, " "+string(n.Cell.Mode)) {
		out += " " + string(n.Cell.Mode)
	}
	return out
}

// FirstFew are the first n of several in a sentence, with how many more there are.
func FirstFew(all []string, n int) string {
	if len(all) > n+1 { // one more is as short as its number
		return strings.Join(all[:n], ", ") + fmt.Sprintf(" and %d more", len(all)-n)
	}
	if len(all) < 2 {
		return strings.Join(all, "")
	}
	return strings.Join(all[:len(all)-1], ", ") + " and " + all[len(all)-1]
}
