package e2e

import (
	"context"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo"
	"kollaris/internal/photo"
	"kollaris/internal/store"
)

// Paste, settle the unknown line, keep, adapt, keep the version, find it again
// on the shelf, print it.
func TestFromPasteToPrint(t *testing.T) {
	v := start(t)
	v.open("/new")
	v.run(chromedp.SetValue(chromedp.CSS("#text"), card))
	v.click("form.newform button")
	v.wait(".row-line.doubt")
	assert.Contains(t, v.text(".verdict-words"), "9 of 10 lines understood. 1 to settle.")

	// grams follow while typing, Enter keeps the line
	v.typeIn(".row-line.doubt input[name=what]", "poppy seeds")
	v.waitFor(`document.querySelector(".row-line.doubt .live").textContent.includes("18 g")`)
	v.typeIn(".row-line.doubt input[name=what]", kb.Enter)
	v.wait(".verdict.fine")
	assert.Contains(t, v.text(".verdict-words"), "All 10 lines understood.")

	v.click(".read-bar .btn-act")
	v.wait("#bench")
	assert.Contains(t, v.text(".verdict-words"), "As written")

	// each choice shows at once, without a page load, and the address follows
	eval[bool](v, `window.samePage = true`)
	v.click("label:has(#diet-egg-free)")
	v.waitFor(`document.querySelector(".verdict-words").textContent.includes("Nothing here breaks your demand")`)
	v.click("label:has(#diet-dairy-free)")
	v.waitFor(`document.querySelector(".verdict-words").textContent.includes("your two demands")`)
	assert.True(t, eval[bool](v, `window.samePage === true && location.search.includes("diet=egg-free") && location.search.includes("diet=dairy-free")`))
	assert.Contains(t, v.text(".allergens"), "Gone: egg, milk")

	// another school, then back a step
	v.unfold(".more")
	v.click("#o-egg-apple-puree")
	v.waitFor(`document.querySelector("#o-egg-apple-puree").checked && document.querySelector(".strips").textContent.includes("apple")`)
	v.click("#back-step")
	v.waitFor(`document.querySelector("#o-egg-flax-gel").checked`)

	v.typeIn(".verdict-acts .btn-act", kb.Enter) // by keyboard: nothing may move from under it
	v.wait(".lines")
	assert.Contains(t, v.text("h1"), "Damson and rye squares, dairy-free, egg-free")
	assert.Contains(t, v.text(".lines"), "ground flaxseed")

	v.open("/?q=damson")
	v.click(".shelf-versions a")
	v.wait(".rail")
	v.click(`.rail a[href$="/card"]`)
	v.wait(".card-sheet")
	pdf := get(v, chromedp.PrintToPDF())
	require.Greater(t, len(pdf), 5000)
	assert.Equal(t, "%PDF", string(pdf[:4]))
	v.media("light", "print")
	hidden := eval[bool](v, `getComputedStyle(document.querySelector("header.top")).display === "none" && getComputedStyle(document.querySelector(".card-acts")).display === "none"`)
	assert.True(t, hidden, "only the card is printed")
}

// Everything on the bench by keyboard: the diets, a way, an amount held and
// released; the focus stays where it was.
func TestTheBenchByKeyboard(t *testing.T) {
	v := start(t)
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=")
	focus := func() string {
		return eval[string](v, `document.activeElement.id`)
	}
	v.press(kb.Tab) // the skip link comes first
	assert.Equal(t, "skip", eval[string](v, `document.activeElement.className`))
	for n := 0; focus() != "diet-egg-free" && n < 30; n++ {
		v.press(kb.Tab)
	}
	require.Equal(t, "diet-egg-free", focus())
	v.press(" ")
	v.waitFor(`document.querySelector(".entry h3")?.textContent.includes("flax gel")`)
	assert.Equal(t, "diet-egg-free", focus(), "the control in hand is not taken away")

	for n := 0; focus() != "h-flax-ground" && n < 60; n++ {
		v.press(kb.Tab)
	}
	require.Equal(t, "h-flax-ground", focus())
	v.press("20" + kb.Tab)
	v.waitFor(`document.querySelector(".amount.held") && location.search.includes("hold.flax-ground=20")`)
	assert.Equal(t, "20", eval[string](v, `document.querySelector("#h-flax-ground").value`))
	v.run(chromedp.Focus(chromedp.CSS("#h-flax-ground")))
	v.press(kb.Backspace + kb.Backspace + kb.Delete + kb.Delete + kb.Enter)
	v.waitFor(`!document.querySelector(".amount.held")`)

	v.unfold(".more")
	v.run(chromedp.Focus(chromedp.CSS("#o-egg-flax-gel")))
	v.press(kb.ArrowDown)
	v.waitFor(`document.querySelector("#o-egg-chia-gel").checked && document.activeElement.id === "o-egg-chia-gel"`)
	v.waitFor(`document.querySelector("#polite").textContent.length > 0`)
}

