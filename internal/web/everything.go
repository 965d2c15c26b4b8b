package web

import (
	"archive/zip"
	"errors"
	"fmt"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	"kollaris/core/phrase"
	"kollaris/internal/store"
)

// everythingZip gives all that the household has as one file, recipes in an open format beside it. It is written as it is
// sent: what breaks on the way breaks the file, which then does not open.
func (s *Server) everythingZip(c *gin.Context) error {
	c.Header("Content-Disposition", `attachment; filename="kollaris-everything.zip"`)
	c.Header("Content-Type", "application/zip")
	c.Status(http.StatusOK)
	patient(c)
	return s.store.Everything(c.Request.Context(), c.Writer, func(z *zip.Writer) error { return s.shelfFiles(c, z, "recipes/") })
}

// bringEverything brings such a file into an empty program.
func (s *Server) bringEverything(c *gin.Context) error {
	say := func(words string, bad bool) error {
		q := url.Values{"say": {words}}
		if bad {
			q.Set("bad", "1")
		}
		c.Redirect(http.StatusSeeOther, "/settings?"+q.Encode()+"#everything")
		return nil
	}
	head, err := c.FormFile("file")
	if err != nil {
		return say("No file was chosen: choose the zip of everything.", true)
	}
	f, err := head.Open()
	if err != nil {
		return err
	}
	defer f.Close()
	n, err := s.store.BringEverything(c.Request.Context(), f, head.Size)
	name := "“" + phrase.Clip(head.Filename, 40) + "”"
	switch {
	case errors.Is(err, store.ErrNotEmpty):
		return say("There is something here already, and everything comes back only into an empty program. Its recipes alone can be brought in on New recipe, its bakes on Bakes.", true)
	case errors.Is(err, store.ErrNotEverything), errors.Is(err, store.ErrNotWhole), errors.Is(err, store.ErrNewer):
		return say(name+": "+phrase.Sentence(err.Error()), true)
	case err != nil:
		return err
	}
	s.forgotten()
	return say(fmt.Sprintf("Everything of %s is back: %s, and all that belongs to them.", name, plural(n, "recipe")), false)
}
