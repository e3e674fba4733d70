package dossier

import (
	"fmt"
	"math"
	"slices"
	"time"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/diagnose"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/store"
)

// Keyed says what is keyed: a band at a level, in a mode, on a frequency.
type Keyed struct {
	Band        string        `json:"band"`
	Level       string        `json:"level"`
	Mode        rulebook.Mode `json:"mode" enum:"FM,AM,SSB,CW,DIGITAL"`
	FrequencyHz float64       `json:"frequency_hz" exclusiveMinimum:"0"`
}

// Reading is a typed key-up line worked out. AgainstClaim is nil where nothing
// is claimed or the reading does not count; WhyNot then says why.
type Reading struct {
	Keyed
	ID           string               `json:"id"`
	TakenAt      time.Time            `json:"taken_at"`
	Text         string               `json:"text"`
	Entry        units.Entry          `json:"entry"`
	Unit         units.Unit           `json:"unit"`
	Result       *reading.Result      `json:"result"`
	ClaimedW     *float64             `json:"claimed_w"`
	MeasuredW    *float64             `json:"measured_w"` // what stands against the claim: the peak where that is claimed
	AgainstClaim *claims.Result       `json:"against_claim"`
	LegalMaxW    *float64             `json:"legal_max_w"`
	LegalBy      string               `json:"legal_by"`
	Doubts       []diagnose.Suspicion `json:"doubts"`
	Counts       bool                 `json:"counts"`
	WhyNot       string               `json:"why_not"`
	Standing     string               `json:"standing"`
	Reason       string               `json:"standing_reason"`
	Through      store.Through        `json:"through"`
}

func (d *Dossier) reading(row *store.Reading) Reading {
	r, err := d.Preview(Keyed{row.Band, row.Level, rulebook.Mode(row.Mode), row.FrequencyHz}, row.Text, row.Through)
	if err != nil { // it was read when it was taken: only newer rules can refuse it
		r = Reading{Text: row.Text, WhyNot: err.Error(), Through: row.Through, Doubts: []diagnose.Suspicion{}}
		r.Keyed = Keyed{row.Band, row.Level, rulebook.Mode(row.Mode), row.FrequencyHz}
	}
	r.ID, r.TakenAt = row.ID, row.TakenAt
	r.Standing, r.Reason = d.standing(row.ID)
	if r.Standing != "in-force" {
		r.Counts, r.WhyNot = false, r.Standing+": "+r.Reason
	}
	return r
}

// Preview works a line out without keeping it. Errors are *problem.Error on
// "text", "frequency_hz" or "path_id".
func (d *Dossier) Preview(k Keyed, text string, through store.Through) (Reading, error) {
	out := Reading{Keyed: k, Text: text, Through: through, Standing: "in-force", Counts: true, Doubts: []diagnose.Suspicion{}}
	entry, err := units.ParseEntry(text)
	if err != nil {
		return out, err
	}
	out.Entry = entry
	if entry.FrequencyHz != nil {
		out.FrequencyHz = *entry.FrequencyHz
	}
	before, meter, err := meterOf(through)
	if err != nil {
		return out, err
	}
	in := reading.Input{Frequency: units.Hertz(out.FrequencyHz), Meter: meter, AppliedOffsetDB: through.AppliedOffsetDB, Path: before}
	in.Values, out.Unit, err = values(entry)
	if err != nil {
		return out, err
	}
	result, err := reading.Refer(in)
	if err != nil {
		return out, err
	}
	out.Result = &result
	if !result.Counts {
		out.drop(result.Flags[0].Detail)
		for _, f := range result.Flags {
			if f.Code == "pegged" || f.Code == "meter-out-of-range" || f.Code == "path-out-of-range" {
				out.WhyNot = f.Detail
			}
		}
	}
	d.doubtSetup(&out)
	d.compare(&out)
	return out, nil
}

func (r *Reading) drop(why string) { r.Counts, r.WhyNot = false, why }

// values are the readings of a line in one unit, watts where none is given.
func values(e units.Entry) ([]units.Quantity, units.Unit, error) {
	if len(e.Readings) == 0 {
		return nil, "", problem.New("text", "no reading in the line; begin with what the meter shows, such as 4.71")
	}
	unit := units.W
	for _, r := range e.Readings {
		if r.Unit != nil {
			unit = *r.Unit
		}
	}
	out := make([]units.Quantity, len(e.Readings))
	for i, r := range e.Readings {
		if r.Unit != nil && *r.Unit != unit {
			return nil, "", problem.New("text", "the readings are in different units; give them in one")
		}
		out[i] = units.Quantity{Value: r.Value, Unit: unit}
	}
	return out, unit, nil
}

func (d *Dossier) doubtSetup(r *Reading) {
	s := d.Review.Subject
	shown := ""
	if r.Entry.Level != nil {
		shown = *r.Entry.Level
	}
	doubts, void := diagnose.Check(diagnose.Setup{LevelMeant: r.Level, LevelShown: shown, SWR: r.Entry.SWR, SupplyV: r.Entry.SupplyV, SupplyMinV: s.SupplyMinV})
	r.Doubts = append(r.Doubts, doubts...)
	if void && r.Counts {
		r.drop(doubts[len(doubts)-1].Detail)
	}
}

