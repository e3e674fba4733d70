package instruments

import (
	"strconv"

	"talloak/core/units"
)

// Read is one figure, in W, V, A, Hz or as a plain number. What the instrument says of itself that
// it could not read is no figure.
func (l *Line) Read(name string) (float64, error) {
	f, ok := l.Driver.Figures[name]
	if !ok {
		return 0, trouble("the driver %s does not read %s", l.Driver.Name, name)
	}
	for _, b := range f.Before {
		if err := l.Say(b); err != nil {
			return 0, err
		}
	}
	answer, err := l.Ask(f.Ask)
	if err != nil {
		return 0, err
	}
	v, err := number(f.Ask, answer)
	if err != nil {
		return 0, err
	}
	if f.Void != nil && v >= *f.Void {
		return 0, trouble("it says that it can not read this: out of its range, or of its frequencies")
	}
	scaled := v * map[string]float64{"mW": 1e-3, "mA": 1e-3, "kHz": 1e3, "MHz": 1e6, "W": 1, "V": 1, "A": 1, "Hz": 1, "1": 1}[f.Unit]
	if f.Unit == "dBm" {
		scaled = float64(units.DBm(v).Watts())
	}
	if least, most := plausible[name][0], plausible[name][1]; !(scaled >= least && scaled <= most) {
		return 0, trouble("it says %s %s, which no %s is: nothing is taken", strconv.FormatFloat(v, 'g', 6, 64), f.Unit, name)
	}
	return scaled, nil
}

// plausible is what a figure can be.
var plausible = map[string][2]float64{"power": {0, 1e5}, "swr": {1, 1000}, "volts": {0, 1000}, "amps": {0, 1000}, "frequency": {0, 1e12}}

// Reads tells whether the driver reads a figure.
func (d *Driver) Reads(name string) bool { _, ok := d.Figures[name]; return ok }
