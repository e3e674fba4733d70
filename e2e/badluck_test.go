package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// waitCame waits until so many requests with a word in them have come.
func (s *standIn) waitCame(t *testing.T, word string, n int) {
	t.Helper()
	for try := 0; s.came(word) < n; try++ {
		if try == 450 {
			t.Fatalf("%q came only %d times", word, s.came(word))
		}
		time.Sleep(100 * time.Millisecond)
	}
}

// readings counts what is kept of Larkrise 2 m High with a text, whatever its standing.
func readings(text string) string {
	return fmt.Sprintf("fetch('/api/v1%s/measure/power').then((r) => r.json()).then((all) => String(all.filter((r) => r.text === %q).length))", larkrise, text)
}

// keyUp opens the key-up screen of Larkrise with its wiring gone through, by keys.
func (b *browser) keyUp(base string) {
	b.t.Helper()
	b.do(c.Navigate(base+larkrise+"/power"), c.WaitVisible(c.CSS(".steps")), c.WaitEnabled(c.CSS("[name=preflight]")))
	b.focused("entry")
	b.press("c", "KeyC")
	b.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
}

// focused waits until the field of a name has the focus.
func (b *browser) focused(name string) {
	b.t.Helper()
	b.waitFor("document.activeElement?.name ?? document.activeElement?.tagName ?? ''", name)
}

// TestALostAnswerWritesOnce: a reading whose answer was lost after the write, or that
// never came to the server, is there once; the line is free at once, and it stands below.
func TestALostAnswerWritesOnce(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	b.keyUp(s.URL)
	for i, luck := range []luck{lost, away, torn} {
		text := fmt.Sprintf("4.8%d h", i)
		s.luck(luck, "POST "+"/api/v1"+larkrise+"/measure/power", -1)
		before := s.came("/measure/power")
		b.do(c.SendKeys(c.CSS("[name=entry]"), text+kb.Enter))
		b.waitText("[data-waiting]", text)
		s.waitCame(t, "/measure/power", before+3) // it tries again by itself
		b.waitValue("[name=entry]", "")
		for _, told := range []string{"danger", "undefined", "was not written"} {
			if said := eval[string](b, "document.querySelector('.leaf').innerText"); strings.Contains(said, told) {
				t.Errorf("it says %q: %s", told, said)
			}
		}
		b.do(c.KeyEvent(kb.Enter)) // on the empty line it is nothing
		s.lift()
		b.waitValue("[name=entry]", "")
		b.do(c.WaitNotPresent(c.CSS("[data-waiting]")))
		b.focused("entry")
		b.waitFor(readings(text), "1")
	}
}

// TestNothingIsLostOnTheWay: a reading on its way survives the stage, a reload and the
// server being away meanwhile; what was typed behind it stays in the line.
func TestNothingIsLostOnTheWay(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	b.keyUp(s.URL)
	s.luck(away, "POST "+"/api/v1"+larkrise+"/measure/power", -1)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.77 h"+kb.Enter))
	b.waitText("[data-waiting]", "4.77 h")
	b.do(c.SendKeys(c.CSS("[name=entry]"), " swr 1.2"), press(".tab[href$=ruling]"), c.WaitVisible(c.CSS(".evidence")))
	b.waitText("[role=status]", "4.77 h")
	// Another review does not wait for it.
	b.do(c.Navigate(s.URL+quillon+"/power"), c.WaitVisible(c.CSS(".steps")), c.WaitEnabled(c.CSS("[name=preflight]")))
	b.focused("entry")
	b.press("c", "KeyC")
	b.do(c.WaitNotPresent(c.CSS("[name=preflight]")), c.SendKeys(c.CSS("[name=entry]"), "5.55 h"+kb.Enter))
	b.waitValue("[name=entry]", "")
	b.do(c.Navigate(s.URL+larkrise+"/ruling"), c.WaitVisible(c.CSS(".evidence")))
	b.waitText("[role=status]", "4.77 h")
	b.do(c.Reload(), c.WaitVisible(c.CSS(".evidence")))
	b.waitText("[role=status]", "4.77 h")
	s.lift()
	b.waitFor(readings("4.77 h"), "1")
	b.do(press(".tab[href$=power]"), c.WaitVisible(c.CSS("[name=entry]")))
	b.waitValue("[name=entry]", " swr 1.2")
	// What was chosen, dialled and gone through is as it was, too.
	b.do(c.WaitVisible(c.CSS(".steps")), c.WaitNotPresent(c.CSS("[name=preflight]")))
}