func TestABanShutsADoorAndANewAllergenIsSaidAtOnce(t *testing.T) {
	v := start(t)
	v.size(1280, 800)
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=dairy-free")
	assert.True(t, eval[bool](v, `[...document.querySelectorAll(".entry")].slice(0, 2).every((e) => e.querySelector(".amount").getBoundingClientRect().bottom <= innerHeight)`), "two swaps are seen without scrolling")
	v.unfold(".more")
	v.click("#o-buttermilk-soured-soya")
	v.waitFor(`document.querySelector("#assertive").textContent.includes("New here: soya")`)
	v.unfold(".ask-more")
	v.typeIn("#ban-new", "soya"+kb.Enter)
	v.waitFor(`document.querySelector("#ban-soya")?.checked && document.querySelector("#o-buttermilk-soured-soya").disabled`)
	assert.Contains(t, v.text(".doubts"), "is shut")
	v.typeIn("#ban-new", "moon du5t"+kb.Enter)
	v.waitFor(`document.querySelector("#ban-new-fault")?.textContent.includes("neither an allergen")`)
	assert.Equal(t, "moon du5t", eval[string](v, `document.querySelector("#ban-new").value`))
}

// A table that counts: keto, its own limit typed, an amount dragged by its name, and
// two versions side by side of which one is kept.
func TestAKetoTable(t *testing.T) {
	v := start(t)
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=")
	v.click("label:has(#diet-keto)")
	v.waitFor(`document.querySelector(".count.fine b")?.textContent.endsWith(" g")`)
	assert.Contains(t, v.text(".count"), "within your 6")
	assert.Contains(t, v.text(".becomes"), "nut-flour batter")
	v.typeIn("#limit-net-carb", "2"+kb.Enter)
	v.waitFor(`document.querySelector(".count.look")?.textContent.includes("over your 2")`)
	assert.Contains(t, v.text(".count"), "servings instead of 10")

	eval[int](v, `(() => {
	  const label = document.querySelector("label[for=h-almond-flour]"), box = label.getBoundingClientRect();
	  const at = (type, x) => (type === "pointerdown" ? label : window).dispatchEvent(new PointerEvent(type, { clientX: box.x + x, clientY: box.y, bubbles: true }));
	  at("pointerdown", 0); at("pointermove", 40); at("pointermove", 80); at("pointerup", 80);
	  return 0;
	})()`)
	v.waitFor(`document.querySelector(".amount.held #h-almond-flour")?.value === "240" && location.search.includes("hold.almond-flour=240")`)

	v.click(".beside-link")
	v.wait(".beside")
	assert.Contains(t, v.text(".beside thead"), "keto")
	v.run(chromedp.SetValue(chromedp.CSS("#add"), eval[string](v, `[...document.querySelectorAll("#add option")].find((o) => o.textContent === "and egg-free").value`)))
	v.click(".beside-add button")
	v.wait(".beside thead th:nth-child(4)")
	v.click(".beside thead form button")
	v.wait(".lines")
	assert.Contains(t, v.text("h1"), "keto")
}

