package record

import (
	"slices"
	"time"

	"talloak/core/kit"
	"talloak/core/path"
)

// Item is one thing on the bench. Version rises with every change.
type Item struct {
	ID        string
	Version   int
	Name      string
	Spec      kit.Spec
	RetiredAt *time.Time
	Practice  string // the practice review that it belongs to; empty for what is real
}

// Path is kit in series from a named socket of the radio, kept by name. Version rises
// with every change.
type Path struct {
	ID              string
	Version         int
	Name            string
	Socket          string
	Parts           []PathPart
	Supply          *PathSupply
	AppliedOffsetDB float64
	RetiredAt       *time.Time
	Practice        string // the practice review that it belongs to; empty for what is real
}

// PathPart is an item on a path at one of its settings: position, scale or input. Parts
// in a row with one StackID were measured in one piece; the measurement counts while
// they are the parts that were measured.
type PathPart struct {
	KitID   string `json:"kit_id"`
	Setting string `json:"setting"`
	StackID string `json:"stack_id,omitempty"`
}

// PathSupply is the DC supply of a path and what it is set to. LeadOhm, where given,
// stands before that of the item.
type PathSupply struct {
	KitID   string   `json:"kit_id"`
	SetV    float64  `json:"set_v"`
	LeadOhm *float64 `json:"lead_ohm,omitempty"`
}

// Stack is the loss of parts measured in one piece, never changed. Evidence is what was
// read, or the file.
type Stack struct {
	ID         string
	TakenAt    time.Time
	MeasuredOn string
	Parts      []PathPart
	Found      []path.MeasuredPoint
	Evidence   StackEvidence
}

// RunOf is where in a path the parts lie that the stack was measured as, all of them
// marked with it and in its order; -1 where they no longer do.
func (s *Stack) RunOf(parts []PathPart) int {
	n := len(s.Parts)
	for at := 0; n > 0 && at+n <= len(parts); at++ {
		if slices.EqualFunc(parts[at:at+n], s.Parts, func(a, b PathPart) bool {
			return a.KitID == b.KitID && a.Setting == b.Setting && a.StackID == s.ID
		}) {
			return at
		}
	}
	return -1
}

// StackEvidence is what a stack's loss rests on: readings without and with it on a
// meter, or a two-port file and how far that may be off.
type StackEvidence struct {
	Meter       *KitCopy     `json:"meter,omitempty"`
	MeterWith   *KitCopy     `json:"meter_with,omitempty"`
	Points      []StackPoint `json:"points,omitempty"`
	Touchstone  string       `json:"touchstone,omitempty"`
	ToleranceDB *float64     `json:"tolerance_db,omitempty"`
}

// StackPoint is what was read at a frequency without and with the stack.
type StackPoint struct {
	FrequencyHz float64 `json:"frequency_hz"`
	Without     string  `json:"without"`
	With        string  `json:"with"`
}

// Baseline is known transmitters read on several meters, never changed. Rows hold what
// was typed, along the meters.
type Baseline struct {
	ID         string
	TakenAt    time.Time
	MeasuredOn string
	Meters     []KitCopy
	Rows       []BaselineRow
}

// BaselineRow is one transmitter, with what each meter showed; empty where it was not
// read.
type BaselineRow struct {
	Transmitter string   `json:"transmitter"`
	FrequencyHz float64  `json:"frequency_hz"`
	Readings    []string `json:"readings"`
}
