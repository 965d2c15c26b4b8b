package web_test

import (
	"context"
	"crypto/rand"
	"database/sql"
	"fmt"
	"html"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/demotest"
	"kollaris/internal/demo/recipes"
	"kollaris/internal/store"
	"kollaris/internal/web"
)

// site is the whole application on a real temporary database.
type site struct {
	t    *testing.T
	h    http.Handler
	st   *store.Store
	file string
}

func newSite(t *testing.T) site {
	t.Helper()
	t.Parallel()
	st, file := demotest.Open(t)
	h, err := web.New(st)
	require.NoError(t, err)
	return site{t, h, st, file}
}

func (s site) do(r *http.Request) (int, string, http.Header) {
	s.t.Helper()
	if r.Host == "example.com" {
		r.Host = "127.0.0.1:8080"
	}
	w := httptest.NewRecorder()
	s.h.ServeHTTP(w, r)
	body, err := io.ReadAll(w.Result().Body)
	require.NoError(s.t, err)
	return w.Code, oneLine(w.Header(), string(body)), w.Header()
}

// oneLine takes the template's line breaks out of a page, so that a test says what stands
// on it and not how its source is broken.
func oneLine(head http.Header, body string) string {
	if !strings.HasPrefix(head.Get("Content-Type"), "text/html") {
		return body
	}
	var b strings.Builder
	for words := range strings.FieldsSeq(body) {
		if b.Len() > 0 {
			b.WriteByte(' ')
		}
		b.WriteString(words)
	}
	return tags.Replace(b.String())
}

var tags = strings.NewReplacer(" />", ">", " >", ">", "> <", "><")

func (s site) get(path string) (int, string) {
	path, _, _ = strings.Cut(path, "#")
	code, body, _ := s.do(httptest.NewRequest("GET", path, nil))
	return code, body
}

// post sends a form as a press of its own, however quickly after another.
func (s site) post(path string, form url.Values) (int, string, string) {
	r := pressed(path, form)
	r.Header.Set("User-Agent", rand.Text())
	code, body, head := s.do(r)
	return code, body, head.Get("Location")
}

// pressed is a form as a browser sends it.
func pressed(path string, form url.Values) *http.Request {
	r := httptest.NewRequest("POST", path, strings.NewReader(form.Encode()))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	return r
}

// id finds the shelf's recipe with a title.
func (s site) id(title string) string {
	s.t.Helper()
	all, err := s.st.Recipes(context.Background(), "")
	require.NoError(s.t, err)
	for _, r := range all {
		if r.Title == title {
			return fmt.Sprintf("/recipes/%d", r.ID)
		}
	}
	s.t.Fatalf("no %q on the shelf", title)
	return ""
}

// everyPage lists a page of every kind.
func everyPage(s site) []string {
	pear := s.id("Pear and cardamom loaf")
	return []string{"/", "/recipes?q=pear", "/?q=pae", "/new", "/settings", "/sources", "/larder", "/larder?q=flour&family=gf-flour&free=gluten", "/larder?q=wuzzle", "/larder/i/egg", "/larder/i/own-mill-oat-drink", "/larder/new", "/larder/compare?pick=egg&pick=flax-ground", "/larder/compare", pear + "/read", pear + "/adapt?diet=egg-free", pear + "/adapt?diet=egg-free&diet=dairy-free&tab=recipe", pear + "/adapt?diet=egg-free&tab=different", pear + "/adapt?ban=gluten", pear + "/heat?diet=egg-free", pear + "/heat?tin=muffin", "/versions/10", "/versions/10/card", "/versions/1"}
}

func TestEveryPageAnswersAndHoldsNoInlineStyleOrScript(t *testing.T) {
	s := newSite(t)
	inline := regexp.MustCompile(`\sstyle=|<script(?:\s[^>]*)?>[^<]|\son[a-z]+="|<no value>|%!`)
	for _, path := range everyPage(s) {
		code, body := s.get(path)
		assert.Equal(t, 200, code, path)
		assert.NotRegexp(t, inline, body, path)
		assert.Contains(t, body, "<h1", path)
		assert.Contains(t, body, "</html>", path)
	}
}

func TestWhatIsNotThereSaysSo(t *testing.T) {
	s := newSite(t)
	for _, path := range []string{"/nothing", "/recipes/999/adapt", "/recipes/x/adapt", "/versions/999", "/drafts/999", "/static/abc/none.css", "/recipes/999/heat"} {
		code, body := s.get(path)
		assert.Equal(t, 404, code, path)
		assert.Contains(t, body, "There is nothing here", path)
		assert.NotContains(t, body, "goroutine", path)
	}
}

