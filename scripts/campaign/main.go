// Command campaign kills the server and stops the database again and again while facts of
// every kind are written, the way a browser's outbox does it: each under a key of its own, the
// very same again until it is acknowledged; and while a real browser types readings. Then it
// counts: everything acknowledged or typed there once, nothing that was refused, and the chain
// of facts whole.
package main

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"time"
)

var (
	binary = flag.String("binary", "bin/talloak", "the server")
	addr   = flag.String("addr", "127.0.0.1:7390", "where it listens")
	pgStop = flag.String("pg-stop", "", "a command that stops the database at once")
	pgGo   = flag.String("pg-start", "", "a command that starts it again")
	kills  = flag.Int("kills", 100, "how often the server is killed")
	stops  = flag.Int("stops", 40, "how often the database is stopped")
)

// campaign is the server being killed, and what was told of each key.
type campaign struct {
	mu     sync.Mutex
	server *exec.Cmd
	done   atomic.Bool

	acknowledged, refused, lost, unavailable atomic.Int64
	keys                                     sync.Map // key -> "acknowledged" or "refused"
}

func main() {
	flag.Parse()
	c := &campaign{}
	c.start()
	c.wait()
	p := prepare()
	b := openBrowser(p.review)
	defer b.close()
	var writers sync.WaitGroup
	writers.Go(func() { b.typeUntil(c.done.Load) })
	for range 3 {
		writers.Go(func() { c.write(p) })
	}
	bad := make([]bool, 0, *kills+*stops) // true stops the database
	for i := range *kills + *stops {
		bad = append(bad, i >= *kills)
	}
	rand.Shuffle(len(bad), func(i, k int) { bad[i], bad[k] = bad[k], bad[i] })
	for i, database := range bad {
		time.Sleep(time.Duration(50+rand.IntN(250)) * time.Millisecond)
		if database {
			shell(*pgStop)
			time.Sleep(time.Duration(rand.IntN(300)) * time.Millisecond)
			shell(*pgGo)
		} else {
			c.kill()
			c.start()
		}
		if (i+1)%20 == 0 {
			fmt.Printf("%d of %d, %d acknowledged so far\n", i+1, len(bad), c.acknowledged.Load())
		}
	}
	c.wait()
	c.done.Store(true)
	writers.Wait()
	there := p.there()
	failed := b.count(p, there) + c.count(there)
	out, err := exec.Command(*binary, "verify").CombinedOutput()
	c.kill()
	fmt.Printf("%d kills, %d stops of the database: %d facts acknowledged, %d refused; %d answers lost, %d said that it may have been written; %d lines typed in a browser\n%s",
		*kills, *stops, c.acknowledged.Load(), c.refused.Load(), c.lost.Load(), c.unavailable.Load(), b.typed.Load(), out)
	if failed > 0 || err != nil {
		fmt.Printf("%d facts are not as they were told; %v\n", failed, err)
		os.Exit(1)
	}
	fmt.Println("everything acknowledged or typed is there once, and nothing that was refused")
}

func shell(command string) {
	if out, err := exec.Command("bash", "-c", command).CombinedOutput(); err != nil {
		fmt.Fprintf(os.Stderr, "%s: %v\n%s", command, err, out)
		os.Exit(1)
	}
}

func (c *campaign) start() {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.server = exec.Command(*binary, "serve", "--demo", "--addr", *addr)
	c.server.SysProcAttr = &syscall.SysProcAttr{Pdeathsig: syscall.SIGKILL} // it does not outlive this
	if err := c.server.Start(); err != nil {
		panic(err)
	}
	// A server that starts while the database is away gives up; it is started again.
	go func(s *exec.Cmd) {
		err := s.Wait()
		var exit *exec.ExitError
		if c.done.Load() || err == nil {
			return
		}
		if e, ok := err.(*exec.ExitError); ok {
			exit = e
		}
		if exit == nil || !exit.Sys().(syscall.WaitStatus).Signaled() {
			time.Sleep(100 * time.Millisecond)
			c.start()
		}
	}(c.server)
}

func (c *campaign) kill() {
	c.mu.Lock()
	defer c.mu.Unlock()
	_ = c.server.Process.Signal(syscall.SIGKILL)
	for try := 0; try < 100; try++ { // until the port is free again
		if _, err := http.Get("http://" + *addr + "/api/v1/nothing"); err != nil {
			return
		}
		time.Sleep(10 * time.Millisecond)
	}
}

// wait waits until the server answers from its database.
func (c *campaign) wait() {
	for try := 0; ; try++ {
		status, _, _, err := call("GET", "/api/v1/bench", fact{})
		if err == nil && status == http.StatusOK {
			return
		}
		if try == 600 {
			panic("the server never came up")
		}
		time.Sleep(100 * time.Millisecond)
	}
}

// call sends a fact, or asks where it is empty.
func call(method, path string, f fact) (int, http.Header, []byte, error) {
	media, body := f.media, []byte(f.body)
	if f.body == "" {
		text, err := json.Marshal(f.json)
		if err != nil {
			return 0, nil, nil, err
		}
		media, body = "application/json", text
	}
	req, err := http.NewRequest(method, "http://"+*addr+path, bytes.NewReader(body))
	if err != nil {
		return 0, nil, nil, err
	}
	req.Header.Set("Content-Type", media)
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		return 0, nil, nil, err
	}
	defer resp.Body.Close()
	out, err := io.ReadAll(resp.Body)
	return resp.StatusCode, resp.Header, out, err
}

// write writes facts one after the other.
func (c *campaign) write(p places) {
	last := "" // a measurement that there is something to be said of
	for n := 0; !c.done.Load(); n++ {
		f := p.next(n, last)
		for {
			status, _, _, err := call("POST", f.path, f)
			switch {
			case err != nil:
				c.lost.Add(1)
			case status >= 500:
				c.unavailable.Add(1)
			case status >= 400:
				c.refused.Add(1)
				c.keys.Store(f.kind+" "+f.key, "refused")
			default:
				c.acknowledged.Add(1)
				c.keys.Store(f.kind+" "+f.key, "acknowledged")
				if f.kind == "power" {
					last = f.key
				}
			}
			if err == nil && status < 500 {
				break
			}
			time.Sleep(20 * time.Millisecond)
		}
	}
}

// count holds what is there against what was told.
func (c *campaign) count(there map[string]int) (failed int) {
	c.keys.Range(func(key, told any) bool {
		want := 0
		if told == "acknowledged" {
			want = 1
		}
		if name := key.(string); there[name] != want && !strings.HasPrefix(name, "standing ") {
			failed++
			fmt.Printf("%s was %s and is there %d times\n", name, told, there[name])
		}
		delete(there, key.(string))
		return true
	})
	return failed + len(there)
}
