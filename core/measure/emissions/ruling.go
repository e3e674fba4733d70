package emissions

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/origin"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/core/wiring"
)

// SweepView is a sweep with its standing and, for drawing, its trace at the connector.
type SweepView struct {
	ID        string          `json:"id"`
	Name      string          `json:"name"`
	TakenAt   time.Time       `json:"taken_at"`
	StartHz   float64         `json:"start_hz"`
	StopHz    float64         `json:"stop_hz"`
	RBWHz     float64         `json:"rbw_hz"`
	Points    int             `json:"points"`
	Taken     string          `json:"taken"`
	Detector  string          `json:"detector"`  // empty where not told
	Hold      string          `json:"hold"`      // empty where not told
	Modulated string          `json:"modulated"` // bare or modulated; empty where not told
	Standing  string          `json:"standing"`
	Reason    string          `json:"standing_reason"`
	List      bool            `json:"list"`  // figures, with nothing examined between them
	State     string          `json:"state"` // what the radio was doing, where it was not simply transmitting
	Heard     bool            `json:"heard"`
	Below     bool            `json:"normalised"` // saved below its own carrier
	LossDB    *float64        `json:"loss_db"`    // of the path, at the carrier
	Void      string          `json:"void"`       // why it counts for nothing: not to be worked out any more, or not to be believed
	Through   *record.Through `json:"through"`
	Picture   []judge.Bucket  `json:"picture"`

	Look         *Look    `json:"look,omitempty"`
	HeldS        *float64 `json:"held_s,omitempty"`
	OffsetDB     *float64 `json:"offset_db,omitempty"`
	PreAmplifier string   `json:"pre_amplifier,omitempty"`

	By []record.By `json:"by,omitempty"` // the instrument that told all this itself

	AppliedDB  float64            `json:"applied_offset_db"` // what counted as added already: its own, or the path's
	CarrierDBm *float64           `json:"carrier_dbm"`       // as it shows it, at the connector
	CarrierW   *float64           `json:"carrier_w"`
	InputDBm   *float64           `json:"input_dbm"` // as it arrives at the analyzer
	Doubtful   bool               `json:"doubtful"`  // it is not to be believed: an offset is wrong
	Budget     *judge.LevelBudget `json:"budget"`    // of a level it shows; nil where it is not ruled on

	// Meter is the carrier it shows beside the one that a meter read, while it is being taken; nil where
	// either is not known.
	Meter *AgainstMeter `json:"against_meter,omitempty"`
}

// AgainstMeter is how far a carrier that is shown lies from the one that a meter read there, and whether
// the two agree within what neither of them can tell.
type AgainstMeter struct {
	W      float64 `json:"w"` // by the meter
	OffDB  float64 `json:"off_db"`
	Agrees bool    `json:"agrees"`
}

// againstMeter holds the carrier that row shows against the meter's.
func (d *Room) againstMeter(row *Sweep) *AgainstMeter {
	s, accuracy, err := d.sweep(row)
	if err != nil || row.State != "" || row.Heard {
		return nil
	}
	carrier, _, ok := implied(row, &s)
	var in judge.Input
	meterU, _ := d.power(&Ruling{Keyed: row.Keyed}, &in)
	if !ok || in.MeanW == nil {
		return nil
	}
	off := float64(carrier - units.Watts(*in.MeanW).DBm())
	joint := math.Hypot(d.budget(accuracy, s.Path, row.FrequencyHz, meterU).Absolute, meterU)
	return &AgainstMeter{*in.MeanW, off, math.Abs(off) <= joint+float64(decision.Slack)}
}

// Ruling is the ruling on one box at one frequency, with all it rests on.
// Ruling is nil where no sweep was taken.
type Ruling struct {
	record.Keyed
	MeanW        *float64             `json:"mean_w"`
	MeanFrom     string               `json:"mean_from"`  // the reading it is from
	MeanAtHz     float64              `json:"mean_at_hz"` // where that was read
	PEPW         *float64             `json:"pep_w"`
	Outside      bool                 `json:"outside"` // of the band claimed
	Said         decision.Verdict     `json:"said"`    // of the band and level; a pass not examined in full is only so far
	Ruling       *judge.Ruling        `json:"ruling"`
	Budget       *judge.LevelBudget   `json:"budget"`
	Sweeps       []SweepView          `json:"sweeps"`
	Ceiling      []judge.CeilingPiece `json:"ceiling"`
	Others       []OtherFrequency     `json:"others"`
	RuleBook     string               `json:"rule_book"`
	BookTitle    string               `json:"book_title"`
	BookHouse    bool                 `json:"book_house"`
	BookRecalled bool                 `json:"book_recalled"`
	Why          string               `json:"why"`           // where there is no ruling
	Void         string               `json:"void"`          // what cannot be worked out any more
	Relative     bool                 `json:"relative_only"` // of a sweep in force only levels below the carrier are known
	Seconds      []SecondLook         `json:"seconds,omitempty"`
	Rungs        []Rung               `json:"rungs,omitempty"` // of the products, in their order; to be looked at, not kept
}

