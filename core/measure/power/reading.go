package power

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
	"talloak/core/record"
	"talloak/core/rf"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Reading is a typed key-up line worked out. Result is of the carrier or mean power,
// Peak of a peak noted beside it or alone; nil where not read. AgainstClaim is nil
// where nothing is claimed, or the reading does not count for the claim; WhyNot then
// says why it does not count at all.
type Reading struct {
	record.Keyed
	ID           string          `json:"id"`
	TakenAt      time.Time       `json:"taken_at"`
	Text         string          `json:"text"`
	Entry        units.Entry     `json:"entry"`
	Unit         units.Unit      `json:"unit"`
	Channel      string          `json:"channel,omitempty"` // what its frequency is called in its service
	Result       *reading.Result `json:"result"`
	Peak         *reading.Result `json:"peak"`
	ClaimedW     *float64        `json:"claimed_w"`
	MeasuredW    *float64        `json:"measured_w"` // what stands against the claim: the peak where that is claimed
	LowW         *float64        `json:"low_w"`      // its interval, k = 2
	HighW        *float64        `json:"high_w"`
	AgainstClaim *claims.Result  `json:"against_claim"`
	LegalMaxW    *float64        `json:"legal_max_w"`
	LegalBy      string          `json:"legal_by"`
	Doubts       []say.Said      `json:"doubts"`
	Counts       bool            `json:"counts"`
	Outside      bool            `json:"outside"` // of the band claimed: kept at its own frequency, never held against the claim
	step         bool            // of an adjustment, which counts for no claim any more
	InUse        bool            `json:"in_use"`                   // through an antenna: kept, never held against the claim
	InUsePercent *float64        `json:"in_use_percent,omitempty"` // of what is claimed, for information alone
	Void         bool            `json:"void"`                     // it cannot be worked out any more
	WhyNot       string          `json:"why_not"`
	Standing     string          `json:"standing"`
	Reason       string          `json:"standing_reason"`
	Through      *record.Through `json:"through"`
	Joined       int             `json:"joined,omitempty"` // how many readings it is of, where that is more than one
	Parts        []Part          `json:"parts,omitempty"`  // the sets it was joined from, where there are several
	Beside
}

// Preview works a line out without keeping it; id is that of the reading it was
// kept as, empty for a new one. Errors are *problem.Error on "text", "frequency_hz"
// or "path_id".
func (d *Room) Preview(k record.Keyed, text string, through *record.Through, id string) (Reading, error) {
	return d.work(k, readLine(Draft{Text: text}), through, id)
}

func (d *Room) work(k record.Keyed, l line, through *record.Through, id string) (Reading, error) {
	out := Reading{Keyed: k, ID: id, Text: l.Text, Through: through, Standing: record.InForce, Counts: true, Doubts: noDoubts()}
	if l.err != nil {
		return out, l.err
	}
	entry := l.entry
	out.Entry = entry
	if entry.FrequencyHz != nil {
		out.FrequencyHz = *entry.FrequencyHz
	}
	if cell := d.review.Cell(k); cell != nil {
		if c, ok := cell.Band.ChannelAt(units.Hertz(out.FrequencyHz)); ok {
			out.Channel = "channel " + c.Name
		}
	}
	if why := l.noPower(); why != "" && l.Trusted == nil {
		out.besides(l, 0)
		out.drop(why)
		d.doubtSetup(&out)
		return out, nil
	}
	through, err := l.on(through)
	if err != nil {
		return out, err
	}
	out.Through = through
	before, meter, err := d.meterOf(through)
	if err != nil {
		return out, err
	}
	in := reading.Input{Frequency: units.Hertz(out.FrequencyHz), Meter: meter, AppliedOffsetDB: through.AppliedOffsetDB, Path: before}
	var whose string
	in.Pooled, whose = d.pooled(through, id)
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
	out.Doubts = append(out.Doubts, widened(in, whose)...)
	out.Doubts = append(out.Doubts, diagnose.Drift(repeats(in.Values))...)
	out.besides(l, units.DB(d.review.Rules.ToleranceDB))
	if l.AtMost {
		out.drop("turned down to a class of power: kept, and not held against the claim")
	}
	if l.Trusted != nil {
		out.drop(l.noPower())
		return out, nil
	}
	if wiring.InUse(through) {
		out.InUse = true
		out.drop("in use, through an antenna: kept, and not held against the claim")
	}
	d.compare(&out)
	return out, nil
}

