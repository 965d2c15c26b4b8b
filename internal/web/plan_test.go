package web_test

import (
	"html"
	"net/url"
	"regexp"
	"strings"
	"testing"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A plan says when to begin, holds the bake's tasks in order, and is a calendar too; what is
// asked of the recipe travels with it.
func TestThePlanOfARecipe(t *testing.T) {
	s := newSite(t)
	at := s.shelve("Seed loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n150 ml milk\n2 tsp baking powder\n\nCream the butter and sugar. Beat in the eggs and milk. Fold in the flour and powder. Bake in a 9x5 in loaf tin at 180C for 45 minutes.")
	code, body := s.get(at + "/plan?diet=egg-free&eat=2099-12-05T09:00")
	require.Equal(t, 200, code)
	body = html.UnescapeString(body)
	assert.Regexp(t, `<p class="plan-begin">Begin Saturday 0\d:\d\d\.</p>`, body)
	assert.Contains(t, body, "Stir 14 g ground flax into")
	assert.NotContains(t, body, "plan-late")
	assert.Contains(t, body, `<input type="hidden" name="diet" value="egg-free"`)
	order := []string{"Stir 14 g ground flax", "Cream the butter", "Fold in the flour", "Look first at", "Cool"}
	last := 0
	for _, o := range order {
		list := body[strings.Index(body, `class="plan-list"`):]
		k := strings.Index(list, o)
		assert.Greater(t, k, last, o)
		last = k
	}
	link := regexp.MustCompile(`href="(/recipes/\d+/plan\.ics\?[^"]*)"`).FindStringSubmatch(body)
	require.NotNil(t, link)
	code, calendar := s.get(link[1])
	require.Equal(t, 200, code)
	cal, err := ics.ParseCalendar(strings.NewReader(calendar))
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(cal.Events()), 7)
}

// A meal that has passed is late, and the ways out are named; what cannot be read is said.
func TestWhatAPlanSaysIsWrong(t *testing.T) {
	s := newSite(t)
	at := s.shelve("Seed loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n150 ml milk\n2 tsp baking powder\n\nMix. Bake in a 9x5 in loaf tin at 180C for 45 minutes.")
	for query, says := range map[string]string{
		"eat=2001-01-06T09:00":                           "Ways out",
		"eat=soon":                                       "“soon” is no time: say when it is eaten",
		"eat=2099-12-05T09:00&cooks=many":                "“many” cannot be the number of cooks: try 1 to 9",
		"eat=2099-12-05T09:00&from=late":                 "“late” is no hour of the day: try 06:00 to 22:30",
		"eat=2099-12-05T09:00&from=12:00&to=12:01":       "No room within three weeks",
		"eat=2099-12-05T09:00&diet=keto&ban=almonds,egg": "",
	} {
		code, body := s.get(at + "/plan?" + query)
		require.Equal(t, 200, code, query)
		assert.Contains(t, html.UnescapeString(body), says, query)
	}
	code, body := s.get("/plans")
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "No plan is kept yet.")
	code, body = s.get("/plans?b=nothing")
	assert.Equal(t, 200, code)
	assert.Contains(t, html.UnescapeString(body), "Nothing to plan: name a recipe.")
	code, _ = s.get("/plans?b=9999:")
	assert.Equal(t, 404, code)
}

// A plan of several is a plan of several though it holds one: what is asked travels with it.
func TestAPlanOfOneByItsAddress(t *testing.T) {
	s := newSite(t)
	one := s.shelve("Plain loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n150 ml milk\n2 tsp baking powder\n\nMix. Bake in a 9x5 in loaf tin at 180C for 45 minutes.")
	b := one[len("/recipes/"):] + ":diet=egg-free"
	code, body := s.get("/plans?" + url.Values{"b": {b}, "eat": {"2099-12-05T09:00"}}.Encode())
	require.Equal(t, 200, code)
	assert.Contains(t, body, `<input type="hidden" name="b" value="`+b+`"`)
	assert.Contains(t, body, "<h1>Plain loaf</h1>")
}

