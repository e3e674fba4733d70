package store

import (
	"context"
	"encoding/json"

	"talloak/core/bands"
	"talloak/core/record"
)

// Region is the ITU region of the publication; 0 until somebody said it.
func (s *Store) Region(ctx context.Context) (bands.Region, error) {
	var r bands.Region
	err := s.db.WithContext(ctx).Raw("SELECT COALESCE(MAX(itu_region), 0) FROM publication").Scan(&r).Error
	return r, translate(err)
}

// SetRegion writes the ITU region of the publication.
func (s *Store) SetRegion(ctx context.Context, r bands.Region) error {
	return translate(s.db.WithContext(ctx).Exec("INSERT INTO publication (itu_region) VALUES (?) ON CONFLICT (id) DO UPDATE SET itu_region = excluded.itu_region", r).Error)
}

// Publication is who publishes; nothing until somebody said it.
func (s *Store) Publication(ctx context.Context) (out record.Publication, err error) {
	var text []byte
	if err := s.db.WithContext(ctx).Raw("SELECT about FROM publication UNION ALL SELECT '{}' LIMIT 1").Row().Scan(&text); err != nil {
		return out, err
	}
	return out, json.Unmarshal(text, &out)
}

// SetPublication writes who publishes.
func (s *Store) SetPublication(ctx context.Context, p record.Publication) error {
	text, err := json.Marshal(p)
	if err != nil {
		return err
	}
	return translate(s.db.WithContext(ctx).Exec("INSERT INTO publication (about) VALUES (?) ON CONFLICT (id) DO UPDATE SET about = excluded.about", string(text)).Error)
}

// Salt is that of the shared password's hash.
func (s *Store) Salt(ctx context.Context) (salt []byte, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT salt FROM log_in").Row().Scan(&salt)
	return salt, err
}
