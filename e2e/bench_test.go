package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	c "github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// file writes a file to be dropped on the page.
func file(t *testing.T, name, text string) string {
	t.Helper()
	at := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(at, []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
	return at
}

// TestBlockedCuredStarted: a path that would kill an analyzer is drawn from the
// keyboard; in a review it cannot be keyed into; the cure from the bench is
// taken, and the step starts.
func TestBlockedCuredStarted(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS(".scroll .steps")), press("[name=new-path]"), c.WaitVisible(c.CSS(".start")))
	b.retype("[name=path-name]", "straight into the pocket analyzer")
	b.do(c.SendKeys(c.CSS("[name=sought]"), "pocket ana"+kb.Enter), c.WaitVisible(c.CSS(".row .part")))
	b.waitText(".problems .danger", "survives 10.0 dBm but 38.0 dBm arrives")
	b.waitText(".cures", "Power pad, 40 dB, 25 W in front of pocket analyzer")
	b.waitText(".state", "kept")

	b.do(c.Navigate(base+quillon+"/emissions"), c.WaitVisible(c.CSS(".plot canvas")), press("[name=view-take]"), c.WaitEnabled(c.CSS("[name=preflight]")))
	b.choose("[aria-label=Path]", "straight into the pocket analyzer")
	b.waitText(".preflight", "cannot start until the path is changed")
	if disabled := eval[bool](b, `document.querySelector('[name=preflight]').disabled && !document.querySelector('.drop')`); !disabled {
		t.Fatal("a path in danger can be keyed into")
	}
	b.do(press(".cure"), c.WaitEnabled(c.CSS("[name=preflight]")))
	b.waitText(".staircase", "with power pad, 40 dB, 25 W in front of")
	b.do(press("[name=preflight]"), c.WaitVisible(c.CSS(".drop")), c.SetUploadFiles(c.CSS("[name=sweep]"), []string{sweepFile(t)}))
	b.waitText(".sweep:last-of-type", "third look")
	if paths := eval[int](b, `fetch('/api/v1/bench').then((r) => r.json()).then((v) => v.paths.length)`); paths != 13 {
		t.Errorf("%d paths: the one that was drawn stays as it was, the cured one is its own", paths)
	}
}

// choose picks an entry of an Element Plus select by its words.
func (b *browser) choose(css, words string) {
	b.t.Helper()
	b.do(c.Focus(c.CSS(css)), c.KeyEvent(kb.Enter))
	b.waitFor(`(() => { const e = [...document.querySelectorAll('.el-select-dropdown__item')].find((e) => e.offsetParent && e.innerText.includes(`+fmt.Sprintf("%q", words)+`)); e?.click(); return e ? 'picked' : '' })()`, "picked")
}

// retype replaces what a field holds, key by key.
func (b *browser) retype(css, text string) {
	b.t.Helper()
	eval[bool](b, fmt.Sprintf("(document.querySelector(%q).select(), true)", css))
	b.do(c.SendKeys(c.CSS(css), text))
}

// dropFile drops a file on an element, as from another window.
func (b *browser) dropFile(css, name, text string) {
	b.t.Helper()
	eval[bool](b, fmt.Sprintf(`(() => {
		const carried = new DataTransfer()
		carried.items.add(new File([%q], %q))
		return document.querySelector(%q).dispatchEvent(new DragEvent('drop', {dataTransfer: carried, bubbles: true, cancelable: true})) || true
	})()`, text, name, css))
}

// drag takes one element to another.
func (b *browser) drag(from, to string) {
	b.t.Helper()
	eval[bool](b, fmt.Sprintf(`(() => {
		const carried = new DataTransfer(), send = (e, type) => e.dispatchEvent(new DragEvent(type, {dataTransfer: carried, bubbles: true, cancelable: true}))
		const [a, z] = [document.querySelector(%q), document.querySelector(%q)]
		if (!a.draggable) throw new Error('it cannot be dragged')
		send(a, 'dragstart'), send(z, 'dragover'), send(z, 'drop'), send(a, 'dragend')
		return true
	})()`, from, to))
}

// pick sets a plain select to the entry of a value.
func (b *browser) pick(css, value string) {
	b.t.Helper()
	eval[bool](b, fmt.Sprintf("((e) => { e.value = %q; e.dispatchEvent(new Event('change', {bubbles: true})); return true })(document.querySelector(%q))", value, css))
}

