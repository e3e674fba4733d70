package rulebook

import (
	"math"

	"talloak/core/problem"
	"talloak/core/units"
)

// Carrier is the transmission whose emissions are limited. Dates are of the
// equipment, written 2003-01-01; not given means new.
type Carrier struct {
	Frequency units.Hertz
	MeanW     float64
	PEPW      float64
	Mode      Mode
	State     State
	Service   string
	Class     string
	Built     string
	Marketed  string
	Installed string
}

// Check says what is wrong with a carrier, in the names of the contract.
func (c Carrier) Check() error {
	var bad problem.List
	if !(c.Frequency > 0) {
		bad.Add("fundamental_hz", "give more than 0 Hz")
	}
	if !(c.MeanW > 0) {
		bad.Add("mean_power_w", "give a power above 0 W")
	} else if math.IsInf(c.MeanW*1000, 0) {
		bad.Add("mean_power_w", "too large")
	} else if !(c.PEPW >= c.MeanW) {
		bad.Add("pep_w", "the peak envelope power cannot be below the mean power")
	} else if math.IsInf(c.PEPW*1000, 0) {
		bad.Add("pep_w", "too large")
	}
	if c.Mode != "" && !c.Mode.Known() {
		bad.Add("mode", "give FM, AM, SSB, CW or DIGITAL")
	}
	if c.State != Operating && c.State != Standby {
		bad.Add("state", "give operating or standby")
	}
	for _, d := range []struct{ field, v string }{{"equipment_built", c.Built}, {"equipment_marketed", c.Marketed}, {"equipment_installed", c.Installed}} {
		if d.v != "" && !IsDate(d.v) {
			bad.Add(d.field, "give a date such as 2003-01-01")
		}
	}
	return bad.Err()
}
