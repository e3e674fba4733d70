package looks

import (
	"strings"
	"testing"
)

// TestWhatALineTells: of the instrument in any order, parted from the look; what cannot be meant is refused.
func TestWhatALineTells(t *testing.T) {
	for text, want := range map[string]string{
		"rbw 100k peak max bare 30 s":             "RBW 100 kHz; peak detector; max hold; bare carrier; held 30 s | ",
		"30-1000 floor -70 2h -62 rbw 30 average": "RBW 30 kHz; average detector | 30-1000 floor -70 2h -62",
		"RBW 9 kHz hold average 30-1000 -70":      "RBW 9 kHz; average hold | 30-1000 -70",
		"rbw 1m offset 40dB preamp off h36.9-20?": "RBW 1 MHz; the screen adds 40 dB; pre-amplifier off | h36.9-20?",
		"offset -10 held 12,5 30-1000 -70":        "held 12.5 s; the screen adds -10 dB | 30-1000 -70",
		"30-1000 -70 heard state tuner in":        "state: tuner in; heard in its own receiver | 30-1000 -70",
		"205 -66":                                 " | 205 -66",
		"modulated sample single":                 "sample detector; single hold; modulated carrier | ",
	} {
		l, err := ReadLine(text)
		if got := strings.Join(l.Says, "; ") + " | " + l.Look; err != nil || got != want {
			t.Errorf("%q: %s, %v; want %s", text, got, err, want)
		}
	}
	for text, want := range map[string]string{"rbw": "rbw what?", "rbw wide": "such as 100k", "rbw 0": "such as 100k", "hold tight": "single, max or average", "preamp maybe": "on or off", "offset x": "in dB", "held": "held what?", "state": "state what?"} {
		if _, err := ReadLine(text); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v, want %s", text, err, want)
		}
	}
}
