package app

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"
	"time"

	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/instruments/simulated"
	"talloak/practice"
	"talloak/store"
)

// practiceSpeed is that of people: a hold that settles in a minute does so in a quarter of one.
const practiceSpeed = 4

// practices are the benches that this server plays, by their reviews.
type practices struct {
	lock sync.Mutex
	open map[string]*practising
}

// practising is the bench of one practice review.
type practising struct {
	lock     sync.Mutex
	scenario *practice.Scenario
	bench    *simulated.Bench
	row      *record.Practice
	kept     keptPractice
	used     time.Time
	stop     func()
}

// mostPractices are played at once: of more, the one that was left longest is put away, as it is.
const mostPractices = 24

// keptPractice is what outlives the server of a practice bench.
type keptPractice struct {
	Wired  string            `json:"wired"` // the path that the radio is connected to
	Tight  bool              `json:"tight"`
	Broken []string          `json:"broken"`
	KeyUps int               `json:"key_ups"`
	KeyedS float64           `json:"keyed_s"`
	Events []simulated.Event `json:"events"`
	Score  *practice.Score   `json:"score,omitempty"`

	// Set are the settings of radio and instruments, as the lines that set them, by their kinds.
	Set map[string]string `json:"set,omitempty"`
}

// settingsOf are what is kept of each instrument's settings: what is asked, and the line that sets it.
var settingsOf = map[string][2]string{
	"transmitter": {"FREQ?;LEV?", "FREQ %s;LEV %s"}, "supply": {"VOLT?;CURR?;OUTP?", "VOLT %s;CURR %s;OUTP %s"},
	"analyzer": {"DISP:TRAC:Y:RLEV:OFFS?;:INP:ATT?", "DISP:TRAC:Y:RLEV:OFFS %s;:INP:ATT %s"},
}

// PracticeView is a practice bench as it is seen, and its score once it has ended.
type PracticeView struct {
	Scenario   string            `json:"scenario"`
	Title      string            `json:"title"`
	Story      string            `json:"story"`
	Label      string            `json:"label" doc:"the serial on the radio's own label"`
	Seen       simulated.Seen    `json:"seen"`
	Wired      string            `json:"wired" doc:"the path that the radio is connected to"`
	Bands      []PracticeBand    `json:"bands"`
	Levels     []string          `json:"levels" doc:"those of its knob, the highest first"`
	Supply     bool              `json:"supply" doc:"it is fed by the supply on the bench"`
	Suspicions map[string]string `json:"suspicions"`
	Speed      float64           `json:"speed"`
	BegunAt    time.Time         `json:"begun_at"`
	Score      *practice.Score   `json:"score"`
}

// PracticeBand is a band that the radio transmits on, and where it is tuned there.
type PracticeBand struct {
	Band    string  `json:"band"`
	TunedHz float64 `json:"tuned_hz"`
}

// PracticeRun is a practice review in the list.
type PracticeRun struct {
	ReviewID string    `json:"review_id"`
	Scenario string    `json:"scenario"`
	Title    string    `json:"title"`
	BegunAt  time.Time `json:"begun_at"`
	Wrong    *int      `json:"wrong" doc:"rulings that were wrong; null while it goes on"`
	Of       int       `json:"of"`
}

// PracticeRuns are the practice reviews so far, the newest first.
func (a *App) PracticeRuns(ctx context.Context) ([]PracticeRun, error) {
	rows, err := a.Store.Practices(ctx)
	out := []PracticeRun{}
	for _, r := range rows {
		run := PracticeRun{ReviewID: r.ReviewID, Scenario: r.Scenario, Title: r.Scenario, BegunAt: r.BegunAt}
		if s, err := practice.Find(r.Scenario); err == nil {
			run.Title = s.Title
		}
		var kept keptPractice
		if json.Unmarshal(r.Kept, &kept) == nil && kept.Score != nil {
			run.Wrong, run.Of = &kept.Score.Wrong, kept.Score.Of
		}
		out = append(out, run)
	}
	return out, err
}

