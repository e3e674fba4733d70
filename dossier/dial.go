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

// The sweep a search begins with, where the analyzer can.
const (
	searchFrom = units.Hertz(30e6)
	searchRBW  = 100e3
)

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
		if last.Setting != "" {
			out = append(out, Dial{"Input", last.Setting})
		}
		stop := upTo10MHz(multiples*f + f/10)
		out = append(out,
			Dial{"Start", max(searchFrom, lowest).String()},
			Dial{"Stop", min(stop, highest).String()},
			Dial{"Resolution bandwidth", units.Hertz(bandwidth(a)).String()},
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

// bandwidth is the widest one the analyzer has up to that of a search; where it
// has none of those, its narrowest.
func bandwidth(a *path.Element) float64 {
	best, narrowest := 0.0, math.Inf(1)
	for _, r := range a.Ranges {
		for _, b := range r.RBWHz {
			narrowest = min(narrowest, b)
			if b <= searchRBW {
				best = max(best, b)
			}
		}
	}
	switch {
	case best > 0:
		return best
	case !math.IsInf(narrowest, 1):
		return narrowest
	}
	return searchRBW
}

// upTo10MHz rounds up to what a person dials.
func upTo10MHz(f units.Hertz) units.Hertz { return units.Hertz(math.Ceil(float64(f)/10e6) * 10e6) }

func signed(v units.DB) string { return fmt.Sprintf("%+.2f dB", float64(v)) }