// OtherFrequency is the ruling on the same box at another frequency.
type OtherFrequency struct {
	FrequencyHz float64          `json:"frequency_hz"`
	Outside     bool             `json:"outside"` // of the band claimed
	Verdict     decision.Verdict `json:"verdict"`
	Why         string           `json:"why"`
}

// pictureBuckets is how many columns a plot has at most.
const pictureBuckets = 1400

// Worst rules on one box. Sweeps of different carriers are ruled on apart
// and the worst ruling stands for the box, whatever frequency k names; those outside
// the band claimed stand for no box. Pictures are left out unless asked for.
func (d *Room) Worst(k record.Keyed, pictures bool) Ruling {
	return d.emissions(k, func(all []Ruling) int {
		worst := 0
		for i := range all {
			if worseBox(all[i], all[worst]) {
				worst = i
			}
		}
		return worst
	}, pictures)
}

// At is the ruling on a box at the carrier that k names, to be looked
// at; it does not stand for the box. Where nothing was swept there, it is that
// of Worst.
func (d *Room) At(k record.Keyed, pictures bool) Ruling {
	found := false
	out := d.emissions(k, func(all []Ruling) int {
		at := slices.IndexFunc(all, func(e Ruling) bool { return near(e.FrequencyHz, k.FrequencyHz) })
		found = at >= 0
		return max(0, at)
	}, pictures)
	if !found {
		return d.Worst(k, pictures)
	}
	return out
}

// emissions rules on every carrier swept in a box and gives the one chosen,
// with the others beside it.
func (d *Room) emissions(k record.Keyed, choose func([]Ruling) int, pictures bool) Ruling {
	var all []Ruling
	for i := range d.sweeps {
		row := d.sweeps[i]
		if ofBox(row, k) && !slices.ContainsFunc(all, func(e Ruling) bool { return near(e.FrequencyHz, row.FrequencyHz) }) {
			all = append(all, d.carrier(k, row.FrequencyHz, false))
		}
	}
	if len(all) == 0 {
		out := d.carrier(k, k.FrequencyHz, false)
		out.Said, _ = said(out)
		return out
	}
	chosen := choose(all)
	out := all[chosen]
	if pictures {
		out = d.carrier(k, out.FrequencyHz, true)
	}
	out.Said, _ = said(out)
	for i, e := range all {
		if i != chosen {
			v, why := said(e)
			out.Others = append(out.Others, OtherFrequency{e.FrequencyHz, e.Outside, v, why})
		}
	}
	return out
}

func ofBox(row *Sweep, k record.Keyed) bool {
	return row.SameBox(k) && row.forRuling()
}

func worseBox(a, b Ruling) bool {
	if a.Outside != b.Outside {
		return b.Outside
	}
	va, _ := said(a)
	vb, _ := said(b)
	if ra, rb := slices.Index(order, va), slices.Index(order, vb); ra != rb {
		return ra < rb
	}
	return room(a) < room(b)
}

// typicalSourceSWR is a radio's own SWR at its harmonics, seldom better (common
// practice, no source).
const typicalSourceSWR = 3

// sourceSWR is the radio's own at its products: as told, else the typical one.
func (d *Room) sourceSWR() float64 { return cmp.Or(d.review.Rules.SourceSWR, typicalSourceSWR) }

// budget is what a level seen through a path rests on; meterU is the power meter's expanded
// uncertainty in dB.
func (d *Room) budget(a judge.Accuracy, p *path.Path, hz, meterU float64) judge.LevelBudget {
	return judge.Budget(judge.LevelBasis{
		Analyzer: a, Path: p, Carrier: units.Hertz(hz), Multiples: wiring.Multiples, MeterDB: meterU,
		SourceSWR: d.sourceSWR(), SWRTypical: d.review.Rules.SourceSWR == 0,
	})
}

