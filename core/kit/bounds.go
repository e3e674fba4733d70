package kit

import (
	"fmt"

	"talloak/core/problem"
	"talloak/core/units"
)

// bound is what a figure of an item may be: beyond it it is a slip, or decides rulings by
// itself (common practice, no source).
type bound struct {
	field       string
	value       *float64
	least, most float64
	unit        string
}

// checkBounds refuses figures that no kit has.
func (s *Spec) checkBounds(bad *problem.List) {
	e := &s.Element
	all := []bound{
		{"element.max_w", e.MaxW, 1e-6, units.MostW, "W"}, {"element.short_max_w", e.ShortMaxW, 1e-6, units.MostW, "W"}, {"element.main_load_w", e.MainLoadW, 1e-6, units.MostW, "W"},
		{"element.short_s", e.ShortS, 0.1, 3600, "s"},
		{"element.from_hz", e.FromHz, 0, units.MostHz, "Hz"}, {"element.to_hz", e.ToHz, units.LeastHz, units.MostHz, "Hz"},
		{"element.tolerance_db", e.ToleranceDB, 0, 20, "dB"}, {"element.expanded_db", e.ExpandedDB, 0, 20, "dB"}, {"element.flat_within_db", e.FlatWithinDB, 0, 20, "dB"},
		{"element.coverage_factor", e.CoverageFactor, 1, 4, ""}, {"accuracy_k", s.AccuracyK, 1, 4, ""},
		{"element.swr", e.SWR, 1, 100, ""},
		{"element.shi_dbm", e.SHIDBm, -50, 150, "dBm"}, {"element.toi_dbm", e.TOIDBm, -50, 150, "dBm"}, {"element.input_attenuation_db", e.InputAttenuationDB, 0, 100, "dB"},
		{"accuracy_db", &s.AccuracyDB, 0, 20, "dB"},
	}
	for i, r := range e.Ranges {
		field := fmt.Sprintf("element.ranges[%d].", i)
		all = append(all, bound{field + "to_hz", &r.ToHz, units.LeastHz, units.MostHz, "Hz"}, bound{field + "max_input_dbm", r.MaxInputDBm, -80, units.MostDBm, "dBm"},
			bound{field + "noise_floor_dbm", r.NoiseFloorDBm, -200, 0, "dBm"}, bound{field + "floor_rbw_hz", r.FloorRBWHz, 0.1, 1e8, "Hz"})
	}
	if m := s.Meter; m != nil {
		all = append(all, bound{"meter.pct_reading", &m.PctReading, 0, 50, "%"}, bound{"meter.pct_full_scale", &m.PctFullScale, 0, 50, "%"}, bound{"meter.db", &m.DB, 0, 20, "dB"},
			bound{"meter.expanded_db", &m.ExpandedDB, 0, 20, "dB"}, bound{"meter.expanded_pct", &m.ExpandedPct, 0, 50, "%"}, bound{"meter.coverage_factor", m.CoverageFactor, 1, 4, ""},
			bound{"meter.digit_w", &m.DigitW, 0, 1e3, "W"}, bound{"meter.needle_w", &m.NeedleW, 0, 1e3, "W"}, bound{"meter.repeatability_pct", m.RepeatabilityPct, 0, 50, "%"},
			bound{"meter.swr", m.SWR, 1, 100, ""}, bound{"meter.from_hz", m.FromHz, 0, units.MostHz, "Hz"}, bound{"meter.to_hz", m.ToHz, units.LeastHz, units.MostHz, "Hz"})
	}
	for i := range s.ScalesW {
		all = append(all, bound{fmt.Sprintf("scales_w[%d]", i), &s.ScalesW[i], units.LeastW, units.MostW, "W"})
	}
	if v := s.Supply; v != nil {
		all = append(all, bound{"supply.to_v", &v.ToV, 0, units.MostV, "V"}, bound{"supply.limit_a", v.LimitA, 1e-3, units.MostA, "A"}, bound{"supply.lead_ohm", v.LeadOhm, 0, 10, "ohm"})
	}
	if l := s.Levels; l != nil {
		all = append(all, bound{"levels.from_dbm", &l.FromDBm, units.LeastDBm, units.MostDBm, "dBm"}, bound{"levels.to_dbm", &l.ToDBm, units.LeastDBm, units.MostDBm, "dBm"})
	}
	for _, b := range all {
		if b.value != nil && !(*b.value >= b.least && *b.value <= b.most) {
			bad.Add(b.field, "give %g to %g %s", b.least, b.most, b.unit)
		}
	}
}