func TestHeaders(t *testing.T) {
	s := newSite(t)
	r := httptest.NewRequest("GET", "/", nil)
	r.Header.Set("Accept-Encoding", "gzip")
	_, body, h := s.do(r)
	assert.Equal(t, "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'", h.Get("Content-Security-Policy"))
	assert.Equal(t, "gzip", h.Get("Content-Encoding"))
	assert.Equal(t, "no-store", h.Get("Cache-Control"))
	assert.Contains(t, h.Values("Vary"), "X-Fragment")
	assert.Less(t, len(body), 20000)

	_, page := s.get("/")
	css := regexp.MustCompile(`/static/[0-9a-f]{12}/css/app\.css`).FindString(page)
	require.NotEmpty(t, css)
	code, _, h := s.do(httptest.NewRequest("GET", css, nil))
	assert.Equal(t, 200, code)
	assert.Contains(t, h.Get("Cache-Control"), "immutable")
	assert.Equal(t, "text/css; charset=utf-8", h.Get("Content-Type"))
}

func TestOtherHostsAndOriginsAreRefused(t *testing.T) {
	s := newSite(t)
	for host, want := range map[string]int{"127.0.0.1:8080": 200, "localhost": 200, "[::1]:8080": 200, "evil.example:8080": 421, "192.168.1.7": 421} {
		r := httptest.NewRequest("GET", "/healthz", nil)
		r.Host = host
		code, _, _ := s.do(r)
		assert.Equal(t, want, code, host)
	}
	r := httptest.NewRequest("POST", "/settings", strings.NewReader("cup=250"))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	r.Header.Set("Sec-Fetch-Site", "cross-site")
	code, _, _ := s.do(r)
	assert.Equal(t, 403, code)
}

// The whole way: paste, settle a line, keep, adapt, keep the version, card.
func TestFromTextToCard(t *testing.T) {
	s := newSite(t)
	text := "Seed cake\nServes 8\nIngredients\n200 g plain flour\n120 g butter\n120 g sugar\n2 eggs\n100 ml milk\n2 tsp baking powder\n2 tbsp blorf\nMethod\nBake 45 minutes at 180C in a 20 cm round tin."
	code, _, draft := s.post("/recipes", url.Values{"text": {text}})
	require.Equal(t, 303, code)
	_, body := s.get(draft)
	assert.Contains(t, body, "6 of 7 lines understood. 1 to settle.")
	assert.Contains(t, body, "“blorf” is not in the larder")

	code, body, _ = s.post(draft, url.Values{"do": {"line"}, "line": {"2 tbsp blorf"}, "amount": {"lots"}, "unit": {"tbsp"}, "what": {"poppy seeds"}})
	assert.Equal(t, 200, code, "a correction that does not do comes back open")
	assert.Contains(t, body, "&#34;lots&#34; is not an amount")
	code, _, loc := s.post(draft, url.Values{"do": {"line"}, "line": {"2 tbsp blorf"}, "amount": {"2"}, "unit": {"tbsp"}, "what": {"poppy seeds"}})
	assert.Equal(t, 303, code)
	_, body = s.get(loc)
	assert.Contains(t, body, "All 7 lines understood")
	assert.Contains(t, body, "corrected")

	code, body, _ = s.post(draft, url.Values{"do": {"facts"}, "title": {"Seed cake"}, "kind": {"creamed-cake"}, "servings": {"0"}, "tin": {"bucket"}, "oven": {"180"}, "time": {"45"}})
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "cannot be the number of servings")
	assert.Contains(t, body, `value="bucket"`, "what was typed is kept")
	_, _, _ = s.post(draft, url.Values{"do": {"facts"}, "title": {"Seed cake"}, "kind": {"creamed-cake"}, "servings": {"8"}})

	code, _, bench := s.post(draft, url.Values{"do": {"keep"}})
	require.Equal(t, 303, code)
	code, body = s.get(bench + "?diet=egg-free&diet=dairy-free")
	require.Equal(t, 200, code)
	assert.Contains(t, body, "flax gel")

	code, _, version := s.post(strings.TrimSuffix(bench, "/adapt")+"/versions", url.Values{"diet": {"egg-free", "dairy-free"}, "swap.egg": {"chia-gel"}, "servings": {"9"}})
	require.Equal(t, 303, code)
	_, body = s.get(version)
	assert.Contains(t, body, "chia gel")
	_, body = s.get(version + "/card")
	assert.Contains(t, body, "Seed cake, dairy-free, egg-free")
	assert.Contains(t, body, "serves 9")

	// the next text that says blorf is understood
	_, _, again := s.post("/recipes", url.Values{"text": {"X\nIngredients\n1 tsp blorf"}})
	_, body = s.get(again)
	assert.Contains(t, body, "The one line is understood")
}

