package simulated

import (
	"context"
	"encoding/binary"
	"math"
	"strconv"
	"strings"
	"testing"
	"time"

	"talloak/core/path"
	"talloak/core/units"
)

// hands is a bench and the hands on it: every message to an instrument of a kind.
type hands struct {
	*testing.T
	bench *Bench
}

func onBench(t *testing.T, scene Scene, seed uint64, speed float64) hands {
	return hands{t, NewBench(scene, seed, speed)}
}

func (h hands) say(kind, message string) string {
	return h.bench.Device(kind).Execute(context.Background(), message)
}

func (h hands) number(kind, message string) float64 {
	h.Helper()
	answer := h.say(kind, message)
	v, err := strconv.ParseFloat(answer, 64)
	if err != nil {
		h.Fatalf("%s: %q answers %q: %s", kind, message, answer, h.say(kind, "SYST:ERR?"))
	}
	return v
}

func (h hands) trace() []float64 {
	h.Helper()
	var out []float64
	for _, s := range strings.Split(h.say("analyzer", "TRAC? TRACE1"), ",") {
		v, err := strconv.ParseFloat(s, 64)
		if err != nil {
			h.Fatalf("no trace: %v", err)
		}
		out = append(out, v)
	}
	return out
}

func (h hands) sweep(settings string) []float64 {
	h.Helper()
	h.say("analyzer", settings)
	h.say("analyzer", "INIT;*OPC?")
	return h.trace()
}

func (h hands) keyed() hands {
	h.say("supply", "OUTP ON")
	h.say("transmitter", "SOUR:KEY ON")
	return h
}

func mean(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x
	}
	return sum / float64(len(v))
}

func near(t *testing.T, what string, got, want, within float64) {
	t.Helper()
	if !(math.Abs(got-want) <= within) {
		t.Errorf("%s: %g, want %g within %g", what, got, want, within)
	}
}

func highest(levels []float64, from, to int) float64 {
	m := math.Inf(-1)
	for _, v := range levels[from:to] {
		m = max(m, v)
	}
	return m
}

// TestNoise: by its bandwidth 10 dB a decade, and by detector as noise does that is exponential
// in power: a sample lies 2.51 dB below the mean on a logarithmic scale, a mean of amplitudes
// 1.05 dB (10 log10 of pi/4), the highest of eight 4.34 dB over the harmonic number's log
// (textbook; pi/4 and 2.51 dB are published in handbooks of analyzers, from memory).
func TestNoise(t *testing.T) {
	h := onBench(t, DefaultScene(1, false), 1, 1e6)
	at := map[string]float64{}
	for _, detector := range []string{"POS", "SAMP", "RMS", "AVER"} {
		wide := mean(h.sweep("FREQ:STAR 20MHz;STOP 100MHz;:BAND 100kHz;:DET " + detector))
		narrow := mean(h.sweep("BAND 10kHz"))
		near(t, detector+" a decade", wide-narrow, 10, 0.5)
		at[detector] = wide
	}
	near(t, "sample below RMS", at["SAMP"]-at["RMS"], -2.51+0.28, 0.25) // the mean of eight has a scatter of its own
	near(t, "average below RMS", at["AVER"]-at["RMS"], -1.05+0.1, 0.25)
	if at["POS"] < at["RMS"]+3 {
		t.Errorf("a peak detector at %g beside %g", at["POS"], at["RMS"])
	}
	for _, db := range []float64{0, 10, 30} {
		got := mean(h.sweep("BAND 100kHz;:DET RMS;:INP:ATT " + strconv.Itoa(int(db))))
		near(t, "by attenuation", got-at["RMS"], db-10, 0.3)
	}
}

// TestHoldSettles: the noise that is held rises, ever more slowly.
func TestHoldSettles(t *testing.T) {
	h := onBench(t, DefaultScene(1, false), 1, 1e6)
	before := mean(h.sweep("FREQ:STAR 20MHz;STOP 100MHz;:TRAC:MODE MAXH"))
	rose := math.Inf(1)
	for range 5 {
		now := mean(h.sweep("*WAI"))
		if now <= before || now-before > rose+0.1 {
			t.Errorf("from %g to %g, after a rise of %g", before, now, rose)
		}
		before, rose = now, now-before
	}
	if after := mean(h.sweep("TRAC:MODE WRIT")); after > before-2 {
		t.Errorf("not held any more it stands at %g, held at %g", after, before)
	}
}

