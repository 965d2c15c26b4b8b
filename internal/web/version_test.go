package web_test

import (
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo"
)

// A version is named by what differs, kept once however often it is pressed, named anew, noted on, put away and brought back;
// the shelf finds it by any of these and by what it is made of.
func TestAVersionHasAName(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	keep := func(form url.Values) string {
		code, body, at := s.post(pear+"/versions", form)
		require.Equal(t, 303, code, body)
		return at
	}
	one := keep(url.Values{"diet": {"egg-free"}, "scale": {"2"}})
	assert.Equal(t, one, keep(url.Values{"diet": {"egg-free"}, "scale": {"2"}}), "pressed twice")
	two := keep(url.Values{"diet": {"egg-free"}, "scale": {"3"}, "tin": {"round 20 cm"}})
	assert.NotEqual(t, one, two)
	three := keep(url.Values{"diet": {"egg-free"}, "scale": {"3"}, "tin": {"square 20 cm"}})
	_, body := s.get(one)
	assert.Contains(t, body, "<h1>Pear and cardamom loaf, egg-free</h1>")
	_, body = s.get(two)
	assert.Contains(t, body, "<h1>Pear and cardamom loaf, egg-free, 3 × the batch</h1>")
	_, body = s.get(three)
	assert.Contains(t, body, "<h1>Pear and cardamom loaf, egg-free, 3 × the batch, in square 20 cm</h1>")

	s.post(two, url.Values{"name": {"Regatta  loaf"}, "note": {"Stroke liked it.\nLess cardamom."}})
	_, body = s.get(two)
	assert.Contains(t, body, "<h1>Regatta loaf</h1>")
	assert.Contains(t, body, "Stroke liked it. Less cardamom.")
	for _, q := range []string{"regatta", "egg-free", "flax"} {
		_, body = s.get("/?q=" + q)
		assert.Contains(t, body, `>Pear and cardamom loaf</a>`, q)
	}
	_, body = s.get(pear + "/beside?v=" + url.QueryEscape("kept "+strings.TrimPrefix(two, "/versions/")))
	assert.Contains(t, body, "“Regatta loaf”, kept")
	assert.Regexp(t, `<option value="kept \d+">egg-free, 3 × the batch, in square 20 cm`, body)
	_, body = s.get(pear + "/heat?diet=egg-free&scale=3&tin=" + url.QueryEscape("round 20 cm"))
	assert.Contains(t, body, "Egg-free · kept as “Regatta loaf”")

	s.post(two, url.Values{"do": {"leave"}})
	_, body = s.get("/?q=regatta")
	assert.Contains(t, body, "Nothing on the shelf holds")
	_, body = s.get(two)
	assert.Contains(t, body, "This version is put away.")
	_, body = s.get("/away")
	assert.Regexp(t, `Regatta loaf.*?action="`+two+`"><input type="hidden" name="do" value="return">`, body)
	s.post(two, url.Values{"do": {"return"}})
	_, body = s.get("/?q=regatta")
	assert.Contains(t, body, "kept: Regatta loaf")
	s.post(two, url.Values{"name": {"  "}})
	_, body = s.get("/?q=" + url.QueryEscape("3 batch"))
	assert.Contains(t, body, "kept: egg-free, 3 × the batch", "without a name it has that of its keeping, and is found by it")
	code, _, _ := s.post("/versions/1", url.Values{"name": {"x"}})
	assert.Equal(t, 404, code, "what is written is no version to be named")
}

// The shelf is looked through by kind and by whom it suits, as it is or as a version that was kept.
func TestWhomTheShelfSuits(t *testing.T) {
	s := newSite(t)
	lemon := s.id("Lemon-poppy squares")
	_, body := s.get("/?suits=gluten-free")
	assert.Contains(t, body, ">Almond-orange cake</a>")
	assert.Contains(t, body, "suits as it is, after reading a label")
	assert.NotContains(t, body, ">Carrot-hazelnut ring cake</a>", "it holds flour")
	_, body = s.get("/?suits=egg-free")
	assert.Contains(t, body, "suits as “egg-free, dairy-free”", "a kept version")
	_, body = s.get("/?kind=scone")
	assert.Contains(t, body, ">Cheddar-and-chive scones</a>")
	assert.NotContains(t, body, ">Pear and cardamom loaf</a>")
	_, body = s.get("/?suits=dairy-free")
	assert.NotContains(t, body, ">Lemon-poppy squares</a>")
	code, page, _ := s.post(lemon+"/versions", url.Values{"diet": {"dairy-free"}})
	require.Equal(t, 303, code, page)
	_, body = s.get("/?suits=dairy-free")
	assert.Contains(t, body, ">Lemon-poppy squares</a>")
	assert.Contains(t, body, "suits as “dairy-free”, after reading a label")
	_, body = s.get("/?suits=1")
	assert.Contains(t, body, `<option value="1" selected>`)
}

