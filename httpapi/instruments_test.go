package httpapi

import (
	"bytes"
	"encoding/json"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/google/uuid"
	"github.com/santhosh-tekuri/jsonschema/v6"

	"talloak/app"
	"talloak/core/compute"
	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/record"
	"talloak/instruments"
	"talloak/instruments/simulated"
	"talloak/rulebooks"
	"talloak/store/storetest"
)

// socketed is a bench whose meter, analyzer and supply are simulated ones behind sockets.
func (c *client) socketed(power, emissions string) (at map[string]string, ids map[string]string) {
	c.t.Helper()
	t := c.t.(*testing.T)
	served, wait, err := simulated.NewBench(simulated.DefaultScene(9, false), 9, 300).Listen(t.Context(), "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(wait)
	at, ids = map[string]string{}, map[string]string{}
	for _, s := range served {
		at[s.Kind] = s.Address
	}
	supply := c.item("supply", kit.Spec{Kind: kit.Supply, Supply: &kit.SupplyRange{FromV: 3, ToV: 15}})
	ids["supply"] = supply.ID
	for _, k := range c.bench().Kit {
		ids[k.Name] = k.ID
	}
	for name, of := range map[string][2]string{"meter": {at["power-meter"], "scpi-power-meter"}, "analyzer": {at["analyzer"], "scpi-analyzer"}, "supply": {at["supply"], "scpi-supply"}} {
		c.ok("PUT", "/api/v1/kit/"+ids[name]+"/socket", map[string]string{"address": of[0], "driver": of[1]}, nil)
	}
	return at, ids
}

// TestSetBySocket: what could hurt is sent only once it was confirmed, what lies outside what is written
// down never; off needs no word.
func TestSetBySocket(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	_, ids := c.socketed(power, emissions)
	set := func(confirmed bool, settings map[string]string) (out app.SetView) {
		t.Helper()
		c.ok("POST", "/api/v1/kit/"+ids["supply"]+"/set", map[string]any{"settings": settings, "confirmed": confirmed}, &out)
		return out
	}
	on := map[string]string{"volts": "14", "amps": "3", "output": "on"}
	if got := set(false, on); len(got.Hurts) != 2 || len(got.Dialled) != 0 { // 13.8 V up, on; 5 A down hurts nothing
		t.Errorf("unconfirmed: %+v", got)
	}
	if got := set(true, on); len(got.Hurts) != 0 || len(got.Dialled) != 3 || got.Dialled[0].Told != "14 V" || got.Dialled[2].Told != "on" {
		t.Errorf("confirmed: %+v", got)
	}
	if got := set(false, map[string]string{"output": "off", "volts": "12"}); len(got.Dialled) != 2 || got.Dialled[0].What != "output" {
		t.Errorf("quieter: %+v", got)
	}
	for name, value := range map[string]string{"volts": "24", "output": "maybe", "amps": "NaN", "level_dbm": "3"} {
		if fields := c.refused(422, "POST", "/api/v1/kit/"+ids["supply"]+"/set", map[string]any{"settings": map[string]string{name: value}, "confirmed": true}); len(fields) != 1 || fields[0] != "settings."+name {
			t.Errorf("%s %s: %v", name, value, fields)
		}
	}
}

// TestReadBySocket: the meter is read into the line as often as wanted, with what the supply gives; a
// reading by a simulated instrument stands in the way of an edition of a real radio.
func TestReadBySocket(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	at, ids := c.socketed(power, emissions)
	for kind, line := range map[string]string{"supply": "OUTP ON", "transmitter": "KEY ON"} {
		say(t, at[kind], line)
	}
	meter := c.keep("meter on the supply", record.PathPart{KitID: ids["meter"]}, record.PathPart{KitID: ids["load"]})
	p := meter
	c.ok("PUT", "/api/v1/paths/"+p.ID, map[string]any{"version": p.Version, "name": p.Name, "socket": p.Socket, "parts": p.Parts, "applied_offset_db": 0, "retired": false, "supply": map[string]any{"kit_id": ids["supply"], "set_v": 13.8}}, &p)
	var read, again app.Read
	c.ok("POST", "/api/v1/paths/"+p.ID+"/read", map[string]string{}, &read)
	words := strings.Fields(read.Text)
	if len(words) != 5 || !strings.HasSuffix(words[0], "W") || words[1] != "swr" || !strings.HasSuffix(words[3], "v") || !strings.HasSuffix(words[4], "a") || len(read.By) != 2 || !read.By[0].Simulated {
		t.Fatalf("%q %+v", read.Text, read.By)
	}
	c.ok("POST", "/api/v1/paths/"+p.ID+"/read", map[string]string{"text": read.Text + " h"}, &again)
	if got := strings.Fields(again.Text); len(got) != 7 || got[0] != words[0] || !strings.HasSuffix(got[1], "W") || got[2] != "h" || strings.Count(again.Text, "swr") != 1 {
		t.Errorf("read twice: %q", again.Text)
	}
	r := c.begin()
	in := map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "path_id": p.ID, "draft": map[string]any{"text": again.Text, "by": append(read.By, again.By...)}}
	var kept struct {
		ID string      `json:"id"`
		By []record.By `json:"by"`
	}
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", in, &kept)
	if len(kept.By) < 2 || kept.By[0].Identity == "" || kept.By[1].Said == kept.By[0].Said {
		t.Errorf("it is marked %+v", kept.By)
	}
	_, said := c.call("GET", "/api/v1/reviews/"+r.ID+"/publish", nil)
	if !bytes.Contains(said, []byte("measures no real radio")) {
		t.Errorf("a simulated reading blocks nothing: %s", said)
	}
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/standings", map[string]string{"id": uuid.NewString(), "target_id": kept.ID, "standing": "struck", "reason": "simulated"}, nil)
	if _, said = c.call("GET", "/api/v1/reviews/"+r.ID+"/publish", nil); bytes.Contains(said, []byte("measures no real radio")) {
		t.Error("struck, it still stands in the way")
	}
	// What was typed over what was read is no reading of the instrument's.
	in["id"], in["draft"] = uuid.NewString(), map[string]any{"text": "9.9", "by": read.By}
	kept.By = nil
	if c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", in, &kept); len(kept.By) != 0 {
		t.Errorf("typed, it is marked %+v", kept.By)
	}
}

