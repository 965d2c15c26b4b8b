package web

import (
	"bytes"
	"context"
	"net/http"
	"regexp"
	"runtime"
	"sync"
	"sync/atomic"

	"github.com/gin-gonic/gin"
	"golang.org/x/sync/semaphore"
)

// A gate lets in as many requests at once as there is work for; the others wait in the order they came, and past a bound
// are told to come back. What waits holds neither a compressor nor a line of the database.
type gate struct {
	in      *semaphore.Weighted
	waiting atomic.Int64
	most    int64 // that wait
}

func newGate(wide, most int64) *gate { return &gate{in: semaphore.NewWeighted(wide), most: most} }

// enter waits; false where too many do. The error is that of the context, where who asked has gone meanwhile.
func (g *gate) enter(ctx context.Context, patient bool) (bool, error) {
	if g.in.TryAcquire(1) {
		return true, nil
	}
	if g.waiting.Add(1) > g.most && !patient {
		g.waiting.Add(-1)
		return false, nil
	}
	defer g.waiting.Add(-1)
	err := g.in.Acquire(ctx, 1)
	return err == nil, err
}

func (g *gate) leave() { g.in.Release(1) }

// How many wait: of the pages that work something out, 20 ms each on one core, so that the last of them waits about half a
// second on two; and of the others, which take a few.
const (
	mostHeavy = 32
	mostLight = 200
	lightOnes = 2 // at once, for each core
)

// gates are one for pages that are worked out, as wide as there are cores, and one for the rest, which pass them by.
type gates struct{ heavy, light *gate }

func newGates() gates {
	cores := int64(runtime.GOMAXPROCS(0))
	return gates{newGate(cores, mostHeavy), newGate(lightOnes*cores, mostLight)}
}

// What is worked out; and what is not waited for, since it is sent as it is made, or for as long as a page is open.
var (
	heavyPaths = regexp.MustCompile(`^/(?:recipes/\d+/(?:adapt|beside|nutrition|tablecard|heat|plan|plan\.ics|cups|versions|log)|recipes/import|drafts/\d+|table|plans|plans\.ics|plans/\d+|plans/shop.*|sweeten|learned|how|ahead|oven|bakes/new|log/beside)$`)
	streams    = regexp.MustCompile(`^/(?:bakes/\d+/(?:live|attend)|static/.*|everything\.zip|shelf\.zip|log\.zip|photos/.*|backups/.*|healthz|sw\.js)$`)
	attends    = regexp.MustCompile(`^/bakes/\d+/attend$`) // ends with the page that asks
)

// plainWriter is by what a request is answered, beneath what keeps or compresses the answer.
const plainWriter = "plain writer"

// admitted has a request wait for its turn. The answer is made whole and its turn given up before it is sent, so that who
// reads slowly keeps nobody waiting. Nothing that is written down is turned away: what was typed would be lost.
func (s *Server) admitted(c *gin.Context) {
	path := c.Request.URL.Path
	if c.Request.Method != http.MethodGet && !attends.MatchString(path) { // what was told is kept, though a phone sleeps right after
		c.Request = c.Request.WithContext(context.WithoutCancel(c.Request.Context()))
	}
	if streams.MatchString(path) {
		return
	}
	key := s.recallKey(c)
	if key != "" {
		if a, ok := s.answers.Get(key); ok {
			a.give(c)
			return
		}
	}
	g := s.gates.light
	if heavyPaths.MatchString(path) || c.Query("suits") != "" {
		g = s.gates.heavy
	}
	in, err := g.enter(c.Request.Context(), c.Request.Method != http.MethodGet)
	switch {
	case err != nil: // nobody is there any more
		c.Abort()
		return
	case !in:
		c.Header("Retry-After", "1")
		s.fail(c, http.StatusServiceUnavailable, problem{Title: "Busy", Do: "Many ask at once just now. Nothing is lost: try again in a moment."})
		return
	}
	out := &whole{ResponseWriter: c.Writer, body: buffers.Get().(*bytes.Buffer)}
	out.body.Reset()
	c.Writer = out
	func() {
		defer func() { c.Writer = out.ResponseWriter }() // also for what a panic has to say
		defer g.leave()
		c.Next()
	}()
	if key != "" && out.Status() == http.StatusOK {
		a := sent(c.Writer.Header(), out.body.Bytes())
		if s.answers.Add(key, a); a.kept(c) {
			out.body.Reset()
			out.status = http.StatusNotModified
		}
	}
	if out.status != 0 {
		c.Writer.WriteHeader(out.status)
	}
	if out.body.Len() > 0 {
		c.Writer.Write(out.body.Bytes()) //nolint:errcheck // who has gone reads nothing
	} else {
		c.Writer.WriteHeaderNow()
	}
	if out.body.Cap() < 1<<20 {
		buffers.Put(out.body)
	}
}

var buffers = sync.Pool{New: func() any { return new(bytes.Buffer) }}

// whole keeps an answer until it is whole.
type whole struct {
	gin.ResponseWriter
	body   *bytes.Buffer
	status int
}

func (w *whole) Write(b []byte) (int, error)       { return w.body.Write(b) }
func (w *whole) WriteString(s string) (int, error) { return w.body.WriteString(s) }
func (w *whole) WriteHeader(status int)            { w.status = status }
func (w *whole) WriteHeaderNow()                   {}
func (w *whole) Flush()                            {}
func (w *whole) Size() int                         { return w.body.Len() }
func (w *whole) Written() bool                     { return w.body.Len() > 0 }
func (w *whole) Status() int {
	if w.status == 0 {
		return http.StatusOK
	}
	return w.status
}
