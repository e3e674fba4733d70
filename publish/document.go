package publish

import (
	"bytes"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/rulebook"
)

// Document is everything an edition says, as data.
type Document struct {
	Format  string `json:"format"`
	Program string `json:"program"` // that worked it out
	Frame
	ReviewID  string                `json:"review_id"`
	Subject   record.Subject        `json:"subject"`
	Claims    []measure.ClaimLine   `json:"claims"`
	Rules     record.Rules          `json:"rules"`
	RuleBook  *rulebook.Book        `json:"rule_book"`
	BandBooks []*rulebook.Book      `json:"band_books,omitempty"` // those that some bands are judged by
	Board     keptBoard             `json:"board"`
	Readings  []power.Reading       `json:"readings"`
	NotTested []string              `json:"not_tested"`
	Kit       []string              `json:"kit"`
	Cautions  []string              `json:"cautions"`
	Others    []OtherKind           `json:"others,omitempty"` // measured beside power and emissions
	Facts     *facts                `json:"facts,omitempty"`  // nil in data of an older format
	Plain     string                `json:"plain,omitempty"`  // what it comes to, for somebody who buys the radio
	Shown     []shown               `json:"shown,omitempty"`
	Changes   []change              `json:"changes,omitempty"` // since the edition that this one follows
	Read      map[string]*corrected `json:"corrected_readings,omitempty"`
	Seen      map[string]*corrected `json:"corrected_sweeps,omitempty"` // at their carriers
}

// OtherKind is what was taken of a kind that an edition has no place of its own for.
type OtherKind struct {
	Kind         string            `json:"kind"`
	Title        string            `json:"title"`
	Measurements any               `json:"measurements"`
	Sections     []measure.Section `json:"sections"`
	Whole        *decision.Whole   `json:"whole,omitempty"` // its shape in the head; nil for what has one already
}

// format names the shape of a Document.
const format = "talloak-edition-3"

// Compose makes the document and page of an edition. The same dossier, frame, files and key
// give the same bytes. Sum is the SHA-256 of the document. Files are the notes of the original
// files, by the measurement read from each; the key signs, where there is one.
func Compose(r *measure.Review, frame Frame, files map[string]FileNote, key ed25519.PrivateKey) (doc, page []byte, sum string, err error) {
	content := assemble(r, frame, files)
	body, err := json.Marshal(content)
	if err != nil {
		return nil, nil, "", err
	}
	doc = seal(body, key)
	hash := sha256.Sum256(doc)
	sum = hex.EncodeToString(hash[:])
	read, err := Read(doc) // so that whoever has the data can make the very same page
	if err == nil {
		page, err = Page(*read, doc)
	}
	return doc, page, sum, err
}

func assemble(r *measure.Review, frame Frame, files map[string]FileNote) Document {
	b := board.Of(r, true)
	known := factsOf(r, files)
	out := Document{
		Format: format, Program: Program(), Frame: frame, Facts: &known, ReviewID: r.ID, Subject: r.Subject,
		Claims: r.Lines, Rules: r.Rules, RuleBook: r.Book, BandBooks: r.AllBooks()[1:], Board: keep(r, b), Readings: []power.Reading{},
		NotTested: []string{}, Kit: []string{},
		Cautions: []string{
			"This is an independent measurement of one unit. It is no certification and replaces none.",
			"Conducted into 50 ohm at the antenna connector; radiated emissions were not measured.",
		},
	}
	for _, reading := range power.Of(r).Readings() {
		out.Readings = append(out.Readings, reading.WithoutAdvice())
	}
	for _, c := range b.Cells {
		for _, box := range c.Boxes {
			kind, room := roomOf(r, box.Kind)
			if r.LeavesOut(box.Kind) {
				continue
			}
			named := measure.Named{Name: c.Name, Cell: c.Cell, Box: box}
			if kind != nil {
				out.NotTested = append(out.NotTested, room.NotTested(named)...)
			}
		}
	}
	for _, kind := range board.Kinds(r) {
		about, room := kind.About(), r.Room(kind)
		sections, whole := room.Sections(b.Boxes(about.Name)), b.Whole(about.Name)
		switch {
		case !about.Always:
			out.Others = append(out.Others, OtherKind{about.Name, about.Title, room.List(0, room.Count()), sections, &whole})
		case len(sections) > 0: // its measurements have a place of their own
			out.Others = append(out.Others, OtherKind{about.Name, about.Title + ", further", nil, sections, nil})
		}
	}
	out.Kit = kitLines(board.Ways(r, &b))
	if r.LeavesOut(emissions.Name) {
		out.NotTested = append(out.NotTested, "Emissions were not part of this review.")
	}
	if parts := untested(r, &b); len(parts) > 0 {
		out.NotTested = append(out.NotTested, "Not part of this edition: "+board.Listed(parts)+".")
	}
	if frame.Before != nil {
		out.Changes = changes(frame.Before, figuresOf(out.show()))
	}
	out.Plain, out.Shown, out.Read, out.Seen = board.Plain(r, &b), out.show(), correctedReadings(out.Readings), out.correctedSweeps()
	return out
}

// untested names the parts of an examination that nothing was taken of.
func untested(r *measure.Review, b *board.Board) []string {
	var out []string
	idle, heard := emissions.Of(r).Looked()
	switch {
	case r.LeavesOut(emissions.Name): // said by itself
	case !idle:
		out = append(out, "standby emissions")
	case len(emissions.Of(r).Standby()) == 0: // they stand on the board
		out = append(out, "a ruling on standby emissions")
	}
	for _, k := range r.Kinds {
		about := k.About()
		part := about.Part
		if len(r.Of(about.Name)) > 0 { // on some bands, perhaps
			if !about.Always {
				out = append(out, without(r, b, about)...)
			}
			continue
		}
		if part == "" {
			continue
		}
		if part == "receiver" && heard { // what it hears of itself stands on the board
			part = "receiver sensitivity"
		}
		out = append(out, part)
	}
	return out
}

