package diagnose

import (
	"fmt"
	"math"

	"talloak/core/problem"
	"talloak/core/units"
)

// Pair is the same key-up read through two wirings: A is the one nearer the radio. Both in
// W, above 0.
type Pair struct {
	AW float64 `json:"a_w"`
	BW float64 `json:"b_w"`
}

// Fit is what explains that two wirings differ.
type Fit string

// A loss takes the same dB at every power; a zero error the same watts; scale and zero are
// a line through the pairs, for which three are needed.
const (
	FitsExpected     Fit = "expected-loss"
	FitsLoss         Fit = "loss"
	FitsZero         Fit = "zero"
	FitsScaleAndZero Fit = "scale-and-zero"
	FitsNone         Fit = "none"
)

// Question is what is asked of pairs: the loss expected between the two wirings in dB, nil
// where nobody knows it, and within how many dB figures are held to agree.
type Question struct {
	Pairs         []Pair
	ExpectedDB    *float64
	UncertaintyDB float64
}

// Difference is how two wirings stand to one another. ZeroW is the difference that fits in
// watts, Slope and OffsetW the line b = slope a + offset; nil unless that fits.
// Deciding says which third measurement would tell which of the two errs.
type Difference struct {
	Fits     Fit       `json:"fits"`
	AlsoFits []Fit     `json:"also_fits"` // what explains it too, within the uncertainty
	LossDB   []float64 `json:"loss_db"`
	MeanDB   float64   `json:"mean_loss_db"`
	SpreadDB float64   `json:"spread_db"`
	ZeroW    *float64  `json:"zero_w"`
	Slope    *float64  `json:"slope"`
	OffsetW  *float64  `json:"offset_w"`
	Detail   string    `json:"detail"`
	Deciding string    `json:"deciding"`
}

// Check says what is wrong with the question.
func (q Question) Check() error {
	var bad problem.List
	if len(q.Pairs) == 0 {
		bad.Add("pairs", "give at least one pair of readings of the same key-up")
	}
	for i, p := range q.Pairs {
		for _, v := range []struct {
			field string
			w     float64
		}{{"a_w", p.AW}, {"b_w", p.BW}} {
			if !(v.w > 0) {
				bad.Add(fmt.Sprintf("pairs[%d].%s", i, v.field), "give a power above 0 W: at nothing there is no ratio")
			}
		}
	}
	if q.ExpectedDB != nil && *q.ExpectedDB < 0 {
		bad.Add("expected_loss_db", "give 0 dB or more: what lies between takes power away")
	}
	if q.UncertaintyDB < 0 {
		bad.Add("uncertainty_db", "give 0 dB or more")
	}
	return bad.Err()
}

// Compare finds what explains the difference: the first that holds of the loss expected,
// one loss at every power, a zero error, a line (three pairs or more), or none. A residue
// in watts is taken in dB of the reading nearer the radio (common practice, no source).
func Compare(q Question) (Difference, error) {
	if err := q.Check(); err != nil {
		return Difference{}, err
	}
	out := Difference{Fits: FitsNone, LossDB: make([]float64, len(q.Pairs))}
	lowest, highest := math.Inf(1), math.Inf(-1)
	for i, p := range q.Pairs {
		db := 10 * (math.Log10(p.AW) - math.Log10(p.BW))
		out.LossDB[i] = db
		out.MeanDB += db / float64(len(q.Pairs))
		lowest, highest = min(lowest, db), max(highest, db)
	}
	out.SpreadDB = highest - lowest
	var fits []Fit
	if q.ExpectedDB != nil && q.within(func(i int) float64 { return out.LossDB[i] - *q.ExpectedDB }) {
		fits = append(fits, FitsExpected)
	}
	if len(q.Pairs) > 1 {
		if q.within(func(i int) float64 { return out.LossDB[i] - out.MeanDB }) {
			fits = append(fits, FitsLoss)
		}
		if q.fitZero(&out) {
			fits = append(fits, FitsZero)
		}
		if q.fitLine(&out) {
			fits = append(fits, FitsScaleAndZero)
		}
	}
	if out.AlsoFits = []Fit{}; len(fits) > 0 {
		out.Fits, out.AlsoFits = fits[0], append(out.AlsoFits, fits[1:]...)
	}
	out.Detail, out.Deciding = q.words(out)
	return out, nil
}

