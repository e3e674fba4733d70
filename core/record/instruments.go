package record

import (
	"encoding/json"
	"time"
)

// Socket is where an item of kit listens, and the driver by which it is spoken with.
type Socket struct {
	KitID   string `json:"-"`
	Address string `json:"address"`
	Driver  string `json:"driver"`
}

// OwnDriver is a driver of the user's own, as its file says it.
type OwnDriver struct {
	ID   string
	Body json.RawMessage
}

// By is an instrument that a figure was read by itself, not by a person: who it says it is, the item
// it is on the bench, the driver, what it said and when. Simulated is one that says so of itself.
type By struct {
	KitID     string    `json:"kit_id"`
	Name      string    `json:"name"`
	Identity  string    `json:"identity"`
	Driver    string    `json:"driver"`
	Said      string    `json:"said"`
	At        time.Time `json:"at"`
	Simulated bool      `json:"simulated,omitempty"`
}

// Practice is a practice review's own: the scenario that its bench plays, the seed that it was drawn
// by, and what has happened on it.
type Practice struct {
	ReviewID string
	Scenario string
	Seed     uint64
	BegunAt  time.Time
	Kept     json.RawMessage
}
