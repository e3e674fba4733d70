package httpapi

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"math"
	"net/http"
	"slices"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/kit"
	powerkind "talloak/core/measure/power"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/touchstone"
	"talloak/core/wiring"
)

// pad writes a pad and gives it as it was answered.
func (c *client) pad(name string, db, maxW float64) KitView {
	c.t.Helper()
	spec := kit.Typical(kit.Attenuator)
	spec.Element.Loss.FlatDB, spec.Element.MaxW = &db, &maxW
	var out KitView
	c.ok("PUT", "/api/v1/kit/"+uuid.NewString(), KitWrite{Name: name, Spec: spec}, &out)
	return out
}

func (c *client) item(name string, spec kit.Spec) KitView {
	c.t.Helper()
	var out KitView
	c.ok("PUT", "/api/v1/kit/"+uuid.NewString(), KitWrite{Name: name, Spec: spec}, &out)
	return out
}

func analyzerSpec(survives float64) kit.Spec {
	s := kit.Typical(kit.Analyzer)
	s.Element.Ranges[0].MaxInputDBm = &survives
	s.Element.Ranges[0].ToHz = 3e9
	return s
}

func (c *client) keep(name string, parts ...record.PathPart) PathView {
	c.t.Helper()
	var out PathView
	c.ok("PUT", "/api/v1/paths/"+uuid.NewString(), map[string]any{"version": 0, "name": name, "socket": "antenna", "parts": parts}, &out)
	return out
}

func (c *client) bench() (out BenchView) {
	c.t.Helper()
	c.ok("GET", "/api/v1/bench", nil, &out)
	return out
}

func stairs(c *client, ask map[string]any) wiring.Staircase {
	c.t.Helper()
	ask["frequency_hz"] = 146.52e6
	var out wiring.Staircase
	c.ok("POST", "/api/v1/staircase", ask, &out)
	return out
}

// TestKitIsTypedAndRefusedAtTheField: every kind can begin from its typical
// values; what is wrong is named and nothing of it is written.
func TestKitIsTypedAndRefusedAtTheField(t *testing.T) {
	c, _ := serve(t)
	var kinds KindsView
	c.ok("GET", "/api/v1/bench/kinds", nil, &kinds)
	for _, k := range kinds.Kinds {
		got := c.item("a "+string(k.Kind), k.Typical)
		if got.Kind != k.Kind || got.Version != 1 || got.OnPath != k.OnPath || got.Spec.Element.Kind != k.Kind.PathKind() {
			t.Errorf("%+v", got)
		}
	}
	pad := c.pad("pad", 10, 2)
	oneport := "# MHz S DB R 50\n100 -20 0\n"
	off := "# MHz S DB R 50\n700 -30 0 -20 0 -20 0 -30 0\n1000 -30 0 -19.5 0 -19.5 0 -30 0\n"
	for want, change := range map[string]func(*kit.Spec){
		"spec.element.to_hz": func(s *kit.Spec) { lo, hi := 3e9, 1e6; s.Element.FromHz, s.Element.ToHz = &lo, &hi },
		"spec.element.max_w": func(s *kit.Spec) { z := 0.0; s.Element.MaxW = &z },
		"spec.element.loss.table[1].frequency_hz": func(s *kit.Spec) {
			s.Element.Loss = &path.Loss{Table: []path.LossPoint{{FrequencyHz: 2e6}, {FrequencyHz: 1e6}}}
		},
		"spec.element.loss.touchstone": func(s *kit.Spec) { s.Element.Loss = &path.Loss{Touchstone: &oneport} },
	} {
		w := KitWrite{Version: pad.Version, Name: pad.Name, Spec: pad.Spec}
		change(&w.Spec)
		if got := c.refused(422, "PUT", "/api/v1/kit/"+pad.ID, w); !slices.Equal(got, []string{want}) {
			t.Errorf("refused %v, want %s", got, want)
		}
	}
	w := KitWrite{Version: pad.Version, Name: pad.Name, Spec: pad.Spec}
	w.Spec.Element.Loss = &path.Loss{Touchstone: &off}
	if got := c.refused(422, "PUT", "/api/v1/kit/"+pad.ID+"?carrier_hz=146520000", w); !slices.Equal(got, []string{"spec.element.loss.touchstone"}) {
		t.Errorf("a file that misses the carrier: %v", got)
	}
	var filed KitView
	c.ok("PUT", "/api/v1/kit/"+pad.ID+"?carrier_hz=800000000", w, &filed)
	if len(filed.Curve) != curvePoints || filed.Version != 2 {
		t.Errorf("%d points, version %d", len(filed.Curve), filed.Version)
	}
	w.Name = " "
	w.Version = 1
	if got := c.refused(422, "PUT", "/api/v1/kit/"+pad.ID, w); got[0] != "name" {
		t.Errorf("%v", got)
	}
	w.Name = "stale"
	if status, _ := c.call("PUT", "/api/v1/kit/"+pad.ID, w); status != 409 {
		t.Errorf("a stale write: %d", status)
	}
	// Its file comes back as it was dropped; a cable's loss is written as one.
	if _, text := c.call("GET", "/api/v1/kit/"+pad.ID+"/touchstone", nil); string(text) != off {
		t.Errorf("%s", text)
	}
	cable := c.item("jumper", kit.Typical(kit.Cable))
	_, text := c.call("GET", "/api/v1/kit/"+cable.ID+"/touchstone", nil)
	n, err := touchstone.Parse(string(text), 0)
	if err != nil || n.Ports != 2 || n.Points() < 400 {
		t.Errorf("%v %s", err, text)
	}
	load := c.item("load", kit.Typical(kit.Load))
	c.refused(422, "GET", "/api/v1/kit/"+load.ID+"/touchstone", nil)
}

