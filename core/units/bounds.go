package units

import (
	"fmt"

	"talloak/core/problem"
)

// Bounds of what can be meant at a radio bench, both included; beyond them it is a slip of
// the hand or the eye (common practice, no source). Nothing at all, 0, is a figure too.
const (
	LeastW, MostW         = 1e-9, 1e5 // 1 nW to 100 kW
	LeastHz, MostHz       = 1e3, 1e12 // 1 kHz to 1 THz
	LeastV, MostV         = 1e-3, 1e3 // 1 mV to 1 kV
	LeastA, MostA         = 1e-6, 1e3 // 1 uA to 1 kA
	mostSWR               = 1000.0
	LeastDBm, MostDBm     = -200.0, 80.0 // of a level on a screen or of a generator
	frequencyBound        = "1 kHz to 1 THz"
	powerBound, voltBound = "1 nW to 100 kW", "1 mV to 1 kV"
	levelBound            = "-200 to +80 dBm"
)

// within tells whether a figure is 0 or from least to most; the ends are met by what is
// rounded at them.
func within(v, least, most float64) bool {
	const rounded = 1e-12
	return v == 0 || v >= least*(1-rounded) && v <= most*(1+rounded)
}

// CheckW refuses a power that no radio and no meter has; nil where it is one. The error is
// words, with the bound.
func CheckW(w float64) error {
	if !within(w, LeastW, MostW) {
		return fmt.Errorf("%g W is no power of a radio: give %s", w, powerBound)
	}
	return nil
}

// CheckHz refuses a frequency that nobody measures at; 0 is none either.
func CheckHz(hz float64) error {
	if !(hz >= LeastHz && hz <= MostHz) {
		return fmt.Errorf("%g Hz is no frequency to measure at: give %s", hz, frequencyBound)
	}
	return nil
}

// CheckDBm refuses a level that no screen and no generator shows.
func CheckDBm(dbm float64) error {
	if !(dbm >= LeastDBm && dbm <= MostDBm) {
		return fmt.Errorf("%g dBm is no level: give %s", dbm, levelBound)
	}
	return nil
}

// CheckShown refuses a figure that no instrument shows, 0 apart.
func CheckShown(q Quantity) error {
	w, err := q.Power()
	if err != nil || w == 0 {
		return err
	}
	return CheckDBm(float64(w.DBm()))
}

// Check refuses what no key-up can be: figures beyond what radios, meters and supplies have.
// The error is a *problem.Error on the field "text" and says the bound.
func (e Entry) Check() error {
	refuse := func(err error) error { return problem.New("text", "%s", err.Error()) }
	for _, r := range e.Readings {
		w, err := Quantity{r.Value, *r.Unit}.Power()
		if err == nil {
			err = CheckW(float64(w))
		}
		if err != nil {
			return refuse(err)
		}
	}
	for _, w := range []*float64{e.PeakW, e.ReflectedW} {
		if w != nil && CheckW(*w) != nil {
			return refuse(CheckW(*w))
		}
	}
	if e.FrequencyHz != nil && CheckHz(*e.FrequencyHz) != nil {
		return refuse(CheckHz(*e.FrequencyHz))
	}
	for _, v := range []struct {
		v           *float64
		least, most float64
		what        string
	}{{e.SupplyV, LeastV, MostV, "V is no supply: give " + voltBound}, {e.SupplyA, LeastA, MostA, "A is no current of a radio: give 1 uA to 1 kA"}, {e.SWR, 1, mostSWR, "is no SWR: give 1 to 1000"}} {
		if v.v != nil && !within(*v.v, v.least, v.most) {
			return problem.New("text", "%g %s", *v.v, v.what)
		}
	}
	return nil
}
