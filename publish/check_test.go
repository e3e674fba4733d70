package publish_test

import (
	"archive/zip"
	"bytes"
	"compress/gzip"
	"encoding/base64"
	"io"
	"strings"
	"testing"

	"talloak/core/kinds"
	"talloak/publish"
)

// zeros is a gzip of n bytes of nothing.
func zeros(t testing.TB, n int64) []byte {
	t.Helper()
	var out bytes.Buffer
	w := gzip.NewWriter(&out)
	if _, err := io.CopyN(w, zeroReader{}, n); err != nil {
		t.Fatal(err)
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

type zeroReader struct{}

func (zeroReader) Read(p []byte) (int, error) {
	clear(p)
	return len(p), nil
}

// TestNoMoreIsUnpackedThanHolds: a page and a package whose contents would fill the memory are damaged, not opened.
func TestNoMoreIsUnpackedThanHolds(t *testing.T) {
	const much = publish.MostUnpacked + 1<<20
	page := "<!doctype html><meta name=\"generator\" content=\"talloak-edition-3\">\n<!-- talloak-edition-data gzip base64\n" + base64.StdEncoding.EncodeToString(zeros(t, much)) + "\n-->\n"
	var pack bytes.Buffer
	w := zip.NewWriter(&pack)
	for name, n := range map[string]int64{"datapackage.json": 10, "edition.json": much} {
		f, err := w.Create(name)
		if err == nil {
			_, err = io.CopyN(f, zeroReader{}, n)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := w.SetComment("talloak-edition-seal sha256 " + strings.Repeat("0", 64)); err != nil {
		t.Fatal(err)
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	for what, content := range map[string][]byte{"page": []byte(page), "package": pack.Bytes()} {
		got := publish.Check(content, kinds.All(), nil)
		if lines := strings.Join(got.Lines, "\n"); got.Outcome != publish.Damaged || !strings.Contains(lines, "more than 256 MiB") {
			t.Errorf("%s: %d\n%s", what, got.Outcome, lines)
		}
	}
}

// TestTheWorseOutcomeCounts of several files: damaged over none of ours, that over otherwise, that over whole.
func TestTheWorseOutcomeCounts(t *testing.T) {
	order := []publish.Outcome{publish.Whole, publish.Otherwise, publish.NotOurs, publish.Damaged}
	for i, a := range order {
		for k, b := range order {
			if got := a.Worse(b); got != order[max(i, k)] {
				t.Errorf("%d and %d come to %d", a, b, got)
			}
		}
	}
}

// FuzzCheck: whatever a file holds, it is told what it is, and nothing that no program sealed is whole.
func FuzzCheck(f *testing.F) {
	for _, seed := range []string{
		`{"format":"talloak-edition-3","facts":{"rule_books":[]},"sum":"` + strings.Repeat("0", 64) + `"}`, `{"format":"talloak-edition-2","board":{"cells":[{"power":"pass","emissions":{}}]}}`,
		"<!doctype html><meta content=\"talloak-edition-3\">", "PK\x03\x04datapackage.json edition.json", "<p>SHA-256 of this edition's data", "",
	} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, content []byte) {
		got := publish.Check(content, kinds.All(), nil)
		if len(got.Lines) == 0 || got.Outcome == publish.Whole && !got.Older {
			t.Errorf("%d %v", got.Outcome, got.Lines)
		}
	})
}
