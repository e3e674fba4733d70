package httpapi

import (
	"encoding/json"
	"io/fs"
	"net/http"
	"path"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humago"
	"github.com/labstack/echo/v5"

	"talloak/core/compute"
	"talloak/core/rulebook"
	"talloak/store"
)

// Server holds what the handlers need.
type Server struct {
	store  *store.Store
	engine *compute.Engine
	books  func(id string) (*rulebook.Book, bool)
	ids    []string
}

// New is the whole application over HTTP: the API, its description and the
// front end. Files are the built front end.
func New(s *store.Store, engine *compute.Engine, books func(id string) (*rulebook.Book, bool), ids []string, files fs.FS) *echo.Echo {
	srv := &Server{s, engine, books, ids}
	mux := http.NewServeMux()
	srv.register(humago.New(mux, config()))
	e := echo.NewWithConfig(echo.Config{NoGroupAutoRegister404Routes: true})
	// A page from elsewhere, open in the same browser, may not write here.
	guard := http.NewCrossOriginProtection()
	guard.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		writeProblem(w, newProblem(http.StatusForbidden, "Refused", "Writes from a page of another site are refused."))
	}))
	e.Any("/api/*", echo.WrapHandler(guard.Handler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if _, pattern := mux.Handler(r); pattern == "" {
			writeProblem(w, newProblem(http.StatusNotFound, "Not found", "There is no such address in this API."))
			return
		}
		mux.ServeHTTP(w, r)
	}))))
	front := echo.WrapHandler(frontEnd(files))
	e.GET("/*", front)
	e.HEAD("/*", front)
	return e
}

// Description is the OpenAPI document; it needs no database.
func Description(engine *compute.Engine) *huma.OpenAPI {
	mux := http.NewServeMux()
	api := humago.New(mux, config())
	(&Server{engine: engine}).register(api)
	return api.OpenAPI()
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
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if room := path.Base(t.PkgPath()); t.Name() != "" && room != "httpapi" && room != "." {
		return strings.ToUpper(room[:1]) + room[1:] + name
	}
	return name
}

func (s *Server) register(api huma.API) {
	s.registerCompute(api)
	s.registerReviews(api)
	s.registerBench(api)
	s.registerMeasurements(api)
	s.registerEditions(api)
}

func writeProblem(w http.ResponseWriter, p *Problem) {
	w.Header().Set("Content-Type", p.ContentType(""))
	w.WriteHeader(p.Status)
	_ = json.NewEncoder(w).Encode(p)
}

// frontEnd serves the built files; any other address is a place inside the
// application, which finds its own way.
func frontEnd(files fs.FS) http.Handler {
	static := http.FileServerFS(files)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(r.URL.Path, "/")
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
