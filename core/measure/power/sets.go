package power

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/uncertainty"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Part is one of several sets of readings that a figure was joined from: through one wiring,
// as if typed in one line.
type Part struct {
	Text         string   `json:"text"`
	Path         string   `json:"path"`
	AtConnectorW *float64 `json:"at_connector_w"`
	LowW         *float64 `json:"low_w"`
	HighW        *float64 `json:"high_w"`
}

// set is readings of one box, frequency and supply through one wiring.
type set struct {
	of      []*Reading
	entries []reading.Entry
}

// outlier is how many times the scatter that the other readings of a meter have makes
// repeats no repeats of one power (common practice, no source).
const outlier = 30

// pools keeps the scatter of repeats, by their meter.
type pools struct {
	sets  map[string][]pooledSet
	known map[string]float64 // what a meter's own repeatability is, relative to power
}

type pooledSet struct {
	uncertainty.Scatter
	ids  []string
	text string
}

// wiringKey tells wirings apart: the parts as they were, with the scale in use.
func wiringKey(t *record.Through) []byte {
	key, _ := json.Marshal(struct {
		Path   string
		Kit    []record.KitCopy
		Offset float64
	}{t.PathID, t.Kit, t.AppliedOffsetDB})
	return key
}

// repeatsTogether tells whether two lines are repeats of one power: of one box, frequency,
// supply and wiring.
func (d *Room) repeatsTogether(a, b *record.Measurement, la, lb line) bool {
	return near(frequencyOf(a, la), frequencyOf(b, lb)) && sameVolts(la.entry.SupplyV, lb.entry.SupplyV) && sameScale(la.ScaleW, lb.ScaleW) && d.keyOf(a.Through) == d.keyOf(b.Through)
}

func frequencyOf(m *record.Measurement, l line) float64 {
	if l.entry.FrequencyHz != nil {
		return *l.entry.FrequencyHz
	}
	return m.FrequencyHz
}

// sameVolts: a supply that was not noted is taken for any.
func sameVolts(a, b *float64) bool { return a == nil || b == nil || reading.SameSupply(*a, *b) }

// keyOf tells wirings apart, worked out once for each.
func (d *Room) keyOf(t *record.Through) string {
	if t == nil {
		return ""
	}
	d.keysLock.Lock()
	defer d.keysLock.Unlock()
	key, ok := d.keys[t]
	if !ok {
		key = string(wiringKey(t))
		d.keys[t] = key
	}
	return key
}

func sameScale(a, b *float64) bool { return a == nil && b == nil || a != nil && b != nil && *a == *b }

// counted tells that a line may be a repeat of the power claimed: no refusal, check, other radio
// or step of an adjustment.
func (l line) counted() bool {
	return l.err == nil && l.noPower() == "" && l.TargetW == nil && len(l.entry.Readings) > 0
}

// gather finds the repeats of every meter in what stands.
func (d *Room) gather(rows []*record.Measurement, lines []line) {
	d.scatter = pools{sets: map[string][]pooledSet{}, known: map[string]float64{}}
	type found struct {
		row   *record.Measurement
		line  line
		watts []float64
		ids   []string
		texts []string
	}
	var sets []*found
	byBox := map[record.Keyed][]*found{}
	for i, row := range rows {
		if !lines[i].counted() || !d.review.Stands(row.ID) {
			continue
		}
		typed, _, err := values(lines[i].entry)
		if err != nil {
			continue
		}
		var at *found
		for _, f := range byBox[row.Box()] {
			if d.repeatsTogether(f.row, row, f.line, lines[i]) {
				at = f
				break
			}
		}
		if at == nil {
			at = &found{row: row, line: lines[i]}
			sets = append(sets, at)
			byBox[row.Box()] = append(byBox[row.Box()], at)
		}
		at.watts, at.ids, at.texts = append(at.watts, repeats(typed)...), append(at.ids, row.ID), append(at.texts, lines[i].Text)
	}
	for _, f := range sets {
		mean := 0.0
		for _, w := range f.watts {
			mean += w / float64(len(f.watts))
		}
		if s := reading.Scatter(f.watts, mean); s.Degrees > 0 {
			meter := wiring.MeterID(f.row.Through)
			d.scatter.sets[meter] = append(d.scatter.sets[meter], pooledSet{s, f.ids, strings.Join(f.texts, " ")})
			if _, m, err := d.meterOf(f.row.Through); err == nil {
				d.scatter.known[meter] = m.OneReading()
			}
		}
	}
}

