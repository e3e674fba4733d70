package app

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"talloak/core/calibrate"
	"talloak/core/compute"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/store"
)

// StackTaking is a measurement of parts First to Last of a path, at its Version, in one
// piece: read without and with them on a meter, or as a two-port file.
type StackTaking struct {
	ID          string
	Version     int
	First       int
	Last        int
	MeasuredOn  string              `json:"measured_on"`
	Meter       *record.PathPart    `json:"meter"`
	MeterWith   *record.PathPart    `json:"meter_with"`
	Points      []record.StackPoint `json:"points"`
	Touchstone  string              `json:"touchstone"`
	ToleranceDB *float64
}

// BaselineTaking is known transmitters read on several meters.
type BaselineTaking struct {
	ID         string
	MeasuredOn string               `json:"measured_on"`
	Meters     []record.PathPart    `json:"meters"`
	Rows       []record.BaselineRow `json:"rows"`
}

// Compared is a comparison with how each meter stands against the others.
type Compared struct {
	record.Baseline
	KitIDs  []string
	Offsets []calibrate.MeterOffset
}

// TryStack works a measured stack out without keeping it.
func (a *App) TryStack(ctx context.Context, pathID string, w *StackTaking) ([]path.MeasuredPoint, error) {
	stack, _, err := a.stack(ctx, pathID, w)
	if err != nil {
		return nil, err
	}
	return stack.Found, nil
}

// AddStack keeps a measured stack; its loss counts on the path from now on.
func (a *App) AddStack(ctx context.Context, pathID string, w *StackTaking) ([]path.MeasuredPoint, *record.Path, error) {
	stack, p, err := a.stack(ctx, pathID, w)
	if err != nil {
		return nil, nil, err
	}
	again, err := a.Store.AddStack(ctx, stack, p, store.Fingerprint([]any{pathID, w}))
	if err != nil {
		return nil, nil, err
	}
	if !again {
		a.Events.publish("path", pathID, "")
	}
	kept, err := a.Store.Path(ctx, pathID)
	return stack.Found, kept, err
}

// AddBaseline keeps a comparison of meters; nothing is applied by it.
func (a *App) AddBaseline(ctx context.Context, w *BaselineTaking) (*Compared, error) {
	row, err := a.baseline(ctx, w)
	if err != nil {
		return nil, err
	}
	out, err := Compare(row)
	if err != nil {
		return nil, err
	}
	again, err := a.Store.AddBaseline(ctx, row, store.Fingerprint(w))
	if err != nil {
		return nil, err
	}
	if !again {
		a.Events.publish("baseline", row.ID, "")
	}
	return &out, nil
}

// meterAt is a meter of the bench at a scale, and its copy to be kept.
func (a *App) meterAt(ctx context.Context, field string, p record.PathPart) (*reading.Meter, *record.KitCopy, error) {
	item, err := a.Store.KitItem(ctx, p.KitID)
	if err != nil {
		return nil, nil, err
	}
	meter, err := item.Spec.MeterAt(item.Name, p.Setting)
	if err != nil {
		return nil, nil, below(field, err)
	}
	return meter, &record.KitCopy{ID: item.ID, Name: item.Name, Setting: p.Setting, Spec: item.Spec}, nil
}

