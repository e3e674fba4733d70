package httpapi

import (
	"context"

	"talloak/app"
	"talloak/core/calibrate"
	"talloak/core/path"
	"talloak/core/record"
)

// StackWrite is a measurement of parts first to last of a path in one piece: read
// without and with them on a meter, or as a two-port file.
type StackWrite struct {
	ID          string              `json:"id" format:"uuid"`
	Version     int                 `json:"version" doc:"The version of the path"`
	First       int                 `json:"first" minimum:"0"`
	Last        int                 `json:"last" minimum:"0"`
	MeasuredOn  string              `json:"measured_on" format:"date"`
	Meter       *record.PathPart    `json:"meter,omitempty" doc:"The meter read, with its scale"`
	MeterWith   *record.PathPart    `json:"meter_with,omitempty" doc:"The instrument behind the stack, where it is another one"`
	Points      []record.StackPoint `json:"points,omitempty"`
	Touchstone  string              `json:"touchstone,omitempty"`
	ToleranceDB *float64            `json:"tolerance_db,omitempty" minimum:"0"`
}

// StackFound is a loss worked out, kept or not.
type StackFound struct {
	Table []path.MeasuredPoint `json:"table"`
	Path  *PathView            `json:"path"`
}

// BaselineWrite is known transmitters read on several meters.
type BaselineWrite struct {
	ID         string               `json:"id" format:"uuid"`
	MeasuredOn string               `json:"measured_on" format:"date"`
	Meters     []record.PathPart    `json:"meters"`
	Rows       []record.BaselineRow `json:"rows"`
}

// BaselineView is a comparison with how each meter stands against the others.
type BaselineView struct {
	ID         string                  `json:"id"`
	MeasuredOn string                  `json:"measured_on"`
	KitIDs     []string                `json:"kit_ids"`
	Rows       []record.BaselineRow    `json:"rows"`
	Meters     []calibrate.MeterOffset `json:"meters"`
}

func viewBaseline(c *app.Compared) BaselineView {
	return BaselineView{c.ID, c.MeasuredOn, c.KitIDs, c.Rows, c.Offsets}
}

type stackTaken struct {
	IDPath
	Body StackWrite
}

func (s *Server) tryStack(ctx context.Context, in *stackTaken) (*body[StackFound], error) {
	w := app.StackTaking(in.Body)
	found, err := s.app.TryStack(ctx, in.ID, &w)
	return &body[StackFound]{StackFound{Table: found}}, err
}

func (s *Server) addStack(ctx context.Context, in *stackTaken) (*body[StackFound], error) {
	w := app.StackTaking(in.Body)
	found, kept, err := s.app.AddStack(ctx, in.ID, &w)
	if err != nil {
		return nil, err
	}
	view, err := s.onePath(ctx, kept)
	if err != nil {
		return nil, err
	}
	return &body[StackFound]{StackFound{found, &view.Body}}, nil
}

func (s *Server) listBaselines(ctx context.Context, _ *nothing) (*body[[]BaselineView], error) {
	rows, err := s.app.Store.Baselines(ctx)
	if err != nil {
		return nil, err
	}
	out := []BaselineView{}
	for i := range rows {
		compared, err := app.Compare(&rows[i])
		if err != nil {
			return nil, err
		}
		out = append(out, viewBaseline(&compared))
	}
	return &body[[]BaselineView]{out}, nil
}

func (s *Server) addBaseline(ctx context.Context, in *body[BaselineWrite]) (*body[BaselineView], error) {
	w := app.BaselineTaking(in.Body)
	compared, err := s.app.AddBaseline(ctx, &w)
	if err != nil {
		return nil, err
	}
	return &body[BaselineView]{viewBaseline(compared)}, nil
}

type offsetAccepted struct {
	IDPath
	Body struct {
		KitID   string `json:"kit_id" format:"uuid"`
		Version int    `json:"version"`
	}
}

func (s *Server) acceptBaseline(ctx context.Context, in *offsetAccepted) (*body[KitView], error) {
	item, err := s.app.AcceptBaseline(ctx, in.ID, in.Body.KitID, in.Body.Version)
	if err != nil {
		return nil, err
	}
	return &body[KitView]{viewKit(item)}, nil
}