func TestRetireNotDelete(t *testing.T) {
	c, _ := serve(t)
	used, idle := c.pad("used", 40, 25), c.pad("idle", 10, 2)
	c.keep("p", record.PathPart{KitID: used.ID})
	if status, body := c.call("DELETE", "/api/v1/kit/"+used.ID+"?version=1", nil); status != 409 || !bytes.Contains(body, []byte("Retire it")) {
		t.Errorf("%d %s", status, body)
	}
	if status, _ := c.call("DELETE", "/api/v1/kit/"+idle.ID+"?version=1", nil); status != 204 {
		t.Errorf("%d", status)
	}
	var retired, back KitView
	c.ok("PUT", "/api/v1/kit/"+used.ID, KitWrite{Version: 1, Name: "used", Spec: used.Spec, Retired: true}, &retired)
	c.ok("PUT", "/api/v1/kit/"+used.ID, KitWrite{Version: 2, Name: "used", Spec: used.Spec}, &back)
	if retired.RetiredAt == nil || back.RetiredAt != nil || back.Version != 3 {
		t.Errorf("%+v %+v", retired, back)
	}
}

// endless gives blanks up to a number of bytes and counts them; the client may
// still be reading it when the answer is there.
type endless struct {
	sent atomic.Int64
	most int64
}

func (e *endless) Read(p []byte) (int, error) {
	if e.sent.Load() >= e.most {
		return 0, io.EOF
	}
	e.sent.Add(int64(len(p)))
	for i := range p {
		p[i] = ' '
	}
	return len(p), nil
}

// TestPathsNameWhatIsOwned: what a path names and is not there is refused where
// it is named, and nothing is written.
func TestPathsNameWhatIsOwned(t *testing.T) {
	c, _ := serve(t)
	pad := c.pad("pad", 40, 25)
	nobody := uuid.NewString()
	for field, parts := range map[string][]record.PathPart{
		"parts[1].kit_id":   {{KitID: pad.ID}, {KitID: nobody}},
		"parts[0].stack_id": {{KitID: pad.ID, StackID: nobody}},
	} {
		if got := c.refused(422, "PUT", "/api/v1/paths/"+nobody, map[string]any{"version": 0, "name": "p", "parts": parts}); !slices.Equal(got, []string{field}) {
			t.Errorf("%v, want %s", got, field)
		}
	}
	if got := c.refused(422, "POST", "/api/v1/staircase", map[string]any{"frequency_hz": 146e6, "draft": map[string]any{"name": "p", "parts": []record.PathPart{{KitID: pad.ID}}, "supply": map[string]any{"kit_id": pad.ID, "set_v": 12}}}); !slices.Equal(got, []string{"supply.kit_id"}) {
		t.Errorf("%v", got)
	}
	if got := c.bench().Paths; len(got) > 0 {
		t.Errorf("written all the same: %+v", got)
	}
}

