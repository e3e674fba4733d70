package board

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/units"
)

// Board is the ruling on a review: what each kind comes to, every box, and the sentence
// above them.
type Board struct {
	Title    string    `json:"title"`
	Headline string    `json:"headline"`
	Rules    RulesView `json:"rules"`
	Kinds    []Whole   `json:"kinds"`
	Cells    []Cell    `json:"cells"`
	Levels   []string  `json:"levels"` // from the highest down
}

// Whole is what a kind of measurement comes to over the whole review.
type Whole struct {
	Kind     string `json:"kind"`
	Title    string `json:"title"`
	PerLevel bool   `json:"per_level"`
	decision.Whole
}

// Cell is a band at a level, a whole band where its level is empty, or the whole radio where its
// band is, with the boxes of
// the kinds that have one there.
type Cell struct {
	Cell  claims.Cell   `json:"cell"`
	Name  string        `json:"name"`
	Boxes []measure.Box `json:"boxes"`
}

// Box is the box of a kind; nil where the cell has none.
func (c *Cell) Box(kind string) *measure.Box {
	for i := range c.Boxes {
		if c.Boxes[i].Kind == kind {
			return &c.Boxes[i]
		}
	}
	return nil
}

// RulesView is what the board was judged by, in words.
type RulesView struct {
	RuleBook string `json:"rule_book"`
	Book     string `json:"book"`
	Claim    string `json:"claim"`
	Decision string `json:"decision"`
	Settings string `json:"settings,omitempty"` // whatever else decides
	Recalled bool   `json:"recalled"`
	House    bool   `json:"house"`

	Bands []BandBook `json:"bands,omitempty"` // judged by a book of their own
}

// BandBook is the rule book of a band that is judged by one of its own.
type BandBook struct {
	Band     string `json:"band"`
	RuleBook string `json:"rule_book"`
	Book     string `json:"book"`
	Source   string `json:"source"`
	Recalled bool   `json:"recalled"`
	House    bool   `json:"house"`
}

// NotPart is said of a kind that the reviewer left out of the whole review.
const NotPart = "not part of this review"

// Of works out every box of a review. Pictures are left out unless asked for.
func Of(r *measure.Review, pictures bool) Board {
	out := Board{Title: r.Title(), Rules: rulesView(r), Kinds: []Whole{}, Cells: []Cell{}, Levels: append([]string{}, claims.LevelOrder(r.Cells)...)}
	for _, cells := range [][]claims.Cell{r.Cells, r.Bands(), r.Heard(), {{}}} {
		for _, c := range cells {
			out.Cells = append(out.Cells, Cell{c, r.BoxName(c), []measure.Box{}})
		}
	}
	var said, left []string
	var more further
	for _, kind := range Kinds(r) {
		about, room := kind.About(), r.Room(kind)
		of := map[string]bool{}
		for _, c := range about.Cells(r) {
			of[r.BoxName(c)] = true
		}
		var parts []decision.Part
		for i := range out.Cells {
			c := &out.Cells[i]
			if !of[r.BoxName(c.Cell)] {
				continue
			}
			box := room.Box(c.Cell, pictures)
			if r.LeavesOut(about.Name) {
				box.Why = NotPart
			}
			if box.Verdict == decision.NotExamined && !asked(r, kind, c.Cell) {
				continue
			}
			c.Boxes = append(c.Boxes, box)
			parts = append(parts, decision.Part{Verdict: box.Verdict, Full: true}) // or it passes only so far
		}
		whole := decision.Sum(parts, r.Unread())
		if r.LeavesOut(about.Name) {
			whole.Words = NotPart
			out.Kinds = append(out.Kinds, Whole{about.Name, about.Title, about.PerLevel, whole})
			left = append(left, about.Title+" were "+NotPart+".")
			continue
		}
		out.Kinds = append(out.Kinds, Whole{about.Name, about.Title, about.PerLevel, whole})
		switch boxes := out.Boxes(about.Name); {
		case about.Leads:
			said = slices.Insert(said, 0, room.Sentence(boxes, whole))
		case !about.More || !more.takes(about, whole, boxes):
			said = append(said, room.Sentence(boxes, whole))
		}
	}
	out.Cells = slices.DeleteFunc(out.Cells, func(c Cell) bool { return len(c.Boxes) == 0 })
	out.Headline = strings.Join(slices.Concat(said, more.sentences(), left), " ")
	return out
}

