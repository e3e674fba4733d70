package httpapi

import (
	"bytes"
	"encoding/json"
	"image"
	"image/png"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"

	"talloak/core/kinds"
	"talloak/publish"
)

// TestEditionsFollowEachOther: each after the first says what it is and what changed; what follows stands round the
// page of the older one, whose bytes do not change; a re-test of another unit branches off.
func TestEditionsFollowEachOther(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	read := func(review, text string) {
		t.Helper()
		c.ok("POST", "/api/v1/reviews/"+review+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": text}, "path_id": power}, nil)
	}
	read(r.ID, "4.9 5 5.1 h swr 1.1")
	editions := "/api/v1/reviews/" + r.ID + "/editions"
	ask := func(more ...string) map[string]string {
		out := map[string]string{"id": uuid.NewString(), "basis": c.basis(r.ID)}
		for i := 0; i+1 < len(more); i += 2 {
			out[more[i]] = more[i+1]
		}
		return out
	}
	for _, bad := range [][]string{{"kind", "correction", "changed", "x"}, {"kind", "re-test", "changed", "x"}, {"kind", "addendum"}, {"kind", "sequel"}} {
		c.refused(422, "POST", editions, ask(bad...))
	}
	var first, second EditionView
	begin := ask("kind", "first")
	c.ok("POST", editions, begin, &first)
	at := "/api/v1/editions/" + first.ID
	_, page := c.call("GET", at+"/page", nil)
	read(r.ID, "5.6 5.7 5.8 h swr 1.1")
	c.refused(409, "POST", editions, map[string]string{"id": uuid.NewString(), "basis": begin["basis"], "kind": "addendum", "changed": "x"}) // a basis is spent
	for _, bad := range [][]string{{}, {"kind", "first"}, {"kind", "correction"}, {"kind", "correction", "changed", "  "}} {
		c.refused(422, "POST", editions, ask(bad...))
	}
	said := "The meter stood on another scale than was typed."
	c.ok("POST", editions, ask("kind", "correction", "changed", said), &second)
	if second.Number != 2 || second.Kind != "correction" || second.Changed != said {
		t.Errorf("%+v", second)
	}
	if _, again := c.call("GET", at+"/page", nil); !bytes.Equal(page, again) || bytes.Contains(again, []byte(said)) {
		t.Error("the page of the first edition has changed")
	}
	_, reader := c.call("GET", "/editions/"+first.ID, nil)
	for _, want := range []string{"Superseded.", "edition 2, a correction", said, `href="/editions/` + second.ID, "5.00 W", `id="lineage"`} {
		if !strings.Contains(string(reader), want) {
			t.Errorf("the reader's page has no %q", want)
		}
	}
	_, newer := c.call("GET", "/editions/"+second.ID, nil)
	if strings.Contains(string(newer), "Superseded") || !strings.Contains(string(newer), "Correction to edition 1") || !strings.Contains(string(newer), "not told apart") && !strings.Contains(string(newer), "<b>changed</b>") {
		t.Error("the newer page does not say what it corrects")
	}
	if got := publish.Check(page, kinds.All(), nil); got.Outcome != publish.Whole {
		t.Errorf("%v", got.Lines)
	}
	for name, want := range map[string]int{"comparison": 200, "result": 200, "strip": 200} {
		status, card := c.call("GET", "/api/v1/editions/"+second.ID+"/cards/"+name+".png?size=1080x1350", nil)
		if about, err := png.DecodeConfig(bytes.NewReader(card)); status != want || err != nil || about.Width != 1080 || about.Height != 1350 {
			t.Errorf("%s: %d %+v %v", name, status, about, err)
		}
	}
	if status, why := c.call("GET", at+"/cards/comparison.png", nil); status != 404 || !bytes.Contains(why, []byte("nothing to compare")) {
		t.Errorf("%d %s", status, why)
	}
	for _, address := range []string{"/cards/x.png", "/cards/result.svg", "/plots/x.svg", "/plots/power.gif"} {
		c.refused(404, "GET", at+address, nil)
	}
	c.refused(422, "GET", at+"/cards/result.png?size=9x9", nil)
	c.refused(422, "GET", at+"/pdf?paper=a3", nil)
	var plots PlotsView
	c.ok("GET", at+"/plots", nil, &plots)
	if i := slices.IndexFunc(plots.Plots, func(p PlotView) bool { return p.Name == "power" }); i < 0 || plots.Plots[i].Title == "" {
		t.Errorf("%+v", plots)
	}
	for _, p := range plots.Plots {
		if status, svg := c.call("GET", at+"/plots/"+p.Name+".svg", nil); status != 200 || !bytes.Contains(svg, []byte("</svg>")) || !bytes.Contains(svg, []byte("@font-face")) {
			t.Errorf("%s: %d", p.Name, status)
		}
	}

	// Another unit of the model: its first edition may be a re-test, and the older one says so.
	unit := uuid.NewString()
	c.refused(422, "POST", "/api/v1/reviews/"+r.ID+"/retest", map[string]any{"id": uuid.NewString(), "same": true})
	var begun ReviewView
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/retest", map[string]any{"id": unit, "same": false}, &begun)
	if begun.Follows != r.ID || begun.Subject.Serial != "" || begun.Subject.ComeBy != "" || len(begun.Claims) != len(r.Claims) || begun.Rules.RuleBook != r.Rules.RuleBook {
		t.Errorf("%+v", begun)
	}
	var ghosts []map[string]any
	c.ok("GET", "/api/v1/reviews/"+unit+"/ghosts", nil, &ghosts)
	if len(ghosts) == 0 {
		t.Error("the older unit's figures are no ghosts")
	}
	begun.Subject.ComeBy, begun.Subject.Interest = "bought", "none"
	c.ok("PUT", "/api/v1/reviews/"+unit, map[string]any{"version": begun.Version, "subject": begun.Subject, "claims": []map[string]string{{"text": "2m 5/1", "source": "box", "read_on": "2026-05-01"}}, "rules": begun.Rules}, nil)
	read(unit, "5 5.1 5 h swr 1.1")
	var third EditionView
	c.ok("POST", "/api/v1/reviews/"+unit+"/editions", map[string]string{"id": uuid.NewString(), "basis": c.basis(unit), "kind": "re-test", "changed": "Another unit, bought in a shop."}, &third)
	var lines []LineView
	c.ok("GET", "/api/v1/reviews/"+r.ID+"/lineage", nil, &lines)
	if len(lines) != 2 || lines[1].Follows != r.ID || len(lines[0].Editions) != 2 || len(lines[1].Editions) != 1 {
		t.Errorf("%+v", lines)
	}
	_, reader = c.call("GET", "/editions/"+second.ID, nil)
	if !strings.Contains(string(reader), "Another unit, bought in a shop.") {
		t.Error("the re-test is not named round the page that it follows")
	}
	if status, _ := c.call("GET", "/editions/"+uuid.NewString(), nil); status != 404 {
		t.Errorf("no edition: %d", status)
	}
	if status, _ := c.call("GET", "/editions/x", nil); status != 404 {
		t.Errorf("no id: %d", status)
	}
}

// TestLetters: what a maker says stands word for word where it may be printed, in what is frozen after it and round
// what was frozen before; what may not is kept for the reviewer alone.
func TestLetters(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "5 h"}, "path_id": power}, nil)
	before := c.freeze(r.ID, uuid.NewString())
	at := "/api/v1/reviews/" + r.ID + "/letters"
	letter := func(more map[string]any) map[string]any {
		out := map[string]any{"id": uuid.NewString(), "kind": "denial", "from": "maker", "said_on": "2026-05-01", "text": "It cannot be our radio."}
		for k, v := range more {
			out[k] = v
		}
		return out
	}
	for _, bad := range []map[string]any{{"kind": "poem"}, {"from": "nobody"}, {"said_on": "today"}, {"text": " "}, {"text": "a\x00b"}} {
		c.refused(422, "POST", at, letter(bad))
	}
	private := letter(map[string]any{"text": "Between us: we know."})
	c.ok("POST", at, private, nil)
	printed := letter(map[string]any{"may_print": true})
	c.ok("POST", at, printed, nil)
	c.ok("POST", at, printed, nil)
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "4.9 h"}, "path_id": power}, nil)
	after := c.freeze(r.ID, uuid.NewString())
	for _, id := range []string{before.ID, after.ID} {
		_, page := c.call("GET", "/editions/"+id, nil)
		if !strings.Contains(string(page), "It cannot be our radio.") || strings.Contains(string(page), "Between us") {
			t.Errorf("edition %s: the letter is not on its page, or one that may not be printed is", id)
		}
	}
	if _, page := c.call("GET", "/api/v1/editions/"+before.ID+"/page", nil); strings.Contains(string(page), "our radio") {
		t.Error("the page of the edition before has changed")
	}
	c.ok("POST", at, map[string]any{"id": uuid.NewString(), "replaces": printed["id"], "kind": "denial", "from": "maker", "said_on": "2026-05-01", "text": ""}, nil)
	var left []json.RawMessage
	c.ok("GET", at, nil, &left)
	if len(left) != 1 || !bytes.Contains(left[0], []byte("Between us")) {
		t.Errorf("%s", left)
	}
}