// TestTooLargeIsRefusedBeforeItIsRead: 50 MB are not read to be refused.
func TestTooLargeIsRefusedBeforeItIsRead(t *testing.T) {
	c, _ := serve(t)
	for _, at := range []struct{ method, path string }{{"PUT", "/api/v1/kit/" + uuid.NewString()}, {"POST", "/api/v1/bench/import"}, {"POST", "/api/v1/paths/" + uuid.NewString() + "/stacks"}} {
		source := &endless{most: 50 << 20}
		req, err := http.NewRequest(at.method, c.base+at.path, source)
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("Content-Type", "application/json")
		resp, err := http.DefaultClient.Do(req)
		if err != nil {
			t.Fatalf("%s: %v", at.path, err)
		}
		text, _ := io.ReadAll(resp.Body)
		_ = resp.Body.Close()
		if resp.StatusCode != http.StatusRequestEntityTooLarge || !bytes.Contains(text, []byte("4 MiB")) {
			t.Errorf("%s: %d %s", at.path, resp.StatusCode, text)
		}
		if sent := source.sent.Load(); sent > 16<<20 {
			t.Errorf("%s: %d MB were taken before it was refused", at.path, sent>>20)
		}
	}
}

// TestDangerAndItsCure: an analyzer straight on a radio is a danger; the bench
// knows what cures it, and the cure taken is safe.
func TestDangerAndItsCure(t *testing.T) {
	c, _ := serve(t)
	analyzer := c.item("analyzer", analyzerSpec(10))
	pad := c.pad("power pad", 40, 25)
	old := c.pad("burnt pad", 40, 50)
	c.ok("PUT", "/api/v1/kit/"+old.ID, KitWrite{Version: 1, Name: "burnt pad", Spec: old.Spec, Retired: true}, nil)
	draft := map[string]any{"name": "straight", "parts": []record.PathPart{{KitID: analyzer.ID}}}
	levels := []map[string]any{{"name": "High", "w": 5}, {"name": "Low", "w": 1}}
	got := stairs(c, map[string]any{"draft": draft, "levels": levels})
	if got.Safe || got.Problems[0].Code != "over-input" || len(got.Cures) != 1 || got.Cures[0].Detail != "power pad in front of analyzer" {
		t.Fatalf("%+v %+v", got.Problems, got.Cures)
	}
	step := got.Cures[0].Steps[0]
	if step.Do != "insert" || step.Item != pad.ID {
		t.Errorf("%+v", step)
	}
	kept := c.keep("cured", record.PathPart{KitID: step.Item, Setting: step.Setting}, record.PathPart{KitID: analyzer.ID})
	got = stairs(c, map[string]any{"path_id": kept.ID, "levels": levels})
	// 5 W and 1 dB are 37.99 dBm; behind 40 dB -2.01, 12.01 dB under +10.
	if !got.Safe || math.Abs(*got.HeadroomDB-12.0103) > 1e-3 || kept.Purpose != "emissions" || got.Socket != "antenna" {
		t.Errorf("%+v", got)
	}
	am := stairs(c, map[string]any{"path_id": kept.ID, "levels": levels, "mode": "AM"})
	if math.Abs(am.PeakDB-6.0206) > 1e-3 || math.Abs(*am.HeadroomDB-(12.0103-6.0206)) > 1e-3 {
		t.Errorf("peaks %v, headroom %v", am.PeakDB, *am.HeadroomDB)
	}
	c.refused(422, "POST", "/api/v1/staircase", map[string]any{"frequency_hz": 1e6})
	c.refused(422, "PUT", "/api/v1/paths/"+uuid.NewString(), map[string]any{"version": 0, "name": "", "parts": []record.PathPart{{KitID: pad.ID, Setting: "none such"}}})
	c.refused(422, "PUT", "/api/v1/paths/"+uuid.NewString(), map[string]any{"version": 0, "name": "behind an end", "parts": []record.PathPart{{KitID: analyzer.ID}, {KitID: pad.ID}}})
}

