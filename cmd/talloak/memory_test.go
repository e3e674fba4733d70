package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"

	"talloak/store/storetest"
)

// started is the real server on a database of its own with the demo; it is stopped when
// the test ends.
func started(t *testing.T) (base string, pid int) {
	t.Helper()
	at, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	addr := at.Addr().String()
	_ = at.Close()
	cmd := exec.Command(build(t), "serve", "--demo", "--addr", addr)
	cmd.Env = append(os.Environ(), databaseURL+"="+storetest.URL(t))
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		_ = cmd.Process.Signal(syscall.SIGTERM)
		_ = cmd.Wait()
	})
	base = "http://" + addr + "/api/v1"
	for try := 0; ; try++ {
		if resp, err := http.Get(base + "/reviews"); err == nil {
			_ = resp.Body.Close()
			return base, cmd.Process.Pid
		}
		if try == 600 {
			t.Fatal("the server never came up")
		}
		time.Sleep(100 * time.Millisecond)
	}
}

// memory is a figure of the kernel about a process, in MB.
func memory(t *testing.T, pid int, what string) float64 {
	t.Helper()
	f, err := os.Open(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	for lines := bufio.NewScanner(f); lines.Scan(); {
		if name, value, _ := strings.Cut(lines.Text(), ":"); name == what {
			kb, err := strconv.Atoi(strings.Fields(value)[0])
			if err != nil {
				t.Fatal(err)
			}
			return float64(kb) / 1024
		}
	}
	t.Fatalf("no %s", what)
	return 0
}

// TestALongSweepGivesItsMemoryBack: a sweep of 43 MB peaks under 250 MB, and the most of
// that is given back.
func TestALongSweepGivesItsMemoryBack(t *testing.T) {
	base, pid := started(t)
	resp, err := http.Get(base + "/bench")
	if err != nil {
		t.Fatal(err)
	}
	var bench struct {
		Paths []struct{ ID, Name string }
	}
	err = json.NewDecoder(resp.Body).Decode(&bench)
	_ = resp.Body.Close()
	if err != nil {
		t.Fatal(err)
	}
	const larkrise = "d45c7185-fc7d-5019-9a67-0486cb68e157"
	var file bytes.Buffer
	file.WriteString("RBW,10 kHz\nDetector,Peak\nFrequency (Hz),Level (dBm)\n")
	for i := range 1_000_001 {
		level := -90 + float64(i%97)/100
		if i == 77_680 { // 146.52 MHz
			level = -13
		}
		fmt.Fprintf(&file, "%022.7f,%019.13f\n", 30e6+1500*float64(i), level)
	}
	size := file.Len()
	q := url.Values{"key": {uuid.NewString()}, "band": {"2m"}, "level": {"Mid"}, "mode": {"FM"}, "frequency_hz": {"146520000"}, "path_id": {bench.Paths[1].ID}, "file": {"long.csv"}, "draft": {`{"name":"long"}`}}
	resp, err = http.Post(base+"/reviews/"+larkrise+"/measure/emissions?"+q.Encode(), "text/csv", &file)
	if err != nil {
		t.Fatal(err)
	}
	text, _ := io.ReadAll(resp.Body)
	_ = resp.Body.Close()
	if resp.StatusCode != http.StatusCreated || !bytes.Contains(text, []byte(`"points":1000001`)) {
		t.Fatalf("%d %.300s", resp.StatusCode, text)
	}
	if peak := memory(t, pid, "VmHWM"); size < 43_000_000 || peak > 250 {
		t.Errorf("a sweep of %d MB peaks at %.0f MB", size>>20, peak)
	}
	for try := 0; memory(t, pid, "VmRSS") > 120; try++ {
		if try == 300 {
			t.Fatalf("it keeps %.0f MB", memory(t, pid, "VmRSS"))
		}
		time.Sleep(100 * time.Millisecond)
	}
}
