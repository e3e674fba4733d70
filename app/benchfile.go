package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/strictjson"
	"talloak/core/wiring"
	"talloak/store"
)

// BenchFormat names the shape of a BenchFile.
const BenchFormat = "talloak-bench-1"

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
	ID              string             `json:"id" format:"uuid"`
	Name            string             `json:"name" maxLength:"200"`
	Socket          string             `json:"socket" required:"false" maxLength:"100" doc:"The radio's socket it starts from; some have two"`
	Parts           []record.PathPart  `json:"parts" maxItems:"60"`
	Supply          *record.PathSupply `json:"supply,omitempty"`
	AppliedOffsetDB float64            `json:"applied_offset_db" required:"false" doc:"What the instrument already adds to what it shows, with its sign"`
	RetiredAt       *time.Time         `json:"retired_at,omitempty"`
}

func (p *FilePath) row() *record.Path {
	parts := p.Parts
	if parts == nil {
		parts = []record.PathPart{}
	}
	return &record.Path{ID: p.ID, Name: strings.TrimSpace(p.Name), Socket: strings.TrimSpace(p.Socket), Parts: parts, Supply: p.Supply, AppliedOffsetDB: p.AppliedOffsetDB}
}

// FileStack is a measured stack in a file.
type FileStack struct {
	ID         string               `json:"id" format:"uuid"`
	MeasuredOn string               `json:"measured_on" format:"date"`
	Parts      []record.PathPart    `json:"parts"`
	Table      []path.MeasuredPoint `json:"table"`
	Evidence   record.StackEvidence `json:"evidence"`
}

// ImportFound says what a file brings: names of items and paths that are new,
// that differ from those kept, and that are the same. Written is false for a try.
type ImportFound struct {
	Added   []string `json:"added"`
	Changed []string `json:"changed"`
	Same    int      `json:"same"`
	Written bool     `json:"written"`
}

// ImportBench reads a bench file: all of it or nothing; a try only says what it would
// bring. Errors are on the fields of the file.
func (a *App) ImportBench(ctx context.Context, data []byte, try bool) (*ImportFound, error) {
	var file BenchFile
	if err := strictjson.Decode(data, &file); err != nil {
		return nil, err
	}
	if err := checkTexts(&file); err != nil {
		return nil, err
	}
	b, found, err := a.importBench(ctx, &file)
	if err != nil || try {
		return found, err
	}
	if err := a.Store.PutBench(ctx, b); err != nil {
		return nil, err
	}
	found.Written = true
	a.Events.publish("bench", "", "")
	return found, nil
}

// ExportBench gathers the bench, or one item.
func (a *App) ExportBench(ctx context.Context, kitID string) (*BenchFile, string, error) {
	out := &BenchFile{Format: BenchFormat, ExportedOn: time.Now().UTC().Format(time.DateOnly), Kit: []FileItem{}}
	if kitID != "" {
		k, err := a.Store.KitItem(ctx, kitID)
		if err != nil {
			return nil, "", err
		}
		out.Kit = append(out.Kit, FileItem{k.ID, k.Name, k.Spec, k.RetiredAt})
		return out, k.Name, nil
	}
	items, err := a.Store.Kit(ctx, "")
	if err != nil {
		return nil, "", err
	}
	paths, err := a.Store.Paths(ctx, "")
	if err != nil {
		return nil, "", err
	}
	stacks, err := a.Store.Stacks(ctx)
	if err != nil {
		return nil, "", err
	}
	for _, k := range items {
		out.Kit = append(out.Kit, FileItem{k.ID, k.Name, k.Spec, k.RetiredAt})
	}
	for _, p := range paths {
		out.Paths = append(out.Paths, FilePath{p.ID, p.Name, p.Socket, p.Parts, p.Supply, p.AppliedOffsetDB, p.RetiredAt})
	}
	for _, k := range stacks {
		out.Stacks = append(out.Stacks, FileStack{k.ID, k.MeasuredOn, k.Parts, k.Found, k.Evidence})
	}
	return out, "bench", nil
}

// importBench checks a file and holds it against what is kept. Errors are on the
// fields of the file.
func (a *App) importBench(ctx context.Context, file *BenchFile) (*store.Bench, *ImportFound, error) {
	var bad problem.List
	if file.Format != BenchFormat {
		bad.Add("format", "give %q: this is no bench file", BenchFormat)
		return nil, nil, bad.Err()
	}
	seen, b, found := ids{}, &store.Bench{}, &ImportFound{Added: []string{}, Changed: []string{}}
	known := map[string]record.Item{}
	kept, err := a.Store.Kit(ctx, "")
	if err != nil {
		return nil, nil, err
	}
	for _, k := range kept {
		known[k.ID] = k
	}
	stacks, err := a.Store.Stacks(ctx)
	if err != nil {
		return nil, nil, err
	}
	measured := map[string]record.Stack{}
	for _, k := range stacks {
		measured[k.ID] = k
	}
	for i, k := range file.Kit {
		field := fmt.Sprintf("kit[%d]", i)
		seen.check(&bad, field, k.ID)
		row, err := a.item(ctx, ItemChange{ID: k.ID, Name: k.Name, Spec: k.Spec})
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
		row := record.Stack{ID: k.ID, MeasuredOn: k.MeasuredOn, Parts: k.Parts, Found: k.Table, Evidence: k.Evidence}
		b.Stacks, measured[k.ID] = append(b.Stacks, row), row
	}
	for i, p := range file.Paths {
		field := fmt.Sprintf("paths[%d]", i)
		seen.check(&bad, field, p.ID)
		row := p.row()
		row.RetiredAt = p.RetiredAt
		if row.Name == "" {
			bad.Add(field+".name", "give the path a name")
		}
		if !checkParts(&bad, field, p.Parts, known) {
			continue
		}
		t := record.Through{Name: p.Name}
		for n, part := range p.Parts {
			if _, is := measured[part.StackID]; part.StackID != "" && !is {
				bad.Add(fmt.Sprintf("%s.parts[%d].stack_id", field, n), "no stack was measured under this id, neither in the file nor on the bench")
			}
			k := known[part.KitID]
			t.Kit = append(t.Kit, record.KitCopy{ID: k.ID, Name: k.Name, Setting: part.Setting, Spec: k.Spec})
		}
		if _, err := wiring.Compile(&t); err != nil {
			bad.AddErr(field, err)
		}
		if v := p.Supply; v != nil && known[v.KitID].Spec.Supply == nil {
			bad.Add(field+".supply.kit_id", "there is no such supply, neither in the file nor on the bench")
		}
		old, err := a.Store.Path(ctx, p.ID)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, nil, err
		}
		if old == nil {
			old = &record.Path{}
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
func checkParts(bad *problem.List, field string, parts []record.PathPart, known map[string]record.Item) bool {
	ok := true
	for i, p := range parts {
		if _, is := known[p.KitID]; !is {
			bad.Add(fmt.Sprintf("%s.parts[%d].kit_id", field, i), "there is no such item, neither in the file nor on the bench")
			ok = false
		}
	}
	return ok
}
