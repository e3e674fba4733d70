package main

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"sync/atomic"
	"time"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// browser is a reviewer at the key-up screen, who types on whatever becomes of the server.
type browser struct {
	ctx   context.Context
	close func()
	typed atomic.Int64
}

// openBrowser opens the key-up screen of a review, its wiring gone through.
func openBrowser(review string) *browser {
	profile, err := os.MkdirTemp("", "talloak-campaign-")
	if err != nil {
		panic(err)
	}
	opts := append(c.DefaultExecAllocatorOptions[:], c.ExecPath("/usr/bin/chromium"), c.DisableGPU, c.UserDataDir(profile))
	alloc, stopAlloc := c.NewExecAllocator(context.Background(), opts...)
	ctx, stop := c.NewContext(alloc)
	if err := c.Do(ctx); err != nil { // it lives as long as this, not as what is done in it
		panic(err)
	}
	b := &browser{ctx: ctx, close: func() { stop(); stopAlloc(); _ = os.RemoveAll(profile) }}
	b.do(c.Navigate("http://"+*addr+"/reviews/"+review+"/power"), c.WaitVisible(c.CSS("[name=entry]")), c.WaitEnabled(c.CSS("[name=preflight]")), c.Click(c.CSS("[name=preflight]")), c.WaitNotPresent(c.CSS("[name=preflight]")))
	return b
}

func (b *browser) do(actions ...c.Action[c.Void]) {
	ctx, cancel := context.WithTimeout(b.ctx, 2*time.Minute)
	defer cancel()
	if err := c.Do(ctx, actions...); err != nil {
		panic(fmt.Sprintf("the browser: %v", err))
	}
}

// text is the n-th line typed, told from all others.
func text(n int64) string { return fmt.Sprintf("4.%d h ? typed %d", n%90+10, n) }

// typeUntil types one line after another, as a person does who looks at a meter.
func (b *browser) typeUntil(done func() bool) {
	for !done() {
		n := b.typed.Load()
		b.do(c.SendKeys(c.CSS("[name=entry]"), text(n)+kb.Enter))
		b.typed.Add(1)
		time.Sleep(300 * time.Millisecond)
	}
	b.do(c.WaitNotPresent(c.CSS("[data-waiting]"))) // all of it was acknowledged
}

// count holds what was typed against what is there, and takes it out of there.
func (b *browser) count(p places, there map[string]int) (failed int) {
	times := map[string]int{}
	for from, total := 0, 1; from < total; from += 1000 {
		var page []struct{ ID, Text string }
		_, head, body, err := call("GET", p.at(fmt.Sprintf("/measure/power?limit=1000&from=%d", from)), fact{})
		if err != nil || json.Unmarshal(body, &page) != nil {
			panic("the readings cannot be read")
		}
		_, _ = fmt.Sscan(head.Get("X-Total-Count"), &total)
		for _, r := range page {
			var x float64
			var n int64
			if _, err := fmt.Sscanf(r.Text, "4.%f h ? typed %d", &x, &n); err == nil {
				times[r.Text]++
				delete(there, "power "+r.ID)
			}
		}
	}
	for n := range b.typed.Load() {
		if times[text(n)] != 1 {
			failed++
			fmt.Printf("%q is there %d times\n", text(n), times[text(n)])
		}
		delete(times, text(n))
	}
	return failed + len(times)
}
