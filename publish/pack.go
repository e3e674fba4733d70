package publish

import (
	"archive/zip"
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"path"
	"strconv"
	"strings"
	"time"

	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/record"
)

// Traced is a sweep as it was taken, point by point: as displayed, and at the connector where the loss is
// known there, else NaN. Sweep is its key.
type Traced struct {
	Sweep                                 string
	FrequencyHz, ShownDBm, AtConnectorDBm []float64
}

// Traces are those of a review, by their keys; a look has none.
func Traces(r *measure.Review, sweeps []string) []Traced {
	var out []Traced
	for _, sweep := range sweeps {
		if hz, shown, at, ok := emissions.Of(r).Points(sweep); ok {
			out = append(out, Traced{sweep, hz, shown, at})
		}
	}
	return out
}

// Pack is the data package of an edition (Data Package v1 with Table Schema, specs.frictionlessdata.io, from
// memory): a zip of datapackage.json, its tables as CSV, the edition's data and page as they were frozen, and
// the files that its sweeps were read from. The same edition gives the same bytes.
func Pack(doc, page []byte, sum string, traces []Traced, files []record.File) ([]byte, error) {
	var d Document
	if err := json.Unmarshal(doc, &d); err != nil {
		return nil, fmt.Errorf("the data of the edition cannot be read: %w", err)
	}
	var out bytes.Buffer
	w := packer{zip: zip.NewWriter(&out), at: d.FrozenAt.UTC().Truncate(2 * time.Second)}
	about := described{
		Profile: "data-package", Name: "edition-" + strings.ToLower(d.ReviewID) + fmt.Sprintf("-%d", d.Number), Title: fmt.Sprintf("%s: edition %d", d.Board.Title, d.Number),
		Description: d.Board.Headline, Created: d.FrozenAt.UTC().Format(time.RFC3339), Hash: "sha256:" + sum, Resources: []resource{},
	}
	for _, t := range d.tables() {
		content, err := measure.CSV(append([][]string{t.names()}, t.rows...))
		if err != nil {
			return nil, err
		}
		about.Resources = append(about.Resources, t.resource())
		w.put("data/"+t.name+".csv", content)
	}
	about.Resources = append(about.Resources, tracesTable.resource())
	w.putTraces("data/traces.csv", traces)
	for _, f := range []struct {
		name, path, kind string
		content          []byte
	}{{"edition", "edition.json", "application/json", doc}, {"page", "edition.html", "text/html", page}} {
		about.Resources = append(about.Resources, resource{Name: f.name, Path: f.path, MediaType: f.kind, Profile: "data-resource"})
		w.put(f.path, f.content)
	}
	for i, f := range files {
		at := fmt.Sprintf("files/%03d-%s", i+1, cleanName(f.Name))
		about.Resources = append(about.Resources, resource{Name: fmt.Sprintf("file-%03d", i+1), Path: at, MediaType: f.MediaType, Profile: "data-resource", Title: f.Name})
		w.put(at, f.Content)
	}
	text, err := json.MarshalIndent(about, "", "  ")
	if err != nil {
		return nil, err
	}
	w.put("datapackage.json", text)
	if w.err == nil {
		w.err = w.zip.Close()
	}
	return out.Bytes(), w.err
}

// described is datapackage.json.
type described struct {
	Profile     string     `json:"profile"`
	Name        string     `json:"name"`
	Title       string     `json:"title"`
	Description string     `json:"description"`
	Created     string     `json:"created"`
	Hash        string     `json:"edition_hash"` // of edition.json
	Resources   []resource `json:"resources"`
}

type resource struct {
	Name      string  `json:"name"`
	Path      string  `json:"path"`
	Profile   string  `json:"profile"`
	Title     string  `json:"title,omitempty"`
	MediaType string  `json:"mediatype"`
	Encoding  string  `json:"encoding,omitempty"`
	Schema    *schema `json:"schema,omitempty"`
}