// TestBenchFromNothing: an empty bench says where to begin; a first analyzer put
// straight on the radio is a danger that nothing owned cures, until a pad is.
func TestBenchFromNothing(t *testing.T) {
	base := serve(t, false)
	b := open(t)
	for at, says := range map[string]string{"paths": "write down your kit", "kit": "Nothing is written down yet", "pads": "No analyzer is written down yet", "meters": "It takes two meters", "files": "0 things"} {
		b.do(c.Navigate(base + "/bench/" + at))
		b.waitText("#app", says)
	}
	write := func(kind, name string) {
		t.Helper()
		b.do(c.Navigate(base+"/bench/kit"), c.WaitVisible(c.CSS("[name=add-kit]")), press("[name=add-kit]"), press("[name=kind-"+kind+"]"), c.WaitVisible(c.CSS(".editor")))
		b.retype("[name=name]", name)
		b.waitText("article.open", name)
	}
	write("analyzer", "first analyzer")
	b.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS("[name=new-path]")), press("[name=new-path]"), c.WaitVisible(c.CSS(".start")), c.SendKeys(c.CSS("[name=sought]"), "first"+kb.Enter))
	b.waitText("#app", "Nothing you own would cure this")
	b.waitText(".problems", "what the input of first analyzer survives is a typical value")
	b.waitText(".state", "kept")
	write("attenuator", "first pad")
	b.retype(`[name="element.loss"]`, "40")
	b.retype(`[name="element.max_w"]`, "10")
	b.waitText("article.open", "takes 10.0 W")
	b.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS(".cure")))
	b.waitText(".cures", "First pad in front of first analyzer")
	b.do(press(".cure"), c.WaitNotPresent(c.CSS(".problems .danger")))
}

// TestPathsAreDrawn: parts are walked, moved, taken off and had back; a
// setting is changed; a copy is its own; what is put away comes back.
func TestPathsAreDrawn(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	names := `[...document.querySelectorAll('.row .part .name')].map((e) => e.innerText.split(',')[0]).join(' > ')`
	b.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS(".scroll .steps")), press("nav[aria-label='Kept paths'] a:nth-of-type(2)"))
	b.waitFor(names, "short jumper > power pad > small pad > bench analyzer")
	b.do(c.Focus(c.CSS(".row .part")))
	b.do(c.KeyEvent(kb.ArrowRight), c.KeyEvent(kb.Delete))
	b.waitFor(names, "short jumper > small pad > bench analyzer")
	b.waitText(".problems .danger", "small pad, 10 dB, 2 W takes 2.00 W but")
	b.do(press("header button"))
	b.waitFor(names, "short jumper > power pad > small pad > bench analyzer")
	b.do(c.Focus(c.CSS(".row .part:nth-child(2)")))
	eval[bool](b, `document.activeElement.dispatchEvent(new KeyboardEvent('keydown', {key: 'ArrowRight', shiftKey: true, bubbles: true, cancelable: true}))`)
	b.waitFor(names, "short jumper > small pad > power pad > bench analyzer")
	b.waitText(".problems .danger", "small pad, 10 dB, 2 W takes 2.00 W but")
	eval[bool](b, `document.body.dispatchEvent(new KeyboardEvent('keydown', {key: 'z', ctrlKey: true, bubbles: true, cancelable: true}))`)
	b.waitFor(names, "short jumper > power pad > small pad > bench analyzer")
	// By mouse: a part goes in front of the one it is dropped on, once; one from the
	// shelf dropped beside the parts goes before the end.
	b.drag(".row .part:nth-child(3)", ".row .part:nth-child(1)")
	b.waitFor(names, "small pad > short jumper > power pad > bench analyzer")
	b.drag(".row .part:nth-child(1)", ".row .part:nth-child(4)")
	b.waitFor(names, "short jumper > power pad > small pad > bench analyzer")
	b.drag(".shelf button:nth-of-type(1)", ".row .part:nth-child(3)")
	b.waitFor(names, "short jumper > power pad > short jumper > small pad > bench analyzer")
	b.drag(".shelf button:nth-of-type(1)", ".scroll")
	b.waitFor(names, "short jumper > power pad > short jumper > small pad > short jumper > bench analyzer")
	for range 4 {
		b.do(press("header button"))
	}
	b.waitFor(names, "short jumper > power pad > small pad > bench analyzer")
	// AM stands four times over its carrier: the peaks are drawn apart.
	b.pick("select[aria-label=Mode]", "AM")
	b.do(c.WaitVisible(c.CSS("path.peaks")))
	b.waitText(".small", "with peaks of 25.2 W")
	// What is dialled in carries its sign, and an offset that is on already is counted.
	b.retype("[name=applied]", "40"+kb.Enter)
	b.waitText(".dial", "+40.00 dB, already counted here")
	b.waitText(".state", "kept")
	b.do(press("header button:nth-of-type(2)"))
	b.waitValue("[name=path-name]", "pads into the bench analyzer, copy")
	b.do(press("header button:nth-of-type(3)"), c.WaitVisible(c.CSS(".undo")), press(".undo button"))
	b.waitValue("[name=path-name]", "pads into the bench analyzer, copy")
	// What was put away is found again later too.
	b.do(press("header button:nth-of-type(3)"), c.WaitVisible(c.CSS(".undo")), c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS("[name=retired]")), press("[name=retired]"))
	b.do(press(".retired button:nth-of-type(2)"))
	b.waitValue("[name=path-name]", "pads into the bench analyzer, copy")
	// A supply: its limit, what the leads drop, and volts at the radio.
	b.pick("select[aria-label=Supply]", eval[string](b, `[...document.querySelector('select[aria-label=Supply]').options].at(-1).value`))
	b.do(c.WaitVisible(c.CSS(".dc")))
	b.waitText(".dc", "at the radio")
}

