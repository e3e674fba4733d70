package store

import (
	"context"

	"gorm.io/gorm"
)

// Reviews lists all reviews, the newest change first.
func (s *Store) Reviews(ctx context.Context) ([]Review, error) {
	var out []Review
	return out, s.db.WithContext(ctx).Order("updated_at DESC, id").Find(&out).Error
}

// Review is one review; ErrNotFound where there is none.
func (s *Store) Review(ctx context.Context, id string) (*Review, error) {
	var out Review
	if err := s.db.WithContext(ctx).First(&out, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	return &out, nil
}

// Facts are all measurements of a review with what was said of them.
type Facts struct {
	Readings  []Reading
	Sweeps    []Sweep
	Standings []Standing
}

// Traces says whether sweeps are read with their levels, which are long.
type Traces bool

// The two ways to read sweeps.
const (
	WithTraces    Traces = true
	WithoutTraces Traces = false
)

// Facts reads the measurements of a review in the order taken. Sweeps come
// without the text they were read from.
func (s *Store) Facts(ctx context.Context, reviewID string, traces Traces) (*Facts, error) {
	var out Facts
	db := s.db.WithContext(ctx).Where("review_id = ?", reviewID).Order("seq").Session(&gorm.Session{})
	if err := db.Find(&out.Readings).Error; err != nil {
		return nil, err
	}
	left := []string{"original"}
	if traces == WithoutTraces {
		left = append(left, "levels")
	}
	if err := db.Omit(left...).Find(&out.Sweeps).Error; err != nil {
		return nil, err
	}
	return &out, db.Find(&out.Standings).Error
}

// SweepOriginal is the text a sweep was read from, and its name.
func (s *Store) SweepOriginal(ctx context.Context, id string) (name string, text []byte, err error) {
	var out Sweep
	if err := s.db.WithContext(ctx).Select("name", "original").First(&out, "id = ?", id).Error; err != nil {
		return "", nil, translate(err)
	}
	return out.Name, out.Original, nil
}

// Editions lists the editions of a review, oldest first, without their contents.
func (s *Store) Editions(ctx context.Context, reviewID string) ([]Edition, error) {
	var out []Edition
	return out, s.db.WithContext(ctx).Omit("document", "page").Where("review_id = ?", reviewID).Order("number").Find(&out).Error
}

// Edition is one edition whole; ErrNotFound where there is none.
func (s *Store) Edition(ctx context.Context, id string) (*Edition, error) {
	var out Edition
	if err := s.db.WithContext(ctx).First(&out, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	return &out, nil
}
