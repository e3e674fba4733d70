package simulated

import (
	"math"
	"time"

	"talloak/instruments/scpi"
)

func (b *Bench) resetCounter() { b.aperture = time.Second }

// counterPPM is how far the counter's own reference may be off, in parts in a million.
const counterPPM = 0.05

func (b *Bench) counterDevice() *scpi.Device {
	off := drawn(random(b.seed, "counter", 0), counterPPM)
	d := scpi.NewDevice(&b.lock, b.identity("counter"), ready, []scpi.Command{
		setting("[SENSe]:FREQuency:APERture", scpi.Span{Unit: scpi.Seconds, Least: 0.01, Most: 10, Default: 1},
			func() float64 { return b.aperture.Seconds() },
			func(v float64) { b.aperture = time.Duration(v * float64(time.Second)) }),
		ask("MEASure[:SCALar]:FREQuency", func(c *scpi.Call) string {
			b.counted++
			c.Until(b.lasts(b.aperture))
			lines := b.sent()
			if len(lines) == 0 || b.scene.Antenna {
				return scpi.NR3(0)
			}
			// A counter counts whole turns in its aperture: one more or less.
			turns := float64(lines[0].Frequency)*(1+off*1e-6)*b.aperture.Seconds() + random(b.seed, "count", b.counted).Float64()
			return scpi.NR3(math.Floor(turns) / b.aperture.Seconds())
		}),
	})
	d.Reset = b.resetCounter
	return d
}
