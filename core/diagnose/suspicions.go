package diagnose

import (
	"math"
	"strings"

	"talloak/core/bands"
	"talloak/core/reading"
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
	Carrier, Peak          *reading.Result // of AM: the carrier, and its spoken peak
}

// OutsideBand doubts a reading or sweep of a carrier outside the band claimed.
func OutsideBand(f units.Hertz, b bands.Band) say.Said {
	return say.OutsideBand(f, b.Name, b.FromHz, b.ToHz)
}

// Check doubts the setup of a reading. Void says why the reading cannot be held
// against the claim, where it cannot: the supply was below the radio's own minimum.
func Check(s Setup) (doubts []say.Said, void string) {
	if s.LevelShown != "" && !SameLevel(s.LevelMeant, s.LevelShown) {
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
	if c, p := s.Carrier, s.Peak; c != nil && p != nil && c.AtConnectorW != nil && p.AtConnectorW != nil && *c.AtConnectorW > 0 {
		depth, low, high := AMDepth(c, p)
		if depth > 1 {
			doubts = append(doubts, say.PeaksOverCarrier(units.Watts(*p.AtConnectorW), units.Watts(*c.AtConnectorW), 100*depth, 100*low, 100*high))
		}
	}
	return doubts, void
}

// AMDepth is the positive modulation of a carrier by its spoken peak, with its interval: the
// scale of the one meter that read both drops out, so the wider of the two uncertainties counts
// for the ratio (common practice, no source).
func AMDepth(carrier, peak *reading.Result) (depth, low, high float64) {
	c, p := *carrier.AtConnectorW, *peak.AtConnectorW
	at := func(ratio float64) float64 { return math.Sqrt(max(0, ratio)) - 1 }
	u := max(wide(carrier), wide(peak))
	return float64(rf.AMDepth(units.Watts(c), units.Watts(p))), at(p / c * (1 - u)), at(p / c * (1 + u))
}

// wide is the half-width of a result's interval, relative to its power.
func wide(r *reading.Result) float64 {
	if r.LowW == nil {
		return 0
	}
	return (*r.HighW - *r.LowW) / 2 / *r.AtConnectorW
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

// SameLevel compares a level's name with what a person types for it: h, hi, High.
func SameLevel(meant, shown string) bool {
	m, s := strings.ToLower(meant), strings.ToLower(shown)
	n := min(len(m), len(s))
	return n > 0 && m[:n] == s[:n]
}

// swrJump is by which ratio an SWR may change between two key-ups into the same load
// (common practice, no source).
const swrJump = 1.25

// SWRJumped doubts an SWR that is another than at the key-up before, through the same path.
func SWRJumped(now, before float64) []say.Said {
	if now < swrJump*before && before < swrJump*now {
		return nil
	}
	return []say.Said{say.SWRJumped(now, before)}
}

// sagShare is how far volts may fall under load before they are called sagging, relative to
// what the supply is set to (common practice, no source).
const sagShare = 0.05

// Supply doubts volts against what the supply is set to and what the radio takes at most,
// all in V; nil where not known.
func Supply(volts, set, most *float64) (out []say.Said) {
	if volts == nil {
		return nil
	}
	if set != nil && *volts < *set*(1-sagShare) {
		out = append(out, say.SupplySagged(*volts, *set))
	}
	if most != nil && *volts > *most {
		out = append(out, say.OverVoltage(*volts, *most))
	}
	return out
}

// nominalShare is how far under its nominal voltage a radio is still held to its claim,
// relative to it (common practice, no source).
const nominalShare = 0.1

// BelowNominal says that volts are too far under the nominal for a claim, both in V; nil
// where not known.
func BelowNominal(volts, nominal *float64) []say.Said {
	if volts == nil || nominal == nil || *volts >= *nominal*(1-nominalShare) {
		return nil
	}
	return []say.Said{say.BelowNominal(*volts, *nominal)}
}

// driftShare is how far repeats may fall, one after the other, before they are called
// drifting, relative to the first (common practice, no source).
const driftShare = 0.03

// Drift doubts three repeats or more, in W, that only ever fall: the radio warms, or its
// battery goes down, and the mean is no power it has.
func Drift(repeats []float64) []say.Said {
	n := len(repeats)
	if n < 3 || !(repeats[0] > 0) || repeats[n-1] > repeats[0]*(1-driftShare) {
		return nil
	}
	for i := 1; i < n; i++ {
		if repeats[i] >= repeats[i-1] {
			return nil
		}
	}
	return []say.Said{say.Drifts(units.Watts(repeats[0]), units.Watts(repeats[n-1]))}
}

// Settings says of the levels of a band, from the highest down, how many powers they have:
// where two or more give the same, the radio may ignore what is set.
func Settings(levels []LevelReading) []say.Said {
	if len(levels) < 2 {
		return nil
	}
	powers := 1
	for i := 1; i < len(levels); i++ {
		if levels[i].W <= 0 || levels[i-1].W <= 0 || math.Abs(float64(units.RatioDB(levels[i].W/levels[i-1].W))) >= alikeDB {
			powers++
		}
	}
	if powers == len(levels) {
		return nil
	}
	return []say.Said{say.SettingsAlike(len(levels), powers)}
}

// stopDB is how near an adjusted power comes to its target before one stops (common
// practice, no source).
const stopDB = 0.2

// Toward says which way a transmitter is to be adjusted: "more", "down" or "stop". Reached
// tells whether the target is met: "yes", "no" or "too close to call", by the interval of the
// reading: within the tolerance on both sides, or under a target that is not to be exceeded.
func Toward(w, low, high, target units.Watts, tolerance units.DB, atMost bool) (toward, reached string) {
	if atMost {
		switch {
		case w <= 0: // nothing shown is no power it was turned down to
			return "more", "no"
		case high <= target:
			return "stop", "yes"
		case low > target:
			return "down", "no"
		}
		return "down", "too close to call"
	}
	switch {
	case w <= 0:
		return "more", "no"
	case math.Abs(float64(units.RatioDB(float64(w/target)))) <= stopDB:
		toward = "stop"
	case w > target:
		toward = "down"
	default:
		toward = "more"
	}
	least, most := target/units.Watts(tolerance.Ratio()), target*units.Watts(tolerance.Ratio())
	switch {
	case toward == "stop" && low >= least && high <= most:
		reached = "yes"
	case toward != "stop" && (low > target || high < target):
		reached = "no"
	default:
		reached = "too close to call"
	}
	return toward, reached
}
