package publish

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/dossier"
	"talloak/store"
)

// Document is everything an edition says, as data.
type Document struct {
	Format    string              `json:"format"`
	Number    int                 `json:"edition"`
	FrozenAt  time.Time           `json:"frozen_at"`
	ReviewID  string              `json:"review_id"`
	Subject   store.Subject       `json:"subject"`
	Claims    []dossier.ClaimLine `json:"claims"`
	Rules     store.Rules         `json:"rules"`
	RuleBook  *rulebook.Book      `json:"rule_book"`
	Board     dossier.Board       `json:"board"`
	Readings  []dossier.Reading   `json:"readings"`
	NotTested []string            `json:"not_tested"`
	Kit       []string            `json:"kit"`
	Cautions  []string            `json:"cautions"`
}

// format names the shape of a Document.
const format = "talloak-edition-2"

// Obstacle is something between a review and its edition. Blocks tells whether
// it must be put right first; Stage is where that can be done.
type Obstacle struct {
	Code   string `json:"code"`
	Detail string `json:"detail"`
	Blocks bool   `json:"blocks"`
	Stage  string `json:"stage"`
}

// Obstacles lists what stands in the way of an edition.
func Obstacles(d *dossier.Dossier, b dossier.Board) []Obstacle {
	out := []Obstacle{}
	s := d.Review.Subject
	say := func(blocks bool, stage, code, detail string, args ...any) {
		out = append(out, Obstacle{code, fmt.Sprintf(detail, args...), blocks, stage})
	}
	if s.ComeBy == "" {
		say(true, "radio", "come-by", "say how the unit was come by")
	}
	if s.Interest == "" {
		say(true, "radio", "interest", "say whether you sell it or earn on links")
	}
	if len(d.Readings()) == 0 {
		say(true, "power", "no-reading", "log at least one reading")
	}
	if s.Serial == "" && s.DateCode == "" {
		say(false, "radio", "unit", "no serial or date code: readers cannot tell which unit this was")
	}
	for i, c := range d.Lines {
		if c.Error != "" {
			say(true, "radio", "claim-unread", "the claim %q cannot be read: %s", c.Text, c.Error)
		}
		if strings.TrimSpace(c.Source) == "" {
			say(true, "radio", "claim-source", "say where claim %d, %q, was read", i+1, c.Text)
		}
	}
	if b.Rules.Recalled {
		say(false, "ruling", "book-unchecked", "the rule book %q is recalled from memory and was not checked against the text; the edition says so", b.Rules.Book)
	}
	unrated := map[string]bool{}
	for _, c := range b.Cells {
		if c.Reading == nil {
			say(false, "power", "no-power", "%s has no reading that counts: %s", c.Name, c.PowerWhy)
		}
		for _, note := range c.Notes {
			say(false, "emissions", "evidence", "%s: %s", c.Name, note.Detail)
		}
		switch r := c.Emissions.Ruling; {
		case c.Verdict == decision.Void:
			say(false, "emissions", "void", "%s: %s", c.Name, c.Why)
		case r == nil:
			say(false, "emissions", "no-sweep", "%s has no sweep: its emissions are not examined", c.Name)
		case !r.Coverage.Complete:
			say(false, "emissions", "coverage", "%s was not examined as far as a full examination asks", c.Name)
		}
		for _, k := range kitOf(c) {
			if e := k.Spec.Element; !unrated[k.Name] && e.MaxW == nil && (e.Kind == path.Attenuator || e.Kind == path.Load || e.Kind == path.Meter) {
				unrated[k.Name] = true
				say(false, "emissions", "kit-rating", "%s has no power rating", k.Name)
			}
		}
	}
	return out
}

func kitOf(c dossier.BoardCell) []store.KitCopy {
	var out []store.KitCopy
	if c.Reading != nil {
		out = append(out, c.Reading.Through.Kit...)
	}
	for _, s := range c.Emissions.Sweeps {
		out = append(out, s.Through.Kit...)
	}
	return out
}

