package measure

import (
	"encoding/json"

	"talloak/core/record"
)

// ToldByInstrument is a sweep as the analyzer that took it told it itself.
type ToldByInstrument struct {
	Name         string
	RBWHz        float64
	Detector     string
	Hold         string
	Modulated    string // bare or modulated, as a person said; empty where nobody did
	PreAmplifier string
	OffsetDB     float64
	HeldS        float64
	By           record.By
}

// Sweeper is a kind whose evidence an analyzer can send itself: what it told becomes a draft.
type Sweeper interface {
	DraftFrom(ToldByInstrument) json.RawMessage
}