// TestKitIsTypedInPlace: what is wrong is said at its field and stays as typed; a
// file becomes a curve; one that misses the carrier or is too large is refused.
func TestKitIsTypedInPlace(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/bench/kit"), c.WaitVisible(c.CSS("article")), press("[name=add-kit]"), press("[name=kind-attenuator]"), c.WaitVisible(c.CSS(".editor")))
	b.waitText(".editor", "typical")
	typed := func(name, text string) {
		t.Helper()
		b.retype(`.editor [name="`+name+`"]`, text)
	}
	typed("name", "blue pad")
	typed("element.max_w", "0")
	b.waitText(".editor", "give a rating in W above 0")
	typed("element.max_w", "5")
	b.waitText(".editor .state", "kept")
	// What cannot be read stays too, while other fields are kept.
	typed("element.swr", "1.2 or so")
	b.waitText(".editor", "“1.2 or so” is no number")
	typed("element.max_w", "4")
	b.waitText("article.open", "takes 4.00 W")
	b.waitValue(`.editor [name="element.swr"]`, "1.2 or so")
	typed("element.swr", "1.2")
	b.waitText(".editor .state", "kept")
	typed("element.loss", "146 19.8"+kb.Enter+"100 20.1")
	b.waitText(".editor", "frequencies must rise")
	b.waitValue(`.editor [name="element.loss"]`, "146 19.8\n100 20.1")
	typed("element.loss", "19.9")
	b.waitText(".editor .state", "kept")
	typed("element.to_hz", "1,2")
	typed("element.from_hz", "2000")
	b.waitText(".editor", "must be above from_hz (2 GHz)")
	typed("element.from_hz", "0")
	typed("element.to_hz", "6000")
	b.waitText(".editor .state", "kept")

	b.dropFile(".editor", "amplifier.s2p", "# MHz S DB R 50\n1 -30 0 14 0 -20 0 -30 0\n3000 -30 0 14 0 -20 0 -30 0\n")
	b.waitText(".editor", "amplifier.s2p: the file amplifies at 1 MHz by 14.00 dB")
	b.do(c.SetUploadFiles(c.CSS("[name=touchstone]"), []string{file(t, "only uhf.s2p", "# MHz S DB R 50\n700 -30 0 -20 0 -20 0 -30 0\n1000 -30 0 -19.5 0 -19.5 0 -30 0\n")}))
	b.waitText(".editor", "only uhf.s2p: the file covers 700 MHz to 1 GHz, and the carrier 146.52 MHz is not in it")
	b.do(c.SetUploadFiles(c.CSS("[name=touchstone]"), []string{file(t, "huge.s2p", strings.Repeat("! nothing\n", 5<<20))}))
	b.waitText(".editor", "huge.s2p is over 4 MiB")
	b.do(c.SetUploadFiles(c.CSS("[name=touchstone]"), []string{file(t, "pad.s2p", "# MHz S DB R 50\n1 -30 0 -20.2 0 -20.2 0 -30 0\n3000 -30 0 -19.1 0 -19.1 0 -30 0\n")}))
	b.waitText("article.open", "loss 19.10 to 20.20 dB")
	b.do(c.WaitVisible(c.CSS("article.open path.curve")))
	b.do(press(".editor footer button"))
	b.waitText("article.open", "retired")
	b.do(press(".editor footer button:nth-of-type(2)"))
	b.waitFor(`[...document.querySelectorAll('article b')].some((e) => e.innerText === 'blue pad') ? 'there' : 'gone'`, "gone")
	b.do(press(".undo button"))
	b.waitFor(`[...document.querySelectorAll('article b')].some((e) => e.innerText === 'blue pad') ? 'there' : 'gone'`, "there")
	// An input's text that is no number stays while the name is kept.
	b.do(press("article:nth-of-type(7) .strip"), c.WaitVisible(c.CSS("[name=range-0-floor]")))
	b.retype("[name=range-0-floor]", "about -88")
	b.waitText(".editor", "“about -88” is no number")
	b.waitText(".editor .state", "not kept")
	b.retype("[name=name]", "bench analyzer, cleaned")
	b.waitText("article.open .strip", "bench analyzer, cleaned")
	b.waitText(".editor .state", "not kept")
	b.waitValue("[name=range-0-floor]", "about -88")
	b.retype("[name=range-0-floor]", "-88,5")
	b.waitText(".editor .state", "kept")
	if floor := eval[float64](b, `fetch('/api/v1/bench').then((r) => r.json()).then((v) => v.kit.find((k) => k.name === 'bench analyzer, cleaned').spec.element.ranges[0].noise_floor_dbm)`); floor != -88.5 {
		t.Errorf("kept %v", floor)
	}
	// What a reading used is not removed.
	b.do(press("article .strip"), c.WaitVisible(c.CSS(".editor")), press(".editor footer button:nth-of-type(2)"))
	b.waitText(".editor .danger[role=alert]", "Retire it instead")
}

