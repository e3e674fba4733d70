package httpapi

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"net/http"
	"net/http/httptest"
	"net/url"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/board"
	"talloak/core/compute"
	"talloak/core/decision"
	"talloak/core/kinds"
	"talloak/core/kit"
	emissionskind "talloak/core/measure/emissions"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
)

type (
	sweepView  = emissionskind.SweepView
	rulingView = emissionskind.Ruling
)

// boardView is a board as a client without the kinds' own accounts reads it.
type boardView struct {
	Rules board.RulesView `json:"rules"`
	Kinds []board.Whole   `json:"kinds"`
	Cells []struct {
		Boxes []struct {
			Verdict decision.Verdict `json:"verdict"`
			Why     string           `json:"why"`
		} `json:"boxes"`
	} `json:"cells"`
}

// client talks to a real server on a real database.
type client struct {
	t    testing.TB
	base string
}

func serve(t testing.TB) (*client, *store.Store) {
	t.Helper()
	s := storetest.Open(t)
	return serveOn(t, s), s
}

// serveOn is another server on the same database.
func serveOn(t testing.TB, s *store.Store) *client {
	t.Helper()
	engine := compute.New(rulebooks.Find, rulebooks.IDs())
	files := fstest.MapFS{"index.html": {Data: []byte("<p>front</p>")}, "assets/a.js": {Data: []byte("1")}}
	a := app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs())
	a.PracticeSpeed = 300
	server := httptest.NewServer(New(a, engine, files, Options{}))
	t.Cleanup(server.Close)
	return &client{t, server.URL}
}

// call sends a request and gives status and body.
func (c *client) call(method, path string, in any) (int, []byte) {
	c.t.Helper()
	var body io.Reader
	kind := "application/json"
	switch in := in.(type) {
	case nil:
	case string:
		body, kind = strings.NewReader(in), "text/csv"
	default:
		text, err := json.Marshal(in)
		if err != nil {
			c.t.Fatal(err)
		}
		body = bytes.NewReader(text)
	}
	req, err := http.NewRequest(method, c.base+path, body)
	if err != nil {
		c.t.Fatal(err)
	}
	req.Header.Set("Content-Type", kind)
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		c.t.Fatal(err)
	}
	defer resp.Body.Close()
	out, err := io.ReadAll(resp.Body)
	if err != nil {
		c.t.Fatal(err)
	}
	return resp.StatusCode, out
}

// ok is call for what must succeed, decoded into out.
func (c *client) ok(method, path string, in, out any) {
	c.t.Helper()
	status, body := c.call(method, path, in)
	if status >= 300 {
		c.t.Fatalf("%s %s: %d %s", method, path, status, body)
	}
	if out != nil {
		if err := json.Unmarshal(body, out); err != nil {
			c.t.Fatal(err)
		}
	}
}

// refused is call for what must not, and gives the fields that were named.
func (c *client) refused(status int, method, path string, in any) []string {
	c.t.Helper()
	got, body := c.call(method, path, in)
	var p Problem
	if err := json.Unmarshal(body, &p); got != status || err != nil || p.Status != status || p.Title == "" || p.Detail == "" {
		c.t.Errorf("%s %s: %d %s, want a problem with %d", method, path, got, body, status)
	}
	fields := []string{}
	for _, f := range p.Errors {
		fields = append(fields, f.Field)
	}
	return fields
}

