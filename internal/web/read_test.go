package web_test

import (
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/store"

	"kollaris/core/larder"
)

// Times stand as a cook says them: minutes, hours and days, waits that follow each
// other, a bake in two stages, the sign that it is done.
func TestTimesThatTheStepsGive(t *testing.T) {
	s := newSite(t)
	code, _, draft := s.post("/recipes", url.Values{"text": {`Overnight hearth loaf
Serves 12
200 g raisins
500 g strong flour
330 g water
7 g dried yeast
10 g salt

Soak the raisins for 8-12 hours.
Knead 10 minutes and let it rise for 1 1/2 hours, until doubled.
Shape it and prove for 45 minutes.
Bake at 230 C for 15 minutes, then at 200 C for 25 minutes, until it sounds hollow.
Cool for 2 hours.`}})
	require.Equal(t, 303, code)
	_, body := s.get(draft)
	for name, says := range map[string]string{"Soak": "8–12 h", "Proof": "1½ h, until doubled, then 45 min", "In the oven": "15 min at 230 °C, then 25 min at 200 °C", "Done when": "it sounds hollow", "Cool": "2 h"} {
		_, rest, found := strings.Cut(body, ">"+name+"<")
		assert.True(t, found, name)
		row, _, _ := strings.Cut(rest, "</d")
		_, value, _ := strings.Cut(rest, "<dd>")
		value, _, _ = strings.Cut(value, "</dd>")
		assert.Contains(t, value, says, "%s in %s", name, row)
	}
}

// A recipe's own address opens its bench; one that is deleted comes back whole.
func TestARecipeIsDeletedAndBroughtBack(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	code, _, _ := s.post(pear+"/delete", nil)
	require.Equal(t, 303, code)
	_, body := s.get("/")
	assert.NotContains(t, body, ">Pear and cardamom loaf<")
	code, _ = s.get(pear + "/heat")
	assert.Equal(t, 404, code)
	code, _, loc := s.post(pear+"/restore", nil)
	require.Equal(t, 303, code)
	_, body = s.get(loc)
	assert.Contains(t, body, "Pear and cardamom loaf")
	code, _ = s.get(pear)
	assert.Equal(t, 303, code)
	code, _, _ = s.post("/recipes/999/delete", nil)
	assert.Equal(t, 404, code)
	code, _, _ = s.post("/recipes/999/restore", nil)
	assert.Equal(t, 404, code)
}

// What a household says of an ingredient is laid over the catalogue, goes out as a file,
// and is forgotten again; an ingredient of its own is then gone.
func TestAnIngredientIsForgotten(t *testing.T) {
	s := newSite(t)
	code, _, _ := s.post("/larder/i/flax-ground", url.Values{"pack": {"300"}, "price": {"2.25"}})
	require.Equal(t, 303, code)
	_, csv := s.get("/larder.csv")
	assert.Contains(t, csv, "flax-ground")
	code, _, loc := s.post("/larder/i/flax-ground/forget", nil)
	require.Equal(t, 303, code)
	assert.Equal(t, "/larder/i/flax-ground", loc)
	_, csv = s.get("/larder.csv")
	assert.NotContains(t, csv, "flax-ground")
	code, _, loc = s.post("/larder/i/own-mill-oat-drink/forget", nil)
	require.Equal(t, 303, code)
	assert.Equal(t, "/larder", loc)
	code, _ = s.get("/larder/i/own-mill-oat-drink")
	assert.Equal(t, 404, code)
	code, body, _ := s.post("/larder/i/egg", url.Values{"fat": {"plenty"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, `value="plenty"`)
	code, _, _ = s.post("/larder/i/moon-dust", url.Values{"fat": {"1"}})
	assert.Equal(t, 404, code)
}

// Each use of sugar begins with the parts that serve it, by which packets are read.
func TestABlendBeginsWithWhatServesItsUse(t *testing.T) {
	s := newSite(t)
	for _, c := range []struct{ labels, use, part string }{{"eu", "caramel", "isomalt"}, {"eu", "syrup", "xylitol"}, {"us", "syrup", "allulose"}, {"us", "batter", "erythritol"}, {"eu", "batter", "inulin"}} {
		require.NoError(t, s.st.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Labels = c.labels }))
		_, body := s.get("/sweeten?was=200+g+sugar&use=" + c.use)
		assert.Regexp(t, `value="`+c.part+`"[^>]*checked`, body, "%s, %s", c.labels, c.use)
	}
}

var draftRev = regexp.MustCompile(`name="rev" value="(\d+)"`)

// press posts one of Read's buttons to a draft, with the rev that the page shows, and
// returns the page after it.
func (s site) press(draft string, form url.Values) string {
	s.t.Helper()
	_, page := s.get(draft)
	form.Set("rev", draftRev.FindStringSubmatch(page)[1])
	code, _, _ := s.post(draft, form)
	require.Less(s.t, code, 400)
	_, page = s.get(draft)
	return page
}

