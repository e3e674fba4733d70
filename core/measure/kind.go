package measure

import (
	"cmp"
	"encoding/json"
	"slices"
	"strings"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/sweep"
)

// Kind is a kind of measurement.
type Kind interface {
	About() About
	// Open works out all facts of the kind in a review.
	Open(*Review) Room
}

// About is what others need to know of a kind.
type About struct {
	Name      string  // in addresses and among the kept measurements
	Title     string  // of its stage
	Noun      string  // what it is in a sentence, where that is not its title
	Key       string  // of its stage, a digit with Alt; empty among the further tests
	Purpose   string  // of the paths it is taken through, a purpose of package wiring
	Transmits bool    // the radio is keyed: nothing is taken through a path in danger
	WithFile  bool    // it is read from a file
	Explains  bool    // its measurements may contradict each other, until that is explained
	PerLevel  bool    // a box for each level of a band; else one for the whole band
	Receives  bool    // bands that are received only have a box too
	Whole     bool    // one box for the whole radio, which is of no band
	Always    bool    // every review has boxes for it; else those that were measured
	Leads     bool    // its part of the headline comes first
	More      bool    // it stands among the further tests, and needs no key of its own
	Part      string  // of an examination, as an edition without it calls it; empty where every edition has it
	Minutes   float64 // that a box of it usually takes, to plan an afternoon (common practice, no source)
	Types     Types
}

// Said is what it is in a sentence.
func (a *About) Said() string { return cmp.Or(a.Noun, strings.ToLower(a.Title)) }

// Cells are the boxes that a kind has in a review: a level of a band each, a band each, or the whole
// radio, which is the empty cell.
func (a *About) Cells(r *Review) []claims.Cell {
	switch {
	case a.Whole:
		return []claims.Cell{{}}
	case a.PerLevel:
		return r.Cells
	case a.Receives:
		return append(r.Bands(), r.Heard()...)
	}
	return r.Bands()
}

// Taking is what a person gave for a measurement, and the path as it is. File is nil
// where the kind has none; Bench gives what is owned, to say what on it would do.
type Taking struct {
	Keyed   record.Keyed
	Bench   func() []record.Item
	Through *record.Through
	Draft   json.RawMessage
	File    *record.File
	Read    *sweep.Import // what a FileReader read of the file; nil where there was none, or the kind is none
}

// Taken is what is kept of a Taking, with how it is shown: of the kind's View.
type Taken struct {
	Keyed   record.Keyed
	Payload json.RawMessage
	Blob    []byte
	View    Answer

	// Unkeyed tells that nothing was transmitted for it: no danger of a path keeps it out.
	Unkeyed bool
}

// FileReader is a kind whose files are read before a review is opened for them: what takes long
// keeps nobody waiting. Errors are *problem.Error, as those of Take.
type FileReader interface {
	ReadFile(draft json.RawMessage, f *record.File) (*sweep.Import, error)
}

// Pathless is a kind of which some drafts come through no path at all.
type Pathless interface {
	WithoutPath(draft json.RawMessage) bool
}

// Room is a kind in a review: what the board, an edition and the API ask of it. RoomOf makes one.
type Room interface {
	Tells
	// Take reads what was given, without keeping it. Errors are *problem.Error on the
	// fields of the draft, "frequency_hz" or "path_id".
	Take(Taking) (Taken, error)
	// Show is how something taken is shown once it is kept.
	Show(Taken, *record.Measurement) Answer
	// View is how a kept measurement is shown; nil where there is none of the kind.
	View(id string) Answer
	// Count is how much was taken.
	Count() int
	// List is what was taken, worked out, in the order taken, from one place to before another.
	List(from, to int) Answer
	// Ruling is what stands at the frequency keyed, to be looked at, with pictures.
	Ruling(record.Keyed) Answer
	// Inside is the kind's own account.
	Inside() Tells
}

// Tells is what a kind in a review says that is of no type of its own.
type Tells interface {
	// Box is what stands for a box of the review. Pictures are left out unless asked for.
	Box(c claims.Cell, pictures bool) Box
	// Sentence is its part of the headline.
	Sentence([]Named, decision.Whole) string
	// Obstacles are what stands between the review and an edition.
	Obstacles([]Named) []Obstacle
	// NotTested is what an edition says of a box that was not examined, or not in full.
	NotTested(Named) []string
	// Ways are the paths that an edition rests on.
	Ways([]Named) []*record.Through
	// Kept is a box as an edition keeps it, in order.
	Kept(Box) []Field
	// Sections are what an edition tells of the boxes, where no page of its own does.
	Sections([]Named) []Section
	// WithoutAdvice leaves out of a box what is meant for the reviewer alone.
	WithoutAdvice(Box) Box
}

// Box is what stands of a kind for a band at a level, or for a band. Of is the kind's
// own account of it, what a board's evidence shows.
type Box struct {
	Kind        string           `json:"kind"`
	Verdict     decision.Verdict `json:"verdict"`
	Why         string           `json:"why"`
	Notes       []Note           `json:"notes"`
	Frequencies []float64        `json:"frequencies_hz"` // measured, inside the band claimed
	Taken       int              `json:"taken"`          // measurements, whatever their standing
	Figure      string           `json:"figure"`         // the one that tells most, as it stands under its shape; empty where there is none
	Of          Answer           `json:"of"`
}

// Named is a box with the cell it is of, and what that is called.
type Named struct {
	Name string
	Cell claims.Cell
	Box
}

// Note is what is wrong with evidence as a whole: in a few words, and in full.
type Note struct {
	Short  string `json:"short"`
	Detail string `json:"detail"`
}

// Obstacle is something between a review and its edition. Blocks tells whether it must
// be put right first; Stage is where that can be done. Of is the box that it is about, where it is about one,
// and Each what it says of that without its name: many that say the same are told in one line.
type Obstacle struct {
	say.Said
	Blocks bool   `json:"blocks"`
	Stage  string `json:"stage"`
	Of     string `json:"-"`
	Each   string `json:"-"`
}

// Field is a named value of a kept box.
type Field struct {
	Name  string
	Value any
}

// Section is a part of an edition's page, and a table of its export: a heading, lines of
// text and rows under their columns. Numbers are columns set to the right.
type Section struct {
	Title   string     `json:"title"`
	Lines   []string   `json:"lines"`
	Columns []string   `json:"columns"`
	Numbers []int      `json:"numbers"`
	Rows    [][]string `json:"rows"`
}

// Right tells whether a column is set to the right.
func (s Section) Right(column int) bool { return slices.Contains(s.Numbers, column) }

// Student is a room that says more of its kind than stands in boxes: along something else
// than bands and levels. Its tables are the sections of an edition.
type Student interface {
	Studied() Answer
}

// Offerer is a kind that offers something before anything is measured.
type Offerer interface {
	Offers() Offered
}

// LineReader is a kind whose lines may ask for something else than to be kept.
type LineReader interface {
	ReadLine(text string) Answer
}

// ClaimReader is a kind that reads claims of its own. Is tells whether the line is meant
// for it at all; said is what was read, in words.
type ClaimReader interface {
	ReadClaim(text string, region bands.Region) (said string, is bool, err error)
}
