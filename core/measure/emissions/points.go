package emissions

import (
	"math"

	"talloak/core/units"
)

// Points are those of a kept sweep: frequencies in Hz, levels as displayed and at the connector in dBm. These
// are NaN where the loss is not known, and throughout a sweep that knows levels below its carrier alone, in dB.
// False for a look, which has no points, and for what cannot be worked out any more.
func (d *Room) Points(id string) (hz, shown, at []float64, ok bool) {
	for _, row := range d.sweeps {
		if row.ID != id || row.Look != nil {
			continue
		}
		s, _, err := d.sweep(row)
		if err != nil {
			return nil, nil, nil, false
		}
		_, relative := s.OfRelative()
		for i, level := range s.Trace.Levels {
			f := s.Trace.Frequency(i)
			hz, shown = append(hz, float64(f)), append(shown, level)
			v := math.NaN()
			if loss, known := s.Path.LossAt(f); known && !relative {
				v = level + float64(loss-units.DB(s.AppliedDB))
			}
			at = append(at, v)
		}
		return hz, shown, at, true
	}
	return nil, nil, nil, false
}
