package httpapi

import (
	"io"
	"net"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
)

// appPolicy lets the application run its own scripts and none written into a page, load
// nothing from elsewhere, and be framed by itself alone. (Element Plus and the plot set
// styles on elements.)
const appPolicy = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; frame-ancestors 'self'; base-uri 'none'; form-action 'self'; object-src 'none'"

// pagePolicy lets a page run no script and load nothing: it has all it needs.
const pagePolicy = "default-src 'none'; img-src data:; style-src 'unsafe-inline'; font-src data:; frame-ancestors 'self'"

// maxBody is the largest body taken: a sweep of 64 MiB and what is round it.
const maxBody = 66 << 20

// loopback are the names a server on loopback has.
var loopback = []string{"localhost", "127.0.0.1", "::1"}

// allowHosts refuses requests under a name that is not the server's own, so that no page
// elsewhere reads or writes by pointing a name of its own here.
func allowHosts(more []string) echo.MiddlewareFunc {
	allowed := slices.Concat(loopback, more)
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			host := c.Request().Host
			if name, _, err := net.SplitHostPort(host); err == nil {
				host = name
			}
			host = strings.ToLower(strings.Trim(host, "[]"))
			if !slices.Contains(allowed, host) {
				writeProblem(c, newProblem(http.StatusForbidden, "Refused", "This server does not go by that name. TALLOAK_ALLOWED_HOSTS lists those it may be asked under."))
				return nil
			}
			return next(c)
		}
	}
}

// sameOrigin refuses writes from a page of another site, open in the same browser.
func sameOrigin() echo.MiddlewareFunc {
	guard := http.NewCrossOriginProtection()
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			if guard.Check(c.Request()) != nil {
				writeProblem(c, newProblem(http.StatusForbidden, "Refused", "Writes from a page of another site are refused."))
				return nil
			}
			return next(c)
		}
	}
}

// patience is how long a connection may stand still.
const patience = 30 * time.Second

// byProgress lets a request take as long as it needs while something comes, and ends one
// that stands still.
func byProgress() echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			// On a copy: the server looks at its own to end a body that was not read in peace.
			if r := *c.Request(); r.Body != nil && r.Body != http.NoBody {
				r.Body = &patientBody{r.Body, http.NewResponseController(c.Response())}
				c.SetRequest(&r)
			}
			return next(c)
		}
	}
}

type patientBody struct {
	io.ReadCloser
	connection *http.ResponseController
}

func (b *patientBody) Read(p []byte) (int, error) {
	_ = b.connection.SetReadDeadline(time.Now().Add(patience)) // a recorder in a test has none
	return b.ReadCloser.Read(p)
}

// streams are the answers that are sent as they come.
func streams(c *echo.Context) bool { return c.Path() == eventsPath }

func (s *Server) logged() echo.MiddlewareFunc {
	return middleware.RequestLoggerWithConfig(middleware.RequestLoggerConfig{
		LogStatus: true, LogMethod: true, LogLatency: true, LogURIPath: true, LogResponseSize: true,
		Skipper: func(c *echo.Context) bool { return !strings.HasPrefix(c.Request().URL.Path, "/api/") },
		LogValuesFunc: func(_ *echo.Context, v middleware.RequestLoggerValues) error {
			s.log.Info("request", "method", v.Method, "path", v.URIPath, "status", v.Status, "took", v.Latency, "bytes", v.ResponseSize)
			return nil
		},
	})
}