// bench puts a meter path and an analyzer path on the bench.
func bench(t testing.TB, s *store.Store) (power, emissions string) {
	t.Helper()
	v := func(x float64) *float64 { return &x }
	items := []record.Item{
		{ID: uuid.NewString(), Name: "meter", Spec: kit.Spec{Element: path.Element{Kind: path.Meter, MaxW: v(50)}, Meter: &reading.Meter{FromHz: v(100e6), ToHz: v(500e6), PctReading: 5}}},
		{ID: uuid.NewString(), Name: "load", Spec: kit.Spec{Element: path.Element{Kind: path.Load, MaxW: v(50)}}},
		{ID: uuid.NewString(), Name: "pads", Spec: kit.Spec{Element: path.Element{Kind: path.Attenuator, Loss: &path.Loss{FlatDB: v(50)}, MaxW: v(25)}}},
		{ID: uuid.NewString(), Name: "analyzer", Spec: kit.Spec{Element: path.Element{Kind: path.Analyzer, Ranges: []path.Range{{FromHz: 1e5, ToHz: 3e9, MaxInputDBm: v(10), NoiseFloorDBm: v(-90)}}, SHIDBm: v(80), TOIDBm: v(50)}, AccuracyDB: 1}},
	}
	paths := []record.Path{
		{ID: uuid.NewString(), Name: "to the meter", Parts: []record.PathPart{{KitID: items[0].ID}, {KitID: items[1].ID}}},
		{ID: uuid.NewString(), Name: "to the analyzer", Parts: []record.PathPart{{KitID: items[2].ID}, {KitID: items[3].ID}}},
	}
	if err := s.PutBench(t.Context(), &store.Bench{Kit: items, Paths: paths}); err != nil {
		t.Fatal(err)
	}
	return paths[0].ID, paths[1].ID
}

// begin starts a review with a claim of 5 and 1 W on 2 m.
func (c *client) begin() ReviewView {
	c.t.Helper()
	var r ReviewView
	c.ok("POST", "/api/v1/reviews", map[string]any{"id": uuid.NewString(), "subject": subject("")}, &r)
	write := map[string]any{"version": r.Version, "subject": subject("bought"), "claims": []record.Claim{{Text: "2m 5/1", Source: "box"}}, "rules": r.Rules}
	c.ok("PUT", "/api/v1/reviews/"+r.ID, write, &r)
	return r
}

func subject(comeBy string) record.Subject {
	s := record.Subject{Maker: "Test", Model: "T1", Serial: "1", ComeBy: comeBy}
	if comeBy != "" {
		s.Interest = "none"
	}
	return s
}

// traceCSV is a sweep with the carrier and one harmonic at the given level.
func traceCSV(second float64) string {
	var b strings.Builder
	b.WriteString("Frequency (MHz),Level (dBm)\n")
	for i := 0; i <= 3000; i++ {
		f, l := 30.02+float64(i)*0.5, -90.0
		switch {
		case i == 233:
			l = -13
		case i == 526:
			l = second
		}
		fmt.Fprintf(&b, "%.2f,%.1f\n", f, l)
	}
	return b.String()
}

func sweepAt(review, key, pathID string, draft map[string]any) string {
	text, _ := json.Marshal(draft)
	return fmt.Sprintf("/api/v1/reviews/%s/measure/emissions?key=%s&band=2m&level=High&mode=FM&frequency_hz=146520000&path_id=%s&file=a.csv&draft=%s", review, key, pathID, url.QueryEscape(string(text)))
}

const ruling = "/measure/emissions/ruling?band=2m&level=High&frequency_hz=146520000"

// freeze freezes what is there, as somebody who has seen it.
func (c *client) freeze(review, key string) (out EditionView) {
	c.t.Helper()
	var p PublishView
	c.ok("GET", "/api/v1/reviews/"+review+"/publish", nil, &p)
	ask := map[string]string{"id": key, "basis": p.Basis}
	if p.NextNumber > 1 {
		ask["kind"], ask["changed"] = "addendum", "More was measured."
	}
	c.ok("POST", "/api/v1/reviews/"+review+"/editions", ask, &out)
	return out
}

func (c *client) basis(review string) string {
	c.t.Helper()
	var p PublishView
	c.ok("GET", "/api/v1/reviews/"+review+"/publish", nil, &p)
	return p.Basis
}

// taken counts what was taken of a kind.
func (c *client) taken(review, kind string) int {
	c.t.Helper()
	var all []json.RawMessage
	c.ok("GET", "/api/v1/reviews/"+review+"/measure/"+kind, nil, &all)
	return len(all)
}

func sweepPath(review, key, pathID string) string {
	return sweepAt(review, key, pathID, map[string]any{"name": "wide", "rbw_hz": 100e3, "detector": "peak", "hold": "max", "modulated": "bare"})
}

