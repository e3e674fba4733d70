package dossier

import (
	"fmt"
	"strings"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/units"
)

// BoardCell is one box of the board. Power and Emissions are verdicts; what
// stands behind them is beside.
type BoardCell struct {
	Cell      claims.Cell      `json:"cell"`
	Power     decision.Verdict `json:"power"`
	PowerWhy  string           `json:"power_why"`
	Reading   *Reading         `json:"reading"`
	Of        int              `json:"readings"`
	Verdict   decision.Verdict `json:"verdict"`
	Why       string           `json:"why"`
	Emissions Emissions        `json:"emissions"`
}

// Board is the ruling on a review: every box, and the sentence above them.
type Board struct {
	Title    string           `json:"title"`
	Headline string           `json:"headline"`
	Verdict  decision.Verdict `json:"verdict"`
	Rules    RulesView        `json:"rules"`
	Cells    []BoardCell      `json:"cells"`
}

// RulesView is what the board was judged by, in words.
type RulesView struct {
	RuleBook string `json:"rule_book"`
	Book     string `json:"book"`
	Claim    string `json:"claim"`
	Decision string `json:"decision"`
	Recalled bool   `json:"recalled"`
	House    bool   `json:"house"`
}

// Board works out every box. Pictures are left out unless asked for.
func (d *Dossier) Board(pictures bool) Board {
	out := Board{Title: d.Title(), Rules: d.rulesView(), Cells: []BoardCell{}}
	for _, c := range d.Cells {
		k := Keyed{c.Band.Name, c.Level, c.Mode, float64(c.Band.UsualHz)}
		cell := BoardCell{Cell: c, Emissions: d.Emissions(k, pictures)}
		cell.Reading, cell.Of = d.PowerOf(k)
		cell.Power, cell.PowerWhy = powerVerdict(cell.Reading, cell.Of)
		cell.Verdict, cell.Why = emissionsVerdict(cell.Emissions)
		out.Cells = append(out.Cells, cell)
	}
	out.Verdict = overall(out.Cells)
	out.Headline = headline(out)
	return out
}

func (d *Dossier) rulesView() RulesView {
	v := RulesView{RuleBook: d.Book.ID, Book: d.Book.Title, Recalled: d.Book.Recalled && d.Book.Checked == nil, House: d.Book.Kind == "house"}
	v.Claim = fmt.Sprintf("the claim less %.1f dB", d.Rules.ToleranceDB)
	if claims.Scheme(d.Rules.Scheme) == claims.Percent {
		v.Claim = fmt.Sprintf("%.0f %% of the claim", d.Rules.PassPercent)
	}
	v.Decision = "guarded: a margin within the uncertainty is too close to call"
	if decision.Rule(d.Rules.DecisionRule) == decision.Simple {
		v.Decision = "simple: the measured value decides, whatever its uncertainty"
	}
	return v
}

func powerVerdict(r *Reading, of int) (decision.Verdict, string) {
	switch {
	case of == 0:
		return decision.NotCovered, "no reading was taken"
	case r == nil:
		return decision.Void, fmt.Sprintf("none of %d readings counts", of)
	case r.AgainstClaim == nil:
		return decision.NoLimit, whyNotHeld(r)
	case r.AgainstClaim.DeltaDB == nil:
		return r.AgainstClaim.Verdict, "no output"
	}
	return r.AgainstClaim.Verdict, fmt.Sprintf("%.0f %% of the claim, %s", r.AgainstClaim.Percent, units.DB(*r.AgainstClaim.DeltaDB).Signed())
}

func whyNotHeld(r *Reading) string {
	if r.ClaimedW != nil && r.MeasuredW == nil {
		return "a peak is claimed, and none was noted (pk)"
	}
	return "nothing is claimed that the reading could be held against"
}

func emissionsVerdict(e Emissions) (decision.Verdict, string) {
	if e.Ruling == nil {
		return decision.NotCovered, e.Why
	}
	r := e.Ruling
	switch {
	case r.Verdict == decision.NoLimit && r.Detail != nil:
		return r.Verdict, *r.Detail
	case r.Verdict == decision.Void:
		return r.Verdict, "neither a power reading nor a carrier in the sweep"
	case r.Worst == nil || r.Worst.MarginDB == nil:
		return r.Verdict, "nothing was examined"
	}
	return r.Verdict, fmt.Sprintf("%s %s, by the %s term", ProductName(*r.Worst), units.DB(*r.Worst.MarginDB).Signed(), termName(r.Worst.DecidedBy))
}

func termName(by *string) string {
	if by == nil {
		return "limit"
	}
	return *by
}

// ProductName is how a product is spoken of: "3rd harmonic", "spur at 1.2 GHz".
func ProductName(p judge.Product) string {
	switch p.Kind {
	case judge.Harmonic:
		return Ordinal(*p.Order) + " harmonic"
	case judge.Subharmonic:
		return "half the carrier"
	}
	return "spur at " + units.Hertz(*p.FrequencyHz).String()
}

// Ordinal is 1st, 2nd, 3rd, 4th, 11th.
func Ordinal(n int) string {
	suffix := "th"
	if n%100 < 11 || n%100 > 13 {
		switch n % 10 {
		case 1:
			suffix = "st"
		case 2:
			suffix = "nd"
		case 3:
			suffix = "rd"
		}
	}
	return fmt.Sprintf("%d%s", n, suffix)
}

