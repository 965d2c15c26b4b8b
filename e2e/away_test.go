package e2e

import (
	"net"
	"net/http"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/demotest"
	"kollaris/internal/web"
)

// The machine sleeps: pages that were visited open with the time that they are of, what was not visited says so, and
// ticks made meanwhile are sent once it wakes, in their order, beside those of others.
func TestTheMachineSleeps(t *testing.T) {
	t.Parallel()
	st, _ := demotest.Open(t)
	app, err := web.New(st)
	require.NoError(t, err)
	at := "127.0.0.1:0"
	var srv *http.Server
	var same atomic.Int32 // requests of a page that is kept
	var asleep atomic.Bool
	wake := func() {
		l, err := net.Listen("tcp", at)
		require.NoError(t, err)
		at = l.Addr().String()
		srv = &http.Server{Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if r.Header.Get("If-None-Match") != "" {
				same.Add(1)
			}
			if asleep.Load() && !strings.HasPrefix(r.URL.Path, "/static/") {
				<-r.Context().Done() // it says nothing at all
				return
			}
			app.ServeHTTP(w, r)
		}), ReadHeaderTimeout: time.Second}
		go srv.Serve(l) //nolint:errcheck // it is closed
	}
	wake()
	t.Cleanup(func() { srv.Close() }) // the one that runs then
	v := tab(t, "http://"+at, st)
	v.open("/")
	v.waitFor(`navigator.serviceWorker.controller !== null`)
	plans, err := st.Plans(t.Context())
	require.NoError(t, err)
	shop := "/plans/" + itoa(plans[0].ID) + "/shop"
	pear := v.id("Pear and cardamom loaf")
	v.open(pear + "/adapt?diet=egg-free")
	v.click("label:has(#diet-dairy-free)") // a fragment: the page as it then is is kept once it is left alone
	v.waitFor(`location.search.includes("dairy-free") && document.querySelector(".allergens").textContent.includes("milk")`)
	v.waitFor(`caches.open("pages").then((c) => c.keys()).then((all) => { window.has = all.some((k) => k.url.includes("dairy-free")); }) && window.has`)
	v.open("/larder")
	before := same.Load()
	v.open("/larder")
	assert.Greater(t, same.Load(), before, "it only asks whether that is the same still")
	assert.Contains(t, v.text("main"), "From a packet")
	assert.Empty(t, eval[int](v, `document.querySelectorAll(".from-cache").length`))
	v.open(shop)

	require.NoError(t, srv.Close())
	v.run(chromedp.Navigate("about:blank"))
	v.open(pear + "/adapt?diet=egg-free")
	assert.Contains(t, v.text(".from-cache"), "Kollaris does not answer. This page is as it was on")
	assert.Contains(t, v.text(".verdict-words"), "Nothing here breaks your demand")
	assert.Empty(t, v.faults(everyRule))
	assert.Equal(t, "rgb(251, 247, 240)", eval[string](v, `getComputedStyle(document.body).backgroundColor`), "with its styles")
	v.click("label:has(#diet-vegan)")
	v.waitFor(`document.querySelector(".fragment-note").textContent.includes("these figures are from before the change")`)
	v.open(eval[string](v, `caches.open("pages").then((c) => c.keys()).then((all) => { const u = new URL(all.find((k) => k.url.includes("dairy-free")).url); return u.pathname + u.search; })`))
	assert.Contains(t, v.text(".verdict-words"), "Nothing here breaks your two demands", "another adaptation is another page")

	v.open("/people")
	assert.Contains(t, v.text("main"), "This page was not opened while it did.")
	assert.Contains(t, v.text(".at-hand"), "Pear and cardamom loaf")
	assert.Empty(t, v.faults(everyRule))

	v.open(shop)
	box := `document.querySelector("#ticks [name=bought]:not(:checked)")`
	name := eval[string](v, box+`.value`)
	eval[int](v, `(`+box+`.click(), 0)`)
	v.waitFor(`document.getElementById("c-queue")?.textContent.includes("1 told here waits")`)
	v.open(shop)
	assert.True(t, eval[bool](v, `document.querySelector('[name=bought][value="`+name+`"]').checked`), "it is shown as waiting")

	wake()
	v.waitFor(`document.getElementById("c-queue") === null`)
	p, err := st.Plan(t.Context(), plans[0].ID)
	require.NoError(t, err)
	assert.Contains(t, strings.Join(p.Bought, " "), name)
	v.open(pear + "/adapt?diet=egg-free")
	assert.False(t, eval[bool](v, `document.querySelector(".from-cache") !== null`))

	// a machine that is half asleep takes what is asked and says nothing
	v.open(shop)
	asleep.Store(true)
	eval[int](v, `(`+box+`.click(), 0)`)
	v.waitFor(`document.getElementById("c-queue")?.textContent.includes("1 told here waits")`)
	v.open(pear + "/adapt?diet=egg-free")
	assert.Contains(t, v.text(".from-cache"), "Kollaris does not answer.")
	asleep.Store(false)
	v.open(shop)
	v.waitFor(`document.getElementById("c-queue") === null`)
}
