package measure

import (
	"encoding/json"

	"talloak/core/record"
)

// ToldByInstrument is a sweep as the analyzer that took it told it itself: its bandwidth in Hz, the offset
// that it added to its levels in dB, and for how long it was held in s.
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
