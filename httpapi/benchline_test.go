package httpapi

import (
	"net/url"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
)

// TestBenchLine: what a line says can be kept as it stands, a path of it is of the things owned, and
// no two things of the bench have one name.
func TestBenchLine(t *testing.T) {
	c, _ := serve(t)
	type said struct {
		Name  string           `json:"name"`
		Spec  map[string]any   `json:"spec"`
		Parts []map[string]any `json:"parts"`
		Says  []string         `json:"says"`
	}
	read := func(text string) (out said) {
		t.Helper()
		c.ok("GET", "/api/v1/lines/bench?text="+url.QueryEscape(text), nil, &out)
		return out
	}
	for range 2 {
		for _, text := range []string{"pad 40dB 10W 3GHz 0.5", "load 50W 1GHz", "inline meter 100-500MHz 5% 15/60W", "analyzer 100k-960M/240M-960M max +10 floor -100", "coax rg-58 1.5m", "supply 9-15V 10A"} {
			l := read(text)
			c.ok("PUT", "/api/v1/kit/"+uuid.NewString(), map[string]any{"version": 0, "name": l.Name, "spec": l.Spec}, nil)
		}
	}
	if again := read("load 50W 1GHz"); again.Name != "load 50 W 3" {
		t.Errorf("a third is called %q", again.Name)
	}
	for _, text := range []string{"meter, load", "coax, pad 40, analyzer high"} {
		l := read(text)
		c.ok("PUT", "/api/v1/paths/"+uuid.NewString(), map[string]any{"version": 0, "name": l.Name, "parts": l.Parts}, nil)
		if !strings.Contains(strings.Join(l.Says, "; "), "50 W") && !strings.Contains(strings.Join(l.Says, "; "), ", high") {
			t.Errorf("%q: %v", text, l.Says)
		}
	}
	if got := c.refused(422, "GET", "/api/v1/lines/bench?text=nothing", nil); !slices.Equal(got, []string{"text"}) {
		t.Error(got)
	}
}
