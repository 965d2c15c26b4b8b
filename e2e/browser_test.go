// Package e2e drives the application in a real browser, as a baker would.
package e2e

import (
	"github.com/chromedp/cdproto/page"
	"sync/atomic"

	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"maps"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/demotest"
	"kollaris/internal/store"
	"kollaris/internal/web"
)

//go:embed vendor/axe.min.js
var axe string

// allocator is one browser for all tests; each test gets a tab of its own.
var allocator context.Context

// beside is how many tests run at once: they wait for the browser more than they work.
const beside = "3"

func TestMain(m *testing.M) {
	flag.Parse()
	if err := flag.Set("test.parallel", beside); err != nil {
		panic(err)
	}
	path := ""
	for _, name := range []string{"chromium-headless-shell", "chromium", "chromium-browser", "google-chrome"} {
		if p, err := exec.LookPath(name); err == nil {
			path = p
			break
		}
	}
	if path == "" {
		fmt.Fprintln(os.Stderr, "no Chromium: make test installs it")
		os.Exit(1)
	}
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox, chromedp.DisableGPU, chromedp.WindowSize(1280, 800),
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("hide-scrollbars", true),
		chromedp.Flag("force-prefers-reduced-motion", true)) // else a page scrolls smoothly under the click, which then misses on a busy machine
	alloc, stopAlloc := chromedp.NewExecAllocator(context.Background(), opts...)
	browser, stopBrowser := chromedp.NewContext(alloc)
	if err := chromedp.Do(browser); err != nil {
		fmt.Fprintln(os.Stderr, "Chromium does not start:", err)
		os.Exit(1)
	}
	allocator = browser
	code := m.Run()
	stopBrowser()
	stopAlloc()
	os.Exit(code)
}

// visit is one person at one browser tab, with a shelf of their own.
type visit struct {
	t    *testing.T
	ctx  context.Context
	base string
	st   *store.Store

	looks map[string]bool // of words, whose contrast was measured

	asked *atomic.Int32 // how often a page asked whether to leave it
}

// tab opens one for the server at an address; it is closed with the test.
func tab(t *testing.T, base string, st *store.Store) visit {
	ctx, cancel := chromedp.NewContext(allocator)
	ctx, stop := context.WithTimeout(ctx, 3*time.Minute)
	t.Cleanup(func() {
		stop()
		cancel()
	})
	return visit{t: t, ctx: ctx, base: base, st: st, looks: map[string]bool{}, asked: new(atomic.Int32)}
}

// start opens a tab; such tests run beside one another.
func start(t *testing.T) visit {
	t.Helper()
	t.Parallel()
	st, _ := demotest.Open(t)
	h, err := web.New(st)
	require.NoError(t, err)
	h.WithoutWorker()
	srv := httptest.NewServer(h)
	t.Cleanup(srv.Close)
	v := tab(t, srv.URL, st)
	v.run(chromedp.Navigate("about:blank"))
	require.NoError(t, chromedp.Listen(v.ctx, func(ev any) { // whoever is asked whether to leave, leaves
		if _, ok := ev.(*page.EventJavascriptDialogOpening); ok {
			v.asked.Add(1)
			go chromedp.Call(v.ctx, page.HandleJavaScriptDialog, page.HandleJavaScriptDialogParams{Accept: true}) //nolint:errcheck // the page may be gone
		}
	}))
	return v
}

// run does steps; one whose node went with the page under it has done nothing, and is done anew on
// the page that came.
func (v visit) run(steps ...chromedp.Action[chromedp.Void]) {
	v.t.Helper()
	for _, s := range steps {
		err := chromedp.Do(v.ctx, s)
		for n := 0; n < 5 && err != nil && strings.Contains(strings.ToLower(err.Error()), "node with given id"); n++ {
			err = chromedp.Do(v.ctx, s)
		}
		require.NoError(v.t, err)
	}
}

