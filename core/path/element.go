package path

import (
	"fmt"
	"math"
	"strings"

	"talloak/core/linear"
	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/span"
	"talloak/core/touchstone"
	"talloak/core/uncertainty"
	"talloak/core/units"
)

// Kind is what sort of part an element is.
type Kind string

// The kinds of elements. Load, Analyzer and TerminatingMeter end a path.
const (
	Adapter          Kind = "adapter"
	Cable            Kind = "cable"
	Meter            Kind = "meter" // a through-meter
	Attenuator       Kind = "attenuator"
	Tap              Kind = "tap" // goes on down its side arm
	Load             Kind = "load"
	Analyzer         Kind = "analyzer"
	TerminatingMeter Kind = "terminating-meter"
)

const kinds = "adapter, cable, meter, attenuator, tap, load, analyzer, terminating-meter"

// Ends tells whether a path ends in this kind.
func (k Kind) Ends() bool { return k == Load || k == Analyzer || k == TerminatingMeter }

// LossPoint is one point of a loss table; the loss is positive.
type LossPoint struct {
	FrequencyHz float64 `json:"frequency_hz"`
	DB          float64 `json:"db"`
}

// Loss is the loss of an element in exactly one of three forms. Tables and
// files are interpolated linearly in dB and never extrapolated.
type Loss struct {
	FlatDB     *float64    `json:"flat_db,omitempty"`
	Table      []LossPoint `json:"table,omitempty"`
	Touchstone *string     `json:"touchstone,omitempty"` // the text of a two-port file
}

// Range is one input or range of an analyzer: its reach, the most its input
// survives, and its noise floor as displayed at the resolution bandwidth and
// input attenuation in use; FloorRBWHz is that bandwidth, where it was noted.
// RBWHz lists the bandwidths it has.
type Range struct {
	Name          string    `json:"name,omitempty"`
	FromHz        float64   `json:"from_hz"`
	ToHz          float64   `json:"to_hz"`
	MaxInputDBm   *float64  `json:"max_input_dbm,omitempty"`
	NoiseFloorDBm *float64  `json:"noise_floor_dbm,omitempty"`
	FloorRBWHz    *float64  `json:"floor_rbw_hz,omitempty"`
	RBWHz         []float64 `json:"rbw_hz,omitempty"`
}

// Element is one part of a path as somebody wrote it; Prepare makes a Part of it. Which fields matter depends on Kind; ratings
// are in W, losses and tolerances in dB (a tolerance is a half-width). MaxW is
// the continuous rating; ShortMaxW is taken for at most ShortS seconds. The SWR
// of a one-port file counts where it has an answer, the flat one elsewhere.
// ExpandedDB is the expanded uncertainty of the loss on a certificate, at its
// CoverageFactor (2 where none is given), beside or instead of the tolerance.
// CouplingUnknown is a sampler nobody has measured: it has no loss. FlatWithinDB is
// the half-width by which its coupling at two frequencies differs, where its owner
// vouches for that; LeastCouplingDB what it takes at the least, for what is safe behind
// it and for nothing else. TypicalTolerance says that the tolerance is that of its kind,
// stated by nobody. Measured supersedes printed losses.
type Element struct {
	Kind               Kind            `json:"kind,omitempty"`
	Name               string          `json:"name,omitempty"`
	Loss               *Loss           `json:"loss,omitempty"`
	TypicalTolerance   bool            `json:"typical_tolerance,omitempty"`
	ToleranceDB        *float64        `json:"tolerance_db,omitempty"`
	ExpandedDB         *float64        `json:"expanded_db,omitempty"`
	CoverageFactor     *float64        `json:"coverage_factor,omitempty"`
	MaxW               *float64        `json:"max_w,omitempty"`
	ShortMaxW          *float64        `json:"short_max_w,omitempty"`
	ShortS             *float64        `json:"short_s,omitempty"`
	FromHz             *float64        `json:"from_hz,omitempty"`
	ToHz               *float64        `json:"to_hz,omitempty"`
	SWR                *float64        `json:"swr,omitempty"`
	SWRTouchstone      *string         `json:"swr_touchstone,omitempty"` // the text of a one-port file
	Cable              *string         `json:"cable,omitempty"`
	Points             []rf.CablePoint `json:"points,omitempty"`
	LengthM            *float64        `json:"length_m,omitempty"`
	CouplingDB         *float64        `json:"coupling_db,omitempty"`
	CouplingUnknown    bool            `json:"coupling_unknown,omitempty"`
	FlatWithinDB       *float64        `json:"flat_within_db,omitempty"`
	LeastCouplingDB    *float64        `json:"least_coupling_db,omitempty"`
	MainLoadW          *float64        `json:"main_load_w,omitempty"`
	Ranges             []Range         `json:"ranges,omitempty"`
	SHIDBm             *float64        `json:"shi_dbm,omitempty"`
	TOIDBm             *float64        `json:"toi_dbm,omitempty"`
	InputAttenuationDB *float64        `json:"input_attenuation_db,omitempty"`
	Measured           *Measured       `json:"measured,omitempty"`
}

