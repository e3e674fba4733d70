package units

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Unit is a unit of power or voltage as typed, its case exact.
type Unit string

// The units a power or a voltage across 50 ohm may be given in.
const (
	W       Unit = "W"
	MilliW  Unit = "mW"
	MicroW  Unit = "uW"
	UnitDBm Unit = "dBm"
	UnitDBW Unit = "dBW"
	DBuV    Unit = "dBuV"
	MicroV  Unit = "uV"
	V       Unit = "V"

	kiloW Unit = "kW" // in what is typed at the bench alone; it is handed on in W
)

// Units lists every Unit, for messages.
const Units = "W, mW, uW, dBm, dBW, dBuV, uV, V"

// ParseUnit reads a unit, case-exact; the micro sign and the Greek mu are read as u.
func ParseUnit(s string) (Unit, bool) {
	u := Unit(plainMicro(s))
	switch u {
	case W, MilliW, MicroW, UnitDBm, UnitDBW, DBuV, MicroV, V:
		return u, true
	}
	return "", false
}

var micros = strings.NewReplacer("µ", "u", "μ", "u")

func plainMicro(s string) string {
	if !strings.ContainsAny(s, "µμ") {
		return s
	}
	return micros.Replace(s)
}

// Logarithmic tells whether the unit is a level in dB.
func (u Unit) Logarithmic() bool { return u == UnitDBm || u == UnitDBW || u == DBuV }

// Voltage tells whether the unit is one of voltage across 50 ohm.
func (u Unit) Voltage() bool { return u == V || u == MicroV || u == DBuV }

// Quantity is a value with its unit.
type Quantity struct {
	Value float64
	Unit  Unit
}

// Power is the quantity as a power into 50 ohm. It refuses negative watts or
// volts and what is beyond a float's range in watts, at either end.
func (q Quantity) Power() (Watts, error) {
	if !q.Unit.Logarithmic() && q.Value < 0 {
		return 0, fmt.Errorf("%g %s is negative; give 0 or more", q.Value, q.Unit)
	}
	var w float64
	switch q.Unit {
	case W:
		w = q.Value
	case kiloW:
		w = q.Value * 1e3
	case MilliW:
		w = q.Value / 1e3
	case MicroW:
		w = q.Value / 1e6
	case V:
		w = q.Value * q.Value / Impedance
	case MicroV:
		w = (q.Value / 1e6) * (q.Value / 1e6) / Impedance
	default:
		w = float64(q.level().Watts())
	}
	if math.IsInf(w, 0) || math.IsNaN(w) || math.IsInf(w*1000, 0) {
		return 0, fmt.Errorf("%g %s is too large", q.Value, q.Unit)
	}
	if w == 0 && q.Value != 0 {
		return 0, fmt.Errorf("%g %s is too small to be told from nothing", q.Value, q.Unit)
	}
	return Watts(w), nil
}

func (q Quantity) level() DBm {
	switch q.Unit {
	case UnitDBW:
		return DBm(q.Value + 30)
	case DBuV:
		return DBm(q.Value - dbuvAtZeroDBm)
	}
	return DBm(q.Value)
}

// Converted is one power in every unit, at 50 ohm. The logarithmic figures are
// nil at 0 W.
type Converted struct {
	W    float64  `json:"w"`
	DBm  *float64 `json:"dbm"`
	DBW  *float64 `json:"dbw"`
	DBuV *float64 `json:"dbuv"`
	Vrms float64  `json:"v_rms"`
}

// Convert gives q in every unit; it refuses what Power refuses.
func Convert(q Quantity) (Converted, error) {
	w, err := q.Power()
	if err != nil {
		return Converted{}, err
	}
	out := Converted{W: float64(w), Vrms: math.Sqrt(float64(w) * Impedance)}
	switch q.Unit { // a voltage comes back as it was given
	case V:
		out.Vrms = q.Value
	case MicroV:
		out.Vrms = q.Value / 1e6
	}
	if w > 0 {
		dbm := float64(w.DBm())
		if q.Unit.Logarithmic() {
			dbm = float64(q.level())
		}
		dbw, dbuv := dbm-30, dbm+dbuvAtZeroDBm
		out.DBm, out.DBW, out.DBuV = &dbm, &dbw, &dbuv
	}
	if math.IsInf(out.Vrms, 0) {
		return Converted{}, fmt.Errorf("%g %s is too large", q.Value, q.Unit)
	}
	return out, nil
}

// ParseNumber reads a plain decimal number as people and instruments write it:
// sign, digits, a point or a comma as decimal mark, an exponent. It refuses a
// comma before exactly three digits, which could be a thousands mark, and
// infinities, hexadecimal and the like.
func ParseNumber(s string) (float64, error) {
	mantissa, _, _ := strings.Cut(strings.ToLower(s), "e")
	if whole, decimals, comma := strings.Cut(mantissa, ","); comma {
		if strings.ContainsAny(decimals, ",.") || strings.Contains(whole, ".") {
			return 0, fmt.Errorf("%q has more than one decimal mark", s)
		}
		if len(decimals) == 3 {
			return 0, fmt.Errorf("%q is ambiguous: write %s.%s or %s%s", s, whole, decimals, whole, decimals)
		}
		s = strings.Replace(s, ",", ".", 1)
	}
	return ParsePointNumber(s)
}

// ParsePointNumber is ParseNumber for text whose decimal mark is known to be a point.
func ParsePointNumber(s string) (float64, error) {
	if !plainNumber(s) {
		return 0, fmt.Errorf("%q is not a number", s)
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || math.IsInf(v, 0) {
		return 0, fmt.Errorf("%q is too large a number", s)
	}
	return v, nil
}

// ParseScaled reads a number with a decimal point times 10^exp10. The power goes
// into the text before it is read, so that 146.52 in MHz is exactly 146520000.
func ParseScaled(s string, exp10 int) (float64, error) {
	v, err := ParsePointNumber(s)
	if err != nil || v == 0 {
		return v, err
	}
	mantissa, exp, has := strings.Cut(strings.ToLower(s), "e")
	if has {
		e, err := strconv.Atoi(exp)
		if err != nil {
			return 0, fmt.Errorf("%q is too large a number", s)
		}
		exp10 += e
	}
	return ParsePointNumber(mantissa + "e" + strconv.Itoa(exp10))
}

// plainNumber tells whether s is [+-]digits[.digits][e[+-]digits] with at least one digit.
func plainNumber(s string) bool {
	i, digits := 0, 0
	if i < len(s) && (s[i] == '+' || s[i] == '-') {
		i++
	}
	for ; i < len(s) && isDigit(s[i]); i++ {
		digits++
	}
	if i < len(s) && s[i] == '.' {
		for i++; i < len(s) && isDigit(s[i]); i++ {
			digits++
		}
	}
	if digits == 0 {
		return false
	}
	if i < len(s) && (s[i] == 'e' || s[i] == 'E') {
		i++
		if i < len(s) && (s[i] == '+' || s[i] == '-') {
			i++
		}
		start := i
		for ; i < len(s) && isDigit(s[i]); i++ {
		}
		if i == start {
			return false
		}
	}
	return i == len(s)
}

func isDigit(c byte) bool { return c >= '0' && c <= '9' }
