package store

import (
	"time"

	"talloak/core/kit"
	"talloak/core/path"
)

// KitItem is one thing on the bench. Version rises with every change.
type KitItem struct {
	ID        string `gorm:"primaryKey"`
	Version   int
	Position  int `gorm:"->" json:"-"` // given by the database
	Name      string
	Spec      kit.Spec `gorm:"serializer:json"`
	RetiredAt *time.Time
}

// TableName is singular: kit has no plural.
func (KitItem) TableName() string { return "kit" }

// Path is kit in series from a named socket of the radio, kept by name. Version
// rises with every change.
type Path struct {
	ID              string `gorm:"primaryKey"`
	Version         int
	Position        int `gorm:"->" json:"-"` // given by the database
	Name            string
	Socket          string
	Parts           []PathPart  `gorm:"serializer:json"`
	Supply          *PathSupply `gorm:"serializer:json"`
	AppliedOffsetDB float64     `gorm:"column:applied_offset_db"`
	RetiredAt       *time.Time
}

// PathPart is an item on a path at one of its settings. Parts in a row with one
// StackID were measured in one piece; the measurement counts while they are the
// parts that were measured.
type PathPart struct {
	KitID   string `json:"kit_id" format:"uuid"`
	Setting string `json:"setting" required:"false" doc:"Position, scale or input, where the item has several"`
	StackID string `json:"stack_id,omitempty" doc:"The measurement whose loss replaces the printed one"`
}

// PathSupply is the DC supply of a path and what it is set to. LeadOhm, where
// given, stands before that of the item.
type PathSupply struct {
	KitID   string   `json:"kit_id" format:"uuid"`
	SetV    float64  `json:"set_v" exclusiveMinimum:"0"`
	LeadOhm *float64 `json:"lead_ohm,omitempty" minimum:"0"`
}

// Stack is the loss of parts measured in one piece, never changed. Evidence is
// what was read, or the file.
type Stack struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	TakenAt     time.Time
	MeasuredOn  string
	Parts       []PathPart           `gorm:"serializer:json"`
	Found       []path.MeasuredPoint `gorm:"serializer:json"`
	Evidence    StackEvidence        `gorm:"serializer:json"`
}

// StackEvidence is what a stack's loss rests on: readings without and with it on
// a meter, or a two-port file and how far that may be off.
type StackEvidence struct {
	Meter       *KitCopy     `json:"meter,omitempty"`
	MeterWith   *KitCopy     `json:"meter_with,omitempty"`
	Points      []StackPoint `json:"points,omitempty"`
	Touchstone  string       `json:"touchstone,omitempty"`
	ToleranceDB *float64     `json:"tolerance_db,omitempty"`
}

// StackPoint is what was read at a frequency without and with the stack.
type StackPoint struct {
	FrequencyHz float64 `json:"frequency_hz" exclusiveMinimum:"0"`
	Without     string  `json:"without" maxLength:"200"`
	With        string  `json:"with" maxLength:"200"`
}

// Baseline is known transmitters read on several meters, never changed. Rows
// hold what was typed, along the meters.
type Baseline struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	TakenAt     time.Time
	MeasuredOn  string
	Meters      []KitCopy     `gorm:"serializer:json"`
	Rows        []BaselineRow `gorm:"serializer:json"`
}

// BaselineRow is one transmitter, with what each meter showed; empty where it
// was not read.
type BaselineRow struct {
	Transmitter string   `json:"transmitter" maxLength:"200"`
	FrequencyHz float64  `json:"frequency_hz" exclusiveMinimum:"0"`
	Readings    []string `json:"readings"`
}

// Through is the copy of path and kit that each measurement keeps: what it was
// taken through stays as it was then.
type Through struct {
	PathID          string      `json:"path_id"`
	Name            string      `json:"name"`
	Socket          string      `json:"socket,omitempty"`
	AppliedOffsetDB float64     `json:"applied_offset_db"`
	Kit             []KitCopy   `json:"kit"`
	Supply          *SupplyCopy `json:"supply,omitempty"`
	Preflight       *time.Time  `json:"preflight,omitempty"`

	// StackChanged tells that parts were measured in one piece but no longer lie
	// as they were measured: their printed losses count.
	StackChanged bool `json:"stack_changed,omitempty"`
}

// KitCopy is an item as it was, at its setting. Measured stands at the last part
// of what was measured in one piece.
type KitCopy struct {
	ID       string         `json:"id"`
	Name     string         `json:"name"`
	Setting  string         `json:"setting,omitempty"`
	Spec     kit.Spec       `json:"spec"`
	Measured *path.Measured `json:"measured,omitempty"`
}

// SupplyCopy is a supply as it was set.
type SupplyCopy struct {
	ID      string          `json:"id"`
	Name    string          `json:"name"`
	SetV    float64         `json:"set_v"`
	LeadOhm *float64        `json:"lead_ohm,omitempty"`
	Range   kit.SupplyRange `json:"range"`
}
