package httpapi

import (
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	_ "embed"
	"encoding/base64"
	"fmt"
	"html/template"
	"net"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
	"golang.org/x/crypto/argon2"
)

//go:embed login.html
var loginText string

var loginPage = template.Must(template.New("login").Parse(loginText))

const (
	cookieName = "talloak"
	// inName is a cookie that says only that there is a way out.
	inName     = "talloak-in"
	loginPath  = "/login"
	logoutPath = "/logout"
	// loggedInFor is how long one log-in lasts.
	loggedInFor = 30 * 24 * time.Hour
)

// door knows the shared password by a slow hash of it, as which it is known from then on: what
// is signed with it, or read from memory, gives no quick way to try passwords.
type door struct {
	salt, key []byte
	one       chan struct{} // one password is hashed at a time: each takes memory
}

// The cost of a hash: the least that OWASP's cheat sheet on storing passwords asks of
// Argon2id (19 MiB, two passes, one lane; from memory). RFC 9106 has the function.
const (
	passes    = 2
	memoryKiB = 19 << 10
)

func newDoor(password string, salt []byte) *door {
	if len(salt) == 0 { // log-ins end with the server, then
		salt = make([]byte, 16)
		_, _ = rand.Read(salt) // never fails
	}
	d := &door{salt: salt, one: make(chan struct{}, 1)}
	d.key = d.hash(password)
	return d
}

func (d *door) hash(password string) []byte {
	d.one <- struct{}{}
	defer func() { <-d.one }()
	return argon2.IDKey([]byte(password), d.salt, passes, memoryKiB, 1, 32)
}

func (d *door) opens(password string) bool {
	return subtle.ConstantTimeCompare(d.hash(password), d.key) == 1
}

// logIn asks for the shared password before anything else is answered: a page for it, a
// signed cookie after it, and five tries a minute for each name at each address: behind one
// proxy nobody locks out the others.
func logIn(e *echo.Echo, d *door) {
	key := d.key
	e.Use(func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			if r.URL.Path == loginPath || r.URL.Path == logoutPath {
				return next(c)
			}
			if cookie, err := r.Cookie(cookieName); err == nil && signed(key, cookie.Value, time.Now()) {
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
			host, _, err := net.SplitHostPort(c.Request().RemoteAddr)
			if err != nil {
				host = c.Request().RemoteAddr
			}
			return strings.ToLower(strings.TrimSpace(c.FormValue("name"))) + " at " + host, nil
		},
		DenyHandler: func(c *echo.Context, _ string, _ error) error {
			return show(c, http.StatusTooManyRequests, "Too many tries: wait a minute.")
		},
	})
	e.POST(loginPath, func(c *echo.Context) error {
		if !d.opens(c.FormValue("password")) {
			return show(c, http.StatusUnauthorized, "That is not the password.")
		}
		give(c, sign(key, time.Now().Add(loggedInFor)), int(loggedInFor.Seconds()))
		return c.Redirect(http.StatusSeeOther, "/")
	}, tries)
	e.POST(logoutPath, func(c *echo.Context) error {
		give(c, "", -1)
		return c.Redirect(http.StatusSeeOther, loginPath)
	})
}

// give sets the log-in of a browser, or takes it away.
func give(c *echo.Context, value string, seconds int) {
	secure := c.Request().TLS != nil || strings.EqualFold(c.Request().Header.Get("X-Forwarded-Proto"), "https")
	for name, v := range map[string]string{cookieName: value, inName: "1"} {
		c.SetCookie(&http.Cookie{Name: name, Value: v, Path: "/", HttpOnly: name == cookieName, SameSite: http.SameSiteStrictMode, MaxAge: seconds, Secure: secure})
	}
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
