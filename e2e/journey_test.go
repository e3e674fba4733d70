package e2e

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"

	c "github.com/chromedp/chromedp"

	"talloak/core/path"
	"talloak/instruments/simulated"
)

// sweepFile is a sweep of an invented radio, saved as a person in a country
// with decimal commas would: semicolons, MHz, Windows line ends.
func sweepFile(t *testing.T) string {
	t.Helper()
	db, floor := 50.0, -90.0
	p, err := path.Compile([]path.Element{
		{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: &db}},
		{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 9e3, ToHz: 3.2e9, NoiseFloorDBm: &floor}}},
	})
	if err != nil {
		t.Fatal(err)
	}
	radio := simulated.Radio{NominalV: 7.4, Bands: map[string]map[string]simulated.Level{"2m": {"High": {W: 5, Harmonics: []float64{-70, -47}}}}}
	trace := simulated.Sweeper{Path: p, RBW: 100e3, Seed: 5}.Sweep(radio.Transmit("2m", "High", 146.52e6, 7.4), 30e6, 1.53e9, 15_001)
	text := strings.NewReplacer(",", ";", ".", ",", "\n", "\r\n").Replace(simulated.CSV(trace))
	file := filepath.Join(t.TempDir(), "third look.csv")
	if err := os.WriteFile(file, []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
	return file
}

