package web_test

import (
	"html"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

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
	assert.Contains(t, body, "Boathouse breakfast", "what is kept is listed")
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
	assert.Contains(t, body, "Read the label for gluten")
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

const plainLoaf = "Plain loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n150 ml milk\n2 tsp baking powder\n\nMix. Bake in a 9x5 in loaf tin at 180C for 45 minutes. Cool on a rack."

// keptPlan keeps a plan of a loaf and of rolls, and gives its address.
func keptPlan(t *testing.T, s site) string {
	t.Helper()
	one := s.shelve(plainLoaf)
	two := s.shelve("Seed rolls\nMakes 12\n\n500 g strong white bread flour\n7 g instant yeast\n9 g salt\n320 ml water\n\nMix and knead for 10 minutes. Leave to rise 1 hour. Shape into 12 rolls on a baking sheet, leave to rise for 45 minutes. Bake at 210C for 18 minutes.")
	b := url.Values{"b": {one[len("/recipes/"):] + ":diet=egg-free", two[len("/recipes/"):] + ":"}, "eat": {"2099-12-05T08:30"}, "p-serve": {"", "warm"}, "room": {"22"}}
	code, body := s.get("/plans?" + b.Encode())
	require.Equal(t, 200, code)
	keep := regexp.MustCompile(`name="plan" value="([^"]*)"`).FindStringSubmatch(body)
	require.NotNil(t, keep)
	code, _, at := s.post("/plans", url.Values{"plan": {html.UnescapeString(keep[1])}, "name": {"Saturday"}})
	require.Equal(t, 303, code)
	return at
}

// A kept plan is listed, shows what was asked, and is taken away and put back.
func TestAPlanIsKept(t *testing.T) {
	s := newSite(t)
	at := keptPlan(t, s)
	code, body := s.get(at)
	require.Equal(t, 200, code)
	body = html.UnescapeString(body)
	assert.Contains(t, body, "<h1>Saturday</h1>")
	assert.Contains(t, body, "set it in the fridge to rise slowly")
	assert.Contains(t, body, "A rise of Seed rolls is made in the fridge")
	assert.Contains(t, body, `<option value="warm" selected>`)
	assert.Contains(t, body, `name="room" size="3" value="22"`)
	_, list := s.get("/plans")
	assert.Contains(t, list, `<a class="plans-name" href="`+at+`">Saturday</a>`)
	assert.Contains(t, list, "Saturday 5 December, 08:30")
	all := regexp.MustCompile(`href="(/plans/shop\?[^"]*)"`).FindStringSubmatch(list)
	require.NotNil(t, all)
	_, shop := s.get(html.UnescapeString(all[1]))
	assert.Contains(t, shop, "Plain loaf, Seed rolls, Pear and cardamom loaf", "of both plans")

	s.post(at, url.Values{"do": {"rename"}, "name": {"The breakfast"}})
	_, _, loc := s.post(at, url.Values{"do": {"drop"}})
	code, list = s.get(loc)
	require.Equal(t, 200, code)
	assert.Contains(t, html.UnescapeString(list), "“The breakfast” is taken away.")
	assert.NotContains(t, list, `href="`+at+`"`)
	code, _ = s.get(at)
	assert.Equal(t, 404, code)
	s.post(at, url.Values{"do": {"restore"}})
	code, _ = s.get(at)
	assert.Equal(t, 200, code)
	code, _, _ = s.post("/plans", url.Values{"plan": {"b=nothing"}})
	assert.Equal(t, 400, code)
}

// What is asked of a kept plan is changed as a whole or by one thing; a window that is behind is told.
func TestAKeptPlanIsChanged(t *testing.T) {
	s := newSite(t)
	at := keptPlan(t, s)
	page := func() string {
		code, body := s.get(at)
		require.Equal(t, 200, code)
		return html.UnescapeString(body)
	}
	rev := func() string {
		return regexp.MustCompile(`name="rev" value="(\d+)"`).FindStringSubmatch(page())[1]
	}
	old := rev()
	s.post(at, url.Values{"do": {"eat"}, "at": {"2099-12-05T09:30"}})
	assert.Contains(t, page(), "Eat Saturday 5 December, 09:30")
	s.post(at, url.Values{"do": {"oven"}, "bake": {"1"}, "oven": {"small electric oven"}})
	assert.Contains(t, page(), `<option value="small electric oven" selected>`)
	s.post(at, url.Values{"do": {"pin"}, "key": {"1.0"}, "at": {"2099-12-04T18:05"}})
	assert.Regexp(t, `18:05</span><span class="plan-text"><b>Seed rolls:</b> Mix`, page())
	assert.Contains(t, page(), "Moved")
	s.post(at, url.Values{"do": {"pin"}, "key": {"1.0"}})
	assert.NotContains(t, page(), "Moved")
	_, _, loc := s.post(at, url.Values{"do": {"late"}, "minutes": {"soon"}})
	_, body := s.get(loc)
	assert.Contains(t, html.UnescapeString(body), "“soon” are no minutes: try 20.")
	_, _, loc = s.post(at, url.Values{"do": {"eat"}, "at": {"noon"}})
	_, body = s.get(loc)
	assert.Contains(t, html.UnescapeString(body), "“noon” is no time.")

	for _, nothing := range []url.Values{{"do": {"nonsense"}}, {}, {"b": {"none"}}} {
		_, _, loc = s.post(at, nothing)
		_, body = s.get(loc)
		assert.Contains(t, html.UnescapeString(body), "Nothing was changed", "%v", nothing)
	}
	b := regexp.MustCompile(`name="b" value="([^"]*)"`).FindAllStringSubmatch(page(), -1)
	form := url.Values{"b": {b[0][1], b[1][1]}, "eat": {"2099-12-06T10:00"}, "cooks": {"2"}, "p-serve": {"iced", ""}, "rev": {old}}
	code, _, _ := s.post(at, form)
	assert.Equal(t, 409, code, "changed meanwhile")
	form.Set("rev", rev())
	code, _, _ = s.post(at, form)
	require.Equal(t, 303, code)
	assert.Contains(t, page(), "Eat Sunday 6 December, 10:00")
	assert.Contains(t, page(), "Ice it when it is quite cold.")
}

// What is ticked is done; the rest moves with what is late, and what no longer fits is said.
func TestTheDayOfAPlan(t *testing.T) {
	s := newSite(t)
	one := s.shelve(plainLoaf)
	eat := time.Now().Add(100 * time.Minute).Format("2006-01-02T15:04")
	b := url.Values{"b": {one[len("/recipes/"):] + ":"}, "eat": {eat}, "from": {"00:00"}, "to": {"00:00"}}
	code, _, at := s.post("/plans", url.Values{"plan": {b.Encode()}})
	require.Equal(t, 303, code)
	page := func() string {
		code, body := s.get(at)
		require.Equal(t, 200, code)
		return html.UnescapeString(body)
	}
	body := page()
	assert.Contains(t, body, "<h1>Plain loaf</h1>", "named after its bakes")
	assert.Contains(t, body, "Ways out", "it would take longer")
	assert.Contains(t, body, `value="eat">Eat later`)
	keys := regexp.MustCompile(`name="key" value="([^"]+)"><input type="hidden" name="done"`).FindAllStringSubmatch(body, -1)
	require.GreaterOrEqual(t, len(keys), 5)
	s.post(at, url.Values{"do": {"tick"}, "key": {"none"}, "done": {"yes"}})
	assert.NotContains(t, page(), "1 done")
	s.post(at, url.Values{"do": {"tick"}, "key": {keys[0][1]}, "done": {"yes"}})
	body = page()
	assert.Contains(t, body, "1 done")
	assert.Contains(t, body, `class="plan-begin task"`)
	s.post(at, url.Values{"do": {"tick"}, "key": {keys[0][1]}})
	body = page()
	assert.NotContains(t, body, "1 done")

	later := regexp.MustCompile(`name="at" value="([^"]+)"><button class="btn-act" name="do" value="eat"`).FindStringSubmatch(body)
	require.NotNil(t, later)
	s.post(at, url.Values{"do": {"eat"}, "at": {later[1]}})
	assert.NotContains(t, page(), "Ways out")
	s.post(at, url.Values{"do": {"late"}, "minutes": {"20"}})
	body = page()
	assert.Contains(t, body, "Nothing begins before ")
	assert.Contains(t, body, "Ways out")

	for range 12 { // all of it, in its order
		if k := regexp.MustCompile(`name="key" value="([^"]+)"><input type="hidden" name="done"`).FindStringSubmatch(page()); k != nil {
			s.post(at, url.Values{"do": {"tick"}, "key": {k[1]}, "done": {"yes"}})
		}
	}
	assert.Contains(t, page(), "All is done.")
}

// A calendar may read a plan by a word that is given out and taken back, and nothing without it.
func TestTheAddressOfACalendar(t *testing.T) {
	s := newSite(t)
	at := keptPlan(t, s)
	code, _ := s.get(at + "/calendar.ics?word=")
	assert.Equal(t, 404, code)
	s.post(at, url.Values{"do": {"calendar"}, "on": {"yes"}})
	_, body := s.get(at)
	link := regexp.MustCompile(`<code>http://[^/]+(/plans/\d+/calendar\.ics\?word=\w+)</code>`).FindStringSubmatch(body)
	require.NotNil(t, link)
	code, first := s.get(link[1])
	require.Equal(t, 200, code)
	cal, err := ics.ParseCalendar(strings.NewReader(first))
	require.NoError(t, err)
	ids := map[string]string{}
	for _, e := range cal.Events() {
		ids[e.Id()] = e.GetProperty(ics.ComponentPropertySequence).Value
	}
	require.GreaterOrEqual(t, len(ids), 10)
	s.post(at, url.Values{"do": {"eat"}, "at": {"2099-12-05T10:30"}})
	_, second := s.get(at + "/plan.ics")
	cal, err = ics.ParseCalendar(strings.NewReader(second))
	require.NoError(t, err)
	for _, e := range cal.Events() {
		assert.Contains(t, ids, e.Id(), "the same events")
		assert.Greater(t, e.GetProperty(ics.ComponentPropertySequence).Value, ids[e.Id()])
	}
	code, _ = s.get(link[1] + "x")
	assert.Equal(t, 404, code)
	s.post(at, url.Values{"do": {"calendar"}})
	code, _ = s.get(link[1])
	assert.Equal(t, 404, code)
}

// What is ticked on the list stays so, goes into the house in packs, and comes out again; a finished
// plan takes what it used where the household wants that.
func TestTheListOfAKeptPlan(t *testing.T) {
	s := newSite(t)
	at := keptPlan(t, s)
	stock := func(id string) string {
		_, table := s.get("/larder.csv")
		for line := range strings.Lines(table) {
			if strings.HasPrefix(line, id+",") {
				return line
			}
		}
		return ""
	}
	code, body := s.get(at + "/shop")
	require.Equal(t, 200, code)
	assert.Contains(t, body, `value="strong-flour"`)
	assert.NotContains(t, body, `checked`)
	s.post(at+"/shop", url.Values{"bought": {"strong-flour", "instant-yeast"}})
	_, body = s.get(at + "/shop")
	assert.Equal(t, 2, strings.Count(body, "checked"))
	_, text := s.get(at + "/shop.md")
	assert.Contains(t, text, "# To buy for Plain loaf and Seed rolls")
	assert.Contains(t, text, "- [x] 500 g strong white bread flour")
	assert.Contains(t, text, "- [ ] ")

	s.post(at+"/shop", url.Values{"do": {"stock"}, "bought": {"strong-flour", "instant-yeast"}})
	_, body = s.get(at + "/shop")
	assert.Contains(t, body, "In the house now: instant yeast and strong white bread flour.")
	assert.NotContains(t, body, `value="strong-flour"`, "it need not be bought again")
	assert.Contains(t, stock("strong-flour"), ",500")
	s.post(at+"/shop", url.Values{"do": {"unstock"}})
	_, body = s.get(at + "/shop")
	assert.NotContains(t, body, "In the house now")
	assert.Contains(t, body, `value="strong-flour" checked`)

	before := stock("sugar")
	require.Contains(t, before, ",1500")
	s.post("/settings/day", url.Values{"uses": {"yes"}})
	last := ""
	for range 40 {
		_, page := s.get(at)
		k := regexp.MustCompile(`name="key" value="([^"]+)"><input type="hidden" name="done"`).FindStringSubmatch(page)
		if k == nil {
			break
		}
		last = k[1]
		s.post(at, url.Values{"do": {"tick"}, "key": {last}, "done": {"yes"}})
	}
	assert.Contains(t, stock("sugar"), ",1400", "the loaf took 100 g")
	s.post(at, url.Values{"do": {"tick"}, "key": {last}})
	assert.Equal(t, before, stock("sugar"), "and gives it back where it is not done after all")
}

// The household's hours, bowls and room are settled once; what cannot be is said, and stays typed.
func TestTheHouseholdsDay(t *testing.T) {
	s := newSite(t)
	code, _, loc := s.post("/settings/day", url.Values{"from": {"7"}, "to": {"21.30"}, "away": {"Sat 7-12"}, "cooks": {"2"}, "room": {"21"}, "bowls": {"2"}, "tins": {"enough"}, "hob": {"4"}, "warm": {"2"}})
	require.Equal(t, 303, code)
	_, body := s.get(loc)
	assert.Contains(t, body, "Settled. Plans reckon with it")
	for _, kept := range []string{`name="from" size="6" value="07:00"`, `name="hob" size="6" value="4"`, `name="warm" size="6" value="2"`} {
		assert.Contains(t, body, kept)
	}
	one := s.shelve(plainLoaf)
	_, body = s.get(one + "/plan?eat=2099-12-05T13:00")
	body = html.UnescapeString(body)
	assert.Contains(t, body, `name="to" value="21:30"`)
	assert.Contains(t, body, `name="cooks" size="2" value="2"`)
	assert.Contains(t, body, "Nobody is there: Sat 7-12.")
	assert.Regexp(t, `Begin Friday (19|20|21):\d\d\.`, body, "since nobody is there on Saturday morning")

	code, body, _ = s.post("/settings/day", url.Values{"from": {"dawn"}, "away": {"at work"}, "room": {"90"}, "bowls": {"0"}, "hob": {"none"}})
	assert.Equal(t, 422, code)
	body = html.UnescapeString(body)
	for _, says := range []string{"“dawn” is no hour of the day", "“at work” are no hours away", "“90” is not how warm", "“0” are not so many: try 1 to 50", "“none” are not so many: try 1 to 50"} {
		assert.Contains(t, body, says)
	}
	assert.Contains(t, body, `value="at work"`)
}

// How it keeps, a label, a mix and a soak.
func TestWhatIsPreparedAhead(t *testing.T) {
	s := newSite(t)
	one := s.shelve("Seed loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n2 tsp baking powder\n2 eggs\n90 ml oil\n150 ml milk\n\nStir the flour, sugar and powder together. Whisk in the eggs, oil and milk. Bake in a 9x5 in loaf tin at 180C for 45 minutes.")
	id := one[len("/recipes/"):]
	_, body := s.get("/ahead?" + url.Values{"b": {id + ":"}, "n": {"1"}}.Encode())
	assert.Contains(t, body, "One batch makes 10 portions")
	code, body := s.get("/ahead?" + url.Values{"b": {id + ":diet=dairy-free"}, "made": {"2026-12-05"}, "n": {"4"}}.Encode())
	require.Equal(t, 200, code)
	body = html.UnescapeString(body)
	assert.Contains(t, body, "<th scope=\"row\">In the fridge, closed</th><td>7 days</td><td>12 December 2026</td>")
	assert.Contains(t, body, "Eat by Tue 8 December · in the fridge Sat 12 December · frozen 5 March 2027.")
	assert.Contains(t, body, "<b>Holds:</b> gluten cereals, oats (gluten), wheat, egg")
	assert.Contains(t, body, "<th scope=\"row\">plain flour</th><td>240 g</td><td>960 g</td>")
	assert.Regexp(t, `349 g of mix\. Add 100 g egg, \d+ g sunflower oil, \d+ g [a-z ,]+drink`, body)
	for query, says := range map[string]string{"made=soon": "“soon” is no day: try 20", "n=none": "“none” are no batches: try 1 to 20"} {
		code, body = s.get("/ahead?b=" + id + ":&" + query)
		assert.Equal(t, 200, code)
		assert.Contains(t, html.UnescapeString(body), says)
	}
	code, _ = s.get("/ahead")
	assert.Equal(t, 400, code)

	_, body = s.get("/soak?fruit=250&in=reduced&liquid=400&sugars=11")
	body = html.UnescapeString(body)
	assert.Contains(t, body, "Ready in 1 to 2 days.")
	assert.Contains(t, body, "400 g of juice become 200 g, with 22 g of sugars in 100 g")
	assert.Contains(t, body, "50 g to 125 g, goes into the batter")
	for query, says := range map[string]string{
		"fruit=lots&liquid=9": "“lots” is no weight: try 250", "fruit=0&liquid=9": "How much dried fruit", "fruit=9": "How much liquid", "fruit=9&liquid=9&sugars=99": "Sugars are 0 to 90",
	} {
		_, body = s.get("/soak?" + query)
		assert.Contains(t, html.UnescapeString(body), says, query)
	}
}
