package battery

import (
	"fmt"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/problem"
)

// Name is the kind's name.
const Name = "battery"

// Draft is a run-down: lines as they are typed, or a log whose name the text is, with the unit of
// its times (empty: minutes of what is typed, and what the file says); the voltage at which it is
// empty, in V; how well charge is counted, in percent; and what is drawn in A and for what share of
// time, each transmitting/receiving/standing by. What is not told is empty.
type Draft struct {
	Text      string   `json:"text"`
	File      string   `json:"file,omitempty"`
	Unit      string   `json:"unit,omitempty" enum:",s,min,h"`
	CutoffV   *float64 `json:"cutoff_v,omitempty"`
	WithinPct *float64 `json:"within_pct,omitempty"`
	Draw      string   `json:"draw,omitempty"`
	Share     string   `json:"share,omitempty"`
}

// Measured is a run-down. Result is nil where it cannot be worked out any more. Curve is what is
// drawn of it.
type Measured struct {
	simple.Figure
	CutoffV   *float64 `json:"cutoff_v"`
	WithinPct *float64 `json:"within_pct"`
	Draw      string   `json:"draw"`
	Share     string   `json:"share"`
	LabelMAh  *float64 `json:"label_mah"`
	Doubt     string   `json:"doubt"` // why it holds no claim
	Points    int      `json:"points"`
	Curve     []Point  `json:"curve"`
	Result    *Result  `json:"result"`
}

const (
	mostDrawn = 300
	mostFile  = 2 << 20 // bytes
	// A log whose charge is more than so many times the label, or less than such a part of it, is one
	// whose times or currents are in another unit, sooner than a battery (common practice, no source).
	mostOver, leastOf = 2.0, 0.1
	// widest is the part of a run-down that may lie between two points of it (common practice, no source).
	widest = 0.2
)

// Ruling is what stands for the radio.
type Ruling = simple.Ruling[Measured]

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Battery", More: true, Whole: true, Part: "battery", Minutes: 120},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(*Measured) string { return "" },
		Further:  further,
		Words:    words,
		Says: map[decision.Verdict]string{
			decision.Fail: "Its battery gives less than its label", decision.Inconclusive: "Its battery is too close to call", decision.Pass: "Its battery gives what its label says",
			decision.NoClaim: "Its battery was run down, with no label to be held against",
		},
		Asks: simple.Claimed(claims.Battery),
		None: "the battery was not run down",
		Section: measure.Section{
			Title: "Battery",
			Lines: []string{
				"Charge and energy by trapezoids over the log, volts and amps each straight between points, up to the voltage at which it is empty. One that ends before that is a lower bound: it may pass the label and never fails it.",
				"It was taken to be full at the beginning. Of several that reached that voltage the one that gave least stands. A battery gives less when it is cold, when it is drawn on hard, and as it ages.",
			},
			Columns: []string{"Log", "Points", "Charge", "Energy", "Ended", "After", "Counted within", "Label", "Of the label", "Hours at the duty"},
			Numbers: []int{1, 2, 3, 5, 6, 7, 8, 9},
		},
		Row: row,
	}}
}

// further tells which of two stands: one that was emptied before one that was not; of those that
// were the one that gave least, of the others the one that gave most.
func further(a, b *Measured) bool {
	empty := a.Result.EndedBy == Cutoff
	if empty != (b.Result.EndedBy == Cutoff) {
		return empty
	}
	return (a.Result.MAh < b.Result.MAh) == empty && a.Result.MAh != b.Result.MAh
}

