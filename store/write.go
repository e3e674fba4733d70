package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/schema"
)

// Fingerprint tells two requests under the same key apart.
func Fingerprint(request any) string {
	text, err := json.Marshal(request)
	if err != nil {
		panic(err) // requests are plain structs
	}
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:])
}

// addOnce writes a row, or finds that the very same request was written before: then row
// is what was written, and again is true. ErrKeyReused is a different request under the
// same key; ErrNotFound is a row of something that is not there.
func addOnce[T any, P interface {
	*T
	keyed
	schema.Tabler
}](ctx context.Context, db *gorm.DB, row P) (again bool, err error) {
	id, hash := row.key()
	// In a transaction of its own, so that one around it survives a key that is there.
	err = db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(row).Error; err != nil || len(summed[row.TableName()]) == 0 {
			return err
		}
		return chained(tx, row.TableName(), id)
	})
	if errors.Is(err, gorm.ErrForeignKeyViolated) {
		return false, ErrNotFound
	}
	if err == nil || !errors.Is(err, gorm.ErrDuplicatedKey) {
		return false, err
	}
	var old T
	if err := db.WithContext(ctx).First(&old, "id = ?", id).Error; err != nil {
		return false, translate(err)
	}
	if _, have := P(&old).key(); have != hash {
		return false, ErrKeyReused
	}
	*row = old
	return true, nil
}

// put writes a row at the version it was read at: a new one at version 0. The very same
// write again changes nothing; anything else on an older version is ErrStale. On success
// the row has its new version.
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

// Exec runs a statement as it is. It is for tests and tools that look at the database
// from outside.
func (s *Store) Exec(ctx context.Context, sql string) error {
	return s.db.WithContext(ctx).Exec(sql).Error
}
