package httpapi

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"talloak/core/calibrate"
	"talloak/core/compute"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/store"
)

// StackWrite is a measurement of parts first to last of a path in one piece: read
// without and with them on a meter, or as a two-port file.
type StackWrite struct {
	ID          string             `json:"id" format:"uuid"`
	Version     int                `json:"version" doc:"The version of the path"`
	First       int                `json:"first" minimum:"0"`
	Last        int                `json:"last" minimum:"0"`
	MeasuredOn  string             `json:"measured_on" format:"date"`
	Meter       *store.PathPart    `json:"meter,omitempty" doc:"The meter read, with its scale"`
	MeterWith   *store.PathPart    `json:"meter_with,omitempty" doc:"The instrument behind the stack, where it is another one"`
	Points      []store.StackPoint `json:"points,omitempty"`
	Touchstone  string             `json:"touchstone,omitempty"`
	ToleranceDB *float64           `json:"tolerance_db,omitempty" minimum:"0"`
}

// StackFound is a loss worked out, kept or not.
type StackFound struct {
	Table []path.MeasuredPoint `json:"table"`
	Path  *PathView            `json:"path"`
}

// BaselineWrite is known transmitters read on several meters.
type BaselineWrite struct {
	ID         string              `json:"id" format:"uuid"`
	MeasuredOn string              `json:"measured_on" format:"date"`
	Meters     []store.PathPart    `json:"meters"`
	Rows       []store.BaselineRow `json:"rows"`
}

// BaselineView is a comparison with how each meter stands against the others.
type BaselineView struct {
	ID         string                  `json:"id"`
	MeasuredOn string                  `json:"measured_on"`
	KitIDs     []string                `json:"kit_ids"`
	Rows       []store.BaselineRow     `json:"rows"`
	Meters     []calibrate.MeterOffset `json:"meters"`
}

