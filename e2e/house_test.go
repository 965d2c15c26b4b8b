package e2e

import (
	"net"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/demotest"
	"kollaris/internal/web"
)

// A phone comes in with the passphrase; 127.0.0.3 stands for the house's network, whose browser sits elsewhere.
func TestAPhoneComesIn(t *testing.T) {
	t.Parallel()
	st, _ := demotest.Open(t)
	require.NoError(t, st.SetPassphrase(t.Context(), "four words of ours"))
	app, err := web.New(st)
	require.NoError(t, err)
	app.WithoutWorker()
	l, err := net.Listen("tcp", "127.0.0.3:0")
	require.NoError(t, err)
	at := "http://" + l.Addr().String()
	app.OpenDoor([]string{"127.0.0.3"}, []string{at})
	srv := &http.Server{Handler: app, ReadHeaderTimeout: time.Second}
	go srv.Serve(l) //nolint:errcheck // it is closed
	t.Cleanup(func() { srv.Close() })
	v := tab(t, at, st)
	v.size(390, 844)
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=vegan")
	assert.Equal(t, "Who is there?", v.text("h1"))
	assert.Empty(t, v.faults(everyRule))
	assert.Empty(t, eval[[]string](v, smallTargets))
	v.typeIn("#passphrase", "not these words"+kb.Enter)
	v.waitFor(`document.querySelector(".fault")?.textContent.includes("That is not it")`)
	v.typeIn("#passphrase", "four words of ours"+kb.Enter)
	v.waitFor(`location.pathname.endsWith("/adapt") && document.querySelector(".verdict-words")`)
	assert.Contains(t, eval[string](v, "location.search"), "diet=vegan", "where it wanted to go")
	assert.Empty(t, eval[string](v, "document.cookie"), "no script reads the session")

	v.open("/settings")
	assert.Empty(t, v.faults(everyRule))
	assert.Contains(t, v.text(".addresses"), at)
	v.click(`form[action="/leave"] button`)
	v.waitFor(`location.pathname === "/enter"`)
	v.open("/people")
	assert.Equal(t, "Who is there?", v.text("h1"))
}

// A copy is taken and brought back by pressing.
func TestACopyIsBroughtBack(t *testing.T) {
	v := start(t)
	v.open("/settings")
	v.click(`form[action="/backups"] button`)
	v.waitFor(`document.querySelector("#backups .saved")?.textContent.includes("was taken and read through")`)
	assert.Empty(t, v.faults(everyRule))
	require.NoError(t, v.st.Delete(t.Context(), 8))
	v.click(`.copies button[value=back]`)
	v.waitFor(`document.querySelector("#backups .saved")?.textContent.includes("is back")`)
	assert.Equal(t, "/recipes/8", v.id("Pear and cardamom loaf"))
	v.open("/")
	assert.Contains(t, v.text("main"), "Pear and cardamom loaf")
}

// What takes longer than a moment says so, and what leaves the page where it is does not.
func TestWhatTakesLongSaysSo(t *testing.T) {
	t.Parallel()
	st, _ := demotest.Open(t)
	h, err := web.New(st)
	require.NoError(t, err)
	h.WithoutWorker()
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/plans" {
			time.Sleep(1500 * time.Millisecond)
		}
		h.ServeHTTP(w, r)
	}))
	t.Cleanup(srv.Close)
	v := tab(t, srv.URL, st)
	v.open("/")
	eval[int](v, `(document.querySelector(".take a").addEventListener("click", (e) => e.preventDefault()), document.querySelector(".take a").click(), 0)`)
	eval[bool](v, `new Promise((done) => setTimeout(done, 1000, true))`)
	assert.False(t, eval[bool](v, `"coming" in document.body.dataset`), "a file to take away")
	eval[int](v, `(new MutationObserver(() => { sessionStorage.said = document.body.dataset.coming; }).observe(document.body, { attributes: true }), 0)`) // nothing is answered while a page comes
	v.click(`header a[href="/plans"]`)
	v.waitFor(`document.querySelector("h1")?.textContent === "Plans"`)
	assert.Equal(t, "Working it out …", eval[string](v, `sessionStorage.said`))
	assert.False(t, eval[bool](v, `"coming" in document.body.dataset`))
}
