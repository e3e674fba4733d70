package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestFrequencyErrorOfATransmitter: claimed, measured against a reference, ruled on the board,
// told in the edition and taken out as a table; what is not told of the reference rules nothing.
func TestFrequencyErrorOfATransmitter(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/radio"), c.WaitVisible(c.CSS("[name=claim-2]")), c.SendKeys(c.CSS("[name=claim-2]"), "2m 2.5ppm"))
	b.waitText(".echo", "frequency within 2.5 ppm on 2m")
	b.alt("5")
	b.do(c.WaitVisible(c.CSS("[data-testid=figure]")))
	b.alt("5") // once more is the next of the further tests
	for _, field := range []string{"loss", "within", "resolution", "reference"} {
		b.do(c.WaitVisible(c.CSS("[name=" + field + "]")))
		if field != "reference" {
			b.alt("5")
		}
	}
	b.focused("entry")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "146.520160"))
	b.waitText("[data-testid=figure]", "+1.09")
	b.do(c.WaitVisible(c.CSS(".beside [data-verdict=inconclusive]")), c.SendKeys(c.CSS("[name=entry]"), strings.Repeat(kb.Backspace, len("146.520160"))))
	b.waitValue("[name=entry]", "")
	b.press("r", "KeyR")
	b.focused("reference")
	b.do(c.SendKeys(c.CSS("[name=reference]"), "half"+kb.Enter))
	b.focused("entry")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "+160Hz"))
	b.waitText(".echo", "0 to 1000 ppm")
	b.do(c.SendKeys(c.CSS("[name=reference]"), strings.Repeat(kb.Backspace, len("half"))+"0.5"+kb.Enter))
	b.focused("entry")
	b.waitText(".echo", "146.520160 MHz, +160 Hz")
	b.do(c.WaitVisible(c.CSS(".beside [data-verdict=pass]")), c.SendKeys(c.CSS("[name=entry]"), " ? cold"+kb.Enter))
	b.waitText(".log li", "cold")
	b.waitValue("[name=entry]", "")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "-900Hz ? after a minute"))
	b.waitText("[data-contradicts]", "Differs from +160Hz by more than both uncertainties")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li:first-child", "after a minute")
	b.do(c.Navigate(base+larkrise+"/ruling"), c.WaitVisible(c.CSS("[data-whole=frequency][data-verdict=inconclusive]")))
	b.do(c.Navigate(base+larkrise+"/frequency"), c.WaitVisible(c.CSS(".log li:first-child .doubt-line")), press(".log li:first-child .words button:nth-of-type(2)"), c.SendKeys(c.CSS("[aria-label=Reason]"), "it warmed"+kb.Enter))
	b.waitText(".log li:first-child", "explained: it warmed")

	b.do(press(".tab[href$=ruling]"), c.WaitVisible(c.CSS("[data-whole=frequency][data-verdict=fail]")), press(".box:has([data-kind=frequency])"))
	b.waitText(".evidence", "of 2 taken the one furthest off")
	b.do(press(".tab[href$=publish]"))
	b.toFreeze()
	b.do(press("[name=freeze]"))
	b.waitText(".editions", "Edition 2")
	table := eval[string](b, fmt.Sprintf("fetch('/api/v1%s/measure/frequency/export').then((r) => r.text())", larkrise))
	if !strings.Contains(table, "2m,146.52 MHz,'-900Hz,146.519100 MHz,'-900 Hz,'-6.14 ppm,± 0.58 ppm,,0.5 ppm,2.5 ppm,fails; after a minute") {
		t.Errorf("%s", table)
	}
	b.do(c.Navigate(eval[string](b, "document.querySelector('.editions a').href")))
	for _, want := range []string{"Frequency error", "further off its frequency than claimed (2m: \u2212900 Hz, \u22126.14", "after a minute", "Not part of this edition: standby emissions, receiver, deviation, occupied bandwidth, frequency error on 70cm, supply, battery and features."} {
		b.waitText("main", want)
	}
}
