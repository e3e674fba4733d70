package store

import (
	"context"
	"errors"
	"slices"
	"strings"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// ErrInUse is the removal of something that a measurement or a path still names.
var ErrInUse = errors.New("this is in use; retire it instead")

// versioned is a row of the bench, changed in place under a version.
type versioned interface {
	row() (id string, version *int)
}

func (k *KitItem) row() (string, *int) { return k.ID, &k.Version }
func (p *Path) row() (string, *int)    { return p.ID, &p.Version }

// PutItem writes an item: a new one at version 0, or a change of the version it
// was read at. The very same write again changes nothing; anything else on an
// older version is ErrStale. On success the row has its new version.
func (s *Store) PutItem(ctx context.Context, k *KitItem) error { return put(s.db.WithContext(ctx), k) }

// PutPath writes a path the way PutItem writes an item.
func (s *Store) PutPath(ctx context.Context, p *Path) error { return put(s.db.WithContext(ctx), p) }

// Bench is items, stacks and paths written in one go.
type Bench struct {
	Kit    []KitItem
	Stacks []Stack
	Paths  []Path
}

// PutBench writes a bench all or not at all, each row the way PutItem does.
func (s *Store) PutBench(ctx context.Context, b *Bench) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		for i := range b.Kit {
			if err := put(tx, &b.Kit[i]); err != nil {
				return err
			}
		}
		for i := range b.Stacks {
			b.Stacks[i].TakenAt = now()
			if _, err := addOnce(ctx, tx, &b.Stacks[i]); err != nil {
				return err
			}
		}
		for i := range b.Paths {
			if err := put(tx, &b.Paths[i]); err != nil {
				return err
			}
		}
		return nil
	})
}

func put[T any, P interface {
	*T
	versioned
}](db *gorm.DB, row P) error {
	return db.Transaction(func(tx *gorm.DB) error {
		id, version := row.row()
		read := *version
		var old T
		err := tx.Clauses(clause.Locking{Strength: clause.LockingStrengthUpdate}).First(&old, "id = ?", id).Error
		switch {
		case errors.Is(err, gorm.ErrRecordNotFound) && read == 0:
			*version = 1
			if err = tx.Create(row).Error; errors.Is(err, gorm.ErrDuplicatedKey) {
				return ErrStale // another write under this id came first
			}
			return err
		case err != nil:
			return translate(err)
		}
		_, has := P(&old).row()
		*version = *has
		switch {
		case *has == read+1 && Fingerprint(old) == Fingerprint(row):
			return nil
		case *has != read:
			*version = read
			return ErrStale
		}
		*version = read + 1
		return tx.Save(row).Error
	})
}

// AddStack writes a measured stack and, in the same go, the path that it now
// counts on.
func (s *Store) AddStack(ctx context.Context, stack *Stack, p *Path) (again bool, err error) {
	stack.TakenAt = now()
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if again, err = addOnce(ctx, tx, stack); err != nil || again {
			return err
		}
		return put(tx, p)
	})
	return again, err
}

// AddBaseline writes a comparison of meters.
func (s *Store) AddBaseline(ctx context.Context, b *Baseline) (again bool, err error) {
	b.TakenAt = now()
	return addOnce(ctx, s.db, b)
}

// naming are the places that may name an item of kit.
var naming = []string{
	"SELECT 1 FROM readings WHERE through -> 'kit' @> jsonb_build_array(jsonb_build_object('id', ?::text))",
	"SELECT 1 FROM sweeps WHERE through -> 'kit' @> jsonb_build_array(jsonb_build_object('id', ?::text))",
	"SELECT 1 FROM readings WHERE through -> 'supply' ->> 'id' = ?::text",
	"SELECT 1 FROM sweeps WHERE through -> 'supply' ->> 'id' = ?::text",
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

// RemoveItem takes a mistaken item off the bench: ErrInUse where anything names
// it, ErrStale where its version is not the newest, ErrNotFound where it is none.
func (s *Store) RemoveItem(ctx context.Context, id string, version int) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var old KitItem
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
