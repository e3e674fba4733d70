package store

import (
	"archive/tar"
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
)

// tables are what a backup holds, each behind those it names. Rulings are left out: they
// are worked out anew.
var tables = []string{"reviews", "kit", "paths", "stacks", "baselines", "measurements", "files", "older_files", "standings", "editions", "photos", "rule_books", "publication"}

// sequences are set behind the last number that came back.
var sequences = map[string]string{"stacks": "seq", "baselines": "seq", "measurements": "seq", "standings": "seq", "photos": "seq", "rule_books": "seq"}

// versionFile is the first file of a backup: the version of the database it is of.
const versionFile = "talloak-backup-version"

// Backup writes everything that is kept, as it stands at one moment, as a packed archive
// with a file for each table in PostgreSQL's own text form. Others may go on writing.
func (s *Store) Backup(ctx context.Context, w io.Writer) error {
	p, err := s.provider()
	if err != nil {
		return err
	}
	version, err := p.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	packed := gzip.NewWriter(w)
	archive := tar.NewWriter(packed)
	add := func(name string, content io.Reader, size int64) error {
		if err := archive.WriteHeader(&tar.Header{Name: name, Mode: 0o600, Size: size}); err != nil {
			return err
		}
		_, err := io.Copy(archive, content)
		return err
	}
	if err := add(versionFile, strings.NewReader(strconv.FormatInt(version, 10)), int64(len(strconv.FormatInt(version, 10)))); err != nil {
		return err
	}
	err = s.onConnection(ctx, func(c *pgx.Conn) error {
		tx, err := c.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
		if err != nil {
			return err
		}
		defer func() { _ = tx.Rollback(ctx) }()
		for _, table := range tables {
			if err := backupTable(ctx, c, table, add); err != nil {
				return fmt.Errorf("%s: %w", table, err)
			}
		}
		return nil
	})
	return errors.Join(err, archive.Close(), packed.Close())
}

// backupTable goes through a file of its own, since an archive wants to know the size of
// what it holds first.
func backupTable(ctx context.Context, c *pgx.Conn, table string, add func(string, io.Reader, int64) error) error {
	spool, err := os.CreateTemp("", "talloak-backup-*")
	if err != nil {
		return err
	}
	defer func() { _ = spool.Close(); _ = os.Remove(spool.Name()) }()
	if _, err := c.PgConn().CopyTo(ctx, spool, "COPY "+table+" TO STDOUT"); err != nil {
		return err
	}
	size, err := spool.Seek(0, io.SeekEnd)
	if err != nil {
		return err
	}
	if _, err := spool.Seek(0, io.SeekStart); err != nil {
		return err
	}
	return add(table, spool, size)
}

// ErrNotEmpty is a restore into a database that has something in it.
var ErrNotEmpty = errors.New("this database is not empty: a backup is restored into an empty one, so that nothing is lost")

// Restore reads a backup into the empty database at url, all of it or nothing, and brings
// it up to date where the backup is older.
func Restore(ctx context.Context, url string, r io.Reader) error {
	packed, err := gzip.NewReader(r)
	if err != nil {
		return fmt.Errorf("this is no backup of Tall Oak: %w", err)
	}
	archive := tar.NewReader(packed)
	first, err := archive.Next()
	if err != nil || first.Name != versionFile {
		return errors.New("this is no backup of Tall Oak")
	}
	text, err := io.ReadAll(io.LimitReader(archive, 20))
	if err != nil {
		return err
	}
	version, err := strconv.ParseInt(string(text), 10, 64)
	if err != nil {
		return errors.New("this is no backup of Tall Oak")
	}
	s, err := connect(url)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }()
	p, err := s.provider()
	if err != nil {
		return err
	}
	if sources := p.ListSources(); version > sources[len(sources)-1].Version {
		return ErrNewer
	}
	if has, err := p.GetDBVersion(ctx); err != nil || has > version {
		return errors.Join(err, ErrNotEmpty)
	}
	if _, err := p.UpTo(ctx, version); err != nil {
		return err
	}
	if err := s.onConnection(ctx, func(c *pgx.Conn) error { return restoreTables(ctx, c, archive) }); err != nil {
		return err
	}
	return s.migrate(ctx)
}

func restoreTables(ctx context.Context, c *pgx.Conn, archive *tar.Reader) error {
	tx, err := c.Begin(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback(ctx) }()
	there := map[string]bool{} // an older backup knows fewer tables
	for _, table := range tables {
		var is bool
		if err := tx.QueryRow(ctx, "SELECT to_regclass($1) IS NOT NULL", table).Scan(&is); err != nil {
			return err
		}
		if there[table] = is; !is {
			continue
		}
		var n int
		if err := tx.QueryRow(ctx, "SELECT count(*) FROM (SELECT 1 FROM "+table+" LIMIT 1) x").Scan(&n); err != nil {
			return err
		}
		if n > 0 {
			return ErrNotEmpty
		}
	}
	for {
		file, err := archive.Next()
		if err == io.EOF {
			break
		}
		if err != nil {
			return fmt.Errorf("the backup is cut short: %w", err)
		}
		if !there[file.Name] {
			return fmt.Errorf("the backup holds %q, which is not known here", file.Name)
		}
		if _, err := c.PgConn().CopyFrom(ctx, archive, "COPY "+file.Name+" FROM STDIN"); err != nil {
			return fmt.Errorf("%s: %w", file.Name, err)
		}
	}
	for table, column := range sequences {
		if !there[table] {
			continue
		}
		q := fmt.Sprintf("SELECT setval(pg_get_serial_sequence('%[1]s', '%[2]s'), greatest(1, (SELECT coalesce(max(%[2]s), 0) FROM %[1]s)))", table, column)
		if _, err := tx.Exec(ctx, q); err != nil {
			return err
		}
	}
	if _, err := tx.Exec(ctx, "SELECT setval('bench_order', greatest(1000, (SELECT coalesce(max(position), 0) FROM (SELECT position FROM kit UNION ALL SELECT position FROM paths) x)))"); err != nil {
		return err
	}
	return tx.Commit(ctx)
}

// onConnection runs something on one connection of the pool.
func (s *Store) onConnection(ctx context.Context, run func(*pgx.Conn) error) error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	conn, err := pool.Conn(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close() }()
	return conn.Raw(func(driver any) error { return run(driver.(*stdlib.Conn).Conn()) })
}
