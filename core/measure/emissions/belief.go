package emissions

import (
	"fmt"

	"talloak/core/claims"
	"talloak/core/judge"
	"talloak/core/measure/power"
	"talloak/core/record"
	"talloak/core/units"
)

// implied is the carrier as a sweep or look shows it: referred to the connector and at the
// analyzer's input, in dBm; false where it shows none, or only levels below one are known.
func implied(row *Sweep, s *judge.Sweep) (connector, input units.DBm, ok bool) {
	f0 := units.Hertz(row.FrequencyHz)
	if _, relative := s.OfRelative(); relative {
		return 0, 0, false
	}
	shown, ok := shownCarrier(row, s)
	loss, known := s.Path.LossAt(f0)
	if !ok || !known {
		return 0, 0, false
	}
	return shown + units.DBm(loss-s.AppliedDB), shown - units.DBm(s.AppliedDB), true
}

func shownCarrier(row *Sweep, s *judge.Sweep) (units.DBm, bool) {
	f0 := units.Hertz(row.FrequencyHz)
	if row.Look != nil {
		read := row.Look.evidence(judge.Sweep{}, row.ToleranceHz)
		window := read.Window(f0)
		best, found := units.DBm(0), false
		for _, k := range row.Look.Peaks {
			if at := units.Hertz(k.FrequencyHz); k.LevelDBm != nil && at >= f0-window && at <= f0+window && (!found || units.DBm(*k.LevelDBm) > best) {
				best, found = units.DBm(*k.LevelDBm), true
			}
		}
		return best, found
	}
	window := max(s.Trace.Step()+s.Trace.Resolution(), 0.001*f0)
	if f0 < s.Trace.Start || f0 > s.Trace.Stop {
		return 0, false
	}
	p, found := s.Trace.Highest(f0-window, f0+window)
	return p.Level, found
}

// unbelievable says why a sight cannot be what it seems: it implies a power many times the
// claim, or a level that its analyzer's input would not have survived. Empty where it can be.
func (d *Room) unbelievable(row *Sweep, s *judge.Sweep) string {
	if row.State != "" || row.Heard {
		return ""
	}
	carrier, input, ok := implied(row, s)
	if !ok {
		return ""
	}
	loss, _ := s.Path.LossAt(units.Hertz(row.FrequencyHz))
	if most := d.mostOf(row.Keyed); most > 0 && float64(carrier.Watts()) > claims.BeyondBelief*most {
		return claims.Unbelievable(carrier.Watts(), units.Watts(most), loss, s.AppliedDB).Detail
	}
	if survives, known := s.Path.SafeInput(units.Hertz(row.FrequencyHz)); known && input > survives {
		return fmt.Sprintf("%.1f dBm at an input that survives %.1f dBm: what the screen adds, %.1f dB, is less than it does, or the input is gone", float64(input), float64(survives), float64(s.AppliedDB))
	}
	return ""
}

// mostOf is the highest power that is known of a band, claimed or read, in W; 0 where none is.
func (d *Room) mostOf(k record.Keyed) float64 {
	most := 0.0
	for _, c := range d.review.Cells {
		if c.Band.Name == k.Band {
			most = max(most, c.Claimed)
		}
	}
	if r := power.Of(d.review).At(k, k.FrequencyHz); r != nil && r.Result != nil && r.Result.AtConnectorW != nil {
		most = max(most, *r.Result.AtConnectorW)
	}
	return most
}
