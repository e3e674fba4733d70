package httpapi

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/touchstone"
	"talloak/core/units"
	"talloak/store"
)

// KitWrite is what a person says of an item, on the version it was read at; 0
// for a new one.
type KitWrite struct {
	Version int      `json:"version" minimum:"0"`
	Name    string   `json:"name" maxLength:"200"`
	Spec    kit.Spec `json:"spec"`
	Retired bool     `json:"retired" required:"false"`
}

// maxKit is the most that is read of an item, files on it included.
const maxKit = 4 << 20

func (s *Server) registerKit(api huma.API) {
	tag := []string{"bench"}
	huma.Register(api, huma.Operation{OperationID: "put-kit", Method: http.MethodPut, Path: "/api/v1/kit/{id}", Summary: "Write an item on the version it was read at, or a new one at version 0; retire it or take it back", Tags: tag, MaxBodyBytes: maxKit},
		func(ctx context.Context, in *struct {
			IDPath
			CarrierHz float64 `query:"carrier_hz" minimum:"0" doc:"A carrier the item is meant for: a file whose band misses it is refused"`
			Body      KitWrite
		}) (*body[KitView], error) {
			row, err := s.kitRow(ctx, in.ID, &in.Body)
			if err == nil && in.CarrierHz > 0 {
				err = below("spec", row.Spec.CheckCarrier(units.Hertz(in.CarrierHz)))
			}
			if err == nil {
				err = s.store.PutItem(ctx, row)
			}
			if err != nil {
				return nil, answer(err)
			}
			return &body[KitView]{viewKit(row)}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "remove-kit", Method: http.MethodDelete, Path: "/api/v1/kit/{id}", Summary: "Take a mistaken item off the bench; 409 when a measurement or a path names it", Tags: tag, DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *struct {
			IDPath
			Version int `query:"version" required:"true"`
		}) (*struct{}, error) {
			return nil, answer(s.store.RemoveItem(ctx, in.ID, in.Version))
		})
	huma.Register(api, huma.Operation{OperationID: "get-kit-touchstone", Method: http.MethodGet, Path: "/api/v1/kit/{id}/touchstone", Summary: "The loss of an item as a two-port file; the file it was given, where there is one", Tags: tag},
		func(ctx context.Context, in *struct {
			IDPath
			Setting string `query:"setting"`
		}) (*download, error) {
			row, err := s.store.KitItem(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			return touchstoneOf(row, in.Setting)
		})
}

// kitRow checks what was written. Errors are on "name" and "spec...".
func (s *Server) kitRow(ctx context.Context, id string, w *KitWrite) (*store.KitItem, error) {
	var bad problem.List
	row := &store.KitItem{ID: id, Version: w.Version, Name: strings.TrimSpace(w.Name), Spec: w.Spec}
	if row.Name == "" {
		bad.Add("name", "give the item a name you will know it by")
	}
	row.Spec.Kind = row.Spec.KindOf()
	row.Spec.Element.Kind, row.Spec.Element.Name, row.Spec.Element.Measured = row.Spec.Kind.PathKind(), "", nil
	bad.AddErr("spec", row.Spec.Check())
	if err := bad.Err(); err != nil {
		return nil, err
	}
	if w.Retired {
		at := time.Now().UTC().Truncate(time.Microsecond)
		row.RetiredAt = &at
		if old, err := s.store.KitItem(ctx, id); err == nil && old.RetiredAt != nil {
			row.RetiredAt = old.RetiredAt
		}
	}
	return row, nil
}

func below(field string, err error) error {
	var bad problem.List
	bad.AddErr(field, err)
	return bad.Err()
}

// touchstoneOf is an item's own file, or its loss written as one.
func touchstoneOf(row *store.KitItem, setting string) (*download, error) {
	e, _, err := row.Spec.On(setting)
	if err != nil {
		return nil, answer(err)
	}
	if e.Loss != nil && e.Loss.Touchstone != nil {
		return &download{"text/plain; charset=utf-8", attachment(row.Name + ".s2p"), pagePolicy, []byte(*e.Loss.Touchstone)}, nil
	}
	if e.Kind.Ends() {
		return nil, answer(problem.New("id", "%s ends a path: it has no loss to write as a two-port", row.Name))
	}
	part, err := path.Prepare(e)
	if err != nil {
		return nil, answer(err)
	}
	p, err := path.Assemble([]path.Part{part})
	if err != nil {
		return nil, answer(err)
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
		return nil, answer(problem.New("id", "%s has no frequency at which its loss is known", name))
	}
	return &download{"text/plain; charset=utf-8", attachment(name + ".s2p"), pagePolicy, []byte(touchstone.WriteLoss(points, name, remark))}, nil
}
