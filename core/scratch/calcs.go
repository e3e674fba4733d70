package scratch

import (
	"fmt"
	"math"

	"talloak/core/audio"
	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/dc"
	"talloak/core/decision"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/rf"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// The widest that anything is read as.
const (
	mostW   = 1e6
	mostDB  = 300
	mostMHz = 1e6
)

var calcs = []Calc{
	{"units", "One power in every unit", []Field{{"power", "power or voltage", "with its unit", "5 W", nil, "power"}}, "definitions; 50 Ω", power},
	{"swr", "SWR and what is reflected", []Field{{"forward", "forward", "W", "10", nil, ""}, {"reflected", "reflected", "W", "0.4", nil, ""}, {"swr", "or SWR", "", "", nil, "swr"}}, "ARRL Handbook, transmission lines, from memory", swr},
	{"mismatch", "What two mismatches make uncertain", []Field{{"source", "SWR of the source", "", "3", nil, ""}, {"load", "SWR of the load", "", "1.2", nil, "swr"}}, "U-shaped distribution, JCGM 100 and power-meter practice, from memory", mismatch},
	{"coax", "Loss of a coax", []Field{{"cable", "type", "", "rg-58", rf.CableTypes(), ""}, {"length", "length", "m", "1.5", nil, ""}, {"mhz", "at", "MHz", "146.52", nil, "mhz"}, {"swr", "SWR at its far end", "", "1", nil, ""}}, "total loss with a mismatched end: ARRL Antenna Book, from memory; cable data typical", coax},
	{"connector", "What a screen shows, at the connector", []Field{{"shown", "shown", "dBm", "-7.4", nil, "dbm"}, {"loss", "loss of the path", "dB", "50", nil, "loss"}, {"applied", "the screen adds", "dB", "0", nil, ""}}, "connector = shown + loss − what the screen adds", connector},
	{"pads", "Attenuation in front of an input", []Field{{"power", "the radio gives", "W", "5", nil, "w"}, {"most", "the input takes", "dBm", "10", nil, ""}, {"reserve", "room to keep", "dB", "10", nil, ""}}, "the claim and 1 dB more, since it may give more (common practice, no source)", pads},
	{"harmonics", "Harmonics, and where they land", []Field{{"mhz", "carrier", "MHz", "146.52", nil, "mhz"}}, "ITU Radio Regulations, Article 5, from memory", harmonics},
	{"limit", "The limit for a carrier", []Field{{"mhz", "carrier", "MHz", "146.52", nil, "mhz"}, {"power", "mean power", "W", "5", nil, "w"}, {"at", "at", "MHz", "293.04", nil, ""}, {"book", "rule book", "", "us-amateur", nil, "book"}}, "the clause is named with the result", limit},
	{"claim", "Measured against claimed", []Field{{"claimed", "claimed", "W", "5", nil, "w"}, {"measured", "measured", "W", "4.1", nil, "read"}}, "10 log(measured / claimed); S-units of 6 dB, IARU Region 1 R.1, from memory", claim},
	{"meter", "How well a meter tells it", []Field{{"reading", "reading", "W", "4.8", nil, "read"}, {"pct", "of the reading", "± %", "5", nil, ""}, {"scale", "scale", "W", "15", nil, ""}, {"full", "of full scale", "± %", "0", nil, ""}, {"digit", "last digit", "W", "0.01", nil, ""}}, "JCGM 100 (the GUM): limits are rectangular, U is k = 2; without the scatter of one reading", meter},
	{"am", "AM: how deep", []Field{{"carrier", "carrier", "W", "10.3", nil, "w"}, {"peak", "peak when spoken into", "W", "30", nil, ""}}, "PEP = carrier (1 + m)²: ARRL Handbook, from memory", am},
	{"fm", "FM: bandwidth and the first null", []Field{{"deviation", "deviation", "kHz", "2.27", nil, ""}, {"audio", "highest audio", "kHz", "3", nil, ""}}, "Carson’s rule, textbook; the carrier vanishes at an index of 2.405, the first zero of J0", fm},
	{"sensitivity", "A signal at the receiver", []Field{{"level", "the generator shows", "with its unit", "-90.6 dBm", nil, ""}, {"loss", "loss between", "dB", "40", nil, "loss"}}, "generator less everything between; PD into 50 Ω", receiver},
	{"sinad", "SINAD", []Field{{"percent", "distortion and noise", "%", "25.1", nil, ""}, {"db", "or SINAD", "dB", "", nil, ""}}, "−20 log of the share that is left, textbook", sinad},
	{"frequency", "Frequency error", []Field{{"nominal", "meant", "MHz", "146.52", nil, "mhz"}, {"read", "read", "MHz", "146.52024", nil, ""}}, "parts per million of what was meant, definition", frequency},
	{"supply", "Volts at the radio", []Field{{"volts", "supply", "V", "13.8", nil, ""}, {"ohm", "its leads, both ways", "Ω", "0.05", nil, ""}, {"amps", "current", "A", "6", nil, ""}}, "Ohm’s law", supply},
	{"noise", "Thermal noise in a bandwidth", []Field{{"khz", "bandwidth", "kHz", "100", nil, ""}}, "kTB at 290 K, textbook", noise},
}

func power(in *inputs) Answer {
	q, err := units.ParseQuantity(in.text("power"))
	if in.take("power", err) {
		return Answer{}
	}
	c, err := units.Convert(q)
	if in.take("power", err) {
		return Answer{}
	}
	out := []Figure{fig("power", "%s", watts(c.W)), fig("voltage", "%.4g V", c.Vrms)}
	if c.DBm != nil {
		out = append(out, fig("level", "%.2f dBm", *c.DBm), fig("", "%.2f dBW", *c.DBW), fig("", "%.2f dBµV", *c.DBuV))
	}
	return answer(fmt.Sprintf("10 log(%s / 1 mW); √(%s × 50 Ω)", watts(c.W), watts(c.W)), out...)
}

func swr(in *inputs) Answer {
	var r rf.Reflection
	var err error
	how := ""
	if in.given("swr") {
		s := in.number("swr", 1, 1e6)
		how = fmt.Sprintf("ρ = (%.4g − 1) / (%.4g + 1)", s, s)
		if !in.fine() {
			return Answer{}
		}
		r, err = rf.FromSWR(s)
		if in.take("swr", err) {
			return Answer{}
		}
	} else {
		f, b := in.number("forward", 0, mostW), in.number("reflected", 0, mostW)
		if !in.fine() {
			return Answer{}
		}
		how = fmt.Sprintf("ρ = √(%g W / %g W)", b, f)
		if r, err = rf.FromPowers(units.Watts(f), units.Watts(b)); in.take("reflected", err) {
			return Answer{}
		}
	}
	out := []Figure{fig("SWR", "%.3g", r.SWR), fig("ρ", "%.3f", r.Rho), fig("mismatch loss", "%s", db(r.MismatchLossDB))}
	if r.ReturnLossDB != nil {
		out = append(out, fig("return loss", "%s", db(*r.ReturnLossDB)))
	}
	if r.NetW != nil {
		out = append(out, fig("into the load", "%s", watts(*r.NetW)))
	}
	return answer(how+fmt.Sprintf("; SWR = (1 + %.3f) / (1 − %.3f)", r.Rho, r.Rho), out...)
}

func mismatch(in *inputs) Answer {
	a, b := in.number("source", 1, 1e6), in.number("load", 1, 1e6)
	if !in.fine() {
		return Answer{}
	}
	u := float64(rf.MismatchUncertainty(a, b))
	return answer(fmt.Sprintf("8.686 × %.3f × %.3f / √2", rf.Rho(a), rf.Rho(b)), fig("standard uncertainty", "±%s", db(u)), fig("k = 2", "±%s", db(2*u)))
}

func coax(in *inputs) Answer {
	m, mhz, s := in.number("length", 0, 1e4), in.number("mhz", 1e-3, mostMHz), in.number("swr", 1, 1e4)
	c, err := rf.CableType(in.text("cable"))
	if in.take("cable", err) || !in.fine() {
		return Answer{}
	}
	ml, beyond := c.Matched(m, units.Hertz(mhz*1e6))
	total := rf.TotalLoss(ml, s)
	out := []Figure{fig("matched", "%s", db(float64(ml))), fig("with that SWR", "%s", db(float64(total)))}
	if beyond {
		out = append(out, fig("", "beyond its data: taken further"))
	}
	return answer(fmt.Sprintf("%g m × (%.3f √%g + %.5f × %g) dB / 100 m", m, c.K1, mhz, c.K2, mhz), out...)
}

func connector(in *inputs) Answer {
	shown, loss, applied := in.number("shown", -mostDB, mostDB), in.number("loss", -mostDB, mostDB), in.number("applied", -mostDB, mostDB)
	if !in.fine() {
		return Answer{}
	}
	at := units.DBm(shown + loss - applied)
	return answer(fmt.Sprintf("%g dBm + %g dB − %g dB", shown, loss, applied), fig("at the connector", "%s", dbm(float64(at))), fig("", "%s", at.Watts()))
}

func pads(in *inputs) Answer {
	w, most, reserve := in.number("power", 1e-9, mostW), in.number("most", -mostDB, mostDB), in.number("reserve", 0, 100)
	if !in.fine() {
		return Answer{}
	}
	level := float64(units.Watts(w).DBm())
	need := max(0, level+1-most+reserve)
	return answer(fmt.Sprintf("%.1f dBm + 1 dB − %g dBm + %g dB", level, most, reserve), fig("at least", "%.1f dB", need), fig("the first part takes", "%s", watts(w*units.DB(1).Ratio())))
}

func harmonics(in *inputs) Answer {
	mhz := in.number("mhz", 1e-3, mostMHz/10)
	if !in.fine() {
		return Answer{}
	}
	var out []Figure
	for n := 2; n <= 10; n++ {
		f := units.Hertz(float64(n) * mhz * 1e6)
		lands := bands.Lands(f)
		if lands != "" {
			lands = ": " + lands
		}
		out = append(out, fig(fmt.Sprintf("%d f", n), "%s%s", f, lands))
	}
	return answer(fmt.Sprintf("n × %g MHz", mhz), out...)
}

func limit(in *inputs) Answer {
	mhz, w, at := in.number("mhz", 1e-3, mostMHz), in.number("power", 1e-9, mostW), in.number("at", 1e-3, mostMHz)
	book, ok := in.books(in.text("book"))
	if !ok {
		in.bad.Add("book", "there is no such rule book")
	}
	if !in.fine() {
		return Answer{}
	}
	l := book.For(rulebook.Carrier{Frequency: units.Hertz(mhz * 1e6), MeanW: w, PEPW: w, Mode: rulebook.FM, State: rulebook.Operating})
	got := l.At(units.Hertz(at * 1e6))
	if got.LimitDBm == nil {
		return answer(book.Title, fig("limit", "none set there"))
	}
	carrier := float64(units.Watts(w).DBm())
	out := []Figure{fig("limit", "%s", dbm(*got.LimitDBm)), fig("", "%s", units.DBm(*got.LimitDBm).Watts()), fig("below the carrier", "%.2f dB", carrier-*got.LimitDBm)}
	if got.DecidedBy != nil {
		out = append(out, fig("decided by", "its %s part", *got.DecidedBy))
	}
	clause := book.Title
	if got.Citation != nil {
		clause += ", " + *got.Citation
	}
	return answer(fmt.Sprintf("%s: carrier %.2f dBm", clause, carrier), out...)
}

func claim(in *inputs) Answer {
	c, m := in.number("claimed", 1e-9, mostW), in.number("measured", 0, mostW)
	if !in.fine() {
		return Answer{}
	}
	r, err := claims.Compare(claims.Claim{ClaimedW: c, MeasuredW: m, Scheme: claims.Tolerance, ToleranceDB: claims.DefaultToleranceDB, PassPercent: claims.DefaultPassPercent, Rule: decision.Simple})
	if in.take("measured", err) {
		return Answer{}
	}
	out := []Figure{fig("of the claim", "%s", r.PercentWords())}
	if r.DeltaDB != nil {
		out = append(out, fig("", "%+.2f dB", *r.DeltaDB), fig("", "%+.1f S-units", *r.SUnits))
	}
	return answer(fmt.Sprintf("10 log(%s / %s)", watts(m), watts(c)), out...)
}

func meter(in *inputs) Answer {
	w, pct, scale, full, digit := in.number("reading", 0, mostW), in.number("pct", 0, 50), in.number("scale", 1e-9, mostW), in.number("full", 0, 50), in.number("digit", 0, 1e3)
	if !in.fine() {
		return Answer{}
	}
	direct, err := path.Assemble(nil)
	if in.take("reading", err) {
		return Answer{}
	}
	r, err := reading.Refer(reading.Input{Path: direct, Values: []units.Quantity{{Value: w, Unit: units.W}}, Frequency: 146e6, Meter: reading.Meter{ScaleW: &scale, PctReading: pct, PctFullScale: full, DigitW: digit}})
	if in.take("reading", err) {
		return Answer{}
	}
	out := []Figure{}
	if r.LowW != nil && r.HighW != nil {
		out = append(out, fig("k = 2", "%s to %s", watts(*r.LowW), watts(*r.HighW)))
	}
	if r.UncertaintyDB != nil {
		out = append(out, fig("", "±%s, the wider side", db(*r.UncertaintyDB)))
	}
	how := fmt.Sprintf("2 √(Σ u²) of %s:", watts(w))
	for i, l := range r.Budget {
		if i > 0 {
			how += ","
		}
		how += fmt.Sprintf(" %s %.2f %%", l.Source, 100*l.Relative)
	}
	return answer(how, out...)
}

func am(in *inputs) Answer {
	c, p := in.number("carrier", 1e-9, mostW), in.number("peak", 1e-9, mostW)
	if !in.fine() {
		return Answer{}
	}
	m := rf.AMDepth(units.Watts(c), units.Watts(p))
	return answer(fmt.Sprintf("√(%s / %s) − 1", watts(p), watts(c)), fig("depth", "%.0f %%", 100*m), fig("full modulation peaks at", "%s", rf.AMPeak(units.Watts(c), 1)))
}

func fm(in *inputs) Answer {
	d, a := in.number("deviation", 1e-3, 1e3), in.number("audio", 1e-3, 1e3)
	if !in.fine() {
		return Answer{}
	}
	return answer(fmt.Sprintf("2 (%g + %g) kHz; %g kHz / %.3f", d, a, d, audio.J0Zero(1)), fig("bandwidth", "%.2f kHz", audio.Carson(d, a)), fig("first null at", "%.3f kHz of tone", d/audio.J0Zero(1)))
}

func receiver(in *inputs) Answer {
	loss := in.number("loss", 0, mostDB)
	q, err := units.ParseQuantity(in.text("level"))
	if in.take("level", err) || !in.fine() {
		return Answer{}
	}
	c, err := units.Convert(q)
	if in.take("level", err) {
		return Answer{}
	}
	if c.DBm == nil {
		in.bad.Add("level", "give a level above nothing")
		return Answer{}
	}
	at := *c.DBm - loss
	back, err := units.Convert(units.Quantity{Value: at, Unit: units.UnitDBm})
	if in.take("level", err) {
		return Answer{}
	}
	return answer(fmt.Sprintf("%.2f dBm − %g dB", *c.DBm, loss), fig("at the receiver", "%s", dbm(at)), fig("", "%.3g µV", 1e6*back.Vrms))
}

func sinad(in *inputs) Answer {
	var s audio.SINAD
	var err error
	how := ""
	if in.given("db") {
		v := in.number("db", 0, 200)
		how = fmt.Sprintf("100 × 10^(−%g / 20)", v)
		s, err = audio.FromDB(v)
	} else {
		v := in.number("percent", 1e-6, 100)
		how = fmt.Sprintf("−20 log(%g / 100)", v)
		s, err = audio.FromPercent(v)
	}
	if in.take("percent", err) || !in.fine() {
		return Answer{}
	}
	return answer(how, fig("SINAD", "%s", db(s.DB)), fig("distortion and noise", "%.1f %%", s.Percent))
}

func frequency(in *inputs) Answer {
	n, r := in.number("nominal", 1e-3, mostMHz), in.number("read", 1e-3, mostMHz)
	if !in.fine() {
		return Answer{}
	}
	off := math.Round((r-n)*1e12) / 1e6
	return answer(fmt.Sprintf("(%.6f − %.6f) MHz", r, n), fig("error", "%+.1f Hz", off), fig("", "%+.3f ppm", off/n))
}

func supply(in *inputs) Answer {
	v, ohm, a := in.number("volts", 0.1, 1e3), in.number("ohm", 0, 10), in.number("amps", 1e-6, 1e3)
	if !in.fine() {
		return Answer{}
	}
	side, err := dc.Work(dc.Wiring{SetV: v, LeadOhm: &ohm}, []dc.Level{{Name: "it", W: 1, A: &a}})
	if in.take("amps", err) {
		return Answer{}
	}
	row := side.Rows[0]
	if row.RadioV == nil || row.DropV == nil {
		in.bad.Add("amps", "its leads cannot carry that")
		return Answer{}
	}
	return answer(fmt.Sprintf("%g V − %g A × %g Ω", v, a, ohm), fig("at the radio", "%.2f V", *row.RadioV), fig("the leads drop", "%.2f V", *row.DropV))
}

func noise(in *inputs) Answer {
	khz := in.number("khz", 1e-6, 1e6)
	if !in.fine() {
		return Answer{}
	}
	return answer(fmt.Sprintf("10 log(1.380649 × 10⁻²³ J/K × 290 K × %g kHz / 1 mW)", khz), fig("noise", "%s", dbm(float64(rf.ThermalNoise(units.Hertz(khz*1e3))))))
}
