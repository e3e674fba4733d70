package measure

import (
	"slices"

	"talloak/core/claims"
)

// Asked is a step of the run sheet beside power and emissions: what claims ask of a kind in one of its
// boxes. Minutes are what it usually takes.
type Asked struct {
	Kind    string   `json:"kind"`
	Title   string   `json:"title"`
	Box     string   `json:"box"`
	Claimed []string `json:"claimed"`
	Minutes float64  `json:"minutes"`
	Done    bool     `json:"done"`
}

// Asker is a kind that claims ask for: those that speak of a box, in words, and whether all of them are
// answered.
type Asker interface {
	Asked(r *Review, c claims.Cell) (claimed []string, done bool)
}

// AllAsked are the steps that the claims of a review ask for, in the order of the kinds.
func AllAsked(r *Review) []Asked {
	out := []Asked{}
	for _, k := range r.Kinds {
		asker, ok := k.(Asker)
		if !ok {
			continue
		}
		about := k.About()
		for _, c := range about.Cells(r) {
			if claimed, done := asker.Asked(r, c); len(claimed) > 0 {
				out = append(out, Asked{about.Name, about.Title, r.BoxName(c), claimed, about.Minutes, done})
			}
		}
	}
	return out
}

// Said are the claims of a kind that speak of a band, or of the whole radio, in words, each once.
func (r *Review) Said(kind claims.OtherKind, band string) []string {
	var out []string
	for _, o := range r.Others(kind) {
		if w := o.Words(); (o.Band == "" || o.Band == band) && !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	return out
}
