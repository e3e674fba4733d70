package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"io"
	"maps"
	"os"
	"slices"
	"strings"
	"sync"

	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/instruments"
	"talloak/store"
)

// Books finds a rule book by its id.
type Books = measure.Books

// App is the application. It is safe for concurrent use.
type App struct {
	Store  *store.Store
	Kinds  []measure.Kind
	Events *Events

	// KeyFile is where the key is that editions are signed by, when there is one; empty for none.
	KeyFile string

	// Rack is the way to the instruments on the bench.
	Rack Rack

	// PracticeSpeed is how many times faster than life practice benches go.
	PracticeSpeed float64
	practices     practices

	books Books
	ids   []string

	lately  lately
	shelved shelved
}

// Rack lets one window at a time to an instrument. Open tells that the server is reached from other
// machines too.
type Rack struct {
	instruments.Rack
	Open bool

	lock     sync.Mutex
	sweeping map[string]*Sweeping
}

// New is the application on a store, with the kinds of measurement it knows and the rule
// books that ship, by their ids in order.
func New(s *store.Store, kinds []measure.Kind, books Books, ids []string) *App {
	return &App{Store: s, Kinds: kinds, Events: newEvents(), PracticeSpeed: practiceSpeed, books: books, ids: ids}
}

// Kind is the kind of measurement of that name; store.ErrNotFound where there is none.
func (a *App) Kind(name string) (measure.Kind, error) {
	for _, k := range a.Kinds {
		if k.About().Name == name {
			return k, nil
		}
	}
	return nil, store.ErrNotFound
}

func (a *App) book(ctx context.Context, field, id string) (*rulebook.Book, error) {
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	book, ok := shelf.Find(id)
	if !ok {
		return nil, problem.New(field, "there is no rule book %q here", id)
	}
	return book, nil
}

// Open reads a review and works it out; try may change its rules for this look.
func (a *App) Open(ctx context.Context, id string, traces store.Traces, try func(*record.Rules)) (*measure.Review, error) {
	r, err := a.Store.Review(ctx, id)
	if err != nil {
		return nil, err
	}
	facts, err := a.Store.Facts(ctx, id, traces)
	if err != nil {
		return nil, err
	}
	rules := r.Rules
	if try != nil {
		try(&rules)
		if err := measure.CheckRules(rules); err != nil {
			return nil, err
		}
	}
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	return measure.Open(r, facts, rules, shelf.Find, a.Kinds)
}

// program names the very program that runs: what another build worked out is not shown.
var program = sync.OnceValue(func() string {
	at, err := os.Executable()
	if err != nil {
		return "unknown"
	}
	f, err := os.Open(at)
	if err != nil {
		return "unknown"
	}
	defer f.Close()
	sum := sha256.New()
	if _, err := io.Copy(sum, f); err != nil {
		return "unknown"
	}
	return hex.EncodeToString(sum.Sum(nil))
})

// basis names all that a ruling on a review rests on: its facts, its rules and the books of
// one's own among them; and behind a space the program, with the books that it ships.
func basis(r *record.Review, at store.Standpoint, shelf *rulebook.Shelf) string {
	all := []any{r.ID, at, r.Rules}
	own := func(id string) {
		if shelf.IsOwn(id) {
			b, _ := shelf.Find(id)
			all = append(all, b)
		}
	}
	own(r.Rules.RuleBook)
	for _, band := range slices.Sorted(maps.Keys(r.Rules.Books)) {
		own(r.Rules.Books[band])
	}
	return store.Fingerprint(all) + " " + program()
}

// onlyLater tells whether nothing but the program differs from what a ruling was kept on. Of
// one kept before bases were told apart nothing is known, but that it is of another program.
func onlyLater(kept, now string) bool {
	facts, by, told := strings.Cut(kept, " ")
	current, program, _ := strings.Cut(now, " ")
	return kept != "" && (!told || facts == current && by != program)
}
