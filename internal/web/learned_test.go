package web_test

import (
	"html"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/bake"
	"kollaris/core/larder"
	"kollaris/core/learn"
	"kollaris/internal/demo"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// learnedOf is a figure as it stands.
func (s *site) learnedOf(kind learn.Kind, key string) learn.Normal {
	s.t.Helper()
	taught, err := journal.Learned(s.t.Context(), s.st)
	require.NoError(s.t, err)
	return taught.Of(kind, key)
}

// The season teaches; each figure is shown with what it is from, is forgotten without a trace, and comes back as
// it was. A flour that drinks is offered from the start of the next bake.
func TestWhatTheSeasonTaught(t *testing.T) {
	s := newSite(t)
	require.NoError(t, demo.Season(t.Context(), s.st))
	_, body := s.get("/learned")
	body = html.UnescapeString(body)
	for _, words := range []string{"12 ± 4 °C hotter", "strong white bread flour", "drinks +3.3 g of liquid for each 100 g", "from 2 bakes", "A new bag: forget", "How sweet this table likes it"} {
		assert.Contains(t, body, words)
	}
	rolls := strings.TrimPrefix(s.id("Rye-honey rolls"), "/recipes/")
	_, begin := s.get("/bakes/new?b=" + rolls + ":")
	assert.Regexp(t, `name="drinks" value="0"> Put in \d\d g more`, begin)
	begun := func(form url.Values) *store.BakeOf {
		form.Set("b", rolls+":")
		_, _, at := s.post("/bakes", form)
		id, err := strconv.ParseInt(at[len("/bakes/"):], 10, 64)
		require.NoError(t, err)
		b, err := s.st.Bake(t.Context(), id)
		require.NoError(t, err)
		return &b.Of[0]
	}
	plain, more := begun(url.Values{}), begun(url.Values{"drinks": {"0"}})
	_, grams := journal.FlourOf(plain.Result.Recipe, larder.Builtin())
	put := 0.0
	for n, l := range more.Result.Recipe.Lines {
		put += l.Grams - plain.Result.Recipe.Lines[n].Grams
	}
	flour := s.learnedOf(learn.Flour, "strong-flour")
	assert.InDelta(t, flour.Mean*grams, put, 0.51)
	assert.InDelta(t, put/grams, more.Drinks, 1e-9)
	s.post("/learned", url.Values{"do": {"forget"}, "kind": {"flour"}, "key": {"strong-flour"}})
	assert.Zero(t, s.learnedOf(learn.Flour, "strong-flour").N)
	_, begin = s.get("/bakes/new?b=" + rolls + ":")
	assert.NotContains(t, begin, `name="drinks"`)
	assert.Zero(t, begun(url.Values{"drinks": {"0"}}).Drinks, "nothing is put in that is not known")
	_, body = s.get("/learned")
	assert.Contains(t, body, "2 bakes are forgotten: count again")
	s.post("/learned", url.Values{"do": {"remember"}, "kind": {"flour"}, "key": {"strong-flour"}})
	assert.Equal(t, flour, s.learnedOf(learn.Flour, "strong-flour"))
	code, _, _ := s.post("/learned", url.Values{"do": {"forget"}, "kind": {"moon"}, "key": {"x"}})
	assert.Equal(t, 400, code)
}

// A recipe that took longer in an oven that is known is foretold longer; a bake that is taken away teaches
// nothing, neither the recipe nor the oven, until it is brought back.
func TestARecipesOwnPace(t *testing.T) {
	s := newSite(t)
	require.NoError(t, demo.Season(t.Context(), s.st))
	loaf := s.id("Pear and cardamom loaf")
	id := strings.TrimPrefix(loaf, "/recipes/")
	was := s.learnedOf(learn.Recipe, id)
	require.Equal(t, 2, was.N, "of four bakes two were seen to be done")
	log, err := s.st.Log(t.Context(), 0)
	require.NoError(t, err)
	last := log[0]
	require.Equal(t, id, strconv.FormatInt(last.Recipe, 10))
	events, _, err := s.st.Events(t.Context(), last.Bake)
	require.NoError(t, err)
	for _, e := range events {
		if e.What == bake.CameOut { // it came out half as long again after
			b, err := s.st.Bake(t.Context(), last.Bake)
			require.NoError(t, err)
			e.ID, e.At = "later", e.At.Add(25*time.Minute)
			_, err = s.st.AddEvents(t.Context(), last.Bake, []bake.Event{e, {ID: "probe", At: e.At.Add(-time.Minute), What: bake.Probe, Value: 99}})
			require.NoError(t, err)
			events, _, err = s.st.Events(t.Context(), last.Bake)
			require.NoError(t, err)
			require.NoError(t, journal.Keep(t.Context(), s.st, larder.Builtin(), b, bake.Fold(journal.Sheets(b), events)))
		}
	}
	slow := s.learnedOf(learn.Recipe, id)
	assert.Greater(t, slow.Mean, was.Mean+0.02)
	_, body := s.get(loaf + "/heat")
	assert.Contains(t, html.UnescapeString(body), "Your last 2 bakes of it took longer")
	ovens, err := s.st.Ovens(t.Context())
	require.NoError(t, err)
	at := "/bakes/" + strconv.FormatInt(last.Bake, 10)
	s.post(at, url.Values{"what": {"drop"}})
	assert.Equal(t, 1, s.learnedOf(learn.Recipe, id).N)
	without, err := s.st.Ovens(t.Context())
	require.NoError(t, err)
	assert.Equal(t, ovens[0].Learned().Bakes-1, without[0].Learned().Bakes)
	s.post(at, url.Values{"what": {"restore"}})
	with, err := s.st.Ovens(t.Context())
	require.NoError(t, err)
	assert.InDelta(t, ovens[0].Learned().Log, with[0].Learned().Log, 1e-9)
	assert.InDelta(t, slow.Mean, s.learnedOf(learn.Recipe, id).Mean, 1e-9)
}

// A household's spoonful is what recipes in spoons are then read by; what cannot be one says what would do, and
// keeps what was typed.
func TestASpoonfulIsWeighed(t *testing.T) {
	s := newSite(t)
	_, _, draft := s.post("/recipes", url.Values{"text": {"Squares\nIngredients\n200 g plain flour\n4 tbsp ground flaxseed\n150 g milk\n1 tsp baking powder"}})
	_, before := s.get(draft)
	require.NotContains(t, before, "as yours was learned")
	for n := range 3 {
		code, _, to := s.post("/learned", url.Values{"do": {"spoon"}, "unit": {"tbsp"}, "food": {"ground flaxseed"}, "grams": {[]string{"10", "10,5 g", "9.5"}[n]}})
		require.Equal(t, 303, code)
		assert.Contains(t, to, "saved=")
	}
	assert.Equal(t, 3, s.learnedOf(learn.Spoon, "tbsp flax-ground").N)
	_, after := s.get(draft)
	assert.Contains(t, after, "as yours was learned")
	_, page := s.get("/learned")
	assert.Regexp(t, `weighs 9\.?\d* g, not 6\.5`, page)
	for grams, food := range map[string]string{"90": "ground flaxseed", "soft": "ground flaxseed", "8": "wuzzle"} {
		code, body, _ := s.post("/learned", url.Values{"do": {"spoon"}, "unit": {"tbsp"}, "food": {food}, "grams": {grams}})
		assert.Equal(t, 422, code)
		assert.Contains(t, body, `value="`+grams+`"`)
		assert.Contains(t, body, `role="alert"`)
	}
}

// What a recipe's own pace moves is moved everywhere on the page: the headline, the curves and the table say the same minutes.
func TestOnePageOneTime(t *testing.T) {
	s := newSite(t)
	require.NoError(t, demo.Season(t.Context(), s.st))
	_, body := s.get(s.id("Pear and cardamom loaf") + "/heat?tin=" + url.QueryEscape("loaf 9x5 in"))
	head := regexp.MustCompile(`First look <b>(\d+) min</b>\. Likely done (\d+)–(\d+) min`).FindStringSubmatch(body)
	require.NotNil(t, head)
	says := regexp.MustCompile(`First look at (\d+), likely done from (\d+) to (\d+) min`).FindStringSubmatch(body)
	require.NotNil(t, says)
	assert.Equal(t, head[1:], says[1:])
}
