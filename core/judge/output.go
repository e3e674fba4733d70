package judge

import (
	"slices"

	"talloak/core/decision"
	"talloak/core/origin"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/units"
)

// Kind is what a product is, in relation to the carrier.
type Kind string

// The kinds of products.
const (
	Harmonic    Kind = "harmonic"
	Subharmonic Kind = "subharmonic"
	Spur        Kind = "spur"
)

// Product is one emission, or the place where one would be, at the connector.
// Nil where there is no such figure.
type Product struct {
	Kind        Kind             `json:"kind"`
	Called      string           `json:"name"` // as Name says it
	Order       *int             `json:"order"`
	ExpectedHz  *float64         `json:"expected_hz"`
	FrequencyHz *float64         `json:"frequency_hz"`
	LevelDBm    *float64         `json:"level_dbm"`
	DBc         *float64         `json:"dbc"`
	LimitDBm    *float64         `json:"limit_dbm"`
	LimitDBc    *float64         `json:"limit_dbc"`
	MarginDB    *float64         `json:"margin_db"`
	DecidedBy   *string          `json:"decided_by"`
	Citation    *string          `json:"citation"`
	Verdict     decision.Verdict `json:"verdict"`
	Seen        bool             `json:"seen"`
	Suspect     bool             `json:"suspect"`
	SelfMadeDBm *float64         `json:"self_made_dbm"`     // what the analyzer itself is expected to show here
	Sweep       *string          `json:"sweep"`             // the name of the evidence it rests on
	ShownDBm    *float64         `json:"shown_dbm"`         // as displayed in it
	LossDB      *float64         `json:"loss_db"`           // of its path, where the level is referred to the connector
	AppliedDB   *float64         `json:"applied_offset_db"` // what the screen had added already

	// Of what was not seen: what it is not above, its uncertainty and the noise counted; and the
	// room that leaves under the limit at least. Of what was seen the room is the margin.
	NotAboveDBm *float64 `json:"not_above_dbm"`
	NotAboveDBc *float64 `json:"not_above_dbc"`
	RoomDB      *float64 `json:"room_db"`

	Lands   *string         `json:"lands"`   // whose spectrum it falls into, as information
	Origins []origin.Origin `json:"origins"` // what a spur could come from
	Opened  *Opened         `json:"opened"`  // nil where nothing was looked at
}

// Coverage is how far was looked. Blind is where the noise hides the limit;
// PassesToHz is where examined and not blind first ends above the carrier.
type Coverage struct {
	FromHz          *float64     `json:"from_hz"`
	ToHz            *float64     `json:"to_hz"`
	Examined        [][2]float64 `json:"examined"`
	Blind           [][2]float64 `json:"blind"`
	NearCarrierHz   float64      `json:"near_carrier_hz"`
	PassesToHz      *float64     `json:"passes_to_hz"`
	HighestHarmonic *int         `json:"highest_harmonic"`
	Complete        bool         `json:"complete"`
	SearchFromHz    *float64     `json:"search_from_hz"`
	SearchToHz      *float64     `json:"search_to_hz"`
	SearchBy        string       `json:"search_by"` // what asks for that
	Left            [][2]float64 `json:"left"`      // of the search, what is still to look at, or was blind
}

// Finding is something the evidence says beyond its products. SpacingHz and
// Lines belong to a comb.
type Finding struct {
	say.Said
	SpacingHz *float64 `json:"spacing_hz,omitempty"`
	Lines     *int     `json:"lines,omitempty"`
}

// Ruling is the outcome: a verdict never stands without its coverage.
type Ruling struct {
	Verdict     decision.Verdict `json:"verdict"`
	CarrierDBm  *float64         `json:"carrier_dbm"`
	CarrierFrom *string          `json:"carrier_from"` // power-meter or sweep
	CarrierSeen *float64         `json:"carrier_seen_dbm"`
	Worst       *Product         `json:"worst"`
	Products    []Product        `json:"products"`
	Coverage    Coverage         `json:"coverage"`
	Findings    []Finding        `json:"findings"`
	Governs     bool             `json:"governs"`  // the carrier lies in the book's service
	Citation    *string          `json:"citation"` // of the clause, or of what applies instead
	Detail      *string          `json:"detail"`   // in words, where no clause applies

	Standpoints []Standpoint `json:"standpoints"`

	seen   []*evidence
	f0     units.Hertz
	limits *rulebook.Limits // that were ruled by; nil where the carrier's power is not known
}

// InFull tells whether all that a full examination asks for was examined, every
// harmonic in it was ruled on, and no level may be low because nobody told whether
// the carrier was modulated.
func (r *Ruling) InFull() bool {
	_, notTold := r.Says(say.ModulationNotToldCode)
	return r.Coverage.Complete && !notTold && !slices.ContainsFunc(r.Products, func(p Product) bool {
		return p.Verdict == decision.NotCovered && p.ExpectedHz != nil && (r.Coverage.SearchToHz == nil || *p.ExpectedHz <= *r.Coverage.SearchToHz)
	})
}

// Says is the detail of a finding of the code; false where there is none.
func (r *Ruling) Says(code say.Code) (detail string, ok bool) {
	for _, f := range r.Findings {
		if f.Code == code {
			return f.Detail, true
		}
	}
	return "", false
}
