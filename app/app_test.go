package app_test

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/publish"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
)

func v(x float64) *float64 { return &x }

// place is an application with a meter path and an analyzer path, and a review of 5 and
// 1 W on 2 m.
type place struct {
	*app.App
	t                        *testing.T
	review, meter, analyzers string
}

func begin(t *testing.T) *place {
	t.Helper()
	s := storetest.Open(t)
	p := &place{app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs()), t, uuid.NewString(), uuid.NewString(), uuid.NewString()}
	items := []record.Item{
		{ID: uuid.NewString(), Name: "meter", Spec: kit.Spec{Element: path.Element{Kind: path.Meter, MaxW: v(50)}, Meter: &reading.Meter{PctReading: 5}}},
		{ID: uuid.NewString(), Name: "load", Spec: kit.Spec{Element: path.Element{Kind: path.Load, MaxW: v(50)}}},
		{ID: uuid.NewString(), Name: "pads", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(50)}, MaxW: v(25)}}},
		{ID: uuid.NewString(), Name: "analyzer", Spec: kit.Spec{Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10), NoiseFloorDBm: v(-90)}}}, AccuracyDB: 1}},
	}
	paths := []record.Path{
		{ID: p.meter, Name: "to the meter", Parts: []record.PathPart{{KitID: items[0].ID}, {KitID: items[1].ID}}},
		{ID: p.analyzers, Name: "to the analyzer", Parts: []record.PathPart{{KitID: items[2].ID}, {KitID: items[3].ID}}},
	}
	if err := s.PutBench(t.Context(), &store.Bench{Kit: items, Paths: paths}); err != nil {
		t.Fatal(err)
	}
	p.start(p.review, "2m 5/1")
	return p
}

func (p *place) start(id, claim string) {
	p.t.Helper()
	r := &record.Review{ID: id, Subject: record.Subject{Model: "T1", Serial: "1", ComeBy: "bought", Interest: "none"}, Claims: []record.Claim{{Text: claim, Source: "box"}}, Rules: app.DefaultRules}
	if err := p.AddReview(p.t.Context(), r); err != nil {
		p.t.Fatal(err)
	}
}

func (p *place) take(text string) app.Take {
	draft, _ := json.Marshal(map[string]string{"text": text})
	return app.Take{ID: uuid.NewString(), Kind: "power", ReviewID: p.review, PathID: p.meter, Draft: draft, Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146e6}}
}

// taken counts what is kept of a review.
// freeze freezes the next edition of what was seen.
func (p *place) freeze(id string, saw *app.Publishing) (*record.Edition, error) {
	ask := app.Freezing{ReviewID: p.review, EditionID: id, Saw: saw.Basis, Kind: publish.First}
	if saw.Next > 1 {
		ask.Kind, ask.Changed = publish.Addendum, "More was measured."
	}
	return p.Freeze(context.Background(), ask)
}

func (p *place) taken() int {
	p.t.Helper()
	facts, err := p.Store.Facts(p.t.Context(), p.review, store.WithoutTraces)
	if err != nil {
		p.t.Fatal(err)
	}
	return len(facts.Measurements)
}

func fieldOf(err error) string {
	var p *problem.Error
	if errors.As(err, &p) && len(p.Fields) > 0 {
		return p.Fields[0].Field
	}
	return ""
}