// carrier is ruled on the sweeps of a box at one frequency; void, with the reason, where they
// cannot be worked out.
func (d *Room) carrier(k record.Keyed, hz float64, pictures bool) Ruling {
	out, err := measure.Worked(func() (Ruling, error) { return d.ruled(k, hz, pictures), nil })
	if err != nil {
		k.FrequencyHz = hz
		out = d.unruled(k)
		out.Void = "these cannot be worked out: " + err.Error()
	}
	return out
}

// unruled is a ruling without a sweep.
func (d *Room) unruled(k record.Keyed) Ruling {
	book := d.review.BookOf(k.Band)
	return Ruling{
		Keyed: k, Sweeps: []SweepView{}, Ceiling: []judge.CeilingPiece{}, Others: []OtherFrequency{},
		RuleBook: book.ID, BookTitle: book.Title, BookHouse: book.Kind == "house", BookRecalled: book.Recalled && book.Checked == nil,
	}
}

// ruled rules on the sweeps of a box at one frequency, with the power reading that stands for it.
func (d *Room) ruled(k record.Keyed, hz float64, pictures bool) (out Ruling) {
	k.FrequencyHz = hz
	book := d.review.BookOf(k.Band)
	out = d.unruled(k)
	cell := d.review.Cell(k)
	out.Outside = cell != nil && !cell.Band.Contains(units.Hertz(hz))
	sourceSWR := d.sourceSWR()
	in := judge.Input{
		Book: book, HoldByMeter: true, BandwidthHz: d.review.Rules.BandwidthHz, Rule: decision.Rule(d.review.Rules.DecisionRule), SourceSWR: &sourceSWR,
		Carrier: rulebook.Carrier{Frequency: units.Hertz(k.FrequencyHz), Mode: k.Mode, State: rulebook.Operating},
	}
	if cell != nil && cell.Claimed > 0 && !cell.PEP {
		in.ClaimedW = &cell.Claimed
	}
	for _, c := range d.review.Bands() {
		if c.Band.Name != k.Band {
			in.Others = append(in.Others, origin.Named{Name: c.Band.Name, Hz: c.Band.UsualHz})
		}
	}
	for _, hz := range d.review.Subject.ClocksHz {
		in.Clocks = append(in.Clocks, units.Hertz(hz))
	}
	meterU, contradicted := d.power(&out, &in)
	draw := map[string]func() []judge.Bucket{}
	defer func() { out.draw(draw) }()
	from, to, doubtful := units.Hertz(math.Inf(1)), units.Hertz(0), ""
	for i := range d.sweeps {
		row := d.sweeps[i]
		if !ofBox(row, k) || !near(row.FrequencyHz, hz) {
			continue
		}
		s, accuracy, err := d.sweep(row)
		if err != nil {
			view := d.view(row, nil)
			if view.Void = fmt.Sprintf("%s cannot be worked out any more: %s", row.Name, err); s.Standing == judge.InForce {
				out.Void = view.Void
			}
			out.Sweeps = append(out.Sweeps, view)
			continue
		}
		budget := d.budget(accuracy, s.Path, hz, meterU)
		view := d.view(row, &s)
		view.Budget = &budget
		if pictures {
			draw[row.ID] = func() []judge.Bucket { return d.picture(row, &s, carrierDBm(in.MeanW)) }
		}
		out.Sweeps = append(out.Sweeps, view)
		if view.Doubtful && s.Standing != judge.Struck {
			doubtful = row.Name + ": " + view.Void
			continue
		}
		if out.Budget == nil || budget.Absolute > out.Budget.Absolute {
			out.Budget = &budget
		}
		own := budget.Uncertainty()
		row.into(&in, s, &own)
		from, to = min(from, units.Hertz(row.StartHz)), max(to, units.Hertz(row.StopHz))
	}
	if len(in.Sweeps)+len(in.Looks) == 0 {
		if out.Why = "no sweep was taken"; doubtful != "" {
			out.Void = doubtful
		}
		return out
	}
	in.Uncertainty, in.CarrierU = out.Budget.Uncertainty(), units.DB(meterU)
	ruling, err := judge.Judge(in)
	if err != nil {
		out.Void = err.Error()
		return out
	}
	if contradicted != "" {
		ruling.Findings = append(ruling.Findings, judge.Finding{Said: say.That("power-contradicts", "%s", contradicted)})
	}
	for _, s := range out.Sweeps {
		if risk := s.Through.Risk; risk != nil && s.Standing != record.Struck {
			ruling.Findings = append(ruling.Findings, judge.Finding{Said: say.AtRisk(s.Name, risk.Danger, risk.KeyS, risk.RestS)})
		}
	}
	out.Ruling = &ruling
	_, out.Relative = ruling.Says("relative-only")
	if pictures {
		out.Seconds = d.seconds(k, in)
	}
	out.Ceiling = ruling.Ceiling(from, to)
	return out
}

