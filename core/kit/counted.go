package kit

import (
	"slices"

	"talloak/core/reading"
)

// Counted is the item as it counts: what nobody stated has the typical value of its
// kind, named in Typical, since no part is perfect. Accuracy, repeatability and
// tolerance are filled; ratings never are.
func (s Spec) Counted() Spec {
	s.Typical = slices.Clone(s.Typical)
	kind := s.KindOf()
	if s.Meter != nil {
		m := *s.Meter
		s.completeMeter(&m)
		s.Meter = &m
	}
	if e := &s.Element; e.ToleranceDB == nil && e.ExpandedDB == nil {
		if t, ok := typicalToleranceDB[kind]; ok {
			e.ToleranceDB = &t
			s.markOnce("element.tolerance_db")
		}
	}
	s.Element.TypicalTolerance = slices.Contains(s.Typical, "element.tolerance_db")
	if (kind == Analyzer || kind == SignalGenerator) && s.AccuracyDB == 0 {
		s.AccuracyDB, s.AccuracyK = Typical(kind).AccuracyDB, nil
		s.markOnce("accuracy_db")
	}
	return s
}

// typicalToleranceDB is how far the loss of a part lies from what is printed, as a
// half-width in dB, where nobody says (common practice, no source).
var typicalToleranceDB = map[Kind]float64{
	Adapter: 0.05, Cable: 0.1, ThroughMeter: 0.05, Attenuator: 0.5, SwitchedAttenuator: 0.5, Tap: 1, Coupler: 1, Sampler: 2,
}

func (s *Spec) markOnce(field string) {
	if !slices.Contains(s.Typical, field) {
		s.Typical = append(s.Typical, field)
	}
}

func (s *Spec) completeMeter(m *reading.Meter) {
	if m.PctReading == 0 && m.PctFullScale == 0 && m.DB == 0 && m.ExpandedDB == 0 && m.ExpandedPct == 0 {
		m.PctReading = typicalMeterPct
		s.markOnce("meter.pct_reading")
	}
	m.TypicalAccuracy = slices.Contains(s.Typical, "meter.pct_reading")
	if m.RepeatabilityPct == nil { // its figure depends on the reading where it is a needle
		m.TypicalRepeatability = true
		s.markOnce("meter.repeatability_pct")
	}
}

// typicalMeterPct is the accuracy of a power meter whose maker states none, as a
// half-width in percent of the reading: that of a pocket meter, not of a good one
// (common practice, no source).
const typicalMeterPct = 10.0

// division is the division of a needle on scale i: stated for the scale, else as
// many to each scale as to the largest one.
func (s *Spec) division(i int) float64 {
	if i < len(s.DivisionsW) && s.DivisionsW[i] > 0 {
		return s.DivisionsW[i]
	}
	return s.Meter.DigitW * s.ScalesW[i] / slices.Max(s.ScalesW)
}

// InUse tells whether the item takes the power as a station does, not as a
// measurement: an antenna.
func (k Kind) InUse() bool { return k == Antenna }

// Sends tells whether the item sends into the radio: nothing may be keyed into it.
func (k Kind) Sends() bool { return k == SignalGenerator }
