package scpi

import (
	"bufio"
	"context"
	"errors"
	"io"
	"net"
	"strings"
	"sync"
	"time"
)

// What a connection may ask for.
const (
	mostMessage     = 64 << 10 // bytes of one message
	mostConnections = 32       // at once, to one instrument; one more is closed
	mostIdle        = time.Hour
	mostWriting     = 20 * time.Second
)

// Serve answers on l until ctx ends: a line is a message, an answer is a line. It returns
// when every connection is closed.
func Serve(ctx context.Context, l net.Listener, d *Device) error {
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	context.AfterFunc(ctx, func() { _ = l.Close() })
	var open sync.WaitGroup
	defer open.Wait()
	free := make(chan struct{}, mostConnections)
	for {
		conn, err := l.Accept()
		if err != nil {
			if ctx.Err() != nil {
				return nil
			}
			if timeout := net.Error(nil); errors.As(err, &timeout) && timeout.Timeout() {
				continue
			}
			select { // out of handles: those that are open go on
			case <-ctx.Done():
				return nil
			case <-time.After(50 * time.Millisecond):
			}
			continue
		}
		select {
		case free <- struct{}{}:
		default:
			_ = conn.Close()
			continue
		}
		open.Go(func() {
			defer func() { <-free }()
			converse(ctx, conn, d)
		})
	}
}

// converse answers the lines of one connection in turn.
func converse(ctx context.Context, conn net.Conn, d *Device) {
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	defer func() { _ = conn.Close() }()
	context.AfterFunc(ctx, func() { _ = conn.Close() })
	lines := make(chan string)
	go func() { // reads one line ahead, so that what waits for a client that broke off ends
		defer close(lines)
		in := bufio.NewReaderSize(conn, mostMessage+2)
		for {
			_ = conn.SetReadDeadline(time.Now().Add(mostIdle))
			raw, err := in.ReadSlice('\n')
			if err != nil && !errors.Is(err, bufio.ErrBufferFull) {
				if !errors.Is(err, io.EOF) { // at its end what was sent is still answered
					stop()
				}
				return
			}
			line := strings.TrimSuffix(strings.TrimSuffix(string(raw), "\n"), "\r")
			if err != nil || len(line) > mostMessage {
				d.Lock.Lock()
				d.Queue(InputOverrun)
				d.Lock.Unlock()
				return
			}
			select {
			case lines <- line:
			case <-ctx.Done():
				return
			}
		}
	}()
	for line := range lines {
		answer := d.Execute(ctx, line)
		if answer == "" {
			continue
		}
		_ = conn.SetWriteDeadline(time.Now().Add(mostWriting))
		if _, err := conn.Write([]byte(answer + "\n")); err != nil {
			return
		}
	}
}
