package publish

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"path"
	"strconv"
	"strings"
	"time"

	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/record"
	"talloak/core/rulebook"
)

// Traced is a sweep as it was taken, point by point: as displayed, and at the connector where the loss is
// known there, else NaN. Sweep is its key.
type Traced struct {
	Sweep                                 string
	Below                                 bool // what it shows are dB below its carrier
	FrequencyHz, ShownDBm, AtConnectorDBm []float64
}

func (d *Document) traces(r *measure.Review) []Traced {
	var out []Traced
	for _, s := range d.allSweeps() { // a look has none
		if hz, shown, at, ok := emissions.Of(r).Points(s.ID); ok {
			out = append(out, Traced{s.ID, s.Below, hz, shown, at})
		}
	}
	return out
}

// Pack is the data package of an edition (Data Package v1 with Table Schema, specs.frictionlessdata.io, from
// memory): a zip of datapackage.json, its tables as CSV, the edition's data and page as they were frozen, and
// the original files. R is the review that it was worked out of. The same edition gives the same bytes; the comment
// of the zip is the sum of all before it.
func Pack(d *Document, doc, page []byte, r *measure.Review, files []record.File) ([]byte, error) {
	hash := sha256.Sum256(doc)
	sum, traces := hex.EncodeToString(hash[:]), d.traces(r)
	var out bytes.Buffer
	w := packer{zip: zip.NewWriter(&out), at: d.FrozenAt.UTC().Truncate(2 * time.Second)}
	about := described{
		Profile: "tabular-data-package", Name: "edition-" + strings.ToLower(d.ReviewID) + fmt.Sprintf("-%d", d.Number), Title: fmt.Sprintf("%s: edition %d", d.Board.Title, d.Number),
		Description: d.Board.Headline, Created: d.FrozenAt.UTC().Format(time.RFC3339), Hash: "sha256:" + sum, Resources: []resource{},
	}
	for _, t := range d.tables() {
		content, err := measure.CSV(append([][]string{t.names()}, t.rows...))
		if err != nil {
			return nil, err
		}
		about.Resources = append(about.Resources, t.resource(content))
		w.put("data/"+t.name+".csv", content)
	}
	points := tracesCSV(traces)
	about.Resources = append(about.Resources, tracesTable.resource(points))
	w.put("data/traces.csv", points)
	beside := func(path, kind, title string, content []byte) {
		about.Beside = append(about.Beside, besideFile{path, kind, title, len(content), hashOf(content)})
		w.put(path, content)
	}
	beside("edition.json", "application/json", "the data of the edition, as frozen", doc)
	beside("edition.html", "text/html", "its page, as frozen", page)
	for _, b := range append([]*rulebook.Book{d.RuleBook}, d.BandBooks...) {
		if b == nil {
			continue
		}
		wording, err := json.MarshalIndent(b, "", "  ")
		if err != nil {
			return nil, err
		}
		beside("rule-books/"+cleanName(b.ID)+".json", "application/json", "the wording of the rule book “"+b.Title+"”", wording)
	}
	for i, p := range d.Photos {
		beside(fmt.Sprintf("photographs/%03d-%s", i+1, cleanName(p.Name)), p.MediaType, aboutPhoto(*d, p), p.Content)
	}
	for i, f := range files {
		beside(originalName(i, f.Name), f.MediaType, "as it came: "+f.Name, f.Content)
	}
	text, err := json.MarshalIndent(about, "", "  ")
	if err != nil {
		return nil, err
	}
	w.put("datapackage.json", text)
	if w.err == nil {
		w.err = errors.Join(w.zip.SetComment(strings.Repeat(" ", sealLength)), w.zip.Close())
	}
	if w.err != nil {
		return nil, w.err
	}
	whole := out.Bytes() // which ends in the comment
	copy(whole[len(whole)-sealLength:], sealOf(whole[:len(whole)-sealLength]))
	return whole, nil
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

	Beside []besideFile `json:"files"` // that are no tables
}

