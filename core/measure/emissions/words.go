package emissions

import (
	"fmt"
	"slices"

	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/units"
)

// doubtful are the findings that are about the evidence as a whole, in a few words.
var doubtful = []struct {
	code  say.Code
	short string
}{
	{"carrier-disagrees", "carrier and power meter disagree"},
	{"relative-only", "relative only"},
	{"carrier-missing", "no carrier in the sweep"},
	{"carrier-unchecked", "no power meter was read"},
	{"carrier-against-claim", "carrier far from its claim"},
	{"power-contradicts", "power readings contradict"},
	{"not-a-sweep", "a list of figures, not a sweep"},
	{"modulation-not-told", "not told whether modulated, at a narrow bandwidth"},
	{"overload", "more at the input than it survives"},
	{"sightings-disagree", "two looks at one product disagree"},
	{"self-made-unknown", "perhaps the analyzer's own"},
	{"clause-edge", "the power may lie on either side of a clause"},
	{"near-multiple", "a line beside a multiple"},
	{"floor-doubtful", "a floor lower than can be seen"},
}

func notes(e Ruling) []measure.Note {
	out := []measure.Note{}
	if e.Ruling == nil {
		return out
	}
	for _, d := range doubtful {
		if detail, ok := e.Ruling.Says(d.code); ok {
			out = append(out, measure.Note{Short: d.short, Detail: detail})
		}
	}
	for _, s := range e.Sweeps { // the others rule without it, and that is said
		if s.Doubtful && s.Standing == record.InForce {
			out = append(out, measure.Note{Short: "a sweep or look not to be believed was left out", Detail: s.Name + " was left out: " + s.Void})
		}
	}
	return out
}

// said is what is said of a box: the ruling, or why there is none.
func said(e Ruling) (decision.Verdict, string) {
	switch {
	case e.Void != "":
		return decision.Void, e.Void
	case e.Ruling == nil:
		return decision.NotExamined, e.Why
	case !slices.ContainsFunc(e.Sweeps, func(s SweepView) bool { return s.Standing == record.InForce }):
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
	why := fmt.Sprintf("%s %s, by the %s term%s", r.Worst.Name(), roomWords(e), termName(r.Worst.DecidedBy), suspected)
	if e.Relative {
		why += ", relative only"
	}
	verdict := r.Verdict
	if verdict == decision.Pass && !r.InFull() {
		verdict = decision.SoFar
		why += ", " + coverageWords(r.Coverage)
	}
	if n := notes(e); len(n) > 0 && !e.Relative && (verdict == decision.Inconclusive || verdict == decision.SoFar) {
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

// order of verdicts where one of several stands: the worst comes first.
var order = []decision.Verdict{decision.Fail, decision.Void, decision.Inconclusive, decision.SoFar, decision.Pass, decision.NotCovered, decision.NotExamined, decision.NoLimit, decision.NotGoverned}

// room is what the worst product has under its limit, at least, in dB; negative over it.
func room(e Ruling) float64 {
	if r := e.Ruling; r != nil && r.Worst != nil && r.Worst.RoomDB != nil {
		return *r.Worst.RoomDB
	}
	return 1e9
}

// roomWords say it; of what was not seen, that it is so much at least.
func roomWords(e Ruling) string {
	least := ""
	if w := e.Ruling.Worst; w != nil && !w.Seen {
		least = "at least "
	}
	return least + units.DB(room(e)).Signed()
}
