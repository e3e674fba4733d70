package diagnose

import (
	"fmt"
	"math"
	"strings"

	"talloak/core/bands"
	"talloak/core/rf"
	"talloak/core/units"
)

// Suspicion is a doubt about a reading, with a short code for the interface.
type Suspicion struct {
	Code   string `json:"code"`
	Detail string `json:"detail"`           // what is so
	Advice string `json:"advice,omitempty"` // what can be done about it
}

// LevelReading is the power read at one level of a band; levels are given from
// the highest down.
type LevelReading struct {
	Level string
	W     float64
}

// alikeDB is how near two levels may read before they are taken for the same
// (common practice, no source).
const alikeDB = 0.5

const levelAdvice = "is the radio on the level meant?"

// Levels doubts the reading of a level against the others of its band: a lower
// level should read lower, and not alike.
func Levels(now LevelReading, above, below []LevelReading) []Suspicion {
	var out []Suspicion
	doubt := func(other LevelReading, higher bool) {
		if now.W <= 0 || other.W <= 0 {
			return
		}
		db := float64(units.RatioDB(now.W / other.W))
		switch {
		case math.Abs(db) < alikeDB:
			out = append(out, Suspicion{"levels-alike", fmt.Sprintf("%s reads like %s, %s and %s", now.Level, other.Level, units.Watts(now.W), units.Watts(other.W)), levelAdvice})
		case higher == (db > 0):
			out = append(out, Suspicion{"levels-out-of-order", fmt.Sprintf("%s reads %s but %s reads %s", now.Level, units.Watts(now.W), other.Level, units.Watts(other.W)), levelAdvice})
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
func OutsideBand(f units.Hertz, b bands.Band) Suspicion {
	return Suspicion{"outside-band", fmt.Sprintf("%s lies outside %s, %s to %s: it is kept at its own frequency and not held against the claim", f, b.Name, b.FromHz, b.ToHz), "only into a closed load, where local law allows even that"}
}

// Check doubts the setup of a reading. Void says why the reading cannot be held
// against the claim, where it cannot: the supply was below the radio's own minimum.
func Check(s Setup) (doubts []Suspicion, void string) {
	if s.LevelShown != "" && !sameLevel(s.LevelMeant, s.LevelShown) {
		doubts = append(doubts, Suspicion{"level-shown", fmt.Sprintf("the radio shows level %s, but %s is meant", s.LevelShown, s.LevelMeant), levelAdvice})
	}
	if s.SWR != nil && *s.SWR > dummyLoadSWR {
		doubts = append(doubts, Suspicion{"swr", fmt.Sprintf("SWR %.2g into a dummy load", *s.SWR), "tighten the connectors and repeat"})
	}
	if s.SupplyV != nil && s.SupplyMinV != nil && *s.SupplyV < *s.SupplyMinV {
		void = fmt.Sprintf("%.1f V under load is below the radio's own minimum of %.1f V: the reading cannot be held against the claim", *s.SupplyV, *s.SupplyMinV)
		doubts = append(doubts, Suspicion{"supply-low", void, "charge the battery, or set the supply right"})
	}
	if s.SupplyA != nil && s.SupplyLimitA != nil && *s.SupplyA >= *s.SupplyLimitA {
		doubts = append(doubts, Suspicion{"supply-limit", fmt.Sprintf("%.3g A is all the supply gives, %.3g A: it limits, and the power reads low", *s.SupplyA, *s.SupplyLimitA), "take a stronger supply"})
	}
	if s.CarrierW != nil && s.PeakW != nil && *s.CarrierW > 0 {
		if m := rf.AMDepth(units.Watts(*s.CarrierW), units.Watts(*s.PeakW)); m > 1 {
			doubts = append(doubts, Suspicion{"over-modulated", fmt.Sprintf("peaks of %s over a carrier of %s are %.0f %% of modulation: over 100 %% is splatter, or the meter overshoots", units.Watts(*s.PeakW), units.Watts(*s.CarrierW), 100*m), "less microphone gain, or another meter"})
		}
	}
	return doubts, void
}

// OverClaim doubts a measured power that is over its claim by more than the
// tolerance, in dB: claims are seldom modest, and the legal maximum may be near.
func OverClaim(measured, claimed units.Watts, tolerance units.DB) []Suspicion {
	if !(measured > claimed*units.Watts(tolerance.Ratio())) {
		return nil
	}
	return []Suspicion{{"over-claim", fmt.Sprintf("%s is over the claim of %s by more than %.1f dB", measured, claimed, float64(tolerance)), "is it the level meant, and still legal?"}}
}

// Contradicts doubts a reading against another of the same frequency and supply that
// differs from it by more than both uncertainties.
func Contradicts(now, other units.Watts, typed string) Suspicion {
	return Suspicion{"contradicts", fmt.Sprintf("%s here and %s by %q on the same frequency differ by more than both uncertainties", now, other, typed), "strike the wrong one, or say what explains it"}
}

// OverLegal doubts a measured power over a legal maximum for the transmitter,
// both in W. A maximum in ERP says nothing of conducted power: doubt none then.
func OverLegal(measured, most units.Watts) []Suspicion {
	if measured <= most {
		return nil
	}
	return []Suspicion{{"over-legal", fmt.Sprintf("%s is over the legal maximum of %s", measured, most), ""}}
}

// sameLevel compares a level's name with what a person types for it: h, hi, High.
func sameLevel(meant, shown string) bool {
	m, s := strings.ToLower(meant), strings.ToLower(shown)
	n := min(len(m), len(s))
	return n > 0 && m[:n] == s[:n]
}
