package store_test

import (
	"database/sql"
	"os"
	"testing"

	"github.com/pressly/goose/v3"

	"talloak/store"
	"talloak/store/storetest"
)

// TestOlderBenchIsBroughtUp: a bench written before paths had settings, sockets
// and versions opens as it was, and its readings' copies still compile.
func TestOlderBenchIsBroughtUp(t *testing.T) {
	url := storetest.URL(t)
	db, err := sql.Open("pgx", url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = db.Close() }()
	p, err := goose.NewProvider(goose.DialectPostgres, db, os.DirFS("migrations"), goose.WithDisableGlobalRegistry(true))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := p.UpTo(t.Context(), 1); err != nil {
		t.Fatal(err)
	}
	const pad, load, kept = "11111111-1111-1111-1111-111111111111", "22222222-2222-2222-2222-222222222222", "33333333-3333-3333-3333-333333333333"
	for _, q := range []string{
		`INSERT INTO kit VALUES ('` + pad + `', 0, 'pad', '{"element":{"kind":"attenuator","loss":{"flat_db":40},"max_w":25}}', NULL)`,
		`INSERT INTO kit VALUES ('` + load + `', 1, 'load', '{"element":{"kind":"load","max_w":50}}', NULL)`,
		`INSERT INTO paths VALUES ('` + kept + `', 0, 'into the load', 'power', '["` + pad + `","` + load + `","` + pad + `"]', 40)`,
		`INSERT INTO paths VALUES ('44444444-4444-4444-4444-444444444444', 1, 'empty', 'power', '[]', 0)`,
	} {
		if _, err := db.ExecContext(t.Context(), q); err != nil {
			t.Fatal(err)
		}
	}
	s, err := store.Open(t.Context(), url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	got, err := s.Through(t.Context(), kept)
	if err != nil || len(got.Kit) != 3 || got.Kit[0].Name != "pad" || got.Kit[1].Name != "load" || got.AppliedOffsetDB != 40 {
		t.Fatalf("%+v %v", got, err)
	}
	if kind := got.Kit[0].Spec.KindOf(); kind != "attenuator" {
		t.Errorf("an item without a kind is read as %q", kind)
	}
	items, err := s.Kit(t.Context())
	if err != nil || items[0].Version != 1 {
		t.Errorf("%+v %v", items, err)
	}
	paths, err := s.Paths(t.Context())
	if err != nil || len(paths) != 2 || len(paths[1].Parts) != 0 {
		t.Errorf("%+v %v", paths, err)
	}
	// A new item stands behind the old ones; and there is a way back.
	fresh := item("fresh")
	if err := s.PutItem(t.Context(), &fresh); err != nil {
		t.Fatal(err)
	}
	if items, _ = s.Kit(t.Context()); items[2].Name != "fresh" {
		t.Errorf("%+v", items)
	}
	if _, err := p.DownTo(t.Context(), 1); err != nil {
		t.Fatal(err)
	}
	ids := ""
	if err := db.QueryRowContext(t.Context(), "SELECT kit_ids ->> 1 FROM paths WHERE position = 0").Scan(&ids); err != nil || ids != load {
		t.Errorf("%q %v", ids, err)
	}
}
