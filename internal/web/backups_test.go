package web_test

import (
	"errors"
	"net/url"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/web"
)

// A copy is taken, read through, carried away and brought back, and what was worked out since is forgotten.
func TestBackupsInSettings(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, written := s.get(pear + "/adapt?diet=vegan")
	_, _, loc := s.post("/backups", nil)
	assert.Contains(t, loc, "was+taken+and+read+through")
	_, body := s.get(loc)
	name := regexp.MustCompile(`/backups/(kollaris-[\dT-]+\.db)`).FindStringSubmatch(body)
	require.NotNil(t, name)
	_, _, loc = s.post("/backups/"+name[1], url.Values{"act": {"check"}})
	assert.Contains(t, loc, "is+whole")
	code, file := s.get("/backups/" + name[1])
	assert.Equal(t, 200, code)
	assert.True(t, strings.HasPrefix(file, "SQLite format 3\x00"))
	for _, bad := range []string{"k.db", "..%2fk.db", "kollaris-2001-01-01.db"} {
		code, _ := s.get("/backups/" + bad)
		assert.Equal(t, 404, code, bad)
		code, _, _ = s.post("/backups/"+bad, url.Values{"act": {"back"}})
		assert.Equal(t, 404, code, bad)
	}

	_, _, _ = s.post(pear+"/delete", nil)
	_, _, _ = s.post("/larder/i/butter", url.Values{"act": {"price"}})
	_, body = s.get("/")
	assert.NotContains(t, body, `href="`+pear+`/adapt"`)
	_, _, loc = s.post("/backups/"+name[1], url.Values{"act": {"back"}})
	assert.Contains(t, loc, "is+back%3A+9+recipes")
	assert.Contains(t, loc, ".replaced-")
	_, again := s.get(pear + "/adapt?diet=vegan")
	assert.Equal(t, written, again, "as it was")

	_, _, loc = s.post("/backups/keep", url.Values{"daily": {"0"}, "weekly": {"8"}})
	assert.Contains(t, loc, "nothing+was+changed")
	_, body = s.get("/settings")
	rev := regexp.MustCompile(`action="/backups/keep"><input type="hidden" name="rev" value="(\d+)"`).FindStringSubmatch(body)
	require.NotNil(t, rev)
	_, _, loc = s.post("/backups/keep", url.Values{"daily": {"3"}, "weekly": {"2"}, "rev": {rev[1]}})
	assert.Contains(t, loc, "last+3+days+and+2+weeks")
	_, body = s.get("/settings")
	assert.Contains(t, body, `name="weekly" inputmode="numeric" size="3" value="2"`)
}

// The folder of the file is opened only where the program has a window.
func TestWhoIsShownTheFile(t *testing.T) {
	s := newSite(t)
	code, _, _ := s.post("/file", nil)
	assert.Equal(t, 404, code, "a server without a window")
	var shown []string
	s.h.(*web.App).CanShow(func(file string) error {
		shown = append(shown, file)
		return nil
	})
	code, _, _ = s.post("/file", nil)
	assert.Equal(t, 303, code)
	assert.Equal(t, []string{s.file}, shown)
	s.h.(*web.App).CanShow(func(string) error { return errors.New("no window") })
	_, _, to := s.post("/file", nil)
	_, body := s.get(to)
	assert.Contains(t, body, "No window of files could be opened. The file is "+s.file)
}

// Where the folder of the copies cannot be used Settings say so, and work.
func TestTheFolderOfTheCopiesIsAFile(t *testing.T) {
	s := newSite(t)
	require.NoError(t, os.WriteFile(s.st.CopyDir(), nil, 0o600))
	code, body := s.get("/settings")
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "The folder of the copies cannot be read")
	assert.Contains(t, body, "How you measure")
	code, _, to := s.post("/backups", nil)
	assert.Equal(t, 303, code)
	assert.Contains(t, to, "No+copy+was+taken")
	assert.Contains(t, to, url.QueryEscape(s.st.CopyDir()), "its path as it is")
}
