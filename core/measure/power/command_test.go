package power_test

import (
	"fmt"
	"reflect"
	"strings"
	"testing"

	"talloak/core/measure"
	"talloak/core/measure/power"
)

// TestLettersOfTheLine: a letter is a command where what follows makes it one, else what is typed is an
// entry; what is meant is said where it cannot be read.
func TestLettersOfTheLine(t *testing.T) {
	for text, want := range map[string]string{
		"4.71 4.86 h": "entry 4.71 4.86 h", "r": "fact", "r 15.5v ? beeped": "fact 15.5v ? beeped", "R": "fact", "rx 4": "entry rx 4", "k short": "fact short", "k open ? no dip": "fact open ? no dip",
		"k": "unclear", "k loose": "unclear loose", "j": "target", "j 5": "target 5 W", "j <5W": "target 5 W or less", "j 2,5": "target 2.5 W", "j off": "no-target", "j five": "unclear five", "j 0": "unclear 0",
		"d 5": "display 5 W", "d 5w": "display 5 W", "d": "unclear", "d -1": "unclear -1", "g gain 5": "settings gain 5", "g": "settings", "t old mobile 50": "trusted 50 W old mobile", "t 50": "unclear 50",
		"n 144.1 h": "step 144.1 h", "mid 4.8": "entry mid 4.8", "": "entry", "  j  5 ": "target 5 W", "j 5ww": "unclear 5ww", "j 1e9": "unclear 1e9",
	} {
		c := power.ReadCommand(text)
		got := []string{string(c.Kind)}
		if c.W != nil {
			got = append(got, fmt.Sprintf("%g W", *c.W))
			if !strings.Contains(c.Says, got[1]) {
				t.Errorf("%q says %q", text, c.Says)
			}
		}
		if c.AtMost {
			got = append(got, "or less")
		}
		for _, s := range []string{c.Name, c.Text} {
			if s != "" {
				got = append(got, s)
			}
		}
		if strings.Join(got, " ") != want || (c.Says == "") != (c.Kind == power.AnEntry) {
			t.Errorf("%q: %q, want %q; says %q", text, got, want, c.Says)
		}
	}
}

// TestALineIsKeptAsWhatItsLetterSays: a refusal and a check are kept as those, without what stands beside a reading.
func TestALineIsKeptAsWhatItsLetterSays(t *testing.T) {
	d := begin("2m 20").read("High", 146, text("18"), through("a", 0)).open(t)
	at := measure.Taking{Keyed: d.Readings()[0].Keyed, Through: through("a", 0)}
	for line, want := range map[string]power.Draft{
		"r 15.5v ? beeped": {Text: "15.5v ? beeped", Refused: true, Settings: "gain 5"}, "k open ? no dip": {Text: "? no dip", Check: "open", Settings: "gain 5"}, "K short": {Check: "short", Settings: "gain 5"},
	} {
		got, err := d.Read(at, power.Draft{Text: line, Settings: "gain 5", DisplayW: v(5), TargetW: v(5), AtMost: true, Trusted: &power.Trusted{Name: "old mobile", W: 50}})
		if err != nil || !reflect.DeepEqual(got.Payload, any(want)) || got.View.Counts {
			t.Errorf("%q: %+v %v", line, got.Payload, err)
		}
	}
	for _, line := range []string{"j 5", "d 5", "t old mobile 50", "r 18"} {
		if got, err := d.Read(at, power.Draft{Text: line}); err == nil {
			t.Errorf("%q is kept as %+v", line, got.Payload)
		}
	}
}
