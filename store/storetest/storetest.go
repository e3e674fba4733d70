// Package storetest gives each test a PostgreSQL database of its own.
package storetest

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"
	_ "github.com/jackc/pgx/v5/stdlib" // the driver of the administering connection

	"talloak/store"
)

// server is the environment variable that names the server for tests; `make
// test` starts one and sets it.
const server = "TALLOAK_TEST_DATABASE_URL"

// URL makes an empty database for this test and is its address. It is dropped
// when the test ends.
func URL(t testing.TB) string {
	t.Helper()
	admin := os.Getenv(server)
	if admin == "" {
		t.Skipf("%s is not set; run make test", server)
	}
	return database(t, admin, "")
}

// database makes one, empty or the copy of another.
func database(t testing.TB, admin, of string) string {
	t.Helper()
	name := newName()
	db, err := sql.Open("pgx", admin)
	if err != nil {
		t.Fatal(err)
	}
	create := "CREATE DATABASE " + name
	if of != "" {
		create += " TEMPLATE " + of
	}
	if _, err := db.Exec(create); err != nil {
		t.Fatalf("cannot make a database for the test: %v", err)
	}
	t.Cleanup(func() {
		if _, err := db.Exec(fmt.Sprintf("DROP DATABASE %s WITH (FORCE)", name)); err != nil {
			t.Error(err)
		}
		_ = db.Close()
	})
	return addressOf(t, admin, name)
}

func newName() string { return "t_" + strings.ReplaceAll(uuid.NewString(), "-", "") }

func addressOf(t testing.TB, admin, name string) string {
	t.Helper()
	u, err := url.Parse(admin)
	if err != nil {
		t.Fatal(err)
	}
	u.Path = "/" + name
	return u.String()
}

// filled are the databases that copies are made of, by what they hold; they go with the server of the tests.
var (
	filled  = map[string]string{}
	filling sync.Mutex
)

// CopyURL makes a copy for this test of a database that was filled once for all tests of the package, and is its
// address. It is dropped when the test ends.
func CopyURL(t testing.TB, what string, fill func(*store.Store) error) string {
	t.Helper()
	admin := os.Getenv(server)
	if admin == "" {
		t.Skipf("%s is not set; run make test", server)
	}
	filling.Lock()
	defer filling.Unlock()
	if filled[what] == "" {
		db, err := sql.Open("pgx", admin)
		if err != nil {
			t.Fatal(err)
		}
		defer func() { _ = db.Close() }()
		name := newName()
		if _, err := db.Exec("CREATE DATABASE " + name); err != nil {
			t.Fatal(err)
		}
		s, err := store.Open(context.Background(), addressOf(t, admin, name))
		if err != nil {
			t.Fatal(err)
		}
		if err := errors.Join(fill(s), s.Close()); err != nil {
			t.Fatal(err)
		}
		filled[what] = name
	}
	return database(t, admin, filled[what])
}

// Copy is a store on a copy of its own: see CopyURL.
func Copy(t testing.TB, what string, fill func(*store.Store) error) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), CopyURL(t, what, fill))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// Open is a store on a database of its own.
func Open(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), URL(t))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}
