package store

import (
	"context"
	"errors"
	"slices"
	"strings"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"talloak/core/record"
)

// ErrInUse is the removal of something that a measurement or a path still names.
var ErrInUse = errors.New("this is in use; retire it instead")

func facts[R, F any](db *gorm.DB, fact func(*R) F) ([]F, error) {
	var rows []R
	err := db.Find(&rows).Error
	out := make([]F, len(rows))
	for i := range rows {
		out[i] = fact(&rows[i])
	}
	return out, err
}

// Kit lists the bench in its order, retired items too: the real one, or that of a practice review.
func (s *Store) Kit(ctx context.Context, practice string) ([]record.Item, error) {
	return facts(s.benchOf(ctx, practice), (*kitRow).fact)
}

func (s *Store) benchOf(ctx context.Context, practice string) *gorm.DB {
	return s.db.WithContext(ctx).Where("practice IS NOT DISTINCT FROM ?", orNull(practice)).Order("position, id")
}

// KitItem is one item; ErrNotFound where there is none.
func (s *Store) KitItem(ctx context.Context, id string) (*record.Item, error) {
	var row kitRow
	if err := s.db.WithContext(ctx).First(&row, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	out := row.fact()
	return &out, nil
}

// Paths lists the kept paths in their order, retired ones too: the real ones, or those of a practice
// review.
func (s *Store) Paths(ctx context.Context, practice string) ([]record.Path, error) {
	return facts(s.benchOf(ctx, practice), (*pathRow).fact)
}

// Path is one kept path; ErrNotFound where there is none.
func (s *Store) Path(ctx context.Context, id string) (*record.Path, error) {
	var row pathRow
	if err := s.db.WithContext(ctx).First(&row, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	out := row.fact()
	return &out, nil
}

// Stacks lists what was measured in one piece, oldest first.
func (s *Store) Stacks(ctx context.Context) ([]record.Stack, error) {
	return facts(s.db.WithContext(ctx).Order("seq"), (*stackRow).fact)
}

// Baselines lists the comparisons of meters, oldest first.
func (s *Store) Baselines(ctx context.Context) ([]record.Baseline, error) {
	return facts(s.db.WithContext(ctx).Order("seq"), (*baselineRow).fact)
}

// Through is a copy of a kept path with its kit as it is now, and its version;
// ErrNotFound where there is no such path.
func (s *Store) Through(ctx context.Context, pathID string) (*record.Through, *record.Path, error) {
	p, err := s.Path(ctx, pathID)
	if err != nil {
		return nil, nil, err
	}
	t, err := s.ThroughOf(ctx, p)
	return t, p, err
}

// ThroughOf is Through for a path that need not be kept. What it names and is not on the
// bench is a *problem.Error on "parts[i]..." or "supply.kit_id".
func (s *Store) ThroughOf(ctx context.Context, p *record.Path) (*record.Through, error) {
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
	items, err := facts(s.db.WithContext(ctx).Where("id IN ?", ids), (*kitRow).fact)
	if err != nil {
		return nil, err
	}
	var stacks []record.Stack
	if len(stackIDs) > 0 {
		if stacks, err = facts(s.db.WithContext(ctx).Where("id IN ?", stackIDs), (*stackRow).fact); err != nil {
			return nil, err
		}
	}
	return record.CopyPath(p, items, stacks)
}

// PutItem writes an item: a new one at version 0, or a change of the version it was read
// at. The very same write again changes nothing; anything else on an older version is
// ErrStale. On success the item has its new version.
func (s *Store) PutItem(ctx context.Context, k *record.Item) error {
	return putItem(s.db.WithContext(ctx), k)
}

func putItem(db *gorm.DB, k *record.Item) error {
	row := itemRow(k)
	err := put(db, row)
	k.Version = row.Version
	return err
}

// PutPath writes a path the way PutItem writes an item.
func (s *Store) PutPath(ctx context.Context, p *record.Path) error {
	return putPath(s.db.WithContext(ctx), p)
}

func putPath(db *gorm.DB, p *record.Path) error {
	row := rowOfPath(p)
	err := put(db, row)
	p.Version = row.Version
	return err
}

// Bench is items, stacks and paths written in one go.
type Bench struct {
	Kit    []record.Item
	Stacks []record.Stack
	Paths  []record.Path
}

// PutBench writes a bench all or not at all, each row the way PutItem does.
func (s *Store) PutBench(ctx context.Context, b *Bench) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		for i := range b.Kit {
			if err := putItem(tx, &b.Kit[i]); err != nil {
				return err
			}
		}
		for i := range b.Stacks {
			if _, err := addOnce(ctx, tx, rowOfStack(&b.Stacks[i], Fingerprint(b.Stacks[i].ID))); err != nil {
				return err
			}
		}
		for i := range b.Paths {
			if err := putPath(tx, &b.Paths[i]); err != nil {
				return err
			}
		}
		return nil
	})
}

