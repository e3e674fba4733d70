package e2e

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	c "github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
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
	view("power", larkrise+"/power", ".steps", press("[name=preflight]"), c.SendKeys(c.CSS("[name=entry]"), "4.71 4.86 4.8 h swr 1.1 7.8v"), c.WaitVisible(c.CSS(".result:not(.idle)")))
	view("sheet", drover+"/sheet", ".steps li")
	view("power-curves", drover+"/power", ".steps", c.SendKeys(c.CSS("[name=entry]"), "v"+kb.Enter), c.WaitVisible(c.CSS("[data-curve=supply] .refused")))
	view("emissions", quillon+"/emissions", ".plot canvas")
	view("emissions-take", quillon+"/emissions", ".plot canvas", press("[name=view-take]"), c.WaitVisible(c.CSS(".steps")))
	view("emissions-levels", larkrise+"/emissions", ".plot canvas", press("[name=view-levels]"), c.WaitVisible(c.CSS("[data-levels-say]")))
	view("emissions-states", drover+"/emissions", "[name=view-states]", press(".boxes button:nth-of-type(4)"), press("[name=view-states]"), c.WaitVisible(c.CSS("[data-comb]")))
	view("ruling", quillon+"/ruling", ".evidence")
	view("publish", quillon+"/publish", "iframe")
	view("bench", "/bench/paths", ".row .part", press("nav[aria-label='Kept paths'] a:nth-of-type(6)"), c.WaitVisible(c.CSS(".found")))
	view("bench-kit", "/bench/kit", "article", press("article:nth-of-type(6) .strip"), c.WaitVisible(c.CSS(".editor")))
	view("bench-pads", "/bench/pads", "article")
	view("bench-meters", "/bench/meters", ".past", c.SendKeys(c.CSS("[name=row-0-name]"), "old handheld, high"), c.SendKeys(c.CSS("[name=row-0-0]"), "4.71 4.8"), c.SendKeys(c.CSS("[name=row-0-1]"), "4.55"),
		c.SendKeys(c.CSS("[name=row-1-name]"), "mobile, low"), c.SendKeys(c.CSS("[name=row-1-0]"), "9.9"), c.SendKeys(c.CSS("[name=row-1-1]"), "9.62"), c.WaitVisible(c.CSS(".sheet .offset")))
	b.generatorPath()
	view("sensitivity", larkrise+"/radio", "[name=claim-2]", c.SendKeys(c.CSS("[name=claim-2]"), "2m sensitivity 0.25uV"), c.WaitVisible(c.CSS(".claim:nth-of-type(3) .echo")), press(".tab[href$=sensitivity]"), c.WaitVisible(c.CSS("[name=entry]")),
		c.SendKeys(c.CSS("[name=entry]"), "1.9uV ? by the bench"+kb.Enter), c.WaitVisible(c.CSS(".log li")), c.SendKeys(c.CSS("[name=entry]"), "2.2uV"), c.WaitVisible(c.CSS(".result:not(.idle)")))
	view("rule-books", "/rule-books", "[data-book-plot]")
	edition, err := c.Run(b.ctx, c.Evaluate[string](`fetch('/api/v1`+quillon+`/publish').then(r => r.json()).then(p => p.editions[0].id)`, c.EvalAwaitPromise))
	if err != nil {
		t.Fatal(err)
	}
	view("edition", "/api/v1/editions/"+edition+"/page", "h1")
	room("dim")
	view("emissions-dim", quillon+"/emissions", ".plot canvas")
}

func ignore[T any](a c.Action[T]) c.Action[c.Void] {
	return c.Func(func(ctx context.Context, t *c.Target) error {
		_, err := a(ctx, t)
		return err
	})
}
