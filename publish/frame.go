package publish

import (
	"runtime"
	"runtime/debug"
	"slices"
	"strings"
	"time"

	"talloak/core/problem"
	"talloak/core/record"
)

// Frame is what an edition says beside what was measured.
type Frame struct {
	ID       string    `json:"id"`
	Number   int       `json:"edition"`
	FrozenAt time.Time `json:"frozen_at"`
	Kind     Kind      `json:"kind"`
	Changed  string    `json:"changed,omitempty"` // a sentence, of all but the first: what was wrong, repeated or added

	Earlier        []Earlier          `json:"earlier,omitempty"` // the editions of the review before this one, oldest first
	Follows        *Earlier           `json:"follows,omitempty"` // the last edition of the review that this one re-tests
	Before         []Figures          `json:"before,omitempty"`  // figures of the one that it corrects, re-tests or adds to
	Publication    record.Publication `json:"publication"`
	Recommendation string             `json:"recommendation,omitempty"` // the reviewer's own words; no ruling
	Ambient        string             `json:"ambient,omitempty"`        // what the room was like, in words
	Photos         []Photo            `json:"photos,omitempty"`
	Letters        []Letter           `json:"letters,omitempty"` // that may be printed, in the order written
}

// Letter is what somebody wrote about a review, word for word.
type Letter struct {
	Kind     string `json:"kind"`
	From     string `json:"from"`
	Name     string `json:"name,omitempty"`
	SaidOn   string `json:"said_on"`
	About    string `json:"about,omitempty"`
	Text     string `json:"text"`
	Serial   string `json:"serial,omitempty"`
	DateCode string `json:"date_code,omitempty"`
}

// Heading says who wrote what of which day.
func (l Letter) Heading() string {
	who := map[string]string{"maker": "the maker", "seller": "the seller", "reader": "a reader", "laboratory": "another laboratory", "us": "us"}[l.From]
	what := map[string]string{
		"reply": "Reply of", "denial": "Denied by", "admission": "Admitted by", "refund": "Money back from", "third-laboratory": "Measured by", "question": "A question to readers, from", "answer": "Answered by",
	}[l.Kind]
	if l.Name != "" {
		who += ", " + l.Name
	}
	out := what + " " + who + ", " + l.SaidOn
	for _, part := range []struct{ what, value string }{{"on", l.About}, {"serial", l.Serial}, {"date code", l.DateCode}} {
		if part.value != "" {
			out += ", " + part.what + " " + part.value
		}
	}
	return out
}

// Printed are the letters of a review that may be printed.
func Printed(all []record.Letter) []Letter {
	var out []Letter
	for _, l := range all {
		if l.MayPrint {
			out = append(out, Letter{l.Kind, l.From, l.Name, l.SaidOn, l.About, l.Text, l.Serial, l.DateCode})
		}
	}
	return out
}

// Earlier is an edition that another follows.
type Earlier struct {
	ID       string    `json:"id"`
	Number   int       `json:"edition"`
	Kind     Kind      `json:"kind"`
	FrozenAt time.Time `json:"frozen_at"`
	Title    string    `json:"title"`
	Changed  string    `json:"changed,omitempty"`
	SHA256   string    `json:"sha256"`
}

// Photo is a photograph as it stands in an edition: of a measurement by its id, or of a claim by its text.
type Photo struct {
	About     string    `json:"about"`
	Name      string    `json:"name"`
	MediaType string    `json:"media_type"`
	TakenAt   time.Time `json:"taken_at"`
	Content   []byte    `json:"content"`
}

// CheckKind refuses a kind that an edition cannot be, of a review that has so many editions and follows another
// review or not; and a kind without its sentence.
func CheckKind(kind Kind, changed string, before int, follows bool) error {
	var bad problem.List
	switch {
	case !slices.Contains([]Kind{First, Correction, Retest, Addendum}, kind):
		bad.Add("kind", "give first, correction, re-test or addendum")
	case kind == First && before > 0:
		bad.Add("kind", "there is an edition already: say what this is to it, a correction, a re-test or an addendum")
	case kind != First && before == 0 && !(kind == Retest && follows):
		bad.Add("kind", "this is the first edition of the review: give first")
	}
	if kind != First && strings.TrimSpace(changed) == "" {
		bad.Add("changed", "say in a sentence what was wrong, repeated or added")
	}
	return bad.Err()
}

// Kind is what an edition is to those before it.
type Kind string

// The kinds of editions. A correction says that the reviewer erred; a re-test is of another unit, or of the same
// after a change; an addendum adds what was measured since.
const (
	First      Kind = "first"
	Correction Kind = "correction"
	Retest     Kind = "re-test"
	Addendum   Kind = "addendum"
)

// Release is the version of this program.
const Release = "0.1.0"

// Program names this program: its release, the state of its source where it was built from one under version control,
// and what it was built by and for: another compiler may pack the same bytes otherwise, another processor round the last
// digit otherwise.
func Program() string {
	out := "Tall Oak " + Release
	if info, ok := debug.ReadBuildInfo(); ok {
		for _, s := range info.Settings {
			switch {
			case s.Key == "vcs.revision":
				out += " " + s.Value[:min(12, len(s.Value))]
			case s.Key == "vcs.modified" && s.Value == "true":
				out += ", changed"
			}
		}
	}
	return out + ", " + runtime.Version() + " " + runtime.GOARCH
}
