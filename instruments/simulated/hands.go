package simulated

import (
	"math"
	"slices"
	"time"

	"talloak/core/path"
	"talloak/core/units"
)

// What hands do on a bench and eyes see of it: what the radio is connected to, what grows hot, what
// breaks. Practice alone has hands; a socket has none.

// Wired is what lies between the radio's connector and what ends it. ToMeter and ToInput are the ways
// there, nil where there is none; Ends tells that something takes the power.
type Wired struct {
	Parts            []WiredPart
	ToMeter, ToInput *path.Path
	MeterFrom        units.Hertz // what the meter on the way covers
	MeterTo          units.Hertz
	Ends             bool
}

// WiredPart is a part that takes power: Before is the way to it, MaxW what it takes for long.
type WiredPart struct {
	Key    string
	Before *path.Path
	MaxW   float64
}

// Event is something that happened, for the score. Harm tells that something was put at risk.
type Event struct {
	At   time.Time `json:"at"`
	What string    `json:"what"`
	Harm bool      `json:"harm,omitempty"`
}

type handsState struct {
	wired   Wired
	heat    map[string]float64 // of what each part takes for long: 1 is all of it
	broken  map[string]bool
	loose   bool
	lostDB  float64 // in a loose connector, at this key-up
	dirtyDB float64 // by which it lifts what the radio sends beside its carrier
	keyUps  int
	keyed   float64 // s
	seenAt  time.Time
	events  []Event
}

// warmingUp is the time in s in which a part that takes power warms by two thirds; tooHot the heat
// at which it is done for; brokenDB what a pad takes then on top. All are invented.
const (
	warmingUp = 45.0
	tooHot    = 1.5
	brokenDB  = 30.0
)

// Wire connects the radio to something else.
func (b *Bench) Wire(w Wired) {
	b.lock.Lock()
	defer b.lock.Unlock()
	if b.keyed {
		b.tell("the wiring was changed while the key was held", true)
	}
	b.change(func() {
		b.hands.wired = w
		b.scene.ToMeter, b.scene.ToInput = w.ToMeter, w.ToInput
		if w.ToMeter != nil {
			b.scene.Meter.From, b.scene.Meter.To = w.MeterFrom, w.MeterTo
		}
	})
}

// Loosen leaves the radio's connector loose.
func (b *Bench) Loosen() { b.lock.Lock(); b.hands.loose = true; b.lock.Unlock() }

// Tighten tightens every connector.
func (b *Bench) Tighten() {
	b.lock.Lock()
	defer b.lock.Unlock()
	if b.keyed {
		b.tell("a connector was touched while the key was held", true)
	}
	b.change(func() { b.hands.loose, b.hands.lostDB, b.hands.dirtyDB = false, 0, 0 })
}

// Break breaks a part, as it was found or left.
func (b *Bench) Break(key string) {
	b.lock.Lock()
	if key == "analyzer" {
		b.analyzer.blown = true
	} else {
		b.hands.broken[key] = true
	}
	b.lock.Unlock()
}

func (b *Bench) tell(what string, harm bool) {
	b.hands.events = append(b.hands.events, Event{time.Now().UTC(), what, harm})
}

// pressed is what a key-up does by itself.
func (b *Bench) pressed() {
	h := &b.hands
	h.keyUps++
	if h.loose {
		r := random(b.seed, "loose", h.keyUps)
		h.lostDB, h.dirtyDB = 0.8+3.5*r.Float64(), 6+10*r.Float64()
	}
	if len(h.wired.Parts) > 0 && !h.wired.Ends {
		b.tell("keyed into nothing: no load takes the power", true)
	}
}

