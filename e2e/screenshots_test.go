package e2e

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	c "github.com/chromedp/chromedp"
)

// TestScreenshots opens each main view of the demo in daylight and some in the
// dim room. It always checks that they come up; with TALLOAK_SCREENSHOTS set it
// also writes their pictures there.
func TestScreenshots(t *testing.T) {
	base := serve(t, true)
	dir := os.Getenv("TALLOAK_SCREENSHOTS")
	if dir == "" {
		dir = t.TempDir()
	}
	b := open(t)
	room := func(name string) {
		b.do(c.Navigate(base+"/reviews"), ignore(c.Evaluate[any](`localStorage.setItem('room','`+name+`')`)))
	}
	view := func(name, path, wait string, more ...c.Action[c.Void]) {
		t.Helper()
		b.do(c.Navigate(base+path), c.WaitVisible(c.CSS(wait)))
		b.do(more...)
		b.shot(filepath.Join(dir, name+".png"))
	}

	room("day")
	view("reviews", "/reviews", ".card")
	view("radio", larkrise+"/radio", "figure .row")
	view("power", larkrise+"/power", ".steps", c.Click(c.CSS("[name=preflight]")), c.SendKeys(c.CSS("[name=entry]"), "4.71 4.86 4.8 h swr 1.1 7.8v"), c.WaitVisible(c.CSS(".result:not(.idle)")))
	view("emissions", quillon+"/emissions", ".plot canvas")
	view("emissions-take", quillon+"/emissions", ".plot canvas", c.Click(c.CSS(".more")), c.WaitVisible(c.CSS(".steps")))
	view("ruling", quillon+"/ruling", ".evidence")
	view("publish", quillon+"/publish", "iframe")
	view("bench", "/bench/paths", ".row .part", c.Click(c.CSS("nav[aria-label='Kept paths'] a:nth-of-type(6)")), c.WaitVisible(c.CSS(".found")))
	view("bench-kit", "/bench/kit", "article", c.Click(c.CSS("article:nth-of-type(6) .strip")), c.WaitVisible(c.CSS(".editor")))
	view("bench-pads", "/bench/pads", "article")
	view("rule-books", "/rule-books", "article")
	edition, err := c.Run(b.ctx, c.Evaluate[string](`fetch('/api/v1`+quillon+`/publish').then(r => r.json()).then(p => p.editions[0].id)`, c.EvalAwaitPromise))
	if err != nil {
		t.Fatal(err)
	}
	view("edition", "/api/v1/editions/"+edition+"/page", "h1")
	room("dim")
	view("emissions-dim", quillon+"/emissions", ".plot canvas")
	view("ruling-dim", larkrise+"/ruling", ".evidence")
}

func ignore[T any](a c.Action[T]) c.Action[c.Void] {
	return c.Func(func(ctx context.Context, t *c.Target) error {
		_, err := a(ctx, t)
		return err
	})
}