// besideFile is a file of the package that is no table.
type besideFile struct {
	Path      string `json:"path"`
	MediaType string `json:"mediatype"`
	Title     string `json:"title"`
	Bytes     int    `json:"bytes"`
	Hash      string `json:"hash"`
}

func hashOf(content []byte) string {
	sum := sha256.Sum256(content)
	return "sha256:" + hex.EncodeToString(sum[:])
}

type resource struct {
	Name      string  `json:"name"`
	Path      string  `json:"path"`
	Profile   string  `json:"profile"`
	Title     string  `json:"title,omitempty"`
	MediaType string  `json:"mediatype"`
	Encoding  string  `json:"encoding,omitempty"`
	Bytes     int     `json:"bytes"`
	Hash      string  `json:"hash"`
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

func (t *table) resource(content []byte) resource {
	s := schema{MissingValues: []string{""}}
	for _, c := range t.columns {
		f := field{Name: c.name, Type: c.kind, Title: c.title, Description: c.description}
		if c.kind == "number" {
			f.Unit = unitOf(c.name)
		}
		s.Fields = append(s.Fields, f)
	}
	return resource{Name: t.name, Path: "data/" + t.name + ".csv", Profile: "tabular-data-resource", Title: t.title, MediaType: "text/csv", Encoding: "utf-8", Bytes: len(content), Hash: hashOf(content), Schema: &s}
}

// tracesTable has its rows written as they come: a million of them are nothing to hold as text.
var tracesTable = table{name: "traces", title: "Every sweep, point by point", columns: []column{
	text("sweep", "Sweep", "key of the sweep"), number("frequency_hz", "Frequency", "of the point"), number("shown_dbm", "Shown", "level as displayed; empty of a sweep that shows its levels below its own carrier"),
	number("at_connector_dbm", "Level at the connector", "shown plus loss less offset; empty where the loss is not known, or only levels below the carrier are"),
	number("shown_dbc", "Shown below the carrier", "level as displayed, of a sweep that shows its levels below its own carrier"),
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

// tracesCSV writes points as CSV: keys and bare numbers, of which none needs quotes.
func tracesCSV(traces []Traced) []byte {
	out := append([]byte(strings.Join(tracesTable.names(), ",")), '\n')
	for _, s := range traces {
		for i, hz := range s.FrequencyHz {
			out = append(append(out, s.Sweep...), ',')
			out = append(strconv.AppendFloat(out, hz, 'g', -1, 64), ',')
			if !s.Below {
				out = strconv.AppendFloat(out, s.ShownDBm[i], 'g', -1, 64)
			}
			out = append(out, ',')
			if v := s.AtConnectorDBm[i]; !math.IsNaN(v) {
				out = strconv.AppendFloat(out, v, 'g', -1, 64)
			}
			out = append(out, ',')
			if s.Below {
				out = strconv.AppendFloat(out, s.ShownDBm[i], 'g', -1, 64)
			}
			out = append(out, '\n')
		}
	}
	return out
}

// Read is an edition's data, of this format or an older one.
func Read(doc []byte) (*Document, error) {
	var d Document
	if err := json.Unmarshal(doc, &d); err != nil {
		return nil, fmt.Errorf("the data of the edition cannot be read: %w", err)
	}
	if d.Facts == nil { // of an older format, whose data do not hold what is shown
		d.Plain, d.Shown, d.Read, d.Seen = d.Board.Headline, d.show(), correctedReadings(d.Readings), d.correctedSweeps()
	}
	return &d, nil
}

// FilesOf are the measurements that original files stand with in the package: those that a file was noted of, or in
// data of an older format, which note none, those that may have one.
func (d *Document) FilesOf() []string {
	var out []string
	if d.Facts == nil {
		for _, s := range d.allSweeps() {
			out = append(out, s.ID)
		}
		return out
	}
	for _, m := range d.Facts.Measurements {
		if m.File != nil {
			out = append(out, m.ID)
		}
	}
	return out
}

// originalName is where an original file lies in a package.
func originalName(i int, name string) string {
	return fmt.Sprintf("files/%03d-%s", i+1, cleanName(name))
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