// warm lets the parts grow hot or cool by what has passed since they were last looked at, and breaks
// what is too hot.
func (b *Bench) warm() {
	h := &b.hands
	now := time.Now()
	passed := now.Sub(h.seenAt).Seconds() * b.speed
	if h.seenAt.IsZero() {
		passed = 0
	}
	h.seenAt = now
	if b.keyed { // as long as the hand held it, however fast the bench goes
		h.keyed += passed / b.speed
	}
	lines := b.sent()
	wired := map[string]bool{}
	for _, p := range h.wired.Parts {
		wired[p.Key] = true
		into := 0.0
		if len(lines) > 0 && p.MaxW > 0 {
			if loss, ok := p.Before.LossAt(lines[0].Frequency); ok {
				into = carrierW(lines) / loss.Ratio() / p.MaxW
			}
		}
		h.heat[p.Key] = into + (h.heat[p.Key]-into)*math.Exp(-passed/warmingUp)
		if h.heat[p.Key] > tooHot && !h.broken[p.Key] {
			h.broken[p.Key] = true
			b.tell("a part took more than it can for long, and is broken", true)
		}
	}
	for key := range h.heat { // what lies beside cools
		if !wired[key] {
			h.heat[key] *= math.Exp(-passed / warmingUp)
		}
	}
}

// brokenBefore is what broken parts take on top on the way.
func (b *Bench) brokenBefore() units.DBm {
	for _, p := range b.hands.wired.Parts {
		if b.hands.broken[p.Key] {
			return brokenDB
		}
	}
	return 0
}

// Seen is what eyes see of a bench: nothing of how anything is off.
type Seen struct {
	Tuned    units.Hertz        `json:"tuned_hz"`
	Level    string             `json:"level"`
	Keyed    bool               `json:"keyed"`
	KeyUps   int                `json:"key_ups"`
	KeyedS   float64            `json:"keyed_s"`
	Heat     map[string]float64 `json:"heat"`
	Broken   []string           `json:"broken"`
	Supplied bool               `json:"supplied"`
	SetV     float64            `json:"set_v"`
	LimitA   float64            `json:"limit_a"`
	Volts    float64            `json:"volts"` // at the supply
	Amps     float64            `json:"amps"`
	Limits   bool               `json:"limits"` // it gives no more current
	Meter    float64            `json:"meter"`  // W, as it stands this moment
	Blind    bool               `json:"blind"`  // the meter shows nothing of this frequency
}

// See looks at the bench. Each look at the meter is another moment of its bounce.
func (b *Bench) See() Seen {
	b.lock.Lock()
	defer b.lock.Unlock()
	b.warm()
	h := &b.hands
	out := Seen{Tuned: b.tuned, Level: b.level, Keyed: b.keyed, KeyUps: h.keyUps, KeyedS: math.Round(h.keyed), Heat: map[string]float64{}, Broken: []string{}, Supplied: b.supply.on, SetV: b.supply.setV, LimitA: b.supply.limitA}
	for k, v := range h.heat {
		out.Heat[k] = math.Round(v*100) / 100
	}
	for k := range h.broken {
		out.Broken = append(out.Broken, k)
	}
	if b.analyzer.blown {
		out.Broken = append(out.Broken, "analyzer")
	}
	slices.Sort(out.Broken)
	volts, amps := b.powered()
	out.Volts, out.Amps = math.Round((volts+amps*b.scene.Supply.LeadOhm)*100)/100, math.Round(amps*100)/100
	out.Limits = b.supply.on && amps >= b.supply.limitA*0.999
	if r := b.glance(); r.void {
		out.Blind = true
	} else {
		out.Meter = math.Round(r.forwardW*1e3) / 1e3
	}
	return out
}

// Events are what happened so far.
func (b *Bench) Events() []Event {
	b.lock.Lock()
	defer b.lock.Unlock()
	return slices.Clone(b.hands.events)
}

// Begun carries on what was counted before the server was started anew.
func (b *Bench) Begun(keyUps int, keyed float64, events []Event) {
	b.lock.Lock()
	b.hands.keyUps, b.hands.keyed, b.hands.events = keyUps, keyed, events
	b.lock.Unlock()
}
