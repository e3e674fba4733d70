package httpapi

import (
	"encoding/json"
	"fmt"
	"net/url"
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

func (p *afternoon) says2(kind, line string) string {
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
	p.says2("transmitter", fmt.Sprintf("FREQ %.0f", hz))
	if level {
		p.says2("transmitter", "LEV "+strings.ToUpper(cell.Level))
	}
	return record.Keyed{Band: cell.Band.Name, Level: cell.Level, Mode: cell.Mode, FrequencyHz: hz}
}

// read keys into a path and logs what the meter says.
func (p *afternoon) read(k record.Keyed, path string) {
	p.t.Helper()
	p.hand(map[string]string{"wire": p.paths[path]})
	p.says2("transmitter", "KEY ON")
	defer p.says2("transmitter", "KEY OFF")
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
	p.says2("transmitter", "KEY ON")
	defer p.says2("transmitter", "KEY OFF")
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
	query := url.Values{"key": {uuid.NewString()}, "file": {taken.Name}, "band": {k.Band}, "level": {k.Level}, "mode": {string(k.Mode)}, "frequency_hz": {fmt.Sprint(k.FrequencyHz)}, "path_id": {p.paths[path]}, "draft": {string(taken.Draft)}}
	if status, body := p.call("POST", "/api/v1/reviews/"+p.id+"/measure/emissions?"+query.Encode(), taken.CSV); status >= 300 {
		p.says = append(p.says, string(body))
	}
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

// TestEveryScenarioPlayed: with care, every ruling is right and every fault cured; each fault left in
// is seen in the score.
func TestEveryScenarioPlayed(t *testing.T) {
	const load, pads, spare = "inline meter into the load", "pads into the analyzer", "spare pad into the analyzer"
	for name, with := range map[string]func(p *afternoon){
		"first-afternoon": func(p *afternoon) { p.play(true, map[string]string{"": load}, pads) },
		"loose-connector": func(p *afternoon) {
			p.hand(map[string]bool{"tighten": true})
			p.play(true, map[string]string{"": load}, pads)
		},
		"offset-twice": func(p *afternoon) {
			p.says2("analyzer", "DISP:TRAC:Y:RLEV:OFFS 0")
			p.play(true, map[string]string{"": load}, pads)
		},
		"offset-sign": func(p *afternoon) {
			p.says2("analyzer", "DISP:TRAC:Y:RLEV:OFFS 0")
			p.play(true, map[string]string{"": load}, pads)
		},
		"blown-pad":      func(p *afternoon) { p.play(true, map[string]string{"": load}, spare) },
		"meter-range":    func(p *afternoon) { p.play(true, map[string]string{"": load}, pads) },
		"overloaded":     func(p *afternoon) { p.play(true, map[string]string{"": load}, "two pads into the analyzer") },
		"sagging-supply": func(p *afternoon) { p.says2("supply", "CURR 10"); p.play(true, map[string]string{"": load}, pads) },
		"far-and-faint":  func(p *afternoon) { p.play(true, map[string]string{"": load}, "pads into the low analyzer") },
		"sent-back": func(p *afternoon) {
			p.hand(map[string]bool{"tighten": true})
			p.play(true, map[string]string{"": load}, spare)
		},
	} {
		t.Run(name, func(t *testing.T) {
			c, _ := serve(t)
			p := c.practise(name, 7)
			with(p)
			score := p.end()
			for _, r := range score.Rulings {
				t.Logf("%s %s: %s, truth %s (%s): %s", r.Box, r.Kind, r.Ruling, r.Truth, r.Says, r.Outcome)
			}
			for _, f := range score.Faults {
				t.Logf("fault %s: %s", f.ID, f.Outcome)
			}
			t.Logf("wrong %d of %d, %d key-ups, %.0f s, risked %v", score.Wrong, score.Of, score.KeyUps, score.KeyedS, score.Risked)
			for _, s := range p.says {
				t.Logf("in the way: %.300s", s)
			}
		})
	}
}
