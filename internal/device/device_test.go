package device

import (
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestLinesAreRead(t *testing.T) {
	at := time.Date(2026, 11, 28, 9, 12, 3, 250e6, time.UTC)
	for line, want := range map[string]Reading{
		"r 12 2026-11-28T09:12:03.25Z 412.3 g steady": {Seq: 12, At: at, Value: 412.3, Flag: Steady},
		"r 13 - 1 lb moving":                          {Seq: 13, Value: 453.59237, Flag: Moving},
		"r 13 - 2 oz moving":                          {Seq: 13, Value: 56.699, Flag: Moving},
		"r 13 - -0.5 kg steady":                       {Seq: 13, Value: -500, Flag: Steady},
		"r 14 - 203 F ok core":                        {Seq: 14, Value: 95, Flag: OK, Channel: Core},
		"r 15 - 176.5 C ok oven":                      {Seq: 15, Value: 176.5, Flag: OK, Channel: Oven},
		"r 16 - --- g overload":                       {Seq: 16, Flag: Overload},
		"r 17 - 0 C open core":                        {Seq: 17, Flag: Open, Channel: Core},
	} {
		got, err := Parse(line)
		require.NoError(t, err, line)
		assert.InDelta(t, want.Value, got.Value, 0.001, line)
		got.Value = want.Value
		assert.Equal(t, want, got)
		assert.Equal(t, want.Flag != Overload && want.Flag != Open, got.Means())
	}
	for _, line := range []string{
		"", "r", "412.3 g", "r x - 1 g steady", "r -1 - 1 g steady", "r 1 noon 1 g steady", "r 1 - 1 stone steady", "r 1 - 1 g wobbly",
		"r 1 - 1 C ok left", "r 1 - NaN g steady", "r 1 - 1e9 g steady", "r 1 - one g steady", "r 1 - 1 g steady core more", "r 1 - 1 g steady" + strings.Repeat(" ", MaxLine),
	} {
		_, err := Parse(line)
		assert.ErrorIs(t, err, ErrNoReading, line)
	}
}

func FuzzParse(f *testing.F) {
	f.Add("r 12 2026-11-28T09:12:03.25Z 412.3 g steady")
	f.Add("r 15 - 176.5 C ok oven")
	f.Fuzz(func(t *testing.T, line string) {
		r, err := Parse(line)
		if err != nil || r.Channel == "" && r.Flag == OK {
			return
		}
		again, err := Parse(r.String())
		if err != nil || again.Seq != r.Seq || again.Flag != r.Flag || again.Channel != r.Channel {
			t.Fatalf("%q → %+v → %q → %+v, %v", line, r, r.String(), again, err)
		}
	})
}

// listening is a device that sends what it is told to.
func listening(t *testing.T) (addr string, calls chan net.Conn) {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { l.Close() })
	calls = make(chan net.Conn, 8)
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			calls <- c
		}
	}()
	return l.Addr().String(), calls
}

func celsius(c float64) string { return fmt.Sprintf("%.0f °C", c) }

func soon(t *testing.T, what string, is func() bool) {
	t.Helper()
	require.Eventually(t, is, 8*time.Second, 10*time.Millisecond, what)
}

// Garbage, half lines, lines without end, readings that come twice, too much on it, a line that
// breaks: the link says how it stands and goes on.
func TestALinkTakesWhatComes(t *testing.T) {
	addr, calls := listening(t)
	h := NewHub()
	defer h.Close()
	l := h.At(Scale, addr)
	assert.Same(t, l, h.At(Scale, addr))
	c := <-calls
	soon(t, "it is silent", func() bool { return l.Words(celsius) == "scale: silent" })
	fmt.Fprint(c, "device scale 1 x\nhello\n\x00\xff\x01\nr 1 - 100 g stea")
	fmt.Fprint(c, "dy\nr 2 - 412.2 g moving\nr 2 - 999 g steady\nr 1 - 999 g steady\n"+strings.Repeat("x", 5000)+"\nr 3 - 412.4 g steady\nok tare\n")
	soon(t, "it is read", func() bool { return l.Words(celsius) == "scale: 412 g, steady" })
	l.mu.Lock()
	assert.Equal(t, 3, l.garbage, "hello, the bytes, the line without end; the greeting and the answer are none")
	l.mu.Unlock()
	got := l.Readings("", time.Minute)
	require.Len(t, got, 3)
	assert.Equal(t, 100.0, got[0].Value)
	require.NoError(t, l.Tare())
	buf := make([]byte, 5)
	_, err := io.ReadFull(c, buf)
	require.NoError(t, err)
	assert.Equal(t, "tare\n", string(buf))
	fmt.Fprintln(c, "r 4 - -3.44 g steady")
	soon(t, "below nothing", func() bool { return l.Words(celsius) == "scale: -3.4 g, steady" })
	fmt.Fprintln(c, "r 5 - 0 g overload")
	soon(t, "too much", func() bool { return l.Words(celsius) == "scale: too much on it" })
	_, ok := l.Latest("")
	assert.False(t, ok)
	c.Close()
	soon(t, "gone", func() bool {
		return strings.HasPrefix(l.Words(celsius), "scale: not there") || l.Words(celsius) == "scale: silent"
	})
	c = <-calls // it calls again, and numbers begin anew
	fmt.Fprintln(c, "r 1 - 5 g steady")
	soon(t, "again", func() bool { return l.Words(celsius) == "scale: 5.0 g, steady" })
	p := h.At(Probe, addr)
	c = <-calls
	fmt.Fprintln(c, "r 1 - 61.5 C ok core\nr 2 - 170 C ok oven")
	soon(t, "a probe", func() bool { return p.Words(celsius) == "probe: 62 °C, oven 170 °C" })
	fmt.Fprintln(c, "r 3 - 0 C open core")
	soon(t, "pulled out", func() bool { return p.Words(celsius) == "probe: not plugged in" })
	assert.Nil(t, h.At(Probe, ""), "it is taken away")
}

