package httpapi

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/google/uuid"
)

// started is a review with claims, begun over the API.
func (c *client) started(maker, model string, claims ...string) string {
	c.t.Helper()
	id := uuid.NewString()
	var r struct {
		Version int            `json:"version"`
		Subject map[string]any `json:"subject"`
		Rules   map[string]any `json:"rules"`
	}
	c.ok("POST", "/api/v1/reviews", map[string]any{"id": id, "subject": map[string]any{"maker": maker, "model": model, "come_by": "lent", "interest": "none"}}, &r)
	lines := []map[string]any{}
	for _, text := range claims {
		lines = append(lines, map[string]any{"text": text, "source": "box", "read_on": "2026-11-01"})
	}
	c.ok("PUT", "/api/v1/reviews/"+id, map[string]any{"version": r.Version, "subject": r.Subject, "rules": r.Rules, "claims": lines}, nil)
	return id
}

// typed puts what a bench line says on the bench, and gives its id.
func (c *client) typed(text string) string {
	c.t.Helper()
	var l struct {
		Name  string           `json:"name"`
		Spec  map[string]any   `json:"spec"`
		Parts []map[string]any `json:"parts"`
	}
	c.ok("GET", "/api/v1/lines/bench?text="+url.QueryEscape(text), nil, &l)
	id := uuid.NewString()
	if l.Spec != nil {
		c.ok("PUT", "/api/v1/kit/"+id, map[string]any{"version": 0, "name": l.Name, "spec": l.Spec}, nil)
	} else {
		c.ok("PUT", "/api/v1/paths/"+id, map[string]any{"version": 0, "name": l.Name, "parts": l.Parts}, nil)
	}
	return id
}

// TestThePathsForABox: those that can count first, with the scale that is proposed.
func TestThePathsForABox(t *testing.T) {
	c, _ := serve(t)
	for _, text := range []string{"inline meter 100-200MHz 5% 6/15/60W called VHF meter", "inline meter 400-500MHz 5% called UHF meter", "load 50W 1GHz", "pad 40dB 10W 3GHz", "analyzer 9k-3G max +10"} {
		c.typed(text)
	}
	vhf, uhf := c.typed("VHF meter, load"), c.typed("UHF meter, load")
	c.typed("pad, analyzer")
	id := c.started("Hill", "H1", "2m 5/1", "70cm 4")
	var ways [][]struct {
		PathID string   `json:"path_id"`
		Counts bool     `json:"counts"`
		WhyNot string   `json:"why_not"`
		ScaleW *float64 `json:"scale_w"`
	}
	box := func(band, level string, hz float64) map[string]any {
		return map[string]any{"band": band, "level": level, "mode": "FM", "frequency_hz": hz}
	}
	c.ok("POST", "/api/v1/reviews/"+id+"/ways", map[string]any{"purpose": "power", "boxes": []any{box("2m", "High", 146.52e6), box("2m", "Low", 146.52e6), box("70cm", "High", 446e6)}}, &ways)
	if len(ways) != 3 || ways[0][0].PathID != vhf || *ways[0][0].ScaleW != 15 || *ways[1][0].ScaleW != 6 || ways[2][0].PathID != uhf || ways[0][2].Counts || ways[0][2].WhyNot == "" {
		t.Errorf("%+v", ways)
	}
}

