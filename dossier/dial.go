package dossier

import (
	"fmt"
	"math"

	"talloak/core/path"
	"talloak/core/units"
	"talloak/store"
)

// Dial is one thing to set on the instrument.
type Dial struct {
	What  string `json:"what"`
	Value string `json:"value"`
}

// search is the sweep a search begins with, where the analyzer can: from 30 MHz,
// or from half the carrier where that is lower, with the reference bandwidth of
// the range the carrier is in (ITU-R SM.329, from memory: 10 kHz below 30 MHz,
// 100 kHz from there to 1 GHz).
func search(f units.Hertz) (from, rbw units.Hertz) {
	if f < 30e6 {
		return f / 2, 10e3
	}
	return min(30e6, f/2), 100e3
}

// dialIn says what to set, offsets with their sign.
func dialIn(p *path.Path, t store.Through, f units.Hertz) []Dial {
	loss, ok := p.LossAt(f)
	out := []Dial{}
	last := store.KitCopy{}
	if n := len(t.Kit); n > 0 {
		last = t.Kit[n-1]
	}
	if a := p.EndAnalyzer(); a != nil {
		lowest, highest := reach(a)
		from, rbw := search(f)
		if last.Setting != "" {
			out = append(out, Dial{"Input", last.Setting})
		}
		stop := upTo10MHz(multiples*f + f/10)
		out = append(out,
			Dial{"Start", max(from, lowest).String()},
			Dial{"Stop", min(stop, highest).String()},
			Dial{"Resolution bandwidth", resolution(a, rbw)},
			Dial{"Detector, hold", "peak, max hold until it settles"})
		if a.InputAttenuationDB != nil {
			out = append(out, Dial{"Input attenuation", fmt.Sprintf("%.0f dB", *a.InputAttenuationDB)})
		}
		if last.Spec.PreAmplifier != "none" {
			out = append(out, Dial{"Pre-amplifier", "off"})
		}
	} else {
		for _, k := range t.Kit {
			if k.Spec.Meter != nil && k.Setting != "" {
				out = append(out, Dial{"Scale of " + k.Name, k.Setting})
			}
		}
	}
	applied := "0 dB: leave it at zero, the path adds " + signed(loss)
	if t.AppliedOffsetDB != 0 {
		applied = signed(units.DB(t.AppliedOffsetDB)) + ", already counted here; the path adds " + signed(loss-units.DB(t.AppliedOffsetDB)) + " more"
	}
	if !ok {
		applied = "unknown: a part of the path has no loss at this frequency"
	}
	return append(out, Dial{"Offset on the instrument", applied})
}

// reach is the lowest and the highest frequency of an analyzer's inputs in use.
func reach(a *path.Element) (lowest, highest units.Hertz) {
	lowest = units.Hertz(math.Inf(1))
	for _, r := range a.Ranges {
		lowest, highest = min(lowest, units.Hertz(r.FromHz)), max(highest, units.Hertz(r.ToHz))
	}
	return lowest, highest
}

// resolution is the bandwidth to dial in, no wider than the floor was noted at:
// at a wider one the noise is higher, and what is told to be visible is not.
func resolution(a *path.Element, wanted units.Hertz) string {
	supposed := false
	for _, r := range a.Ranges {
		if r.FloorRBWHz != nil {
			wanted = min(wanted, units.Hertz(*r.FloorRBWHz))
		}
		supposed = supposed || r.NoiseFloorDBm != nil && r.FloorRBWHz == nil
	}
	if b := bandwidth(a, wanted).String(); !supposed {
		return b
	} else {
		return b + ", at which the floor is supposed to be noted"
	}
}

// bandwidth is the widest one the analyzer has up to the one wanted; where it has
// none of those, its narrowest.
func bandwidth(a *path.Element, wanted units.Hertz) units.Hertz {
	best, narrowest := units.Hertz(0), units.Hertz(math.Inf(1))
	for _, r := range a.Ranges {
		for _, b := range r.RBWHz {
			narrowest = min(narrowest, units.Hertz(b))
			if units.Hertz(b) <= wanted {
				best = max(best, units.Hertz(b))
			}
		}
	}
	switch {
	case best > 0:
		return best
	case !math.IsInf(float64(narrowest), 1):
		return narrowest
	}
	return wanted
}

// upTo10MHz rounds up to what a person dials.
func upTo10MHz(f units.Hertz) units.Hertz { return units.Hertz(math.Ceil(float64(f)/10e6) * 10e6) }

func signed(v units.DB) string { return fmt.Sprintf("%+.2f dB", float64(v)) }
