package web

import (
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
	c.Writer.WriteHeader(http.StatusOK)
	c.Writer.Write(a.body) //nolint:errcheck // who has gone reads nothing
	c.Abort()
}