func say(t *testing.T, address, line string) {
	t.Helper()
	l, done, err := (&instruments.Rack{}).Converse(t.Context(), address, &instruments.Driver{WaitS: 5})
	if err != nil {
		t.Fatal(err)
	}
	defer done()
	if _, err := l.Ask(line + ";*OPC?"); err != nil {
		t.Fatal(err)
	}
}

// TestSweepBySocket: two windows on one analyzer, a path in danger, and what was let go.
func TestSweepBySocket(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	_, ids := c.socketed(power, emissions)
	r := c.begin()
	ask := map[string]any{"band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "path_id": emissions, "confirmed": true}
	var first app.SweepingView
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/sweeping", ask, &first)
	_, second := c.call("POST", "/api/v1/reviews/"+r.ID+"/sweeping", ask)
	if !bytes.Contains(second, []byte("in use by another window")) {
		t.Errorf("a second window: %s", second)
	}
	if _, tried := c.call("POST", "/api/v1/kit/"+ids["analyzer"]+"/try", map[string]any{}); !bytes.Contains(tried, []byte("in use by another window")) {
		t.Errorf("tried meanwhile: %s", tried)
	}
	c.ok("DELETE", "/api/v1/sweeping/"+first.ID, nil, nil)
	c.refused(422, "POST", "/api/v1/sweeping/"+first.ID+"/take", nil)
	c.refused(404, "GET", "/api/v1/sweeping/"+uuid.NewString(), nil)
	c.refused(422, "POST", "/api/v1/reviews/"+r.ID+"/sweeping", with(ask, "path_id", power))
	bare := c.keep("straight in", record.PathPart{KitID: ids["analyzer"]})
	if _, danger := c.call("POST", "/api/v1/reviews/"+r.ID+"/sweeping", with(ask, "path_id", bare.ID)); !bytes.Contains(danger, []byte("nothing is sent to the instrument")) {
		t.Errorf("straight into the analyzer: %s", danger)
	}
	for _, half := range []string{"start_hz", "stop_hz"} {
		in := with(ask, "start_hz", 1e9)
		if half == "stop_hz" {
			in = with(in, "stop_hz", 1e8)
		}
		if fields := c.refused(422, "POST", "/api/v1/reviews/"+r.ID+"/sweeping", in); len(fields) != 1 || fields[0] != "stop_hz" {
			t.Errorf("half a range: %v", fields)
		}
	}
	c.refused(409, "POST", "/api/v1/reviews/"+r.ID+"/sweeping", with(ask, "wiring", "0000000000000000"))
}

func with(in map[string]any, name string, value any) map[string]any {
	out := map[string]any{name: value}
	for k, v := range in {
		if k != name {
			out[k] = v
		}
	}
	return out
}

// TestSocketsAreThoseOfTheBench: only what is written there, by a driver that fits; a server that others
// reach wants a word first, and one that is turned off connects nowhere.
func TestSocketsAreThoseOfTheBench(t *testing.T) {
	s := storetest.Open(t)
	power, _ := bench(t, s)
	for _, c := range []struct {
		off, open bool
		status    int
		says      string
	}{{false, false, 422, "nothing answers"}, {false, true, 409, "others"}, {true, false, 422, "TALLOAK_INSTRUMENTS=off"}, {true, true, 422, "TALLOAK_INSTRUMENTS=off"}} {
		a := app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs())
		handler := New(a, compute.New(rulebooks.Find, rulebooks.IDs()), fstest.MapFS{}, Options{})
		a.Rack.Off, a.Rack.Open = c.off, c.open
		server := httptest.NewServer(handler)
		defer server.Close()
		client := &client{t, server.URL}
		meter := ""
		for _, k := range client.bench().Kit {
			if k.Name == "meter" {
				meter = k.ID
			}
		}
		socket := "/api/v1/kit/" + meter + "/socket"
		if fields := client.refused(422, "PUT", socket, map[string]string{"address": "http://x", "driver": "scpi-analyzer"}); len(fields) != 2 {
			t.Errorf("%v", fields)
		}
		client.refused(422, "PUT", socket, map[string]string{"address": "127.0.0.1:5025", "driver": "none"})
		client.ok("PUT", socket, map[string]string{"address": "127.0.0.1:1", "driver": "scpi-power-meter"}, nil)
		if status, said := client.call("POST", "/api/v1/paths/"+power+"/read", map[string]string{}); status != c.status || !strings.Contains(string(said), c.says) {
			t.Errorf("off %v, open %v: %d %s", c.off, c.open, status, said)
		}
		if status, _ := client.call("POST", "/api/v1/paths/"+power+"/read?aware=true", map[string]string{}); status != 422 {
			t.Errorf("off %v, open %v, aware: %d", c.off, c.open, status)
		}
		client.ok("PUT", socket, map[string]string{"address": "", "driver": ""}, nil)
		if status, said := client.call("POST", "/api/v1/paths/"+power+"/read", map[string]string{}); status != 422 || !strings.Contains(string(said), "no address") {
			t.Errorf("without an address: %d %s", status, said)
		}
	}
}