func (s *Server) registerCalibration(api huma.API) {
	tag := []string{"bench"}
	huma.Register(api, huma.Operation{OperationID: "try-stack", Method: http.MethodPost, Path: "/api/v1/paths/{id}/stacks/preview", Summary: "Work a measured stack out without keeping it", Tags: tag, MaxBodyBytes: maxKit},
		func(ctx context.Context, in *struct {
			IDPath
			Body StackWrite
		}) (*body[StackFound], error) {
			stack, _, err := s.stack(ctx, in.ID, &in.Body)
			if err != nil {
				return nil, answer(err)
			}
			return &body[StackFound]{StackFound{Table: stack.Found}}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "add-stack", Method: http.MethodPost, Path: "/api/v1/paths/{id}/stacks", Summary: "Keep a measured stack; its loss counts on this path from now on", Tags: tag, MaxBodyBytes: maxKit, DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *struct {
			IDPath
			Body StackWrite
		}) (*body[StackFound], error) {
			stack, p, err := s.stack(ctx, in.ID, &in.Body)
			if err != nil {
				return nil, answer(err)
			}
			stack.RequestHash = store.Fingerprint(in.Body)
			if _, err := s.store.AddStack(ctx, stack, p); err != nil {
				return nil, answer(err)
			}
			kept, err := s.store.Path(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			view, err := s.onePath(ctx, kept)
			if err != nil {
				return nil, err
			}
			return &body[StackFound]{StackFound{stack.Found, &view.Body}}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "list-baselines", Method: http.MethodGet, Path: "/api/v1/baselines", Summary: "Comparisons of meters, oldest first", Tags: tag},
		func(ctx context.Context, _ *struct{}) (*body[[]BaselineView], error) {
			rows, err := s.store.Baselines(ctx)
			if err != nil {
				return nil, answer(err)
			}
			out := []BaselineView{}
			for i := range rows {
				view, err := viewBaseline(&rows[i])
				if err != nil {
					return nil, answer(err)
				}
				out = append(out, view)
			}
			return &body[[]BaselineView]{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "add-baseline", Method: http.MethodPost, Path: "/api/v1/baselines", Summary: "Keep a comparison of meters; nothing is applied by it", Tags: tag, DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *struct{ Body BaselineWrite }) (*body[BaselineView], error) {
			row, err := s.baseline(ctx, &in.Body)
			if err != nil {
				return nil, answer(err)
			}
			view, err := viewBaseline(row)
			if err != nil {
				return nil, answer(err)
			}
			if _, err := s.store.AddBaseline(ctx, row); err != nil {
				return nil, answer(err)
			}
			return &body[BaselineView]{view}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "accept-baseline", Method: http.MethodPost, Path: "/api/v1/baselines/{id}/accept", Summary: "Take a meter's offset out of later readings on it, dated and shown in the budget", Tags: tag},
		func(ctx context.Context, in *struct {
			IDPath
			Body struct {
				KitID   string `json:"kit_id" format:"uuid"`
				Version int    `json:"version"`
			}
		}) (*body[KitView], error) {
			row, err := s.acceptBaseline(ctx, in.ID, in.Body.KitID, in.Body.Version)
			if err != nil {
				return nil, answer(err)
			}
			return &body[KitView]{viewKit(row)}, nil
		})
}

// meterAt is a meter of the bench at a scale, and its copy to be kept. An
// analyzer counts as a meter by its amplitude accuracy.
func (s *Server) meterAt(ctx context.Context, field string, p store.PathPart) (*reading.Meter, *store.KitCopy, error) {
	item, err := s.store.KitItem(ctx, p.KitID)
	if err != nil {
		return nil, nil, err
	}
	_, meter, err := item.Spec.On(p.Setting)
	if err != nil {
		return nil, nil, below(field, err)
	}
	if meter == nil && len(item.Spec.Element.Ranges) > 0 {
		counted := item.Spec.Counted()
		u, _ := counted.Accuracy()
		standard := 1.0 // the k of what is a standard uncertainty already
		meter = &reading.Meter{ExpandedDB: float64(u), CoverageFactor: &standard, SWR: item.Spec.Element.SWR}
	}
	if meter == nil {
		return nil, nil, problem.New(field+".kit_id", "%s reads no power", item.Name)
	}
	return meter, &store.KitCopy{ID: item.ID, Name: item.Name, Setting: p.Setting, Spec: item.Spec}, nil
}

// stack works a measurement out, and the path with its parts marked.
func (s *Server) stack(ctx context.Context, pathID string, w *StackWrite) (*store.Stack, *store.Path, error) {
	p, err := s.store.Path(ctx, pathID)
	if err != nil {
		return nil, nil, err
	}
	if w.Last < w.First || w.Last >= len(p.Parts) {
		return nil, nil, problem.New("last", "the path has %d parts; give the first and the last of those measured, counted from 0", len(p.Parts))
	}
	ask := compute.StackLossIn{}
	out := &store.Stack{ID: w.ID, MeasuredOn: w.MeasuredOn}
	if w.Touchstone != "" {
		ask.Touchstone, ask.ToleranceDB = &w.Touchstone, w.ToleranceDB
		out.Evidence = store.StackEvidence{Touchstone: w.Touchstone, ToleranceDB: w.ToleranceDB}
	} else {
		if w.Meter == nil {
			return nil, nil, problem.New("meter", "give the meter that was read, or a two-port file")
		}
		if ask.Meter, out.Evidence.Meter, err = s.meterAt(ctx, "meter", *w.Meter); err != nil {
			return nil, nil, err
		}
		if w.MeterWith != nil {
			if ask.MeterWith, out.Evidence.MeterWith, err = s.meterAt(ctx, "meter_with", *w.MeterWith); err != nil {
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
	t, err := s.store.ThroughOf(ctx, p)
	if err != nil {
		return nil, nil, err
	}
	for i := w.First; i <= w.Last; i++ {
		if t.Kit[i].Spec.KindOf().PathKind().Ends() {
			return nil, nil, problem.New("last", "%s ends the path and has no loss to measure", t.Kit[i].Name)
		}
		for _, read := range []*store.KitCopy{out.Evidence.Meter, out.Evidence.MeterWith} {
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
func (s *Server) baseline(ctx context.Context, w *BaselineWrite) (*store.Baseline, error) {
	out := &store.Baseline{ID: w.ID, RequestHash: store.Fingerprint(w), MeasuredOn: w.MeasuredOn, Rows: w.Rows, Meters: []store.KitCopy{}}
	for i, m := range w.Meters {
		field := fmt.Sprintf("meters[%d]", i)
		_, copied, err := s.meterAt(ctx, field, m)
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

func viewBaseline(row *store.Baseline) (BaselineView, error) {
	out := BaselineView{ID: row.ID, MeasuredOn: row.MeasuredOn, Rows: row.Rows, KitIDs: []string{}}
	ask := compute.BaselineIn{}
	for _, m := range row.Meters {
		ask.Meters = append(ask.Meters, m.Name)
		out.KitIDs = append(out.KitIDs, m.ID)
	}
	for _, r := range row.Rows {
		ask.Rows = append(ask.Rows, compute.BaselineRowIn(r))
	}
	var err error
	out.Meters, err = compute.Baseline(&ask)
	return out, err
}

// acceptBaseline writes a found offset on its meter.
func (s *Server) acceptBaseline(ctx context.Context, id, kitID string, version int) (*store.KitItem, error) {
	rows, err := s.store.Baselines(ctx)
	if err != nil {
		return nil, err
	}
	for i := range rows {
		if rows[i].ID != id {
			continue
		}
		view, err := viewBaseline(&rows[i])
		if err != nil {
			return nil, err
		}
		return s.acceptOffset(ctx, &view, kitID, version)
	}
	return nil, store.ErrNotFound
}

func (s *Server) acceptOffset(ctx context.Context, view *BaselineView, kitID string, version int) (*store.KitItem, error) {
	at := slices.Index(view.KitIDs, kitID)
	if at < 0 {
		return nil, problem.New("kit_id", "that meter was not compared here")
	}
	items := make([]*store.KitItem, len(view.KitIDs))
	before := make([]*reading.Baseline, len(items))
	for i, id := range view.KitIDs {
		item, err := s.store.KitItem(ctx, id)
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
	base, err := calibrate.Accept(view.Meters, at, before, view.MeasuredOn)
	if err != nil {
		return nil, below("kit_id", err)
	}
	meter := *item.Spec.Meter
	meter.Baseline = base
	item.Spec.Meter, item.Version = &meter, version
	return item, s.store.PutItem(ctx, item)
}
