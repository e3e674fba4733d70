package store

import (
	"context"
	"slices"
	"time"

	"talloak/core/record"
)

type outsideRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	Replaces    *string
	Box         string
	Watts       *float64
	RoomDB      *float64 `gorm:"column:room_db"`
	Source      string
	SaidOn      string
	WrittenAt   time.Time
}

func (outsideRow) TableName() string         { return "outside_figures" }
func (r *outsideRow) key() (id, hash string) { return r.ID, r.RequestHash }

func (r *outsideRow) fact() record.OutsideFigure {
	return record.OutsideFigure{ID: r.ID, ReviewID: r.ReviewID, Replaces: orEmpty(r.Replaces), Box: r.Box, Watts: r.Watts, RoomDB: r.RoomDB, Source: r.Source, SaidOn: r.SaidOn, WrittenAt: r.WrittenAt}
}

// AddOutside writes a figure of somebody else, under the fingerprint of its request; ErrNotFound where the review, or
// what it replaces, is not there.
func (s *Store) AddOutside(ctx context.Context, f *record.OutsideFigure, request string) (again bool, err error) {
	row := &outsideRow{
		ID: f.ID, RequestHash: request, ReviewID: f.ReviewID, Replaces: orNull(f.Replaces), Box: f.Box, Watts: f.Watts, RoomDB: f.RoomDB, Source: f.Source, SaidOn: f.SaidOn, WrittenAt: now(),
	}
	again, err = addOnce(ctx, s.db, row)
	*f = row.fact()
	return again, err
}

// Outside are the figures of somebody else on some reviews, in the order written, without what was replaced or taken
// out.
func (s *Store) Outside(ctx context.Context, reviewIDs []string) ([]record.OutsideFigure, error) {
	all, err := facts(s.db.WithContext(ctx).Where("review_id IN ?", reviewIDs).Order("seq"), func(r *outsideRow) record.OutsideFigure { return r.fact() })
	replaced := map[string]bool{}
	for _, f := range all {
		replaced[f.Replaces] = true
	}
	return slices.DeleteFunc(all, func(f record.OutsideFigure) bool { return replaced[f.ID] || f.Watts == nil && f.RoomDB == nil }), err
}
