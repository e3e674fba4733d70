package store_test

import (
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/store"
	"talloak/store/storetest"
)

func item(name string) record.Item {
	spec := kit.Typical(kit.Attenuator)
	spec.Element.Kind = path.Attenuator
	return record.Item{ID: uuid.NewString(), Name: name, Spec: spec}
}

func TestThroughIsACopyInOrder(t *testing.T) {
	s := storetest.Open(t)
	a, b, supply := item("a"), item("b"), item("supply")
	supply.Spec = kit.Typical(kit.Supply)
	p := record.Path{ID: uuid.NewString(), Name: "p", Socket: "upper", Parts: []record.PathPart{{KitID: b.ID, Setting: "20 dB"}, {KitID: a.ID}, {KitID: b.ID}}, AppliedOffsetDB: 40,
		Supply: &record.PathSupply{KitID: supply.ID, SetV: 13.8}}
	if err := s.PutBench(t.Context(), &store.Bench{Kit: []record.Item{a, b, supply}, Paths: []record.Path{p}}); err != nil {
		t.Fatal(err)
	}
	got, _, err := s.Through(t.Context(), p.ID)
	if err != nil || len(got.Kit) != 3 || got.Kit[0].Name != "b" || got.Kit[0].Setting != "20 dB" || got.Kit[1].Name != "a" || got.AppliedOffsetDB != 40 || got.Socket != "upper" || got.Supply.SetV != 13.8 {
		t.Errorf("%+v %v", got, err)
	}
	if _, _, err := s.Through(t.Context(), uuid.NewString()); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("no such path: %v", err)
	}
	p.Parts[0].KitID = uuid.NewString()
	if _, err := s.ThroughOf(t.Context(), &p); err == nil || !strings.HasPrefix(err.Error(), "parts[0].kit_id: ") {
		t.Errorf("no such item: %v", err)
	}
	kept, err := s.Kit(t.Context(), "")
	if err != nil || len(kept) != 3 || kept[0].Name != "a" || kept[2].Name != "supply" {
		t.Errorf("in the order written: %+v %v", kept, err)
	}
}

// TestItemVersions: a stale write is refused, the same write again is not.
func TestItemVersions(t *testing.T) {
	s := storetest.Open(t)
	first := item("pad")
	if err := s.PutItem(t.Context(), &first); err != nil || first.Version != 1 {
		t.Fatalf("%+v %v", first, err)
	}
	changed := first
	changed.Name = "pad, red"
	at := time.Now().UTC().Truncate(time.Microsecond)
	changed.RetiredAt = &at
	if err := s.PutItem(t.Context(), &changed); err != nil || changed.Version != 2 {
		t.Fatalf("%+v %v", changed, err)
	}
	again := changed
	again.Version = 1
	if err := s.PutItem(t.Context(), &again); err != nil || again.Version != 2 {
		t.Errorf("the same write twice: %+v %v", again, err)
	}
	// Later on the same write is stale: others came between.
	green := changed
	green.Name = "pad, green"
	late := changed
	late.Version = 1
	if err := s.PutItem(t.Context(), &green); err != nil || green.Version != 3 {
		t.Fatalf("%+v %v", green, err)
	}
	green.Name = "pad, red"
	if err := s.PutItem(t.Context(), &green); err != nil {
		t.Fatal(err)
	}
	if err := s.PutItem(t.Context(), &late); !errors.Is(err, store.ErrStale) {
		t.Errorf("the same write three versions on, though it would change nothing: %v", err)
	}
	other := first
	other.Name = "pad, blue"
	if err := s.PutItem(t.Context(), &other); !errors.Is(err, store.ErrStale) || other.Version != 1 {
		t.Errorf("a stale write: %v at version %d", err, other.Version)
	}
	if kept, _ := s.KitItem(t.Context(), first.ID); kept.Name != "pad, red" {
		t.Errorf("the stale write stands: %+v", kept)
	}
	lost := item("never written")
	lost.Version = 3
	if err := s.PutItem(t.Context(), &lost); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("%v", err)
	}
	// All or nothing.
	fresh := item("fresh")
	if err := s.PutBench(t.Context(), &store.Bench{Kit: []record.Item{fresh, other}}); !errors.Is(err, store.ErrStale) {
		t.Errorf("%v", err)
	}
	if _, err := s.KitItem(t.Context(), fresh.ID); !errors.Is(err, store.ErrNotFound) {
		t.Error("half a bench was written")
	}
}