// BeginPractice begins a scenario in a review of its own, on a bench of its own, under an id made by
// the client. A seed of 0 draws one.
func (a *App) BeginPractice(ctx context.Context, id, scenario string, seed uint64) error {
	s, err := practice.Find(scenario)
	if err != nil {
		return err
	}
	if seed == 0 {
		seed = uint64(rand.Uint32()) + 1
	}
	rules := DefaultRules
	rules.RuleBook = s.RuleBook
	r := &record.Review{ID: id, Subject: s.Subject, Claims: []record.Claim{}, Rules: rules, Practice: s.Name}
	for _, c := range s.Claims {
		r.Claims = append(r.Claims, record.Claim{Text: c, Source: "the leaflet in the box"})
	}
	if err := a.addReview(ctx, r, store.Fingerprint([]any{id, "practice", scenario})); err != nil {
		return err
	}
	if _, err := a.Store.Practice(ctx, id); err == nil { // the same request again
		return nil
	}
	things, err := s.ThingsFor(id)
	if err == nil {
		err = a.Store.PutBench(ctx, &store.Bench{Kit: things.Kit, Paths: things.Paths})
	}
	if err != nil {
		return err
	}
	kept, err := json.Marshal(keptPractice{Wired: things.Paths[0].ID, Broken: []string{}, Events: []simulated.Event{}})
	if err == nil {
		err = a.Store.PutPractice(ctx, &record.Practice{ReviewID: id, Scenario: s.Name, Seed: seed, Kept: kept})
	}
	return err
}

// practising is the bench of a practice review: as it was left, where the server was started anew.
func (a *App) practising(ctx context.Context, id string) (*practising, error) {
	a.practices.lock.Lock()
	defer a.practices.lock.Unlock()
	if p, ok := a.practices.open[id]; ok {
		p.used = time.Now()
		return p, nil
	}
	row, err := a.Store.Practice(ctx, id)
	if err != nil {
		return nil, err
	}
	s, err := practice.Find(row.Scenario)
	if err != nil {
		return nil, err
	}
	scene, err := s.Scene(row.Seed)
	if err != nil {
		return nil, err
	}
	p := &practising{scenario: s, row: row, bench: simulated.NewBench(scene, row.Seed, a.PracticeSpeed)}
	if err := json.Unmarshal(row.Kept, &p.kept); err != nil {
		return nil, err
	}
	p.bench.Begun(p.kept.KeyUps, p.kept.KeyedS, p.kept.Events)
	if s.Loose && !p.kept.Tight {
		p.bench.Loosen()
	}
	for _, key := range p.kept.Broken {
		p.bench.Break(key)
	}
	for kind, line := range p.kept.Set {
		p.bench.Device(kind).Execute(ctx, line)
	}
	if err := a.wire(ctx, p, p.kept.Wired); err != nil {
		return nil, err
	}
	serving, stop := context.WithCancel(context.Background())
	served, _, err := p.bench.Listen(serving, "127.0.0.1:0")
	if p.used, p.stop = time.Now(), stop; err != nil {
		stop()
		return nil, err
	}
	things, err := s.ThingsFor(id)
	if err != nil {
		stop()
		return nil, err
	}
	drivers := map[string]string{"power-meter": "scpi-power-meter", "analyzer": "scpi-analyzer", "supply": "scpi-supply"}
	for kitID, port := range things.Ports {
		at := slices.IndexFunc(served, func(s simulated.Served) bool { return s.Kind == port })
		if err := a.Store.PutSocket(ctx, record.Socket{KitID: kitID, Address: served[at].Address, Driver: drivers[port]}); err != nil {
			stop()
			return nil, err
		}
	}
	a.Events.publish("kit", id, "")
	a.practices.add(id, p)
	return p, nil
}

// add keeps a bench among those that are played. The lock is held.
func (p *practices) add(id string, b *practising) {
	if p.open == nil {
		p.open = map[string]*practising{}
	}
	if len(p.open) >= mostPractices {
		oldest := ""
		for other, o := range p.open {
			if oldest == "" || o.used.Before(p.open[oldest].used) {
				oldest = other
			}
		}
		p.open[oldest].stop()
		delete(p.open, oldest)
	}
	p.open[id] = b
}

// wire connects the radio to a path of its bench.
func (a *App) wire(ctx context.Context, p *practising, pathID string) error {
	t, path, err := a.Store.Through(ctx, pathID)
	if err != nil {
		return err
	}
	if path.Practice != p.row.ReviewID {
		return problem.New("path_id", "only what is on this practice bench can be laid on it")
	}
	wired, err := p.scenario.Wire(t)
	if err != nil {
		return err
	}
	p.bench.Wire(wired)
	p.kept.Wired = pathID
	return nil
}

