package httpapi

import (
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"github.com/labstack/echo/v5"
)

const eventsPath = root + "/events"

// events sends everything that is done, as it is done, until the client goes: two windows
// are alike within a moment. A line now and then keeps the connection from being taken
// for dead.
func (s *Server) events(c *echo.Context) error {
	events, stop := s.app.Events.Listen()
	defer stop()
	w, flush := c.Response(), http.NewResponseController(c.Response())
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	if _, err := fmt.Fprint(w, ": here\n\n"); err != nil {
		return nil
	}
	_ = flush.Flush()
	alive := time.NewTicker(15 * time.Second)
	defer alive.Stop()
	for {
		line := ": still here\n\n"
		select {
		case <-c.Request().Context().Done():
			return nil
		case <-alive.C:
		case e, ok := <-events:
			if !ok {
				return nil // it fell behind: it connects again and asks anew
			}
			text, err := json.Marshal(e)
			if err != nil {
				return err
			}
			line = fmt.Sprintf("data: %s\n\n", text)
		}
		if _, err := fmt.Fprint(w, line); err != nil {
			return nil
		}
		_ = flush.Flush()
	}
}
