package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestALookToARulingByKeys: figures read off a screen, typed in at most 40 keys, to a ruling
// and into an edition, without a mouse or a file.
func TestALookToARulingByKeys(t *testing.T) {
	base := serve(t, true)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".boxes")))
	eval[bool](p.browser, "(document.querySelector('.boxes button:nth-of-type(2)').click(), true)") // 2m Mid was never swept
	p.do(c.WaitEnabled(c.CSS("[name=preflight]")))
	p.press("c", "KeyC")
	p.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
	p.press("l", "KeyL")
	p.focused("look")
	before := p.keys
	p.types("30-1600 -85 h-17-80?-83-84 205-79")
	p.waitFor("String(document.querySelector('[data-look]')?.textContent.includes('205 MHz') ?? false)", "true")
	p.types(kb.Enter)
	if n := p.keys - before; n > 40 {
		t.Errorf("%d keys, 40 are the most", n)
	}
	p.do(c.WaitVisible(c.CSS(".plot canvas")), c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic'][data-verdict=pass]")), c.WaitVisible(c.CSS(".rung[data-product='spur 205 MHz'][data-verdict=pass]")))
	p.waitText(".sweep", "nothing else above \u221285.0 dBm on the screen")
	p.waitFor("fetch(document.querySelector('.sweep a').href).then((r) => r.text())", "30-1600 -85 h-17-80?-83-84 205-79")
	// What cannot be read is said at the word, and stays.
	p.do(c.Click(c.CSS(".more")), c.WaitVisible(c.CSS("[name=look]")), c.SendKeys(c.CSS("[name=look]"), "30-1600 -85 2 -62"))
	p.waitText("[data-look-trouble]", "type 2h for the multiple of the carrier")
	p.waitValue("[name=look]", "30-1600 -85 2 -62")
	// It stands in an edition.
	p.stage("7")
	p.do(c.WaitVisible(c.CSS("[name=freeze]:not([disabled])")), c.Click(c.CSS("[name=freeze]")))
	p.waitText(".editions", "Edition 2")
	p.do(c.Navigate(eval[string](p.browser, "document.querySelector('.editions a').href")))
	p.waitText("main", "look 1")
}
