package publish

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"talloak/core/judge"
	"talloak/core/measure/emissions"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/uncertainty"
)

// column is a field of a table of the data package. A number's name ends in its unit, or in ratio or
// relative where it has none.
type column struct{ name, kind, title, description string }

// table is a resource of the data package.
type table struct {
	name, title string
	columns     []column
	rows        [][]string
}

func (t *table) add(cells ...string) { t.rows = append(t.rows, cells) }

func text(name, title, description string) column { return column{name, "string", title, description} }
func number(name, title, description string) column {
	return column{name, "number", title, description}
}
func whole(name, title, description string) column {
	return column{name, "integer", title, description}
}
func yesNo(name, title, description string) column {
	return column{name, "boolean", title, description}
}

var (
	bandColumn  = text("band", "Band", "name of the band")
	levelColumn = text("level", "Level", "power level that is chosen on the radio")
	modeColumn  = text("mode", "Mode", "FM, AM, SSB, CW or DIGITAL; empty where nobody said")
)

// bare is a number as it is, without a unit; empty where there is none.
func bare(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'g', -1, 64)
}

func orEmpty(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}

// tables are those of an edition, as far as its data have them.
func (d *Document) tables() []table {
	return []table{d.readingsTable(), d.sweepsTable(), d.rulingsTable(), d.looksTable(), d.budgetsTable(), d.kitTable(), d.pathsTable(), d.furtherTable()}
}

func (d *Document) readingsTable() table {
	t := table{name: "readings", title: "Every reading of power, those that do not count too", columns: []column{
		text("id", "Reading", "key of the reading"), bandColumn, levelColumn, modeColumn,
		number("frequency_hz", "Frequency", "where the radio was keyed"), column{"taken_at", "datetime", "Taken", "time in UTC"}, text("typed", "Typed", "the line as it was typed"),
		number("at_connector_w", "Power at the connector", "mean, referred to the antenna connector"), number("low_w", "Low", "lower end of the interval, k = 2"), number("high_w", "High", "upper end of the interval, k = 2"),
		number("peak_at_connector_w", "Peak at the connector", "peak envelope power, referred to the antenna connector"), number("claimed_w", "Claimed", "power claimed of the band and level"),
		number("supply_v", "Supply", "volts while keyed"), number("supply_a", "Current", "amperes while keyed"), number("swr", "SWR", "standing wave ratio read beside it"),
		yesNo("counts", "Counts", "whether it is believed"), text("why_not", "Why not", "why it does not count"), text("standing", "Standing", "in-force, suspect, struck or explained"), text("path", "Path", "name of the path it was taken through"),
	}}
	for _, r := range d.Readings {
		var mean, low, high, peak *float64
		if r.Result != nil {
			mean, low, high = r.Result.AtConnectorW, r.Result.LowW, r.Result.HighW
		}
		if r.Peak != nil {
			peak = r.Peak.AtConnectorW
		}
		hz := r.FrequencyHz
		t.add(r.ID, r.Band, r.Level, string(r.Mode), bare(&hz), r.TakenAt.UTC().Format("2006-01-02T15:04:05Z"), r.Text, bare(mean), bare(low), bare(high), bare(peak), bare(r.ClaimedW),
			bare(r.Entry.SupplyV), bare(r.Entry.SupplyA), bare(r.Entry.SWR), strconv.FormatBool(r.Counts), r.WhyNot, r.Standing, nameOf(r.Through))
	}
	return t
}

func nameOf(t *record.Through) string {
	if t == nil {
		return ""
	}
	return t.Name
}

