package httpapi

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/strictjson"
	"talloak/dossier"
	"talloak/store"
)

// benchFormat names the shape of a BenchFile.
const benchFormat = "talloak-bench-1"

// BenchFile is a bench, or a part of one, as a file. Its schema is
// docs/bench.schema.json.
type BenchFile struct {
	Format     string      `json:"format" enum:"talloak-bench-1"`
	ExportedOn string      `json:"exported_on,omitempty" format:"date"`
	Kit        []FileItem  `json:"kit"`
	Paths      []FilePath  `json:"paths,omitempty"`
	Stacks     []FileStack `json:"stacks,omitempty"`
}

// FileItem is an item in a file.
type FileItem struct {
	ID        string     `json:"id" format:"uuid"`
	Name      string     `json:"name" minLength:"1"`
	Spec      kit.Spec   `json:"spec"`
	RetiredAt *time.Time `json:"retired_at,omitempty"`
}

// FilePath is a path in a file.
type FilePath struct {
	ID string `json:"id" format:"uuid"`
	PathDraft
	RetiredAt *time.Time `json:"retired_at,omitempty"`
}

// FileStack is a measured stack in a file.
type FileStack struct {
	ID         string               `json:"id" format:"uuid"`
	MeasuredOn string               `json:"measured_on" format:"date"`
	Parts      []store.PathPart     `json:"parts"`
	Table      []path.MeasuredPoint `json:"table"`
	Evidence   store.StackEvidence  `json:"evidence"`
}

// ImportFound says what a file brings: names of items and paths that are new,
// that differ from those kept, and that are the same. Written is false for a try.
type ImportFound struct {
	Added   []string `json:"added"`
	Changed []string `json:"changed"`
	Same    int      `json:"same"`
	Written bool     `json:"written"`
}

// BenchSchema is the JSON Schema of a BenchFile.
func BenchSchema() map[string]any {
	registry := huma.NewMapRegistry("#/$defs/", schemaName)
	root := registry.Schema(reflect.TypeFor[BenchFile](), true, "BenchFile")
	return map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "A bench of Tall Oak", "$ref": root.Ref, "$defs": registry.Map(),
	}
}

