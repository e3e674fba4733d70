package judge

import (
	"fmt"
	"math"

	"talloak/core/bands"
	"talloak/core/decision"
	"talloak/core/origin"
	"talloak/core/rulebook"
	"talloak/core/span"
	"talloak/core/sweep"
	"talloak/core/units"
)

// Opened is a product's ruling down to its numbers: each term held against the level, the
// level as every sweep and look shows it, and what may hide behind the figure. More and
// Less are by how much the level may be higher or lower beside the guards: a carrier that
// reads wrong, a bandwidth too narrow, a crest between two points.
type Opened struct {
	Terms    []rulebook.Held `json:"terms"`
	Lenient  bool            `json:"lenient"` // one term that passes is enough
	MoreDB   float64         `json:"more_db"`
	LessDB   float64         `json:"less_db"`
	MostDBm  *float64        `json:"most_dbm"`  // the level with More; nil where only dBc are known
	NoiseDBm *float64        `json:"noise_dbm"` // near it, as displayed: the 95 % point
	HiddenDB float64         `json:"hidden_db"` // by how much that noise may hide more
	Sights   []Sight         `json:"sights"`
}

// Sight is a product in one sweep or look.
type Sight struct {
	Sweep    string   `json:"sweep"`
	ShownDBm float64  `json:"shown_dbm"`
	LossDB   *float64 `json:"loss_db"`
	Applied  float64  `json:"applied_offset_db"` // what the screen had added already
	LevelDBm *float64 `json:"level_dbm"`         // nil where only dBc are known
	WithinHz float64  `json:"within_hz"`         // how far its frequency may be off
	Suspect  bool     `json:"suspect"`           // perhaps the analyzer's own: it counts where no other saw it
}

// open tells what the ruling on a product by the sighting s, of those that saw it, rests on.
func (r *ruler) open(s *sighting, seen []*sighting, f units.Hertz, rule decision.Rule) *Opened {
	level := rulebook.Level{Least: s.level - units.DBm(s.less), Most: s.level + units.DBm(s.more), RelativeOnly: s.e.flat != nil}
	out := &Opened{MoreDB: float64(s.more), LessDB: float64(s.less), HiddenDB: float64(s.guard.Hidden), Sights: []Sight{}}
	out.Terms, out.Lenient = r.limits.Open(f, s.level, level, rule, s.guard)
	if !level.RelativeOnly {
		out.MostDBm = ptr(float64(level.Most))
	}
	if noise := float64(s.e.floor.High(s.e.trace.Nearest(s.f))); !math.IsInf(noise, 0) {
		out.NoiseDBm = &noise
	}
	for _, o := range seen {
		out.Sights = append(out.Sights, o.sight(f))
	}
	return out
}

// sight is what is told of a sighting, with the loss at f.
func (s *sighting) sight(f units.Hertz) Sight {
	out := Sight{Sweep: s.e.title(), ShownDBm: float64(s.shown), Applied: float64(s.e.applied), WithinHz: float64(sameLine(s.e, s.f)), Suspect: s.suspect()}
	if loss, ok := s.e.path.LossAt(f); ok && s.e.flat == nil {
		out.LossDB = ptr(float64(loss))
	}
	if s.e.flat == nil {
		out.LevelDBm = ptr(float64(s.level))
	}
	return out
}

// mostExplained is how many spurs are looked at for where they could come from: of more,
// nearly every one would fit somewhere.
const mostExplained = 60

// explain says of every product seen whose spectrum it falls into, and of spurs what they
// could come from.
func (r *ruler) explain() {
	scene := origin.Scene{Carrier: r.f0, Others: r.in.Others, Clocks: r.in.Clocks}
	for _, p := range r.out.Products {
		if p.Kind == Spur {
			scene.Lines = append(scene.Lines, units.Hertz(*p.FrequencyHz))
		}
	}
	var known span.Set
	for _, e := range r.seen {
		known = append(known, e.known...)
		if n := len(scene.Lines); n > 0 {
			scene.Within = max(scene.Within, sameLine(e, scene.Lines[n-1]))
		}
	}
	scene.Examined = known.Merge()
	for i := range r.out.Products {
		p := &r.out.Products[i]
		p.Origins, p.Called = []origin.Origin{}, p.Name()
		if f := p.FrequencyHz; f != nil && p.Seen {
			if who := bands.Lands(units.Hertz(*f)); who != "" {
				p.Lands = &who
			}
		}
		if p.Kind == Spur && len(scene.Lines) <= mostExplained {
			p.Origins = append(r.ofCombs(units.Hertz(*p.FrequencyHz)), scene.Explain(units.Hertz(*p.FrequencyHz))...)
		}
	}
}

// found is a comb, how well its lines were read and how many lines there were beside.
type found struct {
	sweep.Comb
	within units.Hertz
	lines  int
}

// ofCombs are the combs that a line belongs to. Two lines make a grid; by chance it would
// hold so many of the others.
func (r *ruler) ofCombs(f units.Hertz) []origin.Origin {
	out := []origin.Origin{}
	for _, c := range r.combs {
		k := units.Hertz(math.Round(float64((f - c.From) / c.Spacing)))
		off := distance(f, c.From+k*c.Spacing)
		if f < c.From-c.within || f > c.To+c.within || off > c.within {
			continue
		}
		by := float64(c.lines-2) * float64(min(1, 2*c.within/c.Spacing))
		out = append(out, origin.Origin{Kind: origin.Comb, Detail: fmt.Sprintf("one of %d lines %s apart, as a switching supply makes them", c.Lines, c.Spacing), OffHz: float64(off), Places: c.Lines, ByChance: by})
	}
	return out
}
