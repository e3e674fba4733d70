package power

import (
	"fmt"

	"talloak/core/measure"
	"talloak/core/units"
)

// Sections implements measure.Tells: what an edition tells beside the boxes, which it draws
// in its own way. None where there is none of it.
func (d *Room) Sections([]measure.Named) []measure.Section {
	s := d.Study()
	var out []measure.Section
	curves := func(title string, all []Curve, axis string, x func(Curve, Point) string, lines ...string) {
		if len(all) == 0 {
			return
		}
		t := measure.Section{Title: title, Lines: lines, Columns: []string{"Of", axis, "Power", "k = 2", "Current", "Efficiency"}, Numbers: []int{1, 2, 3, 4, 5}}
		for _, c := range all {
			for _, p := range c.Points {
				row := []string{c.Name, x(c, p), "refused", "", "", ""}
				if p.W != nil {
					row[2], row[3] = units.Watts(*p.W).String(), fmt.Sprintf("%s to %s", units.Watts(*p.LowW), units.Watts(*p.HighW))
				}
				if p.Outside {
					row[1] += ", outside the band"
				}
				if p.Amps != nil {
					row[4] = fmt.Sprintf("%.3g A", *p.Amps)
				}
				if p.Efficiency != nil {
					row[5] = fmt.Sprintf("%.0f %%", *p.Efficiency)
				}
				t.Rows = append(t.Rows, row)
			}
		}
		out = append(out, t)
	}
	curves("Power against frequency", s.Frequency, "Frequency", func(_ Curve, p Point) string { return units.Hertz(p.X).String() },
		"Where the transmitter works at all, into a load. What lies outside the band is held against no claim.")
	curves("Power against supply", s.Supply, "Supply", func(_ Curve, p Point) string { return fmt.Sprintf("%.4g V", p.X) },
		"Volts as measured under load at the radio, where they were noted.")
	curves("Power over time", s.Time, "After", func(c Curve, p Point) string { return fmt.Sprintf("%.0f s", p.X-c.Points[0].X) },
		"Readings of one level on one frequency, one after the other: heat and battery.")
	if len(s.Drawn) > 0 {
		t := measure.Section{Title: "Current and efficiency", Lines: []string{"Power at the connector over volts times amps of the supply, as noted while keyed."}, Columns: []string{"Of", "Frequency", "Power", "Supply", "Current", "Efficiency"}, Numbers: []int{1, 2, 3, 4, 5}}
		for _, e := range s.Drawn {
			t.Rows = append(t.Rows, []string{e.Name, units.Hertz(e.Hz).String(), units.Watts(e.W).String(), fmt.Sprintf("%.4g V", e.Volts), fmt.Sprintf("%.3g A", e.Amps), fmt.Sprintf("%.0f %%", e.Efficiency)})
		}
		out = append(out, t)
	}
	if len(s.Pairs) > 0 {
		t := measure.Section{Title: "The same key-ups through two wirings", Columns: []string{"Of", "Nearer the radio", "Through", "Difference", "What explains it"}, Numbers: []int{3}}
		for _, p := range s.Pairs {
			for i, level := range p.Of {
				t.Rows = append(t.Rows, []string{
					level, fmt.Sprintf("%s, %s", p.A, units.Watts(p.Each[i].AW)), fmt.Sprintf("%s, %s", p.B, units.Watts(p.Each[i].BW)),
					units.DB(p.LossDB[i]).Signed(), p.Detail,
				})
			}
		}
		out = append(out, t)
	}
	if len(s.Kept)+len(s.Findings) > 0 {
		t := measure.Section{Title: "Noted beside power", Columns: []string{"Where", "What", ""}}
		for _, f := range s.Findings {
			t.Lines = append(t.Lines, f.Detail+".")
		}
		for _, k := range s.Kept {
			t.Rows = append(t.Rows, []string{k.Where, k.What, k.Detail})
		}
		out = append(out, t)
	}
	return out
}
