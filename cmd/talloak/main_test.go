package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"net"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"talloak/core/problem"
	"talloak/publish"
)

// build makes the real binary, so that exit codes and streams are the real ones.
func build(t *testing.T) string {
	t.Helper()
	bin := filepath.Join(t.TempDir(), "talloak")
	if out, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	return bin
}

func run(t *testing.T, bin, in string, args ...string) (stdout, stderr string, code int) {
	t.Helper()
	cmd := exec.Command(bin, args...)
	cmd.Stdin = strings.NewReader(in)
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	cmd.Env = []string{"HOME=" + t.TempDir()} // no database, whatever the tests have
	var exit *exec.ExitError
	if err := cmd.Run(); errors.As(err, &exit) {
		code = exit.ExitCode()
	} else if err != nil {
		t.Fatal(err)
	}
	return out.String(), errs.String(), code
}

// TestComputeOnTheCommandLine: JSON and 0, or nothing on standard output, a
// problem on standard error, and 2.
func TestComputeOnTheCommandLine(t *testing.T) {
	bin := build(t)
	out, errs, code := run(t, bin, `{"swr":2}`, "compute", "swr")
	if code != 0 || errs != "" || !json.Valid([]byte(out)) {
		t.Errorf("%d %q %q", code, out, errs)
	}
	for _, c := range []struct {
		in, field string
		args      []string
	}{
		{`{"swr":0.5}`, "swr", []string{"compute", "swr"}},
		{`{"swr":2,"x":1}`, "x", []string{"compute", "swr"}},
		{`not json`, "", []string{"compute", "judge"}},
		{``, "", []string{"compute", "path"}},
		{`{}`, "name", []string{"compute", "nothing"}},
		{`{}`, "name", []string{"compute"}},
	} {
		out, errs, code := run(t, bin, c.in, c.args...)
		var p problem.Object
		if err := json.Unmarshal([]byte(errs), &p); code != 2 || out != "" || err != nil || p.Status != 422 || p.Title == "" || p.Detail == "" {
			t.Errorf("%v %q: %d %q %q", c.args, c.in, code, out, errs)
			continue
		}
		if len(p.Errors) == 0 || p.Errors[0].Field != c.field {
			t.Errorf("%v %q: errors %+v", c.args, c.in, p.Errors)
		}
	}
	out, _, code = run(t, bin, "", "compute", "--list")
	if names := strings.Fields(out); code != 0 || len(names) != 26 || names[12] != "judge" || names[3] != "claim" || names[14] != "look" {
		t.Errorf("%d %q", code, out)
	}
}

func TestOtherCommands(t *testing.T) {
	bin := build(t)
	if out, _, code := run(t, bin, "", "version"); code != 0 || strings.TrimSpace(out) != publish.Release {
		t.Errorf("%d %q", code, out)
	}
	if out, _, code := run(t, bin, "", "openapi"); code != 0 || !strings.Contains(out, `"openapi": "3.1.0"`) {
		t.Errorf("%d %.80q", code, out)
	}
	for _, args := range [][]string{{"serve", "--addr", "127.0.0.1:0"}, {"demo"}} {
		out, errs, code := run(t, bin, "", args...)
		if code != 1 || out != "" || !strings.Contains(errs, databaseURL) {
			t.Errorf("%v without a database: %d %q %q", args, code, out, errs)
		}
	}
	if _, errs, code := run(t, bin, "", "serve", "--addr", "192.0.2.1:80"); code != 1 || !strings.Contains(errs, sharedPassword) {
		t.Errorf("beyond this machine without a password: %d %q", code, errs)
	}
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer taken.Close()
	if _, errs, code := run(t, bin, "", "serve", "--addr", taken.Addr().String()); code != 1 || !strings.Contains(errs, "in use") {
		t.Errorf("an address that cannot be had: %d %q", code, errs)
	}
}

// TestTheAddressThatIsPrintedAnswers: it is one that the server goes by.
func TestTheAddressThatIsPrintedAnswers(t *testing.T) {
	for _, x := range []struct{ addr, hosts, want string }{
		{"127.0.0.1:7373", "", "127.0.0.1:7373"}, {"localhost:80", "bench.example", "localhost:80"}, {"0.0.0.0:7373", "", "127.0.0.1:7373"}, {":7373", "bench.example, other", "bench.example:7373"},
		{"[::]:7373", "", "127.0.0.1:7373"}, {"192.0.2.1:7373", "bench.example", "192.0.2.1:7373"},
	} {
		options, err := reachable(x.addr, func(name string) string {
			return map[string]string{allowedHosts: x.hosts, sharedPassword: "a long one"}[name]
		})
		if err != nil {
			t.Fatal(err)
		}
		if got := answersAt(x.addr, options.Hosts); got != x.want {
			t.Errorf("%s with %q: %s, want %s", x.addr, x.hosts, got, x.want)
		}
		if host, _, _ := net.SplitHostPort(x.want); !slices.Contains(append(options.Hosts, "127.0.0.1", "localhost"), host) {
			t.Errorf("%s is printed, and is not answered under", x.want)
		}
	}
}