// Whatever is put away can be brought back, weeks later.
func TestWhatIsPutAwayComesBack(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, _, draft := s.post("/recipes", url.Values{"text": {"Half a thought\n200 g flour"}})
	for at, form := range map[string]url.Values{
		pear + "/delete": nil, "/people/1": {"do": {"leave"}, "name": {"cox"}}, "/ovens/1": {"do": {"leave"}}, "/tins/3": {"do": {"leave"}},
		"/larder/i/egg/forget": nil, s.begin(): {"what": {"drop"}}, draft: {"do": {"leave"}},
	} {
		code, body, _ := s.post(at, form)
		require.Equal(t, 303, code, at+body)
	}
	_, body := s.get("/away")
	rows := regexp.MustCompile(`<form method="post" action="([^"]*)">((?:<input type="hidden" name="[^"]*" value="[^"]*">)*)`).FindAllStringSubmatch(body, -1)
	require.Len(t, rows, 7, body)
	assert.Contains(t, body, "Half a thought")
	for _, r := range rows {
		form := url.Values{}
		for _, in := range regexp.MustCompile(`name="([^"]*)" value="([^"]*)"`).FindAllStringSubmatch(r[2], -1) {
			form.Set(in[1], in[2])
		}
		code, _, _ := s.post(r[1], form)
		assert.Equal(t, 303, code, r[1])
	}
	_, body = s.get("/away")
	assert.Contains(t, body, "Nothing was put away.")
	_, body = s.get("/larder/i/egg")
	assert.Contains(t, body, "Back to the larder’s own figures")
	_, _, again := s.post(pear+"/duplicate", nil)
	_, body = s.get(again)
	assert.Contains(t, body, "Pear and cardamom loaf (2)")
}

// Side by side begins with two ways that are near.
func TestSideBySideBegins(t *testing.T) {
	s := newSite(t)
	_, body := s.get(s.id("Pear and cardamom loaf") + "/beside")
	assert.Equal(t, 3, strings.Count(body, `<th scope="col">`), "as written, and two")
	assert.Contains(t, body, "egg-free, with chia gel")
}

// What was put away holds up nothing that stood on it: a plan opens and says what it is without, a page worked out for somebody who
// left says that; and taking away and bringing back are pressed twice without harm.
func TestWhatStandsOnWhatWasPutAway(t *testing.T) {
	s := newSite(t)
	require.NoError(t, demo.Season(t.Context(), s.st))
	rolls, scones := s.id("Rye-honey rolls"), s.id("Cheddar-and-chive scones")
	b := url.Values{"b": {rolls[len("/recipes/"):] + ":", scones[len("/recipes/"):] + ":"}}.Encode()
	_, _, plan := s.post("/plans", url.Values{"plan": {b}})
	twice := func(at string, away, back url.Values) {
		for _, form := range []url.Values{away, away, back, back} {
			path := at
			if to := form.Get("to"); to != "" {
				path += to
			}
			code, _, _ := s.post(path, form)
			assert.Equal(t, 303, code, "%s %v", path, form)
		}
	}
	twice(rolls, url.Values{"to": {"/delete"}}, url.Values{"to": {"/restore"}})
	twice(plan, url.Values{"do": {"drop"}}, url.Values{"do": {"restore"}})
	twice("/bakes/2", url.Values{"what": {"drop"}}, url.Values{"what": {"restore"}})
	s.post(rolls+"/delete", nil)
	s.post("/people/1", url.Values{"do": {"leave"}})
	const says = "“Rye-honey rolls” was put away, and is left out here."
	for _, page := range []string{plan, plan + "/shop", plan + "/shop.txt", "/bakes/new?" + b, "/plans/shop?" + b} {
		code, body := s.get(page)
		assert.Equal(t, 200, code, page)
		assert.Contains(t, body, says, page)
		assert.Contains(t, body, "scones", page)
	}
	_, whole := s.get(plan)
	assert.Contains(t, whole, "Until then the others are not planned either.")
	code, _ := s.get("/plans/shop?b=99:")
	assert.Equal(t, 404, code, "what never was")
	names, err := s.st.NameOf(t.Context(), "person", 1)
	require.NoError(t, err)
	for _, page := range []string{"/adapt", "/nutrition", "/heat"} {
		_, body := s.get(scones + page + "?eater=1&eater=2")
		assert.Contains(t, body, names+" has left the table: what they must not have is not asked here.", page)
		_, body = s.get(scones + page + "?eater=2")
		assert.NotContains(t, body, "left the table", page)
	}
	_, body := s.get(scones + "/adapt?eater=1&eater=99")
	assert.Contains(t, body, names+" and Somebody have left the table")

	// a picture of a bake that was put away comes back with it
	s.post("/photos/1", url.Values{"do": {"drop"}})
	_, body = s.get("/away")
	assert.Contains(t, body, `action="/photos/1"`)
	p, err := s.st.Photos(t.Context(), 0)
	require.NoError(t, err)
	s.post("/photos/1", url.Values{"do": {"restore"}})
	s.post(fmt.Sprintf("/bakes/%d", p[0].Bake), url.Values{"what": {"drop"}})
	_, body = s.get("/away")
	assert.NotContains(t, body, `action="/photos/1"`)
}
