package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"sync"
	"time"

	"github.com/google/uuid"

	"talloak/core/advise"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/units"
	"talloak/core/wiring"
	"talloak/instruments"
	"talloak/store"
)

// SweepAsk is a search for emissions by the analyzer at the end of a path. StartHz and StopHz are of
// the range to look at, 0 for the one told. Confirmed says that what could hurt the input was seen and
// may be sent.
type SweepAsk struct {
	ReviewID  string
	Keyed     record.Keyed
	PathID    string
	Wiring    string
	StartHz   float64
	StopHz    float64
	Modulated string
	Confirmed bool
	Aware     bool
}

// The states of a sweeping: being dialled in, waiting for a word about what could hurt, sweeping until
// it is taken, and stopped.
const (
	Dialling = "dialling"
	Hurting  = "confirm"
	Running  = "sweeping"
	Stopped  = "stopped"
)

// SweepingView is how a sweeping stands. View is the last whole sweep as it would be shown if it were
// kept, nil before the first.
type SweepingView struct {
	ID         string                `json:"id"`
	State      string                `json:"state" enum:"dialling,confirm,sweeping,stopped"`
	Says       string                `json:"says" doc:"why it stopped, or what is wrong with what it shows"`
	Identity   string                `json:"identity"`
	Hurts      []string              `json:"hurts" doc:"what could hurt the input, to be confirmed before it is sent"`
	Dialled    []instruments.Dialled `json:"dialled"`
	Sweeps     int                   `json:"sweeps"`
	HeldS      float64               `json:"held_s"`
	SettleS    float64               `json:"settle_s"`
	OneTakesS  float64               `json:"one_takes_s"`
	Overloaded bool                  `json:"overloaded"`
	View       any                   `json:"view" doc:"the last whole sweep as it would be shown"`
}

// TakenSweep is the last whole sweep of a sweeping, as a file and with what the instrument told of it.
type TakenSweep struct {
	Name  string `json:"name"`
	CSV   string `json:"csv"`
	Draft any    `json:"draft" doc:"what the instrument told of it"`

	draft json.RawMessage
}

// Sweeping is an analyzer that sweeps until somebody takes the trace, or nobody looks any more.
type Sweeping struct {
	ask    SweepAsk
	item   record.KitCopy
	wanted instruments.Wanted
	end    context.CancelFunc

	lock   sync.Mutex
	view   SweepingView
	by     record.By
	latest *instruments.Taken
	begun  time.Time
	looked time.Time
	ended  time.Time
	given  *TakenSweep // once it was taken: who did not get the answer asks again
}

const (
	mostSweeping = 20 * time.Minute
	unwatched    = 20 * time.Second // after which nobody looks any more
	keptEnded    = time.Minute
	latestEvery  = 250 * time.Millisecond // how often a picture is worked out
)

// StartSweeping begins one. It refuses a path in danger, or one that is not any more what was seen:
// nothing is sent to the instrument then.
func (a *App) StartSweeping(ctx context.Context, ask SweepAsk) (*SweepingView, error) {
	r, err := a.Open(ctx, ask.ReviewID, store.WithoutTraces, nil)
	if err != nil {
		return nil, err
	}
	t, p, err := a.Store.Through(ctx, ask.PathID)
	if err != nil {
		return nil, err
	}
	if p.Practice != r.Bench() {
		return nil, problem.New("path_id", "a real radio is measured on the real bench, and a practice radio on its own")
	}
	if ask.Wiring != "" && ask.Wiring != WiringOf(t) {
		return nil, ErrPathChanged
	}
	stairs, err := a.Staircase(ctx, ask.ReviewID, ask.Keyed, ask.PathID)
	if err != nil {
		return nil, err
	}
	if !stairs.Safe {
		for _, f := range stairs.Problems {
			if f.Severity == say.Danger {
				return nil, problem.New("path_id", "this path is in danger, so nothing is sent to the instrument: %s", f.Detail)
			}
		}
		return nil, problem.New("path_id", "this path is in danger, so nothing is sent to the instrument")
	}
	compiled, err := wiring.Compile(t)
	if err != nil {
		return nil, err
	}
	input := compiled.EndAnalyzer()
	if input == nil || stairs.Settings == nil {
		return nil, problem.New("path_id", "this path does not end in an analyzer")
	}
	told := advise.SweepFor(input, units.Hertz(ask.Keyed.FrequencyHz))
	s := &Sweeping{ask: ask, item: t.Kit[len(t.Kit)-1], looked: time.Now()}
	s.view = SweepingView{ID: uuid.NewString(), State: Dialling, SettleS: stairs.Settings.SettleS, Hurts: []string{}, Dialled: []instruments.Dialled{}}
	s.wanted = instruments.Wanted{StartHz: float64(told.Start), StopHz: float64(told.Stop), RBWHz: float64(told.Resolution), Detector: "peak", Hold: "max", AttenuationDB: input.InputAttenuationDB}
	if s.item.Spec.PreAmplifier != "none" {
		s.wanted.PreAmplifier = "off"
	}
	if ask.StartHz != 0 || ask.StopHz != 0 {
		if !(ask.StopHz > ask.StartHz) {
			return nil, problem.New("stop_hz", "give the whole range to look at, from a lower to a higher frequency, or none")
		}
		s.wanted.StartHz, s.wanted.StopHz = ask.StartHz, ask.StopHz
	}
	s.wanted.Points = pointsFor(s.wanted)
	run, end := context.WithTimeout(context.Background(), mostSweeping)
	l, done, err := a.converse(run, s.item.ID, ask.Aware, nil) // it outlives what asked for it
	if err != nil {
		end()
		return nil, named(s.item.Name, err)
	}
	s.end = end
	a.Rack.lock.Lock()
	if a.Rack.sweeping == nil {
		a.Rack.sweeping = map[string]*Sweeping{}
	}
	for id, old := range a.Rack.sweeping {
		if old.over() {
			delete(a.Rack.sweeping, id)
		}
	}
	a.Rack.sweeping[s.view.ID] = s
	a.Rack.lock.Unlock()
	go func() {
		defer done()
		defer end()
		err := a.sweepOn(run, s, l, t)
		if errors.Is(run.Err(), context.DeadlineExceeded) {
			err = &instruments.Trouble{Says: "it was held for 20 minutes, and let go: nothing of it is kept"}
		}
		s.stop(err)
	}()
	return s.show(), nil
}

