package emissions

import (
	"talloak/core/judge"
	"talloak/core/record"
)

// SecondLook is what a sweep or look of a step says of an earlier one.
type SecondLook struct {
	FirstID  string `json:"first_id"`
	SecondID string `json:"second_id"`
	Before   string `json:"first"`
	After    string `json:"second"`
	judge.Second
}

// mostSeconds is how many pairs are compared.
const mostSeconds = 12

// seconds compares each of a step with those before it, the newest and nearest first. One
// that is doubted is compared all the same: that is what a second look is for.
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
		row.into(&in, s, nil)
		of = append(of, row)
	}
	if len(of) < 2 {
		return nil
	}
	ruling, err := judge.Judge(in)
	if err != nil {
		return nil
	}
	var out []SecondLook
	for k := len(of) - 1; k > 0; k-- {
		for i := k - 1; i >= 0 && len(out) < mostSeconds; i-- {
			first, second := of[i], of[k]
			if two, ok := ruling.CompareLooks(first.ID, second.ID); ok {
				out = append(out, SecondLook{first.ID, second.ID, first.Name, second.Name, two})
			}
		}
	}
	return out
}
