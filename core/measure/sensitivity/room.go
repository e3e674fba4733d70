package sensitivity

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/strictjson"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Name is the kind's name.
const Name = "sensitivity"

// Room is the sensitivity of a review's receiver.
type Room struct {
	review *measure.Review
	taken  []Measured
}

type kind struct{}

// New is the sensitivity kind of measurement.
func New() measure.Kind { return kind{} }

// Draft is what is typed: what the generator shows, such as 0.22uV or -121dBm, with a
// remark behind a ?; EMF where its volts are those of the open generator. By is sinad or
// by-ear, Width narrow or wide.
type Draft struct {
	Text  string `json:"text"`
	EMF   bool   `json:"emf,omitempty"`
	By    Kind   `json:"by"`
	Width string `json:"width"`
}

// Measured is one level, worked out. Claimed is what it is held against, nil by ear and
// where nothing is claimed; WhyNot says why it does not count.
type Measured struct {
	record.Keyed
	ID        string          `json:"id"`
	TakenAt   time.Time       `json:"taken_at"`
	Text      string          `json:"text"`
	EMF       bool            `json:"emf"`
	By        Kind            `json:"by"`
	Width     string          `json:"width"`
	Remark    string          `json:"remark"`
	Result    *Result         `json:"result"`
	LossDB    *float64        `json:"loss_db"` // between the generator and the connector
	Generator string          `json:"generator"`
	ClaimedUV *float64        `json:"claimed_uv"`
	Counts    bool            `json:"counts"`
	WhyNot    string          `json:"why_not"`
	Void      bool            `json:"void"`
	Outside   bool            `json:"outside"` // of the band claimed
	Standing  string          `json:"standing"`
	Reason    string          `json:"standing_reason"`
	Through   *record.Through `json:"through"`
}

// Ruling is what stands for a band: of each width the level furthest on the wrong side,
// and the one by ear that needs most; order never decides.
type Ruling struct {
	Verdict     decision.Verdict `json:"verdict"`
	Why         string           `json:"why"`
	Standing    []Measured       `json:"standing"`
	ByEar       *Measured        `json:"by_ear"`
	Of          int              `json:"of"`
	Frequencies []float64        `json:"frequencies_hz"`
}

// About implements measure.Kind.
func (kind) About() measure.About {
	return measure.About{
		Name: Name, Title: "Sensitivity", More: true, Purpose: wiring.ForReceive, Part: "receiver",
		Draft: Draft{}, View: Measured{}, Ruling: Ruling{},
	}
}

// Open implements measure.Kind.
func (kind) Open(r *measure.Review) measure.Room {
	d := &Room{review: r}
	for _, m := range r.Of(Name) {
		d.taken = append(d.taken, d.measured(m))
	}
	return d
}

func (d *Room) measured(m *record.Measurement) Measured {
	var in Draft
	err := json.Unmarshal(m.Payload, &in)
	out := Measured{}
	if err == nil {
		out, err = measure.Worked(func() (Measured, error) { return d.work(m.Keyed, in, m.Through) })
	}
	if err != nil { // it was read when it was taken: only newer rules can refuse it
		out = Measured{Keyed: m.Keyed, Text: in.Text, By: in.By, Width: in.Width, Through: m.Through, Void: true, WhyNot: "it cannot be worked out any more: " + err.Error()}
	}
	out.ID, out.TakenAt = m.ID, m.TakenAt
	if out.Standing, out.Reason = d.review.Standing(m.ID); !d.review.Stands(m.ID) {
		out.Counts, out.Void, out.WhyNot = false, false, out.Standing+": "+out.Reason
	}
	return out
}

// work works a level out. Errors are *problem.Error on "text", "by", "width" and "path_id".
func (d *Room) work(k record.Keyed, in Draft, t *record.Through) (Measured, error) {
	out := Measured{Keyed: k, Text: in.Text, EMF: in.EMF, By: in.By, Width: in.Width, Through: t, Counts: true, Standing: record.InForce}
	level, remark, _ := strings.Cut(in.Text, "?")
	out.Remark = strings.TrimSpace(remark)
	shown, err := units.ParseQuantity(strings.TrimSpace(level))
	if err != nil {
		return out, below("text", err)
	}
	if units.CheckShown(shown) != nil {
		return out, problem.New("text", "%s is no level of a generator: give -200 to +80 dBm", strings.TrimSpace(level))
	}
	if in.Width != "narrow" && in.Width != "wide" {
		return out, problem.New("width", "give narrow or wide")
	}
	p, err := wiring.Compile(t)
	if err != nil {
		return out, err
	}
	end := t.Kit[len(t.Kit)-1]
	counted := end.Spec.Counted()
	u, _ := counted.Accuracy()
	out.Generator = end.Name
	ask := Input{
		Shown: shown, EMF: in.EMF, Kind: in.By, Frequency: units.Hertz(k.FrequencyHz), Path: p,
		GeneratorDB: float64(u) * math.Sqrt(3), Rule: decision.Rule(d.review.Rules.DecisionRule),
	}
	if c, ok := d.claim(k, in.Width); ok && in.By == BySINAD {
		ask.Claimed = &c
	}
	result, err := Refer(ask)
	if err != nil {
		return out, below("by", err)
	}
	out.Result = &result
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
	if band, ok := bands.Find(k.Band, d.review.Subject.Region); ok && !band.Contains(ask.Frequency) {
		out.Outside = true
	}
	return out, nil
}