// TestFromClaimToEdition goes the whole way over HTTP.
func TestFromClaimToEdition(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	r := c.begin()
	if len(r.Cells) != 2 || r.Cells[0].Claimed != 5 || r.Version != 2 {
		t.Fatalf("%+v", r)
	}
	keyUp := map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "4.9 5 5.1 h swr 1.1"}, "path_id": power}
	var read struct {
		Counts bool
		Result reading.Result
	}
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp, &read)
	if !read.Counts || read.Result.ReadingW < 4.99 || read.Result.ReadingW > 5.01 {
		t.Errorf("%+v", read)
	}
	var e struct {
		Ruling struct {
			Verdict string
			Worst   struct {
				LevelDBm float64 `json:"level_dbm"`
			}
		}
		Sweeps []struct{ ID, Taken string }
	}
	key := uuid.NewString()
	c.ok("POST", sweepPath(r.ID, key, emissions), traceCSV(-40), nil)
	c.ok("GET", "/api/v1/reviews/"+r.ID+ruling, nil, &e)
	if e.Ruling.Verdict != "fail" || e.Ruling.Worst.LevelDBm != 10 || !strings.Contains(e.Sweeps[0].Taken, "MHz") {
		t.Errorf("%+v", e)
	}
	if _, original := c.call("GET", "/api/v1/measurements/"+key+"/file", nil); string(original) != traceCSV(-40) {
		t.Error("the file does not come back as it was")
	}
	frozen := c.freeze(r.ID, uuid.NewString())
	_, page := c.call("GET", "/api/v1/editions/"+frozen.ID+"/page", nil)
	_, data := c.call("GET", "/api/v1/editions/"+frozen.ID+"/data", nil)
	if frozen.Number != 1 || len(frozen.SHA256) != 64 || !bytes.Contains(page, []byte(frozen.SHA256)) || !bytes.Contains(page, []byte("recalled from memory")) {
		t.Errorf("edition %+v", frozen)
	}

	_, file := c.call("GET", "/api/v1/editions/"+frozen.ID+"/file", nil)
	if !bytes.Equal(file, page) || bytes.Count(file, []byte("<script")) != bytes.Count(file, []byte(`<script type="application/ld+json">`)) || bytes.Contains(file, []byte("http://")) || bytes.Contains(file, []byte("src=\"/")) {
		t.Error("the one file is not the page, or asks for something")
	}
	_, text := c.call("GET", "/api/v1/editions/"+frozen.ID+"/text", nil)
	for _, want := range []string{"Edition 1, ", "2m High: 5.00 W (", "of the claim", "\nEmissions\n2m High: fails", "2m Low: not read, 1.00 W claimed: not examined", "Not tested\n- ", "are recalled from memory", "no certification", "SHA-256 of this edition's data: " + frozen.SHA256} {
		if !strings.Contains(string(text), want) {
			t.Errorf("the text has no %q:\n%s", want, text)
		}
	}
	c.refused(404, "GET", "/api/v1/editions/"+uuid.NewString()+"/text", nil)
	c.refused(404, "GET", "/api/v1/editions/"+uuid.NewString()+"/file", nil)

	// Whatever becomes of readings, sweeps and rules, the edition stays.
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/standings", map[string]any{"id": uuid.NewString(), "target_id": key, "standing": "struck", "reason": "a loose connector"}, nil)
	r.Rules.RuleBook = "house-forty-down"
	c.ok("PUT", "/api/v1/reviews/"+r.ID, map[string]any{"version": r.Version, "subject": r.Subject, "claims": []record.Claim{{Text: "2m 8"}}, "rules": r.Rules}, nil)
	_, page2 := c.call("GET", "/api/v1/editions/"+frozen.ID+"/page", nil)
	_, data2 := c.call("GET", "/api/v1/editions/"+frozen.ID+"/data", nil)
	_, text2 := c.call("GET", "/api/v1/editions/"+frozen.ID+"/text", nil)
	if !bytes.Equal(page, page2) || !bytes.Equal(data, data2) || !bytes.Equal(text, text2) {
		t.Error("a frozen edition changed")
	}
	var seen boardView
	c.ok("GET", "/api/v1/reviews/"+r.ID+"/board", nil, &seen)
	if whole := seen.Kinds[1]; whole.Kind != "emissions" || whole.Verdict != decision.NotCovered {
		t.Errorf("with its sweep struck the review is %s", whole.Verdict)
	}
}

