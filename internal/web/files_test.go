package web_test

import (
	"bytes"
	"fmt"
	"io"
	"maps"
	"mime/multipart"
	"net/http/httptest"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/reader"
	"kollaris/format"
)

// upload sends files as a browser does.
func (s site) upload(path string, files map[string]string) (code int, body, to string) {
	var b bytes.Buffer
	m := multipart.NewWriter(&b)
	for _, name := range slices.Sorted(maps.Keys(files)) {
		if name == "brought" { // a field
			require.NoError(s.t, m.WriteField(name, files[name]))
			continue
		}
		w, err := m.CreateFormFile("files", name)
		require.NoError(s.t, err)
		_, err = io.WriteString(w, files[name])
		require.NoError(s.t, err)
	}
	require.NoError(s.t, m.Close())
	r := httptest.NewRequest("POST", path, &b)
	r.Header.Set("Content-Type", m.FormDataContentType())
	code, body, h := s.do(r)
	return code, body, h.Get("Location")
}

func TestFilesAreBroughtInOneByOne(t *testing.T) {
	s := newSite(t)
	code, body, _ := s.upload("/recipes/import", nil)
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "No file was chosen")

	code, _, at := s.upload("/recipes/import", map[string]string{
		"a.json": `{"@type":"Recipe","name":"Oat squares","recipeYield":"12 squares","recipeIngredient":["200 g rolled oats","100 g butter","80 g honey"]}`,
		"b.txt":  "Seed loaf\nIngredients\n300 g plain flour\n2 tbsp blorf",
		"c.json": `{"name":`,
		"d.md":   "# Carrot-hazelnut ring cake\n\n## Ingredients\n- 200 g plain flour",
	})
	require.Equal(t, 303, code)
	body = s.waitBrought(at)
	assert.Contains(t, body, "3 recipes found. 1 file could not be read.")
	assert.Contains(t, body, "This is not whole JSON")
	assert.Contains(t, body, "1 of 2 lines understood. 1 to settle.")
	assert.Contains(t, body, "already has one of this name")
	assert.Contains(t, body, "Put 1 on the shelf")
	_, body = s.get("/")
	assert.Contains(t, body, `Begun and not kept: <a href="`+at+`">3 recipes from files`, "all of them as one")
	for range 2 { // pressed twice
		code, _, loc := s.post(at+"/keep", nil)
		assert.Equal(t, 303, code)
		assert.Equal(t, "/", loc)
	}
	_, body = s.get("/")
	assert.Equal(t, 1, strings.Count(body, ">Oat squares</a>"))
	assert.NotRegexp(t, `shelf-name[^>]*>Seed loaf`, body)
	assert.Contains(t, body, "2 recipes from files", "what is not settled stays in view")
	_, body = s.get(at)
	assert.Contains(t, body, "1 on the shelf.")

	// all of it goes away in one step, and comes back so; what was worked on since stays
	oats := s.id("Oat squares")
	s.post(at+"/undo", nil)
	_, body = s.get(at)
	assert.Contains(t, body, "3 recipes put away.")
	_, body = s.get("/")
	assert.NotContains(t, body, "Oat squares")
	assert.NotContains(t, body, "from files")
	s.post(at+"/back", nil)
	_, body = s.get("/")
	assert.Contains(t, body, "Oat squares")
	assert.Contains(t, body, "2 recipes from files")
	s.post(oats+"/versions", url.Values{"diet": {"dairy-free"}})
	_, _, loc := s.post(at+"/undo", nil)
	_, body = s.get(loc)
	assert.Contains(t, body, "1 recipe found. 1 file could not be read. 1 on the shelf. 2 put away.")
	assert.Contains(t, body, "1 recipe stayed on the shelf")
	for _, path := range []string{"/brought/999", "/brought/x"} {
		code, _ := s.get(path)
		assert.Equal(t, 404, code)
	}
	for _, do := range []string{"stop", "keep", "undo", "back"} {
		code, _, _ := s.post("/brought/999/"+do, nil)
		assert.Equal(t, 404, code, do)
	}
	code, _, _ = s.post(at+"/burn", nil)
	assert.Equal(t, 404, code)
}

