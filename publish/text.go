package publish

import (
	"fmt"
	"strings"

	"talloak/core/judge"
	"talloak/core/units"
)

// Text is an edition as plain text, to paste or to read aloud: rulings, figures, what was not tested, and
// by which sum its data are known. Doc is the data as frozen, of any format; the same data give the same
// text.
func Text(doc []byte, sum string) ([]byte, error) {
	d, err := Read(doc)
	if err != nil {
		return nil, err
	}
	var b strings.Builder
	say := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	say("%s", d.Board.Title)
	say("Edition %d, %s", d.Number, day(d.FrozenAt))
	if d.Plain != d.Board.Headline {
		say("\n%s", d.Plain)
	}
	say("\n%s", d.Board.Headline)
	say("\nPower at the antenna connector (low to high, k = 2)")
	for _, l := range d.Board.Levels() {
		say("%s: %s", l.Name, l.powerLine())
	}
	say("\nEmissions")
	if d.Board.NoEmissions() {
		say("Emissions were not part of this review.")
	}
	for _, l := range d.Board.Levels() {
		if !d.Board.NoEmissions() {
			say("%s: %s%s%s", l.Name, l.Verdict.Spoken(), because(l.Why), l.worstLine())
		}
	}
	if len(d.Changes) > 0 {
		say("\n%s %s", kindTitle(d.Kind), follows(*d))
		say("%s", d.Changed)
	}
	if d.Recommendation != "" {
		say("\nWhat the reviewer says of it, which is no ruling: %s", d.Recommendation)
	}
	for _, o := range d.Others {
		if o.Whole != nil {
			say("\n%s: %s%s", o.Title, o.Whole.Verdict.Spoken(), because(o.Whole.Words))
		}
	}
	say("\nJudged by %s; power by %s; decision %s.", d.Board.Rules.Book, d.Board.Rules.Claim, d.Board.Rules.Decision)
	if d.Board.Rules.Recalled {
		say("The limits of %s are recalled from memory: nobody has recorded checking them against the published text.", d.Board.Rules.Book)
	}
	for _, b := range d.Board.Rules.Bands {
		if b.Recalled {
			say("The limits of %s, for %s, are recalled from memory: nobody has recorded checking them against the published text.", b.Book, b.Band)
		}
	}
	if len(d.NotTested) > 0 {
		say("\nNot tested")
		for _, what := range d.NotTested {
			say("- %s", what)
		}
	}
	say("")
	for _, c := range d.Cautions {
		say("%s", c)
	}
	if at := d.address(); isLink(at) {
		say("\nThe edition: %s", at)
	}
	say("\nSHA-256 of this edition's data: %s", sum)
	return []byte(b.String()), nil
}

func because(why string) string {
	if why == "" {
		return ""
	}
	return ", " + why
}

// worstLine is where the worst product lies, with how much room its uncertainty leaves.
func (l level) worstLine() string {
	e := &l.Emissions
	if e.Ruling == nil || e.Ruling.Worst == nil || e.Ruling.Worst.RoomDB == nil {
		return ""
	}
	w := e.Ruling.Worst
	out := "; " + w.Name()
	if at := placeOf(w); at != nil && w.Kind != judge.Spur {
		out += " at " + hertz(*at)
	}
	if !w.Seen {
		return out + ", room at least " + db(w.RoomDB)
	}
	out += ", room " + db(w.RoomDB)
	if u := e.UncertaintyOf(w); u > 0 {
		out += fmt.Sprintf(" (±%.1f dB, k = 2)", u)
	}
	return out
}

// powerLine is what was measured of what is claimed, as the page has it.
func (l level) powerLine() string {
	claimed := "no claim"
	if l.Cell.Claimed > 0 {
		claimed = units.Watts(l.Cell.Claimed).String() + " claimed"
	}
	r := l.Power.Reading
	if r == nil || r.MeasuredW == nil {
		return fmt.Sprintf("not read, %s: %s%s", claimed, l.Power.Verdict.Spoken(), because(l.Power.Why))
	}
	out := units.Watts(*r.MeasuredW).String()
	if l.Cell.PEP {
		out += " PEP"
	}
	if r.LowW != nil {
		out += fmt.Sprintf(" (%s to %s)", units.Watts(*r.LowW), units.Watts(*r.HighW))
	}
	return fmt.Sprintf("%s, %s: %s%s", out, claimed, l.Power.Verdict.Spoken(), because(l.Power.Why))
}