func rowOfStack(k *record.Stack, request string) *stackRow {
	k.TakenAt = now()
	return &stackRow{ID: k.ID, RequestHash: request, TakenAt: k.TakenAt, MeasuredOn: k.MeasuredOn, Parts: k.Parts, Found: k.Found, Evidence: k.Evidence}
}

// AddStack writes a measured stack and, in the same go, the path that it now counts on.
func (s *Store) AddStack(ctx context.Context, stack *record.Stack, p *record.Path, request string) (again bool, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		row := rowOfStack(stack, request)
		if again, err = addOnce(ctx, tx, row); err != nil || again {
			*stack = row.fact()
			return err
		}
		return putPath(tx, p)
	})
	return again, err
}

// AddBaseline writes a comparison of meters.
func (s *Store) AddBaseline(ctx context.Context, b *record.Baseline, request string) (again bool, err error) {
	row := &baselineRow{ID: b.ID, RequestHash: request, TakenAt: now(), MeasuredOn: b.MeasuredOn, Meters: b.Meters, Rows: b.Rows}
	again, err = addOnce(ctx, s.db, row)
	*b = row.fact()
	return again, err
}

// naming are the places that may name an item of kit.
var naming = []string{
	"SELECT 1 FROM measurements WHERE through -> 'kit' @> jsonb_build_array(jsonb_build_object('id', ?::text))",
	"SELECT 1 FROM measurements WHERE through -> 'supply' ->> 'id' = ?::text",
	"SELECT 1 FROM paths WHERE parts @> jsonb_build_array(jsonb_build_object('kit_id', ?::text)) OR supply ->> 'kit_id' = ?::text",
	"SELECT 1 FROM stacks WHERE parts @> jsonb_build_array(jsonb_build_object('kit_id', ?::text)) OR evidence -> 'meter' ->> 'id' = ?::text OR evidence -> 'meter_with' ->> 'id' = ?::text",
	"SELECT 1 FROM baselines WHERE meters @> jsonb_build_array(jsonb_build_object('id', ?::text))",
}

// Used tells whether a measurement or a path names the item.
func (s *Store) Used(ctx context.Context, id string) (bool, error) {
	return used(s.db.WithContext(ctx), id)
}

func used(db *gorm.DB, id string) (bool, error) {
	for _, q := range naming {
		var found bool
		ids := slices.Repeat([]any{id}, strings.Count(q, "?"))
		if err := db.Raw("SELECT EXISTS ("+q+")", ids...).Scan(&found).Error; err != nil || found {
			return found, err
		}
	}
	return false, nil
}

// RemoveItem takes a mistaken item off the bench: ErrInUse where anything names it,
// ErrStale where its version is not the newest, ErrNotFound where it is none.
func (s *Store) RemoveItem(ctx context.Context, id string, version int) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var old kitRow
		if err := tx.Clauses(clause.Locking{Strength: clause.LockingStrengthUpdate}).First(&old, "id = ?", id).Error; err != nil {
			return translate(err)
		}
		switch named, err := used(tx, id); {
		case err != nil:
			return err
		case named:
			return ErrInUse
		case old.Version != version:
			return ErrStale
		}
		return tx.Delete(&old).Error
	})
}