// TestWhatBlocksIsRefused, whoever asks, and nothing of it is kept: a path in danger, a
// band and level that nobody claimed, a path of another purpose, text that cannot be kept.
func TestWhatBlocksIsRefused(t *testing.T) {
	p := begin(t)
	for field, spoil := range map[string]func(*app.Take){
		"level":        func(k *app.Take) { k.Keyed.Level = "Turbo" },
		"path_id":      func(k *app.Take) { k.Kind = "emissions" },
		"frequency_hz": func(k *app.Take) { k.Keyed.FrequencyHz = 0 },
		"text":         func(k *app.Take) { k.Draft = json.RawMessage(`{"text":"4.9 ? hum\u0000"}`) },
		"band":         func(k *app.Take) { k.Keyed.Band = "2m\x00" },
		"colour":       func(k *app.Take) { k.Draft = json.RawMessage(`{"colour":"red"}`) },
	} {
		k := p.take("4.9")
		spoil(&k)
		if _, err := p.Measure(t.Context(), k); fieldOf(err) != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	p.review = uuid.NewString()
	p.start(p.review, "2m 200")
	if _, err := p.Preview(t.Context(), p.take("180")); err != nil {
		t.Errorf("a figure may be worked out all the same: %v", err)
	}
	if _, err := p.Measure(t.Context(), p.take("180")); fieldOf(err) != "path_id" || !strings.Contains(err.Error(), "in danger") {
		t.Errorf("200 W into 50 W: %v", err)
	}
	sweep := p.take("")
	sweep.Kind, sweep.PathID, sweep.Draft = "emissions", p.analyzers, json.RawMessage(`{"name":"wide"}`)
	sweep.File = &record.File{Name: "a.csv", Content: []byte("144e6,-20\n145e6,-90\n146e6,-20\n")}
	if _, err := p.Measure(t.Context(), sweep); !strings.Contains(err.Error(), "in danger") {
		t.Errorf("200 W into pads of 25 W: %v", err)
	}
	if n := p.taken(); n != 0 {
		t.Errorf("%d were kept", n)
	}
}

// TestTextsThatCannotBeKept are refused at their field, everywhere a person types.
func TestTextsThatCannotBeKept(t *testing.T) {
	p := begin(t)
	long := strings.Repeat("a", 2001)
	for _, bad := range []string{"a\x00b", "\xff", long} {
		err := p.ChangeReview(t.Context(), app.ReviewChange{ID: p.review, Version: 1, Subject: record.Subject{Model: "T1"}, Claims: []record.Claim{{Text: "2m 5"}, {Text: "2m 5", Source: bad}}, Rules: app.DefaultRules})
		if fieldOf(err) != "claims[1].source" {
			t.Errorf("%.9q: %v", bad, err)
		}
		_, err = p.KeepItem(t.Context(), app.ItemChange{ID: uuid.NewString(), Name: "pad", Spec: kit.Spec{Kind: kit.Adapter, Note: bad}})
		if fieldOf(err) != "spec.note" {
			t.Errorf("%.9q: %v", bad, err)
		}
		if err := p.Say(t.Context(), record.Standing{ID: uuid.NewString(), ReviewID: p.review, TargetID: uuid.NewString(), Standing: "struck", Reason: bad}); fieldOf(err) != "reason" {
			t.Errorf("%.9q: %v", bad, err)
		}
	}
	if r, err := p.Store.Review(t.Context(), p.review); err != nil || r.Version != 1 {
		t.Errorf("something was written: %+v %v", r, err)
	}
}

// TestAPathIsWhatWasSeen: a reading on a path that changed under it is refused, be it the
// path or a thing on it; sent again after it was written, it is the same reading whatever
// became of the path.
func TestAPathIsWhatWasSeen(t *testing.T) {
	p := begin(t)
	k := p.take("4.9")
	stairs, err := p.Staircase(t.Context(), p.review, k.Keyed, p.meter)
	if err != nil {
		t.Fatal(err)
	}
	k.Wiring = stairs.Wiring
	if _, err := p.Measure(t.Context(), k); err != nil {
		t.Fatal(err)
	}
	items, _ := p.Store.Kit(t.Context(), "")
	if _, err := p.KeepItem(t.Context(), app.ItemChange{ID: items[0].ID, Version: 1, Name: "meter, repaired", Spec: items[0].Spec}); err != nil {
		t.Fatal(err)
	}
	late := p.take("4.8")
	late.Wiring = stairs.Wiring
	if _, err := p.Measure(t.Context(), late); !errors.Is(err, app.ErrPathChanged) || !errors.Is(err, store.ErrStale) {
		t.Errorf("on a path that changed: %v", err)
	}
	if got, err := p.Measure(t.Context(), k); err != nil || got == nil || p.taken() != 1 {
		t.Errorf("the same again: %v %v, %d kept", got, err, p.taken())
	}
}

// TestAKeyIsOfOneWrite: the same key with other content, or on another review, is refused.
func TestAKeyIsOfOneWrite(t *testing.T) {
	p := begin(t)
	k := p.take("4.9")
	if _, err := p.Measure(t.Context(), k); err != nil {
		t.Fatal(err)
	}
	first := p.review
	p.review = uuid.NewString()
	p.start(p.review, "2m 5/1")
	elsewhere := k
	elsewhere.ReviewID = p.review
	if _, err := p.Measure(t.Context(), elsewhere); !errors.Is(err, store.ErrKeyReused) {
		t.Errorf("on another review: %v", err)
	}
	other := p.take("4.8")
	other.ID, other.ReviewID = k.ID, first
	if _, err := p.Measure(t.Context(), other); !errors.Is(err, store.ErrKeyReused) {
		t.Errorf("with other content: %v", err)
	}
	word := record.Standing{ID: uuid.NewString(), ReviewID: first, TargetID: k.ID, Standing: "struck", Reason: "x"}
	if err := errors.Join(p.Say(t.Context(), word), p.Say(t.Context(), word)); err != nil {
		t.Error(err)
	}
	word.Reason = "y"
	if err := p.Say(t.Context(), word); !errors.Is(err, store.ErrKeyReused) {
		t.Errorf("another word under the key: %v", err)
	}
}

// TestTheSameChangeAgain is the same write, and a later one is stale.
func TestTheSameChangeAgain(t *testing.T) {
	p := begin(t)
	c := app.ReviewChange{ID: p.review, Version: 1, Subject: record.Subject{Model: "T1", Serial: "2"}, Claims: []record.Claim{{Text: "2m 5"}}, Rules: app.DefaultRules}
	for range 3 {
		if err := p.ChangeReview(t.Context(), c); err != nil {
			t.Fatal(err)
		}
	}
	r, _ := p.Store.Review(t.Context(), p.review)
	c.Subject.Serial = "3"
	if err := p.ChangeReview(t.Context(), c); !errors.Is(err, store.ErrStale) || r.Version != 2 {
		t.Errorf("version %d, then %v", r.Version, err)
	}
}

// TestAnEditionIsWhatWasSeen: frozen from what was previewed or not at all, and never
// without a reading that was taken before it.
func TestAnEditionIsWhatWasSeen(t *testing.T) {
	p := begin(t)
	if _, err := p.Measure(t.Context(), p.take("4.9")); err != nil {
		t.Fatal(err)
	}
	seen, err := p.Publishing(t.Context(), p.review)
	if err != nil {
		t.Fatal(err)
	}
	k := p.take("4.7 ? after the preview")
	if _, err := p.Measure(t.Context(), k); err != nil {
		t.Fatal(err)
	}
	if _, err := p.freeze(uuid.NewString(), seen); !errors.Is(err, store.ErrStale) {
		t.Errorf("what was not previewed was frozen: %v", err)
	}
	if _, err := p.PreviewEdition(t.Context(), p.review, seen.Basis); !errors.Is(err, store.ErrStale) {
		t.Errorf("a preview of what is not any more: %v", err)
	}
	seen, _ = p.Publishing(t.Context(), p.review)
	id := uuid.NewString()
	e, err := p.freeze(id, seen)
	if err != nil || !strings.Contains(string(e.Page), "after the preview") {
		t.Fatalf("%v", err)
	}
	if again, err := p.freeze(id, seen); err != nil || again.Number != 1 || again.SHA256 != e.SHA256 {
		t.Errorf("the same again: %+v %v", again, err)
	}
	if wrong, n, err := p.Verify(t.Context()); err != nil || n != 1 || len(wrong) > 0 {
		t.Errorf("%v %d %v", wrong, n, err)
	}
	for what, change := range map[string]string{"its page has": "page = page || 'x'", "its data have": "document = replace(encode(document, 'escape'), '4.9', '5.9')::bytea"} {
		for _, q := range []string{"ALTER TABLE editions DISABLE TRIGGER ALL", "UPDATE editions SET " + change, "ALTER TABLE editions ENABLE TRIGGER ALL"} {
			if err := p.Store.Exec(t.Context(), q); err != nil {
				t.Fatal(err)
			}
		}
		wrong, _, err := p.Verify(t.Context())
		if err != nil || !slices.ContainsFunc(wrong, func(w string) bool { return strings.Contains(w, what) }) {
			t.Errorf("%s: %v %v", what, wrong, err)
		}
	}
}

// TestEverythingDoneIsTold, once, to all who listen; what was refused or done before is not.
func TestEverythingDoneIsTold(t *testing.T) {
	p := begin(t)
	events, stop := p.Events.Listen()
	defer stop()
	k := p.take("4.9")
	bad := p.take("nothing")
	for _, take := range []app.Take{k, k, bad} {
		_, _ = p.Measure(t.Context(), take)
	}
	if err := p.Say(t.Context(), record.Standing{ID: uuid.NewString(), ReviewID: p.review, TargetID: k.ID, Standing: "struck", Reason: "x"}); err != nil {
		t.Fatal(err)
	}
	var got []string
	for range 2 {
		select {
		case e := <-events:
			got = append(got, e.What+" "+e.Review)
		case <-time.After(10 * time.Second):
			t.Fatalf("told only %v", got)
		}
	}
	if !slices.Equal(got, []string{"measurement " + p.review, "standing " + p.review}) || len(events) > 0 {
		t.Errorf("%v and %d more", got, len(events))
	}
}

// TestTheListReadsWhatWasWorkedOut on the same facts, rules and program, and works it out
// anew where one of them is another.
func TestTheListReadsWhatWasWorkedOut(t *testing.T) {
	p := begin(t)
	for i := range 4 {
		p.start(uuid.NewString(), "70cm "+string(rune('5'+i)))
	}
	list := func() []app.Listed {
		t.Helper()
		var out []app.Listed
		var after *store.Place
		for {
			page, next, err := p.Reviews(t.Context(), app.Find{}, after, 2)
			if err != nil {
				t.Fatal(err)
			}
			out = append(out, page...)
			if next == nil {
				return out
			}
			after = next
		}
	}
	if all := list(); len(all) != 5 || all[4].Review.ID != p.review || all[4].Says.Title == "" {
		t.Fatalf("%d, the newest change first, over pages: %+v", len(all), all)
	}
	if err := p.Store.Exec(t.Context(), `UPDATE rulings SET summary = jsonb_set(summary, '{headline}', '"as it was kept"')`); err != nil {
		t.Fatal(err)
	}
	if all := list(); all[4].Says.Headline != "as it was kept" {
		t.Errorf("worked out again: %q", all[4].Says.Headline)
	}
	// A later program that rules otherwise on the same facts says so, until they change.
	ruled := func(summary string) {
		t.Helper()
		if err := p.Store.Exec(t.Context(), `UPDATE rulings SET basis = split_part(basis, ' ', 1) || ' a program before', summary = '`+summary+`'`); err != nil {
			t.Fatal(err)
		}
	}
	ruled(`{"headline": "It fails.", "kinds": [{"kind": "power", "verdict": "fail"}]}`)
	for range 2 { // as it is worked out, and as it was kept
		if all := list(); all[4].Says.Before != "It fails." || all[4].Says.Headline == "It fails." {
			t.Errorf("%+v", all[4].Says)
		}
	}
	now, err := json.Marshal(list()[4].Says.Kinds)
	if err != nil {
		t.Fatal(err)
	}
	ruled(`{"headline": "The same, in other words.", "kinds": ` + string(now) + `}`)
	if all := list(); all[4].Says.Before != "" {
		t.Errorf("the same ruling is no other: %+v", all[4].Says)
	}
	ruled(`{"headline": "It fails.", "kinds": [{"kind": "power", "verdict": "fail"}]}`)
	if _, err := p.Measure(t.Context(), p.take("4.9")); err != nil {
		t.Fatal(err)
	}
	if all := list(); all[4].Says.Before != "" {
		t.Errorf("the reading changed it: %+v", all[4].Says)
	}
	if all := list(); !strings.Contains(all[4].Says.Headline, "Power makes its claim so far") {
		t.Errorf("after a reading: %q", all[4].Says.Headline)
	}
}

// TestTheSameIsFrozenOnce: of eight who press in the same moment, one makes an edition; the same
// facts make no other, a new one does, and what was seen is of one number.
func TestTheSameIsFrozenOnce(t *testing.T) {
	p := begin(t)
	if _, err := p.Measure(t.Context(), p.take("4.9")); err != nil {
		t.Fatal(err)
	}
	seen, err := p.Publishing(t.Context(), p.review)
	if err != nil || seen.Unchanged || seen.Next != 1 {
		t.Fatalf("%+v %v", seen, err)
	}
	done := make(chan error, 8)
	for range 8 {
		go func() {
			_, err := p.freeze(uuid.NewString(), seen)
			done <- err
		}()
	}
	frozen := 0
	for range 8 {
		var already app.FrozenAlready
		switch err := <-done; {
		case err == nil:
			frozen++
		case !errors.As(err, &already) || already.Number != 1:
			t.Errorf("%v", err)
		}
	}
	now, err := p.Publishing(t.Context(), p.review)
	if err != nil || frozen != 1 || len(now.Editions) != 1 || !now.Unchanged || now.Basis == seen.Basis {
		t.Errorf("%d frozen, %+v %v", frozen, now, err)
	}
	// What no edition tells changes nothing for readers, nor does a later program that rules alike.
	if err := p.Store.Exec(t.Context(), "ALTER TABLE editions DISABLE TRIGGER USER; UPDATE editions SET basis = 'of a program before'; ALTER TABLE editions ENABLE TRIGGER USER"); err != nil {
		t.Fatal(err)
	}
	if now, err = p.Publishing(t.Context(), p.review); err != nil || now.Unchanged {
		t.Errorf("%+v %v", now, err)
	}
	if _, err := p.freeze(uuid.NewString(), now); !errors.As(err, new(app.FrozenAlready)) {
		t.Errorf("by a later program: %v", err)
	}
	if _, err := p.Measure(t.Context(), p.take("4.8")); err != nil {
		t.Fatal(err)
	}
	if now, err = p.Publishing(t.Context(), p.review); err != nil || now.Unchanged || now.Next != 2 {
		t.Errorf("%+v %v", now, err)
	}
	if e, err := p.freeze(uuid.NewString(), now); err != nil || e.Number != 2 {
		t.Errorf("%+v %v", e, err)
	}
}

// TestEventsCrossServers on one database: what is done at one is told at the other, once, and at
// its own once too.
func TestEventsCrossServers(t *testing.T) {
	p := begin(t)
	other := app.New(p.Store, kinds.All(), rulebooks.Find, rulebooks.IDs())
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	for _, a := range []*app.App{p.App, other} {
		go a.Follow(ctx)
	}
	here, stopHere := p.Events.Listen()
	defer stopHere()
	there, stopThere := other.Events.Listen()
	defer stopThere()
	told := func(from <-chan app.Event, within time.Duration) string {
		select {
		case e := <-from:
			return e.What
		case <-time.After(within):
			return ""
		}
	}
	// It listens from a moment on that nobody knows: until then it is said again.
	heard := ""
	for try := 0; heard != "measurement" && try < 100; try++ { // what was done before may be told first
		if _, err := p.Measure(t.Context(), p.take("4.9")); err != nil {
			t.Fatal(err)
		}
		if got := told(here, 10*time.Second); got != "measurement" {
			t.Fatalf("here: %q", got)
		}
		heard = told(there, 100*time.Millisecond)
	}
	if heard != "measurement" {
		t.Fatalf("there: %q", heard)
	}
	if again := told(here, 200*time.Millisecond); again != "" {
		t.Errorf("here again: %q", again)
	}
}

// TestASlipThatIsStruckEndangersNothing: 47.1 typed for 4.71 puts a pad of 25 W in danger, and
// taking it back takes the danger back.
func TestASlipThatIsStruckEndangersNothing(t *testing.T) {
	p := begin(t)
	keyed := record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 146.52e6}
	safe := func() bool {
		t.Helper()
		s, err := p.Staircase(t.Context(), p.review, keyed, p.analyzers)
		if err != nil {
			t.Fatal(err)
		}
		return s.Safe
	}
	if !safe() {
		t.Fatal("not safe before")
	}
	slip := p.take("47.1")
	if _, err := p.Measure(t.Context(), slip); err != nil {
		t.Fatal(err)
	}
	if safe() {
		t.Error("47 W into a pad of 25 W are no danger")
	}
	if err := p.Say(t.Context(), record.Standing{ID: uuid.NewString(), ReviewID: p.review, TargetID: slip.ID, Standing: "struck", Reason: "a slip"}); err != nil {
		t.Fatal(err)
	}
	if !safe() {
		t.Error("still in danger after it was struck")
	}
	if _, err := p.Measure(t.Context(), p.take("471")); err != nil || !safe() {
		t.Errorf("what cannot be believed endangers: %v", err)
	}
}

