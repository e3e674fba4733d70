package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"net/http"
	"net/url"

	"github.com/google/uuid"
)

// places are a review of the campaign's own and the paths of the demo's bench that serve it.
type places struct{ review, power, emissions, receive string }

func (p places) at(more string) string { return "/api/v1/reviews/" + p.review + more }

// fact is a write as a browser's outbox sends it: the very same again until it is answered.
type fact struct {
	kind, key, path string
	json            any
	body            string // in place of json
	media           string
}

var onePoint = func() string {
	var out bytes.Buffer
	if err := png.Encode(&out, image.NewGray(image.Rect(0, 0, 1, 1))); err != nil {
		panic(err)
	}
	return out.String()
}()

// next is the n-th fact of a writer: every kind in turn, now and then one that must be refused.
func (p places) next(n int, last string) fact {
	key := uuid.NewString()
	keyed := map[string]any{"id": key, "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6}
	with := func(path string, draft map[string]any) map[string]any {
		keyed["path_id"], keyed["draft"] = path, draft
		return keyed
	}
	switch n % 16 {
	case 2:
		draft, _ := json.Marshal(map[string]any{"name": "look " + key, "look": true})
		q := url.Values{"key": {key}, "band": {"2m"}, "level": {"High"}, "mode": {"FM"}, "frequency_hz": {"146520000"}, "path_id": {p.emissions}, "file": {"look.txt"}, "draft": {string(draft)}}
		return fact{kind: "emissions", key: key, path: p.at("/measure/emissions?" + q.Encode()), body: "30-1600 -85 h-17-80", media: "text/csv"}
	case 4:
		keyed["level"] = ""
		return fact{kind: "sensitivity", key: key, path: p.at("/measure/sensitivity"), json: with(p.receive, map[string]any{"text": "3.4uV", "by": "sinad", "width": "narrow", "emf": false})}
	case 5, 7, 9, 12, 13, 14: // of a whole band or of the radio, through no path
		kind := map[int]string{5: "deviation", 7: "frequency", 9: "antenna", 12: "supply", 13: "battery", 14: "features"}[n%16]
		keyed["level"] = ""
		if kind == "battery" || kind == "features" {
			keyed["band"], keyed["mode"], keyed["frequency_hz"] = "", "", 0
		}
		keyed["draft"] = map[string]any{"deviation": map[string]any{"text": "+4.6 -4.3", "width": "wide", "signal": "voice-peak"}, "frequency": map[string]any{"text": "+214Hz"}, "antenna": map[string]any{"text": "144 2.1 146 1.4 148 1.9", "setup": "stock"}, "supply": map[string]any{"text": "high 1.4a 7.4v"}, "battery": map[string]any{"text": "0 8.2 1.4 30 7.8 1.4"}, "features": map[string]any{"text": "in belt clip"}}[kind]
		return fact{kind: kind, key: key, path: p.at("/measure/" + kind), json: keyed}
	case 6:
		return fact{kind: "photo", key: key, path: p.at("/photos?" + url.Values{"key": {key}, "about": {"2m 5/1"}, "file": {"a.png"}}.Encode()), body: onePoint, media: "image/png"}
	case 8:
		if last != "" {
			return fact{kind: "standing", key: key, path: p.at("/standings"), json: map[string]string{"id": key, "target_id": last, "standing": "suspect", "reason": "campaign"}}
		}
	case 10:
		book := map[string]any{"id": "own-" + key, "title": "campaign", "kind": "house", "source": "", "recalled": false, "clauses": []any{map[string]any{"when": map[string]any{}, "citation": "c", "segments": []any{map[string]any{"terms": []any{map[string]any{"relative_db": 40}}}}}}}
		return fact{kind: "rule-book", key: "own-" + key, path: "/api/v1/rule-books", json: map[string]any{"id": key, "book": book}}
	case 11:
		return fact{kind: "power", key: key, path: p.at("/measure/power"), json: with(p.power, map[string]any{"text": "nothing that can be read"})}
	}
	return fact{kind: "power", key: key, path: p.at("/measure/power"), json: with(p.power, map[string]any{"text": fmt.Sprintf("4.%d h", n%90+10)})}
}

// there lists the keys of everything that is kept, by kind. (Standings are seen on what they are
// said of, and counted by the chain of facts.)
func (p places) there() map[string]int {
	out := map[string]int{}
	get := func(path string, into any) http.Header {
		status, head, text, err := call("GET", path, fact{})
		if err != nil || status != http.StatusOK || json.Unmarshal(text, into) != nil {
			panic(fmt.Sprintf("%s: %d %v", path, status, err))
		}
		return head
	}
	for _, kind := range []string{"power", "emissions", "sensitivity", "deviation", "frequency", "antenna", "supply", "battery", "features"} {
		for from, total := 0, 1; from < total; from += 1000 {
			var page []struct{ ID string }
			head := get(p.at(fmt.Sprintf("/measure/%s?limit=1000&from=%d", kind, from)), &page)
			_, _ = fmt.Sscan(head.Get("X-Total-Count"), &total)
			for _, m := range page {
				out[kind+" "+m.ID]++
			}
		}
	}
	var photos, books []struct{ ID string }
	get(p.at("/photos"), &photos)
	get("/api/v1/rule-books", &books)
	for _, x := range photos {
		out["photo "+x.ID]++
	}
	for _, x := range books {
		if len(x.ID) == len("own-")+36 {
			out["rule-book "+x.ID]++
		}
	}
	return out
}

// prepare starts a review of the campaign's own.
func prepare() places {
	must := func(method, path string, in any, out any) {
		status, _, text, err := call(method, path, fact{json: in})
		if err != nil || status >= 300 || out != nil && json.Unmarshal(text, out) != nil {
			panic(fmt.Sprintf("%s %s: %d %s %v", method, path, status, text, err))
		}
	}
	var bench struct {
		Paths []struct{ ID, Purpose string }
		Kit   []struct{ ID, Kind string }
	}
	must("GET", "/api/v1/bench", nil, &bench)
	out := places{review: uuid.NewString(), receive: uuid.NewString()}
	for _, p := range bench.Paths {
		switch {
		case p.Purpose == "power" && out.power == "":
			out.power = p.ID
		case p.Purpose == "emissions" && out.emissions == "":
			out.emissions = p.ID
		}
	}
	var parts []map[string]string
	for _, kind := range []string{"attenuator", "signal-generator"} {
		for _, k := range bench.Kit {
			if k.Kind == kind {
				parts = append(parts, map[string]string{"kit_id": k.ID})
				break
			}
		}
	}
	must("PUT", "/api/v1/paths/"+out.receive, map[string]any{"version": 0, "name": "campaign", "parts": parts}, nil)
	must("POST", "/api/v1/reviews", map[string]any{"id": out.review, "subject": map[string]any{"model": "campaign"}}, nil)
	var r map[string]any
	must("GET", out.at(""), nil, &r)
	must("PUT", out.at(""), map[string]any{"version": 1, "subject": r["subject"], "rules": r["rules"], "claims": []map[string]string{{"text": "2m 5/1"}}}, nil)
	return out
}
