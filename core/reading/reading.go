package reading

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/stat"

	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/say"
	"talloak/core/uncertainty"
	"talloak/core/units"
)

// Meter is a power meter on the scale in use. Accuracy parts are half-widths:
// of the reading and of full scale in percent, in dB, and the digital step or
// the needle's division in W. A range not given is not checked.
type Meter struct {
	FromHz       *float64 `json:"from_hz,omitempty"`
	ToHz         *float64 `json:"to_hz,omitempty"`
	ScaleW       *float64 `json:"scale_w,omitempty"`
	PctReading   float64  `json:"pct_reading,omitempty"`
	PctFullScale float64  `json:"pct_full_scale,omitempty"`
	DB           float64  `json:"db,omitempty"`
	DigitW       float64  `json:"digit_w,omitempty"`
	Needle       bool     `json:"needle,omitempty"`
	SWR          *float64 `json:"swr,omitempty"`

	// A certificate's expanded uncertainty, in dB and in percent of the reading,
	// at its coverage factor k, 2 where none is given.
	ExpandedDB     float64  `json:"expanded_db,omitempty"`
	ExpandedPct    float64  `json:"expanded_pct,omitempty"`
	CoverageFactor *float64 `json:"coverage_factor,omitempty"`
	// NeedleW is how well a needle is read, as a standard uncertainty in W; where
	// it is not given a fifth of a division is taken.
	NeedleW float64 `json:"needle_w,omitempty"`

	// RepeatabilityPct is the scatter of one reading: the standard deviation of
	// several of the same power, in percent of it, known by 4 degrees of freedom.
	RepeatabilityPct *float64 `json:"repeatability_pct,omitempty"`

	// LevelDB is how well an analyzer that power is read off shows levels: a standard
	// uncertainty in dB, with the distribution it is from.
	LevelDB           float64 `json:"-"`
	LevelDistribution string  `json:"-"`

	// That a figure is the typical one of its kind, stated by nobody.
	TypicalAccuracy      bool `json:"typical_accuracy,omitempty"`
	TypicalRepeatability bool `json:"typical_repeatability,omitempty"`

	Baseline *Baseline `json:"baseline,omitempty"`
}

// repeatabilityDegrees is how well a meter's own repeatability is known.
const repeatabilityDegrees = 4

// TypicalRepeatability is the scatter of one reading on a digital meter, relative to
// power, where nobody found it; a needle is read to a fifth of a division (both
// common practice, no source).
const TypicalRepeatability = 0.01

// needleU is how well a needle is read, as a standard uncertainty in W; 0 for a
// digital display, or where neither that nor the division is known.
func (m Meter) needleU() float64 {
	switch {
	case !m.Needle:
		return 0
	case m.NeedleW > 0:
		return m.NeedleW
	}
	return m.DigitW / 5
}

// OneReading is the scatter of one reading on the meter, relative to power, as it is stated, or
// typical.
func (m Meter) OneReading() float64 {
	if m.RepeatabilityPct != nil {
		return *m.RepeatabilityPct / 100
	}
	return TypicalRepeatability
}

// Pooled is the scatter of the earlier repeats on the same meter.
type Pooled struct {
	SRelative float64 `json:"s_relative"`
	Degrees   int     `json:"degrees_of_freedom"`
}

// Baseline is what a meter was found to show more than others, once its owner
// accepted to take that out of later readings. It counts within 5 % of the
// frequencies it was found at. The meter's own accuracy stays in the budget: the
// mean of the others is no standard.
type Baseline struct {
	OffsetDB      float64 `json:"offset_db"`
	UncertaintyDB float64 `json:"standard_uncertainty_db"`
	FromHz        float64 `json:"from_hz"`
	ToHz          float64 `json:"to_hz"`
	// AtHz are the frequencies themselves; where they are not known, both ends are.
	AtHz    []float64 `json:"frequencies_hz,omitempty"`
	On      string    `json:"on,omitempty"`
	Against string    `json:"against,omitempty"`
}

func (b *Baseline) covers(f units.Hertz) bool {
	at := b.AtHz
	if len(at) == 0 {
		at = []float64{b.FromHz, b.ToHz}
	}
	return slices.ContainsFunc(at, func(found float64) bool {
		return math.Abs(float64(f)-found) <= path.SameFrequency*found
	})
}

