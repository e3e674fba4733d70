package instruments_test

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"math"
	"net"
	"strings"
	"testing"
	"time"

	"talloak/core/problem"
	"talloak/instruments"
	"talloak/instruments/simulated"
)

// bench serves a simulated bench and gives where each instrument listens.
func bench(t *testing.T) map[string]string {
	t.Helper()
	served, wait, err := simulated.NewBench(simulated.DefaultScene(7, false), 7, 1000).Listen(t.Context(), "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(wait)
	out := map[string]string{}
	for _, s := range served {
		out[s.Kind] = s.Address
	}
	return out
}

func driver(t *testing.T, id string) *instruments.Driver {
	t.Helper()
	for _, d := range instruments.Shipped() {
		if d.ID == id {
			return &d
		}
	}
	t.Fatalf("no driver %s", id)
	return nil
}

func converse(t *testing.T, rack *instruments.Rack, address, id string) *instruments.Line {
	t.Helper()
	l, done, err := rack.Converse(t.Context(), address, driver(t, id))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(done)
	return l
}

// say sends lines to a simulated instrument, each answered before the next.
func say(t *testing.T, address string, lines ...string) {
	t.Helper()
	c, err := net.Dial("tcp", address)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = c.Close() }()
	for _, l := range lines {
		_, _ = fmt.Fprintf(c, "%s;*OPC?\n", l)
		if answer, err := bufio.NewReader(c).ReadString('\n'); err != nil || answer != "1\n" {
			t.Fatalf("%s: %q %v", l, answer, err)
		}
	}
}

// TestShippedDriversAgainstTheBench: each is read and used, and gives what the bench does.
func TestShippedDriversAgainstTheBench(t *testing.T) {
	at, rack := bench(t), &instruments.Rack{}
	say(t, at["supply"], "OUTP ON")
	say(t, at["transmitter"], "KEY ON")
	for _, c := range []struct {
		kind, driver, figure string
		want, within         float64
	}{
		{"power-meter", "scpi-power-meter", "power", 5, 0.4}, {"power-meter", "scpi-power-meter", "swr", 1.12, 0.01},
		{"supply", "scpi-supply", "volts", 13.8, 0.1}, {"supply", "scpi-supply", "amps", 1.06, 0.1}, {"counter", "scpi-counter", "frequency", 146.52e6, 300},
	} {
		t.Run(c.kind+" "+c.figure, func(t *testing.T) {
			l := converse(t, rack, at[c.kind], c.driver)
			if who, err := l.Identify(); err != nil || !strings.HasPrefix(who, "Tall Oak,simulated") {
				t.Errorf("%q %v", who, err)
			}
			if v, err := l.Read(c.figure); err != nil || math.Abs(v-c.want) > c.within {
				t.Errorf("%s: %g %v", c.figure, v, err)
			}
		})
	}
	for _, id := range []string{"scpi-analyzer", "scpi-analyzer-text"} {
		t.Run(id, func(t *testing.T) {
			l := converse(t, rack, at["analyzer"], id)
			twenty := 20.0
			state, dialled, err := l.Dial(instruments.Wanted{StartHz: 30e6, StopHz: 1e9, RBWHz: 100e3, Detector: "peak", Hold: "max", AttenuationDB: &twenty, PreAmplifier: "off", Points: 2001})
			if err != nil || len(dialled) != 9 || state.RBWHz != 100e3 || state.Detector != "peak" || state.Hold != "max" || *state.AttenuationDB != 20 || state.OffsetDB != 0 {
				t.Fatalf("%+v %+v %v", state, dialled, err)
			}
			said := ""
			for _, s := range l.Spoken {
				said += s.Text + "\n"
			}
			if !strings.Contains(said, "TRAC:MODE WRIT\nTRAC:MODE MAXH\n") {
				t.Errorf("what was held before is not forgotten:\n%s", said)
			}
			if err := l.Begin(); err != nil {
				t.Fatal(err)
			}
			got, err := l.Sweep(state)
			if err != nil || len(got.Trace.Levels) != 2001 || got.Overloaded {
				t.Fatalf("%+v %v", got, err)
			}
			if p, ok := got.Trace.Highest(140e6, 150e6); !ok || math.Abs(float64(p.Level)+13) > 1.1 {
				t.Errorf("the carrier stands at %v", p.Level)
			}
		})
	}
}

