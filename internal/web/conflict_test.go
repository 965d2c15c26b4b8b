package web_test

import (
	"database/sql"
	"fmt"
	"maps"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/recipes"
	"kollaris/internal/photo"
	"kollaris/internal/store"
)

// A draft that was kept leads to its recipe, whatever is pressed and however often; a change of it is a correction.
func TestAKeptDraftIsItsRecipe(t *testing.T) {
	s := newSite(t)
	_, _, draft := s.post("/recipes", url.Values{"text": {recipes.Text("1-pear-cardamom-loaf.txt")}})
	code, _, at := s.post(draft, url.Values{"do": {"keep"}})
	require.Equal(t, 303, code)
	code, _, again := s.post(draft, url.Values{"do": {"facts"}, "then": {"keep"}, "rev": {"1"}})
	assert.Equal(t, 303, code)
	assert.Equal(t, at, again)
	code, _, h := s.do(httptest.NewRequest("GET", draft, nil))
	assert.Equal(t, 303, code)
	assert.Equal(t, strings.Replace(at, "adapt", "read", 1), h.Get("Location"))
	code, body, _ := s.post(draft, url.Values{"do": {"facts"}, "rev": {"1"}, "title": {"Pear loaf, ours"}})
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "Keep the correction")
	assert.Contains(t, body, "Pear loaf, ours")
}

