package simulated

import (
	"math"

	"talloak/instruments/scpi"
)

type supplyState struct {
	setV, limitA float64
	on           bool
	asked        int
}

func (b *Bench) resetSupply() {
	b.supply.setV, b.supply.limitA, b.supply.on = b.scene.Supply.DefaultV, b.scene.Supply.LimitA, false
}

// powered is the voltage at the radio and what it draws. It draws P / (efficiency V), so its
// voltage is found by halving; where that is more than the limit, the supply gives the limit
// and its voltage falls until the radio draws no more.
func (b *Bench) powered() (volts, amps float64) {
	if !b.supply.on {
		return 0, 0
	}
	source := &b.scene.Supply
	ohm := source.Ohm + source.LeadOhm
	left := func(v float64) float64 { return (b.supply.setV - v) / ohm } // what the supply can give at v
	low, high := 0.0, b.supply.setV
	for range 60 {
		v := (low + high) / 2
		if b.draws(v) > math.Min(left(v), b.supply.limitA) {
			high = v
		} else {
			low = v
		}
	}
	return low, math.Min(b.draws(low), b.supply.limitA)
}

// draws is the radio's current at a voltage. What it puts out falls with a power of the
// voltage above one, so its current rises with the voltage.
func (b *Bench) draws(volts float64) float64 {
	radio := &b.scene.Radio
	if volts <= 0 {
		return 0
	}
	a := radio.StandbyA * volts / radio.NominalV
	if b.keyed {
		a += carrierW(b.sentAt(volts)) / (radio.Efficiency * volts)
	}
	return a
}

func (b *Bench) supplyDevice() *scpi.Device {
	source := &b.scene.Supply
	measured := func(of func(volts, amps float64) float64) func(*scpi.Call) string {
		return func(c *scpi.Call) string {
			b.supply.asked++
			c.Until(b.lasts(aReading))
			volts, amps := b.powered()
			v := of(volts, amps)
			if b.supply.on {
				v *= 1 + 0.0005*random(b.seed, "supply", b.supply.asked).NormFloat64()
			}
			return scpi.NR3(math.Round(v*1000) / 1000)
		}
	}
	d := scpi.NewDevice(&b.lock, b.identity("supply"), ready, []scpi.Command{
		setting("[SOURce]:VOLTage[:LEVel][:IMMediate][:AMPLitude]", scpi.Span{Unit: scpi.Volts, Most: source.MostV, Default: source.DefaultV},
			func() float64 { return b.supply.setV }, func(v float64) { b.change(func() { b.supply.setV = v }) }),
		setting("[SOURce]:CURRent[:LEVel][:IMMediate][:AMPLitude]", scpi.Span{Unit: scpi.Amperes, Most: source.MostA, Default: source.LimitA},
			func() float64 { return b.supply.limitA }, func(v float64) { b.change(func() { b.supply.limitA = v }) }),
		onOff("OUTPut[:STATe]", func() bool { return b.supply.on }, func(_ *scpi.Call, on bool) { b.change(func() { b.supply.on = on }) }),
		ask("MEASure[:SCALar]:VOLTage[:DC]", measured(func(volts, amps float64) float64 { return volts + amps*source.LeadOhm })),
		ask("MEASure[:SCALar]:CURRent[:DC]", measured(func(_, amps float64) float64 { return amps })),
	})
	d.Reset = func() { b.change(b.resetSupply) }
	return d
}