// TestTypedWhileSaving: what is typed while a save is under way neither vanishes nor mixes
// with its answer, and all of it is kept in the end.
func TestTypedWhileSaving(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	b.do(c.Navigate(s.URL+"/bench/kit"), c.WaitVisible(c.CSS("article:nth-of-type(5) .strip")), press("article:nth-of-type(5) .strip"), c.WaitVisible(c.CSS(".editor")))
	loss, name := `[name="element.loss"]`, "[name=name]"
	put := "PUT /api/v1/kit/"
	slowly := func(css string, pieces ...string) {
		t.Helper()
		eval[bool](b, fmt.Sprintf("(document.querySelector(%q).select(), true)", css))
		for _, p := range pieces {
			n := s.came(put)
			b.do(c.SendKeys(c.CSS(css), p))
			s.waitCame(t, put, n+1) // the pause of a person, as long as it takes to be saved
		}
	}
	// A figure typed with a pause behind its point.
	slowly(loss, "39.")
	b.do(c.SendKeys(c.CSS(loss), "9"))
	b.waitValue(loss, "39.9")
	b.waitText(".state", "kept")
	b.waitFor(lossOf, "39.9")
	// A new line of a table, begun while the one before is being saved.
	s.luck(held, put, 1)
	slowly(loss, "146 39.9\n")
	b.do(c.SendKeys(c.CSS(loss), "1000"))
	s.lift()
	b.waitText(".state", "not kept")
	b.waitValue(loss, "146 39.9\n1000")
	b.do(c.SendKeys(c.CSS(loss), " 40.2"))
	b.waitText(".state", "kept")
	b.waitFor(lossOf, "146 39.9 1000 40.2")
	// A name with a blank at its end while it is saved.
	slowly(name, "pad ", "of mine")
	b.waitValue(name, "pad of mine")
	b.waitFor(nameOf, "pad of mine")
}

const (
	fifth  = `fetch('/api/v1/bench').then((r) => r.json()).then((v) => v.kit[4])`
	lossOf = fifth + `.then((k) => k.spec.element.loss.table ? k.spec.element.loss.table.map((p) => p.frequency_hz / 1e6 + ' ' + p.db).join(' ') : String(k.spec.element.loss.flat_db))`
	nameOf = fifth + `.then((k) => k.name)`
)

// TestClosingLosesNothing: an item that is closed, a path that is left, a page that is
// reloaded with something not kept yet, readable or not, has it when it is opened again.
func TestClosingLosesNothing(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	item := func() {
		t.Helper()
		b.do(c.Navigate(s.URL+"/bench/kit"), c.WaitVisible(c.CSS("article:nth-of-type(5) .strip")), press("article:nth-of-type(5) .strip"), c.WaitVisible(c.CSS(".editor")))
	}
	item()
	s.luck(away, "PUT", -1)
	b.retype(`[name="element.max_w"]`, "30")
	b.retype(`[name="element.loss"]`, "about forty")
	b.waitText(".state", "not kept")
	b.do(press("article:nth-of-type(5) .strip"), c.WaitNotPresent(c.CSS(".editor")), press("article:nth-of-type(5) .strip"), c.WaitVisible(c.CSS(".editor")))
	b.waitValue(`[name="element.loss"]`, "about forty")
	item() // another page altogether
	b.waitValue(`[name="element.loss"]`, "about forty")
	b.waitValue(`[name="element.max_w"]`, "30")
	// A path left at once is kept all the same, once the server is back.
	b.do(c.Navigate(s.URL+"/bench/paths"), c.WaitVisible(c.CSS("[name=path-name]")))
	b.retype("[name=path-name]", "renamed")
	b.do(press("nav[aria-label='Kept paths'] a:nth-of-type(2)"))
	b.waitValue("[name=path-name]", "pads into the bench analyzer")
	s.lift()
	first := `fetch('/api/v1/bench').then((r) => r.json()).then((v) => v.paths[0].name)`
	b.waitFor(first, "renamed")
	b.waitText("nav[aria-label='Kept paths']", "renamed")               // and not undone by its old copy
	b.waitFor(fifth+`.then((k) => String(k.spec.element.max_w))`, "30") // though nobody has opened it since
	item()
	b.waitValue(`[name="element.loss"]`, "about forty")
}

