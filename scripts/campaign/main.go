// Command campaign kills the server and stops the database again and again while readings
// are logged, the way a browser's outbox does it: each under a key of its own, the very
// same again until it is acknowledged. Then it counts: every acknowledged reading there
// once, none that was refused there at all.
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
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/google/uuid"
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
	review, path := c.prepare()
	var writers sync.WaitGroup
	for range 3 {
		writers.Go(func() { c.write(review, path) })
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
	failed := c.count(review)
	c.kill()
	fmt.Printf("%d kills, %d stops of the database: %d readings acknowledged, %d refused; %d answers lost, %d said that it may have been written\n",
		*kills, *stops, c.acknowledged.Load(), c.refused.Load(), c.lost.Load(), c.unavailable.Load())
	if failed > 0 {
		fmt.Printf("%d readings are not as they were told\n", failed)
		os.Exit(1)
	}
	fmt.Println("every acknowledged reading is there once, and none that was refused")
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
		status, _, err := call("GET", "/api/v1/bench", nil)
		if err == nil && status == http.StatusOK {
			return
		}
		if try == 600 {
			panic("the server never came up")
		}
		time.Sleep(100 * time.Millisecond)
	}
}

func call(method, path string, in any) (int, []byte, error) {
	text, err := json.Marshal(in)
	if err != nil {
		return 0, nil, err
	}
	req, err := http.NewRequest(method, "http://"+*addr+path, bytes.NewReader(text))
	if err != nil {
		return 0, nil, err
	}
	req.Header.Set("Content-Type", "application/json")
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		return 0, nil, err
	}
	defer resp.Body.Close()
	out, err := io.ReadAll(resp.Body)
	return resp.StatusCode, out, err
}

func (c *campaign) prepare() (review, path string) {
	_, text, err := call("GET", "/api/v1/bench", nil)
	var bench struct {
		Paths []struct{ ID string }
	}
	if err != nil || json.Unmarshal(text, &bench) != nil {
		panic("no bench")
	}
	review = uuid.NewString()
	must := func(status int, text []byte, err error) {
		if err != nil || status >= 300 {
			panic(fmt.Sprintf("%d %s %v", status, text, err))
		}
	}
	must(call("POST", "/api/v1/reviews", map[string]any{"id": review, "subject": map[string]any{"model": "campaign"}}))
	_, text, err = call("GET", "/api/v1/reviews/"+review, nil)
	var r map[string]any
	if err != nil || json.Unmarshal(text, &r) != nil {
		panic("no review")
	}
	must(call("PUT", "/api/v1/reviews/"+review, map[string]any{"version": 1, "subject": r["subject"], "rules": r["rules"], "claims": []map[string]string{{"text": "2m 5/1"}}}))
	return review, bench.Paths[0].ID
}

// write logs readings one after the other, now and then one that must be refused.
func (c *campaign) write(review, path string) {
	for n := 0; !c.done.Load(); n++ {
		key := uuid.NewString()
		text := fmt.Sprintf("4.%d h ? %s", n%90+10, key)
		if n%25 == 24 {
			text = "nothing that can be read"
		}
		body := map[string]any{"id": key, "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "path_id": path, "draft": map[string]string{"text": text}}
		for {
			status, _, err := call("POST", "/api/v1/reviews/"+review+"/measure/power", body)
			switch {
			case err != nil:
				c.lost.Add(1)
			case status >= 500:
				c.unavailable.Add(1)
			case status >= 400:
				c.refused.Add(1)
				c.keys.Store(key, "refused")
			default:
				c.acknowledged.Add(1)
				c.keys.Store(key, "acknowledged")
			}
			if err == nil && status < 500 {
				break
			}
			time.Sleep(20 * time.Millisecond)
		}
	}
}

// count holds what is there against what was told.
func (c *campaign) count(review string) (failed int) {
	_, text, err := call("GET", "/api/v1/reviews/"+review+"/measure/power", nil)
	var all []struct{ ID string }
	if err != nil || json.Unmarshal(text, &all) != nil {
		panic("the readings cannot be read")
	}
	there := map[string]int{}
	for _, r := range all {
		there[r.ID]++
	}
	c.keys.Range(func(key, told any) bool {
		want := 0
		if told == "acknowledged" {
			want = 1
		}
		if there[key.(string)] != want {
			failed++
		}
		delete(there, key.(string))
		return true
	})
	return failed + len(there)
}