// without are the bands that have no box of a kind that others have.
func without(r *measure.Review, b *board.Board, about measure.About) []string {
	var out []string
	for _, c := range about.Cells(r) {
		name := r.BoxName(c)
		if !slices.ContainsFunc(b.Boxes(about.Name), func(n measure.Named) bool { return n.Name == name }) {
			out = append(out, about.Said()+" on "+name)
		}
	}
	return out
}

func roomOf(r *measure.Review, name string) (measure.Kind, measure.Room) {
	for _, k := range r.Kinds {
		if k.About().Name == name {
			return k, r.Room(k)
		}
	}
	return nil, nil
}

// kitLines is the kit of every reading and sweep, the struck ones too, each once.
func kitLines(ways []*record.Through) []string {
	out := []string{}
	for _, t := range ways {
		for _, k := range t.Kit {
			if line := kitLine(k); !slices.Contains(out, line) {
				out = append(out, line)
			}
		}
	}
	return out
}

// kitLine says what an item was, how it was set, and what its figures rest on.
func kitLine(k record.KitCopy) string {
	line := kit.Title(k.Name, k.Setting)
	if k.Spec.Serial != "" {
		line += ", serial " + k.Spec.Serial
	}
	if k.Spec.Certificate != "" {
		line += ", certificate " + k.Spec.Certificate
	}
	if k.Spec.CheckedOn != "" {
		line += ", last checked " + k.Spec.CheckedOn
	}
	if m := k.Measured; m != nil {
		parts := "its loss"
		switch {
		case m.Spans == 2:
			parts = "the loss of it and the part before it"
		case m.Spans > 2:
			parts = fmt.Sprintf("the loss of it and the %d parts before it", m.Spans-1)
		}
		line += fmt.Sprintf(", %s measured %s", parts, m.On)
	}
	if m := k.Spec.Meter; m != nil && m.Baseline != nil {
		line += fmt.Sprintf(", %+.2f dB taken out against %s, %s", m.Baseline.OffsetDB, m.Baseline.Against, m.Baseline.On)
	}
	if typical := typicalWords(k.Spec.Counted().Typical); typical != "" {
		line += ", typical of its kind and not its own: " + typical
	}
	if k.Spec.Note != "" {
		line += " (" + k.Spec.Note + ")"
	}
	return line
}

// fieldWords are the fields of an item whose figure may be only typical of its kind.
var fieldWords = []struct{ prefix, words string }{
	{"element.loss", "loss"}, {"element.coupling_db", "coupling"}, {"positions", "positions"}, {"element.cable", "cable type"}, {"element.length_m", "length"},
	{"element.tolerance_db", "tolerance"}, {"element.swr", "SWR"}, {"element.ranges", "input and noise floor"}, {"element.input_attenuation_db", "input attenuation"},
	{"accuracy_db", "amplitude accuracy"}, {"meter.pct_reading", "accuracy"}, {"meter.repeatability_pct", "repeatability"}, {"meter.digit_w", "digit"},
}

func typicalWords(fields []string) string {
	var out []string
	for _, w := range fieldWords {
		if slices.ContainsFunc(fields, func(f string) bool { return strings.HasPrefix(f, w.prefix) }) {
			out = append(out, w.words)
		}
	}
	return strings.Join(out, ", ")
}

// Preview is the page of an edition that is not frozen yet.
func Preview(r *measure.Review, frame Frame) ([]byte, error) {
	doc, err := json.Marshal(assemble(r, frame, nil))
	if err != nil {
		return nil, err
	}
	read, err := Read(doc)
	if err != nil {
		return nil, err
	}
	return Page(*read, nil)
}

// Freeze fills an edition that has its id, number and time. It refuses, with a
// *problem.Error, while something that blocks is left.
func Freeze(r *measure.Review, e *record.Edition, frame Frame, files map[string]FileNote, key ed25519.PrivateKey) error {
	b := board.Of(r, false)
	var bad problem.List
	for _, o := range board.Obstacles(r, &b) {
		if o.Blocks {
			bad.Add(string(o.Code), "%s", o.Detail)
		}
	}
	if err := bad.Err(); err != nil {
		return err
	}
	var err error
	e.Title, e.Headline = b.Title, b.Headline
	frame.ID, frame.Number, frame.FrozenAt = e.ID, e.Number, e.FrozenAt
	e.Document, e.Page, e.SHA256, err = Compose(r, frame, files, key)
	page := sha256.Sum256(e.Page)
	e.PageSHA256 = hex.EncodeToString(page[:])
	return err
}

// framed are the fields of a document that may differ between two that say the same.
var framed = []string{"format", "program", "id", "edition", "frozen_at", "kind", "changed", "earlier", "follows", "before", "changes", "facts", "signature", "sum"}

// Alike tells whether two documents say the same, but for what is only of the one edition.
func Alike(a, b []byte) bool {
	var of [2]map[string]json.RawMessage
	for i, text := range [][]byte{a, b} {
		if json.Unmarshal(text, &of[i]) != nil {
			return false
		}
		for _, apart := range framed {
			delete(of[i], apart)
		}
	}
	return maps.EqualFunc(of[0], of[1], func(x, y json.RawMessage) bool { return bytes.Equal(x, y) })
}
