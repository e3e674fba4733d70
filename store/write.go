package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"

	"gorm.io/gorm"
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

// keyed is a row written once under a key made by the client.
type keyed interface{ key() (id, hash string) }

func (r *Review) key() (string, string)   { return r.ID, r.RequestHash }
func (r *Reading) key() (string, string)  { return r.ID, r.RequestHash }
func (r *Sweep) key() (string, string)    { return r.ID, r.RequestHash }
func (r *Standing) key() (string, string) { return r.ID, r.RequestHash }
func (r *Edition) key() (string, string)  { return r.ID, r.RequestHash }
func (r *Stack) key() (string, string)    { return r.ID, r.RequestHash }
func (r *Baseline) key() (string, string) { return r.ID, r.RequestHash }

// addOnce writes a row, or finds that the very same request was written before:
// then row is what was written, and again is true. ErrKeyReused is a different
// request under the same key.
func addOnce[T any, P interface {
	*T
	keyed
}](ctx context.Context, db *gorm.DB, row P) (again bool, err error) {
	id, hash := row.key()
	// In a transaction of its own, so that one around it survives a key that is there.
	err = db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return tx.Create(row).Error })
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

// AddReview writes a new review at version 1.
func (s *Store) AddReview(ctx context.Context, r *Review) (again bool, err error) {
	r.Version, r.CreatedAt = 1, now()
	r.UpdatedAt = r.CreatedAt
	return addOnce(ctx, s.db, r)
}

// ChangeReview writes what changed in a review whose version is still the one
// given; ErrStale otherwise. On success r has the new version.
func (s *Store) ChangeReview(ctx context.Context, r *Review) error {
	old := r.Version
	r.Version, r.UpdatedAt = old+1, now()
	done := s.db.WithContext(ctx).Model(r).Where("version = ?", old).
		Select("Version", "UpdatedAt", "Subject", "Claims", "Rules").Updates(r)
	if done.Error != nil {
		return done.Error
	}
	if done.RowsAffected == 0 {
		if _, err := s.Review(ctx, r.ID); err != nil {
			return err
		}
		return ErrStale
	}
	return nil
}

// AddReading writes a reading.
func (s *Store) AddReading(ctx context.Context, r *Reading) (again bool, err error) {
	r.TakenAt = now()
	return addOnce(ctx, s.db, r)
}

// AddSweep writes a sweep.
func (s *Store) AddSweep(ctx context.Context, r *Sweep) (again bool, err error) {
	r.TakenAt = now()
	return addOnce(ctx, s.db, r)
}

// AddStanding writes a word on a reading or sweep of the same review;
// ErrNotFound where there is none.
func (s *Store) AddStanding(ctx context.Context, r *Standing) (again bool, err error) {
	var n int64
	table := map[string]any{"reading": &Reading{}, "sweep": &Sweep{}}[r.Target]
	if table == nil {
		return false, ErrNotFound
	}
	if err := s.db.WithContext(ctx).Model(table).Where("id = ? AND review_id = ?", r.TargetID, r.ReviewID).Count(&n).Error; err != nil {
		return false, err
	}
	if n == 0 {
		return false, ErrNotFound
	}
	r.SaidAt = now()
	return addOnce(ctx, s.db, r)
}

// Freeze numbers and writes an edition. Compose is given the number and the
// time and fills document and page; two freezes of one review wait for each other.
func (s *Store) Freeze(ctx context.Context, e *Edition, compose func(*Edition) error) (again bool, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("SELECT 1 FROM reviews WHERE id = ? FOR UPDATE", e.ReviewID).Error; err != nil {
			return err
		}
		var old Edition
		switch err := tx.First(&old, "id = ?", e.ID).Error; {
		case err == nil && old.RequestHash != e.RequestHash:
			return ErrKeyReused
		case err == nil:
			*e, again = old, true
			return nil
		case !errors.Is(err, gorm.ErrRecordNotFound):
			return err
		}
		var last int
		if err := tx.Model(&Edition{}).Where("review_id = ?", e.ReviewID).Select("coalesce(max(number), 0)").Scan(&last).Error; err != nil {
			return err
		}
		e.Number, e.FrozenAt = last+1, now()
		if err := compose(e); err != nil {
			return err
		}
		return tx.Create(e).Error
	})
	return again, err
}

// Exec runs a statement as it is. It is for tests and tools that look at the
// database from outside.
func (s *Store) Exec(ctx context.Context, sql string) error {
	return s.db.WithContext(ctx).Exec(sql).Error
}
