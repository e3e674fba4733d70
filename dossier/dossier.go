package dossier

import (
	"fmt"

	"talloak/core/claims"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/uncertainty"
	"talloak/store"
)

// Books finds a rule book by its id.
type Books func(id string) (*rulebook.Book, bool)

// Dossier is a review with everything that follows from its rows.
type Dossier struct {
	Review *store.Review
	Rules  store.Rules // the review's own, or those being tried
	Book   *rulebook.Book
	Lines  []ClaimLine
	Cells  []claims.Cell

	facts     *store.Facts
	standings map[string]store.Standing
	readings  []Reading
	scatters  map[string]uncertainty.Scatter // of the repeats of each reading
}

// The standings of a measurement. Explained counts as in force; its difference from
// others was said to be no contradiction.
const (
	inForce   = "in-force"
	suspect   = "suspect"
	struck    = "struck"
	explained = "explained"
)

// ClaimLine is a claim as typed with what it was read as, or what is wrong with it.
type ClaimLine struct {
	store.Claim
	Powers []claims.Power `json:"powers"`
	Error  string         `json:"error,omitempty"`
}

// Open works out a review under the given rules. A rule book that is not known
// is an error on the field "rule_book".
func Open(r *store.Review, facts *store.Facts, rules store.Rules, books Books) (*Dossier, error) {
	book, ok := books(rules.RuleBook)
	if !ok {
		return nil, problem.New("rule_book", "there is no rule book %q here", rules.RuleBook)
	}
	d := &Dossier{Review: r, Rules: rules, Book: book, facts: facts, standings: map[string]store.Standing{}}
	d.Lines = ReadClaims(r.Claims)
	var all []claims.Power
	for _, l := range d.Lines {
		all = append(all, l.Powers...)
	}
	d.Cells = claims.Matrix(all)
	for _, s := range facts.Standings {
		d.standings[s.TargetID] = s
	}
	d.scatters = map[string]uncertainty.Scatter{}
	for _, r := range facts.Readings {
		if s, ok := scatterOf(r.Text); ok {
			d.scatters[r.ID] = s
		}
	}
	for i := range facts.Readings {
		d.readings = append(d.readings, d.reading(&facts.Readings[i]))
	}
	d.doubtLevels()
	d.doubtContradictions()
	return d, nil
}

// ReadClaims reads claims as typed; a line that cannot be read keeps its error.
func ReadClaims(lines []store.Claim) []ClaimLine {
	out := make([]ClaimLine, len(lines))
	for i, c := range lines {
		out[i] = ClaimLine{Claim: c, Powers: []claims.Power{}}
		powers, err := claims.ParseLine(c.Text)
		if err != nil {
			out[i].Error = err.(*problem.Error).Fields[0].Detail
			continue
		}
		out[i].Powers = powers
	}
	return out
}

// Title names the unit, never only the model.
func (d *Dossier) Title() string {
	s := d.Review.Subject
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

// standing is the last word on a measurement.
func (d *Dossier) standing(id string) (standing, reason string) {
	if s, ok := d.standings[id]; ok {
		return s.Standing, s.Reason
	}
	return inForce, ""
}

// SweepCount is how many sweeps were taken, struck ones too.
func (d *Dossier) SweepCount() int { return len(d.facts.Sweeps) }
