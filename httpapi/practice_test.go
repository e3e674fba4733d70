package httpapi

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/record"
	"talloak/practice"
)

// afternoon is somebody at a practice bench.
type afternoon struct {
	*client
	id     string
	review ReviewView
	paths  map[string]string // by name
	says   []string          // what stood in the way
}

func (c *client) practise(scenario string, seed uint64) *afternoon {
	c.t.Helper()
	p := &afternoon{client: c, id: uuid.NewString(), paths: map[string]string{}}
	c.ok("POST", "/api/v1/practice", map[string]any{"id": p.id, "scenario": scenario, "seed": seed}, nil)
	c.ok("GET", "/api/v1/reviews/"+p.id, nil, &p.review)
	var b BenchView
	c.ok("GET", "/api/v1/bench?practice="+p.id, nil, &b)
	for _, path := range b.Paths {
		p.paths[path.Name] = path.ID
	}
	return p
}

func (p *afternoon) hand(in any) (out app.Handled) {
	p.t.Helper()
	p.ok("POST", "/api/v1/reviews/"+p.id+"/practice/hand", in, &out)
	return out
}

func (p *afternoon) say(kind, line string) string {
	p.t.Helper()
	return p.hand(map[string]string{"kind": kind, "line": line}).Answer
}

// tune sets the radio, and its level where it is looked at.
func (p *afternoon) tune(cell NamedCell, level bool) record.Keyed {
	p.t.Helper()
	var v app.PracticeView
	p.ok("GET", "/api/v1/reviews/"+p.id+"/practice", nil, &v)
	hz := float64(cell.Band.UsualHz)
	for _, b := range v.Bands {
		if b.Band == cell.Band.Name {
			hz = b.TunedHz
		}
	}
	p.say("transmitter", fmt.Sprintf("FREQ %.0f", hz))
	if level {
		p.say("transmitter", "LEV "+strings.ToUpper(cell.Level))
	}
	return record.Keyed{Band: cell.Band.Name, Level: cell.Level, Mode: cell.Mode, FrequencyHz: hz}
}

// read keys into a path and logs what the meter says.
func (p *afternoon) read(k record.Keyed, path string) {
	p.t.Helper()
	p.hand(map[string]string{"wire": p.paths[path]})
	p.say("transmitter", "KEY ON")
	defer p.say("transmitter", "KEY OFF")
	var read app.Read
	for range 3 {
		status, body := p.call("POST", "/api/v1/paths/"+p.paths[path]+"/read", map[string]string{"text": read.Text})
		var next app.Read
		if status != 200 || json.Unmarshal(body, &next) != nil {
			p.says = append(p.says, string(body))
			return
		}
		next.By = append(read.By, next.By...)
		read = next
	}
	in := map[string]any{"id": uuid.NewString(), "band": k.Band, "level": k.Level, "mode": k.Mode, "frequency_hz": k.FrequencyHz, "path_id": p.paths[path], "draft": map[string]any{"text": read.Text, "by": read.By}}
	if status, body := p.call("POST", "/api/v1/reviews/"+p.id+"/measure/power", in); status >= 300 {
		p.says = append(p.says, string(body))
	}
}

// sweep keys into a path, lets the analyzer sweep, and takes the trace.
func (p *afternoon) sweep(k record.Keyed, path string) {
	p.t.Helper()
	p.hand(map[string]string{"wire": p.paths[path]})
	p.say("transmitter", "KEY ON")
	defer p.say("transmitter", "KEY OFF")
	status, body := p.call("POST", "/api/v1/reviews/"+p.id+"/sweeping", map[string]any{"band": k.Band, "level": k.Level, "mode": k.Mode, "frequency_hz": k.FrequencyHz, "path_id": p.paths[path], "modulated": "bare", "confirmed": true})
	var v app.SweepingView
	if status >= 300 || json.Unmarshal(body, &v) != nil {
		p.says = append(p.says, string(body))
		return
	}
	for (v.State == app.Dialling || v.State == app.Running) && v.Sweeps < 4 {
		time.Sleep(10 * time.Millisecond)
		p.ok("GET", "/api/v1/sweeping/"+v.ID, nil, &v)
	}
	var taken struct {
		Name, CSV string
		Draft     json.RawMessage
	}
	status, body = p.call("POST", "/api/v1/sweeping/"+v.ID+"/take", nil)
	if status >= 300 {
		p.says = append(p.says, v.Says+string(body))
		return
	}
	if err := json.Unmarshal(body, &taken); err != nil {
		p.t.Fatal(err)
	}
	if _, again := p.call("POST", "/api/v1/sweeping/"+v.ID+"/take", nil); !bytes.Equal(again, body) {
		p.t.Error("taken again, whose answer was lost, it is another")
	}
	query := url.Values{"key": {uuid.NewString()}, "file": {taken.Name}, "band": {k.Band}, "level": {k.Level}, "mode": {string(k.Mode)}, "frequency_hz": {fmt.Sprint(k.FrequencyHz)}, "path_id": {p.paths[path]}, "draft": {string(taken.Draft)}}
	if status, body := p.call("POST", "/api/v1/reviews/"+p.id+"/measure/emissions?"+query.Encode(), taken.CSV); status >= 300 {
		p.says = append(p.says, string(body))
	}
}

