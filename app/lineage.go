package app

import (
	"context"
	"slices"

	"talloak/core/measure"
	"talloak/core/record"
	"talloak/publish"
)

// Line is a review in a lineage: of which it is the re-test, and its editions, oldest first.
type Line struct {
	ReviewID string
	Title    string
	Follows  string
	Editions []record.Edition
}

// Lineage is a review with those that it is related to by re-tests, in the order begun.
func (a *App) Lineage(ctx context.Context, reviewID string) ([]Line, error) {
	family, err := a.Store.Family(ctx, reviewID)
	if err != nil {
		return nil, err
	}
	var out []Line
	for _, r := range family {
		editions, err := a.Store.Editions(ctx, r.ID)
		if err != nil {
			return nil, err
		}
		out = append(out, Line{r.ID, measure.TitleOf(r.Subject), r.Follows, editions})
	}
	return out, nil
}

// ReadEdition is the page of an edition as readers get it: with what has followed it round it. The page's own bytes
// are not changed.
func (a *App) ReadEdition(ctx context.Context, id string) ([]byte, error) {
	e, d, err := a.editionData(ctx, id)
	if err != nil {
		return nil, err
	}
	lines, err := a.Lineage(ctx, e.ReviewID)
	if err != nil {
		return nil, err
	}
	letters, err := a.Store.Letters(ctx, e.ReviewID)
	if err != nil {
		return nil, err
	}
	around := publish.Around{ID: e.ID}
	for _, l := range publish.Printed(letters) {
		if !slices.Contains(d.Letters, l) {
			around.Letters = append(around.Letters, l)
		}
	}
	for _, l := range lines {
		line := publish.Line{Title: l.Title, Mine: l.ReviewID == e.ReviewID}
		for i := range l.Editions {
			o := &l.Editions[i]
			line.Editions = append(line.Editions, earlier(o))
			after := line.Mine && o.Number > e.Number
			retest := l.Follows == e.ReviewID
			if after || retest {
				around.Followed = append(around.Followed, earlier(o))
			}
		}
		if len(line.Editions) > 0 {
			around.Lines = append(around.Lines, line)
		}
	}
	return around.Round(e.Page)
}