// A kept version is planned as it was worked out then.
func TestThePlanOfAKeptVersion(t *testing.T) {
	s := newSite(t)
	at := s.shelve("Plain loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n150 ml milk\n2 tsp baking powder\n\nMix. Bake in a 9x5 in loaf tin at 180C for 45 minutes.")
	code, _, loc := s.post(at+"/versions", url.Values{"diet": {"egg-free"}})
	require.Equal(t, 303, code)
	version := strings.TrimPrefix(loc, "/versions/")
	_, body := s.get(loc)
	assert.Contains(t, body, `href="/plans?b=v`+version+`"`)
	code, body = s.get("/plans?b=v" + version + "&eat=2099-12-05T09:00")
	require.Equal(t, 200, code)
	body = html.UnescapeString(body)
	assert.Contains(t, body, "Plain loaf, egg-free")
	assert.Contains(t, body, "Stir 14 g ground flax")
	assert.Contains(t, body, `<input type="hidden" name="b" value="v`+version+`"`)
}

// Several bakes share the ovens, and what must not meet the others comes first.
func TestThePlanOfSeveral(t *testing.T) {
	s := newSite(t)
	one := s.shelve("Plain loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n150 ml milk\n2 tsp baking powder\n\nMix. Bake in a 9x5 in loaf tin at 180C for 45 minutes.")
	two := s.shelve("Seed cake\nServes 10\n\n200 g plain flour\n150 g sugar\n150 g butter\n3 eggs\n2 tsp baking powder\n\nMix. Bake in a 20 cm round tin at 170C for 40 minutes.")
	b := url.Values{"b": {one[len("/recipes/"):] + ":", two[len("/recipes/"):] + ":diet=gluten-free&ban=nuts"}, "eat": {"2099-12-05T09:00"}}
	code, body := s.get("/plans?" + b.Encode())
	require.Equal(t, 200, code)
	body = html.UnescapeString(body)
	assert.Contains(t, body, "Plain loaf and Seed cake")
	list := body[strings.Index(body, `class="plan-list"`):]
	assert.Less(t, strings.Index(list, "<b>Seed cake:</b> Mix"), strings.Index(list, "<b>Plain loaf:</b> Mix"), "gluten-free and nut-free before the other")
}

// One list for the bakes of a plan, as a page, text and CSV.
func TestTheListToBuy(t *testing.T) {
	s := newSite(t)
	one := s.shelve("Plain loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n150 ml milk\n2 tsp baking powder\n\nMix. Bake in a 9x5 in loaf tin at 180C for 45 minutes.")
	two := s.shelve("Seed cake\nServes 10\n\n200 g plain flour\n150 g sugar\n150 g butter\n3 eggs\n2 tsp baking powder\n\nMix. Bake in a 20 cm round tin at 170C for 40 minutes.")
	b := url.Values{"b": {one[len("/recipes/"):] + ":diet=gluten-free", two[len("/recipes/"):] + ":"}}.Encode()
	code, body := s.get("/plans/shop?" + b)
	require.Equal(t, 200, code)
	assert.Contains(t, body, "For Plain loaf and Seed cake.")
	assert.Regexp(t, `<p class="quiet-words">In the house: [^<]*egg`, body, "as the demo's packs say")
	assert.Contains(t, body, "<b>240 g</b> 1:1 gluten-free blend")
	assert.Contains(t, body, "read the label for gluten")
	code, text := s.get("/plans/shop.txt?" + b)
	require.Equal(t, 200, code)
	assert.Contains(t, text, "[ ] 240 g 1:1 gluten-free blend")
	assert.NotContains(t, text, " egg")
	code, table := s.get("/plans/shop.csv?" + b)
	require.Equal(t, 200, code)
	assert.Contains(t, table, "\negg,egg,250,250,,0,\n")
	code, body = s.get("/plans/shop")
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "For no bake.")
	_, body = s.get("/plans?eat=2099-12-05T09:00&" + b)
	assert.Contains(t, html.UnescapeString(body), "/plans/shop?"+b)
}
