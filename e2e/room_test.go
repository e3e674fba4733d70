package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestAFirstAfternoonGoesByItself: from an empty installation, each step said where it is done, found out from what
// there is, left and taken up again.
func TestAFirstAfternoonGoesByItself(t *testing.T) {
	base := serve(t, false)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS("[data-empty]")), press("[name=first-afternoon]"), c.WaitVisible(c.CSS("[data-guide]")))
	p.waitText("[data-guide]", "1 of 7")
	p.do(press(".tab[href$=power]"))
	p.waitText("[data-guide]", "2 of 7")
	p.focused("entry")
	p.do(c.WaitEnabled(c.CSS("[name=preflight]")))
	p.press("c", "KeyC")
	p.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
	for i, typed := range []string{"4.8 h", "0.97 l", "4.81 h"} {
		if i > 0 {
			p.focused("entry")
			p.types([]string{"", kb.ArrowDown, kb.ArrowUp}[i])
			p.waitText(".what .level", []string{"", "Low", "High"}[i])
		}
		p.types(typed + kb.Enter)
		p.waitText(".log li", typed)
		p.waitText("[data-guide]", []string{"3 of 7", "4 of 7", "5 of 7"}[i])
	}
	// It is left, and taken up at the same step, over a reload too.
	p.do(press("[name=leave-guide]"), c.WaitNotPresent(c.CSS("[data-guide]")), c.Reload(), c.WaitVisible(c.CSS("[name=take-up]")), press("[name=take-up]"))
	p.waitText("[data-guide]", "5 of 7")
	p.do(press("[data-guide] a"), c.WaitVisible(c.CSS("[name=look]")), c.WaitEnabled(c.CSS("[name=preflight]")))
	p.focused("look")
	p.press("c", "KeyC")
	p.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
	p.types("30-1600 -80 h-13-75")
	p.do(c.WaitVisible(c.CSS("[data-look]")))
	p.types(kb.Enter)
	p.waitText("[data-guide]", "6 of 7")
	p.do(press("[data-guide] a"), c.WaitVisible(c.CSS(".evidence")))
	p.waitText("[data-guide]", "7 of 7")
	p.waitFor("fetch(document.querySelector('[name=see-edition]').href).then((r) => r.text()).then((t) => String(t.includes('Wren')))", "true")
	p.do(ignore(c.Evaluate[any]("window.open = () => null; document.querySelector('[name=see-edition]').dispatchEvent(new MouseEvent('click', {cancelable: true, ctrlKey: true}))")))
	p.waitText("[data-guide]", "That was it")
}

// TestFiveWattsOnALoadOfFive: kept, marked, where it was read already; keyed briefly at one's own risk, with its
// seconds; or after what the load takes for a short time was said on the spot.
func TestFiveWattsOnALoadOfFive(t *testing.T) {
	base := serve(t, false)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS("[name=bench-line]")))
	p.focused("bench-line")
	for _, line := range []string{"inline meter 100-500MHz 5% 60W", "load 5W 1GHz", "meter, load"} {
		p.types(line)
		p.do(c.WaitVisible(c.CSS("[data-understood]")))
		p.types(kb.Enter)
		p.waitValue("[name=bench-line]", "")
	}
	p.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS("[name=model]")), c.Focus(c.CSS("[name=model]")))
	p.types("K5" + kb.Enter)
	p.focused("claim-0")
	p.types("2m 5/1")
	p.waitText("figure .band", "5 W")
	p.stage("3")
	p.focused("entry")
	p.do(c.WaitVisible(c.CSS("[data-risk]")))
	p.types("4.8" + kb.Enter)
	p.waitText(".keyup .echo", "in danger")
	p.waitValue("[name=entry]", "4.8")
	p.do(press("[name=taken-already]"))
	p.waitText(".log li", "4.8")
	p.waitText(".doubt, .others", "before the danger was seen")
	p.do(press("[name=at-my-risk]"), c.WaitVisible(c.CSS("[data-at-risk]")), c.WaitEnabled(c.CSS("[name=preflight]")), press("[name=preflight]"), c.WaitNotPresent(c.CSS("[name=preflight]")))
	p.do(c.Focus(c.CSS("[name=entry]")))
	p.types("4.9" + kb.Enter)
	p.waitText(".log li", "4.9")
	p.waitText(".doubt, .others", "at most 5 s with 60 s of rest")
	// What was taken upon oneself is of that power: of ten times it nobody said a word.
	claim := func(text, shown string) {
		p.stage("1")
		p.do(c.WaitVisible(c.CSS("[name=claim-0]")), ignore(c.Evaluate[any]("document.querySelector('[name=claim-0]').select()")))
		p.types(text)
		p.waitText("figure .band", shown)
		p.stage("3")
	}
	claim("2m 50/1", "50 W")
	p.waitText(".problems", "61.5 W")
	p.do(c.WaitVisible(c.CSS("[data-risk]")), c.WaitNotPresent(c.CSS("[data-at-risk]")), c.WaitNotPresent(c.CSS("[name=at-my-risk]")))
	claim("2m 5/1", "5 W")
	p.do(c.WaitVisible(c.CSS("[data-at-risk]")))
	// Said of the load itself it is no danger any more.
	p.do(c.Navigate(base+"/reviews"), ignore(c.Evaluate[any]("Object.keys(localStorage).filter((k) => k.includes('risk')).forEach((k) => localStorage.removeItem(k))")), press(".card h2 a"), c.WaitVisible(c.CSS(".tab[href$=power]")), press(".tab[href$=power]"), c.WaitVisible(c.CSS("[name=short-w]")))
	p.do(c.SendKeys(c.CSS("[name=short-w]"), "10"), c.SendKeys(c.CSS("[name=short-s]"), "30"), press("[name=keep-short]"), c.WaitNotPresent(c.CSS("[data-risk]")))
	p.waitText(".problems", "for 30 s at most")
}

