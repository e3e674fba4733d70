package httpapi

import (
	"net/url"
	"strings"
	"testing"

	"github.com/google/uuid"
)

// TestHeardNeedsNoPath: what a radio hears of itself comes through no path, after no reading; an
// edition tells it, and does not deny it. Anything else without a path is refused.
func TestHeardNeedsNoPath(t *testing.T) {
	c, s := serve(t)
	bench(t, s)
	r := c.begin()
	at := func(draft string) string {
		return "/api/v1/reviews/" + r.ID + "/measure/emissions?" + url.Values{"key": {uuid.NewString()}, "file": {"a.txt"}, "band": {"2m"}, "mode": {"FM"}, "level": {"High"}, "frequency_hz": {"146520000"}, "draft": {draft}}.Encode()
	}
	if got := c.refused(422, "POST", at(`{"name":"a","look":true}`), "144-148 -120"); strings.Join(got, " ") != "path_id" {
		t.Errorf("%v", got)
	}
	c.ok("POST", at(`{"name":"a","look":true,"state":"receive","heard":true}`), "144-148 -120 145.1-110", nil)
	_, page := c.call("GET", "/api/v1/reviews/"+r.ID+"/preview", nil)
	for _, want := range []string{"Heard in its own receiver, 2m", "receiver sensitivity, "} {
		if !strings.Contains(string(page), want) {
			t.Errorf("the page does not say %q", want)
		}
	}
	if strings.Contains(string(page), "emissions, receiver, ") {
		t.Error("the receiver is told and denied")
	}
}
