package power

import (
	"fmt"
	"reflect"
	"runtime"
	"slices"
	"strings"
	"sync"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Name is the kind's name.
const Name = "power"

// Kind is the power kind of measurement.
type Kind struct{}

// Ruling is what stands for a box, out of Of that were read.
type Ruling struct {
	Verdict     decision.Verdict `json:"verdict"`
	Why         string           `json:"why"`
	Reading     *Reading         `json:"reading"`
	Of          int              `json:"readings"`
	Frequencies []float64        `json:"frequencies_hz"`
}

// About implements measure.Kind.
func (Kind) About() measure.About {
	return measure.About{
		Name: Name, Title: "Power", Key: "3", Purpose: wiring.ForPower, Transmits: true, Explains: true, PerLevel: true, Always: true,
		Types: measure.TypesOf[Draft, Reading, Ruling]().With(reflect.TypeFor[Study]()).Lines(reflect.TypeFor[Command]()),
	}
}

// Room is the power of a review: its readings, worked out.
type Room struct {
	review   *measure.Review
	readings []Reading
	scatter  pools // of the repeats of readings that stand
	keysLock sync.Mutex
	keys     map[*record.Through]string // that tell wirings apart
	meters   map[*record.Through]compiled
	boxes    map[record.Keyed]*box
}

// compiled is a path up to its meter, worked out once for all readings through it.
type compiled struct {
	before *path.Path
	meter  reading.Meter
	err    error
}

// Of is the power room of a review.
func Of(r *measure.Review) *Room { return measure.Inside[*Room](r, Kind{}) }

// Open implements measure.Kind.
func (Kind) Open(r *measure.Review) measure.Room {
	d := &Room{review: r, keys: map[*record.Through]string{}, meters: map[*record.Through]compiled{}}
	rows := r.Of(Name)
	lines := make([]line, len(rows))
	shared(len(rows), func(i int) {
		lines[i] = readPayload(rows[i].Payload)
	})
	for _, row := range rows {
		_, _, _ = d.meterOf(row.Through)
	}
	d.gather(rows, lines)
	d.readings = make([]Reading, len(rows))
	shared(len(rows), func(i int) { d.readings[i] = d.reading(rows[i], lines[i]) })
	d.dropSteps()
	d.boxes = d.byBox()
	d.doubtLevels()
	for i := range d.readings {
		r := &d.readings[i]
		r.Doubts = append(r.Doubts, d.Contradictions(r)...)
		r.Doubts = append(r.Doubts, jumped(r, d.readings[:i])...)
	}
	return measure.RoomOf(r, Name, d)
}

// shared does something for each of n, by all processors where there are many.
func shared(n int, do func(i int)) {
	workers := runtime.GOMAXPROCS(0)
	if n < 64 || workers == 1 {
		workers = 1
	}
	var all sync.WaitGroup
	for w := range workers {
		all.Go(func() {
			for i := w; i < n; i += workers {
				do(i)
			}
		})
	}
	all.Wait()
}

// box is the readings of a box that count for its claim.
type box struct {
	counting []*Reading
	held     []claims.Held
	agree    bool // none contradicts another
	ruling   *Ruling
}

func (d *Room) byBox() map[record.Keyed]*box {
	out := map[record.Keyed]*box{}
	for i := range d.readings {
		r := &d.readings[i]
		if !r.Counts || r.MeasuredW == nil {
			continue
		}
		b := out[r.Box()]
		if b == nil {
			b = &box{}
			out[r.Box()] = b
		}
		b.counting, b.held = append(b.counting, r), append(b.held, r.held())
	}
	for _, b := range out {
		b.agree = claims.Agree(b.held)
	}
	return out
}

func (d *Room) reading(row *record.Measurement, l line) Reading {
	text := l.Text
	r, err := measure.Worked(func() (Reading, error) { return d.work(row.Keyed, l, row.Through, row.ID) })
	if err != nil { // it was read when it was taken: only newer rules can refuse it
		r = Reading{Keyed: row.Keyed, Text: text, WhyNot: "it cannot be worked out any more: " + err.Error(), Void: true, Through: row.Through, Doubts: noDoubts()}
	}
	r.ID, r.TakenAt = row.ID, row.TakenAt
	r.Standing, r.Reason = d.review.Standing(row.ID)
	if !d.review.Stands(row.ID) {
		r.Counts, r.Void, r.WhyNot = false, false, r.Standing+": "+r.Reason
	}
	return r
}

func (d *Room) meterOf(t *record.Through) (*path.Path, reading.Meter, error) {
	c, ok := d.meters[t]
	if !ok {
		c.before, c.meter, c.err = wiring.MeterOf(t)
		d.meters[t] = c
	}
	return c.before, c.meter, c.err
}

// Read implements measure.Works: a line is worked out beside all that was read before.
func (d *Room) Read(t measure.Taking, in Draft) (measure.Worth[Reading], error) {
	in = in.byLetter()
	out, err := measure.Worked(func() (Reading, error) { return d.work(t.Keyed, readLine(in), t.Through, "") })
	if err != nil {
		return measure.Worth[Reading]{}, err
	}
	out.Doubts = append(out.Doubts, d.LevelDoubts(&out)...)
	out.Doubts = append(out.Doubts, d.Contradictions(&out)...)
	out.Doubts = append(out.Doubts, jumped(&out, d.readings)...)
	if out.Result != nil && slices.ContainsFunc(out.Result.Flags, func(f reading.Flag) bool { return f.Code == say.MeterOutOfRangeCode }) {
		if do := wiring.MetersFor(t.Bench(), units.Hertz(out.FrequencyHz), d.highestClaim(t.Keyed)); len(do) > 0 {
			out.WhyNot += "; on the bench this would do: " + strings.Join(do, ", ")
		}
	}
	keyed := t.Keyed
	keyed.FrequencyHz = out.FrequencyHz
	return measure.Worth[Reading]{Keyed: keyed, Payload: in, View: out}, nil
}

// highestClaim is the highest power claimed of a band, in W.
func (d *Room) highestClaim(k record.Keyed) float64 {
	most := 0.0
	for _, c := range d.review.Cells {
		if c.Band.Name == k.Band {
			most = max(most, c.Claimed)
		}
	}
	return most
}

// Keep implements measure.Shown.
func (r *Reading) Keep(m *record.Measurement) { r.ID, r.TakenAt = m.ID, m.TakenAt }

// Taken implements measure.Works.
func (d *Room) Taken(i int) *Reading { return &d.readings[i] }

// Readings lists all readings in the order taken.
func (d *Room) Readings() []Reading { return d.readings }

// RulingAt implements measure.Works.
func (d *Room) RulingAt(k record.Keyed) Ruling { return d.PowerOf(k) }

// Box implements measure.Tells.
func (d *Room) Box(c claims.Cell, _ bool) measure.Box {
	p := d.PowerOf(record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode, FrequencyHz: float64(c.Band.UsualHz)})
	return measure.Box{Kind: Name, Verdict: p.Verdict, Why: p.Why, Notes: []measure.Note{}, Frequencies: p.Frequencies, Taken: p.Of, Figure: p.figure(), Of: measure.Answers(p)}
}

