package e2e

import (
	"context"
	"net/http/httptest"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/cdproto/runtime"
	c "github.com/chromedp/chromedp"

	"talloak/app"
	"talloak/core/compute"
	"talloak/core/kinds"
	"talloak/demo"
	"talloak/httpapi"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
	"talloak/web"
)

// serve is a server on a database of its own, with the demo if asked for.
func serve(t testing.TB, withDemo bool) string {
	t.Helper()
	s := storetest.Open
	if withDemo {
		s = func(t testing.TB) *store.Store {
			return storetest.Copy(t, "demo", func(s *store.Store) error {
				return demo.Load(context.Background(), app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs()))
			})
		}
	}
	a := app.New(s(t), kinds.All(), rulebooks.Find, rulebooks.IDs())
	a.PracticeSpeed = 60
	if _, err := web.Files().Open("index.html"); err != nil {
		t.Fatal("the front end is not built; run make test")
	}
	engine := compute.New(rulebooks.Find, rulebooks.IDs())
	server := httptest.NewServer(httpapi.New(a, engine, web.Files(), httpapi.Options{Hosts: []string{"bench.example"}, DemoFirst: demo.First()}))
	t.Cleanup(server.Close)
	return server.URL
}

// patience is how long anything may take to be seen, on a busy machine.
const patience = 90 * time.Second

// browser is a tab of headless Chromium at 1280 x 800.
type browser struct {
	t   testing.TB
	ctx context.Context
}

func open(t testing.TB) *browser {
	t.Helper()
	opts := append(c.DefaultExecAllocatorOptions[:], c.ExecPath("/usr/bin/chromium"), c.DisableGPU,
		c.Flag("host-resolver-rules", "MAP bench.example 127.0.0.1"), c.Flag("disable-quic", true), c.Flag("disable-component-update", true), c.UserDataDir(t.TempDir()))
	alloc, stopAlloc := c.NewExecAllocator(context.Background(), opts...)
	ctx, stop := c.NewContext(alloc)
	t.Cleanup(func() { stop(); stopAlloc() })
	if err := c.Do(ctx); err != nil {
		t.Fatalf("Chromium does not start: %v", err)
	}
	b := &browser{t, ctx}
	if err := c.Listen(ctx, func(event any) {
		if e, ok := event.(*runtime.EventExceptionThrown); ok {
			t.Logf("the page threw: %s %s", e.ExceptionDetails.Text, e.ExceptionDetails.Exception.Description)
		}
	}); err != nil {
		t.Fatal(err)
	}
	b.do(c.EmulateViewport(1280, 800))
	return b
}

// do runs actions within patience (a busy machine); where one fails, a picture of the page is
// left behind for whoever looks into it.
func (b *browser) do(actions ...c.Action[c.Void]) {
	b.t.Helper()
	ctx, cancel := context.WithTimeout(b.ctx, patience)
	defer cancel()
	if err := c.Do(ctx, actions...); err != nil {
		if png, shot := c.Run(b.ctx, c.CaptureScreenshot()); shot == nil {
			at := filepath.Join(os.TempDir(), "talloak-e2e-failure.png")
			_ = os.WriteFile(at, png, 0o644)
			b.t.Logf("the page as it was: %s", at)
		}
		b.t.Fatal(err)
	}
}

// toFreeze waits until the stage that is open can freeze; it says of an edition that follows others that it adds to them.
func (b *browser) toFreeze() {
	b.t.Helper()
	b.do(c.WaitVisible(c.CSS("[name=freeze]")))
	if eval[bool](b, "!!document.querySelector('[name=kind]')") {
		b.do(press("[name=kind][value=addendum]"), c.WaitVisible(c.CSS("[name=changed]")), c.SendKeys(c.CSS("[name=changed]"), "More was measured."))
	}
	b.do(c.WaitVisible(c.CSS("[name=freeze]:not([disabled])")))
}

// shot takes a picture once nothing has moved for a moment.
func (b *browser) shot(file string) {
	b.t.Helper()
	var png []byte
	var err error
	for range 5 { // a browser that is busy may refuse one
		time.Sleep(500 * time.Millisecond)
		if png, err = c.Run(b.ctx, c.CaptureScreenshot()); err == nil {
			break
		}
	}
	if err != nil {
		b.t.Fatal(err)
	}
	if err := os.WriteFile(file, png, 0o644); err != nil {
		b.t.Fatal(err)
	}
}
