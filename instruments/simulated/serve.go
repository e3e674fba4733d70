package simulated

import (
	"context"
	"fmt"
	"net"
	"strconv"
	"sync"

	"talloak/instruments/scpi"
)

// Served is an instrument that listens. AccuracyDB is what it states, where it measures levels.
type Served struct {
	Kind       string   `json:"kind"`
	Address    string   `json:"address"`
	Identity   string   `json:"identity"`
	AccuracyDB *float64 `json:"accuracy_db,omitempty"`
}

// Listen opens the sockets of all instruments at address and serves them until ctx ends, which
// wait waits for. A port takes it and the next five, 0 any six. The address is one of loopback.
func (b *Bench) Listen(ctx context.Context, address string) (served []Served, wait func(), err error) {
	host, port, err := net.SplitHostPort(address)
	if err != nil {
		return nil, nil, fmt.Errorf("%q is no address: give one such as 127.0.0.1:0", address)
	}
	if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return nil, nil, fmt.Errorf("simulated instruments listen on loopback alone, such as 127.0.0.1, not on %q", host)
	}
	first, err := strconv.ParseUint(port, 10, 16)
	if err != nil || first > 0 && first+uint64(len(Kinds)) > 1<<16 {
		return nil, nil, fmt.Errorf("%q is no port that leaves room for %d", port, len(Kinds))
	}
	var open []net.Listener
	for i, kind := range Kinds {
		at := first
		if first > 0 {
			at += uint64(i)
		}
		l, err := net.Listen("tcp", net.JoinHostPort(host, strconv.FormatUint(at, 10)))
		if err != nil {
			for _, o := range open {
				_ = o.Close()
			}
			return nil, nil, err
		}
		open = append(open, l)
		served = append(served, Served{kind, l.Addr().String(), b.devices[kind].Identity, b.accuracy(kind)})
	}
	var all sync.WaitGroup
	for i, l := range open {
		all.Go(func() { _ = scpi.Serve(ctx, l, b.devices[Kinds[i]]) })
	}
	return served, all.Wait, nil
}

func (b *Bench) accuracy(kind string) *float64 {
	switch kind {
	case "analyzer":
		return &b.scene.Analyzer.AccuracyDB
	case "power-meter":
		return &b.scene.Meter.AccuracyDB
	}
	return nil
}
