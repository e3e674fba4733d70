package app

import (
	"context"

	"talloak/core/bands"
	"talloak/core/problem"
)

// Region is the ITU region of the publication, 0 until it was said: new reviews begin there.
func (a *App) Region(ctx context.Context) (bands.Region, error) { return a.Store.Region(ctx) }

// SetRegion says it.
func (a *App) SetRegion(ctx context.Context, r bands.Region) error {
	if r < bands.Region1 || r > bands.Region3 {
		return problem.New("itu_region", "give 1, 2 or 3")
	}
	err := a.Store.SetRegion(ctx, r)
	if err == nil {
		a.Events.publish("publication", "", "")
	}
	return err
}
