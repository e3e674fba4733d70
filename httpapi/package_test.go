package httpapi

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/csv"
	"encoding/hex"
	"encoding/json"
	"io"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/google/uuid"
)

// TestTheDataPackage of an edition: every resource that it describes is there and is what it says (Data Package
// v1, Table Schema: from memory), numbers are bare, texts begin with nothing that a spreadsheet runs, and what was
// frozen is in it byte for byte.
func TestTheDataPackage(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	r := c.begin()
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "4.9 5 5.1 h swr 1.1 ? =cmd", "settings": "=1+1"}, "path_id": power}, nil)
	sweep := uuid.NewString()
	c.ok("POST", sweepPath(r.ID, sweep, emissions), traceCSV(-40), nil)
	edition := c.freeze(r.ID, uuid.NewString())
	at := "/api/v1/editions/" + edition.ID
	status, pack := c.call("GET", at+"/package", nil)
	if _, again := c.call("GET", at+"/package", nil); status != 200 || !bytes.Equal(pack, again) {
		t.Fatalf("%d, the same twice %v", status, bytes.Equal(pack, again))
	}
	archive, err := zip.NewReader(bytes.NewReader(pack), int64(len(pack)))
	if err != nil {
		t.Fatal(err)
	}
	files := map[string][]byte{}
	for _, f := range archive.File {
		in, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		if files[f.Name], err = io.ReadAll(in); err != nil || strings.Contains(f.Name, "..") || strings.HasPrefix(f.Name, "/") {
			t.Fatalf("%s: %v", f.Name, err)
		}
	}
	_, page := c.call("GET", at+"/page", nil)
	_, data := c.call("GET", at+"/data", nil)
	sum := sha256.Sum256(files["edition.json"])
	if !bytes.Equal(files["edition.html"], page) || !bytes.Equal(files["edition.json"], data) || hex.EncodeToString(sum[:]) != edition.SHA256 {
		t.Error("what was frozen is not in it")
	}
	if original := files["files/001-a.csv"]; string(original) != traceCSV(-40) {
		t.Errorf("the original file: %d bytes among %v", len(original), slices.Sorted(maps.Keys(files)))
	}
	var described struct {
		Profile, Name string
		Resources     []struct {
			Name, Path, Profile, MediaType string
			Schema                         *struct {
				Fields []struct{ Name, Type, Title, Description string }
			}
		}
	}
	if err := json.Unmarshal(files["datapackage.json"], &described); err != nil {
		t.Fatal(err)
	}
	name, ends := regexp.MustCompile(`^[a-z0-9._-]+$`), regexp.MustCompile(`(_(hz|w|dbm|dbc|db|v|a|ratio|factor|relative)|swr)$`)
	tables := map[string][]map[string]string{}
	for _, resource := range described.Resources {
		content, ok := files[resource.Path]
		if !ok || !name.MatchString(resource.Name) || resource.MediaType == "" {
			t.Errorf("%+v", resource)
		}
		if resource.Schema == nil {
			continue
		}
		rows, err := csv.NewReader(bytes.NewReader(content)).ReadAll()
		if err != nil || len(rows) == 0 || len(rows[0]) != len(resource.Schema.Fields) {
			t.Fatalf("%s: %v", resource.Path, err)
		}
		for i, f := range resource.Schema.Fields {
			if rows[0][i] != f.Name || f.Title == "" || f.Description == "" || f.Type == "number" && !ends.MatchString(f.Name) {
				t.Errorf("%s: column %q, %+v", resource.Name, rows[0][i], f)
			}
			for _, row := range rows[1:] {
				cell := row[i]
				if _, err := strconv.ParseFloat(cell, 64); cell != "" && (f.Type == "number" || f.Type == "integer") && err != nil {
					t.Errorf("%s.%s: %q is no number", resource.Name, f.Name, cell)
				}
				if f.Type == "boolean" && cell != "true" && cell != "false" {
					t.Errorf("%s.%s: %q is neither", resource.Name, f.Name, cell)
				}
				if f.Type == "string" && cell != "" && strings.ContainsRune("=+-@\t\r", rune(cell[0])) {
					t.Errorf("%s.%s: %q", resource.Name, f.Name, cell)
				}
			}
		}
		for _, row := range rows[1:] {
			of := map[string]string{}
			for i, cell := range row {
				of[rows[0][i]] = cell
			}
			tables[resource.Name] = append(tables[resource.Name], of)
		}
	}
	number := func(cell string) float64 {
		v, err := strconv.ParseFloat(cell, 64)
		if err != nil {
			t.Fatalf("%q: %v", cell, err)
		}
		return v
	}
	if read := tables["readings"]; len(read) != 1 || math.Abs(number(read[0]["at_connector_w"])-5) > 0.5 || read[0]["band"] != "2m" || read[0]["level"] != "High" || read[0]["counts"] != "true" {
		t.Errorf("%v", read)
	}
	if points := tables["traces"]; len(points) != strings.Count(traceCSV(-40), "\n")-1 || points[0]["sweep"] != sweep || math.Abs(number(points[0]["at_connector_dbm"])-number(points[0]["shown_dbm"])-50) > 1e-9 {
		t.Errorf("%d points, %v", len(points), points[:1])
	}
	worst := ""
	for _, row := range tables["rulings"] {
		if row["of"] == "emissions" && row["level"] == "High" {
			worst = row["margin_db"] + " " + row["verdict"]
		}
	}
	if !strings.HasPrefix(worst, "-26.") || !strings.HasSuffix(worst, " fail") {
		t.Errorf("%q", worst)
	}
	for _, want := range []string{"sweeps", "budgets", "kit", "paths"} {
		if len(tables[want]) == 0 {
			t.Errorf("%s is empty", want)
		}
	}
	c.refused(404, "GET", "/api/v1/editions/"+uuid.NewString()+"/package", nil)
}
