package instruments

import (
	"encoding/binary"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"talloak/core/sweep"
	"talloak/core/units"
)

// Wanted is what is to be dialled in for a sweep; 0 or empty is left as it stands.
type Wanted struct {
	StartHz, StopHz, RBWHz float64
	Detector, Hold         string
	AttenuationDB          *float64
	PreAmplifier           string
	Points                 int
}

// Dialled is a setting: what was wanted, and what the instrument says it is.
type Dialled struct {
	What   string `json:"what"`
	Wanted string `json:"wanted,omitempty"`
	Told   string `json:"told"`
}

// State is how an analyzer is set, as it tells itself.
type State struct {
	StartHz, StopHz, RBWHz float64
	Points                 int
	Detector, Hold         string
	OffsetDB               float64
	AttenuationDB          *float64
	PreAmplifier           string
}

// State asks how it is set.
func (l *Line) State() (State, error) {
	var s State
	points := 0.0
	for name, at := range map[string]*float64{"start_hz": &s.StartHz, "stop_hz": &s.StopHz, "rbw_hz": &s.RBWHz, "offset_db": &s.OffsetDB, "points": &points} {
		v, _, err := l.toldNumber(name)
		if err != nil {
			return s, err
		}
		*at = v
	}
	for name, at := range map[string]*string{"detector": &s.Detector, "hold": &s.Hold, "pre_amplifier": &s.PreAmplifier} {
		v, err := l.told(name)
		if err != nil {
			return s, err
		}
		*at = v
	}
	if v, ok, err := l.toldNumber("attenuation_db"); err != nil {
		return s, err
	} else if ok {
		s.AttenuationDB = &v
	}
	s.Points = int(points)
	if !(s.StartHz >= 0 && s.StopHz > s.StartHz && s.StopHz < 1e13 && s.RBWHz > 0 && s.RBWHz < s.StopHz*10) || math.Abs(s.OffsetDB) > 200 {
		return s, trouble("it says that it sweeps from %s to %s Hz at %s Hz with %s dB added, which cannot be", written(s.StartHz), written(s.StopHz), written(s.RBWHz), written(s.OffsetDB))
	}
	return s, l.checkErrors()
}

// Hurts says what of the wanted, as it stands now, could hurt the input. Each is to be confirmed before
// it is sent.
func (s State) Hurts(w Wanted) []string {
	out := []string{}
	if w.AttenuationDB != nil {
		told := ""
		if s.AttenuationDB != nil {
			told = written(*s.AttenuationDB)
		}
		out = append(out, Hurts("attenuation_db", told, written(*w.AttenuationDB))...)
	}
	return append(out, Hurts("pre_amplifier", s.PreAmplifier, w.PreAmplifier)...)
}

// Dial sets what is wanted and can be set, and tells how it is set then. What lies in the way of
// damage comes first: attenuation up and the pre-amplifier off before anything else.
func (l *Line) Dial(w Wanted) (State, []Dialled, error) {
	type one struct{ name, what, value string }
	var all []one
	add := func(name, what, value string) {
		if value != "" && value != "0" && l.Driver.Settings[name].Tell != "" {
			all = append(all, one{name, what, value})
		}
	}
	if w.AttenuationDB != nil && l.Driver.Settings["attenuation_db"].Tell != "" {
		all = append(all, one{"attenuation_db", "Input attenuation", written(*w.AttenuationDB)})
	}
	add("pre_amplifier", "Pre-amplifier", w.PreAmplifier)
	add("start_hz", "Start", written(w.StartHz))
	add("stop_hz", "Stop", written(w.StopHz))
	add("rbw_hz", "Resolution bandwidth", written(w.RBWHz))
	add("points", "Points", strconv.Itoa(w.Points))
	add("detector", "Detector", w.Detector)
	add("hold", "Hold", w.Hold)
	out := []Dialled{}
	for _, o := range all {
		if _, clears := l.Driver.Settings["hold"].Words["single"]; o.name == "hold" && o.value != "single" && clears {
			if err := l.Tell("hold", "single"); err != nil { // what was held before is of something else
				return State{}, out, err
			}
		}
		if err := l.Tell(o.name, o.value); err != nil {
			return State{}, out, err
		}
		// As many points as it has will do: what it took is read back.
		if err := l.checkErrors(); err != nil && o.name != "points" {
			return State{}, out, trouble("%s %s: %s", o.what, withUnit(o.name, o.value), err.Error())
		}
		told, err := l.told(o.name)
		if err != nil {
			return State{}, out, err
		}
		out = append(out, Dialled{o.what, withUnit(o.name, o.value), withUnit(o.name, told)})
	}
	s, err := l.State()
	if err == nil {
		out = append(out, Dialled{What: "Offset", Told: withUnit("offset_db", written(s.OffsetDB))})
	}
	return s, out, err
}

