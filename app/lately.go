package app

import (
	"context"
	"sync"

	"talloak/core/measure"
	"talloak/core/record"
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
	facts  record.Facts
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
		if err := l.open(ctx, a, id, at, shelf); err != nil {
			return err
		}
	}
	l.used++
	return do(l.review)
}

// open works a review out anew; of one that grew, only what is new is read.
func (l *lately) open(ctx context.Context, a *App, id string, at store.Standpoint, shelf *rulebook.Shelf) error {
	r, err := a.Store.Review(ctx, id)
	if err != nil {
		return err
	}
	facts, grown := record.Facts{}, false
	if l.review != nil && l.id == id {
		if facts, grown, err = a.Store.FactsSince(ctx, id, l.facts, l.at, at); err != nil {
			return err
		}
	}
	if !grown {
		if facts, err = a.Store.Facts(ctx, id, store.WithoutTraces); err != nil {
			return err
		}
	}
	review, err := measure.Open(r, facts, r.Rules, shelf.Find, a.Kinds)
	if err == nil {
		l.id, l.at, l.shelf, l.review, l.facts, l.used = id, at, shelf, review, facts, 0
	}
	return err
}