// "This is no ingredient" takes one line out and moves no other; every button is taken
// back step by step, on a page that was loaded anew.
func TestEveryStepOfReadIsTakenBack(t *testing.T) {
	s := newSite(t)
	text := "Milk loaf\nServes 8\n\n240 g plain flour\n120 g sugar\n3 little notes\n2 eggs\n200 g milk\n80 g butter\n2 tsp baking powder\n1 tsp zorblax\n\nMix it all and bake for 50 minutes."
	_, _, draft := s.post("/recipes", url.Values{"text": {text}})
	_, first := s.get(draft)
	assert.Contains(t, first, "6 of 8 lines understood. 2 to settle.")
	assert.NotContains(t, first, "Back a step")

	pages := []string{first}
	for _, form := range []url.Values{
		{"do": {"line"}, "line": {"3 little notes"}, "skip": {"1"}},
		{"do": {"line"}, "line": {"1 tsp zorblax"}, "what": {"cinnamon"}, "amount": {"1"}, "unit": {"tsp"}},
		{"do": {"facts"}, "title": {"Milk loaf"}, "servings": {"9"}},
		{"do": {"line"}, "line": {"3 little notes"}, "undo": {"1"}},
		{"do": {"text"}, "text": {text + "\n\nNotes: keeps well."}},
	} {
		pages = append(pages, s.press(draft, form))
	}
	assert.Contains(t, pages[1], "6 of 7 lines understood. 1 to settle.", "the milk and the rest stay ingredients")
	assert.Contains(t, pages[1], "No ingredient: “3 little notes”")
	assert.Contains(t, pages[2], "All 7 lines understood.")
	assert.Contains(t, pages[4], "7 of 8 lines understood. 1 to settle.")

	known, err := s.st.Remembered(t.Context())
	require.NoError(t, err)
	assert.Equal(t, larder.ID("cinnamon"), known.Phrases["zorblax"])
	plain := func(page string) string {
		return regexp.MustCompile(`name="rev" value="\d+"`).ReplaceAllString(page, "")
	}
	for n := len(pages) - 2; n >= 0; n-- {
		page := s.press(draft, url.Values{"do": {"back"}})
		assert.Equal(t, plain(pages[n]), plain(page), "step %d", n)
	}
	known, err = s.st.Remembered(t.Context())
	require.NoError(t, err)
	assert.Empty(t, known.Phrases, "what a step taught goes with it")
	s.press(draft, url.Values{"do": {"back"}}) // nothing is left to take back
}

// Read says what it took a part for and what it is baked in; one press makes it another, and the facts' form leaves that alone.
func TestWhatAPartIsCanBeCorrected(t *testing.T) {
	s := newSite(t)
	code, _, draft := s.post("/recipes", url.Values{"text": {"Regatta squares\nMakes 12\n\n200 g plain flour\n100 g butter\n\nLemon curd\n2 egg yolks\n60 g sugar\n\nRub the butter into the flour. Bake at 350F for 20 minutes in a 20 cm square tin."}})
	require.Equal(t, 303, code)
	_, body := s.get(draft)
	role := func(body string) string {
		_, rest, ok := strings.Cut(body, `title="Say what it is">`)
		require.True(t, ok)
		words, _, _ := strings.Cut(rest, "<")
		return words
	}
	assert.Equal(t, "filling", role(body))
	assert.Contains(t, body, `value="350 °F"`, "a heat comes back in the scale it is round in")
	assert.Contains(t, body, `<option value="oven" selected>an oven</option>`)
	code, _, _ = s.post(draft, url.Values{"do": {"role"}, "part": {"lemon curd"}, "role": {"batter"}})
	require.Equal(t, 303, code)
	_, body = s.get(draft)
	assert.Equal(t, "goes into the batter or dough", role(body))
	code, body, _ = s.post(draft, url.Values{"do": {"facts"}, "title": {"Regatta squares"}, "oven": {"350 °F"}, "device": {"air fryer"}})
	require.Equal(t, 200, code)
	assert.Equal(t, "goes into the batter or dough", role(body), "the facts say nothing of parts")
	assert.Contains(t, body, `<option value="air fryer" selected>an air fryer</option>`)
	assert.Contains(t, body, `value="350 °F"`)
	assert.Contains(t, body, "nothing: it sets cold")
	code, _, _ = s.post(draft, url.Values{"do": {"role"}, "part": {"lemon curd"}, "role": {"no such"}})
	require.Equal(t, 303, code)
	_, body = s.get(draft)
	assert.Equal(t, "filling", role(body), "what is no role is as read")
}