func TestWritesAreIdempotentAndNotStale(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	r := c.begin()
	keyUp := map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "4.9"}, "path_id": power}
	for range 3 {
		c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp, nil)
	}
	key := uuid.NewString()
	for range 2 {
		c.ok("POST", sweepPath(r.ID, key, emissions), traceCSV(-80), nil)
	}
	if p, e := c.taken(r.ID, "power"), c.taken(r.ID, "emissions"); p != 1 || e != 1 {
		t.Errorf("%d readings and %d sweeps after sending each twice", p, e)
	}
	keyUp["draft"] = map[string]string{"text": "4.8"}
	if got := c.refused(409, "POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp); !slices.Equal(got, []string{"id"}) {
		t.Errorf("fields %v", got)
	}
	c.refused(409, "POST", sweepPath(r.ID, key, emissions), traceCSV(-70))
	stale := map[string]any{"version": r.Version - 1, "subject": r.Subject, "claims": []record.Claim{}, "rules": r.Rules}
	if got := c.refused(409, "PUT", "/api/v1/reviews/"+r.ID, stale); !slices.Equal(got, []string{"version"}) {
		t.Errorf("fields %v", got)
	}
	key = uuid.NewString()
	first, second := c.freeze(r.ID, key), c.freeze(r.ID, key)
	if first != second {
		t.Errorf("freezing twice under one key: %+v and %+v", first, second)
	}
}

// TestReadingKeepsItsPath: a measurement stays as it was taken, whatever becomes
// of the kit.
func TestReadingKeepsItsPath(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	keyUp := map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "4.9"}, "path_id": power}
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp, nil)
	items, err := s.Kit(t.Context(), "")
	if err != nil {
		t.Fatal(err)
	}
	for i := range items {
		if items[i].Name == "meter" {
			items[i].Spec.Meter.PctReading = 50
		}
	}
	if err := s.PutBench(t.Context(), &store.Bench{Kit: items}); err != nil {
		t.Fatal(err)
	}
	var readings []struct {
		Result struct{ Budget []struct{ Relative float64 } }
	}
	c.ok("GET", "/api/v1/reviews/"+r.ID+"/measure/power", nil, &readings)
	if got := readings[0].Result.Budget[0].Relative; got > 0.03 {
		t.Errorf("the old reading took on the new meter: %v", got)
	}
	// Sent again, it is answered as it was written, not by the kit of today.
	var again struct {
		Result struct{ Budget []struct{ Relative float64 } }
	}
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp, &again)
	if got := again.Result.Budget[0].Relative; got > 0.03 {
		t.Errorf("the same write answered with the new meter: %v", got)
	}
}

func TestRefusalsNameTheirFields(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	r := c.begin()
	readings := "/api/v1/reviews/" + r.ID + "/measure/power"
	keyUp := func(text, pathID string) map[string]any {
		return map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": text}, "path_id": pathID}
	}
	for _, x := range []struct {
		status       int
		method, path string
		in           any
		want         string
	}{
		{422, "POST", readings, keyUp("1,500", power), "text"},
		{422, "POST", readings, keyUp("13.6v", power), "text"},
		{422, "POST", sweepPath(r.ID, uuid.NewString(), power), "1e6,-20\n2e6,-20\n", "path_id"},
		{404, "POST", readings, keyUp("4.9", uuid.NewString()), ""},
		{422, "POST", readings, map[string]any{"id": "x"}, "id"},
		{404, "GET", "/api/v1/reviews/" + uuid.NewString(), nil, ""},
		{422, "GET", "/api/v1/reviews/not-an-id", nil, "path.id"},
		{422, "POST", sweepPath(r.ID, uuid.NewString(), emissions), "1e6,-20\n5e5,-20\n", "csv"},
		{404, "GET", "/api/v1/nothing", nil, ""},
		{422, "POST", "/api/v1/compute/swr", map[string]any{"swr": 0.5, "watts": 1}, "watts"},
		{422, "POST", "/api/v1/reviews/" + r.ID + "/standings", map[string]any{"id": uuid.NewString(), "target_id": uuid.NewString(), "standing": "struck", "reason": ""}, "reason"},
		{404, "POST", "/api/v1/reviews/" + r.ID + "/standings", map[string]any{"id": uuid.NewString(), "target_id": uuid.NewString(), "standing": "struck", "reason": "no such"}, ""},
		{422, "POST", "/api/v1/reviews/" + r.ID + "/editions", map[string]string{"id": uuid.NewString(), "basis": c.basis(r.ID)}, "nothing-measured"},
		{422, "GET", "/api/v1/reviews/" + r.ID + "/board?rule_book=nobody", nil, "rule_book"},
	} {
		got := strings.Join(c.refused(x.status, x.method, x.path, x.in), " ")
		if !strings.Contains(got, x.want) || (x.want == "") != (got == "") {
			t.Errorf("%s %s %v: fields %q, want %q", x.method, x.path, x.in, got, x.want)
		}
	}
	if p, e := c.taken(r.ID, "power"), c.taken(r.ID, "emissions"); p+e > 0 {
		t.Errorf("a refused write left %d readings and %d sweeps", p, e)
	}
}

