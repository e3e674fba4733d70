package store

import (
	"context"
	"time"

	"talloak/core/record"
)

type comparisonRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	Title       string
	FrozenAt    time.Time
	SHA256      string `gorm:"column:sha256"`
	Page        []byte
}

func (comparisonRow) TableName() string         { return "comparisons" }
func (r *comparisonRow) key() (id, hash string) { return r.ID, r.RequestHash }

func (r *comparisonRow) fact() record.FrozenComparison {
	return record.FrozenComparison{ID: r.ID, Title: r.Title, FrozenAt: r.FrozenAt, SHA256: r.SHA256, Page: r.Page}
}

// Now is the time as facts have it, in microseconds.
func (s *Store) Now() time.Time { return now() }

// AddComparison writes a comparison that was frozen, under the fingerprint of its request.
func (s *Store) AddComparison(ctx context.Context, c *record.FrozenComparison, request string) (again bool, err error) {
	row := &comparisonRow{ID: c.ID, RequestHash: request, Title: c.Title, FrozenAt: c.FrozenAt, SHA256: c.SHA256, Page: c.Page}
	again, err = addOnce(ctx, s.db, row)
	*c = row.fact()
	return again, err
}

// Comparisons lists those that were frozen, the newest first, without their pages.
func (s *Store) Comparisons(ctx context.Context) ([]record.FrozenComparison, error) {
	return facts(s.db.WithContext(ctx).Omit("page").Order("seq DESC").Limit(100), func(r *comparisonRow) record.FrozenComparison { return r.fact() })
}

// Comparison is one of them whole; ErrNotFound where there is none.
func (s *Store) Comparison(ctx context.Context, id string) (*record.FrozenComparison, error) {
	var row comparisonRow
	if err := s.db.WithContext(ctx).First(&row, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	out := row.fact()
	return &out, nil
}