// relabel writes down the serial that stands on the radio's label.
func (p *afternoon) relabel() {
	p.t.Helper()
	var v app.PracticeView
	p.ok("GET", "/api/v1/reviews/"+p.id+"/practice", nil, &v)
	r := p.review
	r.Subject.Serial = v.Label
	claims := []record.Claim{}
	for _, c := range r.Claims {
		claims = append(claims, c.Claim)
	}
	p.ok("PUT", "/api/v1/reviews/"+p.id, map[string]any{"version": r.Version, "subject": r.Subject, "claims": claims, "rules": r.Rules}, nil)
}

func (p *afternoon) end(suspected ...string) practice.Score {
	p.t.Helper()
	var v app.PracticeView
	p.ok("POST", "/api/v1/reviews/"+p.id+"/practice/end", map[string]any{"suspected": append([]string{}, suspected...)}, &v)
	if v.Score == nil {
		p.t.Fatal("no score")
	}
	return *v.Score
}

// play goes over every band and level through the same paths.
func (p *afternoon) play(level bool, meter map[string]string, analyzer ...string) {
	p.t.Helper()
	for _, c := range p.review.Cells {
		k := p.tune(c, level)
		if m := meter[c.Band.Name]; m != "" {
			p.read(k, m)
		} else {
			p.read(k, meter[""])
		}
		for _, a := range analyzer {
			p.sweep(k, a)
		}
	}
}

// TestEveryScenarioPlayed: with care, every ruling is right and every fault cured. Without it the fault
// is missed, and for those that the bench itself betrays (an offset, a pad, a range, an overload, a
// supply, a reach) nothing is ruled wrong all the same: what cannot be known is left open.
func TestEveryScenarioPlayed(t *testing.T) {
	const load, pads, spare = "inline meter into the load", "pads into the analyzer", "spare pad into the analyzer"
	to := func(names ...string) func(p *afternoon, level bool) {
		return func(p *afternoon, level bool) { p.play(level, map[string]string{"": names[0]}, names[1]) }
	}
	for name, c := range map[string]struct {
		before         func(p *afternoon)
		care, careless func(p *afternoon, level bool)
		mayBeWrong     bool // without care
	}{
		"first-afternoon": {nil, to(load, pads), to(load, pads), true},
		"loose-connector": {func(p *afternoon) { p.hand(map[string]bool{"tighten": true}) }, to(load, pads), to(load, pads), false},
		"offset-twice":    {func(p *afternoon) { p.say("analyzer", "DISP:TRAC:Y:RLEV:OFFS 0") }, to(load, pads), to(load, pads), false},
		"offset-sign":     {func(p *afternoon) { p.say("analyzer", "DISP:TRAC:Y:RLEV:OFFS 0") }, to(load, pads), to(load, pads), false},
		"blown-pad":       {nil, to(load, spare), to(load, pads), false},
		"meter-range":     {nil, to(load, pads), to("VHF meter into the load", pads), false},
		"overloaded":      {nil, to(load, "two pads into the analyzer"), to(load, "one pad into the analyzer"), false},
		"sagging-supply":  {func(p *afternoon) { p.say("supply", "CURR 10") }, to(load, pads), to(load, pads), false},
		"far-and-faint":   {nil, to(load, "one pad into the low analyzer"), to(load, "pads into the low analyzer"), false},
		"sent-back": {func(p *afternoon) {
			p.hand(map[string]bool{"tighten": true})
			p.relabel()
		}, to(load, spare), to(load, pads), true},
	} {
		t.Run(name, func(t *testing.T) {
			client, _ := serve(t)
			p := client.practise(name, 7)
			p.say("supply", "OUTP ON")
			if c.before != nil {
				c.before(p)
			}
			c.care(p, true)
			suspected := []string{"left-on-low", "in-noise"}
			score := p.end(suspected...)
			for _, r := range score.Rulings {
				if r.Outcome != practice.Right {
					t.Errorf("%s %s: %s, in truth %s (%s): %s", r.Box, r.Kind, r.Ruling, r.Truth, r.Says, r.Outcome)
				}
			}
			for _, f := range score.Faults {
				if want := map[bool]string{true: "found and cured", false: "cured"}[slices.Contains(suspected, f.ID)]; f.Outcome != want {
					t.Errorf("with care %s is %s", f.ID, f.Outcome)
				}
			}
			if len(score.Rulings) == 0 || score.Wrong > 0 || score.KeyUps != 2*len(p.review.Cells) || len(score.Risked) > 0 || len(score.False) == 0 || len(p.says) > 0 {
				t.Errorf("%+v %q", score, p.says)
			}
			p = client.practise(name, 7)
			p.say("supply", "OUTP ON")
			c.careless(p, c.before == nil && name != "first-afternoon" || name == "loose-connector")
			score = p.end()
			missed := 0
			for _, f := range score.Faults {
				if f.Outcome == "missed" {
					missed++
				}
			}
			if missed == 0 {
				t.Errorf("without care %+v", score.Faults)
			}
			if !c.mayBeWrong && score.Wrong > 0 {
				t.Errorf("without care %d are ruled wrong: %+v", score.Wrong, score.Rulings)
			}
		})
	}
}

