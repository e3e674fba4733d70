package e2e

import (
	"os"
	"strings"
	"testing"

	c "github.com/chromedp/chromedp"
)

// TestNothingSeriousForWhoSeesOrHearsIt: axe-core, which holds a page against WCAG 2 A and AA, finds nothing serious on
// any view, by day and in a dim room.
func TestNothingSeriousForWhoSeesOrHearsIt(t *testing.T) {
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal("axe-core is not installed; run make test", err)
	}
	base := serve(t, true)
	b := open(t)
	b.do(c.Navigate(base+"/reviews"), c.WaitVisible(c.CSS(".card")))
	views := allViews(b.crowded(base))
	for _, room := range []string{"day", "dim"} {
		b.do(c.Navigate(base+"/reviews"), ignore(c.Evaluate[any](`localStorage.setItem('room','`+room+`')`)))
		for _, v := range views {
			b.do(c.Navigate(base+v.path), c.WaitVisible(c.CSS(v.wait)))
			b.do(v.more...)
			b.settled()
			eval[bool](b, string(axe)+"; true")
			got := eval[[]string](b, `axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'], resultTypes: ['violations'], iframes: false}).then((r) =>
				r.violations.filter((v) => ['serious', 'critical'].includes(v.impact)).map((v) => v.id + ': ' + v.nodes.slice(0, 4).map((n) => n.target.join(' ') + ' ' + n.html.slice(0, 90) + ' ' + (n.any[0]?.message ?? '').slice(0, 120)).join(' | ')))`)
			if len(got) > 0 {
				t.Errorf("%s, %s:\n  %s", v.path, room, strings.Join(got, "\n  "))
			}
		}
	}
}