// slack keeps figures that lie exactly on the bound from being lost to the last bit, in dB.
const slack = 1e-9

func (q Question) within(residue func(i int) float64) bool {
	for i := range q.Pairs {
		if r := residue(i); !(math.Abs(r) <= q.UncertaintyDB+slack) {
			return false
		}
	}
	return true
}

// offDB is a residue of w watts in dB of a; NaN where it is more than all of it.
func offDB(w, a float64) float64 { return 10 * math.Log10(1+w/a) }

func (q Question) fitZero(out *Difference) bool {
	mean := 0.0
	for _, p := range q.Pairs {
		mean += (p.AW - p.BW) / float64(len(q.Pairs))
	}
	if !q.within(func(i int) float64 { return offDB(q.Pairs[i].BW+mean-q.Pairs[i].AW, q.Pairs[i].AW) }) {
		return false
	}
	out.ZeroW = &mean
	return true
}

func (q Question) fitLine(out *Difference) bool {
	if len(q.Pairs) < 3 {
		return false
	}
	n, a, b := float64(len(q.Pairs)), 0.0, 0.0
	for _, p := range q.Pairs {
		a, b = a+p.AW/n, b+p.BW/n
	}
	num, den := 0.0, 0.0
	for _, p := range q.Pairs {
		num, den = num+(p.AW-a)*(p.BW-b), den+(p.AW-a)*(p.AW-a)
	}
	if den == 0 {
		return false
	}
	slope := num / den
	offset := b - slope*a
	if !q.within(func(i int) float64 { return offDB(q.Pairs[i].BW-slope*q.Pairs[i].AW-offset, q.Pairs[i].AW) }) {
		return false
	}
	out.Slope, out.OffsetW = &slope, &offset
	return true
}

func (q Question) words(d Difference) (detail, deciding string) {
	detail, deciding = q.wordsOf(d)
	for _, also := range d.AlsoFits {
		if d.Fits != FitsExpected {
			detail += "; " + map[Fit]string{FitsLoss: "one loss", FitsZero: "a zero error", FitsScaleAndZero: "a line of scale and zero"}[also] + " would explain it too"
		}
	}
	return detail, deciding
}

func (q Question) wordsOf(d Difference) (detail, deciding string) {
	const third = "a third meter, or either one straight on the radio, tells which of the two errs"
	mean := decibels(d.MeanDB)
	switch d.Fits {
	case FitsExpected:
		return fmt.Sprintf("the two differ by %s, as what lies between them takes: they agree", mean), ""
	case FitsLoss:
		return fmt.Sprintf("one loss of %s at every power, where %s was expected: something that takes dB, a cable, an adapter, a wrong offset or the scale of one meter", mean, q.expected()), "measure what lies between them, or leave it out and key again: a loss goes away with it, a meter's scale stays"
	case FitsZero:
		return fmt.Sprintf("the same %s at every power: the zero of one meter, no cable", units.Watts(*d.ZeroW)), "look at both meters unkeyed: the one that does not rest at zero errs"
	case FitsScaleAndZero:
		return fmt.Sprintf("a line: %.3g of what the first shows, and %s: scale and zero of a meter differ", *d.Slope, units.Watts(*d.OffsetW)), third
	}
	if len(q.Pairs) == 1 {
		return fmt.Sprintf("%s, where %s was expected; one pair cannot tell a loss from a meter", mean, q.expected()), "key the same again at another power level: a loss takes the same dB there"
	}
	return fmt.Sprintf("%s apart from power to power, by neither one loss nor one zero: no cable does that, one of the meters does", decibels(d.SpreadDB)), third
}

func (q Question) expected() string {
	if q.ExpectedDB == nil {
		return "nothing known"
	}
	return decibels(*q.ExpectedDB)
}

func decibels(db float64) string { return fmt.Sprintf("%.1f dB", db) }
