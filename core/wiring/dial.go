package wiring

import (
	"fmt"
	"math"

	"talloak/core/advise"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/rf"
	"talloak/core/say"
	"talloak/core/units"
)

// Dial is one thing to set on the instrument.
type Dial struct {
	What  string `json:"what"`
	Value string `json:"value"`
}

// Settings is what a search is dialled in with, for a sweep taken as told, and what not
// telling one costs.
type Settings struct {
	RBWHz    float64    `json:"rbw_hz"`
	Detector string     `json:"detector"`
	Hold     string     `json:"hold"`
	Untold   say.Untold `json:"untold"`
	SettleS  float64    `json:"settle_s"` // how long to hold, in s
	Inputs   []InputFor `json:"inputs"`   // of the analyzer, whichever is in use
}

// InputFor is an input of an analyzer with the range it looks at.
type InputFor struct {
	Name   string  `json:"name"`
	FromHz float64 `json:"from_hz"`
	ToHz   float64 `json:"to_hz"`
	InUse  bool    `json:"in_use"`
}

// Ten sweeps are held, and never less than 15 s of them, since what is rare shows late (common
// practice, no source).
const (
	sweepsHeld = 10
	leastHeldS = 15
)

func settleS(s advise.Sweep) float64 {
	return math.Ceil(max(leastHeldS, sweepsHeld*rf.SweepS(s.Stop-s.Start, s.Resolution)))
}

// inputsOf are the inputs of the analyzer that ends the path.
func inputsOf(t *record.Through) []InputFor {
	out := []InputFor{}
	if n := len(t.Kit); n > 0 {
		last := t.Kit[n-1]
		for _, r := range last.Spec.Element.Ranges {
			out = append(out, InputFor{r.Name, r.FromHz, r.ToHz, last.Setting == "" || r.Name == last.Setting})
		}
	}
	return out
}

// settingsFor is what the card says; nil where the path does not end in an analyzer.
func settingsFor(p *path.Path, t *record.Through, f units.Hertz) *Settings {
	a := p.EndAnalyzer()
	if a == nil {
		return nil
	}
	told := advise.SweepFor(a, f)
	return &Settings{RBWHz: float64(told.Resolution), Detector: "peak", Hold: "max", Untold: say.WhatIsUntold(), SettleS: settleS(told), Inputs: inputsOf(t)}
}

// floorWords is what is said of a noise floor beside the bandwidth dialled in.
var floorWords = map[advise.FloorNote]string{
	advise.FloorSupposed: ", at which the floor is supposed to be noted",
	advise.FloorTooLow:   ", wider than the floor was noted at: the noise is higher than told",
}

// dialIn says what to set, offsets with their sign.
func dialIn(p *path.Path, t *record.Through, f units.Hertz) []Dial {
	loss, ok := p.LossAt(f)
	out := []Dial{}
	last := record.KitCopy{}
	if n := len(t.Kit); n > 0 {
		last = t.Kit[n-1]
	}
	if a := p.EndAnalyzer(); a != nil {
		sweep := advise.SweepFor(a, f)
		if last.Setting != "" {
			out = append(out, Dial{"Input", last.Setting})
		}
		out = append(out,
			Dial{"Start", sweep.Start.String()},
			Dial{"Stop", sweep.Stop.String()},
			Dial{"Resolution bandwidth", sweep.Resolution.String() + floorWords[sweep.Floor]},
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

func signed(v units.DB) string { return fmt.Sprintf("%+.2f dB", float64(v)) }
