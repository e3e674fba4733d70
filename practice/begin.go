package practice

import (
	"slices"

	"github.com/google/uuid"

	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/instruments/simulated"
)

// idOf is the id of a thing of a practice review: the same each time it is asked for.
func idOf(reviewID, name string) string {
	space, err := uuid.Parse(reviewID)
	if err != nil {
		space = uuid.NameSpaceOID
	}
	return uuid.NewSHA1(space, []byte(name)).String()
}

// Things are the kit and paths of a scenario as its owner wrote them down, for the bench of a review,
// and which instrument an item is.
type Things struct {
	Kit   []record.Item
	Paths []record.Path
	Ports map[string]string // by the item's id
}

// ThingsFor are those of a review.
func (s *Scenario) ThingsFor(reviewID string) (*Things, error) {
	items, err := readShelf()
	if err != nil {
		return nil, err
	}
	out := &Things{Ports: map[string]string{}}
	for _, name := range s.Kit {
		i := items[slices.IndexFunc(items, func(i item) bool { return i.Name == name })]
		i.Spec.Element.Kind = i.Spec.Kind.PathKind()
		id := idOf(reviewID, name)
		out.Kit = append(out.Kit, record.Item{ID: id, Name: name, Spec: i.Spec, Practice: reviewID})
		if i.Port != "" {
			out.Ports[id] = i.Port
		}
	}
	for _, w := range s.Paths {
		p := record.Path{ID: idOf(reviewID, "path "+w.Name), Name: w.Name, Socket: "antenna", Parts: []record.PathPart{}, Practice: reviewID}
		for _, name := range w.Parts {
			p.Parts = append(p.Parts, record.PathPart{KitID: idOf(reviewID, name)})
		}
		if w.Supplied && s.Supply != nil {
			p.Supply = &record.PathSupply{KitID: idOf(reviewID, s.Supply.Kit), SetV: s.Supply.SetV}
		}
		out.Paths = append(out.Paths, p)
	}
	return out, nil
}

// Scene is the bench as it truly is, its instruments off by what the seed draws within what they state.
func (s *Scenario) Scene(seed uint64) (simulated.Scene, error) {
	items, err := readShelf()
	if err != nil {
		return simulated.Scene{}, err
	}
	base := simulated.DefaultScene(seed, false)
	out := simulated.Scene{Name: s.Name, Meter: base.Meter, Analyzer: base.Analyzer, OffsetDB: s.Analyzer.OffsetDB, AttenuationDB: s.Analyzer.AttenuationDB, Supplied: s.Supply == nil}
	out.Supply = simulated.Source{DefaultV: s.Radio.NominalV, MostV: 30, LimitA: 30, MostA: 30, Ohm: 0.001, LeadOhm: 0.001}
	if v := s.Supply; v != nil {
		out.Supply = simulated.Source{DefaultV: v.SetV, MostV: 15, LimitA: v.LimitA, MostA: v.MostA, Ohm: 0.01, LeadOhm: v.Ohm}
	}
	for _, i := range items {
		if i.Port == "analyzer" && slices.Contains(s.Kit, i.Name) {
			r := i.Spec.Element.Ranges[0]
			out.Analyzer.From, out.Analyzer.To = units.Hertz(r.FromHz), units.Hertz(r.ToHz)
			out.Analyzer.SurvivesDBm = units.DBm(*r.MaxInputDBm)
			out.Analyzer.SHI, out.Analyzer.TOI = 40, 15
			if shi, toi := i.Spec.Element.SHIDBm, i.Spec.Element.TOIDBm; shi != nil && toi != nil {
				out.Analyzer.SHI, out.Analyzer.TOI = units.DBm(*shi), units.DBm(*toi)
			}
			out.Analyzer.OffDB *= i.Spec.AccuracyDB / out.Analyzer.AccuracyDB
			out.Analyzer.AccuracyDB = i.Spec.AccuracyDB
		}
	}
	out.Analyzer.NoiseDBm = s.Analyzer.NoiseDBm
	out.Radio = s.radio()
	return out, nil
}

