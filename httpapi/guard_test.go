package httpapi

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/compute"
	"talloak/core/kinds"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
)

func serveWith(t *testing.T, o Options) *httptest.Server {
	t.Helper()
	a := app.New(storetest.Open(t), kinds.All(), rulebooks.Find, rulebooks.IDs())
	files := fstest.MapFS{"index.html": {Data: []byte("<p>front</p>" + strings.Repeat(" ", 2000))}}
	server := httptest.NewServer(New(a, compute.New(rulebooks.Find, rulebooks.IDs()), files, o))
	t.Cleanup(server.Close)
	return server
}

// TestOnlyUnderItsOwnNames: a page elsewhere that points a name of its own here reads and
// writes nothing; loopback and the names told are let in.
func TestOnlyUnderItsOwnNames(t *testing.T) {
	server := serveWith(t, Options{Hosts: []string{"bench.example"}})
	for host, want := range map[string]int{"127.0.0.1:7373": 200, "localhost": 200, "[::1]:7373": 200, "BENCH.example:80": 200, "elsewhere.example": 403, "127.0.0.1.elsewhere.example:7373": 403, "": 403} {
		for _, path := range []string{"/api/v1/reviews", "/"} {
			req, err := http.NewRequest("GET", server.URL+path, nil)
			if err != nil {
				t.Fatal(err)
			}
			req.Host = host
			if host == "" {
				req.Host = "x"
			}
			resp, err := http.DefaultClient.Do(req)
			if err != nil {
				t.Fatal(err)
			}
			_ = resp.Body.Close()
			if resp.StatusCode != want {
				t.Errorf("%q %s: %d, want %d", host, path, resp.StatusCode, want)
			}
		}
	}
}

// TestHeadersOfEveryAnswer: no script that is not a file of ours, no frame elsewhere, no
// guessing of types; long answers are packed.
func TestHeadersOfEveryAnswer(t *testing.T) {
	server := serveWith(t, Options{})
	for _, path := range []string{"/", "/api/v1/reviews", "/api/v1/nothing"} {
		resp, err := http.Get(server.URL + path)
		if err != nil {
			t.Fatal(err)
		}
		_ = resp.Body.Close()
		policy := resp.Header.Get("Content-Security-Policy")
		if !strings.Contains(policy, "script-src 'self';") || !strings.Contains(policy, "frame-ancestors 'self'") || resp.Header.Get("X-Content-Type-Options") != "nosniff" {
			t.Errorf("%s: %v", path, resp.Header)
		}
	}
	req, _ := http.NewRequest("GET", server.URL+"/", nil)
	req.Header.Set("Accept-Encoding", "gzip")
	resp, err := http.DefaultTransport.RoundTrip(req)
	if err != nil {
		t.Fatal(err)
	}
	_ = resp.Body.Close()
	if resp.Header.Get("Content-Encoding") != "gzip" {
		t.Errorf("not packed: %v", resp.Header)
	}
}

// TestThePasswordComesFirst: nothing is answered before it, a wrong one lets nobody in, a
// forged or old log-in neither, and guessing is slowed down.
func TestThePasswordComesFirst(t *testing.T) {
	server := serveWith(t, Options{Password: "a long one"})
	jar, _ := cookiejar.New(nil)
	client := &http.Client{Jar: jar}
	status := func(path string) int {
		t.Helper()
		resp, err := client.Get(server.URL + path)
		if err != nil {
			t.Fatal(err)
		}
		text, _ := io.ReadAll(resp.Body)
		_ = resp.Body.Close()
		if path == "/" && resp.StatusCode == 200 && bytes.Contains(text, []byte("password")) {
			return 303 // it led to the log-in page
		}
		return resp.StatusCode
	}
	if a, b := status("/"), status("/api/v1/reviews"); a != 303 || b != 401 {
		t.Errorf("without: %d %d", a, b)
	}
	at, _ := url.Parse(server.URL)
	key := []byte("some other key of thirty-two byt")
	for _, forged := range []string{"", "x", "9999999999.x", sign(key, time.Now().Add(time.Hour))} {
		jar.SetCookies(at, []*http.Cookie{{Name: cookieName, Value: forged}})
		if got := status("/api/v1/reviews"); got != 401 {
			t.Errorf("a forged log-in %q: %d", forged, got)
		}
	}
	if old := sign(key, time.Now().Add(-time.Second)); signed(key, old, time.Now()) || !signed(key, sign(key, time.Now().Add(time.Hour)), time.Now()) {
		t.Error("a log-in lasts too long or not at all")
	}
	name := "a guesser"
	give := func(password string) int {
		t.Helper()
		resp, err := client.PostForm(server.URL+loginPath, url.Values{"name": {name}, "password": {password}})
		if err != nil {
			t.Fatal(err)
		}
		_ = resp.Body.Close()
		return resp.StatusCode
	}
	if got := give("a guess"); got != 401 || status("/api/v1/reviews") != 401 {
		t.Errorf("a wrong one: %d", got)
	}
	if got := give("a long one"); got != 200 || status("/api/v1/reviews") != 200 || status("/") != 200 {
		t.Errorf("the right one: %d", got)
	}
	got := 0
	for range 10 {
		got = give("a guess")
	}
	if got != 429 {
		t.Errorf("the tenth guess: %d", got)
	}
	// Another one at the same address, as all are behind a proxy, still gets in; and out again.
	name = "the reviewer"
	if got := give("a long one"); got != 200 || status("/api/v1/reviews") != 200 {
		t.Errorf("another one at the same address: %d", got)
	}
	req, _ := http.NewRequest("POST", server.URL+loginPath, strings.NewReader("name=tls&password=a+long+one"))
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	req.Header.Set("X-Forwarded-Proto", "https")
	resp, err := (&http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}).Do(req)
	if err != nil {
		t.Fatal(err)
	}
	_ = resp.Body.Close()
	for _, cookie := range resp.Cookies() {
		if !cookie.Secure || cookie.Name == cookieName && !cookie.HttpOnly {
			t.Errorf("behind TLS: %+v", cookie)
		}
	}
	if _, err := client.Post(server.URL+logoutPath, "", nil); err != nil || status("/api/v1/reviews") != 401 {
		t.Errorf("it is still in after it went out: %v", err)
	}
	// Log-ins outlive the server where the salt does, and no other password or salt signs them.
	salt := []byte("sixteen bytes of")
	one, same, other, elsewhere := newDoor("x", salt), newDoor("x", salt), newDoor("y", salt), newDoor("x", nil)
	if c := sign(one.key, time.Now().Add(time.Hour)); !signed(same.key, c, time.Now()) || signed(other.key, c, time.Now()) || signed(elsewhere.key, c, time.Now()) {
		t.Error("a log-in is signed by the wrong key")
	}
}

