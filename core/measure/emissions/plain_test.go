package emissions

import (
	"strings"
	"testing"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/judge"
	"talloak/core/measure"
)

// plainBox is a box of 2m at a level: its worst product, a multiple of 146.52 MHz, with what room is left in dB.
func plainBox(level string, v decision.Verdict, order int, room float64, complete bool) measure.Named {
	at := float64(order) * 146.52e6
	r := Ruling{Ruling: &judge.Ruling{Worst: &judge.Product{Kind: judge.Harmonic, Order: &order, FrequencyHz: &at, RoomDB: &room, Seen: true}, Coverage: judge.Coverage{Complete: complete}}}
	r.FrequencyHz = 146.52e6
	return measure.Named{Name: "2m " + level, Cell: claims.Cell{Band: bands.Band{Name: "2m"}, Level: level}, Box: measure.Box{Verdict: v, Of: measure.Answers(r)}}
}

// TestPlainWords: what a board says to somebody who buys the radio: what, how much as a factor, whose spectrum, what to
// do about it, and never without what was not looked at.
func TestPlainWords(t *testing.T) {
	say := func(v decision.Verdict, boxes ...measure.Named) string {
		return (&Room{}).Plain(boxes, decision.Whole{Verdict: v})
	}
	high := plainBox("High", decision.Fail, 3, -9, true)
	of(high.Box).Ruling.Worst.Lands = ptr("amateur, 70 cm")
	not := plainBox("Low", decision.NotExamined, 2, 0, false)
	not.Of = measure.Answers(Ruling{})
	house := plainBox("High", decision.Pass, 2, 4, true)
	byHouse := of(house.Box)
	byHouse.BookHouse = true
	house.Of = measure.Answers(byHouse)
	for _, c := range []struct {
		name  string
		got   string
		has   []string
		hasNo []string
	}{
		{"a fail", say(decision.Fail, high, not), []string{"At High on 2m it sends a 3rd harmonic about 8 times as strong as the rule allows", "others have a right to be undisturbed: amateur, 70 cm.", "Use it there with a low-pass filter, or not at all.", "Not looked at: 2m Low."}, []string{"Use it at"}},
		{"a level that is clean", say(decision.Fail, high, plainBox("Low", decision.Pass, 3, 5, true)), []string{"Use it at Low there, or with a low-pass filter."}, []string{"not at all", "Not looked"}},
		{"one that passes only so far is no advice", say(decision.Fail, high, plainBox("Low", decision.Pass, 3, 5, false)), []string{"or not at all", "Not looked at in full: 2m Low."}, []string{"Use it at Low"}},
		{"a filter does not reach what is too near", say(decision.Fail, plainBox("High", decision.Fail, 1, -1, true)), []string{"26 % stronger than the rule allows", "Do not use it there until that is cured."}, []string{"filter"}},
		{"two that fail, the worst first", say(decision.Fail, plainBox("Mid", decision.Fail, 2, -3, true), high), []string{"At High on 2m it sends", "It is over the limit at Mid on 2m too."}, nil},
		{"far over", say(decision.Fail, plainBox("High", decision.Fail, 2, -23, true)), []string{"about 200 times as strong"}, nil},
		{"close beside a fail", say(decision.Fail, high, plainBox("Low", decision.Inconclusive, 2, 0.1, true)), []string{"It is too close to call at Low on 2m."}, nil},
		{"close", say(decision.Inconclusive, plainBox("Low", decision.Inconclusive, 2, 0.1, true)), []string{"too close to call at Low on 2m."}, []string{"sends no more"}},
		{"so far", say(decision.SoFar, plainBox("High", decision.Pass, 2, 4, true), not), []string{"Where we looked it sends no more", "Not looked at: 2m Low."}, nil},
		{"a pass", say(decision.Pass, plainBox("High", decision.Pass, 2, 4, true)), []string{"It sends no more beside its own frequency than the rule allows."}, []string{"Not looked"}},
		{"by house practice", say(decision.Pass, house), []string{"than our house limit, which is no law, allows."}, []string{"the rule"}},
		{"no limit", say(decision.NoLimit, plainBox("High", decision.NoLimit, 2, 4, true)), []string{"sets no limit"}, []string{"no more"}},
		{"not governed", say(decision.NotGoverned, plainBox("High", decision.NotGoverned, 2, 4, true)), []string{"not about this radio"}, nil},
		{"nothing", say(decision.NotExamined, not), []string{"was not looked at"}, []string{"allows"}},
		{"void", say(decision.Void, plainBox("High", decision.Void, 2, 4, true)), []string{"could not be ruled on"}, nil},
	} {
		for _, want := range c.has {
			if !strings.Contains(c.got, want) {
				t.Errorf("%s: no %q in %q", c.name, want, c.got)
			}
		}
		for _, no := range c.hasNo {
			if strings.Contains(c.got, no) {
				t.Errorf("%s: %q in %q", c.name, no, c.got)
			}
		}
	}
	if half := productWords(&judge.Product{Kind: judge.Subharmonic}); half != "something at half its carrier" {
		t.Error(half)
	}
	for name, want := range map[string]string{"8th harmonic": "an 8th", "11th harmonic": "an 11th", "2nd harmonic": "a 2nd", "spur at 1 GHz": "a spur"} {
		if got := article(name); !strings.HasPrefix(got, want) {
			t.Error(got)
		}
	}
}
