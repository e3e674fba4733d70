package compute

import (
	"fmt"
	"strings"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/origin"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
)

// BookIn names a rule book, or gives one whole.
type BookIn struct {
	RuleBook *string        `json:"rule_book,omitempty"`
	Book     *rulebook.Book `json:"book,omitempty"`
}

// CarrierIn is the transmission whose emissions are limited.
type CarrierIn struct {
	FundamentalHz *float64 `json:"fundamental_hz"`
	MeanPowerW    *float64 `json:"mean_power_w,omitempty"`
	PEPW          *float64 `json:"pep_w,omitempty"`
	Mode          *string  `json:"mode,omitempty"`
	State         *string  `json:"state,omitempty"`
	Service       *string  `json:"service,omitempty"`
	Class         *string  `json:"class,omitempty"`
	Built         *string  `json:"equipment_built,omitempty"`
	Marketed      *string  `json:"equipment_marketed,omitempty"`
	Installed     *string  `json:"equipment_installed,omitempty"`
}

func (e *Engine) book(bad *problem.List, in BookIn) *rulebook.Book {
	switch {
	case in.RuleBook != nil && in.Book != nil:
		bad.Add("book", "give rule_book or book, not both")
	case in.Book != nil:
		bad.AddErr("book", in.Book.Check())
		return in.Book
	case in.RuleBook != nil:
		if b, ok := e.books(*in.RuleBook); ok {
			return b
		}
		bad.Add("rule_book", "unknown rule book %q; known are %s", *in.RuleBook, strings.Join(e.ids, ", "))
	default:
		bad.Add("rule_book", "is missing; give one of %s, or a book", strings.Join(e.ids, ", "))
	}
	return nil
}

func (c CarrierIn) carrier() rulebook.Carrier {
	return rulebook.Carrier{
		Frequency: units.Hertz(or(c.FundamentalHz, 0)),
		Mode:      rulebook.Mode(or(c.Mode, "")),
		State:     rulebook.State(or(c.State, string(rulebook.Operating))),
		Service:   or(c.Service, ""),
		Class:     or(c.Class, ""),
		Built:     or(c.Built, ""),
		Marketed:  or(c.Marketed, ""),
		Installed: or(c.Installed, ""),
	}
}

// LimitIn asks for limits at frequencies.
type LimitIn struct {
	BookIn
	CarrierIn
	FrequencyHz []float64 `json:"frequency_hz"`
}

// LimitOut is the limits with their reasons. Detail says in words what holds
// where no clause applies.
type LimitOut struct {
	Limits   []rulebook.Limit `json:"limits"`
	Applies  bool             `json:"applies"`
	Citation *string          `json:"citation"`
	Detail   *string          `json:"detail"`
}

func (e *Engine) limit(in *LimitIn) (LimitOut, error) {
	var bad problem.List
	b := e.book(&bad, in.BookIn)
	c := in.carrier()
	c.MeanW = or(in.MeanPowerW, 0)
	c.PEPW = or(in.PEPW, c.MeanW)
	bad.AddErr("", c.Check())
	if len(in.FrequencyHz) == 0 {
		bad.Add("frequency_hz", "give at least one frequency")
	}
	for i, f := range in.FrequencyHz {
		if !(f > 0) {
			bad.Add(fmt.Sprintf("frequency_hz[%d]", i), "give more than 0 Hz")
		}
	}
	if err := bad.Err(); err != nil {
		return LimitOut{}, err
	}
	l := b.For(c)
	out := LimitOut{Limits: make([]rulebook.Limit, len(in.FrequencyHz)), Applies: l.Applies}
	for i, f := range in.FrequencyHz {
		out.Limits[i] = l.At(units.Hertz(f))
	}
	if l.Citation != "" {
		out.Citation = &l.Citation
	}
	if l.Detail != "" {
		out.Detail = &l.Detail
	}
	return out, nil
}

// ThroughIn is what a sweep or look was taken through, as part of it. What it
// does not say is taken from the whole input.
type ThroughIn struct {
	Path            *ElementsIn `json:"path,omitempty"`
	LossDB          *float64    `json:"loss_db,omitempty"`
	AppliedOffsetDB *float64    `json:"applied_offset_db,omitempty"`
}

