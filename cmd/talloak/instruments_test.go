package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"net"
	"os/exec"
	"strings"
	"syscall"
	"testing"
	"time"

	"talloak/instruments/simulated"
)

// TestInstrumentsOnTheCommandLine: a line of JSON for each once it listens, in the order of kinds; with a
// port, it and the next five; a scenario by its name; SIGINT and SIGTERM end it cleanly; what cannot be
// is refused with 1.
func TestInstrumentsOnTheCommandLine(t *testing.T) {
	bin := build(t)
	for _, args := range [][]string{{"--listen", "0.0.0.0:0"}, {"--listen", "192.0.2.1:5025"}, {"--scenario", "nowhere"}, {"--speed", "0"}, {"--listen", "x"}} {
		if out, errs, code := run(t, bin, "", append([]string{"instruments"}, args...)...); code != 1 || out != "" || errs == "" {
			t.Errorf("%v: %d %q %q", args, code, out, errs)
		}
	}
	free, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	port := free.Addr().(*net.TCPAddr).Port
	_ = free.Close()
	for sent, args := range map[syscall.Signal][]string{syscall.SIGINT: {"--listen", fmt.Sprintf("127.0.0.1:%d", port)}, syscall.SIGTERM: {"--scenario", "overloaded", "--seed", "3", "--speed", "100"}} {
		cmd := exec.Command(bin, append([]string{"instruments"}, args...)...)
		var errs bytes.Buffer
		cmd.Stderr = &errs
		out, err := cmd.StdoutPipe()
		if err == nil {
			err = cmd.Start()
		}
		if err != nil {
			t.Fatal(err)
		}
		lines := bufio.NewScanner(out)
		for i, kind := range simulated.Kinds {
			var s simulated.Served
			if !lines.Scan() || json.Unmarshal(lines.Bytes(), &s) != nil || s.Kind != kind || len(strings.Split(s.Identity, ",")) != 4 || (s.AccuracyDB != nil) != (kind == "analyzer" || kind == "power-meter") {
				t.Fatalf("%s: %s %s", kind, lines.Text(), errs.String())
			}
			if sent == syscall.SIGINT && s.Address != fmt.Sprintf("127.0.0.1:%d", port+i) {
				t.Errorf("%s listens at %s", kind, s.Address)
			}
			conn, err := net.DialTimeout("tcp", s.Address, 5*time.Second)
			if err != nil {
				t.Fatal(err)
			}
			_, _ = conn.Write([]byte("*IDN?\n"))
			if who, err := bufio.NewReader(conn).ReadString('\n'); err != nil || strings.TrimSpace(who) != s.Identity {
				t.Errorf("%s: %q %v", kind, who, err)
			}
			defer func() { _ = conn.Close() }() // an open connection holds nothing up
		}
		_ = cmd.Process.Signal(sent)
		if err := cmd.Wait(); err != nil || errs.Len() > 0 {
			t.Errorf("%v: %v %s", sent, err, errs.String())
		}
	}
}
