package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// pixel is the colour of the heat field at shares of its width and height.
func (v visit) pixel(x, y float64) []int {
	return eval[[]int](v, fmt.Sprintf(`(() => { const c = document.getElementById("heat-canvas"); return [...c.getContext("2d").getImageData(Math.round(%g * c.width), Math.round(%g * c.height), 1, 1).data]; })()`, x, y))
}

// The tin is changed, the handle is moved with pointer and keys, and the loaf is set
// beside cups: the field, its words and its chart follow.
func TestTinAndHeat(t *testing.T) {
	v := start(t)
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=egg-free")
	v.click(`.rail a[href*="/heat"]`)
	v.wait("#moment:not(:empty)")
	assert.Contains(t, v.text(".answer"), "First look 40 min")
	assert.Contains(t, v.text("#moment"), "40 min: middle ")
	label := eval[string](v, `document.getElementById("heat-canvas").getAttribute("aria-label")`)
	assert.Contains(t, label, "The middle passes 96 °C at 51 min and is done at 53")

	raw := v.scrub(0)
	assert.Contains(t, v.text("#moment"), "0 min: middle 22 °C")
	warm := v.scrub(50)
	assert.Contains(t, v.text("#moment"), "50 min: middle 9")
	assert.Greater(t, warm[0], raw[0]+60, "the middle of the cut grows lighter as it warms")
	assert.Contains(t, eval[string](v, `document.getElementById("minute").getAttribute("aria-valuetext")`), "50 min: middle 9")
	v.run(chromedp.Focus(chromedp.CSS("#minute")))
	v.press(kb.ArrowRight)
	v.waitFor(`document.getElementById("moment").textContent.startsWith("51 min")`)

	v.click("a.pin")
	v.wait(".against")
	v.run(chromedp.SetValue(chromedp.CSS("#tin"), "12 muffin cups"))
	eval[int](v, `document.getElementById("tin").dispatchEvent(new Event("change", { bubbles: true })); 0`)
	v.waitFor(`document.querySelector(".heat-answer .lead-words").textContent.includes("12 muffin cups")`)
	assert.Contains(t, v.text(".answer"), "First look 1")
	assert.Regexp(t, `A, loaf 9x5 in at 175 °C: First look 40 min.*B is done 3\d min sooner`, v.text(".against"))
	assert.True(t, eval[bool](v, `location.search.includes("diet=egg-free") && location.search.includes("muffin") && document.querySelectorAll(".curve.middle").length === 2`))
	v.click("a.let-a")
	v.waitFor(`!document.querySelector(".against")`)

	v.click(`.tins a[href*="round+20+cm&"], .tins a[href$="round+20+cm"]`)
	v.waitFor(`document.querySelector(".heat-answer .lead-words").textContent.includes("round 20 cm")`)
}

func (v visit) scrub(minute int) []int {
	eval[int](v, `(() => { const m = document.getElementById("minute"); m.value = `+itoa(int64(minute))+`; m.dispatchEvent(new Event("input", { bubbles: true })); return 0; })()`)
	return v.pixel(0.45, 0.5)
}

// An oven is described, measured three times, and then chosen for a bake; its heat is
// answered with the dial to set. A later change cancels an earlier one's answer.
func TestAnOvenThatRunsHot(t *testing.T) {
	v := start(t)
	v.open("/ovens")
	v.run(chromedp.SetValue(chromedp.CSS("#oven-0-name"), "galley oven"), chromedp.SetValue(chromedp.CSS("#oven-0-width"), "40"), chromedp.SetValue(chromedp.CSS("#oven-0-depth"), "30"))
	v.click(".new-oven .btn-act")
	v.wait(".saved")
	id := eval[string](v, `[...document.querySelectorAll(".oven")].find((n) => n.textContent.includes("galley oven")).querySelector("h3").id.replace("oven-", "")`)
	for n := range 3 {
		v.run(chromedp.SetValue(chromedp.CSS("#oven-"+id+"-dial"), "180"), chromedp.SetValue(chromedp.CSS("#oven-"+id+"-air"), "200"))
		v.click(`#oven-` + id + `-dial ~ .btn-act`)
		v.waitFor(fmt.Sprintf(`document.getElementById("oven-%s").parentElement.querySelectorAll(".readings li").length === %d`, id, n+1))
	}
	assert.Contains(t, eval[string](v, `document.getElementById("oven-`+id+`").parentElement.textContent`), "17 ± 4 °C hotter than its dial")

	v.open(v.id("Pear and cardamom loaf") + "/heat")
	v.wait("#moment:not(:empty)")
	before := eval[float64](v, `JSON.parse(document.getElementById("heat-canvas").dataset.heat).b.ready`)
	v.run(chromedp.SetValue(chromedp.CSS("#in"), id))
	eval[int](v, `(() => { const n = document.getElementById("in"); for (let k = 0; k < 5; k++) n.dispatchEvent(new Event("change", { bubbles: true })); return 0; })()`)
	v.waitFor(`document.querySelector(".hint")`)
	assert.Contains(t, v.text(".hint"), "For 175 °C inside, set it to 160 °C")
	assert.Less(t, eval[float64](v, `JSON.parse(document.getElementById("heat-canvas").dataset.heat).b.ready`), 0.95*before)
	assert.False(t, eval[bool](v, `document.getElementById("bench-root").classList.contains("stale")`))
}

// Without scripts the form still answers, the tin is drawn to scale, and the table says
// what the field would show.
func TestTinAndHeatWithoutScripts(t *testing.T) {
	v := start(t)
	_, err := chromedp.Call(v.ctx, emulation.SetScriptExecutionDisabled, emulation.SetScriptExecutionDisabledParams{Value: true})
	require.NoError(t, err)
	v.open(v.id("Pear and cardamom loaf") + "/heat")
	v.typeIn("#tin", "two 18 cm round tins")
	v.click(".tinline .btn-quiet")
	v.waitFor(`document.querySelector(".heat-answer .lead-words")?.textContent.includes("2 × round 18 cm")`) // the page before has a tin too
	v.wait(".section svg .level")
	assert.Contains(t, v.text(".field .section"), "2 × round 18 cm cut across")
	for _, dead := range []string{"#play", "#minute", "#heat-canvas", ".heat-legend"} {
		assert.Empty(t, v.text(dead), dead)
	}
	v.click(".minutes summary")
	v.wait(".minutes tbody tr")
	assert.Regexp(t, `^0\s+177 °C\s+\d+ °C\s+22 °C\s+0 %$`, v.text(".minutes tbody tr"))
}

// At the top of the range and back with the keyboard alone; what is said to a screen
// reader follows, and with less motion asked for nothing plays.
func TestTheHandleByKeyboard(t *testing.T) {
	v := start(t)
	v.media("light", "")
	v.open(v.id("Carrot-hazelnut ring cake") + "/heat")
	v.wait("#moment:not(:empty)")
	v.run(chromedp.Focus(chromedp.CSS("#minute")))
	v.press(kb.End)
	v.waitFor(`document.getElementById("moment").textContent.includes("out of the oven")`)
	v.press(kb.Home)
	v.waitFor(`document.getElementById("moment").textContent.startsWith("0 min: middle 22 °C")`)
	assert.Equal(t, v.text("#moment"), eval[string](v, `document.getElementById("minute").getAttribute("aria-valuetext")`))
	assert.True(t, eval[bool](v, `document.getElementById("play").hidden`), "with less motion nothing plays")
	assert.Equal(t, "minute", eval[string](v, `document.activeElement.id`))
}