// TestDCSideOfAPath: a supply over the radio's maximum blocks the path.
func TestDCSideOfAPath(t *testing.T) {
	c, _ := serve(t)
	supply := c.item("supply", kit.Typical(kit.Supply))
	load := kit.Typical(kit.Load)
	w := 50.0
	load.Element.MaxW = &w
	draft := map[string]any{"name": "dc", "parts": []record.PathPart{{KitID: c.item("load", load).ID}}, "supply": map[string]any{"kit_id": supply.ID, "set_v": 13.8}}
	got := stairs(c, map[string]any{"draft": draft, "levels": []map[string]any{{"w": 25, "a": 5}, {"w": 0}}, "radio_max_v": 15})
	if !got.Safe || len(got.DC.Rows) != 1 || got.DC.Rows[0].Level != "High" || math.Abs(*got.DC.Rows[0].RadioV-13.7) > 1e-9 || got.SupplyName != "supply" {
		t.Errorf("%+v", got.DC)
	}
	got = stairs(c, map[string]any{"draft": draft, "levels": []map[string]any{}, "radio_max_v": 8.4})
	if got.Safe || got.DC.Problems[0].Code != "over-voltage" {
		t.Errorf("%+v", got.DC)
	}
}

func TestPadAdviceMakesAPath(t *testing.T) {
	c, _ := serve(t)
	analyzer := c.item("analyzer", analyzerSpec(10))
	c.pad("small", 10, 2)
	power := c.pad("power", 40, 25)
	var got PadsFound
	c.ok("POST", "/api/v1/pad-advice", map[string]any{"analyzer": record.PathPart{KitID: analyzer.ID}, "frequency_hz": 146.52e6, "levels": []map[string]any{{"name": "High", "w": 5}}}, &got)
	if best := got.Choices[0]; !best.Fits || len(best.Parts) != 2 || best.Parts[0].KitID != power.ID || best.Parts[1].KitID != analyzer.ID || *best.RoomDB != min(*best.HeadroomDB, *best.TightestDB) || best.Short || got.Asked == "" {
		t.Errorf("%+v", got.Choices)
	}
	c.refused(422, "POST", "/api/v1/pad-advice", map[string]any{"analyzer": record.PathPart{KitID: power.ID}, "frequency_hz": 146.52e6})
}

