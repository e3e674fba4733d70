package emissions

import (
	"talloak/core/judge"
	"talloak/core/record"
)

// SecondLook is what the newest sweep or look of a step says of an earlier one.
type SecondLook struct {
	FirstID  string `json:"first_id"`
	SecondID string `json:"second_id"`
	Before   string `json:"first"`
	After    string `json:"second"`
	judge.Second
}

// seconds compares the newest of a step with each before it, the nearest first. One that
// is doubted is compared all the same: that is what a second look is for.
func (d *Room) seconds(k record.Keyed, in judge.Input) []SecondLook {
	in.Sweeps, in.Looks = nil, nil
	var of []*Sweep
	for _, row := range d.sweeps {
		if !ofBox(row, k) || !near(row.FrequencyHz, k.FrequencyHz) {
			continue
		}
		s, _, err := d.sweep(row)
		if err != nil || s.Standing == judge.Struck {
			continue
		}
		s.Name, s.Standing = row.ID, judge.InForce // names may be alike
		if row.Look != nil {
			in.Looks = append(in.Looks, row.Look.evidence(s, row.ToleranceHz))
		} else {
			in.Sweeps = append(in.Sweeps, s)
		}
		of = append(of, row)
	}
	if len(of) < 2 {
		return nil
	}
	ruling, err := judge.Judge(in)
	if err != nil {
		return nil
	}
	newest := of[len(of)-1]
	var out []SecondLook
	for i := len(of) - 2; i >= 0; i-- {
		first := of[i]
		if first.StartHz > newest.StopHz || first.StopHz < newest.StartHz {
			continue
		}
		if two, ok := ruling.CompareLooks(first.ID, newest.ID); ok {
			out = append(out, SecondLook{first.ID, newest.ID, first.Name, newest.Name, two})
		}
	}
	return out
}
