package httpapi

import (
	"crypto/hmac"
	"crypto/sha256"
	"crypto/subtle"
	_ "embed"
	"encoding/base64"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
)

//go:embed login.html
var loginText string

var loginPage = template.Must(template.New("login").Parse(loginText))

const (
	cookieName = "talloak"
	loginPath  = "/login"
	// loggedInFor is how long one log-in lasts.
	loggedInFor = 30 * 24 * time.Hour
)

// logIn asks for the shared password before anything else is answered: a page for it, a
// signed cookie after it, and five tries a minute for each address.
func logIn(e *echo.Echo, password string) {
	key := sha256.Sum256([]byte("talloak log-in " + password))
	e.Use(func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			if r.URL.Path == loginPath {
				return next(c)
			}
			if cookie, err := r.Cookie(cookieName); err == nil && signed(key[:], cookie.Value, time.Now()) {
				return next(c)
			}
			if strings.HasPrefix(r.URL.Path, "/api/") {
				writeProblem(c, newProblem(http.StatusUnauthorized, "Log in", "This server asks for a password. Open it in a browser and log in; what you typed is kept."))
				return nil
			}
			return c.Redirect(http.StatusSeeOther, loginPath)
		}
	})
	show := func(c *echo.Context, status int, trouble string) error {
		var page strings.Builder
		if err := loginPage.Execute(&page, trouble); err != nil {
			return err
		}
		c.Response().Header().Set("Content-Security-Policy", pagePolicy+"; form-action 'self'")
		return c.HTML(status, page.String())
	}
	e.GET(loginPath, func(c *echo.Context) error { return show(c, http.StatusOK, "") })
	tries := middleware.RateLimiterWithConfig(middleware.RateLimiterConfig{
		Store: middleware.NewRateLimiterMemoryStoreWithConfig(middleware.RateLimiterMemoryStoreConfig{Rate: 5.0 / 60, Burst: 5, ExpiresIn: 10 * time.Minute}),
		IdentifierExtractor: func(c *echo.Context) (string, error) {
			host, _, _ := strings.Cut(c.Request().RemoteAddr, "]:")
			if i := strings.LastIndex(host, ":"); i > 0 && !strings.HasPrefix(host, "[") {
				host = host[:i]
			}
			return host, nil
		},
		DenyHandler: func(c *echo.Context, _ string, _ error) error {
			return show(c, http.StatusTooManyRequests, "Too many tries: wait a minute.")
		},
	})
	e.POST(loginPath, func(c *echo.Context) error {
		given := sha256.Sum256([]byte("talloak log-in " + c.FormValue("password")))
		if subtle.ConstantTimeCompare(given[:], key[:]) != 1 {
			return show(c, http.StatusUnauthorized, "That is not the password.")
		}
		c.SetCookie(&http.Cookie{
			Name: cookieName, Value: sign(key[:], time.Now().Add(loggedInFor)), Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode,
			MaxAge: int(loggedInFor.Seconds()), Secure: c.Request().TLS != nil,
		})
		return c.Redirect(http.StatusSeeOther, "/")
	}, tries)
}

// sign is a time until which a log-in lasts, with its signature.
func sign(key []byte, until time.Time) string {
	at := strconv.FormatInt(until.Unix(), 10)
	mac := hmac.New(sha256.New, key)
	fmt.Fprint(mac, at)
	return at + "." + base64.RawURLEncoding.EncodeToString(mac.Sum(nil))
}

func signed(key []byte, cookie string, now time.Time) bool {
	at, _, ok := strings.Cut(cookie, ".")
	seconds, err := strconv.ParseInt(at, 10, 64)
	if !ok || err != nil || now.Unix() > seconds {
		return false
	}
	return hmac.Equal([]byte(cookie), []byte(sign(key, time.Unix(seconds, 0))))
}
