package app

import (
	"context"
	"fmt"
	"strings"

	"talloak/core/kit"
	"talloak/core/kit/line"
	"talloak/core/record"
)

// BenchLine is what a line typed at the bench says: a thing, or a path of owned ones. Its name is no
// other's on this bench.
type BenchLine struct {
	Name    string            `json:"name"`
	Spec    *kit.Spec         `json:"spec,omitempty"`
	Parts   []record.PathPart `json:"parts,omitempty"`
	Says    []string          `json:"says"`
	Typical []string          `json:"typical"`
}

// ReadBenchLine reads a line on the real bench, or on that of a practice review; it keeps nothing.
// Errors are on "text".
func (a *App) ReadBenchLine(ctx context.Context, text, practice string) (*BenchLine, error) {
	items, err := a.Store.Kit(ctx, practice)
	if err != nil {
		return nil, err
	}
	if !line.IsPath(text) {
		thing, err := line.Read(text)
		if err != nil {
			return nil, err
		}
		var names []string
		for _, i := range items {
			names = append(names, i.Name)
		}
		return &BenchLine{Name: unlike(thing.Name, names), Spec: &thing.Spec, Says: thing.Says, Typical: thing.Typical}, nil
	}
	var owned []line.Owned
	for _, i := range items {
		if i.RetiredAt == nil && i.Spec.KindOf().PathKind() != "" {
			owned = append(owned, line.Owned{ID: i.ID, Name: i.Name, Spec: i.Spec})
		}
	}
	way, err := line.Path(text, owned)
	if err != nil {
		return nil, err
	}
	paths, err := a.Store.Paths(ctx, practice)
	if err != nil {
		return nil, err
	}
	var names []string
	for _, p := range paths {
		names = append(names, p.Name)
	}
	out := &BenchLine{Name: unlike(way.Name, names), Says: way.Says, Typical: []string{}}
	for _, p := range way.Parts {
		out.Parts = append(out.Parts, record.PathPart{KitID: p.KitID, Setting: p.Setting})
	}
	return out, nil
}

// unlike is a name that none of some others is.
func unlike(name string, others []string) string {
	taken := map[string]bool{}
	for _, o := range others {
		taken[strings.ToLower(o)] = true
	}
	out := name
	for n := 2; taken[strings.ToLower(out)]; n++ {
		out = fmt.Sprintf("%s %d", name, n)
	}
	return out
}