// Title is the element's name, or its kind where it has none.
func (e Element) Title() string {
	if e.Name != "" {
		return e.Name
	}
	return string(e.Kind)
}

// adapterDB is the loss of a connector pair up to adapterTo (common practice, no source).
const (
	adapterDB = 0.05
	adapterTo = units.Hertz(500e6)
)

// mostLossDB is more than any part has: beyond it a figure is a slip of the pen.
const mostLossDB = 1000

func lossLike(db float64) bool { return db >= 0 && db <= mostLossDB }

// curve is the compiled loss of an element: a constant, a table or a cable,
// known from lo to hi, and what the element is made for, which may reach further.
type curve struct {
	lo, hi   units.Hertz
	made     span.Span
	unknown  bool
	flat     float64
	table    []LossPoint
	line     linear.Line // through the table
	cable    rf.Cable
	lengthM  float64
	oneport  *touchstone.Network // for the SWR
	flatSWR  *float64
	measured *found
}

func (c *curve) covers(f units.Hertz) bool { return !c.unknown && f >= c.lo && f <= c.hi }

// swr is the SWR at f, of the one-port file where it covers f; nil if not stated.
func (c *curve) swr(f units.Hertz) *float64 {
	if c.oneport != nil {
		if v, ok := c.oneport.SWRAt(f); ok {
			return &v
		}
	}
	return c.flatSWR
}

func (c *curve) at(f units.Hertz) units.DB {
	db := c.flat
	if c.table != nil {
		db += c.line.At(float64(f))
	}
	if c.lengthM > 0 {
		ml, _ := c.cable.Matched(c.lengthM, f)
		db += float64(ml)
	}
	return units.DB(db)
}

// most is no less than any loss from one frequency to another: a table is highest at an end or
// at one of its points, a cable's loss rises.
func (c *curve) most(from, to units.Hertz) units.DB {
	db := max(c.at(from), c.at(to))
	for _, p := range c.table {
		if f := units.Hertz(p.FrequencyHz); f > from && f < to {
			db = max(db, c.at(f))
		}
	}
	if c.lengthM > 0 {
		rising := rf.Cable{K1: max(0, c.cable.K1), K2: max(0, c.cable.K2)}
		ml, _ := rising.Matched(c.lengthM, to)
		db = max(db, units.DB(c.flat)+ml)
	}
	return db
}

// fill adds the loss at start + i step to out. It walks along a table, since finding its
// place anew for each of 100,001 points would take longer than the whole judgement.
func (c *curve) fill(start, step float64, out []float64) {
	switch {
	case c.lengthM > 0:
		for i := range out {
			out[i] += float64(c.at(units.Hertz(start + float64(i)*step)))
		}
	case len(c.table) > 1:
		k := 0
		for i := 0; i < len(out); {
			f := start + float64(i)*step
			for k < len(c.table)-2 && f > c.table[k+1].FrequencyHz {
				k++
			}
			a, b := c.table[k], c.table[k+1]
			slope := (b.DB - a.DB) / (b.FrequencyHz - a.FrequencyHz)
			end := len(out)
			if k < len(c.table)-2 {
				end = min(end, max(i+1, int(math.Ceil((b.FrequencyHz-start)/step))))
			}
			for ; i < end; i++ {
				out[i] += a.DB + (start+float64(i)*step-a.FrequencyHz)*slope
			}
		}
	default:
		db := float64(c.at(units.Hertz(start)))
		for i := range out {
			out[i] += db
		}
	}
}

