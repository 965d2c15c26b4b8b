package device

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"math"
	"net"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Kind is what a device is.
type Kind string

// The kinds.
const (
	Scale Kind = "scale"
	Probe Kind = "probe"
)

// How long is waited. Source: practice, working values.
const (
	dialWait  = 3 * time.Second
	silentAt  = 3 * time.Second  // without a line it is called silent
	givenUp   = 12 * time.Second // and called anew
	firstWait = 300 * time.Millisecond
	mostWait  = 10 * time.Second
	kept      = 64 // readings
)

// Heard is a reading with when it came.
type Heard struct {
	Reading
	Came time.Time
}

// Link is the line to one device. It is safe for concurrent use.
type Link struct {
	Kind    Kind
	Address string

	mu      sync.Mutex
	conn    net.Conn
	why     string // that it is not there, in words
	came    time.Time
	last    int64
	heard   []Heard
	emptied time.Time // when it last showed next to nothing
	garbage int       // lines that were none
}

// Run keeps the line open till ctx ends: after a break it is called again, each time later.
func (l *Link) Run(ctx context.Context) {
	wait := firstWait
	for ctx.Err() == nil {
		came, err := l.once(ctx)
		if ctx.Err() != nil {
			return
		}
		l.mu.Lock()
		l.why = reason(err)
		l.mu.Unlock()
		if came {
			wait = firstWait
		}
		select {
		case <-ctx.Done():
		case <-time.After(wait):
		}
		wait = min(2*wait, mostWait)
	}
}

// reason says why a device is not there.
func reason(err error) string {
	var netErr net.Error
	switch {
	case err == nil:
		return "it closed the line"
	case errors.As(err, &netErr) && netErr.Timeout():
		return "it says nothing"
	default:
		return "nothing answers at its address"
	}
}

// once opens the line and hears it to its end; came is true where anything was heard.
func (l *Link) once(ctx context.Context) (came bool, err error) {
	d := net.Dialer{Timeout: dialWait}
	conn, err := d.DialContext(ctx, "tcp", l.Address)
	if err != nil {
		return false, err
	}
	stop := context.AfterFunc(ctx, func() { conn.Close() })
	defer stop()
	defer conn.Close()
	l.mu.Lock()
	l.conn, l.why, l.last = conn, "", -1
	l.mu.Unlock()
	defer func() {
		l.mu.Lock()
		l.conn = nil
		l.mu.Unlock()
	}()
	in := bufio.NewReaderSize(conn, MaxLine+2)
	for {
		if err := conn.SetReadDeadline(time.Now().Add(givenUp)); err != nil {
			return came, err
		}
		line, long, err := in.ReadLine()
		if err != nil {
			return came, err
		}
		for long && err == nil { // too long a line is thrown away whole
			line = nil
			_, long, err = in.ReadLine()
		}
		came = l.take(string(line)) || came
	}
}

// take hears one line; false where it is no reading.
func (l *Link) take(line string) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	r, err := Parse(line)
	if err != nil {
		if s := strings.TrimSpace(line); !strings.HasPrefix(s, "device ") && !strings.HasPrefix(s, "ok ") {
			l.garbage++
		}
		return false
	}
	if r.Seq <= l.last {
		return true // it came twice, or late
	}
	l.last, l.came = r.Seq, time.Now()
	if r.Means() && r.Channel == "" && r.Value <= emptyAt {
		l.emptied = l.came
	}
	l.heard = append(l.heard, Heard{r, l.came})
	if n := len(l.heard); n > kept {
		l.heard = append(l.heard[:0], l.heard[n-kept:]...)
	}
	return true
}

