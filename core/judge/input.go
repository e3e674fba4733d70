package judge

import (
	"fmt"
	"math"

	"talloak/core/decision"
	"talloak/core/origin"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
)

// Standing says whether a sweep or look counts.
type Standing string

// In force counts. Suspect does not count until it is cleared up; struck counts
// for nothing. Neither covers any frequency.
const (
	InForce Standing = "in-force"
	Suspect Standing = "suspect"
	Struck  Standing = "struck"
)

// Sweep is a trace with what it was taken through. Levels are as displayed:
// connector = displayed + loss(f) - applied offset. Normalised ones are below the sweep's
// own carrier, which stands at 0: they become levels by the carrier's power.
type Sweep struct {
	Name      string
	Trace     sweep.Trace
	Path      *path.Path
	AppliedDB units.DB
	Detector  string // peak, rms, average, sample; empty where not told
	Hold      string // single, max, average; empty where not told
	Modulated *bool  // whether the carrier was; nil where not told
	Standing  Standing

	Normalised bool

	// Own is how well its own analyzer and path show levels; nil takes that of the input.
	Own *rulebook.Uncertainty
}

// Look is a range looked at by eye: its floor is the highest level below which
// nothing was seen, nil where that was not noted. Tolerance is how far a frequency
// may have been read off, 0 where only the screen tells.
type Look struct {
	Name      string
	From, To  units.Hertz
	FloorDBm  *float64
	Peaks     []LookPeak
	Path      *path.Path
	AppliedDB units.DB
	Tolerance units.Hertz
	Detector  string
	Hold      string
	Modulated *bool
	Standing  Standing
	Step      units.DB // of what its levels were read to, 0 where not told
	Own       *rulebook.Uncertainty
}

// LookPeak is a line read by eye, as displayed: in dBm, or in dB from the
// displayed carrier. Step is what it was read to, 0 where only the look says.
type LookPeak struct {
	Frequency units.Hertz
	LevelDBm  *float64
	DBc       *float64
	Step      units.DB
}

// Input is everything a ruling rests on. MeanW is nil where no power meter was
// read; the fundamental of the sweeps is used then, and ClaimedW says what it should
// be. SourceSWR is the radio's own at its products.
type Input struct {
	Book        *rulebook.Book
	Carrier     rulebook.Carrier // MeanW and PEPW are set by Judge
	MeanW, PEPW *float64
	ClaimedW    *float64
	ClaimedAs   string // what that power is, where it is no claim
	SourceSWR   *float64
	Others      []origin.Named // what else the radio transmits on, to explain spurs by
	Clocks      []units.Hertz  // those it is known to have, likewise
	BandwidthHz float64        // of the emission, 0 where not known
	Sweeps      []Sweep
	Looks       []Look
	Uncertainty rulebook.Uncertainty
	NoneGiven   bool // the uncertainty was left out
	CarrierU    units.DB
	Rule        decision.Rule

	// HoldByMeter holds what is known below the carrier alone against absolute terms too, by
	// the power meter: what is far over one fails it, nothing passes by it.
	HoldByMeter bool
}

// Check says what is wrong with the input, in the names of the contract.
func (in *Input) Check() error {
	var bad problem.List
	c := in.Carrier
	c.MeanW, c.PEPW = 1, 1
	if in.MeanW != nil {
		c.MeanW, c.PEPW = *in.MeanW, *in.MeanW
	}
	switch {
	case in.PEPW == nil:
	case in.MeanW != nil:
		c.PEPW = *in.PEPW
	case !(*in.PEPW > 0): // the mean power is not known yet
		bad.Add("pep_w", "give a power above 0 W")
	}
	bad.AddErr("", c.Check())
	if in.BandwidthHz < 0 {
		bad.Add("emission_bandwidth_hz", "give 0 Hz or more")
	}
	if in.Uncertainty.Absolute < 0 {
		bad.Add("expanded_uncertainty_db", "give 0 dB or more")
	}
	if in.Uncertainty.Relative < 0 {
		bad.Add("expanded_uncertainty_dbc_db", "give 0 dB or more")
	}
	if in.ClaimedW != nil && !(*in.ClaimedW > 0) {
		bad.Add("claimed_w", "give a power above 0 W")
	}
	if in.SourceSWR != nil && *in.SourceSWR < 1 {
		bad.Add("source_swr", "give 1 or more")
	}
	if in.CarrierU < 0 {
		bad.Add("carrier_uncertainty_db", "give 0 dB or more")
	}
	if !in.Rule.Known() {
		bad.Add("decision_rule", "give simple or guarded")
	}
	if len(in.Sweeps)+len(in.Looks) == 0 {
		bad.Add("sweeps", "give at least one sweep or look")
	}
	for i := range in.Sweeps {
		s := &in.Sweeps[i]
		field := fmt.Sprintf("sweeps[%d]", i)
		bad.AddErr(field, s.Trace.Check())
		oneOf(&bad, field+".detector", s.Detector, "peak", "rms", "average", "sample")
		oneOf(&bad, field+".hold", s.Hold, "single", "max", "average")
		oneOf(&bad, field+".standing", string(s.Standing), string(InForce), string(Struck), string(Suspect))
	}
	for i := range in.Looks {
		in.Looks[i].check(&bad, fmt.Sprintf("looks[%d]", i))
	}
	return bad.Err()
}

func oneOf(bad *problem.List, field, v string, known ...string) {
	if v == "" {
		return
	}
	for _, k := range known {
		if v == k {
			return
		}
	}
	bad.Add(field, "give one of %v", known)
}

func (l *Look) check(bad *problem.List, field string) {
	if l.From < 0 {
		bad.Add(field+".from_hz", "give 0 Hz or more")
	}
	if !(l.To > l.From) {
		bad.Add(field+".to_hz", "must be above from_hz")
	}
	if l.FloorDBm != nil && math.Abs(*l.FloorDBm) > 400 {
		bad.Add(field+".floor_dbm", "%g dBm is no level an analyzer shows", *l.FloorDBm)
	}
	oneOf(bad, field+".detector", l.Detector, "peak", "rms", "average", "sample")
	oneOf(bad, field+".hold", l.Hold, "single", "max", "average")
	oneOf(bad, field+".standing", string(l.Standing), string(InForce), string(Struck), string(Suspect))
	if l.Step < 0 {
		bad.Add(field+".reading_step_db", "give 0 dB or more")
	}
	if l.Tolerance < 0 {
		bad.Add(field+".frequency_tolerance_hz", "give 0 Hz or more")
	}
	for k, p := range l.Peaks {
		at := fmt.Sprintf("%s.peaks[%d]", field, k)
		if p.Frequency < l.From || p.Frequency > l.To {
			bad.Add(at+".frequency_hz", "lies outside the look, %s to %s", l.From, l.To)
		}
		if p.Step < 0 {
			bad.Add(at+".reading_step_db", "give 0 dB or more")
		}
		switch level, dbc := p.LevelDBm, p.DBc; {
		case (level == nil) == (dbc == nil):
			bad.Add(at+".level_dbm", "give level_dbm or dbc, one of them")
		case level != nil && math.Abs(*level) > 400:
			bad.Add(at+".level_dbm", "%g dBm is no level an analyzer shows", *level)
		case dbc != nil && math.Abs(*dbc) > 400:
			bad.Add(at+".dbc", "%g dBc is no level an analyzer shows", *dbc)
		}
	}
}