// TestStackCountsInLaterReadingsOnly: a stack read with and without replaces the
// printed sum from then on; the reading before it stands as it was.
func TestStackCountsInLaterReadingsOnly(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	p, err := s.Path(t.Context(), power)
	if err != nil {
		t.Fatal(err)
	}
	pad := c.pad("coax, so it says", 0.4, 50)
	var wired PathView
	c.ok("PUT", "/api/v1/paths/"+power, map[string]any{"version": p.Version, "name": p.Name, "parts": append([]record.PathPart{{KitID: pad.ID}}, p.Parts...)}, &wired)
	r := c.begin()
	read := func() (w float64) {
		t.Helper()
		var got powerkind.Reading
		c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "4"}, "path_id": power}, &got)
		return *got.Result.AtConnectorW
	}
	before := read()
	stack := map[string]any{"id": uuid.NewString(), "version": wired.Version, "first": 0, "last": 0, "measured_on": "2026-11-25", "meter": record.PathPart{KitID: p.Parts[0].KitID},
		"points": []record.StackPoint{{FrequencyHz: 146e6, Without: "5 5.02", With: "4"}}}
	var found StackFound
	c.ok("POST", "/api/v1/paths/"+power+"/stacks/preview", stack, &found)
	if math.Abs(found.Table[0].DB-0.9778) > 1e-3 || found.Path != nil {
		t.Errorf("%+v", found)
	}
	if read() != before {
		t.Error("a preview counted")
	}
	round := maps.Clone(stack)
	round["last"] = 1 // the meter that is read
	if got := c.refused(422, "POST", "/api/v1/paths/"+power+"/stacks", round); !slices.Equal(got, []string{"meter"}) {
		t.Errorf("%v", got)
	}
	c.ok("POST", "/api/v1/paths/"+power+"/stacks", stack, &found)
	c.ok("POST", "/api/v1/paths/"+power+"/stacks", stack, &found)
	if found.Path == nil || found.Path.Version != wired.Version+1 || found.Path.Parts[0].StackID != stack["id"] {
		t.Errorf("%+v", found.Path)
	}
	if after := read(); math.Abs(before-4*1.0965) > 1e-3 || math.Abs(after-5.01) > 1e-3 {
		t.Errorf("before %v, after %v", before, after)
	}
	var all []powerkind.Reading
	c.ok("GET", "/api/v1/reviews/"+r.ID+"/measure/power", nil, &all)
	if *all[0].Result.AtConnectorW != before {
		t.Error("the older reading changed")
	}
	got := stairs(c, map[string]any{"path_id": power, "levels": []map[string]any{{"name": "High", "w": 5}}})
	if len(got.Runs) != 1 || !got.Runs[0].Applies || math.Abs(*got.Runs[0].PrintedDB-0.4) > 1e-9 || math.Abs(*got.Runs[0].MeasuredDB-0.9778) > 1e-3 {
		t.Errorf("%+v", got.Runs)
	}
	stack["id"], stack["last"] = uuid.NewString(), 2
	c.refused(422, "POST", "/api/v1/paths/"+power+"/stacks", stack)
	stack["last"] = 9
	c.refused(422, "POST", "/api/v1/paths/"+power+"/stacks", stack)
	// The path as a file: its loss where it was measured is the measured one.
	_, text := c.call("GET", "/api/v1/paths/"+power+"/touchstone", nil)
	n, err := touchstone.Parse(string(text), 0)
	if err != nil {
		t.Fatalf("%v %s", err, text)
	}
	if db, ok := n.LossAt(146.5e6); !ok || math.Abs(float64(db)-0.9778) > 0.02 {
		t.Errorf("%v dB in the file", db)
	}
}

// TestBaselineIsOfferedNotApplied: two meters 0.4 dB apart; only accepting takes
// it out of later readings, and the budget says so.
func TestBaselineIsOfferedNotApplied(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	p, _ := s.Path(t.Context(), power)
	meterID := p.Parts[0].KitID
	other := c.item("other meter", kit.Typical(kit.ThroughMeter))
	base := map[string]any{"id": uuid.NewString(), "measured_on": "2026-11-25", "meters": []record.PathPart{{KitID: meterID}, {KitID: other.ID}},
		"rows": []record.BaselineRow{{Transmitter: "handheld", FrequencyHz: 146e6, Readings: []string{"37.4 dBm", "37.0 dBm"}}, {Transmitter: "handheld, low", FrequencyHz: 146e6, Readings: []string{"30.5 dBm", "30.1 dBm"}}}}
	var view BaselineView
	c.ok("POST", "/api/v1/baselines", base, &view)
	if math.Abs(*view.Meters[0].OffsetDB-0.4) > 1e-9 || math.Abs(*view.Meters[0].SpreadDB-0.1*math.Sqrt(2.0/12)) > 1e-9 { // what both displays resolve
		t.Errorf("%+v", view.Meters)
	}
	r := c.begin()
	read := func() powerkind.Reading {
		t.Helper()
		var got powerkind.Reading
		c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power/preview", map[string]any{"band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "5"}, "path_id": power}, &got)
		return got
	}
	if got := read(); math.Abs(*got.Result.AtConnectorW-5) > 1e-9 {
		t.Errorf("applied without being accepted: %v", *got.Result.AtConnectorW)
	}
	var accepted KitView
	c.ok("POST", "/api/v1/baselines/"+view.ID+"/accept", map[string]any{"kit_id": meterID, "version": 1}, &accepted)
	got := read()
	last := got.Result.Budget[len(got.Result.Budget)-1]
	if math.Abs(*got.Result.AtConnectorW-5/1.09648) > 1e-4 || last.Source != "baseline of 2026-11-25 against other meter, +0.40 dB taken out" {
		t.Errorf("%v %+v", *got.Result.AtConnectorW, last)
	}
	// Both taken out, they would differ by as much the other way round.
	if got := c.refused(422, "POST", "/api/v1/baselines/"+view.ID+"/accept", map[string]any{"kit_id": other.ID, "version": other.Version}); !slices.Equal(got, []string{"kit_id"}) {
		t.Errorf("%v", got)
	}
	var all []BaselineView
	c.ok("GET", "/api/v1/baselines", nil, &all)
	if len(all) != 1 || all[0].Rows[1].Readings[1] != "30.1 dBm" {
		t.Errorf("%+v", all)
	}
	base["id"], base["rows"] = uuid.NewString(), []record.BaselineRow{{Transmitter: "one", FrequencyHz: 146e6, Readings: []string{"5", "4"}}}
	c.ok("POST", "/api/v1/baselines", base, &view)
	c.refused(422, "POST", "/api/v1/baselines/"+view.ID+"/accept", map[string]any{"kit_id": meterID, "version": 2})
	load := p.Parts[1].KitID
	c.refused(422, "POST", "/api/v1/baselines/"+view.ID+"/accept", map[string]any{"kit_id": load, "version": 1})
	base["meters"] = []record.PathPart{{KitID: load}}
	c.refused(422, "POST", "/api/v1/baselines", base)
	base["meters"] = []record.PathPart{{KitID: uuid.NewString()}}
	c.refused(422, "POST", "/api/v1/baselines", base)
	if status, _ := c.call("POST", "/api/v1/baselines/"+uuid.NewString()+"/accept", map[string]any{"kit_id": meterID, "version": 2}); status != 404 {
		t.Errorf("%d", status)
	}
}

