package dc

import (
	"fmt"
	"math"

	"talloak/core/problem"
	"talloak/core/say"
	"talloak/core/units"
)

// Efficiency is the share of DC power that a radio turns into RF, where its
// current is not known: most lie between 35 and 55 % (common practice, no source).
const Efficiency = 0.4

// Level is a power level of the radio, in a mode where that is told; PEP says that W
// is a peak. A is the current drawn at it, where it was read.
type Level struct {
	Name string   `json:"name" required:"false"`
	W    float64  `json:"w"`
	A    *float64 `json:"a,omitempty"`
	Mode string   `json:"mode,omitempty"`
	PEP  bool     `json:"pep,omitempty"`
}

// Wiring is a supply set to a voltage, with its current limit and the resistance
// of both leads, and what the radio's maker allows. Nil is not known; leads that are
// not known are taken as none, and that is said.
type Wiring struct {
	SetV       float64  `json:"set_v"`
	LimitA     *float64 `json:"limit_a,omitempty"`
	LeadOhm    *float64 `json:"lead_ohm,omitempty"`
	RadioMinV  *float64 `json:"radio_min_v,omitempty"`
	RadioMaxV  *float64 `json:"radio_max_v,omitempty"`
	Efficiency *float64 `json:"efficiency,omitempty"`
}

// Row is one level worked out. RadioV is nil where the leads cannot carry it, and
// where the supply limits: its volts then fall as far as the radio lets them.
type Row struct {
	Level  string   `json:"level"`
	W      float64  `json:"w"`
	A      *float64 `json:"a"`
	Known  bool     `json:"a_known"`
	DropV  *float64 `json:"drop_v"`
	RadioV *float64 `json:"radio_v"`
}

// Finding is something to know before keying; a danger blocks it.
type Finding struct {
	Severity say.Severity `json:"severity" enum:"danger,caution"`
	say.Said
}

// Side is the DC side of a wiring at each level.
type Side struct {
	Rows     []Row     `json:"rows"`
	Safe     bool      `json:"safe"`
	Problems []Finding `json:"problems"`
}

// Work follows the supply to the radio. With the current I known, the radio has
// V = set - I R. Else it draws P / (efficiency V), and V solves
// V^2 - set V + P R / efficiency = 0. Errors are *problem.Error.
func Work(w Wiring, levels []Level) (Side, error) {
	if err := w.check(levels); err != nil {
		return Side{}, err
	}
	out := Side{Rows: []Row{}, Safe: true, Problems: []Finding{}}
	find := func(severity say.Severity, s say.Said) {
		out.Problems = append(out.Problems, Finding{severity, s})
		out.Safe = out.Safe && severity != say.Danger
	}
	if w.RadioMaxV != nil && w.SetV > *w.RadioMaxV {
		find(say.Danger, say.OverVoltage(w.SetV, *w.RadioMaxV))
	}
	if w.LeadOhm == nil {
		find(say.Caution, say.LeadsUnknown(w.SetV))
	}
	for _, l := range levels {
		row := Row{Level: l.Name, W: l.W, A: l.A, Known: l.A != nil}
		amps, volts, ok := w.solve(l)
		if !ok {
			find(say.Caution, say.Leads(l.Name, w.leads(), units.Watts(l.W), w.SetV))
			out.Rows = append(out.Rows, row)
			continue
		}
		if w.LimitA != nil && amps > *w.LimitA {
			drop := *w.LimitA * w.leads()
			row.A, row.DropV = w.LimitA, &drop
			find(say.Caution, say.CurrentLimit(l.Name, amps, *w.LimitA))
			out.Rows = append(out.Rows, row)
			continue
		}
		drop := amps * w.leads()
		row.A, row.DropV, row.RadioV = &amps, &drop, &volts
		if w.RadioMinV != nil && volts < *w.RadioMinV {
			find(say.Caution, say.UnderVoltage(l.Name, volts, *w.RadioMinV))
		}
		out.Rows = append(out.Rows, row)
	}
	return out, nil
}

// leads is the resistance of the leads in ohm, 0 where it is not known.
func (w Wiring) leads() float64 {
	if w.LeadOhm == nil {
		return 0
	}
	return *w.LeadOhm
}

func (w Wiring) solve(l Level) (amps, volts float64, ok bool) {
	if l.A != nil {
		volts = w.SetV - *l.A*w.leads()
		return *l.A, volts, volts > 0
	}
	efficiency := Efficiency
	if w.Efficiency != nil {
		efficiency = *w.Efficiency
	}
	input := l.W / efficiency
	root := w.SetV*w.SetV - 4*input*w.leads()
	if root < 0 {
		return 0, 0, false
	}
	volts = (w.SetV + math.Sqrt(root)) / 2
	return input / volts, volts, true
}

func (w Wiring) check(levels []Level) error {
	var bad problem.List
	if !(w.SetV > 0) {
		bad.Add("set_v", "give what the supply is set to in V, above 0")
	}
	if w.LimitA != nil && !(*w.LimitA > 0) {
		bad.Add("limit_a", "give the current limit in A, above 0")
	}
	if w.leads() < 0 {
		bad.Add("lead_ohm", "give the resistance of both leads in ohm, 0 or more")
	}
	if w.Efficiency != nil && !(*w.Efficiency > 0 && *w.Efficiency <= 1) {
		bad.Add("efficiency", "give the share of DC power turned into RF, above 0 and up to 1")
	}
	if len(levels) == 0 {
		bad.Add("levels", "give at least one level")
	}
	for i, l := range levels {
		if !(l.W > 0) {
			bad.Add(fmt.Sprintf("levels[%d].w", i), "give a power above 0 W")
		}
		if l.A != nil && *l.A < 0 {
			bad.Add(fmt.Sprintf("levels[%d].a", i), "give 0 A or more")
		}
	}
	return bad.Err()
}
