package power

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"talloak/core/diagnose"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/rf"
	"talloak/core/say"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Study is power along something else than the boxes of the board: frequency, supply, time;
// the same key-ups through two wirings; and what the levels say together.
type Study struct {
	Frequency []Curve     `json:"frequency"`
	Supply    []Curve     `json:"supply"`
	Time      []Curve     `json:"time"`
	Drawn     []Drawn     `json:"drawn"`
	Pairs     []Paired    `json:"pairs"`
	Findings  []say.Said  `json:"findings"`
	Kept      []KeptCheck `json:"kept"` // refusals, checks, adjustments, displays, trusted radios
}

// Drawn is what a key-up drew from the supply, with the share of it that is radiated.
type Drawn struct {
	ID         string  `json:"id"`
	Name       string  `json:"name"`
	Hz         float64 `json:"frequency_hz"`
	W          float64 `json:"w"`
	Volts      float64 `json:"volts"`
	Amps       float64 `json:"amps"`
	Efficiency float64 `json:"efficiency_percent"`
}

// Curve is the readings of a level along an axis: Hz, V, or s from the first one on.
type Curve struct {
	Name   string  `json:"name"`
	Band   string  `json:"band"`
	Level  string  `json:"level"`
	Points []Point `json:"points"`
}

// Point is a reading on a curve. W is nil where the radio refused to transmit.
type Point struct {
	X          float64  `json:"x"`
	W          *float64 `json:"w"`
	LowW       *float64 `json:"low_w"`
	HighW      *float64 `json:"high_w"`
	Amps       *float64 `json:"amps"`
	Efficiency *float64 `json:"efficiency_percent"`
	Outside    bool     `json:"outside"` // of the band claimed
	Refused    bool     `json:"refused"`
	Gap        bool     `json:"gap"` // it is not joined to the one before it
	ID         string   `json:"id"`
}

// Paired is the same key-ups through two wirings, nearer the radio first, each power at the
// connector; with what explains the difference, and how much coax would take as much.
type Paired struct {
	Hz   float64         `json:"frequency_hz"` // of the first pair
	A    string          `json:"a"`
	B    string          `json:"b"`
	Of   []string        `json:"of"` // band, level and frequency of each pair
	Each []diagnose.Pair `json:"pairs"`
	UDB  float64         `json:"uncertainty_db"`
	Coax string          `json:"coax"` // empty where no cable could
	diagnose.Difference
}

// KeptCheck is something kept that is no power for a box: when, where, what.
type KeptCheck struct {
	ID     string `json:"id"`
	Where  string `json:"where"`
	What   string `json:"what"`
	Detail string `json:"detail"`
}

// Studied implements measure.Student.
func (d *Room) Studied() measure.Answer { return measure.Answers(d.Study()) }

// Study works out all of it.
func (d *Room) Study() Study {
	volts := func(r *Reading) (string, float64, bool) {
		if r.Entry.SupplyV == nil {
			return "", 0, false
		}
		return units.Hertz(r.FrequencyHz).String(), *r.Entry.SupplyV, true
	}
	peakVolts := func(r *Reading) (string, float64, bool) {
		key, x, ok := volts(r)
		return key + ", peak", x, ok && r.Peak != nil && r.Result != nil
	}
	severalV := apart(func(a, b float64) bool { return math.Abs(a-b) <= sameV }, 2)
	return Study{
		Frequency: d.curves((*Reading).figure, func(r *Reading) (key string, x float64, ok bool) {
			return "", r.FrequencyHz, !r.OffSupply && !r.onlyLow() && !d.pushed(r)
		}, apart(func(a, b float64) bool { return near(a, b) }, 3), func(a, b float64) bool { return b > gapShare*a }),
		Supply: append(d.curves((*Reading).figure, volts, severalV, noGap), d.curves((*Reading).peakFigure, peakVolts, severalV, noGap)...),
		Time: d.curves((*Reading).figure, func(r *Reading) (string, float64, bool) {
			return units.Hertz(r.FrequencyHz).String(), float64(r.TakenAt.UnixMilli()) / 1e3, true
		}, overTime, noGap),
		Drawn: d.drawn(), Pairs: d.pairs(), Findings: d.findings(), Kept: d.kept(),
	}
}

