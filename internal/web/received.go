package web

import (
	"bytes"
	"errors"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"sync"

	"github.com/gin-gonic/gin"
)

// How much of a body is kept in memory before it goes into a file, and how many unfinished bodies one address may send at once: a
// household's phone sends one at a time, its queue in order. Sources: practice, working values.
const (
	mostInMemory   = 1 << 20
	mostUnfinished = 8
)

// bodies counts what is still coming, by address.
type bodies struct {
	sync.Mutex
	of map[string]int
}

// begin counts one more of an address; false where it sends too many already.
func (b *bodies) begin(from string) bool {
	b.Lock()
	defer b.Unlock()
	if b.of == nil {
		b.of = map[string]int{}
	}
	if b.of[from] >= mostUnfinished {
		return false
	}
	b.of[from]++
	return true
}

func (b *bodies) end(from string) {
	b.Lock()
	defer b.Unlock()
	if b.of[from]--; b.of[from] <= 0 {
		delete(b.of, from)
	}
}

// received reads a body whole before its request waits for a turn, so that who sends slowly, or goes away in the midst of it, holds
// nobody up. What did not come whole is answered here, but for what is too large: its page says so itself.
func (s *Server) received(c *gin.Context) {
	r := c.Request
	if r.Body == nil || r.Body == http.NoBody || r.ContentLength == 0 || r.Method == http.MethodGet || r.Method == http.MethodHead {
		return
	}
	from, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		from = r.RemoteAddr
	}
	if !s.bodies.begin(from) {
		slog.Warn("too many unfinished bodies", "from", from, "path", r.URL.Path, "most", mostUnfinished)
		c.Header("Retry-After", "5")
		s.fail(c, http.StatusServiceUnavailable, problem{Title: "Busy", Do: "This device sends many things at once, none of them whole yet. Nothing is lost: try again in a moment."})
		return
	}
	body, err := spool(r.Body)
	s.bodies.end(from)
	var tooLarge *http.MaxBytesError
	if err != nil && !errors.As(err, &tooLarge) {
		body.Close()
		slog.Warn("a body did not come whole", "from", from, "path", r.URL.Path, "err", err)
		c.Header("Connection", "close")
		s.fail(c, http.StatusRequestTimeout, problem{Title: "It did not come whole", Do: "The connection was too slow or broke off. Nothing was changed: send it again."})
		return
	}
	defer body.Close()
	r.Body = body
	if err != nil {
		r.Body = readFails{io.MultiReader(body, failing{err}), body}
	}
	c.Next()
}

// readFails is what has come of a body, and then why no more did.
type readFails struct {
	io.Reader
	io.Closer
}

// spooled is a body that has come: in memory, or in a file that is gone once it is closed.
type spooled struct {
	io.Reader
	file *os.File
}

func (b *spooled) Close() error {
	if b.file == nil {
		return nil
	}
	name := b.file.Name()
	b.file.Close()
	b.file = nil
	return os.Remove(name)
}

// spool reads all of a body. With an error comes what was read before it.
func spool(body io.Reader) (*spooled, error) {
	var head bytes.Buffer
	_, err := io.CopyN(&head, body, mostInMemory)
	switch {
	case errors.Is(err, io.EOF):
		return &spooled{Reader: &head}, nil
	case err != nil:
		return &spooled{Reader: &head}, err
	}
	f, err := os.CreateTemp("", "kollaris-body-*")
	if err != nil {
		return &spooled{Reader: &head}, err
	}
	out := &spooled{file: f}
	if _, err = f.Write(head.Bytes()); err == nil {
		_, err = io.Copy(f, body)
	}
	if _, again := f.Seek(0, io.SeekStart); err == nil {
		err = again
	}
	out.Reader = f
	return out, err
}