// From a packet to a recipe: an own ingredient, a cup that weighs something else,
// and a file with one bad row.
func TestTheHouseholdsOwnLarder(t *testing.T) {
	v := start(t)
	v.open("/larder/new?name=wuzzle+flakes")
	v.run(chromedp.SetValue(chromedp.CSS("#f-like"), "rolled oats"))
	for name, x := range map[string]string{"fat": "7", "saturates": "1.2", "carbohydrate": "60", "sugars": "99", "fibre": "10", "protein": "13", "salt": "0"} {
		v.run(chromedp.SetValue(chromedp.CSS("#f-"+name), x))
	}
	v.click(".ownform .btn-act")
	v.wait("#f-sugars-fault")
	assert.Contains(t, v.text("#f-sugars-fault"), "more than the carbohydrate")
	assert.Equal(t, "60", eval[string](v, `document.querySelector("#f-carbohydrate").value`), "what was typed is kept")
	v.run(chromedp.SetValue(chromedp.CSS("#f-sugars"), "2"))
	v.click(".ownform .btn-act")
	v.wait(".saved")
	assert.Contains(t, v.text("h1"), "wuzzle flakes")
	v.open("/new")
	v.run(chromedp.SetValue(chromedp.CSS("#text"), card))
	v.click("form.newform button")
	v.wait(".verdict.fine")
	assert.Contains(t, v.text(".verdict-words"), "All 10 lines understood.")

	v.open("/larder/i/plain-flour")
	v.run(chromedp.SetValue(chromedp.CSS("#f-weight"), "140"))
	v.click(".ownform .btn-act")
	v.wait(".saved")
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=egg-free&tab=recipe")
	assert.Contains(t, v.text(".lines"), "245 g", "1¾ cups at 140 g")

	v.open("/larder")
	v.typeIn("#q", "maid") // found while typing
	v.waitFor(`document.querySelectorAll(".larder-row").length === 1 && document.querySelector(".larder-row a").textContent === "plain flour"`)
	file := filepath.Join(t.TempDir(), "larder.csv")
	require.NoError(t, os.WriteFile(file, []byte("id,name,like,fat,pack_g,price\nhoney,,,,500,4.50\nmilk,,,lots,,\n"), 0o600))
	v.open("/larder")
	v.click(".larder-files summary")
	v.run(chromedp.SetUploadFiles(chromedp.CSS("#file"), []string{file}))
	v.click(".larder-files button")
	v.wait(".imported")
	assert.Contains(t, v.text(".imported"), "Line 3: fat: “lots” is no number")
	v.click(".imported .btn-act")
	v.run(chromedp.WaitNotPresent(chromedp.CSS(".imported"))) // the page after, not the one before
	v.open("/larder/i/honey")
	assert.Equal(t, "4.5", eval[string](v, `document.querySelector("#f-price").value`))
}

func TestThreeFilesAreDroppedOneOfThemBad(t *testing.T) {
	v := start(t)
	v.open("/new")
	v.run(chromedp.SetValue(chromedp.CSS("#text"), "half a thought"))
	eval[bool](v, `(() => {
	  const files = {
	    "squares.json": JSON.stringify({"@type": "Recipe", name: "Oat squares", recipeYield: "12 squares", recipeIngredient: ["200 g rolled oats", "100 g butter", "80 g honey"], recipeInstructions: "Melt. Bake 20 minutes at 180C in a 20 cm square tin."}),
	    "loaf.txt": "Seed loaf\nIngredients\n300 g plain flour\n1 tsp salt\n200 ml water\n2 tbsp blorf\nMethod\nBake 40 minutes at 200C.",
	    "lost.txt": "Lost loaf\nIngredients\n300 g plain flour",
	    "half.json": "{\"name\":",
	  };
	  const send = window.fetch; // one is not answered: the rest goes on
	  window.fetch = (to, how) => how?.body?.get?.("files")?.name === "lost.txt" ? Promise.reject(new Error("gone")) : send(to, how);
	  const data = new DataTransfer();
	  for (const [name, text] of Object.entries(files)) data.items.add(new File([text], name));
	  return document.querySelector(".bring").dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true })) || true;
	})()`)
	v.waitFor(`document.querySelector("#brought .keep-all") && document.querySelectorAll(".brought .f-stop").length === 2`)
	assert.Equal(t, "2 recipes found. 1 file could not be read.", v.text(".verdict-words"))
	assert.Contains(t, v.text("#brought-root .f-stop"), "half.json")
	assert.Contains(t, v.text("#untaken"), "lost.txt")
	assert.Equal(t, "half a thought", eval[string](v, `document.getElementById("text").value`), "what was typed beside the files")
	assert.Empty(t, v.faults(everyRule))
	v.size(390, 800)
	assert.LessOrEqual(t, eval[int](v, `document.documentElement.scrollWidth - document.documentElement.clientWidth`), 0)
	v.click(".read-bar .btn-act")
	v.wait(".shelf")
	v.open(v.id("Oat squares") + "/adapt?diet=dairy-free")
	assert.Contains(t, v.text(".verdict-words"), "label to read: plant block")
}

