package e2e

import (
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math"
	"os"
	"path/filepath"
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
	p.do(press(".boxes button:nth-of-type(2)")) // 2m Mid was never swept
	p.do(c.WaitEnabled(c.CSS("[name=preflight]")))
	p.press("c", "KeyC")
	p.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
	p.focused("look")
	before := p.keys
	p.types("30-1600 -85 h-17-80?-83-84 205-79")
	p.waitFor("String(document.querySelector('[data-look]')?.textContent.includes('205 MHz') ?? false)", "true")
	p.types(kb.Enter)
	if n := p.keys - before; n > 40 {
		t.Errorf("%d keys, 40 are the most", n)
	}
	p.do(c.WaitVisible(c.CSS(".plot canvas")), c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic'][data-verdict=pass]")), c.WaitVisible(c.CSS(".rung[data-product='spur at 205 MHz'][data-verdict=pass]")))
	p.waitText(".sweep", "nothing else above \u221285.0 dBm on the screen")
	p.waitFor("fetch(document.querySelector('.sweep a').href).then((r) => r.text())", "30-1600 -85 h-17-80?-83-84 205-79")
	// What cannot be read is said at the word, and stays.
	p.do(press("[name=view-take]"), c.WaitVisible(c.CSS("[name=look]")), c.SendKeys(c.CSS("[name=look]"), "30-1600 -85 2 -62"))
	p.waitText("[data-look-trouble]", "type 2h for the multiple of the carrier")
	p.waitValue("[name=look]", "30-1600 -85 2 -62")
	// It stands in an edition.
	p.stage("7")
	p.toFreeze()
	p.do(press("[name=freeze]"))
	p.waitText(".editions", "Edition 2")
	p.do(c.Navigate(eval[string](p.browser, "document.querySelector('.editions a').href")))
	p.waitText("main", "look 1")
}

// screen is a picture of an analyzer's screen as the test makes it: 100 to 1000 points across
// are 100 to 1000 MHz, 50 to 450 down 0 to -80 dBm, with a stick at each peak.
func screen(t *testing.T, peaks map[float64]float64) string {
	t.Helper()
	p := image.NewGray(image.Rect(0, 0, 1100, 500))
	for mhz, dbm := range peaks {
		for y := 50 - int(5*dbm); y < 450; y++ {
			p.Set(int(mhz), y, color.White)
		}
	}
	file := filepath.Join(t.TempDir(), "screen.png")
	f, err := os.Create(file)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = f.Close() }()
	if err := png.Encode(f, p); err != nil {
		t.Fatal(err)
	}
	return file
}

// TestAPictureIsReadOff: two clicks set each axis, and the peaks of a picture the test made
// are found within the uncertainty that is stated; the picture is kept with the look.
func TestAPictureIsReadOff(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".boxes")))
	b.do(press(".boxes button:nth-of-type(2)"))
	b.do(c.WaitEnabled(c.CSS("[name=preflight]")))
	b.press("c", "KeyC")
	b.do(c.WaitNotPresent(c.CSS("[name=preflight]")), c.SetUploadFiles(c.CSS("[name=screen]"), []string{screen(t, map[float64]float64{146.52: -17, 293: -77})}), c.WaitVisible(c.CSS("[data-screen]")))
	b.waitFor("String(document.querySelector('[data-screen]').naturalWidth)", "1100")
	click := func(x, y float64) {
		t.Helper()
		eval[bool](b, fmt.Sprintf(`(() => { const i = document.querySelector('[data-screen]'), r = i.getBoundingClientRect()
			i.dispatchEvent(new MouseEvent('click', { bubbles: true, clientX: r.left + %g / 1100 * r.width, clientY: r.top + %g / 500 * r.height })); return true })()`, x, y))
	}
	for i, at := range [][2]float64{{100, 460}, {1000, 460}, {60, 50}, {60, 450}} {
		click(at[0], at[1])
		b.do(c.SendKeys(c.CSS("[name=axis-"+[]string{"x1", "x2", "y1", "y2"}[i]+"]"), []string{"100", "1000", "0", "-80"}[i]))
	}
	click(146.52, 50+5*17)
	click(293, 50+5*77)
	b.waitText("[data-read] li:nth-of-type(2)", "dBm ±")
	for i, want := range [][2]float64{{146.52, -17}, {293, -77}} {
		said := eval[string](b, fmt.Sprintf("document.querySelectorAll('[data-read] li')[%d].innerText.replaceAll('\u2212', '-')", i))
		var mhz, within, dbm, db float64
		if _, err := fmt.Sscanf(said, "%f ± %f MHz, %f dBm ± %f dB", &mhz, &within, &dbm, &db); err != nil || math.Abs(mhz-want[0]) > within || math.Abs(dbm-want[1]) > db {
			t.Errorf("%q for %v: %v", said, want, err)
		}
	}
	b.do(c.SendKeys(c.CSS("[name=picture-floor]"), "-79"), press("[name=take-picture]"))
	b.waitFor("String(document.querySelectorAll('[data-look] .stick').length)", "2")
	b.focused("look")
	b.do(c.KeyEvent(kb.Enter), c.WaitVisible(c.CSS(".plot canvas")))
	b.waitText(".sweep", "Read: a look, as it was typed")
	b.do(c.WaitVisible(c.CSS(".sweep .photos img")))
	b.waitText(".rung[data-product='2nd harmonic']", "2nd harmonic")
}

// TestAnExcessIsExplainedByOneKey: a screen whose offset is dialled in shows the carrier as it
// is; taken through 50 dB once more it would be half a megawatt. That stands beside the look,
// which one key puts right, and the next look begins with what the screen adds.
func TestAnExcessIsExplainedByOneKey(t *testing.T) {
	p := unswept(t, "pads into the bench analyzer")
	p.do(press("[name=preflight]"), c.Focus(c.CSS("[name=look]")))
	p.types("30-1600 -35 h+36.9-23?-26")
	p.waitText("[data-implied].danger", "carrier 86.9 dBm at the connector")
	p.waitText("[data-implied] [role=alert]", "The screen adds 50.0")
	p.types(kb.Escape)
	p.press("o", "KeyO")
	p.waitText("[data-implied]:not(.danger)", "carrier 36.9 dBm at the connector")
	p.do(c.Focus(c.CSS("[name=look]")))
	p.types(kb.Enter)
	p.do(c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic'][data-verdict=pass]")), press(".boxes button:nth-of-type(3)"), press("[name=view-take]"))
	p.waitText("[data-told]", "the screen adds 50.0")
}

// TestHeardInItsReceiver: with no path, no wiring gone through and no reading; noise alone is
// told too.
func TestHeardInItsReceiver(t *testing.T) {
	base := serve(t, true)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+larkrise+"/emissions"), c.WaitVisible(c.CSS(".boxes")), press(".boxes button:nth-of-type(2)"))
	p.do(c.WaitVisible(c.CSS("[name=told-state]")), press("[name=told-state]"), c.WaitVisible(c.CSS("[name=state]")), c.SendKeys(c.CSS("[name=state]"), "receive"), press("[name=heard]"), c.Focus(c.CSS("[name=look]")))
	p.types("144-148 nothing above -120")
	p.do(c.WaitVisible(c.CSS("[data-look]")))
	p.types(kb.Enter)
	p.do(c.WaitVisible(c.CSS("[data-board='2m heard']")))
	p.waitText("[data-board='2m heard']", "\u2212120.0 dBm")
}