// cell is the box of the matrix a measurement belongs to, or nil.
func (d *Dossier) cell(k Keyed) *claims.Cell {
	for i := range d.Cells {
		if c := &d.Cells[i]; c.Band.Name == k.Band && c.Level == k.Level && c.Mode == k.Mode {
			return c
		}
	}
	return nil
}

func (d *Dossier) compare(r *Reading) {
	if limit := d.Book.PowerLimitFor(rulebook.Carrier{Frequency: units.Hertz(r.FrequencyHz), Mode: r.Mode, State: rulebook.Operating, Service: d.Book.Service}); limit != nil {
		r.LegalMaxW = &limit.MaxW
		if r.Counts && limit.As == "transmitter" && r.Result.AtConnectorW != nil {
			r.Doubts = append(r.Doubts, diagnose.OverLegal(units.Watts(*r.Result.AtConnectorW), units.Watts(limit.MaxW))...)
		}
		r.LegalBy = fmt.Sprintf("%s, %s power, %s", limit.Citation, powerName(limit.Power), limit.As)
	}
	cell := d.cell(r.Keyed)
	if cell == nil {
		return
	}
	if cell.Claimed > 0 {
		r.ClaimedW = &cell.Claimed
	}
	if !r.Counts || r.Result.AtConnectorW == nil {
		return
	}
	r.MeasuredW = r.Result.AtConnectorW
	if cell.PEP {
		r.MeasuredW = nil
		if r.Entry.PeakW != nil {
			r.MeasuredW = r.Result.Peak(*r.Entry.PeakW)
		}
	}
	if cell.Claimed == 0 || r.MeasuredW == nil {
		return
	}
	u := 0.0
	if r.Result.UncertaintyDB != nil {
		u = *r.Result.UncertaintyDB
	}
	result, err := claims.Compare(claims.Claim{
		ClaimedW: cell.Claimed, MeasuredW: *r.MeasuredW, ExpandedUncertaintyDB: u,
		Scheme: claims.Scheme(d.Rules.Scheme), ToleranceDB: d.Rules.ToleranceDB, PassPercent: d.Rules.PassPercent,
		Rule: decision.Rule(d.Rules.DecisionRule),
	})
	if err == nil {
		r.AgainstClaim = &result
	}
}

func powerName(power string) string {
	if power == "pep" {
		return "peak envelope"
	}
	return power
}

// Readings lists all readings in the order taken.
func (d *Dossier) Readings() []Reading { return d.readings }

// sameFrequency is how near two readings or sweeps must be keyed to be of one
// frequency.
const sameFrequency = 1e-3

func near(a, b float64) bool { return math.Abs(a-b) <= sameFrequency*b }

// PowerOf is the reading that stands for a box. At each frequency the last that
// counts stands; of those, the one furthest below its claim stands for the box,
// so that a good frequency never hides a bad one. Of is how many were taken.
func (d *Dossier) PowerOf(k Keyed) (standing *Reading, of int) {
	var last []*Reading // one a frequency
	for i := range d.readings {
		r := &d.readings[i]
		if r.Band != k.Band || r.Level != k.Level || r.Mode != k.Mode {
			continue
		}
		of++
		if !r.Counts {
			continue
		}
		at := slices.IndexFunc(last, func(o *Reading) bool { return near(r.FrequencyHz, o.FrequencyHz) })
		if at < 0 {
			last = append(last, r)
		} else {
			last[at] = r
		}
	}
	for _, r := range last {
		if standing == nil || *r.Result.AtConnectorW < *standing.Result.AtConnectorW {
			standing = r
		}
	}
	return standing, of
}

// powerAt is the last reading of a box that counts at a frequency, else the one
// that stands for the box.
func (d *Dossier) powerAt(k Keyed, hz float64) *Reading {
	for i := len(d.readings) - 1; i >= 0; i-- {
		r := &d.readings[i]
		if r.Counts && r.Band == k.Band && r.Level == k.Level && r.Mode == k.Mode && near(r.FrequencyHz, hz) {
			return r
		}
	}
	standing, _ := d.PowerOf(k)
	return standing
}

// doubtLevels holds the readings that stand for the levels of a band against
// each other.
func (d *Dossier) doubtLevels() {
	for _, c := range d.Cells {
		if r, _ := d.PowerOf(Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}); r != nil {
			r.Doubts = append(r.Doubts, d.LevelDoubts(r)...)
		}
	}
}

// LevelDoubts holds a reading against those of the other levels of its band.
func (d *Dossier) LevelDoubts(r *Reading) []diagnose.Suspicion {
	if r.Result == nil || r.Result.AtConnectorW == nil {
		return nil
	}
	var above, below []diagnose.LevelReading
	passed := false
	for _, c := range d.Cells {
		if c.Band.Name != r.Band || c.Mode != r.Mode {
			continue
		}
		if c.Level == r.Level {
			passed = true
			continue
		}
		other, _ := d.PowerOf(Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode})
		if other == nil {
			continue
		}
		at := diagnose.LevelReading{Level: c.Level, W: *other.Result.AtConnectorW}
		if passed {
			below = append(below, at)
		} else {
			above = append(above, at)
		}
	}
	return diagnose.Levels(diagnose.LevelReading{Level: r.Level, W: *r.Result.AtConnectorW}, above, below)
}
