package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"runtime/debug"
	"strings"
	"syscall"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/spf13/cobra"

	"talloak/app"
	"talloak/core/compute"
	"talloak/core/kinds"
	"talloak/demo"
	"talloak/httpapi"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/web"
)

// databaseURL is the environment variable that names the database.
const databaseURL = "TALLOAK_DATABASE_URL"

func databaseAddress() (string, error) {
	url := os.Getenv(databaseURL)
	if url == "" {
		return "", fmt.Errorf("%s is not set; `make demo` starts a database and sets it", databaseURL)
	}
	return url, nil
}

func newApp(s *store.Store) *app.App {
	out := app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs())
	out.KeyFile = app.KeyFile()
	return out
}

func serveCommand(engine *compute.Engine) *cobra.Command {
	addr := ""
	withDemo := false
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve the application",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			options, err := reachable(addr, os.Getenv)
			if err != nil {
				return err
			}
			if err := free(addr); err != nil {
				return err
			}
			s, err := openStore(ctx)
			if err != nil {
				return err
			}
			defer s.Close()
			a := newApp(s)
			if a.Rack.Off = os.Getenv(instrumentsAre) == "off"; !a.Rack.Off && options.Password != "" {
				fmt.Printf("Others reach this server, and whoever uses it can make it connect to the addresses on the bench (%s=off turns that off)\n", instrumentsAre)
			}
			if options.Salt, err = s.Salt(ctx); err != nil {
				return err
			}
			if withDemo {
				if err := loadDemo(ctx, a); err != nil {
					return err
				}
			}
			// A long sweep is read, packed and judged, and its memory given back: the limit
			// is soft, and only makes the collector work sooner.
			debug.SetMemoryLimit(softLimit)
			go a.Follow(ctx)
			fmt.Printf("Tall Oak is at http://%s (Ctrl-C stops it)\n", answersAt(addr, options.Hosts))
			start := echo.StartConfig{
				Address: addr, HideBanner: true, HidePort: true, GracefulTimeout: 3 * time.Second,
				BeforeServeFunc: func(server *http.Server) error {
					// A request that has begun may take as long as something comes of it.
					server.ReadHeaderTimeout, server.IdleTimeout, server.ReadTimeout, server.WriteTimeout = 10*time.Second, 2*time.Minute, 0, 0
					server.RegisterOnShutdown(a.Events.Close)
					return nil
				},
			}
			options.DemoFirst = demo.First()
			if err := start.Start(ctx, httpapi.New(a, engine, web.Files(), *options)); err != nil && !errors.Is(err, http.ErrServerClosed) {
				return err
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&addr, "addr", "127.0.0.1:7373", "address to listen on")
	cmd.Flags().BoolVar(&withDemo, "demo", false, "load the demo first if there is no review yet")
	return cmd
}

// softLimit is how much memory the server keeps to where it can, in bytes.
const softLimit = 160 << 20

// Who may reach the server beside this machine: names under which pages may ask for it,
// parted by commas, and a password, without which it listens on loopback alone. Requests
// are logged where TALLOAK_LOG is set.
const (
	allowedHosts   = "TALLOAK_ALLOWED_HOSTS"
	sharedPassword = "TALLOAK_PASSWORD"
	logRequests    = "TALLOAK_LOG"
	instrumentsAre = "TALLOAK_INSTRUMENTS" // off: this server connects to none
)

// reachable reads who may reach the server, and refuses to be reached from beyond this
// machine without a password.
func reachable(addr string, getenv func(string) string) (*httpapi.Options, error) {
	out := &httpapi.Options{Password: getenv(sharedPassword)}
	for name := range strings.SplitSeq(getenv(allowedHosts), ",") {
		if name = strings.ToLower(strings.TrimSpace(name)); name != "" {
			out.Hosts = append(out.Hosts, name)
		}
	}
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return nil, fmt.Errorf("--addr: give host and port, such as 127.0.0.1:7373: %w", err)
	}
	ip := net.ParseIP(host)
	if beyond := host != "localhost" && (ip == nil || !ip.IsLoopback()); beyond && out.Password == "" {
		return nil, fmt.Errorf("%s can be reached from other machines: set %s to a password that is asked for first, and %s to the names this server goes by; or listen on 127.0.0.1", addr, sharedPassword, allowedHosts)
	}
	if ip != nil && !ip.IsUnspecified() && !ip.IsLoopback() {
		out.Hosts = append(out.Hosts, host) // it is asked for by the address that is printed
	}
	level := slog.LevelWarn
	if getenv(logRequests) != "" {
		level = slog.LevelInfo
	}
	out.Log = slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: level}))
	return out, nil
}

// answersAt is an address under which a server answers that listens on addr: on all addresses
// of the machine it goes by the names it was given, else by that of loopback.
func answersAt(addr string, hosts []string) string {
	host, port, err := net.SplitHostPort(addr)
	if err != nil {
		return addr
	}
	switch ip := net.ParseIP(host); {
	case host != "" && (ip == nil || !ip.IsUnspecified()):
		return addr
	case len(hosts) > 0:
		return net.JoinHostPort(hosts[0], port)
	}
	return net.JoinHostPort("127.0.0.1", port)
}

// free tells in plain words that the address is taken, before anything else starts.
func free(addr string) error {
	l, err := net.Listen("tcp", addr)
	if err != nil {
		return fmt.Errorf("%s is in use: stop what listens there, or set another port (TALLOAK_PORT=7374 make demo)", addr)
	}
	return l.Close()
}

func loadDemo(ctx context.Context, a *app.App) error {
	empty, err := a.Store.Empty(ctx)
	if err != nil || !empty {
		return err
	}
	slog.Info("loading the demo")
	return demo.Load(ctx, a)
}

func demoCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "demo",
		Short: "Load the demo if there is no review yet",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := openStore(cmd.Context())
			if err != nil {
				return err
			}
			defer s.Close()
			return loadDemo(cmd.Context(), newApp(s))
		},
	}
}

func schemaCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "bench-schema",
		Short: "Print the JSON Schema of bench files",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			enc := json.NewEncoder(cmd.OutOrStdout())
			enc.SetIndent("", " ")
			return enc.Encode(httpapi.BenchSchema())
		},
	}
}

func driverSchemaCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "driver-schema",
		Short: "Print the JSON Schema of an instrument's driver",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			enc := json.NewEncoder(cmd.OutOrStdout())
			enc.SetIndent("", " ")
			return enc.Encode(httpapi.DriverSchema())
		},
	}
}

func editionSchemaCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "edition-schema",
		Short: "Print the JSON Schema of an edition's data",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			enc := json.NewEncoder(cmd.OutOrStdout())
			enc.SetIndent("", " ")
			return enc.Encode(httpapi.EditionSchema())
		},
	}
}

func openapiCommand(engine *compute.Engine) *cobra.Command {
	return &cobra.Command{
		Use:   "openapi",
		Short: "Print the description of the API (OpenAPI 3.1)",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			enc := json.NewEncoder(cmd.OutOrStdout())
			enc.SetIndent("", " ")
			return enc.Encode(httpapi.Description(engine, newApp(nil)))
		},
	}
}
