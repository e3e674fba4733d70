package store_test

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"errors"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"archive/tar"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/kinds"
	"talloak/core/record"
	"talloak/demo"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
)

// loaded is a store with the demo in it.
func loaded(t *testing.T) (*store.Store, *app.App, string) {
	t.Helper()
	url := storetest.CopyURL(t, "demo", func(s *store.Store) error {
		return demo.Load(context.Background(), app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs()))
	})
	s, err := store.Open(t.Context(), url)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s, app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs()), url
}

// TestNothingIsAlteredUnnoticed: what somebody with the run of the database changes, takes out,
// slips in or leaves open is named, and a head that was kept elsewhere tells of a chain that was
// written anew.
func TestNothingIsAlteredUnnoticed(t *testing.T) {
	s, a, _ := loaded(t)
	head, err := s.Head(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	verify := func(kept string) string {
		t.Helper()
		chain, _, err := s.VerifyChain(t.Context(), kept)
		if err != nil {
			t.Fatal(err)
		}
		editions, looked, err := a.Verify(t.Context())
		if err != nil || looked == 0 {
			t.Fatal(looked, err)
		}
		return strings.Join(append(chain, editions...), "\n")
	}
	if wrong := verify(head); wrong != "" {
		t.Fatalf("of what nobody touched: %s", wrong)
	}
	last := "(SELECT id FROM measurements ORDER BY seq DESC LIMIT 1)"
	for _, x := range []struct{ sql, want string }{
		{"ALTER TABLE measurements DISABLE TRIGGER USER", "measurements can be changed: its trigger is off or gone"},
		{`UPDATE measurements SET payload = jsonb_set(payload, '{text}', '"9.9"') WHERE id = (SELECT id FROM measurements WHERE kind = 'power' ORDER BY seq LIMIT 1)`, "was changed since it was written as link"},
		{"UPDATE measurements SET blob = blob || '\\x00' WHERE id = (SELECT id FROM measurements WHERE blob IS NOT NULL ORDER BY seq LIMIT 1)", "was changed since it was written as link"},
		{"ALTER TABLE standings DISABLE TRIGGER USER; DELETE FROM standings WHERE seq = (SELECT max(seq) FROM standings)", "is missing: it was written as link"},
		{"INSERT INTO standings (id, request_hash, review_id, target_id, standing, reason, said_at) SELECT gen_random_uuid(), '', review_id, id, 'struck', 'gone', now() FROM measurements WHERE id = " + last, "was slipped in: it is in no link of the chain"},
		{"DROP TRIGGER photos_are_not_emptied ON photos", "photos can be emptied: its trigger is off or gone"},
		{"ALTER TABLE editions DISABLE TRIGGER USER; UPDATE editions SET headline = 'Everything passes'", `it is headed "Everything passes"`},
		{"UPDATE editions SET document = convert_to(replace(convert_from(document, 'UTF8'), '\"verdict\":\"fail\"', '\"verdict\":\"pass\"'), 'UTF8')", "its data have SHA-256"},
		{"ALTER TABLE chain DISABLE TRIGGER USER; DELETE FROM chain WHERE seq BETWEEN 5 AND 6", "links 5 to 6 of the chain are missing"},
		{"UPDATE chain SET sum = repeat('0', 64) WHERE seq = 9", "link 10 of the chain does not follow from the one before it"},
	} {
		before := strings.Count(verify(head), "\n")
		if err := s.Exec(t.Context(), x.sql); err != nil {
			t.Fatal(x.sql, err)
		}
		if wrong := verify(head); !strings.Contains(wrong, x.want) || strings.Count(wrong, "\n") < before {
			t.Errorf("after %s: %s", x.sql, wrong)
		}
	}
	// A chain that is written anew over altered facts is whole in itself.
	if err := s.Exec(t.Context(), "DELETE FROM chain"); err != nil {
		t.Fatal(err)
	}
	if wrong := verify(""); !strings.Contains(wrong, "there is no chain") {
		t.Error(wrong)
	}
}

// TestAKeptHeadTellsOfARewrittenChain though all that is there fits together.
func TestAKeptHeadTellsOfARewrittenChain(t *testing.T) {
	s, _, url := loaded(t)
	head, err := s.Head(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if err := s.Exec(t.Context(), "ALTER TABLE chain DISABLE TRIGGER USER; DELETE FROM chain; ALTER TABLE chain ENABLE TRIGGER USER; ALTER TABLE standings DISABLE TRIGGER USER; UPDATE standings SET reason = 'another'; ALTER TABLE standings ENABLE TRIGGER USER"); err != nil {
		t.Fatal(err)
	}
	again, err := store.Open(t.Context(), url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = again.Close() }()
	if wrong, _, err := again.VerifyChain(t.Context(), ""); err != nil || len(wrong) != 0 {
		t.Errorf("%v %v", wrong, err)
	}
	if wrong, _, err := again.VerifyChain(t.Context(), head); err != nil || len(wrong) != 1 || !strings.Contains(wrong[0], "the head that was kept") {
		t.Errorf("%v %v", wrong, err)
	}
}

// repack writes a backup anew, each file as change says; nil leaves it out.
func repack(t *testing.T, backup []byte, change func(name string, content []byte) []byte) []byte {
	t.Helper()
	packed, err := gzip.NewReader(bytes.NewReader(backup))
	if err != nil {
		t.Fatal(err)
	}
	in := tar.NewReader(packed)
	var out bytes.Buffer
	zip := gzip.NewWriter(&out)
	to := tar.NewWriter(zip)
	for {
		file, err := in.Next()
		if err == io.EOF {
			break
		}
		if err != nil {
			t.Fatal(err)
		}
		content, err := io.ReadAll(in)
		if err != nil {
			t.Fatal(err)
		}
		if content = change(file.Name, content); content == nil {
			continue
		}
		file.Size = int64(len(content))
		if err := errors.Join(to.WriteHeader(file), func() error { _, err := to.Write(content); return err }()); err != nil {
			t.Fatal(err)
		}
	}
	if err := errors.Join(to.Close(), zip.Close()); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// TestAnAlteredBackupIsRefused, and one that lacks something; neither passes when it is verified
// as a file.
func TestAnAlteredBackupIsRefused(t *testing.T) {
	s, _, _ := loaded(t)
	var file bytes.Buffer
	if err := s.Backup(t.Context(), &file); err != nil {
		t.Fatal(err)
	}
	same := func(_ string, content []byte) []byte { return content }
	if made, err := store.CheckBackup(bytes.NewReader(repack(t, file.Bytes(), same))); err != nil || len(made.Tables) != 20 || made.Tables[5].Rows == 0 {
		t.Fatalf("%+v %v", made, err)
	}
	for name, change := range map[string]func(string, []byte) []byte{
		"a figure": func(name string, content []byte) []byte {
			if name == "measurements" {
				return bytes.Replace(content, []byte("\tFM\t"), []byte("\tAM\t"), 1)
			}
			return content
		},
		"a table left out": func(name string, content []byte) []byte {
			if name == "standings" {
				return nil
			}
			return content
		},
		"a row left out": func(name string, content []byte) []byte {
			if name == "standings" {
				return content[bytes.IndexByte(content, '\n')+1:]
			}
			return content
		},
		"no manifest": func(name string, content []byte) []byte {
			if name == "talloak-backup-manifest" {
				return nil
			}
			return content
		},
		"a table left out of the manifest too": func(name string, content []byte) []byte {
			switch name {
			case "publication":
				return nil
			case "talloak-backup-manifest":
				var m store.Manifest
				if err := json.Unmarshal(content, &m); err != nil {
					t.Fatal(err)
				}
				m.Tables = slices.DeleteFunc(m.Tables, func(f store.TableFile) bool { return f.Name == "publication" })
				text, _ := json.Marshal(m)
				return text
			}
			return content
		},
	} {
		bad := repack(t, file.Bytes(), change)
		if err := store.Restore(t.Context(), storetest.URL(t), bytes.NewReader(bad)); err == nil {
			t.Errorf("%s: restored", name)
		}
		if _, err := store.CheckBackup(bytes.NewReader(bad)); err == nil && !strings.Contains(name, "manifest too") {
			t.Errorf("%s: verified", name)
		}
	}
}

// TestAStartKeepsWhatTheOlderProgramKnows: before a database is brought to a newer version a
// backup is made that a program of the older one restores, and neither backup nor verify brings
// anything to a newer version.
func TestAStartKeepsWhatTheOlderProgramKnows(t *testing.T) {
	url := storetest.URL(t)
	upTo(t, url, 9)
	look, err := store.Look(t.Context(), url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = look.Close() }()
	var file bytes.Buffer
	if err := look.Backup(t.Context(), &file); err != nil {
		t.Fatal(err)
	}
	if _, _, err := look.VerifyChain(t.Context(), ""); !errors.Is(err, store.ErrNoChain) {
		t.Errorf("%v", err)
	}
	name, calls := filepath.Join(t.TempDir(), "kept"), 0
	s, err := store.OpenKeeping(t.Context(), url, func(s *store.Store, from, to int64) error {
		calls++
		if from != 9 || to < 10 {
			t.Errorf("from %d to %d", from, to)
		}
		f, err := os.Create(name)
		if err != nil {
			return err
		}
		return errors.Join(s.Backup(context.Background(), f), f.Close())
	})
	if err != nil || calls != 1 {
		t.Fatal(calls, err)
	}
	defer func() { _ = s.Close() }()
	kept, err := os.ReadFile(name)
	if err != nil {
		t.Fatal(err)
	}
	// The older program knows no manifest and no chain, and refuses what it does not know.
	repack(t, kept, func(name string, content []byte) []byte {
		if name == "chain" || name == "talloak-backup-manifest" {
			t.Errorf("%s is in it", name)
		}
		return content
	})
	if err := store.Restore(t.Context(), storetest.URL(t), bytes.NewReader(kept)); err != nil {
		t.Error(err)
	}
	if again, err := store.OpenKeeping(t.Context(), url, func(*store.Store, int64, int64) error { calls++; return nil }); err != nil || calls != 1 {
		t.Errorf("%d backups, %v", calls, err)
	} else {
		_ = again.Close()
	}
}

// TestWordsOnBooksDoNotCross: of several wordings over one that stands, begun at once, one is
// taken; and a word that was begun earlier and written later is not missed.
func TestWordsOnBooksDoNotCross(t *testing.T) {
	s := storetest.Open(t)
	taken := make(chan bool, 6)
	for range 6 {
		go func() {
			w := &record.BookWord{ID: uuid.NewString(), BookID: "own", What: record.BookWritten, Content: json.RawMessage(`{}`)}
			_, err := s.AddBookWord(context.Background(), w, w.ID, func(words []record.BookWord) error {
				if len(words) > 0 {
					return store.ErrStale
				}
				return nil
			})
			taken <- err == nil
		}()
	}
	n := 0
	for range 6 {
		if <-taken {
			n++
		}
	}
	if n != 1 {
		t.Errorf("%d of six were taken", n)
	}
	before, err := s.BookWordsAt(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if err := s.Exec(t.Context(), `INSERT INTO rule_books (seq, id, request_hash, book_id, what, content, written_at) OVERRIDING SYSTEM VALUE VALUES (-1, gen_random_uuid(), '', 'own', 'withdrawn', '{}', now())`); err != nil {
		t.Fatal(err)
	}
	if after, err := s.BookWordsAt(t.Context()); err != nil || after == before {
		t.Errorf("%q after %q: %v", after, before, err)
	}
}