func (v visit) open(path string) {
	v.t.Helper()
	v.run(chromedp.Navigate(v.base+path), chromedp.WaitReady(chromedp.CSS("main")))
	v.waitFor(`document.readyState === "complete"`) // the scripts have begun
}

// click presses what a CSS selector finds, once the page is all there: what still comes would move it from under the pointer. wait
// waits until it is there.
func (v visit) click(css string) {
	v.t.Helper()
	v.waitFor(`document.readyState === "complete"`)
	v.run(chromedp.Click(chromedp.CSS(css)))
}

func (v visit) wait(css string) { v.t.Helper(); v.run(chromedp.WaitVisible(chromedp.CSS(css))) }

func (v visit) typeIn(css, keys string) {
	v.t.Helper()
	v.run(chromedp.SendKeys(chromedp.CSS(css), keys))
}

// unfold opens all parts that a selector finds.
func (v visit) unfold(css string) {
	v.t.Helper()
	eval[int](v, `document.querySelectorAll("`+css+`").forEach((d) => { d.open = true; }), 0`)
}

func (v visit) press(keys string) { v.t.Helper(); v.run(chromedp.KeyEvent(keys)) }

func (v visit) text(css string) string {
	v.t.Helper()
	return get(v, chromedp.Text(chromedp.CSS(css)))
}

// get runs an action for its value.
func get[T any](v visit, a chromedp.Action[T]) T {
	v.t.Helper()
	x, err := chromedp.Run(v.ctx, a)
	for n := 0; n < 5 && err != nil && strings.Contains(strings.ToLower(err.Error()), "node with given id"); n++ {
		x, err = chromedp.Run(v.ctx, a)
	}
	require.NoError(v.t, err)
	return x
}

// eval gives the value of an expression of the page.
func eval[T any](v visit, expr string) T {
	v.t.Helper()
	return get(v, chromedp.Evaluate[T](expr, chromedp.EvalAwaitPromise))
}

// waitFor waits until an expression of the page is true, over a page load too, and where the page runs no scripts; of a page that is
// not all there yet it is not true.
func (v visit) waitFor(expr string) {
	v.t.Helper()
	var is bool
	var err error
	for until := time.Now().Add(40 * time.Second); !is; time.Sleep(30 * time.Millisecond) {
		if is, err = chromedp.Run(v.ctx, chromedp.Evaluate[bool]("(() => { try { return Boolean("+expr+"); } catch { return false; } })()")); v.ctx.Err() != nil || time.Now().After(until) {
			require.NoError(v.t, errors.Join(v.ctx.Err(), err), expr)
			require.True(v.t, is, expr)
		}
	}
}

// pictures is the folder that make screenshots fills; "" takes none.
var pictures = os.Getenv("KOLLARIS_SCREENSHOTS")

// shoot takes a picture of the tab as it is, when pictures are asked for.
func (v visit) shoot(name string) {
	v.t.Helper()
	if pictures == "" {
		return
	}
	eval[bool](v, `document.fonts.ready.then(() => true)`)
	png := get(v, chromedp.CaptureScreenshot())
	require.NoError(v.t, os.WriteFile(filepath.Join(pictures, name+".png"), png, 0o644))
}

// size sets the window, as for a tablet or a phone.
func (v visit) size(width, height int64) {
	v.t.Helper()
	_, err := chromedp.Call(v.ctx, emulation.SetDeviceMetricsOverride, emulation.SetDeviceMetricsOverrideParams{Width: width, Height: height, DeviceScaleFactor: 1, Mobile: width < 600})
	require.NoError(v.t, err)
}

// media sets light or dark, and screen ("") or print.
func (v visit) media(scheme, medium string) {
	v.t.Helper()
	_, err := chromedp.Call(v.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Media: medium, Features: []*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: scheme}, {Name: "prefers-reduced-motion", Value: "reduce"}}})
	require.NoError(v.t, err)
}