// TestFilter: a line is 3 dB down at half the bandwidth (a definition), 12.04 dB at all of it (a
// Gaussian), and as high as it is at every detector where the bandwidth is wider than a point.
func TestFilter(t *testing.T) {
	scene := DefaultScene(1, false)
	scene.Radio.OffPPM, scene.Analyzer.OffDB, scene.Radio.WarmDB = 0, 0, 0
	h := onBench(t, scene, 1, 1e6).keyed()
	for _, detector := range []string{"POS", "SAMP", "RMS", "AVER"} {
		got := h.sweep("FREQ:CENT 146.52MHz;SPAN 1MHz;:BAND 100kHz;:SWE:POIN 10001;:DET " + detector)
		near(t, detector, got[5000], 36.99-50, 0.02)
		near(t, detector+" at half", got[5500]-got[5000], -3.01, 0.05)
		near(t, detector+" at all", got[6000]-got[5000], -12.04, 0.1)
	}
	// Of a stretch wider than the filter a mean of powers shows its share.
	share := h.sweep("FREQ:STAR 1 MHz;STOP 1.001GHz;:BAND 10 kHz;:SWE:POIN 1001;:DET RMS")
	near(t, "a share", highest(share, 0, 1001), 36.99-50+10*math.Log10(10e3*1.0645/1e6), 0.1)
}

// TestOwnProducts: products of order n rise n dB a dB at the mixer, n - 1 as displayed
// (textbook), so that 10 dB more in front tell them from the radio's.
func TestOwnProducts(t *testing.T) {
	scene := DefaultScene(1, false)
	for name, l := range scene.Radio.Bands["all"] {
		l.Harmonics = nil
		scene.Radio.Bands = map[string]map[string]Level{"all": {name: l, "HIGH": {W: 5}}}
	}
	scene.Analyzer.NoiseDBm = -190
	h := onBench(t, scene, 1, 1e6).keyed()
	dbc := func(attenuation string, order float64) float64 {
		f := strconv.FormatFloat(146.52*order, 'f', 2, 64)
		own := highest(h.sweep("INP:ATT "+attenuation+";:FREQ:CENT "+f+"MHz;SPAN 1MHz;:BAND 10kHz"), 0, 1001)
		return own - highest(h.sweep("FREQ:CENT 146.52MHz"), 0, 1001)
	}
	for order := 2.0; order <= 3; order++ {
		near(t, "10 dB less at the mixer", dbc("0", order)-dbc("10", order), 10*(order-1), 0.2)
	}
	near(t, "second order by its intercept", dbc("0", 2), -(40 - (36.99 - 50)), 0.2)
	if got := h.say("analyzer", "STAT:QUES:POW:COND?"); got != "0" {
		t.Errorf("overloaded at -13 dBm: %s", got)
	}
	if got := h.say("analyzer", "INP:GAIN:STAT ON;:INP:ATT 0;:STAT:QUES:POW:COND?"); got != "1" {
		t.Errorf("not overloaded at +7 dBm: %s", got)
	}
}

// TestMeterWithinItsStatement: at every seed, and never where it does not cover.
func TestMeterWithinItsStatement(t *testing.T) {
	offs := map[float64]bool{}
	for seed := range uint64(20) {
		h := onBench(t, DefaultScene(seed, false), seed, 1e6)
		if got := h.number("power-meter", "MEAS?"); got != 0 {
			t.Errorf("not keyed it reads %g W", got)
		}
		h.keyed()
		w := h.number("power-meter", "READ?")
		off := float64(units.Watts(w).DBm()) - 36.99
		near(t, "5 W", off, 0, 0.3)
		offs[math.Round(off*100)] = true
		near(t, "in dBm", h.number("power-meter", "UNIT:POW DBM;:FETC?"), 36.99+off, 0.01)
		near(t, "SWR", h.number("power-meter", "SWR?"), 1.12, 0.001)
		level := highest(h.sweep("FREQ:CENT 146.52MHz;SPAN 1MHz"), 0, 1001)
		near(t, "analyzer", level, 36.99-50, 1)
	}
	if len(offs) < 10 {
		t.Errorf("the meters of 20 seeds are off by %v", offs)
	}
	h := onBench(t, DefaultScene(1, false), 1, 1e6).keyed()
	least := h.number("power-meter", "FREQ? MIN")
	h.say("transmitter", "SOUR:FREQ "+strconv.Itoa(int(least)-1_000_000))
	if got := h.number("power-meter", "MEAS?"); got != 9.91e37 {
		t.Errorf("out of its range it reads %g W", got)
	}
	if got := h.say("power-meter", "SYST:ERR?"); !strings.HasPrefix(got, "-222,") {
		t.Errorf("and says %s", got)
	}
}

