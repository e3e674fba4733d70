package store

import (
	"context"
	"encoding/json"
	"time"

	"gorm.io/gorm/clause"

	"talloak/core/record"
)

type socketRow struct {
	KitID   string `gorm:"primaryKey"`
	Address string
	Driver  string
}

func (socketRow) TableName() string { return "sockets" }

// Sockets are where the items of the bench listen, by their ids.
func (s *Store) Sockets(ctx context.Context) (map[string]record.Socket, error) {
	var rows []socketRow
	err := s.db.WithContext(ctx).Find(&rows).Error
	out := map[string]record.Socket{}
	for _, r := range rows {
		out[r.KitID] = record.Socket(r)
	}
	return out, translate(err)
}

// PutSocket writes where an item listens; an empty address takes it away. ErrNotFound where there is
// no such item.
func (s *Store) PutSocket(ctx context.Context, k record.Socket) error {
	if k.Address == "" {
		return translate(s.db.WithContext(ctx).Delete(&socketRow{KitID: k.KitID}).Error)
	}
	row := socketRow(k)
	return translate(s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error)
}

type driverRow struct {
	ID   string `gorm:"primaryKey"`
	Body []byte `gorm:"type:jsonb"`
}

func (driverRow) TableName() string { return "drivers" }

// Drivers are the user's own, by their ids in order.
func (s *Store) Drivers(ctx context.Context) ([]record.OwnDriver, error) {
	return facts(s.db.WithContext(ctx).Order("id"), func(r *driverRow) record.OwnDriver { return record.OwnDriver{ID: r.ID, Body: r.Body} })
}

// PutDriver writes a driver; an empty body takes it away.
func (s *Store) PutDriver(ctx context.Context, d record.OwnDriver) error {
	if len(d.Body) == 0 {
		return translate(s.db.WithContext(ctx).Delete(&driverRow{ID: d.ID}).Error)
	}
	return translate(s.db.WithContext(ctx).Exec("INSERT INTO drivers (id, body) VALUES (?, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body", d.ID, string(d.Body)).Error)
}

type practiceRow struct {
	ReviewID string `gorm:"primaryKey"`
	Scenario string
	Seed     int64
	BegunAt  time.Time
	Kept     json.RawMessage `gorm:"type:jsonb"`
}

func (practiceRow) TableName() string { return "practice" }

func (r *practiceRow) fact() record.Practice {
	return record.Practice{ReviewID: r.ReviewID, Scenario: r.Scenario, Seed: uint64(r.Seed), BegunAt: r.BegunAt, Kept: r.Kept}
}

// Practice is what is kept of a practice review; ErrNotFound where it is none.
func (s *Store) Practice(ctx context.Context, reviewID string) (*record.Practice, error) {
	var row practiceRow
	if err := s.db.WithContext(ctx).First(&row, "review_id = ?", reviewID).Error; err != nil {
		return nil, translate(err)
	}
	out := row.fact()
	return &out, nil
}

// PutPractice writes what is kept of a practice review.
func (s *Store) PutPractice(ctx context.Context, p *record.Practice) error {
	if p.BegunAt.IsZero() {
		p.BegunAt = now()
	}
	row := &practiceRow{p.ReviewID, p.Scenario, int64(p.Seed), p.BegunAt, p.Kept}
	return translate(s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(row).Error)
}

// Practices are all practice reviews, the newest first.
func (s *Store) Practices(ctx context.Context) ([]record.Practice, error) {
	return facts(s.db.WithContext(ctx).Order("begun_at DESC, review_id"), (*practiceRow).fact)
}