// TestStackBaselineAndFiles: a stack read without and with, meters held against
// each other and accepted, pads asked for, a bench brought in.
func TestStackBaselineAndFiles(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS(".scroll .steps")), press("[name=measure]"), c.WaitVisible(c.CSS(".measure")))
	b.pick("[name=last]", "0")
	b.do(c.SendKeys(c.CSS("[name=stack-0-without]"), "5 5.02"), c.SendKeys(c.CSS("[name=stack-0-with]"), "4.7"))
	b.waitText(".measure .found", "0.28 dB ±0.38 dB at 146.52 MHz")
	b.do(press("[name=keep-stack]"))
	b.waitText(".row .found", "0.28 dB ±0.38; printed 0.10 dB")

	b.do(c.Navigate(base+"/bench/meters"), c.WaitVisible(c.CSS("[name=row-0-0]")))
	for i, r := range [][2]string{{"37.3 dBm", "37 dBm"}, {"30.4 dBm", "30 dBm"}} {
		b.do(c.SendKeys(c.CSS(fmt.Sprintf("[name=row-%d-name]", i)), "old handheld"), c.SendKeys(c.CSS(fmt.Sprintf("[name=row-%d-0]", i)), r[0]), c.SendKeys(c.CSS(fmt.Sprintf("[name=row-%d-1]", i)), r[1]))
	}
	b.waitText(".offset", "+0.35 dB")
	b.do(press("[name=keep-baseline]"), c.WaitVisible(c.CSS(".past:nth-of-type(2)")), press(".past [name=accept-0]"))
	b.waitText(".past .offer", "Taken out of later readings")
	b.waitText(".past", "Not while pocket inline meter, 100 to 500 MHz has an offset taken out")

	b.do(c.Navigate(base+"/bench/pads"), c.WaitVisible(c.CSS("article.best")))
	b.waitText("article.best", "the best of what you own")
	b.do(press("[name=draw-0]"))
	b.waitFor(`[...document.querySelectorAll('.row .part')].length + ' ' + location.pathname.startsWith('/bench/paths/')`, "3 true")

	out := eval[string](b, `fetch('/api/v1/bench/export').then((r) => r.text())`)
	b.do(c.Navigate(base+"/bench/files"), c.WaitVisible(c.CSS(".drop")))
	b.do(c.SetUploadFiles(c.CSS("[name=bench-file]"), []string{file(t, "bench.json", strings.ReplaceAll(out, `"plug adapter"`, `"brass adapter"`))}))
	b.waitText(".two .found", "brass adapter")
	b.do(press("[name=bring-in]"))
	b.waitText(".two .found", "Brought in")
	b.do(c.SetUploadFiles(c.CSS("[name=bench-file]"), []string{file(t, "spoilt.json", strings.Replace(out, `"max_w": 60`, `"max_w": 0`, 1))}))
	b.waitText(".two .danger", "kit[1].spec.element.max_w: give a rating in W above 0")
}