func TestWithoutScripts(t *testing.T) {
	v := start(t)
	_, err := chromedp.Call(v.ctx, emulation.SetScriptExecutionDisabled, emulation.SetScriptExecutionDisabledParams{Value: true})
	require.NoError(t, err)
	v.open(v.id("Pear and cardamom loaf") + "/adapt?diet=")
	v.click("label:has(#diet-egg-free)")
	v.click(".yield .no-js")
	v.click(".more > summary")
	v.wait("#o-egg-flax-gel")
	assert.Contains(t, v.text(".verdict-words"), "Nothing here breaks your demand")
	v.click("#o-egg-chia-gel")
	v.click(".verdict-acts .btn-act")
	v.wait(".lines")
	assert.Contains(t, v.text(".lines"), "chia")
}

// screens are the pages that are looked at: by axe in light and dark, for
// sideways scrolling on a phone, and by the maker of pictures.
func screens(v visit) []struct{ name, path string } {
	pear := v.id("Pear and cardamom loaf")
	ctx := context.Background()
	all, err := v.st.Recipes(ctx, "")
	require.NoError(v.t, err)
	version := ""
	for _, r := range all {
		if vs, err := v.st.Versions(ctx, r.ID); err == nil && len(vs) > 0 && r.Title == "Pear and cardamom loaf" {
			version = "/versions/" + itoa(vs[0].ID)
		}
	}
	id, err := v.st.AddDraft(ctx, 0, card, emptyTyped)
	require.NoError(v.t, err)
	plans := "/plans?eat=2099-12-05T08:30"
	for _, b := range [][2]string{{"Buckwheat seed bread", "diet=gluten-free"}, {"Lemon-poppy squares", ""}, {"Oat-ginger biscuits", "diet=dairy-free"}} {
		plans += "&b=" + strings.TrimPrefix(v.id(b[0]), "/recipes/") + ":" + url.QueryEscape(b[1])
	}
	kept, err := v.st.Plans(ctx)
	require.NoError(v.t, err)
	require.NotEmpty(v.t, kept)
	breakfast := "/plans/" + itoa(kept[0].ID)
	loaf := strings.TrimPrefix(pear, "/recipes/") + ":diet=dairy-free&diet=egg-free"
	weighing, baking := v.begin(loaf, strings.TrimPrefix(v.id("Cheddar-and-chive scones"), "/recipes/")+":"), v.begin(loaf)
	for n := range 4 {
		v.tell(weighing, "what", "done", "task", itoa(int64(n)))
	}
	for n := range 8 {
		v.tell(baking, "what", "done", "task", itoa(int64(n)))
	}
	v.tell(baking, "what", "went-in", "task", "8")
	v.tell(baking, "what", "probe", "value", "24")
	logged := v.begin(loaf)
	v.tell(logged, "what", "finish")
	v.send(logged+"/log", url.Values{"bake": {"0"}, "symptom": {"gummy", "low"}, "overall": {"2"}, "cooled": {"1"}})
	atLog, err := strconv.ParseInt(strings.TrimPrefix(logged, "/bakes/"), 10, 64)
	require.NoError(v.t, err)
	face, err := demo.Slice()
	require.NoError(v.t, err)
	shot := store.Photo{Bake: atLog, At: time.Now(), Words: "the cut face"}
	shot.Photo, err = photo.Take(face)
	require.NoError(v.t, err)
	picture, err := v.st.AddPhoto(ctx, shot)
	require.NoError(v.t, err)
	require.NoError(v.t, v.st.AddTasting(ctx, store.Tasting{At: time.Now(), Name: "flax against egg", Right: 5, Of: 8}))
	logged += "/log"
	return []struct{ name, path string }{
		{"shelf", "/"},
		{"new", "/new"},
		{"read", "/drafts/" + itoa(id)},
		{"adapt", pear + "/adapt?diet=egg-free&diet=dairy-free"},
		{"adapt-recipe", pear + "/adapt?diet=egg-free&diet=dairy-free&tab=recipe"},
		{"adapt-different", pear + "/adapt?diet=egg-free&diet=dairy-free&tab=different"},
		{"adapt-sweet", pear + "/adapt?diet=low-sugar&tab=sweet"},
		{"nutrition", pear + "/nutrition?diet=egg-free&diet=dairy-free&slice=62"},
		{"tablecard", pear + "/tablecard?diet=egg-free&diet=dairy-free"},
		{"people", "/people"},
		{"table", "/table?menu=1"},
		{"sweeten", "/sweeten"},
		{"sweeten-bad", "/sweeten?was=moon+dust&sugars=lots"},
		{"adapt-refused", v.id("Cheddar-and-chive scones") + "/adapt?diet=dairy-free&ban=vegan-cheese"},
		{"beside", pear + "/beside?v=diet%3Degg-free&v=diet%3Dgluten-free&v=diet%3Dketo"},
		{"heat", pear + "/heat?diet=egg-free&diet=dairy-free"},
		{"heat-compare", pear + "/heat?tin=12+muffin+cups&in=1&at=165&a=diet%3Degg-free%26"},
		{"heat-bad", pear + "/heat?at=lukewarm&then=160&batter=99&tin=bucket"},
		{"plan", plans},
		{"shop", strings.Replace(plans, "/plans", "/plans/shop", 1)},
		{"plan-late", pear + "/plan?diet=egg-free&eat=2001-01-06T09:00&cooks=many"},
		{"plans", "/plans"},
		{"breakfast", breakfast},
		{"breakfast-shop", breakfast + "/shop"},
		{"ahead", "/ahead?b=" + strings.TrimPrefix(pear, "/recipes/") + ":diet%3Degg-free"},
		{"inoven", "/oven?b=" + strings.TrimPrefix(pear, "/recipes/") + ":diet%3Degg-free&in=2026-11-21T08:00&s=38:wet&s=39:pale&s=48:c88"},
		{"counter", weighing},
		{"counter-bowl", baking + "?task=6"},
		{"counter-oven", baking},
		{"counter-slip", weighing + "?slip=1"},
		{"log", logged},
		{"recipe-log", pear + "/log"},
		{"bakes", "/bakes"},
		{"tasting", "/tasting?tasters=8&seed=3&right=5&of=8"},
		{"learned", "/learned"},
		{"photo", "/photos/" + itoa(picture)},
		{"bakes-beside", "/log/beside?pick=" + itoa(atLog) + ".0&pick=" + itoa(atLog-1) + ".0"},
		{"cups", pear + "/cups?q=diet%3Degg-free&vary0=flax-ground&tried0=10+14+18&seed=5"},
		{"bake-begin", "/bakes/new?b=" + url.QueryEscape(loaf)},
		{"soak", "/soak?fruit=250&in=reduced&liquid=400&sugars=11"},
		{"ovens", "/ovens"},
		{"version", version},
		{"card", version + "/card"},
		{"kept-read", pear + "/read"},
		{"larder", "/larder?q=oat"},
		{"ingredient", "/larder/i/psyllium-husk"},
		{"compare", "/larder/compare?pick=butter&pick=plant-block&pick=sunflower-oil&pick=spread"},
		{"own", "/larder/new?name=wuzzle+flakes"},
		{"settings", "/settings"},
		{"sources", "/sources"},
		{"missing", "/nothing"},
	}
}

