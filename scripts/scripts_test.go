package scripts

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"
)

// checkout is a folder with the scripts and the binary, as a clone has them
// after make build.
func checkout(t *testing.T) string {
	t.Helper()
	dir, err := os.MkdirTemp("", "talloak-scripts-")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	if err := os.Chmod(dir, 0o755); err != nil { // the database's user must get in
		t.Fatal(err)
	}
	for _, sub := range []string{"scripts", "bin"} {
		if err := os.Mkdir(filepath.Join(dir, sub), 0o755); err != nil {
			t.Fatal(err)
		}
	}
	for _, name := range []string{"lib.sh", "demo.sh", "reset.sh"} {
		text, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(filepath.Join(dir, "scripts", name), text, 0o755); err != nil {
			t.Fatal(err)
		}
	}
	if out, err := exec.Command("go", "build", "-o", filepath.Join(dir, "bin", "talloak"), "../cmd/talloak").CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	return dir
}

func freePort(t *testing.T) (string, net.Listener) {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	_, port, _ := net.SplitHostPort(l.Addr().String())
	return port, l
}

func environ(more ...string) []string {
	env := []string{}
	for _, e := range os.Environ() {
		if !strings.HasPrefix(e, "TALLOAK_") {
			env = append(env, e)
		}
	}
	return append(env, more...)
}

// fails runs a command that must end 1 and say want.
func fails(t *testing.T, cmd *exec.Cmd, want string) {
	t.Helper()
	out, err := cmd.CombinedOutput()
	var exit *exec.ExitError
	if !errors.As(err, &exit) || exit.ExitCode() != 1 || !strings.Contains(string(out), want) {
		t.Errorf("%v: %v %q, want 1 and %q", cmd.Args, err, out, want)
	}
}

// TestWhatIsInTheWayIsSaid: a busy port, data of another server version, no sudo.
func TestWhatIsInTheWayIsSaid(t *testing.T) {
	dir := checkout(t)
	port, busy := freePort(t)
	defer busy.Close()
	demo := func(env ...string) *exec.Cmd {
		cmd := exec.Command(filepath.Join(dir, "scripts", "demo.sh"))
		cmd.Env = environ(env...)
		return cmd
	}
	free, l := freePort(t)
	_ = l.Close()
	fails(t, demo("TALLOAK_PORT="+port), "port "+port+" is in use")
	fails(t, demo("TALLOAK_PORT="+free, "TALLOAK_PG_PORT="+port), "port "+port+" is in use, which the database needs")

	old := filepath.Join(dir, ".data", "pg")
	if err := os.MkdirAll(old, 0o755); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(old, "PG_VERSION"), []byte("9\n"), 0o644); err != nil {
		t.Fatal(err)
	}
	pgPort, l := freePort(t)
	_ = l.Close()
	fails(t, demo("TALLOAK_PORT="+free, "TALLOAK_PG_PORT="+pgPort), "are of PostgreSQL 9")

	plain := exec.Command("bash", "-c", `. scripts/lib.sh; id() { echo 1000; }; PATH=/nowhere; install_packages postgresql-15`)
	plain.Dir = dir
	fails(t, plain, "there is no sudo to install them: postgresql-15")
	reset := exec.Command(filepath.Join(dir, "scripts", "reset.sh"))
	reset.Env = environ("TALLOAK_DATABASE_URL=postgres://elsewhere/x")
	fails(t, reset, "only the database of make demo")
}

