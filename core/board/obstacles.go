package board

import (
	"fmt"
	"strings"

	"talloak/core/measure"
	"talloak/core/path"
	"talloak/core/record"
)

// Obstacles lists what stands in the way of an edition: what nobody said of the unit and
// its claims, and what each kind says of its boxes.
func Obstacles(r *measure.Review, b *Board) []measure.Obstacle {
	out := []measure.Obstacle{}
	s := r.Subject
	say := func(blocks bool, stage, code, detail string, args ...any) {
		out = append(out, measure.Obstacle{Code: code, Detail: fmt.Sprintf(detail, args...), Blocks: blocks, Stage: stage})
	}
	if s.ComeBy == "" {
		say(true, "radio", "come-by", "say how the unit was come by")
	}
	if s.Interest == "" {
		say(true, "radio", "interest", "say whether you sell it or earn on links")
	}
	if s.Serial == "" && s.DateCode == "" {
		say(false, "radio", "unit", "no serial or date code: readers cannot tell which unit this was")
	}
	for i, c := range r.Lines {
		if c.Error != "" {
			say(true, "radio", "claim-unread", "the claim %q cannot be read: %s", c.Text, c.Error)
		}
		if strings.TrimSpace(c.Source) == "" {
			say(true, "radio", "claim-source", "say where claim %d, %q, was read", i+1, c.Text)
		}
	}
	if b.Rules.Recalled {
		say(false, "ruling", "book-unchecked", "the rule book %q is recalled from memory and was not checked against the text; the edition says so", b.Rules.Book)
	}
	for _, kind := range Kinds(r) {
		out = append(out, r.Room(kind).Obstacles(b.Boxes(kind.About().Name))...)
	}
	unrated := map[string]bool{}
	for _, t := range Ways(r, b) {
		for _, k := range t.Kit {
			if e := k.Spec.Element; !unrated[k.Name] && e.MaxW == nil && !k.Spec.KindOf().Sends() && (e.Kind == path.Attenuator || e.Kind == path.Load || e.Kind == path.Meter) {
				unrated[k.Name] = true
				say(false, "radio", "kit-rating", "%s has no power rating: write it down on the bench", k.Name)
			}
		}
	}
	return out
}

// Ways are the paths that every kind of measurement of a review rests on.
func Ways(r *measure.Review, b *Board) []*record.Through {
	var out []*record.Through
	for _, kind := range Kinds(r) {
		out = append(out, r.Room(kind).Ways(b.Boxes(kind.About().Name))...)
	}
	return out
}