// From the table's bakes to a timetable, and to another when the meal moves.
func TestAPlanFromTheTable(t *testing.T) {
	v := start(t)
	v.open("/table?menu=1")
	v.click(`.menu a[href*="&b="]`)
	v.wait(".plan-begin")
	bakes := eval[string](v, `document.querySelector(".plan-names").textContent`)
	v.run(chromedp.SetValue(chromedp.CSS("#eat"), "2099-12-05T09:00"))
	v.click(".planbar button")
	v.waitFor(`location.search.includes("2099-12-05T09") && document.querySelector(".plan-begin") !== null`)
	begin := eval[string](v, `document.querySelector(".plan-begin").textContent`)
	assert.Contains(t, begin, "Begin ")
	assert.Equal(t, bakes, eval[string](v, `document.querySelector(".plan-names").textContent`), "the bakes travel with the form")
	v.run(chromedp.SetValue(chromedp.CSS("#eat"), "2099-12-05T10:00"))
	v.run(chromedp.SetValue(chromedp.CSS("#cooks"), "2"))
	v.click(".planbar button")
	v.waitFor(`location.search.includes("2099-12-05T10") && document.querySelector(".plan-begin") !== null`)
	assert.NotEqual(t, begin, eval[string](v, `document.querySelector(".plan-begin").textContent`))
	assert.Contains(t, eval[string](v, `document.querySelector(".plan-list").textContent`), "Bake at")
	assert.Equal(t, "2", eval[string](v, `document.querySelector("#cooks").value`))
}

