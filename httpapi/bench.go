package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/rf"
	"talloak/core/rulebook"
	"talloak/dossier"
	"talloak/store"
)

// KitView is one thing on the bench. Settings are what can be set on it on a
// path, First the one it is put there with; OnPath tells whether it lies on one
// at all. Curve is its loss or SWR over frequency, where they change.
type KitView struct {
	ID        string           `json:"id"`
	Version   int              `json:"version"`
	Name      string           `json:"name"`
	Kind      kit.Kind         `json:"kind"`
	Spec      kit.Spec         `json:"spec"`
	Counted   kit.Spec         `json:"counted"` // with the typical values that count where nobody stated any
	RetiredAt *time.Time       `json:"retired_at"`
	Settings  []string         `json:"settings"`
	First     string           `json:"first_setting"`
	OnPath    bool             `json:"on_path"`
	Curve     []kit.CurvePoint `json:"curve"`
}

// PathView is a kept path.
type PathView struct {
	ID              string            `json:"id"`
	Version         int               `json:"version"`
	Name            string            `json:"name"`
	Socket          string            `json:"socket"`
	Purpose         string            `json:"purpose"`
	Parts           []store.PathPart  `json:"parts"`
	Supply          *store.PathSupply `json:"supply"`
	AppliedOffsetDB float64           `json:"applied_offset_db"`
	RetiredAt       *time.Time        `json:"retired_at"`
}

// StackView is a stack measured in one piece.
type StackView struct {
	ID         string               `json:"id"`
	MeasuredOn string               `json:"measured_on"`
	Parts      []store.PathPart     `json:"parts"`
	Table      []path.MeasuredPoint `json:"table"`
	Evidence   store.StackEvidence  `json:"evidence"`
}

// BenchView is the kit owned, the paths kept and the stacks measured.
type BenchView struct {
	Kit    []KitView   `json:"kit"`
	Paths  []PathView  `json:"paths"`
	Stacks []StackView `json:"stacks"`
}

// KindView is a kind of kit with what an item of it usually is, marked typical.
type KindView struct {
	Kind    kit.Kind `json:"kind"`
	OnPath  bool     `json:"on_path"`
	Typical kit.Spec `json:"typical"`
}

// KindsView is what a new item can be.
type KindsView struct {
	Kinds  []KindView `json:"kinds"`
	Cables []string   `json:"cables"`
}

// curvePoints is how finely a curve is drawn.
const curvePoints = 90

func viewKit(k *store.KitItem) KitView {
	return KitView{
		ID: k.ID, Version: k.Version, Name: k.Name, Kind: k.Spec.KindOf(), Spec: k.Spec, Counted: k.Spec.Counted(), RetiredAt: k.RetiredAt,
		Settings: k.Spec.Settings(), First: k.Spec.First(), OnPath: k.Spec.KindOf().PathKind() != "", Curve: k.Spec.Curve(k.Spec.First(), curvePoints),
	}
}

func viewStack(k *store.Stack) StackView {
	return StackView{k.ID, k.MeasuredOn, k.Parts, k.Found, k.Evidence}
}

// purposes tells what paths are for by the kit at their end.
func viewPath(p *store.Path, bench []store.KitItem) PathView {
	out := PathView{ID: p.ID, Version: p.Version, Name: p.Name, Socket: p.Socket, Parts: p.Parts, Supply: p.Supply, AppliedOffsetDB: p.AppliedOffsetDB, RetiredAt: p.RetiredAt, Purpose: "power"}
	if n := len(p.Parts); n > 0 {
		for i := range bench {
			if bench[i].ID == p.Parts[n-1].KitID {
				out.Purpose = dossier.Purpose(store.Through{Kit: []store.KitCopy{{Spec: bench[i].Spec}}})
			}
		}
	}
	return out
}

func (s *Server) registerBench(api huma.API) {
	tag := []string{"bench"}
	huma.Register(api, huma.Operation{OperationID: "get-bench", Method: http.MethodGet, Path: "/api/v1/bench", Summary: "The kit owned, the paths kept and the stacks measured", Tags: tag},
		func(ctx context.Context, _ *struct{}) (*body[BenchView], error) {
			out, err := s.viewBench(ctx)
			return out, answer(err)
		})
	huma.Register(api, huma.Operation{OperationID: "list-kinds", Method: http.MethodGet, Path: "/api/v1/bench/kinds", Summary: "The kinds of kit, each with its typical values", Tags: tag},
		func(context.Context, *struct{}) (*body[KindsView], error) {
			out := KindsView{[]KindView{}, rf.CableTypes()}
			for _, k := range kit.Kinds() {
				out.Kinds = append(out.Kinds, KindView{k, k.PathKind() != "", kit.Typical(k)})
			}
			return &body[KindsView]{out}, nil
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
	s.registerKit(api)
	s.registerPaths(api)
	s.registerCalibration(api)
	s.registerBenchFiles(api)
}

func (s *Server) viewBench(ctx context.Context) (*body[BenchView], error) {
	items, err := s.store.Kit(ctx)
	if err != nil {
		return nil, err
	}
	paths, err := s.store.Paths(ctx)
	if err != nil {
		return nil, err
	}
	stacks, err := s.store.Stacks(ctx)
	if err != nil {
		return nil, err
	}
	out := BenchView{[]KitView{}, []PathView{}, []StackView{}}
	for i := range items {
		out.Kit = append(out.Kit, viewKit(&items[i]))
	}
	for i := range paths {
		out.Paths = append(out.Paths, viewPath(&paths[i], items))
	}
	for i := range stacks {
		out.Stacks = append(out.Stacks, viewStack(&stacks[i]))
	}
	return &body[BenchView]{out}, nil
}
