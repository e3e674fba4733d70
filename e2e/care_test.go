package e2e

import (
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

const (
	larkrise  = "/reviews/d45c7185-fc7d-5019-9a67-0486cb68e157"
	saltmarsh = "/reviews/f8e68b27-852a-59ba-a57a-4a17a32cf4ce"
	filtered  = "/reviews/f02e517f-5371-5537-ae43-eb8ffc2aeecf"
	quillon   = "/reviews/5d412c15-479b-59de-9efe-1724f66d2705"
)

func eval[T any](b *browser, script string) T {
	b.t.Helper()
	out, err := c.Run(b.ctx, c.Evaluate[T](script, c.EvalAwaitPromise))
	if err != nil {
		b.t.Fatal(err)
	}
	return out
}

// TestContrast holds the colours of both rooms to WCAG 2.1, 1.4.3 (AA): 4.5 to 1
// for text, by its formula for relative luminance.
func TestContrast(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS(".card")))
	for _, room := range []string{"day", "dim"} {
		eval[bool](b, fmt.Sprintf(`document.documentElement.classList.toggle('dark', %v) || true`, room == "dim"))
		colour := func(name string) float64 {
			rgb := eval[[]float64](b, `(() => { const e = document.createElement('i'); e.style.color = 'var(--`+name+`)'; document.body.append(e);
				const v = getComputedStyle(e).color.match(/[\d.]+/g).map(Number); e.remove(); return v.slice(0, 3) })()`)
			var l float64
			for i, weight := range []float64{0.2126, 0.7152, 0.0722} {
				v := rgb[i] / 255
				if v <= 0.04045 {
					v /= 12.92
				} else {
					v = math.Pow((v+0.055)/1.055, 2.4)
				}
				l += weight * v
			}
			return l
		}
		for _, ground := range []string{"sheet", "ground", "press"} {
			for _, text := range []string{"ink", "soft", "rust", "amber", "leaf", "slate"} {
				if ground != "sheet" && text != "ink" && text != "soft" {
					continue // rulings and warnings stand on the sheet
				}
				x, y := colour(text), colour(ground)
				if ratio := (max(x, y) + 0.05) / (min(x, y) + 0.05); ratio < 4.5 {
					t.Errorf("%s room: %s on %s has %.2f to 1", room, text, ground, ratio)
				}
			}
		}
	}
}

// TestNothingComesFromOutside: every file a view needs is served here.
func TestNothingComesFromOutside(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	for _, path := range []string{"/reviews", larkrise + "/power", quillon + "/emissions", "/bench", "/rule-books"} {
		b.do(c.Navigate(base+path), c.WaitVisible(c.CSS("h1")))
		for _, url := range eval[[]string](b, `performance.getEntriesByType('resource').map((r) => r.name)`) {
			if !strings.HasPrefix(url, base) && !strings.HasPrefix(url, "data:") {
				t.Errorf("%s asks for %s", path, url)
			}
		}
	}
}

// TestFirstPageIsLight: its scripts stay under 200 kB gzipped, and the plot's
// library is not among them.
func TestFirstPageIsLight(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS(".card")))
	size := eval[float64](b, `Promise.all(performance.getEntriesByType('resource').filter((r) => r.name.endsWith('.js')).map(async (r) => {
		const body = await (await fetch(r.name)).blob()
		return (await new Response(body.stream().pipeThrough(new CompressionStream('gzip'))).blob()).size
	})).then((all) => all.reduce((a, b) => a + b, 0))`)
	if size == 0 || size > 200e3 {
		t.Errorf("%.0f bytes of scripts, gzipped", size)
	}
}

