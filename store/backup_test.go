package store_test

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"crypto/md5"
	"database/sql"
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/kinds"
	"talloak/demo"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
)

// dump is every row of every table but those of caches, as text.
func dump(t *testing.T, url string) string {
	t.Helper()
	db, err := sql.Open("pgx", url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = db.Close() }()
	names, err := db.Query("SELECT table_name FROM information_schema.tables WHERE table_schema = 'public' AND table_name NOT IN ('goose_db_version', 'rulings', 'log_in') ORDER BY 1")
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = names.Close() }()
	var out strings.Builder
	for names.Next() {
		var name, all string
		if err := names.Scan(&name); err != nil {
			t.Fatal(err)
		}
		if err := db.QueryRow("SELECT coalesce(string_agg(x::text, E'\n' ORDER BY x::text), '') FROM " + name + " x").Scan(&all); err != nil {
			t.Fatal(err)
		}
		fmt.Fprintf(&out, "%s %d %x\n", name, strings.Count(all, "\n"), md5.Sum([]byte(all)))
	}
	return out.String()
}

// TestBackupComesBack: everything that is kept goes out and into an empty database, equal
// row by row; what is written after it is numbered on; a database with something in it is
// left alone.
func TestBackupComesBack(t *testing.T) {
	from, to := storetest.URL(t), storetest.URL(t)
	s, err := store.Open(t.Context(), from)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	if err := demo.Load(t.Context(), app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs())); err != nil {
		t.Fatal(err)
	}
	if err := s.SetRegion(t.Context(), 1); err != nil {
		t.Fatal(err)
	}
	var file bytes.Buffer
	if err := s.Backup(t.Context(), &file); err != nil {
		t.Fatal(err)
	}
	whole := file.Bytes()
	if err := store.Restore(t.Context(), to, bytes.NewReader(whole[:len(whole)/2])); err == nil {
		t.Error("half a backup was restored")
	}
	if err := store.Restore(t.Context(), to, bytes.NewReader(whole)); err != nil {
		t.Fatal(err)
	}
	if a, b := dump(t, from), dump(t, to); a != b || strings.Count(a, "\n") != 20 {
		t.Errorf("before:\n%safter:\n%s", a, b)
	}
	for _, file := range [][]byte{whole, []byte("something else")} {
		if err := store.Restore(t.Context(), to, bytes.NewReader(file)); err == nil || len(file) > 20 && !errors.Is(err, store.ErrNotEmpty) {
			t.Errorf("into one that has something in it: %v", err)
		}
	}
	back, err := store.Open(t.Context(), to)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = back.Close() }()
	reviews, err := back.Reviews(t.Context(), nil, 1)
	if err != nil {
		t.Fatal(err)
	}
	if r, err := back.Region(t.Context()); err != nil || r != 1 {
		t.Errorf("region %d %v", r, err)
	}
	m := measurement(reviews[0].Review.ID)
	if _, err := back.AddMeasurement(t.Context(), m, nil, "a"); err != nil {
		t.Errorf("the next measurement: %v", err)
	}
	k := item("the next item")
	if err := back.PutItem(t.Context(), &k); err != nil {
		t.Error(err)
	}
	if kit, err := back.Kit(t.Context(), ""); err != nil || kit[len(kit)-1].Name != k.Name {
		t.Errorf("it does not stand behind the others: %v", err)
	}
}

// TestAnOlderBackupComesBack: one of before there were photographs or rule books goes into
// an empty database, which is up to date then.
func TestAnOlderBackupComesBack(t *testing.T) {
	var file bytes.Buffer
	packed := gzip.NewWriter(&file)
	archive := tar.NewWriter(packed)
	for name, content := range map[string]string{"talloak-backup-version": "5"} {
		if err := archive.WriteHeader(&tar.Header{Name: name, Mode: 0o600, Size: int64(len(content))}); err != nil {
			t.Fatal(err)
		}
		_, _ = archive.Write([]byte(content))
	}
	_, _ = archive.Close(), packed.Close()
	url := storetest.URL(t)
	if err := store.Restore(t.Context(), url, &file); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(t.Context(), url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	if at, err := s.BookWordsAt(t.Context()); err != nil || at != "0 0" {
		t.Errorf("%s %v", at, err)
	}
}

// TestNoSuperuserIsNeeded: a role without any right beside its own database opens an
// empty one, fills it and is refused what the facts refuse.
func TestNoSuperuserIsNeeded(t *testing.T) {
	url := storetest.URL(t)
	db, err := sql.Open("pgx", url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = db.Close() }()
	role := "r_" + strings.ReplaceAll(uuid.NewString(), "-", "")
	for _, q := range []string{"CREATE ROLE " + role + " LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE", "ALTER SCHEMA public OWNER TO " + role} {
		if _, err := db.Exec(q); err != nil {
			t.Fatal(err)
		}
	}
	t.Cleanup(func() {
		_, _ = db.Exec("DROP OWNED BY " + role + " CASCADE")
	})
	s, err := store.Open(t.Context(), strings.Replace(url, "talloak@", role+"@", 1))
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	r := review(t, s)
	if _, err := s.AddMeasurement(t.Context(), measurement(r.ID), nil, "a"); err != nil {
		t.Error(err)
	}
	if err := s.Exec(t.Context(), "DELETE FROM measurements"); err == nil {
		t.Error("a fact was deleted")
	}
}
