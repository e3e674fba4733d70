package store

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"os"
	"strconv"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
)

// tables are what a backup holds, each behind those it names. Rulings are left out: they
// are worked out anew.
var tables = []string{"reviews", "kit", "paths", "stacks", "baselines", "measurements", "files", "older_files", "standings", "editions", "photos", "letters", "outside_figures", "comparisons", "rule_books", "publication", "sockets", "drivers", "practice", "chain"}

// sequences are set behind the last number that came back.
var sequences = map[string]string{"stacks": "seq", "baselines": "seq", "measurements": "seq", "standings": "seq", "photos": "seq", "rule_books": "seq"}

const (
	// versionFile is the first file of a backup: the version of the database it is of.
	versionFile = "talloak-backup-version"
	// manifestFile is the last one: what the backup holds.
	manifestFile = "talloak-backup-manifest"
	// manifestFrom is the version from which on a backup has a manifest. A program before it
	// reads none, and must be able to read a backup of its own version.
	manifestFrom = 10
)

// Manifest says what a backup holds: every table with its rows and the sum of its file, and
// the head of the chain of facts.
type Manifest struct {
	Version int64       `json:"version"`
	MadeAt  time.Time   `json:"made_at"`
	Tables  []TableFile `json:"tables"`
	Head    string      `json:"head"`
}

// TableFile is a table in a backup.
type TableFile struct {
	Name   string `json:"name"`
	Rows   int64  `json:"rows"`
	SHA256 string `json:"sha256"`
}

// Backup writes everything that is kept, as it stands at one moment, as a packed archive
// with a file for each table in PostgreSQL's own text form, and its manifest. Others may go
// on writing; nothing is written to the database.
func (s *Store) Backup(ctx context.Context, w io.Writer) error {
	packed := gzip.NewWriter(w)
	archive := tar.NewWriter(packed)
	add := func(name string, content io.Reader, size int64) error {
		if err := archive.WriteHeader(&tar.Header{Name: name, Mode: 0o600, Size: size}); err != nil {
			return err
		}
		_, err := io.Copy(archive, content)
		return err
	}
	err := s.onConnection(ctx, func(c *pgx.Conn) error {
		tx, err := c.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
		if err != nil {
			return err
		}
		defer func() { _ = tx.Rollback(ctx) }()
		if _, err := tx.Exec(ctx, "SET LOCAL statement_timeout = 0"); err != nil {
			return err
		}
		made := Manifest{MadeAt: now()}
		if err := tx.QueryRow(ctx, databaseVersion).Scan(&made.Version); err != nil {
			return err
		}
		version := strconv.FormatInt(made.Version, 10)
		if err := add(versionFile, bytes.NewReader([]byte(version)), int64(len(version))); err != nil {
			return err
		}
		for _, table := range tables {
			there, err := isThere(ctx, tx, table)
			if err != nil {
				return err
			}
			if !there { // an older version knows fewer tables
				continue
			}
			file, err := backupTable(ctx, c, table, add)
			if err != nil {
				return fmt.Errorf("%s: %w", table, err)
			}
			made.Tables = append(made.Tables, file)
		}
		if made.Version < manifestFrom {
			return nil
		}
		if made.Head, err = headOf(ctx, tx); err != nil {
			return err
		}
		text, err := json.MarshalIndent(made, "", " ")
		if err != nil {
			return err
		}
		return add(manifestFile, bytes.NewReader(text), int64(len(text)))
	})
	return errors.Join(err, archive.Close(), packed.Close())
}

func isThere(ctx context.Context, tx pgx.Tx, table string) (is bool, err error) {
	err = tx.QueryRow(ctx, "SELECT to_regclass($1) IS NOT NULL", table).Scan(&is)
	return is, err
}

func headOf(ctx context.Context, tx pgx.Tx) (string, error) {
	var l linkRow
	err := tx.QueryRow(ctx, "SELECT seq, sum FROM chain ORDER BY seq DESC LIMIT 1").Scan(&l.Seq, &l.Sum)
	if errors.Is(err, pgx.ErrNoRows) {
		l.Seq, err = -1, nil
	}
	return l.String(), err
}

// backupTable goes through a file of its own, since an archive wants to know the size of
// what it holds first.
func backupTable(ctx context.Context, c *pgx.Conn, table string, add func(string, io.Reader, int64) error) (TableFile, error) {
	out := TableFile{Name: table}
	spool, err := os.CreateTemp("", "talloak-backup-*")
	if err != nil {
		return out, err
	}
	defer func() { _ = spool.Close(); _ = os.Remove(spool.Name()) }()
	sum := sha256.New()
	copied, err := c.PgConn().CopyTo(ctx, io.MultiWriter(spool, sum), "COPY "+table+" TO STDOUT")
	if err != nil {
		return out, err
	}
	out.Rows, out.SHA256 = copied.RowsAffected(), hex.EncodeToString(sum.Sum(nil))
	size, err := spool.Seek(0, io.SeekEnd)
	if err != nil {
		return out, err
	}
	if _, err := spool.Seek(0, io.SeekStart); err != nil {
		return out, err
	}
	return out, add(table, spool, size)
}

// ErrNotEmpty is a restore into a database that has something in it.
var ErrNotEmpty = errors.New("this database is not empty: a backup is restored into an empty one, so that nothing is lost")

// ErrNoBackup is a file that is something else.
var ErrNoBackup = errors.New("this is no backup of Tall Oak")

// archive is a backup being read.
type archive struct {
	*tar.Reader
	version int64
	sum     hash.Hash // of the file at hand
}

