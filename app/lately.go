package app

import (
	"context"
	"sync"

	"talloak/core/measure"
	"talloak/core/rulebook"
	"talloak/store"
)

// lately is the review a person types in, worked out as it stood: with every key a figure is
// asked for, and nothing but that key has changed since the last.
type lately struct {
	mu     sync.Mutex
	id     string
	at     store.Standpoint
	shelf  *rulebook.Shelf
	review *measure.Review
	used   int
}

// mostUses is how often a review is asked before it is worked out anew: what it has learned
// of the paths it was asked about is let go with it.
const mostUses = 500

// with does something with a review as it stands, alone: a review that is worked out may
// only be asked by one at a time.
func (a *App) with(ctx context.Context, id string, do func(*measure.Review) error) error {
	l := &a.lately
	l.mu.Lock()
	defer l.mu.Unlock()
	at, err := a.Store.Standpoint(ctx, id) // before the facts: what comes between is told by it
	if err != nil {
		return err
	}
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return err
	}
	if l.shelf != shelf || l.review == nil || l.id != id || l.at != at || l.used >= mostUses {
		r, err := a.Open(ctx, id, store.WithoutTraces, nil)
		if err != nil {
			return err
		}
		l.id, l.at, l.shelf, l.review, l.used = id, at, shelf, r, 0
	}
	l.used++
	return do(l.review)
}
