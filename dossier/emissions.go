package dossier

import (
	"fmt"
	"time"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/path"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/store"
)

// SweepView is a sweep with its standing and, for drawing, its trace at the connector.
type SweepView struct {
	ID       string         `json:"id"`
	Name     string         `json:"name"`
	TakenAt  time.Time      `json:"taken_at"`
	StartHz  float64        `json:"start_hz"`
	StopHz   float64        `json:"stop_hz"`
	RBWHz    float64        `json:"rbw_hz"`
	Points   int            `json:"points"`
	Taken    string         `json:"taken"`
	Detector string         `json:"detector"`
	Hold     string         `json:"hold"`
	Standing string         `json:"standing"`
	Reason   string         `json:"standing_reason"`
	Through  store.Through  `json:"through"`
	Picture  []judge.Bucket `json:"picture"`
}

// Emissions is the ruling on one box with all it rests on. Ruling is nil where
// no sweep was taken.
type Emissions struct {
	Keyed
	MeanW        *float64             `json:"mean_w"`
	MeanFrom     string               `json:"mean_from"` // the reading it is from
	Ruling       *judge.Ruling        `json:"ruling"`
	Budget       *judge.LevelBudget   `json:"budget"`
	Sweeps       []SweepView          `json:"sweeps"`
	Ceiling      []judge.CeilingPiece `json:"ceiling"`
	RuleBook     string               `json:"rule_book"`
	BookTitle    string               `json:"book_title"`
	BookHouse    bool                 `json:"book_house"`
	BookRecalled bool                 `json:"book_recalled"`
	Why          string               `json:"why"` // where there is no ruling
}

// pictureBuckets is how many columns a plot has at most.
const pictureBuckets = 1400

// Emissions rules on one box: its sweeps, with the power reading that stands
// for it. Pictures are left out unless asked for.
func (d *Dossier) Emissions(k Keyed, pictures bool) Emissions {
	out := Emissions{
		Keyed: k, Sweeps: []SweepView{}, Ceiling: []judge.CeilingPiece{},
		RuleBook: d.Book.ID, BookTitle: d.Book.Title, BookHouse: d.Book.Kind == "house", BookRecalled: d.Book.Recalled && d.Book.Checked == nil,
	}
	in := judge.Input{
		Book: d.Book, BandwidthHz: d.Rules.BandwidthHz, Rule: decision.Rule(d.Rules.DecisionRule),
		Carrier: rulebook.Carrier{Mode: k.Mode, State: rulebook.Operating},
	}
	meterU := d.power(&out, &in)
	from, to := units.Hertz(0), units.Hertz(0)
	for i := range d.facts.Sweeps {
		row := &d.facts.Sweeps[i]
		if row.Band != k.Band || row.Level != k.Level || row.Mode != string(k.Mode) {
			continue
		}
		out.FrequencyHz = row.FrequencyHz
		s, accuracy, err := d.sweep(row)
		if err != nil {
			out.Why = err.Error()
			continue
		}
		budget := judge.Budget(accuracy, s.Path.LossUncertainty(), meterU)
		if out.Budget == nil || budget.Absolute > out.Budget.Absolute {
			out.Budget = &budget
		}
		in.Sweeps = append(in.Sweeps, s)
		view := SweepView{
			ID: row.ID, Name: row.Name, TakenAt: row.TakenAt, StartHz: row.StartHz, StopHz: row.StopHz, RBWHz: row.RBWHz,
			Points: row.Points, Taken: row.Taken, Detector: row.Detector, Hold: row.Hold, Through: row.Through, Picture: []judge.Bucket{},
		}
		view.Standing, view.Reason = d.standing(row.ID)
		if pictures {
			view.Picture = judge.Picture(s, pictureBuckets)
		}
		out.Sweeps = append(out.Sweeps, view)
		if from == 0 || s.Trace.Start < from {
			from = s.Trace.Start
		}
		to = max(to, s.Trace.Stop)
	}
	if len(in.Sweeps) == 0 {
		if out.Why == "" {
			out.Why = "no sweep was taken"
		}
		return out
	}
	in.Carrier.Frequency = units.Hertz(out.FrequencyHz)
	in.Uncertainty, in.CarrierU = out.Budget.Uncertainty(), units.DB(meterU)
	ruling, err := judge.Judge(in)
	if err != nil {
		out.Why = err.Error()
		return out
	}
	out.Ruling = &ruling
	if ruling.CarrierDBm != nil && to > from {
		c := in.Carrier
		c.MeanW = float64(units.DBm(*ruling.CarrierDBm).Watts())
		c.PEPW = c.MeanW
		out.Ceiling = judge.Ceiling(d.Book, c, from, to)
	}
	return out
}

// power takes the carrier's power from the reading that stands for the box and
// gives the meter's expanded uncertainty in dB.
func (d *Dossier) power(out *Emissions, in *judge.Input) float64 {
	r, _ := d.PowerOf(out.Keyed)
	if r == nil || r.Result.AtConnectorW == nil || !(*r.Result.AtConnectorW > 0) {
		return 0
	}
	out.MeanW, out.MeanFrom = r.Result.AtConnectorW, r.ID
	in.MeanW = r.Result.AtConnectorW
	if r.Entry.PeakW != nil && *r.Entry.PeakW > *in.MeanW {
		in.PEPW = r.Entry.PeakW
	}
	return *r.Result.UncertaintyDB
}

func (d *Dossier) sweep(row *store.Sweep) (judge.Sweep, float64, error) {
	p, err := path.Compile(Elements(row.Through))
	if err != nil {
		return judge.Sweep{}, 0, fmt.Errorf("the path of %s cannot be used: %w", row.Name, err)
	}
	accuracy := 0.0
	for _, k := range row.Through.Kit {
		accuracy = max(accuracy, k.Spec.AccuracyDB)
	}
	standing, _ := d.standing(row.ID)
	return judge.Sweep{
		Name: row.Name,
		Trace: sweep.Trace{
			Start: units.Hertz(row.StartHz), Stop: units.Hertz(row.StopHz), RBW: units.Hertz(row.RBWHz),
			Levels: store.UnpackLevels(row.Levels),
		},
		Path: p, AppliedDB: units.DB(row.Through.AppliedOffsetDB),
		Detector: row.Detector, Hold: row.Hold, Standing: judge.Standing(standing),
	}, accuracy, nil
}