// TestFactsCannotBeChanged: the database itself refuses it.
func TestFactsCannotBeChanged(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "4.9"}, "path_id": power}, nil)
	for _, sql := range []string{"UPDATE measurements SET payload = '{}'", "DELETE FROM measurements"} {
		if err := s.Exec(t.Context(), sql); err == nil || !strings.Contains(err.Error(), "append-only") {
			t.Errorf("%s: %v", sql, err)
		}
	}
}

// TestComputeIsTheSame: what the command line gives, HTTP gives byte by byte.
func TestComputeIsTheSame(t *testing.T) {
	c, _ := serve(t)
	engine := compute.New(rulebooks.Find, rulebooks.IDs())
	in := map[string]any{"rule_book": "us-amateur", "fundamental_hz": 146e6, "mean_power_w": 5, "frequency_hz": []float64{292e6}}
	text, _ := json.Marshal(in)
	want, err := engine.Run("limit", text)
	if err != nil {
		t.Fatal(err)
	}
	if _, got := c.call("POST", "/api/v1/compute/limit", in); !bytes.Equal(bytes.TrimSpace(got), want) {
		t.Errorf("%s\nwant %s", got, want)
	}
}

func TestFrontEndAddresses(t *testing.T) {
	c, _ := serve(t)
	for path, want := range map[string]int{"/": 200, "/reviews/x/power": 200, "/assets/a.js": 200, "/assets/none.js": 404} {
		if got, _ := c.call("GET", path, nil); got != want {
			t.Errorf("%s: %d, want %d", path, got, want)
		}
	}
	if got, _ := c.call("HEAD", "/", nil); got != 200 {
		t.Errorf("HEAD /: %d", got)
	}
}

// TestOtherSitesMayNotWrite: a page from elsewhere in the same browser is kept
// out; a page has no way to run a script.
func TestOtherSitesMayNotWrite(t *testing.T) {
	c, s := serve(t)
	bench(t, s)
	r := c.begin()
	for header, value := range map[string]string{"Origin": "https://elsewhere.example", "Sec-Fetch-Site": "cross-site"} {
		req, err := http.NewRequest("POST", c.base+"/api/v1/reviews/"+r.ID+"/editions", strings.NewReader(`{"id":"`+uuid.NewString()+`"}`))
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set(header, value)
		resp, err := http.DefaultClient.Do(req)
		if err != nil {
			t.Fatal(err)
		}
		_ = resp.Body.Close()
		if resp.StatusCode != 403 || resp.Header.Get("Content-Type") != "application/problem+json" {
			t.Errorf("%s: %d %s", header, resp.StatusCode, resp.Header.Get("Content-Type"))
		}
	}
	resp, err := http.Get(c.base + "/api/v1/reviews/" + r.ID + "/preview")
	if err != nil {
		t.Fatal(err)
	}
	_ = resp.Body.Close()
	if got := resp.Header.Get("Content-Security-Policy"); !strings.Contains(got, "default-src 'none'") {
		t.Errorf("policy %q", got)
	}
}

