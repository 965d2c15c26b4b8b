package e2e

import (
	"context"
	"encoding/json"
	"net"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/demotest"
	"kollaris/internal/device"
	"kollaris/internal/store"
	"kollaris/internal/web"
)

// send posts a form as another screen would; it returns where it leads.
func (v visit) send(path string, form url.Values) string {
	v.t.Helper()
	client := http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	res, err := client.PostForm(v.base+path, form)
	require.NoError(v.t, err)
	defer res.Body.Close()
	require.Equal(v.t, http.StatusSeeOther, res.StatusCode)
	return res.Header.Get("Location")
}

// begin begins a bake; it returns its address.
func (v visit) begin(codes ...string) string {
	v.t.Helper()
	return v.send("/bakes", url.Values{"b": codes})
}

// tell tells something of the first bake, as another screen would.
func (v visit) tell(at string, pairs ...string) {
	v.t.Helper()
	form := url.Values{"bake": {"0"}}
	for n := 0; n+1 < len(pairs); n += 2 {
		form.Set(pairs[n], pairs[n+1])
	}
	v.send(at, form)
}

// now is a bake's state, as programs read it.
type now struct {
	Seq   int64
	Over  bool
	Bakes []struct {
		Task *struct {
			N     int
			Verb  string
			Weigh *struct {
				TargetG float64 `json:"target_g"`
			}
		}
		Bowl map[string]float64 `json:"in_the_bowl_g"`
		Oven *struct {
			DoneLow  float64 `json:"done_low"`
			Done     float64
			Readings []struct {
				Core float64 `json:"core_c"`
			}
		}
	}
}

func (v visit) now(at string) (n now) {
	v.t.Helper()
	res, err := http.Get(v.base + at + ".json")
	require.NoError(v.t, err)
	defer res.Body.Close()
	require.NoError(v.t, json.NewDecoder(res.Body).Decode(&n))
	return n
}

// startFast is a visit whose counter's clock runs so many times as fast, with stand-ins for scale and probe.
func startFast(t *testing.T, times float64) (visit, *device.StandScale, *device.StandProbe) {
	t.Helper()
	t.Parallel()
	st, _ := demotest.Open(t)
	app, err := web.New(st)
	require.NoError(t, err)
	app.Hasten(times)
	app.WithoutWorker()
	ctx, stop := context.WithCancel(context.Background())
	scale := device.NewStandScale(7)
	scale.Speed = 6
	probe := device.NewStandProbe(7, times, func(m float64) (float64, float64) { return min(20+1.6*m, 97), 176 })
	at := func(serve func(context.Context, net.Listener) error) string {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		go func() { _ = serve(ctx, l) }()
		return l.Addr().String()
	}
	devices := store.Devices{Scale: at(scale.Serve), Probe: at(probe.Serve)}
	require.NoError(t, st.ChangeHousehold(ctx, store.AnyRev, func(h *store.Household) { h.Devices = devices }))
	srv := httptest.NewServer(app)
	t.Cleanup(func() { // after the tab, which is opened later
		app.Close()
		srv.Close()
		stop()
	})
	return tab(t, srv.URL, st), scale, probe
}

// A whole bake of the demo's loaf, from the first gram till it is put away: by touch on a tablet, the scale and the
// probe going on by themselves.
func TestAWholeBakeByTouch(t *testing.T) {
	v, scale, probe := startFast(t, 300)
	v.size(1024, 768)
	_, err := chromedp.Call(v.ctx, emulation.SetTouchEmulationEnabled, emulation.SetTouchEmulationEnabledParams{Enabled: true})
	require.NoError(t, err)
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=egg-free&diet=dairy-free")
	v.click(`.rail a[href^="/bakes/new"]`)
	v.waitFor(`document.querySelector("h1")?.textContent.startsWith("Bake Pear")`)
	v.click(".new-bake .btn-act")
	v.waitFor(`/^.bakes.\d+$/.test(location.pathname)`)
	at := eval[string](v, "location.pathname")
	v.waitFor(`document.querySelector("#c-devices").textContent.includes("steady")`)
	poured := ""
	for n := 0; v.now(at).Bakes[0].Task != nil; n++ {
		require.Less(t, n, 60, "the bake does not go on")
		is := v.now(at)
		task := is.Bakes[0].Task
		v.waitFor(`Number(document.querySelector(".c-where").dataset.seq) >= ` + itoa(is.Seq))
		here := `document.querySelector(".c-where").textContent.includes("task ` + itoa(int64(task.N+1)) + ` of")`
		v.waitFor(here)
		switch {
		case task.Weigh != nil && eval[bool](v, `document.getElementById("c-fill") !== null`) && !eval[bool](v, `document.getElementById("c-weighs") !== null`):
			if eval[bool](v, `document.querySelector(".c-act.unready") !== null`) { // it waits: a person sees, and goes on when it is ready
				v.waitFor(`document.querySelector(".c-act.unready") === null`)
				continue
			}
			v.waitFor(`/scale: -?[0-2]\.\d g, steady/.test(document.querySelector("#c-devices").textContent)`) // it was tared
			time.Sleep(400 * time.Millisecond)                                                                 // nobody pours sooner: the scale has shown that it is empty
			scale.Pour(task.Weigh.TargetG)
			poured = "yes"
			for k := 0; v.now(at).Seq == is.Seq; k++ {
				require.Less(t, k, 200, "the scale stands, and nothing goes on: task %d, %g g, %s", task.N, task.Weigh.TargetG, eval[string](v, `document.querySelector("#c-devices").textContent + " | " + document.querySelector("#c-say")?.textContent + document.querySelector("#c-auto").checked`))
				time.Sleep(50 * time.Millisecond)
			}
		case task.Verb == "bake" && is.Bakes[0].Oven == nil:
			v.click("[data-main]")
			v.waitFor(`document.querySelector("#c-lead") !== null`)
			probe.PutIn(true)
		case task.Verb == "bake":
			if o := is.Bakes[0].Oven; len(o.Readings) < 12 || o.DoneLow > 1 {
				time.Sleep(100 * time.Millisecond)
				n--
				continue
			}
			assert.True(t, eval[bool](v, `document.querySelector(".c-measured") !== null`), "the measured curve runs")
			v.click("[data-main]")
			v.waitFor(`document.querySelector(".c-oven").textContent.includes("Not to be cut before")`)
		default: // a person who sees nothing happen looks again: what was found and what is pressed may lie a renewed page apart
			v.click("[data-main]")
			for k := 0; v.now(at).Seq == is.Seq && k < 80; k++ {
				time.Sleep(50 * time.Millisecond)
			}
		}
	}
	assert.NotEmpty(t, poured)
	v.waitFor(`document.querySelector(".c-task").textContent === "All is done."`)
	v.click("[data-main]")
	v.waitFor(`document.querySelector(".c-line").textContent.includes("put away")`)
	assert.True(t, v.now(at).Over)
	v.open("/bakes")
	assert.NotContains(t, v.text("main"), "goes on")
}