// TestLateAnswersStayWhereTheyBelong: an answer that comes when something else is shown
// stands under nothing it is not about: no other review, no other band and level.
func TestLateAnswersStayWhereTheyBelong(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	// A review whose answer is late, left for another.
	b.do(c.Navigate(s.URL+"/reviews"), c.WaitVisible(c.CSS(".card a[href*='d45c7185']")))
	s.luck(held, "GET /api/v1"+larkrise, 1)
	b.do(press(".card a[href*='d45c7185']"))
	s.waitCame(t, "GET /api/v1"+larkrise, 1)
	b.do(press(".rail a[href='/reviews']"), c.WaitVisible(c.CSS(".card a[href*='5d412c15']")), press(".card a[href*='5d412c15']"))
	b.waitText("h1", "Quillon Q7")
	b.do(press(".tab[href$=radio]"), c.WaitVisible(c.CSS("[name=serial]")), c.SendKeys(c.CSS("[name=serial]"), "x"))
	s.lift()
	b.waitFor(`fetch('/api/v1`+quillon+`').then((r) => r.json()).then((r) => r.subject.model + ' ' + r.subject.serial)`, "Q7 77-1093x")
	b.waitFor(`fetch('/api/v1`+larkrise+`').then((r) => r.json()).then((r) => r.subject.model + ' ' + r.subject.serial)`, "L2 L2-00418")
	b.waitText("h1", "Quillon Q7")
	// A figure of one band and level while another is chosen: the line stays with its own.
	b.keyUp(s.URL)
	s.luck(held, "/measure/power/preview", -1)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.71"), press(".boxes button:nth-of-type(2)"))
	s.lift()
	b.waitText(".beside", "last logged")
	if got := eval[string](b, "document.querySelector('.result').innerText"); strings.Contains(got, "4.7") {
		t.Errorf("under 2m Mid stands %q", got)
	}
	b.do(press(".boxes button:nth-of-type(1)"))
	b.waitText("[data-testid=power]", "4.8") // 4.71 W and what the jumper takes
	// A ruling likewise.
	b.do(c.Navigate(s.URL+quillon+"/emissions"), c.WaitVisible(c.CSS(".worst [data-verdict=fail]")))
	s.luck(held, "/measure/emissions/ruling", 1)
	b.do(press(".boxes button:nth-of-type(2)"), c.WaitNotPresent(c.CSS(".worst [data-verdict=fail]")))
	s.lift()
	b.do(c.WaitVisible(c.CSS(".worst [data-verdict=inconclusive]")))
}

