package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// unswept opens the emissions of a band and level of the demo that was never swept, through
// the path of that name.
func unswept(t *testing.T, path string) *typist {
	t.Helper()
	base := serve(t, true) // closed last: what the page listens to ends with the page
	p := &typist{browser: open(t)}
	p.unswept(base, path)
	return p
}

func (p *typist) unswept(base, path string) {
	p.t.Helper()
	p.do(c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".boxes")))
	p.do(press(".boxes button:nth-of-type(2)"))
	p.do(c.WaitEnabled(c.CSS("[name=preflight]")), press(".path .el-select"))
	p.waitFor("String([...document.querySelectorAll('.el-select-dropdown__item')].some((o) => o.innerText.startsWith('"+path+"')))", "true")
	eval[bool](p.browser, "([...document.querySelectorAll('.el-select-dropdown__item')].find((o) => o.innerText.startsWith('"+path+"')).click(), document.activeElement.blur(), true)")
	p.waitText(".path", path)
}

// look goes through the wiring where that is asked for, types a look and keeps it.
func (p *typist) look(text string) {
	p.t.Helper()
	p.do(c.WaitVisible(c.CSS("[name=look]")))
	p.waitFor("String(Boolean(document.querySelector('.drop') || document.querySelector('[name=preflight]:not([disabled])')))", "true")
	if eval[bool](p.browser, "!document.querySelector('.drop')") {
		eval[bool](p.browser, "(document.activeElement.blur(), true)")
		p.press("c", "KeyC")
		p.do(c.WaitVisible(c.CSS(".drop")))
	}
	p.do(c.Focus(c.CSS("[name=look]")))
	p.types(text)
	p.do(c.WaitVisible(c.CSS("[data-look]")))
	p.types(kb.Enter)
}

// TestASuspectASecondLookAndARuling: what the analyzer may have made itself is too close to
// call; one key takes 10 dB more; what fell away is held suspect, and the ruling stands.
func TestASuspectASecondLookAndARuling(t *testing.T) {
	p := unswept(t, "pads into the pocket analyzer")
	p.look("30-960 -80 h-17-54")
	p.do(c.WaitVisible(c.CSS("[data-finding=suspect-self-made]")), c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic'][data-verdict=inconclusive]")), c.WaitEnabled(c.CSS("[name=second]")))
	p.press("+", "Equal")
	p.waitText(".path", "step attenuator")
	p.look("30-960 -88 h-27.4")
	p.waitText("[data-second] .says", "as what the analyzer makes itself does")
	p.do(c.WaitVisible(c.CSS("[data-change=follows]")), press("[name=suspect-first]"), c.WaitVisible(c.CSS(".sweep.suspect")))
	p.do(c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic'][data-verdict=pass]")))
	p.waitText("[data-second]", "dB of loss at the carrier in the second")
}

// TestAWideLookShowsWhatTheNarrowLacked: what is left to look at is said, the wide look finds
// a spur there, and its rung opens down to its numbers.
func TestAWideLookShowsWhatTheNarrowLacked(t *testing.T) {
	p := unswept(t, "pads into the bench analyzer")
	p.look("30-960 -85 h-17-80")
	p.do(c.WaitVisible(c.CSS(".rung[data-product='10th harmonic'][data-verdict='not-covered']")), press("[name=view-take]"))
	p.waitText("[data-left]", "960 MHz to 1.46")
	p.waitText("[data-left]", "through this analyzer")
	// What was typed stays while one looks elsewhere, where its keys mean nothing.
	p.do(press("[name=told-rbw]"), c.WaitVisible(c.CSS("[name=rbw]")), c.SendKeys(c.CSS("[name=rbw]"), "100"))
	eval[bool](p.browser, "(document.activeElement.blur(), true)")
	p.press("y", "KeyY")
	p.do(c.WaitVisible(c.CSS(".plot canvas")))
	p.press("h", "KeyH")
	p.press("l", "KeyL")
	p.waitValue("[name=rbw]", "100")
	p.focused("look")
	eval[bool](p.browser, "(document.activeElement.blur(), true)")
	p.waitText(".settle", "hold for")
	p.press("h", "KeyH")
	p.waitText(".settle", "s more")
	p.look("900-1600 -85 1241.7-62 1565.5-75")
	p.do(c.WaitVisible(c.CSS(".rung[data-product='spur at 1.2417 GHz'][data-verdict=fail]")), press(".rung[data-product='spur at 1.2417 GHz'] .opens"))
	p.waitText("[data-opened]", "satellite navigation")
	p.do(c.Focus(c.CSS(".rung[data-product='spur at 1.5655 GHz'] .opens")), c.WaitVisible(c.CSS("[data-mark]"))) // the plot shows which
	p.waitText("[data-opened] [data-term=absolute]", "\u221216.0 dBm")
	p.waitText("[data-opened]", "of path = ")
	p.waitText("#plot-in-words", "spur at 1.2417 GHz")
}

// TestACombIsAttributedOnTheStateBoard: lines evenly apart while transmitting, gone in
// standby; the board says what they go with and what would tell more.
func TestACombIsAttributedOnTheStateBoard(t *testing.T) {
	p := unswept(t, "pads into the bench analyzer")
	p.look("100-600 -85 1h-17 200-70 239-71 278-72 317-70 356-71")
	p.do(c.WaitVisible(c.CSS("[data-finding=comb]")), press(".rung[data-product='spur at 239 MHz'] .opens"), c.WaitVisible(c.CSS("[data-origin=comb]")))
	p.do(press("[name=view-take]"), c.WaitVisible(c.CSS("[name=look]")))
	p.look("100-600 nothing above -85 state standby")
	p.do(c.WaitVisible(c.CSS("[data-board='2m'] [data-row=standby]")), c.WaitVisible(c.CSS("[data-comb]")))
	p.waitText(".says", "with Mid, gone with High, Low and standby")
	p.waitText(".ask", "with the radio off")
	p.waitText("[data-row=standby] [data-standby]", "no figure for standby")
	p.waitText(".sweep", "standby")
	// It rules on nothing: the box stands as it was.
	p.press("y", "KeyY")
	p.do(c.WaitVisible(c.CSS(".rung[data-product='spur at 239 MHz']")))
	p.press("v", "KeyV")
	p.do(c.WaitVisible(c.CSS("[data-level='2m Mid'] svg")))
	p.waitText("[data-levels-say]", "dBc")
}