// SweepIn is a trace on an even grid, or as CSV.
type SweepIn struct {
	ThroughIn
	Name     *string   `json:"name,omitempty"`
	StartHz  *float64  `json:"start_hz,omitempty"`
	StopHz   *float64  `json:"stop_hz,omitempty"`
	Levels   []float64 `json:"levels_dbm,omitempty"`
	RBWHz    *float64  `json:"rbw_hz,omitempty"`
	CSV      *string   `json:"csv,omitempty"`
	Detector *string   `json:"detector,omitempty"`
	Hold     *string   `json:"hold,omitempty"`
	// Modulated tells whether the carrier was; not told where left out.
	Modulated *bool   `json:"modulated,omitempty"`
	Standing  *string `json:"standing,omitempty"`
	// Normalised tells that levels are below the sweep's own carrier, which stands at 0.
	Normalised bool `json:"normalised,omitempty"`
}

// LookIn is a range looked at by eye.
type LookIn struct {
	ThroughIn
	Name     *string      `json:"name,omitempty"`
	FromHz   *float64     `json:"from_hz"`
	ToHz     *float64     `json:"to_hz"`
	FloorDBm *float64     `json:"floor_dbm,omitempty"`
	Peaks    []LookPeakIn `json:"peaks,omitempty"`
	Detector *string      `json:"detector,omitempty"`
	Hold     *string      `json:"hold,omitempty"`
	Standing *string      `json:"standing,omitempty"`

	Modulated            *bool    `json:"modulated,omitempty"`
	FrequencyToleranceHz *float64 `json:"frequency_tolerance_hz,omitempty"`
	ReadingStepDB        *float64 `json:"reading_step_db,omitempty"`
}

// LookPeakIn is a line read by eye, in dBm or in dBc as displayed.
type LookPeakIn struct {
	FrequencyHz *float64 `json:"frequency_hz"`
	LevelDBm    *float64 `json:"level_dbm,omitempty"`
	DBc         *float64 `json:"dbc,omitempty"`

	ReadingStepDB *float64 `json:"reading_step_db,omitempty"`
}

// OtherIn is another carrier of the radio, to explain spurs by.
type OtherIn struct {
	Name        *string  `json:"name"`
	FrequencyHz *float64 `json:"frequency_hz"`
}

// JudgeIn is everything a ruling rests on.
type JudgeIn struct {
	BookIn
	CarrierIn
	ThroughIn
	ClaimedW                 *float64  `json:"claimed_w,omitempty"`
	SourceSWR                *float64  `json:"source_swr,omitempty"`
	Others                   []OtherIn `json:"other_carriers,omitempty"`
	EmissionBandwidthHz      *float64  `json:"emission_bandwidth_hz,omitempty"`
	Sweeps                   []SweepIn `json:"sweeps,omitempty"`
	Looks                    []LookIn  `json:"looks,omitempty"`
	ExpandedUncertaintyDB    *float64  `json:"expanded_uncertainty_db,omitempty"`
	ExpandedUncertaintyDBcDB *float64  `json:"expanded_uncertainty_dbc_db,omitempty"`
	CarrierUncertaintyDB     *float64  `json:"carrier_uncertainty_db,omitempty"`
	DecisionRule             *string   `json:"decision_rule,omitempty"`
}

func (e *Engine) judge(in *JudgeIn) (judge.Ruling, error) {
	var bad problem.List
	out := judge.Input{
		Book:        e.book(&bad, in.BookIn),
		Carrier:     in.carrier(),
		MeanW:       in.MeanPowerW,
		PEPW:        in.PEPW,
		ClaimedW:    in.ClaimedW,
		SourceSWR:   in.SourceSWR,
		BandwidthHz: or(in.EmissionBandwidthHz, 0),
		NoneGiven:   in.ExpandedUncertaintyDB == nil,
		Rule:        decision.Rule(or(in.DecisionRule, string(decision.Guarded))),
	}
	u := or(in.ExpandedUncertaintyDB, 0)
	out.Uncertainty = rulebook.Uncertainty{
		Absolute: units.DB(u),
		Relative: units.DB(or(in.ExpandedUncertaintyDBcDB, u)),
	}
	out.CarrierU = units.DB(or(in.CarrierUncertaintyDB, u))
	for i, o := range in.Others {
		out.Others = append(out.Others, origin.Named{Name: or(o.Name, "another band"), Hz: units.Hertz(number(&bad, fmt.Sprintf("other_carriers[%d].frequency_hz", i), o.FrequencyHz, "of Hz"))})
	}
	common, commonDB := in.ThroughIn.through(&bad, "", nil, 0)
	for i := range in.Sweeps {
		out.Sweeps = append(out.Sweeps, in.Sweeps[i].sweep(&bad, fmt.Sprintf("sweeps[%d]", i), common, commonDB))
	}
	for i := range in.Looks {
		out.Looks = append(out.Looks, in.Looks[i].look(&bad, fmt.Sprintf("looks[%d]", i), common, commonDB))
	}
	bad.AddErr("", out.Check())
	if err := bad.Err(); err != nil {
		return judge.Ruling{}, err
	}
	return judge.Judge(out)
}