func (b *Baseline) title() string {
	out := "baseline"
	if b.On != "" {
		out += " of " + b.On
	}
	if b.Against != "" {
		out += " against " + b.Against
	}
	return out
}

// Input is one reading: one or more values in the same unit off one meter,
// behind a path from the connector. AppliedOffsetDB is what the meter already
// added to what it shows.
type Input struct {
	Values          []units.Quantity
	Frequency       units.Hertz
	Meter           Meter
	SourceSWR       *float64
	AppliedOffsetDB float64
	Path            *path.Path
	Pooled          *Pooled // earlier repeats on the meter; nil where there are none
}

// Flag is something odd about a reading.
type Flag struct {
	say.Said
	Voids bool `json:"voids"` // the reading does not count
}

// Result is a reading referred to the connector. Fields are nil where there is
// no such figure: the level, low, high and uncertainty of 0 W, and everything
// at the connector behind a path without an answer at this frequency.
type Result struct {
	ReadingW       float64            `json:"reading_w"`
	BaselineDB     *float64           `json:"baseline_db"` // taken out by an accepted baseline
	AtConnectorW   *float64           `json:"at_connector_w"`
	AtConnectorDBm *float64           `json:"at_connector_dbm"`
	LowW           *float64           `json:"low_w"`
	HighW          *float64           `json:"high_w"`
	UncertaintyDB  *float64           `json:"expanded_uncertainty_db"`
	CoverageFactor int                `json:"coverage_factor"`
	Budget         uncertainty.Budget `json:"budget"`
	Flags          []Flag             `json:"flags"`
	Counts         bool               `json:"counts"`
}

// Refer works out connector = display + loss(f) - applied offset, and the
// uncertainty at k = 2. Errors are *problem.Error in the names of the contract.
func Refer(in Input) (Result, error) {
	if err := in.Check(); err != nil {
		return Result{}, err
	}
	watts := make([]float64, len(in.Values))
	for i, v := range in.Values {
		w, err := v.Power()
		if err != nil {
			return Result{}, problem.New("text", "%s", err.Error())
		}
		watts[i] = float64(w)
	}
	mean := stat.Mean(watts, nil)
	if math.IsInf(mean, 0) {
		return Result{}, problem.New("text", "the readings are too large")
	}
	out := Result{ReadingW: mean, CoverageFactor: uncertainty.CoverageFactor, Budget: uncertainty.Budget{}, Flags: []Flag{}, Counts: true}
	out.flag(in, watts, mean)
	loss, ok := in.Path.LossAt(in.Frequency)
	if !ok {
		out.add(true, say.PathOutOfRange(in.Frequency))
		return out, nil
	}
	if b := in.Meter.Baseline; b != nil && b.covers(in.Frequency) {
		out.BaselineDB = &b.OffsetDB
		loss -= units.DB(b.OffsetDB)
	} else if b != nil {
		out.add(false, say.BaselineElsewhere(b.title(), in.Frequency))
	}
	w := mean * (loss - units.DB(in.AppliedOffsetDB)).Ratio()
	if math.IsInf(w*1000, 0) {
		return Result{}, problem.New("applied_offset_db", "the power at the connector is too large")
	}
	out.AtConnectorW = &w
	if w == 0 {
		return out, nil
	}
	out.Budget = in.budget(watts, mean)
	level := float64(units.Watts(w).DBm())
	low, high := out.Budget.Interval(units.Watts(w))
	l, h := float64(low), float64(high)
	out.AtConnectorDBm, out.LowW, out.HighW = &level, &l, &h
	if db, bounded := out.Budget.ExpandedDB(); bounded {
		u := float64(db)
		out.UncertaintyDB = &u
	}
	return out, nil
}

// Check says what is wrong with the input, in the names of the contract.
func (in Input) Check() error {
	var bad problem.List
	m := in.Meter
	if !(in.Frequency > 0) {
		bad.Add("frequency_hz", "give more than 0 Hz")
	}
	if len(in.Values) == 0 {
		bad.Add("text", "give at least one reading")
	}
	bad.AddErr("meter", m.Check())
	if in.SourceSWR != nil && *in.SourceSWR < 1 {
		bad.Add("source_swr", "give 1 or more")
	}
	if p := in.Pooled; p != nil {
		if p.SRelative < 0 {
			bad.Add("pooled.s_relative", "give 0 or more, relative to power")
		}
		if p.Degrees < 1 {
			bad.Add("pooled.degrees_of_freedom", "give 1 or more")
		}
	}
	return bad.Err()
}