// asked tells whether every review has a box of the kind for a cell, or a claim asks for one: a box that
// was not examined is one only then. Nobody has to measure what is out of scope.
func asked(r *measure.Review, k measure.Kind, c claims.Cell) bool {
	if k.About().Always {
		return true
	}
	asker, ok := k.(measure.Asker)
	if !ok {
		return false
	}
	claimed, _ := asker.Asked(r, c)
	return len(claimed) > 0
}

// Kinds are those a review has boxes for: always, or because something was taken.
func Kinds(r *measure.Review) []measure.Kind {
	var out []measure.Kind
	for _, k := range r.Kinds {
		if about := k.About(); about.Always || len(r.Of(about.Name)) > 0 {
			out = append(out, k)
		}
	}
	return out
}

// Boxes are those of one kind, with their names.
func (b *Board) Boxes(kind string) []measure.Named {
	var out []measure.Named
	for i := range b.Cells {
		if box := b.Cells[i].Box(kind); box != nil {
			out = append(out, measure.Named{Name: b.Cells[i].Name, Cell: b.Cells[i].Cell, Box: *box})
		}
	}
	return out
}

// Whole is what a kind comes to; the zero value where the board has none of it.
func (b *Board) Whole(kind string) decision.Whole {
	for _, k := range b.Kinds {
		if k.Kind == kind {
			return k.Whole
		}
	}
	return decision.Whole{}
}

func rulesView(r *measure.Review) RulesView {
	v := RulesView{RuleBook: r.Book.ID, Book: r.Book.Title, Recalled: r.Book.Recalled && r.Book.Checked == nil, House: r.Book.Kind == "house"}
	for _, c := range r.Bands() {
		b := r.BookOf(c.Band.Name)
		if b != r.Book && !slices.ContainsFunc(v.Bands, func(o BandBook) bool { return o.Band == c.Band.Name }) {
			v.Bands = append(v.Bands, BandBook{c.Band.Name, b.ID, b.Title, b.Source, b.Recalled && b.Checked == nil, b.Kind == "house"})
		}
	}
	v.Claim = fmt.Sprintf("the claim less %.1f dB, which is %.0f %% of it and more", r.Rules.ToleranceDB, 100/units.DB(r.Rules.ToleranceDB).Ratio())
	if claims.Scheme(r.Rules.Scheme) == claims.Percent {
		v.Claim = fmt.Sprintf("%.0f %% of the claim and more", r.Rules.PassPercent)
	}
	v.Decision = "guarded: what lies within the uncertainty of the limit is too close to call"
	if decision.Rule(r.Rules.DecisionRule) == decision.Simple {
		v.Decision = "simple: the measured value decides, whatever its uncertainty"
	}
	v.Settings = settings(r)
	return v
}

// settings are the figures that decide beside books and rules.
func settings(r *measure.Review) string {
	out := []string{fmt.Sprintf("an emission of %s", units.Hertz(r.Rules.BandwidthHz))}
	if swr := r.Rules.SourceSWR; swr > 0 {
		out = append(out, fmt.Sprintf("the radio's own SWR at its harmonics %g", swr))
	} else {
		out = append(out, "the radio's own SWR at its harmonics a typical one")
	}
	if g := r.Subject.AntennaGainDBd; g != nil {
		out = append(out, fmt.Sprintf("its antenna %g dBd", *g))
	}
	return strings.Join(append(out, fmt.Sprintf("amateur bands of ITU region %d", cmp.Or(r.Subject.Region, 2))), ", ")
}
