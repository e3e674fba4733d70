package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
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
	db     *gorm.DB
	config *pgx.ConnConfig
}

// Open connects to the database at url and brings it to the newest version.
// Two starts at once wait for each other.
func Open(ctx context.Context, url string) (*Store, error) { return OpenKeeping(ctx, url, nil) }

// OpenKeeping is Open; where the database has to be brought to a newer version, keep is called
// before with the version it has, to make a backup that the older program can restore.
func OpenKeeping(ctx context.Context, url string, keep func(s *Store, from, to int64) error) (*Store, error) {
	if err := bringUp(ctx, url, keep); err != nil {
		return nil, err
	}
	return connect(url, patience)
}

// bringUp works without bounds of time: what it does may take long, and is done once.
func bringUp(ctx context.Context, url string, keep func(s *Store, from, to int64) error) error {
	s, err := connect(url, nil)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }()
	from, to, err := s.versions(ctx)
	if err == nil && from > 0 && from < to && keep != nil {
		err = keep(s, from, to)
	}
	if err != nil {
		return err
	}
	if err := errors.Join(s.migrate(ctx), s.chainOlder(ctx)); err != nil {
		return fmt.Errorf("cannot bring the database up to date: %w", err)
	}
	return nil
}

// Look connects to the database at url as it is: nothing is brought up to date.
func Look(ctx context.Context, url string) (*Store, error) {
	s, err := connect(url, nil)
	if err != nil {
		return nil, err
	}
	from, _, err := s.versions(ctx)
	if err == nil && from == 0 {
		err = errors.New("this database is empty: Tall Oak was never started on it")
	}
	if err != nil {
		_ = s.Close()
		return nil, err
	}
	return s, nil
}

// databaseVersion asks a database of any version for it.
const databaseVersion = "SELECT coalesce(max(version_id), 0) FROM goose_db_version WHERE is_applied"

// versions are that of the database, 0 where it is empty, and the newest known here; ErrNewer
// where the database is of a newer one. Nothing is written.
func (s *Store) versions(ctx context.Context) (has, newest int64, err error) {
	p, err := s.provider()
	if err != nil {
		return 0, 0, err
	}
	sources := p.ListSources()
	newest = sources[len(sources)-1].Version
	var begun bool
	db := s.db.WithContext(ctx)
	if err := db.Raw("SELECT to_regclass('goose_db_version') IS NOT NULL").Scan(&begun).Error; err != nil || !begun {
		return 0, newest, err
	}
	if err := db.Raw(databaseVersion).Scan(&has).Error; err != nil {
		return 0, newest, err
	}
	if has > newest {
		return has, newest, ErrNewer
	}
	return has, newest, nil
}

// patience is how long a statement may run, wait for a lock, or leave a transaction open in
// the application: what takes longer is told, and done again.
var patience = map[string]string{"statement_timeout": "60s", "lock_timeout": "10s", "idle_in_transaction_session_timeout": "120s"}

// connect connects to the database at url; bounds are settings of its sessions where the url
// says nothing else.
func connect(url string, bounds map[string]string) (*Store, error) {
	cfg, err := pgx.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("cannot reach PostgreSQL: %w", err)
	}
	for setting, value := range bounds {
		if _, told := cfg.RuntimeParams[setting]; !told {
			cfg.RuntimeParams[setting] = value
		}
	}
	pool := stdlib.OpenDB(*cfg)
	pool.SetMaxOpenConns(8)
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: pool}), &gorm.Config{TranslateError: true, Logger: logger.Discard, NowFunc: now})
	if err != nil {
		return nil, fmt.Errorf("cannot reach PostgreSQL: %w", errors.Join(err, pool.Close()))
	}
	return &Store{db, cfg}, nil
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
	// ErrKeyReused is a second, different write under a key already used.
	ErrKeyReused = errors.New("this key was used for something else")
)

func translate(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}