// TestWhoPublishes stands in every edition from then on; an address has to be one, and the region is left as it is.
func TestWhoPublishes(t *testing.T) {
	c, _ := serve(t)
	c.ok("PUT", "/api/v1/publication", map[string]any{"itu_region": 1}, nil)
	c.refused(422, "PUT", "/api/v1/publication", map[string]any{"who": map[string]string{"address": "ftp://x"}})
	var said Publication
	c.ok("PUT", "/api/v1/publication", map[string]any{"who": map[string]string{"name": "Bench Notes", "address": "https://notes.example/"}}, &said)
	if said.Region != 1 || said.Who == nil || said.Who.Name != "Bench Notes" || said.Who.Address != "https://notes.example" {
		t.Errorf("%+v %+v", said, said.Who)
	}
}

// TestPhotographsThatAreTicked come into the edition, into its one file and its package, and no others; with them it is
// still whole for anybody who checks it.
func TestPhotographsThatAreTicked(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "5 h"}, "path_id": power}, nil)
	var picture bytes.Buffer
	if err := png.Encode(&picture, image.NewGray(image.Rect(0, 0, 8, 8))); err != nil {
		t.Fatal(err)
	}
	ticked, other := uuid.NewString(), uuid.NewString()
	for id, name := range map[string]string{ticked: "front.png", other: "drawer.png"} {
		c.ok("POST", "/api/v1/reviews/"+r.ID+"/photos?key="+id+"&about=unit&file="+name, picture.String(), nil)
	}
	var view ReviewView
	c.ok("GET", "/api/v1/reviews/"+r.ID, nil, &view)
	c.ok("PUT", "/api/v1/reviews/"+r.ID, map[string]any{"version": view.Version, "subject": view.Subject, "claims": []map[string]string{{"text": "2m 5/1", "source": "box", "read_on": "2026-05-01"}}, "rules": view.Rules, "adds": map[string]any{"ambient": "21 °C indoors", "photos": []string{ticked, uuid.NewString()}}}, nil)
	c.refused(422, "PUT", "/api/v1/reviews/"+r.ID, map[string]any{"version": view.Version + 1, "subject": view.Subject, "claims": []any{}, "rules": view.Rules, "adds": map[string]any{"photos": []string{"none"}}})
	if status, why := c.call("POST", "/api/v1/reviews/"+r.ID+"/editions", map[string]string{"id": uuid.NewString(), "basis": c.basis(r.ID)}); status != 201 {
		t.Fatalf("a photograph that is not there any more: %d %s", status, why)
	}
	var p PublishView
	c.ok("GET", "/api/v1/reviews/"+r.ID+"/publish", nil, &p)
	at := "/api/v1/editions/" + p.Editions[0].ID
	_, page := c.call("GET", at+"/file", nil)
	if !strings.Contains(string(page), ", at 21 °C indoors.") {
		t.Error("what the room was like is not in it")
	}
	if strings.Count(string(page), `src="data:image/png;base64,`) != 1 || strings.Contains(string(page), "drawer.png") {
		t.Error("the photograph that was ticked is not in the file, or another is")
	}
	_, pack := c.call("GET", at+"/package", nil)
	if !bytes.Contains(pack, []byte("photographs/001-front.png")) {
		t.Error("nor in the package")
	}
	for what, content := range map[string][]byte{"page": page, "package": pack} {
		if got := publish.Check(content, kinds.All(), nil); got.Outcome != publish.Whole {
			t.Errorf("%s: %v", what, got.Lines)
		}
	}
}
