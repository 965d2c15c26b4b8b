package web

import (
	"bytes"
	"crypto/sha256"
	"fmt"
	"log/slog"
	"net/http"
	"regexp"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
)

// mostAnswers is how many pages are remembered as they were sent, of some 15 KB each.
const mostAnswers = 400

// sentPage is a page as it was sent.
type sentPage struct {
	header http.Header
	body   []byte
}

// sent remembers a page, and gives it a tag by which whoever has kept it asks whether it is the same still: the service worker does. A
// browser's own store does not keep it (no-store), since Back would show it without asking.
func sent(header http.Header, body []byte) sentPage {
	header.Set("ETag", fmt.Sprintf(`"%x"`, sha256.Sum256(body))[:22]+`"`)
	return sentPage{header.Clone(), bytes.Clone(body)}
}

// What follows from the household's file, the address and the day alone, and from no clock.
var recalled = regexp.MustCompile(`^/(?:|recipes|larder|larder/i/[\w-]+|larder/compare|sources|people|ovens|table|how|recipes/\d+/(?:adapt|beside|nutrition|read))$`)

// recallKey is all that an answer follows from; "" for one that is not remembered. It is taken before anything is read, so
// that a change made meanwhile leaves nothing behind that is found again.
func (s *Server) recallKey(c *gin.Context) string {
	if c.Request.Method != http.MethodGet || !recalled.MatchString(c.Request.URL.Path) {
		return ""
	}
	stamp, err := s.store.Stamp(c.Request.Context())
	if err != nil {
		slog.Warn("nothing is remembered", "err", err)
		return ""
	}
	here := ""
	if s.quit != nil && s.fromHere(c) {
		here = "here"
	}
	return strings.Join([]string{
		stamp, c.Request.URL.RequestURI(), c.GetHeader("X-Fragment"), c.GetHeader("Accept-Encoding"), here, time.Now().Format(time.DateOnly),
	}, "\x00")
}

func (a sentPage) give(c *gin.Context) {
	for name, values := range a.header {
		c.Writer.Header()[name] = values
	}
	if a.kept(c) {
		c.Writer.WriteHeader(http.StatusNotModified)
		c.Writer.WriteHeaderNow()
	} else {
		c.Writer.WriteHeader(http.StatusOK)
		c.Writer.Write(a.body) //nolint:errcheck // who has gone reads nothing
	}
	c.Abort()
}

// kept reports whether who asks has this very page.
func (a sentPage) kept(c *gin.Context) bool {
	tag := a.header.Get("ETag")
	for _, has := range strings.Split(c.GetHeader("If-None-Match"), ",") { // no tag of ours holds a comma
		if strings.TrimPrefix(strings.TrimSpace(has), "W/") == tag && tag != "" { // as weakly as RFC 9110 13.1.2 has it
			return true
		}
	}
	return false
}
