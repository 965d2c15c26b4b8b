package e2e

import (
	"context"
	"github.com/chromedp/chromedp/kb"
	"kollaris/internal/store"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whatever is typed and then another button is pressed is taken along, or stands there and is said.
func TestWhatIsTypedIsKept(t *testing.T) {
	v := start(t)
	v.open("/new")
	v.run(chromedp.SetValue(chromedp.CSS("#text"), strings.Replace(card, "wuzzle flakes", "poppy seeds", 1)))
	v.click("form.newform button")
	v.wait(".read-bar")
	v.run(chromedp.SetValue(chromedp.CSS("#f-servings"), "9"))
	v.click(".row-line:nth-child(4) summary")
	v.wait(".row-line:nth-child(4) input[name=amount]")
	v.run(chromedp.SetValue(chromedp.CSS(".row-line:nth-child(4) input[name=amount]"), "2½"))
	v.click(".read-bar .btn-act")
	v.wait("#bench")
	eval[int](v, `(history.back(), 0)`)
	v.waitFor(`location.pathname.endsWith("/read") && document.querySelector("h1")?.textContent.includes("Damson")`) // it is kept by now
	all, err := v.st.Recipes(context.Background(), "damson")
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, 9, all[0].Doc.Servings, "the box beside the button")
	assert.Equal(t, 2.5, all[0].Doc.Lines[3].Amount.Max, "a line that stood open")

	v.open("/ovens")
	v.typeIn("#oven-0-name", "galley oven")
	v.typeIn("#tin-0-name", "Granny's fluted")
	v.run(chromedp.SetValue(chromedp.CSS("#altitude"), "1200"))
	v.click("form[action='/kitchen'] button")
	v.wait(".unsent")
	assert.Equal(t, []string{"galley oven", "Granny's fluted", "1200"}, eval[[]string](v, `["oven-0-name", "tin-0-name", "altitude"].map((id) => document.getElementById(id).value)`))
	assert.Empty(t, v.faults(everyRule))
	assert.Zero(t, v.asked.Load(), "nothing left the page")

	v.click("a[href='/people']")
	v.waitFor(`location.pathname === "/people" && document.querySelector("main")`)
	assert.EqualValues(t, 1, v.asked.Load(), "leaving asks, once")
	v.open("/ovens")
	v.wait(".unsent")
	v.click(".unsent button:last-child")
	assert.Empty(t, eval[string](v, `document.getElementById("oven-0-name").value`), "dropped")
	v.click("a[href='/larder']")
	v.waitFor(`location.pathname === "/larder"`)
	assert.EqualValues(t, 1, v.asked.Load())
}

// Keys of our own do what their control does, outside of fields only; ? lists them; they can be switched off.
func TestKeys(t *testing.T) {
	v := start(t)
	v.open(v.id("Pear and cardamom loaf") + "/adapt")
	v.press("1")
	v.waitFor(`document.getElementById("diet-egg-free").checked && document.querySelector(".entry")`)
	was := eval[string](v, `document.querySelector(".entry .options input:checked").id`)
	v.press("o")
	v.waitFor(`document.querySelector(".entry .options input:checked").id !== "` + was + `" && !document.querySelector(".working")`)
	v.press("h")
	v.waitFor(`document.querySelector(".entry .amount.held")`)
	v.press("z")
	v.waitFor(`!document.querySelector(".entry .amount.held")`)
	v.press("?")
	v.wait("dialog.keys")
	assert.Contains(t, v.text("dialog.keys"), "the next other way for the change in hand")
	assert.Contains(t, v.text("dialog.keys"), "Keep this version")
	assert.Empty(t, v.faults(everyRule))
	v.press(kb.Escape)
	v.waitFor(`!document.querySelector("dialog.keys")`)
	v.unfold(".ask-more")
	v.typeIn("#ban-new", "1z?")
	assert.Equal(t, "1z?", eval[string](v, `document.getElementById("ban-new").value`), "in a field they are letters")
	assert.Contains(t, eval[string](v, `document.querySelector(".verdict-acts .btn-act").title`), "(k)")
	eval[int](v, `(document.activeElement.blur(), 0)`)
	v.press("t")
	v.waitFor(`location.pathname.endsWith("/heat") && document.getElementById("minute")?.value > 0`)
	minute := eval[string](v, `document.getElementById("minute").value`)
	v.press(".")
	v.waitFor(`document.getElementById("minute").value !== "` + minute + `"`)
	v.press("c")
	v.waitFor(`document.body.dataset.cups === "yes"`)

	require.NoError(t, v.st.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Keys = "off" }))
	v.open("/")
	v.press("n")
	v.press("?")
	v.wait("dialog.keys")
	assert.Contains(t, v.text("dialog.keys"), "switched off")
	assert.Equal(t, "/", eval[string](v, `location.pathname`))
}