// TestAServerThatIsAwayIsNoDanger, no refusal, and nothing undefined: it is said that it
// does not answer, and it goes on when it does.
func TestAServerThatIsAwayIsNoDanger(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	s.luck(away, "/staircase", -1)
	b.do(c.Navigate(s.URL+larkrise+"/power"), c.WaitVisible(c.CSS("[name=entry]")), c.SendKeys(c.CSS("[name=entry]"), "4.7 h"+kb.Enter))
	b.waitText(".keyup .echo", "does not answer")
	b.waitValue("[name=entry]", "4.7 h")
	if said := eval[string](b, "document.body.innerText"); strings.Contains(said, "danger") || strings.Contains(said, "undefined") {
		t.Errorf("%s", said)
	}
	s.lift()
	b.do(c.WaitVisible(c.CSS(".steps")))
	for _, at := range []string{"/reviews", larkrise + "/ruling", larkrise + "/publish", larkrise + "/emissions", "/bench/kit", "/bench/meters", "/rule-books"} {
		s.luck(away, "/api/", -1)
		b.do(c.Navigate(s.URL + at))
		s.luck(torn, "/api/", 0)
		time.Sleep(50 * time.Millisecond)
		b.waitFor("String(document.body.innerText.includes('undefined') || document.body.innerText.includes('[object'))", "false")
		s.lift()
		b.waitFor("String(document.querySelectorAll('.card, .evidence, iframe, .worst, article, .past').length > 0)", "true")
	}
}

// TestTheSameFieldInTwoWindows: both are shown, and the person says which stands.
func TestTheSameFieldInTwoWindows(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	b.do(c.Navigate(s.URL+larkrise+"/radio"), c.WaitVisible(c.CSS("[name=serial]")))
	s.luck(held, "PUT /api/v1"+larkrise, 1)
	b.do(c.SendKeys(c.CSS("[name=serial]"), "-B"))
	s.waitCame(t, "PUT", 1)
	b.elsewhere(larkrise, "serial", "another")
	s.lift()
	b.waitText(".clash", "here: L2-00418-B")
	b.waitText(".clash", "there: another")
	b.waitValue("[name=serial]", "L2-00418-B")
	b.do(press(".clash button"), c.WaitNotPresent(c.CSS(".clash")))
	b.waitFor(kept(larkrise), "1.4 L2-00418-B")
	// An answer lost after the write is no other window.
	s.luck(lost, "PUT /api/v1"+larkrise, 1)
	b.do(c.SendKeys(c.CSS("[name=serial]"), "2"))
	s.waitCame(t, "PUT", 4)
	b.do(c.SendKeys(c.CSS("[name=serial]"), "3"))
	b.waitFor(kept(larkrise), "1.4 L2-00418-B23")
	// Nor is it one where more is typed before the lost write is met: it is known when it comes back.
	s.luck(lost, "PUT /api/v1"+larkrise, 1)
	before := s.came("PUT")
	b.do(c.SendKeys(c.CSS("[name=serial]"), "4"))
	s.waitCame(t, "PUT", before+1)
	b.do(c.SendKeys(c.CSS("[name=serial]"), "5"))
	b.waitFor(kept(larkrise), "1.4 L2-00418-B2345")
	s.luck(lost, "PUT /api/v1"+larkrise, 1)
	before = s.came("PUT")
	b.do(c.SendKeys(c.CSS("[name=serial]"), "6"))
	s.waitCame(t, "PUT", before+1)
	b.do(c.SendKeys(c.CSS("[name=serial]"), kb.Backspace)) // what was lost is taken back
	b.waitFor(kept(larkrise), "1.4 L2-00418-B2345")
	b.waitText("[data-kept]", "")
	if n := eval[int](b, "document.querySelectorAll('.clash').length"); n != 0 {
		t.Error("one window is told of another that is not there")
	}
}

