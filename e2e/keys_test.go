package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// typist counts the keys of a person who has no mouse.
type typist struct {
	*browser
	keys int
}

// types types into whatever has the focus, key by key.
func (p *typist) types(text string) {
	p.t.Helper()
	for _, r := range text {
		p.keys++
		p.do(c.KeyEvent(string(r)))
	}
}

func (p *typist) stage(digit string) {
	p.t.Helper()
	p.keys++ // Alt is held, not typed
	p.alt(digit)
}

func (p *typist) command(key, code string) {
	p.t.Helper()
	p.keys++
	p.press(key, code)
}

// TestFromStartToEditionByKeys: two bands of three levels, power alone, from Start a
// review to a frozen edition without a mouse and with at most 90 keys; the focus is
// where one is about to type, all the way.
func TestFromStartToEditionByKeys(t *testing.T) {
	base := serve(t, true)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS(".card")), c.Focus(c.CSS("[name=maker]")))
	p.types(kb.Tab + "K2" + kb.Enter)
	p.focused("claim-0")
	p.types("2m 5/2/1" + kb.Tab)
	p.focused("claim-1")
	p.types("70cm 4/2/1" + kb.Tab + kb.Tab)
	p.waitFor("document.activeElement.ariaLabel", "Source of claim 1")
	p.types("box")
	p.waitText("figure .band:nth-of-type(2)", "4 W")
	// The disclosure: radios are walked by arrows, as in any page.
	for p.shown("document.activeElement.name") != "come-by" {
		p.types(kb.Tab)
	}
	p.types(" ")
	for p.shown("document.activeElement.name") != "interest" {
		p.types(kb.Tab)
	}
	p.types(" ")
	p.waitValue("[aria-label='Source of claim 2']", "box")

	p.stage("3")
	p.focused("entry")
	p.do(c.WaitEnabled(c.CSS("[name=preflight]")))
	p.command("c", "KeyC")
	p.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
	for i, reading := range []string{"4.9", "2", "1", "3.9", "2", "1"} {
		p.focused("entry")
		if i > 0 {
			p.types(kb.ArrowDown)
		}
		p.do(c.WaitVisible(c.CSS(".steps")), c.WaitNotPresent(c.CSS("[name=preflight]")))
		p.types(reading + kb.Enter)
		p.waitValue("[name=entry]", "")
		p.waitText(".log li", reading)
	}
	p.stage("7")
	p.do(c.WaitVisible(c.CSS("[name=freeze]:not([disabled])")))
	for p.shown("document.activeElement.name") != "freeze" {
		p.types(kb.Tab)
	}
	p.types(kb.Enter)
	p.waitText(".editions", "Edition 1")
	if p.keys > 90 {
		t.Errorf("%d keys, 90 are the most", p.keys)
	}
	t.Logf("%d keys", p.keys)
}

func (b *browser) shown(script string) string { return eval[string](b, script+" ?? ''") }

// TestTheFocusIsWhereOneTypes: after every step on the key-up screen it is in the line, a
// reason's field has it when it opens, Escape leaves a field for the page, and it is never
// on nothing.
func TestTheFocusIsWhereOneTypes(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.keyUp(base)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.8 h"+kb.Enter))
	b.waitText(".log li", "4.8 h")
	b.focused("entry")
	b.press("x", "KeyX")
	b.waitFor("document.activeElement.ariaLabel ?? ''", "Reason for striking")
	b.do(c.KeyEvent("slip"), c.KeyEvent(kb.Enter))
	b.waitText(".log li.out", "slip")
	b.focused("entry")
	b.press("x", "KeyX")
	b.waitFor("document.activeElement.ariaLabel ?? ''", "Reason for striking")
	b.do(c.KeyEvent(kb.Escape))
	b.focused("entry")
	b.do(press(".log li .words button"))
	b.waitFor("document.activeElement.ariaLabel ?? ''", "Reason")
	// Escape leaves the line for the page; nothing is lost of what is in it.
	b.do(c.Focus(c.CSS("[name=entry]")), c.SendKeys(c.CSS("[name=entry]"), "4.7"), c.KeyEvent(kb.Escape))
	b.waitFor("String(document.activeElement.classList.contains('leaf'))", "true")
	b.waitValue("[name=entry]", "4.7")
	for _, digit := range []string{"1", "3", "4", "6", "7"} {
		b.alt(digit)
		b.waitFor("String(document.activeElement !== document.body)", "true")
	}
}

// TestDigitsTurnNoPage: a bare digit is always something typed, wherever the focus is; with
// Alt it turns to a stage.
func TestDigitsTurnNoPage(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.keyUp(base)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.71 6 7"))
	eval[bool](b, "(document.activeElement.blur(), true)") // as a screen did that lost the focus
	b.do(c.KeyEvent("6"), c.KeyEvent("7"))
	b.do(c.Sleep(2*time.Second), c.KeyEvent("6")) // nor when a person has stopped
	if at := b.shown("location.pathname"); !strings.HasSuffix(at, "/power") {
		t.Fatalf("turned to %s", at)
	}
	b.alt("6")
	b.do(c.WaitVisible(c.CSS(".evidence")))
	b.waitText(".tabs", "Alt 3") // and it is written beside them
}
