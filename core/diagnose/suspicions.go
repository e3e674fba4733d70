package diagnose

import (
	"fmt"
	"math"
	"strings"

	"talloak/core/units"
)

// Suspicion is a doubt about a reading, with a short code for the interface.
type Suspicion struct {
	Code   string `json:"code"`
	Detail string `json:"detail"`
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
			out = append(out, Suspicion{"levels-alike", fmt.Sprintf("%s reads like %s, %s and %s: is the radio on the level meant?", now.Level, other.Level, units.Watts(now.W), units.Watts(other.W))})
		case higher == (db > 0):
			out = append(out, Suspicion{"levels-out-of-order", fmt.Sprintf("%s reads %s but %s reads %s: is the radio on the level meant?", now.Level, units.Watts(now.W), other.Level, units.Watts(other.W))})
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
}

// Check doubts the setup of a reading. Void is true where the reading cannot be
// held against the claim: the supply was below the radio's own minimum.
func Check(s Setup) (doubts []Suspicion, void bool) {
	if s.LevelShown != "" && !sameLevel(s.LevelMeant, s.LevelShown) {
		doubts = append(doubts, Suspicion{"level-shown", fmt.Sprintf("the radio shows level %s, but %s is meant", s.LevelShown, s.LevelMeant)})
	}
	if s.SWR != nil && *s.SWR > dummyLoadSWR {
		doubts = append(doubts, Suspicion{"swr", fmt.Sprintf("SWR %.2g into a dummy load: tighten the connectors and repeat", *s.SWR)})
	}
	if s.SupplyV != nil && s.SupplyMinV != nil && *s.SupplyV < *s.SupplyMinV {
		void = true
		doubts = append(doubts, Suspicion{"supply-low", fmt.Sprintf("%.1f V under load is below the radio's own minimum of %.1f V: the reading cannot be held against the claim", *s.SupplyV, *s.SupplyMinV)})
	}
	return doubts, void
}

// OverLegal doubts a measured power over a legal maximum for the transmitter,
// both in W. A maximum in ERP says nothing of conducted power: doubt none then.
func OverLegal(measured, most units.Watts) []Suspicion {
	if measured <= most {
		return nil
	}
	return []Suspicion{{"over-legal", fmt.Sprintf("%s is over the legal maximum of %s", measured, most)}}
}

// sameLevel compares a level's name with what a person types for it: h, hi, High.
func sameLevel(meant, shown string) bool {
	m, s := strings.ToLower(meant), strings.ToLower(shown)
	n := min(len(m), len(s))
	return n > 0 && m[:n] == s[:n]
}
