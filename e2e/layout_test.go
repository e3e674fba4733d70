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

// overprints lists what lies over something else, and what is wider than the window. Every piece of text and
// every control is a rectangle, cut to what the boxes it scrolls in let be seen; two that share more than a
// hairline lie over each other, unless one is part of the other or is drawn to lie above the page.
const overprints = `(() => {
	const out = [], W = document.documentElement.clientWidth
	if (document.documentElement.scrollWidth > W + 1) {
		const wide = [...document.querySelectorAll('main *')].filter((e) => e.getBoundingClientRect().right > W + 1 && !e.closest('svg, canvas') && ![...e.children].some((k) => k.getBoundingClientRect().right > W + 1))
		out.push('wider than the window by ' + (document.documentElement.scrollWidth - W) + ': ' + wide.slice(0, 3).map((e) => e.tagName + '.' + e.className + ' ' + (e.textContent || '').trim().slice(0, 30)).join(' | '))
	}
	const above = (e) => { for (let a = e; a; a = a.parentElement) { const p = getComputedStyle(a).position; if (p === 'fixed' || p === 'sticky') return a } return null }
	const seen = (e) => e.checkVisibility({opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true})
	const cut = (r, e) => {
		let b = {l: r.left, t: r.top, r: r.right, b: r.bottom}
		for (let a = e; a && a !== document.documentElement; a = a.parentElement) {
			const s = getComputedStyle(a)
			if (!/auto|scroll|hidden|clip/.test(s.overflowX + s.overflowY)) continue
			const k = a.getBoundingClientRect()
			b = {l: Math.max(b.l, k.left), t: Math.max(b.t, k.top), r: Math.min(b.r, k.right), b: Math.min(b.b, k.bottom)}
		}
		return b
	}
	const all = []
	const walk = document.createTreeWalker(document.querySelector('.shell') ?? document.body, NodeFilter.SHOW_TEXT)
	while (walk.nextNode()) {
		const n = walk.currentNode, e = n.parentElement
		if (!n.data.trim() || !e || e.closest('script, style, option, datalist, title, iframe, [aria-hidden=true], .ghost') || !seen(e)) continue
		const range = document.createRange()
		range.selectNodeContents(n)
		for (const r of range.getClientRects()) {
			const b = cut(r, e)
			// A line of text is taller than its letters.
			const slack = e.closest('svg') ? 0.28 : 0.2, h = b.b - b.t
			b.t += slack * h; b.b -= slack * h
			if (b.r - b.l > 1 && b.b - b.t > 1) all.push({b, e, n, says: n.data.trim().slice(0, 40), above: above(e)})
		}
	}
	for (const e of document.querySelectorAll('.shell input:not([type=file]), .shell select, .shell textarea, .shell .el-select, .shell .el-button')) {
		if (!seen(e) || e.closest('.el-select') !== null && !e.matches('.el-select') || e.matches('[type=checkbox], [type=radio]')) continue
		const b = cut(e.getBoundingClientRect(), e)
		b.t += 2; b.b -= 2
		if (b.r - b.l > 2 && b.b - b.t > 2) all.push({b, e, says: '[' + (e.name || e.ariaLabel || e.className) + ']', above: above(e)})
	}
	for (let i = 0; i < all.length; i++) for (let k = i + 1; k < all.length; k++) {
		const x = all[i], y = all[k]
		if (x.above !== y.above || x.n && x.n === y.n || x.e.contains(y.e) && !x.n || y.e.contains(x.e) && !y.n) continue
		const w = Math.min(x.b.r, y.b.r) - Math.max(x.b.l, y.b.l), h = Math.min(x.b.b, y.b.b) - Math.max(x.b.t, y.b.t)
		if (w > 2 && h > 2) out.push('“' + x.says + '” and “' + y.says + '” share ' + Math.round(w) + ' x ' + Math.round(h))
	}
	// Nothing but a plot is scrolled sideways.
	for (const e of document.querySelectorAll('.shell *')) {
		if (e.scrollWidth > e.clientWidth + 2 && /auto|scroll/.test(getComputedStyle(e).overflowX) && seen(e) && !e.closest('[data-plot], textarea, iframe')) out.push('scrolled sideways: ' + e.tagName + '.' + e.className)
	}
	return out.slice(0, 12)
})()`

// room is a size of window: a small laptop, a large one, and twice the size of everything at 1280 x 800.
var rooms = []struct {
	name string
	w, h int64
}{{"1024x768", 1024, 768}, {"1280x800", 1280, 800}, {"1440x900", 1440, 900}, {"200 %", 640, 400}}

// looked is a view with what has to be seen there, and what is done first.
type looked struct {
	path, wait string
	more       []c.Action[c.Void]
}