// TestFromNewReviewToFrozenEdition is the whole way of a person who has just
// got a radio: claims, unit, readings, a sweep, the ruling, an edition.
func TestFromNewReviewToFrozenEdition(t *testing.T) {
	base := serve(t, true) // for its bench; the review is our own
	b := open(t)

	b.do(c.Navigate(base+"/reviews"), c.SendKeys(c.CSS("[name=maker]"), "Hilltop"), c.SendKeys(c.CSS("[name=model]"), "H1"+kb.Enter))

	// Radio: what is claimed is typed, and read back at once.
	b.do(c.WaitVisible(c.CSS("[name=claim-0]")), c.SendKeys(c.CSS("[name=claim-0]"), "2m 5/1"))
	b.waitText(".echo", "High 5 W, Low 1 W")
	b.do(c.WaitVisible(c.CSS("figure .row")))
	b.do(c.SendKeys(c.CSS("[name=claim-1]"), "3m 9"))
	b.waitText(".claim:nth-of-type(2) .echo", "no band known here")
	b.waitText(".claim:nth-of-type(2) .echo u", "3m") // it points at the word
	b.do(c.SendKeys(c.CSS("[aria-label='Source of claim 1']"), "box"))
	b.do(c.SendKeys(c.CSS("[name=claim-1]"), strings.Repeat(kb.Backspace, 4)+"70cm 4"), c.WaitVisible(c.CSS("figure .band:nth-of-type(2)")))
	b.do(c.SendKeys(c.CSS("[name=serial]"), "H1-7"), c.SendKeys(c.CSS("[name=supply-min-v]"), "6,6"+kb.Enter))

	// Publish refuses while it is not said how the unit was come by.
	b.do(press(".tab[href$=publish]"))
	b.waitText("li.blocks", "come by")
	b.do(press(".tab[href$=radio]"), c.WaitVisible(c.CSS("[aria-label='Source of claim 2']")))
	b.waitValue("[aria-label='Source of claim 2']", "box") // carried from the line above
	b.do(press("[name=come-by][value=bought]"), press("[name=interest][value=none]"))

	// Power: nothing is logged before the wiring was gone through.
	b.do(press(".tab[href$=power]"), c.WaitVisible(c.CSS(".steps")), c.SendKeys(c.CSS("[name=entry]"), "4.71 4.86 4.8 h swr 1.1"))
	b.waitText("[data-testid=power]", "4.90 W")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".keyup .echo", "before keying")
	b.do(press("[name=preflight]"), c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li", "4.71 4.86 4.8")
	// A slip is struck with a reason and stays to be seen.
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.ArrowDown))
	b.waitText(".what .level", "Low")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "4.7 h"))
	b.waitText(".doubt", "the radio shows level h")
	b.do(c.SendKeys(c.CSS("[name=entry]"), kb.Enter))
	b.waitText(".log li", "4.7 h")
	b.do(c.SendKeys(c.CSS("[name=entry]"), "x"), c.SendKeys(c.CSS("[aria-label='Reason for striking']"), "left on High"+kb.Enter))
	b.waitText(".log li.out", "left on High")
	// Even a strike can be taken back, and made again.
	b.do(press(".log li.out .words button"), c.SendKeys(c.CSS(".log [aria-label=Reason]"), "it was on Low after all"+kb.Enter), c.WaitNotPresent(c.CSS(".log li.out")))
	b.do(press(".log li .words button"), c.SendKeys(c.CSS(".log [aria-label=Reason]"), "no, left on High"+kb.Enter))
	b.waitText(".log li.out", "no, left on High")
	b.do(c.Focus(c.CSS("[name=entry]")))
	b.do(c.SendKeys(c.CSS("[name=entry]"), "0.98 0.97 l"+kb.Enter))
	b.waitText(".log li:not(.out)", "0.98 0.97 l")

	// Emissions: nothing is preset, and what that costs is said until it is told; the
	// file is dropped in, the worst margin stands large.
	b.do(press(".tab[href$=emissions]"), c.WaitVisible(c.CSS("[name=as-told]")))
	b.waitText(".costs", "Detector not told")
	b.do(press("[name=as-told]"))
	b.waitText(".costs", "Bare or modulated not told")
	b.do(c.WaitEnabled(c.CSS("[name=preflight]")), press("[name=preflight]"), c.WaitVisible(c.CSS(".drop")), c.SetUploadFiles(c.CSS("[name=sweep]"), []string{sweepFile(t)}))
	b.do(c.WaitVisible(c.CSS(".plot canvas")))
	b.waitText(".margin", "dB")
	b.do(c.WaitVisible(c.CSS(".rung[data-product='3rd harmonic'][data-verdict=fail]")), c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic'][data-verdict=pass]")))

	// Ruling: the board says so, and forty down alone would have passed it.
	b.do(press(".tab[href$=ruling]"), c.WaitVisible(c.CSS("[data-whole=emissions][data-verdict=fail]")), c.WaitVisible(c.CSS("[data-whole=power][data-verdict=passes-so-far]")))
	b.waitText(".headline", "3rd harmonic")
	b.choose("[aria-label='Rule book']", "Forty down")
	b.do(c.WaitVisible(c.CSS("[data-whole=emissions][data-verdict=passes-so-far]")), c.WaitVisible(c.CSS(".box .ghost[data-verdict=fail]")))

	// Publish: frozen by the rules that are kept, not those that were tried.
	b.do(press(".tab[href$=publish]"))
	b.toFreeze()
	b.do(press("[name=freeze]"))
	b.waitText(".editions", "Edition 1")
	href, err := c.Run(b.ctx, c.Evaluate[string](`document.querySelector('.editions a').href`))
	if err != nil {
		t.Fatal(err)
	}
	b.do(c.Navigate(href))
	b.waitText("main", "serial H1-7")
	eval[bool](b, "(document.querySelectorAll('details').forEach((d) => (d.open = true)), true)") // what is folded, too
	for _, want := range []string{"Emissions fail on 2m High", "recalled from memory", "left on High", "3rd harmonic", "70cm High: power was not read", "no certification"} {
		b.waitText("main", want)
	}
}

// waitText waits until the text of a match has want in it.
func (b *browser) waitText(css, want string) {
	b.t.Helper()
	got := ""
	b.do(c.WaitVisible(c.CSS(css)), c.Func(func(ctx context.Context, target *c.Target) error {
		for {
			var err error
			got, err = c.Evaluate[string](`[...document.querySelectorAll(`+strconv.Quote(css)+`)].map((e) => e.innerText).join('\n')`)(ctx, target)
			if err != nil || strings.Contains(got, want) {
				return err
			}
			select {
			case <-ctx.Done():
				return fmt.Errorf("%s never said %q, but %q", css, want, got)
			case <-time.After(50 * time.Millisecond):
			}
		}
	}))
}