// keep writes what has happened.
func (a *App) keep(ctx context.Context, p *practising) error {
	seen := p.bench.See()
	p.kept.KeyUps, p.kept.KeyedS, p.kept.Broken, p.kept.Events = seen.KeyUps, seen.KeyedS, seen.Broken, p.bench.Events()
	p.kept.Set = map[string]string{}
	for kind, s := range settingsOf {
		answers := []any{}
		for _, a := range strings.Split(p.bench.Device(kind).Execute(ctx, s[0]), ";") {
			answers = append(answers, a)
		}
		if strings.Count(s[1], "%s") == len(answers) {
			p.kept.Set[kind] = fmt.Sprintf(s[1], answers...)
		}
	}
	text, err := json.Marshal(p.kept)
	if err != nil {
		return err
	}
	p.row.Kept = text
	return a.Store.PutPractice(ctx, p.row)
}

// Practice is how a practice bench is seen now.
func (a *App) Practice(ctx context.Context, id string) (*PracticeView, error) {
	p, err := a.practising(ctx, id)
	if err != nil {
		return nil, err
	}
	p.lock.Lock()
	defer p.lock.Unlock()
	return a.viewPractice(p), nil
}

func (a *App) viewPractice(p *practising) *PracticeView {
	out := &PracticeView{
		Scenario: p.scenario.Name, Title: p.scenario.Title, Story: p.scenario.Story, Label: p.scenario.Label, Seen: p.bench.See(), Wired: p.kept.Wired,
		Bands: []PracticeBand{}, Levels: p.scenario.Levels(), Supply: p.scenario.Supply != nil, Suspicions: practice.Suspicions, Speed: a.PracticeSpeed, BegunAt: p.row.BegunAt, Score: p.kept.Score,
	}
	for _, b := range p.scenario.Radio.Bands {
		out.Bands = append(out.Bands, PracticeBand{b.Band, float64(units.Hertz(b.TunedTo * 1e6))})
	}
	return out
}

// Hand is something done with a hand on a practice bench: a line said to an instrument, or to the radio,
// as at its front panel; the radio connected to another path; every connector tightened.
type Hand struct {
	Kind    string `json:"kind" required:"false" enum:",transmitter,power-meter,analyzer,generator,supply,counter"`
	Line    string `json:"line" required:"false" maxLength:"400"`
	Wire    string `json:"wire" required:"false" doc:"The id of a path of this bench"`
	Tighten bool   `json:"tighten" required:"false"`
}

// Handled is what came of it.
type Handled struct {
	Answer string       `json:"answer"`
	View   PracticeView `json:"view"`
}

// HandOn does something on a practice bench.
func (a *App) HandOn(ctx context.Context, id string, h Hand) (*Handled, error) {
	p, err := a.practising(ctx, id)
	if err != nil {
		return nil, err
	}
	out := &Handled{}
	if d := p.bench.Device(h.Kind); d != nil { // a sweep takes its time, and keeps nobody waiting
		out.Answer = d.Execute(ctx, h.Line)
	}
	p.lock.Lock()
	defer p.lock.Unlock()
	if h.Wire != "" {
		if err := a.wire(ctx, p, h.Wire); err != nil {
			return nil, err
		}
	}
	if h.Tighten {
		p.bench.Tighten()
		p.kept.Tight = true
	}
	if err := a.keep(ctx, p); err != nil {
		return nil, err
	}
	out.View = *a.viewPractice(p)
	return out, nil
}

// EndPractice ends an afternoon with what is suspected, and scores it; what was scored once stays.
func (a *App) EndPractice(ctx context.Context, id string, suspected []string) (*PracticeView, error) {
	p, err := a.practising(ctx, id)
	if err != nil {
		return nil, err
	}
	r, err := a.Open(ctx, id, store.WithTraces, nil)
	if err != nil {
		return nil, err
	}
	p.lock.Lock()
	defer p.lock.Unlock()
	if p.kept.Score == nil {
		for _, s := range suspected {
			if practice.Suspicions[s] == "" {
				return nil, problem.New("suspected", "there is no suspicion %q", s)
			}
		}
		seen := p.bench.See()
		score := p.scenario.Score(practice.Afternoon{Review: r, Suspected: suspected, BegunAt: p.row.BegunAt, KeyUps: seen.KeyUps, KeyedS: seen.KeyedS, Events: p.bench.Events()})
		p.kept.Score = &score
		if err := a.keep(ctx, p); err != nil {
			p.kept.Score = nil
			return nil, err
		}
		a.Events.publish("review", id, id)
	}
	return a.viewPractice(p), nil
}
