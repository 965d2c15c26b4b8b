package e2e

import (
	"fmt"
	"strings"
	"testing"

	ics "github.com/arran4/golang-ical"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// breakfast opens the demo's kept plan, put to a day far off so that nothing is late.
func (v visit) breakfast() {
	v.t.Helper()
	v.open("/plans")
	v.click(`a.plans-name`)
	v.wait("#next")
	v.unfold(".plan-asked")
	v.run(chromedp.SetValue(chromedp.CSS("#eat"), "2099-12-12T08:30"))
	v.click("#planbar button")
	v.waitFor(`document.querySelector(".plan-asked summary").textContent.includes("12 December")`)
}

// drag takes what a selector finds by its middle and lets it go some pixels away.
func (v visit) drag(css string, by, down float64) {
	v.t.Helper()
	v.wait("svg[data-drags]")
	v.run(chromedp.ScrollIntoView(chromedp.CSS(css)))
	at := eval[[]float64](v, fmt.Sprintf(`(() => { const b = document.querySelector(%q).getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2]; })()`, css))
	for _, e := range []input.DispatchMouseEventParams{
		{Type: input.DispatchMouseEventTypeMousePressed, X: at[0], Y: at[1], Buttons: 1, ClickCount: 1},
		{Type: input.DispatchMouseEventTypeMouseMoved, X: at[0] + by/2, Y: at[1] + down/2, Buttons: 1},
		{Type: input.DispatchMouseEventTypeMouseMoved, X: at[0] + by, Y: at[1] + down, Buttons: 1},
		{Type: input.DispatchMouseEventTypeMouseReleased, X: at[0] + by, Y: at[1] + down, ClickCount: 1},
	} {
		e.Button = input.MouseButtonLeft
		_, err := chromedp.Call(v.ctx, input.DispatchMouseEvent, e)
		require.NoError(v.t, err)
	}
}

// oven is the lane in which a bake stands.
func (v visit) oven(bake string) string {
	v.t.Helper()
	return eval[string](v, fmt.Sprintf(`[...document.querySelectorAll(".bar-bakes title")].find((t) => t.textContent.includes(%q)).closest(".lane").dataset.lane`, bake))
}

// The plan of the table is kept, ticked off; begun late it says what no longer fits, and the meal is
// moved to when it does.
func TestADayByThePlan(t *testing.T) {
	v := start(t)
	v.open("/table?menu=1")
	v.click(`.menu a[href*="/plans?b="]`)
	v.wait(".plan-begin")
	v.typeIn("#name", "Table of eight")
	v.click(`form[method="post"][action="/plans"] .btn-act`)
	v.waitFor(`/\/plans\/\d+$/.test(location.pathname)`)
	assert.Contains(t, v.text("h1"), "Table of eight")
	v.unfold(".plan-asked")
	v.run(chromedp.SetValue(chromedp.CSS("#eat"), "2099-12-05T09:00"))
	v.click("#planbar button")
	v.waitFor(`document.querySelector(".plan-asked summary").textContent.includes("5 December")`)
	first := v.text("#next li .plan-text")
	v.click("#next li .plan-tick button")
	v.waitFor(`document.querySelector(".plan-done")?.textContent.includes("1 done")`)
	assert.NotEqual(t, first, v.text("#next li .plan-text"))

	v.unfold(".plan-asked")
	v.run(chromedp.SetValue(chromedp.CSS("#eat"), "2001-12-05T09:00")) // long past
	v.click("#planbar button")
	v.wait(".plan-late")
	assert.Contains(t, v.text(".plan-late"), "Late by ")
	v.click(`.plan-late .btn-act`)
	v.waitFor(`document.querySelector(".plan-late") === null`)
}

// The meal, a task and a bake are dragged; each has a box that does the same.
func TestAPlanIsDragged(t *testing.T) {
	v := start(t)
	v.breakfast()
	v.drag(".lane-meal rect", 60, 0)
	v.waitFor(`!document.querySelector(".plan-asked summary").textContent.includes("08:30")`)
	assert.Regexp(t, `12 December, (08|09|10):\d[05]`, v.text(".plan-asked summary"))

	was := v.oven("Apricot")
	down := eval[float64](v, `(() => { const at = Object.fromEntries([...document.querySelectorAll(".lane")].map((l) => [l.dataset.lane, l.getBoundingClientRect().y]));
		const mine = [...document.querySelectorAll(".bar-bakes title")].find((t) => t.textContent.includes("Apricot")).parentNode; mine.id = "mine";
		const other = Object.keys(at).find((n) => n.endsWith("oven") && n !== mine.closest(".lane").dataset.lane); return at[other] - at[mine.closest(".lane").dataset.lane]; })()`)
	v.drag("#mine rect", 0, down)
	v.waitFor(`[...document.querySelectorAll(".bar-bakes title")].some((t) => t.textContent.includes("Apricot") && t.closest(".lane").dataset.lane !== "` + was + `")`)

	eval[bool](v, `(() => { const bar = [...document.querySelectorAll(".bar-you")].find((b) => Number(b.dataset.slack) > 30); bar.id = "task"; sessionStorage.key0 = bar.dataset.key; sessionStorage.from0 = bar.dataset.from; return true; })()`)
	v.drag("#task rect", -24, 0)
	v.waitFor(`(() => { const bar = document.querySelector(".bar-you[data-key='" + sessionStorage.key0 + "']"); return bar && !bar.id && bar.dataset.from < sessionStorage.from0; })()`)
	assert.Contains(t, v.text("#next"), "Moved")
	v.click(".plan-move[open] summary, .plan-move summary")
	v.waitFor(`document.querySelector(".plan-move").open`)
}

// On a phone the list comes first, in the shop it keeps what is ticked, and the calendar takes the plan
// along.
func TestAPlanOnThePhone(t *testing.T) {
	v := start(t)
	v.breakfast()
	v.size(390, 844)
	v.run(chromedp.Reload())
	v.wait("#next")
	assert.Equal(t, "none", eval[string](v, `getComputedStyle(document.querySelector(".lanes")).display`))
	assert.GreaterOrEqual(t, eval[int](v, `document.querySelectorAll("#next li.next").length`), 3)

	calendar := eval[string](v, `fetch(document.querySelector('a[href$="/plan.ics"]').href).then((r) => r.text())`)
	cal, err := ics.ParseCalendar(strings.NewReader(calendar))
	require.NoError(t, err)
	words := ""
	for _, e := range cal.Events() {
		words += e.GetProperty(ics.ComponentPropertySummary).Value + "\n"
	}
	assert.Contains(t, words, "Apricot-oat squares: Soak the apricots")
	assert.Contains(t, words, "Apricot-oat squares: Shake the jar.")
	assert.Contains(t, words, "Rye-honey rolls: Knead for 10 minutes.")

	v.click(`a[href$="/shop"]`)
	v.wait(".shop-list")
	v.click(".shop-list li:nth-child(2) input")
	v.waitFor(`document.getElementById("polite").textContent === "Kept."`)
	v.run(chromedp.Reload())
	v.wait(".shop-list")
	assert.Equal(t, []bool{false, true, false}, eval[[]bool](v, `[...document.querySelectorAll(".shop-list input")].slice(0, 3).map((b) => b.checked)`))
	v.click(`button[value="stock"]`)
	v.wait(".undo")
	assert.Contains(t, v.text(".undo"), "In the house now: ")
	v.click(".undo button")
	v.waitFor(`document.querySelector(".undo") === null`)
}
