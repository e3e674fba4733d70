package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestAntennaOverItsBand: markers typed and a file chosen, laid over each other, a cable taken
// off, told on the board, in the edition and as a table.
func TestAntennaOverItsBand(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base + larkrise + "/antenna"))
	b.focused("entry")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "144 2 146 1.5"))
	b.waitText("[data-testid=figure]", "1.50")
	b.waitText(".beside", "not measured over the whole band")
	b.do(c.SendKeys(c.CSS("[name=entry]"), " 148 2 ? by the window"))
	b.waitText(".beside", "2.00 at worst in the band, at 144 MHz")
	b.waitText(".beside", "straight between markers")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li", "by the window")
	b.press("u", "KeyU")
	b.waitText(".how", "in the hand")
	file := filepath.Join(t.TempDir(), "hand.s1p")
	// 25 ohm, 45 ohm, 100 ohm on a line of 50 ohm: SWR 2, 1.11 and 2.
	if err := os.WriteFile(file, []byte("# MHz S RI R 50\n143 -0.333333333 0\n145 -0.052631579 0\n149 0.333333333 0\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	b.do(c.SetUploadFiles(c.CSS("[name=one-port]"), []string{file}))
	b.waitValue("[name=entry]", "hand.s1p")
	b.focused("entry")
	b.waitText("[data-testid=figure]", "1.11")
	b.waitText(".echo", "3 points drawn, in the hand")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li:first-child", "hand.s1p")
	b.do(c.WaitVisible(c.CSS("path.other")))
	b.do(c.SendKeys(c.CSS("[name=cable]"), "40"+kb.Enter), c.SendKeys(c.CSS("[name=entry]"), "1.4"))
	b.waitText(".echo", "0 to 20 dB one way")
	b.do(c.SendKeys(c.CSS("[name=entry]"), strings.Repeat(kb.Backspace, 3)), c.SendKeys(c.CSS("[name=cable]"), strings.Repeat(kb.Backspace, 2)))

	b.do(press(".tab[href$=ruling]"), c.WaitVisible(c.CSS("[data-kind=antenna]")), press(".box:has([data-kind=antenna])"))
	b.waitText(".evidence", "in the hand: 1.11 at 145")
	b.do(press(".tab[href$=publish]"))
	b.toFreeze()
	b.do(press("[name=freeze]"))
	b.waitText(".editions", "Edition 2")
	table := eval[string](b, fmt.Sprintf("fetch('/api/v1%s/measure/antenna/export').then((r) => r.text())", larkrise))
	if !strings.Contains(table, "hand.s1p,in the hand,none,1.11,145 MHz,") {
		t.Errorf("%s", table)
	}
	// All that can be had of an edition is there.
	if got := eval[string](b, "Promise.all([...document.querySelectorAll('.editions article:first-of-type .links a')].map((a) => fetch(a.href).then((r) => r.status + ' ' + r.headers.get('content-type').split(';')[0]))).then((all) => all.join(', '))"); got != "200 text/html, 200 text/html, 200 application/pdf, 200 application/pdf, 200 text/plain, 200 application/json, 200 application/zip, 200 image/png, 200 image/png, 200 image/png, 200 image/png, 200 image/png" {
		t.Error(got)
	}
	b.do(c.Navigate(eval[string](b, "document.querySelector('.editions a').href")))
	for _, want := range []string{"Measured, with no claim to be held against: antenna.", "hand.s1p", "the body of the radio is half of the antenna"} {
		b.waitText("main", want)
	}
}
