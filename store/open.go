package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"strings"
	"time"

	"github.com/jackc/pgx/v5/pgconn"
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
	s, err := connect(url)
	if err != nil {
		return nil, err
	}
	if err := s.migrate(ctx); err != nil {
		_ = s.Close()
		return nil, fmt.Errorf("cannot bring the database up to date: %w", err)
	}
	return s, nil
}

func connect(url string) (*Store, error) {
	db, err := gorm.Open(postgres.Open(url), &gorm.Config{
		TranslateError: true,
		Logger:         logger.Discard,
		NowFunc:        now,
	})
	if err != nil {
		return nil, fmt.Errorf("cannot reach PostgreSQL: %w", err)
	}
	if err := db.Use(away{}); err != nil {
		return nil, err
	}
	return &Store{db}, nil
}

// now is to the microsecond, as PostgreSQL keeps it.
func now() time.Time { return time.Now().UTC().Truncate(time.Microsecond) }

func (s *Store) migrate(ctx context.Context) error {
	p, err := s.provider()
	if err != nil {
		return err
	}
	if err := refuseNewer(ctx, p); err != nil {
		return err
	}
	_, err = p.Up(ctx) // the provider is not closed: that would close the pool
	return err
}

func (s *Store) provider() (*goose.Provider, error) {
	pool, err := s.db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(8)
	files, err := fs.Sub(migrationFiles, "migrations")
	if err != nil {
		return nil, err
	}
	locker, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, 60))
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectPostgres, pool, files, goose.WithSessionLocker(locker), goose.WithDisableGlobalRegistry(true))
}

// ErrNewer is a database that a newer program has been at.
var ErrNewer = errors.New("this database is of a newer Tall Oak: run that one, or restore a backup made before it")

// refuseNewer keeps an older program off what it does not know.
func refuseNewer(ctx context.Context, p *goose.Provider) error {
	has, err := p.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	sources := p.ListSources()
	if newest := sources[len(sources)-1].Version; has > newest {
		return ErrNewer
	}
	return nil
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
	err := s.db.WithContext(ctx).Model(&reviewRow{}).Limit(1).Count(&n).Error
	return n == 0, err
}

// The ways a read or write can be refused.
var (
	ErrNotFound = errors.New("there is no such thing")
	// ErrStale is a write on a version that is no longer the newest.
	ErrStale = errors.New("somebody changed this meanwhile")
	// ErrAway is a database that does not answer: a write may have been done or not.
	ErrAway = errors.New("the database does not answer")
	// ErrKeyReused is a second, different write under a key already used.
	ErrKeyReused = errors.New("this key was used for something else")
)

func translate(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}

// away turns every way in which a connection ends into ErrAway: what was under way may
// have been written or not.
type away struct{}

func (away) Name() string { return "away" }

func (away) Initialize(db *gorm.DB) error {
	mark := func(tx *gorm.DB) {
		if gone(tx.Error) {
			tx.Error = fmt.Errorf("%w: %w", ErrAway, tx.Error)
		}
	}
	c := db.Callback()
	return errors.Join(
		c.Create().Register("away:create", mark), c.Query().Register("away:query", mark), c.Update().Register("away:update", mark),
		c.Delete().Register("away:delete", mark), c.Row().Register("away:row", mark), c.Raw().Register("away:raw", mark),
	)
}

// gone tells whether an error is that the server, or the way to it, went away. Its codes
// are those of PostgreSQL's class 08 and of a server that shuts down or starts (57P01 to
// 57P03; PostgreSQL 15, appendix A).
func gone(err error) bool {
	var refused *pgconn.PgError
	if errors.As(err, &refused) {
		return strings.HasPrefix(refused.Code, "08") || strings.HasPrefix(refused.Code, "57P0")
	}
	var connect *pgconn.ConnectError
	var network net.Error
	return errors.As(err, &connect) || errors.As(err, &network) || errors.Is(err, driver.ErrBadConn) || errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) ||
		errors.Is(err, sql.ErrConnDone) || err != nil && err.Error() == "sql: database is closed" || errors.Is(err, net.ErrClosed) || pgconn.Timeout(err)
}
