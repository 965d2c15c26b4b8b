package web_test

import (
	"database/sql"
	"html"
	"net/url"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/table"
	"kollaris/internal/demo"
	"kollaris/internal/store"
	"kollaris/internal/web"
)

// shelve puts a recipe's text on the shelf and returns its path.
func (s site) shelve(text string) string {
	s.t.Helper()
	_, _, draft := s.post("/recipes", url.Values{"text": {text}})
	code, _, loc := s.post(draft, url.Values{"do": {"keep"}})
	require.Equal(s.t, 303, code)
	return loc[:len(loc)-len("/adapt")]
}

// With a line that was not understood no page says that something fits, is kept or is
// none, and nothing is printed that others would eat by.
func TestAnUnreadLineIsOnNoLabel(t *testing.T) {
	s := newSite(t)
	at := s.shelve("Seed squares\nServes 8\n\n200 g sunflower seeds\n100 g maple syrup\n100 g zorblax powder\n\nBake 20 minutes.")
	_, body := s.get(at + "/adapt?diet=vegan&diet=low-sugar")
	for _, says := range []string{"1 line is not understood", "whatever “100 g zorblax powder” holds", "at least", "<small>not known</small>", "Not counted: “100 g zorblax powder” (not understood)."} {
		assert.Contains(t, body, says)
	}
	assert.NotContains(t, body, "within your 5</")
	assert.NotContains(t, body, "none that the law names")

	_, body = s.get(at + "/nutrition?diet=low-sugar&slice=60")
	body = html.UnescapeString(body)
	for _, says := range []string{"at least", "A slice of 60 g holds at least", "Nobody can be told how much carbohydrate a slice holds", "None can be told: a line was not understood.", "wait until every line is understood", "(not understood: it could hold anything)"} {
		assert.Contains(t, body, says)
	}
	assert.NotContains(t, body, "meets the figure for")
	assert.NotContains(t, body, "15 g of carbohydrate are in")
	for _, card := range []string{"/tablecard", "/tablecard?size=sticker"} {
		code, body := s.get(at + card)
		assert.Equal(t, 422, code)
		assert.Contains(t, body, "No card yet for Seed squares")
		assert.NotContains(t, body, "Made in a home kitchen")
	}
	_, body = s.get("/table")
	assert.Contains(t, body, "“100 g zorblax powder” is not understood: it could hold anything")

	// an amount that is missing matters to the figures it could add to, and to those only
	at = s.shelve("Seed bars\nServes 8\n\n200 g sunflower seeds\n2 eggs\nhoney, to taste\n\nBake 20 minutes.")
	_, body = s.get(at + "/nutrition")
	assert.Contains(t, body, "Not counted: “honey, to taste” (no amount).")
	assert.Regexp(t, `not “low sugars” ?</th><td>not known: “honey, to taste” gives no amount`, body)
	assert.Regexp(t, `meets the figure for “low sodium”`, body)
	code, _ := s.get(at + "/tablecard")
	assert.Equal(t, 200, code, "it is all understood")
}

// A ban is shown back in full; what is not certain stays at its field and holds up the
// verdict.
func TestABanIsShownBackInFull(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/adapt?ban=soys&ban=groundnut")
	assert.Contains(t, body, " · soya: beans, drink, cream, yogurt, flour, protein, tofu, sauce, lecithin;")
	assert.Contains(t, body, "Shut out: peanuts: peanuts (groundnuts), their butter, flour and oil")
	assert.Contains(t, body, "Nothing here breaks your two demands.")
	_, body = s.get(pear + "/adapt?ban=soya&ban=glutin,z0rblax")
	body = html.UnescapeString(body)
	assert.Contains(t, body, `value="glutin, z0rblax"`)
	assert.Contains(t, body, "“glutin” is not certain, so nothing was shut out by it: is it gluten cereals")
	assert.NotContains(t, body, "Nothing here breaks")
	assert.Contains(t, body, "until it is, nothing fits")
	_, body = s.get(pear + "/adapt?ban=lactose")
	assert.Regexp(t, `value="lactose-free" id="diet-lactose-free" checked`, body, "a word for a diet is that diet")
	_, body = s.get(pear + "/adapt?diet=")
	assert.Contains(t, body, `name="ban" value="only:butter"`, "having none of it is no allergy to all of it")
}