func (s *Server) registerBenchFiles(api huma.API) {
	tag := []string{"bench"}
	huma.Register(api, huma.Operation{OperationID: "export-bench", Method: http.MethodGet, Path: "/api/v1/bench/export", Summary: "The whole bench as a file, or one item of it", Tags: tag},
		func(ctx context.Context, in *struct {
			KitID string `query:"kit_id" format:"uuid"`
		}) (*download, error) {
			file, name, err := s.benchFile(ctx, in.KitID)
			if err != nil {
				return nil, answer(err)
			}
			text, err := json.MarshalIndent(file, "", " ")
			return &download{"application/json", attachment(name + ".json"), pagePolicy, append(text, '\n')}, answer(err)
		})
	huma.Register(api, huma.Operation{OperationID: "import-bench", Method: http.MethodPost, Path: "/api/v1/bench/import", Summary: "Read a bench file: all of it or nothing; try only says what it would bring", Tags: tag, MaxBodyBytes: maxKit, SkipValidateBody: true},
		func(ctx context.Context, in *struct {
			Try     bool   `query:"try"`
			RawBody []byte `contentType:"application/json"`
		}) (*body[ImportFound], error) {
			var file BenchFile
			if err := strictjson.Decode(in.RawBody, &file); err != nil {
				return nil, answer(err)
			}
			b, found, err := s.importBench(ctx, &file)
			if err != nil {
				return nil, answer(err)
			}
			if !in.Try {
				if err := s.store.PutBench(ctx, b); err != nil {
					return nil, answer(err)
				}
				found.Written = true
			}
			return &body[ImportFound]{*found}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-bench-schema", Method: http.MethodGet, Path: "/api/v1/bench/schema", Summary: "The JSON Schema of bench files", Tags: tag},
		func(context.Context, *struct{}) (*download, error) {
			text, err := json.MarshalIndent(BenchSchema(), "", " ")
			return &download{"application/schema+json", attachment("bench.schema.json"), pagePolicy, append(text, '\n')}, answer(err)
		})
}

// benchFile gathers the bench, or one item.
func (s *Server) benchFile(ctx context.Context, kitID string) (*BenchFile, string, error) {
	out := &BenchFile{Format: benchFormat, ExportedOn: time.Now().UTC().Format(time.DateOnly), Kit: []FileItem{}}
	if kitID != "" {
		k, err := s.store.KitItem(ctx, kitID)
		if err != nil {
			return nil, "", err
		}
		out.Kit = append(out.Kit, FileItem{k.ID, k.Name, k.Spec, k.RetiredAt})
		return out, k.Name, nil
	}
	items, err := s.store.Kit(ctx)
	if err != nil {
		return nil, "", err
	}
	paths, err := s.store.Paths(ctx)
	if err != nil {
		return nil, "", err
	}
	stacks, err := s.store.Stacks(ctx)
	if err != nil {
		return nil, "", err
	}
	for _, k := range items {
		out.Kit = append(out.Kit, FileItem{k.ID, k.Name, k.Spec, k.RetiredAt})
	}
	for _, p := range paths {
		out.Paths = append(out.Paths, FilePath{p.ID, PathDraft{p.Name, p.Socket, p.Parts, p.Supply, p.AppliedOffsetDB}, p.RetiredAt})
	}
	for _, k := range stacks {
		out.Stacks = append(out.Stacks, FileStack{k.ID, k.MeasuredOn, k.Parts, k.Found, k.Evidence})
	}
	return out, "bench", nil
}

// importBench checks a file and holds it against what is kept. Errors are on the
// fields of the file.
func (s *Server) importBench(ctx context.Context, file *BenchFile) (*store.Bench, *ImportFound, error) {
	var bad problem.List
	if file.Format != benchFormat {
		bad.Add("format", "give %q: this is no bench file", benchFormat)
		return nil, nil, bad.Err()
	}
	seen, b, found := ids{}, &store.Bench{}, &ImportFound{Added: []string{}, Changed: []string{}}
	known := map[string]store.KitItem{}
	kept, err := s.store.Kit(ctx)
	if err != nil {
		return nil, nil, err
	}
	for _, k := range kept {
		known[k.ID] = k
	}
	stacks, err := s.store.Stacks(ctx)
	if err != nil {
		return nil, nil, err
	}
	measured := map[string]store.Stack{}
	for _, k := range stacks {
		measured[k.ID] = k
	}
	for i, k := range file.Kit {
		field := fmt.Sprintf("kit[%d]", i)
		seen.check(&bad, field, k.ID)
		row, err := s.kitRow(ctx, k.ID, &KitWrite{Name: k.Name, Spec: k.Spec})
		if err != nil {
			bad.AddErr(field, err)
			continue
		}
		row.RetiredAt = k.RetiredAt
		old, is := known[k.ID]
		row.Version, old.Spec.Kind = old.Version, old.Spec.KindOf()
		same := store.Fingerprint(old) == store.Fingerprint(row)
		found.note(k.Name, is, same)
		if !same {
			b.Kit = append(b.Kit, *row)
		}
		known[k.ID] = *row
	}
	for i, k := range file.Stacks {
		field := fmt.Sprintf("stacks[%d]", i)
		seen.check(&bad, field, k.ID)
		if _, err := path.Prepare(path.Element{Kind: path.Adapter, Measured: &path.Measured{Spans: max(1, len(k.Parts)), Table: k.Table}}); err != nil {
			bad.AddErr(field, err)
		}
		checkParts(&bad, field, k.Parts, known)
		if old, is := measured[k.ID]; is {
			if store.Fingerprint(old.Found) != store.Fingerprint(k.Table) {
				bad.Add(field+".id", "another measurement is kept under this id; measurements are never changed")
			}
			continue
		}
		row := store.Stack{ID: k.ID, RequestHash: "import", MeasuredOn: k.MeasuredOn, Parts: k.Parts, Found: k.Table, Evidence: k.Evidence}
		b.Stacks, measured[k.ID] = append(b.Stacks, row), row
	}
	for i, p := range file.Paths {
		field := fmt.Sprintf("paths[%d]", i)
		seen.check(&bad, field, p.ID)
		row := p.PathDraft.row(p.ID, 0)
		row.RetiredAt = p.RetiredAt
		if row.Name == "" {
			bad.Add(field+".name", "give the path a name")
		}
		if !checkParts(&bad, field, p.Parts, known) {
			continue
		}
		t := store.Through{Name: p.Name}
		for n, part := range p.Parts {
			if _, is := measured[part.StackID]; part.StackID != "" && !is {
				bad.Add(fmt.Sprintf("%s.parts[%d].stack_id", field, n), "no stack was measured under this id, neither in the file nor on the bench")
			}
			k := known[part.KitID]
			t.Kit = append(t.Kit, store.KitCopy{ID: k.ID, Name: k.Name, Setting: part.Setting, Spec: k.Spec})
		}
		if _, err := dossier.Compile(t); err != nil {
			bad.AddErr(field, err)
		}
		if v := p.Supply; v != nil && known[v.KitID].Spec.Supply == nil {
			bad.Add(field+".supply.kit_id", "there is no such supply, neither in the file nor on the bench")
		}
		old, err := s.store.Path(ctx, p.ID)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, nil, err
		}
		if old == nil {
			old = &store.Path{}
		}
		row.Version = old.Version
		same := store.Fingerprint(old) == store.Fingerprint(row)
		found.note(p.Name, old.ID != "", same)
		if !same {
			b.Paths = append(b.Paths, *row)
		}
	}
	return b, found, bad.Err()
}

func (f *ImportFound) note(name string, known, same bool) {
	switch {
	case !known:
		f.Added = append(f.Added, name)
	case same:
		f.Same++
	default:
		f.Changed = append(f.Changed, name)
	}
}

// ids are those a file has used so far.
type ids map[string]bool

func (seen ids) check(bad *problem.List, field, id string) {
	switch {
	case uuid.Validate(id) != nil:
		bad.Add(field+".id", "give a UUID, such as 6f0a1a5e-93a7-4c68-9c53-0d1c8f5a2a11")
	case seen[id]:
		bad.Add(field+".id", "stands twice in the file")
	}
	seen[id] = true
}

// checkParts refuses parts that are neither in the file nor on the bench.
func checkParts(bad *problem.List, field string, parts []store.PathPart, known map[string]store.KitItem) bool {
	ok := true
	for i, p := range parts {
		if _, is := known[p.KitID]; !is {
			bad.Add(fmt.Sprintf("%s.parts[%d].kit_id", field, i), "there is no such item, neither in the file nor on the bench")
			ok = false
		}
	}
	return ok
}