// TestReviewsAreFound by words, band, ruling and what is unfinished, by name, and put away and brought back.
func TestReviewsAreFound(t *testing.T) {
	c, _ := serve(t)
	a, b := c.started("Wren", "W1", "2m 5/1"), c.started("Alder", "A7", "70cm 4", "2m 2")
	list := func(query string) string {
		t.Helper()
		var page struct {
			Reviews []struct {
				ID string `json:"id"`
			} `json:"reviews"`
			Next string `json:"next"`
		}
		c.ok("GET", "/api/v1/reviews?"+query, nil, &page)
		out := []string{}
		for _, r := range page.Reviews {
			out = append(out, map[string]string{a: "a", b: "b"}[r.ID])
		}
		return strings.Join(out, "") + map[bool]string{true: "…"}[page.Next != ""]
	}
	for query, want := range map[string]string{
		"": "ba", "sort=name": "ba", "q=wren": "a", "q=wren+a7": "", "band=70cm": "b", "band=2m": "ba", "verdict=fail": "", "verdict=not-examined": "ba", "unfinished=true": "ba", "since=2999-01-01": "", "until=2999-01-01": "ba", "until=2000-01-01": "", "limit=1": "b…", "band=2m&limit=1": "b…", "away=true": "",
	} {
		if got := list(query); got != want {
			t.Errorf("%s: %q, want %q", query, got, want)
		}
	}
	c.ok("PUT", "/api/v1/reviews/"+b+"/away", map[string]any{"away": true}, nil)
	if got := list("") + "|" + list("away=true"); got != "a|b" {
		t.Errorf("put away: %s", got)
	}
	c.ok("PUT", "/api/v1/reviews/"+b+"/away", map[string]any{"away": false}, nil)
	if got := list(""); got != "ba" {
		t.Errorf("brought back: %s", got)
	}
	if status, _ := c.call("PUT", "/api/v1/reviews/"+uuid.NewString()+"/away", map[string]any{"away": true}); status != 404 {
		t.Errorf("one that is not there: %d", status)
	}
	c.refused(422, "GET", "/api/v1/reviews?verdict=splendid", nil)
}

// TestPowerOnly: what a reviewer declared no part of the review is said once, and stands in nobody's way.
func TestPowerOnly(t *testing.T) {
	c, _ := serve(t)
	for _, text := range []string{"inline meter 100-500MHz 5% 60W", "load 50W 1GHz", "meter, load"} {
		c.typed(text)
	}
	id := c.started("Hill", "H1", "2m 5/2/1", "70cm 4/2/1")
	obstacles := func() string {
		t.Helper()
		var got struct {
			Obstacles []struct {
				Detail string `json:"detail"`
				Stage  string `json:"stage"`
			} `json:"obstacles"`
		}
		c.ok("GET", "/api/v1/reviews/"+id+"/publish", nil, &got)
		out := []string{}
		for _, o := range got.Obstacles {
			out = append(out, o.Stage+": "+o.Detail)
		}
		return strings.Join(out, "\n")
	}
	all := obstacles()
	if strings.Count(all, "6 boxes: no reading that counts") != 1 || strings.Count(all, "6 boxes: no sweep") != 1 || strings.Count(all, "\n") > 8 {
		t.Errorf("what many boxes lack is told in one line each:\n%s", all)
	}
	var r struct {
		Version int            `json:"version"`
		Subject map[string]any `json:"subject"`
		Rules   map[string]any `json:"rules"`
		Claims  []struct {
			Text string `json:"text"`
		} `json:"claims"`
	}
	c.ok("GET", "/api/v1/reviews/"+id, nil, &r)
	lines := []map[string]any{}
	for _, l := range r.Claims {
		lines = append(lines, map[string]any{"text": l.Text, "source": "box", "read_on": "2026-11-01"})
	}
	change := map[string]any{"version": r.Version, "subject": r.Subject, "rules": r.Rules, "claims": lines, "sheet": map[string]any{"scope": "power"}}
	c.ok("PUT", "/api/v1/reviews/"+id, change, nil)
	if got := obstacles(); strings.Contains(got, "emissions") {
		t.Errorf("emissions are no part of it:\n%s", got)
	}
	var board struct {
		Headline string `json:"headline"`
		Kinds    []struct {
			Kind, Words string
		} `json:"kinds"`
	}
	c.ok("GET", "/api/v1/reviews/"+id+"/board", nil, &board)
	if !strings.HasSuffix(board.Headline, "Emissions were not part of this review.") || strings.Contains(fmt.Sprint(board.Kinds), "not examined") && !strings.Contains(fmt.Sprint(board.Kinds), "not part of this review") {
		t.Errorf("%+v", board)
	}
	_, page := c.call("GET", "/api/v1/reviews/"+id+"/preview", nil)
	text := string(page)
	if n := strings.Count(text, "Emissions were not part of this review."); n < 2 || strings.Contains(text, "emissions were not examined") || strings.Contains(text, `id="emissions-picture"`) {
		t.Errorf("the page says it %d times, or counts boxes as missing", n)
	}
	change["sheet"] = map[string]any{"scope": "everything"}
	change["version"] = r.Version + 1
	c.refused(422, "PUT", "/api/v1/reviews/"+id, change)
}

