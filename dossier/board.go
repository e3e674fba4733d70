package dossier

import (
	"fmt"
	"slices"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// BoardCell is one box of the board. Name tells it from the others. Power and
// Verdict, of the emissions, are verdicts; what stands behind them is beside. Notes
// are what is wrong with the evidence itself.
type BoardCell struct {
	Cell        claims.Cell      `json:"cell"`
	Name        string           `json:"name"`
	Power       decision.Verdict `json:"power"`
	PowerWhy    string           `json:"power_why"`
	Reading     *Reading         `json:"reading"`
	Of          int              `json:"readings"`
	Frequencies []float64        `json:"frequencies_hz"` // at which power was read, inside the band
	Verdict     decision.Verdict `json:"verdict"`
	Why         string           `json:"why"`
	Emissions   Emissions        `json:"emissions"`
	Notes       []Note           `json:"notes"`
}

// Note is what is wrong with evidence as a whole: in a few words, and in full.
type Note struct {
	Short  string `json:"short"`
	Detail string `json:"detail"`
}

// Board is the ruling on a review: every box, what they come to, and the sentence
// above them.
type Board struct {
	Title     string         `json:"title"`
	Headline  string         `json:"headline"`
	Power     decision.Whole `json:"power"`
	Emissions decision.Whole `json:"emissions"`
	Rules     RulesView      `json:"rules"`
	Cells     []BoardCell    `json:"cells"`
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
	var power, emissions []decision.Part
	for _, c := range d.Cells {
		k := Keyed{c.Band.Name, c.Level, c.Mode, float64(c.Band.UsualHz)}
		cell := BoardCell{Cell: c, Name: d.BoxName(c), Emissions: d.Emissions(k, pictures), Frequencies: []float64{}}
		p := d.PowerOf(k)
		cell.Reading, cell.Of, cell.Power, cell.PowerWhy = p.Reading, p.Of, p.Verdict, p.Why
		cell.Frequencies = append(cell.Frequencies, p.Frequencies...)
		cell.Verdict, cell.Why = emissionsVerdict(cell.Emissions)
		cell.Notes = notes(cell.Emissions)
		out.Cells = append(out.Cells, cell)
		power = append(power, decision.Part{Verdict: cell.Power, Full: true})
		emissions = append(emissions, decision.Part{Verdict: cell.Verdict, Full: true}) // or it passes only so far
	}
	out.Power, out.Emissions = decision.Sum(power, d.Unread()), decision.Sum(emissions, d.Unread())
	out.Headline = headline(out)
	return out
}

// Unread tells whether a claim could not be read, so that boxes may be missing.
func (d *Dossier) Unread() bool {
	for _, l := range d.Lines {
		if l.Error != "" {
			return true
		}
	}
	return false
}

// BoxName names a box: band and level, with the mode where the review has several.
func (d *Dossier) BoxName(c claims.Cell) string {
	name := c.Band.Name + " " + c.Level
	for _, o := range d.Cells {
		if o.Mode != c.Mode {
			return name + " " + string(c.Mode)
		}
	}
	return name
}

func (d *Dossier) rulesView() RulesView {
	v := RulesView{RuleBook: d.Book.ID, Book: d.Book.Title, Recalled: d.Book.Recalled && d.Book.Checked == nil, House: d.Book.Kind == "house"}
	v.Claim = fmt.Sprintf("the claim less %.1f dB, which is %.0f %% of it and more", d.Rules.ToleranceDB, 100/units.DB(d.Rules.ToleranceDB).Ratio())
	if claims.Scheme(d.Rules.Scheme) == claims.Percent {
		v.Claim = fmt.Sprintf("%.0f %% of the claim and more", d.Rules.PassPercent)
	}
	v.Decision = "guarded: what lies within the uncertainty of the limit is too close to call"
	if decision.Rule(d.Rules.DecisionRule) == decision.Simple {
		v.Decision = "simple: the measured value decides, whatever its uncertainty"
	}
	return v
}

// doubtful are the findings that are about the evidence as a whole, in a few words.
var doubtful = []struct{ code, short string }{
	{"carrier-disagrees", "carrier and power meter disagree"},
	{"carrier-missing", "no carrier in the sweep"},
	{"carrier-unchecked", "no power meter was read"},
	{"carrier-against-claim", "carrier far from its claim"},
	{"power-contradicts", "power readings contradict"},
	{"not-a-sweep", "a list of figures, not a sweep"},
	{"modulation-not-told", "not told whether modulated, at a narrow bandwidth"},
	{"overload", "more at the input than it survives"},
}

func notes(e Emissions) []Note {
	out := []Note{}
	if e.Ruling == nil {
		return out
	}
	for _, d := range doubtful {
		if detail, ok := e.Ruling.Says(d.code); ok {
			out = append(out, Note{d.short, detail})
		}
	}
	return out
}

// emissionsVerdict is what is said of a box: the ruling, or why there is none.
func emissionsVerdict(e Emissions) (decision.Verdict, string) {
	switch {
	case e.Void != "":
		return decision.Void, e.Void
	case e.Ruling == nil:
		return decision.NotExamined, e.Why
	case !slices.ContainsFunc(e.Sweeps, func(s SweepView) bool { return s.Standing == inForce }):
		return decision.NotCovered, "every sweep is struck or suspect"
	case e.Outside:
		return decision.NotCovered, fmt.Sprintf("swept outside the band claimed only, at %s", units.Hertz(e.FrequencyHz))
	}
	r := e.Ruling
	switch {
	case !r.Governs:
		return decision.NotGoverned, fmt.Sprintf("%s does not govern %s", e.BookTitle, units.Hertz(e.FrequencyHz))
	case r.Verdict == decision.NoLimit && r.Detail != nil:
		return r.Verdict, *r.Detail
	case r.Verdict == decision.NoLimit:
		return r.Verdict, "the book sets no limit here"
	case r.Verdict == decision.Void:
		return r.Verdict, "neither a power reading nor a carrier in the sweep"
	case r.Worst == nil || r.Worst.MarginDB == nil:
		return r.Verdict, "nothing was examined"
	}
	suspected := ""
	if r.Worst.Suspect {
		suspected = ", perhaps the analyzer's own"
	}
	why := fmt.Sprintf("%s %s, by the %s term%s", ProductName(*r.Worst), units.DB(*r.Worst.MarginDB).Signed(), termName(r.Worst.DecidedBy), suspected)
	verdict := r.Verdict
	if verdict == decision.Pass && !r.InFull() {
		verdict = decision.SoFar
		why += ", " + coverageWords(r.Coverage)
	}
	if n := notes(e); len(n) > 0 && (verdict == decision.Inconclusive || verdict == decision.SoFar) {
		why += ", " + n[0].Short
	}
	return verdict, why
}

func termName(by *string) string {
	if by == nil {
		return "limit"
	}
	return map[rulebook.DecidedBy]string{
		rulebook.ByRelative: "relative", rulebook.ByAbsolute: "absolute", rulebook.ByFormula: "formula", rulebook.ByFloor: "floor",
	}[rulebook.DecidedBy(*by)]
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

// order of verdicts where one of several stands: the worst comes first.
var order = []decision.Verdict{decision.Fail, decision.Void, decision.Inconclusive, decision.SoFar, decision.Pass, decision.NotCovered, decision.NotExamined, decision.NoLimit, decision.NotGoverned}

func margin(e Emissions) float64 {
	if r := e.Ruling; r != nil && r.Worst != nil && r.Worst.MarginDB != nil {
		return *r.Worst.MarginDB
	}
	return 1e9
}
