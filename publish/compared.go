package publish

import (
	"slices"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/wiring"
)

// Compared is a band and level of a review as it stands beside those of others.
type Compared struct {
	Name  string `json:"name"`
	Band  string `json:"band"`
	Level string `json:"level"`
	Mode  string `json:"mode"`

	Power     decision.Verdict `json:"power"`
	ClaimedW  *float64         `json:"claimed_w"`
	MeasuredW *float64         `json:"measured_w"`
	LowW      *float64         `json:"low_w"` // its interval, k = 2
	HighW     *float64         `json:"high_w"`
	ClaimDB   *float64         `json:"against_claim_db"`
	ClaimLow  *float64         `json:"against_claim_low_db"`
	ClaimHigh *float64         `json:"against_claim_high_db"`

	Emissions  decision.Verdict `json:"emissions"`
	Product    string           `json:"product,omitempty"`
	RoomDB     *float64         `json:"room_db"`
	Seen       bool             `json:"seen"`
	ExpandedDB *float64         `json:"expanded_uncertainty_db"`
	Complete   bool             `json:"complete"`
}

// Kits names what the figures of a review were read on: the meters of its power, the analyzers of its emissions.
type Kits struct {
	Meters    []string `json:"meters"`
	Analyzers []string `json:"analyzers"`
}

// Compare is what a review's board brings to a comparison.
func Compare(r *measure.Review, b board.Board) ([]Compared, Kits) {
	kits := Kits{[]string{}, []string{}}
	add := func(to *[]string, name string) {
		if name != "" && !slices.Contains(*to, name) {
			*to = append(*to, name)
		}
	}
	out := []Compared{}
	for _, l := range keep(r, b).Levels() {
		p, e := showPower(&l), showEmissions(&l)
		c := Compared{
			Name: l.Name, Band: l.Cell.Band.Name, Level: l.Cell.Level, Mode: string(l.Cell.Mode),
			Power: p.Verdict, ClaimedW: p.ClaimedW, MeasuredW: p.MeasuredW, LowW: p.LowW, HighW: p.HighW, ClaimDB: p.ClaimDB,
			Emissions: e.Verdict, Product: e.Product, RoomDB: e.RoomDB, Seen: e.Seen, ExpandedDB: e.ExpandedDB, Complete: e.Complete,
		}
		if reading := l.Power.Reading; reading != nil {
			if against := reading.AgainstClaim; against != nil {
				c.ClaimLow, c.ClaimHigh = against.LowDB, against.HighDB
			}
			if reading.Through != nil {
				meter, _ := wiring.MeterAndBefore(reading.Through)
				add(&kits.Meters, meter)
			}
		}
		for _, s := range l.Emissions.Sweeps {
			if s.Standing == record.InForce && s.Through != nil && len(s.Through.Kit) > 0 {
				add(&kits.Analyzers, s.Through.Kit[len(s.Through.Kit)-1].Name)
			}
		}
		out = append(out, c)
	}
	return out, kits
}
