package units

import (
	"fmt"
	"math"
	"strconv"
)

// Impedance is the reference impedance of everything here, in ohms.
const Impedance = 50.0

// Hertz is a frequency in Hz.
type Hertz float64

// Watts is a power in W.
type Watts float64

// DBm is a power level in dB relative to 1 mW.
type DBm float64

// DB is a ratio of powers in decibels. A loss is positive.
type DB float64

// DBm is the level of p: 10 log10(p / 1 mW). It is -Inf at 0 W and NaN below.
func (p Watts) DBm() DBm { return DBm(10 * math.Log10(float64(p)*1000)) }

// Watts is the power at level l: 1 mW x 10^(l/10).
func (l DBm) Watts() Watts { return Watts(math.Pow(10, float64(l)/10) / 1000) }

// Ratio is the power ratio of d: 10^(d/10).
func (d DB) Ratio() float64 { return math.Pow(10, float64(d)/10) }

// RatioDB is the decibel figure of a power ratio: 10 log10(r).
func RatioDB(r float64) DB { return DB(10 * math.Log10(r)) }

// dbuvAtZeroDBm is the voltage level across 50 ohm at 0 dBm, in dB above 1 µV:
// 10 log10(50 ohm x 1 mW / (1 µV)^2) = 106.99.
var dbuvAtZeroDBm = 10 * math.Log10(Impedance*1e-3/1e-12)

// Signed shows d to a tenth with its sign, never as minus nought: "+1.5 dB".
func (d DB) Signed() string {
	tenth := math.Round(float64(d)*10) / 10
	if tenth == 0 {
		tenth = 0
	}
	return fmt.Sprintf("%+.1f dB", tenth)
}

// String shows f in the largest unit that keeps it at or above one: 146.52 MHz.
func (f Hertz) String() string {
	switch a := math.Abs(float64(f)); {
	case a >= 1e9:
		return trim(float64(f)/1e9, 6) + " GHz"
	case a >= 1e6:
		return trim(float64(f)/1e6, 6) + " MHz"
	case a >= 1e3:
		return trim(float64(f)/1e3, 3) + " kHz"
	}
	return trim(float64(f), 1) + " Hz"
}

func trim(v float64, decimals int) string {
	s := fmt.Sprintf("%.*f", decimals, v)
	for s[len(s)-1] == '0' {
		s = s[:len(s)-1]
	}
	if s[len(s)-1] == '.' {
		s = s[:len(s)-1]
	}
	return s
}

// String shows p to three significant figures with kW, W, mW or µW.
func (p Watts) String() string {
	switch shown := rounded(float64(p)); {
	case p == 0:
		return "0 W"
	case shown >= 1e4: // what no amateur is allowed: a slip or an offset
		return significant(float64(p)/1e3) + " kW"
	case shown < 1e-3:
		return significant(float64(p)*1e6) + " µW"
	case shown < 1:
		return significant(float64(p)*1e3) + " mW"
	}
	return significant(float64(p)) + " W"
}

// Microvolts is a voltage in µV, above 0.
type Microvolts float64

// String shows v to three significant figures.
func (v Microvolts) String() string { return significant(float64(v)) + " µV" }

// rounded is v to three significant figures: 9.996 is 10.0, and 999.6 mW is 1.00 W.
func rounded(v float64) float64 {
	shown, _ := strconv.ParseFloat(strconv.FormatFloat(v, 'e', 2, 64), 64)
	return shown
}

func significant(v float64) string {
	decimals := 2 - int(math.Floor(math.Log10(math.Abs(rounded(v)))))
	return fmt.Sprintf("%.*f", min(max(decimals, 0), 12), v)
}
