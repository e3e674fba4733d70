package compute

import (
	"fmt"

	"talloak/core/diagnose"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/runsheet"
	"talloak/core/units"
)

// PlanIn is what of a radio is to be measured, and through which paths.
type PlanIn struct {
	Bands      []PlanBandIn `json:"bands"`
	SupplyV    []float64    `json:"supply_v,omitempty"`
	Paths      []PlanPathIn `json:"paths"`
	KeyS       *float64     `json:"key_s,omitempty"`
	RestS      *float64     `json:"rest_s,omitempty"`
	BatteryMAh *float64     `json:"battery_mah,omitempty"`
	TxA        *float64     `json:"tx_a,omitempty"`
}

// PlanBandIn is a band: every channel is keyed at every level in every mode.
type PlanBandIn struct {
	Name     string          `json:"name"`
	Channels []PlanChannelIn `json:"channels"`
	Levels   []PlanLevelIn   `json:"levels"`
	Modes    []rulebook.Mode `json:"modes"`
}

// PlanChannelIn is a frequency with its name.
type PlanChannelIn struct {
	Name        string   `json:"name"`
	FrequencyHz *float64 `json:"frequency_hz"`
}

// PlanLevelIn is a level with its claim; null where nothing is claimed.
type PlanLevelIn struct {
	Name     string   `json:"name"`
	ClaimedW *float64 `json:"claimed_w"`
}

// PlanPathIn is a wiring with what it is for.
type PlanPathIn struct {
	Name     string           `json:"name"`
	Elements []path.Element   `json:"elements"`
	Kind     runsheet.Purpose `json:"kind"`
	RigS     *float64         `json:"rig_s,omitempty"`
}

func plan(in *PlanIn) (runsheet.Sheet, error) {
	var bad problem.List
	r := runsheet.Request{SupplyV: in.SupplyV, KeyS: or(in.KeyS, runsheet.KeyS), RestS: or(in.RestS, runsheet.RestS), TxA: in.TxA}
	for i, b := range in.Bands {
		band := runsheet.Band{Name: b.Name, Modes: b.Modes}
		for k, c := range b.Channels {
			f := fmt.Sprintf("bands[%d].channels[%d].frequency_hz", i, k)
			hz := number(&bad, f, c.FrequencyHz, "of Hz")
			if c.FrequencyHz == nil {
				hz = 1 // its absence is said already
			}
			band.Channels = append(band.Channels, runsheet.Channel{Name: c.Name, Frequency: units.Hertz(hz)})
		}
		for k, l := range b.Levels {
			if l.ClaimedW != nil && !(*l.ClaimedW > 0) {
				bad.Add(fmt.Sprintf("bands[%d].levels[%d].claimed_w", i, k), "give a power above 0 W, or null where nothing is claimed")
			}
			band.Levels = append(band.Levels, runsheet.Level{Name: l.Name, ClaimedW: or(l.ClaimedW, 0)})
		}
		r.Bands = append(r.Bands, band)
	}
	for i, p := range in.Paths {
		field := fmt.Sprintf("paths[%d]", i)
		if p.Elements == nil {
			bad.Add(field+".elements", "is missing; give the parts from the antenna connector on")
		}
		whole, err := path.Compile(p.Elements)
		bad.AddErr(field, err)
		r.Ways = append(r.Ways, runsheet.Way{Name: p.Name, Kind: p.Kind, RigS: or(p.RigS, 0), Suits: runsheet.Through(whole, p.Kind)})
	}
	if in.BatteryMAh != nil && !(*in.BatteryMAh > 0) {
		bad.Add("battery_mah", "give a charge above 0 mAh")
	}
	bad.AddErr("", r.Check())
	if err := bad.Err(); err != nil {
		return runsheet.Sheet{}, err
	}
	return runsheet.Make(r), nil
}

// DiagnoseIn is the same key-ups read through two wirings.
type DiagnoseIn struct {
	Pairs          []PairIn `json:"pairs"`
	ExpectedLossDB *float64 `json:"expected_loss_db,omitempty"`
	UncertaintyDB  *float64 `json:"uncertainty_db"`
}

// PairIn is one of them; a is nearer the radio.
type PairIn struct {
	AW *float64 `json:"a_w"`
	BW *float64 `json:"b_w"`
}

func diagnosePairs(in *DiagnoseIn) (diagnose.Difference, error) {
	var bad problem.List
	q := diagnose.Question{ExpectedDB: in.ExpectedLossDB, UncertaintyDB: number(&bad, "uncertainty_db", in.UncertaintyDB, "of dB: within how many figures are held to agree")}
	for i, p := range in.Pairs {
		pair := diagnose.Pair{AW: number(&bad, fmt.Sprintf("pairs[%d].a_w", i), p.AW, "in W"), BW: number(&bad, fmt.Sprintf("pairs[%d].b_w", i), p.BW, "in W")}
		if p.AW == nil || p.BW == nil {
			pair = diagnose.Pair{AW: 1, BW: 1} // its absence is said already
		}
		q.Pairs = append(q.Pairs, pair)
	}
	bad.AddErr("", q.Check())
	if err := bad.Err(); err != nil {
		return diagnose.Difference{}, err
	}
	return diagnose.Compare(q)
}