func openArchive(r io.Reader) (*archive, error) {
	packed, err := gzip.NewReader(r)
	if err != nil {
		return nil, fmt.Errorf("%w: %w", ErrNoBackup, err)
	}
	out := &archive{Reader: tar.NewReader(packed)}
	if first, err := out.Next(); err != nil || first.Name != versionFile {
		return nil, ErrNoBackup
	}
	text, err := io.ReadAll(io.LimitReader(out, 20))
	if err != nil {
		return nil, err
	}
	if out.version, err = strconv.ParseInt(string(text), 10, 64); err != nil {
		return nil, ErrNoBackup
	}
	return out, nil
}

// files hands every table to read, and holds what came to the manifest: what is missing or
// was altered is an error. The manifest is nil of a version that had none.
func (a *archive) files(read func(table string, content io.Reader) (rows int64, err error)) (*Manifest, error) {
	var made *Manifest
	var came []TableFile
	for {
		file, err := a.Next()
		if err == io.EOF {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("the backup is cut short: %w", err)
		}
		if made != nil {
			return nil, fmt.Errorf("the backup holds %q behind its manifest: it was altered", file.Name)
		}
		if file.Name == manifestFile {
			if err := json.NewDecoder(io.LimitReader(a, 1<<20)).Decode(&made); err != nil {
				return nil, fmt.Errorf("the manifest of the backup cannot be read: %w", err)
			}
			continue
		}
		a.sum = sha256.New()
		content := io.TeeReader(a, a.sum)
		rows, err := read(file.Name, content)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", file.Name, err)
		}
		if _, err := io.Copy(io.Discard, content); err != nil {
			return nil, fmt.Errorf("the backup is cut short: %w", err)
		}
		came = append(came, TableFile{file.Name, rows, hex.EncodeToString(a.sum.Sum(nil))})
	}
	if made == nil {
		if a.version >= manifestFrom {
			return nil, errors.New("the backup has no manifest: it is cut short or was altered")
		}
		return nil, nil
	}
	return made, made.holds(came, a.version)
}

// holds refuses what came where it is not what the manifest says.
func (m *Manifest) holds(came []TableFile, version int64) error {
	if m.Version != version {
		return fmt.Errorf("the backup says that it is of version %d, its manifest of %d: it was altered", version, m.Version)
	}
	if len(came) != len(m.Tables) {
		return fmt.Errorf("the backup holds %d tables, its manifest says %d: it is incomplete or was altered", len(came), len(m.Tables))
	}
	for i, want := range m.Tables {
		if came[i] != want {
			return fmt.Errorf("%s of the backup is not what its manifest says: %d rows of %d; it was altered", want.Name, came[i].Rows, want.Rows)
		}
	}
	return nil
}

// CheckBackup reads a backup whole without restoring it, and says what it holds; nil of a
// version that had no manifest.
func CheckBackup(r io.Reader) (*Manifest, error) {
	a, err := openArchive(r)
	if err != nil {
		return nil, err
	}
	return a.files(func(_ string, content io.Reader) (int64, error) {
		var lines lineCounter
		_, err := io.Copy(&lines, content)
		return int64(lines), err // a row is a line
	})
}

type lineCounter int64

func (n *lineCounter) Write(p []byte) (int, error) {
	*n += lineCounter(bytes.Count(p, []byte{'\n'}))
	return len(p), nil
}

// Restore reads a backup into the empty database at url, all of it or nothing, and brings
// it up to date where the backup is older. What is incomplete or altered is refused.
func Restore(ctx context.Context, url string, r io.Reader) error {
	a, err := openArchive(r)
	if err != nil {
		return err
	}
	s, err := connect(url, nil)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }()
	p, err := s.provider()
	if err != nil {
		return err
	}
	if sources := p.ListSources(); a.version > sources[len(sources)-1].Version {
		return ErrNewer
	}
	if has, err := p.GetDBVersion(ctx); err != nil || has > a.version {
		return errors.Join(err, ErrNotEmpty)
	}
	if _, err := p.UpTo(ctx, a.version); err != nil {
		return err
	}
	if err := s.onConnection(ctx, func(c *pgx.Conn) error { return restoreTables(ctx, c, a) }); err != nil {
		return err
	}
	return errors.Join(s.migrate(ctx), s.chainOlder(ctx))
}

func restoreTables(ctx context.Context, c *pgx.Conn, a *archive) error {
	tx, err := c.Begin(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback(ctx) }()
	if _, err := tx.Exec(ctx, "SET LOCAL statement_timeout = 0"); err != nil {
		return err
	}
	there := map[string]bool{} // an older backup knows fewer tables
	for _, table := range tables {
		if there[table], err = isThere(ctx, tx, table); err != nil {
			return err
		}
		if !there[table] {
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
	came := map[string]bool{}
	made, err := a.files(func(table string, content io.Reader) (int64, error) {
		if !there[table] {
			return 0, errors.New("this is not known here")
		}
		came[table] = true
		copied, err := c.PgConn().CopyFrom(ctx, content, "COPY "+table+" FROM STDIN")
		return copied.RowsAffected(), err
	})
	if err != nil {
		return err
	}
	if made != nil {
		if head, err := headOf(ctx, tx); err != nil || head != made.Head {
			return errors.Join(err, fmt.Errorf("the chain of facts of the backup ends at %s, its manifest says %s: it was altered", head, made.Head))
		}
		for table, is := range there {
			if is && !came[table] {
				return fmt.Errorf("the backup lacks %s: it is incomplete", table)
			}
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
