package compute

import (
	"talloak/core/decision"
	"talloak/core/measure/deviation"
	"talloak/core/measure/occupied"
	"talloak/core/problem"
	"talloak/core/sweep"
)

// DeviationIn is a deviation in one of its three ways.
type DeviationIn struct {
	PlusHz         *float64   `json:"plus_hz,omitempty"`
	MinusHz        *float64   `json:"minus_hz,omitempty"`
	ToneHz         *float64   `json:"tone_hz,omitempty"`
	Null           *int       `json:"null,omitempty"`
	LinesDBm       []*float64 `json:"lines_dbm,omitempty"`
	PctReading     *float64   `json:"pct_reading,omitempty"`
	ResolutionHz   *float64   `json:"resolution_hz,omitempty"`
	TonePct        *float64   `json:"tone_pct,omitempty"`
	NullDepthDB    *float64   `json:"null_depth_db,omitempty"`
	LineDB         *float64   `json:"line_db,omitempty"`
	HighestAudioHz *float64   `json:"highest_audio_hz,omitempty"`
	AtMostHz       *float64   `json:"at_most_hz,omitempty"`
	AtLeastHz      *float64   `json:"at_least_hz,omitempty"`
	DecisionRule   *string    `json:"decision_rule,omitempty"`
}

func measureDeviation(in *DeviationIn) (deviation.Result, error) {
	return deviation.Measure(deviation.Input{
		Plus: in.PlusHz, Minus: in.MinusHz, Tone: in.ToneHz, Null: in.Null, Lines: in.LinesDBm, PctReading: in.PctReading, ResolutionHz: in.ResolutionHz,
		TonePct: in.TonePct, NullDepthDB: in.NullDepthDB, LineDB: in.LineDB, HighestAudioHz: or(in.HighestAudioHz, deviation.SpeechHz),
		AtMostHz: in.AtMostHz, AtLeastHz: in.AtLeastHz, Rule: ruleOf(in.DecisionRule),
	})
}

func ruleOf(told *string) decision.Rule { return decision.Rule(or(told, string(decision.Guarded))) }

// OccupiedSweepIn is a sweep over an emission.
type OccupiedSweepIn struct {
	StartHz *float64  `json:"start_hz,omitempty"`
	StopHz  *float64  `json:"stop_hz,omitempty"`
	Levels  []float64 `json:"levels_dbm,omitempty"`
	CSV     *string   `json:"csv,omitempty"`
	RBWHz   *float64  `json:"rbw_hz,omitempty"`
}

// OccupiedIn is an emission whose bandwidth is asked for.
type OccupiedIn struct {
	Sweep        *OccupiedSweepIn `json:"sweep"`
	Percent      *float64         `json:"percent,omitempty"`
	BelowDB      *float64         `json:"below_db,omitempty"`
	AtMostHz     *float64         `json:"at_most_hz,omitempty"`
	DecisionRule *string          `json:"decision_rule,omitempty"`
}

func occupiedBandwidth(in *OccupiedIn) (occupied.Result, error) {
	var bad problem.List
	ask := occupied.Input{Percent: or(in.Percent, 99), BelowDB: or(in.BelowDB, 26), AtMostHz: in.AtMostHz, Rule: ruleOf(in.DecisionRule)}
	switch s := in.Sweep; {
	case s == nil:
		bad.Add("sweep", "is missing; give a sweep over the emission")
	case s.CSV != nil && (s.StartHz != nil || s.StopHz != nil || s.Levels != nil):
		bad.Add("sweep.csv", "give csv, or start_hz, stop_hz and levels_dbm")
	case s.CSV != nil:
		read, err := sweep.ParseCSVIn([]byte(*s.CSV), "Hz")
		bad.AddErr("sweep", err)
		if err == nil && read.Trace.Uneven != nil {
			bad.Add("sweep.csv", "the frequencies are not evenly spaced: a bandwidth needs a sweep")
		}
		ask.StartHz, ask.StopHz, ask.Levels, ask.RBWHz = float64(read.Trace.Start), float64(read.Trace.Stop), read.Trace.Levels, s.RBWHz
		if ask.RBWHz == nil && read.Trace.RBW > 0 {
			ask.RBWHz = ptr(float64(read.Trace.RBW))
		}
	default:
		ask.StartHz, ask.StopHz = number(&bad, "sweep.start_hz", s.StartHz, "of Hz"), number(&bad, "sweep.stop_hz", s.StopHz, "of Hz")
		ask.Levels, ask.RBWHz = s.Levels, s.RBWHz
	}
	if err := bad.Err(); err != nil {
		return occupied.Result{}, err
	}
	return occupied.Measure(ask)
}
