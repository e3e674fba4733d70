package record

import (
	"encoding/json"
	"time"

	"talloak/core/bands"
	"talloak/core/rulebook"
)

// Review is one unit on test. Version rises with every change.
type Review struct {
	ID        string
	Version   int
	CreatedAt time.Time
	UpdatedAt time.Time
	Subject   Subject
	Claims    []Claim
	Rules     Rules
	Sheet     Sheet
	Adds      Adds
	Follows   string // the review that this one is the re-test of; empty for none
	Practice  string // the scenario that it practises on; empty for a review of a real radio
	Away      bool   // put away: in no list until it is brought back
}

// Bench is the practice review whose bench it is measured on, itself; empty for the real bench.
func (r *Review) Bench() string {
	if r.Practice == "" {
		return ""
	}
	return r.ID
}

// Adds is what the reviewer adds to an edition of their own. Recommendation is in their words and
// changes no ruling; Photos are the photographs that come into it, by their ids.
type Adds struct {
	Recommendation string   `json:"recommendation,omitempty"`
	Ambient        string   `json:"ambient,omitempty"` // temperature and what else of the room mattered, in words
	Photos         []string `json:"photos,omitempty"`
}

// Publication is who publishes, said once for all reviews. Address is where its editions can be
// read, without the editions' own part.
type Publication struct {
	Name    string `json:"name,omitempty"`
	People  string `json:"people,omitempty"`
	Contact string `json:"contact,omitempty"`
	Address string `json:"address,omitempty"`
	Licence string `json:"licence,omitempty"` // of text and data
}

// Subject is the unit and how it was come by. ComeBy is bought, lent, given-by-maker or
// given-by-seller, Interest none, sells or earns-on-links; each is empty while nobody
// said. Voltages are of its supply.
type Subject struct {
	Maker      string   `json:"maker"`
	Model      string   `json:"model"`
	Serial     string   `json:"serial"`
	DateCode   string   `json:"date_code"`
	Firmware   string   `json:"firmware"`
	Changes    string   `json:"changes"`
	ComeBy     string   `json:"come_by"`
	ComeByNote string   `json:"come_by_note"`
	Interest   string   `json:"interest"`
	SupplyMinV *float64 `json:"supply_min_v,omitempty"`
	SupplyV    *float64 `json:"supply_v,omitempty"`
	SupplyMaxV *float64 `json:"supply_max_v,omitempty"`

	// MostW is the most it may put out, where nothing is claimed, in W. KeyS is how long it
	// may be keyed at a time, RestS how long it has to rest then, in s.
	MostW *float64 `json:"most_w,omitempty"`
	KeyS  *float64 `json:"key_s,omitempty"`
	RestS *float64 `json:"rest_s,omitempty"`

	// AntennaGainDBd is that of the antenna it is sold with, over a half-wave dipole: without
	// it a limit in effective radiated power cannot be held against conducted watts.
	AntennaGainDBd *float64 `json:"antenna_gain_dbd,omitempty"`

	// ClocksHz are the frequencies of its oscillators where they are known, in Hz: a spur is held
	// against what they mix to.
	ClocksHz []float64 `json:"clocks_hz,omitempty"`

	// Variant is the market it was made for; Region that of the ITU whose amateur bands
	// count, 0 for the second.
	Variant string       `json:"variant,omitempty"`
	Region  bands.Region `json:"itu_region,omitempty"`
}

// Claim is a claim as typed, and where and when it was read.
type Claim struct {
	Text   string `json:"text"`
	Source string `json:"source"`
	ReadOn string `json:"read_on"`
}

// Sheet is what a person chose of the run sheet. Off are boxes left out. Marks are where
// each band is keyed, of calling, edges, middle and none (calling where there are none); Own are
// frequencies beside them, in Hz, by band, or by band and mode where that is not FM. SupplyV are voltages to key at, PathIDs the paths
// to take (those that suit best where there are none); Order is that of steps changed by
// hand, by their names. Scope is what the review is of: power alone, or all where it is empty.
type Sheet struct {
	Scope   string               `json:"scope,omitempty" enum:",power"`
	Off     []Keyed              `json:"off,omitempty"`
	Marks   []string             `json:"marks,omitempty"`
	Own     map[string][]float64 `json:"own,omitempty"`
	SupplyV []float64            `json:"supply_v,omitempty"`
	PathIDs []string             `json:"path_ids,omitempty"`
	Order   []string             `json:"order,omitempty"`
}

// Rules are how the review is judged. SourceSWR is the radio's own at its harmonics; 0
// takes the typical one.
type Rules struct {
	RuleBook     string  `json:"rule_book"`
	DecisionRule string  `json:"decision_rule"`
	Scheme       string  `json:"scheme"`
	ToleranceDB  float64 `json:"tolerance_db"`
	PassPercent  float64 `json:"pass_percent"`
	BandwidthHz  float64 `json:"emission_bandwidth_hz"`
	SourceSWR    float64 `json:"source_swr,omitempty"`

	// Books are rule books of their own for some bands, by the bands' names.
	Books map[string]string `json:"books,omitempty"`
}

// Mode is how the carrier is modulated.
type Mode = rulebook.Mode

