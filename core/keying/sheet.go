package keying

import (
	"cmp"
	"fmt"
	"math"
	"math/bits"
	"slices"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/runsheet"
	"talloak/core/say"
	"talloak/core/units"
	"talloak/core/wiring"
)

// rigS is how long it takes to change a wiring and go through it before keying, in s
// (common practice, no source).
const rigS = 180

// The marks of a band: where it is keyed.
const (
	Calling = "calling"
	Edges   = "edges"
	Middle  = "middle"
	Nowhere = "none" // but where somebody wants it
)

// Plan is the run sheet of a review: the boxes that can be chosen, where each band is
// keyed, the paths there are, and the steps in their order.
type Plan struct {
	Rows       []PlanRow  `json:"rows"`
	Levels     []string   `json:"levels"` // over all rows, the highest first
	Paths      []PlanPath `json:"paths"`
	Marks      []string   `json:"marks"`
	Steps      []PlanStep `json:"steps"`
	RigChanges int        `json:"rig_changes"`
	BenchS     float64    `json:"bench_s"`
	TransmitS  float64    `json:"transmit_s"`
	BatteryMAh *float64   `json:"battery_mah"` // taken, where the current is claimed
	BatteryOf  *float64   `json:"battery_of"`  // claimed
	KeyS       float64    `json:"key_s"`
	RestS      float64    `json:"rest_s"`
	Left       int        `json:"left"` // steps that count and were not made

	Further []measure.Asked `json:"further"` // beside the key-ups: what claims ask for
}

// PlanRow is a band in a mode: its boxes along the levels, and where it is keyed.
type PlanRow struct {
	Band     string        `json:"band"`
	Mode     rulebook.Mode `json:"mode"`
	Cells    []*PlanCell   `json:"cells"` // along Levels; null where the band has no such level
	Channels []PlanChannel `json:"channels"`
}

// PlanCell is a box of the matrix. Locked is one whose power a rule of the channel group
// fixes, not the radio's knob.
type PlanCell struct {
	Level    string  `json:"level"`
	ClaimedW float64 `json:"claimed_w"`
	Off      bool    `json:"off"`
	Locked   bool    `json:"locked"`
}

// PlanChannel is a frequency that is keyed. Reserved names what it is kept for; it is not
// keyed then.
type PlanChannel struct {
	Name        string  `json:"name"`
	FrequencyHz float64 `json:"frequency_hz"`
	Own         bool    `json:"own"`
	Reserved    string  `json:"reserved"`
}

// PlanPath is a kept path that power or emissions can be taken through.
type PlanPath struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Kind string `json:"kind"`
	On   bool   `json:"on"`
	Also bool   `json:"also"` // power is read on the way to the analyzer: one key-up serves both
}

// PlanStep is a step with the path it goes through, and whether it was made. Cure is what
// on the bench would make it count.
type PlanStep struct {
	runsheet.Step
	Key    string  `json:"key"`
	PathID string  `json:"path_id"`
	Box    string  `json:"box"`
	Done   bool    `json:"done"`
	Cure   string  `json:"cure"`
	HeatJ  float64 `json:"heat_j"` // into the load, by the claim
}

// Ways is what the run sheet may be wired with.
type Ways struct {
	Paths []*record.Through
	Bench []record.Item
}