// TestPreviewWritesNothing and doubts a level left on low.
func TestPreviewWritesNothing(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	say := func(level, text string) map[string]any {
		return map[string]any{"band": "2m", "level": level, "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": text}, "path_id": power}
	}
	low := say("Low", "1 l")
	low["id"] = uuid.NewString()
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", low, nil)
	var got struct {
		Doubts []struct{ Code string }
		Counts bool
	}
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power/preview", say("High", "1.02 l"), &got)
	if len(got.Doubts) != 2 || got.Doubts[0].Code != "level-shown" || got.Doubts[1].Code != "levels-alike" {
		t.Errorf("%+v", got)
	}
	out := say("High", "4.9")
	out["frequency_hz"] = 50.1e6
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power/preview", out, &got)
	if got.Counts {
		t.Error("a reading outside the meter's range counts")
	}
	if n := c.taken(r.ID, "power"); n != 1 {
		t.Errorf("%d readings", n)
	}
}

// TestASweepIsTakenAsItWas: nothing is preset, the file's own bandwidth wins over the
// one told, columns that cannot be meant are asked about, and no sweep comes through
// a path without an analyzer.
func TestASweepIsTakenAsItWas(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	r := c.begin()
	at := func(pathID string, draft map[string]any) string {
		draft["name"] = "s"
		return sweepAt(r.ID, uuid.NewString(), pathID, draft)
	}
	nothing := map[string]any{}
	if got := c.refused(422, "POST", at(power, nothing), traceCSV(-80)); !slices.Equal(got, []string{"path_id"}) {
		t.Errorf("through a meter: %v", got)
	}
	var v sweepView
	c.ok("POST", at(emissions, nothing), traceCSV(-80), &v)
	if v.Detector != "" || v.Hold != "" || v.Modulated != "" || v.RBWHz != 0 {
		t.Errorf("preset: %+v", v)
	}
	first := v.ID
	var e rulingView
	c.ok("GET", "/api/v1/reviews/"+r.ID+ruling, nil, &e)
	if _, ok := e.Ruling.Says("not-a-sweep"); !ok || e.Ruling.Verdict == decision.Pass {
		t.Errorf("%s %+v", e.Ruling.Verdict, e.Ruling.Findings)
	}
	c.ok("POST", at(emissions, map[string]any{"rbw_hz": 100e3, "detector": "peak", "hold": "max", "modulated": "modulated"}), "RBW,30 kHz\nDetector,RMS\n"+traceCSV(-80), &v)
	if v.RBWHz != 30e3 || v.Detector != "rms" || v.Hold != "max" || v.Modulated != "modulated" {
		t.Errorf("%+v", v)
	}
	odd := strings.Replace(traceCSV(-80), "(MHz)", "(Hz)", 1)
	if got := c.refused(422, "POST", at(emissions, nothing), odd); !slices.Equal(got, []string{"unit"}) {
		t.Errorf("headed Hz, holding MHz: %v", got)
	}
	c.ok("POST", at(emissions, map[string]any{"unit": "MHz"}), odd, &v)
	if v.StopHz != 1530.02e6 {
		t.Errorf("told MHz it ends at %v", v.StopHz)
	}
	// What the file says was added to its levels and the path does not is asked about; told, it counts.
	added := "Ref Level Offset,50 dB\n" + traceCSV(-80)
	if got := c.refused(422, "POST", at(emissions, nothing), added); !slices.Equal(got, []string{"offset_db"}) {
		t.Errorf("an offset nobody told of: %v", got)
	}
	c.ok("POST", at(emissions, map[string]any{"offset_db": 0}), added, nil)
	c.ok("POST", at(emissions, nothing), strings.Replace(added, "50 dB", "0", 1), nil)
	for field, draft := range map[string]map[string]any{"detector": {"detector": "best"}, "offset_db": {"offset_db": "5o"}, "rbw_hz": {"rbw_hz": -1}, "colour": {"colour": "red"}} {
		if got := c.refused(422, "POST", at(emissions, draft), traceCSV(-80)); !slices.Equal(got, []string{field}) {
			t.Errorf("%v, want %s", got, field)
		}
	}
	word := map[string]any{"id": uuid.NewString(), "target_id": first, "standing": "explained", "reason": "x"}
	if got := c.refused(422, "POST", "/api/v1/reviews/"+r.ID+"/standings", word); !slices.Equal(got, []string{"standing"}) {
		t.Errorf("a sweep explained: %v", got)
	}
	r.Rules.SourceSWR = 0.5
	if got := c.refused(422, "PUT", "/api/v1/reviews/"+r.ID, map[string]any{"version": r.Version, "subject": r.Subject, "claims": []record.Claim{}, "rules": r.Rules}); !slices.Equal(got, []string{"rules.source_swr"}) {
		t.Errorf("an SWR under 1: %v", got)
	}
}