// TestKeyboardAlone turns the stages by their digits, walks the boxes, starts
// the timer and reads a path's multiples without a mouse.
func TestKeyboardAlone(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/ruling"), c.WaitVisible(c.CSS(".evidence")))
	for key, css := range map[string]string{"3": "[name=entry]", "1": "[name=claim-0]", "4": ".worst", "7": "[name=freeze]", "6": ".evidence"} {
		b.alt(key)
		b.do(c.WaitVisible(c.CSS(css)))
	}
	b.do(c.Navigate(base+larkrise+"/power"), c.WaitVisible(c.CSS(".steps")))
	b.do(c.Focus(c.CSS("[name=entry]")), c.KeyEvent(kb.ArrowDown), c.KeyEvent(kb.ArrowDown))
	b.waitText(".what .level", "Low")
	b.press(" ", "Space")
	b.waitText(".timer", "of 10 s")
	b.press(" ", "Space")
	b.waitText(".timer", "rest")
	b.press("=", "Equal")
	b.do(c.WaitVisible(c.CSS(".result:not(.idle)")))
	if got := eval[string](b, `document.querySelector('[name=entry]').value`); got != "0.45 0.46 0.47 l swr 1.1 7.9v .4a" {
		t.Errorf("the same again is %q", got)
	}
	// f turns to another frequency of the band; Enter goes back to the entry line.
	eval[bool](b, `(document.querySelector('[name=entry]').value = '', document.querySelector('[name=entry]').dispatchEvent(new Event('input')), true)`)
	b.line("f")
	b.do(c.SendKeys(c.CSS("[name=frequency]"), "145,5"+kb.Enter))
	if got := eval[string](b, `document.activeElement.name + ' ' + document.querySelector('[name=frequency]').value`); got != "entry 145.500" {
		t.Errorf("after f: %q", got)
	}
	b.do(c.SendKeys(c.CSS("[name=entry]"), ".47"))
	b.waitText(".keyup .echo", "0.47 W")
	b.do(c.Navigate(base+"/bench"), c.WaitVisible(c.CSS(".steps")), c.Focus(c.CSS(".row .part")), c.KeyEvent("3"))
	b.waitText(".multiples", "439.56 MHz")
	b.named("/bench/paths")
}

// TestEveryControlOfTheBenchHasAName walks the places of the bench with what can
// be opened there open.
func TestEveryControlOfTheBenchHasAName(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	for _, at := range []struct {
		page, wait string
		opens      []string
	}{
		{"/bench/kit", "article", []string{"[name=add-kit]", "article:nth-of-type(3) .strip"}},
		{"/bench/kit", "article", []string{"article:nth-of-type(7) .strip"}},
		{"/bench/paths", ".row .part", []string{"[name=measure]"}},
		{"/bench/pads", "article", nil},
		{"/bench/meters", ".past", nil},
		{"/bench/files", ".drop", nil},
	} {
		b.do(c.Navigate(base+at.page), c.WaitVisible(c.CSS(at.wait)))
		for _, css := range at.opens {
			b.do(press(css))
		}
		b.named(at.page)
	}
}

// named holds the page to this: every control can be reached and says what it is.
func (b *browser) named(page string) {
	b.t.Helper()
	nameless := eval[[]string](b, `[...document.querySelectorAll('button, a, input, select, textarea, [tabindex="0"]')].filter((e) =>
		!(e.innerText || e.getAttribute('aria-label') || e.labels?.length)).map((e) => e.outerHTML.slice(0, 120))`)
	if len(nameless) > 0 {
		b.t.Errorf("%s, without a name: %q", page, nameless)
	}
}

// TestTheTimerKeepsToTheLoad: where only a short-time rating allows the power, it
// is said and the timer has that many seconds.
func TestTheTimerKeepsToTheLoad(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS(".card")))
	wrote := eval[float64](b, `(async () => {
		const bench = await (await fetch('/api/v1/bench')).json()
		const load = bench.kit.find((k) => k.name === 'dummy load, 50 W')
		Object.assign(load.spec.element, {max_w: 3, short_max_w: 10, short_s: 4})
		const body = JSON.stringify({version: load.version, name: load.name, spec: load.spec})
		return (await fetch('/api/v1/kit/' + load.id, {method: 'PUT', headers: {'Content-Type': 'application/json'}, body})).status
	})()`)
	if wrote != 200 {
		t.Fatalf("the load was not written: %v", wrote)
	}
	b.do(c.Navigate(base+larkrise+"/power"), c.WaitVisible(c.CSS(".steps")))
	b.waitText(".problems", "10.0 W for 4 s at most")
	b.press(" ", "Space")
	b.waitText(".timer", "of 4 s")
}