// id finds the path of a recipe on the shelf by its title.
func (v visit) id(title string) string {
	v.t.Helper()
	all, err := v.st.Recipes(context.Background(), "")
	require.NoError(v.t, err)
	for _, r := range all {
		if r.Title == title {
			return fmt.Sprintf("/recipes/%d", r.ID)
		}
	}
	v.t.Fatalf("no %q on the shelf", title)
	return ""
}

// everyRule is WCAG 2.2 A and AA, colours are all that differs in the dark. hidden-content only says that it has not looked.
const everyRule, colours = `runOnly: ["wcag2a","wcag2aa","wcag21a","wcag21aa","wcag22aa","best-practice"], rules: {"hidden-content": {enabled: false}}`, `runOnly: {type: "rule", values: ["color-contrast"]}`

// shades marks the places that show words, one of each look that this tab has not shown yet: its colour, size and weight, and all
// that lies behind it. The contrast of two of one look is the same, and measuring it is most of what axe-core's time is. It gives
// the looks that are new.
const shades = `(known) => {
  const seen = new Set(known), fresh = [];
  const words = (e) => e.matches("input, textarea, select") || [...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.data.trim());
  for (const e of document.body.querySelectorAll("*")) {
    if (!words(e) || !e.checkVisibility({ visibilityProperty: true })) continue;
    const s = getComputedStyle(e);
    let look = [e.disabled, e.placeholder !== "", s.color, s.fontSize, s.fontWeight].join();
    for (let n = e; n; n = n.parentElement) {
      const b = getComputedStyle(n);
      if (b.backgroundColor !== "rgba(0, 0, 0, 0)" || b.backgroundImage !== "none" || b.opacity !== "1") look += [b.backgroundColor, b.backgroundImage, b.opacity].join();
    }
    if (seen.has(look)) continue;
    seen.add(look);
    fresh.push(look);
    e.toggleAttribute("data-shade", true);
  }
  return fresh;
}`

// faults runs axe-core on the page as it stands, all rules or those that are named.
func (v visit) faults(rules string) []string {
	v.t.Helper()
	known, err := json.Marshal(slices.Collect(maps.Keys(v.looks)))
	require.NoError(v.t, err)
	fresh := eval[[]string](v, "("+shades+")("+string(known)+")")
	for _, look := range fresh {
		v.looks[look] = true
	}
	if rules == colours && len(fresh) == 0 {
		return nil
	}
	if !eval[bool](v, `"axe" in window`) {
		eval[int](v, axe+`; axe.configure({rules: [{id: "color-contrast", selector: "[data-shade]"}]}); 0`)
	}
	out := eval[string](v, `axe.run(document, {`+rules+`, resultTypes: ["violations"], reporter: "no-passes", preload: false}).then(r => {
	  document.querySelectorAll("[data-shade]").forEach((e) => e.toggleAttribute("data-shade", false));
	  return JSON.stringify(r.violations.map(x => x.id + ": " + x.help + " — " + x.nodes.slice(0,3).map(n => n.target.join(" ") + " " + (n.any[0]?.message ?? "")).join(" | ")));
	})`)
	var list []string
	require.NoError(v.t, json.Unmarshal([]byte(out), &list))
	return list
}

// card is the text of a recipe that nobody has yet.
const card = `Damson and rye squares
Serves 12

1 1/2 cups plain flour
1/2 cup rye flour
3/4 cup brown sugar, packed
1 1/2 tsp baking powder
1/2 tsp bicarb
pinch of salt
110 g butter, melted
2 eggs
1 cup buttermilk
2 tbsp wuzzle flakes

Heat the oven to 180C and line a 20 cm square tin.
Beat the eggs, sugar, butter and buttermilk together.
Stir in the flours, powder, bicarb and salt, then the flakes.
Bake for 30-35 minutes.`

var emptyTyped store.Typed

func itoa(n int64) string { return strconv.FormatInt(n, 10) }
