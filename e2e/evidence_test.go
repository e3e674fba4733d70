package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	c "github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// csvFile writes a file to be dropped in.
func csvFile(t *testing.T, name, text string) []string {
	t.Helper()
	file := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(file, []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
	return []string{file}
}

// TestFiguresOffAScreenPassNothing: five figures typed as a file are told to be a
// list, and a file headed Hz that holds MHz is asked about before it is taken.
func TestFiguresOffAScreenPassNothing(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	figures := "146.52;-17.0\n293.04;-80\n439.56;-80\n586.08;-82\n732.60;-85\n"
	b.do(c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".boxes button:nth-of-type(2)")), press(".boxes button:nth-of-type(2)"), c.WaitVisible(c.CSS("[name=as-told]")), c.WaitEnabled(c.CSS("[name=preflight]")), press("[name=preflight]"), c.WaitVisible(c.CSS(".drop")))
	file := csvFile(t, "figures.csv", "Hz;dBm\n"+figures)
	b.do(press("[name=told-rbw]"), c.WaitVisible(c.CSS("[name=rbw]")), c.SendKeys(c.CSS("[name=rbw]"), "wide"), c.SetUploadFiles(c.CSS("[name=sweep]"), file))
	b.waitText(".trouble", "give a number of kHz") // never taken for not told
	b.do(c.SendKeys(c.CSS("[name=rbw]"), strings.Repeat(kb.Backspace, 4)), c.SetUploadFiles(c.CSS("[name=sweep]"), file))
	b.waitText(".trouble", "which unit are they in?")
	// An offset that the file names and nobody told of is asked about; what is no figure is no answer.
	added := csvFile(t, "added.csv", "Ref Level Offset;40 dB\nMHz;dBm\n"+figures)
	b.do(c.SetUploadFiles(c.CSS("[name=sweep]"), added))
	b.waitText(".trouble", "40 dB were added to its levels, the path says 0 dB")
	b.do(c.SendKeys(c.CSS("[name=screen-adds]"), "4o"), c.SetUploadFiles(c.CSS("[name=sweep]"), added))
	b.waitText(".trouble", "give a number")
	b.do(c.SendKeys(c.CSS("[name=screen-adds]"), strings.Repeat(kb.Backspace, 2)+"0"), c.SetUploadFiles(c.CSS("[name=sweep]"), file))
	b.waitText(".trouble", "which unit are they in?")
	b.do(press(".trouble button:nth-of-type(3)"), c.WaitVisible(c.CSS("[data-finding=not-a-sweep]")), c.WaitVisible(c.CSS(".worst [data-verdict=inconclusive]")))
	b.do(c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic'][data-verdict=inconclusive]")), c.WaitVisible(c.CSS(".rung[data-product='6th harmonic'][data-verdict='not-covered']")))
	b.waitText(".coverage", "examined nothing")
	b.waitText(".sweep", "bandwidth not told, detector not told, hold not told, bare or modulated not told")

	// One key takes the card's settings.
	b.do(press("[name=view-take]"), c.WaitVisible(c.CSS("[name=as-told]")), press("h2"), c.KeyEvent("i"))
	b.waitText("[data-told]", "RBW 100 kHz")
	b.waitFor("String(document.querySelector('.costs').innerText.includes('Detector'))", "false")

	// Over the whole radio it is still only so far.
	b.do(c.Navigate(base+larkrise+"/ruling"), c.WaitVisible(c.CSS("[data-whole=emissions][data-verdict=inconclusive]")))
	b.waitText("[data-whole=emissions]", "1 too close to call")
}

// TestOutsideTheBandIsSaidAsLongAsItIsSo, on power and emissions alike, and what is
// read there is held against no claim.
func TestOutsideTheBandIsSaidAsLongAsItIsSo(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/power"), c.WaitVisible(c.CSS(".steps")), press("[name=preflight]"), c.Focus(c.CSS("[name=frequency]")))
	b.do(c.SendKeys(c.CSS("[name=frequency]"), kb.End+strings.Repeat(kb.Backspace, 7)+"150.1"+kb.Enter), c.WaitVisible(c.CSS("[data-outside]")))
	b.do(c.SendKeys(c.CSS("[name=entry]"), "1.2 h"))
	b.waitText("[data-outside]", "150.1 MHz lies outside 2m")
	b.waitFor(`(() => { // again where it says that the path is still being looked at
		const e = document.querySelector('[name=entry]')
		if (e.value) e.form.requestSubmit()
		return String(document.querySelector('.log li')?.innerText.includes('150.1 MHz, outside the band claimed'))
	})()`, "true")
	b.waitText("[data-outside]", "150.1 MHz lies outside 2m")
	b.do(press(".tab[href$=emissions]"), c.WaitVisible(c.CSS("[name=view-take]")), press("[name=view-take]"), c.WaitVisible(c.CSS("[data-outside]")))
	// The claim is still held by what was read in the band.
	b.do(press(".tab[href$=ruling]"), c.WaitVisible(c.CSS(".evidence")))
	b.do(press(".box"))
	b.waitText(".evidence", "of the claim")
}

// TestContradictingReadingsAreBothDoubted until the difference is explained.
func TestContradictingReadingsAreBothDoubted(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/power"), c.WaitVisible(c.CSS(".steps")), press("[name=preflight]"), c.SendKeys(c.CSS("[name=entry]"), "2.1 h swr 1.1"))
	b.waitText(".doubt, .others", "differ by more than both uncertainties")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li:first-child", "explain the difference")
	b.do(press(".tab[href$=ruling]"), c.WaitVisible(c.CSS("[data-whole=power][data-verdict=inconclusive]")))
	b.do(press(".box"))
	b.waitText(".evidence", "contradict each other")
	b.do(press(".tab[href$=power]"), c.WaitVisible(c.CSS(".log li")), press(".log li:first-child .words button:nth-of-type(2)"), c.SendKeys(c.CSS(".log [aria-label=Reason]"), "a flat battery, charged since"+kb.Enter))
	b.waitText(".log li:first-child", "explained: a flat battery")
	b.do(press(".tab[href$=ruling]"), c.WaitVisible(c.CSS("[data-whole=power][data-verdict=fail]")))
}
