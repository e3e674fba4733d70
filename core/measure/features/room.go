package features

import (
	"slices"
	"strings"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/problem"
	"talloak/core/record"
)

// Name is the kind's name.
const Name = "features"

// Draft is what was found, as it is typed: a word of answers, then what it is of.
type Draft struct {
	Text string `json:"text"`
}

// Found is what was found of a thing. Claimed tells that it answers a claim.
type Found struct {
	simple.Figure
	Answer  string `json:"answer"`
	Thing   string `json:"thing"`
	Claimed bool   `json:"claimed"`
}

// Ruling is what stands for the radio.
type Ruling = simple.Ruling[Found]

// answer is what a word says of a thing: how it is kept, and what it comes to as an answer to a claim;
// what lies in the box answers a claim of what comes with it alone, and what fits answers none.
type answer struct {
	kept    string
	verdict decision.Verdict
	only    string // what the claim must begin with; empty for any
}

var answers = map[string]answer{
	"yes":     {"yes", decision.Pass, ""},
	"no":      {"no", decision.Fail, ""},
	"partly":  {"partly", decision.Inconclusive, ""},
	"in":      {"in the box", decision.Pass, comesWith},
	"missing": {"not in the box", decision.Fail, comesWith},
	"fits":    {"fits", decision.Pass, "nothing"},
}

// short are other words for the answers.
var short = map[string]string{"y": "yes", "n": "no", "not": "no", "with": "in", "without": "missing"}

const would = "yes, no or partly and what is said, or in, missing or fits and a thing: yes charges by USB, missing belt clip, fits battery of the older model"

// most is the longest name of a thing.
const most = 120

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Found, *Found]{Spec: simple.Spec[Draft, Found]{
		About:    measure.About{Name: Name, Title: "On the box", Noun: "features", More: true, Whole: true, Part: "features", Minutes: 5},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(f *Found) string { return same(f.Thing) },
		Further:  func(a, b *Found) bool { return severity(a) > severity(b) },
		Words:    func(f *Found) string { return f.Thing + ": " + f.Answer },
		Says: map[decision.Verdict]string{
			decision.Fail: "Not all that its box says is so", decision.Inconclusive: "Some of what its box says is so in part", decision.Pass: "What its box says beside figures is so",
			decision.SoFar: "What its box says beside figures is so, as far as it was tried", decision.NoClaim: "What comes with it was noted",
		},
		None:    "what the box says beside figures was not tried",
		Asks:    func(r *measure.Review, _ claims.Cell) []string { return claimed(r) },
		Missing: missing,
		Claim:   readClaim,
		Section: measure.Section{
			Title:   "On the box",
			Lines:   []string{"What is claimed beside figures, as it was found on this unit; a thing that no claim speaks of is noted alone. Of several answers to one thing the worst stands."},
			Columns: []string{"What", "Found", "Claimed"},
		},
		Row: func(f *Found) []string {
			return []string{f.Thing, f.Answer, map[bool]string{true: "yes", false: "no"}[f.Claimed]}
		},
	}}
}

func severity(f *Found) int {
	return slices.Index([]string{"fits", "in the box", "yes", "partly", "not in the box", "no"}, f.Answer)
}

func work(r *measure.Review, _ Draft, f *Found) error {
	word, thing, _ := strings.Cut(f.Text, " ")
	word = strings.ToLower(strings.TrimRight(word, ":,"))
	if full := short[word]; full != "" {
		word = full
	}
	a, known := answers[word]
	thing = strings.TrimSpace(thing)
	switch {
	case !known:
		return problem.New("text", "%q is no answer: give %s", word, would)
	case thing == "":
		return problem.New("text", "of what? Give %s", would)
	case len(thing) > most:
		return problem.New("text", "give the thing in at most %d characters; more goes behind a ?", most)
	}
	f.Answer, f.Thing = a.kept, thing
	f.Claimed = slices.ContainsFunc(r.Lines, func(l measure.ClaimLine) bool {
		of, begin, ok := thingOf(l.Text)
		return ok && same(of) == same(thing) && (a.only == "" || a.only == begin)
	})
	if f.Claimed {
		f.Verdict = &a.verdict
	}
	return nil
}

// same is a thing however it is written.
func same(thing string) string {
	return strings.ToLower(strings.Join(strings.Fields(strings.NewReplacer("-", " ", ".", "", ",", "").Replace(thing)), " "))
}

// The words that a claim beside figures begins with.
var begins = []string{"says ", comesWith}

const comesWith = "comes with "

// readClaim reads a claim beside figures: `says charges by USB`, `comes with belt clip`.
func readClaim(text string, _ bands.Region) (said string, is bool, err error) {
	thing, said, ok := thingOf(text)
	switch {
	case !ok:
		return "", false, nil
	case thing == "":
		return "", true, problem.New("text", "give what it %s, such as %s", strings.TrimSpace(said), "says charges by USB")
	case len(thing) > most:
		return "", true, problem.New("text", "give it in at most %d characters", most)
	}
	return said + thing, true, nil
}

func thingOf(text string) (thing, begin string, ok bool) {
	plain := strings.TrimSpace(text) + " "
	for _, b := range begins {
		if len(plain) >= len(b) && strings.EqualFold(plain[:len(b)], b) {
			return strings.TrimSpace(plain[len(b):]), b, true
		}
	}
	return "", "", false
}

// claimed are the things that claims speak of, each once.
func claimed(r *measure.Review) []string {
	var out []string
	for _, l := range r.Lines {
		if thing, _, ok := thingOf(l.Text); ok && l.Error == "" && !slices.ContainsFunc(out, func(o string) bool { return same(o) == same(thing) }) {
			out = append(out, thing)
		}
	}
	return out
}

// missing are the things claimed that nobody answered.
func missing(r *measure.Review, _ record.Keyed, standing []Found) []string {
	var out []string
	for _, c := range claimed(r) {
		if !slices.ContainsFunc(standing, func(f Found) bool { return f.Claimed && same(f.Thing) == same(c) }) {
			out = append(out, c)
		}
	}
	return out
}
