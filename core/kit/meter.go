package kit

import (
	"slices"

	"talloak/core/problem"
	"talloak/core/reading"
)

// MeterAt is the item as a meter of power at a setting. An analyzer is one by its
// amplitude accuracy. Errors are on "setting" and "kit_id", or on fields of the spec.
func (s *Spec) MeterAt(name, setting string) (*reading.Meter, error) {
	e, meter, err := s.On(setting)
	if err != nil {
		return nil, err
	}
	if meter == nil && len(s.Element.Ranges) > 0 {
		counted := s.Counted()
		u, distribution := counted.Accuracy()
		meter = &reading.Meter{LevelDB: float64(u), LevelDistribution: distribution, TypicalAccuracy: slices.Contains(counted.Typical, "accuracy_db"), SWR: s.Element.SWR}
		for i, r := range e.Ranges {
			if i == 0 {
				meter.FromHz, meter.ToHz = v(r.FromHz), v(r.ToHz)
			}
			*meter.FromHz, *meter.ToHz = min(*meter.FromHz, r.FromHz), max(*meter.ToHz, r.ToHz)
		}
	}
	if meter == nil {
		return nil, problem.New("kit_id", "%s reads no power", name)
	}
	return meter, nil
}