// TestExportIsImported: a bench goes out and into an empty place whole; a second
// time it changes nothing; a spoilt file writes nothing.
func TestExportIsImported(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	p, _ := s.Path(t.Context(), power)
	c.ok("POST", "/api/v1/paths/"+power+"/stacks", map[string]any{"id": uuid.NewString(), "version": p.Version, "first": 0, "last": 0, "measured_on": "2026-11-25",
		"touchstone": "# MHz S DB R 50\n100 -30 0 -0.2 0 -0.2 0 -30 0\n200 -30 0 -0.3 0 -0.3 0 -30 0\n", "tolerance_db": 0.1}, nil)
	retired := c.bench().Kit[1]
	c.ok("PUT", "/api/v1/kit/"+retired.ID, KitWrite{Version: 1, Name: retired.Name, Spec: retired.Spec, Retired: true}, nil)
	_, text := c.call("GET", "/api/v1/bench/export", nil)
	var file app.BenchFile
	if err := json.Unmarshal(text, &file); err != nil || len(file.Kit) != 4 || len(file.Paths) != 2 || len(file.Stacks) != 1 {
		t.Fatalf("%v %s", err, text)
	}
	empty, _ := serve(t)
	var found app.ImportFound
	empty.ok("POST", "/api/v1/bench/import?try=true", json.RawMessage(text), &found)
	if len(found.Added) != 6 || found.Written {
		t.Errorf("%+v", found)
	}
	if len(empty.bench().Kit) != 0 {
		t.Error("a try wrote something")
	}
	empty.ok("POST", "/api/v1/bench/import", json.RawMessage(text), &found)
	if !found.Written {
		t.Errorf("%+v", found)
	}
	levels := []map[string]any{{"name": "High", "w": 5}}
	a, b := stairs(c, map[string]any{"path_id": power, "levels": levels}), stairs(empty, map[string]any{"path_id": power, "levels": levels})
	if *a.Multiples.TotalLossDB[0] != *b.Multiples.TotalLossDB[0] || len(b.Runs) != 1 {
		t.Errorf("%v and %v", a.Multiples.TotalLossDB, b.Multiples.TotalLossDB)
	}
	empty.ok("POST", "/api/v1/bench/import", json.RawMessage(text), &found)
	if found.Same != 6 || len(found.Added)+len(found.Changed) != 0 {
		t.Errorf("again: %+v", found)
	}
	// Into the bench it came from, though the measurement was made there.
	c.ok("POST", "/api/v1/bench/import", json.RawMessage(text), &found)
	if found.Same != 6 {
		t.Errorf("at home: %+v", found)
	}
	if got := c.refused(422, "POST", "/api/v1/bench/import", json.RawMessage(strings.Replace(string(text), `"db": 0.2`, `"db": 0.25`, 1))); got[0] != "stacks[0].id" {
		t.Errorf("a measurement was to be changed: %v", got)
	}
	// One item goes alone, and comes back changed.
	_, one := c.call("GET", "/api/v1/bench/export?kit_id="+file.Kit[2].ID, nil)
	empty.ok("POST", "/api/v1/bench/import", json.RawMessage(strings.Replace(string(one), `"pads"`, `"pads, painted"`, 1)), &found)
	if !slices.Equal(found.Changed, []string{"pads, painted"}) {
		t.Errorf("%+v", found)
	}
	for spoil, want := range map[string][2]string{
		"kit[0].spec.element.max_w":   {`"max_w": 50`, `"max_w": 0`},
		"format":                      {app.BenchFormat, "something else"},
		"kit[0].spec.nobody":          {`"spec": {`, `"spec": {"nobody": 1,`},
		"kit[0].id":                   {`"id": "` + file.Kit[0].ID, `"id": "no`},
		"stacks[0].measured.table[0]": {`"db": 0.2`, `"db": -1`},
	} {
		got := empty.refused(422, "POST", "/api/v1/bench/import", json.RawMessage(strings.Replace(string(text), want[0], want[1], 1)))
		if len(got) == 0 || !strings.HasPrefix(got[0], spoil) {
			t.Errorf("%s: %v", spoil, got)
		}
	}
	file.Kit = append(file.Kit, file.Kit[0])
	if got := empty.refused(422, "POST", "/api/v1/bench/import", file); !slices.Equal(got, []string{"kit[4].id"}) {
		t.Errorf("%v", got)
	}
	file.Kit = file.Kit[:4]
	// A path that names a measurement which is nowhere would be of no use.
	file.Paths[0].ID, file.Paths[0].Parts[0].StackID, file.Stacks = uuid.NewString(), uuid.NewString(), nil
	if got := empty.refused(422, "POST", "/api/v1/bench/import", file); !slices.Equal(got, []string{"paths[0].parts[0].stack_id"}) {
		t.Errorf("%v", got)
	}
	var schema struct {
		Defs map[string]any `json:"$defs"`
	}
	empty.ok("GET", "/api/v1/bench/schema", nil, &schema)
	if schema.Defs["BenchFile"] == nil || schema.Defs["PathElement"] == nil {
		t.Errorf("%v", schema.Defs)
	}
}

