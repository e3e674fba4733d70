package simulated

import "talloak/instruments/scpi"

type generatorState struct {
	hz, dbm  float64
	on, dead bool
}

const (
	generatorHz  = 100e6
	generatorDBm = -100
)

func (b *Bench) resetGenerator() {
	b.generator.hz, b.generator.dbm, b.generator.on = generatorHz, generatorDBm, false
}

// killGenerator is what a transmitter keyed into it does: its output is dead from then on.
func (b *Bench) killGenerator() {
	b.generator.dead, b.generator.on = true, false
	b.devices["generator"].Queue(scpi.SystemError)
}

func (b *Bench) generatorDevice() *scpi.Device {
	d := scpi.NewDevice(&b.lock, b.identity("generator"), ready, []scpi.Command{
		setting("[SOURce]:FREQuency[:CW]", scpi.Span{Unit: scpi.Hertz, Least: 100e3, Most: 1e9, Default: generatorHz},
			func() float64 { return b.generator.hz }, func(v float64) { b.generator.hz = v }),
		setting("[SOURce]:POWer[:LEVel][:IMMediate][:AMPLitude]", scpi.Span{Unit: scpi.DBm, Least: -140, Most: 0, Default: generatorDBm},
			func() float64 { return b.generator.dbm }, func(v float64) { b.generator.dbm = v }),
		onOff("OUTPut[:STATe]", func() bool { return b.generator.on }, func(c *scpi.Call, on bool) {
			if on && b.generator.dead {
				c.Fail(scpi.SystemError)
				return
			}
			b.generator.on = on
		}),
	})
	d.Reset = b.resetGenerator
	d.SelfTest = func() bool { return !b.generator.dead }
	return d
}