// compile checks the element and works out what it is, nil where its kind says nothing, and its loss
// curve. Errors carry the field below the element.
func (e *Element) compile() (made, curve, error) {
	var bad problem.List
	c := curve{lo: 0, hi: units.Hertz(math.Inf(1))}
	if e.FromHz != nil {
		c.lo = units.Hertz(*e.FromHz)
		if c.lo < 0 {
			bad.Add("from_hz", "give 0 Hz or more")
		}
	}
	if e.ToHz != nil {
		if c.hi = units.Hertz(*e.ToHz); c.hi <= c.lo {
			bad.Add("to_hz", "must be above from_hz (%s)", c.lo)
		}
	}
	c.made, c.flatSWR = span.Of(c.lo, c.hi), e.SWR
	positive(&bad, "max_w", e.MaxW, "a rating in W above 0")
	e.checkShort(&bad)
	positive(&bad, "main_load_w", e.MainLoadW, "a rating in W above 0")
	atLeast(&bad, "tolerance_db", e.ToleranceDB, 0, "dB")
	atLeast(&bad, "expanded_db", e.ExpandedDB, 0, "dB")
	atLeast(&bad, "flat_within_db", e.FlatWithinDB, 0, "dB")
	atLeast(&bad, "least_coupling_db", e.LeastCouplingDB, 0, "dB")
	positive(&bad, "coverage_factor", e.CoverageFactor, "the k of the certificate, above 0; it is usually 2")
	atLeast(&bad, "length_m", e.LengthM, 0, "m")
	atLeast(&bad, "input_attenuation_db", e.InputAttenuationDB, 0, "dB")
	atLeast(&bad, "swr", e.SWR, 1, "")
	m, err := madeOf(e)
	if m != nil {
		bad.AddErr("", m.printed(e, &c))
	}
	bad.AddErr("", err)
	if e.SWRTouchstone != nil {
		bad.AddErr("", e.compileOnePort(&c))
	}
	if e.Measured != nil {
		if err := e.Measured.check(); err != nil {
			bad.AddErr("measured", err)
		} else {
			c.measured = newFound(e.Measured)
		}
	}
	return m, c, bad.Err()
}

// checkShort: a short-time rating says for how long, and is the higher one.
func (e *Element) checkShort(bad *problem.List) {
	positive(bad, "short_max_w", e.ShortMaxW, "a rating in W above 0")
	positive(bad, "short_s", e.ShortS, "a time in s above 0")
	switch {
	case (e.ShortMaxW == nil) != (e.ShortS == nil):
		missing := "short_s"
		if e.ShortMaxW == nil {
			missing = "short_max_w"
		}
		bad.Add(missing, "a short-time rating is a power in W and for how many seconds: give both")
	case e.ShortMaxW != nil && e.MaxW == nil:
		bad.Add("max_w", "give the continuous rating beside the short-time one")
	case e.ShortMaxW != nil && *e.ShortMaxW < *e.MaxW:
		bad.Add("short_max_w", "cannot be below the continuous rating of %s", units.Watts(*e.MaxW))
	}
}

func (e *Element) compileOnePort(c *curve) error {
	n, err := touchstone.Parse(*e.SWRTouchstone, 0)
	switch {
	case err != nil:
		return problem.New("swr_touchstone", "%s", strings.TrimPrefix(err.Error(), "text: "))
	case n.Ports != 1:
		return problem.New("swr_touchstone", "the file has %d ports; an SWR is taken from a one-port", n.Ports)
	case n.Z0 != units.Impedance:
		return problem.New("swr_touchstone", "the file is for %g ohm; this path is 50 ohm", n.Z0)
	}
	c.oneport = n
	return nil
}

func (e *Element) compileCable(c *curve) error {
	var bad problem.List
	forms := 0
	if e.Cable != nil {
		forms++
	}
	if e.Points != nil {
		forms++
	}
	if e.Loss != nil {
		forms++
	}
	if forms != 1 {
		bad.Add("cable", "give one of cable, points and loss")
		return bad.Err()
	}
	if e.Loss != nil {
		return e.Loss.compile(c)
	}
	var err error
	if e.Cable != nil {
		c.cable, err = rf.CableType(*e.Cable)
	} else {
		c.cable, err = rf.FitCable(e.Points)
	}
	bad.AddErr("", err)
	if e.LengthM == nil {
		bad.Add("length_m", "give the length of the cable in metres")
	} else {
		c.lengthM = *e.LengthM
		if c.lengthM > 1e5 {
			bad.Add("length_m", "give at most 100000 m")
		}
	}
	return bad.Err()
}

