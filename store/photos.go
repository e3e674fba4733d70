package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"time"

	"talloak/core/record"
)

type photoRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	About       string
	Name        string
	MediaType   string
	TakenAt     time.Time
	SHA256      string `gorm:"column:sha256"`
	Content     []byte
}

func (photoRow) TableName() string         { return "photos" }
func (r *photoRow) key() (id, hash string) { return r.ID, r.RequestHash }

func (r *photoRow) fact() record.Photo {
	return record.Photo{ID: r.ID, ReviewID: r.ReviewID, About: r.About, Name: r.Name, MediaType: r.MediaType, TakenAt: r.TakenAt, SHA256: r.SHA256, Content: r.Content}
}

// AddPhoto writes a photograph of a review, under the fingerprint of its request.
func (s *Store) AddPhoto(ctx context.Context, p *record.Photo, request string) (again bool, err error) {
	sum := sha256.Sum256(p.Content)
	row := &photoRow{ID: p.ID, RequestHash: request, ReviewID: p.ReviewID, About: p.About, Name: p.Name, MediaType: p.MediaType, TakenAt: now(), SHA256: hex.EncodeToString(sum[:]), Content: p.Content}
	again, err = addOnce(ctx, s.db, row)
	*p = row.fact()
	return again, err
}

// Photos lists the photographs of a review in the order taken, without their content.
func (s *Store) Photos(ctx context.Context, reviewID string) ([]record.Photo, error) {
	return facts(s.db.WithContext(ctx).Omit("content").Where("review_id = ?", reviewID).Order("seq"), func(r *photoRow) record.Photo { return r.fact() })
}

// Photo is a photograph with its content.
func (s *Store) Photo(ctx context.Context, id string) (*record.Photo, error) {
	var row photoRow
	if err := s.db.WithContext(ctx).First(&row, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	out := row.fact()
	return &out, nil
}
