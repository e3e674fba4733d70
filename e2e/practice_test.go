package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestAFirstAfternoon: a scenario is begun, its bench seen; the radio is found on Low, set and keyed; the
// meter and the analyzer are read by their sockets; the end holds it all against the truth, and nothing
// of it can be published.
func TestAFirstAfternoon(t *testing.T) {
	base := serve(t, false)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+"/practise"), c.WaitVisible(c.CSS("[name=begin-first-afternoon]")))
	p.looked("practise")
	p.do(press("[name=begin-first-afternoon]"), c.WaitVisible(c.CSS("[data-guide]")), press(".tab[href$=practice]"), c.WaitVisible(c.CSS("[data-shown]")))
	p.waitFor("document.querySelector('[data-level]').textContent.trim()", "LOW")
	p.waitFor("document.querySelector('[data-serial]').textContent.trim()", "W1-0147")
	for _, level := range []string{"HIGH", "LOW"} {
		box := map[string]string{"HIGH": "1", "LOW": "2"}[level]
		p.do(press(".tab[href$=power]"), c.WaitVisible(c.CSS(".boxes button:nth-of-type("+box+")")), press(".boxes button:nth-of-type("+box+")"), press("[name=level-"+level+"]"))
		p.wire("inline meter into the load")
		if level == "HIGH" {
			p.do(press("[name=preflight]"))
		}
		p.do(press("[name=key]"), c.WaitVisible(c.CSS(".hands.keyed")))
		p.waitFor("String(Number(document.querySelector('[data-meter]').innerText.split(' ')[0]) > 0.5)", "true")
		eval[bool](p.browser, "(document.querySelector('[name=entry]').focus(), true)")
		for _, n := range []string{"2", "3"} {
			p.press("i", "KeyI")
			p.waitFor("String(document.querySelector('[name=entry]').value.split('W ').length)", n)
		}
		p.types(kb.Enter)
		p.waitText(".log li", "itself")
		p.do(press("[name=key]"), c.WaitNotPresent(c.CSS(".hands.keyed")))
		p.do(press(".tab[href$=emissions]"), c.WaitVisible(c.CSS(".boxes button:nth-of-type("+box+")")), press(".boxes button:nth-of-type("+box+")"))
		p.wire("pads into the analyzer")
		p.do(c.WaitVisible(c.CSS("[name=sweep-by]")))
		if level == "HIGH" {
			p.do(press("[name=preflight]"))
		}
		p.do(c.WaitVisible(c.CSS(".drop")), press("[name=key]"), c.WaitVisible(c.CSS(".hands.keyed")), press("[name=sweep-by]"), c.WaitVisible(c.CSS("[data-live]")))
		if level == "HIGH" {
			p.looked("practice-live")
		}
		p.waitText("[data-sweeping]", "settled")
		p.do(press("[name=take-trace]"), c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic']")), press("[name=key]"), c.WaitNotPresent(c.CSS(".hands.keyed")))
	}
	p.do(press(".tab[href$=practice]"), c.WaitVisible(c.CSS("[name=end]")), press("[name=key]"), press("[name=look]"))
	p.do(c.WaitVisible(c.CSS("[data-screen-trace] polyline")))
	p.looked("bench")
	p.do(press("[name=key]"), c.WaitNotPresent(c.CSS(".hands.keyed")), press("[name=lay]"), c.WaitVisible(c.CSS(".laying .part")))
	p.looked("laying")
	p.do(press(".shelf button:nth-of-type(2)"))
	p.waitFor("String(document.querySelectorAll('.laying .part').length)", "5")
	p.do(press("[name=connect]"), c.WaitNotPresent(c.CSS(".laying")))
	p.waitText("[data-hands] .el-select", "laid 3")
	p.do(press("[name=end]"), press("[name=suspect-left-on-low]"), press("[name=suspect-pad]"), press("[name=score]"), c.WaitVisible(c.CSS("[data-score]")))
	p.looked("score")
	p.waitText("[data-score] .figure", "0 of your 4 rulings were wrong")
	p.waitText("[data-fault=left-on-low]", "found and cured")
	p.waitText("[data-score]", "suspected, and not so")
	p.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS(".new")))
	p.waitFor("String(document.querySelectorAll('.card').length)", "0")
	p.do(c.Navigate(base + "/practise"))
	p.waitText(".run", "of 4 rulings 0 wrong")
}

// wire connects the radio of a practice bench to a path of that name.
func (p *typist) wire(path string) {
	p.t.Helper()
	if eval[string](p.browser, "document.querySelector('[data-hands] .el-select').innerText.trim()") == path {
		return
	}
	p.do(press("[data-hands] .el-select"))
	p.waitFor("String([...document.querySelectorAll('.el-select-dropdown__item')].some((o) => o.innerText === '"+path+"' && o.offsetParent))", "true")
	eval[bool](p.browser, "([...document.querySelectorAll('.el-select-dropdown__item')].find((o) => o.innerText === '"+path+"' && o.offsetParent).click(), document.activeElement.blur(), true)")
	p.waitText("[data-hands] .el-select", path)
}
