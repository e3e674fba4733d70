// Package storetest gives each test a PostgreSQL database of its own.
package storetest

import (
	"context"
	"database/sql"
	"fmt"
	"net/url"
	"os"
	"strings"
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
	name := "t_" + strings.ReplaceAll(uuid.NewString(), "-", "")
	db, err := sql.Open("pgx", admin)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := db.Exec("CREATE DATABASE " + name); err != nil {
		t.Fatalf("cannot make a database for the test: %v", err)
	}
	t.Cleanup(func() {
		if _, err := db.Exec(fmt.Sprintf("DROP DATABASE %s WITH (FORCE)", name)); err != nil {
			t.Error(err)
		}
		_ = db.Close()
	})
	u, err := url.Parse(admin)
	if err != nil {
		t.Fatal(err)
	}
	u.Path = "/" + name
	return u.String()
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