// thermalDBm is k T B at 290 K in 2.4 kHz, the bandwidth of speech in SSB: -173.98 dBm/Hz
// (Boltzmann constant of the SI, 290 K by IEEE Std 145, from memory) and 33.8 dB. Signal and
// noise are alike there in a receiver without noise of its own: none is heard 10 dB out of it.
const thermalDBm = -140.0

func below(field string, err error) error {
	p, ok := err.(*problem.Error)
	if !ok {
		return problem.New(field, "%s", err.Error())
	}
	if len(p.Fields) > 0 && p.Fields[0].Field == "" {
		return problem.New(field, "%s", p.Fields[0].Detail)
	}
	return err
}

// Take implements measure.Room.
func (d *Room) Take(t measure.Taking) (measure.Taken, error) {
	var in Draft
	if err := strictjson.Decode(t.Draft, &in); err != nil {
		return measure.Taken{}, err
	}
	out, err := measure.Worked(func() (Measured, error) { return d.work(t.Keyed, in, t.Through) })
	if err != nil {
		return measure.Taken{}, err
	}
	payload, err := json.Marshal(in)
	return measure.Taken{Keyed: t.Keyed, Payload: payload, View: &out}, err
}

// Show implements measure.Room.
func (d *Room) Show(taken measure.Taken, m *record.Measurement) any {
	out := *taken.View.(*Measured)
	out.ID, out.TakenAt = m.ID, m.TakenAt
	return &out
}

// View implements measure.Room.
func (d *Room) View(id string) any {
	if i := slices.IndexFunc(d.taken, func(m Measured) bool { return m.ID == id }); i >= 0 {
		return &d.taken[i]
	}
	return nil
}

// List implements measure.Room.
func (d *Room) List() any {
	if d.taken == nil {
		return []Measured{}
	}
	return d.taken
}

// Ruling implements measure.Room.
func (d *Room) Ruling(k record.Keyed) any { return d.RulingOf(k) }

// RulingOf is what stands for a band and mode.
func (d *Room) RulingOf(k record.Keyed) Ruling {
	out := Ruling{Standing: []Measured{}, Frequencies: []float64{}}
	why, void := "", false
	for _, m := range d.taken {
		if m.Band != k.Band || m.Mode != k.Mode {
			continue
		}
		out.Of++
		switch {
		case m.Void:
			void, why = true, m.WhyNot
		case !m.Counts:
			why = m.WhyNot
		case m.Outside:
			why = "measured outside the band claimed only"
		case m.By == ByEar:
			if out.ByEar == nil || *m.Result.AtConnectorDBm > *out.ByEar.Result.AtConnectorDBm {
				out.ByEar = &m
			}
			out.measuredAt(m.FrequencyHz)
		default:
			i := slices.IndexFunc(out.Standing, func(s Measured) bool { return s.Width == m.Width })
			if i < 0 {
				out.Standing = append(out.Standing, m)
			} else if *m.Result.AtConnectorDBm > *out.Standing[i].Result.AtConnectorDBm {
				out.Standing[i] = m
			}
			out.measuredAt(m.FrequencyHz)
		}
	}
	out.Verdict, out.Why = out.said(why, void)
	return out
}

func (r *Ruling) measuredAt(hz float64) {
	if !slices.ContainsFunc(r.Frequencies, func(f float64) bool { return claims.SameFrequency(units.Hertz(f), units.Hertz(hz)) }) {
		r.Frequencies = append(r.Frequencies, hz)
	}
}

// said is the worst of what stands.
func (r *Ruling) said(why string, void bool) (decision.Verdict, string) {
	switch {
	case r.Of == 0:
		return decision.NotExamined, "the receiver was not measured"
	case void:
		return decision.Void, why
	case len(r.Standing) == 0 && r.ByEar != nil:
		return decision.NoClaim, figure(*r.ByEar) + ": a quantity of its own, held against no claim"
	case len(r.Standing) == 0:
		return decision.NotCovered, why
	}
	slices.SortFunc(r.Standing, func(a, b Measured) int { return strings.Compare(a.Width, b.Width) })
	verdict, words := decision.NoClaim, []string{}
	for _, m := range r.Standing {
		line := figure(m)
		if v := m.Result.Verdict; v != nil {
			line += ", " + againstClaim(*m.Result.ClaimDeltaDB)
			if rank(*v) > rank(verdict) {
				verdict = *v
			}
		}
		words = append(words, line)
	}
	return verdict, strings.Join(words, "; ")
}

func rank(v decision.Verdict) int {
	return slices.Index([]decision.Verdict{decision.NoClaim, decision.Pass, decision.Inconclusive, decision.Fail}, v)
}

// figure is a level in words: with its unit, and what it is for.
func figure(m Measured) string {
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
