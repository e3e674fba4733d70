package board

import (
	"encoding/json"
	"strings"

	"talloak/core/measure"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/say"
)

// Obstacles lists what stands in the way of an edition: what nobody said of the unit and
// its claims, and what each kind says of its boxes.
func Obstacles(r *measure.Review, b *Board) []measure.Obstacle {
	out := []measure.Obstacle{}
	s := r.Subject
	obstacle := func(blocks bool, stage string, s say.Said) {
		out = append(out, measure.Obstacle{Said: s, Blocks: blocks, Stage: stage})
	}
	if s.ComeBy == "" {
		obstacle(true, "radio", say.ComeBy())
	}
	if s.Interest == "" {
		obstacle(true, "radio", say.Interest())
	}
	if s.Serial == "" && s.DateCode == "" {
		obstacle(false, "radio", say.NameTheUnit())
	}
	for i, c := range r.Lines {
		if c.Error != "" {
			obstacle(true, "radio", say.ClaimUnread(c.Text, c.Error))
		}
		if strings.TrimSpace(c.Source) == "" {
			obstacle(true, "radio", say.ClaimSource(i+1, c.Text))
		}
	}
	var beyond problem.List
	beyond.AddErr("", measure.CheckRules(r.Rules))
	for _, f := range beyond.Fields() {
		obstacle(true, "ruling", say.BeyondBounds(strings.ReplaceAll(f.Field, "_", " "), f.Detail))
	}
	if b.Rules.Recalled {
		obstacle(false, "ruling", say.BookUnchecked(b.Rules.Book))
	}
	for _, book := range r.AllBooks() {
		if book != r.Book && book.Recalled && book.Checked == nil {
			obstacle(false, "ruling", say.BookUnchecked(book.Title))
		}
	}
	if !r.Taken() {
		obstacle(true, "power", say.NothingMeasured())
	}
	if r.Practice != "" {
		obstacle(true, "practice", say.Practice())
	} else if name := simulatedIn(r); name != "" {
		obstacle(true, "power", say.SimulatedIn(name))
	}
	for _, kind := range Kinds(r) {
		if !r.LeavesOut(kind.About().Name) {
			out = append(out, together(r.Room(kind).Obstacles(b.Boxes(kind.About().Name)))...)
		}
	}
	unrated := map[string]bool{}
	for _, t := range Ways(r, b) {
		for _, k := range t.Kit {
			if e := k.Spec.Element; !unrated[k.Name] && e.MaxW == nil && !k.Spec.KindOf().Sends() && (e.Kind == path.Attenuator || e.Kind == path.Load || e.Kind == path.Meter) {
				unrated[k.Name] = true
				obstacle(false, "radio", say.KitRating(k.Name))
			}
		}
	}
	return out
}

// many is from how many boxes on that lack the same they are told in one line.
const many = 3

// together tells what many boxes lack alike in one line, in the place of the first.
func together(all []measure.Obstacle) []measure.Obstacle {
	out := []measure.Obstacle{}
	at := map[string]int{}
	boxes := map[string][]string{}
	key := func(o measure.Obstacle) string { return string(o.Code) + "|" + o.Each }
	for _, o := range all {
		if o.Of != "" && o.Each != "" {
			boxes[key(o)] = append(boxes[key(o)], o.Of)
		}
	}
	for _, o := range all {
		of := boxes[key(o)]
		if o.Of == "" || len(of) < many {
			out = append(out, o)
		} else if _, told := at[key(o)]; !told {
			at[key(o)] = len(out)
			o.Said = say.That(o.Code, "%d boxes: %s (%s)", len(of), o.Each, measure.FirstFew(of, 2)).Do(o.Advice)
			out = append(out, o)
		}
	}
	return out
}

// simulatedIn is the name of a simulated instrument that something in force was read by; empty where
// there is none.
func simulatedIn(r *measure.Review) string {
	for _, m := range r.Facts().Measurements {
		var read struct {
			By []record.By `json:"by"`
		}
		if standing, _ := r.Standing(m.ID); standing == record.Struck || json.Unmarshal(m.Payload, &read) != nil {
			continue
		}
		for _, b := range read.By {
			if b.Simulated {
				return b.Name
			}
		}
	}
	return ""
}

// Ways are the paths that every kind of measurement of a review rests on.
func Ways(r *measure.Review, b *Board) []*record.Through {
	var out []*record.Through
	for _, kind := range Kinds(r) {
		out = append(out, r.Room(kind).Ways(b.Boxes(kind.About().Name))...)
	}
	return out
}