// TestWhatIsUsedIsNotRemoved: an item stays once a path, a reading, a stack or a
// comparison names it.
func TestWhatIsUsedIsNotRemoved(t *testing.T) {
	s := storetest.Open(t)
	r := review(t, s)
	names := map[string]func(k record.Item) error{
		"a path": func(k record.Item) error {
			return s.PutPath(t.Context(), &record.Path{ID: uuid.NewString(), Name: "p", Parts: []record.PathPart{{KitID: k.ID}}})
		},
		"a supply of a path": func(k record.Item) error {
			return s.PutPath(t.Context(), &record.Path{ID: uuid.NewString(), Name: "p", Parts: []record.PathPart{}, Supply: &record.PathSupply{KitID: k.ID, SetV: 12}})
		},
		"a reading": func(k record.Item) error {
			m := measurement(r.ID)
			m.Through.Kit = []record.KitCopy{{ID: k.ID, Name: k.Name}}
			_, err := s.AddMeasurement(t.Context(), m, nil, "a")
			return err
		},
		"a comparison": func(k record.Item) error {
			_, err := s.AddBaseline(t.Context(), &record.Baseline{ID: uuid.NewString(), Meters: []record.KitCopy{{ID: k.ID}}, Rows: []record.BaselineRow{}}, "a")
			return err
		},
		"a stack": func(k record.Item) error {
			return s.PutBench(t.Context(), &store.Bench{Stacks: []record.Stack{{ID: uuid.NewString(), Parts: []record.PathPart{{KitID: k.ID}}, Found: []path.MeasuredPoint{}}}})
		},
		"": func(record.Item) error { return nil },
	}
	for what, name := range names {
		k := item("pad of " + what)
		if err := errors.Join(s.PutItem(t.Context(), &k), name(k)); err != nil {
			t.Fatal(err)
		}
		err := s.RemoveItem(t.Context(), k.ID, k.Version)
		if what != "" && !errors.Is(err, store.ErrInUse) || what == "" && err != nil {
			t.Errorf("named by %q: %v", what, err)
		}
	}
	k := item("stale")
	if err := s.PutItem(t.Context(), &k); err != nil {
		t.Fatal(err)
	}
	if err := s.RemoveItem(t.Context(), k.ID, 7); !errors.Is(err, store.ErrStale) {
		t.Errorf("%v", err)
	}
	if err := s.RemoveItem(t.Context(), uuid.NewString(), 1); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("%v", err)
	}
}

// TestStackCountsWhileItFits: a measured loss is on the path until its parts
// are changed, and back when they are put back; the measurement itself stays.
func TestStackCountsWhileItFits(t *testing.T) {
	s := storetest.Open(t)
	a, b, c := item("a"), item("b"), item("c")
	p := record.Path{ID: uuid.NewString(), Name: "p", Parts: []record.PathPart{{KitID: a.ID}, {KitID: b.ID}, {KitID: c.ID}}}
	if err := s.PutBench(t.Context(), &store.Bench{Kit: []record.Item{a, b, c}, Paths: []record.Path{p}}); err != nil {
		t.Fatal(err)
	}
	p.Version = 1
	id := uuid.NewString()
	p.Parts[1].StackID, p.Parts[2].StackID = id, id
	stack := record.Stack{ID: id, MeasuredOn: "2026-11-25", Parts: p.Parts[1:], Found: []path.MeasuredPoint{{FrequencyHz: 144e6, DB: 19.6, StandardUncertaintyDB: 0.1}}}
	again, err := s.AddStack(t.Context(), &stack, &p, "a")
	if err != nil || again || p.Version != 2 {
		t.Fatalf("%v %v, version %d", again, err, p.Version)
	}
	twice := stack
	if again, err := s.AddStack(t.Context(), &twice, &p, "a"); err != nil || !again {
		t.Errorf("the same stack twice: %v %v", again, err)
	}
	if err := s.Exec(t.Context(), "DELETE FROM stacks"); err == nil {
		t.Error("a measurement was deleted")
	}
	through := func() *record.Through {
		t.Helper()
		got, err := s.ThroughOf(t.Context(), &p)
		if err != nil {
			t.Fatal(err)
		}
		return got
	}
	if m := through().Kit[2].Measured; m == nil || m.Spans != 2 || m.Table[0].DB != 19.6 || m.On != "2026-11-25" {
		t.Errorf("%+v", m)
	}
	p.Parts[1], p.Parts[2] = p.Parts[2], p.Parts[1]
	if got := through(); got.Kit[1].Measured != nil || got.Kit[2].Measured != nil || !got.StackChanged {
		t.Error("parts in another order are not what was measured")
	}
	p.Parts[1], p.Parts[2] = p.Parts[2], p.Parts[1]
	if through().Kit[2].Measured == nil {
		t.Error("put back, they are")
	}
	p.Parts[1].Setting = "20 dB"
	if through().Kit[2].Measured != nil {
		t.Error("at another setting they are not")
	}
}
