package app

import (
	"context"
	"encoding/json"
	"log/slog"
	"sync"
	"time"

	"github.com/google/uuid"
)

// Event tells that something was done: what kind of thing, and to which; Review is the
// review it belongs to, empty for the bench.
type Event struct {
	What   string `json:"what" enum:"review,measurement,standing,edition,kit,path,stack,baseline,bench,rule-book"`
	ID     string `json:"id"`
	Review string `json:"review"`
}

// told is an event on its way between servers on one database, with who tells it.
type told struct {
	Event
	By string `json:"by"`
}

// Events hands every event to all who listen, here and at other servers on the database.
type Events struct {
	mu        sync.Mutex
	listeners map[chan Event]bool
	me        string
	out       chan Event // to other servers; what is too much is dropped, and they ask anew in time
}

func newEvents() *Events {
	return &Events{listeners: map[chan Event]bool{}, me: uuid.NewString(), out: make(chan Event, 256)}
}

// Listen gives the events from now on until stop is called. Who does not keep up is
// told by a closed channel, and must ask anew.
func (e *Events) Listen() (events <-chan Event, stop func()) {
	c := make(chan Event, 64)
	e.mu.Lock()
	defer e.mu.Unlock()
	e.listeners[c] = true
	return c, func() { e.drop(c) }
}

func (e *Events) drop(c chan Event) {
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.listeners[c] {
		delete(e.listeners, c)
		close(c)
	}
}

func (e *Events) publish(what, id, review string) {
	event := Event{what, id, review}
	e.hand(event)
	select {
	case e.out <- event:
	default: // nobody takes them further
	}
}

func (e *Events) hand(event Event) {
	e.mu.Lock()
	defer e.mu.Unlock()
	for c := range e.listeners {
		select {
		case c <- event:
		default:
			delete(e.listeners, c)
			close(c)
		}
	}
}

// Close ends all listening: the server is about to stop, or does not know what it missed.
func (e *Events) Close() {
	e.mu.Lock()
	defer e.mu.Unlock()
	for c := range e.listeners {
		delete(e.listeners, c)
		close(c)
	}
}

// Follow carries events between this server and others on its database until ctx ends. Where
// the way to the database is lost, everybody who listens is told to ask anew once it is back.
func (a *App) Follow(ctx context.Context) {
	go a.tell(ctx)
	lost := false
	for ctx.Err() == nil {
		err := a.Store.Listen(ctx, func() {
			if lost {
				a.Events.Close()
			}
			lost = false
		}, a.hear)
		if ctx.Err() != nil {
			return
		}
		slog.Warn("events of other servers are not heard", "error", err)
		lost = true
		select {
		case <-ctx.Done():
		case <-time.After(2 * time.Second):
		}
	}
}

func (a *App) hear(text string) {
	var t told
	if err := json.Unmarshal([]byte(text), &t); err == nil && t.By != a.Events.me {
		a.Events.hand(t.Event)
	}
}

func (a *App) tell(ctx context.Context) {
	for {
		select {
		case <-ctx.Done():
			return
		case event := <-a.Events.out:
			text, err := json.Marshal(told{event, a.Events.me})
			if err == nil {
				err = a.Store.Notify(ctx, string(text))
			}
			if err != nil && ctx.Err() == nil {
				slog.Warn("other servers are not told", "error", err)
			}
		}
	}
}
