package scpi

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net"
	"strings"
	"sync"
	"testing"
	"time"
)

// kettle is a small instrument: a frequency, a switch, and something that takes a while.
type kettle struct {
	hz   float64
	on   bool
	done time.Time
}

func newKettle() (*kettle, *Device) {
	k := &kettle{hz: 1e6}
	d := NewDevice(new(sync.Mutex), "A,B,C,D", func() time.Time { return k.done }, []Command{
		{"[SENSe]:FREQuency:STARt", func(c *Call) {
			if v, ok := c.Number(Span{Unit: Hertz, Least: 10, Most: 3e9, Default: 5e6}); ok {
				k.hz = v
			}
		}, func(*Call) string { return NR3(k.hz) }},
		{"[SENSe]:FREQuency:STOP", func(c *Call) { c.Number(Span{Unit: Hertz, Most: 1e9}) }, nil},
		{"OUTPut[:STATe]", func(c *Call) {
			if on, ok := c.Switch(); ok {
				k.on = on
			}
		}, func(*Call) string { return fmt.Sprint(k.on) }},
		{"DETector[:FUNCtion]", func(c *Call) { c.Word("POSitive", "RMS") }, nil},
		{"INITiate", func(*Call) { k.done = time.Now().Add(30 * time.Millisecond) }, nil},
		{"POWer", func(c *Call) {
			if v, ok := c.Number(Span{Unit: DBm, Least: -100, Most: 50}); ok {
				k.hz = v
			}
		}, nil},
	})
	d.Reset = func() { k.hz = 1e6 }
	return k, d
}

// TestNumbersAsTheStandardHasThem: numbers and suffixes of IEEE 488.2-1992, 7.7.2 and 7.7.3 (M is
// mega before Hz alone), headers of SCPI-1999 volume 1, 6.2.
func TestNumbersAsTheStandardHasThem(t *testing.T) {
	for sent, want := range map[string]float64{
		"FREQ:STAR 100 kHz": 100e3, "freq:start 1.5GHz": 1.5e9, "SENSe:FREQuency:STARt 2E6": 2e6, ":sens:freq:star +.5e6": 5e5, "FREQ:STAR 3 MHZ": 3e6, "FREQ:STAR 3MAHZ": 3e6,
		"FREQ:STAR MIN": 10, "FREQ:STAR MAXimum": 3e9, "FREQ:STAR DEF": 5e6, "FREQ1:STAR 1 E 3": 1000,
		"POW -10 dBm": -10, "POW 500 mW": 26.9897, "POW 1W": 30, "*CLS;FREQ:STAR 7": 1e6,
	} {
		k, d := newKettle()
		d.Execute(t.Context(), sent)
		if sent[0] == '*' {
			want = 1e6 // below the least
		}
		if k.hz < want-1e-4 || k.hz > want+1e-4 {
			t.Errorf("%q: %g, want %g (%v)", sent, k.hz, want, d.errors)
		}
	}
}

// TestErrorsByTheirNumbers: the numbers of SCPI-1999 volume 2, 21.8.
func TestErrorsByTheirNumbers(t *testing.T) {
	for sent, want := range map[string]Error{
		"NOPE": -113, "FREQ:NOPE 1": -113, "*NOPE": -113, "FREQ:STOP?": -113, "FREQ2:STAR 50": -114, "FREQ:STAR": -109, "FREQ:STAR 50,": -109, "FREQ:STAR 50,60": -108,
		"FREQ:STAR 5": -222, "FREQ:STAR 1e400": -222, "FREQ:STAR hello": -141, "FREQ:STAR 'x'": -104, "FREQ:STAR +": -121, "FREQ:STAR 50 dBm": -131, "FREQ:STAR 50 qHz": -131,
		"DET POS,1": 0, "DET BLUE": -224, "DET 5": -104, "OUTP MAYBE": -141, "B@D 1": -101, "FREQ::STAR 5": -102, "FREQ:STAR 50": 0, " ; ;": 0, "": 0, "*ESE 256": -222, "POW 0 W": -131,
	} {
		_, d := newKettle()
		d.Execute(t.Context(), sent)
		if got := d.Execute(t.Context(), "SYST:ERR?"); !strings.HasPrefix(got, fmt.Sprintf("%d,\"", want)) {
			t.Errorf("%q: %s, want %d", sent, got, want)
		}
		if got := d.Execute(t.Context(), "SYST:ERR?"); got != `0,"No error"` {
			t.Errorf("%q leaves %s", sent, got)
		}
	}
}

// TestMessages: several commands go by the path that the one before them left; a star leaves it
// alone; what stands behind an undefined header is dropped, what stands before it is done.
func TestMessages(t *testing.T) {
	for sent, want := range map[string]string{
		"FREQ:STAR 2e6;STAR?":                    "2.000000000E+06",
		"FREQ:STAR 2e6;*ESE 4;STAR?;*ESE?":       "2.000000000E+06;4",
		"FREQ:STAR 2e6;FREQ:STAR?":               "",
		"FREQ:STAR 2e6;:FREQ:STAR?;:OUTP?":       "2.000000000E+06;false",
		"OUTP?;NOPE;OUTP?":                       "false",
		"FREQ:STAR 3e6;:FREQ:STAR 1;:FREQ:STAR?": "3.000000000E+06", // out of range: what was set stays, and the rest is done
		"*IDN?;*OPC?;SYST:VERS?":                 "A,B,C,D;1;1999.0",
		"OUTP 1;OUTP?;:OUTP OFF;OUTP?":           "true;false",
		"*ESE 32;NOPE":                           "",
		"SYSTEM:VERSION?":                        "1999.0",
	} {
		_, d := newKettle()
		if got := d.Execute(t.Context(), sent); got != want {
			t.Errorf("%q: %q, want %q", sent, got, want)
		}
	}
}

