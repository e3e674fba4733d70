package app

import (
	"context"
	"net/url"
	"strings"

	"talloak/core/bands"
	"talloak/core/problem"
	"talloak/core/record"
)

// Region is the ITU region of the publication, 0 until it was said: new reviews begin there.
func (a *App) Region(ctx context.Context) (bands.Region, error) { return a.Store.Region(ctx) }

// SetPublication says who publishes.
func (a *App) SetPublication(ctx context.Context, p record.Publication) error {
	if err := checkTexts(p); err != nil {
		return err
	}
	p.Address = strings.TrimRight(strings.TrimSpace(p.Address), "/")
	if at, err := url.Parse(p.Address); p.Address != "" && (err != nil || at.Scheme != "https" && at.Scheme != "http" || at.Host == "") {
		return problem.New("who.address", "give the address that readers reach this server at, such as https://reviews.example")
	}
	err := a.Store.SetPublication(ctx, p)
	if err == nil {
		a.Events.publish("publication", "", "")
	}
	return err
}

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
