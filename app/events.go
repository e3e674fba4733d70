package app

import "sync"

// Event tells that something was done: what kind of thing, and to which; Review is the
// review it belongs to, empty for the bench.
type Event struct {
	What   string `json:"what" enum:"review,measurement,standing,edition,kit,path,stack,baseline,bench,rule-book"`
	ID     string `json:"id"`
	Review string `json:"review"`
}

// Events hands every event to all who listen.
type Events struct {
	mu        sync.Mutex
	listeners map[chan Event]bool
}

func newEvents() *Events { return &Events{listeners: map[chan Event]bool{}} }

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
	e.mu.Lock()
	defer e.mu.Unlock()
	for c := range e.listeners {
		select {
		case c <- Event{what, id, review}:
		default:
			delete(e.listeners, c)
			close(c)
		}
	}
}

// Close ends all listening: the server is about to stop.
func (e *Events) Close() {
	e.mu.Lock()
	defer e.mu.Unlock()
	for c := range e.listeners {
		delete(e.listeners, c)
		close(c)
	}
}
