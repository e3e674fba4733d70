package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestDeviationOfATransmitter: off a meter and by the carrier's null, narrow and wide, held
// against what is claimed of each; kept over a reload, ruled and told.
func TestDeviationOfATransmitter(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/radio"), c.WaitVisible(c.CSS("[name=claim-2]")), c.SendKeys(c.CSS("[name=claim-2]"), "2m dev 5kHz"))
	b.waitText(".echo", "deviation 5 kHz on 2m")
	b.do(c.Navigate(base + larkrise + "/deviation"))
	b.waitText("[data-nulls]", "For 2.50 kHz the carrier vanishes at 1040, 453, 289 Hz")
	b.focused("entry")
	b.press("w", "KeyW")
	b.waitText(".how", "wide")
	b.waitText("[data-nulls]", "2079, 906, 578 Hz")
	b.press("r", "KeyR")
	b.focused("within")
	b.do(c.SendKeys(c.CSS("[name=within]"), "5"+kb.Enter))
	b.focused("entry")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "+5.9 -5.6"))
	b.waitText("[data-testid=figure]", "5.90")
	b.waitText("[data-over]", "25 kHz")
	b.do(c.WaitVisible(c.CSS(".beside [data-verdict=fail]")), c.SendKeys(c.CSS("[name=entry]"), " ? spoken loudly"))
	b.do(c.Reload())
	b.waitValue("[name=entry]", "+5.9 -5.6 ? spoken loudly")
	b.waitText(".how", "wide")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li", "spoken loudly")
	b.press("t", "KeyT")
	b.waitText(".how", "tone")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "null 1900"))
	b.waitText(".beside", "index 2.40, tone 1900 Hz")
	b.waitText("[data-doubt]", "a tone shows what it was set to")
	b.do(c.WaitVisible(c.CSS(".beside [data-verdict=inconclusive]")), c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li:first-child", "null 1900")

	b.do(press(".tab[href$=ruling]"), c.WaitVisible(c.CSS("[data-whole=deviation][data-verdict=fail]")), press(".box:has([data-kind=deviation])"))
	b.waitText(".evidence", "5.90 kHz ±0.35 (k = 2), wide, voice peak")
	b.do(press(".tab[href$=publish]"))
	b.toFreeze()
	b.do(press("[name=freeze]"))
	b.waitText(".editions", "Edition 2")
	table := eval[string](b, fmt.Sprintf("fetch('/api/v1%s/measure/deviation/export').then((r) => r.text())", larkrise))
	if !strings.Contains(table, `"wide, voice peak",5.90 kHz,± 0.35 kHz`) {
		t.Errorf("%s", table)
	}
	b.do(c.Navigate(eval[string](b, "document.querySelector('.editions a').href")))
	for _, want := range []string{"Its deviation is over its claim (2m: 5.90", "spoken loudly", "Not part of this edition: standby emissions, receiver, deviation on 70cm, occupied bandwidth, frequency error, supply, battery and features."} {
		b.waitText("main", want)
	}
}
