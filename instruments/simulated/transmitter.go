package simulated

import (
	"math"
	"time"

	"talloak/core/units"
	"talloak/instruments/scpi"
)

// key presses or lets go the radio's key.
func (b *Bench) key(on bool) {
	if on == b.keyed {
		return
	}
	b.change(func() {
		if b.keyed = on; on {
			b.pressed()
		}
	})
	b.keyedAt, b.keyedWall = b.clock, time.Now()
}

// keyTime is for how long the key is held, in s: what was measured meanwhile takes its time,
// and of waiting in between whole seconds count.
func (b *Bench) keyTime() float64 {
	if !b.keyed {
		return 0
	}
	measured := (b.clock - b.keyedAt).Seconds()
	return math.Max(measured, math.Floor(time.Since(b.keyedWall).Seconds()))
}

func (b *Bench) transmitterDevice() *scpi.Device {
	frequency := scpi.Span{Unit: scpi.Hertz, Least: 100e3, Most: 1.3e9, Default: float64(b.scene.Radio.Tuned)}
	d := scpi.NewDevice(&b.lock, b.identity("transmitter"), ready, []scpi.Command{
		setting("[SOURce]:FREQuency[:CW]", frequency, func() float64 { return float64(b.tuned) }, func(v float64) {
			b.change(func() { b.tuned = units.Hertz(v) })
		}),
		words("[SOURce]:LEVel", []string{"HIGH", "MID", "LOW"}, func() string { return b.level }, func(w string) {
			b.change(func() { b.level = w })
		}),
		onOff("[SOURce]:KEY[:STATe]", func() bool { return b.keyed }, func(_ *scpi.Call, on bool) { b.key(on) }),
		ask("[SOURce]:KEY:TIME", func(*scpi.Call) string { return scpi.NR3(b.keyTime()) }),
	})
	d.Reset = func() {
		b.key(false)
		b.change(func() { b.tuned, b.level = b.scene.Radio.Tuned, b.scene.Radio.Level })
	}
	return d
}