func (d *Room) claimsPEP(k record.Keyed) bool {
	c := d.review.Cell(k)
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
		if f.Code == say.LowOnScaleCode && !in.Meter.Needle && in.Meter.PctFullScale == 0 {
			continue // digits are as fine at the foot of a scale, where nothing is uncertain in percent of it
		}
		if !slices.ContainsFunc(r.Doubts, func(s say.Said) bool { return s.Code == f.Code }) {
			r.Doubts = append(r.Doubts, f.Said)
		}
	}
	return &result, nil
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

// jumped doubts an SWR that is another than at the last key-up before on the same path and
// band.
func jumped(r *Reading, before []Reading) []say.Said {
	now := swrOf(r.Entry)
	already := slices.ContainsFunc(r.Doubts, func(s say.Said) bool { return s.Code == say.SWRIntoLoadCode })
	if now == nil || r.Through == nil || already {
		return nil
	}
	for i := len(before) - 1; i >= 0; i-- {
		o := &before[i]
		if was := swrOf(o.Entry); was != nil && o.Band == r.Band && o.Through != nil && o.Through.PathID == r.Through.PathID && o.Standing != record.Struck {
			return diagnose.SWRJumped(*now, *was)
		}
	}
	return nil
}

// repeats are the readings of a line in W, as they came.
func repeats(values []units.Quantity) []float64 {
	out := []float64{}
	for _, v := range values {
		if w, err := v.Power(); err == nil {
			out = append(out, float64(w))
		}
	}
	return out
}

// noLoadSWR is the SWR from which a load is none: what was read into it is held against no claim, as
// with an antenna (common practice, no source).
const noLoadSWR = 2

