package e2e

import (
	"net"
	"net/http"
	"net/http/httptest"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/demotest"
	"kollaris/internal/web"
)

// gate stands before the application and can hold its answers back.
type gate struct {
	h    http.Handler
	hold atomic.Pointer[chan struct{}] // closed to let answers through; nil lets them through
}

func (g *gate) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if hold := g.hold.Load(); hold != nil && r.Header.Get("X-Fragment") != "" {
		<-*hold
	}
	g.h.ServeHTTP(w, r)
}

// startStoppable is a visit whose server can be held, stopped and started again at the
// same address.
func startStoppable(t *testing.T) (v visit, g *gate, stop, again func()) {
	t.Helper()
	v = start(t)
	st, _ := demotest.Open(t)
	h, err := web.New(st)
	require.NoError(t, err)
	g = &gate{h: h}
	srv := httptest.NewServer(g)
	addr := srv.Listener.Addr().String()
	v.base, v.st = srv.URL, st
	t.Cleanup(func() { srv.Close() })
	stop = func() { srv.CloseClientConnections(); srv.Close() }
	again = func() {
		var l net.Listener
		require.Eventually(t, func() (ok bool) {
			l, err = net.Listen("tcp", addr)
			return err == nil
		}, 5*time.Second, 20*time.Millisecond)
		srv = httptest.NewUnstartedServer(g)
		srv.Listener.Close()
		srv.Listener = l
		srv.Start()
	}
	return v, g, stop, again
}

const tick = `Boolean((() => { const i = document.querySelector(".verdict .icon"); return i && getComputedStyle(i).visibility !== "hidden" && document.querySelector(".verdict use").href.baseVal.includes("check"); })())`

// A tick is never shown that is not true of what is chosen: at a change it goes at once,
// after a moment a sign says why, and where the server does not answer words stand where
// they can be seen, with a way to try again.
func TestNoTickOutlivesAChange(t *testing.T) {
	v, g, stop, again := startStoppable(t)
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=egg-free")
	require.True(t, eval[bool](v, tick))

	hold := make(chan struct{})
	g.hold.Store(&hold)
	eval[int](v, `(document.getElementById("diet-gluten-free").click(), 0)`)
	assert.False(t, eval[bool](v, tick), "at once")
	assert.Equal(t, "true", eval[string](v, `document.getElementById("bench-root").getAttribute("aria-busy")`))
	v.waitFor(`document.querySelector(".fragment-note").textContent.includes("Working it out")`)
	g.hold.Store(nil)
	close(hold)
	v.waitFor(`document.querySelector(".verdict-words").textContent.includes("label")`)
	assert.Empty(t, v.text(".fragment-note"))

	for path, change := range map[string]string{
		v.id("Pear and cardamom loaf") + "/adapt?diet=egg-free": `document.getElementById("diet-gluten-free").click()`,
		v.id("Pear and cardamom loaf") + "/heat?diet=egg-free":  `document.getElementById("fan").click()`,
		"/larder": `document.getElementById("q").value = "oat", document.getElementById("q").dispatchEvent(new Event("input", {bubbles: true}))`,
	} {
		v.open(path)
		stop()
		eval[int](v, `(`+change+`, 0)`)
		v.waitFor(`document.querySelector(".fragment-note [role=alert]")`)
		assert.Contains(t, v.text(".fragment-note"), "Couldn’t work that out. Your choices are kept; these figures are from before the change.", path)
		assert.False(t, eval[bool](v, tick), path)
		assert.True(t, eval[bool](v, `document.querySelector(".fragment-note").getBoundingClientRect().height > 20`))
		if path != "/larder" {
			assert.Empty(t, v.faults(everyRule), path)
		}
		again()
		v.click(".fragment-note button")
		v.waitFor(`!document.querySelector(".fragment-note [role=alert]") && !document.querySelector(".stale")`)
	}
}

// The grams of a line that is being typed are never those of what stood there before.
func TestNoWeightOutlivesALetter(t *testing.T) {
	v, _, stop, _ := startStoppable(t)
	v.open("/new")
	v.run(chromedp.SetValue(chromedp.CSS("#text"), card))
	v.click("form.newform button")
	v.wait(".row-line.doubt")
	v.typeIn(".row-line.doubt input[name=what]", "poppy seeds")
	v.waitFor(`document.querySelector(".row-line.doubt .live").textContent.includes("18 g")`)
	stop()
	v.typeIn(".row-line.doubt input[name=what]", kb.Backspace)
	v.waitFor(`document.querySelector(".row-line.doubt .live").textContent.includes("what you typed is kept")`)
}
