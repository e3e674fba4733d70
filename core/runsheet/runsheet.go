package runsheet

import (
	"fmt"
	"math"
	"slices"

	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/units"
)

// Seconds of a key-up and of the rest after it, where nobody says: enough for a reading,
// and twice that lets a handheld cool (common practice, no source).
const (
	KeyS  = 10
	RestS = 20
)

// Channel is a frequency with the name it has on the radio.
type Channel struct {
	Name      string
	Frequency units.Hertz
}

// Level is a power level; ClaimedW is 0 where nothing is claimed.
type Level struct {
	Name     string
	ClaimedW float64
}

// Band is what of a band is keyed: every channel at every level in every mode.
type Band struct {
	Name     string
	Channels []Channel
	Levels   []Level
	Modes    []rulebook.Mode
}

// Way is a wiring. Suits says why a key-up through it would not count, empty where it
// would; RigS is how long it takes to wire, in s.
type Way struct {
	Name  string
	Kind  Purpose
	RigS  float64
	Suits func(KeyUp) string
}

// Purpose is what a wiring is for.
type Purpose string

// The purposes.
const (
	Power     Purpose = "power"
	Emissions Purpose = "emissions"
)

// Known tells whether there is such a kind.
func (k Purpose) Known() bool { return k == Power || k == Emissions }

// KeyUp is the hardest that will be keyed on a frequency: W the highest claim of the band,
// 0 where nothing is claimed, PEP where that is a peak.
type KeyUp struct {
	Frequency units.Hertz
	Mode      rulebook.Mode
	ClaimedW  float64
}

// Request is what is to be measured. SupplyV is empty where the voltage is not varied.
type Request struct {
	Bands   []Band
	SupplyV []float64
	Ways    []Way
	KeyS    float64
	RestS   float64
	TxA     *float64 // the radio's current while it transmits
}

// Step is one key-up. StartS is when it begins, in s from the first wiring on; nil where it
// does not count, since it is not made.
type Step struct {
	N           int           `json:"n"`
	Path        string        `json:"path"`
	Band        string        `json:"band"`
	Channel     string        `json:"channel"`
	FrequencyHz float64       `json:"frequency_hz"`
	Level       string        `json:"level"`
	Mode        rulebook.Mode `json:"mode"`
	SupplyV     *float64      `json:"supply_v"`
	Kind        Purpose       `json:"kind"`
	Counts      bool          `json:"counts"`
	WhyNot      string        `json:"why_not"`
	ClaimedW    *float64      `json:"claimed_w"`
	StartS      *float64      `json:"start_s"`
	Way         int           `json:"-"` // which of the request's ways
}

// Sheet is the steps in their order and what they take: bench and transmitting time in s,
// and the charge taken from a battery in mAh, nil where the current is not known.
type Sheet struct {
	Steps      []Step   `json:"steps"`
	RigChanges int      `json:"rig_changes"`
	BenchS     float64  `json:"bench_s"`
	TransmitS  float64  `json:"transmit_s"`
	BatteryMAh *float64 `json:"battery_mah"`
}

// Make lays out the steps: path, supply, band, channel, level and mode in that order, so
// that what is slow to change changes least; levels from the lowest, so that the load is
// cool when the highest is keyed. A path with no step that counts is not wired.
func Make(r Request) Sheet {
	out := Sheet{Steps: []Step{}}
	supplies := make([]*float64, len(r.SupplyV))
	for i := range r.SupplyV {
		supplies[i] = &r.SupplyV[i]
	}
	if len(supplies) == 0 {
		supplies = []*float64{nil}
	}
	for at, way := range r.Ways {
		for _, volts := range supplies {
			for _, b := range r.Bands {
				for _, c := range b.Channels {
					whyNot := map[rulebook.Mode]string{}
					for _, m := range b.Modes {
						whyNot[m] = way.Suits(KeyUp{c.Frequency, m, b.highest()})
					}
					for _, l := range b.lowestFirst() {
						for _, m := range b.Modes {
							s := Step{
								N: len(out.Steps) + 1, Path: way.Name, Band: b.Name, Channel: c.Name, FrequencyHz: float64(c.Frequency), Level: l.Name, Mode: m,
								SupplyV: volts, Kind: way.Kind, Counts: whyNot[m] == "", WhyNot: whyNot[m], Way: at,
							}
							if l.ClaimedW > 0 {
								s.ClaimedW = &l.ClaimedW
							}
							out.Steps = append(out.Steps, s)
						}
					}
				}
			}
		}
	}
	out.Time(r)
	return out
}

