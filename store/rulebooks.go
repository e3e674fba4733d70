package store

import (
	"context"
	"encoding/json"
	"time"

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

// AddBookWord writes something of a rule book, under the fingerprint of its request.
func (s *Store) AddBookWord(ctx context.Context, w *record.BookWord, request string) (again bool, err error) {
	row := &bookRow{ID: w.ID, RequestHash: request, BookID: w.BookID, What: w.What, Content: w.Content, WrittenAt: now()}
	again, err = addOnce(ctx, s.db, row)
	return again, err
}

// BookWords are all that was written of rule books, in order.
func (s *Store) BookWords(ctx context.Context) ([]record.BookWord, error) {
	return facts(s.db.WithContext(ctx).Order("seq"), func(r *bookRow) record.BookWord {
		return record.BookWord{ID: r.ID, BookID: r.BookID, What: r.What, Content: r.Content}
	})
}

// BookWordsAt is how far the words on rule books go: it changes with each of them.
func (s *Store) BookWordsAt(ctx context.Context) (int64, error) {
	var at int64
	err := s.db.WithContext(ctx).Raw("SELECT COALESCE(MAX(seq), 0) FROM rule_books").Scan(&at).Error
	return at, err
}