// Check says what is wrong with the meter, by its fields.
func (m Meter) Check() error {
	var bad problem.List
	if m.FromHz != nil && *m.FromHz < 0 {
		bad.Add("from_hz", "give 0 Hz or more")
	}
	if m.ToHz != nil && *m.ToHz <= deref(m.FromHz) {
		bad.Add("to_hz", "must be above from_hz")
	}
	if m.ScaleW != nil && !(*m.ScaleW > 0) {
		bad.Add("scale_w", "give the end of the scale in W, above 0")
	}
	if m.PctFullScale > 0 && m.ScaleW == nil {
		bad.Add("scale_w", "a percentage of full scale needs the scale in W")
	}
	for _, part := range []struct {
		field string
		v     float64
	}{{"pct_reading", m.PctReading}, {"pct_full_scale", m.PctFullScale}, {"db", m.DB}, {"digit_w", m.DigitW}, {"expanded_db", m.ExpandedDB}, {"expanded_pct", m.ExpandedPct}, {"needle_w", m.NeedleW}} {
		if part.v < 0 {
			bad.Add(part.field, "give 0 or more")
		}
	}
	if m.CoverageFactor != nil && !(*m.CoverageFactor > 0) {
		bad.Add("coverage_factor", "give the k of the certificate, above 0; it is usually 2")
	}
	if m.RepeatabilityPct != nil && *m.RepeatabilityPct < 0 {
		bad.Add("repeatability_pct", "give 0 %% or more")
	}
	if m.SWR != nil && *m.SWR < 1 {
		bad.Add("swr", "give 1 or more")
	}
	if b := m.Baseline; b != nil {
		if b.UncertaintyDB < 0 {
			bad.Add("baseline.standard_uncertainty_db", "give 0 dB or more")
		}
		if !(b.FromHz > 0) || b.ToHz < b.FromHz {
			bad.Add("baseline.to_hz", "give the frequencies it was found at, from the lowest to the highest")
		}
	}
	return bad.Err()
}

func (in Input) budget(watts []float64, mean float64) uncertainty.Budget {
	b := uncertainty.Budget{}
	m := in.Meter
	if m.PctReading > 0 {
		source := "meter, of reading"
		if m.TypicalAccuracy {
			source += ", typical of its kind"
		}
		b = append(b, uncertainty.Rectangular(source, m.PctReading/100))
	}
	if m.PctFullScale > 0 {
		b = append(b, uncertainty.Rectangular("meter, of full scale", m.PctFullScale/100**m.ScaleW/mean))
	}
	if m.DB > 0 {
		b = append(b, uncertainty.Rectangular("meter, in dB", m.DB/uncertainty.DBPerRelative))
	}
	if m.LevelDB > 0 {
		source := "analyzer, amplitude"
		if m.TypicalAccuracy {
			source += ", typical of its kind"
		}
		b = append(b, uncertainty.Standard(source, m.LevelDB/uncertainty.DBPerRelative, m.LevelDistribution))
	}
	if m.ExpandedPct > 0 {
		b = append(b, uncertainty.Stated("meter, certificate, of reading", m.ExpandedPct/100, m.CoverageFactor))
	}
	if m.ExpandedDB > 0 {
		b = append(b, uncertainty.Stated("meter, certificate, in dB", m.ExpandedDB/uncertainty.DBPerRelative, m.CoverageFactor))
	}
	if u := m.needleU(); u > 0 {
		b = append(b, uncertainty.Standard("reading the needle", u/mean, "normal"))
	} else if m.DigitW > 0 {
		b = append(b, uncertainty.DigitStep("digital step", m.DigitW/mean))
	}
	if s := in.scatter(watts, mean); s.Degrees > 0 {
		line := uncertainty.Repeats(s, len(watts))
		if m.TypicalRepeatability && s.Degrees == repeatabilityDegrees {
			line.Source += ", typical of its kind"
		}
		b = append(b, line)
	}
	if u := float64(in.Path.LossUncertainty(in.Frequency)); u > 0 {
		source := "loss of the path"
		if on := in.Path.MeasuredOn(in.Frequency); on != "" {
			source += ", measured " + on
		}
		if typical := in.Path.TypicalTolerances(in.Frequency); len(typical) > 0 {
			source += ", tolerance typical of its kind for " + strings.Join(typical, ", ")
		}
		b = append(b, uncertainty.Standard(source, u/uncertainty.DBPerRelative, "combined"))
	}
	if base := m.Baseline; base != nil && base.covers(in.Frequency) {
		b = append(b, uncertainty.Standard(fmt.Sprintf("%s, %+.2f dB taken out", base.title(), base.OffsetDB), base.UncertaintyDB/uncertainty.DBPerRelative, "t"))
	}
	if in.SourceSWR != nil && m.SWR != nil {
		limit := 2 * rf.Rho(*in.SourceSWR) * rf.Rho(*m.SWR)
		b = append(b, uncertainty.UShaped("mismatch of source and meter", limit))
	}
	return b
}

