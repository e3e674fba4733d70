package deviation

import (
	"fmt"
	"slices"

	"talloak/core/audio"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/problem"
	"talloak/core/rulebook"
)

// Name is the kind's name.
const Name = "deviation"

// Draft is a deviation as it is typed (see Read), at which setting of the radio, of what it was
// modulated with, and how well it was read; nil where that is not told.
type Draft struct {
	Text      string   `json:"text"`
	Width     string   `json:"width" enum:"narrow,wide"`
	Signal    string   `json:"signal" enum:"voice-peak,tone,sub-audible"`
	WithinPct *float64 `json:"within_pct,omitempty"` // of a meter's reading, or of the tone
	LineDB    *float64 `json:"line_db,omitempty"`    // of a line's level
}

// Measured is a deviation. Result is nil where it cannot be worked out any more.
type Measured struct {
	simple.Figure
	Width     string   `json:"width"`
	Signal    string   `json:"signal"`
	WithinPct *float64 `json:"within_pct"`
	LineDB    *float64 `json:"line_db"`
	PlusHz    *float64 `json:"plus_hz"`
	MinusHz   *float64 `json:"minus_hz"`
	ToneHz    *float64 `json:"tone_hz"`
	ClaimedHz *float64 `json:"claimed_hz"`
	Doubt     string   `json:"doubt"`    // why it passes no claim that it does not fail
	UsualHz   *float64 `json:"usual_hz"` // the most that the channel is made for; nil where it is not of the whole signal
	Over      string   `json:"over"`     // what the channel is made for; empty where it is not
	Result    *Result  `json:"result"`
}

// Channel is what a radio set to a width is made for, in Hz: the usual deviation in a channel of a spacing
// (common practice, no source), and the tones at which the carrier vanishes by it, the first null first.
type Channel struct {
	Width     string    `json:"width"`
	UsualHz   float64   `json:"usual_hz"`
	SpacingHz float64   `json:"spacing_hz"`
	NullsHz   []float64 `json:"nulls_hz"`
}

// Channels are those there are, 12.5 kHz and 25 kHz.
var Channels = []Channel{channel("narrow", 2500, 12500), channel("wide", 5000, 25000)}

func channel(width string, usual, spacing float64) Channel {
	out := Channel{Width: width, UsualHz: usual, SpacingHz: spacing}
	for n := 1; n <= 3; n++ {
		out.NullsHz = append(out.NullsHz, usual/audio.J0Zero(n))
	}
	return out
}

// channelOf is that of a width; nil where there is none.
func channelOf(width string) *Channel {
	if i := slices.IndexFunc(Channels, func(c Channel) bool { return c.Width == width }); i >= 0 {
		return &Channels[i]
	}
	return nil
}

// signals are what a radio may be modulated with, in words.
var signals = map[string]string{"voice-peak": "voice peak", "tone": "tone", "sub-audible": "sub-audible tone"}

// narrowest is the least claim that is one of the wide setting, in Hz (common practice, no source).
const narrowest = 3500

// Ruling is what stands for a band.
type Ruling = simple.Ruling[Measured]

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Deviation", More: true, Part: "deviation", Minutes: 4},
		Offered:  measure.Offers(Channels),
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(m *Measured) string { return m.Width + " " + m.Signal },
		Further:  func(a, b *Measured) bool { return a.Result.DeviationHz > b.Result.DeviationHz },
		Value: func(m *Measured) (v, u float64, ok bool) { // a voice is another each time
			return m.Result.DeviationHz, m.Result.UncertaintyHz, m.Signal == "tone"
		},
		Words: words,
		Says: map[decision.Verdict]string{
			decision.Fail: "Its deviation is over its claim", decision.Inconclusive: "Its deviation is too close to call", decision.Pass: "Its deviation keeps to its claim",
			decision.SoFar: "Its deviation keeps to its claim so far", decision.NoClaim: "Its deviation was measured, with no claim to be held against",
		},
		Asks: asks,
		None: "the deviation was not measured",
		Section: measure.Section{
			Title: "Deviation",
			Lines: []string{
				"Peak deviation, the larger of both sides. At the carrier's n-th null it is the tone times the n-th zero of the Bessel function J0; lines are fitted by the Bessel functions of their order. Bandwidth by Carson: twice the sum of deviation and highest audio frequency. ±: k = 2.",
				"A claim is the most it may be: speech passes by it that was loud enough, a tone only fails by it. Of several the largest stands, of each width and signal; a sub-audible tone is a part of the signal and held against no claim. Usual at most: 2.5 kHz in a channel of 12.5 kHz, 5 kHz in one of 25 kHz.",
			},
			Columns: []string{"Typed", "Of", "Deviation", "±, k = 2", "Plus less minus", "Tone", "Bandwidth", "Read within", "Claimed"},
			Numbers: []int{2, 3, 4, 5, 6, 7, 8},
		},
		Row: row,
	}}
}

// asks are claims of a band in FM.
func asks(r *measure.Review, c claims.Cell) []string {
	if c.Mode != rulebook.FM && c.Mode != rulebook.Digital {
		return nil
	}
	return r.Said(claims.Deviation, c.Band.Name)
}

