package publish

import (
	"fmt"
	"strings"

	"talloak/core/decision"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
	"talloak/core/reading"
	"talloak/core/uncertainty"
	"talloak/core/units"
)

func spoken(v decision.Verdict) string { return v.Spoken() }

// spokenOfMany is how a verdict is shown of emissions, which are many.
func spokenOfMany(v decision.Verdict) string {
	if many, ok := map[decision.Verdict]string{decision.Pass: "pass", decision.Fail: "fail", decision.SoFar: "pass so far"}[v]; ok {
		return many
	}
	return spoken(v)
}

// Term is a word of the trade with what it means to somebody who buys a radio.
type Term struct{ Word, Means string }

// shapesLegend explains the shapes, in the order a reader meets them.
var shapesLegend = []struct {
	Verdict decision.Verdict
	Means   string
}{
	{decision.Pass, "within the limit or claim by more than the uncertainty; over the whole radio, only when everything was examined in full"},
	{decision.SoFar, "all that was examined passes, but not all was examined in full"},
	{decision.Fail, "beyond the limit or short of the claim by more than the uncertainty"},
	{decision.Inconclusive, "nearer to the limit or claim than the uncertainty allows to tell"},
	{decision.NotCovered, "looked at, but not so that anything can be said"},
	{decision.NotExamined, "nobody looked"},
	{decision.NoLimit, "the book governs this radio here, but sets no figure"},
	{decision.NotGoverned, "the book is not about this frequency"},
	{decision.NoClaim, "nothing is claimed that the figure could be held against"},
	{decision.Void, "the evidence itself is not valid"},
}

// terms explains the words that the page uses.
func terms(d Document) []Term {
	out := []Term{
		{"Band and level", "a band of frequencies and one of the power levels that can be chosen on the radio"},
		{"Watts, dBm", "power; 30 dBm are 1 W, and every 10 dB are ten times as much or a tenth"},
		{"dBc", "decibels below the radio's own carrier: −40 dBc is a ten-thousandth of it"},
		{"Harmonic, spur", "what a transmitter sends beside its own frequency: at whole multiples of it, or elsewhere"},
		{"Absolute term, relative term", "the two ways a rule may set a limit: so much power at most, or so many dB below the carrier; the floor is what need not be gone below"},
		{"Rectangular, U-shaped, normal, t", "how a part of an uncertainty is spread: alike between two limits (divided by the root of 3); most at the limits, as mismatch is (by the root of 2); as a certificate states it (by its k); as repeated readings scatter, wider where there are few"},
		{"k = 2", "the uncertainty printed covers the true value about 95 times in 100"},
		{"Margin", "limit less level: positive is room, negative is excess"},
	}
	if decision.Rule(d.Rules.DecisionRule) == decision.Guarded {
		out = append(out, Term{"Guarded", "passes only with the uncertainty to spare, fails only beyond it; what lies between is too close to call"})
	} else {
		out = append(out, Term{"Simple", "the measured value decides, whatever its uncertainty"})
	}
	return append(out, Term{"Makes its claim", d.Board.Rules.Claim})
}

// typedOut spells out what was typed for a reading.
func typedOut(r power.Reading) string {
	e := r.Entry
	var out []string
	if len(e.Readings) > 0 {
		var shown []string
		for _, v := range e.Readings {
			shown = append(shown, fmt.Sprintf("%g", v.Value))
		}
		out = append(out, fmt.Sprintf("the meter showed %s %s", strings.Join(shown, ", "), r.Unit))
	}
	if e.PeakW != nil {
		out = append(out, "peak "+units.Watts(*e.PeakW).String())
	}
	if e.ReflectedW != nil {
		out = append(out, "reflected "+units.Watts(*e.ReflectedW).String())
	}
	if e.SWR != nil {
		out = append(out, fmt.Sprintf("SWR %g", *e.SWR))
	}
	if e.Level != nil {
		out = append(out, fmt.Sprintf("the radio showed level %s", levelWord(*e.Level)))
	}
	if e.SupplyV != nil {
		out = append(out, fmt.Sprintf("%g V", *e.SupplyV))
	}
	if e.SupplyA != nil {
		out = append(out, fmt.Sprintf("%g A", *e.SupplyA))
	}
	if e.Remark != nil {
		out = append(out, "remark: "+*e.Remark)
	}
	return strings.Join(out, "; ")
}

func levelWord(code string) string {
	if w, ok := map[string]string{"h": "high", "m": "mid", "l": "low", "t": "turbo", "e": "eco", "xl": "extra low"}[code]; ok {
		return w
	}
	return code
}

// refer is how a reading was referred to the connector, with a budget for each figure
// read: the mean, and the peak.
type refer struct {
	Meter, Path string
	Takes       string // that loss, part by part, where it has several
	LossDB      *float64
	Budgets     []figureBudget
}

type figureBudget struct {
	Of       string
	Parts    uncertainty.Budget
	Combined float64 // expanded, percent of the power
}

func way(d Document, r power.Reading) refer {
	out := refer{Path: r.Through.Name}
	if c := d.Read[r.ID]; c != nil {
		out.Meter, out.LossDB = c.Meter, c.LossDB
		if len(c.Takes) > 1 {
			out.Takes = takeWords(c)
		}
	}
	add := func(of string, read *reading.Result) {
		if read != nil && len(read.Budget) > 0 {
			out.Budgets = append(out.Budgets, figureBudget{of, read.Budget, 100 * read.Budget.Expanded()})
		}
	}
	add("", r.Result)
	add(" of the peak", r.Peak)
	return out
}

// carrierWords says what the carrier's power is, and from where.
func carrierWords(e emissions.Ruling, shownW *float64, readings []power.Reading) string {
	r := e.Ruling
	if r == nil || r.CarrierDBm == nil || shownW == nil {
		return "The carrier's power is not known."
	}
	w := units.Watts(*shownW)
	seen := ""
	if r.CarrierSeen != nil {
		seen = fmt.Sprintf(" The sweep shows it at %s.", dbm(r.CarrierSeen))
	}
	if e.MeanW == nil {
		return fmt.Sprintf("Carrier %s, read off the sweep: no power meter was read.", w)
	}
	for _, read := range readings {
		if read.ID == e.MeanFrom {
			return fmt.Sprintf("Carrier %s (%s), by the reading of %s at %s.%s", w, dbm(r.CarrierDBm), day(read.TakenAt), hertz(read.FrequencyHz), seen)
		}
	}
	return fmt.Sprintf("Carrier %s (%s), by the power meter.%s", w, dbm(r.CarrierDBm), seen)
}