func TestAWrongSpoonIsMendedByOnePress(t *testing.T) {
	s := newSite(t)
	_, _, draft := s.post("/recipes", url.Values{"text": {"Small cake\nIngredients\n200 g plain flour\n100 g sugar\n2 eggs\n150 g buttermilk\n80 g butter\n1 tbsp baking soda\nMethod\nMix all. Bake 40 minutes at 180C in a 20 cm round tin."}})
	_, body := s.get(draft)
	assert.Contains(t, body, "probably a teaspoon")
	assert.Contains(t, body, "Make it 1 tsp")
	_, _, _ = s.post(draft, url.Values{"do": {"line"}, "line": {"1 tbsp baking soda"}, "amount": {"1"}, "unit": {"tsp"}})
	_, body = s.get(draft)
	assert.NotContains(t, body, "probably a teaspoon")
	assert.Contains(t, body, "1 tsp × 4.6 g")
}

func TestTextsThatCannotBeReadKeepWhatWasTyped(t *testing.T) {
	s := newSite(t)
	code, body, _ := s.post("/recipes", url.Values{"text": {"   "}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "There is no text to read")
	long := strings.Repeat("two hundred kilobytes of text\n", 7000)
	code, body, _ = s.post("/recipes", url.Values{"text": {long}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "paste one recipe at a time")
	assert.Contains(t, body, "two hundred kilobytes of text", "and it is still there")
	code, body, _ = s.post("/recipes", url.Values{"text": {strings.Repeat("x", 600<<10)}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "more text than can be taken")
}

func TestFragmentAndPageAreTheSame(t *testing.T) {
	s := newSite(t)
	for _, path := range []string{"/larder?q=oat", s.id("Pear and cardamom loaf") + "/adapt?diet=egg-free", s.id("Pear and cardamom loaf") + "/heat?diet=egg-free&tin=muffin"} {
		_, page := s.get(path)
		r := httptest.NewRequest("GET", path, nil)
		r.Header.Set("X-Fragment", "1")
		code, part, _ := s.do(r)
		require.Equal(t, 200, code)
		assert.Contains(t, page, strings.TrimSpace(part))
		assert.NotContains(t, part, "<html")
	}
}

func TestBenchKeepsBadInputAtItsPlace(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/adapt?diet=egg-free&ban=moon+du5t&servings=0&limit.net-carb=lots")
	assert.Contains(t, body, `value="moon du5t"`)
	assert.Contains(t, body, "neither an allergen nor in the larder")
	assert.Contains(t, body, "whole number from 1 to 200")
	assert.Contains(t, body, "“lots” cannot be the net carbohydrate of a serving")
	assert.Contains(t, body, `name="limit.net-carb" size="5" value="lots"`)
	_, body = s.get(pear + "/heat?tin=bucket")
	assert.Contains(t, body, "names no tin")
	assert.Contains(t, body, `value="bucket"`)
}

func TestARefusalIsNotKept(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/adapt?ban=salt")
	assert.Contains(t, body, "This cannot be adapted as asked")
	assert.NotContains(t, body, "Keep this version")
	assert.Contains(t, body, `/adapt">Though it may hold salt: nothing has to change</a>`, "a way out, with what it means")
	_, house := s.get(pear + "/adapt?diet=gluten-free&stock=1")
	assert.Contains(t, house, "every way to replace flour is shut.")
	assert.Regexp(t, `<a class="btn-quiet" href="/recipes/\d+/adapt\?diet=gluten-free">Buy (210 g 1:1 gluten-free blend and )?1\.5 g xanthan gum: 210 g plain flour → 1:1 gluten-free blend`, house)
	_, table := s.get(pear + "/adapt?eater=1&eater=2&stock=1")
	assert.Regexp(t, `eater=2[^"]*">Without cox at this table: `, table, "cox eats gluten-free")
	code, body, _ := s.post(pear+"/versions", url.Values{"ban": {"salt"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "Nothing was kept")
}

func TestTheLastTableIsRemembered(t *testing.T) {
	s := newSite(t)
	pear, scones := s.id("Pear and cardamom loaf"), s.id("Cheddar-and-chive scones")
	offered := func() string {
		code, body, _ := s.do(httptest.NewRequest("GET", scones+"/adapt", nil))
		require.Equal(t, 200, code)
		assert.Contains(t, body, "As written", "nothing is laid over a recipe unasked")
		_, link, _ := strings.Cut(body, "As last time: <a href=\"")
		link, _, _ = strings.Cut(link, "</a>")
		return html.UnescapeString(link)
	}
	assert.Empty(t, offered())
	code, _, _ := s.post("/last", url.Values{"diet": {"dairy-free"}, "ban": {"soya"}, "swap.egg": {"flax-gel"}})
	assert.Equal(t, 204, code)
	want := scones + `/adapt?ban=soya&diet=dairy-free">dairy-free, no soya`
	assert.Equal(t, want, offered())
	s.post("/last", url.Values{"ban": {"z0rblax"}})
	assert.Equal(t, want, offered(), "what was not understood is not remembered")
	s.post(pear+"/versions", url.Values{"diet": {"egg-free"}})
	assert.Equal(t, scones+`/adapt?diet=egg-free">egg-free`, offered(), "keeping remembers too")
	_, body := s.get(scones + "/adapt?diet=vegan")
	assert.NotContains(t, body, "As last time")
}

// No page that is only asked for writes anything: another site's image may ask for it.
func TestNoGetWrites(t *testing.T) {
	s := newSite(t)
	db, err := sql.Open("sqlite", "file:"+s.file+"?mode=ro")
	require.NoError(t, err)
	defer db.Close()
	db.SetMaxOpenConns(1)
	version := func() (n int) {
		require.NoError(t, db.QueryRow("PRAGMA data_version").Scan(&n))
		return n
	}
	_, _, draft := s.post("/recipes", url.Values{"text": {"A cake\nIngredients\n200 g flour\n2 eggs"}})
	before := version()
	for _, path := range append(everyPage(s), draft, s.id("Pear and cardamom loaf")+"/adapt?diet=", s.id("Pear and cardamom loaf")+"/adapt?diet=vegan&eater=1", "/people", "/ovens", "/table?menu=1", "/sweeten", "/shelf.zip", "/larder.csv", "/weigh?amount=1&unit=cup&what=flour", "/versions/10/file/json", "/last", "/settings?saved=1&forgot=x") {
		s.get(path)
		require.Equal(t, before, version(), "GET %s writes", path)
	}
	s.post("/last", url.Values{"diet": {"vegan"}})
	assert.NotEqual(t, before, version(), "the check sees writing")
}

func TestASettingsPageThatIsOldIsAConflict(t *testing.T) {
	s := newSite(t)
	code, _, _ := s.post("/settings", url.Values{"rev": {"0"}, "cups": {"yes"}})
	assert.Equal(t, 303, code)
	code, body, _ := s.post("/settings", url.Values{"rev": {"0"}, "cups": {"no"}})
	assert.Equal(t, 409, code)
	assert.Contains(t, body, "changed in another window")
}

// An allergen that the household wrote down never vanishes: without its records nothing
// is judged, and the page says which and how to settle it.
func TestWithoutTheHouseholdsRecordsNothingIsJudged(t *testing.T) {
	for name, c := range map[string]struct{ spoil, shows string }{
		"unreadable": {`UPDATE own_ingredient SET doc = '{"id": "plain-flour", "pack": 5}' WHERE id = 'plain-flour'`, "plain-flour"},
		"unusable":   {`UPDATE own_ingredient SET doc = '{"id": "own-mill-oat-drink", "name": "Mill oat drink", "like": "moon-milk", "allergens": {"soya": "contains"}}' WHERE id = 'own-mill-oat-drink'`, "“moon-milk” is not in the larder"},
	} {
		t.Run(name, func(t *testing.T) {
			s := newSite(t)
			pear := s.id("Pear and cardamom loaf")
			db, err := sql.Open("sqlite", "file:"+s.file)
			require.NoError(t, err)
			_, err = db.Exec(c.spoil + "; UPDATE own_ingredient SET updated_at = 'later' WHERE id = 'egg'")
			require.NoError(t, err)
			for _, path := range []string{"/", pear + "/adapt?diet=vegan", "/table", "/larder", pear + "/nutrition", "/people"} {
				code, body := s.get(path)
				assert.Equal(t, 503, code, "%s: %s", name, path)
				assert.Contains(t, html.UnescapeString(body), c.shows)
				assert.NotContains(t, body, "Nothing here breaks")
			}
			id := "plain-flour"
			if name == "unusable" {
				id = "own-mill-oat-drink"
			}
			code, _, _ := s.post("/larder/i/"+id+"/forget", nil)
			assert.Equal(t, 303, code)
			code, _ = s.get(pear + "/adapt?diet=vegan")
			assert.Equal(t, 200, code, "it is settled")
			require.NoError(t, db.Close())
		})
	}
}

// By an address that other machines reach nothing is answered, whatever name is given.
func TestOnlyThisMachineIsAnswered(t *testing.T) {
	s := newSite(t)
	for addr, want := range map[string]int{"127.0.0.1": 200, "::1": 200, "192.168.7.20": 403, "10.0.0.2": 403} {
		r := httptest.NewRequest("GET", "/", nil)
		r.Host = "localhost"
		code, _, _ := s.do(r.WithContext(context.WithValue(r.Context(), http.LocalAddrContextKey, &net.TCPAddr{IP: net.ParseIP(addr), Port: 8080})))
		assert.Equal(t, want, code, addr)
	}
}

func TestCorrectingAKeptRecipe(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	code, _, draft := s.post(pear+"/correct", nil)
	require.Equal(t, 303, code)
	_, body := s.get(draft)
	assert.Contains(t, body, "Keep the correction")
	code, _, _ = s.post(draft, url.Values{"do": {"text"}, "text": {strings.Replace(recipes.Text("1-pear-cardamom-loaf.txt"), "2 large eggs", "3 large eggs", 1)}})
	require.Equal(t, 303, code)
	code, _, _ = s.post(draft, url.Values{"do": {"facts"}, "rev": {"1"}})
	assert.Equal(t, 409, code, "another window wrote it since")
	code, _, loc := s.post(draft, url.Values{"do": {"keep"}})
	require.Equal(t, 303, code)
	_, body = s.get(loc + "?diet=egg-free")
	assert.Contains(t, body, "3 eggs")
}

func TestSettingsChangeHowRecipesAreRead(t *testing.T) {
	s := newSite(t)
	code, _, loc := s.post("/settings", url.Values{"cup": {"250"}, "tablespoon": {"15"}, "filling": {"scooped"}, "cups": {"no"}, "fine": {"yes"}, "fahrenheit": {"yes"}})
	require.Equal(t, 303, code)
	_, body := s.get(loc)
	assert.Contains(t, body, "grams · °F")
	_, body = s.get(s.id("Pear and cardamom loaf") + "/adapt?diet=egg-free&tab=recipe")
	assert.Contains(t, body, "263 g", "1¾ metric cups of flour, scooped: the recipe's grams follow")
	assert.Contains(t, body, "350 °F")
	_, weigh := s.get("/weigh?amount=1&unit=cup&what=plain+flour")
	assert.Equal(t, "150 g (1 cup × 150 g, scooped)", weigh)
	_, weigh = s.get("/weigh?amount=1/0&unit=cup&what=plain+flour")
	assert.Contains(t, weigh, "divided by 0")

	for _, one := range []url.Values{{"cups": {"yes"}}, {"cups": {"perhaps"}, "paper": {"letter"}}, {}} { // a key sends one alone
		_, _, _ = s.post("/settings", one)
		h, err := s.st.Household(t.Context())
		require.NoError(t, err)
		assert.Equal(t, []bool{true, true, true}, []bool{h.Kitchen.Cups, h.Kitchen.FineScale, h.Kitchen.Fahrenheit}, "%v: the others stay", one)
		assert.Equal(t, "scooped", h.Kitchen.Filling)
	}
}

func TestTheLarderIsTheHouseholdsOwn(t *testing.T) {
	s := newSite(t)
	form := url.Values{"name": {"Bran bits"}, "like": {"wheat bran"}, "serving": {"30"}, "label": {"us"}, "fat": {"1,5"}, "carbohydrate": {"19"}, "fibre": {"12"}, "protein": {"5"}, "salt": {"0"}, "weight": {"60"}, "allergen.gluten": {"contains"}, "pack": {"500"}, "price": {"2.50"}}
	code, _, loc := s.post("/larder/new", form)
	require.Equal(t, 303, code)
	_, body := s.get(loc)
	for _, want := range []string{"Bran bits", "yours", "allergens: gluten cereals, wheat", "63.3 g", "yours: typed from your packet", "1 cup, spooned"} {
		assert.Contains(t, body, want)
	}
	code, body, _ = s.post("/larder/new", form)
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "one of that name already")
	_, csv := s.get("/larder.csv")
	assert.Contains(t, csv, "own-bran-bit,Bran bits,wheat-bran")
	_, body = s.get("/larder?q=bran+bits")
	assert.Contains(t, body, "Bran bits")

	form.Set("fat", "plenty")
	form.Set("name", "Other bits")
	code, body, _ = s.post("/larder/new", form)
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "“plenty” is no figure")
	assert.Contains(t, body, `value="plenty"`)
	form.Set("fat", "300 mg")
	_, body, _ = s.post("/larder/new", form)
	assert.Contains(t, body, "“300 mg” is no figure", "fat is typed in g")
	form.Set("fat", "1 g")
	form.Set("salt", "300 mg")
	form.Set("like", "moon du5t")
	_, body, _ = s.post("/larder/new", form)
	assert.Contains(t, body, "what it behaves like")
	assert.NotContains(t, body, "is no figure", "sodium is typed in mg")

	code, _, _ = s.post("/larder/i/plain-flour", url.Values{"serving": {"100"}, "weight": {"150"}, "allergen.gluten": {"contains"}})
	require.Equal(t, 303, code)
	_, weigh := s.get("/weigh?amount=1&unit=cup&what=plain+flour")
	assert.Equal(t, "150 g (1 cup × 150 g, spooned)", weigh)
	_, body = s.get("/larder/i/plain-flour")
	assert.Contains(t, body, "11.9 g", "figures that were not typed stay")
	_, _, _ = s.post("/larder/i/plain-flour/forget", nil)
	_, weigh = s.get("/weigh?amount=1&unit=cup&what=plain+flour")
	assert.Equal(t, "120 g (1 cup × 120 g, spooned)", weigh)
	code, _ = s.get("/larder/i/moon")
	assert.Equal(t, 404, code)
}

// The larder comes page by page, and says how many records a file brought.
func TestTheLarderPageByPage(t *testing.T) {
	s := newSite(t)
	r := httptest.NewRequest("GET", "/larder", nil)
	_, body, _ := s.do(r)
	assert.Less(t, len(body), 100<<10)
	assert.Equal(t, 60, strings.Count(body, `class="larder-row"`))
	next := regexp.MustCompile(`<a href="(/larder\?page=2)">`).FindStringSubmatch(body)
	require.NotNil(t, next)
	_, second := s.get(next[1] + "&pick=egg")
	assert.Equal(t, 60, strings.Count(second, `class="larder-row"`))
	assert.Contains(t, second, `<input type="hidden" name="pick" value="egg">`, "what is ticked goes along")
	_, body = s.get("/larder?q=oat&page=9")
	assert.Contains(t, body, "oat drink", "a page that is not there is the first")
	code, _, at := s.post("/larder/import", url.Values{"text": {"id;fat\nmilk;3,9\negg;9,9"}})
	require.Equal(t, 303, code)
	_, body = s.get(at)
	assert.Contains(t, body, "2 records are kept.")
}

func TestAFileWithABadRowOffersTheGoodOnes(t *testing.T) {
	s := newSite(t)
	code, body, _ := s.post("/larder/import", url.Values{"text": {"id,fat\nmilk,4\nmilk,lots"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "Keep the 1 good rows")
	assert.Contains(t, body, "Line 3:")
	code, body, _ = s.post("/larder/import", url.Values{"text": {"what is this"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "neither a column “id”")
	code, _, _ = s.post("/larder/import", url.Values{})
	assert.Equal(t, 422, code)
	code, _, _ = s.post("/larder/import", url.Values{"text": {"id,fat\nmilk,4"}})
	assert.Equal(t, 303, code)
}

func TestWhatARecipeCosts(t *testing.T) {
	s := newSite(t)
	_, body := s.get(s.id("Pear and cardamom loaf") + "/adapt?diet=")
	assert.Contains(t, body, "Costs <b>€ ")
	assert.Contains(t, body, "baking powder")
}

func TestDeletingShowsAWayBack(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, _, loc := s.post(pear+"/delete", nil)
	_, body := s.get(loc)
	assert.Contains(t, body, "is off the shelf")
	assert.NotContains(t, body, `href="`+pear+`/adapt"`)
	_, _, _ = s.post(pear+"/restore", nil)
	_, body = s.get("/")
	assert.Contains(t, body, `href="`+pear+`/adapt"`)
}

func TestSearchWithoutAMatchSuggests(t *testing.T) {
	s := newSite(t)
	_, body := s.get("/?q=pearz")
	assert.Contains(t, body, "Did you mean <a href=\"/?q=pear\">pear</a>")
}

func TestADatabaseThatIsGoneIsAFriendlyPage(t *testing.T) {
	s := newSite(t)
	require.NoError(t, s.st.Close())
	for path, says := range map[string]string{"/": "Something broke on our side", "/recipes/1/adapt": "Something broke on our side", "/healthz": "database: does not answer"} {
		code, body := s.get(path)
		assert.GreaterOrEqual(t, code, 500, path)
		assert.Contains(t, body, says, path)
		assert.NotContains(t, body, "sql:", path)
	}
}

func TestOtherMethodsAreRefused(t *testing.T) {
	s := newSite(t)
	code, _, _ := s.do(httptest.NewRequest("PUT", "/settings", nil))
	assert.Equal(t, 405, code)
	for at, want := range map[string]string{ // a page that refused what was typed stands at the address of its form: asked for again it leads there
		"/people/1": "/people", "/tins/2": "/ovens", "/kitchen": "/ovens", "/settings/day": "/settings", "/backups": "/settings", "/recipes/import": "/new",
		"/recipes/1/versions": "/recipes/1", "/larder/import": "/larder", "/bakes/1/photos": "/bakes", "/log": "/bakes", "/last": "/",
	} {
		code, _, h := s.do(httptest.NewRequest("GET", at, nil))
		assert.Equal(t, 303, code, at)
		assert.Equal(t, want, h.Get("Location"), at)
	}
}

// What a change costs on the bench, and on Tin & heat with A beside B.
// The pages that are asked for again and again. "cold" asks for what nobody asked before,
// "warm" for what is remembered.
func BenchmarkFragment(b *testing.B) {
	st, _ := demotest.Open(b)
	h, err := web.New(st)
	require.NoError(b, err)
	for _, c := range []struct{ name, path string }{
		{"adapt cold", "/recipes/8/adapt?diet=egg-free&diet=dairy-free&limit.sodium=%g"}, {"adapt warm", "/recipes/8/adapt?diet=egg-free&diet=dairy-free"},
		{"heat cold", "/recipes/8/heat?diet=egg-free&in=1&batter=%g"}, {"compare cold", "/recipes/8/heat?tin=12+muffin+cups&a=diet%%3Degg-free%%26&batter=%g"},
		{"table cold", "/table"}, {"table warm", "/table"},
	} {
		b.Run(c.name, func(b *testing.B) {
			var took []time.Duration
			for n := 0; b.Loop(); n++ {
				at := c.path
				if strings.Contains(at, "%g") {
					at = fmt.Sprintf(at, 5+float64(n%3900)/100)
				}
				if c.name == "table cold" {
					b.StopTimer()
					h, err = web.New(st)
					require.NoError(b, err)
					b.StartTimer()
				}
				r := httptest.NewRequest("GET", at, nil)
				r.Host = "localhost"
				r.Header.Set("X-Fragment", "1")
				w := httptest.NewRecorder()
				began := time.Now()
				h.ServeHTTP(w, r)
				took = append(took, time.Since(began))
				if w.Code != 200 {
					b.Fatal(w.Code)
				}
			}
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "p50-ms")
			b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "p95-ms")
		})
	}
}

func TestTheBatchFollowsWhatIsAtHand(t *testing.T) {
	s := newSite(t)
	all, err := s.st.Recipes(t.Context(), "carrot")
	require.NoError(t, err)
	carrot := ""
	for _, l := range all[0].Doc.Lines {
		if l.Ingredient == "carrot" {
			require.Equal(t, 300.0, l.Grams)
			carrot = fmt.Sprint(l.ID)
		}
	}
	heat := fmt.Sprintf("/recipes/%d/heat?of=%s&have=", all[0].ID, carrot)
	for have, want := range map[string]string{"450": `value="1.5"`, "450 g": `value="1.5"`, "0,15 kg": `value="0.5"`, "a lot": "is no amount of it", "-3": "is no amount of it", "9 kg": "That is 30 times the recipe"} {
		code, body := s.get(heat + url.QueryEscape(have))
		assert.Equal(t, 200, code)
		assert.Contains(t, body, want, have)
	}
}

// What one tin weighs is said once: the next recipe knows it, and it can be
// forgotten under the settings.
func TestTheWeightOfATinIsRemembered(t *testing.T) {
	s := newSite(t)
	text := "Squares\nIngredients\n200 g plain flour\n2 tins condensed milk\n1 tsp baking powder"
	_, _, draft := s.post("/recipes", url.Values{"text": {text}})
	_, body := s.get(draft)
	require.Contains(t, body, "how much is in the tin")
	code, _, _ := s.post(draft, url.Values{"do": {"line"}, "line": {"2 tins condensed milk"}, "amount": {"800"}, "unit": {"g"}, "what": {"condensed milk"}})
	require.Equal(t, 303, code)
	_, _, next := s.post("/recipes", url.Values{"text": {strings.Replace(text, "2 tins", "half a tin of", 1)}})
	_, body = s.get(next)
	assert.Contains(t, body, "½ × 400 g, as you settled it")
	_, body = s.get("/settings")
	assert.Contains(t, body, "A tin of condensed milk is 400 g")
	code, _, loc := s.post("/settings/forget", url.Values{"key": {"tin condensed milk"}})
	assert.Equal(t, 303, code)
	assert.Contains(t, loc, "/settings?forgot=tin")
	_, body = s.get(next)
	assert.Contains(t, body, "how much is in the tin")
	_, body = s.get("/away")
	assert.Contains(t, body, "tin condensed milk")
	assert.Contains(t, body, `name="key" value="tin condensed milk"`)
	_, _, _ = s.post("/settings/forget", url.Values{"key": {"tin condensed milk"}, "do": {"return"}})
	_, body = s.get(next)
	assert.Contains(t, body, "½ × 400 g, as you settled it", "brought back")
	_, _, _ = s.post("/settings/forget", url.Values{"key": {"tin condensed milk"}})
	// an amount put right is a slip of this recipe, and teaches nothing
	_, _, _ = s.post(draft, url.Values{"do": {"line"}, "line": {"1 tsp baking powder"}, "amount": {"2"}, "unit": {"tsp"}})
	known, err := s.st.Remembered(t.Context())
	require.NoError(t, err)
	assert.Empty(t, known.Amounts)
}

// A press adds the salt that was forgotten, or leaves out the powder that is too
// much.
func TestFindingsAreMendedByOnePress(t *testing.T) {
	s := newSite(t)
	_, _, draft := s.post("/recipes", url.Values{"text": {"White loaf\nIngredients\n500 g strong flour\n320 ml water\n7 g instant yeast\n\nMethod\nKnead. Prove 1 hour until doubled. Bake 30 minutes at 220C in a 2 lb loaf tin."}})
	_, body := s.get(draft)
	assert.Contains(t, body, "Add 10 g salt")
	assert.Contains(t, body, "common practice · likely")
	assert.Contains(t, body, "Sure: there is yeast")
	assert.Contains(t, body, "1 h, until doubled")
	_, _, _ = s.post(draft, url.Values{"do": {"add"}, "add": {"10 g salt"}})
	_, body = s.get(draft)
	assert.NotContains(t, body, "no salt in this bread")
	assert.Contains(t, body, "7 g instant yeast 10 g salt", "behind the last ingredient of the text")
}

// A batch by the number it is for, and by the tin; eggs come whole, said so.
func TestABatchForMoreAndForTheTin(t *testing.T) {
	s := newSite(t)
	cake := s.id("Almond-orange cake")
	_, body := s.get(cake + "/heat?for=15")
	assert.Contains(t, body, "For 15 instead of 10: 1.5 times the written batch.")
	assert.Contains(t, body, "8 large egg, 400 g")
	assert.Contains(t, body, "times the batch for this tin")
	fit := regexp.MustCompile(`href="([^"]+)">Make [\d.]+ times the batch`).FindStringSubmatch(body)
	require.NotNil(t, fit)
	_, body = s.get(strings.ReplaceAll(fit[1], "&amp;", "&"))
	assert.NotContains(t, body, "too much for it")
	_, body = s.get(cake + "/heat?for=lots")
	assert.Contains(t, body, "“lots” cannot be the number of servings: try 20")
	assert.Contains(t, body, `value="lots"`)
}

// An empty program shows what to do, asks grams or cups once, and gives an example to press.
func TestTheFirstRun(t *testing.T) {
	t.Parallel()
	st, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "new.db"))
	require.NoError(t, err)
	t.Cleanup(func() { st.Close() })
	h, err := web.New(st)
	require.NoError(t, err)
	s := site{t, h, st, ""}
	_, body := s.get("/")
	assert.Contains(t, body, "Do you measure in")
	assert.Contains(t, body, "Paste a whole recipe")
	code, _, to := s.post("/settings", url.Values{"cups": {"yes"}, "back": {"/"}})
	assert.Equal(t, 303, code)
	assert.Equal(t, "/", to)
	_, body = s.get("/")
	assert.NotContains(t, body, "Do you measure in", "once, and never more")
	_, _, draft := s.post("/recipes/example", nil)
	_, body = s.get(draft)
	assert.Contains(t, body, "Pear and cardamom loaf")
	assert.Contains(t, body, "Keep and adapt")
	code, body = s.get("/how")
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "flax gel")
	assert.Contains(t, body, `class="strip bench-strip lying"`)
}

// What is nowhere is 404, asked for or written to; HEAD is answered as GET; an address that cannot be read is named.
func TestAddresses(t *testing.T) {
	s := newSite(t)
	for _, path := range []string{"/recipes/99999", "/recipes/x", "/recipes/99999/adapt", "/versions/99999", "/bakes/99999", "/plans/99999", "/drafts/99999", "/photos/9999", "/larder/i/none", "/backups/none", "/guest/none"} {
		code, _ := s.get(path)
		assert.Equal(t, 404, code, path)
	}
	for path, do := range map[string]string{
		"/people/99999": "return", "/ovens/99999": "return", "/tins/99999": "return", "/plans/99999": "return", "/drafts/99999": "return",
		"/larder/i/none/forget": "return", "/recipes/99999/restore": "", "/recipes/99999/delete": "", "/versions/99999": "leave",
	} {
		code, _, _ := s.post(path, url.Values{"do": {do}})
		assert.Equal(t, 404, code, path)
	}
	code, body, head := s.do(httptest.NewRequest("HEAD", "/larder", nil))
	assert.Equal(t, 200, code)
	assert.NotEmpty(t, body, "which the server then keeps back")
	assert.Contains(t, head.Get("Content-Type"), "text/html")
	code, body = s.get("/larder?q=%zz")
	assert.Equal(t, 400, code)
	assert.Contains(t, body, "The address cannot be read")
}
