package e2e

import (
	"context"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"golang.org/x/image/draw"

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
	view("power", larkrise+"/power", ".steps", press("[name=preflight]"), c.SendKeys(c.CSS("[name=entry]"), "4.71 4.86 4.8 h swr 1.1 7.8v"), c.WaitVisible(c.CSS(".result:not(.idle)")))
	view("sheet", drover+"/sheet", ".steps li")
	view("emissions", quillon+"/emissions", ".plot canvas")
	view("emissions-take", quillon+"/emissions", ".plot canvas", press("[name=view-take]"), c.WaitVisible(c.CSS(".steps")))
	view("emissions-states", drover+"/emissions", "[name=view-states]", press(".boxes button:nth-of-type(4)"), press("[name=view-states]"), c.WaitVisible(c.CSS("[data-comb]")))
	view("ruling", drover+"/ruling", ".evidence", press("tr:nth-of-type(2) td:last-of-type .box"))
	view("publish", quillon+"/publish", "iframe")
	view("scratch", "/scratch", "[data-calc=noise] .out b")
	view("bench", "/bench/paths", ".row .part", press("nav[aria-label='Kept paths'] a:nth-of-type(6)"), c.WaitVisible(c.CSS(".found")))
	view("bench-kit", "/bench/kit", "article", press("article:nth-of-type(6) .strip"), c.WaitVisible(c.CSS(".editor")))
	view("rule-books", "/rule-books", "[data-book-plot]")
	edition, err := c.Run(b.ctx, c.Evaluate[string](`fetch('/api/v1`+quillon+`/publish').then(r => r.json()).then(p => p.editions[0].id)`, c.EvalAwaitPromise))
	if err != nil {
		t.Fatal(err)
	}
	view("edition", "/editions/"+edition, "h1")
	b.do(c.EmulateViewport(390, 844))
	view("edition-narrow", "/editions/"+edition, "h1")
	b.do(c.EmulateViewport(1280, 800))
	view("compare", "/compare", "[data-row]", press("[name=compare-margins]"), c.WaitVisible(c.CSS(".bar")))
	// The further tests, in one picture.
	tests := []string{}
	further := func(kind, review, wait string, more ...c.Action[c.Void]) {
		t.Helper()
		view("further-"+kind, review+"/"+kind, wait, more...)
		tests = append(tests, filepath.Join(dir, "further-"+kind+".png"))
	}
	types := func(text string) c.Action[c.Void] {
		return c.Steps(press("[name=entry]"), c.SendKeys(c.CSS("[name=entry]"), text), c.WaitVisible(c.CSS(".result:not(.idle)")))
	}
	second := press(".boxes button:nth-of-type(2)")
	further("deviation", drover, "[data-nulls]", second, c.SendKeys(c.CSS("[name=within]"), "5"), types("+2.41 -2.2"))
	further("occupied", drover, "[name=resolution]", second, c.WaitVisible(c.CSS("path.shown")))
	further("frequency", drover, "[name=reference]", second, c.SendKeys(c.CSS("[name=reference]"), "0.1"), types("+238Hz"))
	further("antenna", drover, "[name=cable]", second, types("144 1.9 146 1.3 148 1.6"))
	further("receiver", drover, "[name=loss]", second, types("s7 -105"))
	further("supply", drover, "[name=ammeter]", second, c.SendKeys(c.CSS("[name=ammeter]"), "2"), types("high 5.7a 13.6v 24w"))
	room("dim")
	further("battery", saltmarsh, "[name=cutoff]", c.WaitVisible(c.CSS("path.shown")))
	further("features", drover, ".claim", types("partly splash proof"))
	if os.Getenv("TALLOAK_SCREENSHOTS") != "" {
		of := []string{}
		for _, name := range instrumentViews {
			of = append(of, filepath.Join(dir, "of-"+name+".png"))
		}
		together(t, filepath.Join(dir, "instruments.png"), of, 960, 600)
	}
	together(t, filepath.Join(dir, "more-tests.png"), tests, 640, 400)
	// The dim room has the same hues: four views of it.
	dim := []string{}
	for _, v := range [][3]string{{"power", larkrise + "/power", ".steps"}, {"emissions", quillon + "/emissions", ".plot canvas"}, {"ruling", drover + "/ruling", ".evidence"}, {"bench", "/bench/paths", ".row .part"}} {
		view("dim-"+v[0], v[1], v[2])
		dim = append(dim, filepath.Join(dir, "dim-"+v[0]+".png"))
	}
	together(t, filepath.Join(dir, "dim.png"), dim, 960, 600)
}

// together puts pictures into one, two beside each other, each w by h, and takes them away.
func together(t *testing.T, into string, of []string, w, h int) {
	t.Helper()
	const gap = 12
	lines := (len(of) + 1) / 2
	out := image.NewRGBA(image.Rect(0, 0, 2*w+gap, lines*h+(lines-1)*gap))
	draw.Draw(out, out.Bounds(), image.NewUniform(color.Gray{0x88}), image.Point{}, draw.Src)
	for i, at := range of {
		file, err := os.Open(at)
		if err != nil {
			t.Fatal(err)
		}
		picture, err := png.Decode(file)
		_ = file.Close()
		if err != nil {
			t.Fatal(err)
		}
		x, y := i%2*(w+gap), i/2*(h+gap)
		draw.CatmullRom.Scale(out, image.Rect(x, y, x+w, y+h), picture, picture.Bounds(), draw.Src, nil)
		_ = os.Remove(at)
	}
	file, err := os.Create(into)
	if err != nil {
		t.Fatal(err)
	}
	defer file.Close()
	if err := png.Encode(file, out); err != nil {
		t.Fatal(err)
	}
}

func ignore[T any](a c.Action[T]) c.Action[c.Void] {
	return c.Func(func(ctx context.Context, t *c.Target) error {
		_, err := a(ctx, t)
		return err
	})
}
