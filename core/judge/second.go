package judge

import (
	"fmt"
	"math"

	"talloak/core/say"
	"talloak/core/units"
)

// Standpoint is one sweep or look as it sees the carrier.
type Standpoint struct {
	Sweep      string   `json:"sweep"`
	CarrierDBm *float64 `json:"carrier_dbm"` // nil where it shows none
	OffDB      *float64 `json:"off_db"`      // that less the carrier's power
	LossDB     *float64 `json:"loss_db"`     // of its path, at the carrier
}

// standpoints are those of the ruling.
func (r *ruler) standpoints() {
	for _, e := range r.seen {
		s := Standpoint{Sweep: e.title()}
		if e.carrier != nil {
			s.CarrierDBm = ptr(float64(e.carrier.level))
			if r.known {
				s.OffDB = ptr(float64(e.carrier.level - r.carrier))
			}
		}
		if loss, ok := e.path.LossAt(r.f0); ok {
			s.LossDB = ptr(float64(loss))
		}
		r.out.Standpoints = append(r.out.Standpoints, s)
	}
}

// Second is what a second look says of a first one: of the same step, through a changed
// path, or after something was changed.
type Second struct {
	MoreDB   float64         `json:"more_db"`    // by how much the second path takes more, at the carrier
	Padded   bool            `json:"padded"`     // by enough more to tell what the analyzer makes itself
	Carrier  *float64        `json:"carrier_db"` // by how much the carrier stands higher in it
	Products []SecondProduct `json:"products"`
	Says     say.Said        `json:"says"`
}

// SecondProduct is a product in both.
type SecondProduct struct {
	Kind        Kind     `json:"kind"`
	Called      string   `json:"name"` // as Product.Name says it
	Order       *int     `json:"order"`
	FrequencyHz *float64 `json:"frequency_hz"`
	FirstDBm    *float64 `json:"first_dbm"`
	SecondDBm   *float64 `json:"second_dbm"`
	ChangeDB    *float64 `json:"change_db"`
	Doubted     bool     `json:"doubted"` // in the first, it was perhaps the analyzer's own
	Says        Change   `json:"says"`
}

// Change is what a product did between two looks.
type Change string

// The changes. Follows is a harmonic that went with the attenuation, or with the analyzer that
// was doubted, as what an analyzer makes itself does (a spur that went may have come and gone
// by itself: it only fell); Hidden one that the second look is too noisy to show.
const (
	Stays   Change = "stays"
	Follows Change = "follows"
	Fell    Change = "fell"
	Rose    Change = "rose"
	Hidden  Change = "hidden"
	Only    Change = "only-second"
)

// How a second look is told from a repeat, and a change from scatter, in dB (common
// practice, no source). The analyzer's own second harmonic falls by as much as is added: that
// must be told from scatter.
const (
	morePad = 6
	scatter = 2
)

// CompareLooks says what of two sweeps or looks of one ruling did between them, by their
// names. With more attenuation, what the radio emits stays; the analyzer's own harmonic n
// falls by n - 1 dB a dB, referred to the connector. False where either shows no carrier
// or is not there.
func (r *Ruling) CompareLooks(first, second string) (Second, bool) {
	a, b := r.standpoint(first), r.standpoint(second)
	if a == nil || b == nil || a.CarrierDBm == nil || b.CarrierDBm == nil || a.LossDB == nil || b.LossDB == nil {
		return Second{}, false
	}
	out := Second{MoreDB: *b.LossDB - *a.LossDB, Carrier: ptr(*b.CarrierDBm - *a.CarrierDBm), Products: []SecondProduct{}}
	out.Padded = out.MoreDB >= morePad
	for _, p := range r.Products {
		if p.Opened == nil || !p.Seen {
			continue
		}
		s := SecondProduct{Kind: p.Kind, Called: p.Name(), Order: p.Order, FrequencyHz: p.FrequencyHz}
		for _, sight := range p.Opened.Sights {
			switch sight.Sweep {
			case first:
				s.FirstDBm, s.Doubted = sight.LevelDBm, sight.Suspect
			case second:
				s.SecondDBm = sight.LevelDBm
			}
		}
		if s.FirstDBm == nil && s.SecondDBm == nil {
			continue
		}
		s.Says = r.change(&s, out, second)
		out.Products = append(out.Products, s)
	}
	out.Says = out.sum()
	return out, true
}