// TestVoidNamesTheMeterThatWouldDo: a reading outside a meter's range says which
// owned one covers it.
func TestVoidNamesTheMeterThatWouldDo(t *testing.T) {
	c, s := serve(t)
	_, _ = bench(t, s)
	lo, hi := 1e6, 60e6
	needle := kit.Typical(kit.ThroughMeter)
	needle.Meter.FromHz, needle.Meter.ToHz = &lo, &hi
	p := c.keep("wrong meter", record.PathPart{KitID: c.item("needle", needle).ID})
	r := c.begin()
	var got powerkind.Reading
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power/preview", map[string]any{"band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "1"}, "path_id": p.ID}, &got)
	if got.Counts || !strings.HasSuffix(got.WhyNot, "this would do: meter") {
		t.Errorf("%q", got.WhyNot)
	}
}

// BenchmarkStaircase: 20 parts at 10 multiples, from the request to the answer.
func BenchmarkStaircase(b *testing.B) {
	c, _ := serve(b)
	var parts []record.PathPart
	for i := range 19 {
		parts = append(parts, record.PathPart{KitID: c.pad(fmt.Sprint("pad ", i), 2.5, 25).ID})
	}
	parts = append(parts, record.PathPart{KitID: c.item("analyzer", analyzerSpec(10)).ID})
	ask := map[string]any{"draft": map[string]any{"name": "long", "parts": parts}, "levels": []map[string]any{{"name": "High", "w": 5}}}
	for b.Loop() {
		stairs(c, ask)
	}
}