// alt is a digit with Alt held, as a keyboard sends it.
func (b *browser) alt(digit string) {
	b.t.Helper()
	b.altKey(digit, "Digit"+digit)
}

// altKey presses a key with Alt.
func (b *browser) altKey(key, code string) {
	b.t.Helper()
	for _, kind := range []input.DispatchKeyEventType{input.DispatchKeyEventTypeRawKeyDown, input.DispatchKeyEventTypeKeyUp} {
		event := input.DispatchKeyEventParams{Type: kind, Modifiers: 1, Key: key, Code: code}
		if _, err := c.Call(b.ctx, input.DispatchKeyEvent, event); err != nil {
			b.t.Fatal(err)
		}
	}
}

// press is a key as a keyboard sends it: what the page prevents is not typed.
func (b *browser) press(key, code string) {
	b.t.Helper()
	for _, kind := range []input.DispatchKeyEventType{input.DispatchKeyEventTypeKeyDown, input.DispatchKeyEventTypeKeyUp} {
		event := input.DispatchKeyEventParams{Type: kind, Key: key, Code: code}
		if kind == input.DispatchKeyEventTypeKeyDown {
			event.Text = key
		}
		if _, err := c.Call(b.ctx, input.DispatchKeyEvent, event); err != nil {
			b.t.Fatal(err)
		}
	}
}

// TestDangerBlocks: a path that would burn cannot be gone through, and a reading
// on it is not taken; what was typed stays.
func TestDangerBlocks(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/reviews"), c.SendKeys(c.CSS("[name=model]"), "Big one"+kb.Enter), c.WaitVisible(c.CSS("[name=claim-0]")))
	b.do(c.SendKeys(c.CSS("[name=claim-0]"), "2m 200"), c.WaitVisible(c.CSS("figure .row")), press(".tab[href$=power]"))
	b.waitText(".problems .danger", "dummy load, 50 W takes 50.0 W but")
	b.do(c.WaitVisible(c.CSS("[name=preflight][disabled]")), c.SendKeys(c.CSS("[name=entry]"), "180"+kb.Enter))
	b.waitText(".keyup .echo", "in danger")
	if got := eval[string](b, `document.querySelector('[name=entry]').value`); got != "180" {
		t.Errorf("what was typed became %q", got)
	}
	b.waitText(".log", "None yet")
}

// TestRefusedFileSaysItsLine, and nothing is kept of it.
func TestRefusedFileSaysItsLine(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	file := filepath.Join(t.TempDir(), "broken.csv")
	if err := os.WriteFile(file, []byte("MHz;dBm\n144;-90\n145;-91\n145;-92\n"), 0o644); err != nil {
		t.Fatal(err)
	}
	b.do(c.Navigate(base+quillon+"/emissions"), c.WaitVisible(c.CSS(".plot canvas")), press("[name=view-take]"), c.WaitEnabled(c.CSS("[name=preflight]")), press("[name=preflight]"), c.WaitVisible(c.CSS(".drop")))
	b.do(c.SetUploadFiles(c.CSS("[name=sweep]"), []string{file}))
	b.waitText(".trouble", "broken.csv: line 4: frequencies must rise")
}

