package emissions

import (
	"cmp"
	"math"
	"slices"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/measure"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Idle are the states in which nothing is transmitted.
var Idle = []string{"off", "standby", "receive"}

// States are those that are offered; any other words are taken too.
var States = append(slices.Clone(Idle), "tuner in", "tuner out", "into the antenna", "other supply", "before repair", "after repair")

// Study is what the sweeps say beside the boxes: what each line goes with.
type Study struct {
	Boards []StateBoard `json:"boards"`
	States []string     `json:"states"` // offered
	Sweeps []SweepView  `json:"sweeps"` // that stand on a board alone, and for no ruling
	Levels []LevelsSay  `json:"levels"`
}

// StateBoard is the lines of one carrier against the states they were looked at in. On a
// board of what was heard, they are those in the radio's own receiver, as displayed.
type StateBoard struct {
	Band        string        `json:"band"`
	Mode        record.Mode   `json:"mode"`
	FrequencyHz float64       `json:"frequency_hz"`
	Heard       bool          `json:"heard"`
	Rows        []StateRow    `json:"rows"`
	Columns     []StateColumn `json:"columns"`
	Combs       []StateComb   `json:"combs"`
	Ask         string        `json:"ask"` // which state would tell more; empty where none would
}

// StateRow is a state with what was seen in it, along the columns. Level is empty where
// nothing is transmitted.
type StateRow struct {
	State string      `json:"state"` // empty for plain transmitting
	Level string      `json:"level"`
	Name  string      `json:"name"`
	Cells []StateCell `json:"cells"`

	Standby *StandbyRuling `json:"standby"` // what the book says of it, where nothing is transmitted

	all   []judge.Product
	least func(units.Hertz) (float64, bool)
	noise *float64 // in the radio's own receiver, as it shows it; nil where it was not noted
	idle  bool
}

// StateCell is a line in a state: its level, or what it is not above, in dBm; neither
// where nobody looked.
type StateCell struct {
	LevelDBm *float64 `json:"level_dbm"`
	BelowDBm *float64 `json:"below_dbm"`
}

// StateColumn is a line, and what it goes with.
type StateColumn struct {
	Name        string  `json:"name"`
	FrequencyHz float64 `json:"frequency_hz"`
	Says        string  `json:"says"`
	within      float64
}

// StateComb are evenly spaced lines in one state.
type StateComb struct {
	Row       string  `json:"row"`
	SpacingHz float64 `json:"spacing_hz"`
	Lines     int     `json:"lines"`
	Says      string  `json:"says"`
}

// clearDB is by how much a line must be gone, to be said to be gone, in dB (common
// practice, no source).
const clearDB = 6

// forRuling tells whether a sweep is of the radio transmitting as it is reviewed: others
// stand on the state board alone.
func (s *Sweep) forRuling() bool { return s.State == "" && !s.Heard }

// Studied implements measure.Student.
func (d *Room) Studied() measure.Answer { return measure.Answers(d.Study()) }

// Study works out all of it.
func (d *Room) Study() Study {
	out := Study{Boards: []StateBoard{}, States: States, Sweeps: []SweepView{}, Levels: []LevelsSay{}}
	type key struct {
		band  string
		mode  record.Mode
		heard bool
	}
	var keys []key
	of := map[key][]*Sweep{}
	for _, s := range d.sweeps {
		if standing, _ := d.review.Standing(s.ID); standing == record.Struck {
			continue
		}
		k := key{s.Band, s.Mode, s.Heard}
		if of[k] == nil {
			keys = append(keys, k)
		}
		of[k] = append(of[k], s)
		if !s.forRuling() {
			out.Sweeps = append(out.Sweeps, d.viewAlone(s))
		}
	}
	for _, k := range keys {
		for _, sweeps := range byCarrier(of[k]) {
			if b := d.board(sweeps); len(b.Rows) > 0 {
				out.Boards = append(out.Boards, b)
			}
		}
	}
	for _, c := range d.review.Bands() {
		if says := d.levelsSay(c); says != "" {
			out.Levels = append(out.Levels, LevelsSay{c.Band.Name, c.Mode, says})
		}
	}
	return out
}

// byCarrier parts the sweeps of a band by their carriers; those of nothing that is keyed go
// with each of them.
func byCarrier(sweeps []*Sweep) [][]*Sweep {
	idle := func(s *Sweep) bool { return s.Heard || slices.Contains(Idle, s.State) }
	var carriers []float64
	for _, s := range sweeps {
		if !idle(s) && !slices.ContainsFunc(carriers, func(f float64) bool { return near(f, s.FrequencyHz) }) {
			carriers = append(carriers, s.FrequencyHz)
		}
	}
	if len(carriers) == 0 {
		return [][]*Sweep{sweeps}
	}
	var out [][]*Sweep
	for _, f := range carriers {
		var of []*Sweep
		for _, s := range sweeps {
			if idle(s) || near(s.FrequencyHz, f) {
				of = append(of, s)
			}
		}
		out = append(out, of)
	}
	return out
}

// board sets sweeps of one carrier against each other.
func (d *Room) board(sweeps []*Sweep) StateBoard {
	first := sweeps[0]
	for _, s := range sweeps {
		if !slices.Contains(Idle, s.State) {
			first = s
			break
		}
	}
	b := StateBoard{Band: first.Band, Mode: first.Mode, FrequencyHz: first.FrequencyHz, Heard: first.Heard, Rows: []StateRow{}, Columns: []StateColumn{}, Combs: []StateComb{}}
	var names []string
	rows := map[string][]*Sweep{}
	for _, s := range sweeps {
		name := rowName(s)
		if rows[name] == nil {
			names = append(names, name)
		}
		rows[name] = append(rows[name], s)
	}
	slices.SortStableFunc(names, func(a, c string) int { return cmp.Compare(rank(rows[a][0]), rank(rows[c][0])) })
	for _, name := range names {
		if row, combs, ok := d.row(name, b.FrequencyHz, rows[name]); ok {
			b.Rows = append(b.Rows, row)
			b.Combs = append(b.Combs, combs...)
		}
	}
	b.columns()
	for i := range b.Columns {
		b.Columns[i].Says = b.goesWith(i)
	}
	b.Ask = b.ask()
	return b
}

func rowName(s *Sweep) string {
	switch {
	case s.State == "" && s.Level == "":
		return "transmitting"
	case s.State == "":
		return s.Level
	case slices.Contains(Idle, s.State) || s.Heard || s.Level == "":
		return s.State
	}
	return s.Level + " (" + s.State + ")"
}

// rank puts idle states first, as offered, then transmitting, then what was switched.
func rank(s *Sweep) int {
	if i := slices.Index(Idle, s.State); i >= 0 {
		return i
	}
	if s.State == "" {
		return len(Idle)
	}
	return len(Idle) + 1
}

// row is what was seen in one state, of a carrier at a frequency; false where none of it can be worked out.
func (d *Room) row(name string, at float64, sweeps []*Sweep) (StateRow, []StateComb, bool) {
	s := sweeps[0]
	row := StateRow{State: s.State, Name: name, idle: slices.Contains(Idle, s.State)}
	if !row.idle && !s.Heard {
		row.Level = s.Level
	}
	in := judge.Input{Book: d.review.BookOf(s.Band), BandwidthHz: d.review.Rules.BandwidthHz, Rule: decision.Guarded,
		Carrier: rulebook.Carrier{Frequency: units.Hertz(at), Mode: s.Mode, State: rulebook.Operating}}
	if row.idle {
		in.Carrier.State = rulebook.Standby
	} else {
		d.power(&Ruling{Keyed: record.Keyed{Band: s.Band, Level: s.Level, Mode: s.Mode, FrequencyHz: at}}, &in)
	}
	for _, s := range sweeps {
		e, _, err := d.sweep(s)
		if err != nil {
			continue
		}
		e.Standing = judge.InForce // one that is doubted is looked at all the same
		if s.Heard {
			e.Path, e.AppliedDB = &path.Path{}, 0
		}
		s.into(&in, e, nil)
	}
	if len(in.Sweeps)+len(in.Looks) == 0 {
		return row, nil, false
	}
	if s.Heard { // nothing of it is an emission of a carrier: its peaks are what there is
		row.all, row.least = heard(in.Looks)
		row.noise = noiseHeard(in.Looks)
		return row, combsOf(name, in.Looks), true
	}
	r, err := judge.Judge(in)
	if err != nil {
		return row, nil, false
	}
	var combs []StateComb
	for _, f := range r.Findings {
		if f.SpacingHz != nil {
			combs = append(combs, StateComb{name, *f.SpacingHz, *f.Lines, f.Detail})
		}
	}
	if rulesStandby(s) {
		row.Standby = d.standby(sweeps)
	}
	row.all = r.Products
	row.least = func(f units.Hertz) (float64, bool) { return r.LeastAt("", f) }
	return row, combs, true
}

// columns gathers the lines seen in any row, each once, and fills the rows.
func (b *StateBoard) columns() {
	for _, row := range b.Rows {
		for _, p := range row.all {
			if !p.Seen || p.LevelDBm == nil {
				continue
			}
			c := StateColumn{p.Name(), *p.FrequencyHz, "", within(p)}
			if i := slices.IndexFunc(b.Columns, c.same); i < 0 {
				b.Columns = append(b.Columns, c)
			} else if p.Kind == judge.Harmonic {
				b.Columns[i].Name = c.Name
			}
		}
	}
	b.noiseColumn()
	slices.SortFunc(b.Columns, func(a, c StateColumn) int { return cmp.Compare(a.FrequencyHz, c.FrequencyHz) })
	for i := range b.Rows {
		row := &b.Rows[i]
		row.Cells = []StateCell{}
		for _, c := range b.Columns {
			cell := StateCell{}
			if c.Name == noiseName {
				row.Cells = append(row.Cells, StateCell{LevelDBm: row.noise})
				continue
			}
			for _, p := range row.all {
				if l := p.LevelDBm; p.Seen && l != nil && c.same(StateColumn{FrequencyHz: *p.FrequencyHz, within: within(p)}) && (cell.LevelDBm == nil || *l > *cell.LevelDBm) {
					cell.LevelDBm = l
				}
			}
			if least, ok := row.least(units.Hertz(c.FrequencyHz)); ok && cell.LevelDBm == nil {
				cell.BelowDBm = &least
			}
			row.Cells = append(row.Cells, cell)
		}
	}
}

// noiseName is the column of what the receiver hears where it hears no line.
const noiseName = "noise"

// noiseColumn puts the noise first, where it was noted in any state.
func (b *StateBoard) noiseColumn() {
	if slices.ContainsFunc(b.Rows, func(r StateRow) bool { return r.noise != nil }) {
		b.Columns = append(b.Columns, StateColumn{Name: noiseName})
	}
}

func within(p judge.Product) float64 {
	w := 0.0
	if p.Opened != nil {
		for _, s := range p.Opened.Sights {
			w = max(w, s.WithinHz)
		}
	}
	return w
}

func (c StateColumn) same(o StateColumn) bool {
	return math.Abs(c.FrequencyHz-o.FrequencyHz) <= c.within+o.within
}
