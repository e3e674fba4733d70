package store_test

import (
	"errors"
	"math"
	"sync"
	"testing"

	"github.com/google/uuid"

	"talloak/store"
	"talloak/store/storetest"
)

func review(t *testing.T, s *store.Store) *store.Review {
	t.Helper()
	r := &store.Review{ID: uuid.NewString(), RequestHash: "a", Subject: store.Subject{Model: "T1"}, Claims: []store.Claim{{Text: "2m 5"}}}
	if _, err := s.AddReview(t.Context(), r); err != nil {
		t.Fatal(err)
	}
	return r
}

// TestOpenTwiceAtOnce: two starts on an empty database wait for each other.
func TestOpenTwiceAtOnce(t *testing.T) {
	url := storetest.URL(t)
	var wg sync.WaitGroup
	for range 3 {
		wg.Go(func() {
			s, err := store.Open(t.Context(), url)
			if err != nil {
				t.Error(err)
				return
			}
			if empty, err := s.Empty(t.Context()); err != nil || !empty {
				t.Errorf("empty %v, %v", empty, err)
			}
			_ = s.Close()
		})
	}
	wg.Wait()
}

func TestReviewComesBack(t *testing.T) {
	s := storetest.Open(t)
	r := review(t, s)
	again, err := s.AddReview(t.Context(), &store.Review{ID: r.ID, RequestHash: "a", Claims: []store.Claim{}})
	if err != nil || !again {
		t.Errorf("the same request: again %v, %v", again, err)
	}
	if _, err := s.AddReview(t.Context(), &store.Review{ID: r.ID, RequestHash: "b", Claims: []store.Claim{}}); !errors.Is(err, store.ErrKeyReused) {
		t.Errorf("another request under the key: %v", err)
	}
	got, err := s.Review(t.Context(), r.ID)
	if err != nil || got.Subject.Model != "T1" || got.Claims[0].Text != "2m 5" || got.Version != 1 {
		t.Errorf("%+v %v", got, err)
	}
	if _, err := s.Review(t.Context(), uuid.NewString()); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("no such review: %v", err)
	}
}

// TestOnlyOneOfTwoWritersWins: of many writers on one version, one succeeds.
func TestOnlyOneOfTwoWritersWins(t *testing.T) {
	s := storetest.Open(t)
	r := review(t, s)
	var mu sync.Mutex
	won, stale := 0, 0
	var wg sync.WaitGroup
	for range 6 {
		wg.Go(func() {
			err := s.ChangeReview(t.Context(), &store.Review{ID: r.ID, Version: 1, Claims: []store.Claim{}})
			mu.Lock()
			defer mu.Unlock()
			switch {
			case err == nil:
				won++
			case errors.Is(err, store.ErrStale):
				stale++
			default:
				t.Error(err)
			}
		})
	}
	wg.Wait()
	if won != 1 || stale != 5 {
		t.Errorf("%d won, %d were stale", won, stale)
	}
	if err := s.ChangeReview(t.Context(), &store.Review{ID: uuid.NewString(), Version: 1}); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a review that is not there: %v", err)
	}
}

func TestStandingsNeedTheirTarget(t *testing.T) {
	s := storetest.Open(t)
	r, other := review(t, s), review(t, s)
	reading := &store.Reading{ID: uuid.NewString(), RequestHash: "a", ReviewID: r.ID, Keyed: store.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 1}}
	if _, err := s.AddReading(t.Context(), reading); err != nil {
		t.Fatal(err)
	}
	say := func(reviewID, target, targetID string) error {
		_, err := s.AddStanding(t.Context(), &store.Standing{ID: uuid.NewString(), RequestHash: "a", ReviewID: reviewID, Target: target, TargetID: targetID, Standing: "struck", Reason: "x"})
		return err
	}
	if err := say(r.ID, "reading", reading.ID); err != nil {
		t.Error(err)
	}
	for _, c := range [][3]string{{other.ID, "reading", reading.ID}, {r.ID, "sweep", reading.ID}, {r.ID, "edition", reading.ID}, {r.ID, "reading", uuid.NewString()}} {
		if err := say(c[0], c[1], c[2]); !errors.Is(err, store.ErrNotFound) {
			t.Errorf("%v: %v", c, err)
		}
	}
	facts, err := s.Facts(t.Context(), r.ID, store.WithTraces)
	if err != nil || len(facts.Standings) != 1 || len(facts.Readings) != 1 {
		t.Errorf("%+v %v", facts, err)
	}
}

func TestFactsWithAndWithoutTraces(t *testing.T) {
	s := storetest.Open(t)
	r := review(t, s)
	levels := []float64{-90.25, math.SmallestNonzeroFloat64, 3}
	row := &store.Sweep{ID: uuid.NewString(), RequestHash: "a", ReviewID: r.ID, Levels: store.PackLevels(levels), Original: []byte("as it came"), Points: 3}
	if _, err := s.AddSweep(t.Context(), row); err != nil {
		t.Fatal(err)
	}
	with, err := s.Facts(t.Context(), r.ID, store.WithTraces)
	if err != nil {
		t.Fatal(err)
	}
	for i, l := range store.UnpackLevels(with.Sweeps[0].Levels) {
		if l != levels[i] {
			t.Errorf("level %d came back as %v", i, l)
		}
	}
	without, err := s.Facts(t.Context(), r.ID, store.WithoutTraces)
	if err != nil || len(without.Sweeps) != 1 || without.Sweeps[0].Levels != nil || without.Sweeps[0].Points != 3 {
		t.Errorf("%+v %v", without.Sweeps, err)
	}
	if _, text, err := s.SweepOriginal(t.Context(), row.ID); err != nil || string(text) != "as it came" {
		t.Errorf("%q %v", text, err)
	}
}

// TestFreezeNumbersInOrder: many at once get numbers without a gap, a failed
// one leaves nothing, and the same key gives the same edition.
func TestFreezeNumbersInOrder(t *testing.T) {
	s := storetest.Open(t)
	r := review(t, s)
	fill := func(e *store.Edition) error {
		e.Document, e.Page, e.SHA256 = []byte("{}"), []byte("<p>"), "00"
		return nil
	}
	if _, err := s.Freeze(t.Context(), &store.Edition{ID: uuid.NewString(), ReviewID: r.ID}, func(*store.Edition) error { return errors.New("not yet") }); err == nil {
		t.Error("a failed freeze succeeds")
	}
	var wg sync.WaitGroup
	for range 5 {
		wg.Go(func() {
			if _, err := s.Freeze(t.Context(), &store.Edition{ID: uuid.NewString(), RequestHash: "a", ReviewID: r.ID}, fill); err != nil {
				t.Error(err)
			}
		})
	}
	wg.Wait()
	editions, err := s.Editions(t.Context(), r.ID)
	if err != nil || len(editions) != 5 {
		t.Fatalf("%d editions, %v", len(editions), err)
	}
	for i, e := range editions {
		if e.Number != i+1 || e.Document != nil {
			t.Errorf("edition %d has number %d", i+1, e.Number)
		}
	}
	same := &store.Edition{ID: editions[2].ID, RequestHash: "a", ReviewID: r.ID}
	again, err := s.Freeze(t.Context(), same, fill)
	if err != nil || !again || same.Number != 3 || string(same.Page) != "<p>" {
		t.Errorf("again %v, %+v, %v", again, same, err)
	}
	if err := s.Exec(t.Context(), "UPDATE editions SET title = 'other'"); err == nil {
		t.Error("a frozen edition was changed")
	}
}
