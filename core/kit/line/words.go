package line

import (
	"fmt"
	"slices"
	"strings"

	"talloak/core/kit"
	"talloak/core/units"
)

// said is one thing that is known of an item, by the field that it stands in.
type said struct{ field, words string }

// describe says what a spec holds: what was said of it, and what is typical of its kind.
func describe(s *kit.Spec) (own, typical []string) {
	own, typical = []string{}, []string{}
	for _, x := range facts(s) {
		if slices.ContainsFunc(s.Typical, func(t string) bool { return t == x.field || strings.HasPrefix(t, x.field+".") }) {
			typical = append(typical, x.words)
		} else {
			own = append(own, x.words)
		}
	}
	return own, typical
}

func facts(s *kit.Spec) []said {
	var out []said
	add := func(field, format string, args ...any) { out = append(out, said{field, fmt.Sprintf(format, args...)}) }
	e := &s.Element
	if l := e.Loss; l != nil && l.FlatDB != nil {
		add("element.loss", "takes %g dB", *l.FlatDB)
	}
	if e.Cable != nil && e.LengthM != nil {
		add("element.cable", "%s", strings.ToUpper(*e.Cable))
		add("element.length_m", "%g m", *e.LengthM)
	}
	if e.CouplingDB != nil {
		add("element.coupling_db", "couples %g dB", *e.CouplingDB)
	}
	if e.ToleranceDB != nil {
		add("element.tolerance_db", "within ±%g dB", *e.ToleranceDB)
	}
	for _, p := range s.Positions {
		if p.DB != nil {
			add("positions", "position %s", p.Name)
		} else {
			add("positions", "%s, never measured", p.Name)
		}
	}
	if m := s.Meter; m != nil {
		if m.FromHz != nil || m.ToHz != nil {
			add("meter.from_hz", "reads %s", between(m.FromHz, m.ToHz))
		}
		switch {
		case len(s.ScalesW) > 0:
			add("scales_w", "scales to %s W", figuresOf(s.ScalesW, " and "))
		case m.ScaleW != nil:
			add("meter.scale_w", "scale to %g W", *m.ScaleW)
		}
		if m.PctReading > 0 {
			add("meter.pct_reading", "±%g %% of the reading", m.PctReading)
		}
		if m.PctFullScale > 0 {
			add("meter.pct_full_scale", "±%g %% of full scale", m.PctFullScale)
		}
		if m.DB > 0 {
			add("meter.db", "±%g dB", m.DB)
		}
		if m.Needle {
			add("meter.needle", "a needle")
		} else if m.DigitW > 0 {
			add("meter.digit_w", "last digit %g W", m.DigitW)
		}
	} else if (e.FromHz != nil || e.ToHz != nil) && s.Kind != kit.Analyzer {
		add("element.to_hz", "made for %s", between(e.FromHz, e.ToHz))
	}
	if e.MaxW != nil {
		add("element.max_w", "stands %g W all the time", *e.MaxW)
	}
	if e.ShortMaxW != nil && e.ShortS != nil {
		add("element.short_max_w", "%g W for %g s", *e.ShortMaxW, *e.ShortS)
	}
	for _, r := range e.Ranges {
		words := fmt.Sprintf("%s to %s", units.Hertz(r.FromHz), units.Hertz(r.ToHz))
		if r.Name != "" {
			words = r.Name + " input " + words
		}
		if r.MaxInputDBm != nil {
			words += fmt.Sprintf(", at most %+g dBm", *r.MaxInputDBm)
		}
		if r.NoiseFloorDBm != nil && r.FloorRBWHz != nil {
			words += fmt.Sprintf(", floor %g dBm in %s", *r.NoiseFloorDBm, units.Hertz(*r.FloorRBWHz))
		}
		add("element.ranges", "%s", words)
	}
	if e.InputAttenuationDB != nil {
		add("element.input_attenuation_db", "input attenuation %g dB", *e.InputAttenuationDB)
	}
	if e.SHIDBm != nil {
		add("element.shi_dbm", "SHI %+g dBm", *e.SHIDBm)
	}
	if e.TOIDBm != nil {
		add("element.toi_dbm", "TOI %+g dBm", *e.TOIDBm)
	}
	if s.PreAmplifier != "" {
		add("pre_amplifier", "pre-amplifier %s", map[string]string{"none": "none", "fitted": "fitted, and off"}[s.PreAmplifier])
	}
	if s.AccuracyDB > 0 {
		add("accuracy_db", "levels within ±%g dB", s.AccuracyDB)
	}
	if v := s.Supply; v != nil {
		if v.FromV == v.ToV {
			add("supply.from_v", "%g V", v.FromV)
		} else {
			add("supply.from_v", "%g to %g V", v.FromV, v.ToV)
		}
		if v.LimitA != nil {
			add("supply.limit_a", "at most %g A", *v.LimitA)
		}
		if v.LeadOhm != nil {
			add("supply.lead_ohm", "leads %g Ω", *v.LeadOhm)
		}
	}
	if l := s.Levels; l != nil {
		add("levels", "%g to %g dBm", l.FromDBm, l.ToDBm)
	}
	if e.SWR != nil {
		add("element.swr", "SWR %g", *e.SWR)
	}
	if s.CheckedOn != "" {
		add("checked_on", "checked on %s", s.CheckedOn)
	}
	if s.Serial != "" {
		add("serial", "serial %s", s.Serial)
	}
	return out
}

func between(from, to *float64) string {
	switch {
	case from == nil:
		return "up to " + units.Hertz(*to).String()
	case to == nil:
		return "from " + units.Hertz(*from).String()
	}
	lo, hi := units.Hertz(*from).String(), units.Hertz(*to).String()
	if v, unit, _ := strings.Cut(lo, " "); strings.HasSuffix(hi, " "+unit) { // said once where both have it
		lo = v
	}
	return lo + " to " + hi
}

func figuresOf(all []float64, between string) string {
	out := make([]string, len(all))
	for i, v := range all {
		out[i] = fmt.Sprintf("%g", v)
	}
	return strings.Join(out, between)
}

// name is what a thing is called that nobody named: by its word and what tells it from others.
func (r *reader) name() string {
	e, parts := &r.spec.Element, []string{}
	add := func(format string, args ...any) { parts = append(parts, fmt.Sprintf(format, args...)) }
	switch {
	case r.spec.Kind == kit.Cable && e.Cable != nil:
		add("%s, %g m", strings.ToUpper(*e.Cable), *e.LengthM)
	case r.lossSaid && e.Loss != nil:
		add("%g dB", *e.Loss.FlatDB)
	case e.CouplingDB != nil:
		add("%g dB", *e.CouplingDB)
	}
	if m := r.meter(); m != nil {
		if m.FromHz != nil && m.ToHz != nil {
			add("%s", between(m.FromHz, m.ToHz))
		}
		if len(r.spec.ScalesW) > 0 {
			add("%s W", figuresOf(r.spec.ScalesW, "/"))
		}
	} else if e.MaxW != nil {
		add("%g W", *e.MaxW)
	}
	if n := len(e.Ranges); n > 0 {
		add("%s to %s", units.Hertz(e.Ranges[0].FromHz), units.Hertz(e.Ranges[n-1].ToHz))
	}
	if v := r.spec.Supply; v != nil && v.FromV == v.ToV {
		add("%g V", v.FromV)
	} else if v != nil {
		add("%g to %g V", v.FromV, v.ToV)
	}
	if len(parts) == 0 {
		return r.as
	}
	return r.as + " " + strings.Join(parts, ", ")
}
