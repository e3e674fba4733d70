package simulated

import (
	"fmt"
	"hash/fnv"
	"math"
	"math/rand/v2"
	"strings"
	"sync"
	"time"

	"talloak/core/units"
	"talloak/instruments/scpi"
)

// Bench is a scene that goes on: a radio that is keyed or not, and instruments that look at
// it. Its clock runs by what is measured, so the same commands give the same answers, however
// fast they come.
type Bench struct {
	lock  sync.Mutex
	scene Scene
	seed  uint64
	speed float64
	clock time.Duration // of the simulated afternoon

	keyed     bool
	keyedAt   time.Duration
	keyedWall time.Time
	tuned     units.Hertz
	level     string

	supply    supplyState
	generator generatorState
	meter     meterState
	analyzer  analyzerState
	aperture  time.Duration
	counted   int
	hands     handsState

	devices map[string]*scpi.Device
}

// Kinds are the instruments of a bench, in the order of their ports.
var Kinds = []string{"transmitter", "power-meter", "analyzer", "generator", "supply", "counter"}

// NewBench is a bench as it is found: nothing keyed, nothing on. Speed divides every duration.
func NewBench(scene Scene, seed uint64, speed float64) *Bench {
	b := &Bench{scene: scene, seed: seed, speed: speed, tuned: scene.Radio.Tuned, level: scene.Radio.Level}
	b.resetSupply()
	b.resetGenerator()
	b.resetMeter()
	b.resetAnalyzer()
	b.resetCounter()
	b.hands = handsState{heat: map[string]float64{}, broken: map[string]bool{}}
	b.analyzer.offset, b.supply.on = scene.OffsetDB, scene.Supplied
	if scene.AttenuationDB > 0 {
		b.analyzer.attenuation = scene.AttenuationDB
	}
	b.devices = map[string]*scpi.Device{
		"transmitter": b.transmitterDevice(), "power-meter": b.meterDevice(), "analyzer": b.analyzerDevice(),
		"generator": b.generatorDevice(), "supply": b.supplyDevice(), "counter": b.counterDevice(),
	}
	return b
}

// Device is the instrument of a kind, as its socket sees it; nil of another kind.
func (b *Bench) Device(kind string) *scpi.Device { return b.devices[kind] }

// identity is what an instrument of a kind says it is.
func (b *Bench) identity(model string) string {
	serial := fmt.Sprintf("S%06x", random(b.seed, "serial", 0).Uint32()>>8) // the seed itself would tell all
	return strings.Join([]string{"Tall Oak", "simulated " + model, serial, "1"}, ",")
}

// random is drawn anew for each thing and each time, so that one draws nothing from another.
func random(seed uint64, what string, n int) *rand.Rand {
	h := fnv.New64a()
	_, _ = h.Write([]byte(what))
	return rand.New(rand.NewPCG(seed, h.Sum64()+uint64(n)*0x9e3779b97f4a7c15))
}

// atLeast is how long anything takes, however fast the clock goes: what was sent to another
// instrument a moment before has arrived by then.
const atLeast = 3 * time.Millisecond

// lasts moves the clock by d, and is the moment at which that has passed for who waits.
func (b *Bench) lasts(d time.Duration) time.Time {
	b.clock += d
	return time.Now().Add(max(atLeast, time.Duration(float64(d)/b.speed)))
}

// change does something to what is measured. What was done before is measured as it was; what
// is still under way sees what has changed.
func (b *Bench) change(do func()) {
	b.warm()
	b.catchUp()
	do()
	b.bear()
}

// catchUp measures what was begun and is done by now.
func (b *Bench) catchUp() {
	if m := &b.meter; m.begun && time.Until(m.done) <= 0 {
		b.readMeter()
	}
	if a := &b.analyzer; a.begun && time.Until(a.done) <= 0 {
		b.take()
	}
}

// ready is the moment of what is not begun.
func ready() time.Time { return time.Time{} }

// sent is what leaves the radio's connector now.
func (b *Bench) sent() []Line {
	if !b.keyed {
		return nil
	}
	volts, _ := b.powered()
	return b.sentAt(volts)
}

// sentAt is what leaves the connector at a voltage at the radio.
func (b *Bench) sentAt(volts float64) []Line {
	radio := &b.scene.Radio
	if volts <= 0 {
		return nil
	}
	for _, p := range radio.Places {
		if b.tuned < p.From || b.tuned > p.To {
			continue
		}
		lines := radio.Transmit(p.Band, b.level, b.tuned, volts)
		warm := units.DBm(radio.WarmDB * (1 - math.Exp(-(b.clock-b.keyedAt).Seconds()/warming)))
		for i := range lines {
			lines[i].Level -= warm
			lines[i].Frequency *= units.Hertz(1 + radio.OffPPM*1e-6*ofCarrier(i, b.tuned, lines[i].Frequency))
		}
		for i := range lines {
			if lines[i].Level -= units.DBm(b.hands.lostDB); i > 0 {
				lines[i].Level += units.DBm(b.hands.dirtyDB)
			}
		}
		return lines
	}
	return nil
}

// warming is the time in s in which a radio's final stage has warmed by two thirds (invented).
const warming = 60

// ofCarrier is 1 for what follows the carrier, as the carrier itself and its multiples do, and
// 0 for a spur that does not.
func ofCarrier(i int, carrier, f units.Hertz) float64 {
	multiple := float64(f / carrier)
	if i == 0 || math.Abs(multiple-math.Round(multiple)) < 1e-9 {
		return 1
	}
	return 0
}

// carrierW is what the radio puts out at its carrier, in W.
func carrierW(lines []Line) float64 {
	if len(lines) == 0 {
		return 0
	}
	return float64(lines[0].Level.Watts())
}
