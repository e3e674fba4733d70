package rulebook

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"

	"talloak/core/problem"
	"talloak/core/strictjson"
	"talloak/core/units"
)

// Shelf is the books that ship and those of the user's own, as they stand.
type Shelf struct {
	books map[string]*Book
	own   map[string]bool
	ids   []string
}

// NewShelf begins with the books that ship, in their order.
func NewShelf(find func(id string) (*Book, bool), ids []string) *Shelf {
	s := &Shelf{books: map[string]*Book{}, own: map[string]bool{}}
	for _, id := range ids {
		if b, ok := find(id); ok {
			s.books[id], s.ids = b, append(s.ids, id)
		}
	}
	return s
}

// Find is a book by its id; one that was withdrawn is still found, since reviews may be
// judged by it. It must not be changed.
func (s *Shelf) Find(id string) (*Book, bool) {
	b, ok := s.books[id]
	return b, ok
}

// IsOwn tells that a book did not ship.
func (s *Shelf) IsOwn(id string) bool { return s.own[id] }

// Books are those that are offered, in their order: what ships, then the user's own.
func (s *Shelf) Books() []*Book {
	out := make([]*Book, len(s.ids))
	for i, id := range s.ids {
		out[i] = s.books[id]
	}
	return out
}

var bookID = regexp.MustCompile(`^[a-z0-9][a-z0-9.-]{1,59}$`)

// Accept reads a book that is to be put on the shelf: one with an id of its own, not that of
// a book that ships. What others say of having checked theirs is not taken over. The error
// is a *problem.Error on the fields of the book.
func (s *Shelf) Accept(text []byte) (*Book, error) {
	var b Book
	if err := strictjson.Decode(text, &b); err != nil {
		return nil, err
	}
	var bad problem.List
	b.check(&bad)
	b.checkKept(&bad)
	if b.ID != "" && !bookID.MatchString(b.ID) {
		bad.Add("id", "give an id of 2 to 60 small letters, digits, points and hyphens, such as my-club-book")
	} else if s.books[b.ID] != nil && !s.own[b.ID] {
		bad.Add("id", "%s is the id of a book that ships: give yours another", b.ID)
	}
	if strings.TrimSpace(b.Title) == "" || len(b.Title) > 120 {
		bad.Add("title", "give a title of at most 120 characters")
	}
	if strings.TrimSpace(b.Source) == "" {
		bad.Add("source", "say where its limits are from: a published text, or house practice")
	}
	if b.Kind == "" {
		bad.Add("kind", "give law or house")
	}
	b.Checked = nil
	b.Recalled = b.Recalled || b.Kind == "law" // until somebody says that it was checked
	return &b, bad.Err()
}

// checkKept says what is wrong with a book that rulings will be made by, though each of its
// figures can be read: what nothing fits, and what would be left out of nothing.
func (b *Book) checkKept(bad *problem.List) {
	if len(b.Clauses) == 0 {
		bad.Add("clauses", "give at least one clause: without any nothing is ruled on")
	}
	for i, s := range b.Carriers {
		inHz(bad, fmt.Sprintf("carriers[%d].to_hz", i), &s.ToHz)
	}
	for i, c := range b.Clauses {
		field := fmt.Sprintf("clauses[%d]", i)
		inHz(bad, field+".when.carrier_from_hz", c.When.CarrierFromHz)
		inHz(bad, field+".when.carrier_to_hz", c.When.CarrierToHz)
		for k, s := range c.Segments {
			inHz(bad, fmt.Sprintf("%s.segments[%d].to_hz", field, k), s.ToHz)
			for n, t := range s.Terms {
				at := fmt.Sprintf("%s.segments[%d].terms[%d].", field, k, n)
				within(bad, at+"relative_db", t.RelativeDB, 0, 150, "dB")
				within(bad, at+"formula_db", t.FormulaDB, -50, 150, "dB")
				within(bad, at+"absolute_dbm", t.AbsoluteDBm, -150, 60, "dBm")
			}
		}
		within(bad, field+".exclusion.offset_hz", &c.Exclusion.OffsetHz, 0, 5e6, "Hz")
		within(bad, field+".exclusion.percent_of_bandwidth", &c.Exclusion.PercentOfBandwidth, 0, 1000, "%")
		if !c.When.canFit() {
			bad.Add(field+".when", "no carrier can have such a power")
		}
		if c.Exclusion.PercentOfBandwidth > 0 && len(b.Bandwidths) == 0 {
			bad.Add(field+".exclusion.percent_of_bandwidth", "give the authorised bandwidth it is a percentage of")
		}
		if !c.Exempt && len(c.Segments) == 0 {
			bad.Add(field+".segments", "give a limit, or say that it is exempt")
		}
	}
	for i, w := range b.Bandwidths {
		within(bad, fmt.Sprintf("authorised_bandwidths[%d].bandwidth_hz", i), &w.BandwidthHz, 50, 10e6, "Hz")
	}
	for i, l := range b.PowerLimits {
		within(bad, fmt.Sprintf("power_limits[%d].max_w", i), &l.MaxW, units.LeastW, 1e6, "W")
	}
	for i, s := range b.Search {
		if s.FromHz == nil && s.FromMultiple == nil && !s.FromLowestGenerated || s.ToHz == nil && s.ToMultiple == nil {
			bad.Add(fmt.Sprintf("search[%d]", i), "say from where and how far to look")
		}
	}
}

