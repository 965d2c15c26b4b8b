package web

import (
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"runtime/debug"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/internal/store"
)

// maxBody is the largest form taken, in bytes: a recipe's text and its fields.
const maxBody = 512 << 10

// recovered turns a panic into a friendly page; the trace goes to the log only.
func (s *Server) recovered(c *gin.Context) {
	defer func() {
		if p := recover(); p != nil {
			slog.Error("panic", "path", c.Request.URL.Path, "panic", p, "stack", string(debug.Stack()))
			if !c.Writer.Written() {
				s.fail(c, http.StatusInternalServerError, broken)
			}
			c.Abort()
		}
	}()
	c.Next()
}

// hostAllowed refuses names that are not ours, against DNS rebinding, and, while the door is shut, whatever comes in by an
// address that other machines reach, whatever name it gives.
func (s *Server) hostAllowed(c *gin.Context) {
	open := s.door.open()
	if at, ok := c.Request.Context().Value(http.LocalAddrContextKey).(*net.TCPAddr); ok && !at.IP.IsLoopback() && !open {
		c.AbortWithStatus(http.StatusForbidden)
		return
	}
	if host := hostOf(c.Request); isLoopback(host) || slices.Contains(s.hosts, host) || open && s.door.knows(host) {
		return
	}
	c.AbortWithStatus(http.StatusMisdirectedRequest)
}

// headAsGet answers HEAD as GET would, whose body net/http keeps back.
func headAsGet(h http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodHead && !strings.HasSuffix(r.URL.Path, "/live") { // which never ends
			r = r.Clone(r.Context())
			r.Method = http.MethodGet
		}
		h.ServeHTTP(w, r)
	})
}

// readable refuses an address whose percent signs cannot be read: what they stood for would silently be left out.
func (s *Server) readable(c *gin.Context) {
	if _, err := url.ParseQuery(c.Request.URL.RawQuery); err != nil {
		s.fail(c, http.StatusBadRequest, problem{Title: "The address cannot be read", Do: "Something in it is not written as addresses are, after a % or a ;. Go back and follow the link once more."})
	}
}

// LogRequests has a line in the log for each request: what was asked for without what was asked, which may name people.
func (a *App) LogRequests() { a.server.logs = true }

func (s *Server) logged(c *gin.Context) {
	if !s.logs {
		return
	}
	began := time.Now()
	c.Next()
	slog.Info("request", "method", c.Request.Method, "path", c.Request.URL.Path, "status", c.Writer.Status(), "bytes", c.Writer.Size(), "ms", time.Since(began).Milliseconds(), "from", remote(c))
}

// CanQuit shows a way to stop the program on its pages.
func (a *App) CanQuit(quit func()) { a.server.quit = quit }

// CanShow shows a way to open the folder of the household's file where the program runs.
func (a *App) CanShow(folder func(file string) error) { a.server.reveal = folder }

// showFile opens the folder of the household's file, for who sits at its machine.
func (s *Server) showFile(c *gin.Context) error {
	if s.reveal == nil || !s.fromHere(c) {
		return store.ErrNotFound
	}
	if err := s.reveal(s.store.File()); err != nil {
		slog.Error("show the file", "err", err)
		return copied(c, "No window of files could be opened. The file is "+s.store.File(), true)
	}
	return copied(c, "Its folder is open in a window of its own.", false)
}

// stop ends the program; only who sits at its machine does.
func (s *Server) stop(c *gin.Context) error {
	if s.quit == nil || !s.fromHere(c) {
		return store.ErrNotFound
	}
	s.fail(c, http.StatusOK, problem{Title: "Kollaris has stopped", Do: "All is kept. Close this window; to go on, start the program again."})
	s.quit()
	return nil
}

// headers sets what every answer carries.
func headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set(
		"Content-Security-Policy",
		"default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'",
	)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	if !strings.HasPrefix(c.Request.URL.Path, "/static/") {
		h.Set("Cache-Control", "no-store")
		h.Add("Vary", "X-Fragment")
	}
	c.Next()
}

func limitBody(c *gin.Context) {
	c.Set(plainWriter, c.Writer)
	limit := int64(maxBody)
	switch path := c.Request.URL.Path; {
	case path == "/recipes/import":
		limit = maxFiles
	case path == "/log", path == "/everything":
		limit = maxLog
	case strings.HasPrefix(path, "/bakes/") && strings.HasSuffix(path, "/photos"):
		limit = maxPhotos
	}
	if limit > maxBody && c.Request.Method == http.MethodPost {
		patient(c)
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, limit)
	c.Next()
}
