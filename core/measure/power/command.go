package power

import (
	"fmt"
	"regexp"
	"strings"

	"talloak/core/measure"
	"talloak/core/units"
)

// Command is what a typed line asks for. Says is what Enter does with it, or what would be understood;
// W a power in W, where one is meant; Text what follows the letter.
type Command struct {
	Kind   CommandKind `json:"kind" enum:"entry,fact,target,no-target,display,settings,trusted,step,unclear"`
	Says   string      `json:"says"`
	Text   string      `json:"text"`
	W      *float64    `json:"w"`
	AtMost bool        `json:"at_most"` // the power adjusted to, or less
	Name   string      `json:"name"`    // of a radio that is trusted
}

// CommandKind is what is done with a line.
type CommandKind string

// The kinds of lines: those that are kept, those that set something beside the readings to come, and
// what cannot be understood. A target without a power is the claim.
const (
	AnEntry   CommandKind = "entry"
	AFact     CommandKind = "fact" // kept, and no reading
	ATarget   CommandKind = "target"
	NoTarget  CommandKind = "no-target"
	ADisplay  CommandKind = "display"
	ASettings CommandKind = "settings"
	ATrusted  CommandKind = "trusted"
	AStep     CommandKind = "step"
	Unclear   CommandKind = "unclear"
)

// letters are those that make a line more than an entry, with what follows them.
var letters = regexp.MustCompile(`(?is)^([rkjdgtn])(?:\s+(.*))?$`)

// ReadLine implements measure.LineReader.
func (Kind) ReadLine(text string) measure.Answer { return measure.Answers(ReadCommand(text)) }

// ReadCommand tells what a typed line asks for.
func ReadCommand(text string) Command {
	found := letters.FindStringSubmatch(strings.TrimSpace(text))
	if found == nil {
		return Command{Kind: AnEntry, Text: text}
	}
	rest := strings.TrimSpace(found[2])
	unclear := func(why string) Command { return Command{Kind: Unclear, Says: why, Text: rest} }
	switch strings.ToLower(found[1]) {
	case "r":
		return Command{Kind: AFact, Text: rest, Says: "the radio refused to transmit here; Enter keeps it"}
	case "k":
		switch end, _, _ := strings.Cut(rest, " "); end {
		case Short:
			return Command{Kind: AFact, Text: rest, Says: "a check with the end shorted; Enter keeps it"}
		case Open:
			return Command{Kind: AFact, Text: rest, Says: "a check with the end open; Enter keeps it"}
		}
		return unclear("k short or k open, and what was seen behind ?")
	case "j":
		typed, atMost := strings.CutPrefix(rest, "<")
		switch w := wattsOf(typed); {
		case rest == "":
			return Command{Kind: ATarget, Says: "Enter sets the power to adjust to, the claim"}
		case rest == "off":
			return Command{Kind: NoTarget, Says: "Enter leaves the target"}
		case w != nil && atMost:
			return Command{Kind: ATarget, W: w, AtMost: true, Says: fmt.Sprintf("Enter sets the power to adjust to: at most %g W", *w)}
		case w != nil:
			return Command{Kind: ATarget, W: w, Says: fmt.Sprintf("Enter sets the power to adjust to: %g W", *w)}
		}
		return unclear("j and the power wanted in W, j <5 to turn down to a class, j off to leave it")
	case "d":
		if w := wattsOf(rest); w != nil {
			return Command{Kind: ADisplay, W: w, Says: fmt.Sprintf("the radio’s own display says %g W; Enter keeps it with the next reading", *w)}
		}
		return unclear("d and what the radio’s own display says, in W")
	case "g":
		return Command{Kind: ASettings, Text: rest, Says: "settings of the radio; Enter keeps them with every reading"}
	case "t":
		if at := strings.LastIndex(rest, " "); at > 0 {
			if w := wattsOf(rest[at+1:]); w != nil {
				name := strings.TrimSpace(rest[:at])
				return Command{Kind: ATrusted, W: w, Name: name, Says: fmt.Sprintf("%s, known to give %g W, is keyed next; Enter", name, *w)}
			}
		}
		return unclear("t, a radio you trust, and the W it is known to give: t old mobile 50")
	}
	return Command{Kind: AStep, Text: rest, Says: "an unplanned step: frequency in MHz, and the level; Enter dials it"}
}

// wattsOf is a power above 0 W, with its unit or without; nil where it is none.
func wattsOf(text string) *float64 {
	text = strings.TrimSpace(text)
	if bare := strings.TrimRight(text, "wW"); len(text)-len(bare) == 1 {
		text = strings.TrimSpace(bare)
	}
	w, err := units.ParseNumber(text)
	if err != nil || !(w > 0) || units.CheckW(w) != nil {
		return nil
	}
	return &w
}

// byLetter is a draft whose line begins with the letter of a fact that is no reading. What stands
// beside a reading is not of it.
func (in Draft) byLetter() Draft {
	c := ReadCommand(in.Text)
	if c.Kind != AFact || in.Refused || in.Check != "" {
		return in
	}
	out := Draft{Text: c.Text, ScaleW: in.ScaleW, Settings: in.Settings, Refused: strings.EqualFold(strings.TrimSpace(in.Text)[:1], "r")}
	if !out.Refused {
		out.Check, out.Text, _ = strings.Cut(c.Text, " ")
	}
	return out
}
