package web_test

import (
	"fmt"
	"html"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/store"
)

// An oven is described by a sentence and measured; what cannot be used stays where it
// was typed; it is put away and brought back.
func TestOvensOfTheHousehold(t *testing.T) {
	s := newSite(t)
	code, body, _ := s.post("/ovens", url.Values{"name": {""}, "width": {"wide"}, "shelves": {"9"}, "fan": {"1"}})
	assert.Equal(t, 422, code)
	for _, says := range []string{"Give it a name", "“wide” cannot be that: try the shelf&#39;s width in cm", "“9” cannot be that", `value="wide"`} {
		assert.Contains(t, body, says)
	}
	code, _, _ = s.post("/ovens", url.Values{"name": {"galley oven"}, "width": {"44 cm"}, "depth": {"37"}, "shelves": {"1"}})
	require.Equal(t, 303, code)
	all, err := s.st.Ovens(t.Context())
	require.NoError(t, err)
	o := all[len(all)-1]
	at := fmt.Sprintf("/ovens/%d", o.ID)
	code, body, _ = s.post(at, url.Values{"do": {"reading"}, "dial": {"180"}, "air": {"warm"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "“warm” is no oven&#39;s heat: try 180 C or 350 F")
	assert.Contains(t, body, `value="warm"`)
	for _, air := range []string{"168", "334 F"} { // 334 °F is 167.8 °C
		code, _, _ = s.post(at, url.Values{"do": {"reading"}, "dial": {"180"}, "air": {air}})
		require.Equal(t, 303, code)
	}
	_, body = s.get("/ovens")
	assert.Contains(t, body, "10 ± 5 °C cooler than its dial.")
	for range 2 { // in two windows
		_, _, _ = s.post(at, url.Values{"do": {"forget"}, "n": {"0"}})
	}
	_, _, _ = s.post(at, url.Values{"do": {"forget"}, "n": {"7"}})
	all, err = s.st.Ovens(t.Context())
	require.NoError(t, err)
	last := all[len(all)-1]
	require.Len(t, last.Readings, 2)
	assert.Equal(t, []bool{true, false}, []bool{last.Readings[0].Forgotten, last.Readings[1].Forgotten})
	assert.EqualValues(t, 1, last.Learned().Readings, "what is forgotten counts no more")
	_, body = s.get("/ovens")
	assert.Contains(t, body, "Count it again")
	_, _, _ = s.post(at, url.Values{"do": {"count"}, "n": {"0"}})
	all, err = s.st.Ovens(t.Context())
	require.NoError(t, err)
	assert.EqualValues(t, 2, all[len(all)-1].Learned().Readings)
	code, _, loc := s.post(at, url.Values{"do": {"leave"}, "called": {"galley oven"}})
	require.Equal(t, 303, code)
	_, body = s.get(loc)
	assert.Contains(t, body, "galley oven is put away")
	_, _, _ = s.post(at, url.Values{"do": {"return"}})
	_, body = s.get("/ovens")
	assert.Contains(t, body, ">galley oven")
	code, _, _ = s.post("/ovens/999", url.Values{"name": {"none"}})
	assert.Equal(t, 404, code)
}

// A tin is known by its sizes or by the water it held, and offered by its own name.
func TestTinsOfTheHousehold(t *testing.T) {
	s := newSite(t)
	code, body, _ := s.post("/tins", url.Values{"name": {"odd"}, "shape": {"loaf"}, "length": {"200"}, "water": {"none"}})
	assert.Equal(t, 422, code)
	for _, says := range []string{"“200” cannot be that", "Measure inside: a number of cm such as 13", "the water it holds in g or ml", `value="200"`} {
		assert.Contains(t, body, says)
	}
	for _, form := range []url.Values{
		{"name": {"long one"}, "shape": {"loaf"}, "length": {"12"}, "width": {"31"}, "deep": {"8"}, "metal": {"dark"}},
		{"name": {"blue bowl"}, "shape": {"round"}, "length": {"19"}, "deep": {"9"}, "water": {"1850"}, "metal": {"glass"}},
		{"name": {"paper cups"}, "shape": {"cups"}, "count": {"8"}},
	} {
		code, body, _ := s.post("/tins", form)
		require.Equal(t, 303, code, body)
	}
	_, body = s.get(s.id("Pear and cardamom loaf") + "/heat?tin=" + url.QueryEscape("round 19 cm, 9 cm deep, holds 1850 ml, glass"))
	assert.Contains(t, body, `<option value="long one">loaf 31×12 cm, 8 cm deep, dark metal</option>`)
	assert.Contains(t, body, `<option value="paper cups">8 muffin cups</option>`)
	assert.Contains(t, body, "Glass and stone crack")
	tins, err := s.st.OwnTins(t.Context())
	require.NoError(t, err)
	last := tins[len(tins)-1]
	code, _, gone := s.post(fmt.Sprintf("/tins/%d", last.ID), url.Values{"do": {"leave"}, "called": {last.Name}})
	require.Equal(t, 303, code)
	_, page := s.get(gone)
	assert.Contains(t, page, "paper cups is put away")
	assert.NotContains(t, page, "<b>paper cups</b>")
	assert.Contains(t, page, "<td>22.9 × 12.7 cm</td><td>7.6 cm</td><td>1890 ml</td>", "the catalogue's loaf, by the trade's table")
	_, _, _ = s.post(fmt.Sprintf("/ovens/%d", last.ID), url.Values{"do": {"return"}})
	_, page = s.get("/ovens")
	assert.Contains(t, page, "<b>paper cups</b>")
	assert.Contains(t, body, "in round 19 cm, 9 cm deep, holds 1850 ml, glass", "the tin is understood as it was written")
}

// A tin is found by its name and changed; a second of a name is refused; water to the rim is enough; what is not sure is asked.
func TestATinByItsName(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	code, body, _ := s.post("/tins", url.Values{"name": {"Granny's fluted"}, "shape": {"ring"}, "water": {"2400"}})
	require.Equal(t, 303, code, body)
	_, body = s.get(pear + "/heat?tin=" + url.QueryEscape("granny’s fluted"))
	assert.Contains(t, body, `name="tin" size="22" value="Granny&#39;s fluted"`)
	assert.Contains(t, body, "in ring 25 cm, holds 2400 ml")
	tins, err := s.st.OwnTins(t.Context())
	require.NoError(t, err)
	own := tins[len(tins)-1]
	for _, name := range []string{"GRANNY'S  Fluted", "round 20 cm"} {
		code, body, _ = s.post("/tins", url.Values{"name": {name}, "shape": {"round"}, "length": {"9 in"}})
		assert.Equal(t, 422, code)
		assert.Contains(t, body, "already")
		assert.Contains(t, body, `value="9 in"`, "what was typed is kept")
	}
	code, _, _ = s.post("/ovens", url.Values{"name": {"The old gas oven"}})
	assert.Equal(t, 422, code)
	code, _, _ = s.post(fmt.Sprintf("/tins/%d", own.ID), url.Values{"name": {"Granny's ring"}, "shape": {"ring"}, "length": {"9½ in"}, "deep": {"8"}})
	require.Equal(t, 303, code)
	_, body = s.get("/ovens")
	assert.Contains(t, body, "<b>Granny&#39;s ring</b><span>ring 24.1 cm, 8 cm deep")
	assert.Contains(t, body, fmt.Sprintf(`id="tin-%d-length" name="length" size="5" value="24.1"`, own.ID))
	_, body = s.get(pear + "/heat?tin=grannys+fluted")
	assert.Contains(t, body, "names no tin", "it is called otherwise now")
	assert.Contains(t, body, "Granny&#39;s ring")
	_, body = s.get(pear + "/heat?tin=12+cups")
	assert.Contains(t, body, "Muffin cups, or a tin that holds so many cups?")
	assert.Regexp(t, `tin=ring[^"]*10[^"]*in">ring 10 in</a>`, body)
}

// All the tins of a recipe are read: those beside each other part the batter, those named as another way are offered.
func TestARecipesTins(t *testing.T) {
	s := newSite(t)
	_, _, at := s.post("/recipes", url.Values{"text": {"Pear squares\n300 g plain flour\n200 g sugar\n150 g butter\n3 eggs\n200 ml milk\n3 tsp baking powder\n\nLine a 20 cm square tin and 6 muffin cups, or use a ring tin. Mix everything. Bake at 180 C for 35 minutes."}})
	_, body := s.get(at)
	assert.Contains(t, body, `value="square 20 cm and 6 muffin cups or ring 10 in"`)
	assert.Contains(t, body, "No size is said: the usual large one?")
	assert.Contains(t, body, `name="tin-or" value="square 20 cm and 6 muffin cups or ring 20 cm"`)
	code, _, _ := s.post(at, url.Values{"do": {"facts"}, "rev": {"1"}, "title": {"Pear squares"}, "tin": {"x"}, "tin-or": {"square 20 cm and 6 muffin cups or ring 20 cm"}})
	require.Equal(t, 200, code)
	_, body = s.get(at)
	assert.Contains(t, body, `value="square 20 cm and 6 muffin cups or ring 20 cm"`)
	assert.NotContains(t, body, "tin-or")
	_, _, at = s.post(at, url.Values{"do": {"keep"}, "rev": {"2"}})
	_, body = s.get(strings.Replace(at, "/adapt", "/heat", 1))
	assert.Contains(t, body, "in square 20 cm and 6 muffin cups or ring 20 cm")
	assert.Regexp(t, `Beside it in 6 muffin cups with 27 % of the batter: first look at \d+ min`, body)
	assert.Regexp(t, `The recipe also names <a [^>]*>ring 20 cm</a>`, body)
}

// The chosen oven says which dial to set and what stands on its shelf.
func TestBakingInAnOvenThatIsKnown(t *testing.T) {
	s := newSite(t)
	id, err := s.st.AddOven(t.Context(), store.Oven{Name: "galley oven", Fan: true, Width: 40, Depth: 32, Shelves: 1, Readings: []store.Reading{{Dial: 180, Air: 200, On: "2026-01-05"}}})
	require.NoError(t, err)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(fmt.Sprintf("%s/heat?in=%d&tin=%s", pear, id, url.QueryEscape("4 × loaf 15×8 cm")))
	assert.Contains(t, body, "hotter than its dial. For 155 °C inside, set it to 145 °C")
	assert.Contains(t, body, "A fan oven is set 20 °C lower.")
	assert.Contains(t, body, "2 of 4 tins go in at once: bake the rest after them.")
	_, body = s.get(fmt.Sprintf("%s/heat?in=%d&at=150", pear, id))
	assert.Contains(t, body, "Set to 150 °C it bakes at about 165 °C.")
	_, body = s.get(pear + "/heat?in=4711")
	assert.Contains(t, body, "First look <b>39 min</b>", "an oven that is gone is nobody's")
}

// Above 900 m the advice is offered in this recipe's amounts, and taken by one press.
func TestAKitchenInTheMountains(t *testing.T) {
	s := newSite(t)
	squares := s.id("Lemon-poppy squares")
	_, body := s.get(squares + "/heat")
	assert.NotContains(t, body, "Extension services")
	code, body, _ := s.post("/kitchen", url.Values{"altitude": {"up high"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "try metres above the sea")
	code, _, _ = s.post("/kitchen", url.Values{"altitude": {"1,800 m"}})
	require.Equal(t, 303, code)
	_, body = s.get(squares + "/heat")
	assert.Contains(t, body, "At 1800 m")
	assert.Regexp(t, `baking powder [\d.]+ g → \d`, body)
	_, link, _ := strings.Cut(body, `class="btn-quiet altitude-take" href="`)
	link, _, _ = strings.Cut(link, `"`)
	_, body = s.get(squares + "/heat" + html.UnescapeString(link))
	assert.NotContains(t, body, "Extension services", "it is taken")
	assert.Contains(t, body, "hold")
	_, body = s.get(squares + "/heat?flame=1&collar=1")
	assert.Contains(t, body, "Only a pan that its maker allows dry and empty over heat")
	assert.Contains(t, body, "no newsprint")
}

// How the oven is used travels with the request: the bench foretells the same bake, and
// keeps it.
func TestTheOvenTravelsWithTheRequest(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	const set = "diet=egg-free&at=160&cold=1&metal=glass"
	_, heat := s.get(pear + "/heat?" + set)
	_, look, _ := strings.Cut(heat, "First look <b>")
	look, _, _ = strings.Cut(look, "</b>")
	_, bench := s.get(pear + "/adapt?" + set)
	assert.Contains(t, bench, "First look <b>"+look+"</b>")
	for _, field := range []string{`name="at" value="160C"`, `name="cold" value="1"`, `name="metal" value="glass"`} {
		assert.Contains(t, bench, field)
	}
	code, _, loc := s.post(pear+"/versions", url.Values{"diet": {"egg-free"}, "at": {"160"}, "cold": {"1"}, "metal": {"glass"}})
	require.Equal(t, 303, code)
	_, kept := s.get(loc)
	assert.Contains(t, kept, "First look <b>"+look+"</b>")
	_, card := s.get(loc + "/card")
	assert.Contains(t, card, "160 °C, goes into a cold oven, in loaf 9x5 in · first look "+look)
	_, heat = s.get(pear + "/heat?lower=1&after=30")
	assert.Contains(t, heat, "At 175 °C, then on a lower shelf after 30 min, in loaf 9x5 in")
	assert.Regexp(t, `name="lower" value="1" checked`, heat)
	_, heat = s.get(pear + "/heat?lower=1")
	assert.Contains(t, heat, "Say after how many minutes that is")
	_, heat = s.get(pear + "/heat?fan=1&then=140&after=20&covered=1")
	assert.Contains(t, heat, "At 155 °C fan, covered with foil or a lid, then 140 °C after 20 min, in loaf 9x5 in")
}

const ryeRolls = "Rye-honey rolls" // as it is written on the card

// A household in °F types and reads °F: the dial, the second heat, the batter, a
// thermometer, a dough's water. A scale that is written wins.
func TestOvensInFahrenheit(t *testing.T) {
	s := newSite(t)
	require.NoError(t, s.st.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Kitchen.Fahrenheit = true }))
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/heat?at=325&then=300&after=20&batter=40")
	for _, says := range []string{`name="at" size="7" value="325 °F"`, `value="300 °F"`, `value="40 °F"`, "At 325 °F, then 300 °F after 20 min, in loaf 9x5 in", "The middle passes 205 °F"} {
		assert.Contains(t, body, says)
	}
	_, same := s.get(pear + "/heat?at=162.8C&then=148.9C&after=20&batter=4.4C")
	assert.Equal(t, strings.Count(body, "First look <b>"), strings.Count(same, "First look <b>"))
	assert.Contains(t, same, `name="at" size="7" value="325 °F"`, "links carry °C with its scale")
	assert.Contains(t, same, "Ovens lie by 18 to 27 °F")
	_, body = s.get(pear + "/heat?batter=120")
	assert.Contains(t, body, "“120 F” is no batter&#39;s temperature")
	code, _, _ := s.post("/ovens/1", url.Values{"do": {"reading"}, "dial": {"350"}, "air": {"190 C"}})
	require.Equal(t, 303, code)
	_, body = s.get("/ovens")
	assert.Contains(t, body, "dial 350 °F, thermometer 374 °F")
	rolls := s.id(ryeRolls)
	_, body = s.get(rolls + "/adapt?tab=different&dough=78&room=hot")
	assert.Contains(t, body, "“hot” is no such temperature: try 68")
	assert.Contains(t, body, "value=\"78\"")
	assert.Regexp(t, `<b>\d+ °F</b> for a dough kneaded by hand: three times the dough’s heat, less flour, room and 11 °F of kneading`, body)
	_, body = s.get(rolls + "/adapt?tab=recipe&diet=gluten-free")
	assert.Contains(t, body, "the middle reads 205 to 210 °F")
	for _, page := range []string{rolls + "/adapt?tab=recipe&diet=gluten-free", pear + "/heat?fan=1&diet=keto", "/ovens"} {
		_, body = s.get(page)
		assert.NotContains(t, body, "°C", page)
	}
}

// Three times 26 °C, less flour and room at 20 and 6 of kneading, is 32 °C; warmer flour
// asks for cooler water.
func TestTheWaterOfADough(t *testing.T) {
	s := newSite(t)
	rolls := s.id(ryeRolls)
	_, body := s.get(rolls + "/adapt?tab=different&diet=")
	assert.Contains(t, body, "<b>32 °C</b> for a dough kneaded by hand")
	_, body = s.get(rolls + "/adapt?tab=different&diet=&flour=28&room=25")
	assert.Contains(t, body, "<b>19 °C</b>")
	_, body = s.get(s.id("Pear and cardamom loaf") + "/adapt?tab=different&diet=")
	assert.NotContains(t, body, "kneaded by hand")
}

// A is what the address of the pinned set-up says; a broken one is left aside.
func TestASetUpIsPinned(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/heat?diet=egg-free&at=160")
	assert.Contains(t, body, "a=at%3D160C%26diet%3Degg-free%26", "pinning carries the whole set-up")
	_, body = s.get(pear + "/heat?diet=egg-free&a=" + url.QueryEscape("diet=egg-free&at=160C&"))
	assert.Regexp(t, `A, loaf 9x5 in at 160 °C: First look \d+ min\. Likely done \d+–\d+ min\. <b>B is done \d min sooner\.</b>`, body)
	_, body = s.get(pear + "/heat?diet=egg-free&a=" + url.QueryEscape("diet=egg-free&"))
	assert.Contains(t, body, "Both are done together.")
	_, body = s.get(pear + "/heat?at=190&a=" + url.QueryEscape("at=190C&tin=loaf 9x5 in, dark metal&"))
	assert.Contains(t, body, "min later")
	for _, broken := range []string{"%zz", "at=lukewarm&", ";;"} {
		code, body := s.get(pear + "/heat?a=" + url.QueryEscape(broken))
		assert.Equal(t, 200, code, broken)
		assert.Contains(t, body, "First look <b>", broken)
	}
}

// An oven's sentence follows what was measured: unknown, true, hotter, cooler; more
// readings narrow it.
func TestWhatIsSaidOfAnOven(t *testing.T) {
	s := newSite(t)
	id, err := s.st.AddOven(t.Context(), store.Oven{Name: "loft oven"})
	require.NoError(t, err)
	said := func() string {
		_, body := s.get("/ovens")
		_, rest, found := strings.Cut(body, fmt.Sprintf(`<h3 id="oven-%d">`, id))
		require.True(t, found)
		_, rest, _ = strings.Cut(rest, `<p class="lead-words">`)
		sentence, _, _ := strings.Cut(rest, "</p>")
		return sentence
	}
	assert.Contains(t, said(), "Nothing is measured yet: ovens lie by 10 to 15 °C")
	note := func(air string) {
		code, _, _ := s.post(fmt.Sprintf("/ovens/%d", id), url.Values{"do": {"reading"}, "dial": {"180"}, "air": {air}})
		require.Equal(t, 303, code)
	}
	note("181")
	assert.Equal(t, "True to its dial, within 7 °C.", said())
	for range 3 {
		note("165")
	}
	const cooler = "10 ± 4 °C cooler than its dial. Your 4 readings differ on average by 11 °C; so few draw it a little towards an honest dial."
	assert.Equal(t, cooler, said(), "by hand: (1 - 45)/64 over 1/144 + 4/64")
	code, _, _ := s.post(fmt.Sprintf("/ovens/%d", id), url.Values{"name": {"loft oven, fan"}, "fan": {"1"}, "width": {"41,5"}, "depth": {"30"}, "shelves": {"2"}, "preheat": {"25"}})
	require.Equal(t, 303, code)
	assert.Equal(t, cooler, said(), "a new name forgets no reading")
	all, err := s.st.Ovens(t.Context())
	require.NoError(t, err)
	o := all[len(all)-1]
	assert.Equal(t, "loft oven, fan", o.Name)
	assert.InDelta(t, 41.5, o.Width, 1e-9)
	assert.Equal(t, 2, o.Shelves)
	assert.Len(t, o.Readings, 4)
	assert.Equal(t, 25, o.Preheat)
}
