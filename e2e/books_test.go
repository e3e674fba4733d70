package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestABookForABand: 70 cm has no figure in the book of the review; by a house book of its own
// it is ruled on, the ruling names it, and 2 m is left alone.
func TestABookForABand(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/ruling"), c.WaitVisible(c.CSS("[name=band-book]")))
	eval[bool](b, "([...document.querySelectorAll('.box')][3].click(), true)")
	b.waitText(".own", "Rule book for 70cm")
	b.waitText(".evidence", "47 CFR 97.307(c)")
	eval[bool](b, "(() => { const s = document.querySelector('[name=band-book]'); s.value = 'house-vhf-everywhere'; s.dispatchEvent(new Event('change')); return true })()")
	b.waitText(".evidence", "house practice")
	b.waitText(".headline", "VHF figures everywhere")
	b.do(c.Reload(), c.WaitVisible(c.CSS("[name=band-book]")))
	b.waitText(".headline", "VHF figures everywhere")
	b.waitFor("fetch('/api/v1"+larkrise+"/board').then((r) => r.json()).then((x) => x.rules.book + ', ' + x.rules.bands.map((y) => y.band + ' ' + y.book).join())", "US amateur, 70cm VHF figures everywhere")
}

// TestABookIsDrawn: for a carrier and power typed, with which term decides; and says why
// where no clause fits.
func TestABookIsDrawn(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/rule-books"), c.WaitVisible(c.CSS("[data-book-plot]")))
	b.waitText("figcaption", "2 f: −16.0 dBm, −53.0 dBc")
	b.do(c.SendKeys(c.CSS("[name=book-watts]"), kb.Backspace+"50"))
	b.waitText("figcaption", "so many dB below the carrier")
	b.waitText("figcaption", "2 f: −13.0 dBm, −60.0 dBc")
	eval[bool](b, "(document.querySelector('[name=book-mhz]').select(), true)")
	b.do(c.SendKeys(c.CSS("[name=book-mhz]"), "446"))
	b.waitText("article", "No limit for this carrier")
	b.waitText("article", "97.307(c)")
	eval[bool](b, "([...document.querySelectorAll('.books button')].find((x) => x.innerText.includes('GMRS')).click(), true)")
	b.waitText("article", "beyond 250 % of the authorised bandwidth")
	b.waitText("article", "ERP: conducted watts alone do not tell")
}