// TestOwnDrivers: brought in, they stand beside those that ship, which the schema that is given out finds
// valid too; what is wrong is refused at its field.
func TestOwnDrivers(t *testing.T) {
	c, _ := serve(t)
	_, text := c.call("GET", "/api/v1/drivers/schema", nil)
	compiler := jsonschema.NewCompiler()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err == nil {
		err = compiler.AddResource("driver.json", doc)
	}
	schema, err2 := compiler.Compile("driver.json")
	if err != nil || err2 != nil {
		t.Fatal(err, err2)
	}
	var list InstrumentsView
	c.ok("GET", "/api/v1/instruments", nil, &list)
	for _, d := range list.Drivers {
		_, file := c.call("GET", "/api/v1/drivers/"+d.ID, nil)
		v, err := jsonschema.UnmarshalJSON(bytes.NewReader(file))
		if err == nil {
			err = schema.Validate(v)
		}
		if err != nil {
			t.Errorf("%s: %v", d.ID, err)
		}
	}
	own := list.Drivers[0]
	_, file := c.call("GET", "/api/v1/drivers/"+own.ID, nil)
	var d map[string]any
	if err := json.Unmarshal(file, &d); err != nil {
		t.Fatal(err)
	}
	d["id"], d["name"] = "mine", "my own"
	c.ok("POST", "/api/v1/drivers", d, nil)
	d["identify"] = "a\nb"
	if fields := c.refused(422, "POST", "/api/v1/drivers", d); len(fields) != 1 || fields[0] != "identify" {
		t.Errorf("%v", fields)
	}
	before := len(list.Drivers)
	if c.ok("GET", "/api/v1/instruments", nil, &list); len(list.Drivers) != before+1 {
		t.Errorf("%d drivers", len(list.Drivers))
	}
	c.ok("DELETE", "/api/v1/drivers/mine", nil, nil)
	c.refused(422, "GET", "/api/v1/drivers/mine", nil)
}