func (d *Room) doubtSetup(r *Reading) {
	s := d.review.Subject
	shown := ""
	if r.Entry.Level != nil {
		shown = *r.Entry.Level
	}
	setup := diagnose.Setup{
		LevelMeant: r.Level, LevelShown: shown, SWR: swrOf(r.Entry), SupplyV: r.Entry.SupplyV, SupplyMinV: s.SupplyMinV, SupplyA: r.Entry.SupplyA,
	}
	var set *float64
	if supply := r.Through.Supply; supply != nil {
		setup.SupplyLimitA, set = supply.Range.LimitA, &supply.SetV
	}
	if v := r.Entry.SupplyV; v != nil && slices.ContainsFunc(d.review.Sheet.SupplyV, func(meant float64) bool { return math.Abs(*v-meant) <= sameV }) {
		set = nil // a voltage that is to be measured at is no sag
	}
	r.Doubts = append(r.Doubts, diagnose.Supply(r.Entry.SupplyV, set, s.SupplyMaxV)...)
	if risk := r.Through.Risk; risk != nil {
		r.Doubts = append(r.Doubts, say.AtRisk(r.Through.Name, risk.Danger, risk.KeyS, risk.RestS))
	}
	if r.Mode == rulebook.AM && r.Result != nil && r.Peak != nil && r.Peak.Counts {
		setup.Carrier, setup.Peak = r.Result, r.Peak
	}
	if low := diagnose.BelowNominal(r.Entry.SupplyV, s.SupplyV); len(low) > 0 {
		r.OffSupply = true
		r.Doubts = append(r.Doubts, low...)
	}
	doubts, void := diagnose.Check(setup)
	r.Doubts = append(r.Doubts, doubts...)
	if void != "" {
		r.drop(void)
	}
	if swr := setup.SWR; swr != nil && *swr >= noLoadSWR && !wiring.InUse(r.Through) {
		r.drop(fmt.Sprintf("SWR %.2g into a load that should show none: a connector is loose or a part broken, and what was read is no power into 50 ohm; tighten and repeat", *swr))
	}
	if cell := d.review.Cell(r.Keyed); cell != nil && !cell.Band.Contains(units.Hertz(r.FrequencyHz)) {
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

// compare holds a reading against its claim, in the quantity claimed, and against
// the legal maximum.
func (d *Room) compare(r *Reading) {
	d.holdLegal(r)
	cell := d.review.Cell(r.Keyed)
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
	if r.InUse && cell.Claimed > 0 && read != nil && read.AtConnectorW != nil {
		share := 100 * *read.AtConnectorW / cell.Claimed
		r.InUsePercent = &share
	}
	if !r.Counts || read == nil || !read.Counts || read.AtConnectorW == nil {
		return
	}
	r.MeasuredW, r.LowW, r.HighW = read.AtConnectorW, read.LowW, read.HighW
	if d.beyondBelief(r, cell.Claimed) {
		return
	}
	if cell.Claimed == 0 || r.Outside || r.OffSupply {
		return
	}
	result, err := claims.Compare(d.claimOf(cell, r))
	if err != nil {
		return
	}
	r.AgainstClaim = &result
	r.Doubts = append(r.Doubts, diagnose.OverClaim(units.Watts(*r.MeasuredW), units.Watts(cell.Claimed), units.DB(d.review.Rules.ToleranceDB))...)
}

func (d *Room) claimOf(cell *claims.Cell, r *Reading) claims.Claim {
	return claims.Claim{
		ClaimedW: cell.Claimed, MeasuredW: *r.MeasuredW, LowW: r.LowW, HighW: r.HighW,
		Scheme: claims.Scheme(d.review.Rules.Scheme), ToleranceDB: d.review.Rules.ToleranceDB, PassPercent: d.review.Rules.PassPercent,
		Rule: decision.Rule(d.review.Rules.DecisionRule),
	}
}

// holdLegal names the legal maximum of the carrier, where the book has one for it,
// and doubts what is over it. One in ERP is held where the antenna's gain is told: the legal
// maximum is then what may come out of the connector; else it says nothing of that.
func (d *Room) holdLegal(r *Reading) {
	book := d.review.BookOf(r.Band)
	limit := book.PowerLimitFor(rulebook.Carrier{Frequency: units.Hertz(r.FrequencyHz), Mode: r.Mode, State: rulebook.Operating, Service: book.Service})
	if limit == nil {
		return
	}
	most, held := limit.MaxW, limit.As == "transmitter"
	r.LegalBy = fmt.Sprintf("%s, %s power, %s", limit.Citation, powerName(limit.Power), limit.As)
	switch gain := d.review.Subject.AntennaGainDBd; {
	case limit.As == "transmitter":
	case gain == nil:
		r.LegalBy += ": too close to call, since the antenna's gain is not told"
	default:
		over := units.DB(*gain)
		if limit.As == "eirp" {
			over += dipoleDBi
		}
		held, most = true, most/over.Ratio()
		r.LegalBy += fmt.Sprintf(": %s with an antenna of %+.1f dBd", units.Watts(limit.MaxW), *gain)
	}
	r.LegalMaxW = &most
	read := r.Result
	if limit.Power == "pep" && r.Peak != nil && r.Peak.Counts {
		read = r.Peak
	}
	if r.Counts && held && read != nil && read.AtConnectorW != nil {
		r.Doubts = append(r.Doubts, diagnose.OverLegal(units.Watts(*read.AtConnectorW), units.Watts(most))...)
	}
}

// dipoleDBi is the gain of a half-wave dipole over an antenna that radiates alike
// everywhere (textbook).
const dipoleDBi units.DB = 2.15

// beyondBelief drops a power many times the highest claimed, until it is explained: an offset
// dialled in twice rather than a radio; what would be the cause is named.
func (d *Room) beyondBelief(r *Reading, claimed float64) bool {
	most := max(claimed, d.highestClaim(r.Keyed))
	if most == 0 || r.MeasuredW == nil || *r.MeasuredW <= claims.BeyondBelief*most {
		return false
	}
	if standing, _ := d.review.Standing(r.ID); standing == record.Explained {
		return false
	}
	loss := units.DB(0)
	if before, _, err := d.meterOf(r.Through); err == nil {
		loss, _ = before.LossAt(units.Hertz(r.FrequencyHz))
	}
	said := claims.Unbelievable(units.Watts(*r.MeasuredW), units.Watts(most), loss, units.DB(r.Through.AppliedOffsetDB))
	r.Doubts = append(r.Doubts, said)
	r.drop(said.Detail)
	r.MeasuredW, r.LowW, r.HighW = nil, nil, nil
	return true
}

func powerName(power string) string {
	if power == "pep" {
		return "peak envelope"
	}
	return power
}

func noDoubts() []say.Said { return []say.Said{} }
