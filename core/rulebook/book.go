package rulebook

import (
	"fmt"
	"math"
	"slices"
	"time"

	"talloak/core/problem"
	"talloak/core/strictjson"
)

// Mode is how the carrier is modulated.
type Mode string

// The modes of the contract.
const (
	FM      Mode = "FM"
	AM      Mode = "AM"
	SSB     Mode = "SSB"
	CW      Mode = "CW"
	Digital Mode = "DIGITAL"
)

// Known tells whether m is one of the modes.
func (m Mode) Known() bool { return slices.Contains([]Mode{FM, AM, SSB, CW, Digital}, m) }

// State is what the transmitter is doing.
type State string

// The states of a transmitter.
const (
	Operating State = "operating"
	Standby   State = "standby"
)

// Book is a rule book as data. Kind is law, or house for a house practice that
// is not law. Carriers are the stretches in which the book's service may
// transmit; none means any carrier.
type Book struct {
	Schema          string       `json:"$schema,omitempty"`
	ID              string       `json:"id"`
	Title           string       `json:"title"`
	Kind            string       `json:"kind"`
	Jurisdiction    string       `json:"jurisdiction,omitempty"`
	Service         string       `json:"service,omitempty"` // the one meant when none is named
	Source          string       `json:"source"`
	Edition         string       `json:"edition,omitempty"`
	Recalled        bool         `json:"recalled"`
	Checked         *Checked     `json:"checked,omitempty"`
	Carriers        []Stretch    `json:"carriers,omitempty"`
	CarriersBy      string       `json:"carriers_citation,omitempty"`
	Bandwidths      []Bandwidth  `json:"authorised_bandwidths,omitempty"`
	PowerLimits     []PowerLimit `json:"power_limits,omitempty"`
	Clauses         []Clause     `json:"clauses"`
	OtherwiseBy     string       `json:"otherwise_citation,omitempty"`
	OtherwiseDetail string       `json:"otherwise,omitempty"`
	Search          []Search     `json:"search,omitempty"`
	Note            string       `json:"note,omitempty"`
}

// Checked records that a person held the book against the published text.
type Checked struct {
	By      string `json:"by"`
	Edition string `json:"edition"`
	On      string `json:"on"` // a date, 2026-11-25
}

// Stretch is a closed range of frequencies in Hz.
type Stretch struct {
	FromHz float64 `json:"from_hz"`
	ToHz   float64 `json:"to_hz"`
}

// Bandwidth is the authorised bandwidth of carriers in a stretch, for some modes.
type Bandwidth struct {
	When        Condition `json:"when"`
	BandwidthHz float64   `json:"bandwidth_hz"`
}

// PowerLimit is the most a transmitter may put out. Power says which power is
// meant, As where it is measured: at the transmitter, or radiated, against a dipole (erp) or
// an antenna that radiates alike everywhere (eirp).
type PowerLimit struct {
	When     Condition `json:"when"`
	MaxW     float64   `json:"max_w"`
	Power    string    `json:"power"` // mean, carrier or pep
	As       string    `json:"as"`    // transmitter or erp
	Citation string    `json:"citation"`
}

// Condition is when something applies; what is not given does not matter.
// Powers are the carrier's mean power in W: over MeanOverW, up to MeanToW.
type Condition struct {
	CarrierFromHz   *float64 `json:"carrier_from_hz,omitempty"`
	CarrierToHz     *float64 `json:"carrier_to_hz,omitempty"`
	MeanOverW       *float64 `json:"mean_over_w,omitempty"`
	MeanFromW       *float64 `json:"mean_from_w,omitempty"`
	MeanToW         *float64 `json:"mean_to_w,omitempty"`
	MeanUnderW      *float64 `json:"mean_under_w,omitempty"`
	Modes           []Mode   `json:"modes,omitempty"`
	Services        []string `json:"services,omitempty"`
	Classes         []string `json:"classes,omitempty"`
	State           State    `json:"state,omitempty"` // operating where not given
	InstalledFrom   string   `json:"installed_from,omitempty"`
	InstalledBefore string   `json:"installed_before,omitempty"`
	MarketedBefore  string   `json:"marketed_before,omitempty"`
	BuiltBefore     string   `json:"built_before,omitempty"`
}

