package compute

import (
	"fmt"

	"talloak/core/measure/antenna"
	"talloak/core/measure/battery"
	"talloak/core/measure/frequency"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/touchstone"
	"talloak/core/units"
)

// FrequencyErrorIn is a frequency, or an error of one, as it was read.
type FrequencyErrorIn struct {
	Text         *string  `json:"text"`
	NominalHz    *float64 `json:"nominal_hz"`
	ReferencePPM *float64 `json:"reference_ppm,omitempty"`
	ResolutionHz *float64 `json:"resolution_hz,omitempty"`
	ClaimedPPM   *float64 `json:"claimed_ppm,omitempty"`
	ClaimedHz    *float64 `json:"claimed_hz,omitempty"`
	DecisionRule *string  `json:"decision_rule,omitempty"`
}

func frequencyError(in *FrequencyErrorIn) (frequency.Result, error) {
	var bad problem.List
	if in.Text == nil {
		bad.Add("text", "is missing; give what the counter shows, such as 145.500312 or +312Hz")
	}
	nominal := number(&bad, "nominal_hz", in.NominalHz, "of Hz")
	out, err := frequency.Measure(frequency.Input{
		Text: or(in.Text, "1"), Nominal: units.Hertz(nominal), ReferencePPM: or(in.ReferencePPM, 0), ResolutionHz: or(in.ResolutionHz, 0),
		ClaimedPPM: in.ClaimedPPM, ClaimedHz: in.ClaimedHz, Rule: ruleOf(in.DecisionRule),
	})
	bad.AddErr("", err)
	return out, bad.Err()
}

// AntennaIn is a one-port file, and the band that the antenna is for.
type AntennaIn struct {
	Text        *string     `json:"text"`
	FromHz      *float64    `json:"from_hz,omitempty"`
	ToHz        *float64    `json:"to_hz,omitempty"`
	SWR         *float64    `json:"swr,omitempty"`
	CableLossDB *float64    `json:"cable_loss_db,omitempty"`
	Path        *ElementsIn `json:"path,omitempty"`
	AtHz        []float64   `json:"at_hz,omitempty"`
}

func measureAntenna(in *AntennaIn) (antenna.Result, error) {
	var bad problem.List
	ask := antenna.Input{SWR: or(in.SWR, 2), AtHz: in.AtHz}
	if in.Text == nil {
		bad.Add("text", "is missing; give a one-port Touchstone text")
	} else {
		n, err := touchstone.Parse(*in.Text, 0)
		bad.AddErr("", err)
		ask.Network = n
	}
	switch {
	case in.FromHz != nil && in.ToHz != nil:
		ask.Band = &[2]float64{*in.FromHz, *in.ToHz}
	case in.FromHz != nil:
		bad.Add("to_hz", "give both ends of the band, or neither")
	case in.ToHz != nil:
		bad.Add("from_hz", "give both ends of the band, or neither")
	}
	var through *path.Path
	switch {
	case in.Path != nil && in.CableLossDB != nil:
		bad.Add("cable_loss_db", "give path or cable_loss_db, not both")
	case in.Path != nil && len(in.Path.Elements) > 0:
		through = compilePath(&bad, "path", in.Path)
	case in.CableLossDB != nil && !(*in.CableLossDB >= 0 && *in.CableLossDB <= 1000):
		bad.Add("cable_loss_db", "give a loss of 0 to 1000 dB")
	case in.CableLossDB != nil && *in.CableLossDB > 0:
		through = path.FlatLoss(units.DB(*in.CableLossDB))
	}
	if err := bad.Err(); err != nil {
		return antenna.Result{}, err
	}
	if through != nil {
		ask.Cable = through.LossAt
	}
	return antenna.Measure(ask)
}

// BatteryIn is a run-down of a battery, and its label.
type BatteryIn struct {
	Points       []BatteryPointIn `json:"points"`
	CutoffV      *float64         `json:"cutoff_v,omitempty"`
	LabelMAh     *float64         `json:"label_mah,omitempty"`
	LabelWh      *float64         `json:"label_wh,omitempty"`
	TolerancePct *float64         `json:"tolerance_pct,omitempty"`
	AccuracyPct  *float64         `json:"accuracy_pct,omitempty"`
	Duty         *DutyIn          `json:"duty,omitempty"`
	DecisionRule *string          `json:"decision_rule,omitempty"`
}

// BatteryPointIn is a moment of a run-down.
type BatteryPointIn struct {
	TS *float64 `json:"t_s"`
	V  *float64 `json:"v"`
	A  *float64 `json:"a"`
}

// DutyIn is what is drawn while transmitting, receiving and standing by, and the share of each.
type DutyIn struct {
	TxA      *float64  `json:"tx_a"`
	RxA      *float64  `json:"rx_a"`
	StandbyA *float64  `json:"standby_a"`
	Share    []float64 `json:"share"`
}

// usualAccuracyPct is how well a log of volts and amperes counts where nobody told, in percent (common practice, no source).
const usualAccuracyPct = 1

func runDown(in *BatteryIn) (battery.Result, error) {
	var bad problem.List
	ask := battery.Input{
		CutoffV: in.CutoffV, LabelMAh: in.LabelMAh, LabelWh: in.LabelWh, TolerancePct: or(in.TolerancePct, 0), AccuracyPct: or(in.AccuracyPct, usualAccuracyPct),
		Rule: ruleOf(in.DecisionRule),
	}
	for i, p := range in.Points {
		field := fmt.Sprintf("points[%d].", i)
		ask.Points = append(ask.Points, battery.Point{TS: number(&bad, field+"t_s", p.TS, "of s"), V: number(&bad, field+"v", p.V, "of V"), A: number(&bad, field+"a", p.A, "of A")})
	}
	if d := in.Duty; d != nil {
		ask.Duty = &battery.Duty{TxA: number(&bad, "duty.tx_a", d.TxA, "of A"), RxA: number(&bad, "duty.rx_a", d.RxA, "of A"), StandbyA: number(&bad, "duty.standby_a", d.StandbyA, "of A"), Share: [3]float64{5, 5, 90}}
		switch len(d.Share) {
		case 0:
		case 3:
			ask.Duty.Share = [3]float64(d.Share)
		default:
			bad.Add("duty.share", "give three shares of time: transmitting, receiving, standing by")
		}
	}
	if err := bad.Err(); err != nil {
		return battery.Result{}, err
	}
	return battery.RunDown(ask)
}