func (s *Scenario) radio() simulated.Set {
	out := simulated.Set{
		Radio:      simulated.Radio{NominalV: 0.93 * s.Radio.NominalV, SupplyPower: s.Radio.SupplyPower, Bands: map[string]map[string]simulated.Level{}},
		Efficiency: 0.45, StandbyA: 0.2, WarmDB: 0.05, OffPPM: 0.4, Level: s.Radio.Begins, Tuned: units.Hertz(s.Radio.Bands[0].TunedTo * 1e6),
	}
	for _, b := range s.Radio.Bands {
		out.Places = append(out.Places, simulated.Place{Band: b.Band, From: units.Hertz(b.FromMHz * 1e6), To: units.Hertz(b.ToMHz * 1e6)})
		levels := map[string]simulated.Level{}
		for name, l := range b.Levels {
			level := simulated.Level{W: l.W, Harmonics: l.Harmonics, Spurs: map[units.Hertz]float64{}, Now: map[units.Hertz]float64{}}
			for _, spur := range l.Spurs {
				if at := units.Hertz(spur.MHz * 1e6); spur.Seldom {
					level.Now[at] = spur.DBc
				} else {
					level.Spurs[at] = spur.DBc
				}
			}
			levels[name] = level
		}
		out.Bands[b.Band] = levels
	}
	return out
}

// Wire is what a path truly is: its parts with their true losses, up to what it passes through and ends
// in. What somebody has written of a part since makes it no other.
func (s *Scenario) Wire(t *record.Through) (simulated.Wired, error) {
	out := simulated.Wired{}
	items, err := readShelf()
	if err != nil {
		return out, err
	}
	var before []path.Element
	for _, k := range t.Kit {
		spec := k.Spec
		if i := slices.IndexFunc(items, func(i item) bool { return i.Name == k.Name }); i >= 0 {
			spec = items[i].Spec
		}
		e, meter, err := spec.On(k.Setting)
		if err != nil {
			return out, err
		}
		way, err := path.Compile(before)
		if err != nil {
			return out, err
		}
		switch {
		case meter != nil:
			out.ToMeter, out.MeterFrom, out.MeterTo = way, 0, units.Hertz(1e10)
			if meter.FromHz != nil {
				out.MeterFrom = units.Hertz(*meter.FromHz)
			}
			if meter.ToHz != nil {
				out.MeterTo = units.Hertz(*meter.ToHz)
			}
		case e.Kind == path.Analyzer:
			out.ToInput = way
		}
		if e.MaxW != nil {
			out.Parts = append(out.Parts, simulated.WiredPart{Key: k.ID, Before: way, MaxW: *e.MaxW})
		}
		if out.Ends = e.Kind.Ends(); out.Ends {
			return out, nil
		}
		if truth, known := s.Truth[k.Name]; known && truth.LossDB != nil {
			e.Loss = &path.Loss{FlatDB: truth.LossDB}
		}
		e.Measured = nil
		before = append(before, e)
	}
	return out, nil
}

// Check refuses a scenario whose paths cannot be wired.
func (s *Scenario) Check() error {
	things, err := s.ThingsFor(uuid.NameSpaceOID.String())
	if err != nil {
		return err
	}
	for i := range things.Paths {
		t, err := record.CopyPath(&things.Paths[i], things.Kit, nil)
		if err == nil {
			_, err = s.Wire(t)
		}
		if err != nil {
			return problem.New("paths", "%s: %s", things.Paths[i].Name, err)
		}
	}
	return nil
}

// WholeScene is the scene with the radio on the first path to a meter and, at once, on the first into the
// analyzer, for whoever talks to its instruments alone.
func (s *Scenario) WholeScene(seed uint64) (simulated.Scene, error) {
	out, err := s.Scene(seed)
	if err != nil {
		return out, err
	}
	things, err := s.ThingsFor(uuid.NameSpaceOID.String())
	if err != nil {
		return out, err
	}
	for i := range things.Paths {
		t, err := record.CopyPath(&things.Paths[i], things.Kit, nil)
		if err != nil {
			return out, err
		}
		wired, err := s.Wire(t)
		if err != nil {
			return out, err
		}
		if out.ToMeter == nil && wired.ToMeter != nil {
			out.ToMeter, out.Meter.From, out.Meter.To = wired.ToMeter, wired.MeterFrom, wired.MeterTo
		}
		if out.ToInput == nil {
			out.ToInput = wired.ToInput
		}
	}
	return out, nil
}