// TestSupply: it sags by its leads, and limits: the radio then has less than is set.
func TestSupply(t *testing.T) {
	h := onBench(t, DefaultScene(1, false), 1, 1e6).keyed()
	near(t, "amps", h.number("supply", "MEAS:CURR?"), 5/(0.4*13.76)+0.15, 0.02)
	full := h.number("power-meter", "MEAS?")
	h.say("supply", "CURR 500 mA")
	near(t, "limited", h.number("supply", "MEAS:CURR?"), 0.5, 0.01)
	if v := h.number("supply", "MEAS:VOLT?"); v > 13 {
		t.Errorf("limited, it still gives %g V", v)
	}
	if w := h.number("power-meter", "MEAS?"); w > 0.7*full {
		t.Errorf("limited, the radio puts out %g of %g W", w, full)
	}
	for _, kind := range []string{"supply", "transmitter", "generator"} {
		h.say(kind, "*RST")
	}
	if got := h.say("supply", "OUTP?") + h.say("transmitter", "KEY?") + h.say("generator", "OUTP?"); got != "000" {
		t.Errorf("after *RST: %s", got)
	}
}

// TestKeyedIntoTheGenerator: it does not live through it, in whatever order it comes.
func TestKeyedIntoTheGenerator(t *testing.T) {
	for _, order := range [][2]string{{"supply", "transmitter"}, {"transmitter", "supply"}} {
		h := onBench(t, DefaultScene(1, true), 1, 1e6)
		if got := h.say("generator", "OUTP ON;OUTP?"); got != "1" {
			t.Fatalf("the generator gives %s", got)
		}
		for _, kind := range order {
			h.say(kind, map[string]string{"supply": "OUTP ON", "transmitter": "KEY ON"}[kind])
		}
		for range 2 {
			if got := h.say("generator", "SYST:ERR?;:OUTP?"); got != `-310,"System error";0` {
				t.Errorf("keyed into: %s", got)
			}
			h.say("generator", "*RST;OUTP ON")
		}
	}
}

// TestTrace: numbers and blocks say the same, in both orders, with the offset applied; a sweep
// that is broken off is not shown.
func TestTrace(t *testing.T) {
	h := onBench(t, DefaultScene(1, false), 1, 1e6).keyed()
	plain := h.sweep("FREQ:STAR 100MHz;STOP 1GHz;:SWE:POIN 501")
	h.say("analyzer", "DISP:TRAC:Y:RLEV:OFFS 50;:FORM REAL,32")
	for border, order := range map[string]binary.ByteOrder{"NORM": binary.BigEndian, "SWAP": binary.LittleEndian} {
		block := h.say("analyzer", "FORM:BORD "+border+";:TRAC:DATA? trace1")
		if !strings.HasPrefix(block, "#42004") || len(block) != 6+2004 {
			t.Fatalf("%s: %q...", border, block[:min(8, len(block))])
		}
		for i := range plain {
			got := math.Float32frombits(order.Uint32([]byte(block[6+4*i:])))
			near(t, border, float64(got), plain[i]+50, 1e-3)
		}
	}
	near(t, "the marker", h.number("analyzer", "CALC:MARK:MAX;X?"), 146.8e6, 2e6)
	near(t, "and its level", h.number("analyzer", "CALC:MARK:Y?"), highest(plain, 0, 501)+50, 1e-3)
	slow := onBench(t, DefaultScene(1, false), 1, 0.01)
	slow.say("analyzer", "INIT")
	if got := slow.say("analyzer", "INIT;:SYST:ERR?"); !strings.HasPrefix(got, "-213,") {
		t.Errorf("begun twice: %s", got)
	}
	slow.say("analyzer", "ABOR")
	if got := slow.bench.analyzer; got.shown != nil || got.begun {
		t.Error("half a sweep is shown")
	}
}

// TestSameCommandsSameAnswers: whatever the speed; another seed answers otherwise.
func TestSameCommandsSameAnswers(t *testing.T) {
	afternoon := func(seed uint64, speed float64) string {
		h := onBench(t, DefaultScene(seed, false), seed, speed)
		var out []string
		for _, m := range []string{"supply OUTP ON", "transmitter KEY ON", "power-meter MEAS?", "analyzer TRAC:MODE MAXH;:SWE:POIN 101;:BAND 1 MHz", "analyzer INIT;*OPC?",
			"analyzer TRAC? TRACE1", "analyzer INIT;*WAI;:TRAC? TRACE1", "supply MEAS:VOLT?;CURR?", "counter MEAS:FREQ?", "transmitter KEY:TIME?", "power-meter READ?"} {
			kind, message, _ := strings.Cut(m, " ")
			out = append(out, h.say(kind, message))
		}
		return strings.Join(out, "\n")
	}
	first := afternoon(3, 1e6)
	if second := afternoon(3, 40); second != first {
		t.Errorf("slower it says\n%s\ninstead of\n%s", second, first)
	}
	if other := afternoon(4, 1e6); other == first {
		t.Error("another seed says the same")
	}
}