func TestNothingAtAnAddress(t *testing.T) {
	h := NewHub()
	defer h.Close()
	l := h.At(Scale, "127.0.0.1:1")
	soon(t, "nothing", func() bool { return l.Words(celsius) == "scale: not there (nothing answers at its address)" })
	assert.ErrorIs(t, l.Tare(), ErrGone)
	var none *Link
	assert.Empty(t, none.Words(celsius))
	assert.ErrorIs(t, none.Tare(), ErrGone)
	assert.Empty(t, none.Readings("", time.Hour))
	_, ok := none.Latest("")
	assert.False(t, ok)
}

// The stand-ins speak the protocol: what is poured is weighed, tared and noisy; the loaf warms.
func TestStandIns(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	at := func(serve func(context.Context, net.Listener) error) string {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		go func() { _ = serve(ctx, l) }()
		return l.Addr().String()
	}
	h := NewHub()
	defer h.Close()
	scale := NewStandScale(1)
	l := h.At(Scale, at(scale.Serve))
	steady := func(want float64) func() bool {
		return func() bool {
			r, ok := l.Latest("")
			return ok && r.Flag == Steady && r.Value > want-1 && r.Value < want+1
		}
	}
	soon(t, "the bowl is tared", steady(0))
	web := httptest.NewServer(scale.Page())
	defer web.Close()
	post := func(base string, form url.Values) {
		res, err := http.PostForm(base, form)
		require.NoError(t, err)
		defer res.Body.Close()
		assert.Equal(t, http.StatusOK, res.StatusCode)
	}
	post(web.URL, url.Values{"pour": {"120"}})
	soon(t, "it moves first", func() bool { r, ok := l.Latest(""); return ok && r.Flag == Moving })
	soon(t, "and settles", steady(120))
	require.NoError(t, l.Tare())
	soon(t, "tared", steady(0))
	scale.Pour(6000)
	soon(t, "too much", func() bool { return l.Words(celsius) == "scale: too much on it" })

	probe := NewStandProbe(2, 600, func(m float64) (float64, float64) { return 20 + m, 175 })
	p := h.At(Probe, at(probe.Serve))
	soon(t, "cold", func() bool { r, ok := p.Latest(Core); return ok && r.Value < 26 })
	web2 := httptest.NewServer(probe.Page())
	defer web2.Close()
	post(web2.URL, url.Values{"do": {"in"}})
	soon(t, "it warms", func() bool { r, ok := p.Latest(Core); return ok && r.Value > 30 })
	post(web2.URL, url.Values{"do": {"slip"}})
	soon(t, "in the air", func() bool { r, ok := p.Latest(Core); return ok && r.Value > 160 })
	post(web2.URL, url.Values{"do": {"back"}})
	soon(t, "back", func() bool { r, ok := p.Latest(Core); return ok && r.Value < 160 })
	post(web2.URL, url.Values{"do": {"out"}})
	soon(t, "out", func() bool { r, ok := p.Latest(Oven); return ok && r.Value < 30 })
	for _, path := range []string{"/", "/stand.css", "/probe.js", "/state"} {
		res, err := http.Get(web2.URL + path)
		require.NoError(t, err)
		res.Body.Close()
		assert.Equal(t, http.StatusOK, res.StatusCode, path)
	}
}