// pointsFor are as many that each resolution bandwidth has one, within what analyzers have.
func pointsFor(w instruments.Wanted) int {
	return int(math.Min(math.Max(math.Ceil((w.StopHz-w.StartHz)/w.RBWHz)+1, 1001), 10001))
}

// sweepOn dials in, reads back, and sweeps until it is ended.
func (a *App) sweepOn(ctx context.Context, s *Sweeping, l *instruments.Line, t *record.Through) error {
	who, err := l.Identify()
	if err != nil {
		return err
	}
	state, err := l.State()
	if err != nil {
		return err
	}
	s.change(func(v *SweepingView) { v.Identity = who })
	if hurts := state.Hurts(s.wanted); len(hurts) > 0 && !s.ask.Confirmed {
		s.change(func(v *SweepingView) { v.State, v.Hurts = Hurting, hurts })
		return nil
	}
	state, dialled, err := l.Dial(s.wanted)
	s.change(func(v *SweepingView) { v.Dialled = dialled })
	if err != nil {
		return err
	}
	if d := state.OffsetDB - t.AppliedOffsetDB; math.Abs(d) > 0.05 {
		return &instruments.Trouble{Says: fmt.Sprintf("it adds %+.2f dB to what it shows, and the path says %+.2f dB: set its offset to that, or tell the path what it adds. Nothing is swept until they agree", state.OffsetDB, t.AppliedOffsetDB)}
	}
	if w := s.wanted.AttenuationDB; w != nil && state.AttenuationDB != nil && math.Abs(*w-*state.AttenuationDB) > 0.5 {
		return &instruments.Trouble{Says: fmt.Sprintf("its input attenuation is %g dB, and the path says %g dB: they decide what it survives and what it makes itself. Nothing is swept until they agree", *state.AttenuationDB, *w)}
	}
	if err := l.Begin(); err != nil {
		return err
	}
	takes, err := l.SweepTime()
	if err != nil {
		return err
	}
	s.by = record.By{KitID: s.item.ID, Name: s.item.Name, Identity: who, Driver: l.Driver.ID, Simulated: isSimulated(who)}
	s.begun = time.Now()
	s.change(func(v *SweepingView) { v.State, v.OneTakesS = Running, takes })
	for drawn := (time.Time{}); ; {
		got, err := l.Sweep(state)
		if err != nil || ctx.Err() != nil {
			return err
		}
		s.lock.Lock()
		s.latest = got
		s.view.Sweeps++
		s.view.Overloaded = s.view.Overloaded || got.Overloaded
		gone := time.Since(s.looked) > unwatched
		s.lock.Unlock()
		if gone {
			return &instruments.Trouble{Says: "nobody looked any more, so it was let go"}
		}
		if time.Since(drawn) < latestEvery {
			continue
		}
		drawn = time.Now()
		shown, says := a.wouldShow(ctx, s)
		s.change(func(v *SweepingView) {
			if v.View, v.Says = shown, says; v.Overloaded {
				v.Says = "the instrument says that its input is overloaded: what it shows is not only the radio's. More in front of it, then again"
			}
		})
	}
}

// sweeper is the kind whose evidence an analyzer sends.
func (a *App) sweeper() (string, measure.Sweeper) {
	for _, k := range a.Kinds {
		if s, ok := k.(measure.Sweeper); ok {
			return k.About().Name, s
		}
	}
	return "", nil
}