// drawn are the readings that count with volts and amps noted beside them.
func (d *Room) drawn() []Drawn {
	out := []Drawn{}
	for i := range d.readings {
		r := &d.readings[i]
		if w, _, _, ok := r.figure(); ok && r.Counts && r.Beside.Efficiency != nil {
			out = append(out, Drawn{r.ID, d.boxName(r.Keyed), r.FrequencyHz, w, *r.Entry.SupplyV, *r.Entry.SupplyA, *r.Beside.Efficiency})
		}
	}
	return out
}

// gapShare is how far apart two frequencies may lie, as their ratio, and still be joined by a
// curve (common practice, no source).
const gapShare = 1.15

func noGap(float64, float64) bool { return false }

// sameV is how near two voltages are one, in V (common practice, no source).
const sameV = 0.3

// apart keeps a curve that has at least n places apart from each other.
func apart(same func(a, b float64) bool, n int) func([]Point) bool {
	return func(points []Point) bool {
		var seen []float64
		for _, p := range points {
			if !slices.ContainsFunc(seen, func(x float64) bool { return same(x, p.X) }) {
				seen = append(seen, p.X)
			}
		}
		return len(seen) >= n
	}
}

// A run-down is at least so many readings over at least so long, in s; what is further
// apart than a pause is another sitting (common practice, no source).
const (
	runReadings = 4
	runS        = 60
	pauseS      = 4 * 3600
)

func overTime(points []Point) bool {
	n := len(points)
	return n >= runReadings && points[n-1].X-points[0].X >= runS && points[n-1].X-points[0].X <= pauseS
}

// curves gathers what was read of each level, along x, where keep says it is a curve at
// all. Of is the figure meant; readings that a key tells apart lie on curves of their own.
func (d *Room) curves(of func(*Reading) (w, low, high float64, ok bool), at func(*Reading) (key string, x float64, ok bool), keep func([]Point) bool, gap func(a, b float64) bool) []Curve {
	type name struct {
		box       record.Keyed
		key, path string
	}
	found := map[name]*Curve{}
	order := []name{}
	for i := range d.readings {
		r := &d.readings[i]
		w, low, high, ok := of(r)
		counts := r.Counts && ok
		if !counts && !r.Refused && !(ok && r.Entry.SupplyV != nil && r.onlyLow()) || !d.review.Stands(r.ID) || r.Trusted != nil {
			continue
		}
		key, x, has := at(r)
		if !has {
			continue
		}
		n := name{r.Box(), key, r.Through.PathID}
		if found[n] == nil {
			title := d.boxName(r.Keyed)
			if key != "" {
				title += ", " + key
			}
			if slices.ContainsFunc(order, func(o name) bool { return o.box == n.box && o.key == n.key }) {
				title += ", " + r.Through.Name
			}
			found[n] = &Curve{Name: title, Band: r.Band, Level: r.Level}
			order = append(order, n)
		}
		p := Point{X: x, Amps: r.Entry.SupplyA, Outside: r.Outside, Refused: r.Refused, ID: r.ID}
		if ok {
			p.W, p.LowW, p.HighW = &w, &low, &high
			if read, _, _, _ := r.figure(); read == w { // a mean current goes with no peak
				p.Efficiency = r.Beside.Efficiency
			}
		}
		found[n].Points = append(found[n].Points, p)
	}
	out := []Curve{}
	for _, n := range order {
		c := found[n]
		slices.SortStableFunc(c.Points, func(a, b Point) int { return cmp.Compare(a.X, b.X) })
		if keep(c.Points) {
			for i := 1; i < len(c.Points); i++ {
				c.Points[i].Gap = gap(c.Points[i-1].X, c.Points[i].X)
			}
			out = append(out, *c)
		}
	}
	return out
}

