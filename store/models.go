package store

import (
	"encoding/binary"
	"math"
	"time"
)

// Review is one unit on test. Version rises with every change.
type Review struct {
	ID          string `gorm:"primaryKey"`
	RequestHash string
	Version     int
	CreatedAt   time.Time
	UpdatedAt   time.Time
	Subject     Subject `gorm:"serializer:json"`
	Claims      []Claim `gorm:"serializer:json"`
	Rules       Rules   `gorm:"serializer:json"`
}

// Subject is the unit and how it was come by. Voltages are of its supply.
type Subject struct {
	Maker      string   `json:"maker" required:"false"`
	Model      string   `json:"model"`
	Serial     string   `json:"serial" required:"false"`
	DateCode   string   `json:"date_code" required:"false"`
	Firmware   string   `json:"firmware" required:"false"`
	Changes    string   `json:"changes" required:"false" doc:"Changes made to the unit before or during the review"`
	ComeBy     string   `json:"come_by" required:"false" enum:",bought,lent,given-by-maker,given-by-seller" doc:"How the unit was come by"`
	ComeByNote string   `json:"come_by_note" required:"false"`
	Interest   string   `json:"interest" required:"false" enum:",none,sells,earns-on-links" doc:"Whether the reviewer sells it or earns on links"`
	SupplyMinV *float64 `json:"supply_min_v,omitempty" exclusiveMinimum:"0"`
	SupplyV    *float64 `json:"supply_v,omitempty" exclusiveMinimum:"0" doc:"Nominal supply voltage"`
	SupplyMaxV *float64 `json:"supply_max_v,omitempty" exclusiveMinimum:"0"`
}

// Claim is a claim as typed, and where and when it was read.
type Claim struct {
	Text   string `json:"text"`
	Source string `json:"source" required:"false"`
	ReadOn string `json:"read_on" required:"false"`
}

// Rules are how the review is judged.
type Rules struct {
	RuleBook     string  `json:"rule_book"`
	DecisionRule string  `json:"decision_rule" enum:"guarded,simple"`
	Scheme       string  `json:"scheme" enum:"tolerance,percent"`
	ToleranceDB  float64 `json:"tolerance_db" minimum:"0"`
	PassPercent  float64 `json:"pass_percent" exclusiveMinimum:"0"`
	BandwidthHz  float64 `json:"emission_bandwidth_hz" minimum:"0"`
	SourceSWR    float64 `json:"source_swr,omitempty" minimum:"0" doc:"The radio's own SWR at its harmonics; 0 takes the typical 3"`
}

// Keyed says what was keyed for a measurement.
type Keyed struct {
	Band        string
	Level       string
	Mode        string
	FrequencyHz float64
}

// Reading is one typed key-up line, never changed.
type Reading struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	TakenAt     time.Time
	Keyed       `gorm:"embedded"`
	Text        string
	Through     Through `gorm:"serializer:json"`
}

// Sweep is one trace with the text it was read from, never changed.
type Sweep struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	TakenAt     time.Time
	Keyed       `gorm:"embedded"`
	Name        string
	Detector    string  // empty where not told
	Hold        string  // empty where not told
	Modulated   string  // bare or modulated; empty where not told
	Through     Through `gorm:"serializer:json"`
	StartHz     float64
	StopHz      float64
	RBWHz       float64 `gorm:"column:rbw_hz"`
	Points      int
	Taken       string // how the CSV was understood
	Levels      []byte // float64, little endian
	Original    []byte // the CSV as it came
}

// PackLevels is the form in which levels are kept.
func PackLevels(levels []float64) []byte {
	out := make([]byte, 0, 8*len(levels))
	for _, l := range levels {
		out = binary.LittleEndian.AppendUint64(out, math.Float64bits(l))
	}
	return out
}

// UnpackLevels is the reverse of PackLevels.
func UnpackLevels(b []byte) []float64 {
	out := make([]float64, len(b)/8)
	for i := range out {
		out[i] = math.Float64frombits(binary.LittleEndian.Uint64(b[8*i:]))
	}
	return out
}

// Standing is a word on a reading or sweep, never changed; the last one counts.
type Standing struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	Target      string // reading or sweep
	TargetID    string
	Standing    string // in-force, suspect, struck, explained
	Reason      string
	SaidAt      time.Time
}

// Edition is a frozen version of a review. Document and Page are served byte by
// byte as they were frozen; SHA256 is of Document.
type Edition struct {
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	Number      int
	FrozenAt    time.Time
	Title       string
	Headline    string
	SHA256      string `gorm:"column:sha256"`
	Document    []byte
	Page        []byte
}