// Clause is what applies to some carriers. Exempt says that nothing does.
type Clause struct {
	When      Condition `json:"when"`
	Citation  string    `json:"citation"`
	Exempt    bool      `json:"exempt,omitempty"`
	Exclusion Exclusion `json:"exclusion,omitzero"`
	Segments  []Segment `json:"segments,omitempty"`
}

// Exclusion is the stretch round the carrier that is not spurious, on each
// side: the wider of an offset and a percentage of the authorised bandwidth.
type Exclusion struct {
	OffsetHz           float64 `json:"offset_hz,omitempty"`
	PercentOfBandwidth float64 `json:"percent_of_bandwidth,omitempty"`
}

// Segment is a stretch of spurious frequencies with its limit. Bounds may be
// absolute, multiples of the carrier, or distances from it; all given must
// hold. A frequency on the edge of two belongs to the lower; where segments
// overlap, the one listed first counts.
type Segment struct {
	FromHz        *float64 `json:"from_hz,omitempty"`
	ToHz          *float64 `json:"to_hz,omitempty"`
	FromMultiple  *float64 `json:"from_multiple,omitempty"`
	ToMultiple    *float64 `json:"to_multiple,omitempty"`
	FromOffsetHz  *float64 `json:"from_offset_hz,omitempty"`
	ToOffsetHz    *float64 `json:"to_offset_hz,omitempty"`
	HarmonicsOnly bool     `json:"harmonics_only,omitempty"`
	Terms         []Term   `json:"terms"`
	Combine       Combine  `json:"combine,omitempty"` // stricter where not given
	FloorDBm      *float64 `json:"floor_dbm,omitempty"`
	ReferenceHz   *float64 `json:"reference_bandwidth_hz,omitempty"`
	Detector      string   `json:"detector,omitempty"`
	Citation      string   `json:"citation,omitempty"`
}

// Combine says whether all terms must hold or the one that allows more counts.
type Combine string

// The ways to combine terms.
const (
	Stricter Combine = "stricter"
	Lenient  Combine = "lenient"
)

// Term is one limit, in exactly one form: at least RelativeDB below the carrier,
// at least FormulaDB + 10 log10(P / 1 W) below it, or at most AbsoluteDBm.
// Power is mean (where not given) or pep: the P that is meant.
type Term struct {
	RelativeDB  *float64 `json:"relative_db,omitempty"`
	FormulaDB   *float64 `json:"formula_db,omitempty"`
	AbsoluteDBm *float64 `json:"absolute_dbm,omitempty"`
	Power       string   `json:"power,omitempty"`
}

// Search is what a full examination should cover, for some carriers.
type Search struct {
	When         Condition `json:"when,omitzero"`
	FromHz       *float64  `json:"from_hz,omitempty"`
	FromMultiple *float64  `json:"from_multiple,omitempty"`
	ToHz         *float64  `json:"to_hz,omitempty"`
	ToMultiple   *float64  `json:"to_multiple,omitempty"`
	Citation     string    `json:"citation,omitempty"`

	// FromLowestGenerated begins at the lowest frequency that the equipment generates.
	FromLowestGenerated bool `json:"from_lowest_generated,omitempty"`
}

// Parse reads and checks a book. The error is a *problem.Error.
func Parse(data []byte) (*Book, error) {
	var b Book
	if err := strictjson.Decode(data, &b); err != nil {
		return nil, err
	}
	return &b, b.Check()
}

// Check says everything that is wrong with a book.
func (b *Book) Check() error {
	var bad problem.List
	b.check(&bad)
	return bad.Err()
}

