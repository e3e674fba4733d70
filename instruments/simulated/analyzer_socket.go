package simulated

import (
	"encoding/binary"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"talloak/instruments/scpi"
)

// setsHow is a setting that changes how a sweep is taken: what is held is forgotten, and one
// under way begins anew.
func (b *Bench) setsHow(set func(float64)) func(float64) {
	return func(v float64) {
		set(v)
		b.how()
	}
}

func (b *Bench) how() {
	a := &b.analyzer
	a.unhold()
	if a.begun = a.begun && time.Until(a.done) > 0; a.begun {
		a.done = b.lasts(a.sweepTime())
	}
}

// moveEnds keeps start below stop by moving the other end along.
func (b *Bench) moveEnds(start, stop float64, startLeads bool) {
	s, a := &b.scene.Analyzer, &b.analyzer
	if stop-start < leastSpan {
		if startLeads {
			stop = start + leastSpan
		} else {
			start = stop - leastSpan
		}
	}
	a.start, a.stop = math.Max(start, float64(s.From)), math.Min(stop, float64(s.To))
}

func (b *Bench) frequencySettings() []scpi.Command {
	s, a := &b.scene.Analyzer, &b.analyzer
	least, most := float64(s.From), float64(s.To)
	hertz := func(from, to, usual float64) scpi.Span {
		return scpi.Span{Unit: scpi.Hertz, Least: from, Most: to, Default: usual}
	}
	return []scpi.Command{
		setting("[SENSe]:FREQuency:STARt", hertz(least, most-leastSpan, least), func() float64 { return a.start },
			b.setsHow(func(v float64) { b.moveEnds(v, a.stop, true) })),
		setting("[SENSe]:FREQuency:STOP", hertz(least+leastSpan, most, most), func() float64 { return a.stop },
			b.setsHow(func(v float64) { b.moveEnds(a.start, v, false) })),
		setting("[SENSe]:FREQuency:CENTer", hertz(least+leastSpan/2, most-leastSpan/2, (least+most)/2), func() float64 { return (a.start + a.stop) / 2 },
			b.setsHow(func(v float64) {
				half := math.Min((a.stop-a.start)/2, math.Min(v-least, most-v))
				b.moveEnds(v-half, v+half, true)
			})),
		setting("[SENSe]:FREQuency:SPAN", hertz(leastSpan, most-least, most-least), func() float64 { return a.stop - a.start },
			b.setsHow(func(v float64) {
				center := math.Min(math.Max((a.start+a.stop)/2, least+v/2), most-v/2)
				b.moveEnds(center-v/2, center+v/2, true)
			})),
	}
}