// of is the scatter of the repeats on a meter without those of the given readings, and the
// text of the widest; what scatters many times more than the others is no repeat.
func (p *pools) of(meter string, but []string) (uncertainty.Scatter, string) {
	var kept []uncertainty.Scatter
	text, widest := "", 0.0
	for i, s := range p.sets[meter] {
		if slices.ContainsFunc(s.ids, func(id string) bool { return slices.Contains(but, id) }) || s.S > outlier*max(p.known[meter], p.median(meter, i)) {
			continue
		}
		kept = append(kept, s.Scatter)
		if s.S > widest {
			text, widest = s.text, s.S
		}
	}
	return uncertainty.Pool(kept...), text
}

// median is that of the scatters on a meter without the one at a place; 0 where there is no
// other.
func (p *pools) median(meter string, but int) float64 {
	var all []float64
	for i, s := range p.sets[meter] {
		if i != but {
			all = append(all, s.S)
		}
	}
	if len(all) == 0 {
		return 0
	}
	slices.Sort(all)
	return all[len(all)/2]
}

// pooled is the scatter of all other repeats on the same meter in this review, and whose it is.
func (d *Room) pooled(through *record.Through, but ...string) (*reading.Pooled, string) {
	meter := wiring.MeterID(through)
	if meter == "" {
		return nil, ""
	}
	p, widest := d.scatter.of(meter, but)
	if p.Degrees == 0 {
		return nil, ""
	}
	return &reading.Pooled{SRelative: p.S, Degrees: p.Degrees}, widest
}

// widely is how much more the scatter of other readings must widen a figure than its meter's own
// would, before it is said whose it is.
const widely = 2

// widened doubts a reading that the scatter of others on its meter widens a lot.
func widened(in reading.Input, whose string) []say.Said {
	if in.Pooled == nil || whose == "" || in.Pooled.SRelative <= widely*in.Meter.OneReading() {
		return nil
	}
	return []say.Said{scatterWidens(whose, 100*in.Pooled.SRelative)}
}

// sets groups what counts for a box by frequency and supply, and each group by wiring. An
// explained reading stands by itself.
func (d *Room) sets(counting []*Reading, pep bool) [][]set {
	var groups [][]set
	for _, r := range counting {
		e, ok := d.entryOf(r, pep)
		if !ok {
			continue
		}
		at := slices.IndexFunc(groups, func(g []set) bool {
			o := g[0].of[0]
			return r.Standing != record.Explained && o.Standing != record.Explained && near(r.FrequencyHz, o.FrequencyHz) && sameVolts(r.Entry.SupplyV, o.Entry.SupplyV)
		})
		if at < 0 {
			groups = append(groups, []set{{[]*Reading{r}, []reading.Entry{e}}})
			continue
		}
		i := slices.IndexFunc(groups[at], func(s set) bool { return bytes.Equal(s.entries[0].Wiring, e.Wiring) })
		if i < 0 {
			groups[at] = append(groups[at], set{[]*Reading{r}, []reading.Entry{e}})
		} else {
			groups[at][i].of, groups[at][i].entries = append(groups[at][i].of, r), append(groups[at][i].entries, e)
		}
	}
	return groups
}

// entryOf is a reading as it goes into its set: in the quantity claimed.
func (d *Room) entryOf(r *Reading, pep bool) (reading.Entry, bool) {
	before, meter, err := d.meterOf(r.Through)
	if err != nil {
		return reading.Entry{}, false
	}
	in := reading.Input{Frequency: units.Hertz(r.FrequencyHz), Meter: meter, AppliedOffsetDB: r.Through.AppliedOffsetDB, Path: before}
	if pep {
		in.Values = []units.Quantity{{Value: *r.Entry.PeakW, Unit: units.W}}
	} else if in.Values, _, err = values(r.Entry); err != nil {
		return reading.Entry{}, false
	}
	return reading.Entry{Input: in, Wiring: []byte(d.keyOf(r.Through))}, true
}

