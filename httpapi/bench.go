package httpapi

import (
	"context"
	"encoding/json"
	"reflect"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"talloak/app"
	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/rf"
	"talloak/core/wiring"
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
	Ends      bool             `json:"ends"`    // nothing can lie behind it
	FirstV    float64          `json:"first_v"` // what a supply is set to when put on a path
	Repeats   string           `json:"repeats"` // what counts for a meter's repeatability that nobody found
	Checked   string           `json:"checked"` // when it last was
	Old       bool             `json:"old"`     // that is long ago
	Curve     []kit.CurvePoint `json:"curve"`
	Socket    *record.Socket   `json:"socket"` // where it listens; nil for what has none
}

// PathView is a kept path.
type PathView struct {
	ID              string             `json:"id"`
	Version         int                `json:"version"`
	Name            string             `json:"name"`
	Socket          string             `json:"socket"`
	Purpose         string             `json:"purpose"`
	Serves          []string           `json:"serves"` // purposes: power is also read off an analyzer
	InUse           bool               `json:"in_use"` // it ends in an antenna
	Scales          []float64          `json:"scales"` // of its meter, in W, where it has several
	Parts           []record.PathPart  `json:"parts"`
	Supply          *record.PathSupply `json:"supply"`
	AppliedOffsetDB float64            `json:"applied_offset_db"`
	RetiredAt       *time.Time         `json:"retired_at"`
}

// StackView is a stack measured in one piece.
type StackView struct {
	ID         string               `json:"id"`
	MeasuredOn string               `json:"measured_on"`
	Parts      []record.PathPart    `json:"parts"`
	Table      []path.MeasuredPoint `json:"table"`
	Evidence   record.StackEvidence `json:"evidence"`
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

	Instead map[string][]string `json:"instead"` // the fields that go where one is given: several forms of one figure
}

// curvePoints is how finely a curve is drawn.
const curvePoints = 90

func viewKit(k *record.Item) KitView {
	checked, old := k.Spec.Checked(time.Now())
	return KitView{
		Checked: checked, Old: old,
		ID: k.ID, Version: k.Version, Name: k.Name, Kind: k.Spec.KindOf(), Spec: k.Spec, Counted: k.Spec.Counted(), RetiredAt: k.RetiredAt,
		Settings: k.Spec.Settings(), First: k.Spec.First(), FirstV: k.Spec.FirstV(), Repeats: k.Spec.RepeatabilityWords(), OnPath: k.Spec.KindOf().PathKind() != "", Ends: k.Spec.KindOf().PathKind().Ends(), Curve: k.Spec.Curve(k.Spec.First(), curvePoints),
	}
}

func viewStack(k *record.Stack) StackView {
	return StackView{k.ID, k.MeasuredOn, k.Parts, k.Found, k.Evidence}
}

// viewPath tells what a path is for by the kit at its end.
func viewPath(p *record.Path, bench []record.Item) PathView {
	out := PathView{ID: p.ID, Version: p.Version, Name: p.Name, Socket: p.Socket, Parts: p.Parts, Supply: p.Supply, AppliedOffsetDB: p.AppliedOffsetDB, RetiredAt: p.RetiredAt, Purpose: wiring.ForPower}
	t := record.Through{}
	for _, part := range p.Parts {
		for i := range bench {
			if bench[i].ID == part.KitID {
				t.Kit = append(t.Kit, record.KitCopy{Spec: bench[i].Spec})
			}
		}
	}
	out.InUse, out.Scales = wiring.InUse(&t), wiring.Scales(&t)
	out.Purpose, out.Serves = wiring.Purpose(&t), wiring.AllServed(&t)
	return out
}

func (s *Server) listKitKinds(context.Context, *nothing) (*body[KindsView], error) {
	out := KindsView{[]KindView{}, rf.CableTypes(), kit.Instead()}
	for _, k := range kit.Kinds() {
		out.Kinds = append(out.Kinds, KindView{k, k.PathKind() != "", kit.Typical(k)})
	}
	return &body[KindsView]{out}, nil
}

// BenchAsked is which bench is asked for.
type BenchAsked struct {
	Practice string `query:"practice" required:"false" pattern:"^$|^[0-9a-f-]{36}$" doc:"The practice review whose bench it is; empty for the real one"`
}

func (s *Server) getBench(ctx context.Context, in *BenchAsked) (*body[BenchView], error) {
	items, err := s.app.Store.Kit(ctx, in.Practice)
	if err != nil {
		return nil, err
	}
	paths, err := s.app.Store.Paths(ctx, in.Practice)
	if err != nil {
		return nil, err
	}
	stacks, err := s.app.Store.Stacks(ctx)
	if err != nil {
		return nil, err
	}
	sockets, err := s.app.Store.Sockets(ctx)
	if err != nil {
		return nil, err
	}
	out := BenchView{[]KitView{}, []PathView{}, []StackView{}}
	for i := range items {
		view := viewKit(&items[i])
		if socket, has := sockets[items[i].ID]; has {
			view.Socket = &socket
		}
		out.Kit = append(out.Kit, view)
	}
	for i := range paths {
		out.Paths = append(out.Paths, viewPath(&paths[i], items))
	}
	for i := range stacks {
		out.Stacks = append(out.Stacks, viewStack(&stacks[i]))
	}
	return &body[BenchView]{out}, nil
}

type exportAsked struct {
	KitID string `query:"kit_id" format:"uuid"`
}

func (s *Server) exportBench(ctx context.Context, in *exportAsked) (*download, error) {
	file, name, err := s.app.ExportBench(ctx, in.KitID)
	if err != nil {
		return nil, err
	}
	text, err := json.MarshalIndent(file, "", " ")
	return &download{"application/json", attachment(name + ".json"), pagePolicy, append(text, '\n')}, err
}

type importing struct {
	Try     bool   `query:"try"`
	RawBody []byte `contentType:"application/json"`
}

func (s *Server) importBench(ctx context.Context, in *importing) (*body[app.ImportFound], error) {
	found, err := s.app.ImportBench(ctx, in.RawBody, in.Try)
	if err != nil {
		return nil, err
	}
	return &body[app.ImportFound]{*found}, nil
}

func (s *Server) getBenchSchema(context.Context, *nothing) (*download, error) {
	text, err := json.MarshalIndent(BenchSchema(), "", " ")
	return &download{"application/schema+json", attachment("bench.schema.json"), pagePolicy, append(text, '\n')}, err
}

// BenchSchema is the JSON Schema of a bench file.
func BenchSchema() map[string]any {
	registry := huma.NewMapRegistry("#/$defs/", schemaName)
	root := registry.Schema(reflect.TypeFor[app.BenchFile](), true, "BenchFile")
	refine(registry.Map())
	return map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "A bench of Tall Oak", "$ref": root.Ref, "$defs": registry.Map(),
	}
}
