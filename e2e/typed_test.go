package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

const power = "POST /api/v1" + larkrise + "/measure/power$"

// TestEachLineIsAReading: over a server that stands still figures are typed one after another,
// the line is free for each, and what is kept is what was typed, in its order.
func TestEachLineIsAReading(t *testing.T) {
	s := between(t, serve(t, true))
	p := &typist{browser: open(t)}
	p.keyUp(s.URL)
	s.luck(held, power, -1)
	for _, text := range []string{"3.1", "3.2", "3.2", "3.3"} {
		p.types(text + kb.Enter)
		p.waitValue("[name=entry]", "")
	}
	p.types("4.5")
	p.waitFor("String(document.querySelectorAll('[data-waiting]').length)", "4")
	s.lift()
	p.do(c.WaitNotPresent(c.CSS("[data-waiting]")))
	p.waitValue("[name=entry]", "4.5")
	p.waitFor(fmt.Sprintf("fetch('/api/v1%s/measure/power').then((r) => r.json()).then((all) => all.slice(-4).map((r) => r.text).join(' '))", larkrise), "3.1 3.2 3.2 3.3")
}

// TestALineStaysWithItsBox: what stands in a line is meant for the band and level it was typed
// at, and for no other; what is told beside a look goes with it, over stages and reloads.
func TestALineStaysWithItsBox(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.keyUp(base)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.71"), press(".boxes button:nth-of-type(2)"))
	b.waitValue("[name=entry]", "")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "1.9"), press(".boxes button:nth-of-type(1)"))
	b.waitValue("[name=entry]", "4.71")
	b.do(c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".boxes")), press(".boxes button:nth-of-type(2)"), press("[name=view-take]"), c.WaitVisible(c.CSS("[name=look]")))
	b.do(c.SendKeys(c.CSS("[name=look]"), "30-1000 floor -70"), press("[name=told-state]"), c.WaitVisible(c.CSS("[name=state]")), c.SendKeys(c.CSS("[name=state]"), "tuner in"), c.SendKeys(c.CSS("[name=held]"), "45"))
	b.do(c.SetUploadFiles(c.CSS("[name=screen]"), []string{screen(t, map[float64]float64{146.52: -17})}), c.WaitVisible(c.CSS("[data-screen]")))
	b.waitFor("String(document.querySelector('[data-screen]').naturalWidth)", "1100")
	b.click(100, 460)
	b.focused("axis-x1") // what the place stands for is typed next
	b.do(c.KeyEvent("100"))
	b.click(1000, 460)
	b.do(press(".boxes button:nth-of-type(1)"), press("[name=view-take]"), c.WaitVisible(c.CSS("[name=look]")))
	b.waitValue("[name=look]", "")
	b.do(c.WaitNotPresent(c.CSS("[name=told-state]:not(.soft)")))
	b.do(press(".tab[href$=power]"), c.WaitVisible(c.CSS("[name=entry]")), c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".boxes")), press(".boxes button:nth-of-type(2)"), press("[name=view-take]"), c.WaitVisible(c.CSS("[data-screen]")))
	for css, want := range map[string]string{"[name=look]": "30-1000 floor -70", "[name=axis-x1]": "100"} {
		b.waitValue(css, want)
	}
	b.waitText("[data-told]", "tuner in")
	b.waitText("[data-told]", "held 45 s")
	b.waitFor("String(document.querySelectorAll('.picture svg line').length)", "2")
	b.do(c.Navigate(base+larkrise+"/power"), c.WaitVisible(c.CSS(".steps")), press(".boxes button:nth-of-type(2)"))
	b.waitValue("[name=entry]", "1.9")
}

// click presses a place of the picture of a screen, in its own points.
func (b *browser) click(x, y float64) {
	b.t.Helper()
	eval[bool](b, fmt.Sprintf(`(() => { const i = document.querySelector('[data-screen]'), r = i.getBoundingClientRect()
		i.dispatchEvent(new MouseEvent('click', { bubbles: true, clientX: r.left + %g / 1100 * r.width, clientY: r.top + %g / 500 * r.height })); return true })()`, x, y))
}