// wouldShow works out the last sweep as if it were kept.
func (a *App) wouldShow(ctx context.Context, s *Sweeping) (shown any, says string) {
	kind, sweeper := a.sweeper()
	taken := s.taken(sweeper)
	answer, err := a.Preview(ctx, Take{Kind: kind, ReviewID: s.ask.ReviewID, Keyed: s.ask.Keyed, PathID: s.ask.PathID, Draft: taken.draft, File: &record.File{Name: taken.Name, MediaType: "text/csv", Content: []byte(taken.CSV)}})
	var refused *problem.Error
	switch {
	case errors.As(err, &refused):
		return nil, err.Error()
	case err != nil:
		return nil, "it sweeps, but what it shows cannot be worked out just now"
	}
	return answer, ""
}

// taken is the last whole sweep with what the instrument told of it; nil where there is none any more.
func (s *Sweeping) taken(sweeper measure.Sweeper) *TakenSweep {
	s.lock.Lock()
	defer s.lock.Unlock()
	if s.latest == nil {
		return nil
	}
	by := s.by
	by.At = time.Now().UTC().Truncate(time.Millisecond)
	by.Said = fmt.Sprintf("%d points, %d sweeps, %s to %s", len(s.latest.Trace.Levels), s.view.Sweeps, s.latest.Trace.Start, s.latest.Trace.Stop)
	told := measure.ToldByInstrument{
		Name: s.item.Name, RBWHz: s.latest.RBWHz, Detector: s.latest.Detector, Hold: s.latest.Hold, Modulated: s.ask.Modulated, PreAmplifier: s.latest.PreAmplifier,
		OffsetDB: s.latest.OffsetDB, HeldS: math.Max(0.1, math.Round(10*time.Since(s.begun).Seconds())/10), By: by,
	}
	draft := sweeper.DraftFrom(told)
	return &TakenSweep{Name: s.item.Name + ".csv", CSV: s.latest.CSV(), Draft: draft, draft: draft}
}

// change changes what is seen of it.
func (s *Sweeping) change(by func(*SweepingView)) {
	s.lock.Lock()
	defer s.lock.Unlock()
	by(&s.view)
}

func (s *Sweeping) stop(err error) {
	s.lock.Lock()
	defer s.lock.Unlock()
	s.ended = time.Now()
	if s.view.State == Hurting {
		return
	}
	s.view.State = Stopped
	if err == nil {
		return
	}
	s.latest = nil // of what broke nothing is kept
	s.view.View = nil
	s.view.Says = "it does not sweep any more: nothing of it is kept"
	var said *instruments.Trouble
	if errors.As(err, &said) {
		s.view.Says = named(s.item.Name, said).Error()
	}
}

func (s *Sweeping) over() bool {
	s.lock.Lock()
	defer s.lock.Unlock()
	return !s.ended.IsZero() && time.Since(s.ended) > keptEnded
}

func (s *Sweeping) show() *SweepingView {
	s.lock.Lock()
	defer s.lock.Unlock()
	s.looked = time.Now()
	out := s.view
	if out.State == Running {
		out.HeldS = math.Round(10*time.Since(s.begun).Seconds()) / 10
	}
	return &out
}

func (a *App) sweepingOf(id string) (*Sweeping, error) {
	a.Rack.lock.Lock()
	defer a.Rack.lock.Unlock()
	s, ok := a.Rack.sweeping[id]
	if !ok {
		return nil, store.ErrNotFound
	}
	return s, nil
}

// LookAtSweeping tells how one stands.
func (a *App) LookAtSweeping(id string) (*SweepingView, error) {
	s, err := a.sweepingOf(id)
	if err != nil {
		return nil, err
	}
	return s.show(), nil
}

// TakeSweeping ends one and gives its last whole sweep, the same to who asks again. It refuses where there is none yet, or the
// input was overloaded while it was held.
func (a *App) TakeSweeping(id string) (*TakenSweep, error) {
	s, err := a.sweepingOf(id)
	if err != nil {
		return nil, err
	}
	s.lock.Lock()
	whole, overloaded, running, given := s.latest != nil, s.view.Overloaded, s.view.State == Running, s.given
	s.lock.Unlock()
	switch {
	case given != nil:
		return given, nil
	case !running:
		return nil, &instruments.Trouble{Says: "it does not sweep any more: nothing of it is kept"}
	case !whole:
		return nil, &instruments.Trouble{Says: "its first sweep is not whole yet"}
	case overloaded:
		return nil, &instruments.Trouble{Says: "its input was overloaded: what it shows is not only the radio's, so it is not kept"}
	}
	_, sweeper := a.sweeper()
	out := s.taken(sweeper)
	if out == nil { // it broke in this very moment
		return nil, &instruments.Trouble{Says: "it does not sweep any more: nothing of it is kept"}
	}
	s.lock.Lock()
	s.given = out
	s.lock.Unlock()
	s.end()
	return out, nil
}

// EndSweeping lets an instrument go.
func (a *App) EndSweeping(id string) error {
	s, err := a.sweepingOf(id)
	if err == nil {
		s.end()
	}
	return err
}
