package app

import (
	"context"
	"errors"

	"talloak/core/record"
	"talloak/publish"
	"talloak/store"
)

// EditionText is an edition as plain text.
func (a *App) EditionText(ctx context.Context, id string) ([]byte, error) {
	e, err := a.Store.Edition(ctx, id)
	if err != nil {
		return nil, err
	}
	return publish.Text(e.Document, e.SHA256)
}

// EditionPackage is the data package of an edition: what was frozen, and of the sweeps that it names every
// point and the files they were read from, which are facts and never change.
func (a *App) EditionPackage(ctx context.Context, id string) (*record.Edition, []byte, error) {
	e, err := a.Store.Edition(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	sweeps, err := publish.Sweeps(e.Document)
	if err != nil {
		return nil, nil, err
	}
	r, err := a.Open(ctx, e.ReviewID, store.WithTraces, nil)
	if err != nil {
		return nil, nil, err
	}
	var files []record.File
	for _, sweep := range sweeps {
		switch f, err := a.Store.File(ctx, sweep); {
		case err == nil:
			files = append(files, *f)
		case !errors.Is(err, store.ErrNotFound):
			return nil, nil, err
		}
	}
	pack, err := publish.Pack(e.Document, e.Page, e.SHA256, publish.Traces(r, sweeps), files)
	return e, pack, err
}