// crowded is a review of twelve bands with four levels, of a radio whose names are as long as they may get, with
// forty looks at one box; it is begun through the API.
func (b *browser) crowded(base string) string {
	b.t.Helper()
	return eval[string](b, `(async () => {
		const send = async (method, path, body, type) => { const r = await fetch('/api/v1' + path, {method, headers: {'Content-Type': type ?? 'application/json'}, body: type ? body : JSON.stringify(body)}); if (!r.ok) throw new Error(path + ': ' + await r.text()); return r.status === 204 ? null : r.json() }
		const id = crypto.randomUUID(), long = (w) => w + ' of ' + 'a name that goes on for sixty characters, and then some'.slice(0, 56 - w.length)
		await send('POST', '/reviews', {id, subject: {maker: long('maker'), model: long('model'), serial: 'S-0123456789-0123456789', come_by: 'lent', interest: 'none'}})
		const r = await send('GET', '/reviews/' + id)
		const bands = ['160m', '80m', '40m', '20m', '17m', '15m', '12m', '10m', '6m', '2m', '70cm', '23cm']
		await send('PUT', '/reviews/' + id, {version: r.version, subject: r.subject, rules: r.rules, claims: bands.map((b) => ({text: b + ' 100/50/20/5', source: 'manual', read_on: '2026-11-01'}))})
		const bench = await send('GET', '/bench'), kit = {}
		for (const [name, spec] of Object.entries({pad: {kind: 'attenuator', element: {loss: {flat_db: 40}, max_w: 200, to_hz: 3e9}}, small: {kind: 'attenuator', element: {loss: {flat_db: 20}, max_w: 5, to_hz: 3e9}}})) {
			kit[name] = crypto.randomUUID()
			await send('PUT', '/kit/' + kit[name], {version: 0, name: long(name), spec})
		}
		const analyzer = bench.kit.find((k) => k.kind === 'analyzer' && k.name.startsWith('bench')), path = crypto.randomUUID()
		await send('PUT', '/paths/' + path, {version: 0, name: long('pads into the analyzer'), parts: [{kit_id: kit.pad, setting: ''}, {kit_id: kit.small, setting: ''}, {kit_id: analyzer.id, setting: analyzer.first_setting}], applied_offset_db: 0})
		for (let i = 0; i < 40; i++) {
			const q = new URLSearchParams({key: crypto.randomUUID(), band: '2m', level: 'High', mode: 'FM', frequency_hz: '146.52e6', path_id: path, file: 'look.txt', draft: JSON.stringify({name: 'look ' + (i + 1) + ', 30-1600', look: true})})
			await send('POST', '/reviews/' + id + '/measure/emissions?' + q, '30-1600 -90 h-10-' + (50 + i % 20) + '?-55 205-' + (55 + i % 7), 'text/csv')
		}
		return '/reviews/' + id
	})()`)
}

// allViews are the views of the application, on the demo and on a review that is as full as it gets.
func allViews(crowded string) []looked {
	take := []c.Action[c.Void]{press("[name=view-take]"), c.WaitVisible(c.CSS("[name=look]"))}
	return []looked{
		{"/reviews", ".card", nil},
		{"/bench/paths", ".row .part", nil},
		{"/bench/kit", "article", nil},
		{"/bench/pads", "main h1", nil},
		{"/bench/meters", "main h1", nil},
		{"/bench/files", "main h1", nil},
		{"/practise", ".scenarios", nil},
		{"/rule-books", "[data-book-plot]", nil},
		{"/compare", "[data-row]", nil},
		{"/scratch", "[data-calc=noise] .out b", nil},
		{drover + "/radio", "figure .row", nil},
		{drover + "/sheet", ".steps li", nil},
		{drover + "/power", ".steps", nil},
		{drover + "/power", ".steps", []c.Action[c.Void]{c.SendKeys(c.CSS("[name=entry]"), "v"+kb.Enter), c.WaitVisible(c.CSS("[data-curve] svg"))}},
		{drover + "/emissions", ".plot canvas", nil},
		{drover + "/emissions", ".plot canvas", take},
		{drover + "/emissions", ".plot canvas", []c.Action[c.Void]{press("[name=view-levels]"), c.WaitVisible(c.CSS("[data-level]"))}},
		{drover + "/emissions", "[name=view-states]", []c.Action[c.Void]{press(".boxes button:nth-of-type(4)"), press("[name=view-states]"), c.WaitVisible(c.CSS("[data-board]"))}},
		{drover + "/deviation", "[name=entry]", nil},
		{drover + "/frequency", "[name=entry]", nil},
		{drover + "/occupied", "main h1", nil},
		{drover + "/sensitivity", "[name=entry]", nil},
		{drover + "/supply", "[name=entry]", nil},
		{drover + "/battery", "main h1", nil},
		{drover + "/antenna", "main h1", nil},
		{drover + "/receiver", "[name=entry]", nil},
		{drover + "/features", "main h1", nil},
		{drover + "/ruling", ".evidence", nil},
		{drover + "/publish", "iframe", nil},
		{crowded + "/radio", "figure .row", nil},
		{crowded + "/sheet", ".steps li", nil},
		{crowded + "/power", ".steps", nil},
		{crowded + "/emissions", "[name=view-take]", nil},
		{crowded + "/ruling", ".evidence", nil},
		{crowded + "/publish", "iframe", nil},
	}
}

// TestNothingLiesOverAnything: at every size, on every view.
func TestNothingLiesOverAnything(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS(".card")))
	views := allViews(b.crowded(base))
	for _, room := range rooms {
		b.do(c.EmulateViewport(room.w, room.h))
		for i, v := range views {
			b.do(c.Navigate(base+v.path), c.WaitVisible(c.CSS(v.wait)))
			b.do(v.more...)
			b.settled()
			if got := eval[[]string](b, overprints); len(got) > 0 {
				t.Errorf("%s at %s:\n  %s", v.path, room.name, strings.Join(got, "\n  "))
				if dir := os.Getenv("TALLOAK_LOOK"); dir != "" {
					b.shot(filepath.Join(dir, fmt.Sprintf("%d-%d.png", i, room.w)))
				}
			}
		}
	}
}

// settled waits until nothing of the page has moved for a moment.
func (b *browser) settled() {
	b.t.Helper()
	b.do(ignore(c.Poll[bool](`(() => { const now = [...document.querySelectorAll('main *')].map((e) => { const r = e.getBoundingClientRect(); return Math.round(r.x) + ',' + Math.round(r.y) + ',' + Math.round(r.width) }).join(';'); const same = window.looked === now; window.looked = now; return same })()`, c.WithPollingInterval(150e6))))
}
