package emissions

import (
	"cmp"
	"math"
	"slices"

	"talloak/core/judge"
	"talloak/core/looks"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Look is a range looked at by eye, as it was typed: from end to end of the screen, the
// floor below which nothing was seen, and the peaks seen, as displayed.
type Look struct {
	FromHz   float64    `json:"from_hz"`
	ToHz     float64    `json:"to_hz"`
	FloorDBm *float64   `json:"floor_dbm"`
	Peaks    []LookPeak `json:"peaks"`
}

// LookPeak is a peak read off a screen: in dBm, or in dB from the carrier displayed.
type LookPeak struct {
	FrequencyHz float64  `json:"frequency_hz"`
	LevelDBm    *float64 `json:"level_dbm,omitempty"`
	DBc         *float64 `json:"dbc,omitempty"`
	StepDB      float64  `json:"reading_step_db,omitempty"` // what it was read to; 0 where not told
}

// ParseLook reads a look as it is kept: as looks.Read does, with its range, and its floor or
// something that was seen. The error is a *problem.Error on the field "look" and names the word.
func ParseLook(text string, f0 units.Hertz) (Look, error) {
	read, err := looks.Read("look", text, f0)
	if err != nil {
		return Look{}, err
	}
	if read.FromHz == nil {
		return Look{}, problem.New("look", "give the range looked at first, in MHz, and its floor: 30-1000 floor -70")
	}
	if read.FloorDBm == nil && len(read.Peaks) == 0 {
		return Look{}, problem.New("look", "give the floor below which nothing was seen, and the peaks: floor -70, 2h -62")
	}
	out := Look{FromHz: *read.FromHz, ToHz: *read.ToHz, FloorDBm: read.FloorDBm}
	if err := out.bounds(read); err != nil {
		return Look{}, problem.New("look", "%s", err.Error())
	}
	for _, t := range read.Peaks {
		k := LookPeak{LevelDBm: t.LevelDBm, DBc: t.DBc, StepDB: t.StepDB}
		switch {
		case t.FrequencyHz != nil:
			k.FrequencyHz = *t.FrequencyHz
		default:
			k.FrequencyHz = float64(t.Multiple()) * float64(f0)
		}
		if k.FrequencyHz < out.FromHz || k.FrequencyHz > out.ToHz {
			return Look{}, problem.New("look", "%s lies outside the range looked at, %s to %s", units.Hertz(k.FrequencyHz), units.Hertz(out.FromHz), units.Hertz(out.ToHz))
		}
		if out.FloorDBm != nil && k.LevelDBm != nil && *k.LevelDBm < *out.FloorDBm {
			return Look{}, problem.New("look", "%g dBm at %s lies below the floor of %g dBm: what is seen there is above it", *k.LevelDBm, units.Hertz(k.FrequencyHz), *out.FloorDBm)
		}
		if slices.ContainsFunc(out.Peaks, func(o LookPeak) bool { return o.FrequencyHz == k.FrequencyHz }) {
			return Look{}, problem.New("look", "%s is given twice", units.Hertz(k.FrequencyHz))
		}
		out.Peaks = append(out.Peaks, k)
	}
	slices.SortStableFunc(out.Peaks, func(a, b LookPeak) int { return cmp.Compare(a.FrequencyHz, b.FrequencyHz) })
	return out, nil
}

// bounds refuses what no screen shows.
func (l *Look) bounds(read looks.Typed) error {
	if l.FloorDBm != nil && units.CheckDBm(*l.FloorDBm) != nil {
		return units.CheckDBm(*l.FloorDBm)
	}
	if l.ToHz > units.MostHz {
		return units.CheckHz(l.ToHz)
	}
	for _, p := range read.Peaks {
		for _, v := range []*float64{p.LevelDBm, p.DBc} {
			if v != nil && units.CheckDBm(*v) != nil {
				return units.CheckDBm(*v)
			}
		}
	}
	return nil
}

// hidesCarrier tells that the carrier lies in the range looked at and was not noted.
func (l *Look) hidesCarrier(f0 units.Hertz, toleranceHz float64) bool {
	f, judged := float64(f0), l.evidence(judge.Sweep{}, toleranceHz)
	window := float64(judged.Window(f0))
	return f >= l.FromHz && f <= l.ToHz && !slices.ContainsFunc(l.Peaks, func(p LookPeak) bool { return math.Abs(p.FrequencyHz-f) <= window })
}

// evidence is the look as it is judged.
func (l *Look) evidence(s judge.Sweep, tolerance float64) judge.Look {
	out := judge.Look{
		Name: s.Name, From: units.Hertz(l.FromHz), To: units.Hertz(l.ToHz), FloorDBm: l.FloorDBm, Path: s.Path, AppliedDB: s.AppliedDB,
		Tolerance: units.Hertz(tolerance), Detector: s.Detector, Hold: s.Hold, Modulated: s.Modulated, Standing: s.Standing,
	}
	for _, k := range l.Peaks {
		out.Peaks = append(out.Peaks, judge.LookPeak{Frequency: units.Hertz(k.FrequencyHz), LevelDBm: k.LevelDBm, DBc: k.DBc, Step: units.DB(k.StepDB)})
	}
	return out
}

// into puts a sweep or look, as it is judged, into what a ruling rests on; own is how well its
// own analyzer shows levels.
func (s *Sweep) into(in *judge.Input, e judge.Sweep, own *rulebook.Uncertainty) {
	e.Own = own
	if s.Look != nil {
		look := s.Look.evidence(e, s.ToleranceHz)
		look.Own = own
		in.Looks = append(in.Looks, look)
	} else {
		in.Sweeps = append(in.Sweeps, e)
	}
}

// lookBuckets is how many places of a look its floor is drawn at.
const lookBuckets = 80

// picture draws the look at the connector: a stick a peak, and the floor as the ground. One
// that knows only levels below the carrier is drawn from the carrier's power.
func (l *Look) picture(s judge.Sweep, f0 units.Hertz, power *units.DBm) []judge.Bucket {
	if flat, relative := s.OfRelative(); relative {
		if loss, ok := flat.LossAt(f0); ok && l.carrier() != nil && power != nil {
			s.Path = flat
			s.AppliedDB = units.DB(*l.carrier()) + loss - units.DB(*power)
		}
	}
	at := func(f, displayed float64) *float64 {
		loss, ok := s.Path.LossAt(units.Hertz(f))
		if !ok {
			return nil
		}
		v := displayed + float64(loss-s.AppliedDB)
		return &v
	}
	out := []judge.Bucket{}
	if l.FloorDBm != nil {
		for i := range lookBuckets + 1 {
			f := l.FromHz + float64(i)/lookBuckets*(l.ToHz-l.FromHz)
			out = append(out, judge.Bucket{FrequencyHz: f, NoiseDBm: at(f, *l.FloorDBm)})
		}
	}
	carrier := l.carrier()
	for _, k := range l.Peaks {
		b := judge.Bucket{FrequencyHz: k.FrequencyHz}
		switch {
		case k.LevelDBm != nil:
			b.HighDBm = at(k.FrequencyHz, *k.LevelDBm)
		case carrier != nil:
			b.HighDBm = at(k.FrequencyHz, *carrier+*k.DBc)
		}
		out = append(out, b)
	}
	slices.SortStableFunc(out, func(a, b judge.Bucket) int {
		if a.FrequencyHz < b.FrequencyHz {
			return -1
		}
		if a.FrequencyHz > b.FrequencyHz {
			return 1
		}
		return 0
	})
	return out
}

// carrier is the highest level displayed, what dBc are counted from; nil where none is.
func (l *Look) carrier() *float64 {
	var out *float64
	for _, k := range l.Peaks {
		if k.LevelDBm != nil && (out == nil || *k.LevelDBm > *out) {
			out = k.LevelDBm
		}
	}
	return out
}
