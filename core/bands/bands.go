package bands

import (
	"slices"
	"strings"

	"talloak/core/units"
)

// Band is a stretch of spectrum with the name people use for it. Usual is where
// a first measurement is made: a calling or simplex frequency, never an
// emergency channel.
type Band struct {
	Name    string      `json:"name"`
	FromHz  units.Hertz `json:"from_hz"`
	ToHz    units.Hertz `json:"to_hz"`
	UsualHz units.Hertz `json:"usual_hz"`
	Channel string      `json:"channel"` // what the usual frequency is called
}

var all = []Band{
	{"10m", 28e6, 29.7e6, 29.6e6, "FM calling"},
	{"CB", 26.965e6, 27.405e6, 27.185e6, "channel 19"},
	{"6m", 50e6, 54e6, 52.525e6, "FM simplex"},
	{"4m", 70e6, 70.5e6, 70.45e6, "FM calling"},
	{"2m", 144e6, 148e6, 146.52e6, "simplex"},
	{"MURS", 151.82e6, 154.6e6, 151.88e6, "channel 2"},
	{"marine", 156e6, 157.425e6, 156.625e6, "channel 72"},
	{"1.25m", 222e6, 225e6, 223.5e6, "simplex"},
	{"70cm", 420e6, 450e6, 446e6, "simplex"},
	{"PMR446", 446e6, 446.2e6, 446.05625e6, "channel 5"},
	{"GMRS", 462.55e6, 467.725e6, 462.6e6, "channel 17"},
	{"33cm", 902e6, 928e6, 927.5e6, "simplex"},
	{"23cm", 1240e6, 1300e6, 1294.5e6, "FM simplex"},
}

// Contains tells whether f lies within the band's edges.
func (b Band) Contains(f units.Hertz) bool { return f >= b.FromHz && f <= b.ToHz }

// Names lists the bands that are known.
func Names() []string {
	names := make([]string, len(all))
	for i, b := range all {
		names[i] = b.Name
	}
	return names
}

// Find is the band of that name, whatever its case.
func Find(name string) (Band, bool) {
	i := slices.IndexFunc(all, func(b Band) bool { return strings.EqualFold(b.Name, name) })
	if i < 0 {
		return Band{}, false
	}
	return all[i], true
}