// pushed tells that the supply was set away from the radio's nominal voltage, upward: what
// it refuses there says nothing of the frequency.
func (d *Room) pushed(r *Reading) bool {
	v, nominal := r.Entry.SupplyV, d.review.Subject.SupplyV
	return r.Refused && v != nil && nominal != nil && *v > *nominal+sameV
}

// onlyLow tells that nothing but a supply below the radio's own minimum keeps a reading from
// counting: it is no figure for the claim, and the very thing a curve over volts shows.
func (r *Reading) onlyLow() bool {
	return slices.ContainsFunc(r.Doubts, func(s say.Said) bool { return s.Code == say.SupplyLowCode && s.Detail == r.WhyNot })
}

func (d *Room) boxName(k record.Keyed) string {
	if c := d.review.Cell(k); c != nil {
		return d.review.BoxName(*c)
	}
	return k.Band + " " + k.Level
}

// pairs are the same key-ups through two wirings. The powers are at the connector, so what
// lies between is taken out already and no loss is expected; they agree within the root sum
// square of their expanded uncertainties.
func (d *Room) pairs() []Paired {
	type place struct{ a, b string }
	found := map[place]*Paired{}
	order := []place{}
	for _, c := range d.review.Cells {
		box := record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}
		var first []*Reading // the last reading of each wiring at each frequency
		for i := range d.readings {
			r := &d.readings[i]
			if _, _, _, ok := r.figure(); !ok || !r.SameBox(box) || !r.Counts {
				continue
			}
			at := slices.IndexFunc(first, func(o *Reading) bool {
				return o.Through.PathID == r.Through.PathID && sameKeyUp(o, r)
			})
			if at >= 0 {
				first[at] = r
			} else {
				first = append(first, r)
			}
		}
		for i, a := range first {
			for _, b := range first[i+1:] {
				if a.Through.PathID == b.Through.PathID || !sameKeyUp(a, b) {
					continue
				}
				one, other := nearer(a, b)
				n := place{one.Through.Name, other.Through.Name}
				p := found[n]
				if turned := (place{n.b, n.a}); p == nil && found[turned] != nil { // of another frequency the nearer is the other
					n, p, one, other = turned, found[turned], other, one
				}
				if p == nil {
					p = &Paired{Hz: a.FrequencyHz, A: n.a, B: n.b}
					found[n] = p
					order = append(order, n)
				}
				wa, la, ha, _ := one.figure()
				wb, lb, hb, _ := other.figure()
				p.Of, p.Each = append(p.Of, d.review.BoxName(c)+", "+units.Hertz(a.FrequencyHz).String()), append(p.Each, diagnose.Pair{AW: wa, BW: wb})
				p.UDB = max(p.UDB, math.Hypot(wider(wa, la, ha), wider(wb, lb, hb)))
			}
		}
	}
	out := []Paired{}
	for _, n := range order {
		p := found[n]
		expected := 0.0
		answer, err := diagnose.Compare(diagnose.Question{Pairs: p.Each, ExpectedDB: &expected, UncertaintyDB: p.UDB})
		if err != nil {
			continue // a zero somewhere: there is no ratio
		}
		p.Difference = answer
		p.Coax = coaxFor(math.Abs(answer.MeanDB), units.Hertz(p.Hz), answer.Fits)
		out = append(out, *p)
	}
	return out
}

// sameKeyUp tells whether two readings are of one frequency and one supply.
func sameKeyUp(a, b *Reading) bool {
	if a.Entry.SupplyV != nil && b.Entry.SupplyV != nil && math.Abs(*a.Entry.SupplyV-*b.Entry.SupplyV) > sameV {
		return false
	}
	return near(a.FrequencyHz, b.FrequencyHz)
}

// unboundedDB stands for a power that its meter does not bound below: it agrees with any.
const unboundedDB = 30

// wider is the wider side of an interval, in dB.
func wider(w, low, high float64) float64 {
	if !(low > 0) {
		return unboundedDB
	}
	return max(float64(units.RatioDB(w/low)), float64(units.RatioDB(high/w)))
}