// More files go with those before them; what is stopped leaves what was read.
func TestFilesAreReadBesideThePages(t *testing.T) {
	s := newSite(t)
	var many strings.Builder
	for n := range 60 {
		fmt.Fprintf(&many, `{"@type":"Recipe","name":"Loaf %d","recipeIngredient":["%d g plain flour","200 ml water","5 g salt"]},`, n, 300+n)
	}
	code, _, at := s.upload("/recipes/import", map[string]string{"many.json": "[" + strings.TrimSuffix(many.String(), ",") + "]"})
	require.Equal(t, 303, code)
	_, body := s.get(at)
	assert.Regexp(t, `Reading: \d+ of \d+\.`, body)
	assert.Contains(t, body, `http-equiv="refresh"`, "without scripts it looks again")
	code, _, same := s.upload("/recipes/import", map[string]string{"one.txt": "Seed loaf\nIngredients\n300 g plain flour", "brought": strings.TrimPrefix(at, "/brought/")})
	require.Equal(t, 303, code)
	assert.Equal(t, at, same)
	assert.Contains(t, s.waitBrought(at), "61 recipes found.")
	_, body = s.get("/")
	assert.Contains(t, body, "61 recipes from files")

	_, _, to := s.post(at+"/keep", nil)
	require.Equal(t, at, to, "many are put there beside the pages too")
	require.Contains(t, s.waitBrought(at), "61 recipes found. 61 on the shelf.")

	_, _, other := s.upload("/recipes/import", map[string]string{"many.json": "[" + strings.TrimSuffix(many.String(), ",") + "]"})
	require.NotEqual(t, at, other)
	s.post(other+"/stop", nil)
	body = s.waitBrought(other)
	assert.Regexp(t, `\d+ recipes? found\. \d+ not read: it was stopped\.|not looked into: it was stopped`, body)
}

// waitBrought is the page of what was brought once all of it is read.
func (s site) waitBrought(at string) (body string) {
	require.Eventually(s.t, func() bool {
		_, body = s.get(at)
		return !strings.Contains(body, "data-running")
	}, 20*time.Second, 20*time.Millisecond)
	return body
}

func TestTheWholeShelfComesBackFromItsZip(t *testing.T) {
	s := newSite(t)
	code, zip := s.get("/shelf.zip")
	require.Equal(t, 200, code)
	all, err := s.st.Recipes(t.Context(), "")
	require.NoError(t, err)
	kept := 0
	for _, r := range all {
		vs, err := s.st.Versions(t.Context(), r.ID)
		require.NoError(t, err)
		kept += len(vs)
	}
	found := format.Recipes("shelf.zip", []byte(zip))
	require.Len(t, found, len(all)+kept)
	titles := map[string]int{}
	for _, f := range found {
		require.Empty(t, f.Fault)
		rd, err := reader.Read(f.Text, reader.Options{})
		require.NoError(t, err)
		assert.Empty(t, rd.Recipe.Unknown(), f.Title)
		titles[f.Title] = len(rd.Recipe.Lines)
	}
	for _, r := range all {
		assert.Equal(t, len(r.Doc.Lines), titles[r.Title], r.Title)
	}
}

func TestAVersionIsGivenInOpenForms(t *testing.T) {
	s := newSite(t)
	all, err := s.st.Recipes(t.Context(), "pear")
	require.NoError(t, err)
	kept, err := s.st.Versions(t.Context(), all[0].ID)
	require.NoError(t, err)
	at := fmt.Sprintf("/versions/%d/file/", kept[0].ID)
	for form, want := range map[string]string{"md": "# Pear", "txt": "flax", "csv": "section,amount,unit,ingredient,note,grams", "json": `"@type": "Recipe"`} {
		code, body := s.get(at + form)
		assert.Equal(t, 200, code, form)
		assert.Contains(t, body, want, form)
	}
	for _, form := range []string{"md", "txt", "json"} {
		_, body := s.get(at + form)
		assert.Contains(t, body, "Still holds: gluten cereals, oats (gluten), wheat. New: oats (gluten). Gone: egg, milk.", form)
	}
	_, body := s.get(at + "md")
	for _, ca := range kept[0].Result.Cautions {
		assert.Contains(t, body, ca.Text, "cautions go with it")
	}
	code, _ := s.get(at + "exe")
	assert.Equal(t, 404, code)
}