// TestTwoWindowsOfOneReview: what one takes the other shows within a moment; a reading on
// a path that changed under it is refused and its line stays; an edition is of what was
// previewed.
func TestTwoWindowsOfOneReview(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.keyUp(base)
	post := func(path, body string) float64 {
		return eval[float64](b, fmt.Sprintf("fetch(%q, {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify(%s)}).then((r) => r.status)", path, body))
	}
	other := func(text string) {
		t.Helper()
		at := eval[string](b, "fetch('/api/v1/bench').then((r) => r.json()).then((v) => v.paths[0].id)")
		id := eval[string](b, "crypto.randomUUID()")
		if got := post("/api/v1"+larkrise+"/measure/power", fmt.Sprintf("{id: %q, band: '2m', level: 'High', mode: 'FM', frequency_hz: 146.52e6, path_id: %q, draft: {text: %q}}", id, at, text)); got != 201 {
			t.Fatalf("the other window got %v", got)
		}
	}
	other("4.81 h ? by the other window")
	b.waitText(".log li:first-child", "by the other window")
	b.do(c.WaitVisible(c.CSS("[name=entry]")))
	b.press("x", "KeyX")
	b.do(c.WaitVisible(c.CSS("[aria-label='Reason for striking']")))
	other("4.82 h ? newer") // what was shown when the key was pressed is struck, no other
	b.do(c.SendKeys(c.CSS("[aria-label='Reason for striking']"), "a slip"+kb.Enter))
	b.waitText(".log li.out", "by the other window")
	b.waitText(".log li:not(.out)", "newer")
	// The path changes under a line that is being typed: nothing is logged on it unseen.
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.83 h"))
	eval[float64](b, `fetch('/api/v1/bench').then((r) => r.json()).then((v) => { const p = v.paths[0]; return fetch('/api/v1/paths/' + p.id, {method: 'PUT', headers: {'Content-Type': 'application/json'},
		body: JSON.stringify({version: p.version, name: p.name, socket: p.socket, parts: p.parts, applied_offset_db: 1})}) }).then((r) => r.status)`)
	b.do(c.WaitVisible(c.CSS("[name=preflight]"))) // its figures are shown anew, and it is to be gone through again
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".keyup .echo", "before keying")
	b.waitValue("[name=entry]", "4.83 h")
	// An edition of what was previewed, or none.
	b.do(press(".tab[href$=publish]"))
	b.toFreeze()
	basis := eval[string](b, "document.querySelector('iframe').src")
	other("4.84 h ? after the preview")
	b.waitFor(fmt.Sprintf("String(document.querySelector('iframe')?.src !== %q)", basis), "true")
}

// TestUnderAName: over plain HTTP under a name of the server's own, where a browser has
// less to offer, everything works.
func TestUnderAName(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	named := strings.Replace(base, "127.0.0.1", "bench.example", 1)
	b.do(c.Navigate(named+"/reviews"), c.WaitVisible(c.CSS(".card")))
	if eval[bool](b, "'randomUUID' in crypto") {
		t.Fatal("this is no plain HTTP")
	}
	b.do(c.SendKeys(c.CSS("[name=model]"), "Named"+kb.Enter), c.WaitVisible(c.CSS("[name=claim-0]")), c.SendKeys(c.CSS("[name=claim-0]"), "2m 5"))
	b.waitText(".echo", "High 5 W")
	b.keyUp(named)
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.79 h"+kb.Enter))
	b.waitText(".log li", "4.79 h")
}

// TestACommandWhoseAnswerIsLate is obeyed when it comes; what was typed behind it meanwhile is not mistaken for
// part of it, and nothing typed is lost. A refusal to transmit is kept though nobody can be asked.
func TestACommandWhoseAnswerIsLate(t *testing.T) {
	s := between(t, serve(t, true))
	b := open(t)
	b.keyUp(s.URL)
	s.luck(held, "GET /api/v1/lines/power", -1)
	b.line("j 4")
	s.waitCame(t, "/lines/power", 1)
	b.waitValue("[name=entry]", "j 4")
	s.lift()
	b.waitValue("[name=entry]", "")
	b.do(c.WaitVisible(c.CSS("[data-toward]")))
	s.luck(held, "GET /api/v1/lines/power", -1)
	b.line("d 5")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.8"))
	s.lift()
	b.waitText(".keyup .echo", "Enter once more")
	b.waitValue("[name=entry]", "d 54.8")
	eval[bool](b, "(document.querySelector('[name=entry]').select(), true)")
	b.do(c.KeyEvent(kb.Backspace))
	s.luck(away, "GET /api/v1/lines/power", -1)
	b.line("r 15v ? a beep")
	b.waitValue("[name=entry]", "")
	s.lift()
	b.waitText(".log li", "refused to transmit")
	b.waitFor(readings("15v ? a beep"), "1")
}
