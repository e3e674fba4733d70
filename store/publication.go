package store

import (
	"context"

	"talloak/core/bands"
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

// Salt is that of the shared password's hash.
func (s *Store) Salt(ctx context.Context) (salt []byte, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT salt FROM log_in").Row().Scan(&salt)
	return salt, err
}
