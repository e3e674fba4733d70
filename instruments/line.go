package instruments

import (
	"bufio"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"
	"net"
	"os"
	"strconv"
	"strings"
	"time"
)

// What an instrument may say, and how long it may take.
const (
	mostLine    = 4 << 20 // bytes of a line, or of a block
	mostSpoken  = 400     // lines of a conversation that are shown
	mostShown   = 160     // characters of a line that are shown
	connectIn   = 3 * time.Second
	usualWait   = 5 * time.Second
	mostPoints  = 1 << 20 / 4
	quietBefore = 2 * time.Millisecond // in which what was said unasked is heard
)

// Trouble is what went wrong at an instrument, in words for who stands before it.
type Trouble struct{ Says string }

func (t *Trouble) Error() string { return t.Says }

func trouble(format string, args ...any) error { return &Trouble{fmt.Sprintf(format, args...)} }

// Spoken is a line of a conversation.
type Spoken struct {
	Sent bool    `json:"sent"`
	Text string  `json:"text"`
	MS   float64 `json:"ms" doc:"since the line before, in ms"`
}

// Line is a conversation with one instrument. It is used by one at a time.
type Line struct {
	Driver *Driver
	Spoken []Spoken

	conn net.Conn
	in   *bufio.Reader
	last time.Time
	wait time.Duration
	lost bool // what is asked now may be answered by what was asked before
}

// open connects to an address and clears what was left over.
func open(ctx context.Context, address string, d *Driver) (*Line, error) {
	dialer := net.Dialer{Timeout: connectIn}
	conn, err := dialer.DialContext(ctx, "tcp", address)
	if err != nil {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return nil, trouble("nothing answers at %s: is it switched on, and is this its address?", address)
	}
	l := &Line{Driver: d, conn: conn, in: bufio.NewReaderSize(conn, 64<<10), last: time.Now(), wait: usualWait}
	if d.WaitS > 0 {
		l.wait = time.Duration(d.WaitS * float64(time.Second))
	}
	context.AfterFunc(ctx, func() { _ = conn.Close() })
	if d.Clear != "" {
		if err := l.Say(d.Clear); err != nil {
			l.Close()
			return nil, err
		}
	}
	return l, nil
}

// Close ends the conversation.
func (l *Line) Close() { _ = l.conn.Close() }

func (l *Line) note(sent bool, text string) {
	now := time.Now()
	if len(text) > mostShown {
		text = text[:mostShown] + fmt.Sprintf(" and %d more", len(text)-mostShown)
	}
	if len(l.Spoken) < mostSpoken {
		l.Spoken = append(l.Spoken, Spoken{sent, strings.ToValidUTF8(text, "?"), float64(now.Sub(l.last).Microseconds()) / 1e3})
	}
	l.last = now
}

// Say sends one line that is not answered. An instrument that speaks unasked is not one whose
// answers can be told apart: nothing more is asked of it.
func (l *Line) Say(text string) error {
	_ = l.conn.SetReadDeadline(time.Now().Add(quietBefore))
	if b, err := l.in.Peek(1); err == nil {
		l.lost = true
		rest, _ := l.in.Peek(min(l.in.Buffered(), mostShown))
		l.note(false, string(rest))
		return trouble("it speaks without being asked (%q): what belongs to which question cannot be told", string(b)+strings.TrimSpace(string(rest[1:])))
	} else if errors.Is(err, io.EOF) {
		l.lost = true
		return trouble("it closed the connection")
	}
	_ = l.conn.SetWriteDeadline(time.Now().Add(usualWait))
	l.note(true, text)
	if _, err := io.WriteString(l.conn, text+"\n"); err != nil {
		return l.broken(err, "")
	}
	return nil
}

// Ask sends a line and is the line that comes back.
func (l *Line) Ask(text string) (string, error) { return l.askWithin(text, l.wait) }

func (l *Line) askWithin(text string, wait time.Duration) (string, error) {
	if err := l.Say(text); err != nil {
		return "", err
	}
	_ = l.conn.SetReadDeadline(time.Now().Add(wait))
	var answer []byte
	for {
		part, err := l.in.ReadSlice('\n')
		answer = append(answer, part...)
		switch {
		case err == nil:
			out := strings.TrimRight(string(answer), "\r\n")
			l.note(false, out)
			return out, nil
		case len(answer) > mostLine:
			return "", trouble("its answer to %q does not end: over %d MiB without a line end", text, mostLine>>20)
		case !errors.Is(err, bufio.ErrBufferFull):
			return "", l.broken(err, text)
		}
	}
}