type schema struct {
	Fields        []field  `json:"fields"`
	MissingValues []string `json:"missingValues"`
}

type field struct {
	Name        string `json:"name"`
	Type        string `json:"type"`
	Title       string `json:"title"`
	Description string `json:"description"`
	Unit        string `json:"unit,omitempty"`
}

func (t *table) names() []string {
	out := make([]string, len(t.columns))
	for i, c := range t.columns {
		out[i] = c.name
	}
	return out
}

func (t *table) resource() resource {
	s := schema{MissingValues: []string{""}}
	for _, c := range t.columns {
		f := field{Name: c.name, Type: c.kind, Title: c.title, Description: c.description}
		if c.kind == "number" {
			f.Unit = unitOf(c.name)
		}
		s.Fields = append(s.Fields, f)
	}
	return resource{Name: t.name, Path: "data/" + t.name + ".csv", Profile: "tabular-data-resource", Title: t.title, MediaType: "text/csv", Encoding: "utf-8", Schema: &s}
}

// tracesTable has its rows written as they come: a million of them are nothing to hold as text.
var tracesTable = table{name: "traces", title: "Every sweep, point by point", columns: []column{
	text("sweep", "Sweep", "key of the sweep"), number("frequency_hz", "Frequency", "of the point"), number("shown_dbm", "Shown", "level as displayed"),
	number("at_connector_dbm", "Level at the connector", "shown plus loss less offset; empty where the loss is not known, or only levels below the carrier are"),
}}

// packer writes files of one time, so that the same content gives the same bytes.
type packer struct {
	zip *zip.Writer
	at  time.Time
	err error
}

func (p *packer) put(name string, content []byte) {
	if p.err != nil {
		return
	}
	f, err := p.zip.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: p.at})
	if err == nil {
		_, err = f.Write(content)
	}
	p.err = err
}

// putTraces writes points as CSV: keys and bare numbers, of which none needs quotes.
func (p *packer) putTraces(name string, traces []Traced) {
	if p.err != nil {
		return
	}
	f, err := p.zip.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: p.at})
	if err != nil {
		p.err = err
		return
	}
	out := bufio.NewWriterSize(f, 1<<16)
	_, _ = out.WriteString(strings.Join(tracesTable.names(), ",") + "\n")
	var line []byte
	for _, s := range traces {
		for i, hz := range s.FrequencyHz {
			line = append(append(line[:0], s.Sweep...), ',')
			line = append(strconv.AppendFloat(line, hz, 'g', -1, 64), ',')
			line = append(strconv.AppendFloat(line, s.ShownDBm[i], 'g', -1, 64), ',')
			if v := s.AtConnectorDBm[i]; !math.IsNaN(v) {
				line = strconv.AppendFloat(line, v, 'g', -1, 64)
			}
			_, _ = out.Write(append(line, '\n'))
		}
	}
	p.err = out.Flush() // which has any error before
}

// Sweeps are the keys of the sweeps and looks that an edition's data name.
func Sweeps(doc []byte) ([]string, error) {
	var d Document
	if err := json.Unmarshal(doc, &d); err != nil {
		return nil, fmt.Errorf("the data of the edition cannot be read: %w", err)
	}
	var out []string
	for _, s := range d.allSweeps() {
		out = append(out, s.ID)
	}
	return out, nil
}

// cleanName is a file's own name without paths and signs that a shell or a system takes for more.
func cleanName(name string) string {
	name = path.Base(strings.ReplaceAll(name, `\`, "/"))
	clean := strings.Map(func(r rune) rune {
		switch {
		case r >= '0' && r <= '9', r >= 'A' && r <= 'Z', r >= 'a' && r <= 'z', r == '.', r == '-', r == '_':
			return r
		}
		return '_'
	}, name)
	if clean = strings.TrimLeft(clean, "."); clean == "" {
		return "file"
	}
	return clean[:min(len(clean), 80)]
}