// mostDrawn is how many sweeps of a box are drawn at most: more cannot be told apart.
const mostDrawn = 12

// draw draws the sweeps of a box; where there are more than can be told apart, those that show
// its worst products and the newest.
func (e *Ruling) draw(draw map[string]func() []judge.Bucket) {
	chosen := map[string]bool{} // by name, as products name them
	if len(draw) > mostDrawn {
		if e.Ruling != nil {
			for _, p := range e.Ruling.Products {
				if p.Sweep != nil && p.Verdict != decision.Pass && len(chosen) < mostDrawn/2 {
					chosen[*p.Sweep] = true
				}
			}
		}
		for _, s := range slices.Backward(e.Sweeps) {
			if s.Standing == record.InForce && len(chosen) < mostDrawn {
				chosen[s.Name] = true
			}
		}
	}
	left := mostDrawn
	for i := range slices.Backward(e.Sweeps) {
		s := &e.Sweeps[i]
		if do := draw[s.ID]; do != nil && (len(draw) <= mostDrawn || chosen[s.Name] && left > 0) {
			s.Picture = do()
			left--
		}
	}
}

// picture is how a sweep is drawn: one that knows only levels below its carrier from its power.
func (d *Room) picture(row *Sweep, s *judge.Sweep, power *units.DBm) []judge.Bucket {
	if row.Look != nil {
		return row.Look.picture(*s, units.Hertz(row.FrequencyHz), power)
	}
	return judge.Picture(*s, pictureBuckets, judge.Anchor{Carrier: units.Hertz(row.FrequencyHz), Power: power, Bandwidth: units.Hertz(d.review.Rules.BandwidthHz)})
}

// view is a sweep as it is shown; s is nil where it cannot be worked out any more.
func (d *Room) view(row *Sweep, s *judge.Sweep) SweepView {
	view := SweepView{
		ID: row.ID, Name: row.Name, TakenAt: row.TakenAt, StartHz: row.StartHz, StopHz: row.StopHz, RBWHz: row.RBWHz,
		Points: row.Points, Taken: row.Taken, Detector: row.Detector, Hold: row.Hold, Modulated: row.Modulated, Through: row.Through, Picture: []judge.Bucket{},
	}
	view.Below, view.State, view.Heard, view.By = row.Normalised, row.State, row.Heard, row.By
	view.Standing, view.Reason = d.review.Standing(row.ID)
	if s == nil {
		return view
	}
	if loss, ok := s.Path.LossAt(units.Hertz(row.FrequencyHz)); ok {
		db := float64(loss)
		view.LossDB = &db
	}
	view.AppliedDB = float64(s.AppliedDB)
	if carrier, input, ok := implied(row, s); ok {
		view.CarrierDBm, view.CarrierW, view.InputDBm = ptr(float64(carrier)), ptr(float64(carrier.Watts())), ptr(float64(input))
	}
	if why := d.unbelievable(row, s); why != "" {
		view.Void, view.Doubtful = why, true
	}
	view.Look, view.HeldS, view.OffsetDB, view.PreAmplifier = row.Look, row.HeldS, row.OffsetDB, row.PreAmplifier
	view.List = row.Look == nil && !s.HasExamined()
	return view
}

// viewAlone is a sweep as it is shown without its trace.
func (d *Room) viewAlone(row *Sweep) SweepView {
	s, _, err := d.sweep(row)
	if err != nil {
		out := d.view(row, nil)
		out.Void = fmt.Sprintf("%s cannot be worked out any more: %s", row.Name, err)
		return out
	}
	return d.view(row, &s)
}

func ptr[T any](v T) *T { return &v }

