package board

import (
	"strings"

	"talloak/core/measure"
)

// Plain is what a board says to somebody who buys the radio, in the order of its kinds: those that every review has.
func Plain(r *measure.Review, b *Board) string {
	var said []string
	for _, kind := range Kinds(r) {
		about := kind.About()
		if teller, ok := r.Room(kind).Inside().(measure.PlainTeller); ok {
			if s := teller.Plain(b.Boxes(about.Name), b.Whole(about.Name)); s != "" {
				said = append(said, s)
			}
		}
	}
	return strings.Join(said, " ")
}
