package diagnose

import (
	"math"
	"strings"

	"talloak/core/bands"
	"talloak/core/rf"
	"talloak/core/say"
	"talloak/core/units"
)

// LevelReading is the power read at one level of a band; levels are given from
// the highest down.
type LevelReading struct {
	Level string
	W     float64
}

// alikeDB is how near two levels may read before they are taken for the same
// (common practice, no source).
const alikeDB = 0.5

// Levels doubts the reading of a level against the others of its band: a lower
// level should read lower, and not alike.
func Levels(now LevelReading, above, below []LevelReading) []say.Said {
	var out []say.Said
	doubt := func(other LevelReading, higher bool) {
		if now.W <= 0 || other.W <= 0 {
			return
		}
		db := float64(units.RatioDB(now.W / other.W))
		switch {
		case math.Abs(db) < alikeDB:
			out = append(out, say.LevelsAlike(now.Level, other.Level, units.Watts(now.W), units.Watts(other.W)))
		case higher == (db > 0):
			out = append(out, say.LevelsOutOfOrder(now.Level, other.Level, units.Watts(now.W), units.Watts(other.W)))
		}
	}
	for _, o := range above {
		doubt(o, true)
	}
	for _, o := range below {
		doubt(o, false)
	}
	return out
}

// dummyLoadSWR is the SWR into a dummy load beyond which something is wrong
// (common practice, no source).
const dummyLoadSWR = 1.3

// Setup is what was noted beside the watts.
type Setup struct {
	LevelMeant, LevelShown string
	SWR                    *float64
	SupplyV, SupplyMinV    *float64
	SupplyA, SupplyLimitA  *float64
	CarrierW, PeakW        *float64 // of AM: the carrier, and its spoken peak
}

// OutsideBand doubts a reading or sweep of a carrier outside the band claimed.
func OutsideBand(f units.Hertz, b bands.Band) say.Said {
	return say.OutsideBand(f, b.Name, b.FromHz, b.ToHz)
}

// Check doubts the setup of a reading. Void says why the reading cannot be held
// against the claim, where it cannot: the supply was below the radio's own minimum.
func Check(s Setup) (doubts []say.Said, void string) {
	if s.LevelShown != "" && !sameLevel(s.LevelMeant, s.LevelShown) {
		doubts = append(doubts, say.LevelShown(s.LevelShown, s.LevelMeant))
	}
	if s.SWR != nil && *s.SWR > dummyLoadSWR {
		doubts = append(doubts, say.SWRIntoLoad(*s.SWR))
	}
	if s.SupplyV != nil && s.SupplyMinV != nil && *s.SupplyV < *s.SupplyMinV {
		low := say.SupplyLow(*s.SupplyV, *s.SupplyMinV)
		doubts, void = append(doubts, low), low.Detail
	}
	if s.SupplyA != nil && s.SupplyLimitA != nil && *s.SupplyA >= *s.SupplyLimitA {
		doubts = append(doubts, say.SupplyLimits(*s.SupplyA, *s.SupplyLimitA))
	}
	if s.CarrierW != nil && s.PeakW != nil && *s.CarrierW > 0 {
		if m := rf.AMDepth(units.Watts(*s.CarrierW), units.Watts(*s.PeakW)); m > 1 {
			doubts = append(doubts, say.OverModulated(units.Watts(*s.PeakW), units.Watts(*s.CarrierW), 100*m))
		}
	}
	return doubts, void
}

// OverClaim doubts a measured power that is over its claim by more than the
// tolerance, in dB: claims are seldom modest, and the legal maximum may be near.
func OverClaim(measured, claimed units.Watts, tolerance units.DB) []say.Said {
	if !(measured > claimed*units.Watts(tolerance.Ratio())) {
		return nil
	}
	return []say.Said{say.OverClaim(measured, claimed, tolerance)}
}

// OverLegal doubts a measured power over a legal maximum for the transmitter,
// both in W. A maximum in ERP says nothing of conducted power: doubt none then.
func OverLegal(measured, most units.Watts) []say.Said {
	if measured <= most {
		return nil
	}
	return []say.Said{say.OverLegal(measured, most)}
}

// sameLevel compares a level's name with what a person types for it: h, hi, High.
func sameLevel(meant, shown string) bool {
	m, s := strings.ToLower(meant), strings.ToLower(shown)
	n := min(len(m), len(s))
	return n > 0 && m[:n] == s[:n]
}
