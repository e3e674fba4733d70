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
	"syscall"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/spf13/cobra"

	"talloak/core/compute"
	"talloak/demo"
	"talloak/httpapi"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/web"
)

// databaseURL is the environment variable that names the database.
const databaseURL = "TALLOAK_DATABASE_URL"

func openStore(ctx context.Context) (*store.Store, error) {
	url := os.Getenv(databaseURL)
	if url == "" {
		return nil, fmt.Errorf("%s is not set; `make demo` starts a database and sets it", databaseURL)
	}
	return store.Open(ctx, url)
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
			if err := free(addr); err != nil {
				return err
			}
			s, err := openStore(ctx)
			if err != nil {
				return err
			}
			defer s.Close()
			if withDemo {
				if err := loadDemo(ctx, s); err != nil {
					return err
				}
			}
			app := httpapi.New(s, engine, rulebooks.Find, rulebooks.IDs(), web.Files())
			fmt.Printf("Tall Oak is at http://%s (Ctrl-C stops it)\n", addr)
			start := echo.StartConfig{Address: addr, HideBanner: true, HidePort: true, GracefulTimeout: 3 * time.Second}
			if err := start.Start(ctx, app); err != nil && !errors.Is(err, http.ErrServerClosed) {
				return err
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&addr, "addr", "127.0.0.1:7373", "address to listen on")
	cmd.Flags().BoolVar(&withDemo, "demo", false, "load the demo first if there is no review yet")
	return cmd
}

// free tells in plain words that the address is taken, before anything else starts.
func free(addr string) error {
	l, err := net.Listen("tcp", addr)
	if err != nil {
		return fmt.Errorf("%s is in use: stop what listens there, or set another port (TALLOAK_PORT=7374 make demo)", addr)
	}
	return l.Close()
}

func loadDemo(ctx context.Context, s *store.Store) error {
	empty, err := s.Empty(ctx)
	if err != nil || !empty {
		return err
	}
	slog.Info("loading the demo")
	return demo.Load(ctx, s)
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
			return loadDemo(cmd.Context(), s)
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

func openapiCommand(engine *compute.Engine) *cobra.Command {
	return &cobra.Command{
		Use:   "openapi",
		Short: "Print the description of the API (OpenAPI 3.1)",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			enc := json.NewEncoder(cmd.OutOrStdout())
			enc.SetIndent("", " ")
			return enc.Encode(httpapi.Description(engine))
		},
	}
}