// TestNothingTurnedMeanwhileIsKept: somebody at the front panel changes a setting during a sweep.
func TestNothingTurnedMeanwhileIsKept(t *testing.T) {
	at, rack := bench(t), &instruments.Rack{}
	l := converse(t, rack, at["analyzer"], "scpi-analyzer")
	state, err := l.State()
	if err == nil {
		err = l.Begin()
	}
	if err != nil {
		t.Fatal(err)
	}
	say(t, at["analyzer"], "DISP:TRAC:Y:RLEV:OFFS 40")
	if got, err := l.Sweep(state); err == nil || !strings.Contains(err.Error(), "settings changed") {
		t.Errorf("%v %v", got, err)
	}
	twenty, ten := 20.0, 10.0
	state.AttenuationDB = &twenty
	if hurts := state.Hurts(instruments.Wanted{AttenuationDB: &ten, PreAmplifier: "on"}); len(hurts) != 2 {
		t.Errorf("less before the input is to be confirmed: %q", hurts)
	}
	for _, name := range []string{"attenuation_db", "reference_dbm", "level_dbm", "volts", "amps", "output", "pre_amplifier"} {
		wanted := map[bool]string{true: "on", false: "3"}[name == "output" || name == "pre_amplifier"]
		if hurts := instruments.Hurts(name, "", wanted); len(hurts) != 1 {
			t.Errorf("%s, of which nothing is told, is not to be confirmed: %q", name, hurts)
		}
	}
	if hurts := (instruments.State{}).Hurts(instruments.Wanted{AttenuationDB: &ten}); len(hurts) != 1 {
		t.Errorf("an attenuation that is not told is not to be confirmed: %q", hurts)
	}
	if hurts := state.Hurts(instruments.Wanted{AttenuationDB: &twenty, PreAmplifier: "off"}); len(hurts) != 0 {
		t.Errorf("nothing of this hurts: %q", hurts)
	}
}

// bad is an instrument that behaves as told: by question, what is written; a close ends it.
func bad(t *testing.T, behave func(conn net.Conn, line string) bool) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = l.Close() })
	go func() {
		for {
			conn, err := l.Accept()
			if err != nil {
				return
			}
			go func() {
				defer func() { _ = conn.Close() }()
				in := bufio.NewScanner(conn)
				for in.Scan() && behave(conn, in.Text()) {
				}
			}()
		}
	}()
	return l.Addr().String()
}

// TestInstrumentsThatDoNot: dead, slow, lying, endless, chattering, and one that drops the line in
// the middle of a block: each is said as what it is, and nothing of it is taken.
func TestInstrumentsThatDoNot(t *testing.T) {
	settings := map[string]string{"FREQ:STAR?": "1e6", "FREQ:STOP?": "2e6", "BAND?": "1e4", "SWE:POIN?": "4", "DET?": "POS", "TRAC:MODE?": "WRIT", "INP:ATT?": "10", "INP:GAIN:STAT?": "0", "DISP:TRAC:Y:RLEV:OFFS?": "0", "*OPC?": "1", "SYST:ERR?": "0", "STAT:QUES:POW:COND?": "0"}
	levels := "\xc2\x48\x00\x00\xc2\x48\x00\x00\xc2\x48\x00\x00\xc2\x48\x00\x00"
	meter := func(answer string) func(net.Conn, string) bool {
		return func(c net.Conn, line string) bool {
			if strings.HasSuffix(line, "?") {
				_, _ = c.Write([]byte(answer))
			}
			return true
		}
	}
	trace := func(answer string, goesOn bool) func(net.Conn, string) bool {
		return func(c net.Conn, line string) bool {
			if strings.HasPrefix(line, "TRAC?") {
				_, _ = c.Write([]byte(answer))
				return goesOn
			}
			if a, ok := settings[line]; ok {
				_, _ = c.Write([]byte(a + "\n"))
			}
			return true
		}
	}
	for name, c := range map[string]struct {
		behave func(net.Conn, string) bool
		sweeps bool
		says   string
	}{
		"slow":             {meter(""), false, "in time"},
		"lies":             {meter("about five\n"), false, "no number"},
		"beyond all watts": {meter("7e9\n"), false, "no power is"},
		"out of its range": {meter("9.91E37\n"), false, "can not read"},
		"nothing":          {meter("NAN\n"), false, "no number"},
		"hangs up":         {func(net.Conn, string) bool { return false }, false, ""},
		"endless": {func(c net.Conn, line string) bool {
			for strings.HasSuffix(line, "?") {
				if _, err := c.Write([]byte(strings.Repeat("9", 1<<16))); err != nil {
					return false
				}
			}
			return true
		}, false, "does not end"},
		"chatters": {func(c net.Conn, _ string) bool {
			_, _ = c.Write([]byte("hello\nare you there?\n"))
			return true
		}, false, "without being asked"},
		"whole":                {trace("#216"+levels+"\n", true), true, ""},
		"drops the line":       {trace("#216"+levels[:9], false), true, "broke in the middle"},
		"a block too long":     {trace("#216"+levels+levels+"\n", true), true, "length is not"},
		"a block of terabytes": {trace("#9999999999"+levels, true), true, "announces"},
		"no block":             {trace("-50,-50,-50,-50\n", true), true, "begins with #"},
		"too few points":       {trace("#18"+levels[:8]+"\n", true), true, "points and sends"},
		"beyond all levels":    {trace("#216"+levels[:12]+"\x7f\x80\x00\x00\n", true), true, "cannot be"},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			id := "scpi-power-meter"
			if c.sweeps {
				id = "scpi-analyzer"
			}
			d := driver(t, id)
			d.WaitS = 0.2
			if name == "endless" || c.sweeps {
				d.WaitS = 20
			}
			rack := &instruments.Rack{}
			l, done, err := rack.Converse(t.Context(), bad(t, c.behave), d)
			if err == nil {
				defer done()
				if c.sweeps {
					var state instruments.State
					if state, err = l.State(); err == nil {
						_, err = l.Sweep(state)
					}
				} else if _, err = l.Identify(); err == nil {
					_, err = l.Read("power")
				}
			}
			var said *instruments.Trouble
			switch {
			case name == "whole" && err == nil:
			case !errors.As(err, &said) || !strings.Contains(said.Says, c.says):
				t.Errorf("%v, want %q", err, c.says)
			}
		})
	}
}

