package web_test

import (
	"bytes"
	"fmt"
	"io"
	"maps"
	"mime/multipart"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/reader"
	"kollaris/format"
)

// upload sends files as a browser does.
func (s site) upload(path string, files map[string]string) (int, string) {
	var b bytes.Buffer
	m := multipart.NewWriter(&b)
	for _, name := range slices.Sorted(maps.Keys(files)) {
		w, err := m.CreateFormFile("files", name)
		require.NoError(s.t, err)
		_, err = io.WriteString(w, files[name])
		require.NoError(s.t, err)
	}
	require.NoError(s.t, m.Close())
	r := httptest.NewRequest("POST", path, &b)
	r.Header.Set("Content-Type", m.FormDataContentType())
	code, body, _ := s.do(r)
	return code, body
}

func TestFilesAreBroughtInOneByOne(t *testing.T) {
	s := newSite(t)
	code, body := s.upload("/recipes/import", nil)
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "No file was chosen")

	code, body = s.upload("/recipes/import", map[string]string{
		"a.json": `{"@type":"Recipe","name":"Oat squares","recipeYield":"12 squares","recipeIngredient":["200 g rolled oats","100 g butter","80 g honey"]}`,
		"b.txt":  "Seed loaf\nIngredients\n300 g plain flour\n2 tbsp blorf",
		"c.json": `{"name":`,
		"d.md":   "# Carrot-hazelnut ring cake\n\n## Ingredients\n- 200 g plain flour",
	})
	require.Equal(t, 200, code)
	assert.Contains(t, body, "3 recipes found. 1 file could not be read.")
	assert.Contains(t, body, "This is not whole JSON")
	assert.Contains(t, body, "1 of 2 lines understood. 1 to settle.")
	assert.Contains(t, body, "already has one of this name")
	assert.Contains(t, body, "Put 1 on the shelf")
	draft := regexp.MustCompile(`name="draft" value="(\d+)"`).FindStringSubmatch(body)[1]
	for range 2 { // pressed twice
		code, _, loc := s.post("/recipes/keep", url.Values{"draft": {draft}})
		assert.Equal(t, 303, code)
		assert.Equal(t, "/", loc)
	}
	_, body = s.get("/")
	assert.Equal(t, 1, strings.Count(body, ">Oat squares</a>"))
	assert.NotRegexp(t, `shelf-name[^>]*>Seed loaf`, body)
	assert.Regexp(t, `Begun and not kept: .*<a href="/drafts/\d+">Seed loaf`, body, "what is not settled stays in view")
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
		assert.Contains(t, body, "Still holds: gluten cereals, wheat. New: none that the law names. Gone: egg, milk.", form)
	}
	_, body := s.get(at + "md")
	for _, ca := range kept[0].Result.Cautions {
		assert.Contains(t, body, ca.Text, "cautions go with it")
	}
	code, _ := s.get(at + "exe")
	assert.Equal(t, 404, code)
}
