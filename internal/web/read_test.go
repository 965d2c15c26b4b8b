package web_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
		h, err := s.st.Household(t.Context())
		require.NoError(t, err)
		h.Labels = c.labels
		require.NoError(t, s.st.SetHousehold(t.Context(), h))
		_, body := s.get("/sweeten?was=200+g+sugar&use=" + c.use)
		assert.Regexp(t, `value="`+c.part+`"[^>]*checked`, body, "%s, %s", c.labels, c.use)
	}
}
