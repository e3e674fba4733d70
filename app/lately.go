package app

import (
	"context"
	"slices"
	"sync"

	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/store"
)

// lately are the reviews that people type in, each worked out as it stood: with every key a
// figure is asked for, and nothing but that key has changed since the last.
type lately struct {
	mu     sync.Mutex
	opened []*opened // the last used stands first
}

// opened is a review worked out. Its lock is its own: nobody waits for what is done with another.
type opened struct {
	mu     sync.Mutex
	id     string
	at     store.Standpoint
	shelf  *rulebook.Shelf
	review *measure.Review
	facts  record.Facts
	used   int
}

const (
	// mostUses is how often a review is asked before it is worked out anew: what it has learned
	// of the paths it was asked about is let go with it.
	mostUses = 500
	// mostOpened is how many reviews are kept worked out.
	mostOpened = 8
)

// of is the review of an id, worked out before or not; the one that was not used for longest
// makes room.
func (l *lately) of(id string) *opened {
	l.mu.Lock()
	defer l.mu.Unlock()
	at := slices.IndexFunc(l.opened, func(o *opened) bool { return o.id == id })
	if at < 0 {
		l.opened = append(l.opened, &opened{id: id})
		at = len(l.opened) - 1
	}
	o := l.opened[at]
	l.opened = slices.Insert(slices.Delete(l.opened, at, at+1), 0, o)
	l.opened = l.opened[:min(len(l.opened), mostOpened)]
	return o
}

// with does something with a review as it stands, alone: a review that is worked out may
// only be asked by one at a time.
func (a *App) with(ctx context.Context, id string, do func(*measure.Review) error) error {
	o := a.lately.of(id)
	o.mu.Lock()
	defer o.mu.Unlock()
	at, err := a.Store.Standpoint(ctx, id) // before the facts: what comes between is told by it
	if err != nil {
		return err
	}
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return err
	}
	if o.shelf != shelf || o.review == nil || o.at != at || o.used >= mostUses {
		if err := o.open(ctx, a, at, shelf); err != nil {
			return err
		}
	}
	o.used++
	return do(o.review)
}

// open works the review out anew; of one that grew, only what is new is read.
func (o *opened) open(ctx context.Context, a *App, at store.Standpoint, shelf *rulebook.Shelf) error {
	r, err := a.Store.Review(ctx, o.id)
	if err != nil {
		return err
	}
	facts, grown := record.Facts{}, false
	if o.review != nil {
		if facts, grown, err = a.Store.FactsSince(ctx, o.id, o.facts, o.at, at); err != nil {
			return err
		}
	}
	if !grown {
		if facts, err = a.Store.Facts(ctx, o.id, store.WithoutTraces); err != nil {
			return err
		}
	}
	review, err := measure.Open(r, facts, r.Rules, shelf.Find, a.Kinds)
	if err == nil {
		o.at, o.shelf, o.review, o.facts, o.used = at, shelf, review, facts, 0
	}
	return err
}