// People who were kept under the first rule are read by today's and asked about; until
// what is not understood is settled, nothing fits them.
func TestPeopleKeptBeforeAreAsked(t *testing.T) {
	s := newSite(t)
	id, err := s.st.AddPerson(t.Context(), table.Person{Name: "guest", Bans: []string{"soya"}, Strict: table.Allergy})
	require.NoError(t, err)
	db, err := sql.Open("sqlite", "file:"+s.file)
	require.NoError(t, err)
	_, err = db.Exec(`UPDATE person SET doc = '{"name":"guest","bans":["soy","flour"],"strict":"allergy"}' WHERE id = ?`, id)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, body := s.get("/people")
	for _, says := range []string{"are read more widely than before", "“soy” is now taken for soya: beans, drink", "“flour” is not understood, so nothing fits until you write what is meant", `value="soya, flour"`} {
		assert.Contains(t, body, says)
	}
	_, body = s.get("/table")
	assert.Contains(t, body, "“flour” is not understood: say under People what is meant")
	_, body = s.get(s.id("Oat-ginger biscuits") + "/adapt?eater=9")
	assert.NotContains(t, body, "Nothing here breaks")

	code, body, _ := s.post("/people/9", url.Values{"rev": {"1"}, "name": {"guest"}, "bans": {"soya, flour"}, "strict": {"allergy"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, html.UnescapeString(body), "“flour” is not certain, so nothing was shut out by it")
	code, _, _ = s.post("/people/9", url.Values{"rev": {"1"}, "name": {"guest"}, "bans": {"soya, lactose and wheat"}, "strict": {"allergy"}})
	require.Equal(t, 303, code)
	_, body = s.get("/people")
	assert.NotContains(t, body, "read more widely than before")
	assert.Contains(t, body, "must not have soya, wheat; eats lactose-free; traces matter.")
}

// A diet's chip says that a label is to be read, as the table of people would: it does
// not simply fit.
func TestAChipTellsOfLabels(t *testing.T) {
	s := newSite(t)
	_, body := s.get(s.id("Almond-orange cake") + "/adapt")
	chip := func(id string) string {
		_, rest, ok := strings.Cut(body, `value="`+id+`"`)
		require.True(t, ok, id)
		words, _, _ := strings.Cut(rest, "</label>")
		return words
	}
	assert.Contains(t, chip("gluten-free"), "1 label to read", "baking powder")
	assert.Contains(t, chip("dairy-free"), "fits as it is")
	assert.Contains(t, chip("egg-free"), "1 to change")
}

// Of several sugars that a limit replaces, each may be kept; what is kept stands on the bar of
// every tab. A slip of the writer is said before anything else.
func TestWhatIsKeptAndWhatIsASlip(t *testing.T) {
	s := newSite(t)
	at := s.shelve("Honey biscuits\nMakes 18\n\n250 g plain flour\n120 g butter\n54 g honey\n50 g golden syrup\n60 g sugar\n2 tbsp baking powder\n\nCream the butter and sugar, stir in the rest. Bake at 180 C for 12 minutes.")
	_, body := s.get(at + "/adapt?diet=low-sugar")
	for _, id := range []string{"honey", "golden-syrup"} {
		assert.Regexp(t, `name="keep" value="`+id+`" id="keep-`+id+`"\s*/?>`, body, "offered")
	}
	assert.NotContains(t, body, `id="keep-sugar"`, "a use of one ingredient may be left as written anyway")
	assert.Contains(t, body, "First look at what is written: 2 tbsp of baking powder")
	for _, tab := range []string{"swaps", "recipe"} {
		_, body = s.get(at + "/adapt?diet=low-sugar&keep=honey&tab=" + tab)
		assert.Regexp(t, `id="keep-honey"\s+checked`, body, tab)
		assert.Contains(t, body, "<small>kept as written</small>", tab)
	}
}

// A row that cannot be read is named with its text, stops what it may be about and nothing else, and is put away by
// pressing; what stands in the way of a verdict is never left out in silence.
func TestARowThatCannotBeRead(t *testing.T) {
	for _, c := range []struct {
		kind, spoil, page string
	}{
		{"person", `UPDATE person SET doc = '{"bans": "zebra"}' WHERE id = (SELECT min(id) FROM person)`, "/table"},
		{"oven", `UPDATE equipment SET doc = '["zebra"]' WHERE id = (SELECT min(id) FROM equipment WHERE kind = 'oven')`, "/ovens"},
		{"tin", `UPDATE equipment SET doc = '["zebra"]' WHERE id = (SELECT min(id) FROM equipment WHERE kind = 'tin')`, "/ovens"},
		{"plan", `UPDATE plan SET doc = '{"query": ["zebra"]}' WHERE id = (SELECT min(id) FROM plan)`, "/plans"},
		{"version", `DROP TRIGGER version_is_kept; UPDATE version SET schema = 99, doc = json_set(doc, '$.title', 'zebra') WHERE id = 10`, "/versions/10/card"},
		{"recipe", `DROP TRIGGER version_is_kept; UPDATE version SET schema = 99, source_text = 'zebra' WHERE id = (SELECT head FROM recipe WHERE id = 8)`, "/recipes/8/adapt"},
		{"household", `INSERT INTO household (id, rev, doc) VALUES (1, 1, '{"kitchen": "zebra"}') ON CONFLICT (id) DO UPDATE SET doc = excluded.doc`, "/"},
	} {
		t.Run(c.kind, func(t *testing.T) {
			s := newSite(t)
			db, err := sql.Open("sqlite", s.file)
			require.NoError(t, err)
			defer db.Close()
			_, err = db.ExecContext(t.Context(), c.spoil)
			require.NoError(t, err)
			code, body := s.get(c.page)
			listed := c.page == "/ovens" || c.page == "/plans" // others stand beside it
			assert.Equal(t, map[bool]int{true: 200, false: 503}[listed], code)
			assert.Contains(t, body, "cannot be read")
			assert.Contains(t, body, "zebra", "its text is there to be copied")
			way := regexp.MustCompile(`action="(/unreadable/` + c.kind + `/\d+)"`).FindStringSubmatch(body)
			require.NotNil(t, way)
			if c.kind != "household" {
				code, _ = s.get("/larder")
				assert.Equal(t, 200, code, "the rest works")
			}
			code, _, _ = s.post(way[1], nil)
			assert.Equal(t, 303, code)
			code, _ = s.get(c.page)
			if c.kind == "version" || c.kind == "recipe" {
				assert.Contains(t, []int{404, 503}, code, "it was put away")
			} else {
				assert.Equal(t, 200, code)
			}
			_, body = s.get("/away")
			assert.Equal(t, c.kind != "household", strings.Contains(body, "Put away"+"</h1>") && strings.Contains(body, "<form"), "and can be brought back")
			code, _, _ = s.post("/unreadable/zebra/1", nil)
			assert.Equal(t, 404, code)
		})
	}
}

// Whatever is damaged in the file, no page breaks by it: it stands without that, or says what cannot be read; and what judges nobody
// works although somebody cannot be read.
func TestNoDamagedRowBreaksAPage(t *testing.T) {
	pages := []string{
		"/", "/?suits=vegan", "/ovens", "/plans", "/plans/1", "/plans/1/shop", "/bakes", "/bakes/1", "/bakes/1/log", "/bakes/2/log", "/bakes/new?b=1:", "/recipes/1/adapt", "/recipes/1/heat",
		"/recipes/1/log", "/recipes/2/adapt", "/learned", "/tasting", "/photos/1", "/guest", "/table", "/table?menu=1", "/log.zip", "/shelf.zip", "/away", "/settings",
	}
	whole := newSite(t)
	require.NoError(t, demo.Season(t.Context(), whole.st))
	whole.post("/plans", url.Values{"plan": {"b=1%3A"}})
	for _, c := range []struct {
		spoil string
		named []string // pages that say what cannot be read
	}{
		{`DROP TRIGGER version_is_kept; UPDATE version SET reading = '[1]' WHERE id = (SELECT head FROM recipe WHERE id = 2)`, []string{"/recipes/2/adapt"}},
		{`UPDATE recipe SET head = NULL WHERE id = 2`, nil},
		{`UPDATE person SET doc = '[1]' WHERE id = 1`, []string{"/recipes/1/adapt", "/recipes/2/adapt", "/table", "/table?menu=1"}},
		{`UPDATE equipment SET doc = '[1]'`, nil},
		{`UPDATE plan SET doc = json_set(doc, '$.query', 'b=%zz')`, []string{"/plans/1", "/plans/1/shop"}},
		{`UPDATE plan SET updated_at = 'noon'`, nil},
		{`UPDATE bake SET doc = '{}' WHERE id = 1`, []string{"/bakes/1", "/bakes/1/log", "/photos/1"}},
		{`UPDATE bake SET begun_at = 'noon', over_at = 'noon' WHERE id = 1`, nil},
		{`UPDATE bake_log SET at = 'noon', helped = '[1]', seen = '{"a":1}'`, nil},
		{`UPDATE photo SET at = 'noon', width = 0, height = 0; INSERT INTO tasting (at, name, "right", tasters) VALUES ('noon', 'x', 1, 2)`, nil},
	} {
		t.Run(c.spoil, func(t *testing.T) {
			s := site{t: t, file: filepath.Join(t.TempDir(), "copy.db")}
			_, err := whole.st.Backup(t.Context(), s.file)
			require.NoError(t, err)
			s.st, err = store.Open(t.Context(), s.file)
			require.NoError(t, err)
			defer s.st.Close()
			s.h, err = web.New(s.st)
			require.NoError(t, err)
			db, err := sql.Open("sqlite", s.file)
			require.NoError(t, err)
			defer db.Close()
			_, err = db.ExecContext(t.Context(), c.spoil)
			require.NoError(t, err)
			for _, page := range pages {
				code, body := s.get(page)
				if slices.Contains(c.named, page) {
					assert.Equal(t, 503, code, page)
					assert.Contains(t, body, "cannot be read")
					continue
				}
				assert.Contains(t, []int{200, 404}, code, page)
			}
		})
	}
}

// A recipe that cannot be read is named where others are judged, never left out in silence.
func TestALostRecipeIsNamed(t *testing.T) {
	s := newSite(t)
	db, err := sql.Open("sqlite", s.file)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.ExecContext(t.Context(), `DROP TRIGGER version_is_kept; UPDATE version SET reading = '["zebra"]' WHERE id = (SELECT head FROM recipe WHERE id = 2);
		UPDATE recipe SET head = NULL WHERE id = 3; UPDATE person SET doc = '["moth"]' WHERE id = 1`)
	require.NoError(t, err)
	_, body := s.get("/?suits=vegan")
	for _, says := range []string{"zebra", "its text is not there", "moth", `action="/unreadable/recipe/2"`, `action="/unreadable/recipe/3"`, `action="/unreadable/person/1"`} {
		assert.Contains(t, body, says)
	}
	code, _ := s.get("/?suits=2")
	assert.Equal(t, 503, code, "nothing is judged for people while one cannot be read")
	_, _, _ = s.post("/unreadable/person/1", nil)
	_, body = s.get("/table")
	assert.Regexp(t, `<a href="/recipes/2/adapt">[^<]+</a> cannot be read, and is judged for nobody`, body)
	assert.Regexp(t, `<a href="/recipes/3/adapt">[^<]+</a> cannot be read, and is judged for nobody`, body)
}