// SheetOf lays out the run sheet of a review. Where no paths were chosen those are taken
// that suit a band first, of each kind one.
func SheetOf(r *measure.Review, w Ways) Plan {
	w.Paths = slices.DeleteFunc(slices.Clone(w.Paths), func(t *record.Through) bool { return wiring.Purpose(t) == wiring.ForReceive }) // nothing is keyed into a generator
	s := sheet{review: r, ways: w, suits: map[suitAsk]suit{}}
	out := Plan{Rows: s.rows(), Levels: []string{}, Paths: []PlanPath{}, Marks: s.marks(), Steps: []PlanStep{}, KeyS: or(r.Subject.KeyS, runsheet.KeyS), RestS: or(r.Subject.RestS, runsheet.RestS), Further: measure.AllAsked(r)}
	out.Levels = append(out.Levels, claims.LevelOrder(r.Cells)...)
	out.align()
	chosen := s.chosen(out.Rows)
	for _, t := range w.Paths {
		kind := wiring.Purpose(t)
		out.Paths = append(out.Paths, PlanPath{t.PathID, t.Name, kind, slices.Contains(chosen, t), kind == wiring.ForEmissions && wiring.HasMeter(t)})
	}
	request := runsheet.Request{SupplyV: r.Sheet.SupplyV, KeyS: out.KeyS, RestS: out.RestS}
	if a := r.Others(claims.Current); len(a) > 0 {
		request.TxA = &a[len(a)-1].Value
	}
	if b := r.Others(claims.Battery); len(b) > 0 {
		out.BatteryOf = &b[len(b)-1].Value
	}
	for _, row := range out.Rows {
		b := runsheet.Band{Name: row.Band, Modes: []rulebook.Mode{row.Mode}}
		for _, c := range row.Channels {
			if c.Reserved == "" {
				b.Channels = append(b.Channels, runsheet.Channel{Name: c.Name, Frequency: units.Hertz(c.FrequencyHz)})
			}
		}
		for _, c := range row.Cells {
			if c != nil && !c.Off {
				b.Levels = append(b.Levels, runsheet.Level{Name: c.Level, ClaimedW: c.ClaimedW})
			}
		}
		request.Bands = append(request.Bands, b)
	}
	for i := range chosen {
		t := chosen[i]
		request.Ways = append(request.Ways, runsheet.Way{Name: t.Name, Kind: runsheet.Purpose(wiring.Purpose(t)), RigS: rigS, Suits: func(k runsheet.KeyUp) string {
			return s.suit(t, wiring.Purpose(t), k).whyNot
		}})
	}
	made := runsheet.Make(request)
	s.order(&made, chosen)
	made.Time(request)
	for _, step := range made.Steps {
		t := chosen[step.Way]
		at := record.Keyed{Band: step.Band, Level: step.Level, Mode: step.Mode, FrequencyHz: step.FrequencyHz}
		p := PlanStep{Step: step, Key: stepKey(step, t.PathID), PathID: t.PathID, Box: s.boxName(at), Done: step.Counts && s.done(at, string(step.Kind), step.SupplyV)}
		if !step.Counts {
			p.Cure = s.suits[suitAsk{t.PathID, string(step.Kind), units.Hertz(step.FrequencyHz), step.Mode}].cure
		} else {
			w := or(r.Subject.MostW, float64(path.Unclaimed))
			if step.ClaimedW != nil {
				w = *step.ClaimedW
			}
			p.HeatJ = w * out.KeyS
		}
		if step.Counts && !p.Done {
			out.Left++
		}
		out.Steps = append(out.Steps, p)
	}
	out.RigChanges, out.BenchS, out.TransmitS, out.BatteryMAh = made.RigChanges, made.BenchS, made.TransmitS, made.BatteryMAh
	return out
}

func or(v *float64, otherwise float64) float64 {
	if v == nil {
		return otherwise
	}
	return *v
}

// stepKey names a step whatever its place.
func stepKey(s runsheet.Step, pathID string) string {
	volts := ""
	if s.SupplyV != nil {
		volts = fmt.Sprintf("%g", *s.SupplyV)
	}
	return fmt.Sprintf("%s|%s|%s|%.0f|%s|%s", pathID, volts, s.Band, s.FrequencyHz, s.Level, s.Mode)
}

type sheet struct {
	review *measure.Review
	ways   Ways
	suits  map[suitAsk]suit
}

// rows are the bands and modes of the matrix.
func (s *sheet) rows() []PlanRow {
	out := []PlanRow{}
	for _, b := range s.review.Bands() {
		row := PlanRow{Band: b.Band.Name, Mode: b.Mode, Channels: s.channels(b)}
		for _, c := range s.review.Cells {
			if c.Band.Name != b.Band.Name || c.Mode != b.Mode {
				continue
			}
			off := slices.ContainsFunc(s.review.Sheet.Off, func(k record.Keyed) bool {
				return k.SameBox(record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode})
			})
			row.Cells = append(row.Cells, &PlanCell{c.Level, c.Claimed, off, c.Band.IsGroup()})
		}
		out = append(out, row)
	}
	return out
}

// align puts the cells of every row under the same levels.
func (p *Plan) align() {
	for i := range p.Rows {
		cells := make([]*PlanCell, len(p.Levels))
		for k, level := range p.Levels {
			if at := slices.IndexFunc(p.Rows[i].Cells, func(c *PlanCell) bool { return c.Level == level }); at >= 0 {
				cells[k] = p.Rows[i].Cells[at]
			}
		}
		p.Rows[i].Cells = cells
	}
}

func (s *sheet) marks() []string {
	if len(s.review.Sheet.Marks) == 0 {
		return []string{Calling}
	}
	return s.review.Sheet.Marks
}

// edge is how far inside a band its edges are keyed, as a share of the band: the carrier
// with its sidebands has to lie in it.
const edge = 0.005

