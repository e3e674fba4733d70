package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"strings"

	"talloak/core/keying"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/core/wiring"
	"talloak/store"
)

// Take is what a person gives for a measurement. Wiring names the path with its kit as it
// was seen, as WiringOf does; empty for whoever has seen none and takes it as it is.
type Take struct {
	ID       string
	Kind     string
	ReviewID string
	Keyed    record.Keyed
	PathID   string
	Wiring   string
	Draft    json.RawMessage
	File     *record.File

	// AtRisk takes the danger of a path upon oneself, with the seconds keyed and rested; what it is in danger of
	// is worked out here.
	AtRisk *record.Risk

	read *sweep.Import // what the kind read of the file
}

// WiringOf names a path with its kit as they are: any change of either gives another.
func WiringOf(t *record.Through) string { return store.Fingerprint(t)[:16] }

// fingerprint tells two requests under one key apart.
func (t Take) fingerprint() string {
	file := ""
	if t.File != nil {
		sum := sha256.Sum256(t.File.Content)
		file = t.File.Name + " " + hex.EncodeToString(sum[:])
	}
	all := []any{t.Kind, t.ReviewID, t.Keyed, t.PathID, t.Draft, file}
	if t.AtRisk != nil {
		all = append(all, t.AtRisk)
	}
	return store.Fingerprint(all)
}

// ErrPathChanged is a measurement through a path that is not any more what was seen.
var ErrPathChanged = fmt.Errorf("the path was changed meanwhile: %w", store.ErrStale)

// taking is a measurement being taken.
type taking struct {
	kind   measure.Kind
	review *measure.Review
	way    *record.Through
	taken  measure.Taken
}

// readFile reads a file before anything is locked: others go on meanwhile.
func (a *App) readFile(t *Take) error {
	kind, err := a.Kind(t.Kind)
	if err != nil {
		return err
	}
	if reader, ok := kind.(measure.FileReader); ok && t.File != nil {
		t.read, err = reader.ReadFile(t.Draft, t.File)
	}
	return err
}

// Preview works a measurement out without keeping it, and gives it as it would be shown.
func (a *App) Preview(ctx context.Context, t Take) (measure.Answer, error) {
	var view measure.Answer
	if err := a.readFile(&t); err != nil {
		return nil, err
	}
	err := a.with(ctx, t.ReviewID, func(r *measure.Review) error {
		out, err := a.take(ctx, t, r)
		if err == nil {
			view = out.taken.View
		}
		return err
	})
	return view, err
}

// Measure keeps a measurement and gives it as it is shown. It refuses a box that the
// review does not have, a path of another purpose or in danger, and a path that is not
// what was seen. The same request again is the same measurement.
func (a *App) Measure(ctx context.Context, t Take) (measure.Answer, error) {
	request := t.fingerprint()
	var out *taking
	var room measure.Room
	err := a.readFile(&t)
	if err == nil {
		err = a.with(ctx, t.ReviewID, func(r *measure.Review) (err error) {
			if out, err = a.take(ctx, t, r); err == nil && out.kind.About().Transmits && !out.taken.Unkeyed {
				err = a.refuseDanger(ctx, out, t.Keyed)
			}
			if err == nil {
				room = r.Room(out.kind)
			}
			return err
		})
	}
	if err != nil {
		if view, done := a.again(ctx, t, request); done {
			return view, nil
		}
		return nil, err
	}
	// The answer is made first: what cannot be answered is not written.
	if _, err := json.Marshal(out.taken.View); err != nil {
		return nil, problem.New("draft", "this cannot be worked out: its figures are beyond all numbers")
	}
	m := &record.Measurement{
		ID: t.ID, Kind: t.Kind, ReviewID: t.ReviewID, Format: record.Format, Keyed: out.taken.Keyed, Through: out.way,
		Payload: out.taken.Payload, Blob: out.taken.Blob,
	}
	again, err := a.Store.AddMeasurement(ctx, m, t.File, request)
	if err != nil {
		return nil, err
	}
	if again { // the answer is of what was written then, through the path as it was
		view, _ := a.again(ctx, t, request)
		return view, nil
	}
	a.Events.publish("measurement", m.ID, m.ReviewID)
	return room.Show(out.taken, m), nil
}

// again is a measurement that the same request wrote before: whatever has changed since
// is no reason to refuse it now.
func (a *App) again(ctx context.Context, t Take, request string) (view measure.Answer, done bool) {
	if same, err := a.Store.Wrote(ctx, t.ID, request); err != nil || !same {
		return nil, false
	}
	kind, err := a.Kind(t.Kind)
	if err != nil {
		return nil, false
	}
	r, err := a.Open(ctx, t.ReviewID, store.WithoutTraces, nil)
	if err != nil {
		return nil, false
	}
	return r.Room(kind).View(t.ID), true
}