// TestOneWindowAtATime: a second one is told so at once, and the first one is not disturbed; what
// is turned off connects nowhere; a dead address is said.
func TestOneWindowAtATime(t *testing.T) {
	at, rack := bench(t), &instruments.Rack{}
	l, done, err := rack.Converse(t.Context(), at["supply"], driver(t, "scpi-supply"))
	if err != nil {
		t.Fatal(err)
	}
	if _, _, err := rack.Converse(t.Context(), at["supply"], driver(t, "scpi-supply")); err == nil || !strings.Contains(err.Error(), "another window") {
		t.Errorf("a second one: %v", err)
	}
	if _, err := l.Identify(); err != nil {
		t.Errorf("the first one: %v", err)
	}
	done()
	_, done, err = rack.Converse(t.Context(), at["supply"], driver(t, "scpi-supply"))
	if err != nil {
		t.Fatalf("after it: %v", err)
	}
	done()
	if _, _, err := (&instruments.Rack{Off: true}).Converse(t.Context(), at["supply"], driver(t, "scpi-supply")); err == nil {
		t.Error("turned off it connects")
	}
	for _, address := range []string{"", "x", "127.0.0.1", "127.0.0.1:0", "127.0.0.1:70000", "http://a:1/", ":5025"} {
		if _, _, err := rack.Converse(t.Context(), address, driver(t, "scpi-supply")); err == nil {
			t.Errorf("%q is an address", address)
		}
	}
	dead, _ := net.Listen("tcp", "127.0.0.1:0")
	_ = dead.Close()
	if _, _, err := rack.Converse(t.Context(), dead.Addr().String(), driver(t, "scpi-supply")); err == nil || !strings.Contains(err.Error(), "nothing answers") {
		t.Errorf("a dead one: %v", err)
	}
	ctx, stop := context.WithTimeout(t.Context(), 50*time.Millisecond)
	defer stop()
	silent := bad(t, func(net.Conn, string) bool { return true })
	l, done, err = rack.Converse(ctx, silent, driver(t, "scpi-supply"))
	if err != nil {
		t.Fatal(err)
	}
	defer done()
	begun := time.Now()
	if _, err := l.Identify(); err == nil || time.Since(begun) > 4*time.Second {
		t.Errorf("who gave up still waits: %v", err)
	}
}

// TestDriversAreRefused at the field that is wrong.
func TestDriversAreRefused(t *testing.T) {
	good := string(driver(t, "scpi-analyzer").JSON())
	if _, err := instruments.ReadDriver([]byte(good)); err != nil {
		t.Fatal(err)
	}
	for field, change := range map[string][2]string{
		"id": {`"scpi-analyzer"`, `"My Analyzer"`}, "kind": {`"kind": "analyzer"`, `"kind": "toaster"`}, "format": {"talloak-driver-1", "talloak-driver-9"},
		"identify": {`"identify": "*IDN?"`, `"identify": "*IDN?\n*RST"`}, "settings.rbw_hz.tell": {"BAND {} Hz", "BAND 5"}, "settings.detector.words": {`"peak": "POS"`, `"loud": "POS"`},
		"settings.colour": {`"start_hz": {`, `"colour": {`}, "trace.as": {`"float32"`, `"float64"`}, "sweep.within_s": {`"within_s": 600`, `"within_s": 1e9`},
		"settings.offset_db.ask": {`"ask": "DISP:TRAC:Y:RLEV:OFFS?"`, `"tell": "DISP:TRAC:Y:RLEV:OFFS {}"`}, "hostile": {`"kind"`, `"hostile": 1, "kind"`}, "overload.bit": {`"bit": 0`, `"bit": 99`},
	} {
		if strings.Count(good, change[0]) == 0 {
			t.Errorf("%s: nothing to change", field)
		}
		_, err := instruments.ReadDriver([]byte(strings.Replace(good, change[0], change[1], 1)))
		var refused *problem.Error
		if !errors.As(err, &refused) || !strings.Contains(fmt.Sprint(refused.Fields), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}

func FuzzReadDriver(f *testing.F) {
	for _, d := range instruments.Shipped() {
		f.Add(d.JSON())
	}
	f.Fuzz(func(_ *testing.T, data []byte) {
		if d, err := instruments.ReadDriver(data); err == nil {
			_, _ = instruments.ReadDriver(d.JSON())
		}
	})
}
