package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

//go:embed migrations/*.sql
var migrationFiles embed.FS

// Store is the database. It is safe for concurrent use.
type Store struct {
	db *gorm.DB
}

// Open connects to the database at url and brings it to the newest version.
// Two starts at once wait for each other.
func Open(ctx context.Context, url string) (*Store, error) {
	db, err := gorm.Open(postgres.Open(url), &gorm.Config{
		TranslateError: true,
		Logger:         logger.Discard,
		NowFunc:        now,
	})
	if err != nil {
		return nil, fmt.Errorf("cannot reach PostgreSQL: %w", err)
	}
	s := &Store{db}
	if err := s.migrate(ctx); err != nil {
		_ = s.Close()
		return nil, fmt.Errorf("cannot bring the database up to date: %w", err)
	}
	return s, nil
}

// now is to the microsecond, as PostgreSQL keeps it.
func now() time.Time { return time.Now().UTC().Truncate(time.Microsecond) }

func (s *Store) migrate(ctx context.Context) error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	pool.SetMaxOpenConns(8)
	files, err := fs.Sub(migrationFiles, "migrations")
	if err != nil {
		return err
	}
	locker, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, 60))
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectPostgres, pool, files, goose.WithSessionLocker(locker), goose.WithDisableGlobalRegistry(true))
	if err != nil {
		return err
	}
	_, err = p.Up(ctx) // the provider is not closed: that would close the pool
	return err
}

// Close ends all connections.
func (s *Store) Close() error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	return pool.Close()
}

// Empty tells whether no review was ever written.
func (s *Store) Empty(ctx context.Context) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&Review{}).Limit(1).Count(&n).Error
	return n == 0, err
}

// The ways a read or write can be refused.
var (
	ErrNotFound = errors.New("there is no such thing")
	// ErrStale is a write on a version that is no longer the newest.
	ErrStale = errors.New("somebody changed this meanwhile")
	// ErrKeyReused is a second, different write under a key already used.
	ErrKeyReused = errors.New("this key was used for something else")
)

func translate(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}
