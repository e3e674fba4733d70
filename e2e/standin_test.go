package e2e

import (
	"io"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"strings"
	"sync"
	"testing"
)

// standIn lies between the browser and the server, and does to what passes what bad luck
// does: holds it up, loses its answer after the write, keeps it from the server.
type standIn struct {
	*httptest.Server
	proxy *httputil.ReverseProxy

	mu    sync.Mutex
	rules []*rule
	seen  []string // method and path of what came
}

// rule is for requests whose method and path have a word in them, for the next `times` of
// them; below 0 for all until it is lifted.
type rule struct {
	word  string
	do    luck
	times int
	open  chan struct{} // of what is held up
}

type luck int

const (
	held  luck = iota // until it is let go
	lost              // done, and the answer lost
	away              // never reached the server
	torn              // the database does not answer
	fails             // the server fails at it
)

func between(t *testing.T, base string) *standIn {
	t.Helper()
	to, err := url.Parse(base)
	if err != nil {
		t.Fatal(err)
	}
	s := &standIn{}
	s.proxy = &httputil.ReverseProxy{Rewrite: func(r *httputil.ProxyRequest) { r.SetURL(to) }, FlushInterval: -1, ErrorLog: nil}
	s.Server = httptest.NewUnstartedServer(s)
	s.Server.Config.ErrorLog = nil
	s.Server.Start()
	t.Cleanup(func() {
		s.lift()
		s.Server.CloseClientConnections()
		s.Server.Close()
	})
	return s
}

// luck makes a rule; lift takes all of them back and lets go what is held up.
func (s *standIn) luck(do luck, word string, times int) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.rules = append(s.rules, &rule{word, do, times, make(chan struct{})})
}

func (s *standIn) lift() {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, r := range s.rules {
		close(r.open)
	}
	s.rules = nil
}

// came counts what had a word in its method and path.
func (s *standIn) came(word string) int {
	s.mu.Lock()
	defer s.mu.Unlock()
	n := 0
	for _, at := range s.seen {
		if strings.Contains(at, word) {
			n++
		}
	}
	return n
}

func answer(w http.ResponseWriter, r *http.Request, status int, problem string) {
	_, _ = io.Copy(io.Discard, r.Body)
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	_, _ = io.WriteString(w, problem)
}

func (s *standIn) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	at := r.Method + " " + r.URL.Path + "$" // a word may end in it
	var now *rule
	s.mu.Lock()
	s.seen = append(s.seen, at)
	for _, x := range s.rules {
		if x.times != 0 && strings.Contains(at, x.word) {
			x.times--
			now = x
			break
		}
	}
	s.mu.Unlock()
	if now != nil {
		switch now.do {
		case held:
			select {
			case <-now.open:
			case <-r.Context().Done():
				return
			}
		case lost:
			s.proxy.ServeHTTP(httptest.NewRecorder(), r)
			panic(http.ErrAbortHandler)
		case away:
			panic(http.ErrAbortHandler)
		case torn:
			answer(w, r, http.StatusServiceUnavailable, `{"title":"The database does not answer","status":503,"detail":"What you sent may have been written or not.","errors":[]}`)
			return
		case fails:
			answer(w, r, http.StatusInternalServerError, `{"title":"Something went wrong here","status":500,"detail":"The server's log says more.","errors":[]}`)
			return
		}
	}
	s.proxy.ServeHTTP(w, r)
}
