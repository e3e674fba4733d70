package sensitivity

import (
	"fmt"
	"math"

	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Name is the kind's name.
const Name = "sensitivity"

// Draft is what is typed: what the generator shows, such as 0.22uV or -121dBm, with a
// remark behind a ?; EMF where its volts are those of the open generator. By is sinad or
// by-ear, Width narrow or wide.
type Draft struct {
	Text  string `json:"text"`
	EMF   bool   `json:"emf,omitempty"`
	By    By     `json:"by"`
	Width string `json:"width"`
}

// Measured is one level, worked out. ClaimedUV is what it is held against, nil by ear and where nothing
// is claimed. Result is nil where it cannot be worked out any more.
type Measured struct {
	simple.Figure
	EMF       bool     `json:"emf"`
	By        By       `json:"by"`
	Width     string   `json:"width"`
	Result    *Result  `json:"result"`
	LossDB    *float64 `json:"loss_db"` // between the generator and the connector
	Generator string   `json:"generator"`
	ClaimedUV *float64 `json:"claimed_uv"`
}

// Ruling is what stands for a band.
type Ruling = simple.Ruling[Measured]

// New is the sensitivity kind of measurement.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Sensitivity", More: true, Receives: true, Purpose: wiring.ForReceive, Part: "receiver", Minutes: 4},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: (*Measured).quantity,
		Further:  func(a, b *Measured) bool { return *a.Result.AtConnectorDBm > *b.Result.AtConnectorDBm },
		Value: func(m *Measured) (v, u float64, ok bool) { // by ear it comes out otherwise each time
			if m.By == ByEar || m.Result.UncertaintyDB == nil {
				return 0, 0, false
			}
			return *m.Result.AtConnectorDBm, *m.Result.UncertaintyDB, true
		},
		Words: words,
		Says: map[decision.Verdict]string{
			decision.Fail: "Sensitivity is short of its claim", decision.Inconclusive: "Sensitivity is too close to call", decision.Pass: "Sensitivity makes its claim",
			decision.SoFar: "Sensitivity makes its claim so far", decision.NoClaim: "Sensitivity was measured, with no claim to be held against",
		},
		None:    "the receiver was not measured",
		Missing: missing,
		Asks:    asks,
		Claim:   claimSaid,
		Way:     way,
		Section: measure.Section{
			Title: "Sensitivity of the receiver",
			Lines: []string{
				"Level at the receiver's connector = level of the generator − loss of the path. µV are into a load of 50 ohm (PD); a generator that shows EMF shows twice as much.",
				"By ear is another quantity than 12 dB SINAD: the two are never compared, and no claim is held against it.",
			},
			Columns: []string{"For", "Generator", "Loss", "At the connector", "±, k = 2", "Claimed"},
			Numbers: []int{1, 2, 3, 4, 5},
		},
		Row: row,
	}}
}

// work works a level out. Errors are *problem.Error on "text", "by", "width" and "path_id".
func work(r *measure.Review, in Draft, out *Measured) error {
	out.EMF, out.By, out.Width = in.EMF, in.By, in.Width
	shown, err := units.ParseQuantity(out.Text)
	if err != nil {
		return err
	}
	if units.CheckShown(shown) != nil {
		return problem.New("text", "%s is no level of a generator: give -200 to +80 dBm", out.Text)
	}
	if in.By != BySINAD && in.By != ByEar {
		return problem.New("by", "give sinad or by-ear")
	}
	if in.Width != "narrow" && in.Width != "wide" {
		return problem.New("width", "give narrow or wide")
	}
	p, err := wiring.Compile(out.Through)
	if err != nil {
		return err
	}
	end := out.Through.Kit[len(out.Through.Kit)-1]
	counted := end.Spec.Counted()
	u, _ := counted.Accuracy()
	out.Generator = end.Name
	ask := Input{
		Shown: shown, EMF: in.EMF, Kind: in.By, Frequency: units.Hertz(out.FrequencyHz), Path: p,
		GeneratorDB: float64(u) * math.Sqrt(3), Rule: decision.Rule(r.Rules.DecisionRule),
	}
	if c, ok := claim(r, out.Band, in.Width); ok && in.By == BySINAD {
		ask.Claimed = &c
	}
	result, err := Refer(ask)
	if err != nil {
		return err
	}
	out.Result, out.Verdict = &result, result.Verdict
	if loss, ok := p.LossAt(ask.Frequency); ok {
		db := float64(loss)
		out.LossDB = &db
	}
	if ask.Claimed != nil {
		uv := ask.Claimed.Value * 1e6
		if w, err := ask.Claimed.Power(); err == nil {
			uv = 1e6 * math.Sqrt(float64(w)*units.Impedance)
		}
		out.ClaimedUV = &uv
	}
	if r := counted.Levels; r != nil && (result.GeneratorDBm < r.FromDBm || result.GeneratorDBm > r.ToDBm) {
		out.Counts, out.WhyNot = false, fmt.Sprintf("%s gives %g to %g dBm, not %.1f dBm", end.Name, r.FromDBm, r.ToDBm, result.GeneratorDBm)
	}
	if at := result.AtConnectorDBm; at != nil && *at < thermalDBm {
		out.Counts, out.WhyNot = false, fmt.Sprintf("%.1f dBm at the connector is less than the noise of a resistor at room temperature in the bandwidth of speech, %.0f dBm: no receiver hears that; is the level what arrives, or is the signal leaking around the path?", *at, thermalDBm)
	}
	if result.AtConnectorDBm == nil {
		out.Counts, out.WhyNot = false, fmt.Sprintf("the loss of the path is not known at %s", ask.Frequency)
	}
	return nil
}

// thermalDBm is k T B at 290 K in 2.4 kHz, the bandwidth of speech in SSB: -173.98 dBm/Hz
// (Boltzmann constant of the SI, 290 K by IEEE Std 145, from memory) and 33.8 dB. Signal and
// noise are alike there in a receiver without noise of its own: none is heard 10 dB out of it.
const thermalDBm = -140.0

// words are a level with what it is for, and what it is beside its claim.
func words(m *Measured) string {
	out := figure(m)
	switch {
	case m.By == ByEar:
		out += ": a quantity of its own, held against no claim"
	case m.Result.Verdict != nil:
		out += ", " + againstClaim(*m.Result.ClaimDeltaDB)
	}
	return out
}

// figure is a level in words: with its unit, and what it is for.
func figure(m *Measured) string {
	return fmt.Sprintf("%s for %s", units.Microvolts(*m.Result.AtConnectorUV), m.quantity())
}

// againstClaim says what a level is beside its claim, in dB: more is worse.
func againstClaim(delta float64) string {
	if delta < 0 {
		return fmt.Sprintf("%.1f dB less than claimed", -delta)
	}
	return fmt.Sprintf("%.1f dB more than claimed", delta)
}

func (m *Measured) quantity() string {
	if m.By == ByEar {
		return "a signal just heard, by ear"
	}
	return "12 dB SINAD, " + m.Width
}

// Path is the way of the signal as it is called.
func (m *Measured) Path() *path.Path {
	p, err := wiring.Compile(m.Through)
	if err != nil {
		return nil
	}
	return p
}