// TestDemoLeavesNothingRunning, however it ends, and keeps its data.
func TestDemoLeavesNothingRunning(t *testing.T) {
	if os.Getenv("TALLOAK_TEST_DATABASE_URL") == "" {
		t.Skip("no PostgreSQL; run make test")
	}
	dir := checkout(t)
	port, l := freePort(t)
	_ = l.Close()
	pgPort, l := freePort(t)
	_ = l.Close()
	start := func() *exec.Cmd {
		t.Helper()
		cmd := exec.Command(filepath.Join(dir, "scripts", "demo.sh"))
		cmd.Env = environ("TALLOAK_PORT="+port, "TALLOAK_PG_PORT="+pgPort)
		cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true} // a terminal's Ctrl-C goes to the group
		out, err := cmd.StdoutPipe()
		if err != nil {
			t.Fatal(err)
		}
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		said := make(chan string, 1)
		go func() {
			for s := bufio.NewScanner(out); s.Scan(); {
				if strings.Contains(s.Text(), "http://") {
					said <- s.Text()
				}
			}
		}()
		select {
		case line := <-said:
			if want := "http://127.0.0.1:" + port; !strings.Contains(line, want) {
				t.Fatalf("%q does not give the address %s", line, want)
			}
		case <-time.After(60 * time.Second):
			_ = syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL)
			t.Fatal("the demo did not start")
		}
		return cmd
	}
	gone := func(how string) {
		t.Helper()
		for deadline := time.Now().Add(15 * time.Second); ; time.Sleep(100 * time.Millisecond) {
			out, _ := exec.Command("pgrep", "-f", dir).CombinedOutput()
			if len(out) == 0 {
				return
			}
			if time.Now().After(deadline) {
				t.Fatalf("%s left running: %s", how, out)
			}
		}
	}
	reviews := func() int {
		t.Helper()
		var resp *http.Response
		for try := 0; ; try++ {
			var err error
			if resp, err = http.Get("http://127.0.0.1:" + port + "/api/v1/reviews"); err == nil {
				break
			}
			if try > 50 {
				t.Fatal(err)
			}
			time.Sleep(100 * time.Millisecond)
		}
		defer resp.Body.Close()
		body, err := io.ReadAll(resp.Body)
		if err != nil {
			t.Fatal(err)
		}
		return strings.Count(string(body), `"headline"`)
	}

	cmd := start()
	if n := reviews(); n != 6 {
		t.Errorf("%d reviews in the demo", n)
	}
	// Another start in this folder, and throwing its data away, are refused whatever the port:
	// who has it is said, and goes on.
	other, l := freePort(t)
	_ = l.Close()
	for _, script := range []string{"demo.sh", "reset.sh"} {
		again := exec.Command(filepath.Join(dir, "scripts", script))
		again.Env = environ("TALLOAK_PORT="+other, "TALLOAK_PG_PORT="+other)
		fails(t, again, fmt.Sprintf("runs in this folder already: process %d, http://127.0.0.1:%s, its database on port %s", cmd.Process.Pid, port, pgPort))
	}
	if n := reviews(); n != 6 {
		t.Errorf("%d reviews after another start was refused", n)
	}
	_ = syscall.Kill(-cmd.Process.Pid, syscall.SIGINT)
	time.Sleep(200 * time.Millisecond) // pressed twice, as people do
	_ = syscall.Kill(-cmd.Process.Pid, syscall.SIGINT)
	_ = cmd.Wait()
	gone("Ctrl-C twice")

	cmd = start()
	if n := reviews(); n != 6 {
		t.Errorf("%d reviews after a second start", n)
	}
	if out, err := exec.Command("pkill", "-KILL", "-f", filepath.Join(dir, "bin", "talloak")+" serve").CombinedOutput(); err != nil {
		t.Fatalf("%v %s", err, out)
	}
	_ = cmd.Wait()
	gone("a kill of the server")

	// What was killed outright leaves a server behind, which has the folder until it ends.
	cmd = start()
	_ = cmd.Process.Kill()
	_ = cmd.Wait()
	reset := exec.Command(filepath.Join(dir, "scripts", "reset.sh"))
	reset.Env = environ("TALLOAK_PORT="+other, "TALLOAK_PG_PORT="+other)
	fails(t, reset, "runs in this folder already")
	_ = syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL)
	// What was killed takes a moment to be gone, more on a busy machine.
	for deadline := time.Now().Add(30 * time.Second); ; time.Sleep(200 * time.Millisecond) {
		reset = exec.Command(filepath.Join(dir, "scripts", "reset.sh"))
		reset.Env = environ("TALLOAK_PORT="+other, "TALLOAK_PG_PORT="+other)
		out, err := reset.CombinedOutput()
		if err == nil {
			break
		}
		if time.Now().After(deadline) {
			t.Fatalf("%v %s", err, out)
		}
	}
	gone("a kill of everything, and a reset")
}
