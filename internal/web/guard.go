package web

import (
	"log/slog"
	"net"
	"net/http"
	"runtime/debug"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
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

// hostAllowed refuses names that are not ours, against DNS rebinding, and whatever comes
// in by an address that other machines reach, whatever name it gives: there is no
// passphrase yet.
func (s *Server) hostAllowed(c *gin.Context) {
	if at, ok := c.Request.Context().Value(http.LocalAddrContextKey).(*net.TCPAddr); ok && !at.IP.IsLoopback() {
		c.AbortWithStatus(http.StatusForbidden)
		return
	}
	host := c.Request.Host
	if h, _, err := net.SplitHostPort(host); err == nil {
		host = h
	}
	host = strings.Trim(host, "[]")
	ip := net.ParseIP(host)
	if host == "localhost" || ip != nil && ip.IsLoopback() || slices.Contains(s.hosts, host) {
		c.Next()
		return
	}
	c.AbortWithStatus(http.StatusMisdirectedRequest)
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
	limit := int64(maxBody)
	switch path := c.Request.URL.Path; {
	case path == "/recipes/import":
		limit = maxFiles
	case path == "/log", path == "/everything":
		limit = maxLog
	case strings.HasPrefix(path, "/bakes/") && strings.HasSuffix(path, "/photos"):
		limit = maxPhotos
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, limit)
	c.Next()
}