// TestReviewsDoNotWaitForEachOther: while a figure of one review is held up by the database, one
// of another is worked out.
func TestReviewsDoNotWaitForEachOther(t *testing.T) {
	p := begin(t)
	other := uuid.NewString()
	p.start(other, "2m 5/1")
	held, going := make(chan bool), make(chan error, 1)
	wait := app.Take{Kind: "power", ReviewID: p.review, PathID: p.meter, Keyed: p.take("1").Keyed, Draft: json.RawMessage(`{"text":"4.9"}`)}
	// What is asked of the first is stopped on its way to the database.
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	go func() {
		close(held)
		going <- p.Store.Exec(ctx, "BEGIN; LOCK TABLE paths IN ACCESS EXCLUSIVE MODE; SELECT pg_sleep(60)")
	}()
	<-held
	first := make(chan error, 1)
	for blocked := false; !blocked; {
		go func() {
			_, err := p.Preview(ctx, wait)
			first <- err
		}()
		select {
		case <-first: // the lock was not there yet
		case <-time.After(300 * time.Millisecond):
			blocked = true
		}
	}
	done := make(chan error, 1)
	go func() {
		_, err := p.Preview(t.Context(), app.Take{Kind: "power", ReviewID: other, Keyed: wait.Keyed, Draft: json.RawMessage(`{"text":"4.9"}`)})
		done <- err
	}()
	select {
	case err := <-done: // it needs no path to be refused
		if err == nil {
			t.Error("taken without a path")
		}
	case <-time.After(10 * time.Second):
		t.Error("another review waits")
	}
	stop()
	<-going
}