// TestPracticeValues, through the interface: 2.9 of 20 W are 14.5 % and -8.39 dB, 6 of 10 W
// -2.22, 8.9 of 10 W -0.51, 8 of 5 W +2.04 dB; 36, 32.8, 34.55 and 35.2 dBm are 3.98, 1.91,
// 2.85 and 3.31 W (common practice, no source, and the definition of dBm).
func TestPracticeValues(t *testing.T) {
	c, s := serve(t)
	meter, _ := bench(t, s)
	r := c.begin()
	for _, x := range []struct {
		claim, text  string
		w, percent   float64
		delta, tenth float64
	}{
		{"2m 20", "2.9", 2.9, 14.5, -8.39, 0.005}, {"2m 10", "6", 6, 60, -2.22, 0.005}, {"2m 10", "8.9", 8.9, 89, -0.51, 0.005}, {"2m 5", "8", 8, 160, 2.04, 0.005},
		{"2m 5", "36dBm", 3.981, 79.6, -0.99, 0.01}, {"2m 5", "32.8dBm", 1.905, 38.1, -4.19, 0.01}, {"2m 5", "34.55dBm", 2.851, 57.0, -2.44, 0.01}, {"2m 5", "35.2dBm", 3.311, 66.2, -1.79, 0.01},
	} {
		c.ok("GET", "/api/v1/reviews/"+r.ID, nil, &r)
		c.ok("PUT", "/api/v1/reviews/"+r.ID, map[string]any{"version": r.Version, "subject": r.Subject, "claims": []record.Claim{{Text: x.claim}}, "rules": r.Rules}, &r)
		ask := keyUp(x.text, meter)
		delete(ask, "id")
		var got struct {
			MeasuredW float64 `json:"measured_w"`
			Against   struct {
				Percent float64 `json:"percent"`
				DeltaDB float64 `json:"delta_db"`
			} `json:"against_claim"`
		}
		c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power/preview", ask, &got)
		if math.Abs(got.MeasuredW-x.w) > 0.0006 || math.Abs(got.Against.Percent-x.percent) > 0.06 || math.Abs(got.Against.DeltaDB-x.delta) > x.tenth {
			t.Errorf("%s of %s: %+v", x.text, x.claim, got)
		}
	}
}

// TestEveryKindAnswers: whatever a kind offers beside its list, it gives, of a review with nothing taken too.
func TestEveryKindAnswers(t *testing.T) {
	c, _ := serve(t)
	r := c.begin()
	studies := 0
	for _, kind := range kinds.All() {
		about := kind.About()
		at := "/api/v1/reviews/" + r.ID + "/measure/" + about.Name
		paths := []string{"", "/ruling?band=2m&level=High&mode=FM"}
		if about.Types.Study != nil {
			paths, studies = append(paths, "/study"), studies+1
		}
		if !about.WithFile {
			paths = append(paths, "/boxes")
		}
		for _, path := range paths {
			c.ok("GET", at+path, nil, nil)
		}
	}
	if studies < 2 {
		t.Errorf("%d kinds have a study", studies)
	}
	var line struct{ Kind, Says string }
	if c.ok("GET", "/api/v1/lines/power?text=j+5", nil, &line); line.Kind != "target" || !strings.Contains(line.Says, "5 W") {
		t.Errorf("%+v", line)
	}
}
