package httpapi

import (
	"encoding/json"
	"io/fs"
	"log/slog"
	"net/http"
	"path"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"talloak/app"
	"talloak/core/compute"
	"talloak/store"
)

// Server holds what the handlers need.
type Server struct {
	app    *app.App
	engine *compute.Engine
	log    *slog.Logger
	first  string // of the demo
}

// Options say who may reach the server. Hosts are names under which pages may ask for it
// beside those of loopback; Password, where it is not empty, is asked for first.
type Options struct {
	Hosts    []string
	Password string
	Salt     []byte // of the password's hash: with the same one log-ins outlive the server
	Log      *slog.Logger

	// DemoFirst is the review of the demo that is opened first, where the demo may be there.
	DemoFirst string
}

// New is the whole application over HTTP: the API, its description and the front end.
// Files are the built front end.
func New(a *app.App, engine *compute.Engine, files fs.FS, o Options) *echo.Echo {
	if o.Log == nil {
		o.Log = slog.New(slog.DiscardHandler)
	}
	srv := &Server{a, engine, o.Log, o.DemoFirst}
	a.Rack.Open = o.Password != ""
	e := echo.NewWithConfig(echo.Config{NoGroupAutoRegister404Routes: true, HTTPErrorHandler: srv.fail})
	e.Use(
		srv.logged(),
		middleware.RecoverWithConfig(middleware.RecoverConfig{DisablePrintStack: true}),
		middleware.SecureWithConfig(middleware.SecureConfig{
			ContentTypeNosniff: "nosniff", XFrameOptions: "SAMEORIGIN", ReferrerPolicy: "same-origin", ContentSecurityPolicy: appPolicy,
		}),
		allowHosts(o.Hosts),
		sameOrigin(),
		byProgress(),
		middleware.BodyLimit(maxBody),
		middleware.GzipWithConfig(middleware.GzipConfig{MinLength: 1024, Skipper: streams}),
	)
	if o.Password != "" {
		logIn(e, newDoor(o.Password, o.Salt))
	}
	srv.register(e)
	front := echo.WrapHandler(frontEnd(files))
	e.GET("/*", front)
	e.HEAD("/*", front)
	return e
}

// Description is the OpenAPI document; it needs no database.
func Description(engine *compute.Engine, a *app.App) *huma.OpenAPI {
	return (&Server{app: a, engine: engine, log: slog.New(slog.DiscardHandler)}).register(echo.New()).OpenAPI()
}

func config() huma.Config {
	c := huma.DefaultConfig("Tall Oak", "1")
	c.DocsPath, c.SchemasPath = "", ""
	c.OpenAPIPath = "/api/v1/openapi"
	c.CreateHooks = nil
	c.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	return c
}

// schemaName puts the room before the type, since several rooms have a Finding.
func schemaName(t reflect.Type, hint string) string {
	// What is made for a type of another room is that room's: Ruling[frequency.Measured].
	if outer, inner, made := strings.Cut(t.Name(), "["); made {
		room, _, _ := strings.Cut(path.Base(inner), ".")
		return strings.ToUpper(room[:1]) + room[1:] + outer
	}
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if room := path.Base(t.PkgPath()); t.Name() != "" && room != "httpapi" && room != "app" && room != "." {
		return strings.ToUpper(room[:1]) + room[1:] + name
	}
	return name
}

// fail answers what no handler answered: a route that is not there, a body too large, a
// panic.
func (s *Server) fail(c *echo.Context, err error) {
	status := echo.StatusCode(err)
	if status == 0 || status >= 500 {
		s.log.Error("request failed", "method", c.Request().Method, "path", c.Path(), "error", err)
		status = http.StatusInternalServerError
	}
	p := huma.NewError(status, "").(*Problem)
	if cause := store.Trouble(err); cause != nil {
		p = troubled(cause)
	}
	switch status {
	case http.StatusNotFound:
		p = newProblem(status, "Not found", "There is no such address in this API.")
	case http.StatusMethodNotAllowed:
		p = newProblem(status, "Not done that way", "This address is there, but not for "+c.Request().Method+".")
	}
	writeProblem(c, p)
}

func writeProblem(c *echo.Context, p *Problem) {
	if r, err := echo.UnwrapResponse(c.Response()); err == nil && r.Committed {
		return
	}
	c.Response().Header().Set("Content-Type", p.ContentType(""))
	_ = c.JSON(p.Status, p)
}

// frontEnd serves the built files; any other address is a place inside the application,
// which finds its own way.
func frontEnd(files fs.FS) http.Handler {
	static := http.FileServerFS(files)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(r.URL.Path, "/")
		if strings.HasPrefix(name, "api/") {
			p := newProblem(http.StatusNotFound, "Not found", "There is no such address in this API.")
			w.Header().Set("Content-Type", p.ContentType(""))
			w.WriteHeader(p.Status)
			_ = json.NewEncoder(w).Encode(p)
			return
		}
		if info, err := fs.Stat(files, name); err == nil && !info.IsDir() {
			if strings.HasPrefix(name, "assets/") {
				w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			}
			static.ServeHTTP(w, r)
			return
		}
		if strings.HasPrefix(name, "assets/") {
			http.NotFound(w, r)
			return
		}
		page, err := fs.ReadFile(files, "index.html")
		if err != nil {
			http.Error(w, "The front end is not built yet: run make demo.", http.StatusServiceUnavailable)
			return
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Cache-Control", "no-cache")
		_, _ = w.Write(page)
	})
}
