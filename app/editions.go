package app

import (
	"context"
	"errors"

	"talloak/core/record"
	"talloak/publish"
	"talloak/publish/drawing"
	"talloak/store"
)

// editionData is an edition with its data read.
func (a *App) editionData(ctx context.Context, id string) (*record.Edition, *publish.Document, error) {
	e, err := a.Store.Edition(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	d, err := publish.Read(e.Document)
	return e, d, err
}

// EditionPDF is an edition on paper: a4 or letter.
func (a *App) EditionPDF(ctx context.Context, id, paper string) (*record.Edition, []byte, error) {
	e, d, err := a.editionData(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	pdf, err := d.PDF(paper, e.SHA256)
	return e, pdf, err
}

// EditionCard is a card of an edition as PNG, by its name and size.
func (a *App) EditionCard(ctx context.Context, id, name, size string) ([]byte, error) {
	e, d, err := a.editionData(ctx, id)
	if err != nil {
		return nil, err
	}
	card, err := d.Card(name, size, e.SHA256)
	if err != nil {
		return nil, err
	}
	return card.PNG(1)
}

// EditionPlots are the plots of an edition.
func (a *App) EditionPlots(ctx context.Context, id string) ([]drawing.Picture, error) {
	e, d, err := a.editionData(ctx, id)
	if err != nil {
		return nil, err
	}
	return d.Plots(e.SHA256), nil
}

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
	e, d, err := a.editionData(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	r, err := d.Reopen(a.Kinds)
	if err == nil && r == nil { // an older edition, without its facts
		r, err = a.Open(ctx, e.ReviewID, store.WithTraces, nil)
	}
	if err != nil {
		return nil, nil, err
	}
	var files []record.File
	for _, id := range d.FilesOf() {
		switch f, err := a.Store.File(ctx, id); {
		case err == nil:
			files = append(files, *f)
		case !errors.Is(err, store.ErrNotFound):
			return nil, nil, err
		}
	}
	pack, err := publish.Pack(d, e.Document, e.Page, r, files)
	return e, pack, err
}