func (a *App) take(ctx context.Context, t Take, r *measure.Review) (*taking, error) {
	out := &taking{review: r}
	var err error
	if out.kind, err = a.Kind(t.Kind); err != nil {
		return nil, err
	}
	about := out.kind.About()
	var draft any // what is no JSON is refused by the kind
	_ = json.Unmarshal(t.Draft, &draft)
	if err := checkTexts(struct {
		record.Keyed
		Draft any `json:""`
	}{t.Keyed, draft}); err != nil {
		return nil, err
	}
	if about.Whole && t.Keyed != (record.Keyed{}) {
		return nil, problem.New("band", "it is of the whole radio: leave band, level, mode and frequency empty")
	}
	if !out.review.HasBox(about, t.Keyed) {
		return nil, problem.New("level", "the review claims no %s in %s: type the claim first", strings.TrimSpace(t.Keyed.Band+" "+t.Keyed.Level), t.Keyed.Mode)
	}
	if err := units.CheckHz(t.Keyed.FrequencyHz); err != nil && !about.Whole {
		return nil, problem.New("frequency_hz", "%s", err.Error())
	}
	if p, ok := out.kind.(measure.Pathless); ok && p.WithoutPath(t.Draft) {
		out.way = &record.Through{Name: "no path", Kit: []record.KitCopy{}}
		out.taken, err = out.review.Room(out.kind).Take(measure.Taking{Keyed: t.Keyed, Through: out.way, Draft: t.Draft, File: t.File, Read: t.read, Bench: a.bench(ctx, out.review)})
		return out, err
	}
	if t.PathID == "" {
		return nil, problem.New("path_id", "choose the path that it came through; only what a receiver hears of itself comes through none")
	}
	through, path, err := a.Store.Through(ctx, t.PathID)
	if err != nil {
		return nil, err
	}
	if path.Practice != out.review.Bench() {
		return nil, problem.New("path_id", "a real radio is measured on the real bench, and a practice radio on its own")
	}
	out.way = through
	if t.Wiring != "" && t.Wiring != WiringOf(through) {
		return nil, ErrPathChanged
	}
	if !wiring.Serves(through, about.Purpose) {
		return nil, problem.New("path_id", "%s", wiring.WhyNotFor(about.Purpose, through.Name))
	}
	if t.AtRisk != nil && about.Transmits {
		if err := a.takeRisk(ctx, out, t); err != nil {
			return nil, err
		}
	}
	out.taken, err = out.review.Room(out.kind).Take(measure.Taking{Keyed: t.Keyed, Through: out.way, Draft: t.Draft, File: t.File, Read: t.read, Bench: a.bench(ctx, out.review)})
	return out, err
}

// The longest that may be keyed at one's own risk, and the longest rest that may be said, in s.
const (
	mostRiskS = 30
	mostRestS = 3600
)

// takeRisk marks the path with what it is in danger of; one in none is left as it is.
func (a *App) takeRisk(ctx context.Context, t *taking, asked Take) error {
	r := *asked.AtRisk
	if !(r.KeyS >= 0 && r.KeyS <= mostRiskS) {
		return problem.New("at_risk.key_s", "give the seconds it is keyed at most, up to %d; 0 for what was taken already", mostRiskS)
	}
	if !(r.RestS >= 0 && r.RestS <= mostRestS) {
		return problem.New("at_risk.rest_s", "give the seconds of rest between, up to %d", mostRestS)
	}
	danger, err := a.danger(ctx, t, asked.Keyed)
	if err != nil || danger == "" {
		return err
	}
	way := *t.way
	r.Danger = danger
	way.Risk, t.way = &r, &way
	return nil
}

// bench gives the bench where a kind asks for it, to say what on it would do.
func (a *App) bench(ctx context.Context, r *measure.Review) func() []record.Item {
	return func() []record.Item {
		items, err := a.Store.Kit(ctx, r.Bench())
		if err != nil {
			return nil // advice only: a reading is worked out without it
		}
		return items
	}
}

// refuseDanger refuses what would be keyed into a path in danger, unless somebody took that upon themselves.
func (a *App) refuseDanger(ctx context.Context, t *taking, k record.Keyed) error {
	if t.way.Risk != nil {
		return nil
	}
	danger, err := a.danger(ctx, t, k)
	if err == nil && danger != "" {
		return problem.New("path_id", "this path is in danger: %s", danger)
	}
	return err
}

// danger is what a path is in danger of; empty where of nothing.
func (a *App) danger(ctx context.Context, t *taking, k record.Keyed) (string, error) {
	bench, err := a.Store.Kit(ctx, t.review.Bench())
	if err != nil {
		return "", err
	}
	stairs, err := wiring.Wire(keying.Into(t.review, k, t.way, bench))
	if err != nil || stairs.Safe {
		return "", err
	}
	for _, p := range stairs.Problems {
		if p.Severity == say.Danger {
			return p.Detail, nil
		}
	}
	return "its supply cannot carry this", nil
}

// Say writes a word on a measurement: strike it, doubt it, explain it, or take that back.
func (a *App) Say(ctx context.Context, s record.Standing) error {
	if err := checkTexts(struct {
		Reason string `json:"reason"`
	}{s.Reason}); err != nil {
		return err
	}
	if strings.TrimSpace(s.Reason) == "" {
		return problem.New("reason", "say why")
	}
	request := store.Fingerprint([]string{s.ID, s.ReviewID, s.TargetID, s.Standing, s.Reason})
	if s.Standing == record.Explained {
		r, err := a.Open(ctx, s.ReviewID, store.WithoutTraces, nil)
		if err != nil {
			return err
		}
		if !r.MayExplain(s.TargetID) {
			return problem.New("standing", "only a difference of readings can be explained; a sweep is in force, suspect or struck")
		}
	}
	again, err := a.Store.AddStanding(ctx, &s, request)
	if err == nil && !again {
		a.Events.publish("standing", s.ID, s.ReviewID)
	}
	return err
}