func (d *Document) sweepsTable() table {
	t := table{name: "sweeps", title: "Every product in every sweep or look that shows it", columns: []column{
		text("sweep", "Sweep", "key of the sweep or look"), text("sweep_name", "Name", "what it is called"), bandColumn, levelColumn, modeColumn, text("product", "Product", "harmonic, spur or subharmonic"),
		number("frequency_hz", "Frequency", "of the product"), number("shown_dbm", "Shown", "level as displayed"), number("loss_db", "Loss", "of the path at that frequency"),
		number("applied_offset_db", "Offset", "what the screen had added already"), number("at_connector_dbm", "Level at the connector", "shown plus loss less offset"), yesNo("suspect", "Suspect", "perhaps the analyzer's own"),
	}}
	for _, l := range d.Board.Levels() {
		if l.Emissions.Ruling == nil {
			continue
		}
		ids := map[string]string{}
		for _, s := range l.Emissions.Sweeps {
			ids[s.Name] = s.ID
		}
		for i := range l.Emissions.Ruling.Products {
			p := &l.Emissions.Ruling.Products[i]
			if p.Opened == nil {
				continue
			}
			for _, s := range p.Opened.Sights {
				shown, applied := s.ShownDBm, s.Applied
				t.add(ids[s.Sweep], s.Sweep, l.Cell.Band.Name, l.Cell.Level, string(l.Cell.Mode), p.Name(), bare(placeOf(p)), bare(&shown), bare(s.LossDB), bare(&applied), bare(s.LevelDBm), strconv.FormatBool(s.Suspect))
			}
		}
	}
	return t
}

func placeOf(p *judge.Product) *float64 {
	if p.FrequencyHz != nil {
		return p.FrequencyHz
	}
	return p.ExpectedHz
}

func (d *Document) looksTable() table {
	t := table{name: "looks", title: "What was read off a screen: a range looked at with its floor, and every peak in it", columns: []column{
		text("look", "Look", "key of the look"), bandColumn, levelColumn, modeColumn, column{"taken_at", "datetime", "Taken", "time in UTC"},
		number("from_hz", "From", "where the range begins"), number("to_hz", "To", "where the range ends"), number("floor_dbm", "Floor", "noise floor as displayed"),
		number("peak_hz", "Peak", "frequency of a peak; empty in the row of the range"), number("shown_dbm", "Shown", "level of the peak as displayed"), number("shown_dbc", "Shown below the carrier", "level of the peak, where it was read so"), number("step_db", "Step", "what the level was read to"),
	}}
	seen := map[string]bool{}
	for _, l := range d.Board.Levels() {
		for _, s := range l.Emissions.Sweeps {
			if s.Look == nil || seen[s.ID] {
				continue
			}
			seen[s.ID] = true
			of := []string{s.ID, l.Cell.Band.Name, l.Cell.Level, string(l.Cell.Mode), s.TakenAt.UTC().Format("2006-01-02T15:04:05Z"), bare(&s.Look.FromHz), bare(&s.Look.ToHz), bare(s.Look.FloorDBm)}
			t.add(append(slices.Clone(of), "", "", "", "")...)
			for _, p := range s.Look.Peaks {
				step := ""
				if p.StepDB > 0 {
					step = bare(&p.StepDB)
				}
				t.add(append(slices.Clone(of), bare(&p.FrequencyHz), bare(p.LevelDBm), bare(p.DBc), step)...)
			}
		}
	}
	return t
}

func (d *Document) furtherTable() table {
	t := table{name: "further", title: "The tables of the further tests as the page shows them, a cell a row", columns: []column{
		text("kind", "Kind", "of measurement"), text("table", "Table", "its heading"), whole("row", "Row", "in the table, 1 first"), text("column", "Column", "heading of the column"), text("shown", "Shown", "the cell as it is shown, with its unit"),
	}}
	for _, o := range d.Others {
		for _, s := range o.Sections {
			for i, row := range s.Rows {
				for k, cell := range row {
					t.add(o.Kind, s.Title, fmt.Sprint(i+1), s.Columns[k], cell)
				}
			}
		}
	}
	return t
}