// TestKeysAndWords: a question mark gives the keys and words of the screen, in the line by Enter; a letter with Alt goes to a
// place, the scratch pad takes along what stands there and is left by the same key.
func TestKeysAndWords(t *testing.T) {
	base := serve(t, true)
	p := &typist{browser: open(t)}
	p.keyUp(base)
	p.do(c.SendKeys(c.CSS("[name=entry]"), "?"+kb.Enter), c.WaitVisible(c.CSS(".help")))
	p.waitText(".help", "strikes the last reading")
	p.waitText(".help", "Power where it leaves the radio")
	p.types(kb.Escape)
	p.do(c.WaitNotPresent(c.CSS(".help")))
	if n := eval[int](p.browser, "document.querySelectorAll('[data-hints] > span').length"); n > 7 {
		t.Errorf("%d hints at once", n)
	}
	p.do(c.SendKeys(c.CSS("[name=entry]"), "4.71"))
	p.waitText("[data-testid=power]", "4.82 W")
	p.alt2("s", "KeyS")
	p.do(c.WaitVisible(c.CSS("[data-calc=coax] .out b")))
	p.waitValue("[name=coax-mhz]", "146.520")
	p.waitValue("[name=claim-claimed]", "5")
	p.waitFor("document.querySelector('[name=units-power]').value.slice(0, 4)", "4.82")
	p.do(c.Focus(c.CSS("[name=swr-swr]")), c.SendKeys(c.CSS("[name=swr-swr]"), "2"))
	p.waitText("[data-calc=swr] .out", "9.54 dB") // ARRL Handbook
	p.alt2("s", "KeyS")
	p.do(c.WaitVisible(c.CSS("[name=entry]")))
	p.waitValue("[name=entry]", "4.71")
	p.alt2("b", "KeyB")
	p.do(c.WaitVisible(c.CSS("[name=bench-line]")))
}

// TestAReviewIsFoundAndPutAway on the screen, and brought back; each page has a title of its own.
func TestAReviewIsFoundAndPutAway(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	count := "String(document.querySelectorAll('.card').length)"
	b.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS(".card")))
	b.waitText("[data-demo]", "This is the demo.")
	b.waitText("[data-demo] a", "Quillon Q7")
	b.waitFor("document.title", "Reviews, Tall Oak")
	all := b.shown(count)
	b.do(c.SendKeys(c.CSS("[name=find]"), "larkrise"))
	b.waitFor(count, "1")
	b.do(press("[name=away]"), c.WaitVisible(c.CSS("[name=bring-back]")))
	b.waitFor(count, "0")
	b.do(press("[name=put-away]"))
	b.waitFor(count, "1")
	b.do(press("[name=put-away]"))
	b.waitFor(count, "0")
	b.do(press("[name=bring-back]"))
	b.waitFor(count, "1")
	b.retype("[name=find]", kb.Backspace)
	b.waitFor(count, all)
	b.choose("[aria-label=Ruling]", "fails")
	b.waitText(".card h2", "Quillon Q7")
	b.do(c.Navigate(base+larkrise+"/power"), c.WaitVisible(c.CSS(".steps")))
	b.waitFor("document.title", "Power: Larkrise L2, Tall Oak")
}