// elsewhere changes a field of the subject of a review as another window would.
func (b *browser) elsewhere(review, field, value string) {
	b.t.Helper()
	status := eval[float64](b, fmt.Sprintf(`fetch('/api/v1%s').then((r) => r.json()).then((r) => fetch('/api/v1%[1]s', {method: 'PUT',
		headers: {'Content-Type': 'application/json'}, body: JSON.stringify({version: r.version, rules: r.rules,
		claims: r.claims.map(({text, source, read_on}) => ({text, source, read_on})), subject: {...r.subject, %[2]s: %[3]q}})})).then((r) => r.status)`, review, field, value))
	if status != 200 {
		b.t.Fatalf("the other window got %v", status)
	}
}

func kept(review string) string {
	return "fetch('/api/v1" + review + "').then((r) => r.json()).then((r) => r.subject.firmware + ' ' + r.subject.serial)"
}

// TestTwoWindowsOneRecord: what another window changed comes in without a word where it
// does not touch what is typed here, and what was typed last is never lost.
func TestTwoWindowsOneRecord(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/radio"), c.WaitVisible(c.CSS("[name=serial]")))
	b.elsewhere(larkrise, "firmware", "1.5")
	b.waitText("h1", "firmware 1.5") // told at once
	b.do(c.SendKeys(c.CSS("[name=serial]"), "-B"))
	b.waitFor(kept(larkrise), "1.5 L2-00418-B")
	// Several figures in one field: what is none stays, and keeps nothing else from being saved. It is none
	// from its first letter on, however slowly it is typed.
	clocks := `fetch('/api/v1` + larkrise + `').then((r) => r.json()).then((r) => String(r.subject.clocks_hz))`
	b.do(c.SendKeys(c.CSS("[name=clocks]"), "x26 12,8"+kb.Tab), c.WaitVisible(c.CSS(".trio [role=alert]")))
	b.waitFor(clocks, "undefined")
	b.do(c.SendKeys(c.CSS("[name=clocks]"), kb.Home+kb.Delete+kb.Tab))
	b.waitFor(clocks, "26000000,12800000")
	// What was typed last is not lost, nor written elsewhere, when another review is opened at once.
	b.do(c.SendKeys(c.CSS("[name=serial]"), "D"), press(".rail a[href='/reviews']"), c.WaitVisible(c.CSS(".card a[href*='5d412c15']")), press(".card a[href*='5d412c15']"))
	b.waitText("h1", "Quillon Q7, serial 77-1093")
	b.waitFor(kept(larkrise), "1.5 L2-00418-BD")
	b.waitFor(`fetch('/api/v1`+quillon+`').then((r) => r.json()).then((r) => r.subject.serial)`, "77-1093")
}

// waitFor waits until a script gives want.
func (b *browser) waitFor(script, want string) {
	b.t.Helper()
	for until := time.Now().Add(patience); ; {
		got := eval[string](b, script)
		if got == want {
			return
		}
		if time.Now().After(until) {
			b.t.Fatalf("%s never gave %q, but %q", script, want, got)
		}
		time.Sleep(100 * time.Millisecond)
	}
}

func (b *browser) waitValue(css, want string) {
	b.t.Helper()
	b.waitFor(fmt.Sprintf("document.querySelector(%q)?.value ?? ''", css), want)
}

// TestSweepIsDoubtedAndTakenBack: a sweep in doubt does not count, with its
// reason, until that is taken back.
func TestSweepIsDoubtedAndTakenBack(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".worst [data-verdict=pass]")))
	b.do(press(".sweep .words button:nth-of-type(2)"), c.SendKeys(c.CSS("[aria-label=Reason]"), "loose connector"+kb.Enter))
	b.do(c.WaitVisible(c.CSS(".worst [data-verdict='not-covered']")))
	b.waitText(".sweep.suspect", "suspect: loose connector")
	b.do(press(".sweep .words button"), c.SendKeys(c.CSS("[aria-label=Reason]"), "tightened and repeated"+kb.Enter))
	b.do(c.WaitVisible(c.CSS(".worst [data-verdict=pass]")))
}