// The same by keyboard alone, without a scale: space for the large button, the arrows to look ahead and back, a
// figure typed; and what one screen tells another hears.
func TestABakeByKeyboard(t *testing.T) {
	v := start(t)
	at := v.begin(strings.TrimPrefix(v.id("Pear and cardamom loaf"), "/recipes/") + ":diet=dairy-free&diet=egg-free")
	v.open(at)
	v.waitFor(`document.documentElement.classList.contains("js")`)
	v.press(" ")
	v.waitFor(`document.querySelector(".c-lines .is") !== null`)
	assert.Contains(t, v.text(".c-lines .is"), "ground flaxseed")
	v.press(kb.ArrowRight)
	v.waitFor(`document.querySelector(".c-where").textContent.includes("task 2 of")`)
	v.press(kb.ArrowLeft)
	v.waitFor(`document.querySelector(".c-where").textContent.includes("task 1 of")`)
	v.run(chromedp.Focus(chromedp.CSS("#c-typed")))
	v.press("95")
	v.press(kb.Enter)
	v.waitFor(`document.querySelector(".c-act").textContent.trim() === "Done"`)
	assert.Contains(t, v.text(".c-lines"), "95 g")
	v.run(chromedp.Evaluate[chromedp.Void](`document.activeElement.blur()`))
	v.press(" ")
	v.waitFor(`document.querySelector(".c-where").textContent.includes("task 2 of")`)
	v.waitFor(`document.querySelector(".c-timer") !== null && /^9:|^10:/.test(document.querySelector(".c-timer b").textContent)`)

	v.tell(at, "what", "timer", "key", "x", "text", "from the tablet", "value", "7")
	v.waitFor(`[...document.querySelectorAll(".c-timer")].some((x) => x.textContent.includes("From the tablet"))`)

	// what comes while a finger is down waits until it is lifted
	eval[int](v, `(window.under = document.querySelector("[data-main]"), under.dispatchEvent(new PointerEvent("pointerdown", { bubbles: true })), 0)`)
	v.tell(at, "what", "timer", "key", "y", "text", "from the other one", "value", "7")
	v.waitFor(`performance.getEntriesByType("resource").filter((r) => r.initiatorType === "fetch" && r.startTime > performance.now() - 400).length > 0`)
	assert.True(t, eval[bool](v, `new Promise((done) => setTimeout(() => done(under.isConnected), 200))`))
	eval[int](v, `(under.dispatchEvent(new PointerEvent("pointerup", { bubbles: true })), 0)`)
	v.waitFor(`!under.isConnected && [...document.querySelectorAll(".c-timer")].some((x) => x.textContent.includes("From the other one"))`)
	assert.Empty(t, v.faults(everyRule))
}

// Without network what is told waits on the page, and is sent with how long ago it was.
func TestACounterWithoutNetwork(t *testing.T) {
	v := start(t)
	at := v.begin(strings.TrimPrefix(v.id("Pear and cardamom loaf"), "/recipes/") + ":diet=egg-free")
	v.open(at)
	v.run(chromedp.Evaluate[chromedp.Void](`void (window.realFetch = fetch, window.fetch = () => Promise.reject(new Error("away")))`))
	v.click("[data-main]")
	v.waitFor(`document.querySelector("#c-queue")?.textContent.includes("1 told here waits")`)
	assert.Zero(t, v.now(at).Seq)
	v.run(chromedp.Evaluate[chromedp.Void](`void (window.fetch = window.realFetch, dispatchEvent(new Event("online")))`))
	v.waitFor(`document.querySelector("#c-queue") === null`)
	assert.Equal(t, int64(1), v.now(at).Seq)
	v.waitFor(`document.querySelector(".c-lines .is") !== null || document.querySelector(".c-where").dataset.seq === "1"`)
}
