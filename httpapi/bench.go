package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/dossier"
	"talloak/store"
)

// KitView is one thing on the bench.
type KitView struct {
	ID        string        `json:"id"`
	Name      string        `json:"name"`
	Spec      store.KitSpec `json:"spec"`
	RetiredAt *time.Time    `json:"retired_at"`
}

// PathView is a kept path.
type PathView struct {
	ID              string   `json:"id"`
	Name            string   `json:"name"`
	Purpose         string   `json:"purpose"`
	KitIDs          []string `json:"kit_ids"`
	AppliedOffsetDB float64  `json:"applied_offset_db"`
}

// BenchView is the kit owned and the paths kept.
type BenchView struct {
	Kit   []KitView  `json:"kit"`
	Paths []PathView `json:"paths"`
}

func (s *Server) registerBench(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-bench", Method: http.MethodGet, Path: "/api/v1/bench", Summary: "The kit owned and the paths kept", Tags: []string{"bench"}},
		func(ctx context.Context, _ *struct{}) (*body[BenchView], error) {
			kit, err := s.store.Kit(ctx)
			if err != nil {
				return nil, answer(err)
			}
			paths, err := s.store.Paths(ctx)
			if err != nil {
				return nil, answer(err)
			}
			out := BenchView{[]KitView{}, []PathView{}}
			for _, k := range kit {
				out.Kit = append(out.Kit, KitView{k.ID, k.Name, k.Spec, k.RetiredAt})
			}
			for _, p := range paths {
				out.Paths = append(out.Paths, PathView{p.ID, p.Name, p.Purpose, p.KitIDs, p.AppliedOffsetDB})
			}
			return &body[BenchView]{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-staircase", Method: http.MethodGet, Path: "/api/v1/paths/{id}/staircase", Summary: "Levels along a kept path at a carrier and its multiples", Tags: []string{"bench"}},
		func(ctx context.Context, in *struct {
			IDPath
			FrequencyHz float64 `query:"frequency_hz" required:"true" exclusiveMinimum:"0"`
			ClaimedW    float64 `query:"claimed_w" minimum:"0" doc:"0 where nothing is claimed"`
			MeasuredW   float64 `query:"measured_w" minimum:"0"`
			Mode        string  `query:"mode" default:"FM" enum:"FM,AM,SSB,CW,DIGITAL"`
			RuleBook    string  `query:"rule_book" default:"us-amateur"`
		}) (*body[dossier.Staircase], error) {
			through, purpose, err := s.through(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			book, ok := s.books(in.RuleBook)
			if !ok {
				return nil, answer(store.ErrNotFound)
			}
			out, err := dossier.Wire(*through, purpose, units.Hertz(in.FrequencyHz), in.ClaimedW, in.MeasuredW, rulebook.Mode(in.Mode), book)
			if err != nil {
				return nil, answer(err)
			}
			return &body[dossier.Staircase]{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "list-rule-books", Method: http.MethodGet, Path: "/api/v1/rule-books", Summary: "The rule books that ship", Tags: []string{"rule books"}},
		func(context.Context, *struct{}) (*body[[]*rulebook.Book], error) {
			out := []*rulebook.Book{}
			for _, id := range s.ids {
				if b, ok := s.books(id); ok {
					out = append(out, b)
				}
			}
			return &body[[]*rulebook.Book]{out}, nil
		})
}

// through is a copy of a kept path and what it is for.
func (s *Server) through(ctx context.Context, pathID string) (*store.Through, string, error) {
	t, err := s.store.Through(ctx, pathID)
	if err != nil {
		return nil, "", err
	}
	purpose := "power"
	for _, k := range t.Kit {
		if k.Spec.Element.Kind == "analyzer" {
			purpose = "emissions"
		}
	}
	return t, purpose, nil
}
