package power

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Draft is a key-up line as it is typed, and what stands beside it. ScaleW is the scale of
// the meter it was read on, where that is not the one of the path. Refused is a key-up at
// which the radio did not transmit; Check a look at the set-up without a power: into a
// "short" or an "open" end, or an "swr" alone. DisplayW is what the radio's own display
// says; Settings what else was set on it. TargetW is what it was adjusted to, AtMost that
// it was to be turned down to no more than that. Trusted is another radio keyed first.
type Draft struct {
	Text     string   `json:"text"`
	ScaleW   *float64 `json:"scale_w,omitempty"`
	Refused  bool     `json:"refused,omitempty"`
	Check    string   `json:"check,omitempty"`
	DisplayW *float64 `json:"display_w,omitempty"`
	Settings string   `json:"settings,omitempty"`
	TargetW  *float64 `json:"target_w,omitempty"`
	AtMost   bool     `json:"at_most,omitempty"`
	Trusted  *Trusted `json:"trusted,omitempty"`

	// By are the instruments that figures of the text were read by themselves.
	By []record.By `json:"by,omitempty"`
}

// Trusted is a radio that is trusted, keyed to know what the meter shows today: its name and
// the power it is known to give.
type Trusted struct {
	Name string  `json:"name"`
	W    float64 `json:"w"`
}

// The checks of a set-up.
const (
	Short = "short"
	Open  = "open"
	SWR   = "swr"
)

// maxText is the longest line, in bytes.
const maxText = 500

// mostBy is how often an instrument is read for one line.
const mostBy = 40

// readBy are the instruments whose figures still stand in the line as they were read.
func (in Draft) readBy() []record.By {
	out := []record.By{}
	words := strings.Fields(in.Text)
	for _, b := range in.By {
		if said := strings.Fields(b.Said); len(said) > 0 && slices.Contains(words, said[0]) {
			out = append(out, b)
		}
	}
	return out
}

func (in Draft) check() error {
	var bad problem.List
	if len(in.Text) > maxText {
		bad.Add("text", "give at most %d characters", maxText)
	}
	if len(in.Settings) > maxText {
		bad.Add("settings", "give at most %d characters", maxText)
	}
	for _, v := range []struct {
		field string
		w     *float64
	}{{"scale_w", in.ScaleW}, {"display_w", in.DisplayW}, {"target_w", in.TargetW}} {
		switch {
		case v.w == nil:
		case !(*v.w > 0):
			bad.Add(v.field, "give a power above 0 W")
		case units.CheckW(*v.w) != nil:
			bad.Add(v.field, "%s", units.CheckW(*v.w))
		}
	}
	if in.AtMost && in.TargetW == nil {
		bad.Add("target_w", "give the power it was to be turned down to, in W")
	}
	if len(in.By) > mostBy {
		bad.Add("by", "give at most %d", mostBy)
	}
	switch in.Check {
	case "", Short, Open, SWR:
	default:
		bad.Add("check", "give short, open or swr")
	}
	if t := in.Trusted; t != nil {
		if strings.TrimSpace(t.Name) == "" {
			bad.Add("trusted.name", "say which radio it was")
		}
		if !(t.W > 0) || units.CheckW(t.W) != nil {
			bad.Add("trusted.w", "give the power it is known to give, above 0 W")
		}
	}
	return bad.Err()
}

// line is a draft, its text read once. What has no power in it need not begin with one.
type line struct {
	Draft
	entry units.Entry
	err   error
}

func readLine(in Draft) line {
	l := line{Draft: in}
	if l.err = in.check(); l.err != nil {
		return l
	}
	bare := strings.TrimSpace(in.Text)
	if (in.Refused || in.Check != "") && (bare == "" || strings.HasPrefix(bare, "?")) {
		l.entry.Readings = []units.Typed{}
		if remark := strings.TrimSpace(strings.TrimPrefix(bare, "?")); remark != "" {
			l.entry.Remark = &remark
		}
		return l
	}
	if l.entry, l.err = units.ParseEntry(in.Text); l.err == nil {
		l.err = l.entry.Check()
	}
	if e := l.entry; l.err == nil && len(e.Readings) == 0 && e.PeakW == nil && e.SWR != nil && !in.Refused && in.Check == "" {
		l.Check = SWR
	}
	if l.err == nil && (l.Refused || l.Check != "") && (len(l.entry.Readings) > 0 || l.entry.PeakW != nil) {
		l.err = problem.New("text", "a power was read, so it is no %s: log it as a reading", l.what())
	}
	return l
}

func readPayload(payload json.RawMessage) line {
	if known, ok := lately.Load(string(payload)); ok {
		return known.(line)
	}
	var in Draft
	if err := json.Unmarshal(payload, &in); err != nil {
		in.Text = "" // the reading is void, with the reason
	}
	l := readLine(in)
	if reads.Add(1) > mostRead {
		lately.Clear()
		reads.Store(0)
	}
	lately.Store(string(payload), l)
	return l
}

// What was read of payloads lately, by their text: with every reading of a review all of its
// others are looked at again. Nothing of a line is changed once it was read.
var (
	lately sync.Map
	reads  atomic.Int64
)

// mostRead is how many are kept, some 10 MB.
const mostRead = 20000

func (in Draft) what() string {
	switch {
	case in.Refused:
		return "refusal of the radio"
	case in.Check == SWR:
		return "check of the SWR alone"
	}
	return "check of the set-up"
}

// noPower is why a draft without a power is kept and held against nothing; empty for a
// reading.
func (in Draft) noPower() string {
	switch {
	case in.Refused:
		return "the radio refused to transmit"
	case in.Check == SWR:
		return "an SWR alone: kept, it says nothing of a power"
	case in.Check != "":
		return fmt.Sprintf("a check with the end %s: kept, it says nothing of the radio's power", map[string]string{Short: "shorted", Open: "open"}[in.Check])
	case in.Trusted != nil:
		return fmt.Sprintf("another radio, %s, keyed to know the meter", in.Trusted.Name)
	}
	return ""
}

// on is the path with the meter on the scale it was read on.
func (in Draft) on(t *record.Through) (*record.Through, error) {
	if in.ScaleW == nil {
		return t, nil
	}
	out, err := wiring.OnScale(t, *in.ScaleW)
	if err != nil {
		return t, problem.New("scale_w", "%s", err.Error())
	}
	return out, nil
}