// TestEveryQuery: each setting is told as it was set.
func TestEveryQuery(t *testing.T) {
	h := onBench(t, DefaultScene(1, false), 1, 1e6)
	for kind, settings := range map[string][]string{
		"analyzer": {"FREQ:STAR 1.000000000E+08", "FREQ:STOP 2.000000000E+09", "FREQ:CENT 5.000000000E+08", "FREQ:SPAN 1.000000000E+06", "BAND 3.000000000E+04", "BWID:RES 1.000000000E+05",
			"SWE:POIN 501", "DET RMS", "DET:FUNC AVER", "TRAC:MODE MAXH", "INP:ATT 2.000000000E+01", "INP:GAIN:STAT 1", "DISP:TRAC:Y:RLEV:OFFS 4.000000000E+01", "DISP:TRAC:Y:RLEV 3.000000000E+01",
			"INIT:CONT 1", "FORM REAL,32", "FORM:BORD SWAP", "CALC:MARK:X 5.001000000E+08"},
		"power-meter": {"FREQ 2.000000000E+08", "UNIT:POW DBM"},
		"generator":   {"FREQ 2.000000000E+08", "POW -5.000000000E+01", "OUTP 1"},
		"supply":      {"VOLT 1.200000000E+01", "CURR 2.000000000E+00", "OUTP 1"},
		"counter":     {"FREQ:APER 1.000000000E-01"},
		"transmitter": {"SOUR:FREQ 4.460000000E+08", "SOUR:LEV LOW", "SOUR:KEY 1"},
	} {
		for _, s := range settings {
			header, value, _ := strings.Cut(s, " ")
			h.say(kind, s)
			if got := h.say(kind, header+"?"); got != value {
				t.Errorf("%s: %s is told as %q (%s)", kind, s, got, h.say(kind, "SYST:ERR?"))
			}
		}
		if got := h.say(kind, "*TST?;*CLS;*RST"); got != "0" {
			t.Errorf("%s: %s", kind, got)
		}
	}
	if got := h.say("analyzer", "INIT:CONT?;:FORM?;FORM:BORD?;:DISP:TRAC:Y:RLEV:OFFS?;:TRAC:MODE?;:DET?"); got != "0;ASC;NORM;0.000000000E+00;WRIT;POS" {
		t.Errorf("after *RST: %s", got)
	}
}

func TestAddresses(t *testing.T) {
	for _, address := range []string{"0.0.0.0:0", "192.0.2.1:0", "x", "127.0.0.1:65534", ":0", "127.0.0.1:-1"} {
		if _, _, err := NewBench(DefaultScene(1, false), 1, 1).Listen(t.Context(), address); err == nil {
			t.Errorf("%s is taken", address)
		}
	}
}

// TestHeat: a part that takes five times what it can for long breaks, stays broken, and nothing comes through
// it as before; one that can take it is warm, and cools once it lies beside.
func TestHeat(t *testing.T) {
	scene := DefaultScene(1, false)
	for most, breaks := range map[float64]bool{1: true, 50: false} {
		h := onBench(t, scene, 1, 2000)
		h.bench.Wire(Wired{Parts: []WiredPart{{"pad", path.FlatLoss(0), most}}, ToMeter: path.FlatLoss(0), MeterFrom: 100e6, MeterTo: 500e6, Ends: true})
		h.keyed()
		before := h.number("power-meter", "MEAS?")
		for until := time.Now().Add(time.Minute); h.bench.See().Heat["pad"] < 4.9/most && time.Now().Before(until); time.Sleep(time.Millisecond) {
		}
		seen := h.bench.See()
		if (len(seen.Broken) == 1) != breaks || (len(h.bench.Events()) == 1) != breaks || breaks != (h.number("power-meter", "MEAS?") < before/900) {
			t.Errorf("rated for %g W: %+v %+v", most, seen, h.bench.Events())
		}
		h.say("transmitter", "KEY OFF")
		h.bench.Wire(Wired{Ends: true})
		for until := time.Now().Add(time.Minute); h.bench.See().Heat["pad"] > 0.01 && time.Now().Before(until); time.Sleep(time.Millisecond) {
		}
		if got := h.bench.See(); got.Heat["pad"] > 0.01 || (len(got.Broken) == 1) != breaks {
			t.Errorf("laid aside: %+v", got)
		}
	}
	h := onBench(t, scene, 1, 1)
	h.bench.Wire(Wired{Parts: []WiredPart{{"pad", path.FlatLoss(0), 50}}})
	if h.keyed(); len(h.bench.Events()) != 1 {
		t.Error("keyed into nothing is no event")
	}
}