// Time works out what the steps take in the order they have now.
func (s *Sheet) Time(r Request) {
	s.BenchS, s.TransmitS, s.BatteryMAh = 0, 0, nil
	wired, changes := -1, 0
	for i := range s.Steps {
		step := &s.Steps[i]
		if step.StartS = nil; !step.Counts {
			continue
		}
		if step.Way != wired {
			wired = step.Way
			changes++
			s.BenchS += r.Ways[wired].RigS
		}
		at := s.BenchS
		step.StartS = &at
		s.BenchS += r.KeyS + r.RestS
		s.TransmitS += r.KeyS
	}
	s.RigChanges = changes
	if r.TxA != nil {
		mah := *r.TxA * 1000 * s.TransmitS / 3600
		s.BatteryMAh = &mah
	}
}

func (b Band) highest() float64 {
	most := 0.0
	for _, l := range b.Levels {
		most = max(most, l.ClaimedW)
	}
	return most
}

// lowestFirst is the levels by their claim; as they are given, which is from the highest
// down, turned round where one has none.
func (b Band) lowestFirst() []Level {
	out := slices.Clone(b.Levels)
	if slices.ContainsFunc(out, func(l Level) bool { return l.ClaimedW == 0 }) {
		slices.Reverse(out)
		return out
	}
	slices.SortStableFunc(out, func(a, b Level) int {
		switch {
		case a.ClaimedW < b.ClaimedW:
			return -1
		case a.ClaimedW > b.ClaimedW:
			return 1
		}
		return 0
	})
	return out
}

// Through tells why a key-up through a path would not count: it is not safe at the band's
// highest claim with its reserve (in AM at the peak of full modulation), or the path has no
// answer there; for emissions not at the second harmonic either.
func Through(p *path.Path, kind Purpose) func(KeyUp) string {
	return func(k KeyUp) string {
		w := float64(path.HighestKeyed(units.Watts(k.ClaimedW), 0))
		if k.ClaimedW == 0 {
			w = float64(path.HighestKeyed(path.Unclaimed, 0))
		}
		s := path.Stress{SourceW: w, SourcePEPW: w, Frequencies: []units.Hertz{k.Frequency}}
		if k.Mode == rulebook.AM {
			s.SourcePEPW = float64(rf.AMPeak(units.Watts(w), 1))
		}
		at, err := p.Analyze(s)
		if err != nil {
			return err.Error()
		}
		for _, f := range at.Problems {
			if f.Severity == say.Danger || f.Code == say.OutOfRangeCode {
				return f.Detail
			}
		}
		if kind != Emissions {
			return ""
		}
		s.Frequencies[0] = 2 * k.Frequency
		if at, err = p.Analyze(s); err != nil {
			return err.Error()
		}
		for _, f := range at.Problems {
			if f.Code == say.OutOfRangeCode {
				return fmt.Sprintf("not even the 2nd harmonic can be seen: %s", f.Detail)
			}
		}
		return ""
	}
}

// Check says what is wrong with a request, in the names of the contract.
func (r Request) Check() error {
	var bad problem.List
	if len(r.Bands) == 0 {
		bad.Add("bands", "give at least one band with channels, levels and modes")
	}
	for i, b := range r.Bands {
		field := fmt.Sprintf("bands[%d]", i)
		if len(b.Channels) == 0 {
			bad.Add(field+".channels", "give at least one channel with its frequency_hz")
		}
		for k, c := range b.Channels {
			if !(c.Frequency > 0) || math.IsInf(float64(2*c.Frequency), 0) {
				bad.Add(fmt.Sprintf("%s.channels[%d].frequency_hz", field, k), "give a frequency above 0 Hz")
			}
		}
		if len(b.Levels) == 0 {
			bad.Add(field+".levels", "give at least one level with its claimed_w")
		}
		if len(b.Modes) == 0 {
			bad.Add(field+".modes", "give at least one of FM, AM, SSB, CW and DIGITAL")
		}
		for k, m := range b.Modes {
			if !m.Known() {
				bad.Add(fmt.Sprintf("%s.modes[%d]", field, k), "give one of FM, AM, SSB, CW and DIGITAL")
			}
		}
	}
	for i, v := range r.SupplyV {
		if !(v > 0) {
			bad.Add(fmt.Sprintf("supply_v[%d]", i), "give a voltage above 0 V")
		}
	}
	if len(r.Ways) == 0 {
		bad.Add("paths", "give at least one path with its elements and kind")
	}
	for i, w := range r.Ways {
		if !w.Kind.Known() {
			bad.Add(fmt.Sprintf("paths[%d].kind", i), "give power or emissions")
		}
		if w.RigS < 0 {
			bad.Add(fmt.Sprintf("paths[%d].rig_s", i), "give 0 s or more")
		}
	}
	if !(r.KeyS > 0) {
		bad.Add("key_s", "give a time above 0 s")
	}
	if r.RestS < 0 {
		bad.Add("rest_s", "give 0 s or more")
	}
	if r.TxA != nil && !(*r.TxA > 0) {
		bad.Add("tx_a", "give a current above 0 A")
	}
	return bad.Err()
}
