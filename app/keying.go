package app

import (
	"context"

	"talloak/core/keying"
	"talloak/core/record"
	"talloak/store"
)

// Unplanned reads a step that is on no sheet.
func (a *App) Unplanned(ctx context.Context, id, text string, now record.Keyed) (record.Keyed, error) {
	r, err := a.Open(ctx, id, store.WithoutTraces, nil)
	if err != nil {
		return now, err
	}
	return keying.Unplanned(r, text, now)
}

// Ghosts are the figures of the unit that a review re-tests, else of that of the same maker and model that was measured
// last before this one; none where there is no such unit.
func (a *App) Ghosts(ctx context.Context, id string) ([]keying.Ghost, error) {
	now, err := a.Store.Review(ctx, id)
	if err != nil {
		return nil, err
	}
	before := now.Follows
	if before == "" {
		before, err = a.Store.EarlierOf(ctx, now)
	}
	if err != nil || before == "" {
		return []keying.Ghost{}, err
	}
	_, says, err := a.summaries(ctx, store.Wanted{IDs: []string{before}}, nil, 1)
	out := []keying.Ghost{}
	for _, s := range says {
		for _, c := range s.Compared {
			g := keying.Ghost{Box: c.Name, Title: s.Title, Product: c.Product, RoomDB: c.RoomDB, Seen: c.Seen}
			if c.MeasuredW != nil {
				g.W = *c.MeasuredW
			}
			if g.W > 0 || g.RoomDB != nil {
				out = append(out, g)
			}
		}
	}
	return out, err
}
