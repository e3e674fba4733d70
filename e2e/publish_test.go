package e2e

import (
	"strings"
	"testing"

	c "github.com/chromedp/chromedp"
)

// TestALifeAfterPublishing: what a review gets after its first edition. A recommendation and a letter come into the
// next one, which says what it is; round the older page stands what has followed; a re-test begins with all that was
// typed, and its older figures as ghosts.
func TestALifeAfterPublishing(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+quillon+"/publish"), c.WaitVisible(c.CSS("[data-lineage]")))
	b.waitText("[data-lineage]", "re-test")
	b.waitText(".letters", "filter coil of the wrong value")
	// A letter that may not be printed, then one that may.
	for _, l := range []struct{ text, kind, print string }{{"Between us only.", "reply", ""}, {"Every unit from now on is measured.", "reply", "yes"}} {
		b.do(press("[name=letter]"), c.WaitVisible(c.CSS("[name=letter-text]")), c.SendKeys(c.CSS("[name=letter-text]"), l.text))
		if l.print != "" {
			b.do(press("[name=letter-print]"))
		}
		b.do(press("[name=letter-keep]"))
		b.waitText(".letters", l.text)
	}
	b.waitText(".letters", "(not to be printed)")
	before := eval[string](b, "document.querySelector('iframe').src")
	b.do(c.SendKeys(c.CSS("[name=recommendation]"), "Wait for the mended batch."))
	b.waitFor("String(document.querySelector('iframe').src !== "+quote(before)+")", "true")
	b.waitFor("document.querySelector('iframe').contentDocument?.querySelector('#recommendation')?.textContent.includes('Wait for the mended batch.') ? 'yes' : 'no'", "yes")
	// The next edition says what it is, or is not frozen.
	b.do(c.WaitVisible(c.CSS("[name=freeze][disabled]")))
	b.toFreeze()
	b.do(c.Navigate(base + quillon + "/publish")) // what was typed of it is not lost
	b.waitValue("[name=changed]", "More was measured.")
	b.do(c.WaitVisible(c.CSS("[name=freeze]:not([disabled])")), press("[name=freeze]"))
	b.waitText("[data-frozen]", "Edition 2 is frozen")
	first := eval[string](b, "[...document.querySelectorAll('.editions article')].at(-1).querySelector('a').href")
	b.do(c.Navigate(first), c.WaitVisible(c.CSS(".around")))
	b.waitText("body", "Superseded") // by the re-test of the demo
	b.waitText("body", "More was added: edition 2, an addendum")
	b.waitText("#lineage ~ ol", "Edition 2")
	if got := eval[string](b, "document.body.textContent"); strings.Contains(got, "Between us only") || !strings.Contains(got, "Every unit from now on") {
		t.Error("what may not be printed is, or what may is not")
	}
	// Another unit: a review of its own.
	b.do(c.Navigate(base+quillon+"/publish"), c.WaitVisible(c.CSS("[name=retest]")), press("[name=retest]"), c.WaitVisible(c.CSS("[name=retest-start]")), press("[name=retest-start]"))
	b.waitFor("location.pathname.endsWith('/radio') && !location.pathname.includes("+quote(strings.TrimPrefix(quillon, "/reviews/"))+") ? 'there' : location.pathname", "there")
	b.waitValue("[name=claim-0]", "2m 7/1")
	b.waitValue("[name=serial]", "")
	b.do(press(".tab[href$=power]"), c.WaitVisible(c.CSS("[name=entry]")))
	b.waitText("main", "outlined: 5.64 W of Quillon")
	b.do(c.Navigate(base+filtered+"/emissions"), c.WaitVisible(c.CSS("[data-ghost]")))
	b.waitText("[data-ghost]", "3rd harmonic −9.0 dB") // of the unit before its filter
	b.do(c.Navigate(base+filtered+"/ruling"), c.WaitVisible(c.CSS(".evidence [data-ghost]")))
	b.waitText(".evidence [data-ghost]", "5.64 W; 3rd harmonic −9.0 dB")
}

func quote(s string) string { return "'" + s + "'" }

// TestCompareOnTheScreen: chosen by words, as power or as margins, with a figure of somebody else beside ours.
func TestCompareOnTheScreen(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/compare"), c.WaitVisible(c.CSS("[data-row]")))
	rows := "String(document.querySelectorAll('[data-row]').length)"
	b.waitFor(rows, "6")
	b.do(c.SendKeys(c.CSS("[name=compare-text]"), "quillon"))
	b.waitFor(rows, "2")
	b.waitText("[data-row]:first-of-type [data-box='2m High']", "W")
	b.waitText("[data-answer]", "date code 2606") // what a reader answered of their unit
	b.do(press("[name=compare-margins]"))
	b.waitText("tbody", "−9.0 dB")
	b.waitText("tbody", "with other kit")
	b.do(press("[name=compare-power]"))
	b.waitText("tbody", "5.64 W")
	b.do(press("[name^=outside-]"), c.WaitVisible(c.CSS("[name=outside-watts]")), c.SendKeys(c.CSS("[name=outside-watts]"), "much"), c.SendKeys(c.CSS("[name=outside-source]"), "a magazine"), press("[name=outside-keep]"))
	b.waitText("tbody [role=alert]", "Type figures")
	b.waitValue("[name=outside-source]", "a magazine") // what was typed stays
	b.retype("[name=outside-watts]", "6,2")
	b.do(press("[name=outside-keep]"))
	b.waitText("tbody", "a magazine")
	b.waitFor("String(document.querySelectorAll('.square').length)", "1")
	b.waitText("tbody", "6.20 W, a magazine")
	if got := eval[string](b, "Promise.all([...document.querySelectorAll('.links a')].map((a) => fetch(a.href).then((r) => r.status + ' ' + r.headers.get('content-type').split(';')[0]))).then((all) => all.join(', '))"); got != "200 image/svg+xml, 200 image/png, 200 text/csv" {
		t.Error(got)
	}
	b.do(c.SendKeys(c.CSS("[name=comparison-title]"), "Before and after its filter"), c.WaitVisible(c.CSS("[name=comparison-freeze]:not([disabled])")), press("[name=comparison-freeze]"))
	b.waitText("main", "Before and after its filter")
	// The screen, the frozen page and what is pasted say the same figures.
	page := eval[string](b, "fetch(document.querySelector('a[href*=comparisons]').href).then((r) => r.text())")
	text := eval[string](b, "fetch('/api/v1"+quillon+"/publish').then((r) => r.json()).then((p) => fetch('/api/v1/editions/' + p.editions[0].id + '/text')).then((r) => r.text())")
	for _, figure := range []string{"5.64 W", "−9.0 dB", "−6.6 dB"} {
		if !strings.Contains(page, figure) || !strings.Contains(text, figure) {
			t.Errorf("%s is not on both", figure)
		}
	}
	b.do(press("[name^=take-out-]"))
	b.waitFor("String(document.querySelectorAll('.square').length)", "0")
	b.retype("[name=compare-text]", "nothing like it")
	b.waitText("main", "No radio here is so.")
}