// Compose makes the document and page of an edition. The same dossier, number
// and time give the same bytes. Sum is the SHA-256 of the document.
func Compose(d *dossier.Dossier, number int, at time.Time) (doc, page []byte, sum string, err error) {
	content := assemble(d, number, at)
	if doc, err = json.Marshal(content); err != nil {
		return nil, nil, "", err
	}
	hash := sha256.Sum256(doc)
	sum = hex.EncodeToString(hash[:])
	page, err = Page(content, sum)
	return doc, page, sum, err
}

func assemble(d *dossier.Dossier, number int, at time.Time) Document {
	out := Document{
		Format: format, Number: number, FrozenAt: at, ReviewID: d.Review.ID, Subject: d.Review.Subject,
		Claims: d.Lines, Rules: d.Rules, RuleBook: d.Book, Board: d.Board(true), Readings: d.Readings(),
		NotTested: []string{}, Kit: []string{},
		Cautions: []string{
			"This is an independent measurement of one unit. It is no certification and replaces none.",
			"Conducted into 50 ohm at the antenna connector; radiated emissions were not measured.",
		},
	}
	out.Readings = append([]dossier.Reading{}, out.Readings...)
	withoutAdvice(&out)
	for _, c := range out.Board.Cells {
		if c.Power == decision.NotExamined {
			out.NotTested = append(out.NotTested, c.Name+": power was not read")
		}
		out.NotTested = append(out.NotTested, notExamined(c.Name, c.Emissions.Ruling)...)
	}
	out.Kit = kitLines(out)
	out.NotTested = append(out.NotTested, "Standby emissions, receiver, deviation, frequency error and battery were not part of this edition.")
	return out
}

// withoutAdvice leaves out what is meant for the reviewer: a reader can do nothing
// about it.
func withoutAdvice(d *Document) {
	plain := func(r *dossier.Reading) {
		doubts := slices.Clone(r.Doubts)
		for i := range doubts {
			doubts[i].Advice = ""
		}
		r.Doubts = doubts
	}
	for i := range d.Readings {
		plain(&d.Readings[i])
	}
	for i := range d.Board.Cells {
		c := &d.Board.Cells[i]
		if c.Reading != nil {
			copied := *c.Reading
			plain(&copied)
			c.Reading = &copied
		}
		if r := c.Emissions.Ruling; r != nil {
			for k := range r.Findings {
				r.Findings[k].Advice = ""
			}
		}
	}
}

func notExamined(where string, r *judge.Ruling) []string {
	switch {
	case r == nil:
		return []string{where + ": emissions were not examined"}
	case r.Coverage.FromHz == nil:
		return []string{where + ": no sweep in force covers anything"}
	case !r.Coverage.Complete:
		return []string{where + ": examined " + span(*r.Coverage.FromHz, *r.Coverage.ToHz) + ", not all that a full examination asks"}
	}
	return nil
}

// kitLines is the kit of every reading and sweep, the struck ones too, each once.
func kitLines(d Document) []string {
	out := []string{}
	add := func(t store.Through) {
		for _, k := range t.Kit {
			if line := kitLine(k); !slices.Contains(out, line) {
				out = append(out, line)
			}
		}
	}
	for _, r := range d.Readings {
		add(r.Through)
	}
	for _, c := range d.Board.Cells {
		for _, s := range c.Emissions.Sweeps {
			add(s.Through)
		}
	}
	return out
}

// kitLine says what an item was, how it was set, and what its figures rest on.
func kitLine(k store.KitCopy) string {
	line := kit.Title(k.Name, k.Setting)
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
func Preview(d *dossier.Dossier, number int) ([]byte, error) {
	return Page(assemble(d, number, time.Time{}), "")
}

// Freeze fills an edition that has its number and time. It refuses, with a
// *problem.Error, while something that blocks is left.
func Freeze(d *dossier.Dossier, e *store.Edition) error {
	board := d.Board(false)
	var bad problem.List
	for _, o := range Obstacles(d, board) {
		if o.Blocks {
			bad.Add(o.Code, "%s", o.Detail)
		}
	}
	if err := bad.Err(); err != nil {
		return err
	}
	var err error
	e.Title, e.Headline = board.Title, board.Headline
	e.Document, e.Page, e.SHA256, err = Compose(d, e.Number, e.FrozenAt)
	return err
}
