package emissions_test

import (
	"cmp"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"talloak/core/kinds"
	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/measuretest"
	"talloak/rulebooks"
)

// bench is a review with its looks, each "name; pad 60; level Low; state standby; heard: what was typed",
// and power readings, "Low 0.9". Ids of looks are 0, 1 and so on, in the order taken.
type bench struct {
	claims    []string
	book      string
	own       *rulebook.Book // in place of one that ships
	power     []string
	looks     []string
	standings map[string]string
	told      func(*emissions.Draft)
	at        record.Keyed // where looks and readings are taken, unless they say it
}

func (b bench) key() record.Keyed {
	if b.at != (record.Keyed{}) {
		return b.at
	}
	return key
}

func (b bench) review() *record.Review {
	r := record.Review{Subject: record.Subject{ClocksHz: []float64{15.36e6}}, Rules: record.Rules{RuleBook: cmp.Or(b.book, "us-amateur"), DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}}
	if b.claims == nil {
		b.claims = []string{"2m 5/1"}
	}
	for _, c := range b.claims {
		r.Claims = append(r.Claims, record.Claim{Text: c})
	}
	return &r
}

func (b bench) with(t *testing.T, facts record.Facts) *measure.Review {
	t.Helper()
	r := b.review()
	find := rulebooks.Find
	if b.own != nil {
		find = func(string) (*rulebook.Book, bool) { return b.own, true }
	}
	opened, err := measure.Open(r, facts, r.Rules, find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return opened
}

func (b bench) open(t *testing.T) *measure.Review {
	t.Helper()
	facts := record.Facts{}
	for i, text := range b.power {
		k := b.key()
		k.Level, text, _ = strings.Cut(text, " ")
		payload, _ := json.Marshal(map[string]any{"text": text})
		facts.Measurements = append(facts.Measurements, record.Measurement{ID: fmt.Sprint("w", i), Kind: "power", Keyed: k, Through: meter, Payload: payload})
	}
	for i, text := range b.looks {
		told, look, _ := strings.Cut(text, ": ")
		in, pad := emissions.Draft{Look: true, RBWHz: 100e3, Detector: "peak", Hold: "max", Modulated: "bare"}, 50.0
		k := b.key()
		for n, word := range strings.Split(told, "; ") {
			switch what, value, _ := strings.Cut(word, " "); {
			case n == 0:
				in.Name = word
			case what == "pad":
				_, _ = fmt.Sscan(value, &pad)
			case what == "mhz":
				_, _ = fmt.Sscan(value, &k.FrequencyHz)
				k.FrequencyHz *= 1e6
			case what == "level":
				k.Level = value
			case what == "band":
				k.Band = value
			case what == "mode":
				k.Mode = record.Mode(value)
			case what == "state":
				in.State = value
			case what == "heard":
				in.Heard = true
			}
		}
		if b.told != nil {
			b.told(&in)
		}
		draft, _ := json.Marshal(in)
		taken, err := measuretest.Take(emissions.Of(b.with(t, facts)), measure.Taking{Keyed: k, Through: through(pad), Draft: draft, File: &record.File{Content: []byte(look)}})
		if err != nil {
			t.Fatal(err)
		}
		if view := taken.View; view.Look == nil || view.List || len(view.Picture) == 0 {
			t.Errorf("%+v", view)
		}
		payload, _ := json.Marshal(taken.Payload)
		facts.Measurements = append(facts.Measurements, record.Measurement{ID: fmt.Sprint(i), Kind: "emissions", Keyed: k, Through: through(pad), Payload: payload})
	}
	for id, standing := range b.standings {
		facts.Standings = append(facts.Standings, record.Standing{TargetID: id, Standing: standing, Reason: "seen"})
	}
	return b.with(t, facts)
}

// meter ends in a wattmeter of 5 % of reading.
var meter = &record.Through{Kit: []record.KitCopy{{Name: "meter", Spec: kit.Spec{Kind: kit.TerminatingMeter, Element: path.Element{Kind: path.TerminatingMeter, MaxW: v(50)}, Meter: &reading.Meter{ScaleW: v(15), PctReading: 5, DigitW: 0.01}}}}}

func afternoon(t *testing.T, looks ...string) *emissions.Room {
	t.Helper()
	return afternoonBy(t, "us-amateur", looks...)
}

func afternoonBy(t *testing.T, book string, looks ...string) *emissions.Room {
	t.Helper()
	return emissions.Of(bench{book: book, looks: looks}.open(t))
}