func (b *Bench) analyzerDevice() *scpi.Device {
	a := &b.analyzer
	bandwidth := scpi.Span{Unit: scpi.Hertz, Least: 10, Most: 3e6, Default: 100e3}
	rbw := func() float64 { return a.rbw }
	setRBW := b.setsHow(func(v float64) { a.rbw = v })
	decibel := func(from, to, usual float64) scpi.Span {
		return scpi.Span{Unit: scpi.Decibel, Least: from, Most: to, Default: usual}
	}
	commands := append(b.frequencySettings(),
		setting("[SENSe]:BANDwidth[:RESolution]", bandwidth, rbw, setRBW),
		setting("[SENSe]:BWIDth[:RESolution]", bandwidth, rbw, setRBW),
		setting("[SENSe]:SWEep:POINts", scpi.Span{Least: 11, Most: mostPoints, Default: 1001, Whole: true},
			func() float64 { return float64(a.points) }, b.setsHow(func(v float64) { a.points = int(v) })),
		ask("[SENSe]:SWEep:TIME", func(*scpi.Call) string { return scpi.NR3(a.sweepTime().Seconds()) }),
		words("[SENSe]:DETector[:FUNCtion]", []string{"POSitive", "SAMPle", "RMS", "AVERage"},
			func() string { return a.detector }, func(w string) { a.detector = w; b.how() }),
		words("TRACe:MODE", []string{"WRITe", "MAXHold", "AVERage"}, func() string { return a.mode }, func(w string) { a.mode = w; b.how() }),
		setting("INPut:ATTenuation", decibel(0, 50, 10), func() float64 { return a.attenuation },
			b.setsHow(func(v float64) { a.attenuation = v })),
		onOff("INPut:GAIN:STATe", func() bool { return a.amplified }, func(_ *scpi.Call, on bool) { a.amplified = on; b.how() }),
		movingSetting("DISPlay[:WINDow]:TRACe:Y[:SCALe]:RLEVel", func() scpi.Span {
			return scpi.Span{Unit: scpi.DBm, Least: -130 + a.offset, Most: 30 + a.offset, Default: a.offset}
		}, func() float64 { return a.reference + a.offset }, func(v float64) { a.reference = v - a.offset }),
		setting("DISPlay[:WINDow]:TRACe:Y[:SCALe]:RLEVel:OFFSet", decibel(-200, 200, 0),
			func() float64 { return a.offset }, func(v float64) { a.offset = v }),
		onOff("INITiate:CONTinuous", func() bool { return a.continuous }, func(_ *scpi.Call, on bool) { a.continuous = on }),
		do("INITiate[:IMMediate]", func(c *scpi.Call) {
			b.catchUp()
			if a.continuous || a.begun {
				c.Fail(scpi.InitIgnored)
				return
			}
			b.begin()
		}),
		do("ABORt", func(*scpi.Call) {
			b.catchUp() // what is not whole by now is not shown
			a.begun, a.done = false, time.Time{}
		}),
		words("FORMat:BORDer", []string{"NORMal", "SWAPped"}, func() string { return map[bool]string{true: "SWAP", false: "NORM"}[a.swapped] },
			func(w string) { a.swapped = w == "SWAP" }),
		scpi.Command{Header: "FORMat[:DATA]", Do: b.setFormat, Ask: func(c *scpi.Call) string {
			c.Whole()
			return map[bool]string{true: "REAL,32", false: "ASC"}[a.real32]
		}},
		scpi.Command{Header: "TRACe[:DATA]", Ask: b.answerTrace},
		ask("STATus:QUEStionable:POWer:CONDition", func(*scpi.Call) string {
			if b.overloaded() {
				return "1"
			}
			return "0"
		}),
	)
	d := scpi.NewDevice(&b.lock, b.identity("analyzer"), func() time.Time { return a.done }, append(commands, b.markerCommands()...))
	d.Reset = b.resetAnalyzer
	d.SelfTest = func() bool { return !a.blown }
	return d
}

func (b *Bench) markerCommands() []scpi.Command {
	a, s := &b.analyzer, &b.scene.Analyzer
	return []scpi.Command{
		do("CALCulate:MARKer:MAXimum[:PEAK]", func(c *scpi.Call) {
			levels, ok := b.trace(c)
			for i := range levels {
				if ok && levels[i] > levels[a.marker] {
					a.marker = i
				}
			}
		}),
		setting("CALCulate:MARKer:X", scpi.Span{Unit: scpi.Hertz, Least: float64(s.From), Most: float64(s.To), Default: float64(s.From)},
			func() float64 { return a.at(a.marker) },
			func(v float64) {
				i := math.Round((v - a.start) / (a.stop - a.start) * float64(a.points-1))
				a.marker = int(math.Min(math.Max(i, 0), float64(a.points-1)))
			}),
		ask("CALCulate:MARKer:Y", func(c *scpi.Call) string {
			if levels, ok := b.trace(c); ok && a.marker < len(levels) {
				return scpi.NR3(levels[a.marker])
			}
			return scpi.NR3(scpi.NotANumber)
		}),
	}
}

func (b *Bench) setFormat(c *scpi.Call) {
	word, ok := c.Word("ASCii", "REAL")
	if !ok {
		return
	}
	if c.Optional() {
		span := scpi.Span{Least: 32, Most: 32, Whole: true}
		if word == "ASC" {
			span = scpi.Span{Least: 0, Most: 16, Whole: true} // digits: it gives what it has
		}
		if _, ok := c.Number(span); !ok {
			return
		}
	}
	b.analyzer.real32 = word == "REAL"
}

// answerTrace is the trace as numbers, or as a block of definite length (IEEE 488.2, 8.7.9).
func (b *Bench) answerTrace(c *scpi.Call) string {
	if _, ok := c.Word("TRACE1", "TRAC1"); !ok || !c.Whole() {
		return ""
	}
	levels, ok := b.trace(c)
	if !ok {
		return ""
	}
	if !b.analyzer.real32 {
		out := make([]string, len(levels))
		for i, l := range levels {
			out[i] = strconv.FormatFloat(l, 'f', 3, 64)
		}
		return strings.Join(out, ",")
	}
	var order binary.AppendByteOrder = binary.BigEndian
	if b.analyzer.swapped {
		order = binary.LittleEndian
	}
	block := []byte{}
	for _, l := range levels {
		block = order.AppendUint32(block, math.Float32bits(float32(l)))
	}
	size := strconv.Itoa(len(block))
	return fmt.Sprintf("#%d%s%s", len(size), size, block)
}
