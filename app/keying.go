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

// Ghosts are the powers of the unit of the same maker and model that was measured last
// before this one; none where there is no such unit.
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
	r, err := a.Open(ctx, before, store.WithoutTraces, nil)
	if err != nil {
		return nil, err
	}
	return keying.Ghosts(r), nil
}
