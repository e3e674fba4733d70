package app

import (
	"context"

	"talloak/core/keying"
	"talloak/core/record"
	"talloak/core/wiring"
	"talloak/store"
)

// Staircase is what is said before a radio under review is keyed into a kept path.
func (a *App) Staircase(ctx context.Context, reviewID string, k record.Keyed, pathID string) (*wiring.Staircase, error) {
	r, err := a.Open(ctx, reviewID, store.WithoutTraces, nil)
	if err != nil {
		return nil, err
	}
	t, _, err := a.Store.Through(ctx, pathID)
	if err != nil {
		return nil, err
	}
	bench, err := a.Store.Kit(ctx, r.Bench())
	if err != nil {
		return nil, err
	}
	return Stairs(keying.Into(r, k, t, bench))
}

// Stairs works a wiring out and names it.
func Stairs(w wiring.Wiring) (*wiring.Staircase, error) {
	out, err := wiring.Wire(w)
	out.Wiring = WiringOf(w.Through)
	return &out, err
}
