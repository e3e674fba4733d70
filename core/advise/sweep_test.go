package advise

import (
	"testing"

	"talloak/core/path"
	"talloak/core/units"
)

// TestSweepFor: a search begins below the carrier with the reference bandwidth of
// its range (ITU-R SM.329, from memory), within what the analyzer has, and no
// wider than its floor was noted at; where that cannot be, it is said.
func TestSweepFor(t *testing.T) {
	const floor, none = true, false
	of := func(noted bool, floorAt float64, rbw ...float64) path.Range {
		r := path.Range{FromHz: 1e5, ToHz: 960e6, RBWHz: rbw}
		if noted {
			r.NoiseFloorDBm = v(-90)
		}
		if floorAt > 0 {
			r.FloorRBWHz = &floorAt
		}
		return r
	}
	for _, c := range []struct {
		name    string
		r       path.Range
		carrier units.Hertz
		want    Sweep
	}{
		{"VHF", of(floor, 100e3), 50.1e6, Sweep{25.05e6, 510e6, 100e3, FloorHolds}},
		{"shortwave", of(floor, 100e3), 7.1e6, Sweep{3.55e6, 80e6, 10e3, FloorHolds}},
		{"the analyzer ends first", of(floor, 100e3), 446e6, Sweep{30e6, 960e6, 100e3, FloorHolds}},
		{"none of that width", of(floor, 30e3, 3e3, 30e3, 300e3), 146e6, Sweep{30e6, 960e6, 30e3, FloorHolds}},
		{"noted narrower", of(floor, 10e3, 3e3, 30e3, 300e3), 146e6, Sweep{30e6, 960e6, 3e3, FloorHolds}},
		{"noted narrower than it has", of(floor, 1e3, 3e3, 30e3), 146e6, Sweep{30e6, 960e6, 3e3, FloorTooLow}},
		{"not said where", of(floor, 0, 10e3), 146e6, Sweep{30e6, 960e6, 10e3, FloorSupposed}},
		{"no floor at all", of(none, 0), 146e6, Sweep{30e6, 960e6, 100e3, FloorHolds}},
	} {
		if got := SweepFor(&path.Input{Ranges: []path.Range{c.r}}, c.carrier); got != c.want {
			t.Errorf("%s: %+v, want %+v", c.name, got, c.want)
		}
	}
}

// TestMoreForASecondLook: the pad nearest to 10 dB that stands what reaches it, in front of the
// instrument; none of what is too little, too much, or would burn.
func TestMoreForASecondLook(t *testing.T) {
	ask := func(ends path.Part, pads ...Candidate) string {
		s := Sick{Parts: []path.Part{pad(t, "power 40", 40, 25).Part, ends}, Stress: stress(5), Carrier: 146.52e6, Limits: limits(t, 5), Bench: pads}
		s.Stress.Frequencies, s.Stress.Strict = []units.Hertz{146.52e6}, true
		more := More(s)
		if more == nil {
			return ""
		}
		if len(more.Steps) != 1 || more.Steps[0].Do != "insert" || more.Steps[0].At != 1 || more.HeadroomDB == nil || *more.HeadroomDB < 13 {
			t.Errorf("%+v", more)
		}
		return more.Steps[0].Item
	}
	ends := analyzer(t, 10, -80, nil, nil)
	three, weak, twelve, twenty, forty := pad(t, "3", 3, 1), pad(t, "weak 10", 10, 1e-4), pad(t, "12", 12, 1), pad(t, "20", 20, 1), pad(t, "40", 40, 1)
	for want, got := range map[string]string{
		"12": ask(ends, three, weak, forty, twenty, twelve), "20": ask(ends, three, weak, forty, twenty), "": ask(ends, three, weak, forty) + ask(load(t, "load", 50).Part, twelve),
	} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
