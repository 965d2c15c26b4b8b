package web

import (
	"bytes"
	"crypto/sha256"
	"io"
	"net"
	"net/http"
	"regexp"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
)

// press is a form that was sent, and where its answer led.
type press struct {
	sync.Mutex
	to string
	at time.Time // when it was answered
}

// twiceFor is how long the same form again is taken for the same press, after the first was answered. No source: a second click comes
// within half a second, and nobody fills a form in anew in two.
const twiceFor = 2 * time.Second

// mostPresses is how many are remembered, of some 200 bytes each.
const mostPresses = 500

var (
	// Of these each press counts: tries of the passphrase and what the door hands out once; and what happened at the counter, where each
	// press has a name of its own.
	eachCounts = regexp.MustCompile(`^/(?:enter|leave|door|quit|bakes/\d+)$`)
	// These make something each time that they are sent. A form that may rightly be sent alike again says how many there are ("nth").
	makes = regexp.MustCompile(`^/(?:recipes|recipes/example|recipes/\d+/(?:log|duplicate|versions)|people|ovens|ovens/\d+|tins|plans|bakes|tasting|larder/new)$`)
	// And these would find that another window was first, which was the same.
	seesRev = regexp.MustCompile(`(?:^|&)rev=`)
)

// once answers the second press of a button as the first, and makes nothing twice of it: the same form, from the same browser,
// while the first is still worked on, or right after where a form makes something or carries a rev. Otherwise two clicks on "Add"
// make two, and two on "Keep" tell of another window that was first. What was refused is read again.
func (s *Server) once(c *gin.Context) {
	path := c.Request.URL.Path
	if c.Request.Method != http.MethodPost || eachCounts.MatchString(path) || !strings.HasPrefix(c.ContentType(), "application/x-www-form-urlencoded") {
		return
	}
	body, err := io.ReadAll(c.Request.Body)
	c.Request.Body = io.NopCloser(io.MultiReader(bytes.NewReader(body), failing{err}))
	if err != nil {
		return
	}
	host, _, _ := net.SplitHostPort(c.Request.RemoteAddr)
	cookie, _ := c.Cookie(cookieName)
	sum := sha256.Sum256([]byte(strings.Join([]string{host, c.Request.UserAgent(), cookie, c.Request.URL.RequestURI(), string(body)}, "\x00")))
	p := &press{}
	if before, ok, _ := s.presses.PeekOrAdd(string(sum[:]), p); ok {
		p = before
	}
	came := time.Now()
	p.Lock()
	defer p.Unlock()
	lasts := time.Duration(0)
	if makes.MatchString(path) || seesRev.Match(body) {
		lasts = twiceFor
	}
	if p.to != "" && came.Sub(p.at) < lasts {
		c.Redirect(http.StatusSeeOther, p.to)
		c.Abort()
		return
	}
	p.to = ""
	c.Next()
	if c.Writer.Status() == http.StatusSeeOther {
		p.to, p.at = c.Writer.Header().Get("Location"), time.Now()
	}
}

// failing ends as what was read before it did.
type failing struct{ err error }

func (f failing) Read([]byte) (int, error) {
	if f.err == nil {
		return 0, io.EOF
	}
	return 0, f.err
}
