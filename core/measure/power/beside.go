package power

import (
	"math"

	"talloak/core/diagnose"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/units"
)

// Beside is what a reading says beside its power.
type Beside struct {
	Refused  bool     `json:"refused,omitempty"`
	Check    string   `json:"check,omitempty"`
	ScaleW   *float64 `json:"scale_w,omitempty"`
	DisplayW *float64 `json:"display_w,omitempty"`  // what the radio shows
	DisplayD *float64 `json:"display_db,omitempty"` // that less what was measured, in dB
	Settings string   `json:"settings,omitempty"`
	TargetW  *float64 `json:"target_w,omitempty"`
	AtMost   bool     `json:"at_most,omitempty"`
	Toward   string   `json:"toward,omitempty"`    // down, more or stop
	TargetDB *float64 `json:"target_db,omitempty"` // measured less target
	Reached  string   `json:"reached,omitempty"`   // yes, no or too close to call
	Trusted  *Trusted `json:"trusted,omitempty"`
	MeterDB  *float64 `json:"meter_db,omitempty"` // what the meter shows of a trusted radio, less what that gives

	DepthPct     *float64 `json:"am_depth_percent,omitempty"`
	DepthLowPct  *float64 `json:"am_depth_low_percent,omitempty"`
	DepthHighPct *float64 `json:"am_depth_high_percent,omitempty"`
	Speech       string   `json:"speech,omitempty"`
	Efficiency   *float64 `json:"efficiency_percent,omitempty"`

	// OffSupply: read well below the radio's nominal voltage. It is kept as power against
	// supply, never held against the claim, which is made of the nominal.
	OffSupply bool `json:"off_supply,omitempty"`

	// By are the instruments whose figures stand in the text as they were read.
	By []record.By `json:"by,omitempty"`
}

// speechDB is how little speech may change the power of an FM carrier, in dB, where the
// meter's own scatter does not hide more (common practice, no source).
const speechDB = 0.2

// besides works out what stands beside the power read; a target is met within the tolerance.
func (r *Reading) besides(in line, tolerance units.DB) {
	b := &r.Beside
	off := b.OffSupply
	*b = Beside{OffSupply: off, Refused: in.Refused, Check: in.Check, ScaleW: in.ScaleW, DisplayW: in.DisplayW, Settings: in.Settings, TargetW: in.TargetW, AtMost: in.AtMost, Trusted: in.Trusted, By: in.readBy()}
	w, low, high, ok := r.figure()
	if !ok {
		return
	}
	if b.DisplayW != nil {
		b.DisplayD = ratioDB(*b.DisplayW, w)
	}
	if b.TargetW != nil {
		b.TargetDB = ratioDB(w, *b.TargetW)
		b.Toward, b.Reached = diagnose.Toward(units.Watts(w), units.Watts(low), units.Watts(high), units.Watts(*b.TargetW), tolerance, b.AtMost)
	}
	if b.Trusted != nil {
		b.MeterDB = ratioDB(w, b.Trusted.W)
		if b.Trusted.W < low || b.Trusted.W > high {
			r.Doubts = append(r.Doubts, trustedOff(b.Trusted.Name, units.Watts(w), units.Watts(b.Trusted.W)))
		}
	}
	if v, a := r.Entry.SupplyV, r.Entry.SupplyA; v != nil && a != nil && *v**a > 0 {
		share := 100 * w / (*v * *a)
		b.Efficiency = &share
		if share > 100 {
			r.Doubts = append(r.Doubts, tooEfficient(units.Watts(w), *v**a))
		}
	}
	r.speech()
}

func ratioDB(a, b float64) *float64 {
	if !(a > 0) || !(b > 0) {
		return nil
	}
	db := float64(units.RatioDB(a / b))
	return &db
}

// figure is the carrier or mean power with its interval; the peak where that alone was
// read.
func (r *Reading) figure() (w, low, high float64, ok bool) {
	if r.Result == nil {
		return r.peakFigure()
	}
	return intervalOf(r.Result)
}

// peakFigure is the peak power with its interval.
func (r *Reading) peakFigure() (w, low, high float64, ok bool) { return intervalOf(r.Peak) }

func intervalOf(read *reading.Result) (w, low, high float64, ok bool) {
	if read == nil || read.AtConnectorW == nil || !read.Counts {
		return 0, 0, 0, false
	}
	w = *read.AtConnectorW
	if low, high = w, w; read.LowW != nil {
		low, high = *read.LowW, *read.HighW
	}
	return w, low, high, true
}

// speech says what speaking did: in AM it makes the depth, on FM it must change nothing, and
// SSB has no power without it.
func (r *Reading) speech() {
	both := r.Result != nil && r.Peak != nil && r.Result.Counts && r.Peak.Counts && positive(r.Result) && positive(r.Peak)
	switch r.Mode {
	case rulebook.AM:
		if both {
			m, low, high := diagnose.AMDepth(r.Result, r.Peak)
			m, low, high = 100*m, 100*low, 100*high
			r.DepthPct, r.DepthLowPct, r.DepthHighPct = &m, &low, &high
		}
	case rulebook.SSB:
		r.Speech = "by voice: the peak is only as good as the meter holds it; it needs one that reads peaks, and a note of the microphone gain"
	case rulebook.FM:
		if !both {
			return
		}
		if db := float64(units.RatioDB(*r.Peak.AtConnectorW / *r.Result.AtConnectorW)); math.Abs(db) <= speechDB {
			r.Speech = "speech changes nothing: checked"
		} else {
			r.Doubts = append(r.Doubts, speechChanges(db))
		}
	}
}

func positive(r *reading.Result) bool { return r.AtConnectorW != nil && *r.AtConnectorW > 0 }

func trustedOff(name string, shown, known units.Watts) say.Said {
	return say.That("trusted-off", "%s reads %s on this meter and is known to give %s: more than the uncertainty apart", name, shown, known).Do("doubt the meter or its path before the radio on test")
}

func tooEfficient(w units.Watts, dc float64) say.Said {
	return say.That("impossible-efficiency", "%s out of %.3g W from the supply cannot be", w, dc).Do("check volts, amps and the path's loss")
}

func speechChanges(db float64) say.Said {
	return say.That("speech-changes", "on FM speech changes the power by %+.1f dB, and it must change nothing", db).Do("is it FM that is set, and the supply strong enough?")
}
