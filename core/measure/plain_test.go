package measure

import (
	"testing"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/record"
)

// TestWhere a box is in a sentence, and how several are named.
func TestWhere(t *testing.T) {
	at := func(name, band, level string, mode record.Mode) string {
		return Named{Name: name, Cell: claims.Cell{Band: bands.Band{Name: band}, Level: level, Mode: mode}}.Where()
	}
	for got, want := range map[string]string{
		at("2m High", "2m", "High", "FM"): "at High on 2m", at("10m Low AM", "10m", "Low", "AM"): "at Low on 10m AM", at("2m", "2m", "", "FM"): "on 2m", at("the radio", "", "", ""): "",
		FirstFew(nil, 2): "", FirstFew([]string{"a"}, 2): "a", FirstFew([]string{"a", "b"}, 2): "a and b", FirstFew([]string{"a", "b", "c"}, 2): "a, b and c", FirstFew([]string{"a", "b", "c", "d"}, 2): "a, b and 2 more",
	} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
