package e2e

import (
	"testing"

	c "github.com/chromedp/chromedp"
)

func TestZLook(t *testing.T) {
	base := serve(t, true)
	b := open(t)
	edition, err := c.Run(b.ctx, c.Evaluate[string](`fetch('`+base+`/api/v1`+quillon+`/publish').then(r => r.json()).then(p => p.editions[0].id)`, c.EvalAwaitPromise))
	if err != nil {
		b.do(c.Navigate(base + "/reviews"))
		edition, err = c.Run(b.ctx, c.Evaluate[string](`fetch('/api/v1`+quillon+`/publish').then(r => r.json()).then(p => p.editions[0].id)`, c.EvalAwaitPromise))
		if err != nil {
			t.Fatal(err)
		}
	}
	b.do(c.Navigate(base+"/api/v1/editions/"+edition+"/page"), c.WaitVisible(c.CSS("h1")))
	for i, y := range []string{"760", "1500", "2900", "4200"} {
		b.do(ignore(c.Evaluate[any](`window.scrollTo(0,` + y + `)`)))
		b.shot("/tmp/shots/ed" + string(rune('1'+i)) + ".png")
	}
	b.do(c.EmulateViewport(390, 844), ignore(c.Evaluate[any](`window.scrollTo(0,0)`)))
	b.shot("/tmp/shots/ed390a.png")
	b.do(ignore(c.Evaluate[any](`window.scrollTo(0,1500)`)))
	b.shot("/tmp/shots/ed390b.png")
	w, _ := c.Run(b.ctx, c.Evaluate[float64](`document.documentElement.scrollWidth`))
	t.Log("width at 390:", w)
}
