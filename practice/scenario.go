package practice

import (
	"cmp"
	"embed"
	"encoding/json"
	"fmt"
	"maps"
	"slices"

	"talloak/core/kit"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/strictjson"
)

// Scenario is one afternoon of practice. Kit and paths are what is written on its bench; Truth is how
// each item truly is, by its name, where it is otherwise.
type Scenario struct {
	Name     string         `json:"name"`
	Order    int            `json:"order"`
	Title    string         `json:"title"`
	Story    string         `json:"story"`   // what one is told at the beginning
	Teaches  string         `json:"teaches"` // said at the end
	Subject  record.Subject `json:"subject"`
	Claims   []string       `json:"claims"`
	RuleBook string         `json:"rule_book"`
	Label    string         `json:"label"` // the serial on the radio's own label

	Radio    Radio            `json:"radio"`
	Kit      []string         `json:"kit"` // names in kit.json
	Paths    []Way            `json:"paths"`
	Truth    map[string]Truth `json:"truth"`
	Analyzer Analyzer         `json:"analyzer"`
	Supply   *Supply          `json:"supply"` // nil: the radio runs off its own battery
	Loose    bool             `json:"loose"`  // the connector at the radio
	Faults   []Fault          `json:"faults"`
}

// Radio is what the radio truly does: levels in W and dBc by band. Begins is the level it is left on.
type Radio struct {
	NominalV    float64 `json:"nominal_v"`
	SupplyPower float64 `json:"supply_power"`
	Begins      string  `json:"begins"`
	Bands       []Band  `json:"bands"`
}

// Band is a band that it transmits on.
type Band struct {
	Band    string           `json:"band"`
	FromMHz float64          `json:"from_mhz"`
	ToMHz   float64          `json:"to_mhz"`
	TunedTo float64          `json:"tuned_to_mhz"`
	Levels  map[string]Level `json:"levels"` // HIGH, MID, LOW
}

// Level is what it does at a level: W in watts, harmonics from the second on and spurs in dBc.
type Level struct {
	W         float64   `json:"w"`
	Harmonics []float64 `json:"harmonics_dbc"`
	Spurs     []Spur    `json:"spurs"`
}

// Spur is a line that is no harmonic. Seldom is one that comes and goes.
type Spur struct {
	MHz    float64 `json:"mhz"`
	DBc    float64 `json:"dbc"`
	Seldom bool    `json:"seldom"`
}

// Way is a path of the scenario by the names of its kit.
type Way struct {
	Name     string   `json:"name"`
	Parts    []string `json:"parts"`
	Supplied bool     `json:"supplied"` // by the scenario's supply
}

// Truth is how an item truly is: its loss in dB, where that is not what is printed.
type Truth struct {
	LossDB *float64 `json:"loss_db"`
}

// Analyzer is how it was left, in dB, and its noise in 1 Hz, in dBm.
type Analyzer struct {
	OffsetDB      float64 `json:"offset_db"`
	AttenuationDB float64 `json:"attenuation_db"`
	NoiseDBm      float64 `json:"noise_dbm"`
}

// Supply is what feeds the radio, and to what it was left set, in V and A; its leads both ways in ohm.
type Supply struct {
	Kit    string  `json:"kit"`
	SetV   float64 `json:"set_v"`
	LimitA float64 `json:"limit_a"`
	MostA  float64 `json:"most_a"`
	Ohm    float64 `json:"lead_ohm"`
}

// Fault is something hidden. Touches are the boxes whose rulings it spoils, as "2m High power"; Sign is
// where it could have been seen; Honest is what a touched box should come to where it cannot be known.
type Fault struct {
	ID      string   `json:"id"`
	Says    string   `json:"says"`
	Sign    string   `json:"sign"`
	Touches []string `json:"touches"`
	Honest  bool     `json:"honest"`
}

// Suspicions are what may be wrong with a bench, to be ticked at the end: true ones and others.
var Suspicions = map[string]string{
	"left-on-low": "the radio was left on another level", "loose": "a connector was loose", "offset": "the analyzer's offset was not what the path says",
	"pad": "a pad is not what is printed on it", "meter-range": "a meter does not cover the band", "overload": "the analyzer's input was overloaded, its own harmonics shown",
	"supply": "the supply sagged or limited", "above-reach": "something lies above the analyzer's reach", "in-noise": "something lies in the noise", "wrong-unit": "this is not the unit that was written about",
}

//go:embed scenarios/*.json kit.json
var files embed.FS

// item is a thing of kit.json, and the instrument it is, where it has a socket.
type item struct {
	Name string   `json:"name"`
	Port string   `json:"port"` // power-meter, analyzer, supply; empty for none
	Spec kit.Spec `json:"spec"`
}

type shelf struct {
	Kit []item `json:"kit"`
}

func readShelf() ([]item, error) {
	data, err := files.ReadFile("kit.json")
	var s shelf
	if err == nil {
		err = json.Unmarshal(data, &s)
	}
	return s.Kit, err
}

// Shipped are the scenarios, from the first afternoon on.
func Shipped() []Scenario {
	entries, _ := files.ReadDir("scenarios")
	var out []Scenario
	for _, e := range entries {
		data, _ := files.ReadFile("scenarios/" + e.Name())
		s, err := Read(data)
		if err != nil {
			panic(e.Name() + ": " + err.Error()) // a test reads them all
		}
		out = append(out, *s)
	}
	slices.SortFunc(out, func(a, b Scenario) int { return cmp.Compare(a.Order, b.Order) })
	return out
}

// Find is a scenario by its name; an error on "scenario" where there is none.
func Find(name string) (*Scenario, error) {
	for _, s := range Shipped() {
		if s.Name == name {
			return &s, nil
		}
	}
	return nil, problem.New("scenario", "there is no scenario %q", name)
}

// Read reads a scenario, and refuses one whose parts do not fit each other.
func Read(data []byte) (*Scenario, error) {
	var s Scenario
	if err := strictjson.Decode(data, &s); err != nil {
		return nil, err
	}
	var bad problem.List
	items, err := readShelf()
	if err != nil {
		return nil, err
	}
	known := map[string]bool{}
	for _, i := range items {
		known[i.Name] = true
	}
	for i, name := range s.Kit {
		if !known[name] {
			bad.Add(fmt.Sprintf("kit[%d]", i), "there is no %q in kit.json", name)
		}
	}
	for i, p := range s.Paths {
		for k, name := range p.Parts {
			if !slices.Contains(s.Kit, name) {
				bad.Add(fmt.Sprintf("paths[%d].parts[%d]", i, k), "%q is not among the kit", name)
			}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(s.Truth)) {
		if !slices.Contains(s.Kit, name) {
			bad.Add("truth", "%q is not among the kit", name)
		}
	}
	for i, f := range s.Faults {
		if Suspicions[f.ID] == "" {
			bad.Add(fmt.Sprintf("faults[%d].id", i), "there is no suspicion %q", f.ID)
		}
	}
	if len(s.Radio.Bands) == 0 || len(s.Claims) == 0 {
		bad.Add("radio", "give its bands and claims")
	}
	return &s, bad.Err()
}

// Levels are those of the radio's knob, the highest first.
func (s *Scenario) Levels() []string {
	out := []string{}
	for _, name := range []string{"HIGH", "MID", "LOW"} {
		if _, has := s.Radio.Bands[0].Levels[name]; has {
			out = append(out, name)
		}
	}
	return out
}