// smallTargets are the places to press that are less than 44 px high or wide, but for links within words (WCAG 2.5.8 lets
// them be) and boxes whose label is large enough.
const smallTargets = `[...document.querySelectorAll("main button, main summary, main select, main textarea, main input:not([type=hidden]), main .rail a, main .tabs a, main .btn-act, main .btn-quiet, header a, header summary")].filter((n) => {
  if (!n.checkVisibility({ visibilityProperty: true }) || n.closest(".visually-hidden") || n.disabled) return false;
  const at = (n.type === "checkbox" || n.type === "radio") ? n.closest("label") ?? n : n;
  const r = at.getBoundingClientRect();
  return r.width > 1 && r.height > 1 && (r.height < 43.5 || r.width < 43.5);
}).slice(0, 12).map((n) => n.tagName + "." + n.className + " " + (n.name || n.textContent.trim().slice(0, 20)) + " " + Math.round(n.getBoundingClientRect().width) + "×" + Math.round(n.getBoundingClientRect().height))`

// Each screen is loaded once: every rule of axe-core in the light, the colours again in the dark, then at each width
// that nothing scrolls sideways and, on a phone, that all targets are large enough.
func TestEachScreen(t *testing.T) {
	t.Parallel()
	for half := range 2 { // a tab each
		t.Run([]string{"even", "odd"}[half], func(t *testing.T) {
			v := start(t)
			for n, s := range screens(v) {
				if n%2 != half {
					continue
				}
				v.size(1280, 800)
				v.media("light", "")
				v.open(s.path)
				assert.Empty(t, v.faults(everyRule), s.name)
				v.media("dark", "")
				assert.Empty(t, v.faults(colours), "%s in the dark", s.name)
				for _, width := range []int64{1280, 820, 390} {
					v.size(width, 800)
					over := eval[int](v, `document.documentElement.scrollWidth - document.documentElement.clientWidth`)
					if over > 0 {
						t.Log(eval[string](v, `[...document.querySelectorAll("body *")].filter((n) => n.getBoundingClientRect().right > document.documentElement.clientWidth + 1).slice(0, 6).map((n) => n.tagName + "." + n.className).join(" | ")`))
					}
					assert.LessOrEqual(t, over, 0, "%s at %d", s.name, width)
				}
				assert.Empty(t, eval[[]string](v, smallTargets), s.name)
			}
		})
	}
}

// Every place is reached at every width: a tablet's, a phone's, and a window at 200 %.
func TestEveryPlaceIsReached(t *testing.T) {
	v := start(t)
	for _, width := range []int64{390, 820, 1280} {
		v.size(width, 800)
		if v.open("/"); width < 940 {
			v.click(".more-places summary")
		}
		for _, place := range []string{"/", "/plans", "/bakes", "/new", "/larder", "/sweeten", "/people", "/ovens", "/sources", "/settings"} {
			assert.True(t, eval[bool](v, `[...document.querySelectorAll("header a[href='`+place+`']")].some((a) => { const r = a.getBoundingClientRect(); return a.checkVisibility() && r.width > 0 && r.left >= 0 && r.right <= innerWidth; })`), "%s at %d", place, width)
		}
	}
}

// TestScreenshots makes the pictures of docs/screenshots; make screenshots asks
// for it by naming the folder.
func TestScreenshots(t *testing.T) {
	if pictures == "" {
		t.Skip("make screenshots sets KOLLARIS_SCREENSHOTS")
	}
	v := start(t)
	v.media("light", "")
	shoot := func(name, path string, width, height int64) {
		v.size(width, height)
		v.open(path)
		v.shoot(name)
	}
	for _, s := range screens(v) {
		if !slices.Contains([]string{"missing", "new", "kept-read", "own", "compare", "sources", "version", "sweeten-bad", "tablecard", "settings", "heat", "heat-bad", "adapt-recipe", "ingredient", "plan", "plan-late", "shop", "plans", "breakfast-shop", "ahead", "soak", "inoven", "counter-bowl", "counter-slip", "recipe-log", "tasting", "bakes", "bake-begin", "bakes-beside", "cups", "learned", "log", "photo"}, s.name) {
			shoot(s.name, s.path, 1280, 800)
		}
	}
	pear := v.id("Pear and cardamom loaf") + "/adapt?diet=egg-free&diet=dairy-free"
	shoot("adapt-phone", pear, 390, 844)
}
