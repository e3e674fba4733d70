package store

import (
	"context"
	"fmt"
	"slices"

	"talloak/core/path"
	"talloak/core/problem"
)

// Kit lists the bench in its order, retired items too.
func (s *Store) Kit(ctx context.Context) ([]KitItem, error) {
	var out []KitItem
	return out, s.db.WithContext(ctx).Order("position, id").Find(&out).Error
}

// KitItem is one item; ErrNotFound where there is none.
func (s *Store) KitItem(ctx context.Context, id string) (*KitItem, error) {
	var out KitItem
	if err := s.db.WithContext(ctx).First(&out, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	return &out, nil
}

// Paths lists the kept paths in their order, retired ones too.
func (s *Store) Paths(ctx context.Context) ([]Path, error) {
	var out []Path
	return out, s.db.WithContext(ctx).Order("position, id").Find(&out).Error
}

// Path is one kept path; ErrNotFound where there is none.
func (s *Store) Path(ctx context.Context, id string) (*Path, error) {
	var out Path
	if err := s.db.WithContext(ctx).First(&out, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	return &out, nil
}

// Stacks lists what was measured in one piece, oldest first.
func (s *Store) Stacks(ctx context.Context) ([]Stack, error) {
	var out []Stack
	return out, s.db.WithContext(ctx).Order("seq").Find(&out).Error
}

// Baselines lists the comparisons of meters, oldest first.
func (s *Store) Baselines(ctx context.Context) ([]Baseline, error) {
	var out []Baseline
	return out, s.db.WithContext(ctx).Order("seq").Find(&out).Error
}

// Through is a copy of a kept path with its kit as it is now; ErrNotFound where
// there is no such path.
func (s *Store) Through(ctx context.Context, pathID string) (*Through, error) {
	p, err := s.Path(ctx, pathID)
	if err != nil {
		return nil, err
	}
	return s.ThroughOf(ctx, p)
}

// ThroughOf is Through for a path that need not be kept. What it names and is not
// on the bench is a *problem.Error on "parts[i]..." or "supply.kit_id".
func (s *Store) ThroughOf(ctx context.Context, p *Path) (*Through, error) {
	ids, stackIDs := []string{}, []string{}
	for _, part := range p.Parts {
		ids = append(ids, part.KitID)
		if part.StackID != "" {
			stackIDs = append(stackIDs, part.StackID)
		}
	}
	if p.Supply != nil {
		ids = append(ids, p.Supply.KitID)
	}
	var items []KitItem
	if err := s.db.WithContext(ctx).Find(&items, "id IN ?", ids).Error; err != nil {
		return nil, err
	}
	byID := map[string]KitItem{}
	for _, i := range items {
		byID[i.ID] = i
	}
	out := &Through{PathID: p.ID, Name: p.Name, Socket: p.Socket, AppliedOffsetDB: p.AppliedOffsetDB, Kit: []KitCopy{}}
	for n, part := range p.Parts {
		i, ok := byID[part.KitID]
		if !ok {
			return nil, problem.New(fmt.Sprintf("parts[%d].kit_id", n), "there is no such item on the bench")
		}
		out.Kit = append(out.Kit, KitCopy{ID: i.ID, Name: i.Name, Setting: part.Setting, Spec: i.Spec})
	}
	if v := p.Supply; v != nil {
		i, ok := byID[v.KitID]
		if !ok || i.Spec.Supply == nil {
			return nil, problem.New("supply.kit_id", "there is no such supply on the bench")
		}
		out.Supply = &SupplyCopy{i.ID, i.Name, v.SetV, v.LeadOhm, *i.Spec.Supply}
	}
	if len(stackIDs) > 0 {
		var stacks []Stack
		if err := s.db.WithContext(ctx).Find(&stacks, "id IN ?", stackIDs).Error; err != nil {
			return nil, err
		}
		for n, part := range p.Parts {
			if part.StackID != "" && !slices.ContainsFunc(stacks, func(st Stack) bool { return st.ID == part.StackID }) {
				return nil, problem.New(fmt.Sprintf("parts[%d].stack_id", n), "no stack was measured under this id")
			}
		}
		for _, stack := range stacks {
			if at := RunOf(p.Parts, &stack); at >= 0 {
				last := at + len(stack.Parts) - 1
				out.Kit[last].Measured = &path.Measured{Spans: len(stack.Parts), Table: stack.Found, On: stack.MeasuredOn}
			} else {
				out.StackChanged = true
			}
		}
	}
	return out, nil
}

// RunOf is where in a path the parts lie that a stack was measured as, all of
// them marked with it and in its order; -1 where they no longer do.
func RunOf(parts []PathPart, stack *Stack) int {
	n := len(stack.Parts)
	for at := 0; n > 0 && at+n <= len(parts); at++ {
		if slices.EqualFunc(parts[at:at+n], stack.Parts, func(a, b PathPart) bool {
			return a.KitID == b.KitID && a.Setting == b.Setting && a.StackID == stack.ID
		}) {
			return at
		}
	}
	return -1
}