// BenchmarkStaircaseInBrowser: a path of 20 parts at 10 multiples, from the
// change of a setting to the new figures on the screen.
func BenchmarkStaircaseInBrowser(b *testing.B) {
	base := serve(b, true)
	tab := open(b)
	tab.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS(".scroll .steps")), press("[name=new-path]"), c.WaitVisible(c.CSS(".start")))
	for i := range 20 {
		what := "plug adapter"
		switch i {
		case 0:
			what = "bench analyzer"
		case 1:
			what = "step attenuator"
		}
		tab.retype("[name=sought]", what+kb.Enter)
	}
	tab.waitFor(`String(document.querySelectorAll('.row .part').length)`, "20")
	// One turn: set the step attenuator, wait for the level at the end to change.
	const turn = `(async () => {
		const level = () => [...document.querySelectorAll('.scroll svg .level')].at(-1)?.textContent
		const pick = document.querySelector('.row select')
		const before = level(), start = performance.now()
		pick.value = pick.value === '10 dB' ? '20 dB' : '10 dB'
		pick.dispatchEvent(new Event('change'))
		while (level() === before) await new Promise((r) => setTimeout(r))
		return performance.now() - start
	})()`
	total := 0.0
	for b.Loop() {
		total += eval[float64](tab, turn)
	}
	b.ReportMetric(total/float64(b.N), "ms/change")
}

// BenchmarkFigureInBrowser is what a person sees after the key that completed a figure:
// from the key to the power on the screen, the 95th of 100.
func BenchmarkFigureInBrowser(b *testing.B) {
	base := serve(b, true)
	tab := open(b)
	tab.keyUp(base)
	const turn = `(async () => {
		const line = document.querySelector('[name=entry]'), figure = () => document.querySelector('[data-testid=power]').textContent
		const type = (text) => { line.value = text; line.dispatchEvent(new Event('input')) }
		const wait = (before) => new Promise((done) => { const look = () => (figure() === before ? setTimeout(look) : done()); look() })
		if (!line.value) { type('4.7'); await wait('') }
		const before = figure(), start = performance.now()
		type(line.value.startsWith('4.7') ? '3.91' : '4.72')
		await wait(before)
		return performance.now() - start
	})()`
	turns(b, tab, turn)
}

// BenchmarkRungInBrowser is from pointing at a rung to the line through the plot being drawn.
func BenchmarkRungInBrowser(b *testing.B) {
	base := serve(b, true)
	tab := open(b)
	tab.do(c.Navigate(base+quillon+"/emissions"), c.WaitVisible(c.CSS(".plot canvas")), c.WaitVisible(c.CSS(".rung")))
	const turn = `(async () => {
		const rungs = [...document.querySelectorAll('.rung')]
		rungs.forEach((r) => r.dispatchEvent(new MouseEvent('mouseleave')))
		await new Promise((r) => setTimeout(r, 60))
		const start = performance.now()
		rungs[1].dispatchEvent(new MouseEvent('mouseenter'))
		while (!document.querySelector('[data-mark]')) await new Promise((r) => setTimeout(r))
		await new Promise((r) => requestAnimationFrame(() => setTimeout(r)))
		return performance.now() - start
	})()`
	turns(b, tab, turn)
}

// turns reports how long turns of a script say they took, in ms.
func turns(b *testing.B, tab *browser, turn string) {
	var took []float64
	for b.Loop() {
		took = append(took, eval[float64](tab, turn))
	}
	slices.Sort(took)
	b.ReportMetric(took[len(took)/2], "ms/median")
	b.ReportMetric(took[len(took)*95/100], "ms/p95")
}