func (r *Ruling) standpoint(name string) *Standpoint {
	for i := range r.Standpoints {
		if r.Standpoints[i].Sweep == name {
			return &r.Standpoints[i]
		}
	}
	return nil
}

// change is what one product did, counted from what the carrier did; a product the second
// does not show may lie under what it can show.
func (r *Ruling) change(s *SecondProduct, pair Second, second string) Change {
	switch {
	case s.FirstDBm == nil:
		return Only
	case s.SecondDBm == nil:
		least, ok := r.LeastAt(second, units.Hertz(*s.FrequencyHz))
		d := least - *s.FirstDBm - *pair.Carrier // it fell by this at least
		if !ok || d >= -scatter {
			return Hidden
		}
		s.ChangeDB = &d
		return pair.fell(s)
	}
	d := *s.SecondDBm - *s.FirstDBm - *pair.Carrier
	s.ChangeDB = &d
	switch {
	case math.Abs(d) <= scatter:
		return Stays
	case d < 0:
		return pair.fell(s)
	}
	return Rose
}

// fell tells whether a product fell as what the analyzer makes itself: of harmonic n by more
// than half of n - 1 dB a dB, or where it was doubted and another analyzer looked.
func (s *Second) fell(p *SecondProduct) Change {
	if p.Kind != Harmonic {
		return Fell
	}
	own := s.MoreDB * float64(*p.Order-1)
	if s.Padded && -*p.ChangeDB >= own/2 || p.Doubted && s.MoreDB > -morePad {
		return Follows
	}
	return Fell
}

// LeastAt is the least that a sweep or look, by its name, could have shown at a frequency:
// its detection threshold, at the connector in dBm. An empty name asks all, the one that
// sees lowest counts. False where none looked there, or no floor was noted.
func (r *Ruling) LeastAt(name string, f units.Hertz) (float64, bool) {
	least, found := 0.0, false
	for _, e := range r.seen {
		if name != "" && e.title() != name || !e.examined.Contains(f) || e.flat != nil { // of a distance from the carrier no level is known
			continue
		}
		level, ok := e.atConnector(e.floor.Line(e.trace.Nearest(f)), f)
		if ok && !math.IsInf(float64(level), 0) && (!found || float64(level) < least) {
			least, found = float64(level), true
		}
	}
	return least, found
}

// sum is what the pair says as a whole.
func (s *Second) sum() say.Said {
	count := map[Change]int{}
	for _, p := range s.Products {
		count[p.Says]++
	}
	moved := ""
	if math.Abs(*s.Carrier) > scatter {
		moved = fmt.Sprintf("; the carrier itself reads %+.1f dB, and changes count from it", *s.Carrier)
	}
	switch own := count[Follows]; {
	case len(s.Products) == 0:
		return say.That("second-none", "neither shows a product%s", moved)
	case own > 0 && !s.Padded:
		return say.That("second-own", "%d of %d fell away that the first analyzer was expected to make itself%s", own, len(s.Products), moved).Do("count the second look for those, and hold the first suspect")
	case own > 0:
		return say.That("second-own", "%d of %d went with the %.1f dB more of attenuation, as what the analyzer makes itself does%s", own, len(s.Products), s.MoreDB, moved).Do("count the second look for those, and hold the first suspect")
	case s.Padded && count[Stays] > 0 && count[Fell]+count[Rose] == 0:
		return say.That("second-real", "what is seen stays with %.1f dB more of attenuation: it comes in from the radio, not from the analyzer%s", s.MoreDB, moved)
	case s.MoreDB <= -morePad:
		return say.That("second-less", "the second look has %.1f dB less of attenuation: only more of it can tell the analyzer's own%s", -s.MoreDB, moved)
	case count[Fell]+count[Rose] > 0:
		return say.That("second-changed", "%d fell and %d rose by more than %d dB between the two%s", count[Fell], count[Rose], scatter, moved).Do("what was changed in between made the difference, or a connector was loose: repeat the first to be sure")
	case count[Stays] > 0:
		return say.That("second-same", "both say the same within %d dB%s", scatter, moved)
	}
	return say.That("second-hidden", "the second look is too noisy to show what the first did%s", moved).Do("hold it longer, or narrow the span")
}