// channels are where a band is keyed: at its marks, and where else somebody wants it.
func (s *sheet) channels(c claims.Cell) []PlanChannel {
	b, out := c.Band, []PlanChannel{}
	add := func(name string, f units.Hertz, own bool) {
		if c, ok := b.ChannelAt(f); ok {
			name = "channel " + c.Name
		}
		if slices.ContainsFunc(out, func(c PlanChannel) bool { return c.FrequencyHz == float64(f) }) {
			return
		}
		reserved, _ := bands.Reserved(f)
		out = append(out, PlanChannel{name, float64(f), own, reserved})
	}
	for _, mark := range s.marks() {
		switch mark {
		case Calling:
			add(b.Channel, b.UsualHz, false)
		case Edges:
			low, high := b.Inside(edge)
			add("lower edge", low, false)
			add("upper edge", high, false)
		case Middle:
			add("middle", b.Middle(), false)
		}
	}
	for _, f := range s.own(c) {
		add(units.Hertz(f).String(), units.Hertz(f), true)
	}
	slices.SortStableFunc(out, func(a, b PlanChannel) int { return cmp.Compare(a.FrequencyHz, b.FrequencyHz) })
	return out
}

// own are the frequencies that somebody wants a band keyed at in a mode. What is wanted of the band
// alone is of FM, and of the one mode that it has where that is another.
func (s *sheet) own(c claims.Cell) []float64 {
	own := s.review.Sheet.Own
	if c.Mode == rulebook.FM || c.Mode == "" {
		return own[c.Band.Name]
	}
	if f, ok := own[c.Band.Name+" "+string(c.Mode)]; ok {
		return f
	}
	if slices.ContainsFunc(s.review.Cells, func(o claims.Cell) bool { return o.Band.Name == c.Band.Name && o.Mode != c.Mode }) {
		return nil
	}
	return own[c.Band.Name]
}

// chosen are the paths the sheet takes: those a person chose, else of each kind the fewest that
// count wherever any does, or the first of that kind where none does.
func (s *sheet) chosen(rows []PlanRow) []*record.Through {
	var out []*record.Through
	if ids := s.review.Sheet.PathIDs; len(ids) > 0 {
		for _, id := range ids {
			if i := slices.IndexFunc(s.ways.Paths, func(t *record.Through) bool { return t.PathID == id }); i >= 0 {
				out = append(out, s.ways.Paths[i])
			}
		}
		return out
	}
	for _, kind := range []string{wiring.ForPower, wiring.ForEmissions} {
		if s.review.LeavesOut(kind) {
			continue
		}
		var all []*record.Through
		for _, t := range s.ways.Paths {
			if wiring.Purpose(t) == kind {
				all = append(all, t)
			}
		}
		// Of as many wirings those are taken that one has on the bench already.
		if taken := s.review.Of(kind); len(taken) > 0 {
			last := taken[len(taken)-1].Through.PathID
			slices.SortStableFunc(all, func(a, b *record.Through) int { return cmp.Compare(first(a.PathID == last), first(b.PathID == last)) })
		}
		out = append(out, s.fewest(all, rows)...)
	}
	return out
}

func first(is bool) int {
	if is {
		return 0
	}
	return 1
}

// mostTried is how many paths of one kind are put together in every way; of more the one that counts at
// most places goes first.
const mostTried = 12

// fewest are the fewest of some paths through which everything can be keyed that can be keyed through
// any of them, those first that stand first.
func (s *sheet) fewest(all []*record.Through, rows []PlanRow) []*record.Through {
	var places [][]int // where any path counts: which ones
	for _, row := range rows {
		for _, c := range row.Channels {
			var count []int
			for i, t := range all {
				if c.Reserved == "" && s.suit(t, wiring.Purpose(t), runsheet.KeyUp{Frequency: units.Hertz(c.FrequencyHz), Mode: row.Mode}).whyNot == "" {
					count = append(count, i)
				}
			}
			if count != nil {
				places = append(places, count)
			}
		}
	}
	if len(places) == 0 {
		return all[:min(len(all), 1)] // none does: the steps say why
	}
	var out []*record.Through
	if len(all) <= mostTried {
		best := ^uint64(0)
		for set := uint64(1); set < 1<<len(all); set++ {
			keyed := func(count []int) bool {
				return slices.ContainsFunc(count, func(i int) bool { return set&(1<<i) != 0 })
			}
			if bits.OnesCount64(set) < bits.OnesCount64(best) && !slices.ContainsFunc(places, func(count []int) bool { return !keyed(count) }) {
				best = set
			}
		}
		for i, t := range all {
			if best&(1<<i) != 0 {
				out = append(out, t)
			}
		}
		return out
	}
	for len(places) > 0 {
		n := make([]int, len(all))
		for _, count := range places {
			for _, i := range count {
				n[i]++
			}
		}
		best := slices.Index(n, slices.Max(n))
		out = append(out, all[best])
		places = slices.DeleteFunc(places, func(count []int) bool { return slices.Contains(count, best) })
	}
	return out
}

