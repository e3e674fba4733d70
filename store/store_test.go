package store_test

import (
	"bytes"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"

	"talloak/core/record"
	"talloak/store"
	"talloak/store/storetest"
)

func review(t *testing.T, s *store.Store) *record.Review {
	t.Helper()
	r := &record.Review{ID: uuid.NewString(), Subject: record.Subject{Model: "T1"}, Claims: []record.Claim{{Text: "2m 5"}}}
	if _, err := s.AddReview(t.Context(), r, "a"); err != nil {
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
	again, err := s.AddReview(t.Context(), &record.Review{ID: r.ID, Claims: []record.Claim{}}, "a")
	if err != nil || !again {
		t.Errorf("the same request: again %v, %v", again, err)
	}
	if _, err := s.AddReview(t.Context(), &record.Review{ID: r.ID, Claims: []record.Claim{}}, "b"); !errors.Is(err, store.ErrKeyReused) {
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
	for n := range 6 {
		wg.Go(func() {
			err := s.ChangeReview(t.Context(), &record.Review{ID: r.ID, Version: 1, Claims: []record.Claim{{Text: fmt.Sprint("2m ", n+1)}}})
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
	if err := s.ChangeReview(t.Context(), &record.Review{ID: uuid.NewString(), Version: 1}); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a review that is not there: %v", err)
	}
}

func measurement(reviewID string) *record.Measurement {
	return &record.Measurement{ID: uuid.NewString(), Kind: "power", Format: record.Format, ReviewID: reviewID, Keyed: record.Keyed{Band: "2m", Level: "High", Mode: "FM", FrequencyHz: 1}, Through: &record.Through{}, Payload: []byte(`{"text":"5"}`)}
}

func TestStandingsNeedTheirTarget(t *testing.T) {
	s := storetest.Open(t)
	r, other := review(t, s), review(t, s)
	reading := measurement(r.ID)
	if _, err := s.AddMeasurement(t.Context(), reading, nil, "a"); err != nil {
		t.Fatal(err)
	}
	say := func(reviewID, targetID string) error {
		_, err := s.AddStanding(t.Context(), &record.Standing{ID: uuid.NewString(), ReviewID: reviewID, TargetID: targetID, Standing: "struck", Reason: "x"}, "a")
		return err
	}
	if err := say(r.ID, reading.ID); err != nil {
		t.Error(err)
	}
	for _, c := range [][2]string{{other.ID, reading.ID}, {r.ID, uuid.NewString()}} {
		if err := say(c[0], c[1]); !errors.Is(err, store.ErrNotFound) {
			t.Errorf("%v: %v", c, err)
		}
	}
	if _, err := s.AddMeasurement(t.Context(), measurement(uuid.NewString()), nil, "a"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("of no review: %v", err)
	}
	facts, err := s.Facts(t.Context(), r.ID, store.WithTraces)
	if err != nil || len(facts.Standings) != 1 || len(facts.Measurements) != 1 || facts.Measurements[0].Format != record.Format {
		t.Errorf("%+v %v", facts, err)
	}
}

func TestFactsWithAndWithoutTraces(t *testing.T) {
	s := storetest.Open(t)
	r := review(t, s)
	row := measurement(r.ID)
	row.Blob = []byte{1, 2, 3}
	file := &record.File{Name: "a.csv", MediaType: "text/csv", Content: []byte(strings.Repeat("as it came\n", 1000))}
	if _, err := s.AddMeasurement(t.Context(), row, file, "a"); err != nil {
		t.Fatal(err)
	}
	with, err := s.Facts(t.Context(), r.ID, store.WithTraces)
	if err != nil || !bytes.Equal(with.Measurements[0].Blob, row.Blob) {
		t.Errorf("%+v %v", with, err)
	}
	without, err := s.Facts(t.Context(), r.ID, store.WithoutTraces)
	if err != nil || len(without.Measurements) != 1 || without.Measurements[0].Blob != nil {
		t.Errorf("%+v %v", without, err)
	}
	if got, err := s.File(t.Context(), row.ID); err != nil || got.Name != "a.csv" || !bytes.Equal(got.Content, file.Content) {
		t.Errorf("%+v %v", got, err)
	}
	if _, err := s.File(t.Context(), uuid.NewString()); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("no such file: %v", err)
	}
}

// TestNothingIsEmptied: TRUNCATE is refused like DELETE, of every fact.
func TestNothingIsEmptied(t *testing.T) {
	s := storetest.Open(t)
	for _, table := range []string{"measurements", "files", "older_files", "standings", "editions", "stacks", "baselines"} {
		if err := s.Exec(t.Context(), "TRUNCATE "+table+" CASCADE"); err == nil || !strings.Contains(err.Error(), "append-only") {
			t.Errorf("%s: %v", table, err)
		}
	}
}

// TestFreezeNumbersInOrder: many at once get numbers without a gap, a failed
// one leaves nothing, and the same key gives the same edition.
func TestFreezeNumbersInOrder(t *testing.T) {
	s := storetest.Open(t)
	r := review(t, s)
	fill := func(e *record.Edition, _ *record.Review, _ record.Facts, _ store.Standpoint, _ *record.Edition) error {
		e.Document, e.Page, e.SHA256 = []byte("{}"), []byte("<p>"), "00"
		return nil
	}
	if _, err := s.Freeze(t.Context(), &record.Edition{ID: uuid.NewString(), ReviewID: r.ID}, "a", func(*record.Edition, *record.Review, record.Facts, store.Standpoint, *record.Edition) error {
		return errors.New("not yet")
	}); err == nil {
		t.Error("a failed freeze succeeds")
	}
	var wg sync.WaitGroup
	for range 5 {
		wg.Go(func() {
			if _, err := s.Freeze(t.Context(), &record.Edition{ID: uuid.NewString(), ReviewID: r.ID}, "a", fill); err != nil {
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
	same := &record.Edition{ID: editions[2].ID, ReviewID: r.ID}
	again, err := s.Freeze(t.Context(), same, "a", fill)
	if err != nil || !again || same.Number != 3 || string(same.Page) != "<p>" {
		t.Errorf("again %v, %+v, %v", again, same, err)
	}
	if err := s.Exec(t.Context(), "UPDATE editions SET title = 'other'"); err == nil {
		t.Error("a frozen edition was changed")
	}
}

// TestAClockSetBackChangesNoOrder: what is changed last stands first, whatever the clock says.
func TestAClockSetBackChangesNoOrder(t *testing.T) {
	s := storetest.Open(t)
	first, second := review(t, s), review(t, s)
	// The clock went on for an hour, and is set back now.
	if err := s.Exec(t.Context(), "UPDATE reviews SET updated_at = updated_at + interval '1 hour', created_at = created_at + interval '1 hour'"); err != nil {
		t.Fatal(err)
	}
	newest := func(want string) {
		t.Helper()
		all, err := s.Reviews(t.Context(), nil, 10)
		if err != nil || all[0].Review.ID != want {
			t.Errorf("%v, want %s first", err, want)
		}
	}
	newest(second.ID)
	first.Subject.Serial = "1"
	if err := s.ChangeReview(t.Context(), first); err != nil {
		t.Fatal(err)
	}
	newest(first.ID)
	third := review(t, s)
	newest(third.ID)
	if id, err := s.EarlierOf(t.Context(), third); err != nil || id == "" || id == third.ID {
		t.Errorf("the one begun before: %q %v", id, err)
	}
}