// TestWhatIsNotTakenHoldsNothingUp: a fact that the server fails at five times, or refuses, is
// seen, mended and discarded by the person, and those behind it go on.
func TestWhatIsNotTakenHoldsNothingUp(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	b.keyUp(s.URL)
	s.luck(fails, power, 5)
	b.line("4.61 h ? the server chokes")
	b.line("4.62 h ? behind it")
	b.waitText("[data-aside]", "The server fails at")
	b.waitText(".log li", "behind it")
	b.waitFor(readings("4.61 h ? the server chokes"), "0")
	b.do(c.Reload(), c.WaitVisible(c.CSS(".steps"))) // it is tried again, and this time goes
	b.waitFor(readings("4.61 h ? the server chokes"), "1")
	b.do(c.WaitNotPresent(c.CSS("[data-aside]")))
	// What is refused after it left the line comes back to it when the person says so.
	s.luck(away, "/measure/power/preview", -1)
	b.line("4.6x3")
	b.waitText("[data-aside]", "Not taken")
	b.line("4.64 h ? the next")
	b.waitText(".log li:first-child", "the next")
	b.do(c.Reload(), c.WaitVisible(c.CSS("[data-aside] [name=mend]")), c.SendKeys(c.CSS("[name=entry]"), "4"), press("[name=mend]"))
	b.waitText(".leaf", "Something else stands in the line")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Backspace), press("[name=mend]"))
	b.waitValue("[name=entry]", "4.6x3")
	b.do(c.WaitNotPresent(c.CSS("[data-aside]")))
	b.line("") // refused once more
	b.do(c.WaitVisible(c.CSS("[data-aside] [name=discard]")), press("[data-aside] [name=discard]"), c.WaitNotPresent(c.CSS("[data-aside]")))
}

// TestWordsKeepTheirLetters: no word loses its first letter to a command, in any kind.
func TestWordsKeepTheirLetters(t *testing.T) {
	base := serve(t, true)
	p := &typist{browser: open(t)}
	p.keyUp(base)
	for _, text := range []string{"fr .4", "f 146.54", "swr 1.3", "mid 2", "med 2"} {
		path := p.shown("document.querySelector('aside .el-select__placeholder, aside .el-select').innerText")
		for _, r := range text {
			p.press(string(r), "")
		}
		p.waitValue("[name=entry]", text)
		if now := p.shown("document.querySelector('aside .el-select__placeholder, aside .el-select').innerText"); now != path {
			t.Errorf("%q turned the path from %q to %q", text, path, now)
		}
		eval[bool](p.browser, "(document.querySelector('[name=entry]').select(), true)")
		p.types(kb.Backspace)
	}
	// What goes over the wiring by its first letter is taken back where a word follows.
	p.do(c.Navigate(base+quillon+"/power"), c.WaitVisible(c.CSS("[name=entry]")), c.WaitEnabled(c.CSS("[name=preflight]")))
	p.focused("entry")
	for _, r := range "ch 7" {
		p.press(string(r), "")
	}
	p.waitValue("[name=entry]", "ch 7")
	p.do(c.WaitVisible(c.CSS("[name=preflight]")))
	eval[bool](p.browser, "(document.querySelector('[name=entry]').select(), true)")
	p.types(kb.Backspace)
	p.generatorPath()
	p.alt("5")
	p.do(c.WaitVisible(c.CSS("[data-testid=figure]")))
	p.focused("entry")
	for _, r := range "f 146.54" {
		p.press(string(r), "")
	}
	p.waitValue("[name=entry]", "f 146.54")
}

// TestAPressOnANameAcceptsNothing: the mark of what is typical stands beside the name of a
// field, and is pressed by itself.
func TestAPressOnANameAcceptsNothing(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/bench/kit"), c.WaitVisible(c.CSS("[name=add-kit]")), press("[name=add-kit]"), press("[name=kind-attenuator]"), c.WaitVisible(c.CSS(".editor .typical")))
	marks := "String(document.querySelectorAll('.editor .typical').length)"
	before := b.shown(marks)
	eval[bool](b, "([...document.querySelectorAll('.editor label')].forEach((l) => l.click()), true)")
	b.waitText(".state", "kept")
	if now := b.shown(marks); now != before || before == "0" {
		t.Errorf("%s marks of %s after the names were pressed", now, before)
	}
	b.named("/bench/kit")
}