// nearer puts the reading with less in front of its meter first.
func nearer(a, b *Reading) (one, other *Reading) {
	loss := func(r *Reading) float64 {
		if _, before := wiring.MeterAndBefore(r.Through); before != nil {
			if db, ok := before.LossAt(units.Hertz(r.FrequencyHz)); ok {
				return float64(db)
			}
		}
		return math.Inf(1)
	}
	if loss(b) < loss(a) {
		return b, a
	}
	return a, b
}

// usualCoax is the type a bench has most of.
const usualCoax = "rg-58"

// coaxFor says how much coax takes as many dB; none explains a difference that is not one
// loss at every power.
func coaxFor(db float64, f units.Hertz, fits diagnose.Fit) string {
	cable, err := rf.CableType(usualCoax)
	if err != nil || db < 0.05 || fits == diagnose.FitsExpected {
		return ""
	}
	perMetre, _ := cable.Matched(1, f)
	metres := db / float64(perMetre)
	if fits != diagnose.FitsLoss {
		return fmt.Sprintf("%.1f dB is %.2g m of RG-58 there, and no coax takes other dB at another power", db, metres)
	}
	return fmt.Sprintf("%.1f dB is what %.2g m of RG-58 take there", db, metres)
}

// findings are what the levels of a band say together.
func (d *Room) findings() []say.Said {
	out := []say.Said{}
	for _, b := range d.review.Bands() {
		var levels []diagnose.LevelReading
		for _, c := range d.review.Cells {
			if c.Band.Name != b.Band.Name || c.Mode != b.Mode {
				continue
			}
			if r := d.PowerOf(record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}).Reading; r != nil {
				levels = append(levels, diagnose.LevelReading{Level: c.Level, W: *r.MeasuredW})
			}
		}
		for _, s := range diagnose.Settings(levels) {
			s.Detail = b.Band.Name + ": " + s.Detail
			out = append(out, s)
		}
	}
	return out
}

// kept lists what was kept that is no power for a box.
func (d *Room) kept() []KeptCheck {
	out := []KeptCheck{}
	settings := ""
	for i := range d.readings {
		r := &d.readings[i]
		if !d.review.Stands(r.ID) {
			continue
		}
		add := func(what, format string, args ...any) {
			out = append(out, KeptCheck{r.ID, fmt.Sprintf("%s, %s", d.boxName(r.Keyed), units.Hertz(r.FrequencyHz)), what, fmt.Sprintf(format, args...)})
		}
		w, _, _, ok := r.figure()
		remark := ""
		if r.Entry.Remark != nil {
			remark = *r.Entry.Remark
		}
		volts := ""
		if r.Entry.SupplyV != nil {
			volts = fmt.Sprintf(" at %.4g V", *r.Entry.SupplyV)
		}
		if r.Refused {
			add("refused", "the radio did not transmit%s %s", volts, remark)
		}
		switch r.Check {
		case SWR:
			add("SWR alone", "SWR %.3g through %s %s", *swrOf(r.Entry), r.Through.Name, remark)
		case Short, Open:
			add("end "+map[string]string{Short: "shorted", Open: "open"}[r.Check], "%s %s", r.Through.Name, remark)
		}
		if r.DisplayD != nil {
			add("the radio's own display", "shows %s, measured %s: %s", units.Watts(*r.DisplayW), units.Watts(w), units.DB(*r.DisplayD).Signed())
		}
		if r.TargetW != nil && ok {
			what := "adjusted"
			if r.AtMost {
				what = "turned down to a class"
			}
			add(what, "to %s: %s, %s", units.Watts(*r.TargetW), units.Watts(w), r.Reached)
		}
		if r.MeterDB != nil {
			add("a trusted radio", "%s is known to give %s and reads %s here: %s", r.Trusted.Name, units.Watts(r.Trusted.W), units.Watts(w), units.DB(*r.MeterDB).Signed())
		}
		if r.DepthPct != nil {
			add("AM", "modulated to %.0f %%", *r.DepthPct)
		}
		if r.Speech != "" && r.Peak != nil {
			add("speech", "%s", r.Speech)
		}
		if r.Settings != "" && r.Settings != settings {
			settings = r.Settings
			add("settings", "%s", r.Settings)
		}
	}
	return out
}
