package publish

import (
	"strings"

	"talloak/core/decision"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/core/wiring"
)

// shown is what a page, its pictures and cards show of a band and level: worked out once, so that whatever is drawn
// is in the data.
type shown struct {
	Name      string         `json:"name"`
	Place     string         `json:"place"` // of it in an address: power-PLACE, emissions-PLACE
	Power     shownPower     `json:"power"`
	Emissions shownEmissions `json:"emissions"`
}

// shownPower is the power that stands, with its interval, k = 2; nil where there is none.
type shownPower struct {
	Verdict   decision.Verdict `json:"verdict"`
	ClaimedW  *float64         `json:"claimed_w"`
	PEP       bool             `json:"pep"`
	MeasuredW *float64         `json:"measured_w"`
	LowW      *float64         `json:"low_w"`
	HighW     *float64         `json:"high_w"`
	LegalMaxW *float64         `json:"legal_max_w"`
	ClaimDB   *float64         `json:"against_claim_db"`
}

// shownEmissions is the worst product with the room that is left, its interval, and how far was looked.
type shownEmissions struct {
	Verdict     decision.Verdict `json:"verdict"`
	RuleBook    string           `json:"rule_book,omitempty"`
	Product     string           `json:"product,omitempty"`
	RoomDB      *float64         `json:"room_db"` // at least so much where it was not seen
	Seen        bool             `json:"seen"`
	ExpandedDB  *float64         `json:"expanded_uncertainty_db"`
	CarrierHz   float64          `json:"carrier_hz,omitempty"`
	CarrierW    *float64         `json:"carrier_w"` // that dBc and limits were counted from
	SearchHz    []float64        `json:"search_hz,omitempty"`
	ExaminedHz  [][2]float64     `json:"examined_hz,omitempty"`
	BlindHz     [][2]float64     `json:"blind_hz,omitempty"`
	Complete    bool             `json:"complete"`
	CorrectedBy *corrected       `json:"corrected,omitempty"` // of the worst product
}

// corrected is how a figure was brought from what was read to the antenna connector, at a frequency.
type corrected struct {
	FrequencyHz float64      `json:"frequency_hz"`
	Meter       string       `json:"meter,omitempty"`
	LossDB      *float64     `json:"loss_db"` // in front of what reads it; nil where it is not known
	Takes       []path.Taken `json:"takes"`   // that loss, part by part
}

func (d *Document) show() []shown {
	out := []shown{}
	used := map[string]bool{}
	for _, l := range d.Board.Levels() {
		s := shown{Name: l.Name, Place: placeIn(l.Cell.Band.Name, l.Cell.Level)}
		if used[s.Place] { // the same in another mode
			s.Place = placeIn(s.Place, string(l.Cell.Mode))
		}
		used[s.Place] = true
		s.Power = showPower(&l)
		s.Emissions = showEmissions(&l)
		out = append(out, s)
	}
	return out
}

func showPower(l *level) shownPower {
	out := shownPower{Verdict: l.Power.Verdict, PEP: l.Cell.PEP}
	if l.Cell.Claimed > 0 {
		claimed := l.Cell.Claimed
		out.ClaimedW = &claimed
	}
	if r := l.Power.Reading; r != nil {
		out.MeasuredW, out.LowW, out.HighW, out.LegalMaxW = r.MeasuredW, r.LowW, r.HighW, r.LegalMaxW
		if r.AgainstClaim != nil {
			out.ClaimDB = r.AgainstClaim.DeltaDB
		}
	}
	return out
}

func showEmissions(l *level) shownEmissions {
	e := &l.Emissions
	out := shownEmissions{Verdict: l.Verdict}
	if e.Ruling == nil {
		return out
	}
	out.RuleBook, out.CarrierHz, out.CarrierW = e.RuleBook, e.FrequencyHz, e.MeanW
	if out.CarrierW == nil && e.Ruling.CarrierDBm != nil {
		w := float64(units.DBm(*e.Ruling.CarrierDBm).Watts())
		out.CarrierW = &w
	}
	c := &e.Ruling.Coverage
	if c.SearchFromHz != nil && c.SearchToHz != nil {
		out.SearchHz = []float64{*c.SearchFromHz, *c.SearchToHz}
	}
	out.ExaminedHz, out.BlindHz, out.Complete = c.Examined, c.Blind, c.Complete
	w := e.Ruling.Worst
	if w == nil {
		return out
	}
	out.Product, out.RoomDB, out.Seen = w.Name(), w.RoomDB, w.Seen
	if u := e.UncertaintyOf(w); u > 0 && w.Seen {
		out.ExpandedDB = &u
	}
	if w.Sweep != nil && w.ShownDBm != nil {
		for i := range e.Sweeps {
			if s := &e.Sweeps[i]; s.Name == *w.Sweep {
				out.CorrectedBy = throughAt(s.Through, *placeOf(w))
			}
		}
	}
	return out
}

// throughAt is what a path takes from a level at a frequency; nil where it cannot be worked out any more.
func throughAt(t *record.Through, hz float64) *corrected {
	if t == nil {
		return nil
	}
	whole, err := wiring.Compile(t)
	if err != nil {
		return nil
	}
	return takes(whole, "", hz)
}

func takes(p *path.Path, meter string, hz float64) *corrected {
	out := &corrected{FrequencyHz: hz, Meter: meter, Takes: []path.Taken{}}
	if p == nil {
		return out
	}
	if loss, ok := p.LossAt(units.Hertz(hz)); ok {
		v := float64(loss)
		out.LossDB = &v
	}
	out.Takes = p.Takes(units.Hertz(hz))
	return out
}

// correctedReadings are how each reading was brought to the connector, by its id.
func correctedReadings(all []power.Reading) map[string]*corrected {
	out := map[string]*corrected{}
	for _, r := range all {
		if r.Through == nil {
			continue
		}
		meter, before := wiring.MeterAndBefore(r.Through)
		out[r.ID] = takes(before, meter, r.FrequencyHz)
	}
	return out
}

// correctedSweeps are what the path of each sweep takes at its carrier, by its id.
func (d *Document) correctedSweeps() map[string]*corrected {
	out := map[string]*corrected{}
	for _, l := range d.Board.Levels() {
		for i := range l.Emissions.Sweeps {
			s := &l.Emissions.Sweeps[i]
			if c := throughAt(s.Through, l.Emissions.FrequencyHz); c != nil {
				out[s.ID] = c
			}
		}
	}
	return out
}

// ladderOf is the rung of the worst product.
func ladderOf(e *emissions.Ruling) emissions.Rung {
	if e.Ruling == nil || e.Ruling.Worst == nil {
		return emissions.Rung{}
	}
	return e.RungOf(e.Ruling.Worst)
}

// placeIn is words in the form in which they stand in an address: lower case, with a hyphen for every other sign.
func placeIn(parts ...string) string {
	var kept []string
	for _, p := range parts {
		if p != "" {
			kept = append(kept, strings.Map(func(r rune) rune {
				switch {
				case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
					return r
				case r >= 'A' && r <= 'Z':
					return r + 'a' - 'A'
				}
				return '-'
			}, p))
		}
	}
	return strings.Join(kept, "-")
}
