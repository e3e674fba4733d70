package supply

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/power"
	"talloak/core/measure/simple"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/units"
)

// Name is the kind's name.
const Name = "supply"

// Draft is a draw as it is typed (see read), and how well the ammeter reads, in percent; nil where
// that is not told.
type Draft struct {
	Text      string   `json:"text"`
	WithinPct *float64 `json:"within_pct,omitempty"`
}

// Measured is a draw in A, of a level (State is then empty) or in a state. Volts and W are nil where
// nobody read them; W is what was typed, else what stands of the power at the level, which FromPower
// tells. HeatW and Efficiency need both.
type Measured struct {
	simple.Figure
	State         string   `json:"state"` // receiving, standby or off
	At            string   `json:"at"`    // the level
	WithinPct     *float64 `json:"within_pct"`
	Amps          float64  `json:"amps"`
	UncertaintyA  float64  `json:"expanded_uncertainty_a"`
	Volts         *float64 `json:"volts"`
	W             *float64 `json:"w"`
	FromPower     bool     `json:"from_power"`
	InputW        *float64 `json:"input_w"`
	HeatW         *float64 `json:"heat_w"`
	EfficiencyPct *float64 `json:"efficiency_percent"`
	ClaimedA      *float64 `json:"claimed_a"`
	Doubt         string   `json:"doubt"` // why it passes no claim that it does not fail
}

// Ruling is what stands for a band.
type Ruling = simple.Ruling[Measured]

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Supply", More: true, Part: "supply", Minutes: 3},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(m *Measured) string { return m.State + m.At },
		Further:  func(a, b *Measured) bool { return a.Amps > b.Amps },
		Value:    func(m *Measured) (v, u float64, ok bool) { return m.Amps, m.UncertaintyA, m.WithinPct != nil },
		Words:    words,
		Says: map[decision.Verdict]string{
			decision.Fail: "It draws more than claimed", decision.Inconclusive: "What it draws is too close to call", decision.Pass: "It draws no more than claimed",
			decision.SoFar: "It draws no more than claimed so far", decision.NoClaim: "What it draws was measured, with no claim to be held against",
		},
		None:    "what it draws was not measured",
		Asks:    simple.Claimed(claims.Current),
		Missing: missing,
		Section: measure.Section{
			Title: "Supply",
			Lines: []string{
				"Efficiency = power at the connector / (volts × amps); what is left becomes heat. ±: the ammeter and the last digit read, k = 2.",
				"A claim of a current is the most it may be while it transmits. Of several the highest stands, of each level and state. Draws that were noted with a power stand with the power.",
			},
			Columns: []string{"Typed", "Of", "Current", "±, k = 2", "Volts", "From the supply", "Power", "Efficiency", "Heat", "Claimed"},
			Numbers: []int{2, 3, 4, 5, 6, 7, 8, 9},
		},
		Row: row,
	}}
}

// sags is the part of its usual voltage under which a radio's draw is not that of its usual voltage,
// either way (common practice, no source).
const sags = 0.05

func work(r *measure.Review, in Draft, m *Measured) error {
	var bad problem.List
	if v := in.WithinPct; v != nil && !(*v >= 0 && *v <= 50) {
		bad.Add("within_pct", "give how well the ammeter reads, 0 to 50 %%")
	}
	got, err := read(m.Text, m.Remark)
	bad.AddErr("", err)
	at := record.Keyed{Band: m.Band, Level: got.level, Mode: m.Mode, FrequencyHz: m.FrequencyHz}
	if err == nil && got.level != "" && r.Cell(at) == nil {
		bad.Add("text", "%s has no level %s: give one of %s, or receiving, standby or off", m.Band, got.level, strings.Join(levels(r, m), ", "))
	}
	if err := bad.Err(); err != nil {
		return err
	}
	m.State, m.At, m.WithinPct, m.Amps, m.Volts, m.W = got.state, got.level, in.WithinPct, *got.amps, got.volts, got.watts
	relative := 0.0
	if in.WithinPct != nil {
		relative = *in.WithinPct / 100 * m.Amps / math.Sqrt(3)
	}
	m.UncertaintyA = 2 * math.Hypot(relative, got.lastA/(2*math.Sqrt(3)))
	if m.At != "" && m.W == nil {
		if stands := power.Of(r).PowerOf(at).Reading; stands != nil && stands.MeasuredW != nil && stands.Counts && stands.Peak == nil { // a mean current goes with no peak
			m.W, m.FromPower = stands.MeasuredW, true
		}
	}
	if m.Volts != nil {
		dc := *m.Volts * m.Amps
		m.InputW = &dc
		if m.W != nil && dc > 0 {
			share, heat := 100**m.W/dc, dc-*m.W
			m.EfficiencyPct, m.HeatW = &share, &heat
			if share > 100 {
				m.Counts, m.WhyNot = false, fmt.Sprintf("%s out of %.3g W from the supply cannot be: check volts, amps and the power", units.Watts(*m.W), dc)
			}
		}
	}
	if m.At == "" {
		return nil
	}
	if m.ClaimedA = claimed(r.Others(claims.Current), m.Band, m.At); m.ClaimedA == nil {
		return nil
	}
	v := decision.Rule(r.Rules.DecisionRule).Hold(m.Amps, m.UncertaintyA, nil, m.ClaimedA)
	usual := r.Subject.SupplyV
	switch {
	case in.WithinPct == nil:
		m.Doubt = "how well the ammeter reads is not told"
	case usual != nil && m.Volts != nil && math.Abs(*m.Volts-*usual) > sags**usual:
		m.Doubt = fmt.Sprintf("it was read at %g V, the claim is of %g V", *m.Volts, *usual)
	case v == decision.Pass && usual != nil && m.Volts == nil:
		m.Doubt = fmt.Sprintf("its volts are not told: under the %g V of the claim it may draw less", *usual)
	case v == decision.Pass && m.W != nil && *m.W < lazy*claimedW(r, at):
		m.Doubt = fmt.Sprintf("it gave %s of the %s claimed of this level: at its full power it draws more", units.Watts(*m.W), units.Watts(claimedW(r, at)))
	}
	if m.Doubt != "" {
		v = decision.Inconclusive
	}
	m.Verdict = &v
	return nil
}