// TestTheScratchPad over HTTP: what it offers, one worked out, and what is refused at its field.
func TestTheScratchPad(t *testing.T) {
	c, _ := serve(t)
	var calcs []struct {
		Name string `json:"name"`
	}
	if c.ok("GET", "/api/v1/scratch", nil, &calcs); len(calcs) < 15 {
		t.Errorf("%d calculations", len(calcs))
	}
	var out struct {
		Formula string `json:"formula"`
		Figures []struct{ Label, Text string }
	}
	if c.ok("POST", "/api/v1/scratch/swr", map[string]any{"typed": map[string]string{"swr": "2"}}, &out); !strings.Contains(fmt.Sprint(out.Figures), "9.54 dB") { // ARRL Handbook
		t.Errorf("%+v", out)
	}
	if got := c.refused(422, "POST", "/api/v1/scratch/swr", map[string]any{"typed": map[string]string{"swr": "0"}}); len(got) != 1 || got[0] != "swr" {
		t.Error(got)
	}
	if status, _ := c.call("POST", "/api/v1/scratch/nonsense", map[string]any{"typed": map[string]string{}}); status != 404 {
		t.Error(status)
	}
}

// TestARiskStandsInTheEdition: what was keyed briefly into a path in danger, and what had been taken already, are told
// to readers; a figure of neither is refused.
func TestARiskStandsInTheEdition(t *testing.T) {
	c, _ := serve(t)
	for _, text := range []string{"inline meter 100-500MHz 5% 60W", "load 5W 1GHz", "pad 40dB 5W 3GHz", "analyzer 9k-3G max +10"} {
		c.typed(text)
	}
	meter, pads := c.typed("meter, load"), c.typed("pad, analyzer")
	id := c.started("Hill", "H5", "2m 5")
	keyed := map[string]any{"band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "path_id": meter, "draft": map[string]any{"text": "4.9"}}
	take := func(risk any) (int, []byte) {
		keyed["id"] = uuid.NewString()
		if keyed["at_risk"] = risk; risk == nil {
			delete(keyed, "at_risk")
		}
		return c.call("POST", "/api/v1/reviews/"+id+"/measure/power", keyed)
	}
	if status, _ := take(nil); status != 422 {
		t.Errorf("a danger nobody took upon themselves: %d", status)
	}
	if status, _ := take(map[string]any{"key_s": 90, "rest_s": 60}); status != 422 {
		t.Errorf("90 s at a risk: %d", status)
	}
	if status, body := take(map[string]any{"key_s": 5, "rest_s": 60}); status != 201 {
		t.Fatalf("%d %s", status, body)
	}
	look := func(risk string) int {
		q := url.Values{"key": {uuid.NewString()}, "band": {"2m"}, "level": {"High"}, "mode": {"FM"}, "frequency_hz": {"146.52e6"}, "path_id": {pads}, "file": {"look.txt"}, "draft": {`{"name":"look 1","look":true}`}}
		if risk != "" {
			q.Set("at_risk", risk)
		}
		return c.send("/api/v1/reviews/"+id+"/measure/emissions?"+q.Encode(), "30-1600 -80 h-3-75")
	}
	for risk, want := range map[string]int{"": 422, "five": 422, "0/0": 201} {
		if got := look(risk); got != want {
			t.Errorf("a look at risk %q: %d", risk, got)
		}
	}
	_, page := c.call("GET", "/api/v1/reviews/"+id+"/preview", nil)
	for _, want := range []string{"Keyed at the reviewer’s own risk", "at most 5 s with 60 s of rest", "before the danger was seen"} {
		if !strings.Contains(string(page), want) {
			t.Errorf("the page does not say %q", want)
		}
	}
}

// send posts a text as a file and gives the status.
func (c *client) send(path, text string) int {
	c.t.Helper()
	resp, err := http.Post(c.base+path, "text/csv", strings.NewReader(text))
	if err != nil {
		c.t.Fatal(err)
	}
	defer resp.Body.Close()
	return resp.StatusCode
}
