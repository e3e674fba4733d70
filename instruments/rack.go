package instruments

import (
	"context"
	"net"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Rack lets one at a time to each address: two that spoke with one instrument at once would get
// each other's answers.
type Rack struct {
	Off  bool // nothing is connected to from this server
	lock sync.Mutex
	held map[string]time.Time
}

// CheckAddress refuses what is no host and port.
func CheckAddress(address string) error {
	host, port, err := net.SplitHostPort(strings.TrimSpace(address))
	n, err2 := strconv.ParseUint(port, 10, 16)
	if err != nil || err2 != nil || n == 0 || host == "" || len(host) > 253 || strings.ContainsAny(host, " /@?#\\") {
		return trouble("give its host and port, such as 192.168.1.40:5025")
	}
	return nil
}

// Converse begins a conversation, which the func that it gives ends. Another one that is going on there
// is not waited for.
func (r *Rack) Converse(ctx context.Context, address string, d *Driver) (*Line, func(), error) {
	if r.Off {
		return nil, nil, trouble("instruments are turned off on this server (TALLOAK_INSTRUMENTS=off)")
	}
	if err := CheckAddress(address); err != nil {
		return nil, nil, err
	}
	r.lock.Lock()
	if since, busy := r.held[address]; busy {
		r.lock.Unlock()
		return nil, nil, trouble("it is in use by another window, since %s ago", time.Since(since).Round(time.Second))
	}
	if r.held == nil {
		r.held = map[string]time.Time{}
	}
	r.held[address] = time.Now()
	r.lock.Unlock()
	free := func() {
		r.lock.Lock()
		delete(r.held, address)
		r.lock.Unlock()
	}
	l, err := open(ctx, address, d)
	if err != nil {
		free()
		return nil, nil, err
	}
	return l, func() { l.Close(); free() }, nil
}
