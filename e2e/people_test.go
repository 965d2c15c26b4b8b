package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// printed is the text of what a page prints, with single spaces.
func (v visit) printed() string {
	v.t.Helper()
	file := get(v, chromedp.PrintToPDF())
	name := filepath.Join(v.t.TempDir(), "page.pdf")
	require.NoError(v.t, os.WriteFile(name, file, 0o644))
	text, err := exec.Command("pdftotext", "-layout", name, "-").Output()
	require.NoError(v.t, err, "pdftotext of Debian's poppler-utils")
	return strings.Join(strings.Fields(string(text)), " ")
}

// A ban laid on somebody turns the cells of what holds it, and the cell says why.
func TestABanTurnsACell(t *testing.T) {
	v := start(t)
	cell := `[...document.querySelectorAll(".whole-table tbody tr")].find((r) => r.textContent.includes("Carrot-hazelnut")).cells[4]`
	v.open("/table")
	assert.Contains(t, eval[string](v, cell+`.textContent`), "fits as it is", "four eats everything")
	v.open("/people")
	eval[int](v, `(() => { const d = [...document.querySelectorAll(".people details")].find((d) => d.querySelector("b").textContent === "four"); d.open = true; d.id = "four"; return 0; })()`)
	v.typeIn("#four input[name=bans]", "hazelnuts"+kb.Enter)
	v.waitFor(`document.querySelector(".people").textContent.includes("must not have hazelnuts")`)
	v.open("/table")
	assert.NotContains(t, eval[string](v, cell+`.textContent`), "fits as it is")
	eval[int](v, `(() => { const d = `+cell+`.querySelector("details"); d.id = "turned"; return 0; })()`)
	v.click("#turned summary")
	v.waitFor(`document.querySelector("#turned").open && document.querySelector("#turned").textContent.toLowerCase().includes("hazelnut")`)
}

// The fewest bakes for those who come, and from there to the bench with their names.
func TestFromATableToItsBakes(t *testing.T) {
	v := start(t)
	v.open("/table")
	v.run(chromedp.SetValue(chromedp.CSS("#n-1"), "2"))
	v.click(".gathering button")
	v.wait(".menu")
	assert.Contains(t, v.text(".menu"), "2 × cox")
	v.click(".menu-list a")
	v.wait("#bench")
	assert.True(t, eval[bool](v, `document.querySelectorAll(".toggle.person input:checked").length > 0`))
	assert.Contains(t, v.text(".traces"), "Bake it before anything that holds")
}

// A limit of sugar is set and met: by the slider with the keyboard, and by a blend
// worked out and put into the recipe.
func TestASugarLimitIsMet(t *testing.T) {
	v := start(t)
	v.open(v.id("Almond-orange cake") + "/adapt?diet=&tab=sweet")
	v.run(chromedp.Focus(chromedp.CSS("#less-sugar")))
	v.press(kb.ArrowRight)
	v.waitFor(`location.search.includes("less.sugar=5") && document.querySelector("output[for=less-sugar]").textContent === "5 %"`)
	assert.Equal(t, "less-sugar", eval[string](v, `document.activeElement.id`))
	v.waitFor(`document.querySelector(".work-left .lead-words").textContent.includes("as written, 200 g")`)
	v.click(".cut-slide a")
	v.wait(".sweeten-form")
	v.typeIn("#sugars", "2")
	v.click(".sweeten-form .btn-act")
	v.waitFor(`location.search.includes("sugars=2") && document.querySelector(".blend-head .btn-act")`)
	v.click(".blend-head .btn-act")
	v.wait("#bench")
	eval[int](v, `(() => { const f = document.querySelector("#limit-added-sugars"); f.closest("details").open = true; return 0; })()`)
	v.unfold(".limits, .ask-more")
	v.typeIn("#limit-added-sugars", "3"+kb.Enter)
	v.waitFor(`document.querySelector(".count b")`)
	assert.Contains(t, v.text(".count"), "within your 3")
}

// What stands on the table and on the tub, read back from what is printed.
func TestCardsInPrint(t *testing.T) {
	v := start(t)
	pear := v.id("Pear and cardamom loaf")
	v.open(pear + "/tablecard?diet=egg-free")
	text := v.printed()
	for _, says := range []string{"Pear and cardamom loaf", "egg-free", "Holds:", "milk", "plain flour (wheat)", "Carbohydrate", "Made in a home kitchen that also handles other foods"} {
		assert.Contains(t, text, says)
	}
	assert.NotContains(t, text, "Back", "only the card is printed")
	v.open(pear + "/tablecard?diet=egg-free&size=sticker")
	text = v.printed()
	assert.Contains(t, text, "baked on")
	assert.Contains(t, text, "kcal a serving")
}
