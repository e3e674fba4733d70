package app

import (
	"bytes"
	"context"
	"encoding/csv"
	"fmt"

	"talloak/core/keying"
	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/store"
)

// PowerStudy is the power of a review along frequency, supply and time, and through several
// wirings.
func (a *App) PowerStudy(ctx context.Context, id string) (*measure.Review, *power.Study, error) {
	r, err := a.Open(ctx, id, store.WithoutTraces, nil)
	if err != nil {
		return nil, nil, err
	}
	out := power.Of(r).Study()
	return r, &out, nil
}

// PowerTable is one section of the study as CSV, with the columns and rows an edition has.
func (a *App) PowerTable(ctx context.Context, id, of string) (*record.File, error) {
	r, err := a.Open(ctx, id, store.WithoutTraces, nil)
	if err != nil {
		return nil, err
	}
	for _, s := range power.Of(r).Sections(nil) {
		if s.Title != of {
			continue
		}
		var out bytes.Buffer
		w := csv.NewWriter(&out)
		if err := w.WriteAll(append([][]string{s.Columns}, s.Rows...)); err != nil {
			return nil, err
		}
		return &record.File{Name: fmt.Sprintf("%s, %s.csv", r.Title(), s.Title), MediaType: "text/csv; charset=utf-8", Content: out.Bytes()}, nil
	}
	return nil, problem.New("of", "the review has no table %q", of)
}

// Unplanned reads a step that is on no sheet.
func (a *App) Unplanned(ctx context.Context, id, text string, now record.Keyed) (record.Keyed, error) {
	r, err := a.Open(ctx, id, store.WithoutTraces, nil)
	if err != nil {
		return now, err
	}
	return keying.Unplanned(r, text, now)
}

// Ghost is what stood for a box of an earlier unit of the same model.
type Ghost struct {
	Box   string  `json:"box"`
	W     float64 `json:"w"`
	Title string  `json:"title"`
}

// Ghosts are the powers of the unit of the same maker and model that was measured last
// before this one.
func (a *App) Ghosts(ctx context.Context, id string) ([]Ghost, error) {
	out := []Ghost{}
	now, err := a.Store.Review(ctx, id)
	if err != nil {
		return nil, err
	}
	before, err := a.Store.EarlierOf(ctx, now)
	if err != nil || before == "" {
		return out, err
	}
	r, err := a.Open(ctx, before, store.WithoutTraces, nil)
	if err != nil {
		return nil, err
	}
	for _, c := range r.Cells {
		k := record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}
		if read := power.Of(r).PowerOf(k).Reading; read != nil && read.MeasuredW != nil {
			out = append(out, Ghost{r.BoxName(c), *read.MeasuredW, r.Title()})
		}
	}
	return out, nil
}
