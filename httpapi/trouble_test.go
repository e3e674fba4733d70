package httpapi

import (
	"bytes"
	"image"
	"image/png"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/compute"
	"talloak/core/kinds"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
)

// TestTheCauseIsSaidWhereTheDatabaseFails: read-only, full, locked, too slow: 503 with the cause
// and what becomes of what was typed, of every route that writes; what is read needs no write.
func TestTheCauseIsSaidWhereTheDatabaseFails(t *testing.T) {
	address := storetest.URL(t)
	first, err := store.Open(t.Context(), address)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = first.Close() })
	on := func(settings string) *client {
		t.Helper()
		s, err := store.Open(t.Context(), address+settings)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { _ = s.Close() })
		a := app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs())
		server := httptest.NewServer(New(a, compute.New(rulebooks.Find, rulebooks.IDs()), fstest.MapFS{}, Options{}))
		t.Cleanup(server.Close)
		return &client{t, server.URL}
	}
	c := on("")
	power, _ := bench(t, first)
	r := c.begin()
	reading := "/api/v1/reviews/" + r.ID + "/measure/power"
	c.ok("POST", reading, keyUp("4.9", power), nil)
	says := func(c *client, want string) {
		t.Helper()
		for path, body := range map[string]any{
			reading: keyUp("4.8", power), "/api/v1/reviews": map[string]any{"id": uuid.NewString(), "subject": subject("")},
			"/api/v1/reviews/" + r.ID + "/photos?key=" + uuid.NewString() + "&about=x&file=a.png": string(onePoint(t)),
		} {
			status, answer := c.call("POST", path, body)
			if status != 503 || !strings.Contains(string(answer), want) || !strings.Contains(string(answer), "was not written") {
				t.Errorf("%s: %d %s, want %q", path, status, answer, want)
			}
		}
	}
	readOnly := on("&default_transaction_read_only=on")
	says(readOnly, "read-only")
	for _, path := range []string{"/api/v1/reviews", "/api/v1/reviews/" + r.ID + "/board", "/api/v1/reviews/" + r.ID + "/preview", "/api/v1/bench", "/api/v1/rule-books", "/api/v1/publication", reading} {
		readOnly.ok("GET", path, nil, nil)
	}
	if err := first.Exec(t.Context(), `CREATE FUNCTION full_disk() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'no space left' USING ERRCODE = '53100'; END $$;
		CREATE TRIGGER m BEFORE INSERT ON measurements FOR EACH ROW EXECUTE FUNCTION full_disk(); CREATE TRIGGER r BEFORE INSERT ON reviews FOR EACH ROW EXECUTE FUNCTION full_disk(); CREATE TRIGGER p BEFORE INSERT ON photos FOR EACH ROW EXECUTE FUNCTION full_disk()`); err != nil {
		t.Fatal(err)
	}
	says(c, "disk of the database is full")
	if err := first.Exec(t.Context(), `DROP FUNCTION full_disk CASCADE; CREATE FUNCTION slow() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM pg_sleep(60); RETURN NEW; END $$;
		CREATE TRIGGER m BEFORE INSERT ON measurements FOR EACH ROW EXECUTE FUNCTION slow(); CREATE TRIGGER r BEFORE INSERT ON reviews FOR EACH ROW EXECUTE FUNCTION slow(); CREATE TRIGGER p BEFORE INSERT ON photos FOR EACH ROW EXECUTE FUNCTION slow()`); err != nil {
		t.Fatal(err)
	}
	says(on("&statement_timeout=300"), "database is busy")
	if err := first.Exec(t.Context(), "DROP FUNCTION slow CASCADE"); err != nil {
		t.Fatal(err)
	}
	// Somebody holds what is needed.
	locked := make(chan error, 1)
	waiting := on("&lock_timeout=300")
	go func() {
		locked <- first.Exec(t.Context(), "BEGIN; LOCK TABLE measurements, reviews, photos IN SHARE MODE; SELECT pg_sleep(4); COMMIT")
	}()
	for status := 0; status != 503; {
		status, _ = waiting.call("POST", "/api/v1/reviews", map[string]any{"id": uuid.NewString(), "subject": subject("")})
	}
	says(waiting, "database is busy")
	if err := <-locked; err != nil {
		t.Fatal(err)
	}
	waiting.ok("POST", reading, keyUp("4.7", power), nil)
}

// TestHeadAndBadPlaces: HEAD answers as GET does, without a body, and a place in the list that
// was never given is 400.
func TestHeadAndBadPlaces(t *testing.T) {
	c, _ := serve(t)
	r := c.begin()
	for _, path := range []string{"/api/v1/reviews", "/api/v1/reviews/" + r.ID, "/api/v1/bench"} {
		resp, err := http.Head(c.base + path)
		if err != nil || resp.StatusCode != 200 || resp.Header.Get("Content-Type") != "application/json" {
			t.Errorf("%s: %v %v", path, resp, err)
		}
	}
	if resp, err := http.Head(c.base + "/api/v1/reviews/" + uuid.NewString()); err != nil || resp.StatusCode != 404 {
		t.Errorf("%v %v", resp, err)
	}
	for _, place := range []string{"x", "bm90IGpzb24", "%00"} {
		if got := c.refused(400, "GET", "/api/v1/reviews?after="+place, nil); len(got) != 1 || got[0] != "after" {
			t.Errorf("%q: %q", place, got)
		}
	}
}

// onePoint is a picture of one point.
func onePoint(t *testing.T) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := png.Encode(&out, image.NewGray(image.Rect(0, 0, 1, 1))); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}