// figure is the share of the claim, or the power where none is held against a claim.
func (p *Ruling) figure() string {
	switch r := p.Reading; {
	case r == nil:
		return ""
	case r.AgainstClaim != nil:
		return fmt.Sprintf("%.0f %%", r.AgainstClaim.Percent)
	case r.MeasuredW != nil:
		return units.Watts(*r.MeasuredW).String()
	}
	return ""
}

// HighestW is the highest power read in a mode, in W, of what counts; 0 where none was. A
// struck reading, or one that no meter could have shown, endangers nothing.
func (d *Room) HighestW(k record.Keyed) float64 {
	most := 0.0
	for _, r := range d.readings {
		if !d.keyed(&r) {
			continue
		}
		for _, read := range []*reading.Result{r.Result, r.Peak} {
			if r.Mode == k.Mode && read != nil && read.AtConnectorW != nil {
				most = max(most, *read.AtConnectorW)
				break
			}
		}
	}
	return most
}

// keyed tells whether the radio under review put a reading's power into the path, whether or not
// it is held against a claim: a step of an adjustment did, one that was struck or that is
// not to be believed did not.
func (d *Room) keyed(r *Reading) bool {
	return r.Trusted == nil && d.review.Stands(r.ID) && (r.Counts || r.InUse || r.AtMost || r.step) &&
		!slices.ContainsFunc(r.Doubts, func(s say.Said) bool { return s.Code == claims.UnbelievableCode })
}

// AmpsAt is the current last read at a level, in A; nil where none was.
func (d *Room) AmpsAt(k record.Keyed) *float64 {
	for _, r := range slices.Backward(d.readings) {
		if r.SameBox(k) && r.Trusted == nil {
			return r.Entry.SupplyA
		}
	}
	return nil
}
