package dossier

import (
	"fmt"
	"slices"
	"time"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/diagnose"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/rf"
	"talloak/core/rulebook"
	"talloak/core/uncertainty"
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

// Reading is a typed key-up line worked out. Result is of the carrier or mean power,
// Peak of a peak noted beside it or alone; nil where not read. AgainstClaim is nil
// where nothing is claimed, or the reading does not count for the claim; WhyNot then
// says why it does not count at all.
type Reading struct {
	Keyed
	ID           string               `json:"id"`
	TakenAt      time.Time            `json:"taken_at"`
	Text         string               `json:"text"`
	Entry        units.Entry          `json:"entry"`
	Unit         units.Unit           `json:"unit"`
	Result       *reading.Result      `json:"result"`
	Peak         *reading.Result      `json:"peak"`
	ClaimedW     *float64             `json:"claimed_w"`
	MeasuredW    *float64             `json:"measured_w"` // what stands against the claim: the peak where that is claimed
	LowW         *float64             `json:"low_w"`      // its interval, k = 2
	HighW        *float64             `json:"high_w"`
	AgainstClaim *claims.Result       `json:"against_claim"`
	LegalMaxW    *float64             `json:"legal_max_w"`
	LegalBy      string               `json:"legal_by"`
	Doubts       []diagnose.Suspicion `json:"doubts"`
	Counts       bool                 `json:"counts"`
	Outside      bool                 `json:"outside"` // of the band claimed: kept at its own frequency, never held against the claim
	InUse        bool                 `json:"in_use"`  // through an antenna: kept, never held against the claim
	Void         bool                 `json:"void"`    // it cannot be worked out any more
	WhyNot       string               `json:"why_not"`
	Standing     string               `json:"standing"`
	Reason       string               `json:"standing_reason"`
	Through      store.Through        `json:"through"`
}

func (d *Dossier) reading(row *store.Reading) Reading {
	r, err := d.Preview(Keyed{row.Band, row.Level, rulebook.Mode(row.Mode), row.FrequencyHz}, row.Text, row.Through, row.ID)
	if err != nil { // it was read when it was taken: only newer rules can refuse it
		r = Reading{Text: row.Text, WhyNot: "it cannot be worked out any more: " + err.Error(), Void: true, Through: row.Through, Doubts: []diagnose.Suspicion{}}
		r.Keyed = Keyed{row.Band, row.Level, rulebook.Mode(row.Mode), row.FrequencyHz}
	}
	r.ID, r.TakenAt = row.ID, row.TakenAt
	r.Standing, r.Reason = d.standing(row.ID)
	if r.Standing == struck || r.Standing == suspect {
		r.Counts, r.Void, r.WhyNot = false, false, r.Standing+": "+r.Reason
	}
	return r
}

// Preview works a line out without keeping it; id is that of the reading it was
// kept as, empty for a new one. Errors are *problem.Error on "text", "frequency_hz"
// or "path_id".
func (d *Dossier) Preview(k Keyed, text string, through store.Through, id string) (Reading, error) {
	out := Reading{Keyed: k, Text: text, Through: through, Standing: inForce, Counts: true, Doubts: []diagnose.Suspicion{}}
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
	in := reading.Input{Frequency: units.Hertz(out.FrequencyHz), Meter: meter, AppliedOffsetDB: through.AppliedOffsetDB, Path: before, Pooled: d.pooled(through, id)}
	in.Values, out.Unit, err = values(entry)
	if err != nil {
		return out, err
	}
	if out.Result, err = out.refer(in); err != nil {
		return out, err
	}
	if peak := entry.PeakW; peak != nil {
		in.Values = []units.Quantity{{Value: *peak, Unit: units.W}}
		if out.Peak, err = out.refer(in); err != nil {
			return out, err
		}
	}
	for _, read := range []*reading.Result{out.Result, out.Peak} {
		if read != nil && !read.Counts && (read == out.Result || out.Result == nil || d.claimsPEP(k)) {
			out.drop(voiding(read))
		}
	}
	d.doubtSetup(&out)
	if k := through.Kit; len(k) > 0 && k[len(k)-1].Spec.KindOf().InUse() {
		out.InUse = true
		out.drop("in use, through an antenna: kept, and not held against the claim")
	}
	d.compare(&out)
	return out, nil
}

func (d *Dossier) claimsPEP(k Keyed) bool {
	c := d.cell(k)
	return c != nil && c.PEP
}

// voiding is why a reading does not count.
func voiding(r *reading.Result) string {
	for _, f := range r.Flags {
		if f.Voids {
			return f.Detail
		}
	}
	return ""
}

// refer works out what a meter showed; what is odd about it becomes a doubt.
func (r *Reading) refer(in reading.Input) (*reading.Result, error) {
	if len(in.Values) == 0 {
		return nil, nil
	}
	result, err := reading.Refer(in)
	if err != nil {
		return nil, err
	}
	for _, f := range result.Flags {
		if !slices.ContainsFunc(r.Doubts, func(s diagnose.Suspicion) bool { return s.Code == f.Code }) {
			r.Doubts = append(r.Doubts, diagnose.Suspicion{Code: f.Code, Detail: f.Detail, Advice: f.Advice})
		}
	}
	return &result, nil
}

// pooled is the scatter of all other repeats on the same meter in this review.
func (d *Dossier) pooled(through store.Through, but string) *reading.Pooled {
	meter := meterID(through)
	var all []uncertainty.Scatter
	for i := range d.facts.Readings {
		row := &d.facts.Readings[i]
		if standing, _ := d.standing(row.ID); row.ID == but || meter == "" || standing == struck || standing == suspect || meterID(row.Through) != meter {
			continue
		}
		if s, ok := d.scatters[row.ID]; ok {
			all = append(all, s)
		}
	}
	p := uncertainty.Pool(all...)
	if p.Degrees == 0 {
		return nil
	}
	return &reading.Pooled{SRelative: p.S, Degrees: p.Degrees}
}

// scatterOf is that of the repeats typed in one line.
func scatterOf(text string) (uncertainty.Scatter, bool) {
	entry, err := units.ParseEntry(text)
	if err != nil {
		return uncertainty.Scatter{}, false
	}
	typed, _, err := values(entry)
	if err != nil || len(typed) < 2 {
		return uncertainty.Scatter{}, false
	}
	s, err := reading.ScatterOf(typed)
	return s, err == nil
}

func (r *Reading) drop(why string) {
	if r.Counts {
		r.Counts, r.WhyNot = false, why
	}
}

// values are the readings of a line in one unit, watts where none is given; none
// where only a peak was read.
func values(e units.Entry) ([]units.Quantity, units.Unit, error) {
	if len(e.Readings) == 0 && e.PeakW == nil {
		return nil, "", problem.New("text", "no reading in the line; begin with what the meter shows, such as 4.71, or pk 41 for a peak alone")
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
	setup := diagnose.Setup{
		LevelMeant: r.Level, LevelShown: shown, SWR: swrOf(r.Entry), SupplyV: r.Entry.SupplyV, SupplyMinV: s.SupplyMinV, SupplyA: r.Entry.SupplyA,
	}
	if supply := r.Through.Supply; supply != nil {
		setup.SupplyLimitA = supply.Range.LimitA
	}
	if r.Mode == rulebook.AM && r.Result != nil && r.Peak != nil && r.Peak.Counts {
		setup.CarrierW, setup.PeakW = r.Result.AtConnectorW, r.Peak.AtConnectorW
	}
	doubts, void := diagnose.Check(setup)
	r.Doubts = append(r.Doubts, doubts...)
	if void != "" {
		r.drop(void)
	}
	if cell := d.cell(r.Keyed); cell != nil && !cell.Band.Contains(units.Hertz(r.FrequencyHz)) {
		r.Outside = true
		r.Doubts = append(r.Doubts, diagnose.OutsideBand(units.Hertz(r.FrequencyHz), cell.Band))
	}
}

// swrOf is the SWR as typed, or that of forward and reflected power.
func swrOf(e units.Entry) *float64 {
	if e.SWR != nil || e.ForwardW == nil || e.ReflectedW == nil {
		return e.SWR
	}
	r, err := rf.FromPowers(units.Watts(*e.ForwardW), units.Watts(*e.ReflectedW))
	if err != nil {
		return nil
	}
	return &r.SWR
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

// compare holds a reading against its claim, in the quantity claimed, and against
// the legal maximum.
func (d *Dossier) compare(r *Reading) {
	d.holdLegal(r)
	cell := d.cell(r.Keyed)
	if cell == nil {
		return
	}
	if cell.Claimed > 0 {
		r.ClaimedW = &cell.Claimed
	}
	read := r.Result
	if cell.PEP {
		read = r.Peak
	}
	if !r.Counts || read == nil || !read.Counts || read.AtConnectorW == nil {
		return
	}
	r.MeasuredW, r.LowW, r.HighW = read.AtConnectorW, read.LowW, read.HighW
	if cell.Claimed == 0 || r.Outside {
		return
	}
	result, err := claims.Compare(d.claimOf(cell, r))
	if err != nil {
		return
	}
	r.AgainstClaim = &result
	r.Doubts = append(r.Doubts, diagnose.OverClaim(units.Watts(*r.MeasuredW), units.Watts(cell.Claimed), units.DB(d.Rules.ToleranceDB))...)
}

func (d *Dossier) claimOf(cell *claims.Cell, r *Reading) claims.Claim {
	return claims.Claim{
		ClaimedW: cell.Claimed, MeasuredW: *r.MeasuredW, LowW: r.LowW, HighW: r.HighW,
		Scheme: claims.Scheme(d.Rules.Scheme), ToleranceDB: d.Rules.ToleranceDB, PassPercent: d.Rules.PassPercent,
		Rule: decision.Rule(d.Rules.DecisionRule),
	}
}

// holdLegal names the legal maximum of the carrier, where the book has one for it,
// and doubts what is over it. One in ERP says nothing of conducted power.
func (d *Dossier) holdLegal(r *Reading) {
	limit := d.Book.PowerLimitFor(rulebook.Carrier{Frequency: units.Hertz(r.FrequencyHz), Mode: r.Mode, State: rulebook.Operating, Service: d.Book.Service})
	if limit == nil {
		return
	}
	r.LegalMaxW = &limit.MaxW
	r.LegalBy = fmt.Sprintf("%s, %s power, %s", limit.Citation, powerName(limit.Power), limit.As)
	read := r.Result
	if limit.Power == "pep" && r.Peak != nil && r.Peak.Counts {
		read = r.Peak
	}
	if r.Counts && limit.As == "transmitter" && read != nil && read.AtConnectorW != nil {
		r.Doubts = append(r.Doubts, diagnose.OverLegal(units.Watts(*read.AtConnectorW), units.Watts(limit.MaxW))...)
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

func near(a, b float64) bool { return claims.SameFrequency(units.Hertz(a), units.Hertz(b)) }

// Power is what stands of the readings of a box, out of Of that were taken.
type Power struct {
	Reading     *Reading // nil where none counts for the claim
	Verdict     decision.Verdict
	Why         string
	Of          int
	Frequencies []float64 // at which was read, inside the band
}

// PowerOf is what stands for a box: of the readings that count for its claim, the
// one furthest on its wrong side, in the quantity claimed. Order never decides.
func (d *Dossier) PowerOf(k Keyed) Power {
	var out Power
	var counting []*Reading
	var held []claims.Held
	var last *Reading
	outside, void := 0, 0
	for i := range d.readings {
		r := &d.readings[i]
		if r.Band != k.Band || r.Level != k.Level || r.Mode != k.Mode {
			continue
		}
		out.Of++
		last = r
		switch {
		case r.Void:
			void++
			out.Why = fmt.Sprintf("the reading %q: %s", r.Text, r.WhyNot)
		case r.Outside && r.Counts:
			outside++
		case r.Counts && r.MeasuredW != nil:
			counting = append(counting, r)
			held = append(held, r.held())
		}
		if r.Counts && !r.Outside && !slices.ContainsFunc(out.Frequencies, func(f float64) bool { return near(f, r.FrequencyHz) }) {
			out.Frequencies = append(out.Frequencies, r.FrequencyHz)
		}
	}
	s := claims.Stand(held)
	if s.Stands >= 0 {
		out.Reading = counting[s.Stands]
	}
	switch {
	case out.Of == 0:
		out.Verdict, out.Why = decision.NotExamined, "no reading was taken"
	case void > 0:
		out.Verdict = decision.Void
	case s.Stands < 0 && outside > 0:
		out.Verdict, out.Why = decision.NotCovered, "read outside the band claimed only"
	case s.Stands < 0 && !last.Counts:
		out.Verdict, out.Why = decision.Void, fmt.Sprintf("none of %d readings counts: %s", out.Of, last.WhyNot)
	case s.Stands < 0:
		out.Verdict, out.Why = decision.NotCovered, "a peak is claimed, and none was noted (pk)"
	case s.Doubted[s.Stands]:
		out.Verdict, out.Why = s.Verdict, "readings on one frequency contradict each other by more than their uncertainties"
	default:
		out.Verdict, out.Why = s.Verdict, whyHeld(out.Reading)
	}
	return out
}

// held is the reading in the form its box weighs it.
func (r *Reading) held() claims.Held {
	h := claims.Held{W: *r.MeasuredW, LowW: *r.MeasuredW, HighW: *r.MeasuredW, Frequency: units.Hertz(r.FrequencyHz), SupplyV: r.Entry.SupplyV, Explained: r.Standing == explained, Result: r.AgainstClaim}
	if r.LowW != nil {
		h.LowW, h.HighW = *r.LowW, *r.HighW
	}
	return h
}

func whyHeld(r *Reading) string {
	switch {
	case r.AgainstClaim == nil:
		return "nothing is claimed"
	case r.AgainstClaim.DeltaDB == nil:
		return "no output shown"
	}
	return fmt.Sprintf("%s of the claim, %s, at %s", r.AgainstClaim.PercentWords(), units.DB(*r.AgainstClaim.DeltaDB).Signed(), units.Hertz(r.FrequencyHz))
}

// powerAt is the reading that counts at a frequency of a box, with the lowest power;
// inside the band claimed, where none does, the one that stands for the box.
func (d *Dossier) powerAt(k Keyed, hz float64) *Reading {
	var at *Reading
	for i := range d.readings {
		r := &d.readings[i]
		if r.Counts && r.Result != nil && r.Band == k.Band && r.Level == k.Level && r.Mode == k.Mode && near(r.FrequencyHz, hz) && (at == nil || *r.Result.AtConnectorW < *at.Result.AtConnectorW) {
			at = r
		}
	}
	if at != nil {
		return at
	}
	if cell := d.cell(k); cell != nil && !cell.Band.Contains(units.Hertz(hz)) {
		return nil
	}
	return d.PowerOf(k).Reading
}

// doubtContradictions says of each reading which other it contradicts.
func (d *Dossier) doubtContradictions() {
	for i := range d.readings {
		r := &d.readings[i]
		r.Doubts = append(r.Doubts, d.Contradictions(r)...)
	}
}

// Contradictions are the readings of the same box that a reading contradicts.
func (d *Dossier) Contradictions(r *Reading) []diagnose.Suspicion {
	if !r.Counts || r.MeasuredW == nil {
		return nil
	}
	for i := range d.readings {
		o := &d.readings[i]
		if o.ID != r.ID && o.Counts && o.MeasuredW != nil && o.Band == r.Band && o.Level == r.Level && o.Mode == r.Mode && claims.Contradict(r.held(), o.held()) {
			return []diagnose.Suspicion{diagnose.Contradicts(units.Watts(*r.MeasuredW), units.Watts(*o.MeasuredW), o.Text)}
		}
	}
	return nil
}

// doubtLevels holds the readings that stand for the levels of a band against
// each other.
func (d *Dossier) doubtLevels() {
	for _, c := range d.Cells {
		if r := d.PowerOf(Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}).Reading; r != nil {
			r.Doubts = append(r.Doubts, d.LevelDoubts(r)...)
		}
	}
}

// LevelDoubts holds a reading against those of the other levels of its band.
func (d *Dossier) LevelDoubts(r *Reading) []diagnose.Suspicion {
	if r.MeasuredW == nil || r.Outside {
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
		other := d.PowerOf(Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}).Reading
		if other == nil {
			continue
		}
		at := diagnose.LevelReading{Level: c.Level, W: *other.MeasuredW}
		if passed {
			below = append(below, at)
		} else {
			above = append(above, at)
		}
	}
	return diagnose.Levels(diagnose.LevelReading{Level: r.Level, W: *r.MeasuredW}, above, below)
}