func (l *Loss) compile(c *curve) error {
	forms := 0
	for _, given := range []bool{l.FlatDB != nil, l.Table != nil, l.Touchstone != nil} {
		if given {
			forms++
		}
	}
	if forms != 1 {
		return problem.New("loss", "give one of flat_db, table and touchstone")
	}
	switch {
	case l.FlatDB != nil:
		if !lossLike(*l.FlatDB) {
			return problem.New("loss.flat_db", "give a loss of 0 to %d dB", mostLossDB)
		}
		c.flat = *l.FlatDB
	case l.Table != nil:
		return l.compileTable(c)
	default:
		return l.compileTouchstone(c)
	}
	return nil
}

func lineOf(t []LossPoint) linear.Line {
	return linear.Over(t, func(p LossPoint) float64 { return p.FrequencyHz }, func(p LossPoint) float64 { return p.DB })
}

func (l *Loss) compileTable(c *curve) error {
	var bad problem.List
	if len(l.Table) == 0 {
		bad.Add("loss.table", "give at least one point")
		return bad.Err()
	}
	for i, p := range l.Table {
		field := fmt.Sprintf("loss.table[%d]", i)
		if p.FrequencyHz < 0 {
			bad.Add(field+".frequency_hz", "give 0 Hz or more")
		}
		if i > 0 && p.FrequencyHz <= l.Table[i-1].FrequencyHz {
			bad.Add(field+".frequency_hz", "frequencies must rise; this is not above %s", units.Hertz(l.Table[i-1].FrequencyHz))
		}
		if !lossLike(p.DB) {
			bad.Add(field+".db", "give a loss of 0 to %d dB", mostLossDB)
		}
	}
	c.table = l.Table
	c.lo = max(c.lo, units.Hertz(l.Table[0].FrequencyHz))
	c.hi = min(c.hi, units.Hertz(l.Table[len(l.Table)-1].FrequencyHz))
	if bad.Empty() {
		c.line = lineOf(c.table)
	}
	return bad.Err()
}

func (l *Loss) compileTouchstone(c *curve) error {
	n, err := touchstone.Parse(*l.Touchstone, 0)
	if err != nil {
		detail := strings.TrimPrefix(err.Error(), "text: ")
		return problem.New("loss.touchstone", "%s", detail)
	}
	if n.Ports != 2 {
		return problem.New("loss.touchstone", "the file has %d ports; a loss needs a two-port", n.Ports)
	}
	if n.Z0 != units.Impedance {
		return problem.New("loss.touchstone", "the file is for %g ohm; this path is 50 ohm", n.Z0)
	}
	for i, f := range n.Frequency {
		db, ok := n.LossDB(i)
		if !ok {
			return problem.New("loss.touchstone", "nothing passes at %s, so there is no loss to use", f)
		}
		c.table = append(c.table, LossPoint{float64(f), float64(db)})
	}
	c.line = lineOf(c.table)
	c.lo, c.hi = max(c.lo, n.Frequency[0]), min(c.hi, n.Frequency[len(n.Frequency)-1])
	return nil
}

func (e *Element) checkRanges() error {
	var bad problem.List
	if len(e.Ranges) == 0 {
		bad.Add("ranges", "give at least one range of the analyzer with from_hz and to_hz")
	}
	for i, r := range e.Ranges {
		field := fmt.Sprintf("ranges[%d]", i)
		if r.FromHz < 0 {
			bad.Add(field+".from_hz", "give 0 Hz or more")
		}
		if r.ToHz <= r.FromHz {
			bad.Add(field+".to_hz", "must be above from_hz")
		}
		positive(&bad, field+".floor_rbw_hz", r.FloorRBWHz, "the bandwidth the floor was noted at, above 0 Hz")
		for k, b := range r.RBWHz {
			if !(b > 0) {
				bad.Add(fmt.Sprintf("%s.rbw_hz[%d]", field, k), "give a bandwidth above 0 Hz")
			}
		}
	}
	return bad.Err()
}

// lossVariance is the square of the standard uncertainty of the printed loss, in
// dB squared.
func (e *Element) lossVariance() float64 {
	sum := 0.0
	if e.ToleranceDB != nil {
		sum += *e.ToleranceDB * *e.ToleranceDB / 3
	}
	if e.ExpandedDB != nil {
		u := *e.ExpandedDB / uncertainty.StatedK(e.CoverageFactor)
		sum += u * u
	}
	return sum
}

func positive(bad *problem.List, field string, v *float64, want string) {
	if v != nil && !(*v > 0) {
		bad.Add(field, "give %s", want)
	}
}

func atLeast(bad *problem.List, field string, v *float64, least float64, unit string) {
	if v != nil && *v < least {
		bad.Add(field, "%s", strings.TrimSpace(fmt.Sprintf("give %g %s or more", least, unit)))
	}
}