// broken says how a conversation broke.
func (l *Line) broken(err error, asked string) error {
	l.lost = true
	switch {
	case errors.Is(err, os.ErrDeadlineExceeded):
		return trouble("no answer to %q in time: it is slow, busy or does not know it", asked)
	case asked != "":
		return trouble("the line broke in the middle of its answer to %q: nothing of it is kept", asked)
	}
	return trouble("the line broke")
}

// number reads a number it answered; one that stands for none is refused as that.
func number(asked, answer string) (float64, error) {
	v, err := strconv.ParseFloat(strings.TrimSpace(answer), 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0, trouble("it answers %q to %q, which is no number", shortened(answer, said), asked)
	}
	return v, nil
}

// shortened is at most so many bytes of what an instrument said.
func shortened(s string, most int) string {
	s = strings.ToValidUTF8(s, "?")
	if len(s) > most {
		return strings.ToValidUTF8(s[:most], "") + "…"
	}
	return s
}

// said is how much of an answer is shown beside what is wrong with it, who how much of an identity is
// kept, in bytes.
const (
	said = 60
	who  = 200
)

// floats asks for levels as text.
func (l *Line) floats(asked string, wait time.Duration) ([]float64, error) {
	answer, err := l.askWithin(asked, wait)
	if err != nil {
		return nil, err
	}
	var out []float64
	for _, s := range strings.Split(answer, ",") {
		v, err := number(asked, s)
		if err != nil {
			return nil, err
		}
		if out = append(out, v); len(out) > mostPoints {
			return nil, trouble("it sends more than %d points", mostPoints)
		}
	}
	return out, nil
}

// block asks for levels as a block of definite length (IEEE 488.2, 8.7.9): #, how many digits
// follow, how many bytes follow, the bytes, and the end of the line.
func (l *Line) block(asked string, wait time.Duration, order binary.ByteOrder) ([]float64, error) {
	if err := l.Say(asked); err != nil {
		return nil, err
	}
	_ = l.conn.SetReadDeadline(time.Now().Add(wait))
	head := make([]byte, 2)
	if _, err := io.ReadFull(l.in, head); err != nil {
		return nil, l.broken(err, asked)
	}
	if head[0] != '#' || head[1] < '1' || head[1] > '9' {
		return nil, trouble("it answers %q to %q, where a block of levels begins with # and its length", string(head)+"…", asked)
	}
	digits := make([]byte, head[1]-'0')
	if _, err := io.ReadFull(l.in, digits); err != nil {
		return nil, l.broken(err, asked)
	}
	size, err := strconv.Atoi(string(digits))
	if err != nil || size > mostLine || size%4 != 0 || size == 0 {
		return nil, trouble("it announces a block of %q bytes: none of levels of four bytes each, up to %d MiB", string(digits), mostLine>>20)
	}
	data := make([]byte, size)
	if _, err := io.ReadFull(l.in, data); err != nil {
		return nil, l.broken(err, asked)
	}
	end, err := l.in.ReadSlice('\n')
	if err != nil {
		return nil, l.broken(err, asked)
	}
	if strings.TrimSpace(string(end)) != "" {
		return nil, trouble("its block is followed by %q: its length is not what it announced", shortened(string(end), said))
	}
	l.note(false, fmt.Sprintf("%s%s and %d bytes", head, digits, size))
	out := make([]float64, size/4)
	for i := range out {
		out[i] = float64(math.Float32frombits(order.Uint32(data[4*i:])))
	}
	return out, nil
}

// checkErrors asks whether what was said was understood.
func (l *Line) checkErrors() error {
	if l.Driver.Errors == nil {
		return nil
	}
	answer, err := l.Ask(l.Driver.Errors.Ask)
	if err != nil {
		return err
	}
	if !strings.HasPrefix(strings.TrimLeft(answer, "+ "), l.Driver.Errors.None) {
		return trouble("it did not take that: %s", shortened(answer, said))
	}
	return nil
}

// Identify asks who it is.
func (l *Line) Identify() (string, error) {
	it, err := l.Ask(l.Driver.Identify)
	if err == nil && strings.TrimSpace(it) == "" {
		return "", trouble("it does not say who it is")
	}
	return shortened(it, who), err
}
