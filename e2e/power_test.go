package e2e

import (
	"bytes"
	"image"
	"image/jpeg"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

const drover = "/reviews/38bf6f62-ab20-568b-968b-2e05c993a5b6"

// line types into the entry line, and Enter.
func (b *browser) line(text string) {
	b.t.Helper()
	b.do(c.SendKeys(c.CSS("[name=entry]"), text+kb.Enter))
}

// TestCommandsOfTheLine: an unplanned step, a refusal, a check, an adjusted power with its
// arrow, the radio's own display, its settings, a trusted radio; the practice values of
// common practice (no source) on the way: 36.4 dBm is 4.37 W, 2.9 of 20 W is 14.5 %.
func TestCommandsOfTheLine(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.keyUp(base)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "36.4dBm"))
	b.waitText("[data-testid=power]", "4.47 W")  // 0.1 dB of jumper lies in front of the meter
	b.do(c.SendKeys(c.CSS("[name=entry]"), "b")) // no command while something is typed
	b.waitValue("[name=entry]", "36.4dBmb")
	eval[bool](b, "(document.querySelector('[name=entry]').select(), true)")
	b.do(c.KeyEvent(kb.Backspace))
	b.press("b", "KeyB")
	b.waitText(".budget", "together, k = 2")
	// Adjust: down, more, stop.
	b.line("j 4")
	b.do(c.WaitVisible(c.CSS("[data-toward]")))
	for text, want := range map[string]string{"4.8": "down", "3.2": "more", "3.95": "stop"} {
		b.do(c.SendKeys(c.CSS("[name=entry]"), text))
		b.waitText("[data-toward]", want)
		eval[bool](b, "(document.querySelector('[name=entry]').select(), true)")
		b.do(c.KeyEvent(kb.Backspace))
	}
	b.line("g gain 6")
	b.waitValue("[name=entry]", "") // a command is read by the server, and the line is free then
	b.line("d 4.2")
	b.waitValue("[name=entry]", "")
	b.line("3.96 h")
	b.waitText(".log li", "3.96 h")
	b.line("j off")
	b.do(c.WaitNotPresent(c.CSS("[data-toward]")))
	b.line("r 8.1v ? a beep")
	b.waitText(".log li", "refused to transmit")
	b.line("k open ? needle at the end")
	b.waitText(".log li", "end open")
	b.line("t old mobile 5")
	b.waitValue("[name=entry]", "")
	b.line("4.9")
	b.waitText(".log li", "old mobile")
	// What cannot be read is said, and stays.
	b.line("k melted")
	b.waitText(".keyup .echo", "k short or k open")
	b.waitValue("[name=entry]", "k melted")
	eval[bool](b, "(document.querySelector('[name=entry]').select(), true)")
	b.do(c.KeyEvent(kb.Backspace))
	b.line("n 156.8")
	b.waitText(".keyup .echo", "distress")
	eval[bool](b, "(document.querySelector('[name=entry]').select(), true)")
	b.do(c.KeyEvent(kb.Backspace))
	b.line("n 445.5 l")
	b.waitValue("[name=frequency]", "445.500")
	b.waitText(".what .level", "Low")
	b.waitText(".boxes [aria-pressed=true]", "70cm Low")
	// All of it is kept.
	b.line("v")
	for _, want := range []string{"refused", "end open", "old mobile", "gain 6", "shows 4.20 W", "adjusted"} {
		b.waitText(".study", want)
	}
}

// TestCurvesAndPairs: the demo's mobile over frequency and supply, with the voltage it
// refused; its pair that no coax explains; and its table as CSV.
func TestCurvesAndPairs(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+drover+"/power"), c.WaitVisible(c.CSS(".steps")))
	b.focused("entry")
	b.line("v")
	b.do(c.WaitVisible(c.CSS("[data-curve=frequency] circle.outside")), c.WaitVisible(c.CSS("[data-curve=supply] .refused")))
	b.waitText("[data-fits]", "no cable does that")
	b.waitText(".study", "What would decide")
	b.waitFor("fetch(document.querySelector('[data-curve=supply] a').href).then((r) => r.text()).then((t) => t.split('\\n')[0])", "Of,Supply,Power,k = 2,Current,Efficiency")
	b.do(press("[name=back]"), c.WaitVisible(c.CSS("[name=entry]")))
	// The scale belongs to the reading: the cross-needle meter has three.
	b.do(c.Navigate(base+"/reviews/e0f8c208-1f80-5862-8db6-17dca67a4ca9/power"), c.WaitVisible(c.CSS(".steps")))
	b.focused("entry")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "swr 1.3")) // no command, though its first letter is one
	b.waitValue("[name=entry]", "swr 1.3")
	eval[bool](b, "(document.querySelector('[name=entry]').select(), true)")
	b.do(c.KeyEvent(kb.Backspace))
	// The smallest that holds the claim and 1 dB more is proposed; another is turned to.
	b.waitText("[data-scale]", "scale to 15 W")
	for !strings.Contains(b.shown("document.querySelector('[data-scale]')?.innerText"), "scale to 3 W") {
		b.line("s")
	}
	b.do(c.SendKeys(c.CSS("[name=entry]"), "pk 3.1"))
	b.waitText(".doubt", "end of the 3.00 W scale")
}

// TestPhotographs: one is kept beside its reading, drawn anew without what the camera wrote.
func TestPhotographs(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.keyUp(base)
	var picture bytes.Buffer
	if err := jpeg.Encode(&picture, image.NewGray(image.Rect(0, 0, 40, 30)), nil); err != nil {
		t.Fatal(err)
	}
	exif := append([]byte{0xff, 0xd8, 0xff, 0xe1, 0, 18}, "Exif\x00\x00secretly"...)
	file := filepath.Join(t.TempDir(), "meter.jpg")
	if err := os.WriteFile(file, append(exif, picture.Bytes()[2:]...), 0o644); err != nil {
		t.Fatal(err)
	}
	b.do(c.SetUploadFiles(c.CSS("[name=photo]"), []string{file}), c.WaitVisible(c.CSS(".photos img")))
	b.waitFor("fetch(document.querySelector('.photos img').src).then((r) => r.text()).then((t) => String(t.includes('secretly')))", "false")
	text := filepath.Join(t.TempDir(), "no.png")
	if err := os.WriteFile(text, []byte("no picture"), 0o644); err != nil {
		t.Fatal(err)
	}
	b.do(c.SetUploadFiles(c.CSS("[name=photo]"), []string{text}))
	b.waitText(".photos [role=alert]", "no picture that can be read")
}

// TestLargeFigures: another window follows what is typed.
func TestLargeFigures(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.keyUp(base)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.71"))
	b.waitText("[data-testid=power]", "4.82 W")
	eval[bool](b, "(window.large = window.open('"+larkrise+"/figures', 'large'), true)")
	b.waitFor("window.large.document.querySelector('[data-large]')?.innerText ?? ''", "4.82 W")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Backspace+kb.Backspace+kb.Backspace))
	b.waitText("[data-testid=power]", "4.09 W")
	b.waitFor("window.large.document.querySelector('[data-large]')?.innerText ?? ''", "4.09 W")
}
