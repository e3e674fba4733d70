package dossier

import (
	"fmt"
	"math"

	"talloak/core/path"
	"talloak/core/rf"
	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/store"
)

// Staircase is a path with the levels along it at the carrier's multiples, what
// endangers it at the highest power that can be keyed, and what to dial in.
type Staircase struct {
	PathID     string           `json:"path_id"`
	Name       string           `json:"name"`
	Purpose    string           `json:"purpose"`
	SourceW    float64          `json:"source_w"`
	SourceWhy  string           `json:"source_why"`
	Elements   []path.Element   `json:"elements"`
	Titles     []string         `json:"titles"`
	LidsDBm    []*float64       `json:"lids_dbm"`  // what each part takes at the carrier
	Multiples  path.Analysis    `json:"multiples"` // at 1 to 10 times the carrier
	Problems   []path.Finding   `json:"problems"`  // at the carrier alone
	Safe       bool             `json:"safe"`
	HeadroomDB *float64         `json:"headroom_db"` // to what the analyzer's input survives
	TightestDB *float64         `json:"tightest_db"` // to the nearest rating of any part
	SpareDB    []*float64       `json:"spare_db"`    // limit less lowest visible, per multiple
	Limits     []rulebook.Limit `json:"limits"`      // per multiple
	DialIn     []Dial           `json:"dial_in"`
}

// Dial is one thing to set on the instrument.
type Dial struct {
	What  string `json:"what"`
	Value string `json:"value"`
}

const multiples = 10

// assumedW is taken where nothing is claimed: more than a handheld puts out.
const assumedW = 10

// Wire follows the highest power that can be keyed through a kept path: the
// claim plus 1 dB, or what was measured when that is higher. A claim of 0 is
// none. In AM the peak of full modulation is what an analyzer must survive.
// Errors are *problem.Error.
func Wire(t store.Through, purpose string, f units.Hertz, claimedW, measuredW float64, mode rulebook.Mode, book *rulebook.Book) (Staircase, error) {
	out := Staircase{PathID: t.PathID, Name: t.Name, Purpose: purpose, Elements: Elements(t)}
	for _, e := range out.Elements {
		out.Titles = append(out.Titles, e.Title())
	}
	why := "the claimed maximum plus 1 dB"
	if claimedW == 0 {
		claimedW, why = assumedW, "since nothing is claimed 10 W are assumed, plus 1 dB: is that enough?"
	}
	out.SourceW, out.SourceWhy = float64(path.HighestKeyed(units.Watts(claimedW), units.Watts(measuredW))), why
	if out.SourceW == measuredW {
		out.SourceWhy = "the highest power measured, above the claim"
	}
	pep := out.SourceW
	if mode == rulebook.AM {
		pep = float64(rf.AMPeak(units.Watts(out.SourceW), 1))
		out.SourceWhy += ", with peaks of " + units.Watts(pep).String()
	}
	p, err := path.Compile(out.Elements)
	if err != nil {
		return out, err
	}
	stress := path.Stress{SourceW: out.SourceW, SourcePEPW: pep, Frequencies: []units.Hertz{f}}
	at, err := p.Analyze(stress)
	if err != nil {
		return out, err
	}
	out.Problems, out.Safe = at.Problems, at.Safe
	for n := 2; n <= multiples; n++ {
		stress.Frequencies = append(stress.Frequencies, units.Hertz(n)*f)
	}
	if out.Multiples, err = p.Analyze(stress); err != nil {
		return out, err
	}
	out.LidsDBm = p.Lids(f)
	out.HeadroomDB, out.TightestDB = at.HeadroomDB, at.TightestDB
	limits := book.For(rulebook.Carrier{Frequency: f, MeanW: claimedW, PEPW: claimedW, Mode: mode, State: rulebook.Operating})
	for k, m := range stress.Frequencies {
		limit := limits.At(m)
		out.Limits = append(out.Limits, limit)
		var lowest *float64
		if out.Multiples.LowestVisible != nil {
			lowest = out.Multiples.LowestVisible[k]
		}
		out.SpareDB = append(out.SpareDB, limit.Spare(lowest))
	}
	out.DialIn = dialIn(p, t, f)
	return out, nil
}

// dialIn says what to set, offsets with their sign.
func dialIn(p *path.Path, t store.Through, f units.Hertz) []Dial {
	loss, ok := p.LossAt(f)
	out := []Dial{}
	if a := p.EndAnalyzer(); a != nil {
		out = append(out,
			Dial{"Start", units.Hertz(30e6).String()},
			Dial{"Stop", upTo10MHz(multiples*f + f/10).String()},
			Dial{"Resolution bandwidth", units.Hertz(100e3).String()},
			Dial{"Detector, hold", "peak, max hold until it settles"})
		if a.InputAttenuationDB != nil {
			out = append(out, Dial{"Input attenuation", signed(units.DB(*a.InputAttenuationDB), false)})
		}
		out = append(out, Dial{"Pre-amplifier", "off"})
	}
	applied := "0 dB: leave the offset at zero, the path adds " + signed(loss, true)
	if t.AppliedOffsetDB != 0 {
		applied = signed(units.DB(t.AppliedOffsetDB), true) + ", already counted here"
	}
	if !ok {
		applied = "unknown: a part of the path has no loss at this frequency"
	}
	return append(out, Dial{"Offset on the instrument", applied})
}

// upTo10MHz rounds up to what a person dials.
func upTo10MHz(f units.Hertz) units.Hertz { return units.Hertz(math.Ceil(float64(f)/10e6) * 10e6) }

func signed(v units.DB, sign bool) string {
	if sign {
		return fmt.Sprintf("%+.2f dB", float64(v))
	}
	return fmt.Sprintf("%.0f dB", float64(v))
}
