package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestRunSheet: what is chosen on the matrix changes the steps and is kept; a step sets
// frequency, level and path, and the next one follows by a key.
func TestRunSheet(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/sheet"), c.WaitVisible(c.CSS(".steps li")))
	b.waitText(".large", "12 min, 2 wirings")
	// 70 cm Low is left out, on both paths; the edges are keyed beside the calling frequency.
	b.do(press("[aria-label^='70cm Low']"))
	b.waitText("section", "10 key-ups")
	b.do(press("[aria-label='Where each band is keyed'] button:nth-of-type(2)"))
	b.waitText("section", "30 key-ups")
	b.do(c.SendKeys(c.CSS("[name=own-2m]"), "145.5"+kb.Tab))
	b.waitText(".channels", "145.500")
	b.waitText("section", "36 key-ups")
	b.waitText("[data-kept]", "")
	b.do(c.Reload(), c.WaitVisible(c.CSS(".steps li")))
	b.waitText("section", "36 key-ups")
	// Moved by hand, a step is the first.
	b.do(press(".steps li:nth-of-type(2) button"))
	eval[bool](b, "(document.activeElement.blur(), true)")
	b.do(c.KeyEvent(kb.ArrowUp, c.KeyModifiers(1)))
	b.waitText(".keys", "Back to the usual order")
	b.waitText(".steps li:nth-of-type(1)", "2m Mid")
	// Keyed: the next by ↓, with its frequency and level.
	b.do(c.KeyEvent(kb.Enter), c.WaitVisible(c.CSS("[data-step]")))
	b.waitText("[data-step]", "step 1")
	b.waitValue("[name=frequency]", "144.020")
	b.waitText(".what .level", "Mid")
	b.focused("entry")
	b.do(c.KeyEvent(kb.ArrowDown))
	b.waitText("[data-step]", "step 2")
	b.waitText(".what .level", "Low")
	b.do(c.KeyEvent(kb.ArrowDown), c.KeyEvent(kb.ArrowDown))
	b.waitText("[data-step]", "step 4")
	b.waitValue("[name=frequency]", "145.500")
	// Another box by hand leaves the sheet alone.
	b.do(press(".boxes button:nth-of-type(6)"), c.WaitNotPresent(c.CSS("[data-step]")))
	list := eval[string](b, "fetch('/api/v1"+larkrise+"/channels').then((r) => r.text())")
	if want := "place,name,frequency_mhz,mode,band\n1,2m lower edge,144.02000,FM,2m\n"; len(list) < len(want) || list[:len(want)] != want {
		t.Errorf("%q", list)
	}
}