// stack works a measurement out, and the path with its parts marked.
func (a *App) stack(ctx context.Context, pathID string, w *StackTaking) (*record.Stack, *record.Path, error) {
	if err := checkTexts(w); err != nil {
		return nil, nil, err
	}
	p, err := a.Store.Path(ctx, pathID)
	if err != nil {
		return nil, nil, err
	}
	if w.Last < w.First || w.Last >= len(p.Parts) {
		return nil, nil, problem.New("last", "the path has %d parts; give the first and the last of those measured, counted from 0", len(p.Parts))
	}
	ask := compute.StackLossIn{}
	out := &record.Stack{ID: w.ID, MeasuredOn: w.MeasuredOn}
	if w.Touchstone != "" {
		ask.Touchstone, ask.ToleranceDB = &w.Touchstone, w.ToleranceDB
		out.Evidence = record.StackEvidence{Touchstone: w.Touchstone, ToleranceDB: w.ToleranceDB}
	} else {
		if w.Meter == nil {
			return nil, nil, problem.New("meter", "give the meter that was read, or a two-port file")
		}
		if ask.Meter, out.Evidence.Meter, err = a.meterAt(ctx, "meter", *w.Meter); err != nil {
			return nil, nil, err
		}
		if w.MeterWith != nil {
			if ask.MeterWith, out.Evidence.MeterWith, err = a.meterAt(ctx, "meter_with", *w.MeterWith); err != nil {
				return nil, nil, err
			}
		}
		out.Evidence.Points = w.Points
		for _, point := range w.Points {
			ask.Points = append(ask.Points, compute.StackPointIn(point))
		}
	}
	if out.Found, err = compute.StackTable(&ask); err != nil {
		return nil, nil, err
	}
	t, err := a.Store.ThroughOf(ctx, p)
	if err != nil {
		return nil, nil, err
	}
	for i := w.First; i <= w.Last; i++ {
		if t.Kit[i].Spec.KindOf().PathKind().Ends() {
			return nil, nil, problem.New("last", "%s ends the path and has no loss to measure", t.Kit[i].Name)
		}
		for _, read := range []*record.KitCopy{out.Evidence.Meter, out.Evidence.MeterWith} {
			if read != nil && read.ID == t.Kit[i].ID {
				return nil, nil, problem.New("meter", "%s is one of the parts measured, and cannot stand before and behind itself; read on another", read.Name)
			}
		}
		p.Parts[i].StackID = w.ID
		out.Parts = append(out.Parts, p.Parts[i])
	}
	p.Version = w.Version
	return out, p, nil
}

// baseline gathers a comparison with copies of its meters.
func (a *App) baseline(ctx context.Context, w *BaselineTaking) (*record.Baseline, error) {
	if err := checkTexts(w); err != nil {
		return nil, err
	}
	out := &record.Baseline{ID: w.ID, MeasuredOn: w.MeasuredOn, Rows: w.Rows, Meters: []record.KitCopy{}}
	for i, m := range w.Meters {
		field := fmt.Sprintf("meters[%d]", i)
		_, copied, err := a.meterAt(ctx, field, m)
		if errors.Is(err, store.ErrNotFound) {
			return nil, problem.New(field+".kit_id", "there is no such item on the bench")
		}
		if err != nil {
			return nil, err
		}
		out.Meters = append(out.Meters, *copied)
	}
	return out, nil
}

// Compare works out how each meter of a comparison stands against the others.
func Compare(row *record.Baseline) (Compared, error) {
	out := Compared{Baseline: *row, KitIDs: []string{}}
	ask := compute.BaselineIn{}
	for _, m := range row.Meters {
		ask.Meters = append(ask.Meters, m.Name)
		out.KitIDs = append(out.KitIDs, m.ID)
	}
	for _, r := range row.Rows {
		ask.Rows = append(ask.Rows, compute.BaselineRowIn(r))
	}
	var err error
	out.Offsets, err = compute.Baseline(&ask)
	return out, err
}

// AcceptBaseline writes a found offset on its meter: it is taken out of later readings.
func (a *App) AcceptBaseline(ctx context.Context, id, kitID string, version int) (*record.Item, error) {
	rows, err := a.Store.Baselines(ctx)
	if err != nil {
		return nil, err
	}
	for i := range rows {
		if rows[i].ID != id {
			continue
		}
		view, err := Compare(&rows[i])
		if err != nil {
			return nil, err
		}
		return a.acceptOffset(ctx, &view, kitID, version)
	}
	return nil, store.ErrNotFound
}

func (a *App) acceptOffset(ctx context.Context, view *Compared, kitID string, version int) (*record.Item, error) {
	at := slices.Index(view.KitIDs, kitID)
	if at < 0 {
		return nil, problem.New("kit_id", "that meter was not compared here")
	}
	items := make([]*record.Item, len(view.KitIDs))
	before := make([]*reading.Baseline, len(items))
	for i, id := range view.KitIDs {
		item, err := a.Store.KitItem(ctx, id)
		if err != nil {
			return nil, err
		}
		if items[i] = item; item.Spec.Meter != nil {
			before[i] = item.Spec.Meter.Baseline
		}
	}
	item := items[at]
	if item.Spec.Meter == nil {
		return nil, problem.New("kit_id", "%s is no meter: its offset is not taken out", item.Name)
	}
	base, err := calibrate.Accept(view.Offsets, at, before, view.MeasuredOn)
	if err != nil {
		return nil, below("kit_id", err)
	}
	meter := *item.Spec.Meter
	meter.Baseline = base
	item.Spec.Meter, item.Version = &meter, version
	if err := a.Store.PutItem(ctx, item); err != nil {
		return nil, err
	}
	a.Events.publish("kit", item.ID, "")
	return item, nil
}
