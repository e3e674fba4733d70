package units

import (
	"math"
	"testing"
)

func TestStringsCarryUnits(t *testing.T) {
	for _, c := range []struct {
		got, want string
	}{
		{Hertz(146.52e6).String(), "146.52 MHz"},
		{Hertz(1.3e9).String(), "1.3 GHz"},
		{Hertz(12500).String(), "12.5 kHz"},
		{Hertz(50).String(), "50 Hz"},
		{Watts(5).String(), "5.00 W"},
		{Watts(0.0005).String(), "500 µW"},
		{Watts(0.25).String(), "250 mW"},
		{Watts(1500).String(), "1500 W"},
		{Watts(0).String(), "0 W"},
		{Watts(9.996).String(), "10.0 W"}, {Watts(0.9996).String(), "1.00 W"}, {Watts(0.0009996).String(), "1.00 mW"}, {Watts(0.9994).String(), "999 mW"},
		{DB(-0.04).Signed(), "+0.0 dB"},
		{DB(-1.25).Signed(), "-1.3 dB"},
	} {
		if c.got != c.want {
			t.Errorf("%q, want %q", c.got, c.want)
		}
	}
}

func TestParseNumber(t *testing.T) {
	for s, want := range map[string]float64{"3.3": 3.3, "3,3": 3.3, ".5": 0.5, ",4": 0.4, "+1e-3": 1e-3, "-7.40": -7.4, "1,2345": 1.2345} {
		if got, err := ParseNumber(s); err != nil || got != want {
			t.Errorf("%q: %v %v", s, got, err)
		}
	}
	for _, s := range []string{"", ".", "1,500", "0,500", "1,2,3", "1.234,5", "1e", "e5", "1_000", "0x1p4", "NaN", "inf", "1e400", "--1", "1 2"} {
		if got, err := ParseNumber(s); err == nil {
			t.Errorf("%q read as %v", s, got)
		}
	}
}

func TestParseScaledIsExact(t *testing.T) {
	for _, c := range []struct {
		s     string
		exp10 int
		want  float64
	}{{"146.52", 6, 146520000}, {"0.432100125", 9, 432100125}, {"1e-3", 6, 1000}, {"0", 9, 0}} {
		if got, err := ParseScaled(c.s, c.exp10); err != nil || got != c.want {
			t.Errorf("%s e%d: %v %v", c.s, c.exp10, got, err)
		}
	}
	if _, err := ParseScaled("1e-99999999999999999999", 6); err != nil {
		t.Errorf("an underflow is nought: %v", err)
	}
}

// TestDBmAndWattsAreInverse is a property over the whole range of the bench.
func TestDBmAndWattsAreInverse(t *testing.T) {
	for dbm := -200.0; dbm <= 100; dbm += 0.37 {
		if back := DBm(dbm).Watts().DBm(); math.Abs(float64(back)-dbm) > 1e-9 {
			t.Errorf("%v dBm comes back as %v", dbm, back)
		}
	}
}

func FuzzParseEntry(f *testing.F) {
	for _, s := range []string{"4.71 4.86 h swr 1.3 13.6v 2.9a pk 12", "9.6 fr .4", "36.4dBm ? odd", "f 146.52 1e3 mW", "1,500 W", "µ?μ"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		e, err := ParseEntry(text)
		if err != nil {
			return
		}
		for _, v := range []*float64{e.SWR, e.ForwardW, e.ReflectedW, e.PeakW, e.SupplyV, e.SupplyA, e.FrequencyHz} {
			if v != nil && (math.IsNaN(*v) || math.IsInf(*v, 0) || *v < 0) {
				t.Fatalf("%q gives %v", text, *v)
			}
		}
	})
}