type suitAsk struct {
	path, purpose string
	hz            units.Hertz
	mode          rulebook.Mode
}

type suit struct{ whyNot, cure string }

// suit tells whether a key-up through a path would count: safe as it is wired, in range of
// the meter, for emissions at the second harmonic too; and if not, what would cure it.
func (s *sheet) suit(t *record.Through, purpose string, k runsheet.KeyUp) suit {
	ask := suitAsk{t.PathID, purpose, k.Frequency, k.Mode}
	if got, ok := s.suits[ask]; ok {
		return got
	}
	got := s.look(t, purpose, k)
	s.suits[ask] = got
	return got
}

func (s *sheet) look(t *record.Through, purpose string, k runsheet.KeyUp) (out suit) {
	band := ""
	if i := slices.IndexFunc(s.review.Cells, func(c claims.Cell) bool { return c.Mode == k.Mode && c.Band.Contains(k.Frequency) }); i >= 0 {
		band = s.review.Cells[i].Band.Name
	}
	if wiring.InUse(t) {
		return suit{whyNot: say.InUse().Detail}
	}
	if purpose == wiring.ForPower {
		if why := wiring.MeterWhyNot(t, k.Frequency); why != "" {
			out.whyNot = why
			if meters := wiring.MetersFor(s.ways.Bench, k.Frequency, float64(path.HighestKeyed(units.Watts(s.highest(band)), 0))); len(meters) > 0 {
				out.cure = "use " + meters[0]
			}
			return out
		}
	}
	stairs, err := wiring.Wire(Into(s.review, record.Keyed{Band: band, Mode: k.Mode, FrequencyHz: float64(k.Frequency)}, t, s.ways.Bench))
	if err != nil {
		return suit{whyNot: err.Error()}
	}
	for _, p := range stairs.Problems {
		if p.Severity == say.Danger || p.Code == say.OutOfRangeCode {
			out.whyNot = p.Detail
			break
		}
	}
	if out.whyNot == "" && purpose == wiring.ForEmissions && !stairs.SeesSecond {
		out.whyNot = fmt.Sprintf("not even the 2nd harmonic, %s, can be seen through it", 2*k.Frequency)
	}
	if out.whyNot != "" && len(stairs.Cures) > 0 {
		out.cure = stairs.Cures[0].Detail
	}
	return out
}

// highest is the highest power claimed of a band, in W; what is taken for one of which
// nothing is claimed.
func (s *sheet) highest(band string) float64 {
	most := 0.0
	for _, c := range s.review.Cells {
		if c.Band.Name == band {
			most = max(most, c.Claimed)
		}
	}
	if most == 0 {
		return or(s.review.Subject.MostW, float64(path.Unclaimed))
	}
	return most
}

// order puts the steps as a person put them; what was not moved follows.
func (s *sheet) order(made *runsheet.Sheet, chosen []*record.Through) {
	if len(s.review.Sheet.Order) == 0 {
		return
	}
	place := map[string]int{}
	for i, key := range s.review.Sheet.Order {
		place[key] = i + 1
	}
	at := func(step runsheet.Step) int {
		if n := place[stepKey(step, chosen[step.Way].PathID)]; n > 0 {
			return n
		}
		return len(place) + step.N
	}
	slices.SortStableFunc(made.Steps, func(a, b runsheet.Step) int { return cmp.Compare(at(a), at(b)) })
	for i := range made.Steps {
		made.Steps[i].N = i + 1
	}
}

func (s *sheet) boxName(k record.Keyed) string {
	if c := s.review.Cell(k); c != nil {
		return s.review.BoxName(*c)
	}
	return k.Band + " " + k.Level
}

// voltsOff is by how much of it the supply may differ from what a step wants, and be it still.
const voltsOff = 0.05

// done tells whether a step was made: something of its kind stands at its box and frequency, and at its
// supply voltage where both say one. What the radio refused was made.
func (s *sheet) done(k record.Keyed, kind string, volts *float64) bool {
	if kind == power.Name {
		return slices.ContainsFunc(power.Of(s.review).Readings(), func(r power.Reading) bool {
			if volts != nil && r.Entry.SupplyV != nil && math.Abs(*r.Entry.SupplyV-*volts) > voltsOff**volts {
				return false
			}
			return (r.Counts || r.Refused) && s.review.Stands(r.ID) && r.SameBox(k) && claims.SameFrequency(units.Hertz(r.FrequencyHz), units.Hertz(k.FrequencyHz))
		})
	}
	return slices.ContainsFunc(s.review.Of(kind), func(m *record.Measurement) bool {
		return s.review.Stands(m.ID) && m.SameBox(k) && claims.SameFrequency(units.Hertz(m.FrequencyHz), units.Hertz(k.FrequencyHz))
	})
}