// order of the overall verdict: the worst comes first.
var order = []decision.Verdict{decision.Fail, decision.Inconclusive, decision.Pass, decision.NotCovered, decision.NoLimit, decision.Void}

func overall(cells []BoardCell) decision.Verdict {
	for _, v := range order {
		for _, c := range cells {
			if c.Verdict == v {
				return v
			}
		}
	}
	return decision.NotCovered
}

// headline is the sentence a reader takes away: emissions with their coverage,
// then power.
func headline(b Board) string {
	parts := []string{emissionsSentence(b)}
	short, over := []string{}, 0
	judged, doubtful := 0, 0
	for _, c := range b.Cells {
		if c.Reading == nil || c.Reading.AgainstClaim == nil {
			continue
		}
		judged++
		if c.Power == decision.Inconclusive {
			doubtful++
		}
		if c.Power == decision.Fail {
			short = append(short, fmt.Sprintf("%s %s %s of %s", c.Cell.Band.Name, c.Cell.Level, units.Watts(*c.Reading.MeasuredW), units.Watts(c.Cell.Claimed)))
		}
		if c.Reading.AgainstClaim.Grade == claims.Over {
			over++
		}
	}
	switch {
	case judged == 0:
		parts = append(parts, "No power was held against a claim.")
	case len(short) > 0:
		parts = append(parts, "Power is short of the claim: "+strings.Join(short, "; ")+".")
	case doubtful > 0:
		parts = append(parts, fmt.Sprintf("Power makes its claim in %d of %d boxes read; in %d it is too close to call.", judged-doubtful, judged, doubtful))
	default:
		parts = append(parts, fmt.Sprintf("Power makes its claim in all %d boxes read.", judged))
	}
	if over > 0 {
		parts = append(parts, fmt.Sprintf("In %d it is over 120 %% of the claim.", over))
	}
	return strings.Join(parts, " ")
}

func emissionsSentence(b Board) string {
	var worst *BoardCell
	examined := 0
	for i := range b.Cells {
		c := &b.Cells[i]
		if c.Emissions.Ruling == nil {
			continue
		}
		examined++
		if c.Verdict == b.Verdict && (worst == nil || margin(c) < margin(worst)) {
			worst = c
		}
	}
	if examined == 0 {
		return "Emissions were not examined."
	}
	if worst == nil {
		return "Nothing examined can be ruled on."
	}
	where := worst.Cell.Band.Name + " " + worst.Cell.Level
	reach := coverageWords(leastReach(b.Cells))
	of := fmt.Sprintf("%d of %d boxes examined", examined, len(b.Cells))
	if free := count(b.Cells, decision.NoLimit); free > 0 && b.Verdict != decision.NoLimit {
		of += fmt.Sprintf(", no limit is set for %d of them", free)
	}
	switch b.Verdict {
	case decision.Fail:
		others := ""
		if n := failing(worst.Emissions.Ruling) - 1; n > 0 {
			others = fmt.Sprintf(", and %d more over it", n)
		}
		return fmt.Sprintf("Fails on %s: %s is %.1f dB over the limit%s (%s). %s.", where, ProductName(*worst.Emissions.Ruling.Worst), -margin(worst), others, b.Rules.Book, of)
	case decision.Inconclusive:
		return fmt.Sprintf("Too close to call on %s: %s, margin %s (%s). %s.", where, ProductName(*worst.Emissions.Ruling.Worst), units.DB(margin(worst)).Signed(), b.Rules.Book, of)
	case decision.Pass:
		return fmt.Sprintf("Passes %s by %s; smallest margin %.1f dB on %s. %s.", reach, b.Rules.Book, margin(worst), where, of)
	case decision.NoLimit:
		return fmt.Sprintf("%s sets no figure for what was examined. %s.", b.Rules.Book, of)
	}
	return fmt.Sprintf("Nothing examined can be ruled on. %s.", of)
}

func failing(r *judge.Ruling) int {
	n := 0
	for _, p := range r.Products {
		if p.Verdict == decision.Fail {
			n++
		}
	}
	return n
}

func count(cells []BoardCell, v decision.Verdict) int {
	n := 0
	for _, c := range cells {
		if c.Verdict == v {
			n++
		}
	}
	return n
}

// leastReach is the coverage of the passing box that was looked at least far.
func leastReach(cells []BoardCell) judge.Coverage {
	var least *judge.Coverage
	for i := range cells {
		if cells[i].Verdict != decision.Pass {
			continue
		}
		c := &cells[i].Emissions.Ruling.Coverage
		if least == nil || c.PassesToHz == nil || least.PassesToHz != nil && *c.PassesToHz < *least.PassesToHz {
			least = c
		}
	}
	if least == nil {
		return judge.Coverage{}
	}
	return *least
}

func margin(c *BoardCell) float64 {
	if r := c.Emissions.Ruling; r != nil && r.Worst != nil && r.Worst.MarginDB != nil {
		return *r.Worst.MarginDB
	}
	return 1e9
}

func coverageWords(c judge.Coverage) string {
	if c.PassesToHz == nil {
		return "as far as was looked"
	}
	out := "as far as " + units.Hertz(*c.PassesToHz).String()
	if c.HighestHarmonic != nil {
		out += fmt.Sprintf(" (%s harmonic)", Ordinal(*c.HighestHarmonic))
	}
	return out
}