// TestStatus: the event register by IEEE 488.2, 11.5.1: what was wrong sets its bit, reading
// clears it, what is enabled counts into the status byte; *OPC tells the end of what was begun.
func TestStatus(t *testing.T) {
	_, d := newKettle()
	ask := func(sent, want string) {
		t.Helper()
		if got := d.Execute(t.Context(), sent); got != want {
			t.Errorf("%q: %s, want %s", sent, got, want)
		}
	}
	ask("*ESR?", "128") // power on
	ask("NOPE", "")
	ask("*ESE 32;*STB?", "36")
	ask("*ESR?;*ESR?", "32;0")
	ask("FREQ:STAR 1;*ESR?", "16")
	ask("*CLS;*STB?", "0")
	ask("INIT;*OPC;*ESR?", "0")
	ask("*OPC?", "1")
	ask("*ESR?", "1")
	for range 300 {
		d.Execute(t.Context(), "NOPE")
	}
	var last, n = "", 0
	for got := ""; got != `0,"No error"`; n++ {
		last, got = got, d.Execute(t.Context(), "SYST:ERR?")
	}
	if n > 257 || last != `-350,"Queue overflow"` {
		t.Errorf("%d entries, the last %s", n, last)
	}
}

func serve(t *testing.T) (address string) {
	t.Helper()
	_, d := newKettle()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	ctx, stop := context.WithCancel(context.Background())
	ended := make(chan struct{})
	go func() { defer close(ended); _ = Serve(ctx, l, d) }()
	t.Cleanup(func() { stop(); <-ended })
	return l.Addr().String()
}

func dial(t *testing.T, address string) (net.Conn, *bufio.Reader) {
	t.Helper()
	c, err := net.Dial("tcp", address)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = c.Close() })
	_ = c.SetDeadline(time.Now().Add(time.Minute))
	return c, bufio.NewReader(c)
}

// TestBadCompany: a line that never ends, a message too long, a thousand connections, one who
// hangs up while it waits: each is refused, and the next one is served.
func TestBadCompany(t *testing.T) {
	address := serve(t)
	good, in := dial(t, address)
	works := func(sent, want string) {
		t.Helper()
		_, _ = io.WriteString(good, sent)
		if got, err := in.ReadString('\n'); got != want {
			t.Fatalf("%q: %q %v", sent, got, err)
		}
	}
	works("*IDN?\r\n", "A,B,C,D\n")
	for _, long := range []string{strings.Repeat("x", 200_000), strings.Repeat(" ", 64<<10) + "FREQ:STAR 50\n"} {
		bad, answer := dial(t, address)
		_, _ = io.WriteString(bad, long)
		if _, err := answer.ReadByte(); err == nil {
			t.Error("a message too long was answered")
		}
		works("FREQ:STAR?\n", "1.000000000E+06\n")
		works("SYST:ERR?\n", "-363,\"Input buffer overrun\"\n")
	}
	just, answer := dial(t, address)
	_, _ = io.WriteString(just, strings.Repeat(" ", 64<<10-5)+"*IDN?\n")
	if got, _ := answer.ReadString('\n'); got != "A,B,C,D\n" {
		t.Errorf("64 KiB to the letter: %q", got)
	}
	_ = just.Close()
	refused := 0
	for range 1000 {
		c, err := net.Dial("tcp", address)
		if err != nil {
			refused++
			continue
		}
		defer func() { _ = c.Close() }()
		if refused == 0 {
			_ = c.SetReadDeadline(time.Now().Add(20 * time.Millisecond))
			if _, err := c.Read(make([]byte, 1)); err == io.EOF {
				refused++
			}
		}
	}
	if refused == 0 {
		t.Error("all of a thousand connections were taken")
	}
	works("*IDN?\n", "A,B,C,D\n")
}

// TestAnswersAfterTheEnd: a client that sends and closes its side still gets its answer.
func TestAnswersAfterTheEnd(t *testing.T) {
	c, in := dial(t, serve(t))
	_, _ = io.WriteString(c, "INIT;*OPC?\n*IDN?\nFREQ:ST")
	_ = c.(*net.TCPConn).CloseWrite()
	if all, err := io.ReadAll(in); string(all) != "1\nA,B,C,D\n" {
		t.Errorf("%q %v", all, err)
	}
}

func FuzzExecute(f *testing.F) {
	for _, s := range []string{"FREQ:STAR 1 MHz;STOP 2e6;:OUTP?", "*ESE 4;*ESR?", `DET "POS`, "FREQ:STAR #H10", "POW 5 mW,;", ":::;?;*", "SYST:ERR?;*OPC?"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, message string) {
		_, d := newKettle()
		answer := d.Execute(t.Context(), message)
		if strings.ContainsAny(answer, "\n") {
			t.Errorf("%q answers over several lines", message)
		}
		if got := d.Execute(t.Context(), "*CLS;*IDN?"); got != "A,B,C,D" {
			t.Errorf("after %q it answers %q", message, got)
		}
	})
}