func (d *Document) rulingsTable() table {
	t := table{name: "rulings", title: "What every band and level comes to, and every product in it", columns: []column{
		text("of", "Of", "power, emissions, or the product"), bandColumn, levelColumn, modeColumn, text("verdict", "Ruling", "verdict"), text("why", "Why", "its reason"),
		number("claimed_w", "Claimed", "power claimed"), number("measured_w", "Measured", "power that stands"), number("against_claim_db", "Against the claim", "measured over claimed"),
		number("frequency_hz", "Frequency", "of the product"), number("level_dbm", "Level", "at the connector; of what was not seen, the highest it could be by its bound"), number("limit_dbm", "Limit", "of the rule book at that frequency"),
		number("margin_db", "Margin", "limit less level"), number("room_db", "Room", "that is left at least, with the guard of what was not seen"), text("rule_book", "Rule book", "by which it was judged"),
	}}
	for _, l := range d.Board.Levels() {
		var measured, delta *float64
		if r := l.Power.Reading; r != nil {
			measured = r.MeasuredW
			if r.AgainstClaim != nil {
				delta = r.AgainstClaim.DeltaDB
			}
		}
		claimed := ""
		if l.Cell.Claimed > 0 {
			claimed = bare(&l.Cell.Claimed)
		}
		where := []string{l.Cell.Band.Name, l.Cell.Level, string(l.Cell.Mode)}
		row := func(of string, cells ...string) { t.add(append(append([]string{of}, where...), cells...)...) }
		row("power", string(l.Power.Verdict), l.Power.Why, claimed, bare(measured), bare(delta), "", "", "", "", "", "")
		e := l.Emissions
		if e.Ruling == nil {
			row("emissions", string(l.Verdict), l.Why, "", "", "", "", "", "", "", "", e.RuleBook)
			continue
		}
		margin, room := "", ""
		if w := e.Ruling.Worst; w != nil {
			margin, room = bare(w.MarginDB), bare(w.RoomDB)
		}
		row("emissions", string(l.Verdict), l.Why, "", "", "", "", "", "", margin, room, e.RuleBook)
		for i := range e.Ruling.Products {
			p := &e.Ruling.Products[i]
			row(p.Name(), string(p.Verdict), orEmpty(p.DecidedBy), "", "", "", bare(placeOf(p)), bare(p.LevelDBm), bare(p.LimitDBm), bare(p.MarginDB), bare(p.RoomDB), e.RuleBook)
		}
	}
	for _, o := range d.Others {
		if o.Whole != nil {
			t.add(o.Title, "", "", "", string(o.Whole.Verdict), o.Whole.Words, "", "", "", "", "", "", "", "", "")
		}
	}
	return t
}

func (d *Document) budgetsTable() table {
	t := table{name: "budgets", title: "What every uncertainty is made of", columns: []column{
		text("of", "Of", "key of the reading or sweep"), text("source", "Source", "what contributes"), text("distribution", "Distribution", "rectangular, normal, t, U-shaped or combined"),
		number("standard_relative", "Standard uncertainty", "of a power, relative to it"), number("standard_db", "Standard uncertainty", "of a level"),
	}}
	powers := func(id string, b uncertainty.Budget) {
		for _, l := range b {
			u := l.Relative
			t.add(id, l.Source, l.Distribution, bare(&u), "")
		}
	}
	for _, r := range d.Readings {
		if r.Result != nil {
			powers(r.ID, r.Result.Budget)
		}
		if r.Peak != nil {
			powers(r.ID+" peak", r.Peak.Budget)
		}
	}
	for _, s := range d.allSweeps() {
		if s.Budget == nil {
			continue
		}
		for _, p := range s.Budget.Parts {
			u := p.DB
			t.add(s.ID, p.Source, p.Distribution, "", bare(&u))
		}
	}
	return t
}

// allSweeps are those of all boxes, each once.
func (d *Document) allSweeps() []emissions.SweepView {
	var out []emissions.SweepView
	seen := map[string]bool{}
	for _, l := range d.Board.Levels() {
		for _, s := range l.Emissions.Sweeps {
			if !seen[s.ID] {
				seen[s.ID] = true
				out = append(out, s)
			}
		}
	}
	return out
}

