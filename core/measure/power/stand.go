package power

import (
	"fmt"
	"slices"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/diagnose"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/units"
)

func near(a, b float64) bool { return claims.SameFrequency(units.Hertz(a), units.Hertz(b)) }

// PowerOf is what stands for a box: readings of one frequency and supply are joined, and of
// the frequencies the one furthest on the wrong side of the claim stands, in the quantity
// claimed. Order never decides.
func (d *Room) PowerOf(k record.Keyed) Ruling {
	b := d.boxes[k.Box()]
	if b == nil {
		b = &box{agree: true}
	}
	if b.ruling == nil {
		ruling := d.powerOf(k, b)
		b.ruling = &ruling
	}
	return *b.ruling
}

func (d *Room) powerOf(k record.Keyed, b *box) Ruling {
	out := Ruling{Frequencies: []float64{}}
	var counting []*Reading
	var last *Reading
	outside, void, refused, low := 0, 0, 0, 0
	for i := range d.readings {
		r := &d.readings[i]
		if !r.SameBox(k) {
			continue
		}
		switch {
		case r.Refused:
			refused++
			continue
		case r.Check != "" || r.Trusted != nil:
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
		case r.OffSupply && r.Counts:
			low++
		case r.Counts && r.MeasuredW != nil:
			counting = append(counting, r)
		}
		if r.Counts && !r.Outside && !r.OffSupply && !slices.ContainsFunc(out.Frequencies, func(f float64) bool { return near(f, r.FrequencyHz) }) {
			out.Frequencies = append(out.Frequencies, r.FrequencyHz)
		}
	}
	agree := true
	cell := d.review.Cell(k)
	for _, group := range d.sets(counting, cell != nil && cell.PEP) {
		r, one := d.joined(group, cell)
		if v := verdictOf(r); out.Reading == nil || rank(v) < rank(out.Verdict) || v == out.Verdict && *r.MeasuredW < *out.Reading.MeasuredW {
			out.Reading, out.Verdict, agree = r, v, one
		}
	}
	switch {
	case out.Of == 0 && refused > 0:
		out.Verdict, out.Why = decision.NotCovered, "the radio refused to transmit"
	case out.Of == 0:
		out.Verdict, out.Why = decision.NotExamined, "no reading was taken"
	case void > 0:
		out.Verdict = decision.Void
	case out.Reading == nil && outside > 0:
		out.Verdict, out.Why = decision.NotCovered, "read outside the band claimed only"
	case out.Reading == nil && low > 0:
		out.Verdict, out.Why = decision.NotCovered, "read well below its nominal supply only"
	case out.Reading == nil && !last.Counts:
		out.Verdict, out.Why = decision.Void, fmt.Sprintf("none of %d readings counts: %s", out.Of, last.WhyNot)
	case out.Reading == nil:
		out.Verdict, out.Why = decision.NotCovered, "a peak is claimed, and none was noted (pk)"
	case !agree:
		out.Why = "readings on one frequency contradict each other by more than their uncertainties"
	default:
		out.Why = whyHeld(out.Reading)
	}
	return out
}

func verdictOf(r *Reading) decision.Verdict {
	if r.AgainstClaim == nil {
		return decision.NoClaim
	}
	return r.AgainstClaim.Verdict
}

// rank orders the verdicts on readings of a box from the one that stands first.
func rank(v decision.Verdict) int {
	return slices.Index([]decision.Verdict{decision.Fail, decision.Inconclusive, decision.Pass, decision.NoClaim}, v)
}

// held is the reading in the form its box weighs it.
func (r *Reading) held() claims.Held {
	h := claims.Held{W: *r.MeasuredW, LowW: *r.MeasuredW, HighW: *r.MeasuredW, Frequency: units.Hertz(r.FrequencyHz), SupplyV: r.Entry.SupplyV, Explained: r.Standing == record.Explained}
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

// At is what the readings that count at a frequency of a box say together, of several supplies the lowest;
// inside the band claimed, where none does, the one that stands for the box.
func (d *Room) At(k record.Keyed, hz float64) *Reading {
	var counting []*Reading
	for i := range d.readings {
		r := &d.readings[i]
		if r.Counts && r.Result != nil && r.Result.AtConnectorW != nil && len(r.Entry.Readings) > 0 && r.SameBox(k) && near(r.FrequencyHz, hz) && !r.OffSupply {
			counting = append(counting, r)
		}
	}
	var at *Reading
	for _, group := range d.sets(counting, false) {
		if r, _ := d.joined(group, nil); at == nil || *r.Result.AtConnectorW < *at.Result.AtConnectorW {
			at = r
		}
	}
	if at != nil {
		return at
	}
	if cell := d.review.Cell(k); cell != nil && !cell.Band.Contains(units.Hertz(hz)) {
		return nil
	}
	return d.PowerOf(k).Reading
}

// Contradictions are the readings of the same box that a reading contradicts.
func (d *Room) Contradictions(r *Reading) []say.Said {
	if !r.Counts || r.MeasuredW == nil {
		return nil
	}
	b := d.boxes[r.Box()]
	if b == nil || b.agree && r.ID != "" {
		return nil
	}
	mine := r.held()
	for i, o := range b.counting {
		if o.ID != r.ID && claims.Contradict(mine, b.held[i]) {
			return []say.Said{say.Contradicts(units.Watts(*r.MeasuredW), units.Watts(*o.MeasuredW), o.Text)}
		}
	}
	return nil
}

// Apart is how far the readings of a box at the frequency keyed lie from each other at the most, in dB, where
// they contradict each other; 0 where none does.
func (d *Room) Apart(k record.Keyed) units.DB {
	b := d.boxes[k.Box()]
	if b == nil || b.agree {
		return 0
	}
	most := units.DB(0)
	for i, a := range b.held {
		for j, o := range b.held[:i] {
			if near(b.counting[i].FrequencyHz, k.FrequencyHz) && near(b.counting[j].FrequencyHz, k.FrequencyHz) && a.W > 0 && o.W > 0 && claims.Contradict(a, o) {
				most = max(most, units.RatioDB(max(a.W, o.W)/min(a.W, o.W)))
			}
		}
	}
	return most
}

// doubtLevels holds the readings that stand for the levels of a band against
// each other.
func (d *Room) doubtLevels() {
	for _, c := range d.review.Cells {
		if r := d.PowerOf(record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}).Reading; r != nil {
			r.Doubts = append(r.Doubts, d.LevelDoubts(r)...)
		}
	}
}

// sameByDesign tells whether two levels are said to give the same power.
func (d *Room) sameByDesign(band, a, b string) bool {
	return slices.ContainsFunc(d.review.Others(claims.SamePower), func(o claims.Other) bool {
		return (o.Band == "" || o.Band == band) && slices.Contains(o.Levels, a) && slices.Contains(o.Levels, b)
	})
}

// LevelDoubts holds a reading against those of the other levels of its band.
func (d *Room) LevelDoubts(r *Reading) []say.Said {
	if r.MeasuredW == nil || r.Outside || r.OffSupply {
		return nil
	}
	var above, below []diagnose.LevelReading
	passed := false
	for _, c := range d.review.Cells {
		if c.Band.Name != r.Band || c.Mode != r.Mode {
			continue
		}
		if c.Level == r.Level {
			passed = true
			continue
		}
		other := d.PowerOf(record.Keyed{Band: c.Band.Name, Level: c.Level, Mode: c.Mode}).Reading
		if other == nil || d.sameByDesign(r.Band, r.Level, c.Level) {
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