// within refuses a figure that no limit has, by which a book would decide without a limit
// (common practice, no source).
func within(bad *problem.List, field string, v *float64, least, most float64, unit string) {
	if v != nil && !(*v >= least && *v <= most) {
		bad.Add(field, "give %g to %g %s", least, most, unit)
	}
}

// inHz refuses a frequency of so few Hz that MHz or kHz were meant: radio services begin at
// 8.3 kHz (ITU Radio Regulations, Article 5, from memory).
func inHz(bad *problem.List, field string, hz *float64) {
	if hz != nil && *hz > 0 && *hz < 8e3 {
		bad.Add(field, "%g Hz is no radio frequency: give it in Hz, such as 144e6 for 144 MHz", *hz)
	}
}

// canFit tells that the powers of a condition leave one over: if any fits, the lowest does.
func (w *Condition) canFit() bool {
	lowest := math.SmallestNonzeroFloat64
	if w.MeanFromW != nil {
		lowest = max(lowest, *w.MeanFromW)
	}
	if w.MeanOverW != nil {
		lowest = max(lowest, math.Nextafter(*w.MeanOverW, math.Inf(1)))
	}
	return w.fitsPower(lowest)
}

// Put lays a book of the user's own on the shelf; what was checked of an earlier wording
// does not hold for this one.
func (s *Shelf) Put(b *Book) {
	s.books[b.ID], s.own[b.ID] = b, true
	if !slices.Contains(s.ids, b.ID) {
		s.ids = append(s.ids, b.ID)
	}
}

// PutUnread lays a book of the user's own on the shelf whose words this program cannot read:
// nothing is ruled on by it, least of all by an earlier wording.
func (s *Shelf) PutUnread(id string, why error) {
	s.Put(&Book{ID: id, Title: id + ", which cannot be read", Kind: "house", Recalled: true, Source: "kept words that this program does not understand", Note: why.Error()})
}

// Check notes that a book was held against its text.
func (s *Shelf) Check(id string, by Checked) {
	if b, ok := s.books[id]; ok {
		checked := *b
		checked.Checked = &by
		s.books[id] = &checked
	}
}

// Withdraw takes a book of the user's own out of what is offered.
func (s *Shelf) Withdraw(id string) {
	if s.own[id] {
		s.ids = slices.DeleteFunc(slices.Clone(s.ids), func(o string) bool { return o == id })
	}
}

// Check says what is wrong with who checked a book, against which edition of its text, when.
// The error is a *problem.Error.
func (c Checked) Check() error {
	var bad problem.List
	if strings.TrimSpace(c.By) == "" || len(c.By) > 120 {
		bad.Add("by", "say who held it against the text")
	}
	if strings.TrimSpace(c.Edition) == "" || len(c.Edition) > 200 {
		bad.Add("edition", "say which edition of the text, such as 2026-01-01, Vol. 1")
	}
	if !IsDate(c.On) {
		bad.Add("on", "give the date, such as 2026-11-25")
	}
	return bad.Err()
}