// ways are the paths that readings and sweeps were taken through, each as it was, once.
func (d *Document) ways() []*record.Through {
	var out []*record.Through
	seen := map[string]bool{}
	add := func(t *record.Through) {
		if t == nil {
			return
		}
		key := t.PathID + t.Name
		for _, k := range t.Kit {
			key += "|" + k.ID + k.Name + k.Setting
		}
		if !seen[key] {
			seen[key] = true
			out = append(out, t)
		}
	}
	for i := range d.Readings {
		add(d.Readings[i].Through)
	}
	for _, s := range d.allSweeps() {
		add(s.Through)
	}
	return out
}

func (d *Document) kitTable() table {
	t := table{name: "kit", title: "Everything the figures came through, as it was", columns: []column{
		text("id", "Item", "key of the item"), text("name", "Name", "what it is called"), text("kind", "Kind", "what it is"), text("setting", "Setting", "scale, position or input in use"),
		number("loss_db", "Loss", "where it is the same at every frequency"), number("tolerance_db", "Tolerance", "half-width of the loss"), number("accuracy_db", "Accuracy", "of an instrument's levels, half-width, or expanded by its certificate"),
		number("most_w", "Rating", "most it takes all the time"), number("swr", "SWR", "standing wave ratio where it is stated"), text("meter_accuracy", "Accuracy of a meter", "as it is stated, in words"), text("serial", "Serial", "of the item"), text("certificate", "Certificate", "its number, and who gave it"), text("checked_on", "Checked", "day it was last checked"), text("note", "Note", "what its owner wrote of it"),
	}}
	seen := map[string]bool{}
	for _, w := range d.ways() {
		for _, k := range w.Kit {
			key := k.ID + k.Name + k.Setting
			if seen[key] {
				continue
			}
			seen[key] = true
			e := k.Spec.Element
			var loss *float64
			if e.Loss != nil {
				loss = e.Loss.FlatDB
			}
			accuracy := ""
			if k.Spec.AccuracyDB > 0 {
				accuracy = bare(&k.Spec.AccuracyDB)
			}
			t.add(k.ID, k.Name, string(k.Spec.KindOf()), k.Setting, bare(loss), bare(e.ToleranceDB), accuracy, bare(e.MaxW), bare(e.SWR), meterWords(k.Spec.Meter), k.Spec.Serial, k.Spec.Certificate, k.Spec.CheckedOn, k.Spec.Note)
		}
	}
	return t
}

// meterWords is how well a meter reads, as its owner told it.
func meterWords(m *reading.Meter) string {
	if m == nil {
		return ""
	}
	var out []string
	add := func(format string, v float64) {
		if v > 0 {
			out = append(out, fmt.Sprintf(format, v))
		}
	}
	add("±%g %% of the reading", m.PctReading)
	add("±%g %% of full scale", m.PctFullScale)
	add("±%g dB", m.DB)
	add("±%g %% by its certificate", m.ExpandedPct)
	add("±%g dB by its certificate", m.ExpandedDB)
	add("a digit of %g W", m.DigitW)
	return strings.Join(out, ", ")
}

func (d *Document) pathsTable() table {
	t := table{name: "paths", title: "The paths, part by part from the antenna connector on", columns: []column{
		text("path", "Path", "name of the path"), whole("place", "Place", "from the connector, 1 first"), text("kit_id", "Item", "key of the item"), text("kit", "Name", "what it is called"), text("setting", "Setting", "in use"),
		number("applied_offset_db", "Offset", "what the instrument adds already"),
	}}
	for _, w := range d.ways() {
		for i, k := range w.Kit {
			t.add(w.Name, fmt.Sprint(i+1), k.ID, k.Name, k.Setting, bare(&w.AppliedOffsetDB))
		}
	}
	return t
}

// unitOf is the unit that a number's name ends in, in letters that people write.
func unitOf(name string) string {
	at := strings.LastIndexByte(name, '_')
	return map[string]string{"hz": "Hz", "w": "W", "dbm": "dBm", "db": "dB", "dbc": "dBc", "v": "V", "a": "A"}[name[at+1:]]
}