// Keyed says what was keyed, or listened on: a band at a level, in a mode, on a
// frequency. Level is empty where the measurement is of the whole band.
type Keyed struct {
	Band        string  `json:"band"`
	Level       string  `json:"level"`
	Mode        Mode    `json:"mode"`
	FrequencyHz float64 `json:"frequency_hz"`
}

// Box is the band, level and mode alone.
func (k Keyed) Box() Keyed { return Keyed{Band: k.Band, Level: k.Level, Mode: k.Mode} }

// SameBox tells whether both are of one band, level and mode.
func (k Keyed) SameBox(o Keyed) bool {
	return k.Band == o.Band && k.Level == o.Level && k.Mode == o.Mode
}

// Format is the version of the form in which a measurement's payload and its copy of
// the path are kept. Newer programs read every older one.
const Format = 1

// Measurement is one fact of any kind, never changed. Payload is what the kind keeps of
// it, in Format; Blob is what is too long for that.
type Measurement struct {
	ID       string
	Kind     string
	ReviewID string
	TakenAt  time.Time
	Format   int
	Keyed
	Through *Through
	Payload json.RawMessage
	Blob    []byte
}

// File is evidence as it came, under the name it came with.
type File struct {
	Name      string
	MediaType string
	Content   []byte
}

// The standings of a measurement. Explained counts as in force; its difference from
// others was said to be no contradiction.
const (
	InForce   = "in-force"
	Suspect   = "suspect"
	Struck    = "struck"
	Explained = "explained"
)

// Standing is a word on a measurement, never changed; the last one counts.
type Standing struct {
	ID       string
	ReviewID string
	TargetID string
	Standing string
	Reason   string
	SaidAt   time.Time
}

// Facts are all measurements of a review in the order taken, with what was said of them.
type Facts struct {
	Measurements []Measurement
	Standings    []Standing
}

// Edition is a frozen version of a review. Document and Page are given out byte by byte
// as they were frozen; SHA256 is of Document, PageSHA256 of Page, empty where it was frozen
// before that was kept. Kind is what it is to those before it, Changed what changed, in a
// sentence; both are empty where it was frozen before that was said.
type Edition struct {
	ID         string
	ReviewID   string
	Number     int
	FrozenAt   time.Time
	Title      string
	Headline   string
	SHA256     string
	PageSHA256 string
	Document   []byte
	Page       []byte
	Basis      string // what it was frozen of; empty where that is not known
	Kind       string
	Changed    string
}

// Letter is something written about a review. Kind is what it is, From who wrote it; About is the band
// and level that it is about, by its name, empty for all of it. What may not be printed is kept for the
// reviewer alone. Serial and DateCode are of the unit that a reader writes of. Replaces is the letter that
// this one stands in place of: with no text, that is taken out.
type Letter struct {
	ID        string    `json:"id"`
	ReviewID  string    `json:"review_id"`
	Replaces  string    `json:"replaces,omitempty"`
	Kind      string    `json:"kind"`
	From      string    `json:"from"`
	Name      string    `json:"name,omitempty"`
	SaidOn    string    `json:"said_on"` // a date, 2026-11-25
	About     string    `json:"about,omitempty"`
	Text      string    `json:"text"`
	MayPrint  bool      `json:"may_print"`
	Serial    string    `json:"serial,omitempty"`
	DateCode  string    `json:"date_code,omitempty"`
	WrittenAt time.Time `json:"written_at"`
}

// The kinds of letters, and who writes them.
var (
	LetterKinds = []string{"reply", "denial", "admission", "refund", "third-laboratory", "question", "answer"}
	LetterFrom  = []string{"maker", "seller", "reader", "laboratory", "us"}
)

// OutsideFigure is a figure of somebody else on the model of a review, for a band and level by its name: power in W,
// or the room under the limit in dB. It stands beside ours and is never mixed with them. Replaces is the one that it
// stands in place of: with neither figure, that is taken out.
type OutsideFigure struct {
	ID        string    `json:"id"`
	ReviewID  string    `json:"review_id"`
	Replaces  string    `json:"replaces,omitempty"`
	Box       string    `json:"box"`
	Watts     *float64  `json:"watts,omitempty"`
	RoomDB    *float64  `json:"room_db,omitempty"`
	Source    string    `json:"source"`
	SaidOn    string    `json:"said_on"` // a date, 2026-11-25
	WrittenAt time.Time `json:"written_at"`

	ClaimDB *float64 `json:"against_claim_db,omitempty"` // over what our review has claimed, where it has
}

// FrozenComparison is a comparison of reviews as it was frozen: its page is given out byte by byte. Page is left out of
// lists.
type FrozenComparison struct {
	ID       string    `json:"id"`
	Title    string    `json:"title"`
	FrozenAt time.Time `json:"frozen_at"`
	SHA256   string    `json:"sha256"`
	Page     []byte    `json:"-"`
}

// Photo is a photograph of what it is about: a measurement by its id, or a claim by its
// text. Content is left out of lists.
type Photo struct {
	ID        string
	ReviewID  string
	About     string
	Name      string
	MediaType string
	TakenAt   time.Time
	SHA256    string
	Content   []byte
}