// Taken is a whole sweep, as the instrument told it.
type Taken struct {
	State
	Trace      sweep.Trace
	Overloaded bool
}

// Begin sends what is sent once before sweeps.
func (l *Line) Begin() error {
	if l.Driver.Sweep == nil {
		return trouble("the driver %s takes no sweeps", l.Driver.Name)
	}
	for _, b := range slices.Concat(l.Driver.Sweep.Before, l.Driver.Trace.Before) {
		if err := l.Say(b); err != nil {
			return err
		}
	}
	return l.checkErrors()
}

// SweepTime is how long one takes, in s; 0 where it does not say.
func (l *Line) SweepTime() (float64, error) {
	ask := l.Driver.Sweep.Time
	if ask == "" {
		return 0, nil
	}
	answer, err := l.Ask(ask)
	if err != nil {
		return 0, err
	}
	return number(ask, answer)
}

// Sweep takes one sweep and waits until it is whole. It is refused where the settings are not after
// it what they were before: somebody turned a knob meanwhile.
func (l *Line) Sweep(before State) (*Taken, error) {
	d := l.Driver
	if err := l.Say(d.Sweep.Tell); err != nil {
		return nil, err
	}
	within := time.Duration(d.Sweep.WithinS * float64(time.Second))
	for until := time.Now().Add(within); ; {
		answer, err := l.askWithin(d.Sweep.Done, time.Until(until))
		if err != nil {
			return nil, err
		}
		if strings.TrimSpace(answer) == d.Sweep.Is {
			break
		}
		if time.Now().After(until) {
			return nil, trouble("its sweep is not done within %g s", d.Sweep.WithinS)
		}
		time.Sleep(20 * time.Millisecond)
	}
	wait := max(l.wait, 30*time.Second)
	var levels []float64
	var err error
	if d.Trace.As == "ascii" {
		levels, err = l.floats(d.Trace.Ask, wait)
	} else {
		var order binary.ByteOrder = binary.BigEndian
		if d.Trace.LittleEndian {
			order = binary.LittleEndian
		}
		levels, err = l.block(d.Trace.Ask, wait, order)
	}
	if err != nil {
		return nil, err
	}
	out := &Taken{}
	if o := d.Overload; o != nil {
		answer, err := l.Ask(o.Ask)
		if err != nil {
			return nil, err
		}
		v, err := number(o.Ask, answer)
		if err != nil {
			return nil, err
		}
		out.Overloaded = int64(v)>>o.Bit&1 == 1
	}
	after, err := l.State()
	if err != nil {
		return nil, err
	}
	if !after.same(before) {
		return nil, trouble("its settings changed while it swept: nothing of that sweep is kept")
	}
	if after.Points > 0 && after.Points != len(levels) {
		return nil, trouble("it says %d points and sends %d: nothing of that sweep is kept", after.Points, len(levels))
	}
	if d.Trace.Falling {
		slices.Reverse(levels)
	}
	out.State = after
	out.Trace = sweep.Trace{Start: units.Hertz(after.StartHz), Stop: units.Hertz(after.StopHz), Levels: levels, RBW: units.Hertz(after.RBWHz)}
	if err := out.Trace.Check(); err != nil {
		return nil, trouble("its trace cannot be: %s", err.Error())
	}
	return out, nil
}

func (s State) same(o State) bool {
	a, b := s.AttenuationDB, o.AttenuationDB
	s.AttenuationDB, o.AttenuationDB = nil, nil
	return s == o && (a == nil) == (b == nil) && (a == nil || *a == *b)
}

// CSV writes a sweep as a file that is kept: its settings, then frequency and level.
func (t *Taken) CSV() string {
	var b strings.Builder
	fmt.Fprintf(&b, "RBW,%s Hz\nDetector,%s\nFrequency (Hz),Level (dBm)\n", written(t.RBWHz), t.Detector)
	for i, l := range t.Trace.Levels {
		fmt.Fprintf(&b, "%s,%s\n", strconv.FormatFloat(float64(t.Trace.Frequency(i)), 'f', 3, 64), strconv.FormatFloat(l, 'f', 3, 64))
	}
	return b.String()
}
