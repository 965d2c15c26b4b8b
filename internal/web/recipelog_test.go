package web_test

import (
	"archive/zip"
	"bytes"
	"html"
	"mime/multipart"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo"
	"kollaris/internal/store"
	"kollaris/internal/web"
)

// A recipe's log through time: what was found, what was done otherwise, pictures; bakes are laid side by side and
// found again by words, month and who baked them.
func TestTheLogThroughTime(t *testing.T) {
	s := newSite(t)
	require.NoError(t, demo.Season(t.Context(), s.st))
	page := func(path string) string {
		code, body := s.get(path)
		require.Equal(t, 200, code, path)
		return html.UnescapeString(body)
	}
	loaf := s.id("Pear and cardamom loaf")
	body := page(loaf + "/log")
	assert.Equal(t, 4, strings.Count(body, `name="pick"`))
	assert.Equal(t, 4, strings.Count(body, ".small.jpg"))
	assert.Equal(t, 2, strings.Count(body, "best so far"))
	assert.Contains(t, body, "4 bakes through time, from so-so to just so again")
	assert.Contains(t, body, "otherwise than before: 49 min in the oven, not 46 min")
	body = page("/log/beside?pick=1.0&pick=6.0")
	for _, words := range []string{"6.1 cm", "7.4 cm", "so-so", "just so again", "oat drink", "c-foretold"} {
		assert.Contains(t, body, words)
	}
	code, _ := s.get("/log/beside?pick=1.0&pick=999.0")
	assert.Equal(t, 404, code)
	code, body = s.get("/log/beside?pick=1.0&from=" + loaf + "/log")
	assert.Equal(t, 303, code, body)
	rows := func(query string) int { return strings.Count(page("/bakes"+query), `class="plans-name"`) }
	assert.Equal(t, 11, rows(""))
	assert.Equal(t, 4, rows("?q=pear"))
	assert.Equal(t, 2, rows("?q=LOAF+gummy"))
	assert.Equal(t, 4, rows("?who=bow"))
	month := rows("?month=" + time.Now().AddDate(0, 0, -84).Format("2006-01"))
	assert.Positive(t, month)
	assert.Less(t, month, 11)
	assert.Contains(t, page("/bakes?q=zebra"), "No bake is of that.")
}

// A bake that nobody followed is written down in half a minute; what cannot be says what would do and loses nothing.
func TestABakeIsWrittenDownAfterwards(t *testing.T) {
	s := newSite(t)
	scones := s.id("Cheddar-and-chive scones")
	on := time.Now().Add(-30 * time.Hour).Format("2006-01-02T15:04")
	code, _, to := s.post(scones+"/log", url.Values{"on": {on}, "minutes": {"14"}, "who": {"cox"}, "in": {"1"}})
	require.Equal(t, 303, code)
	require.True(t, strings.HasPrefix(to, "/bakes/"), to)
	_, body := s.get(to)
	assert.Contains(t, body, "out after 14 min")
	assert.Contains(t, body, "In the old gas oven.")
	log, err := s.st.Log(t.Context(), 0)
	require.NoError(t, err)
	require.Len(t, log, 1)
	assert.Equal(t, "cox", log[0].Who)
	assert.Equal(t, strings.TrimPrefix(scones, "/recipes/"), strconv.FormatInt(log[0].Recipe, 10))
	ovens, err := s.st.Ovens(t.Context())
	require.NoError(t, err)
	assert.Zero(t, ovens[0].Learned().Bakes, "by itself the clock says when somebody opened the oven")
	for name, typed := range map[string]string{"on": time.Now().Add(time.Hour).Format("2006-01-02T15:04"), "minutes": "a while"} {
		form := url.Values{"on": {on}, "minutes": {"14"}, "who": {"stroke"}}
		form.Set(name, typed)
		_, _, to := s.post(scones+"/log", form)
		to, _, _ = strings.Cut(to, "#")
		_, body := s.get(to)
		body = html.UnescapeString(body)
		assert.Contains(t, body, `role="alert">“`+typed+`” is not`)
		assert.Contains(t, body, `value="`+typed+`"`)
		assert.Contains(t, body, `name="who" size="10" maxlength="40" value="stroke"`)
	}
}

// The log is taken out as a zip and brought back, each bake once; what is none says so.
func TestTheLogAsAFile(t *testing.T) {
	to := newSite(t)
	require.NoError(t, demo.Season(t.Context(), to.st))
	code, file := to.get("/log.zip")
	require.Equal(t, 200, code)
	send := func(data string) string {
		var body bytes.Buffer
		w := multipart.NewWriter(&body)
		if data != "" {
			part, err := w.CreateFormFile("file", "log.zip")
			require.NoError(t, err)
			_, err = part.Write([]byte(data))
			require.NoError(t, err)
		}
		require.NoError(t, w.Close())
		r := httptest.NewRequest("POST", "/log", &body)
		r.Header.Set("Content-Type", w.FormDataContentType())
		code, _, h := to.do(r)
		require.Equal(t, 303, code)
		_, page := to.get(h.Get("Location"))
		return html.UnescapeString(page)
	}
	assert.Contains(t, send(file), "0 bakes are back. 11 were there already.")
	assert.Contains(t, send("PK"), "“log.zip”: it is no log that was taken out of Kollaris")
	assert.Contains(t, send(""), "No file was chosen")
}

// Everything is taken out, and back only where nothing is.
func TestEverythingAsAFile(t *testing.T) {
	s := newSite(t)
	code, zipped := s.get("/everything.zip")
	require.Equal(t, 200, code)
	z, err := zip.NewReader(strings.NewReader(zipped), int64(len(zipped)))
	require.NoError(t, err)
	names := map[string]bool{}
	for _, f := range z.File {
		names[f.Name] = true
	}
	for _, want := range []string{"kollaris.json", "data/recipe.json", "data/version.json", "data/person.json", "data/equipment.json", "recipes/pear-and-cardamom-loaf.json"} {
		assert.True(t, names[want], want)
	}
	bring := func(s site, data string) string {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		f, err := w.CreateFormFile("file", "mine.zip")
		require.NoError(t, err)
		_, err = f.Write([]byte(data))
		require.NoError(t, err)
		require.NoError(t, w.Close())
		r := httptest.NewRequest("POST", "/everything", &b)
		r.Header.Set("Content-Type", w.FormDataContentType())
		_, _, h := s.do(r)
		_, body := s.get(strings.TrimSuffix(h.Get("Location"), "#everything"))
		return body
	}
	assert.Contains(t, bring(s, zipped), "There is something here already")
	st, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "new.db"))
	require.NoError(t, err)
	t.Cleanup(func() { st.Close() })
	h, err := web.New(st)
	require.NoError(t, err)
	fresh := site{t, h, st, ""}
	assert.Contains(t, bring(fresh, "no zip"), "It is not a zip of everything")
	assert.Contains(t, bring(fresh, zipped), "Everything of “mine.zip” is back: 9 recipes")
	_, body := fresh.get("/")
	assert.Contains(t, body, "kept: egg-free, dairy-free")
	_, body = fresh.get("/people")
	assert.Contains(t, body, "<b>cox</b>")
}
