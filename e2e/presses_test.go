package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"
)

// TestFromNothingByKeys: an empty installation, no mouse. Four things and two paths in at most 150 presses, the whole review of two
// bands and three levels, looked at and frozen, in at most 400.
func TestFromNothingByKeys(t *testing.T) {
	base := serve(t, false)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS("[data-empty]")))
	p.alt2("b", "KeyB")
	p.focused("bench-line")
	for _, line := range []string{"inline meter 100-500MHz 5% 15/60W", "pad 40dB 10W 3GHz 0.5", "load 50W 1GHz", "analyzer 9k-5G max +10 floor -100 rbw 10k"} {
		p.types(line)
		p.do(c.WaitVisible(c.CSS("[data-understood]")))
		p.types(kb.Enter)
		p.waitValue("[name=bench-line]", "")
		p.waitText("[data-kept-line]", strings.Fields(line)[0])
	}
	for _, line := range []string{"meter, load", "pad, analyzer"} {
		p.types(line)
		p.waitText("[data-understood]", "→")
		p.types(kb.Enter)
		p.waitValue("[name=bench-line]", "")
		p.waitText("nav[aria-label='Kept paths']", line)
	}
	bench := p.keys
	t.Logf("%d presses for four things and two paths", bench)
	if bench > 150 {
		t.Error("150 are the most")
	}

	p.alt2("r", "KeyR")
	p.do(c.WaitVisible(c.CSS("[name=maker]")))
	p.tabTo("model")
	p.types("K2" + kb.Enter)
	p.focused("claim-0")
	p.types("2m 5/2/1" + kb.Tab)
	p.focused("claim-1")
	p.types("70cm 4/2/1" + kb.Tab + kb.Tab)
	p.waitFor("document.activeElement.ariaLabel", "Source of claim 1")
	p.types("box")
	p.waitText("figure .band:nth-of-type(2)", "4 W")
	p.tabTo("come-by")
	p.types(" ")
	p.tabTo("interest")
	p.types(" ")
	p.keyBoxes([]string{"4.9", "2", "1", "3.9", "2", "1"})
	// A look at each box.
	p.stage("4")
	p.do(c.WaitVisible(c.CSS("[name=look]")), c.WaitEnabled(c.CSS("[name=preflight]")))
	p.lookBoxes(6)
	p.freeze()
	t.Logf("%d presses from nothing to an edition", p.keys)
	if p.keys > 400 {
		t.Error("400 are the most")
	}
}

// TestNineBandsByKeys: an HF radio of nine bands with three levels each; at most 200 presses on Power.
func TestNineBandsByKeys(t *testing.T) {
	base := serve(t, false)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+"/bench/paths"), c.WaitVisible(c.CSS("[name=bench-line]")))
	p.focused("bench-line")
	for _, line := range []string{"inline meter 1.6-60MHz 5% 20/200W", "load 200W 1GHz", "meter, load"} {
		p.types(line)
		p.do(c.WaitVisible(c.CSS("[data-understood]")))
		p.types(kb.Enter)
		p.waitValue("[name=bench-line]", "")
	}
	p.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS("[name=model]")), c.Focus(c.CSS("[name=model]")))
	p.types("H9" + kb.Enter)
	p.focused("claim-0")
	p.types("80m/40m/30m/20m/17m/15m/12m/10m/6m 100/50/10")
	p.waitText("figure .band:nth-of-type(9)", "100 W")
	before := p.keys
	p.keyBoxes(strings.Fields(strings.Repeat("98 49 9.8 ", 9)))
	t.Logf("%d presses on Power for nine bands of three levels", p.keys-before)
	if p.keys-before > 200 {
		t.Error("200 are the most")
	}
}

// keyBoxes goes to Power and keys one box after the other, from the first on.
func (p *typist) keyBoxes(readings []string) {
	p.t.Helper()
	p.stage("3")
	p.focused("entry")
	for i, reading := range readings {
		p.focused("entry")
		if i > 0 {
			p.types(kb.ArrowDown)
		}
		p.do(c.WaitVisible(c.CSS(".staircase .steps")))
		if eval[bool](p.browser, "!!document.querySelector('[name=preflight]')") {
			p.do(c.WaitEnabled(c.CSS("[name=preflight]")))
			p.command("c", "KeyC")
			p.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
		}
		p.types(reading + kb.Enter)
		p.waitValue("[name=entry]", "")
		p.waitText(".log li", reading)
	}
}

// lookBoxes types a look at each of n boxes on Take, as short as one can.
func (p *typist) lookBoxes(n int) {
	p.t.Helper()
	for i := range n {
		if i > 0 {
			p.types(kb.ArrowDown)
			p.do(c.WaitVisible(c.CSS("[name=look]")), c.WaitVisible(c.CSS(".staircase .steps")))
		}
		if eval[bool](p.browser, "!!document.querySelector('[name=preflight]')") {
			p.do(c.WaitEnabled(c.CSS("[name=preflight]")))
			p.command("c", "KeyC")
			p.do(c.WaitNotPresent(c.CSS("[name=preflight]")))
		}
		p.focused("look")
		p.types(fmt.Sprintf("30-5000 -80 h-%d-75", []int{3, 7, 10}[i%3]+i/3))
		p.do(c.WaitVisible(c.CSS("[data-look]")))
		p.types(kb.Enter)
		p.do(c.WaitVisible(c.CSS(".rung")))
	}
}

// freeze goes to Publish and freezes there.
func (p *typist) freeze() {
	p.t.Helper()
	p.stage("7")
	p.do(c.WaitVisible(c.CSS("[name=freeze]:not([disabled])")))
	p.tabTo("freeze")
	p.types(kb.Enter)
	p.waitText(".editions", "Edition 1")
}

// tabTo goes on by Tab until a field of this name has the focus.
func (p *typist) tabTo(name string) {
	p.t.Helper()
	for range 120 {
		if p.shown("document.activeElement.name") == name {
			return
		}
		p.types(kb.Tab)
	}
	p.t.Fatalf("Tab never comes to %s", name)
}

// alt2 presses Alt with a letter, which goes to a place.
func (p *typist) alt2(key, code string) {
	p.t.Helper()
	p.keys++
	p.altKey(key, code)
}