// TestPracticeIsNoReview: it never becomes an edition, stands in no list of reviews, its bench is its own,
// and what breaks on it stays broken over the server's end.
func TestPracticeIsNoReview(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	p := c.practise("first-afternoon", 1)
	k := p.tune(p.review.Cells[0], true)
	p.read(k, "inline meter into the load")
	var list ReviewPage
	c.ok("GET", "/api/v1/reviews", nil, &list)
	if len(list.Reviews) != 0 {
		t.Errorf("it is listed: %+v", list.Reviews)
	}
	status, body := c.call("POST", "/api/v1/reviews/"+p.id+"/editions", map[string]string{"id": uuid.NewString(), "basis": c.basis(p.id), "kind": "first"})
	if status != 422 || !strings.Contains(string(body), "never becomes an edition") {
		t.Errorf("an edition of it: %d %s", status, body)
	}
	c.refused(422, "POST", "/api/v1/reviews/"+p.id+"/retest", map[string]any{"id": uuid.NewString(), "same": false, "changes": ""})
	draft := map[string]string{"text": "4.9"}
	real := c.begin()
	for review, path := range map[string]string{p.id: power, real.ID: p.paths["inline meter into the load"]} {
		c.refused(422, "POST", "/api/v1/reviews/"+review+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "path_id": path, "draft": draft})
	}
	if kit := c.bench().Kit; len(kit) != 4 {
		t.Errorf("the real bench has %d things", len(kit))
	}
	// Straight into the analyzer it breaks, and is broken for whoever serves it next.
	var b BenchView
	c.ok("GET", "/api/v1/bench?practice="+p.id, nil, &b)
	at := ""
	for _, k := range b.Kit {
		if k.Kind == "analyzer" {
			at = k.ID
		}
	}
	var bare PathView
	c.ok("PUT", "/api/v1/paths/"+uuid.NewString(), map[string]any{"version": 0, "name": "straight in", "socket": "antenna", "parts": []map[string]string{{"kit_id": at, "setting": ""}}, "applied_offset_db": 0, "retired": false}, &bare)
	p.hand(map[string]string{"wire": bare.ID})
	if got := p.hand(map[string]string{"kind": "transmitter", "line": "KEY ON"}); len(got.View.Seen.Broken) != 1 {
		t.Errorf("5 W into 100 mW breaks %v", got.View.Seen.Broken)
	}
	p.say("transmitter", "KEY OFF")
	p.say("analyzer", "DISP:TRAC:Y:RLEV:OFFS 12")
	next := serveOn(t, s)
	var v app.PracticeView
	next.ok("GET", "/api/v1/reviews/"+p.id+"/practice", nil, &v)
	var offset app.Handled
	next.ok("POST", "/api/v1/reviews/"+p.id+"/practice/hand", map[string]string{"kind": "analyzer", "line": "DISP:TRAC:Y:RLEV:OFFS?"}, &offset)
	if len(v.Seen.Broken) != 1 || v.Seen.KeyUps != 2 || v.Seen.Level != "HIGH" || v.Wired != bare.ID || !strings.HasPrefix(offset.Answer, "1.2") {
		t.Errorf("a server later: %+v", v)
	}
	if score := p.end(); len(score.Risked) != 1 || score.Faults[0].Outcome != "cured" {
		t.Errorf("%+v", score)
	}
	c.refused(422, "POST", "/api/v1/practice", map[string]any{"id": uuid.NewString(), "scenario": "x"})
	c.refused(422, "POST", "/api/v1/reviews/"+p.id+"/practice/hand", map[string]string{"wire": power})
}