func work(r *measure.Review, in Draft, m *Measured) error {
	var bad problem.List
	channel := channelOf(in.Width)
	if channel == nil {
		bad.Add("width", "give narrow or wide")
	}
	if signals[in.Signal] == "" {
		bad.Add("signal", "give voice-peak, tone or sub-audible")
	}
	if v := in.WithinPct; v != nil && !(*v >= 0 && *v <= 100) {
		bad.Add("within_pct", "give how well it was read, 0 to 100 %%")
	}
	if v := in.LineDB; v != nil && !(*v >= 0 && *v <= 10) {
		bad.Add("line_db", "give how well a line was read, 0 to 10 dB")
	}
	if m.Mode != rulebook.FM && m.Mode != rulebook.Digital {
		bad.Add("mode", "%s is not modulated in frequency: choose a band and mode in FM", m.Mode)
	}
	ask, err := Read(m.Text)
	if err != nil {
		bad.AddErr("", err)
	}
	if err := bad.Err(); err != nil {
		return err
	}
	m.Width, m.Signal, m.WithinPct, m.LineDB = in.Width, in.Signal, in.WithinPct, in.LineDB
	m.PlusHz, m.MinusHz, m.ToneHz = ask.Plus, ask.Minus, ask.Tone
	if in.Signal != "sub-audible" {
		m.UsualHz, m.ClaimedHz = &channel.UsualHz, claimed(r.Others(claims.Deviation), m.Band, in.Width)
	}
	told := in.WithinPct
	ask.HighestAudioHz, ask.AtMostHz, ask.Rule = SpeechHz, m.ClaimedHz, decision.Rule(r.Rules.DecisionRule)
	switch {
	case ask.Lines != nil:
		told, ask.TonePct, ask.LineDB = in.LineDB, in.WithinPct, in.LineDB
	case ask.Null != nil:
		ask.TonePct = in.WithinPct
		if told == nil {
			told = ask.NullDepthDB
		}
	default:
		ask.PctReading = in.WithinPct
	}
	out, err := Measure(ask)
	if err != nil {
		return err
	}
	m.Result, m.Verdict = &out, out.Verdict
	if m.UsualHz != nil && out.DeviationHz > *m.UsualHz {
		m.Over = fmt.Sprintf("Over what a channel of %g kHz is made for: it may be heard in the next one. Is the radio set to %s?", channel.SpacingHz/1e3, channel.Width)
	}
	if m.Verdict == nil {
		return nil
	}
	// Where nothing is told of how well it was read, or the lines fit no tone, no claim can be held.
	open := told == nil
	for _, f := range out.Findings {
		open = open || f.Code == "fit-poor"
	}
	// That it stays under the most it may be is seen only where it was driven that far.
	if passes := *m.Verdict == decision.Pass; passes && in.Signal == "tone" {
		m.Doubt = "a tone shows what it was set to: whether speech goes further is not seen"
	} else if passes && out.DeviationHz < driven**m.ClaimedHz {
		m.Doubt = "it is under half of what is claimed: was it spoken loudly enough, and is the radio set to " + in.Width + "?"
	}
	if open || m.Doubt != "" {
		v := decision.Inconclusive
		m.Verdict = &v
	}
	return nil
}

// driven is the part of what is claimed that loud speech reaches on any radio (common practice, no source).
const driven = 0.5

// claimed is the most that is claimed of a band at a width: what names the band goes before what
// names none, and of several the strictest. Nil where nothing is.
func claimed(all []claims.Other, band, width string) *float64 {
	var of []claims.Other
	for _, c := range all {
		if (c.Value >= narrowest) == (width == "wide") {
			of = append(of, c)
		}
	}
	return claims.Strictest(of, band)
}

func words(m *Measured) string {
	out := fmt.Sprintf("%.2f ± %.2f kHz, %s, %s", m.Result.DeviationHz/1e3, m.Result.UncertaintyHz/1e3, m.Width, signals[m.Signal])
	if m.ClaimedHz != nil {
		out += fmt.Sprintf(", of %g kHz claimed", *m.ClaimedHz/1e3)
	}
	if m.Over != "" {
		out += fmt.Sprintf(", over the %g kHz usual in a channel of %g kHz", *m.UsualHz/1e3, channelOf(m.Width).SpacingHz/1e3)
	}
	for _, f := range m.Result.Findings {
		out += "; " + f.Detail
	}
	if m.Doubt != "" {
		out += "; " + m.Doubt
	}
	return out
}

func row(m *Measured) []string {
	r := m.Result
	asymmetry, tone, within, claim := "", "", "not told", "no claim"
	if r.AsymmetryHz != nil {
		asymmetry = fmt.Sprintf("%+.2f kHz", *r.AsymmetryHz/1e3)
	}
	if m.ToneHz != nil {
		tone = fmt.Sprintf("%g Hz", *m.ToneHz)
	}
	if m.WithinPct != nil {
		within = fmt.Sprintf("%g %%", *m.WithinPct)
	}
	if m.LineDB != nil {
		within = fmt.Sprintf("%g dB a line", *m.LineDB)
	}
	if m.ClaimedHz != nil {
		claim = fmt.Sprintf("%g kHz", *m.ClaimedHz/1e3)
	}
	return []string{m.Text, m.Width + ", " + signals[m.Signal], fmt.Sprintf("%.2f kHz", r.DeviationHz/1e3), fmt.Sprintf("± %.2f kHz", r.UncertaintyHz/1e3), asymmetry, tone, fmt.Sprintf("%.1f kHz", r.CarsonHz/1e3), within, claim}
}