// joined is what the readings of one frequency and supply say together: one reading as it is,
// several as a figure of their own under the last of them.
func (d *Room) joined(group []set, cell *claims.Cell) (out *Reading, agree bool) {
	group = betterScales(group)
	last := group[0].of[len(group[0].of)-1]
	if len(group) == 1 && len(group[0].of) == 1 {
		return last, true
	}
	results := make([]reading.Result, len(group))
	parts := make([]Part, len(group))
	for i, s := range group {
		var ids, texts []string
		for _, r := range s.of {
			ids, texts = append(ids, r.ID), append(texts, r.Text)
		}
		pool, _ := d.pooled(s.of[0].Through, ids...)
		for k := range s.entries {
			s.entries[k].Frequency, s.entries[k].Pooled = s.entries[0].Frequency, pool
		}
		one, err := reading.ReferAll(s.entries)
		if err != nil {
			return last, true
		}
		results[i] = one.Result
		parts[i] = Part{strings.Join(texts, " "), s.of[0].Through.Name, one.AtConnectorW, one.LowW, one.HighW}
		if i > 0 && betterThan(&results[i], &results[0]) {
			last = s.of[len(s.of)-1]
		}
	}
	all := reading.Join(results)
	agree = all.Agree && !contradicted(group)
	if all.AtConnectorW == nil {
		return last, true
	}
	together := *last
	together.Text, together.Joined = parts[0].Text, 0
	for _, s := range group {
		together.Joined += len(s.of)
	}
	together.Doubts = slices.Clone(last.Doubts)
	for _, f := range all.Flags {
		if !slices.ContainsFunc(together.Doubts, func(s say.Said) bool { return s.Code == f.Code }) {
			together.Doubts = append(together.Doubts, f.Said)
		}
	}
	if len(parts) > 1 {
		together.Parts = parts
		texts := make([]string, len(parts))
		for i, p := range parts {
			texts[i] = p.Text
		}
		together.Text = strings.Join(texts, "; ")
	}
	if cell != nil && cell.PEP {
		together.Peak = &all.Result
	} else {
		together.Result = &all.Result
	}
	together.MeasuredW, together.LowW, together.HighW = all.AtConnectorW, all.LowW, all.HighW
	together.AgainstClaim = nil
	if cell != nil && cell.Claimed > 0 && !together.Outside && !together.OffSupply {
		if result, err := claims.Compare(d.claimOf(cell, &together)); err == nil {
			together.AgainstClaim = &result
			if !all.Agree && (result.Verdict != decision.Fail || !everyFails(group)) {
				result.Verdict = decision.Inconclusive
			}
		}
	}
	return &together, agree || together.AgainstClaim == nil || together.AgainstClaim.Verdict != decision.Inconclusive
}

func betterThan(a, b *reading.Result) bool {
	return a.UncertaintyDB != nil && (b.UncertaintyDB == nil || *a.UncertaintyDB < *b.UncertaintyDB)
}

// contradicted tells that two readings of a group are further apart than both uncertainties.
func contradicted(group []set) bool {
	var all []claims.Held
	for _, s := range group {
		for _, r := range s.of {
			all = append(all, r.held())
		}
	}
	if claims.Agree(all) {
		return false
	}
	return slices.ContainsFunc(all, func(a claims.Held) bool {
		return slices.ContainsFunc(all, func(b claims.Held) bool { return claims.Contradict(a, b) })
	})
}

func everyFails(group []set) bool {
	return !slices.ContainsFunc(group, func(s set) bool {
		return slices.ContainsFunc(s.of, func(r *Reading) bool { return r.AgainstClaim == nil || r.AgainstClaim.Verdict != decision.Fail })
	})
}

// betterScales leaves out what was read at the foot of a scale where the same meter read the
// same on a scale that fits.
func betterScales(group []set) []set {
	low := func(s set) bool {
		return slices.ContainsFunc(s.of, func(r *Reading) bool {
			return slices.ContainsFunc(r.Doubts, func(s say.Said) bool { return s.Code == say.LowOnScaleCode })
		})
	}
	return slices.DeleteFunc(slices.Clone(group), func(s set) bool {
		return low(s) && slices.ContainsFunc(group, func(o set) bool {
			return !low(o) && wiring.MeterID(o.of[0].Through) == wiring.MeterID(s.of[0].Through)
		})
	})
}

func scatterWidens(whose string, percent float64) say.Said {
	return say.That("scatter-widens", "the scatter of %q on this meter, %s, widens this figure too", whose, fmt.Sprintf("%.1f %% of one reading", percent)).Do("strike what was no repeat, or read this again a few times")
}

// dropSteps leaves of an adjustment what it came to: what was read on the way stands for
// nothing.
func (d *Room) dropSteps() {
	last := map[record.Keyed]int{}
	for i := range d.readings {
		if r := &d.readings[i]; r.TargetW != nil && !r.AtMost && d.review.Stands(r.ID) {
			if at, ok := last[r.Box()]; ok && *d.readings[at].TargetW == *r.TargetW {
				step := &d.readings[at]
				step.step = step.Counts
				step.drop("a step of an adjustment: what it came to stands")
				step.AgainstClaim, step.MeasuredW, step.LowW, step.HighW = nil, nil, nil, nil
			}
			last[r.Box()] = i
		}
	}
}