func (t ThroughIn) through(bad *problem.List, field string, otherwise *path.Path, otherwiseDB units.DB) (*path.Path, units.DB) {
	applied := units.DB(or(t.AppliedOffsetDB, float64(otherwiseDB)))
	if t.AppliedOffsetDB != nil && (applied < -1000 || applied > 1000) {
		bad.Add(problem.Join(field, "applied_offset_db"), "give -1000 to 1000 dB")
	}
	switch {
	case t.Path != nil && t.LossDB != nil:
		bad.Add(problem.Join(field, "loss_db"), "give path or loss_db, not both")
	case t.Path != nil:
		return compilePath(bad, problem.Join(field, "path"), t.Path), applied
	case t.LossDB != nil:
		if *t.LossDB < 0 || *t.LossDB > 1000 {
			bad.Add(problem.Join(field, "loss_db"), "give a loss of 0 to 1000 dB")
		}
		return path.FlatLoss(units.DB(*t.LossDB)), applied
	case otherwise != nil:
		return otherwise, applied
	}
	return &path.Path{}, applied
}

func (s *SweepIn) sweep(bad *problem.List, field string, common *path.Path, commonDB units.DB) judge.Sweep {
	p, applied := s.through(bad, field, common, commonDB)
	out := judge.Sweep{
		Name: or(s.Name, ""), Path: p, AppliedDB: applied,
		Detector: or(s.Detector, ""), Hold: or(s.Hold, ""), Modulated: s.Modulated, Standing: judge.Standing(or(s.Standing, "")), Normalised: s.Normalised,
	}
	gridGiven := s.StartHz != nil || s.StopHz != nil || s.Levels != nil
	switch {
	case s.CSV != nil && gridGiven:
		bad.Add(field+".csv", "give csv, or start_hz, stop_hz and levels_dbm")
	case s.CSV != nil:
		read, err := sweep.ParseCSV([]byte(*s.CSV))
		bad.AddErr(field, err)
		out.Trace, out.Normalised = read.Trace, out.Normalised || read.Normalised
		if err != nil {
			out.Trace = sweep.Trace{Start: 0, Stop: 1, Levels: []float64{0, 0}} // refused above
		}
	default:
		out.Trace = sweep.Trace{
			Start:  units.Hertz(number(bad, field+".start_hz", s.StartHz, "of Hz")),
			Stop:   units.Hertz(or(s.StopHz, or(s.StartHz, 0)+1)),
			Levels: s.Levels,
		}
		number(bad, field+".stop_hz", s.StopHz, "of Hz")
	}
	if s.RBWHz != nil {
		if out.Trace.RBW = units.Hertz(*s.RBWHz); !(*s.RBWHz > 0) {
			bad.Add(field+".rbw_hz", "give more than 0 Hz")
			out.Trace.RBW = 0
		}
	}
	return out
}

func (l *LookIn) look(bad *problem.List, field string, common *path.Path, commonDB units.DB) judge.Look {
	p, applied := l.through(bad, field, common, commonDB)
	out := judge.Look{
		Name: or(l.Name, ""), Path: p, AppliedDB: applied, FloorDBm: l.FloorDBm,
		From:     units.Hertz(number(bad, field+".from_hz", l.FromHz, "of Hz")),
		To:       units.Hertz(or(l.ToHz, or(l.FromHz, 0)+1)),
		Detector: or(l.Detector, ""), Hold: or(l.Hold, ""), Modulated: l.Modulated,
		Tolerance: units.Hertz(or(l.FrequencyToleranceHz, 0)),
		Standing:  judge.Standing(or(l.Standing, "")),
		Step:      units.DB(or(l.ReadingStepDB, 0)),
	}
	number(bad, field+".to_hz", l.ToHz, "of Hz")
	for k, peak := range l.Peaks {
		f := out.From
		if peak.FrequencyHz == nil {
			bad.Add(fmt.Sprintf("%s.peaks[%d].frequency_hz", field, k), "is missing; give a number of Hz")
		} else {
			f = units.Hertz(*peak.FrequencyHz)
		}
		out.Peaks = append(out.Peaks, judge.LookPeak{Frequency: f, LevelDBm: peak.LevelDBm, DBc: peak.DBc, Step: units.DB(or(peak.ReadingStepDB, 0))})
	}
	return out
}