// lazy is the part of the power claimed under which a draw says nothing of what it takes to give it
// (common practice, no source).
const lazy = 0.5

func claimedW(r *measure.Review, at record.Keyed) float64 { return r.Cell(at).Claimed }

// claimed is the most that is claimed at a level of a band while it transmits: what names both goes
// before what names the level, that before what names the band, and of several the strictest counts.
func claimed(all []claims.Other, band, level string) *float64 {
	for _, of := range [][2]string{{band, level}, {"", level}, {band, ""}, {"", ""}} {
		var least *float64
		for i := range all {
			if all[i].Band == of[0] && all[i].Level == of[1] && (least == nil || all[i].Value < *least) {
				least = &all[i].Value
			}
		}
		if least != nil {
			return least
		}
	}
	return nil
}

// missing are the levels of which a current is claimed and none was read; of a claim that names no
// level the one of the most power.
func missing(r *measure.Review, k record.Keyed, standing []Measured) []string {
	var out []string
	all := r.Others(claims.Current)
	top, most := "", -1.0
	for _, c := range r.Cells {
		if c.Band.Name != k.Band || c.Mode != k.Mode || claimed(all, k.Band, c.Level) == nil || slices.ContainsFunc(standing, func(m Measured) bool { return m.At == c.Level }) {
			continue
		}
		if slices.ContainsFunc(all, func(o claims.Other) bool { return o.Level == c.Level && (o.Band == "" || o.Band == k.Band) }) {
			out = append(out, c.Level)
		}
	}
	for _, c := range r.Cells {
		if c.Band.Name == k.Band && c.Mode == k.Mode && c.Claimed > most {
			top, most = c.Level, c.Claimed
		}
	}
	if claimed(all, k.Band, top) != nil && !slices.Contains(out, top) && !slices.ContainsFunc(standing, func(m Measured) bool { return m.At == top }) {
		out = append(out, top)
	}
	return out
}

func levels(r *measure.Review, m *Measured) []string {
	var out []string
	for _, c := range r.Cells {
		if c.Band.Name == m.Band && c.Mode == m.Mode && !slices.Contains(out, c.Level) {
			out = append(out, c.Level)
		}
	}
	return out
}

func words(m *Measured) string {
	out := fmt.Sprintf("%s %s", m.State+m.At, Amps(m.Amps))
	if m.ClaimedA != nil {
		out += fmt.Sprintf(" ± %s of %g A claimed", Amps(m.UncertaintyA), *m.ClaimedA)
	}
	if m.EfficiencyPct != nil {
		out += fmt.Sprintf(", %.0f %% efficient", *m.EfficiencyPct)
	}
	if m.Doubt != "" {
		out += "; " + m.Doubt
	}
	return out
}

// Amps is a current to three significant figures, in A, or in mA under a tenth of one.
func Amps(a float64) string {
	if math.Abs(a) < 0.1 {
		return fmt.Sprintf("%.3g mA", 1e3*a)
	}
	return fmt.Sprintf("%.3g A", a)
}

func row(m *Measured) []string {
	out := []string{m.Text, m.State + m.At, Amps(m.Amps), "± " + Amps(m.UncertaintyA), "", "", "", "", "", "no claim"}
	if m.Volts != nil {
		out[4], out[5] = fmt.Sprintf("%.4g V", *m.Volts), fmt.Sprintf("%.3g W", *m.InputW)
	}
	if m.W != nil {
		out[6] = units.Watts(*m.W).String()
		if m.FromPower {
			out[6] += ", as measured"
		}
	}
	if m.EfficiencyPct != nil {
		out[7], out[8] = fmt.Sprintf("%.0f %%", *m.EfficiencyPct), fmt.Sprintf("%.3g W", *m.HeatW)
	}
	if m.ClaimedA != nil {
		out[9] = fmt.Sprintf("%g A", *m.ClaimedA)
	}
	return out
}