// TestTheFocusIsNeverOnNothing: where Escape leaves a list, where what had the focus is gone,
// on opening a place; and the keys of the page work from there.
func TestTheFocusIsNeverOnNothing(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	somewhere := func(after string) {
		t.Helper()
		b.waitFor("String(document.activeElement !== document.body)", "true")
		if b.t.Failed() {
			t.Fatalf("after %s", after)
		}
	}
	for _, at := range []string{"/bench/paths", "/bench/kit", "/rule-books", "/reviews"} {
		b.do(c.Navigate(base+at), c.WaitVisible(c.CSS("h1")))
		somewhere(at)
	}
	b.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS("[name=new-path]")), press("[name=new-path]"))
	b.focused("path-name")
	// What is sought is found by any part of its name, and the search is free for the next.
	b.do(c.SendKeys(c.CSS("[name=sought]"), "pad second"+kb.Enter))
	b.waitText(".row .part", "second pad")
	b.waitValue("[name=sought]", "")
	b.do(c.SendKeys(c.CSS("[name=sought]"), kb.Enter)) // and an empty one adds nothing
	b.waitFor("String(document.querySelectorAll('.row .part').length)", "1")
	b.waitText(".shelf button", "second pad") // the last used stands first

	b.do(c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".boxes")), press(".boxes button:nth-of-type(2)"), c.WaitEnabled(c.CSS("[name=preflight]")))
	b.do(c.Focus(c.CSS(".path .el-select input")), c.KeyEvent(kb.Escape))
	b.waitFor("String(document.activeElement.classList.contains('leaf'))", "true")
	b.choose(".path .el-select input", "pads into the bench analyzer")
	b.do(c.WaitEnabled(c.CSS("[name=preflight]")))
	b.press("c", "KeyC") // works from the list
	b.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
	b.focused("look")
	b.do(c.SendKeys(c.CSS("[name=look]"), "30-1600 -85 h-17-80"), c.WaitVisible(c.CSS("[name=keep-look]")), press("[name=keep-look]"), c.WaitVisible(c.CSS(".plot canvas")))
	somewhere("a look was kept")
	b.press("a", "KeyA")
	b.do(c.WaitVisible(c.CSS("[data-board]")), c.KeyEvent(kb.Escape))
	somewhere("the board of states and Escape")
	b.press("y", "KeyY")
	b.do(c.WaitVisible(c.CSS(".plot canvas")))
}

// TestWhatIsFrozenIsFrozenOnce: the edition is announced, has the focus and is linked; of the
// same facts there is no other, whoever asks.
func TestWhatIsFrozenIsFrozenOnce(t *testing.T) {
	base := serve(t, true)
	b, other := open(t), open(t)
	for _, w := range []*browser{b, other} {
		w.keyUp(base)
	}
	b.line("4.66 h ? one more")
	b.waitText(".log li:first-child", "one more")
	for _, w := range []*browser{b, other} {
		w.do(press(".tab[href$=publish]"))
		w.toFreeze()
	}
	before := "fetch('/api/v1" + larkrise + "/publish').then((r) => r.json()).then((p) => String(p.editions.length))"
	n := b.shown(before)
	// Both have seen the same, and press in the same moment.
	basis := eval[string](b, "fetch('/api/v1"+larkrise+"/publish').then((r) => r.json()).then((p) => p.basis)")
	b.do(press("[name=freeze]"))
	b.waitText("[data-frozen]", "is frozen")
	b.waitFor("String(document.activeElement.href ?? '').replace(/.*\\/(\\w+)\\/[0-9a-f-]+$/, '$1')", "editions")
	b.waitText(".side", "there is nothing to freeze")
	b.do(c.WaitVisible(c.CSS("[name=freeze][disabled]")))
	other.do(c.WaitVisible(c.CSS("[name=freeze][disabled]"))) // it heard of it
	for range 3 {
		if got := eval[float64](b, fmt.Sprintf("fetch('/api/v1%s/editions', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({id: crypto.randomUUID(), basis: %q})}).then((r) => r.status)", larkrise, basis)); got != 409 {
			t.Errorf("%v, 409 was wanted", got)
		}
	}
	if now := b.shown(before); now != string(n[0]+1) {
		t.Errorf("%s editions, one more than %s was wanted", now, n)
	}
}

// TestTwoWindowsKeepTheirLines: what stands in a line of one window is not lost to what is typed
// in another that was open before.
func TestTwoWindowsKeepTheirLines(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.keyUp(base)
	ctx, stop := c.NewContext(b.ctx)
	t.Cleanup(stop)
	if err := c.Do(ctx); err != nil {
		t.Fatal(err)
	}
	other := &browser{t, ctx}
	front := func(w *browser) { // what lies behind another is drawn now and then
		if _, err := c.Call(w.ctx, page.BringToFront, cdp.Empty{}); err != nil {
			t.Fatal(err)
		}
	}
	other.do(c.Navigate(base+quillon+"/power"), c.WaitVisible(c.CSS("[name=entry]")))
	front(b)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.71"))
	// Neither answers what the other says: they would never stop.
	if said := eval[float64](b, `new Promise((done) => { let n = 0; const heard = new BroadcastChannel('talloak figures'); heard.onmessage = () => n++; new BroadcastChannel('talloak figures').postMessage({}); setTimeout(() => done(n), 1500) })`); said > 20 {
		t.Errorf("two key-up screens said %v things to each other in a moment", said)
	}
	front(other)
	other.do(c.SendKeys(c.CSS("[name=entry]"), "5.55"))
	front(b)
	b.do(c.Reload(), c.WaitVisible(c.CSS("[name=entry]")))
	b.waitValue("[name=entry]", "4.71")
	front(other)
	other.do(c.Reload(), c.WaitVisible(c.CSS("[name=entry]")))
	other.waitValue("[name=entry]", "5.55")
}
