package store_test

import (
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"os"
	"strings"
	"testing"

	"github.com/pressly/goose/v3"

	"talloak/store"
	"talloak/store/storetest"
)

// TestOlderBenchIsBroughtUp: a bench written before paths had settings, sockets
// and versions opens as it was, and its readings' copies still compile.
func TestOlderBenchIsBroughtUp(t *testing.T) {
	url := storetest.URL(t)
	db, _ := upTo(t, url, 1)
	const pad, load, kept = "11111111-1111-1111-1111-111111111111", "22222222-2222-2222-2222-222222222222", "33333333-3333-3333-3333-333333333333"
	for _, q := range []string{
		`INSERT INTO kit VALUES ('` + pad + `', 0, 'pad', '{"element":{"kind":"attenuator","loss":{"flat_db":40},"max_w":25}}', NULL)`,
		`INSERT INTO kit VALUES ('` + load + `', 1, 'load', '{"element":{"kind":"load","max_w":50,"coupling_db":20}}', NULL)`,
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
	got, _, err := s.Through(t.Context(), kept)
	if err != nil || len(got.Kit) != 3 || got.Kit[0].Name != "pad" || got.Kit[1].Name != "load" || got.AppliedOffsetDB != 40 {
		t.Fatalf("%+v %v", got, err)
	}
	if kind := got.Kit[0].Spec.KindOf(); kind != "attenuator" {
		t.Errorf("an item without a kind is read as %q", kind)
	}
	items, err := s.Kit(t.Context(), "")
	if err != nil || items[0].Version != 1 || items[0].Spec.Check() != nil {
		t.Errorf("%+v %v", items, err)
	}
	if e := items[1].Spec; e.Check() != nil || *e.Element.MaxW != 50 {
		t.Errorf("a load that was kept with a coupling: %+v, %v", e, e.Check())
	}
	paths, err := s.Paths(t.Context(), "")
	if err != nil || len(paths) != 2 || len(paths[1].Parts) != 0 {
		t.Errorf("%+v %v", paths, err)
	}
	// A new item stands behind the old ones.
	fresh := item("fresh")
	if err := s.PutItem(t.Context(), &fresh); err != nil {
		t.Fatal(err)
	}
	if items, _ = s.Kit(t.Context(), ""); items[2].Name != "fresh" {
		t.Errorf("%+v", items)
	}
}

// TestOlderMeasurementsAreBroughtUp: readings and sweeps of the tables they had before
// come over in the order taken, with what was said of them, their files and editions;
// and there is no way back that would lose something.
func TestOlderMeasurementsAreBroughtUp(t *testing.T) {
	url := storetest.URL(t)
	db, p := upTo(t, url, 3)
	const r, reading, sweep, edition = "11111111-1111-1111-1111-111111111111", "22222222-2222-2222-2222-222222222222", "33333333-3333-3333-3333-333333333333", "44444444-4444-4444-4444-444444444444"
	for _, q := range []string{
		`INSERT INTO reviews VALUES ('` + r + `', 'a', 1, now(), now(), '{"model":"T1"}', '[]', '{"rule_book":"us-amateur"}')`,
		`INSERT INTO sweeps (id, request_hash, review_id, taken_at, band, level, mode, frequency_hz, name, detector, hold, modulated, through, start_hz, stop_hz, rbw_hz, points, taken, levels, original)
			VALUES ('` + sweep + `', 's', '` + r + `', '2026-11-02', '2m', 'High', 'FM', 146e6, 'wide', 'peak', 'max', '', '{"name":"pads","kit":[]}', 1, 2, 3, 4, 'MHz, dBm', '\x0102', 'as it came')`,
		`INSERT INTO readings (id, request_hash, review_id, taken_at, band, level, mode, frequency_hz, text, through)
			VALUES ('` + reading + `', 'r', '` + r + `', '2026-11-01', '2m', 'Low', 'AM', 145e6, '4.9 "h"', '{"name":"meter","kit":[]}')`,
		`INSERT INTO standings (id, request_hash, review_id, target, target_id, standing, reason, said_at) VALUES ('` + edition + `', 'a', '` + r + `', 'sweep', '` + sweep + `', 'struck', 'x', now())`,
		`INSERT INTO editions VALUES ('` + edition + `', 'a', '` + r + `', 1, now(), 't', 'h', '00', '{}', '<p>')`,
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
	facts, err := s.Facts(t.Context(), r, store.WithTraces)
	if err != nil || len(facts.Measurements) != 2 || len(facts.Standings) != 1 {
		t.Fatalf("%+v %v", facts, err)
	}
	first, second := facts.Measurements[0], facts.Measurements[1]
	if first.ID != reading || first.Kind != "power" || first.Level != "Low" || first.Mode != "AM" || first.Through.Name != "meter" || string(first.Payload) != `{"text": "4.9 \"h\""}` {
		t.Errorf("%+v %s", first, first.Payload)
	}
	if second.ID != sweep || second.Kind != "emissions" || second.FrequencyHz != 146e6 || len(second.Blob) != 2 || !strings.Contains(string(second.Payload), `"rbw_hz": 3`) {
		t.Errorf("%+v %s", second, second.Payload)
	}
	if f, err := s.File(t.Context(), sweep); err != nil || f.Name != "wide.csv" || string(f.Content) != "as it came" {
		t.Errorf("%+v %v", f, err)
	}
	e, err := s.Edition(t.Context(), edition)
	if sum := sha256.Sum256([]byte("<p>")); err != nil || string(e.Page) != "<p>" || e.PageSHA256 != hex.EncodeToString(sum[:]) {
		t.Errorf("%+v %v", e, err)
	}
	if _, err := p.DownTo(t.Context(), 3); err == nil {
		t.Error("went back, and lost what older programs do not know")
	}
	// A program that does not know a database keeps off it.
	if _, err := db.ExecContext(t.Context(), "INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, true)"); err != nil {
		t.Fatal(err)
	}
	if _, err := store.Open(t.Context(), url); !errors.Is(err, store.ErrNewer) {
		t.Errorf("a newer database opens: %v", err)
	}
}

// upTo brings the empty database at url to an older version, and gives it until the test ends.
func upTo(t *testing.T, url string, version int64) (*sql.DB, *goose.Provider) {
	t.Helper()
	db, err := sql.Open("pgx", url)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = db.Close() })
	p, err := goose.NewProvider(goose.DialectPostgres, db, os.DirFS("migrations"), goose.WithDisableGlobalRegistry(true))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := p.UpTo(t.Context(), version); err != nil {
		t.Fatal(err)
	}
	return db, p
}
