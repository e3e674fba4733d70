package simulated

import (
	"math"
	"time"

	"talloak/core/rf"
	"talloak/core/units"
	"talloak/instruments/scpi"
)

// aReading is how long a meter takes for one.
const aReading = 200 * time.Millisecond

type meterState struct {
	hz    float64 // what its correction is set to
	dbm   bool    // the unit of readings
	taken int
	last  *meterReading
	begun bool // a reading is under way
	done  time.Time
}

// meterReading is one reading, in W; void where the meter cannot read what arrives.
type meterReading struct {
	forwardW, reflectedW, swr float64
	void                      bool
}

func (b *Bench) resetMeter() {
	b.meter.hz, b.meter.dbm, b.meter.last, b.meter.begun, b.meter.done = float64(b.scene.Radio.Tuned), false, nil, false, time.Time{}
	b.meter.hz = math.Min(math.Max(b.meter.hz, float64(b.scene.Meter.From)), float64(b.scene.Meter.To))
}

// mostOver is how far over its full scale a meter still reads, as a factor.
const mostOver = 1.1

// beginReading begins one.
func (b *Bench) beginReading() { b.meter.begun, b.meter.done = true, b.lasts(aReading) }

// readMeter takes a reading of what arrives now. What the meter makes of the frequency does not
// depend on what its correction is set to: its error is stated over all it covers.
func (b *Bench) readMeter() {
	b.meter.begun = false
	b.meter.last = b.glance()
}

// glance is what the meter shows at a moment.
func (b *Bench) glance() *meterReading {
	m := &b.scene.Meter
	b.meter.taken++
	got := &meterReading{swr: 1}
	lines := b.sent()
	if len(lines) == 0 || b.scene.ToMeter == nil {
		return got
	}
	f := lines[0].Frequency
	loss, known := b.scene.ToMeter.LossAt(f)
	if !known || f < m.From || f > m.To {
		got.void = true
		return got
	}
	r := random(b.seed, "meter", b.meter.taken)
	w := carrierW(lines) / loss.Ratio() / units.DB(b.brokenBefore()).Ratio() * units.DB(m.OffDB).Ratio() * (1 + m.Scatter*r.NormFloat64())
	rho := rf.Rho(m.SWR)
	got.forwardW, got.reflectedW, got.swr = w, w*rho*rho, m.SWR
	if b.hands.loose {
		got.swr = 1.5 + b.hands.lostDB/2
		rho := rf.Rho(got.swr)
		got.reflectedW = w * rho * rho
	}
	got.void = w > mostOver*m.FullW
	return got
}

// meterAnswer is a figure of the last reading in the unit of the meter.
func (b *Bench) meterAnswer(c *scpi.Call, of func(*meterReading) float64, power bool) string {
	if !c.Until(b.meter.done) {
		return ""
	}
	b.catchUp()
	got := b.meter.last
	if got == nil {
		c.Fail(scpi.DataStale)
		return ""
	}
	if got.void {
		b.devices["power-meter"].Queue(scpi.OutOfRange)
		return scpi.NR3(scpi.NotANumber)
	}
	v := of(got)
	if power && b.meter.dbm {
		if v <= 0 {
			return scpi.NR3(scpi.NegativeInfinity)
		}
		v = float64(units.Watts(v).DBm())
	}
	return scpi.NR3(math.Round(v*1e4) / 1e4)
}

func forward(r *meterReading) float64 { return r.forwardW }

func (b *Bench) meterDevice() *scpi.Device {
	m := &b.scene.Meter
	fresh := func(of func(*meterReading) float64, power bool) func(*scpi.Call) string {
		return func(c *scpi.Call) string {
			b.beginReading()
			return b.meterAnswer(c, of, power)
		}
	}
	d := scpi.NewDevice(&b.lock, b.identity("power meter"), func() time.Time { return b.meter.done }, []scpi.Command{
		setting("[SENSe]:FREQuency", scpi.Span{Unit: scpi.Hertz, Least: float64(m.From), Most: float64(m.To), Default: b.meter.hz},
			func() float64 { return b.meter.hz }, func(v float64) { b.meter.hz = v }),
		words("UNIT:POWer", []string{"W", "DBM"}, func() string { return map[bool]string{true: "DBM", false: "W"}[b.meter.dbm] },
			func(w string) { b.meter.dbm = w == "DBM" }),
		do("INITiate[:IMMediate]", func(*scpi.Call) { b.beginReading() }),
		ask("FETCh", func(c *scpi.Call) string { return b.meterAnswer(c, forward, true) }),
		ask("MEASure[:SCALar][:POWer]", fresh(forward, true)),
		ask("READ", fresh(forward, true)),
		ask("[SENSe]:POWer:REFLected", fresh(func(r *meterReading) float64 { return r.reflectedW }, true)),
		ask("[SENSe]:SWR", fresh(func(r *meterReading) float64 { return r.swr }, false)),
	})
	d.Reset = b.resetMeter
	return d
}