// scatter is that of one reading, pooled from what the meter's maker or owner says,
// its earlier repeats, and these.
func (in Input) scatter(watts []float64, mean float64) uncertainty.Scatter {
	var known []uncertainty.Scatter
	if r := in.Meter.RepeatabilityPct; r != nil {
		known = append(known, uncertainty.Scatter{S: *r / 100, Degrees: repeatabilityDegrees})
	} else if in.Meter.TypicalRepeatability {
		known = append(known, uncertainty.Scatter{S: max(TypicalRepeatability, in.Meter.needleU()/mean), Degrees: repeatabilityDegrees})
	}
	if p := in.Pooled; p != nil {
		known = append(known, uncertainty.Scatter{S: p.SRelative, Degrees: p.Degrees})
	}
	return uncertainty.Pool(append(known, Scatter(watts, mean))...)
}

// Scatter is that of repeats of one power, relative to their mean; a single reading
// tells none.
func Scatter(watts []float64, mean float64) uncertainty.Scatter {
	if len(watts) < 2 || !(mean > 0) {
		return uncertainty.Scatter{}
	}
	return uncertainty.Scatter{S: stat.StdDev(watts, nil) / mean, Degrees: len(watts) - 1}
}

// ScatterOf is that of readings as typed.
func ScatterOf(values []units.Quantity) (uncertainty.Scatter, error) {
	watts := make([]float64, len(values))
	for i, v := range values {
		w, err := v.Power()
		if err != nil {
			return uncertainty.Scatter{}, err
		}
		watts[i] = float64(w)
	}
	return Scatter(watts, stat.Mean(watts, nil)), nil
}

func (r *Result) add(void bool, s say.Said) {
	r.Flags = append(r.Flags, Flag{s, void})
	r.Counts = r.Counts && !void
}

// unsteadyShare is the spread, relative to the mean, beyond which repeats are
// called unsteady; lowShare the part of a scale below which it is the wrong scale.
const (
	unsteadyShare = 0.10
	lowShare      = 0.10
)

func (r *Result) flag(in Input, watts []float64, mean float64) {
	m := in.Meter
	lowest, highest := watts[0], watts[0]
	for _, w := range watts {
		lowest, highest = min(lowest, w), max(highest, w)
	}
	f := float64(in.Frequency)
	if m.FromHz != nil && f < *m.FromHz || m.ToHz != nil && f > *m.ToHz {
		r.add(true, say.MeterOutOfRange(in.Frequency))
	}
	if m.ScaleW != nil && highest >= *m.ScaleW {
		r.add(true, say.Pegged(units.Watts(*m.ScaleW)))
	}
	if m.ScaleW != nil && mean < lowShare**m.ScaleW {
		r.add(false, say.LowOnScale(units.Watts(*m.ScaleW)))
	}
	if highest-lowest > unsteadyShare*mean {
		r.add(false, say.Unsteady(100*(highest-lowest)/mean))
	}
	if mean == 0 {
		r.add(false, say.NoOutput())
	}
}

func deref(v *float64) float64 {
	if v == nil {
		return 0
	}
	return *v
}