// slow gives bytes with a pause before each piece.
type slow struct {
	left  int
	pause time.Duration
}

func (s *slow) Read(p []byte) (int, error) {
	if s.left == 0 {
		return 0, io.EOF
	}
	time.Sleep(s.pause)
	n := min(len(p), s.left, 32<<10)
	for i := range n {
		p[i] = "1,-90\n"[i%6]
	}
	s.left -= n
	return n, nil
}

// TestASlowLineIsWaitedFor: an upload takes as long as it takes; what ends it is a line
// that stands still, not a clock. (A server that gave a request 5 s as a whole, as the
// library under it does, would end this one.)
func TestASlowLineIsWaitedFor(t *testing.T) {
	c, s := serve(t)
	_, emissions := bench(t, s)
	r := c.begin()
	const size = 384 << 10 // a dozen writes
	start := time.Now()
	req, err := http.NewRequest("POST", c.base+sweepPath(r.ID, uuid.NewString(), emissions), &slow{size, 600 * time.Millisecond})
	if err != nil {
		t.Fatal(err)
	}
	req.ContentLength = size
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		t.Fatal(err)
	}
	text, _ := io.ReadAll(resp.Body)
	_ = resp.Body.Close()
	if took := time.Since(start); resp.StatusCode != 422 || !bytes.Contains(text, []byte(`"csv"`)) || took < 5*time.Second {
		t.Errorf("%d after %v: %.200s", resp.StatusCode, took, text)
	}
	req, _ = http.NewRequest("POST", c.base+sweepPath(r.ID, uuid.NewString(), emissions), strings.NewReader("x"))
	req.ContentLength = -1
	if resp, err = http.DefaultClient.Do(req); err != nil || resp.StatusCode != 422 {
		t.Errorf("without a length: %v %v", resp, err)
	}
	_ = resp.Body.Close()
}

// TestADatabaseThatIsAway may have written or not, and that is what is said.
func TestADatabaseThatIsAway(t *testing.T) {
	for err, want := range map[error]int{
		fmt.Errorf("%w: broken pipe", store.ErrAway): 503, errors.New("something else"): 500, store.ErrNotFound: 404, app.ErrPathChanged: 409,
	} {
		var p *Problem
		if !errors.As(answer(err), &p) || p.Status != want || want >= 500 && !strings.Contains(p.Detail, "may have been written") || strings.Contains(p.Detail, "pipe") {
			t.Errorf("%v: %+v", err, p)
		}
	}
	a := app.New(storetest.Open(t), kinds.All(), rulebooks.Find, rulebooks.IDs())
	server := httptest.NewServer(New(a, compute.New(rulebooks.Find, rulebooks.IDs()), fstest.MapFS{}, Options{}))
	defer server.Close()
	if err := a.Store.Close(); err != nil {
		t.Fatal(err)
	}
	c := &client{t, server.URL}
	if got, text := c.call("GET", "/api/v1/reviews", nil); got != 503 {
		t.Errorf("a closed database: %d %s", got, text)
	}
}
