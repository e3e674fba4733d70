package measure

import (
	"cmp"
	"fmt"
	"slices"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Books finds a rule book by its id.
type Books func(id string) (*rulebook.Book, bool)

// Review is a review with all its facts, opened under some rules.
type Review struct {
	*record.Review
	Rules record.Rules   // the review's own, or those being tried
	Book  *rulebook.Book // of bands without one of their own
	Kinds []Kind
	Lines []ClaimLine
	Cells []claims.Cell

	facts     record.Facts
	standings map[string]record.Standing
	rooms     map[string]Room
	books     map[string]*rulebook.Book // of the bands that have one of their own
	shelf     []*rulebook.Book          // every one that was looked up
}

// ClaimLine is a claim as typed with what it was read as, or what is wrong with it.
type ClaimLine struct {
	record.Claim
	Powers []claims.Power `json:"powers"`
	Said   string         `json:"said,omitempty"` // where it is no claim of power
	Error  string         `json:"error,omitempty"`
	Word   string         `json:"word,omitempty"` // the one that Error is about

	other *claims.Other
}

// Open opens a review under the given rules. A rule book that is not known is an error
// on the field "rule_book".
func Open(r *record.Review, facts record.Facts, rules record.Rules, shelf Books, kinds []Kind) (*Review, error) {
	var found []*rulebook.Book
	books := func(id string) (*rulebook.Book, bool) {
		b, ok := shelf(id)
		if ok && !slices.Contains(found, b) {
			found = append(found, b)
		}
		return b, ok
	}
	book, ok := books(rules.RuleBook)
	if !ok {
		return nil, problem.New("rule_book", "there is no rule book %q here", rules.RuleBook)
	}
	out := &Review{Review: r, Rules: rules, Book: book, Kinds: kinds, facts: facts, standings: map[string]record.Standing{}, rooms: map[string]Room{}, books: map[string]*rulebook.Book{}}
	for band, id := range rules.Books {
		if out.books[band], ok = books(id); !ok {
			return nil, problem.New("books."+band, "there is no rule book %q here", id)
		}
	}
	out.Lines = ReadClaims(r.Claims, kinds, r.Subject.Region)
	var all []claims.Power
	for _, l := range out.Lines {
		all = append(all, l.Powers...)
	}
	out.Cells = claims.Matrix(all, r.Subject.Region)
	if claims.Bandless(all) {
		for i := range out.Lines {
			if l := &out.Lines[i]; len(l.Powers) > 0 {
				l.Error = "of which bands? Name them on a line of their own, such as 2m 70cm"
			}
		}
	}
	out.ownBooks(books)
	slices.SortFunc(found, func(a, b *rulebook.Book) int { return cmp.Compare(a.ID, b.ID) }) // rules.Books has no order
	out.shelf = found
	out.facts.Measurements = slices.Clone(facts.Measurements)
	for i := range out.facts.Measurements {
		m := &out.facts.Measurements[i]
		m.Keyed = out.Meant(m.Keyed)
	}
	for _, s := range facts.Standings {
		out.standings[s.TargetID] = s
	}
	return out, nil
}

// ownBooks gives a band of a service its own rule book, and an amateur band of region 1 its
// own, where nobody chose another for a band or for the review. Where that leaves nothing to
// the review's, it is judged by that of its first band, and names no book that it is not judged by.
func (r *Review) ownBooks(books Books) {
	if r.Rules.RuleBook != bands.DefaultBook {
		return
	}
	for _, c := range r.Cells {
		if id := c.Band.Book(r.Subject.Region); id != "" && r.books[c.Band.Name] == nil {
			if b, ok := books(id); ok {
				r.books[c.Band.Name] = b
			}
		}
	}
	if len(r.Cells) > 0 && len(r.Rules.Books) == 0 && !slices.ContainsFunc(r.Cells, func(c claims.Cell) bool { return r.books[c.Band.Name] == nil }) {
		r.Book = r.books[r.Cells[0].Band.Name]
	}
}

// ReadClaims reads claims as typed, of bands of a region; a line that cannot be read keeps
// its error.
func ReadClaims(lines []record.Claim, kinds []Kind, region bands.Region) []ClaimLine {
	out := make([]ClaimLine, len(lines))
	for i, c := range lines {
		out[i] = readClaim(c, kinds, region)
	}
	return out
}

func readClaim(c record.Claim, kinds []Kind, region bands.Region) ClaimLine {
	out := ClaimLine{Claim: c, Powers: []claims.Power{}}
	for _, k := range kinds {
		reader, ok := k.(ClaimReader)
		if !ok {
			continue
		}
		if said, is, err := reader.ReadClaim(c.Text, region); is {
			if out.Said = said; err != nil {
				out.Error = claims.Detail(err)
			}
			return out
		}
	}
	if other, is, err := claims.ParseOther(c.Text, region); is {
		if err != nil {
			out.Error, out.Word = claims.Detail(err), claims.WordOf(err)
			return out
		}
		out.Said, out.other = other.Words(), &other
		return out
	}
	powers, err := claims.ParseLine(c.Text, region)
	if err != nil {
		out.Error, out.Word = claims.Detail(err), claims.WordOf(err)
		return out
	}
	for _, p := range powers {
		if err := units.CheckW(p.W); err != nil {
			out.Error = err.Error()
			return out
		}
	}
	out.Powers = powers
	return out
}

// Others are the claims of a kind beside power, in the order they were typed.
func (r *Review) Others(kind claims.OtherKind) []claims.Other {
	var out []claims.Other
	for _, l := range r.Lines {
		if l.other != nil && l.other.Kind == kind {
			out = append(out, *l.other)
		}
	}
	return out
}

// BookOf is the rule book that a band is judged by.
func (r *Review) BookOf(band string) *rulebook.Book {
	if b := r.books[band]; b != nil {
		return b
	}
	return r.Book
}

// AllBooks are the rule books the review is judged by, each once: that of the review, and
// those of its bands in their order.
func (r *Review) AllBooks() []*rulebook.Book {
	out := []*rulebook.Book{r.Book}
	for _, c := range r.Cells {
		if b := r.BookOf(c.Band.Name); !slices.Contains(out, b) {
			out = append(out, b)
		}
	}
	return out
}

// Room is a kind in this review, opened once.
func (r *Review) Room(k Kind) Room {
	name := k.About().Name
	if r.rooms[name] == nil {
		r.rooms[name] = k.Open(r)
	}
	return r.rooms[name]
}

// Shelf is every rule book that the review was opened with, in the order of their ids: those it is judged by, and
// those that bands it does not have would be.
func (r *Review) Shelf() []*rulebook.Book { return r.shelf }

// Facts are all that was measured, and what was said of it.
func (r *Review) Facts() record.Facts { return r.facts }

// Of lists the measurements of a kind in the order taken.
func (r *Review) Of(kind string) []*record.Measurement {
	var out []*record.Measurement
	for i := range r.facts.Measurements {
		if m := &r.facts.Measurements[i]; m.Kind == kind {
			out = append(out, m)
		}
	}
	return out
}

// Taken tells whether anything was measured, of whatever kind.
func (r *Review) Taken() bool { return len(r.facts.Measurements) > 0 }

// Standing is the last word on a measurement, with its reason.
func (r *Review) Standing(id string) (standing, reason string) {
	if s, ok := r.standings[id]; ok {
		return s.Standing, s.Reason
	}
	return record.InForce, ""
}

// Stands tells whether a measurement is neither struck nor suspect.
func (r *Review) Stands(id string) bool {
	standing, _ := r.Standing(id)
	return standing != record.Struck && standing != record.Suspect
}

// MayExplain tells whether a measurement is of a kind whose differences can be explained.
func (r *Review) MayExplain(id string) bool {
	for _, m := range r.facts.Measurements {
		if m.ID != id {
			continue
		}
		return slices.ContainsFunc(r.Kinds, func(k Kind) bool { about := k.About(); return about.Name == m.Kind && about.Explains })
	}
	return true // whether there is such a measurement is asked elsewhere
}

// Cell is the box of the matrix that something keyed belongs to; nil where there is none.
func (r *Review) Cell(k record.Keyed) *claims.Cell {
	i := slices.IndexFunc(r.Cells, func(c claims.Cell) bool {
		return c.Band.Name == k.Band && c.Level == k.Level && c.Mode == k.Mode
	})
	if i < 0 {
		return nil
	}
	return &r.Cells[i]
}

// Meant is what was keyed, in the mode of its box where that is the only one there: a mode
// that nobody said is taken for any.
func (r *Review) Meant(k record.Keyed) record.Keyed {
	if r.Cell(k) != nil {
		return k
	}
	var modes []record.Mode
	for _, c := range r.Cells {
		if c.Band.Name == k.Band && (c.Level == k.Level || k.Level == "") && !slices.Contains(modes, c.Mode) {
			modes = append(modes, c.Mode)
		}
	}
	if len(modes) == 1 && (k.Mode == "" || modes[0] == "") {
		k.Mode = modes[0]
	}
	return k
}

// Outside tells whether what was keyed lies outside the band of its box.
func (r *Review) Outside(k record.Keyed) bool {
	c := r.Cell(k)
	return c != nil && !c.Band.Contains(units.Hertz(k.FrequencyHz))
}

// Unread tells whether a claim could not be read, so that boxes may be missing.
func (r *Review) Unread() bool {
	return slices.ContainsFunc(r.Lines, func(l ClaimLine) bool { return l.Error != "" })
}

// BoxName names a box: band and level, with the mode where the review has several.
func (r *Review) BoxName(c claims.Cell) string {
	if c.Band.Name == "" {
		return "the radio"
	}
	name := c.Band.Name
	if c.Level != "" {
		name += " " + c.Level
	}
	if c.Mode != "" && slices.ContainsFunc(r.Cells, func(o claims.Cell) bool { return o.Mode != c.Mode }) {
		return name + " " + string(c.Mode)
	}
	return name
}

// HasBox tells whether a kind of measurement has a box for something keyed.
func (r *Review) HasBox(about About, k record.Keyed) bool {
	return slices.ContainsFunc(about.Cells(r), func(c claims.Cell) bool {
		return c.Band.Name == k.Band && c.Mode == k.Mode && c.Level == k.Level
	})
}

// PowerOnly is the scope of a review that is of power alone.
const PowerOnly = "power"

// LeavesOut tells whether a kind that every review has was declared to be no part of this one. What was
// taken all the same is ruled on.
func (r *Review) LeavesOut(kind string) bool {
	return r.Sheet.Scope == PowerOnly && kind == "emissions" && len(r.Of(kind)) == 0
}

// Bands are the bands and modes of the matrix, each once, as cells without a level.
func (r *Review) Bands() []claims.Cell {
	var out []claims.Cell
	for _, c := range r.Cells {
		if !slices.ContainsFunc(out, func(o claims.Cell) bool { return o.Band.Name == c.Band.Name && o.Mode == c.Mode }) {
			out = append(out, claims.Cell{Band: c.Band, Mode: c.Mode})
		}
	}
	return out
}

// Heard are the bands that are said to be received only, each once, as cells without a level.
func (r *Review) Heard() []claims.Cell {
	var out []claims.Cell
	sent := r.Bands()
	for _, o := range r.Others(claims.ReceiveOnly) {
		same := func(c claims.Cell) bool { return c.Band.Name == o.Band && c.Mode == o.Mode }
		if band, ok := bands.Find(o.Band, r.Subject.Region); ok && !slices.ContainsFunc(sent, same) && !slices.ContainsFunc(out, same) {
			out = append(out, claims.Cell{Band: band, Mode: o.Mode})
		}
	}
	return out
}

// Title names the unit, never only the model.
func (r *Review) Title() string { return TitleOf(r.Subject) }

// TitleOf names a unit: maker and model, serial, date code and firmware where known.
func TitleOf(s record.Subject) string {
	title := fmt.Sprintf("%s %s", s.Maker, s.Model)
	for _, part := range []struct{ what, value string }{{"serial", s.Serial}, {"date code", s.DateCode}, {"firmware", s.Firmware}} {
		if part.value != "" {
			title += fmt.Sprintf(", %s %s", part.what, part.value)
		}
	}
	if s.Changes != "" {
		title += ", changed"
	}
	return title
}
