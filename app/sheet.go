package app

import (
	"context"
	"fmt"

	"talloak/core/keying"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/store"
)

// RunSheet lays out what is to be keyed for a review, through the paths kept.
func (a *App) RunSheet(ctx context.Context, id string) (*measure.Review, *keying.Plan, error) {
	r, err := a.Open(ctx, id, store.WithoutTraces, nil)
	if err != nil {
		return nil, nil, err
	}
	ways, err := a.ways(ctx, r)
	if err != nil {
		return nil, nil, err
	}
	plan := keying.SheetOf(r, ways)
	return r, &plan, nil
}

// ways are the paths in use on the bench of a review, and what is owned there.
func (a *App) ways(ctx context.Context, r *measure.Review) (out keying.Ways, err error) {
	if out.Bench, err = a.Store.Kit(ctx, r.Bench()); err != nil {
		return out, err
	}
	paths, err := a.Store.Paths(ctx, r.Bench())
	if err != nil {
		return out, err
	}
	for i := range paths {
		if paths[i].RetiredAt != nil {
			continue
		}
		t, err := a.Store.ThroughOf(ctx, &paths[i])
		if err != nil {
			return out, err
		}
		out.Paths = append(out.Paths, t)
	}
	return out, nil
}

// WaysTo lists the paths for each of some boxes, those that can count there first; last is the path that was
// used last in another review.
func (a *App) WaysTo(ctx context.Context, id, purpose string, boxes []record.Keyed, last string) ([][]keying.Way, error) {
	r, err := a.Open(ctx, id, store.WithoutTraces, nil)
	if err != nil {
		return nil, err
	}
	ways, err := a.ways(ctx, r)
	if err != nil {
		return nil, err
	}
	return keying.WaysTo(r, ways, purpose, boxes, last), nil
}

// ChannelList is the frequencies of a run sheet as CSV, each once, to programme the radio
// with beforehand.
func (a *App) ChannelList(ctx context.Context, id string) (*record.File, error) {
	r, plan, err := a.RunSheet(ctx, id)
	if err != nil {
		return nil, err
	}
	rows := [][]string{{"place", "name", "frequency_mhz", "mode", "band"}}
	for _, row := range plan.Rows {
		for _, c := range row.Channels {
			if c.Reserved == "" {
				rows = append(rows, []string{fmt.Sprint(len(rows)), row.Band + " " + c.Name, fmt.Sprintf("%.5f", c.FrequencyHz/1e6), string(row.Mode), row.Band})
			}
		}
	}
	content, err := measure.CSV(rows)
	return &record.File{Name: r.Subject.Model + " channels.csv", MediaType: "text/csv; charset=utf-8", Content: content}, err
}