func carrierDBm(w *float64) *units.DBm {
	if w == nil || !(*w > 0) {
		return nil
	}
	dbm := units.Watts(*w).DBm()
	return &dbm
}

// unboundedDB stands for a power that its meter does not bound below.
const unboundedDB = 30

// power takes the carrier's power from the reading that stands for it and gives the
// meter's expanded uncertainty in dB. Where readings contradict each other, their
// difference counts, and is said.
func (d *Room) power(out *Ruling, in *judge.Input) (meterU float64, contradicted string) {
	pw := power.Of(d.review)
	r := pw.At(out.Keyed, out.FrequencyHz)
	if r == nil || r.Result == nil || r.Result.AtConnectorW == nil || !(*r.Result.AtConnectorW > 0) {
		if r != nil && r.Peak != nil && r.Peak.Counts && r.Peak.AtConnectorW != nil && *r.Peak.AtConnectorW > 0 {
			// Of SSB the peak alone is read: no mean power, but what the carrier shown should be.
			in.ClaimedW, in.ClaimedAs = r.Peak.AtConnectorW, "read as a peak"
		}
		return 0, ""
	}
	out.MeanW, out.MeanFrom, out.MeanAtHz = r.Result.AtConnectorW, r.ID, r.FrequencyHz
	in.MeanW = r.Result.AtConnectorW
	if r.Peak != nil && r.Peak.Counts && r.Peak.AtConnectorW != nil && *r.Peak.AtConnectorW > *in.MeanW {
		in.PEPW, out.PEPW = r.Peak.AtConnectorW, r.Peak.AtConnectorW
	}
	meterU = unboundedDB
	if r.Result.UncertaintyDB != nil {
		meterU = *r.Result.UncertaintyDB
	}
	if apart := pw.Apart(r.Keyed); apart > 0 {
		meterU = max(meterU, float64(apart))
		contradicted = "readings of the carrier's power contradict each other by more than their uncertainties; their difference counts as the meter's"
	}
	return meterU, contradicted
}

// sweep is a row as it is judged, with how well its analyzer shows levels. Its
// standing is set even where it cannot be worked out.
func (d *Room) sweep(row *Sweep) (judge.Sweep, judge.Accuracy, error) {
	standing, _ := d.review.Standing(row.ID)
	out := judge.Sweep{Name: row.Name, AppliedDB: units.DB(row.Through.AppliedOffsetDB), Detector: row.Detector, Hold: row.Hold, Standing: judge.Standing(standing)}
	if row.err != nil {
		return out, judge.Accuracy{}, row.err
	}
	p, err := wiring.Compile(row.Through)
	if err != nil {
		return out, judge.Accuracy{}, err
	}
	accuracy := judge.Accuracy{Distribution: "rectangular"}
	for _, k := range row.Through.Kit {
		counted := k.Spec.Counted()
		if u, distribution := counted.Accuracy(); u > accuracy.U {
			accuracy = judge.Accuracy{U: u, Distribution: distribution, Typical: slices.Contains(counted.Typical, "accuracy_db")}
		}
	}
	out.Path = p
	if row.OffsetDB != nil {
		out.AppliedDB = units.DB(*row.OffsetDB)
	}
	if row.Modulated != "" {
		modulated := row.Modulated == "modulated"
		out.Modulated = &modulated
	}
	if row.ReadingDB > 0 { // beside the analyzer's own accuracy
		accuracy = judge.Accuracy{U: units.DB(math.Hypot(float64(accuracy.U), row.ReadingDB)), Distribution: "combined, read off a picture", Typical: accuracy.Typical}
	}
	if row.Look != nil {
		return out, accuracy, nil
	}
	out.Trace = sweep.Trace{
		Start: units.Hertz(row.StartHz), Stop: units.Hertz(row.StopHz), RBW: units.Hertz(row.RBWHz),
		Levels: UnpackLevels(row.Blob),
	}
	out.Normalised = row.Normalised
	if n := len(out.Trace.Levels) / 2; row.Uneven {
		out.Trace.Levels, out.Trace.Uneven = out.Trace.Levels[:n], out.Trace.Levels[n:]
	}
	return out, accuracy, out.Trace.Check() // an edition's data may come from anywhere
}

func near(a, b float64) bool { return claims.SameFrequency(units.Hertz(a), units.Hertz(b)) }
