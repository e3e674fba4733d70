package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// generatorPath keeps a path from the radio through the pad of 20 dB to the generator.
func (b *browser) generatorPath() {
	b.t.Helper()
	if got := eval[float64](b, `fetch('/api/v1/bench').then((r) => r.json()).then((v) => { const id = (n) => v.kit.find((k) => k.name.startsWith(n)).id
		return fetch('/api/v1/paths/' + crypto.randomUUID(), {method: 'PUT', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({version: 0, name: 'generator through 20 dB', parts: [{kit_id: id('second pad')}, {kit_id: id('signal generator')}]})}) }).then((r) => r.status)`); got != 200 {
		b.t.Fatalf("the path was not kept: %v", got)
	}
}

// TestSensitivityOfAReceiver: claimed, measured for 12 dB SINAD and by ear, ruled on the
// board beside the levels, told in the edition and taken out as a table.
func TestSensitivityOfAReceiver(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/radio"), c.WaitVisible(c.CSS("[name=claim-2]")), c.SendKeys(c.CSS("[name=claim-2]"), "2m sensitivity 0.25uV"))
	b.waitText(".echo", "sensitivity 0.25 uV for 12 dB SINAD, narrow")
	b.generatorPath()
	b.alt("5")
	b.do(c.WaitVisible(c.CSS("[data-testid=figure]")))
	b.focused("entry")
	b.waitText("aside", "Lock transmitting")
	b.waitText("aside", "Loss 20.00 dB")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "3.4uV"))
	b.waitText("[data-testid=figure]", "0.340 µV")
	b.waitText(".beside", "2.7 dB over the 0.250 µV claimed")
	b.do(c.WaitVisible(c.CSS(".beside [data-verdict=fail]")), c.SendKeys(c.CSS("[name=entry]"), " ? by the window"+kb.Enter))
	b.waitText(".log li", "by the window")
	b.waitValue("[name=entry]", "")
	b.focused("entry")
	b.press("e", "KeyE") // by ear is another quantity, held against nothing
	b.waitText(".how", "by ear")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "-110dBm"))
	b.waitText(".beside", "held against no claim")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li:first-child", "just heard, by ear")

	b.do(press(".tab[href$=ruling]"), c.WaitVisible(c.CSS("[data-whole=sensitivity][data-verdict=fail]")), c.WaitVisible(c.CSS("[data-kind=sensitivity]")))
	b.do(press(".box:has([data-kind=sensitivity])"))
	b.waitText(".evidence", "0.340 µV")
	b.waitText(".evidence", "a signal just heard, by ear")
	b.do(press(".tab[href$=publish]"))
	b.toFreeze()
	b.do(press("[name=freeze]"))
	b.waitText(".editions", "Edition 2")
	table := eval[string](b, fmt.Sprintf("fetch('/api/v1%s/measure/sensitivity/export').then((r) => r.text())", larkrise))
	if !strings.Contains(table, `2m,146.52 MHz,"12 dB SINAD, narrow",3.4uV,20.00 dB,"0.340 µV, -116.4 dBm"`) {
		t.Errorf("%s", table)
	}
	if kept := eval[string](b, "fetch(document.querySelector('.editions a[href$=\"/data\"]').href).then((r) => r.json()).then((d) => d.others.at(-1).kind + ' ' + d.board.sensitivity.verdict + ' ' + d.board.cells.find((c) => c.sensitivity).sensitivity.of)"); kept != "sensitivity fail 2" {
		t.Errorf("its data say %q", kept)
	}
	b.do(c.Navigate(eval[string](b, "document.querySelector('.editions a').href")))
	for _, want := range []string{"Sensitivity of the receiver", "Sensitivity is short of its claim (2m: 0.340 µV", "by the window", "By ear is another quantity", "Not part of this edition: standby emissions, sensitivity on 70cm, deviation, occupied bandwidth, frequency error, supply, battery and features."} {
		b.waitText("main", want)
	}
}
