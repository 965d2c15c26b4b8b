package web_test

import (
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/web"
)

// Who has kept a page is told that it is the same, until anything was changed.
func TestAPageThatIsTheSame(t *testing.T) {
	s := newSite(t)
	ask := func(path, tag string) (int, string, string) {
		r := httptest.NewRequest("GET", path, nil)
		r.Header.Set("If-None-Match", tag)
		code, body, head := s.do(r)
		assert.Equal(t, "no-store", head.Get("Cache-Control"), "Back asks")
		return code, body, head.Get("ETag")
	}
	for _, path := range []string{"/", "/larder", "/recipes/8/adapt?diet=vegan"} {
		code, _, tag := ask(path, "")
		require.Equal(t, 200, code)
		require.Len(t, tag, 23, path)
		for range 2 { // remembered, and made anew by another
			code, body, again := ask(path, tag)
			assert.Equal(t, 304, code, path)
			assert.Empty(t, body)
			assert.Equal(t, tag, again)
			h, err := web.New(s.st)
			require.NoError(t, err)
			s.h = h
		}
		for _, has := range []string{"W/" + tag, `"x", ` + tag, `W/"x" , W/` + tag} { // as a proxy on the way has it
			code, _, _ = ask(path, has)
			assert.Equal(t, 304, code, has)
		}
		code, _, _ = ask(path, tag[:22]+"x")
		assert.Equal(t, 200, code, "another page")
	}
	_, _, tag := ask("/", "")
	s.post(s.id("Oat-ginger biscuits")+"/delete", nil)
	code, body, _ := ask("/", tag)
	assert.Equal(t, 200, code)
	assert.NotContains(t, body, "Oat-ginger")
	_, _, tag = ask("/bakes", "")
	assert.Empty(t, tag, "it follows from the clock")
}
