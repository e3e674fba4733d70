package units

import (
	"strings"
	"testing"
)

// TestTheBenchHasBounds: at each end the value is taken and its neighbour refused with the
// bound; nothing at all is a figure, and what is no number at a bench never is (common practice,
// no source).
func TestTheBenchHasBounds(t *testing.T) {
	for text, bound := range map[string]string{
		"1e-9W": "", "0.9e-9W": "1 nW to 100 kW", "1e-200": "1 nW to 100 kW", "0": "", "1e5": "", "1.1e5": "1 nW to 100 kW", "80dBm": "", "81dBm": "1 nW to 100 kW", "-60dBm": "", "-61dBm": "1 nW to 100 kW",
		"4.8 pk 2e5": "1 nW to 100 kW", "9 fr 1e-12": "1 nW to 100 kW",
		"4.8 1mV": "1 mV to 1 kV", "4.8 1000v": "", "4.8 1001v": "1 mV to 1 kV", "4.8 0.001v": "", "4.8 0.0009v": "1 mV to 1 kV",
		"4.8 1000a": "", "4.8 1001a": "1 uA to 1 kA", "4.8 1e-6a": "", "4.8 1e-7a": "1 uA to 1 kA",
		"4.8 swr 1000": "", "4.8 swr 1001": "1 to 1000",
		"4.8 1kHz": "", "4.8 999Hz": "1 kHz to 1 THz", "4.8 1000GHz": "", "4.8 1001GHz": "1 kHz to 1 THz",
	} {
		e, err := ParseEntry(text)
		if err == nil {
			err = e.Check()
		} else if bound == "1 mV to 1 kV" && strings.Contains(text, "mV") { // no unit of a supply
			continue
		}
		if (err == nil) != (bound == "") || err != nil && !strings.Contains(err.Error(), bound) {
			t.Errorf("%q: %v, want %q", text, err, bound)
		}
	}
	for dbm, ok := range map[float64]bool{-200: true, -200.1: false, 80: true, 80.1: false} {
		if err := CheckDBm(dbm); (err == nil) != ok {
			t.Errorf("%g dBm: %v", dbm, err)
		}
	}
}
