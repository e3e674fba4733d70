package store

import (
	"context"
	"encoding/json"
	"time"

	"gorm.io/gorm"

	"talloak/core/record"
)

type bookRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	BookID      string
	What        string
	Content     json.RawMessage `gorm:"type:jsonb"`
	WrittenAt   time.Time
}

func (bookRow) TableName() string         { return "rule_books" }
func (r *bookRow) key() (id, hash string) { return r.ID, r.RequestHash }

// booksLock is held by who writes of rule books, until the transaction ends: what was looked at
// before still stands then.
const booksLock = 7374

// AddBookWord writes something of a rule book, under the fingerprint of its request, unless may
// refuses it, given all that was written before.
func (s *Store) AddBookWord(ctx context.Context, w *record.BookWord, request string, may func([]record.BookWord) error) (again bool, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("SELECT pg_advisory_xact_lock(?)", booksLock).Error; err != nil {
			return err
		}
		var old bookRow
		switch found := tx.Limit(1).Find(&old, "id = ?", w.ID); {
		case found.Error != nil:
			return found.Error
		case found.RowsAffected > 0 && old.RequestHash != request:
			return ErrKeyReused
		case found.RowsAffected > 0:
			again = true
			return nil
		}
		words, err := bookWords(tx)
		if err != nil {
			return err
		}
		if err := may(words); err != nil {
			return err
		}
		again, err = addOnce(ctx, tx, &bookRow{ID: w.ID, RequestHash: request, BookID: w.BookID, What: w.What, Content: w.Content, WrittenAt: now()})
		return err
	})
	return again, err
}

// BookWords are all that was written of rule books, in order.
func (s *Store) BookWords(ctx context.Context) ([]record.BookWord, error) {
	return bookWords(s.db.WithContext(ctx))
}

func bookWords(db *gorm.DB) ([]record.BookWord, error) {
	return facts(db.Order("seq"), func(r *bookRow) record.BookWord {
		return record.BookWord{ID: r.ID, BookID: r.BookID, What: r.What, Content: r.Content}
	})
}

// BookWordsAt names how far the words on rule books go: it changes with each of them, one that
// was begun earlier and written later too.
func (s *Store) BookWordsAt(ctx context.Context) (string, error) {
	var at string
	err := s.db.WithContext(ctx).Raw("SELECT count(*) || ' ' || coalesce(max(seq), 0) FROM rule_books").Scan(&at).Error
	return at, err
}
