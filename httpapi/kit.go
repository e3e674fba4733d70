package httpapi

import (
	"context"

	"talloak/app"
	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/touchstone"
	"talloak/core/units"
)

// KitWrite is what a person says of an item, on the version it was read at; 0
// for a new one.
type KitWrite struct {
	Version int      `json:"version" minimum:"0"`
	Name    string   `json:"name" maxLength:"200"`
	Spec    kit.Spec `json:"spec"`
	Retired bool     `json:"retired" required:"false"`
}

type kitPut struct {
	IDPath
	CarrierHz float64 `query:"carrier_hz" minimum:"0" doc:"A carrier the item is meant for: a file whose band misses it is refused"`
	Body      KitWrite
}

func (s *Server) putKit(ctx context.Context, in *kitPut) (*body[KitView], error) {
	w := in.Body
	item, err := s.app.KeepItem(ctx, app.ItemChange{ID: in.ID, Version: w.Version, Name: w.Name, Spec: w.Spec, Retired: w.Retired, Carrier: units.Hertz(in.CarrierHz)})
	if err != nil {
		return nil, err
	}
	sockets, err := s.app.Store.Sockets(ctx)
	if err != nil {
		return nil, err
	}
	view := viewKit(item)
	if socket, has := sockets[item.ID]; has {
		view.Socket = &socket
	}
	return &body[KitView]{view}, nil
}

type benchLineAsked struct {
	Text     string `query:"text" required:"true" maxLength:"2000"`
	Practice string `query:"practice" required:"false" doc:"The practice review whose bench it is; the real one without it"`
}

func (s *Server) readBenchLine(ctx context.Context, in *benchLineAsked) (*body[app.BenchLine], error) {
	line, err := s.app.ReadBenchLine(ctx, in.Text, in.Practice)
	if err != nil {
		return nil, err
	}
	return &body[app.BenchLine]{*line}, nil
}

type kitRemoved struct {
	IDPath
	Version int `query:"version" required:"true"`
}

func (s *Server) removeKit(ctx context.Context, in *kitRemoved) (*nothing, error) {
	return nil, s.app.RemoveItem(ctx, in.ID, in.Version)
}

type kitTouchstone struct {
	IDPath
	Setting string `query:"setting"`
}

func (s *Server) getKitTouchstone(ctx context.Context, in *kitTouchstone) (*download, error) {
	item, err := s.app.Store.KitItem(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return touchstoneOf(item, in.Setting)
}

// touchstoneOf is an item's own file, or its loss written as one.
func touchstoneOf(row *record.Item, setting string) (*download, error) {
	e, _, err := row.Spec.On(setting)
	if err != nil {
		return nil, err
	}
	if e.Loss != nil && e.Loss.Touchstone != nil {
		return &download{"text/plain; charset=utf-8", attachment(row.Name + ".s2p"), pagePolicy, []byte(*e.Loss.Touchstone)}, nil
	}
	if e.Kind.Ends() {
		return nil, problem.New("id", "%s ends a path: it has no loss to write as a two-port", row.Name)
	}
	part, err := path.Prepare(e)
	if err != nil {
		return nil, err
	}
	p, err := path.Assemble([]path.Part{part})
	if err != nil {
		return nil, err
	}
	return lossFile(p, part.SWRAt, kit.Title(row.Name, setting), "written from what is kept of it, not measured with a network analyzer")
}

// The frequencies that files are written over.
const (
	fileFrom   = units.Hertz(100e3)
	fileTo     = units.Hertz(10e9)
	filePoints = 401
)

// lossFile writes a path's loss as a two-port file.
func lossFile(p *path.Path, swr func(units.Hertz) *float64, name, remark string) (*download, error) {
	var points []touchstone.Point
	for _, f := range p.Sample(fileFrom, fileTo, filePoints) {
		loss, _ := p.LossAt(f)
		points = append(points, touchstone.Point{Frequency: f, Loss: loss, SWR: swr(f)})
	}
	if len(points) == 0 {
		return nil, problem.New("id", "%s has no frequency at which its loss is known", name)
	}
	return &download{"text/plain; charset=utf-8", attachment(name + ".s2p"), pagePolicy, []byte(touchstone.WriteLoss(points, name, remark))}, nil
}