func work(r *measure.Review, in Draft, m *Measured) error {
	var bad problem.List
	if v := in.WithinPct; v != nil && !(*v >= 0 && *v <= 50) {
		bad.Add("within_pct", "give how well charge is counted, 0 to 50 %%")
	}
	duty, err := readDuty(in.Draw, in.Share)
	bad.AddErr("", err)
	points, err := read(in, m.Text)
	bad.AddErr("", err)
	if err := bad.Err(); err != nil {
		return err
	}
	m.CutoffV, m.WithinPct, m.Draw, m.Share, m.Points, m.Curve = in.CutoffV, in.WithinPct, strings.TrimSpace(in.Draw), strings.TrimSpace(in.Share), len(points), drawn(points)
	if m.Draw != "" && m.Share == "" {
		m.Share = usualShare
	}
	m.LabelMAh = claims.Strictest(r.Others(claims.Battery), "")
	ask := Input{Points: points, CutoffV: in.CutoffV, LabelMAh: m.LabelMAh, Duty: duty, Rule: decision.Rule(r.Rules.DecisionRule)}
	if in.WithinPct != nil {
		ask.AccuracyPct = *in.WithinPct
	}
	out, err := RunDown(ask)
	if err != nil { // of what was typed, whatever the arithmetic calls it
		var named problem.List
		named.AddErr("", err)
		for _, f := range named.Fields() {
			field := "text"
			switch {
			case strings.HasPrefix(f.Field, "cutoff"):
				field = "cutoff_v"
			case strings.HasPrefix(f.Field, "duty"):
				field = "draw"
			case in.File != "":
				field = "file"
			}
			bad.Add(field, "%s", f.Detail)
		}
		return bad.Err()
	}
	m.Result, m.Verdict = &out, out.Verdict
	if m.LabelMAh == nil {
		return nil
	}
	gap := longest(points, out.EndedS)
	switch of := out.MAh / *m.LabelMAh; {
	case of > mostOver:
		m.Doubt = fmt.Sprintf("%.0f mAh is %.1f times the label: is the unit of the times right, and are the amps those of the battery?", out.MAh, of)
	case of < leastOf && out.EndedBy == Cutoff:
		m.Doubt = fmt.Sprintf("%.0f mAh is %.1f %% of the label: is the unit of the times right, was it charged, and is the label of this battery?", out.MAh, 100*of)
	case gap > widest:
		m.Doubt = fmt.Sprintf("%.0f %% of it lies between two points: what was drawn there is not known", 100*gap)
	case in.WithinPct == nil:
		m.Doubt = "how well charge was counted is not told"
	}
	if m.Doubt != "" {
		open := decision.Inconclusive
		m.Verdict = &open
	}
	return nil
}

func read(in Draft, text string) ([]Point, error) {
	unit := in.Unit
	if unit != "" && unitS[unit] == 0 {
		return nil, problem.New("unit", "give s, min or h")
	}
	if in.File == "" {
		if err := simple.FileGone(text); err != nil {
			return nil, err
		}
		if unit == "" {
			unit = "min"
		}
		return ReadLines(text, unit)
	}
	if len(in.File) > mostFile {
		return nil, problem.New("file", "give a file of at most 2 MB")
	}
	return ReadFile(in.File, unit)
}

// longest is the longest stretch without a point, as a part of the whole up to its end.
func longest(points []Point, end float64) float64 {
	most := 0.0
	for i := 1; i < len(points) && points[i-1].TS < end; i++ {
		most = max(most, min(points[i].TS, end)-points[i-1].TS)
	}
	return most / (end - points[0].TS)
}

// drawn are points that are drawn, both ends among them.
func drawn(all []Point) []Point {
	step := (len(all)-1)/mostDrawn + 1
	var out []Point
	for i := 0; i < len(all); i += step {
		out = append(out, all[i])
	}
	if last := all[len(all)-1]; out[len(out)-1] != last {
		out = append(out, last)
	}
	return out
}

func words(m *Measured) string {
	r := m.Result
	out := fmt.Sprintf("%.0f mAh, %.2f Wh", r.MAh, r.Wh)
	if r.EndedBy == Cutoff {
		out += fmt.Sprintf(" down to %g V", *m.CutoffV)
	} else {
		out = "at least " + out + ", not run down to its end"
	}
	if r.PctOfLabel != nil {
		out += fmt.Sprintf(", %.0f %% of the %g mAh on its label", *r.PctOfLabel, *m.LabelMAh)
	}
	if r.HoursAtDuty != nil {
		out += fmt.Sprintf("; %.1f h at %s %% of the time transmitting, receiving, standing by (%s A)", *r.HoursAtDuty, m.Share, m.Draw)
	}
	if m.Doubt != "" {
		out += "; " + m.Doubt
	}
	return out
}

func row(m *Measured) []string {
	r := m.Result
	ended, within, label, of, hours := "with the log", "not told", "no claim", "", ""
	if r.EndedBy == Cutoff {
		ended = fmt.Sprintf("at %g V", *m.CutoffV)
	}
	if m.WithinPct != nil {
		within = fmt.Sprintf("%g %%", *m.WithinPct)
	}
	if m.LabelMAh != nil {
		label, of = fmt.Sprintf("%g mAh", *m.LabelMAh), fmt.Sprintf("%.0f %%", *r.PctOfLabel)
	}
	if r.HoursAtDuty != nil {
		hours = fmt.Sprintf("%.1f h at %s", *r.HoursAtDuty, m.Share)
	}
	name := m.Text
	if long := []rune(name); len(long) > mostShown {
		name = string(long[:mostShown]) + "…"
	}
	return []string{name, fmt.Sprint(m.Points), fmt.Sprintf("%.0f mAh", r.MAh), fmt.Sprintf("%.2f Wh", r.Wh), ended, fmt.Sprintf("%.0f min", (r.EndedS-m.Curve[0].TS)/60), within, label, of, hours}
}

// mostShown is how much of a long line stands in a table, in characters.
const mostShown = 60