func (b *Book) check(bad *problem.List) {
	if b.ID == "" {
		bad.Add("id", "give the book an id")
	}
	if b.Kind != "" && b.Kind != "law" && b.Kind != "house" {
		bad.Add("kind", "give law or house")
	}
	for i, s := range b.Carriers {
		if s.FromHz < 0 || s.ToHz < s.FromHz {
			bad.Add(fmt.Sprintf("carriers[%d]", i), "to_hz must not be below from_hz")
		}
	}
	for i, w := range b.Bandwidths {
		field := fmt.Sprintf("authorised_bandwidths[%d]", i)
		w.When.check(bad, field+".when")
		if !(w.BandwidthHz > 0) {
			bad.Add(field+".bandwidth_hz", "give more than 0 Hz")
		}
	}
	for i, l := range b.PowerLimits {
		field := fmt.Sprintf("power_limits[%d]", i)
		l.When.check(bad, field+".when")
		if !(l.MaxW > 0) {
			bad.Add(field+".max_w", "give a power above 0 W")
		}
		if !slices.Contains([]string{"mean", "carrier", "pep"}, l.Power) {
			bad.Add(field+".power", "give mean, carrier or pep")
		}
		if !slices.Contains([]string{"transmitter", "erp", "eirp"}, l.As) {
			bad.Add(field+".as", "give transmitter, erp or eirp")
		}
	}
	for i := range b.Clauses {
		b.Clauses[i].check(bad, fmt.Sprintf("clauses[%d]", i))
	}
	for i, s := range b.Search {
		s.When.check(bad, fmt.Sprintf("search[%d].when", i))
	}
}

func (c *Condition) check(bad *problem.List, field string) {
	if c.CarrierFromHz != nil && c.CarrierToHz != nil && *c.CarrierToHz < *c.CarrierFromHz {
		bad.Add(field+".carrier_to_hz", "must not be below carrier_from_hz")
	}
	for i, m := range c.Modes {
		if !m.Known() {
			bad.Add(fmt.Sprintf("%s.modes[%d]", field, i), "give FM, AM, SSB, CW or DIGITAL")
		}
	}
	if c.State != "" && c.State != Operating && c.State != Standby {
		bad.Add(field+".state", "give operating or standby")
	}
	for name, d := range map[string]string{"installed_from": c.InstalledFrom, "installed_before": c.InstalledBefore, "marketed_before": c.MarketedBefore, "built_before": c.BuiltBefore} {
		if d != "" && !IsDate(d) {
			bad.Add(field+"."+name, "give a date such as 2003-01-01")
		}
	}
}

// IsDate tells whether s is a date written 2003-01-01.
func IsDate(s string) bool {
	_, err := time.Parse(time.DateOnly, s)
	return err == nil
}

func (c *Clause) check(bad *problem.List, field string) {
	c.When.check(bad, field+".when")
	if c.Exclusion.OffsetHz < 0 {
		bad.Add(field+".exclusion.offset_hz", "give 0 Hz or more")
	}
	if c.Exclusion.PercentOfBandwidth < 0 {
		bad.Add(field+".exclusion.percent_of_bandwidth", "give 0 %% or more")
	}
	for i := range c.Segments {
		c.Segments[i].check(bad, fmt.Sprintf("%s.segments[%d]", field, i))
	}
}

func (s *Segment) check(bad *problem.List, field string) {
	for _, pair := range []struct {
		name     string
		from, to *float64
	}{{"to_hz", s.FromHz, s.ToHz}, {"to_multiple", s.FromMultiple, s.ToMultiple}, {"to_offset_hz", s.FromOffsetHz, s.ToOffsetHz}} {
		if pair.from != nil && pair.to != nil && *pair.to < *pair.from {
			bad.Add(field+"."+pair.name, "the segment is upside down")
		}
	}
	if s.ReferenceHz != nil && !(*s.ReferenceHz > 0) {
		bad.Add(field+".reference_bandwidth_hz", "give more than 0 Hz")
	}
	if len(s.Terms) == 0 {
		bad.Add(field+".terms", "give at least one term")
	}
	for i, t := range s.Terms {
		forms := 0
		for _, v := range []*float64{t.RelativeDB, t.FormulaDB, t.AbsoluteDBm} {
			if v != nil {
				forms++
				if math.Abs(*v) > 1000 {
					bad.Add(fmt.Sprintf("%s.terms[%d]", field, i), "%g dB is no limit", *v)
				}
			}
		}
		if forms != 1 {
			bad.Add(fmt.Sprintf("%s.terms[%d]", field, i), "give one of relative_db, formula_db and absolute_dbm")
		}
		if t.Power != "" && t.Power != "mean" && t.Power != "pep" {
			bad.Add(fmt.Sprintf("%s.terms[%d].power", field, i), "give mean or pep")
		}
	}
	if s.Combine != "" && s.Combine != Stricter && s.Combine != Lenient {
		bad.Add(field+".combine", "give stricter or lenient")
	}
}
