package e2e

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/chromedp/chromedp/kb"

	"talloak/instruments/simulated"

	c "github.com/chromedp/chromedp"
)

// instrumentViews are the pictures of instruments and practice, four in one, taken on the way of their tests.
var instrumentViews = []string{"tried", "live", "bench", "score"}

// looked keeps a picture where somebody asked for them.
func (b *browser) looked(name string) {
	if dir := os.Getenv("TALLOAK_LOOK"); dir != "" {
		b.shot(filepath.Join(dir, name+".png"))
	}
	if dir := os.Getenv("TALLOAK_SCREENSHOTS"); dir != "" && slices.Contains(instrumentViews, name) {
		b.shot(filepath.Join(dir, "of-"+name+".png"))
	}
}

// sockets serves a simulated bench, and writes on the demo's bench that its meter, analyzer and
// supply are there.
func sockets(t *testing.T, b *browser) (at map[string]string) {
	t.Helper()
	ctx, stop := context.WithCancel(context.Background())
	served, wait, err := simulated.NewBench(simulated.DefaultScene(5, false), 5, 20).Listen(ctx, "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { stop(); wait() })
	at = map[string]string{}
	for _, s := range served {
		at[s.Kind] = s.Address
	}
	for name, of := range map[string][2]string{"pocket inline meter": {at["power-meter"], "scpi-power-meter"}, "bench analyzer, 9 kHz": {at["analyzer"], "scpi-analyzer"}, "bench supply": {at["supply"], "scpi-supply"}} {
		if !eval[bool](b, fmt.Sprintf(`fetch('/api/v1/bench').then((r) => r.json()).then((b) => b.kit.find((k) => k.name.startsWith(%q))).then((k) => fetch('/api/v1/kit/' + k.id + '/socket', {method: 'PUT', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({address: %q, driver: %q})})).then((r) => r.ok)`, name, of[0], of[1])) {
			t.Fatalf("%s has no socket", name)
		}
	}
	return at
}

// hand says lines to simulated instruments, as somebody at their front panels would.
type hand struct {
	t  *testing.T
	at map[string]string
}

func (h hand) do(kind, line string) {
	h.t.Helper()
	conn, err := net.Dial("tcp", h.at[kind])
	if err != nil {
		h.t.Fatal(err)
	}
	defer func() { _ = conn.Close() }()
	_, _ = fmt.Fprintf(conn, "%s;*OPC?\n", line)
	if answer, err := bufio.NewReader(conn).ReadString('\n'); err != nil || answer != "1\n" {
		h.t.Fatalf("%s: %q %v", line, answer, err)
	}
}

// TestAnInstrumentIsTriedReadAndSwept: on the bench it says who it is, line by line; on the key-up
// screen i reads the meter as often as wanted; on Take the analyzer is dialled in, confirmed where that
// could hurt it, swept as one looks, and taken with what it told.
func TestAnInstrumentIsTriedReadAndSwept(t *testing.T) {
	base := serve(t, true)
	p := &typist{browser: open(t)}
	p.do(c.Navigate(base+"/bench/kit"), c.WaitVisible(c.CSS("article")))
	at := sockets(t, p.browser)
	hand := hand{t, at}
	hand.do("supply", "OUTP ON")
	p.do(c.Navigate(base+"/bench/kit"), c.WaitVisible(c.CSS("article:nth-of-type(2)")), press("article:nth-of-type(2) .strip"), press("[name=try]"))
	p.waitText("[data-tried]", "simulated power meter")
	p.waitText("[data-tried]", "swr")
	p.do(press("[name=lines]"))
	p.waitText(".spoken", "MEAS:POW?")
	p.looked("tried")
	// A driver of one's own that is wrong is said line by line.
	p.do(press("[name=own-driver]"), c.WaitVisible(c.CSS("[name=driver-text]")))
	eval[bool](p.browser, `(() => { const e = document.querySelector('[name=driver-text]'); e.value = e.value.replace('SENS:SWR?', 'SENS:VSWR?').replace('"scpi-power-meter"', '"mine"'); e.dispatchEvent(new Event('input')); return true })()`)
	p.do(press("[name=try]"))
	p.waitText("[data-tried]", "does not work")

	p.do(c.Navigate(base+larkrise+"/power"), c.WaitVisible(c.CSS("[name=preflight]:not([disabled])")))
	eval[bool](p.browser, "(document.querySelector('[name=entry]').focus(), true)")
	p.press("i", "KeyI")
	p.waitText(".echo", "key the radio first")
	p.press("c", "KeyC")
	hand.do("transmitter", "KEY ON")
	p.press("i", "KeyI")
	p.waitText("[data-said]", "itself")
	p.press("i", "KeyI")
	p.waitFor("String(document.querySelector('[name=entry]').value.split('W ').length)", "3")
	p.looked("read")
	p.types(kb.Enter)
	p.waitText(".log li", "read by pocket inline meter, 100 to 500 MHz itself")

	p.unswept(base, "pads into the bench analyzer")
	p.do(c.WaitVisible(c.CSS("[name=preflight]:not([disabled])")))
	eval[bool](p.browser, "(document.activeElement.blur(), true)")
	p.press("c", "KeyC")
	p.do(c.WaitVisible(c.CSS(".drop")))
	hand.do("analyzer", "INP:ATT 30")
	p.press("i", "KeyI")
	p.waitText("[data-hurts]", "attenuation down from 30 to 10 dB")
	p.looked("hurts")
	// Enter on the word that leaves it is that word's: nothing is sent.
	eval[bool](p.browser, "(document.querySelector('[data-hurts] .link').focus(), true)")
	p.types(kb.Enter)
	p.do(c.WaitNotPresent(c.CSS("[data-hurts]")), c.WaitNotPresent(c.CSS("[name=take-trace]")))
	p.press("i", "KeyI")
	p.do(c.WaitVisible(c.CSS("[data-hurts]")))
	p.types(kb.Enter)
	p.do(c.WaitVisible(c.CSS("[data-live]")))
	p.waitText("[data-sweeping]", "carrier")
	p.looked("live")
	p.types(kb.Enter)
	p.do(c.WaitVisible(c.CSS(".plot canvas")), c.WaitVisible(c.CSS(".rung[data-product='2nd harmonic']")))
	p.waitText(".sweep", "bench analyzer")

	// An offset that is not the path's stops it before anything is swept.
	hand.do("analyzer", "DISP:TRAC:Y:RLEV:OFFS -50")
	p.do(press("[name=view-take]"), c.WaitVisible(c.CSS("[name=sweep-by]")), press("[name=sweep-by]"))
	p.waitText("[data-sweeping] .danger", "it adds −50.00 dB to what it shows, and the path says +0.00 dB")
	// What was read by a simulated instrument is no edition.
	p.do(c.Navigate(base + larkrise + "/publish"))
	p.waitText("main", "is a simulated instrument, which measures no real radio")
}