// A text that is too much for a draft is said to be, and the draft stays as it was.
func TestTooMuchForADraft(t *testing.T) {
	s := newSite(t)
	_, _, draft := s.post("/recipes", url.Values{"text": {"Squares\n200 g flour\n2 eggs"}})
	code, body, _ := s.post(draft, url.Values{"do": {"text"}, "rev": {"1"}, "text": {strings.Repeat("200 g flour\n", 60000)}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "more text than can be taken")
	assert.Contains(t, body, "200 g flour", "what was there before")
}

// form is what a form on a page sends of itself: the one of an address that has boxes of these names, and a rev.
func (s site) form(page, action string, boxes url.Values) url.Values {
	_, body := s.get(page)
	doc, err := goquery.NewDocumentFromReader(strings.NewReader(body))
	require.NoError(s.t, err)
	var out url.Values
	doc.Find("form[action='" + action + "']").Each(func(_ int, f *goquery.Selection) {
		hidden := url.Values{}
		f.Find("input[type=hidden]").Each(func(_ int, h *goquery.Selection) { hidden.Add(h.AttrOr("name", ""), h.AttrOr("value", "")) })
		for name := range boxes {
			if f.Find("[name='"+name+"']").Length() == 0 {
				return
			}
		}
		if do := boxes.Get("do"); hidden.Has("rev") && (!hidden.Has("do") || hidden.Get("do") == do) {
			out = hidden
		}
	})
	require.NotNil(s.t, out, "%s on %s", action, page)
	return out
}

// Whatever two windows change: the second is shown both, and may keep its own. What was refused meanwhile changes nothing of that.
func TestTwoWindows(t *testing.T) {
	s := newSite(t)
	ovens, err := s.st.Ovens(t.Context())
	require.NoError(t, err)
	oven := fmt.Sprintf("/ovens/%d", ovens[0].ID)
	tins, err := s.st.OwnTins(t.Context())
	require.NoError(t, err)
	tin := fmt.Sprintf("/tins/%d", tins[0].ID)
	_, _, draft := s.post("/recipes", url.Values{"text": {"200 g flour\n100 g sugar\n2 eggs"}})
	_, _, version := s.post(s.id("Pear and cardamom loaf")+"/versions", url.Values{"diet": {"egg-free"}})
	_, _, plan := s.post("/plans", url.Values{"plan": {"b=" + url.QueryEscape(s.id("Cheddar-and-chive scones")[len("/recipes/"):]+":")}, "name": {"Saturday"}})
	both := s.begin(s.id("Cheddar-and-chive scones")[len("/recipes/"):] + ":")
	bake, err := strconv.ParseInt(both[len("/bakes/"):], 10, 64)
	require.NoError(t, err)
	shot, err := s.st.AddPhoto(t.Context(), store.Photo{Bake: bake, Photo: photo.Photo{Width: 4, Height: 3, Large: []byte("large"), Small: []byte("small")}})
	require.NoError(t, err)
	picture := fmt.Sprintf("/photos/%d", shot)
	for _, c := range []struct {
		page, at          string
		first, mine, fail url.Values // fail is refused for what is typed, nil where nothing is
		words             string
	}{
		{"/ovens", oven, url.Values{"name": {"gas oven"}, "width": {"44"}}, url.Values{"name": {"river oven"}, "width": {"43"}}, url.Values{"name": {"river oven"}, "width": {"wide"}}, "Called"},
		{"/ovens", tin, url.Values{"name": {"ring"}, "length": {"23"}, "shape": {"round"}}, url.Values{"name": {"dented one"}, "length": {"22"}, "shape": {"square"}}, url.Values{"name": {"ring"}, "length": {"long"}}, "Called"},
		{"/people", "/people/1", url.Values{"name": {"bow"}}, url.Values{"name": {"bow side"}}, url.Values{"name": {"bow"}, "bans": {"moon du5t"}}, "Who"},
		{draft, draft, url.Values{"do": {"facts"}, "title": {"Squares"}}, url.Values{"do": {"facts"}, "title": {"Small squares"}}, nil, "Name"},
		{draft, draft, url.Values{"do": {"text"}, "text": {"210 g flour\n100 g sugar\n2 eggs"}}, url.Values{"do": {"text"}, "text": {"220 g flour\n100 g sugar\n2 eggs"}}, nil, "Your text"},
		{"/larder/i/honey", "/larder/i/honey", url.Values{"weight": {"52"}}, url.Values{"weight": {"55"}}, url.Values{"weight": {"much"}}, ""},
		{"/settings", "/settings/day", url.Values{"from": {"07:00"}, "to": {"21:00"}}, url.Values{"from": {"08:00"}, "to": {"22:00"}}, url.Values{"from": {"dawn"}}, "Hands work from"},
		{"/settings", "/backups/keep", url.Values{"daily": {"5"}, "weekly": {"6"}}, url.Values{"daily": {"9"}, "weekly": {"10"}}, nil, "Keep those of the last"},
		{"/ovens", "/kitchen", url.Values{"altitude": {"1200"}}, url.Values{"altitude": {"1600"}}, url.Values{"altitude": {"high"}}, "It is at"},
		{"/ovens", "/devices", url.Values{"scale": {"127.0.0.1:7411"}}, url.Values{"scale": {"127.0.0.1:7412"}}, url.Values{"scale": {"kitchen"}}, "Scale at"},
		{version, version, url.Values{"name": {"Loaf for stroke"}, "note": {"five minutes longer"}}, url.Values{"name": {"Loaf for cox"}, "note": {"a wider tin"}}, nil, "Called"},
		{plan, plan, url.Values{"do": {"rename"}, "name": {"Sunday"}}, url.Values{"do": {"rename"}, "name": {"Monday"}}, nil, "Name"},
		{picture, picture, url.Values{"do": {"words"}, "words": {"the crumb"}}, url.Values{"do": {"words"}, "words": {"the crust"}}, nil, "What is on it"},
		{both + "/log?bake=1", both + "/log", url.Values{"words": {"too dark"}, "height": {"4"}}, url.Values{"words": {"not done"}, "height": {"5"}}, url.Values{"words": {"not done"}, "height": {"tall"}}, "In your words"},
	} {
		sent := s.form(c.page, c.at, c.mine)
		with := func(typed url.Values) url.Values {
			out := maps.Clone(sent)
			maps.Copy(out, typed)
			return out
		}
		code, body, _ := s.post(c.at, with(c.first))
		require.Contains(t, []int{200, 303}, code, c.at+body)
		if c.fail != nil {
			code, body, _ = s.post(c.at, with(c.fail))
			require.Equal(t, 422, code, c.at)
			require.Contains(t, body, `name="rev" value="`+sent.Get("rev")+`"`, "%s: the refused form has the rev it saw", c.at)
			for name := range c.fail {
				assert.Contains(t, body, c.fail.Get(name), c.at)
			}
		}
		code, body, _ = s.post(c.at, with(c.mine))
		require.Equal(t, 409, code, c.at)
		assert.Contains(t, body, `<th scope="row">`+c.words, c.at)
		for name := range c.mine {
			if name != "do" {
				line := strings.NewReplacer("\n", " ")
				assert.Contains(t, body, `<td><pre class="source">`+line.Replace(c.mine.Get(name)), c.at)
				assert.Contains(t, body, `<td><pre class="source">`+line.Replace(c.first.Get(name)), c.at)
				assert.Contains(t, body, `<input type="hidden" name="`+name+`" value="`+line.Replace(c.mine.Get(name)), c.at)
			}
		}
		rev := regexp.MustCompile(`name="rev" value="(\d+)"`).FindStringSubmatch(body)
		require.NotNil(t, rev, c.at)
		sent.Set("rev", rev[1])
		code, _, _ = s.post(c.at, with(c.mine))
		assert.Contains(t, []int{200, 303}, code, c.at)
	}
}

// Two corrections of a recipe at once: the second sees both texts.
func TestTwoCorrections(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, _, one := s.post(pear+"/correct", nil)
	_, _, two := s.post(pear+"/correct", nil)
	text := recipes.Text("1-pear-cardamom-loaf.txt")
	s.post(one, url.Values{"do": {"text"}, "text": {strings.Replace(text, "2 large eggs", "3 large eggs", 1)}})
	s.post(two, url.Values{"do": {"text"}, "text": {strings.Replace(text, "2 large eggs", "4 large eggs", 1)}})
	code, _, _ := s.post(one, url.Values{"do": {"keep"}})
	require.Equal(t, 303, code)
	code, body, _ := s.post(two, url.Values{"do": {"keep"}})
	require.Equal(t, 409, code)
	assert.Regexp(t, `(?s)Your text.*4 large eggs.*3 large eggs.*What was understood.*200 g egg.*150 g egg`, body)
	code, _, at := s.post(two, url.Values{"do": {"keep"}, "over": {"1"}})
	require.Equal(t, 303, code)
	_, body = s.get(strings.Replace(at, "adapt", "read", 1))
	assert.Contains(t, body, "4 large eggs")
}

// A button that is pressed twice makes one thing, and tells of no other window.
func TestPressedTwice(t *testing.T) {
	s := newSite(t)
	scones := s.id("Cheddar-and-chive scones")
	b := scones[len("/recipes/"):] + ":"
	oven := s.form("/ovens", "/ovens/1", url.Values{"name": nil})
	oven.Set("name", "river oven")
	forms := []struct {
		at   string
		form url.Values
	}{
		{"/recipes", url.Values{"text": {"Squares\n200 g flour\n2 eggs"}}},
		{scones + "/duplicate", url.Values{}},
		{scones + "/versions", url.Values{"diet": {"egg-free"}}},
		{scones + "/log", url.Values{"on": {"2026-11-20T10:00"}, "minutes": {"14"}, "overall": {"3"}}},
		{"/people", url.Values{"name": {"bow"}, "strict": {"choice"}}},
		{"/ovens", url.Values{"name": {"loft oven"}}},
		{"/ovens/1", oven},
		{"/ovens/1", url.Values{"do": {"reading"}, "dial": {"180"}, "air": {"190"}}},
		{"/tins", url.Values{"name": {"ring"}, "shape": {"ring"}, "length": {"24"}}},
		{"/plans", url.Values{"plan": {"b=" + url.QueryEscape(b)}}},
		{"/bakes", url.Values{"b": {b}}},
		{"/larder/new", url.Values{"name": {"river salt"}, "like": {"salt"}}},
	}
	count := func() (n int) {
		for _, table := range []string{"draft", "version", "person", "equipment", "plan", "bake", "own_ingredient"} {
			db, err := sql.Open("sqlite", "file:"+(&url.URL{Path: s.file}).EscapedPath())
			require.NoError(t, err)
			var rows int
			require.NoError(t, db.QueryRowContext(t.Context(), "SELECT count(*) FROM "+table).Scan(&rows))
			require.NoError(t, db.Close())
			n += rows
		}
		ovens, err := s.st.Ovens(t.Context())
		require.NoError(t, err)
		return n + len(ovens[0].Readings)
	}
	before := count()
	for _, f := range forms {
		to := make([]string, 6)
		send := func(n int) {
			code, body, head := s.do(pressed(f.at, f.form))
			assert.Equal(t, 303, code, f.at+body)
			to[n] = head.Get("Location")
		}
		var all sync.WaitGroup
		for n := range to[1:] { // while the first is worked on
			all.Go(func() { send(n) })
		}
		all.Wait()
		send(len(to) - 1) // and right after
		for _, x := range to {
			assert.Equal(t, to[0], x, f.at)
		}
	}
	assert.Equal(t, before+len(forms)-1, count(), "each made one thing, and one changed one")
	s.post("/people", url.Values{"name": {"bow"}, "strict": {"choice"}})
	assert.Equal(t, before+len(forms), count(), "another browser's is another's")
	for range 2 {
		code, _, _ := s.do(pressed("/people", url.Values{"name": {""}}))
		assert.Equal(t, 422, code, "what was refused is read again")
	}
}