// Readings are the last readings of a channel within so long, the oldest first; those that mean
// nothing are left out.
func (l *Link) Readings(of Channel, within time.Duration) []Heard {
	if l == nil {
		return nil
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	var out []Heard
	for _, h := range l.heard {
		if h.Channel == of && h.Means() && time.Since(h.Came) <= within {
			out = append(out, h)
		}
	}
	return out
}

// emptyAt is what a scale shows at most, g, that has just been tared.
const emptyAt = 3.0

// Emptied is when a scale last showed next to nothing: since then what it shows was put on it. Zero for never.
func (l *Link) Emptied() time.Time {
	if l == nil {
		return time.Time{}
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.emptied
}

// Latest is the last reading of a channel; ok is false where none came within silentAt, or what came
// means nothing.
func (l *Link) Latest(of Channel) (Heard, bool) {
	if l == nil {
		return Heard{}, false
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	for n := len(l.heard) - 1; n >= 0; n-- {
		if h := l.heard[n]; h.Channel == of {
			return h, h.Means() && l.conn != nil && time.Since(h.Came) <= silentAt
		}
	}
	return Heard{}, false
}

// Words say how a device stands: "scale: 412 g, steady". A temperature is written as asked.
func (l *Link) Words(temperature func(celsius float64) string) string {
	if l == nil {
		return ""
	}
	of := Channel("")
	if l.Kind == Probe {
		of = Core
	}
	h, ok := l.Latest(of)
	l.mu.Lock()
	defer l.mu.Unlock()
	switch {
	case l.conn == nil && l.why == "":
		return fmt.Sprintf("%s: calling", l.Kind)
	case l.conn == nil:
		return fmt.Sprintf("%s: not there (%s)", l.Kind, l.why)
	case !ok && h.Flag == Overload:
		return fmt.Sprintf("%s: too much on it", l.Kind)
	case !ok && h.Flag == Open:
		return fmt.Sprintf("%s: not plugged in", l.Kind)
	case !ok:
		return fmt.Sprintf("%s: silent", l.Kind)
	case l.Kind == Scale:
		return fmt.Sprintf("scale: %s g, %s", round(h.Value), h.Flag)
	}
	for n := len(l.heard) - 1; n >= 0; n-- {
		if air := l.heard[n]; air.Channel == Oven && air.Means() && time.Since(air.Came) <= silentAt {
			return fmt.Sprintf("probe: %s, oven %s", temperature(h.Value), temperature(air.Value))
		}
	}
	return "probe: " + temperature(h.Value)
}

// round writes grams to a tenth below ten, else whole.
func round(x float64) string {
	if x > -10 && x < 10 {
		if x = math.Round(x*10) / 10; x == 0 {
			x = 0 // and no sign
		}
		return fmt.Sprintf("%.1f", x)
	}
	return fmt.Sprintf("%.0f", x)
}

// ErrGone is said where a device is not there to be told anything.
var ErrGone = errors.New("the scale is not there")

// Tare sets a scale to zero.
func (l *Link) Tare() error {
	if l == nil {
		return ErrGone
	}
	l.mu.Lock()
	conn := l.conn
	l.mu.Unlock()
	if conn == nil {
		return ErrGone
	}
	if err := conn.SetWriteDeadline(time.Now().Add(dialWait)); err != nil {
		return err
	}
	_, err := conn.Write([]byte("tare\n"))
	return err
}

// Hub holds the links of a household, by their addresses. It is safe for concurrent use.
type Hub struct {
	ctx   context.Context
	close context.CancelFunc
	mu    sync.Mutex
	links map[Kind]*Link
	stop  map[Kind]context.CancelFunc
}

// NewHub is a hub without links.
func NewHub() *Hub {
	ctx, stop := context.WithCancel(context.Background())
	return &Hub{ctx: ctx, close: stop, links: map[Kind]*Link{}, stop: map[Kind]context.CancelFunc{}}
}

// Close ends all links.
func (h *Hub) Close() { h.close() }

// Done is closed when the hub is.
func (h *Hub) Done() <-chan struct{} { return h.ctx.Done() }

// At is the link to a device at an address, which it calls if it has not yet; nil for no address.
func (h *Hub) At(k Kind, address string) *Link {
	h.mu.Lock()
	defer h.mu.Unlock()
	if l := h.links[k]; l != nil {
		if l.Address == address {
			return l
		}
		h.stop[k]()
		delete(h.links, k)
	}
	if address == "" {
		return nil
	}
	ctx, stop := context.WithCancel(h.ctx)
	l := &Link{Kind: k, Address: address, last: -1}
	h.links[k], h.stop[k] = l, stop
	go l.Run(ctx)
	return l
}

// Check says what would do where an address is none, "" where it is one or empty.
func Check(address string) string {
	if address == "" {
		return ""
	}
	host, port, err := net.SplitHostPort(address)
	n, bad := strconv.Atoi(port)
	if err != nil || bad != nil || host == "" || n < 1 || n > 65535 || strings.ContainsAny(host, " /?#@") {
		return fmt.Sprintf("“%s” is no address: try 192.168.1.20:7411, a name or number with a port", clip(address))
	}
	return ""
}

func clip(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return s
}
